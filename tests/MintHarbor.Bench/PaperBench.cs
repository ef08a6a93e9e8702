using System.Diagnostics;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Tests;

namespace MintHarbor.Bench;

/// <summary>Thirty photographed drill sheets are handed in at once: what memory it takes, and what a page takes meanwhile.</summary>
public sealed partial class PaperBench(Report report, bool quick)
{
    private const int Photos = 30;
    private const string Paper = "/courses/1/practice/paper",
        Page = "/courses/1/today";

    [GeneratedRegex("printed=(\\d+)")]
    private static partial Regex Printed();

    public async Task Run()
    {
        await using var app = new HarborApp(await TestDatabase.Demo(), demo: true, kestrel: true);
        app.StartServer();
        var (edda, _) = await PageTimes.Visitor(
            new(app.ClientOptions.BaseAddress.ToString().Replace("localhost", "127.0.0.1")),
            "edda@saltmarsh.example"
        );
        var photos = await Taken(app, edda);
        await PageTimes.Of(edda, Page, 30);
        var quiet = await PageTimes.Of(edda, Page, quick ? 40 : 120);
        // What the camera took goes back first; only the photographs themselves stay.
        GC.Collect(2, GCCollectionMode.Aggressive, blocking: true, compacting: true);
        var before = Environment.WorkingSet;
        var (most, watch) = (before, Stopwatch.StartNew());
        var sent = Task.WhenAll(
            photos.Select((jpeg, n) => edda.PostFile(Paper + "/photo", "Form.Photo", jpeg, $"{n}.jpg", ("Form.Key", $"{Guid.NewGuid()}")))
        );
        var meanwhile = await PageTimes.Of(edda, Page, 0, async () =>
        {
            most = Math.Max(most, Environment.WorkingSet);
            return !sent.IsCompleted || await app.Read(db => db.PaperPhotos.AnyAsync(p => p.Outcome == PaperOutcome.Waiting));
        });
        foreach (var answer in await sent)
            answer.Dispose();
        var read = await app.Read(db => db.PaperPhotos.CountAsync(p => p.Outcome == PaperOutcome.Read && p.Name.EndsWith(".jpg")));
        var held = photos.Sum(p => p.LongLength);
        const double mb = 1024 * 1024;
        report.Add(
            "paper",
            $"{Photos} photographed sheets at once: memory at the most",
            (most - held) / mb,
            "MB",
            atMost: 1024,
            note: $"{(before - held) / mb:0} MB before, without the {held / mb:0} MB that the senders hold; {read} read in {watch.Elapsed.TotalSeconds:0} s"
        );
        report.Add(
            "paper",
            "p95 of Today meanwhile, over quiet",
            PageTimes.P95(meanwhile) / PageTimes.P95(quiet),
            "×",
            note: $"{PageTimes.P95(quiet):0.0} to {PageTimes.P95(meanwhile):0.0} ms, the worst {meanwhile[^1]:0} ms"
        );
    }

    /// <summary>Sheets for the whole class, answered by a pencil and photographed.</summary>
    private static async Task<List<byte[]>> Taken(HarborApp app, HttpClient by)
    {
        var faces = app.Services.GetRequiredService<IPaperPrints>().Faces;
        var photos = new List<byte[]>();
        while (photos.Count < Photos)
        {
            using var given = await by.PostForm(
                Paper + "/give",
                [.. "slant half tone contour".Split(' ').Select(d => ("Give.Drills", d)), ("Give.Paper", "a4")]
            );
            var batch = long.Parse(Printed().Match(given.Headers.Location!.OriginalString).Groups[1].Value, null);
            foreach (var s in await app.Read(db => db.PaperSheets.AsNoTracking().Where(s => s.Batch == batch).ToListAsync()))
                if (photos.Count < Photos)
                    photos.Add(
                        PaperCamera
                            .Take(
                                PaperPencil.Answer(s.Printed, PencilManner.Other, photos.Count, neat: true),
                                CameraManner.Other,
                                faces,
                                photos.Count
                            )
                            .Jpeg
                    );
        }
        return photos;
    }
}
