using System.Numerics;

namespace MintHarbor.Core.Figure;

/// <summary>A body in a pose: where every joint is and how its frame is turned. Feet and hands are set by two-bone inverse
/// kinematics; where a pose stands on its feet the pelvis is moved until the centre of mass lies over the wanted share of both.</summary>
internal sealed class Skeleton
{
    private const float Degree = MathF.PI / 180;
    private const int Rounds = 12;

    /// <summary>The joint of the ball over the floor when the heel is lifted, units: the flesh under it stays above.</summary>
    private const float BallHeight = 0.38f;

    private readonly Quaternion[] local;
    private readonly bool[] solved;
    private readonly Vector3[] support = new Vector3[2];
    private float raise;

    public Body Body { get; }
    public Pose Pose { get; private init; }
    public Vector3[] Joint { get; }
    public Quaternion[] Frame { get; }

    /// <summary>The part of each frame that is only a turn about the bone's own length.</summary>
    public Quaternion[] Twist { get; }
    public Vector3 CentreOfMass { get; private set; }

    /// <summary>How far a hand or foot fell short of its place, units; 0 where all were reached.</summary>
    public float OutOfReach { get; private set; }
    public IReadOnlyList<Vector3> Support => support;

    public Vector3 World(int bone, Vector3 at) => Joint[bone] + Vector3.Transform(at, Frame[bone]);

    public Vector3 World(string bone, Vector3 rest)
    {
        var b = Body.BoneIndex(bone);
        return World(b, Body.Local(b, rest));
    }

    /// <summary>A body in a pose, laid down on what it rests on.</summary>
    public static Skeleton Solve(Body body, Pose pose) => new(body, Settling.Of(body, pose)) { Pose = pose };

    /// <summary>A body in a pose with every number as it is written.</summary>
    public static Skeleton AsWritten(Body body, Pose pose) => new(body, pose);

    private Skeleton(Body body, Pose pose)
    {
        (Body, Pose) = (body, pose);
        var n = body.Bones.Count;
        (Joint, Frame, Twist, local, solved) = (new Vector3[n], new Quaternion[n], new Quaternion[n], new Quaternion[n], new bool[n]);
        var root = pose.Root;
        for (var i = 0; i < n; i++)
        {
            var b = body.Bones[i];
            var given =
                i == 0
                    ? new Dictionary<string, float>
                    {
                        ["flex"] = root.Flex,
                        ["side"] = root.Side,
                        ["twist"] = root.Twist,
                    }
                    : pose.Joints.GetValueOrDefault(b.Leader);
            local[i] = given is null
                ? Quaternion.Identity
                : b.Angles.Aggregate(Quaternion.Identity, (q, a) =>
                    given.TryGetValue(a.Angle, out var degrees)
                        ? q * About(a.Axis, degrees * b.Times * a.Sign * (a.RightNegates && b.Side < 0 ? -1 : 1))
                        : q
                );
        }
        Frame[0] = local[0];
        var fixedHeight = root.Height is not null || root.At is not null;
        var start = root.At ?? new Vector3(0, body.Bones[0].Offset.Y, 0);
        Joint[0] = root.Height is { } h ? start with { Y = h } : start;
        for (var round = 0; round < Rounds; round++)
        {
            Array.Clear(solved);
            OutOfReach = 0;
            Forward();
            // Left before right: the right foot takes the lower of both heights.
            foreach (var (side, foot) in (pose.Feet ?? []).OrderBy(f => f.Key))
                Foot(side, foot, fixedHeight);
            Forward();
            foreach (var (side, hand) in pose.Hands ?? [])
                Hand(side, hand);
            Forward();
            CentreOfMass = body.Masses.Aggregate(Vector3.Zero, (c, m) => c + (World(m.Bone, m.At) * m.Share));
            if (round == Rounds - 1)
                break;
            if (pose.Balance is { } share)
            {
                var away = (support[0] * share[0]) + (support[1] * share[1]) - CentreOfMass;
                Joint[0] += new Vector3(away.X * 0.9f, 0, away.Z * 0.9f);
            }
            if (!fixedHeight && pose.Feet is not null)
                Joint[0].Y += raise;
            if (pose.Balance is null && fixedHeight && round > 0)
                break;
        }
        for (var i = 0; i < n; i++)
        {
            var parent = body.Bones[i].Parent;
            if (parent < 0)
            {
                Twist[i] = Frame[i];
                continue;
            }
            var own = Quaternion.Conjugate(Frame[parent]) * Frame[i];
            var twist = new Quaternion(0, own.Y, 0, own.W);
            Twist[i] = Frame[parent] * (twist.LengthSquared() < 1e-6f ? Quaternion.Identity : Quaternion.Normalize(twist));
        }
    }

    private static Quaternion About(string axis, float degrees) =>
        Quaternion.CreateFromAxisAngle(
            axis switch
            {
                "X" => Vector3.UnitX,
                "Y" => Vector3.UnitY,
                _ => Vector3.UnitZ,
            },
            degrees * Degree
        );

    private static Quaternion FromAxes(Vector3 x, Vector3 y, Vector3 z) =>
        Quaternion.Normalize(Quaternion.CreateFromRotationMatrix(new(x.X, x.Y, x.Z, 0, y.X, y.Y, y.Z, 0, z.X, z.Y, z.Z, 0, 0, 0, 0, 1)));

    private void Forward()
    {
        for (var i = 0; i < Body.Bones.Count; i++)
        {
            var p = Body.Bones[i].Parent;
            if (p < 0)
                continue;
            Joint[i] = Joint[p] + Vector3.Transform(Body.Bones[i].Offset, Frame[p]);
            if (!solved[i])
                Frame[i] = Frame[p] * local[i];
        }
    }

    private void Foot(string side, FootOfPose f, bool fixedHeight)
    {
        int hip = Body.BoneIndex("hip." + side),
            knee = Body.BoneIndex("knee." + side),
            foot = Body.BoneIndex("foot." + side),
            toe = Body.BoneIndex("toe." + side);
        var yaw = About("Y", f.Yaw);
        var turned = yaw * About("X", f.Lift) * About("Z", f.Roll);
        var ankleHeight = Body.Bones[foot].Rest.Y * Body.Bones[foot].Scale.Y;
        var flat = new Vector3(f.At.X, f.Floor + ankleHeight, f.At.Y);
        var toBall = Body.Bones[toe].Offset with { Y = BallHeight - ankleHeight };
        var ankle = f.Lift == 0 ? flat : flat + Vector3.Transform(toBall, yaw) - Vector3.Transform(toBall, turned);
        var length = Body.Bones[knee].Offset.Length() + Body.Bones[foot].Offset.Length();
        var reach = length * (f.Straight ?? 0.9993f);
        if (!fixedHeight && (Pose.Weight is null || Pose.Weight == side))
        {
            var from = Joint[hip] - ankle;
            var want = MathF.Sqrt(MathF.Max(1, (reach * reach) - (from.X * from.X) - (from.Z * from.Z)));
            var d = ankle.Y + want - Joint[hip].Y;
            raise = Pose.Weight is null && side == "R" && Pose.Feet!.Count == 2 ? MathF.Min(raise, d) : d;
        }
        var pole = f.Knee is { } k
            ? Vector3.Normalize(k)
            : Vector3.Normalize((Vector3.Transform(Vector3.UnitZ, yaw) * 0.65f) + (Vector3.Transform(Vector3.UnitZ, Frame[0]) * 0.35f));
        Reach(hip, knee, foot, ankle, pole, 1, reach);
        if (!f.Free)
        {
            (Frame[foot], solved[foot]) = (turned, true);
            (Frame[toe], solved[toe]) = (f.Lift > 0 ? yaw * About("X", MathF.Max(0, f.Lift - 55)) : turned, true);
        }
        support[side == "L" ? 0 : 1] = (flat + Vector3.Transform(new(0, 0, toBall.Z * (f.Lift > 0 ? 1 : 0.35f)), yaw)) with { Y = 0 };
    }

    private void Hand(string side, HandOfPose h)
    {
        int arm = Body.BoneIndex("arm." + side),
            fore = Body.BoneIndex("fore." + side),
            hand = Body.BoneIndex("hand." + side);
        var target = h.Bone is { } b ? World(b, h.At) : h.At;
        var pole = h.Elbow is { } e ? Vector3.Normalize(e) : new Vector3(0, -0.3f, -1);
        if (h.ElbowInThorax)
            pole = Vector3.Transform(pole, Frame[Body.BoneIndex("thorax")]);
        Reach(arm, fore, hand, target, pole, -1, Reach(side));
        if (h.Fingers is { } fingers && h.Palm is { } palm)
        {
            var y = -Vector3.Normalize(fingers);
            var x = (side == "L" ? -1 : 1) * Vector3.Normalize(palm);
            x = Vector3.Normalize(x - (y * Vector3.Dot(x, y)));
            (Frame[hand], solved[hand]) = (FromAxes(x, y, Vector3.Cross(x, y)), true);
        }
        Forward();
    }

    /// <summary>How far from its shoulder a hand comes, units.</summary>
    public float Reach(string side) =>
        (Body.Bones[Body.BoneIndex("fore." + side)].Offset.Length() + Body.Bones[Body.BoneIndex("hand." + side)].Offset.Length()) * 0.995f;

    /// <summary>Two bones from <paramref name="a"/> to a target, the middle joint in the plane of the pole (law of cosines).</summary>
    private void Reach(int a, int b, int c, Vector3 target, Vector3 pole, int bend, float most)
    {
        float first = Body.Bones[b].Offset.Length(),
            second = Body.Bones[c].Offset.Length();
        var start = Joint[a];
        var away = target - start;
        var distance = away.Length();
        OutOfReach = MathF.Max(OutOfReach, distance - most);
        var used = MathF.Min(distance, MathF.Max(most, 1));
        var along = away / distance;
        target = start + (along * used);
        var cos = Math.Clamp(((first * first) + (used * used) - (second * second)) / (2 * first * used), -1, 1);
        var sin = MathF.Sqrt(1 - (cos * cos));
        var across = pole - (along * Vector3.Dot(pole, along));
        across = Vector3.Normalize(across.LengthSquared() < 1e-5f ? Vector3.UnitZ : across);
        var middle = start + (along * first * cos) + (across * first * sin);
        var y1 = -Vector3.Normalize(middle - start);
        var z1 = bend * across;
        z1 = Vector3.Normalize(z1 - (y1 * Vector3.Dot(z1, y1)));
        var x = Vector3.Cross(y1, z1);
        // A child's joint isn't exactly under its parent's: its rest direction is turned out of the frame.
        (Frame[a], solved[a], Joint[b]) = (FromAxes(x, y1, z1) * Upright(Body.Bones[b].Offset), true, middle);
        var y2 = -Vector3.Normalize(target - middle);
        (Frame[b], solved[b], Joint[c]) = (
            FromAxes(x, y2, Vector3.Normalize(Vector3.Cross(x, y2))) * Upright(Body.Bones[c].Offset),
            true,
            target
        );
    }

    private static Quaternion Upright(Vector3 offset)
    {
        var axis = Vector3.Cross(Vector3.Normalize(offset), -Vector3.UnitY);
        var sin = axis.Length();
        return sin < 1e-6f ? Quaternion.Identity : Quaternion.CreateFromAxisAngle(axis / sin, MathF.Asin(sin));
    }

    /// <summary>One angle of a joint as it stands, degrees, in the sign that poses are written in: the frame against its parent's taken
    /// apart in the order of its kind (limbs forward, aside, turned; all others turned, aside, forward). Of the two ways to take a turn
    /// apart the one nearer to the joint's limits is meant.</summary>
    public double Angle(int bone, JointAngle angle)
    {
        var b = Body.Bones[bone];
        var parent = b.Parent < 0 ? Quaternion.Identity : Frame[b.Parent];
        var m = Matrix4x4.CreateFromQuaternion(Quaternion.Conjugate(parent) * Frame[bone]);
        // System.Numerics keeps rows as images of the axes: M12 is the y of where x goes.
        var limb = b.Angles[0].Axis == "X" && b.Angles.Length > 1;
        double[] one = limb
            ? [Math.Atan2(m.M23, m.M22), Math.Atan2(m.M31, m.M11), Math.Asin(Math.Clamp(-m.M21, -1, 1))]
            : [Math.Atan2(-m.M32, m.M22), Math.Atan2(-m.M13, m.M11), Math.Asin(Math.Clamp(m.M12, -1, 1))];
        double[] other = [one[0] + Math.PI, one[1] + Math.PI, Math.PI - one[2]];
        double Degrees(double[] xyz, JointAngle a) =>
            Math.IEEERemainder(xyz[a.Axis[0] - 'X'] * 180 / Math.PI, 360) * a.Sign * (a.RightNegates && b.Side < 0 ? -1 : 1);
        double Beyond(double[] xyz) =>
            b.Angles.Sum(a =>
                Body.Tables.Limit(b.Id, a.Angle) is { } l
                    ? Math.Max(0, Math.Max(l.Least - Degrees(xyz, a), Degrees(xyz, a) - l.Greatest))
                    : 0
            );
        return Degrees(Beyond(other) < Beyond(one) - 0.5 ? other : one, angle);
    }
}
