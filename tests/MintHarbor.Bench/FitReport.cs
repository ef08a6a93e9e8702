using System.Globalization;

namespace MintHarbor.Bench;

/// <summary>The fit study as a table.</summary>
public static class FitReport
{
    private static string Share(int part, int of) => of == 0 ? "–" : (100.0 * part / of).ToString("0.0", CultureInfo.InvariantCulture);

    public static string Table(Dictionary<(int Condition, bool Faulty, int Answers), FitRow> rows, IReadOnlyList<string> conditions)
    {
        var lines = new List<string>
        {
            "| sheets | answers | not fitted | error, % of height: median, 9 in 10 | beyond tolerance a sheet | interval holds, %: clean, faulty | proportions found, % | directions found, % | of them judged, % | false, pointed at wrongly, % | clean sheets with an alarm | one cause named, % | one limb or the hips named, % |",
            "|---|---|---|---|---|---|---|---|---|---|---|---|---|",
        };
        for (var c = -1; c < conditions.Count; c++)
        {
            foreach (var answers in FitStudy.Answers)
            {
                FitRow Sum(Func<(int Condition, bool Faulty, int Answers), bool> of)
                {
                    var sum = new FitRow();
                    foreach (var (_, row) in rows.Where(r => r.Key.Answers == answers && (c < 0 || r.Key.Condition == c) && of(r.Key)))
                        sum.Add(row);
                    return sum;
                }
                FitRow all = Sum(_ => true),
                    clean = Sum(k => !k.Faulty),
                    faulty = Sum(k => k.Faulty);
                var fitted = Math.Max(1, all.Sheets - all.Unfitted);
                lines.Add(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"| {(c < 0 ? "all" : conditions[c])}, {all.Sheets} | {answers} | {all.Unfitted} | {all.Error(0.5):0.00}, {all.Error(0.9):0.00} | {(double)all.Beyond / fitted:0.00} | {Share(clean.Covered, clean.Marks)}, {Share(faulty.Covered, faulty.Marks)} | {Share(all.ProportionsFound, all.ProportionsDue)} of {all.ProportionsDue} | {Share(all.DirectionsFound, all.DirectionsDue)} of {all.DirectionsDue} | {Share(all.Judged, all.ProportionsDue + all.DirectionsDue)} | {Share(all.False, all.Right)}, {Share(all.Pointed, all.Right)} | {all.Alarms} of {all.Clean} | {Share(all.CausesNamed, all.CausesDue)} of {all.CausesDue} | {Share(all.LimbsNamed, all.LimbsDue)} of {all.LimbsDue} |"
                    )
                );
            }
        }
        return string.Join("\n", lines) + "\n";
    }
}
