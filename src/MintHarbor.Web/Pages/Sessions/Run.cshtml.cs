using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Rooms;
using NodaTime;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>The clock in the instructor's hand.</summary>
[For(CourseRole.Instructor, CourseRole.Assistant)]
public sealed class RunModel(CourseScope scope, SessionActions sessions, EveningActions evenings, IClock clock)
    : CoursePage(scope),
        IShowsProblems
{
    public Meeting Meeting => Scope.Meeting!;
    public ClockReading Reading { get; private set; } = null!;

    /// <summary>The timeline as it now runs, for the strip.</summary>
    public IReadOnlyList<PlanItem> Timeline { get; private set; } = [];

    public void OnGet() => Read();

    /// <summary>Whether the room's link still holds; it ends by itself and is opened again by starting the clock.</summary>
    public bool LinkHolds => Meeting.RoomUntil(Course.Zone) >= clock.GetCurrentInstant();

    /// <summary>The clock's own stream, so that it does not hang on the room's link.</summary>
    public async Task<IActionResult> OnGetStreamAsync()
    {
        await RoomStream.Of(Meeting.Id, null, HttpContext).ExecuteAsync(HttpContext);
        return new EmptyResult();
    }

    /// <summary>Minutes the plan is behind the clock; negative when ahead.</summary>
    public double Behind { get; private set; }
    public IReadOnlyList<Offer> Offers { get; private set; } = [];

    /// <summary>The hour at the strip's left end: as planned until the clock runs, then the one that puts now under the plumb line.</summary>
    public LocalTime StripFrom =>
        Reading is { Started: true, Over: false }
            ? Words.Local(clock.GetCurrentInstant() - Duration.FromMinutes(Reading.MinutesRun) + Duration.FromSeconds(30), Course).TimeOfDay
            : Meeting.StartsAt;

    /// <summary>When the meeting ends: as planned, or, when it was begun on another occasion, its minutes after it was begun.</summary>
    public Instant End
    {
        get
        {
            var planned = Meeting.Ends(Course.Zone);
            var begun = Meeting.Clock.FirstOrDefault(e => e.Act == ClockAct.Start)?.At;
            return begun is { } b && (b < Meeting.Starts(Course.Zone) - Duration.FromHours(1) || b >= planned)
                ? b + Duration.FromMinutes(Meeting.Minutes)
                : planned;
        }
    }

    public Task<IActionResult> OnPostActAsync(ClockAct act, int? seen) => Taken(() => sessions.Act(Meeting, act, seen));

    public Task<IActionResult> OnPostReplanAsync(string? offer, int? seen, Interruption? what) =>
        Taken(() => sessions.TakeOffer(Meeting, offer ?? "", End, seen, what));

    /// <summary>What has broken into the evening, where somebody said so.</summary>
    [BindProperty(SupportsGet = true, Name = "what")]
    public Interruption? What { get; set; }

    public IReadOnlyList<Caution> Open =>
        [.. Cautions.For(Course.Shelf.Cautions, Meeting.Request, Meeting.Plan).Where(c => !Meeting.CautionsSeen.Contains(c.Id))];

    public async Task<IActionResult> OnPostAsideAsync(string? caution)
    {
        await evenings.PutAside(Course, Meeting, caution ?? "");
        return To($"sessions/{Meeting.Id}/run");
    }

    private async Task<IActionResult> Taken(Func<Task<bool>> act)
    {
        if (!await act())
            Problem = "The clock had moved on already; it is shown as it stands.";
        else
        {
            Watch.Acts.Inc();
            What = null;
        }
        if (!Fragment && Problem is null)
            return To($"sessions/{Meeting.Id}/run");
        Read();
        return Page();
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostRenewAsync()
    {
        await sessions.RenewRoomLink(Meeting);
        return To($"sessions/{Meeting.Id}/run");
    }

    private void Read()
    {
        Reading = Meeting.Reading(clock.GetCurrentInstant());
        var items = new List<PlanItem>();
        double at = 0;
        foreach (var t in Reading.Timeline.Where(t => t.Minutes > 0.01))
        {
            items.Add(t.Item with { At = at, Minutes = t.Minutes });
            at += t.Minutes;
        }
        Timeline = items;
        var left = (End - clock.GetCurrentInstant()).TotalMinutes;
        Behind = WhatNow.Behind(Reading, left);
        Offers = What is { } what
            ? WhatNow.Interrupted(what, Meeting.Request, Reading, left)
            : WhatNow.Offers(Meeting.Request, Reading, left);
    }

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        Read();
        return Task.FromResult<IActionResult>(Page());
    }
}
