using System.Text.Json.Serialization;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Measuring;
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
        new(
            "foreshortening",
            "foreshortening",
            "a small pad held square to the eyes",
            ["foreshortened", "far-share", "convergence", "ellipse-open"],
            Asked()
        ),
        new("value", "value", "a strip of five tones beside it, eyes half shut", ["value-match", "value-steps"], Asked(("tone", 6))),
        new(
            "line",
            "line",
            "two dots, and the stroke gone over in the air first",
            ["single-strokes", "ellipse", "line-of-action"],
            Asked(("wobble", 0.4), ("overrun", 1.5), ("ellipse", 1.2))
        ),
    ];

    private static Dictionary<string, double> Asked(params (string Measure, double Asked)[] paper) =>
        paper.ToDictionary(p => p.Measure, p => p.Asked);

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
    /// <param name="hardest">What the drill asks for at its hardest.</param>
    public static (string Measure, StagePoint Point)? Of(Drill drill, double? bias, double? spread, double hardest, Instant at) =>
        Trained(drill.Kind) is { } measure
            ? (measure.Id, new(EvidenceOf.Drill, drill.Name, at, (bias ?? 0) / hardest, (spread ?? 0) / hardest))
            : null;

    /// <summary>The measure that a drill trains.</summary>
    public static StagedMeasure? Trained(string? drill) => All.FirstOrDefault(m => m.Drills.Contains(drill));

    /// <summary>A drill sheet as evidence of each measure that stands on it: of several kinds of item their root mean square.</summary>
    public static IEnumerable<(string Measure, StagePoint Point)> Of(string name, IEnumerable<ItemScore> scores, Instant at)
    {
        var summed = PaperSummary.Of(scores).ToDictionary(s => s.Measure.Id);
        foreach (var measure in All)
        {
            var own = measure.Paper.Where(p => summed.ContainsKey(p.Key)).Select(p => (Sum: summed[p.Key], Asked: p.Value)).ToList();
            if (own.Count == 0)
                continue;
            yield return (
                measure.Id,
                new(
                    EvidenceOf.Paper,
                    name,
                    at,
                    own.Average(o => o.Sum.Lean / o.Asked),
                    Math.Sqrt(own.Average(o => Math.Pow((o.Sum.Scatter ?? 0) / o.Asked, 2)))
                )
            );
        }
    }

    /// <summary>A critiqued drawing as evidence: each measure's deviations in so many times its tolerance.</summary>
    public static IEnumerable<(string Measure, StagePoint Point)> Of(string name, IEnumerable<Finding> findings, Instant at) =>
        from f in findings
        where f is { Off: not null, Tolerance: > 0, Judgeable: true }
        let measure = OnSheet(f)
        where measure is not null
        group f.Off!.Value / f.Tolerance!.Value by measure into own
        let lean = own.Average()
        select (own.Key, new StagePoint(EvidenceOf.Sheet, name, at, lean, Math.Sqrt(own.Average(v => (v - lean) * (v - lean)))));

    private static string? OnSheet(Finding f) =>
        f.Rule == Rules.Mid ? "halving"
        : f.Measure.Kind == MeasureKind.Angle ? "angle"
        : f.Measure.Kind == MeasureKind.Ratio ? "ratio"
        : f.Measure.Kind == MeasureKind.Offset ? "plumb"
        : null;
}

/// <summary>Whether a measure got better on the next drawing after it was drilled.</summary>
/// <param name="Before">The drawing that the drill was prescribed for; <paramref name="After"/> the first one after it was done.</param>
public sealed record Transfer(StagedMeasure Measure, StagePoint Before, StagePoint After)
{
    /// <summary>A difference smaller than this share of the larger is none: one drawing is not another. Our own default.</summary>
    private const double Told = 0.2;

    public Trend Trend =>
        Math.Abs(Before.Off - After.Off) <= Told * Math.Max(Before.Off, After.Off) ? Trend.Stayed
        : After.Off < Before.Off ? Trend.Fell
        : Trend.Rose;

    /// <param name="done">When the drill was done.</param>
    /// <param name="points">Evidence of the measure it trains.</param>
    /// <param name="before">The drawing's own, by its name.</param>
    /// <returns>Null where there is no drawing yet to tell by.</returns>
    public static Transfer? Of(StagedMeasure measure, string before, Instant done, IEnumerable<StagePoint> points)
    {
        var sheets = points.Where(p => p.From == EvidenceOf.Sheet).OrderBy(p => p.At).ToList();
        return
            sheets.FirstOrDefault(p => p.Name == before) is { } was
            && sheets.FirstOrDefault(p => p.At > done && p.Name != before) is { } now
            ? new(measure, was, now)
            : null;
    }

    /// <summary>"Angle: on the next sheet from 1.8 to 1.1 times what is asked".</summary>
    public string Says =>
        $"{Measure.Name} on the next sheet, {After.Name}: from {Say.Number(Before.Off, 1)} to *{Say.Number(After.Off, 1)}* times its tolerance, "
        + Trend switch
        {
            Trend.Fell => "better",
            Trend.Rose => "worse",
            _ => "as it was",
        };
}
