using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Measuring;

/// <summary>An edge that somebody marked on the sheet by two clicks, the near end first. Millimetres.</summary>
public sealed record MarkedEdge(Vec2 Near, Vec2 Far)
{
    public double Length => (Far - Near).Length;

    /// <summary>Degrees from upright, clockwise as seen on the sheet; an edge has no arrowhead.</summary>
    public double Degrees => ClockAngle.OfEdge(Near, Far);

    /// <summary>Standard deviation of its direction, degrees, as two clicks give it.</summary>
    public double DegreesU => Math.Atan2(Math.Sqrt(2) * MarkedEdges.ClickMm, Math.Max(Length, 1)) * 180 / Math.PI;
}

/// <summary>Whether two edges that are parallel in space run as perspective has it.</summary>
public enum Convergence
{
    /// <summary>Nearer together where they are far: as it is seen.</summary>
    Away,

    /// <summary>Farther apart where they are far: reversed.</summary>
    Reversed,

    /// <summary>Alike within what clicks can tell.</summary>
    CantTell,
}

/// <summary>What two clicks on an edge say, by itself and against another.</summary>
public static class MarkedEdges
{
    /// <summary>Standard deviation of a click in each coordinate, mm (our default, not measured).</summary>
    public const double ClickMm = 0.6;

    /// <summary>Shortest edge that has a direction, mm.</summary>
    public const double Least = 4;

    private const double Ninety = 1.645;

    /// <param name="other">An edge to hold it against; null for none.</param>
    public static string Words(string name, MarkedEdge edge, string? otherName = null, MarkedEdge? other = null, bool inch = false)
    {
        var alone = $"{name}: {ClockAngle.SayTenths(ClockAngle.Hour(edge.Degrees))} o’clock, {Courses.PaperSize.Length(edge.Length, inch)}";
        if (other is null)
            return alone + ".";
        var turn = ClockAngle.Wrap(edge.Degrees - other.Degrees);
        var sure = Ninety * Math.Sqrt((edge.DegreesU * edge.DegreesU) + (other.DegreesU * other.DegreesU));
        var turned =
            Math.Abs(turn) <= sure
                ? "it runs as that one does"
                : $"turned {Say.Number(Math.Abs(turn), 1)}° {(turn > 0 ? "clockwise" : "anticlockwise")} of it";
        return $"{alone}; {Say.Number(edge.Length / other.Length, 2)} of {otherName}, {turned}.";
    }

    /// <summary>Edges that are parallel in space come together away from the viewer, never towards (common practice, no source).</summary>
    public static Convergence Converge(MarkedEdge a, MarkedEdge b)
    {
        var turn = ClockAngle.Wrap(a.Degrees - b.Degrees);
        if (Math.Abs(turn) <= Ninety * Math.Sqrt((a.DegreesU * a.DegreesU) + (b.DegreesU * b.DegreesU)))
            return Convergence.CantTell;
        // Marked from unlike ends they say nothing.
        Vec2 first = (a.Far - a.Near) * (1 / a.Length),
            second = (b.Far - b.Near) * (1 / b.Length),
            way = first + second;
        if (!(way.Length > 0.5))
            return Convergence.CantTell;
        // Where both lines would meet: beyond the far ends, or before the near ones.
        var meet = (a.Near + (first * ((b.Near - a.Near).Cross(second) / first.Cross(second)))).Dot(way);
        double[] near = [a.Near.Dot(way), b.Near.Dot(way)],
            far = [a.Far.Dot(way), b.Far.Dot(way)];
        return meet > far.Max() ? Convergence.Away
            : meet < near.Min() ? Convergence.Reversed
            : Convergence.CantTell;
    }

    public static string Words(string one, string other, Convergence convergence) =>
        convergence switch
        {
            Convergence.Away => $"{one} and {other} come together as they go away: as it is seen.",
            Convergence.Reversed => $"{one} and {other} part as they go away: reversed, the far end must be the narrower.",
            _ => $"{one} and {other} run alike within what two clicks can tell.",
        };
}

/// <summary>A shape by its moments.</summary>
/// <param name="Area">Square millimetres.</param>
/// <param name="Long">Longer axis of the ellipse with the same moments, mm; <paramref name="Across"/> the shorter.</param>
/// <param name="Degrees">Of the longer axis, from upright, clockwise; no arrowhead.</param>
public sealed record ShapeMeasures(double Area, Vec2 Middle, double Long, double Across, double Degrees)
{
    /// <summary>Below this share of the longer axis the shape has a direction.</summary>
    private const double Roundest = 0.9;

    public bool HasDirection => Across < Roundest * Long;

    /// <summary>Green's theorem over the outline's edges.</summary>
    /// <exception cref="InputException">No outline.</exception>
    public static ShapeMeasures Of(IReadOnlyList<Vec2> outline)
    {
        double area = 0,
            x = 0,
            y = 0,
            xx = 0,
            yy = 0,
            xy = 0;
        for (var i = 0; i < outline.Count; i++)
        {
            Vec2 p = outline[i],
                q = outline[(i + 1) % outline.Count];
            var cross = p.Cross(q);
            area += cross / 2;
            x += (p.X + q.X) * cross / 6;
            y += (p.Y + q.Y) * cross / 6;
            xx += ((p.X * p.X) + (p.X * q.X) + (q.X * q.X)) * cross / 12;
            yy += ((p.Y * p.Y) + (p.Y * q.Y) + (q.Y * q.Y)) * cross / 12;
            xy += ((p.X * q.Y) + (2 * p.X * p.Y) + (2 * q.X * q.Y) + (q.X * p.Y)) * cross / 24;
        }
        if (outline.Count < 3 || Math.Abs(area) < 1)
            throw new InputException("an outline without an area", "outline", "3 places or more, not in a line");
        Vec2 middle = new(x / area, y / area);
        double a = (xx / area) - (middle.X * middle.X),
            b = (yy / area) - (middle.Y * middle.Y),
            c = (xy / area) - (middle.X * middle.Y);
        double mean = (a + b) / 2,
            off = Math.Sqrt((((a - b) / 2) * ((a - b) / 2)) + (c * c));
        // The longer axis from the x axis towards the foot; from upright it is a quarter turn on.
        var degrees = (0.5 * Math.Atan2(2 * c, a - b) * 180 / Math.PI) + 90;
        return new(
            Math.Abs(area),
            middle,
            4 * Math.Sqrt(mean + off),
            4 * Math.Sqrt(Math.Max(0, mean - off)),
            ((degrees % 180) + 180) % 180
        );
    }

    /// <summary>Against a shape of the reference, or another: larger or smaller, turned which way.</summary>
    public string Against(string name, string otherName, ShapeMeasures other)
    {
        var share = (Area / other.Area) - 1;
        var size =
            Math.Abs(share) < 0.05 ? "as large as" : $"{Say.Number(100 * Math.Abs(share))} % {(share > 0 ? "larger" : "smaller")} than";
        var turn = ClockAngle.Wrap(Degrees - other.Degrees);
        var turned =
            !HasDirection || !other.HasDirection ? ""
            : Math.Abs(turn) < 3 ? ", and runs as it does"
            : $", turned {Say.Number(Math.Abs(turn))}° {(turn > 0 ? "clockwise" : "anticlockwise")} of it";
        return $"{name} is {size} {otherName}{turned}.";
    }

    /// <summary>As an ellipse: its axes, how it tilts, and from what height a circle looks so.</summary>
    public string AsEllipse(string name, bool inch)
    {
        var tilt = HasDirection ? $"its long axis {ClockAngle.SayTenths(ClockAngle.Hour(Degrees))} o’clock" : "round";
        var from = Say.Number(Math.Asin(Math.Clamp(Across / Long, 0, 1)) * 180 / Math.PI);
        return $"{name}: {Courses.PaperSize.Length(Long, inch)} by {Courses.PaperSize.Length(Across, inch)}, {tilt}; a circle seen {from}° from its edge.";
    }
}
