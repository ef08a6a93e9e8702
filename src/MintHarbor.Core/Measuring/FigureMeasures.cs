using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;

namespace MintHarbor.Core.Measuring;

/// <summary>What is measured on a drawn figure. Lengths are taken along the pencil, heights upright; a head is crown to
/// chin. Where both feet or knees are drawn the standing leg's counts, else the middle of the two.</summary>
public sealed class FigureMeasures(LandmarkSet marks, string? standingLeg)
{
    private static double Dist(Func<string, Vec2> at, string a, string b) => (at(a) - at(b)).Length;

    private static double Head(Func<string, Vec2> at) => Dist(at, "crown", "chin");

    /// <summary>The side or sides of a paired landmark that stand for the figure as a whole.</summary>
    private string[] Sides(string id)
    {
        if (standingLeg is not null && marks.Has($"{id}.{standingLeg}"))
            return [$"{id}.{standingLeg}"];
        string[] both = [$"{id}.L", $"{id}.R"];
        return both.All(marks.Has) ? both : both.Where(marks.Has).DefaultIfEmpty(both[0]).ToArray();
    }

    private static Vec2 Middle(Func<string, Vec2> at, string[] ids) => ids.Length == 1 ? at(ids[0]) : Vec2.Mid(at(ids[0]), at(ids[1]));

    public Measure Heads()
    {
        var sole = Sides("sole");
        return new(
            Rules.Heads,
            null,
            MeasureKind.Ratio,
            "heads",
            ["crown", "chin", .. sole],
            at => (Middle(at, sole).Y - at("crown").Y) / Head(at),
            "height crown to sole ÷ head crown to chin"
        )
        {
            CardKey = PoseCardKeys.Heads,
            At = ["crown", "chin"],
        };
    }

    public Measure Shoulders() =>
        new(
            Rules.Shoulder,
            null,
            MeasureKind.Ratio,
            "heads",
            ["deltoid.L", "deltoid.R", "crown", "chin"],
            at => Dist(at, "deltoid.L", "deltoid.R") / Head(at),
            "breadth over the deltoids ÷ head"
        )
        {
            CardKey = PoseCardKeys.Shoulders,
        };

    /// <summary>A distance from the pit of the neck, by the card's key: pitToPubic, pitToKneetop or pitToSole.</summary>
    public Measure PitTo(string key)
    {
        var (id, name) = PoseCardKeys.PitTo[key];
        var to = id == "pubic" ? ["pubic"] : Sides(id);
        return new(
            Rules.Spans,
            new(key, name),
            MeasureKind.Ratio,
            "heads",
            ["pit", "crown", "chin", .. to],
            at => (Middle(at, to) - at("pit")).Length / Head(at),
            $"{name} ÷ head"
        )
        {
            CardKey = key,
        };
    }

    /// <summary>A direction that a card reads as a clock hand: shoulders, pelvis or action.</summary>
    public Measure Direction(string part)
    {
        var soles = Sides("sole");
        return part switch
        {
            Parts.Shoulders => Edge(part, "acromion.R", "acromion.L"),
            Parts.Pelvis => Edge(part, "asis.R", "asis.L"),
            _ => new(
                Rules.Tilt,
                Parts.Action,
                MeasureKind.Angle,
                "deg",
                ["pit", .. soles],
                at => ClockAngle.OfEdge(Middle(at, soles), at("pit")),
                "direction of the line from the standing foot to the pit of the neck"
            ),
        };

        static Measure Edge(string part, string a, string b) =>
            new(
                Rules.Tilt,
                part,
                MeasureKind.Angle,
                "deg",
                [a, b],
                at => ClockAngle.OfEdge(at(a), at(b)),
                $"direction of the line through {LandmarkIds.Name(a)} and {LandmarkIds.Name(b)}"
            );
    }

    public static Measure Plumb(string from, string to) =>
        new(
            Rules.Balance,
            new(Parts.Plumb, $"plumb from {LandmarkIds.Name(from)} to {LandmarkIds.Name(to)}"),
            MeasureKind.Offset,
            "heads",
            [from, to, "crown", "chin"],
            at => (at(to).X - at(from).X) / Head(at),
            $"how far {LandmarkIds.Name(to)} stands right of the plumb from {LandmarkIds.Name(from)} ÷ head"
        )
        {
            At = [to],
        };

    public Measure Mid()
    {
        var sole = Sides("sole");
        return new(
            Rules.Mid,
            null,
            MeasureKind.Ratio,
            "share of height",
            ["crown", "pubic", .. sole],
            at => (at("pubic").Y - at("crown").Y) / (Middle(at, sole).Y - at("crown").Y),
            "crown to pubic bone ÷ crown to sole"
        );
    }

    public Measure[] Spans()
    {
        var (iliac, knee, toe) = (Sides("iliac"), Sides("kneetop"), Sides("toe"));
        double Torso(Func<string, Vec2> at) => (at("pubic") - at("pit")).Length;
        double Thigh(Func<string, Vec2> at) => (Middle(at, knee) - Middle(at, iliac)).Length;
        double Shank(Func<string, Vec2> at) => (Middle(at, toe) - Middle(at, knee)).Length;
        return
        [
            new(
                Rules.Spans,
                new(Parts.Thigh, "hip crest to kneecap : pit to pubic bone"),
                MeasureKind.Ratio,
                "ratio",
                ["pit", "pubic", .. iliac, .. knee],
                at => Thigh(at) / Torso(at),
                "hip crest to kneecap ÷ pit to pubic bone"
            ),
            new(
                Rules.Spans,
                new(Parts.Shank, "kneecap to toes : hip crest to kneecap"),
                MeasureKind.Ratio,
                "ratio",
                [.. iliac, .. knee, .. toe],
                at => Shank(at) / Thigh(at),
                "kneecap to toes ÷ hip crest to kneecap"
            ),
        ];
    }

    public static IEnumerable<Measure> EachSide(Func<string, Measure> make) => new[] { make("R"), make("L") };

    public static Measure Hand(string s)
    {
        var (wrist, tip) = ($"wrist.{s}", $"fingertip.{s}");
        return new(
            Rules.Hand,
            Side(s),
            MeasureKind.Ratio,
            "ratio",
            [wrist, tip, "chin", "hairline"],
            at => Dist(at, wrist, tip) / Dist(at, "chin", "hairline"),
            "wrist to fingertip ÷ chin to hairline"
        );
    }

    public static Measure Foot(string s)
    {
        var (heel, toe) = ($"heel.{s}", $"toe.{s}");
        return new(
            Rules.Foot,
            Side(s),
            MeasureKind.Ratio,
            "heads",
            [heel, toe, "crown", "chin"],
            at => Dist(at, heel, toe) / Head(at),
            "heel to toes ÷ head"
        );
    }

    public static Measure Elbow(string s)
    {
        var (elbow, arch) = ($"elbow.{s}", $"ribarch.{s}");
        return new(
            Rules.Elbow,
            Side(s),
            MeasureKind.Offset,
            "heads",
            [elbow, arch, "crown", "chin"],
            at => (at(elbow).Y - at(arch).Y) / Head(at),
            "how far the elbow lies below the bottom of the ribcage ÷ head"
        );
    }

    public static IEnumerable<Measure> Arm(string s)
    {
        var (shoulder, elbow, wrist, tip) = ($"acromion.{s}", $"elbow.{s}", $"wrist.{s}", $"fingertip.{s}");
        return
        [
            new(
                Rules.Arm,
                new(Parts.UpperArm, $"upper arm : forearm, {Side(s)}"),
                MeasureKind.Ratio,
                "ratio",
                [shoulder, elbow, wrist],
                at => Dist(at, shoulder, elbow) / Dist(at, elbow, wrist),
                "shoulder to elbow ÷ elbow to wrist"
            ),
            new(
                Rules.Arm,
                new(Parts.Forearm, $"forearm : hand, {Side(s)}"),
                MeasureKind.Ratio,
                "ratio",
                [elbow, wrist, tip],
                at => Dist(at, elbow, wrist) / Dist(at, wrist, tip),
                "elbow to wrist ÷ wrist to fingertip"
            ),
        ];
    }

    public static Measure Pair(string name, string a, string b)
    {
        var (aLeft, bLeft, aRight, bRight) = ($"{a}.L", $"{b}.L", $"{a}.R", $"{b}.R");
        return new(
            Rules.Pair,
            name,
            MeasureKind.Ratio,
            "ratio",
            [aLeft, bLeft, aRight, bRight],
            at => Dist(at, aLeft, bLeft) / Dist(at, aRight, bRight),
            $"left {name} ÷ right {name}"
        );
    }

    public static readonly (string Name, string A, string B)[] Limbs =
    [
        ("upper arm", "acromion", "elbow"),
        ("forearm", "elbow", "wrist"),
        ("thigh", "asis", "kneetop"),
        ("shank", "kneetop", "ankleout"),
    ];

    public static IEnumerable<Measure> Arms() => new[] { "R", "L" }.SelectMany(Arm);

    public static IEnumerable<Measure> Pairs() => Limbs.Select(l => Pair(l.Name, l.A, l.B));

    public IEnumerable<Measure> Wrists() => new[] { "R", "L" }.SelectMany(Wrist);

    public IEnumerable<Measure> Wrist(string s)
    {
        var (knee, wrist, tip) = (Sides("kneetop"), $"wrist.{s}", $"fingertip.{s}");
        yield return new(
            Rules.Wrist,
            $"wrist, {Side(s)}",
            MeasureKind.Offset,
            "heads",
            [wrist, "pubic", "crown", "chin"],
            at => (at(wrist).Y - at("pubic").Y) / Head(at),
            "how far the wrist lies below the pubic bone ÷ head"
        );
        yield return new(
            Rules.Wrist,
            $"fingertips, {Side(s)}",
            MeasureKind.Offset,
            "heads",
            [tip, "crotch", "crown", "chin", .. knee],
            at => (at(tip).Y - ((at("crotch").Y + Middle(at, knee).Y) / 2)) / Head(at),
            "how far the fingertips lie below the middle of crotch and kneecap ÷ head"
        );
    }

    /// <summary>Contrapposto: both tilts as signs (positive is right) and the pit over the standing foot.</summary>
    public static IReadOnlyList<Measure> Tilt(string leg)
    {
        var free = leg == "L" ? "R" : "L";
        return
        [
            new(
                Rules.Tilt,
                new(Parts.PelvisHigh, "pelvis high on the standing side"),
                MeasureKind.Sign,
                "deg",
                [$"asis.{leg}", $"asis.{free}"],
                at => Rise(at($"asis.{free}"), at($"asis.{leg}")),
                "rise of the pelvis towards the standing leg"
            ),
            new(
                Rules.Tilt,
                new(Parts.ShouldersAgainst, "shoulders against the pelvis"),
                MeasureKind.Sign,
                "deg",
                [$"acromion.{leg}", $"acromion.{free}"],
                at => Rise(at($"acromion.{leg}"), at($"acromion.{free}")),
                "fall of the shoulders towards the standing leg"
            ),
            new(
                Rules.Tilt,
                new(Parts.PitOverFoot, "pit over the standing foot"),
                MeasureKind.Offset,
                "heads",
                ["pit", $"sole.{leg}", "crown", "chin"],
                at => (at($"sole.{leg}").X - at("pit").X) / Head(at),
                "sole of the standing foot right of the plumb from the pit ÷ head"
            )
            {
                Mark = Mark.Plumb,
            },
        ];

        static double Rise(Vec2 low, Vec2 high) => Math.Atan2(low.Y - high.Y, Math.Abs(high.X - low.X)) * 180 / Math.PI;
    }

    private static string Side(string s) => s == "L" ? "left" : "right";

    // Mass as a share of the body and centre from the proximal end: Dempster 1955 via Winter, Biomechanics and Motor
    // Control of Human Movement (published; values written from memory of the table).
    private static readonly (string A, string B, double Mass, double At)[] Segments =
    [
        ("wrist", "fingertip", 0.006, 0.506),
        ("elbow", "wrist", 0.016, 0.430),
        ("acromion", "elbow", 0.028, 0.436),
        ("ankleout", "toe", 0.0145, 0.50),
        ("kneetop", "ankleout", 0.0465, 0.433),
        ("asis", "kneetop", 0.100, 0.433),
    ];

    /// <summary>The landmarks that the centre of mass is taken from.</summary>
    public static readonly IReadOnlyList<string> MassIds =
    [
        .. new[] { "L", "R" }.SelectMany(side => Segments.SelectMany(s => new[] { $"{s.A}.{side}", $"{s.B}.{side}" })).Distinct(),
        "crown",
        "chin",
    ];

    /// <summary>The share that each of <see cref="MassIds"/> has in the centre of mass; together 1.</summary>
    private static readonly Dictionary<string, double> MassShares = Shares();

    /// <summary>How far the centre of mass goes along when every landmark moves by itself: root of the sum of the squared shares.</summary>
    public static readonly double MassSteepness = Math.Sqrt(MassShares.Values.Sum(v => v * v));

    private static Dictionary<string, double> Shares()
    {
        const double trunk = 0.497,
            head = 0.081;
        var shares = MassIds.ToDictionary(id => id, _ => 0.0);
        foreach (var side in new[] { "L", "R" })
        {
            foreach (var (a, b, mass, at) in Segments)
            {
                shares[$"{a}.{side}"] += mass * (1 - at);
                shares[$"{b}.{side}"] += mass * at;
            }
            // The trunk's middle lies between the middles of shoulders and hips.
            shares[$"acromion.{side}"] += trunk / 4;
            shares[$"asis.{side}"] += trunk / 4;
        }
        shares["crown"] += head / 2;
        shares["chin"] += head / 2;
        var all = shares.Values.Sum();
        return shares.ToDictionary(p => p.Key, p => p.Value / all);
    }

    /// <summary>The centre of mass seen in the picture, from the segment table; null when a segment is not placed.</summary>
    public static Vec2? CentreOfMass(LandmarkSet l) => MassIds.All(l.Has) ? MassAt(id => l[id]!.Value) : null;

    /// <param name="at">Place of each of <see cref="MassIds"/>.</param>
    public static Vec2 MassAt(Func<string, Vec2> at)
    {
        Vec2 sum = new(0, 0);
        foreach (var (id, share) in MassShares)
            sum += at(id) * share;
        return sum;
    }

    private static readonly string[] Feet =
    [
        "sole.L",
        "sole.R",
        "heel.L",
        "heel.R",
        "toe.L",
        "toe.R",
        "ball.L",
        "ball.R",
        "ankleout.L",
        "ankleout.R",
        "anklein.L",
        "anklein.R",
    ];

    /// <summary>Base of support as seen: the feet's landmarks, least and greatest x in mm. Null with fewer than two.</summary>
    public (double Left, double Right, string[] Ids)? Support()
    {
        var ids = Feet.Where(marks.Has).ToArray();
        return ids.Length < 2 ? null : (ids.Min(i => marks[i]!.Value.X), ids.Max(i => marks[i]!.Value.X), ids);
    }
}
