using MintHarbor.Core.Geometry;
using Xunit;

namespace MintHarbor.Core.Tests.Geometry;

public sealed class LaidOverTests
{
    private static IReadOnlyList<Vec2> Shape(SeededRandom random) =>
        [.. Enumerable.Range(0, 40).Select(i => Vec2.Towards(9 * i) * (50 + (12 * Math.Sin(i * 0.47)) + random.Between(-3, 3)))];

    /// <summary>The truth is the scale and shift that were put in.</summary>
    [Fact]
    public void What_was_put_in_is_found_again()
    {
        var random = new SeededRandom(12);
        for (var n = 0; n < 30; n++)
        {
            var shape = Shape(random);
            var (k, shift) = (random.Between(0.4, 2.2), new Vec2(random.Between(-90, 90), random.Between(-90, 90)));
            var over = LaidOver.Of(
                [shape],
                [
                    [.. shape.Select(p => (p * k) + shift)],
                ],
                scaled: true
            );
            Assert.Equal(k, over.Scale, 0.01 * k);
            Assert.True((over.Shift - shift).Length < 1.2 * k, $"{over.Shift} for {shift}");
            Assert.InRange(over.Mean, 0, 0.6);
        }
    }

    [Fact]
    public void A_size_that_was_to_be_kept_is_and_a_turn_is_never_forgiven()
    {
        var shape = Shape(new(4));
        var large = LaidOver.Of(
            [shape],
            [
                [.. shape.Select(p => p * 1.3)],
            ],
            scaled: false
        );
        Assert.Equal(1, large.Scale);
        Assert.InRange(large.Mean, 8, 20);
        List<Vec2> bar = [new(0, 0), new(100, 0)];
        var turned = LaidOver.Of(
            [bar],
            [
                [.. bar.Select(p => new Vec2(p.X * 0.5, p.X * 0.866))],
            ],
            scaled: true
        );
        Assert.True(turned.Mean > 15, $"{turned.Mean}");
    }

    /// <summary>A part that is left out is missed by the true line and not by the drawn one.</summary>
    [Fact]
    public void Missing_and_straying_are_told_apart()
    {
        List<Vec2> whole = [new(0, 0), new(100, 0), new(100, 100), new(0, 100)];
        var half = LaidOver.Of(
            [whole],
            [
                [.. whole.Take(3)],
            ],
            scaled: false
        );
        Assert.True(half.Missed.Average() > 2 * half.Strayed.Average());
        Assert.Throws<ArgumentException>(() => LaidOver.Of([whole], [], true));
        Assert.Equal(200, PathDistance.Spread([whole, [new(0, 0), new(0, 300)]], 200).Count, 3.0);
    }
}
