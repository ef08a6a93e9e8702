using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Practice;

/// <summary>Core first: ribcage, pelvis and the line that joins them, before any limb. Scored by how much of the two forms overlaps the
/// true ones and how far the centre line lies off.</summary>
public sealed class CoreFirst : DrawnDrill
{
    public override string Kind => "core-first";
    public override string Name => "Core first";
    public override string About => "ten poses; place ribcage, pelvis and centre line";
    public override string How =>
        "Feel which way the ribcage leans against the pelvis; draw the egg, the block, then the line down their middle.";
    public override string Unit => "missed";
    public override string Wanted => "a share of 0 to 5";
    public override IReadOnlyList<string> Strokes => ["the ribcage as an egg", "the pelvis as a block", "the centre line"];
    public override (double Least, double Most) Range => (0, 2);
    protected override (double Easy, double Hard) Width => (0.75, 0.35);
    protected override int Decimals => 3;

    /// <summary>The more the centre line bends and the more the forms lean against one another, the harder.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) =>
        from counted in ByHeads(figures, seen: false)
        let view = counted.View
        let head = counted.Head
        let line = Middle(view)
        let upper = ClockAngle.OfEdge(line[0], line[1])
        let lower = ClockAngle.OfEdge(line[^2], line[^1])
        select new Candidate(
            view,
            "Ribcage, pelvis, centre line: three strokes.",
            new(line[0], line[^1]),
            head,
            Math.Abs(ClockAngle.Wrap(upper - lower)) + (Math.Abs(ClockAngle.Wrap(upper)) / 4),
            0
        );

    /// <summary>Pit of the neck, end of the breastbone, navel, pubic bone.</summary>
    private static IReadOnlyList<Vec2> Middle(StudioView view) =>
        [.. new[] { "pit", "sternumend", "navel", "pubic" }.Select(id => view.At(id)!.Value)];

    protected override IReadOnlyList<IReadOnlyList<Vec2>> Curves(StudioView view)
    {
        var (ribcage, pelvis) = ConstructionView.Core(view);
        return
        [
            [.. ribcage, ribcage[0]],
            [.. pelvis, pelvis[0]],
            Middle(view),
        ];
    }

    /// <summary>What neither form shares with the true one (1 − overlap ÷ union, the mean of both), and the centre line's Fréchet distance in
    /// heads, added.</summary>
    protected override double Apart(DrillItem item, IReadOnlyList<IReadOnlyList<Vec2>> truth, IReadOnlyList<IReadOnlyList<Vec2>> drawn) =>
        Math.Min(
            5,
            1
                - ((Polygons.Overlap(truth[0], drawn[0]) + Polygons.Overlap(truth[1], drawn[1])) / 2)
                + (PathDistance.EitherWay(drawn[2], truth[2]) / item.Unit!.Length)
        );

    protected override double TruthOf(Marked asked, Marked? unit) => 0;

    protected override double ErrorOf(double answer, double truth) => answer;

    protected override bool Answerable(double value) => value is >= 0 and <= 5;

    public override string SayValue(double value) => value == 0 ? "the core" : SayError(value);

    public override string SayError(double error) =>
        error < 0.005 ? "on it"
        : error >= 1 ? "beside the core"
        : $"{Say.Number(100 * error)} % of the core missed";

    public override string SayWidth(double width) => Say.Number(100 * width) + " %";
}
