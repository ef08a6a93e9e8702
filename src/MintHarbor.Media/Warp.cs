using System.Runtime.Intrinsics;
using MintHarbor.Core.Geometry;
using SkiaSharp;

namespace MintHarbor.Media;

/// <summary>Lays a plane of a photograph flat: every pixel of the target is read from the source by bilinear interpolation. Where
/// the photograph is much finer than the target it is halved first, else every second line of the hand would be lost.</summary>
internal static class Warp
{
    /// <summary>Source pixels to a target pixel from which on the source is halved.</summary>
    private const double Coarse = 1.6;
    private const int Band = 16,
        Stretch = 16;

    /// <param name="source">Eight bits a channel, four channels; it is left as it is.</param>
    /// <param name="toSource">From the target to the source, both counted from the upper left pixel's outer corner.</param>
    public static unsafe void Run(SKBitmap source, SKBitmap target, Homography toSource)
    {
        var scale = 1.0;
        var (w, h) = (source.Width, source.Height);
        uint[]? halved = null;
        for (var fine = Fineness(toSource, target.Width, target.Height); fine >= Coarse && w >= 4 && h >= 4; fine /= 2)
        {
            fixed (uint* own = halved)
                halved = Halve(halved is null ? (uint*)source.GetPixels() : own, ref w, ref h, halved is null ? source.RowBytes / 4 : w);
            scale /= 2;
        }
        var m = toSource.Coefficients.ToArray();
        var stride = halved is null ? source.RowBytes / 4 : w;
        var (tw, th, outStride) = (target.Width, target.Height, target.RowBytes / 4);
        var pixels = (nint)target.GetPixels();
        fixed (uint* own = halved)
        {
            var from = (nint)(halved is null ? (uint*)source.GetPixels() : own);
            Parallel.For(0, (th + Band - 1) / Band, band =>
            {
                for (var y = band * Band; y < Math.Min(th, (band + 1) * Band); y++)
                    Row((uint*)from, w, h, stride, (uint*)pixels + ((long)y * outStride), tw, y + 0.5, m, scale);
            });
        }
    }

    /// <summary>One row, in short stretches: the place in the source is computed at a stretch's ends and runs straight between
    /// them, which is off by a hundredth of a pixel at the steepest view, and needs no division within.</summary>
    private static unsafe void Row(uint* source, int w, int h, int stride, uint* target, int width, double y, double[] m, double scale)
    {
        double a = (m[1] * y) + m[2],
            b = (m[4] * y) + m[5],
            c = (m[7] * y) + m[8],
            m0 = m[0],
            m3 = m[3],
            m6 = m[6];
        var (u, v) = At(0.5);
        for (var x = 0; x < width; x += Stretch)
        {
            var (nextU, nextV) = At(x + Stretch + 0.5);
            int fu = Fixed(u),
                fv = Fixed(v),
                du = (Fixed(nextU) - fu) / Stretch,
                dv = (Fixed(nextV) - fv) / Stretch;
            var end = Math.Min(width, x + Stretch);
            if (Inside(u, v) && Inside(nextU, nextV))
            {
                for (var k = x; k < end; k++, fu += du, fv += dv)
                {
                    var p = source + ((long)(fv >> 16) * stride) + (fu >> 16);
                    uint fx = (uint)(fu >> 8) & 255,
                        fy = (uint)(fv >> 8) & 255;
                    target[k] = Four(p, p + stride, fx, fy) | 0xFF000000;
                }
            }
            else
            {
                for (var k = x; k < end; k++, fu += du, fv += dv)
                    target[k] = Edge(source, w, h, stride, fu, fv);
            }
            (u, v) = (nextU, nextV);
        }

        (double U, double V) At(double x)
        {
            var k = scale / ((m6 * x) + c);
            return ((((m0 * x) + a) * k) - 0.5, (((m3 * x) + b) * k) - 0.5);
        }

        bool Inside(double p, double q) => p >= 0 && q >= 0 && p < w - 1 && q < h - 1;

        static int Fixed(double p) => (int)Math.Clamp(p * 65536, int.MinValue / 2, int.MaxValue / 2);
    }

    /// <summary>A pixel whose neighbours may lie outside the source: the border's own colour half a pixel out, white beyond.</summary>
    private static unsafe uint Edge(uint* source, int w, int h, int stride, int fu, int fv)
    {
        int left = fu >> 16,
            top = fv >> 16;
        if (left < -1 || top < -1 || left >= w || top >= h)
            return 0xFFFFFFFF;
        int l = Math.Max(0, left),
            r = Math.Min(w - 1, left + 1);
        uint* upper = source + ((long)Math.Max(0, top) * stride),
            lower = source + ((long)Math.Min(h - 1, top + 1) * stride);
        uint fx = (uint)(fu >> 8) & 255,
            fy = (uint)(fv >> 8) & 255;
        return Mix(Mix(upper[l], upper[r], fx), Mix(lower[l], lower[r], fx), fy) | 0xFF000000;
    }

    /// <summary>Four neighbours mixed: first downwards, two pixels of four channels at once, then across.</summary>
    private static unsafe uint Four(uint* upper, uint* lower, uint fx, uint fy)
    {
        const ulong lanes = 0x0001000100010001;
        var down = Vector128.ShiftRightLogical(
            (Vector128.WidenLower(Vector128.CreateScalarUnsafe(*(ulong*)upper).AsByte()) * (ushort)(256 - fy))
                + (Vector128.WidenLower(Vector128.CreateScalarUnsafe(*(ulong*)lower).AsByte()) * (ushort)fy)
                + Vector128.Create((ushort)128),
            8
        );
        var across = (down * Vector128.Create((256 - fx) * lanes, fx * lanes).AsUInt16()).AsUInt64();
        // No lane runs over: the weights add up to 256.
        var sum = (across.GetElement(0) + across.GetElement(1) + (128 * lanes)) >> 8 & (255 * lanes);
        sum = (sum | (sum >> 8)) & 0x0000FFFF0000FFFF;
        return (uint)(sum | (sum >> 16));
    }

    /// <summary>Two pixels mixed, all four channels at once: red and blue in one product, green and alpha in the other.</summary>
    private static uint Mix(uint p, uint q, uint f)
    {
        var rb = (((p & 0xFF00FF) * (256 - f)) + ((q & 0xFF00FF) * f) + 0x800080) >> 8 & 0xFF00FF;
        var ga = (((p >> 8) & 0xFF00FF) * (256 - f)) + (((q >> 8) & 0xFF00FF) * f) + 0x800080 & 0xFF00FF00;
        return rb | ga;
    }

    private static unsafe uint[] Halve(uint* source, ref int w, ref int h, int stride)
    {
        var (nw, nh) = (w / 2, h / 2);
        var result = new uint[nw * nh];
        var from = (nint)source;
        Parallel.For(0, nh, y =>
        {
            uint* upper = (uint*)from + (2L * y * stride),
                lower = upper + stride;
            for (var x = 0; x < nw; x++)
            {
                uint p = upper[2 * x],
                    q = upper[(2 * x) + 1],
                    r = lower[2 * x],
                    s = lower[(2 * x) + 1];
                var rb = ((p & 0xFF00FF) + (q & 0xFF00FF) + (r & 0xFF00FF) + (s & 0xFF00FF) + 0x20002) >> 2 & 0xFF00FF;
                var ga =
                    (((p >> 8) & 0xFF00FF) + ((q >> 8) & 0xFF00FF) + ((r >> 8) & 0xFF00FF) + ((s >> 8) & 0xFF00FF) + 0x20002) >> 2
                    & 0xFF00FF;
                result[(y * nw) + x] = rb | (ga << 8);
            }
        });
        (w, h) = (nw, nh);
        return result;
    }

    /// <summary>Source pixels to a target pixel, by the area that the target covers.</summary>
    private static double Fineness(Homography toSource, int w, int h)
    {
        Vec2[] seen = [toSource.Map(new(0, 0)), toSource.Map(new(w, 0)), toSource.Map(new(w, h)), toSource.Map(new(0, h))];
        var area = Math.Abs(Enumerable.Range(0, 4).Sum(i => seen[i].Cross(seen[(i + 1) % 4])) / 2);
        return Math.Sqrt(area / ((double)w * h));
    }
}
