using System.Globalization;
using System.Security.Claims;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using MintHarbor.Store;
using MintHarbor.Store.Model;

namespace MintHarbor.Web.Pages.Account;

/// <summary>The mail stand-in. An instructor reads the mail of their courses. Account mails, whose links give a person's
/// account away, are read here in the demo only; elsewhere by './harbor outbox' on the server.</summary>
public sealed class OutboxModel(HarborContext db, IOptions<HarborOptions> options) : PageModel
{
    public IReadOnlyList<OutboxMail> Mails { get; private set; } = [];

    public async Task OnGetAsync()
    {
        var me = int.Parse(User.FindFirstValue(ClaimTypes.NameIdentifier)!, CultureInfo.InvariantCulture);
        var mine = db.Memberships.Where(m => m.PersonId == me && m.Role == CourseRole.Instructor).Select(m => (int?)m.CourseId);
        var demo = options.Value.Demo;
        Mails = await db
            .Outbox.AsNoTracking()
            .Where(m => mine.Contains(m.CourseId) || (demo && m.CourseId == null && mine.Any()))
            .OrderByDescending(m => m.SentAt)
            .ThenByDescending(m => m.Id)
            .Take(100)
            .ToListAsync();
    }
}
