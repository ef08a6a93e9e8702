using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.DrillSheets;

/// <summary>A photographed sheet laid flat at eight pixels to the millimetre, with what was printed on it known.</summary>
internal sealed class FlatSheet
{
    public const double PerMm = 8;

    /// <summary>The corner of the flat picture, millimetres of the field, and its size in pixels.</summary>
    public const double Left = -3,
        Top = -3;
    public const int Width = 188 * 8,
        Height = 256 * 8;

    /// <summary>Every so many pixels the map is asked; between them it is straight enough.</summary>
    private const int Exact = 16;

    /// <summary>Print reaches so many pixels beyond what is known of it; ink wholly within the other is leaked print.</summary>
    private const int PrintReach = 3,
        LeakReach = 9;

    /// <summary>Paper nearby: the closing's radius in pixels of half size. Shadows and broad smudges are wider, strokes narrower.</summary>
    private const int PaperReach = 10;

    private readonly DrillSheet sheet;
    private readonly float[] light;

    /// <param name="print">What was printed, black on white, drawn on this picture's own pixels.</param>
    public FlatSheet(LinearPicture photo, SheetMap map, DrillSheet sheet, GreyImage print, double leftOut)
    {
        (this.sheet, LeftOut) = (sheet, leftOut);
        light = Straightened(photo, map);
        (Printed, IsPrint, NearPrint) = Prints(print);
        Darkness = Darker(light);
        paper = new(() => new PaperLight(this, sheet));
    }

    /// <summary>How flat it lies: <see cref="SheetRefinement.Refined"/>.</summary>
    public double LeftOut { get; }

    /// <summary>0 bare paper, towards 1 black, against the paper nearby.</summary>
    public float[] Darkness { get; }

    /// <summary>How black the print is, 0 to 1; whether ink of it may lie there; whether it is near.</summary>
    public float[] Printed { get; }
    public bool[] IsPrint { get; }
    public bool[] NearPrint { get; }

    private readonly Lazy<PaperLight> paper;

    public float Light(int x, int y) => light[(y * Width) + x];

    /// <summary>Light of bare paper at a place, as it would be without what is on it.</summary>
    public double Paper(Vec2 at) => paper.Value.At(at);

    public static (int X, int Y) Pixel(Vec2 at) => ((int)((at.X - Left) * PerMm), (int)((at.Y - Top) * PerMm));

    public static Vec2 Place(int x, int y) => new(Left + ((x + 0.5) / PerMm), Top + ((y + 0.5) / PerMm));

    private static float[] Straightened(LinearPicture photo, SheetMap map)
    {
        int across = (Width / Exact) + 2,
            down = (Height / Exact) + 2;
        var at = new Vec2[across * down];
        for (var j = 0; j < down; j++)
        for (var i = 0; i < across; i++)
            at[(j * across) + i] = map.Map(Place(i * Exact, j * Exact));
        var flat = new float[Width * Height];
        Alone.For(0, Height, y =>
        {
            var fy = y % Exact / (double)Exact;
            for (var i = 0; i * Exact < Width; i++)
            {
                var k = (y / Exact * across) + i;
                var (a, b) = (Between(at[k], at[k + across], fy), Between(at[k + 1], at[k + across + 1], fy));
                for (var n = 0; n < Exact && (i * Exact) + n < Width; n++)
                    flat[(y * Width) + (i * Exact) + n] = photo.At(Between(a, b, n / (double)Exact));
            }
        });
        return flat;

        static Vec2 Between(Vec2 a, Vec2 b, double t) => a + ((b - a) * t);
    }

    private static (float[] Printed, bool[] IsPrint, bool[] NearPrint) Prints(GreyImage print)
    {
        if (print.Width != Width || print.Height != Height)
            throw new ArgumentException($"print drawn on {print.Width} × {print.Height} pixels");
        float[] black = new float[Width * Height],
            mask = new float[Width * Height];
        for (var i = 0; i < black.Length; i++)
        {
            black[i] = 1 - (print.Pixels[i] / 255f);
            mask[i] = print.Pixels[i] < 235 ? 1 : 0;
        }
        bool[] Grown(int by) => [.. Extremes.Greatest(mask, Width, Height, by).Select(v => v > 0.5f)];
        return (black, Grown(PrintReach), Grown(LeakReach));
    }

    /// <summary>Against the closing: the lightest nearby, and of that the darkest nearby.</summary>
    private static float[] Darker(float[] light)
    {
        var soft = Convolution.Gauss(light, Width, Height, 1, 0, 0);
        int w = Width / 2,
            h = Height / 2;
        var half = new float[w * h];
        for (var y = 0; y < h; y++)
        for (var x = 0; x < w; x++)
        {
            var q = (2 * y * Width) + (2 * x);
            half[(y * w) + x] = Math.Max(Math.Max(soft[q], soft[q + 1]), Math.Max(soft[q + Width], soft[q + Width + 1]));
        }
        var closed = Extremes.Least(Extremes.Greatest(half, w, h, PaperReach), w, h, PaperReach);
        var dark = new float[Width * Height];
        for (var y = 0; y < Height; y++)
        for (var x = 0; x < Width; x++)
        {
            var c = closed[(y / 2 * w) + (x / 2)];
            var i = (y * Width) + x;
            dark[i] = c <= 0.001f ? 0 : (c - soft[i]) / c;
        }
        return dark;
    }
}
