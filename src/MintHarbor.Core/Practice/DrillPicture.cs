using System.Globalization;
using System.Text;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Hands;

namespace MintHarbor.Core.Practice;

/// <summary>Draws a drill item as SVG: the view in line, what is asked marked on it, and after the answer what was said beside
/// the truth. Colours are left to the page's classes; standing alone it is dark on light.</summary>
public static class DrillPicture
{
    /// <param name="tone">The address of a view's picture in tone, for drills of value; null draws it in line.</param>
    public static string Svg(DrillItem item, double? answer = null, Func<StudioView, string>? tone = null)
    {
        if (item.Hand is not null)
            return HandPicture.Beside(item) ?? HandPicture.Field(item);
        if (item.Anatomy is not null)
            return AnatomyPicture.Svg(item);
        var view = StudioViews.Get(item.ViewId);
        var drawn = Drills.All.OfType<DrawnDrill>().FirstOrDefault(d => d.Unit == item.Truth.Unit);
        var valued = item.Truth.Unit == "values";
        var s = new StringBuilder();
        s.Append(
            CultureInfo.InvariantCulture,
            $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {view.Width} {view.Height}\" class=\"drill-picture\" role=\"img\" aria-label=\"{Label(view, item)}\">"
        );
        s.Append(item.Mirrored ? $"<g transform=\"matrix(-1 0 0 1 {view.Width} 0)\">" : "<g>");
        s.Append(
            valued && tone is not null
                ? $"<image width=\"{view.Width}\" height=\"{view.Height}\" href=\"{tone(view).Replace("&", "&amp;", StringComparison.Ordinal)}\"/></g>"
                : $"<path class=\"fill-graphite\" d=\"{view.Line}\"/></g>"
        );
        // Before the answer nothing is marked of a line that is to be found. What was drawn is the page's to show.
        if (drawn is not null)
            return (answer is null ? s : s.Append(Truth(drawn.Curves(item)))).Append("</svg>").ToString();
        if (valued)
            return s.Append(Values(item)).Append("</svg>").ToString();
        if (item.Unit is { } unit)
            s.Append(Line("drill-halo", unit.From, unit.To))
                .Append(Line("drill-unit", unit.From, unit.To))
                .Append(End(unit.From))
                .Append(End(unit.To));
        if (item.Truth.Unit != "heads")
            s.Append(Line("drill-halo", item.Asked.From, item.Asked.To)).Append(Line("drill-edge", item.Asked.From, item.Asked.To));
        s.Append(Said(item, answer));
        return s.Append(End(item.Asked.From)).Append(End(item.Asked.To)).Append("</svg>").ToString();
    }

    private static string Label(StudioView view, DrillItem item) =>
        item.Truth.Unit switch
        {
            "values" when item.Unit is not null => $"A {view.Subject} in tone with two places ringed, A and B",
            "values" => $"A {view.Subject} in tone with one place ringed",
            _ => $"Line drawing of a {view.Subject} with one span marked",
        };

    private static string Truth(IEnumerable<IReadOnlyList<Vec2>> curves)
    {
        var d = string.Concat(curves.SelectMany(c => c.Select((p, i) => Place(i == 0 ? 'M' : 'L', p))));
        return string.Create(
            CultureInfo.InvariantCulture,
            $"<path class=\"drill-halo\" fill=\"none\" stroke=\"#FFFEFA\" stroke-width=\"5.5\" d=\"{d}\"/><path class=\"drill-edge\" fill=\"none\" stroke=\"#12454A\" stroke-width=\"2.8\" d=\"{d}\"/>"
        );
    }

    private static string Place(char command, Vec2 p) => string.Create(CultureInfo.InvariantCulture, $"{command}{p.X:0.0} {p.Y:0.0}");

    /// <summary>What was said, beside what is asked.</summary>
    private static string Said(DrillItem item, double? answer) =>
        item.Truth.Unit switch
        {
            "heads" => Plumb(item, answer),
            "ratio" when answer is { } share && item.Unit is null => Share(item, share),
            "ratio" when answer is { } count => Walked(item, count),
            "deg" when answer is { } degrees => Direction(item, degrees),
            _ => "",
        };

    /// <summary>The plumb hangs from the first point past the second; what was said stands beside it.</summary>
    private static string Plumb(DrillItem item, double? answer)
    {
        var (from, to) = (item.Asked.From, item.Asked.To);
        var plumb = Line("drill-plumb", from, new(from.X, Math.Max(to.Y, from.Y) + 14));
        return answer is { } off ? plumb + Line("drill-said", new(from.X, to.Y), new(from.X + (off * item.Unit!.Length), to.Y)) : plumb;
    }

    /// <summary>The limb's whole length, as it would be square to the eye, and the share that was said.</summary>
    private static string Share(DrillItem item, double share)
    {
        var direction = (item.Asked.To - item.Asked.From) * (1 / item.Asked.Length);
        var start = item.Asked.From + (new Vec2(-direction.Y, direction.X) * 11);
        var whole = item.Asked.Length / item.Truth.Value;
        return Line("drill-unit", start, start + (direction * whole)) + Line("drill-said", start, start + (direction * (share * whole)));
    }

    /// <summary>As many units as were said, walked along the span from its first end, each end ticked.</summary>
    private static string Walked(DrillItem item, double said)
    {
        var along = (item.Asked.To - item.Asked.From) * (1 / item.Asked.Length);
        var across = new Vec2(-along.Y, along.X);
        var start = item.Asked.From + (across * 9);
        var s = new StringBuilder(Line("drill-said", start, start + (along * (said * item.Unit!.Length))));
        for (var n = 0; n <= Math.Ceiling(said - 1e-6); n++)
        {
            var at = item.Asked.From + (along * (Math.Min(n, said) * item.Unit.Length));
            s.Append(Line("drill-said", at + (across * 4), at + (across * 14)));
        }
        return s.ToString();
    }

    private static string Direction(DrillItem item, double degrees)
    {
        var mid = Vec2.Mid(item.Asked.From, item.Asked.To);
        var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
        var reach = new Vec2(sin, -cos) * Math.Max(40, item.Asked.Length * 0.62);
        return Line("drill-halo", mid - reach, mid + reach) + Line("drill-said", mid - reach, mid + reach);
    }

    /// <summary>The place that is asked for, ringed; with another to compare it with, A and B.</summary>
    private static string Values(DrillItem item) =>
        item.Unit is { } first ? Ringed(first, "A") + Ringed(item.Asked, "B") : Ringed(item.Asked, "");

    private static string Ringed(Marked place, string letter)
    {
        const string look =
            "font-size=\"22\" font-weight=\"700\" fill=\"#12454A\" stroke=\"#FFFEFA\" stroke-width=\"3\" paint-order=\"stroke\"";
        var (at, r) = (place.From, place.Length);
        string Circle(string css, string colour, double width) =>
            string.Create(
                CultureInfo.InvariantCulture,
                $"<circle class=\"{css}\" cx=\"{at.X:0.0}\" cy=\"{at.Y:0.0}\" r=\"{r:0.0}\" fill=\"none\" stroke=\"{colour}\" stroke-width=\"{width}\"/>"
            );
        var ring = Circle("drill-halo", "#FFFEFA", 4) + Circle("drill-ring", "#12454A", 1.8);
        if (letter == "")
            return ring;
        var beside = string.Create(CultureInfo.InvariantCulture, $"x=\"{at.X + r + 4:0.0}\" y=\"{at.Y - r + 4:0.0}\"");
        return $"{ring}<text class=\"drill-letter\" {beside} {look}>{letter}</text>";
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
