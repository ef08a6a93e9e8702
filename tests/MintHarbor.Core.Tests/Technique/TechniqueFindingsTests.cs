using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Rooms;
using MintHarbor.Core.Technique;
using Xunit;

namespace MintHarbor.Core.Tests.Technique;

/// <summary>What is said of a reading: the words a student acts on, their direction, and what is left unsaid.</summary>
public sealed class TechniqueFindingsTests
{
    private static readonly PagePlace Placed = new(60, 50, 70, 40, 40_000, 0.25, []);

    private static TechniqueReading Reading(
        double solid = 0,
        ContourMeasures? contour = null,
        HatchMeasures? hatch = null,
        ToneMeasures? tone = null,
        PagePlace? place = null
    ) => new(Nothing.None, solid, place ?? Placed, contour, hatch, tone);

    private static ContourMeasures Line(double? side = 0, double ends = 6) => new(3000, 0.4, 0.3, side, 0.4, 0.1, ends);

    private static TechniqueFinding? Of(TechniqueReading r, string rule, LampSide lamp = LampSide.Unknown, string? exercise = null) =>
        TechniqueFindings.Of(r, Exercises.Find(exercise), lamp, 600).SingleOrDefault(f => f.Rule.Id == rule);

    [Theory]
    [InlineData(0.3, LampSide.Left, TechniqueVerdict.Holds, "heavier on the right, away from the lamp")]
    [InlineData(-0.3, LampSide.Left, TechniqueVerdict.Off, "heavier on the left, towards the lamp")]
    [InlineData(0.3, LampSide.Right, TechniqueVerdict.Off, "heavier on the right, towards the lamp")]
    [InlineData(-0.3, LampSide.Right, TechniqueVerdict.Holds, "heavier on the left, away from the lamp")]
    [InlineData(0.3, LampSide.Unknown, TechniqueVerdict.Told, "heavier on the right, 1.3 times")]
    [InlineData(0.05, LampSide.Left, TechniqueVerdict.Told, "alike on the right and on the left")]
    public void The_heavier_side_is_held_against_the_lamp(double side, LampSide lamp, TechniqueVerdict verdict, string says)
    {
        var said = Of(Reading(contour: Line(side)), "L-side", lamp)!;
        Assert.Equal(verdict, said.Verdict);
        Assert.Contains(says, said.Says);
    }

    [Theory]
    [InlineData(60, "falling to the right, 60° from level")]
    [InlineData(120, "rising to the right, 60° from level")]
    [InlineData(2, "level")]
    [InlineData(178, "level")]
    [InlineData(91, "upright")]
    public void Hatching_is_told_with_its_lie(double direction, string lie)
    {
        var said = Of(Reading(hatch: new(900, 0.4, 2.4, 0.1, direction)), "L-hatch")!;
        Assert.Equal($"Hatched 2.4 mm apart, {lie}; 40 % of all line.", said.Says);
        Assert.Equal(TechniqueVerdict.Told, said.Verdict);
    }

    [Fact]
    public void Hatching_closer_than_it_can_be_read_is_not_spoken_of()
    {
        Assert.Null(Of(Reading(hatch: new(900, 0.4, 1.6, 0.5, 60)), "L-hatch"));
        Assert.Null(Of(Reading(hatch: new(900, 0.4, 1.6, 0.5, 60)), "L-even"));
        Assert.Null(Of(Reading(hatch: new(20, 0.1, null, null, null)), "L-hatch"));
    }

    [Fact]
    public void Evenness_is_shown_and_not_judged()
    {
        var said = Of(Reading(hatch: new(900, 0.4, 2.4, 0.5, 60)), "L-even")!;
        Assert.Equal((TechniqueVerdict.Told, "Its gaps differ by 50 % as they were read."), (said.Verdict, said.Says));
    }

    [Theory]
    [InlineData(13, TechniqueVerdict.Off, "is hairy"), InlineData(8, TechniqueVerdict.Holds, "isn't hairy")]
    public void Hairy_is_a_yes_or_a_no(double ends, TechniqueVerdict verdict, string says)
    {
        var said = Of(Reading(contour: Line(ends: ends)), "L-hairy")!;
        Assert.Equal(verdict, said.Verdict);
        Assert.Contains(says, said.Says);
    }

    [Fact]
    public void A_mass_of_charcoal_is_said_nothing_of_but_its_tone()
    {
        ToneMeasures tone = new(50, 20, 60, 0.1, [0.3, 0.3, 0.2, 0.1, 0.1], [0.1, 0.2, 0.1, 0.1, 0.1, 0.1, 0.1, 0.1, 0.1]);
        var all = TechniqueFindings.Of(Reading(0.5, Line(), new(900, 0.4, 2.4, 0.1, 60), tone), null, LampSide.Left, 600);
        var hidden = all.Single(f => f.Rule.Id == "L-hairy");
        Assert.Equal((TechniqueVerdict.CantTell, null), (hidden.Verdict, hidden.Value));
        Assert.DoesNotContain(all, f => f.Rule.Id == "L-side");
        Assert.Contains(all, f => f.Rule.Id == "T-values");
    }

    [Theory]
    [InlineData("value-patches", 1, TechniqueVerdict.Off)]
    [InlineData("value-patches", 3, TechniqueVerdict.Holds)]
    [InlineData("sitting", 1, TechniqueVerdict.Told)]
    public void Values_are_asked_for_only_where_the_exercise_asks(string exercise, int values, TechniqueVerdict verdict)
    {
        var fifths = Enumerable.Range(0, 5).Select(k => k < values ? 1.0 / values : 0).ToList();
        var said = Of(Reading(tone: new(60, 20, 60, 0.1, fifths, fifths)), "T-values", exercise: exercise)!;
        Assert.Equal(verdict, said.Verdict);
        Assert.StartsWith($"{values} of five values {(values == 1 ? "is" : "are")} used", said.Says);
    }

    [Fact]
    public void An_exercise_hears_what_it_is_inspected_for_and_no_more()
    {
        ToneMeasures tone = new(60, 20, 60, 0.1, [1, 0, 0, 0, 0], [1, 0, 0, 0, 0, 0, 0, 0, 0]);
        var reading = Reading(contour: Line(), hatch: new(900, 0.4, 2.4, 0.1, 60), tone: tone);
        Assert.DoesNotContain(TechniqueFindings.Of(reading, Exercises.Get("gesture"), LampSide.Left, 600), f => f.Rule.Opens == "tone");
        Assert.Contains(TechniqueFindings.Of(reading, Exercises.Get("gesture"), LampSide.Left, 600), f => f.Rule.Id == "L-hairy");
        // Twelve on a sheet: the size of one drawing says nothing.
        Assert.Null(Of(reading, "P-size", exercise: "thumbnails"));
        Assert.NotNull(Of(reading, "P-size", exercise: "gesture"));
    }

    [Fact]
    public void Off_the_page_names_its_edges_and_small_is_small()
    {
        Assert.Equal(
            "It runs off the page at the left and bottom.",
            Of(Reading(place: Placed with { CutEdges = ["left", "bottom"] }), "P-cut")!.Says
        );
        var small = Of(Reading(place: Placed with { Top = 200, Bottom = 150 }), "P-size")!;
        Assert.Equal(TechniqueVerdict.Off, small.Verdict);
        Assert.Contains("42 % of the sheet's height", small.Says);
        Assert.Contains("60 mm free on the left, 70 on the right", small.Says);
        Assert.Empty(TechniqueFindings.Of(TechniqueReading.Empty(Nothing.Blank), null, LampSide.Left, 600));
    }

    [Fact]
    public void Every_rule_names_a_fault_that_there_is()
    {
        Assert.All(TechniqueRule.All.Where(r => r.Fault is not null), r => Assert.NotNull(Faults.Find(r.Fault!)));
        Assert.All(TechniqueRule.All, r => Assert.Contains(r.Opens, new[] { "placement", "line", "tone" }));
    }

    /// <summary>The usual room: the lamp stands behind the stand on the left of whoever sits at its front.</summary>
    [Theory]
    [InlineData(0, LampSide.Left), InlineData(60, LampSide.Unknown), InlineData(180, LampSide.Right), InlineData(-90, LampSide.Left)]
    public void The_lamp_stands_on_the_side_where_the_plan_has_it(double seat, LampSide side)
    {
        // Seen from above with y downwards: the stand in the middle, its front towards the foot, the lamp up and to the left at 45°.
        var room = RoomPlan.Usual with { Stand = new(5, 4), Front = 0, Lamp = new Vec2(3, 2) };
        Assert.Equal(side, room.LampFrom(seat));
    }

    [Fact]
    public void Every_fault_has_its_drill_and_two_letters_of_its_own()
    {
        var faults = Faults.All;
        Assert.InRange(faults.Count, 80, 120);
        Assert.All(faults, f => Assert.NotNull(Drills.Find(f.Drill)));
        Assert.All(faults.Where(f => f.Exercise is not null), f => Assert.NotNull(Exercises.Find(f.Exercise)));
        Assert.All(faults, f =>
            Assert.All([f.Name, f.Where, f.Sign, f.Principle, f.Remedy], t => Assert.False(string.IsNullOrWhiteSpace(t)))
        );
        Assert.Equal(faults.Count, faults.Select(f => f.Id).Distinct().Count());
        Assert.Equal(faults.Count, faults.Select(f => f.Name).Distinct().Count());
        var codes = FaultCodes.Of(faults);
        Assert.Equal(faults.Count, codes.Count);
        Assert.Equal(codes.Count, codes.Values.Distinct().Count());
        Assert.All(codes.Values, c => Assert.Matches("^[a-z]{2}$", c));
        Assert.Equal("hl", codes["hairy-line"]);
        // What the trade says each is trained by.
        foreach (
            var (fault, drill) in new[]
            {
                ("axis-in-middle", "far-share"),
                ("level-tilts", "tilt"),
                ("leaning", "plumb"),
                ("head-large", "head-count"),
                ("converges-wrong", "convergence"),
                ("deltoid-short", "halve-and-third"),
            }
        )
            Assert.Equal(drill, Faults.Find(fault)!.Drill);
    }

    [Fact]
    public void Own_faults_get_letters_after_the_library_and_keep_what_it_has()
    {
        var library = FaultCodes.Of(Faults.All);
        var more = FaultCodes.Of([.. Faults.All, .. Faults.All.Take(3).Select(f => f with { Id = "own-" + f.Id })]);
        Assert.All(library, c => Assert.Equal(c.Value, more[c.Key]));
        Assert.Equal(library.Count + 3, more.Values.Distinct().Count());
    }
}
