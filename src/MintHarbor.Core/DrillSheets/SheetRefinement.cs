using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>Finds marks and dots to a small part of a millimetre and fits the map to them; what lies off is dropped.</summary>
internal static class SheetRefinement
{
    private const int Fewest = 8;

    /// <summary>Looked for so far from where they are thought, pass by pass, millimetres.</summary>
    private static readonly double[] Passes = [3, 1, 0.5];

    /// <summary>Steps of the little picture round a point, millimetres.</summary>
    private const double Step = 0.12;

    /// <param name="Points">Marks and dots that carry it.</param>
    /// <param name="LeftOut">How far a point lies from where the others say, root mean square over all, millimetres: how flat the sheet is.</param>
    public sealed record Refined(SheetMap Map, int Points, double LeftOut);

    public static Refined? Of(LinearPicture photo, Homography found)
    {
        var map = new SheetMap(found);
        List<Vec2> sheet = [],
            seen = [];
        foreach (var far in Passes)
        {
            sheet.Clear();
            seen.Clear();
            foreach (var m in SheetLayout.Marks)
                Take(m, SheetLayout.Disc, Math.Min(far, 1.4));
            foreach (var d in SheetLayout.Dots)
                Take(d, SheetLayout.Dot, far);
            if (sheet.Count < Fewest || Settled(sheet, seen) is not { } better)
                return null;
            map = better;

            void Take(Vec2 at, double radius, double within)
            {
                if (Middle(photo, map, at, radius, within) is not { } middle)
                    return;
                sheet.Add(at);
                seen.Add(middle);
            }
        }
        return new(map, sheet.Count, LeftOut(map, sheet, seen));
    }

    /// <summary>Fitted, and fitted again without what lies farther off than the rest: a finger beside a mark moves its middle.</summary>
    private static SheetMap? Settled(List<Vec2> sheet, List<Vec2> seen)
    {
        SheetMap? map = null;
        for (var pass = 0; pass < 4; pass++)
        {
            map = SheetMap.Fit(sheet, seen);
            if (map is null)
                return null;
            var off = sheet.Select((s, i) => (map.Map(s) - seen[i]).Length).ToList();
            var limit = Math.Max(0.2 * map.PixelsPerMm, 4 * Samples.Quantile(off, 0.5));
            var worst = off.Max();
            if (worst <= limit || sheet.Count <= Fewest + 1)
                break;
            for (var i = sheet.Count - 1; i >= 0; i--)
                if (off[i] > Math.Max(limit, 0.6 * worst))
                {
                    sheet.RemoveAt(i);
                    seen.RemoveAt(i);
                }
        }
        return sheet.Count >= Fewest ? map : null;
    }

    private static double LeftOut(SheetMap map, List<Vec2> sheet, List<Vec2> seen)
    {
        double sum = 0;
        for (var i = 0; i < sheet.Count; i++)
        {
            var others = SheetMap.Fit([.. sheet.Where((_, k) => k != i)], [.. seen.Where((_, k) => k != i)]);
            sum += Math.Pow(((others ?? map).Map(sheet[i]) - seen[i]).Length / map.PixelsPerMm, 2);
        }
        return Math.Sqrt(sum / sheet.Count);
    }

    /// <summary>The middle of a printed disc near a place of the sheet, in the photograph's pixels; null where there is none of its size.</summary>
    private static Vec2? Middle(LinearPicture photo, SheetMap map, Vec2 at, double radius, double within)
    {
        var n = (int)((radius + within + 0.6) / Step);
        var side = (2 * n) + 1;
        var light = new float[side * side];
        for (var j = -n; j <= n; j++)
        for (var i = -n; i <= n; i++)
            light[((j + n) * side) + i + n] = photo.At(map.Map(at.X + (i * Step), at.Y + (j * Step)));
        var sorted = (float[])light.Clone();
        Array.Sort(sorted);
        float white = sorted[(int)(sorted.Length * 0.8)],
            black = sorted[Math.Max(2, (int)(0.015 * sorted.Length))];
        if (white < 0.02 || black > 0.6 * white)
            return null;
        double Dark(int i, int j) => Math.Clamp(((white * 0.97) - light[((j + n) * side) + i + n]) / ((white * 0.97) - black), 0, 1);
        if (Darkest(Dark, n, radius, within) is not { } start)
            return null;
        return Centroid(Dark, n, radius, within, start) is { } c ? map.Map(at + c) : null;
    }

    /// <summary>Where a disc of that size is darkest, the nearer the better.</summary>
    private static Vec2? Darkest(Func<int, int, double> dark, int n, double radius, double within)
    {
        var (best, place) = (-1.0, default(Vec2));
        int r = (int)(radius * 0.8 / Step),
            reach = (int)(within / Step);
        for (var oy = -reach; oy <= reach; oy += 2)
        for (var ox = -reach; ox <= reach; ox += 2)
        {
            double sum = 0;
            var count = 0;
            for (var j = -r; j <= r; j += 2)
            for (var i = -r; i <= r; i += 2)
                if ((i * i) + (j * j) <= r * r && Math.Abs(oy + j) <= n && Math.Abs(ox + i) <= n)
                {
                    sum += dark(ox + i, oy + j);
                    count++;
                }
            var score = (sum / count) - (0.002 * Step * Math.Sqrt((ox * ox) + (oy * oy)));
            if (score > best)
                (best, place) = (score, new(ox * Step, oy * Step));
        }
        return best < 0.6 ? null : place;
    }

    private static Vec2? Centroid(Func<int, int, double> dark, int n, double radius, double within, Vec2 c)
    {
        double area = 0;
        for (var pass = 0; pass < 4; pass++)
        {
            double sum = 0,
                sx = 0,
                sy = 0;
            for (var j = -n; j <= n; j++)
            for (var i = -n; i <= n; i++)
            {
                var off = (new Vec2(i * Step, j * Step) - c).Length;
                var weight = Math.Clamp(((radius + 0.35 - off) / 0.3) + 0.5, 0, 1);
                if (weight <= 0)
                    continue;
                var d = dark(i, j) * weight;
                sum += d;
                sx += d * i * Step;
                sy += d * j * Step;
            }
            if (sum <= 0)
                return null;
            c = new(sx / sum, sy / sum);
            area = sum * Step * Step;
            if (Math.Abs(c.X) > within + 0.8 || Math.Abs(c.Y) > within + 0.8)
                return null;
        }
        return area / (Math.PI * radius * radius) is >= 0.72 and <= 1.35 ? c : null;
    }
}
