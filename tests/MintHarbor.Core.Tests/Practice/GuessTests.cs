using MintHarbor.Core.Geometry;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Practice;
using Xunit;

namespace MintHarbor.Core.Tests.Practice;

/// <summary>No answer that is always the same does well: whoever passes has looked.</summary>
public sealed class GuessTests
{
    /// <summary>The share that the best constant answer may have right.</summary>
    private const double Most = 0.35;

    private static readonly double[] Difficulties = [0, 0.25, 0.5, 0.75, 1];

    public static TheoryData<string, bool> Kinds
    {
        get
        {
            var data = new TheoryData<string, bool>();
            foreach (var drill in Drills.All.Where(d => d.Signed && d is not HandDrill))
            {
                data.Add(drill.Kind, false);
                data.Add(drill.Kind, true);
            }
            return data;
        }
    }

    private static List<DrillItem> Asked(Drill drill, double difficulty, bool clothed) =>
        [.. Enumerable.Range(0, 300).Select(seed => drill.Items(seed, difficulty, 1, clothed, DrillViews.WithThings)[0])];

    [Theory]
    [MemberData(nameof(Kinds))]
    public void The_best_constant_is_right_on_a_third_at_most(string kind, bool clothed)
    {
        var drill = Drills.Get(kind);
        foreach (var difficulty in Difficulties)
        {
            var items = Asked(drill, difficulty, clothed);
            // Right answers of a constant change only where it leaves some truth's width: those edges are all that need trying.
            var width = drill.Allowed(difficulty) * 0.999;
            var best = items
                .SelectMany(i =>
                    drill.Unit == "ratio"
                        ? new[] { i.Truth.Value, i.Truth.Value * Math.Exp(width) }
                        : [i.Truth.Value, i.Truth.Value + width]
                )
                .Select(c => drill.Unit == "deg" ? ClockAngle.Fold(c) : Math.Clamp(c, drill.Range.Least, drill.Range.Most))
                .Max(c => items.Count(i => drill.Score(i, c, difficulty).Correct));
            Assert.True(best <= Most * items.Count, $"{kind} at {difficulty}: one answer is right {best} times of {items.Count}");
            Assert.True(items.DistinctBy(i => (i.Truth.Value, i.ViewId)).Count() >= 20, $"{kind} at {difficulty}: too few different ones");
        }
    }

    [Theory]
    [InlineData("line-of-action"), InlineData("core-first")]
    public void No_one_drawing_serves_for_all_of_them(string kind)
    {
        var drill = (DrawnDrill)Drills.Get(kind);
        foreach (var difficulty in Difficulties)
        {
            var items = Asked(drill, difficulty, false).Take(60).ToList();
            var best = items
                .DistinctBy(i => i.ViewId)
                .Max(of => items.Count(i => drill.Apart(i, drill.Curves(of)) <= drill.Allowed(difficulty)));
            Assert.True(best <= Most * items.Count, $"{kind} at {difficulty}: one drawing is right {best} times of {items.Count}");
        }
    }

    /// <summary>What is known of a limb's length is no answer, nor any help: it is asked against something else that is seen.</summary>
    [Fact]
    public void A_foreshortened_limb_is_asked_against_something_seen_there()
    {
        var drill = Drills.Get("foreshortened");
        foreach (var item in drill.Items(3, 0.5, 60, false))
        {
            Assert.Equal(item.Asked.Length / item.Unit!.Length, item.Truth.Value, 1e-3);
            Assert.Contains("as you see it: how many times the ", item.Ask);
            Assert.DoesNotContain("its length", item.Ask);
        }
        Assert.Contains("too long", drill.SayError(0.2));
        Assert.Contains("too short", drill.SayError(-0.2));
    }

    [Theory]
    [
        InlineData("far-share", 0.6),
        InlineData("foreshortened", 9),
        InlineData("plumb", -3),
        InlineData("value-steps", 7),
        InlineData("head-count", 0.1)
    ]
    public void An_answer_beyond_what_is_asked_for_is_refused_as_such(string kind, double answer)
    {
        var drill = Drills.Get(kind);
        var e = Assert.Throws<InputException>(() => drill.Check(answer));
        Assert.Contains(Say.Number(drill.Range.Least, 2), e.Accepted);
        Assert.Contains(Say.Number(drill.Range.Most, 2), e.Accepted);
        drill.Check(drill.Range.Least);
        drill.Check(drill.Range.Most);
    }
}
