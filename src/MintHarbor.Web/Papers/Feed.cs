using Microsoft.EntityFrameworkCore;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using MintHarbor.Web.Drawing;
using NodaTime;

namespace MintHarbor.Web.Papers;

/// <summary>A course's meetings and what is due for all of it as a calendar: whoever has the link reads it. It names no student, and
/// holds nothing that was prescribed to one.</summary>
public static class Feed
{
    public static async Task<IResult> Serve(string secret, HarborContext db, IClock clock, HttpContext http)
    {
        var course = secret.Length == 0 ? null : await db.Courses.AsNoTracking().SingleOrDefaultAsync(c => c.FeedSecret == secret);
        if (course is null)
            return Results.NotFound();
        var now = clock.GetCurrentInstant();
        var since = now.InUtc().Date.PlusMonths(-6);
        var meetings = await db
            .Meetings.AsNoTracking()
            .Where(m => m.CourseId == course.Id && m.Date >= since)
            .OrderBy(m => m.Date)
            .Select(m => new
            {
                m.Id,
                m.Number,
                m.Date,
                m.StartsAt,
                m.Minutes,
                m.Online,
                m.Plan,
            })
            .Take(200)
            .ToListAsync();
        var due = await db
            .Assignments.AsNoTracking()
            .Where(a => a.CourseId == course.Id && a.ForAll && a.Due > now - Duration.FromDays(60))
            .Select(a => new
            {
                a.Exercise,
                a.Drill,
                a.Due,
            })
            .Distinct()
            .OrderBy(a => a.Due)
            .Take(200)
            .ToListAsync();
        var projects = await db
            .Projects.AsNoTracking()
            .Where(p => p.CourseId == course.Id && p.Ends >= since)
            .Select(p => new
            {
                p.Id,
                p.Name,
                p.Stages,
            })
            .ToListAsync();
        List<FeedEvent> events =
        [
            .. meetings.Select(m => new FeedEvent(
                $"meeting-{m.Id}@mint-harbor",
                m.Date + m.StartsAt,
                m.Minutes,
                course.Zone,
                $"{course.Name}, meeting {m.Number}",
                $"{m.Plan.Idea} Bring: {string.Join(", ", Core.Sessions.Materials.Bring(course.Shelf.Materials, m.Plan))}.",
                m.Online ? "online" : course.Room
            )),
        ];
        events.AddRange(
            due.Select(a => new FeedEvent(
                $"due-{a.Exercise ?? a.Drill}-{a.Due.ToUnixTimeSeconds()}@mint-harbor",
                a.Due.InZone(Words.Zone(course)).LocalDateTime,
                0,
                course.Zone,
                $"Due: {Words.Of(new Assignment { Exercise = a.Exercise, Drill = a.Drill }, course).ToLowerInvariant()}",
                "",
                ""
            ))
        );
        events.AddRange(
            projects.SelectMany(p =>
                p.Stages.Select(s => new FeedEvent(
                    $"stage-{p.Id}-{s.StageId}@mint-harbor",
                    s.Due.At(course.StartsAt),
                    0,
                    course.Zone,
                    $"{p.Name}: {s.StageId.Replace('-', ' ')} due",
                    "",
                    ""
                ))
            )
        );
        http.Response.Headers.CacheControl = "private, max-age=300";
        return Results.Text(Calendars.Write(course.Name, events, now), "text/calendar; charset=utf-8");
    }
}
