using Microsoft.AspNetCore.Html;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Store.Model;
using MintHarbor.Web.Pages.Practice;

namespace MintHarbor.Web.Drawing;

/// <summary>A drill sheet laid flat, with what the reader saw drawn over it.</summary>
public static class PaperPicture
{
    private const string Alt = "The sheet laid flat, what was read drawn over it";

    /// <param name="picture">Address of the flat sheet.</param>
    public static HtmlString Draw(PaperSheet sheet, string picture)
    {
        var reading = sheet.Reading!;
        var svg = new Svg().Add(
            $"<svg class=\"paper-read\" viewBox=\"0 0 {SheetLayout.Width} {SheetLayout.Height}\" role=\"img\" aria-label=\"{Alt}\">"
        );
        svg.Add($"<image href=\"{picture}\" width=\"{SheetLayout.Width}\" height=\"{SheetLayout.Height}\"/>");
        for (var n = 0; n < reading.Items.Count; n++)
        {
            var item = sheet.Printed.Items[n];
            var css = sheet.Counts(n) ? "paper-seen" : "paper-unsure";
            foreach (var line in reading.Items[n].Seen)
                Seen(svg, css, line);
            svg.Text("paper-letter", item.At.X + item.Width - 3, item.At.Y + 5, PaperSheetModel.Letter(n), "end");
        }
        return svg.Add($"</svg>").Html();
    }

    private static void Seen(Svg svg, string css, SeenLine line)
    {
        if (line.Places is [var only])
            svg.Add($"<circle class=\"{css}-dot\" cx=\"{only.X:0.##}\" cy=\"{only.Y:0.##}\" r=\"0.45\"/>");
        else
            svg.Path(css, [.. line.Places.Select(p => new System.Numerics.Vector2((float)p.X, (float)p.Y))], line.Closed);
    }
}
