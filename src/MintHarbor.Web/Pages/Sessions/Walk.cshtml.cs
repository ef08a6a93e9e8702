using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>Round the room with the phone in one hand: student, fault, place, photograph. Everything is kept in the phone first and
/// sent when the line is there; the server takes each note once.</summary>
[For(CourseRole.Instructor, CourseRole.Assistant), EnableRateLimiting(Limits.Uploads)]
[RequestSizeLimit(Limits.LargestForm), RequestFormLimits(MultipartBodyLengthLimit = Limits.LargestForm)]
public sealed class WalkModel(CourseScope scope, HarborContext db, EveningActions evenings, PictureService pictures, IClock clock)
    : CoursePage(scope),
        IShowsProblems
{
    public Meeting Meeting => Scope.Meeting!;
    public IReadOnlyList<(int Id, string Name, int? Seat)> Students { get; private set; } = [];

    /// <summary>Faults that the class hears most come first.</summary>
    public IReadOnlyList<Fault> First { get; private set; } = [];

    public Task OnGetAsync() => Load();

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
                    })
                    .ToListAsync()
            ).Select(s => (s.PersonId, s.Name, s.Seat)),
        ];
        var since = clock.GetCurrentInstant() - Duration.FromDays(60);
        var named = (await NamedFaults.Since(db, Course.Id, since)).Select(n => n.Fault).OfType<string>();
        var usual = named
            .GroupBy(f => f)
            .OrderByDescending(g => g.Count())
            .ThenBy(g => g.Key, StringComparer.Ordinal)
            .Select(g => Course.Shelf.Fault(g.Key))
            .OfType<Fault>();
        First = [.. usual.Concat(Course.Shelf.Faults).DistinctBy(f => f.Id)];
    }

    [WaitsItself]
    public async Task<IActionResult> OnPostKeepAsync(
        Guid key,
        int? student,
        string? fault,
        string? place,
        string? text,
        long? at,
        int? author,
        bool shared,
        IFormFile? photo
    )
    {
        // A phone that passed from hand to hand must not send one person's words under another's name.
        if (author is { } by && by != Me.PersonId)
            return new ConflictResult();
        var bytes = photo is { Length: > 0 } ? await photo.Photograph("photo") : null;
        var said = at is { } ms and > 0 and < 32_503_680_000_000 ? Instant.FromUnixTimeMilliseconds(ms) : clock.GetCurrentInstant();
        await evenings.Keep(
            Course,
            Meeting,
            Me.PersonId,
            new(
                key == default ? Guid.NewGuid() : key,
                student,
                string.IsNullOrEmpty(fault) ? null : fault,
                place ?? "",
                text ?? "",
                said,
                shared
            ),
            bytes
        );
        return Request.Headers.ContainsKey("X-Queued") ? new OkResult() : To($"sessions/{Meeting.Id}/walk");
    }

    /// <summary>The photograph of one note of this evening.</summary>
    public async Task<IActionResult> OnGetPictureAsync(int n)
    {
        var hash = await db
            .RoomNotes.Where(note => note.Id == n && note.MeetingId == Meeting.Id)
            .Select(note => note.PictureHash)
            .SingleOrDefaultAsync();
        return hash is not null && await pictures.Shown(hash, PictureService.Screen, HttpContext.RequestAborted) is { } picture
            ? File(picture.Bytes, picture.ContentType)
            : NotFound();
    }

    public async Task<IActionResult> Show(string problem)
    {
        if (Request.Headers.ContainsKey("X-Queued"))
            return new ContentResult
            {
                Content = problem,
                ContentType = "text/plain; charset=utf-8",
                StatusCode = StatusCodes.Status400BadRequest,
            };
        Problem = problem;
        await Load();
        return Page();
    }
}
