using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Rooms;

/// <summary>Lays out places round a stand: benches in a near ring, easels behind them in the gaps, as many as keep every hard rule.</summary>
public static class RoomLayout
{
    /// <summary>Rings as heights of the figure, what stands in them, and how far apart along the ring, metres.</summary>
    private static readonly (double Heights, SpotKind Kind, double Step)[] Rings =
    [
        (2.0, SpotKind.Bench, 1.0),
        (2.65, SpotKind.Easel, 1.05),
        (3.2, SpotKind.Easel, 1.05),
    ];

    /// <param name="wanted">Places wanted; fewer come back where no more fit.</param>
    /// <param name="figureHeight">Metres; 1.75 for one that stands.</param>
    /// <param name="low">How many benches at least, for those who must sit.</param>
    public static IReadOnlyList<Spot> Lay(RoomPlan room, int wanted, double figureHeight = 1.75, int low = 0, SeatRules? rules = null)
    {
        rules ??= SeatRules.Default;
        var placed = new List<Spot>();
        if (room.Most > 0)
            wanted = Math.Min(wanted, room.Most);
        foreach (var (heights, kind, step) in Rings)
        {
            var radius = heights * figureHeight;
            var turn = step / radius * 180 / Math.PI;
            // From the front outwards to both sides; a bench ring that sees only backs is worth less than an easel in front.
            for (var n = 0; n * turn <= 180; n++)
            {
                foreach (var side in n == 0 ? [1.0] : new[] { 1.0, -1.0 })
                {
                    if (placed.Count >= wanted)
                        return Named(room, placed);
                    if (kind == SpotKind.Bench && placed.Count >= Math.Max(low, (wanted + 1) / 2))
                        continue;
                    var spot = new Spot(
                        $"{placed.Count + 1}",
                        Round(room.At(side * ((n * turn) + (kind == SpotKind.Easel ? turn / 2 : 0)), radius)),
                        kind
                    );
                    if (Fits(room, spot, placed, figureHeight, rules))
                        placed.Add(spot);
                }
            }
        }
        return Named(room, placed);
    }

    /// <summary>Whether a place keeps the hard rules, and leaves those of the others kept; lefthanders move their own boards.</summary>
    private static bool Fits(RoomPlan room, Spot spot, List<Spot> placed, double figureHeight, SeatRules rules)
    {
        if (spot.At.X < 0 || spot.At.Y < 0 || spot.At.X > room.Width || spot.At.Y > room.Depth)
            return false;
        List<(Spot, Hand)> all = [.. placed.Append(spot).Select(p => (p, Hand.Right))];
        return rules.Of(room, spot, Hand.Right, all, figureHeight).All(c => c.Holds || !c.Hard)
            && placed.All(p => SeatRules.Hides(room, p, all, figureHeight).Hidden <= rules.Hidden);
    }

    private static Vec2 Round(Vec2 p) => new(Math.Round(p.X, 2), Math.Round(p.Y, 2));

    /// <summary>Numbered from the figure's right round to its left, as they are counted from the door of the stand.</summary>
    private static IReadOnlyList<Spot> Named(RoomPlan room, List<Spot> placed) =>
        [.. placed.OrderBy(p => room.Azimuth(p.At)).ThenBy(p => (p.At - room.Stand).Length).Select((p, n) => p with { Id = $"{n + 1}" })];
}
