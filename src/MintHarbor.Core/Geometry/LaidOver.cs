namespace MintHarbor.Core.Geometry;

/// <summary>True lines laid over drawn ones, moved and if wished made larger or smaller, never turned, until each lies nearest to the other (iterated
/// closest points, Besl and McKay 1992, from memory).</summary>
/// <param name="Scale">From the true lines to the drawn ones; <paramref name="Shift"/> after it.</param>
/// <param name="Missed">How far the true lines lie from the drawn ones, place by place, in the unit of the true ones; <paramref name="Strayed"/> the
/// drawn ones from the true.</param>
public sealed record LaidOver(double Scale, Vec2 Shift, IReadOnlyList<double> Missed, IReadOnlyList<double> Strayed)
{
    private const int Places = 160,
        Rounds = 24;

    /// <summary>Modified Hausdorff distance (Dubuisson and Jain 1994, from memory): the larger of both mean distances.</summary>
    public double Mean => Math.Max(Missed.Average(), Strayed.Average());

    /// <summary>Not exceeded by 95 % of either.</summary>
    public double Worst => Math.Max(Samples.Quantile(Missed, 0.95), Samples.Quantile(Strayed, 0.95));

    public Vec2 Map(Vec2 p) => (p * Scale) + Shift;

    /// <param name="scaled">Size is free; false where it was to be kept.</param>
    /// <exception cref="ArgumentException">Lines without places.</exception>
    public static LaidOver Of(IReadOnlyList<IReadOnlyList<Vec2>> truth, IReadOnlyList<IReadOnlyList<Vec2>> drawn, bool scaled)
    {
        var (t, d) = (PathDistance.Spread(truth, Places), PathDistance.Spread(drawn, Places));
        var (tBox, dBox) = (Area.Round(t), Area.Round(d));
        var scale = scaled && tBox.Diagonal > 0 ? Math.Max(1e-6, dBox.Diagonal / tBox.Diagonal) : 1;
        var shift = dBox.Middle - (tBox.Middle * scale);
        for (var round = 0; round < Rounds; round++)
        {
            List<Vec2> laid = [.. t.Select(p => (p * scale) + shift)];
            // Both ways, so that neither hides in a corner of the other.
            List<(Vec2 True, Vec2 Drawn)> pairs =
            [
                .. t.Select((p, i) => (p, d[Nearest(laid[i], d)])),
                .. d.Select(p => (t[Nearest(p, laid)], p)),
            ];
            var (next, moved) = Fitted(pairs, scaled, scale);
            var still = Math.Abs(next - scale) < 1e-6 * scale && (moved - shift).Length < 1e-4 * dBox.Diagonal;
            (scale, shift) = (next, moved);
            if (still)
                break;
        }
        List<Vec2> over = [.. t.Select(p => (p * scale) + shift)];
        return new(
            scale,
            shift,
            [.. over.Select(p => (p - d[Nearest(p, d)]).Length / scale)],
            [.. d.Select(p => (p - over[Nearest(p, over)]).Length / scale)]
        );
    }

    /// <summary>Least squares of scale and shift.</summary>
    private static (double Scale, Vec2 Shift) Fitted(List<(Vec2 True, Vec2 Drawn)> pairs, bool scaled, double before)
    {
        Vec2 t = new(pairs.Average(p => p.True.X), pairs.Average(p => p.True.Y)),
            d = new(pairs.Average(p => p.Drawn.X), pairs.Average(p => p.Drawn.Y));
        var scale = 1.0;
        if (scaled)
        {
            var spread = pairs.Sum(p => (p.True - t).Dot(p.True - t));
            scale = spread > 0 ? Math.Max(before / 2, pairs.Sum(p => (p.True - t).Dot(p.Drawn - d)) / spread) : before;
        }
        return (scale, d - (t * scale));
    }

    private static int Nearest(Vec2 p, IReadOnlyList<Vec2> of)
    {
        var (best, at) = (double.MaxValue, 0);
        for (var i = 0; i < of.Count; i++)
        {
            var e = of[i] - p;
            if (e.Dot(e) < best)
                (best, at) = (e.Dot(e), i);
        }
        return at;
    }
}
