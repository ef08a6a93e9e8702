using MintHarbor.Core.Canons;
using MintHarbor.Core.Projects;
using MintHarbor.Core.Rooms;
using MintHarbor.Core.Sessions;
using MintHarbor.Core.Shelves;
using NodaTime;

namespace MintHarbor.Store.Model;

public sealed class Course
{
    public int Id { get; set; }
    public string Name { get; set; } = "";
    public IsoDayOfWeek Weekday { get; set; }
    public LocalTime StartsAt { get; set; }
    public int Minutes { get; set; }
    public string Room { get; set; } = "";
    public Approach Approach { get; set; }
    public string Paper { get; set; } = "";
    public bool Inch { get; set; }
    public bool Minors { get; set; }
    public string Canon { get; set; } = "academic";

    /// <summary>The school that a head is judged by.</summary>
    public string HeadCanon { get; set; } = "classical-head";

    /// <summary>The course's own in the place of those, as it is used now; null where the table's holds.</summary>
    public Canon? OwnFigure { get; set; }
    public Canon? OwnHead { get; set; }

    /// <summary>What figures, or heads, are judged by.</summary>
    public Canon SchoolOf(string subject) => subject == "head" ? OwnHead ?? CanonTable.Get(HeadCanon) : OwnFigure ?? CanonTable.Get(Canon);

    /// <summary>What it changed of the studio's tables; null where it changed nothing.</summary>
    public OwnShelf? OwnShelf { get; set; }

    /// <summary>What it works by: the studio's tables with what it changed.</summary>
    public CourseShelf Shelf
    {
        get
        {
            if (OwnShelf is null)
                return CourseShelf.Studio;
            if (!ReferenceEquals(shelf?.Own, OwnShelf))
                shelf = new(OwnShelf);
            return shelf!;
        }
    }

    private CourseShelf? shelf;

    /// <summary>Where a Long-first course stands on the ladder; the moves that brought it there are kept.</summary>
    public string Rung { get; set; } = "still-life";
    public string Zone { get; set; } = "Europe/Berlin";

    /// <summary>Its zone; UTC where the name is not known any more.</summary>
    public DateTimeZone TimeZone => DateTimeZoneProviders.Tzdb.GetZoneOrNull(Zone) ?? DateTimeZone.Utc;

    /// <summary>The studio to scale; null until somebody has measured it.</summary>
    public RoomPlan? Studio { get; set; }

    /// <summary>What the model is paid; null for the default.</summary>
    public PayRules? Pay { get; set; }

    /// <summary>What counts how much over the term; null for the plain way.</summary>
    public BookRules? Book { get; set; }

    /// <summary>What the class draws with; empty leaves it to each exercise.</summary>
    public string Medium { get; set; } = "";
    public List<DaysOff> DaysOff { get; set; } = [];
    public List<Booking> Bookings { get; set; } = [];

    /// <summary>Whoever has it may read the course's calendar; empty until it is asked for.</summary>
    public string FeedSecret { get; set; } = "";

    /// <summary>When it ended: it stays to be read, and nothing is written in it until it is opened again.</summary>
    public Instant? EndedAt { get; set; }
    public List<Membership> Members { get; set; } = [];
    public List<Meeting> Meetings { get; set; } = [];
}

/// <summary>One move on the Long-first ladder: by evidence, or by the instructor's word with a reason.</summary>
public sealed class RungMove
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public string From { get; set; } = "";
    public string To { get; set; } = "";

    /// <summary>What the sheets said at the time.</summary>
    public string Evidence { get; set; } = "";

    /// <summary>The instructor's reason; empty where the evidence was enough.</summary>
    public string Reason { get; set; } = "";
    public string By { get; set; } = "";
    public Instant At { get; set; }
}

public sealed class Meeting
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public Course Course { get; set; } = null!;
    public int Number { get; set; }
    public LocalDate Date { get; set; }
    public LocalTime StartsAt { get; set; }
    public int Minutes { get; set; }

    /// <summary>The request the plan answers; what is held is in it.</summary>
    public PlanRequest Request { get; set; } = null!;
    public Proposal Plan { get; set; } = null!;

    /// <summary>Requests before it, newest last, for undo.</summary>
    public List<PlanRequest> Undo { get; set; } = [];

    /// <summary>What was done on the room clock; comes with the meeting wherever it is read.</summary>
    public List<ClockEntry> Acts { get; set; } = [];

    /// <summary>The log as the clock reads it.</summary>
    public IReadOnlyList<ClockEvent> Clock => [.. Acts.OrderBy(a => a.Sequence).Select(a => new ClockEvent(a.At, a.Act, a.Rest))];
    public bool Begun => Acts.Count > 0;

    /// <summary>The evening with every name resolved.</summary>
    public Evening Evening => new(Request.Wishing(w => w with { Online = Online }), Plan.Items);

    /// <summary>Whether the class is seated round a stand.</summary>
    public bool IsSeated => !Online && Subject.Of(Request.Wish.Model).Stand;

    /// <summary>Where the room clock stands by a node's own clock.</summary>
    public ClockReading Reading(Instant now) => MeetingClock.Read(Plan.Items, Clock, MeetingClock.Stamp(Clock, now));

    public string RoomSecret { get; set; } = "";
    public string Note { get; set; } = "";

    /// <summary>Students draw at home; nobody is seated.</summary>
    public bool Online { get; set; }

    /// <summary>Whoever has it sees the model's sheet; empty until it is asked for.</summary>
    public string ModelSecret { get; set; } = "";

    /// <summary>The long pose that goes on in this meeting; null where none does.</summary>
    public int? LongPoseId { get; set; }
    public LongPose? LongPose { get; set; }

    /// <summary>Cautions put aside for this evening.</summary>
    public List<string> CautionsSeen { get; set; } = [];
    public uint Version { get; set; }
    public List<PoseReading> Readings { get; set; } = [];

    /// <summary>When it starts and ends, in the course's time zone; a time that the clock change skips moves on by it.</summary>
    public Instant Starts(string zone) =>
        (Date + StartsAt).InZoneLeniently(DateTimeZoneProviders.Tzdb.GetZoneOrNull(zone) ?? DateTimeZone.Utc).ToInstant();

    public Instant Ends(string zone) => Starts(zone) + Duration.FromMinutes(Minutes);

    /// <summary>How long the room's link outlasts the meeting, and the last act on its clock.</summary>
    public static readonly Duration RoomLinkOutlasts = Duration.FromHours(12);

    /// <summary>When the room's link ends by itself, so that one passed on shows nothing a day later.</summary>
    /// <param name="zone">The course's time zone.</param>
    public Instant RoomUntil(string zone)
    {
        var end = Ends(zone);
        return Instant.Max(end, MeetingClock.Stamp(Clock, end)) + RoomLinkOutlasts;
    }
}

/// <summary>One act on a meeting's room clock. Only added to: the sequence says its place, and two acts can't have the same.</summary>
public sealed class ClockEntry
{
    public int MeetingId { get; set; }

    /// <summary>From 1.</summary>
    public int Sequence { get; set; }
    public Instant At { get; set; }
    public ClockAct Act { get; set; }

    /// <summary>For a re-plan: the timeline from the current item on.</summary>
    public IReadOnlyList<RunItem>? Rest { get; set; }
}

/// <summary>A pose that a course has made its own: changed from one of the studio's, kept with whoever did.</summary>
public sealed class CoursePose
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public string Name { get; set; } = "";

    /// <summary>The pose as the core reads and writes it.</summary>
    public string Json { get; set; } = "";
    public string BasedOn { get; set; } = "";
    public string By { get; set; } = "";
    public Instant At { get; set; }
}

/// <summary>An arrangement of things that a course has set up, with the side it was kept from and its lamp.</summary>
public sealed class CourseArrangement
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public string Name { get; set; } = "";

    /// <summary>Ground and places as the core reads and writes them.</summary>
    public string Things { get; set; } = "";
    public double Azimuth { get; set; }
    public double Distance { get; set; }
    public double EyeHeight { get; set; }

    /// <summary>Null for the studio's habit, beside the eye.</summary>
    public double? LampAzimuth { get; set; }
    public double LampElevation { get; set; }
    public string By { get; set; } = "";
    public Instant At { get; set; }
}

/// <summary>A sheet held against the still life that it was drawn from: a box round each thing, as it was drawn.</summary>
public sealed class HeldSheet
{
    public int SheetId { get; set; }

    /// <summary>The address of the view: things, seat and lamp.</summary>
    public string Of { get; set; } = "";

    /// <summary>What it is called.</summary>
    public string Name { get; set; } = "";

    /// <summary>In the view's order, millimetres on the sheet.</summary>
    public List<Core.Geometry.Area> Boxes { get; set; } = [];
    public string By { get; set; } = "";
    public Instant At { get; set; }
    public uint Version { get; set; }
}

/// <summary>Where one person sits at a meeting, seen from the stand.</summary>
public sealed class Seating
{
    public int MeetingId { get; set; }
    public Meeting Meeting { get; set; } = null!;
    public int PersonId { get; set; }
    public double Azimuth { get; set; }
    public double Distance { get; set; }
    public double EyeHeight { get; set; }

    /// <summary>Place of the room's plan; null for a seat that was set by hand.</summary>
    public string? Spot { get; set; }

    /// <summary>Kept where it is when the class is seated again.</summary>
    public bool Pinned { get; set; }
}

/// <summary>One pose that goes on over several meetings, with what must stand where it stood.</summary>
public sealed class LongPose
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public string PoseId { get; set; } = "";
    public double Hours { get; set; }

    /// <summary>Where feet and seat are taped to the stand, as the next meeting must read it.</summary>
    public string FloorMarks { get; set; } = "";
    public string Lamp { get; set; } = "";
    public string Seats { get; set; } = "";
    public string By { get; set; } = "";
    public Instant At { get; set; }
    public List<Meeting> Meetings { get; set; } = [];

    /// <summary>Its minutes meeting by meeting.</summary>
    /// <param name="minutes">Length of one meeting.</param>
    public LongPosePlan Plan(int minutes) =>
        LongPosePlan.Of(new(new() { Minutes = minutes, LongPose = PoseLibrary.Find(PoseId)?.Id }), Hours);
}

/// <summary>A timetable that a course keeps to begin another from.</summary>
public sealed class MeetingTemplate
{
    public int Id { get; set; }
    public int CourseId { get; set; }
    public string Name { get; set; } = "";
    public PlanRequest Request { get; set; } = null!;
    public string By { get; set; } = "";
    public Instant At { get; set; }
}

/// <summary>A student at one meeting: there or not, and what only the eye sees.</summary>
public sealed class Presence
{
    public int MeetingId { get; set; }
    public Meeting Meeting { get; set; } = null!;
    public int PersonId { get; set; }
    public bool Present { get; set; }

    /// <summary>Ids of <see cref="Core.Sessions.EyeTicks"/>.</summary>
    public List<string> Ticks { get; set; } = [];

    /// <summary>How a student set up at home; null in a room.</summary>
    public SetUpCard? SetUp { get; set; }
    public Instant At { get; set; }
}

/// <summary>Something said or seen in the room, kept to the minute: about a student and a fault, with a photograph of the sheet,
/// or a plain line.</summary>
public sealed class RoomNote
{
    public int Id { get; set; }
    public int MeetingId { get; set; }
    public Meeting Meeting { get; set; } = null!;

    /// <summary>Given by the browser, so that what is sent twice is kept once.</summary>
    public Guid Key { get; set; }
    public int AuthorId { get; set; }
    public int? StudentId { get; set; }
    public Person? Student { get; set; }
    public string? FaultId { get; set; }
    public string Place { get; set; } = "";
    public string Text { get; set; } = "";

    /// <summary>Minute of the meeting.</summary>
    public double Minute { get; set; }
    public string? PictureHash { get; set; }

    /// <summary>The student may read it too, by the choice of whoever said it; otherwise it is the staff's own.</summary>
    public bool Shared { get; set; }
    public Instant At { get; set; }
}

/// <summary>A pose card kept with a pose of a meeting, by whoever read it: the instructor's judges, a student's own readings
/// tell misread from misdrawn.</summary>
public sealed class PoseReading
{
    public int Id { get; set; }
    public int MeetingId { get; set; }
    public Meeting Meeting { get; set; } = null!;

    /// <summary>Letter of the pose in its meeting.</summary>
    public string Pose { get; set; } = "A";
    public int ReaderId { get; set; }
    public Person Reader { get; set; } = null!;
    public Core.Critiques.PoseCard Card { get; set; } = new();

    /// <summary>Where it was read from, degrees round the stand as <see cref="Seating.Azimuth"/>; null where nobody said.</summary>
    public double? ReadFrom { get; set; }
    public Instant ReadAt { get; set; }
}
