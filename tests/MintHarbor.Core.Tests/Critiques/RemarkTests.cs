using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Practice;
using Xunit;

namespace MintHarbor.Core.Tests.Critiques;

public class RemarkTests
{
    [Fact]
    public void The_library_names_at_least_forty_faults_with_sign_principle_and_remedy()
    {
        Assert.True(Faults.All.Count >= 40);
        Assert.Equal(Faults.All.Count, Faults.All.Select(f => f.Id).Distinct().Count());
        foreach (var f in Faults.All)
        {
            Assert.All(new[] { f.Name, f.Where, f.Sign, f.Principle, f.Remedy, f.Source }, s =>
                Assert.False(string.IsNullOrWhiteSpace(s), f.Id)
            );
            if (f.Exercise is not null)
                Assert.NotNull(Exercises.Find(f.Exercise));
            if (f.Drill is not null)
                Assert.NotNull(Drills.Find(f.Drill));
        }
        foreach (var family in new[] { Family.Proportion, Family.Anatomy, Family.Construction, Family.LineAndHand })
            Assert.Contains(Faults.All, f => f.Family == family);
    }

    [Theory]
    [
        InlineData("he", "head-large"),
        InlineData("LEA", "leaning"),
        InlineData("hat", "hatching-flat"),
        InlineData("ne", "neck-thin"),
        InlineData("head l", "head-large")
    ]
    public void Two_or_three_letters_find_a_fault(string letters, string id) =>
        Assert.Contains(Faults.Search(Faults.All, letters), f => f.Id == id);

    [Fact]
    public void Nothing_typed_finds_nothing() => Assert.Empty(Faults.Search(Faults.All, "  "));

    private static Remark Of(string fault, int? priority) =>
        Remark.FromFault(fault, Faults.Find(fault)!, null) with
        {
            Priority = priority,
        };

    [Fact]
    public void At_most_three_priorities_stand_in_working_order()
    {
        var ordered = Priorities.InOrder([
            Of("flat-tone", 1),
            Of("head-large", 1),
            Of("hairy-line", 1),
            Of("leaning", 1),
            Of("neck-thin", null),
        ]);
        Assert.Equal(["hairy-line", "leaning", "head-large"], ordered.Where(r => r.Priority is not null).Select(r => r.Id));
        Assert.Equal([1, 2, 3], ordered.Take(3).Select(r => r.Priority!.Value));
    }

    [Fact]
    public void A_remark_without_place_or_next_step_is_flagged_and_blocks()
    {
        var r = Of("head-large", 1) with { Where = "", Next = " " };
        Assert.Equal(2, r.Flags.Count);
        Assert.NotEmpty(Priorities.Blocking([r]));
        Assert.Empty((r with { Where = "head", Holds = true }).Flags);
        Assert.NotEmpty(Priorities.Blocking([]));
        Assert.Empty(Priorities.Blocking([Of("head-large", 1)]));
    }

    [Fact]
    public void A_finding_becomes_a_remark_with_number_principle_and_remedy()
    {
        var m = JudgeTests.Measured();
        m["chin"] = m["crown"] + new Vec2(0, 80);
        var finding = Judge
            .Figure(
                new()
                {
                    Landmarks = new(m),
                    PlacementErrorMm = 0.4,
                    PoseCard = new() { Heads = 7.69 },
                }
            )
            .Findings.Single(f => f.Rule.Id == "F-heads");
        var r = Remark.FromFinding("r1", finding, null);
        Assert.Equal("head-large", r.FaultId);
        Assert.Contains("large", r.What);
        Assert.Empty(r.Flags);
        Assert.NotEmpty(Priorities.TooEarly([Of("flat-tone", 1)], [finding]));
    }

    [Fact]
    public void A_redo_shows_what_came_closer()
    {
        var before = JudgeTests.Measured();
        before["chin"] = before["crown"] + new Vec2(0, 80);
        Finding[] F(Dictionary<string, Vec2> m) =>
            [
                .. Judge
                    .Figure(
                        new()
                        {
                            Canon = "measured-adult",
                            Landmarks = new(m),
                            PlacementErrorMm = 0.4,
                        }
                    )
                    .Findings,
            ];
        var row = Comparison.Of(F(before), F(JudgeTests.Measured())).First(c => c.Before.Key == "F-heads");
        Assert.Equal(Moved.Closer, row.Moved);
        Assert.Equal((Verdict.Outside, Verdict.Inside), (row.Before.Verdict, row.After.Verdict));
    }
}
