using NodaTime;

namespace MintHarbor.Core.Projects;

/// <summary>Whose turn it is.</summary>
public enum WaitsFor
{
    Student,
    Instructor,
    Nobody,
}

/// <summary>What comes next on a way.</summary>
public enum WayStep
{
    Excused,
    Graded,
    Owes,
    Critique,
    Grading,
    Showing,
    Gate,
    HandIn,
    Draw,
}

/// <summary>A sheet on somebody's way.</summary>
/// <param name="Waits">Handed in and not yet critiqued.</param>
public sealed record WaySheet(string StageId, string Code, bool Waits);

/// <summary>What a way is read from.</summary>
/// <param name="Due">The end that holds for this student.</param>
/// <param name="HandedIn">The last stage was handed in.</param>
/// <param name="Graded">Every row has a level.</param>
public sealed record WayState(
    IReadOnlyList<string> Done,
    IReadOnlyDictionary<string, GateState> Gates,
    IReadOnlyList<WaySheet> Sheets,
    LocalDate Due,
    bool HandedIn,
    bool Graded,
    bool Released,
    Standing Standing,
    string StandingBecause
);

/// <summary>Where one student stands in a project: at which stage, whose turn it is, what comes next, how far behind.</summary>
/// <param name="Stage">The first that is not done; null when all are.</param>
/// <param name="What">What the step is about: the sheet's code, what the gate wants, what is owed or handed in.</param>
/// <param name="Behind">Days since the stage should have been done; 0 where it is in time.</param>
/// <param name="Late">Days since the end without a hand-in; 0 before it, or when it is handed in.</param>
public sealed record Way(StageTemplate? Stage, WaitsFor For, WayStep Step, string What, int Behind, int Late)
{
    public static Way Of(ProjectTemplate plan, IReadOnlyList<StageDate> dates, WayState s, LocalDate today)
    {
        var stage = plan.Stages.FirstOrDefault(x => !s.Done.Contains(x.Id));
        if (s.Standing == Standing.Excused)
            return new(stage, WaitsFor.Nobody, WayStep.Excused, s.StandingBecause, 0, 0);
        if (s.Released)
            return new(stage, WaitsFor.Nobody, WayStep.Graded, "", 0, 0);
        var late = s.HandedIn ? 0 : Days(s.Due);
        var behind = dates.FirstOrDefault(d => d.StageId == stage?.Id) is { } date ? Days(date.Due) : 0;
        if (s.Standing == Standing.Incomplete)
            return At(WaitsFor.Student, WayStep.Owes, s.StandingBecause);
        if (s.Sheets.FirstOrDefault(x => x.Waits) is { } sheet)
            return At(WaitsFor.Instructor, WayStep.Critique, sheet.Code);
        if (stage is null)
            return At(WaitsFor.Instructor, s.Graded ? WayStep.Showing : WayStep.Grading, "");
        var gate = s.Gates.GetValueOrDefault(stage.Id) ?? GateState.Closed;
        if (!gate.IsOpen(stage))
            // A list and a word are ticked by the instructor; measures alone come from a drawing.
            return At(
                gate.Parts(stage).Any(p => !p.Met && p.Kind != GateKind.Measures) ? WaitsFor.Instructor : WaitsFor.Student,
                WayStep.Gate,
                gate.WantingSays(stage)
            );
        return stage.HandIn.Length > 0 && s.Sheets.All(x => x.StageId != stage.Id)
            ? At(WaitsFor.Student, WayStep.HandIn, stage.HandIn)
            : At(WaitsFor.Student, WayStep.Draw, "");

        Way At(WaitsFor whom, WayStep step, string what) => new(stage, whom, step, what, behind, late);

        int Days(LocalDate since) => Math.Max(0, Period.DaysBetween(since, today));
    }

    /// <param name="name">Who it is said of; null where it is said to the student.</param>
    public string Says(string? name)
    {
        var (who, you) = (name ?? "You", name is null);
        return Step switch
        {
            WayStep.Excused => $"{who} {(you ? "are" : "is")} excused: {What}",
            WayStep.Graded => $"{who} {(you ? "have" : "has")} the grade",
            WayStep.Owes => $"{who} still {(you ? "owe" : "owes")} {What}",
            WayStep.Critique => $"{who} {(you ? "wait" : "waits")} for the critique of {What}",
            WayStep.Grading => $"{who} {(you ? "are" : "is")} through all stages and {(you ? "wait" : "waits")} for the grade",
            WayStep.Showing => you ? "You are through all stages and wait for the grade" : $"{who} waits for the grade to be shown",
            WayStep.Gate => $"{who} {(you ? "stand" : "stands")} before the gate of {Stage!.Name}: {What}",
            WayStep.HandIn => $"Next {(you ? "you hand in" : $"{who} hands in")} to {Stage!.Name}: {What}",
            _ => $"{who} {(you ? "draw" : "draws")} on at {Stage!.Name}",
        };
    }
}
