namespace MintHarbor.Core.Geometry;

/// <summary>What even samples say between and beside them.</summary>
public static class Samples
{
    /// <summary>How far from the middle one of three the parabola through them has its peak, half a step at most; 0 where they have none.</summary>
    public static double Peak(double before, double at, double after) =>
        before - (2 * at) + after is var bend && bend < -1e-9 ? Math.Clamp(0.5 * (before - after) / bend, -0.5, 0.5) : 0;

    /// <summary>The value that such a share of them lies below; NaN of nothing.</summary>
    public static double Quantile(IEnumerable<double> values, double share)
    {
        var sorted = values.Order().ToList();
        return sorted.Count == 0 ? double.NaN : sorted[Math.Min(sorted.Count - 1, (int)(share * sorted.Count))];
    }
}
