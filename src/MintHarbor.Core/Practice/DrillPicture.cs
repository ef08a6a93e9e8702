using System.Globalization;
using System.Text;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Hands;

namespace MintHarbor.Core.Practice;

/// <summary>Draws a drill item as SVG: the view in line, what is asked marked on it, and after the answer what was said beside
/// the truth. Colours are left to the page's classes; standing alone it is dark on light.</summary>
public static class DrillPicture
{
    public static string Svg(DrillItem item, double? answer = null)
    {
        if (item.Hand is not null)
            return HandPicture.Beside(item) ?? HandPicture.Field(item);
        var view = Figure.StudioViews.Get(item.ViewId);
        var s = new StringBuilder();
        s.Append(
            CultureInfo.InvariantCulture,
            $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {view.Width} {view.Height}\" class=\"drill-picture\" role=\"img\" aria-label=\"Line drawing of a {(view.IsHead ? "head" : "figure")} with one span marked\">"
        );
        s.Append(item.Mirrored ? $"<g transform=\"matrix(-1 0 0 1 {view.Width} 0)\">" : "<g>");
        s.Append($"<path class=\"fill-graphite\" d=\"{view.Line}\"/></g>");
        if (Drills.All.OfType<DrawnDrill>().FirstOrDefault(d => d.Unit == item.Truth.Unit) is { } drawn)
        {
            // Before the answer nothing is marked: the line is to be found. What was drawn is the page's to show.
            if (answer is not null)
            {
                var curve = string.Concat(
                    drawn
                        .Curves(item)
                        .Select(c =>
                            string.Concat(
                                c.Select(
                                    (p, i) => string.Create(CultureInfo.InvariantCulture, $"{(i == 0 ? 'M' : 'L')}{p.X:0.0} {p.Y:0.0}")
                                )
                            )
                        )
                );
                s.Append(
                    CultureInfo.InvariantCulture,
                    $"<path class=\"drill-halo\" fill=\"none\" stroke=\"#FFFEFA\" stroke-width=\"5.5\" d=\"{curve}\"/><path class=\"drill-edge\" fill=\"none\" stroke=\"#12454A\" stroke-width=\"2.8\" d=\"{curve}\"/>"
                );
            }
            return s.Append("</svg>").ToString();
        }
        if (item.Unit is { } unit)
            s.Append(Line("drill-halo", unit.From, unit.To))
                .Append(Line("drill-unit", unit.From, unit.To))
                .Append(End(unit.From))
                .Append(End(unit.To));
        var (from, to) = (item.Asked.From, item.Asked.To);
        if (item.Truth.Unit != "heads")
            s.Append(Line("drill-halo", from, to)).Append(Line("drill-edge", from, to));
        if (item.Truth.Unit == "heads" && item.Unit is { } heads)
        {
            // The plumb hangs from the first point past the second; what was said stands beside it.
            var low = Math.Max(to.Y, from.Y) + 14;
            s.Append(Line("drill-plumb", from, new(from.X, low)));
            if (answer is { } off)
                s.Append(Line("drill-said", new(from.X, to.Y), new(from.X + (off * heads.Length), to.Y)));
        }
        else if (item.Truth.Unit == "ratio" && item.Unit is null)
        {
            // The limb's whole length, as it would be square to the eye, and the share that was said.
            if (answer is { } share)
            {
                var direction = (to - from) * (1 / item.Asked.Length);
                var aside = new Vec2(-direction.Y, direction.X) * 11;
                var whole = item.Asked.Length / item.Truth.Value;
                s.Append(Line("drill-unit", from + aside, from + aside + (direction * whole)))
                    .Append(Line("drill-said", from + aside, from + aside + (direction * (share * whole))));
            }
        }
        else if (answer is { } said && item.Unit is { } counted)
        {
            // As many units as were said, walked along the span from its first end, each end ticked.
            var along = (to - from) * (1 / item.Asked.Length);
            var across = new Vec2(-along.Y, along.X);
            s.Append(Line("drill-said", from + (across * 9), from + (across * 9) + (along * (said * counted.Length))));
            for (var n = 0; n <= Math.Ceiling(said - 1e-6); n++)
            {
                var at = from + (along * (Math.Min(n, said) * counted.Length));
                s.Append(Line("drill-said", at + (across * 4), at + (across * 14)));
            }
        }
        else if (answer is { } degrees)
        {
            var mid = Vec2.Mid(from, to);
            var half = Math.Max(40, item.Asked.Length * 0.62);
            var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
            var reach = new Vec2(sin, -cos) * half;
            s.Append(Line("drill-halo", mid - reach, mid + reach)).Append(Line("drill-said", mid - reach, mid + reach));
        }
        s.Append(End(from)).Append(End(to)).Append("</svg>");
        return s.ToString();
    }

    private static string Line(string css, Vec2 a, Vec2 b)
    {
        var (colour, width, dashes) = Stroke(css);
        var broken = dashes is null ? "" : $" stroke-dasharray=\"{dashes}\"";
        return string.Create(
            CultureInfo.InvariantCulture,
            $"<line class=\"{css}\" x1=\"{a.X:0.0}\" y1=\"{a.Y:0.0}\" x2=\"{b.X:0.0}\" y2=\"{b.Y:0.0}\" stroke=\"{colour}\" stroke-width=\"{width}\"{broken}/>"
        );
    }

    private static (string Colour, string Width, string? Dashes) Stroke(string css) =>
        css switch
        {
            "drill-halo" => ("#FFFEFA", "5.5", null),
            "drill-said" => ("#B0472F", "1.6", "10 3 2 3"),
            "drill-unit" => ("#2F5DA8", "2.4", "7 3"),
            "drill-plumb" => ("#12454A", "2.8", "1 3"),
            _ => ("#12454A", "2.8", null),
        };

    private static string End(Vec2 p) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"<circle class=\"drill-end\" cx=\"{p.X:0.0}\" cy=\"{p.Y:0.0}\" r=\"3\" fill=\"#FFFEFA\" stroke=\"#12454A\" stroke-width=\"1.4\"/>"
        );
}
