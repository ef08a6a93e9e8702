using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using Xunit;

namespace MintHarbor.Core.Tests.Figure;

/// <summary>Files of the figure: what is wrong in one is said once, with the file and the line or key.</summary>
public sealed class FigureFileTests
{
    private static readonly string Tables = FigureFile.Resource("figure/body"),
        Bodies = FigureFile.Resource("figure/bodies"),
        Poses = FigureFile.Resource("figure/poses");

    private static FigureFileException Fails(Action read) => Assert.Throws<FigureFileException>(read);

    [Fact]
    public void What_ships_is_read_and_checked()
    {
        FigureCatalogue.Check();
        Assert.True(FigureCatalogue.Poses.Count >= 24);
        Assert.True(FigureCatalogue.Bodies.Count >= 8);
        Assert.All(FigureCatalogue.Bodies, b => Assert.InRange(b.Stature, 150, 200));
        foreach (var build in new[] { "male", "female" })
            Assert.True(FigureCatalogue.Bodies.Count(b => b.Build == build) >= 4);
        Assert.Equal(Strains.Words.Order(), FigureCatalogue.Poses.Select(p => p.Strain).Distinct().Order());
        Assert.Equal(84, FigureCatalogue.Body("male").Landmarks.Count);
        Assert.All(FigureCatalogue.Tables.Landmarks, l => Assert.False(string.IsNullOrWhiteSpace(l.Where)));
    }

    [Fact]
    public void A_typo_is_named_with_its_line()
    {
        var e = Fails(() => FigureTables.Read("body.json", Tables.Replace("\"blendNear\"", "\"blendNaer\"", StringComparison.Ordinal)));
        Assert.Equal("body.json", e.File);
        Assert.StartsWith("line ", e.Key);
        Assert.Contains("blendNaer", e.Message);
        Assert.Contains(
            "line ",
            Fails(() =>
                Pose.ReadAll("poses.json", Poses.Replace("\"elbow\"", "\"elbwo\"", StringComparison.Ordinal), FigureCatalogue.Tables)
            ).Key
        );
        Assert.Contains("line ", Fails(() => FigureTables.Read("body.json", Tables[..^40])).Key);
    }

    [Theory]
    [InlineData("\"bone\": \"head\", \"at\": [0, 100", "\"bone\": \"haed\", \"at\": [0, 100", "landmarks.crown.bone", "haed")]
    [InlineData("\"parent\": \"lumbar\"", "\"parent\": \"lumber\"", "bones.thorax.parent", "lumber")]
    [InlineData("\"shape\": \"sweep\"", "\"shape\": \"tube\"", "forms.trunk.shape", "ellipsoid, cone, loft, sweep")]
    public void A_name_that_is_not_there_is_named_by_key(string right, string wrong, string key, string says)
    {
        Assert.Contains(right, Tables);
        var e = Fails(() => FigureTables.Read("body.json", Tables.Replace(right, wrong, StringComparison.Ordinal)));
        Assert.Equal(key, e.Key);
        Assert.Contains(says, e.Message);
    }

    [Theory]
    [InlineData(
        "\"thorax\": {\"side\": -9, \"twist\": 8, \"flex\": 2}",
        "\"thorax\": {\"side\": -59, \"twist\": 8, \"flex\": 2}",
        "contrapposto.joints.thorax.side",
        "-20° to 20°"
    )]
    [InlineData("\"fore.L\": {\"flex\": 14}", "\"fore.L\": {\"bend\": 14}", "stand.joints.fore.L.bend", "flex")]
    [InlineData("\"fore.L\": {\"flex\": 14}", "\"foer.L\": {\"flex\": 14}", "stand.joints.foer.L", "there is no such joint")]
    [InlineData("\"strain\": \"standing\"", "\"strain\": \"stand\"", "stand.strain", "lying, seated")]
    public void An_impossible_pose_is_refused(string right, string wrong, string key, string says)
    {
        Assert.Contains(right, Poses);
        var at = Poses.IndexOf(right, StringComparison.Ordinal);
        var e = Fails(() => Pose.ReadAll("poses.json", Poses[..at] + wrong + Poses[(at + right.Length)..], FigureCatalogue.Tables));
        Assert.Equal(key, e.Key);
        Assert.Contains(says, e.Message);
    }

    [Theory]
    [InlineData("\"stature\": 164", "\"stature\": 104", "female.stature", "adults")]
    [InlineData("\"waist\": [0.9, 1, 0.92]", "\"wiast\": [0.9, 1, 0.92]", "female.scale.wiast", "no such region")]
    [InlineData("\"larynx\"", "\"larinx\"", "female.forms.larinx", "no such form")]
    public void A_body_is_checked_against_the_tables(string right, string wrong, string key, string says)
    {
        Assert.Contains(right, Bodies);
        var e = Fails(() => BodyRow.ReadAll("bodies.json", Bodies.Replace(right, wrong, StringComparison.Ordinal), FigureCatalogue.Tables));
        Assert.Equal(key, e.Key);
        Assert.Contains(says, e.Message);
    }

    [Fact]
    public void A_pose_comes_back_from_its_own_text()
    {
        foreach (var p in FigureCatalogue.Poses)
            Assert.Equal(p.ToJson(), Pose.Read(p.ToJson(), FigureCatalogue.Tables).ToJson());
    }

    [Fact]
    public void A_pose_mirrored_twice_is_itself()
    {
        foreach (var p in FigureCatalogue.Poses)
            Assert.Equal(StudioFigure.Key(Sorted(p)), StudioFigure.Key(Sorted(p.Mirrored().Mirrored())));

        static Pose Sorted(Pose p) =>
            p with
            {
                Joints = p
                    .Joints.OrderBy(j => j.Key, StringComparer.Ordinal)
                    .ToDictionary(j => j.Key, j => j.Value.OrderBy(a => a.Key, StringComparer.Ordinal).ToDictionary()),
                Feet = p.Feet?.OrderBy(f => f.Key).ToDictionary(),
                Hands = p.Hands?.OrderBy(f => f.Key).ToDictionary(),
            };
    }
}
