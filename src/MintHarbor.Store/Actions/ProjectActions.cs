using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Projects;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

public sealed class ProjectActions(HarborContext db, SheetContexts contexts, IClock clock)
{
    /// <summary>Opens a project from a template, its dates worked back from the end over the course's meetings, with a place
    /// for every student.</summary>
    public async Task<Project> Open(Course course, string template, string name, LocalDate ends, int meetingsUsed)
    {
        var t = ProjectTemplate.Get(template);
        if (meetingsUsed is < 1 or > 40)
            throw new InputException($"{meetingsUsed} meetings", "Meetings", "1 to 40");
        name = Names.Checked(string.IsNullOrWhiteSpace(name) ? t.Name : name, "Name", 80);
        var meetings = await db.Meetings.Where(m => m.CourseId == course.Id).Select(m => new { m.Date, m.Plan }).ToListAsync();
        var net = meetings
            .Select(m => (m.Date, (int)m.Plan.Items.Where(i => i.Kind == Core.Sessions.ItemKind.Exercise).Sum(i => i.Minutes)))
            .ToList();
        var students = await db
            .Memberships.Where(m => m.CourseId == course.Id && m.Role == CourseRole.Student)
            .Select(m => m.PersonId)
            .ToListAsync();
        var project = new Project
        {
            CourseId = course.Id,
            Template = t.Id,
            Name = name,
            Ends = ends,
            MeetingsUsed = meetingsUsed,
            Stages = [.. StageDates.WorkBack(t.Stages, net, ends, meetingsUsed)],
            Works = [.. students.Select(s => new ProjectWork { StudentId = s })],
        };
        db.Projects.Add(project);
        await db.SaveChangesAsync();
        return project;
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

    /// <summary>What a student has been shown stays as it was shown.</summary>
    private static void CheckOpen(ProjectWork work)
    {
        if (work.ReleasedAt is not null)
            throw new InputException("the grade is released", "release", "a grade that is opened again first, with a reason");
    }

    /// <summary>Ticks or clears a point of a gate's checklist.</summary>
    public async Task Tick(ProjectWork work, string stageId, string point, bool on)
    {
        CheckOpen(work);
        var stage = Stage(work, stageId);
        if (!stage.Gate.Contains(point))
            throw new InputException("that point is not in the gate", "point", string.Join(" | ", stage.Gate));
        var gate = work.Gates.GetValueOrDefault(stageId) ?? GateState.Closed;
        Set(work, stageId, gate with { Ticked = on ? [.. gate.Ticked.Append(point).Distinct()] : [.. gate.Ticked.Where(p => p != point)] });
        await db.SaveChangesAsync();
    }

    /// <summary>Opens a gate by the measured report of the student's newest head or figure that is handed in, or says why it stays shut.</summary>
    public async Task Measure(ProjectWork work, Course course, string stageId)
    {
        CheckOpen(work);
        var stage = Stage(work, stageId);
        if (stage.Measured is null)
            throw new InputException($"the gate of {stage.Name} is a checklist", "stage", "a stage with a measured gate");
        var subject = ProjectTemplate.Get(work.Project.Template).Subject;
        var sheet = await db
            .Sheets.AsNoTracking()
            .Where(s =>
                s.CourseId == course.Id
                && s.StudentId == work.StudentId
                && s.Subject == subject
                && s.State != SheetState.Placing
                && s.State != SheetState.Kept
            )
            .OrderByDescending(s => s.SubmittedAt)
            .FirstOrDefaultAsync()
            ?? throw new InputException(
                $"no {subject} has been handed in yet",
                "sheet",
                $"a {subject}, handed in with its landmarks placed"
            );
        var report = GateReport.Read(stage, (await contexts.Of(sheet, course)).Findings);
        if (!report.Open)
            throw new InputException(
                $"sheet {sheet.Code} does not open it: {report.Says.TrimEnd('.')}",
                "sheet",
                $"a {subject} whose measures lie inside, or are marked as the sitter's own"
            );
        Set(
            work,
            stageId,
            (work.Gates.GetValueOrDefault(stageId) ?? GateState.Closed) with
            {
                MeasuredOn = $"sheet {sheet.Code}: {report.Says}",
            }
        );
        await db.SaveChangesAsync();
    }

    public async Task Waive(ProjectWork work, string stageId, string because)
    {
        CheckOpen(work);
        Stage(work, stageId);
        if (string.IsNullOrWhiteSpace(because))
            throw new InputException("a waiver without a reason", "Because", "a reason, kept with the grade");
        if (because.Length > 200)
            throw new InputException($"{because.Length} letters", "Because", "up to 200 letters");
        Set(work, stageId, (work.Gates.GetValueOrDefault(stageId) ?? GateState.Closed) with { WaivedBecause = because.Trim() });
        await db.SaveChangesAsync();
    }

    /// <summary>Marks a stage done; it must be open, and those before it done.</summary>
    public async Task Finish(ProjectWork work, string stageId)
    {
        CheckOpen(work);
        var stages = ProjectTemplate.Get(work.Project.Template).Stages;
        var stage = Stage(work, stageId);
        if (!(work.Gates.GetValueOrDefault(stageId) ?? GateState.Closed).IsOpen(stage))
            throw new InputException(
                $"{stage.Name} is not open: its gate still wants something",
                "stage",
                "a complete checklist or a waiver"
            );
        var before = stages.TakeWhile(s => s.Id != stageId).FirstOrDefault(s => !work.StagesDone.Contains(s.Id));
        if (before is not null)
            throw new InputException($"{before.Name} comes first", "stage", before.Name);
        work.StagesDone = [.. work.StagesDone.Append(stageId).Distinct()];
        await db.SaveChangesAsync();
    }

    public async Task Level(ProjectWork work, string rowId, int level)
    {
        CheckOpen(work);
        if (ProjectTemplate.Get(work.Project.Template).Rubric.All(r => r.Id != rowId))
            throw new InputException("that row is not in the rubric", "row", "a row of the rubric");
        if (level is < 0 or > Grading.TopLevel)
            throw new InputException($"level {level}", "level", "0 to 4");
        work.Levels = new Dictionary<string, int>(work.Levels) { [rowId] = level };
        await db.SaveChangesAsync();
    }

    /// <summary>Lets the student see the grade; every row must have a level.</summary>
    public async Task Release(ProjectWork work)
    {
        if (Grading.Of(ProjectTemplate.Get(work.Project.Template).Rubric, work.Levels) is null)
            throw new InputException("some rows have no level yet", "release", "a level in every row");
        work.ReleasedAt ??= clock.GetCurrentInstant();
        await db.SaveChangesAsync();
    }

    private static StageTemplate Stage(ProjectWork work, string stageId) =>
        ProjectTemplate.Get(work.Project.Template).Stages.FirstOrDefault(s => s.Id == stageId)
        ?? throw new InputException("unknown stage", "stage", "a stage of the project");

    private static void Set(ProjectWork work, string stageId, GateState state) =>
        work.Gates = new Dictionary<string, GateState>(work.Gates) { [stageId] = state };
}
