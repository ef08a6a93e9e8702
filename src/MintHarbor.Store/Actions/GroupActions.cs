using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Projects;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>Who draws a project together: one way and one set of levels, whoever of them hands a sheet in.</summary>
public sealed class GroupActions(HarborContext db)
{
    public const int MostGroups = 30;

    /// <summary>Puts students together; what one of them has done or been given becomes everybody's.</summary>
    public async Task Make(Project project, string? name, IReadOnlyCollection<int> students)
    {
        if (project.Groups.Count >= MostGroups)
            throw new InputException($"{MostGroups} groups are made", "name", "a project with fewer");
        var group = new WorkGroup((name ?? "").Trim(), 100, [.. students.Distinct().Select(s => new GroupMember(s, "", []))]);
        var works = await Works(project);
        Keep(project, [.. project.Groups, group], works);
        var theirs = works.Where(w => students.Contains(w.StudentId)).ToList();
        if (theirs.FirstOrDefault(w => w.ReleasedAt is not null) is { } out1)
            throw new InputException($"the grade of {out1.Student.Name} is released", "members", "students whose grades are not released");
        var begun = theirs.Where(w => w.Levels.Count > 0 || w.Graders is not null).ToList();
        if (begun.Count > 1)
            throw new InputException(
                $"{Say.List([.. begun.Select(w => w.Student.Name)])} have levels of their own",
                "members",
                "one at most who is graded already"
            );
        await Follow(begun.FirstOrDefault() ?? theirs.MaxBy(w => w.StagesDone.Count)!, theirs);
    }

    /// <summary>What is everybody's of a group's grade, and what each role answers for.</summary>
    public async Task Share(Project project, string? name, int common, IReadOnlyList<GroupMember> roles)
    {
        var works = await Works(project);
        var was = Named(project, name);
        if (works.FirstOrDefault(w => was.Of(w.StudentId) is not null && w.ReleasedAt is not null) is { } shown)
            throw new InputException($"the grade of {shown.Student.Name} is released", "common", "grades that are not released");
        var now = was with
        {
            Common = common,
            Members = [.. was.Members.Select(m => roles.FirstOrDefault(r => r.Student == m.Student) ?? m)],
        };
        Keep(project, [.. project.Groups.Select(g => g == was ? now : g)], works);
        await db.SaveChangesAsync();
    }

    /// <summary>Each goes on alone, with what the group had.</summary>
    public async Task Part(Project project, string? name)
    {
        var works = await Works(project);
        var was = Named(project, name);
        if (works.FirstOrDefault(w => was.Of(w.StudentId) is not null && w.ReleasedAt is not null) is { } shown)
            throw new InputException($"the grade of {shown.Student.Name} is released", "name", "grades that are not released");
        project.Groups = [.. project.Groups.Where(g => g != was)];
        await db.SaveChangesAsync();
    }

    private static WorkGroup Named(Project project, string? name) =>
        project.Groups.FirstOrDefault(g => g.Name == name)
        ?? throw new InputException($"no group '{name}'", "name", "a group of this project");

    private Task<List<ProjectWork>> Works(Project project) =>
        db.ProjectWorks.Include(w => w.Student).Where(w => w.ProjectId == project.Id).OrderBy(w => w.Id).ToListAsync();

    private static void Keep(Project project, IReadOnlyList<WorkGroup> groups, IReadOnlyList<ProjectWork> works) =>
        project.Groups = [.. WorkGroup.Checked(groups, project.Shape.Rubric, [.. works.Select(w => w.StudentId)])];

    /// <summary>Gives the rest of its group what a work has now: gates, stages, levels, the hand-in. What each is told alone (their own end,
    /// excuse, comment, release) stays theirs.</summary>
    public async Task Follow(ProjectWork work)
    {
        if (work.Group is not { } group)
            return;
        var others = group.Members.Select(m => m.Student).ToList();
        var theirs = await db.ProjectWorks.Where(w => w.ProjectId == work.ProjectId && others.Contains(w.StudentId)).ToListAsync();
        await Follow(work, theirs);
    }

    /// <summary>A work whose grade is open again takes what its group has by now.</summary>
    public async Task Rejoin(ProjectWork work)
    {
        var together = Together(db, work);
        var other = await db
            .ProjectWorks.Where(w => together.Contains(w.Id) && w.Id != work.Id && w.ReleasedAt == null)
            .OrderBy(w => w.Id)
            .FirstOrDefaultAsync();
        if (other is not null)
            await Follow(other, [work]);
    }

    private async Task Follow(ProjectWork work, IReadOnlyList<ProjectWork> group)
    {
        foreach (var other in group.Where(w => w.Id != work.Id && w.ReleasedAt is null))
        {
            (other.Gates, other.StagesDone, other.HandedInAt) = (work.Gates, work.StagesDone, work.HandedInAt);
            (other.Levels, other.Again, other.Graders) = (work.Levels, work.Again, work.Graders);
        }
        await db.SaveChangesAsync();
    }

    /// <summary>A work was handed in, and with it those of its group; saved by whoever calls.</summary>
    /// <param name="anew">What is known already gives way: the sheet that handed it in was taken away.</param>
    internal static async Task HandedIn(HarborContext db, ProjectWork work, Instant? at, bool anew = false)
    {
        var together = Together(db, work);
        foreach (var w in await db.ProjectWorks.Where(w => together.Contains(w.Id)).ToListAsync())
            w.HandedInAt = anew ? at : w.HandedInAt ?? at;
    }

    /// <summary>Ids of the works that a sheet may belong to, to be this work's: its own, or any of its group.</summary>
    public static IQueryable<int> Together(HarborContext db, ProjectWork work)
    {
        var students = work.Group?.Members.Select(m => m.Student).ToList() ?? [work.StudentId];
        return db.ProjectWorks.Where(w => w.ProjectId == work.ProjectId && students.Contains(w.StudentId)).Select(w => w.Id);
    }
}
