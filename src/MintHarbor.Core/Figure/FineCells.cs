using System.Numerics;
using System.Runtime.Intrinsics;

namespace MintHarbor.Core.Figure;

/// <summary>A place counted in cells.</summary>
internal readonly record struct CellPlace(int X, int Y, int Z)
{
    public int this[int axis] =>
        axis switch
        {
            0 => X,
            1 => Y,
            _ => Z,
        };

    public CellPlace Moved(int axis, int by) =>
        axis switch
        {
            0 => this with { X = X + by },
            1 => this with { Y = Y + by },
            _ => this with { Z = Z + by },
        };

    public static CellPlace operator +(CellPlace a, CellPlace b) => new(a.X + b.X, a.Y + b.Y, a.Z + b.Z);

    public static CellPlace operator -(CellPlace a, CellPlace b) => new(a.X - b.X, a.Y - b.Y, a.Z - b.Z);

    public static CellPlace operator *(CellPlace a, int by) => new(a.X * by, a.Y * by, a.Z * by);

    public Vector3 ToVector() => new(X, Y, Z);
}

/// <summary>A block of cells of half the size: the field at its 9³ corners and the vertex of each of its 8³ cells.</summary>
/// <param name="first">Its low corner, counted in small cells.</param>
/// <param name="near">The forms that matter in it.</param>
internal sealed class FineBlock(CellPlace first, int[] near)
{
    public const int Cells = Polygoniser.Block * 2;
    private const int Side = Cells + 1;

    public CellPlace First => first;
    public int[] Near => near;
    private readonly float[] corners = new float[Side * Side * Side];

    /// <summary>The mesh's vertex in each cell, −1 where the surface doesn't pass.</summary>
    public int[] Vertices { get; } = new int[Cells * Cells * Cells];

    public ref float Corner(CellPlace at) => ref corners[at.X - first.X + (Side * (at.Y - first.Y + (Side * (at.Z - first.Z))))];

    public int Cell(CellPlace at) => at.X - first.X + (Cells * (at.Y - first.Y + (Cells * (at.Z - first.Z))));

    public CellPlace PlaceOf(int cell) => first + new CellPlace(cell % Cells, cell / Cells % Cells, cell / (Cells * Cells));

    public IEnumerable<CellPlace> CornerPlaces => Inside(Side);

    public IEnumerable<CellPlace> CellPlaces => Inside(Cells);

    private IEnumerable<CellPlace> Inside(int side)
    {
        for (var z = 0; z < side; z++)
        for (var y = 0; y < side; y++)
        for (var x = 0; x < side; x++)
            yield return first + new CellPlace(x, y, z);
    }
}

/// <summary>The blocks of a grid whose cells are half as large, where small forms lie. What lies on the border of several is sampled by
/// the first of them only: two samples of one place could differ in sign, and the surface would gape.</summary>
internal sealed class FineCells(int bx, int by, int bz)
{
    private readonly FineBlock?[] blocks = new FineBlock?[bx * by * bz];
    private readonly List<FineBlock> all = [];

    public IReadOnlyList<FineBlock> All => all;

    public void Add(FineBlock block)
    {
        var (x, y, z) = (block.First.X / FineBlock.Cells, block.First.Y / FineBlock.Cells, block.First.Z / FineBlock.Cells);
        blocks[x + (bx * (y + (by * z)))] = block;
        all.Add(block);
    }

    /// <summary>A block by its number along each axis; null where the cells are large.</summary>
    public FineBlock? Block(int x, int y, int z) =>
        (uint)x < (uint)bx && (uint)y < (uint)by && (uint)z < (uint)bz ? blocks[x + (bx * (y + (by * z)))] : null;

    /// <summary>Whether a block of large cells has small ones beside it.</summary>
    public bool Beside(int x, int y, int z) => all.Count > 0 && First(new(x - 1, y - 1, z - 1), new(x + 1, y + 1, z + 1)) is not null;

    /// <summary>The block in which a cell lies, counted in small cells.</summary>
    public FineBlock? OfCell(CellPlace at) => Block(at.X >> Shift, at.Y >> Shift, at.Z >> Shift);

    /// <summary>The first of the blocks that share a corner.</summary>
    public FineBlock? OfCorner(CellPlace at) => First(Before(at, -1), After(at));

    /// <summary>The first of the blocks that share the small edge from a corner along an axis.</summary>
    public FineBlock? OfEdge(CellPlace at, int axis) => all.Count == 0 ? null : First(Before(at, axis), After(at));

    private const int Shift = 3;

    private static CellPlace After(CellPlace at) => new(at.X >> Shift, at.Y >> Shift, at.Z >> Shift);

    private static CellPlace Before(CellPlace at, int along) =>
        new((at.X - (along == 0 ? 0 : 1)) >> Shift, (at.Y - (along == 1 ? 0 : 1)) >> Shift, (at.Z - (along == 2 ? 0 : 1)) >> Shift);

    private FineBlock? First(CellPlace from, CellPlace to)
    {
        for (var z = from.Z; z <= to.Z; z++)
        for (var y = from.Y; y <= to.Y; y++)
        for (var x = from.X; x <= to.X; x++)
        {
            if (Block(x, y, z) is { } block)
                return block;
        }
        return null;
    }

    /// <summary>Samples every corner once.</summary>
    /// <param name="large">The field at a corner of the large cells, already known.</param>
    /// <param name="place">Where a corner lies in the room.</param>
    public void Sample(SurfaceField field, Func<CellPlace, float> large, Func<CellPlace, Vector3> place)
    {
        Parallel.ForEach(all, block => Sample(block, field, large, place));
        Parallel.ForEach(all, TakeOver);
    }

    private void Sample(FineBlock block, SurfaceField field, Func<CellPlace, float> large, Func<CellPlace, Vector3> place)
    {
        Span<Vector3> places = stackalloc Vector3[Vector256<float>.Count];
        var asked = new List<CellPlace>(Vector256<float>.Count);
        foreach (var at in block.CornerPlaces)
        {
            if (IsLarge(at))
                block.Corner(at) = large(at);
            else if (OfCorner(at) == block)
            {
                places[asked.Count] = place(at);
                asked.Add(at);
                if (asked.Count == places.Length)
                    Ask(block, field, places, asked);
            }
        }
        if (asked.Count == 0)
            return;
        places[asked.Count..].Fill(places[0]);
        Ask(block, field, places, asked);
    }

    private static void Ask(FineBlock block, SurfaceField field, ReadOnlySpan<Vector3> places, List<CellPlace> asked)
    {
        var distances = field.Evaluate(places, block.Near);
        for (var i = 0; i < asked.Count; i++)
            block.Corner(asked[i]) = distances[i];
        asked.Clear();
    }

    private void TakeOver(FineBlock block)
    {
        foreach (var at in block.CornerPlaces)
        {
            if (!IsLarge(at) && OfCorner(at) is { } first && first != block)
                block.Corner(at) = first.Corner(at);
        }
    }

    /// <summary>Whether a corner is one of the large cells' too.</summary>
    private static bool IsLarge(CellPlace at) => ((at.X | at.Y | at.Z) & 1) == 0;
}
