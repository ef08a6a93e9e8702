using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core.Projects;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Projects;

/// <summary>One student's way through a project: gates, stages, rubric, and the grade with its arithmetic.</summary>
[For(CourseRole.Instructor, CourseRole.Student)]
public sealed class WorkModel(CourseScope scope, ProjectActions actions) : CoursePage(scope), IShowsProblems
{
    public ProjectWork Work => Scope.Work!;
    public ProjectTemplate Template => ProjectTemplate.Get(Work.Project.Template);
    public Grade? Grade => Grading.Of(Template.Rubric, Work.Levels);

    public void OnGet() { }

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostTickAsync(string? stage, string? point, bool on) =>
        Done(actions.Tick(Work, stage ?? "", point ?? "", on));

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostWaiveAsync(string? stage, string? because) => Done(actions.Waive(Work, stage ?? "", because ?? ""));

    /// <summary>The measured report decides, so the student may ask for it as well.</summary>
    public Task<IActionResult> OnPostMeasureAsync(string? stage) => Done(actions.Measure(Work, Course, stage ?? ""));

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostFinishAsync(string? stage) => Done(actions.Finish(Work, stage ?? ""));

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostLevelAsync(string? row, int level) => Done(actions.Level(Work, row ?? "", level));

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostReleaseAsync() => Done(actions.Release(Work));

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostReopenAsync(string? reason) => Done(actions.Reopen(Work, Course, reason));

    /// <summary>The instructor may still change something: what a student was shown stays.</summary>
    public bool Open => Scope.IsInstructor && Work.ReleasedAt is null;

    private async Task<IActionResult> Done(Task act)
    {
        await act;
        return To($"projects/way/{Work.Id}");
    }

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        return Task.FromResult<IActionResult>(Page());
    }
}
