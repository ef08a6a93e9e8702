namespace MintHarbor.Core.Sessions;

/// <summary>Something that whoever poses may say of it that they hold it gladly, or would rather not be asked for.</summary>
/// <param name="Id">One of <see cref="PoseLibrary.Traits"/>.</param>
public sealed record ModelWish(string Id, string Name);

/// <summary>Whoever poses, as far as a timetable depends on it: what they said themselves, and nothing of their body.</summary>
/// <param name="Ease">Share of the usual lengths that they are asked for, <see cref="LeastEase"/> to 1.</param>
/// <param name="Gladly">What they hold gladly, ids of <see cref="Wishes"/>; <paramref name="RatherNot"/> what they are not asked for.</param>
public sealed record ModelOfDay(double Ease, IReadOnlyList<string> Gladly, IReadOnlyList<string> RatherNot)
{
    public const double LeastEase = 0.5;

    public static IReadOnlyList<ModelWish> Wishes { get; } =
    [
        new("standing", "standing"),
        new("seated", "seated"),
        new("kneeling", "kneeling"),
        new("reclining", "lying"),
        new("weight-shift", "weight on one leg"),
        new("twist", "a twist"),
        new("arms-up", "arms raised"),
    ];

    /// <summary>How a share of the usual lengths is offered, kindly.</summary>
    public static IReadOnlyList<(double Ease, string Says)> Eases { get; } =
    [(1, "as long as usual"), (0.8, "a little shorter than usual"), (0.6, "much shorter than usual")];

    public static string Says(double ease) => Eases.MinBy(e => Math.Abs(e.Ease - ease)).Says;

    /// <summary>Whether a pose is one that they would rather not hold.</summary>
    public bool Spares(StudioPose pose) => pose.Traits.Any(RatherNot.Contains);

    public bool Likes(StudioPose pose) => pose.Traits.Any(Gladly.Contains);

    /// <summary>Two who pose together: the shorter lengths, what both like, what either would rather not.</summary>
    public static ModelOfDay? Together(IReadOnlyList<ModelOfDay> all) =>
        all.Count == 0
            ? null
            : new(
                all.Min(m => m.Ease),
                [.. all[0].Gladly.Where(g => all.All(m => m.Gladly.Contains(g)))],
                [.. all.SelectMany(m => m.RatherNot).Distinct()]
            );

    /// <summary>Whether a timetable asks for nothing that whoever poses would rather not hold. A laid one that does is not refused: it is said.</summary>
    public RuleFact Prove(IReadOnlyList<PlanItem> items, PlanRequest request)
    {
        var asked = items
            .Where(i => i.Posed)
            .SelectMany(i => i.PoseRuns())
            .Where(run => PoseLibrary.Find(run.PoseId, request) is { } pose && Spares(pose))
            .ToList();
        var holds = asked.Count == 0;
        return new(
            "model",
            holds || request.Laid.Count > 0,
            asked.Count,
            0,
            "poses",
            holds ? null : asked[0].At,
            holds
                ? Ease < 1
                    ? $"Lengths are {Says(Ease)}, as whoever poses asked."
                    : "Nothing is asked that whoever poses would rather not hold."
                : $"{PoseLibrary.Name(asked[0].PoseId!, request)} is not asked of whoever poses."
        )
        {
            Yields = !holds,
            Because = $"lengths × {Say.Number(Ease, 2)}, whole minutes; what they said themselves, which always wins",
        };
    }
}
