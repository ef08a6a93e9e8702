using System.Net;
using Microsoft.EntityFrameworkCore;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Many at once, in a short form; HARBOR_SOAK=1 takes the whole room.</summary>
[Collection(nameof(Nodes)), Trait("form", "long")]
public sealed class LoadTests(ITestOutputHelper output)
{
    private static bool Whole => Environment.GetEnvironmentVariable("HARBOR_SOAK") == "1";

    /// <summary>What the server may hold at most, MB.</summary>
    private const double Most = 900;

    [Fact]
    public async Task A_room_sends_its_photographs_while_the_clock_runs_on_every_display()
    {
        var r = await Load.Run(await TestDatabase.Demo(), Whole ? 30 : 8, Whole ? 400 : 30);
        output.WriteLine(
            $"{r.Students} photographs of 12 MP in {r.Seconds:0.0} s, the slowest {r.Uploads[^1]:0.0} s; {r.Displays} displays heard {r.Delays.Count} times, median {r.Delays[r.Delays.Count / 2]:0} ms, the latest {r.Delays[^1]:0} ms; memory {r.BeforeMegabytes:0} MB before, {r.PeakMegabytes:0} MB at most"
        );
        Assert.Equal(0, r.Failed);
        Assert.All(r.Delays, d => Assert.True(d < double.PositiveInfinity, "a display never heard of an act"));
        // Two photographs at a time are in memory; the rest wait on the line.
        Assert.True(r.PeakMegabytes <= Most, $"{r.PeakMegabytes:0} MB held, {r.BeforeMegabytes:0} MB before");
    }

    /// <summary>A photograph from before pictures for the screen were made on arrival: sixteen look at it at once, and it is opened once.</summary>
    [Fact]
    public async Task Sixteen_readers_of_one_large_photograph_open_it_once()
    {
        var database = await TestDatabase.Demo();
        var side = Whole ? 7000 : 3000;
        using (var large = new SkiaSharp.SKBitmap(side, side))
        {
            large.Erase(SkiaSharp.SKColors.Beige);
            using var data = large.Encode(SkiaSharp.SKEncodedImageFormat.Png, 90);
            await Load.Read(database, async db =>
            {
                db.Pictures.Add(
                    new()
                    {
                        Hash = "cafe",
                        ContentType = "image/png",
                        Width = side,
                        Height = side,
                        Bytes = data.ToArray(),
                    }
                );
                await db.SaveChangesAsync();
                await db.Sheets.Where(s => s.CourseId == 1).Take(1).ExecuteUpdateAsync(u => u.SetProperty(s => s.PhotoHash, "cafe"));
                return 0;
            });
        }
        var sheet = await Load.Read(database, db => db.Sheets.Where(s => s.PhotoHash == "cafe").Select(s => s.Id).SingleAsync());
        await using var node = await Node.Start(database);
        using var staff = await node.As(Doors.Instructor);
        var seen = await Task.WhenAll(Enumerable.Range(0, 16).Select(_ => staff.GetAsync($"/courses/1/critique/{sheet}/picture/photo")));
        Assert.All(seen, a => Assert.Equal(HttpStatusCode.OK, a.StatusCode));
        output.WriteLine($"{side} × {side} read by 16 at once: {node.PeakMegabytes:0} MB at most");
        Assert.True(node.PeakMegabytes <= Most, $"{node.PeakMegabytes:0} MB held");
    }

    [Fact]
    public async Task Hundreds_at_once_are_all_answered()
    {
        await using var node = await Node.Start(await TestDatabase.Demo());
        using HttpClient staff = await node.As(Doors.Instructor),
            student = await node.As(Doors.Victim);
        string[] pages = ["today", "sessions", "practice", "projects", "critique", "shelf"];
        for (var round = 0; round < 3; round++)
        {
            var answers = await Task.WhenAll(
                Enumerable
                    .Range(0, Whole ? 480 : 120)
                    .Select(n => (n % 2 == 0 ? staff : student).GetAsync($"/courses/1/{pages[n % pages.Length]}"))
            );
            Assert.All(answers, a => Assert.Equal(HttpStatusCode.OK, a.StatusCode));
        }
    }

    /// <summary>Posts whose bodies trickle in: they hold nothing that others need.</summary>
    [Fact]
    public async Task Slow_posts_keep_nobody_waiting()
    {
        await using var node = await Node.Start(await TestDatabase.Demo());
        using var staff = await node.As(Doors.Instructor);
        var slow = new List<System.Net.Sockets.TcpClient>();
        try
        {
            for (var n = 0; n < (Whole ? 300 : 60); n++)
            {
                var c = new System.Net.Sockets.TcpClient();
                await c.ConnectAsync(IPAddress.Loopback, node.Address.Port);
                slow.Add(c);
                await c.GetStream()
                    .WriteAsync(
                        System.Text.Encoding.ASCII.GetBytes(
                            $"POST /sign-in HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/x-www-form-urlencoded\r\nContent-Length: 4000\r\n\r\nMail="
                        )
                    );
            }
            var own = System.Diagnostics.Stopwatch.StartNew();
            for (var n = 0; n < 20; n++)
                Assert.Equal(HttpStatusCode.OK, (await staff.GetAsync("/courses/1/today")).StatusCode);
            output.WriteLine($"twenty pages beside {slow.Count} slow posts in {own.Elapsed.TotalSeconds:0.0} s");
            foreach (var c in slow)
                await c.GetStream().WriteAsync("a"u8.ToArray());
            Assert.Equal(HttpStatusCode.OK, (await staff.GetAsync("/courses/1/today")).StatusCode);
        }
        finally
        {
            slow.ForEach(c => c.Dispose());
        }
    }

    /// <summary>Posts that reach the actions with what no page sends; each is refused or done, none fails.</summary>
    [Fact]
    public async Task Odd_posts_reach_the_actions_and_none_fails()
    {
        await using var app = new HarborApp(await TestDatabase.Demo());
        var ids = await Doors.VictimIds(app);
        var doors = Doors
            .All(app)
            .Where(d => d.Method.Equals("POST", StringComparison.OrdinalIgnoreCase) && d.Keys.Contains("course"))
            .Where(d => d.Keys.All(k => k == "handler" || ids.ContainsKey(k)) && d.Handler is not "Remove" and not "End")
            .ToList();
        var clients = new[] { await app.As(Doors.Instructor), await app.As(Doors.Victim) };
        var chance = new Core.Geometry.SeededRandom(17);
        string[] odd =
        [
            "",
            "-1",
            "999999999999",
            "NaN",
            "1e308",
            "null",
            "\u202Eabc",
            "ä' or 1=1 --",
            "<b>x</b>",
            "0x10",
            "true",
            "[]",
            "٣",
            "a\r\nb",
            new('x', 5000),
        ];
        var (reached, wanted, problems) = (0, Whole ? 2700 : 300, new List<string>());
        for (var n = 0; reached < wanted && n < wanted * 4; n++)
        {
            var d = doors[n % doors.Count];
            var fields = Doors.Said.Select(f => (f.Name, chance.Next(3) == 0 ? odd[chance.Next(odd.Length)] : f.Value)).ToArray();
            var answer = await clients[n / doors.Count % 2].PostForm(Doors.Fill(d, ids), fields);
            var code = (int)answer.StatusCode;
            if (code >= 500)
                problems.Add($"{d.Route} {d.Handler}: {code}");
            // Not found and not allowed end before an action.
            if (code is not (404 or 403))
                reached++;
        }
        output.WriteLine($"{reached} odd posts reached an action");
        Assert.True(problems.Count == 0, string.Join('\n', problems.Distinct()));
        Assert.True(reached >= wanted, $"{reached} of {wanted}");
    }
}
