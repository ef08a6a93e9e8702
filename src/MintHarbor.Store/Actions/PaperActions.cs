using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sheets;
using MintHarbor.Media;
using MintHarbor.Store.Fitting;
using MintHarbor.Store.Model;
using NodaTime;
using Npgsql;
using SkiaSharp;

namespace MintHarbor.Store.Actions;

/// <summary>Tells the reader of photographs that there is something to read.</summary>
public interface IPaperQueue
{
    void Ring();
}

/// <summary>Where the print of a sheet comes from: whoever has the faces that it was set in.</summary>
public interface IPaperPrints
{
    GreyImage Print(DrillSheet sheet);
    PrintFaces Faces { get; }
}

/// <summary>Drill sheets on paper: printed, handed in as photographs, read, looked at.</summary>
public sealed class PaperActions(HarborContext db, PictureService pictures, IPaperPrints prints, IPaperQueue queue, IClock clock)
{
    public const int MostWaiting = 120,
        LongestName = 80,
        SheetMinutes = 15;

    /// <summary>Below the first the numbers are those of trial sheets, which no studio gives out; nine digits can still be typed.</summary>
    private const int FirstNumber = (int)TrialSheets.End,
        EndOfNumbers = 1_000_000_000;

    /// <summary>Millimetres to a pixel of the flat picture that is shown.</summary>
    private const double FlatMm = 0.16;

    /// <summary>Prints a sheet of chosen drills for each student: the same drills, other items, so that nobody copies from a neighbour.</summary>
    /// <returns>The batch, to be printed.</returns>
    public async Task<long> Give(
        Course course,
        IReadOnlyCollection<int> students,
        IReadOnlyList<string> drills,
        bool letter,
        string by,
        int? sheetId = null,
        Instant? due = null
    )
    {
        if (students.Count == 0)
            throw new InputException("nobody is chosen", "Students", "at least one student");
        var members = await db
            .Memberships.Where(m => m.CourseId == course.Id && m.Role == CourseRole.Student && students.Contains(m.PersonId))
            .OrderBy(m => m.Person.Name)
            .Select(m => m.PersonId)
            .ToListAsync();
        if (members.Count != students.Distinct().Count())
            throw new InputException("somebody chosen is not a student of this course", "Students", "students of this course");
        if (sheetId is { } of && !await db.Sheets.AnyAsync(s => s.Id == of && s.CourseId == course.Id))
            throw new InputException("that drawing is not of this course", "Sheet", "a drawing of the course, or none");
        var batch = NewNumber();
        var now = clock.GetCurrentInstant();
        if (due is { } wanted && (wanted <= now || wanted > now + Duration.FromDays(731)))
            throw new InputException(
                wanted <= now ? "the due time has passed" : "the due time is more than two years away",
                "Give.Due",
                "a time to come within two years, or none"
            );
        foreach (var (student, n) in members.Select((m, n) => (m, n)))
        {
            var number = n == 0 ? batch : NewNumber();
            db.PaperSheets.Add(
                new()
                {
                    CourseId = course.Id,
                    StudentId = student,
                    Number = number,
                    Batch = batch,
                    Drills = [.. drills.Distinct()],
                    Printed = DrillSheet.Make(new(number, letter), drills, number),
                    GivenAt = now,
                    By = by,
                    SheetId = sheetId,
                }
            );
        }
        if (due is { } until)
            db.Assignments.AddRange(
                members.Select(student => new Assignment
                {
                    CourseId = course.Id,
                    StudentId = student,
                    PaperBatch = batch,
                    Minutes = SheetMinutes,
                    Due = until,
                    GivenAt = now,
                    Note = Named(drills),
                    SheetId = sheetId,
                    ForAll = false,
                })
            );
        await db.SaveChangesAsync();
        return batch;
    }

    /// <summary>"copy a slant, halve".</summary>
    public static string Named(IEnumerable<string> drills) =>
        string.Join(", ", drills.Select(k => (PaperDrills.Find(k)?.Name ?? k).ToLowerInvariant()));

    /// <summary>Drawn by lot: who has one sheet can't guess another's.</summary>
    private static long NewNumber() => RandomNumberGenerator.GetInt32(FirstNumber, EndOfNumbers);

    /// <summary>Takes a photograph in, to be read in its turn. The same key sent twice is kept once.</summary>
    public async Task Take(Membership who, Guid? key, string name, Func<Task<byte[]>> file, CancellationToken over = default)
    {
        if (key is not null && await db.PaperPhotos.AnyAsync(p => p.PersonId == who.PersonId && p.UploadKey == key, over))
            return;
        var waiting = await db.PaperPhotos.CountAsync(p => p.CourseId == who.CourseId && p.Outcome == PaperOutcome.Waiting, over);
        if (waiting >= MostWaiting)
            throw new InputException($"{waiting} photographs wait to be read", "Form.Photo", "more in a minute");
        using var open = await pictures.Take(file, over);
        db.PaperPhotos.Add(
            new()
            {
                CourseId = who.CourseId,
                PersonId = who.PersonId,
                Name = name.Length > LongestName ? name[..LongestName] : name,
                Hash = open.Kept.Hash,
                UploadKey = key,
                At = clock.GetCurrentInstant(),
            }
        );
        try
        {
            await Save([open.Kept], over);
        }
        catch (DbUpdateException e)
            when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation } && key is not null)
        {
            // The same upload came twice at once; the other one was kept.
            db.ChangeTracker.Clear();
        }
        queue.Ring();
    }

    /// <summary>The photograph that waits longest.</summary>
    public Task<int?> Longest(CancellationToken over) =>
        db
            .PaperPhotos.Where(p => p.Outcome == PaperOutcome.Waiting)
            .OrderBy(p => p.At)
            .ThenBy(p => p.Id)
            .Select(p => (int?)p.Id)
            .FirstOrDefaultAsync(over);

    /// <summary>Reads one that waits.</summary>
    public async Task Read(int id, CancellationToken over)
    {
        var photo = await db.PaperPhotos.SingleAsync(p => p.Id == id, over);
        if (photo.Outcome != PaperOutcome.Waiting)
            return;
        using (var open = await pictures.Take(photo.Hash, over))
            await Read(photo, open, over);
    }

    /// <summary>A file that can't be read must not keep the others waiting.</summary>
    public async Task GiveUp(int id, CancellationToken over)
    {
        var photo = await db.PaperPhotos.SingleAsync(p => p.Id == id, over);
        photo.Outcome = PaperOutcome.NoPicture;
        await Settle(photo, over);
    }

    private async Task Read(PaperPhoto photo, PictureService.Opened open, CancellationToken over)
    {
        var grey = open.Photo.Grey();
        var located = await Nice.Work(() => DrillSheetReader.Find(grey), over);
        var sheet = located is null ? null : await db.PaperSheets.SingleOrDefaultAsync(s => s.Number == located.Code.Number, over);
        var staff = await db.Memberships.AnyAsync(
            m => m.CourseId == photo.CourseId && m.PersonId == photo.PersonId && m.Role != CourseRole.Student,
            over
        );
        photo.Outcome =
            located is null ? PaperOutcome.NotFound
            : sheet is null ? PaperOutcome.Unknown
            : sheet.CourseId != photo.CourseId ? PaperOutcome.OtherCourse
            : !staff && sheet.StudentId != photo.PersonId ? PaperOutcome.OtherStudent
            : sheet.Reading is not null ? PaperOutcome.ReadBefore
            : PaperOutcome.Read;
        // What belongs to somebody else is not pointed at.
        photo.PaperSheetId = photo.Outcome is PaperOutcome.Read or PaperOutcome.ReadBefore ? sheet!.Id : null;
        if (photo.Outcome == PaperOutcome.Read)
            photo.Outcome = await Kept(sheet!, located!, open, over);
        await Settle(photo, over);
    }

    /// <summary>A picture that is no sheet's is shown to nobody, and may be somebody else's work: it goes.</summary>
    private async Task Settle(PaperPhoto photo, CancellationToken over)
    {
        var refused = photo.Outcome == PaperOutcome.Read ? null : photo.Hash;
        if (refused is not null)
            photo.Hash = "";
        await Save([], over, refused);
    }

    private async Task<PaperOutcome> Kept(PaperSheet sheet, LocatedSheet located, PictureService.Opened open, CancellationToken over)
    {
        var print = prints.Print(sheet.Printed);
        if (await Nice.Work(() => located.Read(sheet.Printed, print), over) is not { } reading)
            return PaperOutcome.NotFlat;
        if (reading.Items.All(i => i.State == AnswerState.Empty))
            return PaperOutcome.Unmarked;
        using var flat = open.Photo.Straighten(
            reading.Corners,
            new PaperSize("field", "drill sheet", SheetLayout.Width, SheetLayout.Height),
            FlatMm
        );
        var picture = PictureService.Of(flat.Encode(SKEncodedImageFormat.Jpeg, 84), "image/jpeg", flat.Width, flat.Height);
        (sheet.Reading, sheet.ReadAt, sheet.PhotoHash, sheet.FlatHash) = (reading, clock.GetCurrentInstant(), open.Kept.Hash, picture.Hash);
        // The reading, what it was given for and what it says of the eye stand together or not at all.
        await using var whole = db.Database.CurrentTransaction is null ? await db.Database.BeginTransactionAsync(over) : null;
        await Save([picture], over);
        await db
            .Assignments.Where(a => a.PaperBatch == sheet.Batch && a.StudentId == sheet.StudentId && a.DoneAt == null)
            .ExecuteUpdateAsync(u => u.SetProperty(a => a.DoneAt, sheet.ReadAt), over);
        await new StageActions(db, clock).Paper(sheet);
        if (whole is not null)
            await whole.CommitAsync(over);
        return PaperOutcome.Read;
    }

    /// <summary>Pictures and what refers to them, in one transaction; what it refers to no more goes.</summary>
    private async Task Save(IEnumerable<Picture> kept, CancellationToken over, params string?[] dropped)
    {
        await using var own = db.Database.CurrentTransaction is null ? await db.Database.BeginTransactionAsync(over) : null;
        await pictures.Keep(kept);
        await db.SaveChangesAsync(over);
        await pictures.Drop(dropped);
        if (own is not null)
            await own.CommitAsync(over);
    }

    /// <summary>What a person says of an item that the reader left to them.</summary>
    public async Task Look(PaperSheet sheet, int item, bool counts)
    {
        if (sheet.Reading is not { } reading)
            throw new InputException("the sheet is not read yet", "item", "a sheet that was read");
        if (item < 0 || item >= reading.Items.Count || !reading.Items[item].Asks)
            throw new InputException("that item asks for nobody's eye", "item", "one that is flagged");
        if (counts && reading.Items[item].Scores.Count == 0)
            throw new InputException("nothing was read there that could count", "counts", "left out");
        sheet.Looked = new(sheet.Looked) { [item] = counts };
        await db.SaveChangesAsync();
    }

    /// <summary>Takes a reading back, so that another photograph of the same sheet can be read. What staff have looked at only staff take back.</summary>
    public async Task Unread(PaperSheet sheet, bool staff)
    {
        if (!staff && sheet.Looked.Count > 0)
            throw new InputException("your instructor has looked at this reading", "sheet", "asking them to take it back");
        var (photo, flat) = (sheet.PhotoHash, sheet.FlatHash);
        (sheet.Reading, sheet.ReadAt, sheet.PhotoHash, sheet.FlatHash, sheet.Looked) = (null, null, null, null, []);
        await db.PaperPhotos.Where(p => p.PaperSheetId == sheet.Id).ExecuteDeleteAsync();
        await db.MeasurePoints.Where(p => p.From == EvidenceOf.Paper && p.Of == sheet.Id).ExecuteDeleteAsync();
        await db.SaveChangesAsync();
        await pictures.Drop(photo, flat);
    }

    /// <summary>Takes back what was printed and not yet read, of one batch.</summary>
    /// <returns>How many.</returns>
    public Task<int> Withdraw(Course course, long batch) =>
        db.PaperSheets.Where(s => s.CourseId == course.Id && s.Batch == batch && s.Reading == null).ExecuteDeleteAsync();
}
