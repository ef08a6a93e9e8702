using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;
using Xunit;

namespace MintHarbor.Core.Tests.Sessions;

public class LadderTests
{
    private static Finding Said(string rule, Verdict verdict) =>
        new(new(Rules.Find(rule)!, null, MeasureKind.Ratio, "ratio", [], _ => 1, ""), [], verdict)
        {
            Against = Against.Canon,
            Measured = 1,
            Expected = 1,
        };

    private static IReadOnlyList<Finding> Sheet(params (string Rule, Verdict Verdict)[] all) =>
        [.. all.Select(a => Said(a.Rule, a.Verdict))];

    /// <summary>Common practice: the order of the Long-first ladder.</summary>
    [Fact]
    public void The_rungs_stand_in_the_school_s_order()
    {
        Assert.Equal(
            [
                "still-life",
                "drapery",
                "muscle-figure",
                "skeleton-and-skull",
                "bust",
                "statue",
                "long-pose",
                "day-pose",
                "half-hour",
                "gesture",
            ],
            Ladder.Default.Rungs.Select(r => r.Id)
        );
        Assert.All(Ladder.Default.Rungs.SelectMany(r => r.Measures), m => Assert.NotNull(Rules.Find(m)));
        Assert.Null(Ladder.Default.After(Ladder.Default.Rungs[^1]));
        Assert.Throws<InputException>(() => Ladder.Default.Get("ceiling"));
    }

    [Fact]
    public void A_run_is_broken_by_a_sheet_outside_too_close_or_unjudged()
    {
        var rung = Ladder.Default.Get("statue");
        var inside = Sheet(("F-heads", Verdict.Inside), ("F-tilt", Verdict.DoesNotApply), ("F-hand", Verdict.Outside));
        Assert.Equal(3, Ladder.Run(rung, [inside, inside, inside, Sheet(("F-heads", Verdict.Outside)), inside]));
        Assert.Equal(1, Ladder.Run(rung, [inside, Sheet(("F-heads", Verdict.TooClose)), inside]));
        Assert.Equal(0, Ladder.Run(rung, [Sheet(("F-heads", Verdict.NotSeen)), inside]));
        Assert.Equal(0, Ladder.Run(rung, []));
    }

    [Theory]
    [
        InlineData("statue", new[] { 3, 3, 0 }, true),
        InlineData("statue", new[] { 3, 2, 2 }, false),
        InlineData("statue", new int[0], false),
        InlineData("drapery", new[] { 9, 9 }, false),
        InlineData("gesture", new[] { 9 }, false)
    ]
    public void The_next_rung_opens_when_half_the_course_has_its_sheets_inside(string rung, int[] inside, bool open)
    {
        var reading = Ladder.Default.Read(rung, [.. inside.Select((n, s) => new RungEvidence(s, n))]);
        Assert.Equal(open, reading.Open);
        Assert.NotEmpty(reading.Says);
    }

    /// <summary>On every rung that is planned nothing shorter than its least is drawn, and nobody sits whom it does not open.</summary>
    [Fact]
    public void A_long_first_meeting_keeps_its_rung()
    {
        var planned = 0;
        foreach (var rung in Ladder.Default.Rungs)
        {
            foreach (var minutes in new[] { 45, 60, 85, 90, 120, 150, 180, 240 })
            {
                foreach (var model in new[] { ModelKind.Person, ModelKind.Cast, ModelKind.StillLife })
                {
                    var result = Planner.Plan(
                        new(
                            new()
                            {
                                Minutes = minutes,
                                Approach = Approach.LongFirst,
                                Model = model,
                                Students = 8,
                                Seed = minutes,
                            }
                        )
                        {
                            Known = new() { Rung = rung.Id },
                        }
                    );
                    if (model == ModelKind.Person && !rung.Live)
                    {
                        Assert.Equal("rung", Assert.Single(result.Cannot).Rule);
                        continue;
                    }
                    planned++;
                    foreach (var proposal in result.Proposals)
                    {
                        // Drawn from memory is not drawn from a subject; the periods of one subject count together.
                        var drawn = proposal.Items.Where(i => i.Kind == ItemKind.Exercise && i.Catalogue!.NeedsSubject).ToList();
                        var subject = 0;
                        var shortest = drawn
                            .GroupBy(i =>
                                i.Period == 1 ? $"pose {++subject}"
                                : i.Period > 0 ? $"pose {subject}"
                                : i.At.ToString()
                            )
                            .Min(g => g.First().Period > 0 ? g.Sum(i => i.Minutes) : g.First().PoseMinutes);
                        Assert.True(
                            shortest >= Math.Min(rung.LeastMinutes, drawn.Sum(i => i.Minutes)),
                            $"{rung.Id}, {minutes} min, {proposal.Shape}: {shortest}"
                        );
                        Assert.Contains(proposal.Rules, r => r is { Id: "rung", Holds: true });
                    }
                }
            }
        }
        Assert.True(planned > 150, $"{planned} planned");
    }

    [Fact]
    public void Quick_exercises_are_refused_under_a_rung_with_the_least_named()
    {
        static PlanResult WithGesture(Approach approach, string rung) =>
            Planner.Plan(
                new(
                    new()
                    {
                        Minutes = 150,
                        Approach = approach,
                        Include = ["gesture"],
                    }
                )
                {
                    Known = new() { Rung = rung },
                }
            );
        var cannot = Assert.Single(WithGesture(Approach.LongFirst, "day-pose").Cannot);
        Assert.Contains("nothing under 20 min", cannot.Says);
        Assert.NotEmpty(WithGesture(Approach.LongFirst, "gesture").Proposals);
        // Without the approach the rung is not asked.
        Assert.NotEmpty(WithGesture(Approach.Alternating, "day-pose").Proposals);
    }

    [Fact]
    public void A_short_set_slipped_into_a_long_first_plan_breaks_the_rung()
    {
        var request = new PlanRequest(new() { Minutes = 120, Approach = Approach.LongFirst }) { Known = new() { Rung = "long-pose" } };
        var items = Planner.Plan(request).Proposals[0].Items.ToList();
        var k = items.FindIndex(i => i.Period == 1);
        items[k] = items[k] with
        {
            Exercise = "gesture",
            Period = 0,
            Poses = 10,
            PoseMinutes = items[k].Minutes / 10,
            Strains = [.. Enumerable.Repeat(Strain.Seated, 10)],
        };
        var fact = RestRules.Prove(items, request).Single(f => f.Id == "rung");
        Assert.False(fact.Holds);
        Assert.Equal(items[k].At, fact.From);
        Assert.NotNull(Exercises.Find("gesture"));
    }
}
