namespace MintHarbor.Core.Projects;

/// <param name="Weight">Whole weight of the row, 1 to 100.</param>
/// <param name="Levels">What each level 0 to 4 means, in words.</param>
public sealed record RubricRow(string Id, string Name, int Weight, IReadOnlyList<string> Levels);

/// <param name="Percent">Rounded once, half up, at the end.</param>
/// <param name="Arithmetic">The sum with its values in it.</param>
public sealed record Grade(int Percent, string Arithmetic);

public static class Grading
{
    public const int TopLevel = 4;

    /// <summary>100·Σ(weight·level)/(4·Σ weight), in whole numbers, rounded half up once. Null until every row has a level.</summary>
    public static Grade? Of(IReadOnlyList<RubricRow> rows, IReadOnlyDictionary<string, int> levels)
    {
        if (rows.Count == 0 || rows.Any(r => !levels.ContainsKey(r.Id)))
            return null;
        foreach (var r in rows)
            if (levels[r.Id] is < 0 or > TopLevel)
                throw new InputException($"level {levels[r.Id]} for {r.Name}", $"levels.{r.Id}", "0 to 4");
        long sum = rows.Sum(r => (long)r.Weight * levels[r.Id]),
            whole = TopLevel * rows.Sum(r => (long)r.Weight);
        // Half up on non-negative whole numbers: ⌊(200·sum + whole) / (2·whole)⌋.
        var percent = (int)(((200 * sum) + whole) / (2 * whole));
        var terms = string.Join(" + ", rows.Select(r => $"{r.Weight}·{levels[r.Id]}"));
        return new(
            percent,
            $"100 · ({terms}) ÷ (4 · {rows.Sum(r => r.Weight)}) = 100 · {sum} ÷ {whole} = {Say.Number(100.0 * sum / whole, 2)}, rounded {percent}"
        );
    }
}
