using System.Numerics;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Objects;

/// <summary>Bones of the studio figure, or a cast of its skin, as a thing that lies on its lowest place: one surface, without an edge to be found but
/// where it turns away.</summary>
public sealed record BonePart : PartRow
{
    /// <summary>Beginnings of the bones' names: "cranium", "mc"; empty for a cast of the skin.</summary>
    public IReadOnlyList<string> Bones { get; init; } = [];

    /// <summary>Groups of the skin that are cast: "head".</summary>
    public IReadOnlyList<string> Cast { get; init; } = [];

    /// <summary>"L": the figure's left of them alone; null for both.</summary>
    public string? Side { get; init; }

    /// <summary>Lies on the ground whatever its turn.</summary>
    public bool Lies { get; init; } = true;

    private const string Body = "male";

    private static readonly Lazy<FigureModel> Still = new(() =>
        new(FigureCatalogue.Body(Body), FigureCatalogue.Pose("stand"), clothed: false, StudioFigure.Fine)
    );

    internal override void Build(PartSite site)
    {
        var (mesh, wanted) = Bones.Count > 0 ? OfBones() : OfSkin();
        var triangles = mesh.Only(wanted).Triangles;
        var used = triangles.Distinct().Order().ToArray();
        var unit = FigureCatalogue.Body(Body).CentimetresPerUnit / 100;
        Vector3 low = used.Select(i => mesh.Places[i]).Aggregate(Vector3.Min),
            high = used.Select(i => mesh.Places[i]).Aggregate(Vector3.Max);
        var middle = (low + high) / 2;
        Point3 Own(Vector3 v) => new(v.X, v.Y, v.Z);
        var f = site.Frame;
        var places = used.Select(i => f.Place(Own((mesh.Places[i] - middle) * unit))).ToArray();
        var drop = Lies ? places.Min(p => p.Y) : 0;
        var number = new Dictionary<int, int>(used.Length);
        for (var k = 0; k < used.Length; k++)
            number[used[k]] = site.Mesh.Add(places[k] with { Y = places[k].Y - drop }, f.Turn(Own(mesh.Normals[used[k]])));
        for (var i = 0; i < triangles.Length; i += 3)
            site.Mesh.Triangle(number[triangles[i]], number[triangles[i + 1]], number[triangles[i + 2]]);
    }

    private (Mesh, Func<int, bool>) OfBones()
    {
        var bones = Still.Value.UnderSkin.Bones;
        bool Wanted(string id) =>
            Bones.Any(b => id.StartsWith(b, StringComparison.Ordinal))
            && (Side is null || id.EndsWith('.' + Side, StringComparison.Ordinal));
        return (bones.Mesh, n => Wanted(bones.Parts[n].Id));
    }

    private (Mesh, Func<int, bool>) OfSkin()
    {
        var forms = FigureCatalogue.Body(Body).Forms;
        return (Still.Value.Mesh, n => n >= 0 && Cast.Contains(forms[n].GroupId));
    }
}
