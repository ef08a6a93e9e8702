using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Simulation;
using Xunit;

namespace MintHarbor.Core.Tests.Critiques;

/// <summary>One thing went wrong and many measures are off: it is said once, in its own words and direction, and what follows is no remark.</summary>
public sealed class CauseTests
{
    private static readonly Dictionary<string, Vec2> Standing = Marks("stand", 0);

    private static Dictionary<string, Vec2> Marks(string pose, double azimuth)
    {
        var view = StudioFigure.View(
            new StudioFigure().Model("male", FigureCatalogue.Pose(pose), Drapery.For(false, false), StudioFigure.Thumb),
            new(azimuth),
            FigureViewKind.Mass
        );
        return view.Landmarks.ToDictionary(l => l.Key, l => l.Value.At);
    }

    private static IReadOnlyList<Finding> Judged(IReadOnlyDictionary<string, Vec2> drawn, IReadOnlyDictionary<string, Vec2>? view = null) =>
        Judge
            .Figure(
                new()
                {
                    Landmarks = new(drawn.Select(p => KeyValuePair.Create(p.Key, p.Value * 0.7))),
                    Reference = new(view ?? Standing),
                    PlacementErrorMm = 0.3,
                }
            )
            .Findings;

    /// <summary>The same where some marks were only proposed, and may lie a little aside.</summary>
    private static IReadOnlyList<Finding> Proposed(IReadOnlyDictionary<string, Vec2> drawn, double error, params string[] unsure) =>
        Judge
            .Figure(
                new()
                {
                    Landmarks = new(drawn),
                    Reference = new(Standing),
                    PlacementErrorMm = 0.3,
                    Errors = unsure.ToDictionary(id => id, _ => error),
                    NotLookedAt = unsure.ToHashSet(),
                }
            )
            .Findings;

    private static Dictionary<string, Vec2> With(string fault, double size) =>
        FigureFaults.Apply(Standing, new(fault, size), new Dictionary<string, double>(), "R");

    private static Finding Root(IReadOnlyList<Finding> findings)
    {
        var roots = findings.Where(f => f.IsOutside && f.FollowsFrom is null && f.Against == Against.Reference).ToList();
        return Assert.Single(roots);
    }

    [Theory]
    [InlineData("whole stretched", 0.12, "R-stretch", "Height of the whole for its breadth 12 % long")]
    [InlineData("whole stretched", -0.12, "R-stretch", "Height of the whole for its breadth 12 % short")]
    [InlineData("legs short", 0.12, "R-lower", "Legs 12 % short")]
    [InlineData("legs short", -0.12, "R-lower", "Legs 12 % long")]
    [InlineData("figure leaning", 5, "R-lean", "The whole figure leans 5° to the right")]
    [InlineData("figure leaning", -5, "R-lean", "The whole figure leans 5° to the left")]
    [InlineData("thigh turned", 9, "R-direction", "Right thigh goes 9° clockwise")]
    [InlineData("thigh turned", -9, "R-direction", "Right thigh goes 9° anticlockwise")]
    [InlineData("hips shifted", 0.3, "R-hips", "heads right")]
    [InlineData("hips shifted", -0.3, "R-hips", "heads left")]
    public void One_cause_is_named_with_its_size_and_side(string fault, double size, string rule, string says)
    {
        var findings = Judged(With(fault, size));
        var root = Root(findings);
        Assert.Equal(rule, root.Rule.Id);
        Assert.Contains(says, root.Says);
        Assert.All(findings.Where(f => f.FollowsFrom is not null), f => Assert.Equal(root.Key, f.FollowsFrom));
        Assert.True(rule is "R-lean" || findings.Any(f => f.FollowsFrom is not null), "nothing is folded under it");
    }

    /// <summary>A head a tenth too large makes hands, arms and shoulders look short against it; they are right.</summary>
    [Fact]
    public void A_large_head_is_the_heads_fault_alone()
    {
        var findings = Judged(With("head large", 0.15));
        var root = Root(findings);
        Assert.Contains("ead", root.Says);
        Assert.Contains("large", root.Says);
        Assert.DoesNotContain(findings, f => f.IsOutside && f.FollowsFrom is null && f.Rule == Rules.Shoulder);
        Assert.DoesNotContain(findings, f => f.IsOutside && f.FollowsFrom is null && f.Rule == Rules.Hand);
    }

    /// <summary>By least squares one thigh turned by 10° turns the whole by up to 3°.</summary>
    [Theory]
    [InlineData("thigh turned", 10, 0.4)]
    [InlineData("arm turned", 10, 0.4)]
    [InlineData("legs short", 0.2, 0.4)]
    [InlineData("hips shifted", 0.35, 1.5)] // both thighs and the trunk go with them: still no lean
    public void One_fault_neither_turns_nor_shrinks_the_whole(string fault, double size, double turn)
    {
        var drawn = new Core.Landmarks.LandmarkSet(With(fault, size));
        var whole = new ReferenceMeasures(drawn, new(Standing), null);
        Assert.InRange(whole.Turn, -turn, turn);
        Assert.DoesNotContain(Judged(With(fault, size)), f => f.Rule == Rules.Lean && f.IsOutside);
        Assert.InRange(whole.Scale, 0.985, 1.015);
    }

    [Fact]
    public void The_legs_alone_dont_set_the_scale()
    {
        // Arms hidden: head, trunk and legs remain, and the legs are longer than the rest.
        var seen = With("legs short", 0.2).Where(p => !p.Key.StartsWith("elbow") && !p.Key.StartsWith("wrist")).ToDictionary();
        var whole = new ReferenceMeasures(new(seen), new(Standing), null);
        Assert.InRange(whole.Scale, 0.97, 1.03);
        Assert.Contains(Judged(seen), f => f.IsOutside && f.FollowsFrom is null && f.Says.Contains("egs") && f.Says.Contains("short"));
    }

    /// <summary>No one of its marks is known exactly enough for a measure, and together they say it.</summary>
    [Theory]
    [InlineData(9, "Right thigh goes 9° clockwise")]
    [InlineData(-9, "Right thigh goes 9° anticlockwise")]
    public void A_cause_is_told_by_all_that_it_moves(double degrees, string says)
    {
        var findings = Proposed(With("thigh turned", degrees), 5, "asis.R", "kneetop.R");
        var thigh = Assert.Single(findings, f => f.Rule == Rules.EdgeDirection && f.Part == "right thigh");
        Assert.True(thigh.IsOutside);
        Assert.Contains(says, thigh.Says);
        Assert.True(thigh.Uncertainty < Proposed(Standing, 5, "asis.R", "kneetop.R").Single(f => f.Key == thigh.Key).Uncertainty);
    }

    /// <summary>Where even all together are not sharp, the fault is told as widely as it is known, and what it was held against says so.</summary>
    [Fact]
    public void A_cause_known_coarsely_is_told_coarsely()
    {
        var leg = Standing.Keys.Where(id => id.EndsWith(".R") && Standing[id].Y > Standing["asis.R"].Y).ToArray();
        var findings = Proposed(With("thigh turned", 18), 20, leg);
        var thigh = Assert.Single(findings, f => f.Rule == Rules.EdgeDirection && f.Part == "right thigh");
        Assert.True(thigh.IsOutside);
        Assert.InRange(thigh.Tolerance!.Value, 4.2, 14);
        Assert.Equal(thigh.Tolerance, thigh.Standards[0].Tolerance);
        Assert.Contains($"±{Say.Number(thigh.Tolerance!.Value)}°", thigh.Because);
    }

    /// <summary>A direction is read off its own two marks: where one of them isn't drawn, nothing is said of it, least of all as a length.</summary>
    [Theory]
    [InlineData("kneetop.R"), InlineData("asis.R")]
    public void A_turned_limb_without_its_own_marks_is_not_told_as_a_ratio(string hidden)
    {
        var findings = Judged(With("thigh turned", 14).Where(p => p.Key != hidden).ToDictionary());
        Assert.DoesNotContain(findings, f => f.Rule == Rules.EdgeDirection && f.Part == "right thigh");
        Assert.All(findings.Where(f => f.Rule == Rules.EdgeDirection), f => Assert.Equal(MeasureKind.Angle, f.Measure.Kind));
    }

    /// <summary>A foot that may lie anywhere is as long as the view's; the arms, all short alike, are known.</summary>
    [Fact]
    public void What_may_lie_anywhere_doesnt_carry_the_scale()
    {
        string[] seen = ["acromion.L", "acromion.R", "elbow.L", "elbow.R", "wrist.L", "wrist.R", "heel.R", "toe.R"];
        var drawn = Standing.Where(p => seen.Contains(p.Key)).ToDictionary(p => p.Key, p => p.Value * (p.Key.EndsWith("toe.R") ? 1 : 0.85));
        drawn["toe.R"] = drawn["heel.R"] + (Standing["toe.R"] - Standing["heel.R"]);
        double Scale(double foot) =>
            new ReferenceMeasures(new(drawn), new(Standing), null, id => id is "heel.R" or "toe.R" ? foot : 0.5).Scale;
        Assert.InRange(Scale(40), 0.845, 0.87);
        Assert.True(Scale(0.5) > Scale(40) + 0.02);
    }

    [Fact]
    public void The_lean_needs_no_crown_and_chin_but_more_than_one_limb()
    {
        var leaning = With("figure leaning", 6);
        var headless = leaning.Where(p => p.Key is not ("crown" or "chin")).ToDictionary();
        Assert.Contains(Judged(headless), f => f.Rule == Rules.Lean && f.IsOutside && f.Says.Contains("6° to the right"));
        string[] limb = ["acromion.L", "acromion.R", "elbow.L", "pit", "nipple.L", "nipple.R", "deltoid.L"];
        Assert.DoesNotContain(Judged(leaning.Where(p => limb.Contains(p.Key)).ToDictionary()), f => f.Rule == Rules.Lean);
    }

    [Fact]
    public void A_drawing_without_fault_has_no_cause()
    {
        var findings = Judged(Standing);
        Assert.Equal(
            [],
            findings.Where(f => f.Against == Against.Reference && f.IsOutside || f.FollowsFrom is not null).Select(f => f.Says)
        );
        Assert.DoesNotContain(findings, f => f.Rule == Rules.Stretch || f.Rule == Rules.Lower || f.Rule == Rules.HipShift);
    }

    /// <summary>A single part that is off is its own finding, and nothing is folded under it.</summary>
    [Fact]
    public void One_fault_of_one_part_stays_what_it_is()
    {
        var findings = Judged(With("hand small", 0.3));
        Assert.Equal("right hand", Root(findings).Part);
    }

    /// <summary>Hands clasped behind the back hang nowhere: wrists before the hips tell nothing of an arm's length.</summary>
    [Fact]
    public void Hands_behind_the_back_are_no_hanging_arms()
    {
        var behind = Marks("behind", 0);
        var findings = Judged(behind, behind);
        foreach (var rule in new[] { Rules.Elbow, Rules.Wrist })
            Assert.All(findings.Where(f => f.Rule == rule), f => Assert.Equal(Verdict.DoesNotApply, f.Verdict));
        Assert.DoesNotContain(findings, f => f.IsOutside && f.Against == Against.Canon && f.Says.Contains("rist"));
    }

    /// <summary>The card reads one height, the view shows another: which is wrong the drawing can't tell, so it is one question.</summary>
    [Fact]
    public void A_card_and_a_view_that_disagree_are_one_question()
    {
        var judged = Judge
            .Figure(
                new()
                {
                    Landmarks = new(Standing.Select(p => KeyValuePair.Create(p.Key, p.Value * 0.7))),
                    Reference = new(Standing),
                    PlacementErrorMm = 0.3,
                    PoseCard = new()
                    {
                        Heads = 6.2,
                        PitToSole = 4.8,
                        PitToPubic = 1.9,
                    },
                }
            )
            .Findings;
        var question = Assert.Single(judged, f => f.Rule == Rules.CardAndView);
        Assert.Equal("card-and-view", question.Rule.Id);
        Assert.Contains("Card misread, or another seat?", question.Says);
        Assert.False(question.IsOutside);
        Assert.DoesNotContain(judged, f => f.Rule == Rules.Heads);
    }

    /// <summary>5° off and yet drawn at 12¼ as wanted: quarters are too coarse there.</summary>
    [Theory]
    [InlineData(5), InlineData(-5)]
    public void What_is_said_of_the_hour_differs_where_the_degrees_do(double off)
    {
        var findings = Judged(With("lower leg turned", off));
        var shank = findings.Single(f => f.Rule == Rules.EdgeDirection && f.Part == "right lower leg");
        var hours = System.Text.RegularExpressions.Regex.Matches(shank.Says, "[0-9.]+[¼½¾]? o'clock").Select(m => m.Value).ToList();
        Assert.Equal(2, hours.Count);
        Assert.NotEqual(hours[0], hours[1]);
    }

    /// <summary>A mark that nobody placed and that may lie anywhere judges nothing, right or wrong.</summary>
    [Fact]
    public void What_nobody_looked_at_is_not_judged()
    {
        var judged = Judge
            .Figure(
                new()
                {
                    Landmarks = new(With("hand small", 0.3).Select(p => KeyValuePair.Create(p.Key, p.Value * 0.7))),
                    Reference = new(Standing),
                    PlacementErrorMm = 0.3,
                    NotLookedAt = new HashSet<string> { "fingertip.R" },
                }
            )
            .Findings;
        var hand = judged.Single(f => f.Rule == Rules.Length && f.Part == "right hand");
        Assert.Equal(Verdict.NotLookedAt, hand.Verdict);
        Assert.False(hand.Judgeable);
        Assert.Contains("not looked at yet; right fingertips only proposed", hand.Says);
    }

    /// <summary>A mark known to three millimetres widens what hangs on it, and nothing else.</summary>
    [Fact]
    public void Every_mark_carries_its_own_error()
    {
        Finding Of(string part, double? wrist) =>
            Judge
                .Figure(
                    new()
                    {
                        Landmarks = new(Standing.Select(p => KeyValuePair.Create(p.Key, p.Value * 0.7))),
                        Reference = new(Standing),
                        PlacementErrorMm = 0.3,
                        Errors = wrist is { } e ? new Dictionary<string, double> { ["wrist.R"] = e } : [],
                    }
                )
                .Findings.Single(f => f.Rule == Rules.Length && f.Part == part);
        Assert.True(Of("right forearm", 3).Uncertainty > 4 * Of("right forearm", null).Uncertainty);
        Assert.Equal(Of("left forearm", null).Uncertainty!.Value, Of("left forearm", 3).Uncertainty!.Value, 6);
    }

    /// <summary>Three sheets, three first faults; what two of them share to one side is the root.</summary>
    [Fact]
    public void What_recurs_on_several_sheets_is_said_beside_what_each_shows()
    {
        Dictionary<string, Vec2> Also(string fault, double size, Dictionary<string, Vec2> m) =>
            FigureFaults.Apply(m, new(fault, size), new Dictionary<string, double>(), "R");
        var sheets = new[]
        {
            Judged(With("figure leaning", 5)),
            Judged(Also("figure leaning", 6, With("hand small", 0.3))),
            Judged(Also("figure leaning", -5, With("arm turned", 9))),
            Judged(Standing),
        };
        var shared = Recurring.In(sheets);
        Assert.Equal(
            "On 2 of 4 sheets: the whole figure leans, to the right.",
            Assert.Single(shared, r => r.Example.Rule == Rules.Lean).Says
        );
        Assert.DoesNotContain(shared, r => r.Example.Part == "right hand");
        Assert.Empty(Recurring.In([]));
    }
}
