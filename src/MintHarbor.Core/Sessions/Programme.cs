using MintHarbor.Core.Critiques;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Sessions;

/// <summary>Says what is drawn in each stretch, in the measure that the timetable's shape wants. A live model's minutes and
/// an object's are filled alike.</summary>
internal static class Programme
{
    /// <summary>The stretches filled, or the reasons why a wanted exercise has no place; null where the evening is too short for the shape.</summary>
    public static (List<PlanItem> Items, List<Cannot> Missing)? Fill(PlanRequest r, PlanShape shape, List<PlanItem> cut)
    {
        var open = cut.Where(IsOpen).ToList();
        if (Shapes.Roles(shape, r, cut, open, Ladder.Default) is not { } roles)
            return null;
        var items = new List<PlanItem>();
        var stage = 0;
        var second = false;
        foreach (var i in cut)
        {
            if (!IsOpen(i))
            {
                items.Add(i.Kind == ItemKind.Exercise ? Settle(r, i) : i);
                continue;
            }
            var role = roles[stage];
            var pieces = role switch
            {
                Role.Long or Role.Second => Long(r, i.At, i.Minutes),
                Role.Study => Studied(r, i.At, i.Minutes),
                Role.Middle => Middle(r, i.At, i.Minutes, stage),
                Role.Again => Again(r, i.At, i.Minutes, stage),
                Role.Grow => Grow(r, i.At, i.Minutes, stage, roles.Count),
                Role.Memory => [Item(i.At, i.Minutes, "without-reference", Math.Max(1, (int)Math.Ceiling(i.Minutes / 15)))],
                Role.Close => Quick(r, i.At, i.Minutes),
                _ => Short(r, i.At, i.Minutes, stage),
            };
            // The second long pose begins its own count of periods.
            if (role == Role.Second && !second)
                (pieces, second) = ([.. pieces.Select((p, k) => k == 0 && p.Exercise == "sitting" ? p with { Period = 1 } : p)], true);
            items.AddRange(pieces.Select(p => Settle(r, p)));
            stage++;
        }
        var missing = new List<Cannot>();
        foreach (var id in r.Wish.Include.Distinct().Where(id => items.All(i => i.Exercise != id)))
            if (!Put(r, items, r.Known.GetExercise(id)))
                missing.Add(NoRoom(r.Known.GetExercise(id), items));
        return (Number(items), missing);
    }

    private static bool IsOpen(PlanItem i) => i.Kind == ItemKind.Exercise && i.Exercise is null;

    private static Cannot NoRoom(Exercise e, List<PlanItem> items)
    {
        var longest = items.Where(i => i.Kind == ItemKind.Exercise && !i.Held).Select(i => i.Minutes).DefaultIfEmpty(0).Max();
        return new(
            "include",
            $"{e.Name} wants {e.MinutesText}; the longest open stretch has {Say.Minutes(longest)}.",
            new Dictionary<string, object?> { ["minutes"] = longest }
        );
    }

    private static IEnumerable<PlanItem> Long(PlanRequest r, double at, double minutes)
    {
        // On a rung of the ladder a short stretch goes on with the same pose: nothing quick is slipped in.
        if (Subject.Of(r.Wish.Model).Longest is not null)
            return Quick(r, at, minutes);
        if (minutes >= 5 || (r.Wish.Approach == Approach.LongFirst && r.Known.Rung is not null))
            return [Item(at, minutes, "sitting", 1)];
        return Quick(r, at, minutes);
    }

    private static bool InStudies(PlanRequest r) => Purposes.Of(r.Wish.Purpose).Studies;

    private static IEnumerable<PlanItem> Middle(PlanRequest r, double at, double minutes, int stage)
    {
        var use = Purposes.Of(r.Wish.Purpose);
        var e = r.Known.GetExercise(Mending(r).FirstOrDefault() ?? use.Turn);
        if (InStudies(r) && e.Id == use.Turn)
            return Studied(r, at, minutes);
        var own = Math.Clamp(10, e.MinMinutes, e.MaxMinutes);
        if (minutes < own)
            return Short(r, at, minutes, stage);
        if (minutes - own < 4 && minutes <= e.MaxMinutes)
            own = minutes;
        return
        [
            .. InStudies(r) ? Quick(r, at, minutes - own) : Sets(at, minutes - own, 2, r.Wish.Level == Level.Beginner),
            .. e.Id == "timed-study-set" ? Study(at + minutes - own, own) : [Item(at + minutes - own, own, e.Id, 1)],
        ];
    }

    /// <summary>The exercise that the evening turns to fills the minutes; what is too short for it is quick.</summary>
    private static IEnumerable<PlanItem> Studied(PlanRequest r, double at, double minutes) =>
        Whole(r.Known.GetExercise(Purposes.Of(r.Wish.Purpose).Turn), at, minutes) ?? Quick(r, at, minutes);

    /// <summary>A few minutes each, in the purpose's own way; gestures where even that is too long.</summary>
    private static IEnumerable<PlanItem> Quick(PlanRequest r, double at, double minutes)
    {
        if (minutes <= 0)
            return [];
        var quick = Purposes.Of(r.Wish.Purpose).Quick;
        return quick.Exercise == "gesture"
            ? Sets(at, minutes, 1, r.Wish.Level == Level.Beginner)
            : Whole(r.Known.GetExercise(quick.Exercise), at, minutes, quick.Minutes) ?? Sets(at, minutes, 0, beginner: false);
    }

    /// <summary>One exercise for all of the minutes, in as few equal drawings as its own length allows, or in drawings of about a length; null where
    /// that can't be.</summary>
    private static List<PlanItem>? Whole(Exercise e, double at, double minutes, double? each = null)
    {
        if (minutes < e.MinMinutes)
            return null;
        var wanted = Math.Clamp(each ?? e.MaxMinutes, e.MinMinutes, e.MaxMinutes);
        var count = Math.Max(1, (int)Math.Ceiling((minutes / wanted) - 1e-9));
        while (count > 1 && minutes / count < e.MinMinutes)
            count--;
        if (minutes / count > e.MaxMinutes + 1e-9)
            return null;
        // Equal where whole minutes allow it; else the first ones are a minute longer.
        var length = Math.Floor(minutes / count);
        if (length * count == minutes)
            return [Item(at, minutes, e.Id, count)];
        var longer = minutes - (length * count);
        var first = (int)Math.Floor(longer);
        if (first != longer || length + 1 > e.MaxMinutes || length < e.MinMinutes)
            return count == 1 ? [Item(at, minutes, e.Id, 1)] : null;
        return
        [
            Item(at, first * (length + 1), e.Id, first),
            Item(at + (first * (length + 1)), (count - first) * length, e.Id, count - first),
        ];
    }

    /// <summary>The exercises that mend what the class's sheets break, the commonest first.</summary>
    internal static IEnumerable<string> Mending(PlanRequest r) => r.Missed.Select(w => Mends(w, r.Known)).OfType<string>();

    /// <summary>The exercise that mends what the class's sheets break most, where one fits a single stretch.</summary>
    private static string? Mends(string rule, PlanKnown known) =>
        Faults
            .All.FirstOrDefault(f =>
                f.Rule == rule && f.Exercise is not null && known.GetExercise(f.Exercise) is { NeedsSubject: true, MaxMinutes: >= 10 }
            )
            ?.Exercise;

    /// <summary>The teacher varies the time, so that scope and size must be fitted to it: a short one, the longest, one between.
    /// In shares of 2 : 5 : 3, whole minutes, the longest taking what is left over.</summary>
    private static List<PlanItem> Study(double at, double minutes)
    {
        double first = Math.Max(1, Math.Floor(minutes * 0.2)),
            last = Math.Max(1, Math.Floor(minutes * 0.3)),
            middle = minutes - first - last;
        if (minutes < 4)
            return [Item(at, minutes, "timed-study-set", 1)];
        return
        [
            Item(at, first, "timed-study-set", 1),
            Item(at + first, middle, "timed-study-set", 1),
            Item(at + first + middle, last, "timed-study-set", 1),
        ];
    }

    /// <summary>Two exercises in turn, again and again: gesture, then the same kind of pose as one mass; or what the purpose pairs.</summary>
    private static IEnumerable<PlanItem> Again(PlanRequest r, double at, double minutes, int stage)
    {
        if (r.Wish.Purpose != Purpose.Gesture)
            return InTurn(r, at, minutes);
        var half = Math.Floor(minutes / 2);
        var mass = minutes - half >= 4 ? Math.Floor((minutes - half) / 3) * 3 : 0;
        if (r.Wish.Level == Level.Beginner && mass >= 6)
            mass -= 3;
        return
        [
            .. Sets(at, minutes - mass, Math.Min(1, stage), r.Wish.Level == Level.Beginner),
            .. mass > 0 ? [Item(at + minutes - mass, mass, "mass", (int)(mass / 3))] : Array.Empty<PlanItem>(),
        ];
    }

    /// <summary>The second of the pair as short as it can be, the first before it; where only one of them has room, that one.</summary>
    private static IEnumerable<PlanItem> InTurn(PlanRequest r, double at, double minutes)
    {
        var pair = Purposes.Of(r.Wish.Purpose).Pair;
        Exercise first = r.Known.GetExercise(pair[0]),
            second = r.Known.GetExercise(pair[1]);
        var later = second.MinMinutes + (r.Wish.Level == Level.Beginner && second.MaxMinutes >= second.MinMinutes + 2 ? 2 : 0);
        if (minutes - later >= first.MinMinutes && Whole(first, at, minutes - later, 5) is { } before)
            return [.. before, Item(at + minutes - later, later, second.Id, 1)];
        return Whole(second, at, minutes) ?? Whole(first, at, minutes, 5) ?? Quick(r, at, minutes);
    }

    /// <summary>Drawings that grow from stretch to stretch as the purpose says, then one to a stretch.</summary>
    private static IEnumerable<PlanItem> Grow(PlanRequest r, double at, double minutes, int stage, int stages)
    {
        var steps = Purposes.Of(r.Wish.Purpose).Grow;
        var step = stages > steps.Count ? stage : stage + ((steps.Count - stages) / 2);
        if (step >= steps.Count)
            return Long(r, at, minutes);
        var (exercise, length) = steps[step];
        if (r.Wish.Level == Level.Beginner && length < 2)
            length = 2;
        length = Math.Min(length, Subject.Of(r.Wish.Model).Longest ?? length);
        if (exercise == "gesture" && length <= 2)
            return Sets(at, minutes, length < 2 ? 0 : 1, r.Wish.Level == Level.Beginner);
        return Whole(r.Known.GetExercise(exercise), at, minutes, length)
            ?? Whole(r.Known.GetExercise("timed-study-set"), at, minutes, length)
            ?? Sets(at, minutes, 3, false);
    }

    private static List<PlanItem> Short(PlanRequest r, double at, double minutes, int stage)
    {
        if (InStudies(r))
            return [.. Opened(r, at, minutes, stage)];
        if (minutes < 10 || stage > 0)
            return [.. Sets(at, minutes, stage, r.Wish.Level == Level.Beginner)];
        // Gesture lives in gestures; elsewhere they open the hand, and what follows is already measured.
        if (r.Wish.Purpose == Purpose.Proportion)
        {
            var warm = Math.Min(15, Math.Floor(0.6 * minutes));
            return [.. Gestures(r, at, warm), .. Quick(r, at + warm, minutes - warm)];
        }
        return Gestures(r, at, minutes);
    }

    /// <summary>What opens the hand: gestures, or what the subject has in their place, unless the evening is one of gestures.</summary>
    private static List<PlanItem> Gestures(PlanRequest r, double at, double minutes)
    {
        if (
            r.Wish.Purpose != Purpose.Gesture
            && Subject.Of(r.Wish.Model).Warm is { } warm
            && Whole(r.Known.GetExercise(warm), at, minutes, 2) is { } opening
        )
            return opening;
        // Poses that lengthen: about half the stretch in single minutes, the rest in twos.
        var ones = r.Wish.Level == Level.Beginner ? Math.Floor(minutes * 0.3) : Math.Min(10, Math.Floor(minutes / 2));
        if ((minutes - ones) % 2 != 0)
            ones++;
        return [.. Sets(at, ones, 0, false), .. Sets(at + ones, minutes - ones, 1, false)];
    }

    /// <summary>A warm-up where there is time for one, then what the evening turns to.</summary>
    private static IEnumerable<PlanItem> Opened(PlanRequest r, double at, double minutes, int stage)
    {
        var use = Purposes.Of(r.Wish.Purpose);
        var warm = stage > 0 ? 0 : Math.Floor(Math.Min(Purposes.WarmUp, minutes - r.Known.GetExercise(use.Turn).MinMinutes));
        if (warm < 3)
            return Studied(r, at, minutes);
        var opening = use.Warm == "gesture" ? null : Whole(r.Known.GetExercise(use.Warm), at, warm, 2);
        opening ??= Subject.Of(r.Wish.Model).Warm is null ? [.. Sets(at, warm, 0, r.Wish.Level == Level.Beginner)] : Gestures(r, at, warm);
        return [.. opening, .. Studied(r, at + warm, minutes - warm)];
    }

    /// <summary>A set of equal poses that fills the minutes exactly: gesture at first, mass later on.</summary>
    private static IEnumerable<PlanItem> Sets(double at, double minutes, int stage, bool beginner)
    {
        if (minutes <= 0)
            yield break;
        double[] lengths = stage switch
        {
            0 => beginner ? [2, 1] : [1, 2],
            1 => [2, 1],
            2 => [3, 2],
            _ => [5, 4, 3, 2],
        };
        var length = lengths.FirstOrDefault(l => minutes % l == 0 && minutes / l >= (stage > 0 ? 2 : 1));
        if (length > 0)
        {
            yield return Item(at, minutes, stage >= 2 && length is 2 or 3 && stage == 2 ? "mass" : "gesture", (int)(minutes / length));
            yield break;
        }
        var whole = Math.Floor(minutes);
        if (whole >= 1 && whole != minutes)
        {
            foreach (var i in Sets(at, whole, stage, beginner))
                yield return i;
            yield return Item(at + whole, minutes - whole, "gesture", 1);
            yield break;
        }
        yield return minutes > 12 || minutes < 1 ? Split(at, minutes) : Item(at, minutes, "gesture", (int)minutes);
        if (minutes > 12)
            yield return Item(at + 3, minutes - 3, "gesture", (int)((minutes - 3) / 2));

        static PlanItem Split(double at, double minutes) => minutes < 1 ? Item(at, minutes, "gesture", 1) : Item(at, 3, "gesture", 3);
    }

    private static PlanItem Item(double at, double minutes, string exercise, int poses) =>
        new(at, minutes, ItemKind.Exercise)
        {
            Exercise = exercise,
            Poses = poses,
            PoseMinutes = minutes / poses,
        };

    /// <summary>Fills in what follows from the exercise and the model: posed or not, draped, how many sheets.</summary>
    private static PlanItem Settle(PlanRequest r, PlanItem i)
    {
        var e = r.Known.GetExercise(i.Exercise!);
        var subject = Subject.Of(r.Wish.Model);
        // What moves is gone in half a minute.
        var poses = Math.Max(
            1,
            subject.Halves && i.Poses > 0 && i.Minutes / i.Poses <= 1 && e.MinMinutes <= 0.5 && !i.Held ? 2 * i.Poses : i.Poses
        );
        var posed = r.Wish.HasLiveModel && e.NeedsSubject;
        return i.Doing(e.Id, r.Known) with
        {
            Poses = poses,
            PoseMinutes = i.Minutes / poses,
            Posed = posed,
            Draped = posed && (r.Wish.IsClothed || r.Known.Minors),
            Sheets =
                e.Sheets == "one-a-pose" ? 1
                : e.Sheets == "twelve-a-sheet" ? (poses + 11) / 12
                : poses >= 6 && i.Minutes / poses <= 1 ? (poses + 1) / 2
                : poses,
        };
    }

    /// <summary>Numbers the periods of each long pose, leaves its sheet to the first, and gives every line its identity. Another pose begins where an item says
    /// so by its period, or where its pose differs from the one before.</summary>
    public static List<PlanItem> Number(IReadOnlyList<PlanItem> items)
    {
        var period = 0;
        string? pose = null;
        var result = new List<PlanItem>();
        foreach (var i in items)
        {
            if (!i.IsLong)
            {
                result.Add(i);
                continue;
            }
            var own = i.PoseIds.Count > 0 ? i.PoseIds[0] : null;
            var another = own is not null && pose is not null ? own != pose : i.Period == 1;
            period = another ? 1 : period + 1;
            pose = own ?? (another ? null : pose);
            result.Add(i with { Period = period, Sheets = period == 1 ? 1 : 0 });
        }
        return Identities.Assign(result);
    }

    /// <summary>A timetable laid by hand: what follows from it is filled in, what it says is left alone.</summary>
    public static List<PlanItem> Lay(PlanRequest r)
    {
        double at = 0;
        var items = new List<PlanItem>();
        foreach (var i in r.Laid)
        {
            items.Add((i.Kind == ItemKind.Exercise ? Settle(r, i) : i) with { At = at });
            at += i.Minutes;
        }
        return Number(items);
    }

    /// <summary>Puts an exercise in the first line with room for it; what the evening turns to gives way last.</summary>
    private static bool Put(PlanRequest r, List<PlanItem> items, Exercise e) =>
        Put(r, items, e, sparing: Purposes.Of(r.Wish.Purpose).Turn) || Put(r, items, e, sparing: null);

    private static bool Put(PlanRequest r, List<PlanItem> items, Exercise e, string? sparing)
    {
        for (var k = 0; k < items.Count; k++)
        {
            var i = items[k];
            if (i.Held || i.Kind != ItemKind.Exercise || r.Wish.Include.Contains(i.Exercise) || i.Exercise == sparing)
                continue;
            var length = Math.Min(
                i.Minutes,
                e.MaxMinutes < 5
                    ? e.MaxMinutes * Math.Max(1, Math.Floor(Math.Min(10, i.Minutes) / e.MaxMinutes))
                    : Math.Clamp(10, e.MinMinutes, e.MaxMinutes)
            );
            if (length < e.MinMinutes)
                continue;
            var poses = Math.Max(1, (int)Math.Ceiling(length / e.MaxMinutes));
            var left = i.Minutes - length;
            var put = e.Id == "timed-study-set" ? Study(i.At, length) : [Item(i.At, length, e.Id, poses)];
            items[k] = Settle(r, put[0]);
            items.InsertRange(k + 1, put.Skip(1).Select(x => Settle(r, x)));
            k += put.Count - 1;
            if (left > 0)
                items.InsertRange(
                    k + 1,
                    (left >= 5 && i.Poses == 1 ? [Item(i.At + length, left, i.Exercise!, 1)] : Sets(i.At + length, left, 1, false)).Select(
                        x => Settle(r, x)
                    )
                );
            return true;
        }
        return false;
    }

    public static Proposal Describe(PlanRequest r, PlanShape? shape, List<PlanItem> items, IReadOnlyList<RuleFact> facts, TimingRules rules)
    {
        var work = items.Where(i => i.Kind == ItemKind.Exercise).ToList();
        var longest = Series(items)
            .Select(s => s.Sum(i => i.Minutes))
            .Concat(work.Where(i => !i.IsLong).Select(i => i.PoseMinutes))
            .DefaultIfEmpty(0)
            .Max();
        var subject = Subject.Of(r.Wish.Model);
        var (idea, givesUp) = Ideas.Of(shape, r, items, longest);
        var paper = work.Where(i => i.Sheets > 0)
            .GroupBy(i => subject.Paper ?? i.Catalogue!.Paper)
            .Select(g => new PaperNeed(g.Key, g.Sum(i => i.Sheets), g.Sum(i => i.Sheets) * r.Wish.Students))
            .ToList();
        return new(idea, givesUp, items, facts, paper, Materials.Kit(work, r.Wish.Medium, subject))
        {
            Shape = shape?.Id ?? Shapes.Laid,
            Pay = ModelPay.Of(items, r.Wish, r.Known.Pay ?? rules.Pay),
            Notes = [.. Remarks(r, items)],
        };
    }

    /// <summary>The periods of each long pose, in order.</summary>
    public static IReadOnlyList<IReadOnlyList<PlanItem>> Series(IReadOnlyList<PlanItem> items)
    {
        var all = new List<List<PlanItem>>();
        foreach (var i in items.Where(i => i.Period > 0))
        {
            if (i.Period == 1 || all.Count == 0)
                all.Add([]);
            all[^1].Add(i);
        }
        return all;
    }

    private static IEnumerable<PlanNote> Remarks(PlanRequest r, List<PlanItem> items)
    {
        var seen = r
            .Known.History.SelectMany(h => h.Poses)
            .Select(p => PoseLibrary.Find(p, r))
            .OfType<StudioPose>()
            .SelectMany(p => p.Traits)
            .ToHashSet();
        var said = new HashSet<string>();
        foreach (var run in items.SelectMany(i => i.PoseRuns()))
        {
            if (PoseLibrary.Find(run.PoseId, r) is not { } pose || !said.Add(pose.Id))
                continue;
            if (pose.Level > r.Wish.Level && run.Minutes > 2)
                yield return new("hard", run.At, $"{pose.Name} is a pose for {Article(pose.Level)} class: {pose.Trouble}.");
        }
        foreach (var series in Series(items))
        {
            if (series[0].PoseIds is not [var id, ..])
                continue;
            if (r.Known.History.Where(h => h.LongPose == id).MinBy(h => h.WeeksAgo) is { WeeksAgo: <= 3 } last)
                yield return new(
                    "again",
                    series[0].At,
                    $"{PoseLibrary.Name(id, r)} was the long pose {(last.WeeksAgo == 1 ? "last week" : $"{last.WeeksAgo} weeks ago")} too."
                );
        }
        var fresh = items
            .SelectMany(i => i.PoseIds)
            .Select(p => PoseLibrary.Find(p, r))
            .OfType<StudioPose>()
            .SelectMany(p => p.Traits)
            .Distinct()
            .Where(t => !seen.Contains(t))
            .ToList();
        if (r.Known.History.Count > 0 && fresh.Count > 0)
            yield return new("new", null, $"Shown for the first time this term: {Say.List([.. fresh.Select(PoseLibrary.Word)])}.");
        if (r.Wish is { Medium: "charcoal", Level: Level.Beginner })
            yield return new(
                "medium",
                null,
                "Schools differ: charcoal from day one, broad and without sharpening; or graphite until proportion holds, since charcoal is imprecise and smears."
            );

        static string Article(Level l) => l == Level.Advanced ? "an advanced" : "an intermediate";
    }
}
