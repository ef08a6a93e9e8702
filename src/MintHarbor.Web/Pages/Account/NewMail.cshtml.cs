using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Account;

/// <summary>Opened from the mail that went to a new address: whoever reads it there and is signed in has that mail from now on.</summary>
public sealed class NewMailModel(UserManager<Person> people, Entry entry) : PageModel
{
    [BindProperty(SupportsGet = true, Name = "to")]
    public string? Mail { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? Token { get; set; }
    public string? Problem { get; private set; }

    public void OnGet() { }

    public async Task<IActionResult> OnPostAsync()
    {
        var person = await people.GetUserAsync(User);
        if (person is null || string.IsNullOrEmpty(Mail) || await people.FindByEmailAsync(Mail) is not null || !await Changed(person, Mail))
        {
            Problem = "The link has run out, was used, or is not for this account.";
            Response.StatusCode = StatusCodes.Status400BadRequest;
            return Page();
        }
        await entry.Renew(person, User);
        return Redirect("/account?done=confirmed");
    }

    private async Task<bool> Changed(Person person, string mail) =>
        (await people.ChangeEmailAsync(person, mail, Token ?? "")).Succeeded && (await people.SetUserNameAsync(person, mail)).Succeeded;
}
