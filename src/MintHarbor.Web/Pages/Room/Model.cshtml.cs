using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Web.Pages.Room;

/// <summary>The model's sheet, by its secret link: the evening's poses, rests and pay, and nothing of the class.</summary>
[AllowAnonymous]
public sealed class ModelModel(HarborContext db, IClock clock) : PageModel
{
    public Meeting Meeting { get; private set; } = null!;

    /// <summary>What a line asks of the model, and for how long.</summary>
    public static string Takes(EveningLine line)
    {
        var i = line.Item;
        var again = i.Period > 1 ? ", the same again" : "";
        return i.Posed && i.Poses > 1 ? $"{i.Poses} poses of {Say.Minutes(i.PoseMinutes)}"
            : i.Posed ? $"{line.Poses[0].Name}, {Say.Minutes(i.Minutes)}{again}"
            : $"{line.Name}, {Say.Minutes(i.Minutes)}";
    }

    public async Task<IActionResult> OnGetAsync(string secret)
    {
        var meeting =
            secret.Length < 20
                ? null
                : await db
                    .Meetings.AsNoTracking()
                    .Include(m => m.Course)
                    .Include(m => m.LongPose)
                    .SingleOrDefaultAsync(m => m.ModelSecret == secret);
        if (meeting is null || meeting.RoomUntil(meeting.Course.Zone) < clock.GetCurrentInstant())
            return NotFound();
        Meeting = meeting;
        Response.Headers.CacheControl = "no-store";
        return Page();
    }
}
