using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Sessions;

/// <summary>Scope and size by the length of a pose: what can be reached in it, and how large to begin. Common practice.</summary>
public static class Scope
{
    public const string Source = "common practice: short is one line and the big shape; long is small enough to reach tone";

    private static readonly (double Upto, string Says)[] Lengths =
    [
        (1, "One line and the big shape, as large as the page."),
        (3, "Line of action and three tilts, as large as the page; limbs if they come."),
        (6, "The whole figure in big masses; leave out hands, feet and features."),
        (12, "The whole figure measured: heads, middle, plumb line; half the page high."),
        (25, "Smaller, a third of the page: block-in to construction; tone in two values at the end."),
        (double.PositiveInfinity, "As large as hand and paper allow; by stages, tone only once proportion holds."),
    ];

    /// <param name="minutes">Minutes on one drawing.</param>
    public static string Of(double minutes) => Lengths.First(l => minutes <= l.Upto + 1e-9).Says;

    /// <summary>Whether an exercise's drawings differ in length, so that the students say scope and size before each.</summary>
    public static bool Asked(Exercise e) => e.Id is "timed-study-set" or "gesture" or "sitting" or "same-again";
}
