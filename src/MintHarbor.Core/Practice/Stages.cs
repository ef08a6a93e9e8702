using System.Text.Json.Serialization;
using NodaTime;

namespace MintHarbor.Core.Practice;

/// <summary>The three stages of measuring (common practice).</summary>
public enum MeasuringStage
{
    /// <summary>Pencil or plumb line first, then drawn.</summary>
    ByTool,

    /// <summary>Drawn by eye, then measured.</summary>
    ByEyeThenCheck,

    /// <summary>By eye alone.</summary>
    ByEye,
}

/// <summary>Where a piece of evidence comes from.</summary>
public enum EvidenceOf
{
    Drill,
    Paper,
    Sheet,
}

/// <summary>One piece of evidence of a measure: a round, a drill sheet or a drawing.</summary>
/// <param name="Name">What it is, as people call it.</param>
/// <param name="Lean">Mean signed error, in so many times what is asked of a trained eye; <paramref name="Scatter"/> about it.</param>
public sealed record StagePoint(EvidenceOf From, string Name, Instant At, double Lean, double Scatter)
{
    /// <summary>Root mean square of its errors, in so many times what is asked of a trained eye.</summary>
    [JsonIgnore]
    public double Off => Math.Sqrt((Lean * Lean) + (Scatter * Scatter));
}

/// <summary>Why a measure moved.</summary>
/// <param name="Limit">What all of them kept within, or two went beyond.</param>
public sealed record StageEvidence(IReadOnlyList<StagePoint> Points, double Limit);

/// <summary>Something that is measured by eye and has a stage of its own.</summary>
/// <param name="Drills">Kinds of screen drills that train it; <paramref name="Paper"/> measures of drill sheets, each with what is asked of a trained
/// eye, in its unit.</param>
/// <param name="Tool">What measures it by tool.</param>
public sealed record StagedMeasure(
    string Id,
    string Name,
    string Tool,
    IReadOnlyList<string> Drills,
    IReadOnlyDictionary<string, double> Paper
);

/// <summary>Stages of measuring, kept by student and measure, moved on evidence or by an instructor's word.</summary>
public static class Stages
{
    /// <summary>The measures of the trade. What paper asks of a trained eye is our own default.</summary>
    public static IReadOnlyList<StagedMeasure> All { get; } =
    [
        new("angle", "angle", "a pencil held along the edge, then carried to the sheet", ["clock-hand", "tilt"], Asked(("slant", 2))),
        new(
            "ratio",
            "ratio",
            "a pencil at arm's length, the thumb for the unit",
            ["span-against-span", "head-count", "five-marks"],
            Asked(("ratio", 1.2), ("carry", 1))
        ),
        new("halving", "halving", "a strip of paper folded once", ["halve-and-third"], Asked(("half", 0.8), ("third", 0.8))),
        new("plumb", "plumb", "a plumb line, or the pencil let hang", ["plumb"], Asked(("plumb", 1), ("level", 1))),
        new("foreshortening", "foreshortening", "a small pad held square to the eyes", ["foreshortened", "far-share"], Asked()),
        new("value", "value", "a strip of five tones beside it, eyes half shut", [], Asked(("tone", 6))),
        new(
            "line",
            "line",
            "two dots, and the stroke gone over in the air first",
            ["single-strokes", "ellipse", "line-of-action"],
            Asked(("wobble", 0.4), ("overrun", 1.5), ("ellipse", 1.2))
        ),
    ];

    private static Dictionary<string, double> Asked(params (string Measure, double Asked)[] paper) => paper.ToDictionary(p => p.Measure, p => p.Asked);

    public static StagedMeasure? Find(string? id) => All.FirstOrDefault(m => m.Id == id);

    /// <exception cref="InputException">No such measure.</exception>
    public static StagedMeasure Get(string? id) =>
        Find(id) ?? throw new InputException($"unknown measure '{id}'", "measure", string.Join(" | ", All.Select(m => m.Id)));

    public static string Name(MeasuringStage stage) =>
        stage switch
        {
            MeasuringStage.ByTool => "by tool",
            MeasuringStage.ByEyeThenCheck => "by eye, then check",
            _ => "by eye",
        };

    /// <summary>How one measures in it.</summary>
    public static string How(StagedMeasure measure, MeasuringStage stage) =>
        stage switch
        {
            MeasuringStage.ByTool => $"Measure first, with {measure.Tool}; then draw.",
            MeasuringStage.ByEyeThenCheck => $"Draw by eye; then check with {measure.Tool}.",
            _ => "By eye alone; the tool only where you doubt.",
        };

    /// <summary>Pieces of evidence that have to agree on a move up, and on one down. Our own defaults, as the limits are.</summary>
    public const int Upwards = 3,
        Downwards = 2;

    /// <summary>What the newest have to keep within to leave a stage, in so many times what is asked of a trained eye.</summary>
    private static double Leaves(MeasuringStage stage) => stage == MeasuringStage.ByTool ? 2.5 : 1.25;

    /// <summary>What two have to go beyond to fall back from a stage: well beyond what it is entered with, so that nobody goes to and fro.</summary>
    private static double FallsFrom(MeasuringStage stage) => 1.6 * Leaves(stage - 1);

    /// <summary>The next move that evidence asks for; null where none. One step at a time; by eye alone only where a sheet or paper is among the evidence,
    /// for a screen trains the eye and not the hand.</summary>
    /// <param name="since">Evidence since the last move, in any order.</param>
    public static (MeasuringStage To, StageEvidence Why)? Moves(MeasuringStage stage, IEnumerable<StagePoint> since)
    {
        var newest = since.OrderByDescending(p => p.At).ToList();
        if (stage < MeasuringStage.ByEye && newest.Count >= Upwards)
        {
            var three = newest.Take(Upwards).ToList();
            var limit = Leaves(stage);
            var proved = stage == MeasuringStage.ByTool || newest.Take(Upwards + 2).Any(p => p.From != EvidenceOf.Drill && p.Off <= limit);
            if (proved && three.All(p => p.Off <= limit))
                return (stage + 1, new(three, limit));
        }
        if (stage > MeasuringStage.ByTool && newest.Count >= Downwards)
        {
            var two = newest.Take(Downwards).ToList();
            if (two.All(p => p.Off > FallsFrom(stage)))
                return (stage - 1, new(two, FallsFrom(stage)));
        }
        return null;
    }

    /// <summary>A round as evidence of the measure that its drill trains; null for a drill that trains none.</summary>
    public static (string Measure, StagePoint Point)? Of(Drill drill, double? bias, double? spread, double hardest, Instant at) =>
        All.FirstOrDefault(m => m.Drills.Contains(drill.Kind)) is { } measure
            ? (measure.Id, new(EvidenceOf.Drill, drill.Name, at, (bias ?? 0) / hardest, (spread ?? 0) / hardest))
            : null;
}
