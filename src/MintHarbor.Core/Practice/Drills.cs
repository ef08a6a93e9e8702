using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Practice;

/// <summary>The true answer of a drill item with its unit ("deg" for an edge's direction, clockwise from upright).</summary>
public sealed record Truth(double Value, string Unit);

/// <param name="ViewId">The studio view it is drawn from; <paramref name="Mirrored"/> if seen in a mirror.</param>
/// <param name="From">One end of the marked edge in picture pixels.</param>
public sealed record DrillItem(string Id, string ViewId, bool Mirrored, Vec2 From, Vec2 To, string Ask, Truth Truth);

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
        if (!correct) return new(Math.Max(0, Round(Difficulty - Step)));
        return RightInARow + 1 < 2 ? this with { RightInARow = RightInARow + 1 } : new(Math.Min(1, Round(Difficulty + Step)));
    }

    private static double Round(double v) => Math.Round(v, 6);
}

/// <summary>The clock hand drill: a marked edge of the figure, its direction to be said as a clock hand. A drill is its rules
/// (items with exact truth, error, what counts as right) and its picture; the player knows no more of it.</summary>
public static class ClockHand
{
    public const string Kind = "clock-hand";
    public const int RoundLength = 10;

    private static readonly (string A, string B, string Ask)[] Edges =
    [
        ("asis.L", "kneetop.L", "The left thigh: which hour?"), ("asis.R", "kneetop.R", "The right thigh: which hour?"),
        ("kneetop.L", "ankleout.L", "The left shank: which hour?"), ("kneetop.R", "ankleout.R", "The right shank: which hour?"),
        ("acromion.L", "elbow.L", "The left upper arm: which hour?"), ("acromion.R", "elbow.R", "The right upper arm: which hour?"),
        ("elbow.L", "wrist.L", "The left forearm: which hour?"), ("elbow.R", "wrist.R", "The right forearm: which hour?"),
        ("acromion.R", "acromion.L", "Across the shoulders: which hour?"), ("asis.R", "asis.L", "Across the pelvis: which hour?"),
        ("pit", "pubic", "Pit of the neck to pubic bone: which hour?"), ("pit", "sternumend", "The breastbone: which hour?"),
        ("heel.L", "toe.L", "The left foot: which hour?"), ("heel.R", "toe.R", "The right foot: which hour?"),
        ("nipple.R", "nipple.L", "Across the chest: which hour?"), ("pit", "ankleout.R", "Pit to right outer ankle: which hour?"), ("pit", "ankleout.L", "Pit to left outer ankle: which hour?"),
    ];

    /// <summary>Angular error that still counts as right, in degrees: 15 at difficulty 0, 4 at 1.</summary>
    public static double Allowed(double difficulty) => 15 - (11 * Math.Clamp(difficulty, 0, 1));

    /// <summary>Items drawn from the studio views, the same for the same arguments. Harder items have shorter edges.</summary>
    /// <param name="clothed">Only clothed figures, as courses under 18 want.</param>
    public static IReadOnlyList<DrillItem> Items(long seed, double difficulty, int count, bool clothed)
    {
        if (!(difficulty is >= 0 and <= 1)) throw new InputException($"difficulty {difficulty}", "difficulty", "0 to 1");
        if (count is < 1 or > 100) throw new InputException($"{count} items", "count", "1 to 100");
        var random = new SeededRandom(seed);
        var pool = clothed ? ClothedPool.Value : PlasterPool.Value;
        var items = new List<DrillItem>();
        for (var n = 0; n < count; n++)
        {
            // Sorted from the longest edge down: an easy item comes from the first half, a hard one from the second.
            var window = pool.Count / 2;
            var start = (int)(difficulty * (pool.Count - window));
            DrillItem item;
            var tries = 0;
            do
            {
                var (view, edge, from, to) = pool[start + random.Next(window)];
                var mirrored = random.Next(2) == 1;
                if (mirrored) (from, to) = (new(view.Width - from.X, from.Y), new(view.Width - to.X, to.Y));
                item = new($"{seed}-{n}", view.Id, mirrored, from, to, mirrored ? Swap(edge.Ask) : edge.Ask, new(Math.Round(ClockAngle.OfEdge(from, to), 2), "deg"));
            }
            while (tries++ < 20 && items.Any(i => i.ViewId == item.ViewId && i.Ask == item.Ask));
            items.Add(item);
        }
        return items;
    }

    private static string Swap(string ask) => ask.Contains("left") ? ask.Replace("left", "right") : ask.Replace("right", "left");

    private static readonly Lazy<List<(Figure.StudioView View, (string A, string B, string Ask) Edge, Vec2 From, Vec2 To)>> ClothedPool = new(() => Pool(true)), PlasterPool = new(() => Pool(false));

    private static List<(Figure.StudioView View, (string A, string B, string Ask) Edge, Vec2 From, Vec2 To)> Pool(bool clothed) =>
        [.. from view in Figure.StudioViews.All
            where view.Clothed == clothed && view.Strokes is null
            from edge in Edges
            where view.Sees(edge.A) && view.Sees(edge.B)
            let a = view.At(edge.A)!.Value
            let b = view.At(edge.B)!.Value
            where (a - b).Length > 0.06 * view.Height
            orderby -(a - b).Length, view.Id, edge.A
            select (view, edge, a, b)];

    /// <summary>Signed error of an answered direction, wrapped to (−90°, 90°]; positive is clockwise of the truth.</summary>
    public static DrillScore Score(DrillItem item, double answerDegrees, double difficulty)
    {
        if (!double.IsFinite(answerDegrees)) throw new InputException("an answer that is not a number", "answers.value", "degrees, 0 to 360");
        var error = ClockAngle.Wrap(answerDegrees - item.Truth.Value);
        return new(item.Id, Math.Round(error, 2), "deg", Math.Abs(error) <= Allowed(difficulty));
    }

    public static DrillResult Summarise(IReadOnlyList<DrillScore> scores, double startDifficulty)
    {
        var stairs = new Staircase(startDifficulty);
        foreach (var s in scores) stairs = stairs.After(s.Correct);
        return new(scores, Bias(scores), Spread(scores), stairs.Difficulty);
    }

    public static double? Bias(IReadOnlyList<DrillScore> scores) => scores.Count == 0 ? null : Math.Round(scores.Average(s => s.Error), 2);

    public static double? Spread(IReadOnlyList<DrillScore> scores)
    {
        if (scores.Count < 2) return null;
        var mean = scores.Average(s => s.Error);
        return Math.Round(Math.Sqrt(scores.Sum(s => Math.Pow(s.Error - mean, 2)) / (scores.Count - 1)), 2);
    }
}

/// <summary>The state of one round, saved after every answer so that a round broken off goes on where it was.</summary>
public sealed record DrillRoundState(string Kind, long Seed, double StartDifficulty, bool Clothed, IReadOnlyList<double> Answers)
{
    /// <summary>Replays the answers: the items met so far with their scores, and the next one (null when done).</summary>
    public (IReadOnlyList<(DrillItem Item, DrillScore Score, double Answer, double Difficulty)> Done, DrillItem? Next, double Difficulty) Replay()
    {
        var stairs = new Staircase(StartDifficulty);
        var done = new List<(DrillItem, DrillScore, double, double)>();
        for (var n = 0; n <= Answers.Count; n++)
        {
            if (n == ClockHand.RoundLength) return (done, null, stairs.Difficulty);
            var item = ItemAt(n, stairs.Difficulty);
            if (n == Answers.Count) return (done, item, stairs.Difficulty);
            var score = ClockHand.Score(item, Answers[n], stairs.Difficulty);
            done.Add((item, score, Answers[n], stairs.Difficulty));
            stairs = stairs.After(score.Correct);
        }
        throw new InvalidOperationException("a round has no further items");
    }

    private DrillItem ItemAt(int n, double difficulty) => ClockHand.Items(unchecked((Seed * 1000) + n), difficulty, 1, Clothed)[0] with { Id = $"{Seed}-{n}" };

    /// <summary>One of a round's items by number, for its picture.</summary>
    public DrillItem? Item(int n)
    {
        var (done, next, _) = Replay();
        return n < done.Count ? done[n].Item : n == done.Count ? next : null;
    }

    public bool Finished => Answers.Count >= ClockHand.RoundLength;
}
