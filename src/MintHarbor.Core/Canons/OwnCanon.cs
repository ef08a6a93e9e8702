using System.Text.Encodings.Web;
using System.Text.Json;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Canons;

/// <summary>A rule as a course wants it.</summary>
/// <param name="Judged">False leaves the rule out: what a canon has no rule for, it doesn't judge.</param>
/// <param name="Parts">Of a rule with several parts, each one's value.</param>
public sealed record RuleWish(
    string Id,
    bool Judged,
    double? Expected,
    double? Tolerance,
    IReadOnlyDictionary<string, double>? Parts = null
);

/// <summary>Canons that a course has made its own from one of the table's: names, numbers and tolerances change, what is measured
/// doesn't.</summary>
public static class OwnCanon
{
    public const int LongestName = 60,
        LongestAbout = 300;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        // A file is read by people too: ' and ± stay what they are.
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>A canon with some of its rules changed.</summary>
    /// <exception cref="InputException">An unknown rule, or what <see cref="Checked"/> refuses.</exception>
    public static Canon From(Canon first, string? name, string? about, IReadOnlyList<RuleWish> wishes)
    {
        if (wishes.FirstOrDefault(w => first.Rule(w.Id) is null) is { } unknown)
            throw new InputException($"'{unknown.Id}' is no rule of it", "rules", string.Join(" | ", first.Rules.Select(r => r.Id)));
        var rules = first
            .Rules.Select(r => (Rule: r, Wish: wishes.FirstOrDefault(w => w.Id == r.Id)))
            .Where(x => x.Wish?.Judged ?? true)
            .Select(x => Changed(x.Rule, x.Wish, (name ?? "").Trim()))
            .ToList();
        return Checked(first with { Name = (name ?? "").Trim(), About = (about ?? "").Trim(), Rules = rules });
    }

    private static CanonRule Changed(CanonRule rule, RuleWish? wish, string name)
    {
        if (wish is null)
            return rule;
        var now = rule with
        {
            Expected = wish.Expected ?? rule.Expected,
            Tolerance = wish.Tolerance ?? rule.Tolerance,
            Parts = rule.Parts?.ToDictionary(p => p.Key, p => wish.Parts?.GetValueOrDefault(p.Key, p.Value) ?? p.Value),
        };
        return Same(rule, now) ? rule : now with { Source = $"{name}: the course's own" };
    }

    /// <summary>Alike to the four decimals that a form shows: a third that was left as it stands is no number of the course's.</summary>
    private static bool Same(CanonRule a, CanonRule b)
    {
        return Near(a.Expected, b.Expected)
            && Near(a.Tolerance, b.Tolerance)
            && (a.Parts ?? new Dictionary<string, double>()).All(p => Near(b.Parts![p.Key], p.Value));

        static bool Near(double x, double y) => Math.Abs(x - y) <= 0.00005;
    }

    /// <summary>Whole, within its bounds, and measuring what its first measures.</summary>
    /// <exception cref="InputException">What is wrong, in which rule, and what is accepted.</exception>
    public static Canon Checked(Canon canon)
    {
        if (CanonTable.All.FirstOrDefault(c => c.Id == canon.Id) is not { } first || first.Subject != canon.Subject)
            throw new InputException($"'{canon.Id}' is no canon to begin from", "id", string.Join(" | ", CanonTable.All.Select(c => c.Id)));
        if (string.IsNullOrWhiteSpace(canon.Name) || canon.Name.Length > LongestName)
            throw new InputException("the name is missing or too long", "name", $"1 to {LongestName} letters");
        if (canon.About is null || canon.About.Length > LongestAbout)
            throw new InputException("what it is about is too long", "about", $"up to {LongestAbout} letters");
        if (canon.Rules is not { Count: > 0 })
            throw new InputException("it has no rule left", "rules", "one rule at least");
        if (canon.Rules.Select(r => r.Id).Distinct().Count() != canon.Rules.Count)
            throw new InputException("a rule stands in it twice", "rules", "each rule once");
        foreach (var rule in canon.Rules)
            Check(
                rule,
                first.Rule(rule.Id)
                    ?? throw new InputException(
                        $"'{rule.Id}' is no rule of {first.Name}",
                        "rules",
                        string.Join(" | ", first.Rules.Select(r => r.Id))
                    )
            );
        // What gives way in the first gives way here: nothing else is read of it.
        return canon with { Yields = first.Yields, Heads = canon.Rule("F-heads")?.Expected ?? first.Heads };
    }

    private static void Check(CanonRule rule, CanonRule first)
    {
        var name = NameOf(rule.Id).ToLowerInvariant();
        if (
            rule.From != first.From
            || rule.ToleranceIs != first.ToleranceIs
            || !(rule.Parts?.Keys ?? []).ToHashSet().SetEquals(first.Parts?.Keys ?? [])
        )
            throw new InputException($"{name} is measured otherwise than in its first canon", rule.Id, "the same places, parts and unit");
        foreach (var value in (rule.Parts?.Values ?? []).Append(rule.Expected))
        {
            var (least, most) = Bounds(first);
            if (!(value >= least && value <= most))
                throw new InputException($"{Say.Number(value, 3)} for {name}", rule.Id, $"{Say.Number(least, 2)} to {Say.Number(most, 2)}");
        }
        var (closest, widest) = Reach(first);
        if (!(rule.Tolerance >= closest && rule.Tolerance <= widest))
            throw new InputException(
                $"a tolerance of {Say.Number(rule.Tolerance, 3)} for {name}",
                rule.Id,
                closest == widest ? $"{Say.Number(closest, 2)}: it has none" : $"{Say.Number(closest, 2)} to {Say.Number(widest, 2)}"
            );
    }

    /// <summary>What a rule's number may be. One that the recipe can't build by stays as it is.</summary>
    public static (double Least, double Most) Bounds(CanonRule first) =>
        !CanonRecipe.Builds.Contains(first.Id) ? (first.Expected, first.Expected)
        : first.Id == "F-heads" ? (4, 10)
        : first.Id is "H-nostril" or "H-corner" ? (-0.5, 0.5)
        : first.Id == "H-fives" ? (0.5, 8)
        : first.ToleranceIs == "share" ? (0.5, 4)
        : (0.1, 0.95);

    /// <summary>What a rule's tolerance may be; inside and outside of a base have none.</summary>
    public static (double Least, double Most) Reach(CanonRule first) =>
        first.Tolerance == 0 ? (0, 0)
        : first.Id == "H-turn" ? (1, 15)
        : (0.005, 0.5);

    /// <summary>What of it can't hold with the rest: built by its own numbers and judged by itself. Empty where it holds together.</summary>
    public static IReadOnlyList<string> Contradictions(Canon canon)
    {
        var built = CanonRecipe.Of(canon);
        if (OutOfOrder(canon, built) is { } order)
            return [order];
        var judged = Judge.Of(
            new()
            {
                Subject = canon.Subject,
                Canon = canon.Id,
                School = canon,
                Landmarks = new(new Dictionary<string, Geometry.Vec2>(built)),
                PlacementErrorMm = 0.1,
            }
        );
        return
        [
            .. judged
                .Findings.Where(f => f.Verdict == Verdict.Outside && f.Against == Against.Canon && f.Measured is not null)
                .Select(Apart)
                .Distinct(),
        ];
    }

    /// <summary>What the rest makes of a measure beside what the canon says of it.</summary>
    private static string Apart(Finding f)
    {
        var name = NameOf(f.Rule.Id) + (f.Measure.Part is { } part ? $", {part.Name}" : "");
        var (built, says, reach) = (f.Measured ?? 0, f.Expected ?? 0, f.Tolerance ?? 0);
        return $"{name}: the rest makes it {Say.Number(built, 2)}, it says {Say.Number(says, 2)} (±{Say.Number(reach, 2)})";
    }

    /// <summary>Features of a face one under the other; null where they stand so.</summary>
    private static string? OutOfOrder(Canon canon, IReadOnlyDictionary<string, Geometry.Vec2> built)
    {
        if (canon.Subject != "head")
            return null;
        (string Name, string Mark)[] down =
        [
            ("crown", "crown"),
            ("brow", "brow"),
            ("eye line", "eye-inner.L"),
            ("nose base", "nosebase"),
            ("mouth", "lip-slit"),
            ("chin", "chin"),
        ];
        foreach (var (upper, lower) in down.Zip(down.Skip(1)))
            if (built[upper.Mark].Y >= built[lower.Mark].Y)
                return $"The {lower.Name} would lie above the {upper.Name}";
        return null;
    }

    public static string NameOf(string rule) => Rules.Find(rule)?.Name ?? rule;

    public static string Write(Canon canon) => JsonSerializer.Serialize(canon, Json);

    /// <exception cref="InputException">No JSON of a canon, or what <see cref="Checked"/> refuses.</exception>
    public static Canon Read(string json)
    {
        try
        {
            return Checked(JsonSerializer.Deserialize<Canon>(json, Json) ?? throw new JsonException());
        }
        catch (Exception e) when (e is JsonException or NotSupportedException or ArgumentException or NullReferenceException)
        {
            throw new InputException("that is no canon", "file", "JSON as the shelf writes it");
        }
    }
}
