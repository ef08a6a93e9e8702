using System.Globalization;

namespace MintHarbor.Core.Geometry;

/// <summary>Closed outlines as pictures ship them.</summary>
public static class Outlines
{
    /// <summary>Outlines of SVG path data that has only M, L and Z, the largest first; the first place isn't repeated at the end.</summary>
    /// <exception cref="FormatException">What is no place.</exception>
    public static IReadOnlyList<IReadOnlyList<Vec2>> Read(string path) =>
        [
            .. path.Split('M', StringSplitOptions.RemoveEmptyEntries)
                .Select(o => (IReadOnlyList<Vec2>)[.. o.TrimEnd('Z', ' ').Split('L').Select(Place)])
                .Select(o => o[0] == o[^1] ? (IReadOnlyList<Vec2>)[.. o.SkipLast(1)] : o)
                .Where(o => o.Count > 2)
                .OrderByDescending(Polygons.Area),
        ];

    private static Vec2 Place(string pair) =>
        pair.Split(' ', StringSplitOptions.RemoveEmptyEntries) is [var x, var y]
            ? new(double.Parse(x, CultureInfo.InvariantCulture), double.Parse(y, CultureInfo.InvariantCulture))
            : throw new FormatException($"'{pair}' is no place");
}
