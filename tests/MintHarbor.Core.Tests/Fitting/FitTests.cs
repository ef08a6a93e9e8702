using System.Numerics;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Fitting;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Sheets;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using Xunit;

namespace MintHarbor.Core.Tests.Fitting;

/// <summary>The fit on whole sheets: drawn by the simulated student, whose landmarks are known.</summary>
public sealed class FitTests
{
    private static readonly StudioFigure Studio = new(48L << 20);
    private static readonly PaperSize Paper = PaperSize.Find("18x24in")!;
    private const double Mm = 0.25;

    private static FigureModel Model(string pose, string body = "male") =>
        Studio.Model(body, FigureCatalogue.Pose(pose), Drapery.For(false, false), StudioFigure.Coarse);

    private static SimulatedDrawing Drawn(string pose, double azimuth, params NamedFault[] faults) =>
        SimulatedStudent.Draw(DrawnSubject.Of(Model(pose), new(azimuth)), Paper, 440, faults, new(0.6, Tool.Pencil), 5);

    private static InkReading Read(SimulatedDrawing drawing) => InkReading.Of(SheetCamera.Flat(drawing, Mm, 5), Mm);

    private static FitReference View(string pose, double azimuth) => FitReferences.Of(Model(pose), new(azimuth));

    private static Dictionary<string, double> Errors(FitResult fit, SimulatedDrawing drawing) =>
        fit.Marks.Values.Where(m => m.Seen).ToDictionary(m => m.Id, m => (m.At - drawing.Landmarks[m.Id]).Length);

    /// <summary>Without a click, and with a fault in it: what is drawn is measured, not what should be.</summary>
    [Theory]
    [InlineData("stand", 20, "head large", 0.15)]
    [InlineData("contrapposto", -30, "legs short", 0.12)]
    [InlineData("seated", 35, "hand small", 0.25)]
    public void Marks_lie_where_they_are_drawn(string pose, double azimuth, string fault, double size)
    {
        var drawing = Drawn(pose, azimuth, new NamedFault(fault, size));
        var fit = new MarkFit(Read(drawing), View(pose, azimuth)).Run();
        Assert.Equal(NoFit.None, fit.Why);
        var errors = Errors(fit, drawing).Values.Order().ToList();
        Assert.True(
            errors[errors.Count / 2] < 1.5 && errors[errors.Count * 9 / 10] < 3.5,
            $"{string.Join(" ", errors.Select(e => e.ToString("0.0")))}"
        );
    }

    /// <summary>A view's own lines laid on the paper without a hand between: nothing is left to err.</summary>
    [Fact]
    public void An_undistorted_view_gives_its_landmarks_back()
    {
        var subject = DrawnSubject.Of(Model("contrapposto"), new(20));
        var drawing = SimulatedStudent.Draw(subject, Paper, 440, [], new(1, Tool.Pen, false), 3);
        var fit = new MarkFit(Read(drawing), View("contrapposto", 20)).Run();
        var height = (fit.Crown!.Value - fit.Sole!.Value).Length;
        Assert.All(Errors(fit, drawing), e => Assert.True(e.Value < 0.006 * height, $"{e.Key} {e.Value:0.00} mm of {height:0}"));
    }

    [Fact]
    public void A_placed_mark_stays_and_draws_its_neighbours()
    {
        var drawing = Drawn("stand", 20);
        var fit = new MarkFit(Read(drawing), View("stand", 20));
        var before = fit.Run();
        var to = before.Marks["wrist.R"].At + new Vec2(9, 4);
        var after = fit.Run(new Dictionary<string, Vec2> { ["wrist.R"] = to });
        Assert.Equal(to, after.Marks["wrist.R"].At);
        double Moved(string id) => (after.Marks[id].At - before.Marks[id].At).Length;
        Assert.True(Moved("knuckle.R") > 5 * Moved("kneetop.L") && Moved("kneetop.L") < 0.5, $"{Moved("knuckle.R")}, {Moved("kneetop.L")}");
        Assert.Equal(1.2 * 2.146, after.Marks["wrist.R"].R90, 2);
        Assert.Equal(before.Marks, fit.Run().Marks);
    }

    [Fact]
    public void A_mirrored_sheet_and_view_give_the_mirrored_marks()
    {
        var drawing = Drawn("contrapposto", 25);
        var flat = SheetCamera.Flat(drawing, Mm, 5);
        var mirrored = new byte[flat.Pixels.Length];
        for (var y = 0; y < flat.Height; y++)
        for (var x = 0; x < flat.Width; x++)
            mirrored[(y * flat.Width) + x] = flat[flat.Width - 1 - x, y];
        var view = View("contrapposto", 25);
        var one = new MarkFit(InkReading.Of(flat, Mm), view).Run();
        var other = new MarkFit(InkReading.Of(new(flat.Width, flat.Height, mirrored), Mm), view.Mirrored()).Run();
        var width = flat.Width * Mm;
        var apart = one
            .Marks.Values.Where(m => m.Seen)
            .Select(m => (new Vec2(width - m.At.X, m.At.Y) - other.Marks[LandmarkIds.Mirror(m.Id)].At).Length);
        Assert.True(apart.Order().ElementAt(apart.Count() * 9 / 10) < 2.5);
    }

    public static TheoryData<string, NoFit> Hopeless =>
        new()
        {
            { "blank", NoFit.Blank },
            { "black", NoFit.Black },
            { "upside down", NoFit.UpsideDown },
            { "half a figure", NoFit.NotThis },
            { "another pose", NoFit.NotThis },
            { "two figures", NoFit.Several },
            { "scribble", NoFit.NotThis },
        };

    /// <summary>Nothing is measured where nothing can be: no marks, and a reason.</summary>
    [Theory]
    [MemberData(nameof(Hopeless))]
    public void What_cant_be_fitted_is_said(string sheet, NoFit why)
    {
        var flat = Spoiled(sheet);
        var fit = new MarkFit(InkReading.Of(flat, Mm), View("stand", 20)).Run();
        Assert.Equal(why, fit.Why);
        Assert.Empty(fit.Marks);
        Assert.Null(fit.Ask);
    }

    private static GreyImage Spoiled(string sheet)
    {
        var flat = SheetCamera.Flat(Drawn(sheet == "another pose" ? "seated" : "stand", 20), Mm, 5);
        var p = flat.Pixels;
        var (w, h) = (flat.Width, flat.Height);
        return sheet switch
        {
            "blank" => SheetCamera.Flat(new(Paper, [], new Dictionary<string, Vec2>()), Mm, 5),
            "black" => new(w, h, [.. p.Select(v => (byte)(v / 8))]),
            "upside down" => new(w, h, [.. p.Reverse()]),
            "half a figure" => new(w, h, [.. p.Select((v, i) => i / w > h / 2 ? (byte)235 : v)]),
            "two figures" => SheetCamera.Flat(Twice(), Mm, 5),
            "scribble" => SheetCamera.Flat(Scribble(), Mm, 5),
            _ => flat,
        };
    }

    private static SimulatedDrawing Twice()
    {
        var one = SimulatedStudent.Draw(DrawnSubject.Of(Model("stand"), new(20)), Paper, 300, [], new(0.6, Tool.Pencil), 5);
        DrawnStroke Aside(DrawnStroke s, double by) => s with { Points = [.. s.Points.Select(p => p + new Vec2(by, 0))] };
        return one with { Strokes = [.. one.Strokes.Select(s => Aside(s, -110)), .. one.Strokes.Select(s => Aside(s, 110))] };
    }

    private static SimulatedDrawing Scribble()
    {
        var random = new SeededRandom(3);
        var at = new Vec2(200, 300);
        var points = new List<Vec2>();
        for (var i = 0; i < 900; i++)
            points.Add(at = new(Math.Clamp(at.X + random.Normal(22), 60, 400), Math.Clamp(at.Y + random.Normal(30), 60, 540)));
        return new(Paper, [new(points, 0.7, 0.8)], new Dictionary<string, Vec2>());
    }

    [Fact]
    public void Clicks_off_the_sheet_or_on_one_another_are_refused()
    {
        var ink = Read(Drawn("stand", 0));
        var view = View("stand", 0);
        Assert.Equal("clicks.crown", Assert.Throws<InputException>(() => new MarkFit(ink, view, new(-5, 20), new(200, 500))).Field);
        Assert.Equal("clicks", Assert.Throws<InputException>(() => new MarkFit(ink, view, new(200, 100), new(200, 110))).Field);
    }

    /// <summary>Of the mark that is asked for, the interval is wider than what a judgement needs; when none is, nothing is asked.</summary>
    [Fact]
    public void It_asks_for_what_matters_until_it_is_good_enough()
    {
        var drawing = Drawn("stand", 40, new NamedFault("arm turned", 8));
        var fit = new MarkFit(Read(drawing), View("stand", 40));
        var pins = new Dictionary<string, Vec2>();
        var result = fit.Run();
        var asked = new List<string>();
        while (result.Ask is { } ask && asked.Count < 40)
        {
            Assert.DoesNotContain(ask, asked);
            Assert.False(result.Marks[ask].Sure);
            asked.Add(ask);
            pins[ask] = drawing.Landmarks[ask];
            result = fit.Run(pins);
        }
        Assert.Null(result.Ask);
        Assert.True(asked.Count <= 12, string.Join(", ", asked));
    }

    [Fact]
    public void The_pose_is_told_from_the_ink()
    {
        foreach (var (pose, azimuth) in new[] { ("seated", 30.0), ("lunge", -70), ("contrapposto", 10), ("recline", 20), ("crouch", 100) })
        {
            var found = PoseFinder.Find(Read(Drawn(pose, azimuth)).Form);
            Assert.Equal(pose, found[0].Pose);
            Assert.InRange(Math.Abs(Math.IEEERemainder(found[0].Azimuth - azimuth, 360)), 0, 25);
            Assert.True(found[0].Apart <= found[1].Apart);
        }
        Assert.Empty(PoseFinder.Find(Read(new(Paper, [], new Dictionary<string, Vec2>())).Form));
    }

    [Fact]
    public void A_heads_features_are_found_where_they_are_drawn()
    {
        var heads = new StudioHead(StudioHead.Coarse);
        var pose = new HeadPose(25);
        var drawing = SimulatedStudent.Draw(
            DrawnSubject.Of(heads.Model(), pose),
            Paper,
            330,
            [new("eyes high", 0.06)],
            new(0.6, Tool.Pencil),
            8
        );
        var fit = new MarkFit(
            Read(drawing),
            FitReferences.Of(heads.Model(), pose),
            drawing.Landmarks["crown"],
            drawing.Landmarks["chin"]
        ).Run();
        Assert.Equal(NoFit.None, fit.Why);
        var errors = Errors(fit, drawing);
        foreach (var id in errors.Keys.Where(id => id.StartsWith("eye") || id is "nosebase" or "lip-slit" || id.StartsWith("ear-b")))
            Assert.True(errors[id] < 4, $"{id} {errors[id]:0.0} mm");
        Assert.Contains("eye-outer.R", errors.Keys);
    }
}
