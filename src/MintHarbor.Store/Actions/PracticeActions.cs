using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Practice;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

public sealed class PracticeActions(HarborContext db, IClock clock)
{
    /// <summary>Gives an exercise or a drill to students of the course.</summary>
    public async Task Assign(
        Course course,
        IReadOnlyCollection<int> students,
        string? exercise,
        string? drill,
        int minutes,
        Instant due,
        string note,
        int? sheetId = null
    )
    {
        if ((exercise is null) == (drill is null))
            throw new InputException("neither or both of exercise and drill", "Exercise", "one exercise or one drill");
        if (exercise is not null)
            course.Shelf.GetExercise(exercise, "Exercise");
        else
            Drills.Get(drill, "Exercise");
        if (students.Count == 0)
            throw new InputException("nobody is chosen", "Students", "at least one student");
        if (minutes is < 1 or > 600)
            throw new InputException($"{minutes} minutes", "Minutes", "1 to 600");
        if (note.Length > 400)
            throw new InputException($"a note of {note.Length} letters", "Note", "up to 400 letters");
        var now = clock.GetCurrentInstant();
        if (due <= now)
            throw new InputException("the due time has passed", "Due", "a time to come");
        if (due > now + Duration.FromDays(731))
            throw new InputException("the due time is more than two years away", "Due", "a time within two years");
        var members = await db
            .Memberships.Where(m => m.CourseId == course.Id && m.Role == CourseRole.Student)
            .Select(m => m.PersonId)
            .ToListAsync();
        if (students.Except(members).Any())
            throw new InputException("somebody chosen is not a student of this course", "Students", "students of this course");
        db.Assignments.AddRange(
            students
                .Distinct()
                .Select(s => new Assignment
                {
                    CourseId = course.Id,
                    StudentId = s,
                    Exercise = exercise,
                    Drill = drill,
                    Minutes = minutes,
                    Due = due,
                    Note = note.Trim(),
                    GivenAt = now,
                    SheetId = sheetId,
                    ForAll = sheetId is null && members.All(students.Contains),
                })
        );
        await db.SaveChangesAsync();
    }

    /// <summary>The student's unfinished round, or a new one at the difficulty where the last ended.</summary>
    public async Task<DrillRound> Begin(Course course, int studentId, string kind, int? assignmentId, long seed)
    {
        Drills.Get(kind);
        var last = await db
            .DrillRounds.Where(r => r.CourseId == course.Id && r.StudentId == studentId && r.Kind == kind)
            .OrderByDescending(r => r.StartedAt)
            .FirstOrDefaultAsync();
        if (last is { FinishedAt: null })
        {
            if (assignmentId is not null && last.AssignmentId is null)
                last.AssignmentId = assignmentId;
            await db.SaveChangesAsync();
            return last;
        }
        var round = new DrillRound
        {
            CourseId = course.Id,
            StudentId = studentId,
            AssignmentId = assignmentId,
            Kind = kind,
            State = new DrillRoundState(kind, seed, last?.EndDifficulty ?? 0.2, course.Minors, [])
            {
                Limit = course.Shelf.Limit(kind),
                Finer = true,
            }.Kept(),
            StartedAt = clock.GetCurrentInstant(),
        };
        db.DrillRounds.Add(round);
        await db.SaveChangesAsync();
        return round;
    }

    /// <summary>Takes the answer to item <paramref name="number"/>. A repeated or late answer to an item already answered
    /// changes nothing, so that a resent form is harmless.</summary>
    public async Task Answer(DrillRound round, int number, double value)
    {
        var drill = Drills.Get(round.Kind);
        if (drill is HandDrill)
            throw new InputException("a number for a drawing", "trace", drill.Wanted);
        drill.Check(value);
        if (number != round.State.Answers.Count || round.State.Finished)
            return;
        round.State = round.State.Answered(value);
        if (round.State.Finished)
            await Finish(round);
        await db.SaveChangesAsync();
    }

    /// <summary>Takes a drawing as the answer to item <paramref name="number"/>, and keeps it. As with <see cref="Answer"/> a second sending changes
    /// nothing.</summary>
    /// <exception cref="InputException">What is no drawing, or no answer to this item.</exception>
    public async Task Draw(DrillRound round, int number, string? trace)
    {
        var drill =
            Drills.Get(round.Kind) as HandDrill
            ?? throw new InputException($"a drawing for {round.Kind}", "trace", "an answer on the dial");
        var drawn = PenTrace.Read(trace);
        if (number != round.State.Answers.Count || round.State.Replay() is not { Next: { } item, Difficulty: var difficulty })
            return;
        var reading = drill.Read(item, drawn, difficulty, round.State.Holds);
        db.DrawnAnswers.Add(
            new()
            {
                RoundId = round.Id,
                Number = number,
                Trace = drawn.Write(),
                Reading = reading,
            }
        );
        round.State = round.State.Answered(reading.Error, reading.Holds);
        if (round.State.Finished)
            await Finish(round);
        await db.SaveChangesAsync();
    }

    private async Task Finish(DrillRound round)
    {
        var drill = Drills.Get(round.Kind);
        var (done, _, difficulty) = round.State.Replay();
        var scores = done.Select(d => d.Score).ToList();
        round.FinishedAt = clock.GetCurrentInstant();
        (round.Bias, round.Spread, round.EndDifficulty, round.Right) = (
            drill.Bias(scores),
            drill.Spread(scores),
            difficulty,
            scores.Count(s => s.Correct)
        );
        var open = await db
            .Assignments.Where(a =>
                a.CourseId == round.CourseId && a.StudentId == round.StudentId && a.Drill == round.Kind && a.DoneAt == null
            )
            .OrderBy(a => a.Due)
            .ToListAsync();
        var done1 = open.FirstOrDefault(a => a.Id == round.AssignmentId) ?? open.FirstOrDefault();
        if (done1 is not null)
            done1.DoneAt = round.FinishedAt;
        await new StageActions(db, clock).Round(round);
    }

    public async Task MarkDone(Assignment a)
    {
        a.DoneAt ??= clock.GetCurrentInstant();
        await db.SaveChangesAsync();
    }
}
