namespace MintHarbor.Core.Geometry;

/// <summary>How far two drawn lines lie apart, in their own unit.</summary>
public static class PathDistance
{
    /// <summary>Fréchet distance of two lines at 41 even places, drawn from either end.</summary>
    public static double EitherWay(IReadOnlyList<Vec2> drawn, IReadOnlyList<Vec2> truth)
    {
        var (mine, right) = (Even(drawn, 41), Even(truth, 41));
        return Math.Min(Frechet(mine, right), Frechet([.. mine.Reverse()], right));
    }

    /// <summary>Directed Hausdorff distance: the farthest that a place of <paramref name="a"/> lies from every place of <paramref name="b"/>.</summary>
    /// <exception cref="ArgumentException">A line without places.</exception>
    public static double Directed(IReadOnlyList<Vec2> a, IReadOnlyList<Vec2> b)
    {
        if (a.Count == 0 || b.Count == 0)
            throw new ArgumentException("a line without places");
        return a.Max(p => b.Min(q => (p - q).Length));
    }

    /// <summary>Discrete Fréchet distance (Eiter and Mannila 1994, from memory): the shortest leash with which two can walk both lines from
    /// end to end, neither going back.</summary>
    /// <exception cref="ArgumentException">A line without places.</exception>
    public static double Frechet(IReadOnlyList<Vec2> a, IReadOnlyList<Vec2> b)
    {
        if (a.Count == 0 || b.Count == 0)
            throw new ArgumentException("a line without places");
        var leash = new double[a.Count, b.Count];
        for (var i = 0; i < a.Count; i++)
        {
            for (var j = 0; j < b.Count; j++)
            {
                var before =
                    i == 0 && j == 0 ? 0
                    : i == 0 ? leash[0, j - 1]
                    : j == 0 ? leash[i - 1, 0]
                    : Math.Min(leash[i - 1, j - 1], Math.Min(leash[i - 1, j], leash[i, j - 1]));
                leash[i, j] = Math.Max(before, (a[i] - b[j]).Length);
            }
        }
        return leash[a.Count - 1, b.Count - 1];
    }

    /// <summary>The line in places at even steps along it, both ends kept.</summary>
    public static IReadOnlyList<Vec2> Even(IReadOnlyList<Vec2> line, int count)
    {
        var total = Length(line);
        if (line.Count < 2 || total < 1e-9)
            return [.. Enumerable.Repeat(line[0], count)];
        var even = new List<Vec2> { line[0] };
        double along = 0;
        var n = 1;
        for (var i = 1; i < line.Count; i++)
        {
            var step = (line[i] - line[i - 1]).Length;
            while (n < count - 1 && step > 0 && along + step >= total * n / (count - 1))
            {
                even.Add(line[i - 1] + ((line[i] - line[i - 1]) * (((total * n / (count - 1)) - along) / step)));
                n++;
            }
            along += step;
        }
        while (even.Count < count)
            even.Add(line[^1]);
        return even;
    }

    /// <summary>Length of a line.</summary>
    public static double Length(IReadOnlyList<Vec2> line)
    {
        var total = 0.0;
        for (var i = 1; i < line.Count; i++)
            total += (line[i] - line[i - 1]).Length;
        return total;
    }

    /// <summary>About so many places over several lines, each its share by length and two at least.</summary>
    /// <exception cref="ArgumentException">No line with a place.</exception>
    public static IReadOnlyList<Vec2> Spread(IReadOnlyList<IReadOnlyList<Vec2>> lines, int count)
    {
        List<IReadOnlyList<Vec2>> own = [.. lines.Where(l => l.Count > 0)];
        if (own.Count == 0)
            throw new ArgumentException("lines without places");
        var total = own.Sum(Length);
        return [.. own.SelectMany(l => Even(l, total > 0 ? Math.Max(2, (int)Math.Round(count * Length(l) / total)) : 2))];
    }
}
