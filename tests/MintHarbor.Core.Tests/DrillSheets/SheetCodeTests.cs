using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Geometry;
using Xunit;
using ZXing.Common.ReedSolomon;

namespace MintHarbor.Core.Tests.DrillSheets;

public sealed class SheetCodeTests
{
    /// <summary>ISO/IEC 18004, the worked example "01234567" in version 1-M: ten words of error correction (from memory).</summary>
    [Fact]
    public void The_parity_words_are_those_of_the_published_example()
    {
        int[] data = [0x10, 0x20, 0x0C, 0x56, 0x61, 0x80, 0xEC, 0x11, 0xEC, 0x11, 0xEC, 0x11, 0xEC, 0x11, 0xEC, 0x11];
        int[] words = [.. data, .. new int[10]];
        new ReedSolomonEncoder(GenericGF.QR_CODE_FIELD_256).encode(words, 10);
        Assert.Equal([0xA5, 0x24, 0xD4, 0xC1, 0xED, 0x36, 0xC7, 0x87, 0x2C, 0x55], words[16..]);
    }

    /// <summary>The check value of CRC-16 by x¹⁶ + x¹² + x⁵ + 1 begun with ones: 29B1 for the nine digits (published catalogue of CRCs, from
    /// memory).</summary>
    [Fact]
    public void The_checksum_is_the_published_one() => Assert.Equal(0x29B1, SheetCode.Crc("123456789".Select(c => (int)c)));

    /// <summary>Six words of parity are zeros of the code's polynomial at α⁰ to α⁵: worked out here by multiplying without tables.</summary>
    [Theory]
    [InlineData(0, false), InlineData(1, true), InlineData(SheetCode.Most, false), InlineData(424242424242, true)]
    public void A_code_is_a_word_of_its_field(long number, bool letter)
    {
        static int Times(int a, int b)
        {
            var product = 0;
            for (; b > 0; b >>= 1)
            {
                if ((b & 1) == 1)
                    product ^= a;
                a = (a & 0x80) != 0 ? (a << 1) ^ 0x11D : a << 1;
            }
            return product;
        }
        var bytes = new SheetCode(number, letter).Encode();
        Assert.Equal(SheetCode.Bytes, bytes.Length);
        for (int k = 0, root = 1; k < 6; k++, root = Times(root, 2))
            Assert.Equal(0, bytes.Aggregate(0, (sum, b) => Times(sum, root) ^ b));
        Assert.Equal((new SheetCode(number, letter), 0), SheetCode.Decode(bytes));
    }

    [Fact]
    public void Up_to_three_spoilt_bytes_are_mended_and_said()
    {
        var random = new SeededRandom(11);
        for (var n = 0; n < 20_000; n++)
        {
            var code = new SheetCode((long)(random.Next() * SheetCode.Most), random.Next(2) == 1);
            var read = code.Encode();
            var spoilt = Enumerable.Range(0, random.Next(4)).Select(_ => random.Next(SheetCode.Bytes)).Distinct().ToList();
            foreach (var at in spoilt)
                read[at] ^= (byte)(1 + random.Next(255));
            Assert.Equal((code, spoilt.Count), SheetCode.Decode(read));
        }
    }

    [Fact]
    public void Nothing_that_is_no_code_is_taken_for_one()
    {
        var random = new SeededRandom(12);
        for (var n = 0; n < 20_000; n++)
            Assert.Null(SheetCode.Decode([.. Enumerable.Range(0, SheetCode.Bytes).Select(_ => (byte)random.Next(256))]));
    }

    [Fact]
    public void A_code_of_another_layout_is_not_read()
    {
        int[] words = [.. new SheetCode(7, false).Encode().Select(b => (int)b)];
        words[0] = 0x20;
        var crc = SheetCode.Crc(words.Take(6));
        (words[6], words[7]) = (crc >> 8, crc & 0xFF);
        new ReedSolomonEncoder(GenericGF.QR_CODE_FIELD_256).encode(words, 6);
        Assert.Null(SheetCode.Decode([.. words.Select(w => (byte)w)]));
        Assert.Null(SheetCode.Decode(new byte[5]));
    }

    [Fact]
    public void Every_bit_has_a_square_of_its_own_within_the_block()
    {
        var squares = Enumerable.Range(0, SheetCode.Bytes * 8).Select(SheetCode.SquareOf).ToList();
        Assert.Equal(SheetCode.Columns * SheetCode.Rows, squares.Distinct().Count());
        Assert.All(squares, s => Assert.True(s is { Column: >= 0 and < SheetCode.Columns, Row: >= 0 and < SheetCode.Rows }));
    }

    [Theory]
    [InlineData(-1), InlineData(SheetCode.Most + 1)]
    public void A_number_of_more_than_five_bytes_is_refused(long number) =>
        Assert.Throws<ArgumentOutOfRangeException>(() => new SheetCode(number, false).Encode());
}
