using MintHarbor.Core.Canons;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;
using Xunit;

namespace MintHarbor.Core.Tests.Critiques;

public class JudgeTests
{
    /// <summary>A front view of the mean adult, 540 mm tall. Published: Drillis and Contini 1966 as reproduced in Winter,
    /// Biomechanics and Motor Control of Human Movement (heights over stature: chin .870, shoulder .818, elbow .630, hip
    /// .530, wrist .485, fingertip .377, knee .285, ankle .039; shoulder breadth .259; foot .152), values from memory.
    /// Places that the table does not give (marked) are common practice.</summary>
    internal static Dictionary<string, Vec2> Measured(double height = 540)
    {
        var m = new Dictionary<string, Vec2>();
        void Mid(string id, double h) => m[id] = new(228.6, 40 + ((1 - h) * height));
        void Pair(string id, double half, double h)
        {
            m[id + ".R"] = new(228.6 - (half * height), 40 + ((1 - h) * height));
            m[id + ".L"] = new(228.6 + (half * height), 40 + ((1 - h) * height));
        }
        Mid("crown", 1);
        Mid("hairline", 0.97); // common practice: face of a tenth
        Mid("chin", 0.870);
        Mid("pit", 0.818);
        Mid("pubic", 0.5); // common practice
        Mid("crotch", 0.47); // common practice
        Pair("acromion", 0.125, 0.818);
        Pair("deltoid", 0.1295, 0.79);
        Pair("elbow", 0.13, 0.630);
        Pair("ribarch", 0.06, 0.630); // common practice
        Pair("wrist", 0.13, 0.485);
        Pair("fingertip", 0.13, 0.377);
        Pair("asis", 0.07, 0.55); // common practice
        Pair("iliac", 0.085, 0.6); // common practice
        Pair("kneetop", 0.06, 0.30); // common practice: the kneecap's top stands a little over the joint at .285
        Pair("ankleout", 0.06, 0.039);
        Pair("sole", 0.05, 0);
        Pair("toe", 0.06, 0);
        return m;
    }

    private static JudgeRequest Ask(string canon, Dictionary<string, Vec2>? marks = null, double placement = 0.4) =>
        new()
        {
            Canon = canon,
            Landmarks = new(marks ?? Measured()),
            PlacementErrorMm = placement,
        };

    private static IEnumerable<Finding> Outside(JudgeRequest r) => Judge.Figure(r).Findings.Where(f => f.Verdict == Verdict.Outside);

    [Fact]
    public void The_measured_figure_is_inside_its_own_canon_and_outside_the_golden_chain_only_by_the_arm()
    {
        Assert.Empty(Outside(Ask("measured-adult")));
        Assert.Empty(Outside(Ask("academic")));
        var chain = Outside(Ask("golden-chain")).ToList();
        Assert.NotEmpty(chain);
        Assert.All(chain, f => Assert.Equal("F-arm", f.Rule.Id));
        Assert.Contains(Judge.Figure(Ask("measured-adult")).Findings, f =>
            f.Rule.Id == "F-heads" && f.Verdict == Verdict.Inside && Math.Abs(f.Measured!.Value - 7.69) < 0.01
        );
    }

    /// <summary>Published: Vitruvius, De Architectura, book III, ch. 1: of the height, face and hand 1/10, head 1/8, foot 1/6,
    /// forearm with hand 1/4; from memory of the text.</summary>
    [Fact]
    public void Vitruvius_fractions_make_a_figure_that_his_canon_accepts()
    {
        var canon = CanonTable.Get("vitruvius");
        Assert.Equal(1 / (1 / 8.0), canon.Rule("F-heads")!.Expected, 6);
        Assert.Equal((1 / 6.0) / (1 / 8.0), canon.Rule("F-foot")!.Expected, 2);
        Assert.Equal((1 / 10.0) / (1 / 10.0), canon.Rule("F-hand")!.Expected, 6);
        Assert.Equal((1 / 4.0) / (1 / 8.0), canon.Rule("F-shoulder")!.Expected, 6);
        var m = Measured();
        const double h = 540;
        m["chin"] = new(228.6, 40 + (h / 8));
        m["hairline"] = new(228.6, 40 + (h / 8) - (h / 10));
        foreach (var s in new[] { "R", "L" })
            m["fingertip." + s] = m["wrist." + s] + new Vec2(0, h / 10);
        m["deltoid.R"] = new(228.6 - (h / 8), 150);
        m["deltoid.L"] = new(228.6 + (h / 8), 150);
        Assert.DoesNotContain(Outside(Ask("vitruvius", m)), f => f.Rule.Id is "F-heads" or "F-hand" or "F-shoulder");
        var side = Ask("vitruvius", new(m) { ["heel.R"] = new(200, 580), ["toe.R"] = new(200 + (h / 6), 580) }) with { View = "profile" };
        Assert.Contains(Judge.Figure(side).Findings, f => f.Rule.Id == "F-foot" && f.Verdict == Verdict.Inside);
    }

    [Fact]
    public void Every_canon_accepts_the_figure_solved_from_its_own_rules()
    {
        foreach (var canon in CanonTable.OfFigures)
        {
            var m = Measured();
            var head = 540 / canon.Rule("F-heads")!.Expected;
            m["chin"] = new(228.6, 40 + head);
            var half = canon.Rule("F-shoulder")!.Expected * head / 2;
            (m["deltoid.R"], m["deltoid.L"]) = (new(228.6 - half, 150), new(228.6 + half, 150));
            if (canon.Rule("F-hand") is not null)
                m["hairline"] = new(228.6, 40 + head - (0.108 * 540));
            if (canon.Rule("F-arm") is { Parts: { } parts })
            {
                double hand = 0.100 * 540,
                    fore = hand * parts["forearm : hand"],
                    upper = fore * parts["upper arm : forearm"];
                foreach (var s in new[] { "R", "L" })
                {
                    var a = m["acromion." + s];
                    m["elbow." + s] = a + new Vec2(0, upper);
                    m["wrist." + s] = a + new Vec2(0, upper + fore);
                    m["fingertip." + s] = a + new Vec2(0, upper + fore + hand);
                    if (canon.Rule("F-elbow") is not null)
                        m["ribarch." + s] = m["elbow." + s];
                }
                if (canon.Rule("F-hand") is not null)
                    m["hairline"] = new(228.6, 40 + head - hand);
            }
            var outside = Outside(Ask(canon.Id, m)).Select(f => f.Rule.Id).Distinct().Except(["F-wrist"]).ToList();
            Assert.True(outside.Count == 0, $"{canon.Id} contradicts itself in {string.Join(", ", outside)}");
            Assert.All(canon.Yields, y => Assert.Null(canon.Rule(y)));
        }
    }

    [Fact]
    public void The_golden_chain_with_a_hand_of_a_tenth_puts_the_elbow_over_half_a_head_low()
    {
        // Its reason for yielding F-elbow, worked out: shoulder .818, ribcage's bottom .630 of the height.
        var upper = 0.1 * 1.618 * 1.618;
        Assert.True((upper - (0.818 - 0.630)) * 7.5 > 0.5);
    }

    [Theory]
    [InlineData(0.5, 0.3, 0.1, Verdict.Outside), InlineData(-0.5, 0.3, 0.1, Verdict.Outside), InlineData(0.19, 0.3, 0.1, Verdict.Inside)]
    [
        InlineData(0.3, 0.3, 0.1, Verdict.TooClose),
        InlineData(0.41, 0.3, 0.1, Verdict.Outside),
        InlineData(0.39, 0.3, 0.1, Verdict.TooClose),
        InlineData(0, 0.3, 0.31, Verdict.TooSmall)
    ]
    public void A_verdict_weighs_deviation_tolerance_and_uncertainty(double d, double t, double u, Verdict expected) =>
        Assert.Equal(expected, Verdicts.Of(d, t, u));

    [Fact]
    public void Uncertainty_is_the_ninety_per_cent_interval_of_the_placement()
    {
        // Against a simulation of 20,000 placements: first-order propagation must be within 3 % of the spread.
        var set = new LandmarkSet(Measured());
        var u = Judge.Figure(Ask("academic", placement: 1)).Findings.Single(f => f.Rule.Id == "F-heads").Uncertainty!.Value;
        var random = new SeededRandom(5);
        var values = Enumerable
            .Range(0, 20_000)
            .Select(_ =>
            {
                Vec2 P(string id) => set[id]!.Value + new Vec2(random.Normal(1), random.Normal(1));
                var (crown, chin) = (P("crown"), P("chin"));
                return (((P("sole.L").Y + P("sole.R").Y) / 2) - crown.Y) / (chin - crown).Length;
            })
            .Order()
            .ToList();
        var half = (values[19_000] - values[1_000]) / 2;
        Assert.InRange(u / half, 0.96, 1.04);
    }

    [Fact]
    public void The_pose_card_outranks_the_canon_and_says_so()
    {
        var f = Judge.Figure(Ask("academic") with { PoseCard = new() { Heads = 7.0 } }).Findings.Single(f => f.Rule.Id == "F-heads");
        Assert.Equal((Against.PoseCard, 7.0), (f.Against, f.Expected));
        Assert.Equal((Against.Canon, 7.5), (Assert.Single(f.Also).Against, f.Also[0].Expected));
        Assert.Equal(Verdict.Outside, f.Verdict);
        Assert.Contains("Head 9 % small", f.Says);
        Assert.Contains("d = ", f.Because);
        Assert.Equal(0.21, f.Tolerance!.Value, 6);
    }

    /// <param name="apart">How far one ratio lies above the others' middle, and another below.</param>
    [Theory]
    [InlineData(0, true)]
    [InlineData(0.015, true)]
    [InlineData(0.04, false)]
    public void When_every_ratio_is_short_alike_the_head_is_the_one_fault(double apart, bool one)
    {
        var m = Measured();
        var card = new PoseCard
        {
            Heads = 7.69,
            Shoulders = 1.992 * (1 + apart),
            PitToPubic = 2.446,
            PitToKneetop = 3.985,
            PitToSole = 6.29 * (1 - apart),
        };
        m["chin"] = m["crown"] + new Vec2(0, 70.2 * 1.11);
        var findings = Judge
            .Figure(Ask("academic", m) with { PoseCard = card })
            .Findings.Where(f => f.Against == Against.PoseCard)
            .ToList();
        Assert.Equal(5, findings.Count);
        Assert.Null(findings.Single(f => f.Rule.Id == "F-heads").FollowsFrom);
        Assert.All(findings.Where(f => f.Rule != Rules.Heads), f => Assert.Equal(one ? "F-heads" : null, f.FollowsFrom));
    }

    [Fact]
    public void From_a_far_seat_only_the_vertical_ratios_of_a_card_serve()
    {
        var card = new PoseCard
        {
            Heads = 7.7,
            Shoulders = 2,
            PitToSole = 6.3,
            DirectionsHours = new(3, 3, 0),
            Plumbs = [new("pit", "sole.R", 0)],
            SeatAzimuth = 35,
        };
        var far = Judge.Figure(Ask("academic") with { PoseCard = card }).Findings;
        Assert.DoesNotContain(far, f =>
            f.Against == Against.PoseCard && f.Rule.Id is "F-shoulder" or "F-tilt" && f.Against == Against.PoseCard
        );
        Assert.Contains(far, f => f.Rule.Id == "F-heads" && f.Against == Against.PoseCard);
        var near = Judge.Figure(Ask("academic") with { PoseCard = card with { SeatAzimuth = 20 } }).Findings;
        Assert.Equal(3, near.Count(f => f.Rule.Id == "F-tilt" && f.Against == Against.PoseCard));
    }

    [Fact]
    public void In_a_gesture_what_goes_further_in_the_poses_own_direction_is_pushed()
    {
        var m = Measured();
        (m["asis.R"], m["asis.L"]) = (new(190, 285), new(267, 325)); // falls 27° to the right
        var card = new PoseCard { DirectionsHours = new(Pelvis: 3.5) }; // 15°
        Finding Pelvis(string exercise) =>
            Judge
                .Figure(Ask("academic", m) with { Pose = "contrapposto", StandingLeg = "R", Exercise = exercise, PoseCard = card })
                .Findings.Single(f => f.Part == "pelvis");
        Assert.Equal(Verdict.Pushed, Pelvis("gesture").Verdict);
        Assert.Equal(Verdict.Outside, Pelvis("sitting").Verdict);
        (m["asis.R"], m["asis.L"]) = (new(190, 305), new(267, 300));
        Assert.Equal(Verdict.Outside, Pelvis("gesture").Verdict);
    }

    [Fact]
    public void Exercises_open_only_the_rules_they_are_inspected_for()
    {
        var contour = Judge.Figure(Ask("academic") with { Exercise = "contour" }).Findings;
        Assert.All(contour, f => Assert.Equal(Verdict.DoesNotApply, f.Verdict));
        Assert.All(contour, f => Assert.NotEmpty(f.Because));
    }

    [Fact]
    public void Contrapposto_wants_opposite_tilts_and_the_pit_over_the_standing_foot()
    {
        var view = Core.Figure.StudioViews.Get("contrapposto-male-0");
        var marks = view.Landmarks.ToDictionary(l => l.Key, l => view.At(l.Key)!.Value);
        var good = Judge
            .Figure(
                new()
                {
                    Pose = "contrapposto",
                    StandingLeg = "R",
                    Landmarks = new(marks),
                    PlacementErrorMm = 0.5,
                }
            )
            .Findings.Where(f => f.Rule.Id == "F-tilt")
            .ToList();
        Assert.Equal(3, good.Count);
        Assert.All(good, f => Assert.Equal(Verdict.Inside, f.Verdict));
        var wrong = Judge
            .Figure(
                new()
                {
                    Pose = "contrapposto",
                    StandingLeg = "L",
                    Landmarks = new(marks),
                    PlacementErrorMm = 0.5,
                }
            )
            .Findings.Where(f => f.Rule.Id == "F-tilt");
        Assert.Contains(wrong, f => f.Verdict == Verdict.Outside);
    }

    [Fact]
    public void A_rule_without_its_landmarks_is_not_seen_and_names_them()
    {
        var f = Judge
            .Figure(Ask("academic", new() { ["crown"] = new(0, 0), ["chin"] = new(0, 70) }))
            .Findings.Single(f => f.Rule.Id == "F-heads");
        Assert.Equal(Verdict.NotSeen, f.Verdict);
        Assert.Contains("sole", f.Says);
    }

    [Fact]
    public void A_figure_that_leans_off_its_feet_is_outside()
    {
        var m = Measured().ToDictionary(p => p.Key, p => p.Value + new Vec2((580 - p.Value.Y) * 0.2, 0));
        Assert.Contains(Judge.Figure(Ask("academic", m)).Findings, f => f.Rule.Id == "F-balance" && f.Verdict == Verdict.Outside);
        Assert.Contains(Judge.Figure(Ask("academic")).Findings, f => f.Rule.Id == "F-balance" && f.Verdict == Verdict.Inside);
    }

    /// <summary>Published: Dempster 1955 via Winter (from memory): upright, the body's centre lies at 0.55 to 0.58 of stature.</summary>
    [Fact]
    public void The_upright_centre_of_mass_lies_where_the_segment_table_puts_it()
    {
        var c = Core.Measuring.FigureMeasures.CentreOfMass(new(Measured()))!.Value;
        Assert.InRange((580 - c.Y) / 540, 0.53, 0.60);
        Assert.Equal(228.6, c.X, 3);
    }

    [Fact]
    public void A_reference_view_is_laid_over_by_similarity()
    {
        var reference = new LandmarkSet(Measured().Select(p => KeyValuePair.Create(p.Key, new Vec2(p.Value.X * 0.5, p.Value.Y * 0.5))));
        var j = Judge.Figure(Ask("academic") with { Reference = reference });
        Assert.Equal(2, j.Alignment!.Scale, 6);
        Assert.Equal(0, j.Alignment.Residual, 6);
        Assert.Contains(j.Findings, f => f.Rule.Id == "F-heads" && f.Against == Against.Reference && f.Verdict == Verdict.Inside);
    }

    [Theory]
    [InlineData("elbow"), InlineData("crowm")]
    public void Unknown_landmarks_are_named(string id) =>
        Assert.Equal("landmarks." + id, Assert.Throws<InputException>(() => new LandmarkSet([new(id, new(1, 1))])).Field);
}
