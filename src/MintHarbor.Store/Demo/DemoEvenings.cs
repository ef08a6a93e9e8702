using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Rooms;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Demo;

/// <summary>What evenings leave behind: the room as it was measured, who sat where and was there, what was said, what overran; and
/// the rest of the term with a pose that goes on.</summary>
internal sealed class DemoEvenings(HarborContext db, Person instructor)
{
    private static readonly RoomPlan Loft = new(11, 9, new(5.5, 3))
    {
        Lamp = new(3.6, 1),
        Doors = [new(new(0, 7.4)), new(new(10.2, 0))],
        Sockets = [new(11, 3), new(11, 7), new(3, 9)],
        Most = 20,
    };

    /// <param name="at">Sets the clock of the actions.</param>
    public async Task Load(Course course, IReadOnlyList<Meeting> meetings, Func<Instant, IClock> at, DateTimeZone zone)
    {
        var rooms = new RoomActions(db);
        course = await db.Courses.SingleAsync(c => c.Id == course.Id);
        await rooms.Save(course, Loft with { Spots = RoomLayout.Lay(Loft, 16, low: 5) });
        foreach (
            var (name, hand, needs) in new[]
            {
                ("Bram Sedge", Hand.Left, Array.Empty<string>()),
                ("Odile Marsh", Hand.Right, ["low"]),
                ("Hollis Brae", Hand.Right, ["socket"]),
                ("Tove Arkle", Hand.Left, ["near"]),
            }
        )
            await rooms.SetStudent(await db.Memberships.SingleAsync(m => m.CourseId == course.Id && m.Person.Name == name), hand, needs);
        var students = await db
            .Memberships.AsNoTracking()
            .Include(m => m.Person)
            .Where(m => m.CourseId == course.Id && m.Role == CourseRole.Student)
            .OrderBy(m => m.Seat)
            .ToListAsync();
        var figure = new StudioFigure();
        foreach (var (m, n) in meetings.Take(5).Select((m, n) => (m, n)))
        {
            var meeting = await db.Meetings.SingleAsync(x => x.Id == m.Id);
            var evening = new EveningActions(
                db,
                new(db),
                at((meeting.Date + meeting.StartsAt).InZoneLeniently(zone).ToInstant() + Duration.FromMinutes(20))
            );
            // The evening whose sheets are critiqued keeps the seats that those drew from.
            if (n != 3)
                await rooms.SeatClass(
                    course,
                    meeting,
                    figure.Model(
                        "male",
                        FigureCatalogue.Pose(PoseActions.LongPoseOf(meeting)),
                        Drapery.For(course.Minors, course.Minors),
                        StudioFigure.Thumb
                    )
                );
            if (n == 4)
                continue;
            foreach (var (s, k) in students.Select((s, k) => (s, k)))
            {
                await evening.Attend(meeting, s.PersonId, (k + n) % 7 != 5 && !(s.Person.Name is "Greta Sands" or "Rafe Tolley" && n > 1));
                if ((k + n) % 3 == 0)
                    await evening.Tick(meeting, s.PersonId, EyeTicks.All[(k + (2 * n)) % EyeTicks.All.Count].Id, true);
            }
        }
        var last = await db.Meetings.SingleAsync(m => m.Id == meetings[3].Id);
        var start = (last.Date + last.StartsAt).InZoneLeniently(zone).ToInstant();
        foreach (
            var (minute, who, fault, place, text, k) in new (int, string?, string?, string, string, int)[]
            {
                (22, "Casper Lowe", "hairy-line", "outline of the back", "One stroke from the shoulder, three times.", 1),
                (48, "Bram Sedge", "leaning", "whole figure", "", 2),
                (63, null, null, "", "Everybody: look at the standing hip before the head.", 3),
                (71, "Dara Quist", "outline-only", "trunk", "Where is the ribcage under it?", 4),
                (96, "Maren Holt", "head-large", "head", "", 5),
            }
        )
            await new EveningActions(db, new(db), at(start + Duration.FromMinutes(minute))).Keep(
                course,
                last,
                instructor.Id,
                new(
                    new Guid(k, 0, 0, new byte[8]),
                    students.FirstOrDefault(s => s.Person.Name == who)?.PersonId,
                    fault,
                    place,
                    text,
                    start + Duration.FromMinutes(minute)
                ),
                null
            );
    }

    /// <summary>Set-up took longer than planned, twice over: the next plan allows for it.</summary>
    public async Task Overrun(Course course, IReadOnlyList<Meeting> meetings, Func<Instant, IClock> at, DateTimeZone zone)
    {
        foreach (var (n, minutes) in new[] { (1, 4), (2, 3), (3, 4) })
        {
            var meeting = await db.Meetings.SingleAsync(m => m.Id == meetings[n].Id);
            var nine = (meeting.Date + meeting.StartsAt).InZoneLeniently(zone).ToInstant() + Duration.FromMinutes(9);
            for (var k = 0; k < minutes; k++)
                await new SessionActions(db, at(nine + Duration.FromSeconds(5 * k))).Act(meeting, ClockAct.AddMinute);
        }
    }

    /// <summary>The rest of the term by the weekly rule, a holiday left out, and a pose of six hours in it; a template to begin from.</summary>
    public async Task Term(Course course, Meeting next, Func<Instant, IClock> at, Instant now)
    {
        var plans = new PlanActions(db, at(now));
        course = await db.Courses.SingleAsync(c => c.Id == course.Id);
        var term = new TermActions(db, plans);
        await term.SetCalendar(course, [new(next.Date.PlusWeeks(2).PlusDays(-1), next.Date.PlusWeeks(2).PlusDays(3), "Harbour fair")], []);
        await plans.SaveTemplate(course, await db.Meetings.SingleAsync(m => m.Id == next.Id), "Quick, then one long", instructor.Name);
        await term.Plan(
            course,
            new(next.Date.PlusWeeks(1), course.StartsAt, course.Minutes, 1, 4),
            next.Request.Wishing(w => w with { Purpose = Purpose.Construction, Shape = "lengthening", LongPose = null, Seed = 60 }) with
            {
                Laid = [],
            },
            false
        );
        var (pose, _) = await plans.BeginLongPose(course, "leanblock", 4, next.Date.PlusWeeks(3), instructor.Name);
        await plans.MarkLongPose(
            course,
            pose.Id,
            "both heels and the block's front corners, white tape",
            "left, 45° up, 2.2 m from the stand",
            "easel legs taped, names on the tape"
        );
    }

    /// <summary>A meeting that is running when the demo is first opened: moved to today, begun fifty minutes ago or as near to it as the
    /// day allows, the class there and one line kept.</summary>
    public async Task Running(Course course, Meeting meeting, Func<Instant, IClock> at, Instant now, DateTimeZone zone)
    {
        var local = now.InZone(zone).LocalDateTime;
        var minute = Math.Clamp((((local.Hour * 60) + local.Minute - 50) / 5) * 5, 0, (24 * 60) - meeting.Minutes);
        // On the night that has no such hour the one before it stands.
        while (zone.MapLocal(local.Date + LocalTime.FromMinutesSinceMidnight(minute)).Count == 0)
            minute -= 60;
        course = await db.Courses.SingleAsync(c => c.Id == course.Id);
        meeting = await db.Meetings.SingleAsync(m => m.Id == meeting.Id);
        await new TermActions(db, new PlanActions(db, at(now))).Move(
            course,
            meeting,
            local.Date,
            LocalTime.FromMinutesSinceMidnight(minute)
        );
        var begun = meeting.Starts(course.Zone);
        await new SessionActions(db, at(begun)).Act(meeting, ClockAct.Start);
        foreach (
            var (id, n) in (
                await db
                    .Memberships.Where(m => m.CourseId == course.Id && m.Role == CourseRole.Student)
                    .OrderBy(m => m.Seat)
                    .Select(m => m.PersonId)
                    .ToListAsync()
            ).Select((id, n) => (id, n))
        )
            await new EveningActions(db, new(db), at(begun + Duration.FromMinutes(4))).Attend(meeting, id, n != 5);
        await new EveningActions(db, new(db), at(now)).Keep(
            course,
            meeting,
            instructor.Id,
            new(new Guid(9, 0, 0, new byte[8]), null, null, "", "Everybody: step back before the eye is drawn.", now),
            null
        );
    }
}
