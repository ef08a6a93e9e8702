using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>A straight line through places, by total least squares.</summary>
/// <param name="Through">Their centroid.</param>
/// <param name="Degrees">Its direction, −90 to 90, clockwise from the horizontal as y runs down.</param>
/// <param name="Scatter">Root mean square distance from it.</param>
/// <param name="Length">Between its second and ninety-eighth hundredth.</param>
internal sealed record StrokeFit(Vec2 Through, double Degrees, double Scatter, double Length)
{
    public Vec2 Along { get; } = Vec2.Towards(Degrees);

    /// <summary>As it is drawn over the sheet.</summary>
    public SeenLine Seen => new([Through - (Along * (Length / 2)), Through + (Along * (Length / 2))]);

    /// <summary>Signed distance of a place, positive to the line's right.</summary>
    public double Off(Vec2 p) => (p - Through).Cross(Along);

    public double Reach(Vec2 p) => (p - Through).Dot(Along);

    /// <param name="within">Places farther off than this count nothing, nearer ones by Tukey's biweight; 0 for all alike.</param>
    public static StrokeFit? Of(IReadOnlyList<InkPlace> places, double within = 0, int passes = 1)
    {
        StrokeFit? fit = null;
        for (var pass = 0; pass < passes; pass++)
        {
            double Weight(InkPlace p)
            {
                if (fit is null || within <= 0)
                    return p.Weight;
                var t = fit.Off(p.At) / within;
                return Math.Abs(t) >= 1 ? 0 : p.Weight * (1 - (t * t)) * (1 - (t * t));
            }
            double sum = 0,
                sx = 0,
                sy = 0;
            foreach (var p in places)
            {
                var w = Weight(p);
                sum += w;
                sx += w * p.At.X;
                sy += w * p.At.Y;
            }
            if (sum <= 0)
                return fit;
            var c = new Vec2(sx / sum, sy / sum);
            double xx = 0,
                xy = 0,
                yy = 0;
            foreach (var p in places)
            {
                var (w, e) = (Weight(p), p.At - c);
                xx += w * e.X * e.X;
                xy += w * e.X * e.Y;
                yy += w * e.Y * e.Y;
            }
            var least = Math.Max(0, ((xx + yy) / 2) - Math.Sqrt(((xx - yy) * (xx - yy) / 4) + (xy * xy)));
            fit = new(c, 0.5 * Math.Atan2(2 * xy, xx - yy) * 180 / Math.PI, Math.Sqrt(least / sum), 0);
        }
        return fit is null ? null : fit with { Length = Measured(fit, places, within) };
    }

    private static double Measured(StrokeFit fit, IReadOnlyList<InkPlace> places, double within)
    {
        var along = places.Where(p => within <= 0 || Math.Abs(fit.Off(p.At)) <= within).Select(p => fit.Reach(p.At)).Order().ToList();
        return along.Count <= 3 ? 0 : along[Math.Min(along.Count - 1, (int)(0.98 * along.Count))] - along[(int)(0.02 * along.Count)];
    }

    /// <summary>From one direction to another, an edge having no arrowhead: −90 to 90.</summary>
    public static double Turn(double from, double to)
    {
        var d = (to - from) % 180;
        return d > 90 ? d - 180
            : d < -90 ? d + 180
            : d;
    }
}
