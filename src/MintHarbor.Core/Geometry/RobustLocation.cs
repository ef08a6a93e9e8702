namespace MintHarbor.Core.Geometry;

/// <summary>Where most of some weighted values lie, whatever a few of them say: begun at the weighted median, then Tukey's biweight
/// (Beaton and Tukey 1974, from memory).</summary>
/// <param name="Value">Their common value.</param>
/// <param name="Scatter">1 σ of a single one about it, by the median of the absolute distances (× 1.4826, as of a normal scatter).</param>
/// <param name="Count">How many of equal weight say as much as these together.</param>
public readonly record struct RobustLocation(double Value, double Scatter, double Count)
{
    private const int Rounds = 12;
    private const double Still = 1e-9;

    /// <summary>1 σ of <see cref="Value"/> by the scatter alone.</summary>
    public double Sigma => Count > 0 ? Scatter / Math.Sqrt(Count) : 0;

    /// <param name="reach">Values farther off than this have no say.</param>
    public static RobustLocation Of(IReadOnlyList<(double Value, double Weight)> values, double reach)
    {
        if (values.Count == 0)
            return new(0, 0, 0);
        double[] value = [.. values.Select(v => v.Value)],
            weight = [.. values.Select(v => v.Weight)];
        var (at, count) = Settled(value, weight, reach);
        return new(at, count == 0 ? 0 : 1.4826 * Median([.. value.Select(v => Math.Abs(v - at))], weight), count);
    }

    /// <summary>The value alone, for whoever asks a thousand times.</summary>
    internal static double ValueOf(double[] value, double[] weight, double reach) => Settled(value, weight, reach).At;

    private static (double At, double Count) Settled(double[] value, double[] weight, double reach)
    {
        var at = Median(value, weight);
        double sum = 0,
            squares = 0;
        for (var round = 0; round < Rounds; round++)
        {
            double total = 0;
            (sum, squares) = (0, 0);
            for (var i = 0; i < value.Length; i++)
            {
                var u = (value[i] - at) / reach;
                var near = 1 - (u * u);
                if (near <= 0)
                    continue;
                var w = weight[i] * near * near;
                (total, sum, squares) = (total + (w * value[i]), sum + w, squares + (w * w));
            }
            if (sum <= 0)
                return (at, 0);
            var before = at;
            at = total / sum;
            if (Math.Abs(at - before) < Still * reach)
                break;
        }
        return (at, sum * sum / squares);
    }

    /// <summary>Half of the weight lies on either side.</summary>
    public static double Median(double[] value, double[] weight)
    {
        double[] sorted = [.. value],
            weights = [.. weight];
        Array.Sort(sorted, weights);
        double half = weights.Sum() / 2,
            sum = 0;
        for (var i = 0; i < sorted.Length; i++)
            if ((sum += weights[i]) >= half)
                return sorted[i];
        return sorted[^1];
    }
}
