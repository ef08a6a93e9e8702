using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Heads;

/// <summary>A curve drawn on the face.</summary>
/// <param name="Weight">How heavily, 1 a plain mark.</param>
internal sealed record HeadCurve(string Id, Vector3[] Places, float Weight);

/// <summary>A head as it was modelled, before canon and sitter: mesh, landmarks and drawn curves, each found once on the field.</summary>
internal sealed class HeadSculpt
{
    public Mesh Mesh { get; }
    public HeadField Field { get; }
    public IReadOnlyDictionary<string, FigureLandmark> Landmarks { get; }
    public IReadOnlyList<HeadCurve> Curves { get; }
    public IReadOnlyDictionary<string, float> Levels { get; }

    /// <summary>The skull at the level of the eyes, without hair and ears, from above.</summary>
    public IReadOnlyList<Vector3> Section { get; }

    public HeadSculpt(HeadTables tables, SculptRow row, float coarser)
    {
        Field = new(tables, row.Change);
        Mesh = HeadMesher.Build(Field, tables.Grid, coarser);
        Landmarks = tables.Landmarks.SelectMany(Found).ToDictionary(l => l.Id);
        Curves =
        [
            .. Drawn()
                .SelectMany(c =>
                    Sides.Both.Select(s => new HeadCurve(
                        c.Id + (s > 0 ? ".L" : ".R"),
                        [.. c.Places.Select(p => Sides.Place(p, s))],
                        Weight(c.Id)
                    ))
                ),
        ];
        var skull = Field.Without(true, true);
        Section =
        [
            .. Along(0, MathF.Tau, 120)
                .Select(a => new Vector3(MathF.Sin(a), 0, MathF.Cos(a)))
                .Select(d => skull.Cast((d * 0.9f) + (Vector3.UnitY * 0.004f), -d)),
        ];
        float Y(string id) => Landmarks[id].Place.Y;
        Levels = new Dictionary<string, float>
        {
            ["crown"] = Y("crown"),
            ["hairline"] = Y("hairline"),
            ["brow"] = Y("brow-mid.L"),
            ["eye"] = (Y("eye-inner.L") + Y("eye-outer.L")) / 2,
            ["noseBase"] = Y("nosebase"),
            ["mouth"] = Y("lip-slit"),
            ["chin"] = Y("chin"),
        };
    }

    private IEnumerable<FigureLandmark> Found(HeadLandmarkRow row)
    {
        var on = Field.Without(row.Bald, row.WithoutEar);
        var a = row.At;
        var eye = Field.Eye;
        var p = row.Find switch
        {
            "front" => on.FromFront(a[0], a[1]),
            "cast" => on.Cast(new(a[0], a[1], a[2]), row.Along!.Value),
            "foremost" => Heights(a[0], a[1], 0.0005f).Select(y => on.FromFront(0, y)).MaxBy(q => q.Z),
            "fold" => Heights(a[0], a[1], 0.0004f)
                .Select(y => on.FromFront(0, y))
                .FirstOrDefault(q => Vector3.Normalize(on.Gradient(q)).Y < -0.5f),
            "lowest" => Lowest(on),
            "eye" when a[1] == 0 => on.FromFront(eye.At.X + Field.LidX(a[0]), eye.At.Y + (a[0] > 0 ? eye.OuterY : eye.InnerY)),
            "eye" => on.FromFront(eye.At.X, eye.At.Y + (a[1] > 0 ? Field.LidUpper(0) : Field.LidLower(0))),
            "iris" => on.FromFront(eye.At.X + (a[0] * eye.Iris), eye.At.Y + eye.PupilY),
            _ => on.Settle(Field.OnEar(new(a[0], a[1], a[2]))),
        };
        var normal = Vector3.Normalize(on.Gradient(p));
        return Sides.Of(row.Id).Select(s => new FigureLandmark(Sides.Id(row.Id, s), Sides.Place(p, s), Sides.Place(normal, s), false));
    }

    private static IEnumerable<float> Heights(float from, float to, float step)
    {
        for (var y = from; y < to; y += step)
            yield return y;
    }

    /// <summary>The lowest height at which the front is still chin and not throat.</summary>
    private static Vector3 Lowest(HeadField on)
    {
        float low = -0.60f,
            high = -0.44f;
        for (var i = 0; i < 24; i++)
        {
            var middle = (low + high) / 2;
            if (on.FromFront(0, middle).Z > 0.22f)
                high = middle;
            else
                low = middle;
        }
        return on.FromFront(0, high + 1e-5f);
    }

    private static IEnumerable<float> Along(float from, float to, int parts) =>
        Enumerable.Range(0, parts + 1).Select(i => from + ((to - from) * i / parts));

    private static float Weight(string id) =>
        id switch
        {
            "lid-upper" or "lip-slit" => 1.9f,
            "nostril" or "brow" => 1.5f,
            "pupil" or "wing" => 1.2f,
            "lock" or "philtrum" or "ear-fold" => 0.65f,
            _ => 1,
        };

    /// <summary>The left half of what a hand draws on a face.</summary>
    private IEnumerable<(string Id, IEnumerable<Vector3> Places)> Drawn()
    {
        var (eye, lips) = (Field.Eye, Field.Lips);
        IEnumerable<Vector3> Front(IEnumerable<(float X, float Y)> at) => at.Select(q => Field.FromFront(q.X, q.Y));
        IEnumerable<Vector3> Lid(float from, float to, Func<float, float> y) =>
            Front(Along(from, to, 28).Select(s => (eye.At.X + Field.LidX(s), eye.At.Y + y(s))));
        IEnumerable<Vector3> Ring(float radius) =>
            Front(
                Along(0, MathF.Tau, 40)
                    .Select(a =>
                    {
                        float x = radius * MathF.Cos(a),
                            y = eye.PupilY + (radius * MathF.Sin(a)),
                            s = x > 0 ? x / eye.Outer : x / eye.Inner;
                        return (eye.At.X + x, eye.At.Y + Math.Clamp(y, Field.LidLower(s), Field.LidUpper(s)));
                    })
            );
        yield return ("lid-upper", Lid(-1, 1, Field.LidUpper));
        yield return ("lid-lower", Lid(-0.95f, 1, Field.LidLower));
        yield return ("lid-crease", Lid(-0.8f, 0.98f, Field.LidCrease));
        yield return ("iris", Ring(eye.Iris));
        yield return ("pupil", Ring(eye.Pupil));
        float[][] brow =
        [
            [0.04f, 0.066f, 0.052f],
            [0.09f, 0.083f, 0.066f],
            [0.15f, 0.087f, 0.072f],
            [0.215f, 0.058f, 0.052f],
        ];
        yield return ("brow", Front(Along(0.042f, 0.212f, 24).Select(x => (x, HeadField.Between(brow, 1, x)))));
        yield return ("brow-under", Front(Along(0.042f, 0.17f, 18).Select(x => (x, HeadField.Between(brow, 2, x)))));
        yield return ("lip-slit", Front(Along(0, lips.Corner, 30).Select(x => (x, Field.Slit(x)))));
        yield return ("lip-top", Front(Along(0, lips.Corner * 0.97f, 26).Select(x => (x, Field.LipTop(x)))));
        yield return ("lip-base", Front(Along(0, lips.Corner * 0.72f, 20).Select(x => (x, Field.LipBase(x)))));
        yield return (
            "nostril",
            Front(Along(0.1f, 2.9f, 16).Select(a => (0.026f + (0.0115f * MathF.Cos(a)), -0.2125f + (0.007f * MathF.Sin(a)))))
        );
        yield return ("wing", Front([(0.052f, -0.158f), (0.061f, -0.168f), (0.066f, -0.180f), (0.067f, -0.193f), (0.063f, -0.205f)]));
        yield return ("philtrum", Front([(0.013f, -0.240f), (0.0145f, -0.250f), (0.0165f, -0.262f)]));
        yield return ("hairline", HairEdge());
        for (var n = 0; n < 15; n++)
            yield return ("lock", Lock(n));
        yield return (
            "jaw",
            Along(0, 1, 24)
                .Select(s =>
                {
                    var on =
                        Vector3.Lerp(new(0.225f, -0.315f, 0.02f), new(0.06f, -0.475f, 0.315f), s)
                        + (new Vector3(0.02f, -0.012f, 0) * MathF.Sin(s * MathF.PI));
                    var away = Vector3.Normalize(new Vector3(0.62f, -0.78f, 0));
                    return Field.Cast(on + (away * 0.12f), -away);
                })
        );
        var (neck, thick) = Field.Tube("sterno");
        yield return ("neck-muscle", neck.Select((p, i) => Field.Settle(p + new Vector3(-0.012f, 0, thick[i] * 0.9f))).Skip(4));
        var (rim, width) = Field.Tube("helix");
        yield return (
            "ear-rim",
            rim.Select(
                (p, i) =>
                {
                    var inward = new Vector3(0, -0.01f, -0.015f) - p;
                    inward.X = 0;
                    if (inward.Length() > 0)
                        inward = Vector3.Normalize(inward);
                    return Field.Settle(Field.OnEar(p + (inward * width[i] * 0.9f) + new Vector3(0.004f, 0, 0)));
                }
            )
        );
        foreach (var id in new[] { "antihelix", "antihelix2" })
        {
            var (path, radius) = Field.Tube(id);
            yield return ("ear-fold", path.Select((p, i) => Field.Settle(Field.OnEar(p + new Vector3(radius[i], 0, 0)))));
        }
    }

    private IEnumerable<Vector3> HairEdge()
    {
        var on = Field.Without(false, true);
        var line = Field.Hairline;
        for (var i = 0; i < 2 * (line.Count - 1); i++)
        {
            float[] a = line[i / 2],
                b = line[(i / 2) + 1];
            float s = i % 2 / 2f,
                angle = (a[0] + ((b[0] - a[0]) * s)) * MathF.PI / 180,
                y = a[1] + ((b[1] - a[1]) * s);
            var away = new Vector3(MathF.Sin(angle), 0, MathF.Cos(angle));
            yield return on.Cast(new Vector3(0, y + 0.008f + (i % 2 == 0 ? 0.005f : -0.005f), -0.06f) + (away * 0.9f), -away);
        }
    }

    /// <summary>One of the strokes that run from the whorl; it ends short of the hairline.</summary>
    private List<Vector3> Lock(int n)
    {
        float round = 0.10f + (n * 0.205f),
            from = 0.35f + (0.22f * (n * 7 % 5) / 4),
            way = 0.55f + (0.25f * (n * 3 % 4) / 3);
        var whorl = new Vector3(0, 0.02f, -0.08f);
        var places = new List<Vector3>();
        foreach (var r in Along(from, from + way, 16))
        {
            var a = round + (0.10f * MathF.Sin((3 * r) + n));
            float c = MathF.Cos(r),
                f = MathF.Sin(r) * MathF.Cos(a);
            var away = new Vector3(MathF.Sin(r) * MathF.Sin(a), (c * 0.80f) + (f * 0.60f), (-c * 0.60f) + (f * 0.80f));
            var p = Field.Cast(whorl + (away * 0.85f), -away);
            if (Field.InHair(p) < 0.012f)
                break;
            places.Add(p);
        }
        return places;
    }
}
