using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Technique;

/// <summary>Values of a drawing as the eye mixes them, in CIE L* with bare paper at 95.</summary>
/// <param name="Mean">Of the whole form.</param>
/// <param name="Darkest">That one hundredth of its square millimetres lies below.</param>
/// <param name="Range">From the 3rd to the 97th hundredth.</param>
/// <param name="Untouched">Share of the form that reads as bare paper. Wide faint hatching does too.</param>
/// <param name="Fifths">Share of the form in each fifth of the scale, dark to light; <paramref name="Ninths"/> in each ninth.</param>
public sealed record ToneMeasures(
    double Mean,
    double Darkest,
    double Range,
    double Untouched,
    IReadOnlyList<double> Fifths,
    IReadOnlyList<double> Ninths
)
{
    /// <summary>Smallest share that makes a value real.</summary>
    private const double RealFifth = 0.05,
        RealNinth = 0.04;

    /// <summary>Hatching mixes over this, 1 σ in mm; a rim so wide belongs to the outline, mm; paper is lighter than this.</summary>
    private const float Mix = 2;
    private const int Rim = 3;
    private const float Bare = 91.5f;
    private const double PaperL = 95;
    private const int LeastArea = 50;

    /// <summary>How many real values it has, of five and of nine.</summary>
    public int ValuesOfFive => Fifths.Count(f => f >= RealFifth);
    public int ValuesOfNine => Ninths.Count(n => n >= RealNinth);

    /// <returns>Null where the form is too small.</returns>
    /// <param name="light">Light over paper by square millimetre, rows from the top; <paramref name="inside"/> the form.</param>
    internal static ToneMeasures? Of(float[] light, bool[] inside, int w, int h)
    {
        var mixed = Mixed(light, inside, w, h);
        var inner = InkForm.Far([.. inside.Select(i => !i)], w, h, Rim + 1);
        var (tight, values) = (new List<float>(), new List<float>());
        for (var i = 0; i < inside.Length; i++)
        {
            if (!inside[i])
                continue;
            tight.Add(ToneMap.L(light[i]));
            if (inner[i] > Rim * Rim)
                values.Add(ToneMap.L(mixed[i]));
        }
        if (values.Count < LeastArea)
            return null;
        tight.Sort();
        values.Sort();
        double At(List<float> of, double share) => of[(int)(share * (of.Count - 1))];
        double[] Steps(int n)
        {
            var steps = new double[n];
            foreach (var v in values)
                steps[(int)(Math.Clamp(v / PaperL, 0, 0.9999) * n)] += 1.0 / values.Count;
            return steps;
        }
        return new(
            values.Average(),
            At(tight, 0.01),
            At(values, 0.97) - At(values, 0.03),
            values.Count(v => v >= Bare) / (double)values.Count,
            Steps(5),
            Steps(9)
        );
    }

    /// <summary>By square millimetre the ninth of the scale that it reads in, 0 dark to 8 light; −1 outside the form.</summary>
    internal static sbyte[] NinthsOf(float[] light, bool[] inside, int w, int h) =>
        [.. Mixed(light, inside, w, h).Select((m, i) => inside[i] ? (sbyte)(Math.Clamp(ToneMap.L(m) / PaperL, 0, 0.9999) * 9) : (sbyte)-1)];

    /// <summary>Smoothed within the form only: the paper beside it mixes nothing in.</summary>
    private static float[] Mixed(float[] light, bool[] inside, int w, int h)
    {
        var value = new float[light.Length];
        var weight = new float[light.Length];
        for (var i = 0; i < light.Length; i++)
            if (inside[i])
                (value[i], weight[i]) = (light[i], 1);
        value = Convolution.Gauss(value, w, h, Mix, 0, 0);
        weight = Convolution.Gauss(weight, w, h, Mix, 0, 0);
        for (var i = 0; i < value.Length; i++)
            value[i] = weight[i] > 1e-4f ? value[i] / weight[i] : 0;
        return value;
    }
}
