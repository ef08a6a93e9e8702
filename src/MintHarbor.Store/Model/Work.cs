using MintHarbor.Core.Canons;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Projects;
using MintHarbor.Core.Shelves;
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

    /// <summary>The drill sheets on paper that it asks for, by what was printed together; null for anything else.</summary>
    public long? PaperBatch { get; set; }
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

/// <summary>A drill sheet printed for one student: what is on it and, once it was photographed, what was read of it.</summary>
public sealed class PaperSheet
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public int StudentId { get; set; }
    public Person Student { get; set; } = null!;

    /// <summary>Printed as its code; no other sheet of the studio has it.</summary>
    public long Number { get; set; }

    /// <summary>The same for all that were printed together.</summary>
    public long Batch { get; set; }

    /// <summary>Kinds of its drills, as they were chosen.</summary>
    public List<string> Drills { get; set; } = [];

    /// <summary>As it was printed: drills made anew another day change no sheet.</summary>
    public DrillSheet Printed { get; set; } = null!;
    public Instant GivenAt { get; set; }

    /// <summary>Who printed it.</summary>
    public string By { get; set; } = "";

    /// <summary>The drawing whose critique prescribed it.</summary>
    public int? SheetId { get; set; }

    public DrillSheetReading? Reading { get; set; }
    public Instant? ReadAt { get; set; }
    public string? PhotoHash { get; set; }
    public string? FlatHash { get; set; }

    /// <summary>By item what a person said of what the reader left to them: whether it counts.</summary>
    public Dictionary<int, bool> Looked { get; set; } = [];
    public uint Version { get; set; }

    /// <summary>Whether an item's scores count: read safely, or said so by a person.</summary>
    public bool Counts(int item) => Reading is { } r && (Looked.TryGetValue(item, out var said) ? said : r.Items[item].Counts);

    /// <summary>Items that wait for a person's eye.</summary>
    public IEnumerable<int> Asks =>
        Reading is { } r ? Enumerable.Range(0, r.Items.Count).Where(n => r.Items[n].Asks && !Looked.ContainsKey(n)) : [];

    /// <summary>Scores that count.</summary>
    public IEnumerable<ItemScore> Scores => Reading is { } r ? r.Items.Where((_, n) => Counts(n)).SelectMany(i => i.Scores) : [];
}

/// <summary>What became of a photograph that was to be a drill sheet.</summary>
public enum PaperOutcome
{
    Waiting,
    Read,

    /// <summary>No sheet is found on it.</summary>
    NotFound,

    /// <summary>Nothing was printed under its number here.</summary>
    Unknown,
    OtherCourse,

    /// <summary>Handed in by a student to whom it was not given.</summary>
    OtherStudent,

    /// <summary>Its number was read before: a copy, or the same sheet again.</summary>
    ReadBefore,

    /// <summary>Nothing is drawn on it.</summary>
    Unmarked,
    NotFlat,

    /// <summary>The file is no picture that can be read.</summary>
    NoPicture,
}

/// <summary>A photograph that is to be read as a drill sheet.</summary>
public sealed class PaperPhoto
{
    public int Id { get; set; }
    public int CourseId { get; set; }

    /// <summary>Who handed it in.</summary>
    public int PersonId { get; set; }

    /// <summary>Of the file, as it was called.</summary>
    public string Name { get; set; } = "";

    /// <summary>Empty once it is refused: its picture is gone.</summary>
    public string Hash { get; set; } = "";

    /// <summary>The upload's own: sent twice, it is kept once.</summary>
    public Guid? UploadKey { get; set; }
    public Instant At { get; set; }
    public PaperOutcome Outcome { get; set; }

    /// <summary>The sheet that it shows, where it is known.</summary>
    public int? PaperSheetId { get; set; }
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

    /// <summary>What is drawn where it is no figure and no head.</summary>
    public const string Thing = "thing";

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

    /// <summary>What the ink says of technique; null before it was read.</summary>
    public TechniqueState? Technique { get; set; }

    /// <summary>Since when it waits to be read; null when it doesn't.</summary>
    public Instant? FitSince { get; set; }
    public List<Remark> Remarks { get; set; } = [];

    /// <summary>The view of the studio figure it is held against; null where none was chosen.</summary>
    public ReferenceChoice? Reference { get; set; }

    /// <summary>Keys of findings marked as the sitter's own.</summary>
    public List<string> Observed { get; set; } = [];

    /// <summary>What an instructor said of the checks of anatomy on it, by their key; what is off is a remark.</summary>
    public Dictionary<string, CheckAnswer> Checked { get; set; } = [];
    public Instant? SavedAt { get; set; }

    /// <summary>Whose hand the last change came from.</summary>
    public string SavedBy { get; set; } = "";

    /// <summary>The sign-in that it came from: another one's change is told, whatever the name.</summary>
    public Guid? SavedIn { get; set; }
    public Instant? ReleasedAt { get; set; }

    /// <summary>What it was judged by when it was released; null before that.</summary>
    public Canon? JudgedBy { get; set; }
    public string Answer { get; set; } = "";
    public Instant? AnsweredAt { get; set; }

    /// <summary>The way through a project that it was handed in to, and the stage of it; null where it belongs to none.</summary>
    public int? WorkId { get; set; }
    public string? StageId { get; set; }

    /// <summary>The sheet this one is drawn again from.</summary>
    public int? RedoOfId { get; set; }
    public Sheet? RedoOf { get; set; }
    public uint Version { get; set; }
}

/// <summary>What was said of a check of anatomy that is no remark.</summary>
public enum CheckAnswer
{
    Holds,

    /// <summary>Not to be judged on this drawing.</summary>
    Skipped,
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

/// <summary>A project that a course wrote, or took from elsewhere and changed, to open from.</summary>
public sealed class ProjectPlan
{
    public int Id { get; set; }
    public int CourseId { get; set; }

    /// <summary>The plan's own name, once in a course.</summary>
    public string Name { get; set; } = "";
    public ProjectTemplate Plan { get; set; } = null!;
    public string By { get; set; } = "";
    public Instant At { get; set; }
    public uint Version { get; set; }
}

/// <summary>A version of a canon that a course made its own. It never changes: another save is another version.</summary>
public sealed class CourseCanon
{
    public int Id { get; set; }
    public int CourseId { get; set; }

    /// <summary>"figure" or "head".</summary>
    public string Subject { get; set; } = "";

    /// <summary>From 1, by course and subject.</summary>
    public int Number { get; set; }
    public Canon Canon { get; set; } = null!;
    public string By { get; set; } = "";
    public Instant At { get; set; }
}

/// <summary>What a course had made its own of the studio's tables, as it stood after one save.</summary>
public sealed class ShelfVersion
{
    public int CourseId { get; set; }

    /// <summary>From 1.</summary>
    public int Number { get; set; }
    public OwnShelf Shelf { get; set; } = OwnShelf.None;

    /// <summary>What was changed, in a word.</summary>
    public string What { get; set; } = "";
    public string By { get; set; } = "";
    public Instant At { get; set; }
}

public sealed class Project
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public Course Course { get; set; } = null!;

    /// <summary>Id of what it was opened from.</summary>
    public string Template { get; set; } = "";

    /// <summary>As it was then: a plan that is changed later moves no open project. Null in one from before copies were kept.</summary>
    public ProjectTemplate? Plan { get; set; }
    public string Name { get; set; } = "";
    public LocalDate Ends { get; set; }
    public int MeetingsUsed { get; set; }

    /// <summary>Minutes a week that are drawn at home.</summary>
    public int HomeMinutes { get; set; }

    /// <summary>The pose of several meetings whose dates it keeps to; null where it has its own.</summary>
    public int? LongPoseId { get; set; }

    /// <summary>How levels become a grade; null for the plain way.</summary>
    public GradeRules? Rules { get; set; }
    public List<StageDate> Stages { get; set; } = [];

    /// <summary>Who draws it together; empty where everybody draws their own.</summary>
    public List<WorkGroup> Groups { get; set; } = [];
    public List<ProjectWork> Works { get; set; } = [];
    public ProjectTemplate Shape => Plan ?? ProjectTemplate.Get(Template);
    public GradeRules GradedBy => Rules ?? GradeRules.Plain;
}

/// <summary>One student's way through a project: gates, levels, grade.</summary>
public sealed class ProjectWork
{
    public int Id { get; set; }
    public int ProjectId { get; set; }
    public Project Project { get; set; } = null!;
    public int StudentId { get; set; }
    public Person Student { get; set; } = null!;
    public Dictionary<string, GateState> Gates { get; set; } = [];
    public Dictionary<string, int> Levels { get; set; } = [];

    /// <summary>Levels of the work handed in again; empty where it wasn't.</summary>
    public Dictionary<string, int> Again { get; set; } = [];

    /// <summary>Two grade it; null where one does.</summary>
    public TwoGraders? Graders { get; set; }
    public List<string> StagesDone { get; set; } = [];

    /// <summary>When its last stage was first handed in: lateness counts from here.</summary>
    public Instant? HandedInAt { get; set; }

    /// <summary>This student's own end, with its reason.</summary>
    public LocalDate? ExtendedTo { get; set; }
    public string ExtendedBecause { get; set; } = "";
    public Standing Standing { get; set; }
    public string StandingBecause { get; set; } = "";

    /// <summary>The instructor's words to the grade, read with it.</summary>
    public string Comment { get; set; } = "";
    public Instant? ReleasedAt { get; set; }
    public uint Version { get; set; }

    /// <summary>Those it is drawn together with; null where it is their own.</summary>
    public WorkGroup? Group => Project.Groups.FirstOrDefault(g => g.Of(StudentId) is not null);
    public LocalDate Due => ExtendedTo ?? Project.Ends;

    /// <summary>Whole days from the end that holds for this student to the hand-in; 0 while nothing is handed in.</summary>
    public int DaysLate(DateTimeZone zone) => HandedInAt is { } at ? Math.Max(0, Period.DaysBetween(Due, at.InZone(zone).Date)) : 0;

    /// <summary>The levels that count: of one who grades, or what two have settled.</summary>
    public IReadOnlyDictionary<string, int> Counted => Graders?.Settled ?? Levels;

    /// <summary>The grade as it would be released now; null where a level is missing, or the work is excused or incomplete.</summary>
    public Grade? Grade(DateTimeZone zone) =>
        Standing == Standing.Graded
            ? Grading.Of(
                Project.Shape.Rubric,
                Counted,
                Again.Count == 0 ? null : Again,
                DaysLate(zone),
                Project.GradedBy,
                Group?.Share(StudentId)
            )
            : null;

    public GateState Gate(string stage) => Gates.GetValueOrDefault(stage) ?? GateState.Closed;

    /// <summary>The first stage that is not done; null when all are.</summary>
    public StageTemplate? Current => Project.Shape.Stages.FirstOrDefault(s => !StagesDone.Contains(s.Id));
}
