using MathNet.Numerics.LinearAlgebra;

namespace MintHarbor.Core.Geometry;

/// <summary>The plane-to-plane perspective map x' = Hx in homogeneous coordinates, fixed by four point pairs.
/// Solved as the usual 8×8 linear system with h₃₃ = 1 (Hartley and Zisserman, Multiple View Geometry, ch. 4: the
/// minimal case of the direct linear transform; from memory), after both point sets are moved to their
/// centroid and scaled to mean distance √2.</summary>
public sealed class Homography
{
    private readonly double[] h;

    private Homography(double[] h) => this.h = h;

    /// <summary>The nine coefficients in row order, scaled so that the last is 1.</summary>
    public IReadOnlyList<double> Coefficients => h;

    /// <summary>Map that carries <paramref name="from"/>[i] to <paramref name="to"/>[i]. Needs exactly four pairs,
    /// no three points of either set on one line; otherwise <see cref="ArgumentException"/>.</summary>
    public static Homography FromFourPoints(IReadOnlyList<Vec2> from, IReadOnlyList<Vec2> to)
    {
        if (from.Count != 4 || to.Count != 4)
            throw new ArgumentException("a perspective is fixed by exactly four point pairs");
        if (IsDegenerate(from) || IsDegenerate(to))
            throw new ArgumentException("three of the four points lie on one line");
        var (a, ta) = Normalise(from);
        var (b, tb) = Normalise(to);
        var m = Matrix<double>.Build.Dense(8, 8);
        var r = Vector<double>.Build.Dense(8);
        for (var i = 0; i < 4; i++)
        {
            var (x, y, u, v) = (a[i].X, a[i].Y, b[i].X, b[i].Y);
            m.SetRow(2 * i, [x, y, 1, 0, 0, 0, -u * x, -u * y]);
            m.SetRow((2 * i) + 1, [0, 0, 0, x, y, 1, -v * x, -v * y]);
            (r[2 * i], r[(2 * i) + 1]) = (u, v);
        }
        var s = m.Solve(r);
        var hn = Matrix<double>.Build.DenseOfRowArrays([s[0], s[1], s[2]], [s[3], s[4], s[5]], [s[6], s[7], 1]);
        var full = tb.Inverse() * hn * ta;
        var last = full[2, 2];
        if (Math.Abs(last) < 1e-14)
            throw new ArgumentException("the four points put the origin at infinity");
        return new Homography([.. full.ToRowMajorArray().Select(c => c / last)]);
    }

    /// <summary>Carries one point over. A point on the vanishing line gives infinite coordinates.</summary>
    public Vec2 Map(Vec2 p)
    {
        var w = (h[6] * p.X) + (h[7] * p.Y) + h[8];
        return new(((h[0] * p.X) + (h[1] * p.Y) + h[2]) / w, ((h[3] * p.X) + (h[4] * p.Y) + h[5]) / w);
    }

    private static (Vec2[] Points, Matrix<double> T) Normalise(IReadOnlyList<Vec2> p)
    {
        var c = new Vec2(p.Average(q => q.X), p.Average(q => q.Y));
        var k = Math.Sqrt(2) / p.Average(q => (q - c).Length);
        var t = Matrix<double>.Build.DenseOfRowArrays([k, 0, -k * c.X], [0, k, -k * c.Y], [0, 0, 1]);
        return ([.. p.Select(q => (q - c) * k)], t);
    }

    private static bool IsDegenerate(IReadOnlyList<Vec2> p)
    {
        var size = p.Max(q => (q - p[0]).Length);
        for (var skip = 0; skip < 4; skip++)
        {
            var t = p.Where((_, i) => i != skip).ToArray();
            if (Math.Abs((t[1] - t[0]).Cross(t[2] - t[0])) <= 1e-9 * size * size)
                return true;
        }
        return false;
    }
}
