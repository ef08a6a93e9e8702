using NodaTime;

namespace MintHarbor.Core.Courses;

/// <summary>One sheet of a term with the faults that its critique names, each once.</summary>
public sealed record CritiquedSheet(int Id, int Student, LocalDate Day, IReadOnlyList<string> Faults);

/// <summary>Whether a fault came less or more often.</summary>
public enum Trend
{
    /// <summary>Too few sheets on one side to say.</summary>
    TooFew,
    Fell,
    Stayed,
    Rose,
}

/// <summary>A fault over two stretches of time: on how many of how many sheets.</summary>
/// <param name="Fault">Id in the library.</param>
/// <param name="Against">The day from which on something was done against it; null where the term is only halved.</param>
public sealed record FaultOverTerm(string Fault, int Before, int BeforeOf, int After, int AfterOf, LocalDate? Against = null)
{
    /// <summary>Sheets on either side that a word wants, and how far the shares must lie apart; our defaults, no source.</summary>
    public const int Fewest = 2;
    public const double Apart = 0.2;

    private double Was => (double)Before / BeforeOf;
    private double Is => (double)After / AfterOf;

    public Trend Trend =>
        BeforeOf < Fewest || AfterOf < Fewest ? Trend.TooFew
        : Was - Is >= Apart - 1e-9 ? Trend.Fell
        : Is - Was >= Apart - 1e-9 ? Trend.Rose
        : Trend.Stayed;

    /// <summary>Its word for whoever reads it, without a name: "fell".</summary>
    public string Word =>
        Trend switch
        {
            Trend.Fell => "fell",
            Trend.Rose => "rose",
            Trend.Stayed => "stayed",
            _ => "too few sheets to say",
        };

    /// <summary>"on 3 of 4 sheets, then on 1 of 4".</summary>
    public string Counts => $"on {Before} of {BeforeOf} sheets, then on {After} of {AfterOf}";

    /// <summary>"on 3 of 4 sheets, then on 1 of 4: fell".</summary>
    public string Says => $"{Counts}: {Word}";
}

/// <summary>Something that was planned or given to a class: an evening's exercise, an exercise or a drill for home.</summary>
public sealed record Planned(LocalDate Day, string? Exercise, string? Drill);

/// <summary>What recurs on the sheets of a term, and whether it fell.</summary>
public static class TermRecord
{
    /// <summary>Faults named on two sheets at least, the commonest first: the earlier half of the sheets against the later. An odd sheet in the
    /// middle counts with the earlier.</summary>
    /// <param name="sheets">In any order; those that were critiqued.</param>
    public static IReadOnlyList<FaultOverTerm> Recurring(IReadOnlyList<CritiquedSheet> sheets)
    {
        var inOrder = sheets.OrderBy(s => s.Day).ThenBy(s => s.Id).ToList();
        var half = (inOrder.Count + 1) / 2;
        return [.. Common(sheets).Select(fault => Over(fault, [.. inOrder.Take(half)], [.. inOrder.Skip(half)], null))];
    }

    /// <summary>A fault before and from the day on which something was first planned against it; what was drawn on the day itself was drawn
    /// against it.</summary>
    public static FaultOverTerm Since(string fault, IReadOnlyList<CritiquedSheet> sheets, LocalDate day) =>
        Over(fault, [.. sheets.Where(s => s.Day < day)], [.. sheets.Where(s => s.Day >= day)], day);

    /// <summary>The days on which what mends a fault, or drills it, was planned, from the day on which it was first named.</summary>
    /// <param name="exercise">The exercise that mends it.</param>
    /// <param name="drill">The drill that trains it.</param>
    public static IReadOnlyList<LocalDate> Against(
        string fault,
        string? exercise,
        string? drill,
        IReadOnlyList<CritiquedSheet> sheets,
        IReadOnlyList<Planned> planned
    )
    {
        var named = sheets.Where(s => s.Faults.Contains(fault)).Select(s => s.Day).DefaultIfEmpty(LocalDate.MaxIsoValue).Min();
        return
        [
            .. planned
                .Where(p => p.Day >= named && ((exercise is not null && p.Exercise == exercise) || (drill is not null && p.Drill == drill)))
                .Select(p => p.Day)
                .Distinct()
                .Order(),
        ];
    }

    /// <summary>Ids of faults that two sheets share, the commonest first.</summary>
    public static IReadOnlyList<string> Common(IReadOnlyList<CritiquedSheet> sheets) =>
        [
            .. sheets
                .SelectMany(s => s.Faults.Distinct())
                .GroupBy(f => f)
                .Where(g => g.Count() > 1)
                .OrderByDescending(g => g.Count())
                .ThenBy(g => g.Key, StringComparer.Ordinal)
                .Select(g => g.Key),
        ];

    private static FaultOverTerm Over(
        string fault,
        IReadOnlyList<CritiquedSheet> before,
        IReadOnlyList<CritiquedSheet> after,
        LocalDate? day
    ) =>
        new(fault, before.Count(s => s.Faults.Contains(fault)), before.Count, after.Count(s => s.Faults.Contains(fault)), after.Count, day);
}
