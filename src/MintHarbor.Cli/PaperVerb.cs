using MintHarbor.Core;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Media;

namespace MintHarbor.Cli;

/// <summary>Trial of the reader with a printer, a pencil and a phone of one's own: prints trial sheets, reads a folder of photographs of them.</summary>
internal static class PaperVerb
{
    public const string Usage = "paper --print N FILE.pdf [--letter] [--from NUMBER] | paper DIR";
    private const int MostSheets = 60;

    /// <param name="faces">Folder of the printed pages' faces.</param>
    public static int Run(string[] args, string faces, TextWriter output, TextWriter errors)
    {
        using var print = new PrintFaces(faces);
        if (args is ["--print", var count, var file, .. var rest])
            return Print(count, file, rest, print, output, errors);
        if (args is [var folder] && Directory.Exists(folder))
            return Read(folder, print, output);
        errors.WriteLine($"Accepted: {Usage}");
        return 2;
    }

    private static int Print(string count, string file, string[] rest, PrintFaces faces, TextWriter output, TextWriter errors)
    {
        var from =
            Array.IndexOf(rest, "--from") is var at and >= 0 && at + 1 < rest.Length && long.TryParse(rest[at + 1], out var f) ? f : 1;
        if (!int.TryParse(count, out var n) || n is < 1 or > MostSheets || from < 0 || from + n > TrialSheets.End)
        {
            errors.WriteLine($"'{count}' sheets from {from}. Accepted: 1 to {MostSheets} sheets, numbers below {TrialSheets.End}.");
            return 2;
        }
        var letter = rest.Contains("--letter");
        var sheets = Enumerable.Range(0, n).Select(i => TrialSheets.Of(new(from + i, letter))!).ToList();
        File.WriteAllBytes(file, DrillSheetPrint.Pdf(sheets, faces));
        output.WriteLine(
            $"{Say.Plural(n, "trial sheet")} in {file}. Print them at 100 %, answer them, photograph each, and read the folder."
        );
        return 0;
    }

    private static int Read(string folder, PrintFaces faces, TextWriter output)
    {
        var read = 0;
        var scores = new List<ItemScore>();
        var files = Directory
            .EnumerateFiles(folder)
            .Where(f => Path.GetExtension(f).ToLowerInvariant() is ".jpg" or ".jpeg" or ".png" or ".webp")
            .Order()
            .ToList();
        output.WriteLine("file | sheet | mark off, mm | printed at | items: read, flagged, empty");
        foreach (var file in files)
        {
            output.Write($"{Path.GetFileName(file)} | ");
            if (One(file, faces, output) is not { } reading)
                continue;
            read++;
            scores.AddRange(reading.Items.Where(i => i.Counts).SelectMany(i => i.Scores));
        }
        output.WriteLine();
        output.WriteLine($"{read} of {Say.Plural(files.Count, "photograph")} read.");
        foreach (var s in PaperSummary.Of(scores))
            output.WriteLine(
                $"{s.Measure.Name}: {s.Says}; {Say.Plural(s.Count, "answer")}, read to ±{s.Measure.SayWidth(s.Doubt * Math.Sqrt(s.Count))}"
            );
        return 0;
    }

    private static DrillSheetReading? One(string file, PrintFaces faces, TextWriter output)
    {
        try
        {
            using var photo = Photo.Read(File.ReadAllBytes(file));
            var (reading, not) = DrillSheetReader.Read(photo.Grey(), TrialSheets.Of, s => DrillSheetPrint.Print(s, faces));
            output.WriteLine(reading is null ? Of(not) : Of(reading));
            return reading;
        }
        catch (InputException e)
        {
            output.WriteLine($"{e.Message}. Accepted: {e.Accepted}.");
            return null;
        }
    }

    private static string Of(NoSheet? not) =>
        not switch
        {
            NoSheet.Unknown => "a sheet, but none of the trial sheets",
            NoSheet.NotFlat => "a sheet that doesn't lie flat",
            _ => "no sheet is found",
        };

    private static string Of(DrillSheetReading reading)
    {
        var printed = reading.Scale is { } s ? Say.Number(100 * s, 1) + " %" : "not seen";
        int read = reading.Items.Count(i => i.Counts),
            flagged = reading.Items.Count(i => i.Asks),
            empty = reading.Items.Count(i => i is { State: AnswerState.Empty, Asks: false });
        return $"{reading.Code.Digits} | {Say.Number(reading.LeftOut, 2)} | {printed} | {read}, {flagged}, {empty}";
    }
}
