using MintHarbor.Core.Canons;

namespace MintHarbor.Core.Measuring;

/// <summary>To which side a drawing departs from what was expected. Left and right are those of the sheet, as seen.</summary>
public enum Direction
{
    None,
    Short,
    Long,
    Small,
    Large,
    Low,
    High,
    Left,
    Right,
    Narrow,
    Broad,
    Thin,
    Thick,
    Inwards,
    Outwards,
    Clockwise,
    Anticlockwise,

    /// <summary>A turned head: turned less than it should be, so that it faces the viewer more.</summary>
    Towards,

    /// <summary>A turned head: turned further than it should be.</summary>
    Away,

    /// <summary>A tilt that goes the other way.</summary>
    Reversed,
}

/// <summary>How a departure below and one above the expected value are said, and the fault of the library that each is; null where the
/// library has none.</summary>
/// <param name="Levelled">The fault where an edge was drawn nearer to level or upright than it was seen; it outranks the other two.</param>
public sealed record Ways(Direction Below, Direction Above, string? FaultBelow = null, string? FaultAbove = null, string? Levelled = null);

/// <summary>The sentence that a rule's findings are said in.</summary>
public enum Phrasing
{
    /// <summary>Amount, direction, tolerance, what was drawn and what was wanted.</summary>
    Plain,

    /// <summary>The head as the unit of the height.</summary>
    Heads,

    /// <summary>A length against a reference view, with what the seat shortens.</summary>
    Length,
    Lean,

    /// <summary>A plumb that meets the feet or doesn't.</summary>
    Feet,

    /// <summary>A head is never called wrong: the departure is put as a question.</summary>
    Face,

    /// <summary>One of the turns that features of a head tell.</summary>
    Turn,

    /// <summary>Two standards that disagree: which of them is misread is asked.</summary>
    Asked,
}

/// <summary>How what is outside is drawn over the sheet.</summary>
public enum Mark
{
    /// <summary>The edge as drawn.</summary>
    Edge,

    /// <summary>The edge as drawn, and where it should lie.</summary>
    Direction,

    /// <summary>A bracket beside the head.</summary>
    Bracket,
    Plumb,

    /// <summary>A line through what lies on one level.</summary>
    Level,

    /// <summary>The edge as drawn and the reference view's.</summary>
    Reference,
}

/// <summary>The pose and view that a drawing is judged in, as far as a canon's rules ask for it.</summary>
/// <param name="Pose">One of standing, contrapposto, seated, reclining, other.</param>
/// <param name="View">One of front, three-quarter, profile, back.</param>
/// <param name="Hanging">No drawn arm leaves the upright by more than 30°.</param>
public sealed record Situation(string Pose, string View, bool Hanging = true, bool HasReference = false)
{
    public bool Standing => Pose == "standing";
    public bool Upright => Pose is "standing" or "contrapposto";
    public bool Front => View == "front";
    public bool Frontal => View is "front" or "back";
    public bool Profile => View == "profile";

    /// <summary>A head tilted up or down is asked for as "other"; its heights are foreshortened and tell nothing.</summary>
    public bool Level => Pose != "other";
}

/// <summary>One rule of the table: everything about it but its tolerance, which each canon sets, and its arithmetic, which is its measure's.</summary>
/// <param name="Id">As canons, exercises, faults, ladders and projects name it.</param>
/// <param name="Name">As a heading.</param>
/// <param name="Order">Working order inside a sheet, the first spoken of first.</param>
/// <param name="Ways">How its two directions are said, where a part says nothing else.</param>
public sealed record Rule(string Id, string Name, Family Family, int Order, Ways Ways)
{
    /// <summary>In a list of measures, "shoulders"; null lists the part's own name.</summary>
    public string? Short { get; init; }

    /// <summary>What is compared of a part, "length"; null where the part's name says it.</summary>
    public string? Quantity { get; init; }

    /// <summary>A sentence begins with the rule and its part, since "left" alone says nothing.</summary>
    public bool NamedWithPart { get; init; }
    public Phrasing Phrasing { get; init; }
    public Mark Mark { get; init; }

    /// <summary>Ways of single parts, by the part's id.</summary>
    public IReadOnlyDictionary<string, Ways> Parts { get; init; } = new Dictionary<string, Ways>();

    /// <summary>Landmarks at which a fault of this rule is pointed at, where it was named without being measured.</summary>
    public IReadOnlyList<string> Place { get; init; } = [];

    /// <summary>An exercise that opens that rule opens this one too.</summary>
    public Rule? AllowedAs { get; init; }

    /// <summary>A trait, part or purpose of poses on which the measure shows.</summary>
    public string ShownBy { get; init; } = "proportion";

    /// <summary>Whether a canon's value speaks in a situation, and in words when it does; null where only card and reference speak.</summary>
    public Func<Situation, bool>? Holds { get; init; }
    public string HoldsWhen { get; init; } = "";

    /// <summary>The measures that a canon's value alone settles; null where the judge settles them against card or reference too.</summary>
    public Func<FigureMeasures, CanonRule, IEnumerable<Measure>>? OfFigure { get; init; }
    public Func<HeadMeasures, CanonRule, IEnumerable<Measure>>? OfHead { get; init; }

    public Ways WaysOf(string? part) => part is not null && Parts.TryGetValue(part, out var own) ? own : Ways;

    public override string ToString() => Id;
}
