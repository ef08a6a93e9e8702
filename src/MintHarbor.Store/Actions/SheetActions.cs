using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sheets;
using MintHarbor.Media;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>What a student says with a drawing.</summary>
public sealed record Submission(string Question, string SelfReview, string Exercise, string Pose, string? StandingLeg, string View, string Paper, int? MeetingId, int? RedoOfId);

public sealed class SheetActions(HarborContext db, IClock clock)
{
    public const int LongestText = 400;
    private const int MostUndo = 60;

    /// <summary>A 50-megapixel photograph takes about 300 MB while it is read and laid flat: two at a time, the rest wait.</summary>
    private static readonly SemaphoreSlim Reading = new(2);

    /// <summary>Pixels of a flat sheet kept for the bench: 0.25 mm, coarser for papers over a metre.</summary>
    public static double MmPerPixel(double w, double h) => Math.Max(0.25, Math.Max(w, h) / 3200);

    public static void Check(Submission s)
    {
        if (string.IsNullOrWhiteSpace(s.Question)) throw new InputException("the question is missing", "Question", "one question that the drawing should answer");
        foreach (var (text, field) in new[] { (s.Question, "Question"), (s.SelfReview, "SelfReview") })
            if (text.Length > LongestText) throw new InputException($"{text.Length} letters", field, $"up to {LongestText} letters");
        if (string.IsNullOrWhiteSpace(s.SelfReview)) throw new InputException("the self-review is missing", "SelfReview", "two lines: what holds, what you would change");
        Exercises.Get(s.Exercise, "Exercise");
        if (!JudgeRequest.Poses.Contains(s.Pose)) throw new InputException($"unknown pose '{s.Pose}'", "Pose", string.Join(" | ", JudgeRequest.Poses));
        if (!JudgeRequest.Views.Contains(s.View)) throw new InputException($"unknown view '{s.View}'", "View", string.Join(" | ", JudgeRequest.Views));
        if (s.StandingLeg is not (null or "L" or "R")) throw new InputException("unknown leg", "StandingLeg", "left or right");
        PaperSize.Parse(s.Paper);
    }

    /// <summary>Takes a photograph in: reads it, finds the sheet, keeps the original and suggests corners.</summary>
    public async Task<Sheet> Submit(Course course, Membership student, Submission s, byte[] file)
    {
        Check(s);
        var meeting = s.MeetingId is { } id ? await db.Meetings.SingleOrDefaultAsync(m => m.Id == id && m.CourseId == course.Id) ?? throw new InputException("that meeting is not of this course", "MeetingId", "a meeting of the course") : null;
        var before = s.RedoOfId is { } r ? await db.Sheets.SingleOrDefaultAsync(x => x.Id == r && x.CourseId == course.Id && x.StudentId == student.PersonId) ?? throw new InputException("that sheet is not yours", "RedoOfId", "a sheet of your own") : null;
        using var turn = await Turn();
        using var photo = Photo.Read(file);
        var found = SheetFinder.Find(photo.Grey());
        var hash = await Keep(file, photo.ContentType, photo.Width, photo.Height);
        var paper = PaperSize.Parse(s.Paper);
        var sheet = new Sheet
        {
            CourseId = course.Id,
            StudentId = student.PersonId,
            MeetingId = meeting?.Id,
            Code = meeting is null ? $"H-{student.Seat ?? 0}" : $"{meeting.Number}-{PlanLetters.LongPose(meeting.Plan.Items)}-{student.Seat ?? 0}",
            Question = s.Question.Trim(),
            SelfReview = s.SelfReview.Trim(),
            Exercise = s.Exercise,
            Pose = s.Pose,
            StandingLeg = s.Pose == "contrapposto" ? s.StandingLeg : null,
            View = s.View,
            State = SheetState.Placing,
            SubmittedAt = clock.GetCurrentInstant(),
            PhotoHash = hash,
            Confidence = found.Confidence,
            FoundSays = found.Says,
            Corners = [.. found.Corners ?? Inset(photo.Width, photo.Height)],
            RedoOfId = before?.Id,
        };
        (sheet.PaperWidthMm, sheet.PaperHeightMm) = Oriented(paper, sheet.Corners);
        db.Sheets.Add(sheet);
        await Flatten(sheet, photo);
        await db.SaveChangesAsync();
        return sheet;
    }

    /// <summary>Corners set by hand; the sheet is straightened again.</summary>
    public async Task SetCorners(Sheet sheet, IReadOnlyList<Vec2> corners)
    {
        // "They are right": the sheet is flat already.
        if (sheet.FlatHash is not null && sheet.Corners.Count == 4 && corners.Count == 4 && sheet.Corners.Zip(corners).All(p => (p.First - p.Second).Length < 0.01)) return;
        var original = await db.Pictures.AsNoTracking().SingleAsync(p => p.Hash == sheet.PhotoHash);
        if (corners.Count != 4 || corners.Any(c => !c.IsFinite || c.X < -original.Width * 0.2 || c.Y < -original.Height * 0.2 || c.X > original.Width * 1.2 || c.Y > original.Height * 1.2))
            throw new InputException("a corner lies far outside the photograph", "corners", "four places in or just beside the photograph");
        if (!SheetFinder.IsUsable(corners)) throw new InputException("the four corners don't make a sheet", "corners", "four corners in turn, no three on one line");
        using var turn = await Turn();
        using var photo = Photo.Read(original.Bytes);
        sheet.Corners = [.. corners];
        var size = new PaperSize("", "", Math.Min(sheet.PaperWidthMm, sheet.PaperHeightMm), Math.Max(sheet.PaperWidthMm, sheet.PaperHeightMm));
        (sheet.PaperWidthMm, sheet.PaperHeightMm) = Oriented(size, sheet.Corners);
        (sheet.Landmarks, sheet.LandmarkUndo) = ([], []);
        await Flatten(sheet, photo);
        await db.SaveChangesAsync();
    }

    private static async Task<IDisposable> Turn()
    {
        await Reading.WaitAsync();
        return new Leaving();
    }

    private sealed class Leaving : IDisposable
    {
        public void Dispose() => Reading.Release();
    }

    private async Task Flatten(Sheet sheet, Photo photo)
    {
        using var flat = photo.Straighten(sheet.Corners, new PaperSize("", "", sheet.PaperWidthMm, sheet.PaperHeightMm), MmPerPixel(sheet.PaperWidthMm, sheet.PaperHeightMm));
        // JPEG: ten times quicker to write than WebP at this size, and the student is waiting.
        var bytes = flat.Encode(SkiaSharp.SKEncodedImageFormat.Jpeg, 88);
        sheet.FlatHash = await Keep(bytes, "image/jpeg", flat.Width, flat.Height);
    }

    /// <summary>The paper as it lies in the photograph: upright or turned, by the longer pair of sides.</summary>
    private static (double W, double H) Oriented(PaperSize p, IReadOnlyList<Vec2> c)
    {
        var across = (c[1] - c[0]).Length + (c[2] - c[3]).Length;
        var down = (c[3] - c[0]).Length + (c[2] - c[1]).Length;
        return across > down ? (Math.Max(p.WidthMm, p.HeightMm), Math.Min(p.WidthMm, p.HeightMm)) : (Math.Min(p.WidthMm, p.HeightMm), Math.Max(p.WidthMm, p.HeightMm));
    }

    private static Vec2[] Inset(int w, int h) => [new(w * 0.08, h * 0.08), new(w * 0.92, h * 0.08), new(w * 0.92, h * 0.92), new(w * 0.08, h * 0.92)];

    private async Task<string> Keep(byte[] bytes, string type, int w, int h)
    {
        var hash = Convert.ToHexStringLower(SHA256.HashData(bytes));
        if (db.Pictures.Local.All(p => p.Hash != hash) && !await db.Pictures.AnyAsync(p => p.Hash == hash))
            db.Pictures.Add(new() { Hash = hash, ContentType = type, Width = w, Height = h, Bytes = bytes });
        return hash;
    }

    /// <summary>Places or moves one landmark; crown and soles placed on a standing figure bring the canon's proposal for the
    /// rest. A place off the sheet is refused.</summary>
    public async Task Place(Sheet sheet, Course course, string id, Vec2 at)
    {
        if (!LandmarkIds.Exists(id)) throw new InputException($"unknown landmark '{id}'", "id", "a landmark of the table");
        if (!at.IsFinite || at.X < 0 || at.Y < 0 || at.X > sheet.PaperWidthMm || at.Y > sheet.PaperHeightMm) throw new InputException("the landmark lies off the sheet", "at", $"0 to {sheet.PaperWidthMm:0} × 0 to {sheet.PaperHeightMm:0} mm");
        Remember(sheet);
        var placed = new Dictionary<string, Vec2>(sheet.Landmarks) { [id] = new(Math.Round(at.X, 2), Math.Round(at.Y, 2)) };
        if (placed.TryGetValue("crown", out var crown) && placed.Keys.All(k => k == "crown" || k.StartsWith("sole", StringComparison.Ordinal)))
        {
            var soles = placed.Where(p => p.Key.StartsWith("sole", StringComparison.Ordinal)).ToDictionary(p => p.Key, p => p.Value);
            if (soles.Count == 2)
            {
                foreach (var (k, v) in LandmarkProposal.From(crown, soles, Core.Canons.CanonTable.Get(course.Canon).Heads, sheet.Pose))
                    if (v.X >= 0 && v.Y >= 0 && v.X <= sheet.PaperWidthMm && v.Y <= sheet.PaperHeightMm) placed.TryAdd(k, v);
            }
        }
        sheet.Landmarks = placed;
        await Saved(sheet);
    }

    public async Task Remove(Sheet sheet, string id)
    {
        if (!sheet.Landmarks.ContainsKey(id)) return;
        Remember(sheet);
        sheet.Landmarks = sheet.Landmarks.Where(l => l.Key != id).ToDictionary();
        await Saved(sheet);
    }

    public async Task UndoLandmark(Sheet sheet)
    {
        if (sheet.LandmarkUndo.Count == 0) return;
        sheet.Landmarks = sheet.LandmarkUndo[^1];
        sheet.LandmarkUndo = [.. sheet.LandmarkUndo.SkipLast(1)];
        await Saved(sheet);
    }

    private static void Remember(Sheet sheet) => sheet.LandmarkUndo = [.. sheet.LandmarkUndo.TakeLast(MostUndo - 1), sheet.Landmarks];

    private Task Saved(Sheet sheet)
    {
        sheet.SavedAt = clock.GetCurrentInstant();
        return db.SaveChangesAsync();
    }

    /// <summary>The student hands the placed sheet in; a redo marks the sheet it answers.</summary>
    public async Task HandIn(Sheet sheet)
    {
        if (sheet.State != SheetState.Placing) return;
        sheet.State = SheetState.Waiting;
        sheet.LandmarkUndo = [];
        sheet.SubmittedAt = clock.GetCurrentInstant();
        if (sheet.RedoOfId is { } id)
        {
            var before = await db.Sheets.SingleAsync(s => s.Id == id);
            before.State = SheetState.Redone;
        }
        await db.SaveChangesAsync();
    }

    public Task AddFault(Sheet sheet, string faultId, Vec2? spot)
    {
        var fault = Faults.Find(faultId) ?? throw new InputException($"unknown fault '{faultId}'", "fault", "a fault of the library");
        return Add(sheet, Remark.FromFault(NewId(sheet), fault, spot));
    }

    public Task AddFinding(Sheet sheet, Finding finding) => Add(sheet, Remark.FromFinding(NewId(sheet), finding, SheetJudging.Place(sheet, finding)));

    public Task AddHolds(Sheet sheet) => Add(sheet, new(NewId(sheet), Family.LineAndHand, "", "", "", "", null, null, null, null, null, Holds: true));

    public Task AddOwn(Sheet sheet) => Add(sheet, new(NewId(sheet), Family.Proportion, "", "", "", "", null, null, null, null, null));

    private Task Add(Sheet sheet, Remark remark)
    {
        var chosen = sheet.Remarks.Count(r => r.Priority is not null);
        if (!remark.Holds && chosen < Priorities.Most) remark = remark with { Priority = chosen + 1 };
        return Write(sheet, [.. sheet.Remarks, remark]);
    }

    public async Task ChangeRemark(Sheet sheet, string id, Func<Remark, Remark> change)
    {
        if (sheet.Remarks.All(r => r.Id != id)) throw new InputException("that remark is gone", "remark", "a remark of this sheet");
        var remarks = sheet.Remarks.Select(r => r.Id == id ? change(r) : r).ToList();
        foreach (var text in remarks.SelectMany(r => new[] { r.Where, r.What, r.Why, r.Next }))
            if (text.Length > LongestText) throw new InputException($"a remark of {text.Length} letters", "remark", $"up to {LongestText} letters a field");
        if (remarks.Count(r => r.Priority is not null) > Priorities.Most) throw new InputException("three priorities stand already", "priority", "at most three: take one away first");
        await Write(sheet, remarks);
    }

    public Task DropRemark(Sheet sheet, string id) => Write(sheet, [.. sheet.Remarks.Where(r => r.Id != id)]);

    private Task Write(Sheet sheet, IReadOnlyList<Remark> remarks)
    {
        if (sheet.ReleasedAt is not null) throw new InputException("the critique is released; it stays as the student read it", "remark", "a sheet not yet released");
        sheet.Remarks = [.. Priorities.InOrder(remarks)];
        if (sheet.State == SheetState.Waiting) sheet.State = SheetState.Drafted;
        return Saved(sheet);
    }

    private static string NewId(Sheet sheet) => "r" + (1 + sheet.Remarks.Select(r => int.TryParse(r.Id[1..], out var n) ? n : 0).DefaultIfEmpty(0).Max());

    /// <summary>Gives the critique to the student, with the drills it prescribes and a mail.</summary>
    public async Task Release(Sheet sheet, Course course, Person student, PracticeActions practice)
    {
        if (sheet.ReleasedAt is not null) return;
        if (sheet.State == SheetState.Placing) throw new InputException("the sheet is not handed in yet", "release", "a sheet that is handed in");
        var blocking = Priorities.Blocking(sheet.Remarks);
        if (blocking.Count > 0) throw new InputException(string.Join(" ", blocking), "release", "remarks that each have a place and a next step");
        var now = clock.GetCurrentInstant();
        sheet.ReleasedAt = now;
        sheet.State = SheetState.Released;
        db.Outbox.Add(new() { CourseId = course.Id, To = student.Email!, Subject = $"Your critique of sheet {sheet.Code}", Body = $"{student.Name}, your critique is ready.", Link = $"/courses/{course.Id}/critique/{sheet.Id}", SentAt = now });
        await db.SaveChangesAsync();
        foreach (var drill in sheet.Remarks.Where(r => r.Priority is not null && r.Drill is not null).Select(r => r.Drill!).Distinct())
            await practice.Assign(course, [student.Id], null, drill, 2, now + Duration.FromDays(7), $"from the critique of {sheet.Code}", sheet.Id);
    }

    public async Task Reply(Sheet sheet, string answer)
    {
        if (sheet.ReleasedAt is null) throw new InputException("there is no critique to answer yet", "Answer", "a released critique");
        if (string.IsNullOrWhiteSpace(answer)) throw new InputException("the answer is empty", "Answer", "a line or two");
        if (answer.Length > LongestText) throw new InputException($"{answer.Length} letters", "Answer", $"up to {LongestText} letters");
        (sheet.Answer, sheet.AnsweredAt) = (answer.Trim(), clock.GetCurrentInstant());
        if (sheet.State == SheetState.Released) sheet.State = SheetState.Answered;
        await db.SaveChangesAsync();
    }
}
