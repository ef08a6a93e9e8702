using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Fitting;
using MintHarbor.Core.Geometry;
using Xunit;

namespace MintHarbor.Core.Tests.Critiques;

/// <summary>Six answers at most: each must go where it decides most.</summary>
public sealed class AskingTests
{
    private const double Tolerance = 2;

    private static readonly Dictionary<string, Vec2> Standing = StudioFigure
        .View(
            new StudioFigure().Model("male", FigureCatalogue.Pose("stand"), Drapery.For(false, false), StudioFigure.Thumb),
            new(0),
            FigureViewKind.Mass
        )
        .Landmarks.ToDictionary(l => l.Key, l => l.Value.At);

    private static string? Asked(IReadOnlyDictionary<string, Vec2> drawn, Dictionary<string, double> r90, params string[] placed)
    {
        var marks = drawn.Select(p => new FittedMark(p.Key, p.Value, r90.GetValueOrDefault(p.Key, 0.5), true, Tolerance)).ToList();
        var findings = Judge
            .Figure(
                new()
                {
                    Landmarks = new(drawn),
                    Reference = new(Standing),
                    Errors = marks.ToDictionary(m => m.Id, m => m.Sigma),
                    NotLookedAt = marks.Where(m => !m.Sure && !placed.Contains(m.Id)).Select(m => m.Id).ToHashSet(),
                }
            )
            .Findings;
        return Asking.Next(findings, marks, placed);
    }

    [Fact]
    public void Nothing_is_asked_where_all_is_known() => Assert.Null(Asked(Standing, []));

    /// <summary>The fingertip is known worse, and a hand is the last thing to be put right.</summary>
    [Fact]
    public void The_mark_that_a_probable_fault_waits_for_comes_before_the_widest()
    {
        var drawn = Standing.ToDictionary();
        drawn["chin"] += new Vec2(0, 7);
        var r90 = new Dictionary<string, double> { ["chin"] = 3, ["fingertip.L"] = 4 };
        Assert.Equal("chin", Asked(drawn, r90));
        Assert.Equal("fingertip.L", Asked(drawn, r90, "chin"));
        Assert.Null(Asked(drawn, r90, "chin", "fingertip.L"));
    }

    /// <summary>A knee ends thigh and lower leg: it decides two measures where an ankle decides one.</summary>
    [Fact]
    public void A_mark_of_two_measures_comes_before_a_mark_of_one()
    {
        var r90 = new Dictionary<string, double> { ["kneetop.L"] = 4, ["ankleout.R"] = 4 };
        Assert.Equal("kneetop.L", Asked(Standing, r90));
    }
}
