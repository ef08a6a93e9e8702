using System.Globalization;
using System.Runtime.CompilerServices;
using System.Text;
using Microsoft.AspNetCore.Html;

namespace MintHarbor.Web.Drawing;

/// <summary>Builds SVG text with invariant numbers; colour, dash and type come from classes only.</summary>
public sealed class Svg
{
    private readonly StringBuilder s = new();

    /// <summary>Adds a part as it stands, its numbers to a hundredth, which is enough of a pixel; {x:0.#} to a tenth.</summary>
    public Svg Add([InterpolatedStringHandlerArgument("")] ref Parts part) => this;

    public Svg Text(string css, double x, double y, string text, string anchor = "start") =>
        Add($"<text class=\"{css}\" x=\"{x}\" y=\"{y}\" text-anchor=\"{anchor}\">{System.Net.WebUtility.HtmlEncode(text)}</text>");

    public Svg Line(string css, double x1, double y1, double x2, double y2) =>
        Add($"<line class=\"{css}\" x1=\"{x1}\" y1=\"{y1}\" x2=\"{x2}\" y2=\"{y2}\"/>");

    public Svg Path(string css, IReadOnlyList<System.Numerics.Vector2> places, bool closed = false)
    {
        Add($"<path class=\"{css}\" d=\"");
        for (var n = 0; n < places.Count; n++)
            Add($"{(n == 0 ? "M" : "L")}{places[n].X:0.#} {places[n].Y:0.#}");
        return Add($"{(closed ? "Z" : "")}\"/>");
    }

    public HtmlString Html() => new(s.ToString());

    public override string ToString() => s.ToString();

    /// <summary>Writes straight into the drawing: a strip has a thousand numbers.</summary>
    [InterpolatedStringHandler]
    public readonly ref struct Parts
    {
        private readonly StringBuilder s;

        public Parts(int literals, int holes, Svg svg) => s = svg.s;

        public void AppendLiteral(string text) => s.Append(text);

        public void AppendFormatted(string? text) => s.Append(text);

        public void AppendFormatted(double v) => Number(v, 100);

        public void AppendFormatted(double v, string format) => Number(v, format == "0.#" ? 10 : 100);

        public void AppendFormatted<T>(T v)
        {
            if (v is IFormattable f)
                s.Append(f.ToString(null, CultureInfo.InvariantCulture));
            else
                s.Append(v?.ToString());
        }

        private void Number(double v, int parts)
        {
            if (!(Math.Abs(v) < 1e9))
            {
                s.Append(v.ToString("0.##", CultureInfo.InvariantCulture));
                return;
            }
            var n = (long)Math.Round(v * parts, MidpointRounding.AwayFromZero);
            if (n < 0)
                s.Append('-');
            n = Math.Abs(n);
            s.Append(n / parts);
            var rest = (int)(n % parts);
            if (rest == 0)
                return;
            s.Append('.');
            if (parts == 10)
                s.Append((char)('0' + rest));
            else
            {
                s.Append((char)('0' + (rest / 10)));
                if (rest % 10 > 0)
                    s.Append((char)('0' + (rest % 10)));
            }
        }
    }
}

/// <summary>The marks that recur: the leaf-bob and the shapes of the margin.</summary>
public static class Marks
{
    private const string Leaf =
        "<path class=\"bob-leaf\" d=\"M0 0C5.5 3.5 7.5 7.5 6 11.5C5 14.5 2 17 0 21C-2 17-5 14.5-6 11.5C-7.5 7.5-5.5 3.5 0 0Z\"/>"
        + "<path class=\"bob-rib\" d=\"M0 0V16\"/>";

    public static readonly HtmlString Logo = new(
        "<svg class=\"logo\" width=\"26\" height=\"48\" aria-hidden=\"true\">"
            + "<line class=\"thread\" x1=\"9\" y1=\"0\" x2=\"9\" y2=\"14\"/><g transform=\"translate(9 13) scale(1.1)\">"
            + Leaf
            + "</g></svg>"
    );

    public static readonly HtmlString Here = new(
        "<svg class=\"here\" width=\"14\" height=\"36\" aria-hidden=\"true\"><g transform=\"translate(7 11) scale(.9)\">"
            + Leaf
            + "</g><line class=\"thread\" x1=\"7\" y1=\"0\" x2=\"7\" y2=\"11\"/></svg>"
    );

    public static readonly HtmlString RowHere = new(
        "<svg class=\"row-here\" width=\"12\" height=\"18\" aria-hidden=\"true\"><g transform=\"translate(6 0) scale(.8)\">"
            + Leaf
            + "</g></svg>"
    );

    public static string Bob(double x, double y, double scale = 1, double turn = 0) =>
        new Svg().Add($"<g class=\"bob\" transform=\"translate({x} {y}) rotate({turn}) scale({scale})\">{Leaf}</g>").ToString();

    /// <summary>dot computed and holds; near an open triangle; outside a full one; blocked a square; unjudgeable a dotted ring.</summary>
    public static HtmlString Shape(string kind) =>
        kind switch
        {
            "holds" => Small(13, "holds", "<circle class=\"sh-holds\" cx=\"6\" cy=\"6.5\" r=\"4.5\"/>"),
            "near" => Small(14, "near a limit", "<path class=\"sh-near\" d=\"M6.5 1L12.2 12H.8Z\"/>"),
            "outside" => Small(14, "outside", "<path class=\"sh-outside\" d=\"M6.5 .5L13 12.5H0Z\"/>"),
            "blocked" => Small(13, "blocked", "<rect class=\"sh-blocked\" x=\"1.5\" y=\"1.5\" width=\"10\" height=\"10\"/>"),
            "person" => new(
                "<svg class=\"shape\" width=\"13\" height=\"18\" aria-hidden=\"true\"><path class=\"sh-person\" d=\"M2 1V17\"/></svg>"
            ),
            _ => Small(13, "not judgeable", "<circle class=\"sh-unknown\" cx=\"6\" cy=\"6.5\" r=\"4.2\"/>"),
        };

    private static HtmlString Small(int width, string label, string drawn) =>
        new($"<svg class=\"shape\" width=\"{width}\" height=\"13\" role=\"img\" aria-label=\"{label}\">{drawn}</svg>");

    public static HtmlString Chevron { get; } =
        new("<svg class=\"chevron\" width=\"12\" height=\"8\" aria-hidden=\"true\"><path d=\"M1 1.5L6 6.5L11 1.5\"/></svg>");
}
