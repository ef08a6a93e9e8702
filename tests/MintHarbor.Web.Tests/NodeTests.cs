using System.Net;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store;
using Npgsql;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>The application as processes of its own: two over one database, moved by back-up and restore, measured from outside.</summary>
[Collection(nameof(Nodes))]
public sealed class NodeTests
{
    [Fact]
    public async Task Two_nodes_over_one_database_share_sign_in_clock_and_display()
    {
        var connection = await TestDatabase.Demo();
        await using var first = await Node.Start(connection);
        await using var second = await Node.Start(connection);
        var cookies = new CookieContainer();
        HttpClient At(Node node) =>
            new(new SocketsHttpHandler { AllowAutoRedirect = false, CookieContainer = cookies }) { BaseAddress = node.Address };
        using var one = At(first);
        using var two = At(second);
        // Signed in at the first: cookies don't know ports, and the second reads them by the keys in the database.
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await one.PostForm("/sign-in", ("Mail", "edda@saltmarsh.example"), ("Password", Store.Demo.DemoStudio.Password))).StatusCode
        );
        Assert.Equal(HttpStatusCode.OK, (await two.GetAsync("/courses/1/today")).StatusCode);
        var (id, secret) = await Meeting(connection);
        using var display = second.Client();
        using var answer = await display.GetAsync($"/room/{secret}/stream", HttpCompletionOption.ResponseHeadersRead);
        using var stream = new StreamReader(await answer.Content.ReadAsStreamAsync());
        Assert.False((await stream.NextState())["started"]!.GetValue<bool>());
        // A form fetched at one node and sent to the other.
        var token = await one.TokenFor();
        using var act = new HttpRequestMessage(HttpMethod.Post, $"/courses/1/sessions/{id}/run/act")
        {
            Content = new FormUrlEncodedContent([KeyValuePair.Create("act", "Start"), KeyValuePair.Create("seen", "0")]),
        };
        act.Headers.Add("RequestVerificationToken", token);
        Assert.Equal(HttpStatusCode.Redirect, (await two.SendAsync(act)).StatusCode);
        JsonNode state;
        do state = await stream.NextState();
        while (!state["started"]!.GetValue<bool>());
        await one.PostForm($"/courses/1/sessions/{id}/run/act", ("act", "Next"), ("seen", "1"));
        do state = await stream.NextState();
        while (state["index"]!.GetValue<int>() == 0);
        Assert.True(state["running"]!.GetValue<bool>());
    }

    private static async Task<(int Id, string Secret)> Meeting(string connection)
    {
        var options = new DbContextOptionsBuilder<HarborContext>();
        StoreSetup.Configure(options, connection);
        await using var db = new HarborContext(options.Options);
        var m = await db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 6);
        return (m.Id, m.RoomSecret);
    }

    private static string Differ(string a, string b)
    {
        var at = a.Zip(b).TakeWhile(p => p.First == p.Second).Count();
        return $"{a.Substring(Math.Max(0, at - 60), Math.Min(120, a.Length - Math.Max(0, at - 60)))}… to …{b.Substring(Math.Max(0, at - 60), Math.Min(120, b.Length - Math.Max(0, at - 60)))}";
    }

    [Fact]
    public async Task A_back_up_restored_shows_the_same_pages()
    {
        var connection = await TestDatabase.Demo();
        var file = Path.Combine(Path.GetTempPath(), $"harbor-{Guid.NewGuid():N}.dump");
        string[] pages =
        [
            "today",
            "sessions",
            "sessions/6",
            "critique",
            "critique/1/bench",
            "students",
            "projects",
            "shelf",
            "critique/1/picture/flat",
            "critique/1/picture/photo",
        ];
        async Task<List<string>> Read()
        {
            await using var node = await Node.Start(connection);
            using var client = await node.As("edda@saltmarsh.example");
            var all = new List<string>();
            foreach (var page in pages)
            {
                using var answer = await client.GetAsync($"/courses/1/{page}");
                Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
                var text = System.Text.Encoding.Latin1.GetString(await answer.Content.ReadAsByteArrayAsync());
                // Tokens are new on every answer; a row's version is the server's own count.
                all.Add(
                    page.Contains("picture")
                        ? text
                        : System.Text.RegularExpressions.Regex.Replace(
                            text,
                            "CfDJ8[\\w-]+|since\\?v=\\d+|name=\"once\" value=\"[^\"]+\"",
                            "#"
                        )
                );
            }
            return all;
        }
        try
        {
            var before = await Read();
            var kept = Checkout.Run("harbor", ["backup", file], ("HARBOR_DATABASE", TestDatabase.Address(connection)));
            Assert.True(kept.Code == 0, kept.Err);
            NpgsqlConnection.ClearAllPools();
            // Wiped: nothing of the studio is left.
            await using (var c = new NpgsqlConnection(connection))
            {
                await c.OpenAsync();
                await using var wipe = new NpgsqlCommand("drop schema public cascade; create schema public", c);
                await wipe.ExecuteNonQueryAsync();
            }
            NpgsqlConnection.ClearAllPools();
            var restored = Checkout.Run("harbor", ["restore", file], ("HARBOR_DATABASE", TestDatabase.Address(connection)));
            Assert.True(restored.Code == 0, restored.Err);
            var after = await Read();
            for (var n = 0; n < pages.Length; n++)
                Assert.True(before[n] == after[n], $"{pages[n]} reads otherwise after the restore, from …{Differ(before[n], after[n])}…");
            // A file that is no back-up harms nothing.
            await File.WriteAllTextAsync(file, "no dump");
            NpgsqlConnection.ClearAllPools();
            var wrong = Checkout.Run("harbor", ["restore", file], ("HARBOR_DATABASE", TestDatabase.Address(connection)));
            Assert.Equal(1, wrong.Code);
            Assert.Contains("is not a back-up", wrong.Err);
            Assert.Equal(after[0], (await Read())[0]);
        }
        finally
        {
            File.Delete(file);
        }
    }

    [Fact]
    public async Task Logs_and_figures_tell_of_the_server_and_of_nobody()
    {
        var metrics = Checkout.FreePort();
        await using var node = await Node.Start(
            await TestDatabase.Demo(),
            null,
            true,
            ("Logging__Console__FormatterName", "json"),
            ("Logging__LogLevel__MintHarbor.Web.RequestLog", "Information"),
            ("Harbor__MetricsPort", $"{metrics}")
        );
        using var client = await node.As("bram.sedge@saltmarsh.example");
        await client.PostForm("/sign-in", ("Mail", "maren.holt@saltmarsh.example"), ("Password", "not her password"));
        await client.PostFile(
            "/courses/1/critique/submit/send",
            "Form.Photo",
            BadFiles.Jpeg,
            "bram-at-home.jpg",
            ("Form.Question", "Is my knee right?"),
            ("Form.SelfReview", "Much holds."),
            ("Form.Exercise", "sitting"),
            ("Form.Pose", "standing"),
            ("Form.View", "front"),
            ("Form.Paper", "18x24in")
        );
        await client.PostFile(
            "/courses/1/critique/submit/send",
            "Form.Photo",
            BadFiles.Gif(),
            "bram-at-home.gif",
            ("Form.Question", "Is my knee right?")
        );
        await client.GetAsync("/courses/1/today?looking=for-bram");
        // The log is written a moment after the answer.
        SpinWait.SpinUntil(() => node.Said.Any(l => l.Contains("{course:int}/today")), 5000);
        var lines = node.Said.Where(l => l.StartsWith('{')).ToList();
        Assert.True(lines.Count > 5, string.Join('\n', node.Said));
        Assert.All(lines, l => Assert.NotNull(JsonNode.Parse(l)!["Category"]));
        Assert.Contains(lines, l => l.Contains("courses/{course:int}/today"));
        using var monitor = new HttpClient();
        var figures = await monitor.GetStringAsync($"http://127.0.0.1:{metrics}/metrics");
        Assert.Contains("http_request_duration_seconds", figures);
        Assert.Contains("harbor_uploads", figures);
        foreach (var word in new[] { "bram", "maren", "saltmarsh.example", "knee", "holds", "127.0.0.1", "looking" })
        {
            Assert.DoesNotContain(lines, l => l.Contains(word, StringComparison.OrdinalIgnoreCase));
            // The database's address is the server's own.
            if (word != "127.0.0.1")
                Assert.DoesNotContain(word, figures, StringComparison.OrdinalIgnoreCase);
        }
        // Not where visitors come in.
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync("/metrics")).StatusCode);
    }

    [Fact]
    public async Task Behind_a_proxy_on_this_machine_cookies_are_kept_to_the_secure_line()
    {
        await using var node = await Node.Start(await TestDatabase.Demo());
        using var client = node.Client();
        client.DefaultRequestHeaders.Add("X-Forwarded-Proto", "https");
        var answer = await client.GetAsync("/sign-in");
        Assert.Contains("secure", string.Join(';', answer.Headers.GetValues("Set-Cookie")), StringComparison.OrdinalIgnoreCase);
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/health/live")).StatusCode);
    }
}
