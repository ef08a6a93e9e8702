using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Projects;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>What makes a grade: levels, lateness, a redo, what is excused; released, and opened again with a reason.</summary>
public sealed class GradeActions(HarborContext db, IClock clock)
{
    public const int LongestComment = 1000;

    /// <summary>A level of a row; <paramref name="again"/>, of the work handed in again.</summary>
    /// <param name="by">Who gives it: it tells where two grade.</param>
    public Task Level(ProjectWork work, string rowId, int level, bool again = false, Grader? by = null)
    {
        GateActions.CheckOpen(work);
        if (work.Project.Shape.Rubric.All(r => r.Id != rowId))
            throw new InputException(
                "that row is not in the rubric",
                "row",
                string.Join(" | ", work.Project.Shape.Rubric.Select(r => r.Id))
            );
        if (level is < 0 or > Grading.TopLevel)
            throw new InputException($"level {level}", "level", "0 to 4");
        if (again)
            work.Again = new(work.Again) { [rowId] = level };
        else if (work.Graders is { } two)
            Give(work, two, by, rowId, level);
        else
            work.Levels = new(work.Levels) { [rowId] = level };
        return db.SaveChangesAsync();
    }

    /// <summary>A level of one of two: the first's are the work's own, whoever else begins is the second.</summary>
    private static void Give(ProjectWork work, TwoGraders two, Grader? by, string rowId, int level)
    {
        if (Apart(work) is not null)
            throw new InputException(
                $"{two.First.Name} and {two.Second!.Name} have both graded it and seen the other's",
                "level",
                "what the two settle"
            );
        var seat = by is null ? GraderSeat.Neither : two.SeatOf(by.Id);
        if (seat == GraderSeat.Neither)
            throw new InputException("two others grade it", "level", "one of the two, or what they settle");
        if (seat == GraderSeat.First)
            work.Levels = new(work.Levels) { [rowId] = level };
        else
            work.Graders = two with
            {
                Second = by,
                Levels = new Dictionary<string, int>(two.Levels) { [rowId] = level },
            };
    }

    /// <summary>How far two who grade it lie apart; null where one does, or one of them isn't through.</summary>
    public static GradersApart? Apart(ProjectWork work) =>
        work.Graders is { } two ? GradersApart.Of(work.Project.Shape.Rubric, work.Levels, two.Levels) : null;

    /// <summary>What counts how much over the term.</summary>
    public Task Keep(Course course, BookRules rules)
    {
        course.Book = rules.Checked();
        return db.SaveChangesAsync();
    }

    /// <summary>A second is asked to grade it, unseen by the first; the levels that stand are the first's.</summary>
    public async Task AskSecond(ProjectWork work, Grader first)
    {
        GateActions.CheckOpen(work);
        if (work.Graders is not null)
            return;
        if (work.Again.Count > 0)
            throw new InputException("it is graded again already", "second", "work that was handed in once");
        if (
            !await db.Memberships.AnyAsync(m =>
                m.CourseId == work.Project.CourseId && m.Role == CourseRole.Instructor && m.PersonId != first.Id
            )
        )
            throw new InputException("nobody else grades in this course", "second", "a course with two instructors");
        work.Graders = new(first);
        await db.SaveChangesAsync();
    }

    /// <summary>One grades it after all; not once the second has begun.</summary>
    public Task Alone(ProjectWork work)
    {
        GateActions.CheckOpen(work);
        if (work.Graders?.Second is { } second)
            throw new InputException($"{second.Name} has begun to grade it", "alone", "work that the second has not begun");
        work.Graders = null;
        return db.SaveChangesAsync();
    }

    /// <summary>What two who graded it agree on: that is what counts.</summary>
    public Task Settle(ProjectWork work, IReadOnlyDictionary<string, int> levels, string? because)
    {
        GateActions.CheckOpen(work);
        if (Apart(work) is not { } apart)
            throw new InputException("two have not graded it yet", "settled", "work that two have graded in every row");
        apart.Check(levels, because);
        because = string.IsNullOrWhiteSpace(because) ? "" : MemberActions.Because(because);
        work.Graders = work.Graders! with { Settled = new Dictionary<string, int>(levels), Because = because };
        return db.SaveChangesAsync();
    }

    /// <summary>The work was handed in again: every row is graded anew, beginning from the levels it had.</summary>
    public Task Redo(ProjectWork work)
    {
        GateActions.CheckOpen(work);
        if (work.Project.Shape.Rubric.Any(r => !work.Counted.ContainsKey(r.Id)))
            throw new InputException("the first work isn't graded yet", "again", "a level in every row of the first");
        if (work.Again.Count == 0)
            work.Again = new(work.Counted);
        return db.SaveChangesAsync();
    }

    /// <summary>When it was handed in, where the product can't know: on paper, on the instructor's table. Null: not yet.</summary>
    public Task HandedIn(ProjectWork work, Course course, LocalDate? on)
    {
        GateActions.CheckOpen(work);
        if (on is { } day && day > clock.GetCurrentInstant().InZone(course.TimeZone).Date)
            throw new InputException($"a hand-in on {Say.Date(day)}", "on", "a day that has been");
        work.HandedInAt = on?.At(LocalTime.Noon).InZoneLeniently(course.TimeZone).ToInstant();
        return db.SaveChangesAsync();
    }

    /// <summary>Takes a read sheet of levels; what is released stays, and is refused before anything is taken. A group's levels come by
    /// one of its ways.</summary>
    public Task Take(IReadOnlyList<ProjectWork> works, GradeSheet sheet)
    {
        if (!sheet.CanTake)
            throw new InputException("the file can't be taken as it is", "csv", "a file without a line that is refused");
        foreach (var line in sheet.Lines.Where(l => l.Levels.Count > 0))
        {
            var work = works.Single(w => string.Equals(w.Student.Email, line.Mail, StringComparison.OrdinalIgnoreCase));
            GateActions.CheckOpen(work);
            if (work.Graders is not null)
                throw new InputException($"{work.Student.Name} is graded by two", "csv", "a file without their line");
            if (work.Group is { } group)
                throw new InputException(
                    $"{work.Student.Name} draws in the group {group.Name}",
                    "csv",
                    "a file without their line: a group's levels are given on one of its ways"
                );
            work.Levels = new(work.Levels.Where(l => !line.Levels.ContainsKey(l.Key)).Concat(line.Levels));
        }
        return db.SaveChangesAsync();
    }

    /// <summary>Another end for one student or, given all of them, for the whole class; the reason is kept and read by the student.</summary>
    public Task Extend(IReadOnlyList<ProjectWork> works, LocalDate? to, string? reason)
    {
        var open = works.Where(w => w.ReleasedAt is null).ToList();
        if (open.Count == 0)
            throw new InputException("every grade is released", "to", "a grade that is not released");
        if (to is { } day && day < open[0].Project.Ends)
            throw new InputException(
                $"{Say.Date(day)} lies before the end",
                "to",
                $"a day from {Say.Date(open[0].Project.Ends)} on, or none to take an extension back"
            );
        reason = MemberActions.Because(reason, "an extension without a reason");
        foreach (var w in open)
            (w.ExtendedTo, w.ExtendedBecause) = (to, to is null ? "" : reason);
        return db.SaveChangesAsync();
    }

    /// <summary>Excused: it doesn't count. Incomplete: something is owed. Either with its reason, which the student reads.</summary>
    public Task Stand(ProjectWork work, Standing standing, string? reason)
    {
        GateActions.CheckOpen(work);
        if (!Enum.IsDefined(standing))
            throw new InputException("an unknown standing", "standing", "graded | excused | incomplete");
        work.StandingBecause =
            standing == Standing.Graded
                ? ""
                : MemberActions.Because(reason, standing == Standing.Excused ? "why it is excused is missing" : "what is owed is missing");
        work.Standing = standing;
        return db.SaveChangesAsync();
    }

    public Task Comment(ProjectWork work, string? comment)
    {
        GateActions.CheckOpen(work);
        comment = (comment ?? "").Trim();
        if (comment.Length > LongestComment)
            throw new InputException($"{comment.Length} letters", "comment", $"up to {LongestComment} letters");
        work.Comment = comment;
        return db.SaveChangesAsync();
    }

    /// <summary>Lets the student see the grade; every row must have a level, unless the work is excused.</summary>
    public Task Release(ProjectWork work, Course course)
    {
        if (work.Standing == Standing.Incomplete)
            throw new InputException($"it is incomplete: {work.StandingBecause}", "release", "work that is graded, or excused");
        if (work is { Standing: Standing.Graded, Graders.IsSettled: false })
            throw new InputException("two grade it and have not settled it", "release", "what the two settle");
        if (work.Standing == Standing.Graded && work.Grade(course.TimeZone) is null)
            throw new InputException("some rows have no level yet", "release", "a level in every row");
        if (work.Again.Count > 0 && work.Project.Shape.Rubric.Any(r => !work.Again.ContainsKey(r.Id)))
            throw new InputException("some rows of the redo have no level yet", "release", "a level in every row of both");
        work.ReleasedAt ??= clock.GetCurrentInstant();
        return db.SaveChangesAsync();
    }

    /// <summary>Opens a released grade again: the student is told why by a mail.</summary>
    public async Task Reopen(ProjectWork work, Course course, string? reason)
    {
        if (work.ReleasedAt is null)
            throw new InputException("the grade is not released", "reason", "a released grade");
        reason = MemberActions.Because(reason, "a grade is opened again without a reason, which the student reads too");
        work.ReleasedAt = null;
        db.Outbox.Add(
            new()
            {
                CourseId = course.Id,
                To = work.Student.Email!,
                Subject = $"Your grade of {work.Project.Name} is looked at again",
                Body = $"{work.Student.Name}, your grade is open again: {reason}",
                Link = $"/courses/{course.Id}/projects/way/{work.Id}",
                SentAt = clock.GetCurrentInstant(),
            }
        );
        await db.SaveChangesAsync();
    }
}
