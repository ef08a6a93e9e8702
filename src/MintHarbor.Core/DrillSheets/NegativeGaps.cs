using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>Gaps of the clothed silhouettes that ship with the core, as large as they are printed: holes between limbs, and pockets between the outline and
/// the line that spans it.</summary>
internal static class NegativeGaps
{
    /// <summary>Room that a silhouette is fitted into, from the cell's corner.</summary>
    private static readonly Area Room = new(4, 8, 50, 48);
    private static readonly Lazy<IReadOnlyList<(string Pose, IReadOnlyList<IReadOnlyList<Vec2>> Figure, IReadOnlyList<Vec2> Gap)>> Made =
        new(() =>
            [
                .. from s in Silhouettes.All
                where s.Clothed
                let figure = Fitted(Outlines.Read(s.Path))
                from gap in Holes(figure).Concat(Pockets(figure[0]))
                where NegativeShape.IsWorth(gap)
                select (s.Pose, figure, gap),
            ]
        );

    public static IReadOnlyList<(string Pose, IReadOnlyList<IReadOnlyList<Vec2>> Figure, IReadOnlyList<Vec2> Gap)> All => Made.Value;

    private static IReadOnlyList<IReadOnlyList<Vec2>> Fitted(IReadOnlyList<IReadOnlyList<Vec2>> outlines)
    {
        var all = outlines.SelectMany(o => o).ToList();
        double left = all.Min(p => p.X),
            top = all.Min(p => p.Y),
            w = all.Max(p => p.X) - left,
            h = all.Max(p => p.Y) - top,
            k = Math.Min((Room.Right - Room.Left) / w, (Room.Foot - Room.Top) / h);
        Vec2 On(Vec2 p) =>
            new(Math.Round(Room.Middle.X + ((p.X - left - (w / 2)) * k), 2), Math.Round(Room.Middle.Y + ((p.Y - top - (h / 2)) * k), 2));
        return [.. outlines.Select(o => (IReadOnlyList<Vec2>)[.. o.Select(On)])];
    }

    private static IEnumerable<IReadOnlyList<Vec2>> Holes(IReadOnlyList<IReadOnlyList<Vec2>> figure) => figure.Skip(1);

    /// <summary>Between two neighbours of the hull the outline turns inward.</summary>
    private static IEnumerable<IReadOnlyList<Vec2>> Pockets(IReadOnlyList<Vec2> outline)
    {
        List<Vector2> places = [.. outline.Select(p => new Vector2((float)p.X, (float)p.Y))];
        var hull = Hull.Of(places).ToHashSet();
        var corners = Enumerable.Range(0, places.Count).Where(i => hull.Contains(places[i])).ToList();
        for (var n = 0; n < corners.Count; n++)
        {
            int from = corners[n],
                count = (corners[(n + 1) % corners.Count] - from + outline.Count) % outline.Count;
            if (count > 2)
                yield return [.. Enumerable.Range(from, count + 1).Select(i => outline[i % outline.Count])];
        }
    }
}
