using MathNet.Numerics.LinearAlgebra;

namespace MintHarbor.Core.Geometry;

/// <summary>Scale, turn and shift that lay one point set over another with the least squared distance:
/// the closed form of Umeyama 1991 ("Least-squares estimation of transformation parameters between two point
/// patterns"; from memory), reflections excluded.</summary>
/// <param name="Scale">Factor from source to target.</param>
/// <param name="TurnDegrees">Turn, clockwise on the sheet.</param>
/// <param name="Shift">Shift after scale and turn, in the target's unit.</param>
/// <param name="Residual">Root mean square distance after the fit, in the target's unit.</param>
public sealed record Similarity(double Scale, double TurnDegrees, Vec2 Shift, double Residual)
{
    public Vec2 Map(Vec2 p)
    {
        var (s, c) = Math.SinCos(TurnDegrees * Math.PI / 180);
        return new Vec2((c * p.X) - (s * p.Y), (s * p.X) + (c * p.Y)) * Scale + Shift;
    }

    /// <summary>Best fit of at least two pairs; null when there are fewer or the source points coincide.</summary>
    public static Similarity? Fit(IReadOnlyList<(Vec2 Source, Vec2 Target)> pairs)
    {
        if (pairs.Count < 2)
            return null;
        var n = pairs.Count;
        var cs = new Vec2(pairs.Average(p => p.Source.X), pairs.Average(p => p.Source.Y));
        var ct = new Vec2(pairs.Average(p => p.Target.X), pairs.Average(p => p.Target.Y));
        var cov = Matrix<double>.Build.Dense(2, 2);
        double spread = 0;
        foreach (var (source, target) in pairs)
        {
            var (a, b) = (source - cs, target - ct);
            cov[0, 0] += b.X * a.X / n;
            cov[0, 1] += b.X * a.Y / n;
            cov[1, 0] += b.Y * a.X / n;
            cov[1, 1] += b.Y * a.Y / n;
            spread += a.Dot(a) / n;
        }
        if (spread < 1e-12)
            return null;
        var svd = cov.Svd();
        var flip = svd.U.Determinant() * svd.VT.Determinant() < 0 ? -1.0 : 1.0;
        var d = Matrix<double>.Build.DenseOfDiagonalArray([1, flip]);
        var r = svd.U * d * svd.VT;
        var scale = (svd.S[0] + (flip * svd.S[1])) / spread;
        var turn = Math.Atan2(r[1, 0], r[0, 0]) * 180 / Math.PI;
        var rotatedCentre = new Vec2((r[0, 0] * cs.X) + (r[0, 1] * cs.Y), (r[1, 0] * cs.X) + (r[1, 1] * cs.Y));
        var fit = new Similarity(scale, turn, ct - (rotatedCentre * scale), 0);
        var rms = Math.Sqrt(pairs.Average(p => Math.Pow((fit.Map(p.Source) - p.Target).Length, 2)));
        return fit with { Residual = rms };
    }
}
