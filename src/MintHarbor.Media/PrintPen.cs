using MintHarbor.Core.Sessions;
using SkiaSharp;

namespace MintHarbor.Media;

/// <summary>What printed pages are drawn with: A4 in millimetres, inks, faces, and the parts that recur.</summary>
internal sealed class PrintPen(SKCanvas canvas, PrintFaces faces) : IDisposable
{
    public const float Mm = 72f / 25.4f,
        PageWidth = 210,
        PageHeight = 297,
        Border = 15;

    public readonly SKPaint Ink = Fill(0x22, 0x30, 0x2E);
    public readonly SKPaint Lead = Fill(0x4F, 0x5B, 0x58);
    public readonly SKPaint Mint = Fill(0xBF, 0xE3, 0xD3);
    public readonly SKPaint Line = Stroke(0x22, 0x30, 0x2E, 0.2f);
    public readonly SKPaint Hair = Stroke(0xA0, 0xA6, 0xA0, 0.12f);

    public SKCanvas Canvas => canvas;
    public PrintFaces Faces => faces;

    /// <summary>A PDF of as many pages as are drawn.</summary>
    /// <param name="pages">Draws one page with a pen of its own.</param>
    /// <param name="width">Millimetres, as <paramref name="height"/>.</param>
    public static byte[] Document(
        string title,
        PrintFaces faces,
        IReadOnlyList<Action<PrintPen>> pages,
        float width = PageWidth,
        float height = PageHeight
    )
    {
        using var to = new MemoryStream();
        using (
            var document = SKDocument.CreatePdf(
                to,
                new SKDocumentPdfMetadata
                {
                    Title = title,
                    Creator = "Mint Harbor",
                    RasterDpi = 300,
                }
            )
        )
        {
            foreach (var page in pages)
            {
                var canvas = document.BeginPage(width * Mm, height * Mm);
                canvas.Scale(Mm);
                using var pen = new PrintPen(canvas, faces);
                page(pen);
                document.EndPage();
            }
            document.Close();
        }
        return to.ToArray();
    }

    private static SKPaint Fill(byte r, byte g, byte b) => new() { Color = new(r, g, b), IsAntialias = true };

    private static SKPaint Stroke(byte r, byte g, byte b, float width) =>
        new()
        {
            Color = new(r, g, b),
            IsStroke = true,
            StrokeWidth = width,
            IsAntialias = true,
        };

    /// <summary>Points of type in millimetres.</summary>
    public static SKFont Font(SKTypeface face, float points) =>
        new(face, points / Mm)
        {
            Subpixel = true,
            LinearMetrics = true,
            Hinting = SKFontHinting.None,
        };

    /// <summary>The head of a page.</summary>
    /// <returns>How far down it reaches.</returns>
    public float Head(string over, string title, string facts)
    {
        float y = Border;
        Text(over, Border, y + 3, faces.Italic, 11, Lead);
        y += 12;
        Text(title, Border, y, faces.Title, 24, Ink);
        y += 6;
        Text(facts, Border, y, faces.Text, 11, Lead);
        return y;
    }

    /// <summary>A ruler of 100 mm, so that a printout's scale can be checked, and one line under everything.</summary>
    /// <param name="height">Of the page.</param>
    public void Foot(string says, float height = PageHeight)
    {
        var rule = height - Border - 8;
        canvas.DrawLine(Border, rule, Border + 100, rule, Line);
        for (var mm = 0; mm <= 100; mm += 10)
            canvas.DrawLine(Border + mm, rule, Border + mm, rule - (mm % 50 == 0 ? 2 : 1.2f), Line);
        Text("100 mm", Border + 102, rule + 0.5f, faces.Figures, 8, Lead);
        Text(says, Border, height - Border, faces.Italic, 11, Lead);
    }

    /// <summary>The pose strip to scale; nothing of it leaves its width.</summary>
    public float Strip(IReadOnlyList<PlanItem> items, Func<double, string> time, float left, float top, float width)
    {
        var total = items.Sum(i => i.Minutes);
        if (total <= 0)
            return top;
        const float step = 3.6f;
        float foot = top + (5 * step) + 4,
            k = (float)(width / total);
        foreach (var i in items)
            Item(i, left, foot, step, k);
        canvas.DrawLine(left, foot, left + width, foot, Line);
        for (var m = 0; m <= total; m += 5)
            canvas.DrawLine(left + (m * k), foot, left + (m * k), foot + (m % 30 == 0 ? 2.2f : 1.1f), Line);
        using var font = Font(faces.Figures, 9);
        for (var m = 0; m <= total; m += 30)
        {
            var wide = font.MeasureText(time(m));
            var x = Math.Clamp(left + (m * k) - (wide / 2), left, left + width - wide);
            canvas.DrawText(time(m), x, foot + 6, SKTextAlign.Left, font, Ink);
        }
        return foot + 8;
    }

    private void Item(PlanItem i, float left, float foot, float step, float k)
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
                    canvas.DrawLine(c, foot, c + 10, foot - (5 * step), Line);
                    if (i.Kind == ItemKind.Break)
                        canvas.DrawLine(c + 10, foot, c, foot - (5 * step), Hair);
                }
                canvas.Restore();
                break;
            case ItemKind.Exercise when i.Posed:
                foreach (var run in i.PoseRuns())
                    Box(left + ((float)run.At * k), foot, (float)run.Minutes * k, TimingRules.Default.Limit(run.Strain).Height * step);
                break;
            case ItemKind.Exercise:
                Box(x, foot, w, 2 * step);
                break;
        }
    }

    private void Box(float x, float foot, float w, float h)
    {
        canvas.DrawRect(x, foot - h, w, h, Mint);
        canvas.DrawRect(x, foot - h, w, h, Line);
    }

    /// <summary>Paragraphs in a column; stops where the page does.</summary>
    /// <returns>How far down they reach.</returns>
    public float Paragraphs(IReadOnlyList<string> notes, float left, float top, float width, float points, float until)
    {
        var y = top;
        var row = points / Mm * 1.26f;
        using var font = Font(faces.Text, points);
        foreach (var note in notes)
        {
            foreach (var words in Wrapped(note, width, font))
            {
                if (y > until)
                    return y;
                canvas.DrawText(words, left, y, SKTextAlign.Left, font, Ink);
                y += row;
            }
            y += row * 0.6f;
        }
        return y;
    }

    /// <summary>A text in rows of a width, broken between words.</summary>
    public static IReadOnlyList<string> Wrapped(string text, float width, SKTypeface face, float points)
    {
        using var font = Font(face, points);
        return [.. Wrapped(text, width, font)];
    }

    private static IEnumerable<string> Wrapped(string text, float width, SKFont font)
    {
        var row = "";
        foreach (var word in text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).SelectMany(w => Pieces(w, width, font)))
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

    /// <summary>A word in pieces that each fit a row: one alone for all but the longest.</summary>
    private static IEnumerable<string> Pieces(string word, float width, SKFont font)
    {
        while (font.MeasureText(word) > width && font.BreakText(word, width) is var fits && fits > 0 && fits < word.Length)
        {
            yield return word[..fits];
            word = word[fits..];
        }
        yield return word;
    }

    public static string Cut(string text, float width, SKTypeface face, float points)
    {
        using var font = Font(face, points);
        while (text.Length > 4 && font.MeasureText(text) > width)
            text = text[..^2].TrimEnd(' ', '…') + "…";
        return text;
    }

    public void Text(string text, float x, float y, SKTypeface face, float points, SKPaint paint)
    {
        using var font = Font(face, points);
        canvas.DrawText(text, x, y, SKTextAlign.Left, font, paint);
    }

    public void Right(string text, float x, float y, SKTypeface face, float points, SKPaint paint)
    {
        using var font = Font(face, points);
        canvas.DrawText(text, x, y, SKTextAlign.Right, font, paint);
    }

    public void Dispose()
    {
        Ink.Dispose();
        Lead.Dispose();
        Mint.Dispose();
        Line.Dispose();
        Hair.Dispose();
    }
}
