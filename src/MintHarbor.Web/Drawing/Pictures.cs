using Microsoft.AspNetCore.Html;
using MintHarbor.Core;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Sessions;

namespace MintHarbor.Web.Drawing;

/// <summary>Small pictures: pose silhouettes, shares, curves, ladders.</summary>
public static class Pictures
{
    /// <summary>Silhouette of a pose of the studio, at one scale for all (43 px standing).</summary>
    public static HtmlString Pose(string poseId, bool clothed, int n) =>
        Silhouettes.Find(poseId, clothed, n % 2 == 1) is not { } s
            ? HtmlString.Empty
            : new Svg()
                .Add(
                    $"<svg class=\"pose\" width=\"{s.Width + 2}\" height=\"{s.Height + 2}\" viewBox=\"-1 -1 {s.Width + 2} {s.Height + 2}\" role=\"img\" aria-label=\"{PoseLibrary.Name(poseId)}\"><path class=\"pose-mass\" d=\"{s.Path}\"/></svg>"
                )
                .Html();

    /// <summary>A pose as a line of a timetable shows it: the studio's as a silhouette, a course's own as the figure itself.</summary>
    public static HtmlString Small(string poseId, bool clothed, int n, int course, PlanRequest request) =>
        !poseId.StartsWith("own-", StringComparison.Ordinal)
            ? Pose(poseId, clothed, n)
            : new(
                $"<img class=\"own-pose\" src=\"{System.Net.WebUtility.HtmlEncode(new Figures.FigureAddress { Pose = poseId, Width = 60, Height = 90, Preview = true, Garment = clothed }.For(course))}\" alt=\"{System.Net.WebUtility.HtmlEncode(PoseLibrary.Name(poseId, request))}\" width=\"29\" height=\"43\">"
            );

    /// <summary>How many of the silhouettes fit beside each other, and leave room for the words of how many more there are.</summary>
    public static int Fit(IReadOnlyList<string> poseIds, bool clothed, int n, double room)
    {
        double at = 0;
        for (var k = 0; k < poseIds.Count; k++)
        {
            at += (Silhouettes.Find(poseIds[k], clothed, (n + k) % 2 == 1)?.Width ?? 29) + 9;
            if (at > room || k == 5)
                return Math.Max(1, k);
        }
        return poseIds.Count;
    }

    /// <summary>Where a class sat round the stand, from above: a dot for every place, the pose's front down.</summary>
    /// <param name="azimuths">Degrees from the pose's front, positive to the figure's left.</param>
    public static HtmlString Ring(IReadOnlyList<double> azimuths)
    {
        var s = new Svg().Add(
            $"<svg class=\"seat-ring\" width=\"46\" height=\"46\" aria-hidden=\"true\"><circle class=\"dial-stand\" cx=\"23\" cy=\"23\" r=\"6\"/><line class=\"dial-nose\" x1=\"23\" y1=\"23\" x2=\"23\" y2=\"32\"/>"
        );
        foreach (var a in azimuths)
        {
            var (sin, cos) = Math.SinCos(a * Math.PI / 180);
            s.Add($"<circle class=\"seat-dot\" cx=\"{23 + (18 * sin):0.#}\" cy=\"{23 + (18 * cos):0.#}\" r=\"2.4\"/>");
        }
        return s.Add($"</svg>").Html();
    }

    /// <summary>A share of 64 × 12 with its number.</summary>
    public static HtmlString Share(int percent) =>
        new Svg()
            .Add(
                $"<svg class=\"share\" width=\"64\" height=\"12\" aria-hidden=\"true\"><rect class=\"share-on\" x=\".5\" y=\".5\" width=\"{63 * percent / 100.0}\" height=\"11\"/><rect class=\"share-box\" x=\".5\" y=\".5\" width=\"63\" height=\"11\"/></svg>"
            )
            .Html();

    /// <param name="Allowed">Error that counted as right when the round began.</param>
    public sealed record Round(string Date, double Bias, double Spread, double Allowed);

    /// <summary>Drill results over time: each round's bias as a dot with its spread as a bar, the allowed error as a band.</summary>
    public static HtmlString Curve(Core.Practice.Drill drill, IReadOnlyList<Round> rounds)
    {
        const double w = 560,
            h = 190,
            left = 44,
            right = 12,
            top = 14,
            foot = 150;
        var reach = drill.Reach;
        var most = Math.Max(reach, rounds.Select(r => Math.Abs(r.Bias) + r.Spread).DefaultIfEmpty(0).Max());
        double Y(double deg) => top + ((foot - top) / 2) - (deg / most * (foot - top) / 2);
        double X(int n) => rounds.Count < 2 ? (left + w - right) / 2 : left + 14 + (n * (w - left - right - 28) / (rounds.Count - 1));
        var s = new Svg().Add(
            $"<svg class=\"curve\" viewBox=\"0 0 {w} {h}\" role=\"img\" aria-label=\"Lean and scatter of {rounds.Count} rounds\">"
        );
        for (var n = 0; n < rounds.Count; n++)
        {
            var allowed = rounds[n].Allowed;
            // Half way to its neighbours, and never over the axes.
            var half = rounds.Count < 2 ? 40 : (w - left - right - 28) / (rounds.Count - 1) / 2;
            double from = Math.Max(left, X(n) - half),
                to = Math.Min(w - right, X(n) + half);
            s.Add(
                $"<rect class=\"curve-band\" x=\"{from}\" y=\"{Y(allowed)}\" width=\"{to - from}\" height=\"{Y(-allowed) - Y(allowed)}\"/>"
            );
        }
        foreach (var d in new[] { -reach, -reach / 2, 0, reach / 2, reach })
        {
            s.Line(d == 0 ? "curve-zero" : "curve-tick", left - (d == 0 ? 0 : 5), Y(d), d == 0 ? w - right : left, Y(d))
                .Text("axis", left - 9, Y(d) + 5, drill.SayAxis(d), "end");
        }
        s.Line("curve-axis", left + 0.5, Y(reach), left + 0.5, Y(-reach));
        for (var n = 0; n < rounds.Count; n++)
        {
            var r = rounds[n];
            var ok = Math.Abs(r.Bias) + r.Spread <= r.Allowed;
            s.Line("curve-spread", X(n), Y(r.Bias - r.Spread), X(n), Y(r.Bias + r.Spread));
            s.Add($"<circle class=\"{(ok ? "sh-holds" : "curve-dot")}\" cx=\"{X(n)}\" cy=\"{Y(r.Bias)}\" r=\"4.5\"/>");
        }
        if (rounds.Count > 0)
            s.Text("axis", X(0), h - 14, rounds[0].Date, "middle");
        if (rounds.Count > 1)
            s.Text("axis", X(rounds.Count - 1), h - 14, rounds[^1].Date, "middle");
        return s.Add($"</svg>").Html();
    }
}
