using System.Numerics;

namespace MintHarbor.Core.Sheets;

/// <summary>Pictures smoothed by a normal curve, or by its first or second derivative along an axis. Edges are repeated outward.</summary>
internal static class Convolution
{
    /// <param name="sigma">1 σ in pixels.</param>
    /// <param name="alongX">Order of the derivative along x, 0 to 2; likewise along y.</param>
    public static float[] Gauss(float[] s, int w, int h, float sigma, int alongX, int alongY)
    {
        var to = new float[w * h];
        Gauss(s, w, h, sigma, alongX, alongY, new float[w * h], to);
        return to;
    }

    /// <summary>The same into an array that is there already.</summary>
    /// <param name="between">Is written over; both are as long as the picture at least.</param>
    public static void Gauss(float[] s, int w, int h, float sigma, int alongX, int alongY, float[] between, float[] to)
    {
        Across(s, w, h, Kernel(sigma, alongX), between);
        Down(between, w, h, Kernel(sigma, alongY), to);
    }

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

    private static void Across(float[] s, int w, int h, float[] k, float[] to)
    {
        var r = k.Length / 2;
        Alone.For(0, (h + Band - 1) / Band, band =>
        {
            var row = new float[w + (2 * r)];
            var starts = new int[k.Length];
            for (var j = 0; j < k.Length; j++)
                starts[j] = j;
            for (var y = band * Band; y < Math.Min(h, (band + 1) * Band); y++)
            {
                Array.Fill(row, s[y * w], 0, r);
                Array.Copy(s, y * w, row, r, w);
                Array.Fill(row, s[(y * w) + w - 1], w + r, r);
                Sum(to.AsSpan(y * w, w), row, starts, k);
            }
        });
    }

    private static void Down(float[] s, int w, int h, float[] k, float[] to)
    {
        var r = k.Length / 2;
        Alone.For(0, (h + Band - 1) / Band, band =>
        {
            var starts = new int[k.Length];
            for (var y = band * Band; y < Math.Min(h, (band + 1) * Band); y++)
            {
                for (var j = 0; j < k.Length; j++)
                    starts[j] = Math.Clamp(y + j - r, 0, h - 1) * w;
                Sum(to.AsSpan(y * w, w), s, starts, k);
            }
        });
    }

    /// <summary>Each place the sum of its like from every start on, times the start's factor. Four vectors at a time stay in registers.</summary>
    private static void Sum(Span<float> to, float[] from, int[] starts, float[] factors)
    {
        var n = Vector<float>.Count;
        var x = 0;
        for (; x + (4 * n) <= to.Length; x += 4 * n)
        {
            Vector<float> a = default,
                b = default,
                c = default,
                d = default;
            for (var j = 0; j < factors.Length; j++)
            {
                var here = from.AsSpan(starts[j] + x, 4 * n);
                var factor = new Vector<float>(factors[j]);
                a += factor * new Vector<float>(here);
                b += factor * new Vector<float>(here[n..]);
                c += factor * new Vector<float>(here[(2 * n)..]);
                d += factor * new Vector<float>(here[(3 * n)..]);
            }
            a.CopyTo(to[x..]);
            b.CopyTo(to[(x + n)..]);
            c.CopyTo(to[(x + (2 * n))..]);
            d.CopyTo(to[(x + (3 * n))..]);
        }
        for (; x < to.Length; x++)
        {
            float sum = 0;
            for (var j = 0; j < factors.Length; j++)
                sum += factors[j] * from[starts[j] + x];
            to[x] = sum;
        }
    }
}
