using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>An edge whose direction is copied beside it.</summary>
/// <param name="Degrees">0 to 180, clockwise from the horizontal.</param>
public sealed record Slant(Vec2 At, double Degrees) : PaperItem(At)
{
    public const string Measure = "slant";

    private const double Long = 22,
        Band = 1.6;

    /// <summary>Degrees of doubt from which a direction is left to a person: less than what counts as wrong, for broad lines restated apart are told worse than
    /// they look.</summary>
    private const double Unclear = 0.6;

    [JsonIgnore]
    public override string Asks => "Copy this slant in the field.";

    [JsonIgnore]
    internal Area Field => new(At.X + 29, At.Y + 8, At.X + 52, At.Y + 47);
    internal override Area Anchors => new(Field.Left - 1.6, Field.Top - 1.6, Field.Right + 1.6, Field.Foot + 1.2);

    internal static Slant Make(SeededRandom random, Vec2 at) => new(at, Math.Round(random.Between(0, 180), 1));

    public override IEnumerable<PrintShape> Print()
    {
        var (middle, half) = (At + new Vec2(14.5, 27.5), Vec2.Towards(Degrees) * (Long / 2));
        return [new PrintPath([middle - half, middle + half]), .. Corners(Field)];
    }

    internal override ItemReading Read(ItemInk ink)
    {
        var area = new Area(Field.Left - 1.5, Field.Top - 1.5, Field.Right + 2, Field.Foot + 2);
        var (marks, faint) = Erased.Dropped([.. ink.Marks(area).Where(m => m.Size > 1.2)]);
        if (marks.Count == 0 || marks.Max(m => m.Size) < 5)
            return ItemReading.Nothing.With(ReadingFlag.StrayMarks, marks.Sum(m => m.Size) > 3);
        List<InkPlace> all = [.. marks.SelectMany(m => m.Places)];
        var fit = Settled(all, Voted(all));
        if (fit is null)
            return ItemReading.Not(AnswerState.Partly, ReadingFlag.StrayMarks);
        var strong = Erased.Strong(all, 0.38);
        var dark = Samples.Quantile(Near(all, fit).Select(p => p.Weight), 0.75);
        faint |= Erased.IsFaint(dark) && all.Count(p => p.Weight < 0.38 * dark && Math.Abs(fit.Off(p.At)) > 1.2) > 60;
        fit = Settled(strong, fit) ?? fit;

        var beside = strong.Where(p => Math.Abs(fit.Off(p.At)) >= Band).ToList();
        var share = beside.Sum(p => p.Weight) / strong.Sum(p => p.Weight);
        if (beside.Count > 40 && share > 0.1 && StrokeFit.Of(beside) is { Length: > 4 })
            return ItemReading.Not(AnswerState.Twice, ReadingFlag.TwoAnswers);
        var uncertainty = Uncertainty(fit, Near(strong, fit), ink.LeftOut);
        return new ItemReading(AnswerState.Answered, [new(Measure, StrokeFit.Turn(Degrees, fit.Degrees), uncertainty)], [], [fit.Seen])
            .With(ReadingFlag.FaintSecond, faint)
            .With(ReadingFlag.StrayMarks, beside.Count > 40 && share > 0.05)
            .With(ReadingFlag.Short, fit.Length < 8)
            .With(ReadingFlag.SlantUnclear, uncertainty > Unclear);
    }

    private static List<InkPlace> Near(IReadOnlyList<InkPlace> places, StrokeFit fit) =>
        [.. places.Where(p => Math.Abs(fit.Off(p.At)) < Band)];

    private static StrokeFit? Settled(IReadOnlyList<InkPlace> places, StrokeFit? fit)
    {
        for (var pass = 0; pass < 4 && fit is not null; pass++)
            if (Near(places, fit) is { Count: >= 20 } near)
                fit = StrokeFit.Of(near);
        return fit;
    }

    /// <summary>The direction and place on which most ink lies.</summary>
    private StrokeFit? Voted(IReadOnlyList<InkPlace> places)
    {
        const double bin = 0.3,
            reach = 60;
        var (best, degrees, offset) = (-1.0, 0.0, 0.0);
        var votes = new double[(int)(2 * reach / bin)];
        for (var a = 0.0; a < 180; a += 1.5)
        {
            Array.Clear(votes);
            var along = Vec2.Towards(a);
            foreach (var p in places)
                if ((int)(((p.At - At).Cross(along) + reach) / bin) is var k && k >= 0 && k < votes.Length)
                    votes[k] += p.Weight;
            for (var k = 3; k < votes.Length - 3; k++)
            {
                double sum = 0;
                for (var n = -3; n <= 3; n++)
                    sum += votes[k + n] * (1 - (0.15 * Math.Abs(n)));
                if (sum > best)
                    (best, degrees, offset) = (sum, a, ((k + 0.5) * bin) - reach);
            }
        }
        var d = Vec2.Towards(degrees);
        List<InkPlace> on = [.. places.Where(p => Math.Abs((p.At - At).Cross(d) - offset) < 1.5)];
        return StrokeFit.Of(on, Band, 4);
    }

    /// <summary>From how three ways of fitting disagree (all ink, what lies nearest, a place for each millimetre), how the millimetres scatter, and how the
    /// paper is bent.</summary>
    private static double Uncertainty(StrokeFit fit, IReadOnlyList<InkPlace> near, double leftOut)
    {
        var robust = StrokeFit.Of(near, 1.2, 5);
        List<InkPlace> binned =
        [
            .. near.GroupBy(p => (int)Math.Floor(fit.Reach(p.At)))
                .Where(g => g.Count() > 6)
                .Select(g => new InkPlace(new(g.Average(p => p.At.X), g.Average(p => p.At.Y)), 1)),
        ];
        var even = StrokeFit.Of(binned);
        var apart = Math.Max(
            robust is null ? 0 : Math.Abs(StrokeFit.Turn(fit.Degrees, robust.Degrees)),
            even is null ? 9 : Math.Abs(StrokeFit.Turn(fit.Degrees, even.Degrees))
        );
        const double degrees = 180 / Math.PI;
        var scatter = (even?.Scatter ?? 0.3) * 3.46 / (Math.Max(4, fit.Length) * Math.Sqrt(Math.Max(2, fit.Length / 3))) * degrees;
        var bent = Math.Min(leftOut, 0.3) / Math.Max(fit.Length, 10) * degrees;
        return 2 * Math.Sqrt((0.05 * 0.05) + (0.36 * apart * apart) + (0.5 * scatter * scatter) + (0.09 * bent * bent));
    }
}
