using System.Buffers.Binary;
using System.IO.Hashing;
using System.Text;
using MintHarbor.Media;
using OpenCvSharp;
using SkiaSharp;
using Xunit;

namespace MintHarbor.Core.Tests.Sheets;

/// <summary>A picture that is kept says nothing but the picture. Files are put together by the formats' own rules (ITU-T T.81, W3C PNG,
/// RFC 9649); OpenCV, which shares no code with what is tested, reads the pixels before and after.</summary>
public sealed class MetadataTests
{
    private const string Secret = "48.2082 N 16.3738 E, camera of M. Holt";

    private static Mat Picture()
    {
        var m = new Mat(96, 64, MatType.CV_8UC3, Scalar.White);
        Cv2.Circle(m, new Point(30, 40), 18, new Scalar(40, 90, 200), -1);
        Cv2.Line(m, new Point(0, 0), new Point(63, 95), Scalar.Black, 2);
        return m;
    }

    private static byte[] Encoded(string kind, params ImageEncodingParam[] with)
    {
        using var m = Picture();
        Cv2.ImEncode(kind, m, out var bytes, with);
        return bytes;
    }

    private static byte[] Segment(byte marker, byte[] data) =>
        [0xFF, marker, (byte)((data.Length + 2) >> 8), (byte)(data.Length + 2), .. data];

    private static byte[] Text(string s) => Encoding.ASCII.GetBytes(s);

    private static byte[] Jpeg(bool progressive)
    {
        var plain = Encoded(".jpg", new ImageEncodingParam(ImwriteFlags.JpegProgressive, progressive ? 1 : 0));
        return
        [
            .. plain[..2],
            .. Segment(0xE1, [.. Text("Exif\0\0"), .. Text(Secret)]),
            .. Segment(0xE1, Text("http://ns.adobe.com/xap/1.0/\0" + Secret)),
            .. Segment(0xE2, Text("MPF\0" + Secret)),
            .. Segment(0xED, Text("Photoshop 3.0\0" + Secret)),
            .. Segment(0xFE, Text(Secret)),
            .. plain[2..],
            .. Text(Secret),
        ];
    }

    private static byte[] Chunk(string type, byte[] data)
    {
        byte[] body = [.. Text(type), .. data];
        var chunk = new byte[body.Length + 8];
        BinaryPrimitives.WriteUInt32BigEndian(chunk, (uint)data.Length);
        body.CopyTo(chunk, 4);
        BinaryPrimitives.WriteUInt32BigEndian(chunk.AsSpan(chunk.Length - 4), Crc32.HashToUInt32(body));
        return chunk;
    }

    private static byte[] Png()
    {
        var plain = Encoded(".png");
        // Signature and header chunk: 8 + 25 bytes.
        return
        [
            .. plain[..33],
            .. Chunk("tEXt", Text("Comment\0" + Secret)),
            .. Chunk("eXIf", Text(Secret)),
            .. plain[33..],
            .. Text(Secret),
        ];
    }

    private static byte[] Webp()
    {
        var plain = Encoded(".webp", new ImageEncodingParam(ImwriteFlags.WebPQuality, 90));
        byte[] Riff(string type, byte[] data) =>
            [.. Text(type), .. BitConverter.GetBytes(data.Length), .. data, .. new byte[data.Length % 2]];
        byte[] extended = [0b0000_1100, 0, 0, 0, 63, 0, 0, 95, 0, 0];
        byte[] body =
        [
            .. Text("WEBP"),
            .. Riff("VP8X", extended),
            .. plain[12..],
            .. Riff("EXIF", Text(Secret)),
            .. Riff("XMP ", Text(Secret)),
        ];
        return [.. Text("RIFF"), .. BitConverter.GetBytes(body.Length), .. body];
    }

    public static TheoryData<string> Kinds => ["baseline", "progressive", "png", "webp"];

    private static (byte[] File, string Type) File(string kind) =>
        kind switch
        {
            "baseline" => (Jpeg(false), "image/jpeg"),
            "progressive" => (Jpeg(true), "image/jpeg"),
            "png" => (Png(), "image/png"),
            _ => (Webp(), "image/webp"),
        };

    [Theory]
    [MemberData(nameof(Kinds))]
    public void What_is_no_picture_goes_and_every_pixel_stays(string kind)
    {
        var (file, type) = File(kind);
        var clean = Metadata.Clean(file, type, 1);
        Assert.DoesNotContain(Secret[..12], Encoding.Latin1.GetString(clean));
        using Mat before = Cv2.ImDecode(file, ImreadModes.Color),
            after = Cv2.ImDecode(clean, ImreadModes.Color);
        Assert.Equal((64, 96), (after.Width, after.Height));
        Assert.Equal(0, Cv2.Norm(before, after, NormTypes.INF));
        using var photo = Photo.Read(clean);
        Assert.Equal((64, 96, 1, type), (photo.Width, photo.Height, photo.ExifTurn, photo.ContentType));
        Assert.Equal(clean, Metadata.Clean(clean, type, 1));
    }

    [Fact]
    public void Colours_stay_as_their_profile_says()
    {
        var plain = Encoded(".jpg");
        byte[] file = [.. plain[..2], .. Segment(0xE2, Text("ICC_PROFILE\0\u0001\u0001a profile")), .. plain[2..]];
        Assert.Contains("a profile", Encoding.Latin1.GetString(Metadata.Clean(file, "image/jpeg", 1)));
    }

    [Theory]
    [InlineData(2), InlineData(3), InlineData(4), InlineData(5), InlineData(6), InlineData(7), InlineData(8)]
    public void A_turned_photograph_stays_turned(int turn)
    {
        using var upright = SKBitmap.Decode(Encoded(".png"));
        var file = ExifJpeg.Turned(upright, turn);
        var clean = Metadata.Clean(file, "image/jpeg", turn);
        using var photo = Photo.Read(clean);
        Assert.Equal((64, 96, turn), (photo.Width, photo.Height, photo.ExifTurn));
        Assert.True(photo.Bitmap.GetPixel(30, 40) is { Red: > 150, Blue: < 90 }, "the disc is not where it was");
    }

    [Fact]
    public void A_turned_photograph_that_breaks_off_is_refused()
    {
        using var upright = SKBitmap.Decode(Encoded(".png"));
        var file = ExifJpeg.Turned(upright, 6);
        Assert.Contains("breaks off", Assert.Throws<InputException>(() => Photo.Read(file[..(file.Length / 2)])).Message);
    }
}
