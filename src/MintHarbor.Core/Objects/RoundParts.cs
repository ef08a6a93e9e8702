namespace MintHarbor.Core.Objects;

/// <summary>A place of a turned part's profile.</summary>
/// <param name="Ring">What its circle is called.</param>
/// <param name="Smooth">The circle is known, but the surface runs on over it.</param>
/// <param name="Sharp">An edge without a name.</param>
public sealed record ProfileRow(double R, double Y, string? Ring = null, bool Smooth = false, bool Sharp = false)
{
    internal bool Breaks => Sharp || (Ring is not null && !Smooth);
}

/// <summary>A part turned about its upright axis: its profile runs from the middle of the bottom outward, over the rim and down inside.
/// Smooth between the sharp places.</summary>
public sealed record LathePart : PartRow
{
    private const int Round = 112,
        RingParts = 180;

    public required IReadOnlyList<ProfileRow> Profile { get; init; }

    internal override void Build(PartSite site)
    {
        var outer = new List<Point3>();
        Point3? before = null;
        var start = 0;
        for (var i = 1; i < Profile.Count; i++)
        {
            if (i < Profile.Count - 1 && !Profile[i].Breaks)
                continue;
            var line = Run([.. Profile.Skip(start).Take(i + 1 - start).Select(q => new Point3(q.R, q.Y, 0))]);
            outer.AddRange(line);
            Surface(site, line);
            if (before is { } b && Profile[start].R > 1e-6)
                Rim(site, Profile[start], b, Normal(line, 0));
            before = Normal(line, line.Count - 1);
            start = i;
        }
        foreach (var q in Profile.Where(q => q.Smooth))
            site.Circle(q.Ring!, q.Y, q.R, false);
        var f = site.Frame;
        site.Thing.Outside[site.Name] = place => Outside(outer, f, place);
    }

    /// <summary>One smooth run of the profile; a straight one in cells.</summary>
    private static List<Point3> Run(Point3[] keys)
    {
        if (keys.Length > 2)
            return Spline3.Through(keys, 9);
        var parts = Math.Clamp((int)((keys[1] - keys[0]).Length / PartSite.Cell), 1, 30);
        return [.. Enumerable.Range(0, parts + 1).Select(k => Point3.Lerp(keys[0], keys[1], (double)k / parts))];
    }

    private static Point3 Normal(List<Point3> line, int k)
    {
        var d = (line[Math.Min(k + 1, line.Count - 1)] - line[Math.Max(k - 1, 0)]).Unit;
        return new(d.Y, -d.X, 0);
    }

    /// <summary>A place of the profile's plane, so far round.</summary>
    private static Point3 Turned(Point3 p, double share)
    {
        var (sin, cos) = Math.SinCos(share * Math.Tau);
        return new(p.X * cos, p.Y, p.X * sin);
    }

    private static void Surface(PartSite site, List<Point3> line)
    {
        var first = site.Mesh.Places.Count;
        for (var k = 0; k < line.Count; k++)
        {
            var normal = Normal(line, k);
            for (var s = 0; s <= Round; s++)
            {
                var share = (double)s / Round;
                site.Mesh.Add(site.Frame.Place(Turned(line[k], share)), site.Frame.Turn(Turned(normal, share)));
            }
        }
        site.Mesh.Net(first, Round + 1, line.Count);
    }

    private static void Rim(PartSite site, ProfileRow at, Point3 below, Point3 above)
    {
        if (at.Ring is { } name)
            site.Circle(name, at.Y, at.R, true);
        var f = site.Frame;
        Point3[] All(Func<double, Point3> of) => [.. Enumerable.Range(0, RingParts).Select(s => of((double)s / RingParts))];
        site.Edge(
            at.Ring ?? "",
            All(s => f.Place(Turned(new(at.R, at.Y, 0), s))),
            All(s => f.Turn(Turned(below, s))),
            All(s => f.Turn(Turned(above, s))),
            true
        );
    }

    /// <summary>How far outside the outermost skin a place lies, measured at its level; above and below it, 1.</summary>
    private static double Outside(List<Point3> outer, Frame f, Point3 place)
    {
        var d = place - f.At;
        double y = d.Dot(f.Y),
            r = (d - (f.Y * y)).Length,
            most = -1;
        for (var i = 1; i < outer.Count; i++)
        {
            var (a, b) = (outer[i - 1], outer[i]);
            if ((a.Y - y) * (b.Y - y) <= 0 && Math.Abs(b.Y - a.Y) > 1e-9)
                most = Math.Max(most, a.X + ((b.X - a.X) * (y - a.Y) / (b.Y - a.Y)));
        }
        return most < 0 ? 1 : r - most;
    }
}

/// <summary>A bent rod: an oval section carried along a path that lies in a plane.</summary>
public sealed record SweepPart : PartRow
{
    private const int Round = 28,
        Parts = 10;

    /// <summary>Places x, y, z, and as a fourth number how thick the section is there, 1 as it is said.</summary>
    public required IReadOnlyList<IReadOnlyList<double>> Path { get; init; }

    /// <summary>Half widths across the plane of the path and in it.</summary>
    public required IReadOnlyList<double> Section { get; init; }

    /// <summary>The turned part that it grows out of.</summary>
    public string? Joins { get; init; }

    internal override void Build(PartSite site)
    {
        var path = Spline3.Through([.. Path.Select(k => new Point3(k[0], k[1], k[2]))], Parts);
        Point3 flat = default;
        for (var i = 2; i < path.Count; i++)
            flat += (path[i] - path[0]).Cross(path[i - 1] - path[0]);
        flat = flat.Unit;
        var mesh = site.Mesh;
        for (var i = 0; i < path.Count; i++)
        {
            var along = (path[Math.Min(i + 1, path.Count - 1)] - path[Math.Max(i - 1, 0)]).Unit;
            var aside = flat.Cross(along).Unit;
            var thick = Thick((double)i / Parts);
            double a = Section[0] * thick,
                b = Section[1] * thick;
            for (var s = 0; s <= Round; s++)
            {
                var (sin, cos) = Math.SinCos(s * Math.Tau / Round);
                mesh.Add(
                    site.Frame.Place(path[i] + (flat * (a * cos)) + (aside * (b * sin))),
                    site.Frame.Turn(((flat * (cos / a)) + (aside * (sin / b))).Unit)
                );
            }
        }
        mesh.Net(0, Round + 1, path.Count);
        if (Joins is not null && site.Thing.Outside.TryGetValue(Joins, out var outside))
        {
            Joint(site, outside, 0, path.Count / 2, 1);
            Joint(site, outside, path.Count - 1, path.Count / 2, -1);
        }
    }

    private double Thick(double key)
    {
        double At(int i) => Path[i].Count > 3 ? Path[i][3] : 1;
        var low = Math.Min((int)key, Path.Count - 1);
        return At(low) + ((At(Math.Min(low + 1, Path.Count - 1)) - At(low)) * (key - low));
    }

    /// <summary>Where each line of the section along the path comes out of what it joins.</summary>
    private static void Joint(PartSite site, Func<Point3, double> outside, int from, int until, int step)
    {
        var line = new List<Point3>();
        for (var s = 0; s < Round; s++)
        {
            Point3 At(int i) => site.Mesh.Places[(i * (Round + 1)) + s];
            for (var i = from; i != until; i += step)
            {
                double a = outside(At(i)),
                    b = outside(At(i + step));
                if (a > 0 && i != from)
                    continue;
                if (a <= 0 && b <= 0)
                    continue;
                line.Add(a > 0 ? At(i) : Point3.Lerp(At(i), At(i + step), a / (a - b)));
                break;
            }
        }
        if (line.Count == Round)
            site.Thing.Joints.Add(([.. Spline3.Through(line, 4, true)], true));
    }
}
