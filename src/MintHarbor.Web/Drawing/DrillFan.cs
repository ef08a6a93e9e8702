using Microsoft.AspNetCore.Html;
using MintHarbor.Core;

namespace MintHarbor.Web.Drawing;

/// <summary>The drill's fan: an edge has no arrowhead, so half a dial with both hours on each ray.</summary>
public static class DrillFan
{
    private const double Cx = 195,
        Cy = 186,
        R = 172;

    /// <param name="answer">Answered direction in degrees; the dial then shows it beside the truth and takes no more.</param>
    public static HtmlString Draw(double? answer = null, double? truth = null)
    {
        var s = new Svg();
        if (answer is null)
            s.Add(
                $"<svg class=\"fan\" data-fan=\"\" viewBox=\"0 0 390 206\" tabindex=\"0\" role=\"slider\" aria-label=\"Direction of the edge, as a clock hand\" aria-valuemin=\"-90\" aria-valuemax=\"90\" aria-valuenow=\"0\">"
            );
        else
            s.Add($"<svg class=\"fan\" viewBox=\"0 0 390 206\" role=\"img\" aria-label=\"Your hand and the true direction\">");
        s.Add($"<path class=\"fan-dial\" d=\"M{Cx - R} {Cy}A{R} {R} 0 0 1 {Cx + R} {Cy}Z\"/>");
        for (var d = -90; d <= 90; d += 6)
        {
            var (x, y) = At(d, 1);
            var big = d % 30 == 0;
            var (x2, y2) = At(d, big ? 0.90 : 0.955);
            s.Line(big ? "fan-tick" : "fan-minor", x, y, x2, y2);
        }
        for (var h = -3; h <= 3; h++)
        {
            var (x, y) = At(h * 30, 0.815);
            var (x2, y2) = At(h * 30, 0.625);
            var lift = Math.Abs(h) == 3 ? -10 : 0;
            s.Text("fan-hour", x, y + 7 + lift, ((h + 11) % 12 + 1).ToString(System.Globalization.CultureInfo.InvariantCulture), "middle")
                .Text("fan-other", x2, y2 + 6 + lift, (h + 6).ToString(System.Globalization.CultureInfo.InvariantCulture), "middle");
        }
        if (truth is { } t)
        {
            var (x, y) = At(Fold(t), 0.98);
            s.Line("fan-truth", Cx, Cy, x, y);
        }
        var turn = answer is { } a ? Fold(a) : 0;
        s.Add(
            $"<g data-hand=\"\" class=\"fan-turn\" transform=\"translate({Cx} {Cy}) rotate({turn})\"><line class=\"fan-hand\" x1=\"0\" y1=\"0\" x2=\"0\" y2=\"-122\"/><g transform=\"translate(0 -120) rotate(180) scale(2.9)\"><path class=\"bob-leaf\" d=\"M0 0C5.5 3.5 7.5 7.5 6 11.5C5 14.5 2 17 0 21C-2 17-5 14.5-6 11.5C-7.5 7.5-5.5 3.5 0 0Z\"/><path class=\"bob-rib\" d=\"M0 0V16\"/></g></g>"
        );
        return s.Add($"<circle class=\"fan-hub\" cx=\"{Cx}\" cy=\"{Cy}\" r=\"5\"/></svg>").Html();
    }

    private static double Fold(double degrees) => Core.Geometry.ClockAngle.Wrap(degrees);

    private static (double X, double Y) At(double degrees, double share)
    {
        var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
        return (Cx + (R * share * sin), Cy - (R * share * cos));
    }
}
