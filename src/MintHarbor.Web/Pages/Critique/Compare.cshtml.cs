using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>A sheet and its redo side by side, with the numbers that changed.</summary>
public sealed class CompareModel(CourseScope scope, HarborContext db, ReferenceViews references) : CoursePage(scope)
{
    public Sheet Sheet => Scope.Sheet!;
    public Sheet Before { get; private set; } = null!;
    public IReadOnlyList<BeforeAfter> Rows { get; private set; } = [];
    public int Closer => Rows.Count(r => r.Closer == true);

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
        var card = (await SheetCards.Load(db, before)).Instructor;
        // A redo that was not held against a view of its own is held against the first drawing's.
        var first = (await references.Of(before, Course))?.Seen;
        var again = (await references.Of(Sheet, Course))?.Seen ?? first;
        Rows = Comparison.Of(SheetJudging.Of(before, Course, card, first).Findings, SheetJudging.Of(Sheet, Course, card, again).Findings);
        return Page();
    }

    public string Name(string key) =>
        key switch
        {
            "F-heads" => "heads in the height",
            "F-mid" => "pubic bone, share of the height",
            "F-shoulder" => "shoulder breadth",
            "F-balance" => "plumb from the middle of the feet",
            "R-lean" => "lean of the whole figure",
            _ when key.StartsWith("R-", StringComparison.Ordinal) =>
                $"{key[(key.IndexOf(": ", StringComparison.Ordinal) + 2)..]}, {(key.StartsWith("R-length", StringComparison.Ordinal) ? "length" : "direction")}",
            _ => key.Contains(": ", StringComparison.Ordinal) ? key[(key.IndexOf(": ", StringComparison.Ordinal) + 2)..] : key,
        };

    public string Value(double? v, string unit) =>
        v is not { } x
            ? "–"
            : unit switch
            {
                "deg" => Core.Say.Number(x, 1) + "°",
                "mm" => Core.Say.Number(x, 0) + " mm",
                "share of height" => Core.Say.Number(x * 100, 1) + " %",
                _ => Core.Say.Fixed(x, 2),
            };

    public string Shape(Verdict v) =>
        v switch
        {
            Verdict.Inside => "holds",
            Verdict.Outside => "outside",
            Verdict.TooClose or Verdict.Pushed => "near",
            _ => "unknown",
        };
}
