namespace MintHarbor.Core.Projects;

/// <summary>What counts how much over a term.</summary>
/// <param name="Weights">By a project's number; one that isn't named counts once.</param>
/// <param name="Practice">Weight of the practice; 0 leaves it out.</param>
/// <param name="Drop">So many of a student's lowest weeks of practice are left out.</param>
/// <param name="Scale">Id of the school's scale that the term is written in.</param>
/// <param name="ByScore">The practice counts by what was measured in it; else, as is usual, by what was done.</param>
public sealed record BookRules(IReadOnlyDictionary<int, int> Weights, int Practice, int Drop, string Scale, bool ByScore = false)
{
    public const int MostWeight = 100;
    public const int MostDrop = 20;

    public static readonly BookRules Plain = new(new Dictionary<int, int>(), 0, 0, "percent");

    public int WeightOf(int project) => Weights.GetValueOrDefault(project, 1);

    /// <exception cref="InputException">A weight or a number of weeks outside its bounds, or an unknown scale.</exception>
    public BookRules Checked()
    {
        foreach (var weight in Weights.Values.Append(Practice))
            if (weight is < 0 or > MostWeight)
                throw new InputException($"a weight of {weight}", "weight", $"0 to {MostWeight}");
        if (Drop is < 0 or > MostDrop)
            throw new InputException($"{Drop} weeks left out", "drop", $"0 to {MostDrop}");
        Core.Projects.Scale.Get(Scale);
        return this;
    }

    /// <summary>As the log keeps it.</summary>
    public override string ToString()
    {
        var weights = Weights.Count == 0 ? "alike" : string.Join(" ", Weights.OrderBy(w => w.Key).Select(w => w.Value));
        return $"practice {Practice} by {(ByScore ? "score" : "doing")}, {Say.Plural(Drop, "week")} left out, weights {weights}, {Scale}";
    }
}

/// <summary>A week of a student's practice.</summary>
/// <param name="Given">So much was due in it, of which so much was <paramref name="Done"/>.</param>
/// <param name="Scores">Of 100, of each round and drill sheet of that week.</param>
public sealed record PracticeWeek(int Given, int Done, IReadOnlyList<int> Scores);

/// <summary>One part of a term's grade.</summary>
/// <param name="Value">Of 100, exact; null where it is not graded yet.</param>
/// <param name="Supposed">Only supposed, to see what it would make.</param>
public sealed record TermPart(string Name, int Weight, Exact? Value, bool Supposed = false);

/// <summary>One number over a term: projects by their weights, practice by what was done.</summary>
public static class TermGrade
{
    /// <summary>Practice is graded on doing: the mean over the weeks of 100 · done ÷ given, the lowest <paramref name="drop"/> weeks left out.
    /// Weeks in which nothing was given don't count; one week always stays. Null where nothing counts.</summary>
    public static Exact? Practice(IEnumerable<PracticeWeek> weeks, int drop) =>
        Mean([.. weeks.Where(w => w.Given > 0).Select(w => new Exact(100 * Math.Min(w.Done, w.Given), w.Given))], drop);

    /// <summary>Practice by what was measured, where an instructor wants it so: the mean over the weeks of the mean of that week's rounds and drill
    /// sheets, each of 100 by <see cref="Score"/>. A week in which something was due and nothing done is 0; one that holds nothing measured doesn't
    /// count.</summary>
    public static Exact? Measured(IEnumerable<PracticeWeek> weeks, int drop) =>
        Mean(
            [
                .. weeks
                    .Where(w => w.Scores.Count > 0 || w is { Given: > 0, Done: 0 })
                    .Select(w => w.Scores.Count == 0 ? (Exact)0 : new Exact(w.Scores.Sum(), w.Scores.Count)),
            ],
            drop
        );

    /// <summary>Of 100, whole: 100 within what is asked of a trained eye, 0 at five times that, evenly between. Our own default.</summary>
    /// <param name="off">As <see cref="Practice.StagePoint.Off"/> says it.</param>
    public static int Score(double off) => (int)Math.Round(Math.Clamp(125 - (25 * off), 0, 100), MidpointRounding.AwayFromZero);

    private static Exact? Mean(IReadOnlyList<Exact> weeks, int drop)
    {
        var kept = weeks.Order().Skip(Math.Max(0, Math.Min(drop, weeks.Count - 1))).ToList();
        return kept.Count == 0 ? null : kept.Aggregate((Exact)0, (a, b) => a + b) / kept.Count;
    }

    /// <summary>Σ weight·grade ÷ Σ weight of what has a grade. Null where nothing has, or all weights are 0.</summary>
    public static Exact? Of(IEnumerable<(int Weight, Exact? Value)> parts)
    {
        var graded = parts.Where(p => p.Value is not null && p.Weight > 0).ToList();
        if (graded.Count == 0)
            return null;
        var sum = graded.Aggregate((Exact)0, (a, p) => a + ((Exact)p.Weight * p.Value!.Value));
        return sum / graded.Sum(p => p.Weight);
    }

    /// <summary>The same with its arithmetic, rounded once at the end, half up.</summary>
    public static Grade? Sum(IReadOnlyList<TermPart> parts)
    {
        if (Of(parts.Select(p => (p.Weight, p.Value))) is not { } value)
            return null;
        var graded = parts.Where(p => p is { Value: not null, Weight: > 0 }).ToList();
        var terms = string.Join(" + ", graded.Select(p => $"{p.Weight}·{p.Value}"));
        return new(value, value.Rounded(), [$"({terms}) ÷ {graded.Sum(p => p.Weight)} = {value}", $"rounded {value.Rounded()}"]);
    }

    /// <summary>What each part without a grade must come to, all alike, for the whole to be <paramref name="target"/>:
    /// (target · Σ weight − Σ weight·grade of what has one) ÷ Σ weight of what has none. Above 100 it is out of reach, below 0 it is had already.
    /// Null where every part that counts has a grade.</summary>
    public static Exact? Needed(IReadOnlyList<TermPart> parts, int target)
    {
        var open = parts.Where(p => p.Value is null).Sum(p => p.Weight);
        if (open == 0)
            return null;
        var had = parts.Where(p => p.Value is not null).Aggregate((Exact)0, (a, p) => a + ((Exact)p.Weight * p.Value!.Value));
        return (((Exact)target * parts.Sum(p => p.Weight)) - had) / open;
    }
}
