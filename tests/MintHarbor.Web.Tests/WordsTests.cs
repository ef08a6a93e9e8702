using MintHarbor.Store.Model;
using NodaTime;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>What a page says of time: a student or an instructor acts on it.</summary>
public sealed class WordsTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    [Theory]
    [InlineData(0.1, "Sat 09:36")]
    [InlineData(5.9, "Sun 14:24")]
    [InlineData(7, "21 Nov, 12:00")]
    [InlineData(14, "14 Nov, 12:00")]
    public void A_day_of_the_week_is_one_of_this_week(double daysAgo, string said)
    {
        var now = Instant.FromUtc(2026, 11, 28, 12, 0);
        Assert.Equal(said, Words.WhenShort(now - Duration.FromDays(daysAgo), new Course { Zone = "UTC" }, now));
    }

    [Fact]
    public async Task The_term_tells_what_was_posed_from_what_is_to_come()
    {
        using var client = await fixture.App.As("edda@saltmarsh.example");
        var notes = await client.Text("/courses/1/sessions");
        Assert.Matches(@"h</b> posed in \d+ meetings and <b>[\d.]+ h</b> to come in \d+ meetings; [\d.]+ € to models in all\.", notes);
    }
}
