using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Simulation;
using Xunit;

namespace MintHarbor.Core.Tests.Simulation;

/// <summary>What is drawn once and committed is what the studio figure and head draw now. Where one of these fails, ./harbor data draws it again.</summary>
public class ShippedDataTests
{
    /// <summary>On a coarse mesh, which is quick; its landmarks lie within a third of a pixel of the fine one's.</summary>
    [Fact]
    public void The_views_of_the_figure_are_the_figures()
    {
        var studio = new StudioFigure();
        foreach (var plan in ShippedData.FigureViews)
        {
            var shipped = StudioViews.Get(plan.Id);
            Assert.Equal(
                (plan.Pose, plan.Body, plan.Clothed, plan.Azimuth),
                (shipped.Pose, shipped.Body, shipped.Clothed, shipped.Azimuth)
            );
            var drawn = ShippedData.Draw(plan, studio, FigureViewKind.Mass, StudioFigure.Coarse);
            Assert.Equal((drawn.Width, drawn.Height), (shipped.Width, shipped.Height));
            // The frame is fitted to the mesh, whose toes and fingertips hang on its step: a pixel of a pose that fills it is 3 mm.
            foreach (var (id, l) in drawn.Landmarks)
                Assert.True((l.At - shipped.At(id)!.Value).Length < 1.6, $"{plan.Id}: {id} at {l.At}, shipped at {shipped.At(id)}");
            Assert.Equal(plan.Stroked, shipped.Strokes is { Count: > 20 });
        }
    }

    /// <summary>Found on the field and not on the mesh, they don't hang on its steps.</summary>
    [Fact]
    public void The_views_of_the_head_are_the_heads()
    {
        var studio = new StudioHead(StudioHead.Coarse);
        foreach (var plan in ShippedData.HeadViews)
        {
            var shipped = StudioViews.Get(plan.Id);
            Assert.True(shipped.IsHead && shipped.Line.Length > 4000);
            Assert.Equal(plan.Turn, shipped.Azimuth);
            foreach (var (id, l) in StudioHead.View(studio.Model(plan.Sitter), plan.Pose, FigureViewKind.Mass).Landmarks)
                Assert.True((l.At - shipped.At(id)!.Value).Length < 0.05, $"{plan.Id}: {id}");
        }
    }

    /// <summary>A quarter is drawn again, another pose's each.</summary>
    [Fact]
    public void The_silhouettes_are_the_figures()
    {
        var studio = new StudioFigure();
        foreach (var (pose, n) in FigureCatalogue.Poses.Select((p, n) => (p, n)))
        {
            foreach (var (clothed, second) in new[] { (false, false), (false, true), (true, false), (true, true) })
            {
                var shipped = Silhouettes.Find(pose.Id, clothed, second);
                Assert.NotNull(shipped);
                if ((n + (clothed ? 2 : 0) + (second ? 1 : 0)) % 4 != 0)
                    continue;
                var model = studio.Model(Silhouette.Seen(second).Body, pose, Drapery.For(clothed, clothed), StudioFigure.Coarse);
                var drawn = Silhouette.Of(model, second);
                Assert.True(
                    Math.Abs(shipped.Width - drawn.Width) < 0.6 && Math.Abs(shipped.Height - drawn.Height) < 0.6,
                    $"{pose.Id}: {shipped.Width} × {shipped.Height} shipped, {drawn.Width} × {drawn.Height} drawn"
                );
            }
        }
        Assert.InRange(Silhouettes.Find("stand", false, false)!.Height, 41, 46);
        Assert.True(Silhouettes.Find("supine", false, false)!.Height < 22);
    }

    [Fact]
    public void The_schemas_are_those_of_the_types_that_read_the_files_and_no_other_view_is_shipped()
    {
        foreach (var (name, text) in ShippedData.Schemas())
            Assert.Equal(text, File.ReadAllText(Checkout.Path($"docs/formats/{name}.schema.json")));
        Assert.Equal(
            ShippedData
                .FigureViews.Select(v => v.Id)
                .Concat(ShippedData.HeadViews.Select(v => v.Id))
                .Concat(ShippedData.ThingViews.Select(v => v.Id))
                .Order(),
            StudioViews.All.Select(v => v.Id).Order()
        );
    }

    [Fact]
    public void The_cloth_at_rest_is_the_cloth_that_falls() =>
        Assert.Equal(ClothFall.Rest().SelectMany(r => r), CoreData.Read<int[][]>("objects/cloth").SelectMany(r => r));
}
