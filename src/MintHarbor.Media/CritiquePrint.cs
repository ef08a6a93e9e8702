using System.Globalization;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Geometry;
using SkiaSharp;

namespace MintHarbor.Media;

/// <summary>One remark as it is printed.</summary>
/// <param name="Priority">1 to 3; null for what stands beside them.</param>
/// <param name="Says">What to do, of a priority; else what is seen.</param>
/// <param name="Facts">Where, what, why, the drill: a label and its words each.</param>
/// <param name="Spot">Millimetres on the sheet; null where it speaks of no place.</param>
public sealed record PrintedRemark(int? Priority, string Says, IReadOnlyList<(string Label, string Words)> Facts, Vec2? Spot);

/// <summary>What stands on a critique's page.</summary>
/// <param name="Numbers">What was measured, a sentence each.</param>
/// <param name="Picture">The flat sheet, encoded.</param>
public sealed record PrintedCritique(
    string Over,
    string Question,
    string Facts,
    string Review,
    IReadOnlyList<PrintedRemark> Remarks,
    IReadOnlyList<string> Numbers,
    string Foot,
    byte[] Picture,
    double WidthMm,
    double HeightMm
);

/// <summary>Draws a critique as a page to take home: the sheet, a numbered leader from each place to its remark, then what was measured. What
/// doesn't fit beside the sheet goes on under it, and over the page.</summary>
public static class CritiquePrint
{
    private const float Border = PrintPen.Border,
        Gap = 9,
        FootRoom = 12,
        Points = 11,
        Row = Points / PrintPen.Mm * 1.28f;

    /// <summary>Share of the width that the sheet takes, and of the page's height at the most.</summary>
    private const float SheetWide = 0.56f,
        SheetTall = 0.58f;

    public static byte[] Draw(PrintedCritique critique, PaperSize paper, PrintFaces faces)
    {
        float width = (float)paper.WidthMm,
            height = (float)paper.HeightMm;
        using var sheet = SKImage.FromEncodedData(critique.Picture) ?? throw new ArgumentException("no picture", nameof(critique));
        // Laid once to learn how many pages it takes, then drawn.
        var flow = new Flow(critique, sheet, faces, width, height);
        return PrintPen.Document(
            $"Critique of {critique.Facts}",
            faces,
            [.. Enumerable.Range(0, flow.Pages).Select(n => (Action<PrintPen>)(pen => flow.Draw(pen, n)))],
            width,
            height
        );
    }

    /// <summary>A row of words at its place.</summary>
    private sealed record Words(int Page, string Text, float X, float Y, SKTypeface Face, float Points, bool Quiet);

    /// <summary>What goes where: rows of words over pages, and the leaders of the first.</summary>
    private sealed class Flow
    {
        private readonly List<Words> rows = [];
        private readonly List<(Vec2 Spot, string Number, SKPoint? To)> leaders = [];
        private readonly PrintedCritique critique;
        private readonly SKImage sheet;
        private readonly PrintFaces faces;
        private readonly SKRect plate;
        private readonly float width,
            height,
            top;

        public Flow(PrintedCritique critique, SKImage sheet, PrintFaces faces, float width, float height)
        {
            (this.critique, this.sheet, this.faces, this.width, this.height) = (critique, sheet, faces, width, height);
            top = Head();
            plate = Plate();
            var beside = plate.Right + Gap;
            var (page, y) = (0, top + 4);
            var left = critique.Remarks.ToList();
            while (left.Count > 0 && Tall(left[0], width - Border - beside) + y <= Math.Max(plate.Bottom, height * SheetTall))
            {
                y = Remark(left[0], 0, beside, y, width - Border - beside, leader: true);
                left.RemoveAt(0);
            }
            y = Math.Max(y, plate.Bottom + 8);
            foreach (var r in left)
            {
                (page, y) = Room(page, y, Tall(r, width - (2 * Border)));
                y = Remark(r, page, Border, y, width - (2 * Border), leader: false);
            }
            if (critique.Numbers.Count > 0)
            {
                (page, y) = Room(page, y, 4 * Row);
                rows.Add(new(page, "The numbers", Border, y + 2, faces.Title, 15, false));
                y += 8;
            }
            foreach (var says in critique.Numbers)
            {
                var lines = PrintPen.Wrapped(says, width - (2 * Border), faces.Text, Points);
                (page, y) = Room(page, y, lines.Count * Row);
                y = Lines(lines, page, Border, y, faces.Text, Points, false) + (Row * 0.35f);
            }
            Pages = page + 1;
        }

        public int Pages { get; }

        public void Draw(PrintPen pen, int page)
        {
            foreach (var r in rows.Where(r => r.Page == page))
                pen.Text(r.Text, r.X, r.Y, r.Face, r.Points, r.Quiet ? pen.Lead : pen.Ink);
            if (page == 0)
                Picture(pen);
            pen.Text(
                PrintPen.Cut(critique.Foot, width - (2 * Border) - 20, faces.Italic, Points),
                Border,
                height - Border,
                faces.Italic,
                Points,
                pen.Lead
            );
            if (Pages > 1)
                pen.Right($"{page + 1} of {Pages}", width - Border, height - Border, faces.Text, Points, pen.Lead);
        }

        private float Head()
        {
            var y = Border + 3f;
            rows.Add(new(0, critique.Over, Border, y, faces.Italic, Points, true));
            y += 9;
            y = Lines(
                PrintPen.Wrapped($"“{critique.Question}”", width - (2 * Border), faces.Title, 18),
                0,
                Border,
                y,
                faces.Title,
                18,
                false
            );
            y = Lines(
                PrintPen.Wrapped(critique.Facts, width - (2 * Border), faces.Text, Points),
                0,
                Border,
                y - 1,
                faces.Text,
                Points,
                true
            );
            return critique.Review == ""
                ? y
                : Lines(
                    PrintPen.Wrapped(critique.Review, width - (2 * Border), faces.Italic, 12),
                    0,
                    Border,
                    y + 1,
                    faces.Italic,
                    12,
                    true
                );
        }

        private SKRect Plate()
        {
            var (most, tall) = ((width - (2 * Border)) * SheetWide, (height * SheetTall) - top);
            var k = (float)Math.Min(most / critique.WidthMm, Math.Max(40, tall) / critique.HeightMm);
            return SKRect.Create(Border, top, (float)critique.WidthMm * k, (float)critique.HeightMm * k);
        }

        /// <summary>Where a block goes on: the same page, or the next one where it wouldn't fit.</summary>
        private (int Page, float Y) Room(int page, float y, float tall) =>
            y + tall <= height - Border - FootRoom ? (page, y) : (page + 1, Border + 6);

        private IReadOnlyList<string> Said(PrintedRemark r, float wide) =>
            PrintPen.Wrapped(r.Says, wide - 8, r.Priority is null ? faces.Text : faces.Strong, 12);

        private float Tall(PrintedRemark r, float wide) =>
            (Said(r, wide).Count * 12 / PrintPen.Mm * 1.28f)
            + (r.Facts.Sum(f => PrintPen.Wrapped($"{f.Label}: {f.Words}", wide - 8, faces.Text, Points).Count) * Row)
            + 4;

        private float Remark(PrintedRemark r, int page, float x, float y, float wide, bool leader)
        {
            var number = r.Priority?.ToString(CultureInfo.InvariantCulture) ?? "";
            // What stands under the sheet is told by its number alone.
            if (r.Spot is { } spot && (leader || r.Priority is not null))
                leaders.Add((spot, number, leader ? new SKPoint(x - 1.5f, y - 1.4f) : null));
            if (number != "")
                rows.Add(new(page, number, x, y, faces.Title, 16, false));
            y = Lines(Said(r, wide), page, x + 8, y, r.Priority is null ? faces.Text : faces.Strong, 12, false);
            foreach (var (label, words) in r.Facts)
                y = Lines(PrintPen.Wrapped($"{label}: {words}", wide - 8, faces.Text, Points), page, x + 8, y, faces.Text, Points, true);
            return y + 4;
        }

        private float Lines(IReadOnlyList<string> lines, int page, float x, float y, SKTypeface face, float points, bool quiet)
        {
            foreach (var line in lines)
            {
                rows.Add(new(page, line, x, y, face, points, quiet));
                y += points / PrintPen.Mm * 1.28f;
            }
            return y;
        }

        private void Picture(PrintPen pen)
        {
            var canvas = pen.Canvas;
            canvas.DrawImage(sheet, plate, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
            canvas.DrawRect(plate, pen.Hair);
            using var halo = new SKPaint
            {
                Color = new(0xFF, 0xFE, 0xFA),
                IsStroke = true,
                StrokeWidth = 1,
                IsAntialias = true,
            };
            using var white = new SKPaint { Color = halo.Color, IsAntialias = true };
            using var small = PrintPen.Font(faces.Strong, 9);
            foreach (var (spot, number, end) in leaders)
            {
                var at = new SKPoint(
                    plate.Left + (float)(spot.X / critique.WidthMm * plate.Width),
                    plate.Top + (float)(spot.Y / critique.HeightMm * plate.Height)
                );
                if (end is { } to)
                {
                    var bend = plate.Right + 2.5f;
                    foreach (var paint in new[] { halo, pen.Line })
                    {
                        canvas.DrawLine(at.X, at.Y, bend, to.Y, paint);
                        canvas.DrawLine(bend, to.Y, to.X, to.Y, paint);
                    }
                }
                canvas.DrawCircle(at, 2.4f, halo);
                canvas.DrawCircle(at, 2.2f, white);
                canvas.DrawCircle(at, 2.2f, pen.Line);
                if (number != "")
                    canvas.DrawText(number, at.X, at.Y + 1.2f, SKTextAlign.Center, small, pen.Ink);
            }
        }
    }
}
