using MintHarbor.Core;
using MintHarbor.Core.Sessions;
using MintHarbor.Media;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Drawing;

namespace MintHarbor.Web.Papers;

/// <summary>The evening's printed pages: the timetable to pin up, and the model's sheet.</summary>
public sealed class Papers(IWebHostEnvironment web) : IDisposable
{
    private readonly Lazy<PrintFaces> faces = new(() => new(Path.Combine(web.WebRootPath, "lib", "print")));

    public byte[] Session(Course course, Meeting m)
    {
        var plan = m.Plan;
        var letters = PlanLetters.Of(plan.Items);
        var rows = plan
            .Items.Select(
                (i, k) =>
                    new PrintedRow(
                        PoseStrip.Time(m.StartsAt, i.At),
                        i.Poses > 1 ? $"{i.Poses} × {Say.Number(i.PoseMinutes, 1)}" : Say.Minutes(i.Minutes),
                        letters.TryGetValue(k, out var letter) ? $"{letter}  {i.Name}" : i.Name,
                        Wall(i),
                        i.Sheets > 0 ? Say.Plural(i.Sheets, "sheet") : "",
                        i.Kind is ItemKind.Rest or ItemKind.Break
                    )
            )
            .ToList();
        var notes = new List<string>
        {
            plan.Idea,
            $"Each: {string.Join(", ", plan.Paper.Select(p => $"{p.SheetsPerStudent} {p.Kind}"))}.",
            $"Bring: {Say.List(Materials.Bring(plan))}.",
            $"Label every sheet in its corner: meeting, letter, seat. {m.Number}-{letters.Values.FirstOrDefault() ?? "A"}3-7 is the third drawing of the first set, from seat 7.",
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
        notes.AddRange(Cautions.For(m.Request, plan).Where(c => !m.CautionsSeen.Contains(c.Id)).Select(c => c.Says));
        return SessionSheet.Draw(
            new(
                $"Meeting {m.Number}, {Words.Day(m.Date)}",
                $"{Words.Clock(m.StartsAt)}, {m.Minutes} min, {Words.Of(m.Request.Approach)}, {m.Request.Purpose.ToString().ToLowerInvariant()}, {Words.Of(m.Request.Model)}",
                $"{course.Name}{(course.Room == "" ? "" : ", " + course.Room)}",
                plan.Items,
                at => PoseStrip.Time(m.StartsAt, at),
                rows,
                notes,
                "The model's own word on comfort always wins."
            ),
            faces.Value
        );
    }

    public byte[] Model(Course course, Meeting m)
    {
        var posed = m.Plan.Items.Where(i => i.Posed || i.Kind is ItemKind.Rest or ItemKind.Break).ToList();
        var rows = posed
            .SelectMany(i =>
                !i.Posed
                    ? [new PrintedRow(PoseStrip.Time(m.StartsAt, i.At), Say.Minutes(i.Minutes), i.Name, "yours", "", true)]
                    : i.PoseRuns()
                        .Select(
                            (run, n) =>
                                new PrintedRow(
                                    PoseStrip.Time(m.StartsAt, run.At),
                                    Say.Minutes(run.Minutes),
                                    PoseLibrary.Name(run.PoseId ?? "", m.Request),
                                    $"{PoseLibrary.Held(run.PoseId ?? "", run.Strain, m.Request)}{Turned(i.Facings.ElementAtOrDefault(n))}",
                                    "",
                                    false
                                )
                        )
            )
            .ToList();
        var notes = new List<string> { ModelSheet.Greeting, ModelSheet.Comfort, ModelSheet.Care };
        if (m.Plan.Pay is { } pay)
            notes.Add(
                $"{Say.Fixed(pay.Amount / pay.Models, 2)} {pay.Currency} for {Say.Minutes(pay.PaidMinutes)}; {Say.Minutes(pay.PosedMinutes)} of them posed."
            );
        return SessionSheet.Draw(
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

    /// <summary>A turn of the stand in words, after a comma; nothing for the front.</summary>
    /// <param name="whose">"your" where the model reads it.</param>
    public static string Turned(double facing, string whose = "your") =>
        Math.Round(facing) switch
        {
            0 => "",
            90 => $", turned to {whose} left",
            -90 => $", turned to {whose} right",
            180 or -180 => ", turned to the back",
            var f => $", turned {Say.Number(Math.Abs(f))}° to {whose} {(f > 0 ? "left" : "right")}",
        };

    public static string Wall(PlanItem i) =>
        i.Kind switch
        {
            // First, for a line on paper is cut where it ends.
            ItemKind.Exercise when i.IsLong && Turned(i.Facings.FirstOrDefault(), "the model's") is { Length: > 2 } turned =>
                $"{turned[2..]}; {i.Catalogue!.Wall}",
            ItemKind.Exercise => i.Catalogue!.Wall,
            ItemKind.SetUp => "easels in a half ring, lamp 45° on the left",
            ItemKind.Rest => "robe and water; students shake out the arm",
            ItemKind.Break => "lamp off, boards turned upside down",
            ItemKind.StandBack => "look from three metres",
            ItemKind.Review => "all sheets on the wall, question first",
            _ => "dust wiped damp, sheets photographed",
        };

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
    public const string Care =
        "The room is warm and you have a private place to change. Nobody touches you and nobody photographs you. Faint or in pain: stop at once; the first-aider is in the house.";
}
