using CsCheck;
using MintHarbor.Core.Projects;
using NodaTime;
using Xunit;

namespace MintHarbor.Core.Tests.Projects;

public class ProjectTests
{
    private static readonly ProjectTemplate Portrait = ProjectTemplate.Get("portrait-from-sitter");

    [Fact]
    public void Stage_dates_are_worked_back_from_the_end_over_the_meetings()
    {
        var first = new LocalDate(2026, 11, 3);
        var meetings = Enumerable.Range(0, 6).Select(w => (first.PlusWeeks(w), 100)).ToList();
        var dates = StageDates.WorkBack(Portrait.Stages, StageDates.Times(meetings, new(2026, 12, 1), 4));
        // Four meetings of 100 min, shares 20, 40, 30, 10: 80, 160, 120 and 40 min.
        Assert.Equal([80, 160, 120, 40], dates.Select(d => d.Minutes));
        Assert.Equal([new LocalDate(2026, 11, 10), new(2026, 11, 24), new(2026, 12, 1), new(2026, 12, 1)], dates.Select(d => d.Due));
        Assert.Equal(new LocalDate(2026, 11, 10), dates[0].From);
        Assert.Throws<InputException>(() => StageDates.Times(meetings, new(2026, 10, 1), 4));
    }

    [Fact]
    public void A_gate_opens_by_its_checklist_or_by_a_waiver_with_a_reason()
    {
        var tone = Portrait.Stages.Single(s => s.Id == "tone");
        Assert.False(GateState.Closed.IsOpen(tone));
        // Two ways: its list of four, or measures inside.
        Assert.Equal(2, GateState.Closed.Wanting(tone).Count);
        Assert.True(new GateState([.. tone.Gate], null).IsOpen(tone));
        Assert.False(new GateState([], "  ").IsOpen(tone));
        Assert.True(new GateState([], "the sitter leaves on Friday").IsOpen(tone));
        Assert.True(new GateState([], null, "sheet 6-A3-4: 5 measures inside").IsOpen(tone));
        Assert.Equal(100, Portrait.Stages.Sum(s => s.Share));
    }

    public static TheoryData<string> Templates => [.. ProjectTemplate.All.Select(t => t.Id)];

    [Theory, MemberData(nameof(Templates))]
    public void Every_template_is_whole_and_its_first_stage_waits_for_nothing(string id)
    {
        var t = ProjectTemplate.Get(id);
        Assert.Empty(TemplateCheck.Of(t));
        Assert.False(t.Stages[0].HasGate);
        Assert.All(t.Rubric, r => Assert.Equal(Grading.TopLevel + 1, r.Levels.Distinct().Count()));
        // Every one says what is handed in somewhere, and a measured gate can be ticked as well.
        Assert.Contains(t.Stages, s => s.HandIn.Length > 0);
        Assert.All(t.Stages.Where(s => s.Measured is not null), s => Assert.NotEmpty(s.Gate));
        // A file of it reads back as the same.
        Assert.Equal(TemplateCheck.Write(t), TemplateCheck.Write(TemplateCheck.Read(TemplateCheck.Write(t))));
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

    private static StageTemplate Gated(GateMix mix, bool measured = true, bool word = true) =>
        new("tone", "Tone", 60, "", ["axis stands", "widths stand"], measured ? ["H-eye"] : null) { Word = word, Mix = mix };

    [Fact]
    public void Of_a_gates_parts_one_opens_it_or_all_are_wanted()
    {
        var (any, all) = (Gated(GateMix.Any), Gated(GateMix.All));
        GateState[] one =
        [
            new(["axis stands", "widths stand"], null),
            new([], null, "sheet 3-A1-2: 4 measures inside"),
            new([], null, null, "Edda Lind"),
        ];
        Assert.All(one, g => Assert.True(g.IsOpen(any)));
        Assert.All(one, g => Assert.False(g.IsOpen(all)));
        Assert.True(new GateState(["axis stands", "widths stand"], null, "sheet 3-A1-2: 4 measures inside", "Edda Lind").IsOpen(all));
        Assert.False(new GateState(["axis stands"], null).IsOpen(any));
        // A waiver opens either, and its reason stays.
        Assert.True(new GateState([], "the sitter leaves").IsOpen(all));
        Assert.Equal("axis stands and widths stand; or measures inside; or the instructor's word", GateState.Closed.WantingSays(any));
        Assert.Equal("widths stand, measures inside and the instructor's word", new GateState(["axis stands"], null).WantingSays(all));
        Assert.Equal("", one[0].WantingSays(any));
        // A part that a gate hasn't got doesn't hold it shut.
        Assert.True(one[0].IsOpen(Gated(GateMix.All, measured: false, word: false)));
    }

    public static TheoryData<string, string, Func<ProjectTemplate, ProjectTemplate>> Wrong =>
        new()
        {
            { "name", "the name is missing", t => t with { Name = " " } },
            { "name", "a line break", t => t with { Name = "two\nlines" } },
            {
                "stages",
                "shares add up to 105 %",
                t => t with { Stages = [t.Stages[0] with { Share = t.Stages[0].Share + 5 }, .. t.Stages.Skip(1)] }
            },
            { "stages", "0 stages", t => t with { Stages = [] } },
            { "stages", "'block-in' stands twice", t => t with { Stages = [.. t.Stages.Select(s => s with { Id = "block-in" })] } },
            {
                "stages[0].exercises",
                "unknown 'juggling'",
                t => t with { Stages = [t.Stages[0] with { Exercises = ["juggling"] }, .. t.Stages.Skip(1)] }
            },
            {
                "stages[0].drills",
                "unknown 'darts'",
                t => t with { Stages = [t.Stages[0] with { Drills = ["darts"] }, .. t.Stages.Skip(1)] }
            },
            {
                "stages[2].measured",
                "unknown 'F-heads'",
                t => t with { Stages = [.. t.Stages.Select((s, n) => n == 2 ? s with { Measured = ["F-heads"] } : s)] }
            },
            { "stages[2].measured", "the project has no subject", t => t with { Subject = null } },
            {
                "stages[0].leastMinutes",
                "-1 minutes",
                t => t with { Stages = [t.Stages[0] with { LeastMinutes = -1 }, .. t.Stages.Skip(1)] }
            },
            { "rubric[0].levels", "4 levels", t => t with { Rubric = [t.Rubric[0] with { Levels = ["a", "b", "c", "d"] }] } },
            {
                "rubric[0].levels[1]",
                "level 1 of Proportion has no words",
                t => t with { Rubric = [t.Rubric[0] with { Levels = ["a", "", "c", "d", "e"] }] }
            },
            { "rubric[0].weight", "weighs 0", t => t with { Rubric = [t.Rubric[0] with { Weight = 0 }] } },
            { "kit", "unknown 'wand'", t => t with { Kit = ["wand"] } },
            { "medium", "unknown medium 'smoke'", t => t with { Medium = "smoke" } },
        };

    [Theory, MemberData(nameof(Wrong))]
    public void What_is_wrong_with_a_template_is_named_with_what_is_accepted(
        string field,
        string says,
        Func<ProjectTemplate, ProjectTemplate> broken
    )
    {
        var problems = TemplateCheck.Of(broken(Portrait));
        Assert.Contains(problems, p => p.Field == field && p.Says.Contains(says) && p.Accepted.Length > 0);
        var read = Assert.Throws<InputException>(() => TemplateCheck.Read(TemplateCheck.Write(broken(Portrait))));
        Assert.Equal(problems[0].Says, read.Message);
    }

    [Theory]
    [
        InlineData("", "can't be read as a project"),
        InlineData("null", "the file is empty"),
        InlineData("[]", "can't be read as a project"),
        InlineData("{\"name\":\"A\",\"colour\":1}", "can't be read as a project"),
        InlineData("{\"name\":\"A\"}", "0 stages"),
        InlineData("{\"name\":\"A\",\"stages\":[{\"name\":\"B\",\"share\":\"40\"}]}", "can't be read as a project")
    ]
    public void A_file_that_is_no_project_says_so(string json, string says) =>
        Assert.Contains(says, Assert.Throws<InputException>(() => TemplateCheck.Read(json)).Message);

    [Theory]
    [
        InlineData("Block-in", "block-in"),
        InlineData(" The long one! ", "the-long-one"),
        InlineData("Étude 2", "tude-2"),
        InlineData("彫刻", "part"),
        InlineData("tone", "tone-2")
    ]
    public void An_id_is_made_of_the_name_and_is_nobody_elses(string name, string id) =>
        Assert.Equal(id, TemplateCheck.IdOf(name, ["tone"]));

    private static readonly LocalDate First = new(2026, 11, 3);

    private static List<(LocalDate Date, int NetMinutes)> Weeks(int count, int minutes) =>
        [.. Enumerable.Range(0, count).Select(w => (First.PlusWeeks(w), minutes))];

    [Fact]
    public void Hours_at_home_count_by_the_days_that_are_not_off()
    {
        // Two meetings of 100 min a week apart, the end three days after the second; 70 min a week at home are 10 a day.
        var times = StageDates.Times(Weeks(2, 100), First.PlusDays(10), 2, 70);
        Assert.Equal(
            [new(First, 100), new(First.PlusDays(7), 70, true), new(First.PlusDays(7), 100), new(First.PlusDays(10), 30, true)],
            times
        );
        // Four of the seven days are a holiday.
        var off = new Core.Sessions.DaysOff(First.PlusDays(1), First.PlusDays(4), "fair");
        Assert.Equal(30, StageDates.Times(Weeks(2, 100), First.PlusDays(7), 2, 70, [off])[1].Minutes);
        // 300 min in all, halved: 150 until some hour at home, 50 of them there.
        StageTemplate[] halves = [new("a", "A", 50, "", []), new("b", "B", 50, "", [])];
        var dates = StageDates.WorkBack(halves, times);
        Assert.Equal([(150, 50), (150, 50)], dates.Select(d => (d.Minutes, d.AtHome)));
        Assert.Equal(First.PlusDays(7), dates[0].Due);
        Assert.Equal(First.PlusDays(10), dates[1].Due);
    }

    [Fact]
    public void Whether_it_fits_is_said_with_the_nearest_that_does()
    {
        StageTemplate[] stages = [new("a", "Block-in", 20, "", []) { LeastMinutes = 60 }, new("b", "Tone", 80, "", [])];
        // A fifth of 2 × 100 is 40: 20 short. Three meetings give 60.
        var more = ProjectFit.Of(stages, Weeks(6, 100), First.PlusWeeks(5), 2);
        Assert.False(more.Fits);
        Assert.Equal("Block-in lacks 20 min of 60", more.Says);
        Assert.Equal((3, First.PlusWeeks(5)), (more.Meetings, more.Ends));
        // Only one meeting lies before the end: a later end is the nearest.
        var later = ProjectFit.Of(stages, Weeks(6, 100), First, 1);
        Assert.Equal((3, First.PlusWeeks(2)), (later.Meetings, later.Ends));
        // Time at home does it without either: 350 min a week give 550 in all.
        Assert.True(ProjectFit.Of(stages, Weeks(6, 100), First.PlusWeeks(5), 2, 350).Fits);
        // Nothing in the term does.
        var never = ProjectFit.Of(stages, Weeks(2, 100), First.PlusWeeks(1), 2);
        Assert.Equal((null, null), (never.Meetings, never.Ends));
        Assert.Equal(
            "no meeting of the course lies on or before the end",
            ProjectFit.Of(stages, Weeks(2, 100), First.PlusDays(-1), 1).Says
        );
        Assert.True(ProjectFit.Of(stages, Weeks(6, 100), First.PlusWeeks(5), 3).Fits);
        // Nine are asked for and three are there: three is what is said.
        Assert.Equal(3, ProjectFit.Of(stages, Weeks(3, 100), First.PlusWeeks(5), 9, 70).Taken);
    }

    [Fact]
    public void Dates_are_in_order_and_minutes_add_up_whatever_is_asked()
    {
        Check.Sample(
            Gen.Select(
                Gen.Int[1, 40].Array[1, 12],
                Gen.Select(Gen.Int[0, 60], Gen.Int[1, 200]).Array[1, 20],
                Gen.Int[1, 40],
                Gen.Int[0, 1200]
            ),
            (shares, met, used, home) =>
            {
                var stages = shares.Select((s, n) => new StageTemplate($"s{n}", "S", s, "", [])).ToList();
                var meetings = met.DistinctBy(m => m.Item1).Select(m => (First.PlusDays(m.Item1), m.Item2)).ToList();
                var end = First.PlusDays(61);
                var times = StageDates.Times(meetings, end, used, home);
                var dates = StageDates.WorkBack(stages, times);
                Assert.Equal(times.Sum(t => t.Minutes), dates.Sum(d => d.Minutes));
                Assert.Equal(times.Where(t => t.AtHome).Sum(t => t.Minutes), dates.Sum(d => d.AtHome));
                Assert.All(dates.Zip(dates.Skip(1)), p => Assert.True(p.First.Due <= p.Second.Due));
                Assert.All(dates, d => Assert.True(d.From <= d.Due && d.Due <= end && d.AtHome <= d.Minutes));
            }
        );
    }
}
