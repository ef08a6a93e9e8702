using Microsoft.AspNetCore.Html;
using MintHarbor.Core;
using NodaTime;

namespace MintHarbor.Web.Drawing;

/// <summary>A student's term on one line of days: evenings, drills by how far off they were of what was allowed, sheets by the faults that
/// were named on them.</summary>
public static class TermChart
{
    /// <param name="Off">Lean and scatter together, over what counted as right when the round began: 1 is just right.</param>
    public sealed record DrillDot(LocalDate Day, string Drill, double Off);

    public sealed record SheetMark(LocalDate Day, string Code, int Faults, bool Critiqued);

    public sealed record EveningMark(LocalDate Day, bool There);

    private const double Width = 888,
        Left = 92,
        Right = 12,
        Evenings = 22,
        DrillTop = 44,
        DrillFoot = 154,
        SheetFoot = 236,
        Foot = 262,
        MostOff = 2.2,
        MostFaults = 6;

    public static HtmlString Draw(
        LocalDate from,
        LocalDate to,
        IReadOnlyList<EveningMark> evenings,
        IReadOnlyList<DrillDot> drills,
        IReadOnlyList<SheetMark> sheets
    )
    {
        var days = Math.Max(1, Period.DaysBetween(from, to));
        double X(LocalDate d) => Left + (Math.Clamp(Period.DaysBetween(from, d), 0, days) * (Width - Left - Right) / days);
        var s = new Svg().Add(
            $"<svg class=\"term-chart\" viewBox=\"0 0 {Width} {Foot + 6}\" role=\"img\" aria-label=\"{Describe(evenings, drills, sheets)}\">"
        );
        Months(s, from, to, X);
        s.Text("axis", 0, Evenings + 5, "evenings").Text("axis", 0, DrillFoot - 4, "drills").Text("axis", 0, SheetFoot - 2, "sheets");
        foreach (var e in evenings)
            if (e.There)
                s.Add($"<circle class=\"sh-holds\" cx=\"{X(e.Day)}\" cy=\"{Evenings}\" r=\"4.5\"/>");
            else
                s.Add($"<rect class=\"sh-blocked\" x=\"{X(e.Day) - 4.5}\" y=\"{Evenings - 4.5}\" width=\"9\" height=\"9\"/>");
        Drills(s, drills, X);
        Sheets(s, sheets, X);
        return s.Add($"</svg>").Html();
    }

    private static void Months(Svg s, LocalDate from, LocalDate to, Func<LocalDate, double> x)
    {
        s.Line("curve-axis", Left, SheetFoot + 0.5, Width - Right, SheetFoot + 0.5);
        double said = -100;
        for (var m = new LocalDate(from.Year, from.Month, 1); m <= to; m = m.PlusMonths(1))
        {
            var first = m < from ? from : m;
            s.Line("term-month", x(first), Evenings + 12, x(first), SheetFoot + 5);
            if (x(first) - said < 46)
                continue;
            s.Text("axis", x(first) + 3, Foot - 6, m.ToString(m.Month == 1 ? "MMM uuuu" : "MMM", null));
            said = x(first);
        }
    }

    /// <summary>Each drill's rounds, joined; under the line is right.</summary>
    private static void Drills(Svg s, IReadOnlyList<DrillDot> drills, Func<LocalDate, double> x)
    {
        double Y(double off) => DrillFoot - (Math.Min(off, MostOff) / MostOff * (DrillFoot - DrillTop));
        s.Add($"<rect class=\"curve-band\" x=\"{Left}\" y=\"{Y(1)}\" width=\"{Width - Left - Right}\" height=\"{DrillFoot - Y(1)}\"/>");
        s.Text("axis", Left - 6, Y(1) + 4, "just right", "end").Text("axis", Left - 6, Y(2) + 4, "twice off", "end");
        var kinds = drills.GroupBy(d => d.Drill).Select(k => k.OrderBy(d => d.Day).ToList()).ToList();
        foreach (var rounds in kinds)
            for (var n = 1; n < rounds.Count; n++)
                s.Line("curve-spread", x(rounds[n - 1].Day), Y(rounds[n - 1].Off), x(rounds[n].Day), Y(rounds[n].Off));
        // Over all lines, a name at each drill's last round, where the next one's doesn't lie on it.
        var named = new List<double>();
        foreach (var rounds in kinds)
        {
            var (endX, endY) = (x(rounds[^1].Day), Y(rounds[^1].Off));
            if (named.All(n => Math.Abs(n - endY) > 14))
                s.Text("axis", Math.Min(endX - 8, Width - Right), endY - 9, rounds[0].Drill.ToLowerInvariant(), "end");
            named.Add(endY);
        }
        foreach (var r in kinds.SelectMany(k => k))
        {
            var title = $"{r.Drill}: {Say.Number(r.Off, 1)} of what is right";
            s.Add($"<circle class=\"{(r.Off <= 1 ? "sh-holds" : "curve-dot")}\" cx=\"{x(r.Day)}\" cy=\"{Y(r.Off)}\" r=\"4\">");
            s.Add($"<title>{System.Net.WebUtility.HtmlEncode(title)}</title></circle>");
        }
    }

    /// <summary>A sheet is a stroke on the line, as high as its faults are many; an open ring where nothing was said of it yet.</summary>
    private static void Sheets(Svg s, IReadOnlyList<SheetMark> sheets, Func<LocalDate, double> x)
    {
        const double step = 9;
        foreach (var sheet in sheets)
        {
            var at = x(sheet.Day);
            var title = $"{sheet.Code}: {(sheet.Critiqued ? Say.Plural(sheet.Faults, "fault") + " named" : "nothing said yet")}";
            s.Add($"<g><title>{System.Net.WebUtility.HtmlEncode(title)}</title>");
            if (!sheet.Critiqued)
                s.Add($"<circle class=\"sh-unknown\" cx=\"{at}\" cy=\"{SheetFoot - 5}\" r=\"4.2\"/>");
            else if (sheet.Faults == 0)
                s.Add($"<circle class=\"sh-holds\" cx=\"{at}\" cy=\"{SheetFoot - 5}\" r=\"4.5\"/>");
            for (var n = 0; n < Math.Min(MostFaults, sheet.Critiqued ? sheet.Faults : 0); n++)
                s.Add(
                    $"<rect class=\"term-fault\" x=\"{at - 3.5}\" y=\"{SheetFoot - ((n + 1) * step)}\" width=\"7\" height=\"{step - 2}\"/>"
                );
            s.Add($"</g>");
        }
    }

    private static string Describe(IReadOnlyList<EveningMark> evenings, IReadOnlyList<DrillDot> drills, IReadOnlyList<SheetMark> sheets) =>
        $"The term: here at {evenings.Count(e => e.There)} of {evenings.Count} evenings; {drills.Count(d => d.Off <= 1)} of {Say.Plural(drills.Count, "round")} of drills right; {Say.Plural(sheets.Count, "sheet")}, {sheets.Sum(s => s.Faults)} faults named.";
}
