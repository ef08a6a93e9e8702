using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using MintHarbor.Cli;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using SkiaSharp;
using Xunit;

namespace MintHarbor.Core.Tests.Cli;

/// <summary>`core fit` on a sheet whose landmarks are known; its printed example is run on the sheet that it speaks of.</summary>
public sealed partial class FitVerbTests : IDisposable
{
    [GeneratedRegex("```json fit\\n(.*?)\\n```.*?```json fit answer\\n(.*?)\\n```", RegexOptions.Singleline)]
    private static partial Regex Example();

    private const string Paper = "457.2x609.6";
    private readonly string folder = Directory.CreateTempSubdirectory("fit-").FullName;

    private static SimulatedDrawing Drawn() =>
        SimulatedStudent.Draw(
            DrawnSubject.Of(
                new StudioFigure().Model("male", FigureCatalogue.Pose("contrapposto"), Drapery.For(false, false), StudioFigure.Coarse),
                new(20)
            ),
            PaperSize.Parse(Paper),
            440,
            [new("legs short", 0.1)],
            new(0.6, Tool.Pencil),
            7
        );

    private string Sheet(SimulatedDrawing drawing)
    {
        var flat = SheetCamera.Flat(drawing, 0.25, 7);
        using var bitmap = new SKBitmap(new SKImageInfo(flat.Width, flat.Height, SKColorType.Gray8, SKAlphaType.Opaque));
        System.Runtime.InteropServices.Marshal.Copy(flat.Pixels, 0, bitmap.GetPixels(), flat.Pixels.Length);
        var file = Path.Combine(folder, "flat.png");
        File.WriteAllBytes(file, bitmap.Encode(SKEncodedImageFormat.Png, 100).ToArray());
        return file;
    }

    private static (int Code, JsonNode Answer) Run(string request, params string[] args)
    {
        var output = new StringWriter();
        var code = CoreCommand.Run(["fit", .. args], new StringReader(request), output, TextWriter.Null);
        return (code, JsonNode.Parse(output.ToString())!);
    }

    [Fact]
    public void The_printed_example_is_what_comes_back()
    {
        var file = Sheet(Drawn());
        var printed = Example().Match(File.ReadAllText(Checkout.Path("docs/formats.md")));
        Assert.True(printed.Success, "no example of fit is printed");
        var (code, answer) = Run(printed.Groups[1].Value, "--sheet", file, "--paper", Paper);
        Assert.Equal(0, code);
        var shown = JsonNode.Parse(printed.Groups[2].Value)!;
        foreach (var (id, mark) in shown["landmarks"]!.AsObject())
        foreach (var number in new[] { "x", "y", "r90" })
            Assert.Equal(mark![number]!.GetValue<double>(), answer["landmarks"]![id]![number]!.GetValue<double>(), 0.3);
        Assert.Equal(shown["ask"]?.ToJsonString(), answer["ask"]?.ToJsonString());
        var schema = JsonNode.Parse(File.ReadAllText(Checkout.Path("docs/formats/fit.schema.json")))!["$defs"]!["result"]![
            "properties"
        ]!.AsObject();
        Assert.Equal(schema.Select(p => p.Key).Order(), answer.AsObject().Select(p => p.Key).Order());
        Assert.Equal(
            schema["landmarks"]!["additionalProperties"]!["properties"]!.AsObject().Select(p => p.Key).Order(),
            answer["landmarks"]!["crown"]!.AsObject().Select(p => p.Key).Order()
        );
    }

    [Fact]
    public void Marks_come_out_where_they_are_drawn_and_pins_stay()
    {
        var drawing = Drawn();
        var file = Sheet(drawing);
        var (_, answer) = Run(
            """{"pose":"contrapposto","seat":{"azimuth":20},"pins":{"elbow.L":[250,220]}}""",
            "--sheet",
            file,
            "--paper",
            Paper
        );
        Assert.Equal(
            (250.0, 220.0),
            (answer["landmarks"]!["elbow.L"]!["x"]!.GetValue<double>(), answer["landmarks"]!["elbow.L"]!["y"]!.GetValue<double>())
        );
        var knee = answer["landmarks"]!["kneetop.R"]!;
        Assert.Equal(drawing.Landmarks["kneetop.R"].Y, knee["y"]!.GetValue<double>(), 2.5);
        Assert.Null(answer["pose"]);
    }

    [Fact]
    public void An_unknown_pose_is_told()
    {
        var (_, answer) = Run("""{"unknownPose":true}""", "--sheet", Sheet(Drawn()), "--paper", Paper);
        Assert.Equal("contrapposto", answer["pose"]![0]!["pose"]!.GetValue<string>());
        Assert.True(answer["pose"]!.AsArray().Count > 1);
        Assert.NotEmpty(answer["landmarks"]!.AsObject());
    }

    [Fact]
    public void A_blank_sheet_gives_no_marks_and_says_why()
    {
        var (code, answer) = Run(
            """{"pose":"stand"}""",
            "--sheet",
            Sheet(new(PaperSize.Parse(Paper), [], new Dictionary<string, Core.Geometry.Vec2>())),
            "--paper",
            Paper
        );
        Assert.Equal(0, code);
        Assert.Empty(answer["landmarks"]!.AsObject());
        Assert.Contains("Nothing is drawn", answer["says"]!.GetValue<string>());
    }

    [Theory]
    [InlineData("""{"pose":"nobody"}""", "pose")]
    [InlineData("{}", "pose")]
    [InlineData("""{"pose":"stand","clicks":{"crown":[1]}}""", "clicks.crown")]
    [InlineData("""{"pose":"stand","clicks":{"crown":[-5,9],"sole":[200,500]}}""", "clicks.crown")]
    [InlineData("""{"pose":"stand","pins":{"horn":[1,2]}}""", "pins.horn")]
    [InlineData("""{"subject":"horse"}""", "subject")]
    [InlineData("""{"subject":"head","unknownPose":true}""", "unknownPose")]
    [InlineData("""{"pose":"stand","seat":{"distance":-1}}""", "seat.distance")]
    public void Wrong_input_names_its_field(string request, string field)
    {
        var (code, answer) = Run(request, "--sheet", Sheet(Drawn()), "--paper", Paper);
        Assert.Equal(2, code);
        Assert.Equal(field, answer["field"]!.GetValue<string>());
    }

    [Fact]
    public void A_missing_sheet_or_paper_is_said()
    {
        Assert.Equal("sheet", Run("{}").Answer["field"]!.GetValue<string>());
        Assert.Equal("paper", Run("{}", "--sheet", "x.png").Answer["field"]!.GetValue<string>());
        Assert.Equal(
            (2, "in"),
            (
                Run("{}", "--sheet", "none.png", "--paper", Paper).Code,
                Run("{}", "--sheet", "none.png", "--paper", Paper).Answer["field"]!.GetValue<string>()
            )
        );
    }

    public void Dispose() => Directory.Delete(folder, true);
}
