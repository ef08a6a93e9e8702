using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Sessions;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Sessions;
using NodaTime;

namespace MintHarbor.Web.Pages.Room;

/// <summary>A model's own page, by its secret link: when they are booked, what they hold gladly and not, and nothing of the class.</summary>
[AllowAnonymous]
public sealed class SitsModel(HarborContext db, ModelActions models, IClock clock) : PageModel, IShowsProblems
{
    public BookedModel Me { get; private set; } = null!;
    public IReadOnlyList<ModelBooking> Coming { get; private set; } = [];
    public IReadOnlyList<(string PoseId, int Times, LocalDate Last)> Held { get; private set; } = [];
    public string? Problem { get; private set; }

    [BindProperty(SupportsGet = true)]
    public string Secret { get; set; } = "";

    private async Task<bool> Find()
    {
        var found =
            Secret.Length < 20
                ? null
                : await db.BookedModels.Include(m => m.Course).SingleOrDefaultAsync(m => m.Secret == Secret && m.LeftAt == null);
        if (found is null)
            return false;
        Me = found;
        Response.Headers.CacheControl = "no-store";
        return true;
    }

    private async Task Load()
    {
        var today = Words.Today(Me.Course, clock.GetCurrentInstant());
        var all = await models.Of(Me.Id, today.PlusYears(-1));
        Coming = [.. all.Where(b => b.Meeting.Date >= today)];
        Held = [.. ModelActions.Held(all.Where(b => b.Meeting.Date < today)).Take(12)];
    }

    public async Task<IActionResult> OnGetAsync()
    {
        if (!await Find())
            return NotFound();
        await Load();
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(Dictionary<string, string> wish, double ease, string? note, uint? version)
    {
        if (!await Find())
            return NotFound();
        var (gladly, not) = Wishes.Read(wish);
        await models.Mend(Me, new(Me.Name, gladly, not, ease, note), version);
        return Redirect($"/sits/{Secret}");
    }

    public async Task<IActionResult> OnPostAnswerAsync(int meeting, bool comes)
    {
        if (!await Find())
            return NotFound();
        await models.Answer(Me, meeting, comes ? BookingAnswer.Comes : BookingAnswer.CanNot);
        return Redirect($"/sits/{Secret}#b{meeting}");
    }

    /// <summary>Bookings as iCalendar.</summary>
    public async Task<IActionResult> OnGetCalendarAsync()
    {
        if (!await Find())
            return NotFound();
        var today = Words.Today(Me.Course, clock.GetCurrentInstant());
        var events = (await models.Of(Me.Id, today.PlusMonths(-6)))
            .Where(b => b.Answer != BookingAnswer.CanNot)
            .Select(b => new FeedEvent(
                $"sits-{b.MeetingId}-{b.ModelId}@mint-harbor",
                b.Meeting.Date + b.Meeting.StartsAt,
                b.Meeting.Minutes,
                Me.Course.Zone,
                $"Posing, {Me.Course.Name}",
                $"{Say.Number(b.Meeting.Plan.PosedMinutes)} min posed.",
                b.Meeting.Online ? "online" : Me.Course.Room
            ));
        return Content(
            Calendars.Write($"Posing, {Me.Course.Name}", [.. events], clock.GetCurrentInstant()),
            "text/calendar; charset=utf-8"
        );
    }

    public async Task<IActionResult> Show(string problem)
    {
        if (!await Find())
            return NotFound();
        Problem = problem;
        await Load();
        return Page();
    }
}
