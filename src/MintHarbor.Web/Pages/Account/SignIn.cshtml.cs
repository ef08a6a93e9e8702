using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Demo;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Account;

[AllowAnonymous]
public sealed class SignInModel(
    Entry entry,
    UserManager<Person> people,
    HarborContext db,
    Throttle throttle,
    LogActions log,
    IOptions<HarborOptions> options
) : PageModel
{
    [BindProperty]
    public string Mail { get; set; } = "";

    [BindProperty]
    public string Password { get; set; } = "";

    /// <summary>Outlasts the browser's window: for a device of one's own.</summary>
    [BindProperty]
    public bool Stay { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? ReturnUrl { get; set; }
    public string? Problem { get; private set; }

    private static readonly Lazy<string> Nobody = new(() => new PasswordHasher<Person>().HashPassword(new(), "nobody's password"));
    public IReadOnlyList<(string Mail, string Name, string Part)> Demo => options.Value.Demo ? DemoStudio.SignIns : [];

    public async Task<IActionResult> OnGetAsync() => await db.Users.AnyAsync() ? Page() : Redirect("/welcome");

    /// <summary>Nothing of it is taken back where it is refused: what went wrong is a line of the log.</summary>
    [WaitsItself]
    public async Task<IActionResult> OnPostAsync()
    {
        var (mail, password) = (Mail ?? "", Password ?? "");
        var person = await people.FindByNameAsync(mail);
        if (!throttle.MayTry(HttpContext, mail, person))
            return Say(
                StatusCodes.Status429TooManyRequests,
                "Too many wrong passwords from here. Wait five minutes, or ask for a new one: with it you can sign in at once."
            );
        if (await Right(person, password))
        {
            await entry.In(person!, Stay);
            return Back();
        }
        throttle.Wrong(HttpContext, mail, person);
        await log.Failed(person);
        return Say(
            StatusCodes.Status400BadRequest,
            "Mail and password don't belong together. Look at both; capitals count in the password."
        );
    }

    private async Task<bool> Right(Person? person, string password)
    {
        if (person is not null)
            return await people.CheckPasswordAsync(person, password);
        // A mail that nobody has takes as long as a wrong password: the answer's time must not tell who is here.
        people.PasswordHasher.VerifyHashedPassword(new(), Nobody.Value, password);
        return false;
    }

    /// <summary>One-click sign-in of the invented people; there is none in a real studio.</summary>
    public async Task<IActionResult> OnPostDemoAsync(string @as)
    {
        if (!options.Value.Demo || DemoStudio.SignIns.All(d => d.Mail != @as))
            return NotFound();
        if (await people.FindByEmailAsync(@as) is not { } person)
            return NotFound();
        await entry.In(person, stays: false);
        return Back();
    }

    private IActionResult Back() => Url.IsLocalUrl(ReturnUrl) ? LocalRedirect(ReturnUrl!) : Redirect("/");

    private PageResult Say(int status, string problem)
    {
        (Problem, Response.StatusCode) = (problem, status);
        return Page();
    }
}
