using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;
using Xunit;

namespace MintHarbor.Core.Tests.Sessions;

/// <summary>What sets the three timetables of an approach apart, how poses are chosen, what the model is paid.</summary>
public class ComposerTests
{
    private static readonly PlanRequest Evening = Evenings.Usual;

    [Theory]
    [InlineData(Approach.QuickFirst), InlineData(Approach.LongFirst), InlineData(Approach.Alternating)]
    public void Every_approach_offers_three_timetables_that_differ(Approach approach)
    {
        var all = Planner.Plan(Evening.Wishing(w => w with { Approach = approach })).Proposals;
        Assert.Equal(Shapes.Of(approach).Select(s => s.Id), all.Select(p => p.Shape));
        Assert.Equal(
            3,
            all.Select(p => string.Join(",", p.Items.Select(i => $"{i.At}{i.Exercise}{i.Poses}{i.Period}"))).Distinct().Count()
        );
        Assert.All(all, p => Assert.True(p.Idea.EndsWith('.') && p.GivesUp.EndsWith('.'), p.Idea));
        // Named alone, a shape gives the same timetable as beside the others.
        foreach (var p in all)
            Assert.Equal(
                p.Items.Select(i => (i.At, i.Exercise)),
                Assert
                    .Single(Planner.Plan(Evening.Wishing(w => w with { Approach = approach, Shape = p.Shape })).Proposals)
                    .Items.Select(i => (i.At, i.Exercise))
            );
    }

    [Fact]
    public void The_approaches_differ_for_real()
    {
        double First(Approach a) =>
            Planner
                .Plan(Evening.Wishing(w => w with { Approach = a }))
                .Proposals[0]
                .Items.First(i => i.Kind == ItemKind.Exercise)
                .PoseMinutes;
        double Longest(Approach a, int n) => Programme(a, n);
        Assert.True(First(Approach.QuickFirst) <= 2 && First(Approach.Alternating) <= 2 && First(Approach.LongFirst) >= 20);
        Assert.True(
            Longest(Approach.QuickFirst, 0) < Longest(Approach.Alternating, 0)
                && Longest(Approach.Alternating, 0) < Longest(Approach.LongFirst, 0)
        );
        Assert.Equal(0, Longest(Approach.QuickFirst, 1));
        static double Programme(Approach a, int n) =>
            Planner.Plan(Evening.Wishing(w => w with { Approach = a })).Proposals[n].Items.Where(i => i.Period > 0).Sum(i => i.Minutes);
        // Step by step: no stretch begins with shorter poses than the one before it.
        var growing = Planner
            .Plan(Evening.Wishing(w => w with { Shape = "growing" }))
            .Proposals[0]
            .Items.Where(i => i.Kind == ItemKind.Exercise)
            .Select(i => i.PoseMinutes)
            .ToList();
        Assert.True(growing[^1] >= 10 && growing[0] <= 2, string.Join(" ", growing));
    }

    [Fact]
    public void The_second_pose_of_an_evening_is_another_pose_with_a_letter_of_its_own()
    {
        var two = Planner
            .Plan(Evening.Wishing(w => w with { Approach = Approach.Alternating, Shape = "two" }))
            .Proposals[0]
            .Items.Where(i => i.Period > 0)
            .ToList();
        Assert.Equal(2, two.Count(i => i.Period == 1));
        Assert.Equal(2, two.Select(i => i.PoseIds[0]).Distinct().Count());
        Assert.Equal(2, two.Sum(i => i.Sheets));
    }

    [Fact]
    public void Poses_go_by_the_part_in_question_the_term_and_the_level()
    {
        var request = Evening.Wishing(w => w with { Approach = Approach.Alternating, Shape = "opener" });
        var hands = Planner.Plan(request.Wishing(w => w with { Part = "hands" })).Proposals[0].LongPose!.PoseIds[0];
        Assert.Contains("hands", PoseLibrary.Find(hands)!.Parts);
        // The last weeks' long poses are not sat again while others serve.
        var last = Planner.Plan(request).Proposals[0].LongPose!.PoseIds[0];
        var next = Planner.Plan(request.Knowing(k => k with { History = [new(1, [last], last)] })).Proposals[0];
        Assert.NotEqual(last, next.LongPose!.PoseIds[0]);
        // Asked for, it is given, and said.
        Assert.Contains(
            Planner
                .Plan(request.Wishing(w => w with { LongPose = last }).Knowing(k => k with { History = [new(1, [last], last)] }))
                .Proposals[0]
                .Notes,
            n => n is { Kind: "again" } && n.Says.Contains("last week")
        );
        // What the term hasn't shown comes before what it has.
        var standing = PoseLibrary.Studio.Where(p => p.Family == "standing").Select(p => p.Id).ToList();
        var fresh = Planner
            .Plan(
                request
                    .Wishing(w => w with { Level = Level.Advanced })
                    .Knowing(k => k with { History = [new(1, standing), new(2, standing)] })
            )
            .Proposals[0];
        Assert.NotEqual("standing", PoseLibrary.Find(fresh.LongPose!.PoseIds[0])!.Family);
        Assert.Contains(fresh.Notes, n => n.Kind == "new");
        // Nothing harder than the class, beyond two minutes; asked for all the same, it is said.
        var easy = Planner.Plan(request.Wishing(w => w with { Level = Level.Beginner })).Proposals[0];
        Assert.All(easy.Items.Where(i => i.PoseMinutes > 2).SelectMany(i => i.PoseIds), p =>
            Assert.Equal(Level.Beginner, PoseLibrary.Find(p)!.Level)
        );
        Assert.Contains(Planner.Plan(request.Wishing(w => w with { Level = Level.Beginner, LongPose = "supine" })).Proposals[0].Notes, n =>
            n is { Kind: "hard" } && n.Says.Contains("foreshortens")
        );
    }

    [Fact]
    public void The_model_turns_through_the_quarters_and_faces_front_for_the_long_pose()
    {
        var items = Planner.Plan(Evening).Proposals[0].Items.Where(i => i.Posed).ToList();
        Assert.Equal(4, items.Where(i => i.Period == 0).SelectMany(i => i.Facings).Distinct().Count());
        Assert.All(items.Where(i => i.Period > 0), i => Assert.Equal([0.0], i.Facings));
        Assert.All(items, i => Assert.Equal(i.Poses, i.Facings.Count));
    }

    [Fact]
    public void What_the_class_misses_is_what_the_evening_turns_to()
    {
        var tilt = Planner
            .Plan(Evening.Wishing(w => w with { Shape = "lengthening" }).Knowing(k => k with { Weak = ["F-pair"] }))
            .Proposals[0];
        Assert.Contains(tilt.Items, i => i.Exercise == "core-first");
        Assert.Contains(
            Planner
                .Plan(Evening.Wishing(w => w with { Shape = "lengthening" }).Knowing(k => k with { Weak = ["F-hand"] }))
                .Proposals[0]
                .Items,
            i => i.Exercise == "part-study"
        );
    }

    [Fact]
    public void A_timed_study_set_varies_its_lengths_and_each_has_its_scope()
    {
        var set = Planner
            .Plan(Evening.Wishing(w => w with { Include = ["timed-study-set"] }))
            .Proposals[0]
            .Items.Where(i => i.Exercise == "timed-study-set")
            .Select(i => i.Minutes)
            .ToList();
        Assert.Equal(3, set.Count);
        Assert.True(set.Distinct().Count() == 3 && set[1] == set.Max(), string.Join(" ", set));
        Assert.NotEqual(Scope.Of(set.Min()), Scope.Of(set.Max()));
    }

    /// <summary>Worked by hand: first pose at minute 10, last ends at 125: 115 min, up to 120; 2 h × 24 = 48.</summary>
    [Fact]
    public void The_models_pay_is_worked_out_from_first_pose_to_last()
    {
        var rules = new PayRules(24, 120, 15, "€", "invented");
        IReadOnlyList<PlanItem> items =
        [
            new(10, 25, ItemKind.Exercise) { Posed = true },
            new(35, 5, ItemKind.Rest),
            new(40, 85, ItemKind.Exercise) { Posed = true },
        ];
        var pay = ModelPay.Of(items, new() { Minutes = 150 }, rules)!;
        Assert.Equal((115.0, 120.0, 48.0, 110.0), (pay.BookedMinutes, pay.PaidMinutes, pay.Amount, pay.PosedMinutes));
        Assert.Equal(96, ModelPay.Of(items, new() { Minutes = 150, Model = ModelKind.Two }, rules)!.Amount);
        // An hour is paid as the minimum booking; odd rates are rounded once, half up.
        Assert.Equal(48, ModelPay.Of([new(0, 20, ItemKind.Exercise) { Posed = true }], new() { Minutes = 60 }, rules)!.Amount);
        Assert.Equal(37.04, ModelPay.Of(items, new() { Minutes = 150 }, rules with { RatePerHour = 18.52 })!.Amount);
        Assert.Null(Planner.Plan(Evening.Wishing(w => w with { Model = ModelKind.Cast })).Proposals[0].Pay);
    }

    [Fact]
    public void Learned_minutes_stand_in_the_frame_and_the_medium_in_the_kit()
    {
        var plan = Planner
            .Plan(Evening.Wishing(w => w with { Medium = "graphite" }).Knowing(k => k with { SetUpMinutes = 14, ReviewMinutes = 22 }))
            .Proposals[0];
        Assert.Equal((14.0, 22.0), (plan.Items[0].Minutes, plan.Items.Single(i => i.Kind == ItemKind.Review).Minutes));
        Assert.Contains("4B pencil", plan.Kit);
        Assert.DoesNotContain("willow charcoal", plan.Kit);
        Assert.Equal(
            "medium",
            Assert.Throws<InputException>(() => Planner.Plan(Evening.Wishing(w => w with { Medium = "lipstick" }))).Field
        );
    }

    [Fact]
    public void Too_much_for_the_evening_is_refused_with_the_minutes_it_would_take()
    {
        var result = Planner.Plan(
            new(
                new()
                {
                    Minutes = 30,
                    Approach = Approach.Alternating,
                    Include = ["value-patches", "part-study", "basic-forms", "envelope", "core-first"],
                }
            )
        );
        var cannot = Assert.Single(result.Cannot);
        Assert.Equal(("include", 75.0), (cannot.Rule, cannot.Nearest["minutes"]));
        // A lunge for an hour: five minutes at most, and the nearest pose that can be sat.
        var lunge = Assert.Single(Planner.Plan(Evening.Wishing(w => w with { LongPose = "lunge" })).Cannot);
        Assert.Contains("can't be held for a sitting", lunge.Says);
        Assert.Equal(5.0, lunge.Nearest["minutes"]);
        Assert.True(PoseLibrary.Find((string?)lunge.Nearest["longPose"])!.Strain <= Strain.OneLeg);
        Assert.Equal(
            "longPose",
            Assert.Throws<InputException>(() => Planner.Plan(Evening.Wishing(w => w with { LongPose = "levitating" }))).Field
        );
    }

    [Fact]
    public void What_to_bring_and_to_buy_follow_from_the_timetables()
    {
        var plan = Planner.Plan(Evening).Proposals[0];
        var bring = Materials.Bring(Materials.List, plan);
        Assert.Contains("board clips", bring);
        Assert.DoesNotContain("newsprint", bring);
        var sheets = plan.Paper.Single(p => p.Kind == "newsprint").SheetsPerStudent;
        // By hand: sheets × 14 × two meetings, a tenth over, at 8 cents.
        var buy = Materials.Buy(Materials.List, [(plan, 14), (plan, 14)]).Single(p => p.Material.Id == "newsprint");
        Assert.Equal((int)Math.Ceiling(sheets * 28 * 1.1), buy.Count);
        Assert.Equal(buy.Count * 0.08, buy.Cost, 9);
        // Charcoal: one stick serves three uses.
        Assert.Equal(10, Materials.Buy(Materials.List, [(plan, 14), (plan, 14)]).Single(p => p.Material.Id == "willow charcoal").Count);
    }

    [Fact]
    public void What_was_shown_last_week_counts_for_more_than_what_was_shown_a_month_ago()
    {
        double Worth(int weeksAgo)
        {
            var chooser = new PoseChooser(Evening.Knowing(k => k with { History = [new(weeksAgo, ["stand"])] }));
            return chooser.Alone(chooser.IndexOf("stand"), 5, false, null);
        }
        Assert.True(Worth(1) < Worth(2));
        Assert.True(Worth(2) < Worth(4));
        Assert.True(Worth(4) < Worth(5), "what lies five weeks back counts no more");
    }

    [Fact]
    public void A_meeting_later_what_was_held_lies_a_week_further_back()
    {
        var plan = Planner.Plan(Evening).Proposals[0];
        var known = new PlanKnown { History = [new(1, ["stand"]), new(2, ["seated"])] }.After(plan);
        Assert.Equal([1, 2, 3], known.History.Select(h => h.WeeksAgo));
        Assert.Equal((plan.Sitter, "stand", "seated"), (known.History[0].LongPose, known.History[1].Poses[0], known.History[2].Poses[0]));
        for (var n = 0; n < 12; n++)
            known = known.After(plan);
        Assert.Equal([1, 2, 3, 4, 5, 6, 7, 8], known.History.Select(h => h.WeeksAgo));
    }

    [Theory]
    [InlineData(Approach.QuickFirst), InlineData(Approach.Alternating), InlineData(Approach.LongFirst)]
    public void A_portrait_evening_has_a_head_in_it_and_whoever_sits_is_seated(Approach approach)
    {
        var all = Planner.Plan(Evening.Wishing(w => w with { Approach = approach, Purpose = Purpose.Portrait, Draped = true })).Proposals;
        Assert.Equal(3, all.Count);
        Assert.All(all, p =>
        {
            Assert.Contains(p.Items, i => i.Exercise == "head-construction");
            Assert.All(p.Items.SelectMany(i => i.Strains), s => Assert.Equal(Strain.Seated, s));
            var kept = p.Rules.Single(r => r.Id == "purpose");
            Assert.True(kept.Holds && kept.Value == kept.Limit / 0.6, kept.Says);
            Assert.StartsWith("Purpose kept, portrait: 90 of 90 min", kept.Says);
        });
    }

    [Fact]
    public void Tone_from_a_cast_is_patches_and_masses_and_no_evening_of_gestures()
    {
        foreach (var approach in Enum.GetValues<Approach>())
        foreach (
            var p in Planner
                .Plan(Evening.Wishing(w => w with { Approach = approach, Purpose = Purpose.Tone, Model = ModelKind.Cast }))
                .Proposals
        )
        {
            Assert.True(p.Items.Where(i => i.Exercise == "gesture").Sum(i => i.Minutes) <= 10, p.Idea);
            Assert.Contains(p.Items, i => i.Exercise == "value-patches");
        }
    }

    /// <summary>What is said of a body is said of nothing else.</summary>
    [Theory]
    [InlineData(ModelKind.Cast), InlineData(ModelKind.StillLife), InlineData(ModelKind.Mirror)]
    public void What_has_no_body_is_not_spoken_of_as_if_it_had(ModelKind model)
    {
        foreach (var approach in Enum.GetValues<Approach>())
        foreach (var purpose in Enum.GetValues<Purpose>())
        {
            var request = Evening.Wishing(w => w with { Approach = approach, Purpose = purpose, Model = model });
            foreach (var plan in Planner.Plan(request).Proposals)
            {
                var said = new Evening(request, plan.Items)
                    .Lines.SelectMany(l => new[] { l.OnWall, l.OnPaper })
                    .Append(plan.Idea)
                    .Append(plan.GivesUp)
                    .Concat(plan.Rules.Select(r => r.Says));
                Assert.All(said, s =>
                    Assert.DoesNotMatch("(?i)\\b(robes?|feet|seats?|half ring|the model|poses?)\\b", s.Replace("Nobody poses", ""))
                );
                Assert.Null(plan.Pay);
            }
        }
        // And of a body it is.
        var live = new Evening(Evening, Planner.Plan(Evening).Proposals[0].Items).Lines;
        Assert.Contains(live, l => l.OnPaper.Contains("robe and water"));
        Assert.Contains(live, l => l.OnPaper.Contains("feet and seat are taped"));
    }

    /// <summary>Six to twelve tiny frames on a sheet; and what the class draws wrong of figures is not mended on a bottle.</summary>
    [Fact]
    public void A_still_life_opens_with_thumbnails_on_one_sheet()
    {
        var plan = Planner
            .Plan(Evening.Wishing(w => w with { Model = ModelKind.StillLife }).Knowing(k => k with { Weak = ["F-heads"] }))
            .Proposals[0];
        var frames = plan.Items.First(i => i.Kind == ItemKind.Exercise);
        Assert.Equal(("thumbnails", 1), (frames.Exercise, frames.Sheets));
        Assert.InRange(frames.Poses, 6, 12);
        Assert.DoesNotContain(plan.Items, i => i.Exercise == "pencil-measure");
    }

    /// <summary>A pose that goes on over meetings has all of them to itself.</summary>
    [Theory]
    [InlineData(Purpose.Construction), InlineData(Purpose.Anatomy), InlineData(Purpose.Tone), InlineData(Purpose.Portrait)]
    public void A_long_pose_that_was_chosen_is_not_kept_waiting_by_a_study(Purpose purpose)
    {
        var one = Planner
            .Plan(Evening.Wishing(w => w with { Approach = Approach.LongFirst, Purpose = purpose, LongPose = "leanblock", Shape = "one" }))
            .Proposals[0];
        Assert.All(one.Items.Where(i => i.Kind == ItemKind.Exercise), i =>
            Assert.Equal(("sitting", "leanblock"), (i.Exercise, i.PoseIds[0]))
        );
    }

    [Fact]
    public void Nobody_poses_in_a_meeting_of_more_than_six_hours()
    {
        var day = Evening.Wishing(w => w with { Minutes = 361 });
        var cannot = Assert.Single(Planner.Plan(day).Cannot);
        Assert.Equal(("long-day", (object?)360.0), (cannot.Rule, cannot.Nearest["minutes"]));
        Assert.NotEmpty(Planner.Plan(day.Wishing(w => w with { Minutes = 360 })).Proposals);
        Assert.NotEmpty(Planner.Plan(day.Wishing(w => w with { Model = ModelKind.Cast })).Proposals);
    }

    [Theory]
    [InlineData(new[] { 105.0 }, 30)]
    [InlineData(new[] { 75.0, 150.0 }, 15)]
    public void A_long_day_whose_meal_or_two_breaks_are_held_gets_no_more(double[] at, double minutes)
    {
        var request = Evening.Wishing(w => w with { Minutes = 240 }) with
        {
            Held = [.. at.Select(a => new PlanItem(a, minutes, ItemKind.Break))],
        };
        Assert.All(Planner.Plan(request).Proposals, p => Assert.Equal(at, p.Items.Where(i => i.Kind == ItemKind.Break).Select(i => i.At)));
        Assert.NotEmpty(Planner.Plan(request).Proposals);
    }

    [Fact]
    public void Beginners_get_fewer_single_minutes_and_shorter_masses()
    {
        IReadOnlyList<PlanItem> First(Level level, int shape) =>
            Planner
                .Plan(
                    Evening.Wishing(w =>
                        w with
                        {
                            Purpose = Purpose.Gesture,
                            Level = level,
                            Shape = Shapes.Of(Approach.QuickFirst)[shape].Id,
                        }
                    )
                )
                .Proposals[0]
                .Items;
        double Minutes(IEnumerable<PlanItem> items) => items.Sum(i => i.Minutes);
        IEnumerable<PlanItem> Singles(Level level) => First(level, 0).Where(i => i.Poses > 1 && i.PoseMinutes <= 1);
        IEnumerable<PlanItem> Masses(Level level) => First(level, 1).Where(i => i.Exercise == "mass" && i.Minutes > 0);
        Assert.True(Minutes(Singles(Level.Beginner)) < Minutes(Singles(Level.Intermediate)));
        Assert.True(Minutes(Masses(Level.Beginner)) < Minutes(Masses(Level.Intermediate)));
    }
}
