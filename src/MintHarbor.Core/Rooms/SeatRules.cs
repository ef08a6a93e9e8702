using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Rooms;

/// <summary>One check of a place, with the value found and what it is held against.</summary>
/// <param name="Hard">A place that breaks it can't be used; else it is only said.</param>
public sealed record SeatCheck(string Id, bool Holds, bool Hard, double Value, double Limit, string Unit, string Says);

/// <summary>What makes a place one to draw from. Lengths in metres, angles in degrees; editable data.</summary>
/// <param name="Nearest">Least distance as heights of the figure.</param>
/// <param name="Near">From here on the figure is taken in at a glance.</param>
/// <param name="Cone">Widest angle that the whole figure may take up.</param>
/// <param name="Way">Least width of the way from a place to a door.</param>
/// <param name="Hidden">Largest share of the figure, per cent, that another's board may hide.</param>
public sealed record SeatRules(
    string Source,
    double Nearest,
    double Near,
    double Far,
    double Cone,
    double Hidden,
    double Apart,
    double Exit,
    double Wall,
    double LampClear,
    double LowEye,
    double SocketReach,
    double Way
)
{
    /// <summary>Heights that a place may be off: places are set to the centimetre.</summary>
    private const double Slack = 0.02;

    /// <summary>Metres, of a figure that stands.</summary>
    public const double StandingHeight = 1.75;

    public static SeatRules Default { get; } =
        new(
            "from memory: two to three times the figure's height takes it in at a glance; studio habit for the rest; local fire rules come first",
            1.5,
            2,
            3.2,
            40,
            10,
            0.85,
            1.2,
            0.35,
            1,
            1.25,
            2,
            0.8
        );

    /// <summary>Every check of one place, as somebody of a hand would use it.</summary>
    /// <param name="others">The other places in use, with the hands that draw there.</param>
    /// <param name="figureHeight">Metres from the stand to the top of the pose.</param>
    public IReadOnlyList<SeatCheck> Of(
        RoomPlan room,
        Spot spot,
        Hand hand,
        IReadOnlyList<(Spot Spot, Hand Hand)> others,
        double figureHeight
    )
    {
        var distance = (spot.At - room.Stand).Length;
        // The same place serves standing poses too: a low one doesn't move it away.
        var heights = distance / Math.Max(StandingHeight, figureHeight);
        var checks = new List<SeatCheck>
        {
            new(
                "distance",
                heights >= Near - Slack && heights <= Far + Slack,
                heights < Nearest - 1e-9,
                Math.Round(heights, 3),
                heights < Near ? Near : Far,
                "heights",
                heights < Near - Slack
                        ? $"{Say.Number(heights, 1)} times the figure's height away; {Say.Number(Near, 1)} takes it in at a glance."
                    : heights > Far + Slack
                        ? $"{Say.Number(heights, 1)} times the figure's height away; past {Say.Number(Far, 1)} small forms are lost."
                    : $"{Say.Number(heights, 1)} times the figure's height away."
            ),
        };
        var cone = Angle(room, spot, figureHeight, distance);
        checks.Add(
            new(
                "cone",
                cone <= Cone + 1e-9,
                false,
                Math.Round(cone, 2),
                Cone,
                "deg",
                cone <= Cone
                    ? $"The whole figure within {Say.Number(cone)}°."
                    : $"The figure takes up {Say.Number(cone)}°; without turning the head {Say.Number(Cone)}° can be seen."
            )
        );
        var (hidden, by) = Hides(room, spot, others, figureHeight);
        checks.Add(
            new(
                "sight",
                hidden <= Hidden + 1e-9,
                true,
                Math.Round(hidden, 1),
                Hidden,
                "%",
                by is null ? "Nobody stands in the line of sight." : $"Whoever draws at {by} hides {Say.Number(hidden)} % of the figure."
            )
        );
        checks.Add(HandCheck(room, spot, hand, others));
        var nearest = others
            .Where(o => o.Spot != spot)
            .Select(o => (o.Spot.Id, Distance: (o.Spot.At - spot.At).Length))
            .DefaultIfEmpty(("", 99))
            .MinBy(o => o.Item2);
        checks.Add(
            new(
                "apart",
                nearest.Item2 >= Apart - 1e-9,
                true,
                Math.Round(Math.Min(99, nearest.Item2), 2),
                Apart,
                "m",
                nearest.Item2 >= Apart
                    ? $"Room for the elbow: {Say.Number(Math.Min(9, nearest.Item2), 1)} m to the next."
                    : $"Only {Say.Number(nearest.Item2, 2)} m to {nearest.Item1}."
            )
        );
        var exit = room.Doors.Select(d => (d.At - spot.At).Length - (d.Width / 2)).DefaultIfEmpty(99).Min();
        checks.Add(
            new(
                "exit",
                exit >= Exit - 1e-9,
                true,
                Math.Round(Math.Min(99, exit), 2),
                Exit,
                "m",
                exit >= Exit
                    ? "The way out is clear."
                    : $"{Say.Number(Math.Max(0, exit), 1)} m from a door; {Say.Number(Exit, 1)} is kept clear."
            )
        );
        var wall = Math.Min(Math.Min(spot.At.X, room.Width - spot.At.X), Math.Min(spot.At.Y, room.Depth - spot.At.Y));
        checks.Add(
            new(
                "wall",
                wall >= Wall - 1e-9,
                true,
                Math.Round(wall, 2),
                Wall,
                "m",
                wall >= Wall ? "Room to step back." : $"{Say.Number(Math.Max(0, wall), 2)} m from the wall."
            )
        );
        if (room.Lamp is { } lamp)
        {
            var off = (lamp - spot.At).Length;
            checks.Add(
                new(
                    "lamp",
                    off >= LampClear - 1e-9,
                    true,
                    Math.Round(off, 2),
                    LampClear,
                    "m",
                    off >= LampClear ? "Clear of the lamp." : $"{Say.Number(off, 1)} m from the lamp: it is hot."
                )
            );
        }
        return checks;
    }

    /// <summary>The walk from each of some places to a door, past the places in use.</summary>
    public IReadOnlyList<SeatCheck> Ways(RoomPlan room, IEnumerable<Spot> spots, IReadOnlyList<Spot> taken)
    {
        var ways = new WayOut(room, taken);
        return [.. spots.Select(s => WayOf(ways.From(s)))];
    }

    private SeatCheck WayOf(double wide) =>
        new(
            "way",
            wide >= Way - 1e-9,
            false,
            wide,
            Way,
            "m",
            wide >= Way ? "The walk to the door is clear."
                : wide < 0.05 ? "No way to the door is left."
                : $"The walk to the door narrows to {Say.Number(wide, 1)} m; {Say.Number(Way, 1)} is kept clear."
        );

    /// <summary>Degrees between the lines from the eye to the figure's foot and to its top.</summary>
    private static double Angle(RoomPlan room, Spot spot, double height, double distance)
    {
        var low = Math.Atan2(room.StandHeight - spot.EyeHeight, distance);
        var high = Math.Atan2(room.StandHeight + height - spot.EyeHeight, distance);
        return (high - low) * 180 / Math.PI;
    }

    /// <summary>How much of the figure, in per cent of its height, the worst board or head in the way hides, and whose that is. A board 0.7 m
    /// wide, or whoever draws at it, hides what lies under the line from the eye over the top, where it stands across the middle of the view; however near it
    /// stands, for what is near hides most.</summary>
    public static (double Hidden, string? By) Hides(
        RoomPlan room,
        Spot spot,
        IReadOnlyList<(Spot Spot, Hand Hand)> others,
        double figureHeight
    )
    {
        const double halfBoard = 0.35,
            halfShoulders = 0.22,
            overEye = 0.12,
            halfFigure = 0.25;
        var line = room.Stand - spot.At;
        var distance = line.Length;
        (double Hidden, string? By) worst = (0, null);
        if (distance < 1e-6)
            return worst;
        var along = line * (1 / distance);
        foreach (var (other, hand) in others.Where(o => o.Spot != spot))
        {
            Stands(room.Board(other, hand), halfBoard, other.BoardTop, other.Id);
            Stands(other.At, halfShoulders, other.EyeHeight + overEye, other.Id);
        }
        return worst;

        void Stands(Vec2 at, double half, double top, string id)
        {
            var offset = at - spot.At;
            var far = (offset.X * along.X) + (offset.Y * along.Y);
            if (far < 0.15 || far > distance - 0.2)
                return;
            var side = Math.Abs((offset.X * along.Y) - (offset.Y * along.X));
            // The figure narrows towards the eye.
            if (side >= half + (halfFigure * far / distance))
                return;
            var cut = spot.EyeHeight + ((top - spot.EyeHeight) * distance / far);
            var hidden = 100 * Math.Clamp((cut - room.StandHeight) / figureHeight, 0, 1);
            if (hidden > worst.Hidden)
                worst = (hidden, id);
        }
    }

    /// <summary>The model on the side of the board away from the drawing hand: the board on the hand's side must have its place.</summary>
    private SeatCheck HandCheck(RoomPlan room, Spot spot, Hand hand, IReadOnlyList<(Spot Spot, Hand Hand)> others)
    {
        var board = room.Board(spot, hand);
        var free = others
            .Where(o => o.Spot != spot)
            .Select(o => (board - o.Spot.At).Length)
            .Append(board.X + 0.2)
            .Append(room.Width - board.X + 0.2)
            .Append(board.Y + 0.2)
            .Append(room.Depth - board.Y + 0.2)
            .Min();
        var side = hand == Hand.Right ? "left" : "right";
        return new(
            "hand",
            free >= 0.5 - 1e-9,
            false,
            Math.Round(free, 2),
            0.5,
            "m",
            free >= 0.5
                ? $"Board on the drawing hand's side, the model seen to its {side}."
                : $"No room for the board on the {(hand == Hand.Right ? "right" : "left")}: the arm would hide the model."
        );
    }
}
