using System.Numerics;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Fitting;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sheets;
using Xunit;

namespace MintHarbor.Core.Tests.Fitting;

/// <summary>The fit's parts, each against something worked out another way.</summary>
public sealed class FitPartsTests
{
    private static readonly FitReference Standing = FitReferences.Of(
        new StudioFigure().Model("male", FigureCatalogue.Pose("stand"), Drapery.For(false, false), StudioFigure.Thumb),
        new(20)
    );

    private static InkRidges Lines(params (Vector2 From, Vector2 To)[] lines)
    {
        var points = new List<InkPoint>();
        foreach (var (from, to) in lines)
        {
            var angle = MathF.Atan2(to.Y - from.Y, to.X - from.X);
            for (float t = 0; t <= 1; t += 0.5f / Vector2.Distance(from, to))
                points.Add(new(Vector2.Lerp(from, to, t), angle < 0 ? angle + MathF.PI : angle % MathF.PI, 1));
        }
        return new(200, 200, points);
    }

    /// <summary>Every derivative against the difference of two places.</summary>
    [Fact]
    public void Slopes_are_those_of_the_chain()
    {
        var laid = new LaidReference(Standing, new(200, 50), new(210, 500));
        var chain = laid.Chain();
        var random = new SeededRandom(4);
        var values = chain.Values.Select((_, i) => (float)random.Normal(i % PartChain.Each < 3 ? 0.08 : 2)).ToArray();
        chain.Set(values);
        var slopes = new Slopes(values.Length);
        foreach (var mark in laid.Marks.Where((_, i) => i % 7 == 0))
        {
            chain.Slopes(mark.Shares, mark.At, slopes);
            for (var i = 0; i < values.Length; i++)
            {
                const float h = 1e-2f;
                Vector2 At(float by)
                {
                    var moved = (float[])values.Clone();
                    moved[i] += by;
                    var other = laid.Chain();
                    other.Set(moved);
                    return other.At(mark.Shares, mark.At);
                }
                var difference = (At(h) - At(-h)) / (2 * h);
                Assert.True(
                    Vector2.Distance(difference, slopes.Of[i]) < 0.05f + (0.01f * difference.Length()),
                    $"{mark.Id} by {i}: {slopes.Of[i]}, by difference {difference}"
                );
            }
        }
    }

    [Fact]
    public void Maps_hold_the_distance_of_the_nearest_ink()
    {
        var ridges = Lines((new(20, 30), new(150, 40)), (new(60, 160), new(60, 90)));
        var maps = new InkMaps(ridges);
        var random = new SeededRandom(2);
        for (var n = 0; n < 400; n++)
        {
            int x = random.Next(200),
                y = random.Next(200),
                channel = random.Next(InkMaps.Directions);
            var middle = (channel + 0.5f) * MathF.PI / InkMaps.Directions;
            // Every place of the sheet asked one by one, as the maps are said to count.
            var least = float.MaxValue;
            foreach (var p in ridges.Points)
            {
                var off = MathF.Abs(p.Angle - middle);
                off = MathF.Min(off, MathF.PI - off);
                if (off > 0.62f)
                    continue;
                var steps = off / (MathF.PI / InkMaps.Directions);
                float dx = x - (int)p.At.X,
                    dy = y - (int)p.At.Y;
                least = MathF.Min(least, (dx * dx) + (dy * dy) + (3 * steps * steps));
            }
            if (least < 1e5f)
                Assert.Equal(least, maps.Squared[channel][(y * maps.Width) + x], 1f);
            else
                Assert.True(maps.Squared[channel][(y * maps.Width) + x] > 1e5f);
        }
    }

    [Fact]
    public void A_line_is_a_ridge_at_its_middle_and_a_smudge_is_none()
    {
        const int w = 400,
            h = 300;
        var grey = Enumerable.Repeat((byte)235, w * h).ToArray();
        for (var x = 40; x < 360; x++)
        for (var y = 99; y <= 101; y++)
            grey[(y * w) + x] = 70;
        // A soft dark cloud as wide as a hand.
        for (var y = 150; y < 290; y++)
        for (var x = 100; x < 300; x++)
        {
            var d = Math.Sqrt(Math.Pow((x - 200) / 70.0, 2) + Math.Pow((y - 220) / 45.0, 2));
            grey[(y * w) + x] = (byte)(235 - (60 * Math.Exp(-d * d)));
        }
        var ridges = InkRidges.Read(new(w, h, grey), 0.25);
        Assert.True(ridges.Points.Count > 120);
        Assert.All(ridges.Points, p => Assert.InRange(p.At.Y, 24.8f, 25.7f)); // the line's middle, row 100 of a quarter millimetre each
        // Round the ends the direction goes round with the line.
        Assert.All(ridges.Points.Where(p => p.At.X is > 12 and < 88), p => Assert.True(p.Angle is < 0.1f or > MathF.PI - 0.1f));
    }

    /// <summary>The search's answer costs less than any change of one part, or of two that hang together.</summary>
    [Fact]
    public void No_neighbour_of_the_best_state_is_better()
    {
        var laid = new LaidReference(Standing, new(90, 15), new(95, 190));
        var maps = new InkMaps(new(200, 200, [.. laid.Samples.Select(s => new InkPoint(s.At + new Vector2(3, 0), Angle(s.Along), 1))]));
        var search = new PartSearch(laid, maps, PartSearch.Truncated(maps), 0.01f);
        var best = search.States(new Dictionary<string, Vector2>());
        var least = search.Cost(best);
        var random = new SeededRandom(9);
        for (var n = 0; n < 3000; n++)
        {
            var other = (int[])best.Clone();
            for (var k = 0; k < 1 + (n % 2); k++)
            {
                var p = random.Next(other.Length);
                other[p] = Near(other[p], random);
            }
            Assert.True(search.Cost(other) >= least - 1e-3, "another state costs less");
        }
    }

    /// <summary>A state a step beside another, in place, turn and length.</summary>
    private static int Near(int state, SeededRandom random)
    {
        const int side = PartSearch.Side,
            places = PartSearch.Places;
        var (turn, length, place) = PartSearch.Parts(state);
        int Step(int v, int count) => Math.Clamp(v + random.Next(3) - 1, 0, count - 1);
        (turn, length) = (Step(turn, PartSearch.Turns), Step(length, PartSearch.Lengths));
        return (((turn * PartSearch.Lengths) + length) * places) + (Step(place / side, side) * side) + Step(place % side, side);
    }

    private static float Angle(Vector2 along)
    {
        var a = MathF.Atan2(along.Y, along.X);
        return a < 0 ? a + MathF.PI : a;
    }

    [Fact]
    public void Clips_at_the_rim_are_no_part_of_the_form()
    {
        var figure = Lines(
            (new(80, 60), new(120, 60)),
            (new(120, 60), new(120, 150)),
            (new(120, 150), new(80, 150)),
            (new(80, 150), new(80, 60))
        );
        var clip = Lines((new(95, 3), new(110, 3)), (new(95, 8), new(110, 8))).Points;
        var form = InkForm.Of(figure with { Points = [.. figure.Points, .. clip] });
        var (low, high) = form.Box!.Value;
        Assert.InRange(low.Y, 58, 62);
        Assert.InRange(high.Y, 149, 153);
        Assert.InRange(form.Area, 3300, 3900); // 40 × 90 and the line's own width
        Assert.True(form.Inside[(100 * form.Width) + 100]);
    }

    [Fact]
    public void A_robust_location_is_what_most_say()
    {
        var values = new (double, double)[] { (1, 1), (1.1, 1), (0.9, 1), (1.05, 1), (0.95, 1), (9, 2) };
        Assert.Equal(1, RobustLocation.Of(values, 3).Value, 2);
        Assert.Equal(0, RobustLocation.Of([], 1).Value);
        Assert.Equal(5, RobustLocation.Of([(5, 1)], 1).Value);
        Assert.Equal(2, RobustLocation.Median([1, 9, 2], [1, 1, 5]));
    }

    [Fact]
    public void Shares_of_the_parts_in_a_place_add_up()
    {
        foreach (var mark in Standing.Marks)
        {
            var shares = Skin.Of(Standing, mark, 0.02f * Standing.Height);
            Assert.Equal(1, shares.Sum(s => s.Share), 3);
            Assert.All(shares, s => Assert.InRange(s.Share, 0, 1.0001f));
        }
    }
}
