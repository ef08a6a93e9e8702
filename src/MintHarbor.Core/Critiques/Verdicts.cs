using MathNet.Numerics.Distributions;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

public enum Verdict
{
    Inside,
    Outside,
    Pushed,
    TooClose,
    TooSmall,
    NotSeen,
    DoesNotApply,

    /// <summary>A landmark that it needs was only proposed, and not exactly enough: nobody has looked at it yet.</summary>
    NotLookedAt,
}

public static class Verdicts
{
    private const double Sure = 0.9,
        Tiny = 1e-9;

    /// <summary>d = measured − expected against tolerance t and uncertainty u, the half-width of the 90 % interval: too small if u &gt; t,
    /// outside if |d| &gt; t + u, inside if the true value lies within t with at least 90 % probability, else too close to call.</summary>
    public static Verdict Of(double d, double tolerance, double uncertainty) =>
        uncertainty > tolerance ? Verdict.TooSmall
        : Math.Abs(d) > tolerance + uncertainty ? Verdict.Outside
        : Within(d, tolerance, uncertainty) >= Sure - Tiny ? Verdict.Inside
        : Verdict.TooClose;

    /// <summary>Probability that the true value lies within the tolerance: normal about d, σ = u ÷ 1.645. At d = 0 it is 90 % where u = t,
    /// so that what lies exactly right is never too close to call.</summary>
    public static double Within(double d, double tolerance, double uncertainty)
    {
        if (uncertainty == 0)
            return Math.Abs(d) <= tolerance ? 1 : 0;
        var sigma = uncertainty / Measure.Ninety;
        return Normal.CDF(d, sigma, tolerance) - Normal.CDF(d, sigma, -tolerance);
    }

    /// <summary>A rule of sign: the measure must not be negative. There is no tolerance, so only the uncertainty counts.</summary>
    public static Verdict OfSign(double measured, double uncertainty) =>
        measured < -uncertainty ? Verdict.Outside
        : measured >= uncertainty ? Verdict.Inside
        : Verdict.TooClose;
}
