using System.Numerics;
using System.Text.Json.Nodes;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using Xunit;

namespace MintHarbor.Core.Tests.Anatomy;

/// <summary>Checks of anatomy: seen where the eye gets to them, and each wrong drawing wrong in the very thing that the check is about.</summary>
public class BodyCheckTests
{
    private static readonly FigureModel Standing = Model(MuscleSheets.Rest);
    private static readonly FigureModel Raised = Model(FigureCatalogue.Pose("armraised"));
    private static readonly FigureModel Turned = Model(
        MuscleSheets.Rest with
        {
            Joints = new()
            {
                ["arm.L"] = new() { ["abd"] = 24 },
                ["hand.L"] = new() { ["pron"] = 82 },
            },
        }
    );

    private static FigureModel Model(Pose pose, bool clothed = false) =>
        new(FigureCatalogue.Body("male"), pose, clothed, StudioFigure.Coarse);

    private static FigureModel For(BodyCheck c) =>
        c.Needs switch
        {
            CheckNeed.RaisedArm => Raised,
            CheckNeed.TurnedPalm => Turned,
            _ => Standing,
        };

    public static TheoryData<string> Ids() => [.. BodyChecks.All.Select(c => c.Id)];

    [Fact]
    public void Fourteen_checks_are_seen_from_some_seat_and_hidden_from_another()
    {
        Assert.Equal(14, BodyChecks.All.Count);
        foreach (var c in BodyChecks.All)
        {
            var seen = Enumerable
                .Range(0, 8)
                .Select(k => BodyChecks.In(For(c), new(k * 45), 240, 360).Single(s => s.Check.Id == c.Id))
                .ToList();
            Assert.Contains(seen, s => s.Visible);
            if (c.Id is "pelvis-triangle" or "collarbones" or "shoulder-blade" or "chest-muscle")
                Assert.Contains(seen, s => !s.Visible);
        }
    }

    [Fact]
    public void What_a_pose_does_not_show_is_not_to_be_seen_there()
    {
        SeenCheck Of(string id, FigureModel model, double azimuth) =>
            BodyChecks.In(model, new(azimuth), 240, 360).Single(s => s.Check.Id == id);
        // The blade follows a raised arm, the forearm's bones cross with a turned palm: else both drawings are one.
        Assert.False(Of("shoulder-blade", Standing, 180).Visible);
        Assert.True(Of("shoulder-blade", Raised, 180).Visible);
        Assert.False(Of("shoulder-blade", Raised, 0).Visible);
        Assert.False(Of("forearm-twist", Standing, 0).Visible);
        // Hip points are seen from in front only.
        Assert.True(Of("pelvis-triangle", Standing, 0).Visible);
        Assert.False(Of("pelvis-triangle", Standing, 180).Visible);
        // The outer ankle of the figure's left is seen from its left.
        Assert.Equal(1, Of("ankles", Standing, 80).Side);
        Assert.Equal(-1, Of("ankles", Standing, -80).Side);
    }

    [Theory]
    [MemberData(nameof(Ids))]
    public void The_wrong_drawing_differs_from_the_right_one(string id)
    {
        var c = BodyChecks.Find(id);
        var model = For(c);
        var azimuth = id is "shoulder-blade" or "calf" or "elbow-points" ? 180 : 20;
        CheckDrawing right = BodyChecks.Draw(model, c, 1, new(azimuth), false, 120),
            wrong = BodyChecks.Draw(model, c, 1, new(azimuth), true, 120);
        var apart = right.Wash!.Pixels.Zip(wrong.Wash!.Pixels).Count(p => Math.Abs((p.First >> 24) - (double)(p.Second >> 24)) > 24);
        var inked = right.Wash.Pixels.Count(p => p >> 24 > 0);
        Assert.True(apart >= 0.02 * inked, $"{apart} of {inked} pixels differ");
        Assert.Contains(wrong.Wrong ? "l5 8.6h-10z" : "circle", wrong.Key.Count > 0 ? wrong.ToSvg(null) : "l5 8.6h-10z");
        Assert.DoesNotContain("l5 8.6h-10z", right.ToSvg(null));
    }

    /// <summary>On either side it is the hip point that is looked at which slips, and its mark with it.</summary>
    [Theory]
    [InlineData(1, "hipbone.L", "hipbone.R")]
    [InlineData(-1, "hipbone.R", "hipbone.L")]
    public void The_pelvis_slips_on_the_side_that_is_looked_at(int side, string slips, string stays)
    {
        var check = BodyChecks.Find("pelvis-triangle");
        float High(FigureModel m, string id)
        {
            var bones = m.UnderSkin.Bones;
            var part = bones.Parts.ToList().FindIndex(p => p.Id == id);
            return bones.Mesh.Places.Where((_, i) => bones.Mesh.Form[i] == part).Max(p => p.Y);
        }
        var wrong = BodyChecks.Mistaken(Standing, check, side, StudioFigure.Coarse);
        Assert.InRange(High(wrong, slips) - High(Standing, slips), -4, -2);
        Assert.Equal(High(Standing, stays), High(wrong, stays), 0.2f);
        CheckDrawing right = BodyChecks.Draw(Standing, check, side, new(0), false, 160),
            drawn = BodyChecks.Draw(Standing, check, side, new(0), true, 160);
        Assert.True(drawn.Key[0].Y > right.Key[0].Y + 10);
        Assert.Equal(right.Key[1].Y, drawn.Key[1].Y, 0.5f);
    }

    [Fact]
    public void A_mistake_made_by_half_has_its_marks_half_way()
    {
        var check = BodyChecks.Find("ankles");
        Vector2 Inner(bool wrong, double by) => BodyChecks.Draw(Standing, check, 1, new(20), wrong, 160, by).Key[0];
        Assert.Equal((Inner(false, 1) + Inner(true, 1)) / 2, Inner(true, 0.5));
    }

    /// <summary>The rule of a check holds in its right drawing and fails in its wrong one; up is smaller.</summary>
    [Theory]
    [InlineData("ankles")]
    [InlineData("calf")]
    [InlineData("thigh-drop")]
    public void The_rule_itself_holds_right_and_fails_wrong(string id)
    {
        var c = BodyChecks.Find(id);
        var seat = new Seat(id == "calf" ? 180 : 0);
        float Lower(bool wrong)
        {
            var key = BodyChecks.Draw(Standing, c, 1, seat, wrong, 160).Key;
            return key[0].Y - key[1].Y;
        }
        // The first place is the inner one: the ankle higher, the calf and the thigh's muscle lower than the outer.
        var sign = id == "ankles" ? -1 : 1;
        Assert.True(Lower(false) * sign > 4);
        Assert.True(Lower(true) * sign < Lower(false) * sign - 4);
    }

    [Fact]
    public void A_muscle_is_not_drawn_under_the_garment_and_a_bone_is()
    {
        var dressed = Model(MuscleSheets.Rest, clothed: true);
        Assert.Throws<InputException>(() => BodyChecks.Draw(dressed, BodyChecks.Find("calf"), 1, new(180), false));
        Assert.NotEmpty(BodyChecks.Draw(dressed, BodyChecks.Find("ankles"), 1, new(0), false).Layers);
        Assert.Throws<InputException>(() => BodyChecks.Find("wing"));
    }

    [Fact]
    public void What_is_wrong_in_the_file_is_named()
    {
        FigureFileException Of(Action<JsonNode> change)
        {
            var json = JsonNode.Parse(FigureFile.Resource("anatomy/checks"))!;
            change(json["checks"]![0]!);
            return Assert.Throws<FigureFileException>(() => BodyChecks.Read("checks.json", json.ToJsonString()));
        }
        Assert.Contains("no fault 'none'", Of(c => c["fault"] = "none").Message, StringComparison.Ordinal);
        Assert.Contains("no muscle 'wing'", Of(c => c["muscles"] = new JsonArray("wing")).Message, StringComparison.Ordinal);
        Assert.Contains("no bone 'wing'", Of(c => c["anchor"] = "wing 1 2").Message, StringComparison.Ordinal);
        Assert.Equal("checks.neck-muscle.change", Of(c => c["change"] = new JsonArray()).Key);
    }
}
