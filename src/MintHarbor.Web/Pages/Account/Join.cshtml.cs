using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;

namespace MintHarbor.Web.Pages.Account;

/// <summary>Takes up an invitation from the outbox.</summary>
[AllowAnonymous]
public sealed class JoinModel(CourseActions courses, SignInManager<Person> signIn) : PageModel
{
    [BindProperty]
    public string Password { get; set; } = "";
    public Invitation Invitation { get; private set; } = null!;
    public string? Problem { get; private set; }

    public async Task<IActionResult> OnGetAsync(string token)
    {
        if (await courses.OpenInvitation(token) is not { } invitation)
            return NotFound();
        Invitation = invitation;
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(string token)
    {
        if (await courses.OpenInvitation(token) is not { } invitation)
            return NotFound();
        Invitation = invitation;
        var (person, errors) = await courses.Join(invitation, Password ?? "");
        if (person is null)
        {
            Problem = string.Join(" ", errors);
            Response.StatusCode = StatusCodes.Status400BadRequest;
            return Page();
        }
        await signIn.SignInAsync(person, isPersistent: true);
        return Redirect($"/courses/{invitation.CourseId}/today");
    }
}
