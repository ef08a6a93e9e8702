using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <summary>One thing that may have gone wrong and put many measures off: how it would move the landmarks of a reference view.</summary>
/// <param name="Rule">The rule that it is said by, with its part; a finding of the judge's own where it has one, else one made for it.</param>
/// <param name="Most">How far it is looked for to either side, in its unit: a share, degrees or heads.</param>
/// <param name="Tolerance">What of it is no fault, as the judge's tolerances: common practice, no source.</param>
/// <param name="Move">Where the landmarks of the reference go when it is there by so much.</param>
/// <param name="Needs">Landmarks that it is spoken of at.</param>
/// <param name="Kind">Of its measure: a ratio to the reference, an offset in heads, or an angle, which is said by the judge's own finding alone.</param>
internal sealed record Cause(
    Rule Rule,
    Part? Part,
    double Most,
    double Tolerance,
    Func<IReadOnlyDictionary<string, Vec2>, double, Dictionary<string, Vec2>> Move,
    IReadOnlyList<string> Needs,
    MeasureKind Kind = MeasureKind.Ratio
)
{
    public string Key => Part is null ? Rule.Id : $"{Rule.Id}: {Part.Name}";

    /// <summary>A measure whose value is known already.</summary>
    public Measure Told(double amount) =>
        new(
            Rule,
            Part,
            Kind,
            Kind == MeasureKind.Ratio ? "ratio" : "heads",
            Needs,
            _ => None + amount,
            "what of it, put into the reference view, leaves least between the two"
        );

    /// <summary>The value of its measure when it isn't there.</summary>
    public double None => Kind == MeasureKind.Ratio ? 1 : 0;
}

/// <summary>The causes that a figure's faults are traced to.</summary>
internal static class Causes
{
    private static readonly string[] Head = ["crown", "hairline", "brow", "eye", "nosebase", "nosetip", "mouth", "ear", "occiput"];
    private static readonly string[] HandBelow = ["knuckle", "fingertip", "thumbtip"];
    private static readonly string[] Hand = ["wrist", "wristthumb", .. HandBelow];
    private static readonly string[] Forearm = ["elbow", "elbowpit", .. Hand];
    private static readonly string[] Arm = ["deltoid", .. Forearm];
    private static readonly string[] FootBelow = ["heel", "sole", "ball", "toe"];
    private static readonly string[] Foot = ["anklein", "ankleout", .. FootBelow];
    private static readonly string[] Shank = ["kneetop", "kneebottom", "kneein", "kneeout", "kneeback", "calfin", "calfout", .. Foot];
    private static readonly string[] Leg = ["trochanter", "glutefold", .. Shank];
    private static readonly string[] Hips = ["asis", "psis", "iliac", "pubic", "crotch", "trochanter", "glutefold", "buttock"];

    /// <summary>What causes turn or grow about, beside what they move.</summary>
    public static readonly IReadOnlyList<string> Anchors =
    [
        "crown",
        "chin",
        "pubic",
        .. new[] { "acromion", "elbow", "wrist", "asis", "kneetop", "ankleout", "sole" }.SelectMany(s => new[] { s + ".L", s + ".R" }),
    ];

    public static readonly IReadOnlyList<Cause> All =
    [
        new(Rules.Length, new("head", "head"), 0.35, 0.05, Grow("chin", Head), ["crown", "chin"]),
        new(Rules.Lean, null, 12, 2, Lean, ["crown", "chin"], MeasureKind.Angle),
        new(Rules.Stretch, "height of the whole for its breadth", 0.25, 0.05, (m, a) => Stretch(m, a, null), ["crown", "sole.R"]),
        new(Rules.Lower, "lower part of the figure", 0.3, 0.05, (m, a) => Stretch(m, a, "pubic"), ["pubic", "sole.R"]),
        new(Rules.Lower, "legs", 0.3, 0.05, Legs, ["pubic", "sole.R"]),
        new(Rules.Extremities, "hands and feet", 0.45, 0.08, Ends, ["wrist.R", "fingertip.R"]),
        new(Rules.HipShift, "hips", 0.6, 0.08, Shift, ["pubic"], MeasureKind.Offset),
        .. new[] { ("left", ".L"), ("right", ".R") }.SelectMany(s => OfSide(s.Item1, s.Item2)),
    ];

    private static IEnumerable<Cause> OfSide(string name, string s)
    {
        Cause Turns(string id, string part, string from, string to, string[] moved) =>
            new(Rules.EdgeDirection, new(id, $"{name} {part}"), 25, 4, Turn(from + s, moved, s), [from + s, to + s], MeasureKind.Angle);
        Cause Grows(string id, string part, string from, string to, string[] moved) =>
            new(Rules.Length, new(id, $"{name} {part}"), 0.35, 0.05, Grow(from + s, moved, s), [from + s, to + s]);
        return
        [
            Turns("upper-arm", "upper arm", "acromion", "elbow", Arm),
            Turns("forearm", "forearm", "elbow", "wrist", Hand),
            Turns("thigh", "thigh", "asis", "kneetop", Leg),
            Turns("shank", "lower leg", "kneetop", "ankleout", Foot),
            Grows("upper-arm", "upper arm", "acromion", "elbow", Arm),
            Grows("thigh", "thigh", "asis", "kneetop", Leg),
        ];
    }

    private static IEnumerable<string> Sided(string[] stems, string? side) =>
        side is null ? stems.SelectMany(s => new[] { s, s + ".L", s + ".R" }) : stems.Select(s => s + side);

    private static Dictionary<string, Vec2> Moved(IReadOnlyDictionary<string, Vec2> m, IEnumerable<string> ids, Func<Vec2, Vec2> to)
    {
        var moved = m.ToDictionary();
        foreach (var id in ids)
            if (m.TryGetValue(id, out var p))
                moved[id] = to(p);
        return moved;
    }

    private static Vec2 Turned(Vec2 p, Vec2 about, double degrees)
    {
        var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
        var d = p - about;
        return about + new Vec2((cos * d.X) - (sin * d.Y), (sin * d.X) + (cos * d.Y));
    }

    private static Func<IReadOnlyDictionary<string, Vec2>, double, Dictionary<string, Vec2>> Grow(
        string about,
        string[] stems,
        string? side = null
    ) =>
        (m, share) =>
            m.TryGetValue(about, out var from) ? Moved(m, Sided(stems, side), p => from + ((p - from) * (1 + share))) : m.ToDictionary();

    private static Func<IReadOnlyDictionary<string, Vec2>, double, Dictionary<string, Vec2>> Turn(
        string about,
        string[] stems,
        string side
    ) => (m, degrees) => m.TryGetValue(about, out var at) ? Moved(m, Sided(stems, side), p => Turned(p, at, degrees)) : m.ToDictionary();

    private static Dictionary<string, Vec2> Lean(IReadOnlyDictionary<string, Vec2> m, double degrees)
    {
        var foot = m.Values.MaxBy(p => p.Y);
        return Moved(m, m.Keys, p => Turned(p, foot, degrees));
    }

    /// <summary>Everything, or what lies below a landmark, drawn higher or lower than it is broad.</summary>
    private static Dictionary<string, Vec2> Stretch(IReadOnlyDictionary<string, Vec2> m, double share, string? below)
    {
        var from =
            below is null ? m.Values.Min(p => p.Y)
            : m.TryGetValue(below, out var at) ? at.Y
            : double.MaxValue;
        return Moved(m, m.Keys, p => p.Y > from ? p with { Y = from + ((p.Y - from) * (1 + share)) } : p);
    }

    private static Dictionary<string, Vec2> Legs(IReadOnlyDictionary<string, Vec2> m, double share) =>
        Grow("asis.R", Leg, ".R")(Grow("asis.L", Leg, ".L")(m, share), share);

    private static Dictionary<string, Vec2> Ends(IReadOnlyDictionary<string, Vec2> m, double share)
    {
        var to = m.ToDictionary();
        foreach (var side in new[] { ".L", ".R" })
            to = Grow("ankleout" + side, FootBelow, side)(Grow("wrist" + side, HandBelow, side)(to, share), share);
        return to;
    }

    /// <summary>The hips beside where they should be, chest and feet in their places; the knees half as far.</summary>
    private static Dictionary<string, Vec2> Shift(IReadOnlyDictionary<string, Vec2> m, double heads)
    {
        if (!m.TryGetValue("crown", out var crown) || !m.TryGetValue("chin", out var chin))
            return m.ToDictionary();
        var by = new Vec2(heads * (chin - crown).Length, 0);
        var hips = Moved(m, Sided(Hips, null), p => p + by);
        return Moved(hips, Sided([.. Shank.Except(Foot)], null), p => p + (by * 0.5));
    }
}
