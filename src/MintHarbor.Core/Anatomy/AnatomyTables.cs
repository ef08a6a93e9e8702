using System.Globalization;
using System.Numerics;
using System.Text.Json;
using System.Text.Json.Serialization;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>One part of a bone's distance field, rest places. Which fields count depends on the shape: ellipsoid (at, radii, turn), cone (at, radius, to,
/// toRadius), plate (three corners, radius its half thickness), bow (a path of [x, y, z, radius]), sheet (plates between two rims of the same
/// number of places).</summary>
/// <param name="Carve">Cut out of what stands before it.</param>
public sealed record BonePartRow(
    string Shape,
    float Blend,
    Vector3? At = null,
    Vector3? To = null,
    float Radius = 0,
    float ToRadius = 0,
    Vector3? Radii = null,
    Vector3? Turn = null,
    Vector3[]? Corners = null,
    float[][]? Path = null,
    Vector3[]? Rim = null,
    Vector3[]? OtherRim = null,
    bool Carve = false
);

/// <param name="On">The bone of the skeleton it moves with, or <c>scap.L</c>, <c>clavi.L</c>: frames of the shoulder girdle.</param>
/// <param name="Step">Size of a cell of its mesh, units.</param>
/// <param name="With">It keeps its distance from this joint and shares its turn (the kneecap).</param>
/// <param name="Twist">Its end on the forearm and its end that turns with the palm: the bone stays straight between them.</param>
public sealed record BonePieceRow(
    string Id,
    string Name,
    string Latin,
    string On,
    float Step,
    BonePartRow[] Parts,
    string? With = null,
    Vector3[]? Twist = null
);

/// <summary>A tube between two bones, waisted: bones of hand and foot.</summary>
/// <param name="Radii">At its start, middle and end, units.</param>
public sealed record BoneRayRow(string Id, string Name, string Latin, PlaceOnBone From, PlaceOnBone To, float[] Radii);

/// <summary>The ribcage at a height: half breadth, z of its front and back, z where it is widest.</summary>
public sealed record CageSection(float Y, float Breadth, float Front, float Back, float Widest);

/// <summary>A rib from its height behind to its height in front, and how far round it goes, degrees from the back.</summary>
/// <param name="Sternum">Height at which its cartilage meets the breastbone; null where it doesn't.</param>
public sealed record RibRow(float From, float To, float End, float? Sternum = null);

public sealed record CageRow(CageSection[] Sections, RibRow[] Ribs, Vector3[] Arch);

/// <summary>The vertebrae of a region along the spine's curve, of one shape.</summary>
/// <param name="Offset">How far into its share of the region a vertebra sits, 0 to 1.</param>
public sealed record SpineRegion(
    string Id,
    string Name,
    string Latin,
    int Count,
    float From,
    float To,
    float Offset,
    float Step,
    BonePartRow[] Parts
);

public sealed record SpineRow(PlaceOnBone[] Path, SpineRegion[] Regions);

/// <summary>A place of a muscle's edge. With <paramref name="Degrees"/> it lies on the rest skin at a height, round the bone's axis (0 in front, 90 to the
/// figure's left); else <paramref name="At"/> is the rest place itself.</summary>
[JsonConverter(typeof(MusclePlaceAsText))]
public readonly record struct MusclePlace(string Bone, Vector3 At, float? Degrees);

/// <param name="Thick">How much deeper than the belly the edges lie, units.</param>
/// <param name="Cover">How deep the belly lies under the skin, units.</param>
/// <param name="Tendon">Share of its length that is tendon, at origin and insertion.</param>
/// <param name="Flat">A sheet: it tapers at its edges only.</param>
/// <param name="Bands">Where tendon crosses the belly, shares of its length.</param>
/// <param name="Rows">From origin to insertion; two or three places across.</param>
public sealed record MuscleRow(
    string Id,
    string Name,
    string Latin,
    float Thick,
    float Cover,
    float[] Tendon,
    MusclePlace[][] Rows,
    bool Flat = false,
    float[]? Bands = null
);

/// <summary>Bones as data.</summary>
public sealed record BoneTables(string About, BonePieceRow[] Pieces, BoneRayRow[] Rays, CageRow Ribcage, SpineRow Spine)
{
    /// <summary>Reads and checks a table of bones against the figure's skeleton.</summary>
    /// <exception cref="FigureFileException">Anything wrong, with the file and the line or key.</exception>
    public static BoneTables Read(string file, string json, FigureTables figure)
    {
        var t = FigureFile.Parse<BoneTables>(file, json);
        var bones = AnatomyFile.Frames(figure);
        void Bone(string key, string id) => AnatomyFile.CheckBone(file, key, id, bones);
        foreach (var p in t.Pieces)
        {
            Bone($"pieces.{p.Id}.on", p.On);
            if (p.With is { } with)
                Bone($"pieces.{p.Id}.with", with);
            if (p.Twist is { Length: not 2 })
                throw new FigureFileException(file, $"pieces.{p.Id}.twist", "two places: the end on the forearm and the end at the hand");
            CheckMesh(file, $"pieces.{p.Id}", p.Step, p.Parts);
        }
        foreach (var r in t.Rays)
        {
            Bone($"rays.{r.Id}.from.bone", r.From.Bone);
            Bone($"rays.{r.Id}.to.bone", r.To.Bone);
            if (r.Radii is not { Length: 3 } || r.Radii.Any(x => x <= 0))
                throw new FigureFileException(file, $"rays.{r.Id}.radii", "three radii above 0: start, middle, end");
        }
        foreach (var p in t.Spine.Path)
            Bone("spine.path.bone", p.Bone);
        foreach (var r in t.Spine.Regions)
            CheckMesh(file, $"spine.regions.{r.Id}", r.Step, r.Parts);
        if (t.Ribcage.Sections.Zip(t.Ribcage.Sections.Skip(1)).Any(s => s.Second.Y >= s.First.Y))
            throw new FigureFileException(file, "ribcage.sections", "from the top downwards");
        return t;
    }

    private static void CheckMesh(string file, string key, float step, BonePartRow[] parts)
    {
        if (step is < 0.1f or > 1)
            throw new FigureFileException(file, $"{key}.step", "0.1 to 1 unit");
        for (var i = 0; i < parts.Length; i++)
        {
            var p = parts[i];
            if (p.Blend < 0)
                throw new FigureFileException(file, $"{key}.parts[{i}].blend", "must not be below 0");
            var missing = p.Shape switch
            {
                "ellipsoid" => p.At is null ? "at"
                : p.Radii is null ? "radii"
                : null,
                "cone" => p.At is null ? "at"
                : p.To is null ? "to"
                : null,
                "plate" => p.Corners is { Length: 3 } ? null : "corners",
                "bow" => p.Path is { Length: >= 2 } path && path.All(x => x.Length == 4) ? null : "path",
                "sheet" => p.Rim is not { Length: >= 2 } ? "rim"
                : p.OtherRim?.Length != p.Rim.Length ? "otherRim"
                : null,
                _ => throw new FigureFileException(
                    file,
                    $"{key}.parts[{i}].shape",
                    $"'{p.Shape}' is no shape; one of ellipsoid, cone, plate, bow, sheet"
                ),
            };
            if (missing is not null)
                throw new FigureFileException(file, $"{key}.parts[{i}].{missing}", $"a {p.Shape} needs it");
        }
    }
}

/// <summary>Muscles as data: the left side.</summary>
public sealed record MuscleTables(string About, MuscleRow[] Muscles)
{
    /// <summary>Reads and checks a table of muscles against the figure's skeleton.</summary>
    /// <exception cref="FigureFileException">Anything wrong, with the file and the line or key.</exception>
    public static MuscleTables Read(string file, string json, FigureTables figure)
    {
        var t = FigureFile.Parse<MuscleTables>(file, json);
        var bones = AnatomyFile.Frames(figure);
        foreach (var m in t.Muscles)
        {
            var key = $"muscles.{m.Id}";
            if (m.Rows.Length < 2)
                throw new FigureFileException(file, $"{key}.rows", "at least two rows: origin and insertion");
            if (m.Rows.Any(r => r.Length is not (2 or 3)))
                throw new FigureFileException(file, $"{key}.rows", "two or three places in every row");
            if (m.Tendon is not { Length: 2 } || m.Tendon.Any(x => x is < 0 or > 1))
                throw new FigureFileException(file, $"{key}.tendon", "two shares of its length, 0 to 1");
            if (m.Thick <= 0 || m.Cover < 0)
                throw new FigureFileException(file, $"{key}.thick", "above 0, and a cover not below 0");
            foreach (var p in m.Rows.SelectMany(r => r))
                AnatomyFile.CheckBone(file, $"{key}.rows", p.Bone, bones);
        }
        return t;
    }
}

internal static class AnatomyFile
{
    /// <summary>Every frame that a part may lie on: the skeleton's left and middle, and both of the shoulder girdle.</summary>
    public static HashSet<string> Frames(FigureTables figure) =>
        [.. figure.Bones.Select(b => b.Id), ShoulderGirdle.Blade, ShoulderGirdle.Collarbone];

    public static void CheckBone(string file, string key, string id, HashSet<string> bones)
    {
        if (!bones.Contains(id))
            throw new FigureFileException(file, key, $"there is no bone '{id}'; the bones are {string.Join(", ", bones)}");
    }
}

internal sealed class MusclePlaceAsText : JsonConverter<MusclePlace>
{
    private const string Accepted = "a place is 'bone height degrees' or 'bone x y z'";

    public override MusclePlace Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options)
    {
        var words = reader.TokenType == JsonTokenType.String ? reader.GetString()!.Split(' ') : [];
        if (words.Length is not (3 or 4))
            throw new JsonException(Accepted);
        var n = words
            .Skip(1)
            .Select(w =>
                float.TryParse(w, NumberStyles.Float, CultureInfo.InvariantCulture, out var v) && float.IsFinite(v)
                    ? v
                    : throw new JsonException($"'{w}' is not a number; {Accepted}")
            )
            .ToArray();
        return n.Length == 2 ? new(words[0], new(0, n[0], 0), n[1]) : new(words[0], new(n[0], n[1], n[2]), null);
    }

    public override void Write(Utf8JsonWriter writer, MusclePlace value, JsonSerializerOptions options) =>
        writer.WriteStringValue(
            value.Degrees is { } d
                ? FormattableString.Invariant($"{value.Bone} {value.At.Y} {d}")
                : FormattableString.Invariant($"{value.Bone} {value.At.X} {value.At.Y} {value.At.Z}")
        );
}

/// <summary>The anatomy that ships with the core, read and checked once.</summary>
public static class AnatomyCatalogue
{
    private static readonly Lazy<BoneTables> LazyBones = new(() =>
        BoneTables.Read("anatomy/bones.json", FigureFile.Resource("anatomy/bones"), FigureCatalogue.Tables)
    );
    private static readonly Lazy<MuscleTables> LazyMuscles = new(() =>
        MuscleTables.Read("anatomy/muscles.json", FigureFile.Resource("anatomy/muscles"), FigureCatalogue.Tables)
    );

    public static BoneTables Bones => LazyBones.Value;
    public static MuscleTables Muscles => LazyMuscles.Value;
}

/// <summary>What parts are called, for drills: whole bones and muscles, without their side.</summary>
public static class AnatomyParts
{
    private static readonly Lazy<Dictionary<string, string>> Bones = new(() =>
        AnatomyCatalogue.Bones.Pieces.DistinctBy(p => Sides.Stem(p.Id)).ToDictionary(p => Sides.Stem(p.Id), p => $"{p.Name} ({p.Latin})")
    );
    private static readonly Lazy<Dictionary<string, string>> Muscles = new(() =>
        AnatomyCatalogue.Muscles.Muscles.ToDictionary(m => m.Id, m => $"{m.Name} ({m.Latin})")
    );

    /// <summary>In English, and in the anatomist's Latin.</summary>
    /// <param name="id">With or without its side.</param>
    public static string Name(string id) => Bones.Value.TryGetValue(Sides.Stem(id), out var bone) ? bone : Muscles.Value[Sides.Stem(id)];

    /// <summary>Whether it is a whole bone: bones of hand and foot, ribs and vertebrae are many of a kind.</summary>
    public static bool IsBone(string id) => Bones.Value.ContainsKey(Sides.Stem(id));

    public static bool IsMuscle(string id) => Muscles.Value.ContainsKey(Sides.Stem(id));
}
