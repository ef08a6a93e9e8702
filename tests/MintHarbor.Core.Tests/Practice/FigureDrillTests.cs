using MintHarbor.Core.Figure;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Practice;
using Xunit;

namespace MintHarbor.Core.Tests.Practice;

/// <summary>The drills of the figure: their truths against the landmarks and the geometry they come from.</summary>
public sealed class FigureDrillTests
{
    public static TheoryData<string> Kinds => [.. Drills.All.Where(d => d is not (HandDrill or AnatomyDrill)).Select(d => d.Kind)];

    [Theory]
    [MemberData(nameof(Kinds))]
    public void A_drill_has_enough_items_and_knows_its_own_truths(string kind)
    {
        var drill = Drills.Get(kind);
        foreach (var clothed in new[] { false, true })
        {
            foreach (var difficulty in new[] { 0.0, 0.5, 1 })
            {
                var items = drill.Items(11, difficulty, 12, clothed, DrillViews.WithThings);
                Assert.True(
                    items.Select(i => i.ViewId + i.Ask).Distinct().Count() >= 6,
                    $"{kind} at {difficulty}: only {items.Select(i => i.ViewId + i.Ask).Distinct().Count()} of 12 differ"
                );
                Assert.All(items, i =>
                {
                    Assert.Equal(clothed && StudioViews.Get(i.ViewId).IsFigure, StudioViews.Get(i.ViewId).Clothed);
                    var exact = drill.Score(i, i.Truth.Value, difficulty);
                    Assert.True(exact.Correct && Math.Abs(exact.Error) < 1e-3);
                    if (drill.Unit != "deg")
                        Assert.InRange(i.Truth.Value, drill.Range.Least - 0.06, drill.Range.Most);
                    Assert.NotEmpty(drill.SayValue(i.Truth.Value));
                    Assert.Contains("<svg", DrillPicture.Svg(i, i.Truth.Value * 0.9));
                });
            }
        }
        Assert.True(drill.Allowed(1) < drill.Allowed(0) / 2);
    }

    [Fact]
    public void Heads_are_counted_from_crown_to_chin()
    {
        foreach (var i in Drills.Get("head-count").Items(3, 0.4, 20, false))
            Assert.Equal(i.Asked.Length / i.Unit!.Length, i.Truth.Value, 1e-3);
    }

    [Fact]
    public void A_plumb_changes_side_in_the_mirror()
    {
        var drill = Drills.Get("plumb");
        foreach (var i in drill.Items(5, 0.5, 40, false))
        {
            Assert.Equal((i.Asked.To.X - i.Asked.From.X) / i.Unit!.Length, i.Truth.Value, 2e-3);
            var width = StudioViews.Get(i.ViewId).Width;
            Assert.Equal(-i.Truth.Value, (i.Asked.Mirrored(width).To.X - i.Asked.Mirrored(width).From.X) / i.Unit.Length, 2e-3);
        }
        var item = drill.Items(5, 0.5, 1, false)[0];
        Assert.True(drill.Score(item, item.Truth.Value + 0.1, 0).Error > 0);
        Assert.Throws<InputException>(() => drill.Check(9));
    }

    /// <summary>Seen over true length of a lying leg from the side is near 1, from the feet near its cosine (geometry of the pose).</summary>
    [Fact]
    public void What_is_seen_of_a_limb_follows_the_side()
    {
        double Thigh(double azimuth) => StudioFigure.LimbsFrom("male", "seated", azimuth).First(l => l.Id == "thigh.L").Ratio;
        Assert.True(Thigh(90) > 0.9);
        Assert.True(Thigh(0) < 0.6);
    }
}
