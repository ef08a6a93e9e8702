using System.Numerics;

namespace MintHarbor.Core.Figure;

public enum LineKind
{
    Contour,
    Crease,
    Soft,
    Prop,
    Feature,
}

/// <summary>A drawn line in picture pixels, each place with its width.</summary>
public sealed record LineStroke(LineKind Kind, bool Closed, Vector2[] Places, float[] Widths);

/// <summary>What of a form is drawn.</summary>
/// <param name="Hollows">Soft lines in the hollows, and contours only where the surface turns away behind them.</param>
/// <param name="Step">A contour before the form itself is drawn only where what lies behind it is farther by this, units.</param>
/// <param name="Feature">How far below the seen surface a drawn mark may lie, units.</param>
/// <param name="Tolerance">How far a drawn line may lie from the one that was found, pixels of a picture 720 high.</param>
/// <param name="Quiet">Balls in which no soft line is drawn.</param>
/// <param name="Contour">How far below the seen surface a contour may lie, units: less where thin forms lie close behind one another.</param>
internal sealed record LineStyle(
    bool Hollows = true,
    float Step = 0,
    float Feature = 0.5f,
    float Tolerance = 0.22f,
    float Contour = 0.9f,
    IReadOnlyList<(Vector3 Middle, float Radius)>? Quiet = null
);

/// <summary>Draws a view as a person would: contours where the form turns away, creases where parts meet, soft lines in the hollows,
/// heavier on the side away from the lamp. Found on the mesh, so lines are finer than a pixel; hidden ones are left out.</summary>
internal sealed class LineView
{
    private readonly DepthPicture depth;
    private readonly LineStyle style;
    private readonly SeatCamera camera;
    private readonly Vector3 lamp;
    private readonly Vector2 lampInPicture;
    private readonly Mesh mesh;
    private readonly int[] parts;
    private readonly List<LineStroke> strokes = [];

    /// <param name="close">A part is looked at alone: its small marks are drawn too.</param>
    public static IReadOnlyList<LineStroke> Draw(DepthPicture depth, FigureModel model, Vector3 lamp, bool close) =>
        Draw(
            depth,
            model.Parts,
            lamp,
            model.Features(close).Select(f => (f, 1f)),
            model.Solids.Select(s => s.Solid),
            new(Quiet: model.Quiet)
        );

    public static IReadOnlyList<LineStroke> Draw(
        DepthPicture depth,
        int[] partOfForm,
        Vector3 lamp,
        IEnumerable<(Vector3[] Places, float Weight)> features,
        IEnumerable<Solid> solids,
        LineStyle? style = null
    )
    {
        var view = new LineView(depth, partOfForm, lamp, style ?? new());
        view.Contours();
        view.Creases();
        foreach (var s in solids)
        foreach (var edge in SolidEdges(s, depth.Camera.Eye))
            view.Visible(edge, false, LineKind.Prop);
        foreach (var (places, weight) in features)
            view.Visible([.. places], false, LineKind.Feature, weight);
        return view.strokes;
    }

    private LineView(DepthPicture depth, int[] partOfForm, Vector3 lamp, LineStyle style)
    {
        (this.depth, this.style, this.lamp, camera, mesh) = (depth, style, lamp, depth.Camera, depth.Meshes[0]);
        parts = [.. mesh.Form.Select(f => f < 0 ? BodyParts.Cloth : partOfForm[f])];
        var l = new Vector2(Vector3.Dot(lamp, camera.Right), -Vector3.Dot(lamp, camera.Up));
        lampInPicture = l.Length() > 0 ? l / l.Length() : l;
    }

    /// <summary>Contours are the zeros of g = normal · view. Where the surface curves the wrong way along the view (radial curvature below
    /// 0) the line would be behind the form and is dropped. Soft lines are the zeros of that curvature where it grows fast enough
    /// (suggestive contours: DeCarlo and others 2003, from memory), and faster where the surface looks up into the light: else the upper
    /// rims of breast and chest muscle close to ovals.</summary>
    private void Contours()
    {
        var n = mesh.Places.Length;
        var g = new float[n];
        var view = new Vector3[n];
        Parallel.For(0, (n + 4095) / 4096, k =>
        {
            for (var i = k * 4096; i < Math.Min(n, (k + 1) * 4096); i++)
            {
                view[i] = camera.ToEye(mesh.Places[i]);
                g[i] = Vector3.Dot(mesh.Normals[i], view[i]);
            }
        });
        if (!style.Hollows)
        {
            Zeros(g, LineKind.Contour, (_, _, _) => true);
            return;
        }
        var curve = mesh.Calmed(RadialCurvature(g, view), 2);
        Zeros(g, LineKind.Contour, (a, b, c) => (curve[a] + curve[b] + curve[c]) / 3 >= -0.02f);
        Zeros(curve, LineKind.Soft, (a, b, c) =>
        {
            if ((g[a] <= 0.02f && g[b] <= 0.02f) || (g[a] + g[b] + g[c]) / 3 < 0.12f || !Gradient(a, b, c, curve, out var grow, out _))
                return false;
            var along = InSurface(a, b, c, view, out var sin);
            return sin >= 0.18f && Vector3.Dot(grow, along) * sin > 0.075f + (0.45f * InLight(mesh.Normals[a])) && !IsQuiet(mesh.Places[a]);
        });
    }

    /// <summary>How far a place that looks up faces the lamp.</summary>
    private float InLight(Vector3 normal) => MathF.Max(0, MathF.Min(Vector3.Dot(normal, lamp) - 0.3f, normal.Y - 0.1f));

    private bool IsQuiet(Vector3 place) => style.Quiet?.Any(q => Vector3.DistanceSquared(q.Middle, place) < q.Radius * q.Radius) == true;

    private float[] RadialCurvature(float[] g, Vector3[] view)
    {
        var sum = new float[g.Length];
        var weight = new float[g.Length];
        var t = mesh.Triangles;
        for (var i = 0; i < t.Length; i += 3)
        {
            int a = t[i],
                b = t[i + 1],
                c = t[i + 2];
            if ((g[a] < -0.05f && g[b] < -0.05f && g[c] < -0.05f) || !Gradient(a, b, c, g, out var grow, out var area))
                continue;
            var along = InSurface(a, b, c, view, out var sin);
            if (sin < 1e-3f)
                continue;
            var k = Vector3.Dot(grow, along) / MathF.Max(sin, 0.15f);
            foreach (var v in (ReadOnlySpan<int>)[a, b, c])
            {
                sum[v] += k * area;
                weight[v] += area;
            }
        }
        for (var i = 0; i < sum.Length; i++)
            sum[i] = weight[i] > 0 ? sum[i] / weight[i] : 1;
        return sum;
    }

    /// <summary>The view's direction laid into the surface, and the sine of the angle it makes with the normal.</summary>
    private Vector3 InSurface(int a, int b, int c, Vector3[] view, out float sin)
    {
        var w = (view[a] + view[b] + view[c]) / 3;
        var n = Vector3.Normalize(mesh.Normals[a] + mesh.Normals[b] + mesh.Normals[c]);
        w -= n * Vector3.Dot(n, w);
        sin = w.Length();
        return sin > 0 ? w / sin : w;
    }

    private bool Gradient(int a, int b, int c, float[] f, out Vector3 gradient, out float area)
    {
        Vector3 e1 = mesh.Places[b] - mesh.Places[a],
            e2 = mesh.Places[c] - mesh.Places[a],
            n = Vector3.Cross(e1, e2);
        var n2 = n.LengthSquared();
        (gradient, area) = (default, 0);
        if (n2 < 1e-10f)
            return false;
        area = MathF.Sqrt(n2);
        gradient = (((f[b] - f[a]) * Vector3.Cross(e2, n)) + ((f[c] - f[a]) * Vector3.Cross(n, e1))) / n2;
        return true;
    }

    private void Zeros(float[] f, LineKind kind, Func<int, int, int, bool> wanted)
    {
        foreach (var (chain, closed) in mesh.Zeros(f, wanted))
            Visible(chain, closed, kind);
    }

    /// <summary>Where two parts meet at an angle. By the angle alone creases would break into dashes, so the parts decide.</summary>
    private void Creases()
    {
        var net = new EdgeNet();
        var t = mesh.Triangles;
        for (var i = 0; i < t.Length; i += 3)
        {
            int a = t[i],
                b = t[i + 1],
                c = t[i + 2];
            if (parts[a] == parts[b] && parts[b] == parts[c])
                continue;
            var cloth = parts[a] == BodyParts.Cloth || parts[b] == BodyParts.Cloth || parts[c] == BodyParts.Cloth;
            Vector3 na = mesh.Normals[a],
                nb = mesh.Normals[b],
                nc = mesh.Normals[c];
            if (!cloth && MathF.Min(Vector3.Dot(na, nb), MathF.Min(Vector3.Dot(nb, nc), Vector3.Dot(nc, na))) > 0.84f)
                continue;
            bool Away(int v) => Vector3.Dot(mesh.Normals[v], camera.ToEye(mesh.Places[v])) < 0;
            if (Away(a) && Away(b) && Away(c))
                continue;
            net.Begin();
            foreach (var (p, q) in (ReadOnlySpan<(int, int)>)[(a, b), (b, c), (c, a)])
            {
                if (parts[p] != parts[q])
                    net.Cross(p, q, () => (mesh.Places[p] + mesh.Places[q]) / 2);
            }
        }
        foreach (var (chain, closed) in net.Chains())
            Visible(chain, closed, LineKind.Crease);
    }

    private static IEnumerable<List<Vector3>> SolidEdges(Solid s, Vector3 eye)
    {
        static List<Vector3> Between(Vector3 a, Vector3 b) => [.. Enumerable.Range(0, 121).Select(k => Vector3.Lerp(a, b, k / 120f))];
        if (s.Box)
        {
            var corner = Enumerable
                .Range(0, 8)
                .Select(i => s.Centre + (s.Half * new Vector3((i & 1) == 0 ? -1 : 1, (i & 2) == 0 ? -1 : 1, (i & 4) == 0 ? -1 : 1)))
                .ToArray();
            for (var i = 0; i < 8; i++)
            for (var axis = 0; axis < 3; axis++)
                if ((i ^ (1 << axis)) is var j && j > i)
                    yield return Between(corner[i], corner[j]);
            yield break;
        }
        Vector3 Rim(float angle, float y) => s.Centre + new Vector3(MathF.Cos(angle) * s.Half.X, y, MathF.Sin(angle) * s.Half.X);
        foreach (var y in new[] { s.Half.Y, -s.Half.Y })
            yield return [.. Enumerable.Range(0, 181).Select(k => Rim(k * MathF.Tau / 180, y))];
        var d = eye - s.Centre;
        var toward = MathF.Atan2(d.Z, d.X);
        var aside = MathF.Acos(MathF.Min(1, s.Half.X / MathF.Sqrt((d.X * d.X) + (d.Z * d.Z))));
        foreach (var side in Sides.Both)
            yield return Between(Rim(toward + (side * aside), s.Half.Y), Rim(toward + (side * aside), -s.Half.Y));
    }

    /// <summary>Cuts a chain into the runs that can be seen. Gaps of up to three points are the depth picture's grain and are bridged.</summary>
    private void Visible(List<Vector3> chain, bool closed, LineKind kind, float weight = 1)
    {
        var n = chain.Count;
        var at = new Vector3[n];
        var seen = new bool[n];
        for (var i = 0; i < n; i++)
        {
            at[i] = camera.Project(chain[i]);
            seen[i] =
                depth.Shows(
                    at[i],
                    kind switch
                    {
                        LineKind.Contour => style.Contour,
                        LineKind.Feature => style.Feature,
                        _ => 0.5f,
                    }
                ) && (style.Step == 0 || kind != LineKind.Contour || depth.Behind(at[i]) > style.Step);
        }
        // The places of a solid's edge lie apart: three of them hidden are a limb before it, not grain.
        if (kind is not LineKind.Prop)
            DepthPicture.BridgeGrain(seen);
        var start = 0;
        if (closed)
        {
            start = Array.IndexOf(seen, false);
            if (start < 0)
            {
                Add([.. at.Select(Flat)], true, kind, weight);
                return;
            }
        }
        var run = new List<Vector2>();
        for (var q = 0; q <= n; q++)
        {
            var i = (start + q) % n;
            if (q < n && seen[i])
            {
                run.Add(Flat(at[i]));
                continue;
            }
            if (run.Count > 2)
                Add(run, false, kind, weight);
            run = [];
        }
    }

    private static Vector2 Flat(Vector3 p) => new(p.X, p.Y);

    private void Add(List<Vector2> run, bool closed, LineKind kind, float weight)
    {
        var unit = depth.Height / 720f;
        var shortest =
            kind switch
            {
                LineKind.Contour => 5,
                LineKind.Soft => 14,
                LineKind.Feature => 2,
                _ => 10,
            } * unit;
        if (Curves.Length(run) < shortest)
            return;
        var line = Curves.Smooth(
            Curves.Resample(run, 1.6f * unit),
            closed,
            kind == LineKind.Contour ? 5
                : kind == LineKind.Crease ? 10
                : 9
        );
        if (closed)
            line.Add(line[0]);
        line = Curves.Simplify(line, style.Tolerance * unit);
        var total = Curves.Length(line);
        var widths = new float[line.Count];
        float along = 0;
        for (var i = 0; i < line.Count; i++)
        {
            if (i > 0)
                along += Vector2.Distance(line[i], line[i - 1]);
            var d = line[Math.Min(line.Count - 1, i + 1)] - line[Math.Max(0, i - 1)];
            var across = d.Length() > 0 ? new Vector2(-d.Y, d.X) / d.Length() : Vector2.UnitX;
            Vector2 one = line[i] + (across * 2.2f),
                other = line[i] - (across * 2.2f);
            var outward = depth.DepthAt(one.X, one.Y) >= depth.DepthAt(other.X, other.Y) ? across : -across;
            var width = kind switch
            {
                LineKind.Contour => 1.45f - (0.85f * Vector2.Dot(outward, lampInPicture)),
                LineKind.Crease => 1.15f,
                LineKind.Prop => 1.0f,
                LineKind.Feature => 0.95f,
                _ => 0.8f,
            };
            if (!closed)
            {
                var taper = kind == LineKind.Soft ? MathF.Min(total * 0.5f, 22 * unit) : MathF.Min(total * 0.4f, 12 * unit);
                width *= 0.3f + (0.7f * MathF.Min(1, MathF.Min(along, total - along) / taper));
            }
            widths[i] = width * weight * unit;
        }
        strokes.Add(new(kind, closed, [.. line], widths));
    }
}

/// <summary>Links crossings of mesh edges into chains: two triangles that share an edge share the crossing on it.</summary>
internal sealed class EdgeNet
{
    private readonly List<Vector3> places = [];
    private readonly List<(int A, int B)> next = [];

    // Not one long of both: its hash is their exclusive or, nearly the same for all the edges of a mesh.
    private readonly Dictionary<(int, int), int> byEdge = [];
    private int open = -1;

    /// <summary>A new triangle: its first two crossings become one piece of line.</summary>
    public void Begin() => open = -1;

    public void Cross(int p, int q, Func<Vector3> place)
    {
        var key = p < q ? (p, q) : (q, p);
        if (!byEdge.TryGetValue(key, out var id))
        {
            byEdge[key] = id = places.Count;
            places.Add(place());
            next.Add((-1, -1));
        }
        if (open < 0)
        {
            open = id;
            return;
        }
        Link(open, id);
        Link(id, open);
        open = -1;
    }

    private void Link(int from, int to)
    {
        var (a, b) = next[from];
        if (a < 0)
            next[from] = (to, b);
        else if (b < 0)
            next[from] = (a, to);
    }

    /// <summary>Chains of three or more places; open ones from their ends first, then the closed ones.</summary>
    public IEnumerable<(List<Vector3> Chain, bool Closed)> Chains()
    {
        var seen = new bool[places.Count];
        for (var pass = 0; pass < 2; pass++)
        {
            for (var i = 0; i < places.Count; i++)
            {
                if (seen[i] || (pass == 0 && next[i].B >= 0))
                    continue;
                var chain = new List<Vector3>();
                int at = i,
                    before = -1;
                while (at >= 0 && !seen[at])
                {
                    seen[at] = true;
                    chain.Add(places[at]);
                    (before, at) = (at, next[at].A != before ? next[at].A : next[at].B);
                }
                if (chain.Count > 2)
                    yield return (chain, pass == 1 && at == i);
            }
        }
    }
}
