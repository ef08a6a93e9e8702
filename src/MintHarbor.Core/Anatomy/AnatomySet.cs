using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>Bones and muscles as they are laid into a pose: the true ones, or changed into how they are often drawn.</summary>
internal sealed record AnatomySet(
    IReadOnlyList<RestBone> Bones,
    IReadOnlyList<BoneRayRow> Rays,
    IReadOnlyList<MuscleSheet> Muscles,
    bool BladeGlides = true,
    bool ForearmTwists = true
)
{
    private static readonly Lazy<AnatomySet> LazyTrue = new(() => new(BoneShapes.All, AnatomyCatalogue.Bones.Rays, MuscleSheets.All));

    public static AnatomySet True => LazyTrue.Value;

    /// <summary>The true anatomy, made wrong.</summary>
    public static AnatomySet Wrong(IReadOnlyList<AnatomyChange> changes)
    {
        var changed = changes.Where(c => c.Muscle is not null).ToDictionary(c => c.Muscle!);
        var muscles = True.Muscles;
        if (changed.Count > 0)
        {
            var rows = AnatomyCatalogue.Muscles.Muscles.Where(m => changed.ContainsKey(m.Id)).Select(m => changed[m.Id].Of(m));
            var redrawn = MuscleSheets.Of([.. rows]).ToDictionary(m => m.Part.Id);
            muscles = [.. muscles.Select(m => redrawn.GetValueOrDefault(m.Part.Id, m))];
        }
        var moved = changes.Where(c => c.Bone is not null).ToList();
        return new(
            [.. True.Bones.Select(b => moved.Where(c => c.Moves(b.Part.Id)).Aggregate(b, (x, c) => c.Of(x)))],
            [.. True.Rays.Select(r => moved.Where(c => c.Moves(r.Id)).Aggregate(r, (x, c) => c.Of(x)))],
            muscles,
            changes.All(c => c.Still != "blade"),
            changes.All(c => c.Still != "forearm")
        );
    }

    /// <summary>The figure's tables with forms moved: where the skin itself is drawn wrong.</summary>
    public static FigureTables WrongForms(FigureTables tables, IReadOnlyList<AnatomyChange> changes)
    {
        var by = changes.Where(c => c.Form is not null).ToDictionary(c => c.Form!, c => c.Move!.Value);
        return tables with
        {
            Forms =
            [
                .. tables.Forms.Select(f =>
                    by.TryGetValue(f.Id, out var move) ? f with { At = f.At + move, To = f.To is { } to ? to + move : null } : f
                ),
            ],
        };
    }
}

/// <summary>One thing that a wrong drawing does: to a muscle (other rows, or drawn longer below a height), to bones (moved, raised towards the middle, the inner
/// ankle raised), to a form of the skin (moved), or that blade or forearm doesn't follow.</summary>
/// <param name="Bone">How the ids of the bones begin; one that names its side is the one that is looked at.</param>
/// <param name="Below">Height below which a muscle's places are drawn out by <paramref name="Times"/>.</param>
/// <param name="InnerLift">How far a bone is raised at the middle of the body, falling to nothing at the shoulder, units.</param>
/// <param name="AnkleLift">How far the inner ankle is raised, units.</param>
/// <param name="Still">blade or forearm.</param>
public sealed record AnatomyChange(
    string? Muscle = null,
    string? Bone = null,
    string? Form = null,
    string? Still = null,
    MusclePlace[][]? Rows = null,
    float? Below = null,
    float Times = 1,
    Vector3? Move = null,
    float InnerLift = 0,
    float AnkleLift = 0
)
{
    /// <summary>Whether it can be made by less: what is moved, raised or drawn out can.</summary>
    internal bool Scales => Rows is null && Still is null;

    /// <summary>The same by less.</summary>
    /// <param name="share">1 all of it.</param>
    internal AnatomyChange By(float share) =>
        !Scales
            ? this
            : this with
            {
                Times = 1 + ((Times - 1) * share),
                Move = Move * share,
                InnerLift = InnerLift * share,
                AnkleLift = AnkleLift * share,
            };

    /// <summary>The same on the side that is looked at.</summary>
    internal AnatomyChange On(int side) => Bone is null ? this : this with { Bone = Sides.Id(Bone, side) };

    internal bool Moves(string id) => id.StartsWith(Bone!, StringComparison.Ordinal);

    internal MuscleRow Of(MuscleRow m) => m with { Rows = Rows ?? [.. m.Rows.Select(r => r.Select(Stretched).ToArray())] };

    private MusclePlace Stretched(MusclePlace p) =>
        Below is { } y && p.At.Y < y ? p with { At = p.At with { Y = y + ((p.At.Y - y) * Times) } } : p;

    internal RestBone Of(RestBone b)
    {
        var side = b.Part.Id.EndsWith(".R", StringComparison.Ordinal) ? -1 : 1;
        return b with { Mesh = b.Mesh with { Places = [.. b.Mesh.Places.Select(p => Moved(p, side))] } };
    }

    internal BoneRayRow Of(BoneRayRow r) =>
        r with
        {
            From = r.From with { At = Moved(r.From.At, 1) },
            To = r.To with { At = Moved(r.To.At, 1) },
        };

    private const float ShoulderBreadth = 10.4f,
        AnkleTop = 6,
        AnkleInside = 3.7f;

    private Vector3 Moved(Vector3 p, int side)
    {
        p += Sides.Place(Move ?? Vector3.Zero, side);
        p.Y += InnerLift * MathF.Max(0, 1 - (MathF.Abs(p.X) / ShoulderBreadth));
        if (p.Y < AnkleTop && MathF.Abs(p.X) < AnkleInside)
            p.Y += AnkleLift * (AnkleTop - p.Y) / 1.6f;
        return p;
    }
}
