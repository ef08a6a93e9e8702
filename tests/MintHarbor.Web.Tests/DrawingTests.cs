using System.Globalization;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using Microsoft.AspNetCore.Html;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Drawing;
using NodaTime;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>The recurring pictures: to scale, the same each time, and without any style that the policy would block.</summary>
public sealed class DrawingTests
{
    private static readonly IReadOnlyList<PlanItem> Plan = Planner
        .Plan(
            new(
                new()
                {
                    Minutes = 150,
                    Approach = Approach.QuickFirst,
                    Students = 14,
                    Seed = 7,
                }
            )
        )
        .Proposals[0]
        .Items;
    private static readonly LocalTime Seven = new(19, 0);

    private static XElement Xml(HtmlString svg) => XElement.Parse(svg.Value!);

    private static double N(XElement e, string name) => double.Parse(e.Attribute(name)!.Value, CultureInfo.InvariantCulture);

    private static IEnumerable<XElement> Class(XElement svg, string css) =>
        svg.Descendants().Where(e => (e.Attribute("class")?.Value ?? "").Split(' ').Contains(css));

    private static void AllowedByPolicy(HtmlString svg)
    {
        Assert.DoesNotContain("style=", svg.Value);
        Assert.DoesNotContain("<script", svg.Value);
        Assert.DoesNotMatch("[0-9],[0-9]+\"", svg.Value!);
        Assert.DoesNotContain("NaN", svg.Value);
    }

    [Theory]
    [InlineData(false), InlineData(true)]
    public void The_strip_shows_minutes_to_scale_and_strain_as_height(bool small)
    {
        var drawn = PoseStrip.Draw(Plan, Seven, null, null, small);
        AllowedByPolicy(drawn);
        var svg = Xml(drawn);
        var poses = Class(svg, "strip-pose").ToList();
        var runs = Plan.Where(i => i.Posed).SelectMany(i => i.PoseRuns()).ToList();
        Assert.Equal(runs.Count, poses.Count);
        double k = (small ? 358 : 888) / 150.0,
            step = small ? 9 : 17;
        foreach (var (run, rect) in runs.Zip(poses))
        {
            Assert.Equal(run.At * k, N(rect, "x"), 0.01);
            Assert.Equal(run.Minutes * k, N(rect, "width"), 0.01);
            Assert.Equal(TimingRules.Default.Limit(run.Strain).Height * step, N(rect, "height"), 0.01);
        }
    }

    [Theory]
    [InlineData(0), InlineData(28), InlineData(61), InlineData(122), InlineData(149)]
    public void No_hour_stands_under_what_the_now_line_says(double now)
    {
        var drawn = PoseStrip.Draw(Plan, Seven, now, "20:13 15 min left");
        AllowedByPolicy(drawn);
        var svg = Xml(drawn);
        var says = Class(svg, "strip-clear").Single();
        double from = N(says, "x"),
            to = from + N(says, "width"),
            // Five figures of the hour's face are about 42 wide.
            half = 21;
        var hours = Class(svg, "strip-time").ToList();
        Assert.InRange(hours.Count, 2, 6);
        Assert.All(hours, h =>
        {
            var x =
                N(h, "x")
                + (
                    h.Attribute("text-anchor")!.Value switch
                    {
                        "start" => half,
                        "end" => -half,
                        _ => 0,
                    }
                );
            Assert.True(x + half <= from || x - half >= to, $"{h.Value} at {x} under {from} to {to}");
        });
    }

    [Theory]
    [InlineData(5), InlineData(9), InlineData(11)]
    public void A_narrow_sitting_keeps_its_name(double minutes)
    {
        double[] starts = [0, 10, 10 + minutes, 15 + minutes, 15 + (2 * minutes), 20 + (2 * minutes)];
        PlanItem Sitting(double at, int period) =>
            new(at, minutes, ItemKind.Exercise)
            {
                Exercise = "sitting",
                Period = period,
                Poses = 1,
                PoseMinutes = minutes,
            };
        PlanItem[] items =
        [
            new(starts[0], 10, ItemKind.SetUp),
            Sitting(starts[1], 1),
            new(starts[2], 5, ItemKind.Rest),
            Sitting(starts[3], 2),
            new(starts[4], 5, ItemKind.Rest),
            Sitting(starts[5], 3),
            new(starts[5] + minutes, 150 - starts[5] - minutes, ItemKind.Review),
        ];
        var labels = string.Join(" ", Class(Xml(PoseStrip.Draw(items, Seven, null, null)), "strip-label").Select(e => e.Value));
        foreach (var n in new[] { "1", "2", "3" })
            Assert.Contains(n, labels);
    }

    [Theory]
    [InlineData(0), InlineData(63.5), InlineData(150), InlineData(400)]
    public void The_plumb_line_hangs_where_the_meeting_stands(double minutes)
    {
        var svg = Xml(PoseStrip.Draw(Plan, Seven, minutes, "20:03  5 min left"));
        var x = Math.Min(minutes, 150) * 888 / 150;
        Assert.Equal(x, N(Class(svg, "strip-thread").Single(), "x1"), 0.01);
        Assert.Equal(x, N(Class(svg, "strip-run").Single(), "width"), 0.01);
        var says = N(Class(svg, "strip-now").Single(), "x");
        Assert.InRange(says, 0, 888);
    }

    [Fact]
    public void Labels_on_the_strip_do_not_run_into_one_another()
    {
        var labels = Class(Xml(PoseStrip.Draw(Plan, Seven, null, null)), "strip-label")
            .Select(l => (X: N(l, "x"), Y: N(l, "y"), Half: l.Value.Length * 3.7))
            .OrderBy(l => l.X)
            .ToList();
        Assert.True(labels.Count > 6);
        // Two rows at the most; within each nothing overlaps.
        var rows = labels.GroupBy(l => l.Y).ToList();
        Assert.InRange(rows.Count, 1, 2);
        foreach (var row in rows)
        foreach (var (a, b) in row.Zip(row.Skip(1)))
            Assert.True(a.X + a.Half <= b.X - b.Half + 0.1, $"labels at {a.X} and {b.X} overlap");
        Assert.True(labels[0].X - labels[0].Half >= -0.1 && labels[^1].X + labels[^1].Half <= 888.1);
    }

    [Theory]
    [InlineData(false), InlineData(true)]
    public void Hatching_is_the_same_each_time_irregular_and_inside_its_box(bool crossed)
    {
        var first = Hatch.Draw(5, 100, 40, 60, 80, crossed).Value!;
        Assert.Equal(first, Hatch.Draw(5, 100, 40, 60, 80, crossed).Value);
        Assert.NotEqual(first, Hatch.Draw(6, 100, 40, 60, 80, crossed).Value);
        var ends = Regex
            .Matches(first, @"M([\d.-]+) ([\d.-]+)Q[\d.-]+ [\d.-]+ ([\d.-]+) ([\d.-]+)")
            .Select(m => m.Groups.Values.Skip(1).Select(g => double.Parse(g.Value, CultureInfo.InvariantCulture)).ToArray())
            .ToList();
        Assert.True(ends.Count > 10);
        foreach (var e in ends)
        {
            Assert.InRange(e[0], 99.5, 160.5);
            Assert.InRange(e[2], 99.5, 160.5);
            Assert.InRange(e[1], 40 - 3, 120 + 3);
            Assert.InRange(e[3], 40 - 3, 120 + 3);
        }
        var feet = ends.Select(e => e[0]).Where(x => x > 101 && x < 158).Order().ToList();
        Assert.True(
            feet.Zip(feet.Skip(1)).Select(p => Math.Round(p.Second - p.First, 1)).Distinct().Count() > 3,
            "a clean repeat looks like a chart"
        );
    }

    [Fact]
    public void The_fan_has_both_hours_on_each_ray_and_shows_the_truth_beside_the_answer()
    {
        var fan = Xml(DrillFan.Draw());
        Assert.Equal(["9", "10", "11", "12", "1", "2", "3"], Class(fan, "fan-hour").Select(t => t.Value));
        Assert.Equal(["3", "4", "5", "6", "7", "8", "9"], Class(fan, "fan-other").Select(t => t.Value));
        Assert.Equal("slider", fan.Attribute("role")!.Value);
        var answered = DrillFan.Draw(45, 135);
        AllowedByPolicy(answered);
        Assert.Contains("rotate(45)", answered.Value);
        // 135° is the edge at −45°, on the left of the half dial.
        Assert.True(N(Class(Xml(answered), "fan-truth").Single(), "x2") < 195);
    }

    private static Sheet Sheet(double w = 457.2, double h = 609.6)
    {
        var s = new Sheet
        {
            PaperWidthMm = w,
            PaperHeightMm = h,
            Pose = "standing",
            Exercise = "sitting",
        };
        foreach (
            var (id, x, y) in new[]
            {
                ("crown", 228.0, 50.0),
                ("chin", 228, 130),
                ("sole.L", 240, 550),
                ("sole.R", 216, 550),
                ("pit", 228, 150),
            }
        )
            s.Landmarks[id] = new(x * w / 457.2, y * h / 609.6);
        return s;
    }

    [Theory]
    [InlineData(457.2, 609.6, false), InlineData(297, 420, false), InlineData(457.2, 609.6, true), InlineData(841, 594, false)]
    public void The_bench_rules_the_sheet_in_true_lengths(double w, double h, bool inch)
    {
        var drawn = Board.Draw(Sheet(w, h), "/p", [], null, [], true, null, inch);
        AllowedByPolicy(drawn);
        var svg = Xml(drawn);
        var k = 450 / w;
        Assert.Equal(k, N(svg, "data-scale"), 0.01);
        var down = Class(svg, "frame-tick").Where(t => N(t, "x2") > 450).Select(t => N(t, "y1") / k).ToList();
        var step = inch ? 12.7 : 10;
        Assert.Equal((int)(h / step), down.Count);
        for (var n = 0; n < down.Count; n++)
            Assert.Equal((n + 1) * step, down[n], 0.05);
    }

    [Fact]
    public void The_ladder_counts_the_heads_as_drawn_and_the_cards_beside_them()
    {
        var svg = Xml(Board.Draw(Sheet(), "/p", [], new PoseCard { Heads = 7.5 }, [], false, null, false));
        var numbers = Class(svg, "ladder-num").Select(t => t.Value).ToList();
        Assert.Contains("6.25", numbers); // (550 − 50) ÷ 80
        Assert.Contains("7.50", numbers);
        Assert.Contains("card", Class(svg, "ladder-word").Select(t => t.Value));
        Assert.DoesNotContain(
            "card",
            Class(Xml(Board.Draw(Sheet(), "/p", [], null, [], false, null, false)), "ladder-word").Select(t => t.Value)
        );
    }

    [Fact]
    public void Landmarks_can_be_taken_hold_of_only_where_that_is_allowed()
    {
        var svg = Xml(Board.Draw(Sheet(), "/p", [], null, [], true, "chin", false));
        var marks = Class(svg, "landmark").ToList();
        Assert.Equal(5, marks.Count);
        Assert.All(marks, m => Assert.Equal("0", m.Attribute("tabindex")!.Value));
        Assert.Equal("chin", Class(svg, "chosen").Single().Attribute("data-id")!.Value);
        Assert.All(Class(Xml(Board.Draw(Sheet(), "/p", [], null, [], false, null, false)), "landmark"), m =>
            Assert.Null(m.Attribute("tabindex"))
        );
    }

    [Fact]
    public void What_is_outside_is_drawn_as_it_stands_and_where_it_should_be()
    {
        var s = Sheet();
        (s.Landmarks["asis.R"], s.Landmarks["asis.L"], s.Pose, s.StandingLeg) = (new(200, 300), new(256, 300), "contrapposto", "R");
        var card = new PoseCard { Heads = 7.6, DirectionsHours = new(Pelvis: 3.6) };
        var findings = new SheetContext(s, new Course { Canon = "academic" }, card, null, null).Findings;
        var svg = Xml(Board.Draw(s, "/p", findings, card, [], false, null, false));
        Assert.NotEmpty(Class(svg, "over-bracket"));
        var reference = Class(svg, "over-reference").First(l => l.Name == "line" && l.Parent!.Attribute("class")!.Value == "off");
        var angle = ClockAngle.OfEdge(new(N(reference, "x1"), N(reference, "y1")), new(N(reference, "x2"), N(reference, "y2")));
        Assert.Equal(108, angle, 0.2); // 3.6 hours of 30°
    }

    [Theory]
    [InlineData("stand"), InlineData("recline"), InlineData("crouch"), InlineData("seated")]
    public void Every_pose_has_its_silhouette_clothed_and_as_plaster(string pose)
    {
        foreach (var clothed in new[] { true, false })
        {
            foreach (var n in new[] { 0, 1 })
            {
                var svg = Pictures.Pose(pose, clothed, n);
                AllowedByPolicy(svg);
                Assert.InRange(N(Xml(svg), "height"), 8, 48);
            }
        }
        Assert.Equal("", Pictures.Pose("no such pose", false, 0).Value);
    }

    [Fact]
    public void The_curve_shows_lean_as_a_dot_and_scatter_as_a_bar()
    {
        var svg = Xml(Pictures.Curve(ClockHand.Drill, [new("1 Nov", 6, 4, 12.8), new("8 Nov", -2, 3, 10.6)]));
        var bars = Class(svg, "curve-spread").ToList();
        Assert.Equal(2, bars.Count);
        var dots = svg.Descendants().Where(e => e.Name == "circle").ToList();
        foreach (var (bar, dot) in bars.Zip(dots))
            Assert.Equal((N(bar, "y1") + N(bar, "y2")) / 2, N(dot, "cy"), 0.02);
        Assert.True(N(dots[0], "cy") < N(dots[1], "cy"), "clockwise is up");
        Assert.Single(Class(Xml(Pictures.Curve(ClockHand.Drill, [new("1 Nov", 0, 1, 15)])), "curve-spread"));
    }

    [Theory]
    [InlineData(1), InlineData(2), InlineData(3), InlineData(12)]
    public void The_band_of_what_is_allowed_stays_between_the_axes(int rounds)
    {
        var svg = Xml(
            Pictures.Curve(ClockHand.Drill, [.. Enumerable.Range(1, rounds).Select(n => new Pictures.Round($"{n} Nov", 2, 3, 11.7))])
        );
        double left = N(Class(svg, "curve-zero").Single(), "x1"),
            right = N(Class(svg, "curve-zero").Single(), "x2");
        var bands = Class(svg, "curve-band").ToList();
        Assert.Equal(rounds, bands.Count);
        Assert.All(bands, b => Assert.InRange(N(b, "x"), left, right));
        Assert.All(bands, b => Assert.InRange(N(b, "x") + N(b, "width"), left, right + 0.01));
    }

    [Theory]
    [InlineData("holds"), InlineData("near"), InlineData("outside"), InlineData("blocked"), InlineData("unknown"), InlineData("person")]
    public void Shapes_say_what_they_mean_without_colour(string kind)
    {
        var svg = Xml(Marks.Shape(kind));
        Assert.True(svg.Attribute("aria-label") is not null || svg.Attribute("aria-hidden") is not null);
    }

    [Theory]
    [InlineData(59.2, 1), InlineData(60, 1), InlineData(61, 2), InlineData(0, 0)]
    public void Minutes_left_are_whole_and_rounded_up(double seconds, int minutes) => Assert.Equal(minutes, Words.Left(seconds));

    [Fact]
    public void A_meeting_on_the_night_the_clocks_change_starts_and_ends_right()
    {
        var course = new Course { Zone = "Europe/Berlin" };
        // 29 March 2026: 02:00 becomes 03:00. A start in the gap moves on with it.
        var m = new Meeting
        {
            Date = new(2026, 3, 29),
            StartsAt = new(2, 30),
            Minutes = 60,
        };
        Assert.Equal(new LocalTime(3, 30), Words.Local(m.Starts(course.Zone), course).TimeOfDay);
        Assert.Equal(Duration.FromMinutes(60), m.Ends(course.Zone) - m.Starts(course.Zone));
        Assert.Equal("in two days", Words.InDays(new(2026, 3, 31), m.Date));
        Assert.Equal("3 days ago", Words.InDays(new(2026, 3, 26), m.Date));
    }

    [Fact]
    public void A_note_sets_its_key_figure_off_and_encodes_the_rest()
    {
        var note = new Pages.Shared.Note("outside", "Head *11 %* large <b>");
        Assert.Equal("Head <b class=\"chalk\">11 %</b> large &lt;b&gt;", note.Sentence.Value);
    }
}
