using System.Numerics;

namespace MintHarbor.Core.Anatomy;

/// <summary>Catmull and Rom's curve through places at equal steps of its parameter; beyond both ends the line goes straight on.</summary>
internal static class Splines
{
    /// <param name="s">0 at the first place, 1 at the second, and so on.</param>
    public static Vector3 At(ReadOnlySpan<Vector3> places, float s)
    {
        var i = Math.Clamp((int)s, 0, places.Length - 2);
        float t = s - i,
            t2 = t * t,
            t3 = t2 * t;
        Vector3 b = places[i],
            c = places[i + 1],
            a = i > 0 ? places[i - 1] : (2 * b) - c,
            d = i + 2 < places.Length ? places[i + 2] : (2 * c) - b;
        return 0.5f * ((2 * b) + ((c - a) * t) + (((2 * a) - (5 * b) + (4 * c) - d) * t2) + (((3 * b) - a - (3 * c) + d) * t3));
    }

    /// <summary>Every place and <paramref name="parts"/> − 1 between two of them.</summary>
    public static Vector3[] Through(Vector3[] places, int parts) =>
        [.. Enumerable.Range(0, ((places.Length - 1) * parts) + 1).Select(i => At(places, i / (float)parts))];

    /// <summary>0 below <paramref name="from"/>, 1 above <paramref name="to"/>, eased between.</summary>
    public static float Eased(float from, float to, float x)
    {
        if (from == to)
            return x > from ? 1 : 0;
        var t = Math.Clamp((x - from) / (to - from), 0, 1);
        return t * t * (3 - (2 * t));
    }

    /// <summary>The shortest turn from one direction to another.</summary>
    public static Quaternion Turn(Vector3 from, Vector3 to)
    {
        (from, to) = (Vector3.Normalize(from), Vector3.Normalize(to));
        var axis = Vector3.Cross(from, to);
        var sin = axis.Length();
        return sin < 1e-6f ? Quaternion.Identity : Quaternion.CreateFromAxisAngle(axis / sin, MathF.Atan2(sin, Vector3.Dot(from, to)));
    }
}
