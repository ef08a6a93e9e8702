using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Account;

public sealed class SignOutModel(Entry entry) : PageModel
{
    public IActionResult OnGet() => Redirect("/");

    public async Task<IActionResult> OnPostAsync()
    {
        await entry.Out(User);
        // What the browser kept of pages goes; typed words and notes that wait are taken by the script, person by person.
        Response.Headers["Clear-Site-Data"] = "\"cache\"";
        return Redirect("/sign-in");
    }
}
