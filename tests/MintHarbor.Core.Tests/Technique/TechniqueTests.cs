using System.Numerics;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Technique;
using Xunit;

namespace MintHarbor.Core.Tests.Technique;

/// <summary>What lines, hatching and tone are read from sheets that were ruled: what lies on them is known by how they were made.</summary>
public sealed class TechniqueTests
{
    private static Ruled Sheet() => new(240, 300);

    /// <summary>An outline, so that there is a drawing.</summary>
    private static Ruled Ringed() => Sheet().Ring(new(120, 150), 80);

    private static List<ReadLine> Near(TechniquePicture p, Vector2 at, float reach) =>
        [.. p.Lines.Where(l => l.Path.Any(q => Vector2.Distance(q, at) < reach))];

    [Fact]
    public void Two_lines_that_cross_are_two()
    {
        var lines = Near(Ringed().Line(new(90, 130), new(150, 170)).Line(new(90, 170), new(150, 130)).Read(), new(120, 150), 12);
        Assert.Equal(2, lines.Count);
        Assert.All(lines, l => Assert.InRange(l.Length, 70, 74));
    }

    [Theory]
    [InlineData(1, 1), InlineData(3, 2)]
    public void A_line_with_a_gap_is_one_where_a_hand_would_carry_on(float gap, int pieces)
    {
        var read = Ringed().Line(new(90, 150), new(120, 150)).Line(new(120 + gap + 0.6f, 150), new(150, 150)).Read();
        Assert.Equal(pieces, Near(read, new(119, 150), 25).Count);
    }

    [Theory]
    [InlineData(2), InlineData(3), InlineData(4.5)]
    public void Parallels_are_hatching_and_their_spacing_is_told(float gap)
    {
        var read = Ringed().Hatch(new(100, 130), 40, gap, 60).Read().Reading;
        Assert.NotNull(read.Hatch!.Spacing);
        Assert.InRange(read.Hatch.Spacing.Value, gap * 0.97, gap * 1.03);
        Assert.InRange(read.Hatch.Direction!.Value, 58, 62);
        Assert.InRange(read.Hatch.Evenness!.Value, 0, 0.06);
        // What was ruled: strokes of 40 mm, one for each gap and one more.
        var strokes = 1 + Math.Floor(40 / gap);
        Assert.InRange(read.Hatch.Length, 0.93 * 40 * strokes, 1.05 * 40 * strokes);
    }

    [Fact]
    public void Three_lines_close_together_are_a_line_restated_and_no_hatching()
    {
        var sheet = Ringed();
        for (var k = 0; k < 3; k++)
            sheet.Line(new(90, 150 + k), new(150, 150 + k), 0.4f);
        var read = sheet.Read();
        Assert.All(Near(read, new(120, 151), 3), l => Assert.Equal(InkKind.Contour, l.Kind));
        Assert.True(read.Reading.Contour!.Restated > 0.15, $"{read.Reading.Contour.Restated}");
        Assert.True(Ringed().Read().Reading.Contour!.Restated < 0.02);
    }

    [Fact]
    public void A_contour_through_hatching_stays_a_contour()
    {
        List<Vector2> bow = [.. Enumerable.Range(0, 60).Select(k => new Vector2(85 + (k * 1.2f), 150 + (12 * MathF.Sin(k / 12f))))];
        var read = Ringed().Hatch(new(90, 120), 60, 3, 60).Path(bow, 0.7f, 0.9f).Read();
        var longest = Near(read, new(120, 157), 4).Where(l => l.Kind == InkKind.Contour).MaxBy(l => l.Length);
        Assert.True(longest is { Length: > 60 }, $"{longest?.Length}");
        Assert.InRange(read.Reading.Hatch!.Length, 0.85 * 60 * 20, 1.05 * 60 * 21);
    }

    [Fact]
    public void Uneven_hatching_is_told_from_even()
    {
        var random = new SeededRandom(3);
        var sheet = Ringed();
        for (var x = 90f; x < 150; x += (float)(3 * (1 + random.Between(-0.35, 0.35))))
            sheet.Line(new(x, 120), new(x, 180), 0.4f, _ => 0.6f);
        Assert.True(sheet.Read().Reading.Hatch!.Evenness > 2 * Ringed().Hatch(new(90, 120), 60, 3, 90).Read().Reading.Hatch!.Evenness);
    }

    [Fact]
    public void Weight_follows_a_line_from_light_to_dark_and_a_blur_leaves_it_alone()
    {
        Ruled Wedge(float from, float to) => Sheet().Line(new(60, 150), new(180, 150), 0.8f, t => from + ((to - from) * t));
        var (light, dark) = (Wedge(0.2f, 0.3f).Read(), Wedge(0.7f, 0.8f).Read());
        // 0.8 mm at so much of full black.
        Assert.InRange(light.Reading.Contour!.Weight, 0.25 * 0.8 * 0.85, 0.25 * 0.8 * 1.15);
        Assert.InRange(dark.Reading.Contour!.Weight, 0.75 * 0.8 * 0.85, 0.75 * 0.8 * 1.15);
        var soft = Wedge(0.7f, 0.8f).Read(1.5f).Reading.Contour!.Weight;
        Assert.InRange(soft / dark.Reading.Contour.Weight, 0.95, 1.05);
        var wedge = Wedge(0.2f, 0.9f).Read().Reading.Contour!;
        Assert.True(wedge.ThickThin > 3 * dark.Reading.Contour.ThickThin);
        // An even wedge of those ends: its spread over its mean by calculation.
        Assert.InRange(wedge.ThickThin!.Value, 0.7 / Math.Sqrt(12) / 0.55 * 0.85, 0.7 / Math.Sqrt(12) / 0.55 * 1.1);
    }

    [Theory]
    [InlineData(false, 1), InlineData(true, -1)]
    public void The_heavier_side_is_told_and_a_mirror_turns_it(bool mirrored, int sign)
    {
        var read = Sheet().Ring(new(120, 150), 80, 0.7f, side => side > 0 ? 0.9f : 0.45f).Read(0, mirrored).Reading;
        Assert.InRange(sign * read.Contour!.Side!.Value, Math.Log(2) * 0.85, Math.Log(2) * 1.15);
    }

    [Fact]
    public void A_mirror_turns_the_hatching_and_nothing_else()
    {
        var sheet = Ringed().Hatch(new(90, 120), 60, 3, 60);
        var (straight, mirrored) = (sheet.Read().Reading, sheet.Read(0, true).Reading);
        Assert.InRange(mirrored.Hatch!.Direction!.Value, 118, 122);
        Assert.Equal(straight.Hatch!.Spacing!.Value, mirrored.Hatch.Spacing!.Value, 0.05);
        Assert.Equal(straight.Tone!.Mean, mirrored.Tone!.Mean, 0.5);
        Assert.Equal(straight.Place!.Left, mirrored.Place!.Right, 0.5);
    }

    [Fact]
    public void A_filled_form_is_solid_and_nothing_is_said_of_its_lines()
    {
        var read = Sheet().Box(60, 80, 110, 140, 0.6f).Read().Reading;
        Assert.True(read.LinesHidden);
        Assert.Null(read.IsHairy);
        Assert.Null(read.Hatch);
        Assert.Equal(1, read.Tone!.ValuesOfFive);
        Assert.True(read.Tone.Untouched < 0.02);
    }

    [Theory]
    [InlineData(6, true), InlineData(60, false)]
    public void Short_pieces_are_hairy_and_long_lines_are_not(float piece, bool hairy)
    {
        var sheet = Sheet();
        for (var ring = 0; ring < 2; ring++)
        {
            const int steps = 360;
            var radius = 70 + (25 * ring);
            var arc = MathF.Tau * radius / steps;
            Vector2 At(float k) =>
                new(120 + (radius * MathF.Cos(k * MathF.Tau / steps)), 150 + (radius * MathF.Sin(k * MathF.Tau / steps)));
            for (float k = 0; k < steps; k += (piece + 4.5f) / arc)
            {
                var end = MathF.Min(steps, k + (piece / arc));
                sheet.Path([.. Enumerable.Range(0, 9).Select(i => At(k + ((end - k) * i / 8)))]);
            }
        }
        Assert.Equal(hairy, sheet.Read().Reading.IsHairy);
    }

    [Fact]
    public void What_holds_the_sheet_is_no_part_of_the_drawing()
    {
        Ruled Drawn() => Sheet().Ring(new(120, 170), 60).Hatch(new(100, 150), 40, 3, 60);
        var (bare, held) = (Drawn().Read().Reading, Drawn().Box(100, 0, 22, 12, 0.85f).Box(0, 40, 9, 30, 0.4f).Read().Reading);
        foreach (
            var (a, b) in new[]
            {
                (bare.Place!.Left, held.Place!.Left),
                (bare.Place.Top, held.Place.Top),
                (bare.Place.Right, held.Place.Right),
            }
        )
            Assert.Equal(a, b, 1);
        Assert.InRange(bare.Place.Top, 109, 111);
        Assert.Equal(bare.Hatch!.Spacing!.Value, held.Hatch!.Spacing!.Value, 0.05);
        Assert.Equal(bare.Tone!.Mean, held.Tone!.Mean, 1);
        Assert.Empty(held.Place.CutEdges);
    }

    [Fact]
    public void What_runs_off_the_sheet_is_told_with_its_edge()
    {
        var read = Sheet()
            .Line(new(60, 80), new(110, 299))
            .Line(new(180, 80), new(130, 299))
            .Line(new(60, 80), new(180, 80))
            .Read()
            .Reading;
        Assert.Equal(["bottom"], read.Place!.CutEdges);
    }

    [Fact]
    public void A_shadow_over_half_of_the_sheet_is_no_tone()
    {
        Ruled Drawn() => Ringed().Box(90, 110, 30, 80, 0.5f);
        var (even, shaded) = (Drawn().Read().Reading.Tone!, Drawn().Shade(0.35f).Read().Reading.Tone!);
        Assert.Equal(even.Mean, shaded.Mean, 3.0);
        Assert.Equal(even.ValuesOfFive, shaded.ValuesOfFive);
    }

    [Fact]
    public void Values_are_counted_as_they_were_laid()
    {
        var sheet = Sheet().Ring(new(120, 150), 100);
        // Linear light that these shares of an sRGB level send back, by the published curve: five steps of L*.
        foreach (var (dark, n) in new[] { 0.86f, 0.66f, 0.45f, 0.24f }.Select((d, n) => (d, n)))
            sheet.Box(50 + (35 * n), 110, 33, 80, dark);
        var tone = sheet.Read().Reading.Tone!;
        Assert.Equal(5, tone.ValuesOfFive);
        Assert.InRange(tone.Untouched, 0.5, 0.75);
        Assert.Equal(1, tone.Fifths.Sum(), 6);
        Assert.Equal(1, tone.Ninths.Sum(), 6);
    }

    [Fact]
    public void Blank_and_black_sheets_say_so_and_no_more()
    {
        Assert.Equal(Nothing.Blank, Sheet().Read().Reading.Why);
        Assert.Equal(Nothing.Black, new Ruled(240, 300, 30).Read().Reading.Why);
        Assert.Null(Sheet().Read().Reading.Tone);
    }

    [Fact]
    public void A_coarser_picture_tells_the_same()
    {
        var fine = Ringed().Hatch(new(90, 120), 60, 3, 60).Grey();
        var (coarse, factor) = fine.Shrunk(700);
        var read = TechniqueReader.Read(coarse, Ruled.MmPerPixel * factor).Reading;
        Assert.InRange(read.Hatch!.Spacing!.Value, 2.9, 3.1);
        Assert.InRange(read.Place!.Left, 38, 41);
    }
}
