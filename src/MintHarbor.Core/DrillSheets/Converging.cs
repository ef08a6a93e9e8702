using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>Five dots and a far point: from each dot a line towards it, half way, so that aim alone tells where they would meet.</summary>
/// <param name="Dots">Measured from the cell's corner; <paramref name="Point"/> likewise.</param>
public sealed record Converging(Vec2 At, Vec2 Point, IReadOnlyList<Vec2> Dots) : PaperItem(At)
{
    public const string Measure = "converging";

    /// <summary>Nearly level lines can't be too steep or too flat, degrees.</summary>
    private const double Level = 4;
    private const double Farthest = 72,
        Near = 3.5,
        Shortest = 12;

    [JsonIgnore]
    public override bool Wide => true;

    [JsonIgnore]
    public override string Asks => "From each dot a line towards the ringed point, half way.";

    internal static Converging Make(SeededRandom random, Vec2 at) =>
        new(
            at,
            new(99, Math.Round(random.Between(18, 38), 1)),
            [
                .. Enumerable
                    .Range(0, 5)
                    .Select(n => new Vec2(Math.Round(random.Between(7, 15), 1), Math.Round(10.5 + (8.6 * n) + random.Between(-1, 1), 1))),
            ]
        );

    public override IEnumerable<PrintShape> Print() =>
        [
            .. Dots.Select(d => new PrintCircle(At + d, 0.6)),
            new PrintCircle(At + Point, 0.5),
            new PrintCircle(At + Point, 1.8, PrintPath.Thin),
        ];

    /// <summary>The dots that are scored, from above.</summary>
    [JsonIgnore]
    internal IEnumerable<Vec2> Asked => Dots.Where(d => Math.Abs(Rise(Point - d)) >= Level);

    private static double Rise(Vec2 v) => Math.Atan2(v.Y, v.X) * 180 / Math.PI;

    /// <summary>How much steeper a line is than it would have to be to meet the point, degrees.</summary>
    internal double Steeper(StrokeFit line)
    {
        var wanted = Rise(At + Point - line.Through);
        return StrokeFit.Turn(wanted, line.Degrees) * Math.Sign(wanted);
    }

    internal override ItemReading Read(ItemInk ink)
    {
        var area = new Area(At.X + 3, At.Y + 5.5, At.X + Farthest, At.Y + 49.4);
        var (marks, faint) = Erased.Dropped([.. ink.Marks(area, 6).Where(m => m.Size > 2)]);
        if (marks.Sum(m => m.Size) < Shortest)
            return ItemReading.Nothing.With(ReadingFlag.StrayMarks, marks.Count > 0);
        var lines = Dots.Select(_ => new List<InkPlace>()).ToList();
        var stray = false;
        foreach (var mark in marks)
        {
            var own = StrokeFit.Of(mark.Places)!;
            var nearest = Enumerable.Range(0, Dots.Count).MinBy(n => Math.Abs(own.Off(At + Dots[n])));
            if (own.Scatter < 0.9 && Math.Abs(own.Off(At + Dots[nearest])) < Near)
                lines[nearest].AddRange(mark.Places);
            else
                stray |= mark.Size > 4;
        }
        var fits = Asked.Select(d => StrokeFit.Of(lines[Dots.ToList().IndexOf(d)], 1.2, 4)).ToList();
        List<StrokeFit> drawn = [.. fits.OfType<StrokeFit>().Where(f => f.Length >= Shortest)];
        return new ItemReading(
            drawn.Count == fits.Count ? AnswerState.Answered : AnswerState.Partly,
            [.. drawn.Select(f => new ItemScore(Measure, Steeper(f), Doubt(f, ink.LeftOut)))],
            [],
            [.. drawn.Select(f => f.Seen)]
        )
            .With(ReadingFlag.PartAnswered, drawn.Count < fits.Count)
            .With(ReadingFlag.FaintSecond, faint)
            .With(ReadingFlag.StrayMarks, stray);
    }

    private static double Doubt(StrokeFit f, double leftOut) =>
        2
        * 180
        / Math.PI
        * Math.Sqrt(Math.Pow(f.Scatter / Math.Sqrt(Math.Max(2, f.Length / 3)), 2) + Math.Pow(Math.Min(leftOut, 0.3) * 0.5, 2))
        * 3
        / f.Length;
}
