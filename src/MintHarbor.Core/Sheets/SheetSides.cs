using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Sheets;

/// <summary>Moves the four sides of a roughly found sheet onto the edges of the full photograph: each is sampled, the strongest
/// step from dark to light near it is taken to a part of a pixel, and a line is fitted with outliers (clips, thumbs, tape)
/// left out. A phone's lens bows straight edges: one radial coefficient is fitted with all four. Corners are where the sides meet.</summary>
internal static class SheetSides
{
    /// <summary>The four sides, each with its direction and the one into the sheet, of length 1.</summary>
    public static IEnumerable<(Vec2 A, Vec2 B, Vec2 Along, Vec2 Inward)> Of(Vec2[] quad)
    {
        var centre = new Vec2(quad.Average(c => c.X), quad.Average(c => c.Y));
        for (var side = 0; side < 4; side++)
        {
            var (a, b) = (quad[side], quad[(side + 1) % 4]);
            var along = (b - a) * (1 / (b - a).Length);
            var inward = new Vec2(-along.Y, along.X);
            yield return (a, b, along, inward.Dot(centre - a) < 0 ? inward * -1 : inward);
        }
    }

    /// <param name="contrast">Step of tone that the weakest side makes, in the small picture.</param>
    public static (Vec2[] Corners, double OnEdge, Lens Lens) Refine(GreyImage photo, Vec2[] rough, double contrast)
    {
        var least = Math.Clamp(contrast * 0.4, 3, 10);
        var reach = Math.Max(6, 0.012 * Math.Sqrt(SheetFinder.Area(rough)));
        var sides = new List<(List<Vec2> Points, Vec2 A, Vec2 B)>(4);
        foreach (var (a, b, _, inward) in Of(rough))
        {
            var points = new List<Vec2>();
            for (var k = 0; k < Samples; k++)
            {
                var p = a + ((b - a) * (0.06 + (0.88 * k / (Samples - 1))));
                if (Step(photo, p, inward, reach, least) is { } t)
                    points.Add(p + (inward * t));
            }
            sides.Add((points, a, b));
        }
        var lens = Bowed(photo, sides);
        var lines = sides.Select(s => Straight(s, lens)).ToArray();
        var corners = new Vec2[4];
        for (var i = 0; i < 4; i++)
        {
            var meet = Meet(lines[(i + 3) % 4].Line, lines[i].Line);
            corners[i] = meet is { } m && lens.Bent(m) is var at && (at - rough[i]).Length < 4 * reach ? at : rough[i];
        }
        return (corners, Math.Min(1, lines.Sum(l => l.Inliers) / (4.0 * Samples) * 1.1), lens);
    }

    private const int Samples = 60;

    /// <summary>How far lenses of phones bow, and how finely it is looked for; each step must bring this many samples more onto the sides than
    /// none would.</summary>
    private const double MostBow = 0.016,
        BowStep = 0.001,
        WorthSamples = 0.5;

    /// <summary>The bow under which most samples lie on straight sides, and among those the one that they lie on most exactly.</summary>
    private static Lens Bowed(GreyImage photo, List<(List<Vec2> Points, Vec2 A, Vec2 B)> sides)
    {
        Lens Of(double bow) =>
            new(
                new((photo.Width - 1) / 2.0, (photo.Height - 1) / 2.0),
                Math.Sqrt((photo.Width * photo.Width) + (photo.Height * photo.Height)) / 2,
                bow
            );
        double Worth(double bow)
        {
            var lens = Of(bow);
            double sum = 0;
            foreach (var side in sides)
            {
                var (line, _) = Straight(side, lens);
                // A sample counts the more the nearer it lies to its side.
                sum += side.Points.Sum(p => Math.Max(0, 1 - Math.Pow(line.D.Cross(lens.Straightened(p) - line.P) / 2, 2)));
            }
            return sum - (WorthSamples * Math.Abs(bow) / BowStep);
        }
        var steps = (int)Math.Round(MostBow / BowStep);
        return Of(Enumerable.Range(-steps, (2 * steps) + 1).Select(k => k * BowStep).MaxBy(Worth));
    }

    private static ((Vec2 P, Vec2 D) Line, int Inliers) Straight((List<Vec2> Points, Vec2 A, Vec2 B) side, Lens lens)
    {
        Vec2 a = lens.Straightened(side.A),
            b = lens.Straightened(side.B);
        return FitLine([.. side.Points.Select(lens.Straightened)], a, (b - a) * (1 / (b - a).Length));
    }

    /// <summary>Offset of the strongest step from dark outside to light inside, to a part of a pixel; null without one.</summary>
    private static double? Step(GreyImage photo, Vec2 p, Vec2 inward, double reach, double least)
    {
        const double step = 0.5,
            gap = 1.5;
        var n = (int)(2 * reach / step) + 1;
        var rise = new double[n];
        for (var k = 0; k < n; k++)
        {
            var t = -reach + (k * step);
            var (q, o) = (p + (inward * (t + gap)), p + (inward * (t - gap)));
            rise[k] = photo.At(q.X, q.Y) - photo.At(o.X, o.Y);
        }
        var best = Enumerable.Range(0, n).MaxBy(k => rise[k]);
        if (rise[best] < least)
            return null;
        // The middle of the step: the mean place of the rise around its peak.
        double sum = 0,
            weight = 0;
        for (var k = Math.Max(0, best - 8); k <= Math.Min(n - 1, best + 8); k++)
        {
            var r = Math.Max(0, rise[k] - (0.3 * rise[best]));
            (sum, weight) = (sum + (r * k), weight + r);
        }
        return -reach + (sum / weight * step);
    }

    private static ((Vec2 P, Vec2 D) Line, int Inliers) FitLine(List<Vec2> points, Vec2 fallback, Vec2 along)
    {
        if (points.Count < 8)
            return ((fallback, along), 0);
        // Begin with the pair of samples that most others agree with, then least squares on those.
        var best = points;
        for (var i = 0; i < points.Count; i += 3)
        {
            for (var j = i + 6; j < points.Count; j += 4)
            {
                var d = (points[j] - points[i]) * (1 / (points[j] - points[i]).Length);
                var near = points.Where(p => Math.Abs(d.Cross(p - points[i])) < 2.5).ToList();
                if (best == points || near.Count > best.Count)
                    best = near;
            }
        }
        var line = LeastSquares(best, along);
        for (var round = 0; round < 2; round++)
        {
            var kept = points.Where(p => Math.Abs(line.D.Cross(p - line.P)) < 1.5).ToList();
            if (kept.Count < 8)
                break;
            (best, line) = (kept, LeastSquares(kept, along));
        }
        return (line, best.Count);
    }

    private static (Vec2 P, Vec2 D) LeastSquares(List<Vec2> points, Vec2 along)
    {
        var c = new Vec2(points.Average(p => p.X), points.Average(p => p.Y));
        double xx = 0,
            xy = 0,
            yy = 0;
        foreach (var p in points)
        {
            var d = p - c;
            (xx, xy, yy) = (xx + (d.X * d.X), xy + (d.X * d.Y), yy + (d.Y * d.Y));
        }
        var angle = 0.5 * Math.Atan2(2 * xy, xx - yy);
        var dir = new Vec2(Math.Cos(angle), Math.Sin(angle));
        return (c, dir.Dot(along) < 0 ? dir * -1 : dir);
    }

    private static Vec2? Meet((Vec2 P, Vec2 D) a, (Vec2 P, Vec2 D) b)
    {
        var det = a.D.Cross(b.D);
        return Math.Abs(det) < 0.05 ? null : a.P + (a.D * ((b.P - a.P).Cross(b.D) / det));
    }
}
