using System.Numerics;
using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Fitting;

/// <summary>A landmark as the ink tells it.</summary>
/// <param name="At">Millimetres on the sheet.</param>
/// <param name="R90">Radius round it that holds the true place with 90 % probability, mm.</param>
/// <param name="Seen">Seen in the view; hidden ones are where they would be.</param>
/// <param name="Tolerance">How exactly it must be known, so that a fault of eight per cent stays one, mm.</param>
/// <param name="Measured">A measure ends at it.</param>
public sealed record FittedMark(string Id, Vec2 At, double R90, bool Seen, double Tolerance, bool Measured = true)
{
    /// <summary>Known exactly enough to judge by.</summary>
    [JsonIgnore]
    public bool Sure => R90 <= Tolerance;

    /// <summary>1 σ of each coordinate, mm.</summary>
    [JsonIgnore]
    public double Sigma => R90 / Intervals.Ninety;
}

/// <summary>Why nothing can be laid over a sheet.</summary>
public enum NoFit
{
    None,

    /// <summary>No line is drawn on it that can be seen.</summary>
    Blank,

    /// <summary>It is dark all over.</summary>
    Black,

    /// <summary>More than one drawing stands on it.</summary>
    Several,

    /// <summary>What is drawn lies on the view only when it is turned by 180°.</summary>
    UpsideDown,

    /// <summary>What is drawn doesn't lie on the view: another pose, another seat, a part of a figure.</summary>
    NotThis,
}

/// <param name="Marks">Empty where nothing can be fitted.</param>
/// <param name="Crown">The upper click, as given or as proposed, mm; null where nothing can be fitted. Likewise the lower.</param>
/// <param name="Ask">The mark that matters most; null when all are known well enough.</param>
/// <param name="Support">The share of the reference's lines that ink was found for.</param>
/// <param name="Cost">What is left for a length of line: the less the better.</param>
public sealed record FitResult(
    IReadOnlyDictionary<string, FittedMark> Marks,
    Vec2? Crown,
    Vec2? Sole,
    string? Ask,
    double Support,
    double Cost,
    NoFit Why
)
{
    public static FitResult Nothing(NoFit why) => new(new Dictionary<string, FittedMark>(), null, null, null, 0, 0, why);
}

/// <summary>Fits the landmarks of a known pose to the ink of a sheet: two clicks, a search over the parts, then Gauss and Newton. Placed marks
/// are kept and draw the others. The ink's maps and the search are kept, so that a correction costs only its own steps.</summary>
public sealed class MarkFit
{
    /// <summary>Both feet are tried where their lowest places lie within this share of the height: a person clicks the lower one as drawn.</summary>
    private const float FeetAlike = 0.05f;

    /// <summary>1 σ of a person's click, and of one that was proposed from the ink, as a share of the height.</summary>
    private const float Clicked = 0.01f,
        Proposed = 0.03f;

    /// <summary>Beyond these the view isn't what is drawn. Of 24 simulated sheets on their own view the dearest cost 0.41, on wrong views the
    /// cheapest 0.68; the study's other bodies and bad poses lie between, and a few of them are refused (docs/study.md, not fitted).</summary>
    private const double MostCost = 0.64,
        LeastSupport = 0.8;

    private readonly InkReading ink;
    private readonly FitReference reference;
    private readonly List<(LaidReference Laid, PartSearch Search, Refinement Refinement)> starts = [];

    /// <summary>Nothing lies ready where the sheet is blank or black, or several drawings stand on it and nobody has clicked one.</summary>
    private readonly NoFit nothing;

    /// <param name="crown">Upper click, mm; <paramref name="sole"/> the lower: the lowest drawn place of the feet, or a head's chin. Where one
    /// is missing both are proposed from the ink, the one that is given kept.</param>
    /// <exception cref="InputException">The clicks lie on one another, or off the sheet.</exception>
    public MarkFit(InkReading ink, FitReference reference, Vec2? crown = null, Vec2? sole = null)
    {
        (this.ink, this.reference) = (ink, reference);
        var proposed = crown is null || sole is null;
        nothing =
            ink.Nothing != NoFit.None ? ink.Nothing
            : proposed && ink.Drawings > 1 ? NoFit.Several
            : NoFit.None;
        if (nothing != NoFit.None)
            return;
        var guess = proposed ? ClickProposal.From(ink.Form, reference) : null;
        if ((crown ?? guess?.Crown) is not { } upper || (sole ?? guess?.Sole) is not { } lower)
        {
            nothing = NoFit.Blank;
            return;
        }
        foreach (var (name, at) in new[] { ("clicks.crown", crown), ("clicks.sole", sole) })
            if (at is { } p && !(p.IsFinite && p.X >= 0 && p.Y >= 0 && p.X <= ink.Ridges.Width && p.Y <= ink.Ridges.Height))
                throw new InputException("a click off the sheet", name, $"0 to {ink.Ridges.Width:0} × 0 to {ink.Ridges.Height:0} mm");
        var (top, bottom) = (Single(upper), Single(lower));
        if (Vector2.Distance(top, bottom) < Shortest)
            throw new InputException("crown and sole lie too close together", "clicks", $"{Shortest} mm apart at least");
        Begin(top, bottom, proposed);
    }

    /// <summary>Least distance of the two clicks, mm.</summary>
    public const float Shortest = 20;

    private void Begin(Vector2 top, Vector2 bottom, bool proposed)
    {
        var truncated = PartSearch.Truncated(ink.Maps);
        for (var foot = 0; foot < reference.Lowest.Count; foot++)
        {
            var r = reference with { Foot = foot };
            if (foot > 0 && reference.Lowest[0].At.Y - r.Sole.At.Y > FeetAlike * reference.Height)
                continue;
            var laid = new LaidReference(r, top, bottom);
            starts.Add((laid, new(laid, ink.Maps, truncated, proposed ? Proposed : Clicked), new(laid, ink.Maps, proposed ? 6 : 1)));
        }
    }

    private static Vector2 Single(Vec2 p) => new((float)p.X, (float)p.Y);

    /// <param name="pins">Marks that a person placed, mm.</param>
    public FitResult Run(IReadOnlyDictionary<string, Vec2>? pins = null)
    {
        if (nothing != NoFit.None)
            return FitResult.Nothing(nothing);
        var held = (pins ?? new Dictionary<string, Vec2>()).ToDictionary(p => p.Key, p => Single(p.Value));
        (LaidReference Laid, Refined Refined, Dictionary<string, Vector2> Found)? best = null;
        foreach (var (laid, search, refinement) in starts)
        {
            var chain = search.Best(held);
            var found = laid.Places(chain);
            var refined = refinement.Run(chain, held);
            if (best is null || refined.Cost < best.Value.Refined.Cost)
                best = (laid, refined, found);
        }
        return Result(best!.Value.Laid, best.Value.Refined, best.Value.Found, held);
    }

    private FitResult Result(LaidReference laid, Refined refined, Dictionary<string, Vector2> found, Dictionary<string, Vector2> pins)
    {
        double weights = laid.Samples.Sum(s => s.Weight),
            cost = refined.Cost / weights,
            support = laid.Samples.Sum(s => s.Weight * refined.Support[s.Part]) / weights;
        if (cost > MostCost || support < LeastSupport)
            return FitResult.Nothing(IsUpsideDown() ? NoFit.UpsideDown : NoFit.NotThis);
        var tolerances = MarkTolerances.Of(laid.Reference);
        var marks = new Dictionary<string, FittedMark>();
        foreach (var m in laid.Marks)
        {
            var at = refined.Chain.At(m.Shares, m.At);
            var doubt = new Doubt(
                100 * refined.Sigma[m.Id] / laid.Height,
                100 * Vector2.Distance(found[m.Id], at) / laid.Height,
                1 - refined.Support[m.Part],
                cost,
                refined.Chain.Bent,
                Math.Abs(refined.Chain.BendOf(m.Part)),
                refined.Chain.WarpOf(m.Part)
            );
            var r90 = Intervals.Of(laid.Tree, m.Id, doubt) * laid.Height / 100;
            if (pins.TryGetValue(m.Id, out var pin))
                (at, r90) = (pin, Refinement.PinSigma * Intervals.Ninety);
            marks[m.Id] = new(m.Id, new(at.X, at.Y), r90, m.Seen, tolerances[m.Id] * laid.Height, MarkTolerances.Measured(laid.Tree, m.Id));
        }
        return new(
            marks,
            new(laid.Crown.X, laid.Crown.Y),
            new(laid.Sole.X, laid.Sole.Y),
            Next(marks.Values, pins.Keys),
            support,
            cost,
            NoFit.None
        );
    }

    /// <summary>Of some marks the one that matters most: known least exactly for what is measured by it. Null when all are known well enough.</summary>
    /// <param name="placed">Marks that a person has placed.</param>
    public static string? Next(IEnumerable<FittedMark> marks, IEnumerable<string> placed)
    {
        var done = placed.ToHashSet();
        return marks
            .Where(m => m is { Seen: true, Measured: true, Sure: false } && !done.Contains(m.Id))
            .MaxBy(m => m.R90 / m.Tolerance)
            ?.Id;
    }

    /// <summary>Whether the drawing lies nearer to the view when it stands on its head.</summary>
    private bool IsUpsideDown()
    {
        if (Shape.Of(ink.Form) is not { } drawing)
            return false;
        var back = reference.Shape.Distances();
        double Apart(Shape s) => ShapeMatch.Best(s, s.Distances(), reference.Shape, back).Apart;
        return Apart(drawing.UpsideDown()) is var turned && turned < MostTurned && turned < Apart(drawing) - 1.5;
    }

    private const double MostTurned = 5;
}
