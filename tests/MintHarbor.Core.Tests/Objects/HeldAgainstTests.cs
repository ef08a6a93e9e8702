using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;
using Xunit;

namespace MintHarbor.Core.Tests.Objects;

/// <summary>A drawn still life beside the one that was seen: what is off, which way, and what the boxes alone could have done.</summary>
public class HeldAgainstTests
{
    private static readonly SeenThing[] Seen =
    [
        new("bottle", new(200, 40, 260, 320), 1),
        new("cup", new(80, 250, 160, 340), 1),
        new("box", new(240, 220, 420, 330), 0.8),
        new("bowl", new(120, 330, 300, 420), 1),
    ];

    /// <summary>As seen, at so many millimetres a pixel, somewhere on the sheet.</summary>
    private static Area[] Drawn(double scale = 0.6) =>
        [
            .. Seen.Select(t => new Area(
                30 + (scale * t.Round.Left),
                50 + (scale * t.Round.Top),
                30 + (scale * t.Round.Right),
                50 + (scale * t.Round.Foot)
            )),
        ];

    [Theory]
    [InlineData(0.3)]
    [InlineData(1.1)]
    public void A_drawing_that_is_right_has_nothing_off_at_any_size(double scale) =>
        Assert.All(HeldAgainst.Compare(Seen, Drawn(scale)), t =>
        {
            Assert.Empty(t.Words());
            Assert.Equal(0, t.High, 1e-9);
            Assert.Equal(0, t.Low, 1e-9);
        });

    [Theory]
    [InlineData(0.85, "15 % too short")]
    [InlineData(1.2, "20 % too tall")]
    public void A_bottle_drawn_by_another_height_is_said_and_nothing_else(double by, string said)
    {
        var drawn = Drawn();
        drawn[0] = drawn[0] with { Top = drawn[0].Foot - (drawn[0].Height * by) };
        var all = HeldAgainst.Compare(Seen, drawn);
        Assert.Equal([said], all[0].Words());
        Assert.All(all.Skip(1), t => Assert.Empty(t.Words()));
    }

    [Theory]
    [InlineData(0.8, "20 % too narrow")]
    [InlineData(1.25, "25 % too broad")]
    public void Breadth_has_its_own_words(double by, string said)
    {
        var drawn = Drawn();
        var (middle, half) = (drawn[3].Middle.X, drawn[3].Width * by / 2);
        drawn[3] = drawn[3] with { Left = middle - half, Right = middle + half };
        Assert.Equal([said], HeldAgainst.Compare(Seen, drawn)[3].Words());
    }

    [Theory]
    [InlineData(30, 0, "too far right")]
    [InlineData(-30, 0, "too far left")]
    [InlineData(0, 30, "too low")]
    [InlineData(0, -30, "too high")]
    public void A_cup_that_stands_elsewhere_is_said_with_its_direction(double dx, double dy, string said)
    {
        var drawn = Drawn();
        drawn[1] = new(drawn[1].Left + dx, drawn[1].Top + dy, drawn[1].Right + dx, drawn[1].Foot + dy);
        var words = HeldAgainst.Compare(Seen, drawn)[1].Words();
        Assert.EndsWith(said, Assert.Single(words));
        Assert.Contains(dx != 0 ? "breadth" : "height", words[0]);
    }

    /// <summary>Seven millimetres of a box may be the box's own: a tenth of so small a thing is not marked.</summary>
    [Fact]
    public void What_the_box_alone_may_have_done_is_never_marked()
    {
        var drawn = Drawn(0.12);
        drawn[1] = drawn[1] with { Top = drawn[1].Foot - (drawn[1].Height * 1.15) };
        var cup = HeldAgainst.Compare(Seen, drawn)[1];
        Assert.True(cup.High > 0.12 && cup.DoubtHigh > cup.High);
        Assert.Empty(cup.Words());
    }

    [Fact]
    public void Boxes_that_are_none_are_refused()
    {
        Assert.Contains("3 boxes", Assert.Throws<InputException>(() => HeldAgainst.Compare(Seen, Drawn()[..3])).Message);
        var drawn = Drawn();
        drawn[2] = drawn[2] with { Right = drawn[2].Left + 1 };
        Assert.Contains("box of the box is hardly one", Assert.Throws<InputException>(() => HeldAgainst.Compare(Seen, drawn)).Message);
        drawn[2] = drawn[2] with { Right = double.NaN };
        Assert.Throws<InputException>(() => HeldAgainst.Compare(Seen, drawn));
    }
}
