using MintHarbor.Core.Figure;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;
using Xunit;

namespace MintHarbor.Core.Tests.Sessions;

/// <summary>Each subject is a kind of evening of its own: planned, worded and papered as such.</summary>
public sealed class SubjectTests
{
    public static TheoryData<ModelKind> All => [.. Subject.All.Select(s => s.Id)];

    private static IEnumerable<(PlanRequest Request, Proposal Plan)> Evenings(ModelKind model) =>
        from approach in Enum.GetValues<Approach>()
        from purpose in Enum.GetValues<Purpose>()
        where Subject.Of(model).Serves(purpose)
        let request = Sessions.Evenings.Usual.Wishing(w => w with { Approach = approach, Purpose = purpose, Model = model })
        from plan in Planner.Plan(request).Proposals
        select (request, plan);

    [Theory]
    [MemberData(nameof(All))]
    public void Every_purpose_it_serves_has_three_timetables_that_keep_their_rules(ModelKind model)
    {
        var all = Evenings(model).ToList();
        Assert.NotEmpty(all);
        Assert.All(all.GroupBy(e => e.Request), g => Assert.Equal(3, g.Count()));
        Assert.All(all, e => Assert.All(e.Plan.Rules, r => Assert.True(r.Holds, r.Says)));
        Assert.All(all, e => Assert.Equal(Subject.Of(model).Live, e.Plan.Items.Any(i => i.Posed)));
        Assert.All(all, e => Assert.Equal(Subject.Of(model).Live, e.Plan.Pay is not null));
    }

    /// <summary>What belongs to one subject is said of no other.</summary>
    [Theory]
    [InlineData("(?i)\\brobes?\\b|private place to change", new[] { ModelKind.Person, ModelKind.Two })]
    [InlineData("(?i)feet and seat are taped|pairs of feet", new[] { ModelKind.Person, ModelKind.Two })]
    [InlineData("(?i)half ring", new[] { ModelKind.Person, ModelKind.Two })]
    [InlineData("(?i)\\bthe sitter\\b", new[] { ModelKind.Sitter })]
    [InlineData("(?i)house rules", new[] { ModelKind.Museum })]
    [InlineData("(?i)\\bthe sun\\b", new[] { ModelKind.Outdoors })]
    [InlineData(
        "(?i)\\blamp\\b",
        new[] { ModelKind.Person, ModelKind.Two, ModelKind.Sitter, ModelKind.Cast, ModelKind.StillLife, ModelKind.Mirror, ModelKind.Hands }
    )]
    [InlineData("(?i)movement comes again", new[] { ModelKind.Moving })]
    [InlineData("(?i)say it aloud, hide it", new[] { ModelKind.Memory })]
    [InlineData("(?i)walk on to the next place", new[] { ModelKind.Outdoors })]
    public void Its_words_are_its_own(string words, ModelKind[] of)
    {
        foreach (var model in Subject.All.Select(s => s.Id))
        {
            var said = string.Join(
                "\n",
                Evenings(model)
                    .SelectMany(e => new Evening(e.Request, e.Plan.Items).Lines.SelectMany(l => new[] { l.OnWall, l.OnPaper }))
                    .Append(Subject.Of(model).Last)
            );
            if (of.Contains(model))
                Assert.Matches(words, said);
            else
                Assert.DoesNotMatch(words, said);
        }
    }

    [Fact]
    public void A_sitter_is_clothed_and_sits_on_a_seat()
    {
        foreach (var (request, plan) in Evenings(ModelKind.Sitter))
        {
            Assert.All(plan.Items.Where(i => i.Posed), i => Assert.True(i.Draped));
            Assert.All(plan.Items.SelectMany(i => i.PoseIds), p => Assert.True(PoseLibrary.Find(p, request)!.IsSat, p));
        }
        // Nobody under 18 is refused a sitter, and nobody sits standing.
        var young = Sessions
            .Evenings.Usual.Wishing(w => w with { Model = ModelKind.Sitter, Draped = false })
            .Knowing(k => k with { Minors = true });
        Assert.NotEmpty(Planner.Plan(young).Proposals);
        var cannot = Assert.Single(Planner.Plan(young.Wishing(w => w with { LongPose = "contrapposto" })).Cannot);
        Assert.Equal("subject", cannot.Rule);
        Assert.True(PoseLibrary.Find((string?)cannot.Nearest["longPose"])!.IsSat);
    }

    /// <summary>Two models hold two poses that belong together, the second never harder than the first, so that the first's limits hold for both.</summary>
    [Fact]
    public void Two_models_hold_pairs()
    {
        Assert.True(PosePair.All.Count >= 6);
        foreach (var pair in PosePair.All)
        {
            var (one, other) = (PoseLibrary.Find(pair.One)!, PoseLibrary.Find(pair.Other)!);
            Assert.True(
                TimingRules.Default.Limit(other.Strain).LimitMinutes >= TimingRules.Default.Limit(one.Strain).LimitMinutes,
                pair.Id
            );
            Assert.NotEqual(one, other);
        }
        var all = Evenings(ModelKind.Two).ToList();
        var sittings = all.SelectMany(e => e.Plan.Items.Where(i => i.Period == 1).Select(i => (e.Request, e.Plan, Item: i))).ToList();
        var paired = sittings.Where(s => PosePair.With(s.Item.PoseIds[0]) is not null).ToList();
        Assert.True(paired.Count >= 0.6 * sittings.Count, $"{paired.Count} of {sittings.Count} long poses are pairs");
        Assert.All(paired, s => Assert.Contains("; the other ", new Evening(s.Request, s.Plan.Items).Line(s.Item).Poses[0].Name));
        // One model alone is told of one pose.
        var (alone, single) = Evenings(ModelKind.Person).First();
        Assert.All(new Evening(alone, single.Items).Lines.SelectMany(l => l.Poses), p => Assert.DoesNotContain("; the other", p.Name));
    }

    [Fact]
    public void What_moves_is_drawn_in_seconds_and_never_for_long()
    {
        var all = Evenings(ModelKind.Moving).Where(e => e.Request.Wish.Approach == Approach.QuickFirst).ToList();
        Assert.NotEmpty(all);
        Assert.All(all, e =>
            Assert.All(e.Plan.Items.Where(i => i.Kind == ItemKind.Exercise), i => Assert.True(i.PoseMinutes <= 5 && !i.IsLong))
        );
        Assert.Contains(all, e => e.Plan.Items.Any(i => i.PoseMinutes == 0.5));
        var long1 = Planner.Plan(
            Sessions.Evenings.Usual.Wishing(w =>
                w with
                {
                    Model = ModelKind.Moving,
                    Approach = Approach.LongFirst,
                    Purpose = Purpose.Gesture,
                }
            )
        );
        Assert.Equal(Approach.QuickFirst, Assert.Single(long1.Cannot).Nearest["approach"]);
    }

    [Theory]
    [InlineData(ModelKind.Outdoors), InlineData(ModelKind.Museum)]
    public void Away_from_the_room_one_draws_in_a_sketchbook_and_nothing_smears(ModelKind model)
    {
        foreach (var (request, plan) in Evenings(model))
        {
            Assert.Equal(["sketchbook pages"], plan.Paper.Select(p => p.Kind));
            Assert.Contains("sketchbook", plan.Kit);
            Assert.DoesNotContain(plan.Kit, k => k is "drawing board" || k.Contains("charcoal") || k.Contains("chalk"));
            // A class that draws with charcoal leaves it at home too.
            Assert.DoesNotContain(Planner.Plan(request.Wishing(w => w with { Medium = "charcoal" })).Proposals[0].Kit, k =>
                k.Contains("charcoal")
            );
        }
        var told = Cautions.For(Cautions.All, Evenings(model).First().Request, Evenings(model).First().Plan).Select(c => c.Id).ToList();
        Assert.Contains(model == ModelKind.Museum ? "museum" : "outdoors", told);
        Assert.DoesNotContain("lamp", told);
        Assert.DoesNotContain("model", told);
    }

    [Fact]
    public void What_a_subject_can_not_serve_is_refused_with_what_it_can()
    {
        var cannot = Assert.Single(
            Planner.Plan(Sessions.Evenings.Usual.Wishing(w => w with { Model = ModelKind.StillLife, Purpose = Purpose.Portrait })).Cannot
        );
        Assert.Equal(("subject", (object?)Purpose.Proportion), (cannot.Rule, cannot.Nearest["purpose"]));
        Assert.Equal("Nothing of portrait is to be had from still life.", cannot.Says);
    }

    /// <summary>At home before a camera nobody tapes feet or turns a board round; faint lines are drawn darker, so that a camera sees them.</summary>
    [Fact]
    public void Drawn_online_it_is_told_so()
    {
        foreach (var model in Subject.All.Select(s => s.Id))
        {
            var (request, plan) = Evenings(model).First();
            var lines = new Evening(request.Wishing(w => w with { Online = true }), plan.Items).Lines;
            Assert.Contains(lines, l => l.OnPaper.Contains("faint lines drawn darker at first"));
            Assert.Contains(lines, l => l.OnPaper.Contains("sheets photographed and sent"));
            Assert.DoesNotContain(lines, l => l.OnPaper.Contains("half ring") || l.OnPaper.Contains("on the wall"));
        }
        var mirror = Evenings(ModelKind.Mirror).First();
        Assert.Contains(new Evening(mirror.Request.Wishing(w => w with { Online = true }), mirror.Plan.Items).Lines, l =>
            l.OnPaper.Contains("mirror upright") && l.OnPaper.Contains("camera over the sheet")
        );
    }

    /// <summary>A kit is what its exercise allows.</summary>
    [Fact]
    public void A_kit_follows_the_exercises_own_rule()
    {
        foreach (var e in Exercises.All)
        {
            if (e.Rule.Contains("no eraser"))
                Assert.DoesNotContain(e.Kit, k => k.Contains("eraser"));
            if (e.Rule.Contains("HB or harder") || e.Rule.StartsWith("light"))
                Assert.DoesNotContain(e.Kit, k => k is "2B pencil" or "4B pencil" || k.Contains("charcoal"));
            Assert.All(e.Kit, k => Assert.NotNull(Materials.List.Find(k)));
        }
        Assert.Contains("H pencil", Exercises.Get("envelope").Kit);
    }

    /// <summary>Every exercise of the trade has a name that the command line takes (the list is common practice, no source).</summary>
    [Fact]
    public void Every_exercise_can_be_asked_for_by_name()
    {
        string[] names =
        [
            "gesture",
            "mass",
            "contour",
            "blind-contour",
            "continuous-line",
            "opposite-hand",
            "basic-forms",
            "timed-study-set",
            "core-first",
            "block-in-over-reference",
            "envelope",
            "without-reference",
            "same-again",
            "thumbnails",
            "rough",
            "value-patches",
            "foreshortened-edge",
            "pencil-measure",
            "line-and-pressure",
            "part-study",
            "head-construction",
            "sitting",
            "warm-up-sheet",
            "daily-line",
        ];
        foreach (var name in names)
        {
            var result = Planner.Plan(Sessions.Evenings.Usual.Wishing(w => w with { Include = [name], Approach = Approach.QuickFirst }));
            Assert.True(result.Proposals.Count > 0, name + ": " + string.Join(" ", result.Cannot.Select(c => c.Says)));
            Assert.All(result.Proposals, p => Assert.Contains(p.Items, i => i.Exercise == name));
        }
    }
}
