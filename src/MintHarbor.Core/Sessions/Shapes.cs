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

    /// <summary>What the evening turns to, all of the stretch.</summary>
    Study,
}

/// <summary>One way to build an evening within an approach.</summary>
/// <param name="Idea">What it promises, in one sentence, said only where the timetable keeps it (<see cref="Ideas"/>): {0} short drawings, {1} minutes on
/// the longest one, {2} drawings in all, {3} and {4} the purpose's pair, {5} how one long drawing is kept, {6} what it is made from, {7} several of them.</param>
/// <param name="Plain">What can be said of any timetable of this kind.</param>
/// <param name="GivesUp">What it leaves out for that.</param>
public sealed record PlanShape(string Id, Approach Approach, string Name, string Idea, string Plain, string GivesUp);

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
            "{2} drawings, none shorter than the one before, the last of {1}.",
            "{2} drawings, the longest of {1}.",
            "Fewer drawings than quick ones all evening would give."
        ),
        new(
            "again",
            Approach.QuickFirst,
            "Again and again",
            "{3} and {4} in turn, {2} drawings: the next one corrects the last.",
            "{2} drawings that follow each other quickly: the next one corrects the last.",
            "Nothing is drawn for longer than {1}."
        ),
        new(
            "growing",
            Approach.QuickFirst,
            "Step by step",
            "No stretch has shorter drawings than the one before: {2} drawings, the last of {1}.",
            "{2} drawings of many lengths, the longest of {1}.",
            "Nothing is drawn long enough to be finished."
        ),
        new(
            "opener",
            Approach.Alternating,
            "Open, then stay",
            "{0} to open the hand, then one of {1} that can be measured and corrected.",
            "{2} drawings, the longest of {1} that can be measured and corrected.",
            "One view of one {6} for most of the evening."
        ),
        new(
            "two",
            Approach.Alternating,
            "Open, then two",
            "Two {7}, one each side of the middle; the longer has {1}.",
            "{2} drawings, the longest of {1}.",
            "Neither gets past construction."
        ),
        new(
            "bracket",
            Approach.Alternating,
            "Quick, long, quick",
            "{0} round one of {1}: the last quick ones show what the long one taught.",
            "{2} drawings round one of {1}.",
            "The long drawing loses its last stretch."
        ),
        new(
            "one",
            Approach.LongFirst,
            "One drawing",
            "One {6} of {1}, {5}.",
            "{2} drawings, the longest of {1}.",
            "No quick drawings; the hand starts cold."
        ),
        new(
            "halves",
            Approach.LongFirst,
            "Two halves",
            "Two {7}, about half the evening each; the longer has {1}.",
            "{2} drawings, the longest of {1}.",
            "Neither is finished tonight."
        ),
        new(
            "memory",
            Approach.LongFirst,
            "Then from memory",
            "{1} before the subject, then the same once more from memory.",
            "{2} drawings, the last of them from memory.",
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
        // A purpose that lives in short poses keeps a third of the stretches for them.
        var quick = r.Wish.Purpose == Purpose.Gesture ? Math.Max(1, (int)Math.Ceiling(n / 3.0)) : 1;
        // What ends the evening is no crumb of a long day.
        var last = Math.Max(Ending(open), quick / 2);
        // Long-first opens with a study of what the evening is for, where it is long enough, no rung forbids it and no pose is to go on.
        var study = r.Known.Rung is null && r.Wish.LongPose is null && n >= 2 && Purposes.Of(r.Wish.Purpose).Studies ? 1 : 0;
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
                return Of((_, k) => k < quick ? Role.Short : Role.Long);
            case "two" when n >= quick + 2:
                var before = Math.Clamp(open.Count(i => i.At < middle), quick + 1, n - 1);
                return Of(
                    (_, k) =>
                        k < quick ? Role.Short
                        : k < before ? Role.Long
                        : Role.Second
                );
            case "bracket" when n >= 2 + last:
                return Of(
                    (_, k) =>
                        k < (quick + 1) / 2 ? Role.Short
                        : k >= n - last ? Role.Close
                        : Role.Long
                );
            case "one":
                return Of((_, k) => k < study ? Role.Study : Role.Long);
            case "halves" when n >= 2 + study:
                var first = Math.Clamp(open.Count(i => i.At < middle), 1 + study, n - 1);
                var least = r.Known.Rung is null ? 20 : ladder.Get(r.Known.Rung).LeastMinutes;
                return open.Take(first).Skip(study).Sum(i => i.Minutes) >= least && open.Skip(first).Sum(i => i.Minutes) >= least
                    ? Of(
                        (_, k) =>
                            k < study ? Role.Study
                            : k < first ? Role.Long
                            : Role.Second
                    )
                    : null;
            case "memory" when n >= 1 + last + study && open[^1].Minutes >= 5:
                return Of(
                    (_, k) =>
                        k < study ? Role.Study
                        : k >= n - last ? Role.Memory
                        : Role.Long
                );
            default:
                return null;
        }
    }

    /// <summary>How many of the last stretches make up a sixth of what is drawn, and a little more.</summary>
    private static int Ending(IReadOnlyList<PlanItem> open)
    {
        var wanted = 0.18 * open.Sum(i => i.Minutes);
        var count = 0;
        for (double minutes = 0; minutes < wanted && count < open.Count; count++)
            minutes += open[^(count + 1)].Minutes;
        return count;
    }
}
