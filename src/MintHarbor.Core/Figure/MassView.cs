using System.Numerics;

namespace MintHarbor.Core.Figure;

/// <summary>The figure as one dark shape: closed loops round everything it covers (marching squares on a mask blurred by 3 × 3).</summary>
internal static class MassView
{
    /// <summary>Edges of a cell, and which two each of the sixteen cases joins with the shape on the left; cases 5 and 10 join two pairs.</summary>
    private const int Top = 0,
        Right = 1,
        Bottom = 2,
        Left = 3;
    private static readonly (int From, int To)[][] Cases =
    [
        [],
        [(Top, Left)],
        [(Right, Top)],
        [(Right, Left)],
        [(Bottom, Right)],
        [(Top, Left), (Bottom, Right)],
        [(Bottom, Top)],
        [(Bottom, Left)],
        [(Left, Bottom)],
        [(Top, Bottom)],
        [(Right, Top), (Left, Bottom)],
        [(Right, Bottom)],
        [(Left, Right)],
        [(Top, Right)],
        [(Left, Top)],
        [],
    ];

    public static List<List<Vector2>> Loops(DepthPicture d, int smoothing = 4)
    {
        int w = d.Width + 2,
            h = d.Height + 2;
        var mask = new float[w * h];
        for (var y = 0; y < d.Height; y++)
        for (var x = 0; x < d.Width; x++)
            if (d.IsFigure((y * d.Width) + x))
                mask[((y + 1) * w) + x + 1] = 1;
        var soft = new float[w * h];
        for (var y = 1; y < h - 1; y++)
        {
            for (var x = 1; x < w - 1; x++)
            {
                var o = (y * w) + x;
                soft[o] =
                    (
                        (mask[o] * 4)
                        + (2 * (mask[o - 1] + mask[o + 1] + mask[o - w] + mask[o + w]))
                        + mask[o - w - 1]
                        + mask[o - w + 1]
                        + mask[o + w - 1]
                        + mask[o + w + 1]
                    ) / 16;
            }
        }
        // An edge is named by its upper or left corner and its direction.
        var next = new Dictionary<int, List<int>>();
        int Edge(int x, int y, int side) =>
            side switch
            {
                Top => ((y * w) + x) * 2,
                Bottom => (((y + 1) * w) + x) * 2,
                Left => (((y * w) + x) * 2) + 1,
                _ => (((y * w) + x + 1) * 2) + 1,
            };
        for (var y = 0; y < h - 1; y++)
        {
            for (var x = 0; x < w - 1; x++)
            {
                var o = (y * w) + x;
                var c =
                    (soft[o] > 0.5f ? 1 : 0)
                    | (soft[o + 1] > 0.5f ? 2 : 0)
                    | (soft[o + w + 1] > 0.5f ? 4 : 0)
                    | (soft[o + w] > 0.5f ? 8 : 0);
                foreach (var (from, to) in Cases[c])
                {
                    var key = Edge(x, y, from);
                    if (!next.TryGetValue(key, out var list))
                        next[key] = list = [];
                    list.Add(Edge(x, y, to));
                }
            }
        }
        Vector2 At(int edge)
        {
            int o = edge / 2,
                x = o % w,
                y = o / w;
            var level = (edge & 1) == 0;
            float a = soft[o],
                b = soft[level ? o + 1 : o + w],
                t = (0.5f - a) / (b - a);
            return new(x - 0.5f + (level ? t : 0), y - 0.5f + (level ? 0 : t));
        }
        var loops = new List<List<Vector2>>();
        while (next.Count > 0)
        {
            var first = next.First().Key;
            var at = first;
            var loop = new List<Vector2>();
            while (next.TryGetValue(at, out var list))
            {
                loop.Add(At(at));
                (var from, at) = (at, list[^1]);
                list.RemoveAt(list.Count - 1);
                if (list.Count == 0)
                    next.Remove(from);
                if (at == first)
                    break;
            }
            if (loop.Count > 8)
                loops.Add(Curves.Smooth(loop, true, smoothing));
        }
        return loops;
    }

    /// <summary>Area enclosed by loops, square pixels; holes count against it.</summary>
    public static double Area(IEnumerable<IReadOnlyList<Vector2>> loops) =>
        Math.Abs(
            loops.Sum(p =>
            {
                double a = 0;
                for (var i = 0; i < p.Count; i++)
                    a += (p[i].X * p[(i + 1) % p.Count].Y) - (p[(i + 1) % p.Count].X * p[i].Y);
                return a / 2;
            })
        );
}
