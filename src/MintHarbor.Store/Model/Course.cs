using MintHarbor.Core.Sessions;
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

    /// <summary>Where a Long-first course stands on the ladder; the moves that brought it there are kept.</summary>
    public string Rung { get; set; } = "still-life";
    public string Zone { get; set; } = "Europe/Berlin";
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
    public List<ClockEvent> Clock { get; set; } = [];
    public string RoomSecret { get; set; } = "";
    public string Note { get; set; } = "";
    public uint Version { get; set; }
    public List<PoseReading> Readings { get; set; } = [];

    /// <summary>When it starts and ends, in the course's time zone; a time that the clock change skips moves on by it.</summary>
    public Instant Starts(string zone) => (Date + StartsAt).InZoneLeniently(DateTimeZoneProviders.Tzdb.GetZoneOrNull(zone) ?? DateTimeZone.Utc).ToInstant();

    public Instant Ends(string zone) => Starts(zone) + Duration.FromMinutes(Minutes);

    /// <summary>How long the room's link outlasts the meeting, and the last act on its clock.</summary>
    public static readonly Duration RoomLinkOutlasts = Duration.FromHours(12);

    /// <summary>When the room's link ends by itself, so that one passed on shows nothing a day later.</summary>
    /// <param name="zone">The course's time zone.</param>
    public Instant RoomUntil(string zone)
    {
        var end = Ends(zone);
        return (Clock is [.., { At: var last }] && last > end ? last : end) + RoomLinkOutlasts;
    }
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

/// <summary>Where one person sits at a meeting, seen from the stand.</summary>
public sealed class Seating
{
    public int MeetingId { get; set; }
    public Meeting Meeting { get; set; } = null!;
    public int PersonId { get; set; }
    public double Azimuth { get; set; }
    public double Distance { get; set; }
    public double EyeHeight { get; set; }
}

/// <summary>A pose card kept with a pose of a meeting, by whoever read it: the instructor's judges, a student's own readings
/// tell misread from misdrawn.</summary>
public sealed class PoseReading
{
    public int Id { get; set; }
    public int MeetingId { get; set; }
    public Meeting Meeting { get; set; } = null!;

    /// <summary>Letter of the long pose in its meeting.</summary>
    public string Pose { get; set; } = "A";
    public int ReaderId { get; set; }
    public Person Reader { get; set; } = null!;
    public Core.Critiques.PoseCard Card { get; set; } = new();
    public Instant ReadAt { get; set; }
}
