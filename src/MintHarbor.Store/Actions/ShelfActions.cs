using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Sessions;
using MintHarbor.Core.Shelves;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>What a course makes its own of the studio's tables: each save is another version, and meetings to come take its words.</summary>
public sealed class ShelfActions(HarborContext db, IClock clock)
{
    public const int MostVersions = 500;

    /// <summary>Versions, the newest first.</summary>
    public Task<List<ShelfVersion>> Versions(Course course, int most = 12) =>
        db.ShelfVersions.AsNoTracking().Where(v => v.CourseId == course.Id).OrderByDescending(v => v.Number).Take(most).ToListAsync();

    /// <summary>Keeps what was changed, works by it, and says it in the meetings to come.</summary>
    /// <param name="what">What was changed, in a word.</param>
    /// <exception cref="InputException">What <see cref="ShelfCheck"/> refuses.</exception>
    public async Task Keep(Course course, OwnShelf own, string what, string by)
    {
        ShelfCheck.Checked(own);
        var last = await db.ShelfVersions.Where(v => v.CourseId == course.Id).MaxAsync(v => (int?)v.Number) ?? 0;
        if (last >= MostVersions)
            throw new InputException($"{MostVersions} versions are kept already", "shelf", "a course of its own for another school");
        db.ShelfVersions.Add(
            new()
            {
                CourseId = course.Id,
                Number = last + 1,
                Shelf = own,
                What = what,
                By = by,
                At = clock.GetCurrentInstant(),
            }
        );
        course.OwnShelf = own;
        await Tell(course);
        await db.SaveChangesAsync();
    }

    /// <summary>Meetings that have not begun say exercises in the course's words and are changed within its limits from here on. Their minutes
    /// stay as they were planned.</summary>
    private async Task Tell(Course course)
    {
        var today = clock.GetCurrentInstant().InZone(course.TimeZone).Date;
        var meetings = await db.Meetings.Where(m => m.CourseId == course.Id && m.Date >= today && m.Acts.Count == 0).ToListAsync();
        foreach (var meeting in meetings)
        {
            var known = PlanActions.ByShelf(meeting.Request.Known, course);
            PlanItem Said(PlanItem i) => i.Exercise is { } e ? i.Doing(e, known) : i;
            meeting.Request = meeting.Request.Knowing(_ => known) with
            {
                Laid = [.. meeting.Request.Laid.Select(Said)],
                Held = [.. meeting.Request.Held.Select(Said)],
            };
            meeting.Plan = meeting.Plan with { Items = [.. meeting.Plan.Items.Select(Said)] };
        }
    }

    /// <summary>Back to a version that was kept, as another one.</summary>
    public async Task Back(Course course, int number, string by)
    {
        var old =
            number == 0
                ? OwnShelf.None
                : (await db.ShelfVersions.AsNoTracking().SingleOrDefaultAsync(v => v.CourseId == course.Id && v.Number == number))?.Shelf
                    ?? throw new InputException($"there is no version {number}", "version", "a version of this course");
        await Keep(course, old, number == 0 ? "back to the studio's tables" : $"back to version {number}", by);
    }
}
