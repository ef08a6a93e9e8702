using MintHarbor.Core.Sessions;

namespace MintHarbor.Core.Tests.Sessions;

internal static class Evenings
{
    /// <summary>A Tuesday for fourteen: the evening that most tests begin from.</summary>
    public static readonly PlanRequest Usual = new(
        new()
        {
            Minutes = 150,
            Approach = Approach.QuickFirst,
            Purpose = Purpose.Proportion,
            Students = 14,
            Seed = 7,
        }
    );
}
