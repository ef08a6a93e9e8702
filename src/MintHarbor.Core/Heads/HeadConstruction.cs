using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Heads;

/// <summary>The simple forms a head is built from, fitted to its landmarks and not to its mesh: ball of the skull with its flat side,
/// cross-curves wrapped round the face at every level, the axis down the front, jaw, ear, hair and neck. Roles that end in "-back" lie on
/// the far side.</summary>
internal sealed class HeadConstruction
{
    private readonly HeadModel head;
    private readonly SeatCamera camera;
    private readonly List<ConstructionLine> lines = [];
    private readonly Vector3 centre,
        radii;
    private readonly float[] levels,
        front,
        breadth,
        back;

    public static IReadOnlyList<ConstructionLine> Draw(HeadModel head, SeatCamera camera)
    {
        var c = new HeadConstruction(head, camera);
        c.Skull();
        c.CrossCurves();
        c.Axis();
        foreach (var side in Sides.Both)
            c.JawAndEar(side);
        c.Hair();
        c.Neck();
        return c.lines;
    }

    private HeadConstruction(HeadModel head, SeatCamera camera)
    {
        (this.head, this.camera) = (head, camera);
        Vector3 crown = At("crown"),
            brow = At("glabella") with { Y = At("brow-mid.L").Y };
        radii = new(MathF.Max(At("temple.L").X, 30) * 1.06f, crown.Y - brow.Y, (brow.Z - At("occiput").Z) / 2);
        centre = new(0, brow.Y, (brow.Z + At("occiput").Z) / 2);
        // Breadths and hind ends of the half superellipses at chin, mouth, nose base, eyes, brow, hairline, crown: from the table of
        // the classical head; the jaw's follow the sitter's jaw.
        levels = [At("chin").Y, At("lip-slit").Y, At("nosebase").Y, At("pupil.L").Y, brow.Y, At("hairline").Y, crown.Y];
        var jaw = At("jaw-angle.L").X / 25.45f;
        breadth = [10.5f * jaw, 21.2f * jaw, 25 * (1 + ((jaw - 1) * 0.7f)), 28.2f, 27.5f, 23.5f, 13];
        back = [21, 7, 5, 3, 3, 2, -5];
        front =
        [
            At("chin-front").Z - 1.2f,
            At("lip-slit").Z - 0.8f,
            At("nosebase").Z - 2.5f,
            At("nose-root").Z - 0.8f,
            brow.Z,
            At("hairline").Z,
            10,
        ];
    }

    private Vector3 At(string id) => head.Landmark(id).Place;

    private Vector2 Flat(Vector3 p)
    {
        var q = camera.Project(p);
        return new(q.X, q.Y);
    }

    private bool Faces(Vector3 normal) => Vector3.Dot(normal, camera.Forward) < 0;

    private void Line(string role, IEnumerable<Vector3> places, bool closed = false) =>
        lines.Add(new(role, [.. places.Select(Flat)], closed));

    private static IEnumerable<float> Round(int parts, float from = 0, float to = MathF.Tau) =>
        Enumerable.Range(0, parts + 1).Select(i => from + ((to - from) * i / parts));

    /// <summary>A curve on a form: whole where its normal faces the viewer, broken where it turns away.</summary>
    private void OnForm(string role, IEnumerable<(Vector3 Place, Vector3 Normal)> curve)
    {
        var run = new List<Vector3>();
        bool? seen = null;
        foreach (var (p, n) in curve)
        {
            var faces = Faces(n);
            if (seen is { } before && faces != before)
            {
                run.Add(p);
                Line(before ? role : role + "-back", run);
                run = [];
            }
            run.Add(p);
            seen = faces;
        }
        if (run.Count > 1)
            Line(seen == true ? role : role + "-back", run);
    }

    /// <summary>The outline of an ellipsoid as it is seen.</summary>
    private IEnumerable<Vector3> Outline(Vector3 radii, int parts)
    {
        var a = Vector3.Normalize(camera.Forward / radii);
        var u = Vector3.Normalize(Vector3.Cross(a, MathF.Abs(a.Y) < 0.9f ? Vector3.UnitY : Vector3.UnitX));
        var v = Vector3.Cross(a, u);
        return Round(parts).Select(t => centre + (((u * MathF.Cos(t)) + (v * MathF.Sin(t))) * radii));
    }

    private void Skull()
    {
        Line("ball", Outline(radii, 72));
        const float cut = 0.80f;
        var r = MathF.Sqrt(1 - (cut * cut));
        foreach (var side in Sides.Both)
        {
            if (!Faces(new(side, 0, 0)))
                continue;
            Vector3 On(float y, float z) => centre + (new Vector3(side * cut, y * r, z * r) * radii);
            Line("side", Round(48).Select(t => On(MathF.Sin(t), MathF.Cos(t))));
            Line("side", [On(1, 0), On(-1, 0)]);
            Line("side", [On(0, 1), On(0, -1)]);
        }
    }

    private float Level(float[] values, float y)
    {
        if (y <= levels[0])
            return values[0];
        if (y >= levels[^1])
            return values[^1];
        var i = 0;
        while (y > levels[i + 1])
            i++;
        float Chord(int k) => (values[k + 1] - values[k]) / (levels[k + 1] - levels[k]);
        float Slope(int k) =>
            k == 0 ? Chord(0)
            : k == levels.Length - 1 ? Chord(k - 1)
            : Chord(k - 1) * Chord(k) <= 0 ? 0
            : 2 * Chord(k - 1) * Chord(k) / (Chord(k - 1) + Chord(k));
        float h = levels[i + 1] - levels[i],
            s = (y - levels[i]) / h,
            s2 = s * s,
            s3 = s2 * s;
        return (((2 * s3) - (3 * s2) + 1) * values[i])
            + ((s3 - (2 * s2) + s) * h * Slope(i))
            + (((-2 * s3) + (3 * s2)) * values[i + 1])
            + ((s3 - s2) * h * Slope(i + 1));
    }

    /// <summary>Half superellipses from side to side, power 0.8.</summary>
    private void CrossCurves()
    {
        const float e = 0.80f;
        for (var i = 0; i < levels.Length - 1; i++)
        {
            var y = i == 0 ? levels[0] + 1.2f : levels[i];
            float w = Level(breadth, y),
                far = Level(front, y),
                near = Level(back, y);
            OnForm(
                i is 3 or 4 ? "cross-heavy" : "cross",
                Round(40, -MathF.PI / 2, MathF.PI / 2)
                    .Select(t =>
                    {
                        float s = MathF.Sin(t),
                            c = MathF.Max(0, MathF.Cos(t)),
                            sign = MathF.Sign(s);
                        return (
                            new Vector3(w * sign * MathF.Pow(MathF.Abs(s), e), y, near + ((far - near) * MathF.Pow(c, e))),
                            new Vector3(sign * MathF.Pow(MathF.Abs(s), 2 - e) / w, 0, MathF.Pow(c, 2 - e) / (far - near))
                        );
                    })
            );
        }
    }

    private void Axis()
    {
        float crown = At("crown").Y,
            chin = At("chin").Y,
            hairline = At("hairline").Y,
            hairZ = At("hairline").Z;
        OnForm(
            "median",
            Round(39, crown, chin)
                .Select(y =>
                {
                    var z = Level(front, y);
                    if (y > hairline)
                    {
                        float at = (hairline - centre.Y) / radii.Y,
                            q = (y - centre.Y) / radii.Y;
                        z = -6 + ((hairZ + 6) / MathF.Sqrt(1 - (at * at)) * MathF.Sqrt(MathF.Max(0, 1 - (q * q))));
                    }
                    return (new Vector3(0, y, z), new Vector3(0, MathF.Max(0, (y - 30) * 0.04f), 1));
                })
        );
    }

    private void JawAndEar(int side)
    {
        var s = side > 0 ? ".L" : ".R";
        var faces = Faces(new(side, 0, 0.25f));
        Vector3 front = At("ear-front" + s),
            chin = At("chin"),
            chinFront = At("chin-front");
        Line(
            faces ? "jaw" : "jaw-back",
            [
                front with
                {
                    X = front.X - (side * 3),
                },
                At("jaw-angle" + s),
                At("chin-side" + s) with
                {
                    Y = chin.Y + 1.2f,
                    Z = chinFront.Z - 4.5f,
                },
                chin with
                {
                    Z = chinFront.Z - 3,
                },
            ]
        );
        if (!faces)
            return;
        Vector3 top = At("ear-top" + s),
            foot = At("ear-base" + s);
        var up = new Vector3(side * 3, top.Y - foot.Y, -5.5f);
        Vector3 hind = new(side * 3.5f, -1.2f, -13.5f),
            inward = new(-side * 4.8f, 0, 0);
        var a = foot + new Vector3(-side * 1.2f, 0, front.Z - foot.Z + 1.2f);
        Line("ear", [a, a + up, a + up + hind, a + hind, a]);
        Line("ear", [a + up + hind, a + up + hind + inward, a + hind + inward, a + hind]);
    }

    /// <summary>The skull's ball grown by the hair: above the hairline in front, down to the nape behind.</summary>
    private void Hair()
    {
        var grow = At("hair-top").Y - At("crown").Y;
        var run = new List<Vector3>();
        foreach (var p in Outline(radii + (new Vector3(0.75f, 1, 0.8f) * grow), 144))
        {
            var on = p.Y > centre.Y - 4 - (p.Z < -15 ? 25 : 0) && !(p.Z > 20 && p.Y < At("hairline").Y);
            if (on)
            {
                run.Add(p);
                continue;
            }
            if (run.Count > 1)
                Line("hair", run);
            run = [];
        }
        if (run.Count > 1)
            Line("hair", run);
    }

    /// <summary>A leaning cylinder: an ellipse under the jaw, one over the pit of the neck, and their common sides.</summary>
    private void Neck()
    {
        var breadth = At("neck-side.L").X * 1.05f;
        Vector3 top = new(0, At("chin").Y - 2, -10),
            foot = new(0, At("pit").Y + 2, At("pit").Z - 19);
        List<Vector3> Ring(Vector3 middle, float a, float slope) =>
            [.. Round(48).Select(t => middle + new Vector3(a * MathF.Cos(t), 21 * MathF.Sin(t) * slope, 21 * MathF.Sin(t)))];
        List<Vector3> upper = Ring(top, breadth, 0.12f),
            lower = Ring(foot, breadth * 1.06f, -0.35f);
        Line("neck-back", upper);
        Line("neck", lower);
        foreach (var side in Sides.Both)
            Line("neck", [upper.MaxBy(p => side * Flat(p).X), lower.MaxBy(p => side * Flat(p).X)]);
    }
}
