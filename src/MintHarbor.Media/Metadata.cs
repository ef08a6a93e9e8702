using System.Buffers.Binary;
using System.Text;

namespace MintHarbor.Media;

/// <summary>Takes out of a picture file what is not picture: where and when it was taken, with what, by whom, and the small pictures of other
/// views that cameras put in. The pixels are not touched. What stays: colours (ICC, sRGB, gamma), density, transparency, and the turn of a
/// JPEG. By the formats' own structure: JPEG ITU-T T.81 annex B, PNG (W3C) 5, WebP container (RFC 9649) 2.</summary>
public static class Metadata
{
    /// <param name="turn">EXIF orientation, 1 to 8, kept in a JPEG.</param>
    /// <param name="file">A whole picture that could be read.</param>
    public static byte[] Clean(byte[] file, string contentType, int turn) =>
        contentType switch
        {
            "image/jpeg" => Jpeg(file, turn),
            "image/png" => Png(file),
            "image/webp" => Webp(file),
            _ => throw new ArgumentException($"no metadata of {contentType} is known", nameof(contentType)),
        };

    private static byte[] Jpeg(byte[] file, int turn)
    {
        using var clean = new MemoryStream(file.Length);
        clean.Write([0xFF, 0xD8]);
        if (turn is > 1 and <= 8)
            clean.Write(Orientation(turn));
        for (var at = 2; at + 4 <= file.Length; )
        {
            // Fill bytes may stand before a marker.
            if (file[at] == 0xFF && file[at + 1] == 0xFF)
            {
                at++;
                continue;
            }
            var marker = file[at + 1];
            if (file[at] != 0xFF || marker == 0xD9)
                break;
            var end = at + 2 + BinaryPrimitives.ReadUInt16BigEndian(file.AsSpan(at + 2));
            if (marker == 0xDA)
                end = EndOfScan(file, end);
            end = Math.Min(end, file.Length);
            if (Belongs(marker, file.AsSpan(at + 4, Math.Max(0, end - at - 4))))
                clean.Write(file, at, end - at);
            at = end;
        }
        clean.Write([0xFF, 0xD9]);
        return clean.ToArray();
    }

    /// <summary>JFIF's density, ICC profiles and Adobe's colour transform belong to the picture, and everything that is no application's
    /// segment or comment.</summary>
    private static bool Belongs(byte marker, ReadOnlySpan<byte> data) =>
        marker switch
        {
            0xE0 => data.StartsWith("JFIF\0"u8),
            0xE2 => data.StartsWith("ICC_PROFILE\0"u8),
            0xEE => data.StartsWith("Adobe"u8),
            (>= 0xE0 and <= 0xEF) or 0xFE => false,
            _ => true,
        };

    /// <summary>Coded data run on until a marker that is neither a stuffed byte nor a restart.</summary>
    private static int EndOfScan(byte[] file, int at)
    {
        for (; at + 1 < file.Length; at++)
            if (file[at] == 0xFF && file[at + 1] is not (0x00 or 0xFF or (>= 0xD0 and <= 0xD7)))
                return at;
        return file.Length;
    }

    /// <summary>An EXIF segment that holds the orientation and nothing else.</summary>
    private static byte[] Orientation(int turn) =>
        [
            .. new byte[] { 0xFF, 0xE1, 0x00, 0x22 },
            .. "Exif\0\0MM\0*"u8,
            .. new byte[] { 0, 0, 0, 8, 0, 1, 0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, (byte)turn, 0, 0, 0, 0, 0, 0 },
        ];

    private static readonly string[] OfThePicture =
    [
        "IHDR",
        "PLTE",
        "IDAT",
        "IEND",
        "tRNS",
        "gAMA",
        "cHRM",
        "sRGB",
        "iCCP",
        "sBIT",
        "pHYs",
        "bKGD",
        "cICP",
    ];

    private static byte[] Png(byte[] file)
    {
        using var clean = new MemoryStream(file.Length);
        clean.Write(file, 0, 8);
        for (var at = 8; at + 12 <= file.Length; )
        {
            var length = BinaryPrimitives.ReadUInt32BigEndian(file.AsSpan(at));
            var type = Encoding.ASCII.GetString(file, at + 4, 4);
            var end = (int)Math.Min(at + 12L + length, file.Length);
            if (OfThePicture.Contains(type))
                clean.Write(file, at, end - at);
            at = end;
            if (type == "IEND")
                break;
        }
        return clean.ToArray();
    }

    private static byte[] Webp(byte[] file)
    {
        using var clean = new MemoryStream(file.Length);
        clean.Write(file, 0, 12);
        for (var at = 12; at + 8 <= file.Length; )
        {
            var type = Encoding.ASCII.GetString(file, at, 4);
            var size = BinaryPrimitives.ReadUInt32LittleEndian(file.AsSpan(at + 4));
            var end = (int)Math.Min(at + 8L + size + (size & 1), file.Length);
            if (type is "VP8 " or "VP8L" or "VP8X" or "ALPH" or "ICCP")
                clean.Write(file, at, end - at);
            at = end;
        }
        var bytes = clean.ToArray();
        BinaryPrimitives.WriteUInt32LittleEndian(bytes.AsSpan(4), (uint)bytes.Length - 8);
        // The extended header says that EXIF (bit 3) and XMP (bit 2) follow.
        if (bytes.AsSpan(12).StartsWith("VP8X"u8))
            bytes[20] &= 0b1111_0011;
        return bytes;
    }
}
