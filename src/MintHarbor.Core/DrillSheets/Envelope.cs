using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>A shape, and the smallest upright rectangle round it to be drawn beside, as large.</summary>
/// <param name="Shape">Closed, measured from the cell's corner.</param>
public sealed record Envelope(Vec2 At, IReadOnlyList<Vec2> Shape) : PaperItem(At)
{
    public const string Wider = "width",
        Taller = "height";
    private const int LeastRun = 16;

    [JsonIgnore]
    public override bool Wide => true;

    [JsonIgnore]
    public override string Asks => "Draw the smallest upright rectangle round this shape, as large, in the field.";

    [JsonIgnore]
    internal Area Field => new(At.X + 56, At.Y + 7, At.X + 106, At.Y + 48);
    internal override Area Anchors => new(Field.Left - 1.6, Field.Top - 1.6, Field.Right + 1.6, Field.Foot + 1.2);

    /// <summary>Width and height of the rectangle that is asked for.</summary>
    [JsonIgnore]
    public Vec2 True => new(Shape.Max(p => p.X) - Shape.Min(p => p.X), Shape.Max(p => p.Y) - Shape.Min(p => p.Y));

    internal static Envelope Make(SeededRandom random, Vec2 at)
    {
        const int corners = 9;
        double w = random.Between(14, 36),
            h = random.Between(14, 34);
        List<Vec2> raw =
        [
            .. Enumerable
                .Range(0, corners)
                .Select(i => Vec2.Towards((360.0 * i / corners) + random.Between(-12, 12)) * random.Between(0.6, 1)),
        ];
        var (left, top) = (raw.Min(p => p.X), raw.Min(p => p.Y));
        var (across, down) = (raw.Max(p => p.X) - left, raw.Max(p => p.Y) - top);
        Vec2 Scaled(Vec2 p) =>
            new(Math.Round(27 + ((((p.X - left) / across) - 0.5) * w), 2), Math.Round(28 + ((((p.Y - top) / down) - 0.5) * h), 2));
        return new(at, [.. raw.Select(Scaled)]);
    }

    public override IEnumerable<PrintShape> Print() => [new PrintPath([.. Shape.Select(p => At + p)], Closed: true), .. Corners(Field)];

    /// <summary>Width and height between four sides, each taken half way along the others.</summary>
    internal static Vec2 Size(StrokeFit left, StrokeFit right, StrokeFit top, StrokeFit foot)
    {
        double y = (top.Through.Y + foot.Through.Y) / 2,
            x = (left.Through.X + right.Through.X) / 2;
        double X(StrokeFit f) => f.Through.X + ((y - f.Through.Y) * f.Along.X / f.Along.Y);
        double Y(StrokeFit f) => f.Through.Y + ((x - f.Through.X) * f.Along.Y / f.Along.X);
        return new(X(right) - X(left), Y(foot) - Y(top));
    }

    internal override ItemReading Read(ItemInk ink)
    {
        var (marks, faint) = Erased.Dropped([
            .. ink.Marks(new(Field.Left - 1, Field.Top - 1, Field.Right + 1.2, Field.Foot + 1)).Where(m => m.Size > 1),
        ]);
        var places = Erased.Strong([.. marks.SelectMany(m => m.Places)], 0.3);
        if (places.Count < 120 || marks.Max(m => m.Size) < 6)
            return ItemReading.Nothing;
        var (upright, level) = Sides(places);
        var stray = upright.Count > 2 || level.Count > 2;
        if (stray)
        {
            (upright, level) = (Long(upright), Long(level));
            if (upright.Count > 2 || level.Count > 2)
                return ItemReading.Not(AnswerState.Twice, ReadingFlag.TwoAnswers);
        }
        if (upright.Count < 2 || level.Count < 2)
            return ItemReading.Not(AnswerState.Partly, ReadingFlag.SidesMissing);
        var size = Size(upright[0], upright[1], level[0], level[1]);
        List<StrokeFit> all = [.. upright, .. level];
        var doubt =
            2
            * Math.Sqrt((ink.LeftOut * ink.LeftOut) + all.Max(f => Math.Pow(Math.Max(0, f.Scatter - 0.12), 2) / Math.Max(1, f.Length / 8)));
        return new ItemReading(
            AnswerState.Answered,
            [
                new(Wider, 100 * ((size.X / True.X) - 1), 100 * doubt / True.X),
                new(Taller, 100 * ((size.Y / True.Y) - 1), 100 * doubt / True.Y),
            ],
            [],
            [.. all.Select(f => f.Seen)]
        )
            .With(ReadingFlag.FaintSecond, faint)
            .With(ReadingFlag.StrayMarks, stray)
            .With(ReadingFlag.Untidy, all.Any(f => f.Scatter > 0.7))
            .With(ReadingFlag.SidesMissing, upright.Any(f => f.Length < 0.45 * size.Y) || level.Any(f => f.Length < 0.45 * size.X));
    }

    private static List<StrokeFit> Long(List<StrokeFit> fits) => [.. fits.Where(f => f.Length > 0.4 * fits.Max(o => o.Length))];

    /// <summary>Ink that runs farther up and down than across is an upright side's, and the other way round.</summary>
    private (List<StrokeFit> Upright, List<StrokeFit> Level) Sides(IReadOnlyList<InkPlace> places)
    {
        var grid = new InkGrid(Field.Grown(2.5), places);
        var (upright, level) = (new List<InkPlace>(), new List<InkPlace>());
        foreach (var p in places)
        {
            var (down, across) = (grid.Run(p.At, 0, 1), grid.Run(p.At, 1, 0));
            if (down > 1.8 * across && down > LeastRun)
                upright.Add(p);
            else if (across > 1.8 * down && across > LeastRun)
                level.Add(p);
        }
        return (Groups(upright, p => p.X), Groups(level, p => p.Y));
    }

    private static List<StrokeFit> Groups(List<InkPlace> places, Func<Vec2, double> by)
    {
        var fits = new List<StrokeFit>();
        List<InkPlace> sorted = [.. places.OrderBy(p => by(p.At))];
        for (var i = 0; i < sorted.Count; )
        {
            var j = i + 1;
            while (j < sorted.Count && by(sorted[j].At) - by(sorted[j - 1].At) < 0.9)
                j++;
            if (j - i >= 40 && StrokeFit.Of(sorted[i..j]) is { Length: >= 6 } fit)
                fits.Add(fit);
            i = j;
        }
        return fits;
    }
}

/// <summary>Ink as filled pixels of a small grid.</summary>
internal sealed class InkGrid
{
    private readonly Area area;
    private readonly bool[] filled;

    public InkGrid(Area area, IEnumerable<InkPlace> places)
    {
        this.area = area;
        (Width, Height) = ((int)((area.Right - area.Left) * FlatSheet.PerMm) + 1, (int)((area.Foot - area.Top) * FlatSheet.PerMm) + 1);
        filled = new bool[Width * Height];
        foreach (var p in places)
            if (Pixel(p.At) is var (x, y) && x >= 0 && y >= 0 && x < Width && y < Height)
                filled[(y * Width) + x] = true;
    }

    public int Width { get; }
    public int Height { get; }

    public bool this[int x, int y] => x >= 0 && y >= 0 && x < Width && y < Height && filled[(y * Width) + x];

    private (int X, int Y) Pixel(Vec2 p) => ((int)((p.X - area.Left) * FlatSheet.PerMm), (int)((p.Y - area.Top) * FlatSheet.PerMm));

    /// <summary>So many pixels of ink lie in a row through a place, a pixel beside taken too, gaps of three allowed.</summary>
    public int Run(Vec2 at, int dx, int dy)
    {
        var (x0, y0) = Pixel(at);
        var run = 1;
        foreach (var way in (int[])[-1, 1])
        {
            var (x, y, gap) = (x0, y0, 0);
            while (gap <= 3)
            {
                x += way * dx;
                y += way * dy;
                if (x < 1 || y < 1 || x >= Width - 1 || y >= Height - 1)
                    break;
                if (this[x, y] || this[x + dy, y + dx] || this[x - dy, y - dx])
                {
                    run++;
                    gap = 0;
                }
                else
                    gap++;
            }
        }
        return run;
    }
}
