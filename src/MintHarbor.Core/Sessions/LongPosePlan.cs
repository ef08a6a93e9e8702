namespace MintHarbor.Core.Sessions;

/// <summary>One meeting's share of a long pose.</summary>
/// <param name="Number">Which of the pose's meetings, from 1.</param>
/// <param name="Minutes">Posed in it.</param>
/// <param name="Total">Posed when it ends.</param>
/// <param name="Stages">Stages worked on in it, each with its minutes here and whether it ends here.</param>
public sealed record LongPoseMeeting(int Number, double Minutes, double Total, IReadOnlyList<LongPoseStage> Stages);

public sealed record LongPoseStage(string Name, double Minutes, bool Ends);

/// <param name="NetMinutes">Posed minutes of one meeting, set-up, rests, break, review and packing up off.</param>
/// <param name="LeftOver">Minutes of the last meeting that the pose doesn't need.</param>
/// <param name="Because">The sum with its values.</param>
public sealed record LongPosePlan(double NetMinutes, IReadOnlyList<LongPoseMeeting> Meetings, double LeftOver, string Because)
{
    public const double LeastHours = 0.5,
        MostHours = 60;

    /// <summary>Stages of a long figure pose by their share of the time, per cent; common practice.</summary>
    public static readonly IReadOnlyList<(string Name, double Share)> Stages =
    [
        ("placement", 5),
        ("block-in", 15),
        ("construction", 25),
        ("anatomy", 20),
        ("tone", 30),
        ("finish", 5),
    ];

    /// <summary>Hours wanted ÷ net posed time of a meeting. The net time is that of the timetable the planner makes for it, so
    /// that both say the same.</summary>
    /// <param name="request">The meeting; its approach and shape don't matter here.</param>
    /// <exception cref="InputException">Hours outside 0.5 to 60, or a meeting in which nothing can be posed.</exception>
    public static LongPosePlan Of(PlanRequest request, double hours)
    {
        if (hours is not (>= LeastHours and <= MostHours))
            throw new InputException($"{Say.Number(hours, 1)} hours for a pose", "hours", $"{LeastHours} to {MostHours} hours");
        var plan = Planner.Plan(
            request
                .Afresh()
                .Knowing(k => k with { Rung = null })
                .Wishing(w =>
                    w with
                    {
                        Approach = Approach.LongFirst,
                        Shape = "one",
                        Model = w.HasLiveModel ? w.Model : ModelKind.Person,
                        Draped = true,
                        Include = [],
                    }
                )
        );
        if (plan.Proposals is not [var meeting])
            throw new InputException(plan.Cannot[0].Says, "minutes", "a meeting that can be planned");
        var net = meeting.PosedMinutes;
        var wanted = hours * 60;
        var count = (int)Math.Ceiling((wanted - 1e-9) / net);
        var ends = new List<(string Name, double End)>();
        double sum = 0;
        foreach (var (name, share) in Stages)
            ends.Add((name, (sum += share) / 100 * wanted));
        var meetings = new List<LongPoseMeeting>();
        for (var n = 0; n < count; n++)
        {
            double from = n * net,
                to = Math.Min(wanted, from + net);
            var stages = new List<LongPoseStage>();
            double begin = 0;
            foreach (var (name, end) in ends)
            {
                var minutes = Math.Min(to, end) - Math.Max(from, begin);
                if (minutes > 1e-9)
                    stages.Add(new(name, minutes, end <= to + 1e-9));
                begin = end;
            }
            meetings.Add(new(n + 1, to - from, to, stages));
        }
        var off = meeting
            .Items.Where(i => !i.Posed)
            .GroupBy(i => i.Name)
            .Select(g => $"{Say.Number(g.Sum(i => i.Minutes))} {g.Key.ToLowerInvariant()}");
        return new(
            net,
            meetings,
            (count * net) - wanted,
            $"{request.Wish.Minutes} min less {string.Join(", ", off)} = {Say.Minutes(net)} posed; {Say.Number(hours, 1)} h = {Say.Number(wanted)} min ÷ {Say.Number(net)} = {Say.Number(wanted / net, 2)}, so {Say.Plural(count, "meeting")}"
        );
    }

    /// <summary>Dates of the pose's meetings when the model is away on some of them: everything from there on moves by one.</summary>
    /// <returns>For each meeting of the pose its place in the dates; −1 where the dates don't reach.</returns>
    public IReadOnlyList<int> Places(int dates, IReadOnlySet<int> away)
    {
        var free = Enumerable.Range(0, dates).Where(d => !away.Contains(d)).ToList();
        return [.. Meetings.Select((_, n) => n < free.Count ? free[n] : -1)];
    }
}
