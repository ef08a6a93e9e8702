using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Heads;

/// <summary>Turns a head's field into a closed mesh: surface nets on a grid that is finest at eyes and mouth, the right half the
/// mirror of the left. Places of the left half come first, those of the right after them in the same order.</summary>
internal static class HeadMesher
{
    private const int Block = 6;

    /// <param name="coarser">Factor of every step: 1 for drawings.</param>
    public static Mesh Build(HeadField field, GridRow grid, float coarser)
    {
        float[] xs = Axis(grid.X, coarser),
            ys = Axis(grid.Y, coarser),
            zs = Axis(grid.Z, coarser);
        var net = new Net(xs, ys, zs);
        net.Sample(field);
        var raw = net.Cells();
        var n = raw.Count;
        Vector3[] places = new Vector3[2 * n],
            normals = new Vector3[2 * n];
        var open = new float[2 * n];
        Parallel.ForEach(Enumerable.Range(0, n).GroupBy(i => Box(raw[i])), box =>
        {
            var middle = (new Vector3(box.Key.X, box.Key.Y, box.Key.Z) + (Vector3.One / 2)) * Side;
            var half = Side * 0.87f;
            HeadField near = field.Near(middle, half + 0.01f),
                about = field.Near(middle, half + 0.12f);
            foreach (var i in box)
            {
                var (p, normal) = OnSurface(near, raw[i]);
                (places[i], normals[i]) = (p, normal);
                (places[i + n], normals[i + n]) = (p with { X = -p.X }, normal with { X = -normal.X });
                open[i] = open[i + n] = Openness(about, p, normal);
            }
        });
        return new(places, normals, open, new short[2 * n], net.Faces(places, n));
    }

    /// <summary>Places that lie together are asked of the same few forms.</summary>
    private const float Side = 0.05f;

    private static (int X, int Y, int Z) Box(Vector3 p) =>
        ((int)MathF.Floor(p.X / Side), (int)MathF.Floor(p.Y / Side), (int)MathF.Floor(p.Z / Side));

    /// <summary>Edge, step, edge … edge as grid lines.</summary>
    private static float[] Axis(float[] row, float coarser)
    {
        var lines = new List<float> { row[0] };
        for (var i = 0; i + 2 < row.Length; i += 2)
        {
            var (from, to) = (row[i], row[i + 2]);
            var n = (int)MathF.Ceiling(((to - from) / (row[i + 1] * coarser)) - 1e-3f);
            for (var k = 1; k <= n; k++)
                lines.Add(from + ((to - from) * k / n));
        }
        return [.. lines];
    }

    /// <summary>One Newton step, undone where the normal turns by more than 30°: lids would fray.</summary>
    private static (Vector3 Place, Vector3 Normal) OnSurface(HeadField field, Vector3 p)
    {
        var g = field.Gradient(p, 0.002f);
        var step = -g * (field.At(p) / MathF.Max(0.3f, g.LengthSquared()));
        if (step.Length() > 0.004f)
            step *= 0.004f / step.Length();
        var moved = p + step;
        moved.X = MathF.Max(0, moved.X);
        Vector3 before = Vector3.Normalize(g),
            after = Vector3.Normalize(field.Gradient(moved));
        return Vector3.Dot(before, after) < 0.86f ? (p, before) : (moved, after);
    }

    /// <summary>How open a place is to the light: what of four distances along its normal is really free.</summary>
    private static float Openness(HeadField field, Vector3 p, Vector3 normal)
    {
        float closed = 0,
            weight = 1;
        foreach (var h in (ReadOnlySpan<float>)[0.012f, 0.03f, 0.06f, 0.11f])
        {
            closed += weight * MathF.Max(0, h - field.At(p + (normal * h))) / h;
            weight *= 0.72f;
        }
        return Math.Clamp(1 - (closed * 0.48f), 0, 1);
    }

    private sealed class Net(float[] xs, float[] ys, float[] zs)
    {
        private readonly int nx = xs.Length,
            ny = ys.Length,
            nz = zs.Length,
            down = xs.Length,
            deep = xs.Length * ys.Length;
        private readonly float[] value = new float[xs.Length * ys.Length * zs.Length];
        private int[] cell = [];

        private Vector3 Place(int x, int y, int z) => new(xs[x], ys[y], zs[z]);

        /// <summary>Only blocks that the surface can reach are asked at every corner; the others stay not a number.</summary>
        public void Sample(HeadField field)
        {
            Array.Fill(value, float.NaN);
            int bx = (nx + Block - 1) / Block,
                by = (ny + Block - 1) / Block,
                bz = (nz + Block - 1) / Block;
            var live = new bool[bx * by * bz];
            Parallel.For(0, bx * by * bz, b =>
            {
                int x = b % bx * Block,
                    y = b / bx % by * Block,
                    z = b / (bx * by) * Block;
                Vector3 low = Place(x, y, z),
                    high = Place(Math.Min(nx - 1, x + Block), Math.Min(ny - 1, y + Block), Math.Min(nz - 1, z + Block));
                live[b] = MathF.Abs(field.At((low + high) / 2)) < (Vector3.Distance(low, high) * 0.9f) + 0.012f;
            });
            Parallel.For(0, bx * by * bz, b => Fill(b % bx * Block, b / bx % by * Block, b / (bx * by) * Block));

            void Fill(int x, int y, int z)
            {
                int right = Math.Min(nx, x + Block),
                    top = Math.Min(ny, y + Block),
                    front = Math.Min(nz, z + Block);
                Vector3 low = Place(x, y, z),
                    high = Place(right - 1, top - 1, front - 1);
                HeadField? near = null;
                for (var w = z; w < front; w++)
                for (var v = y; v < top; v++)
                for (var u = x; u < right; u++)
                    if (Live(u, v, w))
                        value[u + (down * v) + (deep * w)] = (near ??= field.Near((low + high) / 2, Vector3.Distance(low, high) / 2)).At(
                            Place(u, v, w)
                        );
            }

            // A corner on the border of blocks belongs to each of them.
            bool Live(int x, int y, int z)
            {
                for (var k = z % Block == 0 ? -1 : 0; k <= 0; k++)
                for (var j = y % Block == 0 ? -1 : 0; j <= 0; j++)
                for (var i = x % Block == 0 ? -1 : 0; i <= 0; i++)
                {
                    int u = (x / Block) + i,
                        v = (y / Block) + j,
                        w = (z / Block) + k;
                    if (u >= 0 && v >= 0 && w >= 0 && live[u + (bx * (v + (by * w)))])
                        return true;
                }
                return false;
            }
        }

        /// <summary>One place in every cell that the surface crosses: the mean of its crossings.</summary>
        public List<Vector3> Cells()
        {
            cell = new int[value.Length];
            Array.Fill(cell, -1);
            var places = new List<Vector3>();
            Span<float> corner = stackalloc float[8];
            for (var z = 0; z + 1 < nz; z++)
            {
                for (var y = 0; y + 1 < ny; y++)
                {
                    for (var x = 0; x + 1 < nx; x++)
                    {
                        var id = x + (down * y) + (deep * z);
                        if (float.IsNaN(value[id]))
                            continue;
                        var inside = 0;
                        var known = true;
                        for (var q = 0; q < 8 && known; q++)
                        {
                            corner[q] = value[id + (q & 1) + (((q >> 1) & 1) * down) + ((q >> 2) * deep)];
                            known = !float.IsNaN(corner[q]);
                            if (corner[q] < 0)
                                inside++;
                        }
                        if (!known || inside is 0 or 8)
                            continue;
                        var sum = Vector3.Zero;
                        var count = 0;
                        for (var a = 0; a < 8; a++)
                        {
                            for (var bit = 1; bit < 8; bit <<= 1)
                            {
                                var b = a | bit;
                                if (b == a || corner[a] < 0 == corner[b] < 0)
                                    continue;
                                sum += Vector3.Lerp(Corner(x, y, z, a), Corner(x, y, z, b), corner[a] / (corner[a] - corner[b]));
                                count++;
                            }
                        }
                        cell[id] = places.Count;
                        places.Add(sum / count);
                    }
                }
            }
            return places;
        }

        private Vector3 Corner(int x, int y, int z, int q) => Place(x + (q & 1), y + ((q >> 1) & 1), z + (q >> 2));

        /// <summary>Two triangles for every grid edge that the surface crosses, and their mirror; over the middle, cells join their own mirror.</summary>
        public int[] Faces(Vector3[] places, int half)
        {
            var triangles = new List<int>(half * 13);
            int Mirror(int v) => v < half ? v + half : v - half;
            void Quad(int a, int b, int c, int d, bool flip)
            {
                if (flip)
                    (b, d) = (d, b);
                triangles.AddRange(
                    Vector3.DistanceSquared(places[a], places[c]) <= Vector3.DistanceSquared(places[b], places[d])
                        ? [a, b, c, a, c, d]
                        : [a, b, d, b, c, d]
                );
            }
            void Both(int a, int b, int c, int d, bool flip)
            {
                if (a < 0 || b < 0 || c < 0 || d < 0)
                    return;
                Quad(a, b, c, d, flip);
                Quad(Mirror(a), Mirror(b), Mirror(c), Mirror(d), !flip);
            }
            bool Crossed(int id, int next) => !float.IsNaN(value[next]) && value[id] < 0 != value[next] < 0;
            for (var z = 0; z < nz; z++)
            {
                for (var y = 0; y < ny; y++)
                {
                    for (var x = 0; x < nx; x++)
                    {
                        var id = x + (down * y) + (deep * z);
                        if (float.IsNaN(value[id]))
                            continue;
                        var outward = value[id] >= 0;
                        if (x + 1 < nx && y > 0 && z > 0 && Crossed(id, id + 1))
                            Both(cell[id - down - deep], cell[id - deep], cell[id], cell[id - down], outward);
                        if (y + 1 < ny && z > 0 && Crossed(id, id + down))
                        {
                            if (x > 0)
                                Both(cell[id - 1 - deep], cell[id - 1], cell[id], cell[id - deep], outward);
                            else if (cell[id - deep] >= 0 && cell[id] >= 0)
                                Quad(Mirror(cell[id - deep]), Mirror(cell[id]), cell[id], cell[id - deep], outward);
                        }
                        if (z + 1 < nz && y > 0 && Crossed(id, id + deep))
                        {
                            if (x > 0)
                                Both(cell[id - 1 - down], cell[id - down], cell[id], cell[id - 1], outward);
                            else if (cell[id - down] >= 0 && cell[id] >= 0)
                                Quad(Mirror(cell[id - down]), cell[id - down], cell[id], Mirror(cell[id]), outward);
                        }
                    }
                }
            }
            return [.. triangles];
        }
    }
}
