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
    private const float Mm = 72f / 25.4f,
        PageWidth = 210,
        PageHeight = 297,
        Border = 15,
        SheetWidth = 120,
        Gap = 5;

    public static byte[] Draw(PrintedSheet sheet, PrintFaces faces)
    {
        using var to = new MemoryStream();
        using (
            var document = SKDocument.CreatePdf(
                to,
                new SKDocumentPdfMetadata
                {
                    Title = sheet.Title,
                    Creator = "Mint Harbor",
                    RasterDpi = 300,
                }
            )
        )
        {
            var canvas = document.BeginPage(PageWidth * Mm, PageHeight * Mm);
            canvas.Scale(Mm);
            new Page(canvas, faces).Draw(sheet);
            document.EndPage();
            document.Close();
        }
        return to.ToArray();
    }

    private sealed class Page(SKCanvas canvas, PrintFaces faces)
    {
        private readonly SKPaint ink = new() { Color = new(0x22, 0x30, 0x2E), IsAntialias = true };
        private readonly SKPaint lead = new() { Color = new(0x4F, 0x5B, 0x58), IsAntialias = true };
        private readonly SKPaint line = new()
        {
            Color = new(0x22, 0x30, 0x2E),
            IsStroke = true,
            StrokeWidth = 0.2f,
            IsAntialias = true,
        };
        private readonly SKPaint hair = new()
        {
            Color = new(0xA0, 0xA6, 0xA0),
            IsStroke = true,
            StrokeWidth = 0.12f,
            IsAntialias = true,
        };
        private readonly SKPaint mint = new() { Color = new(0xBF, 0xE3, 0xD3), IsAntialias = true };

        /// <summary>Points of type in millimetres.</summary>
        private static SKFont Font(SKTypeface face, float points) =>
            new(face, points / Mm)
            {
                Subpixel = true,
                LinearMetrics = true,
                Hinting = SKFontHinting.None,
            };

        public void Draw(PrintedSheet sheet)
        {
            float y = Border;
            Text(sheet.Over, Border, y + 3, faces.Italic, 11, lead);
            y += 12;
            Text(sheet.Title, Border, y, faces.Title, 24, ink);
            y += 6;
            Text(sheet.Facts, Border, y, faces.Text, 10, lead);
            y = Strip(sheet, Border, y + 6, PageWidth - (2 * Border));
            var top = y + 7;
            y = Rows(sheet.Rows, Border, top);
            Notes(sheet.Notes, Border + SheetWidth + Gap, top, PageWidth - (2 * Border) - SheetWidth - Gap);
            // A ruler of 100 mm, so that a printout's scale can be checked.
            var rule = PageHeight - Border - 8;
            canvas.DrawLine(Border, rule, Border + 100, rule, line);
            for (var mm = 0; mm <= 100; mm += 10)
                canvas.DrawLine(Border + mm, rule, Border + mm, rule - (mm % 50 == 0 ? 2 : 1.2f), line);
            Text("100 mm", Border + 102, rule + 0.5f, faces.Figures, 8, lead);
            Text(sheet.Foot, Border, PageHeight - Border, faces.Italic, 10, lead);
        }

        private float Strip(PrintedSheet sheet, float left, float top, float width)
        {
            var total = sheet.Items.Sum(i => i.Minutes);
            if (total <= 0)
                return top;
            const float step = 3.6f;
            float foot = top + (5 * step) + 4,
                k = (float)(width / total);
            foreach (var i in sheet.Items)
            {
                float x = left + ((float)i.At * k),
                    w = (float)i.Minutes * k;
                switch (i.Kind)
                {
                    case ItemKind.Rest or ItemKind.Break:
                        // Hatched, a break crossed: read without colour.
                        canvas.Save();
                        canvas.ClipRect(new(x, foot - (5 * step), x + w, foot));
                        for (var c = x - 12; c < x + w + 12; c += 1.5f)
                        {
                            canvas.DrawLine(c, foot, c + 10, foot - (5 * step), line);
                            if (i.Kind == ItemKind.Break)
                                canvas.DrawLine(c + 10, foot, c, foot - (5 * step), hair);
                        }
                        canvas.Restore();
                        break;
                    case ItemKind.Exercise when i.Posed:
                        foreach (var run in i.PoseRuns())
                            Box(
                                left + ((float)run.At * k),
                                foot,
                                (float)run.Minutes * k,
                                TimingRules.Default.Limit(run.Strain).Height * step
                            );
                        break;
                    case ItemKind.Exercise:
                        Box(x, foot, w, 2 * step);
                        break;
                }
            }
            canvas.DrawLine(left, foot, left + width, foot, line);
            for (var m = 0; m <= total; m += 5)
                canvas.DrawLine(left + (m * k), foot, left + (m * k), foot + (m % 30 == 0 ? 2.2f : 1.1f), line);
            for (var m = 0; m <= total; m += 30)
                Text(sheet.Time(m), left + (m * k) - (m == 0 ? 0 : 3.5f), foot + 6, faces.Figures, 9, ink);
            return foot + 8;
        }

        private void Box(float x, float foot, float w, float h)
        {
            canvas.DrawRect(x, foot - h, w, h, mint);
            canvas.DrawRect(x, foot - h, w, h, line);
        }

        private float Rows(IReadOnlyList<PrintedRow> rows, float left, float top)
        {
            // A long evening is set smaller rather than on a second page: it is pinned up.
            var room = PageHeight - Border - 16 - top;
            var each = Math.Min(9.4f, room / Math.Max(1, rows.Count));
            var size = each >= 9 ? 10.5f : Math.Max(6.5f, each * 1.12f);
            canvas.DrawLine(left, top, left + SheetWidth, top, line);
            var y = top;
            foreach (var r in rows)
            {
                var at = y + (each * 0.44f);
                Text(r.At, left, at, faces.Figures, size, ink);
                Text(r.Minutes, left + 14, at, faces.Figures, size, ink);
                Text(r.Name, left + 34, at, r.Rest ? faces.Italic : faces.Strong, size, ink);
                Text(Cut(r.Says, SheetWidth - 34, faces.Text, size - 1.5f), left + 34, at + (each * 0.42f), faces.Text, size - 1.5f, lead);
                if (r.Paper != "")
                    Right(r.Paper, left + SheetWidth, at, faces.Text, size - 1, lead);
                y += each;
                canvas.DrawLine(left, y, left + SheetWidth, y, hair);
            }
            return y;
        }

        private void Notes(IReadOnlyList<string> notes, float left, float top, float width)
        {
            canvas.DrawLine(left - 2.5f, top, left - 2.5f, PageHeight - Border - 14, line);
            var y = top + 3.5f;
            using var font = Font(faces.Text, 9.5f);
            foreach (var note in notes)
            {
                foreach (var row in Wrapped(note, width, font))
                {
                    if (y > PageHeight - Border - 14)
                        return;
                    canvas.DrawText(row, left, y, SKTextAlign.Left, font, ink);
                    y += 4.2f;
                }
                y += 2.6f;
            }
        }

        private static IEnumerable<string> Wrapped(string text, float width, SKFont font)
        {
            var row = "";
            foreach (var word in text.Split(' ', StringSplitOptions.RemoveEmptyEntries))
            {
                var longer = row == "" ? word : $"{row} {word}";
                if (row != "" && font.MeasureText(longer) > width)
                {
                    yield return row;
                    row = word;
                }
                else
                    row = longer;
            }
            if (row != "")
                yield return row;
        }

        private static string Cut(string text, float width, SKTypeface face, float points)
        {
            using var font = Font(face, points);
            while (text.Length > 4 && font.MeasureText(text) > width)
                text = text[..^2].TrimEnd(' ', '…') + "…";
            return text;
        }

        private void Text(string text, float x, float y, SKTypeface face, float points, SKPaint paint)
        {
            using var font = Font(face, points);
            canvas.DrawText(text, x, y, SKTextAlign.Left, font, paint);
        }

        private void Right(string text, float x, float y, SKTypeface face, float points, SKPaint paint)
        {
            using var font = Font(face, points);
            canvas.DrawText(text, x, y, SKTextAlign.Right, font, paint);
        }
    }
}
