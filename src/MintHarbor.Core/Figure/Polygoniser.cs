using System.Buffers;
using System.Collections.Concurrent;
using System.Numerics;
using System.Runtime.Intrinsics;

namespace MintHarbor.Core.Figure;

/// <summary>Surface nets over a field on an even grid. Blocks far from the surface are skipped at three sizes; every vertex takes one
/// Newton step along the field's gradient, which removes the steps of the grid, and takes its normal from the field. Blocks with
/// small forms (fingers, toes, features of the face) have cells of half the size; where the sizes meet, every edge that no smaller one
/// divides makes its face from the cells round it, three or four, so that the surface stays closed.</summary>
internal sealed class Polygoniser
{
    public const int Block = 4;

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

    private readonly FineCells fine;

    private readonly record struct Active(int X, int Y, int Z, int[] Near, bool Fine);

    private sealed class Piece
    {
        public required Vector3[] Places,
            Normals;
        public required float[] Openness;
        public required short[] Form;
        public required int[] Cells;

        /// <summary>The block that the cells are numbered in; null where they are the grid's own.</summary>
        public FineBlock? Fine;
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
        fine = new(bx, by, bz);
    }

    private Mesh Build()
    {
        var grid = ArrayPool<float>.Shared.Rent(nx * ny * nz);
        var index = ArrayPool<int>.Shared.Rent(nx * ny * nz);
        try
        {
            var blocks = Sample(grid);
            foreach (var b in blocks.Where(b => b.Fine))
                fine.Add(new(new CellPlace(b.X, b.Y, b.Z) * FineBlock.Cells, b.Near));
            fine.Sample(field, at => Large(grid, at), Fine);
            var pieces = new Piece[blocks.Length];
            Parallel.For(0, blocks.Length, i =>
            {
                var b = blocks[i];
                pieces[i] = fine.Block(b.X, b.Y, b.Z) is { } small ? Vertices(small) : Vertices(grid, b);
            });
            return Stitch(grid, index, pieces);
        }
        finally
        {
            ArrayPool<float>.Shared.Return(grid);
            ArrayPool<int>.Shared.Return(index);
        }
    }

    private Vector3 At(float x, float y, float z) => low + (new Vector3(x, y, z) * h);

    private Vector3 Fine(CellPlace at) => low + (at.ToVector() * (h / 2));

    /// <summary>The field at a corner of the large cells, counted in small ones; outside beyond the grid.</summary>
    private float Large(float[] grid, CellPlace at)
    {
        var (x, y, z) = (at.X / 2, at.Y / 2, at.Z / 2);
        return x < nx && y < ny && z < nz ? grid[x + (nx * (y + (ny * z)))] : 1;
    }

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
                                    Sample(grid, ix, iy, iz, nearInner, lists.Item3, active);
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

    private void Sample(float[] grid, int x, int y, int z, ReadOnlySpan<int> from, int[] list, ConcurrentBag<Active> active)
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
        active.Add(new(x, y, z, near.ToArray(), h < StudioFigure.Coarse && field.HasDetail(centre, radius, near)));
    }

    /// <summary>One vertex for every cell of a block that the surface passes: the mean of its edge crossings.</summary>
    private Piece Vertices(float[] grid, Active block)
    {
        var places = new List<Vector3>(40);
        var cells = new List<int>(40);
        Span<float> corner = stackalloc float[8];
        var beside = fine.Beside(block.X, block.Y, block.Z);
        for (var z = block.Z * Block; z < Math.Min(nz - 1, (block.Z + 1) * Block); z++)
        {
            for (var y = block.Y * Block; y < Math.Min(ny - 1, (block.Y + 1) * Block); y++)
            {
                for (var x = block.X * Block; x < Math.Min(nx - 1, (block.X + 1) * Block); x++)
                {
                    var o = x + (nx * (y + (ny * z)));
                    for (var i = 0; i < 8; i++)
                        corner[i] = grid[o + (i & 1) + (nx * ((i >> 1 & 1) + (ny * (i >> 2))))];
                    if ((beside ? MiddleBeside(new(x, y, z), corner) : Middle(corner)) is not { } middle)
                        continue;
                    places.Add(low + ((new Vector3(x, y, z) + middle) * h));
                    cells.Add(o);
                }
            }
        }
        return Settle([.. places], [.. cells], block.Near, h);
    }

    /// <summary>The same in a block of small cells.</summary>
    private Piece Vertices(FineBlock block)
    {
        var places = new List<Vector3>(160);
        var cells = new List<int>(160);
        Span<float> corner = stackalloc float[8];
        foreach (var cell in block.CellPlaces)
        {
            for (var i = 0; i < 8; i++)
                corner[i] = block.Corner(cell + new CellPlace(i & 1, i >> 1 & 1, i >> 2));
            if (Middle(corner) is not { } middle)
                continue;
            places.Add(low + ((cell.ToVector() + middle) * (h / 2)));
            cells.Add(block.Cell(cell));
        }
        var piece = Settle([.. places], [.. cells], block.Near, h / 2);
        piece.Fine = block;
        return piece;
    }

    /// <summary>Mean of a cell's edge crossings, in cells from its low corner; null where the surface doesn't pass.</summary>
    internal static Vector3? Middle(ReadOnlySpan<float> corner)
    {
        var mask = 0;
        for (var i = 0; i < 8; i++)
        {
            if (corner[i] < 0)
                mask |= 1 << i;
        }
        if (mask is 0 or 255)
            return null;
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
        return sum / count;
    }

    /// <summary>The same of a large cell beside small ones: its edges and sides may be cut by theirs.</summary>
    private Vector3? MiddleBeside(CellPlace cell, ReadOnlySpan<float> corner)
    {
        var sum = Vector3.Zero;
        var count = 0;
        void Cross(Vector3 from, int axis, float length, float a, float b)
        {
            if (a < 0 == b < 0)
                return;
            from[axis] += length * a / (a - b);
            sum += from;
            count++;
        }
        for (var axis = 0; axis < 3; axis++)
        {
            int a = (axis + 1) % 3,
                b = (axis + 2) % 3;
            for (var k = 0; k < 9; k++)
            {
                var across = default(CellPlace).Moved(a, k % 3).Moved(b, k / 3);
                var edge = (cell * 2) + across;
                if (fine.OfEdge(edge, axis) is { } small)
                {
                    for (var half = 0; half < 2; half++, edge = edge.Moved(axis, 1))
                    {
                        var from = (edge - (cell * 2)).ToVector() / 2;
                        Cross(from, axis, 0.5f, small.Corner(edge), small.Corner(edge.Moved(axis, 1)));
                    }
                }
                else if (across is { X: not 1, Y: not 1, Z: not 1 })
                {
                    var from = (across.X / 2) | across.Y & 2 | (across.Z & 2) << 1;
                    Cross(across.ToVector() / 2, axis, 1, corner[from], corner[from | (1 << axis)]);
                }
            }
        }
        return count == 0 ? null : sum / count;
    }

    /// <summary>Moves vertices onto the surface, two at a time (four feelers of a tetrahedron each), and reads their normals.</summary>
    /// <param name="cell">Size of the cells, units: how far a step may lead.</param>
    private Piece Settle(Vector3[] places, int[] cells, int[] near, float cell)
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
        var e = MathF.Max(0.05f, cell * 0.15f);
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
                        p[q] -= step.Length() > cell * 0.6f ? step * (cell * 0.6f / step.Length()) : step;
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

    /// <summary>The cells round an edge, as steps along the two other axes, in the order of a face that looks along the edge.</summary>
    private static readonly (int A, int B)[] Round = [(0, 0), (-1, 0), (-1, -1), (0, -1)];

    /// <summary>A face for every edge that crosses the surface, from the cells round it.</summary>
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
            p.Fine?.Vertices.AsSpan().Fill(-1);
            for (var k = 0; k < p.Cells.Length; k++)
            {
                if (p.Fine is { } small)
                    (small.Vertices[p.Cells[k]], owner[start + k]) = (start + k, -1);
                else
                    (index[p.Cells[k]], owner[start + k]) = (start + k, p.Cells[k]);
            }
            start += p.Places.Length;
        }
        int Vertex(int cell) => (uint)index[cell] < (uint)count && owner[index[cell]] == cell ? index[cell] : -1;
        var faces = new Faces(mesh.Places);
        foreach (var o in owner.Where(o => o >= 0))
            StitchLarge(grid, o, Vertex, faces);
        foreach (var p in pieces.Where(p => p.Fine is not null))
        {
            foreach (var cell in p.Cells)
                StitchSmall(p.Fine!, p.Fine!.PlaceOf(cell), Vertex, faces);
        }
        return mesh with { Triangles = faces.Triangles };
    }

    /// <summary>The faces over the three edges at a large cell's low corner; one beside small cells is theirs.</summary>
    private void StitchLarge(float[] grid, int o, Func<int, int> vertex, Faces faces)
    {
        var cell = new CellPlace(o % nx, o / nx % ny, o / (nx * ny));
        var (size, step) = (new CellPlace(nx, ny, nz), new CellPlace(1, nx, nx * ny));
        var inside = grid[o] < 0;
        for (var axis = 0; axis < 3; axis++)
        {
            int a = (axis + 1) % 3,
                b = (axis + 2) % 3;
            if (cell[a] == 0 || cell[b] == 0 || cell[axis] >= size[axis] - 1 || inside == grid[o + step[axis]] < 0)
                continue;
            if (fine.OfEdge(cell * 2, axis) is null)
                faces.Add(vertex(o), vertex(o - step[a]), vertex(o - step[a] - step[b]), vertex(o - step[b]), inside);
        }
    }

    /// <summary>The faces over a small cell's twelve edges; an edge that small cells share is the first one's, as they go round it.</summary>
    private void StitchSmall(FineBlock block, CellPlace cell, Func<int, int> large, Faces faces)
    {
        Span<int> round = stackalloc int[4];
        for (var axis = 0; axis < 3; axis++)
        {
            int a = (axis + 1) % 3,
                b = (axis + 2) % 3;
            for (var mine = 0; mine < 4; mine++)
            {
                var edge = cell.Moved(a, -Round[mine].A).Moved(b, -Round[mine].B);
                var inside = block.Corner(edge) < 0;
                if (inside == block.Corner(edge.Moved(axis, 1)) < 0)
                    continue;
                var first = 4;
                for (var k = 3; k >= 0; k--)
                {
                    var at = edge.Moved(a, Round[k].A).Moved(b, Round[k].B);
                    var small = fine.OfCell(at);
                    round[k] = small is null ? LargeVertex(at, large) : small.Vertices[small.Cell(at)];
                    if (small is not null)
                        first = k;
                }
                if (first == mine)
                    faces.Add(round[0], round[1], round[2], round[3], inside);
            }
        }
    }

    /// <summary>The vertex of the large cell in which a small one would lie.</summary>
    private int LargeVertex(CellPlace at, Func<int, int> large) =>
        at.X < 0 || at.Y < 0 || at.Z < 0 ? -1 : large((at.X / 2) + (nx * ((at.Y / 2) + (ny * (at.Z / 2)))));

    /// <summary>The triangles of a mesh, a face at a time.</summary>
    private sealed class Faces(Vector3[] places)
    {
        private readonly List<int> triangles = new(places.Length * 6);

        public int[] Triangles => [.. triangles];

        /// <summary>Adds the face round an edge; a large cell beside small ones may stand at two of its corners.</summary>
        /// <param name="inside">Whether the edge's low end is inside: says which way the face looks.</param>
        public void Add(int i, int j, int k, int l, bool inside)
        {
            if (i < 0 || j < 0 || k < 0 || l < 0)
                return;
            if (!inside)
                (j, l) = (l, j);
            if (Vector3.DistanceSquared(places[i], places[k]) <= Vector3.DistanceSquared(places[j], places[l]))
            {
                Add(i, j, k);
                Add(i, k, l);
            }
            else
            {
                Add(i, j, l);
                Add(j, k, l);
            }
        }

        private void Add(int a, int b, int c)
        {
            if (a == b || b == c || c == a)
                return;
            triangles.Add(a);
            triangles.Add(b);
            triangles.Add(c);
        }
    }
}
