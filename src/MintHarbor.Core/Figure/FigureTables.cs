using System.Numerics;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using MintHarbor.Core.Anatomy;

namespace MintHarbor.Core.Figure;

/// <summary>One angle of a joint: turned about a rest axis; on the figure's right the sign may be the other.</summary>
public sealed record JointAngle(string Angle, string Axis, int Sign, bool RightNegates);

/// <param name="Follows">A bone of the same kind whose angles this one takes: poses, limits and the editor don't name it.</param>
/// <param name="Times">By how much those angles are multiplied.</param>
public sealed record BoneRow(string Id, string Parent, Vector3 At, string Kind, string Region, string? Follows = null, float Times = 1);

/// <param name="Carve">The group is cut out of the one it joins instead of being added.</param>
/// <param name="From">The accumulator that is joined, where it isn't named as the group itself.</param>
/// <param name="BlendNear">Blend at <paramref name="Near"/>, falling to <paramref name="Blend"/> at <paramref name="Radius"/>.</param>
public sealed record GroupRow(
    string Id,
    string? Join = null,
    string? From = null,
    bool Carve = false,
    float Blend = 0,
    float? BlendNear = null,
    PlaceOnBone? Near = null,
    float Radius = 0
);

public sealed record PlaceOnBone(string Bone, Vector3 At);

/// <summary>One form of the surface. Which fields count depends on its shape: ellipsoid (at, radii, turn), cone (at, to, radius,
/// toRadius), loft (at, to, sections, caps), sweep (path, sections, caps).</summary>
/// <param name="Fine">Small, as a finger or a lid: the surface near it is cut into cells of half the size.</param>
public sealed record FormRow(
    string Id,
    string Group,
    string Shape,
    string Bone,
    float Blend,
    Vector3? At = null,
    Vector3? To = null,
    string? ToBone = null,
    string? SharedWith = null,
    string? EndFrame = null,
    bool TwistOnly = false,
    bool Upright = false,
    float Radius = 0,
    float ToRadius = 0,
    Vector3? Radii = null,
    Vector3? Turn = null,
    float Power = 2,
    float[]? Caps = null,
    float[][]? Sections = null,
    PlaceOnBone[]? Path = null,
    string? Op = null,
    bool On = true,
    bool Fine = false
);

public sealed record CutRow(string Bone, Vector3 At, Vector3 Facing, string Group);

/// <summary>The plain shirt and shorts: the same forms without hollows, blended wider, grown and cut off by planes.</summary>
public sealed record GarmentRow(
    float Thickness,
    float BlendTimes,
    float BlendMost,
    float JoinTimes,
    float JoinThigh,
    float JoinGlute,
    float NearTimes,
    float RadiusTimes,
    float Hem,
    string[] Groups,
    CutRow[] Cuts
);

/// <param name="Where">Where it is on the body, for a person who looks for it with the fingers.</param>
/// <param name="Through">How thick the limb is there, units: it is set down though it lies on the far side.</param>
public sealed record LandmarkRow(string Id, string Name, string Bone, Vector3 At, string? Where = null, float Through = 0);

/// <param name="Close">Drawn only where a part is looked at alone, as nails are: in a whole figure they would be specks.</param>
public sealed record FeatureRow(string Id, string Bone, Vector3[] Points, bool Close = false);

/// <summary>Where the hollows of the surface draw no soft line, as about the eye, whose lids are drawn marks.</summary>
public sealed record QuietRow(string Id, string Bone, Vector3 At, float Radius);

public sealed record MassRow(string Id, string Bone, Vector3 At, float Share);

/// <summary>The tables that every body is made from.</summary>
/// <param name="Hair">The forms of each way to wear the hair; all others of hair are left off.</param>
public sealed record FigureTables(
    string About,
    Dictionary<string, JointAngle[]> Kinds,
    BoneRow[] Bones,
    Dictionary<string, Dictionary<string, float[]>> Limits,
    GroupRow[] Groups,
    FormRow[] Forms,
    GarmentRow Garment,
    LandmarkRow[] Landmarks,
    FeatureRow[] Features,
    Dictionary<string, string[]> Hair,
    QuietRow[] Quiet,
    MassRow[] Masses
)
{
    /// <summary>Reads and checks a table file.</summary>
    /// <exception cref="FigureFileException">Anything wrong, with the file and the line or key.</exception>
    public static FigureTables Read(string file, string json)
    {
        var t = FigureFile.Parse<FigureTables>(file, json);
        var bones = new HashSet<string>(StringComparer.Ordinal);
        void Bone(string key, string id)
        {
            if (!bones.Contains(id))
                throw new FigureFileException(file, key, $"there is no bone '{id}'; the bones are {string.Join(", ", bones)}");
        }
        foreach (var b in t.Bones)
        {
            if (b.Parent.Length > 0)
                Bone($"bones.{b.Id}.parent", b.Parent);
            if (!t.Kinds.ContainsKey(b.Kind))
                throw new FigureFileException(
                    file,
                    $"bones.{b.Id}.kind",
                    $"there is no kind '{b.Kind}'; the kinds are {string.Join(", ", t.Kinds.Keys)}"
                );
            if (b.Follows is { } leader)
            {
                Bone($"bones.{b.Id}.follows", leader);
                var led = t.Bones.First(x => x.Id == leader);
                if (led.Follows is not null || led.Kind != b.Kind)
                    throw new FigureFileException(
                        file,
                        $"bones.{b.Id}.follows",
                        $"'{leader}' must be of kind '{b.Kind}' and follow none itself"
                    );
            }
            bones.Add(b.Id);
        }
        var groups = t.Groups.Select(g => g.Id).ToHashSet(StringComparer.Ordinal);
        void Group(string key, string id)
        {
            if (!groups.Contains(id))
                throw new FigureFileException(file, key, $"there is no group '{id}'");
        }
        foreach (var g in t.Groups)
        {
            if (g.Join is { } join)
                Group($"groups.{g.Id}.join", join);
            if (g.Near is { } near)
                Bone($"groups.{g.Id}.near.bone", near.Bone);
        }
        foreach (var f in t.Forms)
        {
            var key = $"forms.{f.Id}";
            Group($"{key}.group", f.Group);
            Bone($"{key}.bone", f.Bone);
            if (f.ToBone is { } to)
                Bone($"{key}.toBone", to);
            if (f.SharedWith is { } with)
                Bone($"{key}.sharedWith", with);
            var missing = f.Shape switch
            {
                "ellipsoid" => f.At is null ? "at"
                : f.Radii is null ? "radii"
                : null,
                "cone" => f.At is null ? "at"
                : f.To is null ? "to"
                : null,
                "loft" => f.At is null ? "at"
                : f.To is null ? "to"
                : f.Sections is null ? "sections"
                : f.Caps is null ? "caps"
                : null,
                "sweep" => f.Path is null ? "path"
                : f.Sections is null ? "sections"
                : f.Caps is null ? "caps"
                : null,
                _ => throw new FigureFileException(file, $"{key}.shape", $"'{f.Shape}' is no shape; one of ellipsoid, cone, loft, sweep"),
            };
            if (missing is not null)
                throw new FigureFileException(file, $"{key}.{missing}", $"a {f.Shape} needs it");
            if (f.Blend <= 0)
                throw new FigureFileException(file, $"{key}.blend", "must be above 0");
            if (f.Sections?.Any(s => s.Length != 5) == true)
                throw new FigureFileException(file, $"{key}.sections", "every row is [place, out, in, front, back]");
        }
        foreach (var l in t.Landmarks)
            Bone($"landmarks.{l.Id}.bone", l.Bone);
        foreach (var l in t.Features)
            Bone($"features.{l.Id}.bone", l.Bone);
        foreach (var (style, worn) in t.Hair)
        foreach (var form in worn.Where(w => t.Forms.All(f => f.Id != w)))
            throw new FigureFileException(file, $"hair.{style}", $"there is no form '{form}'");
        foreach (var m in t.Masses)
            Bone($"masses.{m.Id}.bone", m.Bone);
        foreach (var c in t.Garment.Cuts)
            Group($"garment.cuts.{c.Bone}.group", c.Group.EndsWith(".R", StringComparison.Ordinal) ? c.Group[..^2] + ".L" : c.Group);
        return t;
    }

    /// <summary>The limits of one angle in degrees, least and greatest; null where a joint has none of that name.</summary>
    public (float Least, float Greatest)? Limit(string bone, string angle) =>
        Limits.GetValueOrDefault(Sides.Stem(bone))?.GetValueOrDefault(angle) is { Length: 2 } l ? (l[0], l[1]) : null;
}

/// <summary>What is wrong in a file of the studio figure, and where.</summary>
public sealed class FigureFileException(string file, string key, string problem) : Exception($"{file}, {key}: {problem}")
{
    public string File { get; } = file;
    public string Key { get; } = key;
}

/// <summary>Reading of the figure's files: strict, every fault named by line or key.</summary>
internal static class FigureFile
{
    private static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web)
    {
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        NumberHandling = JsonNumberHandling.Strict,
        ReadCommentHandling = JsonCommentHandling.Skip,
        RespectRequiredConstructorParameters = true,
        Converters = { new Vector3AsArray(), new Vector2AsArray(), new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower) },
    };

    public static JsonSerializerOptions Format => Options;

    public static T Parse<T>(string file, string json)
    {
        try
        {
            return JsonSerializer.Deserialize<T>(json, Options) ?? throw new FigureFileException(file, "line 1", "the file is empty");
        }
        catch (JsonException e)
        {
            throw new FigureFileException(
                file,
                e.LineNumber is { } line ? $"line {line + 1} ({e.Path ?? "$"})" : e.Path ?? "$",
                Plain(e.Message)
            );
        }
    }

    /// <summary>The JSON Schema of a file, made from the types that read it.</summary>
    /// <param name="read">How it is read; null for a file of the figure.</param>
    public static JsonNode Schema<T>(string title, JsonSerializerOptions? read = null)
    {
        var options = new JsonSerializerOptions(read ?? Options)
        {
            TypeInfoResolver = new System.Text.Json.Serialization.Metadata.DefaultJsonTypeInfoResolver(),
        };
        var schema = options.GetJsonSchemaAsNode(
            typeof(T),
            new JsonSchemaExporterOptions
            {
                TreatNullObliviousAsNonNullable = true,
                TransformSchemaNode = (context, node) =>
                {
                    var type = Nullable.GetUnderlyingType(context.TypeInfo.Type) ?? context.TypeInfo.Type;
                    var size =
                        type == typeof(Vector3) ? 3
                        : type == typeof(Vector2) ? 2
                        : 0;
                    // A place of a muscle is written as one line of words.
                    if (type == typeof(MusclePlace))
                        return new JsonObject { ["type"] = "string" };
                    return size == 0
                        ? node
                        : new JsonObject
                        {
                            ["type"] = "array",
                            ["items"] = new JsonObject { ["type"] = "number" },
                            ["minItems"] = size,
                            ["maxItems"] = size,
                        };
                },
            }
        );
        var named = new JsonObject { ["$schema"] = "https://json-schema.org/draft/2020-12/schema", ["title"] = title };
        foreach (var (key, value) in schema.AsObject().ToList())
        {
            schema.AsObject().Remove(key);
            named[key] = value;
        }
        return named;
    }

    public static string Resource(string name)
    {
        using var stream = typeof(FigureFile).Assembly.GetManifestResourceStream(name)
            ?? throw new InvalidOperationException($"no catalogue named {name} in the core");
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    }

    private static string Plain(string message)
    {
        var cut = message.IndexOf(" Path:", StringComparison.Ordinal);
        return (cut < 0 ? message : message[..cut]).Replace("MintHarbor.Core.Figure.", "", StringComparison.Ordinal);
    }

    private sealed class Vector3AsArray : JsonConverter<Vector3>
    {
        public override Vector3 Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options)
        {
            var a = JsonSerializer.Deserialize<float[]>(ref reader, options);
            return a is { Length: 3 } && a.All(float.IsFinite)
                ? new(a[0], a[1], a[2])
                : throw new JsonException("a place is three numbers [x, y, z]");
        }

        public override void Write(Utf8JsonWriter writer, Vector3 value, JsonSerializerOptions options) =>
            JsonSerializer.Serialize(writer, new[] { value.X, value.Y, value.Z }, options);
    }

    private sealed class Vector2AsArray : JsonConverter<Vector2>
    {
        public override Vector2 Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options)
        {
            var a = JsonSerializer.Deserialize<float[]>(ref reader, options);
            return a is { Length: 2 } && a.All(float.IsFinite)
                ? new(a[0], a[1])
                : throw new JsonException("a place on the floor is two numbers [x, z]");
        }

        public override void Write(Utf8JsonWriter writer, Vector2 value, JsonSerializerOptions options) =>
            JsonSerializer.Serialize(writer, new[] { value.X, value.Y }, options);
    }
}

/// <summary>Left and right by id: tables hold the left, rows ending .L are mirrored.</summary>
internal static class Sides
{
    public static readonly int[] Both = [1, -1];
    public static readonly int[] Middle = [0];

    public static bool IsPair(string id) => id.EndsWith(".L", StringComparison.Ordinal) || id.EndsWith(".L>", StringComparison.Ordinal);

    public static int[] Of(string id) => IsPair(id) ? Both : Middle;

    public static string Id(string id, int side) =>
        side >= 0 ? id
        : id.EndsWith(".L", StringComparison.Ordinal) ? id[..^2] + ".R"
        : id.Replace(".L>", ".R>", StringComparison.Ordinal);

    public static string Stem(string id) => id.Split('.')[0];

    /// <summary>A name with the side that an id ends in: "kneecap, the model's left".</summary>
    public static string Named(string name, string id) =>
        id.EndsWith(".R", StringComparison.Ordinal) ? $"{name}, the model's right"
        : id.EndsWith(".L", StringComparison.Ordinal) ? $"{name}, the model's left"
        : name;

    public static Vector3 Place(Vector3 v, int side) => side < 0 ? v with { X = -v.X } : v;

    public static string Other(string id) =>
        id.EndsWith(".L", StringComparison.Ordinal) ? id[..^2] + ".R"
        : id.EndsWith(".R", StringComparison.Ordinal) ? id[..^2] + ".L"
        : id;
}
