namespace MintHarbor.Core.Geometry;

/// <summary>A point or a displacement in a plane: x to the right, y down, as on a sheet or a picture.
/// The unit is that of its context (millimetres on a sheet, pixels in a picture) and is named there.</summary>
public readonly record struct Vec2(double X, double Y)
{
    public static Vec2 operator +(Vec2 a, Vec2 b) => new(a.X + b.X, a.Y + b.Y);

    public static Vec2 operator -(Vec2 a, Vec2 b) => new(a.X - b.X, a.Y - b.Y);

    public static Vec2 operator *(Vec2 a, double k) => new(a.X * k, a.Y * k);

    public double Length => Math.Sqrt((X * X) + (Y * Y));

    public double Dot(Vec2 o) => (X * o.X) + (Y * o.Y);

    public double Cross(Vec2 o) => (X * o.Y) - (Y * o.X);

    /// <summary>One long, so many degrees clockwise from the right as y runs down.</summary>
    public static Vec2 Towards(double degrees) => Math.SinCos(degrees * Math.PI / 180) is var (sin, cos) ? new(cos, sin) : default;

    public static Vec2 Mid(Vec2 a, Vec2 b) => (a + b) * 0.5;

    public bool IsFinite => double.IsFinite(X) && double.IsFinite(Y);
}
