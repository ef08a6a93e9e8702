using System.Numerics;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace MintHarbor.Core.Figure;

/// <summary>The pelvis: angles in degrees and, where the pose fixes them, its height or place.</summary>
/// <param name="Side">Positive: the left side of the pelvis lower.</param>
/// <param name="Height">Height of the pelvis joint; null where the weight leg decides it.</param>
public sealed record RootOfPose(float Flex = 0, float Side = 0, float Twist = 0, float? Height = null, Vector3? At = null);

/// <param name="At">Place of the ankle on the floor, x and z.</param>
/// <param name="Lift">Degrees that the heel is lifted about the ball.</param>
/// <param name="Knee">Direction in which the knee points.</param>
/// <param name="Free">The foot keeps its own angles instead of standing flat.</param>
/// <param name="Straight">Share of the leg's length that it reaches at most.</param>
public sealed record FootOfPose(
    Vector2 At,
    float Yaw = 0,
    float Lift = 0,
    float Floor = 0,
    float Roll = 0,
    Vector3? Knee = null,
    bool Free = false,
    float? Straight = null
);

/// <param name="Bone">The bone whose rest space <paramref name="At"/> is in; null for a place in the room.</param>
/// <param name="Elbow">Direction in which the elbow points.</param>
/// <param name="ElbowInThorax">That direction is in the frame of the ribcage.</param>
public sealed record HandOfPose(
    Vector3 At,
    string? Bone = null,
    Vector3? Elbow = null,
    bool ElbowInThorax = false,
    Vector3? Fingers = null,
    Vector3? Palm = null
);

/// <param name="Shape">cylinder (half sizes radius, half height, radius) or box.</param>
public sealed record PropOfPose(string Shape, Vector3 At, Vector3 Half);

/// <summary>A pose of the studio figure: how it stands, what it is good for, and how it is built.</summary>
/// <param name="Strain">One of <see cref="Figure.Strains.Words"/>.</param>
/// <param name="Level">beginner, intermediate or advanced.</param>
/// <param name="Support">What bears the weight, in words.</param>
/// <param name="Trouble">What is hard to draw in it.</param>
/// <param name="Shows">What of it a term should have shown: weight-shift, twist, arms-up, foreshortened, overlap or kneeling.</param>
/// <param name="Balance">Share of weight on left and right foot; null where a seat or the floor bears it.</param>
/// <param name="Rests">What lies on floor, seat or block, and what gives way until it does.</param>
public sealed record Pose(
    string Id,
    string Name,
    string Strain,
    string Level,
    string[] Purposes,
    string[] Parts,
    string Support,
    string Trouble,
    RootOfPose Root,
    Dictionary<string, Dictionary<string, float>> Joints,
    Dictionary<string, FootOfPose>? Feet = null,
    Dictionary<string, HandOfPose>? Hands = null,
    PropOfPose[]? Props = null,
    float[]? Balance = null,
    string? Weight = null,
    string[]? Shows = null,
    RestOfPose[]? Rests = null
)
{
    public static readonly string[] Kinds = ["weight-shift", "twist", "arms-up", "foreshortened", "overlap", "kneeling"];
    public static readonly string[] Levels = ["beginner", "intermediate", "advanced"];

    /// <summary>Reads and checks a file of poses: known joints, angles inside their limits, known bones.</summary>
    /// <exception cref="FigureFileException">Anything wrong, with the file and the line or key.</exception>
    public static IReadOnlyList<Pose> ReadAll(string file, string json, FigureTables tables)
    {
        var poses = FigureFile.Parse<Pose[]>(file, json);
        foreach (var twice in poses.GroupBy(p => p.Id).Where(g => g.Count() > 1))
            throw new FigureFileException(file, twice.Key, "there are two poses of this id");
        foreach (var p in poses)
            p.Check(file, tables);
        return poses;
    }

    /// <summary>Reads one pose from its JSON, as a course keeps it.</summary>
    public static Pose Read(string json, FigureTables tables)
    {
        var pose = FigureFile.Parse<Pose>("pose", json);
        pose.Check("pose", tables);
        return pose;
    }

    public string ToJson() => JsonSerializer.Serialize(this, FigureFile.Format);

    /// <exception cref="FigureFileException">An unknown joint, angle or bone, or an angle outside its limits.</exception>
    public void Check(string file, FigureTables tables)
    {
        void Fail(string key, string problem) => throw new FigureFileException(file, $"{Id}.{key}", problem);
        var kinds = tables.Bones.ToDictionary(b => Sides.Stem(b.Id), b => tables.Kinds[b.Kind]);
        var bones = tables
            .Bones.Where(b => b.Follows is null)
            .SelectMany(b => Sides.Of(b.Id).Select(s => Sides.Id(b.Id, s)))
            .ToHashSet(StringComparer.Ordinal);
        if (!Figure.Strains.Words.Contains(Strain))
            Fail("strain", $"'{Strain}' is none of {string.Join(", ", Figure.Strains.Words)}");
        if (!Levels.Contains(Level))
            Fail("level", $"'{Level}' is none of {string.Join(", ", Levels)}");
        foreach (var shown in (Shows ?? []).Where(s => !Kinds.Contains(s)))
            Fail("shows", $"'{shown}' is none of {string.Join(", ", Kinds)}");
        foreach (var (bone, angles) in Joints)
        {
            if (!bones.Contains(bone) || bone == "pelvis")
                Fail($"joints.{bone}", $"there is no such joint; the joints are {string.Join(", ", bones.Where(b => b != "pelvis"))}");
            foreach (var (angle, degrees) in angles)
            {
                if (kinds[Sides.Stem(bone)].All(a => a.Angle != angle))
                    Fail(
                        $"joints.{bone}.{angle}",
                        $"this joint turns by {string.Join(", ", kinds[Sides.Stem(bone)].Select(a => a.Angle))}"
                    );
                if (tables.Limit(bone, angle) is { } l && (degrees < l.Least - 0.01f || degrees > l.Greatest + 0.01f))
                    Fail($"joints.{bone}.{angle}", $"{degrees}° is outside {l.Least}° to {l.Greatest}°");
            }
        }
        foreach (var side in (Feet ?? []).Keys.Concat((Hands ?? []).Keys))
        {
            if (side is not ("L" or "R"))
                Fail(side, "feet and hands are L and R");
        }
        foreach (var (side, hand) in Hands ?? [])
        {
            if (hand.Bone is { } b && !bones.Contains(b))
                Fail($"hands.{side}.bone", $"there is no bone '{b}'");
        }
        if (Balance is { Length: not 2 })
            Fail("balance", "two shares, left and right");
        foreach (var rest in Rests ?? [])
        {
            foreach (var part in rest.Parts.Where(b => !bones.Contains(b)))
                Fail("rests", $"there is no bone '{part}'");
            if (!Gives(rest.By, tables))
                Fail("rests", $"'{rest.By}' gives way to nothing; root, feet.L, hands.L or an angle of a joint of this pose does");
        }
        foreach (var prop in Props ?? [])
        {
            if (prop.Shape is not ("cylinder" or "box"))
                Fail("props", $"'{prop.Shape}' is no prop; one of cylinder, box");
        }
    }

    /// <summary>A prop narrower than this is a staff or a rope: gripped, not rested on. Units.</summary>
    private const float Gripped = 2;

    /// <summary>Lower than this the pelvis of a pose with a height of its own is no longer borne by the feet, units.</summary>
    private const float LowPelvis = 30;

    /// <summary>Whether it is held on, or against, a stool, bench or block.</summary>
    [JsonIgnore]
    public bool RestsOnBlock => Props?.Any(p => p.Half.X > Gripped) == true;

    /// <summary>Whether the feet bear it.</summary>
    [JsonIgnore]
    public bool OnFeet =>
        Balance is not null
        || (!RestsOnBlock && Feet is { Count: 2 } && Feet.Values.All(f => !f.Free) && (Root.At?.Y ?? Root.Height ?? 0) > LowPelvis);

    private bool Gives(string by, FigureTables tables)
    {
        var way = by.Split('.');
        return by == "root"
            || (way is ["feet", var foot] && Feet?.ContainsKey(foot) == true)
            || (way is ["hands", var hand] && Hands?.GetValueOrDefault(hand) is { Bone: null })
            || (way.Length > 1 && tables.Limit(string.Join('.', way[..^1]), way[^1]) is not null);
    }

    /// <summary>The same pose seen in a mirror: left and right change places.</summary>
    public Pose Mirrored()
    {
        static Vector3? Flip(Vector3? v) => v is { } x ? x with { X = -x.X } : null;
        return this with
        {
            Root = Root with { Side = -Root.Side, Twist = -Root.Twist, At = Flip(Root.At) },
            Joints = Joints.ToDictionary(
                j => Sides.Other(j.Key),
                j =>
                    Sides.Other(j.Key) == j.Key
                        ? j.Value.ToDictionary(a => a.Key, a => a.Key is "side" or "twist" ? -a.Value : a.Value)
                        : j.Value
            ),
            Feet = Feet?.ToDictionary(
                f => f.Key == "L" ? "R" : "L",
                f =>
                    f.Value with
                    {
                        At = new(-f.Value.At.X, f.Value.At.Y),
                        Yaw = -f.Value.Yaw,
                        Roll = -f.Value.Roll,
                        Knee = Flip(f.Value.Knee),
                    }
            ),
            Hands = Hands?.ToDictionary(
                h => h.Key == "L" ? "R" : "L",
                h =>
                    h.Value with
                    {
                        At = Flip(h.Value.At)!.Value,
                        Bone = h.Value.Bone is { } b ? Sides.Other(b) : null,
                        Elbow = Flip(h.Value.Elbow),
                        Fingers = Flip(h.Value.Fingers),
                        Palm = Flip(h.Value.Palm),
                    }
            ),
            Props = Props?.Select(p => p with { At = Flip(p.At)!.Value }).ToArray(),
            Rests = Rests?.Select(r => r with { Parts = [.. r.Parts.Select(Sides.Other)], By = OtherWay(r.By) }).ToArray(),
            Balance = Balance is { } w ? [w[1], w[0]] : null,
            Weight =
                Weight is null ? null
                : Weight == "L" ? "R"
                : "L",
        };
    }

    private static string OtherWay(string by) =>
        by.Contains(".L", StringComparison.Ordinal)
            ? by.Replace(".L", ".R", StringComparison.Ordinal)
            : by.Replace(".R", ".L", StringComparison.Ordinal);
}
