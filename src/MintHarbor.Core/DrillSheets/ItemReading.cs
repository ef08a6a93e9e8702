using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

public enum AnswerState
{
    /// <summary>Nothing is drawn.</summary>
    Empty,

    /// <summary>Less than was asked.</summary>
    Partly,
    Answered,

    /// <summary>More than was asked: which is meant nobody can tell.</summary>
    Twice,
}

/// <summary>Why an answer wants a person's eye: nothing is scored then.</summary>
public enum ReadingFlag
{
    /// <summary>The item's print isn't found where it should be.</summary>
    PrintHidden,

    /// <summary>The paper doesn't lie flat there.</summary>
    NotFlat,
    TwoAnswers,
    PartAnswered,
    StrayMarks,

    /// <summary>A second mark so faint that it may be an erased one.</summary>
    FaintSecond,

    /// <summary>The tick's place can't be told to 0.7 mm.</summary>
    TickUnclear,

    /// <summary>The line's direction can't be told to 0.6°.</summary>
    SlantUnclear,
    Short,
    Untidy,
    SidesMissing,
    NotWhole,

    /// <summary>A shadow's edge crosses patches that are compared.</summary>
    ShadowAcross,
    PatchEmpty,
}

/// <summary>One number read off an answer.</summary>
/// <param name="Measure">Id in <see cref="PaperMeasures"/>.</param>
/// <param name="Error">In the measure's unit, signed where it has two directions.</param>
/// <param name="Uncertainty">95 % of readings lie within so much of what was drawn.</param>
public sealed record ItemScore(string Measure, double Error, double Uncertainty)
{
    /// <summary>What of the error is beyond the reading's own doubt: nothing smaller is ever marked.</summary>
    [JsonIgnore]
    public double Marked => Math.Sign(Error) * Math.Max(0, Math.Abs(Error) - Uncertainty);
}

/// <summary>A line that the reader saw, millimetres of the field: drawn over the sheet so that a person sees what it saw.</summary>
public sealed record SeenLine(IReadOnlyList<Vec2> Places, bool Closed = false);

/// <summary>What was read of one item.</summary>
public sealed record ItemReading(
    AnswerState State,
    IReadOnlyList<ItemScore> Scores,
    IReadOnlyList<ReadingFlag> Flags,
    IReadOnlyList<SeenLine> Seen
)
{
    public static ItemReading Nothing { get; } = new(AnswerState.Empty, [], [], []);

    /// <summary>Safe to be scored without a person's eye.</summary>
    [JsonIgnore]
    public bool Counts => State == AnswerState.Answered && Flags.Count == 0;

    /// <summary>A person is to look.</summary>
    [JsonIgnore]
    public bool Asks => Flags.Count > 0;

    internal ItemReading With(ReadingFlag flag, bool when) => when ? this with { Flags = [.. Flags.Append(flag).Distinct()] } : this;

    internal static ItemReading Not(AnswerState state, params IReadOnlyList<ReadingFlag> flags) => new(state, [], flags, []);
}

/// <summary>Something that is measured on paper.</summary>
/// <param name="Plus">A positive error in a word: "clockwise"; empty where errors have no direction.</param>
/// <param name="Means">What its number is, where name and unit don't say it.</param>
public sealed record PaperMeasure(string Id, string Name, string Unit, int Decimals, string Plus = "", string Minus = "", string Means = "")
{
    public bool Signed => Plus != "";

    /// <summary>"1.4 mm right of it", "on it".</summary>
    public string Say(double error)
    {
        var size = Core.Say.Number(Math.Abs(error), Decimals);
        return size == "0" ? "none"
            : !Signed ? size + Unit
            : $"{size}{Unit} {(error > 0 ? Plus : Minus)}";
    }

    public string SayWidth(double width) => Core.Say.Number(width, Decimals) + Unit;
}

public static class PaperMeasures
{
    public static IReadOnlyList<PaperMeasure> All { get; } =
    [
        new("slant", "slant", "°", 1, "clockwise", "anticlockwise"),
        new("half", "halving", " mm", 1, "to the right", "to the left"),
        new("third", "thirds", " mm", 1, "to the right", "to the left"),
        new("carry", "carried length", " mm", 1, "too long", "too short"),
        new("ratio", "ratio", " mm", 1, "too far along", "not far enough", "along the lower line"),
        new("plumb", "plumb", " mm", 1, "to the right", "to the left"),
        new("level", "level", " mm", 1, "too low", "too high"),
        new("width", "envelope's width", " %", 1, "too wide", "too narrow", "over the width that is asked for"),
        new("height", "envelope's height", " %", 1, "too tall", "too low", "over the height that is asked for"),
        new("breaks", "breaks in a stroke", "", 0),
        new("wobble", "wobble", " mm", 2, Means: "root mean square from the straight line through the stroke"),
        new("overrun", "stroke's end", " mm", 1, "beyond the dot", "before the dot"),
        new("tone", "tone", " %", 1, "too light", "too dark", "of the light that bare paper sends back: the patch less the printed tone"),
        new("backsteps", "steps that don't darken", "", 0),
        new("uneven-steps", "unevenness of the steps", " %", 0, Means: "root mean square from even steps, over the whole rise"),
        new("contour", "contour, on the whole", " mm", 2, Means: "mean distance, laid over where it lies best"),
        new("contour-worst", "contour, where it is farthest", " mm", 1, Means: "95 % of the line lie nearer"),
        new("negative", "negative shape, its edge", " mm", 2, Means: "mean distance, laid over where it lies best"),
        new("negative-area", "negative shape, its area", " %", 0, "too large", "too small"),
        new("ellipse", "ellipse, on the whole", " mm", 2, Means: "mean distance from the ellipse on these axes"),
        new("ellipse-worst", "ellipse, where it is farthest", " mm", 1, Means: "95 % of the line lie nearer"),
        new("spacing", "hatch spacing", " mm", 2, "too wide", "too narrow"),
        new("uneven-hatch", "unevenness of the spacing", " %", 0, Means: "standard deviation over the mean spacing"),
        new("hatch-slant", "hatch direction", "°", 1, "clockwise", "anticlockwise"),
        new("converging", "convergence", "°", 1, "too steep: they meet too soon", "too flat: they meet too late"),
    ];

    private static readonly Dictionary<string, PaperMeasure> ById = All.ToDictionary(m => m.Id);

    public static PaperMeasure Get(string id) => ById[id];
}
