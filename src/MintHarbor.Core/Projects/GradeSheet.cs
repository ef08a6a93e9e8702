using System.Globalization;
using MintHarbor.Core.Courses;

namespace MintHarbor.Core.Projects;

/// <param name="Line">Line of the file, from 1.</param>
/// <param name="Levels">Level by row of the rubric; rows whose field is empty are left out.</param>
/// <param name="Error">What is wrong with the line; null when it can be taken.</param>
public sealed record GradeLine(int Line, string Mail, IReadOnlyDictionary<string, int> Levels, string? Error);

/// <summary>Levels of a class read from CSV: a heading line with mail and the names of rubric rows, in any order; other columns are passed
/// over. An empty field changes nothing.</summary>
public sealed record GradeSheet(IReadOnlyList<GradeLine> Lines, string? Error)
{
    public const int MostLines = 400;

    public bool CanTake => Error is null && Lines.Count > 0 && Lines.All(l => l.Error is null);

    /// <param name="mails">Mail addresses of the students who take part, in small letters.</param>
    public static GradeSheet Read(string text, IReadOnlyList<RubricRow> rubric, IReadOnlySet<string> mails)
    {
        using var csv = Roster.Open(text);
        if (!csv.Read() || !csv.ReadHeader())
            return new([], "The file is empty. Accepted: a heading line with mail and names of rows, then one student a line.");
        var heads = csv.HeaderRecord!.Select(h => h.Trim().ToLowerInvariant()).ToList();
        var mail = heads.FindIndex(h => h is "mail" or "email" or "e-mail");
        var rows = rubric.Select(r => (Row: r, At: heads.IndexOf(r.Name.ToLowerInvariant()))).Where(r => r.At >= 0).ToList();
        if (mail < 0 || rows.Count == 0)
            return new(
                [],
                $"The heading line has {Say.List([.. heads.Where(h => h != "")])}. Accepted: a column mail, and one or more of {string.Join(", ", rubric.Select(r => r.Name.ToLowerInvariant()))}."
            );
        var lines = new List<GradeLine>();
        var seen = new Dictionary<string, int>(StringComparer.Ordinal);
        while (csv.Read())
        {
            var whose = (csv.GetField(mail) ?? "").Trim().ToLowerInvariant();
            if (whose == "" && rows.All(r => string.IsNullOrWhiteSpace(csv.GetField(r.At))))
                continue;
            if (lines.Count == MostLines)
                return new(lines, $"More than {MostLines} lines. Accepted: up to {MostLines}.");
            lines.Add(Line(csv.Parser.RawRow, whose, [.. rows.Select(r => (r.Row, (csv.GetField(r.At) ?? "").Trim()))], mails, seen));
        }
        return lines.Count == 0 ? new(lines, "No student under the heading line.") : new(lines, null);
    }

    private static GradeLine Line(
        int line,
        string mail,
        IReadOnlyList<(RubricRow Row, string Text)> fields,
        IReadOnlySet<string> mails,
        Dictionary<string, int> seen
    )
    {
        var levels = new Dictionary<string, int>();
        string? error = null;
        foreach (var (row, text) in fields.Where(f => f.Text != ""))
            if (int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var level) && level <= Grading.TopLevel)
                levels[row.Id] = level;
            else
                error ??= $"'{text}' for {row.Name.ToLowerInvariant()}; accepted: 0 to {Grading.TopLevel}";
        if (mail == "")
            error = "no mail address";
        else if (!mails.Contains(mail))
            error = $"{mail} takes no part in this project";
        else if (seen.TryGetValue(mail, out var first))
            error = $"the same mail as line {first}";
        seen.TryAdd(mail, line);
        return new(line, mail, levels, error);
    }
}
