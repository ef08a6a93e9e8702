using static MintHarbor.Core.Measuring.Direction;

namespace MintHarbor.Core.Measuring;

/// <summary>Parts of the rules, as the table, a canon and the judge name them.</summary>
public static class Parts
{
    public const string PitToPubic = "pitToPubic",
        PitToKneetop = "pitToKneetop",
        PitToSole = "pitToSole",
        Thigh = "thigh-span",
        Shank = "shank-span",
        Shoulders = "shoulders",
        Pelvis = "pelvis",
        Action = "action",
        PelvisHigh = "pelvis-high",
        ShouldersAgainst = "shoulders-against",
        PitOverFoot = "pit-over-foot",
        UpperArm = "upper arm : forearm",
        Forearm = "forearm : hand",
        Between = "between the eyes",
        Across = "across the head",
        EarTop = "top",
        EarBase = "base",
        Plumb = "plumb";
}

/// <summary>The table of rules. Tolerances stand in the canons (Data/canons.json) with their sources; the rules themselves are common
/// practice unless a canon names a published source.</summary>
public static class Rules
{
    private static readonly Ways ShortLong = new(Short, Long),
        SmallLarge = new(Small, Large),
        HighLow = new(High, Low),
        NarrowBroad = new(Narrow, Broad),
        Turns = new(Anticlockwise, Clockwise),
        Sides = new(Left, Right);

    private static readonly Ways TurnsLevelled = Turns with { Levelled = "level-tilts" },
        Leans = Turns with { FaultBelow = "leaning", FaultAbove = "leaning" };

    private const string Level = "the head must be seen level",
        FromFront = "it holds from the front";

    public static readonly Rule Heads = new(
        "F-heads",
        "Heads in the height",
        Family.Proportion,
        2,
        new(Large, Small, "head-large", "head-small")
    )
    {
        Short = "height",
        Phrasing = Phrasing.Heads,
        Mark = Mark.Bracket,
        Place = ["crown", "chin"],
        Holds = s => s.Standing,
        HoldsWhen = "the canon's count holds for a standing figure seen level",
    };

    public static readonly Rule Mid = new("F-mid", "Half height", Family.Proportion, 5, new(High, Low, "legs-long", "legs-short"))
    {
        Short = "half height",
        Place = ["pubic"],
        Holds = s => s.Standing,
        HoldsWhen = "half height holds for a standing figure",
        OfFigure = (m, _) => [m.Mid()],
    };

    public static readonly Rule Spans = new("F-spans", "The three spans", Family.Proportion, 3, ShortLong)
    {
        Parts = new Dictionary<string, Ways>
        {
            [Parts.PitToPubic] = new(Short, Long, null, "trunk-long"),
            [Parts.PitToSole] = new(Short, Long, "squeezed-end"),
            [Parts.Thigh] = new(Short, Long, "trunk-long"),
        },
        Holds = s => s.Upright,
        HoldsWhen = "the three spans hold standing or on one leg",
        OfFigure = (m, _) => m.Spans(),
    };

    public static readonly Rule Hand = new("F-hand", "Hand against face", Family.Proportion, 5, new(Small, Large, "hands-small"))
    {
        Short = "hands",
        NamedWithPart = true,
        Place = ["wrist.L", "fingertip.L"],
        ShownBy = "hands",
        Holds = s => s.Standing && !s.Profile,
        HoldsWhen = "the hand must lie unforeshortened, as in a level standing pose",
        OfFigure = (_, _) => FigureMeasures.EachSide(FigureMeasures.Hand),
    };

    public static readonly Rule Foot = new("F-foot", "Foot against head", Family.Proportion, 5, new(Small, Large, "feet-small"))
    {
        NamedWithPart = true,
        Place = ["heel.L", "toe.L", "sole.L"],
        ShownBy = "legs",
        Holds = s => s.Profile,
        HoldsWhen = "the foot's length shows from the side",
        OfFigure = (_, _) => FigureMeasures.EachSide(FigureMeasures.Foot),
    };

    public static readonly Rule Elbow = new("F-elbow", "Elbow level", Family.Proportion, 5, HighLow)
    {
        Short = "elbows",
        NamedWithPart = true,
        Place = ["elbow.L"],
        Holds = s => s.Standing && s.Hanging,
        HoldsWhen = "the arm must hang",
        OfFigure = (_, _) => FigureMeasures.EachSide(FigureMeasures.Elbow),
    };

    public static readonly Rule Arm = new("F-arm", "Arm lengths", Family.Proportion, 5, ShortLong)
    {
        Short = "arms",
        Place = ["elbow.L", "wrist.L"],
        ShownBy = "arms",
        Holds = s => s.Standing && s.Frontal,
        HoldsWhen = "the arm must lie unforeshortened, as in a level standing pose",
        OfFigure = (_, _) => FigureMeasures.Arms(),
    };

    public static readonly Rule Pair = new(
        "F-pair",
        "Left against right",
        Family.Proportion,
        5,
        new(Short, Long, "limb-unequal", "limb-unequal")
    )
    {
        Short = "left and right",
        ShownBy = "arms",
        Holds = s => s.Standing && s.Frontal && !s.HasReference,
        HoldsWhen = "both limbs must lie unforeshortened",
        OfFigure = (_, _) => FigureMeasures.Pairs(),
    };

    public static readonly Rule Shoulder = new(
        "F-shoulder",
        "Shoulder breadth",
        Family.Proportion,
        4,
        new(Narrow, Broad, "shoulders-narrow", "shoulders-broad")
    )
    {
        Short = "shoulders",
        Place = ["deltoid.L", "deltoid.R"],
        ShownBy = "shoulders",
        Holds = s => s.Front && s.Upright,
        HoldsWhen = "shoulder breadth holds from the front",
    };

    public static readonly Rule Wrist = new(
        "F-wrist",
        "Wrist and fingertips",
        Family.Proportion,
        5,
        new(High, Low, "arms-short", "arms-long")
    )
    {
        Short = "wrists",
        Holds = s => s.Standing && s.Hanging,
        HoldsWhen = "the arm must hang",
        OfFigure = (m, _) => m.Wrists(),
    };

    public static readonly Rule Tilt = new("F-tilt", "Tilt of shoulders and pelvis", Family.Placement, 1, TurnsLevelled)
    {
        Mark = Mark.Direction,
        Place = ["asis.L", "asis.R"],
        ShownBy = "weight-shift",
        Parts = new Dictionary<string, Ways>
        {
            [Parts.Action] = Leans,
            [Parts.PelvisHigh] = new(Reversed, None, "level-tilts"),
            [Parts.ShouldersAgainst] = new(Reversed, None, "same-way-tilts"),
            [Parts.PitOverFoot] = new(Right, Left, "leaning", "leaning"),
        },
    };

    public static readonly Rule Balance = new("F-balance", "Balance", Family.Placement, 0, new(Left, Right, "leaning", "leaning"))
    {
        Short = "balance",
        Phrasing = Phrasing.Feet,
        Mark = Mark.Plumb,
        Place = ["sole.L", "sole.R"],
        ShownBy = "weight-shift",
        Parts = new Dictionary<string, Ways> { [Parts.Plumb] = new(Left, Right, "leaning", "leaning") },
        Holds = s => s.Upright,
        HoldsWhen = "the plumb meets the feet in a standing pose at rest",
    };

    public static readonly Rule Lean = new(
        "R-lean",
        "Lean of the whole figure",
        Family.Placement,
        0,
        new(Left, Right, "leaning", "leaning")
    )
    {
        Short = "upright",
        Phrasing = Phrasing.Lean,
        Mark = Mark.Plumb,
        AllowedAs = Tilt,
    };

    public static readonly Rule Length = new("R-length", "Length against the reference view", Family.Proportion, 3, ShortLong)
    {
        Short = "lengths",
        Quantity = "length",
        Phrasing = Phrasing.Length,
        Mark = Mark.Reference,
        AllowedAs = Spans,
        Parts = new Dictionary<string, Ways>
        {
            ["head"] = new(Small, Large, "head-small", "head-large"),
            ["trunk"] = new(Short, Long, null, "trunk-long"),
            [Parts.Shoulders] = new(Narrow, Broad, "shoulders-narrow", "shoulders-broad"),
            ["upper-arm"] = new(Short, Long, "arms-short", "arms-long"),
            ["forearm"] = new(Short, Long, "arms-short", "arms-long"),
            ["hand"] = new(Small, Large, "hands-small"),
            ["thigh"] = new(Short, Long, "legs-short", "legs-long"),
            ["shank"] = new(Short, Long, "legs-short", "legs-long"),
            ["foot"] = new(Small, Large, "feet-small"),
        },
    };

    public static readonly Rule EdgeDirection = new("R-direction", "Direction against the reference view", Family.Placement, 4, Turns)
    {
        Short = "directions",
        Quantity = "direction",
        Mark = Mark.Reference,
        AllowedAs = Tilt,
    };

    public static readonly Rule Stretch = Whole("R-stretch", "Height against breadth", ShortLong) with { Short = "height for breadth" };

    public static readonly Rule Lower = Whole("R-lower", "Lower part against the upper", new(Short, Long, "squeezed-end", "legs-long")) with
    {
        Short = "lower part",
        Parts = new Dictionary<string, Ways> { ["legs"] = new(Short, Long, "legs-short", "legs-long") },
    };

    public static readonly Rule Extremities = Whole("R-extremities", "Hands and feet", new(Small, Large, "hands-small")) with
    {
        Short = "hands and feet",
    };

    public static readonly Rule HipShift = Whole("R-hips", "Hips over the feet", Sides) with
    {
        Short = "hips",
        Phrasing = Phrasing.Plain,
        AllowedAs = Tilt,
    };

    /// <summary>One cause of many measures against the reference view.</summary>
    private static Rule Whole(string id, string name, Ways ways) =>
        new(id, name, Family.Proportion, 1, ways)
        {
            Phrasing = Phrasing.Length,
            Mark = Mark.Reference,
            AllowedAs = Spans,
        };

    /// <summary>Card and reference view say two things of one pose: a question, no fault.</summary>
    public static readonly Rule CardAndView = new("card-and-view", "Card and reference view", Family.Placement, 0, Sides)
    {
        Phrasing = Phrasing.Asked,
    };

    public static readonly Rule EyeLine = Face("H-eye", "Eye line", 1, new(High, Low, "eyes-high")) with
    {
        Short = "eye line",
        Mark = Mark.Level,
        Place = ["eye-inner.L", "eye-inner.R"],
        Holds = s => s.Level,
        HoldsWhen = Level,
        OfHead = (m, _) => [m.EyeLine()],
    };

    public static readonly Rule Thirds = Face("H-thirds", "Thirds of the face", 2, ShortLong) with
    {
        Short = "thirds",
        Holds = s => s.Level,
        HoldsWhen = Level,
        OfHead = (m, rule) => m.Thirds(rule.From ?? "hairline"),
    };

    public static readonly Rule MouthLine = Face("H-mouth", "Mouth line", 5, HighLow) with
    {
        Short = "mouth line",
        Holds = s => s.Level,
        HoldsWhen = Level,
        OfHead = (m, _) => [m.MouthLine()],
    };

    public static readonly Rule Fives = Face("H-fives", "Eyes across", 5, NarrowBroad) with
    {
        Short = "eyes across",
        Holds = s => s.Front,
        HoldsWhen = FromFront,
        OfHead = (_, rule) => HeadMeasures.Breadths().Where(m => rule.Parts is null || rule.Parts.ContainsKey(m.Part!.Id)),
    };

    public static readonly Rule Nostril = Face("H-nostril", "Nose wing under the eye corner", 5, new(Inwards, Outwards)) with
    {
        Short = "nose wings",
        Holds = s => s.Front,
        HoldsWhen = FromFront,
        OfHead = (_, _) => HeadMeasures.Nostrils(),
    };

    public static readonly Rule Corner = Face("H-corner", "Mouth corner", 5, new(Inwards, Outwards)) with
    {
        Short = "mouth corners",
        Holds = s => s.Front,
        HoldsWhen = FromFront,
        OfHead = (_, rule) => HeadMeasures.MouthCorners(rule.From ?? "iris-inner"),
    };

    public static readonly Rule Ear = Face("H-ear", "Ear", 5, new(High, Low, "ears-high")) with
    {
        Short = "ears",
        Place = ["ear-top.L"],
        Holds = s => s.Level,
        HoldsWhen = Level,
        OfHead = (m, _) => m.Ears(),
    };

    public static readonly Rule Neck = Face("H-neck", "Neck against jaw", 5, new(Thin, Thick, "neck-thin")) with
    {
        Short = "neck",
        Place = ["neck-side.L", "neck-side.R"],
        Holds = s => s.Front,
        HoldsWhen = FromFront,
        OfHead = (_, _) => [HeadMeasures.Neck()],
    };

    public static readonly Rule Turn = Face("H-turn", "Turn of the head", 0, new(Towards, Away, "axis-in-middle", "axis-in-middle")) with
    {
        Short = "turn",
        Phrasing = Phrasing.Turn,
        Holds = s => s.View == "three-quarter",
        HoldsWhen = "the head must be turned",
    };

    public static readonly Rule Calf = Under(
        "A-calf",
        "Inner calf below the outer",
        new(High, Low, "calves-level"),
        "calfin.L",
        "calfout.L"
    );

    public static readonly Rule Ankles = Under(
        "A-ankles",
        "Inner ankle against the outer",
        new(High, Low, null, "ankles-level"),
        "anklein.L",
        "ankleout.L"
    );

    public static readonly Rule Kneecap = Under(
        "A-kneecap",
        "Kneecap",
        new(Outwards, Inwards, "kneecap-turned", "kneecap-turned"),
        "kneetop.L"
    );

    public static readonly Rule Deltoid = Under(
        "A-deltoid",
        "End of the shoulder muscle",
        new(High, Low, "deltoid-short", "deltoid-long"),
        "deltoidend.L"
    );

    public static readonly Rule PelvisTriangle = Under(
        "A-pelvis",
        "Left side of the pelvis triangle",
        new(Short, Long, "pelvis-broken", "pelvis-broken"),
        "asis.L",
        "asis.R"
    );

    public static readonly Rule Collarbones = Under(
        "A-collarbones",
        "Inner ends of the collarbones",
        new(Low, High, null, "first-ribs-missing"),
        "pit"
    );

    /// <summary>A check of anatomy that is measured against the reference view; an exercise that is inspected for anatomy opens it.</summary>
    private static Rule Under(string id, string name, Ways ways, params string[] place) =>
        new(id, name, Family.Anatomy, 6, ways)
        {
            NamedWithPart = true,
            Mark = Mark.Reference,
            Place = place,
        };

    private static Rule Face(string id, string name, int order, Ways ways) =>
        new(id, name, Family.Construction, order, ways) { NamedWithPart = true, Phrasing = Phrasing.Face };

    /// <summary>Every rule, those of figures first.</summary>
    public static IReadOnlyList<Rule> All { get; } =
    [
        Heads,
        Shoulder,
        Mid,
        Spans,
        Hand,
        Foot,
        Elbow,
        Arm,
        Wrist,
        Pair,
        Tilt,
        Balance,
        Lean,
        Length,
        EdgeDirection,
        Stretch,
        Lower,
        Extremities,
        HipShift,
        CardAndView,
        Calf,
        Ankles,
        Kneecap,
        Deltoid,
        PelvisTriangle,
        Collarbones,
        EyeLine,
        Thirds,
        MouthLine,
        Fives,
        Nostril,
        Corner,
        Ear,
        Neck,
        Turn,
    ];

    private static readonly Dictionary<string, Rule> ById = All.ToDictionary(r => r.Id);

    public static Rule? Find(string? id) => id is null ? null : ById.GetValueOrDefault(id);

    /// <summary>Names of rules as a sentence lists them, "heads in the height and half height".</summary>
    public static string Named(IEnumerable<string> ids) => Say.List([.. ids.Select(id => (Find(id)?.Name ?? id).ToLowerInvariant())]);
}
