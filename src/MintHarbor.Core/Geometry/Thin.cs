namespace MintHarbor.Core.Geometry;

/// <summary>Fewer points for the same line.</summary>
public static class Thin
{
    /// <summary>Douglas and Peucker's thinning (1973, from memory): what lies within the tolerance of the chord is left out.</summary>
    public static List<Vec2> Path(List<Vec2> line, double tolerance)
    {
        if (line.Count < 3)
            return line;
        var (a, b, worst, at) = (line[0], line[^1], -1.0, 0);
        var chord = (b - a).Length;
        for (var i = 1; i < line.Count - 1; i++)
        {
            var off = chord < 1e-9 ? (line[i] - a).Length : Math.Abs((b - a).Cross(line[i] - a)) / chord;
            if (off > worst)
                (worst, at) = (off, i);
        }
        return worst <= tolerance ? [a, b] : [.. Path(line[..(at + 1)], tolerance).SkipLast(1), .. Path(line[at..], tolerance)];
    }
}
