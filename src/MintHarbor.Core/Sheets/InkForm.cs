using System.Numerics;

namespace MintHarbor.Core.Sheets;

/// <summary>The whole of what is drawn, to the square millimetre: what lines enclose, gaps in them bridged as far as it takes. What lies at the
/// sheet's rim apart from the drawing (clips, tape, a thumb) is left out.</summary>
/// <param name="Inside">Rows from the top.</param>
/// <param name="Lines">The ink that it was made of.</param>
public sealed record InkForm(int Width, int Height, bool[] Inside, IReadOnlyList<InkPoint> Lines)
{
    private const int Cell = 6,
        Rim = 30;
    private const float AtRim = 0.5f;

    /// <summary>Gaps that are tried, half their width in mm, and how much of the form that the widest makes is enough.</summary>
    private static readonly int[] Reaches = [4, 6, 9, 13];
    private const double Enough = 0.82;

    /// <summary>Least and greatest place of the form; null where nothing is drawn.</summary>
    public (Vector2 Low, Vector2 High)? Box { get; } = BoxOf(Inside, Width, Height);

    /// <summary>Square millimetres.</summary>
    public int Area => Inside.Count(i => i);

    public static InkForm Of(InkRidges ridges)
    {
        int w = (int)ridges.Width + 1,
            h = (int)ridges.Height + 1;
        var lines = WithoutRim(ridges);
        var ink = new bool[w * h];
        foreach (var p in lines)
            ink[(Math.Clamp((int)p.At.Y, 0, h - 1) * w) + Math.Clamp((int)p.At.X, 0, w - 1)] = true;
        var widest = Filled(ink, w, h, Reaches[^1]);
        var least = widest.Count(b => b) * Enough;
        foreach (var reach in Reaches[..^1])
            if (Filled(ink, w, h, reach) is var form && form.Count(b => b) >= least)
                return new(w, h, form, lines);
        return new(w, h, widest, lines);
    }

    private static (Vector2, Vector2)? BoxOf(bool[] inside, int w, int h)
    {
        int x0 = w,
            x1 = -1,
            y0 = h,
            y1 = -1;
        for (var i = 0; i < inside.Length; i++)
            if (inside[i])
                (x0, x1, y0, y1) = (Math.Min(x0, i % w), Math.Max(x1, i % w), Math.Min(y0, i / w), Math.Max(y1, i / w));
        return x1 < 0 ? null : (new(x0, y0), new(x1 + 1, y1 + 1));
    }

    /// <summary>Ink in clusters that hang together over two cells; small ones, and ones mostly at the rim, go when there is a larger one.</summary>
    private static IReadOnlyList<InkPoint> WithoutRim(InkRidges ridges)
    {
        var cells = ridges.Points.GroupBy(p => ((int)p.At.X / Cell, (int)p.At.Y / Cell)).ToDictionary(g => g.Key, g => g.ToList());
        var clusters = new List<List<InkPoint>>();
        var open = new Stack<(int X, int Y)>();
        while (cells.Count > 0)
        {
            var cluster = new List<InkPoint>();
            open.Push(cells.Keys.First());
            while (open.TryPop(out var c))
            {
                if (!cells.Remove(c, out var points))
                    continue;
                cluster.AddRange(points);
                for (var dy = -2; dy <= 2; dy++)
                for (var dx = -2; dx <= 2; dx++)
                    if (cells.ContainsKey((c.X + dx, c.Y + dy)))
                        open.Push((c.X + dx, c.Y + dy));
            }
            clusters.Add(cluster);
        }
        if (clusters.Count < 2)
            return ridges.Points;
        var most = clusters.Max(c => c.Count);
        bool Outer(InkPoint p) => p.At.X < Rim || p.At.Y < Rim || p.At.X > ridges.Width - Rim || p.At.Y > ridges.Height - Rim;
        return [.. clusters.Where(c => c.Count == most || (c.Count > most / 200 && c.Count(Outer) <= AtRim * c.Count)).SelectMany(c => c)];
    }

    /// <summary>Places from which nobody gets out without crossing ink, gaps up to twice <paramref name="reach"/> closed.</summary>
    internal static bool[] Filled(bool[] ink, int w, int h, int reach)
    {
        var far = Far(ink, w, h, reach);
        var near = reach * reach;
        var outside = new bool[w * h];
        var open = new Stack<int>();
        void Enter(int o)
        {
            if (outside[o] || far[o] <= near)
                return;
            outside[o] = true;
            open.Push(o);
        }
        for (var x = 0; x < w; x++)
        {
            Enter(x);
            Enter(((h - 1) * w) + x);
        }
        for (var y = 0; y < h; y++)
        {
            Enter(y * w);
            Enter((y * w) + w - 1);
        }
        while (open.TryPop(out var o))
        {
            var x = o % w;
            if (x > 0)
                Enter(o - 1);
            if (x < w - 1)
                Enter(o + 1);
            if (o >= w)
                Enter(o - w);
            if (o < (h - 1) * w)
                Enter(o + w);
        }
        return [.. Far(outside, w, h, reach).Select(d => d > near)];
    }

    /// <summary>Squared distance to the nearest place that is on, exact up to <paramref name="cap"/> and more than that beyond it.</summary>
    internal static int[] Far(bool[] on, int w, int h, int cap)
    {
        const int nowhere = 1 << 20;
        var down = new int[w * h];
        for (var x = 0; x < w; x++)
        {
            var d = 2 * cap;
            for (var y = 0; y < h; y++)
                down[(y * w) + x] = d = on[(y * w) + x] ? 0 : d + 1;
            d = 2 * cap;
            for (var y = h - 1; y >= 0; y--)
            {
                d = on[(y * w) + x] ? 0 : d + 1;
                down[(y * w) + x] = Math.Min(down[(y * w) + x], d);
            }
        }
        var to = new int[w * h];
        Alone.For(0, h, y =>
        {
            for (var x = 0; x < w; x++)
            {
                var least = nowhere;
                for (var i = Math.Max(0, x - cap); i <= Math.Min(w - 1, x + cap); i++)
                    if (down[(y * w) + i] is var d && d < 2 * cap)
                        least = Math.Min(least, (d * d) + ((i - x) * (i - x)));
                to[(y * w) + x] = least;
            }
        });
        return to;
    }
}
