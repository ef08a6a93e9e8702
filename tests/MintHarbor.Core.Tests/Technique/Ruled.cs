using System.Numerics;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sheets;
using MintHarbor.Core.Technique;

namespace MintHarbor.Core.Tests.Technique;

/// <summary>A flat sheet of four pixels a millimetre that is drawn on line by line, so that all of it is known.</summary>
internal sealed class Ruled(double widthMm, double heightMm, byte paper = 238)
{
    public const double MmPerPixel = 0.25;
    private const float PerMm = 4;
    private readonly int w = (int)(widthMm * 4),
        h = (int)(heightMm * 4);
    private readonly float[] light = [.. Enumerable.Repeat(1f, (int)(widthMm * 4) * (int)(heightMm * 4))];

    /// <summary>A line so many millimetres wide; <paramref name="dark"/> may change along it.</summary>
    public Ruled Line(Vector2 from, Vector2 to, float width = 0.6f, Func<float, float>? dark = null)
    {
        Vector2 a = from * PerMm,
            b = to * PerMm,
            way = b - a;
        var half = width * PerMm / 2;
        Each(Vector2.Min(a, b) - new Vector2(half + 1), Vector2.Max(a, b) + new Vector2(half + 1), p =>
        {
            var t = Math.Clamp(Vector2.Dot(p - a, way) / way.LengthSquared(), 0, 1);
            var cover = Math.Clamp(half + 0.5f - Vector2.Distance(p, a + (way * t)), 0, MathF.Min(1, 2 * half));
            return 1 - (cover * (dark?.Invoke(t) ?? 0.8f));
        });
        return this;
    }

    public Ruled Path(IReadOnlyList<Vector2> places, float width = 0.6f, float dark = 0.8f)
    {
        for (var i = 1; i < places.Count; i++)
            Line(places[i - 1], places[i], width, _ => dark);
        return this;
    }

    public Ruled Box(float x, float y, float wide, float high, float dark)
    {
        Each(new Vector2(x, y) * PerMm, new Vector2(x + wide, y + high) * PerMm, _ => 1 - dark);
        return this;
    }

    /// <summary>A round outline, which gives the sheet a form.</summary>
    public Ruled Ring(Vector2 middle, float radius, float width = 0.6f, Func<float, float>? dark = null)
    {
        const int steps = 180;
        Vector2 At(int k) => middle + (radius * new Vector2(MathF.Cos(k * MathF.Tau / steps), MathF.Sin(k * MathF.Tau / steps)));
        for (var k = 0; k < steps; k++)
        {
            var side = MathF.Cos((k + 0.5f) * MathF.Tau / steps);
            Line(At(k), At(k + 1), width, _ => dark?.Invoke(side) ?? 0.8f);
        }
        return this;
    }

    /// <summary>Parallel strokes across a square, so many millimetres apart.</summary>
    public Ruled Hatch(Vector2 corner, float side, float gap, float degrees, float dark = 0.6f, float width = 0.4f)
    {
        var angle = degrees * MathF.PI / 180;
        Vector2 along = new(MathF.Cos(angle), MathF.Sin(angle)),
            across = new(-along.Y, along.X),
            middle = corner + new Vector2(side / 2);
        for (var c = -side / 2; c <= side / 2; c += gap)
            Line(middle + (across * c) - (along * side / 2), middle + (across * c) + (along * side / 2), width, _ => dark);
        return this;
    }

    /// <summary>Half of the sheet in a shadow with a soft edge.</summary>
    public Ruled Shade(float share)
    {
        for (var y = 0; y < h; y++)
        for (var x = 0; x < w; x++)
            light[(y * w) + x] *= 1 - (share * Math.Clamp((x - (w / 2f)) / 80, 0, 1));
        return this;
    }

    private void Each(Vector2 low, Vector2 high, Func<Vector2, float> times)
    {
        for (var y = Math.Max(0, (int)low.Y); y < Math.Min(h, high.Y); y++)
        for (var x = Math.Max(0, (int)low.X); x < Math.Min(w, high.X); x++)
            light[(y * w) + x] *= times(new(x + 0.5f, y + 0.5f));
    }

    /// <summary>With a little grain, as every photograph has; the same every time.</summary>
    /// <param name="blur">1 σ in pixels.</param>
    public GreyImage Grey(float blur = 0, bool mirrored = false, int seed = 1)
    {
        var soft = blur > 0 ? Convolution.Gauss(light, w, h, blur, 0, 0) : light;
        var random = new SeededRandom(seed);
        return new(
            w,
            h,
            [
                .. Enumerable
                    .Range(0, w * h)
                    .Select(i => soft[mirrored ? (i / w * w) + w - 1 - (i % w) : i])
                    .Select(l => (byte)Math.Clamp((l * paper) + random.Normal(1.5), 0, 255)),
            ]
        );
    }

    public TechniquePicture Read(float blur = 0, bool mirrored = false) => TechniqueReader.Read(Grey(blur, mirrored), MmPerPixel);
}
