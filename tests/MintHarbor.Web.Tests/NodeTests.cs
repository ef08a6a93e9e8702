using System.Net;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store;
using Npgsql;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>The application as processes of its own: two over one database, moved by back-up and restore, measured from outside.</summary>
public sealed class NodeTests
{
    private static async Task<JsonNode> Next(StreamReader stream)
    {
        using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(20));
        while (await stream.ReadLineAsync(limit.Token) is { } line)
            if (line.StartsWith("data:", StringComparison.Ordinal)) return JsonNode.Parse(line[5..])!;
        throw new InvalidOperationException("the stream ended");
    }

    [Fact]
    public async Task Two_nodes_over_one_database_share_sign_in_clock_and_display()
    {
        var connection = await TestDatabase.Demo();
        await using var first = await Node.Start(connection);
        await using var second = await Node.Start(connection);
        var cookies = new CookieContainer();
        HttpClient At(Node node) => new(new SocketsHttpHandler { AllowAutoRedirect = false, CookieContainer = cookies }) { BaseAddress = node.Address };
        using var one = At(first);
        using var two = At(second);
        // Signed in at the first: cookies don't know ports, and the second reads them by the keys in the database.
        Assert.Equal(HttpStatusCode.Redirect, (await one.PostForm("/sign-in", ("Mail", "edda@saltmarsh.example"), ("Password", Store.Demo.DemoStudio.Password))).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await two.GetAsync("/courses/1/today")).StatusCode);
        var (id, secret) = await Meeting(connection);
        using var display = second.Client();
        using var answer = await display.GetAsync($"/room/{secret}/stream", HttpCompletionOption.ResponseHeadersRead);
        using var stream = new StreamReader(await answer.Content.ReadAsStreamAsync());
        Assert.False((await Next(stream))["started"]!.GetValue<bool>());
        // A form fetched at one node and sent to the other.
        var token = await one.TokenFor();
        using var act = new HttpRequestMessage(HttpMethod.Post, $"/courses/1/sessions/{id}/run/act") { Content = new FormUrlEncodedContent([KeyValuePair.Create("act", "Start"), KeyValuePair.Create("seen", "0")]) };
        act.Headers.Add("RequestVerificationToken", token);
        Assert.Equal(HttpStatusCode.Redirect, (await two.SendAsync(act)).StatusCode);
        JsonNode state;
        do state = await Next(stream); while (!state["started"]!.GetValue<bool>());
        await one.PostForm($"/courses/1/sessions/{id}/run/act", ("act", "Next"), ("seen", "1"));
        do state = await Next(stream); while (state["index"]!.GetValue<int>() == 0);
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
        string[] pages = ["today", "sessions", "sessions/6", "critique", "critique/1/bench", "students", "projects", "shelf", "critique/1/picture/flat", "critique/1/picture/photo"];
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
                all.Add(page.Contains("picture") ? text : System.Text.RegularExpressions.Regex.Replace(text, "CfDJ8[\\w-]+|since\\?v=\\d+", "#"));
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
            for (var n = 0; n < pages.Length; n++) Assert.True(before[n] == after[n], $"{pages[n]} reads otherwise after the restore, from …{Differ(before[n], after[n])}…");
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
}
