namespace MintHarbor.Core.Sessions;

/// <summary>How hard a pose is to hold, easiest first: the order is the order of strain.</summary>
public enum Strain
{
    Lying,
    Seated,
    Standing,
    OneLeg,
    Raised,
    Extreme,
}

/// <param name="Height">Step of the pose strip, 1 to 5.</param>
/// <param name="LimitMinutes">Most minutes on end at this strain or harder.</param>
public sealed record StrainLimit(Strain Id, string Name, int Height, double LimitMinutes);

/// <summary>Rest and frame limits of a meeting, in minutes; editable data. The model's own word always wins.</summary>
public sealed record TimingRules(
    string Source,
    double StretchMinutes,
    double RestMinutes,
    double HourPosedMinutes,
    double BreakOverMinutes,
    double BreakMinMinutes,
    double BreakMaxMinutes,
    double BreakFrom,
    double BreakTo,
    double SetUpMin,
    double ReviewMin,
    double ReviewFromMinutes,
    double PackUpMin,
    IReadOnlyList<StrainLimit> Strains,
    PayRules Pay
)
{
    public static TimingRules Default { get; } = CoreData.Read<TimingRules>("timing");

    public StrainLimit Limit(Strain s) => Strains.First(l => l.Id == s);
}
