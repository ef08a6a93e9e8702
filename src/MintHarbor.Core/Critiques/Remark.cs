using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Critiques;

/// <summary>One remark of a critique: where, what, why, next.</summary>
/// <param name="Spot">Place on the sheet in mm; null when only said in words.</param>
/// <param name="Priority">1 to 3, or null for a remark beside the priorities.</param>
/// <param name="Holds">Says what is right and stays: wants a place, but no next step.</param>
public sealed record Remark(
    string Id,
    Family Family,
    string Where,
    string What,
    string Why,
    string Next,
    Vec2? Spot,
    int? Priority,
    string? Drill,
    string? FaultId,
    string? Rule,
    bool Holds = false
)
{
    /// <summary>What is missing for the student to act on it.</summary>
    public IReadOnlyList<string> Flags
    {
        get
        {
            var flags = new List<string>();
            if (string.IsNullOrWhiteSpace(Where) && Spot is null)
                flags.Add("no place: say where, or click it on the sheet");
            if (string.IsNullOrWhiteSpace(What))
                flags.Add("nothing named: say what you see");
            if (!Holds && string.IsNullOrWhiteSpace(Next))
                flags.Add("no next step: say what to do");
            return flags;
        }
    }

    /// <summary>Changes with anything that is said: tells whether a page knew the remark as it now stands.</summary>
    public string Fingerprint =>
        Convert.ToHexStringLower(
            System.Security.Cryptography.SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(string.Join('\u001f', Where, What, Why, Next)))
        )[..12];

    public static Remark FromFault(string id, Fault f, Vec2? spot) =>
        new(id, f.Family, f.Where, $"{f.Name}: {f.Sign}.", f.Principle, f.Remedy, spot, null, f.Drill, f.Id, f.Rule);

    /// <summary>A remark out of a finding: the number is the finding's, principle and remedy come from the fault of that rule
    /// whose direction fits, where the library has one.</summary>
    public static Remark FromFinding(string id, Finding f, Vec2? spot)
    {
        var fault = FaultOf(f);
        return new(
            id,
            fault?.Family ?? (f.Rule is "F-tilt" or "F-balance" or "R-lean" or "R-direction" ? Family.Placement : Family.Proportion),
            fault?.Where ?? f.Part ?? "",
            f.Says,
            fault?.Principle ?? "",
            fault?.Remedy ?? "",
            spot,
            null,
            fault?.Drill,
            fault?.Id,
            f.Rule
        );
    }

    private static Fault? FaultOf(Finding f)
    {
        var less = f.Measured < f.Expected;
        var id = f.Rule switch
        {
            "F-heads" => less ? "head-large" : "head-small",
            "F-mid" => less ? "legs-long" : "legs-short",
            "F-shoulder" => less ? "shoulders-narrow" : "shoulders-broad",
            "F-wrist" => less ? "arms-short" : "arms-long",
            "F-hand" when less => "hands-small",
            "F-foot" when less => "feet-small",
            "F-pair" => "limb-unequal",
            "H-eye" when less => "eyes-high",
            "H-neck" when less => "neck-thin",
            "H-ear" when less => "ears-high",
            "H-turn" => "axis-in-middle",
            "F-balance" => "leaning",
            "F-tilt" when f.Part == "action" || f.Part == "pit over the standing foot" => "leaning",
            "F-tilt" => "level-tilts",
            "F-spans" when f.Part == "pit to sole" && less => "squeezed-end",
            "F-spans" when f.Part == "pit to pubic bone" && !less => "trunk-long",
            "R-lean" => "leaning",
            "R-length" when !less && f.Says.Contains("known, not seen", StringComparison.Ordinal) => "known-length",
            "R-length" => OfPart(f.Part ?? "", less),
            _ => null,
        };
        return Faults.Find(id);
    }

    /// <summary>The fault that a part drawn short or long against the reference view is, where the library names it.</summary>
    private static string? OfPart(string part, bool less) =>
        part switch
        {
            "head" => less ? "head-small" : "head-large",
            "trunk" => less ? null : "trunk-long",
            "breadth of the shoulders" => less ? "shoulders-narrow" : "shoulders-broad",
            _ when part.EndsWith("hand", StringComparison.Ordinal) => less ? "hands-small" : null,
            _ when part.EndsWith("foot", StringComparison.Ordinal) => less ? "feet-small" : null,
            _ when part.EndsWith("arm", StringComparison.Ordinal) => less ? "arms-short" : "arms-long",
            _ when part.EndsWith("thigh", StringComparison.Ordinal) || part.EndsWith("leg", StringComparison.Ordinal) => less
                ? "legs-short"
                : "legs-long",
            _ => null,
        };
}

public static class Priorities
{
    public const int Most = 3;

    /// <summary>The chosen remarks in working order, numbered from 1; those beyond three lose their number.</summary>
    public static IReadOnlyList<Remark> InOrder(IReadOnlyList<Remark> remarks)
    {
        var chosen = remarks
            .Where(r => r.Priority is not null)
            .OrderBy(r => r.Family)
            .ThenBy(r => r.Priority)
            .Take(Most)
            .Select(r => r.Id)
            .ToList();
        return
        [
            .. remarks
                .Select(r => r with { Priority = chosen.IndexOf(r.Id) is >= 0 and var k ? k + 1 : null })
                .OrderBy(r => r.Priority ?? 9)
                .ThenBy(r => r.Family),
        ];
    }

    /// <summary>What stands in the way of releasing; empty when it can go.</summary>
    public static IReadOnlyList<string> Blocking(IReadOnlyList<Remark> remarks)
    {
        var said = new List<string>();
        if (remarks.Count == 0)
            said.Add("Nothing is said yet.");
        if (remarks.Any(r => r.Flags.Count > 0))
            said.Add($"{Say.Plural(remarks.Count(r => r.Flags.Count > 0), "remark")} without place or next step.");
        return said;
    }

    /// <summary>Tone is not spoken of while proportion is off: the remarks that should wait.</summary>
    public static IReadOnlyList<Remark> TooEarly(IReadOnlyList<Remark> remarks, IReadOnlyList<Finding> findings) =>
        findings.Any(f => f.IsOutside && f.Rule is not ("F-tilt" or "F-balance" or "R-lean" or "R-direction"))
            ? [.. remarks.Where(r => r.Family >= Family.Tone)]
            : [];
}

/// <param name="Key">Rule and part.</param>
public sealed record BeforeAfter(
    string Key,
    string Unit,
    double? Before,
    double? After,
    double? Expected,
    Verdict BeforeVerdict,
    Verdict AfterVerdict
)
{
    /// <summary>Whether the deviation shrank; null where either is not measured.</summary>
    public bool? Closer => Before is { } b && After is { } a && Expected is { } e ? Math.Abs(Off(a - e)) < Math.Abs(Off(b - e)) : null;

    private double Off(double d) => Unit == "deg" ? ClockAngle.Wrap(d) : d;
}

public static class Comparison
{
    /// <summary>The measures that both drawings have, with both values: what moved between a sheet and its redo.</summary>
    public static IReadOnlyList<BeforeAfter> Of(IReadOnlyList<Finding> before, IReadOnlyList<Finding> after) =>
        [
            .. from b in before
            join a in after on (b.Key, b.Against) equals (a.Key, a.Against)
            where b.Measured is not null && a.Measured is not null
            where b.Verdict is not Verdict.DoesNotApply || a.Verdict is not Verdict.DoesNotApply
            orderby b.Verdict == Verdict.Outside ? 0 : 1, Math.Abs(b.OffPercent ?? 0) descending
            select new BeforeAfter(b.Key, b.Unit, b.Measured, a.Measured, b.Expected, b.Verdict, a.Verdict),
        ];
}
