using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;

namespace MintHarbor.Core.Practice;

/// <summary>Span against span: how many of this go into that, as the pencil at arm's length would count them.</summary>
public sealed class SpanAgainstSpan : RatioDrill
{
    public static readonly SpanAgainstSpan Drill = new();

    public override string Kind => "span-against-span";
    public override string Name => "Span against span";
    public override string About => "ten spans of figures and things; say how many of one go into another";
    public override string How => "Take the unit between finger and thumb, and walk it along the other span.";
    protected override (double Easy, double Hard) Width => (0.20, 0.04);

    private static readonly (string A, string B, string Name)[] Units =
    [
        ("crown", "chin", "head"),
        ("chin", "hairline", "face"),
        ("acromion.R", "acromion.L", "shoulder breadth"),
        ("asis.R", "asis.L", "pelvis breadth"),
        ("wrist.L", "fingertip.L", "left hand"),
        ("wrist.R", "fingertip.R", "right hand"),
        ("heel.L", "toe.L", "left foot"),
        ("heel.R", "toe.R", "right foot"),
    ];

    private static readonly (string A, string B, string Name)[] Spans =
    [
        ("pit", "pubic", "trunk"),
        ("asis.L", "kneetop.L", "left thigh"),
        ("asis.R", "kneetop.R", "right thigh"),
        ("kneetop.L", "ankleout.L", "left shank"),
        ("kneetop.R", "ankleout.R", "right shank"),
        ("acromion.L", "elbow.L", "left upper arm"),
        ("acromion.R", "elbow.R", "right upper arm"),
        ("elbow.L", "wrist.L", "left forearm"),
        ("elbow.R", "wrist.R", "right forearm"),
        ("acromion.R", "acromion.L", "shoulder breadth"),
        ("pit", "sternumend", "breastbone"),
        ("pit", "navel", "way from pit to navel"),
    ];

    /// <summary>Ratios from a third to four and a quarter, so that the dial holds them. Spans that lie across one another are
    /// harder than parallel ones, and long ratios harder than short ones.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) =>
        from view in figures
        from u in Units
        where view.Sees(u.A) && view.Sees(u.B)
        let unit = new Marked(view.At(u.A)!.Value, view.At(u.B)!.Value)
        where unit.Length > 0.03 * view.Height
        from s in Spans
        where s.Name != u.Name && view.Sees(s.A) && view.Sees(s.B)
        let span = new Marked(view.At(s.A)!.Value, view.At(s.B)!.Value)
        let ratio = span.Length / unit.Length
        where ratio is > 0.33 and < 4.25 && Math.Abs(Math.Log(ratio)) > 0.08
        let across = Math.Abs(ClockAngle.Wrap(ClockAngle.OfEdge(span.From, span.To) - ClockAngle.OfEdge(unit.From, unit.To))) / 90
        select new Candidate(view, $"The {s.Name}: how many times the {u.Name}?", span, unit, across + Math.Abs(Math.Log(ratio)));

    /// <summary>What is seen of one thing against what is seen of another, never against how long it is known to be: edges and the breadths of
    /// rims.</summary>
    protected override IEnumerable<Candidate> OfThings(IReadOnlyList<StudioView> things) =>
        from view in things
        let spans = ThingSpans(view.Known!).ToList()
        from u in spans
        from s in spans
        where s.Thing != u.Thing
        let ratio = s.Marked.Length / u.Marked.Length
        where ratio is > 0.5 and < 3.2 && Math.Abs(Math.Log(ratio)) > 0.08
        let across = Math.Abs(
            ClockAngle.Wrap(ClockAngle.OfEdge(s.Marked.From, s.Marked.To) - ClockAngle.OfEdge(u.Marked.From, u.Marked.To))
        ) / 90
        select new Candidate(
            view,
            $"{char.ToUpperInvariant(s.Name[0])}{s.Name[1..]}: how many times {u.Name}?",
            s.Marked,
            u.Marked,
            across + Math.Abs(Math.Log(ratio))
        );

    private static IEnumerable<(string Thing, string Name, Marked Marked)> ThingSpans(ThingTruth known) =>
        known
            .Edges.OrderByDescending(e => e.Length)
            .Take(6)
            .Select(e => (e.Thing, $"the marked edge of the {e.Thing}", new Marked(e.From, e.To)))
            .Concat(known.Ellipses.Select(e => (e.Thing, $"the breadth of the {e.Thing}'s {e.Name}", e.Breadth)));
}
