using System.Globalization;
using System.Numerics;
using System.Text.RegularExpressions;

namespace MintHarbor.Core.Figure;

/// <summary>One thing about a pose that a hand can change.</summary>
/// <param name="Key">Joint and angle ("thorax.twist", "arm.L.abd"), or a foot's place ("feet.L.x", ".z", ".lift").</param>
/// <param name="Value">As the pose stands, degrees; feet x and z in hundredths of stature.</param>
public sealed record PoseHandle(string Key, string Group, string Name, double Value, double Least, double Greatest);

/// <summary>Changing a pose within the limits of its joints, by handles or in words.</summary>
public static partial class PoseEdit
{
    private static readonly (string Bone, string Group)[] Spine =
    [
        ("pelvis", "Pelvis"),
        ("lumbar", "Waist"),
        ("thorax", "Ribcage"),
        ("neck", "Neck"),
        ("head", "Head"),
    ];
    private static readonly (string Bone, string Name)[] Arm =
    [
        ("clav", "shoulder"),
        ("arm", "upper arm"),
        ("fore", "elbow"),
        ("hand", "wrist"),
    ];

    private static readonly Dictionary<string, string> AngleNames = new()
    {
        ["flex"] = "forward",
        ["side"] = "down on the left",
        ["twist"] = "turned to the left",
        ["abd"] = "out to the side",
        ["raise"] = "raised",
        ["fwd"] = "drawn forward",
        ["pron"] = "palm turned back",
        ["dev"] = "to the thumb",
    };

    private static readonly (float, float) RootLimits = (-40, 60),
        FootLimits = (-30, 30),
        LiftLimits = (0, 60);

    /// <summary>Everything that can be changed of a model's pose, with the angles as they are solved: a hand that was placed shows the
    /// angles it was placed by.</summary>
    public static IReadOnlyList<PoseHandle> Handles(FigureModel model)
    {
        var s = model.Skeleton;
        var pose = s.Pose;
        var tables = s.Body.Tables;
        var handles = new List<PoseHandle>();
        void Angles(string bone, string group, string name)
        {
            var index = s.Body.BoneIndex(bone);
            foreach (var a in s.Body.Bones[index].Angles)
            {
                var (least, most) = bone == "pelvis" ? RootLimits : tables.Limit(bone, a.Angle) ?? RootLimits;
                var says = AngleNames.GetValueOrDefault(a.Angle, a.Angle);
                if (bone.StartsWith("fore", StringComparison.Ordinal))
                    says = "bent";
                else if (bone.StartsWith("hand", StringComparison.Ordinal) && a.Angle == "flex")
                    says = "bent to the palm";
                else if (bone.StartsWith("arm", StringComparison.Ordinal) && a.Angle == "twist")
                    says = "turned about itself";
                handles.Add(
                    new(
                        $"{bone}.{a.Angle}",
                        group,
                        name.Length == 0 ? says : $"{name} {says}",
                        Math.Clamp(Math.Round(s.Angle(index, a)), least, most),
                        least,
                        most
                    )
                );
            }
        }
        foreach (var (bone, group) in Spine)
            Angles(bone, group, "");
        foreach (var (side, word) in new[] { ("L", "Left"), ("R", "Right") })
        foreach (var (bone, name) in Arm)
            Angles($"{bone}.{side}", $"{word} arm", name);
        foreach (var (side, word) in new[] { ("L", "Left"), ("R", "Right") })
        {
            if (pose.Feet?.GetValueOrDefault(side) is not { } f)
                continue;
            handles.Add(new($"feet.{side}.x", $"{word} foot", "to the figure's left", f.At.X, f.At.X - 12, f.At.X + 12));
            handles.Add(new($"feet.{side}.z", $"{word} foot", "forward", f.At.Y, f.At.Y - 12, f.At.Y + 12));
            if (!f.Free)
                handles.Add(new($"feet.{side}.lift", $"{word} foot", "heel lifted", f.Lift, LiftLimits.Item1, LiftLimits.Item2));
        }
        return handles;
    }

    /// <summary>Reads changes as addresses carry them: "pelvis.side:8,arm.L.abd:30".</summary>
    /// <exception cref="InputException">Not of that shape.</exception>
    public static IReadOnlyList<(string Key, float Value)> Read(string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return [];
        if (text.Length > 2000)
            throw new InputException("too many changes at once", "edit", "up to 2,000 letters");
        return
        [
            .. text.Split(',')
                .Select(part =>
                {
                    var cut = part.LastIndexOf(':');
                    return
                        cut > 0
                        && float.TryParse(part[(cut + 1)..], NumberStyles.Float, CultureInfo.InvariantCulture, out var v)
                        && float.IsFinite(v)
                        ? (part[..cut], v)
                        : throw new InputException($"'{part}' is no change of a pose", "edit", "joint.angle:degrees, as in pelvis.side:8");
                }),
        ];
    }

    /// <summary>The pose with changes made. An arm that was placed by its hand is let go when one of its joints is changed, from the
    /// angles it had; what rested by the changed angle rests no longer.</summary>
    /// <exception cref="InputException">An unknown joint or angle, or a value outside its limits.</exception>
    public static Pose Apply(FigureModel model, IReadOnlyList<(string Key, float Value)> changes)
    {
        var s = model.Skeleton;
        var pose = s.Pose;
        var joints = pose.Joints.ToDictionary(j => j.Key, j => new Dictionary<string, float>(j.Value));
        var feet = pose.Feet is null ? null : new Dictionary<string, FootOfPose>(pose.Feet);
        var hands = pose.Hands is null ? null : new Dictionary<string, HandOfPose>(pose.Hands);
        var root = pose.Root;
        foreach (var (key, value) in changes)
        {
            var cut = key.LastIndexOf('.');
            var (bone, angle) = cut > 0 ? (key[..cut], key[(cut + 1)..]) : (key, "");
            if (bone == "pelvis")
            {
                Within(key, value, RootLimits);
                root = angle switch
                {
                    "flex" => root with { Flex = value },
                    "side" => root with { Side = value },
                    "twist" => root with { Twist = value },
                    _ => throw Unknown(key),
                };
            }
            else if (bone.StartsWith("feet.", StringComparison.Ordinal))
            {
                if (feet is null || !feet.TryGetValue(bone[5..], out var f))
                    throw Unknown(key);
                feet[bone[5..]] = angle switch
                {
                    "x" => f with { At = new(Within(key, value, FootLimits.Item1 * 2, FootLimits.Item2 * 2), f.At.Y) },
                    "z" => f with { At = new(f.At.X, Within(key, value, FootLimits.Item1 * 2, FootLimits.Item2 * 2)) },
                    "lift" => f with { Lift = Within(key, value, LiftLimits.Item1, LiftLimits.Item2) },
                    _ => throw Unknown(key),
                };
            }
            else
            {
                if (!s.Body.Turns(bone, angle))
                    throw Unknown(key);
                if (s.Body.Tables.Limit(bone, angle) is { } limit)
                    Within(key, value, limit);
                var side = bone[^1].ToString();
                if (hands?.ContainsKey(side) == true && Sides.Stem(bone) is "arm" or "fore" or "hand")
                    LetGo(side);
                if (!joints.TryGetValue(bone, out var angles))
                    joints[bone] = angles = [];
                angles[angle] = value;
            }
        }
        return pose with
        {
            Root = root,
            Joints = joints,
            Feet = feet,
            Hands = hands is { Count: 0 } ? null : hands,
            // What is changed by hand stays as it is set, and rests no longer by itself.
            Rests = pose
                .Rests?.Where(r =>
                    changes.All(c => c.Key != r.By)
                    && !(r.By.StartsWith("hands.", StringComparison.Ordinal) && hands?.ContainsKey(r.By[6..]) != true)
                )
                .ToArray(),
        };

        void LetGo(string side)
        {
            hands.Remove(side);
            foreach (var stem in new[] { "arm", "fore", "hand" })
            {
                var index = s.Body.BoneIndex($"{stem}.{side}");
                joints[$"{stem}.{side}"] = s
                    .Body.Bones[index]
                    .Angles.ToDictionary(
                        a => a.Angle,
                        a =>
                        {
                            var degrees = (float)s.Angle(index, a);
                            return s.Body.Tables.Limit(stem, a.Angle) is { } l ? Math.Clamp(degrees, l.Least, l.Greatest) : degrees;
                        }
                    );
            }
        }
    }

    private static InputException Unknown(string key) => new($"a pose has no '{key}' to change", "edit", "joint.angle of the list");

    private static float Within(string key, float value, (float, float) limits) => Within(key, value, limits.Item1, limits.Item2);

    private static float Within(string key, float value, float least, float most) =>
        value >= least - 0.01f && value <= most + 0.01f
            ? value
            : throw new InputException($"{key} of {value:0.#}° is beyond what the joint does", "edit", $"{least:0} to {most:0}");

    [GeneratedRegex(
        @"^\s*(?<part>pelvis|hips|waist|ribcage|chest|shoulders|neck|head)\s+(?<deg>\d{1,2})\s*°?\s*(?:(?<updown>down|up)\s+on\s+the\s+(?<side>left|right)|(?:turned|twisted)\s+(?:to\s+the\s+)?(?<turn>left|right)|(?<bow>forward|back(?:ward)?))\s*$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Sentence();

    /// <summary>Tilts in words: "pelvis 8° down on the left", "head 15 turned right", "ribcage 10 forward". A tilt to the side is
    /// meant against the level, so what the parts below already tilt is taken off.</summary>
    /// <exception cref="InputException">Not a sentence of that kind.</exception>
    public static IReadOnlyList<(string Key, float Value)> FromWords(string words, Pose pose)
    {
        var m = Sentence().Match(words);
        if (!m.Success)
            throw new InputException(
                $"“{words.Trim()}” can't be read as a tilt",
                "tilt",
                "pelvis, waist, ribcage, shoulders, neck or head; degrees; down or up on the left or right, turned left or right, forward or back"
            );
        var bone = m.Groups["part"].Value.ToLowerInvariant() switch
        {
            "pelvis" or "hips" => "pelvis",
            "waist" => "lumbar",
            "ribcage" or "chest" or "shoulders" => "thorax",
            var p => p,
        };
        var degrees = float.Parse(m.Groups["deg"].Value, CultureInfo.InvariantCulture);
        bool Left(string group) => m.Groups[group].Value.StartsWith("l", StringComparison.OrdinalIgnoreCase);
        if (m.Groups["turn"].Success)
            return [($"{bone}.twist", Left("turn") ? degrees : -degrees)];
        if (m.Groups["bow"].Success)
            return [($"{bone}.flex", m.Groups["bow"].Value.StartsWith("f", StringComparison.OrdinalIgnoreCase) ? degrees : -degrees)];
        var down = m.Groups["updown"].Value.StartsWith("d", StringComparison.OrdinalIgnoreCase) == Left("side") ? degrees : -degrees;
        var carried =
            bone == "pelvis"
                ? 0
                : pose.Root.Side
                    + Spine
                        .Skip(1)
                        .TakeWhile(b => b.Bone != bone)
                        .Sum(b => pose.Joints.GetValueOrDefault(b.Bone)?.GetValueOrDefault("side") ?? 0);
        return [($"{bone}.side", down - carried)];
    }

    /// <summary>How hard a pose is to hold, by what can be seen of it: common practice, no source. The model's own word always wins.</summary>
    /// <returns>The strain and what made it so.</returns>
    public static (Strain Strain, string Why) StrainOf(FigureModel model)
    {
        var s = model.Skeleton;
        Vector3 Joint(string bone) => s.Joint[s.Body.BoneIndex(bone)];
        Vector3 Front(string bone) => Vector3.Transform(Vector3.UnitZ, s.Frame[s.Body.BoneIndex(bone)]);
        var trunk = Vector3.Normalize(Joint("neck") - Joint("pelvis"));
        float pelvis = Joint("pelvis").Y,
            hip = s.Body.Bones[0].Offset.Y;
        HandOfPose? Placed(string side) => s.Pose.Hands?.GetValueOrDefault(side);
        Vector3 Along(string from, string to) => Vector3.Normalize(Joint(to) - Joint(from));
        bool Overhead(string side) => Joint($"hand.{side}").Y > Joint("head").Y;
        // An arm is held up when its upper arm leaves hanging by more than 60°, or its forearm stands level, and its hand rests on nothing;
        // and always when the hand is over the head, though it grips something there.
        bool Held(string side) =>
            Overhead(side)
            || (Along($"arm.{side}", $"fore.{side}").Y > -0.5f && Placed(side) is null or { Bone: "thorax" or "neck" or "head" })
            || (s.Pose.OnFeet && Along($"fore.{side}", $"hand.{side}").Y > -0.2f && Placed(side) is null);
        string[] sides = ["L", "R"];
        if (s.Pose.OnFeet)
            return Standing();
        if (pelvis < 12 && trunk.Y < 0.8f)
            return Front("pelvis").Y < -0.5f && trunk.Y > 0.4f
                ? (Strain.Arched, "the forearms bear the chest, the back is arched")
                : (Strain.Lying, "the trunk lies");
        if (sides.Any(Overhead))
            return (Strain.Raised, "an arm is held up");
        if (Twisted())
            return (Strain.Raised, "the trunk is held twisted");
        // On the heels the pelvis comes down to a third of its height; above that the knees bear it.
        if (s.Pose.Props is null && pelvis > 0.42f * hip && sides.Any(side => Joint($"knee.{side}").Y < 8))
            return (Strain.Kneeling, "the knees bear it");
        if (Front("thorax").Y > 0.25f && sides.All(side => s.Pose.Hands?.GetValueOrDefault(side) is { Bone: null }))
            return (Strain.LeaningBack, "both hands bear the trunk from behind");
        return (Strain.Seated, "a seat, the floor or the heels bear it");

        (Strain, string) Standing()
        {
            var bent = pelvis < hip - 6;
            var arms = sides.Count(Held);
            if (arms == 2 && (bent || HeelsUp(2)))
                return (Strain.Extreme, bent ? "both arms are held out over bent legs" : "both arms are held up on the balls of the feet");
            if (arms > 0)
                return (Strain.Raised, "an arm is held up");
            if (bent)
                return (Strain.Raised, "the legs hold it bent");
            if (trunk.Y < 0.8f)
                return (Strain.Raised, "the trunk is held bent");
            if (Twisted())
                return (Strain.Raised, "the trunk is held twisted");
            if (HeelsUp(1))
                return (Strain.HeelUp, "a raised heel is held by its calf");
            return s.Pose.Balance is { } share && MathF.Max(share[0], share[1]) > 0.72f
                ? (Strain.OneLeg, "one leg bears most of it")
                : (Strain.Standing, "both feet bear it");
        }

        bool HeelsUp(int count) => s.Pose.Feet?.Values.Count(x => x.Lift >= HeelLifted) >= count;

        bool Twisted() => MathF.Abs(TwistOf("lumbar") + TwistOf("thorax")) >= 35;

        float TwistOf(string bone) => s.Pose.Joints.GetValueOrDefault(bone)?.GetValueOrDefault("twist") ?? 0;
    }

    /// <summary>Degrees from which a heel counts as lifted; below, a free foot only rests on its toes.</summary>
    private const float HeelLifted = 25;
}
