using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;
using NodaTime;

namespace MintHarbor.Store.Model;

/// <summary>An exercise or a drill given to one student, with a due time.</summary>
public sealed class Assignment
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public int StudentId { get; set; }
    public Person Student { get; set; } = null!;

    /// <summary>Exercise id, or null for a drill.</summary>
    public string? Exercise { get; set; }

    /// <summary>Drill kind, or null for an exercise.</summary>
    public string? Drill { get; set; }
    public int Minutes { get; set; }
    public string Note { get; set; } = "";
    public Instant Due { get; set; }
    public Instant GivenAt { get; set; }
    public Instant? DoneAt { get; set; }

    /// <summary>Given to everybody of the class at once: only then does it stand in the calendar that everybody reads.</summary>
    public bool ForAll { get; set; }

    /// <summary>The sheet whose critique prescribed it.</summary>
    public int? SheetId { get; set; }
}

public sealed class DrillRound
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public int StudentId { get; set; }
    public Person Student { get; set; } = null!;
    public int? AssignmentId { get; set; }
    public string Kind { get; set; } = "clock-hand";
    public DrillRoundState State { get; set; } = null!;
    public Instant StartedAt { get; set; }
    public Instant? FinishedAt { get; set; }

    /// <summary>Kept when finished, so that a curve needs no replay.</summary>
    public double? Bias { get; set; }
    public double? Spread { get; set; }
    public double? EndDifficulty { get; set; }
    public int Right { get; set; }
    public uint Version { get; set; }
}

/// <summary>Kept: a sheet of a set that stays beside the one its student asks about. Example: drawn for teaching, nobody's work.</summary>
public enum SheetState
{
    Placing,
    Waiting,
    Drafted,
    Released,
    Answered,
    Redone,
    Kept,
    Example,
}

/// <summary>One submitted drawing, from photograph to answer.</summary>
public sealed class Sheet
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public Course Course { get; set; } = null!;
    public int StudentId { get; set; }
    public Person Student { get; set; } = null!;
    public int? MeetingId { get; set; }
    public Meeting? Meeting { get; set; }

    /// <summary>Meeting, pose and seat, as written on the paper: 9-A3-4.</summary>
    public string Code { get; set; } = "";

    /// <summary>Letter of the pose of its meeting that it is drawn from; null for a sheet from home.</summary>
    public string? PoseKey { get; set; }
    public string Question { get; set; } = "";
    public string SelfReview { get; set; } = "";
    public string Exercise { get; set; } = "sitting";

    /// <summary>"figure" or "head".</summary>
    public string Subject { get; set; } = "figure";

    /// <summary>Sheets of one upload share it; null for a sheet that came alone.</summary>
    public Guid? SetId { get; set; }

    /// <summary>Place in its set, from 1.</summary>
    public int SetAt { get; set; }

    /// <summary>Given by the browser, so that an upload sent twice is kept once.</summary>
    public Guid? UploadKey { get; set; }

    /// <summary>The picture is the sheet: a digital drawing without a paper edge.</summary>
    public bool Whole { get; set; }

    /// <summary>"standing", "contrapposto", "seated", "reclining" or "other".</summary>
    public string Pose { get; set; } = "standing";
    public string? StandingLeg { get; set; }
    public string View { get; set; } = "front";
    public SheetState State { get; set; }
    public Instant SubmittedAt { get; set; }

    /// <summary>Content hash of the original file, which is kept as it came.</summary>
    public string PhotoHash { get; set; } = "";
    public string? FlatHash { get; set; }
    public List<Vec2> Corners { get; set; } = [];
    public double Confidence { get; set; }
    public string FoundSays { get; set; } = "";

    /// <summary>How uneven the light lay and what evening left of it; empty where nothing was evened.</summary>
    public string LightSays { get; set; } = "";
    public double PaperWidthMm { get; set; }
    public double PaperHeightMm { get; set; }

    /// <summary>Where every mark lies, by whoever's word counts (<see cref="SheetMarks"/>).</summary>
    public Dictionary<string, Vec2> Landmarks { get; set; } = [];

    /// <summary>What the student placed, and what staff placed: the one never writes over the other.</summary>
    public Dictionary<string, Placement> ByStudent { get; set; } = [];
    public Dictionary<string, Placement> ByStaff { get; set; } = [];

    /// <summary>What whoever works on it had placed, step by step.</summary>
    public List<Dictionary<string, Vec2>> LandmarkUndo { get; set; } = [];

    /// <summary>What the ink told; null before it was read.</summary>
    public FitState? Fit { get; set; }

    /// <summary>Since when it waits to be fitted; null when it doesn't.</summary>
    public Instant? FitSince { get; set; }
    public List<Remark> Remarks { get; set; } = [];

    /// <summary>The view of the studio figure it is held against; null where none was chosen.</summary>
    public ReferenceChoice? Reference { get; set; }

    /// <summary>Keys of findings marked as the sitter's own.</summary>
    public List<string> Observed { get; set; } = [];
    public Instant? SavedAt { get; set; }

    /// <summary>Whose hand the last change came from.</summary>
    public string SavedBy { get; set; } = "";

    /// <summary>The sign-in that it came from: another one's change is told, whatever the name.</summary>
    public Guid? SavedIn { get; set; }
    public Instant? ReleasedAt { get; set; }
    public string Answer { get; set; } = "";
    public Instant? AnsweredAt { get; set; }

    /// <summary>The sheet this one is drawn again from.</summary>
    public int? RedoOfId { get; set; }
    public Sheet? RedoOf { get; set; }
    public uint Version { get; set; }
}

/// <summary>A view of the studio figure: pose and body, from where.</summary>
/// <param name="Pose">A pose of the catalogue, or "own-" and the number of a course's own.</param>
public sealed record ReferenceChoice(string Pose, string Body, bool Mirrored, double Azimuth, double Distance, double EyeHeight);

/// <summary>Bytes by their SHA-256, whatever they belong to; one thing to back up.</summary>
public sealed class Picture
{
    public string Hash { get; set; } = "";
    public string ContentType { get; set; } = "";
    public int Width { get; set; }
    public int Height { get; set; }
    public byte[] Bytes { get; set; } = [];
}

public sealed class Project
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public Course Course { get; set; } = null!;
    public string Template { get; set; } = "";
    public string Name { get; set; } = "";
    public LocalDate Ends { get; set; }
    public int MeetingsUsed { get; set; }
    public List<Core.Projects.StageDate> Stages { get; set; } = [];
    public List<ProjectWork> Works { get; set; } = [];
}

/// <summary>One student's way through a project: gates, levels, grade.</summary>
public sealed class ProjectWork
{
    public int Id { get; set; }
    public int ProjectId { get; set; }
    public Project Project { get; set; } = null!;
    public int StudentId { get; set; }
    public Person Student { get; set; } = null!;
    public Dictionary<string, Core.Projects.GateState> Gates { get; set; } = [];
    public Dictionary<string, int> Levels { get; set; } = [];
    public List<string> StagesDone { get; set; } = [];
    public Instant? ReleasedAt { get; set; }
    public uint Version { get; set; }
}
