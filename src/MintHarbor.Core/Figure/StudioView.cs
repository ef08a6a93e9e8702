using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;

namespace MintHarbor.Core.Figure;

/// <summary>Where an arrangement is seen from: degrees round it, metres from its middle, metres of the eye over the floor.</summary>
public sealed record ThingSeat(double Azimuth, double Distance, double EyeHeight)
{
    [JsonIgnore]
    public Seat Seat => new(Azimuth, Distance, EyeHeight);
}

/// <param name="Kind">0 outline, 1 crease, 2 soft valley, 3 prop.</param>
/// <param name="At">x, y and width in turn, in picture pixels.</param>
public sealed record ViewStroke(int Kind, bool Closed, IReadOnlyList<double> At);

/// <summary>A drawing of the studio figure, or of the studio head, from one side, made once: outlines, silhouette and the places of its landmarks in
/// picture pixels (third number 1 where the landmark can be seen).</summary>
/// <param name="From">Where an arrangement of things is seen from.</param>
/// <param name="Known">What is known of a view of things, as far as it may be asked for.</param>
public sealed record StudioView(
    string Id,
    string Pose,
    string Body,
    bool Clothed,
    double Azimuth,
    int Width,
    int Height,
    IReadOnlyDictionary<string, double[]> Landmarks,
    string Mass,
    string Line,
    IReadOnlyList<ViewStroke>? Strokes = null,
    ThingSeat? From = null,
    ThingTruth? Known = null
)
{
    /// <summary>The pose of a view that shows a head alone; its body is the sitter, its azimuth the turn.</summary>
    public const string HeadAlone = "head";

    /// <summary>The pose of a view that shows an arrangement of things; its body is the arrangement.</summary>
    public const string ThingsAlone = "things";

    [JsonIgnore]
    public bool IsHead => Pose == HeadAlone;

    [JsonIgnore]
    public bool IsThings => Pose == ThingsAlone;

    [JsonIgnore]
    public bool IsFigure => !IsHead && !IsThings;

    /// <summary>What it shows, in a word.</summary>
    [JsonIgnore]
    public string Subject =>
        IsHead ? "head"
        : IsThings ? "still life"
        : "figure";

    public Vec2? At(string id) => Landmarks.TryGetValue(id, out var p) ? new(p[0], p[1]) : null;

    public bool Sees(string id) => Landmarks.TryGetValue(id, out var p) && p[2] > 0;

    [JsonIgnore]
    public string Name => $"{Pose}, {Body}";
}

/// <summary>The views that ship with the core.</summary>
public static class StudioViews
{
    private static readonly Lazy<Dictionary<string, StudioView>> ById = new(() =>
        CoreData.Names("views").Select(CoreData.Read<StudioView>).ToDictionary(v => v.Id)
    );

    public static IReadOnlyCollection<StudioView> All => ById.Value.Values;

    /// <summary>Those of arrangements.</summary>
    public static IReadOnlyList<StudioView> Things => OfThings.Value;

    private static readonly Lazy<IReadOnlyList<StudioView>> OfThings = new(() =>
        [.. All.Where(v => v.IsThings).OrderBy(v => v.Id, StringComparer.Ordinal)]
    );

    /// <summary>The same views with the landmarks that they shipped with first: rounds that kept no items were made of those.</summary>
    public static IReadOnlyCollection<StudioView> First => FirstShipped.Value;

    private static readonly Lazy<IReadOnlyCollection<StudioView>> FirstShipped = new(() =>
    {
        var marks = CoreData.Read<Dictionary<string, Dictionary<string, double[]>>>("views-first");
        return
        [
            .. All.Where(v => !v.IsFigure || v.Strokes is not null || marks.ContainsKey(v.Id))
                .Select(v => marks.TryGetValue(v.Id, out var then) ? v with { Landmarks = then } : v),
        ];
    });

    public static StudioView Get(string id) => ById.Value[id];

    /// <summary>The small picture of a pose: from its front three-quarter, clothed where the course wants it.</summary>
    public static StudioView? OfPose(string pose, bool clothed, bool mirrored = false) =>
        ById.Value.GetValueOrDefault($"{pose}-{(mirrored ? "female" : "male")}{(clothed ? "-clothed" : "")}-{(mirrored ? "m35" : "25")}");
}
