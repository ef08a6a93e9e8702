using System.Numerics;

namespace MintHarbor.Core.Fitting;

/// <summary>Finds where the parts lie, exactly on a grid of states: every part at 21 × 21 places a hundredth of the height apart, at nine turns
/// and five lengths, held together along the tree by dynamic programming (pictorial structures: Felzenszwalb and Huttenlocher 2005, from
/// memory).</summary>
internal sealed class PartSearch
{
    internal const int Side = 21,
        Places = Side * Side,
        Turns = 9,
        Lengths = 5,
        Count = Places * Turns * Lengths,
        MostSamples = 70;
    private const float GridShare = 0.01f,
        TurnStep = 3.5f * MathF.PI / 180,
        LengthStep = 0.08f,
        /// <summary>How breadth follows length where the part doesn't grow evenly.</summary>
        Follows = 0.35f,
        Reach = 4,
        Counts = 0.3f,
        OwnLength = 0.05f,
        Nowhere = 1e9f;

    private readonly LaidReference laid;
    private readonly PartTree tree;
    private readonly InkMaps ink;
    private readonly float grid;
    private readonly PartChain rest;

    /// <summary>What each state of each part costs by the ink and the clicks: kept, as a correction only adds to it.</summary>
    private readonly float[][] own;

    /// <param name="clicks">Error of the clicks, 1 σ as a share of the height.</param>
    public PartSearch(LaidReference laid, InkMaps ink, float[][] truncated, float clicks)
    {
        (this.laid, this.ink, tree, grid, rest) = (laid, ink, laid.Tree, GridShare * laid.Height, laid.Chain());
        own = new float[tree.Parts.Count][];
        Alone.For(0, own.Length, p => own[p] = Own(p, truncated, clicks));
    }

    /// <summary>What a place costs by its distance from ink: it grows no further once the ink is far off.</summary>
    public static float[][] Truncated(InkMaps ink) =>
        [
            .. ink.Squared.Select(far =>
            {
                var to = new float[far.Length];
                for (var i = 0; i < to.Length; i++)
                    to[i] = far[i] / (far[i] + (Reach * Reach));
                return to;
            }),
        ];

    private static float TurnOf(int i) => (i - (Turns / 2)) * TurnStep;

    private static float LengthOf(int i) => (i - (Lengths / 2)) * LengthStep;

    private Vector2 PlaceOf(int part, int j) => laid.Joint[part] + new Vector2((j % Side) - (Side / 2), (j / Side) - (Side / 2)) * grid;

    private float BreadthOf(int part, int length) => LengthOf(length) * (tree.Parts[part].Even ? 1 : Follows);

    private Linear MapOf(int part, int turn, int length) =>
        Linear.Stretch(rest.Axis[part], MathF.Exp(LengthOf(length)), MathF.Exp(BreadthOf(part, length)), TurnOf(turn));

    private float[] Own(int part, float[][] truncated, float clicks)
    {
        var cost = new float[Count];
        // Only what goes with the part itself: near a joint a line bends.
        var mine = laid.Samples.Where(s => s.Part == part && s.Shares[0].Share > 0.55f).ToList();
        var every = Math.Max(1, mine.Count / MostSamples);
        var used = mine.Where((_, i) => i % every == 0).ToArray();
        var offsets = new (int X, int Y, float[] Map)[used.Length];
        for (var turn = 0; turn < Turns; turn++)
        {
            for (var length = 0; length < Lengths; length++)
            {
                var map = MapOf(part, turn, length);
                for (var i = 0; i < used.Length; i++)
                {
                    var d = map * (used[i].At - laid.Joint[part]);
                    offsets[i] = ((int)MathF.Round(d.X), (int)MathF.Round(d.Y), truncated[InkMaps.Channel(map * used[i].Along)]);
                }
                var grown = LengthOf(length) / OwnLength;
                var prior = MathF.Log(1 + (grown * grown * 0.5f));
                Ground(cost.AsSpan(((turn * Lengths) + length) * Places, Places), part, used, offsets, every, prior);
                Pull(cost, part, turn, length, map, laid.TopMark, laid.Crown, clicks);
                Pull(cost, part, turn, length, map, laid.SoleMark, laid.Sole, clicks * 1.2f);
            }
        }
        return cost;
    }

    private void Ground(Span<float> cost, int part, Sample[] used, (int X, int Y, float[] Map)[] offsets, int every, float prior)
    {
        for (var j = 0; j < Places; j++)
        {
            var at = PlaceOf(part, j);
            int x0 = (int)MathF.Round(at.X),
                y0 = (int)MathF.Round(at.Y);
            float sum = 0;
            for (var i = 0; i < used.Length; i++)
            {
                int x = x0 + offsets[i].X,
                    y = y0 + offsets[i].Y;
                sum += used[i].Weight * ((uint)x < ink.Width && (uint)y < ink.Height ? offsets[i].Map[(y * ink.Width) + x] : 1);
            }
            cost[j] = (sum * Counts * every) + prior;
        }
    }

    /// <summary>Draws a mark of a part towards where it was put.</summary>
    private void Pull(float[] cost, int part, int turn, int length, Linear map, LaidMark mark, Vector2 to, float share)
    {
        if (mark.Part != part)
            return;
        var off = (map * (mark.At - laid.Joint[part])) - to;
        var wide = share * laid.Height;
        for (var j = 0; j < Places; j++)
            cost[(((turn * Lengths) + length) * Places) + j] += (PlaceOf(part, j) + off).LengthSquared() / (2 * wide * wide);
    }

    /// <summary>The parts laid out as the best of all states has them.</summary>
    /// <param name="pins">Marks that a person placed.</param>
    public PartChain Best(IReadOnlyDictionary<string, Vector2> pins) => Chain(States(pins));

    /// <summary>By part, the state that is best for the whole.</summary>
    internal int[] States(IReadOnlyDictionary<string, Vector2> pins)
    {
        var cost = own.Select(c => (float[])c.Clone()).ToArray();
        foreach (var mark in laid.Marks.Where(m => pins.ContainsKey(m.Id)))
            for (var turn = 0; turn < Turns; turn++)
            for (var length = 0; length < Lengths; length++)
                Pull(cost[mark.Part], mark.Part, turn, length, MapOf(mark.Part, turn, length), mark, pins[mark.Id], 0.012f);
        // From the ends of the tree inwards: what a part costs at best for each turn of its parent and each place of its own joint.
        var best = new float[tree.Parts.Count][];
        for (var p = tree.Parts.Count - 1; p >= 1; p--)
        {
            Gather(cost[p], p, best);
            best[p] = ForParent(cost[p], p);
        }
        Gather(cost[0], 0, best);
        return Laid(cost, best, First(cost[0]));
    }

    private void Gather(float[] cost, int part, float[][] best)
    {
        foreach (var child in tree.Children[part])
        {
            Alone.For(0, Turns * Lengths, state =>
            {
                var turn = state / Lengths;
                var d = MapOf(part, turn, state % Lengths) * (laid.Joint[child] - laid.Joint[part]);
                for (var j = 0; j < Places; j++)
                    cost[(state * Places) + j] += Beside(best[child], turn, child, PlaceOf(part, j) + d, out _);
            });
        }
    }

    private float[] ForParent(float[] cost, int part)
    {
        var byTurn = new float[Turns * Places];
        for (var turn = 0; turn < Turns; turn++)
        {
            for (var j = 0; j < Places; j++)
            {
                var least = Nowhere;
                for (var length = 0; length < Lengths; length++)
                    least = MathF.Min(least, cost[(((turn * Lengths) + length) * Places) + j]);
                byTurn[(turn * Places) + j] = least;
            }
        }
        var to = new float[Turns * Places];
        Array.Fill(to, Nowhere);
        for (var parent = 0; parent < Turns; parent++)
        {
            for (var turn = 0; turn < Turns; turn++)
            {
                var bend = Bend(part, TurnOf(turn) - TurnOf(parent));
                for (var j = 0; j < Places; j++)
                    to[(parent * Places) + j] = MathF.Min(to[(parent * Places) + j], byTurn[(turn * Places) + j] + bend);
            }
        }
        return to;
    }

    private float Bend(int part, float turn)
    {
        var u = turn / (float)(tree.Parts[part].Turn * Math.PI / 180);
        return 1.2f * MathF.Log(1 + (u * u * 0.4f));
    }

    /// <summary>The cheapest place of a child's joint near where its parent puts it.</summary>
    private float Beside(float[] best, int turn, int child, Vector2 at, out int place)
    {
        float gx = ((at.X - laid.Joint[child].X) / grid) + (Side / 2),
            gy = ((at.Y - laid.Joint[child].Y) / grid) + (Side / 2),
            slip = (float)tree.Parts[child].SearchSlip / GridShare,
            steep = 1 / (2 * slip * slip),
            least = Nowhere;
        int ix = (int)MathF.Round(gx),
            iy = (int)MathF.Round(gy),
            reach = Math.Max(1, (int)MathF.Ceiling(slip * 1.6f));
        place = -1;
        for (var y = Math.Max(0, iy - reach); y <= Math.Min(Side - 1, iy + reach); y++)
        {
            for (var x = Math.Max(0, ix - reach); x <= Math.Min(Side - 1, ix + reach); x++)
            {
                var e = best[(turn * Places) + (y * Side) + x] + (steep * (((x - gx) * (x - gx)) + ((y - gy) * (y - gy))));
                if (e < least)
                    (least, place) = (e, (y * Side) + x);
            }
        }
        if (place >= 0)
            return least;
        int cx = Math.Clamp(ix, 0, Side - 1),
            cy = Math.Clamp(iy, 0, Side - 1);
        place = (cy * Side) + cx;
        return best[(turn * Places) + place] + (steep * (((cx - gx) * (cx - gx)) + ((cy - gy) * (cy - gy))));
    }

    private int First(float[] cost)
    {
        var (least, best) = (float.MaxValue, 0);
        for (var i = 0; i < Count; i++)
            if (cost[i] + Rooted(i) is var e && e < least)
                (least, best) = (e, i);
        return best;
    }

    /// <summary>What the first part's place and turn cost by themselves.</summary>
    private float Rooted(int state)
    {
        var wide = (float)tree.Parts[0].SearchSlip * laid.Height;
        return ((PlaceOf(0, state % Places) - laid.Joint[0]).LengthSquared() / (2 * wide * wide))
            + Bend(0, TurnOf(state / Places / Lengths));
    }

    /// <summary>Goes out from the first part again and takes of every other the state that made it best.</summary>
    private int[] Laid(float[][] cost, float[][] best, int first)
    {
        var state = new int[tree.Parts.Count];
        state[0] = first;
        for (var p = 1; p < state.Length; p++)
        {
            var parent = tree.Parts[p].Parent;
            var (turn, length, place) = Parts(state[parent]);
            var hangs = PlaceOf(parent, place) + (MapOf(parent, turn, length) * (laid.Joint[p] - laid.Joint[parent]));
            Beside(best[p], turn, p, hangs, out var at);
            var least = float.MaxValue;
            for (var s = 0; s < Turns * Lengths; s++)
            {
                var e = cost[p][(s * Places) + at] + Bend(p, TurnOf(s / Lengths) - TurnOf(turn));
                if (e < least)
                    (least, state[p]) = (e, (s * Places) + at);
            }
        }
        return state;
    }

    /// <summary>What the states of all parts cost together, without pins.</summary>
    internal double Cost(int[] state)
    {
        double sum = 0;
        for (var p = 0; p < state.Length; p++)
        {
            var (turn, _, place) = Parts(state[p]);
            sum += own[p][state[p]];
            if (tree.Parts[p].Parent is var q && q < 0)
            {
                sum += Rooted(state[p]);
                continue;
            }
            var (t, l, at) = Parts(state[q]);
            var off = PlaceOf(p, place) - PlaceOf(q, at) - (MapOf(q, t, l) * (laid.Joint[p] - laid.Joint[q]));
            var slip = (float)tree.Parts[p].SearchSlip * laid.Height;
            sum += Bend(p, TurnOf(turn) - TurnOf(t)) + (off.LengthSquared() / (2 * slip * slip));
        }
        return sum;
    }

    internal static (int Turn, int Length, int Place) Parts(int state) =>
        (state / Places / Lengths, state / Places % Lengths, state % Places);

    private PartChain Chain(int[] state)
    {
        var values = new float[state.Length * PartChain.Each];
        for (var p = 0; p < state.Length; p++)
        {
            var (turn, length, place) = Parts(state[p]);
            var o = p * PartChain.Each;
            values[o + PartChain.Turn] = TurnOf(turn);
            values[o + PartChain.Length] = LengthOf(length);
            values[o + PartChain.Breadth] = BreadthOf(p, length);
            var hangs = laid.Joint[p];
            if (tree.Parts[p].Parent is var q && q >= 0)
            {
                var (t, l, at) = Parts(state[q]);
                hangs = PlaceOf(q, at) + (MapOf(q, t, l) * (laid.Joint[p] - laid.Joint[q]));
            }
            var slip = PlaceOf(p, place) - hangs;
            (values[o + PartChain.X], values[o + PartChain.Y]) = (slip.X, slip.Y);
        }
        var chain = laid.Chain();
        chain.Set(values);
        return chain;
    }
}
