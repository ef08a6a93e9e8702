using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Projects;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Projects;

/// <summary>A project's dates and its grade book; a student is led to their own part.</summary>
public sealed class ProjectModel(CourseScope scope, HarborContext db, TakeBackActions back, LogActions log)
    : CoursePage(scope),
        IShowsProblems
{
    public IReadOnlyList<ProjectWork> Works { get; private set; } = [];

    /// <summary>What opens a stage, in a few words.</summary>
    public static string Opens(StageTemplate s) =>
        s.Gate.Count == 0
            ? "open"
            : $"{Say.Plural(s.Gate.Count, "point")}{(s.Measured is null ? " or" : ", measures inside, or")} a waiver";

    public async Task<IActionResult> OnGetAsync()
    {
        if (Scope.IsStudent)
        {
            var own = await db
                .ProjectWorks.Where(w => w.ProjectId == Scope.Project!.Id && w.StudentId == Me.PersonId)
                .Select(w => (int?)w.Id)
                .SingleOrDefaultAsync();
            return own is { } id ? To($"projects/way/{id}") : NotFound();
        }
        // Grades are the instructor's; an assistant critiques and doesn't grade.
        if (!Scope.IsInstructor)
            return StatusCode(StatusCodes.Status403Forbidden);
        await Load();
        return Page();
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnGetCsvAsync()
    {
        await Load();
        await log.Exported(Course, $"grade book of {Scope.Project!.Name}");
        var t = ProjectTemplate.Get(Scope.Project!.Template);
        IEnumerable<string> Row(ProjectWork w) =>
            [
                w.Student.Name,
                w.Student.Email ?? "",
                .. t.Rubric.Select(r => w.Levels.TryGetValue(r.Id, out var l) ? l.ToString(CultureInfo.InvariantCulture) : ""),
                w.StagesDone.Count.ToString(CultureInfo.InvariantCulture),
                Grading.Of(t.Rubric, w.Levels)?.Percent.ToString(CultureInfo.InvariantCulture) ?? "",
            ];
        var csv = Roster.Csv([
            ["name", "mail", .. t.Rubric.Select(r => r.Name.ToLowerInvariant()), "stages done", "grade"],
            .. Works.Select(Row),
        ]);
        return File(Encoding.UTF8.GetBytes(csv), "text/csv; charset=utf-8", $"grades-{Scope.Project.Id}.csv");
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostRemoveAsync(string? said)
    {
        await back.Remove(Scope.Project!, said);
        return To("projects");
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }

    private async Task Load() =>
        Works = await db
            .ProjectWorks.AsNoTracking()
            .Include(w => w.Student)
            .Where(w => w.ProjectId == Scope.Project!.Id)
            .OrderBy(w => w.Student.Name)
            .ToListAsync();
}
