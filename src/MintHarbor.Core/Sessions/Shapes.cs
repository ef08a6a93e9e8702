namespace MintHarbor.Core.Sessions;

/// <summary>What a stretch of an evening is for.</summary>
internal enum Role
{
    Short,
    Middle,
    Long,
    Second,
    Again,
    Grow,
    Memory,
    Close,
}

/// <summary>One way to build an evening within an approach.</summary>
/// <param name="Idea">In one sentence; {0} short poses, {1} minutes on the longest one pose, {2} drawings in all.</param>
/// <param name="GivesUp">What it leaves out for that.</param>
public sealed record PlanShape(string Id, Approach Approach, string Name, string Idea, string GivesUp);

/// <summary>The three timetables that each approach has to choose from. The approaches differ for real: Quick-first opens short
/// and lengthens, Long-first draws nothing under its rung, Alternating opens the hand and then stays.</summary>
public static class Shapes
{
    public const string Laid = "laid";

    public static IReadOnlyList<PlanShape> All { get; } =
    [
        new(
            "lengthening",
            Approach.QuickFirst,
            "Lengthening",
            "{0} that lengthen, then {1} on one.",
            "Fewer drawings than quick poses all evening would give."
        ),
        new(
            "again",
            Approach.QuickFirst,
            "Again and again",
            "Gesture and mass in turn, {2} drawings: the next one corrects the last.",
            "Nothing is developed, and nothing measured."
        ),
        new(
            "growing",
            Approach.QuickFirst,
            "Step by step",
            "Every stretch takes longer poses than the one before: {2} drawings, the last of {1}.",
            "No pose is drawn long enough for tone."
        ),
        new(
            "opener",
            Approach.Alternating,
            "Open, then stay",
            "{0} to open the hand, then one of {1} that can be measured and corrected.",
            "One view of one pose for most of the evening."
        ),
        new(
            "two",
            Approach.Alternating,
            "Two poses",
            "{0} to open the hand, then two poses, one each side of the middle; the longer has {1}.",
            "Neither pose gets past construction."
        ),
        new(
            "bracket",
            Approach.Alternating,
            "Quick, long, quick",
            "{0} round one of {1}: the last quick ones show what the long one taught.",
            "The long pose loses its last stretch."
        ),
        new("one", Approach.LongFirst, "One pose", "One pose of {1} to the floor marks.", "No quick drawings; the hand starts cold."),
        new(
            "halves",
            Approach.LongFirst,
            "Two subjects",
            "Two subjects, half the evening each; the longer has {1}.",
            "Neither is finished tonight."
        ),
        new(
            "memory",
            Approach.LongFirst,
            "Then from memory",
            "{1} before the subject, then the same once more from memory.",
            "The last stretch isn't spent on the drawing itself."
        ),
    ];

    public static IReadOnlyList<PlanShape> Of(Approach approach) => [.. All.Where(s => s.Approach == approach)];

    /// <exception cref="InputException">No shape of that id in this approach.</exception>
    public static PlanShape Get(string id, Approach approach) =>
        Of(approach).FirstOrDefault(s => s.Id == id)
        ?? throw new InputException($"no timetable '{id}' in this approach", "shape", string.Join(" | ", Of(approach).Select(s => s.Id)));

    public static string Name(string id) => All.FirstOrDefault(s => s.Id == id)?.Name ?? "As laid by hand";

    /// <summary>What each open stretch is for; null where the evening is too short for this shape to be itself.</summary>
    internal static IReadOnlyList<Role>? Roles(
        PlanShape shape,
        PlanRequest r,
        IReadOnlyList<PlanItem> cut,
        IReadOnlyList<PlanItem> open,
        Ladder ladder
    )
    {
        var middle = cut.FirstOrDefault(i => i.Kind == ItemKind.Break)?.At ?? r.Wish.Minutes * 0.45;
        var n = open.Count;
        Role[] Of(Func<PlanItem, int, Role> of) => [.. open.Select(of)];
        switch (shape.Id)
        {
            case "lengthening":
                return Of(
                    (i, k) =>
                        r.Wish.Purpose == Purpose.Gesture && k < n - 1 ? Role.Short
                        : i.At >= middle ? Role.Long
                        : k > 0 && (k + 1 == n || open[k + 1].At >= middle) ? Role.Middle
                        : Role.Short
                );
            case "again":
                return Of((_, _) => Role.Again);
            case "growing":
                return Of((_, _) => Role.Grow);
            case "opener":
                return Of((_, k) => k == 0 ? Role.Short : Role.Long);
            case "two" when n >= 3:
                var before = Math.Max(1, Enumerable.Range(1, n - 1).Count(k => open[k].At < middle));
                return Of(
                    (_, k) =>
                        k == 0 ? Role.Short
                        : k <= Math.Min(before, n - 2) ? Role.Long
                        : Role.Second
                );
            case "bracket" when n >= 3:
                return Of(
                    (_, k) =>
                        k == 0 ? Role.Short
                        : k == n - 1 ? Role.Close
                        : Role.Long
                );
            case "one":
                return Of((_, _) => Role.Long);
            case "halves" when n >= 2:
                var first = Math.Clamp(open.Count(i => i.At < middle), 1, n - 1);
                var least = r.Known.Rung is null ? 20 : ladder.Get(r.Known.Rung).LeastMinutes;
                return open.Take(first).Sum(i => i.Minutes) >= least && open.Skip(first).Sum(i => i.Minutes) >= least
                    ? Of((_, k) => k < first ? Role.Long : Role.Second)
                    : null;
            case "memory" when n >= 2 && open[^1].Minutes >= 5:
                return Of((_, k) => k == n - 1 ? Role.Memory : Role.Long);
            default:
                return null;
        }
    }
}
