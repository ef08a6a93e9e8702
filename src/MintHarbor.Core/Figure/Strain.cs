using System.Text.Json;

namespace MintHarbor.Core.Figure;

/// <summary>How hard a pose is to hold, easiest first: the order is the order of strain.</summary>
public enum Strain
{
    Lying,
    Seated,
    Standing,
    OneLeg,
    Kneeling,
    LeaningBack,
    HeelUp,
    Raised,
    Arched,
    Extreme,
}

/// <summary>Strains as poses and timetables write them, "one-leg".</summary>
public static class Strains
{
    private static readonly Dictionary<string, Strain> ByWord = Enum.GetValues<Strain>().ToDictionary(Word);

    public static IReadOnlyList<string> Words { get; } = [.. ByWord.Keys];

    public static string Word(this Strain s) => JsonNamingPolicy.KebabCaseLower.ConvertName(s.ToString());

    /// <exception cref="KeyNotFoundException">None of <see cref="Words"/>.</exception>
    public static Strain Read(string word) => ByWord[word];
}
