using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.DrillSheets;

/// <summary>Why no sheet was read off a photograph.</summary>
public enum NoSheet
{
    /// <summary>No block of squares that says what it is: no drill sheet, or one cut off, crumpled or hidden.</summary>
    NotFound,

    /// <summary>Its number belongs to no sheet that was printed here.</summary>
    Unknown,

    /// <summary>Marks and dots don't lie as on a sheet: crumpled, or a picture of a screen.</summary>
    NotFlat,
}

/// <summary>A sheet as it was read.</summary>
/// <param name="Items">In the order of the sheet's.</param>
/// <param name="Mended">Spoilt bytes of the code.</param>
/// <param name="LeftOut">How far a mark lies from where the others say, root mean square, millimetres.</param>
/// <param name="Scale">How large it was printed, 1 as it should be; null where the page's edges aren't seen.</param>
/// <param name="Corners">Of the field, in the photograph's pixels.</param>
public sealed record DrillSheetReading(
    SheetCode Code,
    IReadOnlyList<ItemReading> Items,
    int Mended,
    double LeftOut,
    double? Scale,
    double TurnDegrees,
    double PixelsPerMm,
    IReadOnlyList<Vec2> Corners
);

/// <summary>Reads photographed drill sheets.</summary>
public static class DrillSheetReader
{
    /// <summary>The flat picture that print is drawn on: its corner in the field's millimetres, pixels to a millimetre, its size.</summary>
    public static (double Left, double Top, double PerMm, int Width, int Height) PrintOn =>
        (FlatSheet.Left, FlatSheet.Top, FlatSheet.PerMm, FlatSheet.Width, FlatSheet.Height);

    /// <summary>The sheet in a photograph, told by its number; null where none is found.</summary>
    public static LocatedSheet? Find(GreyImage photo)
    {
        var picture = new LinearPicture(photo);
        return SheetSearch.Find(picture) is { } found ? new(picture, found) : null;
    }

    /// <summary>Finds and reads at once.</summary>
    /// <param name="known">The sheet of a code; null where none was printed.</param>
    /// <param name="print">A sheet's print, black on white, on <see cref="PrintOn"/>.</param>
    public static (DrillSheetReading? Reading, NoSheet? Not) Read(
        GreyImage photo,
        Func<SheetCode, DrillSheet?> known,
        Func<DrillSheet, GreyImage> print
    )
    {
        if (Find(photo) is not { } located)
            return (null, NoSheet.NotFound);
        if (known(located.Code) is not { } sheet)
            return (null, NoSheet.Unknown);
        return located.Read(sheet, print(sheet)) is { } reading ? (reading, null) : (null, NoSheet.NotFlat);
    }
}

/// <summary>A sheet that was found in a photograph, and is yet to be read.</summary>
public sealed class LocatedSheet
{
    private readonly LinearPicture picture;
    private readonly SheetSearch.Found found;

    internal LocatedSheet(LinearPicture picture, SheetSearch.Found found) => (this.picture, this.found) = (picture, found);

    public SheetCode Code => found.Code;

    /// <param name="sheet">What was printed under its number.</param>
    /// <param name="print">Its print, black on white, on <see cref="DrillSheetReader.PrintOn"/>.</param>
    /// <returns>Null where marks and dots don't lie as on a sheet.</returns>
    public DrillSheetReading? Read(DrillSheet sheet, GreyImage print)
    {
        if (SheetRefinement.Of(picture, found.Map) is not { } refined)
            return null;
        var flat = new FlatSheet(picture, refined.Map, sheet, print, refined.LeftOut);
        return new(
            Code,
            [.. sheet.Items.Select(i => Read(flat, i))],
            found.Mended,
            refined.LeftOut,
            PageEdges.Scale(picture, refined.Map, Code.Letter),
            refined.Map.Turn,
            refined.Map.PixelsPerMm,
            [.. SheetLayout.Corners.Select(refined.Map.Map)]
        );
    }

    private static ItemReading Read(FlatSheet flat, PaperItem item)
    {
        var ink = new ItemInk(flat, item);
        return item.Read(ink).With(ReadingFlag.PrintHidden, ink.Hidden).With(ReadingFlag.NotFlat, ink.Displaced);
    }
}
