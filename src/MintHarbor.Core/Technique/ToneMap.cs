using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Technique;

/// <summary>Light of a drawing to the square millimetre, over the light that its own paper sends back. The paper's level is taken outside the
/// drawing's form and carried in, so that tone isn't taken for a shadow on the sheet.</summary>
internal sealed class ToneMap
{
    /// <summary>Luminance that bare paper is set to, so that sheets of any paper and evening can be compared; L* 95.</summary>
    public const float PaperY = 0.88f;

    /// <summary>Of a square millimetre so much of it, the lightest, is below this share of the paper's light where no paper shows any more.</summary>
    private const float SolidLight = 0.86f;
    private const float Percentile = 0.75f;

    /// <summary>Cells of the paper's level, mm; how far from the form paper is taken, mm; rounds that carry it in.</summary>
    private const int PaperCell = 4,
        FromForm = 4,
        Rounds = 220,
        LeastPaper = 8;
    private const float PaperShare = 0.7f,
        OverCorrection = 1.75f,
        DarkestPaper = 0.02f;

    private static readonly float[] Linear = [.. Enumerable.Range(0, 256).Select(v => (float)LightCurves.Linear(v))];

    private readonly InkForm form;

    /// <summary>Linear light over paper by square millimetre, rows from the top.</summary>
    public float[] Light { get; }

    /// <summary>Where charcoal lies so that no paper shows: ridges in it and on its rim are no lines.</summary>
    public bool[] Solid { get; }
    public int Width => form.Width;
    public int Height => form.Height;

    /// <param name="flat">At <see cref="LineTrace.PerMm"/> pixels a millimetre.</param>
    /// <param name="ink">Its lines, which are no paper.</param>
    public ToneMap(GreyImage flat, InkForm form, InkLines ink)
    {
        this.form = form;
        var (mean, upper) = Cells(flat);
        var paper = Paper(mean, ink);
        Light = new float[mean.Length];
        var covered = new bool[mean.Length];
        for (var y = 0; y < Height; y++)
        for (var x = 0; x < Width; x++)
        {
            var o = (y * Width) + x;
            var level = MathF.Max(DarkestPaper, paper(x, y));
            Light[o] = mean[o] / level;
            covered[o] = form.Inside[o] && upper[o] / level < SolidLight;
        }
        // Shrunk by 2 mm, what is left grown by 3.5: lines and hatching leave nothing, a mass leaves itself and its rim.
        var core = InkForm.Far([.. covered.Select(c => !c)], Width, Height, 3);
        Solid = [.. InkForm.Far([.. core.Select(d => d > 4)], Width, Height, 4).Select(d => d <= 12)];
    }

    /// <summary>Mean linear light of each square millimetre, and that of its upper quarter.</summary>
    private (float[] Mean, float[] Upper) Cells(GreyImage flat)
    {
        const int side = (int)LineTrace.PerMm;
        var (mean, upper) = (new float[Width * Height], new float[Width * Height]);
        Alone.For(0, Height, y =>
        {
            Span<byte> values = stackalloc byte[side * side];
            for (var x = 0; x < Width; x++)
            {
                // The last row and column of the form may lie beyond the picture: the nearest whole cell stands for them.
                int px = Math.Min(x * side, flat.Width - side),
                    py = Math.Min(y * side, flat.Height - side);
                float sum = 0;
                for (var k = 0; k < values.Length; k++)
                {
                    values[k] = flat.Pixels[((py + (k / side)) * flat.Width) + px + (k % side)];
                    sum += Linear[values[k]];
                }
                values.Sort();
                (mean[(y * Width) + x], upper[(y * Width) + x]) = (sum / values.Length, Linear[values[(int)(values.Length * Percentile)]]);
            }
        });
        return (mean, upper);
    }

    /// <summary>The paper's own light at every place.</summary>
    private Func<int, int, float> Paper(float[] light, InkLines ink)
    {
        int w = (Width + PaperCell - 1) / PaperCell,
            h = (Height + PaperCell - 1) / PaperCell;
        var bare = Bare(ink);
        var level = new float[w * h];
        var known = new bool[w * h];
        for (var cy = 0; cy < h; cy++)
        for (var cx = 0; cx < w; cx++)
        {
            var values = new List<float>(PaperCell * PaperCell);
            for (var y = cy * PaperCell; y < Math.Min(Height, (cy + 1) * PaperCell); y++)
            for (var x = cx * PaperCell; x < Math.Min(Width, (cx + 1) * PaperCell); x++)
                if (bare[(y * Width) + x])
                    values.Add(light[(y * Width) + x]);
            if (values.Count < LeastPaper)
                continue;
            values.Sort();
            (level[(cy * w) + cx], known[(cy * w) + cx]) = (values[(int)(values.Count * PaperShare)], true);
        }
        CarryIn(level, known, w, h);
        return (x, y) => DarkSheet.Between(level, w, h, (x - 1.5f) / PaperCell, (y - 1.5f) / PaperCell);
    }

    /// <summary>Places outside the form and away from it that no line touches.</summary>
    private bool[] Bare(InkLines ink)
    {
        var far = InkForm.Far(form.Inside, Width, Height, FromForm + 2);
        bool[] bare = [.. far.Select(d => d > FromForm)];
        foreach (var i in ink.Lines.SelectMany(l => l.Places))
            bare[(Math.Min(Height - 1, (int)ink.At(i).Y) * Width) + Math.Min(Width - 1, (int)ink.At(i).X)] = false;
        return bare;
    }

    /// <summary>What isn't known lies evenly between what is (Laplace's equation by successive over-relaxation).</summary>
    private static void CarryIn(float[] level, bool[] known, int w, int h)
    {
        var told = level.Where((_, i) => known[i]).Order().ToArray();
        var middle = told.Length == 0 ? 1 : told[told.Length / 2];
        for (var i = 0; i < level.Length; i++)
            if (!known[i])
                level[i] = middle;
        for (var round = 0; round < Rounds; round++)
        for (var y = 0; y < h; y++)
        for (var x = 0; x < w; x++)
        {
            var o = (y * w) + x;
            if (known[o])
                continue;
            var mean =
                (
                    level[(y * w) + Math.Max(0, x - 1)]
                    + level[(y * w) + Math.Min(w - 1, x + 1)]
                    + level[(Math.Max(0, y - 1) * w) + x]
                    + level[(Math.Min(h - 1, y + 1) * w) + x]
                ) / 4;
            level[o] += OverCorrection * (mean - level[o]);
        }
    }

    /// <summary>CIE L* of a share of the paper's light, with paper set to L* 95.</summary>
    public static float L(float light) => (float)LightCurves.Lightness(Math.Clamp(light * PaperY, 0, 1));
}
