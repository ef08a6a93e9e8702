using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;

namespace MintHarbor.Core.Measuring;

/// <summary>A part of the figure between two landmarks, as it is held against a reference view.</summary>
/// <param name="Part">Its id in the table of rules, the same for both sides, and its name.</param>
/// <param name="Limb">Id of the limb that foreshortening is known for; null for head, trunk and shoulders.</param>
/// <param name="Directed">Whether which way it goes is judged too.</param>
/// <param name="Carries">Whether its length has a say in the drawing's scale.</param>
public sealed record FigurePart(Part Part, string A, string B, string? Limb = null, bool Directed = true, bool Carries = true);

/// <summary>A drawing against a reference view of the same pose: how long each part is drawn for the whole, which way it goes, how the
/// whole leans.</summary>
public sealed class ReferenceMeasures
{
    private static readonly (string Name, string A, string B, string Limb)[] OneSide =
    [
        ("upper arm", "acromion", "elbow", "upper-arm"),
        ("forearm", "elbow", "wrist", "forearm"),
        ("hand", "wrist", "fingertip", "hand"),
        ("thigh", "asis", "kneetop", "thigh"),
        ("lower leg", "kneetop", "ankleout", "shank"),
        ("foot", "heel", "toe", "foot"),
    ];

    public static readonly IReadOnlyList<FigurePart> Parts =
    [
        new("head", "crown", "chin", Directed: false),
        new("trunk", "pit", "pubic"),
        new(new(Measuring.Parts.Shoulders, "breadth of the shoulders"), "acromion.R", "acromion.L", Directed: false, Carries: false),
        .. new[] { ("right", ".R"), ("left", ".L") }.SelectMany(s =>
            OneSide.Select(p => new FigurePart(new(p.Limb, $"{s.Item1} {p.Name}"), p.A + s.Item2, p.B + s.Item2, p.Limb + s.Item2))
        ),
    ];

    private readonly LandmarkSet drawn,
        reference;

    /// <summary>Sheet units a reference unit.</summary>
    public double Scale { get; }

    /// <summary>How far the drawing as a whole is turned against the reference, degrees clockwise; 0 without an alignment.</summary>
    public double Turn { get; }

    /// <summary>Parts that both sets hold.</summary>
    public IReadOnlyList<FigurePart> Seen { get; }

    private readonly double meanLength;

    public ReferenceMeasures(LandmarkSet drawn, LandmarkSet reference, Similarity? alignment)
    {
        (this.drawn, this.reference, Turn) = (drawn, reference, alignment?.TurnDegrees ?? 0);
        Seen =
        [
            .. Parts.Where(p =>
                drawn.Has(p.A) && drawn.Has(p.B) && reference.Has(p.A) && reference.Has(p.B) && Length(reference, p) > 1e-9
            ),
        ];
        var ratios = Seen.Where(p => p.Carries)
            .Select(p => (Ratio: Length(drawn, p) / Length(reference, p), Weight: Length(reference, p)))
            .OrderBy(r => r.Ratio)
            .ToList();
        Scale = ratios.Count == 0 ? alignment?.Scale ?? 1 : Median(ratios);
        meanLength = Seen.Count == 0 ? 1 : Seen.Average(p => Length(drawn, p));
    }

    /// <summary>The weighted median: one part drawn wrong doesn't move the scale that all are judged by.</summary>
    private static double Median(List<(double Ratio, double Weight)> sorted)
    {
        double half = sorted.Sum(r => r.Weight) / 2,
            sum = 0;
        foreach (var (ratio, weight) in sorted)
            if ((sum += weight) >= half)
                return ratio;
        return sorted[^1].Ratio;
    }

    private static double Length(LandmarkSet l, FigurePart p) => (l[p.A]!.Value - l[p.B]!.Value).Length;

    /// <summary>Drawn length over the reference's at the drawing's own scale; 1 where they agree.</summary>
    public Measure LengthOf(FigurePart p)
    {
        var (whole, from, to) = (Scale * Length(reference, p), p.A, p.B);
        return new(
            Rules.Length,
            p.Part,
            MeasureKind.Ratio,
            "ratio",
            [from, to],
            at => (at(from) - at(to)).Length / whole,
            $"drawn {LandmarkIds.Name(from)} to {LandmarkIds.Name(to)} ÷ the same of the reference view at this drawing's scale"
        );
    }

    /// <summary>1 σ of a length's ratio that comes from the scale: the median of n parts, 1.25 times as uncertain as their mean.</summary>
    public double ScaleSigma(double placementMm) => 1.25 * placementMm * Math.Sqrt(2) / (meanLength * Math.Sqrt(Math.Max(1, Seen.Count)));

    public static Measure DirectionOf(FigurePart p) =>
        new(
            Rules.EdgeDirection,
            p.Part,
            MeasureKind.Angle,
            "deg",
            [p.A, p.B],
            at => ClockAngle.OfEdge(at(p.A), at(p.B)),
            $"direction of the line through {LandmarkIds.Name(p.A)} and {LandmarkIds.Name(p.B)}"
        );

    /// <summary>What that direction should be, the whole drawing's lean taken along.</summary>
    public double ExpectedDirection(FigurePart p) =>
        ClockAngle.Wrap(ClockAngle.OfEdge(reference[p.A]!.Value, reference[p.B]!.Value) + Turn);
}
