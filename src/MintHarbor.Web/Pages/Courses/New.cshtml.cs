using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Courses;

/// <summary>Opens a course; for those who teach.</summary>
public sealed class NewModel(CourseActions courses, UserManager<Person> people) : PageModel, IShowsProblems
{
    [BindProperty]
    public CourseForm Form { get; set; } = new();
    public string? Problem { get; private set; }

    public override void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        if (!User.HasClaim(PersonClaims.Teaches, "yes"))
            context.Result = new StatusCodeResult(StatusCodes.Status403Forbidden);
    }

    public void OnGet() { }

    public async Task<IActionResult> OnPostAsync()
    {
        if (await people.GetUserAsync(User) is not { } me)
            return NotFound();
        var course = await courses.Open(me, Form.Details());
        return Redirect($"/courses/{course.Id}/students");
    }

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        return Task.FromResult<IActionResult>(Page());
    }
}
