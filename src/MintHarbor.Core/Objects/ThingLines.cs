using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Objects;

/// <summary>Draws an arrangement in line. Edges are known, so they are drawn where they are: as a contour where one of their faces is turned to
/// the eye, as a crease where both are. Round parts get their contours where they turn away; a cloth is drawn as the figure is.
/// Places are in pixels of the finer picture.</summary>
internal sealed class ThingLines
{
    private readonly ArrangementView view;
    private readonly SeatCamera camera;
    private readonly DepthPicture depth;
    private readonly float unit;
    private readonly Vector2 lampInPicture;
    private readonly List<LineStroke> strokes = [];

    private const double SupportWeight = 0.62,
        JointWeight = 0.85;

    /// <summary>Units that a drawn edge, and a line found on a round part, may lie behind what its pixel shows.</summary>
    private const float EdgeDepth = 0.5f,
        RoundDepth = 0.9f;

    /// <summary>Strokes of sheen on a pane: shares across and up it, from and to.</summary>
    private static readonly (double X0, double Y0, double X1, double Y1)[] Sheen = [(0.16, 0.70, 0.44, 0.90), (0.16, 0.58, 0.62, 0.90)];

    public ThingLines(ArrangementView view)
    {
        (this.view, camera, depth) = (view, view.Camera, view.Depth);
        unit = camera.Height / 720f;
        var l = new Vector2(Vector3.Dot(view.Lamp, camera.Right), -Vector3.Dot(view.Lamp, camera.Up));
        lampInPicture = l / MathF.Max(1e-6f, l.Length());
    }

    public IReadOnlyList<LineStroke> Draw()
    {
        var model = view.Model;
        if (model.Arrangement.Ground == Ground.Floor)
            Edge(WallLine(), LineKind.Soft);
        foreach (var e in model.SupportEdges)
            Edge(e with { Weight = SupportWeight }, LineKind.Soft);
        foreach (var (_, e) in model.Edges)
            Edge(e, LineKind.Crease);
        foreach (var (places, closed) in model.Joints)
            Chain([.. places.Select(p => p.Single)], closed, LineKind.Crease, (float)JointWeight);
        Contours();
        var eye = Point3.Of(camera.Eye);
        foreach (var pane in model.Panes.Where(p => p.Normal.Dot(eye - p.Corner) > 0))
        foreach (var (x0, y0, x1, y1) in Sheen)
        {
            Point3 At(double x, double y) => pane.Corner + (pane.Across * x) + (pane.Up * y);
            Edge(new("sheen", [At(x0, y0), At(x1, y1)], [pane.Normal], [pane.Normal], Weight: 0.5), LineKind.Soft);
        }
        if (model.Cloth is { } cloth)
            Cloth(cloth);
        return strokes;
    }

    private SharpEdge WallLine()
    {
        const double half = 3.4;
        Point3 away = new(camera.Forward.X, 0, camera.Forward.Z),
            aside = new Point3(camera.Right.X, 0, camera.Right.Z) * (half * view.Model.Scale),
            middle = away * (ArrangementView.Wall * view.Model.Scale);
        return new("wall", [middle - aside, middle + aside], [Point3.UnitY], [-away], Weight: SupportWeight);
    }

    private void Cloth(Mesh cloth)
    {
        var picture = new DepthPicture(camera, cloth, view.Model.Things, view.Support);
        foreach (var s in LineView.Draw(picture, [0], view.Lamp, [], [], new(Tolerance: 0.15f)))
        {
            var heavier = s.Kind == LineKind.Soft ? 1.25f : 1.4f;
            strokes.Add(s with { Widths = [.. s.Widths.Select(w => w * heavier)] });
        }
    }

    private void Edge(SharpEdge e, LineKind kind)
    {
        var places = Round(e.Places, e.Closed);
        Point3[] first = Round(e.First, e.Closed),
            second = Round(e.Second, e.Closed);
        var faced = first.Length > 0;
        if (Flat(places) is not { } length)
            return;
        var n = Math.Clamp((int)(length / (0.9f * unit)), 8, 4000);
        var at = new Vector3[n + 1];
        bool[] seen = new bool[n + 1],
            contour = new bool[n + 1];
        for (var k = 0; k <= n; k++)
        {
            var share = (double)k / n;
            var place = SharpEdge.Along(places, share).Single;
            at[k] = camera.Project(place);
            contour[k] = true;
            if (faced)
            {
                var toEye = camera.ToEye(place);
                bool a = Vector3.Dot(SharpEdge.Along(first, share).Single, toEye) > 0,
                    b = Vector3.Dot(SharpEdge.Along(second, share).Single, toEye) > 0;
                if (!a && !b)
                    continue;
                contour[k] = a != b;
            }
            seen[k] = InPicture(at[k]) && depth.Shows(at[k], faced ? EdgeDepth : RoundDepth);
        }
        Runs(at, seen, contour, e.Closed, kind, (float)e.Weight);
    }

    private static Point3[] Round(Point3[] p, bool closed) => closed && p.Length > 1 ? [.. p, p[0]] : p;

    private bool InPicture(Vector3 p) => p.X > -2 && p.Y > -2 && p.X < camera.Width + 2 && p.Y < camera.Height + 2;

    /// <summary>Length in the picture; null where some of it lies at the eye or behind.</summary>
    private float? Flat(Point3[] places)
    {
        float length = 0;
        Vector3? before = null;
        foreach (var p in places)
        {
            var q = camera.Project(p.Single);
            if (q.Z < 1)
                return null;
            if (before is { } b)
                length += Vector2.Distance(new(b.X, b.Y), new(q.X, q.Y));
            before = q;
        }
        return length;
    }

    /// <summary>Contours of round parts are the zeros of normal · view. Where the surface curves the wrong way along the view the line would lie behind
    /// the form, as in the figure's view.</summary>
    private void Contours()
    {
        var mesh = view.Model.Things;
        var g = new float[mesh.Places.Length];
        Parallel.For(0, (g.Length + 4095) / 4096, k =>
        {
            for (var i = k * 4096; i < Math.Min(g.Length, (k + 1) * 4096); i++)
                g[i] = Vector3.Dot(mesh.Normals[i], camera.ToEye(mesh.Places[i]));
        });
        bool Round(int a, int b, int c) => view.Model.Looks[mesh.Form[a]] is { Smooth: true, Cloth: false } && Convex(mesh, g, a, b, c);
        foreach (var (chain, closed) in mesh.Zeros(g, Round))
            Chain(chain, closed, LineKind.Contour, 1);
    }

    private bool Convex(Mesh mesh, float[] g, int a, int b, int c)
    {
        Vector3 e1 = mesh.Places[b] - mesh.Places[a],
            e2 = mesh.Places[c] - mesh.Places[a],
            n = Vector3.Cross(e1, e2);
        var n2 = n.LengthSquared();
        if (n2 < 1e-12f)
            return true;
        var grow = (((g[b] - g[a]) * Vector3.Cross(e2, n)) + ((g[c] - g[a]) * Vector3.Cross(n, e1))) / n2;
        var along = camera.ToEye((mesh.Places[a] + mesh.Places[b] + mesh.Places[c]) / 3);
        var normal = Vector3.Normalize(mesh.Normals[a] + mesh.Normals[b] + mesh.Normals[c]);
        along -= normal * Vector3.Dot(normal, along);
        return Vector3.Dot(grow, along) >= -0.004f;
    }

    /// <summary>A line that was found on a round part: evenly spaced and calmed in the picture, its depth along with it.</summary>
    private void Chain(List<Vector3> chain, bool closed, LineKind kind, float weight)
    {
        var step = 1.1f * unit;
        var even = Even([.. chain.Select(camera.Project), .. closed ? new[] { camera.Project(chain[0]) } : []], step);
        if (even.Count < 3)
            return;
        // Where a round foot meets the ground, the ground before it is nearer: more is allowed there.
        var seen = even.Select(q => depth.Shows(q, RoundDepth) || (depth.Shows(q, 3f) && AtGround(q))).ToArray();
        for (var round = 0; round < (kind == LineKind.Contour ? 5 : 2); round++)
        {
            var from = even.ToArray();
            var n = from.Length;
            for (var i = closed ? 0 : 1; i < (closed ? n : n - 1); i++)
                even[i] = (from[(i + n - 1) % n] * 0.25f) + (from[i] * 0.5f) + (from[(i + 1) % n] * 0.25f);
        }
        Runs([.. even], seen, [.. even.Select(_ => kind == LineKind.Contour)], closed, kind, weight);
    }

    private static List<Vector3> Even(Vector3[] at, float step)
    {
        static float Apart(Vector3 a, Vector3 b) => Vector2.Distance(new(a.X, a.Y), new(b.X, b.Y));
        var even = new List<Vector3> { at[0] };
        for (var i = 1; i < at.Length; i++)
        {
            var parts = Math.Clamp((int)(Apart(at[i - 1], at[i]) / step), 1, 400);
            for (var k = 1; k <= parts; k++)
            {
                var q = Vector3.Lerp(at[i - 1], at[i], (float)k / parts);
                if (Apart(q, even[^1]) >= step * 0.8f)
                    even.Add(q);
            }
        }
        return even;
    }

    private bool AtGround(Vector3 q)
    {
        for (var j = -2; j <= 2; j++)
        {
            int x = (int)q.X,
                y = (int)q.Y + j;
            if ((uint)x < camera.Width && (uint)y < camera.Height && !depth.IsFigure((y * camera.Width) + x))
                return true;
        }
        return false;
    }

    /// <summary>Cuts a line into the runs that are seen.</summary>
    private void Runs(Vector3[] at, bool[] seen, bool[] contour, bool closed, LineKind kind, float weight)
    {
        var n = at.Length;
        DepthPicture.BridgeGrain(seen);
        if (closed && Array.TrueForAll(seen, s => s))
        {
            Stroke(new(at, contour, kind, weight), 0, n, true, false, false);
            return;
        }
        if (closed)
        {
            var start = Array.IndexOf(seen, false);
            T[] From<T>(T[] of) => [.. of[start..], .. of[..start]];
            (at, seen, contour) = (From(at), From(seen), From(contour));
        }
        for (var i = 0; i < n; )
        {
            if (!seen[i])
            {
                i++;
                continue;
            }
            var j = i;
            while (j < n && seen[j])
                j++;
            Stroke(new(at, contour, kind, weight), i, j, false, !closed && i == 0, !closed && j == n);
            i = j;
        }
    }

    private sealed record Run(Vector3[] At, bool[] Contour, LineKind Kind, float Weight);

    /// <param name="cornerFirst">Whether it begins where the edge itself does, not where something hides it.</param>
    private void Stroke(Run run, int from, int until, bool closed, bool cornerFirst, bool cornerLast)
    {
        List<Vector2> p = [];
        List<float> w = [];
        for (var k = from; k < until; k++)
        {
            var q = new Vector2(run.At[k].X, run.At[k].Y);
            if (p.Count > 0 && Vector2.Distance(p[^1], q) < 0.02f)
                continue;
            p.Add(q);
            w.Add(Width(run, from, until, k));
        }
        if (p.Count < 2)
            return;
        var total = Curves.Length(p);
        if (total < (run.Kind == LineKind.Contour ? 4 : 2.2f) * unit)
            return;
        for (var round = 0; round < 6; round++)
        {
            var o = w.ToArray();
            for (var i = 1; i < w.Count - 1; i++)
                w[i] = (o[i - 1] + o[i] + o[i + 1]) / 3;
        }
        Taper(p, w, total, !closed && !cornerFirst, !closed && !cornerLast, run.Weight * unit);
        // A line that ends at a corner goes a little over it, or the corner would show a notch.
        if (cornerFirst)
            p[0] += Way(p[Math.Min(3, p.Count - 1)], p[0]) * w[0] * 0.4f;
        if (cornerLast)
            p[^1] += Way(p[Math.Max(0, p.Count - 4)], p[^1]) * w[^1] * 0.4f;
        var kept = Kept(p, w, 0.08f * unit);
        strokes.Add(new(run.Kind, closed, [.. kept.Select(i => p[i])], [.. kept.Select(i => w[i])]));
    }

    private static Vector2 Way(Vector2 from, Vector2 to) => (to - from) / MathF.Max(1e-6f, Vector2.Distance(from, to));

    /// <summary>A crease is thin; a contour is the heavier the deeper what lies behind it, and on the side away from the lamp.</summary>
    private float Width(Run run, int from, int until, int k)
    {
        const float crease = 1.15f,
            soft = 1.2f;
        if (run.Kind == LineKind.Soft)
            return soft;
        if (!run.Contour[k])
            return crease;
        Vector3 a = run.At[Math.Max(from, k - 2)],
            b = run.At[Math.Min(until - 1, k + 2)],
            at = run.At[k];
        var along = new Vector2(b.X - a.X, b.Y - a.Y);
        var across = along.Length() > 0 ? new Vector2(-along.Y, along.X) / along.Length() : Vector2.UnitX;
        var reach = across * 2.6f * unit;
        float one = depth.DepthAt(at.X + reach.X, at.Y + reach.Y),
            other = depth.DepthAt(at.X - reach.X, at.Y - reach.Y),
            heavy = Math.Clamp((MathF.Max(one, other) - at.Z - 0.8f) / 5f, 0, 1);
        var outward = one >= other ? across : -across;
        return (crease * (1 - heavy)) + ((2.15f - (1.05f * Vector2.Dot(outward, lampInPicture))) * heavy);
    }

    private void Taper(List<Vector2> p, List<float> w, float total, bool first, bool last, float weight)
    {
        const float tip = 0.45f;
        var taper = MathF.Min(total * 0.35f, 9 * unit);
        float along = 0;
        for (var i = 0; i < p.Count; i++)
        {
            if (i > 0)
                along += Vector2.Distance(p[i - 1], p[i]);
            var end = 1f;
            if (first)
                end = MathF.Min(end, tip + ((1 - tip) * MathF.Min(1, along / taper)));
            if (last)
                end = MathF.Min(end, tip + ((1 - tip) * MathF.Min(1, (total - along) / taper)));
            w[i] *= end * weight;
        }
    }

    /// <summary>Places that a stroke needs: Douglas and Peucker on place and width, then as many again as keep neighbouring spans within a factor of
    /// one another, since a curve through very uneven ones overshoots corners.</summary>
    private static List<int> Kept(List<Vector2> p, List<float> w, float tolerance)
    {
        const float uneven = 3.5f;
        var keep = new SortedSet<int> { 0, p.Count - 1 };
        var open = new Stack<(int, int)>([(0, p.Count - 1)]);
        while (open.TryPop(out var span))
        {
            var (a, b) = span;
            if (Farthest(p, w, a, b, tolerance) is not { } at)
                continue;
            keep.Add(at);
            open.Push((a, at));
            open.Push((at, b));
        }
        List<int> kept = [.. keep];
        for (var round = 0; round < 14; round++)
        {
            float Span(int k) => k < 1 || k >= kept.Count ? float.MaxValue : Vector2.Distance(p[kept[k]], p[kept[k - 1]]);
            List<int> more =
            [
                .. Enumerable
                    .Range(1, kept.Count - 1)
                    .Where(i => kept[i] - kept[i - 1] > 1 && Span(i) > uneven * MathF.Min(Span(i - 1), Span(i + 1)))
                    .Select(i => (kept[i] + kept[i - 1]) / 2),
            ];
            if (more.Count == 0)
                break;
            kept = [.. kept.Concat(more).Distinct().Order()];
        }
        return kept;
    }

    private static int? Farthest(List<Vector2> p, List<float> w, int a, int b, float tolerance)
    {
        var d = p[b] - p[a];
        var length = d.Length();
        int? at = null;
        for (var i = a + 1; i < b; i++)
        {
            var off =
                length < 1e-6f ? Vector2.Distance(p[i], p[a]) : MathF.Abs(((p[i].X - p[a].X) * d.Y) - ((p[i].Y - p[a].Y) * d.X)) / length;
            off = MathF.Max(off, 0.6f * MathF.Abs(w[i] - w[a] - ((w[b] - w[a]) * (i - a) / (b - a))));
            if (off > tolerance)
                (tolerance, at) = (off, i);
        }
        return at;
    }
}
