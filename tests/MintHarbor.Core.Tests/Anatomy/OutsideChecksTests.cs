using System.Numerics;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using Xunit;

namespace MintHarbor.Core.Tests.Anatomy;

/// <summary>The anatomy held against what doesn't come from it: rays through the skin's triangles, counted one by one, and a segment table.</summary>
public sealed class OutsideChecksTests
{
    private static readonly StudioFigure Studio = new(200L << 20);

    private static FigureModel Model(string pose) =>
        Studio.Model("male", FigureCatalogue.Pose(pose), Drapery.For(false, false), StudioFigure.Coarse);

    /// <summary>How often an upright ray from a place meets a surface above it. Triangles are found by their squares of the ground plan.</summary>
    private sealed class Upright
    {
        private const float Square = 1;
        private readonly Mesh mesh;
        private readonly Dictionary<(int, int), List<int>> triangles = [];

        public Upright(Mesh mesh)
        {
            this.mesh = mesh;
            for (var i = 0; i < mesh.Triangles.Length; i += 3)
            {
                var corners = mesh.Triangles.AsSpan(i, 3).ToArray().Select(v => mesh.Places[v]).ToArray();
                for (var x = Cell(corners.Min(c => c.X)); x <= Cell(corners.Max(c => c.X)); x++)
                for (var z = Cell(corners.Min(c => c.Z)); z <= Cell(corners.Max(c => c.Z)); z++)
                {
                    if (!triangles.TryGetValue((x, z), out var list))
                        triangles[(x, z)] = list = [];
                    list.Add(i);
                }
            }
        }

        private static int Cell(float v) => (int)MathF.Floor(v / Square);

        public int Above(Vector3 p)
        {
            if (!triangles.TryGetValue((Cell(p.X), Cell(p.Z)), out var list))
                return 0;
            return list.Count(i => Height(i, p.X, p.Z) is { } y && y > p.Y);
        }

        private double? Height(int i, double x, double z)
        {
            Vector3 a = mesh.Places[mesh.Triangles[i]],
                b = mesh.Places[mesh.Triangles[i + 1]],
                c = mesh.Places[mesh.Triangles[i + 2]];
            double Side(Vector3 p, Vector3 q) => ((double)q.X - p.X) * (z - p.Z) - ((double)q.Z - p.Z) * (x - p.X);
            double u = Side(b, c),
                v = Side(c, a),
                w = Side(a, b);
            if (!(u >= 0 && v >= 0 && w >= 0) && !(u < 0 && v < 0 && w < 0))
                return null;
            var sum = u + v + w;
            return sum == 0 ? null : ((u * a.Y) + (v * b.Y) + (w * c.Y)) / sum;
        }
    }

    /// <summary>20,000 places of bones: an odd number of walls of skin lies above each.</summary>
    [Theory]
    [InlineData("stand")]
    [InlineData("seated")]
    [InlineData("armraised")]
    [InlineData("recline")]
    public void Bones_lie_inside_the_skin_by_rays(string pose)
    {
        var model = Model(pose);
        var bones = model.UnderSkin.Bones.Mesh.Places;
        var skin = new Upright(Polygoniser.Build(model.UnderSkin.Skin, StudioFigure.Coarse));
        var random = new SeededRandom(19);
        var places = Enumerable.Range(0, 5000).Select(_ => bones[random.Next(bones.Length)]).ToList();
        var outside = places.Count(p => skin.Above(p) % 2 == 0);
        Assert.True(outside <= 0.01 * places.Count, $"{outside} of {places.Count} places of bones lie outside the skin");
    }

    /// <summary>What the picture says is seen, a ray to the eye says too; at grazing edges the two may differ.</summary>
    [Theory]
    [InlineData("contrapposto", 25)]
    [InlineData("seated", -40)]
    public void What_is_seen_is_what_a_ray_reaches(string pose, double azimuth)
    {
        var model = Model(pose);
        var camera = StudioFigure.Camera(model, new(azimuth, 3.2, 1.3), 480, 720, null);
        var depth = new DepthPicture(camera, [model.Mesh, .. model.Solids.Select(s => s.Mesh)]);
        var meshes = model.Solids.Select(s => s.Mesh).Prepend(model.Mesh).ToList();
        var random = new SeededRandom(7);
        var agree = 0;
        for (var n = 0; n < 500; n++)
        {
            var v = random.Next(model.Mesh.Places.Length);
            var (place, normal) = (model.Mesh.Places[v], model.Mesh.Normals[v]);
            var lifted = place + (normal * 0.3f);
            var free = Vector3.Dot(normal, camera.ToEye(place)) > 0 && meshes.All(m => !Hit(m, lifted, camera.Eye));
            agree += free == (Vector3.Dot(normal, camera.ToEye(place)) > 0 && depth.IsSeen(camera.Project(place), 0.6f)) ? 1 : 0;
        }
        Assert.True(agree >= 485, $"{agree} of 500 agree");
    }

    /// <summary>Ray against triangle (Möller and Trumbore 1997, from memory).</summary>
    private static bool Hit(Mesh mesh, Vector3 from, Vector3 to)
    {
        var way = to - from;
        for (var i = 0; i < mesh.Triangles.Length; i += 3)
        {
            Vector3 a = mesh.Places[mesh.Triangles[i]],
                e1 = mesh.Places[mesh.Triangles[i + 1]] - a,
                e2 = mesh.Places[mesh.Triangles[i + 2]] - a;
            var p = Vector3.Cross(way, e2);
            var d = Vector3.Dot(e1, p);
            if (MathF.Abs(d) < 1e-9f)
                continue;
            var t = from - a;
            var u = Vector3.Dot(t, p) / d;
            if (u is < 0 or > 1)
                continue;
            var q = Vector3.Cross(t, e1);
            var v = Vector3.Dot(way, q) / d;
            var along = Vector3.Dot(e2, q) / d;
            if (v >= 0 && u + v <= 1 && along is > 0 and < 1)
                return true;
        }
        return false;
    }

    /// <summary>A mirrored pose from the mirrored seat under the mirrored lamp is the mirrored picture.</summary>
    [Theory]
    [InlineData("contrapposto", 30)]
    [InlineData("armraised", -60)]
    public void A_mirrored_pose_gives_the_mirrored_picture_of_muscles(string pose, double azimuth)
    {
        var p = FigureCatalogue.Pose(pose);
        ColourPicture Picture(Pose of, double from, double lamp) =>
            StudioFigure
                .View(
                    Studio.Model("male", of, Drapery.For(false, false), StudioFigure.Coarse),
                    new(from, 3.2, 1.3),
                    FigureViewKind.Ecorche,
                    240,
                    360,
                    0,
                    new Lamp(lamp, 45)
                )
                .Colours!;
        ColourPicture a = Picture(p, azimuth, -40),
            b = Picture(p.Mirrored(), -azimuth, 40);
        static double Byte(uint pixel, int of) => (pixel >> (8 * of)) & 255;
        double apart = 0;
        for (var y = 0; y < a.Height; y++)
        for (var x = 0; x < a.Width; x++)
        for (var c = 0; c < 3; c++)
            apart += Math.Abs(Byte(a.Pixels[(y * a.Width) + x], c) - Byte(b.Pixels[(y * a.Width) + a.Width - 1 - x], c));
        apart /= 3.0 * a.Width * a.Height;
        Assert.True(apart < 2.5, $"{apart:0.00} of 255 apart on the whole");
    }

    /// <summary>Hip to knee over knee to ankle, 0.245 ÷ 0.246, and shoulder to elbow over elbow to wrist, 0.186 ÷ 0.146, of stature (Drillis and
    /// Contini 1966, as reproduced by Winter; from memory). The joints of the skeleton, and the bones between them.</summary>
    [Fact]
    public void Joints_of_the_figure_are_as_far_apart_as_the_segment_table_has_them()
    {
        var skeleton = Skeleton.AsWritten(FigureCatalogue.Body("male"), FigureCatalogue.Pose("stand"));
        float Between(string a, string b) =>
            Vector3.Distance(skeleton.Joint[skeleton.Body.BoneIndex(a)], skeleton.Joint[skeleton.Body.BoneIndex(b)]) / 100;
        Assert.InRange(Between("hip.L", "knee.L") / Between("knee.L", "foot.L"), 0.97 * 0.245 / 0.246, 1.03 * 0.245 / 0.246);
        Assert.InRange(Between("fore.L", "hand.L"), 0.97 * 0.146, 1.03 * 0.146);
        Assert.InRange(Between("hip.L", "knee.L"), 0.97 * 0.245, 1.03 * 0.245);
        Assert.InRange(Between("knee.L", "foot.L"), 0.97 * 0.246, 1.03 * 0.246);
    }
}
