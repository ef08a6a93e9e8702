using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Account;

[AllowAnonymous]
public sealed class ResetModel(UserManager<Person> people, Entry entry, CourseActions courses) : PageModel
{
    [BindProperty(SupportsGet = true)]
    public string Mail { get; set; } = "";

    [BindProperty(SupportsGet = true)]
    public string Token { get; set; } = "";

    [BindProperty]
    public string Password { get; set; } = "";
    public string? Problem { get; private set; }

    public void OnGet() { }

    public async Task<IActionResult> OnPostAsync()
    {
        var person = await people.FindByEmailAsync(Mail ?? "");
        var done = person is null ? null : await people.ResetPasswordAsync(person, Token ?? "", Password ?? "");
        if (done is { Succeeded: true })
        {
            await entry.OthersOut(person!);
            await courses.Mail(null, person!.Email!, NewPassword.Subject, NewPassword.Body(person), "/forgot");
            return Redirect("/sign-in");
        }
        Problem = done?.Errors.FirstOrDefault(e => e.Code != "InvalidToken")?.Description
            ?? "The link has run out or was used. Ask for another.";
        Response.StatusCode = StatusCodes.Status400BadRequest;
        return Page();
    }
}

/// <summary>The mail that tells somebody of a new password, so that one who did not choose it knows.</summary>
public static class NewPassword
{
    public const string Subject = "Your password was changed";

    public static string Body(Person person) =>
        $"{person.Name}, your password was changed, and every other sign-in of yours has ended. If it was not you, open the link and choose another.";
}
