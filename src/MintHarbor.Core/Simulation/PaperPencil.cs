using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Simulation;

/// <summary>A stroke of a simulated pencil on a drill sheet, millimetres of its field.</summary>
/// <param name="Dark">Of the paper that it covers, 0 to 1; <paramref name="DarkTo"/> at its end.</param>
/// <param name="Soft">Smeared at its edges, as what was rubbed out.</param>
public sealed record PencilStroke(IReadOnlyList<Vec2> Places, double Width, double Dark, double DarkTo, bool Soft = false);

/// <summary>A smudge of the hand.</summary>
public sealed record Smudge(Vec2 Middle, double Radius, double Dark, double Degrees);

/// <summary>What was really drawn in one item.</summary>
/// <param name="Scores">What a perfect reader would say.</param>
public sealed record PaperTruth(AnswerState State, IReadOnlyList<ItemScore> Scores, bool Erased, double Dark);

/// <summary>A drill sheet that nobody drew.</summary>
public sealed record PencilledSheet(
    DrillSheet Sheet,
    IReadOnlyList<PencilStroke> Strokes,
    IReadOnlyList<Smudge> Smudges,
    IReadOnlyList<PaperTruth> Truth
);

/// <summary>How a hand draws: two of them, so that a reader made on the one is tried on the other.</summary>
/// <param name="Nervous">Wobble of short waves, as a share of the usual; the rest is a slow bow.</param>
/// <param name="Restates">Most strokes for one line.</param>
/// <param name="Charcoal">Share of sheets.</param>
/// <param name="Faintest">Darkness of the lightest pencil.</param>
/// <param name="Eye">Errors of the eye, as a share of the usual.</param>
/// <param name="Pulls">A stroke begins or ends with a hook, in so many of all.</param>
public sealed record PencilManner(double Nervous, int Restates, double Charcoal, double Faintest, double Eye, double Pulls)
{
    /// <summary>The hand that the reader's constants were looked at with.</summary>
    public static PencilManner Tuning { get; } = new(0.35, 4, 0.2, 0.12, 1, 0);

    /// <summary>Another: quicker, shakier, fewer lines restated, hooks at its ends.</summary>
    public static PencilManner Other { get; } = new(0.8, 3, 0.25, 0.14, 1.3, 0.12);
}

/// <summary>Answers a drill sheet with a simulated pencil: errors of the eye, a hand that wobbles and restates, marks rubbed out, smudges, items left
/// empty or answered twice. The strokes as drawn are the truth.</summary>
public sealed class PaperPencil
{
    private const double LeftEmpty = 0.08,
        Twice = 0.16,
        RubbedOut = 0.12,
        Smudged = 0.1;

    private readonly SeededRandom random;
    private readonly PencilManner manner;
    private readonly double dark,
        width;
    private readonly bool charcoal;
    private readonly List<PencilStroke> strokes = [];
    private readonly List<Smudge> smudges = [];

    private PaperPencil(PencilManner manner, long seed)
    {
        (this.manner, random) = (manner, new(seed));
        charcoal = random.Next() < manner.Charcoal;
        dark = charcoal ? random.Between(0.45, 0.8) : random.Between(manner.Faintest, 0.6);
        width = charcoal ? random.Between(0.9, 1.5) : random.Between(0.35, 0.7);
    }

    /// <param name="neat">Every item answered once, nothing rubbed out.</param>
    public static PencilledSheet Answer(DrillSheet sheet, PencilManner manner, long seed, bool neat = false)
    {
        var hand = new PaperPencil(manner, seed);
        List<PaperTruth> truth = [.. sheet.Items.Select(i => hand.Item(i, neat))];
        return new(sheet, hand.strokes, hand.smudges, truth);
    }

    private PaperTruth Item(PaperItem item, bool neat)
    {
        var chance = random.Next();
        if (!neat && random.Next() < Smudged)
            smudges.Add(
                new(
                    item.At + new Vec2(random.Between(10, item.Width - 10), random.Between(12, 42)),
                    random.Between(3, 7),
                    random.Between(0.03, 0.09),
                    random.Between(0, 180)
                )
            );
        if (!neat && chance < LeftEmpty)
            return new(AnswerState.Empty, [], false, 0);
        var ink = new Ink(Math.Max(manner.Faintest, dark * random.Between(0.8, 1.2)), width * random.Between(0.9, 1.1));
        var simple = item is Slant or TickItem or CrossLevel;
        var twice = !neat && simple && chance < Twice;
        var erased = !neat && simple && !twice && random.Next() < RubbedOut;
        var (scores, doubled) = item switch
        {
            Slant s => Slanted(s, ink, twice, erased),
            TickItem t => Ticked(t.Axis(), t.Targets, ink, twice, erased, (at, n) =>
                Exact(t.Measured, at - t.Targets.Order().ElementAt(n))
            ),
            CrossLevel c => Levelled(c, ink, twice, erased),
            Envelope e => (Boxed(e, ink), false),
            SingleStrokes s => (Stroked(s, ink), false),
            ToneSteps t => (Toned(t, ink), false),
            PressureScale p => (Pressed(p, ink), false),
            CopiedCurve c => (Copied(c, ink), false),
            EllipseOnAxes e => (Ringed(e, ink), false),
            EvenHatch h => (Hatched(h, ink), false),
            Converging c => (Aimed(c, ink), false),
            _ => throw new ArgumentException($"no hand for {item.GetType().Name}"),
        };
        return new(doubled ? AnswerState.Twice : AnswerState.Answered, doubled ? [] : scores, erased, ink.Dark);
    }

    private readonly record struct Ink(double Dark, double Width);

    private static ItemScore Exact(string measure, double error) => new(measure, error, 0);

    private double Eye(double sigma) => random.Normal(sigma * manner.Eye);

    // ---- lines

    /// <summary>A stroke that wobbles: a bow, a slow wave, and as nervous waves as the hand is.</summary>
    private List<Vec2> Wobbly(Vec2 a, Vec2 b, double much)
    {
        var length = (b - a).Length;
        var along = (b - a) * (1 / Math.Max(1e-6, length));
        var across = new Vec2(-along.Y, along.X);
        double first = random.Between(0, 2 * Math.PI),
            second = random.Between(0, 2 * Math.PI),
            slow = random.Between(0.6, 1.6),
            quick = random.Between(2, 5) * (manner.Nervous > 0.5 ? length / 25 : 1),
            bow = random.Normal(much);
        var steps = Math.Max(6, (int)(length / 0.4));
        List<Vec2> places =
        [
            .. Enumerable
                .Range(0, steps + 1)
                .Select(i => (double)i / steps)
                .Select(s =>
                    a
                    + (along * (s * length))
                    + (
                        across
                        * (
                            (
                                much
                                * (
                                    (0.7 * Math.Sin((2 * Math.PI * slow * s) + first))
                                    + (manner.Nervous * Math.Sin((2 * Math.PI * quick * s) + second))
                                )
                            ) + (bow * 4 * s * (1 - s))
                        )
                    )
                ),
        ];
        if (random.Next() < manner.Pulls)
            places.Add(places[^1] + (along * 0.5) + (across * random.Between(-0.6, 0.6)));
        return places;
    }

    private void Stroke(List<Vec2> places, Ink ink) => strokes.Add(new(places, ink.Width, ink.Dark, ink.Dark));

    /// <summary>Places of strokes, each with its length: what a fit of the drawn line goes through.</summary>
    private static List<InkPlace> Drawn(IEnumerable<IReadOnlyList<Vec2>> lines) =>
        [.. lines.SelectMany(l => l.Zip(l.Skip(1), (a, b) => new InkPlace(Vec2.Mid(a, b), Math.Min(0.35, (b - a).Length / 2))))];

    /// <summary>One line in as many strokes as the hand takes for it.</summary>
    private List<IReadOnlyList<Vec2>> Line(Vec2 a, Vec2 b, Ink ink, double turn = 0.8, double aside = 0.22)
    {
        var length = (b - a).Length;
        var along = (b - a) * (1 / length);
        var across = new Vec2(-along.Y, along.X);
        var count = 1 + random.Next(manner.Restates);
        var lines = new List<IReadOnlyList<Vec2>>();
        for (var i = 0; i < count; i++)
        {
            var (from, to) = Part(i, count, length);
            var (sin, cos) = Math.SinCos(random.Normal(turn) * Math.PI / 180);
            var off = random.Normal(aside);
            Vec2 p = a + (along * (from * length)) + (across * off),
                q = a + (along * (to * length)) + (across * off),
                middle = Vec2.Mid(p, q);
            Vec2 Turned(Vec2 v) =>
                middle + new Vec2(((v.X - middle.X) * cos) - ((v.Y - middle.Y) * sin), ((v.X - middle.X) * sin) + ((v.Y - middle.Y) * cos));
            var line = Wobbly(Turned(p), Turned(q), random.Between(0.04, 0.18) * Math.Min(1, length / 15));
            lines.Add(line);
            Stroke(line, new(Math.Max(0.1, ink.Dark * random.Between(0.8, 1.2)), ink.Width * random.Between(0.85, 1.2)));
        }
        return lines;
    }

    /// <summary>From where to where a restated stroke goes, as shares of the line.</summary>
    private (double From, double To) Part(int i, int count, double length)
    {
        if (count == 1 || (i == 0 && length < 12))
            return (0, 1);
        if (length < 12)
            return (random.Between(-0.08, 0.2), random.Between(0.8, 1.1));
        double middle = (i + 0.5) / count,
            half = random.Between(0.6, 0.95) * Math.Max(0.5, 1.4 / count) * 0.75;
        return (
            i == 0 ? random.Between(-0.04, 0.03) : Math.Max(middle - half, -0.06),
            i == count - 1 ? random.Between(0.97, 1.05) : Math.Min(middle + half, 1.08)
        );
    }

    private void Ghost(Vec2 a, Vec2 b, Ink ink)
    {
        var faint = Math.Min(0.10, ink.Dark * random.Between(0.15, 0.35));
        strokes.Add(new(Wobbly(a, b, 0.1), ink.Width * 1.6, faint, faint, Soft: true));
    }

    // ---- items

    private (IReadOnlyList<ItemScore>, bool) Slanted(Slant item, Ink ink, bool twice, bool erased)
    {
        var degrees = item.Degrees + Eye(3);
        var f = item.Field;
        var middle = f.Middle + new Vec2(random.Between(-1.5, 1.5), random.Between(-4, 4));
        double Longest(double a) =>
            Math.Min(21 / Math.Max(0.05, Math.Abs(Vec2.Towards(a).X)), 34 / Math.Max(0.05, Math.Abs(Vec2.Towards(a).Y)));
        var length = Math.Min(Longest(degrees), random.Between(18, 30));
        double Other(double least, double most) => degrees + ((random.Next(2) == 0 ? 1 : -1) * random.Between(least, most));
        if (erased && Vec2.Towards(Other(7, 20)) * (length / 2) is var g)
            Ghost(middle - g, middle + g, ink);
        var half = Vec2.Towards(degrees) * (length / 2);
        var lines = Line(middle - half, middle + half, ink);
        if (twice && Vec2.Towards(Other(9, 25)) * (Math.Min(length, 20) / 2) is var second)
            Line(middle - second, middle + second, ink);
        return ([Exact(Slant.Measure, StrokeFit.Turn(item.Degrees, StrokeFit.Of(Drawn(lines))!.Degrees))], twice);
    }

    private (IReadOnlyList<ItemScore>, bool) Ticked(
        TickAxis axis,
        IReadOnlyList<double> targets,
        Ink ink,
        bool twice,
        bool erased,
        Func<double, int, ItemScore> score
    )
    {
        List<double> made = [.. targets.Order().Select(t => Tick(axis, Math.Clamp(t + Eye(1.3), 1, axis.Length - 1), ink)).Order()];
        double? Free(double apart) =>
            Enumerable
                .Range(0, 40)
                .Select(_ => (double?)(random.Between(0.1, 0.9) * axis.Length))
                .FirstOrDefault(s => made.All(m => Math.Abs(m - s!.Value) > apart));
        if (erased && Free(5) is { } ghost)
            Ghost(axis.At(ghost) - (axis.Across(ghost) * 2.5), axis.At(ghost) + (axis.Across(ghost) * 2.5), ink);
        var second = twice ? Free(3.5) : null;
        if (second is { } again)
            Tick(axis, again, ink);
        return ([.. made.Select(score)], second is not null);
    }

    /// <summary>A tick across a line.</summary>
    /// <returns>Where it crosses, along the line.</returns>
    private double Tick(TickAxis axis, double at, Ink ink)
    {
        var (p, n) = (axis.At(at), axis.Across(at));
        var (sin, cos) = Math.SinCos(random.Normal(8) * Math.PI / 180);
        var d = new Vec2((n.X * cos) - (n.Y * sin), (n.X * sin) + (n.Y * cos));
        var lines = Line(p - (d * random.Between(1.5, 4)), p + (d * random.Between(2, 4.5)), ink, turn: 3, aside: 0.15);
        var fit = StrokeFit.Of([.. Drawn(lines).Select(q => q with { At = axis.Beside(q.At) })])!;
        return fit.Through.X - (fit.Along.X * fit.Through.Y / fit.Along.Y);
    }

    private (IReadOnlyList<ItemScore>, bool) Levelled(CrossLevel item, Ink ink, bool twice, bool erased)
    {
        var axis = item.Axis();
        List<double> levels = [.. item.Points.Select(p => item.At.Y + p.Y).Order()];
        double Along(double y) => Enumerable.Range(0, 400).Select(i => i * axis.Length / 399).MinBy(s => Math.Abs(axis.At(s).Y - y));
        return Ticked(axis, [.. levels.Select(Along)], ink, twice, erased, (at, n) => Exact(CrossLevel.Measure, axis.At(at).Y - levels[n]));
    }

    private IReadOnlyList<ItemScore> Boxed(Envelope item, Ink ink)
    {
        var (wide, tall) = (Math.Min(42, item.True.X * (1 + Eye(0.06))), Math.Min(36, item.True.Y * (1 + Eye(0.06))));
        var middle = item.Field.Middle + new Vec2(random.Between(-2, 2), random.Between(-1, 1));
        var over = random.Between(-0.5, 2.2);
        StrokeFit Side(double x1, double y1, double x2, double y2)
        {
            var (a, b) = (middle + new Vec2(x1, y1), middle + new Vec2(x2, y2));
            var (sin, cos) = Math.SinCos(random.Normal(0.8) * Math.PI / 180);
            var half = (b - a) * (((b - a).Length + over) / (b - a).Length / 2);
            var turned = new Vec2((half.X * cos) - (half.Y * sin), (half.X * sin) + (half.Y * cos));
            return StrokeFit.Of(Drawn(Line(Vec2.Mid(a, b) - turned, Vec2.Mid(a, b) + turned, ink, 0.5)))!;
        }
        double w = wide / 2,
            h = tall / 2;
        var size = Envelope.Size(Side(-w, -h, -w, h), Side(w, -h, w, h), Side(-w, -h, w, -h), Side(-w, h, w, h));
        return [Exact(Envelope.Wider, 100 * ((size.X / item.True.X) - 1)), Exact(Envelope.Taller, 100 * ((size.Y / item.True.Y) - 1))];
    }

    private IReadOnlyList<ItemScore> Stroked(SingleStrokes item, Ink ink)
    {
        var scores = new List<ItemScore>();
        for (var n = 0; n < SingleStrokes.Strokes; n++)
        {
            var (from, to) = item.Row(n);
            double before = random.Between(-1.5, 2.5),
                beyond = random.Between(-2, 4);
            var whole = Wobbly(
                from + new Vec2(-before, random.Normal(0.3)),
                to + new Vec2(beyond, random.Normal(0.3)),
                random.Between(0.03, 0.5)
            );
            List<(double From, double To)> cuts =
            [
                .. Enumerable
                    .Range(0, random.Next() < 0.35 ? 1 + random.Next(2) : 0)
                    .Select(k => 20 + (35 * k) + random.Between(0, 20))
                    .Select(at => (at, at + (ink.Width * 1.2) + random.Between(1.3, 4))),
            ];
            bool Cut(Vec2 p) => cuts.Any(c => p.X - from.X > c.From && p.X - from.X < c.To);
            var piece = new List<Vec2>();
            foreach (var p in whole.Append(new Vec2(double.NaN, 0)))
            {
                if (p.IsFinite && !Cut(p))
                {
                    piece.Add(p);
                    continue;
                }
                if (piece.Count > 1)
                    Stroke([.. piece], ink);
                piece.Clear();
            }
            var middle = Drawn([whole]).Where(p => !Cut(p.At) && p.At.X > from.X && p.At.X < to.X).ToList();
            scores.AddRange([
                Exact("breaks", cuts.Count),
                Exact("wobble", StrokeFit.Of(middle)!.Scatter),
                Exact("overrun", from.X - whole.Min(p => p.X)),
                Exact("overrun", whole.Max(p => p.X) - to.X),
            ]);
        }
        return scores;
    }

    /// <summary>Hatching in each field; how dark it comes out is measured on the sheet as it is drawn.</summary>
    private IReadOnlyList<ItemScore> Toned(ToneSteps item, Ink ink)
    {
        for (var n = 0; n < ToneSteps.Tones.Count; n++)
        {
            var f = item.Field(n);
            var aim = ToneSteps.Tones[n] * random.Between(0.75, 1.2);
            var each = new Ink(Math.Max(0.25, Math.Clamp(aim * 1.25, ink.Dark * 0.6, 0.85)), charcoal ? 0.9 : ink.Width);
            var spacing = each.Width / Math.Max(0.15, Math.Min(0.97, aim / each.Dark));
            var crossed = random.Next() < 0.4;
            var degrees = random.Between(30, 60) * (random.Next(2) == 0 ? 1 : -1);
            Hatch(f, degrees, spacing * (crossed ? 1.7 : 1), each);
            if (crossed)
                Hatch(f, degrees + 80, spacing * 1.7, each);
        }
        return [];
    }

    private void Hatch(Area f, double degrees, double spacing, Ink ink)
    {
        var (along, across) = (Vec2.Towards(degrees), Vec2.Towards(degrees + 90));
        for (var o = -14.0; o < 14; o += spacing * random.Between(0.8, 1.2))
        {
            var (from, to) = Within(f.Grown(-0.2), f.Middle + (across * o), along);
            from -= random.Normal(0.35);
            to += random.Normal(0.35);
            if (to - from >= 0.8)
                Stroke(
                    Wobbly(f.Middle + (across * o) + (along * from), f.Middle + (across * o) + (along * to), 0.08),
                    ink with
                    {
                        Dark = ink.Dark * random.Between(0.9, 1.1),
                    }
                );
        }
    }

    /// <summary>From where to where a line lies within a rectangle, along it.</summary>
    private static (double From, double To) Within(Area f, Vec2 p, Vec2 d)
    {
        double from = -1e9,
            to = 1e9;
        foreach (var (at, step, low, high) in new[] { (p.X, d.X, f.Left, f.Right), (p.Y, d.Y, f.Top, f.Foot) })
        {
            if (Math.Abs(step) < 1e-9)
                continue;
            double a = (low - at) / step,
                b = (high - at) / step;
            (from, to) = (Math.Max(from, Math.Min(a, b)), Math.Min(to, Math.Max(a, b)));
        }
        return (from, to);
    }

    private IReadOnlyList<ItemScore> Pressed(PressureScale item, Ink ink)
    {
        var scores = new List<ItemScore>();
        for (var n = 0; n < PressureScale.Strokes; n++)
        {
            var (from, to) = item.Row(n);
            double light = random.Between(0.14, 0.24),
                most = Math.Max(light + 0.3, Math.Min(0.85, ink.Dark + 0.25));
            var parts = Enumerable
                .Range(0, PressureScale.Steps)
                .Select(k => light + ((most - light) * k / (PressureScale.Steps - 1)) + random.Normal(0.04))
                .ToList();
            for (var k = 1; k < parts.Count; k++)
                if (random.Next() < 0.1)
                    parts[k] = parts[k - 1] - 0.06;
            for (var k = 0; k < parts.Count; k++)
            {
                var (a, b) = (from + ((to - from) * ((double)k / parts.Count)), from + ((to - from) * ((k + 1.0) / parts.Count)));
                var dark = Math.Clamp(parts[k], 0.1, 0.95);
                parts[k] = dark;
                strokes.Add(new(Wobbly(a, b, 0.05), Math.Max(0.7, ink.Width), dark, dark));
            }
            scores.AddRange(PressureScale.Scores(parts).Select(s => s with { Uncertainty = 0 }));
        }
        return scores;
    }

    private IReadOnlyList<ItemScore> Copied(CopiedCurve item, Ink ink)
    {
        var given = item.Given;
        var centre = new Vec2(given.Average(p => p.X), given.Average(p => p.Y));
        var to =
            item.Field.Middle
            - (item.Closed ? Middle(given) : new Vec2(item.At.X + 27, item.At.Y + 28))
            + new Vec2(random.Between(-3, 3), random.Between(-2, 2));
        var (sin, cos) = Math.SinCos(Eye(3) * Math.PI / 180);
        double scale = 1 + Eye(0.04),
            first = random.Between(0, 2 * Math.PI),
            second = random.Between(0, 2 * Math.PI),
            much = random.Between(0.2, 1.1) * (item.Closed ? 0.6 : 1);
        // A closed curve ends where it began, a little beyond.
        List<Vec2> path = item.Closed ? [.. Spread(given), given[0]] : [.. given];
        List<Vec2> drawn = [];
        for (var i = 0; i < path.Count; i++)
        {
            var v = (path[i] - centre) * scale;
            var s = 2 * Math.PI * i / (path.Count - 1);
            var wave = item.Closed
                ? new Vec2(Math.Sin(s + first), Math.Sin((2 * s) + second))
                : new Vec2(Math.Sin((1.11 * s) + first), Math.Sin((1.27 * s) + second));
            drawn.Add(centre + new Vec2((v.X * cos) - (v.Y * sin), (v.X * sin) + (v.Y * cos)) + to + (wave * much));
        }
        var pieces = 1 + random.Next(item.Closed ? 2 : manner.Restates);
        var lines = new List<IReadOnlyList<Vec2>>();
        for (var k = 0; k < pieces; k++)
        {
            var overlap = Math.Max(1, path.Count / 15);
            int from = Math.Max(0, (path.Count * k / pieces) - (k > 0 ? overlap : 0)),
                until = Math.Min(path.Count, (path.Count * (k + 1) / pieces) + (k < pieces - 1 ? overlap : 0));
            var off = new Vec2(random.Normal(0.15), random.Normal(0.15));
            List<Vec2> line = [.. drawn[from..until].Select(p => p + off)];
            Stroke(line, ink with { Dark = ink.Dark * random.Between(0.85, 1.15) });
            lines.Add(line);
        }
        var over = CurveOver.Of([.. Drawn(lines).Select(p => p.At)], given, item.Closed);
        return item is NegativeShape n
            ?
            [
                Exact(NegativeShape.Edge, over.Mean),
                Exact(NegativeShape.Size, 100 * ((Polygons.Area([.. drawn.SkipLast(1)]) / Polygons.Area(n.Gap)) - 1)),
            ]
            : [Exact("contour", over.Mean), Exact("contour-worst", over.Worst)];
    }

    private static Vec2 Middle(IReadOnlyList<Vec2> places) =>
        new((places.Min(p => p.X) + places.Max(p => p.X)) / 2, (places.Min(p => p.Y) + places.Max(p => p.Y)) / 2);

    /// <summary>A closed outline in even steps of about a millimetre.</summary>
    private static IReadOnlyList<Vec2> Spread(IReadOnlyList<Vec2> outline)
    {
        IReadOnlyList<Vec2> round = [.. outline, outline[0]];
        var length = round.Zip(round.Skip(1), (a, b) => (b - a).Length).Sum();
        return [.. PathDistance.Even(round, Math.Max(24, (int)length)).SkipLast(1)];
    }

    private IReadOnlyList<ItemScore> Ringed(EllipseOnAxes item, Ink ink)
    {
        double first = random.Between(0, 2 * Math.PI),
            much = Math.Abs(Eye(0.6)),
            second = random.Between(0, 2 * Math.PI),
            start = random.Between(0, 2 * Math.PI);
        var ring = item.Ring(240);
        var middle = new Vec2(ring.Average(p => p.X), ring.Average(p => p.Y));
        var rounds = 1 + random.Next(2);
        var line = new List<Vec2>();
        for (var i = 0; i <= (240 * rounds) + 8; i++)
        {
            var p = ring[(i + (int)(start / (2 * Math.PI) * 240)) % 240];
            var out1 = (p - middle) * (1 / (p - middle).Length);
            var t = 2 * Math.PI * i / 240;
            line.Add(
                p + (out1 * (much * ((0.7 * Math.Sin((2 * t) + first)) + (0.4 * Math.Sin((3 * t) + second)) + (0.2 * Math.Sin(0.5 * t)))))
            );
        }
        Stroke(line, ink);
        var exact = item.Ring();
        List<double> off = [.. PathDistance.Even(line, 800).Select(p => EllipseOnAxes.Off(p, exact))];
        return [Exact("ellipse", off.Average()), Exact("ellipse-worst", Samples.Quantile(off, 0.95))];
    }

    private IReadOnlyList<ItemScore> Hatched(EvenHatch item, Ink ink)
    {
        var each = ink with { Width = Math.Min(ink.Width, item.Spacing * 0.4) };
        double degrees = item.Degrees + Eye(4),
            spacing = item.Spacing * (1 + Eye(0.08)),
            uneven = random.Between(0.03, 0.18);
        var (along, across) = (Vec2.Towards(degrees), Vec2.Towards(degrees + 90));
        var offsets = new List<double>();
        var fits = new List<IReadOnlyList<Vec2>>();
        for (var o = -20 + random.Between(0, spacing); o < 20; o += spacing * Math.Max(0.4, 1 + random.Normal(uneven)))
        {
            var at = item.FormMiddle + (across * o);
            var (from, to) = (Edge(item, at, along, -1), Edge(item, at, along, 1));
            if (to - from < 4)
                continue;
            var tilt = Vec2.Towards(degrees + random.Normal(0.6));
            List<Vec2> line = Wobbly(at + (tilt * (from + random.Normal(0.5))), at + (tilt * (to + random.Normal(0.5))), 0.08);
            Stroke(line, each);
            fits.Add(line);
            offsets.Add(o);
        }
        var gaps = offsets.Zip(offsets.Skip(1), (a, b) => b - a).ToList();
        var mean = gaps.Average();
        return
        [
            Exact(EvenHatch.Measure, mean - item.Spacing),
            Exact(EvenHatch.Uneven, 100 * Math.Sqrt(gaps.Sum(g => (g - mean) * (g - mean)) / (gaps.Count - 1)) / mean),
            Exact(EvenHatch.Turned, StrokeFit.Turn(item.Degrees, degrees)),
        ];
    }

    /// <summary>How far a line goes within the form.</summary>
    private static double Edge(EvenHatch item, Vec2 at, Vec2 along, int way)
    {
        double far = 0;
        while (far < 40 && item.Beside(at + (along * (way * far))) < 0.97)
            far += 0.2;
        return way * far;
    }

    private IReadOnlyList<ItemScore> Aimed(Converging item, Ink ink)
    {
        var scores = new List<ItemScore>();
        foreach (var dot in item.Dots)
        {
            var from = item.At + dot + new Vec2(random.Normal(0.4), random.Normal(0.4));
            var aim = item.At + item.Point - from;
            var degrees = (Math.Atan2(aim.Y, aim.X) * 180 / Math.PI) + Eye(1.8);
            var lines = Line(from, from + (Vec2.Towards(degrees) * random.Between(28, 44)), ink, turn: 0.3, aside: 0.15);
            if (item.Asked.Contains(dot))
                scores.Add(Exact(Converging.Measure, item.Steeper(StrokeFit.Of(Drawn(lines))!)));
        }
        return scores;
    }
}
