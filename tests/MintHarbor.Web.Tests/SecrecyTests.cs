using System.Net;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>What a stranger, another student or an old link could learn: nothing.</summary>
public sealed class SecrecyTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Instructor = "edda@saltmarsh.example";

    private HarborApp App => fixture.App;

    [Fact]
    public async Task The_sign_in_cookie_is_out_of_reach_of_scripts_and_of_plain_lines()
    {
        using var client = App.CreateClient(
            new WebApplicationFactoryClientOptions
            {
                AllowAutoRedirect = false,
                HandleCookies = true,
                BaseAddress = new("https://localhost"),
            }
        );
        var answer = await client.PostForm("/sign-in?handler=Demo", ("as", Instructor));
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        var cookie = answer
            .Headers.GetValues("Set-Cookie")
            .Single(c => c.StartsWith("harbor=", StringComparison.Ordinal))
            .ToLowerInvariant();
        foreach (var part in new[] { "httponly", "samesite=lax", "secure" })
            Assert.Contains(part, cookie);
        var form = (await client.GetAsync("/courses")).Headers.TryGetValues("Set-Cookie", out var set)
            ? string.Join(';', set).ToLowerInvariant()
            : "httponly";
        Assert.Contains("httponly", form);
    }

    [Theory]
    [
        InlineData("/sign-in"),
        InlineData("/courses/1/today"),
        InlineData("/nosuch"),
        InlineData("/room/0000"),
        InlineData("/health"),
        InlineData("/favicon.svg")
    ]
    public async Task Every_answer_carries_its_headers(string path)
    {
        var answer = await App.Anonymous().GetAsync(path);
        var policy = answer.Headers.GetValues("Content-Security-Policy").Single();
        foreach (
            var rule in new[]
            {
                "default-src 'none'",
                "script-src 'self'",
                "frame-ancestors 'none'",
                "base-uri 'none'",
                "form-action 'self'",
            }
        )
            Assert.Contains(rule, policy);
        Assert.DoesNotContain("unsafe", policy);
        Assert.Equal("nosniff", answer.Headers.GetValues("X-Content-Type-Options").Single());
        Assert.Equal("same-origin", answer.Headers.GetValues("Referrer-Policy").Single());
        Assert.False(answer.Headers.Contains("Server"));
        Assert.False(answer.Headers.Contains("X-Powered-By"));
    }

    [Fact]
    public async Task What_belongs_to_a_person_is_kept_by_no_cache()
    {
        var client = await App.As("maren.holt@saltmarsh.example");
        foreach (var page in new[] { "today", "critique", "projects", "practice" })
            Assert.Contains("no-store", (await client.GetAsync($"/courses/1/{page}")).Headers.CacheControl!.ToString());
    }

    [Fact]
    public async Task A_sheet_of_another_and_one_that_is_not_there_answer_the_same()
    {
        var client = await App.As("bram.sedge@saltmarsh.example");
        var other = await App.Read(db => db.Sheets.Where(s => s.Student.Name == "Maren Holt").Select(s => s.Id).FirstAsync());
        var elsewhere = await App.Read(db => db.Sheets.Where(s => s.CourseId != 1).Select(s => s.Id).FirstAsync());
        async Task<(HttpStatusCode, string, int)> Ask(string id)
        {
            App.Queries.Reset();
            var answer = await client.GetAsync($"/courses/1/critique/{id}");
            var text = await answer.Content.ReadAsStringAsync();
            // The page's own token differs from answer to answer.
            return (
                answer.StatusCode,
                System.Text.RegularExpressions.Regex.Replace(
                    text.Replace($"critique/{id}", "critique/#"),
                    "CfDJ8[\\w-]+|name=\"once\" value=\"[^\"]+\"",
                    ""
                ),
                App.Queries.Count
            );
        }
        // Who is signed in is asked once in some seconds; not in one of the answers that are compared.
        await Ask("987653");
        var nowhere = await Ask("987654");
        Assert.Equal(HttpStatusCode.NotFound, nowhere.Item1);
        Assert.Equal(nowhere, await Ask($"{other}"));
        Assert.Equal(nowhere, await Ask($"{elsewhere}"));
    }

    [Fact]
    public async Task A_mail_that_nobody_has_is_answered_like_a_wrong_password()
    {
        async Task<(HttpStatusCode, string)> Try(string mail)
        {
            var answer = await App.Anonymous().PostForm("/sign-in", ("Mail", mail), ("Password", "wrong and long"));
            return (
                answer.StatusCode,
                System.Text.RegularExpressions.Regex.Replace(
                    (await answer.Content.ReadAsStringAsync()).Replace(mail, "#"),
                    "CfDJ8[\\w-]+|name=\"once\" value=\"[^\"]+\"",
                    ""
                )
            );
        }
        Assert.Equal(await Try("nobody.here@example.org"), await Try("tove.arkle@saltmarsh.example"));
    }

    [Fact]
    public async Task A_room_link_ends_half_a_day_after_its_meeting_and_starting_the_clock_opens_it()
    {
        var (id, secret) = await App.Read(async db =>
        {
            var m = await db.Meetings.SingleAsync(m => m.CourseId == 1 && m.Number == 6);
            m.Date = new(2026, 1, 6);
            m.Acts.Clear();
            await db.SaveChangesAsync();
            return (m.Id, m.RoomSecret);
        });
        Assert.Equal(HttpStatusCode.NotFound, (await App.Anonymous().GetAsync($"/room/{secret}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await App.Anonymous().GetAsync($"/room/{secret}/stream")).StatusCode);
        var staff = await App.As(Instructor);
        Assert.Contains("its link ended 12 hours after", await staff.Text($"/courses/1/sessions/{id}/run"));
        await staff.PostForm($"/courses/1/sessions/{id}/run/act", ("act", "Start"));
        Assert.Equal(HttpStatusCode.OK, (await App.Anonymous().GetAsync($"/room/{secret}")).StatusCode);
        Assert.DoesNotContain("its link ended", await staff.Text($"/courses/1/sessions/{id}/run"));
    }

    [Fact]
    public void A_link_is_counted_from_the_meetings_end_and_from_the_last_act()
    {
        var meeting = new Store.Model.Meeting
        {
            Date = new(2026, 10, 24),
            StartsAt = new(19, 0),
            Minutes = 150,
        };
        // Half past nine in summer time is 19:30 UTC; the clocks go back in that night, which moves nothing.
        Assert.Equal(Instant.FromUtc(2026, 10, 25, 7, 30), meeting.RoomUntil("Europe/Berlin"));
        meeting.Acts = [new() { At = Instant.FromUtc(2026, 10, 24, 21, 0), Act = Core.Sessions.ClockAct.Next }];
        Assert.Equal(Instant.FromUtc(2026, 10, 25, 9, 0), meeting.RoomUntil("Europe/Berlin"));
    }

    [Fact]
    public async Task An_invitation_is_withdrawn_and_may_be_sent_again()
    {
        var staff = await App.As(Instructor);
        async Task<(int Id, string Link)> Latest() =>
            await App.Read(async db =>
                (
                    await db.Invitations.Where(i => i.Mail == "wren@example.org").Select(i => i.Id).SingleAsync(),
                    await db.Outbox.Where(m => m.To == "wren@example.org").OrderByDescending(m => m.Id).Select(m => m.Link).FirstAsync()
                )
            );
        await staff.PostForm("/courses/2/students/import", ("csv", "name,mail\nWren Salt,wren@example.org"), ("take", "true"));
        var (id, first) = await Latest();
        Assert.Equal(HttpStatusCode.OK, (await App.Anonymous().GetAsync(first)).StatusCode);
        // Not by way of another course.
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm("/courses/1/students/withdraw", ("invitation", $"{id}"))).StatusCode);
        Assert.Equal(HttpStatusCode.Redirect, (await staff.PostForm("/courses/2/students/withdraw", ("invitation", $"{id}"))).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await App.Anonymous().GetAsync(first)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await App.Anonymous().PostForm(first, ("Password", "tide and rope"))).StatusCode);
        Assert.DoesNotContain("Wren Salt", await staff.Text("/courses/2/students"));
        await staff.PostForm("/courses/2/students/import", ("csv", "name,mail\nWren Salt,wren@example.org"), ("take", "true"));
        var (_, second) = await Latest();
        Assert.NotEqual(first, second);
        Assert.Equal(HttpStatusCode.OK, (await App.Anonymous().GetAsync(second)).StatusCode);
        await App.Read(async db =>
            await db
                .Invitations.Where(i => i.Mail == "wren@example.org")
                .ExecuteUpdateAsync(u => u.SetProperty(i => i.Expires, Instant.FromUtc(2026, 1, 1, 0, 0)))
        );
        Assert.Equal(HttpStatusCode.NotFound, (await App.Anonymous().GetAsync(second)).StatusCode);
    }

    [Fact]
    public async Task A_return_address_leads_nowhere_else()
    {
        foreach (var to in new[] { "https://elsewhere.example/", "//elsewhere.example/", "/\\elsewhere.example", "javascript:alert(1)" })
        {
            var answer = await App.Anonymous()
                .PostForm(
                    "/sign-in?ReturnUrl=" + Uri.EscapeDataString(to),
                    ("Mail", "edda@saltmarsh.example"),
                    ("Password", Store.Demo.DemoStudio.Password)
                );
            Assert.Equal("/", answer.Headers.Location!.OriginalString);
        }
    }

    [Fact]
    public async Task What_belongs_to_a_person_is_kept_by_no_cache_on_the_way()
    {
        using var client = await fixture.App.As("edda@saltmarsh.example");
        foreach (var page in new[] { "/courses/1/today", "/courses/1/critique", "/courses/1/students" })
            Assert.True((await client.GetAsync(page)).Headers.CacheControl?.NoStore, page);
        // What is no form has the gate's word alone; a picture may be kept, and is asked for again.
        var grades = (await client.GetAsync("/courses/1/projects/1/csv")).Headers.CacheControl!;
        Assert.True(grades is { NoStore: true, Private: true }, grades.ToString());
        var sheet = await App.Read(db => db.Sheets.Where(x => x.CourseId == 1).Select(x => x.Id).FirstAsync());
        var picture = (await client.GetAsync($"/courses/1/critique/{sheet}/picture/small")).Headers.CacheControl!;
        Assert.True(picture is { NoCache: true, NoStore: false, Private: true }, picture.ToString());
    }

    [Theory]
    [InlineData("/courses/1/today?handler=Nothing")]
    [InlineData("/courses/1/sessions/plan?handler=Nothing")]
    public async Task A_handler_that_is_not_there_is_a_page_that_is_not_there(string address)
    {
        using var client = await fixture.App.As("edda@saltmarsh.example");
        Assert.Equal(System.Net.HttpStatusCode.NotFound, (await client.GetAsync(address)).StatusCode);
        Assert.Equal(System.Net.HttpStatusCode.NotFound, (await client.PostForm(address, ("a", "b"))).StatusCode);
    }
}
