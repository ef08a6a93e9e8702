using System.Numerics;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Technique;

/// <summary>Measures the lines of a drawing that aren't hatching.</summary>
internal static class LineMeasures
{
    /// <summary>Less line than this says nothing.</summary>
    private const float Least = 100;

    /// <summary>Places in a 3 mm piece, and from piece to piece; shortest line whose weight is followed.</summary>
    private const int Piece = 12,
        Step = 6;
    private const float Followed = 18;

    public static ContourMeasures? Of(InkLines ink, InkIndex index, float[] weights, InkForm form)
    {
        var lines = ink.Lines.Where(l => l.Kind == InkKind.Contour).ToList();
        double length = lines.Sum(l => l.Length);
        if (length < Least)
            return null;
        return new(
            length,
            Middle([.. lines.SelectMany(l => Pieces(l, weights))]),
            ThickThinOf(lines, weights),
            SideOf(lines, ink, weights, form),
            StraightOf(lines, ink),
            RestatedOf(lines, index),
            200 * LineCuts.Count(lines, ink, weights) / length
        );
    }

    private static double Middle(List<float> of)
    {
        of.Sort();
        return of.Count == 0 ? 0 : of[of.Count / 2];
    }

    private static List<float> Pieces(InkLine line, float[] weights)
    {
        var means = new List<float>();
        for (var k = 0; k + Piece <= line.Places.Count; k += Step)
        {
            float sum = 0;
            for (var q = 0; q < Piece; q++)
                sum += weights[line.Places[k + q]];
            means.Add(sum / Piece);
        }
        return means;
    }

    private static double? ThickThinOf(List<InkLine> lines, float[] weights)
    {
        double sum = 0,
            length = 0;
        foreach (var line in lines.Where(l => l.Length >= Followed))
        {
            var pieces = Pieces(line, weights);
            if (pieces.Count == 0 || pieces.Average() is var mean && mean < 1e-3f)
                continue;
            sum += Math.Sqrt(pieces.Average(p => (p - mean) * (p - mean))) / mean * line.Length;
            length += line.Length;
        }
        return length > 0 ? sum / length : null;
    }

    /// <summary>Shortest line that tells a side, how far across it is looked for the form, how much a place faces right or left, and places that
    /// a side needs.</summary>
    private const float TellsSide = 6,
        Across = 4,
        Faces = 0.5f;
    private const int LeastOfSide = 240;

    private static double? SideOf(List<InkLine> lines, InkLines ink, float[] weights, InkForm form)
    {
        bool Inside(Vector2 p) =>
            p.X >= 0 && p.Y >= 0 && p.X < form.Width && p.Y < form.Height && form.Inside[((int)p.Y * form.Width) + (int)p.X];
        var (right, left) = (new List<float>(), new List<float>());
        foreach (var i in lines.Where(l => l.Length >= TellsSide).SelectMany(l => l.Places))
        {
            Vector2 at = ink.At(i),
                across = ink.Places[i].Across;
            var ahead = Inside(at + (across * Across));
            if (ahead == Inside(at - (across * Across)))
                continue;
            var outward = ahead ? -across.X : across.X;
            if (outward > Faces)
                right.Add(weights[i]);
            else if (outward < -Faces)
                left.Add(weights[i]);
        }
        return right.Count < LeastOfSide || left.Count < LeastOfSide ? null : Math.Log(right.Average() / Math.Max(1e-3, left.Average()));
    }

    private static double StraightOf(List<InkLine> lines, InkLines ink)
    {
        double straight = 0,
            all = 0;
        foreach (var path in lines.Where(l => l.Length >= 8).Select(l => StraightRuns.Even(ink, l)))
        {
            all += Math.Max(0, path.Count - 1);
            straight += StraightRuns.Of(path).Sum(r => r.To - r.From);
        }
        return all > 0 ? straight / all : 0;
    }

    private static double RestatedOf(List<InkLine> lines, InkIndex index)
    {
        int tried = 0,
            hits = 0;
        foreach (var line in lines)
            for (var k = 0; k < line.Places.Count; k += 4, tried++)
                if (index.Neighbours(line.Places[k], 2, 0.3f).Any(o => o.Kind != InkKind.Hatch))
                    hits++;
        return hits / (double)Math.Max(1, tried);
    }
}

/// <summary>Straight runs of a line: at least 12 mm that stay near their chord.</summary>
internal static class StraightRuns
{
    private const int Least = 12,
        Most = 120;
    private const float Aside = 0.35f,
        AsideShare = 0.008f;

    /// <summary>A line smoothed over 2 mm, in steps of a millimetre.</summary>
    public static List<Vector2> Even(InkLines ink, InkLine line)
    {
        var smooth = new List<Vector2>(line.Places.Count);
        for (var i = 0; i < line.Places.Count; i++)
        {
            var k = Math.Min(4, Math.Min(i, line.Places.Count - 1 - i));
            var sum = Vector2.Zero;
            for (var q = -k; q <= k; q++)
                sum += ink.At(line.Places[i + q]);
            smooth.Add(sum / ((2 * k) + 1));
        }
        return Stepped(smooth, 1);
    }

    /// <summary>Places of a path at even steps along it, its first one first.</summary>
    public static List<Vector2> Stepped(IReadOnlyList<Vector2> path, float step)
    {
        var to = new List<Vector2> { path[0] };
        var next = step;
        for (var i = 1; i < path.Count; i++)
        {
            var far = Vector2.Distance(path[i], path[i - 1]);
            for (; next <= far && far > 1e-6f; next += step)
                to.Add(Vector2.Lerp(path[i - 1], path[i], next / far));
            next -= far;
        }
        return to;
    }

    /// <summary>From each start the longest, one after the other.</summary>
    public static IEnumerable<(int From, int To)> Of(List<Vector2> path)
    {
        for (var i = 0; i < path.Count - 1; )
        {
            if (Longest(path, i) is not { } end)
            {
                i++;
                continue;
            }
            yield return (i, end);
            i = end;
        }
    }

    private static int? Longest(List<Vector2> path, int from)
    {
        for (var to = Math.Min(path.Count - 1, from + Most); to >= from + Least; to -= 2)
            if (IsStraight(path, from, to))
                return to;
        return null;
    }

    private static bool IsStraight(List<Vector2> path, int from, int to)
    {
        var chord = path[to] - path[from];
        var length = chord.Length();
        if (length < 0.97f * (to - from))
            return false;
        var way = chord / length;
        var most = Aside + (AsideShare * length);
        for (var k = from + 1; k < to; k += 2)
        {
            var off = path[k] - path[from];
            if (MathF.Abs((off.X * way.Y) - (off.Y * way.X)) > most)
                return false;
        }
        return true;
    }
}

/// <summary>Where a line's weight steps: there another stroke takes it up.</summary>
internal static class LineCuts
{
    /// <summary>Shortest line that is looked at, how often, and what is compared to either side, mm; least step of the logarithm, and against the
    /// sheet's middle step.</summary>
    private const float Shortest = 12,
        Every = 0.5f,
        From = 0.6f,
        To = 4.5f,
        Least = 0.5f,
        TimesMiddle = 4;
    private const int Nearby = 7;

    /// <summary>Pieces that the lines fall into.</summary>
    public static int Count(List<InkLine> lines, InkLines ink, float[] weights)
    {
        var steps = lines.Select(l => Steps(l, ink, weights)).ToList();
        var all = steps.SelectMany(s => s).Where(s => s > 0).Order().ToList();
        var least = all.Count == 0 ? float.MaxValue : MathF.Max(Least, TimesMiddle * all[all.Count / 2]);
        return lines.Count + steps.Sum(s => Enumerable.Range(0, s.Count).Count(i => s[i] >= least && IsTop(s, i)));
    }

    private static bool IsTop(List<float> steps, int i)
    {
        for (var k = Math.Max(0, i - Nearby); k <= Math.Min(steps.Count - 1, i + Nearby); k++)
            if (steps[k] > steps[i] || (k < i && steps[k] == steps[i]))
                return false;
        return true;
    }

    /// <summary>How far the logarithm of the weight steps, every half millimetre; 0 at a corner, where it may.</summary>
    private static List<float> Steps(InkLine line, InkLines ink, float[] weights)
    {
        if (line.Length < Shortest)
            return [];
        var n = line.Places.Count;
        var along = new float[n];
        var sum = new float[n + 1];
        for (var i = 0; i < n; i++)
        {
            along[i] = i == 0 ? 0 : along[i - 1] + Vector2.Distance(ink.At(line.Places[i]), ink.At(line.Places[i - 1]));
            sum[i + 1] = sum[i] + weights[line.Places[i]];
        }
        int At(float a) => Array.BinarySearch(along, a) is var k && k >= 0 ? k : Math.Min(n, ~k);
        float Mean(float a, float b)
        {
            int j = Math.Clamp(Math.Max(At(b), At(a) + 1), 1, n),
                i = Math.Min(At(a), j - 1);
            return (sum[j] - sum[i]) / (j - i);
        }
        Vector2 Place(float a) => ink.At(line.Places[Math.Min(n - 1, At(a))]);
        var steps = new List<float>();
        for (var a = To + Every; a <= along[^1] - To - Every; a += Every)
        {
            Vector2 before = Place(a - From) - Place(a - To),
                after = Place(a + To) - Place(a + From);
            var carriesOn = Vector2.Dot(before, after) > 0.8f * before.Length() * after.Length();
            steps.Add(carriesOn ? MathF.Abs(MathF.Log((Mean(a - To, a - From) + 0.02f) / (Mean(a + From, a + To) + 0.02f))) : 0);
        }
        return steps;
    }
}
