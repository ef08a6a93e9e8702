using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Sessions;

/// <summary>Says what is drawn in each stretch: short poses that lengthen, one exercise that turns to the purpose, and one
/// long pose, in the measure that the approach wants. A live model's minutes and an object's are filled alike.</summary>
internal static class Programme
{
    private enum Role { Short, Middle, Long }

    private static readonly Dictionary<Purpose, string> Turning = new()
    {
        [Purpose.Gesture] = "timed-study-set",
        [Purpose.Proportion] = "core-first",
        [Purpose.Construction] = "basic-forms",
        [Purpose.Anatomy] = "part-study",
        [Purpose.Tone] = "value-patches",
        [Purpose.Portrait] = "head-construction",
    };

    /// <summary>The stretches filled; or the reasons why a wanted exercise has no place.</summary>
    public static (List<PlanItem> Items, List<Cannot> Missing) Fill(PlanRequest r, List<PlanItem> cut, TimingRules rules)
    {
        var open = cut.Where(IsOpen).ToList();
        var roles = Roles(r, cut, open);
        var items = new List<PlanItem>();
        var stage = 0;
        foreach (var i in cut)
        {
            if (!IsOpen(i))
            {
                items.Add(i.Kind == ItemKind.Exercise ? Settle(r, i) : i);
                continue;
            }
            var pieces = roles[i] switch
            {
                Role.Long => Long(r, i.At, i.Minutes),
                Role.Middle => Middle(r, i.At, i.Minutes, stage),
                _ => Short(r, i.At, i.Minutes, stage),
            };
            items.AddRange(pieces.Select(p => Settle(r, p)));
            stage++;
        }
        var missing = new List<Cannot>();
        foreach (var id in r.Include.Distinct().Where(id => items.All(i => i.Exercise != id)))
            if (!Put(r, items, Exercises.Get(id))) missing.Add(NoRoom(id, items));
        return (Number(items), missing);
    }

    private static bool IsOpen(PlanItem i) => i.Kind == ItemKind.Exercise && i.Exercise is null;

    private static Cannot NoRoom(string id, List<PlanItem> items)
    {
        var e = Exercises.Get(id);
        var longest = items.Where(i => i.Kind == ItemKind.Exercise && !i.Held).Select(i => i.Minutes).DefaultIfEmpty(0).Max();
        return new("include", $"{e.Name} wants {e.MinutesText}; the longest open stretch has {Say.Minutes(longest)}.", new Dictionary<string, object?> { ["minutes"] = longest });
    }

    private static Dictionary<PlanItem, Role> Roles(PlanRequest r, List<PlanItem> cut, List<PlanItem> open)
    {
        var middle = cut.FirstOrDefault(i => i.Kind == ItemKind.Break)?.At ?? r.Minutes * 0.45;
        var roles = new Dictionary<PlanItem, Role>(ReferenceEqualityComparer.Instance as IEqualityComparer<PlanItem>);
        for (var k = 0; k < open.Count; k++)
        {
            var i = open[k];
            roles[i] = r.Approach switch
            {
                Approach.LongFirst => Role.Long,
                Approach.Alternating => k == 0 ? Role.Short : Role.Long,
                _ => r.Purpose == Purpose.Gesture && k < open.Count - 1 ? Role.Short
                    : i.At >= middle ? Role.Long
                    : k > 0 && (k + 1 == open.Count || open[k + 1].At >= middle) ? Role.Middle : Role.Short,
            };
        }
        return roles;
    }

    private static IEnumerable<PlanItem> Long(PlanRequest r, double at, double minutes)
    {
        // On a rung of the ladder a short stretch goes on with the same pose: nothing quick is slipped in.
        if (minutes >= 5 || (r.Approach == Approach.LongFirst && r.Rung is not null)) return [Item(at, minutes, "sitting", 1)];
        return Sets(at, minutes, 0, beginner: false);
    }

    private static IEnumerable<PlanItem> Middle(PlanRequest r, double at, double minutes, int stage)
    {
        var e = Exercises.Get(Turning[r.Purpose]);
        var own = Math.Clamp(10, e.MinMinutes, e.MaxMinutes);
        if (minutes < own) return Short(r, at, minutes, stage);
        if (minutes - own < 4 && minutes <= e.MaxMinutes) own = minutes;
        return [.. Sets(at, minutes - own, 2, r.Level == Level.Beginner), Item(at + minutes - own, own, e.Id, 1)];
    }

    private static List<PlanItem> Short(PlanRequest r, double at, double minutes, int stage)
    {
        if (minutes < 10 || stage > 0) return [.. Sets(at, minutes, stage, r.Level == Level.Beginner)];
        // Poses that lengthen: about half the stretch in single minutes, the rest in twos.
        var ones = r.Level == Level.Beginner ? Math.Floor(minutes * 0.3) : Math.Min(10, Math.Floor(minutes / 2));
        if ((minutes - ones) % 2 != 0) ones++;
        return [.. Sets(at, ones, 0, false), .. Sets(at + ones, minutes - ones, 1, false)];
    }

    /// <summary>A set of equal poses that fills the minutes exactly: gesture at first, mass later on.</summary>
    private static IEnumerable<PlanItem> Sets(double at, double minutes, int stage, bool beginner)
    {
        if (minutes <= 0) yield break;
        double[] lengths = stage switch { 0 => beginner ? [2, 1] : [1, 2], 1 => [2, 1], 2 => [3, 2], _ => [5, 4, 3, 2] };
        var length = lengths.FirstOrDefault(l => minutes % l == 0 && minutes / l >= (stage > 0 ? 2 : 1));
        if (length > 0)
        {
            yield return Item(at, minutes, stage >= 2 && length is 2 or 3 && stage == 2 ? "mass" : "gesture", (int)(minutes / length));
            yield break;
        }
        var whole = Math.Floor(minutes);
        if (whole >= 1 && whole != minutes)
        {
            foreach (var i in Sets(at, whole, stage, beginner)) yield return i;
            yield return Item(at + whole, minutes - whole, "gesture", 1);
            yield break;
        }
        yield return minutes > 12 || minutes < 1 ? Split(at, minutes) : Item(at, minutes, "gesture", (int)minutes);
        if (minutes > 12) yield return Item(at + 3, minutes - 3, "gesture", (int)((minutes - 3) / 2));

        static PlanItem Split(double at, double minutes) => minutes < 1 ? Item(at, minutes, "gesture", 1) : Item(at, 3, "gesture", 3);
    }

    private static PlanItem Item(double at, double minutes, string exercise, int poses) =>
        new(at, minutes, ItemKind.Exercise) { Exercise = exercise, Poses = poses, PoseMinutes = minutes / poses };

    /// <summary>Fills in what follows from the exercise and the model: posed or not, draped, how many sheets.</summary>
    private static PlanItem Settle(PlanRequest r, PlanItem i)
    {
        var e = Exercises.Get(i.Exercise!);
        var poses = Math.Max(1, i.Poses);
        var posed = r.HasLiveModel && e.NeedsSubject;
        return i with
        {
            Poses = poses,
            PoseMinutes = i.Minutes / poses,
            Posed = posed,
            Draped = posed && (r.Draped || r.Minors),
            Sheets = e.Sheets == "one-a-pose" ? 1 : poses >= 6 && i.Minutes / poses <= 1 ? (poses + 1) / 2 : poses,
        };
    }

    /// <summary>Numbers the periods of the long pose and leaves its sheet to the first.</summary>
    private static List<PlanItem> Number(List<PlanItem> items)
    {
        var period = 0;
        return [.. items.Select(i => i.Exercise is "sitting" or "long-pose" ? i with { Period = ++period, Sheets = period == 1 ? 1 : 0 } : i)];
    }

    private static bool Put(PlanRequest r, List<PlanItem> items, Exercise e)
    {
        for (var k = 0; k < items.Count; k++)
        {
            var i = items[k];
            if (i.Held || i.Kind != ItemKind.Exercise || r.Include.Contains(i.Exercise)) continue;
            var length = Math.Min(i.Minutes, e.MaxMinutes < 5 ? e.MaxMinutes * Math.Max(1, Math.Floor(Math.Min(10, i.Minutes) / e.MaxMinutes)) : Math.Clamp(10, e.MinMinutes, e.MaxMinutes));
            if (length < e.MinMinutes) continue;
            var poses = Math.Max(1, (int)Math.Ceiling(length / e.MaxMinutes));
            var left = i.Minutes - length;
            items[k] = Settle(r, Item(i.At, length, e.Id, poses));
            if (left > 0) items.InsertRange(k + 1, (left >= 5 && i.Poses == 1 ? [Item(i.At + length, left, i.Exercise!, 1)] : Sets(i.At + length, left, 1, false)).Select(x => Settle(r, x)));
            return true;
        }
        return false;
    }

    public static Proposal Describe(PlanRequest r, List<PlanItem> items, IReadOnlyList<RuleFact> facts)
    {
        var work = items.Where(i => i.Kind == ItemKind.Exercise).ToList();
        var shorts = work.Where(i => i.Poses > 1).Sum(i => i.Poses);
        var sittings = work.Where(i => i.Exercise is "sitting" or "long-pose").Sum(i => i.Minutes);
        var idea = r.Approach switch
        {
            Approach.LongFirst => $"One pose of {Say.Minutes(sittings)} to the floor marks.",
            Approach.Alternating => $"{Say.Plural(shorts, "short pose")} to open the hand, then one of {Say.Minutes(sittings)} that can be measured and corrected.",
            _ => $"{Say.Plural(shorts, "short pose")} that lengthen, then {Say.Minutes(sittings)} on one.",
        };
        var givesUp = r.Approach == Approach.LongFirst ? "No quick drawings; the hand starts cold." : sittings < 40 ? "The long pose stays at block-in." : "Fewer different poses.";
        var paper = work.Where(i => i.Sheets > 0).GroupBy(i => i.Catalogue!.Paper)
            .Select(g => new PaperNeed(g.Key, g.Sum(i => i.Sheets), g.Sum(i => i.Sheets) * r.Students)).ToList();
        var kit = work.SelectMany(i => i.Catalogue!.Kit).Where(k => k != "newsprint").Distinct().ToList();
        return new(idea, givesUp, items, facts, paper, kit);
    }
}

/// <summary>Gives every pose a strain that keeps its limit, counted from the start of the meeting, and a pose to match.</summary>
internal static class Poses
{
    private static readonly Strain[] Quick = [Strain.Standing, Strain.OneLeg, Strain.Raised, Strain.Standing, Strain.OneLeg, Strain.Seated];

    public static List<PlanItem> Assign(PlanRequest r, List<PlanItem> items, TimingRules rules)
    {
        var count = new double[rules.Strains.Count];
        var step = (int)(Math.Abs(r.Seed) % Quick.Length);
        var shown = new Dictionary<Strain, int>();
        Strain? sitting = null;
        var longest = items.Where(i => i.Exercise == "sitting" && i.Posed).Select(i => i.Minutes).DefaultIfEmpty(0).Max();
        string? longPose = r.LongPose ?? items.FirstOrDefault(i => i.Exercise == "sitting" && i.PoseIds.Count > 0)?.PoseIds[0];
        var result = new List<PlanItem>();
        foreach (var i in items)
        {
            if (i.Kind is ItemKind.Rest or ItemKind.Break) Array.Clear(count);
            if (!i.Posed)
            {
                result.Add(i with { Strains = [], PoseIds = [] });
                continue;
            }
            var strains = new List<Strain>();
            var poses = new List<string>();
            for (var k = 0; k < i.Poses; k++)
            {
                Strain s;
                if (k < i.Strains.Count) s = i.Strains[k];
                else if (i.Exercise == "sitting") s = sitting ?? LongStrain(r, longest, longPose, rules);
                else s = Next(r, count, i.PoseMinutes, rules, ref step);
                if (!i.Held && !Fits(count, s, i.PoseMinutes, rules)) s = Easiest(count, i.PoseMinutes, rules);
                if (i.Exercise == "sitting") sitting = s;
                Add(count, s, i.PoseMinutes);
                strains.Add(s);
                poses.Add(k < i.PoseIds.Count ? i.PoseIds[k] : i.Exercise == "sitting" ? LongPose(s) : Pick(s, shown, rules));
            }
            result.Add(i with { Strains = strains, PoseIds = poses });
        }
        return Ease(result, r, rules);

        // Every period of the long pose shows the same pose, unless its length had to ease the strain.
        string LongPose(Strain s)
        {
            if (longPose is null || rules.Poses.First(p => p.Id == longPose).Strain != s) longPose = Pick(s, shown, rules);
            return longPose;
        }
    }

    private static Strain LongStrain(PlanRequest r, double longest, string? pose, TimingRules rules) =>
        rules.Poses.FirstOrDefault(p => p.Id == pose)?.Strain
        ?? (longest <= rules.Limit(Strain.OneLeg).LimitMinutes && r.Level != Level.Beginner ? Strain.OneLeg
        : longest <= rules.Limit(Strain.Standing).LimitMinutes ? Strain.Standing : Strain.Seated);

    private static Strain Next(PlanRequest r, double[] count, double minutes, TimingRules rules, ref int step)
    {
        for (var tries = 0; tries < Quick.Length; tries++)
        {
            var s = Quick[step++ % Quick.Length];
            if (r.Level == Level.Beginner && s == Strain.Raised && minutes > 2) continue;
            if (Fits(count, s, minutes, rules)) return s;
        }
        return Easiest(count, minutes, rules);
    }

    private static bool Fits(double[] count, Strain s, double minutes, TimingRules rules) =>
        rules.Strains.All(l => l.Id > s || count[(int)l.Id] + minutes <= l.LimitMinutes);

    private static Strain Easiest(double[] count, double minutes, TimingRules rules) => Fits(count, Strain.Seated, minutes, rules) ? Strain.Seated : Strain.Lying;

    private static void Add(double[] count, Strain s, double minutes)
    {
        for (var k = 0; k < count.Length; k++) count[k] = k <= (int)s ? count[k] + minutes : 0;
    }

    private static string Pick(Strain s, Dictionary<Strain, int> shown, TimingRules rules)
    {
        var fit = rules.PosesOf(s);
        var n = shown[s] = shown.GetValueOrDefault(s) + 1;
        return fit[(n - 1) % fit.Count].Id;
    }

    /// <summary>A held pose further on may overrun a count that was in order before it: ease what may be eased, from the
    /// held one backward, until the strains hold or nothing is left to ease.</summary>
    private static List<PlanItem> Ease(List<PlanItem> items, PlanRequest r, TimingRules rules)
    {
        for (var guard = 0; guard < 200; guard++)
        {
            var broken = RestRules.Prove(items, r, rules).FirstOrDefault(f => f.Id == "rest-strain" && !f.Holds);
            if (broken?.From is not { } from) return items;
            var changed = false;
            for (var k = items.Count - 1; k >= 0 && !changed; k--)
            {
                var i = items[k];
                if (i.Held || !i.Posed || i.At > from + broken.Value || i.End <= from) continue;
                for (var p = i.Strains.Count - 1; p >= 0 && !changed; p--)
                {
                    if (i.Strains[p] <= Strain.Seated || i.At + (p * i.PoseMinutes) < from - 1e-9) continue;
                    items[k] = i with
                    {
                        Strains = [.. i.Strains.Select((s, n) => n == p ? Strain.Seated : s)],
                        PoseIds = [.. i.PoseIds.Select((s, n) => n == p ? rules.PosesOf(Strain.Seated)[0].Id : s)],
                    };
                    changed = true;
                }
            }
            if (!changed) return items;
        }
        return items;
    }
}
