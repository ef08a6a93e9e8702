namespace MintHarbor.Core.Measuring;

/// <summary>The pencil ratios of a pose card, as its JSON names them.</summary>
public static class PoseCardKeys
{
    public const string Heads = "heads",
        Shoulders = "shoulders";

    /// <summary>Distances from the pit of the neck: the landmark they go to and their name.</summary>
    public static readonly IReadOnlyDictionary<string, (string To, string Name)> PitTo = new Dictionary<string, (string, string)>
    {
        [Parts.PitToPubic] = ("pubic", "pit to pubic bone"),
        [Parts.PitToKneetop] = ("kneetop", "pit to kneecap"),
        [Parts.PitToSole] = ("sole", "pit to sole"),
    };
}
