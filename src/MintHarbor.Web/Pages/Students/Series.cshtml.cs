using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Students;

/// <summary>The same pose or head drawn again: attempts side by side and laid over one another, what moved beyond error, what stays wrong in all.</summary>
public sealed class SeriesModel(CourseScope scope, HarborContext db, SheetContexts contexts) : CoursePage(scope)
{
    /// <summary>Attempts that stand beside one another; of more the newest.</summary>
    public const int Most = 8;

    /// <summary>Seats so near to one another see the same, degrees; our own default.</summary>
    private const double SameSide = 20;

    /// <param name="Name">What is drawn again, in a few words.</param>
    public sealed record Group(string Name, IReadOnlyList<Sheet> Sheets)
    {
        public int Id => Sheets[0].Id;
    }

    public IReadOnlyList<Group> Groups { get; private set; } = [];
    public Group? Shown { get; private set; }
    public IReadOnlyList<SeriesRow> Rows { get; private set; } = [];

    /// <summary>The two that are laid over one another.</summary>
    public (Sheet Under, Sheet Over)? Laid { get; private set; }

    /// <param name="of">The first sheet of the series; none: the longest.</param>
    /// <param name="over">Laid over the first.</param>
    public async Task<IActionResult> OnGetAsync(int? of, int? over)
    {
        var who = Scope.Student!.PersonId;
        var sheets = await db
            .Sheets.AsNoTracking()
            .Where(s =>
                s.CourseId == Course.Id
                && s.StudentId == who
                && s.State != SheetState.Placing
                && s.State != SheetState.Example
                && s.FlatHash != null
            )
            .OrderByDescending(s => s.SubmittedAt)
            .Take(120)
            .Select(SheetContexts.AsJudged)
            .ToListAsync();
        sheets.Reverse();
        Groups = [.. Grouped(sheets).OrderByDescending(g => g.Sheets.Count).ThenByDescending(g => g.Sheets[^1].SubmittedAt)];
        Shown = of is { } id ? Groups.FirstOrDefault(g => g.Id == id) : Groups.FirstOrDefault();
        if (of is not null && Shown is null)
            return NotFound();
        if (Shown is null)
            return Page();
        var all = await contexts.Of(Shown.Sheets, Course);
        // An attempt without a view of its own is held against the first one's that has one.
        var held = all.FirstOrDefault(c => c.Reference is not null) is { } with ? all.Select(c => c.HeldLike(with)) : all;
        // Before its critique is released nothing of it is a student's to read.
        Rows = Series.Of([.. held.Select(c => Scope.IsStudent && c.Sheet.ReleasedAt is null ? [] : c.Findings)]);
        Laid = (Shown.Sheets[0], Shown.Sheets.FirstOrDefault(s => s.Id == over && s.Id != Shown.Id) ?? Shown.Sheets[^1]);
        return Page();
    }

    private List<Group> Grouped(IReadOnlyList<Sheet> sheets)
    {
        var groups = new List<List<Sheet>>();
        foreach (var s in sheets)
            if (groups.FirstOrDefault(g => g.Any(o => Same(o, s))) is { } own)
                own.Add(s);
            else
                groups.Add([s]);
        return [.. groups.Where(g => g.Count > 1).Select(g => new Group(Name(g[0]), [.. g.TakeLast(Most)]))];
    }

    private static bool Same(Sheet a, Sheet b) =>
        b.RedoOfId == a.Id
        || (a.Subject, a.View) == (b.Subject, b.View)
            && (
                a is { MeetingId: not null, PoseKey: not null } && (a.MeetingId, a.PoseKey) == (b.MeetingId, b.PoseKey)
                || a.Reference is { } p
                    && b.Reference is { } q
                    && (p.Pose, p.Body, p.Mirrored) == (q.Pose, q.Body, q.Mirrored)
                    && Math.Abs(((p.Azimuth - q.Azimuth + 540) % 360) - 180) <= SameSide
                || a.Subject == "head" && a.Exercise == b.Exercise && a.MeetingId is null && b.MeetingId is null
            );

    private static string Name(Sheet s) =>
        s.Reference is { } r ? $"{Core.Figure.FigureCatalogue.Poses.FirstOrDefault(p => p.Id == r.Pose)?.Name ?? r.Pose}, {s.View}"
        : s.Subject == "head" ? $"head, {s.View}"
        : $"{s.Pose}, {s.View}";

    /// <summary>What all attempts say together.</summary>
    public IReadOnlyList<Note> Together
    {
        get
        {
            var stays = Rows.Count(r => r.StaysWrong);
            var (closer, off) = (Rows.Count(r => r.Moved is Moved.Closer), Rows.Count(r => r.Moved is Moved.Further or Moved.Across));
            return
            [
                new(
                    stays > 0 ? "outside" : "holds",
                    stays > 0
                        ? $"*{Core.Say.Plural(stays, "measure")}* wrong on every attempt, each time to the same side: a habit, to be corrected once."
                        : "Nothing is wrong on every attempt.",
                    null,
                    "outside its tolerance on all attempts that have it, two at least, on the same side"
                ),
                new(
                    "holds",
                    $"*{closer}* came closer from the first to the last, *{off}* went off.",
                    null,
                    "moved: by more than the uncertainty of both drawings together"
                ),
            ];
        }
    }

    /// <summary>The transform that lays one attempt over another by the landmarks that both have; null where they share fewer than three.</summary>
    public static string? Over(Sheet sheet, Sheet under)
    {
        var pairs = sheet.Landmarks.Where(m => under.Landmarks.ContainsKey(m.Key)).Select(m => (m.Value, under.Landmarks[m.Key])).ToList();
        if (pairs.Count < 3 || Similarity.Fit(pairs) is not { } fit)
            return null;
        return string.Create(
            CultureInfo.InvariantCulture,
            $"translate({fit.Shift.X:0.##} {fit.Shift.Y:0.##}) rotate({fit.TurnDegrees:0.###}) scale({fit.Scale:0.####})"
        );
    }

    /// <summary>What a row says of the way from its first attempt to its last.</summary>
    public static (string Css, string Says) Word(SeriesRow r) =>
        r.StaysWrong ? ("chalk", r.Moved is Moved.Closer ? "closer, still wrong in all" : "wrong in all: a habit")
        : r.Moved is { } moved ? Critique.CompareModel.Word(moved)
        : ("lead", "");
}
