using System.Net;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using Xunit;

namespace MintHarbor.Web.Tests;

public sealed class AccountTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private HarborApp App => fixture.App;

    private const string Hollis = "hollis.brae@saltmarsh.example";

    private static async Task<HttpStatusCode> SignIn(HttpClient client, string mail, string password) =>
        (await client.PostForm("/sign-in", ("Mail", mail), ("Password", password))).StatusCode;

    private HttpClient From(string address)
    {
        var client = App.Anonymous();
        client.DefaultRequestHeaders.Add("X-Forwarded-For", address);
        return client;
    }

    [Fact]
    public async Task Wrong_passwords_stop_who_tries_them_and_not_the_person_they_are_tried_on()
    {
        var guessing = From("198.51.100.7");
        for (var n = 0; n < Access.Throttle.WrongPasswords; n++)
            Assert.Equal(HttpStatusCode.BadRequest, await SignIn(guessing, Hollis, $"wrong password {n}"));
        var stopped = await guessing.PostForm("/sign-in", ("Mail", Hollis), ("Password", Store.Demo.DemoStudio.Password));
        Assert.Equal(HttpStatusCode.TooManyRequests, stopped.StatusCode);
        Assert.Contains("Too many wrong passwords", await stopped.Content.ReadAsStringAsync());
        Assert.Equal(HttpStatusCode.Redirect, await SignIn(From("203.0.113.9"), Hollis, Store.Demo.DemoStudio.Password));
        // A new password, chosen through the mail, lets the same address in at once.
        await Renewed(guessing, Hollis, "gulls over wet slate");
        Assert.Equal(HttpStatusCode.Redirect, await SignIn(guessing, Hollis, "gulls over wet slate"));
    }

    private async Task Renewed(HttpClient client, string mail, string password)
    {
        await client.PostForm("/forgot", ("Mail", mail));
        var link = await App.Read(db =>
            db.Outbox.Where(m => m.To == mail && m.Subject == "A new password")
                .OrderByDescending(m => m.Id)
                .Select(m => m.Link)
                .FirstAsync()
        );
        var query = Microsoft.AspNetCore.WebUtilities.QueryHelpers.ParseQuery(new Uri("http://x" + link).Query);
        var done = await client.PostForm(
            "/reset",
            ("Mail", query["mail"].ToString()),
            ("Token", query["token"].ToString()),
            ("Password", password)
        );
        Assert.Equal(HttpStatusCode.Redirect, done.StatusCode);
    }

    /// <summary>The sign-in's cookie as somebody could have copied it, shown by another browser.</summary>
    private static HttpClient Copy(HarborApp app, HttpResponseMessage signedIn)
    {
        var cookie = signedIn.Headers.GetValues("Set-Cookie").First(c => c.StartsWith("harbor=", StringComparison.Ordinal)).Split(';')[0];
        var copy = app.CreateClient(new() { AllowAutoRedirect = false, HandleCookies = false });
        copy.DefaultRequestHeaders.Add("Cookie", cookie);
        return copy;
    }

    [Fact]
    public async Task Signing_out_ends_it_for_whoever_copied_the_cookie()
    {
        var client = App.Anonymous();
        var copy = Copy(App, await client.PostForm("/sign-in?handler=Demo", ("as", "edda@saltmarsh.example")));
        Assert.Equal(HttpStatusCode.OK, (await copy.GetAsync("/courses")).StatusCode);
        var answer = await client.PostForm("/sign-out");
        Assert.Equal("\"cache\"", answer.Headers.GetValues("Clear-Site-Data").Single());
        var after = await copy.GetAsync("/courses");
        Assert.Equal(HttpStatusCode.Redirect, after.StatusCode);
        Assert.StartsWith("/sign-in", after.Headers.Location!.PathAndQuery());
    }

    [Fact]
    public async Task A_new_password_ends_every_other_sign_in_and_says_so_by_mail()
    {
        const string mail = "pim.orrery@saltmarsh.example";
        await Make(mail, "Pim Orrery");
        var (here, elsewhere) = (App.Anonymous(), App.Anonymous());
        Assert.Equal(HttpStatusCode.Redirect, await SignIn(elsewhere, mail, Store.Demo.DemoStudio.Password));
        Assert.Equal(HttpStatusCode.Redirect, await SignIn(here, mail, Store.Demo.DemoStudio.Password));
        Assert.Contains("End the other one", await here.Text("/account"));
        var wrong = await here.PostForm("/account/password", ("password", "not it at all"), ("next", "seven grey herons"));
        Assert.Equal(HttpStatusCode.BadRequest, wrong.StatusCode);
        var done = await here.PostForm("/account/password", ("password", Store.Demo.DemoStudio.Password), ("next", "seven grey herons"));
        Assert.Equal("/account?done=password", done.Headers.Location!.OriginalString);
        Assert.Equal(HttpStatusCode.OK, (await here.GetAsync("/account")).StatusCode);
        Assert.Equal(HttpStatusCode.Redirect, (await elsewhere.GetAsync("/account")).StatusCode);
        Assert.True(await App.Read(db => db.Outbox.AnyAsync(m => m.To == mail && m.Subject == "Your password was changed")));
        // Renewed through the mail by somebody who is not signed in, all end.
        await Renewed(App.Anonymous(), mail, "eight grey herons");
        Assert.Equal(HttpStatusCode.Redirect, (await here.GetAsync("/account")).StatusCode);
    }

    private async Task Make(string mail, string name)
    {
        await using var scope = App.Services.CreateAsyncScope();
        var made = await scope
            .ServiceProvider.GetRequiredService<UserManager<Person>>()
            .CreateAsync(
                new()
                {
                    UserName = mail,
                    Email = mail,
                    Name = name,
                },
                Store.Demo.DemoStudio.Password
            );
        Assert.True(made.Succeeded, string.Join(' ', made.Errors.Select(e => e.Description)));
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task Staying_signed_in_is_a_choice(bool stay)
    {
        var answer = await App.Anonymous()
            .PostForm(
                "/sign-in",
                ("Mail", "maren.holt@saltmarsh.example"),
                ("Password", Store.Demo.DemoStudio.Password),
                ("Stay", stay ? "true" : "false")
            );
        var cookie = answer.Headers.GetValues("Set-Cookie").Single(c => c.StartsWith("harbor=", StringComparison.Ordinal));
        Assert.Equal(stay, cookie.Contains("expires", StringComparison.OrdinalIgnoreCase));
    }

    [Theory]
    [InlineData(false, 13, false)]
    [InlineData(false, 11, true)]
    [InlineData(true, 24 * 29, true)]
    [InlineData(true, 24 * 31, false)]
    public async Task A_sign_in_that_lies_idle_ends(bool stays, int hours, bool holds)
    {
        await using var scope = App.Services.CreateAsyncScope();
        var (db, clock) = (scope.ServiceProvider.GetRequiredService<HarborContext>(), new SetClock());
        var person = await db.Users.Where(p => p.Email == "jun.averill@saltmarsh.example").Select(p => p.Id).SingleAsync();
        var actions = new Store.Actions.SignInActions(db, clock);
        var id = await actions.Begin(person, stays);
        clock.Now += NodaTime.Duration.FromHours(hours);
        Assert.Equal(holds, await actions.Holds(id, person));
        Assert.Equal(holds, (await actions.Of(person)).Any(s => s.Id == id));
        if (holds)
            Assert.Equal(clock.Now, (await actions.Of(person)).Single(s => s.Id == id).SeenAt);
        Assert.False(await actions.Holds(id, person + 1));
    }

    private sealed class SetClock : NodaTime.IClock
    {
        public NodaTime.Instant Now { get; set; } = NodaTime.Instant.FromUtc(2031, 3, 4, 18, 0);

        public NodaTime.Instant GetCurrentInstant() => Now;
    }

    [Theory]
    [InlineData("password123", true)]
    [InlineData("1234567890", true)]
    [InlineData("qwertyuiop", true)]
    [InlineData("orrery2026", true)]
    [InlineData("seven grey herons", false)]
    public void A_password_that_is_tried_first_is_refused(string password, bool refused) =>
        Assert.Equal(
            refused,
            Access.GuessedPasswords.Guessed(password, new() { Name = "Pim Orrery", Email = "pim.orrery@saltmarsh.example" })
        );

    [Fact]
    public async Task Name_and_mail_are_changed_while_signed_in()
    {
        const string mail = "wen.tarn@saltmarsh.example",
            other = "wen@tarn.example";
        await Make(mail, "Wen Tarn");
        var client = App.Anonymous();
        await SignIn(client, mail, Store.Demo.DemoStudio.Password);
        Assert.Equal(HttpStatusCode.BadRequest, (await client.PostForm("/account/name", ("name", "Wen\r\nBcc: all"))).StatusCode);
        Assert.Equal(HttpStatusCode.Redirect, (await client.PostForm("/account/name", ("name", "Wen of the Tarn"))).StatusCode);
        Assert.Contains("Wen of the Tarn", await client.Text("/account"));
        var refused = await client.PostForm("/account/mail", ("mail", "no mail at all"), ("password", Store.Demo.DemoStudio.Password));
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        Assert.Contains("value=\"no mail at all\"", await refused.Content.ReadAsStringAsync());
        await client.PostForm("/account/mail", ("mail", other), ("password", Store.Demo.DemoStudio.Password));
        // Nothing changes before the new address was read.
        Assert.Contains(mail, await client.Text("/account"));
        var link = await App.Read(db => db.Outbox.Where(m => m.To == other).Select(m => m.Link).SingleAsync());
        var query = Microsoft.AspNetCore.WebUtilities.QueryHelpers.ParseQuery(new Uri("http://x" + link).Query);
        var stranger = await App.AsNamed("Bram Sedge");
        (string, string)[] form = [("to", query["to"].ToString()), ("token", query["token"].ToString())];
        Assert.Equal(HttpStatusCode.BadRequest, (await stranger.PostForm("/account/new-mail", form)).StatusCode);
        Assert.Equal("/account?done=confirmed", (await client.PostForm("/account/new-mail", form)).Headers.Location!.OriginalString);
        Assert.Equal(HttpStatusCode.Redirect, await SignIn(App.Anonymous(), other, Store.Demo.DemoStudio.Password));
        Assert.Equal(HttpStatusCode.BadRequest, await SignIn(App.Anonymous(), mail, Store.Demo.DemoStudio.Password));
    }

    [Fact]
    public async Task Mails_and_invitations_have_a_number()
    {
        var client = From("198.51.100.71");
        for (var n = 0; n < Access.Limits.MailsAnHour; n++)
            Assert.Equal(HttpStatusCode.OK, (await client.PostForm("/forgot", ("Mail", $"nobody{n}@example.org"))).StatusCode);
        var over = await client.PostForm("/forgot", ("Mail", "nobody@example.org"));
        Assert.Equal(HttpStatusCode.TooManyRequests, over.StatusCode);
        Assert.Contains("Wait some minutes", await over.Content.ReadAsStringAsync());
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/forgot")).StatusCode);

        var edda = await App.As("edda@saltmarsh.example");
        string List(int from, int count) =>
            "name,mail\n" + string.Concat(Enumerable.Range(from, count).Select(n => $"Number {n},number{n}@example.org\n"));
        Task<HttpResponseMessage> Take(string csv) => edda.PostForm("/courses/1/students/import", ("csv", csv), ("take", "true"));
        var sent = await App.Read(db =>
            db.Invitations.CountAsync(i =>
                i.CourseId == 1 && i.SentAt > NodaTime.SystemClock.Instance.GetCurrentInstant() - NodaTime.Duration.FromDays(1)
            )
        );
        // A list has its own limit; the day's stands above it.
        for (var left = Store.Actions.CourseActions.MostInvitationsADay - sent - 1; left > 0; left -= 100)
            Assert.Equal(HttpStatusCode.Redirect, (await Take(List(left * 1000, Math.Min(left, 100)))).StatusCode);
        var refused = await Take(List(900_000, 2));
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        Assert.Contains("300 a day", await refused.Content.ReadAsStringAsync());
        Assert.Equal(HttpStatusCode.Redirect, (await Take(List(950_000, 1))).StatusCode);
    }

    [Fact]
    public async Task Who_tries_out_secret_links_is_not_answered_for_a_while()
    {
        var guessing = From("198.51.100.44");
        for (var n = 0; n < Access.Throttle.WrongLinks; n++)
            Assert.Equal(HttpStatusCode.NotFound, (await guessing.GetAsync($"/room/{n:x40}")).StatusCode);
        Assert.Equal(HttpStatusCode.TooManyRequests, (await guessing.GetAsync("/room/abc")).StatusCode);
        // A display that asks again and again for a link that ended is no guessing.
        var display = From("198.51.100.45");
        for (var n = 0; n < Access.Throttle.WrongLinks + 5; n++)
            Assert.Equal(HttpStatusCode.NotFound, (await display.GetAsync("/room/ended")).StatusCode);
    }

    [Fact]
    public async Task A_form_sent_after_the_sign_in_ended_comes_back_to_its_page()
    {
        var client = await App.AsNamed("Bram Sedge");
        var sheet = await App.Read(db =>
            db.Sheets.Where(s => s.Student.Email == "bram.sedge@saltmarsh.example" && s.ReleasedAt != null)
                .Select(s => new { s.Id, s.CourseId })
                .FirstAsync()
        );
        var page = $"/courses/{sheet.CourseId}/critique/{sheet.Id}";
        var token = await client.TokenFor();
        await App.Read(db => db.SignedIns.ExecuteUpdateAsync(u => u.SetProperty(s => s.EndedAt, s => s.SeenAt)));
        await using var node = new HarborApp(App.Connection);
        foreach (
            var (header, value, to) in new[]
            {
                ("Referer", "http://localhost" + page, page),
                ("Referer", "http://elsewhere.example/trap", page),
                ("X-Nothing", "", page),
                ("HX-Request", "true", page),
            }
        )
        {
            var request = new HttpRequestMessage(HttpMethod.Post, page + "/answer")
            {
                Content = new FormUrlEncodedContent([new("answer", "I see it now"), new("__RequestVerificationToken", token)]),
            };
            request.Headers.Add("Cookie", await Cookie());
            request.Headers.Add(header, value);
            var answer = await node.CreateClient(new() { AllowAutoRedirect = false, HandleCookies = false }).SendAsync(request);
            var location =
                header == "HX-Request" ? answer.Headers.GetValues("HX-Redirect").Single() : answer.Headers.Location!.PathAndQuery();
            Assert.Equal($"/sign-in?ReturnUrl={Uri.EscapeDataString(to)}", location);
        }

        async Task<string> Cookie()
        {
            var answer = await App.Anonymous().PostForm("/sign-in?handler=Demo", ("as", "bram.sedge@saltmarsh.example"));
            await App.Read(db => db.SignedIns.ExecuteUpdateAsync(u => u.SetProperty(s => s.EndedAt, s => s.SeenAt)));
            return answer.Headers.GetValues("Set-Cookie").First(c => c.StartsWith("harbor=", StringComparison.Ordinal)).Split(';')[0];
        }
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
        var course = await client.PostForm("/courses/new", Doors.CourseForm("Monday lines"));
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
