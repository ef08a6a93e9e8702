using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Technique;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>Landmarks, remarks, release and answer of a sheet that has been taken in (<see cref="IntakeActions"/>).</summary>
/// <param name="by">Whose hand it is where nobody visits, as when the demo is laid down.</param>
public sealed class SheetActions(HarborContext db, IClock clock, FitActions fits, string? by = null)
{
    public const int LongestText = 400;
    private const int MostUndo = 60;

    /// <summary>Places or moves one landmark, the student's or staff's: the other's stays as it is. A place off the sheet is refused.</summary>
    public Task Place(Sheet sheet, Course course, string id, Vec2 at, bool staff = false) =>
        Place(sheet, course, new Dictionary<string, Vec2> { [id] = at }, staff);

    /// <summary>Places several at once.</summary>
    public async Task Place(Sheet sheet, Course course, IReadOnlyDictionary<string, Vec2> marks, bool staff = false)
    {
        foreach (var (id, at) in marks)
            Check(sheet, id, at);
        Remember(sheet, staff);
        var placed = new Dictionary<string, Placement>(Of(sheet, staff));
        foreach (var (id, at) in marks)
            placed[id] = new(new(Math.Round(at.X, 2), Math.Round(at.Y, 2)), Hand, clock.GetCurrentInstant());
        Put(sheet, staff, placed);
        await Fitted(sheet, course);
    }

    private static void Check(Sheet sheet, string id, Vec2 at)
    {
        if (!LandmarkIds.Exists(id))
            throw new InputException($"unknown landmark '{id}'", "id", "a landmark of the table");
        if (!at.IsFinite || at.X < 0 || at.Y < 0 || at.X > sheet.PaperWidthMm || at.Y > sheet.PaperHeightMm)
            throw new InputException(
                "the landmark lies off the sheet",
                "at",
                $"0 to {sheet.PaperWidthMm:0} × 0 to {sheet.PaperHeightMm:0} mm"
            );
    }

    private string Hand => Visit.Now?.Name ?? by ?? "";

    private static Dictionary<string, Placement> Of(Sheet sheet, bool staff) => staff ? sheet.ByStaff : sheet.ByStudent;

    private static void Put(Sheet sheet, bool staff, Dictionary<string, Placement> placed)
    {
        if (staff)
            sheet.ByStaff = placed;
        else
            sheet.ByStudent = placed;
    }

    private async Task Fitted(Sheet sheet, Course course)
    {
        await fits.Changed(sheet, course);
        await Saved(sheet);
    }

    /// <summary>Marks a departure from the canon as the sitter's own, or takes the mark back.</summary>
    public async Task Observe(Sheet sheet, string key, bool on)
    {
        if (key.Length is 0 or > 120)
            throw new InputException("no such finding", "key", "a finding of this sheet");
        sheet.Observed = on ? [.. sheet.Observed.Append(key).Distinct()] : [.. sheet.Observed.Where(k => k != key)];
        await Saved(sheet);
    }

    /// <summary>Holds the sheet against a view of the studio figure, or against none.</summary>
    public async Task Hold(Sheet sheet, Course course, ReferenceChoice? choice)
    {
        if (choice is not null)
        {
            if (sheet.Subject == "head")
                throw new InputException("a head is held against its school, not against a figure", "reference", "a drawing of a figure");
            new Core.Figure.Seat(choice.Azimuth, choice.Distance, choice.EyeHeight).Checked("reference");
            Core.Figure.FigureCatalogue.Body(choice.Body);
        }
        sheet.Reference = choice;
        await Fitted(sheet, course);
    }

    /// <summary>Takes back what was placed; the ink's own word stands again.</summary>
    public async Task Remove(Sheet sheet, Course course, string id, bool staff = false)
    {
        if (!Of(sheet, staff).ContainsKey(id))
            return;
        Remember(sheet, staff);
        Put(sheet, staff, Of(sheet, staff).Where(l => l.Key != id).ToDictionary());
        await Fitted(sheet, course);
    }

    public async Task UndoLandmark(Sheet sheet, Course course, bool staff = false)
    {
        if (sheet.LandmarkUndo.Count == 0)
            return;
        var now = Of(sheet, staff);
        Put(
            sheet,
            staff,
            sheet
                .LandmarkUndo[^1]
                .ToDictionary(
                    p => p.Key,
                    p => now.TryGetValue(p.Key, out var same) && same.At == p.Value ? same : new(p.Value, Hand, clock.GetCurrentInstant())
                )
        );
        sheet.LandmarkUndo = [.. sheet.LandmarkUndo.SkipLast(1)];
        await Fitted(sheet, course);
    }

    private static void Remember(Sheet sheet, bool staff) =>
        sheet.LandmarkUndo = [.. sheet.LandmarkUndo.TakeLast(MostUndo - 1), Of(sheet, staff).ToDictionary(p => p.Key, p => p.Value.At)];

    private Task Saved(Sheet sheet)
    {
        (sheet.SavedAt, sheet.SavedBy, sheet.SavedIn) = (clock.GetCurrentInstant(), Hand, Visit.Now?.SignIn);
        return db.SaveChangesAsync();
    }

    /// <summary>The student says the question and the review of a sheet that is not handed in, as after it was taken at the wall.</summary>
    public Task Ask(Sheet sheet, string? question, string? review)
    {
        if (sheet.State != SheetState.Placing)
            throw new InputException("the sheet is handed in", "Question", "a sheet that is not handed in");
        IntakeActions.CheckWords(question, review);
        (sheet.Question, sheet.SelfReview) = (question!.Trim(), review!.Trim());
        return Saved(sheet);
    }

    /// <summary>The student hands the placed sheet in; a redo marks the sheet it answers.</summary>
    public async Task HandIn(Sheet sheet)
    {
        if (sheet.State != SheetState.Placing)
            return;
        IntakeActions.CheckWords(
            sheet.Question == IntakeActions.NotAsked ? null : sheet.Question,
            sheet.SelfReview == IntakeActions.NotReviewed ? null : sheet.SelfReview
        );
        sheet.State = SheetState.Waiting;
        sheet.LandmarkUndo = [];
        sheet.SubmittedAt = clock.GetCurrentInstant();
        if (sheet.SetId is { } set)
        {
            // The rest of the set stays beside the one that is asked about.
            foreach (
                var other in await db
                    .Sheets.Where(s =>
                        s.SetId == set && s.StudentId == sheet.StudentId && s.Id != sheet.Id && s.State == SheetState.Placing
                    )
                    .ToListAsync()
            )
                other.State = SheetState.Kept;
        }
        if (sheet.RedoOfId is { } id)
        {
            var before = await db.Sheets.SingleAsync(s => s.Id == id);
            before.State = SheetState.Redone;
        }
        await db.SaveChangesAsync();
    }

    public Task AddFault(Course course, Sheet sheet, string faultId, Vec2? spot)
    {
        var fault = course.Shelf.Fault(faultId)
            ?? throw new InputException($"unknown fault '{faultId}'", "fault", "a fault of the library");
        return Add(sheet, Remark.FromFault(NewId(sheet), fault, spot));
    }

    /// <summary>A check of anatomy is off on this drawing: a remark with its place, both signs and the remedy. Said twice, it stands once.</summary>
    /// <param name="spot">Where it lies on the sheet.</param>
    public Task AddCheck(Course course, Sheet sheet, CheckOn on, Vec2? spot)
    {
        if (sheet.Remarks.Any(r => r.Check == on.Key))
            return Task.CompletedTask;
        var fault = course.Shelf.Fault(on.Check.Fault) ?? Faults.Find(on.Check.Fault)!;
        sheet.Checked = sheet.Checked.Where(c => c.Key != on.Key).ToDictionary();
        return Add(sheet, Remark.FromCheck(NewId(sheet), on, fault, spot));
    }

    /// <summary>A check of anatomy holds, is skipped, or (null) is open again.</summary>
    public Task Check(Sheet sheet, CheckOn on, CheckAnswer? answer)
    {
        if (sheet.Remarks.Any(r => r.Check == on.Key))
            throw new InputException("a remark says that it is off", "check", "the remark dropped first");
        var others = sheet.Checked.Where(c => c.Key != on.Key);
        sheet.Checked = (answer is { } says ? others.Append(new(on.Key, says)) : others).ToDictionary();
        return Saved(sheet);
    }

    public Task AddFinding(SheetContext context, Finding finding) =>
        Add(
            context.Sheet,
            Remark.FromFinding(NewId(context.Sheet), finding, context.Place(finding), context.Course.Shelf.Fault(finding.Fault?.Id))
        );

    /// <summary>What the ink says of technique, as a remark: its number, with principle, remedy and drill of the fault that its rule names.</summary>
    public Task AddTechnique(Course course, Sheet sheet, TechniqueFinding finding)
    {
        var fault = course.Shelf.Fault(finding.Rule.Fault);
        return Add(
            sheet,
            new(
                NewId(sheet),
                fault?.Family ?? finding.Rule.Family,
                fault?.Where ?? "whole sheet",
                finding.Says,
                fault?.Principle ?? "",
                fault?.Remedy ?? "",
                null,
                null,
                fault?.Drill,
                fault?.Id,
                null,
                Key: finding.Rule.Id
            )
        );
    }

    /// <summary>Takes remarks in beside those that stand; one that says the same stays once.</summary>
    public async Task TakeIn(Sheet sheet, IReadOnlyList<Remark> remarks)
    {
        foreach (var text in remarks.SelectMany(r => new[] { r.Where, r.What, r.Why, r.Next }))
            if (text.Length > LongestText)
                throw new InputException($"a remark of {text.Length} letters", "file", $"up to {LongestText} letters a field");
        var all = sheet.Remarks;
        var first = int.Parse(NewId(sheet)[1..], System.Globalization.CultureInfo.InvariantCulture);
        var more = remarks
            .Where(r => all.All(x => x.Fingerprint != r.Fingerprint))
            .DistinctBy(r => r.Fingerprint)
            .Select((r, n) => r with { Id = $"r{first + n}" });
        await Write(sheet, [.. all, .. more]);
    }

    public Task AddHolds(Sheet sheet) =>
        Add(sheet, new(NewId(sheet), Core.Measuring.Family.LineAndHand, "", "", "", "", null, null, null, null, null, Holds: true));

    public Task AddOwn(Sheet sheet) =>
        Add(sheet, new(NewId(sheet), Core.Measuring.Family.Proportion, "", "", "", "", null, null, null, null, null));

    private Task Add(Sheet sheet, Remark remark)
    {
        var chosen = sheet.Remarks.Count(r => r.Priority is not null);
        if (!remark.Holds && chosen < Priorities.Most)
            remark = remark with { Priority = chosen + 1 };
        return Write(sheet, [.. sheet.Remarks, remark]);
    }

    public async Task ChangeRemark(Sheet sheet, string id, Func<Remark, Remark> change)
    {
        if (sheet.Remarks.All(r => r.Id != id))
            throw new InputException("that remark is gone", "remark", "a remark of this sheet");
        var remarks = sheet.Remarks.Select(r => r.Id == id ? change(r) : r).ToList();
        foreach (var text in remarks.SelectMany(r => new[] { r.Where, r.What, r.Why, r.Next }))
            if (text.Length > LongestText)
                throw new InputException($"a remark of {text.Length} letters", "remark", $"up to {LongestText} letters a field");
        if (remarks.Count(r => r.Priority is not null) > Priorities.Most)
            throw new InputException("three priorities stand already", "priority", "at most three: take one away first");
        await Write(sheet, remarks);
    }

    public Task DropRemark(Sheet sheet, string id) => Write(sheet, [.. sheet.Remarks.Where(r => r.Id != id)]);

    private Task Write(Sheet sheet, IReadOnlyList<Remark> remarks)
    {
        if (sheet.ReleasedAt is not null)
            throw new InputException("the critique is released; it stays as the student read it", "remark", "a sheet not yet released");
        sheet.Remarks = [.. Priorities.InOrder(remarks)];
        if (sheet.State == SheetState.Waiting)
            sheet.State = SheetState.Drafted;
        return Saved(sheet);
    }

    private static string NewId(Sheet sheet) =>
        "r" + (1 + sheet.Remarks.Select(r => int.TryParse(r.Id[1..], out var n) ? n : 0).DefaultIfEmpty(0).Max());

    /// <summary>Gives the critique to the student, with the drills it prescribes and a mail.</summary>
    public async Task Release(Sheet sheet, Course course, Person student, PracticeActions practice)
    {
        if (sheet.ReleasedAt is not null)
            return;
        if (sheet.State == SheetState.Placing)
            throw new InputException("the sheet is not handed in yet", "release", "a sheet that is handed in");
        if (sheet.State == SheetState.Example)
            throw new InputException("an example is nobody's work", "release", "a student's sheet");
        var blocking = Priorities.Blocking(sheet.Remarks);
        if (blocking.Count > 0)
            throw new InputException(string.Join(" ", blocking), "release", "remarks that each have a place and a next step");
        var now = clock.GetCurrentInstant();
        (sheet.ReleasedAt, sheet.JudgedBy) = (now, course.SchoolOf(sheet.Subject));
        sheet.State = SheetState.Released;
        db.Outbox.Add(
            new()
            {
                CourseId = course.Id,
                To = student.Email!,
                Subject = $"Your critique of sheet {sheet.Code}",
                Body = $"{student.Name}, your critique is ready.",
                Link = $"/courses/{course.Id}/critique/{sheet.Id}",
                SentAt = now,
            }
        );
        // Released, mailed and prescribed in one: a critique is never out with its drills missing.
        await using var own = db.Database.CurrentTransaction is null ? await db.Database.BeginTransactionAsync() : null;
        await db.SaveChangesAsync();
        foreach (var drill in sheet.Remarks.Where(r => r.Priority is not null && r.Drill is not null).Select(r => r.Drill!).Distinct())
            await practice.Assign(
                course,
                [student.Id],
                null,
                drill,
                2,
                now + Duration.FromDays(7),
                $"from the critique of {sheet.Code}",
                sheet.Id
            );
        if (own is not null)
            await own.CommitAsync();
    }

    public async Task Reply(Sheet sheet, string answer)
    {
        if (sheet.ReleasedAt is null)
            throw new InputException("there is no critique to answer yet", "Answer", "a released critique");
        if (string.IsNullOrWhiteSpace(answer))
            throw new InputException("the answer is empty", "Answer", "a line or two");
        if (answer.Length > LongestText)
            throw new InputException($"{answer.Length} letters", "Answer", $"up to {LongestText} letters");
        (sheet.Answer, sheet.AnsweredAt) = (answer.Trim(), clock.GetCurrentInstant());
        if (sheet.State == SheetState.Released)
            sheet.State = SheetState.Answered;
        await db.SaveChangesAsync();
    }
}
