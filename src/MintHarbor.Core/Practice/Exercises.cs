using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Practice;

/// <summary>One exercise of the catalogue, as data.</summary>
/// <param name="Id">Stable id, used in plans and in JSON.</param>
/// <param name="MinMinutes">Shortest length of one pose or period, in minutes.</param>
/// <param name="MaxMinutes">Longest length of one pose or period, in minutes.</param>
/// <param name="Look">Share of the time, in per cent, spent looking at the subject rather than at the paper.</param>
/// <param name="Findings">Ids of the rules this exercise may be judged by; "all" opens every rule.</param>
/// <param name="Sheets">"each-pose": one sheet a pose; "one-a-pose": periods of one pose share a sheet; "twelve-a-sheet": up to twelve share one.</param>
/// <param name="AllowsPush">Whether exaggeration in the pose's own direction reads as pushed rather than wrong.</param>
/// <param name="NeedsSubject">False for exercises drawn without a model or object in view.</param>
/// <param name="Source">Where the entry comes from.</param>
public sealed record Exercise(
    string Id,
    string Name,
    double MinMinutes,
    double MaxMinutes,
    int Look,
    string StartFrom,
    IReadOnlyList<string> Steps,
    string Rule,
    IReadOnlyList<string> Findings,
    IReadOnlyList<string> Inspected,
    IReadOnlyList<string> UsualFaults,
    string Wall,
    string Student,
    string Paper,
    string Sheets,
    IReadOnlyList<string> Kit,
    bool AllowsPush,
    bool NeedsSubject,
    string Source
)
{
    /// <summary>Whether a finding of this rule may be raised on a drawing made in this exercise.</summary>
    public bool Allows(Rule rule) =>
        Findings.Contains("all") || Findings.Contains(rule.Family == Measuring.Family.Anatomy ? "anatomy" : (rule.AllowedAs ?? rule).Id);

    /// <summary>A sheet of it holds one drawing: its size on the page says something.</summary>
    public bool IsOneDrawing => Sheets is "each-pose" or "one-a-pose" && NeedsSubject;

    /// <summary>Whether it is about values: tone is among what it is judged by, by name.</summary>
    public bool AsksValues => Findings.Contains("tone");

    /// <summary>Whether its sheet is read for landmarks: some rule of the figure is open in it.</summary>
    public bool ReadsMarks => Findings.Any(f => f == "all" || f.StartsWith("F-", StringComparison.Ordinal));

    public string MinutesText =>
        MinMinutes == MaxMinutes ? Say.Minutes(MinMinutes)
        : MinMinutes >= 120 ? $"{Say.Number(MinMinutes / 60)}–{Say.Number(MaxMinutes / 60)} h"
        : $"{Say.Number(MinMinutes, 1)}–{Say.Number(MaxMinutes, 1)} min";
}

/// <summary>The exercise catalogue.</summary>
public static class Exercises
{
    /// <summary>The same pose or head again, without it.</summary>
    public const string WithoutReference = "without-reference";

    public static IReadOnlyList<Exercise> All { get; } = CoreData.Read<List<Exercise>>("exercises");

    private static readonly Dictionary<string, Exercise> ById = All.ToDictionary(e => e.Id);

    public static Exercise? Find(string? id) => id is null ? null : ById.GetValueOrDefault(id);

    /// <summary>The exercise of that id; <see cref="InputException"/> naming the accepted ids otherwise.</summary>
    public static Exercise Get(string id, string field = "exercise") =>
        Find(id) ?? throw new InputException($"unknown exercise '{id}'", field, string.Join(" | ", All.Select(e => e.Id)));
}
