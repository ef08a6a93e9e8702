using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Landmarks;

/// <summary>The named places of figure and head. Ids ending in .L and .R are the figure's own left and right.</summary>
public static class LandmarkIds
{
    private static readonly (string Id, string Name, bool Pair)[] Table =
    [
        ("crown", "crown of the head", false),
        ("hairline", "hairline", false),
        ("brow", "brow", false),
        ("eye", "eye", true),
        ("nosebase", "nose base", false),
        ("nosetip", "tip of the nose", false),
        ("mouth", "mouth", false),
        ("chin", "chin", false),
        ("ear", "ear", true),
        ("occiput", "back of the head", false),
        ("c7", "seventh neck vertebra", false),
        ("pit", "pit of the neck", false),
        ("acromion", "shoulder point", true),
        ("deltoid", "outside of the deltoid", true),
        ("deltoidend", "end of the shoulder muscle", true),
        ("armpit", "armpit", true),
        ("nipple", "nipple", true),
        ("sternumend", "end of the breastbone", false),
        ("ribarch", "bottom of the ribcage", true),
        ("waist", "waist", true),
        ("navel", "navel", false),
        ("iliac", "hip crest", true),
        ("asis", "front point of the hip", true),
        ("psis", "back point of the hip", true),
        ("pubic", "pubic bone", false),
        ("crotch", "crotch", false),
        ("trochanter", "outside of the hip", true),
        ("glutefold", "gluteal fold", true),
        ("buttock", "buttock", true),
        ("kneetop", "top of the kneecap", true),
        ("kneebottom", "bottom of the kneecap", true),
        ("kneein", "inside of the knee", true),
        ("kneeout", "outside of the knee", true),
        ("kneeback", "back of the knee", true),
        ("calfin", "inner calf", true),
        ("calfout", "outer calf", true),
        ("anklein", "inner ankle", true),
        ("ankleout", "outer ankle", true),
        ("heel", "heel", true),
        ("sole", "sole", true),
        ("ball", "ball of the foot", true),
        ("toe", "toes", true),
        ("elbow", "elbow", true),
        ("elbowpit", "inside of the elbow", true),
        ("wrist", "wrist", true),
        ("wristthumb", "thumb side of the wrist", true),
        ("knuckle", "knuckles", true),
        ("fingertip", "fingertips", true),
        ("thumbtip", "tip of the thumb", true),
        ("hair-top", "top of the hair", false),
        ("glabella", "between the brows", false),
        ("nose-root", "root of the nose", false),
        ("upper-lip", "upper lip", false),
        ("lip-slit", "line between the lips", false),
        ("lower-lip", "lower lip", false),
        ("under-lip", "under the lower lip", false),
        ("chin-front", "front of the chin", false),
        ("nape", "nape", false),
        ("brow-inner", "inner end of the brow", true),
        ("brow-mid", "middle of the brow", true),
        ("brow-outer", "outer end of the brow", true),
        ("eye-inner", "inner eye corner", true),
        ("eye-outer", "outer eye corner", true),
        ("lid-upper", "upper lid", true),
        ("lid-lower", "lower lid", true),
        ("pupil", "pupil", true),
        ("iris-inner", "inner edge of the iris", true),
        ("iris-outer", "outer edge of the iris", true),
        ("wing", "wing of the nose", true),
        ("nostril", "nostril", true),
        ("cheekbone", "cheekbone", true),
        ("mouth-corner", "corner of the mouth", true),
        ("lip-peak", "peak of the upper lip", true),
        ("jaw-angle", "angle of the jaw", true),
        ("chin-side", "side of the chin", true),
        ("ear-top", "top of the ear", true),
        ("ear-base", "base of the ear", true),
        ("ear-front", "front of the ear", true),
        ("temple", "temple", true),
        ("head-side", "side of the head", true),
        ("neck-side", "side of the neck", true),
        ("collar", "collarbone", true),
    ];

    private static readonly Dictionary<string, string> Names = Table
        .SelectMany(t => t.Pair ? new[] { (t.Id + ".L", "left " + t.Name), (t.Id + ".R", "right " + t.Name) } : [(t.Id, t.Name)])
        .ToDictionary(t => t.Item1, t => t.Item2);

    public static IEnumerable<(string Id, string Name)> All => Names.Select(n => (n.Key, n.Value));

    public static bool Exists(string id) => Names.ContainsKey(id);

    /// <summary>The name in plain words; the id itself for an unknown one.</summary>
    public static string Name(string id) => Names.GetValueOrDefault(id, id);

    /// <summary>The landmark of the other side; the same for one on the middle.</summary>
    public static string Mirror(string id) =>
        id.EndsWith(".L", StringComparison.Ordinal) ? id[..^2] + ".R"
        : id.EndsWith(".R", StringComparison.Ordinal) ? id[..^2] + ".L"
        : id;

    /// <summary>Order in which they are placed on the bench: what the rest hangs on first.</summary>
    public static readonly IReadOnlyList<string> BenchOrder =
    [
        "crown",
        "sole.R",
        "sole.L",
        "chin",
        "pit",
        "acromion.R",
        "acromion.L",
        "deltoid.R",
        "deltoid.L",
        "asis.R",
        "asis.L",
        "pubic",
        "kneetop.R",
        "kneetop.L",
        "ankleout.R",
        "ankleout.L",
        "elbow.R",
        "elbow.L",
        "wrist.R",
        "wrist.L",
        "fingertip.R",
        "fingertip.L",
        "hairline",
        "ribarch.R",
        "iliac.R",
        "crotch",
        "toe.R",
        "toe.L",
    ];

    /// <summary>The same for a head: what the levels hang on first, then widths, then ears and neck.</summary>
    public static readonly IReadOnlyList<string> HeadOrder =
    [
        "crown",
        "chin",
        "eye-inner.R",
        "eye-inner.L",
        "eye-outer.R",
        "eye-outer.L",
        "nosebase",
        "lip-slit",
        "brow",
        "hairline",
        "nose-root",
        "nosetip",
        "wing.R",
        "wing.L",
        "mouth-corner.R",
        "mouth-corner.L",
        "iris-inner.R",
        "iris-inner.L",
        "pupil.R",
        "pupil.L",
        "ear-top.R",
        "ear-top.L",
        "ear-base.R",
        "ear-base.L",
        "head-side.R",
        "head-side.L",
        "jaw-angle.R",
        "jaw-angle.L",
        "neck-side.R",
        "neck-side.L",
    ];

    public static IReadOnlyList<string> OrderOf(string subject) => subject == "head" ? HeadOrder : BenchOrder;
}

/// <summary>Landmarks placed on a sheet, in millimetres from its upper left corner.</summary>
public sealed class LandmarkSet
{
    private readonly Dictionary<string, Vec2> points;

    /// <exception cref="InputException">An id that isn't in the table, or a coordinate that isn't finite.</exception>
    public LandmarkSet(IEnumerable<KeyValuePair<string, Vec2>> placed, string field = "landmarks")
    {
        points = [];
        foreach (var (id, p) in placed)
        {
            if (!LandmarkIds.Exists(id))
                throw new InputException($"unknown landmark '{id}'", $"{field}.{id}", "an id of the landmark table");
            if (!p.IsFinite)
                throw new InputException($"the place of {id} is not a finite number", $"{field}.{id}", "[x, y] in mm");
            points[id] = p;
        }
    }

    public Vec2? this[string id] => points.TryGetValue(id, out var p) ? p : null;

    public bool Has(string id) => points.ContainsKey(id);

    public int Count => points.Count;
    public IReadOnlyDictionary<string, Vec2> Points => points;

    public LandmarkSet With(string id, Vec2 p) => new(new Dictionary<string, Vec2>(points) { [id] = p });
}
