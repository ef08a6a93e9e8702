namespace MintHarbor.Core.Sessions;

/// <summary>An exercise with the minutes of one drawing in it.</summary>
public sealed record Drawn(string Exercise, double Minutes);

/// <summary>What an evening of one purpose is made of.</summary>
/// <param name="Own">Exercises that are the purpose itself; <paramref name="Carries"/> those in which it is worked out.</param>
/// <param name="OwnShare">Least share of the drawn minutes that the purpose's own exercises have, but no more than <paramref name="OwnMost"/> minutes.</param>
/// <param name="Sparing">Exercises that are a warm-up at the most.</param>
/// <param name="Warm">What opens the hand.</param>
/// <param name="Turn">What the evening turns to.</param>
/// <param name="Pair">Two exercises that correct each other in turn.</param>
/// <param name="Quick">What is drawn where only a few minutes are to be had.</param>
/// <param name="Studies">Its evenings are made of studies; the others live in sets of short poses.</param>
/// <param name="Grow">Drawings that lengthen from stretch to stretch.</param>
public sealed record PurposeUse(
    Purpose Id,
    IReadOnlyList<string> Own,
    IReadOnlyList<string> Carries,
    double OwnShare,
    double? OwnMost,
    IReadOnlyList<string> Sparing,
    string Warm,
    string Turn,
    IReadOnlyList<string> Pair,
    Drawn Quick,
    IReadOnlyList<Drawn> Grow,
    bool Studies = false
);

/// <summary>Purposes as data: which exercises serve them, and how much of an evening they are to have.</summary>
/// <param name="KeptShare">Least share of the drawn minutes that serve the purpose.</param>
public sealed record Purposes(string Source, double KeptShare, IReadOnlyList<PurposeUse> All)
{
    /// <summary>Most minutes of what a purpose is sparing with: a warm-up.</summary>
    public const double WarmUp = 10;

    /// <summary>Drawn minutes under which there is hardly more than a warm-up, whatever it is for.</summary>
    public const double KeptFrom = 20;

    /// <summary>Drawn minutes from which an evening must hold the purpose's own exercises.</summary>
    public const double OwnFrom = 45;

    public static Purposes Default { get; } = CoreData.Read<Purposes>("purposes");

    public static PurposeUse Of(Purpose purpose) => Default.All.First(p => p.Id == purpose);

    /// <summary>Whether an evening keeps to what it is for. What the instructor holds or has asked for by name counts for it or not
    /// at all; what mends a fault that the class makes counts for it. On a rung of the ladder the rung says what is drawn.</summary>
    public static RuleFact Prove(IReadOnlyList<PlanItem> items, PlanRequest request)
    {
        var use = Of(request.Wish.Purpose);
        var mends = Programme.Mending(request).ToHashSet();
        bool Serves(string e) => use.Own.Contains(e) || use.Carries.Contains(e) || mends.Contains(e);
        var free = items
            .Where(i => i.Kind == ItemKind.Exercise && (Serves(i.Exercise!) || (!i.Held && !request.Wish.Include.Contains(i.Exercise))))
            .Select(i => (Exercise: i.Exercise!, i.Minutes))
            .ToList();
        double Minutes(Func<string, bool> which) => free.Where(i => which(i.Exercise)).Sum(i => i.Minutes);
        var drawn = free.Sum(i => i.Minutes);
        var own = Minutes(use.Own.Contains);
        var kept = Minutes(Serves);
        var sparing = Minutes(use.Sparing.Contains);
        // One long drawing is all of its evening where a rung or a pose that goes on says so, and where nothing short has a place in it.
        var oneLong =
            request.Wish.Approach == Approach.LongFirst
            && (request.Known.Rung is not null || request.Wish.LongPose is not null || request.Wish.Purpose == Purpose.Gesture);
        var ownLeast = drawn < OwnFrom || oneLong ? 0 : Math.Min(use.OwnShare * drawn, use.OwnMost ?? drawn);
        var limit = drawn < KeptFrom ? 0 : Default.KeptShare * drawn;
        var word = request.Wish.Purpose.ToString().ToLowerInvariant();
        var laid = request.Laid.Count > 0;
        var holds = kept >= limit - 1e-9 && own >= ownLeast - 1e-9 && sparing <= WarmUp + 1e-9;
        return new(
            "purpose",
            holds || laid,
            kept,
            Math.Round(limit, 1),
            "min",
            null,
            $"Purpose {(holds ? "kept" : "kept in part")}, {word}: {Say.Number(kept, 1)} of {Say.Minutes(drawn)}{(own > 0 && own < kept ? $", {Say.Number(own, 1)} of them in exercises of its own" : "")}."
        )
        {
            Yields = !holds,
            Because =
                $"minutes that serve it ≥ {Say.Number(100 * Default.KeptShare)} % of what is drawn, its own exercises ≥ {Say.Number(ownLeast, 1)} min"
                + (use.Sparing.Count > 0 ? $", a warm-up in line ≤ {Say.Number(WarmUp)} min" : "")
                + $"; {Default.Source}",
        };
    }
}
