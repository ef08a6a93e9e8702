using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>What was put in wrongly is taken out again by whoever put it in. What can't be undone is asked for by its name.</summary>
public sealed class TakeBackActions(HarborContext db, IntakeActions intake, IClock clock)
{
    /// <summary>Ends a course: all of it stays to be read, and nothing is written in it.</summary>
    public async Task End(Course course)
    {
        course.EndedAt ??= clock.GetCurrentInstant();
        await db.SaveChangesAsync();
    }

    public async Task OpenAgain(Course course)
    {
        course.EndedAt = null;
        await db.SaveChangesAsync();
    }

    /// <summary>Takes away a course that was opened by mistake: nobody else has joined, and nothing was handed in.</summary>
    public async Task Remove(Course course, string? said)
    {
        var others = await db.Memberships.CountAsync(m => m.CourseId == course.Id) - 1;
        var sheets = await db.Sheets.CountAsync(s => s.CourseId == course.Id);
        var notes = await db.RoomNotes.CountAsync(n => n.Meeting.CourseId == course.Id);
        if (others + sheets + notes > 0)
            throw new InputException(
                $"{Say.Plural(others, "other person", "other people")}, {Say.Plural(sheets, "sheet")} and {Say.Plural(notes, "note")} belong to it",
                "said",
                "a course with nobody and nothing in it; end this one instead"
            );
        MemberActions.ByName(course.Name, said, "said", "what is planned in it goes with it");
        // What refers to a meeting or a pose without owning it goes first.
        await db.Assignments.Where(a => a.CourseId == course.Id).ExecuteDeleteAsync();
        await db.DrillRounds.Where(r => r.CourseId == course.Id).ExecuteDeleteAsync();
        await db.PaperPhotos.Where(p => p.CourseId == course.Id).ExecuteDeleteAsync();
        await db.PaperSheets.Where(p => p.CourseId == course.Id).ExecuteDeleteAsync();
        await db.Projects.Where(p => p.CourseId == course.Id).ExecuteDeleteAsync();
        await db.Meetings.Where(m => m.CourseId == course.Id).ExecuteDeleteAsync();
        await db.Outbox.Where(o => o.CourseId == course.Id).ExecuteDeleteAsync();
        db.Courses.Remove(course);
        await db.SaveChangesAsync();
    }

    /// <summary>What goes with a project.</summary>
    public static string GoesWith(IEnumerable<ProjectWork> works)
    {
        var all = works.ToList();
        var graded = all.Count(w => w.Levels.Count > 0);
        var gates = all.Sum(w => w.Gates.Count);
        return graded + gates == 0
            ? $"{Say.Plural(all.Count, "place")} of students, none of them begun"
            : $"{Say.Plural(graded, "grade book row")} and {Say.Plural(gates, "gate")}";
    }

    /// <summary>Takes a project away with its grade book. One that has begun is asked for by its name; one whose grades are released stays.</summary>
    public async Task Remove(Project project, string? said)
    {
        var works = await db.ProjectWorks.Where(w => w.ProjectId == project.Id).ToListAsync();
        if (works.Count(w => w.ReleasedAt is not null) is > 0 and var released)
            throw new InputException(
                $"{Say.Plural(released, "grade")} of it {(released == 1 ? "is" : "are")} released",
                "said",
                "a project without a released grade"
            );
        if (works.Any(w => w.Levels.Count > 0 || w.Gates.Count > 0))
            MemberActions.ByName(project.Name, said, "said", $"{GoesWith(works)} go with it");
        db.Projects.Remove(project);
        await db.SaveChangesAsync();
    }

    /// <summary>Takes back what was given, from everybody it was given to at once; what is done stays.</summary>
    /// <returns>From how many.</returns>
    public async Task<int> Withdraw(Course course, int assignment)
    {
        var one = await db.Assignments.SingleOrDefaultAsync(a => a.Id == assignment && a.CourseId == course.Id)
            ?? throw new InputException("that is not given any more", "assignment", "something that is given");
        var open = await db
            .Assignments.Include(a => a.Student)
            .Where(a =>
                a.CourseId == course.Id
                && a.GivenAt == one.GivenAt
                && a.Due == one.Due
                && a.Exercise == one.Exercise
                && a.Drill == one.Drill
                && a.PaperBatch == one.PaperBatch
                && a.DoneAt == null
            )
            .ToListAsync();
        if (open.Count == 0)
            throw new InputException("everybody has done it", "assignment", "something that is not done yet");
        var ids = open.ConvertAll(a => a.Id);
        await db
            .DrillRounds.Where(r => r.AssignmentId != null && ids.Contains(r.AssignmentId.Value))
            .ExecuteUpdateAsync(u => u.SetProperty(r => r.AssignmentId, (int?)null));
        db.Assignments.RemoveRange(open);
        await db.SaveChangesAsync();
        return open.Count;
    }

    /// <summary>Drops a round that was begun and not finished; a finished one is part of the record.</summary>
    public async Task Drop(DrillRound round)
    {
        if (round.FinishedAt is not null)
            throw new InputException("the round is finished; it is part of the record", "round", "a round that is not finished");
        db.DrillRounds.Remove(round);
        await db.SaveChangesAsync();
    }

    /// <summary>Takes a sheet back that nobody has begun to critique: it is the student's again, to be handed in later or thrown away.</summary>
    /// <remarks>What handing it in changed of others is changed back: the first of a redo, and the rest of its set.</remarks>
    public async Task TakeBack(Sheet sheet)
    {
        if (sheet.State == SheetState.Placing)
            return;
        if (sheet.State != SheetState.Waiting || sheet.Remarks.Count > 0)
            throw new InputException(
                sheet.ReleasedAt is null ? "its critique has begun" : "its critique is released",
                "sheet",
                "a sheet that waits"
            );
        sheet.State = SheetState.Placing;
        if (sheet.SetId is { } set)
            foreach (var other in await db.Sheets.Where(s => s.SetId == set && s.State == SheetState.Kept).ToListAsync())
                other.State = SheetState.Placing;
        if (sheet.RedoOfId is { } id && !await Redone(id, but: sheet.Id))
        {
            var first = await db.Sheets.SingleAsync(s => s.Id == id);
            first.State = first.AnsweredAt is null ? SheetState.Released : SheetState.Answered;
        }
        await db.SaveChangesAsync();
    }

    private Task<bool> Redone(int sheet, int but) =>
        db.Sheets.AnyAsync(s => s.RedoOfId == sheet && s.Id != but && s.State != SheetState.Placing);

    /// <summary>Throws a sheet away that is not handed in, with its picture and its landmarks.</summary>
    public async Task ThrowAway(Sheet sheet, string? said)
    {
        MemberActions.ByName(sheet.Code, said, "said", "its picture and its marks go with it");
        await intake.Drop(sheet);
    }
}
