namespace MintHarbor.Core.Geometry;

/// <summary>An upright rectangle: of a sheet in millimetres, of a picture in its pixels.</summary>
public readonly record struct Area(double Left, double Top, double Right, double Foot)
{
    public double Width => Right - Left;
    public double Height => Foot - Top;
    public double Diagonal => Math.Sqrt((Width * Width) + (Height * Height));
    public Vec2 Middle => new((Left + Right) / 2, (Top + Foot) / 2);

    public Area Grown(double by) => new(Left - by, Top - by, Right + by, Foot + by);

    public bool Holds(Vec2 p) => p.X >= Left && p.X <= Right && p.Y >= Top && p.Y <= Foot;

    /// <summary>The smallest round places.</summary>
    /// <exception cref="InvalidOperationException">No places.</exception>
    public static Area Round(IEnumerable<Vec2> places)
    {
        var all = places.ToList();
        return new(all.Min(p => p.X), all.Min(p => p.Y), all.Max(p => p.X), all.Max(p => p.Y));
    }
}
