using System.Text;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Evaluation;
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
    private const string Accepted = "an iCalendar file (.ics) up to 2 MB";

    /// <summary>Steps of a rule that give no date before it is given up: every 29th of February on a Monday takes some 150.</summary>
    private static readonly EvaluationOptions Patience = new() { MaxUnmatchedIncrementsLimit = 1000 };

    /// <summary>Days off and bookings between two dates, recurrences and exceptions worked out. Events of whole days are days off; those
    /// with an hour are bookings, in the course's time zone.</summary>
    /// <param name="over">When working it out has taken long enough: a small file can name dates without end.</param>
    /// <exception cref="InputException">Not a calendar, one too large, with a rule finer than a day, or not worked out in time.</exception>
    public static (IReadOnlyList<DaysOff> Off, IReadOnlyList<Booking> Bookings) Read(
        byte[] bytes,
        LocalDate from,
        LocalDate to,
        DateTimeZone zone,
        CancellationToken over = default
    )
    {
        if (bytes.Length > MostBytes)
            throw new InputException($"a calendar of {Say.Number(bytes.Length / 1048576.0, 1)} MB", "Calendar", Accepted);
        Calendar? calendar;
        try
        {
            var text = new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(bytes).TrimStart('\uFEFF');
            calendar = text.Contains("BEGIN:VCALENDAR", StringComparison.OrdinalIgnoreCase) ? Calendar.Load(text) : null;
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            throw new InputException($"the calendar can't be read: {e.Message.Split('\n')[0].Trim()}", "Calendar", Accepted);
        }
        if (calendar is null)
            throw new InputException("the file is no calendar", "Calendar", Accepted);
        var off = new List<DaysOff>();
        var bookings = new List<Booking>();
        var start = new CalDateTime(from.PlusDays(-60).ToDateOnly().ToDateTime(TimeOnly.MinValue), "UTC", true);
        try
        {
            foreach (var e in calendar.Events)
            {
                var name = (e.Summary ?? "").Trim() is { Length: > 0 } s ? s[..Math.Min(80, s.Length)] : "no name";
                CheckRules(e);
                foreach (var o in e.GetOccurrences(start, Patience).TakeWhile(o => Day(o.Period.StartTime) <= to).Take(MostEvents))
                {
                    if (over.IsCancellationRequested)
                        throw new InputException(
                            "the calendar takes too long to work out",
                            "Calendar",
                            "fewer events, or rules that begin later"
                        );
                    if (off.Count + bookings.Count > MostEvents)
                        throw new InputException($"more than {MostEvents} events", "Calendar", Accepted);
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
                Accepted
            );
        }
        return (off, bookings);

        static LocalDate Day(CalDateTime t) => new(t.Value.Year, t.Value.Month, t.Value.Day);
    }

    /// <summary>A studio is closed or let by the day or the hour; a rule by the second only keeps a machine busy.</summary>
    private static void CheckRules(CalendarEvent e)
    {
#pragma warning disable CS0618 // A file may still have several rules, and all of them are worked out.
        foreach (var r in e.RecurrenceRules)
#pragma warning restore CS0618
            if (r.Frequency < FrequencyType.Daily || r.BySecond.Count > 0 || r.ByMinute.Count > 0 || r.ByHour.Count > 1)
                throw new InputException(
                    $"the event '{e.Summary}' comes more often than once a day",
                    "Calendar",
                    "events that come by the day, week, month or year"
                );
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
