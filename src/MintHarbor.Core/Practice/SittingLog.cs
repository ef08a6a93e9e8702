using System.Globalization;
using System.Text.RegularExpressions;
using NodaTime;

namespace MintHarbor.Core.Practice;

/// <summary>What timed drawings are drawn from.</summary>
public enum SittingSubject
{
    Figure,
    Head,
    Object,
    Mirror,
    Life,

    /// <summary>The second best: it stands still and is flat already.</summary>
    Photo,

    /// <summary>An arrangement of the studio's things.</summary>
    StillLife,
}

/// <summary>One drawing of a timed list.</summary>
/// <param name="Seconds">That it was to take; <paramref name="Drawn"/> that it took.</param>
/// <param name="Plan">What size and how much of it, said before.</param>
/// <param name="Taught">What it taught, said after and carried to the next.</param>
public sealed record TimedDrawing(int Seconds, int Drawn, string Plan, string Taught);

/// <summary>A timed list as it was gone through.</summary>
/// <param name="Exercise">Whose list it was; null for one of one's own.</param>
public sealed record SittingLog(string? Exercise, SittingSubject Subject, IReadOnlyList<TimedDrawing> Drawings)
{
    public const int MostDrawings = 60,
        LongestWord = 200;

    public int Seconds => Drawings.Sum(d => d.Drawn);

    /// <summary>What the last drawings taught, the newest first.</summary>
    public IEnumerable<string> Taught => Drawings.Reverse().Select(d => d.Taught).Where(t => t != "");

    /// <summary>The log itself, when it is one.</summary>
    /// <exception cref="InputException">No drawing, too many, times that aren't any, or words too long.</exception>
    public SittingLog Checked()
    {
        if (Drawings is not { Count: > 0 and <= MostDrawings })
            throw new InputException(Say.Plural(Drawings?.Count ?? 0, "drawing"), "drawings", $"1 to {MostDrawings}");
        if (Drawings.FirstOrDefault(d => d.Seconds is < 5 or > 36_000 || d.Drawn is < 0 or > 86_400) is { } odd)
            throw new InputException($"a drawing of {odd.Seconds} s that took {odd.Drawn}", "drawings", "5 s to 10 h");
        if (
            Drawings.FirstOrDefault(d => d.Plan is null || d.Taught is null || d.Plan.Length > LongestWord || d.Taught.Length > LongestWord)
            is not null
        )
            throw new InputException("a line that is too long", "drawings", $"up to {LongestWord} letters");
        if (!Enum.IsDefined(Subject))
            throw new InputException(
                $"subject {Subject}",
                "subject",
                string.Join(" | ", Enum.GetNames<SittingSubject>()).ToLowerInvariant()
            );
        return this;
    }
}

/// <summary>A list of times, as it is typed: "1, 5, 3", "6 × 2", "30 s", "2 x 45 s, 10".</summary>
public static partial class TimedList
{
    /// <summary>Seconds of each drawing.</summary>
    /// <exception cref="InputException">What is no time, none or too many, or one out of bounds.</exception>
    public static IReadOnlyList<int> Read(string? text)
    {
        var seconds = new List<int>();
        foreach (var part in (text ?? "").Split([',', ';'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            var (count, time) = part.Split(['×', 'x', '*'], 2, StringSplitOptions.TrimEntries) is [var n, var t]
                ? (Whole(n, part), t)
                : (1, part);
            var one = Time(time, part);
            if (count is < 1 or > SittingLog.MostDrawings || seconds.Count + count > SittingLog.MostDrawings)
                throw new InputException(
                    $"'{part}': more than {SittingLog.MostDrawings} drawings",
                    "list",
                    $"1 to {SittingLog.MostDrawings}"
                );
            seconds.AddRange(Enumerable.Repeat(one, count));
        }
        return seconds.Count > 0 ? seconds : throw new InputException("no time", "list", Accepted);
    }

    private const string Accepted = "minutes, as in 1, 5, 3 or 6 × 2; seconds with an s, as in 30 s";

    private static int Whole(string text, string part) =>
        int.TryParse(text, out var n) ? n : throw new InputException($"'{part}' is no time", "list", Accepted);

    [GeneratedRegex(@"^(?<number>\d+(\.\d+)?)\s*(?<unit>s|sec|secs|seconds?|m|min|mins|minutes?)?\.?$", RegexOptions.IgnoreCase)]
    private static partial Regex OneTime();

    private static int Time(string text, string part)
    {
        if (OneTime().Match(text) is not { Success: true } time)
            throw new InputException($"'{part}' is no time", "list", Accepted);
        var v = double.Parse(time.Groups["number"].Value, CultureInfo.InvariantCulture);
        var seconds = time.Groups["unit"].Value.StartsWith("s", StringComparison.OrdinalIgnoreCase) ? v : v * 60;
        return seconds is >= 5 and <= 36_000
            ? (int)Math.Round(seconds)
            : throw new InputException($"'{part}' for one drawing", "list", "5 s to 10 h");
    }

    /// <summary>"1, 5, 3 min", "6 × 2 min", "30 s".</summary>
    public static string Said(IReadOnlyList<int> seconds)
    {
        var runs = new List<(int Count, int Seconds)>();
        foreach (var s in seconds)
            if (runs.Count > 0 && runs[^1].Seconds == s)
                runs[^1] = (runs[^1].Count + 1, s);
            else
                runs.Add((1, s));
        var minutes = seconds.All(s => s % 30 == 0 && s >= 60);
        var said = runs.Select(r =>
            (r.Count > 1 ? $"{r.Count} × " : "")
            + (
                minutes ? Say.Number(r.Seconds / 60.0, 1)
                : r.Seconds % 60 == 0 ? $"{r.Seconds / 60} min"
                : $"{r.Seconds} s"
            )
        );
        return string.Join(", ", said) + (minutes ? " min" : "");
    }
}

/// <summary>A run of days on each of which something was drawn.</summary>
/// <param name="Days">Days drawn on in the run; <paramref name="Missed"/> those bridged by grace.</param>
/// <param name="Last">The newest day of the run; null where none ever was.</param>
/// <param name="Open">Whether a line today, or today's not yet drawn, goes on with it.</param>
public sealed record DailyRun(int Days, IReadOnlyList<LocalDate> Missed, LocalDate? Last, bool Open)
{
    /// <summary>Days in a row that may be missed: a person is ill or travels. Our own default.</summary>
    public const int Grace = 1;

    /// <summary>The run that ends today or is still open today. One day missed is bridged and shown as such; two end it.</summary>
    /// <param name="days">Days drawn on, in any order, of the course's zone: a day is a date, however long its night was.</param>
    public static DailyRun Of(IEnumerable<LocalDate> days, LocalDate today)
    {
        var drawn = days.Where(d => d <= today).Distinct().OrderDescending().ToList();
        if (drawn.Count == 0)
            return new(0, [], null, false);
        var missed = new List<LocalDate>();
        var run = 1;
        for (var i = 1; i < drawn.Count; i++)
        {
            var gap = Period.DaysBetween(drawn[i], drawn[i - 1]) - 1;
            if (gap > Grace)
                break;
            for (var k = 1; k <= gap; k++)
                missed.Add(drawn[i].PlusDays(k));
            run++;
        }
        // Today isn't over: only whole days before it can have been missed.
        var since = Period.DaysBetween(drawn[0], today) - 1;
        if (since > Grace)
            return new(0, [], drawn[0], false);
        if (since == Grace)
            missed.Insert(0, today.PlusDays(-1));
        missed.Sort();
        return new(run, missed, drawn[0], true);
    }
}
