using MintHarbor.Core.Measuring;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Technique;

/// <summary>What is read from the sheet of an exercise, for whoever plans it or draws it.</summary>
public static class SheetReads
{
    /// <summary>In words, what is measured from marks first, then what the ink says by itself; what the eye alone judges is not among it. Empty where
    /// nothing is read.</summary>
    public static IReadOnlyList<string> Of(Exercise exercise)
    {
        bool All(string id) => exercise.Findings.Contains("all") || exercise.Findings.Contains(id);
        var marks = Rules.All.Where(exercise.Allows).Where(r => r.Id.StartsWith("F-", StringComparison.Ordinal)).ToList();
        IEnumerable<string> measured =
            exercise.Findings.Contains("all") ? ["proportion, tilts and balance, once its marks stand"]
            : marks.Count > 0 ? [$"{Say.List([.. marks.Select(r => r.Name.ToLowerInvariant())])}, once its marks stand"]
            : [];
        var ink = TechniqueRule
            .All.Where(r => All(r.Opens) && (r.Id != "P-size" || exercise.IsOneDrawing))
            .Select(r => r.Name.ToLowerInvariant());
        return [.. measured, .. ink];
    }
}
