using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sheets;
using SkiaSharp;

namespace MintHarbor.Media;

/// <summary>An upright picture decoded from an uploaded file.</summary>
public sealed class Photo : IDisposable
{
    public const long MostBytes = 40L * 1024 * 1024;
    public const long MostPixels = 50_000_000;

    public const string Accepted = "JPEG, PNG or WebP, up to 40 MB and 50 megapixels";

    private Photo(SKBitmap bitmap, int exifTurn, string contentType) => (Bitmap, ExifTurn, ContentType) = (bitmap, exifTurn, contentType);

    public SKBitmap Bitmap { get; }

    /// <summary>EXIF orientation tag of the file, 1 to 8; the bitmap is already upright.</summary>
    public int ExifTurn { get; }
    public string ContentType { get; }
    public int Width => Bitmap.Width;
    public int Height => Bitmap.Height;

    /// <summary>What a file's header says, before any pixel is allocated.</summary>
    /// <param name="Turn">EXIF orientation, 1 to 8.</param>
    public readonly record struct Header(int Width, int Height, string ContentType, int Turn)
    {
        public long Pixels => (long)Width * Height;
    }

    /// <summary>Reads the header alone.</summary>
    /// <exception cref="InputException">Not a picture of an accepted kind, or too large.</exception>
    public static Header Peek(byte[] file)
    {
        using var pinned = new Pinned(file);
        using var data = pinned.Data;
        using var codec = Codec(file, data);
        return Peek(codec);
    }

    private static SKCodec Codec(byte[] file, SKData data) =>
        file.LongLength > MostBytes
            ? throw Bad($"the file has {Say.Number(file.LongLength / 1048576.0, 1)} MB")
            : SKCodec.Create(data) ?? throw Bad(file.Length == 0 ? "the file is empty" : "the file is not a picture that can be read");

    private static Header Peek(SKCodec codec)
    {
        var type = codec.EncodedFormat switch
        {
            SKEncodedImageFormat.Jpeg => "image/jpeg",
            SKEncodedImageFormat.Png => "image/png",
            SKEncodedImageFormat.Webp => "image/webp",
            var other => throw Bad($"the file is a {other.ToString().ToUpperInvariant()} picture"),
        };
        var header = new Header(codec.Info.Width, codec.Info.Height, type, (int)codec.EncodedOrigin);
        return header.Pixels <= MostPixels ? header : throw Bad($"the picture has {Say.Number(header.Pixels / 1e6)} megapixels");
    }

    /// <summary>Decodes and turns upright. The size is read from the header before any pixel is allocated; a JPEG that lies turned is turned
    /// while it is decoded, so that it takes no second picture's room.</summary>
    /// <exception cref="InputException">Not a picture of an accepted kind, damaged, or too large.</exception>
    public static Photo Read(byte[] file)
    {
        // The codec reads from the file's own bytes: a copy of forty megabytes would live as long as it.
        using var pinned = new Pinned(file);
        using var data = pinned.Data;
        using var codec = Codec(file, data);
        var header = Peek(codec);
        if (header is { Turn: > 1, ContentType: "image/jpeg" } && Turned(codec, header) is { } turned)
            return new(turned, header.Turn, header.ContentType);
        var clear = codec.Info.AlphaType != SKAlphaType.Opaque;
        var bitmap = new SKBitmap(Rgba(header.Width, header.Height, clear ? SKAlphaType.Premul : SKAlphaType.Opaque));
        var result = codec.GetPixels(bitmap.Info, bitmap.GetPixels());
        if (result != SKCodecResult.Success)
        {
            bitmap.Dispose();
            throw Damaged(result);
        }
        if (clear)
            bitmap = OnWhite(bitmap);
        return new(Upright(bitmap, header.Turn), header.Turn, header.ContentType);
    }

    private static SKImageInfo Rgba(int w, int h, SKAlphaType alpha = SKAlphaType.Opaque) =>
        new(w, h, SKColorType.Rgba8888, alpha, SKColorSpace.CreateSrgb());

    private static InputException Damaged(SKCodecResult result) =>
        Bad(result == SKCodecResult.IncompleteInput ? "the picture breaks off before its end" : "the picture is damaged");

    /// <summary>Decodes some rows at a time and puts each pixel where it stands upright.</summary>
    /// <returns>Null for a file whose rows don't come one by one.</returns>
    private static unsafe SKBitmap? Turned(SKCodec codec, Header header)
    {
        const int rows = 64;
        var (w, h) = (header.Width, header.Height);
        if (codec.StartScanlineDecode(Rgba(w, h)) != SKCodecResult.Success || codec.ScanlineOrder != SKCodecScanlineOrder.TopDown)
            return null;
        using var band = new SKBitmap(Rgba(w, rows));
        var upright = new SKBitmap(header.Turn >= 5 ? Rgba(h, w) : Rgba(w, h));
        var stride = upright.Width;
        uint* from = (uint*)band.GetPixels(),
            to = (uint*)upright.GetPixels();
        for (var top = 0; top < h; top += rows)
        {
            var some = Math.Min(rows, h - top);
            if (codec.GetScanlines(band.GetPixels(), some, band.RowBytes) != some)
            {
                upright.Dispose();
                throw Damaged(SKCodecResult.IncompleteInput);
            }
            for (var k = 0; k < some; k++)
            {
                var (start, dx) = Way(header.Turn, top + k, w, h, stride);
                var p = to + start;
                for (var x = 0; x < w; x++, p += dx)
                    *p = from[((long)k * w) + x];
            }
        }
        return upright;
    }

    /// <summary>Where a row of the file begins in the upright picture, and how far it is from one of its pixels to the next.</summary>
    private static (long Start, long Step) Way(int turn, int y, int w, int h, long stride) =>
        turn switch
        {
            2 => ((y * stride) + w - 1, -1),
            3 => (((h - 1 - y) * stride) + w - 1, -1),
            4 => ((h - 1 - y) * stride, 1),
            5 => (y, stride),
            6 => (h - 1 - y, stride),
            7 => (((w - 1) * stride) + h - 1 - y, -stride),
            _ => (((w - 1) * stride) + y, -stride),
        };

    /// <summary>A file's bytes as the codec reads them, held where they are.</summary>
    private sealed class Pinned : IDisposable
    {
        private System.Runtime.InteropServices.GCHandle held;

        public Pinned(byte[] file)
        {
            held = System.Runtime.InteropServices.GCHandle.Alloc(file, System.Runtime.InteropServices.GCHandleType.Pinned);
            Data = SKData.Create(held.AddrOfPinnedObject(), file.Length);
        }

        public SKData Data { get; }

        public void Dispose() => held.Free();
    }

    /// <summary>A drawing exported with a transparent ground is taken as lying on white.</summary>
    private static SKBitmap OnWhite(SKBitmap b)
    {
        var white = new SKBitmap(new SKImageInfo(b.Width, b.Height, SKColorType.Rgba8888, SKAlphaType.Opaque, SKColorSpace.CreateSrgb()));
        using (var canvas = new SKCanvas(white))
        using (var image = SKImage.FromBitmap(b))
        {
            canvas.Clear(SKColors.White);
            canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Nearest));
        }
        b.Dispose();
        return white;
    }

    private static InputException Bad(string what) => new(what, "photo", Accepted);

    /// <summary>Undoes the EXIF turn: 1 upright, 2 mirrored, 3 by 180°, 4 flipped, 5–8 with the axes exchanged.</summary>
    private static SKBitmap Upright(SKBitmap b, int turn)
    {
        if (turn is <= 1 or > 8)
            return b;
        var swap = turn >= 5;
        int w = swap ? b.Height : b.Width,
            h = swap ? b.Width : b.Height;
        var matrix = turn switch
        {
            2 => new SKMatrix(-1, 0, w, 0, 1, 0, 0, 0, 1),
            3 => new SKMatrix(-1, 0, w, 0, -1, h, 0, 0, 1),
            4 => new SKMatrix(1, 0, 0, 0, -1, h, 0, 0, 1),
            5 => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
            6 => new SKMatrix(0, -1, w, 1, 0, 0, 0, 0, 1),
            7 => new SKMatrix(0, -1, w, -1, 0, h, 0, 0, 1),
            _ => new SKMatrix(0, 1, 0, -1, 0, h, 0, 0, 1),
        };
        var upright = new SKBitmap(new SKImageInfo(w, h, SKColorType.Rgba8888, SKAlphaType.Opaque, SKColorSpace.CreateSrgb()));
        using (var canvas = new SKCanvas(upright))
        using (var image = SKImage.FromBitmap(b))
        {
            canvas.SetMatrix(matrix);
            canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Nearest));
        }
        b.Dispose();
        return upright;
    }

    public GreyImage Grey()
    {
        var source = Bitmap.GetPixelSpan();
        var grey = new byte[Width * Height];
        for (int i = 0, o = 0; i < grey.Length; i++, o += 4)
            grey[i] = (byte)(((source[o] * 77) + (source[o + 1] * 150) + (source[o + 2] * 29)) >> 8);
        return new(Width, Height, grey);
    }

    /// <summary>The sheet between four corners (pixels, clockwise from its upper left), laid flat at a true scale.</summary>
    public Photo Straighten(IReadOnlyList<Vec2> corners, PaperSize paper, double mmPerPixel)
    {
        if (!SheetFinder.IsUsable(corners))
            throw new InputException(
                "the four corners don't make a sheet",
                "corners",
                "four corners, clockwise from the sheet's upper left, no three on one line"
            );
        int w = Math.Max(1, (int)Math.Round(paper.WidthMm / mmPerPixel)),
            h = Math.Max(1, (int)Math.Round(paper.HeightMm / mmPerPixel));
        // Corners are given at pixel centres on whole numbers; the canvas counts from the pixel's edge.
        var toPhoto = Homography.FromFourPoints(
            [new(0, 0), new(w, 0), new(w, h), new(0, h)],
            [.. corners.Select(c => c + new Vec2(0.5, 0.5))]
        );
        var flat = new SKBitmap(new SKImageInfo(w, h, SKColorType.Rgba8888, SKAlphaType.Opaque, SKColorSpace.CreateSrgb()));
        Warp.Run(Bitmap, flat, toPhoto);
        return new(flat, 1, "image/png");
    }

    private static readonly float[] ToLinear = [.. Enumerable.Range(0, 256).Select(v => (float)LightCurves.Linear(v))];
    private static readonly byte[] FromLinear =
    [
        .. Enumerable.Range(0, 4097).Select(v => (byte)Math.Clamp(Math.Round(255 * Encoded(v / 4096.0)), 0, 255)),
    ];

    private static double Encoded(double y) => y <= 0.0031308 ? 12.92 * y : (1.055 * Math.Pow(y, 1 / 2.4)) - 0.055;

    /// <summary>Divides the fall of light out of this picture, in place: every channel in linear light, white kept.</summary>
    public unsafe void Even(LightField light)
    {
        const int cell = 16;
        int columns = (Width / cell) + 2,
            rows = (Height / cell) + 2;
        var gains = new float[columns * rows];
        for (var r = 0; r < rows; r++)
        for (var c = 0; c < columns; c++)
            gains[(r * columns) + c] = (float)(
                4096 * light.Gain(Math.Min(1, (double)c * cell / Width), Math.Min(1, (double)r * cell / Height))
            );
        var (start, width) = ((nint)Bitmap.GetPixels(), Width);
        Parallel.For(0, Height, y =>
        {
            var (row, fy) = (y / cell, (y % cell) / (float)cell);
            var p = (byte*)start + ((long)y * width * 4);
            for (var c = 0; c < columns - 1; c++)
            {
                // Between the cell's left and right side the gain is a straight line.
                var o = (row * columns) + c;
                var left = (gains[o] * (1 - fy)) + (gains[o + columns] * fy);
                var step = (((gains[o + 1] * (1 - fy)) + (gains[o + columns + 1] * fy)) - left) / cell;
                for (int x = c * cell, end = Math.Min(width, x + cell); x < end; x++, p += 4, left += step)
                {
                    p[0] = FromLinear[Math.Min(4096, (int)(ToLinear[p[0]] * left))];
                    p[1] = FromLinear[Math.Min(4096, (int)(ToLinear[p[1]] * left))];
                    p[2] = FromLinear[Math.Min(4096, (int)(ToLinear[p[2]] * left))];
                }
            }
        });
    }

    public Photo Shrunk(int longest)
    {
        var k = Math.Min(1.0, (double)longest / Math.Max(Width, Height));
        var small = new SKBitmap(
            new SKImageInfo(
                Math.Max(1, (int)(Width * k)),
                Math.Max(1, (int)(Height * k)),
                SKColorType.Rgba8888,
                SKAlphaType.Opaque,
                SKColorSpace.CreateSrgb()
            )
        );
        Bitmap.ScalePixels(small, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        return new(small, 1, ContentType);
    }

    public byte[] Encode(SKEncodedImageFormat format, int quality)
    {
        using var data = Bitmap.Encode(format, quality) ?? throw new InvalidOperationException($"no encoder for {format}");
        return data.ToArray();
    }

    public byte[] Webp(int quality = 82) => Encode(SKEncodedImageFormat.Webp, quality);

    internal static Photo Of(SKBitmap bitmap) => new(bitmap, 1, "image/png");

    public void Dispose() => Bitmap.Dispose();
}
