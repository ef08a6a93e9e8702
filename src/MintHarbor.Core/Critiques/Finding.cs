using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Critiques;

public enum Against
{
    PoseCard,
    Reference,
    Canon,
}

/// <summary>What a limb's foreshortening from the seat has to say of its drawn length.</summary>
public enum Explanation
{
    None,

    /// <summary>It looks short, and from this seat it is.</summary>
    SeenShort,

    /// <summary>It is drawn as long as it is known to be, not as it is seen.</summary>
    KnownLength,
}

/// <summary>An expected value with its source, its tolerance and its own error.</summary>
/// <param name="Sigma">1 σ of the expected value itself.</param>
/// <param name="Name">As a sentence names it, "pose card".</param>
/// <param name="Neutral">Level, upright or the canon's value, from which the pose itself departs; null where that says nothing.</param>
public sealed record Standard(
    Against Against,
    double Expected,
    double Tolerance,
    double Sigma,
    string Name,
    string Source,
    double? Neutral = null
)
{
    /// <summary>Seen over true length of the limb from this seat; null where it isn't known.</summary>
    public double? Foreshortened { get; init; }
}

/// <summary>One judged measure with everything it was judged on. Its sentences are made from these values when they are asked for.</summary>
/// <param name="Standards">What it was held against, the one that settled it first; the others it outranks.</param>
/// <param name="Verdict">By the first standard.</param>
public sealed record Finding(Measure Measure, IReadOnlyList<Standard> Standards, Verdict Verdict)
{
    public Rule Rule => Measure.Rule;

    /// <summary>Name of the measure among its rule's; null where the rule has one.</summary>
    public string? Part => Measure.Part?.Name;
    public string Unit => Measure.Unit;
    public string Key => Measure.Key;

    public required Against Against { get; init; }
    public double? Measured { get; init; }
    public double? Expected { get; init; }
    public double? Tolerance { get; init; }

    /// <summary>Half-width of the 90 % interval: 1.645 σ from placement and the standard's own error.</summary>
    public double? Uncertainty { get; init; }

    /// <summary>1 σ that placement alone carries into the value.</summary>
    public double Placed { get; init; }

    /// <summary>What the source outranks, with its expected value.</summary>
    public IReadOnlyList<Standard> Also => [.. Standards.Skip(1)];

    /// <summary>Landmarks to be shown with it.</summary>
    public IReadOnlyList<string> Landmarks { get; init; } = [];

    /// <summary>Key of the finding that explains this one: it is that one's symptom and no remark of its own.</summary>
    public string? FollowsFrom { get; init; }

    /// <summary>Marked by the instructor as the sitter's own.</summary>
    public bool Observed { get; init; }

    /// <summary>For a rule that does not apply: when it would, or the exercise that does not open it.</summary>
    public string? HoldsWhen { get; init; }
    public Exercise? ClosedBy { get; init; }

    /// <summary>Landmarks that it needs and that are not placed, or not looked at.</summary>
    public IReadOnlyList<string> Missing { get; init; } = [];

    /// <summary>"Not judgeable" on screens.</summary>
    public bool Judgeable => Verdict is not (Verdict.NotSeen or Verdict.TooSmall or Verdict.DoesNotApply or Verdict.NotLookedAt);
    public bool IsOutside => Verdict == Verdict.Outside;

    /// <summary>Drawn, but not sharply enough to be told from its tolerance.</summary>
    public bool NotSharp => Verdict is Verdict.TooClose or Verdict.TooSmall;

    /// <summary>Measured − expected, wrapped for an edge to (−90°, 90°]; null where either is missing.</summary>
    public double? Off =>
        Measured is { } m && Expected is { } e
            ? Measure.Kind == MeasureKind.Angle
                ? ClockAngle.Wrap(m - e)
                : m - e
            : null;

    /// <summary>Deviation in per cent of what was expected; null where there is no sensible ratio.</summary>
    public double? OffPercent =>
        Measured is { } m && Expected is { } e && e != 0 && Unit is "heads" or "ratio"
            ? 100 * (Measured!.Value / Expected!.Value - 1)
            : null;

    /// <summary>A departure that is worth a look though nothing is judged yet: as its marks were proposed it would be this much off, and by more
    /// than 1 σ. Common practice of simulated sheets, no source.</summary>
    public bool Suspected =>
        Verdict is Verdict.NotLookedAt or Verdict.TooClose or Verdict.TooSmall
        && Against == Against.Reference
        && Off is { } d
        && Uncertainty is { } u
        && Math.Abs(d) > u / Measure.Ninety
        && (
            Measure.Kind == MeasureKind.Angle
                ? Math.Abs(d) >= SuspectDegrees
                : Measure.Kind == MeasureKind.Ratio && Expected is { } e && Math.Abs(d / e) >= SuspectShare
        );

    private const double SuspectDegrees = 3,
        SuspectShare = 0.06;

    /// <summary>To which side it departs; none where it is not measured or lies exactly right.</summary>
    public Direction Direction
    {
        get
        {
            if (Off is not { } d || d == 0)
                return Direction.None;
            // A turn further than it should be goes away from the viewer, whichever way the head faces.
            var above = Rule == Rules.Turn ? Math.Abs(Measured!.Value) > Math.Abs(Expected!.Value) : d > 0;
            return above ? Measure.Ways.Above : Measure.Ways.Below;
        }
    }

    public Explanation Explanation =>
        Standards is not [{ Foreshortened: < 0.85 }, ..] || !Judgeable ? Explanation.None
        : Verdict == Verdict.Inside ? Explanation.SeenShort
        : Off > 0 ? Explanation.KnownLength
        : Explanation.None;

    /// <summary>Whether an edge was drawn nearer to level or upright than it was seen.</summary>
    public bool Levelled =>
        Measure.Kind == MeasureKind.Angle
        && Standards is [{ Neutral: { } neutral } first, ..]
        && Measured is { } m
        && Math.Abs(ClockAngle.Wrap(m - neutral)) < Math.Abs(ClockAngle.Wrap(first.Expected - neutral));

    /// <summary>The fault of the library that it is, in the direction in which it departs; null where the library names none.</summary>
    public Fault? Fault =>
        Faults.Find(
            Explanation == Explanation.KnownLength ? Faults.KnownLength
            : Levelled && Measure.Ways.Levelled is { } levelled ? levelled
            : Off < 0 ? Measure.Ways.FaultBelow
            : Measure.Ways.FaultAbove
        );

    /// <summary>In one plain sentence, with its number.</summary>
    public string Says => Sentences.Says(this);

    /// <summary>The formula with its values, the rule of the verdict and the source.</summary>
    public string Because => Sentences.Because(this);
}
