using System.Numerics;

namespace MintHarbor.Core.Fitting;

/// <param name="Cost">Of the last step: what the ink, the clicks and the hand's freedom leave.</param>
/// <param name="Support">By part: the share of its lines that ink was found for, 0 to 1.</param>
/// <param name="Sigma">By mark: 1 σ of each coordinate by the equations, mm.</param>
internal sealed record Refined(PartChain Chain, double Cost, double[] Support, IReadOnlyDictionary<string, double> Sigma);

/// <summary>Bends a laid reference onto the ink by Gauss and Newton's steps: distances square to the ink, far ink counting less and less
/// (Geman and McClure's weights), and priors of what a hand does (Cauchy's weights, so that one fault isn't shared out among all).</summary>
internal sealed class Refinement
{
    /// <summary>From how far ink draws, mm, in turn; so many steps each.</summary>
    private static readonly float[] Reaches = [4, 3, 2.2f, 1.8f];
    private const int StepsEach = 4;

    /// <summary>Neighbouring samples say much the same: each counts for so much less.</summary>
    private const float DataWeight = 1 / 0.4f;

    /// <summary>1 σ of a click, and of a mark that a person placed, mm.</summary>
    private const float CrownSigma = 1.5f,
        SoleSigma = 2;
    public const float PinSigma = 1.2f;

    private const double LengthAlone = 0.12,
        MostTurnStep = 0.12;

    private readonly LaidReference laid;
    private readonly InkMaps ink;
    private readonly float clickFactor;
    private readonly (int I, int? Less, double Sigma)[] priors;
    private readonly Slopes slopes;
    private readonly NormalEquations equations;

    /// <param name="clickFactor">How much looser the clicks are than a person's: proposed ones are.</param>
    public Refinement(LaidReference laid, InkMaps ink, float clickFactor)
    {
        (this.laid, this.ink, this.clickFactor) = (laid, ink, clickFactor);
        var n = laid.Tree.Parts.Count * PartChain.Each;
        (slopes, equations) = (new(n), new(n));
        priors = [.. Priors(laid.Tree, laid.Height)];
    }

    private static IEnumerable<(int, int?, double)> Priors(PartTree tree, float height)
    {
        for (var p = 0; p < tree.Parts.Count; p++)
        {
            var part = tree.Parts[p];
            int o = p * PartChain.Each;
            int? parent = part.Parent < 0 ? null : part.Parent * PartChain.Each;
            yield return (o + PartChain.Turn, parent + PartChain.Turn, part.Turn * Math.PI / 180);
            if (parent is not null)
                yield return (o + PartChain.Length, parent + PartChain.Length, part.Length);
            yield return (o + PartChain.Length, null, LengthAlone);
            yield return (o + PartChain.Breadth, o + PartChain.Length, part.Breadth);
            yield return (o + PartChain.Breadth, null, part.Breadth * 1.1);
            yield return (o + PartChain.X, null, part.Slip * height);
            yield return (o + PartChain.Y, null, part.Slip * height);
        }
        foreach (var pair in tree.Pairs)
            yield return ((pair.Of.A * PartChain.Each) + PartChain.Length, (pair.Of.B * PartChain.Each) + PartChain.Length, pair.Length);
    }

    public Refined Run(PartChain chain, IReadOnlyDictionary<string, Vector2> pins)
    {
        foreach (var reach in Reaches)
        {
            for (var k = 0; k < StepsEach; k++)
            {
                Gather(chain, reach, pins, null);
                if (!equations.Factor())
                    break;
                Move(chain, equations.Step());
            }
        }
        var found = new double[laid.Tree.Parts.Count];
        var cost = Gather(chain, Reaches[^1], pins, found);
        equations.Factor();
        var sigma = new Dictionary<string, double>();
        foreach (var m in laid.Marks)
        {
            chain.Slopes(m.Shares, m.At, slopes);
            sigma[m.Id] = Math.Sqrt(equations.Variance(slopes));
        }
        return new(chain, cost, found, sigma);
    }

    /// <summary>A step that would turn a part far is made shorter.</summary>
    private static void Move(PartChain chain, double[] step)
    {
        double most = 0;
        for (var o = PartChain.Turn; o < step.Length; o += PartChain.Each)
            most = Math.Max(most, Math.Abs(step[o]));
        var share = most > MostTurnStep ? MostTurnStep / most : 1;
        var values = (float[])chain.Values.Clone();
        for (var i = 0; i < values.Length; i++)
            values[i] += (float)(step[i] * share);
        chain.Set(values);
    }

    /// <param name="support">Filled with the share of each part's lines that ink was found for.</param>
    private double Gather(PartChain chain, float reach, IReadOnlyDictionary<string, Vector2> pins, double[]? support)
    {
        equations.Clear();
        var all = new double[laid.Tree.Parts.Count];
        double cost = 0;
        foreach (var s in laid.Samples)
        {
            all[s.Part] += s.Weight;
            cost += Pull(chain, s, 1 / (reach * reach), out var met);
            if (met && support is not null)
                support[s.Part] += s.Weight;
        }
        for (var p = 0; support is not null && p < all.Length; p++)
            support[p] = all[p] > 0 ? support[p] / all[p] : 1;
        cost += Hold(chain, laid.TopMark, laid.Crown, CrownSigma * clickFactor);
        cost += Hold(chain, laid.SoleMark, laid.Sole, SoleSigma * clickFactor);
        foreach (var m in laid.Marks)
            if (pins.TryGetValue(m.Id, out var to))
                cost += Hold(chain, m, to, PinSigma);
        foreach (var (i, less, sigma) in priors)
        {
            var off = chain.Values[i] - (less is { } j ? chain.Values[j] : 0);
            var u = 0.7 * off / sigma;
            cost += 0.5 * Math.Log(1 + (u * u)) / 0.49;
            equations.Add(i, less, off, 1 / (1 + (u * u)) / (sigma * sigma));
        }
        return cost;
    }

    /// <summary>The nearest ink that runs about the same way draws a sample square to itself.</summary>
    private double Pull(PartChain chain, Sample s, float perSquare, out bool met)
    {
        var at = chain.At(s.Shares, s.At);
        int x = (int)at.X,
            y = (int)at.Y;
        met = false;
        var channel = InkMaps.Channel(chain.Map[s.Part] * s.Along);
        if (
            at.X < 0
            || at.Y < 0
            || x >= ink.Width
            || y >= ink.Height
            || ink.Nearest[channel][(y * ink.Width) + x] is var nearest && nearest < 0
        )
            return s.Weight * DataWeight;
        var line = ink.Ink[nearest];
        var off = at - line.At;
        var square = off.LengthSquared();
        // Faint ink, and ink of another direction, is held to lie a little farther than it does.
        var e = (square + (0.35f * MathF.Max(0, ink.Squared[channel][(y * ink.Width) + x] - square))) * perSquare;
        var near = 1 / (1 + e);
        met = e < 4;
        var weight = s.Weight * near * near * DataWeight * perSquare * (0.4f + (0.6f * line.Weight));
        if (weight >= 1e-3f * perSquare)
        {
            var (sin, cos) = MathF.SinCos(line.Angle);
            var across = new Vector2(-sin, cos);
            chain.Slopes(s.Shares, s.At, slopes);
            equations.Add(slopes, across, Vector2.Dot(across, off), weight);
        }
        return 0.5 * s.Weight * DataWeight * e * near;
    }

    private double Hold(PartChain chain, LaidMark mark, Vector2 to, float sigma)
    {
        var off = chain.At(mark.Shares, mark.At) - to;
        var weight = 1 / (sigma * sigma);
        chain.Slopes(mark.Shares, mark.At, slopes);
        equations.Add(slopes, Vector2.UnitX, off.X, weight);
        equations.Add(slopes, Vector2.UnitY, off.Y, weight);
        return 0.5 * off.LengthSquared() * weight;
    }
}
