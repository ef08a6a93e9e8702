using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;
using NodaTime;
using Xunit;

namespace MintHarbor.Core.Tests.Sessions;

/// <summary>Each rule on timetables laid out by hand, at its limit and just over it.</summary>
public class RestRulesTests
{
    private static PlanItem Pose(double at, double minutes, params Strain[] strains) =>
        new(at, minutes, ItemKind.Exercise)
        {
            Exercise = "sitting",
            Posed = true,
            Poses = strains.Length,
            PoseMinutes = minutes / strains.Length,
            Strains = strains,
        };

    private static PlanItem Of(ItemKind kind, double at, double minutes) => new(at, minutes, kind);

    private static RuleFact Fact(string id, IReadOnlyList<PlanItem> items, int minutes, Func<RuleFact, bool>? which = null) =>
        RestRules.Prove(items, new(new() { Minutes = minutes })).First(f => f.Id == id && (which is null || which(f)));

    [Theory]
    [InlineData(25, true), InlineData(25.5, false), InlineData(10, true)]
    public void A_stretch_is_at_most_25_minutes(double posed, bool holds)
    {
        var f = Fact("rest-stretch", [Of(ItemKind.SetUp, 0, 5), Pose(5, posed, Strain.Seated)], 60);
        Assert.Equal((holds, posed, 5.0), (f.Holds, f.Value, f.From!.Value));
        Assert.Equal(posed == 25, f.AtLimit);
    }

    private static PlanItem Poses(double at, double each, params string[] ids) =>
        Pose(at, each * ids.Length, [.. ids.Select(i => PoseLibrary.Find(i)!.Strain)]) with
        {
            Exercise = "gesture",
            PoseIds = ids,
        };

    /// <summary>By hand: from standing to contrapposto 10 s, to the floor 30, on the floor 10, up again 30: 80 s. The same pose again changes nothing.</summary>
    [Fact]
    public void Changing_poses_comes_out_of_the_poses_and_the_proof_says_how_much()
    {
        var f = Fact("changeover", [Poses(0, 1, "stand", "contrapposto", "contrapposto", "floorseat", "supine", "stand")], 30);
        Assert.True(f.Holds);
        Assert.Equal((30.0, 30.0, "s"), (f.Value, f.Limit, f.Unit));
        Assert.Contains("all changes 1.3 min of what is posed: 2 × 10 s and 2 × 30 s", f.Says);
        Assert.Contains("up to 30 s of a pose of 1 min", f.Says);
        Assert.Equal(3, f.From);
        // A stool or a block is a place of its own.
        Assert.Contains("1 × 30 s", Fact("changeover", [Poses(0, 1, "stand", "seated")], 30).Says);
    }

    [Fact]
    public void Half_a_minute_is_too_short_to_go_to_the_floor_in_and_long_enough_to_turn_in()
    {
        Assert.False(Fact("changeover", [Poses(0, 0.5, "stand", "floorseat")], 30).Holds);
        Assert.True(Fact("changeover", [Poses(0, 0.5, "stand", "contrapposto")], 30).Holds);
    }

    [Fact]
    public void A_rest_between_two_poses_is_time_enough_to_change()
    {
        PlanItem[] rested = [Poses(0, 1, "stand"), Of(ItemKind.Rest, 1, 2), Poses(3, 1, "floorseat")];
        Assert.DoesNotContain(RestRules.Prove(rested, new(new() { Minutes = 30 })), f => f.Id == "changeover");
        PlanItem[] hurried = [Poses(0, 1, "stand"), Of(ItemKind.Rest, 1, 1), Poses(2, 1, "floorseat")];
        Assert.Contains(RestRules.Prove(hurried, new(new() { Minutes = 30 })), f => f.Id == "changeover");
    }

    [Theory]
    [
        InlineData(ItemKind.Rest, 5, 20),
        InlineData(ItemKind.Rest, 4.5, 40),
        InlineData(ItemKind.Break, 10, 20),
        InlineData(ItemKind.StandBack, 10, 40),
        InlineData(ItemKind.Review, 10, 40)
    ]
    public void Only_a_rest_of_five_minutes_ends_a_stretch(ItemKind between, double length, double worst) =>
        Assert.Equal(
            worst,
            Fact("rest-stretch", [Pose(0, 20, Strain.Seated), Of(between, 20, length), Pose(20 + length, 20, Strain.Seated)], 60).Value
        );

    [Theory]
    [
        InlineData(Strain.Lying, 25),
        InlineData(Strain.Seated, 25),
        InlineData(Strain.Standing, 20),
        InlineData(Strain.OneLeg, 15),
        InlineData(Strain.Kneeling, 10),
        InlineData(Strain.LeaningBack, 10),
        InlineData(Strain.HeelUp, 10),
        InlineData(Strain.Raised, 5),
        InlineData(Strain.Arched, 5),
        InlineData(Strain.Extreme, 2)
    ]
    public void Each_strain_has_its_limit_on_end(Strain strain, double limit)
    {
        RuleFact At(double minutes) =>
            Fact("rest-strain", [Pose(0, minutes, strain)], 60, f =>
                f.Limit == limit && f.Says.Contains(TimingRules.Default.Limit(strain).Name, StringComparison.OrdinalIgnoreCase)
            );
        Assert.True(At(limit).Holds);
        Assert.False(At(limit + 0.5).Holds);
        Assert.Contains(TimingRules.Default.Limit(strain).Reason, At(limit).Because);
    }

    /// <summary>Decided: less than two minutes ends nothing.</summary>
    [Theory]
    [InlineData(0.1, 8), InlineData(1.9, 8), InlineData(2, 4), InlineData(5, 4)]
    public void A_rest_under_two_minutes_ends_no_strain(double rest, double worst) =>
        Assert.Equal(
            worst,
            Fact("rest-strain", [Pose(0, 4, Strain.Raised), Of(ItemKind.Rest, 4, rest), Pose(4 + rest, 4, Strain.Raised)], 60, f =>
                f.Limit == 5
            ).Value
        );

    /// <summary>Over 210 min with a model a meal of 30 or two breaks of 15; a cast needs neither.</summary>
    [Theory]
    [
        InlineData(240, 30, 0, true),
        InlineData(240, 15, 15, true),
        InlineData(240, 15, 14, false),
        InlineData(240, 29, 0, false),
        InlineData(210, 15, 0, true)
    ]
    public void A_long_day_has_a_meal_or_two_breaks(int minutes, double first, double second, bool holds)
    {
        var breaks = new List<PlanItem> { Of(ItemKind.Break, (minutes / 2.0) - (first / 2), first) };
        if (second > 0)
            breaks.Add(Of(ItemKind.Break, minutes - 30, second));
        Assert.Equal(holds, Fact("break", breaks, minutes).Holds);
        Assert.Equal(
            minutes <= 210,
            RestRules
                .Prove([Of(ItemKind.Break, (minutes / 2.0) - 7.5, 15)], new(new() { Minutes = minutes }))
                .First(f => f.Id == "break")
                .Holds
        );
        Assert.True(
            RestRules
                .Prove([Of(ItemKind.Break, (minutes / 2.0) - 7.5, 15)], new(new() { Minutes = minutes, Model = ModelKind.Cast }))
                .First(f => f.Id == "break")
                .Holds
        );
        Assert.NotEmpty(Planner.Plan(new(new() { Minutes = minutes })).Proposals);
    }

    [Theory]
    [
        InlineData(ModelKind.Cast, true),
        InlineData(ModelKind.StillLife, true),
        InlineData(ModelKind.Mirror, true),
        InlineData(ModelKind.Person, false)
    ]
    public void Under_eighteen_only_an_undraped_person_is_a_conflict(ModelKind model, bool may)
    {
        var result = Planner.Plan(new(new() { Minutes = 120, Model = model }) { Known = new() { Minors = true } });
        Assert.Equal(may, result.Proposals.Count > 0);
        Assert.Equal(may, result.Cannot.All(c => c.Rule != "minors"));
    }

    /// <summary>Trade: what bears the weight, not the height of the seat, says how long a pose is held.</summary>
    [Theory]
    [InlineData("kneel", Strain.Kneeling), InlineData("halfkneel", Strain.Kneeling), InlineData("leanback", Strain.LeaningBack)]
    [
        InlineData("prone", Strain.Arched),
        InlineData("walk", Strain.HeelUp),
        InlineData("heels", Strain.Seated),
        InlineData("supine", Strain.Lying)
    ]
    public void A_pose_is_as_hard_as_what_bears_it(string pose, Strain strain)
    {
        var p = PoseLibrary.Find(pose)!;
        Assert.Equal(strain, p.Strain);
        Assert.Equal(pose is "kneel" or "halfkneel" or "heels", p.Family == "kneeling");
        if (strain > TimingRules.HardestSitting)
            Assert.Contains(Planner.Plan(new(new() { Minutes = 120, LongPose = pose })).Cannot, c => c.Rule == "rest-strain");
    }

    [Fact]
    public void Harder_poses_count_for_the_easier_strain_and_an_easier_pose_ends_the_count()
    {
        RuleFact Standing(params PlanItem[] items) => Fact("rest-strain", items, 60, f => f.Limit == 20);
        Assert.Equal(21, Standing(Pose(0, 12, Strain.Standing), Pose(12, 9, Strain.OneLeg, Strain.OneLeg, Strain.Raised)).Value);
        Assert.Equal(12, Standing(Pose(0, 12, Strain.Standing), Pose(12, 1, Strain.Seated), Pose(13, 9, Strain.OneLeg)).Value);
        Assert.Equal(12, Standing(Pose(0, 12, Strain.Standing), Of(ItemKind.Rest, 12, 2), Pose(14, 9, Strain.OneLeg)).Value);
    }

    [Fact]
    public void The_rolling_hour_is_found_wherever_it_begins()
    {
        PlanItem[] items =
        [
            Pose(10, 25, Strain.Seated),
            Of(ItemKind.Rest, 35, 5),
            Pose(40, 25, Strain.Seated),
            Of(ItemKind.Rest, 65, 5),
            Pose(70, 25, Strain.Seated),
        ];
        var f = Fact("rest-hour", items, 120);
        Assert.Equal((true, 50.0), (f.Holds, f.Value));
        var tight = Fact("rest-hour", [Pose(0, 25, Strain.Seated), Of(ItemKind.Rest, 25, 4), Pose(29, 28, Strain.Seated)], 60);
        Assert.Equal((false, 53.0), (tight.Holds, tight.Value));
    }

    [Fact]
    public void The_rolling_hour_agrees_with_a_minute_by_minute_count()
    {
        var random = new SeededRandom(17);
        for (var n = 0; n < 200; n++)
        {
            var items = new List<PlanItem>();
            double at = 0;
            while (at < 150)
            {
                var posed = 1 + random.Next(25);
                items.Add(Pose(at, posed, Strain.Seated));
                at += posed;
                var rest = 1 + random.Next(12);
                items.Add(Of(ItemKind.Rest, at, rest));
                at += rest;
            }
            var minutes = new bool[(int)at];
            foreach (var i in items.Where(i => i.Posed))
                Array.Fill(minutes, true, (int)i.At, (int)i.Minutes);
            var worst = Enumerable.Range(0, minutes.Length).Max(s => minutes.Skip(s).Take(60).Count(m => m));
            Assert.Equal(worst, Fact("rest-hour", items, (int)at).Value);
        }
    }

    [Theory]
    [
        InlineData(90, 0, 0, true),
        InlineData(91, 0, 0, false),
        InlineData(120, 55, 10, true),
        InlineData(120, 55, 9, false),
        InlineData(120, 52, 16, false),
        InlineData(120, 40, 12, false),
        InlineData(120, 42, 12, true),
        InlineData(120, 66, 12, true),
        InlineData(120, 67, 12, false)
    ]
    public void A_break_of_10_to_15_stands_in_the_middle_fifth_of_anything_over_90(int minutes, double at, double length, bool holds)
    {
        PlanItem[] items = length == 0 ? [] : [Of(ItemKind.Break, at, length)];
        Assert.Equal(holds, Fact("break", items, minutes).Holds);
    }

    [Fact]
    public void Gaps_overlaps_and_wrong_sums_are_found()
    {
        Assert.Contains("nothing is planned", Fact("sum", [Of(ItemKind.SetUp, 0, 5), Of(ItemKind.PackUp, 10, 50)], 60).Says);
        Assert.Contains("overlap", Fact("sum", [Of(ItemKind.SetUp, 0, 15), Of(ItemKind.PackUp, 10, 45)], 60).Says);
        Assert.Contains("add up to 50", Fact("sum", [Of(ItemKind.SetUp, 0, 50)], 60).Says);
        Assert.True(Fact("sum", [Of(ItemKind.SetUp, 0, 60)], 60).Holds);
    }

    [Theory]
    [
        InlineData("set-up", 4.5, false),
        InlineData("set-up", 5, true),
        InlineData("pack-up", 0, false),
        InlineData("review", 4, false),
        InlineData("review", 5, true)
    ]
    public void Set_up_review_and_packing_up_have_their_least(string id, double minutes, bool holds)
    {
        var kind = id switch
        {
            "set-up" => ItemKind.SetUp,
            "review" => ItemKind.Review,
            _ => ItemKind.PackUp,
        };
        Assert.Equal(holds, Fact(id, minutes == 0 ? [] : [Of(kind, 0, minutes)], 60).Holds);
    }

    [Fact]
    public void A_short_meeting_needs_no_review()
    {
        Assert.DoesNotContain(RestRules.Prove([], new(new() { Minutes = 59 })), f => f.Id == "review");
        Assert.Contains(RestRules.Prove([], new(new() { Minutes = 60 })), f => f.Id == "review");
    }

    [Theory]
    [InlineData("still-life", false), InlineData("statue", false), InlineData("long-pose", true), InlineData("gesture", true)]
    public void A_rung_of_the_ladder_opens_the_live_model_or_not(string rung, bool live)
    {
        var result = Planner.Plan(new(new() { Minutes = 120, Approach = Approach.LongFirst }) { Known = new() { Rung = rung } });
        Assert.Equal(live, result.Proposals.Count > 0);
        if (!live)
            Assert.Equal("rung", result.Cannot[0].Rule);
        Assert.Equal(
            3,
            Planner
                .Plan(
                    new(
                        new()
                        {
                            Minutes = 120,
                            Approach = Approach.LongFirst,
                            Model = ModelKind.Cast,
                        }
                    )
                    {
                        Known = new() { Rung = rung },
                    }
                )
                .Proposals.Count
        );
    }

    [Theory]
    [InlineData("contrapposto", 15), InlineData("stand", 20), InlineData("seated", 25), InlineData("recline", 25)]
    public void The_long_pose_is_sat_no_longer_than_its_strain_allows(string pose, double limit)
    {
        foreach (var approach in new[] { Approach.QuickFirst, Approach.Alternating })
        {
            var plan = Planner
                .Plan(
                    new(
                        new()
                        {
                            Minutes = 150,
                            Approach = approach,
                            LongPose = pose,
                            Students = 8,
                        }
                    )
                )
                .Proposals[0];
            var sittings = plan.Items.Where(i => i.Exercise == "sitting").ToList();
            Assert.NotEmpty(sittings);
            Assert.All(sittings, s => Assert.True(s.Minutes <= limit, $"{pose} for {s.Minutes} min"));
            Assert.All(sittings, s => Assert.Equal(pose, Assert.Single(s.PoseIds)));
            Assert.Equal(Enumerable.Range(1, sittings.Count), sittings.Select(s => s.Period));
            Assert.Equal(1, sittings.Sum(s => s.Sheets));
        }
    }

    [Theory]
    [InlineData("crouch"), InlineData("armraised")]
    public void A_pose_that_cant_be_sat_is_refused(string pose) =>
        Assert.Equal("rest-strain", Assert.Single(Planner.Plan(new(new() { Minutes = 120, LongPose = pose })).Cannot).Rule);

    [Fact]
    public void A_line_cut_short_shows_only_the_poses_that_were_held()
    {
        var set = new PlanItem(10, 2.5, ItemKind.Exercise)
        {
            Posed = true,
            Poses = 5,
            PoseMinutes = 1,
            Strains = [Strain.Standing, Strain.Standing, Strain.OneLeg, Strain.Seated, Strain.Seated],
        };
        Assert.Equal([(10.0, 1.0), (11, 1), (12, 0.5)], set.PoseRuns().Select(r => (r.At, r.Minutes)));
        Assert.Empty((set with { Minutes = 0 }).PoseRuns());
    }

    /// <summary>Whatever is pressed in whatever order, the clock shows a place in the timetable that time can reach.</summary>
    [Fact]
    public void A_clock_pressed_at_random_never_shows_nonsense()
    {
        var plan = Planner.Plan(new(new() { Minutes = 120, Approach = Approach.Alternating })).Proposals[0].Items;
        var start = Instant.FromUtc(2026, 3, 29, 0, 30); // across a change of the clocks
        var random = new SeededRandom(8);
        for (var n = 0; n < 300; n++)
        {
            var events = new List<ClockEvent>();
            var at = start;
            for (var k = 0; k < 25; k++)
            {
                at += Duration.FromSeconds(random.Next(900));
                events.Add(new(at, (ClockAct)random.Next(6)));
            }
            var r = MeetingClock.Read(plan, events, at + Duration.FromSeconds(random.Next(4000)));
            Assert.InRange(r.Index, 0, r.Timeline.Count);
            Assert.All(r.Timeline, t => Assert.True(t.Minutes >= 0));
            Assert.True(r.SecondsIntoItem >= 0 && r.LateMinutes >= 0);
            if (r.Current is { } c)
                Assert.True(r.SecondsIntoItem <= (c.Minutes * 60) + 0.01);
            Assert.Equal(r.Started, events.Any(e => e.Act == ClockAct.Start));
        }
    }

    [Fact]
    public void What_is_read_twice_is_the_same_and_events_to_come_are_not_read()
    {
        var plan = Planner.Plan(new(new() { Minutes = 90 })).Proposals[0].Items;
        var t = Instant.FromUtc(2026, 1, 6, 18, 0);
        ClockEvent[] events = [new(t, ClockAct.Start), new(t + Duration.FromMinutes(50), ClockAct.Next)];
        var now = t + Duration.FromMinutes(12);
        Assert.Equal(MeetingClock.Read(plan, events[..1], now).Index, MeetingClock.Read(plan, events, now).Index);
        var (a, b) = (MeetingClock.Read(plan, events, now), MeetingClock.Read(plan, events, now));
        Assert.Equal((a.Index, a.SecondsIntoItem), (b.Index, b.SecondsIntoItem));
    }

    [Fact]
    public void Paper_is_one_sheet_a_short_pose_unless_halved_and_one_for_the_long_pose()
    {
        var plan = Planner
            .Plan(
                new(
                    new()
                    {
                        Minutes = 150,
                        Approach = Approach.QuickFirst,
                        Students = 14,
                        Seed = 3,
                    }
                )
            )
            .Proposals[0];
        foreach (var i in plan.Items.Where(i => i.Kind == ItemKind.Exercise))
        {
            var expected =
                Exercises.Get(i.Exercise!).Sheets == "one-a-pose" ? (i.Period == 1 ? 1 : 0)
                : i.Poses >= 6 && i.PoseMinutes <= 1 ? (int)Math.Ceiling(i.Poses / 2.0)
                : i.Poses;
            Assert.Equal(expected, i.Sheets);
        }
        Assert.All(plan.Paper, p => Assert.Equal(p.SheetsPerStudent * 14, p.Sheets));
        Assert.DoesNotContain("newsprint", plan.Kit);
    }

    /// <summary>Published, from memory: Rohmert's curve of how long a muscle holds still, T = −1.5 + 2.1/f − 0.6/f² + 0.1/f³ minutes at a share f of its
    /// strength (W. Rohmert 1960). That an arm held out takes about a fifth of the shoulder's strength, and two over bent legs about a third, is from memory
    /// too. Nobody is asked for longer than the curve says: what is asked for by our limits lies under it.</summary>
    [Theory]
    [InlineData(Strain.Raised, 0.2), InlineData(Strain.Arched, 0.2), InlineData(Strain.Extreme, 0.34)]
    public void What_is_held_still_by_strength_is_held_no_longer_than_endurance_tells(Strain strain, double share)
    {
        var endurance = -1.5 + (2.1 / share) - (0.6 / (share * share)) + (0.1 / (share * share * share));
        Assert.InRange(TimingRules.Default.Limit(strain).LimitMinutes, 0.5, endurance);
    }
}
