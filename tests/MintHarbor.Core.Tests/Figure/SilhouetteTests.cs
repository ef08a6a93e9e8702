using System.Text.Encodings.Web;
using System.Text.Json;
using MintHarbor.Core.Figure;
using Xunit;

namespace MintHarbor.Core.Tests.Figure;

/// <summary>The shipped silhouettes are those of the studio figure; HARBOR_WRITE_VIEWS=1 draws them anew.</summary>
public class SilhouetteTests
{
    [Fact]
    public void Every_pose_has_its_silhouettes_at_one_scale()
    {
        var studio = new StudioFigure();
        var write = Environment.GetEnvironmentVariable("HARBOR_WRITE_VIEWS") == "1";
        var all = new List<Silhouette>();
        foreach (var (pose, n) in FigureCatalogue.Poses.Select((p, n) => (p, n)))
        {
            foreach (var (clothed, second) in new[] { (false, false), (false, true), (true, false), (true, true) })
            {
                // All are written; a quarter is drawn again at each run, another pose's each.
                if (!write && (n + (clothed ? 2 : 0) + (second ? 1 : 0)) % 4 != 0)
                {
                    Assert.NotNull(Silhouettes.Find(pose.Id, clothed, second));
                    continue;
                }
                var drawn = Silhouette.Of(
                    studio.Model(Silhouette.Seen(second).Body, pose, Drapery.For(clothed, clothed), StudioFigure.Coarse),
                    second
                );
                all.Add(drawn);
                if (write)
                    continue;
                var shipped = Silhouettes.Find(pose.Id, clothed, second)!;
                Assert.True(
                    Math.Abs(shipped.Width - drawn.Width) < 0.6 && Math.Abs(shipped.Height - drawn.Height) < 0.6,
                    $"{pose.Id}: {shipped.Width} × {shipped.Height} shipped, {drawn.Width} × {drawn.Height} drawn"
                );
            }
        }
        if (!write)
        {
            Assert.InRange(Silhouettes.Find("stand", false, false)!.Height, 41, 46);
            Assert.True(Silhouettes.Find("supine", false, false)!.Height < 22);
            return;
        }
        var root = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(root.FullName, "MintHarbor.slnx")))
            root = root.Parent!;
        var format = new JsonSerializerOptions(JsonSerializerDefaults.Web) { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };
        File.WriteAllText(
            Path.Combine(root.FullName, "src/MintHarbor.Core/Data/silhouettes.json"),
            "[\n" + string.Join(",\n", all.Select(s => JsonSerializer.Serialize(s, format))) + "\n]\n"
        );
    }
}
