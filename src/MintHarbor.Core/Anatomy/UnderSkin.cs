using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>What lies under the skin of a figure in its pose: bones, muscles and the flesh between. Each is made when it is first asked for and kept with
/// the model.</summary>
internal sealed class UnderSkin
{
    private readonly Lazy<AnatomyFrames> frames;
    private readonly Lazy<SurfaceField> skin;
    private readonly Lazy<PosedBones> bones;
    private readonly Lazy<PosedMuscles> muscles;
    private readonly Lazy<(Mesh Mesh, bool[] IsSkin)> core;
    private readonly Lazy<Mesh> shown;

    public PosedBones Bones => bones.Value;
    public PosedMuscles Muscles => muscles.Value;

    /// <summary>The skin sunk by about the thickness of the muscles: what lies between and under them.</summary>
    public Mesh Core => core.Value.Mesh;

    /// <summary>Bones that lie right under the skin, drawn among the muscles.</summary>
    public Mesh ShownBones => shown.Value;

    /// <summary>Where the core is the skin itself: head, hands, feet.</summary>
    public bool IsSkin(int place) => core.Value.IsSkin[place];

    public long Bytes =>
        (bones.IsValueCreated ? Bones.Mesh.Bytes : 0)
        + (muscles.IsValueCreated ? Muscles.Mesh.Bytes + (Muscles.Fibre.LongLength * 12) : 0)
        + (core.IsValueCreated ? Core.Bytes : 0)
        + (shown.IsValueCreated ? shown.Value.Triangles.LongLength * 4 : 0);

    public AnatomyFrames Frames => frames.Value;
    public SurfaceField Skin => skin.Value;

    /// <param name="set">Other bones and muscles than the true ones.</param>
    public UnderSkin(FigureModel model, AnatomySet? set = null)
    {
        frames = new(() => new(model.Skeleton, set));
        // Bones stay inside the body, whatever is worn.
        skin = new(() => new(model.Skeleton, false));
        bones = new(() => new(frames.Value, skin.Value));
        muscles = new(() => new(frames.Value, skin.Value));
        core = new(() => SunkSkin(model));
        shown = new(() => Subcutaneous(Bones));
    }

    private static readonly HashSet<string> BareBones =
    [
        "manubrium",
        "breastbone",
        "clavicle",
        "scapula",
        "humerus",
        "ulna",
        "radius",
        "femur",
        "patella",
        "tibia",
        "fibula",
        "hipbone",
        "sacrum",
    ];

    private static Mesh Subcutaneous(PosedBones b)
    {
        var kept = b.Parts.Select(p => BareBones.Contains(Sides.Stem(p.Id))).ToArray();
        return b.Mesh.Only(form => kept[form]);
    }

    private static float Depth(Form f) =>
        f.Id.StartsWith("achilles", StringComparison.Ordinal) || f.Id.StartsWith("mall", StringComparison.Ordinal)
            ? Thin
            : Sides.Stem(f.GroupId) switch
            {
                "head" or "hand" or "foot" => 0,
                "neck" => 0.85f,
                "fore" => 0.75f,
                "shank" => 0.9f,
                "thigh" => 1.2f,
                _ => 1,
            };

    /// <summary>Depth up to which the core counts as skin.</summary>
    private const float Thin = 0.3f;

    /// <summary>Where muscles of the neck reach up on to the skull its skin gives way too: place on the head, radius, depth.</summary>
    private static readonly (Vector3 At, float Radius, float Depth)[] SkullHollows =
    [
        (new(3.3f, 91.3f, -1.7f), 2.9f, 0.75f),
        (new(1.0f, 91.4f, -5.0f), 3.0f, 0.6f),
    ];

    private static (Mesh, bool[]) SunkSkin(FigureModel model)
    {
        var (mesh, skeleton) = (model.Mesh, model.Skeleton);
        var forms = skeleton.Body.Forms;
        var unit = skeleton.Body.Bones[0].Scale.Y;
        var of = forms.Select(f => Depth(f) * unit).ToArray();
        var own = mesh.Form.Select(f => of[f]).ToArray();
        foreach (var (at, radius, depth) in SkullHollows)
        foreach (var side in Sides.Both)
        {
            var centre = skeleton.World("head", Sides.Place(at, side));
            for (var i = 0; i < own.Length; i++)
            {
                var share = 1 - (Vector3.Distance(mesh.Places[i], centre) / (radius * unit));
                if (share > 0 && !forms[mesh.Form[i]].Id.StartsWith("ear", StringComparison.Ordinal))
                    own[i] = MathF.Max(own[i], depth * unit * MathF.Min(1, 2.2f * share));
            }
        }
        var sunk = (float[])own.Clone();
        for (var round = 0; round < 10; round++)
        {
            var calmed = mesh.Calmed(sunk, 1);
            for (var i = 0; i < sunk.Length; i++)
                sunk[i] = own[i] == 0 ? MathF.Min(sunk[i], calmed[i]) : calmed[i];
        }
        var touching = forms.Select(Touching).ToArray();
        return (
            mesh with
            {
                Places = [.. mesh.Places.Select((p, i) => p - (mesh.Normals[i] * sunk[i]))],
                Triangles =
                [
                    .. mesh.Triangles.Chunk(3).Where(t => !Bridges(t.Select(i => touching[mesh.Form[i]]).ToArray())).SelectMany(t => t),
                ],
            },
            [.. mesh.Form.Select(f => of[f] <= Thin * unit)]
        );
    }

    /// <summary>Forearms and hands rest on the rest of the body, and joined to it their skin would be drawn out between both as threads.</summary>
    private static (string Part, string Arm) Touching(Form f)
    {
        var side = f.GroupId.Length > 2 ? f.GroupId[^2..] : "";
        return Sides.Stem(f.GroupId) switch
        {
            "fore" or "hand" => ("forearm" + side, side),
            "arm" => ("", side),
            _ => ("", ""),
        };
    }

    private static bool Bridges((string Part, string Arm)[] corners) =>
        corners.Any(a => a.Part.Length > 0 && corners.Any(b => b.Part != a.Part && b.Arm != a.Arm));
}
