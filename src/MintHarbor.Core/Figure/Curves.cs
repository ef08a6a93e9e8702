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
        for (var i = 1; i < p.Count; i++)
            sum += Vector2.Distance(p[i], p[i - 1]);
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
            for (var i = closed ? 0 : 1; i < (closed ? n : n - 1); i++)
                p[i] = (from[(i + n - 1) % n] * 0.25f) + (from[i] * 0.5f) + (from[(i + 1) % n] * 0.25f);
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
                if (off > most)
                    (most, at) = (off, i);
            }
            if (at < 0)
                continue;
            keep[at] = true;
            open.Push((a, at));
            open.Push((at, b));
        }
        return [.. p.Where((_, i) => keep[i])];
    }

    /// <summary>Strokes of a picture so many times finer.</summary>
    public static List<LineStroke> Smaller(IEnumerable<LineStroke> strokes, int finer) =>
        [.. strokes.Select(s => s with { Places = [.. s.Places.Select(p => p / finer)], Widths = [.. s.Widths.Select(w => w / finer)] })];

    /// <summary>A stroke as one filled outline, so that thick and thin need no stroke widths.</summary>
    public static void Ribbon(StringBuilder to, LineStroke s)
    {
        var n = s.Places.Length;
        if (n < 2)
            return;
        List<Vector2> left = new(n),
            right = new(n);
        for (var i = 0; i < n; i++)
        {
            var d =
                s.Closed && (i == 0 || i == n - 1)
                    ? s.Places[1] - s.Places[n - 2]
                    : s.Places[Math.Min(n - 1, i + 1)] - s.Places[Math.Max(0, i - 1)];
            if (d.Length() > 0)
                d /= d.Length();
            var aside = new Vector2(-d.Y, d.X) * s.Widths[i] * 0.5f;
            left.Add(s.Places[i] + aside);
            right.Add(s.Places[i] - aside);
        }
        right.Reverse();
        var pen = new Pen(to);
        pen.Move(left[0]);
        Through(pen, left);
        if (s.Closed)
        {
            pen.Close();
            pen.Move(right[0]);
        }
        else
            pen.Line(right[0]);
        Through(pen, right);
        pen.Close();
    }

    /// <summary>One path of many strokes.</summary>
    public static string Ribbons(IEnumerable<LineStroke> strokes)
    {
        var to = new StringBuilder();
        foreach (var s in strokes)
            Ribbon(to, s);
        return to.ToString();
    }

    /// <summary>Closed loops as one even-odd path of straight pieces.</summary>
    public static string Loops(IEnumerable<IReadOnlyList<Vector2>> loops)
    {
        var to = new StringBuilder();
        var pen = new Pen(to);
        foreach (var loop in loops)
        {
            pen.Move(loop[0]);
            for (var i = 1; i < loop.Count; i++)
                pen.Line(loop[i]);
            pen.Close();
        }
        return to.ToString();
    }

    public static string Polyline(IEnumerable<Vector2> places)
    {
        var to = new StringBuilder();
        var pen = new Pen(to);
        foreach (var p in places)
            if (to.Length == 0)
                pen.Move(p);
            else
                pen.Line(p);
        return to.ToString();
    }

    /// <summary>Catmull and Rom's curve through the places, as cubics.</summary>
    private static void Through(Pen pen, List<Vector2> p)
    {
        for (var i = 1; i < p.Count; i++)
        {
            Vector2 a = p[Math.Max(0, i - 2)],
                b = p[i - 1],
                c = p[i],
                d = p[Math.Min(p.Count - 1, i + 1)];
            pen.Curve(b + ((c - a) / 6), c - ((d - b) / 6), c);
        }
    }

    /// <summary>Writes SVG path data in tenths of a pixel, each place by its way from the last as it was written, so that rounding never
    /// adds up and the text stays short.</summary>
    private sealed class Pen(StringBuilder to)
    {
        private int x,
            y,
            startX,
            startY;
        private char verb;

        public void Move(Vector2 p)
        {
            to.Append('M');
            verb = 'M';
            (x, y) = (startX, startY) = (Tenths(p.X), Tenths(p.Y));
            Write(x, first: true);
            Write(y);
        }

        public void Line(Vector2 p)
        {
            Verb('l');
            Step(p);
        }

        public void Curve(Vector2 first, Vector2 second, Vector2 end)
        {
            Verb('c');
            foreach (var p in (ReadOnlySpan<Vector2>)[first, second])
            {
                Write(Tenths(p.X) - x);
                Write(Tenths(p.Y) - y);
            }
            Step(end);
        }

        public void Close()
        {
            to.Append('Z');
            (x, y, verb) = (startX, startY, 'Z');
        }

        private void Step(Vector2 p)
        {
            int px = Tenths(p.X),
                py = Tenths(p.Y);
            Write(px - x);
            Write(py - y);
            (x, y) = (px, py);
        }

        /// <summary>The same verb again is understood.</summary>
        private void Verb(char v)
        {
            if (verb == v)
                return;
            to.Append(v);
            verb = v;
        }

        private void Write(int tenths, bool first = false)
        {
            var text = (tenths / 10m).ToString("#.#;-#.#;0", CultureInfo.InvariantCulture);
            if (!first && text[0] != '-' && !char.IsLetter(to[^1]))
                to.Append(' ');
            to.Append(text);
        }

        private static int Tenths(float v) => (int)MathF.Round(v * 10);
    }
}
