using Microsoft.AspNetCore.Html;
using MintHarbor.Core;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;

namespace MintHarbor.Web.Drawing;

/// <summary>An arrangement from above, its front below, in centimetres: each thing the hull of what it covers, to be moved by hand or keys; the
/// way one looks as a thread.</summary>
public static class ThingPlan
{
    private const double Margin = 14;

    public static string Side(double azimuth)
    {
        var a = Math.IEEERemainder(azimuth, 360);
        var hand = a > 0 ? "right" : "left";
        return Math.Abs(a) switch
        {
            < 12 => "from the front",
            < 65 => $"three-quarter, from the {hand}",
            < 115 => $"from the {hand}",
            < 168 => $"from behind, on the {hand}",
            _ => "from behind",
        };
    }

    /// <summary>How far a thing reaches from its middle on the ground, centimetres.</summary>
    public static int Reach(string thing) => (int)Math.Ceiling(100 * Arrangement.PlanOf(new(thing, 0, 0, 0)).Max(p => p.Length));

    public static HtmlString Draw(Arrangement a, Seat seat, bool moved)
    {
        var (breadth, depth) = a.Ground == Ground.Table ? (100 * Arrangement.TableBreadth, 100 * Arrangement.TableDepth) : (240, 200);
        var s = new Svg().Add(
            $"<svg class=\"plan-svg\" viewBox=\"{(-breadth / 2) - Margin} {(-depth / 2) - Margin} {breadth + (2 * Margin)} {depth + (2 * Margin)}\" role=\"group\" aria-label=\"The arrangement from above, its front below\">"
        );
        s.Add($"<rect class=\"plan-ground\" x=\"{-breadth / 2}\" y=\"{-depth / 2}\" width=\"{breadth}\" height=\"{depth}\"/>");
        var (sin, cos) = Math.SinCos(seat.Azimuth * Math.PI / 180);
        var far = Math.Min((breadth / 2) + Margin - 4, (depth / 2) + Margin - 4);
        s.Add($"<line class=\"dial-sight\" data-plan-sight=\"\" x1=\"0\" y1=\"0\" x2=\"{far * sin}\" y2=\"{far * cos}\"/>");
        // What stands on another is drawn over it.
        var stands = a.Stands();
        foreach (var i in Enumerable.Range(0, a.Places.Count).OrderBy(i => stands[i].Height))
            Thing(s, a.Places[i], i, moved);
        return s.Add($"</svg>").Html();
    }

    private static void Thing(Svg s, PlacedThing p, int i, bool moved)
    {
        var name = ThingShelf.Things.First(t => t.Id == p.Thing).Name;
        var outline = string.Concat(
            Arrangement
                .PlanOf(new(p.Thing, 0, 0, 0))
                .Select((q, n) => FormattableString.Invariant($"{(n == 0 ? 'M' : 'L')}{100 * q.X:0.#} {100 * q.Y:0.#}"))
        );
        var hands = moved ? " tabindex=\"0\" role=\"button\"" : " role=\"img\"";
        s.Add($"<g class=\"plan-thing\" data-thing=\"{i}\"{hands} aria-label=\"{Label(name, p)}\"");
        s.Add($" transform=\"translate({100 * p.X:0.#} {100 * p.Z:0.#}) rotate({-p.Turn:0.#})\"><path d=\"{outline}Z\"/>");
        s.Add($"<text transform=\"rotate({p.Turn:0.#})\" text-anchor=\"middle\" y=\"2\">{name}</text></g>");
    }

    private static string Label(string name, PlacedThing p)
    {
        static string Off(double metres, string less, string more) =>
            Math.Abs(metres) < 0.005 ? "" : $", {Math.Round(Math.Abs(100 * metres))} cm {(metres < 0 ? less : more)}";
        return $"{name}{Off(p.X, "left", "right")}{Off(p.Z, "back", "in front")}, turned {Math.Round(p.Turn)}°";
    }
}
