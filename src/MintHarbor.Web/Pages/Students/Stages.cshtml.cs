using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Practice;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Drawing;
using MintHarbor.Web.Pages.Shared;
using Measuring = MintHarbor.Core.Practice.Stages;

namespace MintHarbor.Web.Pages.Students;

/// <summary>Where each measure of a student stands: by tool, by eye then check, by eye; what moved it, and all its evidence on one chart.</summary>
public sealed class StagesModel(CourseScope scope, HarborContext db, StageActions stages) : CoursePage(scope), IShowsProblems
{
    /// <summary>Evidence of a measure that its chart goes back.</summary>
    private const int Most = 60;

    /// <param name="Last">The last move; null where it never moved.</param>
    public sealed record Row(
        StagedMeasure Measure,
        MeasuringStage Stage,
        StageMove? Last,
        IReadOnlyList<StagePoint> Points,
        IReadOnlyList<StageMove> Moves
    );

    public Membership Student => Scope.Student!;
    public IReadOnlyList<Row> Rows { get; private set; } = [];

    public Task OnGetAsync() => Load();

    private async Task Load()
    {
        var who = Student.PersonId;
        var moves = await db
            .StageMoves.AsNoTracking()
            .Where(m => m.CourseId == Course.Id && m.StudentId == who)
            .OrderBy(m => m.At)
            .ToListAsync();
        var points = await db
            .MeasurePoints.AsNoTracking()
            .Where(p => p.CourseId == Course.Id && p.StudentId == who)
            .OrderByDescending(p => p.At)
            .Take(Most * Measuring.All.Count)
            .ToListAsync();
        Rows =
        [
            .. Measuring.All.Select(m =>
            {
                List<StageMove> own = [.. moves.Where(x => x.Measure == m.Id)];
                return new Row(
                    m,
                    own.Count > 0 ? own[^1].To : MeasuringStage.ByTool,
                    own.Count > 0 ? own[^1] : null,
                    [.. points.Where(p => p.Measure == m.Id).Take(Most).Select(p => p.Point)],
                    own
                );
            }),
        ];
    }

    /// <summary>Why it stands where it stands.</summary>
    public string Why(Row r) =>
        r.Last is not { } m
            ? r.Points.Count == 0
                ? "nothing to tell by yet"
                : "as everybody begins"
            : m.Evidence is { } e
                ? $"{Words.ShortDay(Words.Local(m.At, Course).Date)}: {Say.List([.. e.Points.OrderBy(p => p.At).Select(p => $"{p.Name} {Say.Number(p.Off, 1)}×")])}, "
                    + (
                        m.To > m.From
                            ? $"all within {Say.Number(e.Limit, 2)}× of what is asked"
                            : $"both beyond {Say.Number(e.Limit, 2)}× of what is asked"
                    )
                : $"{Words.ShortDay(Words.Local(m.At, Course).Date)}, by {m.By}: “{m.Word}”";

    /// <summary>Whether these numbers touch the grade: only where the instructor said so.</summary>
    public Note Graded =>
        Course.Book is { ByScore: true, Practice: > 0 }
            ? new("near", "Practice counts by what was measured in this course: rounds and drill sheets, not the drawings.")
            : new("holds", "Practice is graded on doing, never on these numbers.");

    public static string Said(Membership student) =>
        student.Eye switch
        {
            DominantEye.Left => "the left eye",
            DominantEye.Right => "the right eye",
            DominantEye.Neither => "neither clearly: keep to one, always the same",
            _ => "not tried yet",
        };

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostSayAsync(string? measure, MeasuringStage to, string? word)
    {
        await stages.Say(Course, Student.PersonId, measure, to, word, Me.Person.Name);
        return To($"students/{Student.PersonId}/stages");
    }

    /// <param name="stays">For each try "left" or "right": the eye that was open while the thumb stayed.</param>
    [For(CourseRole.Student)]
    public async Task<IActionResult> OnPostEyeAsync(List<string>? stays)
    {
        if (stays?.FirstOrDefault(s => s is not ("left" or "right")) is { } odd)
            throw new InputException($"an eye '{odd}'", "stays", "left | right");
        var member = await db.Memberships.SingleAsync(m => m.CourseId == Course.Id && m.PersonId == Student.PersonId);
        await stages.Eye(member, [.. (stays ?? []).Select(s => s == "right")]);
        return To($"students/{Student.PersonId}/stages#eye");
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        if (Rows.Count == 0)
            await Load();
        return Page();
    }
}
