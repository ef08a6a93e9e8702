using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;
using NodaTime;

namespace MintHarbor.Web.Pages.Students;

/// <summary>The class over the term: what its critiques name most, what was planned against it, and whether it helped.</summary>
[For(CourseRole.Instructor, CourseRole.Assistant)]
public sealed class TermModel(CourseScope scope, HarborContext db, IClock clock) : CoursePage(scope)
{
    /// <param name="Students">How many of the class have it.</param>
    /// <param name="Against">Days on which something was planned against it.</param>
    public sealed record Shared(Fault Fault, int Students, FaultOverTerm Over, IReadOnlyList<LocalDate> Against);

    public sealed record Row(int Id, string Name, int Here, int Counted, int Sheets, int Answered, int Released, FaultOverTerm? Own);

    public IReadOnlyList<Shared> Faults { get; private set; } = [];
    public IReadOnlyList<Row> Rows { get; private set; } = [];
    public int Critiqued { get; private set; }
    public List<Note> Notes { get; } = [];

    public async Task OnGetAsync()
    {
        var sheets = await TermSheets.Of(db, Course.Id, null, clock.GetCurrentInstant(), false);
        List<CritiquedSheet> critiqued = [.. sheets.Where(s => s.Critiqued).Select(s => s.As(Course))];
        Critiqued = critiqued.Count;
        var planned = await PlannedAsync();
        Faults =
        [
            .. TermRecord
                .Common(critiqued)
                .Select(id => Course.Shelf.Fault(id))
                .OfType<Fault>()
                .Take(8)
                .Select(f => Told(f, critiqued, planned)),
        ];
        Rows = await RowsOf(sheets, critiqued);
        Say();
    }

    private static Shared Told(Fault fault, IReadOnlyList<CritiquedSheet> sheets, IReadOnlyList<Planned> planned)
    {
        var days = TermRecord.Against(fault.Id, fault.Exercise, fault.Drill, sheets, planned);
        var over = days is [var first, ..]
            ? TermRecord.Since(fault.Id, sheets, first)
            : TermRecord.Recurring(sheets).First(f => f.Fault == fault.Id);
        return new(fault, sheets.Where(s => s.Faults.Contains(fault.Id)).Select(s => s.Student).Distinct().Count(), over, days);
    }

    /// <summary>What evenings that have been drew, and what was given for home.</summary>
    private async Task<IReadOnlyList<Planned>> PlannedAsync()
    {
        var today = Words.Today(Course, clock.GetCurrentInstant());
        var meetings = await db
            .Meetings.AsNoTracking()
            .Where(m => m.CourseId == Course.Id && m.Date <= today)
            .Select(m => new { m.Date, m.Plan })
            .ToListAsync();
        var given = await db
            .Assignments.AsNoTracking()
            .Where(a => a.CourseId == Course.Id && a.PaperBatch == null)
            .Select(a => new
            {
                a.GivenAt,
                a.Exercise,
                a.Drill,
            })
            .Distinct()
            .ToListAsync();
        return
        [
            .. meetings.SelectMany(m =>
                m.Plan.Items.Where(i => i.Kind == ItemKind.Exercise).Select(i => new Planned(m.Date, i.Exercise, null)).Distinct()
            ),
            .. given.Select(a => new Planned(Words.Local(a.GivenAt, Course).Date, a.Exercise, a.Drill)),
        ];
    }

    private async Task<IReadOnlyList<Row>> RowsOf(IReadOnlyList<TermSheets.Row> sheets, IReadOnlyList<CritiquedSheet> critiqued)
    {
        var members = await db
            .Memberships.AsNoTracking()
            .Where(m => m.CourseId == Course.Id && m.Role == CourseRole.Student)
            .OrderBy(m => m.Person.Name)
            .Select(m => new
            {
                m.PersonId,
                m.Person.Name,
                Here = db.Presences.Count(p => p.PersonId == m.PersonId && p.Meeting.CourseId == m.CourseId && p.Present),
                Counted = db.Presences.Count(p => p.PersonId == m.PersonId && p.Meeting.CourseId == m.CourseId),
            })
            .ToListAsync();
        var of = sheets.ToLookup(s => s.Student);
        return
        [
            .. members.Select(m =>
            {
                var own = of[m.PersonId].Where(s => s.Stands is not (SheetState.Placing or SheetState.Kept)).ToList();
                var released = own.Where(s => s.Released is not null).ToList();
                return new Row(
                    m.PersonId,
                    m.Name,
                    m.Here,
                    m.Counted,
                    own.Count,
                    released.Count(s => s.Answered is not null || s.Stands == SheetState.Redone),
                    released.Count,
                    TermRecord.Recurring([.. critiqued.Where(s => s.Student == m.PersonId)]).FirstOrDefault()
                );
            }),
        ];
    }

    private void Say()
    {
        if (Faults.FirstOrDefault() is not { } most)
        {
            Notes.Add(new("unknown", "No two critiques name the same fault yet."));
            return;
        }
        Notes.Add(
            new(
                "near",
                $"Most share: {most.Fault.Name.ToLowerInvariant()}, *{Core.Say.Plural(most.Students, "student")}*.",
                null,
                most.Fault.Principle
            )
        );
        var exercise = Course.Shelf.Exercise(most.Fault.Exercise)?.Name;
        Notes.Add(
            most.Against.Count == 0
                ? new(
                    "blocked",
                    exercise is null ? "Nothing was planned against it yet." : $"Nothing was planned against it yet. {exercise} mends it.",
                    null,
                    null,
                    null,
                    $"/courses/{Course.Id}/sessions/plan",
                    "plan a meeting"
                )
                : new(
                    most.Over.Trend == Trend.Fell ? "holds"
                        : most.Over.Trend == Trend.TooFew ? "unknown"
                        : "near",
                    $"Planned against it {Core.Say.Plural(most.Against.Count, "time")} since {Words.ShortDay(most.Against[0])}: {most.Over.Says}.",
                    null,
                    $"sheets before that day against those from it on; a share {Core.Say.Number(FaultOverTerm.Apart * 100)} points lower counts as fallen, a default of ours"
                )
        );
        foreach (var mended in Faults.Skip(1).Where(f => f.Against.Count > 0 && f.Over.Trend == Trend.Fell).Take(2))
            Notes.Add(new("holds", $"{mended.Fault.Name} fell: {mended.Over.Counts}."));
    }
}
