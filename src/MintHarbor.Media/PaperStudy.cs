using System.Diagnostics;
using System.Globalization;
using MintHarbor.Core;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Simulation;

namespace MintHarbor.Media;

/// <summary>What became of many simulated photographs: each answer as it was read against the strokes as they were drawn.</summary>
public sealed class PaperTally
{
    public int Sheets { get; private set; }
    public int Found { get; private set; }

    /// <summary>Read under the number of another sheet.</summary>
    public int Mistaken { get; private set; }
    public int Answered { get; private set; }

    /// <summary>Of what was answered once: read right and scored; scored though wrong; left to a person though right; and though wrong.</summary>
    public int Right { get; private set; }
    public int Wrong { get; private set; }
    public int AskedNeedlessly { get; private set; }
    public int AskedRightly { get; private set; }
    public int Empty { get; private set; }
    public int EmptyScored { get; private set; }
    public int Twice { get; private set; }
    public int TwiceScored { get; private set; }
    public List<double> LeftOut { get; } = [];
    public List<double> ScaleOff { get; } = [];
    public List<double> Milliseconds { get; } = [];

    /// <summary>By measure how far the reading lies off, its own doubt, and whether it was scored.</summary>
    public Dictionary<string, List<(double Off, double Doubt, bool Scored)>> By { get; } = [];

    /// <summary>What was wrong, in a line each.</summary>
    public List<string> Notes { get; } = [];

    public void Add(string name, PencilledSheet drawn, PaperShot shot, DrillSheetReading? read, NoSheet? not, double milliseconds)
    {
        Sheets++;
        Milliseconds.Add(milliseconds);
        if (read is null)
        {
            Notes.Add($"{name}: {not}, {shot.Lie}");
            return;
        }
        if (read.Code != drawn.Sheet.Code)
        {
            Mistaken++;
            return;
        }
        Found++;
        LeftOut.Add(read.LeftOut);
        if (read.Scale is { } scale)
            ScaleOff.Add(100 * Math.Abs((scale / shot.Lie.Scale) - 1));
        for (var i = 0; i < drawn.Sheet.Items.Count; i++)
            Add($"{name}/{i}", drawn.Sheet.Items[i], shot.Truth[i], read.Items[i]);
    }

    private void Add(string name, PaperItem item, PaperTruth truth, ItemReading read)
    {
        string Line(string says) =>
            $"{name} {item.GetType().Name}: {says}; darkness {truth.Dark:0.00}{(truth.Erased ? ", one erased" : "")}; "
            + $"{read.State} {string.Join(", ", read.Flags)}";
        switch (truth.State)
        {
            case AnswerState.Empty:
                Empty++;
                EmptyScored += read.Counts ? 1 : 0;
                break;
            case AnswerState.Twice:
                Twice++;
                TwiceScored += read.Counts ? 1 : 0;
                break;
            default:
                Once(item, truth, read, Line);
                return;
        }
        if (read.Counts)
            Notes.Add(Line($"{(truth.State == AnswerState.Empty ? "empty" : "answered twice")}, yet scored"));
    }

    /// <summary>An item that was answered once.</summary>
    private void Once(PaperItem item, PaperTruth truth, ItemReading read, Func<string, string> line)
    {
        Answered++;
        var pairs = read.Scores.Count == truth.Scores.Count ? read.Scores.Zip(truth.Scores).ToList() : [];
        foreach (var (r, t) in pairs)
        {
            if (!By.TryGetValue(r.Measure, out var all))
                By[r.Measure] = all = [];
            all.Add((Off(item, r, t), r.Uncertainty * Unit(item, r.Measure), read.Counts));
        }
        var off = pairs.Where(p => !IsRight(item, p.First, p.Second)).ToList();
        var right = pairs.Count > 0 && off.Count == 0;
        if (read.Counts && right)
            Right++;
        else if (read.Counts)
        {
            Wrong++;
            Notes.Add(line(string.Join("; ", off.Select(p => $"{p.First.Measure} off by {Off(item, p.First, p.Second):0.00}"))));
        }
        else if (right)
            AskedNeedlessly++;
        else
            AskedRightly++;
        if (!read.Counts && read.State == AnswerState.Empty && read.Flags.Count == 0)
        {
            Missed++;
            Notes.Add(line("answered, read as empty"));
        }
    }

    /// <summary>Answers that were read as none, without a doubt: they count as silently wrong.</summary>
    public int Missed { get; private set; }

    public double SilentlyWrong => (double)(Wrong + Missed) / Math.Max(1, Answered);

    /// <summary>Envelopes are compared in millimetres.</summary>
    private static double Unit(PaperItem item, string measure) =>
        item is Envelope e ? (measure == Envelope.Wider ? e.True.X : e.True.Y) / 100 : 1;

    private static double Off(PaperItem item, ItemScore read, ItemScore truth) =>
        Math.Abs(read.Error - truth.Error) * Unit(item, read.Measure);

    /// <summary>A count says itself which of what it counts it can't tell.</summary>
    private static bool IsRight(PaperItem item, ItemScore read, ItemScore truth) =>
        Off(item, read, truth) <= Limit(read.Measure) + (read.Measure == PressureScale.BackSteps ? read.Uncertainty : 0);

    /// <summary>How far off a reading may be before it is wrong: 0.7 mm and 0.7° where an eye is measured, what a hand's steadiness wants else.</summary>
    public static double Limit(string measure) =>
        measure switch
        {
            "breaks" or "backsteps" => 0.5,
            "wobble" => 0.3,
            "overrun" => 1.2,
            "tone" => 3,
            "uneven-hatch" => 8,
            "uneven-steps" => 10,
            "negative-area" => 9,
            "spacing" => 0.25,
            "hatch-slant" => 3,
            "converging" => 1.5,
            _ => 0.7,
        };
}

/// <summary>Drill sheets printed, answered, photographed and read, all simulated.</summary>
public sealed class PaperStudy(PrintFaces faces)
{
    /// <summary>Odd numbers on Letter.</summary>
    public static DrillSheet Sheet(long number) => TrialSheets.Of(new(number, number % 2 == 1))!;

    /// <param name="from">The first seed; so many sheets with the seeds after it.</param>
    public PaperTally Run(PencilManner hand, CameraManner camera, long from, int count, int? width = null, Action<string>? say = null)
    {
        var tally = new PaperTally();
        for (var n = 0; n < count; n++)
        {
            var seed = from + n;
            var sheet = Sheet(seed);
            var drawn = PaperPencil.Answer(sheet, hand, seed * 31);
            var shot = PaperCamera.Take(drawn, camera, faces, (seed * 17) + 5, width: width);
            var (read, not, spent) = Read(shot.Jpeg);
            tally.Add($"{seed}", drawn, shot, read, not, spent);
            say?.Invoke($"{seed}: {(read is null ? $"{not}" : "read")} in {spent:0} ms");
        }
        return tally;
    }

    private (DrillSheetReading? Reading, NoSheet? Not, double Milliseconds) Read(byte[] jpeg)
    {
        using var photo = Photo.Read(jpeg);
        var grey = photo.Grey();
        var watch = Stopwatch.StartNew();
        var (reading, not) = Alone.Run(() => DrillSheetReader.Read(grey, TrialSheets.Of, s => DrillSheetPrint.Print(s, faces)));
        return (reading, not, watch.Elapsed.TotalMilliseconds);
    }

    /// <summary>The whole as a page of the study.</summary>
    public static IEnumerable<string> Table(PaperTally t)
    {
        static string Share(int part, int whole) => whole == 0 ? "–" : $"{100.0 * part / whole:0.0} %";
        yield return $"- sheets found and told: **{t.Found} of {t.Sheets}**, taken for another {t.Mistaken}";
        var asked = t.AskedNeedlessly + t.AskedRightly - t.Missed;
        yield return $"- answered once: {t.Answered}; right and scored {Share(t.Right, t.Answered)}, "
            + $"left to a person {Share(asked, t.Answered)} ({t.AskedNeedlessly} of them needlessly), "
            + $"**silently wrong {t.Wrong + t.Missed} ({100 * t.SilentlyWrong:0.00} %)**";
        yield return $"- empty: {t.Empty}, scored {t.EmptyScored}; answered twice: {t.Twice}, scored {t.TwiceScored}";
        yield return $"- a mark from where the others say: {Spread(t.LeftOut, "0.00", " mm")}";
        yield return $"- the printer's scale, where the page's edges are seen ({t.ScaleOff.Count}): {Spread(t.ScaleOff, "0.00", " %")}";
        yield return $"- one core: {Spread(t.Milliseconds, "0", " ms")} a sheet";
        yield return "";
        yield return "| measure | read | off, median | 95 % within | farthest | limit | scored, 95 % within | within its own doubt |";
        yield return "|---|---|---|---|---|---|---|---|";
        foreach (var m in PaperMeasures.All.Where(m => t.By.ContainsKey(m.Id)))
        {
            var all = t.By[m.Id];
            var scored = all.Where(x => x.Scored).ToList();
            var unit = m.Id is Envelope.Wider or Envelope.Taller ? " mm" : m.Unit;
            string At(IEnumerable<(double Off, double Doubt, bool Scored)> some, double share) =>
                $"{Samples.Quantile(some.Select(x => x.Off), share):0.00}";
            yield return $"| {m.Name}{(unit == "" ? "" : $",{unit}")} | {all.Count} | {At(all, 0.5)} | {At(all, 0.95)} | {At(all, 1)} "
                + $"| {PaperTally.Limit(m.Id):0.0#} | {At(scored, 0.95)} | {Share(scored.Count(x => x.Off <= x.Doubt), scored.Count)} |";
        }
    }

    private static string Spread(IReadOnlyList<double> values, string format, string unit)
    {
        string At(double share) => Samples.Quantile(values, share).ToString(format, CultureInfo.InvariantCulture);
        return $"median {At(0.5)}{unit}, 95 % within {At(0.95)}{unit}";
    }
}
