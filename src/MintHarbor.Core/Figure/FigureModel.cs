using System.Numerics;
using MintHarbor.Core.Anatomy;

namespace MintHarbor.Core.Figure;

/// <summary>A landmark on the posed surface.</summary>
/// <param name="Buried">In a fold: the surface has closed over it and it is never seen.</param>
/// <param name="Through">How thick the body is there, units, where it is set down from the far side too.</param>
public readonly record struct FigureLandmark(string Id, Vector3 Place, Vector3 Normal, bool Buried, float Through = 0);

/// <summary>How a pose stands: margin of the centre of mass inside the base of support, in units (hundredths of stature); negative outside.</summary>
/// <param name="OutOfReach">How far a hand or foot fell short of where the pose wants it.</param>
public sealed record Stance(float? BalanceMargin, float OutOfReach, Vector3 CentreOfMass)
{
    public bool Stands => BalanceMargin is not < 0 && OutOfReach <= 0.3f;
}

/// <summary>A body in a pose, made ready to be drawn from any side: kept, and shared between views.</summary>
public sealed class FigureModel
{
    private readonly Dictionary<string, FigureLandmark> landmarks;

    internal Mesh Mesh { get; }
    internal Skeleton Skeleton { get; }
    internal int[] Parts { get; }

    /// <summary>Balls in which no soft line is drawn.</summary>
    internal IReadOnlyList<(Vector3 Middle, float Radius)> Quiet { get; }
    private readonly IReadOnlyList<(Vector3[] Places, bool Close)> features;

    /// <summary>The drawn marks of the surface: lids, mouth, navel; nails where a part is looked at alone.</summary>
    internal IEnumerable<Vector3[]> Features(bool close) => features.Where(f => close || !f.Close).Select(f => f.Places);

    internal IReadOnlyList<(Solid Solid, Mesh Mesh)> Solids { get; }
    internal Vector3 Low { get; }
    internal Vector3 High { get; }
    public bool Clothed { get; }
    public string BodyId => Skeleton.Body.Id;
    public Pose Pose => Skeleton.Pose;
    public Stance Stance { get; }
    public float MetresPerUnit => Skeleton.Body.CentimetresPerUnit / 100;
    public IEnumerable<FigureLandmark> Landmarks => landmarks.Values;

    public FigureLandmark Landmark(string id) => landmarks[id];

    public int TriangleCount => Mesh.TriangleCount;

    /// <summary>Memory that the model holds on to.</summary>
    public long Bytes => Mesh.Bytes + 200_000 + UnderSkin.Bytes;

    /// <summary>Bones and muscles of this pose.</summary>
    internal UnderSkin UnderSkin { get; }

    /// <param name="anatomy">Other bones and muscles than the true ones.</param>
    internal FigureModel(Body body, Pose pose, bool clothed, float step, AnatomySet? anatomy = null)
    {
        Clothed = clothed;
        UnderSkin = new(this, anatomy);
        Skeleton = Skeleton.Solve(body, pose);
        var field = new SurfaceField(Skeleton, clothed);
        Parts = field.Part;
        Quiet =
        [
            .. body.Tables.Quiet.SelectMany(q =>
                Sides.Of(q.Id).Select(s => (Skeleton.World(Sides.Id(q.Bone, s), Sides.Place(q.At, s)), q.Radius))
            ),
        ];
        Mesh = Polygoniser.Build(field, step);
        Solids = [.. field.Solids.Select(s => (s, Mesh.Of(s)))];
        // Under the hair the skull is measured.
        var everything = field.All.Where(i => Parts[i] != BodyParts.Hair).ToArray();
        landmarks = body
            .Landmarks.Select(l => Settle(field, everything, l.Id, Skeleton.World(l.Bone, l.At)) with { Through = l.Through })
            .ToDictionary(l => l.Id);
        features =
        [
            .. body
                .Tables.Features.SelectMany(f => Sides.Of(f.Id).Select(s => (Places: Feature(field, everything, f, s), f.Close)))
                .Where(f => f.Places is not null)
                .Select(f => (f.Places!, f.Close)),
        ];
        Low = new(float.MaxValue);
        High = new(float.MinValue);
        foreach (var p in Places.SelectMany(p => p))
            (Low, High) = (Vector3.Min(Low, p), Vector3.Max(High, p));
        var onFloor = Mesh.Places.Where(p => p.Y < 0.8f).Select(p => new Vector2(p.X, p.Z)).ToList();
        var centre = Skeleton.CentreOfMass;
        Stance = new(
            pose.Balance is null || onFloor.Count < 3 ? null : Hull.Inside(Hull.Of(onFloor), new(centre.X, centre.Z)),
            MathF.Max(0, Skeleton.OutOfReach),
            centre
        );
    }

    internal IEnumerable<Vector3[]> Places => Solids.Select(s => s.Mesh.Places).Prepend(Mesh.Places);

    /// <summary>Newton steps along the field's gradient, at most nine of at most 1.2 units.</summary>
    private static Vector3 ToSurface(SurfaceField field, Vector3 p, ReadOnlySpan<int> near, out Vector3 normal)
    {
        const float e = 0.08f;
        normal = Vector3.UnitY;
        for (var i = 0; i < 9; i++)
        {
            var g = field.Gradient(p, near, e, out var distance);
            var length = g.Length();
            if (length < 1e-4f)
                return p;
            normal = g / length;
            p -= normal * Math.Clamp(distance / length, -1.2f, 1.2f);
        }
        return p;
    }

    internal static FigureLandmark Settle(SurfaceField field, int[] everything, string id, Vector3 from)
    {
        var list = new int[field.Count];
        var near = list.AsSpan(0, field.Cull(from, 3, everything, list));
        var at = ToSurface(field, from, near, out var normal);
        // Where the surface has closed over a fold the steps lead astray: the place in the bone's own space is kept then.
        var buried = MathF.Abs(field.Evaluate(at, everything, out _)) > 0.1f || Vector3.Distance(at, from) > 2.5f;
        return new(id, buried ? from : at, normal, buried);
    }

    /// <summary>A drawn mark of the surface (lid, mouth, navel …) as a curve on it; null where cloth covers it.</summary>
    private Vector3[]? Feature(SurfaceField field, int[] everything, FeatureRow f, int side)
    {
        var bone = Sides.Id(f.Bone, side);
        var at = f.Points.Select(p => Skeleton.World(bone, Sides.Place(p, side))).ToArray();
        var list = new int[field.Count];
        var near = list[..field.Cull(at[at.Length / 2], 4, everything, list)];
        var curve = new List<Vector3>();
        for (var i = 0; i + 1 < at.Length; i++)
        {
            Vector3 a = at[Math.Max(0, i - 1)],
                b = at[i],
                c = at[i + 1],
                d = at[Math.Min(at.Length - 1, i + 2)];
            for (var k = 0; k < 6; k++)
            {
                float t = k / 6f,
                    t2 = t * t,
                    t3 = t2 * t;
                curve.Add(0.5f * ((2 * b) + ((c - a) * t) + (((2 * a) - (5 * b) + (4 * c) - d) * t2) + (((3 * b) - a - (3 * c) + d) * t3)));
            }
        }
        curve.Add(at[^1]);
        for (var i = 0; i < curve.Count; i++)
            curve[i] = ToSurface(field, curve[i], near, out _);
        field.Evaluate(curve[curve.Count / 2], near, out var form);
        return form < 0 ? null : [.. curve];
    }
}
