using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Practice;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>Timed drawings that were gone through, and the line of every day.</summary>
public sealed class SittingActions(HarborContext db, IClock clock)
{
    public const int LongestOf = 80;

    /// <summary>Takes a sitting once, however often it is sent; what it was given for is done with it.</summary>
    /// <exception cref="InputException">A log that is none.</exception>
    public async Task Take(Course course, int studentId, Guid key, string? log, int? assignmentId, Instant? ended = null)
    {
        var drawn = Read(log).Checked();
        if (key == Guid.Empty)
            throw new InputException("a sitting without a key", "key", "the key that the page gave it");
        if (await db.PracticeSittings.AnyAsync(s => s.StudentId == studentId && s.Key == key))
            return;
        var now = clock.GetCurrentInstant();
        var given = assignmentId is { } id
            ? await db.Assignments.SingleOrDefaultAsync(a => a.Id == id && a.CourseId == course.Id && a.StudentId == studentId)
            : null;
        db.PracticeSittings.Add(
            new()
            {
                CourseId = course.Id,
                StudentId = studentId,
                AssignmentId = given?.Id,
                Key = key,
                Log = drawn,
                // What waited for the line is as old as the page says, but never from the future.
                EndedAt = ended is { } e && e <= now && e > now - Duration.FromDays(60) ? e : now,
            }
        );
        if (given is not null)
            given.DoneAt ??= now;
        await db.SaveChangesAsync();
    }

    private static SittingLog Read(string? log)
    {
        try
        {
            return JsonSerializer.Deserialize<SittingLog>(log ?? "", HarborContext.Json) ?? throw new JsonException();
        }
        catch (JsonException)
        {
            throw new InputException("what was sent is no sitting", "log", "exercise, subject and drawings");
        }
    }

    /// <summary>Today's line: the first of the day, or a second one over it. A line drawn on paper has no trace.</summary>
    /// <exception cref="InputException">A drawing that is none, or words too long.</exception>
    public async Task<DailyLine> Line(Course course, int studentId, string? trace, string? of)
    {
        var drawn = string.IsNullOrEmpty(trace) ? null : PenTrace.Read(trace).Write();
        var words = (of ?? "").Trim();
        if (words.Length > LongestOf)
            throw new InputException($"{words.Length} letters", "of", $"up to {LongestOf} letters");
        var now = clock.GetCurrentInstant();
        var day = Today(course, now);
        var line = await db.DailyLines.FindAsync(course.Id, studentId, day);
        if (line is null)
            db.DailyLines.Add(
                line = new()
                {
                    CourseId = course.Id,
                    StudentId = studentId,
                    Day = day,
                    Trace = drawn,
                    Of = words,
                    At = now,
                }
            );
        else if (drawn is not null && line.Trace is null)
            (line.Trace, line.At) = (drawn, now);
        // The same drawing sent again is no second one; the database writes its JSON in a way of its own.
        else if (drawn is not null && drawn != PenTrace.Read(line.Trace).Write())
            line.Second = drawn;
        if (words != "")
            line.Of = words;
        await db.SaveChangesAsync();
        return line;
    }

    /// <summary>The day that it is where the course is held.</summary>
    public static LocalDate Today(Course course, Instant now) => now.InZone(course.TimeZone).Date;
}
