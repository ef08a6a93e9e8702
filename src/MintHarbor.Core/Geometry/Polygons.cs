using System.Numerics;

namespace MintHarbor.Core.Geometry;

/// <summary>Areas of closed outlines.</summary>
public static class Polygons
{
    /// <summary>Overlap of two outlines over their union, 0 to 1, by the even-odd rule on rows: a drawn ring may cross itself. Each of
    /// 400 rows of the common height is cut exactly. 0 where one has fewer than three places.</summary>
    public static double Overlap(IReadOnlyList<Vec2> a, IReadOnlyList<Vec2> b)
    {
        if (a.Count < 3 || b.Count < 3)
            return 0;
        const int rows = 400;
        double top = Math.Min(a.Min(p => p.Y), b.Min(p => p.Y)),
            step = (Math.Max(a.Max(p => p.Y), b.Max(p => p.Y)) - top) / rows;
        double both = 0,
            either = 0;
        for (var n = 0; n < rows; n++)
        {
            var y = top + ((n + 0.5) * step);
            var cuts = Cuts(a, y)
                .Select(x => (X: x, First: true))
                .Concat(Cuts(b, y).Select(x => (X: x, First: false)))
                .OrderBy(c => c.X)
                .ToList();
            bool inA = false,
                inB = false;
            for (var i = 0; i + 1 < cuts.Count; i++)
            {
                if (cuts[i].First)
                    inA = !inA;
                else
                    inB = !inB;
                var width = cuts[i + 1].X - cuts[i].X;
                if (inA && inB)
                    both += width;
                if (inA || inB)
                    either += width;
            }
        }
        return either > 0 ? both / either : 0;
    }

    /// <summary>Area of an outline that doesn't cross itself, whichever way it runs round.</summary>
    public static double Area(IReadOnlyList<Vec2> outline)
    {
        double twice = 0;
        for (var i = 0; i < outline.Count; i++)
            twice += outline[i].Cross(outline[(i + 1) % outline.Count]);
        return Math.Abs(twice) / 2;
    }

    /// <summary>Where a level line crosses an outline.</summary>
    internal static IEnumerable<double> Cuts(IReadOnlyList<Vec2> outline, double y)
    {
        for (var i = 0; i < outline.Count; i++)
        {
            Vec2 p = outline[i],
                q = outline[(i + 1) % outline.Count];
            if (p.Y <= y != q.Y <= y)
                yield return p.X + ((q.X - p.X) * (y - p.Y) / (q.Y - p.Y));
        }
    }

    /// <summary>Cells of a grid whose middles lie inside outlines, by the even-odd rule: an outline within another is a hole. Rows from the top.</summary>
    /// <param name="perUnit">Cells to a unit of the outlines.</param>
    internal static bool[] Filled(IReadOnlyList<IReadOnlyList<Vec2>> outlines, int width, int height, double perUnit = 1)
    {
        var inside = new bool[width * height];
        for (var y = 0; y < height; y++)
        {
            var cuts = outlines.SelectMany(o => Cuts(o, (y + 0.5) / perUnit)).Order().ToList();
            for (var i = 0; i + 1 < cuts.Count; i += 2)
            for (var x = Math.Max(0, (int)(cuts[i] * perUnit)); x < Math.Min(width, cuts[i + 1] * perUnit); x++)
                inside[(y * width) + x] = true;
        }
        return inside;
    }

    internal static bool[] Filled(IReadOnlyList<IReadOnlyList<Vector2>> outlines, int width, int height, double perUnit = 1) =>
        Filled([.. outlines.Select(o => o.Select(p => new Vec2(p.X, p.Y)).ToList())], width, height, perUnit);
}
