using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.DrillSheets;

/// <summary>How large a sheet was printed, by where its page ends: a printer that fits the page makes the field smaller and the margins wider.</summary>
internal static class PageEdges
{
    private const double Nearest = 2,
        Farthest = 36,
        Step = 0.25;
    private const int Reach = 6;

    /// <summary>Both directions must agree within this; one alone is enough.</summary>
    private const double Agreed = 0.012;

    public static double? Scale(LinearPicture photo, SheetMap map, bool letter)
    {
        var (w, h) = SheetLayout.Page(letter);
        var across = Both(photo, map, true) is { } x ? w / (SheetLayout.Width + x) : (double?)null;
        var down = Both(photo, map, false) is { } y ? h / (SheetLayout.Height + y) : (double?)null;
        return (across, down) switch
        {
            ({ } a, { } b) => Math.Abs(a - b) < Agreed ? (a + b) / 2 : null,
            ({ } a, null) => a,
            (null, { } b) => b,
            _ => null,
        };
    }

    /// <summary>Both margins of a direction together.</summary>
    private static double? Both(LinearPicture photo, SheetMap map, bool across) =>
        Side(photo, map, -1, across) is { } a && Side(photo, map, 1, across) is { } b ? a + b : null;

    /// <summary>Where light changes most on the way outward, by the median of twenty-one ways.</summary>
    private static double? Side(LinearPicture photo, SheetMap map, double sign, bool across)
    {
        var found = new List<double>();
        for (double along = -70; along <= 70; along += 7)
            if (Edge(photo, map, sign, across, along) is { } edge)
                found.Add(edge);
        if (found.Count < 8)
            return null;
        var middle = Samples.Quantile(found, 0.5);
        return found.Count(p => Math.Abs(p - middle) < 1.5) < 0.6 * found.Count ? null : middle;
    }

    private static double? Edge(LinearPicture photo, SheetMap map, double sign, bool across, double along)
    {
        var light = new List<double>();
        for (var d = Nearest; d <= Farthest; d += Step)
        {
            var p = across
                ? map.Map((SheetLayout.Width / 2) + (sign * ((SheetLayout.Width / 2) + d)), (SheetLayout.Height / 2) + along)
                : map.Map((SheetLayout.Width / 2) + along, (SheetLayout.Height / 2) + (sign * ((SheetLayout.Height / 2) + d)));
            if (p.X < 2 || p.Y < 2 || p.X > photo.Width - 2 || p.Y > photo.Height - 2)
                break;
            light.Add(Math.Log(photo.At(p) + 0.01));
        }
        var (most, at) = (0.12, (double?)null);
        for (var i = Reach; i < light.Count - Reach; i++)
        {
            double change = 0;
            for (var k = 1; k <= Reach; k++)
                change += light[i - k] - light[i + k];
            if (Math.Abs(change) / Reach is var step && step > most)
                (most, at) = (step, Nearest + (Step * i));
        }
        return at;
    }
}
