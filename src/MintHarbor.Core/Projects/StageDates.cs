using MintHarbor.Core.Sessions;
using NodaTime;

namespace MintHarbor.Core.Projects;

/// <summary>A stretch of time in which is drawn.</summary>
/// <param name="Date">The meeting, or for time at home the day until which it lasts.</param>
public sealed record DrawingTime(LocalDate Date, int Minutes, bool AtHome = false);

/// <param name="Minutes">Net minutes of the stage, the shares of them exact to a whole minute.</param>
/// <param name="From">Meeting in which it begins.</param>
/// <param name="Due">Meeting by whose end it is done.</param>
public sealed record StageDate(string StageId, int Minutes, LocalDate From, LocalDate Due)
{
    /// <summary>Minutes of it that are drawn at home.</summary>
    public int AtHome { get; init; }
}

/// <summary>Dates worked back from the end of a project over the course's meetings.</summary>
public static class StageDates
{
    public const int MostMeetings = 40,
        MostHomeMinutes = 1200;

    /// <summary>The last meetings on or before <paramref name="end"/>, and between them, and from the last to the end, what is drawn at
    /// home: a week's minutes by the days that are not off.</summary>
    /// <param name="meetings">Meetings with the minutes that are drawn in each, any order.</param>
    /// <param name="used">How many of the last meetings the project takes.</param>
    /// <param name="homeAWeek">Minutes a week at home; 0 where all is drawn in the room.</param>
    /// <exception cref="InputException">No meeting lies on or before the end.</exception>
    public static IReadOnlyList<DrawingTime> Times(
        IReadOnlyList<(LocalDate Date, int NetMinutes)> meetings,
        LocalDate end,
        int used,
        int homeAWeek = 0,
        IReadOnlyList<DaysOff>? off = null
    )
    {
        var taken = meetings
            .Where(m => m.Date <= end && m.NetMinutes > 0)
            .OrderByDescending(m => m.Date)
            .Take(used)
            .OrderBy(m => m.Date)
            .ToList();
        if (taken.Count == 0)
            throw new InputException("no meeting of the course lies on or before the end", "end", "a date on or after a planned meeting");
        var times = new List<DrawingTime>();
        foreach (var (m, next) in taken.Zip(taken.Skip(1).Select(n => n.Date).Append(end)))
        {
            times.Add(new(m.Date, m.NetMinutes));
            var home = homeAWeek * Free(m.Date, next) / 7;
            if (home > 0)
                times.Add(new(next, home, true));
        }
        return times;

        int Free(LocalDate from, LocalDate until) =>
            Enumerable
                .Range(1, Math.Max(0, Period.DaysBetween(from, until)))
                .Count(d => off is null || !off.Any(o => o.Covers(from.PlusDays(d))));
    }

    /// <summary>The last time closes the last stage; each stage before it takes what its share of the minutes wants, counted backwards.</summary>
    public static IReadOnlyList<StageDate> WorkBack(IReadOnlyList<StageTemplate> stages, IReadOnlyList<DrawingTime> times)
    {
        var total = times.Sum(t => t.Minutes);
        var shares = stages.Sum(s => s.Share);
        var result = new List<StageDate>();
        int done = 0,
            share = 0;
        foreach (var s in stages)
        {
            share += s.Share;
            // Cumulative shares are rounded, so that the stages' minutes add up to the whole.
            var until = (int)Math.Round((double)total * share / shares, MidpointRounding.AwayFromZero);
            result.Add(new(s.Id, until - done, At(done + 1), At(until)) { AtHome = Home(done, until) });
            done = until;
        }
        return result;

        LocalDate At(int minute)
        {
            var run = 0;
            foreach (var t in times)
            {
                run += t.Minutes;
                if (minute <= run)
                    return t.Date;
            }
            return times[^1].Date;
        }

        int Home(int from, int until)
        {
            int run = 0,
                home = 0;
            foreach (var t in times)
            {
                if (t.AtHome)
                    home += Math.Max(0, Math.Min(until, run + t.Minutes) - Math.Max(from, run));
                run += t.Minutes;
            }
            return home;
        }
    }
}
