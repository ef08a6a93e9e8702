using MintHarbor.Core.Practice;
using MintHarbor.Core.Rooms;
using MintHarbor.Core.Technique;

namespace MintHarbor.Cli;

/// <summary>What the ink of a flat sheet says, as the 'sheet' verb answers: lengths in mm, every estimate with the half-width of its 90 % interval as
/// the study of simulated sheets measured it.</summary>
internal static class TechniqueAnswer
{
    /// <summary>Half-widths, as shares of the value or in its own unit: as docs/study.md measured them; the weight's from trials of the method, across
    /// tools.</summary>
    private const double SpacingU = 0.1,
        WeightU = 0.45,
        DirectionU = 8,
        DarkestU = 12,
        BoxU = 5;

    /// <summary>Parts of the verb's answer.</summary>
    public sealed record Answer(object? Placement, object? Line, object? Tone, IEnumerable<string> CannotTell, object Says);

    public static Answer Of(TechniqueReading r, Exercise? exercise, double heightMm)
    {
        var said = TechniqueFindings.Of(r, exercise, LampSide.Unknown, heightMm);
        return new(
            r.Place is { } p
                ? new
                {
                    leftMm = N(p.Left),
                    topMm = N(p.Top),
                    rightMm = N(p.Right),
                    bottomMm = N(p.Bottom),
                    marginsMmU = BoxU,
                    heightShare = N(1 - ((p.Top + p.Bottom) / heightMm), 3),
                    figureShare = N(p.Figure, 3),
                    cutEdges = p.CutEdges,
                }
                : null,
            r.LinesHidden || r.Why != Nothing.None
                ? null
                : new
                {
                    contourMm = N(r.Contour?.Length),
                    weightMm = N(r.Contour?.Weight, 3),
                    weightMmU = N(r.Contour?.Weight * WeightU, 3),
                    thickThin = N(r.Contour?.ThickThin, 2),
                    rightOverLeft = N(r.Contour?.Side is { } side ? Math.Exp(side) : null, 2),
                    hairy = r.IsHairy,
                    hatchMm = N(r.Hatch?.Length),
                    hatchShare = N(r.Hatch?.Share, 3),
                    hatchSpacingMm = N(r.Hatch?.Spacing, 2),
                    hatchSpacingMmU = N(r.Hatch?.Spacing * SpacingU, 2),
                    hatchUnevenness = N(r.Hatch?.Evenness, 2),
                    hatchDirectionDegrees = N(r.Hatch?.Direction),
                    hatchDirectionDegreesU = r.Hatch?.Direction is null ? (double?)null : DirectionU,
                },
            r.Tone is { } t
                ? new
                {
                    fifths = t.Fifths.Select(f => N(f, 3)),
                    valuesOfFive = t.ValuesOfFive,
                    valuesOfNine = t.ValuesOfNine,
                    rangeL = N(t.Range),
                    darkestL = N(t.Darkest),
                    darkestLU = DarkestU,
                    paperL = 95,
                    untouchedShare = N(t.Untouched, 3),
                }
                : null,
            Unknown(r),
            said.Select(f => new
            {
                rule = f.Rule.Id,
                verdict = f.Verdict,
                says = f.Says,
            })
        );
    }

    private static IEnumerable<string> Unknown(TechniqueReading r)
    {
        if (r.Why != Nothing.None)
            return ["placement", "line", "tone"];
        return r.LinesHidden || r.Contour is null ? ["line"] : [];
    }

    private static double? N(double? value, int digits = 1) => value is { } v ? Math.Round(v, digits) : null;
}
