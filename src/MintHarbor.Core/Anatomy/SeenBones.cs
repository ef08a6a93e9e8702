using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>A bone, or bones that are drawn as one mass, as it lies under the skin from one seat.</summary>
/// <param name="At">Its outline: x, y, x, y … in pixels of the view.</param>
public sealed record SeenBone(string Id, int[] At);

/// <summary>Finds the outlines of bones and of the figure over them.</summary>
internal static class SeenBones
{
    /// <summary>Pixels by which an outline may be simpler than it is.</summary>
    private const float Simpler = 0.9f;

    /// <summary>Bones that are drawn as one: the ribcage and the pelvis by their hull, as an egg and a block.</summary>
    private sealed record Drawn(string Id, string Name, string[] Bones, bool Hull = false);

    private static readonly Drawn[] All =
    [
        new("skull", "the skull", ["cranium", "jaw"]),
        new("ribcage", "the ribcage, as an egg", ["rib", "cartilage", "manubrium", "breastbone"], Hull: true),
        new("pelvis", "the pelvis, as a block", ["hipbone", "sacrum"], Hull: true),
        new("scapula.L", "the shoulder blade", ["scapula"]),
        new("humerus.L", "the upper arm bone", ["humerus"]),
        new("forearm.L", "both bones of the forearm, as one", ["ulna", "radius"]),
        new("femur.L", "the thigh bone", ["femur"]),
        new("tibia.L", "the shin bone", ["tibia"]),
    ];

    /// <summary>The name with its side, as a task says it.</summary>
    public static string NameOf(string id)
    {
        var drawn = All.Single(d => d.Id == id || Sides.Id(d.Id, -1) == id);
        return Sides.Named(drawn.Name, id);
    }

    /// <summary>Outlines of bones, whatever lies before them: the skin is what is looked through.</summary>
    public static IEnumerable<SeenBone> Of(FigureModel model, SeatCamera camera)
    {
        var bones = model.UnderSkin.Bones;
        foreach (var drawn in All)
        foreach (var side in Sides.Of(drawn.Id))
        {
            bool Wanted(int part)
            {
                var id = bones.Parts[part].Id;
                return drawn.Bones.Any(b => id.StartsWith(b, StringComparison.Ordinal))
                    && (side == 0 || id.EndsWith(side < 0 ? ".R" : ".L", StringComparison.Ordinal));
            }
            var mesh = bones.Mesh.Only(Wanted);
            var outline = drawn.Hull ? HullOf(mesh, camera) : Largest(new DepthPicture(camera, [mesh]));
            if (outline.Length >= 6)
                yield return new(Sides.Id(drawn.Id, side), outline);
        }
    }

    /// <summary>The figure's own outline; holes in it, as between arm and trunk, are left out.</summary>
    public static int[] Outline(FigureModel model, SeatCamera camera) => Largest(new DepthPicture(camera, [model.Mesh]));

    private static int[] Largest(DepthPicture depth) =>
        MassView.Loops(depth).MaxBy(l => MassView.Area([l])) is { } loop ? Flat(Curves.Simplify(loop, Simpler)) : [];

    private static int[] HullOf(Mesh mesh, SeatCamera camera) =>
        Flat(
            Curves.Simplify(
                [
                    .. Figure.Hull.Of(
                        mesh.Triangles.Distinct().Select(i => camera.Project(mesh.Places[i])).Select(p => new Vector2(p.X, p.Y))
                    ),
                ],
                Simpler
            )
        );

    private static int[] Flat(IEnumerable<Vector2> places) =>
        [.. places.SelectMany(p => new[] { (int)MathF.Round(p.X), (int)MathF.Round(p.Y) })];
}
