using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Rooms;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Drawing;
using MintHarbor.Web.Pages.Critique;
using MintHarbor.Web.Pages.Shared;
using NodaTime;

namespace MintHarbor.Web.Pages.Students;

/// <summary>One student's record: drill curve, sheets, what they show.</summary>
public sealed class RecordModel(
    CourseScope scope,
    HarborContext db,
    RoomActions rooms,
    MemberActions members,
    Together together,
    IClock clock
) : CoursePage(scope), IShowsProblems
{
    public sealed record Piece(int Id, string Code, SheetState State);

    public List<(Drill Drill, IReadOnlyList<Pictures.Round> Rounds)> Curves { get; } = [];
    public IReadOnlyList<Piece> Sheets { get; private set; } = [];
    public List<Note> Notes { get; } = [];
    public IReadOnlyList<SaidLine> Said { get; private set; } = [];

    /// <summary>Drawing hand and what their place must have.</summary>
    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostSeatAsync(Hand hand, List<string>? needs)
    {
        var member = await db.Memberships.SingleAsync(m => m.CourseId == Course.Id && m.PersonId == Scope.Student!.PersonId);
        await rooms.SetStudent(member, hand, needs ?? []);
        return To($"students/{Scope.Student!.PersonId}");
    }

    /// <summary>Under 18, or of age with a reason.</summary>
    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostAgeAsync(bool minor, string? reason)
    {
        await members.SetMinor(Course, Scope.Student!.Person, minor, reason);
        return To($"students/{Scope.Student!.PersonId}");
    }

    /// <summary>A guardian's consent that pictures leave the course, or its end.</summary>
    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostConsentAsync(DateOnly? on, string? use)
    {
        await members.Consent(Scope.Student!, on is { } d ? LocalDate.FromDateOnly(d) : null, use);
        return To($"students/{Scope.Student!.PersonId}");
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostRemoveAsync(string? reason)
    {
        await members.Remove(Course, Scope.Student!, reason);
        return To("students");
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await OnGetAsync();
        return Page();
    }

    /// <summary>What recurs on their sheets: asked for when the page stands, since every sheet is judged for it.</summary>
    public async Task<IActionResult> OnGetTogetherAsync()
    {
        var recurs = await together.OfTerm(Course, Scope.Student!.PersonId);
        if (Fragment)
            return Partial("_Notes", recurs);
        await OnGetAsync();
        (Recurs, ReadTogether) = (recurs, true);
        return Page();
    }

    public IReadOnlyList<Note> Recurs { get; private set; } = [];
    public bool ReadTogether { get; private set; }

    /// <summary>The term on one line of days; null before anything was done.</summary>
    public HtmlString? Chart { get; private set; }

    /// <summary>Faults that recur on critiqued sheets, and whether they fell.</summary>
    public IReadOnlyList<FaultOverTerm> Faults { get; private set; } = [];

    /// <summary>What was given to be done at home, and projects; null until asked for.</summary>
    public Beside? Rest { get; private set; }

    /// <param name="Given">Exercises and drills given, and how many are done.</param>
    /// <param name="HomeMinutes">Of those that are done.</param>
    /// <param name="Ways">Projects, each with where its way stands.</param>
    public sealed record Beside(int Given, int Done, int Late, int HomeMinutes, IReadOnlyList<(int Id, string Name, string Says)> Ways);

    public async Task OnGetAsync()
    {
        var who = Scope.Student!.PersonId;
        var now = clock.GetCurrentInstant();
        var rounds = await TermRounds.Of(db, Course.Id, who, 240);
        foreach (var drill in Drills.All)
        {
            var own = rounds.Where(r => r.Kind == drill.Kind).TakeLast(30).ToList();
            if (own.Count > 0)
                Curves.Add(
                    (
                        drill,
                        [
                            .. own.Select(r => new Pictures.Round(
                                Words.Local(r.At, Course).ToString("d MMM", null),
                                r.Bias ?? 0,
                                r.Spread ?? 0,
                                r.Allowed(drill)
                            )),
                        ]
                    )
                );
            Read(drill, own);
        }
        var sheets = await TermSheets.Of(db, Course.Id, who, now, Scope.IsStudent);
        Sheets = [.. sheets.AsEnumerable().Reverse().Select(s => new Piece(s.Id, s.Code, s.Stands))];
        var evenings = await Evenings(who);
        Said =
        [
            .. evenings
                .SelectMany(e => e.Notes.Select(n => new SaidLine(e.Date, e.StartsAt, n)))
                .OrderByDescending(n => n.Note.At)
                .Take(20),
        ];
        Attendance([.. evenings.Where(e => e.Present is not null)]);
        Sheeted(sheets);
        Chart = Charted(rounds, sheets, evenings);
    }

    /// <summary>A meeting at which they were counted, or of which something was said.</summary>
    private sealed record Evening(
        LocalDate Date,
        LocalTime StartsAt,
        Core.Sessions.Proposal Plan,
        bool? Present,
        List<string>? Ticks,
        List<RoomNote> Notes
    );

    /// <summary>Something said in the room, with its evening.</summary>
    public sealed record SaidLine(LocalDate Date, LocalTime StartsAt, RoomNote Note);

    private async Task<List<Evening>> Evenings(int who)
    {
        var student = Scope.IsStudent;
        var all = await db
            .Meetings.AsNoTracking()
            .Where(m => m.CourseId == Course.Id)
            .Select(m => new
            {
                m.Date,
                m.StartsAt,
                m.Plan,
                There = db
                    .Presences.Where(p => p.MeetingId == m.Id && p.PersonId == who)
                    .Select(p => new { p.Present, p.Ticks })
                    .FirstOrDefault(),
                Notes = db.RoomNotes.Where(n => n.MeetingId == m.Id && n.StudentId == who && (n.Shared || !student)).ToList(),
            })
            .Where(m => m.There != null || m.Notes.Count > 0)
            .OrderBy(m => m.Date)
            .ToListAsync();
        return [.. all.Select(m => new Evening(m.Date, m.StartsAt, m.Plan, m.There?.Present, m.There?.Ticks, m.Notes))];
    }

    private void Attendance(IReadOnlyList<Evening> evenings)
    {
        if (evenings.Count == 0)
            return;
        var drawn = evenings
            .Where(e => e.Present == true)
            .Sum(e => e.Plan.Items.Where(i => i.Kind == Core.Sessions.ItemKind.Exercise).Sum(i => i.Minutes));
        Notes.Add(
            new(
                "holds",
                $"Here at *{evenings.Count(e => e.Present == true)}* of {Say.Plural(evenings.Count, "meeting")}, {Say.Number(drawn / 60, 1)} h at the easel."
            )
        );
        var ticks = evenings.SelectMany(e => e.Ticks ?? []).GroupBy(t => t).OrderByDescending(g => g.Count()).Take(3).ToList();
        if (ticks.Count > 0)
            Notes.Add(
                new(
                    "holds",
                    $"Seen in the room: {Say.List([.. ticks.Select(t => $"{Core.Sessions.EyeTicks.Name(t.Key)} *{t.Count()}×*")])}."
                )
            );
    }

    /// <summary>What the critiques name again and again, and what became of them.</summary>
    private void Sheeted(IReadOnlyList<TermSheets.Row> sheets)
    {
        var critiqued = sheets.Where(s => s.Critiqued).ToList();
        Faults = [.. TermRecord.Recurring([.. critiqued.Select(s => s.As(Course))]).Take(8)];
        var waiting = sheets.Count(s => s.Stands is SheetState.Waiting or SheetState.Drafted);
        if (waiting > 0)
            Notes.Add(new("near", $"*{waiting}* of {Say.Plural(sheets.Count, "sheet")} not yet critiqued."));
        var released = sheets.Where(s => s.Released is not null).ToList();
        if (released.Count > 0)
        {
            var answered = released.Count(s => s.Answered is not null || s.Stands == SheetState.Redone);
            Notes.Add(
                new(
                    answered == released.Count ? "holds" : "near",
                    $"*{answered}* of {Say.Plural(released.Count, "critique")} answered or drawn again."
                )
            );
        }
    }

    private HtmlString? Charted(IReadOnlyList<TermRounds.Row> rounds, IReadOnlyList<TermSheets.Row> sheets, IReadOnlyList<Evening> evenings)
    {
        LocalDate Day(Instant at) => Words.Local(at, Course).Date;
        List<TermChart.DrillDot> drills =
        [
            .. rounds
                .Select(r => (Round: r, Drill: Drills.Find(r.Kind)))
                .Where(x => x.Drill is not null)
                .Select(x => new TermChart.DrillDot(
                    Day(x.Round.At),
                    x.Drill!.Name,
                    (Math.Abs(x.Round.Bias ?? 0) + (x.Round.Spread ?? 0)) / x.Round.Allowed(x.Drill)
                )),
        ];
        List<TermChart.SheetMark> marks =
        [
            .. sheets
                .Where(s => s.Stands is not (SheetState.Placing or SheetState.Kept))
                .Select(s => new TermChart.SheetMark(Day(s.At), s.Code, s.As(Course).Faults.Count, s.Critiqued)),
        ];
        List<TermChart.EveningMark> there =
        [
            .. evenings.Where(e => e.Present is not null).Select(e => new TermChart.EveningMark(e.Date, e.Present == true)),
        ];
        List<LocalDate> days = [.. drills.Select(d => d.Day), .. marks.Select(m => m.Day), .. there.Select(e => e.Day)];
        return days.Count == 0 ? null : TermChart.Draw(days.Min(), days.Max().PlusDays(1), there, drills, marks);
    }

    /// <summary>A trend as the margin's shapes say it.</summary>
    public static HtmlString Mark(Trend t) =>
        Marks.Shape(
            t switch
            {
                Trend.Fell => "holds",
                Trend.Rose => "outside",
                Trend.Stayed => "near",
                _ => "unknown",
            }
        );

    /// <summary>What was given and done at home, and where they stand in projects: asked for when the page stands.</summary>
    public async Task<IActionResult> OnGetRestAsync()
    {
        var rest = await Loaded(Scope.Student!.PersonId);
        if (Fragment)
            return Partial("Students/_Rest", (Course, rest));
        await OnGetAsync();
        Rest = rest;
        return Page();
    }

    private async Task<Beside> Loaded(int who)
    {
        var now = clock.GetCurrentInstant();
        var given = await db
            .Assignments.AsNoTracking()
            .Where(a => a.CourseId == Course.Id && a.StudentId == who)
            .Select(a => new
            {
                a.Minutes,
                a.Due,
                a.DoneAt,
            })
            .ToListAsync();
        var works = await db
            .ProjectWorks.AsNoTracking()
            .Include(w => w.Project)
            .Where(w => w.StudentId == who && w.Project.CourseId == Course.Id)
            .OrderByDescending(w => w.Project.Ends)
            .Take(12)
            .ToListAsync();
        return new(
            given.Count,
            given.Count(g => g.DoneAt is not null),
            given.Count(g => g.DoneAt is null && g.Due < now),
            given.Where(g => g.DoneAt is not null).Sum(g => g.Minutes),
            [
                .. works.Select(w =>
                    (
                        w.Id,
                        w.Project.Name,
                        w.Current is { } stage
                            ? $"{Say.Plural(w.StagesDone.Count, "stage")} of {w.Project.Shape.Stages.Count}, at {stage.Name}"
                            : "all stages"
                    )
                ),
            ]
        );
    }

    private void Read(Drill drill, IReadOnlyList<TermRounds.Row> rounds)
    {
        if (rounds.Count == 0)
            return;
        var place = $"curve-{drill.Kind}";
        var last = rounds[^1];
        Notes.Add(
            new(
                "holds",
                $"{drill.Name}: {last.Hits} of {drill.Length} right in the last round, at the end difficulty *{Say.Number(last.EndDifficulty ?? 0, 1)}*.",
                place,
                $"right within {drill.SayWidth(last.Allowed(drill))} at the round's start; the staircase goes one step easier after a miss and one harder after two right (Levitt 1971)"
            )
        );
        if (drill.Signed && Math.Abs(last.Bias ?? 0) > (last.Spread ?? 0) / 2 && Math.Abs(last.Bias ?? 0) > last.Hardest(drill))
            Notes.Add(new("near", $"Leans *{drill.SayError(last.Bias!.Value)}* on the whole: one habit, to be corrected once.", place));
        if (drill.Threshold(rounds.SelectMany(r => r.Answers.Zip(r.Truths))) is { } t)
            Notes.Add(
                new(
                    "holds",
                    $"Three of four answers lie within *{drill.SayWidth(t.Width)}* ({drill.SayWidth(t.Least)} to {drill.SayWidth(t.Most)}).",
                    place,
                    $"by greatest likelihood from all {t.Answers} answers, on a psychometric function with 1 % slips (Wichmann and Hill 2001); the interval holds with 90 %"
                )
            );
        if (rounds.Count <= 2)
            return;
        var (first, now) = (rounds.Take(2).Average(r => r.Spread ?? 0), rounds.TakeLast(2).Average(r => r.Spread ?? 0));
        Notes.Add(
            new(
                now < first ? "holds" : "near",
                $"Scatter {(now < first ? "fell" : "rose")} from {drill.SayWidth(first)} to *{drill.SayWidth(now)}*.",
                place
            )
        );
    }
}
