using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Rooms;
using MintHarbor.Core.Sessions;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;
using NodaTime;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>The term: every meeting as a strip to one scale, with its purpose, its long pose and the views it was drawn from; the rule
/// that makes more of them, and the calendar they keep out of.</summary>
public sealed class ListModel(
    CourseScope scope,
    HarborContext db,
    PlanActions plans,
    TermActions term,
    EveningActions evenings,
    IClock clock
) : CoursePage(scope), IShowsProblems
{
    /// <summary>As much of a meeting as its line needs; what it was before stays in the database.</summary>
    public sealed record Line(
        int Id,
        int Number,
        LocalDate Date,
        LocalTime StartsAt,
        int Minutes,
        PlanRequest Request,
        Proposal Plan,
        bool Online,
        int? LongPoseId,
        bool Begun,
        double[]? Azimuths
    )
    {
        public bool Running(Instant now, Course course)
        {
            var ends = (Date + StartsAt).InZoneLeniently(Words.Zone(course)).ToInstant() + Duration.FromMinutes(Minutes);
            return Begun && now < ends && now > ends - Duration.FromMinutes(Minutes + 60);
        }
    }

    public Instant Now => clock.GetCurrentInstant();
    public LocalDate Day => Words.Today(Course, Now);

    /// <summary>The latest first.</summary>
    public IReadOnlyList<Line> Meetings { get; private set; } = [];

    /// <summary>What comes, the next on top, and what was, the last on top.</summary>
    public IReadOnlyList<(string Head, IReadOnlyList<Line> Lines)> Parts =>
        [("To come", [.. Meetings.Where(m => m.Date >= Day).Reverse()]), ("Held", [.. Meetings.Where(m => m.Date < Day)])];

    /// <summary>Minutes that fill a line.</summary>
    public double Longest => Meetings.Max(m => m.Minutes);
    public List<Note> Notes { get; } = [];
    public string? Focus { get; private set; }
    public string? Said { get; private set; }

    private const int Size = 40;

    /// <summary>Which part of the list; the newest meetings are the first.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Part { get; set; }
    public Paging Paging { get; private set; } = new(1, Size, 0, "meetings");

    public Task OnGetAsync() => Load();

    private async Task Load()
    {
        // The proof of every meeting, and what its request was told of the term, are no part of a line: they stay in the database.
        var only = Scope.IsStudent ? Me.PersonId : (int?)null;
        Paging = Paging.Of(Part, Size, await db.Meetings.CountAsync(m => m.CourseId == Course.Id), "meetings");
        var rows = await db
            .Database.SqlQuery<Row>(
                $"""
                select m.id, m.number, m.date, m.starts_at, m.minutes, (m.request - 'history' - 'laid' - 'locked')::text as request, (m.plan - 'rules')::text as plan, m.online, m.long_pose_id, exists (select 1 from clock_acts a where a.meeting_id = m.id) as begun,
                    (select array_agg(s.azimuth order by s.azimuth) from seatings s where s.meeting_id = m.id and ({only}::int is null or s.person_id = {only})) as azimuths
                from meetings m where m.course_id = {Course.Id} order by m.date desc, m.id desc limit {Size} offset {Paging.Skip}
                """
            )
            .ToListAsync();
        Meetings =
        [
            .. rows.Select(r => new Line(
                r.Id,
                r.Number,
                r.Date,
                r.StartsAt,
                r.Minutes,
                KeptJson.Request(r.Request),
                KeptJson.Plan(r.Plan),
                r.Online,
                r.LongPoseId,
                r.Begun,
                r.Azimuths
            )),
        ];
        if (Meetings.Count == 0)
            return;
        AddHours();
        AddViews();
        foreach (
            var (later, before) in Meetings
                .Zip(Meetings.Skip(1))
                .Where(p =>
                    p.First.Plan.Sitter is { } a
                    && a == p.Second.Plan.Sitter
                    && (p.First.LongPoseId is null || p.First.LongPoseId != p.Second.LongPoseId)
                )
                .Take(2)
        )
            Notes.Add(new("near", $"Meetings {before.Number} and {later.Number} have the same long pose.", $"m{later.Id}"));
        foreach (
            var (later, before) in Meetings.Zip(Meetings.Skip(1)).Where(p => (p.First.Date - p.Second.Date).Days is > 10 and < 60).Take(2)
        )
        {
            var off = Course.DaysOff.FirstOrDefault(o => o.From < later.Date && o.To > before.Date);
            var why = off is null ? "" : $": {off.Name}";
            var days = (later.Date - before.Date).Days;
            Notes.Add(new("near", $"*{days} days* without a meeting before the {Words.ShortDay(later.Date)}{why}.", $"m{later.Id}"));
        }
        if (
            !Scope.IsStudent
            && await plans.Weak(Course) is [var rule, ..]
            && Course.Shelf.Faults.FirstOrDefault(f => f.Rule == rule) is { } fault
        )
        {
            Focus = fault.Exercise;
            var mends = Course.Shelf.Exercise(fault.Exercise) is { } e ? $" {e.Name} mends it." : "";
            Notes.Add(
                new(
                    "near",
                    $"For next week: the class's sheets break *{Rules.Named([rule])}* most.{mends}",
                    null,
                    fault.Principle,
                    null,
                    $"/courses/{Course.Id}/sessions/plan?include={fault.Exercise}",
                    "plan it in"
                )
            );
        }
    }

    private sealed record Row(
        int Id,
        int Number,
        LocalDate Date,
        LocalTime StartsAt,
        int Minutes,
        string Request,
        string Plan,
        bool Online,
        int? LongPoseId,
        bool Begun,
        double[]? Azimuths
    );

    /// <summary>What was posed and what is to come, with the pay; what of the figure nobody has posed; of a term without a model what is drawn.</summary>
    private void AddHours()
    {
        var live = Meetings.Where(m => m.Request.Wish.HasLiveModel).ToList();
        var counted = live.Count > 0 ? live : Meetings;
        var (held, coming) = (counted.Where(m => m.Date < Day).ToList(), counted.Where(m => m.Date >= Day).ToList());
        string Part(List<Line> part, string how) =>
            part.Count == 0 ? "" : $"*{Say.Number(part.Sum(Worked) / 60, 1)} h* {how} {Say.Plural(part.Count, "meeting")}";
        var parts = Say.List([
            .. new[] { Part(held, live.Count > 0 ? "posed in" : "drawn in"), Part(coming, "to come in") }.Where(p => p != ""),
        ]);
        // A course that changed its currency within the term has paid in both.
        var paid = live.Select(m => m.Plan.Pay)
            .OfType<ModelPay>()
            .GroupBy(p => p.Currency)
            .Select(g => $"{Say.Fixed(g.Sum(p => p.Amount), 2)} {g.Key}")
            .ToList();
        var toModels = Scope.IsStudent || paid.Count == 0 ? "" : $"; {Say.List(paid)} to models in all";
        Notes.Add(new("holds", $"{parts}{toModels}."));
        if (live.Count == 0)
            return;
        var shown = live.SelectMany(m => m.Plan.Items.SelectMany(i => i.PoseIds).Select(p => PoseLibrary.Find(p, m.Request)))
            .OfType<StudioPose>()
            .SelectMany(p => p.Traits)
            .ToHashSet();
        var missing = PoseLibrary.Traits.Where(t => !shown.Contains(t)).Select(PoseLibrary.Word).ToList();
        if (missing.Count > 0)
            Notes.Add(new("near", $"Not shown yet: {Say.List(missing)}."));
    }

    /// <summary>Minutes with a model, or without one those in which is drawn.</summary>
    private static double Worked(Line m) =>
        m.Request.Wish.HasLiveModel ? m.Plan.PosedMinutes : m.Plan.Items.Where(i => i.Kind == ItemKind.Exercise).Sum(i => i.Minutes);

    /// <summary>The views of the term so far, and the one that nobody had in three meetings or more.</summary>
    private void AddViews()
    {
        var seated = Meetings.Where(m => m.Azimuths is { Length: > 0 } && m.Date <= Day).ToList();
        if (seated.Count == 0)
            return;
        var views = seated.SelectMany(m => m.Azimuths!).GroupBy(SeatPlanner.View).ToDictionary(g => g.Key, g => g.Count());
        var never = SeatPlanner.Views.Where(v => !views.ContainsKey(v)).ToList();
        var lacks = seated.Count >= 3 && never.Count > 0;
        var whose = Scope.IsStudent ? "Your views" : "Views";
        var had = string.Join(", ", SeatPlanner.Views.Where(views.ContainsKey).Select(v => $"{v} *{views[v]}*"));
        var advice = Scope.IsStudent ? "" : ": turn a long pose on the stand";
        var lacking = lacks ? $" Never {string.Join(" or ", never)}{advice}." : "";
        Notes.Add(new(lacks ? "near" : "holds", $"{whose}: {had}.{lacking}"));
    }

    /// <summary>The views of a meeting counted; a student's own in words.</summary>
    public static string Views(IReadOnlyList<double> azimuths, bool own)
    {
        if (own)
            return $"you: {SeatPlanner.View(azimuths[0])}";
        var count = azimuths.GroupBy(SeatPlanner.View).ToDictionary(g => g.Key, g => g.Count());
        return string.Join(", ", SeatPlanner.Views.Where(count.ContainsKey).Select(v => $"{count[v]} {v}"));
    }

    /// <summary>A meeting on every free date of a weekly rule.</summary>
    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostTermAsync(DateOnly first, int count, int every, Purpose purpose, bool online)
    {
        var rung = Ladder.Default.Get(Course.Rung);
        var model =
            Course.Approach != Approach.LongFirst || rung.Live ? ModelKind.Person
            : rung.Model == "cast" ? ModelKind.Cast
            : ModelKind.StillLife;
        var wish = new PlanWish
        {
            Minutes = Course.Minutes,
            Approach = Course.Approach,
            Purpose = purpose,
            Students = await db.Memberships.CountAsync(m => m.CourseId == Course.Id && m.Role == CourseRole.Student),
            Model = model,
            Draped = Course.Minors || model is not ModelKind.Person,
            Shape = Shapes.Of(Course.Approach)[0].Id,
            Seed = first.DayNumber,
        };
        var request = new PlanRequest(wish) { Known = new() { Rung = Course.Approach == Approach.LongFirst ? Course.Rung : null } };
        var (planned, fallen, cannot) = await term.Plan(
            Course,
            new(LocalDate.FromDateOnly(first), Course.StartsAt, Course.Minutes, every, count),
            request,
            online
        );
        if (cannot.Count > 0)
            Problem =
                $"{cannot[0].Says}{(cannot[0].Nearest.TryGetValue("date", out var date) ? $" The nearest that holds is {date}." : "")}";
        else
        {
            var dates = Say.List([.. fallen.Select(f => $"{Words.ShortDay(f.Date)} ({f.Why})")]);
            var without = fallen.Count == 0 ? "" : $"; no meeting on {dates}";
            Said = $"{Say.Plural(planned, "meeting")} planned{without}.";
        }
        if (Problem is not null)
            Response.StatusCode = StatusCodes.Status400BadRequest;
        await Load();
        return Page();
    }

    private static readonly TimeSpan CalendarTakes = TimeSpan.FromSeconds(2);

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostCalendarAsync(IFormFile? calendar)
    {
        if (calendar is not { Length: > 0 })
            throw new InputException("no calendar was chosen", "Calendar", "an iCalendar file (.ics)");
        if (calendar.Length > Calendars.MostBytes)
            throw new InputException("the calendar is too large", "Calendar", $"up to {Calendars.MostBytes >> 20} MB");
        using var over = CancellationTokenSource.CreateLinkedTokenSource(HttpContext.RequestAborted);
        over.CancelAfter(CalendarTakes);
        var (off, bookings) = Calendars.Read(await calendar.Bytes(), Day.PlusMonths(-2), Day.PlusYears(1), Words.Zone(Course), over.Token);
        await term.SetCalendar(Course, off, bookings);
        var hit = await db
            .Meetings.AsNoTracking()
            .Where(m => m.CourseId == Course.Id && m.Date >= Day)
            .Select(m => new { m.Number, m.Date })
            .ToListAsync();
        var on = hit.Where(m => off.Any(o => o.Covers(m.Date))).ToList();
        var (fall, them) = on.Count == 1 ? ("falls", "it") : ("fall", "them");
        var which = Say.List([.. on.Select(m => $"Meeting {m.Number} on {Words.ShortDay(m.Date)}")]);
        var clash = on.Count == 0 ? "" : $" {which} now {fall} on a day off: move {them}.";
        var days = Say.Plural(off.Count, "day or break off", "days and breaks off");
        Said = $"{days} and {Say.Plural(bookings.Count, "booking")} read.{clash}";
        await Load();
        return Page();
    }

    public async Task<IActionResult> OnPostFeedAsync(bool renew)
    {
        await evenings.FeedLink(Course, renew && Scope.IsInstructor);
        return To("sessions");
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }
}
