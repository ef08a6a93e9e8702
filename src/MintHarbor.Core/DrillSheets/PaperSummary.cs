namespace MintHarbor.Core.DrillSheets;

/// <summary>What the answers of a sheet, or of several, show of one measure.</summary>
/// <param name="Lean">Mean error, signed where the measure has two directions.</param>
/// <param name="Scatter">Standard deviation about it (n − 1); null of one answer.</param>
/// <param name="Doubt">What of the lean may be the reading's own: root mean square of the readings' doubts over √n.</param>
public sealed record PaperSummary(PaperMeasure Measure, int Count, double Lean, double? Scatter, double Doubt)
{
    /// <summary>A lean that is beyond what reading and scatter leave open: it is one habit, to be corrected once.</summary>
    public bool Leans => Measure.Signed && Count > 1 && Math.Abs(Lean) > Math.Max(Doubt, 1.96 * (Scatter ?? 0) / Math.Sqrt(Count));

    /// <summary>By measure, in the order of the table; of what counts.</summary>
    public static IReadOnlyList<PaperSummary> Of(IEnumerable<ItemScore> scores)
    {
        var by = scores.ToLookup(s => s.Measure);
        return [.. PaperMeasures.All.Where(m => by.Contains(m.Id)).Select(m => Of(m, [.. by[m.Id]]))];
    }

    private static PaperSummary Of(PaperMeasure measure, IReadOnlyList<ItemScore> scores)
    {
        var lean = scores.Average(s => s.Error);
        double? scatter = scores.Count < 2 ? null : Math.Sqrt(scores.Sum(s => Math.Pow(s.Error - lean, 2)) / (scores.Count - 1));
        return new(measure, scores.Count, lean, scatter, Math.Sqrt(scores.Average(s => s.Uncertainty * s.Uncertainty) / scores.Count));
    }

    /// <summary>"1.1 mm to the right on the whole, scatter 0.8 mm", or that nothing leans.</summary>
    public string Says =>
        !Measure.Signed ? $"{Measure.Say(Lean)}{(Count > 1 ? " on the whole" : "")}{Scattered}"
        : Count == 1
            ? Math.Abs(Lean) <= Doubt ? "right, as far as it can be read"
                : Measure.Say(Lean)
        : (Leans ? $"{Measure.Say(Lean)} on the whole" : "leans neither way") + Scattered;

    /// <summary>What the number is, and over how many answers.</summary>
    public string Because =>
        (Measure.Means == "" ? "" : Measure.Means + "; ")
        + $"over {Core.Say.Plural(Count, "answer")}; an error smaller than the reading's own doubt is never marked";

    private string Scattered => Scatter is { } s ? $", scatter {Measure.SayWidth(s)}" : "";
}

/// <summary>An item's answer in a few words, as it stands beside it on the read sheet.</summary>
public static class PaperWords
{
    public static string Of(ReadingFlag flag) =>
        flag switch
        {
            ReadingFlag.PrintHidden => "its print is hidden",
            ReadingFlag.NotFlat => "the paper is not flat here",
            ReadingFlag.TwoAnswers => "two answers",
            ReadingFlag.PartAnswered => "not all is answered",
            ReadingFlag.StrayMarks => "other marks beside it",
            ReadingFlag.FaintSecond => "a second mark, faint",
            ReadingFlag.TickUnclear => "where the tick is can't be told",
            ReadingFlag.SlantUnclear => "its slant can't be told",
            ReadingFlag.Short => "too short to be told",
            ReadingFlag.Untidy => "too untidy to be told",
            ReadingFlag.SidesMissing => "a side is missing or short",
            ReadingFlag.NotWhole => "not the whole of it",
            ReadingFlag.ShadowAcross => "a shadow's edge lies across",
            _ => "a field is empty",
        };

    public static string Of(AnswerState state) =>
        state switch
        {
            AnswerState.Empty => "no answer",
            AnswerState.Partly => "answered in part",
            AnswerState.Twice => "answered twice",
            _ => "answered",
        };

    /// <summary>"1.4 mm to the right", "right", "8 strokes, 2 breaks": never an error that may be the reading's own.</summary>
    public static string Short(ItemReading reading)
    {
        if (reading.Scores.Count == 0)
            return reading.Flags.Count > 0 ? Of(reading.Flags[0]) : Of(reading.State);
        if (reading.Scores.Any(s => s.Measure == "breaks"))
            return Strokes(reading.Scores);
        var said = reading
            .Scores.GroupBy(s => s.Measure)
            .Where(g => g.Any(s => s.Marked != 0))
            .Select(g => Group(PaperMeasures.Get(g.Key), [.. g]))
            .ToList();
        return said.Count == 0 ? "right" : string.Join("; ", said);
    }

    /// <summary>Several of one item in the order in which they stand.</summary>
    private static string Group(PaperMeasure m, IReadOnlyList<ItemScore> scores)
    {
        string One(ItemScore s) => s.Marked == 0 ? "right" : m.Say(s.Error);
        return m.Signed ? string.Join(", ", scores.Select(One))
            : scores.Count == 1 ? (m.Id is "contour" or "negative" or "ellipse" ? "off " : $"{m.Name} ") + m.Say(scores[0].Error)
            : $"{m.Name} {string.Join(", ", scores.Select(s => Say.Number(s.Error, m.Decimals)))}";
    }

    private static string Strokes(IReadOnlyList<ItemScore> scores)
    {
        var of = scores.ToLookup(s => s.Measure, s => s.Error);
        var breaks = (int)of["breaks"].Sum();
        var said = breaks == 0 ? "no break" : Say.Plural(breaks, "break");
        var wobble = PaperMeasures.Get("wobble").SayWidth(of["wobble"].Average());
        return $"{Say.Plural(of["breaks"].Count(), "stroke")}, {said}, wobble {wobble}";
    }
}
