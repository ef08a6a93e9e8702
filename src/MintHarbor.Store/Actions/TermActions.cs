using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>The term's dates: a rule that lays them, a calendar they keep out of, and what moves along when one moves.</summary>
public sealed class TermActions(HarborContext db, PlanActions plans)
{
    /// <summary>Days off and bookings, read from a calendar; they take the place of those read before.</summary>
    public async Task SetCalendar(Course course, IReadOnlyList<DaysOff> off, IReadOnlyList<Booking> bookings)
    {
        (course.DaysOff, course.Bookings) = ([.. off], [.. bookings]);
        await db.SaveChangesAsync();
    }

    /// <summary>Plans a meeting on every free date of a weekly rule that has none yet.</summary>
    /// <returns>How many were planned, the dates that fell out, and why where none could be.</returns>
    public async Task<(int Planned, IReadOnlyList<TermDate> Out, IReadOnlyList<Cannot> Cannot)> Plan(
        Course course,
        WeeklyRule rule,
        PlanRequest request,
        bool online
    )
    {
        var dates = rule.Dates(course.DaysOff, course.Bookings);
        var fallen = dates.Where(d => d.Why is not null).ToList();
        if (dates.All(d => d.Why is not null))
        {
            var free = dates[^1].Date.PlusDays(1);
            for (var n = 0; n < 800 && Taken(course, free + rule.At, rule.Minutes) is not null; n++)
                free = free.PlusDays(1);
            return (
                0,
                fallen,
                [
                    new(
                        "holiday",
                        $"Every date of that rule falls on a day off or a booking, the first on {dates[0].Why}.",
                        new Dictionary<string, object?> { ["date"] = free.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) }
                    ),
                ]
            );
        }
        var taken = (await db.Meetings.Where(m => m.CourseId == course.Id).Select(m => m.Date).ToListAsync()).ToHashSet();
        var planned = 0;
        var learned = await plans.Know(course, dates[0].Date);
        foreach (var d in dates.Where(d => d.Why is null && !taken.Contains(d.Date)))
        {
            var (meeting, cannot) = await plans.Plan(
                course,
                d.Date,
                rule.At,
                PlanActions.Informed(course, learned, request).Wishing(w => w with { Seed = w.Seed + planned }),
                online
            );
            if (meeting is null)
                return (planned, fallen, cannot);
            // The next one knows of this one.
            learned = learned with { Known = learned.Known.After(meeting.Plan) };
            planned++;
        }
        return (planned, fallen, []);
    }

    /// <summary>Moves a meeting to another day and hour, and what was due when it began with it; with those after it, they move by as
    /// many days, past what their calendar takes to the same weekday after it, and keep their hours and their order.</summary>
    /// <returns>How many meetings moved, and how many due dates with them.</returns>
    public async Task<(int Meetings, int Dues)> Move(
        Course course,
        Meeting meeting,
        LocalDate date,
        LocalTime startsAt,
        bool following = false
    )
    {
        if (meeting.Begun)
            throw new InputException("the meeting has begun", "Date", "a meeting that has not begun");
        plans.CheckDate(course, date, startsAt, meeting.Minutes);
        if (Taken(course, date + startsAt, meeting.Minutes) is { } why)
            throw new InputException($"that day is off: {why}", "Date", "a day that is not off");
        var others = await db.Meetings.Where(m => m.CourseId == course.Id && m.Id != meeting.Id).OrderBy(m => m.Date).ToListAsync();
        var after = following ? others.FindAll(m => m.Date > meeting.Date && !m.Begun) : [];
        var stay = others.Except(after).Select(m => m.Date).ToHashSet();
        if (stay.Contains(date))
            throw new InputException("the course meets on that day already", "Date", "a day without a meeting");
        var to = new List<(Meeting Meeting, LocalDate Date, LocalTime At)> { (meeting, date, startsAt) };
        foreach (var m in after)
        {
            var last = to[^1];
            var day = m.Date + Period.Between(meeting.Date, date, PeriodUnits.Days);
            for (
                var n = 0;
                n < 60 && (day <= last.Date || stay.Contains(day) || Taken(course, day + m.StartsAt, m.Minutes) is not null);
                n++
            )
                day = day.PlusWeeks(1);
            // Two on one day stay on one day.
            to.Add((m, m.Date == last.Meeting.Date ? last.Date : day, m.StartsAt));
        }
        foreach (var (m, day, at) in to)
            plans.CheckDate(course, day, at, m.Minutes);
        var days = to.DistinctBy(t => t.Meeting.Date).ToDictionary(t => t.Meeting.Date, t => t.Date);
        var starts = to.ConvertAll(t =>
        {
            var was = t.Meeting.Starts(course.Zone);
            (t.Meeting.Date, t.Meeting.StartsAt) = (t.Date, t.At);
            return (Was: was, By: t.Meeting.Starts(course.Zone) - was);
        });
        var dues = await MoveDues(course, starts) + await ProjectActions.Follow(db, course, days, [meeting, .. others]);
        await db.SaveChangesAsync();
        return (to.Count, dues);
    }

    private async Task<int> MoveDues(Course course, List<(Instant Was, Duration By)> starts)
    {
        var moved = 0;
        var hour = Duration.FromHours(1);
        Instant from = starts.Min(s => s.Was) - hour,
            until = starts.Max(s => s.Was) + hour;
        foreach (
            var a in await db
                .Assignments.Where(a => a.CourseId == course.Id && a.DoneAt == null && a.Due >= from && a.Due <= until)
                .ToListAsync()
        )
        {
            var with = starts.FindIndex(s => a.Due >= s.Was - hour && a.Due <= s.Was + hour);
            if (with < 0 || starts[with].By == Duration.Zero)
                continue;
            a.Due += starts[with].By;
            moved++;
        }
        return moved;
    }

    /// <summary>Takes a meeting that has not begun out of the term, with its seats. One that sheets or notes belong to stays.</summary>
    public async Task Remove(Meeting meeting)
    {
        if (meeting.Begun)
            throw new InputException("the meeting has begun", "meeting", "a meeting that has not begun");
        if (await db.Sheets.CountAsync(s => s.MeetingId == meeting.Id) is > 0 and var sheets)
            throw new InputException(
                $"{Say.Plural(sheets, "sheet")} {(sheets == 1 ? "belongs" : "belong")} to it",
                "meeting",
                "a meeting without sheets"
            );
        if (await db.RoomNotes.CountAsync(n => n.MeetingId == meeting.Id) is > 0 and var notes)
            throw new InputException(
                $"{Say.Plural(notes, "line")} said in the room {(notes == 1 ? "belongs" : "belong")} to it",
                "meeting",
                "a meeting without notes"
            );
        db.Meetings.Remove(meeting);
        await db.SaveChangesAsync();
    }

    private static string? Taken(Course course, LocalDateTime from, int minutes) =>
        WeeklyRule.Taken(from, minutes, course.DaysOff, course.Bookings);
}
