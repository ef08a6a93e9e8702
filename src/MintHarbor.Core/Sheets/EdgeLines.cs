using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Sheets;

/// <summary>A straight edge of the picture: the places p with p·n = offset, n pointing from dark to light.</summary>
/// <param name="Votes">Edge length that stands on it, in pixels of the small picture.</param>
internal sealed record EdgeLine(Vec2 Normal, double Offset, double Votes)
{
    public Vec2? Meet(EdgeLine other)
    {
        var det = Normal.Cross(other.Normal);
        return Math.Abs(det) < 0.2
            ? null
            : new Vec2(
                ((Offset * other.Normal.Y) - (other.Offset * Normal.Y)) / det,
                ((other.Offset * Normal.X) - (Offset * other.Normal.X)) / det
            );
    }
}

/// <summary>Straight edges of a small picture, by a Hough transform (Duda and Hart 1972, from memory) in which every pixel votes
/// only near the direction of its own gradient. Directions are told apart by which side is light, so that the two sides of a
/// sheet, light towards one another, never fall together. A gradient counts by its rank among its neighbours rather than by its size: a side in
/// shadow is as straight as one in the light.</summary>
internal sealed class EdgeLines
{
    private const int Angles = 360;
    private readonly float[] gx,
        gy,
        strength;

    public EdgeLines(GreyImage image)
    {
        (Width, Height) = (image.Width, image.Height);
        Image = Smoothed(image);
        (gx, gy, strength) = (new float[Width * Height], new float[Width * Height], new float[Width * Height]);
        for (var y = 1; y < Height - 1; y++)
        {
            for (var x = 1; x < Width - 1; x++)
            {
                var o = (y * Width) + x;
                float At(int d) => Image[o + d];
                gx[o] = (At(1 - Width) + (2 * At(1)) + At(1 + Width) - At(-1 - Width) - (2 * At(-1)) - At(Width - 1)) / 8;
                gy[o] = (At(Width - 1) + (2 * At(Width)) + At(Width + 1) - At(-Width - 1) - (2 * At(-Width)) - At(1 - Width)) / 8;
                strength[o] = MathF.Sqrt((gx[o] * gx[o]) + (gy[o] * gy[o]));
            }
        }
    }

    public int Width { get; }
    public int Height { get; }

    /// <summary>The picture after a 3 × 3 binomial, which takes grain out.</summary>
    public float[] Image { get; }

    private static float[] Smoothed(GreyImage i)
    {
        var (w, h) = (i.Width, i.Height);
        var rows = new float[w * h];
        var result = new float[w * h];
        for (var y = 0; y < h; y++)
        for (var x = 0; x < w; x++)
            rows[(y * w) + x] = (i[Math.Max(0, x - 1), y] + (2 * i[x, y]) + i[Math.Min(w - 1, x + 1), y]) / 4f;
        for (var y = 0; y < h; y++)
        for (var x = 0; x < w; x++)
            result[(y * w) + x] =
                (rows[(Math.Max(0, y - 1) * w) + x] + (2 * rows[(y * w) + x]) + rows[(Math.Min(h - 1, y + 1) * w) + x]) / 4f;
        return result;
    }

    public float Strength(int x, int y) => strength[(y * Width) + x];

    /// <summary>Gradient along a direction, at the nearest pixel; 0 outside the picture.</summary>
    public double Along(Vec2 p, Vec2 direction)
    {
        int x = (int)Math.Round(p.X),
            y = (int)Math.Round(p.Y);
        return x < 0 || y < 0 || x >= Width || y >= Height ? 0 : (gx[(y * Width) + x] * direction.X) + (gy[(y * Width) + x] * direction.Y);
    }

    /// <summary>The strongest lines, at most <paramref name="most"/>, the strongest first.</summary>
    public List<EdgeLine> Strongest(int most)
    {
        var reach = (int)Math.Ceiling(Math.Sqrt(((double)Width * Width) + ((double)Height * Height))) + 2;
        var votes = new float[Angles * 2 * reach];
        var (cos, sin) = (new float[Angles], new float[Angles]);
        for (var a = 0; a < Angles; a++)
            (sin[a], cos[a]) = MathF.SinCos(a * MathF.PI * 2 / Angles);
        for (var y = 2; y < Height - 2; y++)
        {
            for (var x = 2; x < Width - 2; x++)
            {
                var o = (y * Width) + x;
                var s = strength[o];
                if (s < 1.5f || !Ridge(o))
                    continue;
                var weight = MathF.Min(1, s / 6);
                var middle = (int)MathF.Round(MathF.Atan2(gy[o], gx[o]) * Angles / (MathF.PI * 2));
                for (var d = -4; d <= 4; d++)
                {
                    var a = ((middle + d) % Angles + Angles) % Angles;
                    var r = (int)MathF.Round((x * cos[a]) + (y * sin[a])) + reach;
                    votes[(a * 2 * reach) + r] += weight;
                }
            }
        }
        var lines = new List<EdgeLine>();
        var least = 0.10f * Math.Min(Width, Height);
        while (lines.Count < most)
        {
            var best = 0;
            float value = 0;
            for (var k = 0; k < votes.Length; k++)
                if (votes[k] > value)
                    (best, value) = (k, votes[k]);
            if (value < least)
                break;
            int angle = best / (2 * reach),
                offset = (best % (2 * reach)) - reach;
            lines.Add(new(new(cos[angle], sin[angle]), offset, value));
            // What lies close by is the same edge seen a little aside.
            for (var da = -5; da <= 5; da++)
            {
                var a = ((angle + da) % Angles + Angles) % Angles;
                for (var dr = -7; dr <= 7; dr++)
                    if (offset + dr + reach is var r && r >= 0 && r < 2 * reach)
                        votes[(a * 2 * reach) + r] = 0;
            }
        }
        return lines;
    }

    /// <summary>Whether a pixel's gradient is the greatest along its own direction.</summary>
    private bool Ridge(int o)
    {
        var step = MathF.Abs(gx[o]) > MathF.Abs(gy[o]) ? 1 : Width;
        return strength[o] >= strength[o - step] && strength[o] > strength[o + step];
    }
}
