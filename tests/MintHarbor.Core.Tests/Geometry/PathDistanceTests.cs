using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;
using Xunit;

namespace MintHarbor.Core.Tests.Geometry;

public sealed class PathDistanceTests
{
    private static readonly Vec2[] A =
    [
        new(6.12, -7.67),
        new(7.38, -9.37),
        new(6.02, -10.02),
        new(-0.04, -10.71),
        new(-2.64, -0.74),
        new(-1.96, -1.8),
        new(-2.8, -3.81),
        new(-5.97, -4.98),
        new(-4.52, -5.69),
    ];
    private static readonly Vec2[] B =
    [
        new(3.87, 0.4),
        new(3.95, 5.04),
        new(5.58, 3.52),
        new(5.03, 5.14),
        new(10.84, 4.34),
        new(10.11, 7.34),
        new(7.45, 6.47),
        new(10.1, 8.21),
        new(10.37, 10.22),
        new(1.89, 13.28),
        new(-0.99, 8.28),
        new(-0.16, 10.38),
    ];

    /// <summary>Recorded from SciPy 1.10.1, scipy.spatial.distance.directed_hausdorff on these places (reference library).</summary>
    [Fact]
    public void Hausdorff_is_scipys()
    {
        Assert.Equal(11.777953981910441, PathDistance.Directed(A, B), 12);
        Assert.Equal(17.011222766162344, PathDistance.Directed(B, A), 12);
    }

    /// <summary>The recursion of the definition, tried without a table.</summary>
    [Fact]
    public void Frechet_is_its_definition()
    {
        double Walk(int i, int j)
        {
            var d = (A[i] - B[j]).Length;
            if (i == 0 && j == 0)
                return d;
            var before = Math.Min(
                i > 0 ? Walk(i - 1, j) : double.MaxValue,
                Math.Min(j > 0 ? Walk(i, j - 1) : double.MaxValue, i > 0 && j > 0 ? Walk(i - 1, j - 1) : double.MaxValue)
            );
            return Math.Max(before, d);
        }
        var frechet = PathDistance.Frechet(A, B);
        Assert.Equal(Walk(A.Length - 1, B.Length - 1), frechet, 12);
        Assert.True(frechet >= Math.Max(PathDistance.Directed(A, B), PathDistance.Directed(B, A)));
        Assert.Equal(frechet, PathDistance.Frechet(B, A), 12);
        Assert.Equal(0, PathDistance.Frechet(A, A));
    }

    /// <summary>Reference library: NetTopologySuite's discrete Fréchet distance and its overlay of polygons, on 200 random shapes.</summary>
    [Fact]
    public void Frechet_and_overlap_are_those_of_a_reference_library()
    {
        var random = new SeededRandom(41);
        NetTopologySuite.Geometries.Coordinate[] Of(IEnumerable<Vec2> line) =>
            [.. line.Select(p => new NetTopologySuite.Geometries.Coordinate(p.X, p.Y))];
        var factory = new NetTopologySuite.Geometries.GeometryFactory();
        for (var n = 0; n < 200; n++)
        {
            // Star shaped about a middle, so that no side crosses another.
            List<Vec2> Star() =>
                new Vec2(random.Between(-20, 20), random.Between(-20, 20)) is var m
                    ?
                    [
                        .. Enumerable
                            .Range(0, 11)
                            .Select(i => m + (Vec2.Towards((360 * i / 11.0) + random.Between(-9, 9)) * random.Between(20, 60))),
                    ]
                    : [];
            var (a, b) = (Star(), Star());
            Assert.Equal(
                NetTopologySuite.Algorithm.Distance.DiscreteFrechetDistance.Distance(
                    factory.CreateLineString(Of(a)),
                    factory.CreateLineString(Of(b))
                ),
                PathDistance.Frechet(a, b),
                9
            );
            var (p, q) = (factory.CreatePolygon(Of(a.Append(a[0]))), factory.CreatePolygon(Of(b.Append(b[0]))));
            Assert.Equal(p.Area, Polygons.Area(a), 9);
            Assert.Equal(p.Intersection(q).Area / p.Union(q).Area, Polygons.Overlap(a, b), 0.004);
        }
    }

    [Fact]
    public void Even_steps_keep_the_ends_and_the_length()
    {
        var even = PathDistance.Even(A, 60);
        Assert.Equal(60, even.Count);
        Assert.Equal((A[0], A[^1]), (even[0], even[^1]));
        double Length(IReadOnlyList<Vec2> l) => Enumerable.Range(1, l.Count - 1).Sum(i => (l[i] - l[i - 1]).Length);
        Assert.Equal(Length(A), Length(even), Length(A) * 0.05);
        Assert.Equal(5, PathDistance.Even([new(1, 2), new(1, 2)], 5).Count);
        Assert.Throws<ArgumentException>(() => PathDistance.Frechet(A, []));
    }

    [Fact]
    public void A_line_of_action_is_scored_by_how_far_it_lies_off()
    {
        var drill = (LineOfAction)Drills.Get("line-of-action");
        foreach (var item in drill.Items(21, 0.5, 12, false))
        {
            var truth = drill.Curves(item)[0];
            var head = item.Unit!.Length;
            Assert.Equal(0, drill.Apart(item, [truth]));
            Assert.Equal(
                0,
                drill.Apart(
                    item,
                    [
                        [.. truth.Reverse()],
                    ]
                )
            );
            Assert.Equal(
                0.5,
                drill.Apart(
                    item,
                    [
                        [.. truth.Select(p => p + new Vec2(head / 2, 0))],
                    ]
                ),
                0.02
            );
            // Its ends are the crown and the ankle that bears more.
            Assert.Equal(item.Asked.From, truth[0]);
            Assert.Equal(item.Asked.To, truth[^1]);
        }
        Assert.Throws<InputException>(() => DrawnDrill.Read(""));
        Assert.Throws<InputException>(() => DrawnDrill.Read("1,2 3"));
        Assert.Throws<InputException>(() => DrawnDrill.Read("1,2 NaN,4"));
        Assert.Equal([new(1, 2.5), new Vec2(3, 4)], DrawnDrill.Read("1,2.5 3,4")[0]);
        Assert.Equal(2, DrawnDrill.Read("1,2 3,4; 5,6 7,8").Count);
        Assert.Throws<InputException>(() => DrawnDrill.Read("1,2 3,4;"));
    }
}
