using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using MintHarbor.Store.Model;

namespace MintHarbor.Web.Pages.Account;

[AllowAnonymous]
public sealed class ResetModel(UserManager<Person> people) : PageModel
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
            return Redirect("/sign-in");
        Problem = done?.Errors.FirstOrDefault(e => e.Code != "InvalidToken")?.Description
            ?? "The link has run out or was used. Ask for another.";
        Response.StatusCode = StatusCodes.Status400BadRequest;
        return Page();
    }
}
