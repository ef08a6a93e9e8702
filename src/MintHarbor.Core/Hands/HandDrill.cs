using System.Globalization;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Shelves;

namespace MintHarbor.Core.Hands;

/// <summary>How much of the own line is seen while it is drawn.</summary>
public enum TraceSight
{
    Seen,

    /// <summary>Only while a glance is taken.</summary>
    Glances,
    Hidden,
}

/// <summary>A drill of the hand: answered by drawing, with finger, pen, mouse or keys, and read by what was drawn and how.</summary>
public abstract class HandDrill : Drill
{
    /// <summary>A field without a view, in its units.</summary>
    protected const double Square = 300;

    /// <summary>Mean of the size of a normal error over its 95 % width: what an unsteady input adds to a mean distance.</summary>
    protected const double MeanOfDoubt = 0.41;

    public override string Wanted => "a drawing";
    public override bool Signed => false;
    public override double Reach => 1.5 * Width.Easy;
    public override int Length => 3;
    protected override int Decimals => 2;

    /// <summary>The strokes that are asked for, in turn; none where any number may be drawn.</summary>
    public virtual IReadOnlyList<string> Strokes => [];
    public virtual TraceSight Sight => TraceSight.Seen;

    /// <summary>Seconds that the subject is looked at before it is hidden; null where it stays.</summary>
    public virtual int? LookSeconds => null;

    /// <summary>Whether an answer lives from pressure: a device that tells none can't give it.</summary>
    public virtual bool NeedsPressure => false;

    /// <summary>Whether a stroke begun is the only one: lifting ends it.</summary>
    public virtual bool OneGo => false;

    protected abstract HandReading Reading(DrillItem item, PenTrace trace, double allowed);

    /// <summary>Reads a drawing.</summary>
    /// <exception cref="InputException">Other strokes than were asked for, or a device that can't give the answer.</exception>
    public HandReading Read(DrillItem item, PenTrace trace, double difficulty, DrillLimit? limit = null)
    {
        if (Strokes.Count > 0 && trace.Strokes.Count < Strokes.Count)
            throw new InputException(Say.Plural(trace.Strokes.Count, "stroke"), "trace", Say.List(Strokes));
        var r = Reading(item, trace, Allowed(difficulty, limit));
        return r with { Error = Math.Round(Math.Clamp(r.Error, -9999, 9999), Decimals) };
    }

    /// <summary>Whether an error is as good as asked for: within what is allowed, or within what the input alone may have done.</summary>
    protected static bool Within(double error, double allowed, double doubt) => Math.Abs(error) <= Math.Max(allowed, doubt);

    /// <summary>How much a drawn shape and the true one don't share: one less overlap over union (Jaccard 1901, from memory), in per cent.</summary>
    /// <param name="laid">The true shape where the drawn one is.</param>
    /// <param name="more">Facts beside it, by its doubt.</param>
    protected static HandReading NotShared(
        IReadOnlyList<Vec2> laid,
        IReadOnlyList<Vec2> drawn,
        PenTrace trace,
        double allowed,
        Func<double, IEnumerable<HandFact>> more
    )
    {
        var missed = 100 * (1 - Polygons.Overlap(laid, drawn));
        // An unsteady input moves the whole edge to and fro: its length by what it is off on the whole, over the area.
        var doubt = 100 * MeanOfDoubt * trace.DoubtUnits * PathDistance.Length([.. laid, laid[0]]) / Polygons.Area(laid);
        var near = Within(missed, allowed, doubt);
        return new(missed, doubt, near, [new(HandMeasures.Missed, missed, doubt, near), .. more(doubt)], [new(laid, Closed: true)]);
    }

    /// <summary>A drawn outline.</summary>
    /// <exception cref="InputException">It is hardly one.</exception>
    protected static IReadOnlyList<Vec2> Outlined(PenTrace trace, string what) =>
        trace.Lines[0] is { Count: >= 3 } drawn && Area.Round(drawn).Diagonal * trace.Mm >= 3
            ? drawn
            : throw new InputException("a dab", "trace", $"the outline of {what}");

    /// <summary>How wide something was drawn for its height, per cent off what is shown.</summary>
    protected static HandFact Proportion(Area drawn, Area shown, PenTrace trace) =>
        new(
            HandMeasures.Proportion,
            100 * ((drawn.Width / drawn.Height / (shown.Width / shown.Height)) - 1),
            200 * trace.DoubtUnits / Math.Min(drawn.Width, drawn.Height)
        );

    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) => [];

    protected override double TruthOf(Marked asked, Marked? unit) => 0;

    protected override double ErrorOf(double answer, double truth) => answer;

    protected override bool Answerable(double value) => Math.Abs(value) <= 9999;

    public override string SayValue(double value) => SayError(value);

    public override string SayAxis(double error) => Say.Signed(error, 1) + (Unit.Contains('%') ? " %" : "");

    public override string SayWidth(double width) => Say.Number(width, 1) + Unit;

    public override string SayError(double error) => Say.Number(Math.Abs(error), 1) + Unit;
}

/// <summary>A drill whose tasks are made by lot, without a view.</summary>
public abstract class MadeDrill : HandDrill
{
    protected abstract (string Ask, HandTask Task) Make(SeededRandom random, double difficulty);

    protected override IReadOnlyList<DrillItem> Made(long seed, double difficulty, int count, bool clothed, DrillViews from)
    {
        var random = new SeededRandom(seed);
        return
        [
            .. Enumerable
                .Range(0, count)
                .Select(n => (n, made: Make(random, difficulty)))
                .Select(x => new DrillItem(
                    string.Create(CultureInfo.InvariantCulture, $"{seed}-{x.n}"),
                    "",
                    false,
                    new(default, default),
                    null,
                    x.made.Ask,
                    new(0, Unit)
                )
                {
                    Hand = x.made.Task,
                }),
        ];
    }
}

/// <summary>A drill drawn from a view of the figure, or of things.</summary>
public abstract class SeenDrill : HandDrill
{
    protected abstract string Asks { get; }

    /// <summary>The more the outline wanders for what it encloses, the harder.</summary>
    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) => From(figures);

    /// <summary>Whether things are drawn as well as figures.</summary>
    protected virtual bool WithThings => false;

    protected override IEnumerable<Candidate> OfThings(IReadOnlyList<StudioView> things) => WithThings ? From(things) : [];

    private IEnumerable<Candidate> From(IReadOnlyList<StudioView> views) =>
        from view in views
        where view.Mass != ""
        let outline = Outline(view)
        select new Candidate(
            view,
            Asks,
            new(default, default),
            null,
            outline.Sum(PathDistance.Length) / Math.Sqrt(outline.Sum(Polygons.Area)),
            0
        );

    protected override IReadOnlyList<DrillItem> Made(long seed, double difficulty, int count, bool clothed, DrillViews from) =>
        [
            .. base.Made(seed, difficulty, count, clothed, from)
                .Select(i => i with { Hand = new(new(StudioViews.Get(i.ViewId).Width, StudioViews.Get(i.ViewId).Height), [], null, []) }),
        ];

    /// <summary>Closed outlines of what the item shows, as it shows them: the figure's and its gaps'.</summary>
    public static IReadOnlyList<IReadOnlyList<Vec2>> Outline(DrillItem item)
    {
        var view = StudioViews.Get(item.ViewId);
        return item.Mirrored
            ? [.. Outline(view).Select(o => (IReadOnlyList<Vec2>)[.. o.Select(p => new Vec2(view.Width - p.X, p.Y))])]
            : Outline(view);
    }

    private static IReadOnlyList<IReadOnlyList<Vec2>> Outline(StudioView view) =>
        [.. Outlines.Read(view.Mass).Select(o => (IReadOnlyList<Vec2>)[.. o, o[0]])];

    protected static IReadOnlyList<SeenLine> Laid(LaidOver over, IEnumerable<IReadOnlyList<Vec2>> truth) =>
        [.. truth.Select(t => new SeenLine([.. Thin.Path([.. t.Select(over.Map)], 0.3)]))];
}
