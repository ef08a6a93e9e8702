using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.DrillSheets;

/// <summary>A photograph in linear light, 0 to 1. A pixel reaches from its whole number to the next; its middle is half way.</summary>
internal sealed class LinearPicture(GreyImage grey)
{
    private static readonly float[] Light = [.. Enumerable.Range(0, 256).Select(v => (float)LightCurves.Linear(v))];

    public int Width => grey.Width;
    public int Height => grey.Height;
    public double Diagonal => Math.Sqrt(((double)Width * Width) + ((double)Height * Height));

    /// <summary>Between pixels; 0 outside.</summary>
    public float At(double x, double y)
    {
        x -= 0.5;
        y -= 0.5;
        if (!(x >= 0 && y >= 0 && x < Width - 1 && y < Height - 1))
            return 0;
        int ix = (int)x,
            iy = (int)y;
        float fx = (float)(x - ix),
            fy = (float)(y - iy);
        var p = grey.Pixels;
        var i = (iy * Width) + ix;
        var above = ((1 - fx) * Light[p[i]]) + (fx * Light[p[i + 1]]);
        var below = ((1 - fx) * Light[p[i + Width]]) + (fx * Light[p[i + Width + 1]]);
        return ((1 - fy) * above) + (fy * below);
    }

    public float At(Vec2 p) => At(p.X, p.Y);

    /// <summary>Made smaller by averaging blocks of so many pixels.</summary>
    public (float[] Light, int Width, int Height) Shrunk(int by)
    {
        int w = Width / by,
            h = Height / by;
        var small = new float[w * h];
        var share = 1f / (by * by);
        for (var y = 0; y < h; y++)
        for (var j = 0; j < by; j++)
        {
            var row = grey.Pixels.AsSpan(((y * by) + j) * Width, w * by);
            for (var x = 0; x < w; x++)
            {
                float sum = 0;
                foreach (var v in row.Slice(x * by, by))
                    sum += Light[v];
                small[(y * w) + x] += sum * share;
            }
        }
        return (small, w, h);
    }
}
