using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>A form that is hatched as a sample is: its spacing, its direction, evenly.</summary>
/// <param name="Spacing">Between lines, millimetres.</param>
public sealed record EvenHatch(Vec2 At, double Spacing, double Degrees) : PaperItem(At)
{
    public const string Measure = "spacing",
        Uneven = "uneven-hatch",
        Turned = "hatch-slant";
    private const double HalfWidth = 20,
        HalfHeight = 18;

    /// <summary>Lines are counted in a band so broad across them, where a slant that is a little off doesn't smear them.</summary>
    private const double Band = 7,
        Bin = 0.125;
    private const int FewestLines = 5;

    [JsonIgnore]
    public override bool Wide => true;

    [JsonIgnore]
    public override string Asks => "Hatch the form as the sample is: the same spacing, the same direction.";

    private Vec2 Middle => At + new Vec2(81, 28);

    internal static EvenHatch Make(SeededRandom random, Vec2 at) =>
        new(at, Math.Round(random.Between(2.0, 3.6), 1), Math.Round(random.Between(25, 65) * (random.Next(2) == 0 ? 1 : -1)));

    /// <summary>1 on the form's edge, less inside.</summary>
    internal double Beside(Vec2 p) => Math.Sqrt(Math.Pow((p.X - Middle.X) / HalfWidth, 2) + Math.Pow((p.Y - Middle.Y) / HalfHeight, 2));

    [JsonIgnore]
    internal Vec2 FormMiddle => Middle;

    public override IEnumerable<PrintShape> Print()
    {
        var (along, across) = (Vec2.Towards(Degrees) * 8, Vec2.Towards(Degrees + 90));
        for (var n = -2; n <= 2; n++)
        {
            var at = At + new Vec2(27, 28) + (across * (n * Spacing));
            yield return new PrintPath([at - along, at + along]);
        }
        yield return new PrintPath(
            [
                .. Enumerable
                    .Range(0, 72)
                    .Select(n => n * Math.PI / 36)
                    .Select(t => Middle + new Vec2(HalfWidth * Math.Cos(t), HalfHeight * Math.Sin(t))),
            ],
            Closed: true
        );
    }

    internal override ItemReading Read(ItemInk ink)
    {
        var area = new Area(Middle.X - HalfWidth, Middle.Y - HalfHeight, Middle.X + HalfWidth, Middle.Y + HalfHeight);
        var marks = ink.Marks(area, 0, p => Beside(p) < 0.94).Where(m => m.Size > 1).ToList();
        List<InkPlace> all = [.. marks.SelectMany(m => m.Places)];
        if (marks.Sum(m => m.Size) < 25)
            return ItemReading.Nothing.With(ReadingFlag.StrayMarks, marks.Sum(m => m.Size) > 8);
        var degrees = Direction(all);
        var lines = Lines(all, degrees);
        if (lines.Count < FewestLines)
            return ItemReading.Not(AnswerState.Partly, ReadingFlag.PartAnswered);
        var gaps = lines.Zip(lines.Skip(1), (a, b) => b - a).ToList();
        var mean = gaps.Average();
        var spread = Math.Sqrt(gaps.Sum(g => (g - mean) * (g - mean)) / (gaps.Count - 1));
        var (along, across) = (Vec2.Towards(degrees) * Band, Vec2.Towards(degrees + 90));
        return new ItemReading(
            AnswerState.Answered,
            [new(Measure, mean - Spacing, 0.15), new(Uneven, 100 * spread / mean, 5), new(Turned, StrokeFit.Turn(Degrees, degrees), 2)],
            [],
            [.. lines.Select(o => Middle + (across * o)).Select(p => new SeenLine([p - along, p + along]))]
        ).With(ReadingFlag.NotWhole, Covers(lines, degrees) < 0.8);
    }

    /// <summary>The direction along which ink lies in the sharpest rows.</summary>
    private double Direction(IReadOnlyList<InkPlace> all)
    {
        List<InkPlace> some = [.. all.Where((_, i) => i % Math.Max(1, all.Count / 4000) == 0)];
        double Sharp(double degrees)
        {
            var across = Vec2.Towards(degrees + 90);
            var rows = new double[(int)(2 * HalfWidth / 0.3) + 4];
            foreach (var p in some)
                rows[(int)(((p.At - Middle).Dot(across) + HalfWidth) / 0.3) + 1] += p.Weight;
            return rows.Sum(r => r * r);
        }
        var coarse = Enumerable.Range(0, 90).Select(n => -90.0 + (2 * n)).MaxBy(Sharp);
        return Enumerable.Range(-8, 17).Select(n => coarse + (0.25 * n)).MaxBy(Sharp);
    }

    /// <summary>Where lines cross the middle, along the normal.</summary>
    private List<double> Lines(IReadOnlyList<InkPlace> all, double degrees)
    {
        var (along, across) = (Vec2.Towards(degrees), Vec2.Towards(degrees + 90));
        var reach = (int)(HalfWidth / Bin) + 4;
        var rows = new float[(2 * reach) + 1];
        foreach (var p in all)
            if (Math.Abs((p.At - Middle).Dot(along)) < Band)
                rows[(int)Math.Round((p.At - Middle).Dot(across) / Bin) + reach] += (float)p.Weight;
        var soft = Sheets.Convolution.Gauss(rows, rows.Length, 1, (float)(0.35 / Bin), 0, 0);
        var usual = Samples.Quantile(soft.Where(v => v > 0).Select(v => (double)v), 0.8);
        var lines = new List<double>();
        for (var k = 1; k + 1 < soft.Length; k++)
            if (soft[k] > 0.3 * usual && soft[k] >= soft[k - 1] && soft[k] > soft[k + 1])
                lines.Add((k - reach + Samples.Peak(soft[k - 1], soft[k], soft[k + 1])) * Bin);
        return lines;
    }

    /// <summary>Share of the form that the lines reach over.</summary>
    private static double Covers(IReadOnlyList<double> lines, double degrees)
    {
        var n = Vec2.Towards(degrees + 90);
        var half = Math.Sqrt(Math.Pow(n.X * HalfWidth, 2) + Math.Pow(n.Y * HalfHeight, 2)) * 0.94;
        return (lines[^1] - lines[0]) / (2 * half);
    }
}
