using System.Numerics;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Figure;

/// <summary>One piece of a construction: its role names how it is drawn (egg, cross, box, axis, joint, tilt, median, action, plumb).</summary>
public sealed record ConstructionLine(string Role, Vector2[] Places, bool Closed = false);

/// <summary>The simple forms a figure is built from: eggs of head and ribcage with their cross-curves, box of the pelvis, axes of the
/// limbs, the lines of shoulders, hips and knees, the middle line down the front, the line of action, the plumb from the pit of the neck.</summary>
internal static class ConstructionView
{
    public static List<ConstructionLine> Draw(FigureModel model, SeatCamera camera)
    {
        var lines = new List<ConstructionLine>();
        var s = model.Skeleton;
        Vector2 Flat(Vector3 p)
        {
            var q = camera.Project(p);
            return new(q.X, q.Y);
        }
        void Line(string role, IEnumerable<Vector3> places, bool closed = false) => lines.Add(new(role, [.. places.Select(Flat)], closed));
        Vector3 Joint(string bone) => s.Joint[s.Body.BoneIndex(bone)];

        Egg("head", new(0, 93.6f, -0.4f), new(4.4f, 6.6f, 5.6f), -0.12f);
        Egg("thorax", Ribcage.Centre, Ribcage.Radii, Ribcage.Taper);
        var corner = PelvisCorners(s);
        for (var i = 0; i < 8; i++)
        for (var axis = 0; axis < 3; axis++)
            if ((i ^ (1 << axis)) is var j && j > i)
                Line("box", [corner[i], corner[j]]);
        foreach (var side in new[] { ".L", ".R" })
        {
            foreach (var limb in new[] { new[] { "arm", "fore", "hand", "fing" }, ["hip", "knee", "foot", "toe"] })
            {
                Line("axis", limb.Select(b => Joint(b + side)));
                foreach (var b in limb.Take(3))
                    lines.Add(new("joint", [Flat(Joint(b + side))]));
            }
        }
        Line("tilt", [Joint("arm.L"), Joint("arm.R")]);
        Line("tilt", [Joint("hip.L"), Joint("hip.R")]);
        Line("tilt", [s.World("knee.L", new(4.7f, 28.9f, 3)), s.World("knee.R", new(-4.7f, 28.9f, 3))]);
        Line("median", new[] { "pit", "sternumend", "navel", "pubic" }.Select(id => model.Landmark(id).Place));
        lines.Add(new("action", ActionLine(model, camera)));
        var pit = model.Landmark("pit").Place;
        Line("plumb", [pit, pit with { Y = 0 }]);
        return lines;

        void Egg(string bone, Vector3 centre, Vector3 radii, float taper)
        {
            Vector3 At(float around, float up) => s.World(bone, OnEgg(centre, radii, taper, around, up));
            lines.Add(new("egg", [.. Hull.Of(EggCloud(At).Select(Flat))], true));
            var middle = s.World(bone, centre);
            void Facing(Func<float, Vector3> curve)
            {
                var run = new List<Vector3>();
                for (var i = 0; i <= 60; i++)
                {
                    var p = curve(i * MathF.Tau / 60);
                    if (Vector3.Dot(p - middle, camera.ToEye(p)) > -0.2f)
                    {
                        run.Add(p);
                        continue;
                    }
                    if (run.Count > 1)
                        Line("cross", run);
                    run = [];
                }
                if (run.Count > 1)
                    Line("cross", run);
            }
            Facing(t => At(t, 0));
            Facing(t => t < MathF.PI ? At(MathF.PI / 2, t - (MathF.PI / 2)) : At(-MathF.PI / 2, (MathF.PI * 1.5f) - t));
        }
    }

    private static readonly (Vector3 Centre, Vector3 Radii, float Taper) Ribcage = (new(0, 74, -1.2f), new(8.8f, 9.6f, 6.2f), 0.22f);

    private static Vector3 OnEgg(Vector3 centre, Vector3 radii, float taper, float around, float up) =>
        centre
        + new Vector3(
            MathF.Cos(around) * MathF.Cos(up) * radii.X * (1 - (taper * MathF.Sin(up))),
            MathF.Sin(up) * radii.Y,
            MathF.Sin(around) * MathF.Cos(up) * radii.Z * (1 - (taper * MathF.Sin(up)))
        );

    private static IEnumerable<Vector3> EggCloud(Func<float, float, Vector3> at) =>
        Enumerable.Range(0, 40).SelectMany(i => Enumerable.Range(0, 21).Select(j => at(i * MathF.PI / 20, (j - 10) * MathF.PI / 20)));

    private static Vector3[] PelvisCorners(Skeleton s) =>
        [
            .. Enumerable
                .Range(0, 8)
                .Select(i =>
                    s.World(
                        "pelvis",
                        new Vector3((i & 1) == 0 ? -8.6f : 8.6f, (i & 2) == 0 ? 49.5f : 58.5f, (i & 4) == 0 ? -5.2f : 4.6f)
                            * ((i & 2) == 0 ? new Vector3(0.86f, 1, 0.9f) : Vector3.One)
                    )
                ),
        ];

    /// <summary>Outlines of ribcage and pelvis as they lie in a shipped view, in its pixels.</summary>
    internal static (IReadOnlyList<Vec2> Ribcage, IReadOnlyList<Vec2> Pelvis) Core(StudioView view)
    {
        var (s, camera) = StudioFigure.Setting(view.Body, view.Pose, view.Azimuth);
        Vec2 Flat(Vector3 p)
        {
            var q = camera.Project(p);
            return new(q.X, q.Y);
        }
        // The shipped picture has a frame of its own: its landmarks tell where that lies.
        var lay = Similarity.Fit([
            .. s.Body.Landmarks.Where(l => view.At(l.Id) is not null).Select(l => (Flat(s.World(l.Bone, l.At)), view.At(l.Id)!.Value)),
        ])!;
        IReadOnlyList<Vec2> Outline(IEnumerable<Vector3> cloud) =>
            [
                .. Hull.Of(
                        cloud.Select(p =>
                        {
                            var q = lay.Map(Flat(p));
                            return new Vector2((float)q.X, (float)q.Y);
                        })
                    )
                    .Select(p => new Vec2(p.X, p.Y)),
            ];
        return (
            Outline(EggCloud((around, up) => s.World("thorax", OnEgg(Ribcage.Centre, Ribcage.Radii, Ribcage.Taper, around, up)))),
            Outline(PelvisCorners(s))
        );
    }

    /// <summary>The line of action: from the crown down the spine to the pelvis, on to the ankle of the leg that bears more weight (the
    /// straighter one where both or none do), as one smooth curve in the picture.</summary>
    public static Vector2[] ActionLine(FigureModel model, SeatCamera camera)
    {
        var s = model.Skeleton;
        Vector3 Joint(string bone) => s.Joint[s.Body.BoneIndex(bone)];
        float Bend(string side) => Vector3.Distance(Joint("hip." + side), Joint("foot." + side));
        var leg =
            s.Pose.Balance is { } b && b[0] != b[1] ? (b[0] > b[1] ? "L" : "R")
            : Bend("L") >= Bend("R") ? "L"
            : "R";
        Vector3[] through =
        [
            model.Landmark("crown").Place,
            Joint("head"),
            Joint("neck"),
            Joint("thorax"),
            Joint("lumbar"),
            Joint("pelvis"),
            Vector3.Lerp(Joint("hip." + leg), Joint("knee." + leg), 0.5f),
            Joint("knee." + leg),
            Joint("foot." + leg),
        ];
        var flat = through
            .Select(p =>
            {
                var q = camera.Project(p);
                return new Vector2(q.X, q.Y);
            })
            .ToList();
        var step = MathF.Max(1, Curves.Length(flat) / 48);
        return [.. Curves.Smooth(Curves.Resample(flat, step), false, 24)];
    }
}

/// <summary>Convex hull in a plane (Andrew's monotone chain), counter-clockwise for y up.</summary>
internal static class Hull
{
    public static List<Vector2> Of(IEnumerable<Vector2> places)
    {
        var sorted = places.OrderBy(p => p.X).ThenBy(p => p.Y).ToList();
        var hull = new List<Vector2>();
        for (var pass = 0; pass < 2; pass++)
        {
            var start = hull.Count;
            foreach (var p in sorted)
            {
                while (hull.Count >= start + 2 && Cross(hull[^2], hull[^1], p) <= 0)
                    hull.RemoveAt(hull.Count - 1);
                hull.Add(p);
            }
            hull.RemoveAt(hull.Count - 1);
            sorted.Reverse();
        }
        return hull;
    }

    /// <summary>Least distance of a place from the hull's edge, positive inside.</summary>
    public static float Inside(IReadOnlyList<Vector2> hull, Vector2 p)
    {
        var least = float.MaxValue;
        for (var i = 0; i < hull.Count; i++)
        {
            Vector2 a = hull[i],
                b = hull[(i + 1) % hull.Count];
            if (Vector2.Distance(a, b) > 1e-6f)
                least = MathF.Min(least, Cross(a, b, p) / Vector2.Distance(a, b));
        }
        return least;
    }

    private static float Cross(Vector2 a, Vector2 b, Vector2 p) => ((b.X - a.X) * (p.Y - a.Y)) - ((b.Y - a.Y) * (p.X - a.X));
}
