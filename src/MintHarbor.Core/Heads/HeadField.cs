using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Heads;

/// <summary>Signed distance to a head's surface, heads: below 0 inside. Forms are folded in the table's order; each is skipped where its
/// bounding ball tells that it can't matter. Blends are quadratic (smooth minimum: h²·k/4 with h = max(k − |a − b|, 0)/k).</summary>
internal sealed partial class HeadField
{
    private enum Shape
    {
        Ellipsoid,
        Cone,
        Tube,
        Box,
        Dent,
        Groove,
        Ear,
        Wedge,
        Lips,
        Eye,
        Hair,
    }

    private sealed class Form
    {
        public Shape Shape;
        public string Id = "";
        public bool Cut,
            Clip,
            Skull;
        public Vector3 At,
            To,
            Radii,
            Middle;
        public Matrix4x4 Back = Matrix4x4.Identity;
        public bool Turned;
        public float Blend,
            Radius,
            ToRadius,
            Round,
            Amount,
            Scale = 1,
            Reach = -1;
        public Vector3[] Path = [];
        public float[] Width = [];
        public Form[] Parts = [];
    }

    private readonly Form[] forms;
    private readonly HeadTables t;
    private readonly EyeRow eye;
    private readonly LipsRow lips;
    private readonly HairRow hair;
    private readonly float[][] wedge;
    private readonly Vector2[] hairline;
    private readonly Form ear;

    /// <summary>Where the hair begins: degrees round the head, height.</summary>
    public IReadOnlyList<float[]> Hairline { get; }
    public bool WithHair { get; private init; } = true;
    public bool WithEar { get; private init; } = true;
    public EyeRow Eye => eye;
    public LipsRow Lips => lips;

    public HeadField(HeadTables tables, IReadOnlyDictionary<string, float> change)
    {
        t = tables;
        forms = [.. tables.Forms.Select(f => Made(f, change))];
        ear = forms.First(f => f.Shape == Shape.Ear);
        var thick = change.GetValueOrDefault("hair", 1);
        hair = tables.Hair with { Stand = tables.Hair.Stand * thick, Top = tables.Hair.Top * thick, Back = tables.Hair.Back * thick };
        eye = tables.Eye with { BagAmp = tables.Eye.BagAmp * change.GetValueOrDefault("bag", 1) };
        lips = tables.Lips;
        wedge = tables.Wedge.Profile;
        Hairline = Finer(tables.Hair.Line, 3);
        // A curve that swings back in angle would have no side.
        for (var i = 1; i < Hairline.Count; i++)
            Hairline[i][0] = MathF.Max(Hairline[i][0], Hairline[i - 1][0] + 0.2f);
        hairline = [.. Hairline.Select(q => new Vector2(q[0] * 0.0061f, q[1]))];
    }

    private HeadField(HeadField of, Form[] forms)
    {
        this.forms = forms;
        (t, ear, hair, eye, lips, wedge, Hairline, hairline) = (of.t, of.ear, of.hair, of.eye, of.lips, of.wedge, of.Hairline, of.hairline);
    }

    /// <summary>The same head shorn, or without its ears.</summary>
    public HeadField Without(bool hair, bool ear) => hair || ear ? new(this, forms) { WithHair = !hair, WithEar = !ear } : this;

    /// <summary>How much a folded distance may change over a distance of 1: ellipsoids are no true distances.</summary>
    private const float Slope = 2;

    /// <summary>The same field for places within a ball: forms that are skipped everywhere in it are left out.</summary>
    public HeadField Near(Vector3 middle, float radius)
    {
        var p = OffMiddle(middle);
        var kept = new List<Form>();
        float d = 9,
            skull = 9;
        foreach (var f in forms)
        {
            if (!Matters(f, p, d, radius))
                continue;
            kept.Add(f);
            Add(f, p, ref d, ref skull);
        }
        return new(this, [.. kept]) { WithHair = WithHair, WithEar = WithEar };
    }

    private static bool Matters(Form f, Vector3 p, float d, float radius)
    {
        var far = Vector3.Distance(p, f.Middle) - f.Reach - radius;
        return f.Shape is Shape.Groove ? far < 0
            : f.Reach <= 0 ? true
            : f.Cut || f.Clip ? far <= f.Blend - d + (Slope * radius)
            : far <= d + f.Blend + (Slope * radius);
    }

    private static Form Made(HeadFormRow r, IReadOnlyDictionary<string, float> change)
    {
        float radii = change.GetValueOrDefault(r.Id + ".r", 1),
            x = change.GetValueOrDefault(r.Id + ".x", 1);
        Vector3 Wide(Vector3 v) => v with { X = v.X * x };
        var f = new Form
        {
            Shape = Enum.Parse<Shape>(r.Shape, true),
            Id = r.Id,
            Cut = r.Op == "cut",
            Clip = r.Op == "clip",
            Skull = r.Id.StartsWith("skull", StringComparison.Ordinal),
            At = Wide(r.At ?? default),
            To = Wide(r.To ?? default),
            Radii = (r.Radii ?? default) * radii,
            Blend = r.Blend,
            Radius = r.Radius * radii,
            ToRadius = r.ToRadius * radii,
            Round = r.Round,
            Amount = r.Amount * change.GetValueOrDefault(r.Id, 1),
            Scale = r.Scale,
            Parts = [.. (r.Parts ?? []).Select(p => Made(p, change))],
        };
        if (r.Turn is { } turn)
        {
            f.Turned = true;
            const float deg = MathF.PI / 180;
            Matrix4x4.Invert(
                Matrix4x4.CreateRotationX(turn.X * deg) * Matrix4x4.CreateRotationY(turn.Y * deg) * Matrix4x4.CreateRotationZ(turn.Z * deg),
                out f.Back
            );
        }
        if (r.Path is { } path)
        {
            // Tubes are bent along a curve; straight pieces would show as rings.
            if (path.Length >= 3)
                path = Finer(path, path.Length > 5 ? 3 : 4);
            f.Path = [.. path.Select(p => Wide(new(p[0], p[1], p[2])))];
            f.Width = [.. path.Select(p => p[3] * radii)];
        }
        (f.Middle, f.Reach) = f.Shape switch
        {
            Shape.Ellipsoid => (f.At, MathF.Max(f.Radii.X, MathF.Max(f.Radii.Y, f.Radii.Z))),
            Shape.Box => (f.At, f.Radii.Length()),
            Shape.Cone => ((f.At + f.To) / 2, (Vector3.Distance(f.At, f.To) / 2) + MathF.Max(f.Radius, f.ToRadius)),
            Shape.Tube => Ball(f.Path, f.Width, 1),
            Shape.Groove => Ball(f.Path, f.Width, 2.7f),
            Shape.Ear => (f.At, r.Reach),
            _ => (default, -1),
        };
        return f;
    }

    private static (Vector3, float) Ball(Vector3[] path, float[] width, float times)
    {
        var middle = path.Aggregate((a, b) => a + b) / path.Length;
        return (middle, path.Zip(width, (p, w) => Vector3.Distance(p, middle) + (w * times)).Max());
    }

    /// <summary>Catmull and Rom's curve through rows of numbers, <paramref name="parts"/> pieces a span.</summary>
    private static float[][] Finer(float[][] rows, int parts)
    {
        var result = new List<float[]>();
        for (var i = 0; i + 1 < rows.Length; i++)
        {
            float[] a = rows[Math.Max(0, i - 1)],
                b = rows[i],
                c = rows[i + 1],
                d = rows[Math.Min(rows.Length - 1, i + 2)];
            for (var k = 0; k < parts; k++)
            {
                float s = k / (float)parts,
                    s2 = s * s,
                    s3 = s2 * s;
                result.Add([
                    .. b.Select(
                        (_, n) =>
                            0.5f
                            * (
                                (2 * b[n])
                                + ((c[n] - a[n]) * s)
                                + (((2 * a[n]) - (5 * b[n]) + (4 * c[n]) - d[n]) * s2)
                                + (((3 * b[n]) - a[n] - (3 * c[n]) + d[n]) * s3)
                            )
                    ),
                ]);
            }
        }
        result.Add(rows[^1]);
        return [.. result];
    }

    /// <summary>Distance at a place. The mirror is rounded in the middle, or chin and lips would show a seam.</summary>
    public float At(Vector3 p) => Fold(forms, OffMiddle(p));

    private static Vector3 OffMiddle(Vector3 p) => p with { X = MathF.Sqrt((p.X * p.X) + 2.5e-5f) };

    /// <summary>Gradient from four places of a tetrahedron.</summary>
    public Vector3 Gradient(Vector3 p, float step = 0.0015f)
    {
        Vector3 a = new(1, -1, -1),
            b = new(-1, -1, 1),
            c = new(-1, 1, -1),
            e = Vector3.One;
        return ((a * At(p + (a * step))) + (b * At(p + (b * step))) + (c * At(p + (c * step))) + (e * At(p + (e * step)))) / (4 * step);
    }

    /// <summary>The first place of the surface along a direction; the last place asked where there is none.</summary>
    public Vector3 Cast(Vector3 from, Vector3 along)
    {
        along = Vector3.Normalize(along);
        var way = 0f;
        for (var i = 0; i < 300 && way < 3; i++)
        {
            var d = At(from + (along * way));
            if (d < 2e-5f)
                break;
            way += MathF.Max(d * 0.6f, 1e-5f);
        }
        return from + (along * way);
    }

    public Vector3 FromFront(float x, float y) => Cast(new(x, y, 0.8f), -Vector3.UnitZ);

    /// <summary>The nearest place of the surface, by Newton steps.</summary>
    public Vector3 Settle(Vector3 p)
    {
        for (var i = 0; i < 6; i++)
        {
            var g = Gradient(p);
            p -= g * (At(p) / MathF.Max(0.3f, g.LengthSquared()));
        }
        return p;
    }

    /// <summary>A place given in the left ear's own frame.</summary>
    public Vector3 OnEar(Vector3 p)
    {
        Matrix4x4.Invert(ear.Back, out var turn);
        return ear.At + Vector3.Transform(p * ear.Scale, turn);
    }

    /// <summary>The bent middle line of a tube by id, in the ear's frame for a part of the ear, with its radii.</summary>
    public (IReadOnlyList<Vector3> Path, IReadOnlyList<float> Radius) Tube(string id)
    {
        var f = forms.Concat(ear.Parts).First(f => f.Id == id);
        return (f.Path, f.Width);
    }

    private float Fold(Form[] list, Vector3 p)
    {
        float d = 9,
            skull = 9;
        foreach (var f in list)
            Add(f, p, ref d, ref skull);
        return d;
    }

    /// <summary>One more form over those before it.</summary>
    private void Add(Form f, Vector3 p, ref float d, ref float skull)
    {
        switch (f.Shape)
        {
            case Shape.Dent:
                var s = (Local(f, p) / f.Radii).LengthSquared();
                if (s < 14)
                    d -= f.Amount * MathF.Exp(-0.5f * s);
                return;
            case Shape.Groove:
                if (Vector3.DistanceSquared(p, f.Middle) < f.Reach * f.Reach)
                    d -= Groove(f, p);
                return;
            case Shape.Lips:
                d = OfLips(p, d);
                return;
            case Shape.Eye:
                d = OfEye(p, d);
                return;
            case Shape.Hair:
                if (WithHair)
                    d = OfHair(p, d, skull);
                return;
            case Shape.Ear when !WithEar:
                return;
        }
        if (f.Reach > 0)
        {
            var far = Vector3.Distance(p, f.Middle) - f.Reach;
            if (f.Cut || f.Clip ? far > f.Blend - d : far > d + f.Blend)
                return;
        }
        var own = Own(f, p);
        d =
            f.Cut ? Most(d, -own, f.Blend)
            : f.Clip ? Most(d, own, f.Blend)
            : Least(d, own, f.Blend);
        if (f.Skull)
            skull = d;
    }

    private static Vector3 Local(Form f, Vector3 p) => f.Turned ? Vector3.Transform(p - f.At, f.Back) : p - f.At;

    private float Own(Form f, Vector3 p)
    {
        switch (f.Shape)
        {
            case Shape.Ellipsoid:
                var q = Local(f, p) / f.Radii;
                float k0 = q.Length(),
                    k1 = (q / f.Radii).Length();
                return k1 < 1e-6f ? -MathF.Min(f.Radii.X, MathF.Min(f.Radii.Y, f.Radii.Z)) : k0 * (k0 - 1) / k1;
            case Shape.Box:
                var b = Vector3.Abs(Local(f, p)) - (f.Radii - new Vector3(f.Round));
                return Vector3.Max(b, Vector3.Zero).Length() + MathF.Min(MathF.Max(b.X, MathF.Max(b.Y, b.Z)), 0) - f.Round;
            case Shape.Cone:
                return Piece(p, f.At, f.To, f.Radius, f.ToRadius);
            case Shape.Tube:
                var d = 9f;
                for (var i = 0; i + 1 < f.Path.Length; i++)
                    d = MathF.Min(d, Piece(p, f.Path[i], f.Path[i + 1], f.Width[i], f.Width[i + 1]));
                return d;
            case Shape.Ear:
                return Fold(f.Parts, Local(f, p) / f.Scale) * f.Scale;
            default:
                return OfWedge(p);
        }
    }

    private static float Piece(Vector3 p, Vector3 a, Vector3 b, float ra, float rb)
    {
        var ab = b - a;
        var s = Math.Clamp(Vector3.Dot(p - a, ab) / ab.LengthSquared(), 0, 1);
        return Vector3.Distance(p, a + (ab * s)) - (ra + ((rb - ra) * s));
    }

    private static float Groove(Form f, Vector3 p)
    {
        var m = 9f;
        for (var i = 0; i + 1 < f.Path.Length; i++)
        {
            var ab = f.Path[i + 1] - f.Path[i];
            var s = Math.Clamp(Vector3.Dot(p - f.Path[i], ab) / ab.LengthSquared(), 0, 1);
            m = MathF.Min(m, Vector3.Distance(p, f.Path[i] + (ab * s)) / (f.Width[i] + ((f.Width[i + 1] - f.Width[i]) * s)));
        }
        return m < 3 ? f.Amount * MathF.Exp(-m * m) : 0;
    }

    public static float Least(float a, float b, float k)
    {
        if (k <= 0)
            return MathF.Min(a, b);
        var h = MathF.Max(k - MathF.Abs(a - b), 0) / k;
        return MathF.Min(a, b) - (h * h * k * 0.25f);
    }

    private static float Most(float a, float b, float k) => -Least(-a, -b, k);

    /// <summary>Smooth step from 0 at <paramref name="a"/> to 1 at <paramref name="b"/>, which may lie below it.</summary>
    public static float Step(float a, float b, float x)
    {
        var s = Math.Clamp((x - a) / (b - a), 0, 1);
        return s * s * (3 - (2 * s));
    }

    /// <summary>Between rows of [at, value …]: half straight, half a smooth step.</summary>
    public static float Between(float[][] rows, int column, float at)
    {
        if (at <= rows[0][0])
            return rows[0][column];
        for (var i = 0; i + 1 < rows.Length; i++)
        {
            if (at > rows[i + 1][0])
                continue;
            var s = (at - rows[i][0]) / (rows[i + 1][0] - rows[i][0]);
            s = 0.5f * (s + (s * s * (3 - (2 * s))));
            return rows[i][column] + ((rows[i + 1][column] - rows[i][column]) * s);
        }
        return rows[^1][column];
    }
}
