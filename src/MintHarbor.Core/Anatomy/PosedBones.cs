using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>The bones of a figure in its pose, one mesh: the form of a place is the number of its bone.</summary>
internal sealed class PosedBones
{
    private readonly List<AnatomyPart> parts = [];
    private readonly List<bool> cartilage = [];
    private readonly List<(int From, int To)> range = [];
    private readonly List<Vector3> places = [],
        normals = [];
    private readonly List<float> openness = [];
    private readonly List<short> form = [];
    private readonly List<int> triangles = [];
    private readonly AnatomyFrames frames;

    private Skeleton Skeleton => frames.Skeleton;

    public Mesh Mesh { get; }
    public IReadOnlyList<AnatomyPart> Parts => parts;

    /// <summary>Share of the vertices that lay outside the skin before they were drawn in, and how far at most, units.</summary>
    public (double Share, float Farthest) Outside { get; private set; }

    public bool IsCartilage(int bone) => cartilage[bone];

    /// <summary>Places of one bone.</summary>
    public ReadOnlySpan<Vector3> Of(string id)
    {
        var (from, to) = range[parts.FindIndex(p => p.Id == id)];
        return Mesh.Places.AsSpan(from, to - from);
    }

    /// <param name="field">The unclothed skin of the same pose, that no bone may leave.</param>
    public PosedBones(AnatomyFrames frames, SurfaceField field)
    {
        this.frames = frames;
        foreach (var b in frames.Set.Bones)
            Add(b);
        foreach (var r in frames.Set.Rays)
        foreach (var side in Sides.Of(r.Id))
            AddRay(r, side);
        AddSpine();
        Mesh = new([.. places], [.. normals], [.. openness], [.. form], [.. triangles]);
        DrawIn(field);
    }

    private void Begin(AnatomyPart part, bool isCartilage)
    {
        parts.Add(part);
        cartilage.Add(isCartilage);
        range.Add((places.Count, 0));
    }

    private void End(Mesh mesh)
    {
        var from = range[^1].From;
        openness.AddRange(mesh.Openness);
        form.AddRange(Enumerable.Repeat((short)(parts.Count - 1), mesh.Places.Length));
        triangles.AddRange(mesh.Triangles.Select(i => i + from));
        range[^1] = (from, places.Count);
    }

    private void Put(Vector3 place, Vector3 normal)
    {
        places.Add(place);
        normals.Add(Vector3.Normalize(normal));
    }

    private void Add(RestBone b)
    {
        Begin(b.Part, b.Cartilage);
        if (frames.Girdle(b.On) is { } girdle)
            for (var i = 0; i < b.Mesh.Places.Length; i++)
                Put(girdle.World(b.Mesh.Places[i]), Vector3.Transform(b.Mesh.Normals[i] / girdle.Scale, girdle.Turn));
        else if (b.Twist is { } ends)
            Straight(b, ends);
        else
            Rigid(b);
        End(b.Mesh);
    }

    private void Rigid(RestBone b)
    {
        var body = Skeleton.Body;
        var bone = body.BoneIndex(b.On);
        var scale = body.Bones[bone].Scale;
        var turn = Skeleton.Frame[bone];
        // The kneecap keeps its distance from the joint and takes half of its turn: a mean of two places would draw it into a bent knee.
        var about = b.With is { } with ? body.BoneIndex(with) : bone;
        if (b.With is not null)
            turn = Quaternion.Slerp(turn, Skeleton.Frame[about], 0.55f);
        for (var i = 0; i < b.Mesh.Places.Length; i++)
            Put(
                Skeleton.Joint[about] + Vector3.Transform(body.Local(about, b.Mesh.Places[i]), turn),
                Vector3.Transform(b.Mesh.Normals[i] / scale, turn)
            );
    }

    /// <summary>A bone of the forearm stays straight between its two ends; only its roll is shared out along it. So the two cross when the palm turns.</summary>
    private void Straight(RestBone b, Vector3[] ends)
    {
        var body = Skeleton.Body;
        int fore = body.BoneIndex(b.On),
            hand = frames.Hand(b.On);
        var scale = body.Bones[fore].Scale;
        var turned = frames.Set.ForearmTwists ? Skeleton.Twist[hand] : Skeleton.Frame[fore];
        Vector3 a = Skeleton.World(fore, body.Local(fore, ends[0])),
            way = Skeleton.Joint[hand] + Vector3.Transform((ends[1] - body.Bones[hand].Rest) * scale, turned) - a,
            rest = ends[1] - ends[0];
        for (var i = 0; i < b.Mesh.Places.Length; i++)
        {
            var p = b.Mesh.Places[i];
            var share = Vector3.Dot(p - ends[0], rest) / rest.LengthSquared();
            var off = (p - Vector3.Lerp(ends[0], ends[1], share)) * scale;
            var roll = Quaternion.Slerp(Skeleton.Frame[fore], turned, Math.Clamp(share, 0, 1));
            Put(a + (way * share) + Vector3.Transform(off, roll), Vector3.Transform(b.Mesh.Normals[i] / scale, roll));
        }
    }

    private void AddRay(BoneRayRow r, int side)
    {
        Begin(new(Sides.Id(r.Id, side), r.Name, r.Latin), false);
        Vector3 World(PlaceOnBone p) => Skeleton.World(Sides.Id(p.Bone, side), Sides.Place(p.At, side));
        var bone = Skeleton.Body.BoneIndex(Sides.Id(r.From.Bone, side));
        var scale = Skeleton.Body.Bones[bone].Scale;
        var girth = (scale.X + scale.Z) / 2;
        float Radius(float t)
        {
            var waisted =
                t < 0.5f
                    ? float.Lerp(r.Radii[0], r.Radii[1], Splines.Eased(0, 0.5f, t))
                    : float.Lerp(r.Radii[1], r.Radii[2], Splines.Eased(0.5f, 1, t));
            return waisted * girth * MathF.Min(1, 0.72f + (MathF.Min(t, 1 - t) * 3));
        }
        Vector3 from = World(r.From),
            to = World(r.To);
        var line = Enumerable.Range(0, 9).Select(i => Vector3.Lerp(from, to, i / 8f)).ToArray();
        var tube = BoneMesher.Tube(line, t => (Radius(t), Radius(t)), Vector3.Transform(Vector3.UnitX, Skeleton.Frame[bone]), 9);
        places.AddRange(tube.Places);
        normals.AddRange(tube.Normals);
        End(tube);
    }

    /// <summary>Vertebrae along a curve through the bones of the trunk; each points as the bones do and sits square to the curve by 0.6.</summary>
    private void AddSpine()
    {
        var spine = AnatomyCatalogue.Bones.Spine;
        var body = Skeleton.Body;
        var bones = spine.Path.Select(p => body.BoneIndex(p.Bone)).ToArray();
        var curve = spine.Path.Select(p => Skeleton.World(p.Bone, p.At)).ToArray();
        foreach (var region in spine.Regions)
        {
            var mesh = BoneShapes.Vertebra(region.Id);
            for (var i = 0; i < region.Count; i++)
            {
                var y = float.Lerp(region.From, region.To, (i + region.Offset) / region.Count);
                var k = 0;
                while (k < bones.Length - 2 && y > spine.Path[k + 1].At.Y)
                    k++;
                var t = Math.Clamp((y - spine.Path[k].At.Y) / (spine.Path[k + 1].At.Y - spine.Path[k].At.Y), 0, 1);
                float before = MathF.Max(0, k + t - 0.1f),
                    after = MathF.Min(curve.Length - 1, k + t + 0.1f);
                var turn = Quaternion.Slerp(Skeleton.Frame[bones[k]], Skeleton.Frame[bones[k + 1]], t);
                var square = Splines.Turn(Vector3.Transform(Vector3.UnitY, turn), Splines.At(curve, after) - Splines.At(curve, before));
                turn = Quaternion.Slerp(turn, square * turn, 0.6f);
                var scale = Vector3.Lerp(body.Bones[bones[k]].Scale, body.Bones[bones[k + 1]].Scale, t);
                var at = Splines.At(curve, k + t);
                var number = region.Count - i;
                Begin(new($"{region.Id}{number}", $"{region.Name}, {number}", $"{region.Latin} {Ribcage.Roman(number)}"), false);
                for (var j = 0; j < mesh.Places.Length; j++)
                    Put(at + Vector3.Transform(mesh.Places[j] * scale, turn), Vector3.Transform(mesh.Normals[j] / scale, turn));
                End(mesh);
            }
        }
    }

    /// <summary>It matters on seats, where flesh gives way.</summary>
    private void DrawIn(SurfaceField field)
    {
        var found = new (int Out, float Farthest)[range.Count];
        Parallel.For(0, range.Count, bone =>
            found[bone] = InsideSkin.Draw(field, Mesh.Places.AsSpan(range[bone].From, range[bone].To - range[bone].From), 0.1f)
        );
        Outside = (found.Sum(f => f.Out) / (double)Mesh.Places.Length, found.Max(f => f.Farthest));
    }
}
