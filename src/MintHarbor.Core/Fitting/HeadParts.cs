using System.Numerics;

namespace MintHarbor.Core.Fitting;

/// <summary>Which part of <see cref="PartTree.Features"/> the landmarks and lines of a head belong to.</summary>
internal static class HeadParts
{
    private static readonly PartTree Tree = PartTree.Features;

    /// <summary>Where a part hangs and ends, by landmarks; a part has its middle where none stands for it.</summary>
    private static readonly (string Part, string[] Joint, string[] End)[] Ends =
    [
        (PartTree.Skull, ["nose-root"], ["crown"]),
        (PartTree.Jaw, ["jaw-angle.L", "jaw-angle.R"], ["chin"]),
        (PartTree.Eye + ".L", ["eye-inner.L", "eye-outer.L"], ["brow-mid.L"]),
        (PartTree.Eye + ".R", ["eye-inner.R", "eye-outer.R"], ["brow-mid.R"]),
        (PartTree.Nose, ["nosebase"], ["nose-root"]),
        (PartTree.Mouth, ["lip-slit"], ["under-lip"]),
        (PartTree.Ear + ".L", ["ear-base.L"], ["ear-top.L"]),
        (PartTree.Ear + ".R", ["ear-base.R"], ["ear-top.R"]),
        (PartTree.Neck, ["chin", "neck-side.L", "neck-side.R"], ["pit"]),
    ];

    public static (Vector2[] Joint, Vector2[] End) Axes(IReadOnlyList<FitMark> marks)
    {
        Vector2 Middle(string[] ids) =>
            ids.Select(id => marks.First(m => m.Id == id).At).Aggregate(Vector2.Zero, (a, b) => a + b) / ids.Length;
        Vector2[] joint = new Vector2[Tree.Parts.Count],
            end = new Vector2[Tree.Parts.Count];
        foreach (var (part, from, to) in Ends)
            (joint[Tree.Index(part)], end[Tree.Index(part)]) = (Middle(from), Middle(to));
        return (joint, end);
    }

    public static int OfLandmark(string id)
    {
        var side = id.EndsWith(".R", StringComparison.Ordinal) ? ".R" : ".L";
        var stem = id.Split('.')[0];
        return stem switch
        {
            "eye-inner" or "eye-outer" or "lid-upper" or "lid-lower" or "pupil" or "iris-inner" or "iris-outer" => Tree.Index(
                PartTree.Eye + side
            ),
            "brow-inner" or "brow-mid" or "brow-outer" => Tree.Index(PartTree.Eye + side),
            "brow" or "glabella" or "nose-root" => Tree.Index(PartTree.Eye + ".L"),
            "nosetip" or "nosebase" or "wing" or "nostril" => Tree.Index(PartTree.Nose),
            "upper-lip" or "lip-slit" or "lower-lip" or "under-lip" or "mouth-corner" or "lip-peak" => Tree.Index(PartTree.Mouth),
            "ear-top" or "ear-base" or "ear-front" => Tree.Index(PartTree.Ear + side),
            "chin" or "chin-front" or "chin-side" or "jaw-angle" => Tree.Index(PartTree.Jaw),
            "pit" or "nape" or "neck-side" or "collar" => Tree.Index(PartTree.Neck),
            _ => Tree.Index(PartTree.Skull),
        };
    }

    /// <summary>The other of two eyes that a landmark lies between; −1 for any other.</summary>
    public static int BesideLandmark(string id) => id is "brow" or "glabella" or "nose-root" ? Tree.Index(PartTree.Eye + ".R") : -1;

    public static bool IsFeature(int part) =>
        Tree.Parts[part].Id is var id && id != PartTree.Skull && id != PartTree.Jaw && id != PartTree.Neck;

    /// <summary>The feature that a drawn mark belongs to: the one whose landmarks lie nearest to all of it.</summary>
    public static int OfLine(Vector2[] places, IReadOnlyList<FitMark> marks) =>
        marks
            .Where(m => IsFeature(m.Part))
            .GroupBy(m => m.Part)
            .Select(g => (g.Key, Far: places.Average(p => g.Min(m => Vector2.Distance(m.At, p)))))
            .OrderBy(g => g.Far)
            .Select(g => g.Key)
            .FirstOrDefault(-1);

    /// <summary>Whose an outline's place is: an ear's close to it, else skull, jaw or neck, whichever landmark is nearest.</summary>
    public static int OfOutline(Vector2 p, IReadOnlyList<FitMark> marks)
    {
        FitMark? nearest = null;
        var best = float.MaxValue;
        foreach (var m in marks)
        {
            var ear = Tree.Parts[m.Part].Id.StartsWith(PartTree.Ear, StringComparison.Ordinal);
            if (IsFeature(m.Part) && !ear)
                continue;
            if (Vector2.Distance(m.At, p) is var d && d < best)
                (best, nearest) = (d, m);
        }
        return nearest?.Part ?? 0;
    }
}
