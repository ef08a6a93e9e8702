using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>Meetings before they begin: composed, changed, kept as templates, moved.</summary>
public sealed class PlanActions(HarborContext db, IClock clock)
{
    /// <summary>Timetables that are kept before the one that holds.</summary>
    internal const int MostUndo = 12;

    private const int Years = 5,
        MostTemplates = 60;

    /// <summary>What a course knows when a meeting is planned: what the last ones held and took, its own poses, what its sheets get
    /// wrong most. Three queries.</summary>
    /// <param name="Last">The last meeting's timetable, without what belonged to its evening.</param>
    public sealed record Learned(PlanKnown Known, IReadOnlyList<IReadOnlyList<Overrun>> Took, PlanRequest? Last);

    public async Task<Learned> Know(Course course, LocalDate date)
    {
        var past = await db
            .Meetings.AsNoTracking()
            .Where(m => m.CourseId == course.Id && m.Date < date)
            .OrderByDescending(m => m.Date)
            .Take(12)
            .Select(m => new Meeting
            {
                Plan = m.Plan,
                Acts = m.Acts,
                Request = m.Request,
            })
            .ToListAsync();
        var own = await db.CoursePoses.AsNoTracking().Where(p => p.CourseId == course.Id).OrderBy(p => p.Id).Take(60).ToListAsync();
        var now = clock.GetCurrentInstant();
        return new(
            new()
            {
                Minors = course.Minors,
                Weak = [.. (await Weak(course)).Take(2)],
                History = [.. past.Select((p, n) => PastMeeting.Of(n + 1, p.Plan))],
                OwnPoses = [.. own.Select(o => StudioPose.Of(PoseActions.Read(o)))],
                Pay = course.Pay,
            },
            [.. past.Select(p => Overruns.Of(p.Plan.Items, p.Clock, now)).OfType<IReadOnlyList<Overrun>>()],
            past.Count > 0 ? Bare(past[0]) : null
        );
    }

    /// <summary>A request with what the course knows put into it; the rung, and minutes that it names itself, stay.</summary>
    public static PlanRequest Informed(Course course, Learned learned, PlanRequest request)
    {
        double? Took(ItemKind kind, int usual) => Overruns.Learned(kind, learned.Took, usual);
        var (before, minutes) = (request.Known, request.Wish.Minutes);
        return request.Wishing(w => w with { Medium = w.Medium ?? (course.Medium == "" ? null : course.Medium) }) with
        {
            Known = ByShelf(learned.Known, course) with
            {
                Rung = before.Rung,
                SetUpMinutes = before.SetUpMinutes ?? Took(ItemKind.SetUp, minutes >= 90 ? 10 : 5),
                ReviewMinutes = before.ReviewMinutes ?? Took(ItemKind.Review, minutes >= 120 ? 15 : 10),
                PackUpMinutes = before.PackUpMinutes,
                Who = before.Who,
            },
        };
    }

    /// <summary>The same with the course's own exercises and limits.</summary>
    internal static PlanKnown ByShelf(PlanKnown known, Course course) =>
        known with
        {
            Exercises = course.OwnShelf is { Exercises.Count: > 0 } own ? own.Exercises : null,
            Timing = course.OwnShelf is { Timing.Count: > 0 } ? course.Shelf.Timing : null,
        };

    /// <summary>Rules that the critiques of the last five weeks name, the commonest first.</summary>
    public async Task<IReadOnlyList<string>> Weak(Course course)
    {
        var named = await NamedFaults.Since(db, course.Id, clock.GetCurrentInstant() - Duration.FromDays(35));
        return
        [
            .. named
                .Select(n => (n.Sheet, Rule: Faults.Find(n.Fault)?.Rule))
                .Where(n => n.Rule is not null)
                .Distinct()
                .GroupBy(n => n.Rule!)
                .OrderByDescending(g => g.Count())
                .ThenBy(g => g.Key, StringComparer.Ordinal)
                .Select(g => g.Key),
        ];
    }

    /// <summary>Plans and keeps a meeting, or returns why it can't be. Of several timetables the first is kept.</summary>
    public async Task<(Meeting? Meeting, IReadOnlyList<Cannot> Cannot)> Plan(
        Course course,
        LocalDate date,
        LocalTime startsAt,
        PlanRequest request,
        bool online = false
    )
    {
        request = request.Knowing(k => ByShelf(k, course) with { Minors = course.Minors });
        CheckDate(course, date, startsAt, request.Wish.Minutes);
        await CheckFree(course, date, startsAt, request.Wish.Minutes);
        var result = Planner.Plan(request);
        if (result.Proposals.Count == 0)
            return (null, result.Cannot);
        var meeting = new Meeting
        {
            CourseId = course.Id,
            Number = 1 + (await db.Meetings.Where(m => m.CourseId == course.Id).MaxAsync(m => (int?)m.Number) ?? 0),
            Date = date,
            StartsAt = startsAt,
            Minutes = request.Wish.Minutes,
            Request = request.Wishing(w => w with { Shape = result.Proposals[0].Shape == Shapes.Laid ? null : result.Proposals[0].Shape }),
            Plan = result.Proposals[0],
            Online = online,
            RoomSecret = Secrets.New(),
        };
        db.Meetings.Add(meeting);
        await db.SaveChangesAsync();
        return (meeting, []);
    }

    /// <summary>A meeting of another course in the same room, just before or just after.</summary>
    public sealed record Neighbour(string Course, ModelKind Model, bool Before);

    /// <summary>Minutes between two meetings under which what stands in the room stays.</summary>
    private const int StaysMinutes = 20;

    /// <summary>Meetings one after another in a room, of courses that share an instructor: what they draw from alike is set up and packed up once.</summary>
    public async Task<IReadOnlyList<Neighbour>> Neighbours(Course course, LocalDate date, LocalTime startsAt, int minutes)
    {
        if (course.Room == "")
            return [];
        var that = await db
            .Meetings.AsNoTracking()
            .Where(m =>
                m.Date == date
                && m.CourseId != course.Id
                && !m.Online
                && m.Course.Room == course.Room
                && m.Course.Members.Any(o =>
                    o.Role == CourseRole.Instructor
                    && db.Memberships.Any(p => p.CourseId == course.Id && p.PersonId == o.PersonId && p.Role == CourseRole.Instructor)
                )
            )
            .Select(m => new
            {
                m.Course.Name,
                m.Request,
                m.StartsAt,
                m.Minutes,
            })
            .Take(20)
            .ToListAsync();
        static long Minute(LocalTime t) => t.TickOfDay / NodaConstants.TicksPerMinute;
        var from = Minute(startsAt);
        return
        [
            .. that.Where(m => from - Minute(m.StartsAt) - m.Minutes is >= 0 and <= StaysMinutes)
                .Select(m => new Neighbour(m.Name, m.Request.Wish.Model, true)),
            .. that.Where(m => Minute(m.StartsAt) - from - minutes is >= 0 and <= StaysMinutes)
                .Select(m => new Neighbour(m.Name, m.Request.Wish.Model, false)),
        ];
    }

    /// <summary>A request whose set-up stands from the meeting before, or stays for the one after: as little of it as may be.</summary>
    public static PlanRequest Shared(PlanRequest request, IReadOnlyList<Neighbour> neighbours)
    {
        var rules = request.Known.Rules;
        bool Stands(bool before) => neighbours.Any(n => n.Before == before && n.Model == request.Wish.Model);
        return request.Knowing(k =>
            k with
            {
                SetUpMinutes = Stands(true) ? rules.SetUpMin : k.SetUpMinutes,
                PackUpMinutes = Stands(false) ? rules.PackUpMin : k.PackUpMinutes,
            }
        );
    }

    /// <summary>A class is in one meeting at a time.</summary>
    private async Task CheckFree(Course course, LocalDate date, LocalTime startsAt, int minutes)
    {
        var that = await db
            .Meetings.Where(m => m.CourseId == course.Id && m.Date == date)
            .Select(m => new
            {
                m.Number,
                m.StartsAt,
                m.Minutes,
            })
            .ToListAsync();
        // Meetings end before midnight.
        static long Minute(LocalTime t) => t.TickOfDay / NodaConstants.TicksPerMinute;
        if (
            that.Find(m => Minute(m.StartsAt) < Minute(startsAt) + minutes && Minute(startsAt) < Minute(m.StartsAt) + m.Minutes) is
            { } other
        )
            throw new InputException(
                $"meeting {other.Number} is at that hour already",
                "Date",
                "another day or hour, or that meeting changed"
            );
    }

    /// <exception cref="InputException">A meeting over midnight, years away, or in an hour that the day hasn't got.</exception>
    public void CheckDate(Course course, LocalDate date, LocalTime startsAt, int minutes)
    {
        if (startsAt.TickOfDay / NodaConstants.TicksPerMinute + minutes > 24 * 60)
            throw new InputException(
                $"the meeting would end after midnight",
                "Minutes",
                $"up to {(24 * 60) - (startsAt.TickOfDay / NodaConstants.TicksPerMinute)} minutes from {startsAt.ToString("HH:mm", CultureInfo.InvariantCulture)}"
            );
        var zone = DateTimeZoneProviders.Tzdb[course.Zone];
        var today = clock.GetCurrentInstant().InZone(zone).Date;
        if (date < today.PlusYears(-Years) || date > today.PlusYears(Years))
            throw new InputException($"a meeting in the year {date.Year}", "Date", $"a date within {Years} years of today");
        // The night on which the clocks go forward has no such hour; the one on which they go back has it twice, and the first counts.
        if (zone.MapLocal(date + startsAt).Count == 0)
            throw new InputException(
                $"there is no {startsAt.ToString("HH:mm", CultureInfo.InvariantCulture)} on that day: the clocks go forward",
                "StartsAt",
                "an hour that the day has"
            );
    }

    /// <summary>Changes one line. What it breaks leaves the timetable as it was and is returned; mended, the rest is planned anew round
    /// the changed line and all that is held.</summary>
    public async Task<IReadOnlyList<Cannot>> Edit(Meeting meeting, PlanEdit edit, bool mend = false)
    {
        if (meeting.Begun)
            throw new InputException("the meeting has begun; change it in the room", "index", "a meeting that has not begun");
        var request = mend
            ? PlanEdits.Mend(meeting.Request, meeting.Plan.Items, edit)
            : PlanEdits.Apply(meeting.Request, meeting.Plan.Items, edit);
        var result = Planner.Plan(request);
        if (result.Proposals.Count == 0)
            return result.Cannot;
        // The timetable is kept as it lies, so that a later change touches nothing else.
        await Keep(meeting, request.With(result.Proposals[0].Items), result.Proposals[0]);
        return [];
    }

    private async Task Keep(Meeting meeting, PlanRequest request, Proposal plan)
    {
        meeting.Undo = [.. meeting.Undo.TakeLast(MostUndo - 1), meeting.Request.With(meeting.Plan.Items)];
        await Become(meeting, request, plan);
    }

    /// <summary>Gives a meeting another timetable; whoever is seated sees another side where the long pose was turned.</summary>
    private async Task Become(Meeting meeting, PlanRequest request, Proposal plan)
    {
        var by = plan.Facing - meeting.Plan.Facing;
        (meeting.Request, meeting.Plan) = (request, plan);
        if (Math.Abs(by) > 1e-9)
            foreach (var seat in await db.Seatings.Where(s => s.MeetingId == meeting.Id).ToListAsync())
                seat.Azimuth = Math.IEEERemainder(seat.Azimuth - by, 360);
        await db.SaveChangesAsync();
    }

    public async Task Undo(Meeting meeting)
    {
        if (meeting.Undo.Count == 0 || meeting.Begun)
            return;
        var request = meeting.Undo[^1];
        meeting.Undo = [.. meeting.Undo.SkipLast(1)];
        await Become(meeting, request, request.Laid.Count > 0 ? Planner.Lay(request) : Planner.Plan(request).Proposals[0]);
    }

    /// <summary>Keeps a timetable under a name; the same name is written over.</summary>
    public async Task SaveTemplate(Course course, Meeting meeting, string? name, string by)
    {
        name = Names.Checked(name, "name", 60);
        var template = await db.Templates.SingleOrDefaultAsync(t => t.CourseId == course.Id && t.Name == name);
        if (template is null)
        {
            if (await db.Templates.CountAsync(t => t.CourseId == course.Id) >= MostTemplates)
                throw new InputException($"the course keeps {MostTemplates} templates", "name", "the name of one that is there");
            db.Templates.Add(template = new() { CourseId = course.Id, Name = name });
        }
        (template.Request, template.By, template.At) = (Bare(meeting), by, clock.GetCurrentInstant());
        await db.SaveChangesAsync();
    }

    /// <summary>A meeting's timetable without what belongs to its evening.</summary>
    public static PlanRequest Bare(Meeting meeting) =>
        meeting.Request.With([.. meeting.Plan.Items.Select(i => i with { Held = false })]).Knowing(k => k with { History = [], Weak = [] });

    /// <summary>Begins a pose that goes on over meetings, and puts it into those that come, as many as it takes.</summary>
    public async Task<(LongPose Pose, LongPosePlan Plan)> BeginLongPose(
        Course course,
        string poseId,
        double hours,
        LocalDate from,
        string by
    )
    {
        if (await db.LongPoses.CountAsync(p => p.CourseId == course.Id) >= 60)
            throw new InputException("the course keeps 60 long poses", "hours", "go on with one that is there");
        var meetings = await db.Meetings.Where(m => m.CourseId == course.Id && m.Date >= from).OrderBy(m => m.Date).Take(60).ToListAsync();
        meetings = [.. meetings.Where(m => !m.Begun && m.LongPoseId is null && m.Request.Wish.HasLiveModel)];
        if (meetings.Count == 0)
            throw new InputException("no meeting with a model is planned from that day on", "from", "plan the meetings first");
        var plan = LongPosePlan.Of(meetings[0].Request.Wishing(w => w with { Minutes = meetings[0].Minutes }), hours);
        var pose = new LongPose
        {
            CourseId = course.Id,
            PoseId = poseId,
            Hours = hours,
            By = by,
            At = clock.GetCurrentInstant(),
        };
        db.LongPoses.Add(pose);
        foreach (var m in meetings.Take(plan.Meetings.Count))
        {
            var request = m
                .Request.Afresh()
                .Knowing(k => k with { Rung = null })
                .Wishing(w => w with { Approach = Approach.LongFirst, Shape = "one", LongPose = poseId, Include = [] });
            var result = Planner.Plan(request);
            if (result.Proposals.Count == 0)
                throw new InputException(result.Cannot[0].Says, "pose", "a pose that can be held for a sitting");
            m.LongPose = pose;
            m.Undo = [.. m.Undo.TakeLast(MostUndo - 1), m.Request.With(m.Plan.Items)];
            (m.Request, m.Plan) = (request, result.Proposals[0]);
        }
        await db.SaveChangesAsync();
        return (pose, plan);
    }

    /// <summary>What must stand where it stood, for the next meeting to read.</summary>
    public async Task MarkLongPose(Course course, int id, string? marks, string? lamp, string? seats)
    {
        var pose = await db.LongPoses.SingleOrDefaultAsync(p => p.Id == id && p.CourseId == course.Id)
            ?? throw new InputException("no such long pose", "pose", "one of the course");
        foreach (var (text, field) in new[] { (marks, "marks"), (lamp, "lamp"), (seats, "seats") })
            if (text is { Length: > 300 })
                throw new InputException($"a note of {text.Length} letters", field, "up to 300 letters");
        (pose.FloorMarks, pose.Lamp, pose.Seats) = ((marks ?? "").Trim(), (lamp ?? "").Trim(), (seats ?? "").Trim());
        await db.SaveChangesAsync();
    }
}
