using System.Globalization;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Practice;

/// <summary>A drill that is answered by strokes drawn on the picture: its answer is how far they lie from the true ones.</summary>
public abstract class DrawnDrill : Drill
{
    public const int MostPlaces = 400;

    public override bool Signed => false;

    /// <summary>How far aside the end of the line lies from its beginning, in heads: no one drawing serves for a figure that stands and one that
    /// lies.</summary>
    protected override double Spread(Marked asked, Marked? unit, double truth) => (asked.To.X - asked.From.X) / unit!.Length;

    public override string SayAxis(double error) => Unit == "missed" ? Say.Signed(100 * error) + " %" : Say.Signed(error, 2);

    /// <summary>What each stroke is, in the order they are drawn.</summary>
    public virtual IReadOnlyList<string> Strokes => ["the line"];

    /// <summary>The true strokes in a view's pixels.</summary>
    protected abstract IReadOnlyList<IReadOnlyList<Vec2>> Curves(StudioView view);

    protected abstract double Apart(DrillItem item, IReadOnlyList<IReadOnlyList<Vec2>> truth, IReadOnlyList<IReadOnlyList<Vec2>> drawn);

    /// <summary>The true strokes in the item's picture.</summary>
    public IReadOnlyList<IReadOnlyList<Vec2>> Curves(DrillItem item)
    {
        var view = StudioViews.Get(item.ViewId);
        return item.Mirrored
            ? [.. Curves(view).Select(c => (IReadOnlyList<Vec2>)[.. c.Select(p => new Vec2(view.Width - p.X, p.Y))])]
            : Curves(view);
    }

    /// <summary>How far drawn strokes lie from the true ones, in the drill's unit.</summary>
    /// <exception cref="InputException">Another number of strokes than the drill asks for.</exception>
    public double Apart(DrillItem item, IReadOnlyList<IReadOnlyList<Vec2>> drawn) =>
        drawn.Count == Strokes.Count
            ? Math.Round(Apart(item, Curves(item), drawn), Decimals)
            : throw new InputException($"{drawn.Count} strokes", "path", string.Join(", ", Strokes));

    public override double Given(DrillItem item, double value, string? path) => Apart(item, Read(path));

    /// <summary>Reads strokes as the page sends them: "x,y x,y …; x,y …" in the picture's pixels.</summary>
    /// <exception cref="InputException">A stroke of fewer than two places, too many places, or one that is no place.</exception>
    public static IReadOnlyList<IReadOnlyList<Vec2>> Read(string? text)
    {
        var strokes = (text ?? "").Split(';').Select(s => s.Split(' ', StringSplitOptions.RemoveEmptyEntries)).ToList();
        if (strokes.Sum(s => s.Length) > MostPlaces || strokes.Any(s => s.Length < 2))
            throw new InputException(
                strokes.Any(s => s.Length < 2) ? "no line is drawn" : $"a line of {strokes.Sum(s => s.Length)} places",
                "path",
                $"2 to {MostPlaces} places"
            );
        return [.. strokes.Select(s => (IReadOnlyList<Vec2>)[.. s.Select(Place)])];
    }

    /// <summary>Reads one place as the page sends it: "x,y" in the picture's pixels.</summary>
    /// <exception cref="InputException">No place.</exception>
    public static Vec2 Place(string text) =>
        text.Split(',') is [var x, var y]
        && double.TryParse(x, CultureInfo.InvariantCulture, out var a)
        && double.TryParse(y, CultureInfo.InvariantCulture, out var b)
        && Math.Abs(a) < 5000
        && Math.Abs(b) < 5000
            ? new Vec2(a, b)
            : throw new InputException($"'{text}' is no place of the picture", "path", "x,y in the picture's pixels");
}
