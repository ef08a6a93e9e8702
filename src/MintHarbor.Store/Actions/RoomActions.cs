using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Rooms;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Model;

namespace MintHarbor.Store.Actions;

/// <summary>A student of the course as far as a seat depends on them.</summary>
public sealed record SeatedStudent(
    int Id,
    string Name,
    Hand Hand,
    IReadOnlyList<string> Needs,
    IReadOnlyDictionary<string, int> Had,
    Seating? Seating
);

/// <summary>The studio to scale, and who sits where in it.</summary>
public sealed class RoomActions(HarborContext db)
{
    public static RoomPlan Of(Course course) => course.Studio ?? RoomPlan.Usual;

    public async Task Save(Course course, RoomPlan room)
    {
        course.Studio = room.Checked();
        await db.SaveChangesAsync();
    }

    public async Task SetStudent(Membership student, Hand hand, IReadOnlyList<string> needs)
    {
        if (needs.FirstOrDefault(n => !SeatPlanner.Needs.Contains(n)) is { } need)
            throw new InputException($"unknown need '{need}'", "needs", string.Join(" | ", SeatPlanner.Needs));
        (student.Hand, student.Needs) = (hand, [.. needs.Distinct()]);
        await db.SaveChangesAsync();
    }

    /// <summary>Everybody of the class with the views they had at earlier meetings and tonight's seat. Two queries.</summary>
    public async Task<IReadOnlyList<SeatedStudent>> Class(Course course, Meeting meeting)
    {
        var students = await db
            .Memberships.AsNoTracking()
            .Where(m => m.CourseId == course.Id && m.Role == CourseRole.Student)
            .OrderBy(m => m.Seat)
            .ThenBy(m => m.Person.Name)
            .Select(m => new
            {
                m.PersonId,
                m.Person.Name,
                m.Hand,
                m.Needs,
            })
            .ToListAsync();
        var seatings = await db
            .Seatings.AsNoTracking()
            .Where(s => s.Meeting.CourseId == course.Id && s.Meeting.Date <= meeting.Date)
            .ToListAsync();
        var by = seatings.ToLookup(s => s.PersonId);
        return
        [
            .. students.Select(s => new SeatedStudent(
                s.PersonId,
                s.Name,
                s.Hand,
                s.Needs,
                by[s.PersonId]
                    .Where(x => x.MeetingId != meeting.Id)
                    .GroupBy(x => SeatPlanner.View(x.Azimuth))
                    .ToDictionary(g => g.Key, g => g.Count()),
                by[s.PersonId].FirstOrDefault(x => x.MeetingId == meeting.Id)
            )),
        ];
    }

    /// <summary>Seats the class: pins stay, needs are kept, views even out. What can't be is returned and nobody is moved.</summary>
    /// <param name="model">Tonight's long pose; null where nobody poses.</param>
    public async Task<SeatResult> SeatClass(Course course, Meeting meeting, FigureModel? model)
    {
        if (!meeting.IsSeated)
            throw new InputException("this meeting has no seats round a stand", "meeting", "a meeting in a room, round a stand");
        var room = Of(course);
        var paper = PaperSize.Parse(course.Paper);
        var sitters = Sitters(room, await Class(course, meeting), await Kept(meeting));
        var result = SeatPlanner.Seat(room, sitters, model, meeting.Plan.Facing, paper.WidthMm, paper.HeightMm);
        if (result.Cannot.Count > 0)
            return result;
        var kept = await db.Seatings.Where(s => s.MeetingId == meeting.Id).ToDictionaryAsync(s => s.PersonId);
        foreach (var seat in result.Seats.Where(s => s.Student is not null))
        {
            var id = int.Parse(seat.Student!, System.Globalization.CultureInfo.InvariantCulture);
            if (!kept.TryGetValue(id, out var seating))
                db.Seatings.Add(seating = new() { MeetingId = meeting.Id, PersonId = id });
            (seating.Azimuth, seating.Distance, seating.EyeHeight, seating.Spot) = (
                seat.Azimuth,
                seat.Distance,
                seat.EyeHeight,
                seat.Spot.Id
            );
        }
        await db.SaveChangesAsync();
        return result;
    }

    /// <summary>The class as the seating reads it. A pin to a place that the room has lost is a pin no more, and of two to one place
    /// the one set by hand holds.</summary>
    /// <param name="kept">Places that a pose which goes on keeps, by student.</param>
    public static IReadOnlyList<Sitter> Sitters(RoomPlan room, IReadOnlyList<SeatedStudent> students, IReadOnlyDictionary<int, string> kept)
    {
        var taken = new HashSet<string>();
        var pins = new Dictionary<int, string>();
        foreach (
            var (id, spot) in students
                .Where(s => s.Seating is { Pinned: true, Spot: not null })
                .Select(s => (s.Id, s.Seating!.Spot!))
                .Concat(students.Where(s => kept.ContainsKey(s.Id)).Select(s => (s.Id, kept[s.Id])))
        )
            if (room.Spots.Any(p => p.Id == spot) && !pins.ContainsKey(id) && taken.Add(spot))
                pins[id] = spot;
        return
        [
            .. students.Select(s => new Sitter($"{s.Id}", s.Hand)
            {
                Needs = s.Needs,
                Had = s.Had,
                Pin = pins.GetValueOrDefault(s.Id),
            }),
        ];
    }

    /// <summary>Where everybody sat when the long pose of this meeting was last drawn: a pose that goes on is drawn from one place.</summary>
    public async Task<IReadOnlyDictionary<int, string>> Kept(Meeting meeting)
    {
        if (meeting.LongPoseId is not { } pose)
            return new Dictionary<int, string>();
        var before = await db
            .Seatings.AsNoTracking()
            .Where(s => s.Meeting.LongPoseId == pose && s.Meeting.Date < meeting.Date && s.Spot != null)
            .Select(s => new
            {
                s.PersonId,
                s.Spot,
                s.Meeting.Date,
            })
            .ToListAsync();
        return before.GroupBy(s => s.PersonId).ToDictionary(g => g.Key, g => g.MaxBy(s => s.Date)!.Spot!);
    }

    /// <summary>Puts one student on a place by hand and pins them there; whoever sat there changes over.</summary>
    public async Task Pin(Course course, Meeting meeting, int person, string spotId, bool pinned)
    {
        var room = Of(course);
        var spots =
            room.Spots.Count > 0
                ? room.Spots
                : RoomLayout.Lay(room, await db.Memberships.CountAsync(m => m.CourseId == course.Id && m.Role == CourseRole.Student));
        var spot = spots.FirstOrDefault(s => s.Id == spotId)
            ?? throw new InputException($"there is no place '{spotId}'", "spot", string.Join(" | ", spots.Select(s => s.Id)));
        if (!await db.Memberships.AnyAsync(m => m.CourseId == course.Id && m.PersonId == person && m.Role == CourseRole.Student))
            throw new InputException("that is no student of the course", "person", "a student of the course");
        var all = await db.Seatings.Where(s => s.MeetingId == meeting.Id).ToListAsync();
        var mine = all.FirstOrDefault(s => s.PersonId == person);
        if (mine is null)
            db.Seatings.Add(mine = new() { MeetingId = meeting.Id, PersonId = person });
        if (
            all.FirstOrDefault(s => s.Spot == spotId && s.PersonId != person) is { } other
            && mine.Spot is { } left
            && spots.FirstOrDefault(s => s.Id == left) is { } back
        )
            Set(other, back, room, meeting);
        else if (all.FirstOrDefault(s => s.Spot == spotId && s.PersonId != person) is { } pushed)
            db.Seatings.Remove(pushed);
        Set(mine, spot, room, meeting);
        mine.Pinned = pinned;
        await db.SaveChangesAsync();
    }

    private static void Set(Seating seating, Spot spot, RoomPlan room, Meeting meeting)
    {
        var seen = room.Seen(spot, meeting.Plan.Facing);
        (seating.Spot, seating.Azimuth, seating.Distance, seating.EyeHeight) = (spot.Id, seen.Azimuth, seen.Distance, seen.EyeHeight);
    }
}
