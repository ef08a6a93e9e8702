namespace MintHarbor.Core.Projects;

/// <param name="From">The lowest rounded per cent that it is given for.</param>
public sealed record ScaleStep(int From, string Mark);

/// <summary>A school's scale: a table of marks by the rounded per cent. It never falls: a higher per cent gives the same mark or the next.</summary>
/// <param name="Source">Where its bounds come from.</param>
public sealed record Scale(string Id, string Name, string Source, IReadOnlyList<ScaleStep> Steps)
{
    public static IReadOnlyList<Scale> All { get; } = CoreData.Read<List<Scale>>("scales");

    public static Scale Get(string id) =>
        All.FirstOrDefault(s => s.Id == id)
        ?? throw new InputException($"unknown scale '{id}'", "scale", string.Join(" | ", All.Select(s => s.Id)));

    /// <summary>The mark of a rounded per cent.</summary>
    /// <exception cref="InputException">Outside 0 to 100.</exception>
    public string Of(int percent) =>
        percent is < 0 or > 100 ? throw new InputException($"{percent} per cent", "percent", "0 to 100")
        : Steps.Count == 0 ? $"{percent}"
        : Steps.Last(s => s.From <= percent).Mark;
}
