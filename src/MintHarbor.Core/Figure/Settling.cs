using System.Numerics;

namespace MintHarbor.Core.Figure;

/// <summary>A part of the body that rests on something, and what gives way until it does.</summary>
/// <param name="Parts">The bones whose forms rest: their lowest place lies at <paramref name="On"/>, less <paramref name="Sink"/>.</param>
/// <param name="By">What gives way: "root", the height of the pelvis; "feet.L" or "hands.L", the height of where a foot or hand is placed; or an
/// angle of a joint, "hip.L.flex".</param>
/// <param name="On">Height of the surface it rests on, units; 0 is the floor.</param>
/// <param name="Sink">How far flesh is pressed flat by what it rests on, units.</param>
public sealed record RestOfPose(string[] Parts, string By, float On = 0, float Sink = 0);

/// <summary>Lays a pose down: bodies differ in girth, so that a pose whose knee touches the floor on one floats or sinks on another. What rests is brought
/// to its surface one after the other, until all of them do.</summary>
internal static class Settling
{
    private const int Rounds = 16;

    /// <summary>Nearer than this to its surface a part rests, units; and how far an angle is turned to see what it does, and at once, degrees.</summary>
    private const float Near = 0.04f,
        Probe = 1.5f,
        MostTurn = 8;

    public static Pose Of(Body body, Pose pose)
    {
        if (pose.Rests is not { Length: > 0 } rests)
            return pose;
        for (var round = 0; round < Rounds; round++)
        {
            var all = true;
            foreach (var rest in rests)
            {
                var over = Over(body, pose, rest);
                if (MathF.Abs(over) < Near)
                    continue;
                all = false;
                pose = Given(body, pose, rest, over);
            }
            if (all)
                break;
        }
        return pose;
    }

    /// <summary>How far a part lies over where it rests; negative below.</summary>
    private static float Over(Body body, Pose pose, RestOfPose rest)
    {
        var skeleton = Skeleton.AsWritten(body, pose);
        return rest.Parts.Min(p => SurfaceField.Lowest(skeleton, p)) - rest.On + rest.Sink;
    }

    private static Pose Given(Body body, Pose pose, RestOfPose rest, float over)
    {
        if (rest.By == "root")
            return Raised(body, pose, -over);
        var way = rest.By.Split('.');
        if (way[0] == "feet")
            return pose with { Feet = With(pose.Feet!, way[1], pose.Feet![way[1]] with { Floor = pose.Feet[way[1]].Floor - over }) };
        if (way[0] == "hands")
            return Placed(body, pose, way[1], over);
        var (bone, angle) = (string.Join('.', way[..^1]), way[^1]);
        // Past its limit an angle doesn't turn, and would seem to lift nothing.
        var now = (pose.Joints.GetValueOrDefault(bone) ?? []).GetValueOrDefault(angle);
        var probe = body.Tables.Limit(bone, angle) is { } limit && now + Probe > limit.Greatest ? -Probe : Probe;
        var slope = (Over(body, Turned(body, pose, bone, angle, probe), rest) - over) / probe;
        return MathF.Abs(slope) < 1e-3f ? pose : Turned(body, pose, bone, angle, Math.Clamp(-over / slope, -MostTurn, MostTurn));
    }

    /// <summary>A hand is put down where the arm reaches: nearer to its shoulder, where that is too high for it.</summary>
    private static Pose Placed(Body body, Pose pose, string side, float over)
    {
        var skeleton = Skeleton.AsWritten(body, pose);
        var hand = pose.Hands![side];
        var shoulder = skeleton.Joint[body.BoneIndex($"arm.{side}")];
        var at = hand.At with { Y = hand.At.Y - over };
        var away = new Vector3(at.X - shoulder.X, 0, at.Z - shoulder.Z);
        var reach = skeleton.Reach(side);
        var most = MathF.Sqrt(MathF.Max(1, (reach * reach) - ((shoulder.Y - at.Y) * (shoulder.Y - at.Y))));
        if (away.Length() > most)
            at = new Vector3(shoulder.X, at.Y, shoulder.Z) + (away * (most / away.Length()));
        return pose with { Hands = With(pose.Hands, side, hand with { At = at }) };
    }

    private static Pose Raised(Body body, Pose pose, float by) =>
        pose.Root.At is { } at
            ? pose with
            {
                Root = pose.Root with { At = at + new Vector3(0, by, 0) },
            }
            : pose with
            {
                Root = pose.Root with { Height = (pose.Root.Height ?? body.Bones[0].Offset.Y) + by },
            };

    private static Pose Turned(Body body, Pose pose, string bone, string angle, float by)
    {
        var was = pose.Joints.GetValueOrDefault(bone) ?? [];
        var to = was.GetValueOrDefault(angle) + by;
        if (body.Tables.Limit(bone, angle) is { } l)
            to = Math.Clamp(to, l.Least, l.Greatest);
        return pose with { Joints = With(pose.Joints, bone, With(was, angle, to)) };
    }

    private static Dictionary<string, T> With<T>(Dictionary<string, T> of, string key, T value) => new(of) { [key] = value };
}
