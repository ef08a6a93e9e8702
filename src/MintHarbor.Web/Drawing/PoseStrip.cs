using Microsoft.AspNetCore.Html;
using MintHarbor.Core;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Sessions;
using NodaTime;

namespace MintHarbor.Web.Drawing;

/// <summary>The pose strip: minutes to scale, height by strain, rests hatched by hand, the now-line a plumb line with a bob.</summary>
public static class PoseStrip
{
    /// <param name="nowMinutes">Minutes of the meeting that have run; null when it isn't running.</param>
    /// <param name="small">The phone's strip: three labels, lower steps.</param>
    public static HtmlString Draw(
        IReadOnlyList<PlanItem> items,
        LocalTime starts,
        double? nowMinutes,
        string? nowSays,
        bool small = false,
        int? chosen = null,
        bool grips = false
    )
    {
        var total = items.Sum(i => i.Minutes);
        double width = small ? 358 : 888,
            step = small ? 9 : 17,
            top = small ? 25 : 40,
            foot = top + (5 * step),
            k = width / total;
        var s = new Svg().Add(
            $"<svg class=\"strip\" viewBox=\"0 0 {width} {foot + (small ? 28 : 36)}\" role=\"img\" aria-label=\"Pose strip: {Describe(items)}\">"
        );
        // Where nobody poses there is no strain to read off.
        var strains = !small && items.Any(i => i.Strains.Count > 0);
        if (strains)
            for (var h = 2; h <= 5; h++)
                s.Line("strip-level", 0, foot - (h * step) + 0.5, width, foot - (h * step) + 0.5);
        var labels = new List<(double X, string Text, string? Number)>();
        foreach (var (i, n) in items.Select((i, n) => (i, n)))
        {
            double x = i.At * k,
                w = i.Minutes * k;
            if (n == chosen)
                s.Add($"<rect class=\"strip-chosen\" x=\"{x}\" y=\"{top - 4}\" width=\"{w}\" height=\"{foot - top + 4}\"/>");
            Item(s, i, n, x, w, k, top, foot, step, small);
            labels.Add((x + (w / 2), i.Name, i.Period > 0 ? Say.Number(i.Period) : null));
        }
        if (strains)
            StrainWords(s, foot, step, items[0].Minutes * k);
        Labels(s, labels, small, top, items, width, k);
        double? nowAt = nowMinutes is { } now ? Math.Clamp(now, 0, total) * k : null;
        Axis(s, total, starts, width, foot, k, small, x => nowAt is { } at && nowSays is not null && Covers(at, x, width));
        if (grips)
            Grips(s, items, k, top, foot, width);
        if (nowAt is { } place)
            Now(s, place, foot, width, nowSays, small);
        return s.Add($"</svg>").Html();
    }

    /// <summary>One line of a term: poses, rests and review to a scale that all lines share, with a tick every half hour.</summary>
    /// <param name="longest">Minutes that fill the width.</param>
    public static HtmlString Row(IReadOnlyList<PlanItem> items, double longest)
    {
        const double width = 400,
            step = 8,
            top = 3,
            foot = top + (5 * step);
        var total = items.Sum(i => i.Minutes);
        var k = width / Math.Max(longest, total);
        var s = new Svg().Add(
            $"<svg class=\"strip\" viewBox=\"0 0 {width} {foot + 7}\" role=\"img\" aria-label=\"Pose strip: {Describe(items)}\">"
        );
        foreach (var (i, n) in items.Select((i, n) => (i, n)))
        {
            Item(s, i, n, i.At * k, i.Minutes * k, k, top, foot, step, small: true);
            if (i is { Kind: ItemKind.Exercise, Poses: 1 } && i.Minutes * k > 26)
                s.Text("strip-minutes", (i.At + (i.Minutes / 2)) * k, foot - 4, Say.Number(i.Minutes), "middle");
        }
        s.Line("strip-base", 0, foot + 0.5, total * k, foot + 0.5);
        for (var m = 0; m <= total; m += 30)
            s.Line("strip-tick", (m * k) + 0.01, foot, (m * k) + 0.01, foot + 6);
        return s.Add($"</svg>").Html();
    }

    /// <summary>What is taken hold of: a line by its body to move it, by its right edge to change its length.</summary>
    private static void Grips(Svg s, IReadOnlyList<PlanItem> items, double k, double top, double foot, double width)
    {
        for (var n = 0; n < items.Count; n++)
            s.Add(
                $"<rect class=\"strip-body\" data-line=\"{n}\" x=\"{items[n].At * k}\" y=\"{top}\" width=\"{items[n].Minutes * k}\" height=\"{foot - top + 11}\"/>"
            );
        for (var n = 0; n < items.Count - 1; n++)
            s.Add(
                $"<rect class=\"strip-edge\" data-edge=\"{n}\" data-minutes=\"{items[n].Minutes}\" data-step=\"{(items[n].Poses > 1 ? items[n].PoseMinutes : 1)}\" x=\"{(items[n].End * k) - 6}\" y=\"{top}\" width=\"12\" height=\"{foot - top + 11}\"/>"
            );
        s.Add(
            $"<rect class=\"strip-ghost\" data-ghost=\"\" data-scale=\"{k}\" x=\"0\" y=\"{top}\" width=\"0\" height=\"{foot - top}\" visibility=\"hidden\"/>"
        );
    }

    private static string Describe(IReadOnlyList<PlanItem> items) =>
        string.Join(", ", items.Select(i => $"{i.Name} {Say.Minutes(i.Minutes)}")).Replace("\"", "");

    private static void Item(Svg s, PlanItem i, int n, double x, double w, double k, double top, double foot, double step, bool small)
    {
        switch (i.Kind)
        {
            case ItemKind.Rest or ItemKind.Break:
                s.Add($"{Hatch.Draw(n + ((int)i.At * 31), x + 1.5, top + 1, w - 3, foot - top - 1, i.Kind == ItemKind.Break, small)}");
                break;
            case ItemKind.Review or ItemKind.StandBack:
                s.Add($"{Hatch.Stipple(x, foot - (2 * step), w, 2 * step)}");
                break;
            case ItemKind.Exercise when i.Posed:
                foreach (var run in i.PoseRuns())
                {
                    var h = TimingRules.Default.Limit(run.Strain).Height * step;
                    s.Add($"<rect class=\"strip-pose\" x=\"{run.At * k}\" y=\"{foot - h}\" width=\"{run.Minutes * k}\" height=\"{h}\"/>");
                }
                if (i.Poses == 1 && w > 30 && !small)
                    s.Text("strip-minutes", x + (w / 2), foot - 7, Say.Number(i.Minutes, 1), "middle");
                break;
            case ItemKind.Exercise:
                s.Add($"<rect class=\"strip-object\" x=\"{x}\" y=\"{foot - (2 * step)}\" width=\"{w}\" height=\"{2 * step}\"/>");
                if (w > 30 && !small)
                    s.Text("strip-minutes", x + (w / 2), foot - 7, Say.Number(i.Minutes, 1), "middle");
                break;
        }
    }

    private static void StrainWords(Svg s, double foot, double step, double room)
    {
        if (room < 52)
            return;
        foreach (var (h, word) in new[] { (2, "seated"), (3, "standing"), (4, "one leg"), (5, "raised") })
            s.Text("strip-strain", 0, foot - (h * step) + 14, word);
    }

    private static void Labels(
        Svg s,
        List<(double X, string Text, string? Number)> labels,
        bool small,
        double top,
        IReadOnlyList<PlanItem> items,
        double width,
        double k
    )
    {
        double free = -1;
        if (small)
        {
            foreach (
                var (word, match) in new (string, Func<PlanItem, bool>)[]
                {
                    ("short", i => i.Poses > 1 && i.Exercise == "gesture"),
                    ("mass", i => i.Exercise == "mass"),
                    ("long pose", i => i.Period > 0),
                }
            )
            {
                var fit = items.Where(match).ToList();
                if (fit.Count == 0)
                    continue;
                var x = (fit[0].At + ((fit[^1].End - fit[0].At) / 2)) * k;
                if (x - (word.Length * 3.6) < free)
                    continue;
                s.Text("strip-label", x, top - 8, word, "middle");
                free = x + (word.Length * 3.6) + 4;
            }
            return;
        }
        // A name that has no room beside the last stands a row higher; a sitting is known by its number.
        double[] taken = [-1, -1];
        foreach (var (x, text, number) in labels)
            _ =
                Put(x, text, 0)
                || (number is not null && Put(x, number, 0))
                || Put(x, text, 1)
                || (number is not null && Put(x, number, 1));

        bool Put(double x, string text, int row)
        {
            var half = text.Length * 3.7;
            var at = Math.Clamp(x, half, width - half);
            if (at - half < taken[row])
                return false;
            s.Text("strip-label", at, top - 10 - (15 * row), text, "middle");
            taken[row] = at + half + 6;
            return true;
        }
    }

    /// <param name="covered">Whether something else is written at a place.</param>
    private static void Axis(
        Svg s,
        double total,
        LocalTime starts,
        double width,
        double foot,
        double k,
        bool small,
        Func<double, bool> covered
    )
    {
        s.Line("strip-base", 0, foot + 0.5, width, foot + 0.5);
        for (var m = 0; m <= total; m++)
        {
            if (small && m % 5 != 0)
                continue;
            var h =
                m % 30 == 0 ? 11
                : m % 5 == 0 ? 6
                : 3;
            s.Line("strip-tick", (m * k) + 0.01, foot, (m * k) + 0.01, foot + (small ? h * 0.7 : h));
        }
        var each = small || total > 240 ? 60 : 30;
        var y = foot + (small ? 24 : 27);
        // The first and the last hour stand within the strip.
        void Hour(double at)
        {
            var inward =
                at == 0 ? 1
                : at >= (int)total ? -1
                : 0;
            if (!covered((at * k) + (inward * HalfTime)))
                s.Text("strip-time", at * k, y, Time(starts, at), new[] { "end", "middle", "start" }[inward + 1]);
        }
        for (var m = 0; m <= total; m += each)
            Hour(m);
        var rest = total % each;
        if (rest > 8 && rest * k > 84)
            Hour(total);
    }

    public static string Time(LocalTime starts, double minutes) =>
        starts.PlusMinutes((long)Math.Floor(minutes)).ToString("HH:mm", System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>What the now-line's words take beside it, and half of what an hour's face takes, in the strip's units.</summary>
    private const double NowWords = 162,
        HalfTime = 22;

    private static bool NowLeft(double x, double width) => x > width - NowWords - 8;

    /// <summary>Whether an hour's face about <paramref name="x"/> would stand under the now-line's bob or words.</summary>
    private static bool Covers(double now, double x, double width) =>
        NowLeft(now, width) ? x > now - NowWords - HalfTime && x < now + HalfTime : x < now + NowWords + HalfTime && x > now - HalfTime;

    private static void Now(Svg s, double x, double foot, double width, string? says, bool small)
    {
        s.Add($"<rect class=\"strip-run\" x=\"0\" y=\"{foot - 1.5}\" width=\"{x}\" height=\"4\"/>")
            .Line("strip-thread", x, small ? 0 : 2, x, foot + 4);
        s.Add($"{Marks.Bob(x, foot + 4, small ? 0.8 : 1.25)}");
        if (says is null)
            return;
        var left = NowLeft(x, width);
        s.Add($"<rect class=\"strip-clear\" x=\"{(left ? x - NowWords : x + 10)}\" y=\"{foot + 13}\" width=\"152\" height=\"19\"/>")
            .Text("strip-now", left ? x - 14 : x + 14, foot + 27, says, left ? "end" : "start");
    }
}

/// <summary>Hand-drawn hatching, stroke by stroke; its seed is the item, so it never flickers.</summary>
public static class Hatch
{
    public static HtmlString Draw(int seed, double x, double y, double w, double h, bool crossed, bool small = false)
    {
        var random = new SeededRandom(seed);
        Svg thin = new(),
            bold = new(),
            counter = new();
        const double lean = 0.55;
        var step = small ? 4.0 : 5.0;
        var n = 0;
        for (var c = x - (h * lean); c < x + w; c += step * random.Between(0.82, 1.18), n++)
            Stroke(n % 3 == 2 ? bold : thin, c, lean);
        if (crossed)
            for (var c = x; c < x + w + (h * lean); c += 2 * step * random.Between(0.82, 1.18))
                Stroke(counter, c, -lean);
        return new Svg()
            .Add(
                $"<path class=\"hatch\" d=\"{thin.ToString()}\"/><path class=\"hatch-bold\" d=\"{bold.ToString()}\"/>{(crossed ? $"<path class=\"hatch-cross\" d=\"{counter}\"/>" : "")}"
            )
            .Html();

        void Stroke(Svg to, double footX, double slope)
        {
            double low = y + h + random.Between(-2.6, 1.5),
                high = y - random.Between(-1.5, 2.6);
            double X(double at) => footX + (slope * (y + h - at));
            // Cut where the stroke leaves the item to the left or right.
            if (slope > 0)
            {
                if (X(low) < x)
                    low = y + h - ((x - footX) / slope);
                if (X(high) > x + w)
                    high = y + h - ((x + w - footX) / slope);
            }
            else
            {
                if (X(low) > x + w)
                    low = y + h - ((x + w - footX) / slope);
                if (X(high) < x)
                    high = y + h - ((x - footX) / slope);
            }
            if (low - high < 3)
                return;
            double mx = (X(low) + X(high)) / 2 + random.Between(-0.7, 0.7),
                my = (low + high) / 2;
            to.Add($"M{X(low):0.#} {low:0.#}Q{mx:0.#} {my:0.#} {X(high):0.#} {high:0.#}");
        }
    }

    public static HtmlString Stipple(double x, double y, double w, double h)
    {
        var s = new Svg().Add($"<path class=\"stipple\" d=\"");
        var row = 0;
        for (var py = y + 4; py < y + h; py += 4, row++)
        for (var px = x + 3 + (row % 2 * 4); px < x + w - 1; px += 8)
            s.Add($"M{px:0.#} {py:0.#}h.01");
        return s.Add($"\"/>").Html();
    }
}
