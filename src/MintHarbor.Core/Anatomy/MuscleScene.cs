using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>Muscles, the bones right under the skin and the flesh between, from one seat: which of them every pixel shows.</summary>
internal sealed class MuscleScene
{
    public const int Nothing = -1,
        Flesh = 5000,
        Skin = 5001,
        Prop = 5002;
    private const int FirstBone = 1000;

    private readonly UnderSkin under;
    private readonly bool[] shown;

    public DepthPicture Depth { get; }
    public PosedMuscles Muscles => under.Muscles;

    /// <summary>Below the count of muscles the muscle's number, then bones; flesh, skin, prop; nothing.</summary>
    public int[] Id { get; }

    /// <param name="only">Some muscles and bones; null all muscles and the bones right under the skin.</param>
    public MuscleScene(FigureModel model, SeatCamera camera, OnlyParts? only = null)
    {
        under = model.UnderSkin;
        Mesh muscles = only is null ? under.Muscles.Mesh : only.Of(under.Muscles),
            bones = only is null ? under.ShownBones : only.Of(under.Bones),
            core = under.Core;
        Depth = new(camera, [muscles, bones, core, .. model.Solids.Select(s => s.Mesh)]);
        int firstBone = muscles.TriangleCount,
            firstCore = firstBone + bones.TriangleCount,
            firstSolid = firstCore + core.TriangleCount;
        Id = new int[Depth.Depth.Length];
        shown = new bool[under.Muscles.Sheets.Count];
        for (var o = 0; o < Id.Length; o++)
        {
            var t = Depth.Triangle[o];
            Id[o] =
                t < 0 ? Nothing
                : t < firstBone ? muscles.Form[muscles.Triangles[t * 3]]
                : t < firstCore ? FirstBone + bones.Form[bones.Triangles[(t - firstBone) * 3]]
                : t >= firstSolid ? Prop
                : under.IsSkin(core.Triangles[(t - firstCore) * 3]) ? Skin
                : Flesh;
            if (IsMuscle(Id[o]))
                shown[Id[o]] = true;
        }
    }

    public bool IsMuscle(int id) => id is >= 0 and < FirstBone;

    public bool IsBone(int id) => id is >= FirstBone and < Flesh;

    public bool Shows(int muscle) => shown[muscle];

    /// <summary>What a pixel of a bone or of the flesh counts as when borders are drawn: handle and body of the breastbone are one, flesh and
    /// skin are one.</summary>
    public int Kind(int id)
    {
        if (!IsBone(id))
            return Flesh;
        return under.Bones.Parts[id - FirstBone].Id is "manubrium" or "breastbone" ? FirstBone : id;
    }

    /// <summary>What is called what at a pixel; null where neither muscle nor bone is seen.</summary>
    public AnatomyPart? Part(int id) =>
        IsMuscle(id) ? Muscles.Sheets[id].Part
        : IsBone(id) ? under.Bones.Parts[id - FirstBone]
        : null;

    public int At(Vector2 p) =>
        p.X >= 0 && p.Y >= 0 && p.X < Depth.Width && p.Y < Depth.Height ? Id[((int)p.Y * Depth.Width) + (int)p.X] : Nothing;

    /// <summary>How much of a tendon a muscle's pixel is, 0 to 1.</summary>
    /// <param name="ragged">The border between belly and tendon runs in tongues, not straight across.</param>
    public float Tendon(int pixel, bool ragged = false)
    {
        var row = Muscles.Sheets[Id[pixel]].Row;
        var (u, v, band) = Depth.Blend(pixel, Muscles.Fibre) is var f ? (f.X, f.Y, f.Z) : default;
        float first = u + (ragged ? 0.05f * MathF.Sin(v * 5) : 0),
            last = u + (ragged ? 0.05f * MathF.Cos(v * 4) : 0);
        var atOrigin = 1 - Splines.Eased(row.Tendon[0] * 0.6f, (row.Tendon[0] * 1.5f) + 0.02f, first);
        var atInsertion = Splines.Eased(1 - (row.Tendon[1] * 1.35f) - 0.02f, 1 - (row.Tendon[1] * 0.6f), last);
        return MathF.Max(band, MathF.Max(atOrigin, atInsertion));
    }
}

/// <summary>Some of what lies under the skin: muscles by their id, bones by how their id begins.</summary>
internal sealed record OnlyParts(IReadOnlyCollection<string> Muscles, IReadOnlyCollection<string> Bones)
{
    public Mesh Of(PosedMuscles m) => m.Mesh.Only(i => Muscles.Contains(m.Sheets[i].Row.Id));

    public Mesh Of(PosedBones b)
    {
        var kept = b.Parts.Select(p => Bones.Any(s => p.Id.StartsWith(s, StringComparison.Ordinal))).ToArray();
        return b.Mesh.Only(i => kept[i]);
    }
}

/// <summary>Borders between the numbers of a picture as chains of pixel corners, broken where more than two meet.</summary>
internal static class RegionBorders
{
    public static List<List<Vector2>> Of(int[] id, int width, int height, Func<int, int, bool> wanted)
    {
        var next = new Dictionary<int, List<int>>();
        void Link(int a, int b)
        {
            foreach (var (from, to) in ((int, int)[])[(a, b), (b, a)])
            {
                if (!next.TryGetValue(from, out var list))
                    next[from] = list = new(4);
                list.Add(to);
            }
        }
        int Corner(int x, int y) => (y * (width + 1)) + x;
        for (var y = 0; y < height; y++)
        for (var x = 0; x < width; x++)
        {
            var own = id[(y * width) + x];
            if (x + 1 < width && id[(y * width) + x + 1] is var right && right != own && wanted(own, right))
                Link(Corner(x + 1, y), Corner(x + 1, y + 1));
            if (y + 1 < height && id[((y + 1) * width) + x] is var below && below != own && wanted(own, below))
                Link(Corner(x, y + 1), Corner(x + 1, y + 1));
        }
        return Chains(next, c => new(c % (width + 1), c / (width + 1)));
    }

    private static List<List<Vector2>> Chains(Dictionary<int, List<int>> next, Func<int, Vector2> place)
    {
        var used = new HashSet<(int, int)>();
        bool Take(int a, int b) => used.Add(a < b ? (a, b) : (b, a));
        var chains = new List<List<Vector2>>();
        void Walk(int from, int to)
        {
            if (!Take(from, to))
                return;
            var chain = new List<Vector2> { place(from), place(to) };
            while (next[to] is { Count: 2 } on)
            {
                (from, to) = (to, on[0] == from ? on[1] : on[0]);
                if (!Take(from, to))
                    break;
                chain.Add(place(to));
            }
            chains.Add(chain);
        }
        // From where several meet, and from loose ends, first; what is left then runs round.
        foreach (var (corner, to) in next.Where(n => n.Value.Count != 2).Concat(next))
        foreach (var on in to)
            Walk(corner, on);
        return chains;
    }
}
