using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;
using Xunit;

namespace MintHarbor.Core.Tests.Objects;

/// <summary>The things of the shelf as they are made, and where they stand.</summary>
public class ThingTests
{
    public static TheoryData<string> Ids => [.. ThingShelf.Things.Select(t => t.Id)];

    [Theory]
    [MemberData(nameof(Ids))]
    public void A_thing_stands_on_its_ground_with_its_edges_on_its_surface(string id)
    {
        var thing = ThingShelf.Model(id);
        Assert.InRange(thing.Low, -0.0005, 0.0045);
        var places = thing.Parts.SelectMany(p => p.Places).ToHashSet();
        foreach (var e in thing.Edges.Where(e => e.Straight))
        {
            Assert.True(places.Min(p => (p - e.Places[0]).Length) < 1e-9, $"{id}: {e.Name}");
            Assert.True(places.Min(p => (p - e.Places[1]).Length) < 1e-9, $"{id}: {e.Name}");
            Assert.True(Math.Abs(e.First[0].Dot((e.Places[1] - e.Places[0]).Unit)) < 1e-9, $"{id}: {e.Name} doesn't lie in its face");
        }
        foreach (var ring in thing.Rings)
            Assert.True(places.Min(p => Math.Abs((p - ring.Centre).Length - ring.Radius)) < 1e-4, $"{id}: {ring.Name}");
        foreach (var part in thing.Parts.Where(p => p.Triangles.Count > 0))
            for (var i = 0; i < part.Triangles.Count; i += 3)
            {
                var (a, b, c) = (part.Places[part.Triangles[i]], part.Places[part.Triangles[i + 1]], part.Places[part.Triangles[i + 2]]);
                var faces = part.Normals[part.Triangles[i]] + part.Normals[part.Triangles[i + 1]] + part.Normals[part.Triangles[i + 2]];
                Assert.True((b - a).Cross(c - a).Dot(faces) >= 0, $"{id}: a triangle of {part.Name} looks inward");
            }
        Assert.Equal(thing.Edges.Count, thing.Edges.Select(e => e.Name).Distinct().Count());
    }

    /// <summary>Volume by the divergence theorem over the triangles: only a closed surface that faces out has its thing's.</summary>
    [Theory]
    [InlineData("block", 0.16 * 0.12 * 0.16)]
    [InlineData("box", (0.24 * 0.1 * 0.16) + (0.248 * 0.022 * 0.168))]
    public void A_solid_has_its_volume(string id, double cubicMetres) => Assert.Equal(cubicMetres, Volume(id), 1e-9);

    /// <summary>A turned part by the disks of its profile, added up here.</summary>
    [Fact]
    public void A_turned_thing_holds_the_volume_of_its_profile()
    {
        var profile = ((LathePart)ThingShelf.Things.First(t => t.Id == "bottle").Parts[0]).Profile;
        double sum = 0;
        for (var i = 1; i < profile.Count; i++)
        {
            var (a, b) = (profile[i - 1], profile[i]);
            sum += Math.PI * (b.Y - a.Y) * ((a.R * a.R) + (a.R * b.R) + (b.R * b.R)) / 3;
        }
        Assert.InRange(Volume("bottle") / sum, 0.99, 1.02);
    }

    private static double Volume(string id) =>
        ThingShelf.Model(id).Parts.Sum(p => p.Triangles.Chunk(3).Sum(t => p.Places[t[0]].Dot(p.Places[t[1]].Cross(p.Places[t[2]])) / 6));

    [Theory]
    [InlineData("stool", 4)]
    [InlineData("chair", 4)]
    [InlineData("ladder", 4)]
    public void Legs_stand_on_whole_feet(string id, int feet)
    {
        var thing = ThingShelf.Model(id);
        Assert.Equal(0, thing.Low, 9);
        // Every foot is a face that lies on the ground: four edges of it, each level.
        var onGround = thing.Edges.Count(e => e.Straight && e.Places.All(p => Math.Abs(p.Y) < 1e-9));
        Assert.Equal(4 * feet, onGround);
    }

    [Fact]
    public void The_arrangements_that_ship_stand_in_nobodys_way()
    {
        foreach (var a in ThingShelf.Arrangements)
            Assert.Empty(a.Checked().Overlaps());
        var kitchen = ThingShelf.Find("kitchen")!;
        Assert.Equal(0.122, kitchen.Stands()[2].Height, 9);
        Assert.Equal(0, kitchen.Stands()[2].On);
        Assert.All(kitchen.Stands().Where((_, i) => i != 2), s => Assert.Equal((0, -1), s));
        Assert.Equal(0.6, ThingShelf.Find("ladder")!.Stands()[2].Height, 9);
    }

    [Fact]
    public void A_tower_stands_on_what_was_set_up_first()
    {
        Arrangement Of(params string[] things) => new("", "", Ground.Table, [.. things.Select(t => new PlacedThing(t, 0, 0, 0))]);
        Assert.Equal([(0.0, -1), (0.12, 0), (0.154, 1)], Of("block", "book", "cup").Stands().Select(s => (Math.Round(s.Height, 6), s.On)));
        Assert.Equal(
            [(0.154, 1), (0.0, -1), (0.12, 1)],
            Of("cup", "block", "book").Stands().Select(s => (Math.Round(s.Height, 6), s.On is var on && s.Height > 0.15 ? 1 : on))
        );
        Assert.Contains("stand in one another", Assert.Throws<InputException>(() => Of("cup", "jug").Checked()).Message);
    }

    [Theory]
    [InlineData("table", "nothing is set up")]
    [InlineData("table;cup,0,0,0;cup,0.2,0,0;cup,-0.2,0,0;cup,0,0.2,0;cup,0,-0.2,0;cup,0.4,0,0", "6 things")]
    [InlineData("table;teapot,0,0,0", "no 'teapot'")]
    [InlineData("table;cup,0.63,0,0", "over the table's edge")]
    [InlineData("floor;stool,1.6,0,0", "too far off")]
    [InlineData("ceiling;cup,0,0,0", "things on 'ceiling'")]
    [InlineData("table;cup,1e999,0,0", "no place of a thing")]
    [InlineData("table;cup,NaN,0,0", "no place of a thing")]
    [InlineData("table;cup,0,0", "no place of a thing")]
    public void What_cannot_be_set_up_is_named(string text, string said) =>
        Assert.Contains(said, Assert.Throws<InputException>(() => Arrangement.Read(text).Checked()).Message);

    [Fact]
    public void What_is_being_moved_is_drawn_though_it_cannot_stand_so()
    {
        foreach (var text in new[] { "table;cup,0,0,0;jug,0.01,0,0", "table;cup,0.65,0,0", "floor;stool,1.6,0,0" })
        {
            Assert.Throws<InputException>(() => Arrangement.Read(text).Checked());
            Assert.NotEmpty(new ArrangementModel(Arrangement.Read(text)).Names);
        }
        Assert.Throws<InputException>(() => Arrangement.Read("floor;stool,4,0,0").Drawable());
    }

    [Fact]
    public void An_arrangement_is_read_as_it_was_written()
    {
        foreach (var a in ThingShelf.Arrangements)
            Assert.Equal(a.Places, Arrangement.Read(a.Write()).Places);
    }

    /// <summary>Reference library: NetTopologySuite's intersection of the same plans, on 400 pairs.</summary>
    [Fact]
    public void Plans_meet_where_their_polygons_share_ground()
    {
        var factory = new NetTopologySuite.Geometries.GeometryFactory();
        NetTopologySuite.Geometries.Polygon Of(IReadOnlyList<Vec2> plan) =>
            factory.CreatePolygon([.. plan.Append(plan[0]).Select(p => new NetTopologySuite.Geometries.Coordinate(p.X, p.Y))]);
        var random = new SeededRandom(91);
        var things = ThingShelf.Things.Where(t => t.Id is not "boat").ToList();
        var met = 0;
        for (var n = 0; n < 400; n++)
        {
            PlacedThing Any() =>
                new(things[random.Next(things.Count)].Id, random.Between(-0.3, 0.3), random.Between(-0.3, 0.3), random.Between(0, 360));
            IReadOnlyList<Vec2> a = Arrangement.PlanOf(Any()),
                b = Arrangement.PlanOf(Any());
            var shared = Of(a).Intersection(Of(b)).Area;
            if (shared is > 0 and < 2e-5)
                continue;
            Assert.Equal(shared > 0, Plans.Meet(a, b));
            met += shared > 0 ? 1 : 0;
        }
        Assert.InRange(met, 100, 330);
    }
}
