using System.Text.Json.Serialization;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>One item of a drill sheet: what is given, what is asked, and how an answer is read. An item is kept as it was printed.</summary>
/// <param name="At">Upper left corner of its cell, millimetres of the field.</param>
[JsonDerivedType(typeof(Slant), "slant")]
[JsonDerivedType(typeof(Parting), "parting")]
[JsonDerivedType(typeof(Carry), "carry")]
[JsonDerivedType(typeof(Ratio), "ratio")]
[JsonDerivedType(typeof(PlumbPoints), "plumb")]
[JsonDerivedType(typeof(CrossLevel), "cross")]
[JsonDerivedType(typeof(Envelope), "envelope")]
[JsonDerivedType(typeof(SingleStrokes), "strokes")]
[JsonDerivedType(typeof(ToneSteps), "tone")]
[JsonDerivedType(typeof(PressureScale), "pressure")]
[JsonDerivedType(typeof(Contour), "contour")]
[JsonDerivedType(typeof(NegativeShape), "negative")]
[JsonDerivedType(typeof(EllipseOnAxes), "ellipse")]
[JsonDerivedType(typeof(EvenHatch), "hatch")]
[JsonDerivedType(typeof(Converging), "converging")]
public abstract record PaperItem(Vec2 At)
{
    /// <summary>Two cells wide.</summary>
    [JsonIgnore]
    public virtual bool Wide => false;

    [JsonIgnore]
    public double Width => (Wide ? 2 : 1) * SheetLayout.CellWidth;

    /// <summary>What is asked, in a line above it.</summary>
    [JsonIgnore]
    public abstract string Asks { get; }

    /// <summary>What is printed of it, the line of words apart.</summary>
    public abstract IEnumerable<PrintShape> Print();

    /// <summary>Reads the answer off a straightened sheet, once the item's own print has been found on it.</summary>
    internal abstract ItemReading Read(ItemInk ink);

    /// <summary>Where the reader looks for the item's own print, to know how the paper lies there; the field's corners where it has one.</summary>
    [JsonIgnore]
    internal virtual Area Anchors => new(At.X + 1, At.Y + 1.2, At.X + Width - 1, At.Y + 49);

    /// <summary>Patches of tone, given and to be filled: the paper's light is told from round them.</summary>
    [JsonIgnore]
    internal virtual IEnumerable<Area> Patches => [];

    /// <summary>The corners of a field to draw in.</summary>
    protected static IEnumerable<PrintShape> Corners(Area a)
    {
        const double arm = 2.5;
        foreach (
            var (x, y, dx, dy) in new[]
            {
                (a.Left, a.Top, 1, 1),
                (a.Right, a.Top, -1, 1),
                (a.Right, a.Foot, -1, -1),
                (a.Left, a.Foot, 1, -1),
            }
        )
            yield return new PrintPath([new(x + (dx * arm), y), new(x, y), new(x, y + (dy * arm))], Line: PrintPath.Thin);
    }

    /// <summary>A line with a small stop at either end.</summary>
    protected static IEnumerable<PrintShape> Bar(Vec2 a, Vec2 b)
    {
        yield return new PrintPath([a, b]);
        yield return Stop(a, b - a, 1.2);
        yield return Stop(b, b - a, 1.2);
    }

    /// <summary>A short line across another.</summary>
    protected static PrintPath Stop(Vec2 at, Vec2 along, double half)
    {
        var across = new Vec2(-along.Y, along.X) * (half / along.Length);
        return new([at - across, at + across]);
    }
}
