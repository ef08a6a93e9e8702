using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;
using Xunit;

namespace MintHarbor.Core.Tests.Sessions;

/// <summary>Whoever poses is asked for what they hold, for as long as they said.</summary>
public sealed class ModelOfDayTests
{
    private static PlanRequest With(ModelOfDay who, Approach approach = Approach.Alternating) =>
        Evenings.Usual.Wishing(w => w with { Approach = approach }).Knowing(k => k with { Who = who });

    [Theory]
    [InlineData(0.8, 20, 16, 12, 4, 1), InlineData(0.6, 15, 12, 9, 3, 1), InlineData(1, 25, 20, 15, 5, 2)]
    public void Shorter_lengths_hold_for_every_strain(
        double ease,
        double stretch,
        double standing,
        double oneLeg,
        double raised,
        double extreme
    )
    {
        var rules = TimingRules.Default.Eased(ease);
        Assert.Equal(
            [stretch, standing, oneLeg, raised, extreme],
            new[]
            {
                rules.StretchMinutes,
                rules.Limit(Strain.Standing).LimitMinutes,
                rules.Limit(Strain.OneLeg).LimitMinutes,
                rules.Limit(Strain.Raised).LimitMinutes,
                rules.Limit(Strain.Extreme).LimitMinutes,
            }
        );
        // Rests are not shorter for that.
        Assert.Equal(TimingRules.Default.RestMinutes, rules.RestMinutes);
        foreach (var approach in Enum.GetValues<Approach>())
        foreach (var plan in Planner.Plan(With(new(ease, [], []), approach)).Proposals)
        {
            Assert.All(plan.Rules, r => Assert.True(r.Holds, r.Says));
            Assert.True(plan.Rules.Single(r => r.Id == "rest-stretch").Value <= stretch);
            Assert.All(plan.Items.Where(i => i.Posed), i => Assert.True(i.Minutes <= stretch || i.Poses > 1, $"{i.Name} of {i.Minutes}"));
        }
    }

    [Fact]
    public void Nothing_is_asked_that_they_would_rather_not_hold_and_more_of_what_they_like()
    {
        foreach (var approach in Enum.GetValues<Approach>())
        foreach (var plan in Planner.Plan(With(new(1, [], ["standing", "kneeling"]), approach)).Proposals)
            Assert.All(plan.Items.SelectMany(i => i.PoseIds), p =>
                Assert.DoesNotContain(PoseLibrary.Find(p)!.Family, new[] { "standing", "kneeling" })
            );
        int Lying(ModelOfDay who) =>
            Enumerable
                .Range(0, 12)
                .SelectMany(seed => Planner.Plan(With(who).Wishing(w => w with { Seed = seed })).Proposals)
                .Sum(p => p.Items.SelectMany(i => i.PoseIds).Count(id => PoseLibrary.Find(id)!.Family == "reclining"));
        Assert.True(Lying(new(1, ["reclining"], [])) > Lying(new(1, [], [])));
    }

    [Fact]
    public void A_pose_that_they_would_rather_not_hold_is_refused_with_one_that_they_do()
    {
        var cannot = Assert.Single(
            Planner.Plan(With(new(1, [], ["weight-shift"])).Wishing(w => w with { LongPose = "contrapposto" })).Cannot
        );
        Assert.Equal("model", cannot.Rule);
        Assert.Equal("Contrapposto is not asked of whoever poses.", cannot.Says);
        Assert.DoesNotContain("weight-shift", PoseLibrary.Find((string?)cannot.Nearest["longPose"])!.Shows);
        // What was laid by hand is not refused: it is said.
        var laid = Planner.Plan(Evenings.Usual).Proposals[0].Items;
        var request = With(new(1, [], [PoseLibrary.Find(laid.SelectMany(i => i.PoseIds).First())!.Family])).With(laid);
        var fact = Planner.Plan(request).Proposals[0].Rules.Single(r => r.Id == "model");
        Assert.True(fact is { Holds: true, Yields: true, Value: > 0 }, fact.Says);
    }

    [Fact]
    public void Two_who_pose_together_get_the_shorter_lengths_and_spare_what_either_spares()
    {
        var both = ModelOfDay.Together([new(1, ["seated", "twist"], ["kneeling"]), new(0.8, ["seated"], ["arms-up"])])!;
        Assert.Equal(0.8, both.Ease);
        Assert.Equal(["seated"], both.Gladly);
        Assert.Equal(["kneeling", "arms-up"], both.RatherNot);
        Assert.Null(ModelOfDay.Together([]));
    }

    /// <summary>Worked by hand: 110 min from first pose to last, paid as 120; 2 h × 26 and 90 posed minutes × 2 an hour = 52 + 3.</summary>
    [Fact]
    public void Pay_by_the_hour_and_by_the_posed_hour_are_added()
    {
        PlanItem[] items =
        [
            new(10, 50, ItemKind.Exercise) { Posed = true },
            new(60, 20, ItemKind.Break),
            new(80, 40, ItemKind.Exercise) { Posed = true },
        ];
        var pay = ModelPay.Of(items, new() { Minutes = 130 }, new(26, 60, 30, "€", "invented", 2))!;
        Assert.Equal((110.0, 120.0, 90.0, 55.0), (pay.BookedMinutes, pay.PaidMinutes, pay.PosedMinutes, pay.Amount));
    }
}
