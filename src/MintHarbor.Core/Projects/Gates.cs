using MintHarbor.Core.Critiques;

namespace MintHarbor.Core.Projects;

/// <summary>Any: one of a gate's parts opens it. All: every part is wanted.</summary>
public enum GateMix
{
    Any,
    All,
}

public enum GateKind
{
    Checklist,
    Measures,
    Word,
}

/// <summary>One part of a gate as it stands.</summary>
/// <param name="Wanting">What it still wants, in words; empty when it is met.</param>
public sealed record GatePart(GateKind Kind, IReadOnlyList<string> Wanting)
{
    public bool Met => Wanting.Count == 0;
}

/// <param name="Open">Every measure of the gate that could be judged lies inside, and at least half of its rules were judged.</param>
/// <param name="Says">One or more sentences, the last without its full stop.</param>
public sealed record GateReport(bool Open, string Says)
{
    /// <summary>Reads a sheet's findings as a gate. A departure marked as the sitter's own does not close it; one too close to
    /// call does.</summary>
    public static GateReport Read(StageTemplate stage, IReadOnlyList<Finding> findings)
    {
        var rules = stage.Measured ?? [];
        var judged = findings.Where(f => rules.Contains(f.Rule.Id) && f.Judgeable).ToList();
        var known = judged.Select(f => f.Rule).Distinct().Count();
        var wanted = (rules.Count + 1) / 2;
        var off = judged.Where(f => f.Verdict is Verdict.Outside or Verdict.TooClose).ToList();
        if (known < wanted)
            return new(false, $"only {known} of {rules.Count} rules could be judged; {wanted} are wanted");
        return off.Count == 0
            ? new(true, $"{Say.Plural(judged.Count, "measure")} inside")
            : new(false, string.Join(" ", off.Take(3).Select(f => f.Says)).TrimEnd('.'));
    }
}

/// <summary>How one student's gate stands: what is ticked, measured, said; or the waiver with its reason, which stays.</summary>
/// <param name="MeasuredOn">The sheet whose report opened it, and what it says.</param>
/// <param name="Said">Who gave the word.</param>
public sealed record GateState(IReadOnlyList<string> Ticked, string? WaivedBecause, string? MeasuredOn = null, string? Said = null)
{
    public static readonly GateState Closed = new([], null);

    public bool Waived => !string.IsNullOrWhiteSpace(WaivedBecause);

    /// <summary>The parts that the stage's gate has, in the order checklist, measures, word.</summary>
    public IReadOnlyList<GatePart> Parts(StageTemplate stage)
    {
        var parts = new List<GatePart>();
        if (stage.Gate.Count > 0)
            parts.Add(new(GateKind.Checklist, [.. stage.Gate.Where(g => !Ticked.Contains(g))]));
        if (stage.Measured is not null)
            parts.Add(new(GateKind.Measures, MeasuredOn is null ? ["measures inside"] : []));
        if (stage.Word)
            parts.Add(new(GateKind.Word, Said is null ? ["the instructor's word"] : []));
        return parts;
    }

    public bool IsOpen(StageTemplate stage)
    {
        var parts = Parts(stage);
        return parts.Count == 0 || Waived || (stage.Mix == GateMix.All ? parts.All(p => p.Met) : parts.Any(p => p.Met));
    }

    /// <summary>What would open it: one phrase a way where any will do, everything still missing where all are wanted.</summary>
    public IReadOnlyList<string> Wanting(StageTemplate stage)
    {
        if (IsOpen(stage))
            return [];
        var missing = Parts(stage).Where(p => !p.Met).ToList();
        return stage.Mix == GateMix.All ? [.. missing.SelectMany(p => p.Wanting)] : [.. missing.Select(p => Say.List(p.Wanting))];
    }

    /// <summary>The same as one phrase.</summary>
    public string WantingSays(StageTemplate stage) =>
        stage.Mix == GateMix.All ? Say.List(Wanting(stage)) : string.Join("; or ", Wanting(stage));
}
