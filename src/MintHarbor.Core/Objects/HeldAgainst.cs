using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Objects;

/// <summary>How a thing of a still life was drawn: shares beyond the others of the sheet, above 0 too large, too far right or too low.</summary>
/// <param name="High">Natural logarithm of drawn over true height, less what all things are off alike.</param>
/// <param name="Wide">The same of its breadth.</param>
/// <param name="Aside">How far its middle lies from where the others put it, in breadths of the whole.</param>
/// <param name="Low">The same of its foot, in heights of the whole.</param>
/// <param name="DoubtHigh">What the box alone may have done to <paramref name="High"/>, 95 %; the other doubts alike.</param>
public sealed record HeldThing(
    string Name,
    double High,
    double Wide,
    double Aside,
    double Low,
    double DoubtHigh,
    double DoubtWide,
    double DoubtAside,
    double DoubtLow
)
{
    /// <summary>Off by less is as well as an eye does it; our own default.</summary>
    public const double Allowed = 0.05;

    public bool Off(double value, double doubt) => Math.Abs(value) > Math.Max(Allowed, doubt);

    /// <summary>What is off, largest first, in words.</summary>
    public IReadOnlyList<string> Words()
    {
        List<(double Size, string Says)> said = [];
        void Share(double value, double doubt, string more, string less)
        {
            if (Off(value, doubt))
                said.Add((Math.Abs(value), $"{Say.Number(100 * Math.Abs(Math.Exp(value) - 1))} % too {(value > 0 ? more : less)}"));
        }
        void Shift(double value, double doubt, string more, string less, string of)
        {
            if (Off(value, doubt))
                said.Add((Math.Abs(value), $"{Say.Number(100 * Math.Abs(value))} % of the whole's {of} too {(value > 0 ? more : less)}"));
        }
        Share(High, DoubtHigh, "tall", "short");
        Share(Wide, DoubtWide, "broad", "narrow");
        Shift(Aside, DoubtAside, "far right", "far left", "breadth");
        Shift(Low, DoubtLow, "low", "high", "height");
        return [.. said.OrderByDescending(s => s.Size).Select(s => s.Says)];
    }
}

/// <summary>A sheet held against the still life it was drawn from: the boxes round its things against those that are seen.</summary>
public static class HeldAgainst
{
    /// <summary>How far off a side of a box may be set, millimetres, 95 %.</summary>
    public const double SideDoubt = 1.5;

    /// <param name="seen">As the view shows them, pixels.</param>
    /// <param name="drawn">Boxes in the same order, millimetres.</param>
    /// <exception cref="InputException">Another number of boxes, or one that is hardly one.</exception>
    public static IReadOnlyList<HeldThing> Compare(IReadOnlyList<SeenThing> seen, IReadOnlyList<Area> drawn)
    {
        if (seen.Count != drawn.Count)
            throw new InputException(
                $"{Say.Plural(drawn.Count, "box", "boxes")}",
                "boxes",
                $"one for each of {Say.List([.. seen.Select(t => t.Name)])}"
            );
        for (var i = 0; i < drawn.Count; i++)
            if (!(drawn[i].Width >= 4 && drawn[i].Height >= 4))
                throw new InputException($"the box of the {seen[i].Name} is hardly one", "boxes", "boxes of 4 mm a side at least");
        var n = seen.Count;
        double[] high = [.. Enumerable.Range(0, n).Select(i => Math.Log(drawn[i].Height / seen[i].Round.Height))],
            wide = [.. Enumerable.Range(0, n).Select(i => Math.Log(drawn[i].Width / seen[i].Round.Width))];
        // As large as most say: one thing drawn wrong doesn't make the others wrong.
        var scale = Math.Exp(Median([.. high, .. wide]));
        double[] x = [.. Enumerable.Range(0, n).Select(i => drawn[i].Middle.X - (scale * seen[i].Round.Middle.X))],
            y = [.. Enumerable.Range(0, n).Select(i => drawn[i].Foot - (scale * seen[i].Round.Foot))];
        var whole = Area.Round(seen.SelectMany(t => new Vec2[] { new(t.Round.Left, t.Round.Top), new(t.Round.Right, t.Round.Foot) }));
        double breadth = whole.Width * scale,
            height = whole.Height * scale,
            left = Median(x),
            top = Median(y),
            both = Math.Sqrt(2) * SideDoubt;
        return
        [
            .. Enumerable
                .Range(0, n)
                .Select(i => new HeldThing(
                    seen[i].Name,
                    high[i] - Math.Log(scale),
                    wide[i] - Math.Log(scale),
                    (x[i] - left) / breadth,
                    (y[i] - top) / height,
                    both / drawn[i].Height,
                    both / drawn[i].Width,
                    both / breadth,
                    both / height
                )),
        ];
    }

    private static double Median(double[] of)
    {
        double[] sorted = [.. of.Order()];
        return (sorted[(sorted.Length - 1) / 2] + sorted[sorted.Length / 2]) / 2;
    }
}
