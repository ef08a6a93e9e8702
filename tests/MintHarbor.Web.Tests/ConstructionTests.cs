using System.Net;
using MintHarbor.Core.Canons;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Construction sheets, read back by another library (PdfPig 0.1.16): what a page says of its millimetres is what lies on it.</summary>
public sealed class ConstructionTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Path = "/courses/1/shelf/construction";

    private HarborApp App => fixture.App;

    private async Task<List<Page>> Pages(string query)
    {
        var maren = await App.As(Doors.Victim);
        var answer = await maren.GetAsync($"{Path}/pdf?{query}");
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        Assert.Equal("application/pdf", answer.Content.Headers.ContentType!.MediaType);
        using var pdf = PdfDocument.Open(await answer.Content.ReadAsByteArrayAsync());
        return [.. pdf.GetPages()];
    }

    private static double Mm(double points) => points / 72 * 25.4;

    /// <summary>Level lines: how far each lies under the page's upper rim, millimetres, and how long it is.</summary>
    private static List<(double Down, double Wide)> Levels(Page page) =>
        [
            .. page
                .Paths.SelectMany(p => p)
                .Select(s => s.GetBoundingRectangle())
                .OfType<UglyToad.PdfPig.Core.PdfRectangle>()
                .Where(r => r.Height < 0.01 && Mm(r.Width) > 0.6 * Mm(page.Width))
                .Select(r => (Down: Mm(page.Height - r.Bottom), Wide: Mm(r.Width)))
                .DistinctBy(l => Math.Round(l.Down, 2))
                .OrderBy(l => l.Down),
        ];

    private static string Text(Page page) => UglyToad.PdfPig.DocumentLayoutAnalysis.TextExtractor.ContentOrderTextExtractor.GetText(page);

    private static void HasRuler(Page page) =>
        Assert.Contains(page.Paths.SelectMany(p => p), s =>
            s.GetBoundingRectangle() is { } r && r.Height < 0.5 && Math.Abs(Mm(r.Width) - 100) < 0.01
        );

    [Theory]
    [InlineData("A4", 210, 297), InlineData("letter", 215.9, 279.4), InlineData("A3", 297, 420)]
    public async Task A_head_to_draw_on_stands_on_its_levels_to_the_tenth_of_a_millimetre(string paper, double width, double height)
    {
        var pages = await Pages($"of=head&by=classical-head&use=Sheet&paper={paper}");
        Assert.Equal(3, pages.Count);
        foreach (var page in pages)
        {
            Assert.Equal(width, Mm(page.Width), 0.2);
            Assert.Equal(height, Mm(page.Height), 0.2);
            HasRuler(page);
            var said = System.Text.RegularExpressions.Regex.Match(Text(page), "crown to chin (\\d+) mm");
            Assert.True(said.Success, Text(page));
            var head = double.Parse(said.Groups[1].Value, System.Globalization.CultureInfo.InvariantCulture);
            var levels = Levels(page);
            Assert.Equal(7, levels.Count);
            Assert.Equal(head, levels[^1].Down - levels[0].Down, 0.05);
            // Thirds of the face from the hairline, the eyes at half: the school's words, not the product's numbers.
            double At(int n) => levels[n].Down;
            Assert.Equal((At(0) + At(6)) / 2, At(3), 0.05);
            Assert.Equal(At(2) - At(1), At(4) - At(2), 0.05);
            Assert.Equal(At(6) - At(4), At(4) - At(2), 0.05);
            // Nothing is printed off the page.
            foreach (
                var r in page.Paths.SelectMany(p => p).Select(s => s.GetBoundingRectangle()).OfType<UglyToad.PdfPig.Core.PdfRectangle>()
            )
                Assert.InRange(Mm(r.Right), 0, width + 0.1);
        }
        Assert.Contains("front", Text(pages[0]));
        Assert.Contains("turned 35°", Text(pages[1]));
        Assert.Contains("profile", Text(pages[2]));
    }

    [Fact]
    public async Task A_poster_shows_three_heads_on_the_same_levels_and_names_them_with_their_millimetres()
    {
        var page = Assert.Single(await Pages("of=head&by=beginner-head&use=Poster&paper=A3&turn=40"));
        Assert.Equal(420, Mm(page.Width), 0.2);
        var text = Text(page);
        foreach (
            var word in new[] { "hairline", "brow", "eye line", "base of the nose", "mouth", "beginner's head", "turned 40°", "profile" }
        )
            Assert.Contains(word, text);
        var levels = Levels(page);
        var head = levels[^1].Down - levels[0].Down;
        // Thirds of the whole head from the crown; the mouth half way from nose to chin.
        Assert.Equal(head / 3, levels[2].Down - levels[0].Down, 0.05);
        Assert.Equal((levels[4].Down + levels[6].Down) / 2, levels[5].Down, 0.05);
        Assert.Contains($"{head / 2:0.0} mm", text);
        // Drawn, not only ruled: the three heads are some hundred strokes.
        Assert.True(page.Paths.Count > 100);
    }

    [Fact]
    public async Task A_sitter_as_measured_has_their_own_levels_and_a_figure_its_heads()
    {
        var page = (await Pages("of=head&by=measured&use=Sheet&m.Eyes=0.46&m.NoseBase=0.7&m.Breadth=0.75"))[0];
        var levels = Levels(page);
        var head = levels[^1].Down - levels[0].Down;
        Assert.Equal(0.46 * head, levels[3].Down - levels[0].Down, 0.05);
        Assert.Equal(0.7 * head, levels[4].Down - levels[0].Down, 0.05);
        Assert.Contains("a sitter as measured", Text(page));
        foreach (var canon in new[] { "academic", "heroic" })
        {
            var figure = Assert.Single(await Pages($"of=figure&by={canon}&use=Sheet&paper=A3"));
            var heads = CanonTable.Get(canon).Rule("F-heads")!.Expected;
            var rungs = Levels(figure);
            Assert.Equal((int)Math.Floor(heads) + 1, rungs.Count);
            var said = System.Text.RegularExpressions.Regex.Match(Text(figure), "crown to sole (\\d+) mm");
            var whole = double.Parse(said.Groups[1].Value, System.Globalization.CultureInfo.InvariantCulture);
            Assert.Equal(whole / heads, rungs[1].Down - rungs[0].Down, 0.05);
            HasRuler(figure);
        }
    }

    [Theory]
    [InlineData("by=measured&m.Eyes=0.9", "too near"), InlineData("by=measured&m.Eyes=high", "high"), InlineData("turn=90", "10 to 80")]
    [
        InlineData("paper=B9", "paper"),
        InlineData("by=academic", "no canon of a head"),
        InlineData("of=figure&by=classical-head", "no canon of a figure")
    ]
    [InlineData("use=7", "poster")]
    public async Task What_can_not_be_printed_is_said(string query, string says)
    {
        var maren = await App.As(Doors.Victim);
        foreach (var path in new[] { Path, Path + "/pdf" })
        {
            var answer = await maren.GetAsync($"{path}?{query}");
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
            Assert.Contains(says, WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()), StringComparison.OrdinalIgnoreCase);
        }
    }

    [Fact]
    public async Task The_page_shows_what_will_be_printed_by_the_canon_in_use()
    {
        var maren = await App.As(Doors.Victim);
        var text = WebUtility.HtmlDecode(await maren.Text(Path));
        Assert.Contains("guide-preview", text);
        Assert.Contains("0.500", text);
        Assert.DoesNotContain("as measured</th>", text);
        Assert.Contains("as measured</th>", await maren.Text(Path + "?by=measured"));
        Assert.Contains("heads in the height", await maren.Text(Path + "?of=figure"));
    }
}
