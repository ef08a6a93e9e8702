namespace MintHarbor.Core.Geometry;

/// <summary>Directions of edges as a clock hand reads them. An edge has no arrowhead, so 4 and 10 o'clock are the same
/// edge; 0° is upright (12 o'clock), angles grow clockwise as seen on the sheet, an hour is 30°.</summary>
public static class ClockAngle
{
    /// <summary>Direction of the edge through two points, in degrees, in [0, 180). Coinciding points give NaN.</summary>
    public static double OfEdge(Vec2 a, Vec2 b)
    {
        var d = b - a;
        return d.Length == 0 ? double.NaN : Fold(Math.Atan2(d.X, -d.Y) * 180 / Math.PI);
    }

    /// <summary>The same edge's direction folded into [0, 180).</summary>
    public static double Fold(double degrees)
    {
        var r = degrees % 180;
        if (r < 0)
            r += 180;
        return r >= 180 ? 0 : r;
    }

    /// <summary>Difference of two edge directions, wrapped to (−90°, 90°].</summary>
    public static double Wrap(double degrees)
    {
        var r = Fold(degrees);
        return r > 90 ? r - 180 : r;
    }

    /// <summary>Clock hours (0 to 12, fractions allowed) to degrees of the edge.</summary>
    public static double FromHours(double hours) => Fold(hours * 30);

    /// <summary>Degrees to the earlier of the two hours that name the edge, in [0, 6).</summary>
    public static double ToHours(double degrees) => Fold(degrees) / 30;

    /// <summary>The one hour that an edge is named by: the upper of a steep edge, the right-hand one of a flat one; from 10½ over 12 to 4½.</summary>
    public static double Hour(double degrees) => (Canonical(degrees) / 30 + 12) % 12;

    /// <summary>The hour of an edge that is compared with another: that of the other moved on by what lies between them, so that 12 and 6,
    /// the same edge, never stand beside one another.</summary>
    public static double HourNear(double degrees, double other) => (Near(degrees, other) / 30 + 12) % 12;

    /// <summary>Degrees of an edge beside another's canonical ones: without a jump of 180° between neighbours.</summary>
    public static double Near(double degrees, double other) => Canonical(other) + Wrap(degrees - other);

    /// <summary>An edge's direction in (−45°, 135°]: uprights about 0, levels about 90.</summary>
    public static double Canonical(double degrees) => Fold(degrees) is var d && d > 135 ? d - 180 : d;

    /// <summary>An hour as it is said in the studio: to the nearest quarter, "1½", "2¾", "12".</summary>
    public static string Say(double hours)
    {
        var q = (int)Math.Round(hours * 4, MidpointRounding.AwayFromZero);
        q = ((q % 48) + 48) % 48;
        var whole = q / 4 == 0 ? 12 : q / 4;
        return whole
            + (q % 4) switch
            {
                1 => "¼",
                2 => "½",
                3 => "¾",
                _ => "",
            };
    }

    /// <summary>An hour to the nearest tenth, "12.2", where quarters are too coarse: a tenth is three degrees.</summary>
    public static string SayTenths(double hours)
    {
        var tenths = ((int)Math.Round(hours * 10, MidpointRounding.AwayFromZero) % 120 + 120) % 120;
        var whole = tenths / 10 == 0 ? 12 : tenths / 10;
        return tenths % 10 == 0 ? $"{whole}" : string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{whole}.{tenths % 10}");
    }

    /// <summary>Both hours of an edge, "1½ or 7½": the right-hand one first, as the drill's half dial shows them.</summary>
    public static string SayBoth(double degrees)
    {
        var h = ToHours(degrees);
        return degrees <= 90 ? $"{Say(h)} or {Say(h + 6)}" : $"{Say(h + 6)} or {Say(h)}";
    }
}
