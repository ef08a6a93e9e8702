using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Heads;

/// <summary>One form of the head's surface. Which fields count depends on its shape: ellipsoid (at, radii, turn), cone (at, to, radius,
/// toRadius), tube (path of [x, y, z, radius]), box (at, radii, turn, round), dent (at, radii, amount), groove (path of [x, y, z, width],
/// amount), ear (at, turn, scale, reach, parts), and wedge, lips, eye and hair, whose numbers stand in tables of their own.</summary>
/// <param name="Op">add, cut (taken away), clip (only what is inside stays).</param>
/// <param name="Blend">How wide it melts into what is there, heads.</param>
public sealed record HeadFormRow(
    string Id,
    string Shape,
    string Op = "add",
    Vector3? At = null,
    Vector3? To = null,
    Vector3? Radii = null,
    Vector3? Turn = null,
    float Blend = 0,
    float Radius = 0,
    float ToRadius = 0,
    float Round = 0,
    float Amount = 0,
    float[][]? Path = null,
    HeadFormRow[]? Parts = null,
    float Scale = 1,
    float Reach = 0
);

/// <summary>The nose's planes: at each height how far it stands out and how wide its front is.</summary>
public sealed record WedgeRow(float[][] Profile, float Flare, float Blend, float Bottom, float Top);

public sealed record LipsRow(
    float Y,
    float Corner,
    float UpperAmp,
    float LowerAmp,
    float Slit,
    float SlitW,
    float UpperH,
    float UpperCentre,
    float LowerH,
    float PeakX
);

public sealed record EyeRow(
    Vector3 At,
    float Radius,
    float Lid,
    float Inner,
    float Outer,
    float InnerY,
    float OuterY,
    float Upper,
    float Lower,
    float UpperPeak,
    float LowerPeak,
    float Edge,
    float Crease,
    float CreaseAmp,
    float BagAmp,
    float Iris,
    float Pupil,
    float PupilY,
    float Blend
);

/// <param name="Line">The hairline: degrees round the head from the front, and height.</param>
public sealed record HairRow(float[][] Line, float Stand, float Top, float Back, float Lock, float Edge, float Blend);

/// <param name="Find">How its place is found on the surface: front (cast from the viewer at x, y), cast (from a place along a direction),
/// foremost and fold (between two heights on the middle line), lowest, eye (corner or lid), iris, ear (in the ear's own frame).</param>
/// <param name="UnderHair">It lies under the hair and is judged by its side alone.</param>
/// <param name="Recessed">It lies behind what frames it, and so deeper than other places may.</param>
public sealed record HeadLandmarkRow(
    string Id,
    string Find,
    float[] At,
    string Where,
    Vector3? Along = null,
    bool Bald = false,
    bool WithoutEar = false,
    bool UnderHair = false,
    bool Recessed = false
);

/// <summary>Heights of the levels in heads from the middle of the head, up positive.</summary>
public sealed record HeadCanonRow(string Id, Dictionary<string, float> Levels);

/// <summary>A sculpt of its own: changes of the forms by id (a factor of amount; id.r of its radii; id.x of its x; bag; hair).</summary>
public sealed record SculptRow(string Id, Dictionary<string, float> Change);

/// <summary>A place is pushed by a bell of the given reach; it may grow about its middle, and act on one side alone.</summary>
public sealed record MoveRow(Vector3 At, Vector3 Reach, Vector3 By, float Grow = 1, int Side = 0);

/// <summary>A sitter, or a fault of a drawn head: a departure from the canon.</summary>
/// <param name="Levels">Heights that differ.</param>
/// <param name="Widths">Factor of the breadth at heights, [y, factor] upward.</param>
public sealed record SitterRow(
    string Id,
    string Name,
    string Sculpt = "plain",
    Dictionary<string, float>? Levels = null,
    float[][]? Widths = null,
    MoveRow[]? Moves = null
);

/// <summary>Edges and steps in turn: edge, step, edge … edge.</summary>
public sealed record GridRow(float[] X, float[] Y, float[] Z);

/// <summary>The table that the studio head is made from.</summary>
public sealed record HeadTables(
    string About,
    HeadFormRow[] Forms,
    WedgeRow Wedge,
    LipsRow Lips,
    EyeRow Eye,
    HairRow Hair,
    HeadLandmarkRow[] Landmarks,
    HeadCanonRow[] Canons,
    SculptRow[] Sculpts,
    SitterRow[] Sitters,
    SitterRow[] Faults,
    GridRow Grid
)
{
    /// <summary>Names of the levels, from chin to crown.</summary>
    public static readonly IReadOnlyList<string> LevelNames = ["chin", "mouth", "noseBase", "eye", "brow", "hairline", "crown"];

    /// <summary>Reads and checks a table file.</summary>
    /// <exception cref="FigureFileException">Anything wrong, with the file and the line or key.</exception>
    public static HeadTables Read(string file, string json)
    {
        var t = FigureFile.Parse<HeadTables>(file, json);
        FigureFileException At(string key, string problem) => new(file, key, problem);
        foreach (
            var (key, f) in t
                .Forms.Select(f => ($"forms.{f.Id}", f))
                .Concat(t.Forms.SelectMany(f => (f.Parts ?? []).Select(p => ($"forms.{f.Id}.parts.{p.Id}", p))))
        )
        {
            var missing = f.Shape switch
            {
                "ellipsoid" or "box" or "dent" => f.At is null ? "at"
                : f.Radii is null ? "radii"
                : null,
                "cone" => f.At is null ? "at"
                : f.To is null ? "to"
                : null,
                "tube" or "groove" => f.Path is null ? "path" : null,
                "ear" => f.At is null ? "at"
                : f.Parts is null ? "parts"
                : null,
                "wedge" or "lips" or "eye" or "hair" => null,
                _ => throw At(
                    $"{key}.shape",
                    $"'{f.Shape}' is no shape; one of ellipsoid, cone, tube, box, dent, groove, ear, wedge, lips, eye, hair"
                ),
            };
            if (missing is not null)
                throw At($"{key}.{missing}", $"a {f.Shape} needs it");
            if (f.Op is not ("add" or "cut" or "clip"))
                throw At($"{key}.op", $"'{f.Op}' is no way to join; one of add, cut, clip");
            if (f.Path is { } path && (path.Length < 2 || path.Any(p => p.Length != 4)))
                throw At($"{key}.path", "two or more rows of [x, y, z, radius]");
            if (f.Blend < 0)
                throw At($"{key}.blend", "must not be below 0");
        }
        if (!t.Forms.Any(f => f.Shape == "ear"))
            throw At("forms", "there is no ear");
        var finds = new Dictionary<string, int>
        {
            ["front"] = 2,
            ["cast"] = 3,
            ["foremost"] = 2,
            ["fold"] = 2,
            ["lowest"] = 0,
            ["eye"] = 2,
            ["iris"] = 2,
            ["ear"] = 3,
        };
        foreach (var l in t.Landmarks)
        {
            if (!finds.TryGetValue(l.Find, out var numbers))
                throw At($"landmarks.{l.Id}.find", $"'{l.Find}' is no way to find a place; one of {string.Join(", ", finds.Keys)}");
            if (l.At.Length != numbers)
                throw At($"landmarks.{l.Id}.at", $"'{l.Find}' takes {numbers} numbers");
            if (l.Find == "cast" && l.Along is null)
                throw At($"landmarks.{l.Id}.along", "a cast needs a direction");
        }
        foreach (var needed in new[] { "crown", "hairline", "brow-mid.L", "eye-inner.L", "eye-outer.L", "nosebase", "lip-slit", "chin" })
            if (!t.Landmarks.Any(l => l.Id == needed))
                throw At("landmarks", $"'{needed}' is missing; the levels hang on it");
        foreach (var c in t.Canons)
        foreach (var n in LevelNames)
            if (!c.Levels.ContainsKey(n))
                throw At($"canons.{c.Id}.levels", $"no height of '{n}'");
        foreach (var (list, rows) in new[] { ("sitters", t.Sitters), ("faults", t.Faults) })
        {
            foreach (var s in rows)
            {
                if (!t.Sculpts.Any(c => c.Id == s.Sculpt))
                    throw At(
                        $"{list}.{s.Id}.sculpt",
                        $"there is no sculpt '{s.Sculpt}'; the sculpts are {string.Join(", ", t.Sculpts.Select(c => c.Id))}"
                    );
                foreach (var n in s.Levels?.Keys ?? Enumerable.Empty<string>())
                    if (!LevelNames.Contains(n))
                        throw At($"{list}.{s.Id}.levels.{n}", $"no such level; one of {string.Join(", ", LevelNames)}");
                if (s.Widths?.Any(w => w.Length != 2) == true)
                    throw At($"{list}.{s.Id}.widths", "every row is [height, factor]");
                foreach (var c in t.Canons)
                {
                    var heights = LevelNames.Select(n => s.Levels?.GetValueOrDefault(n, c.Levels[n]) ?? c.Levels[n]).ToList();
                    if (list == "sitters" && c == t.Canons[0] && heights.Zip(heights.Skip(1)).Any(h => h.Second <= h.First))
                        throw At($"{list}.{s.Id}.levels", "the levels must rise from chin to crown");
                }
            }
        }
        var ids = t
            .Forms.SelectMany(f => (f.Parts ?? []).Prepend(f))
            .Select(f => f.Id)
            .Concat(["bag", "hair"])
            .ToHashSet(StringComparer.Ordinal);
        foreach (var s in t.Sculpts)
        foreach (var change in s.Change.Keys)
            if (
                !ids.Contains(
                    change.EndsWith(".r", StringComparison.Ordinal) || change.EndsWith(".x", StringComparison.Ordinal)
                        ? change[..^2]
                        : change
                )
            )
                throw At($"sculpts.{s.Id}.change.{change}", "there is no form of that id");
        return t;
    }
}
