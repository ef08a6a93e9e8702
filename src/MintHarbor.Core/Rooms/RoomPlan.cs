using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Rooms;

/// <summary>Where the light falls from, as somebody sees it from their seat.</summary>
public enum LampSide
{
    Unknown,
    Left,
    Right,
}

public enum SpotKind
{
    Easel,
    Bench,
}

public enum Hand
{
    Right,
    Left,
}

/// <summary>A place to draw from, in metres of the room.</summary>
public sealed record Spot(string Id, Vec2 At, SpotKind Kind)
{
    /// <summary>Metres from the floor to the eye: standing at an easel, or astride a bench. From memory, rounded.</summary>
    public double EyeHeight => Kind == SpotKind.Easel ? 1.55 : 1.1;

    /// <summary>Metres from the floor to the top edge of the board.</summary>
    public double BoardTop => Kind == SpotKind.Easel ? 1.75 : 1.15;
}

/// <param name="At">Middle of the opening.</param>
/// <param name="Width">Of the opening, metres.</param>
public sealed record Door(Vec2 At, double Width = 0.9);

/// <summary>A studio to scale: metres, origin at the top left of the plan, x right, y down.</summary>
/// <param name="Front">Degrees that the stand's front is turned from facing down the plan, positive to the figure's left.</param>
/// <param name="StandHeight">Metres that the stand lifts the figure off the floor.</param>
/// <param name="Spots">Where easels and benches are put; none lets them be laid out.</param>
public sealed record RoomPlan(double Width, double Depth, Vec2 Stand, double Front = 0, double StandHeight = 0.4)
{
    public double StandRadius { get; init; } = 0.8;
    public Vec2? Lamp { get; init; }
    public IReadOnlyList<Door> Doors { get; init; } = [];
    public IReadOnlyList<Vec2> Sockets { get; init; } = [];
    public IReadOnlyList<Spot> Spots { get; init; } = [];

    /// <summary>How many may be in the room by its own rules; 0 where nobody has said.</summary>
    public int Most { get; init; }

    /// <summary>A room that nobody has measured yet.</summary>
    public static RoomPlan Usual { get; } =
        new(11, 9, new(5.5, 3))
        {
            Lamp = new(3.6, 1),
            Doors = [new(new(0, 7.4))],
            Sockets = [new(11, 3), new(11, 7), new(3, 9)],
        };

    /// <exception cref="InputException">A length, place or count that can't be.</exception>
    public RoomPlan Checked(string field = "room")
    {
        void Fail(string what, string where, string accepted) => throw new InputException(what, $"{field}.{where}", accepted);
        if (Width is not (>= 3 and <= 60) || Depth is not (>= 3 and <= 60))
            Fail($"a room of {Say.Number(Width, 1)} × {Say.Number(Depth, 1)} m", "width", "3 to 60 metres a side");
        bool Inside(Vec2 p) =>
            double.IsFinite(p.X) && double.IsFinite(p.Y) && p.X >= -0.01 && p.Y >= -0.01 && p.X <= Width + 0.01 && p.Y <= Depth + 0.01;
        if (!Inside(Stand))
            Fail("the stand is outside the room", "stand", "a place inside the room, metres");
        if (!double.IsFinite(Front))
            Fail("the front of the stand is not an angle", "front", "degrees");
        if (StandHeight is not (>= 0 and <= 1.5))
            Fail($"a stand {StandHeight} m high", "standHeight", "0 to 1.5 metres");
        if (StandRadius is not (>= 0.3 and <= 3))
            Fail($"a stand {StandRadius} m in half width", "standRadius", "0.3 to 3 metres");
        if (Lamp is { } l && !Inside(l))
            Fail("the lamp is outside the room", "lamp", "a place inside the room, metres");
        if (Doors.Any(d => !Inside(d.At) || d.Width is not (> 0 and <= 6)))
            Fail("a door is outside the room", "doors", "places on the walls, width up to 6 metres");
        if (Sockets.Any(s => !Inside(s)))
            Fail("a socket is outside the room", "sockets", "places inside the room, metres");
        if (Spots.Count > 80)
            Fail($"{Spots.Count} places", "spots", "80 at most");
        if (Spots.Any(s => !Inside(s.At)))
            Fail($"place {Spots.First(s => !Inside(s.At)).Id} is outside the room", "spots", "places inside the room, metres");
        if (Spots.GroupBy(s => s.Id).FirstOrDefault(g => g.Count() > 1) is { } twice)
            Fail($"two places are called '{twice.Key}'", "spots", "a name for each place");
        if (Most is < 0 or > 80)
            Fail($"{Most} people", "most", "0 to 80");
        return this;
    }

    /// <summary>Nearer to the line of sight than this, the lamp is on neither side: sine of the angle.</summary>
    private const double LampAside = 0.35;

    /// <summary>On which side the lamp stands for whoever looks at the stand.</summary>
    /// <param name="azimuth">Of the eye, degrees round the stand from its front.</param>
    public LampSide LampFrom(double azimuth) =>
        Lamp is not { } lamp
            ? LampSide.Unknown
            : Math.Sin((Azimuth(lamp) - azimuth) * Math.PI / 180) switch
            {
                > LampAside => LampSide.Right,
                < -LampAside => LampSide.Left,
                _ => LampSide.Unknown,
            };

    /// <summary>Degrees round the stand, 0 in front of it, positive to the figure's left.</summary>
    public double Azimuth(Vec2 at) => Math.IEEERemainder((Math.Atan2(at.X - Stand.X, at.Y - Stand.Y) * 180 / Math.PI) - Front, 360);

    /// <summary>A place as it sees a pose that is turned from the stand's front: the eye over the stand's floor, never nearer than a metre.</summary>
    public Seat Seen(Spot spot, double facing) =>
        new(
            Math.IEEERemainder(Azimuth(spot.At) - facing, 360),
            Math.Max(1, (spot.At - Stand).Length),
            Math.Clamp(spot.EyeHeight - StandHeight, 0.2, 3)
        );

    /// <summary>The place at a distance and azimuth from the stand.</summary>
    public Vec2 At(double azimuth, double distance)
    {
        var (sin, cos) = Math.SinCos((azimuth + Front) * Math.PI / 180);
        return new(Stand.X + (distance * sin), Stand.Y + (distance * cos));
    }

    /// <summary>Where the middle of the board stands: half a metre before the drawer, to the side of the drawing hand, so that the
    /// model is seen past its other edge and the arm hides nothing.</summary>
    public Vec2 Board(Spot spot, Hand hand)
    {
        var look = (Stand - spot.At).Length is > 1e-6 and var d ? (Stand - spot.At) * (1 / d) : new Vec2(0, -1);
        // y goes down, so the right hand is on (−y, x).
        var right = new Vec2(-look.Y, look.X);
        return spot.At + (look * 0.45) + (right * (hand == Hand.Right ? 0.4 : -0.4));
    }
}
