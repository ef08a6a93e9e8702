using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;

namespace MintHarbor.Core.Measuring;

/// <summary>A check of anatomy that is a number, and how far it may lie from the same number of the reference view.</summary>
/// <param name="Tolerance">In the measure's unit: common practice, no source; about what a drawer sees without measuring.</param>
public sealed record AnatomyMeasure(Measure Measure, double Tolerance);

/// <summary>What two or three marks near one another say of the anatomy under them: levels along a limb, a place across a joint, the shape of
/// a bony triangle. Each is a share of a length beside it, so that neither the drawing's scale nor its lean counts; what it should be is told
/// by the reference view, since it changes with pose and seat.</summary>
public static class AnatomyMeasures
{
    private const double OfLeg = 0.03,
        OfKnee = 0.12,
        OfArm = 0.07,
        OfShoulders = 0.05,
        OfTriangle = 0.1;

    public static IEnumerable<AnatomyMeasure> All { get; } =
    [
        .. new[] { (".L", "left"), (".R", "right") }.SelectMany(s => Legs(s.Item1, s.Item2).Append(Deltoid(s.Item1, s.Item2))),
        Pelvis(),
        Collarbones(),
    ];

    private static IEnumerable<AnatomyMeasure> Legs(string s, string side)
    {
        var leg = new Part("leg" + s, $"{side} leg");
        yield return new(Level(Rules.Calf, leg, "calfin" + s, "calfout" + s, "kneetop" + s, "ankleout" + s), OfLeg);
        yield return new(Level(Rules.Ankles, leg, "anklein" + s, "ankleout" + s, "kneetop" + s, "ankleout" + s), OfLeg);
        yield return new(
            Along(Rules.Kneecap, new("knee" + s, $"{side} knee"), "kneetop" + s, "kneeout" + s, "kneein" + s, "breadth of the knee"),
            OfKnee
        );
    }

    private static AnatomyMeasure Deltoid(string s, string side) =>
        new(Along(Rules.Deltoid, new("arm" + s, $"{side} arm"), "deltoidend" + s, "acromion" + s, "elbow" + s, "upper arm"), OfArm);

    /// <summary>How much farther down the limb one mark lies than another.</summary>
    private static Measure Level(Rule rule, Part part, string low, string high, string from, string to) =>
        new(
            rule,
            part,
            MeasureKind.Offset,
            "lower leg",
            [low, high, from, to],
            at => Share(at(high), at(high) + at(to) - at(from), at(low)),
            $"how far {LandmarkIds.Name(low)} lies below {LandmarkIds.Name(high)} along the lower leg ÷ the lower leg"
        );

    /// <summary>Where a mark lies between two others, 0 at the first, 1 at the second.</summary>
    private static Measure Along(Rule rule, Part part, string mark, string from, string to, string unit) =>
        new(
            rule,
            part,
            MeasureKind.Offset,
            unit,
            [mark, from, to],
            at => Share(at(from), at(to), at(mark)),
            $"{LandmarkIds.Name(mark)} on the way from {LandmarkIds.Name(from)} to {LandmarkIds.Name(to)} ÷ that way"
        );

    private static double Share(Vec2 from, Vec2 to, Vec2 at) => (at - from).Dot(to - from) / (to - from).Dot(to - from);

    private static AnatomyMeasure Pelvis() =>
        new(
            new(
                Rules.PelvisTriangle,
                null,
                MeasureKind.Ratio,
                "ratio",
                ["asis.L", "asis.R", "pubic"],
                at => (at("asis.L") - at("pubic")).Length / (at("asis.R") - at("pubic")).Length,
                "left hip point to pubic bone ÷ right hip point to pubic bone"
            ),
            OfTriangle
        );

    private static AnatomyMeasure Collarbones() =>
        new(
            new(
                Rules.Collarbones,
                null,
                MeasureKind.Offset,
                "shoulders",
                ["pit", "acromion.R", "acromion.L"],
                at => Above(at("pit"), at("acromion.R"), at("acromion.L")),
                "how far the pit of the neck lies above the line through both shoulder points ÷ their distance"
            ),
            OfShoulders
        );

    /// <summary>How far a place lies above a line, whichever way the line is drawn, as a share of its length; "above" is up the sheet.</summary>
    private static double Above(Vec2 place, Vec2 a, Vec2 b)
    {
        var (left, right) = a.X <= b.X ? (a, b) : (b, a);
        var along = right - left;
        return ((place.X - left.X) * along.Y - (place.Y - left.Y) * along.X) / along.Dot(along);
    }
}
