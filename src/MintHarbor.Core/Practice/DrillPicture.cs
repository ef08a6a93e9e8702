using System.Globalization;
using System.Text;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Practice;

/// <summary>Draws a drill item as SVG: the view in line, what is asked marked on it, and after the answer what was said beside
/// the truth. Colours are left to the page's classes; standing alone it is dark on light.</summary>
public static class DrillPicture
{
    public static string Svg(DrillItem item, double? answer = null)
    {
        var view = Figure.StudioViews.Get(item.ViewId);
        var s = new StringBuilder();
        s.Append(CultureInfo.InvariantCulture, $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {view.Width} {view.Height}\" class=\"drill-picture\" role=\"img\" aria-label=\"Line drawing of a figure with one span marked\">");
        s.Append(item.Mirrored ? $"<g transform=\"matrix(-1 0 0 1 {view.Width} 0)\">" : "<g>");
        s.Append($"<path class=\"fill-graphite\" d=\"{view.Line}\"/></g>");
        if (item.Unit is { } unit) s.Append(Line("drill-halo", unit.From, unit.To)).Append(Line("drill-unit", unit.From, unit.To)).Append(End(unit.From)).Append(End(unit.To));
        var (from, to) = (item.Asked.From, item.Asked.To);
        s.Append(Line("drill-halo", from, to)).Append(Line("drill-edge", from, to));
        if (answer is { } said && item.Unit is { } counted)
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

    private static string Line(string css, Vec2 a, Vec2 b) =>
        string.Create(CultureInfo.InvariantCulture, $"<line class=\"{css}\" x1=\"{a.X:0.0}\" y1=\"{a.Y:0.0}\" x2=\"{b.X:0.0}\" y2=\"{b.Y:0.0}\" stroke=\"{Stroke(css)}\" stroke-width=\"{(css == "drill-halo" ? "5.5" : css == "drill-said" ? "1.6" : css == "drill-unit" ? "2.4" : "2.8")}\"{(css == "drill-said" ? " stroke-dasharray=\"10 3 2 3\"" : css == "drill-unit" ? " stroke-dasharray=\"7 3\"" : "")}/>");

    private static string Stroke(string css) => css switch { "drill-halo" => "#FFFEFA", "drill-said" => "#B0472F", "drill-unit" => "#2F5DA8", _ => "#12454A" };

    private static string End(Vec2 p) => string.Create(CultureInfo.InvariantCulture, $"<circle class=\"drill-end\" cx=\"{p.X:0.0}\" cy=\"{p.Y:0.0}\" r=\"3\" fill=\"#FFFEFA\" stroke=\"#12454A\" stroke-width=\"1.4\"/>");
}
