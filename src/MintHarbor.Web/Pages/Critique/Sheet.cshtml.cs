using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>A sheet as its student reads it: nothing of a critique before it is released.</summary>
public sealed class SheetModel(
    CourseScope scope,
    HarborContext db,
    SheetActions sheets,
    SheetContexts contexts,
    TakeBackActions back,
    PictureService pictures,
    SheetChecks anatomy,
    Papers.Papers papers
) : CoursePage(scope), IShowsProblems
{
    /// <summary>Papers that a critique is printed on.</summary>
    private static readonly string[] Printed = ["A4", "letter"];

    public Sheet Sheet => Scope.Sheet!;
    public IReadOnlyList<Remark> Remarks => Sheet.ReleasedAt is null ? [] : Sheet.Remarks;
    public SheetContext? Judged { get; private set; }
    public IReadOnlyList<Finding> Findings => Judged?.Findings ?? [];
    public List<(string, string, Vec2)> Spots { get; } = [];
    public List<Note> Notes { get; } = [];
    public int? RedoneAs { get; private set; }
    public IReadOnlyDictionary<string, int> DrillAssignments { get; private set; } = new Dictionary<string, int>();

    /// <summary>Whether it was held against a still life.</summary>
    public bool Held { get; private set; }

    /// <summary>Whether something was marked on it by hand, or laid over it.</summary>
    public bool Looked { get; private set; }

    /// <summary>What came of what the critique prescribed, by the drill's kind.</summary>
    public IReadOnlyDictionary<string, Note> Came { get; private set; } = new Dictionary<string, Note>();

    private IReadOnlyList<SheetCheck> checks = [];

    /// <summary>The check of anatomy that a remark was found by; null where it was found otherwise.</summary>
    public SheetCheck? CheckOf(Remark r) =>
        r.Check is not { } key
            ? null
            // Held against another view since, the other side may be the one that is seen.
            : checks.FirstOrDefault(c => c.Key == key) ?? checks.FirstOrDefault(c => c.Check.Id == CheckOn.Read(key).Check.Id);

    public async Task<IActionResult> OnGetAsync()
    {
        if (!Scope.IsStudent && Sheet.ReleasedAt is null)
            return To($"critique/{Sheet.Id}/bench");
        if (Scope.IsStudent && Sheet.State == SheetState.Placing)
            return To($"critique/{Sheet.Id}/corners");
        await Load();
        return Page();
    }

    /// <summary>The critique as annotations of its picture; a student's once it is released.</summary>
    public IActionResult OnGetAnnotations()
    {
        if (Scope.IsStudent && Sheet.ReleasedAt is null)
            return NotFound();
        var page = $"{Request.Scheme}://{Request.Host}/courses/{Course.Id}/critique/{Sheet.Id}";
        var json = WebAnnotations.Write(page, $"{page}/picture/flat", Sheet.Remarks, Sheet.PaperWidthMm, Sheet.PaperHeightMm);
        return File(System.Text.Encoding.UTF8.GetBytes(json), "application/ld+json; charset=utf-8", $"{Sheet.Code}.annotations.json");
    }

    /// <summary>The critique as a page to take home; a student's once it is released.</summary>
    public async Task<IActionResult> OnGetPdfAsync(string? paper)
    {
        var on = paper ?? (Course.Inch ? "letter" : "A4");
        var size = PaperSize.Find(Printed.FirstOrDefault(p => p.Equals(on, StringComparison.OrdinalIgnoreCase)))
            ?? throw new InputException($"paper '{on}'", "paper", string.Join(" | ", Printed));
        if (Sheet.FlatHash is not { } flat || (Scope.IsStudent && Sheet.ReleasedAt is null))
            return NotFound();
        if (await pictures.Shown(flat, null, HttpContext.RequestAborted, Sheet.PaperWidthMm) is not { } picture)
            return NotFound();
        var numbers = (await contexts.Of(Sheet, Course))
            .Findings.Where(f => f.IsOutside && f.FollowsFrom is null)
            .Take(6)
            .Select(f => f.Says);
        var ink = TechniqueState.Findings(Sheet, Course).Where(f => f.Verdict == Core.Technique.TechniqueVerdict.Off).Select(f => f.Says);
        return File(
            papers.Critique(Course, Sheet, [.. numbers, .. ink], picture.Bytes, size),
            "application/pdf",
            $"critique-{Sheet.Code}.pdf"
        );
    }

    [For(CourseRole.Student)]
    public async Task<IActionResult> OnPostAnswerAsync(string? answer)
    {
        Stood.Check(Request, ("the answer", Sheet.Answer));
        await sheets.Reply(Sheet, answer ?? "");
        return To($"critique/{Sheet.Id}");
    }

    /// <summary>Handed in by mistake: it is the student's again.</summary>
    [For(CourseRole.Student)]
    public async Task<IActionResult> OnPostBackAsync()
    {
        await back.TakeBack(Sheet);
        return To($"critique/{Sheet.Id}/corners");
    }

    private async Task Load()
    {
        if (Sheet.ReleasedAt is null)
            return;
        Judged = await contexts.Of(Sheet, Course);
        if (Remarks.Any(r => r.Check is not null))
            checks = await anatomy.Of(Sheet, Course);
        foreach (var r in Remarks.Where(r => r is { Spot: not null, Priority: not null }))
            Spots.Add(($"spot-{r.Id}", r.Priority!.Value.ToString(System.Globalization.CultureInfo.InvariantCulture), r.Spot!.Value));
        foreach (var f in Findings.Where(f => f.IsOutside && f.FollowsFrom is null).Take(5))
            Notes.Add(new("outside", f.Says, null, f.Because));
        var inside = Findings.Count(f => f.Verdict == Verdict.Inside);
        if (inside > 0)
            Notes.Add(
                new(
                    "holds",
                    $"*{Say.Plural(inside, "measure")}* inside tolerance.",
                    null,
                    string.Join(" ", Findings.Where(f => f.Verdict == Verdict.Inside).Select(f => f.Says))
                )
            );
        if (Findings.Count == 0)
            Notes.Add(new("unknown", "No landmarks were placed; the instructor's eye speaks alone."));
        if (Judged.OwnReadings() is { } own)
            Notes.Add(
                new(
                    own.Same ? "holds" : "near",
                    own.Same
                        ? $"Your readings keep within *{own.Within} %* of the card: misdrawn, not misread."
                        : $"Your {own.Name} reads *{Say.Number(Math.Abs(own.OffPercent), 1)} %* off the card: misread before it was drawn."
                )
            );
        (RedoneAs, Held, Looked) = await db
            .Sheets.Where(s => s.Id == Sheet.Id)
            .Select(s => new ValueTuple<int?, bool, bool>(
                db.Sheets.Where(r => r.RedoOfId == s.Id && r.CourseId == s.CourseId).Max(r => (int?)r.Id),
                db.HeldSheets.Any(h => h.SheetId == s.Id),
                db.LookedSheets.Any(l => l.SheetId == s.Id)
            ))
            .SingleAsync();
        Came = await Results();
        if (Scope.IsStudent)
            DrillAssignments = (
                await db
                    .Assignments.Where(a => a.SheetId == Sheet.Id && a.StudentId == Me.PersonId && a.DoneAt == null && a.Drill != null)
                    .Select(a => new { a.Drill, a.Id })
                    .ToListAsync()
            )
                .GroupBy(a => a.Drill!)
                .ToDictionary(g => g.Key, g => g.First().Id);
    }

    /// <summary>The last round of each prescribed drill since the critique, and whether the measure it trains got better on the next drawing.</summary>
    private async Task<Dictionary<string, Note>> Results()
    {
        var kinds = Remarks.Where(r => r.Priority is not null).Select(r => r.Drill).OfType<string>().Distinct().ToList();
        if (kinds.Count == 0)
            return [];
        var rounds = await db
            .DrillRounds.AsNoTracking()
            .Where(r =>
                r.CourseId == Course.Id
                && r.StudentId == Sheet.StudentId
                && kinds.Contains(r.Kind)
                && r.FinishedAt != null
                && r.FinishedAt > Sheet.ReleasedAt
            )
            .Select(r => new
            {
                r.Kind,
                r.FinishedAt,
                r.Right,
                r.Bias,
            })
            .ToListAsync();
        if (rounds.Count == 0)
            return [];
        var points = await db
            .MeasurePoints.AsNoTracking()
            .Where(p => p.CourseId == Course.Id && p.StudentId == Sheet.StudentId && p.From == EvidenceOf.Sheet)
            .ToListAsync();
        return rounds
            .GroupBy(r => r.Kind)
            .ToDictionary(
                g => g.Key,
                g =>
                {
                    var drill = Drills.Get(g.Key);
                    var last = g.MaxBy(r => r.FinishedAt)!;
                    var moved = Stages.Trained(g.Key) is { } m
                        ? Transfer.Of(
                            m,
                            Sheet.Code,
                            g.Min(r => r.FinishedAt)!.Value,
                            points.Where(p => p.Measure == m.Id).Select(p => p.Point)
                        )
                        : null;
                    var done =
                        $"Done {Words.ShortDay(Words.Local(last.FinishedAt!.Value, Course).Date)}: *{last.Right} of {drill.Length}* right.";
                    return new Note(
                        moved?.Trend == Trend.Rose ? "near" : "holds",
                        moved is null ? done : $"{done} {char.ToUpperInvariant(moved.Says[0])}{moved.Says[1..]}.",
                        null,
                        moved is null ? null : "a difference of less than a fifth is none: one drawing is not another"
                    );
                }
            );
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }
}
