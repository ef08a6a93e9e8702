using System.Text.Json;
using System.Text.Json.Nodes;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Rooms;

namespace MintHarbor.Cli;

/// <summary>Seats a class in a room: who sits where, what each place sees, how that fits the sheet, and what each place was checked for.</summary>
internal static class SeatsVerb
{
    private sealed record WantedDoor(double[]? At, double? Width);

    private sealed record WantedSpot(string? Id, double[]? At, string? Kind);

    private sealed record WantedRoom(
        double? Width,
        double? Depth,
        double[]? Stand,
        double? Front,
        double? StandHeight,
        double? StandRadius,
        double[]? Lamp,
        IReadOnlyList<WantedDoor>? Doors,
        IReadOnlyList<double[]>? Sockets,
        IReadOnlyList<WantedSpot>? Spots,
        int? Most
    );

    private sealed record WantedStudent(string? Id, string? Hand, IReadOnlyList<string>? Needs, Dictionary<string, int>? Had, string? Pin);

    private sealed record Wanted(
        WantedRoom? Room,
        IReadOnlyList<WantedStudent>? Students,
        string? Pose,
        string? Body,
        bool? Garment,
        bool? Minors,
        double? Facing,
        string? Paper,
        double? Margin
    );

    public static object Run(JsonObject request)
    {
        var w = request.Deserialize<Wanted>(Wire.Json)!;
        var room = Room(w.Room);
        var sitters = (w.Students ?? [])
            .Select(
                (s, n) =>
                    new Sitter(s.Id ?? $"{n + 1}", Hand(s.Hand, $"students[{n}].hand"))
                    {
                        Needs = s.Needs ?? [],
                        Had = s.Had ?? [],
                        Pin = s.Pin,
                    }
            )
            .ToList();
        if (w.Facing is { } f && (!double.IsFinite(f) || Math.Abs(f) > 360))
            throw new InputException("the pose's facing is not an angle", "facing", "-360 to 360 degrees");
        var paper = PaperSize.Parse(w.Paper ?? "457.2x609.6");
        var model = w.Pose is { } pose
            ? new StudioFigure().Model(
                w.Body ?? "male",
                FigureCatalogue.Pose(pose),
                Drapery.For(w.Minors ?? false, w.Garment ?? false),
                StudioFigure.Coarse
            )
            : null;
        var seated = SeatPlanner.Seat(room, sitters, model, w.Facing ?? 0, paper.WidthMm, paper.HeightMm, w.Margin ?? 20);
        return new
        {
            seats = seated.Seats.Select(s => new
            {
                s.Spot.Id,
                at = new[] { s.Spot.At.X, s.Spot.At.Y },
                kind = s.Spot.Kind,
                s.Student,
                azimuth = R(s.Azimuth),
                distance = R(s.Distance),
                eyeHeight = R(s.EyeHeight),
                s.View,
                pageFit = s.Fit is { } p
                    ? new
                    {
                        p.Landscape,
                        headMm = R(p.HeadMm),
                        crownMm = R(p.CrownMm),
                        soleMm = R(p.SoleMm),
                        sideMm = R(p.SideMm),
                        marginMm = R(p.MarginMm),
                        p.Because,
                    }
                    : null,
                foreshortening = s.Glance?.Limbs.ToDictionary(l => l.Id, l => Math.Round(l.Ratio, 3)),
                checks = s.Checks,
            }),
            assignment = new
            {
                pairs = seated.Seats.Where(s => s.Student is not null).ToDictionary(s => s.Student!, s => s.Spot.Id),
                cost = seated.Cost,
                unmet = seated.Unmet,
            },
            cannot = seated.Cannot,
        };
    }

    private static RoomPlan Room(WantedRoom? r)
    {
        if (r is null)
            return RoomPlan.Usual;
        var width = r.Width ?? throw new InputException("no width", "room.width", "3 to 60 metres");
        var depth = r.Depth ?? throw new InputException("no depth", "room.depth", "3 to 60 metres");
        return new RoomPlan(width, depth, Place(r.Stand, "room.stand") ?? new(width / 2, depth * 0.4), r.Front ?? 0, r.StandHeight ?? 0.4)
        {
            StandRadius = r.StandRadius ?? 0.8,
            Lamp = Place(r.Lamp, "room.lamp"),
            Doors =
            [
                .. (r.Doors ?? []).Select(
                    (d, n) =>
                        new Door(
                            Place(d.At, $"room.doors[{n}].at")
                                ?? throw new InputException("a door without a place", $"room.doors[{n}].at", "[x, y] in metres"),
                            d.Width ?? 0.9
                        )
                ),
            ],
            Sockets = [.. (r.Sockets ?? []).Select((s, n) => Place(s, $"room.sockets[{n}]")!.Value)],
            Spots =
            [
                .. (r.Spots ?? []).Select(
                    (s, n) =>
                        new Spot(
                            s.Id ?? $"{n + 1}",
                            Place(s.At, $"room.spots[{n}].at")
                                ?? throw new InputException("a place without a position", $"room.spots[{n}].at", "[x, y] in metres"),
                            Kind(s.Kind, $"room.spots[{n}].kind")
                        )
                ),
            ],
            Most = r.Most ?? 0,
        };
    }

    private static Vec2? Place(double[]? at, string field) =>
        at is null ? null
        : at is [var x, var y] && double.IsFinite(x) && double.IsFinite(y) ? new(x, y)
        : throw new InputException("a place is two numbers", field, "[x, y] in metres");

    private static Hand Hand(string? hand, string field) =>
        hand switch
        {
            null or "right" => Core.Rooms.Hand.Right,
            "left" => Core.Rooms.Hand.Left,
            _ => throw new InputException($"unknown hand '{hand}'", field, "right | left"),
        };

    private static SpotKind Kind(string? kind, string field) =>
        kind switch
        {
            null or "easel" => SpotKind.Easel,
            "bench" => SpotKind.Bench,
            _ => throw new InputException($"unknown kind '{kind}'", field, "easel | bench"),
        };

    private static double R(double v) => Math.Round(v, 2);
}
