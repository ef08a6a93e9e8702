using System.Numerics;

namespace MintHarbor.Core.Sheets;

/// <summary>A place on the middle of a drawn line.</summary>
/// <param name="At">Millimetres on the sheet.</param>
/// <param name="Angle">Direction of the line, radians from the sheet's x axis, 0 to π: a line has no arrowhead.</param>
/// <param name="Weight">How strong the line is there against the drawing's strong lines, 0 to 1.</param>
public readonly record struct InkPoint(Vector2 At, float Angle, float Weight);

/// <summary>The middles of all drawn lines of a flat sheet, a part of a pixel fine. A broad smudge has no middle and leaves nothing; so does
/// paper. Ridges of the darkness: where the second derivative across is most negative (Steger 1998, "An unbiased detector of curvilinear
/// structures", from memory).</summary>
/// <param name="Width">Of the sheet, mm; likewise the height.</param>
public sealed record InkRidges(float Width, float Height, IReadOnlyList<InkPoint> Points)
{
    /// <summary>Pixels a millimetre that ridges are looked for at.</summary>
    public const float PerMm = 2;

    private const int PaperBlock = 16,
        ShortestChain = 6;

    /// <summary>Widths of line that are looked for, 1 σ in pixels, and what the wider one counts against the finer.</summary>
    private static readonly (float Sigma, float Weight)[] Scales = [(1.6f, 1), (3, 0.8f)];

    /// <summary>Against the grain's own ridges, and against the drawing's strong ones.</summary>
    private const float TimesNoise = 5,
        OfStrong = 0.12f,
        Least = 0.02f;

    /// <param name="flat">Straightened sheet.</param>
    /// <param name="mmPerPixel">Its scale.</param>
    public static InkRidges Read(GreyImage flat, double mmPerPixel)
    {
        var (w, h, grey) = Scaled(flat, (float)(mmPerPixel * PerMm));
        var dark = Darkness(grey, w, h);
        var ridge = Strength(dark, w, h);
        return new(w / PerMm, h / PerMm, Chains(Peaks(ridge, w, h), w));
    }

    /// <summary>The picture at <see cref="PerMm"/>: each pixel the mean of those that it covers.</summary>
    /// <param name="scale">New pixels to an old one.</param>
    internal static (int W, int H, float[] Grey) Scaled(GreyImage flat, float scale)
    {
        int w = Math.Max(8, (int)MathF.Round(flat.Width * scale)),
            h = Math.Max(8, (int)MathF.Round(flat.Height * scale));
        var grey = new float[w * h];
        Alone.For(0, h, y =>
        {
            int y0 = y * flat.Height / h,
                y1 = Math.Max(y0 + 1, (y + 1) * flat.Height / h);
            for (var x = 0; x < w; x++)
            {
                int x0 = x * flat.Width / w,
                    x1 = Math.Max(x0 + 1, (x + 1) * flat.Width / w);
                var sum = 0;
                for (var j = y0; j < y1; j++)
                for (var i = x0; i < x1; i++)
                    sum += flat.Pixels[(j * flat.Width) + i];
                grey[(y * w) + x] = (float)sum / ((y1 - y0) * (x1 - x0));
            }
        });
        return (w, h, grey);
    }

    /// <summary>1 − grey over paper: the paper's level is the 80th percentile of blocks, smoothed, so that a fall of light is divided out.</summary>
    internal static float[] Darkness(float[] grey, int w, int h)
    {
        int bw = (w + PaperBlock - 1) / PaperBlock,
            bh = (h + PaperBlock - 1) / PaperBlock;
        var level = new float[bw * bh];
        var counts = new int[256];
        for (var by = 0; by < bh; by++)
        {
            for (var bx = 0; bx < bw; bx++)
            {
                Array.Clear(counts);
                var n = 0;
                for (var y = by * PaperBlock; y < Math.Min(h, (by + 1) * PaperBlock); y++)
                for (var x = bx * PaperBlock; x < Math.Min(w, (bx + 1) * PaperBlock); x++, n++)
                    counts[(int)Math.Clamp(grey[(y * w) + x], 0, 255)]++;
                int sum = 0,
                    v = 0;
                for (; v < 255 && (sum += counts[v]) < 0.8f * n; v++) { }
                level[(by * bw) + bx] = v;
            }
        }
        level = Convolution.Gauss(level, bw, bh, 1.5f, 0, 0);
        var dark = new float[w * h];
        Alone.For(0, h, y =>
        {
            for (var x = 0; x < w; x++)
            {
                var paper = Between(level, bw, bh, (x - (PaperBlock / 2f)) / PaperBlock, (y - (PaperBlock / 2f)) / PaperBlock);
                dark[(y * w) + x] = MathF.Max(0, 1 - (grey[(y * w) + x] / MathF.Max(20, paper)));
            }
        });
        return dark;
    }

    private static float Between(float[] a, int w, int h, float x, float y)
    {
        x = Math.Clamp(x, 0, w - 1);
        y = Math.Clamp(y, 0, h - 1);
        int ix = Math.Min((int)x, Math.Max(0, w - 2)),
            iy = Math.Min((int)y, Math.Max(0, h - 2)),
            right = w > 1 ? 1 : 0,
            below = h > 1 ? w : 0,
            o = (iy * w) + ix;
        float fx = x - ix,
            fy = y - iy;
        return (((a[o] * (1 - fx)) + (a[o + right] * fx)) * (1 - fy)) + (((a[o + below] * (1 - fx)) + (a[o + below + right] * fx)) * fy);
    }

    /// <summary>Ridge strength, and the doubled angle of the line's direction as a vector.</summary>
    private sealed record Ridge(float[] Strength, float[] Across, float[] Twice);

    private static Ridge Strength(float[] dark, int w, int h)
    {
        var ridge = new Ridge(new float[w * h], new float[w * h], new float[w * h]);
        foreach (var (sigma, weight) in Scales)
        {
            float[] xx = Convolution.Gauss(dark, w, h, sigma, 2, 0),
                yy = Convolution.Gauss(dark, w, h, sigma, 0, 2),
                xy = Convolution.Gauss(dark, w, h, sigma, 1, 1);
            var normal = sigma * sigma * weight;
            Alone.For(0, h, y =>
            {
                for (var o = y * w; o < (y + 1) * w; o++)
                {
                    float a = xx[o],
                        b = xy[o],
                        c = yy[o],
                        middle = (a + c) / 2,
                        half = MathF.Sqrt(((a - c) * (a - c) / 4) + (b * b));
                    // The most negative curvature is across the line; what curves along it too is a spot.
                    var strength = (half - middle - (0.5f * MathF.Abs(middle + half))) * normal;
                    if (middle >= half || strength <= ridge.Strength[o])
                        continue;
                    (ridge.Strength[o], ridge.Across[o], ridge.Twice[o]) = (strength, a - c, 2 * b);
                }
            });
        }
        return ridge;
    }

    private readonly record struct Peak(int Pixel, float Strength, Vector2 At, float Angle);

    private static List<Peak> Peaks(Ridge ridge, int w, int h)
    {
        var r = ridge.Strength;
        var sample = r.Where((_, i) => i % 37 == 0).Order().ToArray();
        var least = MathF.Max(Least, TimesNoise * sample[sample.Length * 6 / 10]);
        var peaks = new List<Peak>();
        for (var y = 3; y < h - 3; y++)
        {
            for (var x = 3; x < w - 3; x++)
            {
                var o = (y * w) + x;
                if (r[o] < least)
                    continue;
                var normal = (0.5f * MathF.Atan2(ridge.Twice[o], ridge.Across[o])) + (MathF.PI / 2);
                var (ny, nx) = MathF.SinCos(normal);
                float ahead = Between(r, w, h, x + nx, y + ny),
                    behind = Between(r, w, h, x - nx, y - ny);
                if (r[o] < ahead || r[o] <= behind)
                    continue;
                var bend = ahead - (2 * r[o]) + behind;
                var aside = MathF.Abs(bend) > 1e-6f ? Math.Clamp(0.5f * (behind - ahead) / bend, -0.6f, 0.6f) : 0;
                var place = new Vector2(x + (nx * aside) + 0.5f, y + (ny * aside) + 0.5f) / PerMm;
                var along = (normal + (MathF.PI / 2)) % MathF.PI;
                peaks.Add(new(o, r[o], place, along < 0 ? along + MathF.PI : along));
            }
        }
        return peaks;
    }

    /// <summary>Peaks that hang together over six pixels and are strong enough for this drawing.</summary>
    private static List<InkPoint> Chains(List<Peak> peaks, int w)
    {
        if (peaks.Count == 0)
            return [];
        var strong = peaks.Select(p => p.Strength).Order().ElementAt(peaks.Count * 3 / 4);
        var at = new Dictionary<int, int>(peaks.Count);
        for (var i = 0; i < peaks.Count; i++)
            if (peaks[i].Strength >= OfStrong * strong)
                at[peaks[i].Pixel] = i;
        var points = new List<InkPoint>();
        var open = new Stack<int>();
        var chain = new List<int>();
        foreach (var first in at.Values.ToList())
        {
            if (!at.Remove(peaks[first].Pixel))
                continue;
            chain.Clear();
            open.Push(first);
            while (open.TryPop(out var i))
            {
                chain.Add(i);
                for (var dy = -1; dy <= 1; dy++)
                for (var dx = -1; dx <= 1; dx++)
                    if (at.Remove(peaks[i].Pixel + (dy * w) + dx, out var beside))
                        open.Push(beside);
            }
            if (chain.Count >= ShortestChain)
                points.AddRange(chain.Select(i => new InkPoint(peaks[i].At, peaks[i].Angle, MathF.Min(1, peaks[i].Strength / strong))));
        }
        return points;
    }
}
