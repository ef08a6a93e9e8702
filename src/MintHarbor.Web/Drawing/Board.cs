using Microsoft.AspNetCore.Html;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;
using MintHarbor.Store;
using MintHarbor.Store.Model;

namespace MintHarbor.Web.Drawing;

/// <summary>What was said of a check of anatomy.</summary>
public enum CheckMark
{
    Open,
    Holds,
    Off,
    Skipped,
}

public static class CheckMarks
{
    public static string Name(this CheckMark mark) => mark.ToString().ToLowerInvariant();

    public static string Says(this CheckMark mark) =>
        mark switch
        {
            CheckMark.Holds => "holds",
            CheckMark.Off => "off, a remark",
            CheckMark.Skipped => "skipped",
            _ => "to be looked at",
        };

    /// <summary>The product's mark for it.</summary>
    public static string Shape(this CheckMark mark) =>
        mark switch
        {
            CheckMark.Holds => "holds",
            CheckMark.Off => "outside",
            _ => "unknown",
        };
}

/// <summary>A check of anatomy as it is pinned on the sheet.</summary>
public sealed record CheckPin(string Key, string Name, CheckMark Mark, Vec2 At);

/// <summary>The sheet on the bench: the flat photograph in a ruled frame, head ladder, what is off, and the landmarks.
/// Its inner unit is 1/450 of the sheet's width, so that type and crosses keep their size on every paper.</summary>
public static class Board
{
    public const double Width = 450,
        Ladder = 84;

    /// <summary>Inner units a millimetre.</summary>
    public static double Scale(Sheet s) => Width / s.PaperWidthMm;

    /// <param name="pictures">Address under which the flat sheet stands, and what was read of it.</param>
    /// <param name="findings">What is judged; the outside ones are drawn.</param>
    /// <param name="spots">Numbered places of remarks.</param>
    /// <param name="editable">Landmarks can be taken hold of.</param>
    /// <param name="checks">Checks of anatomy that lie on the sheet.</param>
    public static HtmlString Draw(
        Sheet sheet,
        string pictures,
        IReadOnlyList<Finding> findings,
        PoseCard? card,
        IReadOnlyList<(string Id, string Label, Vec2 At)> spots,
        bool editable,
        string? chosen,
        bool inch,
        Figures.LaidReference? laid = null,
        IReadOnlyList<CheckPin>? checks = null
    )
    {
        double k = Scale(sheet),
            h = sheet.PaperHeightMm * k;
        var s = new Svg()
            .Add($"<svg class=\"over\" viewBox=\"{-Ladder} -10 {Ladder + Width + 40} {h + 40}\" data-scale=\"{k}\" role=\"group\" ")
            .Add($"aria-label=\"The sheet, {sheet.PaperWidthMm} by {sheet.PaperHeightMm} mm\">");
        s.Add($"<image href=\"{pictures}/flat\" x=\"0\" y=\"0\" width=\"{Width}\" height=\"{h}\" preserveAspectRatio=\"none\"/>");
        if (laid is { Fit: { } fit })
        {
            // Pixels of the view to millimetres of the sheet to the board's own unit: one turn, one scale, one shift.
            var (x, y) = (fit.Shift.X * k, fit.Shift.Y * k);
            var view = laid.Address with { Blue = true };
            var href = System.Net.WebUtility.HtmlEncode(view.For(sheet.CourseId));
            var scale = (fit.Scale * k).ToString("0.#####", System.Globalization.CultureInfo.InvariantCulture);
            s.Add(
                    $"<g class=\"reference-view\" data-reference=\"\"><image href=\"{href}\" width=\"{view.Width}\" height=\"{view.Height}\" "
                )
                .Add($"transform=\"translate({x} {y}) rotate({fit.TurnDegrees}) scale({scale})\"/></g>");
        }
        // How the ink was read: fetched when it is asked for, and laid over the sheet by the page.
        foreach (var read in new[] { PictureService.Lines, PictureService.Values })
            s.Add($"<g data-read-over=\"{read}\" data-href=\"{pictures}/{read}\" data-high=\"{h}\"></g>");
        Frame(s, sheet, k, h, inch);
        if (sheet.Subject == "head")
            FaceLadder(s, sheet, k);
        else
            HeadLadder(s, sheet, card, k);
        s.Add($"<g class=\"off\">");
        Off(s, sheet, findings, card, k, laid);
        s.Add($"</g>");
        if (sheet.Landmarks.TryGetValue("pit", out var pit))
            s.Add($"<g class=\"plumbline\" hidden=\"hidden\">")
                .Line("over-halo", pit.X * k, pit.Y * k, pit.X * k, h)
                .Line("over-reference", pit.X * k, pit.Y * k, pit.X * k, h)
                .Add($"</g>");
        foreach (var (id, p) in sheet.Landmarks)
            Landmark(s, sheet, id, p, k, editable, id == chosen);
        foreach (var (id, label, at) in spots)
        {
            if (label == "")
                s.Add($"<circle id=\"{id}\" class=\"over-spot\" cx=\"{at.X * k}\" cy=\"{at.Y * k}\" r=\"2.6\"/>");
            else
                s.Add($"<g id=\"{id}\"><circle class=\"spot-number\" cx=\"{at.X * k}\" cy=\"{at.Y * k}\" r=\"11\"/>")
                    .Text("spot-text", at.X * k, (at.Y * k) + 5.5, label, "middle")
                    .Add($"</g>");
        }
        if (checks is { Count: > 0 })
            Checks(s, checks, k);
        return s.Add($"</svg>").Html();
    }

    /// <summary>A pin beside each check's drawn place: an open ring to be looked at, the dot where it holds, the full triangle where it is
    /// off, a dash where it is skipped.</summary>
    private static void Checks(Svg s, IReadOnlyList<CheckPin> checks, double k)
    {
        s.Add($"<g class=\"checks\">");
        foreach (var c in checks)
        {
            var label = $"{c.Name}, {c.Mark.Says()}: open its card";
            s.Add($"<g class=\"check-pin is-{c.Mark.Name()}\" data-pin=\"{c.Key}\" tabindex=\"0\" role=\"button\" aria-label=\"{label}\" ")
                .Add($"transform=\"translate({c.At.X * k} {c.At.Y * k})\"><circle class=\"hit\" r=\"12\"/>");
            switch (c.Mark)
            {
                case CheckMark.Off:
                    s.Add($"<path class=\"pin-off\" d=\"M0-6L6.2 5.2H-6.2Z\"/>");
                    break;
                case CheckMark.Holds:
                    s.Add($"<circle class=\"pin-holds\" r=\"4.5\"/>");
                    break;
                case CheckMark.Skipped:
                    s.Add($"<path class=\"pin-skipped\" d=\"M-5 0H5\"/>");
                    break;
                default:
                    s.Add($"<circle class=\"pin-halo\" r=\"5\"/><circle class=\"pin-open\" r=\"5\"/>");
                    break;
            }
            s.Add($"</g>");
        }
        s.Add($"</g>");
    }

    private static void Frame(Svg s, Sheet sheet, double k, double h, bool inch)
    {
        s.Add($"<rect class=\"frame\" x=\".5\" y=\".5\" width=\"{Width - 1}\" height=\"{h - 1}\"/><g class=\"ladder-part\">");
        var step = inch ? 25.4 / 2 : 10;
        for (var n = 1; n * step <= sheet.PaperWidthMm; n++)
        {
            var big = inch ? n % 12 == 0 : n % 10 == 0;
            s.Line(
                "frame-tick",
                n * step * k,
                0,
                n * step * k,
                big ? -8
                    : n % (inch ? 2 : 5) == 0 ? -5
                    : -3
            );
        }
        for (var n = 1; n * step <= sheet.PaperHeightMm; n++)
        {
            var big = inch ? n % 12 == 0 : n % 10 == 0;
            s.Line(
                "frame-tick",
                Width,
                n * step * k,
                Width
                    + (
                        big ? 8
                        : n % (inch ? 2 : 5) == 0 ? 5
                        : 3
                    ),
                n * step * k
            );
            if (n % (inch ? 12 : 20) == 0)
                s.Text("ladder-num lead-num", Width + 12, (n * step * k) + 5, Say.Number(inch ? n / 2.0 : n * step));
        }
        s.Add($"</g>");
    }

    /// <summary>Heads as drawn on the left, the card's in blue on the right, from one crown.</summary>
    private static void HeadLadder(Svg s, Sheet sheet, PoseCard? card, double k)
    {
        if (!sheet.Landmarks.TryGetValue("crown", out var crown) || !sheet.Landmarks.TryGetValue("chin", out var chin))
            return;
        var soles = sheet.Landmarks.Where(l => l.Key.StartsWith("sole", StringComparison.Ordinal)).Select(l => l.Value.Y).ToList();
        if (soles.Count == 0)
            return;
        double top = crown.Y * k,
            foot =
                (
                    sheet.StandingLeg is { } leg && sheet.Landmarks.TryGetValue("sole." + leg, out var standing)
                        ? standing.Y
                        : soles.Average()
                ) * k,
            head = (chin - crown).Length * k;
        if (head < 8 || foot - top < head)
            return;
        var heads = (foot - top) / head;
        s.Add($"<g class=\"ladder-part ladder-heads\">")
            .Text("ladder-word", -46, top - 12, "drawn", "end")
            .Line("ladder-drawn", -45.5, top, -45.5, foot);
        for (var n = 0; n <= heads * 2; n++)
        {
            var y = top + (n * head / 2);
            s.Line("ladder-drawn", -45.5, y, -45.5 - (n % 2 == 0 ? 9 : 5), y);
            if (n % 2 == 0 && n > 0)
                s.Text("ladder-num", -59, y + 5, Say.Number(n / 2), "end");
        }
        s.Text("ladder-num", -46, foot + 19, Say.Fixed(heads, 2), "end");
        s.Line("ladder-carry", -45, top, crown.X * k, top).Line("ladder-carry", -45, foot, Width, foot);
        if (card?.Heads is { } read)
        {
            var unit = (foot - top) / read;
            s.Text("ladder-word blue", -34, top - 12, "card").Line("ladder-card", -40.5, top, -40.5, foot);
            for (var n = 0; n <= read * 2; n++)
            {
                var y = top + (n * unit / 2);
                s.Line("ladder-card-tick", -40.5, y, -40.5 + (n % 2 == 0 ? 9 : 5), y);
                if (n % 2 == 0 && n > 0)
                    s.Text("ladder-num blue", -27, y + 5, Say.Number(n / 2));
            }
            s.Text("ladder-num blue", -38, foot + 19, Say.Fixed(read, 2));
        }
        s.Add($"</g>");
    }

    /// <summary>A head's own levels on the left: crown to chin, halves and thirds ticked, what is drawn carried across.</summary>
    private static void FaceLadder(Svg s, Sheet sheet, double k)
    {
        if (!sheet.Landmarks.TryGetValue("crown", out var crown) || !sheet.Landmarks.TryGetValue("chin", out var chin) || chin.Y <= crown.Y)
            return;
        double top = crown.Y * k,
            foot = chin.Y * k;
        s.Add($"<g class=\"ladder-part ladder-heads\">")
            .Text("ladder-word", -62, top - 12, "head", "middle")
            .Line("ladder-drawn", -62.5, top, -62.5, foot);
        foreach (var (share, name) in new[] { (0.0, ""), (1 / 3.0, "⅓"), (0.5, "½"), (2 / 3.0, "⅔"), (1, "") })
        {
            var y = top + (share * (foot - top));
            s.Line("ladder-drawn", -62.5, y, share is 0 or 1 or 0.5 ? -71.5 : -67.5, y);
            if (name != "")
                s.Text("ladder-num", -73, y + 5, name, "end");
        }
        foreach (
            var (id, name) in new[]
            {
                ("hairline", "hairline"),
                ("brow", "brow"),
                ("eye-inner.R", "eyes"),
                ("nosebase", "nose"),
                ("lip-slit", "mouth"),
            }
        )
        {
            if (!sheet.Landmarks.TryGetValue(id, out var at))
                continue;
            s.Line("ladder-carry", -62, at.Y * k, at.X * k, at.Y * k).Text("ladder-word", -58, (at.Y * k) - 4, name);
        }
        s.Add($"</g>");
    }

    /// <summary>What is outside, drawn as it stands in chalk, and where it should be in blue.</summary>
    private static void Off(Svg s, Sheet sheet, IReadOnlyList<Finding> findings, PoseCard? card, double k, Figures.LaidReference? laid)
    {
        foreach (var f in findings.Where(f => f.Verdict is Verdict.Outside or Verdict.Pushed && f.FollowsFrom is null))
        {
            var ids = f.Landmarks.Where(sheet.Landmarks.ContainsKey).ToList();
            var p = ids.Select(l => sheet.Landmarks[l] * k).ToList();
            if (p.Count == 0)
                continue;
            switch (f.Measure.Mark)
            {
                case Mark.Reference when laid?.Fit is { } over && p.Count == 2:
                    Edge(s, "over-outside", p[0], p[1], 1, ids.Take(2));
                    if (laid.Seen.Landmarks[f.Landmarks[0]] is { } ra && laid.Seen.Landmarks[f.Landmarks[1]] is { } rb)
                        Edge(s, "over-reference", over.Map(ra) * k, over.Map(rb) * k, 1);
                    break;
                case Mark.Bracket:
                    var (c, n) = (sheet.Landmarks["crown"] * k, sheet.Landmarks["chin"] * k);
                    var x = Math.Max(c.X, n.X) + ((n - c).Length * 0.52);
                    foreach (var css in new[] { "over-halo", "over-bracket" })
                        s.Add($"<path class=\"{css}\" d=\"M{x - 5} {c.Y}H{x}V{n.Y}H{x - 5}\"/>");
                    break;
                case Mark.Direction when p.Count >= 2:
                    Edge(s, "over-outside", p[0], p[1], 1.45, ids.Take(2));
                    if (f.Expected is { } e && f.Against != Against.Canon)
                    {
                        var (mid, half) = (Vec2.Mid(p[0], p[1]), (p[1] - p[0]).Length * 0.72);
                        var (sin, cos) = Math.SinCos(e * Math.PI / 180);
                        Edge(s, "over-reference", mid - (new Vec2(sin, -cos) * half), mid + (new Vec2(sin, -cos) * half), 1);
                    }
                    break;
                case Mark.Plumb when sheet.Landmarks.TryGetValue("pit", out var pit):
                    var foot =
                        sheet
                            .Landmarks.Where(l => l.Key.StartsWith("sole", StringComparison.Ordinal))
                            .Select(l => l.Value.Y)
                            .DefaultIfEmpty(sheet.PaperHeightMm * 0.95)
                            .Max() * k;
                    s.Line("over-halo", pit.X * k, pit.Y * k, pit.X * k, foot)
                        .Line("over-outside", pit.X * k, pit.Y * k, pit.X * k, foot)
                        .Add($"<path class=\"over-arrow\" d=\"M{(pit.X * k) - 4.5} {foot - 10}h9l-4.5 10z\"/>");
                    break;
                case Mark.Level:
                    var level = f.Measure.At.Where(sheet.Landmarks.ContainsKey).Select(l => sheet.Landmarks[l] * k).ToList();
                    if (level.Count >= 2)
                        Edge(s, "over-outside", level[0], level[1], 1.6);
                    break;
                default:
                    if (p.Count >= 2)
                        Edge(s, "over-outside", p[0], p[1], 1, ids.Take(2));
                    break;
            }
        }
    }

    /// <param name="ends">Landmarks at its ends: the line goes along while one of them is dragged.</param>
    private static void Edge(Svg s, string css, Vec2 a, Vec2 b, double grow, IEnumerable<string>? ends = null)
    {
        var mid = Vec2.Mid(a, b);
        (a, b) = (mid + ((a - mid) * grow), mid + ((b - mid) * grow));
        if (ends is not null)
            s.Add($"<g data-ends=\"{string.Join(' ', ends)}\" data-grow=\"{grow}\">");
        s.Line("over-halo", a.X, a.Y, b.X, b.Y).Line(css, a.X, a.Y, b.X, b.Y);
        if (ends is not null)
            s.Add($"</g>");
    }

    private static void Landmark(Svg s, Sheet sheet, string id, Vec2 at, double k, bool editable, bool chosen)
    {
        var name = LandmarkIds.Name(id);
        var source = SheetMarks.SourceOf(sheet, id);
        var (by, told) = source switch
        {
            MarkSource.Staff => ("staff", "placed by the instructor"),
            MarkSource.Student => ("student", "placed by the student"),
            _ => ("ink", "proposed from the ink"),
        };
        // What only the ink told moves along as others are placed: a place that somebody could clash with it hasn't.
        var seen = source == MarkSource.Ink ? "" : $"{at.X} {at.Y}";
        s.Add($"<g class=\"landmark by-{by}{(chosen ? " chosen" : "")}\" data-id=\"{id}\" data-name=\"{name}\" data-by=\"{by}\" ")
            .Add($"data-at=\"{seen}\" transform=\"translate({at.X * k} {at.Y * k})\"");
        if (editable)
            s.Add($" tabindex=\"0\" role=\"button\" aria-label=\"{name}, {told}: drag it, or move it with the arrow keys\"");
        s.Add($">");
        if (source == MarkSource.Ink && sheet.Fit?.Marks.GetValueOrDefault(id) is { } mark)
            s.Add($"<circle class=\"reach{(mark.Sure ? "" : " wide")}\" r=\"{Math.Min(60, mark.R90 * k)}\"/>");
        foreach (var css in new[] { "halo", "cross" })
            s.Add($"<path class=\"{css}\" d=\"M-6 0h4M2 0h4M0-6v4M0 2v4\"/>");
        if (editable)
            s.Add($"<circle class=\"hit\" r=\"9\"/>");
        s.Add($"</g>");
    }
}
