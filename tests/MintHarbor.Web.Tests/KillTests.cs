using System.Diagnostics;
using System.Net;
using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using Npgsql;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>The application and PostgreSQL are killed at random moments while people work. What was acknowledged is there
/// afterwards, once and whole. Short by default; HARBOR_SOAK=1 takes thirty kills of each.</summary>
[Collection(nameof(Nodes)), Trait("form", "long")]
public sealed class KillTests(ITestOutputHelper output)
{
    private static bool Long => Environment.GetEnvironmentVariable("HARBOR_SOAK") == "1";

    [Fact]
    public Task Nothing_is_lost_when_the_application_is_killed() => Run(Long ? 30 : 6, 11, async (studio, _) =>
        {
            studio.Node.Kill();
            await studio.Restart();
        });

    [Fact]
    public Task Nothing_is_lost_when_the_database_is_killed() => Run(Long ? 30 : 5, 12, async (studio, _) =>
        {
            studio.Cluster.Kill();
            studio.Cluster.Start();
            await studio.Node.Ready();
        });

    private async Task Run(int kills, int seed, Func<Studio, int, Task> kill)
    {
        await using var studio = await Studio.Open();
        var random = new Random(seed);
        Duty[] duties = [new Upload(studio), new Drag(studio), new Typing(studio), new Clock(studio), new Grading(studio)];
        foreach (var d in duties)
            await d.Begin();
        for (var n = 0; n < kills; n++)
        {
            using var over = new CancellationTokenSource();
            var work = duties.Select(d => d.Work(over.Token)).ToList();
            // A random moment, some time after one of them, in turn, got an answer.
            var (begun, awaited) = (Stopwatch.StartNew(), duties[n % duties.Length]);
            var wanted = awaited.Acknowledged + random.Next(1, 3);
            while (awaited.Acknowledged < wanted && begun.Elapsed < TimeSpan.FromSeconds(60))
                await Task.Delay(5);
            await Task.Delay(random.Next(400));
            var killing = kill(studio, n);
            await over.CancelAsync();
            await Task.WhenAll(work);
            await killing;
            foreach (var d in duties)
                await d.Verify();
        }
        foreach (var d in duties)
            output.WriteLine($"{d.GetType().Name}: {d.Acknowledged} acknowledged, {d.Broken} broken off");
        Assert.All(duties, d =>
            Assert.True(
                d.Acknowledged >= Math.Max(1, kills / 6),
                $"{d.GetType().Name} got only {d.Acknowledged} answers: too few to prove anything"
            )
        );
        Assert.True(duties.Sum(d => d.Broken) > 0, "no kill met a request on its way");
    }

    private sealed class Studio : IAsyncDisposable
    {
        public required Cluster Cluster { get; init; }
        public required Node Node { get; set; }
        public string Connection => Cluster.Connection("harbor");

        public static async Task<Studio> Open()
        {
            var cluster = new Cluster();
            // The demo goes over as a studio would move: by back-up and restore.
            var file = Path.Combine(Path.GetTempPath(), $"harbor-{Guid.NewGuid():N}.dump");
            try
            {
                foreach (
                    var (verb, address) in new[]
                    {
                        ("backup", TestDatabase.Address(await TestDatabase.Demo())),
                        ("restore", TestDatabase.Address(cluster.Connection("harbor"))),
                    }
                )
                {
                    var (code, said, err) = Checkout.Run("harbor", [verb, file], ("HARBOR_DATABASE", address));
                    Assert.True(code == 0, said + err);
                }
            }
            finally
            {
                File.Delete(file);
            }
            return new() { Cluster = cluster, Node = await Node.Start(cluster.Connection("harbor")) };
        }

        public async Task Restart() => Node = await Node.Start(Connection, Node.Address.Port);

        public async Task<T> Read<T>(Func<HarborContext, Task<T>> query)
        {
            var options = new DbContextOptionsBuilder<HarborContext>();
            StoreSetup.Configure(options, Connection);
            for (var tries = 0; ; tries++)
            {
                try
                {
                    await using var db = new HarborContext(options.Options);
                    return await query(db);
                }
                catch (Exception e)
                    when (tries < 5 && e is NpgsqlException or InvalidOperationException { InnerException: NpgsqlException })
                {
                    // Connections from before the kill are found dead one by one.
                    NpgsqlConnection.ClearAllPools();
                }
            }
        }

        public async ValueTask DisposeAsync()
        {
            await Node.DisposeAsync();
            NpgsqlConnection.ClearAllPools();
            Cluster.Dispose();
        }
    }

    /// <summary>One person at work: sends, and knows what was acknowledged and what was on its way.</summary>
    private abstract class Duty(Studio studio)
    {
        private HttpClient client = null!;

        protected Studio Studio => studio;
        protected abstract string Who { get; }
        public int Acknowledged { get; protected set; }
        public int Broken { get; private set; }

        public virtual async Task Begin() => client = await studio.Node.As(Who);

        /// <summary>Sends the same again until it is acknowledged, then goes on; stops at the first break.</summary>
        protected abstract Task<HttpResponseMessage> Send(HttpClient client);

        protected abstract void Took();

        public async Task Work(CancellationToken over)
        {
            while (!over.IsCancellationRequested)
            {
                try
                {
                    using var answer = await Send(client);
                    if (answer.StatusCode is HttpStatusCode.OK or HttpStatusCode.Redirect)
                    {
                        Took();
                        Acknowledged++;
                        continue;
                    }
                    Assert.True(
                        (int)answer.StatusCode >= 500 || answer.StatusCode == HttpStatusCode.Conflict,
                        $"{GetType().Name}: {answer.StatusCode}"
                    );
                }
                catch (Exception e) when (e is HttpRequestException or IOException or TaskCanceledException)
                {
                    // The line broke.
                }
                Broken++;
                return;
            }
        }

        public abstract Task Verify();
    }

    private sealed class Upload(Studio studio) : Duty(studio)
    {
        private readonly List<Guid> kept = [];
        private Guid key = Guid.NewGuid();
        protected override string Who => "bram.sedge@saltmarsh.example";

        protected override Task<HttpResponseMessage> Send(HttpClient client) =>
            client.PostFile(
                "/courses/1/critique/submit/send",
                "Form.Photo",
                BadFiles.Jpeg,
                "sheet.jpg",
                ("Form.Question", $"Kept {key}?"),
                ("Form.SelfReview", "Much holds."),
                ("Form.Exercise", "sitting"),
                ("Form.Pose", "standing"),
                ("Form.View", "front"),
                ("Form.Paper", "18x24in"),
                ("Form.Key", $"{key}")
            );

        protected override void Took()
        {
            kept.Add(key);
            key = Guid.NewGuid();
        }

        public override async Task Verify()
        {
            var sheets = await Studio.Read(db => db.Sheets.AsNoTracking().Where(s => s.UploadKey != null).ToListAsync());
            foreach (var k in kept)
                Assert.Single(sheets, s => s.UploadKey == k);
            // One that was on its way may be there, whole, but not twice.
            Assert.InRange(sheets.Count(s => s.UploadKey == key), 0, 1);
            var pictures = await Studio.Read(db => db.Pictures.AsNoTracking().ToDictionaryAsync(p => p.Hash, p => p.Bytes));
            foreach (var s in sheets)
            {
                Assert.Equal($"Kept {s.UploadKey}?", s.Question);
                foreach (var hash in new[] { s.PhotoHash, s.FlatHash! })
                    Assert.Equal(hash, Convert.ToHexStringLower(SHA256.HashData(pictures[hash])));
            }
        }
    }

    private sealed class Drag(Studio studio) : Duty(studio)
    {
        private int sheet,
            last,
            next = 1;
        protected override string Who => "edda@saltmarsh.example";

        public override async Task Begin()
        {
            await base.Begin();
            sheet = await Studio.Read(db =>
                db.Sheets.Where(s => s.Student.Name == "Maren Holt" && s.CourseId == 1).Select(s => s.Id).FirstAsync()
            );
        }

        protected override Task<HttpResponseMessage> Send(HttpClient client) =>
            client.PostForm($"/courses/1/critique/{sheet}/bench/place", ("id", "crown"), ("x", $"{100 + next}"), ("y", "40"));

        protected override void Took() => last = next++;

        public override async Task Verify()
        {
            var x = (await Studio.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.Id == sheet))).Landmarks["crown"].X - 100;
            Assert.True(last == 0 || x == last || x == next, $"the landmark lies at {x}; {last} was acknowledged, {next} on its way");
        }
    }

    private sealed class Typing(Studio studio) : Duty(studio)
    {
        private int sheet,
            last,
            next = 1;
        private string remark = "";
        protected override string Who => "lorne@saltmarsh.example";

        public override async Task Begin()
        {
            await base.Begin();
            (sheet, remark) = await Studio.Read(async db =>
            {
                var s = await db
                    .Sheets.AsNoTracking()
                    .Where(s => s.CourseId == 1 && s.State == SheetState.Drafted)
                    .OrderBy(s => s.Id)
                    .FirstAsync();
                return (s.Id, s.Remarks[0].Id);
            });
        }

        protected override Task<HttpResponseMessage> Send(HttpClient client) =>
            client.PostForm(
                $"/courses/1/critique/{sheet}/bench/change",
                ("remark", remark),
                ("where", "the head"),
                ("what", $"Said {next} times"),
                ("why", "so"),
                ("next", "measure")
            );

        protected override void Took() => last = next++;

        public override async Task Verify()
        {
            var what = (await Studio.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.Id == sheet)))
                .Remarks.Single(r => r.Id == remark)
                .What;
            Assert.True(
                last == 0 || what == $"Said {last} times" || what == $"Said {next} times",
                $"the remark says “{what}”; {last} was acknowledged, {next} on its way"
            );
        }
    }

    private sealed class Clock(Studio studio) : Duty(studio)
    {
        private readonly List<DateTime> acts = [];
        private int meeting;
        private string secret = "";
        protected override string Who => "edda@saltmarsh.example";

        private ClockAct Next =>
            acts.Count == 0 ? ClockAct.Start
            : acts.Count % 2 == 1 ? ClockAct.Pause
            : ClockAct.Resume;

        public override async Task Begin()
        {
            await base.Begin();
            (meeting, secret) = await Studio.Read(async db =>
            {
                var m = await db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 6);
                return (m.Id, m.RoomSecret);
            });
        }

        private DateTime sent;
        private double slack;

        protected override Task<HttpResponseMessage> Send(HttpClient client)
        {
            sent = DateTime.UtcNow;
            return client.PostForm($"/courses/1/sessions/{meeting}/run/act", ("act", $"{Next}"), ("seen", $"{acts.Count}"));
        }

        /// <summary>By the test's own watch, when the answer came; it was taken at some moment since it was sent.</summary>
        protected override void Took()
        {
            acts.Add(DateTime.UtcNow);
            slack += (acts[^1] - sent).TotalSeconds;
        }

        private double Elapsed()
        {
            var seconds = 0.0;
            for (var n = 0; n < acts.Count; n += 2)
                seconds += ((n + 1 < acts.Count ? acts[n + 1] : DateTime.UtcNow) - acts[n]).TotalSeconds;
            return seconds;
        }

        public override async Task Verify()
        {
            var clock = (await Studio.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == meeting))).Clock;
            // An act that broke off may have been taken: then it stands once, and the next try with the same count changes nothing.
            Assert.InRange(clock.Count, acts.Count, acts.Count + 1);
            // When it was taken, only the server knows.
            if (clock.Count > acts.Count)
                acts.Add(clock[^1].At.ToDateTimeUtc());
            Assert.Equal(
                Enumerable
                    .Range(0, clock.Count)
                    .Select(n =>
                        n == 0 ? ClockAct.Start
                        : n % 2 == 1 ? ClockAct.Pause
                        : ClockAct.Resume
                    ),
                clock.Select(e => e.Act)
            );
            var asked = DateTime.UtcNow;
            using var display = Studio.Node.Client();
            using var answer = await display.GetAsync($"/room/{secret}/stream", HttpCompletionOption.ResponseHeadersRead);
            using var stream = new StreamReader(await answer.Content.ReadAsStreamAsync());
            var state = await stream.NextState();
            var shown =
                state["items"]!.AsArray().Take(state["index"]!.GetValue<int>()).Sum(i => i!["seconds"]!.GetValue<double>())
                + state["into"]!.GetValue<double>();
            Assert.Equal(acts.Count > 0 && clock[^1].Act != ClockAct.Pause, state["running"]!.GetValue<bool>());
            // An act is taken some time before its answer comes, and so is what the display shows.
            var late = (DateTime.UtcNow - asked).TotalSeconds;
            Assert.InRange(Math.Abs(shown - Elapsed()), 0, 1.5 + slack + late);
        }
    }

    private sealed class Grading(Studio studio) : Duty(studio)
    {
        private int work,
            last = -1,
            next;
        protected override string Who => "edda@saltmarsh.example";

        public override async Task Begin()
        {
            await base.Begin();
            work = await Studio.Read(db =>
                db.ProjectWorks.Where(w => w.ReleasedAt == null && w.Project.CourseId == 1)
                    .OrderBy(w => w.Id)
                    .Select(w => w.Id)
                    .FirstAsync()
            );
        }

        protected override Task<HttpResponseMessage> Send(HttpClient client) =>
            client.PostForm($"/courses/1/projects/way/{work}/level", ("row", "proportion"), ("level", $"{next % 5}"));

        protected override void Took() => last = next++;

        public override async Task Verify()
        {
            var level = (await Studio.Read(db => db.ProjectWorks.AsNoTracking().SingleAsync(w => w.Id == work))).Levels.GetValueOrDefault(
                "proportion",
                -1
            );
            Assert.True(
                last < 0 || level == last % 5 || level == next % 5,
                $"the level is {level}; {last % 5} was acknowledged, {next % 5} on its way"
            );
        }
    }
}
