using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <summary>One remark of a critique: where, what, why, next.</summary>
/// <param name="Spot">Place on the sheet in mm; null when only said in words.</param>
/// <param name="Priority">1 to 3, or null for a remark beside the priorities.</param>
/// <param name="Holds">Says what is right and stays: wants a place, but no next step.</param>
/// <param name="Key">The measure that it was taken over from; null for one that was named by eye.</param>
/// <param name="Check">The check of anatomy that it was found by, with its side (<see cref="CheckOn.Key"/>); null for another.</param>
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
    bool Holds = false,
    string? Key = null,
    string? Check = null
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

    /// <summary>A remark out of a check of anatomy: place and both signs are the check's, principle, remedy and drill the fault's.</summary>
    public static Remark FromCheck(string id, CheckOn on, Fault f, Vec2? spot) =>
        FromFault(id, f, spot) with
        {
            Where = on.SideSays == "" ? f.Where : $"{f.Where}, {on.SideSays}",
            What = $"{f.Name}: {on.Check.Wrong}. Right: {on.Check.Right}.",
            Check = on.Key,
        };

    /// <summary>A remark out of a finding: the number is the finding's, principle and remedy come from the fault of that rule
    /// whose direction fits, where the library has one.</summary>
    /// <param name="named">The fault as the course says it; the finding's own where it says nothing.</param>
    public static Remark FromFinding(string id, Finding f, Vec2? spot, Fault? named = null)
    {
        var fault = named ?? f.Fault;
        return new(
            id,
            fault?.Family ?? f.Rule.Family,
            fault?.Where ?? f.Part ?? "",
            f.Says,
            fault?.Principle ?? "",
            fault?.Remedy ?? "",
            spot,
            null,
            fault?.Drill,
            fault?.Id,
            f.Rule.Id,
            Key: f.Key
        );
    }
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
        findings.Any(f => f.IsOutside && f.Rule.Family > Family.Placement) ? [.. remarks.Where(r => r.Family >= Family.Tone)] : [];
}

/// <summary>What became of a measure between a sheet and its redo.</summary>
public enum Moved
{
    /// <summary>The change is not beyond the uncertainty of both readings.</summary>
    Same,
    Closer,
    Further,

    /// <summary>As far off as before, on the other side.</summary>
    Across,
}

/// <summary>One measure of both drawings of a pose.</summary>
public sealed record BeforeAfter(Finding Before, Finding After)
{
    /// <summary>Only a change beyond both uncertainties together is one.</summary>
    public Moved Moved
    {
        get
        {
            double before = Before.Off!.Value,
                after = After.Off!.Value,
                both = (Before.Uncertainty ?? 0) + (After.Uncertainty ?? 0);
            var change = Before.Measure.Kind == MeasureKind.Angle ? ClockAngle.Wrap(after - before) : after - before;
            var less = Math.Abs(before) - Math.Abs(after);
            return Math.Abs(change) <= both ? Moved.Same
                : less > both ? Moved.Closer
                : less < -both ? Moved.Further
                : Moved.Across;
        }
    }
}

public static class Comparison
{
    /// <summary>The measures that both drawings have, with both values: what moved between a sheet and its redo.</summary>
    public static IReadOnlyList<BeforeAfter> Of(IReadOnlyList<Finding> before, IReadOnlyList<Finding> after) =>
        [
            .. from b in before
            join a in after on (b.Key, b.Against) equals (a.Key, a.Against)
            where b.Off is not null && a.Off is not null && b.Verdict != Verdict.NotLookedAt && a.Verdict != Verdict.NotLookedAt
            orderby b.IsOutside ? 0 : 1, Math.Abs(b.OffPercent ?? 0) descending
            select new BeforeAfter(b, a),
        ];
}

/// <summary>One measure over a series of drawings of the same subject.</summary>
/// <param name="Attempts">Its finding on each, the earliest first; null where it can't be told there.</param>
public sealed record SeriesRow(IReadOnlyList<Finding?> Attempts)
{
    private List<Finding> Told => [.. Attempts.OfType<Finding>()];

    /// <summary>A finding that names the measure.</summary>
    public Finding First => Told[0];

    /// <summary>From the first attempt that has it to the last; null where only one has.</summary>
    public Moved? Moved => Told is { Count: > 1 } told ? new BeforeAfter(told[0], told[^1]).Moved : null;

    /// <summary>Outside on every attempt that has it, two at least, and each time on the same side: a habit and no slip.</summary>
    public bool StaysWrong =>
        Told is { Count: > 1 } told && told.All(f => f.IsOutside) && told.Select(f => Math.Sign(f.Off!.Value)).Distinct().Count() == 1;
}

/// <summary>The same object, pose or head drawn again and again: what moved beyond error, and what stays wrong in all.</summary>
public static class Series
{
    /// <summary>Measures that at least two attempts have, those that stay wrong first, then those that moved.</summary>
    /// <param name="attempts">The findings of each drawing, the earliest first.</param>
    public static IReadOnlyList<SeriesRow> Of(IReadOnlyList<IReadOnlyList<Finding>> attempts) =>
        [
            .. attempts
                .SelectMany(
                    (found, n) => found.Where(f => f.Off is not null && f.Verdict != Verdict.NotLookedAt).Select(f => (Finding: f, At: n))
                )
                .GroupBy(x => (x.Finding.Key, x.Finding.Against))
                .Select(g => new SeriesRow([.. Enumerable.Range(0, attempts.Count).Select(n => g.FirstOrDefault(x => x.At == n).Finding)]))
                .Where(r => r.Attempts.Count(a => a is not null) > 1)
                .OrderBy(r =>
                    r.StaysWrong ? 0
                    : r.Moved is Moved.Same ? 2
                    : 1
                )
                .ThenBy(r => r.First.Rule.Order),
        ];
}
