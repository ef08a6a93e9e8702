using MintHarbor.Core.Sessions;
using NodaTime;

namespace MintHarbor.Core.Projects;

/// <summary>Whether a project's stages get the minutes they need at least.</summary>
/// <param name="Dates">As they would be; empty where no meeting lies before the end.</param>
/// <param name="Short">Stages that get less than they need, with what is missing, in minutes.</param>
/// <param name="Meetings">How many meetings would do; null where it fits, or where no number of them does.</param>
/// <param name="Ends">The end that goes with them: the one asked for, or the nearest later one.</param>
public sealed record ProjectFit(
    IReadOnlyList<StageDate> Dates,
    IReadOnlyList<(StageTemplate Stage, int Missing)> Short,
    int? Meetings = null,
    LocalDate? Ends = null
)
{
    /// <summary>Meetings that it takes: fewer than were asked for where the term has no more before the end.</summary>
    public int Taken { get; init; }
    public bool Fits => Dates.Count > 0 && Short.Count == 0;

    /// <summary>Said before it is opened: does it fit, and if not, what is the nearest that does? More meetings before the same end are
    /// nearer than a later end.</summary>
    public static ProjectFit Of(
        IReadOnlyList<StageTemplate> stages,
        IReadOnlyList<(LocalDate Date, int NetMinutes)> meetings,
        LocalDate end,
        int used,
        int homeAWeek = 0,
        IReadOnlyList<DaysOff>? off = null
    )
    {
        var asked = Try(end, used);
        if (asked.Fits)
            return asked;
        var drawn = meetings.Where(m => m.NetMinutes > 0).OrderBy(m => m.Date).ToList();
        var before = drawn.Count(m => m.Date <= end);
        for (var n = used + 1; n <= Math.Min(before, StageDates.MostMeetings); n++)
            if (Try(end, n).Fits)
                return asked with { Meetings = n, Ends = end };
        // A later end brings one meeting more at a time.
        for (var later = before; later < drawn.Count; later++)
        {
            var most = Math.Min(later + 1, StageDates.MostMeetings);
            for (var n = Math.Min(used, most); n <= most; n++)
                if (Try(drawn[later].Date, n).Fits)
                    return asked with { Meetings = n, Ends = drawn[later].Date };
        }
        return asked;

        ProjectFit Try(LocalDate until, int n)
        {
            if (!meetings.Any(m => m.Date <= until && m.NetMinutes > 0))
                return new([], []);
            var times = StageDates.Times(meetings, until, n, homeAWeek, off);
            var dates = StageDates.WorkBack(stages, times);
            return new(
                dates,
                [.. stages.Zip(dates).Where(x => x.Second.Minutes < x.First.Least).Select(x => (x.First, x.First.Least - x.Second.Minutes))]
            )
            {
                Taken = times.Count(t => !t.AtHome),
            };
        }
    }

    /// <summary>What is short, and by how much; nothing where it fits.</summary>
    public string Says =>
        Dates.Count == 0 ? "no meeting of the course lies on or before the end"
        : Short.Count == 0 ? ""
        : Say.List([.. Short.Select(s => $"{s.Stage.Name} lacks {s.Missing} min of {s.Stage.Least}")]);
}
