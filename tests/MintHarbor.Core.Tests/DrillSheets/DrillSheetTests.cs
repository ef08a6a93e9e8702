using System.Text.Json;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Geometry;
using Xunit;

namespace MintHarbor.Core.Tests.DrillSheets;

public sealed class DrillSheetTests
{
    private static DrillSheet Of(long seed, params IReadOnlyList<string> kinds) => DrillSheet.Make(new(seed, false), kinds, seed);

    public static TheoryData<string> Kinds => [.. PaperDrills.All.Select(d => d.Kind)];

    private static IEnumerable<Vec2> Reach(PrintShape shape) =>
        shape switch
        {
            PrintCircle c => [c.Middle - new Vec2(c.Radius, c.Radius), c.Middle + new Vec2(c.Radius, c.Radius)],
            PrintPath p => p.Places,
            PrintBox b => [b.Corner, b.Corner + new Vec2(b.Width, b.Height)],
            PrintWords w => [w.Foot],
            _ => throw new ArgumentException(shape.ToString()),
        };

    [Theory, MemberData(nameof(Kinds))]
    public void Every_item_keeps_to_its_cell_and_off_the_dots(string kind)
    {
        foreach (var seed in Enumerable.Range(1, 60))
        foreach (var item in Of(seed, kind).Items)
        {
            foreach (var p in item.Print().SelectMany(Reach))
            {
                Assert.InRange(p.X, item.At.X + 0.3, item.At.X + item.Width - 0.3);
                Assert.InRange(p.Y, item.At.Y + 5, item.At.Y + 49.5);
            }
            Assert.Equal(PaperDrills.Get(kind).Wide, item.Wide);
            Assert.All(SheetLayout.Dots, d =>
                Assert.All(item.Print().SelectMany(Reach), p =>
                    Assert.True((p - d).Length > SheetLayout.Dot + 0.3, $"{kind} {seed}: {p} on {d}")
                )
            );
        }
    }

    [Theory, MemberData(nameof(Kinds))]
    public void A_sheet_is_the_same_for_the_same_seed_and_comes_back_whole_as_it_was_kept(string kind)
    {
        var sheet = Of(5, kind);
        string Kept(DrillSheet s) => JsonSerializer.Serialize(s.Items, CoreData.Json);
        Assert.Equal(Kept(sheet), Kept(Of(5, kind)));
        if (sheet.Items[0] is not (SingleStrokes or ToneSteps or PressureScale))
            Assert.NotEqual(Kept(sheet), Kept(Of(6, kind)));
        var again = JsonSerializer.Deserialize<List<PaperItem>>(Kept(sheet), CoreData.Json)!;
        Assert.Equal(Kept(sheet), JsonSerializer.Serialize(again, CoreData.Json));
        Assert.Equal(sheet.Items.SelectMany(i => i.Print()).Count(), again.SelectMany(i => i.Print()).Count());
    }

    [Theory]
    [InlineData("slant", 12), InlineData("tone", 4), InlineData("half third carry", 12), InlineData("contour negative", 4)]
    public void A_sheet_is_filled(string kinds, int items)
    {
        var sheet = Of(3, kinds.Split(' '));
        Assert.Equal(items, sheet.Items.Count);
    }

    [Fact]
    public void Each_chosen_drill_is_on_the_sheet_and_none_lies_over_another()
    {
        var random = new SeededRandom(4);
        for (var n = 0; n < 300; n++)
        {
            var wide = PaperDrills.All.Where(d => d.Wide).OrderBy(_ => random.Next()).Take(random.Next(5)).ToList();
            var narrow = PaperDrills.All.Where(d => !d.Wide).OrderBy(_ => random.Next()).Take(random.Next(5)).ToList();
            List<PaperDrill> chosen = [.. wide, .. narrow];
            if (chosen.Count == 0)
                continue;
            var sheet = Of(n, [.. chosen.Select(d => d.Kind)]);
            var cells = sheet.Items.SelectMany(i => i.Wide ? new[] { i.At, i.At + new Vec2(SheetLayout.CellWidth, 0) } : [i.At]).ToList();
            Assert.Equal(cells.Count, cells.Distinct().Count());
            Assert.All(cells, c => Assert.InRange(c.X, SheetLayout.Left, SheetLayout.Left + (2 * SheetLayout.CellWidth)));
            foreach (var drill in chosen)
                Assert.Contains(sheet.Items, i => i.Asks == drill.Make(new(1), default).Asks);
        }
    }

    [Fact]
    public void What_no_sheet_can_hold_is_refused_with_what_can()
    {
        Assert.Equal("drills", Assert.Throws<InputException>(() => Of(1)).Field);
        Assert.Contains("unknown drill 'sphere'", Assert.Throws<InputException>(() => Of(1, "sphere")).Message);
        var wide = Assert.Throws<InputException>(() => Of(1, [.. PaperDrills.All.Where(d => d.Wide).Take(5).Select(d => d.Kind)]));
        Assert.Contains("4 such at most", wide.Accepted);
    }

    /// <summary>What is asked for is worked out here from what is printed, not from the item.</summary>
    [Fact]
    public void The_right_answers_are_where_the_print_says()
    {
        foreach (var seed in Enumerable.Range(1, 40))
        {
            foreach (var item in Of(seed, "half", "third", "carry", "ratio", "plumb").Items.OfType<TickItem>())
            {
                var lines = item.Print().OfType<PrintPath>().Where(p => p.Places.Count == 2).ToList();
                var longest = lines
                    .Where(l => l.Dashed || item is not Carry)
                    .OrderByDescending(l => (l.Places[1] - l.Places[0]).Length)
                    .ToList();
                double Length(PrintPath p) => (p.Places[1] - p.Places[0]).Length;
                switch (item)
                {
                    case Parting p:
                        Assert.Equal(
                            Enumerable.Range(1, p.Parts - 1).Select(k => Length(longest[0]) * k / p.Parts),
                            item.Targets.Select(t => t),
                            (a, b) => Math.Abs(a - b) < 1e-9
                        );
                        break;
                    case Carry:
                        var given = lines.Where(l => !l.Dashed).Max(Length);
                        Assert.Equal(given, item.Targets.Single(), 1e-9);
                        break;
                    case Ratio:
                        // From the dot to the tick over the whole, on the line that has a tick.
                        var dots = item.Print().OfType<PrintCircle>().Select(c => c.Middle).ToList();
                        var upper = lines.First(l => l.Places[0] == dots[0]);
                        var tick = lines
                            .Where(l => l != upper && Math.Abs(Length(l) - 4) < 1e-6)
                            .Select(l => Vec2.Mid(l.Places[0], l.Places[1]))
                            .Single();
                        var lower = lines.First(l => l.Places[0] == dots[1] && Length(l) > 10);
                        Assert.Equal((tick - dots[0]).Length / Length(upper), item.Targets.Single() / Length(lower), 1e-6);
                        break;
                    case PlumbPoints:
                        var level = lines.Single();
                        Assert.Equal(item.Print().OfType<PrintCircle>().Select(c => c.Middle.X - level.Places[0].X), item.Targets, (a, b) =>
                            Math.Abs(a - b) < 1e-9
                        );
                        break;
                }
            }
        }
    }

    [Fact]
    public void A_gap_is_one_that_the_figure_leaves()
    {
        Assert.True(NegativeGaps.All.Count >= 12, $"{NegativeGaps.All.Count} gaps");
        foreach (var (pose, figure, gap) in NegativeGaps.All)
        {
            // Its edge is the figure's own, and its middle isn't the figure.
            Assert.All(gap, p => Assert.Contains(figure, o => o.Contains(p)));
            Assert.True(Polygons.Overlap(figure[0], gap) < 0.9, pose);
            Assert.True(NegativeShape.IsWorth(gap));
        }
    }

    [Fact]
    public void Words_of_a_measure_say_which_way()
    {
        Assert.Equal("1.4 mm to the right", PaperMeasures.Get("half").Say(1.4));
        Assert.Equal("1.4 mm to the left", PaperMeasures.Get("half").Say(-1.4));
        Assert.Equal("2° anticlockwise", PaperMeasures.Get("slant").Say(-2));
        Assert.Equal("3 mm too short", PaperMeasures.Get("carry").Say(-3));
        Assert.Equal("0.4 mm", PaperMeasures.Get("wobble").Say(0.4));
        Assert.Equal("none", PaperMeasures.Get("breaks").Say(0));
        Assert.Equal("5 % too light", PaperMeasures.Get("tone").Say(5));
        Assert.Equal("2° too steep: they meet too soon", PaperMeasures.Get("converging").Say(2));
        Assert.Equal(0, new ItemScore("half", 0.3, 0.4).Marked);
        Assert.Equal(-0.6, new ItemScore("half", -1, 0.4).Marked, 1e-9);
    }

    [Fact]
    public void What_a_remark_names_is_trained_by_sheets_that_can_be_printed()
    {
        foreach (var drill in PaperDrills.All)
        {
            Assert.NotEmpty(drill.Trains);
            Assert.All(drill.Trains, t =>
                Assert.True(Core.Practice.Drills.Find(t) is not null || Core.Practice.Exercises.Find(t) is not null, t)
            );
        }
        foreach (var fault in Core.Critiques.Faults.All)
        {
            var kinds = PaperDrills.For(fault.Drill, fault.Exercise).Select(d => d.Kind).ToList();
            if (kinds.Count > 0)
                Assert.NotEmpty(DrillSheet.Make(new(1, false), kinds, 1).Items);
        }
        Assert.Contains("slant", PaperDrills.For("clock-hand", null).Select(d => d.Kind));
        Assert.Contains("tone", PaperDrills.For(null, "value-patches").Select(d => d.Kind));
        Assert.Empty(PaperDrills.For(null, null));
    }
}
