using MintHarbor.Core.Critiques;
using NodaTime;

namespace MintHarbor.Core.Projects;

/// <param name="Share">Per cent of the project's time.</param>
/// <param name="Gate">What must be inside before the stage opens; empty for an open stage.</param>
/// <param name="Measured">Rules of a measured report that opens it as well; null where only the checklist does.</param>
public sealed record StageTemplate(
    string Id,
    string Name,
    int Share,
    string About,
    IReadOnlyList<string> Gate,
    IReadOnlyList<string>? Measured = null
);

/// <param name="Subject">"head" or "figure": what a measured gate reads; null where nothing of it is measured.</param>
public sealed record ProjectTemplate(
    string Id,
    string Name,
    string About,
    IReadOnlyList<StageTemplate> Stages,
    IReadOnlyList<RubricRow> Rubric,
    string? Subject = null
)
{
    public static IReadOnlyList<ProjectTemplate> All { get; } = CoreData.Read<List<ProjectTemplate>>("projects");

    public static ProjectTemplate Get(string id) =>
        All.FirstOrDefault(p => p.Id == id)
        ?? throw new InputException($"unknown project '{id}'", "template", string.Join(" | ", All.Select(p => p.Id)));
}

/// <param name="Minutes">Net minutes of the stage, the shares of them exact to a whole minute.</param>
/// <param name="From">Meeting in which it begins.</param>
/// <param name="Due">Meeting by whose end it is done.</param>
public sealed record StageDate(string StageId, int Minutes, LocalDate From, LocalDate Due);

/// <summary>Dates worked back from the end of a project over the course's meetings.</summary>
public static class StageDates
{
    /// <summary>The last meeting on or before <paramref name="end"/> closes the last stage; each stage before it takes the
    /// meetings that its share of the net minutes wants, counted backwards.</summary>
    /// <param name="meetings">Meetings with the minutes that are drawn in each, any order.</param>
    /// <param name="used">How many of the last meetings the project takes.</param>
    /// <exception cref="InputException">No meeting lies on or before the end.</exception>
    public static IReadOnlyList<StageDate> WorkBack(
        IReadOnlyList<StageTemplate> stages,
        IReadOnlyList<(LocalDate Date, int NetMinutes)> meetings,
        LocalDate end,
        int used
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
        var total = taken.Sum(m => m.NetMinutes);
        var shares = stages.Sum(s => s.Share);
        var result = new List<StageDate>();
        int done = 0,
            share = 0;
        foreach (var s in stages)
        {
            share += s.Share;
            // Cumulative shares are rounded, so that the stages' minutes add up to the whole.
            var until = (int)Math.Round((double)total * share / shares, MidpointRounding.AwayFromZero);
            result.Add(new(s.Id, until - done, MeetingAt(done + 1), MeetingAt(until)));
            done = until;
        }
        return result;

        LocalDate MeetingAt(int minute)
        {
            var run = 0;
            foreach (var (date, net) in taken)
            {
                run += net;
                if (minute <= run)
                    return date;
            }
            return taken[^1].Date;
        }
    }
}

/// <param name="Open">Every measure of the gate that could be judged lies inside, and at least half of its rules were judged.</param>
public sealed record GateReport(bool Open, string Says)
{
    /// <summary>Reads a sheet's findings as a gate. A departure marked as the sitter's own does not close it; one too close to
    /// call does.</summary>
    public static GateReport Read(StageTemplate stage, IReadOnlyList<Finding> findings)
    {
        var rules = stage.Measured ?? [];
        var judged = findings.Where(f => rules.Contains(f.Rule.Id) && f.Judgeable).ToList();
        var known = judged.Select(f => f.Rule).Distinct().Count();
        var wanted = (rules.Count + 1) / 2;
        var off = judged.Where(f => f.Verdict is Verdict.Outside or Verdict.TooClose).ToList();
        if (known < wanted)
            return new(false, $"Only {known} of {rules.Count} rules could be judged; {wanted} are wanted.");
        return off.Count == 0
            ? new(true, $"{Say.Plural(judged.Count, "measure")} inside.")
            : new(false, string.Join(" ", off.Take(3).Select(f => f.Says)));
    }
}

/// <summary>A gate is open when its checklist is complete, when a measured report is inside, or when the instructor waives it
/// with a reason.</summary>
/// <param name="MeasuredOn">The sheet whose report opened it, and what it says.</param>
public sealed record GateState(IReadOnlyList<string> Ticked, string? WaivedBecause, string? MeasuredOn = null)
{
    public static readonly GateState Closed = new([], null);

    public bool IsOpen(StageTemplate stage) =>
        stage.Gate.Count == 0 || !string.IsNullOrWhiteSpace(WaivedBecause) || MeasuredOn is not null || stage.Gate.All(Ticked.Contains);

    public IReadOnlyList<string> Wanting(StageTemplate stage) => [.. stage.Gate.Where(g => !Ticked.Contains(g))];
}
