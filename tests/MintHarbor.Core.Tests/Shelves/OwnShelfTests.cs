using MintHarbor.Core.Canons;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;
using MintHarbor.Core.Shelves;
using Xunit;

namespace MintHarbor.Core.Tests.Shelves;

public class OwnShelfTests
{
    private static readonly Exercise Gesture = Exercises.Get("gesture");

    private static OwnShelf Timing(string? because, params (string Id, double Minutes)[] numbers) =>
        OwnShelf.None.WithTiming(numbers.ToDictionary(n => n.Id, n => n.Minutes), because);

    private static InputException Refused(OwnShelf own) => Assert.Throws<InputException>(() => ShelfCheck.Checked(own));

    [Fact]
    public void Without_changes_it_is_the_studios_tables()
    {
        Assert.True(OwnShelf.None.IsEmpty);
        Assert.Same(Exercises.All, CourseShelf.Studio.Exercises);
        Assert.Same(Faults.All, CourseShelf.Studio.Faults);
        Assert.Equal(TimingRules.Default, CourseShelf.Studio.Timing);
        Assert.Empty(CourseShelf.Studio.HouseLines);
        // What is saved as it stood is no change.
        Assert.True(OwnShelf.None.With(Gesture).With(Faults.All[3]).With(Materials.List.Items).With(Cautions.All).IsEmpty);
        Assert.True(OwnShelf.None.WithTiming(TimingNumbers.All.ToDictionary(n => n.Id, n => n.Studio), "why").IsEmpty);
        Assert.True(
            OwnShelf.None.WithDrills(Drills.All.ToDictionary(d => d.Kind, d => new DrillLimit(d.Allowed(0), d.Allowed(1)))).IsEmpty
        );
        Assert.True(OwnShelf.None.WithSchools(SchoolTable.All.ToDictionary(q => q.Id, q => q.Schools[0].Id)).IsEmpty);
    }

    [Fact]
    public void A_changed_exercise_stands_in_its_place_and_another_beside_the_rest()
    {
        var own = OwnShelf
            .None.With(Gesture with { Wall = "from the hip, all of it" })
            .With(Gesture with { Id = "own-blind-gesture", Name = "Blind gesture" });
        var shelf = new CourseShelf(ShelfCheck.Checked(own));
        Assert.Equal(Exercises.All.Count + 1, shelf.Exercises.Count);
        Assert.Equal(Exercises.All[0].Id, shelf.Exercises[0].Id);
        Assert.Equal("from the hip, all of it", shelf.GetExercise("gesture").Wall);
        Assert.Equal("Blind gesture", shelf.Exercises[^1].Name);
        Assert.Equal(Gesture.Wall, new CourseShelf(own.WithoutExercise("gesture")).GetExercise("gesture").Wall);
        Assert.Contains("own-blind-gesture", Assert.Throws<InputException>(() => shelf.GetExercise("nothing")).Accepted);
    }

    [Fact]
    public void An_evening_is_planned_by_the_courses_own_exercise_and_says_its_words()
    {
        var known = new PlanKnown
        {
            Exercises =
            [
                Gesture with
                {
                    Wall = "from the hip",
                },
                Gesture with
                {
                    Id = "own-slow",
                    Name = "Slow line",
                    MinMinutes = 10,
                    MaxMinutes = 15,
                    Wall = "no haste",
                },
            ],
        };
        var request = new PlanRequest(
            new()
            {
                Minutes = 120,
                Students = 8,
                Include = ["own-slow"],
            }
        )
        {
            Known = known,
        };
        var plan = Planner.Plan(request).Proposals[0];
        var slow = plan.Items.Single(i => i.Exercise == "own-slow");
        Assert.InRange(slow.PoseMinutes, 10, 15);
        var evening = new Evening(request, plan.Items);
        Assert.Equal("slow line: no haste", evening.Line(slow).OnWall);
        Assert.All(evening.Lines.Where(l => l.Item.Exercise == "gesture"), l =>
            Assert.Contains("from the hip", l.OnPaper, StringComparison.Ordinal)
        );
        Assert.Contains(plan.Items, i => i.Exercise == "gesture");
    }

    [Theory]
    [InlineData("stretch", 15), InlineData("standing", 10), InlineData("rest", 7), InlineData("break-least", 14)]
    public void What_spares_the_model_needs_no_word_and_evenings_keep_to_it(string id, double minutes)
    {
        var shelf = new CourseShelf(ShelfCheck.Checked(Timing(null, (id, minutes))));
        var request = new PlanRequest(new() { Minutes = 180, Students = 8 }) { Known = new() { Timing = shelf.Timing } };
        foreach (var plan in Planner.Plan(request).Proposals)
        {
            Assert.True(plan.Holds);
            var posed = plan.Items.Where(i => i.Posed).ToList();
            if (id == "stretch")
                Assert.All(posed, i => Assert.InRange(i.Minutes, 0, minutes));
            if (id == "standing")
                Assert.All(posed.SelectMany(i => i.PoseRuns()).Where(r => r.Strain == Strain.Standing), r =>
                    Assert.InRange(r.Minutes, 0, minutes)
                );
            if (id == "break-least")
                Assert.InRange(plan.Items.Single(i => i.Kind == ItemKind.Break).Minutes, minutes, 15);
        }
    }

    [Theory]
    [InlineData("stretch", 30, "posed on end at most", "at most 25")]
    [InlineData("break-least", 8, "the break, at least", "at least 10")]
    [InlineData("standing", 22, "standing, on end", "at most 20")]
    [InlineData("break-over", 100, "a break in anything over", "at most 90")]
    public void What_asks_more_of_the_model_needs_the_word_that_says_why(string id, double minutes, string says, string accepted)
    {
        var refused = Refused(Timing("  ", (id, minutes)));
        Assert.StartsWith(says, refused.Message);
        Assert.StartsWith(accepted, refused.Accepted);
        var kept = Timing("agreed with our two models", (id, minutes));
        Assert.Equal("agreed with our two models", ShelfCheck.Checked(kept).LooserBecause);
        // The word goes with what it was said for.
        Assert.Equal("", OwnShelf.None.WithTiming(new Dictionary<string, double> { ["stretch"] = 20 }, "agreed").LooserBecause);
    }

    [Fact]
    public void Numbers_by_which_no_evening_can_be_planned_are_refused_with_the_evening()
    {
        // A quarter posed in any hour, but stretches of 25: the arithmetic of stretches can't keep it.
        Assert.Contains("can't be planned by it", Refused(Timing(null, ("hour", 15))).Message);
        Assert.Contains("longer at least than at most", Refused(Timing(null, ("break-least", 20))).Message);
    }

    [Fact]
    public void A_request_with_half_an_exercise_or_a_strain_without_a_limit_is_refused_by_name()
    {
        var request = new PlanRequest(new() { Minutes = 120 });
        PlanRequest With(PlanKnown known) => request with { Known = known };
        var half = Gesture with { Steps = null!, Kit = null! };
        Assert.Equal("steps", Assert.Throws<InputException>(() => Planner.Plan(With(new() { Exercises = [half] }))).Field);
        var timing = TimingRules.Default with { Strains = [.. TimingRules.Default.Strains.Skip(1)] };
        Assert.Contains("lying", Assert.Throws<InputException>(() => Planner.Plan(With(new() { Timing = timing }))).Accepted);
    }

    [Fact]
    public void A_drill_is_right_within_the_courses_limit_from_the_next_round_on()
    {
        var own = OwnShelf.None.WithDrills(new Dictionary<string, DrillLimit> { ["clock-hand"] = new(8, 3) });
        var limit = new CourseShelf(ShelfCheck.Checked(own)).Limit("clock-hand");
        var round = new DrillRoundState("clock-hand", 5, 0, false, []).Kept();
        var truth = round.Replay().Next!.Truth.Value;
        // 10° off: within the studio's 15 at the easiest, outside the course's 8.
        var off = (truth + 10) % 360;
        Assert.True(round.Answered(off).Replay().Done[0].Score.Correct);
        Assert.False((round with { Limit = limit }).Answered(off).Replay().Done[0].Score.Correct);
        Assert.True((round with { Limit = limit }).Answered((truth + 7) % 360).Replay().Done[0].Score.Correct);
        Assert.Equal(5.5, ClockHand.Drill.Allowed(0.5, limit));
        Assert.Null(CourseShelf.Studio.Limit("clock-hand"));
        Refused(OwnShelf.None.WithDrills(new Dictionary<string, DrillLimit> { ["clock-hand"] = new(5, 9) }));
        Refused(OwnShelf.None.WithDrills(new Dictionary<string, DrillLimit> { ["clock-hand"] = new(90, 3) }));
    }

    [Fact]
    public void Prices_are_the_courses_and_whoever_buys_is_told_to()
    {
        var charcoal = Materials.List.Find("willow charcoal")!;
        var own = OwnShelf.None.With([charcoal with { Cost = 1.25, Buys = "student" }]);
        var list = new CourseShelf(ShelfCheck.Checked(own)).Materials;
        var plan = Planner.Plan(new(new() { Minutes = 120, Students = 10 })).Proposals[0];
        Assert.Contains("willow charcoal", plan.Kit);
        Assert.Contains("willow charcoal", Materials.Bring(list, plan));
        Assert.DoesNotContain("willow charcoal", Materials.Bring(Materials.List, plan));
        Assert.DoesNotContain(Materials.Buy(list, [(plan, 10)]), p => p.Material.Id == "willow charcoal");
        Refused(OwnShelf.None.With([charcoal with { Cost = -1 }]));
        Refused(OwnShelf.None.With([charcoal with { Id = "gold" }]));
    }

    [Fact]
    public void Cautions_are_said_in_the_courses_words_and_the_studios_can_not_be_taken_away()
    {
        var own = OwnShelf.None.With([
            Cautions.All[0] with
            {
                Says = "Knock before you enter.",
            },
            new("own-stairs", "always", "The stairs are wet when it rains.", "ours"),
        ]);
        var shelf = new CourseShelf(ShelfCheck.Checked(own)).Cautions;
        var request = new PlanRequest(
            new()
            {
                Minutes = 60,
                Model = ModelKind.StillLife,
                Medium = "graphite",
            }
        );
        var plan = Planner.Plan(request).Proposals[0];
        var shown = Cautions.For(shelf, request, plan).Select(c => c.Id).ToList();
        Assert.Equal(["lamp", "body", "own-stairs"], shown);
        var posed = request.Wishing(w => w with { Model = ModelKind.Person });
        Assert.Equal("Knock before you enter.", Cautions.For(shelf, posed, Planner.Plan(posed).Proposals[0])[0].Says);
        // When a caution of the studio's is shown is not the course's to say.
        Assert.Contains("other times", Refused(OwnShelf.None.With([Cautions.All[0] with { Says = "x", When = "dust" }])).Message);
    }

    /// <summary>A head built with its eyes at 44 % of it, to be judged by the classical head.</summary>
    private static readonly JudgeRequest EyesHigh = new()
    {
        Subject = "head",
        Canon = "classical-head",
        Exercise = "head-construction",
        Landmarks = new(
            new Dictionary<string, MintHarbor.Core.Geometry.Vec2>(
                CanonRecipe.Of(OwnCanon.From(CanonTable.Get("classical-head"), "High eyes", "", [new("H-eye", true, 0.44, null)]))
            )
        ),
        PlacementErrorMm = 0.1,
    };

    [Fact]
    public void A_finding_becomes_a_remark_in_the_courses_words()
    {
        var finding = Judge.Of(EyesHigh).Findings.Single(f => f.IsOutside && f.Rule.Id == "H-eye");
        var ours = finding.Fault! with { Principle = "Because we say so.", Remedy = "Do it twice." };
        var shelf = new CourseShelf(ShelfCheck.Checked(OwnShelf.None.With(ours)));
        var remark = Remark.FromFinding("r1", finding, null, shelf.Fault(finding.Fault!.Id));
        Assert.Equal(("Because we say so.", "Do it twice.", finding.Says), (remark.Why, remark.Next, remark.What));
        Assert.Contains("rule", Refused(OwnShelf.None.With(ours with { Rule = "F-heads" })).Field);
    }

    [Fact]
    public void An_exercise_is_judged_by_what_the_course_says_it_is_judged_by()
    {
        Assert.Contains(Judge.Of(EyesHigh).Findings, f => f.IsOutside && f.Rule.Id == "H-eye");
        var lineOnly = EyesHigh with { Own = Exercises.Get("head-construction") with { Findings = ["line"] } };
        Assert.DoesNotContain(Judge.Of(lineOnly).Findings, f => f.IsOutside);
    }

    [Fact]
    public void It_goes_out_and_comes_in_as_json_with_nothing_changed()
    {
        var own = Timing("agreed with both models", ("stretch", 20), ("standing", 22))
            .With(Gesture with { Wall = "“from” the hip" })
            .With(Faults.All[0] with { Remedy = "Again, slowly." })
            .With([Materials.List.Items[0] with { Cost = 0.11 }])
            .WithSchools(new Dictionary<string, string> { ["eraser"] = "never" });
        var json = own.Write();
        Assert.Equal(json, OwnShelf.Read(json).Write());
        Assert.Contains("“from” the hip", json);
        Assert.Equal(["No eraser: restate beside it; light searching lines sink behind the darks."], new CourseShelf(own).HouseLines);
        Assert.True(OwnShelf.Read("{}").IsEmpty);
    }

    [Theory]
    [InlineData("", "no shelf"), InlineData("[]", "no shelf"), InlineData("{\"prices\":1}", "no shelf at $.prices")]
    [InlineData("{\"exercises\":null}", "a part is missing"), InlineData("{\"exercises\":[null]}", "has no id")]
    [InlineData("{\"faults\":[{\"id\":\"hairy-line\"}]}", "is empty")]
    [
        InlineData("{\"timing\":{\"naps\":5}}", "no timing rule 'naps'"),
        InlineData("{\"drills\":{\"naps\":{\"easy\":1,\"hard\":1}}}", "unknown drill")
    ]
    [InlineData("{\"schools\":{\"pace\":\"long-first\"}}", "no question that is chosen here")]
    [InlineData("{\"schools\":{\"eraser\":\"always\"}}", "'always' is no eraser")]
    [InlineData("{\"cautions\":[{\"id\":\"stairs\",\"when\":\"always\",\"says\":\"x\",\"source\":\"\"}]}", "none of the table's")]
    [InlineData("{\"exercises\":[{\"id\":\"gesture\",\"name\":\"Gesture\"}]}", "")]
    public void A_file_that_is_none_is_refused_by_name(string json, string says) =>
        Assert.Contains(says, Assert.Throws<InputException>(() => OwnShelf.Read(json)).Message);

    [Fact]
    public void An_exercise_is_refused_by_what_is_wrong_with_it()
    {
        foreach (
            var (bad, field) in new (Exercise, string)[]
            {
                (Gesture with { Id = "gestures" }, "exercises"),
                (Gesture with { Name = "" }, "name"),
                (Gesture with { Wall = "two\nlines" }, "words on the wall"),
                (Gesture with { MinMinutes = 6 }, "most minutes"),
                (Gesture with { MaxMinutes = 500 }, "most minutes"),
                (Gesture with { Look = 120 }, "look"),
                (Gesture with { Findings = [] }, "findings"),
                (Gesture with { Findings = ["F-nose"] }, "finding"),
                (Gesture with { Paper = "vellum" }, "paper"),
                (Gesture with { Kit = ["gold"] }, "kit"),
                (Gesture with { NeedsSubject = false }, "exercises"),
                (Gesture with { Inspected = [] }, "what is inspected"),
            }
        )
            Assert.Equal(field, Refused(OwnShelf.None with { Exercises = [bad] }).Field);
        Assert.Equal("exercises", Refused(OwnShelf.None with { Exercises = [Gesture, Gesture] }).Field);
    }

    [Fact]
    public void Every_question_on_which_schools_disagree_has_two_answers_at_least_and_a_canon_is_of_one_school()
    {
        // The questions on which instructors disagree, common practice, no source.
        string[] rows =
        [
            "pace",
            "start",
            "inside",
            "eraser",
            "medium",
            "grip",
            "size",
            "knowledge",
            "exaggeration",
            "source",
            "smudging",
            "eyes",
            "thirds",
            "mouth-line",
            "mouth-width",
            "pupils",
            "symmetry",
        ];
        Assert.Equal(rows, SchoolTable.All.Select(q => q.Id));
        Assert.All(SchoolTable.All, q =>
            Assert.True(q.Schools.Count >= 2 && q.Schools.Select(s => s.Id).Distinct().Count() == q.Schools.Count)
        );
        (string Canon, string Question, string School)[] held =
        [
            ("classical-head", "eyes", "eye-line"),
            ("classical-head", "thirds", "from-hairline"),
            ("beginner-head", "thirds", "from-crown"),
            ("classical-head", "mouth-line", "third"),
            ("beginner-head", "mouth-line", "half"),
            ("classical-head", "mouth-width", "iris"),
            ("socket-head", "eyes", "socket"),
            ("socket-head", "mouth-width", "pupil"),
            ("beginner-head", "mouth-width", "nostrils"),
        ];
        foreach (var (canon, question, school) in held)
        {
            var q = SchoolTable.All.Single(x => x.Id == question);
            Assert.Equal(school, Assert.Single(q.Schools, s => s.Holds(CanonTable.Get(canon).Rule(q.Rule!)!)).Id);
        }
        var eyes = SchoolTable.All.Single(q => q.Id == "eyes");
        var rule = CanonTable.Get("classical-head").Rule("H-eye")! with { Expected = 0.47 };
        Assert.Equal("socket", Assert.Single(eyes.Schools, s => s.Holds(rule)).Id);
    }
}
