using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Technique;
using NodaTime;

namespace MintHarbor.Store.Model;

/// <summary>What somebody marked on a sheet by hand.</summary>
public enum MarkKind
{
    /// <summary>An area whose tone and hatching are read.</summary>
    Tone,

    /// <summary>A patch of value, one of a set.</summary>
    Patch,

    /// <summary>A shape between things: its area and direction.</summary>
    Shape,
    Ellipse,

    /// <summary>Two clicks.</summary>
    Edge,

    /// <summary>Two clicks, the near end first, on an edge that is parallel in the thing to the others of its kind.</summary>
    Parallel,
}

/// <param name="Name">A letter, A on, in the order they were marked.</param>
/// <param name="OfReference">Marked on what lies over the sheet, not on the drawing.</param>
/// <param name="At">Its outline, or an edge's two ends; millimetres on the sheet.</param>
/// <param name="Read">What was read within it; null where that says nothing.</param>
public sealed record HandMark(
    string Name,
    MarkKind Kind,
    bool OfReference,
    IReadOnlyList<Vec2> At,
    PatchMethod? Method = null,
    PatchStep? Step = null,
    AreaMeasures? Read = null
)
{
    [JsonIgnore]
    public bool IsEdge => Kind is MarkKind.Edge or MarkKind.Parallel;

    [JsonIgnore]
    public Core.Measuring.MarkedEdge Edge => new(At[0], At[^1]);

    [JsonIgnore]
    public Core.Measuring.ShapeMeasures Shape => Core.Measuring.ShapeMeasures.Of(At);
}

public enum OverKind
{
    /// <summary>The view of the studio figure that the sheet is held against.</summary>
    Figure,

    /// <summary>Heads, one under the other.</summary>
    Ladder,

    /// <summary>Another drawing of the same student.</summary>
    Sheet,

    /// <summary>The student's own photograph of what was drawn.</summary>
    Photo,
}

/// <summary>What lies over a sheet, and where. Millimetres on the sheet.</summary>
/// <param name="SheetId">Of another drawing; 0 else.</param>
/// <param name="X">Of its middle; likewise <paramref name="Y"/>.</param>
/// <param name="Turn">Degrees, clockwise.</param>
public sealed record LaidOverSheet(OverKind Kind, int SheetId, double X, double Y, double Width, double Turn);

/// <summary>What was marked on a sheet and laid over it by hand.</summary>
public sealed class LookedSheet
{
    public int SheetId { get; set; }

    /// <summary>Hash of the flat sheet that the marks lie on: they are none of another straightening.</summary>
    public string Of { get; set; } = "";
    public List<HandMark> Marks { get; set; } = [];
    public LaidOverSheet? Over { get; set; }

    /// <summary>The student's own photograph; null where there is none.</summary>
    public string? PhotoHash { get; set; }

    /// <summary>Its height over its width.</summary>
    public double PhotoShape { get; set; }
    public string By { get; set; } = "";
    public Instant At { get; set; }
    public uint Version { get; set; }
}
