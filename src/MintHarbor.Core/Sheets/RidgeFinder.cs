using System.Numerics;

namespace MintHarbor.Core.Sheets;

/// <summary>A place on the middle of a dark line, a part of a pixel fine.</summary>
/// <param name="Pixel">Row times width and column.</param>
/// <param name="At">In pixels of the picture.</param>
/// <param name="Angle">Direction of the line, radians from the x axis, 0 to π.</param>
internal readonly record struct RidgePeak(int Pixel, float Strength, Vector2 At, float Angle);

/// <summary>How lines are looked for.</summary>
/// <param name="Scales">Widths of line, 1 σ in pixels, and what each counts.</param>
/// <param name="TimesNoise">Least strength against the grain's own ridges; <paramref name="Least"/> the least of all.</param>
/// <param name="Rim">Pixels at the edge where nothing is looked for.</param>
/// <param name="Every">One pixel of so many tells the grain's strength.</param>
/// <param name="Clamped">What is lighter than paper counts as paper.</param>
internal sealed record RidgeLook((float Sigma, float Weight)[] Scales, float TimesNoise, float Least, int Rim, int Every, bool Clamped);

/// <summary>The middles of all dark lines of a sheet, row after row: where the second derivative across is most negative (Steger 1998, "An
/// unbiased detector of curvilinear structures", from memory). It works in bands, so that a large sheet takes no more memory than a small one.</summary>
internal static class RidgeFinder
{
    private const int Band = 192;

    /// <summary>Strength of the grain's ridges as a share of all, sorted.</summary>
    private const float GrainShare = 0.6f;

    /// <returns>The peaks, and the grain's own strength.</returns>
    public static (List<RidgePeak> Peaks, float Grain) Find(DarkSheet sheet, RidgeLook look)
    {
        // A peak is compared with its neighbours, and each of them with what the widest curve covers.
        var margin = (int)MathF.Ceiling(look.Scales.Max(s => s.Sigma) * 3.2f) + 2;
        var peaks = new List<RidgePeak>();
        var sample = new List<float>((sheet.Width * sheet.Height / look.Every) + 1);
        var band = new Rows(sheet, look, Math.Min(sheet.Height, Band + (2 * margin)));
        for (var first = 0; first < sheet.Height; first += Band)
        {
            band.Load(Math.Max(0, first - margin), Math.Min(sheet.Height, first + Band + margin));
            var end = Math.Min(sheet.Height, first + Band);
            band.Sample(first, end, sample);
            band.Peaks(first, end, peaks);
        }
        sample.Sort();
        var grain = sample[(int)(sample.Count * GrainShare)];
        peaks.RemoveAll(p => p.Strength < look.TimesNoise * grain);
        return (peaks, grain);
    }

    /// <summary>Ridge strength of some rows, and the doubled angle of the line's direction as a vector. Its arrays serve one band after the other.</summary>
    private sealed class Rows(DarkSheet sheet, RidgeLook look, int most)
    {
        private readonly int w = sheet.Width,
            last = sheet.Height;
        private readonly float[] dark = new float[sheet.Width * most],
            between = new float[sheet.Width * most],
            xx = new float[sheet.Width * most],
            yy = new float[sheet.Width * most],
            xy = new float[sheet.Width * most],
            strength = new float[sheet.Width * most],
            across = new float[sheet.Width * most],
            twice = new float[sheet.Width * most];
        private int from,
            h;

        public void Load(int first, int end)
        {
            (from, h) = (first, end - first);
            Alone.For(0, h, y =>
            {
                var row = dark.AsSpan(y * w, w);
                sheet.Read(from + y, row);
                if (look.Clamped)
                    foreach (ref var d in row)
                        d = MathF.Max(0, d);
            });
            foreach (var array in new[] { strength, across, twice })
                Array.Clear(array);
            foreach (var (sigma, weight) in look.Scales)
                Scale(sigma, sigma * sigma * weight);
        }

        private void Scale(float sigma, float normal)
        {
            Convolution.Gauss(dark, w, h, sigma, 2, 0, between, xx);
            Convolution.Gauss(dark, w, h, sigma, 0, 2, between, yy);
            Convolution.Gauss(dark, w, h, sigma, 1, 1, between, xy);
            Alone.For(0, h, y => Strongest(y * w, (y + 1) * w, normal));
        }

        /// <summary>Keeps the stronger of what is there and what this scale sees. The most negative curvature is across the line; what curves along
        /// it too is a spot.</summary>
        private void Strongest(int start, int end, float normal)
        {
            var n = Vector<float>.Count;
            var o = start;
            for (; o + n <= end; o += n)
            {
                Vector<float> a = new(xx, o),
                    b = new(xy, o),
                    c = new(yy, o),
                    middle = (a + c) * 0.5f,
                    apart = a - c,
                    half = Vector.SquareRoot((apart * apart * 0.25f) + (b * b)),
                    was = new(strength, o),
                    s = (half - middle - (Vector.Abs(middle + half) * 0.5f)) * normal;
                var more = Vector.LessThan(middle, half) & Vector.GreaterThan(s, was);
                if (more == Vector<int>.Zero)
                    continue;
                Vector.ConditionalSelect(more, s, was).CopyTo(strength, o);
                Vector.ConditionalSelect(more, apart, new Vector<float>(across, o)).CopyTo(across, o);
                Vector.ConditionalSelect(more, b * 2, new Vector<float>(twice, o)).CopyTo(twice, o);
            }
            for (; o < end; o++)
            {
                float middle = (xx[o] + yy[o]) / 2,
                    apart = xx[o] - yy[o],
                    half = MathF.Sqrt((apart * apart / 4) + (xy[o] * xy[o])),
                    s = (half - middle - (0.5f * MathF.Abs(middle + half))) * normal;
                if (middle < half && s > strength[o])
                    (strength[o], across[o], twice[o]) = (s, apart, 2 * xy[o]);
            }
        }

        public void Sample(int first, int end, List<float> to)
        {
            for (var o = (first * w) + ((look.Every - (first * w % look.Every)) % look.Every); o < end * w; o += look.Every)
                to.Add(strength[o - (from * w)]);
        }

        public void Peaks(int first, int end, List<RidgePeak> to)
        {
            for (var y = Math.Max(first, look.Rim); y < Math.Min(end, last - look.Rim); y++)
            for (var x = look.Rim; x < w - look.Rim; x++)
                if (Peak(x, y) is { } peak)
                    to.Add(peak);
        }

        private RidgePeak? Peak(int x, int y)
        {
            var o = ((y - from) * w) + x;
            var r = strength[o];
            if (r < look.Least)
                return null;
            var normal = (0.5f * MathF.Atan2(twice[o], across[o])) + (MathF.PI / 2);
            var (ny, nx) = MathF.SinCos(normal);
            float ahead = DarkSheet.Between(strength, w, h, x + nx, y - from + ny),
                behind = DarkSheet.Between(strength, w, h, x - nx, y - from - ny);
            if (r < ahead || r <= behind)
                return null;
            var bend = ahead - (2 * r) + behind;
            var aside = MathF.Abs(bend) > 1e-6f ? Math.Clamp(0.5f * (behind - ahead) / bend, -0.6f, 0.6f) : 0;
            var along = (normal + (MathF.PI / 2)) % MathF.PI;
            return new((y * w) + x, r, new(x + (nx * aside) + 0.5f, y + (ny * aside) + 0.5f), along < 0 ? along + MathF.PI : along);
        }
    }
}
