using MintHarbor.Core.Measuring;
using Xunit;

namespace MintHarbor.Core.Tests.Critiques;

/// <summary>Sums worked by hand (common practice), and the mixing of paper and lead counted on a sheet that is really covered.</summary>
public sealed class ArmsLengthTests
{
    [Fact]
    public void A_head_that_reads_30_mm_at_an_arm_of_65_cm_from_5_m_is_23_cm()
    {
        Assert.Equal(230.77, ArmsLength.Size(30, 650, 5000), 0.01);
        Assert.Equal(30, ArmsLength.Reading(ArmsLength.Size(30, 650, 5000), 650, 5000), 1e-9);
    }

    [Fact]
    public void An_elbow_that_takes_50_of_650_mm_makes_every_reading_smaller_by_7_7_per_cent()
    {
        Assert.Equal(-0.077, ArmsLength.Bent(650, 50), 0.0005);
        // The same read straight and bent.
        Assert.Equal(1 + ArmsLength.Bent(650, 50), ArmsLength.Reading(230, 600, 5000) / ArmsLength.Reading(230, 650, 5000), 1e-9);
        Assert.Equal(0, ArmsLength.Bent(650, 0));
    }

    [Fact]
    public void A_board_half_way_to_the_model_shows_it_half_as_high()
    {
        Assert.Equal(85, ArmsLength.SightSize(170, 200, 400), 1e-9);
        Assert.Equal(200, ArmsLength.BoardFor(170, 85, 400), 1e-9);
    }

    [Theory]
    [
        InlineData(0, 650, 5000, "reading"),
        InlineData(30, 0, 5000, "arm"),
        InlineData(30, 650, -1, "distance"),
        InlineData(double.NaN, 650, 5000, "reading")
    ]
    public void A_length_that_is_none_is_refused_by_its_name(double reading, double arm, double distance, string field) =>
        Assert.Equal(field, Assert.Throws<InputException>(() => ArmsLength.Size(reading, arm, distance)).Field);

    [Fact]
    public void An_elbow_cant_take_the_whole_arm() =>
        Assert.Equal("lost", Assert.Throws<InputException>(() => ArmsLength.Bent(650, 650)).Field);

    /// <summary>Lines laid on a grid of points, and counted: what they cover is what was asked.</summary>
    [Theory]
    [InlineData(false), InlineData(true)]
    public void Lines_at_the_spacing_cover_as_much_as_the_value_wants(bool crossed)
    {
        const double width = 0.5;
        for (var value = 2; value <= 8; value++)
        {
            var wanted = Hatching.Coverage(value);
            var spacing = Hatching.Spacing(wanted, width, crossed)!.Value;
            Assert.True(spacing >= width);
            const int side = 1200;
            var covered = 0;
            for (var y = 0; y < side; y++)
            for (var x = 0; x < side; x++)
            {
                // Whole periods, so that no edge is counted for more than it is.
                double u = (x + 0.5) / side * 40 * spacing % spacing,
                    v = (y + 0.5) / side * 40 * spacing % spacing;
                if (u < width || (crossed && v < width))
                    covered++;
            }
            Assert.Equal(wanted, (double)covered / (side * side), 0.04);
        }
    }

    [Fact]
    public void The_lightest_value_is_bare_paper_the_darkest_all_lead_and_each_is_darker_than_the_last()
    {
        Assert.Equal(0, Hatching.Coverage(1), 1e-9);
        Assert.Equal(1, Hatching.Coverage(9), 1e-9);
        Assert.Null(Hatching.Spacing(0, 0.5, false));
        Assert.Equal(0.5, Hatching.Spacing(1, 0.5, false)!.Value, 1e-9);
        for (var value = 2; value <= 9; value++)
            Assert.True(Hatching.Coverage(value) > Hatching.Coverage(value - 1));
        Assert.Equal("value", Assert.Throws<InputException>(() => Hatching.Coverage(10)).Field);
        Assert.Equal("width", Assert.Throws<InputException>(() => Hatching.Spacing(0.5, 0, false)).Field);
    }

    [Fact]
    public void Dots_of_half_a_millimetre_for_a_tenth_stand_about_one_to_two_square_millimetres() =>
        Assert.Equal(0.509, Hatching.Dots(0.1, 0.5), 0.001);
}
