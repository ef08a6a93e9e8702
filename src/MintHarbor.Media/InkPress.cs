using System.Numerics;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Simulation;
using SkiaSharp;

namespace MintHarbor.Media;

/// <summary>Prints strokes of changing width and pressure on paper with a tooth, pixel by pixel: a stroke darkens what lies under it once, however
/// it turns.</summary>
public static class InkPress
{
    private const int Tooth = 512;
    private const float ToothPerMm = 5,
        Deepest = 0.97f;

    private static readonly Lazy<float[]> Grain = new(MakeGrain);

    /// <summary>Share of the paper's light that each pixel sends back.</summary>
    /// <param name="grain">Whether the paper's tooth breaks the strokes.</param>
    public static float[] Light(TechniqueSheet sheet, float perMm, bool grain, out int width, out int height)
    {
        (width, height) = ((int)(sheet.Paper.WidthMm * perMm), (int)(sheet.Paper.HeightMm * perMm));
        var light = Enumerable.Repeat(1f, width * height).ToArray();
        var cover = new float[width * height];
        var broken = !grain
            ? 0
            : sheet.Manner.Tool switch
            {
                Tool.Pen => 0.04f,
                Tool.Pencil => 0.28f,
                _ => 0.45f,
            };
        foreach (var stroke in sheet.Strokes)
            Press(stroke, perMm, width, height, light, cover, stroke.Use == StrokeUse.Smudge ? 0 : broken);
        return light;
    }

    private static void Press(TechniqueStroke stroke, float perMm, int w, int h, float[] light, float[] cover, float broken)
    {
        var touched = new List<int>();
        var soft = stroke.Use == StrokeUse.Smudge;
        for (var i = 0; i + 1 < stroke.Path.Count; i++)
        {
            Vector2 a = stroke.Path[i] * perMm,
                b = stroke.Path[i + 1] * perMm,
                way = b - a;
            float half = (stroke.Widths[i] + stroke.Widths[i + 1]) / 4 * perMm,
                dark = (stroke.Dark[i] + stroke.Dark[i + 1]) / 2,
                reach = soft ? 2 * half : half + 1,
                square = MathF.Max(1e-6f, way.LengthSquared());
            Vector2 low = Vector2.Min(a, b) - new Vector2(reach),
                high = Vector2.Max(a, b) + new Vector2(reach);
            for (var y = Math.Max(0, (int)low.Y); y <= Math.Min(h - 1, (int)high.Y); y++)
            for (var x = Math.Max(0, (int)low.X); x <= Math.Min(w - 1, (int)high.X); x++)
            {
                var p = new Vector2(x + 0.5f, y + 0.5f);
                var far = Vector2.Distance(p, a + (way * Math.Clamp(Vector2.Dot(p - a, way) / square, 0, 1)));
                var c =
                    dark * (soft ? MathF.Exp(-2 * far * far / (half * half)) : Math.Clamp(half + 0.5f - far, 0, MathF.Min(1, 2 * half)));
                var o = (y * w) + x;
                if (c <= 0.004f || c <= cover[o])
                    continue;
                if (cover[o] == 0)
                    touched.Add(o);
                cover[o] = c;
            }
        }
        foreach (var o in touched)
        {
            var tooth = broken == 0 ? 1 : Math.Clamp(1 + (broken * GrainAt(o % w / perMm, o / w / perMm)), 0.1f, 1.5f);
            light[o] *= 1 - MathF.Min(Deepest, cover[o] * tooth * 0.9f);
            cover[o] = 0;
        }
    }

    private static float GrainAt(float x, float y) =>
        Grain.Value[(((int)(y * ToothPerMm) & (Tooth - 1)) * Tooth) + ((int)(x * ToothPerMm) & (Tooth - 1))];

    /// <summary>Unit noise, smoothed over its neighbours twice.</summary>
    private static float[] MakeGrain()
    {
        var random = new SeededRandom(5);
        float[] grain = [.. Enumerable.Range(0, Tooth * Tooth).Select(_ => (float)random.Normal(1))];
        for (var round = 0; round < 2; round++)
        {
            var before = grain;
            grain =
            [
                .. Enumerable
                    .Range(0, Tooth * Tooth)
                    .Select(o =>
                        Enumerable
                            .Range(0, 9)
                            .Sum(k =>
                                before[((((o / Tooth) + (k / 3) - 1) & (Tooth - 1)) * Tooth) + (((o % Tooth) + (k % 3) - 1) & (Tooth - 1))]
                            )
                    ),
            ];
        }
        var deviation = MathF.Sqrt(grain.Average(g => g * g));
        return [.. grain.Select(g => g / deviation)];
    }

    public static unsafe SKBitmap Bitmap(TechniqueSheet sheet, float perMm)
    {
        var light = Light(sheet, perMm, true, out var w, out var h);
        var bitmap = new SKBitmap(new SKImageInfo(w, h, SKColorType.Rgba8888, SKAlphaType.Opaque, SKColorSpace.CreateSrgb()));
        var pixels = (byte*)bitmap.GetPixels();
        for (var o = 0; o < light.Length; o++)
        {
            var paper = 1 + (0.008f * GrainAt(o % w / perMm, o / w / perMm));
            byte Level(int ink, int bare) => (byte)Math.Clamp(ink + ((bare - ink) * light[o] * paper), 0, 255);
            (pixels[4 * o], pixels[(4 * o) + 1], pixels[(4 * o) + 2], pixels[(4 * o) + 3]) = (
                Level(20, 244),
                Level(21, 239),
                Level(22, 226),
                255
            );
        }
        return bitmap;
    }
}
