using Microsoft.AspNetCore.Html;
using MintHarbor.Core;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;
using MintHarbor.Core.Practice;

namespace MintHarbor.Web.Drawing;

/// <summary>What is known of a still life, laid over its view: each layer is shown when it is asked for.</summary>
public static class ThingOver
{
    public static readonly IReadOnlyList<(string Layer, string Key, string Word)> Layers =
    [
        ("envelope", "e", "envelope"),
        ("hours", "h", "hours"),
        ("rims", "r", "rims"),
        ("gaps", "g", "gaps"),
        ("values", "v", "values"),
    ];

    public static HtmlString Draw(ThingTruth? truth)
    {
        if (truth is null)
            return HtmlString.Empty;
        var s = new Svg().Add(
            $"<svg class=\"figure-over thing-over\" viewBox=\"0 0 {StillLife.Size} {StillLife.Size}\" aria-hidden=\"true\">"
        );
        var known = truth.Askable();
        Envelope(s, truth);
        Gaps(s, known);
        Hours(s, known);
        Rims(s, known);
        Values(s, known);
        return s.Add($"</svg>").Html();
    }

    private static void Envelope(Svg s, ThingTruth truth)
    {
        var w = truth.Whole;
        s.Add($"<g class=\"over-envelope\"><rect x=\"{w.Left:0.#}\" y=\"{w.Top:0.#}\" width=\"{w.Width:0.#}\" height=\"{w.Height:0.#}\"/>");
        s.Line("", w.Middle.X, w.Top, w.Middle.X, w.Foot).Line("", w.Left, w.Middle.Y, w.Right, w.Middle.Y).Add($"</g>");
    }

    private static void Gaps(Svg s, ThingTruth known)
    {
        s.Add($"<g class=\"over-gaps\">");
        foreach (var g in known.Gaps)
            s.Add(
                $"<path class=\"{(g.Enclosed ? "gap-shut" : "gap-open")}\" d=\"{string.Concat(g.Outline.Select((p, i) => FormattableString.Invariant($"{(i == 0 ? 'M' : 'L')}{p.X:0.#} {p.Y:0.#}")))}Z\"/>"
            );
        s.Add($"</g>");
    }

    /// <summary>The longest edges with the hour they are said by; of two that nearly cover one another only one.</summary>
    private static void Hours(Svg s, ThingTruth known)
    {
        const double apart = 26;
        var written = new List<Vec2>();
        s.Add($"<g class=\"over-hours\">");
        foreach (var e in known.Edges.OrderByDescending(e => e.Length))
        {
            var at = Vec2.Mid(e.From, e.To);
            if (written.Count >= 14 || written.Exists(w => (w - at).Length < apart))
                continue;
            written.Add(at);
            s.Line("", e.From.X, e.From.Y, e.To.X, e.To.Y);
            s.Text("over-word", at.X + 6, at.Y - 5, ClockAngle.Say(ClockAngle.Hour(ClockAngle.OfEdge(e.From, e.To))), "start");
        }
        s.Add($"</g>");
    }

    private static void Rims(Svg s, ThingTruth known)
    {
        s.Add($"<g class=\"over-rims\">");
        foreach (var e in known.Ellipses)
        {
            s.Add(
                $"<ellipse cx=\"{e.Centre.X:0.#}\" cy=\"{e.Centre.Y:0.#}\" rx=\"{e.Major:0.#}\" ry=\"{e.Minor:0.#}\" transform=\"rotate({e.Turn:0.##} {e.Centre.X:0.#} {e.Centre.Y:0.#})\"/>"
            );
        }
        foreach (var e in known.Ellipses.GroupBy(e => e.Thing).Select(g => g.MaxBy(e => e.Major)!))
            s.Text("over-word", e.Centre.X + e.Major + 5, e.Centre.Y + 4, Say.Number(e.Openness, 2), "start");
        s.Add($"</g>");
    }

    private static void Values(Svg s, ThingTruth known)
    {
        s.Add($"<g class=\"over-values\">");
        foreach (var p in known.Planes.Where(p => p.Room >= 9))
            s.Text("over-word", p.At.X, p.At.Y + 5, Say.Number(ValueDrill.Of(p.Mean), 1), "middle");
        s.Add($"</g>");
    }
}
