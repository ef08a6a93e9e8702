using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sheets;
using MintHarbor.Core.Simulation;
using SkiaSharp;

namespace MintHarbor.Media;

/// <summary>The sheet camera, a stand-in for a phone: a simulated drawing on a table, seen a little from the side, unevenly lit.</summary>
public static class SheetCamera
{
    /// <param name="Corners">True places of the sheet's corners in the photograph, clockwise from its upper left.</param>
    public sealed record Shot(byte[] Jpeg, int Width, int Height, IReadOnlyList<Vec2> Corners);

    /// <param name="tilt">0 seen straight on, 1 strongly from the side.</param>
    public static Shot Take(SimulatedDrawing drawing, int width, int height, double tilt, long seed)
    {
        var random = new SeededRandom(seed);
        var k = Math.Min(width * 0.80 / drawing.Paper.WidthMm, height * 0.86 / drawing.Paper.HeightMm);
        // Finer than the photograph shows it, but no finer than it needs.
        using var sheet = DrawSheet(drawing, (float)Math.Min(4, k * 1.7), random);
        double w = drawing.Paper.WidthMm * k,
            h = drawing.Paper.HeightMm * k,
            x = (width - w) / 2,
            y = (height - h) / 2;
        Vec2 Jitter() => new(random.Between(-0.045, 0.045) * w * tilt, random.Between(-0.035, 0.035) * h * tilt);
        Vec2[] corners =
        [
            new Vec2(x + (0.05 * w * tilt), y) + Jitter(),
            new Vec2(x + w - (0.05 * w * tilt), y) + Jitter(),
            new Vec2(x + w, y + h) + Jitter(),
            new Vec2(x, y + h) + Jitter(),
        ];

        using var photo = new SKBitmap(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Opaque, SKColorSpace.CreateSrgb()));
        using var canvas = new SKCanvas(photo);
        Table(canvas, width, height, random);
        var map = Homography.FromFourPoints(
            [new(0, 0), new(sheet.Width, 0), new(sheet.Width, sheet.Height), new(0, sheet.Height)],
            [.. corners.Select(c => c + new Vec2(0.5, 0.5))]
        );
        var m = map.Coefficients;
        canvas.Save();
        canvas.SetMatrix(
            new SKMatrix(
                (float)m[0],
                (float)m[1],
                (float)m[2],
                (float)m[3],
                (float)m[4],
                (float)m[5],
                (float)m[6],
                (float)m[7],
                (float)m[8]
            )
        );
        using (var image = SKImage.FromBitmap(sheet))
            canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        canvas.Restore();
        Light(canvas, width, height, random);
        Noise(photo, random);
        using var data = photo.Encode(SKEncodedImageFormat.Jpeg, 86);
        return new(data.ToArray(), width, height, corners);
    }

    /// <summary>The sheet as it lies flat after straightening, unevenly lit, without the way through a photograph.</summary>
    public static unsafe GreyImage Flat(SimulatedDrawing drawing, double mmPerPixel, long seed)
    {
        var random = new SeededRandom(seed);
        using var sheet = DrawSheet(drawing, (float)(1 / mmPerPixel), random);
        using (var canvas = new SKCanvas(sheet))
            Light(canvas, sheet.Width, sheet.Height, random);
        Noise(sheet, random);
        var grey = new byte[sheet.Width * sheet.Height];
        var p = (byte*)sheet.GetPixels();
        for (var i = 0; i < grey.Length; i++)
            grey[i] = (byte)(((54 * p[4 * i]) + (183 * p[(4 * i) + 1]) + (19 * p[(4 * i) + 2])) >> 8);
        return new(sheet.Width, sheet.Height, grey);
    }

    /// <summary>The sheet itself, flat.</summary>
    internal static SKBitmap DrawSheet(SimulatedDrawing d, float pxPerMm, SeededRandom random)
    {
        var b = new SKBitmap(
            new SKImageInfo(
                (int)(d.Paper.WidthMm * pxPerMm),
                (int)(d.Paper.HeightMm * pxPerMm),
                SKColorType.Rgba8888,
                SKAlphaType.Opaque,
                SKColorSpace.CreateSrgb()
            )
        );
        using var canvas = new SKCanvas(b);
        canvas.Clear(new SKColor(244, 239, 226));
        using (var speck = new SKPaint { IsAntialias = true })
        {
            for (var i = 0; i < (pxPerMm < 3 ? 4000 : 9000); i++)
            {
                speck.Color = random.Next(2) == 0 ? new SKColor(120, 105, 80, 16) : new SKColor(255, 255, 255, 60);
                canvas.DrawCircle(
                    (float)random.Between(0, b.Width),
                    (float)random.Between(0, b.Height),
                    (float)random.Between(1, 6),
                    speck
                );
            }
        }
        using var ink = new SKPaint
        {
            IsAntialias = true,
            Style = SKPaintStyle.Stroke,
            StrokeCap = SKStrokeCap.Round,
            StrokeJoin = SKStrokeJoin.Round,
        };
        foreach (var s in d.Strokes)
        {
            // Charcoal breaks over the paper's tooth: a faint broad stroke with darker grains along it.
            using var builder = new SKPathBuilder();
            builder.MoveTo(P(s.Points[0]));
            foreach (var p in s.Points.Skip(1))
                builder.LineTo(P(p));
            using var path = builder.Detach();
            ink.Color = new SKColor(38, 40, 40, (byte)(s.Dark * 150));
            ink.StrokeWidth = (float)s.WidthMm * pxPerMm * 1.25f;
            canvas.DrawPath(path, ink);
            ink.Color = new SKColor(26, 28, 28, (byte)(s.Dark * 225));
            ink.StrokeWidth = (float)s.WidthMm * pxPerMm * 0.55f;
            ink.PathEffect = SKPathEffect.CreateDash(
                [(float)random.Between(5, 16), (float)random.Between(1, 3), (float)random.Between(3, 9), (float)random.Between(1, 4)],
                (float)random.Between(0, 20)
            );
            canvas.DrawPath(path, ink);
            ink.PathEffect = null;
        }
        return b;

        SKPoint P(Vec2 p) => new((float)p.X * pxPerMm, (float)p.Y * pxPerMm);
    }

    private static void Table(SKCanvas canvas, int w, int h, SeededRandom random)
    {
        canvas.Clear(new SKColor(92, 74, 58));
        using var grain = new SKPaint { IsAntialias = true, Style = SKPaintStyle.Stroke };
        for (var i = 0; i < h / 5; i++)
        {
            grain.Color = new SKColor(40, 28, 18, (byte)random.Between(12, 46));
            grain.StrokeWidth = (float)random.Between(1, 4);
            var y = (float)random.Between(0, h);
            canvas.DrawLine(0, y, w, y + (float)random.Normal(h * 0.01), grain);
        }
    }

    private static void Light(SKCanvas canvas, int w, int h, SeededRandom random)
    {
        using var shader = SKShader.CreateLinearGradient(
            new SKPoint(0, (float)random.Between(0, h * 0.3)),
            new SKPoint(w, h),
            [new SKColor(255, 252, 240, 0), new SKColor(30, 26, 40, 40)],
            SKShaderTileMode.Clamp
        );
        using var paint = new SKPaint { Shader = shader };
        canvas.DrawRect(0, 0, w, h, paint);
    }

    private static void Noise(SKBitmap b, SeededRandom random)
    {
        var span = b.GetPixelSpan();
        unsafe
        {
            fixed (byte* start = span)
            {
                for (var o = 0; o < span.Length; o += 4)
                {
                    var n = (random.Next(9) + random.Next(9) - 8) / 2;
                    for (var c = 0; c < 3; c++)
                        start[o + c] = (byte)Math.Clamp(start[o + c] + n, 0, 255);
                }
            }
        }
    }
}
