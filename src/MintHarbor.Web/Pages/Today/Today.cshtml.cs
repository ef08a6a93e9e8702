using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;
using NodaTime;

namespace MintHarbor.Web.Pages.Today;

public sealed class TodayModel(CourseScope scope, HarborContext db, IClock clock) : CoursePage(scope)
{
    public sealed record WaitingSheet(int Id, string Student, string Code, string Question, SheetState State, Instant At);

    public Instant Now { get; } = clock.GetCurrentInstant();
    public LocalDate Day => Words.Today(Course, Now);
    public Meeting? Next { get; private set; }
    public double? NowMinutes { get; private set; }
    public IReadOnlyList<WaitingSheet> Waiting { get; private set; } = [];
    public IReadOnlyList<(int StudentId, string Student, string What, int Count, Instant Since)> Overdue { get; private set; } = [];
    public IReadOnlyList<Assignment> Due { get; private set; } = [];
    public IReadOnlyList<Sheet> Unplaced { get; private set; } = [];
    public Sheet? Last { get; private set; }
    public List<Note> Notes { get; } = [];

    public async Task OnGetAsync()
    {
        // Tonight's meeting stays the next one until the day is over.
        Next = await db
            .Meetings.AsNoTracking()
            .Where(m => m.CourseId == Course.Id && m.Date >= Day)
            .OrderBy(m => m.Date)
            .ThenBy(m => m.StartsAt)
            .Select(m => new Meeting
            {
                Id = m.Id,
                Number = m.Number,
                Date = m.Date,
                StartsAt = m.StartsAt,
                Minutes = m.Minutes,
                Request = m.Request,
                Plan = m.Plan,
                Acts = m.Acts,
            })
            .FirstOrDefaultAsync();
        if (Next is { Begun: true })
        {
            var r = Next.Reading(Now);
            NowMinutes = r.Started ? r.MinutesRun : null;
        }
        if (Scope.IsStudent)
            await LoadStudent();
        else
            await LoadInstructor();
    }

    private async Task LoadStudent()
    {
        Due = await db
            .Assignments.AsNoTracking()
            .Where(a => a.CourseId == Course.Id && a.StudentId == Me.PersonId && a.DoneAt == null)
            .OrderBy(a => a.Due)
            .ToListAsync();
        Unplaced = await db
            .Sheets.AsNoTracking()
            .Where(s => s.CourseId == Course.Id && s.StudentId == Me.PersonId && s.State == SheetState.Placing)
            .OrderBy(s => s.SubmittedAt)
            .ToListAsync();
        Last = await db
            .Sheets.AsNoTracking()
            .Where(s => s.CourseId == Course.Id && s.StudentId == Me.PersonId && s.ReleasedAt != null)
            .OrderByDescending(s => s.ReleasedAt)
            .FirstOrDefaultAsync();
    }

    private async Task LoadInstructor()
    {
        Waiting = await db
            .Sheets.Where(s => s.CourseId == Course.Id && (s.State == SheetState.Waiting || s.State == SheetState.Drafted))
            .OrderBy(s => s.SubmittedAt)
            .Take(12)
            .Select(s => new WaitingSheet(s.Id, s.Student.Name, s.Code, s.Question, s.State, s.SubmittedAt))
            .ToListAsync();
        var overdue = await db
            .Assignments.AsNoTracking()
            .Include(a => a.Student)
            .Where(a => a.CourseId == Course.Id && a.DoneAt == null && a.Due < Now)
            .OrderBy(a => a.Due)
            .ThenBy(a => a.Id)
            .Take(200)
            .ToListAsync();
        Overdue =
        [
            .. overdue
                .GroupBy(a => (a.StudentId, a.Student.Name, What: Words.Of(a, Course)))
                .Select(g => (g.Key.StudentId, g.Key.Name, g.Key.What, g.Count(), g.Min(a => a.Due)))
                .Take(12),
        ];
        NoteFaults(await NamedFaults.Since(db, Course.Id, Now - Duration.FromDays(8)));
        if (Waiting.Count > 0)
            Notes.Add(
                new(
                    "near",
                    $"*{Say.Plural(Waiting.Count, "drawing")}* wait{(Waiting.Count == 1 ? "s" : "")}, the oldest since {Words.When(Waiting[0].At, Course)}.",
                    "waiting"
                )
            );
        if (Overdue.Count > 0)
            Notes.Add(new("near", $"*{Say.Plural(Overdue.Count, "student")}* behind with what was given.", "overdue"));
        if (Next is { } m)
            Notes.Insert(
                0,
                new(
                    "holds",
                    $"*{Say.Number(m.Plan.PosedMinutes)} min* posed of {m.Minutes}; {string.Join(", ", m.Plan.Paper.Select(p => $"{p.Sheets} {p.Kind}"))} for {m.Request.Wish.Students}.",
                    "next",
                    string.Join(" ", m.Plan.Rules.Where(r => r.Id.StartsWith("rest", StringComparison.Ordinal)).Select(r => r.Says))
                )
            );
    }

    /// <summary>The fault that most drawings of the last week share, with what trains it.</summary>
    private void NoteFaults(List<NamedFaults.Named> named)
    {
        var commented = named.Select(n => n.Sheet).Distinct().Count();
        var most = named
            .Where(n => n.Fault is not null)
            .GroupBy(n => n.Fault!)
            .OrderByDescending(g => g.Count())
            .ThenBy(g => Course.Shelf.Fault(g.Key)?.Family)
            .FirstOrDefault();
        if (most is null || Course.Shelf.Fault(most.Key) is not { } fault)
        {
            Notes.Add(new("unknown", "No fault was named in the last week yet."));
            return;
        }
        var exercise = Course.Shelf.Exercise(fault.Exercise);
        Notes.Add(
            new(
                "near",
                $"Most share: {fault.Name.ToLowerInvariant()}, on *{most.Count()} of {commented}* sheets critiqued this week.{(exercise is null ? "" : $" {exercise.Name} trains it, {exercise.MinutesText}.")}",
                null,
                $"{fault.Principle} Counted: sheets of the last eight days whose critique names the fault."
            )
        );
    }
}
