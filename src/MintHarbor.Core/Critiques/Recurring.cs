using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <summary>What several drawings share: the same cause, to the same side. It is often not what each of them shows first.</summary>
/// <param name="Example">From the first of them.</param>
/// <param name="Sheets">On how many it recurs.</param>
/// <param name="Of">Of how many that could show it.</param>
public sealed record Recurring(Finding Example, int Sheets, int Of)
{
    /// <summary>"On 3 of 4 sheets: the whole figure leans, to the right."</summary>
    public string Says => $"On {Sheets} of {Of} sheets: {Sentences.Recurs(Example)}.";

    /// <summary>What recurs on two drawings at least, and on half of those that could show it; the most frequent first.</summary>
    /// <param name="sheets">Findings of each drawing; symptoms of another finding don't count.</param>
    public static IReadOnlyList<Recurring> In(IReadOnlyList<IReadOnlyList<Finding>> sheets) =>
        [
            .. sheets
                .SelectMany(s => s.Where(f => f.FollowsFrom is null && (f.IsOutside || f.Suspected)).DistinctBy(f => (f.Key, f.Direction)))
                .GroupBy(f => (f.Key, f.Direction))
                .Select(g => new Recurring(
                    g.First(),
                    g.Count(),
                    sheets.Count(s => s.Any(f => f.Key == g.Key.Key && f.Measured is not null))
                ))
                .Where(r => r.Sheets >= 2 && 2 * r.Sheets >= r.Of)
                .OrderByDescending(r => r.Sheets)
                .ThenBy(r => r.Example.Rule.Order)
                .ThenBy(r => r.Example.Key, StringComparer.Ordinal),
        ];
}
