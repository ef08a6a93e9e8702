using System.Net;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store.Model;
using Xunit;

namespace MintHarbor.Web.Tests;

public sealed class AccountTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private HarborApp App => fixture.App;

    [Fact]
    public async Task Too_many_wrong_passwords_lock_the_account_for_a_while()
    {
        var client = App.Anonymous();
        HttpResponseMessage? answer = null;
        for (var n = 0; n < 9; n++)
            answer = await client.PostForm("/sign-in", ("Mail", "hollis.brae@saltmarsh.example"), ("Password", $"wrong password {n}"));
        Assert.Contains("Too many wrong passwords", await answer!.Content.ReadAsStringAsync());
        var right = await client.PostForm(
            "/sign-in",
            ("Mail", "hollis.brae@saltmarsh.example"),
            ("Password", Store.Demo.DemoStudio.Password)
        );
        Assert.Equal(HttpStatusCode.BadRequest, right.StatusCode);
    }

    [Fact]
    public async Task A_password_is_renewed_through_the_outbox_and_the_link_works_once()
    {
        var client = App.Anonymous();
        var known = await client.PostForm("/forgot", ("Mail", "jun.averill@saltmarsh.example"));
        var unknown = await client.PostForm("/forgot", ("Mail", "nobody@example.org"));
        Assert.Equal(known.StatusCode, unknown.StatusCode);
        var link = await App.Read(db =>
            db.Outbox.Where(m => m.To == "jun.averill@saltmarsh.example" && m.CourseId == null).Select(m => m.Link).SingleAsync()
        );
        var query = Microsoft.AspNetCore.WebUtilities.QueryHelpers.ParseQuery(new Uri("http://x" + link).Query);
        (string, string)[] form =
        [
            ("Mail", query["mail"].ToString()),
            ("Token", query["token"].ToString()),
            ("Password", "a brand new one"),
        ];
        Assert.Equal(HttpStatusCode.Redirect, (await client.PostForm("/reset", form)).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await client.PostForm("/reset", form)).StatusCode);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await client.PostForm("/sign-in", ("Mail", "jun.averill@saltmarsh.example"), ("Password", "a brand new one"))).StatusCode
        );
    }

    [Fact]
    public async Task An_empty_studio_takes_its_first_instructor_and_then_no_other()
    {
        await using var app = new HarborApp(await TestDatabase.Empty(), demo: false);
        var client = app.Anonymous();
        Assert.Equal("/welcome", (await client.GetAsync("/")).Headers.Location!.OriginalString);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await client.PostForm("/welcome", ("Name", "Ada Rill"), ("Mail", "ada@example.org"), ("Password", "short"))).StatusCode
        );
        Assert.Equal(
            "/courses/new",
            (await client.PostForm("/welcome", ("Name", "Ada Rill"), ("Mail", "ada@example.org"), ("Password", "long enough now")))
                .Headers
                .Location!
                .OriginalString
        );
        Assert.Equal(HttpStatusCode.NotFound, (await app.Anonymous().GetAsync("/welcome")).StatusCode);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await app.Anonymous().PostForm("/sign-in?handler=Demo", ("as", "edda@saltmarsh.example"))).StatusCode
        );
        var course = await client.PostForm(
            "/courses/new",
            ("Form.Name", "Monday lines"),
            ("Form.Weekday", "Monday"),
            ("Form.StartsAt", "18:30"),
            ("Form.Minutes", "120"),
            ("Form.Approach", "Alternating"),
            ("Form.Paper", "A2"),
            ("Form.Canon", "academic"),
            ("Form.Zone", "Europe/Berlin")
        );
        Assert.True(course.StatusCode == HttpStatusCode.Redirect, await course.Content.ReadAsStringAsync());
        var path = course.Headers.Location!.OriginalString;
        foreach (var page in new[] { "today", "sessions", "practice", "projects", "critique", "students", "shelf", "sessions/plan" })
            Assert.Equal(HttpStatusCode.OK, (await client.GetAsync(path.Replace("students", page))).StatusCode);
        Assert.Contains("Nobody is in the course yet", await client.Text(path));
        var bad = await client.PostForm(
            "/courses/new",
            ("Form.Name", ""),
            ("Form.Minutes", "120"),
            ("Form.Paper", "A2"),
            ("Form.Canon", "academic"),
            ("Form.Zone", "Nowhere/Land")
        );
        Assert.Equal(HttpStatusCode.BadRequest, bad.StatusCode);
    }

    [Fact]
    public async Task Account_mails_are_not_shown_outside_the_demo()
    {
        await using var app = new HarborApp(await TestDatabase.Demo(), demo: false);
        var client = app.Anonymous();
        await client.PostForm("/forgot", ("Mail", "maren.holt@saltmarsh.example"));
        var staff = await app.As("edda@saltmarsh.example");
        var page = await staff.Text("/outbox");
        Assert.Contains("Join Evening figure", page);
        Assert.DoesNotContain("A new password", page);
    }
}
