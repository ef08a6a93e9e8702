using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;
using Eight = System.Runtime.Intrinsics.Vector256<float>;

namespace MintHarbor.Core.Figure;

/// <summary>The same distances, eight points at a time: the polygoniser asks for some hundred thousand of them.</summary>
internal sealed partial class SurfaceField
{
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Eight All8(float x) => Vector256.Create(x);

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Eight Blend(Eight a, Eight b, float k)
    {
        var h = Vector256.Max(Eight.Zero, All8(k) - Vector256.Abs(a - b)) * All8(1 / k);
        return Vector256.Min(a, b) - (h * h * h * All8(k / 6));
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Eight Blend(Eight a, Eight b, Eight k)
    {
        var h = Vector256.Max(Eight.Zero, k - Vector256.Abs(a - b)) / k;
        return Vector256.Min(a, b) - (h * h * h * k * All8(1f / 6));
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Eight Carved(Eight a, Eight b, float k) => -Blend(-a, b, k);

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Eight Dot(Eight x, Eight y, Eight z, Vector3 v) => (x * All8(v.X)) + (y * All8(v.Y)) + (z * All8(v.Z));

    private static Eight Distance(in Placed p, Eight x, Eight y, Eight z)
    {
        if (p.Shape == FormShape.Sweep)
            return SweepDistance(p, x, y, z);
        Eight dx = x - All8(p.A.X),
            dy = y - All8(p.A.Y),
            dz = z - All8(p.A.Z);
        if (p.Shape == FormShape.Ellipsoid)
        {
            Eight u = Dot(dx, dy, dz, p.X) * All8(1 / p.Radii.X),
                v = Dot(dx, dy, dz, p.Y) * All8(1 / p.Radii.Y),
                w = Dot(dx, dy, dz, p.Z) * All8(1 / p.Radii.Z);
            return Rounded(u, v, w, All8(p.Radii.X), All8(p.Radii.Y), All8(p.Radii.Z));
        }
        var t = Dot(dx, dy, dz, p.Along);
        if (p.Shape == FormShape.Cone)
        {
            var l2 = (dx * dx) + (dy * dy) + (dz * dz);
            var across = Vector256.Sqrt(Vector256.Max(Eight.Zero, l2 - (t * t)));
            var sin = (p.RadiusA - p.RadiusB) / p.Length;
            var cos = MathF.Sqrt(MathF.Max(0, 1 - (sin * sin)));
            var k = (t * All8(cos)) - (across * All8(sin));
            var past = t - All8(p.Length);
            return Vector256.ConditionalSelect(
                Vector256.LessThan(k, Eight.Zero),
                Vector256.Sqrt(l2) - All8(p.RadiusA),
                Vector256.ConditionalSelect(
                    Vector256.GreaterThan(k, All8(cos * p.Length)),
                    Vector256.Sqrt((across * across) + (past * past)) - All8(p.RadiusB),
                    (across * All8(cos)) + (t * All8(sin)) - All8(p.RadiusA)
                )
            );
        }
        return LoftDistance(p, t, Dot(dx, dy, dz, p.X), Dot(dx, dy, dz, p.Z));
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Eight Rounded(Eight u, Eight v, Eight w, Eight ru, Eight rv, Eight rw)
    {
        var k0 = Vector256.Sqrt((u * u) + (v * v) + (w * w));
        Eight a = u / ru,
            b = v / rv,
            c = w / rw;
        return k0 * (k0 - All8(1)) / Vector256.Max(Vector256.Sqrt((a * a) + (b * b) + (c * c)), All8(1e-6f));
    }

    private static Eight LoftDistance(in Placed p, Eight t, Eight sx, Eight sz)
    {
        var share = Vector256.Max(Eight.Zero, Vector256.Min(All8(1), t * All8(1 / p.Length)));
        if (p.Twist != 0)
        {
            var (sin, cos) = Vector256.SinCos(share * All8(p.Twist));
            (sx, sz) = ((sx * cos) - (sz * sin), (sx * sin) + (sz * cos));
        }
        var f = share * All8(LoftRows - 1);
        var row = Vector256.Min(Vector256.ConvertToInt32(Vector256.Floor(f)), Vector256.Create(LoftRows - 2));
        f -= Vector256.ConvertToSingle(row);
        Row(p.Table, row, f, out var outer, out var inner, out var front, out var back);
        var rx = Vector256.ConditionalSelect(Vector256.GreaterThanOrEqual(sx, Eight.Zero), outer, inner);
        var rz = Vector256.ConditionalSelect(Vector256.GreaterThanOrEqual(sz, Eight.Zero), front, back);
        Eight below = Vector256.LessThan(t, Eight.Zero),
            above = Vector256.GreaterThan(t, All8(p.Length));
        var beyond = Vector256.ConditionalSelect(below, t, Vector256.ConditionalSelect(above, t - All8(p.Length), Eight.Zero));
        var cap = Vector256.ConditionalSelect(below, All8(p.CapA), All8(p.CapB));
        return p.Power == 2 ? Rounded(sx / rx, beyond / cap, sz / rz, rx, cap, rz) : Section(sx, sz, beyond, rx, rz, cap, p.Power);
    }

    private static unsafe void Row(float[] table, Vector256<int> row, Eight f, out Eight a, out Eight b, out Eight c, out Eight d)
    {
        var lane = stackalloc float[64];
        for (var l = 0; l < 8; l++)
        {
            var o = row[l] * 4;
            for (var k = 0; k < 8; k++)
                lane[(k * 8) + l] = table[o + k];
        }
        static Eight Mix(float* lane, int k, Eight f)
        {
            var first = Vector256.Load(lane + (k * 8));
            return first + ((Vector256.Load(lane + ((k + 4) * 8)) - first) * f);
        }
        (a, b, c, d) = (Mix(lane, 0, f), Mix(lane, 1, f), Mix(lane, 2, f), Mix(lane, 3, f));
    }

    private static Eight Section(Eight sx, Eight sz, Eight beyond, Eight rx, Eight rz, Eight cap, float power)
    {
        var tiny = All8(1e-5f);
        Eight u = Vector256.Max(Vector256.Abs(sx / rx), tiny),
            w = Vector256.Max(Vector256.Abs(sz / rz), tiny),
            v = beyond / cap;
        Eight pu = Vector256.Exp(All8(power - 1) * Vector256.Log(u)),
            pw = Vector256.Exp(All8(power - 1) * Vector256.Log(w));
        var lq = Vector256.Log((pu * u) + (pw * w)) * All8(1 / power);
        var q = Vector256.Exp(lq);
        var k = Vector256.Sqrt((q * q) + (v * v));
        var scale = Vector256.Exp(All8(1 - power) * lq);
        Eight gx = scale * pu / rx,
            gz = scale * pw / rz;
        Eight across = Vector256.Sqrt((gx * gx) + (gz * gz)) * q / k,
            along = v / (k * cap);
        return (k - All8(1)) / Vector256.Max(Vector256.Sqrt((across * across) + (along * along)), tiny);
    }

    /// <summary>The trunk: stations are searched point by point, from the neighbour's, the rest is done eight at a time.</summary>
    [SkipLocalsInit]
    private static unsafe Eight SweepDistance(in Placed p, Eight x, Eight y, Eight z)
    {
        var o = stackalloc float[48];
        var row = -1;
        for (var l = 0; l < 8; l++)
        {
            var at = new Vector3(x[l], y[l], z[l]);
            var (i, f, beyond, cap) =
                row < 0 ? Station(p, at, 0, SweepRows - 1) : Station(p, at, Math.Max(0, row - 3), Math.Min(SweepRows - 1, row + 4));
            var (sx, sz) = InStation(p, at, i, f);
            var t = p.Table.AsSpan(i * 4, 8);
            (o[l], o[8 + l], o[16 + l], o[40 + l]) = (sx, sz, beyond, cap);
            o[24 + l] = sx >= 0 ? t[0] + ((t[4] - t[0]) * f) : t[1] + ((t[5] - t[1]) * f);
            o[32 + l] = sz >= 0 ? t[2] + ((t[6] - t[2]) * f) : t[3] + ((t[7] - t[3]) * f);
            row = i;
        }
        return Section(
            Vector256.Load(o),
            Vector256.Load(o + 8),
            Vector256.Load(o + 16),
            Vector256.Load(o + 24),
            Vector256.Load(o + 32),
            Vector256.Load(o + 40),
            p.Power
        );
    }

    /// <summary>Distances of eight places.</summary>
    public Eight Evaluate(ReadOnlySpan<Vector3> eight, ReadOnlySpan<int> near) => Evaluate(eight, near, false, out _);

    /// <summary>Distances of eight places; with <paramref name="wantNearest"/> also the form each lies on, −1 on cloth.</summary>
    public Eight Evaluate(ReadOnlySpan<Vector3> eight, ReadOnlySpan<int> near, bool wantNearest, out Vector256<int> nearest)
    {
        Span<float> x = stackalloc float[8],
            y = stackalloc float[8],
            z = stackalloc float[8];
        for (var i = 0; i < 8; i++)
            (x[i], y[i], z[i]) = (eight[i].X, eight[i].Y, eight[i].Z);
        return Evaluate(Vector256.Create<float>(x), Vector256.Create<float>(y), Vector256.Create<float>(z), near, wantNearest, out nearest);
    }

    /// <summary>Distances of eight points; with <paramref name="wantNearest"/> also the form each lies on, −1 on cloth.</summary>
    [SkipLocalsInit]
    public Eight Evaluate(Eight x, Eight y, Eight z, ReadOnlySpan<int> near, bool wantNearest, out Vector256<int> nearest)
    {
        var d = Fold(body, x, y, z, near, wantNearest, out nearest);
        if (garment is not null)
        {
            var cloth = Fold(garment, x, y, z, near, false, out _) - All8(garment.Thickness);
            var outside = Vector256.LessThan(cloth, d);
            d = Vector256.ConditionalSelect(outside, cloth, d);
            nearest = Vector256.ConditionalSelect(outside.AsInt32(), Vector256.Create(-1), nearest);
        }
        if (!Flattened)
            return d;
        d = Carved(d, y - All8(Floor), FloorHem);
        Span<float> to = stackalloc float[8];
        foreach (var s in solids)
        {
            for (var l = 0; l < 8; l++)
                to[l] = s.Distance(new(x[l], y[l], z[l]));
            d = Carved(d, Vector256.Create<float>(to), 0.9f);
        }
        return d;
    }

    [SkipLocalsInit]
    private unsafe Eight Fold(Skin skin, Eight x, Eight y, Eight z, ReadOnlySpan<int> near, bool wantNearest, out Vector256<int> nearest)
    {
        var group = stackalloc Eight[MostGroups];
        uint have = 0;
        var least = All8(1e9f);
        nearest = Vector256<int>.Zero;
        foreach (var i in near)
        {
            ref readonly var p = ref forms[i];
            var blend = skin.Blend[i];
            var begun = (have >> p.Group & 1) != 0;
            if (blend <= 0 || (p.Carve && !begun))
                continue;
            var d = Distance(p, x, y, z);
            if (p.Carve)
            {
                group[p.Group] = Carved(group[p.Group], d, blend);
                continue;
            }
            if (wantNearest)
            {
                var closer = Vector256.LessThan(d, least);
                least = Vector256.ConditionalSelect(closer, d, least);
                nearest = Vector256.ConditionalSelect(closer.AsInt32(), Vector256.Create(i), nearest);
            }
            group[p.Group] = begun ? Blend(group[p.Group], d, blend) : d;
            have |= 1u << p.Group;
        }
        foreach (var (g, at, facing) in skin.Cuts)
        {
            if ((have >> g & 1) == 0)
                continue;
            var beyond = Dot(x - All8(at.X), y - All8(at.Y), z - All8(at.Z), facing);
            group[g] = Carved(group[g] - All8(skin.Thickness), -beyond, skin.Hem) + All8(skin.Thickness);
        }
        foreach (ref readonly var j in skin.Joins.AsSpan())
        {
            if ((have >> j.Source & 1) == 0)
                continue;
            var s = group[j.Source];
            var begun = (have >> j.Target & 1) != 0;
            if (j.Carve)
            {
                if (begun)
                    group[j.Target] = Carved(group[j.Target], s, j.Blend);
                continue;
            }
            if (!begun)
            {
                group[j.Target] = s;
                have |= 1u << j.Target;
                continue;
            }
            if (!j.Soft)
            {
                group[j.Target] = Blend(group[j.Target], s, j.Blend);
                continue;
            }
            Eight cx = x - All8(j.Near.X),
                cy = y - All8(j.Near.Y),
                cz = z - All8(j.Near.Z);
            var q = Vector256.Max(Eight.Zero, All8(1) - (Vector256.Sqrt((cx * cx) + (cy * cy) + (cz * cz)) * All8(1 / j.Radius)));
            group[j.Target] = Blend(group[j.Target], s, All8(j.Blend) + (All8(j.BlendNear - j.Blend) * q * q * (All8(3) - (All8(2) * q))));
        }
        return (have & 1) != 0 ? group[0] : All8(Far);
    }
}
