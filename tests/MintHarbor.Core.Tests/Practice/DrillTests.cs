using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Practice;
using Xunit;

namespace MintHarbor.Core.Tests.Practice;

public class DrillTests
{
    [Fact]
    public void Every_item_of_the_catalogue_is_complete()
    {
        Assert.Equal(Exercises.All.Count, Exercises.All.Select(e => e.Id).Distinct().Count());
        foreach (var e in Exercises.All)
        {
            Assert.InRange(e.Look, 0, 100);
            Assert.True(e.MinMinutes <= e.MaxMinutes && e.MinMinutes > 0, e.Id);
            Assert.NotEmpty(e.Student);
            Assert.NotEmpty(e.Findings);
        }
        Assert.True(Exercises.Get("gesture").Allows(Rules.Tilt) && !Exercises.Get("gesture").Allows(Rules.Heads));
    }

    [Fact]
    public void Items_repeat_by_seed_and_their_truth_is_the_edge_as_drawn()
    {
        var a = ClockHand.Drill.Items(5, 0.5, 20, false);
        Assert.Equal(a, ClockHand.Drill.Items(5, 0.5, 20, false));
        Assert.NotEqual(a.Select(i => i.Truth), ClockHand.Drill.Items(6, 0.5, 20, false).Select(i => i.Truth));
        foreach (var i in a)
            Assert.Equal(ClockAngle.OfEdge(i.Asked.From, i.Asked.To), i.Truth.Value, 2);
        Assert.True(a.Select(i => i.Truth.Value).Distinct().Count() > 12);
    }

    [Fact]
    public void A_mirrored_item_asks_for_the_other_side()
    {
        var items = Enumerable.Range(0, 20).SelectMany(s => ClockHand.Drill.Items(s, 0.2, 5, false)).ToList();
        var straight = items.First(i => !i.Mirrored && i.Ask.Contains("left thigh"));
        var mirrored = items.First(i => i.Mirrored && i.Ask.Contains("right thigh"));
        Assert.Contains("<g transform=\"matrix(-1", DrillPicture.Svg(mirrored));
        Assert.DoesNotContain("<g transform", DrillPicture.Svg(straight));
    }

    [Fact]
    public void Courses_under_18_only_see_clothed_figures() =>
        Assert.All(ClockHand.Drill.Items(9, 0.5, 50, clothed: true), i => Assert.Contains("clothed", i.ViewId));

    [Theory]
    [
        InlineData(0.0, 14.9, true),
        InlineData(0.0, 15.1, false),
        InlineData(1.0, 4.0, true),
        InlineData(1.0, 4.1, false),
        InlineData(0.5, 9.5, true)
    ]
    public void Right_narrows_from_15_to_4_degrees(double difficulty, double off, bool correct)
    {
        var item = ClockHand.Drill.Items(5, 0.5, 1, false)[0] with { Truth = new(100, "deg") };
        Assert.Equal(correct, ClockHand.Drill.Score(item, 100 + off, difficulty).Correct);
        Assert.Equal(correct, ClockHand.Drill.Score(item, 280 + off, difficulty).Correct);
    }

    /// <summary>Published: Levitt 1971 (from memory), one up two down converges where 70.7 % are right.</summary>
    [Fact]
    public void The_staircase_settles_at_the_level_where_seven_in_ten_are_right()
    {
        var random = new SeededRandom(3);
        double right = 0,
            all = 0;
        for (var run = 0; run < 60; run++)
        {
            var stairs = new Staircase(0.5);
            for (var n = 0; n < 400; n++)
            {
                // An eye with a scatter of 8 degrees against the allowed error at this difficulty.
                var correct = Math.Abs(random.Normal(8)) <= ClockHand.Drill.Allowed(stairs.Difficulty);
                if (n >= 100)
                    (right, all) = (right + (correct ? 1 : 0), all + 1);
                stairs = stairs.After(correct);
            }
        }
        Assert.InRange(right / all, 0.68, 0.735);
    }

    [Fact]
    public void Bias_and_spread_are_told_apart()
    {
        DrillScore[] scores = [new("a", 5, "deg", true), new("b", 7, "deg", true), new("c", 6, "deg", true)];
        var r = ClockHand.Drill.Summarise(scores, 0.5);
        Assert.Equal((6.0, 1.0), (r.Bias!.Value, r.Spread!.Value));
        Assert.Equal(0.6, r.NextDifficulty, 6);
        Assert.Null(ClockHand.Drill.Summarise([scores[0]], 0.5).Spread);
    }

    [Fact]
    public void A_round_broken_off_goes_on_with_the_same_item()
    {
        var round = new DrillRoundState(ClockHand.Drill.Kind, 77, 0.3, false, [10, 20, 30]);
        var (done, next, _) = round.Replay();
        Assert.Equal(3, done.Count);
        Assert.Equal(next, (round with { }).Replay().Next);
        var finished = round with { Answers = [.. Enumerable.Repeat(45.0, Drill.RoundLength)] };
        Assert.True(finished.Finished);
        Assert.Null(finished.Replay().Next);
    }
}

public class SpanTests
{
    private static readonly Drill Spans = SpanAgainstSpan.Drill;

    [Fact]
    public void The_truth_is_the_ratio_of_the_two_spans_as_drawn()
    {
        foreach (var i in Spans.Items(4, 0.5, 60, false))
        {
            double Length(Marked m) => Math.Sqrt(Math.Pow(m.To.X - m.From.X, 2) + Math.Pow(m.To.Y - m.From.Y, 2));
            Assert.Equal(Length(i.Asked) / Length(i.Unit!), i.Truth.Value, 0.0001);
            Assert.InRange(i.Truth.Value, 0.33, 4.25);
            Assert.Contains("how many times", i.Ask);
        }
        Assert.Equal(Spans.Items(4, 0.5, 9, false), Spans.Items(4, 0.5, 9, false));
        Assert.All(Spans.Items(4, 0.5, 30, clothed: true), i => Assert.Contains("clothed", i.ViewId));
    }

    [Theory]
    [
        InlineData(0, 0.199, true),
        InlineData(0, 0.201, false),
        InlineData(1, 0.0399, true),
        InlineData(1, -0.0401, false),
        InlineData(0.5, -0.119, true)
    ]
    public void The_error_is_the_logarithm_of_answer_by_truth(double difficulty, double ln, bool correct)
    {
        var item = Spans.Items(4, 0.5, 1, false)[0] with { Truth = new(2, "ratio") };
        var score = Spans.Score(item, 2 * Math.Exp(ln), difficulty);
        Assert.Equal((Math.Round(ln, 4), correct), (score.Error, score.Correct));
    }

    [Fact]
    public void A_round_of_spans_runs_on_the_same_state_as_one_of_edges()
    {
        var round = new DrillRoundState(Spans.Kind, 3, 0.4, false, []);
        while (round.Replay().Next is { } item)
            round = round with { Answers = [.. round.Answers, item.Truth.Value * 1.1] };
        var (done, _, difficulty) = round.Replay();
        Assert.Equal(Drill.RoundLength, done.Count);
        Assert.Equal(Math.Log(1.1), Spans.Bias([.. done.Select(d => d.Score)])!.Value, 3);
        Assert.True(difficulty > 0.4, "a tenth off is inside at 0.4 and makes it harder");
        Assert.Contains("10 % too many", Spans.SayError(Math.Log(1.1)));
    }

    [Fact]
    public void Half_and_double_are_off_alike_and_no_number_is_refused()
    {
        var item = Spans.Items(4, 0.5, 1, false)[0];
        Assert.Equal(-Spans.Score(item, item.Truth.Value / 2, 0).Error, Spans.Score(item, item.Truth.Value * 2, 0).Error, 3);
        foreach (var bad in new[] { 0, -1, double.NaN, 21 })
            Assert.Throws<InputException>(() => Spans.Score(item, bad, 0));
        Assert.Throws<InputException>(() => Drills.Get("juggling"));
    }

    [Fact]
    public void The_picture_shows_the_unit_and_after_the_answer_the_count()
    {
        var item = Spans.Items(4, 0.5, 1, false)[0];
        Assert.Contains("drill-unit", DrillPicture.Svg(item));
        Assert.DoesNotContain("drill-said", DrillPicture.Svg(item));
        Assert.Contains("drill-said", DrillPicture.Svg(item, 1.5));
    }

    /// <summary>A round keeps its items: another answer to the same question, were the views drawn anew, would rewrite an old record.</summary>
    [Fact]
    public void A_round_keeps_the_items_that_it_asked()
    {
        var round = new DrillRoundState("clock-hand", 5, 0.5, false, []).Kept();
        var first = Assert.Single(round.Items);
        round = round.Answered(first.Truth.Value).Answered(10);
        Assert.Equal(3, round.Items.Count);
        var kept = round with { Items = [.. round.Items.Select(i => i with { Truth = i.Truth with { Value = 77 } })] };
        Assert.All(kept.Replay().Done, d => Assert.Equal(77, d.Item.Truth.Value));
        Assert.Equal(77, kept.Replay().Next!.Truth.Value);
        // A round from before items were kept makes the same ones again.
        var old = round with { Items = [] };
        Assert.Equal(round.Items.Select(i => (i.ViewId, i.Ask, i.Truth)), old.Kept().Items.Select(i => (i.ViewId, i.Ask, i.Truth)));
        while (!round.Finished)
            round = round.Answered(20);
        Assert.Equal(Drill.RoundLength, round.Items.Count);
    }

    [Theory]
    [InlineData(-1, false), InlineData(0, true), InlineData(360, true), InlineData(361, false)]
    public void An_answer_outside_what_the_drill_says_it_takes_is_refused(double degrees, bool taken)
    {
        var e = Record.Exception(() => Drills.Get("clock-hand").Check(degrees));
        Assert.Equal(taken, e is null);
        if (!taken)
            Assert.Equal("degrees, 0 to 360", Assert.IsType<InputException>(e).Accepted);
    }
}
