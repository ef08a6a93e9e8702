using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Objects;

/// <summary>The ground that things leave: shut in by things, or by things and a straight line laid against the whole.</summary>
internal sealed class NegativeShapes
{
    /// <summary>Picture pixels below which a gap between things is none, and the share of the whole below which a pocket is none.</summary>
    private const double LeastEnclosed = 12,
        LeastPocket = 0.006;

    private const int Free = 0,
        Open = -1;

    private readonly ArrangementView view;
    private readonly int width,
        height;
    private readonly int[] thing,
        label;
    private readonly List<Vector2> hull;
    private int labels;

    public NegativeShapes(ArrangementView view)
    {
        this.view = view;
        (width, height) = (view.Camera.Width, view.Camera.Height);
        thing = [.. Enumerable.Range(0, width * height).Select(view.ThingAt)];
        label = new int[thing.Length];
        hull = Hull.Of(Border());
    }

    private IEnumerable<Vector2> Border()
    {
        for (var y = 0; y < height; y++)
        {
            int first = Array.FindIndex(thing, y * width, width, t => t >= 0),
                last = Array.FindLastIndex(thing, ((y + 1) * width) - 1, width, t => t >= 0);
            if (first < 0)
                continue;
            foreach (var x in new[] { first - (y * width), last - (y * width) + 1 })
            {
                yield return new(x, y);
                yield return new(x, y + 1);
            }
        }
    }

    public IReadOnlyList<NegativeGap> All()
    {
        if (hull.Count < 3)
            return [];
        Vec2[] outline = [.. hull.Select(p => new Vec2(p.X, p.Y))];
        var whole = Polygons.Area(outline);
        var spans = Enumerable.Range(0, height).Select(y => Span(outline, y + 0.5)).ToArray();
        return
        [
            .. Found(true, _ => true, LeastEnclosed * view.Finer * view.Finer),
            .. Found(false, o => spans[o / width] is var s && o % width >= s.First && o % width <= s.Last, LeastPocket * whole),
        ];
    }

    /// <summary>The pixels of a row whose middles lie in a convex outline; none where the first comes after the last.</summary>
    private static (int First, int Last) Span(Vec2[] outline, double y)
    {
        var cuts = Polygons.Cuts(outline, y).ToList();
        return cuts.Count < 2 ? (0, -1) : ((int)Math.Ceiling(cuts.Min() - 0.5), (int)Math.Floor(cuts.Max() - 0.5));
    }

    private List<NegativeGap> Found(bool enclosed, Func<int, bool> allowed, double least)
    {
        var found = new List<NegativeGap>();
        for (var start = 0; start < thing.Length; start++)
        {
            if (thing[start] >= 0 || label[start] != Free || !allowed(start))
                continue;
            labels++;
            var (pixels, touches, atFrame) = Flood(start, allowed);
            if (enclosed && atFrame)
            {
                foreach (var o in pixels)
                    label[o] = Open;
                continue;
            }
            if (pixels.Count < least)
                continue;
            var area = pixels.Count / (double)(view.Finer * view.Finer);
            found.Add(
                new(enclosed, [.. touches.Where(t => t.Value > 8).Select(t => view.Model.Names[t.Key])], area, Outline(pixels, labels))
            );
        }
        // The open ground was only set aside: pockets are cut from it.
        for (var o = 0; o < label.Length; o++)
            if (label[o] == Open)
                label[o] = Free;
        return [.. found.OrderByDescending(g => g.Area)];
    }

    /// <summary>Pixels that hang together, how often they touch each thing, and whether they reach the picture's frame.</summary>
    private (List<int> Pixels, Dictionary<int, int> Touches, bool AtFrame) Flood(int start, Func<int, bool> allowed)
    {
        List<int> pixels = [start];
        var touches = new Dictionary<int, int>();
        var atFrame = false;
        label[start] = labels;
        for (var q = 0; q < pixels.Count; q++)
        {
            var (x, y) = (pixels[q] % width, pixels[q] / width);
            foreach (var (i, j) in new[] { (x + 1, y), (x - 1, y), (x, y + 1), (x, y - 1) })
            {
                if ((uint)i >= width || (uint)j >= height)
                {
                    atFrame = true;
                    continue;
                }
                var o = (j * width) + i;
                if (thing[o] >= 0)
                    touches[thing[o]] = touches.GetValueOrDefault(thing[o]) + 1;
                else if (label[o] == Free && allowed(o))
                {
                    label[o] = labels;
                    pixels.Add(o);
                }
            }
        }
        return (pixels, touches, atFrame);
    }

    /// <summary>The longest loop round a label's pixels, calmed and thinned, in picture pixels.</summary>
    private List<Vec2> Outline(List<int> pixels, int of)
    {
        var next = new Dictionary<(int, int), List<(int, int)>>();
        bool On(int x, int y) => (uint)x < width && (uint)y < height && label[(y * width) + x] == of;
        void Link((int, int) from, (int, int) to)
        {
            if (!next.TryGetValue(from, out var list))
                next[from] = list = [];
            list.Add(to);
        }
        foreach (var o in pixels)
        {
            var (x, y) = (o % width, o / width);
            if (!On(x, y - 1))
                Link((x, y), (x + 1, y));
            if (!On(x + 1, y))
                Link((x + 1, y), (x + 1, y + 1));
            if (!On(x, y + 1))
                Link((x + 1, y + 1), (x, y + 1));
            if (!On(x - 1, y))
                Link((x, y + 1), (x, y));
        }
        List<Vector2> longest = [];
        while (next.Count > 0)
        {
            var loop = Loop(next);
            if (loop.Count > longest.Count)
                longest = loop;
        }
        var line = Curves.Smooth(longest, true, 3);
        line.Add(line[0]);
        return [.. Curves.Simplify(line, 0.3f * view.Finer).SkipLast(1).Select(p => new Vec2(p.X, p.Y) * (1.0 / view.Finer))];
    }

    private static List<Vector2> Loop(Dictionary<(int X, int Y), List<(int, int)>> next)
    {
        var first = next.First().Key;
        var at = first;
        var loop = new List<Vector2>();
        while (next.TryGetValue(at, out var list))
        {
            loop.Add(new(at.X, at.Y));
            var from = at;
            at = list[^1];
            list.RemoveAt(list.Count - 1);
            if (list.Count == 0)
                next.Remove(from);
            if (at == first)
                break;
        }
        return loop;
    }
}
