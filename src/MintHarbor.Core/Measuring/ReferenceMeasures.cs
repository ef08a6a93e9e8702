using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;

namespace MintHarbor.Core.Measuring;

/// <summary>What of the figure a part belongs to: no group alone may carry the drawing's scale or turn.</summary>
public enum PartGroup
{
    Trunk,
    Arms,
    Legs,
}

/// <summary>A part of the figure between two landmarks, as it is held against a reference view.</summary>
/// <param name="Part">Its id in the table of rules, the same for both sides, and its name.</param>
/// <param name="Limb">Id of the limb that foreshortening is known for; null for head, trunk and shoulders.</param>
/// <param name="Directed">Whether which way it goes is judged too.</param>
/// <param name="Carries">Whether its length has a say in the drawing's scale.</param>
public sealed record FigurePart(
    Part Part,
    string A,
    string B,
    PartGroup Group,
    string? Limb = null,
    bool Directed = true,
    bool Carries = true
);

/// <summary>A drawing against a reference view of the same pose: how long each part is drawn for the whole, which way it goes, how the
/// whole leans. Scale and turn of the whole are what most of it says, so that one limb doesn't turn the rest.</summary>
public sealed class ReferenceMeasures
{
    private static readonly (string Name, string A, string B, string Limb, PartGroup Group)[] OneSide =
    [
        ("upper arm", "acromion", "elbow", "upper-arm", PartGroup.Arms),
        ("forearm", "elbow", "wrist", "forearm", PartGroup.Arms),
        ("hand", "wrist", "fingertip", "hand", PartGroup.Arms),
        ("thigh", "asis", "kneetop", "thigh", PartGroup.Legs),
        ("lower leg", "kneetop", "ankleout", "shank", PartGroup.Legs),
        ("foot", "heel", "toe", "foot", PartGroup.Legs),
    ];

    public static readonly IReadOnlyList<FigurePart> Parts =
    [
        new("head", "crown", "chin", PartGroup.Trunk, Directed: false),
        new("trunk", "pit", "pubic", PartGroup.Trunk),
        new(
            new(Measuring.Parts.Shoulders, "breadth of the shoulders"),
            "acromion.R",
            "acromion.L",
            PartGroup.Trunk,
            Directed: false,
            Carries: false
        ),
        .. new[] { ("right", ".R"), ("left", ".L") }.SelectMany(s =>
            OneSide.Select(p => new FigurePart(new(p.Limb, $"{s.Item1} {p.Name}"), p.A + s.Item2, p.B + s.Item2, p.Group, p.Limb + s.Item2))
        ),
    ];

    /// <summary>Fewer parts than these have no majority.</summary>
    public const int LeastParts = 4;

    /// <summary>The most of the say that one group may have where others are seen: legs alone are as long as all the rest.</summary>
    private const double MostOfGroup = 0.4;

    /// <summary>Parts off by more than these have no say in the whole's scale and turn: natural logarithm, and degrees.</summary>
    internal const double ScaleReach = 0.12,
        TurnReach = 7;

    private readonly LandmarkSet drawn,
        reference;
    private readonly RobustLocation scale,
        turn;

    /// <summary>Sheet units a reference unit.</summary>
    public double Scale => Math.Exp(scale.Value);

    /// <summary>How far the drawing as a whole is turned against the reference, degrees clockwise.</summary>
    public double Turn => turn.Value;

    /// <summary>Parts that both sets hold.</summary>
    public IReadOnlyList<FigurePart> Seen { get; }

    private readonly double meanLength;

    /// <param name="error">1 σ of a landmark's place, in the drawing's unit; null where all are placed alike.</param>
    public ReferenceMeasures(LandmarkSet drawn, LandmarkSet reference, Similarity? alignment, Func<string, double>? error = null)
    {
        (this.drawn, this.reference) = (drawn, reference);
        double Trust(FigurePart p) => error is null ? 1 : Trusted(error(p.A), error(p.B), Length(drawn, p));
        Seen =
        [
            .. Parts.Where(p =>
                drawn.Has(p.A)
                && drawn.Has(p.B)
                && reference.Has(p.A)
                && reference.Has(p.B)
                && Length(reference, p) > 1e-9
                && Length(drawn, p) > 1e-9
            ),
        ];
        var carrying = Seen.Where(p => p.Carries).ToList();
        scale =
            carrying.Count == 0
                ? new(Math.Log(alignment?.Scale ?? 1), 0, 0)
                : RobustLocation.Of(
                    Weighed(carrying, p => Length(reference, p), Trust, p => Math.Log(Length(drawn, p) / Length(reference, p))),
                    ScaleReach
                );
        turn =
            Seen.Count == 0
                ? new(alignment?.TurnDegrees ?? 0, 0, 0)
                : RobustLocation.Of(Weighed(Seen, p => Length(reference, p), Trust, p => Apart(drawn, reference, p)), TurnReach);
        meanLength = Seen.Count == 0 ? 1 : Seen.Average(p => Length(drawn, p));
    }

    /// <summary>What each part says, with its weight.</summary>
    private static List<(double Value, double Weight)> Weighed(
        IReadOnlyList<FigurePart> parts,
        Func<FigurePart, double> weight,
        Func<FigurePart, double> trust,
        Func<FigurePart, double> value
    ) => [.. parts.Zip(Weights(parts, weight)).Select(p => (value(p.First), p.Second * trust(p.First)))];

    /// <summary>1 σ, a share of a length, or radians, from where on a part has less say: thrice what a hand varies by that draws rightly, so
    /// that only what may lie anywhere is not heard.</summary>
    private const double Steady = 0.08;

    /// <summary>What a part's say is worth, 0 to 1, by the 1 σ of its ends.</summary>
    internal static double Trusted(double a, double b, double length)
    {
        var share = Math.Sqrt((a * a) + (b * b)) / Math.Max(1e-9, length) / Steady;
        return 1 / (1 + (share * share));
    }

    /// <summary>The say of each part; what a group has beyond its share is taken from all of its parts alike.</summary>
    internal static double[] Weights(IReadOnlyList<FigurePart> parts, Func<FigurePart, double> weight)
    {
        var groups = parts.GroupBy(p => p.Group).ToDictionary(g => g.Key, g => g.Sum(weight));
        var all = groups.Values.Sum();
        double Share(PartGroup g)
        {
            var rest = all - groups[g];
            return rest <= 0 ? 1 : Math.Min(1, MostOfGroup / (1 - MostOfGroup) * rest / groups[g]);
        }
        return [.. parts.Select(p => weight(p) * Share(p.Group))];
    }

    private static double Length(LandmarkSet l, FigurePart p) => (l[p.A]!.Value - l[p.B]!.Value).Length;

    /// <summary>By how much a part is turned, degrees clockwise.</summary>
    private static double Apart(LandmarkSet drawn, LandmarkSet reference, FigurePart p) =>
        ClockAngle.Wrap(
            ClockAngle.OfEdge(drawn[p.A]!.Value, drawn[p.B]!.Value) - ClockAngle.OfEdge(reference[p.A]!.Value, reference[p.B]!.Value)
        );

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

    /// <summary>1 σ of a length's ratio that comes from the scale: by placement, and by how far the parts themselves disagree.</summary>
    public double ScaleSigma(double placementMm)
    {
        var placed = placementMm * Math.Sqrt(2) / (meanLength * Math.Sqrt(Math.Max(1, Seen.Count)));
        return Math.Sqrt((placed * placed) + (scale.Sigma * scale.Sigma));
    }

    /// <summary>1 σ of <see cref="Turn"/> that comes from how far the parts themselves disagree, degrees.</summary>
    public double TurnSigma => turn.Sigma;

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

    /// <summary>Scale and turn of the whole, and the shift that lays most of the landmarks over one another.</summary>
    public Similarity Alignment()
    {
        var pairs = drawn.Points.Where(p => reference.Has(p.Key)).Select(p => (Source: reference[p.Key]!.Value, Target: p.Value)).ToList();
        var still = new Similarity(Scale, Turn, new(0, 0), 0);
        var off = pairs.Select(p => p.Target - still.Map(p.Source)).ToList();
        var reach = Math.Max(1, 0.1 * meanLength * Parts.Count / 4);
        var shift = new Vec2(
            RobustLocation.Of([.. off.Select(o => (o.X, 1.0))], reach).Value,
            RobustLocation.Of([.. off.Select(o => (o.Y, 1.0))], reach).Value
        );
        return still with { Shift = shift, Residual = Math.Sqrt(off.Average(o => (o - shift).Dot(o - shift))) };
    }
}
