using System.Text.Json.Serialization;
using MathNet.Numerics;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>Three strokes, each from light to dark in seven even steps.</summary>
public sealed record PressureScale(Vec2 At) : PaperItem(At)
{
    public const string BackSteps = "backsteps",
        UnevenSteps = "uneven-steps";
    public const int Strokes = 3,
        Steps = 7;
    private const double From = 7,
        Long = 94,
        Reach = 3.2,
        Breadth = 2.4;

    /// <summary>A step of less than this share of the whole rise can't be told from none.</summary>
    private const double Told = 0.1;

    /// <summary>Nor one of less than this share of how dark it is there: lead on paper is grain.</summary>
    private const double Grain = 0.12;

    /// <summary>Where the paper above a part differs from that below by this share of the whole rise, light and not pencil may make the step.</summary>
    private const double Unequal = 0.08;

    [JsonIgnore]
    public override bool Wide => true;

    [JsonIgnore]
    public override string Asks => "Each stroke in one go, from light to dark: every part a step darker.";

    internal (Vec2 From, Vec2 To) Row(int n) => (At + new Vec2(From, 13 + (13 * n)), At + new Vec2(From + Long, 13 + (13 * n)));

    /// <summary>The marks that part a stroke in seven stand under it.</summary>
    public override IEnumerable<PrintShape> Print()
    {
        for (var n = 0; n < Strokes; n++)
        {
            var (from, to) = Row(n);
            yield return new PrintCircle(from - new Vec2(2.2, 0), 0.5);
            yield return new PrintCircle(to + new Vec2(2.2, 0), 0.5);
            for (var k = 0; k <= Steps; k++)
            {
                var at = from + ((to - from) * ((double)k / Steps)) + new Vec2(0, 4.5);
                yield return new PrintPath([at, at + new Vec2(0, 1.6)], Line: PrintPath.Thin);
            }
        }
    }

    internal override ItemReading Read(ItemInk ink)
    {
        var marks = ink.Marks(new(At.X + 2, At.Y + 7, At.X + 106, At.Y + 48), 0).Where(m => m.Size >= 0.6).ToList();
        List<InkPlace> all = [.. marks.SelectMany(m => m.Places)];
        var (scores, seen) = (new List<ItemScore>(), new List<SeenLine>());
        var drawn = 0;
        var uneven = false;
        for (var n = 0; n < Strokes; n++)
        {
            var (from, to) = Row(n);
            List<InkPlace> own = [.. all.Where(p => Math.Abs(p.At.Y - from.Y) < Reach && p.At.X > from.X && p.At.X < to.X)];
            if (Enumerable.Range(0, Steps).Count(k => Goes(own, Part(from, k))) < Steps - 1)
                continue;
            drawn++;
            var parts = Enumerable.Range(0, Steps).Select(k => Dark(ink, Part(from, k))).ToList();
            scores.AddRange(Scores([.. parts.Select(p => p.Dark)]));
            uneven |= parts.Any(p => p.Apart > Unequal * Math.Abs(parts[^1].Dark - parts[0].Dark));
            seen.Add(
                new([
                    .. own.GroupBy(p => (int)((p.At.X - from.X) / 2))
                        .OrderBy(g => g.Key)
                        .Select(g => new Vec2(g.Average(p => p.At.X), g.Average(p => p.At.Y))),
                ])
            );
        }
        if (drawn == 0)
            return ItemReading.Nothing;
        return new ItemReading(drawn == Strokes ? AnswerState.Answered : AnswerState.Partly, scores, [], seen)
            .With(ReadingFlag.PartAnswered, drawn < Strokes)
            .With(ReadingFlag.ShadowAcross, uneven);
    }

    /// <summary>One seventh of a stroke, its ends left out.</summary>
    private static Area Part(Vec2 from, int part)
    {
        const double each = Long / Steps;
        var left = from.X + (part * each);
        return new(left + 1.5, from.Y - Breadth, left + each - 1.5, from.Y + Breadth);
    }

    /// <summary>Whether a stroke goes through at least half of it.</summary>
    private static bool Goes(IReadOnlyList<InkPlace> own, Area part) =>
        own.Where(p => part.Holds(p.At)).Select(p => (int)(p.At.X * FlatSheet.PerMm / 2)).Distinct().Count()
        >= (part.Right - part.Left) * FlatSheet.PerMm / 4;

    /// <summary>How dark one part is, less what the paper above and below it is, and how far these two lie apart.</summary>
    private static (double Dark, double Apart) Dark(ItemInk ink, Area part)
    {
        var above = ink.Dark(new(part.Left, part.Top - 1.5, part.Right, part.Top - 0.3));
        var below = ink.Dark(new(part.Left, part.Foot + 0.3, part.Right, part.Foot + 1.5));
        return (ink.Dark(part) - ((above + below) / 2), Math.Abs(above - below));
    }

    /// <summary>Steps that don't darken, and how uneven the seven parts lie about the straight line that fits them best: the root mean square over the
    /// line's rise. (A line through the first and the last lets the grain of two parts speak for all seven.) A step smaller than a reading can tell
    /// counts neither way.</summary>
    internal static IEnumerable<ItemScore> Scores(IReadOnlyList<double> parts)
    {
        var (level, slope) = Fit.Line([.. parts.Select((_, k) => (double)k)], [.. parts]);
        var rise = slope * (Steps - 1);
        var steps = parts.Zip(parts.Skip(1), (a, b) => (By: b - a, Dark: Math.Max(a, b))).ToList();
        yield return new(
            BackSteps,
            steps.Count(s => s.By <= 0),
            steps.Count(s => Math.Abs(s.By) < Math.Max(Told * Math.Abs(rise), Grain * s.Dark))
        );
        if (rise > 0)
            yield return new(
                UnevenSteps,
                100 * Math.Sqrt(parts.Select((p, k) => Math.Pow((p - level - (slope * k)) / rise, 2)).Average()),
                10
            );
    }
}
