using System.Net;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store.Model;
using Xunit;

namespace MintHarbor.Web.Tests;

public sealed class RoomTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private HarborApp App => fixture.App;

    [Fact]
    public async Task A_display_is_told_of_every_act_and_a_renewed_link_ends_the_old_one()
    {
        var meeting = await App.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 5));
        var display = App.Anonymous();
        Assert.Equal(HttpStatusCode.OK, (await display.GetAsync($"/room/{meeting.RoomSecret}")).StatusCode);
        using var answer = await display.GetAsync($"/room/{meeting.RoomSecret}/stream", HttpCompletionOption.ResponseHeadersRead);
        using var stream = new StreamReader(await answer.Content.ReadAsStreamAsync());
        Assert.False((await stream.NextState())["started"]!.GetValue<bool>());
        var staff = await App.As("edda@saltmarsh.example");
        await staff.PostForm($"/courses/1/sessions/{meeting.Id}/run/act", ("act", "Start"));
        JsonNode state;
        do state = await stream.NextState();
        while (!state["started"]!.GetValue<bool>());
        Assert.True(state["running"]!.GetValue<bool>());
        await staff.PostForm($"/courses/1/sessions/{meeting.Id}/run/act", ("act", "Next"));
        do state = await stream.NextState();
        while (state["index"]!.GetValue<int>() == 0);
        Assert.Equal("Gesture", state["items"]![1]!["name"]!.GetValue<string>());
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm($"/courses/1/sessions/{meeting.Id}/run/act", ("act", "Explode"))).StatusCode
        );
        await staff.PostForm($"/courses/1/sessions/{meeting.Id}/run/renew");
        Assert.Equal(HttpStatusCode.NotFound, (await App.Anonymous().GetAsync($"/room/{meeting.RoomSecret}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await App.Anonymous().GetAsync($"/room/{meeting.RoomSecret}/stream")).StatusCode);
    }

    [Fact]
    public async Task A_guessed_link_shows_nothing()
    {
        Assert.Equal(HttpStatusCode.NotFound, (await App.Anonymous().GetAsync("/room/0000")).StatusCode);
        var secret = await App.Read(db => db.Meetings.Select(m => m.RoomSecret).FirstAsync());
        Assert.Equal(40, secret.Length);
        var page = await App.Anonymous().Text($"/room/{secret}");
        Assert.DoesNotContain("Maren", page);
        Assert.DoesNotContain("Edda", page);
    }
}
