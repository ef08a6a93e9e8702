using System.Numerics;

namespace MintHarbor.Core.Fitting;

/// <summary>A linear map of the plane.</summary>
internal readonly record struct Linear(float A, float B, float C, float D)
{
    public static Vector2 operator *(Linear m, Vector2 v) => new((m.A * v.X) + (m.B * v.Y), (m.C * v.X) + (m.D * v.Y));

    /// <summary>Stretched by <paramref name="along"/> in a direction and by <paramref name="across"/> square to it, then turned.</summary>
    public static Linear Stretch(Vector2 direction, float along, float across, float turn)
    {
        var (s, c) = MathF.SinCos(turn);
        float xx = (along * direction.X * direction.X) + (across * direction.Y * direction.Y),
            xy = (along - across) * direction.X * direction.Y,
            yy = (along * direction.Y * direction.Y) + (across * direction.X * direction.X);
        return new((c * xx) - (s * xy), (c * xy) - (s * yy), (s * xx) + (c * xy), (s * xy) + (c * yy));
    }
}

/// <summary>How every part of a reference lies on the sheet: its turn, the logarithms of its length and breadth, and how far its joint is
/// drawn beside where the parent puts it. A part's turn is its own, not added to its parent's.</summary>
internal sealed class PartChain
{
    /// <summary>Numbers a part.</summary>
    public const int Each = 5;
    public const int Turn = 0,
        Length = 1,
        Breadth = 2,
        X = 3,
        Y = 4;

    private const float MostTurn = 0.6f,
        MostLength = 0.4f,
        MostBreadth = 0.35f;

    private readonly PartTree tree;

    /// <summary>Where each part hangs, and the direction it runs in, before anything is moved.</summary>
    public Vector2[] Rest { get; }
    public Vector2[] Axis { get; }

    /// <summary>Five numbers a part: turn, length, breadth, x and y of its slip.</summary>
    public float[] Values { get; }

    /// <summary>Where each part hangs now.</summary>
    public Vector2[] Joint { get; }
    public Linear[] Map { get; }

    /// <summary>Derivatives of <see cref="Map"/> by the logarithm of length and of breadth.</summary>
    public Linear[] ByLength { get; }
    public Linear[] ByBreadth { get; }

    public PartChain(PartTree tree, Vector2[] joint, Vector2[] end)
    {
        this.tree = tree;
        var n = tree.Parts.Count;
        (Rest, Values, Joint) = (joint, new float[n * Each], new Vector2[n]);
        (Map, ByLength, ByBreadth) = (new Linear[n], new Linear[n], new Linear[n]);
        Axis = [.. joint.Select((j, i) => Vector2.Distance(end[i], j) > 2 ? Vector2.Normalize(end[i] - j) : Vector2.UnitY)];
        Update();
    }

    /// <summary>Takes new values, each within what a hand could have done, and lays the parts out by them.</summary>
    public void Set(ReadOnlySpan<float> values)
    {
        for (var p = 0; p < tree.Parts.Count; p++)
        {
            var o = p * Each;
            Values[o + Turn] = Math.Clamp(values[o + Turn], -MostTurn, MostTurn);
            Values[o + Length] = Math.Clamp(values[o + Length], -MostLength, MostLength);
            Values[o + Breadth] = Math.Clamp(values[o + Breadth], -MostBreadth, MostBreadth);
            (Values[o + X], Values[o + Y]) = (values[o + X], values[o + Y]);
        }
        Update();
    }

    private void Update()
    {
        for (var p = 0; p < tree.Parts.Count; p++)
        {
            var o = p * Each;
            float along = MathF.Exp(Values[o + Length]),
                across = MathF.Exp(Values[o + Breadth]),
                turn = Values[o + Turn];
            Map[p] = Linear.Stretch(Axis[p], along, across, turn);
            ByLength[p] = Linear.Stretch(Axis[p], along, 0, turn);
            ByBreadth[p] = Linear.Stretch(Axis[p], 0, across, turn);
            var slip = new Vector2(Values[o + X], Values[o + Y]);
            Joint[p] = slip + (tree.Parts[p].Parent is var q && q < 0 ? Rest[p] : Joint[q] + (Map[q] * (Rest[p] - Rest[q])));
        }
    }

    public Vector2 At(int part, Vector2 x) => Joint[part] + (Map[part] * (x - Rest[part]));

    public Vector2 At(PartShare[] shares, Vector2 x)
    {
        var sum = Vector2.Zero;
        foreach (var s in shares)
            sum += s.Share * At(s.Part, x);
        return sum;
    }

    /// <summary>How far a part is turned against its parent, degrees.</summary>
    public double BendOf(int part)
    {
        var own = Values[(part * Each) + Turn];
        return (own - (tree.Parts[part].Parent is var q && q < 0 ? 0 : Values[(q * Each) + Turn])) * 180 / Math.PI;
    }

    /// <summary>Root mean square of all parts' bends, degrees.</summary>
    public double Bent => Math.Sqrt(Enumerable.Range(0, tree.Parts.Count).Average(p => BendOf(p) * BendOf(p)));

    /// <summary>How much broader a part grew than longer, as a logarithm.</summary>
    public double WarpOf(int part) => Values[(part * Each) + Breadth] - Values[(part * Each) + Length];

    /// <summary>Derivatives of a place by every value that moves it.</summary>
    public void Slopes(PartShare[] shares, Vector2 x, Slopes to)
    {
        to.Clear();
        foreach (var s in shares)
        {
            if (s.Share == 0)
                continue;
            // A part carries its place by itself; each ancestor carries the joint of the part below it.
            var from = x - Rest[s.Part];
            for (var p = s.Part; p >= 0; p = tree.Parts[p].Parent)
            {
                var d = Map[p] * from;
                to.Add((p * Each) + Turn, s.Share * new Vector2(-d.Y, d.X));
                to.Add((p * Each) + Length, s.Share * (ByLength[p] * from));
                to.Add((p * Each) + Breadth, s.Share * (ByBreadth[p] * from));
                to.Add((p * Each) + X, new(s.Share, 0));
                to.Add((p * Each) + Y, new(0, s.Share));
                if (tree.Parts[p].Parent is var q && q >= 0)
                    from = Rest[p] - Rest[q];
            }
        }
    }
}

/// <summary>Derivatives of one place, of which most are nought.</summary>
internal sealed class Slopes(int count)
{
    private readonly bool[] used = new bool[count];
    public Vector2[] Of { get; } = new Vector2[count];
    public List<int> Used { get; } = new(count);

    public void Clear()
    {
        foreach (var i in Used)
            (Of[i], used[i]) = (default, false);
        Used.Clear();
    }

    public void Add(int i, Vector2 d)
    {
        if (!used[i])
        {
            used[i] = true;
            Used.Add(i);
        }
        Of[i] += d;
    }
}
