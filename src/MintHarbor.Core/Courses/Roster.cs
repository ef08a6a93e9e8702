using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace MintHarbor.Core.Courses;

/// <param name="Line">Line of the file, from 1.</param>
/// <param name="Error">What is wrong with the row; null when it can be taken.</param>
public sealed record RosterRow(int Line, string Name, string Mail, string? Error);

/// <summary>A roster read from CSV (RFC 4180): a heading line with name and mail in any order, commas or semicolons.</summary>
public sealed record Roster(IReadOnlyList<RosterRow> Rows, string? Error)
{
    public const int MostRows = 200,
        LongestName = 120;

    public bool CanImport => Error is null && Rows.Count > 0 && Rows.All(r => r.Error is null);

    /// <param name="known">Mail addresses already in the course.</param>
    public static Roster Read(string text, IReadOnlySet<string> known)
    {
        using var csv = Open(text);
        if (!csv.Read() || !csv.ReadHeader())
            return new([], "The file is empty. Accepted: a heading line with name and mail, then one student a line.");
        var columns = csv.HeaderRecord!.Select(h => h.Trim().ToLowerInvariant()).ToList();
        var (name, mail) = (
            columns.FindIndex(c => c is "name" or "student" or "full name"),
            columns.FindIndex(c => c is "mail" or "email" or "e-mail")
        );
        if (name < 0 || mail < 0)
            return new(
                [],
                $"The heading line has {Say.List([.. columns.Where(c => c != "")])}. Accepted: a column name and a column mail."
            );
        var rows = new List<RosterRow>();
        var seen = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        while (csv.Read())
        {
            var line = csv.Parser.RawRow;
            var (n, m) = ((csv.GetField(name) ?? "").Trim(), (csv.GetField(mail) ?? "").Trim());
            if (n == "" && m == "")
                continue;
            if (rows.Count == MostRows)
                return new(rows, $"More than {MostRows} rows. Accepted: up to {MostRows}.");
            rows.Add(new(line, n, m, Problem(n, m, known, seen, line)));
        }
        return rows.Count == 0 ? new(rows, "No student under the heading line.") : new(rows, null);
    }

    /// <summary>A reader of what spreadsheets write: commas or semicolons, with or without a byte order mark.</summary>
    internal static CsvReader Open(string text)
    {
        text = text.TrimStart('\uFEFF');
        var heading = text.Split('\n', 2)[0];
        return new(
            new StringReader(text),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                Delimiter = heading.Count(c => c == ';') > heading.Count(c => c == ',') ? ";" : ",",
                BadDataFound = null,
                MissingFieldFound = null,
                TrimOptions = TrimOptions.Trim,
            }
        );
    }

    private static string? Problem(string name, string mail, IReadOnlySet<string> known, Dictionary<string, int> seen, int line)
    {
        if (name == "")
            return "no name";
        if (name.Length > LongestName)
            return $"name of {name.Length} letters; up to {LongestName} are accepted";
        if (name.Any(char.IsControl))
            return "name with control characters";
        if (!LooksLikeMail(mail))
            return mail == "" ? "no mail address" : $"'{mail}' is not a mail address";
        if (seen.TryGetValue(mail, out var first))
            return $"the same mail as line {first}";
        seen[mail] = line;
        return known.Contains(mail.ToLowerInvariant()) ? "already in this course" : null;
    }

    public static bool LooksLikeMail(string mail) =>
        mail.Length is > 2 and <= 254
        && System.Net.Mail.MailAddress.TryCreate(mail, out var parsed)
        && parsed.Address == mail
        && !mail.Any(char.IsWhiteSpace);

    /// <summary>Rows as CSV by RFC 4180. A field that a spreadsheet would run as a formula gets an apostrophe; a number with its sign stays one.</summary>
    public static string Csv(IEnumerable<IEnumerable<string>> rows)
    {
        // No NewLine is set: CsvHelper then ends lines by the RFC and quotes a field for either half of a line's end.
        // What a spreadsheet would run is escaped; a minus is looked at, since numbers have one.
        var config = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            InjectionOptions = InjectionOptions.Escape,
            InjectionCharacters = ['=', '+', '@', '\t', '\r'],
        };
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var csv = new CsvWriter(text, config))
        {
            foreach (var row in rows)
            {
                foreach (var field in row)
                    csv.WriteField(Plain(field));
                csv.NextRecord();
            }
        }
        return text.ToString();
    }

    private static string Plain(string f) =>
        f.StartsWith('-') && !double.TryParse(f, NumberStyles.Float, CultureInfo.InvariantCulture, out _) ? "'" + f : f;
}
