namespace MintHarbor.Core.Projects;

/// <param name="Weight">Whole weight of the row, 1 to 100.</param>
/// <param name="Levels">What each level 0 to 4 means, in words.</param>
public sealed record RubricRow(string Id, string Name, int Weight, IReadOnlyList<string> Levels);

/// <summary>What a day's lateness costs.</summary>
/// <param name="Grace">Days after the end that cost nothing.</param>
/// <param name="PerDay">Points of 100 taken off for each day beyond them.</param>
/// <param name="Most">Points taken off at most.</param>
public sealed record LatePolicy(int Grace, int PerDay, int Most)
{
    public static readonly LatePolicy None = new(0, 0, 0);

    /// <summary>Points off for so many days after the end.</summary>
    public int Off(int days) => (int)Math.Min(Most, (long)PerDay * Math.Max(0, days - Grace));

    /// <exception cref="InputException">A number outside its bounds.</exception>
    public LatePolicy Checked()
    {
        foreach (
            var (n, most, field, unit) in new[]
            {
                (Grace, 60, "Grace", "days"),
                (PerDay, 100, "PerDay", "points"),
                (Most, 100, "Most", "points"),
            }
        )
            if (n < 0 || n > most)
                throw new InputException($"{n} {unit}", field, $"0 to {most} {unit}");
        return this;
    }

    public string Says =>
        PerDay == 0 || Most == 0
            ? "a late hand-in costs nothing"
            : $"{Say.Plural(Grace, "day")} of grace, then {Say.Plural(PerDay, "point")} a day, {Most} at most";
}

/// <summary>What becomes of a grade when the work is handed in again.</summary>
public enum RedoRule
{
    Replaces,
    Averages,
}

/// <summary>How a project turns levels into a grade.</summary>
/// <param name="Scale">Id of the school's scale that it is written in.</param>
public sealed record GradeRules(LatePolicy Late, RedoRule Redo, string Scale)
{
    public static readonly GradeRules Plain = new(LatePolicy.None, RedoRule.Replaces, "percent");
}

/// <summary>Why there is no number.</summary>
public enum Standing
{
    /// <summary>Graded by its levels.</summary>
    Graded,

    /// <summary>Doesn't count, with a reason.</summary>
    Excused,

    /// <summary>Something is still owed, with what.</summary>
    Incomplete,
}

/// <param name="Value">Before it is rounded.</param>
/// <param name="Percent">Rounded once, half up, at the end.</param>
/// <param name="Steps">The arithmetic, a line a step, with its values in it.</param>
public sealed record Grade(Exact Value, int Percent, IReadOnlyList<string> Steps)
{
    public string Arithmetic => string.Join("; ", Steps);
}

public static class Grading
{
    public const int TopLevel = 4;

    /// <summary>100·Σ(weight·level)/(4·Σ weight), exact, rounded half up once. Null until every row has a level.</summary>
    public static Grade? Of(IReadOnlyList<RubricRow> rows, IReadOnlyDictionary<string, int> levels) =>
        Of(rows, levels, null, 0, GradeRules.Plain);

    /// <summary>The same after a redo and a late hand-in. A redo replaces the first levels or is averaged with them; the days late are those
    /// of the first hand-in, and their points come off last, never below 0.</summary>
    /// <param name="again">Levels of the work handed in again; null or incomplete where it wasn't, or isn't graded yet.</param>
    /// <param name="daysLate">Whole days after the end that holds for this student, extension counted.</param>
    /// <param name="share">Of a group's work, what is everybody's and what is this member's; null where the grade is one.</param>
    public static Grade? Of(
        IReadOnlyList<RubricRow> rows,
        IReadOnlyDictionary<string, int> levels,
        IReadOnlyDictionary<string, int>? again,
        int daysLate,
        GradeRules rules,
        GradeShare? share = null
    )
    {
        var steps = new List<string>();
        if (Worth(rows, levels, again, rules, steps) is not { } value)
            return null;
        if (share is not null)
            value = Shared(value, [.. rows.Where(r => share.Rows.Contains(r.Id))], levels, again, rules, share, steps);
        if (rules.Late.Off(daysLate) is > 0 and var off)
        {
            var less = Exact.Max(0, value - off);
            steps.Add(
                $"{Say.Plural(daysLate, "day")} late, {rules.Late.Grace} free, {rules.Late.PerDay} a day, {rules.Late.Most} at most: {value} − {off} = {less}"
            );
            value = less;
        }
        steps.Add($"rounded {value.Rounded()}");
        return new(value, value.Rounded(), steps);
    }

    /// <summary>What is everybody's and what the member's role answers for, by their shares: p·whole + (100 − p)·own, over 100.</summary>
    private static Exact Shared(
        Exact whole,
        IReadOnlyList<RubricRow> own,
        IReadOnlyDictionary<string, int> levels,
        IReadOnlyDictionary<string, int>? again,
        GradeRules rules,
        GradeShare share,
        List<string> steps
    )
    {
        steps.Add($"of their own: {string.Join(", ", own.Select(r => r.Name.ToLowerInvariant()))}");
        if (Worth(own, levels, again, rules, steps) is not { } part)
            return whole;
        var value = ((whole * share.Common) + (part * (100 - share.Common))) / 100;
        steps.Add($"({share.Common} · {whole} + {100 - share.Common} · {part}) ÷ 100 = {value}");
        return value;
    }

    /// <summary>The first levels and, where it was handed in again and graded, the redo's.</summary>
    private static Exact? Worth(
        IReadOnlyList<RubricRow> rows,
        IReadOnlyDictionary<string, int> levels,
        IReadOnlyDictionary<string, int>? again,
        GradeRules rules,
        List<string> steps
    )
    {
        if (Sum(rows, levels) is not { } first)
            return null;
        var value = first.Value;
        steps.Add(first.Says);
        if (again is not null && Sum(rows, again) is { } second)
        {
            value = rules.Redo == RedoRule.Replaces ? second.Value : (first.Value + second.Value) / 2;
            steps.Add($"again: {second.Says}");
            steps.Add(
                rules.Redo == RedoRule.Replaces ? $"the redo replaces it: {value}" : $"({first.Value} + {second.Value}) ÷ 2 = {value}"
            );
        }
        return value;
    }

    private static (Exact Value, string Says)? Sum(IReadOnlyList<RubricRow> rows, IReadOnlyDictionary<string, int> levels)
    {
        if (rows.Count == 0 || rows.Any(r => !levels.ContainsKey(r.Id)))
            return null;
        foreach (var r in rows)
            if (levels[r.Id] is < 0 or > TopLevel)
                throw new InputException($"level {levels[r.Id]} for {r.Name}", $"levels.{r.Id}", "0 to 4");
        var (sum, weights) = (rows.Sum(r => (long)r.Weight * levels[r.Id]), rows.Sum(r => (long)r.Weight));
        var value = new Exact(100 * sum, TopLevel * weights);
        var terms = string.Join(" + ", rows.Select(r => $"{r.Weight}·{levels[r.Id]}"));
        return (value, $"100 · ({terms}) ÷ (4 · {weights}) = 100 · {sum} ÷ {TopLevel * weights} = {value}");
    }
}
