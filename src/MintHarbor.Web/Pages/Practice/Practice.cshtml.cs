using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Practice;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Practice;

public sealed class PracticeModel(CourseScope scope, HarborContext db, PracticeActions practice, TakeBackActions back, IClock clock)
    : CoursePage(scope),
        IShowsProblems
{
    public sealed class AssignForm
    {
        public string What { get; set; } = Choice.Of(ClockHand.Drill);
        public int Minutes { get; set; } = 2;
        public DateTime Due { get; set; }
        public string? Note { get; set; }
        public List<int> Students { get; set; } = [];
    }

    /// <summary>Drills as they are offered: what the eye says, and what the hand draws.</summary>
    public static IReadOnlyList<(string Name, IReadOnlyList<Drill> Drills)> Groups { get; } =
    [
        ("By eye", [.. Drills.All.Where(d => d is not (HandDrill or AnatomyDrill))]),
        ("By hand", [.. HandDrills.All]),
        ("Under the skin", Drills.Anatomical),
    ];

    public sealed record Row(string What, string Who, int Done, int All, Instant Due, int Id);

    [BindProperty]
    public AssignForm Form { get; set; } = new();
    public IReadOnlyList<(int Id, string Name)> Students { get; private set; } = [];
    public IReadOnlyList<Row> Given { get; private set; } = [];
    public IReadOnlyList<string> Unfinished { get; private set; } = [];

    /// <summary>The run of days with a line, and whether today has one.</summary>
    public DailyRun Run { get; private set; } = DailyRun.Of([], default);
    public bool DrawnToday { get; private set; }

    /// <summary>What the last timed drawing taught; empty where nothing was said.</summary>
    public string LastTaught { get; private set; } = "";

    public Task OnGetAsync()
    {
        Form.Due = Words.Local(clock.GetCurrentInstant(), Course).PlusDays(7).Date.At(Course.StartsAt).ToDateTimeUnspecified();
        return Load();
    }

    private async Task Load()
    {
        if (Scope.IsStudent)
        {
            Unfinished = await db
                .DrillRounds.Where(r => r.CourseId == Course.Id && r.StudentId == Me.PersonId && r.FinishedAt == null)
                .Select(r => r.Kind)
                .ToListAsync();
            var today = SittingActions.Today(Course, clock.GetCurrentInstant());
            var days = await db
                .DailyLines.Where(l => l.CourseId == Course.Id && l.StudentId == Me.PersonId)
                .Select(l => l.Day)
                .ToListAsync();
            (Run, DrawnToday) = (DailyRun.Of(days, today), days.Contains(today));
            var last = await db
                .PracticeSittings.Where(s => s.CourseId == Course.Id && s.StudentId == Me.PersonId)
                .OrderByDescending(s => s.EndedAt)
                .Select(s => s.Log)
                .FirstOrDefaultAsync();
            LastTaught = last?.Taught.FirstOrDefault() ?? "";
            return;
        }
        Students = await db.StudentsOf(Course.Id);
        var given = await db
            .Assignments.AsNoTracking()
            .Include(a => a.Student)
            .Where(a => a.CourseId == Course.Id)
            .OrderByDescending(a => a.Due)
            .Take(300)
            .ToListAsync();
        Given =
        [
            .. given
                .GroupBy(a => (a.Exercise, a.Drill, a.PaperBatch, a.Due, a.GivenAt))
                .Take(12)
                .Select(g => new Row(
                    Words.Of(g.First(), Course),
                    g.Count() == Students.Count ? "all"
                        : g.Count() <= 2 ? string.Join(", ", g.Select(a => a.Student.Name))
                        : $"{g.Count()} students",
                    g.Count(a => a.DoneAt is not null),
                    g.Count(),
                    g.Key.Due,
                    g.First().Id
                )),
        ];
    }

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostAssignAsync()
    {
        await Load();
        var (exercise, drill) = Choice.Read(Form.What);
        var due = LocalDateTime.FromDateTime(Form.Due).InZoneLeniently(Words.Zone(Course)).ToInstant();
        await practice.Assign(
            Course,
            Form.Students.Count > 0 ? Form.Students : [.. Students.Select(s => s.Id)],
            exercise,
            drill,
            Form.Minutes,
            due,
            Form.Note ?? ""
        );
        return To("practice");
    }

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostWithdrawAsync(int assignment)
    {
        await back.Withdraw(Course, assignment);
        return To("practice");
    }

    [For(CourseRole.Student)]
    public async Task<IActionResult> OnPostDropAsync(string? kind)
    {
        var round = await db.DrillRounds.FirstOrDefaultAsync(r =>
            r.CourseId == Course.Id && r.StudentId == Me.PersonId && r.Kind == kind && r.FinishedAt == null
        );
        if (round is not null)
            await back.Drop(round);
        return To("practice");
    }

    [For(CourseRole.Student)]
    public async Task<IActionResult> OnPostBeginAsync(int? assignmentId, string? kind)
    {
        if (assignmentId is { } id)
        {
            var given = await db
                .Assignments.Where(a => a.Id == id && a.CourseId == Course.Id && a.StudentId == Me.PersonId)
                .Select(a => new { a.Drill })
                .SingleOrDefaultAsync();
            if (given is null)
                return NotFound();
            kind ??= given.Drill;
        }
        var seed = Math.Abs((clock.GetCurrentInstant().ToUnixTimeTicks() / 1000) + (Me.PersonId * 7919L)) % 1_000_000_000;
        var round = await practice.Begin(Course, Me.PersonId, kind ?? "", assignmentId, seed);
        return To($"practice/drill/{round.Id}");
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        if (Students.Count == 0)
            await Load();
        return Page();
    }
}

/// <summary>What is given as one choice of a list: an exercise by its id, a drill by its kind with a mark before it, for the two share ids.</summary>
public static class Choice
{
    private const string Mark = "drill:";

    public static string Of(Drill drill) => Mark + drill.Kind;

    public static (string? Exercise, string? Drill) Read(string choice) =>
        choice.StartsWith(Mark, StringComparison.Ordinal) ? (null, choice[Mark.Length..]) : (choice, null);
}
