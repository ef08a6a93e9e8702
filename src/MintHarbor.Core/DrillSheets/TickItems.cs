using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>An item that is answered by ticks on a straight line.</summary>
public abstract record TickItem(Vec2 At) : PaperItem(At)
{
    /// <summary>The line that ticks are made on, from its beginning.</summary>
    protected abstract (Vec2 From, Vec2 To) Line { get; }

    /// <summary>Where ticks belong, millimetres from the line's beginning.</summary>
    [JsonIgnore]
    internal abstract IReadOnlyList<double> Targets { get; }

    [JsonIgnore]
    internal abstract string Measured { get; }

    internal TickAxis Axis() => new([Line.From, Line.To]);

    internal override ItemReading Read(ItemInk ink) =>
        TickReading.Of(ink, this, Axis(), Targets.Count, ticks =>
            ticks.Zip(Targets.Order(), (t, at) => new ItemScore(Measured, t.Along - at, t.Doubt))
        );
}

/// <summary>A line that is halved, or parted in three.</summary>
/// <param name="Parts">2 or 3.</param>
public sealed record Parting(Vec2 At, int Parts, double Degrees, double Length) : TickItem(At)
{
    [JsonIgnore]
    public override string Asks => Parts == 2 ? "Halve the line: one tick." : "Divide in three: two ticks.";

    protected override (Vec2 From, Vec2 To) Line =>
        At + new Vec2(27, 27.5) is var middle && Vec2.Towards(Degrees) * (Length / 2) is var half
            ? (middle - half, middle + half)
            : default;

    internal override IReadOnlyList<double> Targets => [.. Enumerable.Range(1, Parts - 1).Select(n => n * Length / Parts)];
    internal override string Measured => Parts == 2 ? "half" : "third";

    internal static Parting Make(SeededRandom random, Vec2 at, int parts) =>
        new(at, parts, Math.Round(random.Between(-35, 35), 1), Math.Round(random.Between(34, 42), 1));

    public override IEnumerable<PrintShape> Print() => Bar(Line.From, Line.To);
}

/// <summary>A length that is carried to a dashed line.</summary>
/// <param name="Slant">Of the given length; <paramref name="Rise"/> of the dashed line, degrees up.</param>
public sealed record Carry(Vec2 At, double Length, double Slant, double Rise) : TickItem(At)
{
    private const double Ray = 34;

    [JsonIgnore]
    public override string Asks => "Same length on the dashes: tick.";

    protected override (Vec2 From, Vec2 To) Line =>
        At + new Vec2(22, 43) is var from ? (from, from + (Vec2.Towards(-Rise) * Ray)) : default;
    internal override IReadOnlyList<double> Targets => [Length];
    internal override string Measured => "carry";

    internal static Carry Make(SeededRandom random, Vec2 at) =>
        new(at, Math.Round(random.Between(14, 24), 1), Math.Round(90 + random.Between(-35, 35), 1), Math.Round(random.Between(35, 70), 1));

    public override IEnumerable<PrintShape> Print()
    {
        var (middle, half) = (At + new Vec2(11, 28), Vec2.Towards(Slant) * (Length / 2));
        return
        [
            .. Bar(middle - half, middle + half),
            new PrintPath([Line.From, Line.To], Line: PrintPath.Thin, Dashed: true),
            new PrintCircle(Line.From, 0.7),
        ];
    }
}

/// <summary>A line that is to be divided as another is, both from the end with the dot.</summary>
/// <param name="Share">Of the first line, from its dot.</param>
public sealed record Ratio(Vec2 At, double First, double FirstSlant, double Share, double Second, double SecondSlant) : TickItem(At)
{
    [JsonIgnore]
    public override string Asks => "Divide the lower line as the upper is: one tick.";

    protected override (Vec2 From, Vec2 To) Line =>
        At + new Vec2(27, 33.5) is var middle && Vec2.Towards(SecondSlant) * (Second / 2) is var half
            ? (middle - half, middle + half)
            : default;

    internal override IReadOnlyList<double> Targets => [Share * Second];
    internal override string Measured => "ratio";

    internal static Ratio Make(SeededRandom random, Vec2 at) =>
        new(
            at,
            Math.Round(random.Between(24, 42), 1),
            Math.Round(random.Between(-3, 6), 1),
            Math.Round(random.Between(0.2, 0.8), 3),
            Math.Round(random.Between(30, 42), 1),
            Math.Round(random.Between(-22, 22), 1)
        );

    public override IEnumerable<PrintShape> Print()
    {
        var (from, along) = (At + new Vec2(5, 13), Vec2.Towards(FirstSlant) * First);
        return
        [
            .. Bar(from, from + along),
            Stop(from + (along * Share), along, 2),
            new PrintCircle(from, 0.8),
            .. Bar(Line.From, Line.To),
            new PrintCircle(Line.From, 0.8),
        ];
    }
}

/// <summary>Two points, and a level line on which it is said what stands under them.</summary>
/// <param name="Points">Measured from the cell's corner.</param>
public sealed record PlumbPoints(Vec2 At, IReadOnlyList<Vec2> Points) : TickItem(At)
{
    private const double Margin = 4,
        Level = 40;

    [JsonIgnore]
    public override string Asks => "Tick the line under each point.";

    protected override (Vec2 From, Vec2 To) Line => (At + new Vec2(Margin, Level), At + new Vec2(SheetLayout.CellWidth - Margin, Level));
    internal override IReadOnlyList<double> Targets => [.. Points.Select(p => p.X - Margin)];
    internal override string Measured => "plumb";

    internal static PlumbPoints Make(SeededRandom random, Vec2 at) =>
        new(
            at,
            [
                new(Math.Round(random.Between(8, 21), 1), Math.Round(random.Between(10, 20), 1)),
                new(Math.Round(random.Between(32, 46), 1), Math.Round(random.Between(10, 20), 1)),
            ]
        );

    public override IEnumerable<PrintShape> Print() =>
        [.. Points.Select(p => new PrintCircle(At + p, 0.7)), new PrintPath([Line.From, Line.To])];
}

/// <summary>Two points, and a bent edge on which it is said what stands level with them.</summary>
/// <param name="Points">Measured from the cell's corner.</param>
/// <param name="Edge">From above; never turning back up.</param>
public sealed record CrossLevel(Vec2 At, IReadOnlyList<Vec2> Points, IReadOnlyList<Vec2> Edge) : PaperItem(At)
{
    public const string Measure = "level";

    [JsonIgnore]
    public override string Asks => "Tick the edge level with each point.";

    internal TickAxis Axis() => new([.. Edge.Select(p => At + p)]);

    internal static CrossLevel Make(SeededRandom random, Vec2 at)
    {
        double first = random.Between(13, 24),
            bend = random.Between(2, 4.5),
            phase = random.Between(0, 2 * Math.PI),
            lean = random.Between(-0.15, 0.15);
        Vec2 Place(int n) =>
            new(Math.Round(38 + (lean * ((1.9 * n) - 19)) + (bend * Math.Sin(phase + (n * 0.32))), 2), Math.Round(9 + (1.9 * n), 2));
        return new(
            at,
            [
                new(Math.Round(random.Between(6, 16), 1), Math.Round(first, 1)),
                new(Math.Round(random.Between(6, 16), 1), Math.Round(first + random.Between(9, 17), 1)),
            ],
            [.. Enumerable.Range(0, 21).Select(Place)]
        );
    }

    public override IEnumerable<PrintShape> Print() =>
        [.. Points.Select(p => new PrintCircle(At + p, 0.7)), new PrintPath([.. Edge.Select(p => At + p)])];

    internal override ItemReading Read(ItemInk ink)
    {
        var axis = Axis();
        var levels = Points.Select(p => At.Y + p.Y).Order();
        return TickReading.Of(ink, this, axis, Points.Count, ticks =>
            ticks.Zip(levels, (t, y) => new ItemScore(Measure, axis.At(t.Along).Y - y, t.Doubt))
        );
    }
}
