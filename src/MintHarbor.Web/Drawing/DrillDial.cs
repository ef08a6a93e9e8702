using Microsoft.AspNetCore.Html;
using MintHarbor.Core;
using MintHarbor.Core.Practice;

namespace MintHarbor.Web.Drawing;

/// <summary>The dial that a drill is answered on, by its unit: a fan for directions, a measuring stick for ratios.</summary>
public static class DrillDial
{
    public static HtmlString Draw(Drill drill, double? answer = null, double? truth = null) => drill.Unit == "deg" ? DrillFan.Draw(answer, truth) : Stick(answer, truth);

    private const double Left = 14, PerUnit = 80, Y = 78, Most = 4.5;

    /// <summary>The unit laid end to end along a stick, the bob hanging where the span ends.</summary>
    private static HtmlString Stick(double? answer, double? truth)
    {
        var s = new Svg();
        if (answer is null) s.Add($"<svg class=\"fan stick-dial\" data-stick=\"\" data-left=\"{Left}\" data-unit=\"{PerUnit}\" viewBox=\"0 0 390 132\" tabindex=\"0\" role=\"slider\" aria-label=\"How many times the unit\" aria-valuemin=\"0.2\" aria-valuemax=\"{Most}\" aria-valuenow=\"1\">");
        else s.Add($"<svg class=\"fan stick-dial\" viewBox=\"0 0 390 132\" role=\"img\" aria-label=\"Your count and the true one\">");
        s.Add($"<rect class=\"hit\" x=\"0\" y=\"0\" width=\"390\" height=\"132\" fill=\"transparent\"/>");
        for (var n = 0; n < Most; n++)
        {
            var width = Math.Min(1, Most - n) * PerUnit;
            s.Add($"<rect class=\"{(n % 2 == 0 ? "stick-unit" : "stick-open")}\" x=\"{Left + (n * PerUnit)}\" y=\"{Y - 16}\" width=\"{width}\" height=\"16\"/>");
        }
        for (var tenth = 0; tenth <= (int)(Most * 10); tenth++)
        {
            var x = Left + (tenth * PerUnit / 10);
            s.Line(tenth % 10 == 0 ? "fan-tick" : "fan-minor", x, Y, x, Y + (tenth % 10 == 0 ? 14 : tenth % 5 == 0 ? 9 : 6));
            if (tenth % 10 == 0) s.Text("fan-hour", x, Y + 34, (tenth / 10).ToString(System.Globalization.CultureInfo.InvariantCulture), "middle");
        }
        s.Line("fan-tick", Left, Y, Left + (Most * PerUnit), Y);
        if (truth is { } t) s.Line("fan-truth", At(t), Y - 34, At(t), Y + 14);
        s.Add($"<g data-hand=\"\" transform=\"translate({At(answer ?? 1)} 0)\"><line class=\"fan-hand\" x1=\"0\" y1=\"-4\" x2=\"0\" y2=\"10\"/><g transform=\"translate(0 8) scale(2.4)\"><path class=\"bob-leaf\" d=\"M0 0C5.5 3.5 7.5 7.5 6 11.5C5 14.5 2 17 0 21C-2 17-5 14.5-6 11.5C-7.5 7.5-5.5 3.5 0 0Z\"/><path class=\"bob-rib\" d=\"M0 0V16\"/></g></g>");
        return s.Add($"</svg>").Html();
    }

    private static double At(double ratio) => Left + (Math.Clamp(ratio, 0, Most) * PerUnit);

    /// <summary>The last few errors on a ruler that reaches a little past what counts as right at first.</summary>
    public static HtmlString LastThree(Drill drill, IReadOnlyList<double> errors)
    {
        var reach = drill.Unit == "deg" ? 20 : 0.3;
        string end = drill.Unit == "deg" ? "20°" : "35 %";
        double X(double e) => 84 + (Math.Clamp(e / reach, -1, 1) * 68);
        var s = new Svg().Add($"<svg class=\"off-by\" width=\"168\" height=\"64\" role=\"img\" aria-label=\"last three, off by {string.Join(", ", errors.Select(drill.SayError))}\">");
        s.Text("ladder-word", 144, 14, "last three, off by", "end").Line("fan-tick", 16, 38.5, 152, 38.5);
        for (var k = -4; k <= 4; k++) s.Line(k % 4 == 0 ? "fan-tick" : "fan-minor", 84 + (k * 17), k == 0 ? 30 : 33, 84 + (k * 17), k == 0 ? 46 : 43);
        s.Text("axis", 16, 58, "−" + end, "middle").Text("axis", 84, 60, "0", "middle").Text("axis", 150, 58, "+" + end, "middle");
        foreach (var e in errors.TakeLast(3)) s.Add($"<circle class=\"pose-dot\" cx=\"{X(e)}\" cy=\"31\" r=\"4.5\"/>");
        return s.Add($"</svg>").Html();
    }
}
