using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Practice;

/// <summary>Span against span: how many of this go into that, as the pencil at arm's length would count them.</summary>
public sealed class SpanAgainstSpan : Drill
{
    public static readonly SpanAgainstSpan Drill = new();

    public override string Kind => "span-against-span";
    public override string Name => "Span against span";
    public override string About => "ten spans of a figure; say how many of one go into another";
    public override string How => "Take the unit between finger and thumb, and walk it along the other span.";
    public override string Unit => "ratio";
    public override string Wanted => "a ratio of 0.05 to 20";
    protected override (double Easy, double Hard) Width => (0.20, 0.04);
    protected override int Decimals => 4;

    private static readonly (string A, string B, string Name)[] Units =
    [
        ("crown", "chin", "head"), ("chin", "hairline", "face"), ("acromion.R", "acromion.L", "shoulder breadth"), ("asis.R", "asis.L", "pelvis breadth"),
        ("wrist.L", "fingertip.L", "left hand"), ("wrist.R", "fingertip.R", "right hand"), ("heel.L", "toe.L", "left foot"), ("heel.R", "toe.R", "right foot"),
    ];

    private static readonly (string A, string B, string Name)[] Spans =
    [
        ("pit", "pubic", "trunk"), ("asis.L", "kneetop.L", "left thigh"), ("asis.R", "kneetop.R", "right thigh"), ("kneetop.L", "ankleout.L", "left shank"), ("kneetop.R", "ankleout.R", "right shank"),
        ("acromion.L", "elbow.L", "left upper arm"), ("acromion.R", "elbow.R", "right upper arm"), ("elbow.L", "wrist.L", "left forearm"), ("elbow.R", "wrist.R", "right forearm"),
        ("acromion.R", "acromion.L", "shoulder breadth"), ("pit", "sternumend", "breastbone"), ("pit", "navel", "way from pit to navel"),
    ];

    /// <summary>Ratios from a third to four and a quarter, so that the dial holds them. Spans that lie across one another are
    /// harder than parallel ones, and long ratios harder than short ones.</summary>
    protected override IEnumerable<Candidate> Candidates(bool clothed) =>
        from view in StudioViews.All
        where view.Clothed == clothed && view.Strokes is null
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

    protected override double TruthOf(Marked asked, Marked? unit) => asked.Length / unit!.Length;

    /// <summary>ln(answer ÷ truth): half and double are off alike.</summary>
    protected override double ErrorOf(double answer, double truth) => Math.Log(answer / truth);

    protected override bool Answerable(double value) => value is >= 0.05 and <= 20;
    public override string SayValue(double value) => Say.Number(value, 2);
    public override string SayError(double error) => Math.Abs(error) < 0.005 ? "on it" : $"{Percent(error)} % {(error > 0 ? "too many" : "too few")}";
    public override string SayWidth(double width) => Say.Number(100 * (Math.Exp(width) - 1), 0) + " %";

    private static string Percent(double error) => Say.Number(100 * Math.Abs(Math.Exp(error) - 1));
}
