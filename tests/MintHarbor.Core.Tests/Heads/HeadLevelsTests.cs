using MintHarbor.Core.Canons;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using Xunit;

namespace MintHarbor.Core.Tests.Heads;

public class HeadLevelsTests
{
    /// <summary>Common practice, no source: hairline to brow, brow to nose base, nose base to chin alike, the hairline where the studio's table
    /// has it; the beginner's thirds from the crown, the hairline a third down the top part.</summary>
    [Theory]
    [InlineData("classical-head", 0.145, 0.43, 0.5, 0.715, 0.81)]
    [InlineData("beginner-head", 0.1111, 0.3333, 0.5, 0.6667, 0.8333)]
    public void A_schools_levels_are_its_fractions(string canon, double hairline, double brow, double eyes, double nose, double mouth)
    {
        var l = HeadLevels.Of(CanonTable.Get(canon)).Checked();
        Assert.Equal(hairline, l.Hairline, 0.001);
        Assert.Equal(brow, l.Brow, 0.001);
        Assert.Equal(eyes, l.Eyes, 0.001);
        Assert.Equal(nose, l.NoseBase, 0.001);
        Assert.Equal(mouth, l.Mouth, 0.001);
        // The head that the studio draws on that canon stands on the same levels.
        var table = HeadCatalogue.Tables.Canons.Single(c => c.Id == canon);
        foreach (var (id, _, at) in l.All)
            Assert.Equal(0.5 - table.Levels[id], at, 0.001);
    }

    [Fact]
    public void A_courses_own_canon_moves_its_levels_and_no_others()
    {
        var first = HeadLevels.Of(CanonTable.Get("classical-head"));
        var own = OwnCanon.From(
            CanonTable.Get("classical-head"),
            "Ours",
            "",
            [new("H-eye", true, 0.47, null), new("H-mouth", true, 0.5, null), new("H-thirds", false, null, null)]
        );
        var l = HeadLevels.Of(own);
        Assert.Equal(first.Hairline, l.Hairline, 1e-6);
        Assert.Equal(first.Brow, l.Brow, 1e-6);
        Assert.Equal(0.47, l.Eyes, 1e-6);
        Assert.Equal(first.NoseBase + ((1 - first.NoseBase) / 2), l.Mouth, 1e-6);
    }

    [Theory]
    [InlineData(0.145, 0.43, 0.42, 0.715, 0.81, "eye")]
    [InlineData(0.145, 0.43, 0.5, 0.9, 0.81, "mouth")]
    [InlineData(0.01, 0.43, 0.5, 0.715, 0.81, "hairline")]
    [InlineData(0.145, 0.43, 0.5, 0.715, 0.99, "chin")]
    [InlineData(0.145, double.NaN, 0.5, 0.715, 0.81, "brow")]
    public void Levels_out_of_order_are_refused_by_name(
        double hairline,
        double brow,
        double eyes,
        double nose,
        double mouth,
        string field
    ) => Assert.Equal(field, Assert.Throws<InputException>(() => new HeadLevels(hairline, brow, eyes, nose, mouth).Checked()).Field);

    [Fact]
    public void The_head_is_drawn_on_a_sitters_levels_and_as_broad_as_they_are()
    {
        var studio = new StudioHead(StudioHead.Coarse);
        var levels = new HeadLevels(0.16, 0.40, 0.47, 0.69, 0.80, 0.77);
        var view = StudioHead.View(studio.Model(levels), new(0), FigureViewKind.Mass, 480, 600);
        double Y(string id) => view.Landmarks[id].At.Y;
        double Share(string id) => (Y(id) - Y("crown")) / (Y("chin") - Y("crown"));
        Assert.Equal(0.47, Share("pupil.L"), 0.01);
        Assert.Equal(0.69, Share("nosebase"), 0.01);
        Assert.Equal(0.80, Share("lip-slit"), 0.01);
        double Breadth(HeadModel m)
        {
            var (left, right) = StudioHead.Sides(m, new(0));
            return (right - left) / (600 * 0.6);
        }
        var usual = Breadth(studio.Model(levels with { Breadth = null }));
        Assert.Equal(usual * 0.77 / HeadLevels.Usual, Breadth(studio.Model(levels)), 0.01);
        // The word "usual" is the plain head's own breadth.
        Assert.Equal(HeadLevels.Usual, usual, 0.005);
        Assert.Throws<InputException>(() => studio.Model(levels with { Breadth = 1.4 }));
    }
}
