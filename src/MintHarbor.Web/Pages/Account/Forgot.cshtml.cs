using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Account;

/// <summary>Sends a reset link through the outbox; the answer is the same whether the mail is known or not.</summary>
[AllowAnonymous, EnableRateLimiting(Limits.Mails)]
public sealed class ForgotModel(UserManager<Person> people, CourseActions courses) : PageModel
{
    [BindProperty]
    public string Mail { get; set; } = "";
    public bool Sent { get; private set; }

    public void OnGet() { }

    public async Task OnPostAsync()
    {
        Sent = true;
        if (await people.FindByEmailAsync(Mail ?? "") is not { } person)
            return;
        var token = await people.GeneratePasswordResetTokenAsync(person);
        await courses.Mail(
            null,
            person.Email!,
            "A new password",
            $"{person.Name}, open the link to choose a new password. If you did not ask, leave it.",
            $"/reset?mail={Uri.EscapeDataString(person.Email!)}&token={Uri.EscapeDataString(token)}"
        );
    }
}
