using MintHarbor.Core.Practice;
using MintHarbor.Core.Technique;
using Xunit;

namespace MintHarbor.Core.Tests.Technique;

public class SheetReadsTests
{
    private static IReadOnlyList<string> Of(string exercise) => SheetReads.Of(Exercises.Find(exercise)!);

    [Fact]
    public void Each_exercise_says_what_its_sheet_is_read_for()
    {
        Assert.Contains("hairy line", Of("gesture"));
        Assert.Contains("size on the page", Of("gesture"));
        Assert.DoesNotContain("values", Of("gesture"));
        Assert.StartsWith("proportion", Of("sitting")[0], StringComparison.Ordinal);
        Assert.Contains("values", Of("value-patches"));
        // Twelve on a sheet: none of them has a size on the page.
        Assert.DoesNotContain("size on the page", Of("thumbnails"));
        // No figure's marks are asked of a thing's sheet.
        Assert.All(new[] { "value-patches", "thumbnails", "contour" }, e => Assert.DoesNotContain(Of(e), w => w.Contains("marks")));
        Assert.Empty(SheetReads.Of(Exercises.Find("contour")! with { Findings = ["anatomy"] }));
    }
}
