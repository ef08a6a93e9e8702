using System.Diagnostics;
using System.Globalization;
using System.Text.Json;

namespace MintHarbor.Bench;

/// <param name="Target">What it is held against; null where it is only stated.</param>
/// <param name="Met">Whether it holds; null without a target.</param>
public sealed record Figure(string Part, string What, double Value, string Unit, string? Target, bool? Met, string? Note);

/// <summary>The run's figures: a table on the screen, a JSON file beside it.</summary>
public sealed class Report
{
    private readonly List<Figure> figures = [];

    public bool AllMet => figures.All(f => f.Met != false);

    public void Add(string part, string what, double value, string unit, double? atMost = null, double? atLeast = null, string? note = null)
    {
        var target =
            atMost is { } m ? $"≤ {m.ToString(CultureInfo.InvariantCulture)}"
            : atLeast is { } l ? $"≥ {l.ToString(CultureInfo.InvariantCulture)}"
            : null;
        bool? met =
            atMost is { } most ? value <= most
            : atLeast is { } least ? value >= least
            : null;
        var f = new Figure(part, what, Math.Round(value, 4), unit, target, met, note);
        figures.Add(f);
        Console.WriteLine(
            $"{f.Part, -10} {f.What, -58} {Say(value), 10} {f.Unit, -6} {f.Target, -8} {(met is null ? "" : met.Value ? "holds" : "MISSED"), -7}{f.Note}"
        );
    }

    private static string Say(double v) =>
        v.ToString(
            Math.Abs(v) switch
            {
                >= 100 => "0",
                >= 10 => "0.0",
                >= 1 => "0.00",
                _ => "0.000",
            },
            CultureInfo.InvariantCulture
        );

    private static readonly JsonSerializerOptions Indented = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    public void Write(string file, double calibration) =>
        File.WriteAllText(
            file,
            JsonSerializer.Serialize(
                new
                {
                    cores = Environment.ProcessorCount,
                    runtime = Environment.Version.ToString(),
                    calibrationMs = Math.Round(calibration, 1),
                    figures,
                },
                Indented
            )
        );

    /// <summary>A loop that does the same on every machine: absolute times are read beside it.</summary>
    public static double Calibrate() => Median(5, () =>
        {
            double sum = 0;
            for (var n = 1; n <= 20_000_000; n++)
                sum += Math.Sqrt(n) / (n + 1.0);
            if (sum < 0)
                throw new InvalidOperationException();
        });

    /// <summary>Median of single runs, ms, after two that are not counted.</summary>
    public static double Median(int runs, Action act)
    {
        act();
        act();
        var times = new double[runs];
        for (var n = 0; n < runs; n++)
        {
            var watch = Stopwatch.StartNew();
            act();
            times[n] = watch.Elapsed.TotalMilliseconds;
        }
        Array.Sort(times);
        return times[runs / 2];
    }
}
