namespace MintHarbor.Core.Objects;

/// <summary>Smooth curves through places.</summary>
internal static class Spline3
{
    /// <summary>Catmull and Rom's curve through the places, its knots spaced by the square root of their distance (centripetal: Barry and
    /// Goldman 1988, from memory): it neither loops nor cusps between uneven places.</summary>
    /// <param name="parts">Spans from each place to the next.</param>
    public static List<Point3> Through(IReadOnlyList<Point3> p, int parts, bool closed = false)
    {
        var n = p.Count;
        var line = new List<Point3>();
        Point3 Key(int i) =>
            closed ? p[(i + n) % n]
            : i < 0 ? (p[0] * 2) - p[1]
            : i >= n ? (p[n - 1] * 2) - p[n - 2]
            : p[i];
        for (var i = 0; i < (closed ? n : n - 1); i++)
        for (var k = 0; k < parts; k++)
            line.Add(Between(Key(i - 1), Key(i), Key(i + 1), Key(i + 2), (double)k / parts));
        if (!closed)
            line.Add(p[^1]);
        return line;
    }

    private static Point3 Between(Point3 a, Point3 b, Point3 c, Point3 d, double share)
    {
        double ab = Math.Sqrt((b - a).Length),
            ac = ab + Math.Sqrt((c - b).Length),
            ad = ac + Math.Sqrt((d - c).Length),
            t = ab + ((ac - ab) * share);
        static Point3 Mix(Point3 p, Point3 q, double from, double to, double t) => Point3.Lerp(p, q, (t - from) / (to - from));
        Point3 first = Mix(a, b, 0, ab, t),
            second = Mix(b, c, ab, ac, t),
            third = Mix(c, d, ac, ad, t);
        return Mix(Mix(first, second, 0, ac, t), Mix(second, third, ab, ad, t), ab, ac, t);
    }
}
