using System.Buffers;
using System.Collections.Concurrent;
using System.Numerics;
using System.Runtime.Intrinsics;

namespace MintHarbor.Core.Figure;

/// <summary>Surface nets over a field on an even grid. Blocks far from the surface are skipped at three sizes; every vertex takes one
/// Newton step along the field's gradient, which removes the steps of the grid, and takes its normal from the field.</summary>
internal sealed class Polygoniser
{
    private const int Block = 4;

    /// <summary>How far along the normal the field is asked whether something shades the place.</summary>
    private static readonly float[] Feelers = [0.8f, 1.8f, 3.6f];

    private readonly SurfaceField field;
    private readonly float h;
    private readonly Vector3 low;
    private readonly int nx,
        ny,
        nz,
        bx,
        by,
        bz;

    private readonly record struct Active(int X, int Y, int Z, int[] Near);

    private sealed class Piece
    {
        public required Vector3[] Places,
            Normals;
        public required float[] Openness;
        public required short[] Form;
        public required int[] Cells;
    }

    /// <param name="step">Size of a cell, units: 0.6 for a preview, 0.45 for a drawing.</param>
    public static Mesh Build(SurfaceField field, float step) => new Polygoniser(field, step).Build();

    private Polygoniser(SurfaceField field, float step)
    {
        (this.field, h) = (field, step);
        Vector3 lo = new(1e9f),
            hi = new(-1e9f);
        for (var i = 0; i < field.Count; i++)
        {
            ref readonly var p = ref field[i];
            if (p.Carve)
                continue;
            lo = Vector3.Min(lo, p.Ball - new Vector3(p.BallRadius));
            hi = Vector3.Max(hi, p.Ball + new Vector3(p.BallRadius));
        }
        (lo, hi) = (lo - new Vector3(2), hi + new Vector3(2));
        low = field.Flattened ? lo with { Y = MathF.Max(lo.Y, -1.5f * MathF.Max(h, 0.5f)) } : lo;
        int Blocks(float from, float to) => (int)MathF.Ceiling((to - from) / h / Block) + 1;
        (bx, by, bz) = (Blocks(low.X, hi.X), Blocks(low.Y, hi.Y), Blocks(low.Z, hi.Z));
        (nx, ny, nz) = (bx * Block, by * Block, bz * Block);
    }

    private Mesh Build()
    {
        var grid = ArrayPool<float>.Shared.Rent(nx * ny * nz);
        var index = ArrayPool<int>.Shared.Rent(nx * ny * nz);
        try
        {
            var blocks = Sample(grid);
            var pieces = new Piece[blocks.Length];
            Parallel.For(0, blocks.Length, i => pieces[i] = Vertices(grid, blocks[i]));
            return Stitch(grid, index, pieces);
        }
        finally
        {
            ArrayPool<float>.Shared.Return(grid);
            ArrayPool<int>.Shared.Return(index);
        }
    }

    private Vector3 At(float x, float y, float z) => low + (new Vector3(x, y, z) * h);

    /// <summary>Fills the grid; returns the blocks that the surface may pass, in order, each with the forms that matter in it.</summary>
    private Active[] Sample(float[] grid)
    {
        var active = new ConcurrentBag<Active>();
        int cx = (bx + 3) / 4,
            cy = (by + 3) / 4,
            cz = (bz + 3) / 4;
        var everything = field.All;
        Parallel.For(
            0,
            cx * cy * cz,
            () => (new int[field.Count], new int[field.Count], new int[field.Count]),
            (i, _, lists) =>
            {
                int x = i % cx * 4,
                    y = i / cx % cy * 4,
                    z = i / (cx * cy) * 4;
                Coarse(grid, x, y, z, 4, everything, lists.Item1, 1.8f, 1.25f, 0.4f, nearOuter =>
                {
                    for (var o = 0; o < 8; o++)
                    {
                        int ox = x + ((o & 1) * 2),
                            oy = y + ((o >> 1 & 1) * 2),
                            oz = z + ((o >> 2) * 2);
                        if (ox >= bx || oy >= by || oz >= bz)
                            continue;
                        Coarse(grid, ox, oy, oz, 2, nearOuter, lists.Item2, 1, 1.2f, 0.3f, nearInner =>
                        {
                            for (var k = 0; k < 8; k++)
                            {
                                int ix = ox + (k & 1),
                                    iy = oy + (k >> 1 & 1),
                                    iz = oz + (k >> 2);
                                if (ix < bx && iy < by && iz < bz)
                                    Fine(grid, ix, iy, iz, nearInner, lists.Item3, active);
                            }
                        });
                    }
                });
                return lists;
            },
            _ => { }
        );
        return [.. active.OrderBy(b => b.Z).ThenBy(b => b.Y).ThenBy(b => b.X)];
    }

    private delegate void Inside(ReadOnlySpan<int> near);

    private void Coarse(
        float[] grid,
        int x,
        int y,
        int z,
        int size,
        ReadOnlySpan<int> from,
        int[] list,
        float pad,
        float times,
        float plus,
        Inside inside
    )
    {
        var centre = At((x + (size / 2f)) * Block - 0.5f, (y + (size / 2f)) * Block - 0.5f, (z + (size / 2f)) * Block - 0.5f);
        var radius = (h * Block * size / 2 * 1.7321f) + (h * pad);
        var near = list.AsSpan(0, field.Cull(centre, radius, from, list));
        var d = near.Length == 0 ? float.MaxValue : field.Evaluate(centre, near, out _);
        if (MathF.Abs(d) <= (radius * times) + plus)
        {
            inside(near);
            return;
        }
        int x1 = Math.Min(nx, (x + size) * Block),
            y1 = Math.Min(ny, (y + size) * Block),
            z1 = Math.Min(nz, (z + size) * Block);
        for (var k = z * Block; k < z1; k++)
        for (var j = y * Block; j < y1; j++)
            grid.AsSpan((x * Block) + (nx * (j + (ny * k))), x1 - (x * Block)).Fill(MathF.Sign(d));
    }

    private void Fine(float[] grid, int x, int y, int z, ReadOnlySpan<int> from, int[] list, ConcurrentBag<Active> active)
    {
        var centre = At((x * Block) + 1.5f, (y * Block) + 1.5f, (z * Block) + 1.5f);
        var radius = h * 2.5f * 1.733f;
        var near = list.AsSpan(0, field.Cull(centre, radius, from, list));
        var d = near.Length == 0 ? 1f : field.Evaluate(centre, near, out _);
        var o = (x * Block) + (nx * ((y * Block) + (ny * z * Block)));
        if (near.Length == 0 || MathF.Abs(d) > (radius * 1.35f) + 0.2f)
        {
            for (var k = 0; k < Block; k++)
            for (var j = 0; j < Block; j++)
                grid.AsSpan(o + (nx * (j + (ny * k))), Block).Fill(MathF.Sign(d));
            return;
        }
        for (var k = 0; k < Block; k++)
        {
            for (var j = 0; j < Block; j += 2)
            {
                var p = At(x * Block, (y * Block) + j, (z * Block) + k);
                var xs = Vector256.Create(p.X, p.X + h, p.X + (2 * h), p.X + (3 * h), p.X, p.X + h, p.X + (2 * h), p.X + (3 * h));
                var ys = Vector256.Create(p.Y, p.Y, p.Y, p.Y, p.Y + h, p.Y + h, p.Y + h, p.Y + h);
                var r = field.Evaluate(xs, ys, Vector256.Create(p.Z), near, false, out _);
                var at = o + (nx * (j + (ny * k)));
                r.GetLower().CopyTo(grid, at);
                r.GetUpper().CopyTo(grid, at + nx);
            }
        }
        active.Add(new(x, y, z, near.ToArray()));
    }

    /// <summary>One vertex for every cell of a block that the surface passes: the mean of its edge crossings.</summary>
    private Piece Vertices(float[] grid, Active block)
    {
        var places = new List<Vector3>(40);
        var cells = new List<int>(40);
        Span<float> corner = stackalloc float[8];
        for (var z = block.Z * Block; z < Math.Min(nz - 1, (block.Z + 1) * Block); z++)
        {
            for (var y = block.Y * Block; y < Math.Min(ny - 1, (block.Y + 1) * Block); y++)
            {
                for (var x = block.X * Block; x < Math.Min(nx - 1, (block.X + 1) * Block); x++)
                {
                    var o = x + (nx * (y + (ny * z)));
                    var mask = 0;
                    for (var i = 0; i < 8; i++)
                    {
                        corner[i] = grid[o + (i & 1) + (nx * ((i >> 1 & 1) + (ny * (i >> 2))))];
                        if (corner[i] < 0)
                            mask |= 1 << i;
                    }
                    if (mask is 0 or 255)
                        continue;
                    var sum = Vector3.Zero;
                    var count = 0;
                    for (var i = 0; i < 8; i++)
                    {
                        for (var axis = 0; axis < 3; axis++)
                        {
                            var j = i ^ (1 << axis);
                            if (j < i || (mask >> i & 1) == (mask >> j & 1))
                                continue;
                            var p = new Vector3(i & 1, i >> 1 & 1, i >> 2);
                            p[axis] = corner[i] / (corner[i] - corner[j]);
                            sum += p;
                            count++;
                        }
                    }
                    places.Add(low + ((new Vector3(x, y, z) + (sum / count)) * h));
                    cells.Add(o);
                }
            }
        }
        return Settle([.. places], [.. cells], block.Near);
    }

    /// <summary>Moves vertices onto the surface, two at a time (four feelers of a tetrahedron each), and reads their normals.</summary>
    private Piece Settle(Vector3[] places, int[] cells, int[] near)
    {
        var n = places.Length;
        var piece = new Piece
        {
            Places = places,
            Normals = new Vector3[n],
            Openness = new float[n],
            Form = new short[n],
            Cells = cells,
        };
        var e = MathF.Max(0.06f, h * 0.15f);
        Span<Vector3> feel = stackalloc Vector3[8];
        Span<Vector3> p = stackalloc Vector3[2],
            normal = stackalloc Vector3[2];
        for (var i = 0; i < n; i += 2)
        {
            var two = Math.Min(2, n - i);
            (p[0], p[1]) = (places[i], places[i + two - 1]);
            for (var round = 0; round < 2; round++)
            {
                for (var q = 0; q < 2; q++)
                {
                    feel[q * 4] = p[q] + new Vector3(e, -e, -e);
                    feel[(q * 4) + 1] = p[q] + new Vector3(-e, -e, e);
                    feel[(q * 4) + 2] = p[q] + new Vector3(-e, e, -e);
                    feel[(q * 4) + 3] = p[q] + new Vector3(e, e, e);
                }
                var r = field.Evaluate(feel, near, round == 1, out var form);
                for (var q = 0; q < 2; q++)
                {
                    float a = r[q * 4],
                        b = r[(q * 4) + 1],
                        c = r[(q * 4) + 2],
                        d = r[(q * 4) + 3];
                    var g = new Vector3(a - b - c + d, -a - b + c + d, -a + b - c + d) / (4 * e);
                    var length = g.Length();
                    if (length > 1e-4f && round == 0)
                    {
                        var step = g * ((a + b + c + d) / 4 / (length * length));
                        p[q] -= step.Length() > h * 0.6f ? step * (h * 0.6f / step.Length()) : step;
                    }
                    normal[q] = length > 1e-4f ? g / length : Vector3.UnitY;
                    if (q < two)
                        piece.Form[i + q] = (short)form[(q * 4) + 3];
                }
            }
            for (var q = 0; q < 2; q++)
            for (var k = 0; k < 4; k++)
                feel[(q * 4) + k] = p[q] + (normal[q] * (k < 3 ? Feelers[k] : 0));
            var open = field.Evaluate(feel, near);
            for (var q = 0; q < two; q++)
            {
                (places[i + q], piece.Normals[i + q]) = (p[q], normal[q]);
                float shut = 0,
                    weight = 1;
                for (var k = 0; k < 3; k++, weight *= 0.6f)
                    shut += weight * MathF.Max(0, Feelers[k] - MathF.Min(open[(q * 4) + k], Feelers[k])) / Feelers[k];
                piece.Openness[i + q] = Math.Clamp(1 - (shut * 0.55f), 0.15f, 1);
            }
        }
        return piece;
    }

    /// <summary>A quad for every grid edge that crosses the surface, from the four cells round it.</summary>
    private Mesh Stitch(float[] grid, int[] index, Piece[] pieces)
    {
        var count = pieces.Sum(p => p.Places.Length);
        var mesh = new Mesh(new Vector3[count], new Vector3[count], new float[count], new short[count], []);
        // Stale numbers of an earlier use of the pooled array are told apart by the cell they claim.
        var owner = new int[count];
        var start = 0;
        foreach (var p in pieces)
        {
            p.Places.CopyTo(mesh.Places, start);
            p.Normals.CopyTo(mesh.Normals, start);
            p.Openness.CopyTo(mesh.Openness, start);
            p.Form.CopyTo(mesh.Form, start);
            for (var k = 0; k < p.Cells.Length; k++)
                (index[p.Cells[k]], owner[start + k]) = (start + k, p.Cells[k]);
            start += p.Places.Length;
        }
        int sy = nx,
            sz = nx * ny;
        var triangles = new List<int>(count * 6);
        int Vertex(int cell) => (uint)index[cell] < (uint)count && owner[index[cell]] == cell ? index[cell] : -1;
        void Quad(int a, int b, int c, int d, bool inside)
        {
            int i = Vertex(a),
                j = Vertex(b),
                k = Vertex(c),
                l = Vertex(d);
            if (i < 0 || j < 0 || k < 0 || l < 0)
                return;
            if (!inside)
                (j, l) = (l, j);
            if (Vector3.DistanceSquared(mesh.Places[i], mesh.Places[k]) <= Vector3.DistanceSquared(mesh.Places[j], mesh.Places[l]))
                triangles.AddRange([i, j, k, i, k, l]);
            else
                triangles.AddRange([i, j, l, j, k, l]);
        }
        foreach (var o in owner)
        {
            int x = o % nx,
                y = o / nx % ny,
                z = o / sz;
            var inside = grid[o] < 0;
            if (y > 0 && z > 0 && x < nx - 1 && inside != grid[o + 1] < 0)
                Quad(o, o - sy, o - sy - sz, o - sz, inside);
            if (x > 0 && z > 0 && y < ny - 1 && inside != grid[o + sy] < 0)
                Quad(o, o - sz, o - sz - 1, o - 1, inside);
            if (x > 0 && y > 0 && z < nz - 1 && inside != grid[o + sz] < 0)
                Quad(o, o - 1, o - 1 - sy, o - sy, inside);
        }
        return mesh with { Triangles = [.. triangles] };
    }
}
