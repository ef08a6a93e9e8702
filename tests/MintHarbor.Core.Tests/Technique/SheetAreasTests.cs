using System.Numerics;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Technique;
using Xunit;

namespace MintHarbor.Core.Tests.Technique;

/// <summary>Areas of sheets that were ruled: spacing, direction, coverage and value are known by how they were made.</summary>
public sealed class SheetAreasTests
{
    private static List<Vec2> Square(double x, double y, double side) =>
        [new(x, y), new(x + side, y), new(x + side, y + side), new(x, y + side)];

    private static Ruled Ringed() => new Ruled(240, 300).Ring(new(120, 150), 90);

    private static SheetAreas Areas(Ruled sheet) => TechniqueReader.Areas(sheet.Grey(), Ruled.MmPerPixel)!;

    [Fact]
    public void Two_areas_of_one_sheet_are_told_apart_by_value_spacing_and_direction()
    {
        var read = Areas(Ringed().Hatch(new(70, 110), 36, 2, 60, 0.9f, 0.7f).Hatch(new(130, 110), 36, 4, 150, 0.9f, 0.7f));
        AreaMeasures close = read.Of(Square(74, 114, 28)),
            wide = read.Of(Square(134, 114, 28)),
            bare = read.Of(Square(100, 180, 28));
        Assert.InRange(close.Spacing!.Value, 1.9, 2.1);
        Assert.InRange(wide.Spacing!.Value, 3.8, 4.2);
        Assert.InRange(close.Direction!.Value, 57, 63);
        Assert.InRange(wide.Direction!.Value, 147, 153);
        Assert.False(close.Crossed);
        Assert.True(close.Lightness < wide.Lightness - 4 && wide.Lightness < bare.Lightness - 4);
        Assert.Equal((1, null), (bare.Value, bare.Spacing));
        Assert.InRange(bare.Lightness, 92, 97);
        Assert.InRange(close.Area, 27 * 27, 29 * 29);
    }

    /// <summary>Published: Murray and Davies 1936 (from memory): linear light mixes by coverage. A grey of half the paper's light covers
    /// 0.5 ÷ (1 − lead ÷ paper) of it, worked out here.</summary>
    [Fact]
    public void Coverage_is_read_from_light_and_a_spacing_for_another_value_follows()
    {
        // Grey values are encoded: half the linear light of 238 is 174 (sRGB, IEC 61966-2-1).
        var half = (float)(1 - (174 / 238.0));
        var flat = Areas(Ringed().Box(100, 120, 40, 40, half)).Of(Square(105, 125, 30));
        Assert.InRange(flat.Coverage, 0.5 / (1 - (0.12 / 0.86)) - 0.04, 0.5 / (1 - (0.12 / 0.86)) + 0.04);
        Assert.True(flat.Spread < 2);
        var hatched = Areas(Ringed().Hatch(new(90, 120), 50, 3, 60, dark: 0.9f, width: 0.6f)).Of(Square(97, 127, 36));
        // The same line twice as close is darker, and back again.
        var darker = hatched.SpacingFor(hatched.Lightness - 8)!.Value;
        Assert.True(darker < hatched.Spacing);
        Assert.InRange(hatched.SpacingFor(hatched.Lightness)!.Value, hatched.Spacing!.Value * 0.98, hatched.Spacing.Value * 1.02);
        // No line is as broad as it is apart: black wants pressure.
        Assert.Null(hatched.SpacingFor(12));
    }

    [Fact]
    public void Crossed_hatching_is_told_and_the_light_of_a_shaded_sheet_is_evened_out()
    {
        var crossed = Areas(Ringed().Hatch(new(95, 125), 50, 3, 30).Hatch(new(95, 125), 50, 3, 120)).Of(Square(102, 132, 36));
        Assert.True(crossed.Crossed);
        Assert.InRange(crossed.Spacing!.Value, 2.8, 3.2);
        var lit = Areas(Ringed().Box(100, 120, 40, 40, 0.3f)).Of(Square(105, 125, 30));
        var shaded = Areas(Ringed().Box(100, 120, 40, 40, 0.3f).Shade(0.25f)).Of(Square(105, 125, 30));
        Assert.InRange(shaded.Lightness - lit.Lightness, -5, 5);
    }

    [Fact]
    public void What_is_no_area_is_refused_and_an_empty_sheet_has_none()
    {
        var read = Areas(Ringed());
        Assert.Equal("outline", Assert.Throws<InputException>(() => read.Of([new(1, 1), new(9, 9)])).Field);
        Assert.Contains("25 mm²", Assert.Throws<InputException>(() => read.Of(Square(100, 100, 3))).Accepted);
        // Beyond the sheet there is nothing to read.
        Assert.Throws<InputException>(() => read.Of(Square(900, 900, 50)));
        Assert.Null(TechniqueReader.Areas(new Ruled(240, 300).Grey(), Ruled.MmPerPixel));
    }

    /// <summary>Murray and Davies, worked out here: L* to linear light (CIE 15), over paper of L* 95, lead at 0.12 of 0.86.</summary>
    private static double Coverage(double lightness) =>
        Math.Clamp((1 - (Math.Pow((lightness + 16) / 116, 3) / 0.88)) / (1 - (0.12 / 0.86)), 0, 1);

    private static Patch Of(PatchMethod method, PatchStep step, double lightness, double? spacing = 2.4) =>
        new(method, step, new(400, lightness, 3, Coverage(lightness), 300, spacing, 0.1, 60, method == PatchMethod.CrossHatch));

    private static PatchWord Row(PatchMethod method, double light, double middle, double dark, double? spacing = 2.4) =>
        Assert.Single(
            PatchSet.Of([
                Of(method, PatchStep.Light, light, spacing),
                Of(method, PatchStep.Middle, middle, spacing),
                Of(method, PatchStep.Dark, dark, spacing),
            ])
        );

    [Fact]
    public void A_row_of_patches_says_what_to_change_next_spacing_before_pressure()
    {
        Assert.Equal(TechniqueVerdict.Holds, Row(PatchMethod.Hatch, 85, 68, 50).Verdict);
        var light = Row(PatchMethod.Hatch, 85, 80, 50);
        Assert.StartsWith("hatch: light and middle are one value", light.Says);
        // Darker: closer than it stands.
        Assert.True(light.Spacing < 2.4);
        Assert.Matches(@"^Draw the middle at 1\.\d mm from line to line instead of 2\.4, with the same pressure\.$", light.Next);
        var dark = Row(PatchMethod.CrossHatch, 85, 56, 49);
        Assert.StartsWith("cross-hatch: the middle lies nearer the dark", dark.Says);
        Assert.True(dark.Spacing > 2.4);
        Assert.StartsWith("smooth: the dark isn't dark yet", Row(PatchMethod.Smooth, 85, 78, 70, null).Says);
        Assert.StartsWith("Lay more into the dark", Row(PatchMethod.Smooth, 85, 78, 70, null).Next);
        Assert.Contains("the light is no lighter than the middle", Row(PatchMethod.Stipple, 60, 62, 40, null).Says);
        // As close as the line is broad: nothing is left but pressure.
        Assert.Equal("The lines lie as close as they can: press harder in the dark.", Row(PatchMethod.Hatch, 88, 78, 66, 0.6).Next);
        // Too dark without a spacing: wider and lighter, not closer.
        Assert.Equal(
            "Leave more paper in the middle, wider first, then with less pressure.",
            Row(PatchMethod.Stipple, 85, 54, 50, null).Next
        );
        // Marked the wrong way round, nothing is prescribed.
        var turned = Row(PatchMethod.Hatch, 50, 68, 85);
        Assert.Equal((TechniqueVerdict.CantTell, null), (turned.Verdict, turned.Next));
        var two = Assert.Single(PatchSet.Of([Of(PatchMethod.Hatch, PatchStep.Light, 80)]));
        Assert.Equal("hatch: mark its middle and dark too.", two.Says);
        Assert.Equal(TechniqueVerdict.CantTell, two.Verdict);
    }
}
