using MintHarbor.Core.Critiques;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Rooms;

namespace MintHarbor.Core.Technique;

/// <summary>A rule that technique is held against, as data.</summary>
/// <param name="Opens">What an exercise must list among its findings: "placement", "line" or "tone".</param>
/// <param name="Fault">The named fault it offers where it isn't kept.</param>
/// <param name="Limit">In the rule's own unit.</param>
public sealed record TechniqueRule(
    string Id,
    string Name,
    Family Family,
    string Opens,
    string Source,
    string? Fault = null,
    double Limit = 0
)
{
    public static IReadOnlyList<TechniqueRule> All { get; } = CoreData.Read<List<TechniqueRule>>("technique");

    private static readonly Dictionary<string, TechniqueRule> ById = All.ToDictionary(r => r.Id);

    public static TechniqueRule Get(string id) => ById[id];
}

public enum TechniqueVerdict
{
    /// <summary>Kept.</summary>
    Holds,

    /// <summary>Measured, and nobody says how it ought to be.</summary>
    Told,

    /// <summary>Worth a look: the rule's fault is offered.</summary>
    Off,

    /// <summary>The ink doesn't allow it.</summary>
    CantTell,
}

/// <summary>One thing that the ink says of technique.</summary>
/// <param name="Value">What was measured, in the rule's unit; null where nothing can be told.</param>
/// <param name="Because">What it was measured from.</param>
public sealed record TechniqueFinding(TechniqueRule Rule, TechniqueVerdict Verdict, double? Value, string Says, string Because);

/// <summary>Says what a reading tells, by what the exercise is inspected for, first what is told most surely.</summary>
public static class TechniqueFindings
{
    /// <summary>Logarithm of the two sides' weights from which the heavier one is named: a tenth heavier.</summary>
    public static readonly double SideFrom = Math.Log(1 + TechniqueRule.Get("L-side").Limit);

    /// <param name="exercise">Null reads for everything.</param>
    /// <param name="heightMm">Of the sheet.</param>
    public static IReadOnlyList<TechniqueFinding> Of(TechniqueReading r, Exercise? exercise, LampSide lamp, double heightMm)
    {
        if (r.Why != Nothing.None)
            return [];
        bool Open(TechniqueRule rule) => exercise is null || exercise.Findings.Contains("all") || exercise.Findings.Contains(rule.Opens);
        IEnumerable<TechniqueFinding?> all =
        [
            Cut(r),
            exercise?.IsOneDrawing == false ? null : Size(r, heightMm),
            Hairy(r),
            Side(r, lamp),
            Hatching(r),
            Even(r),
            Values(r, exercise),
            Paper(r),
        ];
        return [.. all.OfType<TechniqueFinding>().Where(f => Open(f.Rule))];
    }

    /// <summary>What is off on two drawings at least, and on half of those where it could be told; the most frequent first.</summary>
    /// <param name="sheets">Findings of each drawing.</param>
    /// <returns>On how many, of how many, and the first of them.</returns>
    public static IReadOnlyList<(TechniqueFinding Example, int Sheets, int Of)> Recurring(
        IReadOnlyList<IReadOnlyList<TechniqueFinding>> sheets
    ) =>
        [
            .. sheets
                .SelectMany(s => s.Where(f => f.Verdict == TechniqueVerdict.Off))
                .GroupBy(f => f.Rule.Id)
                .Select(g =>
                    (
                        Example: g.First(),
                        Sheets: g.Count(),
                        Of: sheets.Count(s => s.Any(f => f.Rule.Id == g.Key && f.Verdict is not TechniqueVerdict.CantTell))
                    )
                )
                .Where(r => r.Sheets >= 2 && 2 * r.Sheets >= r.Of)
                .OrderByDescending(r => r.Sheets)
                .ThenBy(r => r.Example.Rule.Id, StringComparer.Ordinal),
        ];

    private static TechniqueFinding? Cut(TechniqueReading r) =>
        r.Place is { CutEdges.Count: > 0 } place
            ? new(
                TechniqueRule.Get("P-cut"),
                TechniqueVerdict.Off,
                place.CutEdges.Count,
                $"It runs off the page at the {Say.List([.. place.CutEdges])}.",
                "lines of the drawing that reach the sheet's edge"
            )
            : null;

    private static TechniqueFinding? Size(TechniqueReading r, double heightMm)
    {
        if (r.Place is not { } p)
            return null;
        var rule = TechniqueRule.Get("P-size");
        var share = 1 - ((p.Top + p.Bottom) / heightMm);
        return new(
            rule,
            share < rule.Limit ? TechniqueVerdict.Off : TechniqueVerdict.Holds,
            share,
            $"It takes {Say.Number(100 * share)} % of the sheet's height; {Say.Number(p.Left)} mm free on the left, {Say.Number(p.Right)} on the right, {Say.Number(p.Top)} above, {Say.Number(p.Bottom)} below.",
            $"form to ground 1 : {Say.Number((1 - p.Figure) / Math.Max(1e-3, p.Figure), 1)} by area, clips, tape and thumbs taken off"
        );
    }

    private static TechniqueFinding? Hairy(TechniqueReading r)
    {
        var rule = TechniqueRule.Get("L-hairy");
        return r switch
        {
            { LinesHidden: true } => new(
                rule,
                TechniqueVerdict.CantTell,
                null,
                "Charcoal laid as a mass hides the lines: nothing is said of them.",
                $"{Say.Number(100 * r.Solid)} % of the form shows no paper; from {Say.Number(100 * TechniqueReading.TooSolid)} % on lines can't be told"
            ),
            { Contour: { } c } => new(
                rule,
                c.Ends > rule.Limit ? TechniqueVerdict.Off : TechniqueVerdict.Holds,
                c.Ends,
                c.Ends > rule.Limit ? "The outline is hairy: short pieces where one line would do." : "The outline isn't hairy.",
                $"ends of lines against the length drawn, {Say.Number(c.Length / 1000, 1)} m of contour"
            ),
            _ => null,
        };
    }

    private static TechniqueFinding? Side(TechniqueReading r, LampSide lamp)
    {
        if (r is not { LinesHidden: false, Contour.Side: { } side })
            return null;
        var rule = TechniqueRule.Get("L-side");
        if (Math.Abs(side) < SideFrom)
            return new(
                rule,
                TechniqueVerdict.Told,
                side,
                "The outline weighs alike on the right and on the left.",
                $"less than {Say.Number(100 * rule.Limit)} % between the two sides"
            );
        var (heavy, right) = (side > 0 ? "right" : "left", side > 0);
        var away = lamp == LampSide.Unknown ? (bool?)null : right == (lamp == LampSide.Left);
        var times = Say.Number(Math.Exp(Math.Abs(side)), 1);
        return new(
            rule,
            away switch
            {
                null => TechniqueVerdict.Told,
                true => TechniqueVerdict.Holds,
                false => TechniqueVerdict.Off,
            },
            side,
            away switch
            {
                null => $"The outline is heavier on the {heavy}, {times} times.",
                true => $"The outline is heavier on the {heavy}, away from the lamp, {times} times.",
                false => $"The outline is heavier on the {heavy}, towards the lamp, {times} times.",
            },
            "darkness summed across the line, of the outline that faces either side"
        );
    }

    /// <summary>Smallest share of all line that makes a sheet a hatched one: less is a line gone over at like distances.</summary>
    private const double LeastHatched = 0.06;

    /// <summary>Whether its hatching is spoken of. Closer than the rule's limit the gaps are read too wide.</summary>
    private static bool IsHatched(TechniqueReading r) =>
        r.Hatch is { Spacing: { } spacing, Share: >= LeastHatched } && spacing >= TechniqueRule.Get("L-hatch").Limit;

    private static TechniqueFinding? Hatching(TechniqueReading r)
    {
        var rule = TechniqueRule.Get("L-hatch");
        if (!IsHatched(r) || r.Hatch is not { Spacing: { } spacing, Direction: { } direction } hatch)
            return null;
        return new(
            rule,
            TechniqueVerdict.Told,
            spacing,
            $"Hatched {Say.Number(spacing, 1)} mm apart, {Lie(direction)}; {Say.Number(100 * hatch.Share)} % of all line.",
            "lines that run beside one another at like distances"
        );
    }

    /// <summary>How a direction lies, degrees from the sheet's x axis towards its foot.</summary>
    internal static string Lie(double degrees)
    {
        var fall = ((degrees % 180) + 180) % 180;
        return fall switch
        {
            < 5 or > 175 => "level",
            > 85 and < 95 => "upright",
            < 90 => $"falling to the right, {Say.Number(fall)}° from level",
            _ => $"rising to the right, {Say.Number(180 - fall)}° from level",
        };
    }

    /// <summary>Shown and not judged: the study tells uneven gaps from even ones too seldom (docs/study.md).</summary>
    private static TechniqueFinding? Even(TechniqueReading r)
    {
        if (!IsHatched(r) || r.Hatch?.Evenness is not { } spread)
            return null;
        return new(
            TechniqueRule.Get("L-even"),
            TechniqueVerdict.Told,
            spread,
            $"Its gaps differ by {Say.Number(100 * spread)} % as they were read.",
            "half of what lies between the 16th and the 84th hundredth of the gaps, over the middle one"
        );
    }

    /// <summary>How many values there are to be is said by an exercise that asks for them; elsewhere they are only counted.</summary>
    private static TechniqueFinding? Values(TechniqueReading r, Exercise? exercise)
    {
        if (r.Tone is not { } tone)
            return null;
        var rule = TechniqueRule.Get("T-values");
        return new(
            rule,
            exercise?.AsksValues != true ? TechniqueVerdict.Told
                : tone.ValuesOfFive >= rule.Limit ? TechniqueVerdict.Holds
                : TechniqueVerdict.Off,
            tone.ValuesOfFive,
            $"{Say.Number(tone.ValuesOfFive)} of five values {(tone.ValuesOfFive == 1 ? "is" : "are")} used; the darkest is L* {Say.Number(tone.Darkest)}, paper 95.",
            $"{Say.Number(tone.ValuesOfNine)} of nine; a value counts from 5 % of the form on, mixed over 2 mm as the eye mixes hatching; within one either way"
        );
    }

    private static TechniqueFinding? Paper(TechniqueReading r) =>
        r.Tone is { } tone
            ? new(
                TechniqueRule.Get("T-paper"),
                TechniqueVerdict.Told,
                tone.Untouched,
                $"{Say.Number(100 * tone.Untouched)} % of the form reads as paper.",
                "wide faint hatching reads as paper too; whether it was left on purpose the eye decides"
            )
            : null;
}
