using System.Diagnostics;
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
    public int Wrong => wrong;
    public int AskedNeedlessly { get; private set; }
    public int AskedRightly { get; private set; }
    public int Empty { get; private set; }
    public int EmptyScored => emptyScored;
    public int Twice { get; private set; }
    public int TwiceScored => twiceScored;
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
        if (truth.State == AnswerState.Empty)
        {
            Empty++;
            if (read.Counts)
                Note(ref emptyScored, name, item, truth, read, "empty, yet scored");
            return;
        }
        if (truth.State == AnswerState.Twice)
        {
            Twice++;
            if (read.Counts)
                Note(ref twiceScored, name, item, truth, read, "answered twice, yet scored");
            return;
        }
        Answered++;
        var pairs = read.Scores.Count == truth.Scores.Count ? read.Scores.Zip(truth.Scores).ToList() : [];
        foreach (var (r, t) in pairs)
        {
            if (!By.TryGetValue(r.Measure, out var all))
                By[r.Measure] = all = [];
            all.Add((Off(item, r, t), r.Uncertainty * Unit(item, r.Measure), read.Counts));
        }
        var right = pairs.Count == truth.Scores.Count && pairs.Count > 0 && pairs.All(p => IsRight(item, p.First, p.Second));
        if (read.Counts && right)
            Right++;
        else if (read.Counts)
            Note(
                ref wrong,
                name,
                item,
                truth,
                read,
                string.Join(
                    "; ",
                    pairs
                        .Where(p => !IsRight(item, p.First, p.Second))
                        .Select(p => $"{p.First.Measure} off by {Off(item, p.First, p.Second):0.00}")
                )
            );
        else if (right)
            AskedNeedlessly++;
        else
        {
            AskedRightly++;
            if (read.State == AnswerState.Empty)
                Notes.Add($"{name} {item.GetType().Name}: answered, read as empty; darkness {truth.Dark:0.00}");
        }
        if (!read.Counts && read.State == AnswerState.Empty && read.Flags.Count == 0)
            missed++;
    }

    private int wrong,
        emptyScored,
        twiceScored,
        missed;

    /// <summary>Answers that were read as none, without a doubt: they count as silently wrong.</summary>
    public int Missed => missed;

    public double SilentlyWrong => (double)(Wrong + Missed) / Math.Max(1, Answered);

    private void Note(ref int count, string name, PaperItem item, PaperTruth truth, ItemReading read, string says)
    {
        count++;
        Notes.Add(
            $"{name} {item.GetType().Name}: {says}; darkness {truth.Dark:0.00}{(truth.Erased ? ", one erased" : "")}; {read.State} {string.Join(", ", read.Flags)}"
        );
    }

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
        yield return $"- answered once: {t.Answered}; right and scored {Share(t.Right, t.Answered)}, left to a person {Share(t.AskedNeedlessly + t.AskedRightly - t.Missed, t.Answered)} ({t.AskedNeedlessly} of them needlessly), **silently wrong {t.Wrong + t.Missed} ({100 * t.SilentlyWrong:0.00} %)**";
        yield return $"- empty: {t.Empty}, scored {t.EmptyScored}; answered twice: {t.Twice}, scored {t.TwiceScored}";
        yield return $"- a mark from where the others say: median {Of(t.LeftOut, 0.5):0.00} mm, 95 % within {Of(t.LeftOut, 0.95):0.00}; the printer's scale, where the page's edges are seen ({t.ScaleOff.Count}): median {Of(t.ScaleOff, 0.5):0.00} %, 95 % within {Of(t.ScaleOff, 0.95):0.00}";
        yield return $"- one core: median {Of(t.Milliseconds, 0.5):0} ms a sheet, 95 % within {Of(t.Milliseconds, 0.95):0}";
        yield return "";
        yield return "| measure | read | off, median | 95 % within | farthest | limit | scored, 95 % within | within its own doubt |";
        yield return "|---|---|---|---|---|---|---|---|";
        foreach (var m in PaperMeasures.All.Where(m => t.By.ContainsKey(m.Id)))
        {
            var all = t.By[m.Id];
            var scored = all.Where(x => x.Scored).ToList();
            var unit = m.Id is Envelope.Wider or Envelope.Taller ? " mm" : m.Unit;
            yield return $"| {m.Name}{(unit == "" ? "" : $",{unit}")} | {all.Count} | {Of(all.Select(x => x.Off), 0.5):0.00} | {Of(all.Select(x => x.Off), 0.95):0.00} | {all.Max(x => x.Off):0.00} | {PaperTally.Limit(m.Id):0.0#} | {Of(scored.Select(x => x.Off), 0.95):0.00} | {Share(scored.Count(x => x.Off <= x.Doubt), scored.Count)} |";
        }
    }

    private static double Of(IEnumerable<double> values, double share)
    {
        var sorted = values.Order().ToList();
        return sorted.Count == 0 ? 0 : sorted[Math.Min(sorted.Count - 1, (int)(share * sorted.Count))];
    }
}
