using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Sessions;

/// <summary>Gives every pose of a timetable a pose of the library whose strain keeps its limit, counted from the start of the
/// meeting: pose by pose with the limits exact, then bettered by a search; how far that is from the best is told beside it.</summary>
internal sealed class PoseAssigner(PlanRequest r, TimingRules rules)
{
    /// <summary>Quarter turns that the model takes from pose to pose of a set, so that nobody draws one side all evening; common practice.</summary>
    private static readonly double[] Turns = [0, 90, 180, -90];

    private readonly PoseChooser chooser = new(r);
    private PoseSearch? search;
    private readonly double[] count = new double[rules.Strains.Count];

    /// <summary>Points of the poses that were free to choose, and the most that any choice could have had.</summary>
    public double Points => search?.Points() ?? 0;
    public double Bound => search?.Bound() ?? 0;

    public List<PlanItem> Assign(List<PlanItem> items)
    {
        var laid = r.Laid.Count > 0;
        var result = new List<PlanItem>();
        // The long poses come first: what is short is chosen round them.
        var chosen = LongPoses(items);
        StudioPose? sitting = null,
            before = null;
        var slots = new List<PoseSlot>();
        var fresh = true;
        var turn = (int)(Math.Abs(r.Wish.Seed) % Turns.Length);
        foreach (var i in items)
        {
            if (rules.EndsStrain(i))
            {
                Array.Clear(count);
                fresh = true;
            }
            if (!i.Posed)
            {
                result.Add(i with { Strains = [], PoseIds = [], Facings = [] });
                continue;
            }
            var poses = new List<StudioPose>();
            var facings = new List<double>();
            for (var k = 0; k < i.Poses; k++)
            {
                var minutes = k == i.Poses - 1 ? i.Minutes - (k * i.PoseMinutes) : i.PoseMinutes;
                var kept = k < i.PoseIds.Count ? PoseLibrary.Find(i.PoseIds[k], r) : null;
                if (i.IsLong && i.Period == 1)
                    sitting = kept;
                if (i.IsLong && kept is null)
                    sitting = chosen.GetValueOrDefault(i.At) ?? sitting;
                var p = kept ?? (i.IsLong && sitting is not null ? sitting : Short(i, k, minutes, before));
                // A strain that the instructor gave stands, even where the library's pose of that id is rated otherwise.
                var strain = k < i.Strains.Count && kept is not null ? i.Strains[k] : p.Strain;
                if (!laid && !i.Held && !Fits(strain, minutes))
                    (p, strain) = Eased(minutes, before);
                if (i.IsLong)
                    sitting = p;
                if (kept is not null)
                    chooser.Note(p);
                Add(strain, minutes);
                slots.Add(
                    new(
                        result.Count,
                        k,
                        minutes,
                        i.Exercise,
                        fresh,
                        k < i.Strains.Count ? i.Strains[k] : null,
                        kept is null && !i.IsLong && !i.Held,
                        i.IsLong && i.Period > 1,
                        p,
                        strain
                    )
                );
                fresh = false;
                poses.Add(p with { Strain = strain });
                facings.Add(
                    k < i.Facings.Count ? i.Facings[k]
                    : i.IsLong ? 0
                    : Turns[turn++ % Turns.Length]
                );
                before = p;
            }
            result.Add(i with { Strains = [.. poses.Select(p => p.Strain)], PoseIds = [.. poses.Select(p => p.Id)], Facings = facings });
        }
        return laid ? result : Ease(Search(result, slots));
    }

    private List<PlanItem> Search(List<PlanItem> items, List<PoseSlot> slots)
    {
        search = new(chooser, rules, slots);
        var found = search.Run().ToLookup(s => s.Item);
        return
        [
            .. items.Select(
                (i, n) =>
                    found[n].Any()
                        ? i with
                        {
                            PoseIds = [.. found[n].Select(s => s.Pose.Id)],
                            Strains = [.. found[n].Select(s => s.Strain)],
                        }
                        : i
            ),
        ];
    }

    /// <summary>The long poses that are free to choose, by the start of their first period.</summary>
    private Dictionary<double, StudioPose> LongPoses(List<PlanItem> items)
    {
        var chosen = new Dictionary<double, StudioPose>();
        foreach (var periods in Programme.Series(items).Where(s => s[0].Posed && s[0].PoseIds.Count == 0))
            chosen[periods[0].At] = Long(items, periods, [.. chosen.Values.Select(p => p.Id)]);
        return chosen;
    }

    /// <summary>The long pose: the one asked for, the one that a held period has, or the best that can be held for its longest period.</summary>
    /// <param name="sat">Long poses of the evening before it: a second is another.</param>
    private StudioPose Long(List<PlanItem> items, IReadOnlyList<PlanItem> periods, HashSet<string> sat)
    {
        if (items.First(i => i.IsLong).At == periods[0].At)
        {
            if (PoseLibrary.Find(r.Wish.LongPose, r) is { } wanted)
                return wanted;
            if (items.FirstOrDefault(i => i.IsLong && i.PoseIds.Count > 0) is { } held && PoseLibrary.Find(held.PoseIds[0], r) is { } given)
                return given;
        }
        var minutes = periods.Max(i => i.Minutes);
        bool Holds(StudioPose p) => p.Strain <= TimingRules.HardestSitting && rules.Limit(p.Strain).LimitMinutes >= minutes;
        return chooser.Best(minutes, true, null, p => Holds(p) && !sat.Contains(p.Id))
            ?? chooser.Best(minutes, true, null, Holds)
            ?? chooser.Best(minutes, true, null, p => p.Strain <= Strain.Seated)!;
    }

    private StudioPose Short(PlanItem i, int k, double minutes, StudioPose? before)
    {
        if (k < i.Strains.Count && PoseLibrary.Of(r).Any(p => p.Strain == i.Strains[k]))
            return chooser.Best(minutes, false, before, p => p.Strain == i.Strains[k], i.Exercise)!;
        return chooser.Best(minutes, false, before, p => Fits(p.Strain, minutes), i.Exercise) ?? Eased(minutes, before).Pose;
    }

    private (StudioPose Pose, Strain Strain) Eased(double minutes, StudioPose? before)
    {
        var p = chooser.Best(minutes, false, before, p => p.Strain == Strain.Seated && Fits(p.Strain, minutes))
            ?? chooser.Best(minutes, false, before, p => p.Strain == Strain.Lying)!;
        return (p, p.Strain);
    }

    private bool Fits(Strain s, double minutes)
    {
        foreach (var l in rules.Strains)
            if (l.Id <= s && count[(int)l.Id] + minutes > l.LimitMinutes + 1e-9)
                return false;
        return true;
    }

    private void Add(Strain s, double minutes)
    {
        for (var k = 0; k < count.Length; k++)
            count[k] = k <= (int)s ? count[k] + minutes : 0;
    }

    /// <summary>A held pose further on may overrun a count that was in order before it: ease what may be eased, from the
    /// held one backward, until the strains hold or nothing is left to ease.</summary>
    private List<PlanItem> Ease(List<PlanItem> items)
    {
        var seated = PoseLibrary.Of(r).First(p => p.Strain == Strain.Seated).Id;
        for (var guard = 0; guard < 200; guard++)
        {
            var broken = RestRules.Prove(items, r, rules).FirstOrDefault(f => f.Id == "rest-strain" && !f.Holds);
            if (broken?.From is not { } from)
                return items;
            var changed = false;
            for (var k = items.Count - 1; k >= 0 && !changed; k--)
            {
                var i = items[k];
                if (i.Held || !i.Posed || i.At > from + broken.Value || i.End <= from)
                    continue;
                for (var p = i.Strains.Count - 1; p >= 0 && !changed; p--)
                {
                    if (i.Strains[p] <= Strain.Seated || i.At + (p * i.PoseMinutes) < from - 1e-9)
                        continue;
                    items[k] = i with
                    {
                        Strains = [.. i.Strains.Select((s, n) => n == p ? Strain.Seated : s)],
                        PoseIds = [.. i.PoseIds.Select((s, n) => n == p ? seated : s)],
                    };
                    changed = true;
                }
            }
            if (!changed)
                return items;
        }
        return items;
    }
}
