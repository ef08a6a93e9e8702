using System.Text.RegularExpressions;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;

namespace MintHarbor.Core.Shelves;

/// <summary>Whether what a course made its own holds together. Each part is refused with what is wrong, where, and what is accepted.</summary>
public static partial class ShelfCheck
{
    public const int MostOwn = 60,
        LongestName = 60,
        LongestLine = 200,
        LongestText = 600,
        MostLines = 12;

    /// <summary>What the course adds begins so; the rest of the ids are the table's.</summary>
    public const string OwnPrefix = "own-";

    /// <summary>What an exercise may be judged by beside single rules of proportion.</summary>
    public static IReadOnlyList<string> Findings { get; } =
    ["all", "placement", "line", "anatomy", "tone", Rules.Tilt.Id, Rules.Balance.Id, Rules.Spans.Id, Rules.Pair.Id];

    public static IReadOnlyList<string> Papers { get; } = ["newsprint", "drawing paper"];

    /// <summary>When a caution is shown.</summary>
    public static IReadOnlyList<string> Whens { get; } = ["always", "model", "minors", "dust", "hour"];

    [GeneratedRegex("^own-[a-z0-9]+(-[a-z0-9]+)*$")]
    private static partial Regex OwnId();

    /// <exception cref="InputException">What is wrong, in which part, and what is accepted.</exception>
    public static OwnShelf Checked(OwnShelf own)
    {
        Whole(own);
        var shelf = new CourseShelf(own);
        foreach (var e in own.Exercises)
            Check(e, shelf);
        foreach (var f in own.Faults)
            Check(f, shelf);
        foreach (var (kind, limit) in own.Drills)
            Check(Drills.Get(kind), limit);
        foreach (var m in own.Materials)
            Check(m);
        foreach (var c in own.Cautions)
            Check(c);
        foreach (var (question, school) in own.Schools)
            Check(question, school);
        Check(own.Timing, own.LooserBecause);
        if (own.Exercises.Count > 0 || own.Timing.Count > 0)
            Plans(shelf);
        return own;
    }

    /// <summary>Own exercises and limits of a request, which may come from anywhere: whole, each by itself.</summary>
    /// <exception cref="InputException">What is wrong, and what is accepted.</exception>
    internal static void Sound(PlanKnown known)
    {
        if (known.Exercises is { Count: > 0 } exercises)
        {
            var own = OwnShelf.None with { Exercises = exercises };
            Whole(own);
            foreach (var e in exercises)
                Check(e, CourseShelf.Studio);
        }
        if (known.Timing is { } t && (t.Strains is null || TimingRules.Default.Strains.Any(s => t.Strains.All(o => o?.Id != s.Id))))
            throw Wrong("a strain has no limit", "timing", string.Join(" | ", TimingRules.Default.Strains.Select(s => s.Id.Word())));
    }

    private static InputException Wrong(string says, string field, string accepted) => new(says, field, accepted);

    /// <summary>JSON may leave out what a record must have.</summary>
    private static void Whole(OwnShelf own)
    {
        if (
            own is not { Exercises: not null, Faults: not null, Drills: not null, Materials: not null, Timing: not null }
            || own is not { Cautions: not null, Schools: not null, LooserBecause: not null }
        )
            throw Wrong("a part is missing", "file", "each part there, or left out");
        foreach (
            var (name, ids) in new (string, IEnumerable<string?>)[]
            {
                ("exercises", own.Exercises.Select(e => e?.Id)),
                ("faults", own.Faults.Select(f => f?.Id)),
                ("materials", own.Materials.Select(m => m?.Id)),
                ("cautions", own.Cautions.Select(c => c?.Id)),
            }
        )
        {
            var all = ids.ToList();
            if (all.Count > MostOwn)
                throw Wrong($"{all.Count} {name}", name, $"up to {MostOwn}");
            if (all.Contains(null) || all.Distinct().Count() != all.Count)
                throw Wrong($"one of the {name} has no id, or that of another", name, "each with an id of its own");
        }
    }

    private static void Id(string id, string field, bool known)
    {
        if (!known && (id.Length > LongestName || !OwnId().IsMatch(id)))
            throw Wrong($"'{id}' is none of the table's", field, $"an id of the table, or {OwnPrefix} and small letters");
    }

    private static void Line(string? text, string field, int longest, bool wanted = true)
    {
        if (wanted && string.IsNullOrWhiteSpace(text))
            throw Wrong($"{field} is empty", field, $"1 to {longest} letters");
        if (text is null || text.Length > longest || text.Any(char.IsControl))
            throw Wrong($"{field} is too long, or not one line", field, $"up to {longest} letters on one line");
    }

    private static void Lines(IReadOnlyList<string>? lines, string field, bool wanted = true)
    {
        if (lines is null || lines.Count > MostLines || (wanted && lines.Count == 0))
            throw Wrong($"{lines?.Count ?? 0} lines of {field}", field, $"{(wanted ? 1 : 0)} to {MostLines}");
        foreach (var line in lines)
            Line(line, field, LongestLine);
    }

    private static void OneOf(string? value, string field, IReadOnlyCollection<string> all)
    {
        if (value is null || !all.Contains(value))
            throw Wrong($"'{value}' is no {field}", field, string.Join(" | ", all));
    }

    private static void Within(double value, string field, double least, double most, string unit = "")
    {
        if (!(value >= least && value <= most))
            throw Wrong($"{Say.Number(value, 2)}{unit} for {field}", field, $"{Say.Number(least, 2)} to {Say.Number(most, 2)}{unit}");
    }

    private static void Check(Exercise e, CourseShelf shelf)
    {
        var table = Exercises.Find(e.Id);
        Id(e.Id, "exercises", table is not null);
        Line(e.Name, "name", LongestName);
        foreach (var (text, field) in new[] { (e.StartFrom, "start from"), (e.Rule, "rule") })
            Line(text, field, LongestLine, wanted: false);
        Line(e.Wall, "words on the wall", LongestLine);
        Line(e.Student, "words for the student", LongestText);
        Line(e.Source, "source", LongestLine, wanted: false);
        Lines(e.Steps, "steps", wanted: false);
        Lines(e.Inspected, "what is inspected");
        Lines(e.UsualFaults, "usual faults", wanted: false);
        // Lines that go on over rests, and sets of a minute, are built round these lengths.
        var most = table is { MaxMinutes: > 120 } ? table.MaxMinutes : 120;
        Within(e.MinMinutes, "least minutes", 0.5, most, " min");
        Within(e.MaxMinutes, "most minutes", e.MinMinutes, most, " min");
        Within(e.Look, "look", 0, 100, " %");
        foreach (var f in e.Findings ?? [])
            OneOf(f, "finding", Findings);
        if (e.Findings is not { Count: > 0 })
            throw Wrong("it is judged by nothing", "findings", string.Join(" | ", Findings));
        OneOf(e.Paper, "paper", Papers);
        foreach (var k in e.Kit ?? throw Wrong("no kit is said", "kit", "a list, empty where nothing is needed"))
            OneOf(k, "kit", [.. shelf.Materials.Items.Select(m => m.Id)]);
        OneOf(e.Sheets, "sheets", ["each-pose", "one-a-pose", "twelve-a-sheet"]);
        if (table is not null && (table.Sheets != e.Sheets || table.NeedsSubject != e.NeedsSubject))
            throw Wrong(
                $"{e.Name} would count its sheets or its subject otherwise",
                "exercises",
                "as in the table, or an exercise of your own"
            );
    }

    private static void Check(Fault f, CourseShelf shelf)
    {
        var table = Faults.Find(f.Id);
        Id(f.Id, "faults", table is not null);
        if (!Enum.IsDefined(f.Family))
            throw Wrong("no such family", "family", string.Join(" | ", Enum.GetNames<Family>()));
        Line(f.Name, "name", LongestName);
        Line(f.Where, "where", LongestLine);
        Line(f.Sign, "sign", LongestLine);
        Line(f.Principle, "why", LongestText);
        Line(f.Remedy, "what to do next", LongestText);
        Line(f.Source, "source", LongestLine, wanted: false);
        if (f.Drill is { } drill)
            Drills.Get(drill, "drill");
        if (f.Exercise is { } exercise)
            shelf.GetExercise(exercise, "exercise");
        if (f.Rule != table?.Rule)
            throw Wrong($"{f.Name} would be found by another rule", "rule", "the table's; a fault of your own is found by the eye");
    }

    private static void Check(Drill drill, DrillLimit? limit)
    {
        var (easy, hard) = (drill.Allowed(0), drill.Allowed(1));
        if (limit is null)
            throw Wrong($"no limit of {drill.Name}", "drills", "two numbers");
        Within(limit.Easy, $"{drill.Name}, easiest", hard / 2, easy * 3);
        Within(limit.Hard, $"{drill.Name}, hardest", hard / 4, limit.Easy);
    }

    private static void Check(Material m)
    {
        if (Materials.List.Items.FirstOrDefault(i => i.Id == m.Id) is not { } table)
            throw Wrong($"'{m.Id}' is nothing that is drawn with", "materials", string.Join(" | ", Materials.List.Items.Select(i => i.Id)));
        if (m.Name != table.Name)
            throw Wrong($"{table.Name} would have another name", "materials", table.Name);
        OneOf(m.Buys, "who buys", ["student", "studio"]);
        Within(m.Lasts, $"{m.Name}, meetings that one lasts", 0, 200);
        Within(m.Cost, $"{m.Name}, price", 0, 1000);
    }

    private static void Check(Caution c)
    {
        var table = Cautions.All.FirstOrDefault(x => x.Id == c.Id);
        Id(c.Id, "cautions", table is not null);
        OneOf(c.When, "when", Whens);
        Line(c.Says, "caution", LongestText);
        Line(c.Source, "source", LongestLine, wanted: false);
        if (table is not null && c.When != table.When)
            throw Wrong($"the caution '{c.Id}' would be shown at other times", "cautions", table.When);
    }

    private static void Check(string question, string school)
    {
        var asked = SchoolTable.All.FirstOrDefault(q => q.Id == question && q.Decides == SchoolTable.Choice)
            ?? throw Wrong(
                $"'{question}' is no question that is chosen here",
                "schools",
                string.Join(" | ", SchoolTable.All.Where(q => q.Decides == SchoolTable.Choice).Select(q => q.Id))
            );
        OneOf(school, asked.Question.ToLowerInvariant(), [.. asked.Schools.Select(s => s.Id)]);
    }

    private static void Check(IReadOnlyDictionary<string, double> timing, string because)
    {
        Line(because, "why", LongestLine, wanted: false);
        foreach (var (id, value) in timing)
        {
            var number = TimingNumbers.Find(id)
                ?? throw Wrong($"no timing rule '{id}'", "timing", string.Join(" | ", TimingNumbers.All.Select(n => n.Id)));
            Within(value, number.Says, number.Least, number.Most, " min");
            if (number.IsLooser(value) && string.IsNullOrWhiteSpace(because))
                throw Wrong(
                    $"{number.Says}: {Say.Number(value, 1)} min asks more of a model than the studio's {Say.Number(number.Studio, 1)}",
                    id,
                    $"{(number.Looser > 0 ? "at most" : "at least")} {Say.Number(number.Studio, 1)}, or the word that says why"
                );
        }
        if (TimingNumbers.Over(TimingRules.Default, timing) is var rules && rules.BreakMinMinutes > rules.BreakMaxMinutes)
            throw Wrong("a break would be longer at least than at most", "break-least", $"up to {Say.Number(rules.BreakMaxMinutes)} min");
    }

    /// <summary>Evenings that every course plans: what can't plan them can't be worked by.</summary>
    private static void Plans(CourseShelf shelf)
    {
        foreach (var minutes in (int[])[60, 120, 180])
        foreach (var approach in Enum.GetValues<Approach>())
        {
            var request = new PlanRequest(
                new()
                {
                    Minutes = minutes,
                    Approach = approach,
                    Students = 8,
                }
            )
            {
                Known = new() { Exercises = shelf.Own.Exercises, Timing = shelf.Timing },
            };
            var result = Planner.Plan(request);
            if (result.Proposals.Count == 0)
                throw Wrong(
                    $"an evening of {minutes} min can't be planned by it: {result.Cannot[0].Says}",
                    shelf.Own.Timing.Count > 0 ? "timing" : "exercises",
                    "numbers by which 60, 120 and 180 min can be planned"
                );
        }
    }
}
