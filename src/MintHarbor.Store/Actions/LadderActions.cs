using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>Where a Long-first course stands on the ladder, what its sheets say of the next rung, and the moves.</summary>
public sealed class LadderActions(HarborContext db, SheetContexts contexts, IClock clock)
{
    public const int LongestReason = 300;

    /// <summary>Reads the last sheets of every student against the rung's measures; three queries whatever the course's size.</summary>
    public async Task<RungReading> Read(Course course)
    {
        var ladder = Ladder.Default;
        var rung = ladder.Get(course.Rung);
        var students = await db
            .Memberships.Where(m => m.CourseId == course.Id && m.Role == CourseRole.Student)
            .Select(m => m.PersonId)
            .ToListAsync();
        if (rung.Measures.Count == 0)
            return ladder.Read(rung.Id, [.. students.Select(s => new RungEvidence(s, 0))]);
        var since = clock.GetCurrentInstant() - Duration.FromDays(240);
        var rows = await db
            .Sheets.AsNoTracking()
            .Where(s =>
                s.CourseId == course.Id
                && s.State != SheetState.Placing
                && s.State != SheetState.Example
                && s.SubmittedAt > since
                && db.Sheets.Count(n =>
                    n.CourseId == course.Id && n.StudentId == s.StudentId && n.State != SheetState.Placing && n.SubmittedAt > s.SubmittedAt
                ) < ladder.SheetsInside
            )
            .OrderByDescending(s => s.SubmittedAt)
            .Select(SheetContexts.AsJudged)
            .ToListAsync();
        var by = (await contexts.Of(rows, course))
            .GroupBy(c => c.Sheet.StudentId)
            .ToDictionary(g => g.Key, g => Ladder.Run(rung, g.Select(c => c.Findings)));
        return ladder.Read(rung.Id, [.. students.Select(s => new RungEvidence(s, by.GetValueOrDefault(s)))]);
    }

    public Task<List<RungMove>> History(Course course) =>
        db.RungMoves.AsNoTracking().Where(m => m.CourseId == course.Id).OrderByDescending(m => m.At).Take(20).ToListAsync();

    /// <summary>Moves the course to a rung. One step up needs the evidence, anything else the instructor's reason.</summary>
    public async Task Move(Course course, string to, string reason, string by)
    {
        var ladder = Ladder.Default;
        ladder.Get(to, "Rung");
        reason = reason.Trim();
        if (to == course.Rung)
            throw new InputException("the course stands on that rung already", "Rung", "another rung");
        if (reason.Length > LongestReason)
            throw new InputException($"a reason of {reason.Length} letters", "Reason", $"up to {LongestReason} letters");
        var reading = await Read(course);
        var earned = reading.Open && reading.Next?.Id == to;
        if (!earned && reason == "")
            throw new InputException(
                $"the evidence does not open that rung. {reading.Says} Your word does, with a reason",
                "Reason",
                "one line why"
            );
        db.RungMoves.Add(
            new()
            {
                CourseId = course.Id,
                From = course.Rung,
                To = to,
                Evidence = reading.Says,
                Reason = reason,
                By = by,
                At = clock.GetCurrentInstant(),
            }
        );
        course.Rung = to;
        await db.SaveChangesAsync();
    }
}
