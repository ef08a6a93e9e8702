using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using Xunit;

namespace MintHarbor.Core.Tests.Technique;

public sealed class MarkedEdgesTests
{
    private static MarkedEdge Edge(double x1, double y1, double x2, double y2) => new(new(x1, y1), new(x2, y2));

    [Theory]
    // Up the sheet is 12, to the right 3; leaning right 1.
    [InlineData(0, 100, 0, 0, "12")]
    [InlineData(0, 0, 100, 0, "3")]
    [InlineData(0, 100, 57.735, 0, "1")]
    [InlineData(0, 0, 57.735, 100, "11")]
    public void An_edge_says_its_hour(double x1, double y1, double x2, double y2, string hour) =>
        Assert.StartsWith($"Rim: {hour} o’clock", MarkedEdges.Words("Rim", Edge(x1, y1, x2, y2)));

    [Fact]
    public void Against_another_it_says_how_long_and_turned_which_way()
    {
        // Upright against leaning to the right, which is clockwise.
        var says = MarkedEdges.Words("A", Edge(0, 100, 20, 0), "B", Edge(50, 200, 50, 0));
        Assert.Contains("0.51 of B", says);
        Assert.Contains("11.3° clockwise of it", says);
        Assert.Contains("anticlockwise", MarkedEdges.Words("A", Edge(20, 100, 0, 0), "B", Edge(50, 200, 50, 0)));
        Assert.Contains("runs as that one does", MarkedEdges.Words("A", Edge(0, 100, 0.5, 0), "B", Edge(50, 200, 50, 0)));
        Assert.Contains("3.94 in", MarkedEdges.Words("A", Edge(0, 100, 0, 0), inch: true));
    }

    [Fact]
    public void Convergence_away_is_right_and_towards_is_reversed()
    {
        MarkedEdge left = Edge(0, 200, 30, 100),
            right = Edge(100, 200, 75, 100);
        Assert.Equal(Convergence.Away, MarkedEdges.Converge(left, right));
        // The same lines marked from the far end: they part.
        Assert.Equal(Convergence.Reversed, MarkedEdges.Converge(new(left.Far, left.Near), new(right.Far, right.Near)));
        Assert.Equal(Convergence.CantTell, MarkedEdges.Converge(Edge(0, 200, 0, 100), Edge(50, 200, 50.2, 100)));
        // One is drawn longer and begins earlier: they are held against one another where both are.
        Assert.Equal(Convergence.Away, MarkedEdges.Converge(Edge(-15, 250, 30, 100), right));
        Assert.Contains("reversed", MarkedEdges.Words("A", "B", Convergence.Reversed));
        Assert.DoesNotContain("reversed", MarkedEdges.Words("A", "B", Convergence.Away));
    }

    /// <summary>An ellipse by formula: area π·a·b, axes as drawn, turned as drawn.</summary>
    [Theory]
    [InlineData(40, 20, 30), InlineData(60, 15, 100), InlineData(25, 12, 170)]
    public void An_ellipse_is_told_by_its_moments(double a, double b, double degrees)
    {
        // Degrees from upright, clockwise: its long axis points there.
        var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
        Vec2 along = new(sin, -cos),
            across = new(cos, sin);
        Vec2 At(int k) =>
            Math.SinCos(k * Math.PI / 90) is var (s, c) ? new Vec2(100, 80) + (along * (a * c)) + (across * (b * s)) : default;
        List<Vec2> ring = [.. Enumerable.Range(0, 180).Select(At)];
        foreach (var outline in new[] { ring, Enumerable.Reverse(ring).ToList() })
        {
            var m = ShapeMeasures.Of(outline);
            Assert.InRange(m.Area, Math.PI * a * b * 0.998, Math.PI * a * b * 1.002);
            Assert.Equal((100, 80), (Math.Round(m.Middle.X, 3), Math.Round(m.Middle.Y, 3)));
            Assert.InRange(m.Long, 2 * a * 0.998, 2 * a * 1.002);
            Assert.InRange(m.Across, 2 * b * 0.998, 2 * b * 1.002);
            Assert.InRange(m.Degrees, degrees - 0.2, degrees + 0.2);
        }
    }

    [Fact]
    public void A_negative_shape_is_larger_or_smaller_than_the_references_and_turned()
    {
        ShapeMeasures Box(double w, double h, double turn)
        {
            var (sin, cos) = Math.SinCos(turn * Math.PI / 180);
            Vec2 At(double x, double y) => new((x * cos) - (y * sin), (x * sin) + (y * cos));
            return ShapeMeasures.Of([At(-w / 2, -h / 2), At(w / 2, -h / 2), At(w / 2, h / 2), At(-w / 2, h / 2)]);
        }
        // The sheet's y runs down: a positive turn is clockwise as seen.
        Assert.Equal(
            "Gap is 50 % larger than the seen, turned 10° clockwise of it.",
            Box(15, 60, 10).Against("Gap", "the seen", Box(10, 60, 0))
        );
        Assert.Equal("Gap is as large as the seen, and runs as it does.", Box(10, 60, 1).Against("Gap", "the seen", Box(10, 60, 0)));
        Assert.Equal("Gap is 50 % smaller than the seen.", Box(10, 10, 0).Against("Gap", "the seen", Box(10, 20, 0)));
        Assert.Throws<InputException>(() => ShapeMeasures.Of([new(0, 0), new(1, 1), new(2, 2)]));
    }
}
