using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Sessions;

/// <summary>Two poses for two models who pose together.</summary>
/// <param name="One">The harder of both, by id: its limits are those of the pair.</param>
/// <param name="Other">What the second model holds meanwhile.</param>
/// <param name="Stand">How they stand to one another.</param>
/// <param name="Teaches">What two show that one does not.</param>
public sealed record PosePair(string Id, string Name, string One, string Other, string Stand, string Teaches)
{
    public static IReadOnlyList<PosePair> All { get; } = CoreData.Read<List<PosePair>>("pairs");

    private static readonly Dictionary<string, PosePair> ByFirst = All.ToDictionary(p => p.One);

    public static PosePair? With(string one) => ByFirst.GetValueOrDefault(one);

    /// <summary>A pose of an evening with two models, as both read it.</summary>
    public static string Said(string pose, string name) =>
        With(pose) is { } pair
            ? $"{name}; the other {FigureCatalogue.Pose(pair.Other).Name.ToLowerInvariant()}: {pair.Stand}"
            : $"{name}, both; the second turned away";
}
