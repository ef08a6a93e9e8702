using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>Reads the block of squares through a map that may be a little off: a lens bends, and only four marks may be seen.</summary>
internal static class CodeReading
{
    private static readonly IReadOnlyList<Vec2> Tries =
    [
        new(0, 0),
        .. from far in (double[])[0.6, 1.2] from d in (Vec2[])[new(1, 0), new(-1, 0), new(0, 1), new(0, -1)] select d * far,
        .. from d in (Vec2[])[new(1, 1), new(-1, 1), new(1, -1), new(-1, -1)] select d * 0.8,
    ];

    public static (SheetCode Code, int Mended)? Of(LinearPicture photo, Homography map)
    {
        foreach (var off in Tries)
            if (Squares(photo, map, off) is { } bytes && SheetCode.Decode(bytes) is { } read)
                return read;
        return null;
    }

    private static byte[]? Squares(LinearPicture photo, Homography map, Vec2 off)
    {
        var paper = Paper(photo, map, off);
        if (paper.Max() <= 0.01)
            return null;
        var bytes = new byte[SheetCode.Bytes];
        for (var bit = 0; bit < SheetCode.Bytes * 8; bit++)
        {
            var (column, row) = SheetCode.SquareOf(bit);
            double white = 0;
            for (var c = Math.Max(0, column - 2); c <= Math.Min(SheetCode.Columns - 1, column + 2); c++)
                white = Math.Max(white, paper[c]);
            if (Mean(photo, map, Middle(column, row) + off) < 0.5 * white)
                bytes[bit / 8] |= (byte)(0x80 >> (bit % 8));
        }
        return bytes;
    }

    private static Vec2 Middle(int column, double row) =>
        new(SheetLayout.CodeLeft + ((column + 0.5) * SheetLayout.Pitch), SheetLayout.CodeTop + ((row + 0.5) * SheetLayout.Pitch));

    /// <summary>The clear strips above and below each column.</summary>
    private static double[] Paper(LinearPicture photo, Homography map, Vec2 off) =>
        [
            .. Enumerable
                .Range(0, SheetCode.Columns)
                .Select(c =>
                    (double)
                        Math.Max(
                            photo.At(map.Map(new Vec2(Middle(c, 0).X, -0.9) + off)),
                            photo.At(
                                map.Map(new Vec2(Middle(c, 0).X, SheetLayout.CodeTop + (SheetCode.Rows * SheetLayout.Pitch) + 0.6) + off)
                            )
                        )
                ),
        ];

    private static double Mean(LinearPicture photo, Homography map, Vec2 at)
    {
        double sum = 0;
        for (var y = -1; y <= 1; y++)
        for (var x = -1; x <= 1; x++)
            sum += photo.At(map.Map(at + new Vec2(0.5 * x, 0.5 * y)));
        return sum / 9;
    }
}
