using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Rooms;

/// <summary>How wide the way is from each place to a door, past whoever draws there and round the stand: the widest ways from all doors at once, on a
/// grid of the room.</summary>
internal sealed class WayOut
{
    /// <summary>Metres: cells of the grid, how far from the middle of a place its drawer, board or bench reaches, and how far off it one has stepped out.</summary>
    private const double Cell = 0.15,
        Reach = 0.35,
        SteppedOut = 0.5;

    /// <summary>As wide as anything, where a room has no door drawn in.</summary>
    private const double Open = 99;

    private readonly RoomPlan room;
    private readonly int nx,
        ny;
    private readonly double[] widest;

    public WayOut(RoomPlan room, IReadOnlyList<Spot> taken)
    {
        this.room = room;
        (nx, ny) = ((int)Math.Ceiling(room.Width / Cell), (int)Math.Ceiling(room.Depth / Cell));
        widest = new double[nx * ny];
        var waiting = new PriorityQueue<int, double>();
        foreach (var door in room.Doors)
            Reached(At(door.At), door.Width);
        while (waiting.TryDequeue(out var at, out var width))
        {
            if (-width < widest[at])
                continue;
            for (var k = 0; k < 9; k++)
            {
                int x = (at % nx) + (k % 3) - 1,
                    y = (at / nx) + (k / 3) - 1;
                if (k != 4 && (uint)x < nx && (uint)y < ny && widest[x + (nx * y)] < widest[at])
                    Reached(x + (nx * y), Math.Min(widest[at], 2 * Clear(Place(x, y))));
            }
        }

        void Reached(int at, double width)
        {
            if (width <= widest[at])
                return;
            widest[at] = width;
            waiting.Enqueue(at, -width);
        }

        double Clear(Vec2 p)
        {
            var clear = (p - room.Stand).Length - room.StandRadius;
            foreach (var o in taken)
                clear = Math.Min(clear, (p - o.At).Length - Reach);
            return Math.Max(0, clear);
        }
    }

    /// <summary>Metres of the narrowest spot of the widest way from a place to a door.</summary>
    public double From(Spot spot)
    {
        if (room.Doors.Count == 0)
            return Open;
        var best = 0.0;
        var far = (int)Math.Ceiling((Reach + SteppedOut) / Cell);
        var (cx, cy) = (At(spot.At) % nx, At(spot.At) / nx);
        for (var y = Math.Max(0, cy - far); y <= Math.Min(ny - 1, cy + far); y++)
        for (var x = Math.Max(0, cx - far); x <= Math.Min(nx - 1, cx + far); x++)
        {
            if ((Place(x, y) - spot.At).Length <= Reach + SteppedOut)
                best = Math.Max(best, widest[x + (nx * y)]);
        }
        return Math.Round(best, 2);
    }

    private int At(Vec2 p) => Math.Clamp((int)(p.X / Cell), 0, nx - 1) + (nx * Math.Clamp((int)(p.Y / Cell), 0, ny - 1));

    private static Vec2 Place(int x, int y) => new((x + 0.5) * Cell, (y + 0.5) * Cell);
}
