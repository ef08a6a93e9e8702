using Microsoft.AspNetCore.Html;
using MintHarbor.Core;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Landmarks;

namespace MintHarbor.Web.Drawing;

/// <summary>What is laid over a view: beside a figure its head ladder, over figure and head, when asked for, its landmarks.</summary>
public static class FigureOver
{
    /// <param name="canonHeads">Heads of the course's canon, drawn beside the figure's own.</param>
    /// <param name="whole">The figure is seen from crown to sole: its heads can be counted.</param>
    public static HtmlString Draw(FigureView v, double? canonHeads, bool whole = true)
    {
        var s = new Svg().Add(
            $"<svg class=\"figure-over\" viewBox=\"-70 0 {v.Width + 70} {v.Height}\" aria-hidden=\"true\" data-over=\"\">"
        );
        if (whole && v.Landmarks.ContainsKey("sole.L"))
            Ladder(s, v, canonHeads);
        s.Add($"<g class=\"figure-marks\" data-marks=\"\">");
        foreach (var (id, l) in v.Landmarks.Where(l => l.Value.Visible))
            s.Add(
                $"<g><circle class=\"figure-mark\" cx=\"{l.At.X:0.#}\" cy=\"{l.At.Y:0.#}\" r=\"3.2\"/><title>{LandmarkIds.Name(id)}</title></g>"
            );
        return s.Add($"</g></svg>").Html();
    }

    private static void Ladder(Svg s, FigureView v, double? canonHeads)
    {
        var (crown, chin) = (v.Landmarks["crown"].At, v.Landmarks["chin"].At);
        var foot = Math.Max(v.Landmarks["sole.L"].At.Y, v.Landmarks["sole.R"].At.Y);
        var head = (chin - crown).Length;
        var heads = (foot - crown.Y) / head;
        if (head > 8 && heads is > 1 and < 12)
        {
            s.Text("ladder-word", -34, crown.Y - 10, "heads", "end").Line("ladder-drawn", -33.5, crown.Y, -33.5, foot);
            for (var n = 0; n <= heads * 2; n++)
            {
                var y = crown.Y + (n * head / 2);
                s.Line("ladder-drawn", -33.5, y, n % 2 == 0 ? -42.5 : -38.5, y);
                if (n % 2 == 0 && n > 0)
                    s.Text("ladder-num", -47, y + 5, Say.Number(n / 2), "end");
            }
            s.Text("ladder-num", -34, foot + 18, Say.Fixed(heads, 2), "end");
            if (canonHeads is { } c && heads > 6)
            {
                var unit = (foot - crown.Y) / c;
                s.Line("ladder-card", -28.5, crown.Y, -28.5, foot);
                for (var n = 1; n <= c; n++)
                    s.Line("ladder-card-tick", -28.5, crown.Y + (n * unit), -20.5, crown.Y + (n * unit));
                s.Text("ladder-num blue", -27, foot + 18, Say.Number(c, 2));
            }
        }
    }
}
