using Microsoft.AspNetCore.Html;
using MintHarbor.Core;
using MintHarbor.Core.Practice;
using NodaTime;

namespace MintHarbor.Web.Drawing;

/// <summary>One measure over the term: drill rounds, paper sheets and drawings on one line of days, each with its lean and scatter in so many times what is
/// asked of a trained eye.</summary>
public static class StageChart
{
    private const double Wide = 640,
        Left = 44,
        Right = 14,
        Middle = 92,
        Half = 74,
        Foot = 196;

    /// <summary>Farther off than this is drawn at the rim.</summary>
    private const double Most = 4;

    /// <param name="points">In any order; one at least.</param>
    /// <param name="moves">When it moved, and to what.</param>
    public static HtmlString Draw(IReadOnlyList<StagePoint> points, IReadOnlyList<(Instant At, string To)> moves, DateTimeZone zone)
    {
        var days = points.Select(p => p.At).Concat(moves.Select(m => m.At)).ToList();
        var (first, last) = (days.Min(), days.Max());
        var span = Math.Max(1, (last - first).TotalDays);
        double X(Instant at) => Left + 16 + ((at - first).TotalDays / span * (Wide - Left - Right - 32));
        double Y(double off) => Middle - (Math.Clamp(off, -Most, Most) / Most * Half);
        string Day(Instant at) => Words.ShortDay(at.InZone(zone).Date);
        var s = new Svg().Add(
            $"<svg class=\"curve stage-chart\" viewBox=\"0 0 {Wide} {Foot + 14}\" role=\"img\" aria-label=\"{Say.Plural(points.Count, "piece")} of evidence from {Day(first)} to {Day(last)}\">"
        );
        s.Add($"<rect class=\"curve-band\" x=\"{Left}\" y=\"{Y(1)}\" width=\"{Wide - Left - Right}\" height=\"{Y(-1) - Y(1)}\"/>");
        foreach (var off in new[] { -Most, -2, -1, 0, 1, 2, Most })
            s.Line(off == 0 ? "curve-zero" : "curve-tick", Left - 5, Y(off), off == 0 ? Wide - Right : Left, Y(off))
                .Text("axis", Left - 9, Y(off) + 5, Say.Signed(off) + "×", "end");
        foreach (var (at, to) in moves)
            s.Line("ln-move", X(at), Middle - Half, X(at), Middle + Half).Text("axis", X(at), 12, to, X(at) > Wide * 0.7 ? "end" : "start");
        foreach (var p in points.OrderBy(p => p.At))
        {
            var x = X(p.At);
            s.Line("curve-spread", x, Y(p.Lean - p.Scatter), x, Y(p.Lean + p.Scatter));
            var y = Y(p.Lean);
            if (p.From == EvidenceOf.Paper)
                s.Add($"<rect class=\"stage-paper\" x=\"{x - 4}\" y=\"{y - 4}\" width=\"8\" height=\"8\"/>");
            else if (p.From == EvidenceOf.Sheet)
                s.Add($"<path class=\"stage-sheet\" d=\"M{x - 6} {y + 5}L{x} {y - 6}L{x + 6} {y + 5}Z\"/>");
            else
                s.Add($"<circle class=\"stage-drill\" cx=\"{x}\" cy=\"{y}\" r=\"4\"/>");
        }
        s.Text("axis", X(first), Foot, Day(first), "start");
        if (last - first > Duration.FromDays(1))
            s.Text("axis", X(last), Foot, Day(last), "end");
        return s.Add($"</svg>").Html();
    }
}
