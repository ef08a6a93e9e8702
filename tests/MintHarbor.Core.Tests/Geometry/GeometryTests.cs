using CsCheck;
using MintHarbor.Core.Geometry;
using Xunit;
using Cv = OpenCvSharp;

namespace MintHarbor.Core.Tests.Geometry;

public class GeometryTests
{
    private static readonly Vec2[] Skew = [new(312.4, 201.7), new(2710.2, 260.9), new(2893.1, 3811.5), new(188.8, 3702.3)];

    /// <summary>Reference library: OpenCV's getPerspectiveTransform on the same corners.</summary>
    [Fact]
    public void Four_point_perspective_agrees_with_OpenCV()
    {
        var random = new SeededRandom(11);
        for (var n = 0; n < 200; n++)
        {
            var from = Skew.Select(p => p + new Vec2(random.Between(-150, 150), random.Between(-150, 150))).ToArray();
            Vec2[] to = [new(0, 0), new(1829, 0), new(1829, 2438), new(0, 2438)];
            var ours = Homography.FromFourPoints(from, to);
            using var theirs = Cv.Cv2.GetPerspectiveTransform(from.Select(P), to.Select(P));
            for (var k = 0; k < 20; k++)
            {
                var p = new Vec2(random.Between(200, 2800), random.Between(200, 3700));
                var q = Cv.Cv2.PerspectiveTransform([new Cv.Point2d(p.X, p.Y)], theirs)[0];
                Assert.True((ours.Map(p) - new Vec2(q.X, q.Y)).Length < 0.1, $"{ours.Map(p)} against {q}");
            }
            for (var i = 0; i < 4; i++)
                Assert.True((ours.Map(from[i]) - to[i]).Length < 1e-6);
        }

        static Cv.Point2f P(Vec2 v) => new((float)v.X, (float)v.Y);
    }

    [Fact]
    public void Three_corners_on_a_line_are_refused() =>
        Assert.Throws<ArgumentException>(() => Homography.FromFourPoints([new(0, 0), new(1, 0), new(2, 0), new(0, 1)], Skew));

    [Fact]
    public void A_similarity_is_found_again_and_a_reflection_is_not_taken()
    {
        Gen.Select(Gen.Double[0.2, 5], Gen.Double[-170, 170], Gen.Double[-500, 500], Gen.Double[-500, 500])
            .Sample(
                (s, turn, x, y) =>
                {
                    var known = new Similarity(s, turn, new(x, y), 0);
                    var found = Similarity.Fit([.. Skew.Select(p => (p, known.Map(p)))])!;
                    return Math.Abs(found.Scale - s) < 1e-6 && Math.Abs(found.TurnDegrees - turn) < 1e-6 && found.Residual < 1e-6;
                }
            );
        var mirrored = Similarity.Fit([.. Skew.Select(p => (p, new Vec2(-p.X, p.Y)))])!;
        Assert.True(mirrored.Residual > 100);
    }

    [Fact]
    public void An_edge_has_no_arrowhead()
    {
        Assert.Equal(45, ClockAngle.OfEdge(new(0, 0), new(1, -1)), 9);
        Assert.Equal(45, ClockAngle.OfEdge(new(1, -1), new(0, 0)), 9);
        Assert.Equal(ClockAngle.FromHours(4), ClockAngle.FromHours(10), 9);
        Assert.Equal(90, ClockAngle.Wrap(90));
        Assert.Equal(-89, ClockAngle.Wrap(91), 9);
        Assert.Equal(4, ClockAngle.Wrap(2 - 178), 9);
        Assert.Equal("1½ or 7½", ClockAngle.SayBoth(45));
        Assert.Equal("10½ or 4½", ClockAngle.SayBoth(135));
    }
}
