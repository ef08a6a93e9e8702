using System.Numerics;
using System.Runtime.Intrinsics;
using MintHarbor.Core.Figure;
using OpenCvSharp;
using Xunit;
using Pose = MintHarbor.Core.Figure.Pose;

namespace MintHarbor.Core.Tests.Figure;

/// <summary>The figure as a solid: proportions, closed surface, balance, landmarks, projection.</summary>
public sealed class FigureModelTests
{
    private static readonly StudioFigure Studio = new(200L << 20);
    private static readonly Drapery Bare = Drapery.For(false, false);

    private static FigureModel Model(string body, string pose, float step = StudioFigure.Coarse) =>
        Studio.Model(body, FigureCatalogue.Pose(pose), Bare, step);

    private static readonly Pose Rest = Pose.Read(
        """{"id":"rest","name":"Rest","strain":"standing","level":"beginner","purposes":[],"parts":[],"support":"","trouble":"","root":{},"joints":{"fore.L":{"flex":4},"fore.R":{"flex":4}}}""",
        FigureCatalogue.Tables
    );

    /// <summary>Heights over stature: Drillis and Contini 1966 as reproduced by Winter (published; values from memory).</summary>
    [Theory]
    [InlineData("male"), InlineData("female")]
    public void Heights_are_those_of_measured_adults(string body)
    {
        var m = Studio.Model(body, Rest, Bare);
        double Mark(string id) => m.Landmark(id).Place.Y / 100;
        double Joint(string bone) => m.Skeleton.Joint[m.Skeleton.Body.BoneIndex(bone)].Y / 100;
        var rows = new[]
        {
            ("eye", Mark("eye.L"), 0.936),
            ("chin", Mark("chin"), 0.870),
            ("shoulder", Mark("acromion.L"), 0.818),
            ("elbow", Joint("fore.L"), 0.630),
            ("hip", Joint("hip.L"), 0.530),
            ("wrist", Joint("hand.L"), 0.485),
            ("fingertip", Mark("fingertip.L"), 0.377),
            ("knee", Joint("knee.L"), 0.285),
            ("ankle", Joint("foot.L"), 0.039),
        };
        Assert.All(rows, r =>
            Assert.True(Math.Abs(r.Item2 - r.Item3) < 0.007, $"{r.Item1} at {r.Item2:0.000} of stature, published {r.Item3:0.000}")
        );
        // Upright, the whole body's centre lies at 0.55 to 0.58 of stature (Winter; from memory).
        Assert.InRange(m.Skeleton.CentreOfMass.Y, 54, 58);
    }

    /// <summary>Segment masses sum to the whole body: Dempster 1955 via Winter (published; values from memory).</summary>
    [Fact]
    public void Masses_sum_to_the_body()
    {
        Assert.Equal(1, FigureCatalogue.Body("male").Masses.Sum(m => m.Share), 3);
        var t = FigureCatalogue.Tables.Masses.ToDictionary(m => m.Id, m => m.Share);
        Assert.Equal(
            [0.081f, 0.028f, 0.016f, 0.006f, 0.100f, 0.0465f, 0.0145f],
            new[] { t["head"], t["arm.L"], t["fore.L"], t["hand.L"], t["hip.L"], t["knee.L"], t["foot.L"] }
        );
        Assert.Equal(0.497f, t["thorax"] + t["lumbar"] + t["pelvis"], 3);
    }

    /// <summary>Heads in the height of the canon bodies (academic: common practice; eight heads: Vitruvius, De Architectura III 1).</summary>
    [Theory]
    [InlineData("academic", 7.5), InlineData("heroic", 8.0), InlineData("male", 7.69)]
    public void Canon_bodies_have_their_count_of_heads(string body, double heads)
    {
        var m = Studio.Model(body, Rest, Bare);
        Assert.Equal(heads, 100 / (m.Landmark("crown").Place.Y - m.Landmark("chin").Place.Y), 0.09);
    }

    public static TheoryData<string, string> Pairs()
    {
        var data = new TheoryData<string, string>();
        var bodies = FigureCatalogue.Bodies;
        var n = 0;
        // Every pose once, every body at least twice.
        foreach (var p in FigureCatalogue.Poses)
            data.Add(bodies[n++ % bodies.Count].Id, p.Id);
        return data;
    }

    [Theory]
    [MemberData(nameof(Pairs))]
    public void A_pose_stands_and_is_closed(string body, string pose)
    {
        var m = Model(body, pose);
        Assert.True(m.Stance.OutOfReach <= 0.6, $"a hand or foot is {m.Stance.OutOfReach:0.00} short of its place");
        if (m.Stance.BalanceMargin is { } margin)
            Assert.True(margin > 0, $"its weight lies {-margin:0.0} outside its feet");
        Assert.InRange(m.Mesh.Places.Min(p => p.Y), -0.35, 0.35);
        var edges = new Dictionary<(int, int), int>();
        for (var i = 0; i < m.Mesh.Triangles.Length; i += 3)
        {
            for (var k = 0; k < 3; k++)
            {
                int a = m.Mesh.Triangles[i + k],
                    b = m.Mesh.Triangles[i + ((k + 1) % 3)];
                var key = a < b ? (a, b) : (b, a);
                edges[key] = edges.GetValueOrDefault(key) + 1;
            }
        }
        Assert.Equal(0, edges.Values.Count(c => c < 2));
    }

    [Theory]
    [MemberData(nameof(Pairs))]
    public void Seen_landmarks_lie_on_what_is_seen(string body, string pose)
    {
        var m = Model(body, pose);
        foreach (var azimuth in new[] { 0.0, 150, -90 })
        {
            var camera = SeatCamera.Fit(new(azimuth), m.MetresPerUnit, 480, 720, m.Places);
            var depth = new DepthPicture(camera, [m.Mesh, .. m.Solids.Select(s => s.Mesh)]);
            var view = StudioFigure.View(m, new(azimuth), FigureViewKind.Mass);
            foreach (
                var l in m.Landmarks.Where(l =>
                    view.Landmarks[l.Id].Visible && Vector3.Dot(l.Normal, Vector3.Normalize(camera.Eye - l.Place)) > 0.25f
                )
            )
            {
                var p = camera.Project(l.Place);
                var best = float.MaxValue;
                for (var j = -2; j <= 2; j++)
                for (var i = -2; i <= 2; i++)
                    best = MathF.Min(best, MathF.Abs(depth.DepthAt(p.X + i, p.Y + j) - p.Z));
                Assert.True(best < 1.3, $"{l.Id} from {azimuth}°: {best:0.00} from the depth picture");
            }
            var pixels = Enumerable.Range(0, depth.Triangle.Length).Count(depth.IsFigure);
            Assert.InRange(MassView.Area(view.Mass) / pixels, 0.985, 1.015);
        }
    }

    [Theory]
    [InlineData("contrapposto", 35), InlineData("lunge", -60), InlineData("seated", 20), InlineData("recline", 110)]
    public void A_mirrored_pose_gives_the_mirrored_view(string pose, double azimuth)
    {
        var one = Model("male", pose);
        var other = Studio.Model("male", FigureCatalogue.Pose(pose).Mirrored(), Bare, StudioFigure.Coarse);
        var a = StudioFigure.View(one, new(azimuth), FigureViewKind.Mass);
        var b = StudioFigure.View(other, new(-azimuth), FigureViewKind.Mass);
        // Blends are folded left before right: where two forms meet that is a pixel or two.
        Assert.All(
            a.Landmarks.Where(l => l.Value.Visible && !one.Landmark(l.Key).Buried && !other.Landmark(Sides.Other(l.Key)).Buried),
            l =>
                Assert.True(
                    Math.Abs(480 - l.Value.At.X - b.Landmarks[Sides.Other(l.Key)].At.X) < 6
                        && Math.Abs(l.Value.At.Y - b.Landmarks[Sides.Other(l.Key)].At.Y) < 6,
                    $"{l.Key} {l.Value.At} {b.Landmarks[Sides.Other(l.Key)].At}"
                )
        );
        Assert.True(one.Landmarks.Count(l => l.Buried) < 16);
        Assert.InRange(MassView.Area(a.Mass) / MassView.Area(b.Mass), 0.995, 1.005);
    }

    /// <summary>Projection against OpenCV's projectPoints with the same camera (reference library, run here).</summary>
    [Fact]
    public void Projection_is_opencvs()
    {
        var m = Model("female", "seated");
        var seat = new Seat(33, 2.7, 1.42);
        var camera = SeatCamera.Fit(seat, m.MetresPerUnit, 480, 720, m.Places);
        var marks = m.Landmarks.ToList();
        Vector3 r = camera.Right,
            d = -Vector3.UnitY,
            f = camera.Forward;
        using var rotation = Mat.FromArray(
            new double[,]
            {
                { r.X, r.Y, r.Z },
                { d.X, d.Y, d.Z },
                { f.X, f.Y, f.Z },
            }
        );
        using var rvec = new Mat();
        Cv2.Rodrigues(rotation, rvec);
        using var tvec = Mat.FromArray(
            new double[,]
            {
                { -Vector3.Dot(r, camera.Eye) },
                { -Vector3.Dot(d, camera.Eye) },
                { -Vector3.Dot(f, camera.Eye) },
            }
        );
        using var k = Mat.FromArray(
            new double[,]
            {
                { camera.Focal, 0, camera.CentreX },
                { 0, camera.Focal, camera.CentreY },
                { 0, 0, 1 },
            }
        );
        using var none = new Mat();
        using var points = Mat.FromArray(marks.Select(l => new Point3f(l.Place.X, l.Place.Y, l.Place.Z)).ToArray());
        using var seen = new Mat();
        Cv2.ProjectPoints(points, rvec, tvec, k, none, seen);
        for (var i = 0; i < marks.Count; i++)
        {
            var (ours, theirs) = (camera.Project(marks[i].Place), seen.At<Point2f>(i));
            Assert.True(Math.Abs(ours.X - theirs.X) < 0.02 && Math.Abs(ours.Y - theirs.Y) < 0.02, $"{marks[i].Id}: {ours} {theirs}");
        }
    }

    [Theory]
    [InlineData(false), InlineData(true)]
    public void Eight_points_at_once_are_eight_points_alone(bool garment)
    {
        var field = new SurfaceField(Skeleton.Solve(FigureCatalogue.Body("female"), FigureCatalogue.Pose("contrapposto")), garment);
        var all = field.All;
        var random = new Core.Geometry.SeededRandom(4);
        Span<float> x = stackalloc float[8],
            y = stackalloc float[8],
            z = stackalloc float[8];
        for (var n = 0; n < 120; n++)
        {
            for (var i = 0; i < 8; i++)
                (x[i], y[i], z[i]) = ((float)random.Between(-22, 22), (float)random.Between(1, 100), (float)random.Between(-12, 12));
            var eight = field.Evaluate(
                Vector256.Create<float>(x),
                Vector256.Create<float>(y),
                Vector256.Create<float>(z),
                all,
                true,
                out var form
            );
            for (var i = 0; i < 8; i++)
            {
                var one = field.Evaluate(new(x[i], y[i], z[i]), all, out var nearest);
                Assert.Equal(one, eight[i], 2e-2f * (1 + MathF.Abs(one)));
                if (MathF.Abs(one) < 0.5f)
                    Assert.Equal(nearest < 0, form[i] < 0);
            }
        }
    }

    [Fact]
    public void A_culled_list_gives_the_same_surface_to_a_twelfth_of_a_cell()
    {
        var field = new SurfaceField(Skeleton.Solve(FigureCatalogue.Body("male"), FigureCatalogue.Pose("crouch")), true);
        var all = field.All;
        var list = new int[field.Count];
        var random = new Core.Geometry.SeededRandom(8);
        for (var n = 0; n < 4000; n++)
        {
            var p = new Vector3((float)random.Between(-20, 20), (float)random.Between(0, 60), (float)random.Between(-20, 25));
            var whole = field.Evaluate(p, all, out _);
            if (MathF.Abs(whole) > 0.3f)
                continue;
            var near = list.AsSpan(0, field.Cull(p, 1, all, list));
            Assert.Equal(whole, field.Evaluate(p, near, out _), 0.04f);
        }
    }

    [Fact]
    public void Solved_angles_are_those_that_were_asked_for()
    {
        var pose = FigureCatalogue.Pose("armraised");
        var s = Skeleton.Solve(FigureCatalogue.Body("male"), pose);
        foreach (var (bone, angles) in pose.Joints)
        {
            var index = s.Body.BoneIndex(bone);
            foreach (var a in s.Body.Bones[index].Angles)
                Assert.Equal(angles.GetValueOrDefault(a.Angle), s.Angle(index, a), 0.05);
        }
    }
}
