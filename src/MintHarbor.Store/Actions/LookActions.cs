using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Technique;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>A mark as it is asked for.</summary>
public sealed record MarkAsked(MarkKind Kind, bool OfReference, IReadOnlyList<Vec2> At, PatchMethod? Method = null, PatchStep? Step = null);

/// <summary>What is marked on a sheet by hand and laid over it. One at a time writes a sheet's: two people's marks stand beside one another.</summary>
public sealed class LookActions(HarborContext db, IClock clock, PictureService pictures, AreaReadings areas)
{
    /// <summary>More on one sheet is a drawing of its own.</summary>
    public const int Most = 26,
        MostPlaces = 400;

    public Task<LookedSheet?> Of(int sheet) => db.LookedSheets.AsNoTracking().SingleOrDefaultAsync(l => l.SheetId == sheet);

    /// <exception cref="InputException">No mark of that kind, or one that says nothing.</exception>
    public async Task Add(Sheet sheet, MarkAsked asked, string by)
    {
        Check(sheet, asked);
        var read = asked.Kind is MarkKind.Tone or MarkKind.Patch ? await Read(sheet, asked.At) : null;
        if (read is not null && asked.Method is { } method)
            read = Patch.As(method, read);
        await Change(sheet, by, row =>
        {
            if (row.Marks.Count >= Most)
                throw new InputException($"{Most} marks stand on it", "at", "one taken away first");
            var name = Enumerable.Range(0, Most).Select(n => ((char)('A' + n)).ToString()).First(n => row.Marks.All(m => m.Name != n));
            row.Marks = [.. row.Marks, new(name, asked.Kind, asked.OfReference, asked.At, asked.Method, asked.Step, read)];
        });
    }

    private static void Check(Sheet sheet, MarkAsked asked)
    {
        var edge = asked.Kind is MarkKind.Edge or MarkKind.Parallel;
        var (least, most) = edge ? (2, 2) : (3, MostPlaces);
        if (asked.At.Count < least || asked.At.Count > most)
            throw new InputException(
                $"a mark of {Say.Plural(asked.At.Count, "place")}",
                "at",
                least == most ? "two clicks, one on each end" : $"an outline of {least} to {most} places"
            );
        if (asked.At.Any(p => !p.IsFinite || p.X < -1 || p.Y < -1 || p.X > sheet.PaperWidthMm + 1 || p.Y > sheet.PaperHeightMm + 1))
            throw new InputException("a place beside the sheet", "at", "millimetres on the sheet");
        if (edge && new MarkedEdge(asked.At[0], asked.At[1]).Length < MarkedEdges.Least)
            throw new InputException("both clicks lie on one place", "at", $"two ends {Say.Number(MarkedEdges.Least)} mm apart or more");
        if (asked.Kind is MarkKind.Shape or MarkKind.Ellipse)
            ShapeMeasures.Of(asked.At);
        if (asked.Kind == MarkKind.Patch && (asked.Method is null || asked.Step is null))
            throw new InputException("a patch without its place in the row", "method", "how it is laid, and light, middle or dark");
        if (asked is { OfReference: true, Kind: MarkKind.Tone or MarkKind.Patch })
            throw new InputException("tone of what lies over the sheet", "kind", "tone of the drawing");
    }

    private async Task<AreaMeasures> Read(Sheet sheet, IReadOnlyList<Vec2> outline)
    {
        var read = sheet.FlatHash is { } flat ? await areas.Of(flat, sheet.PaperWidthMm, pictures) : null;
        return read is null
            ? throw new InputException("nothing is drawn on this sheet that could be read", "at", "a sheet with a drawing on it")
            : read.Of(outline);
    }

    public Task Remove(Sheet sheet, string? name, string by) =>
        Change(sheet, by, row => row.Marks = [.. row.Marks.Where(m => m.Name != name)]);

    /// <summary>Lays something over the sheet, or takes it off.</summary>
    /// <param name="seen">The version that was looked at; 0 where there was none.</param>
    /// <exception cref="ClashException">Somebody else moved it since.</exception>
    public async Task Lay(Sheet sheet, LaidOverSheet? over, uint seen, string by)
    {
        if (over is { } o)
        {
            double most = 4 * Math.Max(sheet.PaperWidthMm, sheet.PaperHeightMm);
            if (!(o.Width >= 10 && o.Width <= most && Math.Abs(o.X) <= most && Math.Abs(o.Y) <= most && Math.Abs(o.Turn) <= 180))
                throw new InputException(
                    "it would lie nowhere on the sheet",
                    "width",
                    $"10 to {Say.Number(most)} mm wide, turned by up to 180°"
                );
            if (o.Kind == OverKind.Sheet && !await Others(sheet).AnyAsync(s => s.Id == o.SheetId))
                throw new InputException("that is no drawing of the same student", "sheet", "another sheet of theirs");
        }
        await Change(sheet, by, row =>
        {
            if (row.Version != seen && row.Over != over)
                throw new ClashException($"{row.By} has laid something else over this sheet in the meantime.");
            row.Over = over;
        });
    }

    /// <summary>Other drawings of the same student that could be laid over it.</summary>
    public IQueryable<Sheet> Others(Sheet sheet) =>
        db
            .Sheets.AsNoTracking()
            .Where(s => s.CourseId == sheet.CourseId && s.StudentId == sheet.StudentId && s.Id != sheet.Id && s.FlatHash != null);

    /// <summary>Keeps a photograph of what was drawn, to be laid over the sheet; it lies in the middle at first.</summary>
    /// <param name="instead">Whether it takes the place of whatever else lies there: what staff has laid is not a student's to move.</param>
    public async Task Photograph(Sheet sheet, Func<Task<byte[]>> file, string by, bool instead)
    {
        using var open = await pictures.Take(file);
        var shown = PictureService.Made(open.Kept.Hash, PictureService.Screen, open.Photo);
        string? before = null;
        await Change(
            sheet,
            by,
            row =>
            {
                before = row.PhotoHash;
                (row.PhotoHash, row.PhotoShape) = (open.Kept.Hash, open.Photo.Height / (double)open.Photo.Width);
                if (instead || row.Over is null or { Kind: OverKind.Photo })
                    row.Over = new(OverKind.Photo, 0, sheet.PaperWidthMm / 2, sheet.PaperHeightMm / 2, sheet.PaperWidthMm * 0.8, 0);
            },
            () => pictures.Keep([open.Kept, shown]),
            () => pictures.Drop(before == open.Kept.Hash ? null : before)
        );
    }

    private async Task Change(Sheet sheet, string by, Action<LookedSheet> change, Func<Task>? first = null, Func<Task>? last = null)
    {
        await using var turn = db.Database.CurrentTransaction is null ? await db.Database.BeginTransactionAsync() : null;
        await Turns.Hold(db, $"looked {sheet.Id}");
        if (first is not null)
            await first();
        var row = await db.LookedSheets.AsTracking().SingleOrDefaultAsync(l => l.SheetId == sheet.Id);
        if (row is null)
            db.LookedSheets.Add(row = new() { SheetId = sheet.Id });
        // Marks of another straightening lie beside their places.
        if (row.Of != (sheet.FlatHash ?? ""))
            (row.Of, row.Marks) = (sheet.FlatHash ?? "", []);
        change(row);
        (row.By, row.At) = (by, clock.GetCurrentInstant());
        await db.SaveChangesAsync();
        if (last is not null)
            await last();
        if (turn is not null)
            await turn.CommitAsync();
    }
}
