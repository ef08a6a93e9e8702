using Microsoft.AspNetCore.Html;
using MintHarbor.Core;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Rooms;

namespace MintHarbor.Web.Drawing;

/// <summary>The studio from above, to scale: stand, lamp, doors, sockets, and every place with what it looks along.</summary>
public static class RoomDrawing
{
    private const double Width = 620,
        MostHeight = 520;

    /// <param name="chosen">Place that is looked at.</param>
    /// <param name="facing">Degrees that tonight's pose is turned from the stand's front.</param>
    /// <param name="movable">Places can be dragged, and moved by the arrows.</param>
    public static HtmlString Draw(
        RoomPlan room,
        IReadOnlyList<PlannedSeat> seats,
        Func<string, string?> name,
        string? chosen = null,
        double facing = 0,
        bool movable = false
    )
    {
        var k = Math.Min(Width / room.Width, MostHeight / room.Depth);
        double w = room.Width * k,
            h = room.Depth * k;
        var s = new Svg().Add(
            $"<svg class=\"room-plan\" viewBox=\"-8 -8 {w + 16} {h + 44}\" {(movable ? "data-room-plan=\"\" " : "")}data-scale=\"{k}\" role=\"group\" aria-label=\"The room, {Say.Number(room.Width, 1)} by {Say.Number(room.Depth, 1)} metres, {seats.Count} places\">"
        );
        s.Add($"<rect class=\"room-walls\" x=\"0\" y=\"0\" width=\"{w}\" height=\"{h}\"/>");
        for (var m = 1; m < room.Width; m++)
            s.Line(m % 5 == 0 ? "fan-tick" : "fan-minor", m * k, 0, m * k, m % 5 == 0 ? 8 : 5);
        for (var m = 1; m < room.Depth; m++)
            s.Line(m % 5 == 0 ? "fan-tick" : "fan-minor", 0, m * k, m % 5 == 0 ? 8 : 5, m * k);
        foreach (var d in room.Doors)
            Door(s, room, d, k);
        foreach (var p in room.Sockets)
            s.Add(
                $"<rect class=\"room-socket\" x=\"{(p.X * k) - 4}\" y=\"{(p.Y * k) - 4}\" width=\"8\" height=\"8\"><title>socket</title></rect>"
            );
        if (room.Lamp is { } lamp)
        {
            var to = room.Stand - lamp;
            s.Line("room-light", lamp.X * k, lamp.Y * k, (lamp.X + (to.X * 0.8)) * k, (lamp.Y + (to.Y * 0.8)) * k);
            s.Add($"<circle class=\"dial-lamp\" cx=\"{lamp.X * k}\" cy=\"{lamp.Y * k}\" r=\"7\"><title>lamp</title></circle>");
        }
        Stand(s, room, facing, k);
        foreach (var seat in seats)
            Seat(s, room, seat, name(seat.Spot.Id), seat.Spot.Id == chosen, k, movable);
        // Scale: two metres.
        s.Line("strip-base", 0, h + 16, 2 * k, h + 16)
            .Line("fan-tick", 0.5, h + 11, 0.5, h + 21)
            .Line("fan-tick", k, h + 13, k, h + 19)
            .Line("fan-tick", 2 * k, h + 11, 2 * k, h + 21);
        s.Text("axis", (2 * k) + 8, h + 21, "2 m");
        return s.Add($"</svg>").Html();
    }

    private static void Door(Svg s, RoomPlan room, Door d, double k)
    {
        // The opening lies along the nearest wall; what is kept clear before it is dotted.
        var upright = Math.Min(d.At.X, room.Width - d.At.X) < Math.Min(d.At.Y, room.Depth - d.At.Y);
        double half = d.Width / 2 * k,
            x = d.At.X * k,
            y = d.At.Y * k;
        s.Add(
            $"<svg x=\"0\" y=\"0\" width=\"{room.Width * k}\" height=\"{room.Depth * k}\"><circle class=\"room-clear\" cx=\"{x}\" cy=\"{y}\" r=\"{((d.Width / 2) + SeatRules.Default.Exit) * k}\"/></svg>"
        );
        s.Line("room-door", upright ? x : x - half, upright ? y - half : y, upright ? x : x + half, upright ? y + half : y);
    }

    private static void Stand(Svg s, RoomPlan room, double facing, double k)
    {
        double x = room.Stand.X * k,
            y = room.Stand.Y * k,
            r = room.StandRadius * k;
        s.Add(
            $"<circle class=\"dial-stand\" cx=\"{x}\" cy=\"{y}\" r=\"{r}\"/><g transform=\"rotate({-(room.Front + facing)} {x} {y})\"><path class=\"dial-nose\" d=\"M{x - 7} {y + (r * 0.5)}L{x} {y + r + 8}L{x + 7} {y + (r * 0.5)}\"/></g>"
        );
    }

    private static void Seat(Svg s, RoomPlan room, PlannedSeat seat, string? who, bool chosen, double k, bool movable)
    {
        var spot = seat.Spot;
        double x = spot.At.X * k,
            y = spot.At.Y * k;
        var turn = Math.Atan2(room.Stand.Y - spot.At.Y, room.Stand.X - spot.At.X) * 180 / Math.PI;
        if (chosen)
            s.Line("dial-sight", x, y, room.Stand.X * k, room.Stand.Y * k);
        var trouble =
            seat.Checks.Any(c => !c.Holds && c.Hard) ? "outside"
            : seat.Checks.Any(c => !c.Holds) ? "near"
            : "holds";
        s.Add(
            $"<g class=\"room-seat {(who is null ? "free" : "taken")}\" data-spot=\"{spot.Id}\" data-x=\"{spot.At.X}\" data-y=\"{spot.At.Y}\" transform=\"translate({x} {y})\"{(movable ? " tabindex=\"0\" role=\"button\"" : " role=\"img\"")} aria-label=\"Place {spot.Id}, {(spot.Kind == SpotKind.Bench ? "bench" : "easel")}{(who is null ? "" : $", {System.Net.WebUtility.HtmlEncode(who)}")}: {seat.View}{(trouble == "holds" ? "" : ", " + System.Net.WebUtility.HtmlEncode(string.Join(" ", seat.Checks.Where(c => !c.Holds).Select(c => c.Says))))}\">"
        );
        // A bench is ridden towards the stand; an easel's board stands across the view.
        if (spot.Kind == SpotKind.Bench)
            s.Add($"<rect class=\"room-bench\" x=\"-15\" y=\"-8\" width=\"30\" height=\"16\" transform=\"rotate({turn})\"/>");
        else
            s.Add(
                $"<g transform=\"rotate({turn})\"><circle class=\"room-easel\" r=\"9\"/><line class=\"dial-seat\" x1=\"14\" y1=\"-9\" x2=\"14\" y2=\"11\"/></g>"
            );
        s.Text("room-number", 0, 5, spot.Id, "middle");
        if (who is not null)
            s.Text("room-who", 0, 27, who.Length > 12 ? who[..11] + "…" : who, "middle");
        if (trouble != "holds")
            s.Add($"<path class=\"sh-{trouble}\" d=\"M-5 -13L0 -22L5 -13Z\"/>");
        s.Add($"</g>");
    }
}
