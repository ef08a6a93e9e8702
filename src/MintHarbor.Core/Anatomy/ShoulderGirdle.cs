using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>A frame that isn't one of the skeleton's: world = joint + turn · ((rest − its rest) · scale).</summary>
internal readonly record struct GirdleFrame(Vector3 Joint, Quaternion Turn, Vector3 Rest, Vector3 Scale)
{
    public Vector3 World(Vector3 rest) => Joint + Vector3.Transform((rest - Rest) * Scale, Turn);
}

/// <summary>Shoulder blade and collarbone of a pose. The blade turns about the shoulder joint with the raised arm and lies on the ribs; the collarbone
/// goes from the breastbone to the blade's outer corner.</summary>
internal static class ShoulderGirdle
{
    public const string Blade = "scap.L",
        Collarbone = "clavi.L";

    /// <summary>Degrees that the blade turns for one of the arm's beyond <see cref="Free"/>: the rest of the rhythm is the collarbone's raise.</summary>
    private const float Share = 0.22f,
        Free = 30;

    /// <summary>How far behind the ribs' back wall the blade's corners lie, units.</summary>
    private const float LowerOff = 1.1f,
        UpperOff = 1.0f;

    /// <summary>How far the collarbone may be shortened or stretched to meet the blade.</summary>
    public const float LeastStretch = 0.88f,
        MostStretch = 1.12f;

    public static readonly Vector3 LowerCorner = new(4.2f, 71.4f, -5.9f),
        UpperCorner = new(3.4f, 80.2f, -5.0f);
    private static readonly Vector3 AtBreastbone = new(1.25f, 81.45f, 1.15f),
        OuterEnd = new(9.7f, 81.75f, -1.65f),
        OnBlade = new(9.85f, 81.75f, -1.6f),
        TurnAxis = Vector3.Normalize(new(0.4f, 0, 0.91f));

    /// <param name="glides">Whether the blade follows the raised arm; drawn wrong it doesn't.</param>
    public static Dictionary<string, GirdleFrame> Of(Skeleton s, Ribcage cage, bool glides = true)
    {
        var frames = new Dictionary<string, GirdleFrame>();
        foreach (var side in Sides.Both)
        {
            var blade = Laid(s, cage, side, glides);
            frames[Sides.Id(Blade, side)] = blade;
            frames[Sides.Id(Collarbone, side)] = Collar(s, blade, side);
        }
        return frames;
    }

    /// <summary>Degrees between the upper arm and the trunk's length: 0 hanging, 180 straight up.</summary>
    public static float Elevation(Skeleton s, int side)
    {
        Vector3 Down(string bone) => Vector3.Transform(-Vector3.UnitY, s.Frame[s.Body.BoneIndex(bone)]);
        return MathF.Acos(Math.Clamp(Vector3.Dot(Down("thorax"), Down(Sides.Id("arm.L", side))), -1, 1)) * 180 / MathF.PI;
    }

    private static GirdleFrame Laid(Skeleton s, Ribcage cage, int side, bool glides)
    {
        var body = s.Body;
        int thorax = body.BoneIndex("thorax"),
            arm = body.BoneIndex(Sides.Id("arm.L", side)),
            clavicle = body.BoneIndex(Sides.Id("clav.L", side));
        var turn = glides ? Math.Clamp(Elevation(s, side) - Free, 0, 150) * Share * side * MathF.PI / 180 : 0;
        var axis = TurnAxis with { X = TurnAxis.X * side };
        var joint = s.Joint[arm];
        var frame = new GirdleFrame(
            joint,
            s.Frame[thorax] * Quaternion.CreateFromAxisAngle(axis, turn),
            body.Bones[arm].Rest,
            body.Bones[clavicle].Scale
        );
        Vector3 lower = Sides.Place(LowerCorner, side),
            upper = Sides.Place(UpperCorner, side);
        // Straight back, not away from the middle: pushed outwards the corner dives in.
        Vector3 BehindRibs(Vector3 world, float off)
        {
            var p = ToRest(s, thorax, world);
            p.Z = cage.BackWall(p.X, p.Y) - off;
            return s.World(thorax, body.Local(thorax, p));
        }
        for (var round = 0; round < 4; round++)
        {
            var low = frame.World(lower);
            frame = Turned(frame, Splines.Turn(low - joint, BehindRibs(low, LowerOff) - joint));
            var high = frame.World(upper);
            var hinge = Vector3.Normalize(frame.World(lower) - joint);
            Vector3 Flat(Vector3 v) => v - (hinge * Vector3.Dot(v, hinge));
            Vector3 from = Flat(high - joint),
                to = Flat(BehindRibs(high, UpperOff) - joint);
            var spin = MathF.Atan2(Vector3.Dot(Vector3.Cross(from, to), hinge), Vector3.Dot(from, to));
            frame = Turned(frame, Quaternion.CreateFromAxisAngle(hinge, Math.Clamp(spin, -0.6f, 0.6f)));
        }
        return frame;
    }

    private static GirdleFrame Turned(GirdleFrame f, Quaternion by) => f with { Turn = Quaternion.Normalize(by * f.Turn) };

    private static GirdleFrame Collar(Skeleton s, GirdleFrame blade, int side)
    {
        var bone = s.Body.BoneIndex(Sides.Id("clav.L", side));
        var rest = Sides.Place(AtBreastbone, side);
        var start = s.World(bone, s.Body.Local(bone, rest));
        Vector3 now = s.World(bone, s.Body.Local(bone, Sides.Place(OuterEnd, side))) - start,
            wanted = blade.World(Sides.Place(OnBlade, side)) - start;
        var stretch = Math.Clamp(wanted.Length() / now.Length(), LeastStretch, MostStretch);
        return new(start, Quaternion.Normalize(Splines.Turn(now, wanted) * s.Frame[bone]), rest, s.Body.Bones[bone].Scale * stretch);
    }

    /// <summary>A place of the room as the rest place of a bone.</summary>
    public static Vector3 ToRest(Skeleton s, int bone, Vector3 world)
    {
        var b = s.Body.Bones[bone];
        return (Vector3.Transform(world - s.Joint[bone], Quaternion.Conjugate(s.Frame[bone])) / b.Scale) + b.Rest;
    }
}

/// <summary>Where the rest places of bones and muscles lie in a pose: on the skeleton, on the girdle, on a forearm that takes the palm's turn.</summary>
internal sealed class AnatomyFrames(Skeleton skeleton, AnatomySet? set = null)
{
    /// <summary>Heights of the forearm between which it takes the turn of the palm.</summary>
    private const float Elbow = 63,
        Forearm = 14.5f;

    private readonly Dictionary<string, GirdleFrame> girdle = ShoulderGirdle.Of(skeleton, BoneShapes.Cage, set?.BladeGlides ?? true);

    public Skeleton Skeleton => skeleton;

    /// <summary>The bones and muscles that are laid: the true ones, or those of a wrong drawing.</summary>
    public AnatomySet Set => set ?? AnatomySet.True;

    /// <summary>A unit of this body's height.</summary>
    public float Unit { get; } = skeleton.Body.Bones[0].Scale.Y;

    public GirdleFrame? Girdle(string bone) => girdle.TryGetValue(bone, out var f) ? f : null;

    public Vector3 World(string bone, Vector3 rest)
    {
        if (girdle.TryGetValue(bone, out var frame))
            return frame.World(rest);
        var b = skeleton.Body.BoneIndex(bone);
        var local = skeleton.Body.Local(b, rest);
        if (Sides.Stem(bone) != "fore")
            return skeleton.World(b, local);
        var turned = skeleton.Twist[Hand(bone)];
        var share = Math.Clamp((Elbow - rest.Y) / Forearm, 0, 1);
        return skeleton.Joint[b] + Vector3.Transform(local, Quaternion.Slerp(skeleton.Frame[b], turned, share));
    }

    /// <summary>The hand at the end of a forearm.</summary>
    public int Hand(string forearm) => skeleton.Body.BoneIndex("hand" + forearm[4..]);
}
