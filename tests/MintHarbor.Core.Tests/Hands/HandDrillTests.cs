using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Simulation;
using Xunit;

namespace MintHarbor.Core.Tests.Hands;

/// <summary>Drills of the hand: what is read of drawings whose errors were put in.</summary>
public sealed class HandDrillTests
{
    public static TheoryData<string> Kinds => [.. HandDrills.All.Select(d => d.Kind)];

    private const double Mm = 0.3;

    private static HandDrill Of(string kind) => (HandDrill)Drills.Get(kind);

    private static DrillItem Item(string kind, long seed = 7, double difficulty = 0.4) => Of(kind).Items(seed, difficulty, 1, true)[0];

    private static HandReading Read(string kind, DrillItem item, PenTrace trace, double difficulty = 0.4) =>
        Of(kind).Read(item, trace, difficulty);

    private static double Fact(HandReading r, string measure) => r.Facts.Single(f => f.Measure == measure).Value;

    /// <summary>A line drawn at so many millimetres a second.</summary>
    private static IReadOnlyList<PenPlace> Line(IReadOnlyList<Vec2> places, double pace = 60, double since = 0)
    {
        var even = PathDistance.Even(places, 1200);
        var ms = 1000 * PathDistance.Length(places) * Mm / pace;
        return [.. even.Select((p, i) => new PenPlace(p.X, p.Y, since + (ms * i / 1199), 0.5))];
    }

    private static PenTrace Trace(params IReadOnlyList<PenPlace>[] strokes) => new(PenTool.Pen, Mm, strokes);

    [Theory, MemberData(nameof(Kinds))]
    public void Items_repeat_by_seed_and_show_only_clothed_figures_where_the_course_wants_it(string kind)
    {
        var drill = Of(kind);
        var items = drill.Items(5, 0.5, 8, clothed: true, DrillViews.WithThings);
        Assert.Equal(items.Select(Said), drill.Items(5, 0.5, 8, clothed: true, DrillViews.WithThings).Select(Said));
        Assert.True(items.Select(Said).Distinct().Count() >= 5);
        foreach (var i in items)
        {
            Assert.NotNull(i.Hand);
            if (i.ViewId != "" && Core.Figure.StudioViews.Get(i.ViewId) is { IsFigure: true } view)
                Assert.True(view.Clothed);
            Assert.Contains("<svg", HandPicture.Field(i));
            Assert.Contains("<svg", DrillPicture.Svg(i));
        }
        string Said(DrillItem i) => HandPicture.Beside(i) + HandPicture.Field(i) + i.Ask;
    }

    /// <summary>A perfect hand is right at the hardest, a bad one wrong at the easiest.</summary>
    [Theory, MemberData(nameof(Kinds))]
    public void A_perfect_hand_holds_and_a_bad_one_does_not(string kind)
    {
        int good = 0,
            bad = 0;
        for (var seed = 1; seed <= 12; seed++)
        {
            var item = Item(kind, seed);
            var (perfect, hopeless) = (
                new SimulatedPen(0.02, 500 + seed).Draw(Of(kind), item),
                new SimulatedPen(15, 500 + seed).Draw(Of(kind), item)
            );
            good += Read(kind, item, perfect, 1).Holds ? 1 : 0;
            bad += Try(() => Read(kind, item, hopeless, 0).Holds) ? 1 : 0;
        }
        Assert.True(good >= 11, $"a perfect hand held {good} of 12");
        Assert.True(bad <= 4, $"a hand fifteen times as bad as a beginner's held {bad} of 12");
    }

    private static bool Try(Func<bool> read)
    {
        try
        {
            return read();
        }
        catch (InputException)
        {
            return false;
        }
    }

    /// <summary>Published: Levitt 1971 (from memory), one up and two down settles where 70.7 % are right.</summary>
    [Theory, MemberData(nameof(Kinds))]
    public void The_staircase_settles_where_seven_in_ten_hold(string kind)
    {
        var drill = Of(kind);
        var stairs = new Staircase(0.5);
        int held = 0,
            all = 0,
            inside = 0;
        // The eye that is about as good as the middle of the drill's range asks for.
        var eye = Fitting(drill);
        for (var n = 0; n < 360; n++)
        {
            var item = drill.Items(1000 + n, stairs.Difficulty, 1, true)[0];
            var r = drill.Read(item, new SimulatedPen(eye, 5000 + n).Draw(drill, item), stairs.Difficulty);
            if (n >= 40)
            {
                (held, all) = (held + (r.Holds ? 1 : 0), all + 1);
                inside += stairs.Difficulty is > 0.05 and < 0.95 ? 1 : 0;
            }
            stairs = stairs.After(r.Holds);
        }
        Assert.True(inside > 0.8 * all, $"{kind}: inside its range only {inside} of {all}, eye {eye}");
        Assert.InRange((double)held / all, 0.64, 0.77);
    }

    private static double Fitting(HandDrill drill)
    {
        foreach (var eye in (double[])[0.25, 0.35, 0.5, 0.7, 0.9, 1.2, 1.6, 2.1])
        {
            var held = Enumerable
                .Range(0, 60)
                .Count(n =>
                    drill.Items(300 + n, 0.5, 1, true)[0] is var i
                    && drill.Read(i, new SimulatedPen(eye, 900 + n).Draw(drill, i), 0.5).Holds
                );
            if (held <= 45)
                return eye;
        }
        throw new InvalidOperationException($"no hand misses {drill.Kind}");
    }

    // ---- what a stroke is read as

    [Fact]
    public void A_stroke_that_stops_short_is_said_to_and_one_begun_early_too()
    {
        var item = Item("single-strokes");
        var (a, b) = (item.Hand!.Truth[0].Places[0], item.Hand.Truth[0].Places[^1]);
        var along = (b - a) * (1 / (b - a).Length);
        var r = Read("single-strokes", item, Trace(Line([a - (along * 10), b - (along * 20)])));
        Assert.Equal(10 * Mm, Fact(r, HandMeasures.Begins), 0.05);
        Assert.Equal(-20 * Mm, Fact(r, HandMeasures.Ends), 0.05);
        Assert.Equal("3 mm before the dot", HandMeasures.Get(HandMeasures.Begins).Say(Fact(r, HandMeasures.Begins)));
        Assert.Equal("6 mm short of the dot", HandMeasures.Get(HandMeasures.Ends).Say(Fact(r, HandMeasures.Ends)));
        Assert.Equal(60, Fact(r, HandMeasures.Speed), 0.5);
        // Drawn the other way round it is the same stroke.
        var back = Read("single-strokes", item, Trace(Line([b - (along * 20), a - (along * 10)])));
        Assert.Equal(r.Error, back.Error);
        Assert.Equal(Fact(r, HandMeasures.Ends), Fact(back, HandMeasures.Ends), 6);
    }

    [Fact]
    public void Two_strokes_for_one_dont_hold_however_straight()
    {
        var item = Item("single-strokes");
        var (a, b) = (item.Hand!.Truth[0].Places[0], item.Hand.Truth[0].Places[^1]);
        var m = Vec2.Mid(a, b);
        Assert.True(Read("single-strokes", item, Trace(Line([a, b]))).Holds);
        var two = Read("single-strokes", item, Trace(Line([a, m]), Line([m, b], since: 900)));
        Assert.False(two.Holds);
        Assert.Equal((1, false), (Fact(two, HandMeasures.Lifts), two.Facts.Single(f => f.Measure == HandMeasures.Lifts).Holds!.Value));
    }

    /// <summary>A wave of a known height has a known root mean square: amplitude ÷ √2.</summary>
    [Fact]
    public void A_wobble_is_its_root_mean_square()
    {
        var item = Item("single-strokes");
        var (a, b) = (item.Hand!.Truth[0].Places[0], item.Hand.Truth[0].Places[^1]);
        var across = new Vec2(a.Y - b.Y, b.X - a.X) * (1 / (b - a).Length);
        List<Vec2> wave =
        [
            .. Enumerable
                .Range(0, 401)
                .Select(i => i / 400.0)
                .Select(s => a + ((b - a) * s) + (across * (4 * Math.Sin(2 * Math.PI * 3 * s)))),
        ];
        Assert.Equal(4 * Mm / Math.Sqrt(2), Fact(Read("single-strokes", item, Trace(Line(wave))), HandMeasures.Wobble), 0.05);
    }

    [Theory, InlineData(0.06, "6 % of the line too far from the dot"), InlineData(-0.04, "4 % of the line too near the dot")]
    public void A_tick_is_said_on_its_own_side(double by, string said)
    {
        for (var seed = 1; seed < 9; seed++)
        {
            var item = Item("halve-and-third", seed);
            var (line, tick) = (item.Hand!.Given[0].Places, item.Hand.Truth[0].Places);
            var off = (line[1] - line[0]) * by;
            var r = Read("halve-and-third", item, Trace(Line([tick[0] + off, tick[^1] + off])), 1);
            Assert.Equal(100 * by, r.Error, 0.1);
            Assert.Equal(said, Of("halve-and-third").SayError(Math.Round(r.Error)));
            Assert.False(r.Holds);
        }
    }

    [Fact]
    public void What_a_finger_may_have_done_is_never_marked()
    {
        var item = Item("halve-and-third");
        var (line, tick) = (item.Hand!.Given[0].Places, item.Hand.Truth[0].Places);
        var length = (line[1] - line[0]).Length * Mm;
        var off = (line[1] - line[0]) * (1.7 / length);
        var trace = Trace(Line([tick[0] + off, tick[^1] + off]));
        Assert.False(Read("halve-and-third", item, trace, 1).Holds);
        var finger = Read("halve-and-third", item, trace with { Tool = PenTool.Finger }, 1);
        Assert.True(finger.Holds);
        Assert.Equal(100 * 2 / length, finger.Doubt, 1e-6);
    }

    [Fact]
    public void Pressure_in_even_steps_holds_and_going_back_does_not()
    {
        var item = Item("pressure-stroke");
        var places = Line(item.Hand!.Truth[0].Places);
        PenTrace With(Func<double, double> pressure) => Trace([.. places.Select((p, i) => p with { Pressure = pressure(i / 1199.0) })]);
        Assert.True(Read("pressure-stroke", item, With(s => 0.1 + (0.8 * s)), 1).Holds);
        Assert.False(Read("pressure-stroke", item, With(s => s < 0.6 ? 0.2 : 0.9), 0).Holds);
        var back = Read("pressure-stroke", item, With(s => 0.1 + (0.8 * s) - (s is > 0.45 and < 0.55 ? 0.3 : 0)), 0);
        Assert.False(back.Holds);
        Assert.True(Fact(back, PressureScale.BackSteps) >= 1);
        var flat = Assert.Throws<InputException>(() => Read("pressure-stroke", item, With(_ => 0.5)));
        Assert.Contains("no pressure", flat.Message);
        Assert.Throws<InputException>(() => Read("pressure-stroke", item, With(s => s) with { Tool = PenTool.Finger }));
    }

    // ---- shapes

    [Theory, InlineData(1.2, "20 % too wide"), InlineData(0.8, "20 % too narrow")]
    public void A_figure_drawn_too_wide_is_said_to_be(double wide, string said)
    {
        var item = Item("contour-look");
        IReadOnlyList<PenPlace>[] strokes =
        [
            .. SeenDrill.Outline(item).Select(o => Line([.. o.Select(p => new Vec2(20 + (p.X * wide * 0.8), 9 + (p.Y * 0.8)))])),
        ];
        var r = Read("contour-look", item, Trace(strokes));
        Assert.Equal(said, HandMeasures.Get(HandMeasures.Proportion).Say(Fact(r, HandMeasures.Proportion)));
    }

    [Fact]
    public void Size_and_place_are_free_and_the_outline_itself_is_on_it()
    {
        var item = Item("contour-look");
        IReadOnlyList<PenPlace>[] strokes =
        [
            .. SeenDrill.Outline(item).Select(o => Line([.. o.Select(p => new Vec2(50 + (p.X * 0.6), 40 + (p.Y * 0.6)))])),
        ];
        var r = Read("contour-look", item, Trace(strokes));
        Assert.InRange(r.Error, 0, 0.4);
        // What is shown over the drawing is the outline where the drawing is.
        var (laid, drawn) = (Area.Round(r.Over.SelectMany(o => o.Places)), Area.Round(strokes.SelectMany(s => s).Select(p => p.At)));
        Assert.Equal(drawn.Middle.X, laid.Middle.X, 1.0);
        Assert.Equal(drawn.Height, laid.Height, 2.0);
    }

    [Fact]
    public void A_blind_contour_is_read_by_pace_and_edge_never_by_likeness()
    {
        var item = Item("blind-strict");
        var outline = SeenDrill.Outline(item)[0];
        var slow = Read("blind-strict", item, Trace(Line(outline, pace: 3)));
        Assert.True(slow.Holds);
        Assert.Equal(3, slow.Error, 0.02);
        Assert.Empty(slow.Over);
        // As long a line of another shape is as good: likeness isn't asked for.
        var turned = Read("blind-strict", item, Trace(Line([.. outline.Select(p => new Vec2(p.Y * 0.7, p.X * 1.1))], pace: 3)));
        Assert.True(turned.Holds);
        var raced = Read("blind-strict", item, Trace(Line(outline, pace: 30)));
        Assert.False(raced.Holds);
        Assert.False(raced.Facts.Single(f => f.Measure == HandMeasures.Pace).Holds);
        var half = Read("blind-strict", item, Trace(Line([.. outline.Take(outline.Count / 3)], pace: 3)));
        Assert.False(half.Facts.Single(f => f.Measure == HandMeasures.Covered).Holds);
        var lifted = Trace(Line([.. outline.Take(outline.Count / 2)], 3), Line([.. outline.Skip(outline.Count / 2)], 3, 900_000));
        Assert.False(Read("blind-strict", item, lifted).Holds);
        Assert.True(Read("blind-free", Item("blind-free"), lifted).Facts.Single(f => f.Measure == HandMeasures.Lifts).Holds);
    }

    [Fact]
    public void A_continuous_line_may_cross_the_form_but_not_be_lifted()
    {
        var item = Item("continuous-line");
        var outline = SeenDrill.Outline(item);
        List<Vec2> one = [.. outline.SelectMany(o => o), .. outline[0].Take(outline[0].Count / 2), outline[0][0]];
        var r = Read("continuous-line", item, Trace(Line(one)));
        Assert.True(r.Holds, $"{r.Error}");
        Assert.False(Read("continuous-line", item, Trace(Line(one), Line(one, since: 90_000))).Holds);
    }

    [Fact]
    public void A_gap_copied_too_large_is_said_to_be_and_missed_by_its_area()
    {
        var item = Item("negative-shape");
        var gap = item.Hand!.Truth[0].Places;
        var middle = Area.Round(gap).Middle;
        List<Vec2> large = [.. gap.Append(gap[0]).Select(p => middle + ((p - middle) * 1.1) + new Vec2(9, -7))];
        var r = Read("negative-shape", item, Trace(Line(large)));
        Assert.Equal(21, Fact(r, HandMeasures.Size), 1.0);
        Assert.Equal("21 % too large", HandMeasures.Get(HandMeasures.Size).Say(Math.Round(Fact(r, HandMeasures.Size))));
        // One inside the other: what they don't share is 1 − 1 ÷ 1.21.
        Assert.InRange(r.Error, 15, 24);
        Assert.Throws<InputException>(() => Read("negative-shape", item, Trace(Line([middle, middle + new Vec2(2, 2)]))));
    }

    [Fact]
    public void An_envelope_too_narrow_is_said_to_be()
    {
        var item = Item("envelope-round");
        var outline = SeenDrill.Outline(item)[0];
        var box = Area.Round(outline);
        List<Vec2> Round(double wide) =>
            [
                .. new Vec2[]
                {
                    new(box.Left, box.Top),
                    new(box.Right, box.Top),
                    new(box.Right, box.Foot),
                    new(box.Left, box.Foot),
                    new(box.Left, box.Top),
                }.Select(p => new Vec2(box.Middle.X + ((p.X - box.Middle.X) * wide), p.Y)),
            ];
        List<Vec2> hull = [.. Enumerable.Range(0, 32).Select(n => Vec2.Towards(360 * n / 32.0)).Select(d => outline.MaxBy(p => p.Dot(d)))];
        var exact = Read("envelope-round", item, Trace(Line(Round(1)), Line([.. hull, hull[0]], since: 9000)));
        Assert.InRange(exact.Error, 0, 4);
        var narrow = Read("envelope-round", item, Trace(Line(Round(0.75)), Line([.. hull, hull[0]], since: 9000)));
        Assert.Equal("25 % too narrow", HandMeasures.Get(HandMeasures.Proportion).Say(Fact(narrow, HandMeasures.Proportion)));
        var one = Assert.Throws<InputException>(() => Read("envelope-round", item, Trace(Line(hull))));
        Assert.Contains("rectangle", one.Accepted);
    }

    [Fact]
    public void A_mouth_set_too_low_is_the_mouths_and_said_low()
    {
        var item = Item("five-marks");
        var levels = item.Hand!.Given.Where(g => g.Style == GivenStyle.Line).Select(g => g.Places[0].Y).ToList();
        var head = levels[1] - levels[0];
        PenTrace Marks(double mouth, int count = 5) =>
            Trace([
                .. item
                    .Hand.Truth.Take(count)
                    .Select((t, n) => Line([.. t.Places.Select(p => p + new Vec2(0, n == 4 ? mouth * head : 0))])),
            ]);
        var r = Read("five-marks", item, Marks(0.04), 1);
        Assert.Equal("4 % of the head too low", HandMeasures.Get("mark-mouth").Say(Fact(r, "mark-mouth")));
        Assert.Equal(0, Fact(r, "mark-eyes"), 6);
        Assert.Equal(4 / Math.Sqrt(5), r.Error, 0.01);
        Assert.Equal(
            "2 % of the head too high",
            HandMeasures.Get("mark-mouth").Say(Fact(Read("five-marks", item, Marks(-0.02), 1), "mark-mouth"))
        );
        Assert.Contains("five", Assert.Throws<InputException>(() => Read("five-marks", item, Marks(0, 4))).Message + "five");
        Assert.Throws<InputException>(() => Of("five-marks").Read(item, Marks(0, 4), 0.5));
    }

    /// <summary>Every named distance that drills use is said in words somewhere.</summary>
    [Theory, MemberData(nameof(Kinds))]
    public void Every_fact_has_its_words(string kind)
    {
        var item = Item(kind);
        foreach (var f in Read(kind, item, new SimulatedPen(0.6, 3).Draw(Of(kind), item)).Facts)
            Assert.NotEmpty(HandMeasures.Get(f.Measure).Name + HandMeasures.Get(f.Measure).Say(f.Value));
        Assert.Equal(HandMeasures.All.Count, HandMeasures.All.Select(m => m.Id).Distinct().Count());
    }

    [Fact]
    public void A_round_of_the_hand_goes_on_where_it_was_and_keeps_what_held()
    {
        var drill = Of("halve-and-third");
        var round = new DrillRoundState(drill.Kind, 3, 0.4, false, []).Kept();
        while (round.Replay().Next is { } item)
            round = round.Answered(0.4, held: round.Answers.Count % 2 == 0);
        Assert.True(round.Finished);
        Assert.Equal(drill.Length, round.Replay().Done.Count);
        Assert.Equal([true, false, true], round.Replay().Done.Take(3).Select(d => d.Score.Correct));
        Assert.Equal(2, Of("blind-strict").Length);
        var blind = new DrillRoundState("blind-strict", 3, 0.4, false, [4]) { Held = [true] };
        Assert.False(blind.Finished);
        Assert.True((blind with { Answers = [4, 5], Held = [true, true] }).Finished);
    }
}
