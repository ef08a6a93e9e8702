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
}

/// <param name="Error">Signed, in <paramref name="Unit"/>: degrees, or the natural logarithm of answer ÷ truth.</param>
public sealed record DrillScore(string Id, double Error, string Unit, bool Correct);

/// <param name="Bias">Mean signed error: which way the eye leans.</param>
/// <param name="Spread">Standard deviation about that mean (n − 1): how far it scatters; null below two answers.</param>
public sealed record DrillResult(IReadOnlyList<DrillScore> Scores, double? Bias, double? Spread, double NextDifficulty);

/// <summary>Transformed up-down staircase (Levitt 1971, published): a wrong answer makes the next item easier, two right
/// answers in a row harder. One up, two down settles where 70.7 % are right.</summary>
public sealed record Staircase(double Difficulty, int RightInARow = 0)
{
    public const double Step = 0.1;

    public Staircase After(bool correct)
    {
        if (!correct)
            return new(Math.Max(0, Round(Difficulty - Step)));
        return RightInARow + 1 < 2 ? this with { RightInARow = RightInARow + 1 } : new(Math.Min(1, Round(Difficulty + Step)));
    }

    private static double Round(double v) => Math.Round(v, 6);
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

    /// <summary>Least and greatest answer that the dial reaches, where the answer is a length.</summary>
    public virtual (double Least, double Most) Range => (0.2, 4.5);

    /// <param name="Known">The truth where it can't be read off the picture.</param>
    protected sealed record Candidate(StudioView View, string Ask, Marked Asked, Marked? Unit, double Hardness, double? Known = null);

    /// <param name="figures">Views of the figure that are only looked at, all clothed or all not.</param>
    protected abstract IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures);

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
    protected abstract bool Answerable(double value);

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
                .. Candidates(figures)
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

    /// <summary>Items drawn from the studio views, the same for the same arguments: easy ones from the easier half of all,
    /// hard ones from the harder.</summary>
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

    protected virtual IReadOnlyList<DrillItem> Made(long seed, double difficulty, int count, bool clothed, DrillViews from)
    {
        var random = new SeededRandom(seed);
        var pool = Pool(clothed, from);
        var items = new List<DrillItem>();
        for (var n = 0; n < count; n++)
        {
            var window = pool.Count / 2;
            var start = (int)(difficulty * (pool.Count - window));
            DrillItem item;
            var tries = 0;
            do
            {
                var c = pool[start + random.Next(window)];
                var mirrored = random.Next(2) == 1;
                var (asked, unit) = mirrored ? (c.Asked.Mirrored(c.View.Width), c.Unit?.Mirrored(c.View.Width)) : (c.Asked, c.Unit);
                item = new(
                    $"{seed}-{n}",
                    c.View.Id,
                    mirrored,
                    asked,
                    unit,
                    mirrored ? Swap(c.Ask) : c.Ask,
                    new(Math.Round(c.Known ?? TruthOf(asked, unit), Decimals), Unit)
                );
            } while (tries++ < 20 && items.Any(i => i.ViewId == item.ViewId && i.Ask == item.Ask));
            items.Add(item);
        }
        return items;
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
        var stairs = new Staircase(StartDifficulty);
        var done = new List<(DrillItem, DrillScore, double, double)>();
        for (var n = 0; n < drill.Length; n++)
        {
            var item = n < Items.Count ? Items[n] : Made(drill, n, stairs.Difficulty, first ? DrillViews.First : DrillViews.WithThings);
            if (n == Answers.Count)
                return (done, item, stairs.Difficulty);
            var score = drill.Scored(item, Answers[n], stairs.Difficulty, Limit);
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
