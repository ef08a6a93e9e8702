using Microsoft.AspNetCore.Mvc;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Courses;

/// <summary>How a course runs, and its end.</summary>
[For(CourseRole.Instructor)]
public sealed class SettingsModel(CourseScope scope, CourseActions courses, TakeBackActions back) : CoursePage(scope), IShowsProblems
{
    [BindProperty]
    public CourseForm Form { get; set; } = new();

    public void OnGet() => Form = CourseForm.Of(Course);

    /// <param name="name">The course's name, typed, where it is taken out of under 18.</param>
    public async Task<IActionResult> OnPostAsync(string? name, string? reason)
    {
        Stood.Check(Request, CourseForm.Of(Course).Named());
        await courses.Change(Course, Form.Details(), name, reason);
        return To("today");
    }

    public async Task<IActionResult> OnPostEndAsync()
    {
        await back.End(Course);
        return To("settings");
    }

    [WhileEnded]
    public async Task<IActionResult> OnPostOpenAsync()
    {
        await back.OpenAgain(Course);
        return To("settings");
    }

    [WhileEnded]
    public async Task<IActionResult> OnPostRemoveAsync(string? said)
    {
        await back.Remove(Course, said);
        return Redirect("/courses");
    }

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        // A form beside it was sent: the fields show what stands.
        if (!Request.HasFormContentType || !Request.Form.ContainsKey("Form.Name"))
            Form = CourseForm.Of(Course);
        return Task.FromResult<IActionResult>(Page());
    }
}
