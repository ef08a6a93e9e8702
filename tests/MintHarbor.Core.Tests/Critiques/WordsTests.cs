using MintHarbor.Core.Canons;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Simulation;
using Xunit;

namespace MintHarbor.Core.Tests.Critiques;

/// <summary>What a student acts on: the direction that is said, the fault it is called, and when nothing is said. Every truth here is put in by
/// moving a landmark to a known side.</summary>
public class WordsTests
{
    private static Dictionary<string, Vec2> Figure => JudgeTests.Measured();

    private static Dictionary<string, Vec2> Pushed(double dx, double dy, params string[] ids)
    {
        var m = Figure;
        foreach (var id in ids)
            m[id] += new Vec2(dx, dy);
        return m;
    }

    private static Finding Outside(IReadOnlyList<Finding> found, Rule rule, string? part = null) =>
        Assert.Single(found, f => f.Rule == rule && f.Verdict == Verdict.Outside && (part is null || f.Part == part));

    private static void Says(Finding f, Direction way, string? fault, string word, string not)
    {
        Assert.Equal((way, fault), (f.Direction, f.Fault?.Id));
        Assert.Contains(word, f.Says);
        Assert.DoesNotContain(not, f.Says);
        var r = Remark.FromFinding("r1", f, null);
        Assert.Equal((fault, f.Key, f.Rule.Id), (r.FaultId, r.Key, r.Rule));
    }

    [Fact]
    public void A_level_is_low_or_high()
    {
        Says(Outside(Judging.Figure(Pushed(0, 40, "pubic", "crotch")), Rules.Mid), Direction.Low, "legs-short", "% low", "high");
        Says(Outside(Judging.Figure(Pushed(0, -40, "pubic", "crotch")), Rules.Mid), Direction.High, "legs-long", "% high", "low");
        Says(Outside(Judging.Figure(Pushed(0, 30, "elbow.L")), Rules.Elbow), Direction.Low, null, "heads low", "high");
        Says(Outside(Judging.Figure(Pushed(0, -30, "elbow.L")), Rules.Elbow), Direction.High, null, "heads high", "low");
        Assert.DoesNotContain(Judging.Figure(Pushed(0, 40, "pubic")), f =>
            f.Rule == Rules.Mid && (f.Says.Contains("long") || f.Says.Contains("short"))
        );
    }

    [Fact]
    public void Arms_whose_wrist_lies_low_are_long_and_high_are_short()
    {
        var longer = Judging.Figure(Pushed(0, 45, "wrist.L", "fingertip.L"));
        Says(Outside(longer, Rules.Wrist, "wrist, left"), Direction.Low, "arms-long", "low", "high");
        var shorter = Judging.Figure(Pushed(0, -45, "wrist.L", "fingertip.L"));
        Says(Outside(shorter, Rules.Wrist, "wrist, left"), Direction.High, "arms-short", "high", "low");
    }

    [Fact]
    public void A_head_drawn_large_is_called_large_and_small_small()
    {
        var card = new PoseCard { Heads = 7.69 };
        Says(Outside(Judging.Figure(Pushed(0, 10, "chin"), card: card), Rules.Heads), Direction.Large, "head-large", "% large", "small");
        Says(Outside(Judging.Figure(Pushed(0, -10, "chin"), card: card), Rules.Heads), Direction.Small, "head-small", "% small", "large");
    }

    [Fact]
    public void Breadths_are_narrow_or_broad_and_hands_and_feet_small()
    {
        Says(Outside(Judging.Figure(Pushed(30, 0, "deltoid.L")), Rules.Shoulder), Direction.Broad, "shoulders-broad", "% broad", "narrow");
        Says(
            Outside(Judging.Figure(Pushed(-30, 0, "deltoid.L")), Rules.Shoulder),
            Direction.Narrow,
            "shoulders-narrow",
            "% narrow",
            "broad"
        );
        Says(
            Outside(Judging.Figure(Pushed(0, -20, "fingertip.L")), Rules.Hand, "left"),
            Direction.Small,
            "hands-small",
            "% small",
            "large"
        );
        var side = Figure;
        (side["heel.R"], side["toe.R"]) = (new(200, 580), new(250, 580));
        Says(Outside(Judging.Figure(side, view: "profile"), Rules.Foot, "right"), Direction.Small, "feet-small", "% small", "large");
    }

    [Fact]
    public void Spans_of_a_card_are_short_or_long_and_only_a_long_trunk_is_a_fault_of_the_trunk()
    {
        var head = 0.13 * 540;
        var card = new PoseCard
        {
            PitToPubic = (Figure["pubic"] - Figure["pit"]).Length / head,
            PitToSole = (Figure["sole.L"].Y - Figure["pit"].Y) / head,
        };
        Says(
            Outside(Judging.Figure(Pushed(0, 30, "pubic"), card: card), Rules.Spans, "pit to pubic bone"),
            Direction.Long,
            "trunk-long",
            "% long",
            "short"
        );
        Says(
            Outside(Judging.Figure(Pushed(0, -30, "pubic"), card: card), Rules.Spans, "pit to pubic bone"),
            Direction.Short,
            null,
            "% short",
            "long"
        );
        var squeezed = Judging.Figure(Pushed(0, -40, "sole.L", "sole.R"), card: card);
        Says(Outside(squeezed, Rules.Spans, "pit to sole"), Direction.Short, "squeezed-end", "% short", "long");
        Assert.Null(Outside(Judging.Figure(Pushed(0, 40, "sole.L", "sole.R"), card: card), Rules.Spans, "pit to sole").Fault);
    }

    [Fact]
    public void A_plumb_falls_to_the_side_it_falls_to()
    {
        foreach (
            var (dx, way, word, not) in new[]
            {
                (150, Direction.Right, "to the right", "left"),
                (-150, Direction.Left, "to the left", "right"),
            }
        )
        {
            var f = Judging.Figure(
                Pushed(dx, 0, "pit").Where(p => p.Key is "pit" or "sole.L" or "sole.R" or "crown" or "chin").ToDictionary()
            );
            Says(Outside(f, Rules.Balance), way, "leaning", word, not);
        }
    }

    [Fact]
    public void A_figure_leans_to_the_side_it_leans_to_and_its_parts_are_judged_with_the_lean_taken_along()
    {
        foreach (var (degrees, word, not) in new[] { (6.0, "6° to the right", "left"), (-6.0, "6° to the left", "right") })
        {
            var turn = new Similarity(1, degrees, new(0, 0), 0);
            var leaning = Figure.ToDictionary(p => p.Key, p => turn.Map(p.Value - new Vec2(228, 580)) + new Vec2(228, 580));
            var found = Judging.Figure(leaning, reference: Figure);
            var lean = Outside(found, Rules.Lean);
            Says(lean, degrees > 0 ? Direction.Right : Direction.Left, "leaning", word, not);
            // One cause: every part goes as it should within the leaning whole.
            Assert.All(found.Where(f => f.Rule == Rules.EdgeDirection), f => Assert.Equal(Verdict.Inside, f.Verdict));
        }
    }

    [Fact]
    public void A_limb_against_the_reference_view_is_short_or_long_and_known_or_seen()
    {
        var longer = Figure;
        longer["wrist.L"] = longer["elbow.L"] + ((longer["wrist.L"] - longer["elbow.L"]) * 1.25);
        var f = Outside(Judging.Figure(longer, reference: Figure), Rules.Length, "left forearm");
        Says(f, Direction.Long, "arms-long", "% long against", "short");
        var shorter = Figure;
        shorter["wrist.L"] = shorter["elbow.L"] + ((shorter["wrist.L"] - shorter["elbow.L"]) * 0.75);
        Says(
            Outside(Judging.Figure(shorter, reference: Figure), Rules.Length, "left forearm"),
            Direction.Short,
            "arms-short",
            "% short against",
            "long"
        );
        var seen = new Dictionary<string, double> { ["forearm.L"] = 0.6 };
        var known = Outside(Judging.Figure(longer, reference: Figure, shortened: seen), Rules.Length, "left forearm");
        Assert.Equal((Explanation.KnownLength, Faults.KnownLength), (known.Explanation, known.Fault!.Id));
        var right = Judging
            .Figure(Figure, reference: Figure, shortened: seen)
            .Single(x => x.Rule == Rules.Length && x.Part == "left forearm");
        Assert.Equal((Explanation.SeenShort, Verdict.Inside), (right.Explanation, right.Verdict));
        Assert.Contains("from this seat it is", right.Says);
    }

    /// <summary>12 and 6 on the clock are the same edge: they are never set against one another, and an upright is 12.</summary>
    [Fact]
    public void An_edge_has_one_hour()
    {
        Assert.Equal("12", ClockAngle.Say(ClockAngle.Hour(0)));
        Assert.Equal("12", ClockAngle.Say(ClockAngle.Hour(178)));
        Assert.Equal("3", ClockAngle.Say(ClockAngle.Hour(270)));
        Assert.Equal("11¾", ClockAngle.Say(ClockAngle.HourNear(173, 0)));
        Assert.Equal(-1.3, ClockAngle.Near(178.7, 0), 6);
        Assert.Equal(181.5 - 180, ClockAngle.Near(1.5, 179.5) - ClockAngle.Canonical(0), 6);
        var f = Judging
            .Figure(Pushed(-100, 0, "pit"), "contrapposto", card: new() { DirectionsHours = new(Action: 12) })
            .Single(x => x.Rule == Rules.Tilt && x.Part == "action");
        Assert.Contains("Drawn at 11", f.Says);
        Assert.Contains("pose card 12 o'clock", f.Says);
        Assert.Equal(Direction.Anticlockwise, f.Direction);
    }

    [Theory]
    [InlineData(3.6, 96, "level-tilts"), InlineData(3.6, 90, "level-tilts"), InlineData(3.2, 112, null)]
    public void A_tilt_drawn_nearer_to_level_is_levelled_and_one_drawn_steeper_is_not(double card, double drawn, string? fault)
    {
        var m = Figure;
        var (sin, cos) = Math.SinCos(drawn * Math.PI / 180);
        m["asis.L"] = m["asis.R"] + (new Vec2(sin, -cos) * 76);
        var f = Judging.Figure(m, "contrapposto", card: new() { DirectionsHours = new(Pelvis: card) }).Single(x => x.Part == "pelvis");
        Assert.Equal((Verdict.Outside, fault), (f.Verdict, f.Fault?.Id));
    }

    [Fact]
    public void Ratios_off_alike_are_the_heads_within_two_per_cent_and_not_at_five()
    {
        PoseCard Card(double spread) =>
            new()
            {
                Heads = 7.69 * 1.1,
                Shoulders = 1.992 * (1.1 + spread),
                PitToPubic = 2.446 * 1.1,
                PitToKneetop = 3.985 * 1.1,
                PitToSole = 6.29 * 1.1,
            };
        Assert.Contains(Judging.Figure(Figure, card: Card(0.01)), f => f.FollowsFrom == "F-heads");
        Assert.DoesNotContain(Judging.Figure(Figure, card: Card(0.05)), f => f.FollowsFrom is not null);
    }

    /// <summary>By hand: two ends of the feet, each placed with σ, and the pit: 1.645·σ·√(1 + ½).</summary>
    [Fact]
    public void The_feet_are_placed_too_and_their_own_uncertainty_counts()
    {
        var m = Figure.Where(p => p.Key is "pit" or "sole.L" or "sole.R").ToDictionary();
        var f = Judging.Figure(m).Single(x => x.Rule == Rules.Balance && x.Part is null);
        Assert.Equal(1.645 * 0.2 * Math.Sqrt(1.5), f.Uncertainty!.Value, 4);
    }

    /// <summary>Published rule of the verdict, by its own words: inside where the true value lies within tolerance with 90 % probability. Checked by
    /// counting 200,000 normal draws, not by the formula.</summary>
    [Theory]
    [
        InlineData(0, 0.999, Verdict.Inside),
        InlineData(0.2, 0.7, Verdict.Inside),
        InlineData(0.5, 0.7, Verdict.TooClose),
        InlineData(1.2, 0.1, Verdict.Outside)
    ]
    [InlineData(0, 1.01, Verdict.TooSmall), InlineData(-1.2, 0.1, Verdict.Outside), InlineData(1.05, 0.1, Verdict.TooClose)]
    public void Inside_means_nine_in_ten(double d, double u, Verdict verdict)
    {
        Assert.Equal(verdict, Verdicts.Of(d, 1, u));
        var random = new SeededRandom(3);
        var within = Enumerable.Range(0, 200_000).Count(_ => Math.Abs(d + random.Normal(u / 1.645)) <= 1) / 200_000.0;
        Assert.Equal(within, Verdicts.Within(d, 1, u), 0.005);
    }

    [Fact]
    public void What_lies_exactly_right_is_never_too_close_to_call()
    {
        foreach (var u in new[] { 0.0, 0.3, 0.9, 1.0 })
            Assert.Equal(Verdict.Inside, Verdicts.Of(0, 1, u));
        Assert.DoesNotContain(Judging.Figure(Figure, reference: Figure), f => f.Verdict == Verdict.TooClose);
    }

    private static Finding Redone(double value, double expected, double u, MeasureKind kind = MeasureKind.Ratio) =>
        new(new(Rules.Tilt, "pelvis", kind, kind == MeasureKind.Angle ? "deg" : "ratio", [], _ => value, ""), [], Verdict.Outside)
        {
            Against = Against.PoseCard,
            Measured = value,
            Expected = expected,
            Uncertainty = u,
        };

    [Theory]
    [InlineData(-0.05, -0.05, 0.02, Shift.Same), InlineData(0.3, 0.27, 0.02, Shift.Same), InlineData(0.3, 0.1, 0.02, Shift.Closer)]
    [InlineData(0.1, 0.3, 0.02, Shift.Further), InlineData(0.2, -0.2, 0.02, Shift.Across), InlineData(0.3, 0.1, 0.2, Shift.Same)]
    public void A_measure_moved_only_beyond_both_uncertainties(double before, double after, double u, Shift moved) =>
        Assert.Equal(moved.ToString(), new BeforeAfter(Redone(before, 0, u), Redone(after, 0, u)).Moved.ToString());

    public enum Shift
    {
        Same,
        Closer,
        Further,
        Across,
    }

    [Fact]
    public void An_edge_that_came_round_the_dial_came_closer()
    {
        var row = new BeforeAfter(Redone(170, 0, 1, MeasureKind.Angle), Redone(178.7, 0, 1, MeasureKind.Angle));
        Assert.Equal(Core.Critiques.Moved.Closer, row.Moved);
        Assert.Equal(-1.3, row.After.Off!.Value, 6);
    }

    /// <summary>Common practice: five eyes across, a tenth of an eye allowed for each, so half an eye in all.</summary>
    [Theory]
    [InlineData(5.4, Verdict.Inside), InlineData(5.7, Verdict.Outside), InlineData(4.3, Verdict.Outside)]
    public void Five_eyes_across_have_the_tolerance_of_five(double eyes, Verdict verdict)
    {
        const double eye = 40;
        var marks = new Dictionary<string, Vec2>
        {
            ["eye-inner.R"] = new(180, 200),
            ["eye-outer.R"] = new(140, 200),
            ["eye-inner.L"] = new(220, 200),
            ["eye-outer.L"] = new(260, 200),
            ["head-side.R"] = new(200 - (eyes * eye / 2), 200),
            ["head-side.L"] = new(200 + (eyes * eye / 2), 200),
        };
        var f = Judging.Head(marks).Single(x => x.Rule == Rules.Fives && x.Part == Parts.Across);
        Assert.Equal((verdict, 0.5), (f.Verdict, f.Tolerance!.Value));
        if (verdict == Verdict.Outside)
            Assert.Contains(eyes > 5 ? "broad" : "narrow", f.Says);
    }

    [Fact]
    public void A_face_is_high_or_low_and_an_ear_stands_above_or_below()
    {
        var level = new Dictionary<string, Vec2>
        {
            ["crown"] = new(200, 100),
            ["chin"] = new(200, 300),
            ["brow"] = new(200, 170),
            ["nosebase"] = new(200, 245),
            ["lip-slit"] = new(200, 263),
            ["eye-inner.L"] = new(220, 185),
            ["eye-inner.R"] = new(180, 185),
            ["ear-top.L"] = new(280, 140),
            ["ear-base.L"] = new(280, 270),
        };
        var found = Judging.Head(level);
        Says(Outside(found, Rules.EyeLine), Direction.High, "eyes-high", "Eye line high: 42.5 %", "low");
        var ears = found.Where(f => f.Rule == Rules.Ear && f.Verdict == Verdict.Outside).ToList();
        Assert.Contains(ears, f => f.Direction == Direction.High && f.Fault?.Id == "ears-high" && f.Says.Contains("above the brow"));
        Assert.Contains(ears, f => f.Direction == Direction.Low && f.Fault is null && f.Says.Contains("below the nose base"));
    }

    [Fact]
    public void A_feature_turned_too_little_is_turned_towards_us_whichever_way_the_head_faces()
    {
        foreach (var facing in new[] { 1, -1 })
        {
            var m = new Measure(Rules.Turn, "mouth", MeasureKind.Angle, "deg", [], _ => 10 * facing, "");
            var f = new Finding(m, [new(Against.Canon, 30 * facing, 5, 0, "the other features", "")], Verdict.Outside)
            {
                Against = Against.Canon,
                Measured = 10 * facing,
                Expected = 30 * facing,
                Tolerance = 5,
                Uncertainty = 1,
            };
            Assert.Equal(Direction.Towards, f.Direction);
            Assert.Contains("turned too far towards us", f.Says);
            Assert.Equal("axis-in-middle", f.Fault!.Id);
        }
    }

    /// <summary>An action line read at 11.8 leans to the left of upright; a gesture that carries it further is pushed, one that rights it isn't.</summary>
    [Theory]
    [InlineData(-16, Verdict.Pushed), InlineData(8, Verdict.Outside)]
    public void A_gesture_that_goes_on_in_the_poses_own_direction_is_pushed(double degrees, Verdict verdict)
    {
        var m = Figure;
        var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
        m["pit"] = m["sole.R"] + (new Vec2(sin, -cos) * 440);
        var f = Judge
            .Figure(
                new()
                {
                    Landmarks = new(m),
                    Pose = "contrapposto",
                    StandingLeg = "R",
                    Exercise = "gesture",
                    PlacementErrorMm = 0.2,
                    PoseCard = new() { DirectionsHours = new(Action: 11.8) },
                }
            )
            .Findings.Single(x => x.Part == "action");
        Assert.Equal(verdict, f.Verdict);
        Assert.Equal(verdict == Verdict.Pushed, f.Says.Contains("Pushed, in the pose's own direction"));
    }

    [Fact]
    public void A_limb_seen_short_and_drawn_shorter_is_short_as_seen()
    {
        var shorter = Figure;
        shorter["wrist.L"] = shorter["elbow.L"] + ((shorter["wrist.L"] - shorter["elbow.L"]) * 0.75);
        var f = Outside(
            Judging.Figure(shorter, reference: Figure, shortened: new Dictionary<string, double> { ["forearm.L"] = 0.6 }),
            Rules.Length,
            "left forearm"
        );
        Assert.EndsWith("From this seat it is seen at 0.60 of its length.", f.Says);
        Assert.Equal(Explanation.None, f.Explanation);
    }

    [Fact]
    public void What_is_exactly_right_is_as_it_should_be()
    {
        var f = Judging.Figure(Figure, card: new() { Plumbs = [new("pit", "pubic", 0)] }).Single(x => x.Measure.Part?.Id == Parts.Plumb);
        Assert.Contains("as it should be", f.Says);
        Assert.DoesNotContain("right (", f.Says);
        Assert.Equal(Direction.None, f.Direction);
    }

    [Fact]
    public void Why_names_what_was_read_the_rule_of_the_verdict_and_the_source()
    {
        var card = Judging.Figure(Figure, card: new() { Heads = 7.69 }).Single(f => f.Rule == Rules.Heads);
        Assert.Contains("1.645·√(", card.Because);
        Assert.Contains("90 % probability", card.Because);
        Assert.EndsWith("Source: pose card: ±3 %, reading 1 % (1 σ).", card.Because);
        var canon = Judging.Figure(Figure).Single(f => f.Rule == Rules.Mid);
        Assert.DoesNotContain("√", canon.Because);
        Assert.Contains("Source: common practice", canon.Because);
        var sign = Judging.Figure(Figure, "contrapposto").First(f => f.Measure.Kind == MeasureKind.Sign);
        Assert.Contains("outside below −u", sign.Because);
        var away = Judging.Figure(Figure, "seated").Single(f => f.Rule == Rules.Mid);
        Assert.Contains("holds when: half height holds for a standing figure; pose seated", away.Because);
        var missing = Judging.Figure(Figure.Where(p => p.Key != "pubic").ToDictionary()).Single(f => f.Rule == Rules.Mid);
        Assert.Equal((Verdict.NotSeen, Against.Canon, 0.5, 0.03), (missing.Verdict, missing.Against, missing.Expected, missing.Tolerance));
        Assert.Contains("pubic bone not placed", missing.Says);
    }

    [Fact]
    public void A_mouth_is_a_share_of_its_span()
    {
        var marks = new Dictionary<string, Vec2>
        {
            ["nosebase"] = new(0, 100),
            ["lip-slit"] = new(0, 125),
            ["chin"] = new(0, 150),
            ["crown"] = new(0, -100),
        };
        var f = Judging.Head(marks).Single(x => x.Rule == Rules.MouthLine);
        Assert.StartsWith("Mouth line low: 50 % of the span; ", f.Says);
        Assert.Contains("33 (±", f.Says);
    }

    /// <summary>By hand: a relief that differs by σk from sitter to sitter turns the answer by sin(2t)/(2k)·σk; the others' mean is as sure as
    /// their weights together.</summary>
    [Fact]
    public void A_turn_is_as_uncertain_as_its_sitter_and_the_other_features()
    {
        const double sigma = 0.3,
            turn = 30;
        var marks = new Dictionary<string, Vec2>();
        var tan = Math.Tan(turn * Math.PI / 180);
        foreach (var (pair, half, y) in HeadTurn.Pairs.Zip([45.0, 18, 28], [180.0, 235, 255]).Select(p => (p.First, p.Second, p.Third)))
        {
            (marks[pair.Side + ".L"], marks[pair.Side + ".R"]) = (new(150 + half, y), new(150 - half, y));
            marks[pair.Middle[0]] = new(150 + (half * pair.Relief * tan), y);
        }
        var set = new LandmarkSet(marks);
        var found = Judge
            .Head(
                new()
                {
                    Subject = "head",
                    Canon = "classical-head",
                    View = "three-quarter",
                    Landmarks = set,
                    PlacementErrorMm = sigma,
                }
            )
            .Findings.Where(f => f.Rule == Rules.Turn)
            .ToList();
        double Sitter(TurnPair p) => Math.Sin(2 * turn * Math.PI / 180) / (2 * p.Relief) * p.Varies * 180 / Math.PI;
        double Variance(TurnPair p) => Math.Pow(HeadTurn.Of(p, set).Sigma(set, sigma), 2) + Math.Pow(Sitter(p), 2);
        foreach (var pair in HeadTurn.Pairs)
        {
            var f = found.Single(x => x.Part == pair.Name);
            var others = HeadTurn.Pairs.Where(p => p != pair).Sum(p => 1 / Variance(p));
            Assert.Equal(turn, f.Measured!.Value, 6);
            Assert.Equal(1.645 * Math.Sqrt(Variance(pair) + (1 / others)), f.Uncertainty!.Value, 4);
        }
    }

    [Fact]
    public void What_was_outside_stands_first_in_a_comparison_and_neighbours_round_the_dial_are_neighbours()
    {
        Finding Of(string part, double off, Verdict v) =>
            new(new(Rules.Pair, part, MeasureKind.Ratio, "ratio", [], _ => 1, ""), [], v)
            {
                Against = Against.Canon,
                Measured = 1 + off,
                Expected = 1,
                Uncertainty = 0.01,
            };
        Finding[] before = [Of("thigh", 0.2, Verdict.Inside), Of("shank", 0.1, Verdict.Outside)];
        Assert.Equal(["shank", "thigh"], Comparison.Of(before, before).Select(r => r.Before.Part));
        Assert.Equal(
            Core.Critiques.Moved.Same,
            new BeforeAfter(Redone(89, 0, 2, MeasureKind.Angle), Redone(-89, 0, 2, MeasureKind.Angle)).Moved
        );
    }

    /// <summary>The table is whole: every id that other tables name is in it, and a part that is named is one that is measured.</summary>
    [Fact]
    public void Every_rule_is_one_row_and_every_row_is_known()
    {
        Assert.Equal(Rules.All.Count, Rules.All.Select(r => r.Id).Distinct().Count());
        Assert.All(CanonTable.All.SelectMany(c => c.Rules), r => Assert.NotNull(Rules.Find(r.Id)));
        Assert.All(Faults.All.Where(f => f.Rule is not null), f => Assert.NotNull(Rules.Find(f.Rule)));
        foreach (var w in Rules.All.SelectMany(r => r.Parts.Values.Append(r.Ways)))
            Assert.All(new[] { w.FaultBelow, w.FaultAbove, w.Levelled }.OfType<string>(), id => Assert.NotNull(Faults.Find(id)));
        Assert.All(Rules.All.SelectMany(r => r.Place), l => Assert.True(LandmarkIds.Exists(l)));
        Assert.DoesNotMatch("[FHR]-", Rules.Named(Rules.All.Select(r => r.Id)));
    }

    [Fact]
    public void A_card_reads_hours_to_twelve()
    {
        Assert.Equal(
            "poseCard.directionsHours.action",
            Assert.Throws<InputException>(() => new PoseCard { DirectionsHours = new(Action: 13) }.Checked()).Field
        );
        new PoseCard { DirectionsHours = new(Action: 12) }.Checked();
    }
}
