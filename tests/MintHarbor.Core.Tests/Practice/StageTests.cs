using MintHarbor.Core.Courses;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Practice;
using NodaTime;
using Xunit;

namespace MintHarbor.Core.Tests.Practice;

/// <summary>What moves a measure from one stage to another, and what doesn't.</summary>
public sealed class StageTests
{
    private static readonly Instant Start = Instant.FromUtc(2027, 2, 1, 18, 0);

    private static StagePoint P(int day, double off, EvidenceOf from = EvidenceOf.Drill) =>
        new(from, $"day {day}", Start + Duration.FromDays(day), off, 0);

    [Fact]
    public void Three_near_enough_move_up_one_step_and_say_what_they_were()
    {
        var (to, why) = Stages.Moves(MeasuringStage.ByTool, [P(1, 9), P(2, 2), P(3, -2.4), P(4, 1)])!.Value;
        Assert.Equal(MeasuringStage.ByEyeThenCheck, to);
        Assert.Equal(["day 4", "day 3", "day 2"], why.Points.Select(p => p.Name));
        Assert.Null(Stages.Moves(MeasuringStage.ByTool, [P(2, 2), P(3, 2)]));
        Assert.Null(Stages.Moves(MeasuringStage.ByTool, [P(2, 2), P(3, 2), P(4, 2.6)]));
        // Lean and scatter count together: neither alone is beyond it, both are.
        Assert.Null(
            Stages.Moves(MeasuringStage.ByTool, [P(2, 0), P(3, 0), new(EvidenceOf.Drill, "x", Start + Duration.FromDays(4), 2, 2)])
        );
    }

    [Fact]
    public void By_eye_alone_wants_paper_or_a_drawing_among_the_evidence()
    {
        List<StagePoint> drills = [P(1, 1), P(2, 1), P(3, 1), P(4, 0.5)];
        Assert.Null(Stages.Moves(MeasuringStage.ByEyeThenCheck, drills));
        Assert.Equal(MeasuringStage.ByEye, Stages.Moves(MeasuringStage.ByEyeThenCheck, [.. drills, P(5, 1.2, EvidenceOf.Paper)])!.Value.To);
        Assert.Equal(MeasuringStage.ByEye, Stages.Moves(MeasuringStage.ByEyeThenCheck, [.. drills, P(0, 1.2, EvidenceOf.Sheet)])!.Value.To);
        // A drawing that went wrong proves nothing.
        Assert.Null(Stages.Moves(MeasuringStage.ByEyeThenCheck, [.. drills, P(0, 3, EvidenceOf.Sheet)]));
        Assert.Null(Stages.Moves(MeasuringStage.ByEye, drills));
    }

    [Fact]
    public void Two_well_beyond_fall_back_and_one_never()
    {
        Assert.Null(Stages.Moves(MeasuringStage.ByEye, [P(1, 9)]));
        Assert.Null(Stages.Moves(MeasuringStage.ByEye, [P(1, 9), P(2, 1.3)]));
        var (to, why) = Stages.Moves(MeasuringStage.ByEye, [P(1, 0.5), P(2, -2.1), P(3, 9)])!.Value;
        Assert.Equal((MeasuringStage.ByEyeThenCheck, 2), (to, why.Points.Count));
        Assert.Null(Stages.Moves(MeasuringStage.ByTool, [P(1, 9), P(2, 9)]));
        // What lets somebody in never throws them out at once.
        foreach (var stage in new[] { MeasuringStage.ByTool, MeasuringStage.ByEyeThenCheck })
        {
            List<StagePoint> three = [P(1, 1.25, EvidenceOf.Sheet), P(2, 1.25), P(3, 1.25)];
            var up = Stages.Moves(stage, three)!.Value.To;
            Assert.Null(Stages.Moves(up, three) is { } next && next.To < up ? next : null);
        }
    }

    [Fact]
    public void Every_measure_names_drills_and_paper_that_there_are()
    {
        foreach (var m in Stages.All)
        {
            Assert.All(m.Drills, d => Assert.NotNull(Drills.Find(d)));
            Assert.All(m.Paper.Keys, p => Assert.Contains(PaperMeasures.All, x => x.Id == p));
            Assert.Contains(m.Tool, Stages.How(m, MeasuringStage.ByTool));
            Assert.DoesNotContain(m.Tool, Stages.How(m, MeasuringStage.ByEye));
        }
        Assert.Equal(Stages.All.SelectMany(m => m.Drills).Count(), Stages.All.SelectMany(m => m.Drills).Distinct().Count());
        Assert.Throws<InputException>(() => Stages.Get("weight"));
    }

    [Fact]
    public void A_round_and_a_drill_sheet_are_told_in_times_of_what_is_asked()
    {
        var clock = Drills.Get("clock-hand");
        var (measure, point) = Stages.Of(clock, bias: -6, spread: 8, hardest: 4, Start)!.Value;
        Assert.Equal(("angle", -1.5, 2.0), (measure, point.Lean, point.Scatter));
        Assert.Equal(2.5, point.Off, 9);
        Assert.Null(Stages.Of(Drills.Get("blind-strict"), 5, 1, 4, Start));
        // 2° is asked of a slant: 3° clockwise on the whole, 1° about it.
        var told = Stages
            .Of("sheet 7", [new ItemScore("slant", 2, 0.3), new("slant", 4, 0.3), new("tone", 12, 1)], Start)
            .ToDictionary(t => t.Measure);
        Assert.Equal(1.5, told["angle"].Point.Lean, 9);
        Assert.Equal(Math.Sqrt(2) / 2, told["angle"].Point.Scatter, 9);
        Assert.Equal(2, told["value"].Point.Lean, 9);
        Assert.Equal(2, told.Count);
    }

    [
        Theory,
        InlineData(2.0, 1.0, Trend.Fell, "better"),
        InlineData(1.0, 2.0, Trend.Rose, "worse"),
        InlineData(1.0, 1.1, Trend.Stayed, "as it was")
    ]
    public void Transfer_is_told_by_the_next_drawing_after_the_drill(double before, double after, Trend trend, string word)
    {
        var angle = Stages.Get("angle");
        List<StagePoint> points =
        [
            new(EvidenceOf.Sheet, "A", Start, before, 0),
            new(EvidenceOf.Drill, "round", Start + Duration.FromDays(3), 9, 0),
            new(EvidenceOf.Sheet, "B", Start + Duration.FromDays(5), after, 0),
            new(EvidenceOf.Sheet, "C", Start + Duration.FromDays(9), 9, 0),
        ];
        var t = Transfer.Of(angle, "A", Start + Duration.FromDays(3), points)!;
        Assert.Equal((trend, "B"), (t.Trend, t.After.Name));
        Assert.Contains(word, t.Says);
        Assert.Null(Transfer.Of(angle, "A", Start + Duration.FromDays(20), points));
        Assert.Null(Transfer.Of(angle, "Z", Start, points));
    }
}
