using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Simulation;

/// <summary>A fault that a drawing of the figure may have, put into its landmarks exactly.</summary>
/// <param name="Size">A share (0.1: a tenth) or degrees, as the fault is counted.</param>
public sealed record NamedFault(string Name, double Size);

/// <summary>The named faults: each moves the landmarks of a drawing as the fault would, and nothing else.</summary>
public static class FigureFaults
{
    private static readonly string[] HeadIds =
    [
        "crown",
        "hairline",
        "brow",
        "eye.L",
        "eye.R",
        "nosebase",
        "nosetip",
        "mouth",
        "ear.L",
        "ear.R",
        "occiput",
    ];
    private static readonly string[] HandIds = ["wrist", "wristthumb", "knuckle", "fingertip", "thumbtip"];
    private static readonly string[] ArmIds = ["acromion", "deltoid", "elbow", "elbowpit", .. HandIds];
    private static readonly string[] FootIds = ["anklein", "ankleout", "heel", "sole", "ball", "toe"];
    private static readonly string[] ShankIds = ["kneebottom", "calfin", "calfout", .. FootIds];
    private static readonly string[] KneeIds = ["kneetop", "kneebottom", "kneein", "kneeout", "kneeback"];
    private static readonly string[] HipIds = ["asis", "psis", "iliac", "pubic", "crotch", "buttock", "trochanter", "glutefold"];
    private static readonly string[] LegIds = ["trochanter", "glutefold", "kneetop", "kneein", "kneeout", "kneeback", .. ShankIds];

    /// <summary>Names with their unit ("share", "deg" or "heads") and the sizes that a study tries.</summary>
    public static readonly IReadOnlyList<(string Name, string Unit, double Least, double Most)> All =
    [
        ("head large", "share", 0.04, 0.22),
        ("legs short", "share", 0.04, 0.2),
        ("shoulders level", "share", 0.5, 1),
        ("forearm at full length", "share", 0.5, 1),
        ("feet small", "share", 0.08, 0.35),
        ("hand small", "share", 0.08, 0.35),
        ("figure leaning", "deg", 2, 8),
        ("squeezed at the end", "share", 0.05, 0.2),
        ("one limb longer", "share", 0.06, 0.25),
        (ThighTurned, "deg", 4, 10),
        (ArmTurned, "deg", 4, 10),
        (ShankTurned, "deg", 4, 10),
        (HipsShifted, "heads", 0.12, 0.35),
        (WholeStretched, "share", 0.08, 0.15),
    ];

    public const string ThighTurned = "thigh turned",
        ArmTurned = "arm turned",
        ShankTurned = "lower leg turned",
        HipsShifted = "hips shifted",
        WholeStretched = "whole stretched",
        Leaning = "figure leaning";

    /// <summary>No fault: what any right drawing varies by. Its size is a seed.</summary>
    public const string Ordinary = "ordinary variation";

    /// <summary>1 σ of a limb's turn in degrees and of its length as a share; common practice of simulated hands, no source.</summary>
    private const double OrdinaryTurn = 1.3,
        OrdinaryLength = 0.02;

    /// <summary>The same for a drawn head, shares of its height or of the way.</summary>
    public static readonly IReadOnlyList<(string Name, string Unit, double Least, double Most)> OfHeads =
    [
        ("eyes high", "share", 0.02, 0.08),
        ("axis in the middle", "share", 0.4, 1),
        ("mouth low", "share", 0.015, 0.05),
        ("ears high", "share", 0.03, 0.09),
        ("neck thin", "share", 0.1, 0.3),
    ];

    private static readonly string[] EyeIds =
    [
        "eye",
        "eye-inner",
        "eye-outer",
        "lid-upper",
        "lid-lower",
        "pupil",
        "iris-inner",
        "iris-outer",
        "brow",
        "brow-inner",
        "brow-mid",
        "brow-outer",
        "glabella",
        "nose-root",
    ];
    private static readonly string[] MouthIds = ["mouth", "mouth-corner", "lip-slit", "lip-peak", "upper-lip", "lower-lip", "under-lip"];

    /// <summary>What lies on the middle of a face, each with the pair that it stands between.</summary>
    private static readonly (string Pair, string[] Middle)[] AxisIds =
    [
        ("eye-outer", ["glabella", "brow", "nose-root", "hairline"]),
        ("wing", ["nosetip", "nosebase"]),
        ("mouth-corner", ["upper-lip", "lip-slit", "lower-lip", "under-lip"]),
    ];

    /// <summary>The landmarks with a fault put in.</summary>
    /// <param name="marks">In any unit, y down.</param>
    /// <param name="seen">Seen over true length by limb, for a forearm drawn at the length it is known to have.</param>
    /// <param name="side">"L" or "R": the side of a fault that has one.</param>
    /// <exception cref="InputException">No fault of that name.</exception>
    public static Dictionary<string, Vec2> Apply(
        IReadOnlyDictionary<string, Vec2> marks,
        NamedFault fault,
        IReadOnlyDictionary<string, double> seen,
        string side
    )
    {
        var m = marks.ToDictionary();
        string[] Of(string[] stems, string s) => [.. stems.Select(x => $"{x}.{s}")];
        string[] Both(string[] stems) => [.. stems, .. Of(stems, "L"), .. Of(stems, "R")];
        void Move(IEnumerable<string> ids, Func<Vec2, Vec2> to)
        {
            foreach (var id in ids)
                if (m.TryGetValue(id, out var p))
                    m[id] = to(p);
        }
        void Grow(IEnumerable<string> ids, Vec2 about, double by) => Move(ids, p => about + ((p - about) * by));
        void Rotate(IEnumerable<string> ids, Vec2 about)
        {
            var (sin, cos) = Math.SinCos(fault.Size * Math.PI / 180);
            Move(ids, p =>
                about + new Vec2((cos * (p.X - about.X)) - (sin * (p.Y - about.Y)), (sin * (p.X - about.X)) + (cos * (p.Y - about.Y)))
            );
        }
        // Every limb a little turned and a little longer or shorter, as in any drawing that is right.
        void Vary(SeededRandom random)
        {
            foreach (var s in new[] { "L", "R" })
            {
                foreach (
                    var (ids, about) in new[]
                    {
                        (Of(["deltoid", "elbow", "elbowpit", .. HandIds], s), $"acromion.{s}"),
                        (Of(HandIds, s), $"elbow.{s}"),
                        (Of(LegIds, s), $"asis.{s}"),
                        (Of(ShankIds, s), $"kneetop.{s}"),
                    }
                )
                {
                    var (turn, grow) = (random.Normal(OrdinaryTurn), 1 + random.Normal(OrdinaryLength));
                    var (sin, cos) = Math.SinCos(turn * Math.PI / 180);
                    var at = m[about];
                    Move(ids, p =>
                        at + new Vec2((cos * (p.X - at.X)) - (sin * (p.Y - at.Y)), (sin * (p.X - at.X)) + (cos * (p.Y - at.Y))) * grow
                    );
                }
            }
            Grow(HeadIds, m["chin"], 1 + random.Normal(OrdinaryLength));
        }
        switch (fault.Name)
        {
            case "head large":
                Grow(HeadIds, m["chin"], 1 + fault.Size);
                break;
            case "legs short":
                foreach (var s in new[] { "L", "R" })
                    Grow(Of(LegIds, s), m[$"asis.{s}"], 1 - fault.Size);
                break;
            case "shoulders level":
                var (left, right) = (m["acromion.L"], m["acromion.R"]);
                var drop = (left.Y - right.Y) / 2 * fault.Size;
                Move(Of(ArmIds, "L"), p => p - new Vec2(0, drop));
                Move(Of(ArmIds, "R"), p => p + new Vec2(0, drop));
                break;
            case "forearm at full length":
                var elbow = m[$"elbow.{side}"];
                var along = m[$"wrist.{side}"] - elbow;
                var longer = ((1 / Math.Max(0.2, seen.GetValueOrDefault($"forearm.{side}", 1))) - 1) * fault.Size;
                Move(Of(HandIds, side), p => p + (along * longer));
                break;
            case "feet small":
                foreach (var s in new[] { "L", "R" })
                    Grow(Of(FootIds, s).Where(i => !i.StartsWith("ankle", StringComparison.Ordinal)), m[$"ankleout.{s}"], 1 - fault.Size);
                break;
            case "hand small":
                Grow(Of(HandIds, side).Where(i => !i.StartsWith("wrist", StringComparison.Ordinal)), m[$"wrist.{side}"], 1 - fault.Size);
                break;
            case Leaning:
                Rotate([.. m.Keys], Vec2.Mid(m["sole.L"], m["sole.R"]));
                break;
            case "squeezed at the end":
                // What lies below the pubic bone was fitted into what paper was left.
                var from = m["pubic"].Y;
                Move([.. m.Keys], p => p.Y > from ? p with { Y = from + ((p.Y - from) * (1 - fault.Size)) } : p);
                break;
            case "one limb longer":
                var knee = m[$"kneetop.{side}"];
                var more = (m[$"ankleout.{side}"] - knee) * fault.Size;
                Move(Of(FootIds, side), p => p + more);
                break;
            case Ordinary:
                Vary(new((long)fault.Size));
                break;
            case ThighTurned:
                Rotate(Of(LegIds, side), m[$"asis.{side}"]);
                break;
            case ArmTurned:
                Rotate(Of(["deltoid", "elbow", "elbowpit", .. HandIds], side), m[$"acromion.{side}"]);
                break;
            case ShankTurned:
                Rotate(Of(ShankIds, side), m[$"kneetop.{side}"]);
                break;
            case HipsShifted:
                var aside = new Vec2((m["chin"] - m["crown"]).Length * fault.Size, 0);
                Move(Both(HipIds), p => p + aside);
                Move(Both(KneeIds), p => p + (aside * 0.5));
                break;
            case WholeStretched:
                var floor = m.Values.Max(p => p.Y);
                Move([.. m.Keys], p => p with { Y = floor + ((p.Y - floor) * (1 + fault.Size)) });
                break;
            case "eyes high":
                Move(Both(EyeIds), p => p - ((m["chin"] - m["crown"]) * fault.Size));
                break;
            case "mouth low":
                Move(Both(MouthIds), p => p + ((m["chin"] - m["crown"]) * fault.Size));
                break;
            case "ears high":
                Move(Both(["ear", "ear-top", "ear-base", "ear-front"]), p => p - ((m["chin"] - m["crown"]) * fault.Size));
                break;
            case "neck thin":
                var neck = Vec2.Mid(m["neck-side.L"], m["neck-side.R"]);
                Move(Both(["neck-side"]), p => neck + ((p - neck) * (1 - fault.Size)));
                break;
            case "axis in the middle":
                // The features of a turned head drawn where they stand on one seen from the front: each half way between its sides.
                foreach (var (pair, middle) in AxisIds)
                    Move(middle, p => p + (new Vec2(((m[$"{pair}.L"].X + m[$"{pair}.R"].X) / 2) - p.X, 0) * fault.Size));
                break;
            default:
                throw new InputException(
                    $"there is no fault '{fault.Name}'",
                    "fault",
                    string.Join(" | ", All.Concat(OfHeads).Select(a => a.Name))
                );
        }
        return m;
    }
}
