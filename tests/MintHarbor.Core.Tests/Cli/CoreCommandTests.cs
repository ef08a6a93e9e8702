using System.Text.Json.Nodes;
using MintHarbor.Cli;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using Xunit;

namespace MintHarbor.Core.Tests.Cli;

public class CoreCommandTests
{
    private static (int Code, JsonNode Answer) Run(string request, params string[] args)
    {
        var output = new StringWriter();
        var code = CoreCommand.Run(args, new StringReader(request), output, TextWriter.Null);
        return (code, JsonNode.Parse(output.ToString())!);
    }

    [Fact]
    public void The_worked_example_of_judge_answers_as_documented()
    {
        var (code, answer) = Run(
            """
            {"canon":"academic","subject":"figure","view":"front","pose":"standing","standingLeg":"L","exercise":"sitting","placementErrorMm":0.5,
             "landmarks":{"crown":[228.6,40.0],"chin":[228.6,118.0],"sole.L":[215.0,580.0]},
             "poseCard":{"heads":7.6,"directionsHours":{"shoulders":3.1},"plumbs":[{"from":"pit","to":"ankleout.R","offsetHeads":0.0}]}}
            """,
            "judge"
        );
        Assert.Equal(0, code);
        var heads = answer["findings"]!.AsArray().First(f => f!["rule"]!.GetValue<string>() == "F-heads")!;
        Assert.Equal("pose-card", heads["against"]!.GetValue<string>());
        Assert.Equal("outside", heads["verdict"]!.GetValue<string>());
        Assert.Equal(6.9231, heads["measured"]!.GetValue<double>(), 4);
        Assert.Equal(0.228, heads["tolerance"]!.GetValue<double>(), 4);
        Assert.Equal("canon", heads["also"]![0]!["against"]!.GetValue<string>());
        Assert.Null(heads["followsFrom"]);
        Assert.Null(answer["sheet"]!["alignment"]);
    }

    [Theory]
    [InlineData("judge", """{"landmarks":{"crown":[1]}}""", "landmarks.crown")]
    [InlineData("judge", """{"landmarks":{"crown":["a",2]}}""", "landmarks.crown")]
    [InlineData("judge", """{"landmarks":{"knob":[1,2]}}""", "landmarks.knob")]
    [InlineData("judge", """{"canon":"other","landmarks":{}}""", "canon")]
    [InlineData("judge", """{"landmarks":{},"poseCard":{"heads":70}}""", "poseCard.heads")]
    [InlineData("plan", """{"minutes":10}""", "minutes")]
    [InlineData("plan", """{"minutes":"ten"}""", "minutes")]
    [InlineData("plan", """{"minutes":120,"include":["juggling"]}""", "include[0]")]
    [InlineData("plan", """{"minutes":120,"history":null}""", "history")]
    [InlineData("plan", """{"minutes":120,"include":null}""", "include")]
    [InlineData("plan", """{"minutes":120,"weak":[null]}""", "weak[0]")]
    [InlineData("plan", """{"minutes":120,"locked":[{"at":0,"minutes":10,"kind":"set-up","strains":null}]}""", "locked[0].strains")]
    [InlineData("judge", """{"landmarks":{"crown":[null,2]}}""", "landmarks.crown[0]")]
    [InlineData("drill", """{"kind":"other"}""", "kind")]
    [InlineData("drill", """{"kind":"clock-hand","difficulty":3}""", "difficulty")]
    [InlineData("dance", "{}", "verb")]
    public void Wrong_input_names_the_field_and_exits_with_2(string verb, string request, string field)
    {
        var (code, answer) = Run(request, verb);
        Assert.Equal(2, code);
        Assert.Equal(field, answer["field"]!.GetValue<string>());
        Assert.NotEmpty(answer["accepted"]!.GetValue<string>());
        Assert.NotEmpty(answer["error"]!.GetValue<string>());
    }

    [Theory]
    [InlineData("[]"), InlineData("nonsense"), InlineData("")]
    public void What_is_not_an_object_is_refused(string request) => Assert.Equal(2, Run(request, "plan").Code);

    [Fact]
    public void A_plan_comes_out_in_the_fields_of_the_contract()
    {
        var (_, answer) = Run(
            """{"minutes":150,"approach":"quick-first","purpose":"gesture","level":"beginner","students":14,"model":"person","draped":false,"minors":false,"include":["gesture"],"locked":[{"at":0,"minutes":10,"kind":"set-up"}],"seed":7}""",
            "plan"
        );
        var p = answer["proposals"]![0]!;
        Assert.NotEmpty(p["idea"]!.GetValue<string>());
        Assert.NotEmpty(p["kit"]!.AsArray());
        var item = p["items"]!.AsArray().First(i => i!["kind"]!.GetValue<string>() == "exercise")!;
        foreach (var field in new[] { "at", "minutes", "exercise", "posed", "draped", "poses", "poseMinutes", "strains", "strain" })
            Assert.NotNull(item[field]);
        foreach (var field in new[] { "id", "holds", "value", "limit", "unit", "says" })
            Assert.NotNull(p["rules"]![0]![field]);
    }

    [Fact]
    public void A_drill_gives_items_and_then_scores()
    {
        var (_, items) = Run("""{"kind":"clock-hand","seed":5,"difficulty":0.5,"count":2}""", "drill");
        var first = items["items"]![0]!;
        Assert.StartsWith("<svg", first["picture"]!["svg"]!.GetValue<string>());
        var truth = first["truth"]!["value"]!.GetValue<double>();
        var (_, scored) = Run(
            $$"""{"kind":"clock-hand","seed":5,"difficulty":0.5,"count":2,"answers":[{"id":"{{first["id"]}}","value":{{truth + 4.7}}}]}""",
            "drill"
        );
        Assert.Equal(4.7, scored["scores"]![0]!["error"]!.GetValue<double>(), 2);
        Assert.True(scored["scores"]![0]!["correct"]!.GetValue<bool>());
        Assert.Null(scored["spread"]);
    }

    [Fact]
    public void A_sheet_is_found_straightened_and_read()
    {
        var dir = Directory.CreateTempSubdirectory();
        try
        {
            var paper = PaperSize.Find("A3")!;
            var shot = SheetCamera.Take(SimulatedHand.Draw("stand-female-0", paper, 340, new(), 0.5, 4), 900, 1200, 0.6, 4);
            var photo = Path.Combine(dir.FullName, "p.jpg");
            File.WriteAllBytes(photo, shot.Jpeg);
            var flat = Path.Combine(dir.FullName, "flat.png");
            var (code, answer) = Run("", "sheet", "--photo", photo, "--paper", "297x420", "--out", flat);
            Assert.Equal(0, code);
            Assert.Equal(4, answer["corners"]!.AsArray().Count);
            Assert.Equal(0.25, answer["mmPerPixel"]!.GetValue<double>());
            Assert.NotNull(answer["placement"]);
            var line = answer["line"]!;
            Assert.InRange(line["contourMm"]!.GetValue<double>(), 1500, 6000);
            Assert.InRange(line["weightMm"]!.GetValue<double>(), 0.3, 1.5);
            // The hand hatches its shadow side: one line every 3.5 mm across on average, up to the right at 118.8°.
            Assert.InRange(line["hatchSpacingMm"]!.GetValue<double>(), 2.6, 3.5);
            Assert.InRange(line["hatchDirectionDegrees"]!.GetValue<double>(), 118.8 - 8, 118.8 + 8);
            Assert.Empty(answer["cannotTell"]!.AsArray());
            using var read = Photo.Read(File.ReadAllBytes(flat));
            Assert.Equal((1188, 1680), (read.Width, read.Height));
            var (bad, why) = Run("", "sheet", "--photo", photo, "--paper", "297x420", "--corners", "1,2,3");
            Assert.Equal((2, "corners"), (bad, why["field"]!.GetValue<string>()));
        }
        finally
        {
            dir.Delete(true);
        }
    }
}
