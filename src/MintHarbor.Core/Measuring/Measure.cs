using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;

namespace MintHarbor.Core.Measuring;

public enum MeasureKind { Ratio, Offset, Angle, Sign }

/// <summary>A number taken from landmarks: its landmarks, unit and formula, and how far placement carries into it.</summary>
/// <param name="Eval">The value from the landmarks' places in mm, in <paramref name="Unit"/>.</param>
/// <param name="Formula">In words, for "why".</param>
public sealed record Measure(string Rule, string? Part, MeasureKind Kind, string Unit, IReadOnlyList<string> Needs, Func<Func<string, Vec2>, double> Eval, string Formula)
{
    /// <summary>Words for an offset's two directions, below and above nought.</summary>
    public string Less { get; init; } = "less";
    public string More { get; init; } = "more";

    /// <summary>90 % of a normal distribution lies within this many standard deviations.</summary>
    public const double Ninety = 1.645;

    public string Key => Part is null ? Rule : $"{Rule}: {Part}";

    public bool Seen(LandmarkSet l) => Needs.All(l.Has);

    public double Value(LandmarkSet l) => Eval(id => l[id]!.Value);

    /// <summary>Standard deviation of the value when every coordinate carries a normal error of
    /// <paramref name="sigmaMm"/>: first-order propagation, σ² = Σ(∂f/∂x)²σ², derivatives by central differences.</summary>
    public double Sigma(LandmarkSet l, double sigmaMm)
    {
        if (sigmaMm == 0) return 0;
        const double h = 1e-3;
        double sum = 0;
        foreach (var id in Needs.Distinct())
        {
            foreach (var step in new[] { new Vec2(h, 0), new Vec2(0, h) })
            {
                double At(double sign) => Eval(k => k == id ? l[k]!.Value + (step * sign) : l[k]!.Value);
                var d = At(1) - At(-1);
                if (Kind == MeasureKind.Angle) d = ClockAngle.Wrap(d);
                sum += Math.Pow(d / (2 * h), 2);
            }
        }
        return sigmaMm * Math.Sqrt(sum);
    }
}
