using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>Tells what was rubbed out from what was meant, by how much fainter it is.</summary>
internal static class Erased
{
    /// <summary>Fainter than this share of the darkest is an erased mark; where the darkest is so faint itself, nobody can tell.</summary>
    private const double Share = 0.42,
        TooFaint = 0.13;

    /// <returns>What was meant, and whether a person should look at what was not.</returns>
    public static (List<InkMark> Meant, bool Doubt) Dropped(IReadOnlyList<InkMark> marks, double share = Share)
    {
        var darkest = marks.Where(m => m.Size > 2).Select(m => m.Dark).DefaultIfEmpty(0).Max();
        var meant = marks.Where(m => m.Dark >= share * darkest).ToList();
        var faint = marks.Where(m => m.Dark < share * darkest && m.Size > 3).ToList();
        var doubt = faint.Count > 0 && (darkest < TooFaint || faint.Sum(m => m.Size) > 2 * meant.Sum(m => m.Size));
        return (meant, doubt);
    }

    public static bool IsFaint(double darkest) => darkest < TooFaint;

    /// <summary>Pixels of strokes without those of what was rubbed out under them.</summary>
    public static List<InkPlace> Strong(IReadOnlyList<InkPlace> places, double share = 0.38)
    {
        var dark = Samples.Quantile(places.Select(p => p.Weight), 0.75);
        return [.. places.Where(p => p.Weight >= share * dark)];
    }
}
