using CsvHelper;
using CsvHelper.Configuration;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Projects;
using NodaTime;
using Xunit;

namespace MintHarbor.Core.Tests.Courses;

public class CourseTests
{
    private static readonly HashSet<string> None = [];

    /// <summary>Published: ISO 216 sizes; the inch of 25.4 mm.</summary>
    [Theory]
    [
        InlineData("A4", 210, 297),
        InlineData("A3", 297, 420),
        InlineData("A2", 420, 594),
        InlineData("A1", 594, 841),
        InlineData("18x24in", 457.2, 609.6)
    ]
    public void Papers_have_their_true_size(string id, double w, double h)
    {
        var p = PaperSize.Find(id)!;
        Assert.Equal((w, h), (Math.Round(p.WidthMm, 6), Math.Round(p.HeightMm, 6)));
    }

    [Theory]
    [InlineData("457.2x609.6", 457.2), InlineData("A4", 210)]
    public void A_size_is_read_from_text(string text, double width) => Assert.Equal(width, PaperSize.Parse(text).WidthMm);

    [Theory]
    [InlineData("axb"), InlineData("0x10"), InlineData("")]
    public void A_bad_size_says_what_is_accepted(string text) =>
        Assert.Equal("paper", Assert.Throws<InputException>(() => PaperSize.Parse(text)).Field);

    /// <summary>Published: RFC 4180, quoted fields with commas, doubled quotes and line breaks; CRLF line ends.</summary>
    [Fact]
    public void A_roster_is_read_by_RFC_4180()
    {
        var r = Roster.Read(
            "name,mail\r\n\"Holt, Maren\",maren@example.org\r\n\"Bram \"\"B\"\" Sedge\",bram@example.org\r\n\"Two\r\nlines\",two@example.org\r\n",
            None
        );
        Assert.Equal(["Holt, Maren", "Bram \"B\" Sedge", "Two\r\nlines"], r.Rows.Select(x => x.Name));
        Assert.Equal("name with control characters", r.Rows[2].Error);
    }

    [Fact]
    public void Each_bad_row_says_why_and_nothing_can_be_imported_while_one_stands()
    {
        var r = Roster.Read(
            "Mail;Name\nok@example.org;Ada\nnot-a-mail;Bo\nok@example.org;Twice\n;No mail\nin@example.org;Old\n",
            new HashSet<string> { "in@example.org" }
        );
        Assert.Equal(
            [null, "'not-a-mail' is not a mail address", "the same mail as line 2", "no mail address", "already in this course"],
            r.Rows.Select(x => x.Error)
        );
        Assert.Equal([2, 3, 4, 5, 6], r.Rows.Select(x => x.Line));
        Assert.False(r.CanImport);
        Assert.True(Roster.Read("\uFEFFname,email\nAda,a@example.org\n", None).CanImport);
    }

    [Theory]
    [InlineData(""), InlineData("foo,bar\n1,2\n"), InlineData("name,mail\n")]
    public void A_file_without_students_is_explained(string text) => Assert.NotNull(Roster.Read(text, None).Error);

    /// <summary>Reference library: a written line is read back by CsvHelper as RFC 4180.</summary>
    [Fact]
    public void Written_lines_are_read_back_and_formulas_are_disarmed()
    {
        string[] fields = ["a,b", "say \"so\"", "line\nbreak", "", "ä", "-3"];
        using var csv = new CsvReader(
            new StringReader(Roster.Csv([fields])),
            new CsvConfiguration(System.Globalization.CultureInfo.InvariantCulture) { HasHeaderRecord = false }
        );
        csv.Read();
        Assert.Equal(fields, Enumerable.Range(0, fields.Length).Select(i => csv.GetField(i)!));
    }

    /// <summary>What a spreadsheet runs begins with one of six characters (OWASP, CSV Injection); a number keeps its sign.</summary>
    [Theory]
    [InlineData("=1+1", "'=1+1"), InlineData("+1+1", "'+1+1"), InlineData("@SUM(1)", "'@SUM(1)"), InlineData("\t=1", "'\t=1")]
    [InlineData("-2+3+cmd|' /C calc'!A0", "'-2+3+cmd|' /C calc'!A0"), InlineData("-A1", "'-A1"), InlineData("-", "'-")]
    [InlineData("-3", "-3"), InlineData("-3.25", "-3.25"), InlineData("a-b", "a-b"), InlineData("", "")]
    public void A_formula_is_disarmed_and_a_number_stays_one(string field, string read)
    {
        using var csv = new CsvReader(
            new StringReader(
                Roster.Csv([
                    [field, "x"],
                ])
            ),
            new CsvConfiguration(System.Globalization.CultureInfo.InvariantCulture) { HasHeaderRecord = false }
        );
        csv.Read();
        Assert.Equal(read, csv.GetField(0));
    }

    private static readonly ProjectTemplate Portrait = ProjectTemplate.Get("portrait-from-sitter");

    [Fact]
    public void A_grade_is_exact_and_rounded_once_half_up()
    {
        RubricRow[] rows = [new("a", "A", 1, []), new("b", "B", 1, [])];
        Assert.Equal(63, Grading.Of(rows, new Dictionary<string, int> { ["a"] = 2, ["b"] = 3 })!.Percent); // 62.5
        Assert.Equal(100, Grading.Of(Portrait.Rubric, Portrait.Rubric.ToDictionary(r => r.Id, _ => 4))!.Percent);
        Assert.Null(Grading.Of(Portrait.Rubric, new Dictionary<string, int> { ["proportion"] = 3 }));
        Assert.Throws<InputException>(() => Grading.Of(rows, new Dictionary<string, int> { ["a"] = 5, ["b"] = 3 }));
        Assert.Contains("100 · (1·2 + 1·3) ÷ (4 · 2)", Grading.Of(rows, new Dictionary<string, int> { ["a"] = 2, ["b"] = 3 })!.Arithmetic);
    }

    [Fact]
    public void The_rounding_agrees_with_decimal_arithmetic_everywhere()
    {
        for (var weight = 1; weight <= 40; weight++)
        {
            for (var level = 0; level <= 4; level++)
            {
                RubricRow[] rows = [new("a", "A", weight, []), new("b", "B", 7, [])];
                var exact = 100m * ((weight * level) + 21) / (4m * (weight + 7));
                Assert.Equal(
                    (int)Math.Floor(exact + 0.5m),
                    Grading.Of(rows, new Dictionary<string, int> { ["a"] = level, ["b"] = 3 })!.Percent
                );
            }
        }
    }

    [Fact]
    public void Stage_dates_are_worked_back_from_the_end_over_the_meetings()
    {
        var first = new LocalDate(2026, 11, 3);
        var meetings = Enumerable.Range(0, 6).Select(w => (first.PlusWeeks(w), 100)).ToList();
        var dates = StageDates.WorkBack(Portrait.Stages, meetings, new(2026, 12, 1), 4);
        // Four meetings of 100 min, shares 20, 40, 30, 10: 80, 160, 120 and 40 min.
        Assert.Equal([80, 160, 120, 40], dates.Select(d => d.Minutes));
        Assert.Equal([new LocalDate(2026, 11, 10), new(2026, 11, 24), new(2026, 12, 1), new(2026, 12, 1)], dates.Select(d => d.Due));
        Assert.Equal(new LocalDate(2026, 11, 10), dates[0].From);
        Assert.Throws<InputException>(() => StageDates.WorkBack(Portrait.Stages, meetings, new(2026, 10, 1), 4));
    }

    [Fact]
    public void A_gate_opens_by_its_checklist_or_by_a_waiver_with_a_reason()
    {
        var tone = Portrait.Stages.Single(s => s.Id == "tone");
        Assert.False(GateState.Closed.IsOpen(tone));
        Assert.Equal(4, GateState.Closed.Wanting(tone).Count);
        Assert.True(new GateState([.. tone.Gate], null).IsOpen(tone));
        Assert.False(new GateState([], "  ").IsOpen(tone));
        Assert.True(new GateState([], "the sitter leaves on Friday").IsOpen(tone));
        Assert.Equal(100, Portrait.Stages.Sum(s => s.Share));
    }

    public static TheoryData<string> Templates => [.. ProjectTemplate.All.Select(t => t.Id)];

    [Theory, MemberData(nameof(Templates))]
    public void Every_template_is_whole(string id)
    {
        var t = ProjectTemplate.Get(id);
        Assert.Equal(100, t.Stages.Sum(s => s.Share));
        Assert.Equal(100, t.Rubric.Sum(r => r.Weight));
        Assert.All(t.Stages, s => Assert.InRange(s.Share, 1, 100));
        Assert.All(t.Rubric, r => Assert.Equal(Grading.TopLevel + 1, r.Levels.Distinct().Count()));
        Assert.Equal(t.Stages.Count, t.Stages.Select(s => s.Id).Distinct().Count());
        Assert.Equal(t.Rubric.Count, t.Rubric.Select(r => r.Id).Distinct().Count());
        // What one begins with waits for nothing.
        Assert.Empty(t.Stages[0].Gate);
        foreach (var stage in t.Stages.Where(s => s.Measured is not null))
        {
            // Rules of a head's report are named H-, those of a figure's F-; a gate that is measured can be ticked as well.
            var kind = t.Subject == "head" ? "H-" : "F-";
            Assert.All(stage.Measured!, r => Assert.StartsWith(kind, Rules.All.Single(rule => rule.Id == r).Id));
            Assert.NotEmpty(stage.Gate);
        }
    }

    [Fact]
    public void The_templates_of_the_trade_are_there()
    {
        Assert.Equal(
            [
                "portrait-from-sitter",
                "self-portrait-in-a-mirror",
                "long-figure-pose",
                "still-life-with-preparation",
                "sculpture-study",
                "same-object-again",
                "daily-line",
                "invented-figure",
            ],
            ProjectTemplate.All.Select(t => t.Id)
        );
        // The long pose's shares as the trade parts them.
        Assert.Equal([5, 15, 25, 20, 30, 5], ProjectTemplate.Get("long-figure-pose").Stages.Select(s => s.Share));
    }
}
