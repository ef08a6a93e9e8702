using System.Numerics;

namespace MintHarbor.Core.Fitting;

/// <summary>A line of a reference view, each of its places on a part.</summary>
/// <param name="Weight">What it counts: an outline more than a soft hollow.</param>
public sealed record FitStroke(float Weight, Vector2[] Places, int[] Parts);

/// <summary>A landmark of a reference view.</summary>
/// <param name="Seen">Neither hidden nor facing away nor in a fold.</param>
/// <param name="Between">Another part that it goes along with as much, as what lies between two eyes; −1 for none.</param>
public sealed record FitMark(string Id, Vector2 At, int Part, bool Seen, int Between = -1);

/// <summary>A view that a drawing is laid over, part by part: its lines, where each part hangs and ends, and its landmarks. In any unit, y down.</summary>
/// <param name="Joint">By part, where it hangs on its parent; <paramref name="End"/> where it ends.</param>
/// <param name="Lowest">Where the lower click may have gone, the likeliest first: the lowest drawn place of either foot, or the chin.</param>
public sealed record FitReference(
    PartTree Tree,
    IReadOnlyList<FitStroke> Strokes,
    Vector2[] Joint,
    Vector2[] End,
    IReadOnlyList<FitMark> Marks,
    IReadOnlyList<FitMark> Lowest
)
{
    public const string Top = "crown";

    /// <summary>The whole of it, for a first guess where it lies.</summary>
    internal Shape Shape { get; init; } = new(default, 1, [], []);

    /// <summary>Which of <see cref="Lowest"/> the lower click is taken for.</summary>
    public int Foot { get; init; }
    public FitMark Crown => Marks.First(m => m.Id == Top);
    public FitMark Sole => Lowest[Foot];

    /// <summary>From the upper click to the lower.</summary>
    public float Height => Vector2.Distance(Crown.At, Sole.At);

    /// <summary>The same view with left and right exchanged, as a mirror shows it.</summary>
    public FitReference Mirrored()
    {
        Vector2 Flip(Vector2 p) => p with { X = -p.X };
        var other = Tree.Parts.Select((p, i) => Tree.Index(Landmarks.LandmarkIds.Mirror(p.Id))).ToArray();
        FitMark Mark(FitMark m) =>
            new(Landmarks.LandmarkIds.Mirror(m.Id), Flip(m.At), other[m.Part], m.Seen, m.Between < 0 ? -1 : other[m.Between]);
        return this with
        {
            Strokes = [.. Strokes.Select(s => new FitStroke(s.Weight, [.. s.Places.Select(Flip)], [.. s.Parts.Select(p => other[p])]))],
            Joint = [.. other.Select(o => Flip(Joint[o]))],
            End = [.. other.Select(o => Flip(End[o]))],
            Marks = [.. Marks.Select(Mark)],
            Lowest = [.. Lowest.Select(Mark)],
            Shape = Shape.Mirrored(),
        };
    }
}

/// <summary>How a place goes along with the parts near it: with its own, and near a joint with the one across it too, so that lines bend
/// there instead of breaking.</summary>
public readonly record struct PartShare(int Part, float Share);

/// <summary>Shares of the parts in the places of a reference.</summary>
internal static class Skin
{
    private const int Most = 5;

    /// <param name="blend">How far from a joint parts go over into one another, in the reference's unit.</param>
    public static PartShare[] Of(FitReference r, Vector2 p, int part, float blend)
    {
        var shares = new List<PartShare>(Most);
        var rest = 1f;
        void Give(int to, float share)
        {
            if (share <= 0.001f || shares.Count == Most - 1)
                return;
            shares.Add(new(to, share));
            rest -= share;
        }
        var tree = r.Tree;
        var own = tree.Parts[part];
        if (own.Alone)
            return [new(part, 1)];
        if (own.Parent >= 0)
            Give(own.Parent, OfParent(r, p, part, blend));
        foreach (var child in tree.Children[part].Where(c => !tree.Parts[c].Alone))
            Give(child, MathF.Min(rest, OfChild(r, p, child, blend)));
        if (rest < 0)
        {
            var sum = 1 - rest;
            shares = [.. shares.Select(s => s with { Share = s.Share / sum })];
            rest = 0;
        }
        return [new(part, rest), .. shares];
    }

    public static PartShare[] Of(FitReference r, FitMark m, float blend) =>
        m.Between < 0 ? Of(r, m.At, m.Part, blend) : [new(m.Part, 0.5f), new(m.Between, 0.5f)];

    /// <summary>Rounder than its parts are long, or joined at a place: distance tells, not how far along.</summary>
    private static bool Round(FitReference r, int part, float blend) =>
        r.Tree.Parts[part].AtJoint || Vector2.Distance(r.Joint[part], r.End[part]) < blend * 0.8f;

    private static float OfParent(FitReference r, Vector2 p, int part, float blend)
    {
        var t = Round(r, part, blend)
            ? (Vector2.Distance(p, r.Joint[part]) - (blend * 0.5f)) / (blend * 1.5f)
            : (Along(r, p, part) + blend) / (2 * blend);
        return t >= 1 ? 0 : (1 - Smooth(Math.Clamp(t, 0, 1))) * (r.Tree.Parts[part].AtJoint ? 0.5f : 1);
    }

    private static float OfChild(FitReference r, Vector2 p, int child, float blend)
    {
        var far = Vector2.Distance(p, r.Joint[child]);
        if (r.Tree.Parts[child].AtJoint)
            return far >= blend * 4 ? 0 : 0.5f * (1 - Smooth(far / (blend * 4)));
        if (Round(r, child, blend))
            return far >= blend * 2 ? 0 : 0.5f * (1 - Smooth(far / (blend * 2)));
        var t = (Along(r, p, child) + blend) / (2 * blend);
        return t <= 0 || far > blend * 4 ? 0 : Smooth(MathF.Min(t, 1));
    }

    /// <summary>How far along a part's axis a place lies, from its joint on.</summary>
    private static float Along(FitReference r, Vector2 p, int part) =>
        Vector2.Dot(p - r.Joint[part], Vector2.Normalize(r.End[part] - r.Joint[part]));

    private static float Smooth(float t) => t * t * (3 - (2 * t));
}
