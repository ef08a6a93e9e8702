using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using Xunit;

namespace MintHarbor.Core.Tests.Critiques;

/// <summary>Anatomy as numbers: one mark is moved by a known share, and the check says it, of that side and in that direction.</summary>
public sealed class AnatomyMeasureTests
{
    private static readonly StudioFigure Studio = new();

    private static Dictionary<string, Vec2> Marks(string pose, double azimuth) =>
        StudioFigure
            .View(
                Studio.Model("male", FigureCatalogue.Pose(pose), Drapery.For(false, false), StudioFigure.Thumb),
                new(azimuth),
                FigureViewKind.Mass
            )
            .Landmarks.ToDictionary(l => l.Key, l => l.Value.At);

    private static List<Finding> Judged(
        IReadOnlyDictionary<string, Vec2> drawn,
        IReadOnlyDictionary<string, Vec2> view,
        double errorMm = 0.3,
        string? exercise = null
    ) =>
        [
            .. Judge
                .Figure(
                    new()
                    {
                        Landmarks = new(drawn.Select(p => KeyValuePair.Create(p.Key, p.Value * 0.7))),
                        Reference = new(view),
                        PlacementErrorMm = errorMm,
                        Exercise = exercise,
                    }
                )
                .Findings.Where(f => f.Rule.Family == Family.Anatomy),
        ];

    /// <summary>Moves a mark along the way between two others, by a share of it.</summary>
    private static Dictionary<string, Vec2> Moved(Dictionary<string, Vec2> marks, string mark, string from, string to, double share) =>
        new(marks) { [mark] = marks[mark] + ((marks[to] - marks[from]) * share) };

    [Theory]
    [InlineData("calfin.L", "kneetop.L", "ankleout.L", -0.09, "A-calf", "left leg", Direction.High, "calves-level")]
    [InlineData("calfin.R", "kneetop.R", "ankleout.R", 0.09, "A-calf", "right leg", Direction.Low, null)]
    [InlineData("anklein.R", "kneetop.R", "ankleout.R", 0.09, "A-ankles", "right leg", Direction.Low, "ankles-level")]
    [InlineData("anklein.L", "kneetop.L", "ankleout.L", -0.09, "A-ankles", "left leg", Direction.High, null)]
    [InlineData("kneetop.L", "kneeout.L", "kneein.L", 0.3, "A-kneecap", "left knee", Direction.Inwards, "kneecap-turned")]
    [InlineData("kneetop.R", "kneeout.R", "kneein.R", -0.3, "A-kneecap", "right knee", Direction.Outwards, "kneecap-turned")]
    [InlineData("deltoidend.L", "acromion.L", "elbow.L", 0.2, "A-deltoid", "left arm", Direction.Low, "deltoid-long")]
    [InlineData("deltoidend.R", "acromion.R", "elbow.R", -0.2, "A-deltoid", "right arm", Direction.High, "deltoid-short")]
    [InlineData("asis.L", "asis.L", "pubic", 0.3, "A-pelvis", null, Direction.Short, "pelvis-broken")]
    [InlineData("asis.L", "pubic", "asis.L", 0.3, "A-pelvis", null, Direction.Long, "pelvis-broken")]
    public void A_mark_that_is_off_is_said_of_its_side_and_in_its_direction(
        string mark,
        string from,
        string to,
        double share,
        string rule,
        string? part,
        Direction way,
        string? fault
    )
    {
        var standing = Marks("stand", 0);
        var f = Assert.Single(Judged(Moved(standing, mark, from, to, share), standing), f =>
            f.Verdict == Verdict.Outside && f.Rule.Id == rule
        );
        Assert.Equal((part, way), (f.Part, f.Direction));
        Assert.Equal(fault, way == f.Measure.Ways.Below ? f.Measure.Ways.FaultBelow : f.Measure.Ways.FaultAbove);
        Assert.Contains(Sentences.Word(way), Sentences.Says(f), StringComparison.Ordinal);
    }

    /// <summary>Collarbones that hang from the sides of the neck carry their inner ends up with them, whichever way the sheet leans.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(14)]
    [InlineData(-14)]
    public void Collarbones_hung_from_the_neck_are_high_on_a_leaning_sheet_too(double lean)
    {
        var standing = Marks("stand", 0);
        var breadth = (standing["acromion.L"] - standing["acromion.R"]).Length;
        var drawn = new Dictionary<string, Vec2>(standing) { ["pit"] = standing["pit"] - new Vec2(0, 0.15 * breadth) };
        var (sin, cos) = Math.SinCos(lean * Math.PI / 180);
        var turned = drawn.ToDictionary(
            p => p.Key,
            p => new Vec2((p.Value.X * cos) - (p.Value.Y * sin), (p.Value.X * sin) + (p.Value.Y * cos))
        );
        var f = Assert.Single(Judged(turned, standing), f => f.Rule == Rules.Collarbones);
        Assert.Equal((Verdict.Outside, Direction.High), (f.Verdict, f.Direction));
        Assert.Equal(0.15, f.Off!.Value, 3);
        Assert.StartsWith("Inner ends of the collarbones 15 % of the shoulders high (±5).", Sentences.Says(f), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("stand", 0)]
    [InlineData("contrapposto", -30)]
    [InlineData("seated", 40)]
    [InlineData("armraised", 160)]
    public void A_true_drawing_has_nothing_outside_whatever_its_size(string pose, double azimuth)
    {
        var marks = Marks(pose, azimuth);
        // A knee that is seen end on is too small to be judged.
        Assert.All(Judged(marks, marks), f => Assert.True(f.Verdict is Verdict.Inside or Verdict.TooSmall, f.Says));
    }

    [Fact]
    public void Marks_placed_too_roughly_are_not_judged_by()
    {
        var standing = Marks("stand", 0);
        var drawn = Moved(standing, "calfin.L", "kneetop.L", "ankleout.L", -0.05);
        Assert.Equal(Verdict.Outside, Judged(drawn, standing, errorMm: 0.2).Single(f => f.Key == "A-calf: left leg").Verdict);
        Assert.Equal(Verdict.TooSmall, Judged(drawn, standing, errorMm: 4).Single(f => f.Key == "A-calf: left leg").Verdict);
    }

    [Fact]
    public void Only_what_is_placed_is_measured_and_only_where_anatomy_is_inspected()
    {
        var standing = Marks("stand", 0);
        var few = standing.Where(m => m.Key is not ("calfout.L" or "anklein.R")).ToDictionary();
        var keys = Judged(few, standing).Select(f => f.Key).ToList();
        Assert.DoesNotContain("A-calf: left leg", keys);
        Assert.DoesNotContain("A-ankles: right leg", keys);
        Assert.Contains("A-calf: right leg", keys);
        Assert.All(Judged(standing, standing, exercise: "gesture"), f => Assert.NotNull(f.ClosedBy));
    }

    [Fact]
    public void Every_check_that_is_a_measure_names_a_rule()
    {
        var measured = CheckOn.All.Where(c => c.Measure is not null).ToList();
        Assert.InRange(measured.Count, 12, CheckOn.All.Count());
        Assert.All(measured, c => Assert.NotNull(Rules.Find(c.Measure)));
        Assert.Equal(
            Rules.All.Where(r => r.Family == Family.Anatomy).Select(r => r.Id).Order(),
            measured.Select(c => c.Measure!).Where(m => m.StartsWith("A-", StringComparison.Ordinal)).Order()
        );
        Assert.All(measured.Where(c => c.Measure!.StartsWith("A-", StringComparison.Ordinal)), c =>
        {
            var ways = Rules.Find(c.Measure)!.Ways;
            Assert.Contains(c.Fault, new[] { ways.FaultBelow, ways.FaultAbove });
        });
    }
}
