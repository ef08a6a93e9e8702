namespace MintHarbor.Core.DrillSheets;

/// <summary>Sheets that anybody can print and read without a studio: what is on one follows from its number alone.</summary>
public static class TrialSheets
{
    /// <summary>Numbers from 0 to below this are theirs.</summary>
    public const long End = 1_000_000;

    private static readonly string[][] Mixes =
    [
        ["slant", "half", "third", "tone"],
        ["carry", "ratio", "plumb", "contour"],
        ["slant", "level", "envelope", "ellipse"],
        ["half", "third", "strokes", "pressure"],
        ["slant", "carry", "negative", "hatch"],
        ["ratio", "plumb", "converging", "tone"],
        ["slant", "half", "level", "contour"],
    ];

    /// <summary>Null where the number is a studio's.</summary>
    public static DrillSheet? Of(SheetCode code) =>
        code.Number < End ? DrillSheet.Make(code, Mixes[code.Number % Mixes.Length], code.Number) : null;
}
