using System.Numerics;

namespace MintHarbor.Core.Objects;

/// <summary>A place or a displacement in space: y up, front +z; the unit is that of its context. Double, so that known edges are exact.</summary>
public readonly record struct Point3(double X, double Y, double Z)
{
    public static readonly Point3 UnitX = new(1, 0, 0);
    public static readonly Point3 UnitY = new(0, 1, 0);
    public static readonly Point3 UnitZ = new(0, 0, 1);

    public static Point3 operator +(Point3 a, Point3 b) => new(a.X + b.X, a.Y + b.Y, a.Z + b.Z);

    public static Point3 operator -(Point3 a, Point3 b) => new(a.X - b.X, a.Y - b.Y, a.Z - b.Z);

    public static Point3 operator -(Point3 a) => new(-a.X, -a.Y, -a.Z);

    public static Point3 operator *(Point3 a, double k) => new(a.X * k, a.Y * k, a.Z * k);

    public double Dot(Point3 b) => (X * b.X) + (Y * b.Y) + (Z * b.Z);

    public Point3 Cross(Point3 b) => new((Y * b.Z) - (Z * b.Y), (Z * b.X) - (X * b.Z), (X * b.Y) - (Y * b.X));

    public double Length => Math.Sqrt(Dot(this));

    /// <summary>The same direction, one long; nothing stays nothing.</summary>
    public Point3 Unit => Length > 1e-12 ? this * (1 / Length) : this;

    public static Point3 Lerp(Point3 a, Point3 b, double t) => a + ((b - a) * t);

    internal static Point3 Of(Vector3 v) => new(v.X, v.Y, v.Z);

    /// <summary>Three numbers as the tables write them; nothing is the origin.</summary>
    internal static Point3 Of(IReadOnlyList<double>? xyz) => xyz is null ? default : new(xyz[0], xyz[1], xyz[2]);

    internal Vector3 Single => new((float)X, (float)Y, (float)Z);
}

/// <summary>A turn and a shift: where a part lies on its thing, or a thing in the arrangement.</summary>
internal readonly record struct Frame(Point3 X, Point3 Y, Point3 Z, Point3 At)
{
    public static readonly Frame Same = new(Point3.UnitX, Point3.UnitY, Point3.UnitZ, default);

    public Point3 Place(Point3 p) => Turn(p) + At;

    public Point3 Turn(Point3 p) => (X * p.X) + (Y * p.Y) + (Z * p.Z);

    /// <param name="degrees">Turns about x, then z, then y.</param>
    public static Frame Of(Point3 at, Point3 degrees)
    {
        var (sx, cx) = Math.SinCos(degrees.X * Math.PI / 180);
        var (sy, cy) = Math.SinCos(degrees.Y * Math.PI / 180);
        var (sz, cz) = Math.SinCos(degrees.Z * Math.PI / 180);
        Point3 Turned(Point3 p)
        {
            p = new(p.X, (p.Y * cx) - (p.Z * sx), (p.Y * sx) + (p.Z * cx));
            p = new((p.X * cz) - (p.Y * sz), (p.X * sz) + (p.Y * cz), p.Z);
            return new((p.X * cy) + (p.Z * sy), p.Y, (p.Z * cy) - (p.X * sy));
        }
        return new(Turned(Point3.UnitX), Turned(Point3.UnitY), Turned(Point3.UnitZ), at);
    }
}
