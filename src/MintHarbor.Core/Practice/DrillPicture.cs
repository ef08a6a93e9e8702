using System.Globalization;
using System.Text;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Practice;

/// <summary>Draws a drill item as SVG: the view in line, the marked edge, and after the answer the answered direction beside
/// the true one. Colours are left to the page's classes; standing alone it is dark on light.</summary>
public static class DrillPicture
{
    public static string Svg(DrillItem item, double? answerDegrees = null)
    {
        var view = Figure.StudioViews.Get(item.ViewId);
        var s = new StringBuilder();
        s.Append(CultureInfo.InvariantCulture, $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {view.Width} {view.Height}\" class=\"drill-picture\" role=\"img\" aria-label=\"Line drawing of a figure with one edge marked\">");
        s.Append(item.Mirrored ? $"<g transform=\"matrix(-1 0 0 1 {view.Width} 0)\">" : "<g>");
        s.Append($"<path class=\"fill-graphite\" d=\"{view.Line}\"/></g>");
        s.Append(Line("drill-halo", item.From, item.To)).Append(Line("drill-edge", item.From, item.To));
        if (answerDegrees is { } answer)
        {
            var mid = Vec2.Mid(item.From, item.To);
            var half = Math.Max(40, (item.To - item.From).Length * 0.62);
            var (sin, cos) = Math.SinCos(answer * Math.PI / 180);
            var reach = new Vec2(sin, -cos) * half;
            s.Append(Line("drill-halo", mid - reach, mid + reach)).Append(Line("drill-said", mid - reach, mid + reach));
        }
        s.Append(Dot(item.From)).Append(Dot(item.To)).Append("</svg>");
        return s.ToString();
    }

    private static string Line(string css, Vec2 a, Vec2 b) =>
        string.Create(CultureInfo.InvariantCulture, $"<line class=\"{css}\" x1=\"{a.X:0.0}\" y1=\"{a.Y:0.0}\" x2=\"{b.X:0.0}\" y2=\"{b.Y:0.0}\" stroke=\"{Stroke(css)}\" stroke-width=\"{(css == "drill-halo" ? "5.5" : css == "drill-said" ? "1.6" : "2.8")}\"{(css == "drill-said" ? " stroke-dasharray=\"10 3 2 3\"" : "")}/>");

    private static string Stroke(string css) => css switch { "drill-halo" => "#FFFEFA", "drill-said" => "#B0472F", _ => "#12454A" };

    private static string Dot(Vec2 p) => string.Create(CultureInfo.InvariantCulture, $"<circle class=\"drill-end\" cx=\"{p.X:0.0}\" cy=\"{p.Y:0.0}\" r=\"3\" fill=\"#FFFEFA\" stroke=\"#12454A\" stroke-width=\"1.4\"/>");
}
