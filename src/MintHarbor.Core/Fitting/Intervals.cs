namespace MintHarbor.Core.Fitting;

/// <summary>What tells how far a fitted mark may lie from the true one; lengths in per cent of the height, turns in degrees.</summary>
/// <param name="Sigma">1 σ by the equations.</param>
/// <param name="Moved">From the search's place to the refined one.</param>
/// <param name="Unsupported">The share of its part's lines that no ink was found for.</param>
/// <param name="Misfit">What is left of the whole sheet, a length of line.</param>
/// <param name="Bent">Root mean square of how far the parts are turned against their parents.</param>
/// <param name="OwnBend">The same of the mark's own part.</param>
/// <param name="Warped">How much broader its part grew than longer, as a logarithm.</param>
internal readonly record struct Doubt(
    double Sigma,
    double Moved,
    double Unsupported,
    double Misfit,
    double Bent,
    double OwnBend,
    double Warped
);

/// <summary>The radius round a fitted mark that holds the true place with 90 % probability: k·√Σ(coefficient · doubt²). Coefficients and k were set
/// once, by the greatest likelihood, on 150 figure and 80 head sheets of seeds that no study uses (500 000 and 600 000 on); how they hold on
/// other sheets, bodies, poses and hands stands in docs/study.md.</summary>
internal static class Intervals
{
    /// <summary>Radius over σ that holds nine in ten of a round normal scatter: √(2 ln 10).</summary>
    public const double Ninety = 2.146;

    /// <summary>No line is read more finely, per cent of the height.</summary>
    private const double Least = 0.2;

    private const double MostMoved = 3,
        MisfitOfAll = 0.22;

    /// <summary>By mark, in per cent of the height.</summary>
    public static double Of(PartTree tree, string id, Doubt d)
    {
        var moved = Math.Min(MostMoved, d.Moved);
        var misfit = Math.Max(0, d.Misfit - MisfitOfAll);
        var (square, factor) =
            tree == PartTree.Figure
                ? (
                    (0.687 * d.Sigma * d.Sigma)
                        + (0.0074 * moved * moved)
                        + (9.3 * d.Unsupported * d.Unsupported)
                        + (0.206 * misfit * misfit)
                        + (0.000077 * d.Bent * d.Bent)
                        + (0.00065 * d.OwnBend * d.OwnBend)
                        + (1.755 * d.Warped * d.Warped),
                    OfFigure(id)
                )
                : (
                    (0.21 * d.Sigma * d.Sigma)
                        + (0.033 * moved * moved)
                        + (11.3 * d.Unsupported * d.Unsupported)
                        + (0.00029 * d.Bent * d.Bent)
                        + (0.0242 * d.OwnBend * d.OwnBend)
                        + (16.65 * d.Warped * d.Warped),
                    OfHead(id)
                );
        return Math.Max(Least, factor * Math.Sqrt(square));
    }

    private static double OfFigure(string id) =>
        id.Split('.')[0] switch
        {
            "elbow" or "elbowpit" or "fingertip" or "thumbtip" or "knuckle" => 3.94,
            "wrist" or "wristthumb" or "asis" or "psis" or "iliac" or "trochanter" or "glutefold" or "buttock" or "chin" => 3.48,
            "heel" or "ball" => 3.27,
            "kneetop" or "kneebottom" or "kneein" or "kneeout" or "kneeback" or "anklein" or "ankleout" or "toe" or "pubic" => 2.88,
            _ => 3.07,
        };

    private static double OfHead(string id) =>
        id.Split('.')[0] switch
        {
            "hairline" or "hair-top" or "head-side" or "temple" or "jaw-angle" => 5.5,
            "neck-side" or "pit" or "collar" => 4.9,
            "crown" or "ear-top" => 4.3,
            "wing" or "nosebase" or "nostril" => 2.5,
            "eye-inner" or "eye-outer" or "pupil" or "iris-inner" or "iris-outer" => 2.9,
            _ => 3.6,
        };
}
