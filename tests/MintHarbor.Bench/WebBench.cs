using System.Collections.Concurrent;
using System.Data.Common;
using System.Diagnostics;
using System.Globalization;
using System.Net.Sockets;
using System.Text;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.Extensions.DependencyInjection;
using MintHarbor.Store;
using MintHarbor.Web.Tests;
using Npgsql;

namespace MintHarbor.Bench;

/// <summary>Pages against yardsticks on the same server: one that signs in the same way, sends the same SQL by plain Npgsql and
/// writes the same bytes; and a bare one that only writes them.</summary>
public sealed class WebBench(Report report, bool quick)
{
    private const string Instructor = "edda@saltmarsh.example",
        Student = "maren.holt@saltmarsh.example";
    private const int Concurrency = 16;

    public async Task Run()
    {
        var connection = await TestDatabase.Demo();
        var builder = new NpgsqlDataSourceBuilder(new NpgsqlConnectionStringBuilder(connection) { MaxPoolSize = 40 }.ConnectionString);
        builder.UseNodaTime();
        await using var source = builder.Build();
        var recorder = new Recorder();
        await using var app = new Yarded(connection, recorder, source);
        app.StartServer();
        var address = new Uri(app.ClientOptions.BaseAddress.ToString().Replace("localhost", "127.0.0.1"));
        var (client, cookie) = await PageTimes.Visitor(address, Instructor);
        var (student, crumbs) = await PageTimes.Visitor(address, Student);
        var sheet = await app.Read(db =>
            db.Sheets.Where(s => s.CourseId == 1 && s.Student.Name == "Maren Holt").OrderBy(s => s.Id).Select(s => s.Id).FirstAsync()
        );
        await Figures(address, client, cookie);
        await Displays(app, address, client);
        var (large, record) = await Large(source);
        // A term of fifteen.
        await client.PostForm(
            "/courses/1/sessions/term",
            ("first", DateTime.UtcNow.AddDays(120).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)),
            ("count", "5"),
            ("every", "1"),
            ("purpose", "Proportion")
        );
        foreach (
            var (name, path, by, with) in new[]
            {
                ("Today", "/courses/1/today"),
                ("sheet on the bench", $"/courses/1/critique/{sheet}/bench"),
                ("areas and edges of a sheet", $"/courses/1/critique/{sheet}/look"),
                ("contact sheet of sixty", $"/courses/{large}/critique/contact"),
                ("timetable", "/courses/1/sessions/6"),
                ("term of fifteen meetings", "/courses/1/sessions"),
                ("grade book of sixty students and twelve projects", $"/courses/{large}/projects/book"),
                ("a student's record over three terms", $"/courses/{large}/students/{record}"),
            }
                .Select(p => (p.Item1, p.Item2, client, cookie))
                .Append(("practice with 1,000 rounds on record", "/courses/1/practice", student, crumbs))
        )
        {
            await by.GetAsync(path);
            recorder.Begin();
            var body = await by.GetByteArrayAsync(path);
            app.Pages[path] = (recorder.End(), body);
            report.Add("pages", $"{name}: queries, Identity's included", app.Pages[path].Commands.Count, "", atMost: 6);
            var kinds = new[] { path, "/yardstick" + path, "/bare" + path };
            var rates = new double[3];
            var seconds = quick ? 1.0 : 4.0;
            foreach (var kind in kinds)
                await Rate(address, kind, with, quick ? 4 : 6);
            // In turns, so that what else the machine does falls on all alike.
            for (var round = 0; round < 3; round++)
            for (var k = 0; k < 3; k++)
                rates[k] += await Rate(address, kinds[k], with, seconds) / 3;
            report.Add(
                "pages",
                $"{name}: rate over the yardstick's",
                rates[0] / rates[1],
                "×",
                atLeast: 0.5,
                note: $"{rates[0]:0} to {rates[1]:0} a second, {body.Length / 1024} KB"
            );
            report.Add("pages", $"{name}: rate over a bare endpoint's", rates[0] / rates[2], "×", note: $"bare {rates[2]:0} a second");
        }
        await Fitting(app, client, "/courses/1/today");
    }

    /// <summary>A course of sixty students with twelve projects graded in every row, and one student with three terms behind them: a hundred
    /// sheets, as many rounds of drills, forty-five meetings; and one of the demo with a thousand rounds. Copied from the demo's rows by the database.</summary>
    /// <returns>The course, and the student.</returns>
    private static async Task<(int Course, int Student)> Large(NpgsqlDataSource source)
    {
        const string sql = """
            create temp table made as
                select nextval(pg_get_serial_sequence('courses', 'id'))::int as course;
            insert into courses
                select (jsonb_populate_record(c, jsonb_build_object('id', (select course from made), 'feed_secret', '', 'own_shelf', null))).*
                from courses c where c.id = 1;
            create temp table pupils as
                select nextval(pg_get_serial_sequence('people', 'id'))::int as id, n from generate_series(1, 60) n;
            insert into people
                select (jsonb_populate_record(p, jsonb_build_object('id', u.id, 'name', 'Student ' || u.n,
                    'email', 'student' || u.n || '@bench.example', 'normalized_email', 'STUDENT' || u.n || '@BENCH.EXAMPLE',
                    'user_name', 'student' || u.n || '@bench.example', 'normalized_user_name', 'STUDENT' || u.n || '@BENCH.EXAMPLE'))).*
                from people p cross join pupils u where p.email = 'maren.holt@saltmarsh.example';
            insert into memberships
                select (jsonb_populate_record(m, jsonb_build_object('course_id', (select course from made), 'person_id', u.id))).*
                from memberships m join people p on p.id = m.person_id cross join pupils u
                where m.course_id = 1 and p.email = 'maren.holt@saltmarsh.example';
            insert into memberships
                select (jsonb_populate_record(m, jsonb_build_object('course_id', (select course from made)))).*
                from memberships m join people p on p.id = m.person_id
                where m.course_id = 1 and p.email = 'edda@saltmarsh.example';
            create temp table plans as
                select nextval(pg_get_serial_sequence('projects', 'id'))::int as id, n from generate_series(1, 12) n;
            insert into projects
                select (jsonb_populate_record(p, jsonb_build_object('id', x.id, 'course_id', (select course from made), 'long_pose_id', null,
                    'name', 'Project ' || x.n))).*
                from projects p cross join plans x
                where p.id = (select min(id) from projects where course_id = 1 and template = 'portrait-from-sitter');
            insert into project_works
                select (jsonb_populate_record(w, jsonb_build_object('id', nextval(pg_get_serial_sequence('project_works', 'id')),
                    'project_id', x.id, 'student_id', u.id, 'graders', null,
                    'levels', (select jsonb_object_agg(r ->> 'id', (u.n + x.n) % 5) from jsonb_array_elements(p.plan -> 'rubric') r)))).*
                from project_works w cross join plans x join projects p on p.id = x.id cross join pupils u
                where w.id = (select min(id) from project_works);
            insert into sheets
                select (jsonb_populate_record(s, jsonb_build_object('id', nextval(pg_get_serial_sequence('sheets', 'id')),
                    'course_id', (select course from made), 'student_id', (select min(id) from pupils), 'meeting_id', null, 'work_id', null,
                    'redo_of_id', null, 'set_id', null, 'upload_key', null, 'submitted_at', now() - g * interval '9 days'))).*
                from sheets s, generate_series(1, 100) g
                where s.id = (select min(id) from sheets where course_id = 1 and jsonb_array_length(remarks) > 0);
            insert into sheets
                select (jsonb_populate_record(s, jsonb_build_object('id', nextval(pg_get_serial_sequence('sheets', 'id')),
                    'course_id', (select course from made), 'student_id', u.id, 'meeting_id', null, 'work_id', null,
                    'redo_of_id', null, 'set_id', null, 'upload_key', null, 'state', 'Waiting', 'released_at', null))).*
                from sheets s cross join pupils u
                where s.id = (select min(id) from sheets where course_id = 1 and technique is not null and state in ('Waiting', 'Drafted'));
            insert into drill_rounds
                select (jsonb_populate_record(r, jsonb_build_object('id', nextval(pg_get_serial_sequence('drill_rounds', 'id')),
                    'course_id', (select course from made), 'student_id', (select min(id) from pupils), 'assignment_id', null,
                    'started_at', now() - g * interval '9 days', 'finished_at', now() - g * interval '9 days'))).*
                from drill_rounds r, generate_series(1, 100) g
                where r.id = (select min(id) from drill_rounds where finished_at is not null);
            insert into drill_rounds
                select (jsonb_populate_record(r, jsonb_build_object('id', nextval(pg_get_serial_sequence('drill_rounds', 'id')),
                    'assignment_id', null, 'started_at', now() - g * interval '7 hours', 'finished_at', now() - g * interval '7 hours'))).*
                from drill_rounds r, generate_series(1, 1000) g
                where r.id = (select min(d.id) from drill_rounds d join people p on p.id = d.student_id
                    where d.finished_at is not null and d.course_id = 1 and p.email = 'maren.holt@saltmarsh.example');
            create temp table evenings as
                select nextval(pg_get_serial_sequence('meetings', 'id'))::int as id, n from generate_series(1, 45) n;
            insert into meetings
                select (jsonb_populate_record(m, jsonb_build_object('id', e.id, 'course_id', (select course from made), 'number', e.n,
                    'date', (now() - e.n * interval '20 days')::date, 'long_pose_id', null, 'room_secret', 'bench' || e.n, 'model_secret', ''))).*
                from meetings m cross join evenings e where m.id = (select min(id) from meetings where course_id = 1);
            insert into presences
                select (jsonb_populate_record(p, jsonb_build_object('meeting_id', e.id, 'person_id', (select min(id) from pupils)))).*
                from presences p cross join evenings e where p.ctid = (select min(ctid) from presences);
            select course, (select min(id) from pupils) from made;
            """;
        await using var connection = await source.OpenConnectionAsync();
        await using var reader = await new NpgsqlCommand(sql, connection).ExecuteReaderAsync();
        do
        {
            if (await reader.ReadAsync())
                return (reader.GetInt32(0), reader.GetInt32(1));
        } while (await reader.NextResultAsync());
        throw new InvalidOperationException("the large course was not made");
    }

    /// <summary>Fourteen sheets come in at once and are read beside the pages: what a page takes meanwhile, against what it takes else.</summary>
    private async Task Fitting(HarborApp app, HttpClient client, string page)
    {
        const int sheets = 14;
        await PageTimes.Of(client, page, 50);
        var quiet = await PageTimes.Of(client, page, quick ? 100 : 300);
        var ids = await app.Read(db =>
            db.Sheets.Where(s => s.FlatHash != null && s.Fit != null).OrderBy(s => s.Id).Select(s => s.Id).Take(sheets).ToListAsync()
        );
        var now = NodaTime.SystemClock.Instance.GetCurrentInstant();
        await app.Read(db =>
            db.Sheets.Where(s => ids.Contains(s.Id))
                .ExecuteUpdateAsync(u => u.SetProperty(s => s.FitSince, now).SetProperty(s => s.Fit, (Store.Model.FitState?)null))
        );
        app.Services.GetRequiredService<Store.Actions.IFitQueue>().Ring();
        var watch = Stopwatch.StartNew();
        var meanwhile = await PageTimes.Of(client, page, 0, () => app.Read(db => db.Sheets.AnyAsync(s => s.FitSince != null)));
        report.Add(
            "pages",
            $"{ids.Count} sheets read at once: p95 of Today over quiet",
            PageTimes.P95(meanwhile) / PageTimes.P95(quiet),
            "×",
            atMost: 1.3,
            note: $"{PageTimes.P95(quiet):0.0} to {PageTimes.P95(meanwhile):0.0} ms, a sheet in {watch.Elapsed.TotalSeconds / ids.Count:0.0} s"
        );
    }

    /// <summary>Thirty students ask for the view from their seats at once, nothing drawn before; and one view again and again, beside a
    /// file of its size.</summary>
    private async Task Figures(Uri address, HttpClient client, string cookie)
    {
        static string Seat(int n, string pose) =>
            FormattableString.Invariant($"/courses/1/figure/{pose}?body=male&kind=line&az={(n * 11) - 160}&d=3.2&eye=1.3&w=480&h=720");
        // What the process compiles once is compiled by other poses.
        foreach (var n in Enumerable.Range(0, 12))
            (await client.GetAsync(Seat(n, n % 2 == 0 ? "walk" : "kneel"))).EnsureSuccessStatusCode();
        var watch = Stopwatch.StartNew();
        await Task.WhenAll(
            Enumerable.Range(0, 30).Select(async n => (await client.GetAsync(Seat(n, "contrapposto"))).EnsureSuccessStatusCode())
        );
        report.Add("figure", "30 seat views at once, nothing kept", watch.Elapsed.TotalSeconds, "s", atMost: 4);
        var view = Seat(0, "contrapposto");
        var bytes = (await client.GetByteArrayAsync(view)).Length;
        var file = Path.Combine(StaticFolder, "figure-bench.svg");
        await File.WriteAllBytesAsync(file, await client.GetByteArrayAsync(view));
        var kinds = new[] { view, "/static/figure-bench.svg" };
        var rates = new double[2];
        foreach (var kind in kinds)
            await Rate(address, kind, cookie, quick ? 3 : 6);
        for (var round = 0; round < 3; round++)
        for (var k = 0; k < 2; k++)
            rates[k] += await Rate(address, kinds[k], cookie, quick ? 1 : 4) / 3;
        report.Add(
            "figure",
            "a kept view: rate over a static file's of its size",
            rates[0] / rates[1],
            "×",
            atLeast: 0.7,
            note: $"{rates[0]:0} to {rates[1]:0} a second, {bytes / 1024} KB"
        );
    }

    /// <summary>Two hundred displays follow one clock: from the act to the last of them, and what they cost while nothing happens.</summary>
    private async Task Displays(HarborApp app, Uri address, HttpClient client)
    {
        const int displays = 200;
        var secret = await app.Read(db => db.Meetings.Where(m => m.CourseId == 1 && m.Number == 6).Select(m => m.RoomSecret).SingleAsync());
        var id = await app.Read(db => db.Meetings.Where(m => m.RoomSecret == secret).Select(m => m.Id).SingleAsync());
        await client.PostForm($"/courses/1/sessions/{id}/run/act", ("act", "Start"));
        using var over = new CancellationTokenSource();
        using var many = new HttpClient(new SocketsHttpHandler { MaxConnectionsPerServer = displays })
        {
            BaseAddress = address,
            Timeout = Timeout.InfiniteTimeSpan,
        };
        var watch = Stopwatch.StartNew();
        var heard = new double[displays];
        var counts = new int[displays];
        var listening = Enumerable
            .Range(0, displays)
            .Select(n =>
                Task.Run(async () =>
                {
                    try
                    {
                        using var answer = await many.GetAsync(
                            $"/room/{secret}/stream",
                            HttpCompletionOption.ResponseHeadersRead,
                            over.Token
                        );
                        using var reader = new StreamReader(await answer.Content.ReadAsStreamAsync(over.Token));
                        while (await reader.ReadLineAsync(over.Token) is { } line)
                        {
                            if (!line.StartsWith("data:", StringComparison.Ordinal))
                                continue;
                            heard[n] = watch.Elapsed.TotalMilliseconds;
                            Interlocked.Increment(ref counts[n]);
                        }
                    }
                    catch (OperationCanceledException)
                    {
                        // The measuring is over.
                    }
                })
            )
            .ToArray();
        while (counts.Any(c => c == 0))
            await Task.Delay(20);
        var last = new List<double>();
        foreach (var act in new[] { "Next", "AddMinute", "Pause", "Resume", "AddMinute", "Next", "AddMinute" })
        {
            var before = counts.ToArray();
            var acted = watch.Elapsed.TotalMilliseconds;
            await client.PostForm($"/courses/1/sessions/{id}/run/act", ("act", act));
            while (counts.Zip(before).Any(c => c.First == c.Second))
                await Task.Delay(1);
            last.Add(heard.Max() - acted);
        }
        last.Sort();
        report.Add(
            "room",
            $"{displays} displays: from the act to the last of them",
            last[last.Count / 2],
            "ms",
            atMost: 250,
            note: $"worst of {last.Count}: {last[^1]:0} ms, the form's token asked for in between"
        );
        var spent = Process.GetCurrentProcess().TotalProcessorTime;
        await Task.Delay(TimeSpan.FromSeconds(quick ? 3 : 16));
        report.Add(
            "room",
            "processor share while they only listen",
            100 * (Process.GetCurrentProcess().TotalProcessorTime - spent).TotalSeconds / (quick ? 3 : 16),
            "%",
            note: "of one core, the listeners' own share included"
        );
        over.Cancel();
        await Task.WhenAll(listening);
    }

    /// <summary>Where the yardstick's static file lies.</summary>
    internal static readonly string StaticFolder = Directory.CreateTempSubdirectory("harbor-static").FullName;

    /// <summary>Answers a second over sixteen kept connections. The client reads bytes and looks for their end, no more, so that
    /// its own share of the two cores stays small.</summary>
    private static async Task<double> Rate(Uri address, string path, string cookie, double seconds)
    {
        var request = Encoding.ASCII.GetBytes($"GET {path} HTTP/1.1\r\nHost: {address.Authority}\r\nCookie: {cookie}\r\n\r\n");
        var watch = Stopwatch.StartNew();
        var counts = await Task.WhenAll(
            Enumerable
                .Range(0, Concurrency)
                .Select(_ =>
                    Task.Run(async () =>
                    {
                        using var tcp = new TcpClient { NoDelay = true };
                        await tcp.ConnectAsync(address.Host, address.Port);
                        var stream = tcp.GetStream();
                        var buffer = new byte[1 << 20];
                        var count = 0;
                        while (watch.Elapsed.TotalSeconds < seconds)
                        {
                            await stream.WriteAsync(request);
                            await Answer(stream, buffer);
                            count++;
                        }
                        return count;
                    })
                )
        );
        return counts.Sum() / watch.Elapsed.TotalSeconds;
    }

    private static async Task Answer(NetworkStream stream, byte[] buffer)
    {
        int have = 0,
            head = -1,
            length = -1;
        while (true)
        {
            var n = await stream.ReadAsync(buffer.AsMemory(have));
            if (n == 0)
                throw new IOException("the server hung up");
            have += n;
            if (head < 0)
            {
                head = buffer.AsSpan(0, have).IndexOf("\r\n\r\n"u8);
                if (head < 0)
                    continue;
                if (!buffer.AsSpan(0, have).StartsWith("HTTP/1.1 200"u8))
                    throw new IOException(Encoding.ASCII.GetString(buffer, 0, Math.Min(have, 200)));
                var at = buffer.AsSpan(0, head).IndexOf("Content-Length: "u8);
                if (at >= 0)
                    length = int.Parse(
                        Encoding.ASCII.GetString(buffer, at + 16, buffer.AsSpan(at).IndexOf((byte)'\r') - 16),
                        CultureInfo.InvariantCulture
                    );
            }
            if (length >= 0 ? have >= head + 4 + length : buffer.AsSpan(0, have).EndsWith("\r\n0\r\n\r\n"u8))
                return;
        }
    }

    /// <summary>Keeps the statements of one request.</summary>
    private sealed class Recorder : DbCommandInterceptor
    {
        private ConcurrentQueue<(string, NpgsqlParameter[])>? kept;

        public void Begin() => kept = new();

        public IReadOnlyList<(string Sql, NpgsqlParameter[] Parameters)> End()
        {
            var all = kept!.ToList();
            kept = null;
            return all;
        }

        public override ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
            DbCommand command,
            CommandEventData eventData,
            InterceptionResult<DbDataReader> result,
            CancellationToken ct = default
        )
        {
            kept?.Enqueue((command.CommandText, [.. command.Parameters.Cast<NpgsqlParameter>().Select(p => p.Clone())]));
            return base.ReaderExecutingAsync(command, eventData, result, ct);
        }
    }

    /// <summary>The application with the yardsticks in front of its own pages.</summary>
    private sealed class Yarded(string connection, Recorder recorder, NpgsqlDataSource source)
        : HarborApp(connection, demo: true, kestrel: true)
    {
        public ConcurrentDictionary<
            string,
            (IReadOnlyList<(string Sql, NpgsqlParameter[] Parameters)> Commands, byte[] Body)
        > Pages { get; } = new();

        protected override void ConfigureWebHost(IWebHostBuilder builder)
        {
            base.ConfigureWebHost(builder);
            builder.ConfigureServices(s =>
            {
                s.ConfigureDbContext<HarborContext>(o => o.AddInterceptors(recorder));
                s.AddSingleton<IStartupFilter>(new InFront(this, source));
            });
        }
    }

    private sealed class InFront(Yarded app, NpgsqlDataSource source) : IStartupFilter
    {
        public Action<IApplicationBuilder> Configure(Action<IApplicationBuilder> next) =>
            b =>
            {
                b.Map("/yardstick", y => y.Run(async http =>
                    {
                        var signed = await http.AuthenticateAsync(IdentityConstants.ApplicationScheme);
                        if (!signed.Succeeded || !app.Pages.TryGetValue(http.Request.Path, out var page))
                        {
                            http.Response.StatusCode = 401;
                            return;
                        }
                        await using (var c = await source.OpenConnectionAsync())
                        {
                            foreach (var (sql, parameters) in page.Commands)
                            {
                                await using var command = new NpgsqlCommand(sql, c);
                                foreach (var p in parameters)
                                    command.Parameters.Add(p.Clone());
                                await using var reader = await command.ExecuteReaderAsync();
                                while (await reader.ReadAsync()) { }
                            }
                        }
                        await Write(http, page.Body);
                    }));
                b.Map("/static", y =>
                    y.UseStaticFiles(
                        new StaticFileOptions { FileProvider = new Microsoft.Extensions.FileProviders.PhysicalFileProvider(StaticFolder) }
                    )
                );
                b.Map("/bare", y => y.Run(http => Write(http, app.Pages[http.Request.Path].Body)));
                next(b);
            };

        private static Task Write(HttpContext http, byte[] body)
        {
            http.Response.ContentType = "text/html; charset=utf-8";
            http.Response.ContentLength = body.Length;
            return http.Response.Body.WriteAsync(body).AsTask();
        }
    }
}
