using System.Globalization;
using MintHarbor.Bench;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Simulation;
using MintHarbor.Web.Tests;

// ./harbor bench [--quick] [--only PART] [--out FILE], ./harbor study, ./harbor study --paper [SHEETS], ./harbor data
if (args is ["--study", ..])
{
    string? Of(string option) => Array.IndexOf(args, option) is var at and >= 0 && at + 1 < args.Length ? args[at + 1] : null;
    var own = Of("--seed") is null && Of("--sheets") is null && Of("--hand") is null;
    return StudyRun.Run(
        own ? args[1] : null,
        long.Parse(Of("--seed") ?? $"{StudyRun.Seed}", CultureInfo.InvariantCulture),
        int.Parse(Of("--sheets") ?? "400", CultureInfo.InvariantCulture),
        Of("--hand") ?? "own"
    );
}
if (args is ["--paper-study", ..])
    return PaperRun.Run(
        args is [_, _, ..] && int.TryParse(args[1], CultureInfo.InvariantCulture, out var count) ? count : 300,
        args is [_, _, _, ..] && long.TryParse(args[2], CultureInfo.InvariantCulture, out var from) ? from : PaperRun.Seed
    );
if (args is ["--technique-study", ..])
    return TechniqueStudy.Run(
        args is [_, "-", ..] ? null : "docs/study.md",
        args is [_, _, _, ..] && int.TryParse(args[2], CultureInfo.InvariantCulture, out var many) ? many : 200,
        args is [_, _, _, _, ..] && long.TryParse(args[3], CultureInfo.InvariantCulture, out var first) ? first : TechniqueStudy.Seed
    );
if (args is ["--data"])
{
    foreach (var (path, bytes) in ShippedData.Files(new StudioFigure(), new StudioHead()))
    {
        File.WriteAllBytes(path, bytes);
        Console.WriteLine(path);
    }
    return 0;
}
var quick = args.Contains("--quick");
string? After(string option) => Array.IndexOf(args, option) is var at and >= 0 && at + 1 < args.Length ? args[at + 1] : null;
var only = After("--only");
bool Wanted(string part) => only is null || only == part;

var calibration = Report.Calibrate();
Console.WriteLine($"{Environment.ProcessorCount} cores, .NET {Environment.Version}; calibration loop {calibration:0.0} ms");
var report = new Report();
if (Wanted("core"))
    CoreBench.Run(report, quick);
if (Wanted("pages"))
    await new WebBench(report, quick).Run();
if (Wanted("paper"))
    await new PaperBench(report, quick).Run();
if (Wanted("growth"))
    await new GrowthBench(report, quick).Run();
if (Wanted("browser"))
    await new BrowserBench(report, quick).Run();
if (Wanted("load") && !quick)
{
    var r = await Load.Run(await TestDatabase.Demo(), 30, 100);
    report.Add("load", $"{r.Students} photographs of 12 MP at once: failed", r.Failed, "", atMost: 0);
    report.Add("load", "the slowest of them answered after", r.Uploads[^1], "s", note: $"median {r.Uploads[r.Uploads.Count / 2]:0.0} s");
    report.Add(
        "load",
        $"the clock heard by {r.Displays} displays meanwhile, the latest",
        r.Delays[^1],
        "ms",
        atMost: 1000,
        note: $"median {r.Delays[r.Delays.Count / 2]:0} ms of {r.Delays.Count}"
    );
    report.Add("load", "the server's memory at most", r.PeakMegabytes, "MB", note: $"{r.BeforeMegabytes:0} MB before");
}
var after = Report.Calibrate();
Console.WriteLine($"calibration loop at the end {after:0.0} ms");
var file = After("--out") ?? "bench.json";
report.Write(file, (calibration + after) / 2);
Console.WriteLine($"Written to {file}.");
return report.AllMet ? 0 : 1;
