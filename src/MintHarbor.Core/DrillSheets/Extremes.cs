using System.Numerics;

namespace MintHarbor.Core.DrillSheets;

/// <summary>The greatest or the least value round every pixel, in a square of 2r + 1: three comparisons a pixel whatever the radius (van Herk 1992,
/// Gil and Werman 1993; from memory). Outside the picture there is nothing.</summary>
internal static class Extremes
{
    public static float[] Greatest(float[] picture, int width, int height, int radius) => Of(picture, width, height, radius, 1);

    public static float[] Least(float[] picture, int width, int height, int radius) => Of(picture, width, height, radius, -1);

    /// <param name="sign">The least is the greatest of what is turned over.</param>
    private static float[] Of(float[] picture, int w, int h, int r, float sign)
    {
        var across = new float[picture.Length];
        Alone.For(0, h, y => Row(picture.AsSpan(y * w, w), across.AsSpan(y * w, w), r, sign));
        return Down(across, w, h, r, sign);
    }

    private static void Row(ReadOnlySpan<float> from, Span<float> to, int r, float sign)
    {
        int n = (2 * r) + 1,
            length = (from.Length + (2 * r) + n - 1) / n * n;
        var padded = new float[length];
        Array.Fill(padded, float.MinValue);
        for (var i = 0; i < from.Length; i++)
            padded[i + r] = sign * from[i];
        float[] onward = new float[length],
            back = new float[length];
        for (var i = 0; i < length; i++)
            onward[i] = i % n == 0 ? padded[i] : Math.Max(onward[i - 1], padded[i]);
        for (var i = length - 1; i >= 0; i--)
            back[i] = i % n == n - 1 ? padded[i] : Math.Max(back[i + 1], padded[i]);
        for (var i = 0; i < to.Length; i++)
            to[i] = sign * Math.Max(back[i], onward[i + n - 1]);
    }

    /// <summary>Rows against rows, so that neighbours in memory are taken together.</summary>
    private static float[] Down(float[] across, int w, int h, int r, float sign)
    {
        int n = (2 * r) + 1,
            length = (h + (2 * r) + n - 1) / n * n;
        var none = new float[w];
        Array.Fill(none, float.MinValue);
        float[] onward = new float[length * w],
            back = new float[length * w],
            to = new float[w * h];
        ReadOnlySpan<float> Signed(int row, float[] work)
        {
            if (row < 0 || row >= h)
                return none;
            for (var x = 0; x < w; x++)
                work[x] = sign * across[(row * w) + x];
            return work;
        }
        var line = new float[w];
        for (var i = 0; i < length; i++)
        {
            var row = Signed(i - r, line);
            if (i % n == 0)
                row.CopyTo(onward.AsSpan(i * w, w));
            else
                Max(row, onward.AsSpan((i - 1) * w, w), onward.AsSpan(i * w, w));
        }
        for (var i = length - 1; i >= 0; i--)
        {
            var row = Signed(i - r, line);
            if (i % n == n - 1)
                row.CopyTo(back.AsSpan(i * w, w));
            else
                Max(row, back.AsSpan((i + 1) * w, w), back.AsSpan(i * w, w));
        }
        for (var y = 0; y < h; y++)
        {
            var row = to.AsSpan(y * w, w);
            Max(back.AsSpan(y * w, w), onward.AsSpan((y + n - 1) * w, w), row);
            if (sign < 0)
                for (var x = 0; x < w; x++)
                    row[x] = -row[x];
        }
        return to;
    }

    private static void Max(ReadOnlySpan<float> a, ReadOnlySpan<float> b, Span<float> to)
    {
        var n = Vector<float>.Count;
        var i = 0;
        for (; i + n <= a.Length; i += n)
            Vector.Max(new Vector<float>(a[i..]), new Vector<float>(b[i..])).CopyTo(to[i..]);
        for (; i < a.Length; i++)
            to[i] = Math.Max(a[i], b[i]);
    }
}
