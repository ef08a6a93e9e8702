using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Shelves;

namespace MintHarbor.Core.Practice;

/// <summary>Line of action: one line from the crown through the trunk to the foot that stands, drawn over the figure.</summary>
public sealed class LineOfAction : DrawnDrill
{
    public override string Kind => "line-of-action";
    public override string Name => "Line of action";
    public override string About => "ten poses; draw the one line that each hangs on";
    public override string How => "Trace it in the air first; then one stroke from the crown through the trunk to the foot that stands.";
    public override string Unit => "apart";
    public override string Wanted => "a distance of 0 to 20 heads";
    public override (double Least, double Most) Range => (0, 2);
    protected override (double Easy, double Hard) Width => (0.6, 0.28);
    public override DrillLimit? LimitThen => new(0.75, 0.3);
    protected override int Decimals => 3;

    /// <summary>The more the line bends, the harder.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) =>
        from counted in ByHeads(figures, seen: false)
        let view = counted.View
        let head = counted.Head
        let line = Through(view)
        let straight = (line[^1] - line[0]).Length
        let walked = Enumerable.Range(1, line.Count - 1).Sum(i => (line[i] - line[i - 1]).Length)
        select new Candidate(view, "The line of action: draw it in one stroke.", new(line[0], line[^1]), head, walked / straight, 0);

    /// <summary>Crown, pit, navel, pubic bone, then knee and ankle of the leg that bears more, smoothed.</summary>
    private static IReadOnlyList<Vec2> Through(StudioView view)
    {
        var pose = FigureCatalogue.Poses.FirstOrDefault(p => p.Id == view.Pose);
        Vec2 At(string id) => view.At(id)!.Value;
        double Reach(string side) => (At($"asis.{side}") - At($"ankleout.{side}")).Length;
        var leg =
            pose?.Balance is [var l, var r] && l != r ? (l > r ? "L" : "R")
            : Reach("L") >= Reach("R") ? "L"
            : "R";
        // The middle of the neck and of the trunk's depth, not its skin: front and back landmarks halved.
        Vec2[] through =
        [
            At("crown"),
            Vec2.Mid(At("pit"), At("c7")),
            Vec2.Mid(At("sternumend"), At("c7")),
            Vec2.Mid(Vec2.Mid(At("psis.L"), At("psis.R")), At("navel")),
            Vec2.Mid(At("pubic"), Vec2.Mid(At("trochanter.L"), At("trochanter.R"))),
            At($"kneetop.{leg}"),
            At($"ankleout.{leg}"),
        ];
        var line = PathDistance.Even(through, 41).ToArray();
        for (var round = 0; round < 16; round++)
        {
            var from = line.ToArray();
            for (var i = 1; i < line.Length - 1; i++)
                line[i] = (from[i - 1] * 0.25) + (from[i] * 0.5) + (from[i + 1] * 0.25);
        }
        return line;
    }

    protected override IReadOnlyList<IReadOnlyList<Vec2>> Curves(StudioView view) => [Through(view)];

    /// <summary>Fréchet distance of both lines at even steps, drawn from either end, in heads.</summary>
    protected override double Apart(DrillItem item, IReadOnlyList<IReadOnlyList<Vec2>> truth, IReadOnlyList<IReadOnlyList<Vec2>> drawn) =>
        Math.Min(20, PathDistance.EitherWay(drawn[0], truth[0]) / item.Unit!.Length);

    protected override double TruthOf(Marked asked, Marked? unit) => 0;

    protected override double ErrorOf(double answer, double truth) => answer;

    protected override bool Answerable(double value) => value is >= 0 and <= 20;

    public override string SayValue(double value) => value == 0 ? "the line" : $"{Say.Number(value, 2)} heads from it";

    public override string SayError(double error) => error < 0.005 ? "on it" : $"{Say.Number(error, 2)} heads off at most";

    public override string SayWidth(double width) => Say.Number(width, 2) + " heads";
}
