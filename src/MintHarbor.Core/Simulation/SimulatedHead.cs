using MintHarbor.Core.Courses;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;

namespace MintHarbor.Core.Simulation;

/// <summary>Faults of a simulated head, each known exactly, in heads.</summary>
/// <param name="EyesUp">Eyes and brows moved up.</param>
/// <param name="MouthDown">The mouth moved down.</param>
/// <param name="EyesApart">Each eye moved away from the axis.</param>
/// <param name="EarsUp">Ears moved up.</param>
/// <param name="NeckScale">Below 1: the neck too thin.</param>
public sealed record HeadFaults(double EyesUp = 0, double MouthDown = 0, double EyesApart = 0, double EarsUp = 0, double NeckScale = 1);

/// <summary>A head as a student constructs it: skull and jaw as one oval, axis and levels, then the features on them. Drawn from
/// the classical head's places, so that every landmark of the drawing is known.</summary>
public static class SimulatedHead
{
    public static SimulatedDrawing Draw(PaperSize paper, double headMm, HeadFaults f, double care, long seed)
    {
        var crown = new Vec2(paper.WidthMm / 2, (paper.HeightMm / 2) - (headMm * 0.56));
        var chin = crown + new Vec2(0, headMm);
        var at = new Dictionary<string, Vec2>(LandmarkProposal.Head(crown, chin, beginner: false, "front"))
        {
            ["crown"] = crown,
            ["chin"] = chin,
        };
        Move("eye-inner", "eye-outer", "iris-inner", "pupil", "brow", "nose-root")(new(0, -f.EyesUp), f.EyesApart);
        Move("lip-slit", "mouth-corner")(new(0, f.MouthDown), 0);
        Move("ear-top", "ear-base")(new(0, -f.EarsUp), 0);
        foreach (var s in new[] { ".L", ".R" })
            at["neck-side" + s] = new(crown.X + ((at["neck-side" + s].X - crown.X) * f.NeckScale), at["neck-side" + s].Y);
        var random = new SeededRandom(seed);
        var strokes = new List<DrawnStroke>();
        Vec2 P(double x, double y) => crown + (new Vec2(x, y) * headMm);
        Line(0.35, 0.22, P(0, -0.03), chin);
        Line(
            0.35,
            0.22,
            Mid("eye-outer.R", "eye-inner.R") + new Vec2(-headMm * 0.24, 0),
            Mid("eye-outer.L", "eye-inner.L") + new Vec2(headMm * 0.24, 0)
        );
        Line(
            0.8,
            0.75,
            crown,
            P(0.17, 0.035),
            P(0.30, 0.2),
            at["head-side.L"],
            P(0.315, 0.65),
            at["jaw-angle.L"],
            P(0.15, 0.96),
            chin,
            P(-0.15, 0.96),
            at["jaw-angle.R"],
            P(-0.315, 0.65),
            at["head-side.R"],
            P(-0.30, 0.2),
            P(-0.17, 0.035),
            crown
        );
        Line(0.5, 0.45, P(-0.28, 0.26), P(-0.2, 0.16), at["hairline"], P(0.2, 0.16), P(0.28, 0.26));
        foreach (var s in new[] { ".L", ".R" })
        {
            double away = s == ".L" ? 1 : -1,
                u = headMm;
            Vec2 inner = at["eye-inner" + s],
                outer = at["eye-outer" + s],
                pupil = at["pupil" + s],
                wing = at["wing" + s],
                corner = at["mouth-corner" + s],
                top = at["ear-top" + s],
                foot = at["ear-base" + s];
            Line(0.6, 0.8, inner, Vec2.Mid(inner, outer) + new Vec2(0, -0.028 * u), outer);
            Line(0.4, 0.5, inner, Vec2.Mid(inner, outer) + new Vec2(0, 0.018 * u), outer);
            Line(
                0.5,
                0.85,
                [
                    .. Enumerable
                        .Range(0, 13)
                        .Select(k => pupil + (new Vec2(Math.Cos(k * Math.PI / 6), Math.Sin(k * Math.PI / 6)) * (0.0265 * u))),
                ]
            );
            var brow = at["brow"].Y;
            Line(
                0.9,
                0.7,
                new(crown.X + (away * 0.045 * u), brow + (0.004 * u)),
                new(crown.X + (away * 0.12 * u), brow - (0.012 * u)),
                new(crown.X + (away * 0.208 * u), brow + (0.01 * u))
            );
            Line(
                0.5,
                0.6,
                wing + new Vec2(-away * 0.008 * u, -0.03 * u),
                wing,
                wing + new Vec2(-away * 0.03 * u, 0.022 * u),
                at["nosebase"]
            );
            Line(0.6, 0.7, at["lip-slit"], Vec2.Mid(at["lip-slit"], corner) + new Vec2(0, 0.003 * u), corner);
            Line(0.4, 0.4, at["lip-slit"] + new Vec2(0, -0.035 * u), corner);
            Line(0.4, 0.4, at["lip-slit"] + new Vec2(0, 0.042 * u), corner);
            Line(
                0.6,
                0.65,
                top + new Vec2(-away * 0.01 * u, 0.01 * u),
                top,
                top + new Vec2(away * 0.035 * u, 0.06 * u),
                Vec2.Mid(top, foot) + new Vec2(away * 0.03 * u, 0),
                foot
            );
            Line(
                0.7,
                0.65,
                at["jaw-angle" + s] + new Vec2(-away * 0.03 * u, 0.03 * u),
                at["neck-side" + s],
                at["neck-side" + s] + new Vec2(away * 0.01 * u, 0.16 * u)
            );
        }
        Line(0.5, 0.4, at["nose-root"] + new Vec2(-0.018 * headMm, 0), at["nosetip"] + new Vec2(-0.026 * headMm, -0.02 * headMm));
        return new(paper, strokes, at);

        Action<Vec2, double> Move(params string[] ids) =>
            (by, apart) =>
            {
                foreach (var id in at.Keys.Where(k => ids.Any(i => k == i || k == i + ".L" || k == i + ".R")).ToList())
                {
                    var side =
                        id.EndsWith(".L", StringComparison.Ordinal) ? 1
                        : id.EndsWith(".R", StringComparison.Ordinal) ? -1
                        : 0;
                    at[id] += (by + new Vec2(side * apart, 0)) * headMm;
                }
            };

        Vec2 Mid(string a, string b) => Vec2.Mid(at[a], at[b]);

        void Line(double width, double dark, params Vec2[] through)
        {
            var points = Smooth(through);
            for (var pass = 0; pass < (care > 0.7 ? 1 : 2); pass++)
            {
                var drift = new Vec2(random.Normal(0.9 - (0.6 * care)), random.Normal(0.9 - (0.6 * care)));
                strokes.Add(new([.. points.Select(p => p + drift)], width, dark * (pass == 0 ? 1 : 0.5)));
            }
        }
    }

    /// <summary>A curve through all points (Catmull-Rom).</summary>
    private static List<Vec2> Smooth(Vec2[] p)
    {
        if (p.Length < 3)
            return [.. p];
        var curve = new List<Vec2>();
        for (var i = 0; i + 1 < p.Length; i++)
        {
            Vec2 a = p[Math.Max(0, i - 1)],
                b = p[i],
                c = p[i + 1],
                d = p[Math.Min(p.Length - 1, i + 2)];
            for (var k = 0; k < 8; k++)
            {
                var t = k / 8.0;
                curve.Add(
                    (b * 2 + ((c - a) * t) + (((a * 2) - (b * 5) + (c * 4) - d) * (t * t)) + (((b * 3) - a - (c * 3) + d) * (t * t * t)))
                        * 0.5
                );
            }
        }
        curve.Add(p[^1]);
        return curve;
    }
}
