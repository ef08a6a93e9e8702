using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Projects;
using MintHarbor.Store.Model;

namespace MintHarbor.Store.Actions;

/// <summary>One student's way through a project's stages: what opens a gate, and what is done.</summary>
public sealed class GateActions(HarborContext db, SheetContexts contexts)
{
    /// <summary>What a student has been shown stays as it was shown.</summary>
    public static void CheckOpen(ProjectWork work)
    {
        if (work.ReleasedAt is not null)
            throw new InputException("the grade is released", "release", "a grade that is opened again first, with a reason");
    }

    /// <summary>Ticks or clears a point of a gate's checklist.</summary>
    public async Task Tick(ProjectWork work, string stageId, string point, bool on)
    {
        CheckOpen(work);
        var stage = work.Project.Shape.Stage(stageId);
        if (!stage.Gate.Contains(point))
            throw new InputException("that point is not in the gate", "point", string.Join(" | ", stage.Gate));
        await Set(work, stageId, g =>
            g with
            {
                Ticked = on ? [.. g.Ticked.Append(point).Distinct()] : [.. g.Ticked.Where(p => p != point)],
            }
        );
    }

    /// <summary>Opens a gate by the measured report of the newest sheet handed in to the project up to that stage, by its pose card and
    /// reference, or says why it stays shut.</summary>
    public async Task Measure(ProjectWork work, Course course, string stageId)
    {
        CheckOpen(work);
        var shape = work.Project.Shape;
        var stage = shape.Stage(stageId);
        if (stage.Measured is null)
            throw new InputException($"the gate of {stage.Name} has no measures", "stage", "a stage with a measured gate");
        var until = shape.Stages.TakeWhile(s => s.Id != stageId).Select(s => s.Id).Append(stageId).ToList();
        var together = GroupActions.Together(db, work);
        var sheet = await db
            .Sheets.AsNoTracking()
            .Where(s =>
                together.Contains(s.WorkId!.Value)
                && until.Contains(s.StageId!)
                && s.Subject == shape.Subject
                && s.State != SheetState.Placing
                && s.State != SheetState.Kept
            )
            .OrderByDescending(s => s.SubmittedAt)
            .FirstOrDefaultAsync()
            ?? throw new InputException(
                $"no {shape.Subject} has been handed in to {Say.List([.. shape.Stages.Where(s => until.Contains(s.Id)).Select(s => s.Name)])} yet",
                "sheet",
                $"a {shape.Subject}, handed in to this project with its landmarks placed"
            );
        var report = GateReport.Read(stage, (await contexts.Of(sheet, course)).Findings);
        if (!report.Open)
            throw new InputException(
                $"sheet {sheet.Code} does not open it: {report.Says}",
                "sheet",
                $"a {shape.Subject} whose measures lie inside, or are marked as the sitter's own"
            );
        await Set(work, stageId, g => g with { MeasuredOn = $"sheet {sheet.Code}: {report.Says}" });
    }

    /// <summary>The instructor's word, with the name of who gave it; taken back by giving none.</summary>
    public Task Word(ProjectWork work, string stageId, string? by)
    {
        CheckOpen(work);
        return work.Project.Shape.Stage(stageId).Word
            ? Set(work, stageId, g => g with { Said = by })
            : throw new InputException("that gate doesn't ask for a word", "stage", "a stage that the instructor's word opens");
    }

    /// <summary>Opens a gate whatever it wants; the reason stays with the grade.</summary>
    public Task Waive(ProjectWork work, string stageId, string because)
    {
        CheckOpen(work);
        work.Project.Shape.Stage(stageId);
        because = because.Trim();
        if (because.Length is 0 or > 200)
            throw because.Length == 0
                ? new InputException("a waiver without a reason", "Because", "a reason, kept with the grade")
                : new InputException($"{because.Length} letters", "Because", "up to 200 letters");
        return Set(work, stageId, g => g with { WaivedBecause = because });
    }

    /// <summary>Marks a stage done; it must be open, and those before it done.</summary>
    public async Task Finish(ProjectWork work, string stageId)
    {
        CheckOpen(work);
        var stages = work.Project.Shape.Stages;
        var stage = work.Project.Shape.Stage(stageId);
        if (!work.Gate(stageId).IsOpen(stage))
            throw new InputException(
                $"{stage.Name} is not open: its gate still wants {work.Gate(stageId).WantingSays(stage)}",
                "stage",
                "what its gate wants, or a waiver"
            );
        if (stages.TakeWhile(s => s.Id != stageId).FirstOrDefault(s => !work.StagesDone.Contains(s.Id)) is { } before)
            throw new InputException($"{before.Name} comes first", "stage", before.Name);
        work.StagesDone = [.. work.StagesDone.Append(stageId).Distinct()];
        await db.SaveChangesAsync();
    }

    private Task Set(ProjectWork work, string stageId, Func<GateState, GateState> change)
    {
        work.Gates = new Dictionary<string, GateState>(work.Gates) { [stageId] = change(work.Gate(stageId)) };
        return db.SaveChangesAsync();
    }
}
