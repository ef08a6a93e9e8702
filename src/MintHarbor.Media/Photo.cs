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

    /// <summary>Decodes and turns upright. The size is read from the header before any pixel is allocated.</summary>
    /// <exception cref="InputException">Not a picture of an accepted kind, damaged, or too large.</exception>
    public static Photo Read(byte[] file)
    {
        if (file.LongLength > MostBytes)
            throw Bad($"the file has {Say.Number(file.LongLength / 1048576.0, 1)} MB");
        using var data = SKData.CreateCopy(file);
        using var codec = SKCodec.Create(data)
            ?? throw Bad(file.Length == 0 ? "the file is empty" : "the file is not a picture that can be read");
        var type = codec.EncodedFormat switch
        {
            SKEncodedImageFormat.Jpeg => "image/jpeg",
            SKEncodedImageFormat.Png => "image/png",
            SKEncodedImageFormat.Webp => "image/webp",
            var other => throw Bad($"the file is a {other.ToString().ToUpperInvariant()} picture"),
        };
        var info = codec.Info;
        if ((long)info.Width * info.Height > MostPixels)
            throw Bad($"the picture has {Say.Number((double)info.Width * info.Height / 1e6)} megapixels");
        var clear = info.AlphaType != SKAlphaType.Opaque;
        var bitmap = new SKBitmap(
            new SKImageInfo(
                info.Width,
                info.Height,
                SKColorType.Rgba8888,
                clear ? SKAlphaType.Premul : SKAlphaType.Opaque,
                SKColorSpace.CreateSrgb()
            )
        );
        var result = codec.GetPixels(bitmap.Info, bitmap.GetPixels());
        if (result != SKCodecResult.Success)
        {
            bitmap.Dispose();
            throw Bad(result == SKCodecResult.IncompleteInput ? "the picture breaks off before its end" : "the picture is damaged");
        }
        if (clear)
            bitmap = OnWhite(bitmap);
        var turn = (int)codec.EncodedOrigin;
        return new(Upright(bitmap, turn), turn, type);
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

    private static readonly float[] ToLinear = [.. Enumerable.Range(0, 256).Select(v => (float)SheetReading.Linear(v))];
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
