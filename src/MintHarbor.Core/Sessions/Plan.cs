using System.Text.Json.Serialization;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Sessions;

public enum Approach
{
    QuickFirst,
    LongFirst,
    Alternating,
}

public enum Purpose
{
    Gesture,
    Proportion,
    Construction,
    Anatomy,
    Tone,
    Portrait,
}

public enum Level
{
    Beginner,
    Intermediate,
    Advanced,
}

public enum ModelKind
{
    Person,
    Two,
    Cast,
    StillLife,
    Mirror,

    /// <summary>Somebody who sits for a portrait, clothed.</summary>
    Sitter,

    /// <summary>One's own hands and feet.</summary>
    Hands,

    /// <summary>People in a room, an animal, a dancer.</summary>
    Moving,
    Outdoors,
    Museum,

    /// <summary>A pose that is shown, hidden, drawn and compared.</summary>
    Memory,
}

public enum ItemKind
{
    SetUp,
    Exercise,
    Rest,
    Break,
    StandBack,
    Review,
    PackUp,
}

/// <summary>What the instructor wishes of a meeting. Minutes are whole minutes, 30 to 480.</summary>
public sealed record PlanWish
{
    public required int Minutes { get; init; }
    public Approach Approach { get; init; } = Approach.Alternating;
    public Purpose Purpose { get; init; } = Purpose.Proportion;
    public Level Level { get; init; } = Level.Intermediate;
    public int Students { get; init; } = 1;
    public ModelKind Model { get; init; } = ModelKind.Person;
    public bool Draped { get; init; }

    /// <summary>Exercises that must stand in the meeting, by id.</summary>
    public IReadOnlyList<string> Include { get; init; } = [];

    /// <summary>Pose of the long sittings, by id; null lets the planner choose by their length.</summary>
    public string? LongPose { get; init; }

    /// <summary>Part of the body that is in question, one of <see cref="PoseLibrary.Parts"/>; null for none.</summary>
    public string? Part { get; init; }

    /// <summary>One of <see cref="Shapes"/>, where only that timetable is wanted; null for three different ones.</summary>
    public string? Shape { get; init; }

    /// <summary>What the class draws with: charcoal, graphite, red-chalk or ink; null leaves it to each exercise.</summary>
    public string? Medium { get; init; }

    public long Seed { get; init; }

    [JsonIgnore]
    public bool HasLiveModel => Subject.Of(Model).Live;

    /// <summary>Whether whoever poses wears clothes.</summary>
    [JsonIgnore]
    public bool IsClothed => Draped || Subject.Of(Model).Clothed;

    /// <summary>Everybody draws at home before a camera. The meeting keeps it.</summary>
    [JsonIgnore]
    public bool Online { get; init; }
}

/// <summary>What the course and its term know when a meeting is planned.</summary>
public sealed record PlanKnown
{
    public bool Minors { get; init; }

    /// <summary>The course's rung of the pose-length ladder; only the Long-first approach reads it.</summary>
    public string? Rung { get; init; }

    /// <summary>Rules that the class's sheets broke most, the commonest first.</summary>
    public IReadOnlyList<string> Weak { get; init; } = [];

    /// <summary>What the earlier meetings of the term held, in any order.</summary>
    public IReadOnlyList<PastMeeting> History { get; init; } = [];

    /// <summary>Poses that the course has made its own, beside the studio's.</summary>
    public IReadOnlyList<StudioPose> OwnPoses { get; init; } = [];

    /// <summary>Minutes that set-up, review and packing up have been found to need; null for the studio's usual.</summary>
    public double? SetUpMinutes { get; init; }
    public double? ReviewMinutes { get; init; }
    public double? PackUpMinutes { get; init; }

    /// <summary>Pay of the model; null for the default.</summary>
    public PayRules? Pay { get; init; }

    /// <summary>Exercises that the course has made its own: in the place of the catalogue's with the same id, or beside them.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyList<Exercise>? Exercises { get; init; }

    /// <summary>The course's own limits of rest and frame; null for the studio's.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public TimingRules? Timing { get; init; }

    /// <summary>Whoever poses, as far as it is known; null where nobody is named.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public ModelOfDay? Who { get; init; }

    /// <summary>The limits that hold: the course's or the studio's, eased for whoever poses.</summary>
    [JsonIgnore]
    public TimingRules Rules => (Timing ?? TimingRules.Default).Eased(Who?.Ease ?? 1);

    public Exercise? OwnExercise(string? id) => Exercises?.FirstOrDefault(e => e.Id == id);

    /// <summary>The course's exercise of that id, or the catalogue's.</summary>
    /// <exception cref="InputException">Neither has one.</exception>
    public Exercise GetExercise(string id, string field = "exercise") => OwnExercise(id) ?? Practice.Exercises.Get(id, field);

    /// <summary>What is known a meeting later: of eight at most, the last first.</summary>
    public PlanKnown After(Proposal plan) =>
        this with
        {
            History = [PastMeeting.Of(1, plan), .. History.Select(h => h with { WeeksAgo = h.WeeksAgo + 1 }).Take(7)],
        };
}

/// <summary>What the planner is asked: a wish, what is known, and of an earlier timetable what is held or all of it. As JSON the four are
/// one flat object, with what is held under <c>locked</c>.</summary>
[JsonConverter(typeof(PlanRequestJson))]
public sealed record PlanRequest(PlanWish Wish)
{
    public PlanKnown Known { get; init; } = new();

    /// <summary>Items that stay where they are; the rest is planned round them.</summary>
    public IReadOnlyList<PlanItem> Held { get; init; } = [];

    /// <summary>The whole timetable as the instructor laid it by hand: taken as it is and only proved. Empty otherwise.</summary>
    public IReadOnlyList<PlanItem> Laid { get; init; } = [];

    /// <summary>Rules that the class's sheets broke and that this subject shows, the commonest first: nobody mends a figure's heads on a bottle.</summary>
    [JsonIgnore]
    public IReadOnlyList<string> Missed => Wish.Model is ModelKind.StillLife or ModelKind.Outdoors or ModelKind.Hands ? [] : Known.Weak;

    /// <summary>The same wish to be planned afresh: nothing held, nothing laid.</summary>
    public PlanRequest Afresh() => this with { Held = [], Laid = [] };

    /// <summary>The same with a timetable in which nothing is left to plan.</summary>
    public PlanRequest With(IReadOnlyList<PlanItem> laid) => this with { Held = [], Laid = laid };

    /// <summary>The same with something else wished.</summary>
    public PlanRequest Wishing(Func<PlanWish, PlanWish> change) => this with { Wish = change(Wish) };

    /// <summary>The same with something else known.</summary>
    public PlanRequest Knowing(Func<PlanKnown, PlanKnown> change) => this with { Known = change(Known) };
}

/// <summary>One line of a timetable.</summary>
/// <param name="At">Minutes from the start of the meeting.</param>
/// <param name="Minutes">Length in minutes, halves allowed.</param>
/// <param name="Kind">What happens.</param>
public sealed record PlanItem(double At, double Minutes, ItemKind Kind)
{
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public LineId Line { get; init; }

    /// <summary>The letter that sheets of the item are labelled with; none where nothing is drawn.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public PoseKey Pose { get; init; }
    public string? Exercise { get; init; }

    /// <summary>The exercise as the course has made it its own; null where it is the catalogue's.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public Exercise? Own { get; init; }

    /// <summary>The same line with that exercise.</summary>
    public PlanItem Doing(string exercise, PlanKnown known) => this with { Exercise = exercise, Own = known.OwnExercise(exercise) };

    /// <summary>Whether a live model holds a pose during the item.</summary>
    public bool Posed { get; init; }
    public bool Draped { get; init; }
    public int Poses { get; init; }
    public double PoseMinutes { get; init; }

    /// <summary>Strain of each pose in order.</summary>
    public IReadOnlyList<Strain> Strains { get; init; } = [];

    /// <summary>Ids of the poses in order, chosen to fit the strains.</summary>
    public IReadOnlyList<string> PoseIds { get; init; } = [];

    /// <summary>Degrees that the model turns from the front of the stand for each pose, so that every seat sees every side;
    /// none leaves the front to the front.</summary>
    public IReadOnlyList<double> Facings { get; init; } = [];

    /// <summary>Sheets of paper a student takes for the item; short sets may share a halved sheet.</summary>
    public int Sheets { get; init; }

    /// <summary>Kept by the instructor: re-planning leaves it where it is.</summary>
    public bool Held { get; init; }

    /// <summary>Poses of its set that were held before the line, where a set was broken into and goes on.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int Before { get; init; }

    /// <summary>Minutes of the line's first pose that were held before it was broken into.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public double Into { get; init; }

    /// <summary>Which period of a long pose this is, from 1; 0 where it is not one.</summary>
    public int Period { get; init; }

    /// <summary>A period of a pose that goes on over rests.</summary>
    [JsonIgnore]
    public bool IsLong => Kind == ItemKind.Exercise && Exercise is "sitting" or "long-pose";

    public Strain? Strain => Strains.Count == 0 ? null : Strains.Max();

    [JsonIgnore]
    public double End => At + Minutes;

    [JsonIgnore]
    public Exercise? Catalogue => Own ?? Exercises.Find(Exercise);

    [JsonIgnore]
    public string Name =>
        Kind switch
        {
            ItemKind.SetUp => "Set-up",
            ItemKind.Rest => "Rest",
            ItemKind.Break => "Break",
            ItemKind.StandBack => "Stand back",
            ItemKind.Review => "Review",
            ItemKind.PackUp => "Pack up",
            _ => Period > 0
                ? $"{(Exercise == "sitting" ? "Sitting" : Catalogue?.Name ?? Exercise)} {Period}"
                : Catalogue?.Name ?? Exercise ?? "Exercise",
        };

    /// <summary>The poses one after another with start and length, in minutes of the meeting. A line cut short in the room
    /// shows only what was held; the last pose fills the line to its end.</summary>
    public IEnumerable<(double At, double Minutes, Strain Strain, string? PoseId)> PoseRuns()
    {
        for (var i = 0; i < Strains.Count; i++)
        {
            var at = At + PoseStart(i);
            if (at >= End)
                yield break;
            yield return (
                at,
                i == Strains.Count - 1 ? End - at : Math.Min(At + PoseStart(i + 1), End) - at,
                Strains[i],
                i < PoseIds.Count ? PoseIds[i] : null
            );
        }
    }

    /// <summary>Minutes from the line's start to that of its pose <paramref name="n"/>, from 0.</summary>
    public double PoseStart(int n) => n == 0 ? 0 : (n * PoseMinutes) - Into;

    /// <summary>Which of the line's poses is held after so many minutes of it, from 0.</summary>
    public int PoseAt(double minutes) =>
        Poses > 1 && PoseMinutes > 0 ? Math.Clamp((int)((minutes + Into + 1e-9) / PoseMinutes), 0, Poses - 1) : 0;

    /// <summary>The line broken off after so many minutes: what was held of it, and what is left. A pose that was being held goes on with what
    /// it still wants, those before it are not held again.</summary>
    /// <param name="minutes">More than 0 and less than the line's.</param>
    public (PlanItem Held, PlanItem Left) Split(double minutes)
    {
        var left = Minutes - minutes;
        if (Poses <= 1 || PoseMinutes <= 0)
            return (WithMinutes(minutes), WithMinutes(left) with { At = At + minutes });
        var gone = PoseAt(minutes);
        var whole = minutes - PoseStart(gone) < 1e-6;
        return (
            Cut(0, whole ? gone : gone + 1) with
            {
                Minutes = minutes,
            },
            Cut(gone, Poses - gone) with
            {
                At = At + minutes,
                Minutes = left,
                Before = Before + gone,
                Into = whole ? 0 : minutes - ((gone * PoseMinutes) - Into),
            }
        );
    }

    private PlanItem WithMinutes(double minutes) => this with { Minutes = minutes, PoseMinutes = Kind == ItemKind.Exercise ? minutes : 0 };

    private PlanItem Cut(int from, int poses) =>
        this with
        {
            Poses = poses,
            Strains = [.. Strains.Skip(from).Take(poses)],
            PoseIds = [.. PoseIds.Skip(from).Take(poses)],
            Facings = [.. Facings.Skip(from).Take(poses)],
        };
}

/// <summary>One rule of a timetable with the value found and the limit it is held against.</summary>
/// <param name="Value">Worst value found, in <paramref name="Unit"/>.</param>
/// <param name="From">Minute of the meeting at which the worst value begins; null where it has no place.</param>
public sealed record RuleFact(string Id, bool Holds, double Value, double Limit, string Unit, double? From, string Says)
{
    /// <summary>At the limit but not over it: allowed, and said.</summary>
    [JsonIgnore]
    public bool AtLimit => Holds && Id is "rest-stretch" or "rest-hour" or "rest-strain" && Value > 0 && Value >= Limit;

    /// <summary>It is not kept, and stands all the same since the timetable was laid so by hand.</summary>
    [JsonIgnore]
    public bool Yields { get; init; }

    /// <summary>How the value was reached, with the rule's source.</summary>
    public string Because { get; init; } = "";
}

/// <param name="Kind">"hard", "again", "new" or "medium".</param>
/// <param name="At">Minute of the meeting; null where it has no place.</param>
public sealed record PlanNote(string Kind, double? At, string Says);

public sealed record PaperNeed(string Kind, int SheetsPerStudent, int Sheets);

/// <param name="Idea">What this timetable is for, in one sentence.</param>
/// <param name="GivesUp">What it leaves out for that.</param>
public sealed record Proposal(
    string Idea,
    string GivesUp,
    IReadOnlyList<PlanItem> Items,
    IReadOnlyList<RuleFact> Rules,
    IReadOnlyList<PaperNeed> Paper,
    IReadOnlyList<string> Kit
)
{
    /// <summary>One of <see cref="Shapes"/>; "laid" where the instructor laid it by hand.</summary>
    public string Shape { get; init; } = "";

    /// <summary>Null where nobody is paid to pose.</summary>
    public ModelPay? Pay { get; init; }

    /// <summary>What is worth knowing of the poses: too hard for the level, shown last week, shown for the first time.</summary>
    public IReadOnlyList<PlanNote> Notes { get; init; } = [];

    /// <summary>Points of the poses chosen, and of the best pose of every slot by itself: the choice is greedy, and this is the
    /// most that it can have missed.</summary>
    public double PosePoints { get; init; }
    public double PoseBound { get; init; }

    [JsonIgnore]
    public double PosedMinutes => Items.Where(i => i.Posed).Sum(i => i.Minutes);

    [JsonIgnore]
    public double DrawnMinutes => Items.Where(i => i.Kind == ItemKind.Exercise).Sum(i => i.Minutes);

    [JsonIgnore]
    public double Minutes => Items.Sum(i => i.Minutes);

    [JsonIgnore]
    public bool Holds => Rules.All(r => r.Holds);

    /// <summary>Degrees that the long pose is turned from the stand's front.</summary>
    [JsonIgnore]
    public double Facing => LongPose is { Facings: [var f, ..] } ? f : 0;

    /// <summary>Id of the pose that is drawn in periods, the first of two; null where none is.</summary>
    [JsonIgnore]
    public string? Sitter => Items.Where(i => i.Period > 0).SelectMany(i => i.PoseIds).FirstOrDefault();

    /// <summary>The longest period of a long pose; where nothing is drawn in periods, the longest of one pose.</summary>
    [JsonIgnore]
    public PlanItem? LongPose =>
        Items.Where(i => i.IsLong).MaxBy(i => i.Minutes)
        ?? Items.Where(i => i.Kind == ItemKind.Exercise && i.Poses == 1).MaxBy(i => i.Minutes);

    /// <summary>The poses that a card is read from, each by its first line: the long poses, else the longest exercise.</summary>
    [JsonIgnore]
    public IReadOnlyList<PlanItem> CardPoses =>
        Items.Any(i => i.Period == 1) ? [.. Items.Where(i => i.Period == 1)]
        : Items.Where(i => i.Kind == ItemKind.Exercise).MaxBy(i => i.PoseMinutes) is { } longest ? [longest]
        : [];

    /// <summary>The pose that a drawing of an exercise is from: a line with that exercise, else the first that a card is read from; none
    /// for a drawing of no figure that no line asks for. Of several lines the first that <paramref name="drawn"/> does not hold;
    /// the last where all are.</summary>
    public PoseKey PoseOf(string exercise, IReadOnlyCollection<PoseKey> drawn, bool ofFigure = true)
    {
        var lines = Items.Where(i => i.Kind == ItemKind.Exercise && i.Exercise == exercise).Select(i => i.Pose).Distinct().ToList();
        return lines.Count > 0 ? lines.Where(k => !drawn.Contains(k)).DefaultIfEmpty(lines[^1]).First()
            : ofFigure ? CardPoses.Select(i => i.Pose).FirstOrDefault()
            : default;
    }
}

/// <summary>Something the planner can't keep: the rule, the reason, and the nearest that would work.</summary>
public sealed record Cannot(string Rule, string Says, IReadOnlyDictionary<string, object?> Nearest);

public sealed record PlanResult(IReadOnlyList<Proposal> Proposals, IReadOnlyList<Cannot> Cannot);
