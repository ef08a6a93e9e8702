using MathNet.Numerics;
using MathNet.Numerics.Distributions;

namespace MintHarbor.Core.Practice;

/// <summary>How well somebody judges a measure, from every answer they gave: the width of error within which three of four of their answers lie.</summary>
/// <param name="Width">That width, in the drill's unit of error.</param>
/// <param name="Least">Lower end of its 90 % interval.</param>
/// <param name="Most">Upper end.</param>
/// <param name="Bias">Which way the eye leans, and by how much.</param>
/// <param name="Scatter">Standard deviation about that.</param>
/// <param name="Answers">How many answers it is known from.</param>
public sealed record Threshold(double Width, double Least, double Most, double Bias, double Scatter, int Answers);

/// <summary>The psychometric function of an answer that is a number: the share of answers that err by no more than w,
/// ψ(w) = (1 − λ)·(Φ((w − b)/σ) − Φ((−w − b)/σ)) + λ·2w/R. Eyes lean by b and scatter by σ; now and then somebody slips (λ), and then any answer within the
/// range R is as likely as another. Source for the form, for λ and for fitting it by greatest likelihood: Wichmann and Hill, The psychometric function I,
/// Perception and Psychophysics 63 (2001), from memory. A difficulty is a width, so one function serves all of them: what is fitted is each answer's own
/// error (the density of ψ), which says more than whether it was right.</summary>
public static class Psychometric
{
    /// <summary>Share of answers that are slips of the hand; held, since it can't be told from so few.</summary>
    public const double Lapse = 0.01;

    /// <summary>Share of right answers that a threshold is read at.</summary>
    public const double At = 0.75;

    /// <summary>Fewer answers than this say nothing yet.</summary>
    public const int Fewest = 20;

    private const int Rounds = 200;

    /// <summary>1.645: how many standard errors hold nine of ten.</summary>
    private static readonly double Nine = Normal.InvCDF(0, 1, 0.95);

    /// <param name="errors">Signed errors.</param>
    /// <param name="range">R, the breadth over which a slip may fall.</param>
    /// <returns>Null where there are too few, or all are alike.</returns>
    public static Threshold? Of(IReadOnlyCollection<double> errors, double range)
    {
        if (errors.Count < Fewest || Fit(errors, range) is not { Scatter: > 0 } fit)
            return null;
        var width = WidthOf(fit.Bias, fit.Scatter, range);
        var doubt = Nine * Doubt(errors.Count, fit, width, range);
        return new(width, width * Math.Exp(-doubt / width), width * Math.Exp(doubt / width), fit.Bias, fit.Scatter, errors.Count);
    }

    /// <summary>−ln of how likely errors are with this bias and scatter.</summary>
    public static double Unlikeliness(IEnumerable<double> errors, double bias, double scatter, double range) =>
        -errors.Sum(e => Math.Log(((1 - Lapse) * Normal.PDF(bias, scatter, e)) + (Lapse / range)));

    /// <summary>Bias and scatter of greatest likelihood, by expectation and maximisation: each answer counts as far as it is no slip.</summary>
    public static (double Bias, double Scatter) Fit(IReadOnlyCollection<double> errors, double range)
    {
        // From the median, so that a slip does not draw the beginning after it.
        var sorted = errors.Order().ToList();
        var bias = sorted[sorted.Count / 2];
        var scatter = 1.4826 * sorted.Select(e => Math.Abs(e - bias)).Order().ElementAt(sorted.Count / 2);
        if (scatter <= 0)
            return (bias, 0);
        for (var round = 0; round < Rounds; round++)
        {
            var own = errors.Select(e => (Error: e, Counts: Counts(e, bias, scatter, range))).ToList();
            var all = own.Sum(o => o.Counts);
            var to = own.Sum(o => o.Counts * o.Error) / all;
            var spread = Math.Sqrt(own.Sum(o => o.Counts * (o.Error - to) * (o.Error - to)) / all);
            var moved = Math.Abs(to - bias) + Math.Abs(spread - scatter);
            (bias, scatter) = (to, spread);
            if (moved < 1e-9 * scatter)
                break;
        }
        return (bias, scatter);
    }

    /// <summary>How probably an answer is no slip.</summary>
    private static double Counts(double error, double bias, double scatter, double range)
    {
        var own = (1 - Lapse) * Normal.PDF(bias, scatter, error);
        return own / (own + (Lapse / range));
    }

    /// <summary>ψ(w).</summary>
    public static double Share(double width, double bias, double scatter, double range) =>
        ((1 - Lapse) * (Normal.CDF(bias, scatter, width) - Normal.CDF(bias, scatter, -width))) + (Lapse * Math.Min(1, 2 * width / range));

    private static double WidthOf(double bias, double scatter, double range) =>
        FindRoots.OfFunction(w => Share(w, bias, scatter, range) - At, 1e-9, Math.Abs(bias) + (6 * scatter) + 1e-9, 1e-10);

    /// <summary>Standard error of the width: what bias (σ²/n) and scatter (σ²/2n) are unsure of, carried through ψ.</summary>
    private static double Doubt(int answers, (double Bias, double Scatter) fit, double width, double range)
    {
        var step = fit.Scatter * 1e-3;
        var byBias = (WidthOf(fit.Bias + step, fit.Scatter, range) - width) / step;
        var byScatter = (WidthOf(fit.Bias, fit.Scatter + step, range) - width) / step;
        return fit.Scatter * Math.Sqrt(((byBias * byBias) + (byScatter * byScatter / 2)) / answers);
    }
}
