using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store;
using NodaTime;

namespace MintHarbor.Web.Pages.Room;

/// <summary>The clock on the wall: whoever has the secret link sees it, and nothing else of the course.</summary>
[AllowAnonymous]
public sealed class DisplayModel(HarborContext db, IClock clock) : PageModel
{
    public string Secret { get; private set; } = "";
    public string First { get; private set; } = "";

    public async Task<IActionResult> OnGetAsync(string secret)
    {
        var meeting = await db.Meetings.AsNoTracking().Include(m => m.Course).SingleOrDefaultAsync(m => m.RoomSecret == secret);
        if (meeting is null || meeting.RoomUntil(meeting.Course.Zone) < clock.GetCurrentInstant())
            return NotFound();
        Secret = secret;
        First = meeting.Plan.Items[0].Name;
        Response.Headers.CacheControl = "no-store";
        return Page();
    }
}
