using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Account;

/// <summary>Takes up an invitation from the outbox.</summary>
[AllowAnonymous]
public sealed class JoinModel(CourseActions courses, Entry entry, UserManager<Person> people, Throttle throttle) : PageModel
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
        var account = await people.FindByEmailAsync(invitation.Mail);
        if (!throttle.MayTry(HttpContext, invitation.Mail, account))
            return Say(StatusCodes.Status429TooManyRequests, ["Too many wrong passwords from here. Wait five minutes."]);
        var (person, errors) = await courses.Join(invitation, Password ?? "");
        if (person is null)
        {
            if (account is not null)
                throttle.Wrong(HttpContext, invitation.Mail, account);
            return Say(StatusCodes.Status400BadRequest, errors);
        }
        await entry.In(person, stays: false);
        return Redirect($"/courses/{invitation.CourseId}/today");
    }

    private PageResult Say(int status, IEnumerable<string> problems)
    {
        (Problem, Response.StatusCode) = (string.Join(" ", problems), status);
        return Page();
    }
}
