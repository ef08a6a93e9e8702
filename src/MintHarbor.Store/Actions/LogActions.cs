using Microsoft.EntityFrameworkCore;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>Lines of the log that no change of a row tells of, and its reading.</summary>
public sealed class LogActions(HarborContext db, IClock clock)
{
    public const int APage = 100;

    /// <summary>For so long one look at one child's sheet is one line.</summary>
    private static readonly Duration OneLook = Duration.FromHours(1);

    public async Task Exported(Course course, string what)
    {
        db.Log.Add(Line(LogKind.Export, what, "taken out", course.Id));
        await db.SaveChangesAsync();
    }

    /// <summary>Somebody of the staff looks at the work of somebody under 18: once an hour.</summary>
    public async Task Viewed(Course course, Sheet sheet)
    {
        var (at, about, visit) = (clock.GetCurrentInstant(), $"sheet {sheet.Code} of {sheet.Student.Name}", Visit.Now);
        var (by, name, kind, since) = (visit?.PersonId, visit?.Name ?? "", LogKind.View.ToString(), at - OneLook);
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into log (at, course_id, kind, by_id, by, about, what, was, now, why)
            select {at}, {course.Id}, {kind}, {by}, {name}, {about}, 'looked at', '', '', ''
            where not exists (select 1 from log where kind = {kind} and by_id = {by} and about = {about} and course_id = {course.Id} and at > {since})
            """
        );
    }

    public async Task SignedIn(Person person)
    {
        var line = Line(LogKind.Account, person.Name, "signed in", null);
        (line.ById, line.By) = (person.Id, person.Name);
        db.Log.Add(line);
        await db.SaveChangesAsync();
    }

    /// <param name="person">Null for a mail that nobody has: then what was typed is not kept, it may be a password.</param>
    public async Task Failed(Person? person)
    {
        var line = Line(LogKind.Account, person?.Name ?? "a mail that nobody has", "wrong password", null);
        line.ById = person?.Id;
        db.Log.Add(line);
        await db.SaveChangesAsync();
    }

    private LogEntry Line(LogKind kind, string about, string what, int? course) =>
        new()
        {
            At = clock.GetCurrentInstant(),
            CourseId = course,
            Kind = kind,
            ById = Visit.Now?.PersonId,
            By = Visit.Now?.Name ?? "",
            About = about,
            What = what,
        };

    /// <summary>What happened in a course, and to the accounts of its members; the newest first.</summary>
    public IQueryable<LogEntry> Of(Course course, LogKind? kind)
    {
        var members = db.Memberships.Where(m => m.CourseId == course.Id).Select(m => (int?)m.PersonId);
        return db
            .Log.AsNoTracking()
            .Where(l => l.CourseId == course.Id || (l.Kind == LogKind.Account && members.Contains(l.ById)))
            .Where(l => kind == null || l.Kind == kind)
            .OrderByDescending(l => l.Id);
    }
}
