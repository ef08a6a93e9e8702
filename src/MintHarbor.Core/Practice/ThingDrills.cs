using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;
using MintHarbor.Core.Shelves;

namespace MintHarbor.Core.Practice;

/// <summary>Convergence: two edges of a thing that run away from the eye, and how much nearer their far ends stand.</summary>
public sealed class Convergence : RatioDrill
{
    public override string Kind => "convergence";
    public override string Name => "Convergence";
    public override string About => "ten pairs of edges that run away from you; say how far their far ends stand apart";
    public override string How =>
        "Measure the gap at the near ends, then see how much of it the far gap is. Under 1 it closes with distance; over 1 is reversed.";
    public override (double Least, double Most) Range => (0.3, 1.4);
    protected override (double Easy, double Hard) Width => (0.052, 0.018);
    public override DrillLimit? LimitThen => new(0.14, 0.03);
    public override string DialAsks => "The far gap: how much of the near one";

    public override string SayValue(double value) => value > 1.005 ? $"{base.SayValue(value)}, reversed" : base.SayValue(value);

    public override string SayError(double error) =>
        Math.Abs(error) < 0.005
            ? "on it"
            : $"{Say.Number(100 * Math.Abs(Math.Exp(error) - 1))} % too {(error > 0 ? "far apart at the far ends" : "close at the far ends")}";

    /// <summary>The less they close, the harder: what is known of a box speaks loudest there.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) =>
        from view in StudioViews.Things
        from family in view.Known!.Families
        where family.Vanishing is not null
        from pair in Pairs(view.Known!, family)
        select new Candidate(
            view,
            $"Two edges of the {family.Thing} run away from you: how much of the near gap is the far one?",
            pair.Far,
            pair.Near,
            pair.Far.Length / pair.Near.Length
        );

    /// <summary>Pairs of long edges that lie opposite: near end to near end, far end to far end.</summary>
    private static IEnumerable<(Marked Near, Marked Far)> Pairs(ThingTruth known, EdgeFamily family)
    {
        const double leastGap = 22,
            leastLength = 40;
        var at = family.Vanishing!.Value;
        List<Marked> edges =
        [
            .. family
                .Edges.Select(i => known.Edges[i])
                .Where(e => e.Length >= leastLength && e.Seen >= 0.75)
                .Select(e => (e.From - at).Length >= (e.To - at).Length ? new Marked(e.From, e.To) : new Marked(e.To, e.From)),
        ];
        for (var i = 0; i < edges.Count; i++)
        {
            for (var k = i + 1; k < edges.Count; k++)
            {
                Marked near = new(edges[i].From, edges[k].From),
                    far = new(edges[i].To, edges[k].To);
                // Opposite edges of one face: the gaps run the same way, and neither along the edges.
                if (near.Length >= leastGap && far.Length < near.Length * 0.99 && Apart(near, far) < 12 && Apart(near, edges[i]) > 25)
                    yield return (near, far);
            }
        }
    }

    private static double Apart(Marked a, Marked b) =>
        Math.Abs(ClockAngle.Wrap(ClockAngle.OfEdge(a.From, a.To) - ClockAngle.OfEdge(b.From, b.To)));
}

/// <summary>Ellipse: how open a rim is seen.</summary>
public sealed class EllipseOpen : RatioDrill
{
    public override string Kind => "ellipse-open";
    public override string Name => "Open ellipse";
    public override string About => "ten rims of round things; say how much of its breadth each is deep";
    public override string How =>
        "Breadth first, on the pencil; then turn it upright: how much of that is the depth? The nearer your eye's level, the flatter.";
    public override string Wanted => $"a share of {Asked}";
    public override (double Least, double Most) Range => (0.05, 1);
    protected override (double Easy, double Hard) Width => (0.22, 0.05);
    public override string DialAsks => "How much of its breadth";

    public override string SayError(double error) =>
        Math.Abs(error) < 0.005 ? "on it" : $"{Say.Number(100 * Math.Abs(Math.Exp(error) - 1))} % too {(error > 0 ? "open" : "flat")}";

    /// <summary>The flatter, the harder.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) =>
        from view in StudioViews.Things
        from e in view.Known!.Ellipses
        where e.Openness is > 0.06 and < 0.98
        select new Candidate(view, $"The {e.Thing}'s {e.Name}: how much of its breadth is it deep?", e.Depth, e.Breadth, -e.Openness);
}

/// <summary>What drills of value share: steps of a scale of nine, 1 the lightest and 9 the darkest, even as they are shown.</summary>
public abstract class ValueDrill : Drill
{
    private const int Steps = 9;

    /// <summary>How much a face's tone may scatter and still be one value, and the smallest place that is asked for, pixels.</summary>
    private const double Steady = 0.045,
        LeastRoom = 8;

    public override string Unit => "values";
    public override bool InTone => true;
    protected override int Decimals => 2;

    /// <summary>The value of a tone.</summary>
    public static double Of(double tone) => 1 + ((Steps - 1) * (1 - tone));

    /// <summary>The tone that a value is shown in, 0 black to 1 white.</summary>
    public static double Tone(double value) => 1 - ((value - 1) / (Steps - 1));

    /// <summary>Flat faces of one value, as they are seen: with the shadow that falls on them.</summary>
    protected static IEnumerable<SeenPlane> Flats(StudioView view) =>
        view.Known!.Planes.Where(p => p.Steady <= Steady && p.Room >= LeastRoom);

    /// <summary>A place of a face, as wide as may be asked for.</summary>
    protected static Marked Place(SeenPlane p) => new(p.At, p.At + new Vec2(Math.Min(p.Room * 0.8, 14), 0));

    protected override double ErrorOf(double answer, double truth) => answer - truth;

    public override string SayError(double error) =>
        Math.Abs(error) < 0.05 ? "on it" : $"{Counted(error)} too {(error > 0 ? Positive : Negative)}";

    /// <summary>What an answer above the truth made of it.</summary>
    protected abstract string Positive { get; }
    protected abstract string Negative { get; }

    /// <summary>"1 value", "2.5 values".</summary>
    protected static string Counted(double steps) => Say.Number(Math.Abs(steps), 1) is var n && n == "1" ? "1 value" : $"{n} values";

    public override string SayWidth(double width) => Counted(width);
}

/// <summary>Value match: a place of a still life against the scale.</summary>
public sealed class ValueMatch : ValueDrill
{
    public override string Kind => "value-match";
    public override string Name => "Value match";
    public override string About => "ten places of a still life; find each on a scale of nine values";
    public override string How => "Eyes half shut. Compare with the lightest and the darkest there is, not with the neighbour alone.";
    public override string Wanted => "a value of 1, the lightest, to 9, the darkest";
    public override (double Least, double Most) Range => (1, 9);
    public override string DialAsks => "Which value, 1 the lightest to 9 the darkest";
    protected override (double Easy, double Hard) Width => (0.9, 0.3);
    public override DrillLimit? LimitThen => new(1.5, 0.4);
    protected override string Positive => "dark";
    protected override string Negative => "light";

    public override string SayValue(double value) => Say.Number(value, 1);

    /// <summary>The nearer the middle of the scale, the harder: black and white are beside the ends.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) =>
        from view in StudioViews.Things
        from p in Flats(view)
        let value = Of(p.Mean)
        select new Candidate(view, $"The ringed place of the {p.Thing}: which value?", Place(p), null, -Math.Abs(value - 5), value);

    protected override double TruthOf(Marked asked, Marked? unit) => throw new InvalidOperationException("a value isn't in its place");
}

/// <summary>Value steps: which of two places is the lighter, and by how much.</summary>
public sealed class ValueSteps : ValueDrill
{
    public override string Kind => "value-steps";
    public override string Name => "Value steps";
    public override string About => "ten pairs of places in a still life; which is the lighter, and by how many values of nine";
    public override string How =>
        "Eyes half shut, look between the two. First which is lighter; a white thing in shadow may be darker than a dark one lit.";
    public override string Wanted => $"values, {Asked}, minus where B is the darker";
    public override (double Least, double Most) Range => (-6, 6);
    public override string DialAsks => "From A to B: how many values darker or lighter";
    protected override (double Easy, double Hard) Width => (0.9, 0.35);
    public override DrillLimit? LimitThen => new(1.6, 0.5);
    protected override string Positive => "light";
    protected override string Negative => "dark";

    public override string SayValue(double value) =>
        Math.Abs(value) < 0.05 ? "alike" : $"{Counted(value)} {(value > 0 ? "lighter" : "darker")}";

    /// <summary>The nearer alike, the harder; hardest where light turns round what each is of itself.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) =>
        from view in StudioViews.Things
        let flats = Flats(view).ToList()
        from a in flats
        from b in flats
        where a != b && (a.At - b.At).Length > 30
        let steps = Of(a.Mean) - Of(b.Mean)
        where Math.Abs(steps) is > 0.25 and < 5.5
        select new Candidate(view, "From A to B: how many values lighter or darker?", Place(b), Place(a), -Math.Abs(steps), steps);

    protected override double TruthOf(Marked asked, Marked? unit) => throw new InvalidOperationException("a value isn't in its place");
}
