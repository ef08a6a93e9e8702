namespace MintHarbor.Core.Figure;

/// <summary>A picture in colour, row by row; each pixel red, green, blue and how much it covers (0 nothing, 255 all), from its lowest byte on.</summary>
public sealed record ColourPicture(int Width, int Height, uint[] Pixels)
{
    /// <param name="alpha">0 to 255.</param>
    public static uint Pixel(float red, float green, float blue, float alpha)
    {
        static uint Byte(float v) => (uint)Math.Clamp(v, 0, 255);
        return Byte(red) | (Byte(green) << 8) | (Byte(blue) << 16) | (Byte(alpha) << 24);
    }

    /// <summary>Squares of pixels averaged into one; a colour counts by how much it covers.</summary>
    internal ColourPicture Smaller(int k)
    {
        int w = Width / k,
            h = Height / k;
        var to = new uint[w * h];
        for (var y = 0; y < h; y++)
        for (var x = 0; x < w; x++)
        {
            float r = 0,
                g = 0,
                b = 0,
                a = 0;
            for (var j = 0; j < k; j++)
            for (var i = 0; i < k; i++)
            {
                var p = Pixels[(((y * k) + j) * Width) + (x * k) + i];
                float cover = p >> 24;
                r += (p & 255) * cover;
                g += (p >> 8 & 255) * cover;
                b += (p >> 16 & 255) * cover;
                a += cover;
            }
            to[(y * w) + x] = a == 0 ? 0 : Pixel(r / a, g / a, b / a, a / (k * k));
        }
        return new(w, h, to);
    }
}

/// <summary>Lines of one ink.</summary>
/// <param name="Ink">As a colour is written in SVG.</param>
public sealed record ViewLayer(string Ink, IReadOnlyList<LineStroke> Strokes, float Opacity = 1)
{
    /// <summary>Its lines as many times as strong: a small drawing's would fade.</summary>
    internal ViewLayer Heavier(float times) =>
        this with
        {
            Strokes = [.. Strokes.Select(s => s with { Widths = [.. s.Widths.Select(w => w * times)] })],
        };

    /// <summary>One filled path of every line.</summary>
    public string Path() => Curves.Ribbons(Strokes);
}
