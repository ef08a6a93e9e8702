using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Sessions;

/// <param name="Family">How the body rests on the ground: standing, seated, kneeling or reclining.</param>
/// <param name="Height">Step of the pose strip, 1 to 5.</param>
/// <param name="LimitMinutes">Most minutes on end at this strain or harder.</param>
/// <param name="Reason">What tires.</param>
public sealed record StrainLimit(Strain Id, string Name, string Family, int Height, double LimitMinutes, string Reason);

/// <summary>Rest and frame limits of a meeting, in minutes; editable data. The model's own word always wins.</summary>
/// <param name="RestMinutes">A rest of so many ends a stretch.</param>
/// <param name="StrainRestMinutes">A rest of so many ends the count of a strain; a shorter one ends nothing.</param>
/// <param name="BreakMinMinutes">A meeting over <paramref name="BreakOverMinutes"/> has a break of so many to <paramref name="BreakMaxMinutes"/>,
/// its centre between the shares <paramref name="BreakFrom"/> and <paramref name="BreakTo"/> of the meeting.</param>
/// <param name="MostMinutes">Nobody poses in a meeting that is longer.</param>
/// <param name="ChangeSeconds">From one pose to the next; <paramref name="GroundSeconds"/> where the model goes to the floor, a stool or a block, or leaves it.</param>
/// <param name="LongOverMinutes">Over so many with a model: a meal of <paramref name="MealMinutes"/>, or <paramref name="LongBreaks"/> breaks of
/// <paramref name="LongBreakMinutes"/>.</param>
public sealed record TimingRules(
    string Source,
    double StretchMinutes,
    double RestMinutes,
    double StrainRestMinutes,
    double HourPosedMinutes,
    double BreakOverMinutes,
    double BreakMinMinutes,
    double BreakMaxMinutes,
    double BreakFrom,
    double BreakTo,
    double LongOverMinutes,
    double MealMinutes,
    int LongBreaks,
    double LongBreakMinutes,
    double SetUpMin,
    double ReviewMin,
    double ReviewFromMinutes,
    double PackUpMin,
    IReadOnlyList<StrainLimit> Strains,
    PayRules Pay,
    double MostMinutes = 360,
    double ChangeSeconds = 10,
    double GroundSeconds = 30
)
{
    public static TimingRules Default { get; } = CoreData.Read<TimingRules>("timing");

    /// <summary>A day so long that whoever poses eats in it.</summary>
    public bool Long(PlanWish w) => w.HasLiveModel && w.Minutes > LongOverMinutes;

    /// <summary>The same with shorter lengths: what is posed on end, and at each strain, in whole minutes, one at the least. The rests stay as long, so that an
    /// hour holds less anyway.</summary>
    /// <param name="ease">Share of the usual; 1 changes nothing.</param>
    public TimingRules Eased(double ease)
    {
        if (ease >= 1)
            return this;
        double Less(double minutes) => Math.Max(1, Math.Floor((minutes * ease) + 1e-9));
        return this with
        {
            StretchMinutes = Less(StretchMinutes),
            Strains = [.. Strains.Select(s => s with { LimitMinutes = Less(s.LimitMinutes) })],
        };
    }

    public StrainLimit Limit(Strain s) => Strains.First(l => l.Id == s);

    /// <summary>The hardest strain that a pose may be sat in for a whole period.</summary>
    public const Strain HardestSitting = Strain.OneLeg;

    /// <summary>Whether the item ends the count of a strain.</summary>
    public bool EndsStrain(PlanItem i) => i.Kind is ItemKind.Rest or ItemKind.Break && i.Minutes >= StrainRestMinutes - 1e-9;
}
