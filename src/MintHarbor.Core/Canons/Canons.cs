namespace MintHarbor.Core.Canons;

/// <param name="Expected">Value by the canon, in the rule's own unit (a ratio, heads, or a share of the height).</param>
/// <param name="Tolerance">Half-width of what is accepted, as <paramref name="ToleranceIs"/> says.</param>
/// <param name="ToleranceIs">"share": of the expected value; "absolute": in the rule's unit.</param>
/// <param name="Parts">Expected values by part where the rule has several.</param>
/// <param name="From">Landmark that the school measures from, where schools differ in it; null for the usual one.</param>
public sealed record CanonRule(
    string Id,
    double Expected,
    double Tolerance,
    string ToleranceIs,
    string Source,
    IReadOnlyDictionary<string, double>? Parts = null,
    string? From = null
)
{
    public double ExpectedOf(string? part) => part is not null && Parts is not null && Parts.TryGetValue(part, out var v) ? v : Expected;

    public double ToleranceOf(double expected) => ToleranceIs == "share" ? Tolerance * Math.Abs(expected) : Tolerance;
}

/// <summary>A named set of proportions with its sources. What it has no rule for, it does not judge.</summary>
/// <param name="Yields">Rules that can't hold together with the rest and so give way.</param>
public sealed record Canon(
    string Id,
    string Name,
    string Subject,
    double Heads,
    string About,
    IReadOnlyList<string> Yields,
    IReadOnlyList<CanonRule> Rules
)
{
    public CanonRule? Rule(string id) => Rules.FirstOrDefault(r => r.Id == id);

    public override string ToString() => Name;
}

public static class CanonTable
{
    public static IReadOnlyList<Canon> All { get; } = CoreData.Read<List<Canon>>("canons");

    public static IReadOnlyList<Canon> OfFigures { get; } = [.. All.Where(c => c.Subject == "figure")];
    public static IReadOnlyList<Canon> OfHeads { get; } = [.. All.Where(c => c.Subject == "head")];

    public static Canon Get(string id) =>
        All.FirstOrDefault(c => c.Id == id)
        ?? throw new InputException($"unknown canon '{id}'", "canon", string.Join(" | ", All.Select(c => c.Id)));
}
