using System.Numerics;

namespace MintHarbor.Core.Technique;

/// <summary>Joins pieces end to end where one carries on the other, the best pairs first.</summary>
internal static class LineJoin
{
    /// <summary>Gaps that are bridged, one round after the other, mm.</summary>
    public static readonly float[] Gaps = [0.9f, 1.6f, 2.2f];

    /// <summary>Turn that is still carrying on, radians, and nearer than half a millimetre; how far aside the other end lies, mm and as a share of
    /// the gap.</summary>
    private const float Turn = 0.45f,
        NearTurn = 0.75f,
        Near = 0.5f,
        Aside = 0.45f,
        AsideShare = 0.35f,
        Cell = 3;

    /// <summary>Places behind an end that tell its direction.</summary>
    private const int Behind = 9;

    private readonly record struct End(int Piece, bool First, Vector2 At, Vector2 Out);

    public static float Length(IReadOnlyList<InkPlace> places, IReadOnlyList<int> piece)
    {
        float sum = 0;
        for (var i = 1; i < piece.Count; i++)
            sum += Vector2.Distance(places[piece[i]].At, places[piece[i - 1]].At);
        return sum;
    }

    public static List<List<int>> Joined(IReadOnlyList<InkPlace> places, List<List<int>> pieces, float gap)
    {
        var lengths = pieces.Select(p => Length(places, p)).ToArray();
        List<End> ends = [.. pieces.SelectMany((p, i) => new[] { EndOf(places, p, i, true), EndOf(places, p, i, false) })];
        var partner = Partners(ends, lengths, gap);
        var done = new bool[pieces.Count];
        var made = new List<List<int>>(pieces.Count);
        for (var i = 0; i < pieces.Count; i++)
            if (!done[i])
                made.Add(Walk(pieces, partner, done, Outermost(partner, i)));
        return made;
    }

    private static End EndOf(IReadOnlyList<InkPlace> places, List<int> piece, int number, bool first)
    {
        var k = Math.Min(piece.Count - 1, Behind);
        Vector2 p = places[first ? piece[0] : piece[^1]].At,
            q = places[first ? piece[k] : piece[^(1 + k)]].At,
            way = p - q;
        return new(number, first, p, way.Length() > 1e-5f ? Vector2.Normalize(way) : Vector2.UnitX);
    }

    /// <summary>Number of the end that an end is joined to; ends are numbered twice their piece, and one more for the last.</summary>
    private static Dictionary<int, int> Partners(List<End> ends, float[] lengths, float gap)
    {
        (int, int) CellOf(Vector2 p) => ((int)(p.X / Cell), (int)(p.Y / Cell));
        var cells = Enumerable.Range(0, ends.Count).ToLookup(i => CellOf(ends[i].At));
        var pairs = new List<(float Cost, int A, int B)>();
        for (var i = 0; i < ends.Count; i++)
        {
            var (x, y) = CellOf(ends[i].At);
            for (var dy = -1; dy <= 1; dy++)
            for (var dx = -1; dx <= 1; dx++)
                foreach (var j in cells[(x + dx, y + dy)])
                    if (j > i && ends[j].Piece != ends[i].Piece && Cost(ends[i], ends[j], lengths, gap) is { } cost)
                        pairs.Add((cost, i, j));
        }
        var partner = new Dictionary<int, int>();
        foreach (var (_, a, b) in pairs.OrderBy(p => p.Cost))
            if (!partner.ContainsKey(a) && !partner.ContainsKey(b))
                (partner[a], partner[b]) = (b, a);
        return partner;
    }

    /// <summary>How badly two ends carry on one another; null where they don't.</summary>
    private static float? Cost(End a, End b, float[] lengths, float gap)
    {
        var to = b.At - a.At;
        var far = to.Length();
        if (far > gap || (far > 0.9f && MathF.Min(lengths[a.Piece], lengths[b.Piece]) < 1.5f))
            return null;
        var turn = MathF.Acos(Math.Clamp(-Vector2.Dot(a.Out, b.Out), -1, 1));
        if (turn > (far < Near ? NearTurn : Turn))
            return null;
        var way = Vector2.Normalize(a.Out - b.Out);
        float along = Vector2.Dot(to, way),
            aside = MathF.Abs((to.X * way.Y) - (to.Y * way.X));
        if (aside > Aside || along < -0.8f || (far > Near && along > 0.3f && aside > MathF.Max(0.2f, along * AsideShare)))
            return null;
        return far + (turn * 1.5f) + (aside * 2);
    }

    /// <summary>The free end of the chain that a piece belongs to; of a ring any.</summary>
    private static int Outermost(Dictionary<int, int> partner, int piece)
    {
        var end = 2 * piece;
        while (partner.TryGetValue(end, out var other) && other / 2 != piece)
            end = other ^ 1;
        return end;
    }

    private static List<int> Walk(List<List<int>> pieces, Dictionary<int, int> partner, bool[] done, int end)
    {
        var line = new List<int>();
        while (!done[end / 2])
        {
            var piece = pieces[end / 2];
            done[end / 2] = true;
            line.AddRange(end % 2 == 0 ? piece : Enumerable.Reverse(piece));
            if (!partner.TryGetValue(end ^ 1, out var next))
                break;
            end = next;
        }
        return line;
    }
}
