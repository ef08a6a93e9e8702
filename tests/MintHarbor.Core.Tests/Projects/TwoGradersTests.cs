using MintHarbor.Core.Projects;
using Xunit;

namespace MintHarbor.Core.Tests.Projects;

public class TwoGradersTests
{
    private static readonly RubricRow[] Rows = [new("line", "Line", 60, []), new("page", "Page", 40, [])];
    private static readonly TwoGraders Two = new(new Grader(1, "Edda Quill"));

    private static Dictionary<string, int> Levels(int line, int page) => new() { ["line"] = line, ["page"] = page };

    [Fact]
    public void Whoever_else_begins_is_the_second_and_a_third_is_neither()
    {
        Assert.Equal((GraderSeat.First, GraderSeat.Second, GraderSeat.Second), (Two.SeatOf(1), Two.SeatOf(2), Two.SeatOf(3)));
        var begun = Two with { Second = new(2, "Edda Quill") };
        Assert.Equal((GraderSeat.First, GraderSeat.Second, GraderSeat.Neither), (begun.SeatOf(1), begun.SeatOf(2), begun.SeatOf(3)));
    }

    [Fact]
    public void Neither_sees_the_others_levels_and_a_third_sees_none()
    {
        var first = Levels(2, 3);
        var begun = Two with
        {
            Second = new(2, "Lorne Fisk"),
            Levels = new Dictionary<string, int> { ["line"] = 4 },
        };
        Assert.Same(first, begun.SeenFrom(GraderSeat.First, first));
        Assert.Equal(4, Assert.Single(begun.SeenFrom(GraderSeat.Second, first)).Value);
        Assert.Empty(begun.SeenFrom(GraderSeat.Neither, first));
        Assert.Equal(
            "Two grade it, neither sees the other's levels before both are through. You: 2 of 2 rows. Lorne Fisk: 1.",
            begun.Says(GraderSeat.First, 2, first)
        );
        Assert.EndsWith("You: 1 of 2 rows. Edda Quill: 2.", begun.Says(GraderSeat.Second, 2, first));
        Assert.EndsWith("You: 2 of 2 rows. The second: 0.", Two.Says(GraderSeat.First, 2, first));
        Assert.DoesNotContain("4", begun.Says(GraderSeat.Neither, 2, first));
        var settled = begun with { Settled = Levels(3, 3) };
        Assert.All(Enum.GetValues<GraderSeat>(), s => Assert.Same(settled.Settled, settled.SeenFrom(s, first)));
    }

    [Fact]
    public void How_far_two_lie_apart_is_said_in_points_and_by_row()
    {
        Assert.Null(GradersApart.Of(Rows, Levels(2, 3), new Dictionary<string, int> { ["line"] = 2 }));
        // 100·(60·2 + 40·3)/400 = 60 and 100·(60·4 + 40·3)/400 = 90.
        var apart = GradersApart.Of(Rows, Levels(2, 3), Levels(4, 3))!;
        Assert.Equal((60, 90, 30), (apart.First.Rounded(), apart.Second.Rounded(), apart.Points.Rounded()));
        Assert.Equal("line", Assert.Single(apart.Far).Row.Id);
        Assert.Equal("60 against 90 of 100, 30 apart; two levels or more in line.", apart.Says);
        // The other way round they lie as far apart.
        Assert.Equal(30, GradersApart.Of(Rows, Levels(4, 3), Levels(2, 3))!.Points.Rounded());
        Assert.Equal("60 against 70 of 100, 10 apart.", GradersApart.Of(Rows, Levels(2, 3), Levels(2, 4))!.Says);
        Assert.Equal("Alike in every row: 60 of 100.", GradersApart.Of(Rows, Levels(2, 3), Levels(2, 3))!.Says);
    }

    [Fact]
    public void What_is_settled_lies_between_the_two_and_wants_a_word_where_they_are_far()
    {
        var far = GradersApart.Of(Rows, Levels(2, 3), Levels(4, 3))!;
        far.Check(Levels(3, 3), "the line is sure, its weight isn't");
        Assert.Contains("line lies two levels apart", Assert.Throws<InputException>(() => far.Check(Levels(3, 3), " ")).Message);
        Assert.Contains("2 to 4, between the two", Assert.Throws<InputException>(() => far.Check(Levels(1, 3), "so")).Accepted);
        Assert.Contains("3, as both gave", Assert.Throws<InputException>(() => far.Check(Levels(3, 2), "so")).Accepted);
        Assert.Contains(
            "no level for page",
            Assert.Throws<InputException>(() => far.Check(new Dictionary<string, int> { ["line"] = 3 }, "so")).Message
        );
        Assert.Contains(
            "not in the rubric",
            Assert
                .Throws<InputException>(() =>
                    far.Check(
                        new Dictionary<string, int>
                        {
                            ["line"] = 3,
                            ["page"] = 3,
                            ["x"] = 1,
                        },
                        "so"
                    )
                )
                .Message
        );
        GradersApart.Of(Rows, Levels(2, 3), Levels(2, 4))!.Check(Levels(2, 4), null);
    }
}
