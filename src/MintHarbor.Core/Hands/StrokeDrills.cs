using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Hands;

/// <summary>From dot to dot in one confident stroke.</summary>
public sealed class OneStroke : MadeDrill
{
    public override string Kind => "single-strokes";
    public override string Name => "Single strokes";
    public override string About => "ten strokes from dot to dot, each in one go";
    public override string How => "Look at the far dot, not at the point. From the shoulder, without stopping.";
    public override string Unit => " mm";
    public override int Length => RoundLength;
    public override IReadOnlyList<string> Strokes => ["the stroke"];
    protected override (double Easy, double Hard) Width => (7, 2);

    public override string SayError(double error) => $"{Say.Number(error, 1)} mm off at its farthest";

    public override string SayWidth(double width) => $"{Say.Number(width, 1)} mm";

    /// <summary>The longer, the harder.</summary>
    protected override (string, HandTask) Make(SeededRandom random, double difficulty)
    {
        var half = Vec2.Towards(random.Between(0, 360)) * (random.Between(60, 75) + (55 * difficulty));
        var middle = new Vec2(Square / 2, Square / 2);
        Vec2 a = Round(middle - half),
            b = Round(middle + half);
        return (
            "One stroke, from the full dot to the other.",
            new(new(Square, Square), [new(GivenStyle.Dot, [a]), new(GivenStyle.Dot, [b], Closed: true)], null, [new([a, b])])
        );
    }

    internal static Vec2 Round(Vec2 p) => new(Math.Round(p.X, 1), Math.Round(p.Y, 1));

    /// <summary>Fréchet distance from the straight line: a stroke that goes back on itself is as far off as it went.</summary>
    protected override HandReading Reading(DrillItem item, PenTrace trace, double allowed)
    {
        var truth = item.Hand!.Truth[0].Places;
        List<Vec2> drawn = [.. trace.Lines.SelectMany(l => l)];
        var (a, b) = (truth[0], truth[^1]);
        var off = PathDistance.EitherWay(drawn, truth) * trace.Mm;
        var along = (b - a) * (1 / (b - a).Length);
        if ((drawn[^1] - drawn[0]).Dot(along) < 0)
            drawn.Reverse();
        var fit = StrokeFit.Of([.. PathDistance.Even(drawn, 240).Select(p => new InkPlace(p, 1))]);
        var near = Within(off, allowed, trace.Doubt);
        return new(
            off,
            trace.Doubt,
            near && trace.Lifts == 0,
            [
                new(HandMeasures.Stroke, off, trace.Doubt, near),
                new(HandMeasures.Lifts, trace.Lifts, 0, trace.Lifts == 0),
                new(HandMeasures.Wobble, (fit?.Scatter ?? 0) * trace.Mm, trace.Doubt / 4),
                new(HandMeasures.Begins, (a - drawn[0]).Dot(along) * trace.Mm, trace.Doubt),
                new(HandMeasures.Ends, (drawn[^1] - b).Dot(along) * trace.Mm, trace.Doubt),
                new(HandMeasures.Speed, Pace.Of(trace).Mean),
                .. trace.Tilt is { } tilt ? new[] { new HandFact(HandMeasures.Tilt, tilt, 5) } : [],
            ],
            item.Hand.Truth
        );
    }
}

/// <summary>One stroke from light to dark, in seven even steps of pressure.</summary>
public sealed class PressureStroke : MadeDrill
{
    public override string Kind => "pressure-stroke";
    public override string Name => "Pressure scale";
    public override string About => "one stroke from light to dark in seven even steps; wants a pen that tells pressure";
    public override string How =>
        "Fingertips back from the point for the light end; the weight of the arm, not the fingers, for the dark one.";
    public override string Unit => " %";
    public override IReadOnlyList<string> Strokes => ["the stroke"];
    public override bool NeedsPressure => true;
    protected override (double Easy, double Hard) Width => (14, 5);

    public override string SayError(double error) => $"{Say.Number(error)} % from even steps";

    private const double From = 20,
        To = 280;

    protected override (string, HandTask) Make(SeededRandom random, double difficulty)
    {
        var y = Math.Round(random.Between(70, 130));
        return (
            "One stroke from light to dark: every part a step darker.",
            new(
                new(Square, 200),
                [
                    .. Enumerable
                        .Range(0, PressureScale.Steps + 1)
                        .Select(k => From + (k * (To - From) / PressureScale.Steps))
                        .Select(x => new GivenLine(GivenStyle.Line, [new(Math.Round(x, 1), y + 24), new(Math.Round(x, 1), y + 32)])),
                ],
                null,
                [new([new(From, y), new(To, y)])]
            )
        );
    }

    protected override HandReading Reading(DrillItem item, PenTrace trace, double allowed)
    {
        if (!trace.TellsPressure)
            throw new InputException(
                $"this {trace.Tool.ToString().ToLowerInvariant()} tells no pressure",
                "trace",
                "a pen that does, the keys, or the pressure scale of a drill sheet on paper"
            );
        List<PenPlace> all = [.. trace.Strokes.SelectMany(s => s)];
        const double each = (To - From) / PressureScale.Steps;
        var parts = Enumerable.Range(0, PressureScale.Steps).Select(k => Mean(all, From + (k * each), From + ((k + 1) * each))).ToList();
        if (parts.Any(p => p is null))
            throw new InputException("a stroke that misses a step", "trace", "one from the first mark to the last");
        var scores = PressureScale.Scores([.. parts.Select(p => p!.Value)]).ToList();
        var back = scores[0];
        // Without any rise there is nothing that steps could be even over.
        var uneven = scores.Count > 1 ? scores[1].Error : 100;
        var even = Within(uneven, allowed, 3);
        var rises = back.Error - back.Uncertainty <= 0;
        return new(
            uneven,
            3,
            even && rises && trace.Lifts == 0,
            [
                new(back.Measure, back.Error, back.Uncertainty, rises),
                new(PressureScale.UnevenSteps, uneven, 3, even),
                new(HandMeasures.Lifts, trace.Lifts, 0, trace.Lifts == 0),
                .. trace.Tilt is { } tilt ? new[] { new HandFact(HandMeasures.Tilt, tilt, 5) } : [],
            ],
            []
        );
    }

    private static double? Mean(IEnumerable<PenPlace> all, double from, double to) =>
        all.Where(p => p.X >= from && p.X <= to).Select(p => p.Pressure).ToList() is { Count: > 0 } own ? own.Average() : null;
}

/// <summary>Halving and thirds: a tick on a line.</summary>
public sealed class PartByEye : MadeDrill
{
    public override string Kind => "halve-and-third";
    public override bool Signed => true;
    public override string Name => "Halving and thirds";
    public override string About => "ten lines; tick the middle, or the first third";
    public override string How => "Let the eye go to and fro from both ends until neither side is longer.";
    public override string Unit => " % of the line";
    public override int Length => RoundLength;
    public override IReadOnlyList<string> Strokes => ["the tick"];
    protected override (double Easy, double Hard) Width => (7, 1.5);

    public override string SayError(double error) => HandMeasures.Get(HandMeasures.Part).Say(error);

    public override string SayWidth(double width) => $"{Say.Number(width, 1)} %";

    protected override (string, HandTask) Make(SeededRandom random, double difficulty)
    {
        var parts = 2 + random.Next(2);
        var half = Vec2.Towards(random.Between(0, 360)) * random.Between(90, 135);
        var middle = new Vec2(Square / 2, Square / 2);
        Vec2 a = OneStroke.Round(middle - half),
            b = OneStroke.Round(middle + half),
            at = a + ((b - a) * (1.0 / parts)),
            across = new Vec2(-half.Y, half.X) * (9 / half.Length);
        return (
            parts == 2 ? "Tick the middle." : "Tick the first third from the dot.",
            new(
                new(Square, Square),
                [new(GivenStyle.Line, [a, b]), new(GivenStyle.Dot, [a], Closed: true)],
                null,
                [new([OneStroke.Round(at - across), OneStroke.Round(at + across)])]
            )
            {
                Parts = parts,
            }
        );
    }

    protected override HandReading Reading(DrillItem item, PenTrace trace, double allowed)
    {
        var line = item.Hand!.Given[0].Places;
        var length = (line[1] - line[0]).Length;
        var along = (line[1] - line[0]) * (1 / length);
        // A tick says its place where it is nearest to the line; of several the last one counts.
        var at = Crossing([.. trace.Strokes[^1].Select(p => p.At - line[0])], along);
        if (Math.Abs(along.Cross(at)) > 0.2 * length)
            throw new InputException("the tick isn't on the line", "trace", "a short stroke across it");
        var error = 100 * ((at.Dot(along) / length) - (1.0 / item.Hand.Parts));
        var doubt = 100 * trace.DoubtUnits / length;
        var near = Within(error, allowed, doubt);
        return new(error, doubt, near, [new(HandMeasures.Part, error, doubt, near)], item.Hand.Truth);
    }

    private static Vec2 Crossing(IReadOnlyList<Vec2> tick, Vec2 along)
    {
        for (var i = 1; i < tick.Count; i++)
        {
            double before = along.Cross(tick[i - 1]),
                after = along.Cross(tick[i]);
            if (before * after <= 0 && before != after)
                return tick[i - 1] + ((tick[i] - tick[i - 1]) * (before / (before - after)));
        }
        return tick.MinBy(p => Math.Abs(along.Cross(p)));
    }
}

/// <summary>An ellipse on its axes, in one go.</summary>
public sealed class EllipseInOneGo : MadeDrill
{
    public override string Kind => "ellipse";
    public override string Name => "Ellipse";
    public override string About => "six ellipses on given axes, each in one go";
    public override string How =>
        "Go round in the air first; then one turn through the four ends, round at the narrow ones, never pointed.";
    public override string Unit => " mm";
    public override int Length => 6;
    public override IReadOnlyList<string> Strokes => ["the ellipse"];
    protected override (double Easy, double Hard) Width => (9, 2.5);

    public override string SayError(double error) => $"{Say.Number(error, 1)} mm off where it is farthest";

    public override string SayWidth(double width) => $"{Say.Number(width, 1)} mm";

    /// <summary>The narrower, the harder.</summary>
    protected override (string, HandTask) Make(SeededRandom random, double difficulty)
    {
        var half = random.Between(95, 130);
        var narrow = half * (random.Between(0.55, 0.8) - (0.3 * difficulty));
        var degrees = random.Between(-90, 90);
        var middle = new Vec2(Square / 2, Square / 2);
        Vec2 along = Vec2.Towards(degrees) * half,
            across = Vec2.Towards(degrees + 90) * narrow;
        List<Vec2> ring =
        [
            .. Enumerable
                .Range(0, 97)
                .Select(n => Math.SinCos(2 * Math.PI * n / 96))
                .Select(t => OneStroke.Round(middle + (along * t.Cos) + (across * t.Sin))),
        ];
        return (
            "The ellipse on these axes, in one go.",
            new(
                new(Square, Square),
                [
                    .. new[] { along, across }.Select(x => new GivenLine(
                        GivenStyle.Dashed,
                        [OneStroke.Round(middle - x), OneStroke.Round(middle + x)]
                    )),
                ],
                null,
                [new(ring)]
            )
        );
    }

    protected override HandReading Reading(DrillItem item, PenTrace trace, double allowed)
    {
        var ring = PathDistance.Even(item.Hand!.Truth[0].Places, 360);
        var drawn = PathDistance.Spread(trace.Lines, 360);
        List<double> strayed = [.. drawn.Select(p => ring.Min(r => (p - r).Length) * trace.Mm)],
            missed = [.. ring.Select(r => drawn.Min(p => (p - r).Length) * trace.Mm)];
        var worst = Math.Max(Samples.Quantile(strayed, 0.95), Samples.Quantile(missed, 0.95));
        var near = Within(worst, allowed, trace.Doubt);
        return new(
            worst,
            trace.Doubt,
            near && trace.Lifts == 0,
            [
                new(HandMeasures.RingWorst, worst, trace.Doubt, near),
                new(HandMeasures.Ring, Math.Max(strayed.Average(), missed.Average()), MeanOfDoubt * trace.Doubt),
                new(HandMeasures.Gap, (drawn[0] - drawn[^1]).Length * trace.Mm, trace.Doubt),
                new(HandMeasures.Lifts, trace.Lifts, 0, trace.Lifts == 0),
                new(HandMeasures.Speed, Pace.Of(trace).Mean),
            ],
            item.Hand.Truth
        );
    }
}
