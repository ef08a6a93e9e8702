using Microsoft.AspNetCore.Html;
using MintHarbor.Core;
using MintHarbor.Core.Projects;

namespace MintHarbor.Web.Drawing;

/// <summary>How a stage stands on somebody's way.</summary>
public enum StageStand
{
    Done,
    Open,
    Shut,
}

/// <summary>A project's stages by their minutes, to scale: what is done is filled, a gate is a post before its stage, the bob hangs where the
/// work stands.</summary>
public static class StageStrip
{
    private const double Width = 888,
        Top = 44,
        Foot = Top + 34;

    /// <summary>A plan by its shares, before it has dates.</summary>
    public static HtmlString Draw(ProjectTemplate plan) =>
        Draw(plan, [.. plan.Stages.Select(s => new StageDate(s.Id, Math.Clamp(s.Share, 0, 100), default, default))], null, false);

    /// <param name="stands">How each stage stands; null where nobody's way is meant.</param>
    public static HtmlString Draw(ProjectTemplate plan, IReadOnlyList<StageDate> dates, IReadOnlyList<StageStand>? stands = null) =>
        Draw(plan, dates, stands, true);

    private static HtmlString Draw(ProjectTemplate plan, IReadOnlyList<StageDate> dates, IReadOnlyList<StageStand>? stands, bool dated)
    {
        var total = Math.Max(1, dates.Sum(d => d.Minutes));
        var s = new Svg().Add(
            $"<svg class=\"strip\" viewBox=\"0 0 {Width} {Foot + (dated ? 34 : 12)}\" role=\"img\" aria-label=\"{System.Net.WebUtility.HtmlEncode(Describe(plan, dates, stands, dated))}\">"
        );
        double at = 0;
        // A name that has no room beside the last stands a row higher.
        double[] taken = [-1, -1];
        for (var n = 0; n < dates.Count; n++)
        {
            double x = at * Width / total,
                w = dates[n].Minutes * Width / total;
            s.Add(
                $"<rect class=\"{(stands?[n] == StageStand.Done ? "strip-pose" : "strip-object")}\" x=\"{x}\" y=\"{Top}\" width=\"{w}\" height=\"{Foot - Top}\"/>"
            );
            if (w > 34)
                s.Text("strip-minutes", x + (w / 2), Foot - 11, Say.Number(dates[n].Minutes), "middle");
            Name(s, plan.Stages[n].Name, x, taken);
            if (plan.Stages[n].HasGate)
                Gate(s, x, stands?[n]);
            at += dates[n].Minutes;
        }
        s.Line("strip-base", 0, Foot + 0.5, Width, Foot + 0.5);
        if (dated)
            Days(s, dates, total);
        if (stands?.ToList().FindIndex(x => x != StageStand.Done) is >= 0 and var here)
        {
            var x = dates.Take(here).Sum(d => d.Minutes) * Width / total;
            s.Add($"<rect class=\"strip-run\" x=\"0\" y=\"{Foot - 1.5}\" width=\"{x}\" height=\"4\"/>");
            s.Add($"{Marks.Bob(x + (dates[here].Minutes * Width / total / 2), Foot + 4)}");
        }
        return s.Add($"</svg>").Html();
    }

    private static void Name(Svg s, string name, double x, double[] taken)
    {
        var wide = name.Length * 7.4;
        var at = Math.Min(x + 2, Math.Max(0, Width - wide));
        var row = taken[0] <= at ? 0 : 1;
        s.Text("strip-label", at, Top - 9 - (17 * row), name);
        taken[row] = at + wide + 8;
    }

    /// <summary>A post before the stage: a dot on it where the gate is open, an open square where it is shut, bare where nobody stands.</summary>
    private static void Gate(Svg s, double x, StageStand? stand)
    {
        s.Line("strip-base", x, Top - 5, x, Foot);
        if (stand == StageStand.Shut)
            s.Add($"<rect class=\"sh-blocked\" x=\"{x - 4}\" y=\"{Top + 5}\" width=\"8\" height=\"8\"/>");
        else if (stand is not null)
            s.Add($"<circle class=\"sh-holds\" cx=\"{x}\" cy=\"{Top + 9}\" r=\"4.5\"/>");
    }

    /// <summary>The day by which a stage is done, under its end; days that would touch are left out, the last never.</summary>
    private static void Days(Svg s, IReadOnlyList<StageDate> dates, double total)
    {
        var room = Width;
        double end = total;
        for (var n = dates.Count - 1; n >= 0; n--)
        {
            var x = end * Width / total;
            end -= dates[n].Minutes;
            s.Line("strip-tick", x - 0.5, Foot, x - 0.5, Foot + 9);
            if (x > room || (x < 60 && n < dates.Count - 1))
                continue;
            s.Text("strip-time", x, Foot + 26, dates[n].Due.ToString("d MMM", System.Globalization.CultureInfo.InvariantCulture), "end");
            room = x - 62;
        }
    }

    private static string Describe(ProjectTemplate plan, IReadOnlyList<StageDate> dates, IReadOnlyList<StageStand>? stands, bool dated) =>
        "Stages: "
        + string.Join(
            ", ",
            plan.Stages.Zip(dates)
                .Select(
                    (x, n) =>
                        $"{x.First.Name} {x.Second.Minutes} {(dated ? $"min by {Say.Date(x.Second.Due)}" : "%")}{(stands is null ? "" : $" {stands[n].ToString().ToLowerInvariant()}")}"
                )
        );
}
