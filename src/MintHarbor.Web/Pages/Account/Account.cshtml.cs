using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using MintHarbor.Core;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Account;

/// <summary>What belongs to a person, not to a course: name, mail, password, and where they are signed in.</summary>
public sealed class AccountModel(UserManager<Person> people, Entry entry, SignInActions signedIn, CourseActions courses, Throttle throttle)
    : PageModel,
        IShowsProblems
{
    public const int LongestName = 120;

    public Person Person { get; private set; } = null!;
    public IReadOnlyList<SignedIn> SignedIn { get; private set; } = [];
    public Guid? Here => Entry.Of(User)?.Id;
    public string? Problem { get; private set; }

    /// <summary>What was done, said once; by what the address names.</summary>
    public string? Done { get; private set; }

    public async Task OnGetAsync(string? done)
    {
        await Load();
        Done = done switch
        {
            "name" => "Your name is changed.",
            "mail" => "A link is on its way to the new mail; it counts once that is opened.",
            "confirmed" => "Your mail is changed. Sign in with it from now on.",
            "password" => "Your password is changed. Every other sign-in of yours has ended.",
            "others" => "You are signed in here only.",
            _ => null,
        };
    }

    private async Task Load()
    {
        Person = await people.GetUserAsync(User) ?? throw new InvalidOperationException("a sign-in that holds has its person");
        SignedIn = await signedIn.Of(Person.Id);
    }

    public async Task<IActionResult> OnPostNameAsync(string? name)
    {
        await Load();
        Person.Name = Names.Checked(name, "name", LongestName);
        if (await people.UpdateAsync(Person) is { Succeeded: false } failed)
            return Say(string.Join(" ", failed.Errors.Select(e => e.Description)), StatusCodes.Status409Conflict);
        await entry.Renew(Person, User);
        return Redirect("/account?done=name");
    }

    public async Task<IActionResult> OnPostMailAsync(string? mail, string? password)
    {
        await Load();
        mail = (mail ?? "").Trim();
        if (!System.Net.Mail.MailAddress.TryCreate(mail, out var parsed) || parsed.Address != mail)
            return Say($"“{mail}” is no mail address. Accepted: name@place.");
        if (await Wrong(password) is { } wrong)
            return wrong;
        // Nobody is told here whether another account has that mail: the link that its owner gets does nothing then.
        var token = await people.GenerateChangeEmailTokenAsync(Person, mail);
        await courses.Mail(
            null,
            mail,
            "Your new mail",
            $"{Person.Name}, open the link to sign in with this mail from now on. If you did not ask, leave it.",
            $"/account/new-mail?to={Uri.EscapeDataString(mail)}&token={Uri.EscapeDataString(token)}"
        );
        return Redirect("/account?done=mail");
    }

    public async Task<IActionResult> OnPostPasswordAsync(string? password, string? next)
    {
        await Load();
        if (await Wrong(password) is { } wrong)
            return wrong;
        var changed = await people.ChangePasswordAsync(Person, password!, next ?? "");
        if (!changed.Succeeded)
            return Say(string.Join(" ", changed.Errors.Select(e => e.Description)));
        await entry.OthersOut(Person, User);
        await courses.Mail(null, Person.Email!, NewPassword.Subject, NewPassword.Body(Person), "/forgot");
        return Redirect("/account?done=password");
    }

    public async Task<IActionResult> OnPostOthersAsync()
    {
        await Load();
        await entry.OthersOut(Person, User);
        return Redirect("/account?done=others");
    }

    private async Task<IActionResult?> Wrong(string? password)
    {
        if (!throttle.MayTry(HttpContext, Person.Email!, Person))
            return Say("Too many wrong passwords from here. Wait five minutes.", StatusCodes.Status429TooManyRequests);
        if (await people.CheckPasswordAsync(Person, password ?? ""))
            return null;
        throttle.Wrong(HttpContext, Person.Email!, Person);
        return Say("That is not your password. Capitals count.");
    }

    private PageResult Say(string problem, int status = StatusCodes.Status400BadRequest)
    {
        (Problem, Response.StatusCode) = (problem, status);
        return Page();
    }

    public async Task<IActionResult> Show(string problem)
    {
        await Load();
        Problem = problem;
        return Page();
    }
}
