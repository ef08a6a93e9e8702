using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Rooms;

/// <summary>What a seat sees of a pose before a line is drawn: how large it is in heads, where the crown and the lowest point lie
/// in that envelope, and which limbs are short. Heads as they would be square to the eye where the head is.</summary>
/// <param name="WidthHeads">Of the upright rectangle round everything that is seen, props left out.</param>
/// <param name="CrownHeads">From its top edge down to the crown.</param>
/// <param name="SoleHeads">From its top edge down to the lowest point of the figure.</param>
public sealed record Glance(double WidthHeads, double HeightHeads, double CrownHeads, double SoleHeads, IReadOnlyList<Foreshortening> Limbs)
{
    public static Glance Of(FigureModel model, Seat seat)
    {
        seat.Checked();
        var camera = SeatCamera.Fit(seat, model.MetresPerUnit, 1000, 1000, [model.Mesh.Places]);
        float x0 = float.MaxValue,
            x1 = float.MinValue,
            y0 = x0,
            y1 = x1;
        foreach (var place in model.Mesh.Places)
        {
            var p = camera.Project(place);
            (x0, x1, y0, y1) = (MathF.Min(x0, p.X), MathF.Max(x1, p.X), MathF.Min(y0, p.Y), MathF.Max(y1, p.Y));
        }
        Vector3 crown = model.Landmark("crown").Place,
            chin = model.Landmark("chin").Place;
        var head = camera.Focal * Vector3.Distance(crown, chin) / ((camera.Project(crown).Z + camera.Project(chin).Z) / 2);
        return new(
            (x1 - x0) / head,
            (y1 - y0) / head,
            (camera.Project(crown).Y - y0) / head,
            (y1 - y0) / head,
            StudioFigure.LimbsOf(model, camera)
        );
    }

    /// <summary>Metres from the floor to the top of the pose.</summary>
    public static double HeightMetres(FigureModel model) => model.Mesh.Places.Max(p => p.Y) * model.MetresPerUnit;
}

/// <summary>How a view fits a sheet: the largest head that keeps the margins, and where crown and sole then lie.</summary>
/// <param name="HeadMm">Head, crown to chin, in millimetres.</param>
/// <param name="CrownMm">From the top edge of the sheet to the crown.</param>
/// <param name="SoleMm">From the top edge to the lowest point.</param>
/// <param name="SideMm">From the left edge to the figure's envelope.</param>
/// <param name="Because">The formula with its values.</param>
public sealed record PageFit(bool Landscape, double HeadMm, double CrownMm, double SoleMm, double SideMm, double MarginMm, string Because)
{
    /// <summary>head = min((W − 2m)/w, (H − 2m)/h), the sheet turned whichever way gives the larger head; upright when they are equal.</summary>
    /// <exception cref="InputException">A margin that leaves no paper.</exception>
    public static PageFit Of(Glance glance, double widthMm, double heightMm, double marginMm = 20)
    {
        var (shorter, longer) = (Math.Min(widthMm, heightMm), Math.Max(widthMm, heightMm));
        if (!(marginMm >= 0) || shorter - (2 * marginMm) < 10)
            throw new InputException(
                $"margins of {Say.Number(marginMm)} mm leave no paper",
                "margin",
                $"0 to {Say.Number((shorter / 2) - 5)} mm"
            );
        double Head(double w, double h) => Math.Min((w - (2 * marginMm)) / glance.WidthHeads, (h - (2 * marginMm)) / glance.HeightHeads);
        var landscape = Head(longer, shorter) > Head(shorter, longer) + 1e-9;
        var (w, h) = landscape ? (longer, shorter) : (shorter, longer);
        var head = Head(w, h);
        var top = (h - (head * glance.HeightHeads)) / 2;
        return new(
            landscape,
            head,
            top + (head * glance.CrownHeads),
            top + (head * glance.SoleHeads),
            (w - (head * glance.WidthHeads)) / 2,
            marginMm,
            $"min(({Say.Number(w, 1)} − 2·{Say.Number(marginMm)}) ÷ {Say.Number(glance.WidthHeads, 2)}, ({Say.Number(h, 1)} − 2·{Say.Number(marginMm)}) ÷ {Say.Number(glance.HeightHeads, 2)}) = {Say.Number(head, 1)} mm a head"
        );
    }
}
