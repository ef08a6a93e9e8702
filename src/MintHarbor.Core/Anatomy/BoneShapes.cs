using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>What a part is called.</summary>
/// <param name="Id">As in the tables; ends .L or .R where there are two.</param>
/// <param name="Name">In plain words.</param>
/// <param name="Latin">As anatomists call it.</param>
public sealed record AnatomyPart(string Id, string Name, string Latin);

/// <summary>A bone at rest.</summary>
internal sealed record RestBone(
    AnatomyPart Part,
    string On,
    Mesh Mesh,
    bool Cartilage = false,
    string? With = null,
    Vector3[]? Twist = null
);

/// <summary>All bones at rest, meshed once per process when they are first asked for; a pose only moves their vertices.</summary>
internal static class BoneShapes
{
    private static readonly Lazy<Ribcage> LazyCage = new(() => new(AnatomyCatalogue.Bones.Ribcage));
    private static readonly Lazy<RestBone[]> LazyPieces = new(() => [.. Pieces()]);
    private static readonly Lazy<Dictionary<string, Mesh>> LazyVertebrae = new(() =>
        AnatomyCatalogue.Bones.Spine.Regions.ToDictionary(r => r.Id, r => BoneMesher.Build(new(r.Parts), r.Step))
    );

    public static Ribcage Cage => LazyCage.Value;

    /// <summary>Pieces, ribs and cartilages of both sides.</summary>
    public static IReadOnlyList<RestBone> All => LazyPieces.Value;

    /// <summary>The vertebra of a region, about its own middle.</summary>
    public static Mesh Vertebra(string region) => LazyVertebrae.Value[region];

    private static IEnumerable<RestBone> Pieces()
    {
        var rows = AnatomyCatalogue.Bones.Pieces;
        var meshes = new Mesh[rows.Length];
        Parallel.For(0, rows.Length, i => meshes[i] = BoneMesher.Build(new(rows[i].Parts), rows[i].Step));
        foreach (var (row, mesh) in rows.Zip(meshes))
        foreach (var side in Sides.Of(row.Id))
            yield return new(
                new(Sides.Id(row.Id, side), row.Name, row.Latin),
                Sides.Id(row.On, side),
                side < 0 ? BoneMesher.Mirrored(mesh) : mesh,
                With: row.With is { } with ? Sides.Id(with, side) : null,
                Twist: row.Twist is { } twist ? [.. twist.Select(t => Sides.Place(t, side))] : null
            );
        foreach (var (id, name, latin, mesh, cartilage) in Cage.Parts())
        {
            yield return new(new(id + ".L", name, latin), "thorax", mesh, cartilage);
            yield return new(new(id + ".R", name, latin), "thorax", BoneMesher.Mirrored(mesh), cartilage);
        }
    }
}
