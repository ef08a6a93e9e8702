using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;

namespace MintHarbor.Core.Shelves;

/// <summary>One number of the timing rules that a course may change.</summary>
/// <param name="Looser">+1 where more asks more of whoever poses, −1 where less does, 0 where it is nobody's burden.</param>
/// <param name="Says">The rule in words, its number between.</param>
public sealed record TimingNumber(
    string Id,
    string Says,
    int Looser,
    double Least,
    double Most,
    Func<TimingRules, double> Read,
    Func<TimingRules, double, TimingRules> With
)
{
    /// <summary>The minutes on end of one strain; else a number of the evening.</summary>
    public bool Strain { get; init; }

    /// <summary>As a line of a table: a strain by its name.</summary>
    public string Name => Strain ? Says[..Says.LastIndexOf(',')] : Says;

    public double Studio => Read(TimingRules.Default);

    /// <summary>Whether the value asks more of a model than the studio's does.</summary>
    public bool IsLooser(double value) => Looser * (value - Studio) > 1e-9;
}

/// <summary>The numbers of <see cref="TimingRules"/> by id, each with its bounds and with the direction in which it burdens the model.</summary>
public static class TimingNumbers
{
    public static IReadOnlyList<TimingNumber> All { get; } =
    [
        new("stretch", "posed on end at most", 1, 5, 45, t => t.StretchMinutes, (t, v) => t with { StretchMinutes = v }),
        new("rest", "a rest that ends a stretch", -1, 3, 15, t => t.RestMinutes, (t, v) => t with { RestMinutes = v }),
        new("strain-rest", "a rest that ends a strain", -1, 1, 10, t => t.StrainRestMinutes, (t, v) => t with { StrainRestMinutes = v }),
        new("hour", "posed in any hour at most", 1, 15, 55, t => t.HourPosedMinutes, (t, v) => t with { HourPosedMinutes = v }),
        new("break-over", "a break in anything over", 1, 60, 120, t => t.BreakOverMinutes, (t, v) => t with { BreakOverMinutes = v }),
        new("break-least", "the break, at least", -1, 5, 30, t => t.BreakMinMinutes, (t, v) => t with { BreakMinMinutes = v }),
        new("break-most", "the break, at most", 0, 5, 45, t => t.BreakMaxMinutes, (t, v) => t with { BreakMaxMinutes = v }),
        new("long-over", "a meal in anything over", 1, 120, 300, t => t.LongOverMinutes, (t, v) => t with { LongOverMinutes = v }),
        new("meal", "the meal", -1, 20, 90, t => t.MealMinutes, (t, v) => t with { MealMinutes = v }),
        new("set-up", "set-up, at least", 0, 5, 30, t => t.SetUpMin, (t, v) => t with { SetUpMin = v }),
        new("review", "review on the wall, at least", 0, 5, 30, t => t.ReviewMin, (t, v) => t with { ReviewMin = v }),
        new("pack-up", "packing up, at least", 0, 5, 30, t => t.PackUpMin, (t, v) => t with { PackUpMin = v }),
        .. TimingRules.Default.Strains.Select(s => new TimingNumber(
            s.Id.Word(),
            $"{s.Name}, on end",
            1,
            1,
            45,
            t => t.Limit(s.Id).LimitMinutes,
            (t, v) => t with { Strains = [.. t.Strains.Select(l => l.Id == s.Id ? l with { LimitMinutes = v } : l)] }
        )
        {
            Strain = true,
        }),
    ];

    public static TimingNumber? Find(string id) => All.FirstOrDefault(n => n.Id == id);

    /// <summary>The rules with some of their numbers changed.</summary>
    public static TimingRules Over(TimingRules rules, IReadOnlyDictionary<string, double> numbers) =>
        numbers.Aggregate(rules, (t, n) => Find(n.Key)?.With(t, n.Value) ?? t);
}
