using MintHarbor.Core;
using MintHarbor.Core.Sessions;
using SkiaSharp;

namespace MintHarbor.Media;

/// <summary>What stands on a printed sheet.</summary>
/// <param name="Title">Large, at the top; <paramref name="Facts"/> beside it, smaller.</param>
/// <param name="Notes">The margin on the right, one paragraph each.</param>
/// <param name="Foot">One line under everything.</param>
public sealed record PrintedSheet(
    string Title,
    string Facts,
    string Over,
    IReadOnlyList<PlanItem> Items,
    Func<double, string> Time,
    IReadOnlyList<PrintedRow> Rows,
    IReadOnlyList<string> Notes,
    string Foot
);

/// <param name="Minutes">As it is said: "10 × 1".</param>
public sealed record PrintedRow(string At, string Minutes, string Name, string Says, string Paper, bool Rest);

/// <summary>The faces that printed pages are set in: TrueType files of one folder.</summary>
public sealed class PrintFaces : IDisposable
{
    public SKTypeface Title { get; }
    public SKTypeface Italic { get; }
    public SKTypeface Text { get; }
    public SKTypeface Strong { get; }
    public SKTypeface Figures { get; }

    /// <exception cref="FileNotFoundException">A face isn't there: the assets were not built.</exception>
    public PrintFaces(string folder)
    {
        SKTypeface Face(string name) =>
            SKTypeface.FromFile(Path.Combine(folder, name + ".ttf")) ?? throw new FileNotFoundException($"no face {name} in {folder}");
        (Title, Italic, Text, Strong, Figures) = (
            Face("alegreya-500-normal"),
            Face("alegreya-400-italic"),
            Face("atkinson-hyperlegible-next-400-normal"),
            Face("atkinson-hyperlegible-next-600-normal"),
            Face("atkinson-hyperlegible-mono-400-normal")
        );
    }

    public void Dispose()
    {
        foreach (var f in new[] { Title, Italic, Text, Strong, Figures })
            f.Dispose();
    }
}

/// <summary>Draws one page of A4 to pin up: pose strip to scale, timetable, margin; reads without colour.</summary>
public static class SessionSheet
{
    private const float SheetWidth = 120,
        Gap = 5;

    public static byte[] Draw(PrintedSheet sheet, PrintFaces faces) => PrintPen.Document(sheet.Title, faces, [pen => Page(pen, sheet)]);

    private static void Page(PrintPen pen, PrintedSheet sheet)
    {
        const float border = PrintPen.Border;
        var y = pen.Head(sheet.Over, sheet.Title, sheet.Facts);
        var top = pen.Strip(sheet.Items, sheet.Time, border, y + 6, PrintPen.PageWidth - (2 * border)) + 7;
        Rows(pen, sheet.Rows, border, top);
        var left = border + SheetWidth + Gap;
        var until = PrintPen.PageHeight - border - 14;
        pen.Canvas.DrawLine(left - 2.5f, top, left - 2.5f, until, pen.Line);
        pen.Paragraphs(sheet.Notes, left, top + 3.5f, PrintPen.PageWidth - border - left, 9.5f, until);
        pen.Foot(sheet.Foot);
    }

    private static void Rows(PrintPen pen, IReadOnlyList<PrintedRow> rows, float left, float top)
    {
        // A long evening is set smaller rather than on a second page: it is pinned up. What is said of a line goes on under it, so that none of it is lost.
        const float under = 0.42f,
            width = SheetWidth - 34;
        var room = PrintPen.PageHeight - PrintPen.Border - 16 - top;
        var faces = pen.Faces;
        float Each(float lines) => Math.Min(9.4f, room / Math.Max(1, rows.Count + (under * lines)));
        float Size(float each) => each >= 9 ? 10.5f : Math.Max(6.5f, each * 1.12f);
        IReadOnlyList<string>[] Said(float size) => [.. rows.Select(r => PrintPen.Wrapped(r.Says, width, faces.Text, size - 1.5f))];
        var guess = Size(Each(Said(Size(Each(0))).Sum(s => Math.Max(0, s.Count - 1))));
        var said = Said(guess);
        var each = Each(said.Sum(s => Math.Max(0, s.Count - 1)));
        var size = Math.Min(guess, Size(each));
        pen.Canvas.DrawLine(left, top, left + SheetWidth, top, pen.Line);
        var y = top;
        foreach (var (r, words) in rows.Zip(said))
        {
            var at = y + (each * 0.44f);
            pen.Text(r.At, left, at, faces.Figures, size, pen.Ink);
            pen.Text(r.Minutes, left + 14, at, faces.Figures, size, pen.Ink);
            pen.Text(r.Name, left + 34, at, r.Rest ? faces.Italic : faces.Strong, size, pen.Ink);
            foreach (var (line, n) in words.Select((w, n) => (w, n)))
                pen.Text(line, left + 34, at + (each * under * (n + 1)), faces.Text, size - 1.5f, pen.Lead);
            if (r.Paper != "")
                pen.Right(r.Paper, left + SheetWidth, at, faces.Text, size - 1, pen.Lead);
            y += each + (each * under * Math.Max(0, words.Count - 1));
            pen.Canvas.DrawLine(left, y, left + SheetWidth, y, pen.Hair);
        }
    }
}
