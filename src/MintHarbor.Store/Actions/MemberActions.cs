using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>What is said of one member of a course: of age or not, a guardian's consent, in or out.</summary>
public sealed class MemberActions(HarborContext db, IClock clock)
{
    public const int LongestReason = 200;

    /// <summary>Says that a student is under 18, or no more. A course that one is in is one for under 18; that somebody is of age needs a reason,
    /// since it opens to them what was closed.</summary>
    public async Task SetMinor(Course course, Person student, bool minor, string? reason)
    {
        Because(reason, !minor && student.Minor ? "that somebody is of age needs a reason" : null);
        student.Minor = minor;
        if (minor)
            foreach (var c in await db.Courses.Where(c => c.Id == course.Id || c.Members.Any(m => m.PersonId == student.Id)).ToListAsync())
                c.Minors = true;
        await db.SaveChangesAsync();
    }

    /// <summary>Takes a course out of under 18: by its name and with a reason, and not while somebody under 18 is in it.</summary>
    /// <param name="said">The course's name, typed.</param>
    public async Task CheckOfAge(Course course, string? said, string? reason)
    {
        var minors = await db
            .Memberships.Where(m => m.CourseId == course.Id && m.Role == CourseRole.Student && m.Person.Minor)
            .Select(m => m.Person.Name)
            .OrderBy(n => n)
            .ToListAsync();
        if (minors.Count > 0)
        {
            List<string> named = minors.Count > 4 ? [.. minors.Take(3), $"{minors.Count - 3} more"] : minors;
            throw new InputException(
                $"{Say.List(named)} {(minors.Count == 1 ? "is" : "are")} under 18",
                "Form.Minors",
                "a course in which everybody is of age: say so on each student's page first"
            );
        }
        ByName(course.Name, said, "Said", "it opens undraped figures to everybody in the course");
        Because(reason, "the reason is missing");
    }

    /// <summary>What a guardian agreed to; null takes it back.</summary>
    public async Task Consent(Membership student, LocalDate? on, string? use)
    {
        use = (use ?? "").Trim();
        if (on is { } day)
        {
            if (day > clock.GetCurrentInstant().InUtc().Date.PlusDays(1))
                throw new InputException($"a consent of {day}", "on", "a day that has been");
            if (use.Length is 0 or > 120)
                throw new InputException(
                    use == "" ? "what for is missing" : $"{use.Length} letters",
                    "use",
                    "1 to 120 letters: a show, a catalogue"
                );
        }
        (student.ConsentOn, student.ConsentFor) = (on, on is null ? "" : use);
        await db.SaveChangesAsync();
    }

    /// <summary>Whether pictures of this student's work may leave the course: of age, or with a guardian's consent. Whatever hands a picture
    /// to somebody who is not in the course asks here.</summary>
    public static bool MayLeave(Membership student) => !student.Person.Minor || student.ConsentOn is not null;

    /// <summary>Takes a student out of a course. Their work stays, to be found again when they come back; places of meetings to come are free.</summary>
    public async Task Remove(Course course, Membership student, string? reason)
    {
        Because(reason);
        var today = clock.GetCurrentInstant().InZone(course.TimeZone).Date;
        await db
            .Seatings.Where(s => s.PersonId == student.PersonId && s.Meeting.CourseId == course.Id && s.Meeting.Date >= today)
            .ExecuteDeleteAsync();
        await db
            .Invitations.Where(i => i.CourseId == course.Id && i.Mail == student.Person.Email)
            .ExecuteUpdateAsync(u => u.SetProperty(i => i.Expires, clock.GetCurrentInstant()));
        db.Memberships.Remove(student);
        await db.SaveChangesAsync();
    }

    /// <summary>The reason goes into the log with what is written next.</summary>
    /// <param name="missing">What is said where there is none; null where none is wanted.</param>
    /// <returns>The reason without blanks round it.</returns>
    /// <exception cref="InputException">Missing, or too long.</exception>
    internal static string Because(string? reason, string? missing = null)
    {
        reason = (reason ?? "").Trim();
        if (reason == "" && missing is not null)
            throw new InputException(missing, "reason", "one line, kept in the log");
        if (reason.Length > LongestReason)
            throw new InputException($"a reason of {reason.Length} letters", "reason", $"up to {LongestReason} letters");
        if (Visit.Now is { } visit)
            visit.Why = reason;
        return reason;
    }

    /// <summary>Asks for a name where something can't be undone.</summary>
    /// <exception cref="InputException">Another name, or none.</exception>
    internal static void ByName(string name, string? said, string field, string because)
    {
        if (!string.Equals((said ?? "").Trim(), name.Trim(), StringComparison.OrdinalIgnoreCase))
            throw new InputException($"'{(said ?? "").Trim()}' is not its name, and {because}", field, name);
    }
}
