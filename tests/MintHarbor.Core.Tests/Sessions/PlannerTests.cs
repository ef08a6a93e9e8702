using System.Text.Json;
using System.Text.Json.Nodes;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;
using NodaTime;
using Xunit;

namespace MintHarbor.Core.Tests.Sessions;

public class PlannerTests
{
    private static readonly PlanRequest Evening = Evenings.Usual;

    private static JsonNode Json(object o) => JsonSerializer.SerializeToNode(o, CoreData.Json)!;

    /// <summary>Rest rules (from memory) on 5,000 random requests, by a verifier written apart from the planner: every proposal of each.</summary>
    [Fact]
    public void Five_thousand_random_requests_give_timetables_that_keep_every_rule()
    {
        var random = new SeededRandom(2026);
        var (planned, long90, three, proposals) = (0, 0, 0, 0);
        var ratios = new List<double>();
        for (var n = 0; n < 5000; n++)
        {
            var request = Random(random, n);
            var result = Planner.Plan(request);
            if (request.Wish is { HasLiveModel: true, Minutes: > 360 })
            {
                Assert.Equal(
                    (0, "long-day", (object?)360.0),
                    (result.Proposals.Count, result.Cannot[0].Rule, result.Cannot[0].Nearest["minutes"])
                );
                continue;
            }
            if (result.Cannot.Where(c => c.Rule == "subject").ToList() is { Count: > 0 } refused)
            {
                // What is said to be the nearest is planned, unless something else is in the way.
                var nearest = request.Wishing(w =>
                    w with
                    {
                        Purpose = refused.Select(c => c.Nearest.GetValueOrDefault("purpose")).OfType<Purpose?>().FirstOrDefault()
                            ?? w.Purpose,
                        Approach = refused.Select(c => c.Nearest.GetValueOrDefault("approach")).OfType<Approach?>().FirstOrDefault()
                            ?? w.Approach,
                    }
                );
                Assert.DoesNotContain(Planner.Plan(nearest).Cannot, c => c.Rule == "subject");
                continue;
            }
            if (result.Proposals.Count == 0)
            {
                Assert.NotEmpty(result.Cannot);
                Assert.True(
                    request.Held.Count > 0 || request.Wish.Include.Count > 0,
                    $"nothing held and yet no plan for {JsonSerializer.Serialize(request, CoreData.Json)}: {result.Cannot[0].Says}"
                );
                continue;
            }
            planned++;
            if (request.Wish.Minutes >= 90)
                (long90, three) = (long90 + 1, three + (result.Proposals.Count == 3 ? 1 : 0));
            foreach (var (k, a) in result.Proposals.Index())
            foreach (var b in result.Proposals.Skip(k + 1))
                Assert.True(
                    PlanVerifier.Apart(Json(a), Json(b)) >= 0.1,
                    $"{a.Shape} and {b.Shape} alike in {JsonSerializer.Serialize(request, CoreData.Json)}"
                );
            foreach (var proposal in result.Proposals)
            {
                proposals++;
                var faults = PlanVerifier.Faults(Json(proposal), request.Wish.Minutes, request.Known.Minors, request.Wish.Students);
                faults.AddRange(PlanVerifier.Astray(Json(proposal), request));
                faults.AddRange(PlanVerifier.Promise(Json(proposal)));
                Assert.True(faults.Count == 0, $"{string.Join("; ", faults)} in {JsonSerializer.Serialize(request, CoreData.Json)}");
                Assert.All(proposal.Rules, r => Assert.True(r.Holds, r.Says));
                Assert.True(proposal.PosePoints <= proposal.PoseBound + 1e-6);
                if (proposal.PoseBound > 0)
                    ratios.Add(proposal.PosePoints / proposal.PoseBound);
            }
            Assert.Equal(result.Proposals.Count, result.Proposals.Select(p => p.Shape).Distinct().Count());
        }
        Assert.True(planned > 3200, $"only {planned} of 5000 planned");
        Assert.True(three >= 0.95 * long90, $"{three} of {long90} of 90 minutes and more have three proposals");
        TestContext.Current.SendDiagnosticMessage(
            $"planned {planned}, with three {three}, proposals {proposals}, points of the bound: median {ratios.Order().ElementAt(ratios.Count / 2):0.00}"
        );
    }

    private static PlanRequest Random(SeededRandom random, int n)
    {
        var minors = random.Next(4) == 0;
        return new(
            new()
            {
                Minutes = 30 + random.Next(451),
                Approach = (Approach)random.Next(3),
                Purpose = (Purpose)random.Next(6),
                Level = (Level)random.Next(3),
                Model = Subject.All[random.Next(Subject.All.Count)].Id,
                Draped = minors || random.Next(3) == 0,
                Students = random.Next(31),
                Include =
                    random.Next(3) == 0 ? ["gesture"]
                    : random.Next(6) == 0 ? [Exercises.All[random.Next(21)].Id]
                    : [],
                Part = random.Next(3) == 0 ? PoseLibrary.Parts[random.Next(PoseLibrary.Parts.Count)] : null,
                Medium = random.Next(4) == 0 ? Materials.Media[random.Next(4)] : null,
                Seed = n,
            }
        )
        {
            Known = new()
            {
                Minors = minors,
                Weak = random.Next(3) == 0 ? [new[] { "F-tilt", "F-heads", "F-hand", "H-eye" }[random.Next(4)]] : [],
                History =
                [
                    .. Enumerable
                        .Range(1, random.Next(4))
                        .Select(w => new PastMeeting(
                            w,
                            [.. PoseLibrary.Studio.Skip(random.Next(20)).Take(5).Select(p => p.Id)],
                            PoseLibrary.Studio[random.Next(28)].Id
                        )),
                ],
                SetUpMinutes = random.Next(5) == 0 ? 5 + random.Next(15) : null,
                ReviewMinutes = random.Next(5) == 0 ? 5 + random.Next(20) : null,
            },
            Held =
                random.Next(3) == 0 ? [new(random.Next(3) * 5, 5 + (random.Next(4) * 5), ItemKind.Exercise) { Exercise = "sitting" }] : [],
        };
    }

    [Fact]
    public void The_verifier_itself_finds_what_is_wrong()
    {
        var plan = Json(Planner.Plan(Evening).Proposals[0]);
        Assert.Empty(PlanVerifier.Faults(plan, 150, false, 14));
        var rest = plan["items"]!.AsArray().First(i => i!["kind"]!.GetValue<string>() == "rest")!;
        rest["kind"] = "stand-back";
        Assert.Contains("a stretch over 25 min", PlanVerifier.Faults(plan, 150, false, 14));
    }

    [Fact]
    public void The_same_request_gives_the_same_timetable_and_another_seed_other_poses()
    {
        var first = Json(Planner.Plan(Evening)).ToJsonString();
        Assert.Equal(first, Json(Planner.Plan(Evening)).ToJsonString());
        Assert.NotEqual(first, Json(Planner.Plan(Evening.Wishing(w => w with { Seed = 8 }))).ToJsonString());
    }

    [Fact]
    public void The_proof_gives_each_rule_its_value_and_limit()
    {
        var rules = Planner.Plan(Evening).Proposals[0].Rules;
        foreach (var id in new[] { "sum", "rest-stretch", "rest-strain", "rest-hour", "break", "set-up", "review", "pack-up" })
            Assert.Contains(rules, r => r.Id == id && r.Says.Length > 0);
        Assert.Equal(150, rules.Single(r => r.Id == "sum").Value);
        Assert.Equal(25, rules.Single(r => r.Id == "rest-stretch").Limit);
    }

    [Fact]
    public void An_undraped_pose_in_a_course_under_18_is_refused_with_the_nearest_that_works()
    {
        var result = Planner.Plan(Evening.Knowing(k => k with { Minors = true }));
        Assert.Empty(result.Proposals);
        Assert.Equal("minors", Assert.Single(result.Cannot).Rule);
        Assert.Equal(true, result.Cannot[0].Nearest["draped"]);
        var clothed = Planner.Plan(Evening.Wishing(w => w with { Draped = true }).Knowing(k => k with { Minors = true }));
        Assert.All(clothed.Proposals[0].Items.Where(i => i.Posed), i => Assert.True(i.Draped));
    }

    [Fact]
    public void A_cast_is_not_posed_and_keeps_its_rests_for_the_hand()
    {
        var plan = Planner.Plan(Evening.Wishing(w => w with { Model = ModelKind.Cast })).Proposals[0];
        Assert.All(plan.Items, i => Assert.False(i.Posed));
        Assert.Contains(plan.Items, i => i.Kind == ItemKind.Rest);
    }

    [Theory]
    [InlineData(29, "minutes"), InlineData(481, "minutes")]
    public void Impossible_lengths_name_the_field(int minutes, string field) =>
        Assert.Equal(field, Assert.Throws<InputException>(() => Planner.Plan(Evening.Wishing(w => w with { Minutes = minutes }))).Field);

    [Fact]
    public void Two_held_items_that_overlap_are_refused() =>
        Assert.Contains(
            "overlaps",
            Assert
                .Throws<InputException>(() =>
                    Planner.Plan(
                        Evening with
                        {
                            Held =
                            [
                                new(20, 10, ItemKind.Exercise) { Exercise = "contour" },
                                new(25, 10, ItemKind.Exercise) { Exercise = "contour" },
                            ],
                        }
                    )
                )
                .Message
        );

    [Fact]
    public void A_held_stretch_over_the_limit_is_refused_with_the_limit()
    {
        var cannot = Planner.Plan(Evening with { Held = [new(80, 30, ItemKind.Exercise) { Exercise = "sitting" }] }).Cannot;
        Assert.Contains(cannot, c => c.Rule == "rest-stretch" && Equals(c.Nearest["minutes"], 25.0));
    }

    [Fact]
    public void An_exercise_that_must_be_in_it_is_in_it()
    {
        foreach (var id in new[] { "blind-contour", "pencil-measure", "warm-up-sheet", "gesture", "value-patches" })
            Assert.Contains(Planner.Plan(Evening.Wishing(w => w with { Include = [id] })).Proposals[0].Items, i => i.Exercise == id);
        Assert.Equal("include", Planner.Plan(Evening.Wishing(w => w with { Include = ["long-pose"] })).Cannot[0].Rule);
    }

    private static readonly Instant Seven = Instant.FromUtc(2026, 11, 24, 19, 0);

    private static ClockReading Read(IReadOnlyList<PlanItem> plan, double minutes, params (double At, ClockAct Act)[] events) =>
        MeetingClock.Read(
            plan,
            [.. events.Select(e => new ClockEvent(Seven + Duration.FromMinutes(e.At), e.Act))],
            Seven + Duration.FromMinutes(minutes)
        );

    [Fact]
    public void The_clock_is_a_function_of_plan_acts_and_time()
    {
        var plan = Planner.Plan(Evening).Proposals[0].Items;
        Assert.False(Read(plan, 5).Started);
        var r = Read(plan, 12, (0, ClockAct.Start));
        Assert.Equal((1, 120), (r.Index, (int)r.SecondsIntoItem));
        var paused = Read(plan, 40, (0, ClockAct.Start), (12, ClockAct.Pause));
        Assert.Equal((1, 120.0, false), (paused.Index, Math.Round(paused.SecondsIntoItem), paused.Running));
        var resumed = Read(plan, 41, (0, ClockAct.Start), (12, ClockAct.Pause), (40, ClockAct.Resume));
        Assert.Equal((1, 180.0), (resumed.Index, Math.Round(resumed.SecondsIntoItem)));
        var next = Read(plan, 13, (0, ClockAct.Start), (12, ClockAct.Next));
        Assert.Equal((2, 60.0), (next.Index, Math.Round(next.SecondsIntoItem)));
        Assert.True(Read(plan, 151, (0, ClockAct.Start)).Over);
    }

    [Fact]
    public void A_minute_added_and_a_rest_asked_for_come_out_of_the_review_before_the_end_slips()
    {
        var plan = Planner.Plan(Evening).Proposals[0].Items;
        var review = plan.First(i => i.Kind == ItemKind.Review).Minutes;
        var one = Read(plan, 12, (0, ClockAct.Start), (11, ClockAct.AddMinute));
        Assert.Equal(0, one.LateMinutes, 6);
        Assert.Equal(review - 1, one.Timeline.First(t => t.Item.Kind == ItemKind.Review).Minutes, 6);
        var rest = Read(plan, 14, (0, ClockAct.Start), (12, ClockAct.Rest));
        Assert.Equal(ItemKind.Rest, rest.Current!.Item.Kind);
        Assert.Equal(180, rest.SecondsLeft, 3);
        Assert.Equal(150, rest.Timeline.Sum(t => t.Minutes), 6);
        Assert.Equal(plan[1].Name, rest.Next!.Item.Name);
        var late = Read(plan, 13, [(0, ClockAct.Start), .. Enumerable.Repeat((11.0, ClockAct.AddMinute), 20)]);
        Assert.Equal(20 - (review - 5) - 5, late.LateMinutes, 6);
    }
}
