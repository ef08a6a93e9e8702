using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using Xunit;

namespace MintHarbor.Core.Tests.Figure;

/// <summary>Hands, feet and face: cut finer, closed, in their place, and led by the bones that poses name.</summary>
public class FineFormsTests
{
    private static readonly StudioFigure Studio = new(200L << 20);

    private static FigureModel Model(string body, string pose, bool clothed = false) =>
        Studio.Model(body, FigureCatalogue.Pose(pose), Drapery.For(false, clothed));

    /// <summary>Edges that no even number of triangles shares: where a skin gapes.</summary>
    internal static int Open(Mesh mesh)
    {
        var odd = new HashSet<(int, int)>();
        foreach (var t in mesh.Triangles.Chunk(3))
        foreach (var (a, b) in new[] { (t[0], t[1]), (t[1], t[2]), (t[2], t[0]) })
        {
            if (!odd.Remove((Math.Min(a, b), Math.Max(a, b))))
                odd.Add((Math.Min(a, b), Math.Max(a, b)));
        }
        return odd.Count;
    }

    [Theory]
    [InlineData("male", "stand")]
    [InlineData("female", "seated")]
    [InlineData("female-slight", "recline")]
    [InlineData("male-sturdy", "crouch")]
    [InlineData("male-older", "handonhip")]
    [InlineData("heroic", "prone")]
    [InlineData("female-sturdy", "armsfolded")]
    public void A_drawing_s_skin_is_closed_where_the_two_sizes_of_cells_meet(string body, string pose)
    {
        Assert.Equal(0, Open(Model(body, pose).Mesh));
        Assert.Equal(0, Open(Model(body, pose, clothed: true).Mesh));
    }

    [Fact]
    public void Small_cells_lie_where_small_forms_are_and_previews_have_none()
    {
        var body = FigureCatalogue.Body("male");
        var field = new SurfaceField(Skeleton.Solve(body, FigureCatalogue.Pose("stand")), withGarment: false);
        var plain = FigureCatalogue.Tables with { Forms = [.. FigureCatalogue.Tables.Forms.Select(f => f with { Fine = false })] };
        var even = new SurfaceField(Skeleton.Solve(new(plain, FigureCatalogue.Bodies, "male"), FigureCatalogue.Pose("stand")), false);

        Assert.Equal(Polygoniser.Build(even, StudioFigure.Coarse).Places, Polygoniser.Build(field, StudioFigure.Coarse).Places);
        var (fine, coarse) = (Polygoniser.Build(field, StudioFigure.Fine), Polygoniser.Build(even, StudioFigure.Fine));
        Assert.InRange((float)fine.TriangleCount / coarse.TriangleCount, 1.15f, 1.6f);
        int Within(Mesh m, Vector3 middle, float radius) => m.Places.Count(p => Vector3.Distance(p, middle) < radius);
        var hand = Model("male", "stand").Landmark("knuckle.L").Place;
        Assert.True(Within(fine, hand, 5) > 2 * Within(coarse, hand, 5));
        var belly = new Vector3(0, 60, 4);
        Assert.Equal(Within(coarse, belly, 5), Within(fine, belly, 5));
    }

    [Theory]
    [InlineData("male", "stand")]
    [InlineData("female", "seated")]
    public void Hands_feet_and_head_take_less_than_half_of_the_triangles(string body, string pose)
    {
        var model = Model(body, pose);
        var bones = FigureCatalogue.Body(body).Bones;
        string[] fine = ["hand", "foot", "head"];
        var share = model
            .Mesh.Triangles.Chunk(3)
            .Average(t => fine.Contains(bones[FigureCatalogue.Body(body).Forms[model.Mesh.Form[t[0]]].A].Region) ? 1.0 : 0.0);
        Assert.InRange(share, 0.2, 0.55);
    }

    /// <summary>A relaxed hand fans: the little finger is bent most, the index least (common practice among drawing books).</summary>
    [Theory]
    [InlineData("L")]
    [InlineData("R")]
    public void Fingers_follow_the_middle_one_each_in_its_own_measure(string side)
    {
        var body = FigureCatalogue.Body("male");
        var pose = FigureCatalogue.Pose("stand");
        var curled = pose with
        {
            Joints = new(pose.Joints)
            {
                [$"fing.{side}"] = new() { ["curl"] = 40 },
                [$"tips.{side}"] = new() { ["curl"] = 50 },
            },
        };
        Skeleton flat = Skeleton.AsWritten(
                body,
                pose with
                {
                    Joints = new(pose.Joints) { [$"fing.{side}"] = [], [$"tips.{side}"] = [] },
                }
            ),
            bent = Skeleton.AsWritten(body, curled);
        double Bend(string bone)
        {
            int i = body.BoneIndex($"{bone}.{side}"),
                parent = body.BoneIndex($"hand.{side}");
            Quaternion Against(Skeleton s) => Quaternion.Inverse(s.Frame[parent]) * s.Frame[i];
            return 2 * Math.Acos(Math.Min(1, Math.Abs((Against(bent) * Quaternion.Inverse(Against(flat))).W))) * 180 / Math.PI;
        }
        Assert.Equal(40, Bend("fing"), 1.0);
        Assert.Equal(34, Bend("fing1"), 1.0);
        Assert.Equal(48, Bend("fing4"), 1.0);
        Assert.Equal(40 * 1.1 + 50 * 1.1, Bend("tips3"), 1.0);
        Assert.Equal(40 + 50 + (0.45 * 50), Bend("dip2"), 1.0);
    }

    [Fact]
    public void A_pose_can_t_name_a_bone_that_follows()
    {
        var pose = FigureCatalogue.Pose("stand");
        var wrong = pose with { Joints = new(pose.Joints) { ["fing1.L"] = new() { ["curl"] = 10 } } };
        var e = Assert.Throws<FigureFileException>(() => wrong.Check("pose", FigureCatalogue.Tables));
        Assert.Contains("fing1.L", e.Message, StringComparison.Ordinal);
        var model = Model("male", "stand");
        Assert.Throws<InputException>(() => PoseEdit.Apply(model, [("fing1.L.curl", 10)]));
        Assert.DoesNotContain(PoseEdit.Handles(model), h => h.Key.StartsWith("fing1", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("\"follows\": \"fing.L\", \"times\": 0.85", "\"follows\": \"nobody.L\", \"times\": 0.85", "nobody.L")]
    [InlineData("\"follows\": \"fing.L\", \"times\": 1.1", "\"follows\": \"fing1.L\", \"times\": 1.1", "follow none itself")]
    [InlineData("\"follows\": \"fing.L\", \"times\": 1.2", "\"follows\": \"arm.L\", \"times\": 1.2", "must be of kind 'finger'")]
    public void A_table_with_a_wrong_leader_is_refused_by_name(string was, string becomes, string says)
    {
        var text = FigureFile.Resource("figure/body");
        Assert.Contains(was, text, StringComparison.Ordinal);
        var e = Assert.Throws<FigureFileException>(() =>
            FigureTables.Read("figure/body.json", text.Replace(was, becomes, StringComparison.Ordinal))
        );
        Assert.Contains(says, e.Message, StringComparison.Ordinal);
    }

    /// <summary>Between two fingers there is either room for two cells or none: a narrower gap would fray.</summary>
    [Fact]
    public void Fingers_stand_apart_at_their_ends()
    {
        var forms = FigureCatalogue.Tables.Forms.ToDictionary(f => f.Id);
        for (var n = 1; n < 4; n++)
        {
            FormRow a = forms[$"f{n}b.L"],
                b = forms[$"f{n + 1}b.L"];
            var gap = Vector3.Distance(a.To!.Value with { Y = 0 }, b.To!.Value with { Y = 0 }) - a.ToRadius - b.ToRadius;
            Assert.True(gap >= 0.2f, $"fingers {n} and {n + 1} are {gap:0.00} apart");
        }
    }

    /// <summary>A breast drawn as a closed oval reads as a plate: its under-curve stays open above.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(20)]
    [InlineData(-35)]
    public void No_closed_oval_lies_on_the_chest(double azimuth)
    {
        var model = Model("female", "stand");
        var seat = new Seat(azimuth, 3.2, 1.3);
        var view = StudioFigure.View(model, seat, FigureViewKind.Line, 480, 720);
        Vec2 neck = view.Landmarks["pit"].At,
            navel = view.Landmarks["navel"].At;
        foreach (var s in view.Strokes.Where(s => s.Kind == LineKind.Soft))
        {
            if (s.Places.Any(p => p.Y < neck.Y || p.Y > navel.Y))
                continue;
            var length = s.Places.Zip(s.Places.Skip(1), Vector2.Distance).Sum();
            Assert.True(length < 40 || Vector2.Distance(s.Places[0], s.Places[^1]) > 0.15f * length, $"closed at {s.Places[0]}");
        }
    }

    [Theory]
    [InlineData("none", 0)]
    [InlineData("short", 4)]
    [InlineData("tied", 5)]
    public void Hair_is_worn_in_one_of_three_ways_and_leaves_the_skull_where_it_is(string hair, int parts)
    {
        var pose = FigureCatalogue.Pose("stand");
        var model = Studio.Model($"female+{hair}", pose, Drapery.For(false, false));
        var bald = Studio.Model("female+none", pose, Drapery.For(false, false));
        var forms = FigureCatalogue.Body($"female+{hair}").Forms.Where(f => f.Id.StartsWith("hair", StringComparison.Ordinal)).ToList();
        Assert.Equal(parts, forms.Count);
        Assert.Equal(bald.Landmark("crown").Place, model.Landmark("crown").Place);
        if (parts > 0)
            Assert.True(model.High.Y > bald.High.Y);
        if (hair != "tied")
            return;
        var tail = FigureCatalogue.Body("female+tied").Forms.FindIndex(f => f.Id == "hairtail");
        var ends = model.Mesh.Places.Zip(model.Mesh.Form).Where(p => p.Second == tail);
        Assert.True(ends.Min(p => p.First.Y) < model.Landmark("chin").Place.Y);
    }

    [Fact]
    public void Unknown_hair_is_refused_by_name()
    {
        var e = Assert.Throws<InputException>(() => FigureCatalogue.Body("male+plaited"));
        Assert.Contains("plaited", e.Message, StringComparison.Ordinal);
        Assert.Contains("tied", e.Accepted, StringComparison.Ordinal);
        Assert.Throws<InputException>(() => FigureCatalogue.Body("nobody+short"));
    }
}
