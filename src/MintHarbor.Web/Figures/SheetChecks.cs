using System.Globalization;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Measuring;
using MintHarbor.Store.Model;

namespace MintHarbor.Web.Figures;

/// <summary>Whether a check of anatomy can be judged on a sheet.</summary>
public enum CheckPlace
{
    Seen,

    /// <summary>From that seat the figure hides it.</summary>
    Hidden,

    /// <summary>It would lie beside the paper.</summary>
    OffSheet,
}

/// <summary>A check of anatomy on a drawing.</summary>
/// <param name="At">Where it lies on the drawing, mm.</param>
/// <param name="Right">Address of the true drawing, from the seat of that sheet; <paramref name="Wrong"/> of the mistaken one.</param>
public sealed record SheetCheck(CheckOn On, CheckPlace Where, Vec2 At, string Right, string Wrong)
{
    public IAnatomyCheck Check => On.Check;
    public string Key => On.Key;
}

/// <summary>Finds the checks of anatomy on a sheet: where each lies, by the marks that the drawing was laid over by.</summary>
public sealed class SheetChecks(ReferenceViews references, FigureViews views)
{
    public async Task<IReadOnlyList<SheetCheck>> Of(Sheet sheet, Course course) => Of(sheet, course, await references.Of(sheet, course));

    /// <summary>None where the sheet is held against no figure, or a head has too few marks.</summary>
    /// <param name="laid">As the sheet was laid over already; null where it is held against none.</param>
    public IReadOnlyList<SheetCheck> Of(Sheet sheet, Course course, LaidReference? laid) =>
        sheet.Subject == "head" ? OfHead(sheet, course)
        : laid?.Fit is { } fit ? OfFigure(sheet, course, laid, fit)
        : [];

    private IReadOnlyList<SheetCheck> OfFigure(Sheet sheet, Course course, LaidReference laid, Similarity fit)
    {
        var pairs = sheet
            .Landmarks.Where(l => laid.Seen.Landmarks.Has(l.Key))
            .Select(l => (laid.Seen.Landmarks[l.Key]!.Value, l.Value))
            .ToList();
        return
        [
            .. views
                .Checks(laid.Address, laid.Pose, Drapery.For(course.Minors, laid.Address.Garment))
                .Select(c =>
                    On(sheet, new(c.Check, c.Side), c.Visible, DrawnPlace.Of(new(c.At.X, c.At.Y), fit, pairs), wrong =>
                        laid.Address.ForCheck(course.Id, c.Check.Id, c.Side, wrong)
                    )
                ),
        ];
    }

    private IReadOnlyList<SheetCheck> OfHead(Sheet sheet, Course course)
    {
        var levels = HeadLevels.Of(course.SchoolOf("head"));
        // A school of one's own may set levels that no head has.
        if (!levels.AreDrawable || HeadSeat.Of(views.Head(levels, true), sheet.Landmarks) is not { } seat)
            return [];
        return
        [
            .. views
                .Checks(levels, seat.Pose)
                .Select(c =>
                    On(sheet, new(c.Check, c.Side), c.Visible, DrawnPlace.Of(new(c.At.X, c.At.Y), seat.Laid, seat.Marks), wrong =>
                        ForHead(course.Id, c.Check.Id, c.Side, seat.Pose, wrong)
                    )
                ),
        ];
    }

    private static string ForHead(int course, string check, int side, HeadPose pose, bool wrong) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"/courses/{course}/head/check/{check}?turn={pose.Turn:0.##}&tilt={pose.Tilt:0.##}&{FigureAddress.Card(side, wrong)}"
        );

    private static SheetCheck On(Sheet sheet, CheckOn on, bool visible, Vec2 at, Func<bool, string> address)
    {
        var within = at.X >= 0 && at.Y >= 0 && at.X <= sheet.PaperWidthMm && at.Y <= sheet.PaperHeightMm;
        return new(
            on,
            !visible ? CheckPlace.Hidden
                : within ? CheckPlace.Seen
                : CheckPlace.OffSheet,
            at,
            address(false),
            address(true)
        );
    }
}
