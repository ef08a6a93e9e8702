using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Fitting;

/// <summary>Which part of <see cref="PartTree.Figure"/> the places and landmarks of a posed figure belong to.</summary>
internal static class FigureParts
{
    private static readonly PartTree Tree = PartTree.Figure;

    /// <summary>Bones at a part's two ends; the far end of some is a landmark.</summary>
    private static readonly (string Part, string From, string To)[] Bones =
    [
        ("upper-arm", "arm", "fore"),
        ("forearm", "fore", "hand"),
        (PartTree.Hand, "hand", "fingertip"),
        ("thigh", "hip", "knee"),
        ("shank", "knee", "foot"),
        (PartTree.Foot, "foot", "toe"),
    ];

    /// <summary>How far towards the thorax the pelvis goes up along the loin.</summary>
    private const float Waist = 0.8f;

    /// <summary>By place of the mesh.</summary>
    public static int[] OfPlaces(FigureModel model)
    {
        var (mesh, forms) = (model.Mesh, model.Skeleton.Body.Forms);
        var axes = Solid(model);
        var parts = new int[mesh.Places.Length];
        Alone.For(0, (parts.Length + 4095) / 4096, block =>
        {
            for (var i = block * 4096; i < Math.Min(parts.Length, (block + 1) * 4096); i++)
                parts[i] = Of(mesh.Form[i] < 0 ? "" : forms[mesh.Form[i]].GroupId, mesh.Places[i], axes);
        });
        return parts;
    }

    private static int Of(string group, Vector3 p, (Vector3 From, Vector3 To)[] axes)
    {
        var side = group.Contains(".R", StringComparison.Ordinal) ? ".R" : ".L";
        return Sides.Stem(group) switch
        {
            "head" => Tree.Index(PartTree.Head),
            "neck" => Tree.Index(PartTree.Neck),
            "arm" => Tree.Index("upper-arm" + side),
            "fore" => Tree.Index("forearm" + side),
            "hand" => Tree.Index(PartTree.Hand + side),
            "thigh" => Tree.Index("thigh" + side),
            "shank" => Tree.Index("shank" + side),
            "foot" => Tree.Index(PartTree.Foot + side),
            "glute" => Tree.Index(PartTree.Pelvis),
            // Cloth hangs on what is under it.
            "" => Enumerable.Range(0, axes.Length).MinBy(i => Distance(p, axes[i], out _)),
            _ => OfTrunk(p, axes),
        };
    }

    /// <summary>The trunk's forms reach into shoulder and hip: what lies along a limb's bone is the limb's.</summary>
    private static int OfTrunk(Vector3 p, (Vector3 From, Vector3 To)[] axes)
    {
        foreach (var (limb, from, reach) in new[] { ("upper-arm", 0.02f, 4.6f), ("thigh", 0.25f, 9f) })
        {
            foreach (var side in new[] { ".L", ".R" })
            {
                var i = Tree.Index(limb + side);
                if (Distance(p, axes[i], out var along) < reach && along > from && along < 1.1f)
                    return i;
            }
        }
        Distance(p, axes[Tree.Index(PartTree.Pelvis)], out var up);
        if (up < 1)
            return Tree.Index(PartTree.Pelvis);
        Distance(p, axes[Tree.Index(PartTree.Thorax)], out up);
        return Tree.Index(up > 1.02f ? PartTree.Neck : PartTree.Thorax);
    }

    /// <param name="along">How far along the axis, 0 at its start and 1 at its end, beyond both too.</param>
    private static float Distance(Vector3 p, (Vector3 From, Vector3 To) axis, out float along)
    {
        var d = axis.To - axis.From;
        along = Vector3.Dot(p - axis.From, d) / MathF.Max(1e-6f, d.LengthSquared());
        return Vector3.Distance(p, axis.From + (d * Math.Clamp(along, 0, 1)));
    }

    private static (Vector3 From, Vector3 To)[] Solid(FigureModel model)
    {
        var s = model.Skeleton;
        Vector3 Bone(string id) => s.Joint[s.Body.BoneIndex(id)];
        Vector3 End(string id) => s.Body.HasBone(id) ? Bone(id) : model.Landmark(id).Place;
        var loin = Vector3.Lerp(Bone("lumbar"), Bone("thorax"), Waist);
        var axes = new (Vector3, Vector3)[Tree.Parts.Count];
        axes[Tree.Index(PartTree.Pelvis)] = (Bone("pelvis"), loin);
        axes[Tree.Index(PartTree.Thorax)] = (loin, Bone("neck"));
        axes[Tree.Index(PartTree.Neck)] = (Bone("neck"), Bone("head"));
        axes[Tree.Index(PartTree.Head)] = (Bone("head"), model.Landmark("crown").Place);
        foreach (var (part, from, to) in Bones)
        foreach (var side in new[] { ".L", ".R" })
            axes[Tree.Index(part + side)] = (Bone(from + side), End(to + side));
        return axes;
    }

    /// <summary>Where parts hang and end, in the picture.</summary>
    public static (Vector2[] Joint, Vector2[] End) Axes(FigureModel model, Func<Vector3, Vector2> project)
    {
        var axes = Solid(model);
        return ([.. axes.Select(a => project(a.From))], [.. axes.Select(a => project(a.To))]);
    }

    public static int OfLandmark(FigureModel model, string id)
    {
        var body = model.Skeleton.Body;
        var bone = body.Bones[body.Landmarks.First(l => l.Id == id).Bone].Id;
        var side = id.EndsWith(".R", StringComparison.Ordinal) ? ".R" : ".L";
        return Sides.Stem(bone) switch
        {
            "pelvis" or "lumbar" => Tree.Index(PartTree.Pelvis),
            "thorax" => Tree.Index(PartTree.Thorax),
            "neck" => Tree.Index(PartTree.Neck),
            "head" => Tree.Index(PartTree.Head),
            // The point of the shoulder goes where the arm's own lines go.
            "clav" or "arm" => Tree.Index("upper-arm" + side),
            "fore" => Tree.Index("forearm" + side),
            "hip" => Tree.Index("thigh" + side),
            "knee" => Tree.Index("shank" + side),
            "foot" or "toe" => Tree.Index(PartTree.Foot + side),
            _ => Tree.Index(PartTree.Hand + side),
        };
    }
}
