using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Practice;

/// <summary>What drills answered by a direction share.</summary>
public abstract class DirectionDrill : Drill
{
    public override string Unit => "deg";
    public override string Wanted => "degrees, 0 to 360";
    protected override int Decimals => 2;

    /// <summary>Views of things are as high as wide, and shown as large: a length of theirs as one of a figure's.</summary>
    protected const double ThingScale = 0.6;

    protected override double TruthOf(Marked asked, Marked? unit) => ClockAngle.OfEdge(asked.From, asked.To);

    /// <summary>Signed error of a direction, wrapped to (−90°, 90°]; positive is clockwise of the truth.</summary>
    protected override double ErrorOf(double answer, double truth) => ClockAngle.Wrap(answer - truth);

    protected override bool Answerable(double value) => value is >= 0 and <= 360;

    public override string SayValue(double value) => ClockAngle.SayBoth(ClockAngle.Fold(value));

    public override string SayError(double error) =>
        Math.Abs(error) < 0.5 ? "on it" : $"{Say.Number(Math.Abs(error))}° {(error > 0 ? "clockwise" : "anticlockwise")}";

    public override string SayWidth(double width) => Say.Number(width, 1) + "°";

    /// <summary>Every edge of a table that is seen in a view and long enough to be asked for.</summary>
    /// <param name="least">Least length, as a share of the view's height.</param>
    protected static IEnumerable<(StudioView View, string Ask, Marked Edge)> Seen(
        IReadOnlyList<StudioView> figures,
        (string A, string B, string Ask)[] edges,
        double least
    ) =>
        from view in figures
        from edge in edges
        where view.Sees(edge.A) && view.Sees(edge.B)
        let marked = new Marked(view.At(edge.A)!.Value, view.At(edge.B)!.Value)
        where marked.Length > least * view.Height
        select (view, edge.Ask, marked);
}

/// <summary>The clock hand drill: a marked edge of the figure, its direction to be said as a clock hand.</summary>
public sealed class ClockHand : DirectionDrill
{
    public static readonly ClockHand Drill = new();

    public override string Kind => "clock-hand";
    public override string Name => "Clock hand";
    public override string About => "ten edges of figures and things; say each as a clock hand";
    public override string How => "Follow the edge in the air, then say the hour.";
    protected override (double Easy, double Hard) Width => (15, 4);

    private static readonly (string A, string B, string Ask)[] Edges =
    [
        ("asis.L", "kneetop.L", "The left thigh: which hour?"),
        ("asis.R", "kneetop.R", "The right thigh: which hour?"),
        ("kneetop.L", "ankleout.L", "The left shank: which hour?"),
        ("kneetop.R", "ankleout.R", "The right shank: which hour?"),
        ("acromion.L", "elbow.L", "The left upper arm: which hour?"),
        ("acromion.R", "elbow.R", "The right upper arm: which hour?"),
        ("elbow.L", "wrist.L", "The left forearm: which hour?"),
        ("elbow.R", "wrist.R", "The right forearm: which hour?"),
        ("acromion.R", "acromion.L", "Across the shoulders: which hour?"),
        ("asis.R", "asis.L", "Across the pelvis: which hour?"),
        ("pit", "pubic", "Pit of the neck to pubic bone: which hour?"),
        ("pit", "sternumend", "The breastbone: which hour?"),
        ("heel.L", "toe.L", "The left foot: which hour?"),
        ("heel.R", "toe.R", "The right foot: which hour?"),
        ("nipple.R", "nipple.L", "Across the chest: which hour?"),
        ("pit", "ankleout.R", "Pit to right outer ankle: which hour?"),
        ("pit", "ankleout.L", "Pit to left outer ankle: which hour?"),
    ];

    /// <summary>The shorter the edge, the harder.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) =>
        Seen(figures, Edges, 0.06).Select(e => new Candidate(e.View, e.Ask, e.Edge, null, -e.Edge.Length));

    /// <summary>Edges of things, the longest of each view: by what is seen, so that none is asked for by what it is known to be.</summary>
    protected override IEnumerable<Candidate> OfThings(IReadOnlyList<StudioView> things) =>
        from view in things
        from e in view.Known!.Edges.OrderByDescending(e => e.Length).Take(8)
        select new Candidate(view, $"The marked edge of the {e.Thing}: which hour?", new(e.From, e.To), null, -e.Length * ThingScale);
}
