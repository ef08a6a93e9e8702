using MathNet.Numerics.LinearAlgebra;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>From the field's millimetres to a photograph's pixels: a perspective, and over it a cubic for the lens and for paper that doesn't lie
/// flat.</summary>
internal sealed class SheetMap
{
    /// <summary>So few points carry a perspective alone.</summary>
    private const int Bending = 14;

    /// <summary>Keeps the cubic small where points are few.</summary>
    private const double Ridge = 0.02;
    private const int Terms = 10;

    private readonly Homography flat;
    private readonly double[] x = new double[Terms],
        y = new double[Terms];

    public SheetMap(Homography flat) => this.flat = flat;

    private SheetMap(Homography flat, double[] x, double[] y) => (this.flat, this.x, this.y) = (flat, x, y);

    public Vec2 Map(double sx, double sy)
    {
        var p = flat.Map(new(sx, sy));
        Span<double> t = stackalloc double[Terms];
        Basis(sx, sy, t);
        double dx = 0,
            dy = 0;
        for (var i = 0; i < Terms; i++)
        {
            dx += x[i] * t[i];
            dy += y[i] * t[i];
        }
        return new(p.X + dx, p.Y + dy);
    }

    public Vec2 Map(Vec2 s) => Map(s.X, s.Y);

    /// <summary>Pixels to a millimetre in the middle of the sheet.</summary>
    public double PixelsPerMm => (Map(92, 125) - Map(90, 125)).Length / 2;

    /// <summary>How the sheet lies in the photograph, degrees clockwise; 0 upright.</summary>
    public double Turn => Map(101, 125) - Map(81, 125) is var a ? Math.Atan2(a.Y, a.X) * 180 / Math.PI : 0;

    /// <summary>Fitted by least squares; null where the points can't carry a map.</summary>
    public static SheetMap? Fit(IReadOnlyList<Vec2> sheet, IReadOnlyList<Vec2> photo)
    {
        if (Homography.LeastSquares(sheet, photo) is not { } flat)
            return null;
        if (sheet.Count < Bending)
            return new(flat);
        var a = Matrix<double>.Build.Dense(Terms, Terms);
        var b = Matrix<double>.Build.Dense(Terms, 2);
        Span<double> t = stackalloc double[Terms];
        for (var k = 0; k < sheet.Count; k++)
        {
            Basis(sheet[k].X, sheet[k].Y, t);
            var rest = photo[k] - flat.Map(sheet[k]);
            for (var i = 0; i < Terms; i++)
            {
                for (var j = 0; j < Terms; j++)
                    a[i, j] += t[i] * t[j];
                b[i, 0] += t[i] * rest.X;
                b[i, 1] += t[i] * rest.Y;
            }
        }
        for (var i = 0; i < Terms; i++)
            a[i, i] += Ridge;
        var fit = a.Cholesky().Solve(b);
        return new(flat, [.. fit.Column(0)], [.. fit.Column(1)]);
    }

    private static void Basis(double sx, double sy, Span<double> t)
    {
        double a = (sx - (SheetLayout.Width / 2)) / 100,
            b = (sy - (SheetLayout.Height / 2)) / 100;
        t[0] = 1;
        t[1] = a;
        t[2] = b;
        t[3] = a * a;
        t[4] = a * b;
        t[5] = b * b;
        t[6] = a * a * a;
        t[7] = a * a * b;
        t[8] = a * b * b;
        t[9] = b * b * b;
    }
}
