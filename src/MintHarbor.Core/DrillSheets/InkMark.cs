using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>A place of ink, and how much darker than the paper it is.</summary>
internal readonly record struct InkPlace(Vec2 At, double Dark)
{
    private const double MostWeight = 0.35;

    /// <summary>What it counts in a fit: a stroke pressed hard is no surer than one pressed well.</summary>
    public double Weight => Math.Min(Dark, MostWeight);
}

/// <summary>Ink that hangs together, print between it or not.</summary>
internal sealed class InkMark
{
    public List<InkPlace> Places { get; } = [];

    /// <summary>Darkness that three quarters of it don't reach.</summary>
    public double Dark { get; private set; }

    /// <summary>Sum of its darkness.</summary>
    public double Ink { get; private set; }
    public Area Bounds { get; private set; } = new(double.MaxValue, double.MaxValue, double.MinValue, double.MinValue);
    public double Size => Math.Max(Bounds.Right - Bounds.Left, Bounds.Foot - Bounds.Top);

    private readonly List<double> darkness = [];

    public void Add(Vec2 at, double dark)
    {
        Places.Add(new(at, dark));
        darkness.Add(dark);
        Ink += dark;
        Bounds = new(Math.Min(Bounds.Left, at.X), Math.Min(Bounds.Top, at.Y), Math.Max(Bounds.Right, at.X), Math.Max(Bounds.Foot, at.Y));
    }

    public void Close() => Dark = Samples.Quantile(darkness, 0.75);
}
