using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>Finds a sheet in a photograph by its marks, whichever way it lies and though some are covered. It is found only where its code is read: a
/// pattern of rings on a table is no sheet.</summary>
internal static class SheetSearch
{
    /// <summary>More rings than this are thinned to those that have most others in reach.</summary>
    private const int MostRings = 14;

    /// <summary>A mark is met within this share of the photograph's diagonal.</summary>
    private const double Reach = 0.012;
    private const int MostTried = 60;

    public sealed record Found(Homography Map, SheetCode Code, int Mended, int Marks);

    private sealed record Guess(Homography Map, int Met, double Off);

    /// <summary>Four marks, no three in a line; the corners first, then those with three corners.</summary>
    private static readonly IReadOnlyList<int[]> Fours =
    [
        .. Choose(SheetLayout.Marks.Count)
            .Where(m =>
                Enumerable
                    .Range(0, 4)
                    .All(i => Turned(SheetLayout.Marks[m[i]], SheetLayout.Marks[m[(i + 1) % 4]], SheetLayout.Marks[m[(i + 2) % 4]]) > 1500)
            )
            .OrderBy(m =>
                m.All(IsCorner) ? 0
                : m.Count(IsCorner) >= 3 ? 1
                : 2
            ),
    ];

    private static bool IsCorner(int mark) => mark % 2 == 0;

    private static double Turned(Vec2 a, Vec2 b, Vec2 c) => Math.Abs((b - a).Cross(c - b));

    private static IEnumerable<int[]> Choose(int n)
    {
        for (var a = 0; a < n; a++)
        for (var b = a + 1; b < n; b++)
        for (var c = b + 1; c < n; c++)
        for (var d = c + 1; d < n; d++)
            yield return [a, b, c, d];
    }

    public static Found? Find(LinearPicture photo)
    {
        var rings = Near(RingMarks.Of(photo), photo);
        var tried = 0;
        foreach (var guess in Guesses(rings, photo).OrderByDescending(g => g.Met).ThenBy(g => g.Off))
        {
            if (tried++ >= MostTried)
                break;
            var (marks, seen) = Met(guess.Map, rings, photo);
            var all = Homography.LeastSquares(marks, seen) ?? guess.Map;
            if (CodeReading.Of(photo, all) is { } read)
                return new(all, read.Code, read.Mended, marks.Count);
            if (marks.Count > 4 && CodeReading.Of(photo, guess.Map) is { } again)
                return new(guess.Map, again.Code, again.Mended, marks.Count);
        }
        return null;
    }

    private static IReadOnlyList<Vec2> Near(IReadOnlyList<Vec2> rings, LinearPicture photo) =>
        rings.Count <= MostRings
            ? rings
            : [.. rings.OrderByDescending(r => rings.Count(q => (q - r).Length < 0.7 * photo.Diagonal)).Take(MostRings)];

    private static (List<Vec2> Marks, List<Vec2> Seen) Met(Homography map, IReadOnlyList<Vec2> rings, LinearPicture photo)
    {
        var (marks, seen) = (new List<Vec2>(), new List<Vec2>());
        foreach (var mark in SheetLayout.Marks)
        {
            var at = map.Map(mark);
            var nearest = rings.MinBy(r => (r - at).Length);
            if ((nearest - at).Length >= Reach * photo.Diagonal)
                continue;
            marks.Add(mark);
            seen.Add(nearest);
        }
        return (marks, seen);
    }

    private static List<Guess> Guesses(IReadOnlyList<Vec2> rings, LinearPicture photo)
    {
        var guesses = new List<Guess>();
        var quads = Choose(rings.Count).Select(q => Ordered([.. q.Select(i => rings[i])])).Where(q => Wide(q, photo)).ToList();
        var best = 0;
        foreach (var four in Fours)
        {
            Vec2[] marks = [.. four.Select(i => SheetLayout.Marks[i])];
            foreach (var quad in quads)
                for (var turn = 0; turn < 4; turn++)
                {
                    Vec2[] seen = [.. Enumerable.Range(0, 4).Select(i => quad[(turn + i) % 4])];
                    if (Homography.LeastSquares(marks, seen) is not { } map || !Plausible(map))
                        continue;
                    var (met, _) = Met(map, rings, photo);
                    if (met.Count < 4)
                        continue;
                    guesses.Add(new(map, met.Count, Off(map, rings)));
                    best = Math.Max(best, met.Count);
                }
            var corners = ReferenceEquals(four, Fours[0]);
            if (best >= 7 || (best >= 5 && guesses.Count > 400) || (best >= 4 && best == rings.Count && corners))
                break;
        }
        return guesses;
    }

    private static double Off(Homography map, IReadOnlyList<Vec2> rings) =>
        SheetLayout.Marks.Sum(m => map.Map(m) is var at ? rings.Min(r => (r - at).Length) : 0);

    /// <summary>Round their middle, as the marks are.</summary>
    private static Vec2[] Ordered(Vec2[] q)
    {
        var middle = (q[0] + q[1] + q[2] + q[3]) * 0.25;
        return [.. q.OrderBy(p => Math.Atan2(p.Y - middle.Y, p.X - middle.X))];
    }

    /// <summary>Convex, and no sliver.</summary>
    private static bool Wide(Vec2[] q, LinearPicture photo) =>
        Enumerable
            .Range(0, 4)
            .All(i => (q[(i + 1) % 4] - q[i]).Cross(q[(i + 2) % 4] - q[(i + 1) % 4]) >= 0.01 * photo.Width * photo.Height);

    /// <summary>Neither folded nor seen so much from the side that nothing could be read.</summary>
    private static bool Plausible(Homography map)
    {
        var h = map.Coefficients;
        foreach (var m in SheetLayout.Marks)
            if ((h[6] * m.X) + (h[7] * m.Y) + 1 is not (>= 0.55 and <= 1.8))
                return false;
        double down = (map.Map(new(91, 245)) - map.Map(new(91, 5))).Length,
            across = (map.Map(new(177, 125)) - map.Map(new(5, 125))).Length;
        return down / across / (240 / 172.0) is >= 0.78 and <= 1.28;
    }
}
