using System.Globalization;
using System.Text;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <summary>A named fault of the library.</summary>
/// <param name="Sign">What one sees.</param>
/// <param name="Principle">Why it matters.</param>
/// <param name="Remedy">What to do next.</param>
/// <param name="Drill">Drill that trains the measure; null where none fits yet.</param>
/// <param name="Rule">The measured rule that finds it, where one does.</param>
public sealed record Fault(
    string Id,
    Family Family,
    string Name,
    string Where,
    string Sign,
    string Principle,
    string Remedy,
    string? Drill,
    string? Exercise,
    string? Rule,
    string Source
);

public static class Faults
{
    public static IReadOnlyList<Fault> All { get; } = CoreData.Read<List<Fault>>("faults");

    /// <summary>A limb drawn as long as it is known to be, not as it is seen.</summary>
    public const string KnownLength = "known-length";

    public static Fault? Find(string? id) => All.FirstOrDefault(f => f.Id == id);

    /// <summary>Faults by a few letters: those with a word of the name beginning so come first, then any that hold the
    /// letters in name, place or sign. Case and accents don't matter. No letters, no list.</summary>
    public static IReadOnlyList<Fault> Search(IReadOnlyList<Fault> faults, string letters, int most = 8)
    {
        var q = Plain(letters.Trim());
        if (q == "")
            return [];
        int Rank(Fault f)
        {
            var words = Plain(f.Name).Split(' ');
            if (words[0].StartsWith(q, StringComparison.Ordinal))
                return 0;
            if (words.Any(w => w.StartsWith(q, StringComparison.Ordinal)))
                return 1;
            if (q.Contains(' ') && Plain(f.Name).Contains(q, StringComparison.Ordinal))
                return 1;
            if (Plain(f.Where).Split(' ').Any(w => w.StartsWith(q, StringComparison.Ordinal)))
                return 2;
            return q.Length > 2 && Plain(f.Sign).Contains(q, StringComparison.Ordinal) ? 3 : 9;
        }
        return
        [
            .. faults
                .Select(f => (f, Rank: Rank(f)))
                .Where(x => x.Rank < 9)
                .OrderBy(x => x.Rank)
                .ThenBy(x => x.f.Family)
                .Select(x => x.f)
                .Take(most),
        ];
    }

    private static string Plain(string s) =>
        string.Concat(
                s.Normalize(NormalizationForm.FormD).Where(c => CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark)
            )
            .ToLowerInvariant();
}
