using System.Globalization;
using System.Security.Claims;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store;

namespace MintHarbor.Web.Pages;

/// <summary>Leads everybody to where their work is: first-run set-up, sign-in, the only course's Today, or the courses.</summary>
[AllowAnonymous]
public sealed class IndexModel(HarborContext db) : PageModel
{
    public async Task<IActionResult> OnGetAsync()
    {
        if (User.FindFirstValue(ClaimTypes.NameIdentifier) is not { } id)
            return Redirect(await db.Users.AnyAsync() ? "/sign-in" : "/welcome");
        var me = int.Parse(id, CultureInfo.InvariantCulture);
        var courses = await db.Memberships.Where(m => m.PersonId == me).OrderBy(m => m.CourseId).Select(m => m.CourseId).ToListAsync();
        return Redirect(courses.Count == 0 ? "/courses" : $"/courses/{courses[0]}/today");
    }
}
