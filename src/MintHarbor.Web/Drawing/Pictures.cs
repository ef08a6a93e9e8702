using System.Collections.Concurrent;
using Microsoft.AspNetCore.Html;
using MintHarbor.Core;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sessions;

namespace MintHarbor.Web.Drawing;

/// <summary>Small pictures: pose silhouettes, shares, curves, ladders.</summary>
public static class Pictures
{
    // A pose has two seats, clothed or not: a few dozen pictures in all, each drawn once.
    private static readonly ConcurrentDictionary<(string Pose, bool Clothed, bool Second), HtmlString> poses = new(), lines = new();

    /// <summary>Silhouette of a pose at one scale for all (43 px standing).</summary>
    public static HtmlString Pose(string poseId, bool clothed, int n) => poses.GetOrAdd((poseId, clothed, n % 2 == 1), p =>
    {
        var view = StudioViews.OfPose(p.Pose, p.Clothed, p.Second);
        if (view is null) return HtmlString.Empty;
        // A reclining figure fills its picture in width; one scale for all goes by the distance from crown to pit.
        var k = p.Pose is "stand" or "contrapposto" ? 43 / 335.0 : p.Pose == "recline" ? 0.10 : p.Pose == "crouch" ? 0.075 : p.Pose == "seated" ? 0.105 : p.Pose == "lunge" ? 0.11 : 0.118;
        var outlines = Outlines(view.Mass);
        var (x0, y0, x1, y1) = Bounds(outlines);
        var name = TimingRules.Default.Poses.First(x => x.Id == p.Pose).Name;
        var s = new Svg().Add($"<svg class=\"pose\" width=\"{((x1 - x0) * k) + 2}\" height=\"{((y1 - y0) * k) + 2}\" viewBox=\"{x0 - 6} {y0 - 6} {x1 - x0 + 12} {y1 - y0 + 12}\" role=\"img\" aria-label=\"{name}\"><path class=\"pose-mass\" d=\"");
        // A tenth of a pixel as it is shown: no eye sees what is left out.
        foreach (var outline in outlines.Select(o => Thinned(o, 0.1 / k)).Where(o => o.Count > 2))
        {
            for (var i = 0; i < outline.Count; i++) s.Add($"{(i == 0 ? 'M' : 'L')}{outline[i].X:0.#} {outline[i].Y:0.#}");
            s.Add($"Z");
        }
        return s.Add($"\"/></svg>").Html();
    });

    /// <summary>Line view of a pose, as large as its box.</summary>
    public static HtmlString Line(string poseId, bool clothed, int n) => lines.GetOrAdd((poseId, clothed, n % 2 == 1), p =>
    {
        var view = StudioViews.OfPose(p.Pose, p.Clothed, p.Second);
        if (view is null) return HtmlString.Empty;
        var (x0, y0, x1, y1) = Bounds(Outlines(view.Mass));
        return new Svg().Add($"<svg class=\"pose-line\" viewBox=\"{x0 - 4} {y0 - 4} {x1 - x0 + 8} {y1 - y0 + 8}\" aria-hidden=\"true\"><path d=\"{view.Line}\"/></svg>").Html();
    });

    /// <summary>The closed outlines of a path of straight lines.</summary>
    private static List<List<Vec2>> Outlines(string path)
    {
        var all = new List<List<Vec2>>();
        foreach (var part in path.Split('M', StringSplitOptions.RemoveEmptyEntries))
        {
            var n = part.Split(['L', 'Z', ' '], StringSplitOptions.RemoveEmptyEntries).Select(v => double.Parse(v, System.Globalization.CultureInfo.InvariantCulture)).ToList();
            all.Add([.. Enumerable.Range(0, n.Count / 2).Select(i => new Vec2(n[2 * i], n[(2 * i) + 1]))]);
        }
        return all;
    }

    private static (double X0, double Y0, double X1, double Y1) Bounds(List<List<Vec2>> outlines)
    {
        var all = outlines.SelectMany(o => o).ToList();
        return (all.Min(p => p.X), all.Min(p => p.Y), all.Max(p => p.X), all.Max(p => p.Y));
    }

    /// <summary>Douglas and Peucker's thinning (1973, from memory): what lies within the tolerance of the chord is left out.</summary>
    private static List<Vec2> Thinned(List<Vec2> line, double tolerance)
    {
        if (line.Count < 3) return line;
        var (a, b, worst, at) = (line[0], line[^1], -1.0, 0);
        var chord = (b - a).Length;
        for (var i = 1; i < line.Count - 1; i++)
        {
            var off = chord < 1e-9 ? (line[i] - a).Length : Math.Abs((b - a).Cross(line[i] - a)) / chord;
            if (off > worst) (worst, at) = (off, i);
        }
        return worst <= tolerance ? [a, b] : [.. Thinned(line[..(at + 1)], tolerance).SkipLast(1), .. Thinned(line[at..], tolerance)];
    }

    /// <summary>A share of 64 × 12 with its number.</summary>
    public static HtmlString Share(int percent) =>
        new Svg().Add($"<svg class=\"share\" width=\"64\" height=\"12\" aria-hidden=\"true\"><rect class=\"share-on\" x=\".5\" y=\".5\" width=\"{63 * percent / 100.0}\" height=\"11\"/><rect class=\"share-box\" x=\".5\" y=\".5\" width=\"63\" height=\"11\"/></svg>").Html();

    /// <summary>Drill results over time: each round's bias as a dot with its spread as a bar, the allowed error as a band.</summary>
    public static HtmlString Curve(Core.Practice.Drill drill, IReadOnlyList<(string Date, double Bias, double Spread, double Difficulty)> rounds)
    {
        const double w = 560, h = 190, left = 44, right = 12, top = 14, foot = 150;
        var reach = drill.Unit == "deg" ? 20 : 0.3;
        var most = Math.Max(reach, rounds.Select(r => Math.Abs(r.Bias) + r.Spread).DefaultIfEmpty(0).Max());
        double Y(double deg) => top + ((foot - top) / 2) - (deg / most * (foot - top) / 2);
        double X(int n) => rounds.Count < 2 ? (left + w - right) / 2 : left + 14 + (n * (w - left - right - 28) / (rounds.Count - 1));
        var s = new Svg().Add($"<svg class=\"curve\" viewBox=\"0 0 {w} {h}\" role=\"img\" aria-label=\"Lean and scatter of {rounds.Count} rounds\">");
        for (var n = 0; n < rounds.Count; n++)
        {
            var allowed = drill.Allowed(rounds[n].Difficulty);
            var half = rounds.Count < 2 ? 40 : (w - left - right - 28) / (rounds.Count - 1) / 2;
            s.Add($"<rect class=\"curve-band\" x=\"{X(n) - half}\" y=\"{Y(allowed)}\" width=\"{2 * half}\" height=\"{Y(-allowed) - Y(allowed)}\"/>");
        }
        foreach (var d in new[] { -reach, -reach / 2, 0, reach / 2, reach })
        {
            s.Line(d == 0 ? "curve-zero" : "curve-tick", left - (d == 0 ? 0 : 5), Y(d), d == 0 ? w - right : left, Y(d)).Text("axis", left - 9, Y(d) + 5, drill.Unit == "deg" ? Say.Signed(d) + "°" : drill.Unit is "heads" or "apart" ? Say.Signed(d, 2) : Say.Signed(100 * (Math.Exp(d) - 1)) + " %", "end");
        }
        s.Line("curve-axis", left + 0.5, Y(reach), left + 0.5, Y(-reach));
        for (var n = 0; n < rounds.Count; n++)
        {
            var r = rounds[n];
            var ok = Math.Abs(r.Bias) + r.Spread <= drill.Allowed(r.Difficulty);
            s.Line("curve-spread", X(n), Y(r.Bias - r.Spread), X(n), Y(r.Bias + r.Spread));
            s.Add($"<circle class=\"{(ok ? "sh-holds" : "curve-dot")}\" cx=\"{X(n)}\" cy=\"{Y(r.Bias)}\" r=\"4.5\"/>");
        }
        if (rounds.Count > 0) s.Text("axis", X(0), h - 14, rounds[0].Date, "middle");
        if (rounds.Count > 1) s.Text("axis", X(rounds.Count - 1), h - 14, rounds[^1].Date, "middle");
        return s.Add($"</svg>").Html();
    }
}
