using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Objects;

/// <summary>Finds what is known of a view. Places come from the edges and circles themselves in double numbers, not from pixels; only what is hidden is
/// read from the depth picture.</summary>
internal sealed class ViewTruth
{
    private const int EdgeParts = 240,
        RingParts = 360;

    private const float EdgeDepth = 0.5f,
        SmoothDepth = 0.7f;

    /// <summary>Less into the picture than this, and a family's edges stay parallel: its vanishing place lies beyond fifty picture widths.</summary>
    private const double Level = 0.02;

    private readonly ArrangementView view;
    private readonly ArrangementModel model;
    private readonly double smaller;
    private readonly Point3 eye,
        right,
        up,
        forward;
    private readonly double focal,
        centreX,
        centreY;

    public ViewTruth(ArrangementView view)
    {
        (this.view, model, smaller) = (view, view.Model, 1.0 / view.Finer);
        var c = view.Camera;
        (eye, right, up, forward) = (Point3.Of(c.Eye), Point3.Of(c.Right), Point3.Of(c.Up), Point3.Of(c.Forward));
        (focal, centreX, centreY) = (c.Focal * smaller, c.CentreX * smaller, c.CentreY * smaller);
    }

    public ThingTruth All()
    {
        List<(int Thing, SharpEdge Edge)> straight = [.. model.Edges.Where(e => e.Edge.Straight)];
        return new(
            [.. straight.Select(e => Edge(e.Thing, e.Edge))],
            [.. Families(straight)],
            [.. model.Rings.Select(r => Ellipse(r.Thing, r.Ring)).OfType<SeenEllipse>()],
            new NegativeShapes(view).All(),
            new FlatFaces(view).All()
        )
        {
            Things = Things(),
        };
    }

    private SeenThing[] Things()
    {
        var (mesh, count) = (model.Things, model.Names.Count);
        var at = Enumerable.Range(0, count).Select(_ => new List<Vec2>()).ToArray();
        var shown = new int[count];
        for (var i = 0; i < mesh.Places.Length; i++)
        {
            var p = view.Camera.Project(mesh.Places[i]);
            var thing = model.Looks[mesh.Form[i]].Thing;
            at[thing].Add(new Vec2(p.X, p.Y) * smaller);
        }
        for (var o = 0; o < view.Depth.Triangle.Length; o++)
            if (view.ThingAt(o) is >= 0 and var thing)
                shown[thing]++;
        return [.. Enumerable.Range(0, count).Select(t => new SeenThing(model.Names[t], Area.Round(at[t]), Share(t, shown[t])))];
    }

    /// <summary>What is seen of a thing, over what would be seen of it alone.</summary>
    private double Share(int thing, int shown)
    {
        var mesh = model.Things;
        var alone = mesh with
        {
            Triangles = [.. mesh.Triangles.Chunk(3).Where(t => model.Looks[mesh.Form[t[0]]].Thing == thing).SelectMany(t => t)],
        };
        var all = new DepthPicture(view.Camera, alone).Triangle.Count(t => t >= 0);
        return all == 0 ? 0 : Math.Min(1, (double)shown / all);
    }

    /// <summary>Picture place and depth, in doubles.</summary>
    public (Vec2 At, double Depth) Project(Point3 p)
    {
        var d = p - eye;
        double z = d.Dot(forward),
            f = focal / z;
        return (new(centreX + (f * d.Dot(right)), centreY - (f * d.Dot(up))), z);
    }

    /// <summary>Whether a place is seen.</summary>
    /// <param name="first">Normals of the faces that meet there; both turned away hide it.</param>
    public bool Sees(Point3 p, Point3? first = null, Point3? second = null, float within = EdgeDepth)
    {
        var toEye = eye - p;
        return !(first?.Dot(toEye) <= 0 && second?.Dot(toEye) <= 0) && view.Depth.Shows(view.Camera.Project(p.Single), within);
    }

    private string Name(string full) => full[(full.IndexOf(':', StringComparison.Ordinal) + 2)..];

    public SeenEdge Edge(int thing, SharpEdge e)
    {
        var (a, b) = (Project(e.Places[0]), Project(e.Places[1]));
        var length = (e.Places[1] - e.Places[0]).Length;
        var square = focal * length / ((a.Depth + b.Depth) / 2);
        var seen = Enumerable
            .Range(0, EdgeParts + 1)
            .Count(k =>
                (double)k / EdgeParts is var t
                && Sees(SharpEdge.Along(e.Places, t), SharpEdge.Along(e.First, t), SharpEdge.Along(e.Second, t))
            );
        return new(
            model.Names[thing],
            Name(e.Name),
            a.At,
            b.At,
            length / model.Scale,
            (b.At - a.At).Length / square,
            seen / (EdgeParts + 1.0)
        );
    }

    private IEnumerable<EdgeFamily> Families(List<(int Thing, SharpEdge Edge)> straight)
    {
        var alike = Math.Cos(0.5 * Math.PI / 180);
        Point3 Way(int i) => (straight[i].Edge.Places[1] - straight[i].Edge.Places[0]).Unit;
        var left = Enumerable.Range(0, straight.Count).ToList();
        while (left.Count > 0)
        {
            var first = left[0];
            var way = Way(first);
            var mine = left.Where(i => straight[i].Thing == straight[first].Thing && Math.Abs(Way(i).Dot(way)) > alike).ToList();
            left.RemoveAll(mine.Contains);
            if (mine.Count < 2)
                continue;
            var deep = way.Dot(forward);
            if (deep < 0)
                (way, deep) = (-way, -deep);
            Vec2? vanishing =
                deep > Level ? new Vec2(centreX + (focal * way.Dot(right) / deep), centreY - (focal * way.Dot(up) / deep)) : null;
            yield return new(model.Names[straight[first].Thing], mine, vanishing, deep) { Level = Math.Abs(way.Y) < 0.005 };
        }
    }

    /// <summary>A circle in perspective is a conic: Q = H⁻ᵀ diag(1, 1, −r²) H⁻¹ with H the map of its plane's (u, v, 1) to the picture (Hartley and
    /// Zisserman 2004, 8.4.2, from memory). Null where it is seen edge on, or passes the eye and is no ellipse.</summary>
    public SeenEllipse? Ellipse(int thing, Ring ring)
    {
        var a = ring.Axis.Cross(Math.Abs(ring.Axis.Y) > 0.9 ? Point3.UnitX : Point3.UnitY).Unit;
        var b = ring.Axis.Cross(a);
        if (Conic(a, b, ring) is not { } c)
            return null;
        var count = Enumerable
            .Range(0, RingParts)
            .Select(i => Math.SinCos(i * Math.Tau / RingParts))
            .Select(t => (a * t.Cos) + (b * t.Sin))
            .Count(away =>
                ring.Centre + (away * ring.Radius) is var p
                && (ring.Drawn ? Sees(p) : away.Dot(eye - p) > 0 && Sees(p, within: SmoothDepth))
            );
        return new(
            model.Names[thing],
            Name(ring.Name),
            c.Centre,
            c.Major,
            c.Minor,
            c.Turn,
            Project(ring.Centre).At,
            count / (double)RingParts
        );
    }

    private (Vec2 Centre, double Major, double Minor, double Turn)? Conic(Point3 a, Point3 b, Ring ring)
    {
        Point3 Column(Point3 d) =>
            d.Dot(forward) is var z ? new((focal * d.Dot(right)) + (centreX * z), (-focal * d.Dot(up)) + (centreY * z), z) : default;
        Point3 h1 = Column(a),
            h2 = Column(b),
            h3 = Column(ring.Centre - eye);
        var det = h1.Dot(h2.Cross(h3));
        if (Math.Abs(det) < 1e-9)
            return null;
        // Rows of the inverse.
        Point3 g1 = h2.Cross(h3) * (1 / det),
            g2 = h3.Cross(h1) * (1 / det),
            g3 = h1.Cross(h2) * (1 / det);
        var r2 = ring.Radius * ring.Radius;
        double Q(Func<Point3, double> i, Func<Point3, double> j) => (i(g1) * j(g1)) + (i(g2) * j(g2)) - (r2 * i(g3) * j(g3));
        static double X(Point3 p) => p.X;
        static double Y(Point3 p) => p.Y;
        static double Z(Point3 p) => p.Z;
        return FromConic(Q(X, X), Q(X, Y), Q(Y, Y), Q(X, Z), Q(Y, Z), Q(Z, Z));
    }

    /// <summary>Centre, halves and turn of Ax² + 2Bxy + Cy² + 2Ex + 2Fy + K = 0.</summary>
    private static (Vec2 Centre, double Major, double Minor, double Turn)? FromConic(
        double a,
        double b,
        double c,
        double e,
        double f,
        double k
    )
    {
        var form = (a * c) - (b * b);
        if (form <= 0)
            return null;
        double x = ((b * f) - (c * e)) / form,
            y = ((b * e) - (a * f)) / form,
            at = k + (e * x) + (f * y),
            mean = (a + c) / 2,
            spread = Math.Sqrt((((a - c) / 2) * ((a - c) / 2)) + (b * b)),
            major = Math.Sqrt(-at / (mean - spread)),
            minor = Math.Sqrt(-at / (mean + spread));
        if (double.IsNaN(major) || double.IsNaN(minor))
            return null;
        var small = mean - spread;
        var turn = Math.Abs(b) < 1e-14 * Math.Abs(mean) ? (a <= c ? 0 : 90) : Math.Atan2(small - a, b) * 180 / Math.PI;
        return (new(x, y), major, minor, ClockAngle.Wrap(turn));
    }
}
