using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Sheets;

/// <param name="Corners">In pixels of the upright photograph, clockwise from the sheet's upper left; null when not found.</param>
/// <param name="Confidence">0 to 1: how much of the weakest side stands on a clear edge, and how far the next best answer lies behind.</param>
public sealed record FoundSheet(IReadOnlyList<Vec2>? Corners, double Confidence, string Says);

/// <summary>Finds a sheet of paper in a photograph. Straight edges of a small copy (<see cref="EdgeLines"/>) are put together
/// four by four, each light towards the inside; what stands on real edges all round wins, the inner one where two nest, as a
/// sheet on a board. Its sides are then found again in the full photograph to a part of a pixel
/// (<see cref="SheetSides"/>); corners are where they meet, so that a clip or a thumb over one does not matter.</summary>
public static class SheetFinder
{
    /// <summary>From here on the corners need no second look.</summary>
    public const double Sure = 0.7;
    private const double LeastArea = 0.08,
        LeastConfidence = 0.35;
    private const int Longest = 560,
        Samples = 40;

    /// <summary>Least step of tone from outside to inside that is an edge, and which share of a side's own step its run beyond the corner has.</summary>
    private const double LeastStep = 3,
        AsStrongly = 0.3;

    /// <summary>How far beyond a corner a side is looked along, as a share of its length: a joint or a grain goes on that far; a sheet whose side
    /// was taken too far in goes on as far as charcoal covers it.</summary>
    private const double Far = 0.23,
        Near = 0.09;

    /// <summary>What a doubt leaves of the confidence: less than <see cref="Sure"/> of even the best.</summary>
    private const double Doubted = 0.68;

    /// <summary>How near to the photograph's rim, of its long side.</summary>
    private const double Rim = 0.01;

    /// <param name="Support">Share of each side that stands on an edge, the weakest counted twice.</param>
    /// <param name="GoesOn">A side's edge runs on beyond its corner, as strongly as along the side.</param>
    private sealed record Candidate(Vec2[] Corners, double Support, double Weakest, double Contrast, bool GoesOn)
    {
        public double Area { get; } = SheetFinder.Area(Corners);
    }

    public static FoundSheet Find(GreyImage photo)
    {
        var (small, scale) = photo.Shrunk(Longest);
        if (small.Width < 16 || small.Height < 16)
            return new(null, 0, "The picture is too small to find a sheet in it; 16 pixels a side at least.");
        var edges = new EdgeLines(small);
        var candidates = Candidates(edges, edges.Strongest(26));
        if (candidates.Count == 0)
            return new(null, 0, "No sheet found. Place the four corners by hand.");
        var (best, rival) = Choose(candidates);
        var rough = best.Corners.Select(c => new Vec2(((c.X + 0.5) * scale) - 0.5, ((c.Y + 0.5) * scale) - 0.5)).ToArray();
        var (corners, onEdge, lens) = SheetSides.Refine(photo, rough, best.Contrast);
        if (!IsUsable(corners))
            return new(null, 0.2, "Unsure where the sheet lies. Place the four corners by hand.");
        var doubt = rival > 0.97 * best.Support || best.GoesOn || AtRim(photo, corners) || new EdgeWithin(photo, lens).Any(corners);
        var confidence = Math.Round(Math.Clamp(Math.Min(best.Weakest * 1.25, onEdge) * (doubt ? Doubted : 1), 0, 1), 2);
        return confidence < LeastConfidence
            ? new(null, confidence, "Unsure where the sheet lies. Place the four corners by hand.")
            : new(FromUpperLeft(corners), confidence, confidence < Sure ? "Found, but look at the corners." : "Found.");
    }

    /// <summary>Whether a side lies along the photograph's own: the sheet may go on beyond it.</summary>
    private static bool AtRim(GreyImage photo, Vec2[] corners)
    {
        var near = Rim * Math.Max(photo.Width, photo.Height);
        return SheetSides
            .Of(corners)
            .Any(s =>
                Math.Max(s.A.X, s.B.X) < near
                || Math.Max(s.A.Y, s.B.Y) < near
                || Math.Min(s.A.X, s.B.X) > photo.Width - 1 - near
                || Math.Min(s.A.Y, s.B.Y) > photo.Height - 1 - near
            );
    }

    /// <summary>All four-cornered figures of the lines whose sides face inwards, stand on edges and are lighter inside.</summary>
    private static List<Candidate> Candidates(EdgeLines edges, List<EdgeLine> lines)
    {
        var opposite = new List<(EdgeLine A, EdgeLine B)>();
        for (var i = 0; i < lines.Count; i++)
        {
            for (var j = i + 1; j < lines.Count; j++)
            {
                // Sides of one sheet look at each other: normals nearly opposed, and light between them.
                if (lines[i].Normal.Dot(lines[j].Normal) < -0.82 && lines[i].Offset + lines[j].Offset < 0)
                    opposite.Add((lines[i], lines[j]));
            }
        }
        var found = new List<Candidate>();
        for (var m = 0; m < opposite.Count; m++)
        {
            for (var n = m + 1; n < opposite.Count; n++)
            {
                var ((a, b), (c, d)) = (opposite[m], opposite[n]);
                if (Math.Abs(a.Normal.Dot(c.Normal)) > 0.6 || Math.Abs(b.Normal.Dot(d.Normal)) > 0.6)
                    continue;
                if (a.Meet(c) is not { } p || c.Meet(b) is not { } q || b.Meet(d) is not { } r || d.Meet(a) is not { } s)
                    continue;
                Vec2[] quad = [p, q, r, s];
                var slack = 0.03 * Math.Max(edges.Width, edges.Height);
                if (quad.Any(v => v.X < -slack || v.Y < -slack || v.X > edges.Width + slack || v.Y > edges.Height + slack))
                    continue;
                if (!IsUsable(quad) || Area(quad) < LeastArea * edges.Width * edges.Height)
                    continue;
                if (Judged(edges, quad) is { } good)
                    found.Add(good);
            }
        }
        return found;
    }

    private static Candidate? Judged(EdgeLines edges, Vec2[] quad)
    {
        var support = new List<double>(4);
        double contrast = double.MaxValue;
        var steps = new double[Samples];
        var ends = 0;
        var goesOn = false;
        foreach (var (a, b, along, inward) in SheetSides.Of(quad))
        {
            var on = 0;
            for (var k = 0; k < Samples; k++)
            {
                var p = a + ((b - a) * ((k + 0.5) / Samples));
                var edge = 0.0;
                for (var t = -2; t <= 2; t++)
                    edge = Math.Max(edge, edges.Along(p + (inward * t), inward));
                // A drawn line is dark between two equal papers; an edge has another tone beyond it.
                steps[k] = Tone(edges, p + (inward * 6)) - Tone(edges, p - (inward * 6));
                if (edge > 1.5 && steps[k] > LeastStep)
                    on++;
            }
            support.Add((double)on / Samples);
            if (support[^1] < 0.3)
                return null;
            Array.Sort(steps);
            var own = steps[Samples / 2];
            foreach (var (corner, side) in new[] { (a, along * -(b - a).Length), (b, along * (b - a).Length) })
            {
                ends += Goes(edges, corner, side, inward, LeastStep, Far) ? 1 : 0;
                goesOn |= Goes(edges, corner, side, inward, Math.Max(LeastStep, own * AsStrongly), Near);
            }
            contrast = Math.Min(contrast, own);
        }
        return new(quad, ((support.Sum() + support.Min()) / 5) - (0.06 * ends), support.Min(), contrast, goesOn);
    }

    /// <summary>Whether a side's edge goes on beyond its corner. A sheet ends there; a shadow's edge, a joint or a grain of the wood
    /// goes on, and so do the sides that a shadow cuts short.</summary>
    private static bool Goes(EdgeLines edges, Vec2 corner, Vec2 side, Vec2 inward, double least, double until)
    {
        int on = 0,
            seen = 0;
        for (var k = 0; k < 14; k++)
        {
            var p = corner + (side * (0.03 + ((until - 0.03) * k / 13)));
            if (p.X < 3 || p.Y < 3 || p.X > edges.Width - 4 || p.Y > edges.Height - 4)
                continue;
            seen++;
            var edge = 0.0;
            for (var t = -2; t <= 2; t++)
                edge = Math.Max(edge, edges.Along(p + (inward * t), inward));
            if (edge > 1.5 && Tone(edges, p + (inward * 5)) - Tone(edges, p - (inward * 5)) > least)
                on++;
        }
        return seen >= 5 && on >= 0.6 * seen;
    }

    internal static double Tone(EdgeLines edges, Vec2 p)
    {
        int x = Math.Clamp((int)Math.Round(p.X), 0, edges.Width - 1),
            y = Math.Clamp((int)Math.Round(p.Y), 0, edges.Height - 1);
        return edges.Image[(y * edges.Width) + x];
    }

    /// <summary>The best supported; of two that nest and are about as good, the inner. Returns also how good the best is that
    /// lies elsewhere.</summary>
    private static (Candidate Best, double Rival) Choose(List<Candidate> all)
    {
        var best = all.MaxBy(c => c.Support)!;
        for (var changed = true; changed; )
        {
            var inner = all.Where(c =>
                    c != best
                    && c.Area < 0.97 * best.Area
                    && c.Area > 0.2 * best.Area
                    && c.Support > 0.88 * best.Support
                    && c.Corners.All(p => Holds(best.Corners, p, 4))
                )
                .MaxBy(c => c.Support);
            changed = inner is not null;
            best = inner ?? best;
        }
        var size = Math.Sqrt(best.Area);
        var rival = all.Where(c =>
                !c.Corners.All(p => best.Corners.Any(q => (p - q).Length < 0.06 * size)) && !best.Corners.All(p => Holds(c.Corners, p, 4))
            )
            .Select(c => c.Support)
            .DefaultIfEmpty(0)
            .Max();
        return (best, rival);
    }

    private static bool Holds(Vec2[] quad, Vec2 p, double slack)
    {
        var turn = Math.Sign(Signed(quad));
        return Enumerable
            .Range(0, 4)
            .All(i => turn * (quad[(i + 1) % 4] - quad[i]).Cross(p - quad[i]) / (quad[(i + 1) % 4] - quad[i]).Length > -slack);
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
        if (quad.Count != 4 || quad.Any(p => !p.IsFinite))
            return false;
        var size = Math.Sqrt(Math.Abs(Signed(quad)));
        if (size < 10)
            return false;
        var signs = Enumerable.Range(0, 4).Select(i => (quad[(i + 1) % 4] - quad[i]).Cross(quad[(i + 2) % 4] - quad[(i + 1) % 4])).ToList();
        return signs.All(s => s > 0.02 * size * size) || signs.All(s => s < -0.02 * size * size);
    }

    internal static double Signed(IReadOnlyList<Vec2> q) => Enumerable.Range(0, q.Count).Sum(i => q[i].Cross(q[(i + 1) % q.Count])) / 2;

    internal static double Area(IReadOnlyList<Vec2> q) => Math.Abs(Signed(q));
}
