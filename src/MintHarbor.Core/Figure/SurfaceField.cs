using System.Numerics;
using System.Runtime.CompilerServices;

namespace MintHarbor.Core.Figure;

/// <summary>A stool or block that the figure rests on: the body is flattened against it.</summary>
/// <param name="Half">Half sizes; of an upright cylinder radius, half height, radius.</param>
internal readonly record struct Solid(bool Box, Vector3 Centre, Vector3 Half)
{
    public float Distance(Vector3 x)
    {
        var d = x - Centre;
        if (Box)
        {
            var q = Vector3.Abs(d) - Half;
            return Vector3.Max(q, Vector3.Zero).Length() + MathF.Min(MathF.Max(q.X, MathF.Max(q.Y, q.Z)), 0);
        }
        float a = MathF.Sqrt((d.X * d.X) + (d.Z * d.Z)) - Half.X,
            b = MathF.Abs(d.Y) - Half.Y;
        float oa = MathF.Max(a, 0),
            ob = MathF.Max(b, 0);
        return MathF.Min(MathF.Max(a, b), 0) + MathF.Sqrt((oa * oa) + (ob * ob));
    }
}

/// <summary>The signed distance to the skin (and the garment) of a posed body, negative inside: forms blended inside their groups,
/// groups joined in order. The distance is near the true one only close to the surface, which is where it is used.</summary>
internal sealed partial class SurfaceField
{
    public const int LoftRows = 65,
        SweepRows = 97,
        MostGroups = 32;
    private const float Far = 1e3f;

    /// <summary>Where the floor flattens what rests on it, and how softly.</summary>
    private const float Floor = 0.02f,
        FloorHem = 0.5f;

    /// <summary>A form in the room.</summary>
    internal struct Placed
    {
        public FormShape Shape;
        public bool Carve,
            Fine;
        public int Group;
        public Vector3 A,
            Along,
            X,
            Y,
            Z,
            Radii;
        public float Length,
            RadiusA,
            RadiusB,
            Power,
            CapA,
            CapB,
            Twist;

        /// <summary>Four quarter radii by row: out, in, front, back.</summary>
        public float[] Table;
        public Vector3[] Centres,
            Tangents,
            Rights,
            Fronts;
        public Vector3 Ball;
        public float BallRadius,
            Margin;
    }

    private struct Join
    {
        public int Source,
            Target;
        public bool Carve,
            Soft;
        public float Blend,
            BlendNear,
            Radius;
        public Vector3 Near;
    }

    /// <summary>One skin over the forms: the body's or the garment's. A blend of 0 leaves a form out.</summary>
    private sealed class Skin
    {
        public required float[] Blend;
        public required Join[] Joins;
        public (int Group, Vector3 At, Vector3 Facing)[] Cuts = [];
        public float Thickness,
            Hem;
    }

    private readonly Placed[] forms;
    private readonly Skin body;
    private readonly Skin? garment;
    private readonly Solid[] solids;
    private readonly Skeleton skeleton;

    public int Count => forms.Length;
    public ref readonly Placed this[int i] => ref forms[i];

    /// <summary>Which part of the body each form belongs to, for creases where two parts meet.</summary>
    public int[] Part { get; }
    public IReadOnlyList<Solid> Solids => solids;
    public bool Flattened { get; }
    public Skeleton Skeleton => skeleton;

    /// <param name="flattened">Against floor and props, as flesh is that rests on them; else it goes through them as the skeleton lies.</param>
    public SurfaceField(Skeleton skeleton, bool withGarment, bool flattened = true)
    {
        this.skeleton = skeleton;
        Flattened = flattened;
        var b = skeleton.Body;
        forms = [.. b.Forms.Select(f => Place(f, skeleton))];
        solids = [.. (skeleton.Pose.Props ?? []).Select(p => new Solid(p.Shape == "box", p.At, p.Half))];
        body = new()
        {
            Blend = [.. b.Forms.Select(f => f.Blend)],
            Joins =
            [
                .. b.Groups.Select(g => new Join
                {
                    Source = g.Source,
                    Target = g.Target,
                    Carve = g.Carve,
                    Blend = g.Blend,
                    BlendNear = g.BlendNear,
                    Radius = g.Radius,
                    Soft = g.NearBone >= 0,
                    Near = g.NearBone >= 0 ? skeleton.World(g.NearBone, g.Near) : default,
                }),
            ],
        };
        garment = withGarment ? Dress(b) : null;
        SetMargins(b);
        Part = [.. b.Forms.Select(BodyParts.Of)];
    }

    private Skin Dress(Body b)
    {
        var g = b.Tables.Garment;
        var worn = g.Groups.Select(id => b.Accumulators[id]).ToHashSet();
        var joins = b
            .Groups.Zip(body.Joins)
            .Where(j => !j.Second.Carve && worn.Contains(j.Second.Source) && worn.Contains(j.Second.Target))
            .Select(pair =>
            {
                var (group, j) = pair;
                var least =
                    group.Id.StartsWith("glute", StringComparison.Ordinal) ? g.JoinGlute
                    : group.Id.StartsWith("thigh", StringComparison.Ordinal) ? g.JoinThigh
                    : 0;
                j.Blend = MathF.Max(j.Blend * g.JoinTimes, least);
                j.BlendNear = MathF.Max(j.Blend, j.BlendNear * g.NearTimes);
                j.Radius *= g.RadiusTimes;
                return j;
            });
        return new()
        {
            Blend = [.. b.Forms.Select(f => f.Carve || !worn.Contains(f.Group) ? 0 : MathF.Min(f.Blend * g.BlendTimes, g.BlendMost))],
            Joins = [.. joins],
            Cuts =
            [
                .. g.Cuts.Select(c =>
                    (
                        b.Accumulators[c.Group],
                        skeleton.World(c.Bone, c.At),
                        Vector3.Normalize(Vector3.Transform(c.Facing, skeleton.Frame[b.BoneIndex(c.Bone)]))
                    )
                ),
            ],
            Thickness = g.Thickness,
            Hem = g.Hem,
        };
    }

    /// <summary>How far beyond its own surface a form can still change the blended one.</summary>
    private void SetMargins(Body b)
    {
        Span<float> most = stackalloc float[MostGroups];
        foreach (var skin in garment is null ? new[] { body } : [body, garment])
        {
            for (var i = 0; i < forms.Length; i++)
                most[forms[i].Group] = MathF.Max(most[forms[i].Group], skin.Blend[i]);
            foreach (var j in skin.Joins)
                most[j.Source] = MathF.Max(most[j.Source], MathF.Max(j.Blend, j.BlendNear));
        }
        for (var i = 0; i < forms.Length; i++)
            forms[i].Margin = (most[forms[i].Group] * 0.8f) + 0.1f + (garment?.Thickness ?? 0);
    }

    private static Placed Place(Form f, Skeleton s)
    {
        var p = new Placed
        {
            Shape = f.Shape,
            Carve = f.Carve,
            Fine = f.Fine,
            Group = f.Group,
            Power = f.Power,
            CapA = f.CapA,
            CapB = f.CapB,
            RadiusA = f.Radius,
            RadiusB = f.ToRadius,
            Table = [],
            Centres = [],
            Tangents = [],
            Rights = [],
            Fronts = [],
        };
        if (f.Shape == FormShape.Sweep)
        {
            PlaceSweep(ref p, f, s);
            return p;
        }
        var bones = s.Body.Bones;
        p.A = s.World(f.A, f.At);
        if (f.SharedWith >= 0)
            p.A = (p.A + s.World(f.SharedWith, f.At + ((bones[f.A].Rest - bones[f.SharedWith].Rest) * bones[f.A].Scale))) * 0.5f;
        if (f.Shape == FormShape.Ellipsoid)
        {
            const float degree = MathF.PI / 180;
            var q =
                s.Frame[f.A]
                * Quaternion.CreateFromAxisAngle(Vector3.UnitZ, f.Turn.Z * degree)
                * Quaternion.CreateFromAxisAngle(Vector3.UnitY, f.Turn.Y * degree)
                * Quaternion.CreateFromAxisAngle(Vector3.UnitX, f.Turn.X * degree);
            if (f.SharedWith >= 0)
                q = Quaternion.Slerp(q, s.Frame[f.SharedWith] * (Quaternion.Conjugate(s.Frame[f.A]) * q), 0.5f);
            (p.X, p.Y, p.Z) = (
                Vector3.Transform(Vector3.UnitX, q),
                Vector3.Transform(Vector3.UnitY, q),
                Vector3.Transform(Vector3.UnitZ, q)
            );
            (p.Radii, p.Ball, p.BallRadius) = (f.Radii, p.A, MathF.Max(f.Radii.X, MathF.Max(f.Radii.Y, f.Radii.Z)));
            return p;
        }
        var end = s.World(f.B, f.To);
        p.Length = MathF.Max((end - p.A).Length(), 1e-3f);
        p.Along = (end - p.A) / p.Length;
        p.Ball = (p.A + end) / 2;
        if (f.Shape == FormShape.Cone)
        {
            p.BallRadius = (p.Length / 2) + MathF.Max(p.RadiusA, p.RadiusB);
            return p;
        }
        Quaternion from = s.Frame[f.A],
            to = f.TwistOnly ? s.Twist[f.EndFrame] : s.Frame[f.EndFrame];
        var section = f.Upright ? Vector3.UnitY : Vector3.UnitZ;
        var along = p.Along;
        Vector3 Flat(Vector3 v) => Vector3.Normalize(v - (along * Vector3.Dot(v, along)));
        p.Z = Flat(Vector3.Transform(section, from));
        var z1 = Flat(Vector3.Transform(section, to));
        var x = Flat(Vector3.Transform(Vector3.UnitX, from));
        p.X = Vector3.Normalize(x - (p.Z * Vector3.Dot(x, p.Z)));
        p.Twist = MathF.Atan2(Vector3.Dot(z1, p.X), Vector3.Dot(z1, p.Z));
        var widest = Tabulate(ref p, f.Sections, 0, 1, LoftRows);
        p.BallRadius = (p.Length / 2) + MathF.Max(widest * (f.Power > 2 ? 1.2f : 1.05f), MathF.Max(p.CapA, p.CapB));
        return p;
    }

    private static float Tabulate(ref Placed p, float[][] sections, float from, float to, int rows)
    {
        p.Table = new float[rows * 4];
        float widest = 0;
        for (var i = 0; i < rows; i++)
        {
            for (var c = 0; c < 4; c++)
                widest = MathF.Max(widest, p.Table[(i * 4) + c] = Hermite(sections, from + ((to - from) * i / (rows - 1)), c + 1));
        }
        return widest;
    }

    private static void PlaceSweep(ref Placed p, Form f, Skeleton s)
    {
        var n = f.Path.Length;
        var at = f.Path.Select(c => s.World(c.Bone, c.At)).ToArray();
        var slope = new Vector3[n];
        for (var i = 0; i < n; i++)
        {
            int a = Math.Max(0, i - 1),
                b = Math.Min(n - 1, i + 1);
            slope[i] = (at[b] - at[a]) / (f.Path[b].RestY - f.Path[a].RestY);
        }
        (p.Centres, p.Tangents, p.Rights, p.Fronts) = (
            new Vector3[SweepRows],
            new Vector3[SweepRows],
            new Vector3[SweepRows],
            new Vector3[SweepRows]
        );
        float first = f.Path[0].RestY,
            last = f.Path[n - 1].RestY;
        for (var i = 0; i < SweepRows; i++)
        {
            var y = first + ((last - first) * i / (SweepRows - 1f));
            var k = 0;
            while (k < n - 2 && y > f.Path[k + 1].RestY)
                k++;
            float h = f.Path[k + 1].RestY - f.Path[k].RestY,
                u = (y - f.Path[k].RestY) / h,
                u2 = u * u,
                u3 = u2 * u;
            p.Centres[i] =
                (((2 * u3) - (3 * u2) + 1) * at[k])
                + ((u3 - (2 * u2) + u) * h * slope[k])
                + (((3 * u2) - (2 * u3)) * at[k + 1])
                + ((u3 - u2) * h * slope[k + 1]);
            var q = Quaternion.Slerp(s.Frame[f.Path[k].Bone], s.Frame[f.Path[k + 1].Bone], u * u * (3 - (2 * u)));
            (p.Tangents[i], p.Rights[i], p.Fronts[i]) = (
                Vector3.Transform(Vector3.UnitY, q),
                Vector3.Transform(Vector3.UnitX, q),
                Vector3.Transform(Vector3.UnitZ, q)
            );
        }
        var widest = Tabulate(ref p, f.Sections, first, last, SweepRows);
        p.Ball = (p.Centres[0] + p.Centres[^1] + p.Centres[SweepRows / 2]) / 3;
        var ball = p.Ball;
        p.BallRadius = p.Centres.Max(c => Vector3.Distance(ball, c)) + (widest * 1.15f);
    }

    /// <summary>Cubic Hermite through a column of the sections, slopes averaged inside and zero at both ends: an end slope draws a belt.</summary>
    private static float Hermite(float[][] s, float t, int column)
    {
        var i = 0;
        while (i < s.Length - 2 && t > s[i + 1][0])
            i++;
        float h = s[i + 1][0] - s[i][0],
            u = (t - s[i][0]) / h,
            u2 = u * u,
            u3 = u2 * u;
        float Slope(int k) => (s[k + 1][column] - s[k][column]) / (s[k + 1][0] - s[k][0]);
        float m0 = i > 0 ? (Slope(i - 1) + Slope(i)) / 2 : 0,
            m1 = i < s.Length - 2 ? (Slope(i) + Slope(i + 1)) / 2 : 0;
        return (((2 * u3) - (3 * u2) + 1) * s[i][column])
            + ((u3 - (2 * u2) + u) * h * m0)
            + (((3 * u2) - (2 * u3)) * s[i + 1][column])
            + ((u3 - u2) * h * m1);
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static float Blend(float a, float b, float k)
    {
        var h = MathF.Max(0, k - MathF.Abs(a - b)) / k;
        return MathF.Min(a, b) - (h * h * h * k * (1f / 6));
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static float Carved(float a, float b, float k) => -Blend(-a, b, k);

    private static float Distance(in Placed p, Vector3 x) =>
        p.Shape switch
        {
            FormShape.Ellipsoid => EllipsoidDistance(p, x - p.A),
            FormShape.Cone => ConeDistance(p, x - p.A),
            FormShape.Loft => LoftDistance(p, x - p.A),
            _ => SweepDistance(p, x),
        };

    private static float EllipsoidDistance(in Placed p, Vector3 d)
    {
        var q = new Vector3(Vector3.Dot(d, p.X), Vector3.Dot(d, p.Y), Vector3.Dot(d, p.Z)) / p.Radii;
        float k0 = q.Length(),
            k1 = (q / p.Radii).Length();
        return k1 < 1e-6f ? -MathF.Min(p.Radii.X, MathF.Min(p.Radii.Y, p.Radii.Z)) : k0 * (k0 - 1) / k1;
    }

    private static float ConeDistance(in Placed p, Vector3 d)
    {
        var y = Vector3.Dot(d, p.Along);
        var x = MathF.Sqrt(MathF.Max(0, d.LengthSquared() - (y * y)));
        var sin = (p.RadiusA - p.RadiusB) / p.Length;
        var cos = MathF.Sqrt(MathF.Max(0, 1 - (sin * sin)));
        var k = (y * cos) - (x * sin);
        if (k < 0)
            return MathF.Sqrt((x * x) + (y * y)) - p.RadiusA;
        if (k > cos * p.Length)
            return MathF.Sqrt((x * x) + ((y - p.Length) * (y - p.Length))) - p.RadiusB;
        return (x * cos) + (y * sin) - p.RadiusA;
    }

    private static float LoftDistance(in Placed p, Vector3 d)
    {
        var y = Vector3.Dot(d, p.Along);
        var t = Math.Clamp(y / p.Length, 0f, 1f);
        float sx = Vector3.Dot(d, p.X),
            sz = Vector3.Dot(d, p.Z);
        if (p.Twist != 0)
        {
            var (sin, cos) = MathF.SinCos(p.Twist * t);
            (sx, sz) = ((sx * cos) - (sz * sin), (sx * sin) + (sz * cos));
        }
        var f = t * (LoftRows - 1);
        var i = Math.Min((int)f, LoftRows - 2);
        return SectionDistance(
            p,
            i,
            f - i,
            sx,
            sz,
            y < 0 ? y
                : y > p.Length ? y - p.Length
                : 0,
            y < 0 ? p.CapA
                : y > p.Length ? p.CapB
                : 1
        );
    }

    private static float SweepDistance(in Placed p, Vector3 x)
    {
        var (i, f, beyond, cap) = Station(p, x, 0, SweepRows - 1);
        var (sx, sz) = InStation(p, x, i, f);
        return SectionDistance(p, i, f, sx, sz, beyond, cap);
    }

    /// <summary>The station of the sweep that a point is level with: the sign of its height over the stations changes there once.</summary>
    private static (int Row, float Between, float Beyond, float Cap) Station(in Placed p, Vector3 x, int low, int high)
    {
        float first = Vector3.Dot(x - p.Centres[0], p.Tangents[0]),
            last = Vector3.Dot(x - p.Centres[SweepRows - 1], p.Tangents[SweepRows - 1]);
        if (first <= 0)
            return (0, 0, first, p.CapA);
        if (last >= 0)
            return (SweepRows - 2, 1, last, p.CapB);
        if (low > 0 && Vector3.Dot(x - p.Centres[low], p.Tangents[low]) <= 0)
            low = 0;
        if (high < SweepRows - 1 && Vector3.Dot(x - p.Centres[high], p.Tangents[high]) > 0)
            high = SweepRows - 1;
        float dl = Vector3.Dot(x - p.Centres[low], p.Tangents[low]),
            dh = Vector3.Dot(x - p.Centres[high], p.Tangents[high]);
        while (high - low > 1)
        {
            var m = (low + high) >> 1;
            var dm = Vector3.Dot(x - p.Centres[m], p.Tangents[m]);
            if (dm > 0)
                (low, dl) = (m, dm);
            else
                (high, dh) = (m, dm);
        }
        return (low, dl / MathF.Max(1e-5f, dl - dh), 0, 1);
    }

    private static (float X, float Z) InStation(in Placed p, Vector3 x, int i, float f)
    {
        var d = x - Vector3.Lerp(p.Centres[i], p.Centres[i + 1], f);
        return (
            (Vector3.Dot(d, p.Rights[i]) * (1 - f)) + (Vector3.Dot(d, p.Rights[i + 1]) * f),
            (Vector3.Dot(d, p.Fronts[i]) * (1 - f)) + (Vector3.Dot(d, p.Fronts[i + 1]) * f)
        );
    }

    /// <summary>Distance to a section of four quarter superellipses, rounded off beyond the ends.</summary>
    private static float SectionDistance(in Placed p, int row, float between, float sx, float sz, float beyond, float cap)
    {
        var t = p.Table.AsSpan(row * 4, 8);
        var rx = sx >= 0 ? t[0] + ((t[4] - t[0]) * between) : t[1] + ((t[5] - t[1]) * between);
        var rz = sz >= 0 ? t[2] + ((t[6] - t[2]) * between) : t[3] + ((t[7] - t[3]) * between);
        float u = MathF.Abs(sx / rx),
            w = MathF.Abs(sz / rz),
            v = beyond / cap;
        if (p.Power == 2)
        {
            float k0 = MathF.Sqrt((u * u) + (v * v) + (w * w)),
                a = u / rx,
                b = v / cap,
                c = w / rz,
                k1 = MathF.Sqrt((a * a) + (b * b) + (c * c));
            return k1 < 1e-6f ? -MathF.Min(rx, rz) : k0 * (k0 - 1) / k1;
        }
        (u, w) = (MathF.Max(u, 1e-5f), MathF.Max(w, 1e-5f));
        float pu = MathF.Pow(u, p.Power - 1),
            pw = MathF.Pow(w, p.Power - 1),
            q = MathF.Pow((pu * u) + (pw * w), 1 / p.Power);
        var k = MathF.Sqrt((q * q) + (v * v));
        float scale = MathF.Pow(q, 1 - p.Power),
            gx = scale * pu / rx,
            gz = scale * pw / rz;
        float across = MathF.Sqrt((gx * gx) + (gz * gz)) * q / k,
            along = v / (k * cap);
        return (k - 1) / MathF.Max(MathF.Sqrt((across * across) + (along * along)), 1e-5f);
    }

    /// <summary>Keeps of <paramref name="from"/> those forms that can matter within <paramref name="radius"/> of a point.</summary>
    public int Cull(Vector3 c, float radius, ReadOnlySpan<int> from, Span<int> kept)
    {
        var n = 0;
        foreach (var i in from)
        {
            ref readonly var p = ref forms[i];
            var reach = p.BallRadius + radius + p.Margin;
            if (Vector3.DistanceSquared(c, p.Ball) > reach * reach || Distance(p, c) > (radius * 1.2f) + p.Margin)
                continue;
            kept[n++] = i;
        }
        return n;
    }

    /// <summary>Whether the surface of a small form passes within a ball.</summary>
    public bool HasDetail(Vector3 c, float radius, ReadOnlySpan<int> near)
    {
        foreach (var i in near)
        {
            if (forms[i].Fine && MathF.Abs(Distance(forms[i], c)) < radius)
                return true;
        }
        return false;
    }

    /// <summary>The lowest place of a bone's forms, as they are before they are flattened or blended, units.</summary>
    public static float Lowest(Skeleton skeleton, string bone)
    {
        var of = skeleton.Body.BoneIndex(bone);
        return skeleton.Body.Forms.Where(f => f.A == of && !f.Carve).Select(f => Lowest(Place(f, skeleton))).DefaultIfEmpty(Far).Min();
    }

    private static float Lowest(in Placed p)
    {
        if (p.Shape == FormShape.Ellipsoid)
            return p.A.Y - new Vector3(p.Radii.X * p.X.Y, p.Radii.Y * p.Y.Y, p.Radii.Z * p.Z.Y).Length();
        if (p.Shape == FormShape.Cone)
            return MathF.Min(p.A.Y - p.RadiusA, p.A.Y + (p.Along.Y * p.Length) - p.RadiusB);
        var rows = p.Shape == FormShape.Loft ? LoftRows : SweepRows;
        var least = Far;
        for (var i = 0; i < rows; i += 4)
        {
            var t = (float)i / (rows - 1);
            var (centre, x, z) =
                p.Shape == FormShape.Loft ? (p.A + (p.Along * (p.Length * t)), p.X, p.Z) : (p.Centres[i], p.Rights[i], p.Fronts[i]);
            if (p.Shape == FormShape.Loft && p.Twist != 0)
            {
                var (sin, cos) = MathF.SinCos(p.Twist * t);
                (x, z) = ((p.X * cos) - (p.Z * sin), (p.X * sin) + (p.Z * cos));
            }
            // The side that hangs down is a quarter of an ellipse; its lowest place lies where both of its radii reach.
            var r = p.Table.AsSpan(i * 4, 4);
            float rx = x.Y < 0 ? r[0] : r[1],
                rz = z.Y < 0 ? r[2] : r[3];
            // An end that hangs down is rounded off beyond its row.
            var along = p.Shape == FormShape.Loft ? p.Along.Y : p.Tangents[i].Y;
            var cap =
                i == 0 && along > 0 ? p.CapA * along
                : i == rows - 1 && along < 0 ? p.CapB * along
                : 0;
            least = MathF.Min(least, centre.Y - MathF.Sqrt((rx * rx * x.Y * x.Y) + (rz * rz * z.Y * z.Y) + (cap * cap)));
        }
        return least;
    }

    public int[] All => [.. Enumerable.Range(0, forms.Length)];

    /// <summary>Distance of one point; <paramref name="nearest"/> is the form it lies on, −1 on cloth.</summary>
    public float Evaluate(Vector3 x, ReadOnlySpan<int> near, out int nearest)
    {
        var d = Fold(body, x, near, out nearest);
        if (garment is not null)
        {
            var cloth = Fold(garment, x, near, out _) - garment.Thickness;
            if (cloth < d)
                (d, nearest) = (cloth, -1);
        }
        if (!Flattened)
            return d;
        d = Carved(d, x.Y - Floor, FloorHem);
        foreach (var s in solids)
            d = Carved(d, s.Distance(x), 0.9f);
        return d;
    }

    /// <summary>The gradient at a place by four feelers of a tetrahedron, and their mean distance.</summary>
    /// <param name="e">How far they reach along each axis, units.</param>
    public Vector3 Gradient(Vector3 p, ReadOnlySpan<int> near, float e, out float distance)
    {
        float a = Evaluate(p + new Vector3(e, -e, -e), near, out _),
            b = Evaluate(p + new Vector3(-e, -e, e), near, out _),
            c = Evaluate(p + new Vector3(-e, e, -e), near, out _),
            d = Evaluate(p + new Vector3(e, e, e), near, out _);
        distance = (a + b + c + d) / 4;
        return Tetrahedron(a, b, c, d, e);
    }

    /// <summary>The gradient from the distances at (+,−,−), (−,−,+), (−,+,−) and (+,+,+) of a place.</summary>
    internal static Vector3 Tetrahedron(float a, float b, float c, float d, float e) =>
        new Vector3(a - b - c + d, -a - b + c + d, -a + b - c + d) / (4 * e);

    private float Fold(Skin skin, Vector3 x, ReadOnlySpan<int> near, out int nearest)
    {
        Span<float> group = stackalloc float[MostGroups];
        group.Fill(Far);
        nearest = 0;
        var least = 1e9f;
        foreach (var i in near)
        {
            ref readonly var p = ref forms[i];
            ref var g = ref group[p.Group];
            if (skin.Blend[i] <= 0 || (p.Carve && g >= Far))
                continue;
            var d = Distance(p, x);
            if (p.Carve)
            {
                g = Carved(g, d, skin.Blend[i]);
                continue;
            }
            if (d < least)
                (least, nearest) = (d, i);
            g = g >= Far ? d : Blend(g, d, skin.Blend[i]);
        }
        foreach (var (g, at, facing) in skin.Cuts)
        {
            if (group[g] < Far)
                group[g] = Carved(group[g] - skin.Thickness, -Vector3.Dot(x - at, facing), skin.Hem) + skin.Thickness;
        }
        foreach (ref readonly var j in skin.Joins.AsSpan())
        {
            float s = group[j.Source],
                t = group[j.Target];
            if (s >= Far)
                continue;
            if (j.Carve)
            {
                if (t < Far)
                    group[j.Target] = Carved(t, s, j.Blend);
                continue;
            }
            if (t >= Far)
            {
                group[j.Target] = s;
                continue;
            }
            var k = j.Blend;
            if (j.Soft && 1 - (Vector3.Distance(x, j.Near) / j.Radius) is > 0 and var q)
                k += (j.BlendNear - j.Blend) * q * q * (3 - (2 * q));
            group[j.Target] = Blend(t, s, k);
        }
        return group[0];
    }
}
