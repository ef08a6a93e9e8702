using MathNet.Numerics.LinearAlgebra;

namespace MintHarbor.Core.Sheets;

/// <summary>How light falls across a flat sheet, told by its bare paper: a smooth surface (cubic in both directions) fitted to
/// the lightest tone of many small blocks, blocks darkened by drawing left out. Evening divides by it. A hard cast shadow is
/// not smooth and stays.</summary>
public sealed class LightField
{
    private const int Across = 28,
        Terms = 10;
    private readonly double[] fit;
    private readonly double level;

    private LightField(double[] fit, double level, double before, double after, double paperShare)
    {
        (this.fit, this.level) = (fit, level);
        (SpreadBefore, SpreadAfter, PaperShare) = (before, after, paperShare);
    }

    /// <summary>CIE L* between the darkest and the lightest bare paper (5 to 95 % of the blocks), as photographed.</summary>
    public double SpreadBefore { get; }

    /// <summary>The same after evening.</summary>
    public double SpreadAfter { get; }

    /// <summary>Share of the sheet's blocks that show bare paper, 0 to 1.</summary>
    public double PaperShare { get; }

    /// <summary>Least spread worth evening, and least paper to tell the light from.</summary>
    public const double Worth = 2,
        LeastPaper = 0.25;

    public bool Evens => SpreadBefore > Worth && PaperShare >= LeastPaper && SpreadAfter < SpreadBefore;

    public string Says =>
        PaperShare < LeastPaper ? "Too little bare paper to tell the light from; it stays as photographed."
        : !Evens ? $"The light lies even: bare paper within {Say.Number(SpreadBefore, 1)} of lightness."
        : $"The light is evened: bare paper within {Say.Number(SpreadAfter, 1)} of lightness, {Say.Number(SpreadBefore, 1)} before.";

    /// <summary>By what linear light is multiplied at a place, u and v from 0 to 1 across and down the sheet.</summary>
    public double Gain(double u, double v) => Math.Clamp(level / Math.Exp(Value(fit, u, v)), 0.25, 8);

    /// <param name="flat">The straightened sheet; grey as encoded (sRGB).</param>
    public static LightField Of(GreyImage flat)
    {
        var block = Math.Max(6, flat.Width / Across);
        var (columns, rows) = (Math.Max(4, flat.Width / block), Math.Max(4, flat.Height / block));
        var blocks = new List<(double U, double V, double Log)>();
        var histogram = new int[256];
        for (var r = 0; r < rows; r++)
        {
            for (var c = 0; c < columns; c++)
            {
                Array.Clear(histogram);
                int x0 = c * flat.Width / columns,
                    x1 = (c + 1) * flat.Width / columns,
                    y0 = r * flat.Height / rows,
                    y1 = (r + 1) * flat.Height / rows,
                    n = 0;
                for (var y = y0; y < y1; y += 2)
                for (var x = x0; x < x1; x += 2, n++)
                    histogram[flat[x, y]]++;
                blocks.Add(
                    ((c + 0.5) / columns, (r + 0.5) / rows, Math.Log(Math.Max(1e-4, LightCurves.Linear(Quantile(histogram, n, 0.75)))))
                );
            }
        }
        var weights = Enumerable.Repeat(1.0, blocks.Count).ToArray();
        var fit = Fit(blocks, weights);
        // Drawing only ever darkens: what lies under the surface by more than a few hundredths is drawn on and loses its say.
        for (var pass = 0; pass < 12; pass++)
        {
            var width = Math.Max(0.02, 0.30 * Math.Pow(0.75, pass));
            for (var k = 0; k < blocks.Count; k++)
            {
                var off = blocks[k].Log - Value(fit, blocks[k].U, blocks[k].V);
                weights[k] =
                    off < -width ? 0.001
                    : off > 0.15 ? 0.1
                    : 1;
            }
            fit = Fit(blocks, weights);
        }
        var paper = blocks.Where((b, k) => weights[k] > 0.5).ToList();
        if (paper.Count == 0)
            return new(fit, Math.Exp(Value(fit, 0.5, 0.5)), 0, 0, 0);
        var level = Math.Exp(paper.Select(b => Value(fit, b.U, b.V)).Order().ElementAt((int)(0.95 * (paper.Count - 1))));
        return new(
            fit,
            level,
            Spread(paper.Select(b => LightCurves.Lightness(Math.Exp(b.Log)))),
            Spread(paper.Select(b => LightCurves.Lightness(Math.Min(1, Math.Exp(b.Log) * level / Math.Exp(Value(fit, b.U, b.V)))))),
            (double)paper.Count / blocks.Count
        );
    }

    private static int Quantile(int[] histogram, int n, double share)
    {
        var wanted = share * n;
        for (int v = 0, sum = 0; v < 256; v++)
            if ((sum += histogram[v]) >= wanted)
                return v;
        return 255;
    }

    private static double Spread(IEnumerable<double> values)
    {
        var v = values.Order().ToList();
        return v[(int)(0.95 * (v.Count - 1))] - v[(int)(0.05 * (v.Count - 1))];
    }

    private static double[] Fit(List<(double U, double V, double Log)> blocks, double[] weights)
    {
        var a = Matrix<double>.Build.Dense(Terms, Terms);
        var b = Vector<double>.Build.Dense(Terms);
        for (var k = 0; k < blocks.Count; k++)
        {
            var t = Basis(blocks[k].U, blocks[k].V);
            for (var i = 0; i < Terms; i++)
            {
                b[i] += weights[k] * t[i] * blocks[k].Log;
                for (var j = 0; j < Terms; j++)
                    a[i, j] += weights[k] * t[i] * t[j];
            }
        }
        // A breath of ridge keeps the corners tame where hardly any paper is left.
        for (var i = 1; i < Terms; i++)
            a[i, i] += 1e-3 * blocks.Count * (i < 3 ? 0.1 : 1);
        return [.. a.Cholesky().Solve(b)];
    }

    private static double[] Basis(double u, double v)
    {
        var (x, y) = ((2 * u) - 1, (2 * v) - 1);
        return [1, x, y, x * x, x * y, y * y, x * x * x, x * x * y, x * y * y, y * y * y];
    }

    private static double Value(double[] fit, double u, double v)
    {
        var t = Basis(u, v);
        double sum = 0;
        for (var i = 0; i < Terms; i++)
            sum += fit[i] * t[i];
        return sum;
    }
}
