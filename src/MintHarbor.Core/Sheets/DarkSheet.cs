namespace MintHarbor.Core.Sheets;

/// <summary>How dark a flat sheet is against its own paper: 1 − grey over paper. The paper's level is the 80th percentile of blocks, smoothed,
/// so that a fall of light is divided out.</summary>
internal sealed class DarkSheet
{
    /// <summary>One row of the picture, 0 to 255.</summary>
    public delegate void Row(int y, Span<float> to);

    private const float Darkest = 20,
        Share = 0.8f;

    private readonly Row row;
    private readonly float[] level;
    private readonly int block,
        across,
        down;

    public int Width { get; }
    public int Height { get; }

    /// <param name="block">Side of a block, pixels.</param>
    /// <param name="smooth">1 σ in blocks.</param>
    public DarkSheet(int width, int height, Row row, int block, float smooth)
    {
        (Width, Height, this.row, this.block) = (width, height, row, block);
        (across, down) = ((width + block - 1) / block, (height + block - 1) / block);
        level = Convolution.Gauss(Levels(), across, down, smooth, 0, 0);
    }

    private float[] Levels()
    {
        var levels = new float[across * down];
        Alone.For(0, down, by =>
        {
            var line = new float[Width];
            var counts = new int[across * 256];
            int first = by * block,
                end = Math.Min(Height, first + block);
            for (var y = first; y < end; y++)
            {
                row(y, line);
                for (var x = 0; x < Width; x++)
                    counts[(x / block * 256) + (int)Math.Clamp(line[x], 0, 255)]++;
            }
            for (var bx = 0; bx < across; bx++)
            {
                var n = (end - first) * (Math.Min(Width, (bx + 1) * block) - (bx * block));
                int sum = 0,
                    v = 0;
                for (; v < 255 && (sum += counts[(bx * 256) + v]) < Share * n; v++) { }
                levels[(by * across) + bx] = v;
            }
        });
        return levels;
    }

    /// <summary>Darkness of a row; a little below 0 where the paper's grain is light.</summary>
    public void Read(int y, Span<float> to)
    {
        row(y, to);
        Span<float> paper = across <= 256 ? stackalloc float[across] : new float[across];
        for (var b = 0; b < across; b++)
            paper[b] = Between(level, across, down, b, (y - (block / 2f)) / block);
        for (var x = 0; x < Width; x++)
        {
            var at = Math.Clamp((x - (block / 2f)) / block, 0, across - 1);
            var left = Math.Min((int)at, Math.Max(0, across - 2));
            var share = at - left;
            var here = (paper[left] * (1 - share)) + (paper[Math.Min(left + 1, across - 1)] * share);
            to[x] = 1 - (to[x] / MathF.Max(Darkest, here));
        }
    }

    /// <summary>A value between four; beyond the edge its own.</summary>
    public static float Between(float[] a, int w, int h, float x, float y)
    {
        x = Math.Clamp(x, 0, w - 1);
        y = Math.Clamp(y, 0, h - 1);
        int ix = Math.Min((int)x, Math.Max(0, w - 2)),
            iy = Math.Min((int)y, Math.Max(0, h - 2)),
            right = w > 1 ? 1 : 0,
            below = h > 1 ? w : 0,
            o = (iy * w) + ix;
        float fx = x - ix,
            fy = y - iy;
        return (((a[o] * (1 - fx)) + (a[o + right] * fx)) * (1 - fy)) + (((a[o + below] * (1 - fx)) + (a[o + below + right] * fx)) * fy);
    }
}
