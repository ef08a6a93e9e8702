using System.Numerics;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using Xunit;

namespace MintHarbor.Core.Tests.Heads;

/// <summary>Checks of the head: seen where the head shows them, each wrong drawing wrong in the very thing that the check is about.</summary>
public class HeadCheckTests
{
    private static readonly StudioHead Studio = new(2.5f);
    private static readonly HeadLevels Levels = HeadLevels.Of(Core.Canons.CanonTable.Get("classical-head"));

    public static TheoryData<string> Ids() => [.. HeadChecks.All.Select(c => c.Id)];

    private static CheckDrawing Draw(string id, bool wrong, double turn = 0, int side = 1) =>
        HeadChecks.Draw(Studio, Levels, HeadChecks.Find(id), side, new(turn), wrong, 160);

    /// <summary>A turn from which its left side is judged.</summary>
    private static double Turn(string id) => id.StartsWith("ear", StringComparison.Ordinal) ? -75 : 0;

    [Fact]
    public void At_least_fourteen_each_with_a_fault_whose_remedy_and_drill_are_said()
    {
        Assert.True(HeadChecks.All.Count >= 14);
        Assert.Equal(
            HeadChecks.All.Count,
            HeadChecks.All.Select(c => c.Id).Concat(BodyChecks.All.Select(c => c.Id)).Distinct().Count() - 14
        );
        Assert.All(HeadChecks.All, c =>
        {
            var fault = Faults.Find(c.Fault)!;
            Assert.NotEqual("", fault.Remedy);
            Assert.NotNull(Core.Practice.Drills.Find(fault.Drill!));
        });
    }

    [Theory]
    [MemberData(nameof(Ids))]
    public void The_wrong_drawing_differs_from_the_right_one(string id)
    {
        CheckDrawing right = Draw(id, false, Turn(id)),
            wrong = Draw(id, true, Turn(id));
        var washes =
            right.Wash is not null && wrong.Wash is not null
                ? right.Wash.Pixels.Zip(wrong.Wash.Pixels).Count(p => Math.Abs((p.First & 255) - (double)(p.Second & 255)) > 20)
                : 0;
        var inked = right.Layers[0].Path() != wrong.Layers[0].Path();
        Assert.True(washes >= 120 || inked, $"{washes} pixels differ");
        Assert.DoesNotContain("l5 8.6h-10z", right.ToSvg(null));
    }

    /// <summary>The rule of a check holds in its right drawing and fails in its wrong one; down is greater. The middle of a picture of a face is
    /// known by its own marks.</summary>
    [Fact]
    public void Levels_are_off_the_way_the_words_say()
    {
        Assert.True(Draw("eye-line", true).Key[0].Y < Draw("eye-line", false).Key[0].Y - 5, "up into the forehead");
        Assert.True(Draw("hairline", true).Key[0].Y > Draw("hairline", false).Key[0].Y + 4, "the hair sits low");
        Assert.True(Draw("nose-length", true).Key[1].Y > Draw("nose-length", false).Key[1].Y + 5, "the nose hangs down");
        Assert.Equal(Draw("nose-length", false).Key[2].Y, Draw("nose-length", true).Key[2].Y, 0.5f);
        Assert.True(Draw("hair-volume", true).Key[0].Y > Draw("hair-volume", false).Key[0].Y + 3, "the head ends at the skull");
    }

    [Fact]
    public void Sizes_are_off_the_way_the_words_say()
    {
        static float Wide(CheckDrawing d) => MathF.Abs(d.Key[0].X - d.Key[1].X);
        static float High(CheckDrawing d) => MathF.Abs(d.Key[0].Y - d.Key[1].Y);
        Assert.InRange(Wide(Draw("eye-size", true)) / Wide(Draw("eye-size", false)), 1.15, 1.45);
        Assert.InRange(Wide(Draw("neck-breadth", true)) / Wide(Draw("neck-breadth", false)), 0.6, 0.9);
        Assert.True(Wide(Draw("lower-lip", true)) > 1.2f * Wide(Draw("lower-lip", false)), "from corner to corner");
        CheckDrawing ear = Draw("ear-place", false, -75),
            small = Draw("ear-place", true, -75);
        Assert.True(High(small) < 0.85f * High(ear), "small");
        Assert.True(small.Key.Average(k => k.Y) < ear.Key.Average(k => k.Y) - 4, "high");
        // The brow ends inside the eye's outer corner, on the nose's side of it.
        Assert.True(Draw("brow-length", true).Key[0].X < Draw("brow-length", true).Key[1].X - 10);
        Assert.True(Draw("brow-length", false).Key[0].X > Draw("brow-length", false).Key[1].X);
    }

    [Fact]
    public void Lids_peak_apart_and_in_the_wrong_drawing_over_one_another()
    {
        CheckDrawing right = Draw("lids", false),
            wrong = Draw("lids", true);
        // Of the left eye, seen from in front, the nose is to the left: the upper lid's height nearer to it, the lower one's depth away.
        Assert.True(right.Key[0].X < right.Key[1].X - 5);
        Assert.Equal(wrong.Key[0].X, wrong.Key[1].X, 1f);
    }

    [Fact]
    public void Without_shadows_the_picture_is_lighter()
    {
        static double Light(CheckDrawing d) => d.Wash!.Pixels.Average(p => p & 255);
        Assert.True(Light(Draw("cast-shadows", true)) > Light(Draw("cast-shadows", false)) + 2);
    }

    [Fact]
    public void The_right_side_mirrors_the_left()
    {
        CheckDrawing left = Draw("eye-size", false),
            right = Draw("eye-size", false, 0, -1);
        foreach (var (l, r) in left.Key.Zip(right.Key))
            Assert.Equal(160 - l.X, r.X, 0.5f);
    }

    [Fact]
    public void A_check_is_seen_where_the_head_shows_it()
    {
        SeenHeadCheck Of(string id, double turn) => HeadChecks.In(Studio.Model(Levels), new(turn)).Single(c => c.Check.Id == id);
        // The face looks to picture right: the sitter's right ear is the near one.
        Assert.True(Of("ear-place", 50) is { Visible: true, Side: -1 });
        Assert.True(Of("ear-place", -50) is { Visible: true, Side: 1 });
        Assert.False(Of("ear-place", 0).Visible);
        Assert.False(Of("mouth-slit", 90).Visible);
        Assert.True(Of("mouth-slit", 20).Visible);
        Assert.False(Of("eye-size", 180).Visible);
    }

    [Theory]
    [InlineData(0, 0)]
    [InlineData(35, 0)]
    [InlineData(-50, 10)]
    public void The_turn_of_a_drawn_head_is_told_from_its_marks(double turn, double tilt)
    {
        var model = Studio.Model(Levels);
        var view = StudioHead.View(model, new(turn, tilt), FigureViewKind.Mass);
        // Drawn half as large, shifted, turned a little on the sheet, each mark a millimetre beside its place; what is hidden isn't marked.
        var laid = new Similarity(0.5, 4, new(70, 40), 0);
        var n = 0;
        var drawn = view
            .Landmarks.Where(l => l.Value.Visible)
            .ToDictionary(l => l.Key, l => laid.Map(l.Value.At) + new Vec2(n++ % 2 == 0 ? 0.7 : -0.7, n % 3 == 0 ? 0.7 : -0.4));
        var seat = HeadSeat.Of(model, drawn)!;
        Assert.InRange(seat.Pose.Turn - turn, -5.1, 5.1);
        Assert.InRange(seat.Pose.Tilt - tilt, -5.1, 5.1);
        Assert.InRange(seat.Laid.Scale, 0.46, 0.54);
    }

    [Fact]
    public void Four_marks_tell_nothing()
    {
        var model = Studio.Model(Levels);
        var marks = StudioHead.View(model, new(0), FigureViewKind.Mass).Landmarks.Take(4).ToDictionary(l => l.Key, l => l.Value.At);
        Assert.Null(HeadSeat.Of(model, marks));
    }

    [Theory]
    [InlineData("\"fault\": \"eyes-high\"", "\"fault\": \"eyes-astray\"", "there is no fault 'eyes-astray'")]
    [InlineData("\"anchor\": \"eye-outer.L\"", "\"anchor\": \"third-eye\"", "there is no landmark 'third-eye'")]
    [InlineData("\"key\": [\"eye-outer.L\", ", "\"key\": [\"eye-outer\", ", "'eye-outer' is neither a landmark nor a place")]
    [InlineData("\"levels\": {\"eye\": 0.065", "\"levels\": {\"ears\": 0.065", "no such level")]
    [InlineData(", \"levels\": {\"eye\": 0.065, \"brow\": 0.06}", "", "what makes the wrong drawing is missing")]
    [InlineData("\"sculpt\": \"thin-neck\"", "\"sculpt\": \"swan\"", "there is no sculpt 'swan'")]
    public void A_damaged_file_names_what_is_wrong(string was, string now, string says)
    {
        var json = FigureFile.Resource("heads/checks");
        Assert.Contains(was, json, StringComparison.Ordinal);
        var e = Assert.Throws<FigureFileException>(() => HeadChecks.Read("checks.json", json.Replace(was, now, StringComparison.Ordinal)));
        Assert.Contains(says, e.Message, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("calf.L", 1, "the model's left")]
    [InlineData("calf.R", -1, "the model's right")]
    [InlineData("collarbones.R", -1, "")]
    [InlineData("eye-line.L", 1, "")]
    [InlineData("jaw-planes.R", -1, "the model's right")]
    public void A_check_on_a_side_is_read_and_written(string key, int side, string says)
    {
        var on = CheckOn.Read(key);
        Assert.Equal((side, key, says), (on.Side, on.Key, on.SideSays));
    }

    [Theory]
    [InlineData(null), InlineData(""), InlineData("calf"), InlineData("calf.X"), InlineData("knob.L"), InlineData(".L")]
    public void Anything_else_is_no_check(string? key) =>
        Assert.Contains("there is no check", Assert.Throws<InputException>(() => CheckOn.Read(key)).Message, StringComparison.Ordinal);

    [Fact]
    public void A_remark_out_of_a_check_says_where_what_and_what_to_do()
    {
        var on = CheckOn.Read("ankles.R");
        var r = Remark.FromCheck("r1", on, Faults.Find(on.Check.Fault)!, new Vec2(100, 200));
        Assert.Empty(r.Flags);
        Assert.EndsWith("the model's right", r.Where, StringComparison.Ordinal);
        Assert.Contains("both level, or the outer one higher", r.What, StringComparison.Ordinal);
        Assert.Contains("Right: the line through both knobs falls outwards", r.What, StringComparison.Ordinal);
        Assert.Equal("ankles.R", r.Check);
    }
}
