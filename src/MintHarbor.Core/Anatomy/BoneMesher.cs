using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>Meshes of bones at rest: surface nets on the bone's own box, and tubes through stations.</summary>
internal sealed class BoneMesher
{
    private const int Block = 4;

    private readonly BoneField field;
    private readonly float h;
    private readonly Vector3 low;
    private readonly int nx,
        ny,
        nz;
    private readonly float[] grid;
    private readonly int[] index;

    /// <summary>Every corner of the grid that lies near the surface is asked; every vertex takes one Newton step, which removes the grid's steps.</summary>
    public static Mesh Build(BoneField field, float step) => new BoneMesher(field, step).Build();

    private BoneMesher(BoneField field, float step)
    {
        (this.field, h) = (field, step);
        low = field.Low - new Vector3(2.5f * h);
        var size = (field.High - field.Low + new Vector3(5 * h)) / h;
        (nx, ny, nz) = ((int)size.X + 1, (int)size.Y + 1, (int)size.Z + 1);
        grid = new float[nx * ny * nz];
        index = new int[grid.Length];
        Array.Fill(index, -1);
    }

    private int Cell(int x, int y, int z) => (((z * ny) + y) * nx) + x;

    private Mesh Build()
    {
        Sample();
        var places = new List<Vector3>();
        for (var z = 0; z < nz - 1; z++)
        for (var y = 0; y < ny - 1; y++)
        for (var x = 0; x < nx - 1; x++)
        {
            if (Crossing(x, y, z) is not { } at)
                continue;
            index[Cell(x, y, z)] = places.Count;
            places.Add(low + (at * h));
        }
        var triangles = Faces();
        var normals = new Vector3[places.Count];
        var open = new float[places.Count];
        for (var i = 0; i < normals.Length; i++)
        {
            (places[i], normals[i]) = Settled(places[i]);
            open[i] = field.InHollow(places[i]) ? 0.25f : 1;
        }
        return new([.. places], normals, open, new short[places.Count], triangles);
    }

    /// <summary>Blocks whose middle lies far from the surface hold no crossing: they take its sign.</summary>
    private void Sample()
    {
        var reach = (h * Block * 0.5f * 1.74f * 1.35f) + 0.25f;
        for (var z = 0; z < nz; z += Block)
        for (var y = 0; y < ny; y += Block)
        for (var x = 0; x < nx; x += Block)
        {
            var middle = field.Distance(low + ((new Vector3(x, y, z) + new Vector3((Block - 1) / 2f)) * h));
            var near = MathF.Abs(middle) <= reach;
            for (var k = z; k < Math.Min(nz, z + Block); k++)
            for (var j = y; j < Math.Min(ny, y + Block); j++)
            for (var i = x; i < Math.Min(nx, x + Block); i++)
                grid[Cell(i, j, k)] = near ? field.Distance(low + (new Vector3(i, j, k) * h)) : middle;
        }
    }

    /// <summary>The mean of a cell's edge crossings, in cells; null where the surface doesn't pass it.</summary>
    private Vector3? Crossing(int x, int y, int z)
    {
        Span<float> corner = stackalloc float[8];
        for (var i = 0; i < 8; i++)
            corner[i] = grid[Cell(x + (i & 1), y + (i >> 1 & 1), z + (i >> 2))];
        return new Vector3(x, y, z) + Polygoniser.Middle(corner);
    }

    private int[] Faces()
    {
        var triangles = new List<int>();
        void Quad(int a, int b, int c, int d, bool inside)
        {
            (a, b, c, d) = (index[a], index[b], index[c], index[d]);
            if (a < 0 || b < 0 || c < 0 || d < 0)
                return;
            triangles.AddRange(inside ? [a, b, c, a, c, d] : [a, c, b, a, d, c]);
        }
        int sy = nx,
            sz = nx * ny;
        for (var z = 1; z < nz - 1; z++)
        for (var y = 1; y < ny - 1; y++)
        for (var x = 1; x < nx - 1; x++)
        {
            var o = Cell(x, y, z);
            var inside = grid[o] < 0;
            if (inside != grid[o + 1] < 0)
                Quad(o - sy - sz, o - sz, o, o - sy, inside);
            if (inside != grid[o + sy] < 0)
                Quad(o - 1 - sz, o - 1, o, o - sz, inside);
            if (inside != grid[o + sz] < 0)
                Quad(o - 1 - sy, o - sy, o, o - 1, inside);
        }
        return [.. triangles];
    }

    private (Vector3 Place, Vector3 Normal) Settled(Vector3 p)
    {
        var normal = Vector3.UnitY;
        for (var round = 0; round < 2; round++)
        {
            var g = Gradient(p);
            var length = g.Length();
            if (length < 1e-4f)
                break;
            normal = g / length;
            if (round == 0)
                p -= normal * Math.Clamp(field.Distance(p) / length, -0.6f * h, 0.6f * h);
        }
        return (p, normal);
    }

    private Vector3 Gradient(Vector3 p)
    {
        var e = 0.2f * h;
        float Along(Vector3 d) => field.Distance(p + (d * e)) - field.Distance(p - (d * e));
        return new Vector3(Along(Vector3.UnitX), Along(Vector3.UnitY), Along(Vector3.UnitZ)) / (2 * e);
    }

    /// <summary>A closed tube of elliptic sections through stations.</summary>
    /// <param name="radius">Across and along <paramref name="broad"/> at a share of its length.</param>
    /// <param name="around">Places a station.</param>
    public static Mesh Tube(IReadOnlyList<Vector3> stations, Func<float, (float Thin, float Broad)> radius, Vector3 broad, int around)
    {
        var n = stations.Count;
        List<Vector3> places = [],
            normals = [];
        List<int> triangles = [];
        Vector3 Along(int i) => Vector3.Normalize(stations[Math.Min(n - 1, i + 1)] - stations[Math.Max(0, i - 1)]);
        for (var i = 0; i < n; i++)
        {
            var along = Along(i);
            var b = Vector3.Normalize(broad - (along * Vector3.Dot(broad, along)));
            var a = Vector3.Cross(b, along);
            var (thin, wide) = radius(i / (n - 1f));
            for (var k = 0; k < around; k++)
            {
                var (sin, cos) = MathF.SinCos(k * MathF.Tau / around);
                places.Add(stations[i] + (a * (cos * thin)) + (b * (sin * wide)));
                normals.Add(Vector3.Normalize((a * (cos / thin)) + (b * (sin / wide))));
            }
        }
        for (var i = 0; i < n - 1; i++)
        for (var k = 0; k < around; k++)
        {
            int p = (i * around) + k,
                q = (i * around) + ((k + 1) % around);
            triangles.AddRange([p, q, p + around, q, q + around, p + around]);
        }
        foreach (var (i, sign) in ((int, int)[])[(0, -1), (n - 1, 1)])
        {
            var (thin, wide) = radius(i / (n - 1f));
            var along = Along(i) * sign;
            var tip = places.Count;
            places.Add(stations[i] + (along * (MathF.Min(thin, wide) * 0.7f)));
            normals.Add(along);
            for (var k = 0; k < around; k++)
            {
                int p = (i * around) + k,
                    q = (i * around) + ((k + 1) % around);
                triangles.AddRange(sign < 0 ? [tip, q, p] : [tip, p, q]);
            }
        }
        return new([.. places], [.. normals], [.. places.Select(_ => 1f)], new short[places.Count], [.. triangles]);
    }

    /// <summary>A mesh of the left as the right's.</summary>
    public static Mesh Mirrored(Mesh m)
    {
        var t = (int[])m.Triangles.Clone();
        for (var i = 0; i < t.Length; i += 3)
            (t[i + 1], t[i + 2]) = (t[i + 2], t[i + 1]);
        return m with
        {
            Places = [.. m.Places.Select(p => Sides.Place(p, -1))],
            Normals = [.. m.Normals.Select(p => Sides.Place(p, -1))],
            Triangles = t,
        };
    }
}
