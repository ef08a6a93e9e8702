using Microsoft.AspNetCore.Html;
using MintHarbor.Core;
using MintHarbor.Core.Practice;

namespace MintHarbor.Web.Drawing;

/// <summary>The dial that a drill is answered on, by its unit: a fan for directions, a measuring stick for ratios.</summary>
public static class DrillDial
{
    public static HtmlString Draw(Drill drill, double? answer = null, double? truth = null) =>
        drill is DrawnDrill ? HtmlString.Empty
        : drill.Unit == "deg" ? DrillFan.Draw(answer, truth)
        : Stick(drill, answer, truth);

    private const double Left = 14,
        Breadth = 362,
        Y = 78;

    /// <summary>The unit laid end to end along a stick, the bob hanging where the span ends; from nought, or from the least where that is
    /// to its left.</summary>
    private static HtmlString Stick(Drill drill, double? answer, double? truth)
    {
        var (least, most) = drill.Range;
        // A scale reaches half a value beyond its ends; a count begins at nought.
        var (origin, end) = drill is ValueMatch ? (least - 0.5, most + 0.5) : (Math.Min(0, least), most);
        var unit = Breadth / (end - origin);
        // A share of one length is ticked in tenths, a count of many in halves.
        var tick =
            most <= 1 ? 0.1
            : most - origin > 5 ? 0.5
            : 0.1;
        double At(double v) => Left + ((Math.Clamp(v, origin, end) - origin) * unit);
        var s = new Svg();
        var start =
            drill is ValueMatch ? (least + most) / 2
            : least < 0 ? 0
            : Math.Clamp(1, least, most);
        if (answer is null)
            s.Add(
                $"<svg class=\"fan stick-dial\" data-stick=\"\" data-left=\"{Left}\" data-unit=\"{unit}\" data-origin=\"{origin}\" data-least=\"{least}\" data-most=\"{most}\" data-of=\"{drill.Unit}\" data-start=\"{start}\" viewBox=\"0 0 390 132\" tabindex=\"0\" role=\"slider\" aria-label=\"{drill.DialAsks}\" aria-valuemin=\"{least}\" aria-valuemax=\"{most}\" aria-valuenow=\"{start}\">"
            );
        else
            s.Add($"<svg class=\"fan stick-dial\" viewBox=\"0 0 390 132\" role=\"img\" aria-label=\"Your count and the true one\">");
        s.Add($"<rect class=\"hit\" x=\"0\" y=\"0\" width=\"390\" height=\"132\" fill=\"transparent\"/>");
        if (drill is ValueMatch)
            Scale(s, At);
        for (var n = (int)Math.Floor(origin); n < most && drill is not ValueMatch; n++)
        {
            var (a, b) = (At(n), At(n + 1));
            if (b > a)
                s.Add(
                    $"<rect class=\"{(n % 2 == 0 ? "stick-unit" : "stick-open")}\" x=\"{a}\" y=\"{Y - 16}\" width=\"{b - a}\" height=\"16\"/>"
                );
        }
        for (var k = (int)Math.Ceiling(origin / tick); k * tick <= most + 1e-9; k++)
        {
            var v = k * tick;
            var whole = Math.Abs(v - Math.Round(v)) < 1e-9;
            s.Line(
                whole ? "fan-tick" : "fan-minor",
                At(v),
                Y,
                At(v),
                Y
                    + (
                        whole ? 14
                        : Math.Abs((v * 2) - Math.Round(v * 2)) < 1e-9 ? 9
                        : 6
                    )
            );
            if (whole)
                s.Text("fan-hour", At(v), Y + 34, Say.Number(Math.Abs(v)), "middle");
            else if (most <= 1 && k == 5)
                s.Text("fan-other", At(v), Y + 32, "½", "middle");
        }
        s.Line("fan-tick", At(origin), Y, At(end), Y);
        if (truth is { } t)
            s.Line("fan-truth", At(t), Y - 34, At(t), Y + 14);
        s.Add(
            $"<g data-hand=\"\" transform=\"translate({At(answer ?? start)} 0)\"><line class=\"fan-hand\" x1=\"0\" y1=\"-4\" x2=\"0\" y2=\"10\"/><g transform=\"translate(0 8) scale(2.4)\"><path class=\"bob-leaf\" d=\"M0 0C5.5 3.5 7.5 7.5 6 11.5C5 14.5 2 17 0 21C-2 17-5 14.5-6 11.5C-7.5 7.5-5.5 3.5 0 0Z\"/><path class=\"bob-rib\" d=\"M0 0V16\"/></g></g>"
        );
        return s.Add($"</svg>").Html();
    }

    /// <summary>The scale of nine itself, each value where it is said.</summary>
    private static void Scale(Svg s, Func<double, double> at)
    {
        for (var v = 1; v <= 9; v++)
        {
            var (left, right) = (at(v - 0.5), at(v + 0.5));
            var grey = (int)Math.Round(255 * ValueDrill.Tone(v));
            s.Add(
                $"<rect class=\"value-patch\" x=\"{left}\" y=\"{Y - 20}\" width=\"{right - left}\" height=\"20\" fill=\"rgb({grey},{grey},{grey})\"/>"
            );
        }
    }

    /// <summary>The last few errors on a ruler that reaches a little past what counts as right at first.</summary>
    public static HtmlString LastThree(Drill drill, IReadOnlyList<double> errors)
    {
        var (reach, end) = drill.Unit switch
        {
            "deg" => (20, "20°"),
            "values" => (2, "2"),
            "heads" or "apart" => (0.3, "0.3"),
            _ => (0.3, "35 %"),
        };
        double X(double e) => 84 + (Math.Clamp(e / reach, -1, 1) * 68);
        var s = new Svg().Add(
            $"<svg class=\"off-by\" width=\"168\" height=\"64\" role=\"img\" aria-label=\"last three, off by {string.Join(", ", errors.Select(drill.SayError))}\">"
        );
        s.Text("ladder-word", 144, 14, "last three, off by", "end").Line("fan-tick", 16, 38.5, 152, 38.5);
        for (var k = -4; k <= 4; k++)
            s.Line(k % 4 == 0 ? "fan-tick" : "fan-minor", 84 + (k * 17), k == 0 ? 30 : 33, 84 + (k * 17), k == 0 ? 46 : 43);
        s.Text("axis", 16, 58, "−" + end, "middle").Text("axis", 84, 60, "0", "middle").Text("axis", 150, 58, "+" + end, "middle");
        foreach (var e in errors.TakeLast(3))
            s.Add($"<circle class=\"pose-dot\" cx=\"{X(e)}\" cy=\"31\" r=\"4.5\"/>");
        return s.Add($"</svg>").Html();
    }
}
