using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using Xunit;

namespace MintHarbor.Core.Tests.Critiques;

/// <summary>Where a place of a view lies on a drawing that is off here and there.</summary>
public class DrawnPlaceTests
{
    private static readonly Similarity Laid = new(2, 0, new(10, 20), 0);

    /// <summary>Four corners drawn as laid, and one mark that is drawn 30 mm too low.</summary>
    private static readonly (Vec2 Seen, Vec2 Drawn)[] Marks =
    [
        (new(0, 0), new(10, 20)),
        (new(100, 0), new(210, 20)),
        (new(0, 200), new(10, 420)),
        (new(100, 200), new(210, 420)),
        (new(50, 100), new(110, 250)),
    ];

    [Fact]
    public void At_a_mark_it_is_the_drawn_mark()
    {
        var at = DrawnPlace.Of(new(50, 100), Laid, Marks);
        Assert.InRange((at - new Vec2(110, 250)).Length, 0, 1);
    }

    [Fact]
    public void Beside_a_mark_it_goes_along_and_far_away_it_stays()
    {
        var near = DrawnPlace.Of(new(52, 103), Laid, Marks);
        Assert.InRange(near.Y - Laid.Map(new(52, 103)).Y, 20, 30);
        var far = DrawnPlace.Of(new(2, 195), Laid, Marks);
        Assert.InRange((far - Laid.Map(new(2, 195))).Length, 0, 2);
    }

    [Fact]
    public void Without_marks_or_with_all_of_them_in_one_place_it_is_as_laid()
    {
        Assert.Equal(new(30, 60), DrawnPlace.Of(new(10, 20), Laid, []));
        Assert.Equal(new(30, 60), DrawnPlace.Of(new(10, 20), Laid, [(new(1, 1), new(5, 5))]));
    }

    [Fact]
    public void A_drawing_that_is_right_everywhere_moves_nothing()
    {
        var right = Marks.Select(m => (m.Seen, Laid.Map(m.Seen))).ToList();
        Assert.InRange((DrawnPlace.Of(new(33, 71), Laid, right) - Laid.Map(new(33, 71))).Length, 0, 1e-9);
    }
}
