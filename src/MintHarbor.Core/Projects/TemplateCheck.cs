using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.RegularExpressions;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;

namespace MintHarbor.Core.Projects;

/// <summary>One thing that is wrong with a template.</summary>
/// <param name="Field">Where, as in the JSON: stages[2].share.</param>
public sealed record TemplateProblem(string Field, string Says, string Accepted);

/// <summary>Whether a template holds together, whoever wrote it: the form, a file, or the product.</summary>
public static partial class TemplateCheck
{
    public const int MostStages = 12,
        MostRows = 10,
        MostPoints = 12,
        LongestName = 80,
        LongestText = 300;

    [GeneratedRegex("^[a-z0-9]+(-[a-z0-9]+)*$")]
    private static partial Regex Id();

    [GeneratedRegex("[^a-z0-9]+")]
    private static partial Regex NoLetter();

    /// <summary>An id made of a name, other than those that are taken.</summary>
    public static string IdOf(string name, IEnumerable<string> taken)
    {
        var id = NoLetter().Replace(name.Trim().ToLowerInvariant(), "-").Trim('-');
        if (id.Length == 0)
            id = "part";
        var others = taken.ToHashSet();
        return others.Contains(id) ? Enumerable.Range(2, others.Count + 1).Select(n => $"{id}-{n}").First(x => !others.Contains(x)) : id;
    }

    /// <summary>Everything that is wrong, in reading order; empty where it is whole.</summary>
    public static IReadOnlyList<TemplateProblem> Of(ProjectTemplate t) =>
        [
            .. Line("name", t.Name),
            .. Text("about", t.About),
            .. Of(t.Subject is null or "head" or "figure", "subject", $"unknown subject '{t.Subject}'", "head | figure, or none"),
            .. Of(
                t.Medium is null || Materials.Media.Contains(t.Medium),
                "medium",
                $"unknown medium '{t.Medium}'",
                string.Join(" | ", Materials.Media)
            ),
            .. Known("kit", t.Kit, Materials.List.Items.Select(m => m.Id)),
            .. Of(t.Stages.Count is >= 1 and <= MostStages, "stages", Say.Plural(t.Stages.Count, "stage"), $"1 to {MostStages}"),
            .. Sum("stages", "shares", t.Stages.Sum(s => (long)s.Share)),
            .. Unique("stages", t.Stages.Select(s => s.Id)),
            .. t.Stages.SelectMany((s, n) => Stage(s, $"stages[{n}]", t.Subject)),
            .. Of(t.Rubric.Count is >= 1 and <= MostRows, "rubric", Say.Plural(t.Rubric.Count, "row"), $"1 to {MostRows}"),
            .. Unique("rubric", t.Rubric.Select(r => r.Id)),
            .. t.Rubric.SelectMany((r, n) => Row(r, $"rubric[{n}]")),
        ];

    /// <exception cref="InputException">The first thing that is wrong.</exception>
    public static ProjectTemplate Checked(ProjectTemplate t) =>
        Of(t) is [var first, ..] ? throw new InputException(first.Says, first.Field, first.Accepted) : t;

    /// <summary>As it is kept in a file of its own.</summary>
    public static string Write(ProjectTemplate t) => JsonSerializer.Serialize(t, Lines);

    /// <summary>Reads such a file and checks it.</summary>
    /// <exception cref="InputException">No JSON, a field that isn't known or of another kind, or a template that isn't whole.</exception>
    public static ProjectTemplate Read(string json)
    {
        try
        {
            var read = JsonSerializer.Deserialize<ProjectTemplate>(json, CoreData.Json);
            return Checked(Whole(read) ?? throw new InputException("the file is empty", "file", "one project as JSON"));
        }
        catch (JsonException e)
        {
            var where = e.LineNumber is { } line ? $"line {line + 1}" : "the file";
            throw new InputException($"{where} can't be read as a project ({e.Path ?? "$"})", "file", "a project as this page writes it");
        }
    }

    /// <summary>What a file leaves out is empty, not nothing.</summary>
    private static ProjectTemplate? Whole(ProjectTemplate? t) =>
        t is null
            ? null
            : t with
            {
                Id = t.Id ?? "",
                Name = t.Name ?? "",
                About = t.About ?? "",
                Kit = t.Kit ?? [],
                Stages =
                [
                    .. (t.Stages ?? []).Select(s =>
                        s with
                        {
                            Id = s.Id ?? "",
                            Name = s.Name ?? "",
                            About = s.About ?? "",
                            Gate = s.Gate ?? [],
                            HandIn = s.HandIn ?? "",
                            Inspects = s.Inspects ?? [],
                            Exercises = s.Exercises ?? [],
                            Drills = s.Drills ?? [],
                        }
                    ),
                ],
                Rubric = [.. (t.Rubric ?? []).Select(r => r with { Id = r.Id ?? "", Name = r.Name ?? "", Levels = r.Levels ?? [] })],
            };

    private static readonly JsonSerializerOptions Lines = new(CoreData.Json)
    {
        WriteIndented = true,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private static IEnumerable<TemplateProblem> Stage(StageTemplate s, string at, string? subject) =>
        [
            .. Of(Id().IsMatch(s.Id), $"{at}.id", $"an id '{s.Id}'", "small letters, digits and single hyphens"),
            .. Line($"{at}.name", s.Name),
            .. Text($"{at}.about", s.About),
            .. Text($"{at}.handIn", s.HandIn),
            .. Of(s.Share is >= 1 and <= 100, $"{at}.share", $"{Named(s)} has a share of {s.Share} %", "1 to 100 %"),
            .. Of(s.LeastMinutes is >= 0 and <= 6000, $"{at}.leastMinutes", $"{s.LeastMinutes} minutes at least", "0 to 6000"),
            .. Points($"{at}.gate", s.Gate),
            .. Points($"{at}.inspects", s.Inspects),
            .. Measures(s, at, subject),
            .. Known($"{at}.exercises", s.Exercises, Exercises.All.Select(e => e.Id)),
            .. Known($"{at}.drills", s.Drills, Drills.All.Select(d => d.Kind)),
        ];

    private static string Named(StageTemplate s) => string.IsNullOrWhiteSpace(s.Name) ? "a stage" : s.Name;

    /// <summary>Rules of a head's report are named H-, those of a figure's F-.</summary>
    private static IEnumerable<TemplateProblem> Measures(StageTemplate s, string at, string? subject)
    {
        if (s.Measured is not { } rules)
            return [];
        if (subject is not ("head" or "figure"))
            return [new($"{at}.measured", $"{Named(s)} is measured and the project has no subject", "head or figure as its subject")];
        if (rules.Count == 0)
            return [new($"{at}.measured", $"the measures of {Named(s)} are empty", "a rule or more, or no measures")];
        return Known($"{at}.measured", rules, RulesOf(subject).Select(r => r.Id));
    }

    /// <summary>Rules that a gate may ask of a head or a figure.</summary>
    public static IEnumerable<Rule> RulesOf(string subject) =>
        Rules.All.Where(r => r.Id.StartsWith(subject == "head" ? "H-" : "F-", StringComparison.Ordinal));

    private static IEnumerable<TemplateProblem> Row(RubricRow r, string at) =>
        [
            .. Of(Id().IsMatch(r.Id), $"{at}.id", $"an id '{r.Id}'", "small letters, digits and single hyphens"),
            .. Line($"{at}.name", r.Name),
            .. Of(r.Weight is >= 1 and <= 100, $"{at}.weight", $"{r.Name} weighs {r.Weight}", "1 to 100"),
            .. Of(
                r.Levels.Count == Grading.TopLevel + 1,
                $"{at}.levels",
                $"{r.Name} has {Say.Plural(r.Levels.Count, "level")}",
                "five, 0 to 4"
            ),
            .. r.Levels.SelectMany((l, n) => Line($"{at}.levels[{n}]", l, $"level {n} of {r.Name} has no words")),
        ];

    private static IEnumerable<TemplateProblem> Of(bool holds, string field, string says, string accepted) =>
        holds ? [] : [new(field, says, accepted)];

    private static IEnumerable<TemplateProblem> Line(string field, string text, string empty = "the name is missing") =>
        string.IsNullOrWhiteSpace(text) ? [new(field, empty, $"1 to {LongestName} letters")]
        : text.Length > LongestName ? [new(field, $"{text.Length} letters", $"1 to {LongestName} letters")]
        : text.Any(char.IsControl) ? [new(field, "a line break or another control character", "letters on one line")]
        : [];

    private static IEnumerable<TemplateProblem> Text(string field, string text) =>
        Of(text.Length <= LongestText, field, $"{text.Length} letters", $"up to {LongestText} letters");

    private static IEnumerable<TemplateProblem> Points(string field, IReadOnlyList<string> points) =>
        [
            .. Of(points.Count <= MostPoints, field, Say.Plural(points.Count, "point"), $"up to {MostPoints}"),
            .. Of(points.Distinct().Count() == points.Count, field, "one point stands twice", "each point once"),
            .. points.SelectMany((p, n) => Line($"{field}[{n}]", p, "a point without words")),
        ];

    private static IEnumerable<TemplateProblem> Known(string field, IReadOnlyList<string> ids, IEnumerable<string> known) =>
        ids.Where(i => !known.Contains(i)).Take(1).Select(i => new TemplateProblem(field, $"unknown '{i}'", string.Join(" | ", known)));

    private static IEnumerable<TemplateProblem> Sum(string field, string what, long sum) =>
        Of(sum == 100, field, $"the {what} add up to {sum} %", "100 % in all");

    private static IEnumerable<TemplateProblem> Unique(string field, IEnumerable<string> ids) =>
        ids.GroupBy(i => i)
            .Where(g => g.Count() > 1)
            .Take(1)
            .Select(g => new TemplateProblem(field, $"'{g.Key}' stands twice", "each id once"));
}
