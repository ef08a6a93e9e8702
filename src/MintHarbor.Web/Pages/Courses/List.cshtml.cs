using System.Globalization;
using System.Security.Claims;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Courses;

public sealed class ListModel(HarborContext db) : PageModel
{
    public IReadOnlyList<Membership> Rows { get; private set; } = [];
    public bool Teaches => User.HasClaim(PersonClaims.Teaches, "yes");

    public async Task OnGetAsync()
    {
        var me = int.Parse(User.FindFirstValue(ClaimTypes.NameIdentifier)!, CultureInfo.InvariantCulture);
        Rows = await db
            .Memberships.AsNoTracking()
            .Include(m => m.Course)
            .Where(m => m.PersonId == me)
            .OrderBy(m => m.CourseId)
            .ToListAsync();
    }
}
