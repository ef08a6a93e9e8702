namespace MintHarbor.Core.Practice;

/// <summary>The eye that one aims with.</summary>
public enum DominantEye
{
    Left,
    Right,

    /// <summary>Tries that disagree: keep to one, whichever, and always the same.</summary>
    Neither,
}

/// <summary>The test of half a minute (common practice; of no medical meaning): with both eyes open a far thing is covered with the thumb at arm's length, then
/// one eye is closed. The thumb stays on the thing as long as the dominant eye is open.</summary>
public static class EyeTest
{
    public const int Tries = 4;

    /// <param name="stays">For each try the eye that was open while the thumb stayed: true for the right one.</param>
    /// <exception cref="InputException">Another number of tries.</exception>
    public static DominantEye Of(IReadOnlyList<bool> stays)
    {
        if (stays.Count != Tries)
            throw new InputException(Say.Plural(stays.Count, "try", "tries"), "stays", $"{Tries} tries");
        var right = stays.Count(r => r);
        return right > Tries - right ? DominantEye.Right
            : right < Tries - right ? DominantEye.Left
            : DominantEye.Neither;
    }
}
