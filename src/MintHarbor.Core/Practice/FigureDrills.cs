using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Shelves;

namespace MintHarbor.Core.Practice;

/// <summary>What drills answered by a ratio share.</summary>
public abstract class RatioDrill : Drill
{
    public override string Unit => "ratio";
    public override string Wanted => $"a ratio of {Asked}";
    protected override int Decimals => 4;

    protected override double TruthOf(Marked asked, Marked? unit) => asked.Length / unit!.Length;

    protected override double Even(double truth) => Math.Log(truth);

    /// <summary>ln(answer ÷ truth): half and double are off alike.</summary>
    protected override double ErrorOf(double answer, double truth) => Math.Log(answer / truth);

    public override string SayValue(double value) => Say.Number(value, 2);

    public override string SayError(double error) =>
        Math.Abs(error) < 0.005 ? "on it" : $"{Say.Number(100 * Math.Abs(Math.Exp(error) - 1))} % {(error > 0 ? "too many" : "too few")}";

    public override string SayWidth(double width) => Say.Number(100 * (Math.Exp(width) - 1), 0) + " %";
}

/// <summary>Head count: how many heads tall the figure stands, or how far down a place lies.</summary>
public sealed class HeadCount : RatioDrill
{
    public override string Kind => "head-count";
    public override string Name => "Head count";
    public override string About => "ten heights of a figure; say each in heads";
    public override string How => "Take the head from crown to chin on the pencil and step it down.";
    public override (double Least, double Most) Range => (0.5, 8.5);
    protected override (double Easy, double Hard) Width => (0.14, 0.03);

    private static readonly (string A, string B, string Ask)[] Heights =
    [
        ("crown", "sole.L", "Crown to the left sole: how many heads?"),
        ("crown", "sole.R", "Crown to the right sole: how many heads?"),
        ("crown", "pubic", "Crown to pubic bone: how many heads?"),
        ("crown", "kneetop.L", "Crown to the left kneecap: how many heads?"),
        ("crown", "kneetop.R", "Crown to the right kneecap: how many heads?"),
        ("chin", "navel", "Chin to navel: how many heads?"),
        ("pit", "kneetop.R", "Pit of the neck to the right kneecap: how many heads?"),
        ("pubic", "sole.R", "Pubic bone to the right sole: how many heads?"),
    ];

    /// <summary>The more heads, and the farther from upright, the harder.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) =>
        from counted in ByHeads(figures, seen: true)
        let view = counted.View
        let head = counted.Head
        from h in Heights
        where view.Sees(h.A) && view.Sees(h.B)
        let span = new Marked(view.At(h.A)!.Value, view.At(h.B)!.Value)
        let heads = span.Length / head.Length
        where heads is > 0.8 and < 8.3
        select new Candidate(view, h.Ask, span, head, heads + (Math.Abs(ClockAngle.Wrap(ClockAngle.OfEdge(span.From, span.To))) / 30));
}

/// <summary>Far share: how a turned head divides. Of the breadth from one outer eye corner to the other, or between the wings or mouth corners,
/// how much lies on the far side of the middle.</summary>
public sealed class FarShare : RatioDrill
{
    public override string Kind => "far-share";
    public override string Name => "Far share";
    public override string About => "ten turned heads; say how much lies beyond the middle";
    public override string How =>
        "Measure the far part on the pencil, then see how often it goes into the whole breadth. Half is a head seen from the front.";
    public override string Wanted => $"a share of {Asked}";
    public override (double Least, double Most) Range => (0.02, 0.5);
    protected override (double Easy, double Hard) Width => (0.13, 0.05);
    public override DrillLimit? LimitThen => new(0.22, 0.06);

    public override string SayError(double error) =>
        Math.Abs(error) < 0.005 ? "on it" : $"{Say.Number(100 * Math.Abs(Math.Exp(error) - 1))} % too {(error > 0 ? "wide" : "narrow")}";

    private static readonly (string Side, string Middle, string Ask)[] Pairs =
    [
        ("eye-outer", "nose-root", "Outer eye corner to outer eye corner: how much is beyond the root of the nose?"),
        ("wing", "nosetip", "Wing to wing of the nose: how much is beyond the tip?"),
        ("mouth-corner", "lip-slit", "Corner to corner of the mouth: how much is beyond its middle?"),
    ];

    /// <summary>The smaller the far part, the harder. A head has no garment: the same views for every course.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) => Turned(90, 0.1);

    protected override IEnumerable<Candidate> CandidatesThen(IReadOnlyList<StudioView> figures) => Turned(38, 0.04);

    private static IEnumerable<Candidate> Turned(double most, double least) =>
        from view in StudioViews.All
        where view.IsHead && Math.Abs(view.Azimuth) <= most
        from p in Pairs
        let far = view.At(p.Side + (view.Azimuth > 0 ? ".L" : ".R"))!.Value
        let near = view.At(p.Side + (view.Azimuth > 0 ? ".R" : ".L"))!.Value
        let share = (view.At(p.Middle)!.Value.X - far.X) / (near.X - far.X)
        where share > least && share < 0.49
        select new Candidate(view, p.Ask, new(far, far + ((near - far) * share)), new(far, near), -share);
}

/// <summary>Tilt: the slope of shoulders, pelvis and knees, which is where a pose shows its weight.</summary>
public sealed class Tilt : DirectionDrill
{
    public override string Kind => "tilt";
    public override string Name => "Tilt";
    public override string About => "ten slopes of shoulders, pelvis and knees; say each as a clock hand";
    public override string How => "Hold the pencil level before the two points, then tip it until it joins them.";
    protected override (double Easy, double Hard) Width => (9, 2);

    private static readonly (string A, string B, string Ask)[] Edges =
    [
        ("acromion.R", "acromion.L", "Across the shoulders: which hour?"),
        ("asis.R", "asis.L", "Across the pelvis: which hour?"),
        ("kneetop.R", "kneetop.L", "Across the knees: which hour?"),
        ("nipple.R", "nipple.L", "Across the chest: which hour?"),
        ("eye.R", "eye.L", "Across the eyes: which hour?"),
        ("iliac.R", "iliac.L", "Across the hip crests: which hour?"),
    ];

    /// <summary>The nearer to level, the harder to tell which way it falls.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) =>
        Seen(figures, Edges, 0.02)
            .Select(e => new Candidate(
                e.View,
                e.Ask,
                e.Edge,
                null,
                -Math.Abs(ClockAngle.Wrap(ClockAngle.OfEdge(e.Edge.From, e.Edge.To) - 90)) - (e.Edge.Length / 20)
            ));
}

/// <summary>Plumb: how far a place lies from the plumb line of another, in heads.</summary>
public sealed class Plumb : Drill
{
    public override string Kind => "plumb";
    public override string Name => "Plumb";
    public override string About => "ten plumb lines; say how far off a place lies, in heads";
    public override string How => "Let the pencil hang under the first point; count heads from it to the second.";
    public override string Unit => "heads";
    public override string Wanted => $"heads, {Asked}, minus to the left";
    public override (double Least, double Most) Range => (-2.2, 2.2);
    protected override (double Easy, double Hard) Width => (0.3, 0.06);
    protected override int Decimals => 3;

    private static readonly (string From, string To, string Ask)[] Lines =
    [
        ("pit", "ankleout.R", "From the plumb of the pit of the neck to the right outer ankle: how many heads?"),
        ("pit", "ankleout.L", "From the plumb of the pit of the neck to the left outer ankle: how many heads?"),
        ("pit", "pubic", "From the plumb of the pit of the neck to the pubic bone: how many heads?"),
        ("acromion.R", "kneetop.R", "From the plumb of the right shoulder to the right kneecap: how many heads?"),
        ("acromion.L", "kneetop.L", "From the plumb of the left shoulder to the left kneecap: how many heads?"),
        ("chin", "navel", "From the plumb of the chin to the navel: how many heads?"),
        ("asis.R", "elbow.R", "From the plumb of the right hip to the right elbow: how many heads?"),
        ("asis.L", "elbow.L", "From the plumb of the left hip to the left elbow: how many heads?"),
    ];

    /// <summary>The farther apart the two lie in height, the harder.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) =>
        from counted in ByHeads(figures, seen: true)
        let view = counted.View
        let head = counted.Head
        from l in Lines
        where view.Sees(l.From) && view.Sees(l.To)
        let marked = new Marked(view.At(l.From)!.Value, view.At(l.To)!.Value)
        let off = (marked.To.X - marked.From.X) / head.Length
        where Math.Abs(off) < 2.1
        select new Candidate(view, l.Ask, marked, head, Math.Abs(marked.To.Y - marked.From.Y));

    protected override double TruthOf(Marked asked, Marked? unit) => (asked.To.X - asked.From.X) / unit!.Length;

    protected override double ErrorOf(double answer, double truth) => answer - truth;

    public override string SayValue(double value) =>
        Math.Abs(value) < 0.02 ? "under it" : $"{Say.Number(Math.Abs(value), 2)} heads {(value > 0 ? "right" : "left")}";

    public override string SayError(double error) =>
        Math.Abs(error) < 0.02 ? "on it" : $"{Say.Number(Math.Abs(error), 2)} heads {(error > 0 ? "too far right" : "too far left")}";

    public override string SayWidth(double width) => Say.Number(width, 2) + " heads";
}

/// <summary>Foreshortened limb: how short it is seen, against something else that is seen there. It is never asked as a share of the length that
/// the limb is known to have: to draw what is known is the very habit that it is to break.</summary>
public sealed class Foreshortened : RatioDrill
{
    public override string Kind => "foreshortened";
    public override string Name => "Foreshortened limb";
    public override string About => "ten limbs that come towards you or go away; say each against something else seen there";
    public override string How =>
        "Follow the limb in the air, carry its direction to the palm; then take it on the pencil and lay that on what it is held against.";
    public override (double Least, double Most) Range => (0.15, 4.5);
    protected override (double Easy, double Hard) Width => (0.22, 0.06);
    public override DrillLimit? LimitThen => new(0.25, 0.06);

    public override string SayError(double error) =>
        Math.Abs(error) < 0.005 ? "on it" : $"{Say.Number(100 * Math.Abs(Math.Exp(error) - 1))} % too {(error > 0 ? "long" : "short")}";

    /// <summary>How much of a limb may be seen and it still counts as foreshortened.</summary>
    private const double MostSeen = 0.9;

    private static readonly (string A, string B, string Limb, string Name)[] Limbs =
    [
        ("acromion", "elbow", "upper-arm", "upper arm"),
        ("elbow", "wrist", "forearm", "forearm"),
        ("asis", "kneetop", "thigh", "thigh"),
        ("kneetop", "ankleout", "shank", "lower leg"),
    ];

    private static readonly (string A, string B, string Name)[] Against =
    [
        ("crown", "chin", "the head"),
        ("acromion.R", "acromion.L", "the breadth of the shoulders"),
        ("pit", "navel", "the way from pit to navel"),
        .. from side in new[] { ("left", ".L"), ("right", ".R") }
        from l in Limbs
        select (l.A + side.Item2, l.B + side.Item2, $"the {side.Item1} {l.Name}"),
    ];

    /// <summary>The shorter a limb is seen of its length, the harder.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) =>
        from view in figures
        let limbs = StudioFigure.LimbsFrom(view.Body, view.Pose, view.Azimuth).ToDictionary(l => l.Id, l => l.Ratio)
        from side in new[] { ("left", ".L"), ("right", ".R") }
        from l in Limbs
        let asked = Span(view, l.A + side.Item2, l.B + side.Item2)
        let seen = limbs[l.Limb + side.Item2]
        where asked is not null && seen is > 0.15 and < MostSeen
        from other in Against
        let unit = Span(view, other.A, other.B)
        where unit is not null && unit != asked && unit.Length > 0.03 * view.Height
        let ratio = asked.Length / unit.Length
        where ratio is > 0.28 and < 2.8
        select new Candidate(view, $"The {side.Item1} {l.Name} as you see it: how many times {other.Name}?", asked, unit, 1 - seen);

    /// <summary>As it was asked once: how much of its length is seen.</summary>
    protected override IEnumerable<Candidate> CandidatesThen(IReadOnlyList<StudioView> figures) =>
        from view in figures
        let limbs = StudioFigure.LimbsFrom(view.Body, view.Pose, view.Azimuth).ToDictionary(l => l.Id, l => l.Ratio)
        from side in new[] { ("left", ".L"), ("right", ".R") }
        from l in Limbs
        let asked = Span(view, l.A + side.Item2, l.B + side.Item2)
        let ratio = limbs[l.Limb + side.Item2]
        where asked is not null && ratio is > 0.15 and < 0.97
        select new Candidate(view, $"The {side.Item1} {l.Name}: how much of its length is seen?", asked, null, 1 - ratio, ratio);

    private static Marked? Span(StudioView view, string a, string b) =>
        view.Sees(a) && view.Sees(b) ? new(view.At(a)!.Value, view.At(b)!.Value) : null;
}
