using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>Where everything stands on a drill sheet: millimetres of a field of 182 × 250, y down, that lies in the middle of an A4 or a Letter
/// page. Eight marks and twenty dots carry the straightening, the block of squares the number.</summary>
public static class SheetLayout
{
    public const double Width = 182,
        Height = 250;

    /// <summary>Cells that items are printed in; a wide item takes two.</summary>
    public const double CellWidth = 54,
        CellHeight = 50,
        Left = 10,
        Top = 26;
    public const int Columns = 3,
        Rows = 4;

    /// <summary>Ring and disc of a mark, radius and line.</summary>
    public const double Ring = 4.1,
        RingLine = 1.8,
        Disc = 1.6,
        Dot = 0.9;

    /// <summary>The block of squares: its corner, its pitch, the side of a square.</summary>
    public const double CodeLeft = 98,
        CodeTop = 1.2,
        Pitch = 2.5,
        Square = 2.2;

    /// <summary>The ruler's left end, and its length.</summary>
    public static readonly Vec2 Ruler = new(15, 240);
    public const double RulerLength = 60;

    /// <summary>Where the square code that opens the upload page is printed.</summary>
    public static readonly Vec2 Link = new(142, 228.5);
    public const double LinkSide = 16.5;

    /// <summary>Rings with a disc in them, round the edge from the upper left. Any four, no three in a line, are enough to find a sheet by.</summary>
    public static IReadOnlyList<Vec2> Marks { get; } =
    [new(5, 5), new(91, 5), new(177, 5), new(177, 101), new(177, 245), new(91, 245), new(5, 245), new(5, 101)];

    /// <summary>Dots at the corners of the cells.</summary>
    public static IReadOnlyList<Vec2> Dots { get; } =
    [
        .. from row in Enumerable.Range(0, Rows + 1)
        from column in Enumerable.Range(0, Columns + 1)
        select new Vec2(Left + (CellWidth * column), Top + (CellHeight * row)),
    ];

    /// <summary>Of the field, clockwise from its upper left.</summary>
    public static IReadOnlyList<Vec2> Corners { get; } = [new(0, 0), new(Width, 0), new(Width, Height), new(0, Height)];

    public static Vec2 Cell(int column, int row) => new(Left + (CellWidth * column), Top + (CellHeight * row));

    /// <summary>Width and height of the page.</summary>
    public static (double Width, double Height) Page(bool letter) => letter ? (8.5 * 25.4, 11 * 25.4) : (210, 297);

    /// <summary>The field's upper left corner on the page.</summary>
    public static Vec2 On(bool letter) => Page(letter) is var (w, h) ? new((w - Width) / 2, (h - Height) / 2) : default;
}

/// <summary>A piece of what is printed, in the field's millimetres. One list makes the page, what the reader knows to be print, and the sheets
/// that are only simulated.</summary>
public abstract record PrintShape;

/// <param name="Line">Breadth of the line; 0 for a filled disc.</param>
public sealed record PrintCircle(Vec2 Middle, double Radius, double Line = 0) : PrintShape;

/// <param name="Dashed">1.2 on, 1.8 off.</param>
public sealed record PrintPath(IReadOnlyList<Vec2> Places, bool Closed = false, double Line = PrintPath.Given, bool Dashed = false)
    : PrintShape
{
    /// <summary>Breadth of what is given to be looked at, and of what only helps.</summary>
    public const double Given = 0.35,
        Thin = 0.22;
}

/// <param name="Black">How dark: 1 is ink, less is a tone.</param>
public sealed record PrintBox(Vec2 Corner, double Width, double Height, double Black = 1) : PrintShape;

/// <param name="Size">Of the letters, millimetres.</param>
public sealed record PrintWords(Vec2 Foot, string Words, double Size = PrintWords.Usual) : PrintShape
{
    public const double Usual = 2.7,
        Small = 2.3,
        Large = 4.2;
}
