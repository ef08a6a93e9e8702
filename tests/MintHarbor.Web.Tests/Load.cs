using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Sessions;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using MintHarbor.Store;

namespace MintHarbor.Web.Tests;

/// <param name="Uploads">Seconds that each photograph took from the first byte to the answer, sorted.</param>
/// <param name="Delays">Milliseconds from each act on the clock to each display's hearing of it, sorted.</param>
/// <param name="PeakMegabytes">The most memory the server held.</param>
public sealed record LoadResult(
    int Students,
    int Displays,
    int Failed,
    IReadOnlyList<double> Uploads,
    IReadOnlyList<double> Delays,
    double BeforeMegabytes,
    double PeakMegabytes,
    double Seconds
);

/// <summary>An evening's end: everybody sends a photograph at once while the clock still runs on every display.</summary>
public static class Load
{
    public static async Task<LoadResult> Run(string connection, int students, int displays, int width = 3000, int height = 4000)
    {
        await using var node = await Node.Start(connection);
        var (clients, meeting, secret) = await Gather(node, connection, students);
        var shots = Enumerable
            .Range(0, 3)
            .Select(n =>
                StudioCamera
                    .Take(SimulatedHand.Draw("stand-male-0", PaperSize.Find("18x24in")!, 500, new(), 0.6, n + 1), width, height, n + 40)
                    .Jpeg
            )
            .ToList();
        using var over = new CancellationTokenSource();
        var heard = Enumerable.Range(0, displays).Select(_ => new ConcurrentQueue<(DateTime At, bool Running)>()).ToList();
        var listening = heard.Select(own => Listen(node, secret, own, over.Token)).ToList();
        using var staff = await node.As("edda@saltmarsh.example");
        await staff.PostForm($"/courses/1/sessions/{meeting}/run/act", ("act", "Start"));
        var before = node.PeakMegabytes;
        var watch = Stopwatch.StartNew();
        var failed = 0;
        var uploads = clients
            .Select(
                async (client, n) =>
                {
                    // No two files are the same: a few bytes after the picture's end.
                    byte[] file = [.. shots[n % shots.Count], .. Guid.NewGuid().ToByteArray()];
                    var own = Stopwatch.StartNew();
                    using var answer = await client.PostFile(
                        "/courses/1/critique/submit/send",
                        "Form.Photo",
                        file,
                        "sheet.jpg",
                        ("Form.Question", $"All at once, {n}?"),
                        ("Form.SelfReview", "Much holds."),
                        ("Form.Exercise", "sitting"),
                        ("Form.Pose", "standing"),
                        ("Form.View", "front"),
                        ("Form.Paper", "18x24in"),
                        ("Form.Key", $"{Guid.NewGuid()}")
                    );
                    if (answer.StatusCode != HttpStatusCode.Redirect)
                        Interlocked.Increment(ref failed);
                    return own.Elapsed.TotalSeconds;
                }
            )
            .ToList();
        var all = Task.WhenAll(uploads);
        var act = ClockAct.Pause;
        do
        {
            var answer = await staff.PostForm($"/courses/1/sessions/{meeting}/run/act", ("act", $"{act}"));
            if (answer.StatusCode != HttpStatusCode.Redirect)
                throw new InvalidOperationException($"the clock answered {answer.StatusCode}");
            act = act == ClockAct.Pause ? ClockAct.Resume : ClockAct.Pause;
            await Task.Delay(700);
        } while (!all.IsCompleted);
        var seconds = watch.Elapsed.TotalSeconds;
        var acts = (await Read(connection, db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == meeting))).Clock;
        // Until every display has heard the last act, or has had a minute for it.
        var last = acts[^1].At.ToDateTimeUtc();
        SpinWait.SpinUntil(() => heard.All(own => own.LastOrDefault().At >= last), TimeSpan.FromMinutes(1));
        await over.CancelAsync();
        await Task.WhenAll(listening);
        var delays = new List<double>();
        foreach (var one in heard)
        {
            foreach (var e in acts)
            {
                var (at, running) = (e.At.ToDateTimeUtc(), e.Act != ClockAct.Pause);
                var first = one.FirstOrDefault(h => h.At >= at && h.Running == running);
                // One that never hears of an act is as late as the whole evening.
                delays.Add(first == default ? double.PositiveInfinity : (first.At - at).TotalMilliseconds);
            }
        }
        return new(students, displays, failed, [.. (await all).Order()], [.. delays.Order()], before, node.PeakMegabytes, seconds);
    }

    private static async Task Listen(Node node, string secret, ConcurrentQueue<(DateTime, bool)> heard, CancellationToken over)
    {
        using var client = node.Client();
        try
        {
            using var answer = await client.GetAsync($"/room/{secret}/stream", HttpCompletionOption.ResponseHeadersRead, over);
            using var stream = new StreamReader(await answer.Content.ReadAsStreamAsync(over));
            while (true)
            {
                var running = (await stream.NextState(over))["running"]!.GetValue<bool>();
                heard.Enqueue((DateTime.UtcNow, running));
            }
        }
        catch (OperationCanceledException)
        {
            // The evening is over.
        }
    }

    /// <summary>Invites and signs in as many students as wanted, by the way they would come.</summary>
    private static async Task<(List<HttpClient> Clients, int Meeting, string Secret)> Gather(Node node, string connection, int students)
    {
        using var staff = await node.As("edda@saltmarsh.example");
        var list = "name,mail\n" + string.Concat(Enumerable.Range(0, students).Select(n => $"Student {n},load{n}@example.org\n"));
        await staff.PostForm("/courses/1/students/import", ("csv", list), ("take", "true"));
        var links = await Read(connection, db =>
            db.Outbox.Where(m => m.To.StartsWith("load")).OrderBy(m => m.Id).Select(m => m.Link).ToListAsync()
        );
        var clients = new List<HttpClient>();
        foreach (var link in links)
        {
            var client = node.Client();
            client.Timeout = TimeSpan.FromMinutes(5);
            await client.PostForm(link, ("Password", "tide and rope"));
            clients.Add(client);
        }
        var m = await Read(connection, db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 6));
        return (clients, m.Id, m.RoomSecret);
    }

    public static async Task<T> Read<T>(string connection, Func<HarborContext, Task<T>> query)
    {
        var options = new DbContextOptionsBuilder<HarborContext>();
        StoreSetup.Configure(options, connection);
        await using var db = new HarborContext(options.Options);
        return await query(db);
    }
}
