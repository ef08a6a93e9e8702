using System.Runtime.InteropServices;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using SkiaSharp;

namespace MintHarbor.Media;

/// <summary>Values of the studio figure as a picture file, on the warm ground of the paper.</summary>
public static class FigurePicture
{
    /// <param name="quality">0 to 100; above 99 without loss.</param>
    public static byte[] WebP(TonePicture tone, int quality = 88) => Encode(tone, SKEncodedImageFormat.Webp, quality);

    public static byte[] Png(TonePicture tone) => Encode(tone, SKEncodedImageFormat.Png, 100);

    public static byte[] WebP(ColourPicture colours, int quality = 88) => Encode(colours, SKEncodedImageFormat.Webp, quality);

    public static byte[] Png(ColourPicture colours) => Encode(colours, SKEncodedImageFormat.Png, 100);

    /// <summary>A drawn view as SVG; a wash under its lines is carried inside it.</summary>
    public static string Svg(FigureView view, string ink = "#22302E") => view.ToSvg(ink, view.Colours is { } wash ? Carried(wash) : null);

    /// <summary>A small drawing of a check as SVG.</summary>
    public static string Svg(CheckDrawing drawing) => drawing.ToSvg(drawing.Wash is { } wash ? Carried(wash) : null);

    private static string Carried(ColourPicture wash) => $"data:image/webp;base64,{Convert.ToBase64String(WebP(wash, 60))}";

    private static byte[] Encode(ColourPicture colours, SKEncodedImageFormat format, int quality)
    {
        using var bitmap = new SKBitmap(new SKImageInfo(colours.Width, colours.Height, SKColorType.Rgba8888, SKAlphaType.Unpremul));
        MemoryMarshal.AsBytes(colours.Pixels.AsSpan()).CopyTo(bitmap.GetPixelSpan());
        using var data = bitmap.Encode(format, quality);
        return data.ToArray();
    }

    private static byte[] Encode(TonePicture tone, SKEncodedImageFormat format, int quality)
    {
        using var bitmap = new SKBitmap(new SKImageInfo(tone.Width, tone.Height, SKColorType.Rgba8888, SKAlphaType.Opaque));
        var pixels = bitmap.GetPixelSpan();
        for (var i = 0; i < tone.Values.Length; i++)
        {
            var g = (byte)(Math.Clamp(tone.Values[i], 0, 1) * 255);
            (pixels[i * 4], pixels[(i * 4) + 1], pixels[(i * 4) + 2], pixels[(i * 4) + 3]) = (g, g, (byte)(g * 0.97f), 255);
        }
        using var data = bitmap.Encode(format, quality);
        return data.ToArray();
    }
}
