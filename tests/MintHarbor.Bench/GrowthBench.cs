using System.Diagnostics;
using System.Net;
using MintHarbor.Web.Tests;
using Npgsql;

namespace MintHarbor.Bench;

/// <summary>Every page again with ten and fifty times the demo's courses, people and work in the same database.</summary>
public sealed class GrowthBench(Report report, bool quick)
{
    private static readonly (string Who, string[] Pages)[] Visits =
    [
        (
            "edda@saltmarsh.example",
            [
                "today",
                "sessions",
                "sessions/6",
                "sessions/6/run",
                "sessions/4/card",
                "sessions/plan",
                "sessions/6/seat",
                "sessions/4/class",
                "sessions/lists",
                "practice",
                "projects",
                "projects/1",
                "critique",
                "critique/1/bench",
                "students",
                "ladder",
                "shelf",
                "settings",
            ]
        ),
        ("maren.holt@saltmarsh.example", ["today", "sessions/6", "practice", "practice/daily", "projects", "critique", "critique/submit"]),
    ];

    public async Task Run()
    {
        var connection = await TestDatabase.Demo();
        var one = await Times(connection);
        var past = 1;
        foreach (var factor in quick ? new[] { 10 } : [10, 50])
        {
            await Multiply(connection, past, factor);
            past = factor;
            var now = await Times(connection);
            var worst = one.Keys.Select(p => (Page: p, Ratio: now[p] / one[p])).MaxBy(p => p.Ratio);
            report.Add(
                "growth",
                $"worst of {one.Count} pages at {factor} × the data, over 1 ×",
                worst.Ratio,
                "×",
                atMost: factor == 10 ? 1.5 : null,
                note: $"{worst.Page}: {now[worst.Page]:0.0} ms"
            );
            report.Add("growth", $"mean of them at {factor} ×", one.Keys.Average(p => now[p] / one[p]), "×");
        }
    }

    private async Task<Dictionary<string, double>> Times(string connection)
    {
        await using var app = new HarborApp(connection);
        var times = new Dictionary<string, double>();
        foreach (var (who, pages) in Visits)
        {
            using var client = await app.As(who);
            foreach (var page in pages)
            {
                var runs = new double[quick ? 9 : 31];
                for (var n = -3; n < runs.Length; n++)
                {
                    var watch = Stopwatch.StartNew();
                    using var answer = await client.GetAsync($"/courses/1/{page}");
                    await answer.Content.ReadAsByteArrayAsync();
                    if (answer.StatusCode != HttpStatusCode.OK)
                        throw new InvalidOperationException($"{page}: {answer.StatusCode}");
                    if (n >= 0)
                        runs[n] = watch.Elapsed.TotalMilliseconds;
                }
                Array.Sort(runs);
                times[$"{page} as {who.Split('@')[0]}"] = runs[runs.Length / 4];
            }
        }
        return times;
    }

    /// <summary>Copies every course with its people and all their work, from <paramref name="from"/> to <paramref name="to"/> times
    /// what was there; pictures are shared.</summary>
    private static async Task Multiply(string connection, int from, int to)
    {
        await using var c = new NpgsqlConnection(connection);
        await c.OpenAsync();
        var columns = new List<(string Table, string Column, string Type)>();
        await using (
            var ask = new NpgsqlCommand(
                "select table_name, column_name, data_type from information_schema.columns where table_schema = 'public' and is_generated = 'NEVER' order by table_name, ordinal_position",
                c
            )
        )
        await using (var r = await ask.ExecuteReaderAsync())
            while (await r.ReadAsync())
                columns.Add((r.GetString(0), r.GetString(1), r.GetString(2)));
        string[] order =
        [
            "people",
            "courses",
            "memberships",
            "long_poses",
            "meetings",
            "projects",
            "project_works",
            "sheets",
            "assignments",
            "drill_rounds",
            "pose_readings",
            "seatings",
            "presences",
            "room_notes",
            "templates",
            "rung_moves",
            "invitations",
            "outbox",
        ];
        string[] unique = ["room_secret", "token", "email", "normalized_email", "user_name", "normalized_user_name", "mail"];
        for (var k = from; k < to; k++)
        {
            var offset = k * 1_000_000;
            await using var all = c.CreateBatch();
            all.BatchCommands.Add(new("set session_replication_role = replica"));
            foreach (var table in order)
            {
                var own = columns.Where(x => x.Table == table).ToList();
                var values = own.Select(x =>
                    x switch
                    {
                        { Type: "integer" } when x.Column == "id" || x.Column.EndsWith("_id", StringComparison.Ordinal) =>
                            $"{x.Column} + {offset}",
                        { Type: "uuid" } => $"md5({x.Column}::text || '{k}')::uuid",
                        _ when unique.Contains(x.Column) => $"'{k}' || {x.Column}",
                        _ => $"\"{x.Column}\"",
                    }
                );
                var first = own[0].Column;
                all.BatchCommands.Add(
                    new(
                        $"insert into {table} ({string.Join(", ", own.Select(x => $"\"{x.Column}\""))}) select {string.Join(", ", values)} from {table} where {first} < 1000000"
                    )
                );
            }
            await all.ExecuteNonQueryAsync();
        }
        await using var vacuum = new NpgsqlCommand("vacuum analyze", c) { CommandTimeout = 300 };
        await vacuum.ExecuteNonQueryAsync();
    }
}
