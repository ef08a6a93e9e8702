namespace MintHarbor.Core.Objects;

/// <summary>A frame of a boat's shell, from the keel over the chine to the rail, so far along it.</summary>
public sealed record StationRow(double Z, double KeelY, double ChineX, double ChineY, double RailX, double RailY);

/// <summary>A boat's shell from stern to bow: at each station a bent curve through keel, chine and rail, on both sides; closed by a transom.</summary>
public sealed record HullPart : PartRow
{
    private const int Between = 9,
        Up = 16;

    public required IReadOnlyList<StationRow> Stations { get; init; }
    public required double Thick { get; init; }

    internal override void Build(PartSite site)
    {
        var shell = new Shell(this, site.Frame);
        foreach (var side in new[] { -1, 1 })
        {
            Skin(site, shell, side, 0);
            Skin(site, shell, side, Thick);
            Rails(site, shell, side);
        }
        Stem(site, shell);
        Transom(site, shell, 0, -1);
        Transom(site, shell, Thick, 1);
    }

    /// <summary>The shell's surface: share of the way from keel to rail, station line, side and how far inside.</summary>
    private sealed class Shell
    {
        private readonly List<Point3>[] columns;
        private readonly Frame frame;

        public int Count => columns[0].Count;

        public Shell(HullPart hull, Frame f)
        {
            frame = f;
            List<Point3> Column(Func<StationRow, double> of) =>
                Spline3.Through([.. hull.Stations.Select(s => new Point3(s.Z, of(s), 0))], Between);
            columns = [Column(s => s.KeelY), Column(s => s.ChineX), Column(s => s.ChineY), Column(s => s.RailX), Column(s => s.RailY)];
        }

        public Point3 At(double up, int i, int side, double inside)
        {
            double Of(int column) => columns[column][i].Y;
            double keel = Of(0) + inside,
                rail = Math.Max(0, Of(3) - inside),
                // The quadratic that passes the chine at its middle.
                bendX = (2 * Math.Max(0, Of(1) - inside)) - (rail / 2),
                bendY = (2 * (Of(2) + (inside * 0.6))) - ((keel + Of(4)) / 2),
                down = 1 - up,
                x = (2 * up * down * bendX) + (up * up * rail),
                y = (down * down * keel) + (2 * up * down * bendY) + (up * up * Of(4)),
                z = columns[0][i].X;
            // The stem rakes forward and the transom back, the more the higher.
            if (z > 0.5)
                z += 0.42 * (y - 0.3) * Math.Pow((z - 0.5) / 0.9, 2);
            else if (z < -0.6)
                z -= 0.25 * (y - 0.1) * ((-z - 0.6) / 0.65);
            return frame.Place(new(side * Math.Max(0, x), y, z));
        }

        public Point3[] Line(double up, int side, double inside) => [.. Enumerable.Range(0, Count).Select(i => At(up, i, side, inside))];
    }

    private static void Skin(PartSite site, Shell shell, int side, double inside)
    {
        var first = site.Mesh.Places.Count;
        var outward = site.Frame.Turn(new(side, -0.6, 0));
        for (var i = 0; i < shell.Count; i++)
        {
            int before = Math.Max(0, i - 1),
                after = Math.Min(shell.Count - 1, i + 1);
            for (var j = 0; j <= Up; j++)
            {
                double up = (double)j / Up,
                    off = Math.Max(up, 0.02);
                var rise = shell.At(Math.Min(1, up + 0.01), i, side, inside) - shell.At(Math.Max(0, up - 0.01), i, side, inside);
                var normal = rise.Cross(shell.At(off, after, side, inside) - shell.At(off, before, side, inside)).Unit;
                if (normal.Dot(outward) < 0)
                    normal = -normal;
                site.Mesh.Add(shell.At(up, i, side, inside), inside == 0 ? normal : -normal);
            }
        }
        site.Mesh.Net(first, Up + 1, shell.Count);
    }

    private void Rails(PartSite site, Shell shell, int side)
    {
        var up = site.Frame.Y;
        var outward = site.Frame.Turn(new Point3(side, -0.3, 0).Unit);
        var word = side < 0 ? "left" : "right";
        Point3[] outer = shell.Line(1, side, 0),
            inner = shell.Line(1, side, Thick);
        var first = site.Mesh.Places.Count;
        for (var i = 0; i < outer.Length; i++)
        {
            site.Mesh.Add(outer[i], up);
            site.Mesh.Add(inner[i], up);
        }
        site.Mesh.Net(first, 2, outer.Length);
        site.Edge($"{word} rail", outer, [outward], [up]);
        site.Edge($"{word} rail inside", inner, [-outward], [up], weight: 0.8);
        foreach (var at in new[] { 0.5, 0.75 })
        {
            var strake = at < 0.6 ? "lower" : "upper";
            site.Edge($"{word} {strake} strake", shell.Line(at, side, -0.003), [outward], [outward], weight: 0.55);
            site.Edge($"{word} {strake} strake inside", shell.Line(at, side, Thick + 0.003), [-outward], [-outward], weight: 0.45);
        }
    }

    private static void Stem(PartSite site, Shell shell)
    {
        Point3 Turned(double x, double y, double z) => site.Frame.Turn(new Point3(x, y, z).Unit);
        site.Edge("keel", shell.Line(0, 1, 0), [Turned(1, -0.4, 0)], [Turned(-1, -0.4, 0)]);
        site.Edge(
            "stem",
            [.. Enumerable.Range(0, Up + 1).Select(j => shell.At((double)j / Up, shell.Count - 1, 1, 0))],
            [Turned(1, 0, 0.25)],
            [Turned(-1, 0, 0.25)]
        );
    }

    /// <param name="way">−1 the outside, which faces back; 1 the inside.</param>
    private void Transom(PartSite site, Shell shell, double inside, int way)
    {
        var f = site.Frame;
        var normal = f.Turn(new Point3(0, 0.25 * way, way).Unit);
        var forward = f.Z * inside;
        Point3[] rim =
        [
            .. Enumerable.Range(-Up, (2 * Up) + 1).Select(j => shell.At(Math.Abs(j) / (double)Up, 0, j < 0 ? -1 : 1, inside) + forward),
        ];
        var middle = (rim[0] + rim[^1]) * 0.5;
        var centre = site.Mesh.Add(middle, normal);
        foreach (var p in rim)
            site.Mesh.Add(p, normal);
        for (var j = 1; j < rim.Length; j++)
            site.Mesh.Triangle(centre, centre + j, centre + j + 1);
        site.Edge($"stern top {(way < 0 ? "outside" : "inside")}", [rim[0], rim[^1]], [normal], [f.Y]);
        if (way < 0)
        {
            site.Edge("stern outline", rim, [normal], [.. rim.Select(p => (p - middle).Unit)]);
            return;
        }
        Point3 left = shell.At(1, 0, -1, 0),
            right = shell.At(1, 0, 1, 0);
        site.Mesh.Flat(left, right - left, f.Z * Thick, f.Y, PartSite.Cell);
    }
}
