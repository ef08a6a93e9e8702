using System.Text.Json;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;
using MintHarbor.Media;
using Xunit;

namespace MintHarbor.Core.Tests.Critiques;

/// <summary>Remarks out and in again as Web Annotations: nothing of a remark is lost on the way, and what others write is taken as far as it goes.</summary>
public sealed class WebAnnotationTests
{
    private static readonly Remark Hairy = Remark.FromFault("r1", Faults.Find("hairy-line")!, new Vec2(114.3, 152.4));
    private static readonly Remark Own = new(
        "r2",
        Family.Proportion,
        "left hand",
        "it reads well",
        "",
        "",
        null,
        null,
        null,
        null,
        null,
        true
    );

    private static string Written => WebAnnotations.Write("http://x/1", "http://x/1/flat", [Hairy, Own], 457.2, 609.6);

    private static IReadOnlyList<Remark> Read(string json) => WebAnnotations.Read(json, 457.2, 609.6, Faults.Find);

    [Fact]
    public void What_goes_out_comes_in_again()
    {
        var read = Read(Written);
        Assert.Equal(2, read.Count);
        var hairy = read[0];
        Assert.Equal(
            (Hairy.Family, Hairy.Where, Hairy.What, Hairy.Why, Hairy.Next, Hairy.Drill, Hairy.FaultId),
            (hairy.Family, hairy.Where, hairy.What, hairy.Why, hairy.Next, hairy.Drill, hairy.FaultId)
        );
        Assert.Equal(Hairy.Spot!.Value.X, hairy.Spot!.Value.X, 0.1);
        Assert.Equal(Hairy.Spot.Value.Y, hairy.Spot.Value.Y, 0.1);
        Assert.Equal((Own.What, Own.Where, true, null), (read[1].What, read[1].Where, read[1].Holds, read[1].Spot));
    }

    /// <summary>Required properties of the W3C recommendation of 2017: the context, a type, one target at least, and the purposes of its own list.</summary>
    [Fact]
    public void It_is_written_as_the_recommendation_asks()
    {
        using var d = JsonDocument.Parse(Written);
        Assert.Equal("http://www.w3.org/ns/anno.jsonld", d.RootElement.GetProperty("@context").GetString());
        Assert.Equal("AnnotationPage", d.RootElement.GetProperty("type").GetString());
        string[] motivations =
        [
            "assessing",
            "bookmarking",
            "classifying",
            "commenting",
            "describing",
            "editing",
            "highlighting",
            "identifying",
            "linking",
            "moderating",
            "questioning",
            "replying",
            "tagging",
        ];
        foreach (var item in d.RootElement.GetProperty("items").EnumerateArray())
        {
            Assert.Equal("Annotation", item.GetProperty("type").GetString());
            Assert.True(item.TryGetProperty("target", out _));
            Assert.Contains(item.GetProperty("motivation").GetString(), motivations);
            Assert.All(item.GetProperty("body").EnumerateArray(), b =>
            {
                Assert.Equal("TextualBody", b.GetProperty("type").GetString());
                Assert.Contains(b.GetProperty("purpose").GetString(), motivations);
            });
        }
        // The middle of the fragment is the place: a quarter of the width, a quarter of the height.
        Assert.Contains("xywh=percent:24,24,2,2", Written);
    }

    [Fact]
    public void What_others_write_is_taken_as_far_as_it_goes()
    {
        var plain = Read(
            """{"@context":"http://www.w3.org/ns/anno.jsonld","type":"Annotation","body":"too long","target":"http://x/1/flat#xywh=percent:48,48,4,4"}"""
        );
        Assert.Equal("too long", plain.Single().What);
        Assert.Equal(new Vec2(228.6, 304.8), plain.Single().Spot!.Value);
        var tagged = Read("""[{"type":"Annotation","body":[{"purpose":"tagging","value":"no such fault"}],"target":"x"}]""");
        Assert.Equal(("no such fault", null), (tagged.Single().What, tagged.Single().FaultId));
    }

    [Theory]
    [InlineData("no json", "no JSON")]
    [InlineData("{}", "no annotations")]
    [InlineData("[]", "0 annotations")]
    [InlineData("""[{"type":"Annotation","target":"x"}]""", "number 1 is no annotation")]
    [InlineData("""[{"type":"Annotation","body":"a","target":"x#xywh=percent:120,0,2,2"}]""", "off the picture")]
    [InlineData("""[{"type":"Annotation","body":"a","target":"x#xywh=percent:a,b"}]""", "number 1 is no annotation")]
    [InlineData("""[7]""", "number 1 is no annotation")]
    public void What_is_none_says_so(string json, string says) =>
        Assert.Contains(says, Assert.Throws<InputException>(() => Read(json)).Message);
}
