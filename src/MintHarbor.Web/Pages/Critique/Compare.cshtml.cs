using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>A sheet and its redo side by side, with the numbers that changed.</summary>
public sealed class CompareModel(CourseScope scope, HarborContext db, SheetContexts contexts) : CoursePage(scope)
{
    public Sheet Sheet => Scope.Sheet!;
    public Sheet Before { get; private set; } = null!;
    public IReadOnlyList<BeforeAfter> Rows { get; private set; } = [];
    public int Further => Rows.Count(r => r.Moved == Moved.Further);
    public int Closer => Rows.Count(r => r.Moved == Moved.Closer);

    public async Task<IActionResult> OnGetAsync()
    {
        // A redo is of one's own sheet: whoever may see the one may see the other.
        var before = Sheet.RedoOfId is { } id
            ? await db
                .Sheets.AsNoTracking()
                .SingleOrDefaultAsync(s => s.Id == id && s.CourseId == Course.Id && s.StudentId == Sheet.StudentId)
            : null;
        if (before is null)
            return NotFound();
        Before = before;
        // A redo that was not held against a view of its own is held against the first drawing's.
        var both = await contexts.Of([before, Sheet], Course);
        // What the critique put first comes first.
        Rows = [.. Comparison.Of(both[0].Findings, both[1].HeldLike(both[0]).Findings).OrderBy(r => PriorityOf(r) ?? Priorities.Most + 1)];
        return Page();
    }

    /// <summary>The priority that the measure was in the first drawing's critique; null where it was none.</summary>
    public int? PriorityOf(BeforeAfter r) => Before.Remarks.FirstOrDefault(m => (m.Key ?? m.Rule) == r.Before.Key)?.Priority;

    /// <summary>What was measured, in words.</summary>
    public static string Name(Finding f) =>
        f.Rule.Quantity is { } quantity ? $"{f.Part}, {quantity}"
        : f.Rule.NamedWithPart && f.Part is not null ? $"{f.Rule.Name.ToLowerInvariant()}, {f.Part}"
        : f.Part ?? f.Rule.Name.ToLowerInvariant();

    /// <summary>A value of the measure; an edge beside what was wanted, without a jump of half a turn between neighbours.</summary>
    public static string Value(Finding f, double? v) =>
        v is not { } x ? "–"
        : f.Measure.Kind == MeasureKind.Angle ? Core.Say.Number(ClockAngle.Near(x, f.Expected!.Value), 1) + "°"
        : f.Unit switch
        {
            "deg" => Core.Say.Number(x, 1) + "°",
            "mm" => Core.Say.Number(x, 0) + " mm",
            "share of height" => Core.Say.Number(x * 100, 1) + " %",
            _ => Core.Say.Fixed(x, 2),
        };

    public static (string Css, string Says) Word(Moved m) =>
        m switch
        {
            Moved.Closer => ("deep", "moved"),
            Moved.Further => ("chalk", "moved the wrong way"),
            Moved.Across => ("chalk", "moved too far: as far off, on the other side"),
            _ => ("lead", "not moved"),
        };

    public static string Shape(Verdict v) =>
        v switch
        {
            Verdict.Inside => "holds",
            Verdict.Outside => "outside",
            Verdict.TooClose or Verdict.Pushed => "near",
            _ => "unknown",
        };
}
