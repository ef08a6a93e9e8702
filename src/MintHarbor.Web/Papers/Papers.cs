using MintHarbor.Core;
using MintHarbor.Core.Canons;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Sessions;
using MintHarbor.Media;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Drawing;

namespace MintHarbor.Web.Papers;

/// <summary>The evening's printed pages: the timetable to pin up, and the model's sheet.</summary>
public sealed class Papers(IWebHostEnvironment web) : IPaperPrints, IDisposable
{
    private readonly Lazy<PrintFaces> faces = new(() => new(Path.Combine(web.WebRootPath, "lib", "print")));

    /// <summary>Drill sheets, a page each.</summary>
    /// <param name="link">The address where a photograph is handed in.</param>
    public byte[] Drills(IReadOnlyList<Core.DrillSheets.DrillSheet> sheets, string link) =>
        DrillSheetPrint.Pdf(sheets, faces.Value, _ => link);

    public PrintFaces Faces => faces.Value;

    public Core.Sheets.GreyImage Print(Core.DrillSheets.DrillSheet sheet) => DrillSheetPrint.Print(sheet, faces.Value);

    public byte[] Session(Course course, Meeting m)
    {
        var plan = m.Plan;
        var rows = m
            .Evening.Lines.Select(l => new PrintedRow(
                PoseStrip.Time(m.StartsAt, l.Item.At),
                l.Item.Poses > 1 ? $"{l.Item.Poses} × {Say.Number(l.Item.PoseMinutes, 1)}" : Say.Minutes(l.Item.Minutes),
                l.Item.Pose.IsNone ? l.Name : $"{l.Item.Pose}  {l.Name}",
                l.OnPaper,
                l.Item.Sheets > 0 ? Say.Plural(l.Item.Sheets, "sheet") : "",
                l.IsRest
            ))
            .ToList();
        var notes = new List<string>
        {
            plan.Idea,
            $"Each: {string.Join(", ", plan.Paper.Select(p => $"{p.SheetsPerStudent} {p.Kind}"))}.",
            $"Bring: {Say.List(Materials.Bring(course.Shelf.Materials, plan))}.",
            $"Label every sheet in its corner: meeting, letter, seat. {m.Number}-{plan.Items.FirstOrDefault(i => !i.Pose.IsNone)?.Pose.ToString() ?? "A"}3-7 is the third drawing of the first set, from seat 7.",
            "Scope by length: "
                + string.Join(
                    " ",
                    plan.Items.Where(i => i.Kind == ItemKind.Exercise && Scope.Asked(i.Catalogue!))
                        .Select(i => i.IsLong ? i.Minutes : i.PoseMinutes)
                        .Distinct()
                        .Order()
                        .Take(4)
                        .Select(l => $"{Say.Minutes(l)}: {char.ToLowerInvariant(Scope.Of(l)[0])}{Scope.Of(l)[1..]}")
                ),
        };
        notes.AddRange(Cautions.For(course.Shelf.Cautions, m.Request, plan).Where(c => !m.CautionsSeen.Contains(c.Id)).Select(c => c.Says));
        return SessionSheet.Draw(
            new(
                $"Meeting {m.Number}, {Words.Day(m.Date)}",
                $"{Words.Clock(m.StartsAt)}, {m.Minutes} min, {Words.Of(m.Request.Wish.Approach)}, {m.Request.Wish.Purpose.ToString().ToLowerInvariant()}, {Words.Of(m.Request.Wish.Model)}",
                $"{course.Name}{(course.Room == "" ? "" : ", " + course.Room)}",
                plan.Items,
                at => PoseStrip.Time(m.StartsAt, at),
                rows,
                notes,
                Subject.Of(m.Request.Wish.Model).Last
            ),
            faces.Value
        );
    }

    /// <param name="silhouettes">Outline of each pose of the evening, as SVG path data, by its id; a pose without one goes without.</param>
    public byte[] Model(Course course, Meeting m, IReadOnlyDictionary<string, Silhouette> silhouettes)
    {
        var rows = m
            .Evening.Lines.Where(l => l.Item.Posed || l.IsRest)
            .SelectMany(l =>
                !l.Item.Posed
                    ? [new StandRow(PoseStrip.Time(m.StartsAt, l.Item.At), Say.Minutes(l.Item.Minutes), l.Name, "yours", null)]
                    : l
                        .Item.PoseRuns()
                        .Select(
                            (run, n) =>
                                new StandRow(
                                    PoseStrip.Time(m.StartsAt, run.At),
                                    Say.Minutes(run.Minutes),
                                    l.Poses[n].Name,
                                    $"{l.Poses[n].Held}{Evening.Turned(l.Poses[n].Facing)}",
                                    silhouettes.GetValueOrDefault(l.Poses[n].Id)
                                )
                        )
            )
            .ToList();
        var notes = new List<string> { ModelSheet.Greeting, ModelSheet.Care };
        if (m.Request.Known.Who is { Ease: < 1 } who)
            notes.Add(ModelSheet.Eased(who));
        if (m.Plan.Pay is { } pay)
            notes.Add(
                $"{Say.Fixed(pay.Amount / pay.Models, 2)} {pay.Currency} for {Say.Minutes(pay.PaidMinutes)}; {Say.Minutes(pay.PosedMinutes)} of them posed."
            );
        return StandSheet.Draw(
            new(
                $"Poses for {Words.Day(m.Date)}",
                $"{Words.Clock(m.StartsAt)}, {m.Minutes} min, {Say.Number(m.Plan.PosedMinutes)} min posed",
                $"{course.Name}{(course.Room == "" ? "" : ", " + course.Room)}",
                m.Plan.Items,
                at => PoseStrip.Time(m.StartsAt, at),
                rows,
                notes,
                ModelSheet.Comfort
            ),
            faces.Value
        );
    }

    public byte[] Head(HeadModel head, HeadLevels levels, double turn, ConstructionPaper paper) =>
        ConstructionSheet.Head(head, levels, turn, paper, faces.Value);

    public byte[] Figure(Canon canon, ConstructionPaper paper) => ConstructionSheet.Figure(canon, paper, faces.Value);

    /// <summary>A critique to take home.</summary>
    /// <param name="numbers">What was measured, a sentence each.</param>
    public byte[] Critique(Course course, Sheet s, IReadOnlyList<string> numbers, byte[] flat, PaperSize paper) =>
        CritiquePrint.Draw(
            new(
                course.Name,
                s.Question,
                $"{s.Student.Name}, sheet {s.Code}, {course.Shelf.Exercise(s.Exercise)?.Name.ToLowerInvariant()}, {Words.When(s.SubmittedAt, course)}",
                s.SelfReview,
                [.. s.Remarks.OrderBy(r => r.Priority ?? 9).Select(Printed)],
                numbers,
                s.ReleasedAt is { } at ? $"Critique of {Words.When(at, course)}" : "A draft: not given out yet",
                flat,
                s.PaperWidthMm,
                s.PaperHeightMm
            ),
            paper,
            faces.Value
        );

    private static PrintedRemark Printed(Core.Critiques.Remark r)
    {
        var drill = Core.Practice.Drills.Find(r.Drill);
        (string Label, string Words)[] facts =
        [
            ("Where", r.Where),
            ("What", r.Priority is null ? "" : r.What),
            ("Why", r.Why),
            ("Drill", r.Priority is null || drill is null ? "" : $"{drill.Name.ToLowerInvariant()}, {drill.Minutes} min"),
        ];
        return new(r.Priority, r.Priority is null ? r.What : r.Next, [.. facts.Where(f => f.Words != "")], r.Spot);
    }

    public void Dispose()
    {
        if (faces.IsValueCreated)
            faces.Value.Dispose();
    }
}

/// <summary>What every model's sheet says.</summary>
public static class ModelSheet
{
    public const string Greeting =
        "Thank you for sitting. The poses, their lengths and what they are for have been chosen by the instructor, so that you need not think of any.";
    public const string Comfort = "Your own word on comfort always wins: ease a pose, change it or stop at any time, without a reason.";

    /// <summary>Why tonight's lengths are shorter, said kindly and without a reason.</summary>
    public static string Eased(Core.Sessions.ModelOfDay who) =>
        $"Tonight every pose is {Core.Sessions.ModelOfDay.Says(who.Ease)}, as you asked. Say so if it should be shorter still.";

    public const string Care =
        "The room is warm and you have a private place to change. Nobody touches you and nobody photographs you. Faint or in pain: stop at once; the first-aider is in the house.";
}
