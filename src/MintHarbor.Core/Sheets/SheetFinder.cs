using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Sheets;

/// <param name="Corners">In pixels of the upright photograph, clockwise from the sheet's upper left; null when not found.</param>
/// <param name="Confidence">0 to 1: how much of the outline stands on a clear edge, and how well the light part fills it.</param>
public sealed record FoundSheet(IReadOnlyList<Vec2>? Corners, double Confidence, string Says);

/// <summary>Finds a sheet of paper in a photograph: the largest light region (threshold by Otsu 1979, from memory), the
/// largest four-cornered figure in its hull, then each side moved onto the strongest light-to-dark step near it and fitted as
/// a line, outliers trimmed. Corners are where the lines meet.</summary>
public static class SheetFinder
{
    /// <summary>From here on the corners need no second look.</summary>
    public const double Sure = 0.7;
    private const double LeastArea = 0.08, LeastConfidence = 0.35;

    public static FoundSheet Find(GreyImage photo)
    {
        var (small, scale) = photo.Shrunk(480);
        if (small.Width < 16 || small.Height < 16) return new(null, 0, "The picture is too small to find a sheet in it; 16 pixels a side at least.");
        var mask = LargestLight(small, out var threshold, out var contrast);
        if (contrast < 12) return new(null, 0, "No sheet found: paper and ground are equally light. Place the four corners by hand.");
        var hull = Hull(mask, small.Width, small.Height);
        if (hull.Count < 4) return new(null, 0, "No sheet found. Place the four corners by hand.");
        var quad = LargestQuad(hull);
        var area = Area(quad) / (small.Width * (double)small.Height);
        var filled = Filled(mask, small.Width, small.Height, quad);
        if (area < LeastArea) return new(null, 0, "No sheet found: the lightest part is too small. Place the four corners by hand.");
        var atBorder = quad.Count(c => c.X < 2 || c.Y < 2 || c.X > small.Width - 3 || c.Y > small.Height - 3);
        if (atBorder >= 3) return new(null, 0, "The sheet's edges lie outside the picture; all four corners are wanted.");
        var rough = quad.Select(c => new Vec2(((c.X + 0.5) * scale) - 0.5, ((c.Y + 0.5) * scale) - 0.5)).ToArray();
        var (corners, onEdge) = Refine(photo, rough);
        var confidence = Math.Round(Math.Clamp(filled, 0, 1) * onEdge * (atBorder > 0 ? 0.6 : 1), 2);
        return confidence < LeastConfidence
            ? new(null, confidence, "Unsure where the sheet lies. Place the four corners by hand.")
            : new(FromUpperLeft(corners), confidence, confidence < Sure ? "Found, but look at the corners." : "Found.");
    }

    /// <summary>Clockwise on the picture, beginning with the corner nearest its upper left.</summary>
    public static IReadOnlyList<Vec2> FromUpperLeft(IReadOnlyList<Vec2> quad)
    {
        var q = Signed(quad) < 0 ? quad.Reverse().ToArray() : [.. quad];
        var first = Enumerable.Range(0, 4).MinBy(i => q[i].X + q[i].Y);
        return [.. Enumerable.Range(0, 4).Select(i => q[(first + i) % 4])];
    }

    /// <summary>Whether four corners make a usable sheet: convex, not crossed, none nearly on the line of two others.</summary>
    public static bool IsUsable(IReadOnlyList<Vec2> quad)
    {
        if (quad.Count != 4 || quad.Any(p => !p.IsFinite)) return false;
        var size = Math.Sqrt(Math.Abs(Signed(quad)));
        if (size < 10) return false;
        var signs = Enumerable.Range(0, 4).Select(i => (quad[(i + 1) % 4] - quad[i]).Cross(quad[(i + 2) % 4] - quad[(i + 1) % 4])).ToList();
        return signs.All(s => s > 0.02 * size * size) || signs.All(s => s < -0.02 * size * size);
    }

    private static bool[] LargestLight(GreyImage img, out int threshold, out double contrast)
    {
        threshold = Otsu(img.Pixels);
        var limit = threshold;
        var n = img.Width * img.Height;
        double light = 0, dark = 0;
        var lights = 0;
        foreach (var v in img.Pixels)
        {
            if (v > limit) (light, lights) = (light + v, lights + 1);
            else dark += v;
        }
        contrast = lights == 0 || lights == n ? 0 : (light / lights) - (dark / (n - lights));
        var label = new int[n];
        var stack = new Stack<int>();
        int best = 0, bestSize = 0, next = 0;
        for (var s = 0; s < n; s++)
        {
            if (label[s] != 0 || img.Pixels[s] <= limit) continue;
            var size = 0;
            label[s] = ++next;
            stack.Push(s);
            while (stack.TryPop(out var o))
            {
                size++;
                var x = o % img.Width;
                if (x > 0) Visit(o - 1);
                if (x < img.Width - 1) Visit(o + 1);
                if (o >= img.Width) Visit(o - img.Width);
                if (o + img.Width < n) Visit(o + img.Width);
            }
            if (size > bestSize) (best, bestSize) = (next, size);

            void Visit(int o)
            {
                if (label[o] != 0 || img.Pixels[o] <= limit) return;
                label[o] = next;
                stack.Push(o);
            }
        }
        return [.. label.Select(l => l == best && best != 0)];
    }

    private static int Otsu(byte[] pixels)
    {
        var hist = new long[256];
        foreach (var v in pixels) hist[v]++;
        double total = pixels.Length, sum = 0;
        for (var i = 0; i < 256; i++) sum += i * hist[i];
        double weight = 0, part = 0, best = -1;
        var at = 127;
        for (var i = 0; i < 255; i++)
        {
            weight += hist[i];
            part += i * hist[i];
            if (weight == 0 || weight == total) continue;
            var d = (part / weight) - ((sum - part) / (total - weight));
            var between = weight * (total - weight) * d * d;
            if (between > best) (best, at) = (between, i);
        }
        return at;
    }

    private static List<Vec2> Hull(bool[] mask, int w, int h)
    {
        var points = new List<Vec2>();
        for (var y = 0; y < h; y++)
        {
            int first = -1, last = -1;
            for (var x = 0; x < w; x++)
            {
                if (!mask[(y * w) + x]) continue;
                if (first < 0) first = x;
                last = x;
            }
            if (first >= 0) points.AddRange([new(first, y), new(last, y)]);
        }
        points = [.. points.OrderBy(p => p.X).ThenBy(p => p.Y)];
        var hull = new List<Vec2>();
        foreach (var pass in new[] { points, Enumerable.Reverse(points) })
        {
            var start = hull.Count;
            foreach (var p in pass)
            {
                while (hull.Count >= start + 2 && (hull[^1] - hull[^2]).Cross(p - hull[^2]) <= 0) hull.RemoveAt(hull.Count - 1);
                hull.Add(p);
            }
            hull.RemoveAt(hull.Count - 1);
        }
        return hull;
    }

    private static Vec2[] LargestQuad(List<Vec2> hull)
    {
        var n = hull.Count;
        double best = -1;
        Vec2[] quad = [];
        for (var i = 0; i < n; i++)
        {
            for (var j = i + 2; j < n; j++)
            {
                var d = hull[j] - hull[i];
                var a = Enumerable.Range(i + 1, j - i - 1).MaxBy(k => Math.Abs(d.Cross(hull[k] - hull[i])));
                var others = Enumerable.Range(j + 1, n - j - 1 + i).Select(k => k % n).ToList();
                if (others.Count == 0) continue;
                var b = others.MaxBy(k => Math.Abs(d.Cross(hull[k] - hull[i])));
                var area = Math.Abs(d.Cross(hull[a] - hull[i])) + Math.Abs(d.Cross(hull[b] - hull[i]));
                if (area > best) (best, quad) = (area, [hull[i], hull[a], hull[j], hull[b]]);
            }
        }
        return quad;
    }

    private static double Filled(bool[] mask, int w, int h, Vec2[] quad)
    {
        long inside = 0, light = 0;
        for (var y = 0; y < h; y += 2)
        {
            for (var x = 0; x < w; x += 2)
            {
                var s = Enumerable.Range(0, 4).Select(i => (quad[(i + 1) % 4] - quad[i]).Cross(new Vec2(x, y) - quad[i])).ToArray();
                if (!s.All(v => v >= 0) && !s.All(v => v <= 0)) continue;
                inside++;
                if (mask[(y * w) + x]) light++;
            }
        }
        return inside == 0 ? 0 : (double)light / inside;
    }

    private static (Vec2[] Corners, double OnEdge) Refine(GreyImage photo, Vec2[] rough)
    {
        var centre = new Vec2(rough.Average(c => c.X), rough.Average(c => c.Y));
        var reach = Math.Max(6, 0.02 * Math.Sqrt(Area(rough)));
        var lines = new (Vec2 P, Vec2 D)[4];
        double kept = 0;
        for (var side = 0; side < 4; side++)
        {
            var (a, b) = (rough[side], rough[(side + 1) % 4]);
            var along = (b - a) * (1 / (b - a).Length);
            var inward = new Vec2(-along.Y, along.X);
            if (inward.Dot(centre - a) < 0) inward *= -1;
            var points = new List<Vec2>();
            for (var k = 0; k < 60; k++)
            {
                var p = a + ((b - a) * (0.06 + (0.88 * k / 59)));
                if (Step(photo, p, inward, reach) is { } t) points.Add(p + (inward * t));
            }
            var (line, inliers) = FitLine(points, a, along);
            lines[side] = line;
            kept += inliers / 60.0 / 4;
        }
        var corners = new Vec2[4];
        for (var i = 0; i < 4; i++)
        {
            var meet = Meet(lines[(i + 3) % 4], lines[i]);
            corners[i] = meet is { } m && (m - rough[i]).Length < 4 * reach ? m : rough[i];
        }
        return (corners, Math.Min(1, kept * 1.1));
    }

    /// <summary>Offset of the strongest step from dark outside to light inside, to a part of a pixel; null without one.</summary>
    private static double? Step(GreyImage photo, Vec2 p, Vec2 inward, double reach)
    {
        const double step = 0.5, gap = 1.5;
        var n = (int)(2 * reach / step) + 1;
        var rise = new double[n];
        for (var k = 0; k < n; k++)
        {
            var t = -reach + (k * step);
            var (q, o) = (p + (inward * (t + gap)), p + (inward * (t - gap)));
            rise[k] = photo.At(q.X, q.Y) - photo.At(o.X, o.Y);
        }
        var best = Enumerable.Range(0, n).MaxBy(k => rise[k]);
        if (rise[best] < 10) return null;
        // The middle of the step: the mean place of the rise around its peak.
        double sum = 0, weight = 0;
        for (var k = Math.Max(0, best - 8); k <= Math.Min(n - 1, best + 8); k++)
        {
            var r = Math.Max(0, rise[k] - (0.3 * rise[best]));
            (sum, weight) = (sum + (r * k), weight + r);
        }
        return -reach + (sum / weight * step);
    }

    private static ((Vec2 P, Vec2 D) Line, int Inliers) FitLine(List<Vec2> points, Vec2 fallback, Vec2 along)
    {
        if (points.Count < 8) return ((fallback, along), 0);
        // Begin with the pair of samples that most others agree with, then least squares on those.
        var best = points;
        for (var i = 0; i < points.Count; i += 3)
        {
            for (var j = i + 6; j < points.Count; j += 4)
            {
                var d = (points[j] - points[i]) * (1 / (points[j] - points[i]).Length);
                var near = points.Where(p => Math.Abs(d.Cross(p - points[i])) < 2.5).ToList();
                if (best == points || near.Count > best.Count) best = near;
            }
        }
        var line = LeastSquares(best, along);
        for (var round = 0; round < 2; round++)
        {
            var kept = points.Where(p => Math.Abs(line.D.Cross(p - line.P)) < 1.5).ToList();
            if (kept.Count < 8) break;
            (best, line) = (kept, LeastSquares(kept, along));
        }
        return (line, best.Count);
    }

    private static (Vec2 P, Vec2 D) LeastSquares(List<Vec2> points, Vec2 along)
    {
        var c = new Vec2(points.Average(p => p.X), points.Average(p => p.Y));
        double xx = 0, xy = 0, yy = 0;
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

    private static double Signed(IReadOnlyList<Vec2> q) => Enumerable.Range(0, q.Count).Sum(i => q[i].Cross(q[(i + 1) % q.Count])) / 2;

    private static double Area(IReadOnlyList<Vec2> q) => Math.Abs(Signed(q));
}
