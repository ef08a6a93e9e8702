using MintHarbor.Core.Projects;
using NodaTime;
using Xunit;

namespace MintHarbor.Core.Tests.Projects;

/// <summary>Who waits for whom, and what is said of it: a student and an instructor act on these words.</summary>
public class WayTests
{
    private static readonly LocalDate Day = new(2027, 2, 2);

    private static readonly ProjectTemplate Plan = new(
        "lantern",
        "Lantern",
        "",
        [
            new("page", "Six small ones", 50, "", []) { HandIn = "the page of six" },
            new("long", "The long one", 50, "", ["the six lie beside it"]) { Word = true, HandIn = "the long drawing" },
            new("again", "Again", 0, "", [], ["F-heads"]),
        ],
        []
    );

    private static readonly StageDate[] Dates =
    [
        new("page", 60, Day.PlusDays(-14), Day.PlusDays(-3)),
        new("long", 60, Day.PlusDays(-3), Day.PlusDays(7)),
        new("again", 1, Day.PlusDays(7), Day.PlusDays(9)),
    ];

    private static WayState State(params string[] done) =>
        new(done, new Dictionary<string, GateState>(), [], Day.PlusDays(9), false, false, false, Standing.Graded, "");

    private static Way Of(WayState s, int day = 0) => Way.Of(Plan, Dates, s, Day.PlusDays(day));

    private static void Says(WayState s, WaitsFor whom, string ofIda, string toIda, int day = 0)
    {
        var way = Of(s, day);
        Assert.Equal((whom, ofIda, toIda), (way.For, way.Says("Ida"), way.Says(null)));
    }

    [Fact]
    public void Each_step_says_whose_turn_it_is_to_both()
    {
        Says(
            State(),
            WaitsFor.Student,
            "Next Ida hands in to Six small ones: the page of six",
            "Next you hand in to Six small ones: the page of six"
        );
        var sent = State() with { Sheets = [new("page", "4-A3-2", true)] };
        Says(sent, WaitsFor.Instructor, "Ida waits for the critique of 4-A3-2", "You wait for the critique of 4-A3-2");
        Says(
            State() with
            {
                Sheets = [new("page", "4-A3-2", false)],
            },
            WaitsFor.Student,
            "Ida draws on at Six small ones",
            "You draw on at Six small ones"
        );
        Says(
            State("page"),
            WaitsFor.Instructor,
            "Ida stands before the gate of The long one: the six lie beside it; or the instructor's word",
            "You stand before the gate of The long one: the six lie beside it; or the instructor's word"
        );
        // Measures come from a drawing: that is the student's turn.
        Says(
            State("page", "long"),
            WaitsFor.Student,
            "Ida stands before the gate of Again: measures inside",
            "You stand before the gate of Again: measures inside"
        );
        var through = State("page", "long", "again");
        Says(
            through,
            WaitsFor.Instructor,
            "Ida is through all stages and waits for the grade",
            "You are through all stages and wait for the grade"
        );
        Says(
            through with
            {
                Graded = true,
            },
            WaitsFor.Instructor,
            "Ida waits for the grade to be shown",
            "You are through all stages and wait for the grade"
        );
        Says(through with { Released = true }, WaitsFor.Nobody, "Ida has the grade", "You have the grade");
        Says(
            State() with
            {
                Standing = Standing.Excused,
                StandingBecause = "a broken wrist",
            },
            WaitsFor.Nobody,
            "Ida is excused: a broken wrist",
            "You are excused: a broken wrist"
        );
        Says(
            State() with
            {
                Standing = Standing.Incomplete,
                StandingBecause = "the page of six",
            },
            WaitsFor.Student,
            "Ida still owes the page of six",
            "You still owe the page of six"
        );
    }

    [Fact]
    public void Behind_counts_from_the_stages_date_and_late_from_the_end_that_holds()
    {
        Assert.Equal((3, 0), (Of(State()).Behind, Of(State()).Late));
        Assert.Equal((0, 0), (Of(State("page")).Behind, Of(State("page")).Late));
        Assert.Equal((13, 1), (Of(State(), 10).Behind, Of(State(), 10).Late));
        // Another end of one's own, or a hand-in: nothing is late.
        Assert.Equal(0, Of(State() with { Due = Day.PlusDays(12) }, 10).Late);
        Assert.Equal(0, Of(State() with { HandedIn = true }, 10).Late);
        Assert.Equal(0, Of(State("page", "long", "again") with { Released = true }, 30).Late);
    }
}
