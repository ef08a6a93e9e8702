namespace MintHarbor.Core.Critiques;

/// <summary>Two letters for every named fault, so that a hand on the keys names one without looking for it. The same faults have the same
/// letters always.</summary>
public static class FaultCodes
{
    /// <summary>Codes by fault id, in the order of the list: the first letters of the name's first two words where they are free, else the first letter with
    /// the next one of the name that is. A fault for which nothing is free has none.</summary>
    public static IReadOnlyDictionary<string, string> Of(IReadOnlyList<Fault> faults)
    {
        var taken = new HashSet<string>();
        var codes = new Dictionary<string, string>();
        foreach (var fault in faults)
            if (Candidates(fault.Name).FirstOrDefault(taken.Add) is { } code)
                codes[fault.Id] = code;
        return codes;
    }

    private static IEnumerable<string> Candidates(string name)
    {
        List<string> words =
        [
            .. name.ToLowerInvariant()
                .Split(' ', '-', '\'')
                .Select(w => string.Concat(w.Where(char.IsAsciiLetterLower)))
                .Where(w => w != "" && w is not ("the" or "a" or "of" or "as" or "in" or "to")),
        ];
        if (words.Count == 0)
            yield break;
        var first = words[0][0];
        foreach (var word in words.Skip(1))
            yield return $"{first}{word[0]}";
        foreach (var letter in words[0].Skip(1).Concat(words.Skip(1).SelectMany(w => w.Skip(1))))
            yield return $"{first}{letter}";
        for (var letter = 'a'; letter <= 'z'; letter++)
            yield return $"{first}{letter}";
    }
}
