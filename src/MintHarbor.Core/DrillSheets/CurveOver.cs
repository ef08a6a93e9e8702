using MathNet.Numerics.LinearAlgebra;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>A drawn curve laid over a given one: shifted, turned, and made up to 15 % larger or smaller until it lies best, by point-to-line steps
/// (Chen and Medioni 1992, from memory) begun from three turns.</summary>
/// <param name="Mean">How far it lies off then, on the whole, millimetres; <paramref name="Worst"/> is not exceeded by 95 % of it.</param>
/// <param name="Covered">Share of the given curve that it goes along.</param>
internal sealed record CurveOver(double Mean, double Worst, double Covered, double TurnDegrees, double Scale)
{
    private const double MostScale = 0.15,
        Near = 2;
    private static readonly double[] Turns = [0, 7, -7];

    /// <summary>Of a similarity p ↦ M(p − c) + c + t.</summary>
    private readonly record struct Over(double A, double B, Vec2 Centre, Vec2 Shift)
    {
        public Vec2 Map(Vec2 p) => p - Centre is var e ? new Vec2((A * e.X) - (B * e.Y), (B * e.X) + (A * e.Y)) + Centre + Shift : p;
    }

    /// <param name="drawn">Places of the stroke's middle.</param>
    public static CurveOver Of(IReadOnlyList<Vec2> drawn, IReadOnlyList<Vec2> given, bool closed)
    {
        var dense = Dense(given, closed);
        List<Vec2> some = [.. drawn.Where((_, i) => i % Math.Max(1, drawn.Count / 400) == 0)];
        var middle = Centroid(some);
        var start = Centroid(dense) - middle;
        var (best, least) = (default(Over), double.MaxValue);
        foreach (var degrees in Turns)
        {
            var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
            var (over, cost) = Settled(new(cos, sin, middle, start), some, dense, closed);
            if (cost < least)
                (best, least) = (over, cost);
        }
        List<Vec2> laid = [.. drawn.Select(best.Map)];
        var off = laid.Select(p => Off(p, dense, closed)).ToList();
        var covered = dense.Count(d => laid.Any(p => (p - d).Length < Near));
        return new(
            off.Average(),
            Samples.Quantile(off, 0.95),
            (double)covered / dense.Count,
            Math.Atan2(best.B, best.A) * 180 / Math.PI,
            Math.Sqrt((best.A * best.A) + (best.B * best.B))
        );
    }

    private static Vec2 Centroid(IReadOnlyList<Vec2> places) => new(places.Average(p => p.X), places.Average(p => p.Y));

    private static List<Vec2> Dense(IReadOnlyList<Vec2> line, bool closed)
    {
        var dense = new List<Vec2>();
        for (var i = 0; i + (closed ? 0 : 1) < line.Count; i++)
        for (var k = 0; k < 4; k++)
            dense.Add(line[i] + ((line[(i + 1) % line.Count] - line[i]) * (k / 4.0)));
        if (!closed)
            dense.Add(line[^1]);
        return dense;
    }

    private static (int At, double Off) Nearest(Vec2 p, IReadOnlyList<Vec2> line)
    {
        var (best, at) = (double.MaxValue, 0);
        for (var i = 0; i < line.Count; i++)
        {
            double dx = line[i].X - p.X,
                dy = line[i].Y - p.Y;
            var d = (dx * dx) + (dy * dy);
            if (d < best)
                (best, at) = (d, i);
        }
        return (at, Math.Sqrt(best));
    }

    private static double Off(Vec2 p, IReadOnlyList<Vec2> line, bool closed)
    {
        var (at, off) = Nearest(p, line);
        foreach (var i in (int[])[at - 1, at])
        {
            if (!closed && (i < 0 || i + 1 >= line.Count))
                continue;
            var a = line[(i + line.Count) % line.Count];
            var step = line[(i + 1) % line.Count] - a;
            var t = Math.Clamp((p - a).Dot(step) / Math.Max(1e-12, step.Dot(step)), 0, 1);
            off = Math.Min(off, (a + (step * t) - p).Length);
        }
        return off;
    }

    private static Vec2 Tangent(IReadOnlyList<Vec2> line, int at, bool closed)
    {
        var (a, b) = closed
            ? (line[(at + line.Count - 1) % line.Count], line[(at + 1) % line.Count])
            : (line[Math.Clamp(at, 1, line.Count - 2) - 1], line[Math.Clamp(at, 1, line.Count - 2) + 1]);
        var d = b - a;
        return d * (1 / Math.Max(1e-9, d.Length));
    }

    /// <summary>Gauss and Newton's steps: every drawn place to the given line, and some given places to the drawn; ends pull along the line too.</summary>
    private static (Over Over, double Cost) Settled(Over over, IReadOnlyList<Vec2> some, IReadOnlyList<Vec2> dense, bool closed)
    {
        double cost = 0;
        for (var pass = 0; pass < 14; pass++)
        {
            var normal = new Normal(over.Centre + over.Shift);
            cost = 0;
            List<Vec2> laid = [.. some.Select(over.Map)];
            foreach (var p in laid)
            {
                var (at, off) = Nearest(p, dense);
                var end = !closed && (at == 0 || at == dense.Count - 1);
                normal.Pair(p, dense[at], Tangent(dense, at, closed), 1.0 / laid.Count, end);
                cost += off / laid.Count;
            }
            for (var k = 0; k < dense.Count; k += 12)
            {
                var (at, off) = Nearest(dense[k], laid);
                var end = !closed && (k == 0 || k + 12 >= dense.Count);
                normal.Pair(laid[at], dense[k], Tangent(dense, k, closed), 0.02, end);
                cost += 0.02 * off;
            }
            if (normal.Solved() is not var (scale, turn, shift))
                break;
            over = Stepped(over, Math.Clamp(scale, -0.1, 0.1), Math.Clamp(turn, -0.2, 0.2), shift);
            if (Math.Abs(shift.X) + Math.Abs(shift.Y) < 0.004 && Math.Abs(turn) < 2e-4)
                break;
        }
        return (over, cost);
    }

    private static Over Stepped(Over o, double scale, double turn, Vec2 shift)
    {
        var (sin, cos) = Math.SinCos(turn);
        double a = (1 + scale) * ((o.A * cos) - (o.B * sin)),
            b = (1 + scale) * ((o.A * sin) + (o.B * cos)),
            size = Math.Sqrt((a * a) + (b * b)),
            held = Math.Clamp(size, 1 - MostScale, 1 + MostScale) / size;
        return o with { A = a * held, B = b * held, Shift = o.Shift + shift };
    }

    /// <summary>Normal equations of a small change of scale, turn and shift about a centre.</summary>
    private sealed class Normal(Vec2 centre)
    {
        private readonly Matrix<double> a = Matrix<double>.Build.Dense(4, 4);
        private readonly Vector<double> b = Vector<double>.Build.Dense(4);

        public void Pair(Vec2 p, Vec2 to, Vec2 tangent, double weight, bool full)
        {
            var normal = new Vec2(-tangent.Y, tangent.X);
            Row(weight, normal, p, to);
            Row(full ? weight : 0.03 * weight, tangent, p, to);
        }

        private void Row(double weight, Vec2 n, Vec2 p, Vec2 to)
        {
            var e = p - centre;
            Span<double> j = [n.Dot(e), (n.Y * e.X) - (n.X * e.Y), n.X, n.Y];
            var rest = n.Dot(p - to);
            for (var i = 0; i < 4; i++)
            {
                for (var k = 0; k < 4; k++)
                    a[i, k] += weight * j[i] * j[k];
                b[i] -= weight * j[i] * rest;
            }
        }

        public (double Scale, double Turn, Vec2 Shift)? Solved()
        {
            for (var i = 0; i < 4; i++)
                a[i, i] += 1e-6;
            var x = a.Solve(b);
            return x.All(double.IsFinite) ? (x[0], x[1], new(x[2], x[3])) : null;
        }
    }
}

/// <summary>The middle of strokes: each place moved across its stroke to the weighted mean nearby, twice.</summary>
internal static class StrokeMiddle
{
    private const double Reach = 0.7,
        Soft = 0.32;
    private const int Most = 1200;

    public static List<Vec2> Of(IReadOnlyList<InkPlace> places)
    {
        var cells = places.GroupBy(p => Cell(p.At)).ToDictionary(g => g.Key, g => g.ToArray());
        var step = Math.Max(1, places.Count / Most);
        var middles = new List<Vec2>();
        for (var i = 0; i < places.Count; i += step)
            middles.Add(Moved(Moved(places[i].At, cells), cells));
        return middles;
    }

    private static (int X, int Y) Cell(Vec2 p) => ((int)Math.Floor(p.X / Reach), (int)Math.Floor(p.Y / Reach));

    private static Vec2 Moved(Vec2 p, Dictionary<(int X, int Y), InkPlace[]> cells)
    {
        var (cx, cy) = Cell(p);
        double sum = 0,
            sx = 0,
            sy = 0,
            xx = 0,
            xy = 0,
            yy = 0;
        for (var x = cx - 1; x <= cx + 1; x++)
        for (var y = cy - 1; y <= cy + 1; y++)
            foreach (var near in cells.GetValueOrDefault((x, y), []))
            {
                var e = near.At - p;
                var w = near.Weight * Math.Exp(-e.Dot(e) / Soft);
                sum += w;
                sx += w * e.X;
                sy += w * e.Y;
                xx += w * e.X * e.X;
                xy += w * e.X * e.Y;
                yy += w * e.Y * e.Y;
            }
        if (sum <= 0)
            return p;
        double mx = sx / sum,
            my = sy / sum,
            along = 0.5 * Math.Atan2(2 * ((xy / sum) - (mx * my)), (xx / sum) - (mx * mx) - ((yy / sum) - (my * my)));
        var across = new Vec2(-Math.Sin(along), Math.Cos(along));
        return p + (across * ((mx * across.X) + (my * across.Y)));
    }
}
