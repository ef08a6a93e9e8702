using Microsoft.AspNetCore.Mvc;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Courses;

[For(CourseRole.Instructor)]
public sealed class SettingsModel(CourseScope scope, CourseActions courses) : CoursePage(scope), IShowsProblems
{
    [BindProperty]
    public CourseForm Form { get; set; } = new();

    public void OnGet() => Form = CourseForm.Of(Course);

    public async Task<IActionResult> OnPostAsync()
    {
        await courses.Change(Course, Form.Details());
        return To("today");
    }

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        return Task.FromResult<IActionResult>(Page());
    }
}
