using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Heads;

/// <summary>Signed distance to a head's surface, heads: below 0 inside. Forms are folded in the table's order; each is skipped where its
/// bounding ball tells that it can't matter. Blends are quadratic (smooth minimum: h²·k/4 with h = max(k − |a − b|, 0)/k).</summary>
internal sealed class HeadField
{
    private enum Shape { Ellipsoid, Cone, Tube, Box, Dent, Groove, Ear, Wedge, Lips, Eye, Hair }

    private sealed class Form
    {
        public Shape Shape;
        public string Id = "";
        public bool Cut, Clip, Skull;
        public Vector3 At, To, Radii, Middle;
        public Matrix4x4 Back = Matrix4x4.Identity;
        public bool Turned;
        public float Blend, Radius, ToRadius, Round, Amount, Scale = 1, Reach = -1;
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
        for (var i = 1; i < Hairline.Count; i++) Hairline[i][0] = MathF.Max(Hairline[i][0], Hairline[i - 1][0] + 0.2f);
        hairline = [.. Hairline.Select(q => new Vector2(q[0] * 0.0061f, q[1]))];
    }

    private HeadField(HeadField of)
    {
        (t, forms, ear, hair, eye, lips, wedge, Hairline, hairline) = (of.t, of.forms, of.ear, of.hair, of.eye, of.lips, of.wedge, of.Hairline, of.hairline);
    }

    /// <summary>The same head shorn, or without its ears.</summary>
    public HeadField Without(bool hair, bool ear) => hair || ear ? new(this) { WithHair = !hair, WithEar = !ear } : this;

    private static Form Made(HeadFormRow r, IReadOnlyDictionary<string, float> change)
    {
        float radii = change.GetValueOrDefault(r.Id + ".r", 1), x = change.GetValueOrDefault(r.Id + ".x", 1);
        Vector3 Wide(Vector3 v) => v with { X = v.X * x };
        var f = new Form
        {
            Shape = Enum.Parse<Shape>(r.Shape, true), Id = r.Id, Cut = r.Op == "cut", Clip = r.Op == "clip", Skull = r.Id.StartsWith("skull", StringComparison.Ordinal),
            At = Wide(r.At ?? default), To = Wide(r.To ?? default), Radii = (r.Radii ?? default) * radii, Blend = r.Blend, Radius = r.Radius * radii, ToRadius = r.ToRadius * radii,
            Round = r.Round, Amount = r.Amount * change.GetValueOrDefault(r.Id, 1), Scale = r.Scale,
            Parts = [.. (r.Parts ?? []).Select(p => Made(p, change))],
        };
        if (r.Turn is { } turn)
        {
            f.Turned = true;
            const float deg = MathF.PI / 180;
            Matrix4x4.Invert(Matrix4x4.CreateRotationX(turn.X * deg) * Matrix4x4.CreateRotationY(turn.Y * deg) * Matrix4x4.CreateRotationZ(turn.Z * deg), out f.Back);
        }
        if (r.Path is { } path)
        {
            // Tubes are bent along a curve; straight pieces would show as rings.
            if (path.Length >= 3) path = Finer(path, path.Length > 5 ? 3 : 4);
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
            float[] a = rows[Math.Max(0, i - 1)], b = rows[i], c = rows[i + 1], d = rows[Math.Min(rows.Length - 1, i + 2)];
            for (var k = 0; k < parts; k++)
            {
                float s = k / (float)parts, s2 = s * s, s3 = s2 * s;
                result.Add([.. b.Select((_, n) => 0.5f * ((2 * b[n]) + ((c[n] - a[n]) * s) + (((2 * a[n]) - (5 * b[n]) + (4 * c[n]) - d[n]) * s2) + (((3 * b[n]) - a[n] - (3 * c[n]) + d[n]) * s3)))]);
            }
        }
        result.Add(rows[^1]);
        return [.. result];
    }

    /// <summary>Distance at a place. The mirror is rounded in the middle, or chin and lips would show a seam.</summary>
    public float At(Vector3 p) => Fold(forms, p with { X = MathF.Sqrt((p.X * p.X) + 2.5e-5f) });

    /// <summary>Gradient from four places of a tetrahedron.</summary>
    public Vector3 Gradient(Vector3 p, float step = 0.0015f)
    {
        Vector3 a = new(1, -1, -1), b = new(-1, -1, 1), c = new(-1, 1, -1), e = Vector3.One;
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
            if (d < 2e-5f) break;
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
        float d = 9, skull = 9;
        foreach (var f in list)
        {
            switch (f.Shape)
            {
                case Shape.Dent:
                    var s = (Local(f, p) / f.Radii).LengthSquared();
                    if (s < 14) d -= f.Amount * MathF.Exp(-0.5f * s);
                    continue;
                case Shape.Groove:
                    if (Vector3.DistanceSquared(p, f.Middle) < f.Reach * f.Reach) d -= Groove(f, p);
                    continue;
                case Shape.Lips: d = OfLips(p, d); continue;
                case Shape.Eye: d = OfEye(p, d); continue;
                case Shape.Hair:
                    if (WithHair) d = OfHair(p, d, skull);
                    continue;
                case Shape.Ear when !WithEar: continue;
            }
            if (f.Reach > 0)
            {
                var far = Vector3.Distance(p, f.Middle) - f.Reach;
                if (f.Cut || f.Clip ? far > f.Blend - d : far > d + f.Blend) continue;
            }
            var own = Own(f, p);
            d = f.Cut ? Most(d, -own, f.Blend) : f.Clip ? Most(d, own, f.Blend) : Least(d, own, f.Blend);
            if (f.Skull) skull = d;
        }
        return d;
    }

    private static Vector3 Local(Form f, Vector3 p) => f.Turned ? Vector3.Transform(p - f.At, f.Back) : p - f.At;

    private float Own(Form f, Vector3 p)
    {
        switch (f.Shape)
        {
            case Shape.Ellipsoid:
                var q = Local(f, p) / f.Radii;
                float k0 = q.Length(), k1 = (q / f.Radii).Length();
                return k1 < 1e-6f ? -MathF.Min(f.Radii.X, MathF.Min(f.Radii.Y, f.Radii.Z)) : k0 * (k0 - 1) / k1;
            case Shape.Box:
                var b = Vector3.Abs(Local(f, p)) - (f.Radii - new Vector3(f.Round));
                return Vector3.Max(b, Vector3.Zero).Length() + MathF.Min(MathF.Max(b.X, MathF.Max(b.Y, b.Z)), 0) - f.Round;
            case Shape.Cone: return Piece(p, f.At, f.To, f.Radius, f.ToRadius);
            case Shape.Tube:
                var d = 9f;
                for (var i = 0; i + 1 < f.Path.Length; i++) d = MathF.Min(d, Piece(p, f.Path[i], f.Path[i + 1], f.Width[i], f.Width[i + 1]));
                return d;
            case Shape.Ear: return Fold(f.Parts, Local(f, p) / f.Scale) * f.Scale;
            default: return OfWedge(p);
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
        if (k <= 0) return MathF.Min(a, b);
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
        if (at <= rows[0][0]) return rows[0][column];
        for (var i = 0; i + 1 < rows.Length; i++)
        {
            if (at > rows[i + 1][0]) continue;
            var s = (at - rows[i][0]) / (rows[i + 1][0] - rows[i][0]);
            s = 0.5f * (s + (s * s * (3 - (2 * s))));
            return rows[i][column] + ((rows[i + 1][column] - rows[i][column]) * s);
        }
        return rows[^1][column];
    }

    private float OfWedge(Vector3 p)
    {
        var w = t.Wedge;
        float front = Between(wedge, 1, p.Y), half = Between(wedge, 2, p.Y);
        var side = (MathF.Abs(p.X) - half - ((front - p.Z) * w.Flare)) / MathF.Sqrt(1 + (w.Flare * w.Flare));
        var d = Most(side, (p.Z - front) * 0.93f, w.Blend);
        d = Most(d, (w.Bottom - p.Y) * 0.9f, 0.02f);
        d = Most(d, (p.Y - w.Top) * 0.8f, 0.03f);
        // Without an end it would come out of the back of the head.
        return MathF.Max(d, 0.26f - p.Z);
    }

    /// <summary>Height of the line between the lips.</summary>
    public float Slit(float x) => lips.Y - (0.004f * Bell(x / 0.016f)) + (0.0035f * Bell((x - 0.05f) / 0.03f)) - (0.001f * Step(0.07f, lips.Corner, x));

    public float LipTop(float x) => x < lips.PeakX
        ? lips.Y + lips.UpperCentre + ((lips.UpperH - lips.UpperCentre) * Step(0, lips.PeakX, x))
        : lips.Y + (lips.UpperH * (1 - MathF.Pow(Math.Clamp((x - lips.PeakX) / (lips.Corner - lips.PeakX), 0, 1), 1.25f)));

    public float LipBase(float x) => lips.Y - (lips.LowerH * MathF.Pow(1 - MathF.Pow(Math.Clamp(x / lips.Corner, 0, 1), 2.3f), 0.85f));

    private static float Bell(float x) => MathF.Exp(-x * x);

    /// <summary>The upper lip is fullest near its border and falls in towards the slit, so that it faces down and goes dark.</summary>
    private float OfLips(Vector3 p, float d)
    {
        var x = MathF.Abs(p.X);
        if (p.Z < 0.2f || x > lips.Corner * 1.5f || MathF.Abs(p.Y - lips.Y) > 0.09f) return d;
        float s = x / lips.Corner, slit = Slit(x);
        if (s < 1)
        {
            var full = MathF.Min(1, 1.6f * MathF.Pow(1 - MathF.Pow(s, 2.2f), 0.75f));
            if (p.Y >= slit)
            {
                float h = MathF.Max(LipTop(x) - slit, 0.002f), u = (p.Y - slit) / h;
                var rise = u < 0.78f ? MathF.Sin(MathF.PI * 0.5f * u / 0.78f) : Bell((u - 0.78f) * h / 0.0105f);
                d -= lips.UpperAmp * full * rise * (0.82f + (0.25f * Bell(x / 0.018f)) + (0.12f * MathF.Exp(-(x - 0.045f) * (x - 0.045f) / 0.0006f)));
            }
            else
            {
                float h = MathF.Max(slit - LipBase(x), 0.002f), u = (slit - p.Y) / h / 1.25f;
                var rise = u < 1 ? MathF.Sin(MathF.PI * ((1.35f * u) - (0.35f * u * u))) : 0;
                d -= lips.LowerAmp * full * rise * (0.85f + (0.2f * MathF.Exp(-(x - 0.03f) * (x - 0.03f) / 0.0009f)));
            }
        }
        return d + (lips.Slit * Bell((p.Y - slit) / lips.SlitW) * (1 - Step(0.94f, 1.08f, s)));
    }

    /// <summary>x of a place between the lids' corners: −1 inner, 1 outer.</summary>
    public float LidX(float s) => s > 0 ? s * eye.Outer : s * eye.Inner;

    private float Rim(float s) => eye.InnerY + ((eye.OuterY - eye.InnerY) * ((s * 0.5f) + 0.5f));

    public float LidUpper(float s)
    {
        var u = s - (eye.UpperPeak * (1 - (s * s)));
        return Rim(s) + (eye.Upper * MathF.Pow(MathF.Max(0, 1 - (u * u)), 0.72f));
    }

    public float LidLower(float s)
    {
        var u = s - (eye.LowerPeak * (1 - (s * s)));
        return Rim(s) - (eye.Lower * MathF.Pow(MathF.Max(0, 1 - (u * u)), 0.8f));
    }

    public float LidCrease(float s) => LidUpper(s) + (eye.Crease * (1 - (0.35f * s * s))) - (0.004f * s);

    private float Almond(float x, float y)
    {
        var s = x > 0 ? x / eye.Outer : x / eye.Inner;
        if (s is > -1 and < 1) return MathF.Max(y - LidUpper(s), LidLower(s) - y) * 0.8f;
        float aside = s > 0 ? x - eye.Outer : -x - eye.Inner, above = y - (s > 0 ? eye.OuterY : eye.InnerY);
        return MathF.Sqrt((aside * aside) + (above * above));
    }

    /// <summary>A ball of lids, thicker above; the almond cut out; the ball put back; a crease over it and a bag under it.</summary>
    private float OfEye(Vector3 p, float d)
    {
        var q = p - eye.At;
        var l = q.Length();
        if (l > eye.Radius * 2.2f) return d;
        d = Least(d, l - (eye.Radius + (eye.Lid * (0.85f + (0.5f * Step(-0.01f, 0.03f, q.Y))))), eye.Blend);
        if (q.Z > 0)
        {
            d = Most(d, -MathF.Max(Almond(q.X, q.Y), (eye.Radius * 0.8f) - l), eye.Edge);
            var s = q.X > 0 ? q.X / eye.Outer : q.X / eye.Inner;
            if (s is > -1.1f and < 1.25f)
            {
                var c = Math.Clamp(s, -1, 1);
                d += eye.CreaseAmp * Step(-1.1f, -0.6f, s) * (1 - Step(0.9f, 1.25f, s)) * Bell((q.Y - LidCrease(c)) / 0.0055f);
                d += eye.BagAmp * (1 - (c * c * 0.7f)) * Bell((q.Y - (LidLower(c) - 0.024f + (0.006f * c))) / 0.008f);
            }
        }
        return Least(d, l - eye.Radius, 0.003f);
    }

    /// <summary>Signed way to the hairline on the unrolled skull, above 0 inside the hair.</summary>
    public float InHair(Vector3 p)
    {
        var u = new Vector2(MathF.Atan2(MathF.Abs(p.X), p.Z + 0.06f) * 0.35f, p.Y);
        float nearest = 9, sign = 1;
        for (var i = 0; i + 1 < hairline.Length; i++)
        {
            Vector2 a = hairline[i], ab = hairline[i + 1] - a;
            if (hairline[i + 1].X < u.X - 0.13f || a.X > u.X + 0.13f) continue;
            var s = Math.Clamp(Vector2.Dot(u - a, ab) / ab.LengthSquared(), 0, 1);
            nearest = MathF.Min(nearest, (u - a - (ab * s)).LengthSquared());
            if (u.X >= a.X && u.X <= hairline[i + 1].X) sign = u.Y >= a.Y + (ab.Y * (u.X - a.X) / ab.X) ? 1 : -1;
        }
        return sign * MathF.Sqrt(nearest);
    }

    /// <summary>Short locks that run out from a whorl high at the back, standing off the skull from just under the skin at the hairline:
    /// a step there would show as a black crack.</summary>
    private float OfHair(Vector3 p, float d, float skull)
    {
        if (skull is > 0.12f or < -0.10f || p.Y < -0.4f) return d;
        var inside = InHair(p);
        if (inside < -0.05f) return d;
        float up = Step(-0.05f, 0.45f, p.Y), back = Step(0.1f, -0.4f, p.Z);
        var full = hair.Stand + (hair.Top * up) + (hair.Back * back * (1 - up));
        var q = Vector3.Normalize(p - new Vector3(0, 0.02f, -0.08f));
        float r = MathF.Acos(Math.Clamp((q.Y * 0.8f) - (q.Z * 0.6f), -1, 1)), round = MathF.Atan2(q.X, (q.Y * 0.6f) + (q.Z * 0.8f));
        var swirl = round + (0.35f * MathF.Sin(2.2f * r) * MathF.Sin(round));
        var big = MathF.Sin((9 * swirl) + (1.3f * MathF.Sin((6 * r) + (2 * round))));
        var mid = MathF.Sin((19 * swirl) + (1.8f * MathF.Sin(9 * r)) + 0.7f);
        var fine = MathF.Sin((43 * swirl) + (2.2f * MathF.Sin((7 * r) + (3 * swirl))));
        var tuft = MathF.Sin((15 * r) + (2.4f * MathF.Sin(5 * swirl)) + (0.8f * big));
        var far = Step(0.15f, 0.7f, r);
        var wave = (((0.55f * big) + (0.40f * mid * far) + (0.22f * fine * far)) * Step(0.02f, 0.25f, r)) + (0.35f * tuft * far);
        var ragged = inside + (0.007f * mid) + (0.004f * fine);
        var ramp = Step(-0.014f, hair.Edge, ragged);
        var stand = (full * ramp * (1.6f - (0.6f * ramp))) - (0.010f * (1 - Step(-0.014f, 0.008f, ragged))) + (hair.Lock * wave * Step(-0.01f, 0.04f, ragged));
        return Least(d, skull - stand, hair.Blend);
    }
}
