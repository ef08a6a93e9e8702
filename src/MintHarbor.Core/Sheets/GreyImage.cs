namespace MintHarbor.Core.Sheets;

/// <summary>Lightness of a picture, 0 to 255 as encoded (sRGB luma), in rows from the top.</summary>
public sealed class GreyImage(int width, int height, byte[] pixels)
{
    public int Width { get; } = width;
    public int Height { get; } = height;
    public byte[] Pixels { get; } =
        pixels.Length == width * height ? pixels : throw new ArgumentException("pixel count does not match the size");

    public byte this[int x, int y] => Pixels[(y * Width) + x];

    /// <summary>Value between pixels, pixel centres at whole numbers; edges are repeated outward.</summary>
    public double At(double x, double y)
    {
        x = Math.Clamp(x, 0, Width - 1.001);
        y = Math.Clamp(y, 0, Height - 1.001);
        int ix = (int)x,
            iy = (int)y;
        double fx = x - ix,
            fy = y - iy;
        var o = (iy * Width) + ix;
        var right = Math.Min(1, Width - 1 - ix);
        var below = iy + 1 < Height ? Width : 0;
        return (((Pixels[o] * (1 - fx)) + (Pixels[o + right] * fx)) * (1 - fy))
            + (((Pixels[o + below] * (1 - fx)) + (Pixels[o + below + right] * fx)) * fy);
    }

    /// <summary>Made smaller by averaging whole blocks, so that the longer side is at most <paramref name="longest"/>.</summary>
    public (GreyImage Image, double Scale) Shrunk(int longest)
    {
        var k = Math.Max(1, (int)Math.Ceiling((double)Math.Max(Width, Height) / longest));
        if (k == 1)
            return (this, 1);
        int w = Width / k,
            h = Height / k;
        var p = new byte[w * h];
        for (var y = 0; y < h; y++)
        {
            for (var x = 0; x < w; x++)
            {
                var sum = 0;
                for (var j = 0; j < k; j++)
                for (var i = 0; i < k; i++)
                    sum += Pixels[(((y * k) + j) * Width) + (x * k) + i];
                p[(y * w) + x] = (byte)(sum / (k * k));
            }
        }
        return (new(w, h, p), k);
    }
}
