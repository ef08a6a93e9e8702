using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Practice;
using Xunit;

namespace MintHarbor.Core.Tests.Heads;

/// <summary>The drills made of the shipped views of heads.</summary>
public sealed class HeadViewsTests
{
    [Fact]
    public void Far_share_asks_what_projection_answers()
    {
        var drill = Drills.Get("far-share");
        var reliefs = new HashSet<string>();
        foreach (var item in drill.Items(31, 0.5, 60, true))
        {
            var view = StudioViews.Get(item.ViewId);
            Assert.True(view.IsHead);
            var (side, middle) =
                item.Ask.Contains("eye", StringComparison.Ordinal) ? ("eye-outer", "nose-root")
                : item.Ask.Contains("Wing", StringComparison.Ordinal) ? ("wing", "nosetip")
                : ("mouth-corner", "lip-slit");
            reliefs.Add(side);
            // Far is where the face looks to; read off the model and not off the picture.
            var m = Studio.Value.Model(view.Body);
            var k = (m.Landmark(middle).Place.Z - m.Landmark(side + ".L").Place.Z) / m.Landmark(side + ".L").Place.X;
            Assert.True(Math.Abs(Measuring.HeadTurn.FarShare(k, view.Azimuth) - item.Truth.Value) < 0.001, $"{item}: {k}");
            Assert.Equal(item.Truth.Value, item.Asked.Length / item.Unit!.Length, 1e-3);
        }
        Assert.Equal(3, reliefs.Count);
        Assert.True(drill.Score(drill.Items(31, 0, 1, false)[0], drill.Items(31, 0, 1, false)[0].Truth.Value * 1.1, 0).Correct);
        Assert.Throws<InputException>(() => drill.Check(0.7));
    }

    private static readonly Lazy<StudioHead> Studio = new(() => new(StudioHead.Coarse));

    [Fact]
    public void No_figure_drill_shows_a_head_and_the_far_share_nothing_else()
    {
        foreach (var d in Drills.All.Where(d => d is not (Core.Hands.HandDrill or Core.Practice.AnatomyDrill)))
            Assert.All(d.Items(5, 0.5, 40, false), i => Assert.Equal(d.Kind == "far-share", StudioViews.Get(i.ViewId).IsHead));
    }

    [Fact]
    public void Core_first_is_scored_by_overlap_and_axis()
    {
        var drill = (CoreFirst)Drills.Get("core-first");
        foreach (var item in drill.Items(8, 0.5, 20, false))
        {
            var truth = drill.Curves(item);
            var head = item.Unit!.Length;
            Assert.Equal(3, truth.Count);
            Assert.Equal(0, drill.Apart(item, truth), 0.001);
            // The forms lie where the landmarks say: ribcage between pit and hip crests, pelvis about the pubic bone.
            var view = StudioViews.Get(item.ViewId);
            Vec2 At(string id) => item.Mirrored ? new(view.Width - view.At(id)!.Value.X, view.At(id)!.Value.Y) : view.At(id)!.Value;
            Vec2 Middle(IReadOnlyList<Vec2> ring) => new(ring.Average(p => p.X), ring.Average(p => p.Y));
            Assert.True((Middle(truth[0]) - Vec2.Mid(At("sternumend"), At("c7"))).Length < head * 0.8, item.ViewId);
            Assert.True(
                (Middle(truth[1]) - Vec2.Mid(At("pubic"), Vec2.Mid(At("iliac.L"), At("iliac.R")))).Length < head * 0.8,
                item.ViewId
            );
            // The centre line off by a third of a head; the forms as they are.
            Assert.Equal(0.333, drill.Apart(item, [truth[0], truth[1], [.. truth[2].Select(p => p + new Vec2(head / 3, 0))]]), 0.02);
            // A ring with twice the breadth about its own middle overlaps by half.
            IReadOnlyList<Vec2> twice = [.. truth[0].Select(p => new Vec2((2 * p.X) - Middle(truth[0]).X, p.Y))];
            Assert.Equal(0.25, drill.Apart(item, [twice, truth[1], truth[2]]), 0.03);
        }
        Assert.Throws<InputException>(() =>
            drill.Apart(
                drill.Items(8, 0.5, 1, false)[0],
                [
                    [new(0, 0), new(1, 1)],
                ]
            )
        );
    }

    /// <summary>Areas that need no program: squares shifted by half, one in another, apart; a ring drawn either way round.</summary>
    [Fact]
    public void Overlap_is_that_of_areas()
    {
        static IReadOnlyList<Vec2> Square(double x, double y, double side) =>
            [new(x, y), new(x + side, y), new(x + side, y + side), new(x, y + side)];
        Assert.Equal(1 / 3.0, Polygons.Overlap(Square(0, 0, 10), Square(5, 0, 10)), 1e-6);
        Assert.Equal(1 / 4.0, Polygons.Overlap(Square(0, 0, 10), Square(2, 2, 5)), 0.003);
        Assert.Equal(0, Polygons.Overlap(Square(0, 0, 10), Square(20, 0, 10)));
        Assert.Equal(1, Polygons.Overlap(Square(0, 0, 10), [.. Square(0, 0, 10).Reverse()]), 1e-9);
        Assert.Equal(0, Polygons.Overlap(Square(0, 0, 10), [new(0, 0), new(1, 1)]));
    }
}
