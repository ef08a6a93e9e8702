using System.Security.Cryptography;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Canons;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>What an instructor says of a course.</summary>
public sealed record CourseDetails(
    string Name,
    IsoDayOfWeek Weekday,
    LocalTime StartsAt,
    int Minutes,
    string Room,
    Approach Approach,
    string Paper,
    bool Inch,
    bool Minors,
    string Canon,
    string HeadCanon,
    string Zone
);

/// <summary>Secrets that stand in links: 160 random bits, safe in a path.</summary>
public static class Secrets
{
    public static string New() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(20));
}

public sealed class CourseActions(HarborContext db, UserManager<Person> people, MemberActions members, IClock clock)
{
    /// <summary>Mails that one course may send within a day to people who did not ask for them.</summary>
    public const int MostInvitationsADay = 300;
    public static readonly Duration InvitationLasts = Duration.FromDays(30);

    public async Task<Course> Open(Person instructor, CourseDetails details)
    {
        var course = new Course();
        Apply(course, details);
        db.Courses.Add(course);
        await db.SaveChangesAsync();
        // Once it has its number: who is in it is a line of its log.
        course.Members.Add(new() { Person = instructor, Role = CourseRole.Instructor });
        await db.SaveChangesAsync();
        return course;
    }

    /// <param name="said">The course's name, typed, where it is taken out of under 18.</param>
    public async Task Change(Course course, CourseDetails details, string? said = null, string? reason = null)
    {
        if (course.Minors && !details.Minors)
            await members.CheckOfAge(course, said, reason);
        var (figures, heads) = (course.Canon, course.HeadCanon);
        foreach (var (subject, was, now) in new[] { ("figure", figures, details.Canon), ("head", heads, details.HeadCanon) })
            if (was != now)
                await SchoolActions.KeepReleased(db, course, subject);
        Apply(course, details);
        // Another school was chosen from the table: the course's own version of the one before is used no longer.
        if (course.Canon != figures)
            course.OwnFigure = null;
        if (course.HeadCanon != heads)
            course.OwnHead = null;
        await db.SaveChangesAsync();
    }

    private static void Apply(Course c, CourseDetails d)
    {
        var name = Names.Checked(d.Name, "Name", 80);
        if (d.Minutes is < Planner.LeastMinutes or > Planner.MostMinutes)
            throw new InputException(
                $"a meeting of {d.Minutes} min",
                "Minutes",
                $"{Planner.LeastMinutes} to {Planner.MostMinutes} minutes"
            );
        if (d.Room.Length > 80)
            throw new InputException("the room's name is too long", "Room", "up to 80 letters");
        PaperSize.Parse(d.Paper);
        if (CanonTable.Get(d.Canon).Subject != "figure")
            throw new InputException(
                $"'{d.Canon}' is a canon of heads",
                "Canon",
                string.Join(" | ", CanonTable.OfFigures.Select(c => c.Id))
            );
        if (CanonTable.Get(d.HeadCanon).Subject != "head")
            throw new InputException(
                $"'{d.HeadCanon}' is a canon of figures",
                "HeadCanon",
                string.Join(" | ", CanonTable.OfHeads.Select(c => c.Id))
            );
        if (DateTimeZoneProviders.Tzdb.GetZoneOrNull(d.Zone) is null)
            throw new InputException($"unknown time zone '{d.Zone}'", "Zone", "a zone such as Europe/Berlin");
        (c.Name, c.Weekday, c.StartsAt, c.Minutes, c.Room, c.Approach, c.Paper, c.Inch, c.Minors, c.Canon, c.HeadCanon, c.Zone) = (
            name,
            d.Weekday,
            d.StartsAt,
            d.Minutes,
            d.Room.Trim(),
            d.Approach,
            d.Paper,
            d.Inch,
            d.Minors,
            d.Canon,
            d.HeadCanon,
            d.Zone
        );
    }

    /// <summary>Mail addresses that the roster need not ask again: members and open invitations.</summary>
    public async Task<HashSet<string>> KnownMails(int courseId)
    {
        var now = clock.GetCurrentInstant();
        return
        [
            .. (
                await db
                    .Memberships.Where(m => m.CourseId == courseId)
                    .Select(m => m.Person.Email!)
                    .Concat(db.Invitations.Where(i => i.CourseId == courseId && i.JoinedAt == null && i.Expires > now).Select(i => i.Mail))
                    .ToListAsync()
            ).Select(m => m.ToLowerInvariant()),
        ];
    }

    /// <summary>Ends an invitation: its link opens nothing from now on, and the mail may be invited again.</summary>
    public async Task Withdraw(Course course, int invitation)
    {
        var now = clock.GetCurrentInstant();
        var open = await db.Invitations.SingleOrDefaultAsync(i =>
            i.Id == invitation && i.CourseId == course.Id && i.JoinedAt == null && i.Expires > now
        );
        if (open is null)
            throw new InputException("that invitation is not open any more", "invitation", "an invitation that is listed as open");
        open.Expires = now;
        await db.SaveChangesAsync();
    }

    /// <summary>Invites every row of a roster, or none: a row with an error refuses the whole.</summary>
    public async Task<IReadOnlyList<Invitation>> Invite(Course course, Roster roster)
    {
        if (!roster.CanImport)
            throw new InputException(
                roster.Error ?? $"{Say.Plural(roster.Rows.Count(r => r.Error is not null), "row")} can't be taken",
                "roster",
                "a list in which every row is right"
            );
        var now = clock.GetCurrentInstant();
        var today = await db.Invitations.CountAsync(i => i.CourseId == course.Id && i.SentAt > now - Duration.FromDays(1));
        if (today + roster.Rows.Count > MostInvitationsADay)
            throw new InputException(
                $"{roster.Rows.Count} invitations after {today} within a day",
                "roster",
                $"{MostInvitationsADay} a day; the rest tomorrow"
            );
        var mails = roster.Rows.Select(r => r.Mail).ToList();
        // One that ran out or was withdrawn is taken up again, with a new link.
        var earlier = await db.Invitations.Where(i => i.CourseId == course.Id && mails.Contains(i.Mail)).ToDictionaryAsync(i => i.Mail);
        var invitations = new List<Invitation>();
        foreach (var r in roster.Rows)
        {
            if (!earlier.TryGetValue(r.Mail, out var i))
                db.Invitations.Add(i = new() { CourseId = course.Id, Mail = r.Mail });
            (i.Name, i.Token, i.SentAt, i.Expires, i.JoinedAt) = (r.Name, Secrets.New(), now, now + InvitationLasts, null);
            invitations.Add(i);
        }
        db.Outbox.AddRange(
            invitations.Select(i => new OutboxMail
            {
                CourseId = course.Id,
                To = i.Mail,
                Subject = $"Join {course.Name}",
                Body = $"{i.Name}, you are invited to {course.Name}. Open the link and choose a password. It holds for 30 days.",
                Link = $"/join/{i.Token}",
                SentAt = now,
            })
        );
        await db.SaveChangesAsync();
        return invitations;
    }

    public Task<Invitation?> OpenInvitation(string token)
    {
        var now = clock.GetCurrentInstant();
        return db.Invitations.Include(i => i.Course).SingleOrDefaultAsync(i => i.Token == token && i.JoinedAt == null && i.Expires > now);
    }

    /// <summary>Takes an invitation up: a new account, or the account of that mail when its password is right.</summary>
    /// <returns>The person, or what Identity has against the password.</returns>
    public async Task<(Person? Person, IReadOnlyList<string> Errors)> Join(Invitation invitation, string password)
    {
        var person = await people.FindByEmailAsync(invitation.Mail);
        var isNew = person is null;
        if (person is null)
        {
            person = new Person
            {
                UserName = invitation.Mail,
                Email = invitation.Mail,
                Name = invitation.Name,
                EmailConfirmed = true,
            };
            var made = await people.CreateAsync(person, password);
            if (!made.Succeeded)
                return (null, [.. made.Errors.Select(e => e.Description)]);
        }
        else if (!await people.CheckPasswordAsync(person, password))
            return (null, ["This mail has an account already, and the password is not its own."]);
        // Whoever comes into a course for under 18 counts as such until somebody says otherwise; whoever is, makes another course one.
        // An account that was there before is taken at its word.
        if (invitation.Course.Minors && isNew)
            person.Minor = true;
        invitation.Course.Minors |= person.Minor;
        invitation.JoinedAt = clock.GetCurrentInstant();
        // Whoever holds the link and the password is here from now on.
        if (Visit.Now is { } visit)
            (visit.PersonId, visit.Name) = (person.Id, person.Name);
        if (!await db.Memberships.AnyAsync(m => m.CourseId == invitation.CourseId && m.PersonId == person.Id))
        {
            // Past the highest: somebody may have gone from the middle.
            var last = await db.Memberships.Where(m => m.CourseId == invitation.CourseId).MaxAsync(m => m.Seat);
            db.Memberships.Add(
                new()
                {
                    CourseId = invitation.CourseId,
                    Person = person,
                    Role = CourseRole.Student,
                    Seat = (last ?? 0) + 1,
                }
            );
            await TakePart(invitation.Course, person.Id);
        }
        await db.SaveChangesAsync();
        return (person, []);
    }

    /// <summary>Gives somebody who joins a place in every project that still runs; who comes back has theirs.</summary>
    private async Task TakePart(Course course, int student)
    {
        var today = clock.GetCurrentInstant().InZone(course.TimeZone).Date;
        var running = await db
            .Projects.Where(p => p.CourseId == course.Id && p.Ends >= today && p.Works.All(w => w.StudentId != student))
            .Select(p => p.Id)
            .ToListAsync();
        db.ProjectWorks.AddRange(running.Select(p => new ProjectWork { ProjectId = p, StudentId = student }));
    }

    /// <summary>Puts a mail into the outbox.</summary>
    public async Task Mail(int? courseId, string to, string subject, string body, string link)
    {
        db.Outbox.Add(
            new()
            {
                CourseId = courseId,
                To = to,
                Subject = subject,
                Body = body,
                Link = link,
                SentAt = clock.GetCurrentInstant(),
            }
        );
        await db.SaveChangesAsync();
    }
}
