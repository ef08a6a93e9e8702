using System.Text.Json;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sessions;
using Xunit;

namespace MintHarbor.Core.Tests.Sessions;

public class PlanEditTests
{
    private static readonly PlanRequest Evening = Evenings.Usual;
    private static readonly List<PlanItem> Plan = [.. Planner.Plan(Evening).Proposals[0].Items];

    private static int Find(string exercise) => Plan.FindIndex(i => i.Exercise == exercise);

    private static Proposal After(PlanEdit edit) => Planner.Lay(PlanEdits.Apply(Evening, Plan, edit));

    [Fact]
    public void A_longer_line_takes_its_minutes_from_those_after_it_and_says_what_that_breaks()
    {
        var k = Find("sitting");
        var request = PlanEdits.Apply(Evening, Plan, new(EditKind.Length, k, Minutes: 40));
        var laid = Planner.Lay(request);
        Assert.Equal((Plan[k].At, 40.0, true), (laid.Items[k].At, laid.Items[k].Minutes, laid.Items[k].Held));
        Assert.Equal(150, laid.Items.Sum(i => i.Minutes));
        var broken = Planner.Plan(request);
        Assert.Empty(broken.Proposals);
        Assert.Contains(broken.Cannot, c => c.Rule == "rest-stretch" && Equals(c.Nearest["minutes"], 25.0));
        // What is broken can be mended: the wish is kept where the rules let it, or refused with the nearest.
        Assert.Contains(Planner.Plan(PlanEdits.Mend(Evening, Plan, new(EditKind.Length, k, Minutes: 40))).Cannot, c =>
            c.Rule.StartsWith("rest-")
        );
        var shorter = Planner.Plan(PlanEdits.Mend(Evening, Plan, new(EditKind.Length, k, Minutes: 15))).Proposals[0];
        Assert.Contains(shorter.Items, i => i.Held && i.Exercise == "sitting" && i.Minutes == 15);
    }

    [Fact]
    public void A_long_pose_turns_in_every_period_and_nothing_else_turns_with_it()
    {
        var turned = After(new(EditKind.Turn, Find("sitting"), Facing: -135));
        Assert.Equal(-135, turned.Facing);
        Assert.All(turned.Items.Where(i => i.IsLong), i => Assert.All(i.Facings, f => Assert.Equal(-135, f)));
        Assert.Equal(Plan.Where(i => !i.IsLong).SelectMany(i => i.Facings), turned.Items.Where(i => !i.IsLong).SelectMany(i => i.Facings));
        Assert.True(turned.Holds);
        foreach (var f in new double?[] { null, double.NaN, 200 })
            Assert.Equal("facing", Assert.Throws<InputException>(() => After(new(EditKind.Turn, Find("sitting"), Facing: f))).Field);
        Assert.Throws<InputException>(() => After(new(EditKind.Turn, 0, Facing: 90)));
    }

    [Fact]
    public void Moving_replacing_and_posing_hold_what_they_change()
    {
        var k = Find("core-first");
        var earlier = After(new(EditKind.Earlier, k));
        Assert.Contains(earlier.Items, i => i.Held && i.Exercise == "core-first" && i.At == Plan[k].At - 5);
        Assert.Contains(After(new(EditKind.Replace, k, "contour")).Items, i => i.Held && i.Exercise == "contour" && i.At == Plan[k].At);
        Assert.Contains(After(new(EditKind.Pose, k, PoseId: "recline")).Items, i => i.Held && i.PoseIds.SequenceEqual(["recline"]));
        Assert.Contains(After(new(EditKind.Pose, k, PoseId: "crouch")).Rules, r => r is { Id: "rest-strain", Holds: false });
    }

    [Fact]
    public void A_pose_for_a_sitting_goes_to_every_period_of_it()
    {
        var sittings = After(new(EditKind.Pose, Find("sitting"), PoseId: "recline")).Items.Where(i => i.Period > 0).ToList();
        Assert.True(sittings.Count > 1);
        Assert.All(sittings, i => Assert.Equal(["recline"], i.PoseIds));
        Assert.Equal(Enumerable.Range(1, sittings.Count), sittings.Select(i => i.Period));
    }

    [Fact]
    public void Split_and_merge_are_one_another_undone()
    {
        var k = Plan.FindIndex(i => i.Poses > 3);
        var split = After(new(EditKind.Split, k)).Items;
        Assert.Equal(Plan.Count + 1, split.Count);
        Assert.Equal(Plan[k].PoseIds, split[k].PoseIds.Concat(split[k + 1].PoseIds));
        Assert.Equal(Plan[k].Poses, split[k].Poses + split[k + 1].Poses);
        var merged = Planner.Lay(PlanEdits.Apply(Evening, split, new(EditKind.Merge, k))).Items;
        Assert.Equal(Plan.Select(i => (i.At, i.Minutes, i.Exercise, i.Poses)), merged.Select(i => (i.At, i.Minutes, i.Exercise, i.Poses)));
    }

    [Fact]
    public void Swapped_lines_change_places_and_rests_come_and_go()
    {
        int a = Find("gesture"),
            b = Find("core-first");
        var swapped = After(new(EditKind.Swap, a, To: b)).Items;
        Assert.Equal((Plan[b].Exercise, Plan[a].Exercise), (swapped[a].Exercise, swapped[b].Exercise));
        var rested = After(new(EditKind.Rest, Find("sitting"))).Items;
        Assert.Equal(Plan.Count(i => i.Kind == ItemKind.Rest) + 1, rested.Count(i => i.Kind == ItemKind.Rest));
        var without = After(new(EditKind.Remove, Plan.FindIndex(i => i.Kind == ItemKind.Rest)));
        Assert.Contains(without.Rules, r => !r.Holds);
        Assert.All(new[] { swapped, rested, without.Items }, i => Assert.Equal(150, i.Sum(x => x.Minutes)));
    }

    /// <summary>Whatever is done to a timetable, its minutes add up, its lines follow one another, and the verifier written apart
    /// from the planner finds nothing where the proof says that all holds, and something where it says not.</summary>
    [Fact]
    public void Any_edit_leaves_minutes_that_add_up_and_a_true_proof()
    {
        var random = new SeededRandom(5);
        int kept = 0,
            broken = 0,
            refused = 0;
        for (var n = 0; n < 300; n++)
        {
            var request = Evening.Wishing(w =>
                w with
                {
                    Minutes = 90 + (5 * random.Next(20)),
                    Approach = (Approach)random.Next(3),
                    Seed = n,
                }
            );
            IReadOnlyList<PlanItem> items = Planner.Plan(request).Proposals[0].Items;
            for (var e = 0; e < 5; e++)
            {
                var edit = new PlanEdit(
                    (EditKind)random.Next(13),
                    random.Next(items.Count),
                    Minutes: 1 + random.Next(40),
                    To: random.Next(items.Count)
                );
                PlanRequest next;
                try
                {
                    next = PlanEdits.Apply(request, items, edit);
                }
                catch (InputException x)
                {
                    Assert.NotEmpty(x.Accepted);
                    refused++;
                    continue;
                }
                var laid = Planner.Lay(next);
                Assert.Equal(request.Wish.Minutes, laid.Items.Sum(i => i.Minutes), 6);
                var faults = PlanVerifier.Faults(JsonSerializer.SerializeToNode(laid, CoreData.Json)!, request.Wish.Minutes, false, 14);
                // The verifier looks at half minutes: what is over by less it can't see.
                var plain = laid.Holds || laid.Rules.Any(r => !r.Holds && (r.Unit != "min" || Math.Abs(r.Value - r.Limit) >= 1));
                Assert.True(
                    !plain || laid.Holds == (faults.Count == 0),
                    $"{edit}: proof {string.Join("; ", laid.Rules.Where(r => !r.Holds).Select(r => r.Says))} against {string.Join("; ", faults)}"
                );
                if (!laid.Holds)
                {
                    broken++;
                    continue;
                }
                (items, kept) = (laid.Items, kept + 1);
            }
        }
        Assert.True(kept > 300 && broken > 100 && refused > 10, $"{kept} kept, {broken} broken, {refused} refused");
    }

    [Fact]
    public void A_line_that_is_gone_and_a_length_that_cannot_be_are_named()
    {
        Assert.Equal("index", Assert.Throws<InputException>(() => PlanEdits.Apply(Evening, Plan, new(EditKind.Longer, 99))).Field);
        Assert.Equal(
            "minutes",
            Assert.Throws<InputException>(() => PlanEdits.Apply(Evening, Plan, new(EditKind.Length, 1, Minutes: -3))).Field
        );
        Assert.Contains(
            "nothing is left",
            Assert.Throws<InputException>(() => PlanEdits.Apply(Evening, Plan, new(EditKind.Length, 1, Minutes: 140))).Message
        );
        Assert.Equal("to", Assert.Throws<InputException>(() => PlanEdits.Apply(Evening, Plan, new(EditKind.Move, 1, To: 77))).Field);
    }

    [Fact]
    public void Longer_is_longer_and_shorter_is_shorter_a_set_by_one_pose()
    {
        var k = Find("sitting");
        Assert.Equal(Plan[k].Minutes + 5, After(new(EditKind.Longer, k)).Items[k].Minutes);
        Assert.Equal(Plan[k].Minutes - 5, After(new(EditKind.Shorter, k)).Items[k].Minutes);
        var set = Plan.FindIndex(i => i.Poses > 1);
        Assert.Equal(Plan[set].Poses + 1, After(new(EditKind.Longer, set)).Items[set].Poses);
        Assert.Equal(Plan[set].Poses - 1, After(new(EditKind.Shorter, set)).Items[set].Poses);
    }

    [Fact]
    public void The_last_line_that_can_give_may_give_the_last_minute()
    {
        List<PlanItem> two =
        [
            new(0, 20, ItemKind.Exercise) { Exercise = "sitting" },
            new(20, 20, ItemKind.Exercise) { Exercise = "sitting" },
        ];
        var laid = PlanEdits.Apply(Evening.Wishing(w => w with { Minutes = 40 }), two, new(EditKind.Longer, 0)).Laid;
        Assert.Equal([(0, 25), (25, 15)], laid.Select(i => (i.At, i.Minutes)));
    }
}
