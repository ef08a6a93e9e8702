using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sheets;
using SkiaSharp;
using ZXing;
using ZXing.QrCode;

namespace MintHarbor.Media;

/// <summary>Draws drill sheets: as pages to print, and as the print that the reader knows. Both are the one list of shapes.</summary>
public static class DrillSheetPrint
{
    /// <summary>A PDF with a page for each sheet, all of one size, to true scale.</summary>
    /// <param name="link">Where a sheet's photograph is handed in, as a square code beside the ruler; null for none.</param>
    public static byte[] Pdf(IReadOnlyList<DrillSheet> sheets, PrintFaces faces, Func<DrillSheet, string?>? link = null)
    {
        var letter = sheets[0].Code.Letter;
        var (width, height) = SheetLayout.Page(letter);
        var on = SheetLayout.On(letter);
        Action<PrintPen> Page(DrillSheet sheet) =>
            pen =>
            {
                pen.Canvas.Translate((float)on.X, (float)on.Y);
                Draw(pen.Canvas, sheet, faces.Text);
                if (link?.Invoke(sheet) is { } address)
                    Link(pen.Canvas, address);
            };
        return PrintPen.Document("Drill sheets", faces, [.. sheets.Select(Page)], (float)width, (float)height);
    }

    /// <summary>The print as the reader wants it.</summary>
    public static GreyImage Print(DrillSheet sheet, PrintFaces faces)
    {
        var (left, top, perMm, width, height) = DrillSheetReader.PrintOn;
        return Raster(sheet, faces.Text, left, top, perMm, width, height);
    }

    internal static GreyImage Raster(DrillSheet sheet, SKTypeface face, double left, double top, double perMm, int width, int height)
    {
        using var bitmap = new SKBitmap(new SKImageInfo(width, height, SKColorType.Gray8, SKAlphaType.Opaque));
        using (var canvas = new SKCanvas(bitmap))
        {
            canvas.Clear(SKColors.White);
            canvas.Scale((float)perMm);
            canvas.Translate(-(float)left, -(float)top);
            Draw(canvas, sheet, face);
        }
        var grey = new byte[width * height];
        for (var y = 0; y < height; y++)
            bitmap.GetPixelSpan().Slice(y * bitmap.RowBytes, width).CopyTo(grey.AsSpan(y * width));
        return new(width, height, grey);
    }

    /// <param name="canvas">In the field's millimetres.</param>
    private static void Draw(SKCanvas canvas, DrillSheet sheet, SKTypeface face)
    {
        using var paint = new SKPaint { IsAntialias = true };
        foreach (var shape in sheet.Print())
            Draw(canvas, shape, face, paint);
    }

    private static void Draw(SKCanvas canvas, PrintShape shape, SKTypeface face, SKPaint paint)
    {
        (paint.Color, paint.IsStroke, paint.PathEffect) = (SKColors.Black, false, null);
        switch (shape)
        {
            case PrintCircle c:
                (paint.IsStroke, paint.StrokeWidth) = (c.Line > 0, (float)c.Line);
                canvas.DrawCircle(Point(c.Middle), (float)c.Radius, paint);
                break;
            case PrintBox b:
                var tone = (byte)Math.Round(255 * (1 - b.Black));
                paint.Color = new(tone, tone, tone);
                canvas.DrawRect((float)b.Corner.X, (float)b.Corner.Y, (float)b.Width, (float)b.Height, paint);
                break;
            case PrintPath p:
                (paint.IsStroke, paint.StrokeWidth) = (true, (float)p.Line);
                using (var dash = p.Dashed ? SKPathEffect.CreateDash([1.2f, 1.8f], 0) : null)
                using (var builder = new SKPathBuilder())
                {
                    paint.PathEffect = dash;
                    builder.AddPoly([.. p.Places.Select(Point)], p.Closed);
                    using var path = builder.Detach();
                    canvas.DrawPath(path, paint);
                    paint.PathEffect = null;
                }
                break;
            case PrintWords w:
                using (
                    var font = new SKFont(face, (float)w.Size)
                    {
                        Subpixel = true,
                        LinearMetrics = true,
                        Hinting = SKFontHinting.None,
                    }
                )
                    canvas.DrawText(w.Words, Point(w.Foot), SKTextAlign.Left, font, paint);
                break;
            default:
                throw new ArgumentException($"no way to print {shape.GetType().Name}");
        }
    }

    private static SKPoint Point(Vec2 p) => new((float)p.X, (float)p.Y);

    /// <summary>A square code (ISO/IEC 18004) that opens the page where the photograph is handed in.</summary>
    private static void Link(SKCanvas canvas, string address)
    {
        var code = new QRCodeWriter().encode(
            address,
            BarcodeFormat.QR_CODE,
            0,
            0,
            new Dictionary<EncodeHintType, object> { [EncodeHintType.MARGIN] = 0 }
        );
        var side = (float)SheetLayout.LinkSide / code.Width;
        using var black = new SKPaint { Color = SKColors.Black };
        for (var y = 0; y < code.Height; y++)
        for (var x = 0; x < code.Width; x++)
            if (code[x, y])
                canvas.DrawRect((float)SheetLayout.Link.X + (x * side), (float)SheetLayout.Link.Y + (y * side), side, side, black);
    }
}
