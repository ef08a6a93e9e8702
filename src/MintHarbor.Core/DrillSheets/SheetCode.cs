using System.Globalization;
using System.Text.Json.Serialization;
using ZXing.Common.ReedSolomon;

namespace MintHarbor.Core.DrillSheets;

/// <summary>What a drill sheet says of itself in its block of squares: its number, and whether it is a Letter page. Who answers it, and what is
/// asked, stands in the studio's records under that number; no name is on paper.</summary>
/// <param name="Number">0 to 2⁴⁰ − 1.</param>
public readonly record struct SheetCode(long Number, bool Letter)
{
    /// <summary>Of how sheets are laid out; another layout takes another.</summary>
    public const int Version = 1;
    public const long Most = (1L << 40) - 1;

    /// <summary>The number as it stands under the block, to be typed.</summary>
    [JsonIgnore]
    public string Digits => Number.ToString("D8", CultureInfo.InvariantCulture);

    /// <summary>The block: bytes two columns wide, one after the other, read in rows with the high bit first.</summary>
    public const int Columns = 28,
        Rows = 4,
        Bytes = 14;

    private const int Told = 6,
        Checked = 8,
        Parity = Bytes - Checked;

    /// <summary>The field of 256 elements by x⁸ + x⁴ + x³ + x² + 1 with α⁰ as the first root, as ISO/IEC 18004 has it (from memory).</summary>
    private static readonly GenericGF Field = GenericGF.QR_CODE_FIELD_256;

    /// <summary>Fourteen bytes: version and page, five of the number, CRC-16, six by which three spoilt bytes are mended.</summary>
    /// <exception cref="ArgumentOutOfRangeException">A number that five bytes don't hold.</exception>
    public byte[] Encode()
    {
        ArgumentOutOfRangeException.ThrowIfNegative(Number);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(Number, Most);
        var words = new int[Bytes];
        words[0] = (Version << 4) | (Letter ? 1 : 0);
        for (var i = 0; i < 5; i++)
            words[1 + i] = (int)((Number >> (8 * (4 - i))) & 0xFF);
        var crc = Crc(words.Take(Told));
        (words[Told], words[Told + 1]) = (crc >> 8, crc & 0xFF);
        new ReedSolomonEncoder(Field).encode(words, Parity);
        return [.. words.Select(w => (byte)w)];
    }

    /// <summary>The code of fourteen bytes as they were read, and how many of them had to be mended; null where more are spoilt than can be, or
    /// what comes out is no sheet of this version.</summary>
    public static (SheetCode Code, int Mended)? Decode(IReadOnlyList<byte> read)
    {
        if (read.Count != Bytes)
            return null;
        int[] words = [.. read.Select(b => (int)b)];
        if (!new ReedSolomonDecoder(Field).decode(words, Parity))
            return null;
        var crc = Crc(words.Take(Told));
        if (words[Told] != crc >> 8 || words[Told + 1] != (crc & 0xFF) || words[0] >> 4 != Version || (words[0] & 0b1110) != 0)
            return null;
        var number = words.Skip(1).Take(5).Aggregate(0L, (n, w) => (n << 8) | (uint)w);
        return (new(number, (words[0] & 1) == 1), words.Where((w, i) => w != read[i]).Count());
    }

    /// <summary>Column and row of a bit in the block.</summary>
    public static (int Column, int Row) SquareOf(int bit) => ((bit / 8 * 2) + (bit % 2), bit % 8 / 2);

    /// <summary>CRC-16 of what is told, by x¹⁶ + x¹² + x⁵ + 1, begun with ones (ITU-T V.41, from memory).</summary>
    internal static int Crc(IEnumerable<int> words)
    {
        var crc = 0xFFFF;
        foreach (var word in words)
        {
            crc ^= word << 8;
            for (var bit = 0; bit < 8; bit++)
                crc = ((crc & 0x8000) != 0 ? (crc << 1) ^ 0x1021 : crc << 1) & 0xFFFF;
        }
        return crc;
    }
}
