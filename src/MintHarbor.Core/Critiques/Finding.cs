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
}

public enum Against
{
    PoseCard,
    Reference,
    Canon,
}

public sealed record Outranked(Against Against, double Expected);

/// <summary>One judged measure with everything it was judged on.</summary>
/// <param name="Part">Which of the rule's measures, where it has several.</param>
/// <param name="Uncertainty">Half-width of the 90 % interval: 1.645 σ from placement and, for a card, its readings.</param>
/// <param name="Also">What the source outranks, with its expected value.</param>
/// <param name="FollowsFrom">Rule id of the one fault that explains this one.</param>
public sealed record Finding(
    string Rule,
    string? Part,
    Against Against,
    Verdict Verdict,
    double? Measured,
    double? Expected,
    double? Tolerance,
    double? Uncertainty,
    string Unit,
    IReadOnlyList<Outranked> Also,
    string Says,
    string Because,
    IReadOnlyList<string> Landmarks,
    string? FollowsFrom = null
)
{
    /// <summary>"Not judgeable" on screens.</summary>
    public bool Judgeable => Verdict is not (Verdict.NotSeen or Verdict.TooSmall or Verdict.DoesNotApply);
    public bool IsOutside => Verdict == Verdict.Outside;

    /// <summary>Deviation in per cent of what was expected; null where there is no sensible ratio.</summary>
    public double? OffPercent =>
        Measured is { } m && Expected is { } e && e != 0 && Unit is "heads" or "ratio"
            ? 100 * (Measured!.Value / Expected!.Value - 1)
            : null;

    public string Key => Part is null ? Rule : $"{Rule}: {Part}";
}

public static class Verdicts
{
    /// <summary>d = measured − expected against tolerance t and uncertainty u: too small if u &gt; t, outside if |d| &gt; t + u,
    /// inside if |d| ≤ t − u, else too close to call.</summary>
    public static Verdict Of(double d, double tolerance, double uncertainty) =>
        uncertainty > tolerance ? Verdict.TooSmall
        : Math.Abs(d) > tolerance + uncertainty ? Verdict.Outside
        : Math.Abs(d) <= tolerance - uncertainty ? Verdict.Inside
        : Verdict.TooClose;

    /// <summary>A rule of sign: the measure must not be negative. There is no tolerance, so only the uncertainty counts.</summary>
    public static Verdict OfSign(double measured, double uncertainty) =>
        measured < -uncertainty ? Verdict.Outside
        : measured >= uncertainty ? Verdict.Inside
        : Verdict.TooClose;
}
