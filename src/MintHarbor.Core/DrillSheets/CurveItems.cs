using System.Text.Json.Serialization;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>A curve that is copied beside where it is given, as large and with the same slant.</summary>
public abstract record CopiedCurve(Vec2 At) : PaperItem(At)
{
    [JsonIgnore]
    public override bool Wide => true;

    [JsonIgnore]
    internal Area Field => new(At.X + 56, At.Y + 7, At.X + 106, At.Y + 48);
    internal override Area Anchors => new(Field.Left - 1.6, Field.Top - 1.6, Field.Right + 1.6, Field.Foot + 1.2);

    /// <summary>What is copied, on the sheet.</summary>
    [JsonIgnore]
    internal abstract IReadOnlyList<Vec2> Given { get; }

    [JsonIgnore]
    internal abstract bool Closed { get; }

    internal abstract IEnumerable<ItemScore> Scores(CurveOver over, IReadOnlyList<InkPlace> ink, double doubt);

    internal override ItemReading Read(ItemInk ink)
    {
        var area = new Area(Field.Left - 1, Field.Top - 1, Field.Right + 1.2, Field.Foot + 1);
        var (marks, faint) = Erased.Dropped([.. ink.Marks(area).Where(m => m.Size > 1.2)]);
        if (marks.Sum(m => m.Size) < 10)
            return ItemReading.Nothing;
        var places = Erased.Strong([.. marks.SelectMany(m => m.Places)]);
        var middle = StrokeMiddle.Of(places);
        var over = CurveOver.Of(middle, Given, Closed);
        var doubt = (2 * ink.LeftOut) + 0.1;
        List<ItemScore> scores = [.. Scores(over, places, doubt)];
        return new ItemReading(AnswerState.Answered, scores, [], [.. middle.Where((_, i) => i % 6 == 0).Select(p => new SeenLine([p]))])
            .With(ReadingFlag.FaintSecond, faint)
            .With(ReadingFlag.NotWhole, over.Covered < 0.85 || scores.Count < 2)
            .With(ReadingFlag.StrayMarks, over.Worst > 5)
            .With(ReadingFlag.NotFlat, doubt > 0.7);
    }
}

/// <summary>A bent edge.</summary>
/// <param name="Line">Measured from the cell's corner.</param>
public sealed record Contour(Vec2 At, IReadOnlyList<Vec2> Line) : CopiedCurve(At)
{
    [JsonIgnore]
    public override string Asks => "Copy this contour in the field, as large, with the same slant.";
    internal override IReadOnlyList<Vec2> Given => [.. Line.Select(p => At + p)];
    internal override bool Closed => false;

    internal static Contour Make(SeededRandom random, Vec2 at)
    {
        const int steps = 60;
        double first = random.Between(0, 2 * Math.PI),
            second = random.Between(0, 2 * Math.PI),
            wide = random.Between(3, 6),
            narrow = random.Between(1, 2.6);
        var along = Vec2.Towards(random.Between(60, 120));
        var across = new Vec2(-along.Y, along.X);
        List<Vec2> line =
        [
            .. Enumerable
                .Range(0, steps + 1)
                .Select(i => (double)i / steps)
                .Select(s =>
                    (along * ((s - 0.5) * 34)) + (across * ((wide * Math.Sin((4.2 * s) + first)) + (narrow * Math.Sin((9.5 * s) + second))))
                ),
        ];
        var middle = new Vec2(line.Average(p => p.X), line.Average(p => p.Y));
        return new(at, [.. line.Select(p => p - middle + new Vec2(27, 28)).Select(p => new Vec2(Math.Round(p.X, 2), Math.Round(p.Y, 2)))]);
    }

    public override IEnumerable<PrintShape> Print() => [new PrintPath(Given), .. Corners(Field)];

    internal override IEnumerable<ItemScore> Scores(CurveOver over, IReadOnlyList<InkPlace> ink, double doubt) =>
        [new("contour", over.Mean, doubt), new("contour-worst", over.Worst, doubt)];
}

/// <summary>A gap that a clothed figure leaves: between its limbs, or between it and a line laid along it. The gap is copied, not the figure.</summary>
/// <param name="Figure">The silhouette's outlines, measured from the cell's corner.</param>
/// <param name="Gap">Closed.</param>
public sealed record NegativeShape(Vec2 At, string Pose, IReadOnlyList<IReadOnlyList<Vec2>> Figure, IReadOnlyList<Vec2> Gap)
    : CopiedCurve(At)
{
    public const string Edge = "negative",
        Size = "negative-area";

    /// <summary>Gaps smaller than this are drawn in one dab, millimetres across and square millimetres.</summary>
    private const double LeastAcross = 8,
        LeastArea = 90;

    [JsonIgnore]
    public override string Asks => "Copy the gap that is outlined darkly, not the figure: as large, in the field.";
    internal override IReadOnlyList<Vec2> Given => [.. Gap.Select(p => At + p)];
    internal override bool Closed => true;

    internal static NegativeShape Make(SeededRandom random, Vec2 at)
    {
        var all = NegativeGaps.All;
        var (pose, figure, gap) = all[random.Next(all.Count)];
        var mirrored = random.Next(2) == 1;
        Vec2 Turned(Vec2 p) => mirrored ? new(SheetLayout.CellWidth - p.X, p.Y) : p;
        return new(at, pose, [.. figure.Select(o => (IReadOnlyList<Vec2>)[.. o.Select(Turned)])], [.. gap.Select(Turned)]);
    }

    internal static bool IsWorth(IReadOnlyList<Vec2> gap) =>
        gap.Max(p => p.X) - gap.Min(p => p.X) >= LeastAcross
        && gap.Max(p => p.Y) - gap.Min(p => p.Y) >= LeastAcross
        && Polygons.Area(gap) >= LeastArea;

    public override IEnumerable<PrintShape> Print() =>
        [
            .. Figure.Select(o => new PrintPath([.. o.Select(p => At + p)], Closed: true, Line: 0.15)),
            new PrintPath(Given, Closed: true, Line: 0.5),
            .. Corners(Field),
        ];

    internal override IEnumerable<ItemScore> Scores(CurveOver over, IReadOnlyList<InkPlace> ink, double doubt)
    {
        yield return new(Edge, over.Mean, doubt);
        if (Enclosed.Area(Field.Grown(2), ink) is { } area)
            yield return new(Size, 100 * ((area / Polygons.Area(Gap)) - 1), 8);
    }
}

/// <summary>The area that a drawn line closes in.</summary>
internal static class Enclosed
{
    /// <summary>Gaps up to twice this are closed, pixels.</summary>
    private const int Closing = 6;

    /// <summary>Square millimetres to the middle of the line; null where it isn't closed. The line is made broader until small gaps close, what lies
    /// outside is found, and the outside is made broader by as much again.</summary>
    public static double? Area(Area field, IEnumerable<InkPlace> ink)
    {
        var grid = new InkGrid(field, ink);
        int w = grid.Width,
            h = grid.Height;
        var drawn = new float[w * h];
        for (var y = 0; y < h; y++)
        for (var x = 0; x < w; x++)
            drawn[(y * w) + x] = grid[x, y] ? 1 : 0;
        var wall = Extremes.Greatest(drawn, w, h, Closing);
        var outside = Extremes.Greatest(Outside(wall, w, h), w, h, Closing);
        double within = 0,
            line = 0;
        for (var i = 0; i < outside.Length; i++)
            if (outside[i] < 0.5f)
            {
                within++;
                line += drawn[i];
            }
        return within - line < 200 ? null : (within - (line / 2)) / (FlatSheet.PerMm * FlatSheet.PerMm);
    }

    /// <summary>1 where a way leads from the rim without crossing the wall.</summary>
    private static float[] Outside(float[] wall, int w, int h)
    {
        var outside = new float[w * h];
        var open = new Stack<(int X, int Y)>();
        void Take(int x, int y)
        {
            if (x < 0 || y < 0 || x >= w || y >= h || outside[(y * w) + x] > 0 || wall[(y * w) + x] > 0.5f)
                return;
            outside[(y * w) + x] = 1;
            open.Push((x, y));
        }
        for (var x = 0; x < w; x++)
        {
            Take(x, 0);
            Take(x, h - 1);
        }
        for (var y = 0; y < h; y++)
        {
            Take(0, y);
            Take(w - 1, y);
        }
        while (open.TryPop(out var p))
        {
            Take(p.X - 1, p.Y);
            Take(p.X + 1, p.Y);
            Take(p.X, p.Y - 1);
            Take(p.X, p.Y + 1);
        }
        return outside;
    }
}

/// <summary>An ellipse to be drawn on its axes.</summary>
/// <param name="Long">Half of the long axis; <paramref name="Short"/> of the short one.</param>
public sealed record EllipseOnAxes(Vec2 At, double Long, double Short, double Degrees) : PaperItem(At)
{
    [JsonIgnore]
    public override string Asks => "Draw the ellipse on these axes, in one go.";

    private Vec2 Middle => At + new Vec2(27, 27.5);

    internal static EllipseOnAxes Make(SeededRandom random, Vec2 at)
    {
        var half = Math.Round(random.Between(15, 20), 1);
        return new(at, half, Math.Round(half * random.Between(0.35, 0.75), 1), Math.Round(random.Between(-90, 90), 1));
    }

    /// <summary>The ellipse itself in so many places.</summary>
    internal IReadOnlyList<Vec2> Ring(int places = 144)
    {
        Vec2 along = Vec2.Towards(Degrees) * Long,
            across = Vec2.Towards(Degrees + 90) * Short;
        return
        [
            .. Enumerable
                .Range(0, places)
                .Select(n => 2 * Math.PI * n / places)
                .Select(t => Middle + (along * Math.Cos(t)) + (across * Math.Sin(t))),
        ];
    }

    public override IEnumerable<PrintShape> Print()
    {
        foreach (var half in (Vec2[])[Vec2.Towards(Degrees) * Long, Vec2.Towards(Degrees + 90) * Short])
        {
            yield return new PrintPath([Middle - half, Middle + half], Line: PrintPath.Thin, Dashed: true);
            yield return new PrintCircle(Middle - half, 0.4);
            yield return new PrintCircle(Middle + half, 0.4);
        }
    }

    internal override ItemReading Read(ItemInk ink)
    {
        // Inside of half the axes lies only what is printed, and what has nothing to do with the ellipse.
        bool Outer(Vec2 p) => Beside(p) is > 0.35 and < 1.9;
        var (marks, faint) = Erased.Dropped([
            .. ink.Marks(new(At.X + 1, At.Y + 5.2, At.X + 53, At.Y + 49.2), 6, Outer).Where(m => m.Size > 1.2),
        ]);
        if (marks.Sum(m => m.Size) < 8)
            return ItemReading.Nothing;
        var middle = StrokeMiddle.Of(Erased.Strong([.. marks.SelectMany(m => m.Places)]));
        var ring = Ring();
        var off = middle.Select(p => Off(p, ring)).ToList();
        var doubt = (2 * Math.Min(ink.LeftOut, 0.3)) + 0.1;
        const int sectors = 36;
        var met = middle
            .Select(p => (int)((Math.Atan2(p.Y - Middle.Y, p.X - Middle.X) + Math.PI) / (2 * Math.PI) * sectors) % sectors)
            .Distinct()
            .Count();
        return new ItemReading(
            AnswerState.Answered,
            [new("ellipse", off.Average(), doubt), new("ellipse-worst", Samples.Quantile(off, 0.95), doubt)],
            [],
            [.. middle.Where((_, i) => i % 6 == 0).Select(p => new SeenLine([p]))]
        )
            .With(ReadingFlag.FaintSecond, faint)
            .With(ReadingFlag.NotWhole, met < 33)
            .With(ReadingFlag.StrayMarks, Samples.Quantile(off, 0.95) > 6);
    }

    /// <summary>1 on the ellipse, less inside.</summary>
    private double Beside(Vec2 p)
    {
        var e = p - Middle;
        double u = e.Dot(Vec2.Towards(Degrees)) / Long,
            v = e.Dot(Vec2.Towards(Degrees + 90)) / Short;
        return Math.Sqrt((u * u) + (v * v));
    }

    internal static double Off(Vec2 p, IReadOnlyList<Vec2> ring)
    {
        var least = double.MaxValue;
        for (var i = 0; i < ring.Count; i++)
        {
            var (a, step) = (ring[i], ring[(i + 1) % ring.Count] - ring[i]);
            var t = Math.Clamp((p - a).Dot(step) / step.Dot(step), 0, 1);
            least = Math.Min(least, (a + (step * t) - p).Length);
        }
        return least;
    }
}
