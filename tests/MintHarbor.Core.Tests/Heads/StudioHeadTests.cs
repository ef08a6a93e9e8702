using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;
using Xunit;

namespace MintHarbor.Core.Tests.Heads;

/// <summary>The studio head against the canons' ratios, against geometry, and against itself.</summary>
public sealed class StudioHeadTests
{
    private static readonly StudioHead Studio = new(StudioHead.Coarse, 24);
    private static readonly Dictionary<string, float> Classical = HeadCatalogue.Tables.Canons[0].Levels;

    private static LandmarkSet Marks(HeadModel m, HeadPose pose) =>
        new(StudioHead.View(m, pose, FigureViewKind.Mass).Landmarks.Select(l => KeyValuePair.Create(l.Key, l.Value.At)));

    /// <summary>Level, from the front: eyes in the middle; thirds of the face equal; the mouth a third down from nose to chin; an eye between
    /// the eyes; wings under the inner corners; mouth corners under the irises; ears from brow to nose base; five eyes across the head
    /// (common practice of the classical head; the thirds after Vitruvius, De Architectura, book III, ch. 1).</summary>
    [Fact]
    public void The_classical_head_keeps_its_canon()
    {
        var m = Studio.Model();
        Vector3 At(string id) => m.Landmark(id).Place / HeadModel.PerHead;
        float head = At("crown").Y - At("chin").Y,
            eye = At("eye-outer.L").X - At("eye-inner.L").X;
        Assert.Equal(0.5, (((At("eye-inner.L").Y + At("eye-outer.L").Y) / 2) - At("chin").Y) / head, 0.01);
        var face = At("hairline").Y - At("chin").Y;
        Assert.All([At("hairline").Y - At("brow-mid.L").Y, At("brow-mid.L").Y - At("nosebase").Y, At("nosebase").Y - At("chin").Y], t =>
            Assert.Equal(1 / 3.0, t / face, 0.01)
        );
        Assert.Equal(1 / 3.0, (At("nosebase").Y - At("lip-slit").Y) / (At("nosebase").Y - At("chin").Y), 0.01);
        Assert.Equal(1, 2 * At("eye-inner.L").X / eye, 0.03);
        Assert.Equal(At("eye-inner.L").X, At("wing.L").X, 0.01);
        Assert.Equal(At("iris-inner.L").X, At("mouth-corner.L").X, 0.01);
        Assert.Equal(At("brow-mid.L").Y, At("ear-top.L").Y, 0.015);
        Assert.Equal(At("nosebase").Y, At("ear-base.L").Y, 0.015);
        Assert.Equal(5, 2 * At("head-side.L").X / eye, 0.15);
        Assert.InRange(At("neck-side.L").X / At("jaw-angle.L").X, 0.8, 1);
    }

    [Fact]
    public void The_beginners_levels_are_met_exactly()
    {
        var m = Studio.Model("classical", "beginner-head");
        float Y(string id) => m.Landmark(id).Place.Y / HeadModel.PerHead;
        Assert.Equal(1 / 3.0, 0.5 - Y("brow-mid.L"), 0.005);
        Assert.Equal(2 / 3.0, 0.5 - Y("nosebase"), 0.005);
        Assert.Equal(0.5, 0.5 - ((Y("eye-inner.L") + Y("eye-outer.L")) / 2), 0.005);
    }

    [Fact]
    public void Twelve_sitters_depart_by_what_their_table_says()
    {
        Assert.True(HeadCatalogue.Sitters.Count(s => s.Id != "classical") >= 12);
        var classical = Studio.Model();
        foreach (var row in HeadCatalogue.Sitters)
        {
            var m = Studio.Model(row.Id);
            var heights = new Dictionary<string, float>
            {
                ["noseBase"] = m.Landmark("nosebase").Place.Y,
                ["mouth"] = m.Landmark("lip-slit").Place.Y,
                ["brow"] = m.Landmark("brow-mid.L").Place.Y,
                ["hairline"] = m.Landmark("hairline").Place.Y,
            };
            foreach (var (level, y) in heights)
                Assert.Equal(row.Levels?.GetValueOrDefault(level, Classical[level]) ?? Classical[level], y / HeadModel.PerHead, 0.012);
            Assert.All(m.Landmarks.Where(l => LandmarkIds.Mirror(l.Id) == l.Id), l => Assert.Equal(0, l.Place.X, 0.02));
            if (row.Id != "classical")
                Assert.Contains(m.Landmarks, l => Vector3.Distance(l.Place, classical.Landmark(l.Id).Place) > 0.9f);
        }
    }

    /// <summary>A local fault moves its own landmarks; what is far from it stays.</summary>
    [Theory]
    [InlineData("far-eye-large", "eye-outer.L", "mouth-corner.R")]
    [InlineData("nose-frontal", "nosetip", "eye-outer.R")]
    [InlineData("mouth-adrift", "lip-slit", "eye-inner.L")]
    [InlineData("ear-small-and-high", "ear-base.L", "nosetip")]
    public void A_local_fault_stays_local(string fault, string moved, string stays)
    {
        HeadModel right = Studio.Model(),
            wrong = Studio.Model(fault);
        Assert.True(Vector3.Distance(right.Landmark(moved).Place, wrong.Landmark(moved).Place) > 1.2f);
        Assert.True(Vector3.Distance(right.Landmark(stays).Place, wrong.Landmark(stays).Place) < 2);
    }

    [Fact]
    public void The_mesh_is_closed_and_hardly_folded()
    {
        var mesh = Studio.Model().Mesh;
        var edges = new Dictionary<(int, int), int>();
        var flipped = 0;
        for (var i = 0; i < mesh.Triangles.Length; i += 3)
        {
            int a = mesh.Triangles[i],
                b = mesh.Triangles[i + 1],
                c = mesh.Triangles[i + 2];
            foreach (var (p, q) in new[] { (a, b), (b, c), (c, a) })
                edges[(p, q)] = edges.GetValueOrDefault((p, q)) + 1;
            if (
                Vector3.Dot(
                    Vector3.Cross(mesh.Places[b] - mesh.Places[a], mesh.Places[c] - mesh.Places[a]),
                    mesh.Normals[a] + mesh.Normals[b] + mesh.Normals[c]
                ) < 0
            )
                flipped++;
        }
        Assert.Equal(0, edges.Keys.Count(e => !edges.ContainsKey((e.Item2, e.Item1))));
        Assert.True(flipped < mesh.TriangleCount * 0.002, $"{flipped} of {mesh.TriangleCount} triangles are turned over");
    }

    [Theory]
    [InlineData(20)]
    [InlineData(35)]
    public void Turned_the_other_way_it_is_its_mirror(double turn)
    {
        var m = Studio.Model();
        FigureView one = StudioHead.View(m, new(turn), FigureViewKind.Mass),
            other = StudioHead.View(m, new(-turn), FigureViewKind.Mass);
        foreach (var (id, l) in one.Landmarks)
        {
            var mirror = other.Landmarks[LandmarkIds.Mirror(id)];
            Assert.Equal(480 - l.At.X, mirror.At.X, 0.05);
            Assert.Equal(l.At.Y, mirror.At.Y, 0.05);
        }
        // The outline is traced, so its loops may begin elsewhere: their area tells.
        Assert.Equal(Area(one), Area(other), Area(one) * 0.002);

        static double Area(FigureView v) =>
            Math.Abs(
                v.Mass.Sum(loop =>
                    loop.Select((p, i) => (p.X * loop[(i + 1) % loop.Count].Y) - (loop[(i + 1) % loop.Count].X * p.Y)).Sum() / 2
                )
            );
    }

    /// <summary>Far share of a pair is (1 − k·tan t)/2 by projection, at any tilt; k read off the model.</summary>
    [Theory]
    [InlineData("eye-outer", "nose-root")]
    [InlineData("wing", "nosetip")]
    [InlineData("mouth-corner", "lip-slit")]
    public void A_pair_tells_the_turn_exactly(string side, string middle)
    {
        foreach (var sitter in new[] { "classical", "long-nose", "narrow" })
        {
            var m = Studio.Model(sitter);
            Vector3 left = m.Landmark(side + ".L").Place,
                mid = m.Landmark(middle).Place;
            var k = (mid.Z - left.Z) / left.X;
            foreach (var (turn, tilt) in new[] { (10.0, 0.0), (20, 15), (35, -20) })
            {
                var seen = Marks(m, new(turn, tilt));
                double far = seen[side + ".L"]!.Value.X,
                    near = seen[side + ".R"]!.Value.X;
                Assert.Equal(HeadTurn.FarShare(k, turn), (far - seen[middle]!.Value.X) / (far - near), 3e-4);
            }
        }
    }

    /// <summary>The reliefs that the judge reads a turn by are those of the head, and its sitters vary as the judge allows: two sitters in
    /// three within one deviation would be normal; none may lie beyond three.</summary>
    [Fact]
    public void The_judges_reliefs_are_the_heads()
    {
        foreach (var pair in HeadTurn.Pairs)
        {
            double K(string sitter)
            {
                var m = Studio.Model(sitter);
                Vector3 left = m.Landmark(pair.Side + ".L").Place,
                    mid = m.Landmark(pair.Middle[0]).Place;
                return (mid.Z - left.Z) / left.X;
            }
            Assert.Equal(pair.Relief, K("classical"), 0.02);
            Assert.All(HeadCatalogue.Sitters, s =>
                Assert.InRange(K(s.Id), pair.Relief - (3 * pair.Varies), pair.Relief + (3 * pair.Varies))
            );
        }
    }

    /// <summary>The outline at the level of the eyes, skull without hair and ears, parallel view: an ellipse of the head's own half axes tells
    /// the turn within 1.5° up to 50°.</summary>
    [Fact]
    public void An_ellipse_stands_for_the_outline()
    {
        var skull = new HeadField(HeadCatalogue.Tables, new Dictionary<string, float>()).Without(true, true);
        var section = Enumerable
            .Range(0, 721)
            .Select(i => i * MathF.PI / 360)
            .Select(a => new Vector3(MathF.Sin(a), 0, MathF.Cos(a)))
            .Select(d => skull.Cast((d * 0.9f) + new Vector3(0, 0.004f, 0), -d))
            .ToList();
        var middle = Studio.Model().Landmark("nose-root").Place.Z / HeadModel.PerHead;
        Assert.Equal(HeadTurn.HalfBreadth, section.Max(p => p.X), 0.01);
        Assert.Equal(HeadTurn.HalfDepth, (section.Max(p => p.Z) - section.Min(p => p.Z)) / 2, 0.01);
        for (var turn = 10; turn <= 50; turn += 5)
        {
            var (sin, cos) = Math.SinCos(turn * Math.PI / 180);
            var across = section.Select(p => (p.X * cos) + (p.Z * sin)).ToList();
            var far = (across.Max() - (middle * sin)) / (across.Max() - across.Min());
            Assert.InRange(HeadTurn.OfEllipse(HeadTurn.HalfBreadth, HeadTurn.HalfDepth, far) - turn, -1.6, 1.6);
        }
    }

    [Fact]
    public void Landmarks_lie_on_what_the_view_shows()
    {
        var m = Studio.Model();
        foreach (var turn in new[] { 0.0, 25, -60 })
        {
            var view = StudioHead.View(m, new(turn), FigureViewKind.Tone, finer: 1);
            foreach (var (id, l) in view.Landmarks.Where(l => l.Value.Visible))
                Assert.True(view.Tone!.Values[((int)l.At.Y * 480) + (int)l.At.X] is >= 0 and <= 1, $"{id} at {l.At}");
        }
        var profile = StudioHead.View(m, new(90), FigureViewKind.Mass).Landmarks;
        Assert.True(profile["eye-outer.R"].Visible);
        Assert.False(profile["eye-outer.L"].Visible);
        Assert.True(profile["crown"].Visible);
    }

    [Theory]
    [InlineData(FigureViewKind.Line, 34_000)]
    [InlineData(FigureViewKind.Construction, 20_000)]
    public void A_view_is_small_and_the_same_every_time(FigureViewKind kind, int bytes)
    {
        foreach (var turn in new[] { 0.0, 35, -90 })
        {
            var svg = StudioHead.View(Studio.Model(), new(turn), kind).ToSvg();
            Assert.Equal(svg, StudioHead.View(Studio.Model(), new(turn), kind).ToSvg());
            Assert.InRange(svg.Length, 2_000, bytes);
        }
    }

    [Fact]
    public void The_cross_curves_wrap_round_the_form()
    {
        var roles = StudioHead
            .View(Studio.Model(), new(35, 15), FigureViewKind.Construction)
            .Construction.GroupBy(c => c.Role)
            .ToDictionary(g => g.Key, g => g.ToList());
        foreach (
            var role in new[]
            {
                "ball",
                "side",
                "cross",
                "cross-back",
                "cross-heavy",
                "median",
                "jaw",
                "jaw-back",
                "ear",
                "hair",
                "neck",
                "neck-back",
            }
        )
            Assert.True(roles.ContainsKey(role), role);
        // Tilted down, a level bends: its middle hangs below the chord of its ends.
        var eyes = roles["cross-heavy"].MaxBy(c => c.Places.Length)!.Places;
        Assert.True(eyes[eyes.Length / 2].Y > ((eyes[0].Y + eyes[^1].Y) / 2) + 3);
    }

    [Theory]
    [InlineData("\"find\": \"foremost\"", "\"find\": \"farthest\"", "landmarks.nosetip.find", "foremost")]
    [InlineData(
        "\"id\": \"long-nose\", \"name\": \"long nose\"",
        "\"id\": \"long-nose\", \"sculpt\": \"plane\", \"name\": \"long nose\"",
        "sitters.long-nose.sculpt",
        "plain, soft"
    )]
    [InlineData("{\"noseBase\": -0.235", "{\"noseBace\": -0.235", "sitters.long-nose.levels.noseBace", "noseBase")]
    [InlineData("{\"noseBase\": -0.235", "{\"noseBase\": 0.235", "sitters.long-nose.levels", "rise")]
    [InlineData("{\"fold\": 0.5}", "{\"fodl\": 0.5}", "sculpts.soft.change.fodl", "no form")]
    [InlineData("\"shape\": \"wedge\"", "\"shape\": \"wegde\"", "forms.nose.shape", "wedge")]
    public void A_fault_in_the_table_is_named(string right, string wrong, string key, string says)
    {
        var json = FigureFile.Resource("heads/head");
        Assert.Contains(right, json);
        var e = Assert.Throws<FigureFileException>(() =>
            HeadTables.Read("head.json", json.Replace(right, wrong, StringComparison.Ordinal))
        );
        Assert.Equal(key, e.Key);
        Assert.Contains(says, e.Message);
    }

    [Fact]
    public void Every_landmark_of_the_head_is_in_the_one_table_and_says_where_it_is()
    {
        Assert.All(Studio.Model().Landmarks, l => Assert.True(LandmarkIds.Exists(l.Id), l.Id));
        Assert.All(HeadCatalogue.Tables.Landmarks, l => Assert.True(l.Where.Length > 8, l.Id));
        Assert.All(LandmarkIds.HeadOrder, id => Assert.Contains(Studio.Model().Landmarks, l => l.Id == id));
    }

    [Fact]
    public void What_cannot_be_drawn_is_said()
    {
        Assert.Equal(
            "head.turn",
            Assert.Throws<InputException>(() => StudioHead.View(Studio.Model(), new(200), FigureViewKind.Line)).Field
        );
        Assert.Equal(
            "head.tilt",
            Assert.Throws<InputException>(() => StudioHead.View(Studio.Model(), new(0, double.NaN), FigureViewKind.Line)).Field
        );
        Assert.Contains("long-nose", Assert.Throws<InputException>(() => Studio.Model("nobody")).Accepted);
        Assert.Contains("beginner-head", Assert.Throws<InputException>(() => Studio.Model("classical", "golden")).Accepted);
    }

    [Theory]
    [InlineData(0.02f)]
    [InlineData(0.06f)]
    [InlineData(0.17f)]
    public void Near_a_place_the_few_forms_that_matter_tell_what_all_tell(float radius)
    {
        var random = new Core.Geometry.SeededRandom(11);
        Vector3 Any(float x, float y, float z) =>
            new((float)random.Between(-x, x), (float)random.Between(-y, y), (float)random.Between(-z, z));
        foreach (var sculpt in HeadCatalogue.Tables.Sculpts)
        {
            var all = new HeadField(HeadCatalogue.Tables, sculpt.Change);
            for (var n = 0; n < 400; n++)
            {
                var middle = Any(0.6f, 0.9f, 0.6f);
                var few = all.Near(middle, radius);
                for (var k = 0; k < 8; k++)
                {
                    var p = middle + (Vector3.Normalize(Any(1, 1, 1)) * (radius * (float)random.Between(0, 1)));
                    Assert.Equal(all.At(p), few.At(p));
                }
            }
        }
    }
}
