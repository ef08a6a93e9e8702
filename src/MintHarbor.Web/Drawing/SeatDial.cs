using Microsoft.AspNetCore.Html;

namespace MintHarbor.Web.Drawing;

/// <summary>The stand from above, front below: the seat as a bob that is dragged round, the lamp, its light and the way the figure faces.</summary>
public static class SeatDial
{
    public const double Size = 176,
        Radius = 66;

    /// <param name="azimuth">Where one sits; null for a plan that is only looked at.</param>
    public static HtmlString Draw(double? azimuth, double? lamp, IReadOnlyList<(double Azimuth, string Label)>? seats = null)
    {
        const double c = Size / 2;
        var s = new Svg();
        if (azimuth is { } at0)
            s.Add(
                $"<svg class=\"seat-dial\" viewBox=\"0 0 {Size} {Size}\" data-seat-dial=\"\" tabindex=\"0\" role=\"slider\" aria-label=\"Your side of the stand, in degrees\" aria-valuemin=\"-180\" aria-valuemax=\"180\" aria-valuenow=\"{Math.Round(at0):0}\" aria-valuetext=\"{Side(at0)}\">"
            );
        else
            s.Add(
                $"<svg class=\"seat-dial\" viewBox=\"-12 -12 {Size + 24} {Size + 24}\" role=\"img\" aria-label=\"{seats?.Count ?? 0} seats round the stand\">"
            );
        s.Add(
            $"<circle class=\"hit\" cx=\"{c}\" cy=\"{c}\" r=\"{c - 1}\" fill=\"transparent\"/><circle class=\"dial-ring\" cx=\"{c}\" cy=\"{c}\" r=\"{Radius}\"/>"
        );
        for (var a = -180; a < 180; a += 15)
        {
            var (sin, cos) = Math.SinCos(a * Math.PI / 180);
            var inner = Radius - (a % 45 == 0 ? 8 : 4);
            s.Line(a % 45 == 0 ? "fan-tick" : "fan-minor", c + (Radius * sin), c + (Radius * cos), c + (inner * sin), c + (inner * cos));
        }
        // The stand, and a nose to the front.
        s.Add(
            $"<circle class=\"dial-stand\" cx=\"{c}\" cy=\"{c}\" r=\"13\"/><path class=\"dial-nose\" d=\"M{c - 6} {c + 11}L{c} {c + 21}L{c + 6} {c + 11}\"/>"
        );
        foreach (var (at, label) in seats ?? [])
        {
            var (sin, cos) = Math.SinCos(at * Math.PI / 180);
            s.Line(
                "dial-seat",
                c + (Radius * sin) - (5 * cos),
                c + (Radius * cos) + (5 * sin),
                c + (Radius * sin) + (5 * cos),
                c + (Radius * cos) - (5 * sin)
            );
            if (label.Length > 0)
                s.Text("axis", c + ((Radius + 13) * sin), c + ((Radius + 13) * cos) + 5, label, "middle");
        }
        if (lamp is { } l)
            s.Add(
                $"<g data-lamp=\"\" transform=\"rotate({-l} {c} {c})\"><path class=\"dial-light\" d=\"M{c} {c + Radius - 12}L{c - 12} {c + 15}H{c + 12}Z\"/><circle class=\"dial-lamp\" cx=\"{c}\" cy=\"{c + Radius - 10}\" r=\"6\"/></g>"
            );
        if (azimuth is not { } here)
            return s.Add($"</svg>").Html();
        return s.Add(
                $"<g data-hand=\"\" transform=\"rotate({-here} {c} {c})\"><line class=\"dial-sight\" x1=\"{c}\" y1=\"{c + 24}\" x2=\"{c}\" y2=\"{c + Radius}\"/><g transform=\"translate({c} {c + Radius - 4}) scale(1.15)\"><path class=\"bob-leaf\" d=\"M0 0C5.5 3.5 7.5 7.5 6 11.5C5 14.5 2 17 0 21C-2 17-5 14.5-6 11.5C-7.5 7.5-5.5 3.5 0 0Z\"/><path class=\"bob-rib\" d=\"M0 0V16\"/></g></g></svg>"
            )
            .Html();
    }

    /// <summary>An azimuth in words: front, three-quarter, profile, back, and whose left.</summary>
    public static string Side(double azimuth)
    {
        var a = Math.IEEERemainder(azimuth, 360);
        var side = a > 0 ? "the figure's left" : "the figure's right";
        return Math.Abs(a) switch
        {
            < 12 => "from the front",
            < 65 => $"three-quarter, from {side}",
            < 115 => $"profile, from {side}",
            < 168 => $"from behind, on {side}",
            _ => "from behind",
        };
    }

    /// <summary>The judge's word for a view.</summary>
    public static string View(double azimuth) => Store.Actions.PoseWords.View(azimuth);
}
