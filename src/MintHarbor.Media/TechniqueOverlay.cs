using MintHarbor.Core.Technique;
using SkiaSharp;

namespace MintHarbor.Media;

/// <summary>Shows over a flat sheet what was taken for what, so that a person sees what the machine saw: contours by their length, hatching,
/// what was left out; and the values that the form was read in.</summary>
public static class TechniqueOverlay
{
    private const float PerMm = 2;

    /// <summary>Longer lines are long, shorter ones short, mm.</summary>
    private const float Long = 60,
        Short = 20;

    /// <summary>Inks of the house: green for what runs long, ochre for hatching, chalk for what is short, lead for what says nothing.</summary>
    private static readonly SKColor LongInk = new(0x2A, 0x7F, 0x68),
        MiddleInk = new(0x12, 0x45, 0x4A),
        ShortInk = new(0xB0, 0x47, 0x2F),
        HatchInk = new(0x9A, 0x6B, 0x12),
        LeftInk = new(0x7C, 0x87, 0x83);

    public static SKColor InkOf(ReadLine line) =>
        line.Kind switch
        {
            InkKind.Hatch => HatchInk,
            InkKind.LeftOut => LeftInk,
            _ => line.Length >= Long ? LongInk
            : line.Length >= Short ? MiddleInk
            : ShortInk,
        };

    /// <param name="widthMm">Of the sheet; likewise the height.</param>
    public static SKBitmap Lines(TechniquePicture picture, double widthMm, double heightMm)
    {
        var bitmap = Empty(widthMm, heightMm);
        using var canvas = new SKCanvas(bitmap);
        using var pen = new SKPaint
        {
            IsAntialias = true,
            Style = SKPaintStyle.Stroke,
            StrokeWidth = 2.2f,
            StrokeCap = SKStrokeCap.Round,
        };
        foreach (var line in picture.Lines)
        {
            using var builder = new SKPathBuilder();
            builder.MoveTo(line.Path[0].X * PerMm, line.Path[0].Y * PerMm);
            foreach (var p in line.Path.Skip(1))
                builder.LineTo(p.X * PerMm, p.Y * PerMm);
            using var path = builder.Detach();
            pen.Color = InkOf(line);
            canvas.DrawPath(path, pen);
        }
        return bitmap;
    }

    /// <summary>The form in nine flat values.</summary>
    public static SKBitmap Values(TechniquePicture picture, double widthMm, double heightMm)
    {
        var bitmap = Empty(widthMm, heightMm);
        using var canvas = new SKCanvas(bitmap);
        using var brush = new SKPaint();
        for (var y = 0; y < picture.Height; y++)
        for (var x = 0; x < picture.Width; x++)
        {
            if (picture.Ninth(x, y) is not { } ninth)
                continue;
            var level = (byte)(30 + (27 * ninth));
            brush.Color = new SKColor(level, level, (byte)(level * 0.97f));
            canvas.DrawRect(x * PerMm, y * PerMm, PerMm, PerMm, brush);
        }
        return bitmap;
    }

    private static SKBitmap Empty(double widthMm, double heightMm)
    {
        var bitmap = new SKBitmap(
            new SKImageInfo(
                (int)(widthMm * PerMm),
                (int)(heightMm * PerMm),
                SKColorType.Rgba8888,
                SKAlphaType.Premul,
                SKColorSpace.CreateSrgb()
            )
        );
        bitmap.Erase(SKColors.Transparent);
        return bitmap;
    }
}
