using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;
using Xunit;

namespace MintHarbor.Core.Tests.Figure;

/// <summary>Every pose of every body lies on floor, stool or block: nothing goes through it, nothing hovers, nothing is cut.</summary>
public sealed class SettlingTests
{
    /// <summary>How deep bone goes under what it rests on, and flesh, before both are pressed flat; what is drawn goes no deeper than the first. Centimetres.</summary>
    private const float Bone = 0.75f,
        Flesh = 3.6f,
        Drawn = 0.5f;

    private static readonly string[] Bony = ["foot", "toe", "knee", "hand", "fing", "tips", "thumb", "fore", "head"];

    public static TheoryData<string> Poses => [.. FigureCatalogue.Poses.Select(p => p.Id)];

    [Theory]
    [MemberData(nameof(Poses))]
    public void On_every_body_it_lies_on_what_it_rests_on(string id)
    {
        var pose = FigureCatalogue.Pose(id);
        foreach (var row in FigureCatalogue.Bodies)
        {
            var body = FigureCatalogue.Body(row.Id);
            var skeleton = Skeleton.Solve(body, pose);
            Assert.True(skeleton.OutOfReach <= 0.6f, $"{row.Id}: a hand or foot is {skeleton.OutOfReach:0.0} short of its place");
            var through = Polygoniser.Build(new SurfaceField(skeleton, false, flattened: false), StudioFigure.Thumb);
            var cm = body.CentimetresPerUnit;
            Assert.InRange(through.Places.Min(p => p.Y) * cm, -Flesh, 0.5f);
            for (var i = 0; i < through.Places.Length; i++)
            {
                if (through.Form[i] < 0)
                    continue;
                var bone = body.Bones[body.Forms[through.Form[i]].A].Id;
                var most = Bony.Contains(bone.Split('.')[0]) ? Bone : Flesh;
                var under = Under(through.Places[i], skeleton.Pose) * cm;
                Assert.True(under <= most, $"{row.Id}: {bone} goes {under:0.0} cm into what it rests on");
            }
            var drawn = Polygoniser.Build(new SurfaceField(skeleton, false), StudioFigure.Thumb);
            Assert.True(
                drawn.Places.Min(p => p.Y) * cm >= -Drawn,
                $"{row.Id}: drawn {-drawn.Places.Min(p => p.Y) * cm:0.0} cm under the floor"
            );
            Assert.Equal(0, FineFormsTests.Open(drawn));
        }
    }

    /// <summary>How far a place lies under the floor or inside a block. A staff or a rope is gripped, not rested on.</summary>
    private static float Under(Vector3 p, Pose pose) =>
        (pose.Props ?? []).Where(b => b.Half.X > 2).Select(b => -new Solid(b.Shape == "box", b.At, b.Half).Distance(p)).Append(-p.Y).Max();

    /// <summary>What a term needs: enough of every kind, each with what it teaches and how long it may be held.</summary>
    [Fact]
    public void The_library_has_enough_of_every_kind()
    {
        var poses = FigureCatalogue.Poses;
        Assert.True(poses.Count >= 60, $"{poses.Count} poses");
        int Count(Func<Pose, bool> of) => poses.Count(of);
        Assert.True(Count(p => p.Strain == "standing" || (p.Balance is [> 0.28f, _] && p.Balance[1] > 0.28f)) >= 12, "standing");
        Assert.True(Count(p => p.Shows?.Contains("weight-shift") == true) >= 10, "on one leg");
        Assert.True(Count(p => p.Strain is "seated" or "leaning-back") >= 12, "seated");
        Assert.True(Count(p => p.Strain is "lying" or "arched") >= 8, "lying");
        Assert.True(Count(p => p.Strain == "raised" && (p.Shows ?? []).Any(s => s is "arms-up" or "twist")) >= 8, "raised or twisted");
        Assert.True(Count(p => p.Strain == "extreme") >= 6, "extremes");
        Assert.True(Count(p => p.Support.Contains("staff") || p.Support.Contains("rope")) >= 4, "with a staff or a rope");
        Assert.All(poses, p => Assert.False(string.IsNullOrWhiteSpace(p.Trouble) || p.Purposes.Length == 0 || p.Parts.Length == 0, p.Id));
        Assert.Equal(poses.Count, poses.Select(p => p.Name).Distinct().Count());
    }

    /// <summary>As somebody who draws means it: from in front crown, soles, elbows, wrists and ankles are set down; the back of the head is not.</summary>
    [Fact]
    public void What_a_drawer_sets_down_is_seen()
    {
        var studio = new StudioFigure();
        IReadOnlyDictionary<string, SeenLandmark> From(string pose, double azimuth) =>
            StudioFigure
                .View(
                    studio.Model("male", FigureCatalogue.Pose(pose), Drapery.For(false, false)),
                    new Seat(azimuth, 3.6, 1.5),
                    FigureViewKind.Line
                )
                .Landmarks;
        var front = From("stand", 0);
        foreach (var side in new[] { "L", "R" })
        {
            foreach (var id in new[] { "sole", "elbow", "wrist", "ankleout", "anklein", "trochanter", "fingertip" })
                Assert.True(front[$"{id}.{side}"].Visible, $"{id}.{side} from in front");
            foreach (var id in new[] { "psis", "buttock", "kneeback", "heel" })
                Assert.False(front[$"{id}.{side}"].Visible, $"{id}.{side} from in front");
        }
        Assert.True(front["crown"].Visible);
        Assert.False(front["occiput"].Visible || front["c7"].Visible);
        var side90 = From("stand", 90);
        Assert.True(side90["elbow.L"].Visible && side90["buttock.L"].Visible);
        // The far arm is behind the trunk.
        Assert.False(side90["elbow.R"].Visible || side90["wrist.R"].Visible || side90["acromion.R"].Visible);
        Assert.False(From("stand", 180)["nosetip"].Visible);
    }

    /// <summary>A pose laid down in a mirror is the mirror of the pose laid down: left is not mistaken for right.</summary>
    [Theory]
    [InlineData("sidesit"), InlineData("sidelie"), InlineData("oneknee"), InlineData("seattwist")]
    public void A_mirrored_pose_rests_alike(string id)
    {
        var body = FigureCatalogue.Body("female");
        var (one, other) = (Skeleton.Solve(body, FigureCatalogue.Pose(id)), Skeleton.Solve(body, FigureCatalogue.Pose(id).Mirrored()));
        for (var i = 0; i < body.Bones.Count; i++)
        {
            var twin = body.BoneIndex(Sides.Other(body.Bones[i].Id));
            Assert.True(Vector3.Distance(one.Joint[i] with { X = -one.Joint[i].X }, other.Joint[twin]) < 0.5f, body.Bones[i].Id);
        }
    }

    [Theory]
    [
        InlineData("\"parts\": [\"tail\"], \"by\": \"root\"", "there is no bone 'tail'"),
        InlineData("\"parts\": [\"pelvis\"], \"by\": \"feet.R\"", "gives way to nothing")
    ]
    public void A_rest_that_can_not_be_is_named(string rest, string says)
    {
        var json = FigureCatalogue.Pose("kneel").ToJson();
        var at = json.IndexOf("\"rests\":[", StringComparison.Ordinal) + 9;
        var e = Assert.Throws<FigureFileException>(() => Pose.Read(json.Insert(at, $"{{{rest}}},"), FigureCatalogue.Tables));
        Assert.Contains(says, e.Message);
    }

    [Fact]
    public void What_is_known_of_a_pose_is_where_it_is_held()
    {
        Assert.Equal(Footing.Floor, PoseLibrary.Find("tailor")!.Footing);
        Assert.Equal(Footing.Block, PoseLibrary.Find("perched")!.Footing);
        Assert.Equal(Footing.Feet, PoseLibrary.Find("staff")!.Footing);
        Assert.Equal("kneeling", PoseLibrary.Find("kneel")!.Family);
    }
}
