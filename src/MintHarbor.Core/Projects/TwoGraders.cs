using System.Text.Json.Serialization;

namespace MintHarbor.Core.Projects;

/// <summary>Somebody who grades. The number tells: two may have one name.</summary>
public sealed record Grader(int Id, string Name);

/// <summary>Which of two somebody is.</summary>
public enum GraderSeat
{
    Neither,
    First,
    Second,
}

/// <summary>One row as two saw it.</summary>
public sealed record RowApart(RubricRow Row, int First, int Second)
{
    public int Apart => Math.Abs(First - Second);
    public int From => Math.Min(First, Second);
    public int To => Math.Max(First, Second);
}

/// <summary>How far two gradings of one work lie apart.</summary>
/// <param name="First">Of 100, by the first's levels alone, before lateness.</param>
public sealed record GradersApart(IReadOnlyList<RowApart> Rows, Exact First, Exact Second)
{
    /// <summary>From so many levels on a row isn't settled without a word. Common practice without a source: neighbours in a scale of five are
    /// one judgement's spread, two steps are two judgements.</summary>
    public const int FarLevels = 2;

    /// <summary>Null until both have a level in every row.</summary>
    public static GradersApart? Of(
        IReadOnlyList<RubricRow> rows,
        IReadOnlyDictionary<string, int> first,
        IReadOnlyDictionary<string, int> second
    ) =>
        Grading.Of(rows, first) is { } one && Grading.Of(rows, second) is { } two
            ? new([.. rows.Select(r => new RowApart(r, first[r.Id], second[r.Id]))], one.Value, two.Value)
            : null;

    public Exact Points => First < Second ? Second - First : First - Second;

    public IReadOnlyList<RowApart> Far => [.. Rows.Where(r => r.Apart >= FarLevels)];

    public string Says =>
        Rows.All(r => r.Apart == 0)
            ? $"Alike in every row: {First} of 100."
            : $"{First} against {Second} of 100, {Points} apart{(Far.Count == 0 ? "" : $"; two levels or more in {Names(Far)}")}.";

    /// <summary>What may be settled: a level of each row between the two that were given, and a word where they lie far apart.</summary>
    /// <exception cref="InputException">A row is missing, unknown, or outside; or the word is missing.</exception>
    public void Check(IReadOnlyDictionary<string, int> settled, string? because)
    {
        if (settled.Keys.FirstOrDefault(k => Rows.All(r => r.Row.Id != k)) is { } unknown)
            throw new InputException($"'{unknown}' is not in the rubric", "settled", string.Join(" | ", Rows.Select(r => r.Row.Id)));
        foreach (var r in Rows)
        {
            var accepted = r.Apart == 0 ? $"{r.From}, as both gave" : $"{r.From} to {r.To}, between the two";
            if (!settled.TryGetValue(r.Row.Id, out var level))
                throw new InputException($"no level for {r.Row.Name.ToLowerInvariant()}", "settled", accepted);
            if (level < r.From || level > r.To)
                throw new InputException($"level {level} for {r.Row.Name.ToLowerInvariant()}", "settled", accepted);
        }
        if (Far.Count > 0 && string.IsNullOrWhiteSpace(because))
            throw new InputException(
                $"{Names(Far)} {(Far.Count == 1 ? "lies" : "lie")} two levels apart or more",
                "because",
                "why it was settled so"
            );
    }

    private static string Names(IReadOnlyList<RowApart> rows) => Say.List([.. rows.Select(r => r.Row.Name.ToLowerInvariant())]);
}

/// <summary>A work that two grade. The first's levels are the work's own; neither sees the other's until both have a level in every row,
/// and what they settle is what counts.</summary>
public sealed record TwoGraders(Grader First)
{
    /// <summary>Whoever else gave the first level; null until somebody has.</summary>
    public Grader? Second { get; init; }

    /// <summary>The second's levels.</summary>
    public IReadOnlyDictionary<string, int> Levels { get; init; } = new Dictionary<string, int>();

    /// <summary>What counts; empty until it is settled.</summary>
    public IReadOnlyDictionary<string, int> Settled { get; init; } = new Dictionary<string, int>();
    public string Because { get; init; } = "";

    [JsonIgnore]
    public bool IsSettled => Settled.Count > 0;

    public GraderSeat SeatOf(int person) =>
        person == First.Id ? GraderSeat.First
        : Second is null || Second.Id == person ? GraderSeat.Second
        : GraderSeat.Neither;

    /// <summary>The levels that whoever sits there may see; nobody's for who is neither.</summary>
    /// <param name="first">The work's own levels.</param>
    public IReadOnlyDictionary<string, int> SeenFrom(GraderSeat seat, IReadOnlyDictionary<string, int> first) =>
        IsSettled ? Settled
        : seat == GraderSeat.First ? first
        : seat == GraderSeat.Second ? Levels
        : new Dictionary<string, int>();

    /// <summary>How far it has got, said to whoever sits there, who isn't told a level of the other.</summary>
    public string Says(GraderSeat seat, int rows, IReadOnlyDictionary<string, int> first)
    {
        if (IsSettled)
            return $"Graded by {First.Name} and {Second!.Name}, and settled.";
        var other = seat == GraderSeat.First ? Second?.Name ?? "the second" : First.Name;
        var (mine, theirs) = seat == GraderSeat.First ? (first.Count, Levels.Count) : (Levels.Count, first.Count);
        return seat == GraderSeat.Neither
            ? $"{First.Name} and {Second!.Name} grade it; their levels are seen when both are through."
            : $"Two grade it, neither sees the other's levels before both are through. You: {mine} of {Say.Plural(rows, "row")}. {Capital(other)}: {theirs}.";
    }

    private static string Capital(string s) => s.Length == 0 ? s : char.ToUpperInvariant(s[0]) + s[1..];
}
