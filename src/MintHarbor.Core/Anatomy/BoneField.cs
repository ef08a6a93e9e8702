using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>The signed distance to one bone at rest: parts added or carved in order, each with its blend.</summary>
internal sealed class BoneField
{
    private const float Far = 1e3f;

    private readonly Part[] parts;

    public Vector3 Low { get; } = new(float.MaxValue);
    public Vector3 High { get; } = new(float.MinValue);

    public BoneField(IEnumerable<BonePartRow> rows)
    {
        parts = [.. rows.SelectMany(Expand)];
        foreach (var p in parts.Where(p => !p.Carve))
        {
            var (low, high) = p.Bounds();
            (Low, High) = (Vector3.Min(Low, low), Vector3.Max(High, high));
        }
    }

    public float Distance(Vector3 at)
    {
        var d = Far;
        foreach (ref readonly var p in parts.AsSpan())
        {
            var own = p.Distance(at);
            d =
                p.Carve ? -Blend(-d, own, p.Softness)
                : d >= Far ? own
                : Blend(d, own, p.Softness);
        }
        return d;
    }

    /// <summary>Whether a place of the surface lies in a sharp hollow (eye socket, nose): it is dark there.</summary>
    public bool InHollow(Vector3 at) => parts.Any(p => p.Carve && p.Softness <= 0.3f && p.Distance(at) < 0.06f);

    private static float Blend(float a, float b, float k)
    {
        if (k <= 0)
            return MathF.Min(a, b);
        var h = MathF.Max(0, k - MathF.Abs(a - b)) / k;
        return MathF.Min(a, b) - (h * h * h * k / 6);
    }

    private static IEnumerable<Part> Expand(BonePartRow r) =>
        r.Shape switch
        {
            "bow" => Bow(r.Path!, r.Blend),
            "sheet" => Sheet(r.Rim!, r.OtherRim!, r.Radius, r.Blend),
            "cone" => [Cone(r.At!.Value, r.Radius, r.To!.Value, r.ToRadius, r.Blend) with { Carve = r.Carve }],
            "plate" => [Plate(r.Corners!, r.Radius, r.Blend) with { Carve = r.Carve }],
            _ =>
            [
                new()
                {
                    Shape = PartShape.Ellipsoid,
                    A = r.At!.Value,
                    Radii = r.Radii!.Value,
                    Turn = Quaternion.Conjugate(TurnOf(r.Turn ?? Vector3.Zero)),
                    Softness = r.Blend,
                    Carve = r.Carve,
                },
            ],
        };

    private static Quaternion TurnOf(Vector3 degrees)
    {
        var t = degrees * (MathF.PI / 180);
        return Quaternion.CreateFromAxisAngle(Vector3.UnitZ, t.Z)
            * Quaternion.CreateFromAxisAngle(Vector3.UnitY, t.Y)
            * Quaternion.CreateFromAxisAngle(Vector3.UnitX, t.X);
    }

    private static Part Cone(Vector3 a, float ra, Vector3 b, float rb, float blend) =>
        new()
        {
            Shape = PartShape.Cone,
            A = a,
            B = b,
            RadiusA = ra,
            RadiusB = rb,
            Softness = blend,
        };

    private static Part Plate(Vector3[] corners, float radius, float blend) =>
        new()
        {
            Shape = PartShape.Plate,
            A = corners[0],
            B = corners[1],
            C = corners[2],
            RadiusA = radius,
            Softness = blend,
        };

    /// <summary>Cones along a curve, three a span.</summary>
    private static IEnumerable<Part> Bow(float[][] path, float blend)
    {
        const int span = 3;
        var curve = Splines.Through([.. path.Select(p => new Vector3(p[0], p[1], p[2]))], span);
        float Radius(int i)
        {
            var k = Math.Min(i / span, path.Length - 2);
            return float.Lerp(path[k][3], path[k + 1][3], (i / (float)span) - k);
        }
        for (var i = 0; i + 1 < curve.Length; i++)
            yield return Cone(curve[i], Radius(i), curve[i + 1], Radius(i + 1), i == 0 ? blend : 0.15f);
    }

    /// <summary>Plates between two curves.</summary>
    private static IEnumerable<Part> Sheet(Vector3[] rim, Vector3[] other, float radius, float blend)
    {
        Vector3[] a = Splines.Through(rim, 2),
            b = Splines.Through(other, 2);
        for (var i = 0; i + 1 < a.Length; i++)
        {
            yield return Plate([a[i], a[i + 1], b[i]], radius, i == 0 ? blend : 0.1f);
            yield return Plate([a[i + 1], b[i + 1], b[i]], radius, 0.1f);
        }
    }

    private enum PartShape
    {
        Ellipsoid,
        Cone,
        Plate,
    }

    private struct Part
    {
        public PartShape Shape;
        public bool Carve;
        public float Softness,
            RadiusA,
            RadiusB;
        public Vector3 A,
            B,
            C,
            Radii;

        /// <summary>From the rest frame into the ellipsoid's own.</summary>
        public Quaternion Turn;

        public readonly (Vector3 Low, Vector3 High) Bounds()
        {
            switch (Shape)
            {
                case PartShape.Cone:
                    Vector3 ra = new(RadiusA),
                        rb = new(RadiusB);
                    return (Vector3.Min(A - ra, B - rb), Vector3.Max(A + ra, B + rb));
                case PartShape.Ellipsoid:
                    var r = Turn.IsIdentity ? Radii : new(MathF.Max(Radii.X, MathF.Max(Radii.Y, Radii.Z)));
                    return (A - r, A + r);
                default:
                    Vector3 thick = new(RadiusA);
                    return (Vector3.Min(A, Vector3.Min(B, C)) - thick, Vector3.Max(A, Vector3.Max(B, C)) + thick);
            }
        }

        public readonly float Distance(Vector3 p) =>
            Shape switch
            {
                PartShape.Cone => ToCone(p),
                PartShape.Ellipsoid => ToEllipsoid(p),
                _ => MathF.Sqrt(ToTriangle(p)) - RadiusA,
            };

        private readonly float ToEllipsoid(Vector3 p)
        {
            var q = Vector3.Transform(p - A, Turn) / Radii;
            float k0 = q.Length(),
                k1 = (q / Radii).Length();
            return k1 < 1e-6f ? -MathF.Min(Radii.X, MathF.Min(Radii.Y, Radii.Z)) : k0 * (k0 - 1) / k1;
        }

        private readonly float ToCone(Vector3 p)
        {
            var along = B - A;
            var length = along.Length();
            var d = p - A;
            if (length < 1e-4f)
                return d.Length() - MathF.Max(RadiusA, RadiusB);
            var y = Vector3.Dot(d, along / length);
            var x = MathF.Sqrt(MathF.Max(0, d.LengthSquared() - (y * y)));
            var sin = Math.Clamp((RadiusA - RadiusB) / length, -0.99f, 0.99f);
            var cos = MathF.Sqrt(1 - (sin * sin));
            var k = (y * cos) - (x * sin);
            if (k < 0)
                return MathF.Sqrt((x * x) + (y * y)) - RadiusA;
            if (k > cos * length)
                return MathF.Sqrt((x * x) + ((y - length) * (y - length))) - RadiusB;
            return (x * cos) + (y * sin) - RadiusA;
        }

        /// <summary>Squared distance to a triangle: to its plane over its inside, else to the nearest edge.</summary>
        private readonly float ToTriangle(Vector3 p)
        {
            Vector3 ab = B - A,
                bc = C - B,
                ca = A - C,
                n = Vector3.Cross(ab, ca);
            static float Side(Vector3 edge, Vector3 n, Vector3 to) => MathF.Sign(Vector3.Dot(Vector3.Cross(edge, n), to));
            static float ToEdge(Vector3 edge, Vector3 to) =>
                ((edge * Math.Clamp(Vector3.Dot(edge, to) / edge.LengthSquared(), 0, 1)) - to).LengthSquared();
            if (Side(ab, n, p - A) + Side(bc, n, p - B) + Side(ca, n, p - C) < 2)
                return MathF.Min(ToEdge(ab, p - A), MathF.Min(ToEdge(bc, p - B), ToEdge(ca, p - C)));
            var off = Vector3.Dot(n, p - A);
            return off * off / n.LengthSquared();
        }
    }
}
