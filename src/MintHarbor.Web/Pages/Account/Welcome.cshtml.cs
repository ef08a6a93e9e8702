using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Account;

/// <summary>First run: an empty studio takes its first instructor. Afterwards the page does not exist.</summary>
[AllowAnonymous]
public sealed class WelcomeModel(UserManager<Person> people, Entry entry, HarborContext db) : PageModel, IShowsProblems
{
    [BindProperty]
    public string Name { get; set; } = "";

    [BindProperty]
    public string Mail { get; set; } = "";

    [BindProperty]
    public string Password { get; set; } = "";
    public string? Problem { get; private set; }

    public async Task<IActionResult> OnGetAsync() => await db.Users.AnyAsync() ? NotFound() : Page();

    public async Task<IActionResult> OnPostAsync()
    {
        // One at a time, so that two first visitors don't both become the first.
        await using var once = await db.Database.BeginTransactionAsync();
        await db.Database.ExecuteSqlRawAsync("select pg_advisory_xact_lock(411)");
        if (await db.Users.AnyAsync())
            return NotFound();
        var name = Names.Checked(Name, "Name", AccountModel.LongestName);
        var person = new Person
        {
            Name = name,
            UserName = Mail,
            Email = Mail,
            Teaches = true,
            EmailConfirmed = true,
        };
        var made = await people.CreateAsync(person, Password ?? "");
        if (!made.Succeeded)
            return Say(string.Join(" ", made.Errors.Select(e => e.Description)));
        await once.CommitAsync();
        await entry.In(person, stays: false);
        return Redirect("/courses/new");
    }

    private PageResult Say(string problem)
    {
        Problem = problem;
        Response.StatusCode = StatusCodes.Status400BadRequest;
        return Page();
    }

    public Task<IActionResult> Show(string problem) => Task.FromResult<IActionResult>(Say(problem));
}
