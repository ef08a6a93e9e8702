using System.Numerics;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Hands;

/// <summary>A rectangle round the figure or the things, then a shape of straight sides round it.</summary>
public sealed class EnvelopeRound : SeenDrill
{
    public override string Kind => "envelope-round";
    public override string Name => "Envelope";
    public override string About => "a rectangle, then a shape of straight sides round a figure or a still life";
    public override string How => "How many times does its breadth go into its height? Rectangle first; then five to eight straight sides.";
    public override string Unit => " %";
    public override int Minutes => 3;
    public override IReadOnlyList<string> Strokes => ["the rectangle, in one go", "the straight sides, in one go"];
    protected override string Asks => "Rectangle, then straight sides round the whole.";
    protected override bool WithThings => true;
    protected override (double Easy, double Hard) Width => (32, 14);

    public override string SayError(double error) => $"{Say.Number(error)} % not shared with the true envelope";

    public override string SayWidth(double width) => $"{Say.Number(width)} %";

    /// <summary>The drawn sides against the outline's convex hull, this made as large as the drawn rectangle says.</summary>
    protected override HandReading Reading(DrillItem item, PenTrace trace, double allowed)
    {
        List<Vec2> hull =
        [
            .. Hull.Of(Outline(item).SelectMany(o => o).Select(p => new Vector2((float)p.X, (float)p.Y))).Select(v => new Vec2(v.X, v.Y)),
        ];
        Area shown = Area.Round(hull),
            drawn = Area.Round(trace.Lines[0]);
        if (Math.Min(drawn.Width, drawn.Height) * trace.Mm < 5)
            throw new InputException("a rectangle that is hardly one", "trace", "a rectangle round the whole");
        var scale = Math.Sqrt(drawn.Width * drawn.Height / (shown.Width * shown.Height));
        List<Vec2> laid = [.. hull.Select(p => ((p - shown.Middle) * scale) + drawn.Middle)];
        return NotShared(laid, trace.Lines[1], trace, allowed, _ =>
            [Proportion(drawn, shown, trace), new(HandMeasures.Lifts, trace.Lifts - 1)]
        );
    }
}

/// <summary>The gap that a figure or things leave, copied as large.</summary>
public sealed class NegativeSpace : MadeDrill
{
    /// <summary>Units a millimetre of the printed drill, whose gaps these are.</summary>
    private const double Large = 5;
    private const double Breadth = 54 * Large,
        Height = 50 * Large;

    public override string Kind => "negative-shape";
    public override string Name => "Negative shape";
    public override string About => "the gap that a figure or things leave, copied as large beside it";
    public override string How => "See the gap as a thing of its own; forget what it lies between.";
    public override string Unit => " %";
    public override int Length => 4;
    public override int Minutes => 3;
    public override IReadOnlyList<string> Strokes => ["the gap's outline, in one go"];
    protected override (double Easy, double Hard) Width => (38, 12);

    public override string SayError(double error) => $"{Say.Number(error)} % not shared with the gap";

    public override string SayWidth(double width) => $"{Say.Number(width)} %";

    protected override (string, HandTask) Make(SeededRandom random, double difficulty)
    {
        var (round, gap) = random.Next(2) == 0 ? OfFigure(random) : OfThings(random);
        return (
            "Copy the dark gap, not what is round it: as large, in the field.",
            new(
                new(Breadth, Height),
                [],
                [.. round.Select(o => new GivenLine(GivenStyle.Faint, o, Closed: true)), new(GivenStyle.Bold, gap, Closed: true)],
                [new(gap, Closed: true)]
            )
        );
    }

    private static (IEnumerable<IReadOnlyList<Vec2>> Round, IReadOnlyList<Vec2> Gap) OfFigure(SeededRandom random)
    {
        static IReadOnlyList<Vec2> Drawn(IReadOnlyList<Vec2> line) => [.. line.Select(p => OneStroke.Round(p * Large))];
        var shape = NegativeShape.Make(random, default);
        return (shape.Figure.Select(Drawn), Drawn(shape.Gap));
    }

    /// <summary>Gaps of still lifes that are large enough to be copied.</summary>
    private static readonly Lazy<IReadOnlyList<(StudioView View, NegativeGap Gap)>> Still = new(() =>
        [.. StudioViews.Things.SelectMany(v => v.Known!.Gaps.Where(g => g.Area > 0.012 * v.Width * v.Height).Select(g => (v, g)))]
    );

    private static (IEnumerable<IReadOnlyList<Vec2>> Round, IReadOnlyList<Vec2> Gap) OfThings(SeededRandom random)
    {
        var (view, gap) = Still.Value[random.Next(Still.Value.Count)];
        var outlines = Outlines.Read(view.Mass);
        var shown = Area.Round(outlines.SelectMany(o => o));
        var scale = Math.Min(Breadth / shown.Width, Height / shown.Height) * 0.92;
        IReadOnlyList<Vec2> Drawn(IReadOnlyList<Vec2> line) =>
            [.. line.Select(p => OneStroke.Round(((p - shown.Middle) * scale) + new Vec2(Breadth / 2, Height / 2)))];
        return (outlines.Select(Drawn), Drawn(gap.Outline));
    }

    protected override HandReading Reading(DrillItem item, PenTrace trace, double allowed)
    {
        var gap = item.Hand!.Truth[0].Places;
        var drawn = Outlined(trace, "the gap");
        var over = LaidOver.Of(
            [
                [.. gap, gap[0]],
            ],
            [
                [.. drawn, drawn[0]],
            ],
            scaled: false
        );
        List<Vec2> laid = [.. gap.Select(over.Map)];
        return NotShared(laid, drawn, trace, allowed, doubt =>
            [
                new(HandMeasures.Size, 100 * ((Polygons.Area(drawn) / Polygons.Area(gap)) - 1), doubt),
                new(HandMeasures.Gap, (drawn[0] - drawn[^1]).Length * trace.Mm, trace.Doubt),
            ]
        );
    }
}

/// <summary>Five marks of the face between crown and chin, as the sitter has them.</summary>
public sealed class FiveMarks : HandDrill
{
    /// <summary>From above, with the landmarks whose middle they are.</summary>
    internal static readonly (string Id, string Name, string[] At)[] Levels =
    [
        ("mark-hairline", "hairline", ["hairline"]),
        ("mark-brow", "brow", ["brow"]),
        ("mark-eyes", "eyes", ["pupil.L", "pupil.R"]),
        ("mark-nose", "base of the nose", ["nosebase"]),
        ("mark-mouth", "mouth", ["lip-slit"]),
    ];

    public override string Kind => "five-marks";
    public override string Name => "Five marks of the face";
    public override string About => "hairline, brow, eyes, nose and mouth between crown and chin, as this sitter has them";
    public override string How => "Halve first: the eyes lie near the middle of the whole head. Then where does this sitter depart?";
    public override string Unit => " % of the head";
    public override int Length => 5;
    public override int Minutes => 3;
    public override IReadOnlyList<string> Strokes => [.. Levels.Select(l => l.Name)];
    protected override (double Easy, double Hard) Width => (5, 1.5);

    public override string SayError(double error) => $"{Say.Number(error, 1)} % of the head off on the whole";

    public override string SayWidth(double width) => $"{Say.Number(width, 1)} %";

    /// <summary>The less a head keeps to even parts, the harder.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) =>
        from view in StudioViews.All
        where view.IsHead && Levels.SelectMany(l => l.At).All(id => view.At(id) is not null)
        select new Candidate(
            view,
            "Five level marks in the empty head: hairline, brow, eyes, nose, mouth.",
            new(default, default),
            null,
            Truths(view).Select((t, n) => Math.Abs(t - ((n + 1) / 6.0))).Sum(),
            0
        );

    /// <summary>Shares of the way from crown to chin.</summary>
    private static IReadOnlyList<double> Truths(StudioView view) =>
        view.At("crown")!.Value.Y is var crown && view.At("chin")!.Value.Y is var chin
            ? [.. Levels.Select(l => (l.At.Average(id => view.At(id)!.Value.Y) - crown) / (chin - crown))]
            : [];

    protected override IReadOnlyList<DrillItem> Made(long seed, double difficulty, int count, bool clothed, DrillViews from) =>
        [.. base.Made(seed, difficulty, count, clothed, from).Select(i => i with { Hand = Task(StudioViews.Get(i.ViewId)) })];

    private static HandTask Task(StudioView view)
    {
        double crown = view.At("crown")!.Value.Y,
            chin = view.At("chin")!.Value.Y,
            middle = view.Width / 2.0,
            half = (chin - crown) / 2;
        GivenLine Level(double y) => new(GivenStyle.Line, [new(middle - 40, Math.Round(y, 1)), new(middle + 40, Math.Round(y, 1))]);
        List<Vec2> egg =
        [
            .. Enumerable
                .Range(0, 72)
                .Select(n => Math.SinCos(2 * Math.PI * n / 72))
                // Fuller above than below, as a head is.
                .Select(t => OneStroke.Round(new(middle + (half * 0.74 * t.Sin * (1 + (0.12 * t.Cos))), crown + half - (half * t.Cos)))),
        ];
        return new(
            new(view.Width, view.Height),
            [
                new(GivenStyle.Faint, egg, Closed: true),
                new(GivenStyle.Dashed, [new(middle, Math.Round(crown, 1)), new(middle, Math.Round(chin, 1))]),
                Level(crown),
                Level(chin),
            ],
            null,
            [
                .. Truths(view)
                    .Select(t => crown + (t * (chin - crown)))
                    .Select(y => new SeenLine([new(middle - 90, Math.Round(y, 1)), new(middle + 90, Math.Round(y, 1))])),
            ]
        );
    }

    protected override HandReading Reading(DrillItem item, PenTrace trace, double allowed)
    {
        if (trace.Strokes.Count != Levels.Length)
            throw new InputException($"{Say.Plural(trace.Strokes.Count, "mark")}", "trace", $"five: {Say.List(Strokes)}");
        // The item's own marks, not the view's: a view may be drawn anew.
        var levels = item.Hand!.Given.Where(g => g.Style == GivenStyle.Line).Select(g => g.Places[0].Y).ToList();
        var head = levels[1] - levels[0];
        var marks = trace.Lines.Select(l => l.Average(p => p.Y)).Order();
        List<double> off = [.. marks.Zip(item.Hand.Truth, (y, t) => 100 * (y - t.Places[0].Y) / head)];
        var doubt = 100 * trace.DoubtUnits / head;
        var error = Math.Sqrt(off.Average(e => e * e));
        var near = Within(error, allowed, doubt / 2);
        return new(
            error,
            doubt / 2,
            near,
            [.. Levels.Zip(off, (l, e) => new HandFact(l.Id, e, doubt, Within(e, allowed, doubt)))],
            item.Hand.Truth
        );
    }
}

/// <summary>The drills of the hand, as they are offered.</summary>
public static class HandDrills
{
    public static IReadOnlyList<HandDrill> All { get; } =
    [
        new OneStroke(),
        new PressureStroke(),
        new PartByEye(),
        new EllipseInOneGo(),
        new EnvelopeRound(),
        new NegativeSpace(),
        new BlindContour(strict: true),
        new BlindContour(strict: false),
        new ContourWithLook(),
        new ContinuousLine(),
        new FromMemory(),
        new FiveMarks(),
        new UnderTheSkin(),
    ];
}
