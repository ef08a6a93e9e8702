using NodaTime;

namespace MintHarbor.Core.Sessions;

/// <summary>Minutes of one kind of item, as planned and as they went.</summary>
public sealed record Overrun(ItemKind Kind, double Planned, double Actual)
{
    public double Over => Actual - Planned;
}

/// <summary>What a meeting took against its plan, and what the next one should allow for.</summary>
public static class Overruns
{
    /// <summary>How many meetings are looked back on.</summary>
    public const int Recent = 5;

    /// <summary>By kind, the exercises together. What was still to come when the clock was last touched counts as it was planned, so
    /// only a meeting that was run to its end says much; null for one that wasn't begun.</summary>
    public static IReadOnlyList<Overrun>? Of(IReadOnlyList<PlanItem> plan, IReadOnlyList<ClockEvent> events, Instant now)
    {
        var reading = MeetingClock.Read(plan, events, now);
        if (!reading.Started)
            return null;
        var ran = reading.Timeline.Take(reading.Index + 1).ToList();
        return
        [
            .. plan.Select(i => i.Kind)
                .Concat(ran.Select(r => r.Item.Kind))
                .Distinct()
                .Select(kind => new Overrun(
                    kind,
                    plan.Where(i => i.Kind == kind).Sum(i => i.Minutes),
                    ran.Where(r => r.Item.Kind == kind).Sum(r => r.Minutes)
                )),
        ];
    }

    /// <summary>Minutes to allow for a kind: the median of what the last meetings took, whole minutes, 5 to 30; null where fewer
    /// than two meetings say anything, or the median lies within a minute of what is planned anyway.</summary>
    /// <param name="newestFirst">What each past meeting took, the newest first.</param>
    public static double? Learned(ItemKind kind, IReadOnlyList<IReadOnlyList<Overrun>> newestFirst, double usual)
    {
        var took = newestFirst
            .Select(m => m.FirstOrDefault(o => o.Kind == kind))
            .OfType<Overrun>()
            .Where(o => o.Actual > 0.5)
            .Take(Recent)
            .Select(o => o.Actual)
            .Order()
            .ToList();
        if (took.Count < 2)
            return null;
        var median = took.Count % 2 == 1 ? took[took.Count / 2] : (took[(took.Count / 2) - 1] + took[took.Count / 2]) / 2;
        var wanted = Math.Clamp(Math.Ceiling(median - 1e-9), 5, 30);
        return Math.Abs(wanted - usual) <= 1 ? null : wanted;
    }
}
