using System.Globalization;
using System.Text;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Hands;

/// <summary>Draws a drill of the hand as SVG: what is looked at, the field with what is given, and afterwards what was drawn under what is true.</summary>
public static class HandPicture
{
    /// <summary>The picture beside the field; null where there is none.</summary>
    public static string? Beside(DrillItem item)
    {
        if (item.Hand?.Beside is { } beside)
            return Svg(item.Hand.Field, "hand-subject", "What is drawn", string.Concat(beside.Select(Line)));
        if (item.ViewId == "")
            return null;
        var view = StudioViews.Get(item.ViewId);
        var turned = item.Mirrored ? string.Create(CultureInfo.InvariantCulture, $" transform=\"matrix(-1 0 0 1 {view.Width} 0)\"") : "";
        return Svg(
            new(view.Width, view.Height),
            "hand-subject",
            $"A {view.Subject}, as it is to be drawn",
            $"<path class=\"fill-graphite\"{turned} d=\"{view.Line}\"/>"
        );
    }

    /// <param name="drawn">What was drawn; null before.</param>
    /// <param name="over">What is true, in the field.</param>
    public static string Field(DrillItem item, PenTrace? drawn = null, IReadOnlyList<SeenLine>? over = null)
    {
        var s = new StringBuilder();
        foreach (var g in item.Hand!.Given)
            s.Append(Line(g));
        foreach (var stroke in drawn?.Lines ?? [])
            s.Append(Path("hand-drawn", Thin.Path([.. stroke], 0.2), false));
        foreach (var line in over ?? [])
            s.Append(Path("hand-true", line.Places, line.Closed));
        return Svg(
            item.Hand.Field,
            "hand-field",
            drawn is null ? "The field to draw in" : "What you drew, and over it what is true",
            s.ToString()
        );
    }

    private static string Svg(Vec2 size, string css, string label, string inner) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {size.X} {size.Y}\" class=\"{css}\" role=\"img\" aria-label=\"{label}\">{inner}</svg>"
        );

    private static string Line(GivenLine g) =>
        g.Style == GivenStyle.Dot
            ? string.Create(
                CultureInfo.InvariantCulture,
                $"<circle class=\"hand-dot\" cx=\"{g.Places[0].X}\" cy=\"{g.Places[0].Y}\" r=\"3.5\" fill=\"{(g.Closed ? "none" : "currentColor")}\" stroke=\"currentColor\"/>"
            )
            : Path($"hand-{g.Style.ToString().ToLowerInvariant()}", g.Places, g.Closed);

    private static string Path(string css, IReadOnlyList<Vec2> places, bool closed)
    {
        var d = new StringBuilder();
        for (var i = 0; i < places.Count; i++)
            d.Append(CultureInfo.InvariantCulture, $"{(i == 0 ? 'M' : 'L')}{places[i].X:0.#} {places[i].Y:0.#}");
        // A place alone is drawn by its round ends.
        if (places.Count == 1)
            d.Append("h0.01");
        return $"<path class=\"{css}\" fill=\"none\" stroke=\"currentColor\" d=\"{d}{(closed ? "Z" : "")}\"/>";
    }
}
