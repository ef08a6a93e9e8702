using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Critiques;

/// <summary>A cause with its size.</summary>
/// <param name="Amount">In the cause's unit.</param>
/// <param name="Sigma">1 σ of it.</param>
/// <param name="Without">The drawing as it would lie without it.</param>
internal sealed record FoundCause(Cause Cause, double Amount, double Sigma, LandmarkSet Without);

/// <summary>Looks for the one cause that leaves least between a drawing and its reference view. What a measure leaves is counted against how
/// exactly it is placed and how much a hand varies; beyond three times that it counts no more, so that a second fault doesn't decide.</summary>
internal sealed class CauseSearch(JudgeRequest request)
{
    /// <summary>How much a hand varies that draws rightly, 1 σ: lengths and breadths as natural logarithms, directions and the lean in
    /// degrees, plumbs in heads. Common practice of simulated hands, no source.</summary>
    private const double OfLength = 0.025,
        OfBreadth = 0.03,
        OfDirection = 2,
        OfLean = 1,
        OfPlumb = 0.05;

    /// <summary>What one measure can count at most; and what a cause must take away, in all and as a share.</summary>
    private const double MostEach = 9,
        LeastTaken = 6,
        LeastShare = 0.25;

    private const int Steps = 8;

    /// <summary>Widths that are no measures of their own, but tell height from breadth.</summary>
    private static readonly (string A, string B)[] Breadths =
    [
        ("deltoid.L", "deltoid.R"),
        ("ear.L", "ear.R"),
        ("nipple.L", "nipple.R"),
        ("waist.L", "waist.R"),
        ("iliac.L", "iliac.R"),
        ("asis.L", "asis.R"),
        ("kneein.L", "kneeout.L"),
        ("kneein.R", "kneeout.R"),
    ];

    /// <summary>A line between two landmarks, by their numbers, with what it counts by.</summary>
    /// <param name="Length">1 σ of the logarithm of its length.</param>
    /// <param name="Direction">1 σ of its direction in degrees; 0 where it says nothing.</param>
    private readonly record struct Line(int A, int B, double Length, double Direction);

    /// <summary>What a drawing and a view hold both, numbered: the search asks some hundred times.</summary>
    private sealed class Pairs
    {
        public string[] Ids { get; }
        public Vec2[] View { get; }
        public Line[] Lines { get; }

        /// <summary>Lines whose lengths tell the scale, and their say; likewise those whose directions tell the turn.</summary>
        public (Line[] Lines, double[] Say) Scales { get; }
        public (Line[] Lines, double[] Say) Turns { get; }

        /// <summary>Of the view what causes move, or move about.</summary>
        public Dictionary<string, Vec2> Known { get; }
        public (int Pit, int Pubic, int Crown, int Chin)? Plumb { get; }
        private readonly double[] errors;

        public Pairs(LandmarkSet drawn, LandmarkSet view, Func<string, double> error)
        {
            Ids = [.. drawn.Points.Keys.Where(view.Has)];
            View = [.. Ids.Select(id => view[id]!.Value)];
            errors = [.. Ids.Select(error)];
            var number = Ids.Select((id, i) => (id, i)).ToDictionary(p => p.id, p => p.i);
            bool Both(string a, string b) =>
                number.ContainsKey(a) && number.ContainsKey(b) && Long(View[number[a]], View[number[b]]) > 1e-9;
            var parts = ReferenceMeasures.Parts.Where(p => Both(p.A, p.B)).ToList();
            Line Of(FigurePart p) => new(number[p.A], number[p.B], p.Carries ? OfLength : OfBreadth, p.Directed ? OfDirection : 0);
            Lines =
            [
                .. parts.Select(Of),
                .. Breadths.Where(b => Both(b.A, b.B)).Select(b => new Line(number[b.A], number[b.B], OfBreadth, 0)),
            ];
            double Trust(FigurePart p) => ReferenceMeasures.Trusted(error(p.A), error(p.B), (drawn[p.A]!.Value - drawn[p.B]!.Value).Length);
            (Line[], double[]) Said(List<FigurePart> of) =>
                (
                    [.. of.Select(Of)],
                    [.. ReferenceMeasures.Weights(of, p => Long(View[number[p.A]], View[number[p.B]])).Zip(of, (say, p) => say * Trust(p))]
                );
            Scales = Said([.. parts.Where(p => p.Carries)]);
            Turns = Said(parts);
            Known = Ids.Concat(Causes.Anchors.Where(view.Has)).Distinct().ToDictionary(id => id, id => view[id]!.Value);
            Plumb =
                Both("pit", "pubic") && Both("crown", "chin") ? (number["pit"], number["pubic"], number["crown"], number["chin"]) : null;
        }

        /// <summary>1 σ of a line's ends against one another, mm.</summary>
        public double Error(int a, int b) => Math.Sqrt((errors[a] * errors[a]) + (errors[b] * errors[b]));
    }

    private static double Long(Vec2 a, Vec2 b) => (a - b).Length;

    private readonly LandmarkSet reference = request.Reference!;

    /// <summary>Null where no cause takes enough away.</summary>
    public FoundCause? Best(LandmarkSet drawn)
    {
        var pairs = new Pairs(drawn, reference, request.ErrorOf);
        if (pairs.Scales.Lines.Length == 0)
            return null;
        Vec2[] at = [.. pairs.Ids.Select(id => drawn[id]!.Value)];
        var before = Left(pairs, at);
        FoundCause? best = null;
        var least = Math.Min(before - LeastTaken, before * (1 - LeastShare));
        foreach (var cause in Causes.All)
        {
            if (!cause.Needs.All(reference.Has))
                continue;
            double After(double amount) => Left(pairs, Without(pairs, at, Moved(cause, pairs, amount)));
            var (amount, left) = Fitted(cause, After, least);
            if (left >= least || Math.Abs(amount) < cause.Tolerance)
                continue;
            least = left;
            var without = Without(pairs, at, Moved(cause, pairs, amount));
            best = new(
                cause,
                amount,
                Spread(cause, After, amount),
                new(drawn.Points.Where(p => !reference.Has(p.Key)).Concat(pairs.Ids.Zip(without, KeyValuePair.Create)))
            );
        }
        return best;
    }

    /// <summary>A coarse search to both sides; where that promises something, between the neighbours of the best.</summary>
    private static (double Amount, double Left) Fitted(Cause cause, Func<double, double> after, double least)
    {
        var step = cause.Most / Steps;
        var (at, left) = (0.0, double.MaxValue);
        for (var i = -Steps; i <= Steps; i++)
            if (after(i * step) is var l && l < left)
                (at, left) = (i * step, l);
        // Between two steps of the coarse search no more is hidden than what one measure can count.
        if (left > least + (2 * MostEach))
            return (at, double.MaxValue);
        while (step > cause.Most / 400)
        {
            step /= 2;
            foreach (var side in new[] { -1, 1 })
                if (after(at + (side * step)) is var l && l < left)
                    (at, left) = (at + (side * step), l);
        }
        return (at, left);
    }

    /// <summary>By how sharply what is left grows to both sides.</summary>
    private static double Spread(Cause cause, Func<double, double> after, double amount)
    {
        var h = cause.Most / 60;
        var bend = (after(amount + h) - (2 * after(amount)) + after(amount - h)) / (h * h);
        return bend > 1e-9 ? Math.Sqrt(2 / bend) : cause.Most;
    }

    private static Vec2[] Moved(Cause cause, Pairs pairs, double amount)
    {
        var moved = cause.Move(pairs.Known, amount);
        return [.. pairs.Ids.Select(id => moved[id])];
    }

    /// <summary>The drawing with a cause taken out of it: what it does to the reference, laid on the drawing and taken away.</summary>
    private static Vec2[] Without(Pairs pairs, Vec2[] drawn, Vec2[] moved)
    {
        var (scale, turn) = Whole(pairs, drawn, moved);
        var laid = new Similarity(scale, turn, new(0, 0), 0);
        var back = new Vec2[drawn.Length];
        for (var i = 0; i < back.Length; i++)
            back[i] = drawn[i] - laid.Map(moved[i] - pairs.View[i]);
        return back;
    }

    /// <summary>Scale and turn of the whole, as <see cref="ReferenceMeasures"/> finds them.</summary>
    private static (double Scale, double Turn) Whole(Pairs pairs, Vec2[] drawn, Vec2[] view)
    {
        var lengths = new double[pairs.Scales.Lines.Length];
        for (var i = 0; i < lengths.Length; i++)
            lengths[i] = Math.Log(Ratio(pairs.Scales.Lines[i], drawn, view));
        var turns = new double[pairs.Turns.Lines.Length];
        for (var i = 0; i < turns.Length; i++)
            turns[i] = Turned(pairs.Turns.Lines[i], drawn, view);
        return (
            Math.Exp(RobustLocation.ValueOf(lengths, pairs.Scales.Say, ReferenceMeasures.ScaleReach)),
            RobustLocation.ValueOf(turns, pairs.Turns.Say, ReferenceMeasures.TurnReach)
        );
    }

    private static double Ratio(Line line, Vec2[] drawn, Vec2[] view) =>
        Long(drawn[line.A], drawn[line.B]) / Long(view[line.A], view[line.B]);

    private static double Turned(Line line, Vec2[] drawn, Vec2[] view) =>
        ClockAngle.Wrap(ClockAngle.OfEdge(drawn[line.A], drawn[line.B]) - ClockAngle.OfEdge(view[line.A], view[line.B]));

    /// <summary>What lies between a drawing and the reference.</summary>
    private static double Left(Pairs pairs, Vec2[] drawn)
    {
        var view = pairs.View;
        var (scale, turn) = Whole(pairs, drawn, view);
        var sum = Count(turn, OfLean, 0);
        foreach (var line in pairs.Lines)
        {
            var length = Long(drawn[line.A], drawn[line.B]);
            var placed = pairs.Error(line.A, line.B) / Math.Max(1, length);
            sum += Count(Math.Log(Ratio(line, drawn, view) / scale), line.Length, placed);
            if (line.Direction > 0)
                sum += Count(ClockAngle.Wrap(Turned(line, drawn, view) - turn), line.Direction, placed * 180 / Math.PI);
        }
        return sum + Plumb(pairs, drawn);
    }

    private static double Plumb(Pairs pairs, Vec2[] drawn)
    {
        if (pairs.Plumb is not var (pit, pubic, crown, chin))
            return 0;
        double Of(Vec2[] at) => (at[pubic].X - at[pit].X) / Math.Max(1e-9, Long(at[crown], at[chin]));
        return Count(Of(drawn) - Of(pairs.View), OfPlumb, pairs.Error(pit, pubic) / Math.Max(1, Long(drawn[crown], drawn[chin])));
    }

    private static double Count(double off, double varies, double placed)
    {
        var z = off * off / ((varies * varies) + (placed * placed));
        return double.IsFinite(z) ? z / (1 + (z / MostEach)) : MostEach;
    }
}
