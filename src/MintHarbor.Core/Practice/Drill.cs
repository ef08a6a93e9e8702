using System.Collections.Concurrent;
using System.Text.Json.Serialization;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Shelves;

namespace MintHarbor.Core.Practice;

/// <summary>The true answer of a drill item with its unit: "deg" for an edge's direction, clockwise from upright; "ratio" for
/// how many of one span go into another; "values" for steps of a scale of nine; "heads" for a distance counted in heads, positive to the right; "apart" for how
/// far a drawn line lies from the true one, in heads; "missed" for how much of drawn forms lies beside the true ones.</summary>
public sealed record Truth(double Value, string Unit);

/// <summary>A marked span of the picture, in its pixels.</summary>
public sealed record Marked(Vec2 From, Vec2 To)
{
    public double Length => (To - From).Length;

    public Marked Mirrored(double width) => new(new(width - From.X, From.Y), new(width - To.X, To.Y));
}

/// <param name="ViewId">The studio view it is drawn from, <paramref name="Mirrored"/> if seen in a mirror; empty where none is.</param>
/// <param name="Asked">The edge or span that is asked for.</param>
/// <param name="Unit">The span it is counted in; null where none is.</param>
public sealed record DrillItem(string Id, string ViewId, bool Mirrored, Marked Asked, Marked? Unit, string Ask, Truth Truth)
{
    /// <summary>What is to be drawn, for a drill of the hand.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public HandTask? Hand { get; init; }

    /// <summary>What is shown, for a drill of anatomy.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public AnatomyTask? Anatomy { get; init; }
}

/// <param name="Error">Signed, in <paramref name="Unit"/>: degrees, or the natural logarithm of answer ÷ truth.</param>
public sealed record DrillScore(string Id, double Error, string Unit, bool Correct);

/// <param name="Bias">Mean signed error: which way the eye leans.</param>
/// <param name="Spread">Standard deviation about that mean (n − 1): how far it scatters; null below two answers.</param>
public sealed record DrillResult(IReadOnlyList<DrillScore> Scores, double? Bias, double? Spread, double NextDifficulty);

/// <summary>Transformed up-down staircase (Levitt 1971, published): a wrong answer makes the next item easier, two right
/// answers in a row harder. One up, two down settles where 70.7 % are right.</summary>
/// <param name="Turns">How often it turned back.</param>
public sealed record Staircase(double Difficulty, int RightInARow = 0, int Turns = 0)
{
    public const double Step = 0.1;

    /// <summary>Its steps grow smaller where it turns: halved after the second time, and again after the fourth, so that it ends near where it settles.</summary>
    public bool Finer { get; init; }

    private int Went { get; init; }

    public Staircase After(bool correct)
    {
        if (!correct)
            return Moved(-1);
        return RightInARow + 1 < 2 ? this with { RightInARow = RightInARow + 1 } : Moved(1);
    }

    private Staircase Moved(int way)
    {
        var turns = Turns + (Went == -way ? 1 : 0);
        var step =
            !Finer || turns < 2 ? Step
            : turns < 4 ? Step / 2
            : Step / 4;
        return this with
        {
            Difficulty = Math.Clamp(Math.Round(Difficulty + (way * step), 6), 0, 1),
            RightInARow = 0,
            Turns = turns,
            Went = way,
        };
    }
}

/// <summary>What a drill may be made of.</summary>
public enum DrillViews
{
    Figures,
    WithThings,

    /// <summary>The views that shipped first: rounds that kept no items were made of those.</summary>
    First,
}

/// <summary>A drill: its items with exact truth, its error, and what counts as right. The player, the records and the command
/// line know no more of a drill than this; a new one is one class of rules, its marks on the picture and its dial.</summary>
public abstract class Drill
{
    public const int RoundLength = 10;

    /// <summary>Items in a round.</summary>
    public virtual int Length => RoundLength;

    /// <summary>Minutes that a round takes.</summary>
    public virtual int Minutes => 2;

    public abstract string Kind { get; }
    public abstract string Name { get; }

    /// <summary>What one does, in half a line.</summary>
    public abstract string About { get; }

    /// <summary>How to go about it.</summary>
    public abstract string How { get; }
    public abstract string Unit { get; }
    public abstract string Wanted { get; }

    /// <summary>Error that still counts as right, from the easiest (difficulty 0) to the hardest (1).</summary>
    protected abstract (double Easy, double Hard) Width { get; }
    protected abstract int Decimals { get; }

    /// <summary>What was right before items were spread over all truths and no constant could do well; null where it still is.</summary>
    public virtual DrillLimit? LimitThen => null;

    /// <summary>Least and greatest answer that the dial reaches, where the answer is a length.</summary>
    public virtual (double Least, double Most) Range => (0.2, 4.5);

    /// <param name="Known">The truth where it can't be read off the picture.</param>
    protected sealed record Candidate(StudioView View, string Ask, Marked Asked, Marked? Unit, double Hardness, double? Known = null);

    /// <param name="figures">Views of the figure that are only looked at, all clothed or all not.</param>
    protected abstract IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures);

    /// <summary>The candidates of rounds that kept no items.</summary>
    protected virtual IEnumerable<Candidate> CandidatesThen(IReadOnlyList<StudioView> figures) => Candidates(figures);

    /// <param name="things">Views of arrangements, for every course.</param>
    protected virtual IEnumerable<Candidate> OfThings(IReadOnlyList<StudioView> things) => [];

    /// <summary>Views in which the head is long enough to count by, with it.</summary>
    /// <param name="seen">Only where crown and chin are both seen.</param>
    protected static IEnumerable<(StudioView View, Marked Head)> ByHeads(IReadOnlyList<StudioView> figures, bool seen) =>
        from view in figures
        where !seen || (view.Sees("crown") && view.Sees("chin"))
        let head = new Marked(view.At("crown")!.Value, view.At("chin")!.Value)
        where head.Length > 0.05 * view.Height
        select (view, head);

    protected abstract double TruthOf(Marked asked, Marked? unit);
    protected abstract double ErrorOf(double answer, double truth);

    /// <summary>Whether an answer lies within what is asked for.</summary>
    protected virtual bool Answerable(double value) => value >= Range.Least && value <= Range.Most;

    /// <summary>The range that is asked for, in words: "0.2 to 4.5".</summary>
    protected string Asked => $"{Say.Number(Range.Least, 2)} to {Say.Number(Range.Most, 2)}";

    /// <summary>A value as the player says it.</summary>
    public abstract string SayValue(double value);

    /// <summary>A signed error in words, "5° clockwise".</summary>
    public abstract string SayError(double error);

    /// <summary>A width of error, "9°".</summary>
    public abstract string SayWidth(double width);

    /// <summary>What the dial asks for.</summary>
    public virtual string DialAsks =>
        Unit == "heads" ? "How many heads, left or right"
        : Range.Most <= 1 ? "How much of its length"
        : "How many times the unit";

    /// <summary>Whether it is answered on the view in tone, not in line.</summary>
    public virtual bool InTone => false;

    /// <summary>Whether what counts as right is a width that a course may set.</summary>
    public virtual bool HasLimit => true;

    /// <summary>The answer that was given, in the drill's unit: the dial's, or what is read off what was drawn on the picture.</summary>
    /// <param name="path">What was drawn, as the page sends it; null where nothing was.</param>
    /// <exception cref="InputException">What can't be read.</exception>
    public virtual double Given(DrillItem item, double value, string? path) => value;

    /// <summary>What counts as right, as a sentence.</summary>
    public virtual string SayRight(double allowed) => $"Right within {SayWidth(allowed)}.";

    /// <summary>Whether an error has two directions: only then can an eye lean one way.</summary>
    public virtual bool Signed => true;

    /// <summary>Error that a chart of rounds reaches to at least, and how its axis says one.</summary>
    public virtual double Reach =>
        Unit switch
        {
            "deg" => 20,
            "values" => 2,
            _ => 0.3,
        };

    public virtual string SayAxis(double error) =>
        Unit == "deg" ? Say.Signed(error) + "°"
        : Unit is "heads" or "values" ? Say.Signed(error, 2)
        : Say.Signed(100 * (Math.Exp(error) - 1)) + " %";

    private readonly ConcurrentDictionary<(bool Clothed, DrillViews From), IReadOnlyList<Candidate>> pools = new();

    private IReadOnlyList<Candidate> Pool(bool clothed, DrillViews from) => pools.GetOrAdd((clothed, from), key =>
        {
            var shipped = key.From == DrillViews.First ? StudioViews.First : StudioViews.All;
            StudioView[] figures = [.. shipped.Where(v => v.Clothed == key.Clothed && v.Strokes is null && v.IsFigure)];
            var things = key.From == DrillViews.WithThings ? OfThings(StudioViews.Things) : [];
            return
            [
                .. (key.From == DrillViews.First ? CandidatesThen(figures) : Candidates(figures))
                    .Concat(things)
                    .OrderBy(c => c.Hardness)
                    .ThenBy(c => c.View.Id)
                    .ThenBy(c => c.Ask, StringComparer.Ordinal),
            ];
        });

    /// <param name="limit">The course's own; null for the drill's.</param>
    public double Allowed(double difficulty, DrillLimit? limit = null)
    {
        var (easy, hard) = limit is null ? Width : (limit.Easy, limit.Hard);
        return easy + ((hard - easy) * Math.Clamp(difficulty, 0, 1));
    }

    /// <summary>Items drawn from the studio views, the same for the same arguments. Their truths are spread over all there are, at every difficulty,
    /// so that no constant answer does well; among items of like truth easy ones are drawn from the easier half, hard ones from the harder.</summary>
    /// <param name="clothed">Only clothed figures, as courses under 18 want.</param>
    /// <param name="from">Rounds are made of figures and things; by themselves items are of figures alone, where a drill knows both.</param>
    /// <exception cref="InputException">A difficulty outside 0 to 1, or a count outside 1 to 100.</exception>
    public IReadOnlyList<DrillItem> Items(long seed, double difficulty, int count, bool clothed, DrillViews from = DrillViews.Figures)
    {
        if (!(difficulty is >= 0 and <= 1))
            throw new InputException($"difficulty {difficulty}", "difficulty", "0 to 1");
        if (count is < 1 or > 100)
            throw new InputException($"{count} items", "count", "1 to 100");
        return Made(seed, difficulty, count, clothed, from);
    }

    /// <summary>A truth on the scale on which errors are even: strata are equally wide there.</summary>
    protected virtual double Even(double truth) => truth;

    /// <summary>What candidates are spread by: their truth; where that is a drawing, something of where it lies.</summary>
    protected virtual double Spread(Marked asked, Marked? unit, double truth) => Even(truth);

    /// <summary>What a candidate asks as it is shown, straight or in the mirror.</summary>
    private sealed record Shown(Candidate Of, bool Mirrored, double Spread);

    /// <param name="Width">Of how many equal widths it is made.</param>
    private sealed record Stratum(int Width, IReadOnlyList<Shown> Items);

    /// <summary>Parts that the truths are drawn from alike, and how many candidates each has at the least.</summary>
    private const int MostStrata = 14,
        LeastInStratum = 4;

    private readonly ConcurrentDictionary<(bool Clothed, DrillViews From), IReadOnlyList<Stratum>> strata = new();

    /// <summary>The pool parted by truth, each part in the order of hardness. Where many truths lie close together, a constant answer would
    /// be right far too often, if candidates were drawn one like another.</summary>
    private IReadOnlyList<Stratum> Strata(bool clothed, DrillViews from) => strata.GetOrAdd((clothed, from), key =>
        {
            var shown = (
                from c in Pool(key.Clothed, key.From)
                from mirrored in new[] { false, true }
                let places = Places(c, mirrored)
                select new Shown(c, mirrored, Spread(places.Asked, places.Unit, TruthOf(c, mirrored)))
            ).OrderBy(s => s.Spread);
            return Parted([.. shown]);
        });

    /// <summary>Equally wide parts of what is sorted by truth; one with too few is part of the one before it, and drawn from as often as it is wide.</summary>
    private List<Stratum> Parted(IReadOnlyList<Shown> sorted)
    {
        var (least, most) = (sorted[0].Spread, sorted[^1].Spread);
        var width = Math.Max((most - least) / MostStrata, 1e-9);
        var parts = sorted.ToLookup(s => Math.Min(MostStrata - 1, (int)((s.Spread - least) / width)));
        var strata = new List<Stratum>();
        for (var n = 0; n < MostStrata; n++)
        {
            var here = parts[n].ToList();
            if (strata.Count == 0 || (strata[^1].Items.Count >= LeastInStratum && here.Count >= LeastInStratum))
                strata.Add(new(1, here));
            else
                strata[^1] = new(strata[^1].Width + 1, [.. strata[^1].Items, .. here]);
        }
        return [.. strata.Select(s => s with { Items = [.. InOrder(s.Items)] })];
    }

    private static IEnumerable<Shown> InOrder(IEnumerable<Shown> items) =>
        items
            .OrderBy(s => s.Of.Hardness)
            .ThenBy(s => s.Of.View.Id, StringComparer.Ordinal)
            .ThenBy(s => s.Of.Ask, StringComparer.Ordinal)
            .ThenBy(s => s.Mirrored);

    /// <summary>The stratum that the n-th of all equal widths lies in.</summary>
    private static IReadOnlyList<Shown> Wide(IReadOnlyList<Stratum> strata, int n)
    {
        foreach (var s in strata)
        {
            if (n < s.Width)
                return s.Items;
            n -= s.Width;
        }
        return strata[^1].Items;
    }

    private static (Marked Asked, Marked? Unit) Places(Candidate c, bool mirrored) =>
        mirrored ? (c.Asked.Mirrored(c.View.Width), c.Unit?.Mirrored(c.View.Width)) : (c.Asked, c.Unit);

    private double TruthOf(Candidate c, bool mirrored)
    {
        var (asked, unit) = Places(c, mirrored);
        return Math.Round(c.Known ?? TruthOf(asked, unit), Decimals);
    }

    private DrillItem Item(string id, Candidate c, bool mirrored)
    {
        var (asked, unit) = Places(c, mirrored);
        return new(id, c.View.Id, mirrored, asked, unit, mirrored ? Swap(c.Ask) : c.Ask, new(TruthOf(c, mirrored), Unit));
    }

    protected virtual IReadOnlyList<DrillItem> Made(long seed, double difficulty, int count, bool clothed, DrillViews from)
    {
        var random = new SeededRandom(seed);
        var items = new List<DrillItem>();
        for (var n = 0; n < count; n++)
        {
            DrillItem item;
            var tries = 0;
            do item = from == DrillViews.First ? Then($"{seed}-{n}") : Now($"{seed}-{n}");
            while (tries++ < 20 && items.Any(i => i.ViewId == item.ViewId && i.Ask == item.Ask));
            items.Add(item);
        }
        return items;

        DrillItem Now(string id)
        {
            var part = Wide(Strata(clothed, from), random.Next(MostStrata));
            var s = Picked(part, (part.Count + 1) / 2);
            return Item(id, s.Of, s.Mirrored);
        }

        // As items were drawn before rounds kept them.
        DrillItem Then(string id)
        {
            var pool = Pool(clothed, from);
            var c = Picked(pool, pool.Count / 2);
            return Item(id, c, random.Next(2) == 1);
        }

        // The easier half of what is sorted by hardness, the harder, or what lies between.
        T Picked<T>(IReadOnlyList<T> sorted, int window) => sorted[(int)(difficulty * (sorted.Count - window)) + random.Next(window)];
    }

    private static string Swap(string ask) => ask.Replace("left", "\u0001").Replace("right", "left").Replace("\u0001", "right");

    /// <exception cref="InputException">An answer that is no number of this drill.</exception>
    public DrillScore Score(DrillItem item, double answer, double difficulty)
    {
        Check(answer);
        return Scored(item, answer, difficulty);
    }

    /// <summary>The score of an answer that was taken once: what is accepted may have narrowed since.</summary>
    internal DrillScore Scored(DrillItem item, double answer, double difficulty, DrillLimit? limit = null)
    {
        var error = ErrorOf(answer, item.Truth.Value);
        return new(item.Id, Math.Round(error, Decimals), Unit, Math.Abs(error) <= Allowed(difficulty, limit));
    }

    public void Check(double answer)
    {
        if (!double.IsFinite(answer) || !Answerable(answer))
            throw new InputException($"an answer of {answer}", "answers.value", Wanted);
    }

    public DrillResult Summarise(IReadOnlyList<DrillScore> scores, double startDifficulty)
    {
        var stairs = new Staircase(startDifficulty);
        foreach (var s in scores)
            stairs = stairs.After(s.Correct);
        return new(scores, Bias(scores), Spread(scores), stairs.Difficulty);
    }

    /// <summary>How well somebody judges, from answers against their truths; null for too few, or where an error has no direction.</summary>
    public Threshold? Threshold(IEnumerable<(double Answer, double Truth)> answers) =>
        Signed
            ? Psychometric.Of(
                [.. answers.Select(a => ErrorOf(a.Answer, a.Truth))],
                Unit == "deg" ? 180 : Even(Range.Most) - Even(Range.Least)
            )
            : null;

    public double? Bias(IReadOnlyList<DrillScore> scores) => scores.Count == 0 ? null : Math.Round(scores.Average(s => s.Error), Decimals);

    public double? Spread(IReadOnlyList<DrillScore> scores)
    {
        if (scores.Count < 2)
            return null;
        var mean = scores.Average(s => s.Error);
        return Math.Round(Math.Sqrt(scores.Sum(s => Math.Pow(s.Error - mean, 2)) / (scores.Count - 1)), Decimals);
    }
}

public static class Drills
{
    /// <summary>Of bones, muscles and the face.</summary>
    public static IReadOnlyList<Drill> Anatomical { get; } = [new WhichMistake(), new NameIt(), new PlaceIt()];

    public static IReadOnlyList<Drill> All { get; } =
    [
        ClockHand.Drill,
        SpanAgainstSpan.Drill,
        new HeadCount(),
        new Tilt(),
        new Plumb(),
        new Foreshortened(),
        new FarShare(),
        new CoreFirst(),
        new LineOfAction(),
        new Convergence(),
        new EllipseOpen(),
        new ValueMatch(),
        new ValueSteps(),
        .. Anatomical,
        .. HandDrills.All,
    ];

    public static string Kinds => string.Join(" | ", All.Select(d => d.Kind));

    public static Drill? Find(string? kind) => All.FirstOrDefault(d => d.Kind == kind);

    public static Drill Get(string? kind, string field = "kind") =>
        Find(kind) ?? throw new InputException($"unknown drill '{kind}'", field, Kinds);
}

/// <summary>The state of one round, saved after every answer so that a round broken off goes on where it was.</summary>
public sealed record DrillRoundState(string Kind, long Seed, double StartDifficulty, bool Clothed, IReadOnlyList<double> Answers)
{
    /// <summary>The items met so far and the one asked now. They are kept, for the views that items are made of may be drawn anew; a round
    /// from before they were has none, and makes them again.</summary>
    public IReadOnlyList<DrillItem> Items { get; init; } = [];

    /// <summary>What was right when the round began, where the course has a limit of its own.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public DrillLimit? Limit { get; init; }

    /// <summary>Whether the staircase's steps grow smaller: rounds from before they did keep what they were judged by.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool Finer { get; init; }

    /// <summary>What is right in it, where that is not the drill's own.</summary>
    [JsonIgnore]
    public DrillLimit? Holds => Limit ?? (Finer ? null : Drills.Get(Kind).LimitThen);

    /// <summary>Whether each answer held, where that lives from more than its error: for drills of the hand.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyList<bool>? Held { get; init; }

    /// <summary>The round with its items, to be saved.</summary>
    /// <param name="first">Items that it lacks are made of the views that shipped first.</param>
    public DrillRoundState Kept(bool first = false)
    {
        var (done, next, _) = Replay(first);
        return this with { Items = [.. done.Select(d => d.Item), .. next is null ? [] : new[] { next }] };
    }

    /// <summary>The round with one more answer.</summary>
    /// <param name="held">Whether it held, where the drill says so itself.</param>
    public DrillRoundState Answered(double value, bool? held = null) =>
        (this with { Answers = [.. Answers, value], Held = held is { } h ? [.. Held ?? [], h] : Held }).Kept();

    /// <summary>Scores the answers again: the items met so far with their scores, and the next one (null when done).</summary>
    public (
        IReadOnlyList<(DrillItem Item, DrillScore Score, double Answer, double Difficulty)> Done,
        DrillItem? Next,
        double Difficulty
    ) Replay(bool first = false)
    {
        var drill = Drills.Get(Kind);
        var stairs = new Staircase(StartDifficulty) { Finer = Finer };
        var done = new List<(DrillItem, DrillScore, double, double)>();
        for (var n = 0; n < drill.Length; n++)
        {
            var item = n < Items.Count ? Items[n] : Made(drill, n, stairs.Difficulty, first ? DrillViews.First : DrillViews.WithThings);
            if (n == Answers.Count)
                return (done, item, stairs.Difficulty);
            var score = drill.Scored(item, Answers[n], stairs.Difficulty, Holds);
            if (n < Held?.Count)
                score = score with { Correct = Held[n] };
            done.Add((item, score, Answers[n], stairs.Difficulty));
            stairs = stairs.After(score.Correct);
        }
        return (done, null, stairs.Difficulty);
    }

    private DrillItem Made(Drill drill, int n, double difficulty, DrillViews from) =>
        drill.Items(unchecked((Seed * 1000) + n), difficulty, 1, Clothed, from)[0] with
        {
            Id = $"{Seed}-{n}",
        };

    public bool Finished => Answers.Count >= Drills.Get(Kind).Length;
}
