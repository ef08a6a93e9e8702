using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>Sheets on the wall, photographed one after another by whoever has a phone and given to names: nobody without one is left out.</summary>
[For(CourseRole.Instructor, CourseRole.Assistant), EnableRateLimiting(Limits.Uploads)]
[RequestSizeLimit(Limits.LargestForm), RequestFormLimits(MultipartBodyLengthLimit = Limits.LargestForm)]
public sealed class WallModel(CourseScope scope, HarborContext db, IntakeActions intake) : CoursePage(scope), IShowsProblems
{
    public Meeting Meeting => Scope.Meeting!;
    public IReadOnlyList<(int Id, string Name, int? Seat, int Sheets)> Students { get; private set; } = [];

    /// <summary>Whose turn it is: the first without a sheet of this evening.</summary>
    public int? Next { get; private set; }
    public string? Taken { get; private set; }

    public Task OnGetAsync() => Load();

    [WaitsItself]
    public async Task<IActionResult> OnPostTakeAsync(int student, IFormFile? photo, Guid? key, string? question)
    {
        var who = await db
            .Memberships.Include(m => m.Person)
            .SingleOrDefaultAsync(m => m.CourseId == Course.Id && m.PersonId == student && m.Role == CourseRole.Student)
            ?? throw new InputException("that is no student of the course", "student", "a student of the course");
        if (photo is not { Length: > 0 })
            throw new InputException("no photograph was chosen", "photo", "a JPEG, PNG or WebP photograph");
        var longPose = Meeting.Plan.LongPose;
        var pose = longPose?.PoseIds is [var id, ..] ? Core.Figure.FigureCatalogue.Poses.FirstOrDefault(p => p.Id == id) : null;
        var azimuth = await db
            .Seatings.Where(s => s.MeetingId == Meeting.Id && s.PersonId == student)
            .Select(s => (double?)s.Azimuth)
            .FirstOrDefaultAsync();
        var submission = new Submission(
            string.IsNullOrWhiteSpace(question) ? IntakeActions.NotAsked : question,
            IntakeActions.NotReviewed,
            longPose?.Exercise ?? "sitting",
            pose is null ? "standing" : PoseWords.Judged(pose),
            pose?.Weight,
            azimuth is { } a ? PoseWords.View(a) : "front",
            Course.Paper,
            Meeting.Id,
            null
        );
        var sheet = await intake.Submit(Course, who, submission, () => photo.Photograph("photo"), new(Key: key));
        Taken = $"Taken for {Words.Apart(who.Person.Name)}: {sheet.Code}.";
        await Load();
        return Page();
    }

    private async Task Load()
    {
        Students =
        [
            .. (
                await db
                    .Memberships.AsNoTracking()
                    .Where(m => m.CourseId == Course.Id && m.Role == CourseRole.Student)
                    .OrderBy(m => m.Seat)
                    .ThenBy(m => m.Person.Name)
                    .Select(m => new
                    {
                        m.PersonId,
                        m.Person.Name,
                        m.Seat,
                        Sheets = db.Sheets.Count(s => s.MeetingId == Meeting.Id && s.StudentId == m.PersonId),
                    })
                    .ToListAsync()
            ).Select(s => (s.PersonId, s.Name, s.Seat, s.Sheets)),
        ];
        Next = Students.Where(s => s.Sheets == 0).Select(s => (int?)s.Id).FirstOrDefault();
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }
}
