using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Projects;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>Projects that a course writes itself: kept, changed, copied to another course, taken away. What is open keeps its own copy.</summary>
public sealed class ProjectPlanActions(HarborContext db, IClock clock)
{
    public const int MostKept = 40;

    /// <summary>Keeps a plan as a new one, or in place of <paramref name="kept"/>.</summary>
    /// <exception cref="InputException">It isn't whole, its name is taken, or the course keeps as many as it may.</exception>
    public async Task<ProjectPlan> Keep(Course course, ProjectPlan? kept, ProjectTemplate plan, string by)
    {
        plan = TemplateCheck.Checked(plan with { Name = Names.Checked(plan.Name, "name", TemplateCheck.LongestName) });
        var others = db.ProjectPlans.Where(p => p.CourseId == course.Id && (kept == null || p.Id != kept.Id));
        if (await others.AnyAsync(p => p.Name == plan.Name))
            throw new InputException($"the course has a project named {plan.Name} already", "name", "another name");
        if (kept is null)
        {
            if (await others.CountAsync() >= MostKept)
                throw new InputException($"the course keeps {MostKept} projects of its own", "name", "one of them taken away first");
            db.ProjectPlans.Add(kept = new() { CourseId = course.Id });
        }
        (kept.Name, kept.Plan, kept.By, kept.At) = (plan.Name, plan, by, clock.GetCurrentInstant());
        await db.SaveChangesAsync();
        return kept;
    }

    /// <summary>Takes a copy to another course; with a number after its name where that is taken there.</summary>
    public async Task<ProjectPlan> Copy(ProjectTemplate plan, Course to, string by)
    {
        var taken = await db.ProjectPlans.Where(p => p.CourseId == to.Id).Select(p => p.Name).ToListAsync();
        var name = plan.Name;
        for (var n = 2; taken.Contains(name); n++)
            name = $"{plan.Name[..Math.Min(plan.Name.Length, TemplateCheck.LongestName - 4)]} {n}";
        return await Keep(to, null, plan with { Name = name }, by);
    }

    public async Task Remove(ProjectPlan plan)
    {
        db.ProjectPlans.Remove(plan);
        await db.SaveChangesAsync();
    }
}
