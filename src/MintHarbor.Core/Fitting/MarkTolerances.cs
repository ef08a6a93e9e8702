using System.Numerics;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Fitting;

/// <summary>How exactly a mark must be known: four per cent of the shortest measured length that ends there, so that a fault of eight stays one;
/// between a half and one and a half per cent of the height, on a
/// head one at least: its levels are judged no finer. Our own choice.</summary>
internal static class MarkTolerances
{
    private const double OfLength = 0.04,
        Least = 0.005,
        LeastOfHeads = 0.01,
        Most = 0.015,
        ShortestLength = 0.07;

    /// <summary>What is measured on a head, by the landmarks at its ends: levels and widths.</summary>
    private static readonly (string A, string B)[] OfHeads =
    [
        ("crown", "chin"),
        ("eye-inner.L", "eye-outer.L"),
        ("eye-inner.R", "eye-outer.R"),
        ("eye-inner.R", "eye-inner.L"),
        ("nosebase", "chin"),
        ("hairline", "brow"),
        ("brow", "nosebase"),
        ("lip-slit", "chin"),
        ("ear-top.L", "ear-base.L"),
        ("ear-top.R", "ear-base.R"),
        ("mouth-corner.L", "mouth-corner.R"),
        ("wing.L", "wing.R"),
        ("neck-side.L", "neck-side.R"),
        ("head-side.L", "head-side.R"),
        ("jaw-angle.L", "jaw-angle.R"),
    ];

    /// <summary>What a pose card reads besides the parts.</summary>
    private static readonly (string A, string B)[] OfCards = [("pit", "sole.L"), ("pit", "sole.R")];

    private static IEnumerable<(string A, string B)> Lengths(PartTree tree) =>
        tree == PartTree.Figure ? ReferenceMeasures.Parts.Select(p => (p.A, p.B)).Concat(OfCards) : OfHeads;

    /// <summary>Whether a measure ends at the mark.</summary>
    public static bool Measured(PartTree tree, string id) => Lengths(tree).Any(l => l.A == id || l.B == id);

    /// <summary>By mark, as a share of the height.</summary>
    public static IReadOnlyDictionary<string, double> Of(FitReference r)
    {
        var at = r.Marks.ToDictionary(m => m.Id, m => m.At);
        var least = r.Tree == PartTree.Figure ? Least : LeastOfHeads;
        var to = at.Keys.ToDictionary(id => id, _ => Most);
        foreach (var (a, b) in Lengths(r.Tree))
        {
            if (!at.ContainsKey(a) || !at.ContainsKey(b) || Vector2.Distance(at[a], at[b]) / r.Height is var l && l < ShortestLength)
                continue;
            foreach (var id in new[] { a, b })
                to[id] = Math.Min(to[id], Math.Max(least, OfLength * l));
        }
        return to;
    }
}
