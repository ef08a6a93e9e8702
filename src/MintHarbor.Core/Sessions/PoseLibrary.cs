using System.Text.Json.Serialization;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Sessions;

/// <summary>Where a pose is held: getting from one to another takes its time.</summary>
public enum Footing
{
    Feet,

    /// <summary>On, or against, a stool, a bench or a block.</summary>
    Block,
    Floor,
}

/// <summary>A pose as the planner knows it: how hard it is to hold and to draw, and what it is good for.</summary>
public sealed record StudioPose(string Id, string Name, Strain Strain)
{
    public Level Level { get; init; } = Level.Intermediate;
    public IReadOnlyList<string> Purposes { get; init; } = [];
    public IReadOnlyList<string> Parts { get; init; } = [];
    public IReadOnlyList<string> Shows { get; init; } = [];

    public Footing Footing { get; init; }

    /// <summary>Sat on a seat, as somebody sits who is to be drawn for likeness.</summary>
    [JsonIgnore]
    public bool IsSat => Strain == Strain.Seated && Footing == Footing.Block;

    /// <summary>What is hard to draw in it.</summary>
    public string Trouble { get; init; } = "";

    /// <summary>standing, seated, kneeling or reclining.</summary>
    public string Family => Shows.Contains(Kneeling) ? Kneeling : TimingRules.Default.Limit(Strain).Family;

    private const string Kneeling = "kneeling";

    /// <summary>What a term should have shown of the figure, its family first.</summary>
    public IEnumerable<string> Traits => Shows.Where(s => s != Kneeling).Prepend(Family);

    public static StudioPose Of(Pose p) =>
        new(p.Id, p.Name, Strains.Read(p.Strain))
        {
            Level = Enum.Parse<Level>(p.Level, ignoreCase: true),
            Purposes = p.Purposes,
            Parts = p.Parts,
            Shows = p.Shows ?? [],
            Trouble = p.Trouble,
            Footing =
                p.RestsOnBlock ? Footing.Block
                : p.OnFeet ? Footing.Feet
                : Footing.Floor,
        };
}

/// <summary>The studio's poses, as the planner chooses among them.</summary>
public static class PoseLibrary
{
    public static IReadOnlyList<StudioPose> Studio { get; } = [.. FigureCatalogue.Poses.Select(StudioPose.Of)];

    public static IReadOnlyList<string> Parts { get; } = [.. Studio.SelectMany(p => p.Parts).Distinct().Order(StringComparer.Ordinal)];

    /// <summary>Everything that a term should have shown: the four ways of resting on the ground, and what makes a pose teach.</summary>
    public static IReadOnlyList<string> Traits { get; } =
    ["standing", "seated", "kneeling", "reclining", "weight-shift", "twist", "arms-up", "foreshortened", "overlap"];

    private static readonly Dictionary<string, StudioPose> ById = Studio.ToDictionary(p => p.Id);

    public static StudioPose? Find(string? id, PlanRequest? request = null) =>
        id is null ? null : ById.GetValueOrDefault(id) ?? request?.Known.OwnPoses.FirstOrDefault(p => p.Id == id);

    /// <summary>The pose's name; its id where a course has taken a pose of its own away since.</summary>
    public static string Name(string id, PlanRequest? request = null) => Find(id, request)?.Name ?? id;

    /// <summary>How a pose is held, in a word for whoever holds it: its strain's, but nobody who kneels is told that they sit.</summary>
    public static string Held(string id, Strain strain, PlanRequest? request = null) =>
        strain == Strain.Seated && Find(id, request) is { Family: "kneeling" } ? "kneeling" : TimingRules.Default.Limit(strain).Name;

    public static IEnumerable<StudioPose> Of(PlanRequest request) => Studio.Concat(request.Known.OwnPoses);

    public static string Word(string trait) =>
        trait switch
        {
            "weight-shift" => "weight on one leg",
            "arms-up" => "arms raised",
            "foreshortened" => "a foreshortened limb",
            "overlap" => "limbs before limbs",
            "twist" => "a twist",
            _ => trait,
        };
}

/// <summary>What one earlier meeting held, as far as the next one's poses depend on it.</summary>
/// <param name="WeeksAgo">Meetings ago, 1 for the last.</param>
/// <param name="LongPose">The pose of its sittings; null where it had none.</param>
public sealed record PastMeeting(int WeeksAgo, IReadOnlyList<string> Poses, string? LongPose = null)
{
    /// <summary>A meeting by its timetable.</summary>
    public static PastMeeting Of(int weeksAgo, Proposal plan) =>
        new(weeksAgo, [.. plan.Items.SelectMany(i => i.PoseIds).Distinct()], plan.Sitter);
}
