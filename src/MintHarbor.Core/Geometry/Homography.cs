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

    /// <summary>Map that carries many points over with the least sum of squares of the linear system's rests (the direct linear transform of the same
    /// book, both sets normalised); null where fewer than four pairs are given or they don't fix one.</summary>
    public static Homography? LeastSquares(IReadOnlyList<Vec2> from, IReadOnlyList<Vec2> to)
    {
        if (from.Count < 4 || from.Count != to.Count)
            return null;
        var (a, ta) = Normalise(from);
        var (b, tb) = Normalise(to);
        Span<double> n = stackalloc double[8 * 9];
        for (var i = 0; i < a.Length; i++)
        {
            var (x, y, u, v) = (a[i].X, a[i].Y, b[i].X, b[i].Y);
            Add(n, [x, y, 1, 0, 0, 0, -u * x, -u * y, u]);
            Add(n, [0, 0, 0, x, y, 1, -v * x, -v * y, v]);
        }
        if (!Solve(n))
            return null;
        var hn = Matrix<double>.Build.DenseOfRowArrays([n[8], n[17], n[26]], [n[35], n[44], n[53]], [n[62], n[71], 1]);
        var full = tb.Inverse() * hn * ta;
        return Math.Abs(full[2, 2]) < 1e-14 ? null : new([.. full.ToRowMajorArray().Select(c => c / full[2, 2])]);

        static void Add(Span<double> n, ReadOnlySpan<double> row)
        {
            for (var i = 0; i < 8; i++)
            for (var j = 0; j < 9; j++)
                n[(9 * i) + j] += row[i] * row[j];
        }
    }

    /// <summary>Gauss and Jordan's elimination of eight rows of nine, in place: a sheet is looked for by thousands of such maps, and a matrix of the
    /// package for each would be most of the time. The last column becomes the solution.</summary>
    private static bool Solve(Span<double> n)
    {
        for (var c = 0; c < 8; c++)
        {
            var pivot = c;
            for (var r = c + 1; r < 8; r++)
                if (Math.Abs(n[(9 * r) + c]) > Math.Abs(n[(9 * pivot) + c]))
                    pivot = r;
            if (Math.Abs(n[(9 * pivot) + c]) < 1e-12)
                return false;
            for (var k = 0; k < 9; k++)
                (n[(9 * c) + k], n[(9 * pivot) + k]) = (n[(9 * pivot) + k], n[(9 * c) + k]);
            var by = 1 / n[(9 * c) + c];
            for (var k = c; k < 9; k++)
                n[(9 * c) + k] *= by;
            for (var r = 0; r < 8; r++)
                if (r != c && n[(9 * r) + c] is var f && f != 0)
                    for (var k = c; k < 9; k++)
                        n[(9 * r) + k] -= f * n[(9 * c) + k];
        }
        return true;
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
