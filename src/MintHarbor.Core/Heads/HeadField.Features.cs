using System.Numerics;

namespace MintHarbor.Core.Heads;

/// <summary>Nose, lips, eyes and hair: shapes with formulas of their own.</summary>
internal sealed partial class HeadField
{
    private float OfWedge(Vector3 p)
    {
        var w = t.Wedge;
        float front = Between(wedge, 1, p.Y),
            half = Between(wedge, 2, p.Y);
        var side = (MathF.Abs(p.X) - half - ((front - p.Z) * w.Flare)) / MathF.Sqrt(1 + (w.Flare * w.Flare));
        var d = Most(side, (p.Z - front) * 0.93f, w.Blend);
        d = Most(d, (w.Bottom - p.Y) * 0.9f, 0.02f);
        d = Most(d, (p.Y - w.Top) * 0.8f, 0.03f);
        // Without an end it would come out of the back of the head.
        return MathF.Max(d, 0.26f - p.Z);
    }

    /// <summary>Height of the line between the lips.</summary>
    public float Slit(float x) =>
        lips.Y - (0.004f * Bell(x / 0.016f)) + (0.0035f * Bell((x - 0.05f) / 0.03f)) - (0.001f * Step(0.07f, lips.Corner, x));

    public float LipTop(float x) =>
        x < lips.PeakX
            ? lips.Y + lips.UpperCentre + ((lips.UpperH - lips.UpperCentre) * Step(0, lips.PeakX, x))
            : lips.Y + (lips.UpperH * (1 - MathF.Pow(Math.Clamp((x - lips.PeakX) / (lips.Corner - lips.PeakX), 0, 1), 1.25f)));

    public float LipBase(float x) => lips.Y - (lips.LowerH * MathF.Pow(1 - MathF.Pow(Math.Clamp(x / lips.Corner, 0, 1), 2.3f), 0.85f));

    private static float Bell(float x) => MathF.Exp(-x * x);

    /// <summary>The upper lip is fullest near its border and falls in towards the slit, so that it faces down and goes dark.</summary>
    private float OfLips(Vector3 p, float d)
    {
        var x = MathF.Abs(p.X);
        if (p.Z < 0.2f || x > lips.Corner * 1.5f || MathF.Abs(p.Y - lips.Y) > 0.09f)
            return d;
        float s = x / lips.Corner,
            slit = Slit(x);
        if (s < 1)
        {
            var full = MathF.Min(1, 1.6f * MathF.Pow(1 - MathF.Pow(s, 2.2f), 0.75f));
            if (p.Y >= slit)
            {
                float h = MathF.Max(LipTop(x) - slit, 0.002f),
                    u = (p.Y - slit) / h;
                var rise = u < 0.78f ? MathF.Sin(MathF.PI * 0.5f * u / 0.78f) : Bell((u - 0.78f) * h / 0.0105f);
                d -=
                    lips.UpperAmp
                    * full
                    * rise
                    * (0.82f + (0.25f * Bell(x / 0.018f)) + (0.12f * MathF.Exp(-(x - 0.045f) * (x - 0.045f) / 0.0006f)));
            }
            else
            {
                float h = MathF.Max(slit - LipBase(x), 0.002f),
                    u = (slit - p.Y) / h / 1.25f;
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
        if (s is > -1 and < 1)
            return MathF.Max(y - LidUpper(s), LidLower(s) - y) * 0.8f;
        float aside = s > 0 ? x - eye.Outer : -x - eye.Inner,
            above = y - (s > 0 ? eye.OuterY : eye.InnerY);
        return MathF.Sqrt((aside * aside) + (above * above));
    }

    /// <summary>A ball of lids, thicker above; the almond cut out; the ball put back; a crease over it and a bag under it.</summary>
    private float OfEye(Vector3 p, float d)
    {
        var q = p - eye.At;
        var l = q.Length();
        if (l > eye.Radius * 2.2f)
            return d;
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
        float nearest = 9,
            sign = 1;
        for (var i = 0; i + 1 < hairline.Length; i++)
        {
            Vector2 a = hairline[i],
                ab = hairline[i + 1] - a;
            if (hairline[i + 1].X < u.X - 0.13f || a.X > u.X + 0.13f)
                continue;
            var s = Math.Clamp(Vector2.Dot(u - a, ab) / ab.LengthSquared(), 0, 1);
            nearest = MathF.Min(nearest, (u - a - (ab * s)).LengthSquared());
            if (u.X >= a.X && u.X <= hairline[i + 1].X)
                sign = u.Y >= a.Y + (ab.Y * (u.X - a.X) / ab.X) ? 1 : -1;
        }
        return sign * MathF.Sqrt(nearest);
    }

    /// <summary>Short locks that run out from a whorl high at the back, standing off the skull from just under the skin at the hairline:
    /// a step there would show as a black crack.</summary>
    private float OfHair(Vector3 p, float d, float skull)
    {
        if (skull is > 0.12f or < -0.10f || p.Y < -0.4f)
            return d;
        var inside = InHair(p);
        if (inside < -0.05f)
            return d;
        float up = Step(-0.05f, 0.45f, p.Y),
            back = Step(0.1f, -0.4f, p.Z);
        var full = hair.Stand + (hair.Top * up) + (hair.Back * back * (1 - up));
        var q = Vector3.Normalize(p - new Vector3(0, 0.02f, -0.08f));
        float r = MathF.Acos(Math.Clamp((q.Y * 0.8f) - (q.Z * 0.6f), -1, 1)),
            round = MathF.Atan2(q.X, (q.Y * 0.6f) + (q.Z * 0.8f));
        var swirl = round + (0.35f * MathF.Sin(2.2f * r) * MathF.Sin(round));
        var big = MathF.Sin((9 * swirl) + (1.3f * MathF.Sin((6 * r) + (2 * round))));
        var mid = MathF.Sin((19 * swirl) + (1.8f * MathF.Sin(9 * r)) + 0.7f);
        var fine = MathF.Sin((43 * swirl) + (2.2f * MathF.Sin((7 * r) + (3 * swirl))));
        var tuft = MathF.Sin((15 * r) + (2.4f * MathF.Sin(5 * swirl)) + (0.8f * big));
        var far = Step(0.15f, 0.7f, r);
        var wave = (((0.55f * big) + (0.40f * mid * far) + (0.22f * fine * far)) * Step(0.02f, 0.25f, r)) + (0.35f * tuft * far);
        var ragged = inside + (0.007f * mid) + (0.004f * fine);
        var ramp = Step(-0.014f, hair.Edge, ragged);
        var stand =
            (full * ramp * (1.6f - (0.6f * ramp)))
            - (0.010f * (1 - Step(-0.014f, 0.008f, ragged)))
            + (hair.Lock * wave * Step(-0.01f, 0.04f, ragged));
        return Least(d, skull - stand, hair.Blend);
    }
}
