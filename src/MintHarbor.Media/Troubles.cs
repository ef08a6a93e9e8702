using MintHarbor.Core.Geometry;
using MintHarbor.Core.Simulation;
using SkiaSharp;

namespace MintHarbor.Media;

/// <summary>What makes a photograph hard beyond a bad evening.</summary>
public enum Trouble
{
    None,

    /// <summary>Other sheets lie behind, a little aside, a little turned.</summary>
    Stack,

    /// <summary>Charcoal is rubbed up to the edge and over it.</summary>
    CharcoalToEdge,

    /// <summary>The wall behind is nearly as light as the paper.</summary>
    PaleWall,

    /// <summary>One corner lies outside the frame.</summary>
    CroppedCorner,
}

public static partial class StudioCamera
{
    /// <summary>Sheets behind the front one, each with its own thin shadow on what lies below.</summary>
    private static string Pile(SKCanvas canvas, View view, SeededRandom random, double w, double h)
    {
        var count = 1 + random.Next(4);
        var (dx, dy) = (random.Between(-1, 1), random.Between(-1, 1));
        for (var n = count; n > 0; n--)
        {
            // A pile slides to one side, no sheet quite as the last.
            var reach = n * random.Between(4, 22);
            Vec2 shift = new((dx * reach) + random.Normal(3), (dy * reach) + random.Normal(3));
            var turn = random.Normal(0.012);
            var (sin, cos) = Math.SinCos(turn);
            (double X, double Y) At(double x, double y) =>
                (
                    (w / 2) + ((x - (w / 2)) * cos) - ((y - (h / 2)) * sin) + shift.X,
                    (h / 2) + ((x - (w / 2)) * sin) + ((y - (h / 2)) * cos) + shift.Y
                );
            using var behind = view.Path(At(0, 0), At(w, 0), At(w, h), At(0, h));
            using var shadow = new SKPaint
            {
                Color = new SKColor(20, 18, 16, (byte)random.Between(50, 120)),
                MaskFilter = SKMaskFilter.CreateBlur(SKBlurStyle.Normal, (float)random.Between(2, 6)),
            };
            canvas.DrawPath(behind, shadow);
            var tone = random.Normal(3);
            byte Shade(int of) => (byte)Math.Clamp(of + tone, 0, 255);
            using var fill = new SKPaint { IsAntialias = true, Color = new SKColor(Shade(244), Shade(239), Shade(226)) };
            canvas.DrawPath(behind, fill);
        }
        return $", {count} behind";
    }

    /// <summary>Broad soft tone along one or two sides, as the side of a stick leaves it, up to the rim.</summary>
    private static void Rub(SKBitmap sheet, SeededRandom random)
    {
        using var canvas = new SKCanvas(sheet);
        for (var sides = 1 + random.Next(2); sides > 0; sides--)
        {
            var side = random.Next(4);
            double from = random.Between(0, 0.5),
                to = random.Between(from + 0.3, 1.05),
                depth = random.Between(0.03, 0.22);
            using var rub = new SKPaint
            {
                IsAntialias = true,
                Style = SKPaintStyle.Stroke,
                StrokeCap = SKStrokeCap.Round,
                MaskFilter = SKMaskFilter.CreateBlur(SKBlurStyle.Normal, 2),
            };
            for (var n = 0; n < 90; n++)
            {
                var along = random.Between(from, to);
                var length = random.Between(0.02, 0.10);
                var deep = depth * random.Between(-0.1, 1);
                rub.StrokeWidth = (float)random.Between(12, 46);
                rub.Color = new SKColor(30, 30, 30, (byte)random.Between(50, 150));
                canvas.DrawLine(On(along, deep), On(along + length, deep + random.Between(-0.02, 0.02)), rub);
            }
            SKPoint On(double along, double deep) =>
                side switch
                {
                    0 => new((float)(along * sheet.Width), (float)(deep * sheet.Height)),
                    1 => new((float)((1 - deep) * sheet.Width), (float)(along * sheet.Height)),
                    2 => new((float)(along * sheet.Width), (float)((1 - deep) * sheet.Height)),
                    _ => new((float)(deep * sheet.Width), (float)(along * sheet.Height)),
                };
        }
    }

    /// <summary>A wash that lifts everything below it to nearly the paper's tone.</summary>
    private static SKColor Pale(SeededRandom random) => new(238, 233, 222, (byte)random.Between(60, 190));

    /// <summary>A place a little outside the frame, beyond the rim or the corner that is nearest.</summary>
    private static Vec2 Beyond(Vec2 corner, int width, int height, SeededRandom random)
    {
        double by = random.Between(0.006, 0.05) * width;
        double x = corner.X < width / 2.0 ? -by : width + by,
            y = corner.Y < height / 2.0 ? -by : height + by;
        return random.Next(3) switch
        {
            0 => new(x, corner.Y),
            1 => new(corner.X, y),
            _ => new(x, y),
        };
    }
}
