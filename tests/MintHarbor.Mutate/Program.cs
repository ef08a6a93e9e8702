using System.Diagnostics;
using System.Globalization;
using System.Text.RegularExpressions;
using Microsoft.CodeAnalysis.CSharp;
using MintHarbor.Mutate;

// ./harbor mutate [--most N] [--seed N] [Critiques Measuring Sessions Access]: changes the rules one by one and sees whether a test fails.
var areas = new Area[]
{
    new("Critiques", "src/MintHarbor.Core/Critiques", "Core", ["-namespace", "MintHarbor.Core.Tests.Critiques"]),
    new("Measuring", "src/MintHarbor.Core/Measuring", "Core", ["-namespace", "MintHarbor.Core.Tests.Critiques"]),
    new("Sessions", "src/MintHarbor.Core/Sessions", "Core", ["-namespace", "MintHarbor.Core.Tests.Sessions"]),
    new(
        "Access",
        "src/MintHarbor.Web/Access",
        "Web",
        [
            .. new[] { "AccessMatrix", "Secrecy", "House", "BadInput", "FigurePage" }.SelectMany(t =>
                new[] { "-class", $"MintHarbor.Web.Tests.{t}Tests" }
            ),
        ]
    ),
};
int Option(string name, int otherwise) =>
    Array.IndexOf(args, name) is var at and >= 0 && at + 1 < args.Length
        ? int.Parse(args[at + 1], CultureInfo.InvariantCulture)
        : otherwise;
var (most, seed) = (Option("--most", 60), Option("--seed", 1));
var wanted = areas.Where(a => args.Contains(a.Name)).DefaultIfEmpty().All(a => a is null)
    ? areas
    : [.. areas.Where(a => args.Contains(a.Name))];
var work = Directory.CreateTempSubdirectory("harbor-mutate-").FullName;
try
{
    Shell.Run("bash", ["-c", $"git ls-files -z | xargs -0 cp --parents -t '{work}'"], Environment.CurrentDirectory);
    foreach (var shipped in new[] { "src/MintHarbor.Web/wwwroot/lib", "src/MintHarbor.Web/wwwroot/css" })
        Shell.Run("cp", ["-r", shipped, Path.Combine(work, Path.GetDirectoryName(shipped)!)], Environment.CurrentDirectory);
    // Another calendar's reader, which a test asks, is a script's package.
    if (Directory.Exists("node_modules"))
        Directory.CreateSymbolicLink(Path.Combine(work, "node_modules"), Path.GetFullPath("node_modules"));
    var run = new MutationRun(work, most, seed);
    foreach (var area in wanted)
        run.Of(area);
    return 0;
}
finally
{
    Directory.Delete(work, true);
}

/// <summary>A folder of rules and the tests that guard it.</summary>
internal sealed record Area(string Name, string Folder, string Tests, string[] Which);

internal static class Shell
{
    public static (int Code, string Said) Run(
        string program,
        IEnumerable<string> args,
        string folder,
        int seconds = 600,
        params (string Name, string Value)[] environment
    )
    {
        var start = new ProcessStartInfo(program, args)
        {
            WorkingDirectory = folder,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        foreach (var (name, value) in environment)
            start.Environment[name] = value;
        using var p = Process.Start(start)!;
        var (said, err) = (p.StandardOutput.ReadToEndAsync(), p.StandardError.ReadToEndAsync());
        if (!p.WaitForExit(seconds * 1000))
        {
            p.Kill(true);
            return (-1, "");
        }
        return (p.ExitCode, said.Result + err.Result);
    }
}

internal sealed partial class MutationRun(string work, int most, int seed)
{
    [GeneratedRegex(@"(\S+\.cs)\((\d+),(\d+)\): error")]
    private static partial Regex Error();

    public void Of(Area area)
    {
        var files = Directory
            .GetFiles(Path.Combine(work, area.Folder), "*.cs")
            .Order(StringComparer.Ordinal)
            .ToDictionary(f => f, File.ReadAllText);
        File.WriteAllText(
            Path.Combine(work, "src/MintHarbor.Core/Mutation.cs"),
            """
            namespace MintHarbor.Core;

            public static class Mutation
            {
                private static readonly int Active = int.TryParse(System.Environment.GetEnvironmentVariable("HARBOR_MUTANT"), out var n) ? n : -1;

                public static bool Is(int n) => n == Active;
            }
            """
        );
        var mutants = Build(area, files);
        var program = Path.Combine(
            work,
            $"tests/MintHarbor.{area.Tests}.Tests/bin/Release/net10.0/linux-x64/MintHarbor.{area.Tests}.Tests"
        );
        var watch = Stopwatch.StartNew();
        var (whole, said) = Shell.Run(program, [.. area.Which, "-noLogo", "-noColor"], work);
        if (whole != 0)
            throw new InvalidOperationException($"the tests of {area.Name} fail without a mutant:\n{string.Join("\n", Failed(said))}");
        var limit = (int)(watch.Elapsed.TotalSeconds * 4) + 20;
        var survived = new List<Mutant>();
        Parallel.ForEach(
            mutants,
            new ParallelOptions { MaxDegreeOfParallelism = area.Tests == "Core" ? Environment.ProcessorCount : 1 },
            m =>
            {
                var (code, _) = Shell.Run(
                    program,
                    [.. area.Which, "-stopOnFail", "-noLogo", "-noColor"],
                    work,
                    limit,
                    ("HARBOR_MUTANT", $"{m.Id}")
                );
                if (code == 0)
                    lock (survived)
                        survived.Add(m);
            }
        );
        foreach (var (file, text) in files)
            File.WriteAllText(file, text);
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{area.Name}: {mutants.Count - survived.Count} of {mutants.Count} killed, {100.0 * (mutants.Count - survived.Count) / mutants.Count:0.0} %"
            )
        );
        foreach (var m in survived.OrderBy(m => m.File, StringComparer.Ordinal).ThenBy(m => m.Line))
            Console.WriteLine($"  {m.File}:{m.Line}  {m.Was}  →  {m.Becomes}");
    }

    /// <summary>What of a run tells which tests failed, and how.</summary>
    private static IEnumerable<string> Failed(string said)
    {
        var lines = said.Split('\n');
        return Enumerable
            .Range(0, lines.Length)
            .Where(n => lines[n].Contains("[FAIL]", StringComparison.Ordinal))
            .SelectMany(n => lines.Skip(n).Take(5));
    }

    /// <summary>Builds a sample of the mutants in one; those that don't compile are taken out and others take no place.</summary>
    private List<Mutant> Build(Area area, Dictionary<string, string> files)
    {
        var all = Written(files, Enumerable.Range(0, 1_000_000).ToHashSet(), write: false);
        var random = new Random(seed);
        var left = all.Select(m => m.Id).OrderBy(_ => random.Next()).Take(most).ToHashSet();
        for (var round = 0; round < 12; round++)
        {
            var mutants = Written(files, left, write: true);
            var (code, said) = Shell.Run(
                "dotnet",
                [
                    "build",
                    $"tests/MintHarbor.{area.Tests}.Tests",
                    "-c",
                    "Release",
                    "-v",
                    "quiet",
                    "--nologo",
                    "-p:TreatWarningsAsErrors=false",
                    "-p:NoWarn=CS0162%3BCS8602",
                ],
                work
            );
            if (code == 0)
                return mutants;
            var broken = Error()
                .Matches(said)
                .Select(m => (File: m.Groups[1].Value, Line: int.Parse(m.Groups[2].Value, CultureInfo.InvariantCulture)))
                .Distinct()
                .ToList();
            var gone = broken.SelectMany(b => OnLine(Path.IsPathRooted(b.File) ? b.File : Path.Combine(work, b.File), b.Line)).ToHashSet();
            if (gone.Count == 0)
                throw new InvalidOperationException(said);
            left.ExceptWith(gone);
        }
        throw new InvalidOperationException($"the mutants of {area.Name} don't compile");
    }

    private static IEnumerable<int> OnLine(string file, int line) =>
        Switched().Matches(File.ReadAllLines(file)[line - 1]).Select(m => int.Parse(m.Groups[1].Value, CultureInfo.InvariantCulture));

    [GeneratedRegex(@"Mutation\.Is\((\d+)\)")]
    private static partial Regex Switched();

    private List<Mutant> Written(Dictionary<string, string> files, IReadOnlySet<int> left, bool write)
    {
        var id = 0;
        var mutants = new List<Mutant>();
        foreach (var (file, text) in files)
        {
            var mutator = new Mutator(Path.GetRelativePath(work, file), () => id++, left);
            var changed = mutator.Visit(CSharpSyntaxTree.ParseText(text).GetRoot())!;
            mutants.AddRange(mutator.Mutants);
            if (write)
                File.WriteAllText(file, changed.ToFullString());
        }
        return mutants;
    }
}
