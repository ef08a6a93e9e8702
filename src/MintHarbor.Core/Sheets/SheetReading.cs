using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Sheets;

/// <param name="Left">Free margin to the drawing, mm; likewise the others.</param>
/// <param name="HeightShare">Drawing's height as a share of the sheet's.</param>
/// <param name="Positive">Area of the drawing's box over the rest of the sheet.</param>
/// <param name="CutEdges">Edges of the sheet that the drawing runs into.</param>
public sealed record Placement(
    double Left,
    double Top,
    double Right,
    double Bottom,
    double WidthMm,
    double HeightMm,
    double HeightShare,
    double Positive,
    IReadOnlyList<string> CutEdges
);

/// <param name="Steps">Share of the drawing's box in five equal steps of CIE L* from dark to light.</param>
/// <param name="Darkest">L* that one in two hundred of its pixels falls below.</param>
/// <param name="PaperL">L* of the paper.</param>
/// <param name="Untouched">Share of the box that is bare paper.</param>
public sealed record ToneReading(IReadOnlyList<double> Steps, double Darkest, double PaperL, double Untouched);

/// <summary>What can be measured on a straightened sheet without landmarks.</summary>
public static class SheetReading
{
    /// <summary>CIE L* of a luminance Y/Yn (CIE 15, published formula): 116·f(t) − 16.</summary>
    public static double Lightness(double y) => y > Math.Pow(6.0 / 29, 3) ? (116 * Math.Cbrt(y)) - 16 : y * Math.Pow(29.0 / 3, 3);

    /// <summary>Linear light of an sRGB value 0 to 255 (IEC 61966-2-1, published).</summary>
    public static double Linear(double value)
    {
        var c = value / 255;
        return c <= 0.04045 ? c / 12.92 : Math.Pow((c + 0.055) / 1.055, 2.4);
    }

    private static readonly double[] LightnessOf = [.. Enumerable.Range(0, 256).Select(v => Lightness(Linear(v)))];

    /// <param name="flat">Straightened sheet.</param>
    /// <param name="mmPerPixel">Its scale.</param>
    public static (Placement? Placement, ToneReading? Tone) Read(GreyImage flat, double mmPerPixel)
    {
        var (img, k) = flat.Shrunk(900);
        var mm = mmPerPixel * k;
        var paper = PaperLevels(img);
        var rim = (int)Math.Ceiling(3 / mm);
        var ink = new bool[img.Width * img.Height];
        var columns = new int[img.Width];
        var rows = new int[img.Height];
        var count = 0;
        for (var y = rim; y < img.Height - rim; y++)
        {
            for (var x = rim; x < img.Width - rim; x++)
            {
                var o = (y * img.Width) + x;
                if (img.Pixels[o] > paper(x, y) - 22)
                    continue;
                ink[o] = true;
                columns[x]++;
                rows[y]++;
                count++;
            }
        }
        if (count < img.Width * img.Height * 0.0004)
            return (null, null);
        var (x0, x1) = Range(columns, count);
        var (y0, y1) = Range(rows, count);
        var cut = new List<string>();
        if (x0 - rim <= 1)
            cut.Add("left");
        if (y0 - rim <= 1)
            cut.Add("top");
        if (img.Width - rim - 1 - x1 <= 1)
            cut.Add("right");
        if (img.Height - rim - 1 - y1 <= 1)
            cut.Add("bottom");
        double w = (x1 - x0 + 1) * mm,
            h = (y1 - y0 + 1) * mm,
            all = img.Width * mm * img.Height * mm;
        var placement = new Placement(
            Round(x0 * mm),
            Round(y0 * mm),
            Round((img.Width - 1 - x1) * mm),
            Round((img.Height - 1 - y1) * mm),
            Round(w),
            Round(h),
            Math.Round((y1 - y0 + 1.0) / img.Height, 3),
            Math.Round(w * h / (all - (w * h) + 1e-9), 2),
            cut
        );
        return (placement, Tone(img, ink, paper, x0, x1, y0, y1));
    }

    private static ToneReading Tone(GreyImage img, bool[] ink, Func<int, int, double> paper, int x0, int x1, int y0, int y1)
    {
        var steps = new double[5];
        var values = new List<double>();
        double bare = 0,
            light = 0;
        for (var y = y0; y <= y1; y++)
        {
            for (var x = x0; x <= x1; x++)
            {
                var l = LightnessOf[img[x, y]];
                steps[Math.Min(4, (int)(l / 20))]++;
                values.Add(l);
                if (!ink[(y * img.Width) + x] && img[x, y] > paper(x, y) - 9)
                    bare++;
                light += LightnessOf[(int)Math.Clamp(paper(x, y), 0, 255)];
            }
        }
        values.Sort();
        var n = values.Count;
        return new(
            [.. steps.Select(s => Math.Round(s / n, 3))],
            Math.Round(values[n / 200], 1),
            Math.Round(light / n, 1),
            Math.Round(bare / n, 3)
        );
    }

    /// <summary>Level of bare paper over the sheet: the 80th percentile of blocks, so that a fall of light is followed.</summary>
    private static Func<int, int, double> PaperLevels(GreyImage img)
    {
        const int size = 48;
        int nx = Math.Max(1, img.Width / size),
            ny = Math.Max(1, img.Height / size);
        var level = new double[nx * ny];
        for (var j = 0; j < ny; j++)
        {
            for (var i = 0; i < nx; i++)
            {
                var v = new List<byte>();
                for (var y = j * img.Height / ny; y < (j + 1) * img.Height / ny; y += 2)
                for (var x = i * img.Width / nx; x < (i + 1) * img.Width / nx; x += 2)
                    v.Add(img[x, y]);
                v.Sort();
                level[(j * nx) + i] = v[(int)(v.Count * 0.8)];
            }
        }
        // A block full of tone must not pass for paper: none falls far below the sheet's middle level.
        var middle = level.Order().ElementAt(level.Length / 2);
        return (x, y) => Math.Max(middle - 30, level[(Math.Min(ny - 1, y * ny / img.Height) * nx) + Math.Min(nx - 1, x * nx / img.Width)]);
    }

    private static (int From, int To) Range(int[] counts, int total)
    {
        int from = 0,
            to = counts.Length - 1;
        for (var sum = 0; from < to && (sum += counts[from]) < total * 0.002; from++) { }
        for (var sum = 0; to > from && (sum += counts[to]) < total * 0.002; to--) { }
        return (from, to);
    }

    private static double Round(double v) => Math.Round(v, 1);
}
