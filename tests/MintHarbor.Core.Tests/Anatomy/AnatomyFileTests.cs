using System.Text.Json.Nodes;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using Xunit;

namespace MintHarbor.Core.Tests.Anatomy;

public class AnatomyFileTests
{
    private static FigureFileException Bones(Action<JsonNode> change)
    {
        var json = JsonNode.Parse(FigureFile.Resource("anatomy/bones"))!;
        change(json);
        return Assert.Throws<FigureFileException>(() => BoneTables.Read("bones.json", json.ToJsonString(), FigureCatalogue.Tables));
    }

    private static FigureFileException Muscles(Action<JsonNode> change)
    {
        var json = JsonNode.Parse(FigureFile.Resource("anatomy/muscles"))!;
        change(json);
        return Assert.Throws<FigureFileException>(() => MuscleTables.Read("muscles.json", json.ToJsonString(), FigureCatalogue.Tables));
    }

    [Fact]
    public void What_ships_is_read_and_every_part_has_both_names()
    {
        Assert.Equal(19, AnatomyCatalogue.Bones.Pieces.Length);
        Assert.Equal(50, AnatomyCatalogue.Muscles.Muscles.Length);
        var names = AnatomyCatalogue
            .Bones.Pieces.Select(p => (p.Id, p.Name, p.Latin))
            .Concat(AnatomyCatalogue.Bones.Rays.Select(r => (r.Id, r.Name, r.Latin)))
            .Concat(AnatomyCatalogue.Muscles.Muscles.Select(m => (m.Id, m.Name, m.Latin)))
            .ToList();
        Assert.All(names, n => Assert.False(string.IsNullOrWhiteSpace(n.Name) || string.IsNullOrWhiteSpace(n.Latin), n.Id));
        Assert.Equal(names.Count, names.Select(n => n.Id).Distinct().Count());
    }

    [Fact]
    public void What_is_wrong_in_a_table_is_named()
    {
        Assert.Contains("no bone 'wing'", Bones(b => b["pieces"]![0]!["on"] = "wing").Message, StringComparison.Ordinal);
        Assert.Equal("pieces.cranium.parts[0].shape", Bones(b => b["pieces"]![0]!["parts"]![0]!["shape"] = "cube").Key);
        Assert.Equal("pieces.cranium.parts[0].blend", Bones(b => b["pieces"]![0]!["parts"]![0]!["blend"] = -1).Key);
        Assert.Equal("pieces.cranium.step", Bones(b => b["pieces"]![0]!["step"] = 0.01).Key);
        Assert.Equal("rays.mc1.L.radii", Bones(b => b["rays"]![0]!["radii"] = new JsonArray(0.4, 0.3)).Key);
        Assert.Contains("no bone 'wing'", Muscles(m => m["muscles"]![0]!["rows"]![0]![0] = "wing 70 20").Message, StringComparison.Ordinal);
        Assert.Contains(
            "bone height degrees",
            Muscles(m => m["muscles"]![0]!["rows"]![0]![0] = "thorax here").Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "'high' is not a number",
            Muscles(m => m["muscles"]![0]!["rows"]![0]![0] = "thorax high 20").Message,
            StringComparison.Ordinal
        );
        Assert.Equal("muscles.scm.rows", Muscles(m => m["muscles"]![0]!["rows"]![0] = new JsonArray("thorax 70 20")).Key);
        Assert.Equal("muscles.scm.tendon", Muscles(m => m["muscles"]![0]!["tendon"] = new JsonArray(2, 0)).Key);
    }
}
