namespace MintHarbor.Core.Objects;

/// <summary>A cloth that was let fall over a block once (<see cref="ClothFall"/>) and is kept as it came to rest.</summary>
public sealed record ClothPart : PartRow
{
    private const int Finer = 3;

    /// <summary>Half its thickness, metres.</summary>
    private const double Half = 0.0008;

    /// <summary>The net of places that it came to rest in.</summary>
    public required string Net { get; init; }

    /// <summary>The block under it, which only holds it up.</summary>
    public required string Joins { get; init; }

    internal override void Build(PartSite site)
    {
        var net = Fine(ClothNet.Read(Net));
        int across = net[0].Length,
            rows = net.Length;
        var f = site.Frame;
        Point3 Normal(int i, int j)
        {
            var down = net[Math.Min(j + 1, rows - 1)][i] - net[Math.Max(j - 1, 0)][i];
            return down.Cross(net[j][Math.Min(i + 1, across - 1)] - net[j][Math.Max(i - 1, 0)]).Unit;
        }
        foreach (var side in new[] { 1, -1 })
        {
            var first = site.Mesh.Places.Count;
            for (var j = 0; j < rows; j++)
            for (var i = 0; i < across; i++)
                site.Mesh.Add(f.Place(net[j][i] + (Normal(i, j) * (side * Half))), f.Turn(Normal(i, j) * side));
            site.Mesh.Net(first, across, rows);
        }
        Point3[] hem =
        [
            .. net[0].SkipLast(1),
            .. net.SkipLast(1).Select(r => r[^1]),
            .. net[^1].Skip(1).Reverse(),
            .. net.Skip(1).Select(r => r[0]).Reverse(),
        ];
        Hide(site.Thing);
        site.Edge("hem", [.. hem.Select(f.Place)], [], [], true);
    }

    /// <summary>The block shrinks away under the cloth, and its edges with it.</summary>
    private void Hide(ThingModel thing)
    {
        thing.Edges.RemoveAll(e => e.Name.StartsWith(Joins, StringComparison.Ordinal));
        thing.Planes.Clear();
        var block = thing.Parts.First(p => p.Name == Joins);
        for (var i = 0; i < block.Places.Count; i++)
            block.Places[i] = new(block.Places[i].X * 0.93, block.Places[i].Y * 0.96, block.Places[i].Z * 0.93);
    }

    /// <summary>Three times finer by curves along and across, then calmed within its hem.</summary>
    private static Point3[][] Fine(Point3[][] coarse)
    {
        List<Point3[]> along = [.. coarse.Select(r => Spline3.Through(r, Finer).ToArray())];
        var across = along[0].Length;
        List<List<Point3>> columns = [.. Enumerable.Range(0, across).Select(i => Spline3.Through([.. along.Select(r => r[i])], Finer))];
        Point3[][] net = [.. Enumerable.Range(0, columns[0].Count).Select(j => columns.Select(c => c[j]).ToArray())];
        for (var round = 0; round < 2; round++)
        {
            Point3[][] from = [.. net.Select(r => r.ToArray())];
            for (var j = 1; j < net.Length - 1; j++)
            for (var i = 1; i < across - 1; i++)
                net[j][i] = (from[j][i] * 0.4) + ((from[j][i - 1] + from[j][i + 1] + from[j - 1][i] + from[j + 1][i]) * 0.15);
        }
        return net;
    }
}

/// <summary>Nets of cloths at rest: rows of places in tenths of a millimetre.</summary>
internal static class ClothNet
{
    public const double Unit = 0.0001;

    public static Point3[][] Read(string id) =>
        [
            .. CoreData
                .Read<int[][]>($"objects/{id}")
                .Select(row => row.Chunk(3).Select(p => new Point3(p[0] * Unit, p[1] * Unit, p[2] * Unit)).ToArray()),
        ];
}
