using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Projects;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Projects;

/// <summary>Where an instructor writes a project: stages, gates, rubric.</summary>
public abstract class PlanPage(CourseScope scope, ProjectPlanActions plans) : CoursePage(scope), IShowsProblems
{
    protected ProjectPlanActions Plans { get; } = plans;

    [BindProperty]
    public PlanForm Form { get; set; } = new();

    /// <summary>The one that is changed; null for a new one.</summary>
    public ProjectPlan? Kept => Scope.Plan;
    public string Path => $"/courses/{Course.Id}/projects/plan" + (Kept is { } p ? $"/{p.Id}" : "");

    /// <summary>Courses of the instructor's that a copy may go to.</summary>
    public IReadOnlyList<(int Id, string Name)> Others { get; protected set; } = [];

    public async Task<IActionResult> OnPostSaveAsync()
    {
        if (Kept is { } kept)
            Stood.Check(Request, Named(kept));
        var saved = await Plans.Keep(Course, Kept, Form.Plan(), Me.Person.Name);
        return To($"projects/plan/{saved.Id}");
    }

    /// <summary>A part more or less; nothing is kept yet.</summary>
    public IActionResult OnPostShape(string? @do)
    {
        Form.Do(@do);
        // What the fields show is what the form holds now, not what was sent.
        ModelState.Clear();
        return Page();
    }

    /// <summary>Who kept it last, and when, to the thousandth.</summary>
    public static IEnumerable<(string Name, object? Value)> Named(ProjectPlan p) =>
        [("the last to keep it", $"{p.By}, {p.At.ToString("HH:mm:ss.fff", System.Globalization.CultureInfo.InvariantCulture)}")];

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        return Task.FromResult<IActionResult>(Page());
    }

    /// <summary>What is wrong as the form stands; shown beside it before it is saved.</summary>
    public IReadOnlyList<TemplateProblem> Problems => TemplateCheck.Of(Form.Plan());
}

[For(CourseRole.Instructor)]
public sealed class PlanModel(CourseScope scope, ProjectPlanActions plans, HarborContext db) : PlanPage(scope, plans)
{
    public async Task OnGetAsync()
    {
        Form = PlanForm.Of(Kept!.Plan);
        Others = await db
            .Memberships.Where(m => m.PersonId == Me.PersonId && m.Role == CourseRole.Instructor && m.CourseId != Course.Id)
            .Where(m => m.Course.EndedAt == null)
            .OrderBy(m => m.Course.Name)
            .Select(m => new ValueTuple<int, string>(m.CourseId, m.Course.Name))
            .ToListAsync();
    }

    public async Task<IActionResult> OnPostCopyAsync(int to)
    {
        var other = await db
            .Memberships.Where(m => m.PersonId == Me.PersonId && m.Role == CourseRole.Instructor && m.CourseId == to)
            .Select(m => m.Course)
            .SingleOrDefaultAsync()
            ?? throw new InputException("that course is not yours", "to", "a course that you are the instructor of");
        if (other.EndedAt is not null)
            throw new InputException($"{other.Name} has ended", "to", "a course that goes on");
        var copy = await Plans.Copy(Kept!.Plan, other, Me.Person.Name);
        return Redirect($"/courses/{other.Id}/projects/plan/{copy.Id}");
    }

    public async Task<IActionResult> OnPostRemoveAsync()
    {
        await Plans.Remove(Kept!);
        return To("projects");
    }
}
