using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;
using MintHarbor.Core.Sheets;
using MintHarbor.Core.Shelves;
using MintHarbor.Media;
using MintHarbor.Store.Model;
using NodaTime;
using Npgsql;

namespace MintHarbor.Store.Actions;

/// <summary>What a student says with a drawing.</summary>
/// <param name="LongPose">Which of the meeting's long poses it is drawn from, from 1; null leaves it to the exercise.</param>
/// <param name="To">The stage of a project that it is handed in to; null where it belongs to none.</param>
public sealed record Submission(
    string Question,
    string SelfReview,
    string Exercise,
    string Pose,
    string? StandingLeg,
    string View,
    string Paper,
    int? MeetingId,
    int? RedoOfId,
    string Subject = "figure",
    int? LongPose = null,
    StageOf? To = null
);

/// <summary>A stage on one student's way through a project, written as "7:block-in".</summary>
public sealed record StageOf(int WorkId, string StageId)
{
    /// <exception cref="InputException">Written otherwise.</exception>
    public static StageOf? Read(string? text) =>
        string.IsNullOrEmpty(text) ? null
        : text.Split(':') is [var work, { Length: > 0 } stage] && int.TryParse(work, out var id) ? new(id, stage)
        : throw new InputException($"'{text}' is no stage", "Form.Stage", "a stage of a project that is open");

    public override string ToString() => $"{WorkId}:{StageId}";
}

/// <summary>How a picture comes in.</summary>
/// <param name="Set">Sheets of one upload share it.</param>
/// <param name="Key">Given by the browser: the same upload sent again is known by it.</param>
/// <param name="WholeWidthMm">Set where the picture is the sheet: how wide it counts.</param>
public sealed record Arrival(Guid? Set = null, int SetAt = 0, Guid? Key = null, double? WholeWidthMm = null);

/// <summary>Takes drawings in: reads the file, finds the sheet, lays it flat, evens its light.</summary>
/// <param name="queue">Told of a sheet that waits for its fit; null where nobody fits beside.</param>
public sealed class IntakeActions(HarborContext db, PictureService pictures, IClock clock, IFitQueue? queue = null)
{
    public const int LongestText = SheetActions.LongestText,
        MostInSet = 24,
        MostADay = 120;

    /// <summary>Pixels of a flat sheet kept for the bench: 0.25 mm, coarser for papers over a metre.</summary>
    public static double MmPerPixel(double w, double h) => Math.Max(0.25, Math.Max(w, h) / 3200);

    /// <summary>What stands on a sheet taken at the wall until its student has asked.</summary>
    public const string NotAsked = "No question yet: photographed at the wall.",
        NotReviewed = "Not written yet.";

    /// <summary>The words that a drawing is handed in with.</summary>
    /// <exception cref="InputException">One is missing, or too long.</exception>
    public static void CheckWords(string? question, string? review)
    {
        if (string.IsNullOrWhiteSpace(question))
            throw new InputException("the question is missing", "Question", "one question that the drawing should answer");
        if (string.IsNullOrWhiteSpace(review))
            throw new InputException("the self-review is missing", "SelfReview", "two lines: what holds, what you would change");
        foreach (var (text, field) in new[] { (question, "Question"), (review, "SelfReview") })
            if (text.Length > LongestText)
                throw new InputException($"{text.Length} letters", field, $"up to {LongestText} letters");
    }

    public static void Check(Submission s, CourseShelf shelf)
    {
        CheckWords(s.Question, s.SelfReview);
        shelf.GetExercise(s.Exercise, "Exercise");
        if (!JudgeRequest.Poses.Contains(s.Pose))
            throw new InputException($"unknown pose '{s.Pose}'", "Pose", string.Join(" | ", JudgeRequest.Poses));
        if (!JudgeRequest.Views.Contains(s.View))
            throw new InputException($"unknown view '{s.View}'", "View", string.Join(" | ", JudgeRequest.Views));
        if (s.Subject is not ("figure" or "head" or Sheet.Thing))
            throw new InputException($"unknown subject '{s.Subject}'", "Pose", "figure | head | thing");
        if (s.StandingLeg is not (null or "L" or "R"))
            throw new InputException("unknown leg", "StandingLeg", "left or right");
        PaperSize.Parse(s.Paper);
    }

    /// <summary>Takes a picture in: reads it, finds the sheet, keeps the original and suggests corners. The same key sent
    /// twice, as after a line that broke off, gives the sheet that was kept the first time.</summary>
    /// <param name="file">Reads the upload; called when it is this upload's turn, so that waiting ones take no memory.</param>
    public async Task<Sheet> Submit(
        Course course,
        Membership student,
        Submission s,
        Func<Task<byte[]>> file,
        Arrival? arrival = null,
        CancellationToken over = default
    )
    {
        Check(s, course.Shelf);
        arrival ??= new();
        if (arrival.WholeWidthMm is { } w && !(w is >= 20 and <= 3000))
            throw new InputException($"a drawing {w} mm wide", "WholeWidth", "20 to 3000 mm");
        if (arrival.Set is not null && arrival.SetAt is < 1 or > MostInSet)
            throw new InputException($"sheet {arrival.SetAt} of a set", "SetAt", $"1 to {MostInSet}");
        if (await Known(student, arrival.Key) is { } known)
            return known;
        var meeting = s.MeetingId is { } id
            ? await db.Meetings.SingleOrDefaultAsync(m => m.Id == id && m.CourseId == course.Id, over)
                ?? throw new InputException("that meeting is not of this course", "MeetingId", "a meeting of the course")
            : null;
        var before = s.RedoOfId is { } r
            ? await db.Sheets.SingleOrDefaultAsync(x => x.Id == r && x.CourseId == course.Id && x.StudentId == student.PersonId, over)
                ?? throw new InputException("that sheet is not yours", "RedoOfId", "a sheet of your own")
            : null;
        var way = s.To is { } to ? await Way(student, to) : null;
        await CheckQuota(student);
        using var open = await pictures.Take(file, over);
        var photo = open.Photo;
        var (key, code) = await Label(student, meeting, before, s, arrival);
        var sheet = new Sheet
        {
            CourseId = course.Id,
            StudentId = student.PersonId,
            MeetingId = meeting?.Id,
            Code = code,
            PoseKey = key,
            Question = s.Question.Trim(),
            SelfReview = s.SelfReview.Trim(),
            Exercise = s.Exercise,
            Subject = s.Subject,
            Pose = s.Pose,
            StandingLeg = s.Pose == "contrapposto" ? s.StandingLeg : null,
            View = s.View,
            State = SheetState.Placing,
            SubmittedAt = clock.GetCurrentInstant(),
            PhotoHash = open.Kept.Hash,
            RedoOfId = before?.Id,
            WorkId = way?.Id,
            StageId = s.To?.StageId,
            SetId = arrival.Set,
            SetAt = arrival.SetAt,
            UploadKey = arrival.Key,
        };
        if (arrival.WholeWidthMm is { } width)
            Whole(sheet, photo, width);
        else
        {
            var found = SheetFinder.Find(photo.Grey());
            (sheet.Confidence, sheet.FoundSays) = (found.Confidence, found.Says);
            sheet.Corners = [.. found.Corners ?? Inset(photo.Width, photo.Height)];
            (sheet.PaperWidthMm, sheet.PaperHeightMm) = Oriented(PaperSize.Parse(s.Paper), sheet.Corners);
        }
        List<Picture> kept = [open.Kept, PictureService.Made(open.Kept.Hash, PictureService.Screen, photo), .. Flatten(sheet, photo)];
        db.Sheets.Add(sheet);
        // The last stage's first sheet is the work handed in: lateness counts from here.
        if (way is not null && s.To!.StageId == way.Project.Shape.Stages[^1].Id)
            await GroupActions.HandedIn(db, way, sheet.SubmittedAt);
        try
        {
            await Save(kept);
        }
        catch (DbUpdateException e)
            when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation } && arrival.Key is not null)
        {
            // The same upload came twice at once; the other one was kept.
            db.Entry(sheet).State = EntityState.Detached;
            return await Known(student, arrival.Key)
                ?? throw new InputException("the upload clashed with another", "Photo", "the photograph once more");
        }
        return sheet;
    }

    /// <summary>The student's own way that a sheet is handed in to, its stage open and its grade not released.</summary>
    private async Task<ProjectWork> Way(Membership student, StageOf to)
    {
        var work = await db
            .ProjectWorks.Include(w => w.Project)
            .SingleOrDefaultAsync(w => w.Id == to.WorkId && w.StudentId == student.PersonId && w.Project.CourseId == student.CourseId)
            ?? throw new InputException("that project is not yours", "Form.Stage", "a stage of a project that is open");
        var stage = work.Project.Shape.Stage(to.StageId);
        if (work.ReleasedAt is not null)
            throw new InputException($"{work.Project.Name} is graded", "Form.Stage", "a project whose grade is not released");
        if (!work.Gate(stage.Id).IsOpen(stage))
            throw new InputException(
                $"{stage.Name} is not open yet: its gate wants {work.Gate(stage.Id).WantingSays(stage)}",
                "Form.Stage",
                "a stage that is open, or none"
            );
        return work;
    }

    /// <summary>The pose that a sheet is drawn from, and what is written on the paper: meeting, pose and seat, with a number from the second
    /// sheet of a pose on. A redo is from the pose of the sheet that it answers; a drawing of no figure that no line asks for has no pose. A number is never given twice, also where a sheet was taken away.</summary>
    private async Task<(string? Key, string Code)> Label(Membership student, Meeting? meeting, Sheet? before, Submission s, Arrival arrival)
    {
        var had = await db
            .Sheets.Where(x => x.CourseId == student.CourseId && x.StudentId == student.PersonId && x.MeetingId == s.MeetingId)
            .Select(x => new
            {
                x.PoseKey,
                x.Code,
                Own = arrival.Set != null && x.SetId == arrival.Set,
            })
            .ToListAsync();
        string? key = null;
        if (meeting is not null)
            key =
                before is { PoseKey: { } same } && before.MeetingId == meeting.Id ? same
                : s.LongPose is { } n
                    ? meeting.Plan.CardPoses.Select(i => i.Pose.ToString()).ElementAtOrDefault(n - 1)
                        ?? throw new InputException($"the meeting has no long pose {n}", "LongPose", $"1 to {meeting.Plan.CardPoses.Count}")
                : meeting.Plan.PoseOf(s.Exercise, [.. had.Where(h => !h.Own).Select(h => new PoseKey(h.PoseKey))], s.Subject != Sheet.Thing)
                    is { IsNone: false } pose
                    ? pose.ToString()
                : null;
        var first = had.Count(h => !h.Own && h.PoseKey == key) + (arrival.Set is null ? 1 : arrival.SetAt);
        var taken = had.Select(h => h.Code).ToHashSet();
        return (key, Enumerable.Range(first, had.Count + 1).Select(Code).First(c => !taken.Contains(c)));

        string Code(int number)
        {
            var text = arrival.Set is null && number == 1 ? "" : number.ToString(System.Globalization.CultureInfo.InvariantCulture);
            string[] parts = meeting is null ? [$"H{text}"] : [$"{meeting.Number}", $"{key}{text}"];
            return string.Join('-', parts.Where(p => p != "").Append($"{student.Seat ?? 0}"));
        }
    }

    /// <summary>What one student may hand in within a day; beyond it something other than drawing is going on.</summary>
    private async Task CheckQuota(Membership student)
    {
        var since = clock.GetCurrentInstant() - Duration.FromDays(1);
        if (
            await db.Sheets.CountAsync(x => x.CourseId == student.CourseId && x.StudentId == student.PersonId && x.SubmittedAt > since)
            >= MostADay
        )
            throw new InputException(
                $"{MostADay} drawings came in within a day",
                "Photo",
                $"up to {MostADay} a day: send the rest tomorrow"
            );
    }

    private async Task<Sheet?> Known(Membership student, Guid? key) =>
        key is { } k
            ? await db.Sheets.SingleOrDefaultAsync(x =>
                x.StudentId == student.PersonId && x.UploadKey == k && x.CourseId == student.CourseId
            )
            : null;

    /// <summary>The picture is the sheet: a digital drawing, or a photograph cut to its edges. Its width is what the student
    /// says; its height follows from the picture.</summary>
    public async Task TakeWhole(Sheet sheet, double widthMm)
    {
        if (!(widthMm is >= 20 and <= 3000))
            throw new InputException($"a drawing {Say.Number(widthMm, 1)} mm wide", "WholeWidth", "20 to 3000 mm");
        using var open = await pictures.Take(sheet.PhotoHash);
        var before = sheet.FlatHash;
        Whole(sheet, open.Photo, widthMm);
        SheetMarks.Forget(sheet);
        await Save(Flatten(sheet, open.Photo), before);
    }

    private static void Whole(Sheet sheet, Photo photo, double widthMm)
    {
        sheet.Whole = true;
        (sheet.PaperWidthMm, sheet.PaperHeightMm) = (widthMm, Math.Round(widthMm * photo.Height / photo.Width, 1));
        if (sheet.PaperHeightMm is < 20 or > 3000)
            throw new InputException(
                $"so it would be {Say.Number(sheet.PaperHeightMm)} mm high",
                "WholeWidth",
                "a width at which the height is 20 to 3000 mm"
            );
        sheet.Corners =
        [
            new(-0.5, -0.5),
            new(photo.Width - 0.5, -0.5),
            new(photo.Width - 0.5, photo.Height - 0.5),
            new(-0.5, photo.Height - 0.5),
        ];
        (sheet.Confidence, sheet.FoundSays) = (1, "Taken whole: the picture is the sheet.");
    }

    /// <summary>Takes a sheet out again that was not handed in.</summary>
    public async Task Drop(Sheet sheet)
    {
        if (sheet.State != SheetState.Placing)
            throw new InputException("the sheet is handed in", "sheet", "a sheet not yet handed in");
        await Remove(sheet);
    }

    /// <summary>Takes a sheet away with its pictures; the work that it handed in is no longer handed in by it.</summary>
    internal async Task Remove(Sheet sheet)
    {
        if (
            sheet.WorkId is { } id
            && await db.ProjectWorks.Include(w => w.Project).SingleOrDefaultAsync(w => w.Id == id) is { } work
            && work.HandedInAt == sheet.SubmittedAt
            && GroupActions.Together(db, work) is var together
        )
            await GroupActions.HandedIn(
                db,
                work,
                await db
                    .Sheets.Where(s => together.Contains(s.WorkId!.Value) && s.StageId == sheet.StageId && s.Id != sheet.Id)
                    .MinAsync(s => (Instant?)s.SubmittedAt),
                anew: true
            );
        var own = await db.LookedSheets.Where(l => l.SheetId == sheet.Id).Select(l => l.PhotoHash).SingleOrDefaultAsync();
        db.Sheets.Remove(sheet);
        await Save([], sheet.PhotoHash, sheet.FlatHash, own);
    }

    /// <summary>Corners set by hand; the sheet is straightened again.</summary>
    public async Task SetCorners(Sheet sheet, IReadOnlyList<Vec2> corners)
    {
        // "They are right": the sheet is flat already.
        if (
            sheet.FlatHash is not null
            && sheet.Corners.Count == 4
            && corners.Count == 4
            && sheet.Corners.Zip(corners).All(p => (p.First - p.Second).Length < 0.01)
        )
            return;
        var original = await db.Pictures.Where(p => p.Hash == sheet.PhotoHash).Select(p => new { p.Width, p.Height }).SingleAsync();
        if (
            corners.Count != 4
            || corners.Any(c =>
                !c.IsFinite
                || c.X < -original.Width * 0.2
                || c.Y < -original.Height * 0.2
                || c.X > original.Width * 1.2
                || c.Y > original.Height * 1.2
            )
        )
            throw new InputException("a corner lies far outside the photograph", "corners", "four places in or just beside the photograph");
        if (!SheetFinder.IsUsable(corners))
            throw new InputException("the four corners don't make a sheet", "corners", "four corners in turn, no three on one line");
        using var open = await pictures.Take(sheet.PhotoHash);
        var before = sheet.FlatHash;
        (sheet.Corners, sheet.Whole) = ([.. corners], false);
        var size = new PaperSize(
            "",
            "",
            Math.Min(sheet.PaperWidthMm, sheet.PaperHeightMm),
            Math.Max(sheet.PaperWidthMm, sheet.PaperHeightMm)
        );
        (sheet.PaperWidthMm, sheet.PaperHeightMm) = Oriented(size, sheet.Corners);
        SheetMarks.Forget(sheet);
        await Save(Flatten(sheet, open.Photo), before);
    }

    /// <summary>Lays the sheet flat; a photograph's light is evened, a drawing taken whole stays as it is.</summary>
    /// <returns>The flat sheet, and a small one of it.</returns>
    private Picture[] Flatten(Sheet sheet, Photo photo)
    {
        sheet.FitSince = clock.GetCurrentInstant();
        var scale = Math.Max(MmPerPixel(sheet.PaperWidthMm, sheet.PaperHeightMm), sheet.Whole ? sheet.PaperWidthMm / photo.Width : 0);
        using var flat = photo.Straighten(sheet.Corners, new PaperSize("", "", sheet.PaperWidthMm, sheet.PaperHeightMm), scale);
        if (sheet.Whole)
            sheet.LightSays = "";
        else
        {
            var light = LightField.Of(flat.Grey());
            if (light.Evens)
                flat.Even(light);
            sheet.LightSays = light.Says;
        }
        // JPEG: ten times quicker to write than WebP at this size, and the student is waiting.
        var bytes = flat.Encode(SkiaSharp.SKEncodedImageFormat.Jpeg, 88);
        var picture = PictureService.Of(bytes, "image/jpeg", flat.Width, flat.Height);
        sheet.FlatHash = picture.Hash;
        return [picture, PictureService.Made(picture.Hash, PictureService.Small, flat)];
    }

    /// <summary>The paper as it lies in the photograph: upright or turned, by the longer pair of sides.</summary>
    private static (double W, double H) Oriented(PaperSize p, IReadOnlyList<Vec2> c)
    {
        var across = (c[1] - c[0]).Length + (c[2] - c[3]).Length;
        var down = (c[3] - c[0]).Length + (c[2] - c[1]).Length;
        return across > down
            ? (Math.Max(p.WidthMm, p.HeightMm), Math.Min(p.WidthMm, p.HeightMm))
            : (Math.Min(p.WidthMm, p.HeightMm), Math.Max(p.WidthMm, p.HeightMm));
    }

    private static Vec2[] Inset(int w, int h) =>
        [new(w * 0.08, h * 0.08), new(w * 0.92, h * 0.08), new(w * 0.92, h * 0.92), new(w * 0.08, h * 0.92)];

    /// <summary>While a photograph is laid flat the ink of the sheet as it lay may have been read: that is nobody's change, and goes under this
    /// one. A person's change meanwhile is a clash as ever.</summary>
    private async Task SaveOverFits()
    {
        try
        {
            await db.SaveChangesAsync();
        }
        catch (DbUpdateConcurrencyException e) when (e.Entries is [{ Entity: Sheet } only])
        {
            var now = await only.GetDatabaseValuesAsync();
            if (now is null || !Equals(now[nameof(Sheet.SavedAt)], only.OriginalValues[nameof(Sheet.SavedAt)]))
                throw;
            only.OriginalValues[nameof(Sheet.Version)] = now[nameof(Sheet.Version)];
            await db.SaveChangesAsync();
        }
    }

    /// <summary>Pictures and what refers to them, in one transaction; what it refers to no more goes.</summary>
    private async Task Save(IEnumerable<Picture> kept, params string?[] dropped)
    {
        await using var own = db.Database.CurrentTransaction is null ? await db.Database.BeginTransactionAsync() : null;
        await pictures.Keep(kept);
        await SaveOverFits();
        await pictures.Drop(dropped);
        if (own is not null)
            await own.CommitAsync();
        queue?.Ring();
    }
}
