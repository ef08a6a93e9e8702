using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using MintHarbor.Store;
using MintHarbor.Store.Demo;
using MintHarbor.Store.Model;

namespace MintHarbor.Web.Pages.Account;

[AllowAnonymous]
public sealed class SignInModel(SignInManager<Person> signIn, HarborContext db, IOptions<HarborOptions> options) : PageModel
{
    [BindProperty]
    public string Mail { get; set; } = "";

    [BindProperty]
    public string Password { get; set; } = "";

    [BindProperty(SupportsGet = true)]
    public string? ReturnUrl { get; set; }
    public string? Problem { get; private set; }

    private static readonly Lazy<string> Nobody = new(() => new PasswordHasher<Person>().HashPassword(new(), "nobody's password"));
    public IReadOnlyList<(string Mail, string Name, string Part)> Demo => options.Value.Demo ? DemoStudio.SignIns : [];

    public async Task<IActionResult> OnGetAsync() => await db.Users.AnyAsync() ? Page() : Redirect("/welcome");

    public async Task<IActionResult> OnPostAsync()
    {
        var person = await signIn.UserManager.FindByNameAsync(Mail ?? "");
        // A mail that nobody has takes as long as a wrong password: the answer's time must not tell who is here.
        if (person is null)
            signIn.UserManager.PasswordHasher.VerifyHashedPassword(new(), Nobody.Value, Password ?? "");
        var result = person is null
            ? Microsoft.AspNetCore.Identity.SignInResult.Failed
            : await signIn.PasswordSignInAsync(person, Password ?? "", isPersistent: true, lockoutOnFailure: true);
        if (result.Succeeded)
            return Back();
        Problem = result.IsLockedOut
            ? "Too many wrong passwords. Wait five minutes, or ask for a new one."
            : "Mail and password don't belong together. Look at both; capitals count in the password.";
        Response.StatusCode = StatusCodes.Status400BadRequest;
        return Page();
    }

    /// <summary>One-click sign-in of the invented people; there is none in a real studio.</summary>
    public async Task<IActionResult> OnPostDemoAsync(string @as)
    {
        if (!options.Value.Demo || DemoStudio.SignIns.All(d => d.Mail != @as))
            return NotFound();
        if (await signIn.UserManager.FindByEmailAsync(@as) is not { } person)
            return NotFound();
        await signIn.SignInAsync(person, isPersistent: true);
        return Back();
    }

    private IActionResult Back() => Url.IsLocalUrl(ReturnUrl) ? LocalRedirect(ReturnUrl!) : Redirect("/");
}
