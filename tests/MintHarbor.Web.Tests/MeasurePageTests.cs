using System.Net;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>The sums of the pencil as the page says them.</summary>
public sealed class MeasurePageTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Path = "/courses/1/practice/measure";

    [Fact]
    public async Task A_bent_elbow_and_a_board_half_way_are_said_in_the_courses_unit()
    {
        var maren = await fixture.App.As(Doors.Victim);
        var page = await maren.Text($"{Path}?reading=30&arm=65&distance=500&lost=5&size=170&board=200&model=400&value=9&width=0.5");
        Assert.Contains("23.1 cm", page);
        Assert.Contains("7.7 %", page);
        Assert.Contains("85 cm", page);
        Assert.Contains("100 %", page);
    }

    /// <summary>By hand: 40 mm · 400 cm ÷ 65 cm = 24.6 cm, seen on a board at 120 cm 24.6 · 120 ÷ 400 = 7.4; value 9 covers all: 0.5 mm lines, 0.5 apart.</summary>
    [Fact]
    public async Task The_card_for_the_easel_holds_what_would_be_worked_out_there()
    {
        var maren = await fixture.App.As(Doors.Victim);
        var page = await maren.Text($"{Path}?arm=65&distance=400&board=120&model=400&width=0.5");
        string Row(string name) => page[page.IndexOf(name, StringComparison.Ordinal)..].Split("</tr>")[0];
        Assert.Contains(">24.6<", Row("that part is"));
        Assert.Contains(">7.4<", Row("on the board</th>"));
        Assert.EndsWith(">0.5</td><td class=\"whitespace-nowrap\">mm apart</td>", Row("lines of 0.5 mm").Trim());
        Assert.Equal(8, Row("two that cross").Split("class=\"r num\"").Length - 1);
    }

    [Theory]
    [
        InlineData("arm=0", "a length of 0", "arm"),
        InlineData("value=12", "value 12 of 9", "value"),
        InlineData("lost=70", "an elbow that takes 70 of 65", "lost")
    ]
    public async Task What_is_no_length_is_said_and_stays_typed(string query, string says, string field)
    {
        var maren = await fixture.App.As(Doors.Victim);
        var answer = await maren.GetAsync($"{Path}?{query}");
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        var page = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        Assert.Contains(says, page, StringComparison.OrdinalIgnoreCase);
        Assert.Matches($"id=\"{field}\"[^>]*value=\"{query.Split('=')[1]}\"", page);
    }

    [Fact]
    public async Task Words_in_the_place_of_a_number_are_no_error_of_the_server()
    {
        var maren = await fixture.App.As(Doors.Victim);
        var answer = await maren.GetAsync($"{Path}?arm=long&value=many");
        Assert.True((int)answer.StatusCode < 500);
    }
}
