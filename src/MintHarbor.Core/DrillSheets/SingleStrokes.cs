using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>Eight pairs of dots, one stroke through each: breaks, wobble, and where it begins and ends.</summary>
public sealed record SingleStrokes(Vec2 At) : PaperItem(At)
{
    public const int Strokes = 8;
    private const double From = 7,
        To = 101,
        First = 10.5,
        Apart = 4.9,
        Dot = 0.35;

    /// <summary>Ink is counted in steps so long; fewer than this in all is no stroke; so long a gap is a break.</summary>
    private const double Step = 0.25,
        Fewest = 12,
        Break = 1.0;

    /// <summary>The printed dot, and what a lens makes of it, hide so much either side of its middle.</summary>
    private const double Hidden = 0.75;
    private const int Covered = (int)(Hidden / Step);
    private const double Reach = 2.2;

    [JsonIgnore]
    public override bool Wide => true;

    [JsonIgnore]
    public override string Asks => "One stroke from dot to dot, from the shoulder, without stopping.";

    internal (Vec2 From, Vec2 To) Row(int n) => (At + new Vec2(From, First + (Apart * n)), At + new Vec2(To, First + (Apart * n)));

    public override IEnumerable<PrintShape> Print() =>
        [.. from n in Enumerable.Range(0, Strokes) from dot in (Vec2[])[Row(n).From, Row(n).To] select new PrintCircle(dot, Dot)];

    internal override ItemReading Read(ItemInk ink)
    {
        var (marks, _) = Erased.Dropped(
            [.. ink.Marks(new(At.X, At.Y + 6, At.X + 107, At.Y + 49), 0, print: false).Where(m => m.Size >= 0.4)],
            0.3
        );
        List<InkPlace> all = [.. marks.SelectMany(m => m.Places)];
        var strokes = Enumerable.Range(0, Strokes).Select(n => One(all, n, ink.LeftOut)).ToList();
        var drawn = strokes.OfType<Stroke>().ToList();
        if (drawn.Count == 0)
            return ItemReading.Nothing;
        return new(
            drawn.Count == Strokes ? AnswerState.Answered : AnswerState.Partly,
            [.. drawn.SelectMany(s => s.Scores)],
            drawn.Count == Strokes ? [] : [ReadingFlag.PartAnswered],
            [.. drawn.Select(s => s.Seen)]
        );
    }

    /// <param name="Before">How far the stroke goes on beyond its first dot, millimetres; negative where it begins after it.</param>
    internal sealed record Stroke(int Breaks, double Wobble, double Before, double Beyond, double Doubt, SeenLine Seen)
    {
        public IEnumerable<ItemScore> Scores =>
            [new("breaks", Breaks, 0), new("wobble", Wobble, 0.15), new("overrun", Before, Doubt), new("overrun", Beyond, Doubt)];
    }

    private Stroke? One(IReadOnlyList<InkPlace> all, int n, double leftOut)
    {
        var (from, to) = Row(n);
        var bins = (int)(SheetLayout.CellWidth * 2 / Step);
        double[] ink = new double[bins],
            height = new double[bins];
        foreach (var p in all)
            if (Math.Abs(p.At.Y - from.Y) <= Reach && (int)((p.At.X - At.X) / Step) is var k && k >= 0 && k < bins)
            {
                ink[k] += p.Weight;
                height[k] += p.Weight * p.At.Y;
            }
        bool[] on = [.. ink.Select(w => w > 0.02)];
        if (on.Count(b => b) * Step < Fewest)
            return null;
        int first = (int)((from.X - At.X) / Step),
            last = (int)((to.X - At.X) / Step);
        // A bin begins at its number: the first dot's middle lies before its bin, the last one's likewise.
        Through(on, first, inner: first + Covered, outer: first - Covered - 1);
        Through(on, last, inner: last - Covered - 1, outer: last + Covered);
        int begins = Array.IndexOf(on, true),
            ends = Array.LastIndexOf(on, true);
        var breaks = 0;
        for (int k = begins, gap = 0; k <= ends; k++)
        {
            if (!on[k])
            {
                gap++;
                continue;
            }
            if (gap * Step >= Break)
                breaks++;
            gap = 0;
        }
        List<InkPlace> middle =
        [
            .. Enumerable
                .Range(0, bins)
                .Where(k => k >= Math.Max(begins, first + 5) && k <= Math.Min(ends, last - 5) && ink[k] > 0.02)
                .Select(k => new InkPlace(new(At.X + ((k + 0.5) * Step), height[k] / ink[k]), 1)),
        ];
        var half = Half(all, from, to, middle.Count);
        return new(
            breaks,
            middle.Count > 20 ? StrokeFit.Of(middle)!.Scatter : 0,
            ((first - begins) * Step) - half,
            ((ends + 1 - last) * Step) - half,
            Hidden + Step + Math.Min(leftOut, 0.3),
            new([.. middle.Where((_, k) => k % 8 == 0).Select(p => p.At)])
        );
    }

    /// <summary>What of the ink on the printed dot is the pencil's nobody can tell: it counts as drawn where there is ink beyond it, or else up to its middle
    /// where there is ink on the inner side.</summary>
    private static void Through(bool[] on, int dot, int inner, int outer)
    {
        var (begun, beyond) = (on[inner], on[Math.Clamp(outer, 0, on.Length - 1)]);
        for (var k = dot - Covered; k < dot + Covered; k++)
            on[k] = begun && (beyond || (inner > dot ? k >= dot : k < dot));
    }

    /// <summary>Half the breadth of the stroke: its round end reaches so much beyond where the pencil was.</summary>
    private static double Half(IReadOnlyList<InkPlace> all, Vec2 from, Vec2 to, int steps) =>
        Math.Min(
            0.8,
            all.Count(p => Math.Abs(p.At.Y - from.Y) < Reach && p.At.X > from.X + 2 && p.At.X < to.X - 2)
                / (FlatSheet.PerMm * FlatSheet.PerMm)
                / Math.Max(1, steps * Step)
                / 2
        );
}
