using System.Text.Json.Serialization;
using MintHarbor.Core.DrillSheets;

namespace MintHarbor.Core.Hands;

/// <summary>One number read off a drawing.</summary>
/// <param name="Measure">Id in <see cref="HandMeasures"/>.</param>
/// <param name="Doubt">95 % of hands that meant the same would read within so much.</param>
/// <param name="Holds">Whether it is as asked; null where nothing is asked of it.</param>
public sealed record HandFact(string Measure, double Value, double Doubt = 0, bool? Holds = null);

/// <summary>What was read of one drawing.</summary>
/// <param name="Error">The one number that the drill goes by, in its unit.</param>
/// <param name="Holds">Whether all that the drill asks for holds. What the hand or device may have done alone is never marked.</param>
/// <param name="Over">The true lines, laid over the drawing; none where likeness is not asked for.</param>
public sealed record HandReading(double Error, double Doubt, bool Holds, IReadOnlyList<HandFact> Facts, IReadOnlyList<SeenLine> Over);

/// <summary>What is measured of a hand.</summary>
public static class HandMeasures
{
    public const string Pace = "pace",
        Raced = "raced",
        Lifts = "lifts",
        Glances = "glances",
        Covered = "covered",
        Off = "off",
        Worst = "off-worst",
        Proportion = "proportion",
        Stroke = "stroke",
        Wobble = "wobble",
        Begins = "begins",
        Ends = "ends",
        Speed = "speed",
        Missed = "missed",
        Size = "size",
        Part = "part",
        Ring = "ring",
        RingWorst = "ring-worst",
        Gap = "gap",
        Tilt = "tilt",
        Aside = "aside";

    private const string Nominal = "a browser's millimetre, 96 pixels an inch: on a small screen truly less";

    public static IReadOnlyList<PaperMeasure> All { get; } =
    [
        new(Pace, "pace", " mm a second", 1, Means: "length over the time the point was down; " + Nominal),
        new(Raced, "raced", " %", 0, Means: "of the line was drawn at more than twice its own middle pace"),
        new(Lifts, "lifts", "", 0),
        new(Glances, "glances", "", 0),
        new(
            Covered,
            "the edge followed",
            " %",
            0,
            Means: "length of the line against the figure's outline, both at the size drawn; above 100 % inner forms too"
        ),
        new(Off, "on the whole", " % of the height", 1, Means: "mean distance, laid over where it lies best"),
        new(Worst, "where it is farthest", " % of the height", 1, Means: "95 % of it lie nearer"),
        new(Proportion, "breadth for its height", " %", 0, "too wide", "too narrow"),
        new(Stroke, "from the straight line", " mm", 1, Means: "at its farthest, walked along both from end to end; " + Nominal),
        new(Wobble, "wobble", " mm", 2, Means: "root mean square from the straight line through the stroke"),
        new(Begins, "begins", " mm", 1, "before the dot", "after the dot"),
        new(Ends, "ends", " mm", 1, "beyond the dot", "short of the dot"),
        new(Speed, "speed", " mm a second", 0, Means: "length over the time the point was down; " + Nominal),
        new(Missed, "not shared", " %", 0, Means: "of what the drawn shape and the true one cover together, only one covers"),
        new(Size, "area", " %", 0, "too large", "too small"),
        new(Part, "part", " % of the line", 1, "too far from the dot", "too near the dot"),
        new(Ring, "from the ellipse", " mm", 1, Means: "on the whole"),
        new(RingWorst, "from the ellipse", " mm", 1, Means: "where it is farthest; 95 % of it lie nearer"),
        new(Gap, "where it closes", " mm", 1, Means: "between beginning and end"),
        new(Tilt, "pen's tilt", "°", 0, Means: "from upright; a flat pen draws with its side"),
        new(Aside, "middle", " mm", 1, Means: "how far the middle lies aside; " + Nominal),
        new(PressureScale.BackSteps, "steps that don't darken", "", 0),
        new(PressureScale.UnevenSteps, "unevenness of the steps", " %", 0, Means: "root mean square from even steps, over the whole rise"),
        .. FiveMarks.Levels.Select(l => new PaperMeasure(l.Id, l.Name, " % of the head", 1, "too low", "too high")),
    ];

    private static readonly Dictionary<string, PaperMeasure> ById = All.ToDictionary(m => m.Id);

    /// <exception cref="KeyNotFoundException">No such measure.</exception>
    public static PaperMeasure Get(string id) => ById[id];
}

/// <summary>A line of what is given, in a picture's units.</summary>
public enum GivenStyle
{
    Line,

    /// <summary>What the drawing is about.</summary>
    Bold,
    Faint,
    Dashed,

    /// <summary>A place.</summary>
    Dot,
}

public sealed record GivenLine(GivenStyle Style, IReadOnlyList<Geometry.Vec2> Places, bool Closed = false);

/// <summary>What a hand is asked to draw, apart from the view it is drawn from.</summary>
/// <param name="Field">Breadth and height of the field that is drawn in.</param>
/// <param name="Given">What stands in the field.</param>
/// <param name="Beside">What stands in a picture of its own beside the field; null where a view does, or nothing.</param>
/// <param name="Truth">What a perfect hand would draw, in the field; empty where the view says it.</param>
public sealed record HandTask(
    Geometry.Vec2 Field,
    IReadOnlyList<GivenLine> Given,
    IReadOnlyList<GivenLine>? Beside,
    IReadOnlyList<SeenLine> Truth
)
{
    /// <summary>Parts that a line is divided in.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int Parts { get; init; }
}
