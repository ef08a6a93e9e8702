using System.Numerics;

namespace MintHarbor.Core.Sheets;

/// <summary>Pictures smoothed by a normal curve, or by its first or second derivative along an axis. Edges are repeated outward.</summary>
internal static class Convolution
{
    /// <param name="sigma">1 σ in pixels.</param>
    /// <param name="alongX">Order of the derivative along x, 0 to 2; likewise along y.</param>
    public static float[] Gauss(float[] s, int w, int h, float sigma, int alongX, int alongY) =>
        Down(Across(s, w, h, Kernel(sigma, alongX)), w, h, Kernel(sigma, alongY));

    private static float[] Kernel(float sigma, int order)
    {
        var r = (int)MathF.Ceiling(sigma * 3.2f);
        var k = new float[(2 * r) + 1];
        for (var i = -r; i <= r; i++)
            k[i + r] = MathF.Exp(-i * i / (2 * sigma * sigma));
        var sum = k.Sum();
        var s2 = sigma * sigma;
        for (var i = -r; i <= r; i++)
            k[i + r] *=
                order switch
                {
                    0 => 1,
                    1 => i / s2,
                    _ => ((i * i / s2) - 1) / s2,
                } / sum;
        // What is level has no curvature, however the curve is cut off.
        var rest = order == 2 ? k.Sum() / k.Length : 0;
        return rest == 0 ? k : [.. k.Select(v => v - rest)];
    }

    /// <summary>Rows that share one working row.</summary>
    private const int Band = 64;

    private static float[] Across(float[] s, int w, int h, float[] k)
    {
        var r = k.Length / 2;
        var to = new float[w * h];
        Alone.For(0, (h + Band - 1) / Band, band =>
        {
            var row = new float[w + (2 * r)];
            for (var y = band * Band; y < Math.Min(h, (band + 1) * Band); y++)
            {
                Array.Fill(row, s[y * w], 0, r);
                Array.Copy(s, y * w, row, r, w);
                Array.Fill(row, s[(y * w) + w - 1], w + r, r);
                for (var j = 0; j < k.Length; j++)
                    Add(to, y * w, row, j, w, k[j]);
            }
        });
        return to;
    }

    private static float[] Down(float[] s, int w, int h, float[] k)
    {
        var r = k.Length / 2;
        var to = new float[w * h];
        Alone.For(0, h, y =>
        {
            for (var j = -r; j <= r; j++)
                Add(to, y * w, s, Math.Clamp(y + j, 0, h - 1) * w, w, k[j + r]);
        });
        return to;
    }

    private static void Add(float[] to, int at, float[] from, int start, int count, float times)
    {
        int n = Vector<float>.Count,
            x = 0;
        var factor = new Vector<float>(times);
        for (; x + n <= count; x += n)
            (new Vector<float>(to, at + x) + (factor * new Vector<float>(from, start + x))).CopyTo(to, at + x);
        for (; x < count; x++)
            to[at + x] += times * from[start + x];
    }
}
