using System.Buffers.Binary;
using System.IO.Compression;
using System.IO.Hashing;
using System.Text;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;

namespace MintHarbor.Web.Tests;

/// <summary>Files that a strange phone, a hurried hand or somebody ill-meaning would send.</summary>
public static class BadFiles
{
    private static readonly byte[] PngSignature = [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A];
    private static readonly Lazy<byte[]> shot = new(() =>
        SheetCamera.Take(SimulatedHand.Draw("stand-male-0", PaperSize.Find("18x24in")!, 480, new(), 0.6, 1), 750, 1000, 0.5, 1).Jpeg
    );

    public static byte[] Jpeg => shot.Value;

    /// <summary>A PNG of one grey tone, written by hand so that its header can say anything.</summary>
    public static byte[] Png(int width, int height, bool pixels = true, bool goodSums = true)
    {
        using var file = new MemoryStream();
        file.Write(PngSignature);
        var header = new byte[13];
        BinaryPrimitives.WriteInt32BigEndian(header, width);
        BinaryPrimitives.WriteInt32BigEndian(header.AsSpan(4), height);
        (header[8], header[9]) = (8, 0);
        Chunk("IHDR", header);
        if (pixels)
        {
            using var packed = new MemoryStream();
            using (var z = new ZLibStream(packed, CompressionLevel.SmallestSize, leaveOpen: true))
            {
                var row = new byte[width + 1];
                for (var y = 0; y < height; y++)
                    z.Write(row);
            }
            Chunk("IDAT", packed.ToArray());
        }
        else
            Chunk("IDAT", [0x78, 0x9C, 0x03, 0x00, 0x00, 0x00, 0x00, 0x01]);
        Chunk("IEND", []);
        return file.ToArray();

        void Chunk(string type, byte[] data)
        {
            var length = new byte[4];
            BinaryPrimitives.WriteInt32BigEndian(length, data.Length);
            byte[] body = [.. Encoding.ASCII.GetBytes(type), .. data];
            var sum = Crc32.Hash(body);
            Array.Reverse(sum);
            if (!goodSums)
                sum[0] ^= 0xFF;
            file.Write(length);
            file.Write(body);
            file.Write(sum);
        }
    }

    /// <summary>A JPEG whose frame header claims another size than its data hold.</summary>
    public static byte[] JpegClaiming(int width, int height)
    {
        var file = (byte[])Jpeg.Clone();
        for (var i = 2; i + 9 < file.Length; )
        {
            var length = BinaryPrimitives.ReadUInt16BigEndian(file.AsSpan(i + 2));
            if (file[i + 1] is 0xC0 or 0xC2)
            {
                BinaryPrimitives.WriteUInt16BigEndian(file.AsSpan(i + 5), (ushort)height);
                BinaryPrimitives.WriteUInt16BigEndian(file.AsSpan(i + 7), (ushort)width);
                return file;
            }
            i += 2 + length;
        }
        throw new InvalidOperationException("no frame header");
    }

    public static byte[] Garbled()
    {
        var file = (byte[])Jpeg.Clone();
        for (var i = file.Length / 3; i < file.Length / 2; i += 7)
            file[i] = (byte)(file[i] * 31 + 17);
        return file;
    }

    public static byte[] Noise(int length)
    {
        var bytes = new byte[length];
        new Random(7).NextBytes(bytes);
        return bytes;
    }

    public static byte[] Zip(byte[] content)
    {
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        using (var entry = zip.CreateEntry("sheet.jpg").Open())
            entry.Write(content);
        return file.ToArray();
    }

    /// <summary>The smallest bitmap of the kind that older painting programs write.</summary>
    public static byte[] Bmp() =>
        [
            0x42,
            0x4D,
            58,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            54,
            0,
            0,
            0,
            40,
            0,
            0,
            0,
            1,
            0,
            0,
            0,
            1,
            0,
            0,
            0,
            1,
            0,
            24,
            0,
            0,
            0,
            0,
            0,
            4,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            10,
            20,
            30,
            0,
        ];

    public static byte[] Gif() =>
        [.. "GIF89a"u8, 1, 0, 1, 0, 0x80, 0, 0, 0, 0, 0, 255, 255, 255, 0x2C, 0, 0, 0, 0, 1, 0, 1, 0, 0, 2, 2, 0x44, 1, 0, 0x3B];

    public static byte[] Text(string s) => Encoding.UTF8.GetBytes(s);
}
