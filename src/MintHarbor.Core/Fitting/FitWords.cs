using MintHarbor.Core.Landmarks;

namespace MintHarbor.Core.Fitting;

/// <summary>What a fit says, in one plain sentence: values decide, these only say.</summary>
public static class FitWords
{
    public static string Says(NoFit why) =>
        why switch
        {
            NoFit.Blank => "Nothing is drawn here that can be told from paper: a darker photograph, or corners laid anew.",
            NoFit.Black => "The sheet is dark all over: no line can be told from another. Place the marks by hand.",
            NoFit.Several => "More than one drawing stands on this sheet: click crown and sole of the one that is meant.",
            NoFit.UpsideDown => "It would lie on the pose if it stood the other way up: turn the sheet by its corners.",
            NoFit.NotThis =>
                "What is drawn doesn't lie on this pose from this seat: another pose or seat, a part of the figure, or corners amiss.",
            _ => "",
        };

    /// <param name="goesOn">Whether the mark is still asked for, and not enough of them were.</param>
    public static string Says(NoFit why, string? ask, bool goesOn = true) =>
        why != NoFit.None ? Says(why)
        : ask is null ? "Good enough: every mark that a measure ends at is known closely enough."
        : goesOn ? $"The mark that matters most: {LandmarkIds.Name(ask)}."
        : $"Good enough for most; {LandmarkIds.Name(ask)} and what hangs on it stay not looked at.";

    public static string Says(FitResult fit) =>
        fit.Ask is { } ask && fit.Why == NoFit.None
            ? $"{Says(fit.Why, ask)[..^1]}, known to {Say.Number(fit.Marks[ask].R90, 1)} mm where {Say.Number(fit.Marks[ask].Tolerance, 1)} would do."
            : Says(fit.Why, fit.Ask);

    /// <summary>Nobody is asked more often than this.</summary>
    public const int MostAsked = 6;

    public static string Says(IReadOnlyList<FoundPose> poses) =>
        poses.Count == 0 ? Says(NoFit.Blank)
        : poses.Count > 1 && poses[1].Apart - poses[0].Apart < PoseFinder.TooClose
            ? $"{Name(poses[0])} or {Name(poses[1])}? They lie equally near."
        : $"{Name(poses[0])}, told from the ink.";

    private static string Name(FoundPose p) => Figure.FigureCatalogue.Pose(p.Pose).Name;
}
