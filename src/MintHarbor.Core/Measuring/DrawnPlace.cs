using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Measuring;

/// <summary>Where a place of a view lies on the drawing of it: as the whole is laid over, and drawn along by the marks near by, since what is
/// drawn too low or too far out takes what lies beside it along.</summary>
public static class DrawnPlace
{
    /// <summary>How far a mark carries, as a share of the marks' own spread on the sheet: at that distance half as much as close by.</summary>
    private const double Reach = 0.12;

    /// <param name="at">In the view.</param>
    /// <param name="laid">From the view to the sheet.</param>
    /// <param name="marks">The same places in the view and on the sheet.</param>
    /// <returns>On the sheet: at a mark the drawn mark itself (within a hundredth of the spread), far from all of them as the whole is laid.</returns>
    public static Vec2 Of(Vec2 at, Similarity laid, IReadOnlyList<(Vec2 Seen, Vec2 Drawn)> marks)
    {
        var over = laid.Map(at);
        if (marks.Count == 0)
            return over;
        var spread = Math.Max(Extent(marks.Select(m => m.Drawn.X)), Extent(marks.Select(m => m.Drawn.Y)));
        if (spread <= 0)
            return over;
        var near = Math.Pow(Reach * spread, 2);
        // The whole counts as one more mark that moves nothing, at the reach.
        double weights = 1 / near;
        var shift = new Vec2(0, 0);
        foreach (var (seen, drawn) in marks)
        {
            var there = laid.Map(seen);
            var w = 1 / (Math.Pow((there - over).Length, 2) + (near * 0.0005));
            shift += (drawn - there) * w;
            weights += w;
        }
        return over + (shift * (1 / weights));
    }

    private static double Extent(IEnumerable<double> values)
    {
        var all = values.ToList();
        return all.Max() - all.Min();
    }
}
