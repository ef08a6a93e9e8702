using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;
using SkiaSharp;

namespace MintHarbor.Media;

/// <param name="Picture">The pose's small dark shape; null where there is none, and for a rest.</param>
public sealed record StandRow(string At, string Minutes, string Name, string Held, Silhouette? Picture);

/// <summary>What stands on the model's sheet.</summary>
/// <param name="Notes">Said once, on the last page.</param>
/// <param name="Foot">One line under every page.</param>
public sealed record PrintedStand(
    string Title,
    string Facts,
    string Over,
    IReadOnlyList<PlanItem> Items,
    Func<double, string> Time,
    IReadOnlyList<StandRow> Rows,
    IReadOnlyList<string> Notes,
    string Foot
);

/// <summary>Draws the model's sheet: it hangs by the stand and is read from it, so nothing is set under 11 points, each pose has its picture, and it
/// takes as many pages as that wants.</summary>
public static class StandSheet
{
    private const float Row = 15.5f,
        RestRow = 8.5f,
        Least = 11,
        Large = 12,
        Gap = 8,
        Width = PrintPen.PageWidth - (2 * PrintPen.Border),
        Column = (Width - Gap) / 2,
        Until = PrintPen.PageHeight - PrintPen.Border - 14,
        FirstTop = 76,
        NextTop = 38,
        NotesHeight = 42;

    /// <summary>One line in its place: column 0 or 1, and how far down.</summary>
    private sealed record Placed(StandRow Row, int Column, float Y);

    public static byte[] Draw(PrintedStand sheet, PrintFaces faces)
    {
        var pages = Laid(sheet.Rows);
        return PrintPen.Document(
            sheet.Title,
            faces,
            [.. pages.Select((rows, n) => (Action<PrintPen>)(pen => Page(pen, sheet, rows, n, pages.Count)))]
        );
    }

    /// <summary>The rows down one column, then the other, then over the page; the notes stand under the last.</summary>
    private static List<List<Placed>> Laid(IReadOnlyList<StandRow> rows)
    {
        // Both columns of the last page end over the notes; a page is added where that leaves too little.
        for (var pages = 1; ; pages++)
        {
            var laid = new List<List<Placed>>();
            var left = new Queue<StandRow>(rows);
            for (var n = 0; n < pages; n++)
            {
                var page = new List<Placed>();
                var until = n == pages - 1 ? Until - NotesHeight : Until;
                for (var column = 0; column < 2; column++)
                for (var y = Top(n); left.TryPeek(out var r) && y + Height(r) <= until; y += Height(r))
                    page.Add(new(left.Dequeue(), column, y));
                laid.Add(page);
            }
            if (left.Count == 0)
                return laid;
        }
    }

    private static float Top(int page) => page == 0 ? FirstTop : NextTop;

    private static float Height(StandRow r) => r.Picture is null ? RestRow : Row;

    private static void Page(PrintPen pen, PrintedStand sheet, List<Placed> rows, int page, int pages)
    {
        const float border = PrintPen.Border;
        var of = pages > 1 ? $", page {page + 1} of {pages}" : "";
        var y = pen.Head(sheet.Over, sheet.Title, $"{sheet.Facts}{of}");
        if (page == 0)
            pen.Strip(sheet.Items, sheet.Time, border, y + 4, Width);
        foreach (var r in rows)
            Line(pen, r.Row, border + (r.Column * (Column + Gap)), r.Y);
        if (page == pages - 1)
            pen.Paragraphs(sheet.Notes, border, Until - NotesHeight + 8, Width, Least, Until);
        pen.Foot(sheet.Foot);
    }

    private static void Line(PrintPen pen, StandRow r, float left, float y)
    {
        const float shape = 18,
            words = 32;
        var (height, faces) = (Height(r), pen.Faces);
        pen.Canvas.DrawLine(left, y, left + Column, y, pen.Hair);
        if (r.Picture is not { } picture)
        {
            var at = y + (height / 2) + 1.5f;
            pen.Text(r.At, left, at, faces.Figures, Large, pen.Ink);
            pen.Text($"{r.Name}, {r.Minutes}, {r.Held}", left + shape, at, faces.Italic, Large, pen.Ink);
            return;
        }
        pen.Text(r.At, left, y + (height / 2) - 0.6f, faces.Figures, Large, pen.Ink);
        pen.Text(r.Minutes, left, y + (height / 2) + 4.6f, faces.Figures, Large, pen.Ink);
        Shape(pen, picture, left + shape, y, height);
        Words(pen, r, left + words, y, Column - words);
    }

    /// <summary>The name and how it is held, wrapped; three lines in all.</summary>
    private static void Words(PrintPen pen, StandRow r, float left, float y, float width)
    {
        const float line = 4.7f;
        var faces = pen.Faces;
        var name = PrintPen.Wrapped(r.Name, width, faces.Strong, Large).Take(2).ToList();
        var held = PrintPen.Wrapped(r.Held, width, faces.Text, Least).Take(3 - name.Count).ToList();
        var at = y + ((Height(r) - ((name.Count + held.Count) * line)) / 2) + 3.6f;
        foreach (
            var (words, face, points, ink) in name.Select(w => (w, faces.Strong, Large, pen.Ink))
                .Concat(held.Select(w => (w, faces.Text, Least, pen.Lead)))
        )
        {
            pen.Text(words, left, at, face, points, ink);
            at += line;
        }
    }

    /// <summary>All at one scale, so that who lies is seen to lie; on the row's ground.</summary>
    private static void Shape(PrintPen pen, Silhouette shape, float x, float y, float height)
    {
        using var path = SKPath.ParseSvgPathData(shape.Path);
        if (path is null)
            return;
        path.FillType = SKPathFillType.EvenOdd;
        var k = (height - 1.6f) / 44;
        pen.Canvas.Save();
        pen.Canvas.Translate(x, y + height - 0.8f - ((float)shape.Height * k));
        pen.Canvas.Scale(k);
        pen.Canvas.DrawPath(path, pen.Ink);
        pen.Canvas.Restore();
    }
}
