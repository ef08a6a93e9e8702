using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;
using Xunit;

namespace MintHarbor.Core.Tests.Sessions;

/// <summary>Lines and poses keep their identity; nothing is found by being unlike its neighbours.</summary>
public class IdentityTests
{
    private static Proposal Evening(string shape, Approach approach = Approach.Alternating) =>
        Planner
            .Plan(
                new(
                    new()
                    {
                        Minutes = 150,
                        Approach = approach,
                        Students = 9,
                        Shape = shape,
                        Seed = 7,
                    }
                )
            )
            .Proposals[0];

    [Theory]
    [InlineData("two", Approach.Alternating), InlineData("halves", Approach.LongFirst)]
    public void Two_long_poses_of_an_evening_have_a_letter_each_and_their_periods_share_it(string shape, Approach approach)
    {
        var plan = Evening(shape, approach);
        var cards = plan.CardPoses;
        Assert.Equal(2, cards.Count);
        Assert.NotEqual(cards[0].Pose, cards[1].Pose);
        Assert.NotEqual(cards[0].PoseIds[0], cards[1].PoseIds[0]);
        foreach (var period in plan.Items.Where(i => i.Period > 0))
            Assert.Equal(cards.Last(c => c.At <= period.At).Pose, period.Pose);
        var drawn = plan.Items.Where(i => i.Kind == ItemKind.Exercise).GroupBy(i => i.Pose).ToList();
        Assert.All(drawn, g => Assert.True(g.Count() == 1 || g.All(i => i.Period > 0)));
    }

    [Fact]
    public void Every_line_has_its_own_identity_and_keeps_it_through_every_change()
    {
        var plan = Evening("opener");
        var request = new PlanRequest(new() { Minutes = 150, Students = 9 });
        Assert.True(Identities.Complete(plan.Items));
        Assert.Equal(plan.Items.Count, plan.Items.Select(i => i.Line).Distinct().Count());
        for (var k = 0; k < plan.Items.Count - 1; k++)
        {
            var moved = PlanEdits.Apply(request, plan.Items, new(EditKind.Swap, k, To: k + 1)).Laid;
            Assert.Equal((plan.Items[k].Line, plan.Items[k + 1].Line), (moved[k + 1].Line, moved[k].Line));
        }
        var sets = plan.Items.ToList().FindIndex(i => i.Poses > 1);
        var split = PlanEdits.Apply(request, plan.Items, new(EditKind.Split, sets)).Laid;
        Assert.Equal(plan.Items[sets].Line, split[sets].Line);
        Assert.True(split[sets + 1].Line.Value > plan.Items.Max(i => i.Line.Value));
        // The letters of all others stay what is written on the sheets.
        var again = Planner.Lay(request with { Laid = split }).Items;
        foreach (var i in plan.Items.Where(i => !i.Pose.IsNone))
            Assert.Equal(i.Pose, again.Single(x => x.Line == i.Line).Pose);
        Assert.Equal(
            again.Count(i => i.Kind == ItemKind.Exercise && i.Period <= 1),
            again.Select(i => i.Pose).Where(p => !p.IsNone).Distinct().Count()
        );
    }

    /// <summary>The changed line is the one that was changed, even where another looks just like it.</summary>
    [Fact]
    public void A_mended_timetable_keeps_the_line_that_was_changed_among_others_alike()
    {
        var plan = Evening("opener");
        var request = new PlanRequest(
            new()
            {
                Minutes = 150,
                Students = 9,
                Seed = 7,
            }
        );
        var rests = plan.Items.Select((i, k) => (i, k)).Where(x => x.i.Kind == ItemKind.Rest).Select(x => x.k).ToList();
        Assert.True(rests.Count >= 2);
        var mended = PlanEdits.Mend(request, plan.Items, new(EditKind.Hold, rests[1]));
        var kept = Assert.Single(mended.Held);
        Assert.Equal((plan.Items[rests[1]].Line, plan.Items[rests[1]].At), (kept.Line, kept.At));
    }

    [Fact]
    public void Swapping_without_a_place_to_go_to_is_refused_by_name()
    {
        var plan = Evening("opener");
        var e = Assert.Throws<InputException>(() => PlanEdits.Apply(new(new() { Minutes = 150 }), plan.Items, new(EditKind.Swap, 1)));
        Assert.Equal("to", e.Field);
    }

    [Fact]
    public void A_drawing_is_from_the_line_with_its_exercise_and_the_second_from_the_next()
    {
        var plan = Evening("opener");
        var gestures = plan.Items.Where(i => i.Exercise == "gesture").Select(i => i.Pose).ToList();
        Assert.True(gestures.Count >= 2);
        Assert.Equal(gestures[0], plan.PoseOf("gesture", []));
        Assert.Equal(gestures[1], plan.PoseOf("gesture", [gestures[0]]));
        Assert.Equal(gestures[^1], plan.PoseOf("gesture", gestures));
        Assert.Equal(plan.CardPoses[0].Pose, plan.PoseOf("sitting", []));
        // What the evening didn't hold is drawn from its long pose.
        Assert.Equal(plan.CardPoses[0].Pose, plan.PoseOf("part-study", []));
        // But no pot and no row of patches is a pose; one that has a line of its own is that line's.
        Assert.True(plan.PoseOf("value-patches", [], ofFigure: false).IsNone);
        Assert.Equal(gestures[0], plan.PoseOf("gesture", [], ofFigure: false));
    }

    [Theory]
    [InlineData(0, "A"), InlineData(25, "Z"), InlineData(26, "AA"), InlineData(27, "AB"), InlineData(52, "BA")]
    public void Letters_go_on_after_Z(int n, string letters) => Assert.Equal(letters, PoseKey.Of(n).ToString());

    /// <summary>An evening names the course's own poses as the course does, wherever it is told.</summary>
    [Fact]
    public void An_own_pose_is_called_by_its_name()
    {
        var plan = new[]
        {
            new PlanItem(0, 10, ItemKind.Exercise)
            {
                Exercise = "sitting",
                Posed = true,
                Poses = 1,
                PoseMinutes = 10,
                Strains = [Strain.Standing],
                PoseIds = ["own-3"],
                Facings = [90],
            },
        };
        var request = new PlanRequest(new() { Minutes = 60 })
        {
            Known = new() { OwnPoses = [new("own-3", "Standing hip first", Strain.Standing)] },
        };
        var pose = new Evening(request, plan).Lines[0].Poses[0];
        Assert.Equal(("Standing hip first", "standing", 90.0), (pose.Name, pose.Held, pose.Facing));
        Assert.Equal("the model asked for it", new Evening(request, plan).Line(new(0, 5, ItemKind.Rest)).OnWall);
    }
}
