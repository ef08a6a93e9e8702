using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Sessions;

/// <summary>One pose of a timetable, in the order they are held.</summary>
/// <param name="Item">The timetable's line, and which of its poses.</param>
/// <param name="Fresh">A rest or break lies before it: the strains are counted anew.</param>
/// <param name="Only">The strain that it must have; null for any that fits.</param>
/// <param name="Free">May be changed: neither kept by the instructor nor a period of the long pose.</param>
/// <param name="GoesOn">A later period of a pose that was counted already.</param>
internal sealed record PoseSlot(
    int Item,
    int Index,
    double Minutes,
    string? Exercise,
    bool Fresh,
    Strain? Only,
    bool Free,
    bool GoesOn,
    StudioPose Pose,
    Strain Strain
);

/// <summary>Makes a choice of poses better, one pose, one exchange, or two neighbours at a time, until no step adds a point; and says how much
/// the best choice of all could have at most.</summary>
internal sealed class PoseSearch
{
    private const double Tiny = 1e-9;

    /// <summary>How far apart two slots may lie that are changed together.</summary>
    private const int Apart = 3;

    private readonly PoseChooser chooser;
    private readonly TimingRules rules;
    private readonly IReadOnlyList<PoseSlot> slots;
    private readonly double[] limits;

    /// <summary>Slots that may change, by number and by mark; the pose that each slot has now (-1 for one that the library has lost), and a pose's points in a
    /// free slot: minus infinity where it can't be held.</summary>
    private readonly List<int> free = [];
    private readonly bool[] loose;
    private readonly int[] now;
    private readonly Strain[] strain;
    private readonly double[][] points;
    private readonly int[] shown;

    /// <summary>What two poses cost side by side.</summary>
    private readonly double[,] beside;

    public PoseSearch(PoseChooser chooser, TimingRules rules, IReadOnlyList<PoseSlot> slots)
    {
        (this.chooser, this.rules, this.slots) = (chooser, rules, slots);
        limits = [.. Enum.GetValues<Strain>().Select(s => rules.Limit(s).LimitMinutes)];
        now = [.. slots.Select(s => chooser.IndexOf(s.Pose.Id))];
        strain = [.. slots.Select(s => s.Strain)];
        shown = new int[chooser.Count];
        beside = new double[chooser.Count, chooser.Count];
        for (var p = 0; p < chooser.Count; p++)
        for (var q = 0; q < chooser.Count; q++)
            beside[p, q] =
                p == q ? PoseChooser.SameFamily + PoseChooser.Again
                : chooser[p].Family == chooser[q].Family ? PoseChooser.SameFamily
                : 0;
        points = new double[slots.Count][];
        for (var s = 0; s < slots.Count; s++)
        {
            if (slots[s].Free && now[s] >= 0)
            {
                free.Add(s);
                points[s] =
                [
                    .. Enumerable
                        .Range(0, chooser.Count)
                        .Select(p =>
                            May(slots[s], p) ? chooser.Alone(p, slots[s].Minutes, false, slots[s].Exercise) : double.NegativeInfinity
                        ),
                ];
            }
            else if (now[s] >= 0 && !slots[s].GoesOn)
                shown[now[s]]++;
        }
        // What had to be eased below what its line asks for stays as it is.
        free.RemoveAll(s => double.IsNegativeInfinity(points[s][now[s]]));
        loose = [.. Enumerable.Range(0, slots.Count).Select(free.Contains)];
    }

    private bool May(PoseSlot s, int p) =>
        s.Only is { } only ? chooser[p].Strain == only : limits[(int)chooser[p].Strain] >= s.Minutes - Tiny;

    /// <summary>Points of the free slots together: each alone, less what repeats tonight and what stands beside its like.</summary>
    public double Points()
    {
        double sum = 0;
        var count = (int[])shown.Clone();
        foreach (var s in free)
        {
            sum += points[s][now[s]] - (PoseChooser.Again * count[now[s]]++) - Beside(s - 1, s);
            if (s + 1 < slots.Count && !loose[s + 1])
                sum -= Beside(s, s + 1);
        }
        return sum;
    }

    /// <summary>The slots with the poses that were found.</summary>
    public IReadOnlyList<PoseSlot> Run()
    {
        var broken = Broken();
        var count = (int[])shown.Clone();
        foreach (var s in free)
            count[now[s]]++;
        // Each round ends better than it began, or ends the search; forty is never reached.
        for (var (round, better) = (0, true); better && round < 40; round++)
            better = Replace(count, broken) | Exchange(broken) || ReplaceTwo(count, broken) || ReplaceThree(count, broken);
        return [.. slots.Select((s, n) => loose[n] ? s with { Pose = chooser[now[n]], Strain = strain[n] } : s)];
    }

    private const int MostThrees = 2000;
    private int threes;

    /// <summary>Every free slot with every pose it may have.</summary>
    private bool Replace(int[] count, int broken)
    {
        var better = false;
        foreach (var s in free)
        {
            for (var p = 0; p < chooser.Count; p++)
            {
                var q = now[s];
                if (p == q || double.IsNegativeInfinity(points[s][p]))
                    continue;
                var gain = points[s][p] - points[s][q] - (PoseChooser.Again * (count[p] - count[q] + 1)) + Around(s);
                Put(s, p);
                if (gain - Around(s) <= Tiny || Broken() > broken)
                    Put(s, q);
                else
                {
                    better = true;
                    count[q]--;
                    count[p]++;
                }
            }
        }
        return better;
    }

    /// <summary>Every two free slots with each other's pose.</summary>
    private bool Exchange(int broken)
    {
        var better = false;
        for (var a = 0; a < free.Count; a++)
        {
            for (var b = a + 1; b < free.Count; b++)
            {
                var (s, t) = (free[a], free[b]);
                var (p, q) = (now[s], now[t]);
                if (p == q || double.IsNegativeInfinity(points[s][q]) || double.IsNegativeInfinity(points[t][p]))
                    continue;
                // Two side by side stand beside each other before and after.
                var gain = points[s][q] + points[t][p] - points[s][p] - points[t][q] + Around(s) + Around(t);
                Put(s, q);
                Put(t, p);
                if (gain - Around(s) - Around(t) > Tiny && Broken() <= broken)
                {
                    better = true;
                    continue;
                }
                Put(s, p);
                Put(t, q);
            }
        }
        return better;
    }

    /// <summary>Every two free slots that lie near one another, with every two poses: what lets a strain be held
    /// longer here by less of it there. Tried last, for it takes the longest.</summary>
    private bool ReplaceTwo(int[] count, int broken)
    {
        var better = false;
        for (var a = 0; a < free.Count; a++)
        for (var b = a + 1; b < Math.Min(a + Apart, free.Count); b++)
            better |= ReplaceTwo(free[a], free[b], count, broken);
        return better;
    }

    private bool ReplaceTwo(int s, int t, int[] count, int broken)
    {
        var (bestS, bestT) = (now[s], now[t]);
        count[bestS]--;
        count[bestT]--;
        var adjacent = t == s + 1;
        var (first, second) = (Worth(s, count, adjacent ? t : -1), Worth(t, count, adjacent ? s : -1));
        double Together(int p, int q) => first[p] + second[q] - (p == q ? PoseChooser.Again : 0) - (adjacent ? beside[p, q] : 0);
        var best = Together(bestS, bestT);
        var better = false;
        for (var p = 0; p < chooser.Count; p++)
        {
            for (var q = 0; q < chooser.Count; q++)
            {
                // What is no better before the two are held against each other can't become so; minus infinity never is.
                if (first[p] + second[q] <= best + Tiny || Together(p, q) <= best + Tiny)
                    continue;
                Put(s, p);
                Put(t, q);
                if (Broken() <= broken)
                    (best, bestS, bestT, better) = (Together(p, q), p, q, true);
            }
        }
        Put(s, bestS);
        Put(t, bestT);
        count[bestS]++;
        count[bestT]++;
        return better;
    }

    /// <summary>What each pose is worth in a slot as things stand, but for what it costs beside one of its neighbours.</summary>
    private double[] Worth(int s, int[] count, int but)
    {
        double Neighbour(int n, int p) => n == but || n < 0 || n >= slots.Count || now[n] < 0 ? 0 : beside[now[n], p];
        return
        [
            .. Enumerable
                .Range(0, chooser.Count)
                .Select(p => points[s][p] - (PoseChooser.Again * count[p]) - Neighbour(s - 1, p) - Neighbour(s + 1, p)),
        ];
    }

    /// <summary>Every three free slots one after another, with every three poses that could be worth more than theirs: a hard pose in the
    /// middle of easy ones shuts every smaller step. It tries <see cref="MostThrees"/> of them at most: long evenings have too many, and
    /// there three poses weigh little.</summary>
    private bool ReplaceThree(int[] count, int broken)
    {
        var most = free.ToDictionary(s => s, s => points[s].Max());
        for (var a = 0; threes < MostThrees && a + 2 < free.Count; a++)
        {
            var (s, t, u) = (free[a], free[a + 1], free[a + 2]);
            var (oldS, oldT, oldU) = (now[s], now[t], now[u]);
            foreach (var old in new[] { oldS, oldT, oldU })
                count[old]--;
            var best = Three(s, t, u, count);
            foreach (var (p, q, r) in Threes(s, t, u, best, most))
            {
                if (++threes > MostThrees)
                    break;
                Put(s, p);
                Put(t, q);
                Put(u, r);
                if (Three(s, t, u, count) <= best + Tiny || Broken() > broken)
                    continue;
                foreach (var put in new[] { p, q, r })
                    count[put]++;
                return true;
            }
            Put(s, oldS);
            Put(t, oldT);
            Put(u, oldU);
            foreach (var old in new[] { oldS, oldT, oldU })
                count[old]++;
        }
        return false;
    }

    /// <summary>Poses for three slots whose points alone are more than what stands there; minus infinity never is.</summary>
    private IEnumerable<(int P, int Q, int R)> Threes(int s, int t, int u, double best, Dictionary<int, double> most)
    {
        for (var p = 0; p < chooser.Count; p++)
        {
            if (points[s][p] + most[t] + most[u] <= best + Tiny)
                continue;
            for (var q = 0; q < chooser.Count; q++)
            {
                if (points[s][p] + points[t][q] + most[u] <= best + Tiny)
                    continue;
                for (var r = 0; r < chooser.Count; r++)
                    if (points[s][p] + points[t][q] + points[u][r] > best + Tiny)
                        yield return (p, q, r);
            }
        }
    }

    private double Three(int s, int t, int u, int[] count)
    {
        double sum = points[s][now[s]] + points[t][now[t]] + points[u][now[u]] - Around(s) - Around(t) - Around(u);
        sum += (t == s + 1 ? Beside(s, t) : 0) + (u == t + 1 ? Beside(t, u) : 0);
        // Each further showing of a pose costs more than the one before.
        sum -= PoseChooser.Again * (count[now[s]] + count[now[t]] + (now[s] == now[t] ? 1 : 0));
        return sum - (PoseChooser.Again * (count[now[u]] + (now[u] == now[s] ? 1 : 0) + (now[u] == now[t] ? 1 : 0)));
    }

    private void Put(int s, int p) => (now[s], strain[s]) = (p, chooser[p].Strain);

    private double Around(int s) => Beside(s - 1, s) + Beside(s, s + 1);

    private double Beside(int s, int t)
    {
        if (s < 0 || t >= slots.Count || now[s] < 0 || now[t] < 0)
            return 0;
        return beside[now[s], now[t]];
    }

    /// <summary>How often a strain is held for longer on end than it may be.</summary>
    private int Broken()
    {
        Span<double> count = stackalloc double[limits.Length];
        var broken = 0;
        for (var s = 0; s < slots.Count; s++)
        {
            if (slots[s].Fresh)
                count.Clear();
            for (var k = 0; k < count.Length; k++)
            {
                count[k] = k <= (int)strain[s] ? count[k] + slots[s].Minutes : 0;
                if (k <= (int)strain[s] && count[k] > limits[k] + Tiny)
                    broken++;
            }
        }
        return broken;
    }

    /// <summary>The most that any choice could have: the best giving of poses to slots, every further showing of a pose dearer than the one
    /// before, solved exactly (the assignment problem), where nothing is minded of what stands side by side or how strains add up.</summary>
    public double Bound()
    {
        if (free.Count == 0)
            return 0;
        var allowed = free.Select(s => points[s].Where(double.IsFinite).ToList()).ToList();
        // Beyond so many copies another pose is always worth more, however unlike their points.
        var copies = Math.Min(
            free.Count,
            (int)Math.Ceiling((double)free.Count / allowed.Min(a => a.Count))
                + (int)Math.Ceiling((allowed.Max(a => a.Max()) - allowed.Min(a => a.Min())) / PoseChooser.Again)
                + shown.Max()
                + 1
        );
        var cost = new double[free.Count, Math.Max(free.Count, chooser.Count * copies)];
        for (var i = 0; i < free.Count; i++)
        {
            for (var j = 0; j < cost.GetLength(1); j++)
            {
                var p = j / copies;
                cost[i, j] =
                    p < chooser.Count && double.IsFinite(points[free[i]][p])
                        ? (PoseChooser.Again * (shown[p] + (j % copies))) - points[free[i]][p]
                        : 1e6;
            }
        }
        var given = HungarianMethod.Solve(cost);
        return -Enumerable.Range(0, free.Count).Sum(i => cost[i, given[i]]);
    }
}
