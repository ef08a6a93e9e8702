using System.Globalization;
using System.Numerics;
using System.Text;

namespace MintHarbor.Core.Figure;

/// <summary>Lines in a picture: length, even spacing, smoothing, thinning, and SVG paths of them.</summary>
internal static class Curves
{
    public static float Length(IReadOnlyList<Vector2> p)
    {
        float sum = 0;
        for (var i = 1; i < p.Count; i++) sum += Vector2.Distance(p[i], p[i - 1]);
        return sum;
    }

    public static List<Vector2> Resample(IReadOnlyList<Vector2> p, float step)
    {
        var r = new List<Vector2> { p[0] };
        float carried = 0;
        for (var i = 1; i < p.Count; i++)
        {
            var from = p[i - 1];
            var left = Vector2.Distance(from, p[i]);
            while (carried + left >= step && left > 1e-6f)
            {
                from += (p[i] - from) * ((step - carried) / left);
                r.Add(from);
                left = Vector2.Distance(from, p[i]);
                carried = 0;
            }
            carried += left;
        }
        r.Add(p[^1]);
        return r;
    }

    /// <summary>Binomial smoothing 1-2-1; the ends of an open line stay.</summary>
    public static List<Vector2> Smooth(List<Vector2> p, bool closed, int rounds)
    {
        var n = p.Count;
        for (var k = 0; k < rounds; k++)
        {
            var from = p.ToArray();
            for (var i = closed ? 0 : 1; i < (closed ? n : n - 1); i++) p[i] = (from[(i + n - 1) % n] * 0.25f) + (from[i] * 0.5f) + (from[(i + 1) % n] * 0.25f);
        }
        return p;
    }

    /// <summary>Douglas and Peucker: drops places nearer than <paramref name="tolerance"/> to the line without them.</summary>
    public static List<Vector2> Simplify(IReadOnlyList<Vector2> p, float tolerance)
    {
        var keep = new bool[p.Count];
        keep[0] = keep[^1] = true;
        var open = new Stack<(int, int)>([(0, p.Count - 1)]);
        while (open.TryPop(out var span))
        {
            var (a, b) = span;
            var d = p[b] - p[a];
            var l = d.Length();
            var (most, at) = (tolerance, -1);
            for (var i = a + 1; i < b; i++)
            {
                var off = l < 1e-6f ? Vector2.Distance(p[i], p[a]) : MathF.Abs(((p[i].X - p[a].X) * d.Y) - ((p[i].Y - p[a].Y) * d.X)) / l;
                if (off > most) (most, at) = (off, i);
            }
            if (at < 0) continue;
            keep[at] = true;
            open.Push((a, at));
            open.Push((at, b));
        }
        return [.. p.Where((_, i) => keep[i])];
    }

    /// <summary>A stroke as one filled outline, so that thick and thin need no stroke widths.</summary>
    public static void Ribbon(StringBuilder to, LineStroke s)
    {
        var n = s.Places.Length;
        if (n < 2) return;
        List<Vector2> left = new(n), right = new(n);
        for (var i = 0; i < n; i++)
        {
            var d = s.Closed && (i == 0 || i == n - 1) ? s.Places[1] - s.Places[n - 2] : s.Places[Math.Min(n - 1, i + 1)] - s.Places[Math.Max(0, i - 1)];
            if (d.Length() > 0) d /= d.Length();
            var aside = new Vector2(-d.Y, d.X) * s.Widths[i] * 0.5f;
            left.Add(s.Places[i] + aside);
            right.Add(s.Places[i] - aside);
        }
        right.Reverse();
        Move(to, 'M', left[0]);
        Through(to, left);
        if (s.Closed) to.Append('Z');
        Move(to, s.Closed ? 'M' : 'L', right[0]);
        Through(to, right);
        to.Append('Z');
    }

    /// <summary>Closed loops as one even-odd path of straight pieces.</summary>
    public static string Loops(IEnumerable<IReadOnlyList<Vector2>> loops)
    {
        var to = new StringBuilder();
        foreach (var loop in loops)
        {
            for (var i = 0; i < loop.Count; i++) Move(to, i == 0 ? 'M' : 'L', loop[i]);
            to.Append('Z');
        }
        return to.ToString();
    }

    public static string Polyline(IEnumerable<Vector2> places)
    {
        var to = new StringBuilder();
        foreach (var p in places) Move(to, to.Length == 0 ? 'M' : 'L', p);
        return to.ToString();
    }

    private static void Move(StringBuilder to, char verb, Vector2 p) => to.Append(verb).Append(Number(p.X)).Append(' ').Append(Number(p.Y));

    /// <summary>Catmull and Rom's curve through the places, as cubics.</summary>
    private static void Through(StringBuilder to, List<Vector2> p)
    {
        for (var i = 1; i < p.Count; i++)
        {
            Vector2 a = p[Math.Max(0, i - 2)], b = p[i - 1], c = p[i], d = p[Math.Min(p.Count - 1, i + 1)];
            Vector2 first = b + ((c - a) / 6), second = c - ((d - b) / 6);
            to.Append('C').Append(Number(first.X)).Append(' ').Append(Number(first.Y)).Append(' ').Append(Number(second.X)).Append(' ').Append(Number(second.Y))
                .Append(' ').Append(Number(c.X)).Append(' ').Append(Number(c.Y));
        }
    }

    private static string Number(float x) => MathF.Round(x, 1).ToString("0.#", CultureInfo.InvariantCulture);
}
