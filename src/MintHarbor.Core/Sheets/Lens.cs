using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Sheets;

/// <summary>A lens that bows straight lines about the picture's middle by one radial coefficient: a place lies straight at
/// middle + (place − middle)·(1 + bow·r²), r its distance from the middle over half the diagonal (the first term of Brown 1966, "Decentering
/// distortion of lenses", from memory).</summary>
internal readonly record struct Lens(Vec2 Middle, double HalfDiagonal, double Bow)
{
    /// <summary>Where a place of the photograph would lie without the bow.</summary>
    public Vec2 Straightened(Vec2 p)
    {
        var d = p - Middle;
        return Middle + (d * (1 + (Bow * d.Dot(d) / (HalfDiagonal * HalfDiagonal))));
    }

    /// <summary>The other way: where the photograph shows it. Newton's steps along the ray; three are exact to a thousandth of a pixel.</summary>
    public Vec2 Bent(Vec2 straight)
    {
        var d = straight - Middle;
        var wanted = d.Length / HalfDiagonal;
        if (wanted == 0 || Bow == 0)
            return straight;
        var r = wanted;
        for (var n = 0; n < 3; n++)
            r -= (r + (Bow * r * r * r) - wanted) / (1 + (3 * Bow * r * r));
        return Middle + (d * (r / wanted));
    }
}
