using Fractions;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Projects;
using Xunit;

namespace MintHarbor.Core.Tests.Projects;

public class GradingTests
{
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

    private static readonly RubricRow[] Rows = [new("a", "A", 3, []), new("b", "B", 1, [])];

    private static Dictionary<string, int> Levels(int a, int b) => new() { ["a"] = a, ["b"] = b };

    [Theory]
    // 100·(3·3 + 2)/(4·4) = 68.75. Two days are free, then 5 a day, 12 at most.
    [InlineData(0, 69), InlineData(2, 69), InlineData(3, 64), InlineData(4, 59), InlineData(5, 57), InlineData(400, 57)]
    public void Late_days_cost_after_their_grace_up_to_the_most(int days, int percent)
    {
        var rules = new GradeRules(new(2, 5, 12), RedoRule.Replaces, "percent");
        var g = Grading.Of(Rows, Levels(3, 2), null, days, rules)!;
        Assert.Equal(percent, g.Percent);
        Assert.Equal(days > 2, g.Steps.Any(s => s.Contains("late")));
    }

    [Fact]
    public void A_grade_does_not_fall_below_nothing_and_says_each_step()
    {
        var rules = new GradeRules(new(0, 30, 90), RedoRule.Averages, "percent");
        Assert.Equal(0, Grading.Of(Rows, Levels(0, 1), null, 9, rules)!.Percent);
        // (68.75 + 43.75) ÷ 2 = 56.25, less 30.
        var g = Grading.Of(Rows, Levels(3, 2), Levels(2, 1), 1, rules)!;
        Assert.Equal(
            [
                "100 · (3·3 + 1·2) ÷ (4 · 4) = 100 · 11 ÷ 16 = 68.75",
                "again: 100 · (3·2 + 1·1) ÷ (4 · 4) = 100 · 7 ÷ 16 = 43.75",
                "(68.75 + 43.75) ÷ 2 = 56.25",
                "1 day late, 0 free, 30 a day, 90 at most: 56.25 − 30 = 26.25",
                "rounded 26",
            ],
            g.Steps
        );
        Assert.Equal(26, g.Percent);
        // A redo that replaces may be worse: that is what was chosen. One that isn't graded whole changes nothing yet.
        Assert.Equal(44, Grading.Of(Rows, Levels(3, 2), Levels(2, 1), 0, GradeRules.Plain)!.Percent);
        Assert.Equal(69, Grading.Of(Rows, Levels(3, 2), new Dictionary<string, int> { ["a"] = 0 }, 0, GradeRules.Plain)!.Percent);
    }

    [Fact]
    public void Late_rules_have_bounds_and_words()
    {
        Assert.Equal("a late hand-in costs nothing", LatePolicy.None.Says);
        Assert.Equal("1 day of grace, then 5 points a day, 20 at most", new LatePolicy(1, 5, 20).Says);
        Assert.Equal("Grace", Assert.Throws<InputException>(() => new LatePolicy(-1, 0, 0).Checked()).Field);
        Assert.Equal("PerDay", Assert.Throws<InputException>(() => new LatePolicy(0, 101, 0).Checked()).Field);
        Assert.Equal("Most", Assert.Throws<InputException>(() => new LatePolicy(0, 0, 101).Checked()).Field);
    }

    /// <summary>Outside: the package Fractions, rational arithmetic of another hand, on ten thousand books.</summary>
    [Fact]
    public void Ten_thousand_books_agree_with_rational_arithmetic_of_another_hand()
    {
        var random = new Random(15);
        for (var n = 0; n < 10_000; n++)
        {
            var rows = Enumerable.Range(0, random.Next(1, 11)).Select(k => new RubricRow($"r{k}", "R", random.Next(1, 101), [])).ToList();
            Dictionary<string, int> Some() => rows.ToDictionary(r => r.Id, _ => random.Next(5));
            var (first, again) = (Some(), random.Next(2) == 0 ? Some() : null);
            var (late, days) = (new LatePolicy(random.Next(6), random.Next(12), random.Next(40)), random.Next(12));
            var redo = (RedoRule)random.Next(2);
            var truth = Of(first);
            if (again is not null)
                truth = redo == RedoRule.Replaces ? Of(again) : (truth + Of(again)) / new Fraction(2);
            // Every third is a group's: what is everybody's, and what the role answers for.
            var share = n % 3 == 0 ? new GradeShare(random.Next(101), [.. rows.Where(_ => random.Next(2) == 0).Select(r => r.Id)]) : null;
            if (share is { Rows.Count: > 0 })
            {
                var own = rows.Where(r => share.Rows.Contains(r.Id)).ToList();
                var part = Part(own, first);
                if (again is not null)
                    part = redo == RedoRule.Replaces ? Part(own, again) : (part + Part(own, again)) / new Fraction(2);
                truth = ((truth * new Fraction(share.Common)) + (part * new Fraction(100 - share.Common))) / new Fraction(100);
            }
            truth -= new Fraction(days <= late.Grace ? 0 : Math.Min(late.Most, late.PerDay * (days - late.Grace)));
            if (truth < Fraction.Zero)
                truth = Fraction.Zero;
            var g = Grading.Of(rows, first, again, days, new(late, redo, "percent"), share)!;
            Assert.Equal((truth.Numerator, truth.Denominator), (g.Value.Over, g.Value.Below));
            var half = truth + new Fraction(1, 2);
            Assert.Equal((int)System.Numerics.BigInteger.Divide(half.Numerator, half.Denominator), g.Percent);
            Fraction Of(Dictionary<string, int> levels) => Part(rows, levels);
            static Fraction Part(List<RubricRow> some, Dictionary<string, int> levels) =>
                new Fraction(100 * some.Sum(r => r.Weight * levels[r.Id])) / new Fraction(4 * some.Sum(r => r.Weight));
        }
    }

    [Fact]
    public void A_fraction_rounds_half_up_on_both_sides_of_nothing()
    {
        Assert.Equal([1, 0, 0, -1, 2], new[] { new Exact(1, 2), new(1, 3), new(-1, 2), new(-2, 3), new(3, 2) }.Select(e => e.Rounded()));
        Assert.Equal(new Exact(1, -2), new Exact(-2, 4));
        Assert.Equal((Exact)0, default);
        Assert.True(new Exact(1, 3) < new Exact(1, 2));
        Assert.Throws<DivideByZeroException>(() => new Exact(1, 0));
    }

    private static PracticeWeek Week(int given, int done, params int[] scores) => new(given, done, scores);

    [Fact]
    public void Practice_by_score_counts_what_was_measured()
    {
        // Two rounds of one week are one number; nothing done of what was due is 0; done, and nothing measured in it, is no week.
        PracticeWeek[] weeks = [Week(1, 1, 80, 60), Week(2, 0), Week(1, 1), Week(0, 0, 100)];
        Assert.Equal(new Exact(170, 3), TermGrade.Measured(weeks, 0));
        Assert.Equal((Exact)85, TermGrade.Measured(weeks, 1));
        Assert.Null(TermGrade.Measured([Week(1, 1)], 0));
    }

    /// <summary>Nearer is never worth less, and what is asked of a trained eye is worth all of it.</summary>
    [Theory, InlineData(0, 100), InlineData(1, 100), InlineData(2, 75), InlineData(3, 50), InlineData(5, 0), InlineData(40, 0)]
    public void A_score_falls_evenly_from_what_is_asked_to_five_times_that(double off, int score) =>
        Assert.Equal(score, TermGrade.Score(off));

    [Fact]
    public void Practice_counts_doing_and_drops_the_lowest_weeks()
    {
        PracticeWeek[] weeks = [Week(4, 4), Week(4, 1), Week(0, 0), Week(2, 1), Week(3, 3)];
        // 100, 25, 50, 100; a week without anything given is none.
        Assert.Equal(new Exact(275, 4), TermGrade.Practice(weeks, 0));
        Assert.Equal(new Exact(250, 3), TermGrade.Practice(weeks, 1));
        // One is always left, and doing more than was given is whole.
        Assert.Equal((Exact)100, TermGrade.Practice(weeks, 9));
        Assert.Equal((Exact)100, TermGrade.Practice([Week(2, 5)], 0));
        Assert.Null(TermGrade.Practice([Week(0, 0)], 0));
        Assert.Equal(new Exact(2 * 80 + 50, 3), TermGrade.Of([(2, 80), (1, 50), (5, null), (0, 100)]));
        Assert.Null(TermGrade.Of([(1, null)]));
    }

    [Fact]
    public void A_term_says_its_sum_and_leaves_out_what_has_no_grade()
    {
        TermPart[] parts =
        [
            new("Head", 3, 50),
            new("Still life", 1, 100),
            new("Cast", 5, null),
            new("Practice", 2, 75),
            new("Line", 0, 10),
        ];
        var term = TermGrade.Sum(parts)!;
        Assert.Equal(new Exact(400, 6), term.Value);
        Assert.Equal(["(3·50 + 1·100 + 2·75) ÷ 6 = 66.67", "rounded 67"], term.Steps);
        Assert.Null(TermGrade.Sum([new("Cast", 5, null), new("Line", 0, 10)]));
    }

    /// <summary>By hand: (80·11 − 400) ÷ 5 = 96. What is needed, put in, gives the aim by another library's fractions.</summary>
    [Fact]
    public void What_the_rest_must_come_to_gives_the_aim_when_it_comes()
    {
        TermPart[] parts = [new("Head", 3, 50), new("Still life", 1, 100), new("Cast", 5, null), new("Practice", 2, 75)];
        Assert.Equal((Exact)96, TermGrade.Needed(parts, 80));
        Assert.True(TermGrade.Needed(parts, 90) > 100);
        Assert.True(TermGrade.Needed(parts, 30) < 0);
        Assert.Null(TermGrade.Needed([.. parts.Where(p => p.Value is not null)], 80));
        Assert.Null(TermGrade.Needed([new("Cast", 0, null), new("Head", 1, 50)], 80));
        var random = new Random(15);
        for (var n = 0; n < 500; n++)
        {
            TermPart[] book =
            [
                .. Enumerable
                    .Range(0, random.Next(1, 12))
                    .Select(k => new TermPart(
                        $"{k}",
                        random.Next(0, 9),
                        random.Next(3) == 0 ? null : new Exact(random.Next(0, 1001), random.Next(10, 30))
                    )),
            ];
            var aim = random.Next(0, 101);
            if (TermGrade.Needed(book, aim) is not { } needed)
                continue;
            var sum = book.Aggregate(Fraction.Zero, (a, p) =>
                a + (new Fraction(p.Weight) * new Fraction((p.Value ?? needed).Over, (p.Value ?? needed).Below))
            );
            Assert.Equal(new Fraction(aim), sum / new Fraction(book.Sum(p => p.Weight)));
        }
    }

    [Fact]
    public void What_counts_is_checked_against_its_bounds()
    {
        Assert.Equal(1, BookRules.Plain.WeightOf(7));
        var rules = new BookRules(new Dictionary<int, int> { [7] = 0, [9] = 100 }, 3, 2, "letters");
        Assert.Equal((0, 100, 1), (rules.Checked().WeightOf(7), rules.WeightOf(9), rules.WeightOf(8)));
        foreach (
            var bad in new[]
            {
                rules with
                {
                    Weights = new Dictionary<int, int> { [7] = -1 },
                },
                rules with
                {
                    Practice = 101,
                },
                rules with
                {
                    Drop = 21,
                },
                rules with
                {
                    Scale = "stars",
                },
            }
        )
            Assert.Throws<InputException>(() => bad.Checked());
    }

    public static TheoryData<string> Scales => [.. Scale.All.Select(s => s.Id)];

    [Theory, MemberData(nameof(Scales))]
    public void A_scale_begins_at_nothing_and_never_falls(string id)
    {
        var scale = Scale.Get(id);
        Assert.NotEmpty(scale.Source);
        var marks = Enumerable.Range(0, 101).Select(scale.Of).ToList();
        // Each mark is one run of per cents, in the order of the table.
        Assert.Equal(scale.Steps.Count == 0 ? 101 : scale.Steps.Count, marks.Distinct().Count());
        Assert.Equal(marks.Distinct(), marks.Where((m, n) => n == 0 || marks[n - 1] != m));
        Assert.Equal(scale.Steps.Select(s => s.From).Order(), scale.Steps.Select(s => s.From));
        Assert.Throws<InputException>(() => scale.Of(101));
    }

    [Theory]
    [
        InlineData("percent", 67, "67"),
        InlineData("letters", 85, "A"),
        InlineData("letters", 84, "B"),
        InlineData("pass-fail", 49, "fail"),
        InlineData("pass-fail", 50, "pass"),
        InlineData("six-best-one", 100, "1"),
        InlineData("six-best-one", 0, "6"),
        InlineData("six-best-six", 100, "6"),
        InlineData("twenty", 100, "20"),
        InlineData("twenty", 0, "0"),
        // A fifth, half up: 52 ÷ 5 = 10.4, 53 ÷ 5 = 10.6.
        InlineData("twenty", 52, "10"),
        InlineData("twenty", 53, "11")
    ]
    public void A_scale_gives_its_mark(string id, int percent, string mark) => Assert.Equal(mark, Scale.Get(id).Of(percent));

    private static readonly HashSet<string> Mails = ["ida@example.org", "bo@example.org"];

    [Fact]
    public void Levels_are_read_from_what_spreadsheets_write()
    {
        var read = GradeSheet.Read(
            "\uFEFFName;Mail;Anatomy and features;Proportion\r\n\"Stroud; Ida\";IDA@example.org;;3\r\n;;;\r\n",
            Portrait.Rubric,
            Mails
        );
        Assert.True(read.CanTake);
        Assert.Equal([("ida@example.org", 2, 3)], read.Lines.Select(l => (l.Mail, l.Line, l.Levels["proportion"])));
        Assert.Single(read.Lines[0].Levels);
    }

    [Theory]
    [
        InlineData("mail,proportion\nida@example.org,5", "Line 2", "'5' for proportion; accepted: 0 to 4"),
        InlineData("mail,proportion\nida@example.org,2.5", "Line 2", "'2.5' for proportion"),
        InlineData("mail,proportion\nida@example.org,-1", "Line 2", "'-1' for proportion"),
        InlineData("mail,proportion\nmo@example.org,3", "Line 2", "mo@example.org takes no part in this project"),
        InlineData("mail,proportion\nida@example.org,3\nIda@Example.org,2", "Line 3", "the same mail as line 2"),
        InlineData("mail,proportion\n,3", "Line 2", "no mail address"),
        InlineData("mail,grace\nida@example.org,3", "", "The heading line has mail and grace. Accepted: a column mail"),
        InlineData("name,proportion\nIda,3", "", "Accepted: a column mail"),
        InlineData("", "", "The file is empty"),
        InlineData("mail,proportion\n", "", "No student under the heading line")
    ]
    public void A_line_that_can_t_be_taken_says_why(string csv, string line, string says)
    {
        var read = GradeSheet.Read(csv, Portrait.Rubric, Mails);
        Assert.False(read.CanTake);
        if (line == "")
            Assert.Contains(says, read.Error);
        else
            Assert.Contains(says, Assert.Single(read.Lines, l => $"Line {l.Line}" == line).Error);
    }

    /// <summary>Outside: RFC 4180 by another parser than the one that writes the grade book, whatever a name holds.</summary>
    [Theory]
    [
        InlineData("Stroud, \"Ida\""),
        InlineData("=SUM(A1:A9)"),
        InlineData("two\r\nlines"),
        InlineData("semi;colon"),
        InlineData("+49 1"),
        InlineData("@cmd")
    ]
    public void A_grade_book_reads_back_by_a_strict_parser(string name)
    {
        var text = Roster.Csv([
            ["name", "mail", "proportion"],
            [name, "ida@example.org", "3"],
        ]);
        var rows = Strict(text);
        Assert.Equal(["name", "mail", "proportion"], rows[0]);
        Assert.Equal(name, rows[1][0].StartsWith('\'') ? rows[1][0][1..] : rows[1][0]);
        // No cell is taken for a formula.
        Assert.DoesNotContain(rows[1][0][0], "=+@\t\r");
        Assert.Equal(3, GradeSheet.Read(text, Portrait.Rubric, Mails).Lines.Single().Levels["proportion"]);
    }

    /// <summary>RFC 4180, section 2, rule by rule; anything else throws.</summary>
    private static List<List<string>> Strict(string text)
    {
        var (rows, row, field, at) = (new List<List<string>>(), new List<string>(), new System.Text.StringBuilder(), 0);
        while (at < text.Length)
        {
            if (text[at] == '"')
            {
                for (at++; !(text[at] == '"' && (at + 1 == text.Length || text[at + 1] != '"')); at++)
                {
                    if (text[at] == '"')
                        at++;
                    field.Append(text[at]);
                }
                at++;
            }
            else
                while (at < text.Length && text[at] is not (',' or '\r'))
                {
                    Assert.DoesNotContain(text[at], "\"\n");
                    field.Append(text[at++]);
                }
            row.Add(field.ToString());
            field.Clear();
            if (at < text.Length && text[at] == ',')
            {
                at++;
                continue;
            }
            Assert.Equal("\r\n", text.Substring(at, 2));
            at += 2;
            rows.Add(row);
            row = [];
        }
        return rows;
    }
}
