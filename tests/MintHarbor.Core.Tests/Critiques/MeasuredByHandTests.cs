using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;
using Xunit;

namespace MintHarbor.Core.Tests.Critiques;

/// <summary>Every measure on landmarks laid out on whole numbers, its value worked out beside it.</summary>
public class MeasuredByHandTests
{
    private static readonly LandmarkSet Figure = new(
        new Dictionary<string, Vec2>
        {
            ["crown"] = new(100, 0),
            ["chin"] = new(100, 20),
            ["hairline"] = new(100, 5),
            ["pit"] = new(100, 30),
            ["pubic"] = new(100, 80),
            ["crotch"] = new(100, 84),
            ["acromion.L"] = new(120, 32),
            ["acromion.R"] = new(80, 30),
            ["deltoid.L"] = new(122, 40),
            ["deltoid.R"] = new(78, 40),
            ["elbow.L"] = new(120, 62),
            ["elbow.R"] = new(80, 64),
            ["wrist.L"] = new(120, 86),
            ["wrist.R"] = new(80, 80),
            ["fingertip.L"] = new(120, 102),
            ["fingertip.R"] = new(80, 92),
            ["ribarch.L"] = new(108, 58),
            ["ribarch.R"] = new(92, 58),
            ["asis.L"] = new(112, 70),
            ["asis.R"] = new(88, 74),
            ["iliac.L"] = new(114, 65),
            ["iliac.R"] = new(86, 65),
            ["kneetop.L"] = new(110, 110),
            ["kneetop.R"] = new(90, 110),
            ["ankleout.L"] = new(110, 145),
            ["ankleout.R"] = new(90, 146),
            ["heel.R"] = new(86, 150),
            ["toe.L"] = new(112, 152),
            ["toe.R"] = new(110, 150),
            ["sole.L"] = new(110, 150),
            ["sole.R"] = new(90, 148),
        }
    );

    private static double Of(Measure m) => m.Value(Figure);

    [Fact]
    public void The_figure_is_measured_as_a_ruler_measures_it()
    {
        var both = new FigureMeasures(Figure, null);
        var right = new FigureMeasures(Figure, "R");
        Assert.Equal(149 / 20.0, Of(both.Heads()), 9);
        Assert.Equal(148 / 20.0, Of(right.Heads()), 9);
        Assert.Equal(44 / 20.0, Of(both.Shoulders()), 9);
        Assert.Equal(80 / 149.0, Of(both.Mid()), 9);
        Assert.Equal(50 / 20.0, Of(both.PitTo(Parts.PitToPubic)), 9);
        Assert.Equal(80 / 20.0, Of(both.PitTo(Parts.PitToKneetop)), 9);
        Assert.Equal(119 / 20.0, Of(both.PitTo(Parts.PitToSole)), 9);
        // Hip crest to kneecap 45 ÷ trunk 50; kneecap to toes (from the middles: 0, 110 to 111, 151) ÷ 45.
        Assert.Equal(
            [45 / 50.0, Math.Sqrt((11 * 11) + (41 * 41)) / 45],
            both.Spans().Select(Of).Select(v => Math.Round(v, 9)).ToArray(),
            (a, b) => Math.Abs(a - b) < 1e-6
        );
        Assert.Equal(16 / 15.0, Of(FigureMeasures.Hand("L")), 9);
        Assert.Equal(24 / 20.0, Of(FigureMeasures.Foot("R")), 9);
        Assert.Equal(4 / 20.0, Of(FigureMeasures.Elbow("L")), 9);
        Assert.Equal([30 / 24.0, 24 / 16.0], FigureMeasures.Arm("L").Select(Of));
        Assert.Equal([34 / 16.0, 16 / 12.0], FigureMeasures.Arm("R").Select(Of));
        Assert.Equal(30 / 34.0, Of(FigureMeasures.Pairs().First()), 9);
        // Wrist 6 below the pubic bone; fingertips 102 against the middle of 84 and 110, 97.
        Assert.Equal([6 / 20.0, 5 / 20.0], both.Wrist("L").Select(Of));
        Assert.Equal([0, -5 / 20.0], both.Wrist("R").Select(Of));
        Assert.Equal(-10 / 20.0, Of(FigureMeasures.Plumb("pit", "ankleout.R")), 9);
        // The left hip 4 higher over 24, the left shoulder 2 lower over 40, the foot 10 left of the pit.
        var tilt = FigureMeasures.Tilt("L").Select(Of).ToList();
        Assert.Equal(Math.Atan2(4, 24) * 180 / Math.PI, tilt[0], 6);
        Assert.Equal(Math.Atan2(2, 40) * 180 / Math.PI, tilt[1], 6);
        Assert.Equal(10 / 20.0, tilt[2], 9);
        Assert.True(Of(FigureMeasures.Tilt("R")[0]) < 0);
    }

    [Fact]
    public void Where_one_side_is_not_placed_the_other_stands_for_both()
    {
        var one = new LandmarkSet(Figure.Points.Where(p => p.Key != "sole.L"));
        Assert.Equal(148 / 20.0, new FigureMeasures(one, null).Heads().Value(one), 9);
        Assert.Equal(148 / 20.0, new FigureMeasures(one, "L").Heads().Value(one), 9);
    }

    private static readonly Dictionary<string, Vec2> Face = new()
    {
        ["crown"] = new(100, 0),
        ["hairline"] = new(100, 20),
        ["brow"] = new(100, 45),
        ["glabella"] = new(102, 47),
        ["nosebase"] = new(100, 70),
        ["lip-slit"] = new(100, 80),
        ["mouth"] = new(100, 82),
        ["chin"] = new(100, 100),
        ["eye-inner.L"] = new(110, 50),
        ["eye-outer.L"] = new(130, 52),
        ["eye-inner.R"] = new(90, 50),
        ["eye-outer.R"] = new(70, 48),
        ["wing.L"] = new(112, 68),
        ["wing.R"] = new(91, 68),
        ["iris-inner.L"] = new(115, 50),
        ["iris-inner.R"] = new(85, 50),
        ["mouth-corner.L"] = new(117, 80),
        ["mouth-corner.R"] = new(86, 80),
        ["ear-top.L"] = new(145, 40),
        ["ear-top.R"] = new(55, 56),
        ["ear-base.L"] = new(145, 72),
        ["ear-base.R"] = new(55, 66),
        ["neck-side.L"] = new(120, 110),
        ["neck-side.R"] = new(80, 110),
        ["jaw-angle.L"] = new(125, 88),
        ["jaw-angle.R"] = new(75, 88),
        ["head-side.L"] = new(150, 50),
        ["head-side.R"] = new(50, 50),
        ["nose-root"] = new(100, 48),
    };

    private static IEnumerable<double> Heads(Func<HeadMeasures, IEnumerable<Measure>> measures, params string[] without)
    {
        var set = new LandmarkSet(Face.Where(p => !without.Contains(p.Key)));
        return measures(new(set)).Select(m => Math.Round(m.Value(set), 9));
    }

    [Fact]
    public void The_head_is_measured_as_a_ruler_measures_it()
    {
        Assert.Equal([0.50], Heads(m => [m.EyeLine()]));
        Assert.Equal([25 / 80.0, 25 / 80.0, 30 / 80.0], Heads(m => m.Thirds("hairline")));
        Assert.Equal([0.45, 0.25, 0.30], Heads(m => m.Thirds("crown")));
        Assert.Equal("head", new HeadMeasures(new(Face)).Thirds("crown")[0].Unit);
        Assert.Equal("face", new HeadMeasures(new(Face)).Thirds("hairline")[0].Unit);
        Assert.Equal([Math.Round(10 / 30.0, 9)], Heads(m => [m.MouthLine()]));
        Assert.Equal([1.0, 5.0], Heads(_ => HeadMeasures.Breadths()));
        // An eye is 20. Right wing 1 inside its corner, left 2 outside; right corner 1 inside the iris, left 2 outside.
        Assert.Equal([-1 / 20.0, 2 / 20.0], Heads(_ => HeadMeasures.Nostrils()));
        Assert.Equal([-1 / 20.0, 2 / 20.0], Heads(_ => HeadMeasures.MouthCorners("iris-inner")));
        // Right ear's top 6 under the eye line, base 4 over the nose base; left top 5 over the brow, base 2 under.
        Assert.Equal([0.06, -0.04, -0.05, 0.02], Heads(m => m.Ears()));
        Assert.Equal([0.8], Heads(_ => [HeadMeasures.Neck()]));
    }

    [Fact]
    public void The_figures_own_landmarks_serve_where_the_heads_are_not_placed()
    {
        Assert.Equal([Math.Round(12 / 30.0, 9)], Heads(m => [m.MouthLine()], "lip-slit"));
        Assert.Equal([27 / 80.0], Heads(m => m.Thirds("hairline").Take(1), "brow"));
        Assert.Equal([25 / 80.0], Heads(m => m.Thirds("hairline").Take(1), "glabella"));
    }

    [Theory]
    [InlineData(100, 0), InlineData(126, 1), InlineData(74, -1)]
    public void An_outline_divided_in_the_middle_is_not_turned_and_turns_to_where_the_midline_goes(double x, int sign)
    {
        var set = new LandmarkSet(new Dictionary<string, Vec2>(Face) { ["nose-root"] = new(x, 48) });
        Assert.Equal(sign, Math.Sign(Math.Round(HeadTurn.OfOutline(set).Value(set), 6)));
        var without = new LandmarkSet(new Dictionary<string, Vec2>(Face) { ["glabella"] = new(x, 48) }.Where(p => p.Key != "nose-root"));
        Assert.Equal(sign, Math.Sign(Math.Round(HeadTurn.OfOutline(without).Value(without), 6)));
    }

    /// <summary>A drawing twice as large as its reference, one forearm half as long again: the scale is the whole's, not moved by the one.</summary>
    [Fact]
    public void The_scale_is_the_wholes()
    {
        var drawn = Figure.Points.ToDictionary(p => p.Key, p => p.Value * 2);
        drawn["wrist.L"] += new Vec2(0, 24);
        var set = new LandmarkSet(drawn);
        var m = new ReferenceMeasures(set, Figure, Similarity.Fit([.. Figure.Points.Select(p => (p.Value, drawn[p.Key]))]));
        Assert.Equal(2, m.Scale, 9);
        Assert.Equal(1.5, m.LengthOf(m.Seen.Single(p => p.Part.Name == "left forearm")).Value(set), 9);
        Assert.Equal(ReferenceMeasures.Parts.Count - 1, m.Seen.Count); // the left heel is not placed
        var mean = m.Seen.Average(p => (drawn[p.A] - drawn[p.B]).Length);
        // All other parts agree to the letter: what is left is placement, the mean of so many parts.
        Assert.Equal(0.7 * Math.Sqrt(2) / (mean * Math.Sqrt(m.Seen.Count)), m.ScaleSigma(0.7), 9);
        var nothing = new LandmarkSet(new Dictionary<string, Vec2> { ["crown"] = new(0, 0), ["navel"] = new(0, 9) });
        Assert.Equal(3, new ReferenceMeasures(nothing, nothing, new Similarity(3, 0, new(0, 0), 0)).Scale, 9);
        Assert.Equal(1, new ReferenceMeasures(nothing, nothing, null).Scale, 9);
    }

    /// <summary>By hand: a ratio a ÷ b of two lengths of 10 on one line, each end placed with σ: √(2σ²/b² + 2a²σ²/b⁴) = 0.2σ.</summary>
    [Fact]
    public void Placement_carries_into_a_ratio_as_it_is_worked_out()
    {
        var set = new LandmarkSet(
            new Dictionary<string, Vec2>
            {
                ["acromion.L"] = new(0, 0),
                ["elbow.L"] = new(0, 10),
                ["acromion.R"] = new(50, 0),
                ["elbow.R"] = new(50, 10),
            }
        );
        Assert.Equal(0.2 * 0.5, FigureMeasures.Pair("upper arm", "acromion", "elbow").Sigma(set, 0.5), 6);
    }

    /// <summary>Head of 100, brow at 40, eyes at 50: within its bounds an ear's top still answers to the nearer of the two.</summary>
    [Theory]
    [InlineData(39, -0.01)]
    [InlineData(42, 0.02)]
    [InlineData(48, -0.02)]
    [InlineData(53, 0.03)]
    public void An_ears_top_answers_to_the_nearer_line(double y, double carried)
    {
        var head = new LandmarkSet(
            new Dictionary<string, Vec2>
            {
                ["crown"] = new(50, 0),
                ["chin"] = new(50, 100),
                ["brow"] = new(50, 40),
                ["eye-inner.L"] = new(60, 50),
                ["eye-inner.R"] = new(40, 50),
                ["ear-top.R"] = new(20, y),
            }
        );
        var top = new HeadMeasures(head).Ears().First(m => m.Needs.Contains("ear-top.R"));
        Assert.Equal(carried, top.Carries!(id => head[id]!.Value), 9);
    }
}
