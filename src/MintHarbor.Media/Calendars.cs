using System.Text;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using MintHarbor.Core;
using MintHarbor.Core.Sessions;
using NodaTime;

namespace MintHarbor.Media;

/// <summary>One event of the feed.</summary>
/// <param name="Uid">Stable, so that a calendar that reads again moves what it has.</param>
/// <param name="Minutes">0 for a moment: a due date.</param>
public sealed record FeedEvent(
    string Uid,
    LocalDateTime Starts,
    int Minutes,
    string Zone,
    string Summary,
    string Description,
    string Place,
    int Sequence = 0
);

/// <summary>iCalendar (RFC 5545), read and written.</summary>
public static class Calendars
{
    public const int MostBytes = 2 << 20,
        MostEvents = 2000;

    /// <summary>Days off and bookings between two dates, recurrences and exceptions worked out. Events of whole days are days off; those
    /// with an hour are bookings, in the course's time zone.</summary>
    /// <exception cref="InputException">Not a calendar, or one too large.</exception>
    public static (IReadOnlyList<DaysOff> Off, IReadOnlyList<Booking> Bookings) Read(
        byte[] bytes,
        LocalDate from,
        LocalDate to,
        DateTimeZone zone
    )
    {
        const string accepted = "an iCalendar file (.ics) up to 2 MB";
        if (bytes.Length > MostBytes)
            throw new InputException($"a calendar of {Say.Number(bytes.Length / 1048576.0, 1)} MB", "Calendar", accepted);
        Calendar? calendar;
        try
        {
            var text = new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(bytes).TrimStart('\uFEFF');
            calendar = text.Contains("BEGIN:VCALENDAR", StringComparison.OrdinalIgnoreCase) ? Calendar.Load(text) : null;
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            throw new InputException($"the calendar can't be read: {e.Message.Split('\n')[0].Trim()}", "Calendar", accepted);
        }
        if (calendar is null)
            throw new InputException("the file is no calendar", "Calendar", accepted);
        var off = new List<DaysOff>();
        var bookings = new List<Booking>();
        var start = new CalDateTime(from.PlusDays(-60).ToDateOnly().ToDateTime(TimeOnly.MinValue), "UTC", true);
        try
        {
            foreach (var e in calendar.Events)
            {
                var name = (e.Summary ?? "").Trim() is { Length: > 0 } s ? s[..Math.Min(80, s.Length)] : "no name";
                foreach (var o in e.GetOccurrences(start).TakeWhile(o => Day(o.Period.StartTime) <= to).Take(MostEvents))
                {
                    if (off.Count + bookings.Count > MostEvents)
                        throw new InputException($"more than {MostEvents} events", "Calendar", accepted);
                    if (o.Period.StartTime.HasTime)
                    {
                        var (begin, end) = (Local(o.Period.StartTime, zone), Local(o.Period.EffectiveEndTime ?? o.Period.StartTime, zone));
                        if (end.Date >= from)
                            bookings.Add(new(begin, end, name));
                        continue;
                    }
                    // The end of an event of whole days is the day after its last (RFC 5545, 3.6.1).
                    var first = Day(o.Period.StartTime);
                    var last = o.Period.EffectiveEndTime is { } until ? Day(until).PlusDays(-1) : first;
                    if (last < first)
                        last = first;
                    if (last >= from)
                        off.Add(new(first, last, name));
                }
            }
        }
        catch (Exception e) when (e is not InputException and not OutOfMemoryException)
        {
            throw new InputException(
                $"the calendar has a date that can't be worked out: {e.Message.Split('\n')[0].Trim()}",
                "Calendar",
                accepted
            );
        }
        return (off, bookings);

        static LocalDate Day(CalDateTime t) => new(t.Value.Year, t.Value.Month, t.Value.Day);
    }

    private static LocalDateTime Local(CalDateTime t, DateTimeZone zone)
    {
        var plain = LocalDateTime.FromDateTime(t.Value);
        // A time without a zone is the reader's own (RFC 5545, 3.3.5).
        return t.IsFloating ? plain : Instant.FromDateTimeUtc(DateTime.SpecifyKind(t.AsUtc, DateTimeKind.Utc)).InZone(zone).LocalDateTime;
    }

    /// <summary>A feed that any calendar reads: every event in its own time zone, whose rules are written out.</summary>
    public static string Write(string name, IReadOnlyList<FeedEvent> events, Instant stamp)
    {
        var calendar = new Calendar { ProductId = "-//Mint Harbor//Sessions//EN", Version = "2.0" };
        calendar.AddProperty("X-WR-CALNAME", name);
        foreach (var zone in events.Select(e => e.Zone).Distinct())
        {
            var earliest = events.Where(e => e.Zone == zone).Min(e => e.Starts).ToDateTimeUnspecified().AddYears(-1);
            // An empty time zone would be read as UTC by some.
            calendar.AddTimeZone(VTimeZone.FromDateTimeZone(zone, earliest, false));
        }
        foreach (var e in events)
        {
            var begins = new CalDateTime(e.Starts.ToDateTimeUnspecified(), e.Zone, true);
            calendar.Events.Add(
                new CalendarEvent
                {
                    Uid = e.Uid,
                    DtStamp = new CalDateTime(stamp.ToDateTimeUtc(), "UTC", true),
                    Start = begins,
                    End = e.Minutes > 0 ? new CalDateTime(e.Starts.PlusMinutes(e.Minutes).ToDateTimeUnspecified(), e.Zone, true) : null,
                    Summary = e.Summary,
                    Description = e.Description.Length > 0 ? e.Description : null,
                    Location = e.Place.Length > 0 ? e.Place : null,
                    Sequence = e.Sequence,
                }
            );
        }
        return new CalendarSerializer().SerializeToString(calendar) ?? "";
    }
}
