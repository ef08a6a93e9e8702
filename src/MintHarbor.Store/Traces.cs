using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Diagnostics;
using MintHarbor.Core;
using MintHarbor.Core.Projects;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store;

/// <summary>Writes into the log what changes a grade, a critique's release, a role, a course's settings, a child's protection or an account,
/// with the change and in its transaction: no action can leave it out.</summary>
public sealed class Traces(IClock clock) : SaveChangesInterceptor
{
    public override ValueTask<InterceptionResult<int>> SavingChangesAsync(
        DbContextEventData eventData,
        InterceptionResult<int> result,
        CancellationToken cancellationToken = default
    )
    {
        if (eventData.Context is HarborContext db && Visit.Now is { } visit)
        {
            var at = clock.GetCurrentInstant();
            foreach (var entry in db.ChangeTracker.Entries().ToList().SelectMany(Of))
            {
                (entry.At, entry.ById, entry.By, entry.Why) = (at, visit.PersonId, visit.Name, visit.Why);
                entry.CourseId ??= entry.Kind == LogKind.Account ? null : visit.CourseId;
                db.Log.Add(entry);
            }
        }
        return ValueTask.FromResult(result);
    }

    private static IEnumerable<LogEntry> Of(EntityEntry entry) =>
        entry.Entity switch
        {
            ProjectWork w when entry.State == EntityState.Modified => Grade(entry, w).Select(l => Of(w, l)),
            Sheet s when entry.State == EntityState.Modified && Changed(entry, nameof(Sheet.ReleasedAt)) =>
            [
                Line(LogKind.Critique, $"sheet {s.Code}", s.ReleasedAt is null ? "reopened" : "released"),
            ],
            Membership m => Member(entry, m),
            Invitation i
                when Changed(entry, nameof(Invitation.Expires)) && i.Expires < (Instant)entry.OriginalValues[nameof(Invitation.Expires)]! =>
                [Line(LogKind.Removal, $"the invitation of {i.Name}", "withdrawn")],
            _ when entry.State == EntityState.Deleted && Gone(entry.Entity) is { } what => [Line(LogKind.Removal, what, "taken away")],
            Course c when entry.State == EntityState.Modified => Settings(entry, c),
            Person p when entry.State == EntityState.Modified => Account(entry, p),
            ShelfVersion v when entry.State == EntityState.Added =>
            [
                Line(LogKind.Settings, "the shelf", v.What, "", $"version {v.Number}"),
            ],
            _ => [],
        };

    /// <summary>How something is called that a person takes away; null for what goes with something else.</summary>
    private static string? Gone(object entity) =>
        entity switch
        {
            Sheet s => $"sheet {s.Code}",
            Meeting m => $"meeting {m.Number}",
            Project p => $"the project {p.Name}",
            Course c => $"the course {c.Name}",
            Assignment a => $"{a.Exercise ?? a.Drill ?? "a drill sheet"}, given to {a.Student?.Name ?? $"person {a.StudentId}"}",
            DrillRound r => $"a round of {r.Kind}",
            PaperSheet s => $"drill sheet {s.Printed.Code.Digits}",
            _ => null,
        };

    private static IEnumerable<LogEntry> Grade(EntityEntry entry, ProjectWork w)
    {
        // Rows and stages by the names that stand in the grade book.
        var template = w.Project?.Shape;
        string Row(string id) => template?.Rubric.FirstOrDefault(r => r.Id == id)?.Name.ToLowerInvariant() ?? id;
        string Stage(string id) => template?.Stages.FirstOrDefault(s => s.Id == id)?.Name.ToLowerInvariant() ?? id;
        var about = w.Student is { } s && w.Project is { } p ? $"{s.Name}, {p.Name}" : $"work {w.Id}";
        if (Changed(entry, nameof(ProjectWork.ReleasedAt)))
            yield return Line(LogKind.Grade, about, w.ReleasedAt is null ? "reopened" : "released");
        foreach (var line in Two(entry, w, about, Row))
            yield return line;
        foreach (
            var (field, now, what) in new[]
            {
                (nameof(ProjectWork.Levels), w.Levels, "level"),
                (nameof(ProjectWork.Again), w.Again, "redo's level"),
            }
        )
        {
            // What two give is not read here by the other before both are through; it stands beside what they settle.
            if (!Changed(entry, field) || w.Graders is { IsSettled: false })
                continue;
            var was = (Dictionary<string, int>)entry.OriginalValues[field]!;
            foreach (var row in now.Keys.Union(was.Keys).Where(k => Level(was, k) != Level(now, k)))
                yield return Line(LogKind.Grade, about, $"{what} of {Row(row)}", Level(was, row), Level(now, row));
        }
        foreach (
            var (field, what, said) in new (string, string, Func<object?, string>)[]
            {
                (nameof(ProjectWork.ExtendedTo), "own end", v => v is LocalDate d ? Say.Date(d) : "the project's"),
                (nameof(ProjectWork.HandedInAt), "handed in", v => v is Instant i ? Say.Date(i.InUtc().Date) : "not yet"),
                (nameof(ProjectWork.Standing), "standing", v => $"{v}".ToLowerInvariant()),
                (nameof(ProjectWork.Comment), "comment", v => $"{v}".Length == 0 ? "none" : $"{v}"),
            }
        )
            if (Changed(entry, field))
                yield return Line(LogKind.Grade, about, what, said(entry.OriginalValues[field]), said(entry.CurrentValues[field]));
        if (Changed(entry, nameof(ProjectWork.Gates)))
        {
            var was = (Dictionary<string, GateState>)entry.OriginalValues[nameof(ProjectWork.Gates)]!;
            foreach (var (stage, now) in w.Gates)
                if (now != was.GetValueOrDefault(stage))
                    yield return Line(LogKind.Grade, about, $"gate of {Stage(stage)}", Said(was.GetValueOrDefault(stage)), Said(now));
        }
    }

    /// <summary>Who came to grade it as well, and what the two settled, beside what each had given.</summary>
    private static IEnumerable<LogEntry> Two(EntityEntry entry, ProjectWork w, string about, Func<string, string> row)
    {
        if (!Changed(entry, nameof(ProjectWork.Graders)))
            yield break;
        var was = (TwoGraders?)entry.OriginalValues[nameof(ProjectWork.Graders)];
        var now = w.Graders;
        if (Name(was) is var before && Name(now) is var after && before != after)
            yield return Line(LogKind.Grade, about, "second grader", before, after);
        foreach (var (id, level) in now?.Settled ?? new Dictionary<string, int>())
            if (was?.Settled.GetValueOrDefault(id, -1) != level)
                yield return Line(
                    LogKind.Grade,
                    about,
                    $"settled level of {row(id)}",
                    was is { IsSettled: true } ? Level(was.Settled, id) : $"{Level(w.Levels, id)} and {Level(now!.Levels, id)}",
                    Level(now!.Settled, id)
                );

        static string Name(TwoGraders? two) => two is null ? "none" : two.Second?.Name ?? "asked for";
    }

    private static string Level(IReadOnlyDictionary<string, int> levels, string row) =>
        levels.TryGetValue(row, out var n) ? n.ToString(CultureInfo.InvariantCulture) : "none";

    private static string Said(GateState? gate) =>
        gate is null ? "shut"
        : gate.WaivedBecause is { } because ? $"waived: {because}"
        : gate.MeasuredOn ?? (gate.Said is { } by ? $"the word of {by}" : Say.Plural(gate.Ticked.Count, "point"));

    private static IEnumerable<LogEntry> Member(EntityEntry entry, Membership m)
    {
        var about = m.Person?.Name ?? $"person {m.PersonId}";
        if (entry.State == EntityState.Added)
            yield return In(m.CourseId, Line(LogKind.Role, about, "joined", "", Role(m.Role)));
        else if (entry.State == EntityState.Deleted)
            yield return In(m.CourseId, Line(LogKind.Role, about, "removed", Role(m.Role)));
        else if (entry.State == EntityState.Modified)
        {
            if (Changed(entry, nameof(Membership.Role)))
                yield return In(
                    m.CourseId,
                    Line(LogKind.Role, about, "role", Role((CourseRole)entry.OriginalValues[nameof(Membership.Role)]!), Role(m.Role))
                );
            if (Changed(entry, nameof(Membership.ConsentOn)))
                yield return In(
                    m.CourseId,
                    Line(
                        LogKind.Child,
                        about,
                        "guardian's consent",
                        $"{entry.OriginalValues[nameof(Membership.ConsentOn)]}",
                        m.ConsentOn is null ? "taken back" : $"{m.ConsentOn}: {m.ConsentFor}"
                    )
                );
        }
    }

    private static string Role(CourseRole role) => role.ToString().ToLowerInvariant();

    /// <summary>What of a course is no setting: it has a history of its own, or is a secret.</summary>
    private static readonly string[] NoSetting = [nameof(Course.Rung), nameof(Course.FeedSecret), nameof(Course.EndedAt)];

    private static IEnumerable<LogEntry> Settings(EntityEntry entry, Course c)
    {
        var lines = entry
            .Properties.Where(p => p.IsModified && !NoSetting.Contains(p.Metadata.Name) && !Equals(p.OriginalValue, p.CurrentValue))
            .Select(p =>
                In(
                    c.Id,
                    Line(
                        p.Metadata.Name == nameof(Course.Minors) ? LogKind.Child : LogKind.Settings,
                        c.Name,
                        p.Metadata.Name,
                        Short(p.OriginalValue),
                        Short(p.CurrentValue)
                    )
                )
            );
        return Changed(entry, nameof(Course.EndedAt))
            ? lines.Append(In(c.Id, Line(LogKind.Settings, c.Name, c.EndedAt is null ? "opened again" : "ended")))
            : lines;
    }

    private static IEnumerable<LogEntry> Account(EntityEntry entry, Person p)
    {
        if (Changed(entry, nameof(Person.PasswordHash)))
            yield return Line(LogKind.Account, p.Name, "password changed");
        if (Changed(entry, nameof(Person.Email)))
            yield return Line(LogKind.Account, p.Name, "mail changed");
        if (Changed(entry, nameof(Person.Name)))
            yield return Line(LogKind.Account, p.Name, "name", $"{entry.OriginalValues[nameof(Person.Name)]}", p.Name);
        if (Changed(entry, nameof(Person.Minor)))
            yield return Line(
                LogKind.Child,
                p.Name,
                "under 18",
                $"{entry.OriginalValues[nameof(Person.Minor)]}".ToLowerInvariant(),
                $"{p.Minor}".ToLowerInvariant()
            );
    }

    private static bool Changed(EntityEntry entry, string property) =>
        entry.Property(property) is { IsModified: true } p && !Equals(p.OriginalValue, p.CurrentValue);

    private static LogEntry Line(LogKind kind, string about, string what, string was = "", string now = "") =>
        new()
        {
            Kind = kind,
            About = about,
            What = what,
            Was = was,
            Now = now,
        };

    private static LogEntry Of(ProjectWork work, LogEntry entry)
    {
        entry.WorkId = work.Id;
        return entry;
    }

    private static LogEntry In(int course, LogEntry entry)
    {
        entry.CourseId = course;
        return entry;
    }

    /// <summary>A value as a line of the log holds it: the plan of a room is no line.</summary>
    private static string Short(object? value) =>
        Convert.ToString(value, CultureInfo.InvariantCulture) is { } text && text.Length <= 80 ? text : "…";
}
