using System.Numerics;

namespace MintHarbor.Core.Sheets;

/// <summary>A place on the middle of a drawn line.</summary>
/// <param name="At">Millimetres on the sheet.</param>
/// <param name="Angle">Direction of the line, radians from the sheet's x axis, 0 to π: a line has no arrowhead.</param>
/// <param name="Weight">How strong the line is there against the drawing's strong lines, 0 to 1.</param>
public readonly record struct InkPoint(Vector2 At, float Angle, float Weight);

/// <summary>The middles of all drawn lines of a flat sheet, a part of a pixel fine. A broad smudge has no middle and leaves nothing; so does
/// paper.</summary>
/// <param name="Width">Of the sheet, mm; likewise the height.</param>
public sealed record InkRidges(float Width, float Height, IReadOnlyList<InkPoint> Points)
{
    /// <summary>Pixels a millimetre that ridges are looked for at.</summary>
    public const float PerMm = 2;

    private const int PaperBlock = 16,
        ShortestChain = 6;

    /// <summary>Against the drawing's strong lines.</summary>
    private const float OfStrong = 0.12f;

    private static readonly RidgeLook Look = new([(1.6f, 1), (3, 0.8f)], TimesNoise: 5, Least: 0.02f, Rim: 3, Every: 37, Clamped: true);

    /// <param name="flat">Straightened sheet.</param>
    /// <param name="mmPerPixel">Its scale.</param>
    public static InkRidges Read(GreyImage flat, double mmPerPixel)
    {
        var (w, h, grey) = Scaled(flat, (float)(mmPerPixel * PerMm));
        var sheet = new DarkSheet(w, h, (y, to) => grey.AsSpan(y * w, w).CopyTo(to), PaperBlock, 1.5f);
        return new(w / PerMm, h / PerMm, Chains(RidgeFinder.Find(sheet, Look).Peaks, w));
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

    /// <summary>Peaks that hang together over six pixels and are strong enough for this drawing.</summary>
    private static IReadOnlyList<InkPoint> Chains(List<RidgePeak> peaks, int w)
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
                points.AddRange(
                    chain.Select(i => new InkPoint(peaks[i].At / PerMm, peaks[i].Angle, MathF.Min(1, peaks[i].Strength / strong)))
                );
        }
        return points;
    }
}
