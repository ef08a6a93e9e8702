using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>Draws what stands out of the skin, or lies right under it, back in.</summary>
internal static class InsideSkin
{
    /// <summary>From where on a place counts as outside, units.</summary>
    public const float Out = 0.02f;

    private const int Steps = 9;

    /// <param name="depth">How deep a place ends that lay less than 0.6 of it under the skin, units.</param>
    /// <returns>How many places lay outside, and how far the farthest.</returns>
    public static (int Out, float Farthest) Draw(SurfaceField field, Span<Vector3> places, float depth)
    {
        Vector3 low = new(float.MaxValue),
            high = new(float.MinValue);
        foreach (var p in places)
            (low, high) = (Vector3.Min(low, p), Vector3.Max(high, p));
        var near = new int[field.Count];
        near = near[..field.Cull((low + high) / 2, ((high - low).Length() / 2) + 1, field.All, near)];
        var (count, farthest) = (0, float.MinValue);
        Span<Vector3> eight = stackalloc Vector3[8];
        for (var i = 0; i < places.Length; i += 8)
        {
            for (var k = 0; k < 8; k++)
                eight[k] = places[Math.Min(places.Length - 1, i + k)];
            var d = field.Evaluate(eight, near);
            for (var k = 0; k < 8 && i + k < places.Length; k++)
            {
                count += d[k] > Out ? 1 : 0;
                farthest = MathF.Max(farthest, d[k]);
                if (d[k] > -0.6f * depth)
                    places[i + k] = Sunk(field, near, places[i + k], d[k], depth);
            }
        }
        return (count, farthest);
    }

    private static Vector3 Sunk(SurfaceField field, int[] near, Vector3 p, float d, float depth)
    {
        for (var step = 0; step < Steps && d > -0.6f * depth; step++)
        {
            var g = field.Gradient(p, near, 0.06f, out _);
            var length = g.Length();
            if (length < 0.1f)
                break;
            p -= g / length * MathF.Min(1, (d + depth) / length);
            d = field.Evaluate(p, near, out _);
        }
        return p;
    }
}
