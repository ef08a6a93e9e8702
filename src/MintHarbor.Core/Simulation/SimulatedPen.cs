using MintHarbor.Core.Geometry;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Simulation;

/// <summary>A hand that answers drills of the hand: as well as its eye and its steadiness let it. For tests of the staircases and for the demo.</summary>
/// <param name="Eye">Size of its errors: 1 is a beginner's, 0 a perfect eye.</param>
public sealed class SimulatedPen(double eye, long seed, PenTool tool = PenTool.Pen, double mm = 0.3)
{
    private readonly SeededRandom random = new(seed);

    /// <summary>Milliseconds between places; a device tells about sixty a second, of which half are kept.</summary>
    private const double Tick = 33;

    public PenTrace Draw(HandDrill drill, DrillItem item)
    {
        var truth = item.Hand!.Truth;
        var strokes = drill switch
        {
            BlindContour => [Followed(SeenDrill.Outline(item)[0], 0.12, 5.5 * Math.Exp(random.Normal(0.45)) * eye)],
            LikenessDrill { OneGo: true } => [Followed(Joined(SeenDrill.Outline(item)), 0.05 * Much(0.4), 14)],
            FromMemory => SeenDrill.Outline(item).Select(o => Followed(o, 0.08 * Much(0.4), 25)),
            LikenessDrill => SeenDrill.Outline(item).Select(o => Followed(o, 0.05 * Much(0.4), 14)),
            OneStroke => [Stroke(truth[0].Places[0], truth[0].Places[^1])],
            PressureStroke => [Pressed(truth[0].Places[0], truth[0].Places[^1])],
            PartByEye => [Ticked(item)],
            EllipseInOneGo => [Followed(truth[0].Places, 0.022 * Much(0.5), 120)],
            EnvelopeRound => Enveloped(item),
            NegativeSpace => [Followed([.. truth[0].Places, truth[0].Places[0]], 0.07 * Much(0.4), 30)],
            UnderTheSkin => [Followed([.. truth[0].Places, truth[0].Places[0]], 0.06 * Much(0.4), 30)],
            FiveMarks => truth.Select(t => Level(t.Places[0], t.Places[^1])),
            _ => throw new ArgumentException($"no hand for {drill.Kind}"),
        };
        List<IReadOnlyList<PenPlace>> drawn = [.. strokes];
        return new(tool, mm, After(drawn), drill.Sight == TraceSight.Glances ? random.Next(4) : 0, tool == PenTool.Pen ? 34 : null);
    }

    /// <summary>The eye's error this time.</summary>
    private double Much(double spread) => eye * Math.Exp(random.Normal(spread));

    /// <summary>One stroke after another, with a pause between.</summary>
    private static List<IReadOnlyList<PenPlace>> After(List<IReadOnlyList<PenPlace>> strokes)
    {
        double since = 0;
        var told = new List<IReadOnlyList<PenPlace>>();
        foreach (var s in strokes)
        {
            told.Add([.. s.Select(p => p with { Ms = p.Ms + since })]);
            since += s[^1].Ms + 400;
        }
        return told;
    }

    /// <summary>A line bent by slow waves, so much of its size, drawn at so many millimetres a second.</summary>
    private IReadOnlyList<PenPlace> Followed(IReadOnlyList<Vec2> line, double much, double pace)
    {
        var box = Area.Round(line);
        var size = box.Diagonal;
        double a = random.Between(0, 6.28),
            b = random.Between(0, 6.28),
            c = random.Between(0, 6.28),
            wide = 1 + random.Normal(much);
        Vec2 Bent(Vec2 p)
        {
            var e = (p - box.Middle) * (2 / size);
            return box.Middle
                + new Vec2((p.X - box.Middle.X) * wide, p.Y - box.Middle.Y)
                + (new Vec2(Math.Sin((2.6 * e.Y) + a) + (0.5 * Math.Sin((5 * e.X) + b)), Math.Sin((2.4 * e.X) + c)) * (much * size));
        }
        return Timed([.. line.Select(Bent)], pace);
    }

    private IReadOnlyList<PenPlace> Timed(IReadOnlyList<Vec2> line, double pace)
    {
        var length = PathDistance.Length(line) * mm;
        var ms = 1000 * length / Math.Max(0.5, pace);
        var count = (int)Math.Clamp(ms / Tick, 12, 1500);
        var shake = 0.12 / mm;
        return
        [
            .. PathDistance
                .Even(line, count)
                .Select((p, i) => new PenPlace(p.X + random.Normal(shake), p.Y + random.Normal(shake), ms * i / (count - 1), 0.45)),
        ];
    }

    private IReadOnlyList<PenPlace> Stroke(Vec2 a, Vec2 b)
    {
        var off = 3.2 * eye / mm;
        Vec2 Missed(Vec2 p) => p + new Vec2(random.Normal(off * 0.6), random.Normal(off * 0.6));
        var (from, to) = (Missed(a), Missed(b));
        var across = new Vec2(a.Y - b.Y, b.X - a.X) * (random.Normal(off * 0.8) / (b - a).Length);
        return Timed(
            [.. Enumerable.Range(0, 25).Select(i => i / 24.0).Select(s => from + ((to - from) * s) + (across * (4 * s * (1 - s))))],
            160
        );
    }

    private IReadOnlyList<PenPlace> Pressed(Vec2 a, Vec2 b)
    {
        double bow = random.Normal(0.28 * eye),
            wave = random.Normal(0.12 * eye);
        double Pressure(double s) => Math.Clamp(0.1 + (0.7 * (s + (bow * 4 * s * (1 - s)) + (wave * Math.Sin(12 * s)))), 0.01, 1);
        var places = Timed([a, b], 60);
        return [.. places.Select((p, i) => p with { Pressure = Pressure((double)i / (places.Count - 1)) })];
    }

    private IReadOnlyList<PenPlace> Ticked(DrillItem item)
    {
        var tick = item.Hand!.Truth[0].Places;
        var line = item.Hand.Given[0].Places;
        var off = (line[1] - line[0]) * random.Normal(0.035 * eye);
        return Timed([tick[0] + off, tick[^1] + off], 60);
    }

    private IReadOnlyList<PenPlace> Level(Vec2 a, Vec2 b)
    {
        var off = new Vec2(0, random.Normal(11 * eye));
        return Timed([a + off, b + off], 80);
    }

    private IEnumerable<IReadOnlyList<PenPlace>> Enveloped(DrillItem item)
    {
        List<Vec2> outline = [.. SeenDrill.Outline(item).SelectMany(o => o)];
        var box = Area.Round(outline);
        var wide = Math.Exp(random.Normal(0.13 * eye));
        Vec2 Spread(Vec2 p) => new(box.Middle.X + ((p.X - box.Middle.X) * wide), p.Y);
        Vec2[] corners =
        [
            new(box.Left, box.Top),
            new(box.Right, box.Top),
            new(box.Right, box.Foot),
            new(box.Left, box.Foot),
            new(box.Left, box.Top),
        ];
        yield return Timed([.. corners.Select(Spread)], 60);
        List<Vec2> round = [.. Enumerable.Range(0, 12).Select(n => Vec2.Towards(30 * n)).Select(d => outline.MaxBy(p => p.Dot(d)))];
        round.Add(round[0]);
        var off = 0.05 * Much(0.4) * box.Diagonal;
        yield return Timed([.. round.Select(Spread).Select(p => p + new Vec2(random.Normal(off), random.Normal(off)))], 60);
    }

    /// <summary>Outlines one after the other, crossing over from each to the next.</summary>
    private static List<Vec2> Joined(IReadOnlyList<IReadOnlyList<Vec2>> outlines) => [.. outlines.SelectMany(o => o)];
}
