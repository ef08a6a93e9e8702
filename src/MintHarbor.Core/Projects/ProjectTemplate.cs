using System.Text.Json.Serialization;

namespace MintHarbor.Core.Projects;

/// <summary>The three stages of measuring: by tool, then draw; by eye, then check by tool; by eye alone.</summary>
public enum MeasuringBy
{
    Tool,
    EyeThenTool,
    Eye,
}

/// <summary>What a project is drawn from.</summary>
public enum ReferenceKind
{
    Life,
    Mirror,
    Object,
    Sculpture,
    Moving,
    Video,
    Photo,
    Memory,
    Imagination,
}

/// <summary>A stage of a project.</summary>
/// <param name="Share">Per cent of the project's time.</param>
/// <param name="About">What is done in it.</param>
/// <param name="Gate">Points of the checklist that opens it; empty where it has none.</param>
/// <param name="Measured">Rules whose report opens it; null where no measures do.</param>
public sealed record StageTemplate(
    string Id,
    string Name,
    int Share,
    string About,
    IReadOnlyList<string> Gate,
    IReadOnlyList<string>? Measured = null
)
{
    /// <summary>The instructor's word opens it.</summary>
    public bool Word { get; init; }

    /// <summary>Whether one of checklist, measures and word is enough, or all of them are wanted.</summary>
    public GateMix Mix { get; init; }

    /// <summary>What is handed in at its end; empty where nothing is.</summary>
    public string HandIn { get; init; } = "";

    /// <summary>What is inspected on what is handed in.</summary>
    public IReadOnlyList<string> Inspects { get; init; } = [];

    /// <summary>Minutes below which the stage makes no sense; 0 where any will do.</summary>
    public int LeastMinutes { get; init; }

    /// <summary>How is measured in it; null where nothing is.</summary>
    public MeasuringBy? By { get; init; }

    /// <summary>Exercises of the catalogue that belong to it.</summary>
    public IReadOnlyList<string> Exercises { get; init; } = [];

    /// <summary>Drills that belong to it.</summary>
    public IReadOnlyList<string> Drills { get; init; } = [];

    /// <summary>The same, one at least: a stage of no minute is none.</summary>
    [JsonIgnore]
    public int Least => Math.Max(1, LeastMinutes);

    [JsonIgnore]
    public bool HasGate => Gate.Count > 0 || Measured is not null || Word;
}

/// <summary>A graded project as it is planned: stages, gates and rubric. What is opened from it keeps a copy.</summary>
/// <param name="Subject">"head" or "figure": what a measured gate reads; null where nothing of it is measured.</param>
public sealed record ProjectTemplate(
    string Id,
    string Name,
    string About,
    IReadOnlyList<StageTemplate> Stages,
    IReadOnlyList<RubricRow> Rubric,
    string? Subject = null
)
{
    /// <summary>A medium of the materials' list; null leaves it to the course.</summary>
    public string? Medium { get; init; }

    /// <summary>Materials beside what the medium brings.</summary>
    public IReadOnlyList<string> Kit { get; init; } = [];
    public ReferenceKind Reference { get; init; }

    /// <summary>Its dates are those of a pose of several meetings, when the course has one going.</summary>
    public bool FollowsLongPose { get; init; }

    public static IReadOnlyList<ProjectTemplate> All { get; } = CoreData.Read<List<ProjectTemplate>>("projects");

    public static ProjectTemplate? Find(string? id) => All.FirstOrDefault(p => p.Id == id);

    public static ProjectTemplate Get(string id) =>
        Find(id) ?? throw new InputException($"unknown project '{id}'", "template", string.Join(" | ", All.Select(p => p.Id)));

    /// <exception cref="InputException">No stage of this project has that id.</exception>
    public StageTemplate Stage(string? id) =>
        Stages.FirstOrDefault(s => s.Id == id)
        ?? throw new InputException("unknown stage", "stage", string.Join(" | ", Stages.Select(s => s.Name)));
}
