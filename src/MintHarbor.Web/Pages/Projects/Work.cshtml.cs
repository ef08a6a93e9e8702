using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Projects;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Drawing;
using MintHarbor.Web.Pages.Shared;
using NodaTime;

namespace MintHarbor.Web.Pages.Projects;

/// <summary>One student's way through a project: the stages with the sheets on them, what holds a gate shut, the grade with its arithmetic.</summary>
[For(CourseRole.Instructor, CourseRole.Student)]
public sealed class WorkModel(
    CourseScope scope,
    HarborContext db,
    GateActions gates,
    GradeActions grades,
    GroupActions groups,
    IClock clock
) : CoursePage(scope), IShowsProblems
{
    /// <param name="Student">Whose it is, where several draw together.</param>
    public sealed record SheetRow(int Id, string Code, string? StageId, SheetState State, int Student, Instant At);

    /// <summary>Names of those it is drawn together with.</summary>
    public IReadOnlyDictionary<int, string> With { get; private set; } = new Dictionary<int, string>();

    public ProjectWork Work => Scope.Work!;
    public ProjectTemplate Plan => Work.Project.Shape;
    public Grade? Grade => Work.Grade(Course.TimeZone);
    public IReadOnlyList<SheetRow> Sheets { get; private set; } = [];
    public IReadOnlyList<LogEntry> History { get; private set; } = [];
    public LocalDate Today { get; private set; }

    /// <summary>The instructor may still change something: what a student was shown stays.</summary>
    public bool Open => Scope.IsInstructor && Work.ReleasedAt is null;

    /// <summary>What may be read of the grade: the student, once it is released.</summary>
    public bool ShowsGrade => !Scope.IsStudent || Work.ReleasedAt is not null;

    private Grader Grader => new(Me.PersonId, Me.Person.Name);

    /// <summary>Which of two who grade it looks; the first where one does.</summary>
    public GraderSeat Seat => Work.Graders?.SeatOf(Me.PersonId) ?? GraderSeat.First;

    /// <summary>Two gradings side by side; null where one grades, or one of the two isn't through.</summary>
    public GradersApart? Apart => GradeActions.Apart(Work);

    /// <summary>The levels that whoever looks may see.</summary>
    public IReadOnlyDictionary<string, int> Shown =>
        Work.Graders is { } two ? two.SeenFrom(Scope.IsStudent ? GraderSeat.Neither : Seat, Work.Levels) : Work.Levels;

    /// <summary>Levels are given one by one: not by a third, nor once two have seen each other's.</summary>
    public bool GivesLevels => Open && Seat != GraderSeat.Neither && Apart is null;

    /// <summary>The word to what is settled, as it was typed.</summary>
    public string Because { get; private set; } = "";

    public async Task OnGetAsync() => await Load();

    private async Task Load()
    {
        Today = Words.Today(Course, clock.GetCurrentInstant());
        var together = GroupActions.Together(db, Work);
        Sheets = await db
            .Sheets.AsNoTracking()
            .Where(s => together.Contains(s.WorkId!.Value) && s.State != SheetState.Kept)
            .OrderBy(s => s.SubmittedAt)
            .Select(s => new SheetRow(s.Id, s.Code, s.StageId, s.State, s.StudentId, s.SubmittedAt))
            .ToListAsync();
        if (Work.Group is { } group)
        {
            var ids = group.Members.Select(m => m.Student).ToList();
            With = await db.Users.Where(p => ids.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name);
        }
        if (!Scope.IsStudent)
            History = await db
                .Log.AsNoTracking()
                .Where(l => l.CourseId == Course.Id && l.WorkId == Work.Id)
                .OrderByDescending(l => l.Id)
                .Take(40)
                .ToListAsync();
    }

    /// <summary>How each stage stands.</summary>
    public static IReadOnlyList<StageStand> Stands(Project p, ProjectWork w) =>
        [
            .. p.Shape.Stages.Select(s =>
                w.StagesDone.Contains(s.Id) ? StageStand.Done
                : w.Gate(s.Id).IsOpen(s) ? StageStand.Open
                : StageStand.Shut
            ),
        ];

    /// <summary>Where a way stands, by the sheets handed in to it.</summary>
    public static Way WayOf(ProjectWork w, IEnumerable<SheetRow> sheets, LocalDate today) =>
        Way.Of(
            w.Project.Shape,
            w.Project.Stages,
            new(
                w.StagesDone,
                w.Gates,
                [
                    .. sheets
                        .Where(s => s.State != SheetState.Placing)
                        .Select(s => new WaySheet(s.StageId ?? "", s.Code, s.State is SheetState.Waiting or SheetState.Drafted)),
                ],
                w.Due,
                w.HandedInAt is not null,
                w.Project.Shape.Rubric.All(r => w.Counted.ContainsKey(r.Id)),
                w.ReleasedAt is not null,
                w.Standing,
                w.StandingBecause
            ),
            today
        );

    /// <summary>What comes next, for whoever looks.</summary>
    public IEnumerable<Note> Next()
    {
        var way = WayOf(Work, Sheets, Today);
        var says = way.Says(Scope.IsStudent ? null : Work.Student.Name.Split(' ')[0]);
        var shape =
            way.For == WaitsFor.Nobody ? "holds"
            : way.For == (Scope.IsStudent ? WaitsFor.Student : WaitsFor.Instructor) ? "near"
            : "unknown";
        yield return new(shape, $"{says.TrimEnd('.')}.", way.Stage is { } s ? $"st-{s.Id}" : null);
        if (way.Late > 0)
            yield return new(
                "outside",
                $"*{Say.Plural(way.Late, "day")}* over the end and not handed in: {Work.Project.GradedBy.Late.Says}.",
                null,
                $"Today's cost: {Work.Project.GradedBy.Late.Off(way.Late)} points of 100."
            );
        else if (way.Behind > 0)
            yield return new("near", $"{way.Stage!.Name} should have been done *{Say.Plural(way.Behind, "day")}* ago.");
    }

    /// <summary>How long a stage was worked over, by its sheets: "3 sheets over 9 days"; empty where one sheet says nothing of it.</summary>
    public static string Worked(IReadOnlyList<SheetRow> sheets) =>
        sheets.Count < 2
            ? ""
            : $"{Say.Plural(sheets.Count, "sheet")} over {Say.Plural((int)Math.Ceiling((sheets.Max(s => s.At) - sheets.Min(s => s.At)).TotalDays), "day")}";

    /// <summary>Who draws it together, and what of the grade is whose.</summary>
    public Note Together(WorkGroup group)
    {
        var others = group.Members.Where(m => m.Student != Work.StudentId).Select(m => With.GetValueOrDefault(m.Student, "")).ToList();
        var share = group.Share(Work.StudentId);
        string Rows(GradeShare s) => Say.List([.. Plan.Rubric.Where(r => s.Rows.Contains(r.Id)).Select(r => r.Name.ToLowerInvariant())]);
        return new(
            "person",
            share is null
                ? $"Drawn together with {Say.List(others)}, and graded alike."
                : $"Drawn together with {Say.List(others)}: *{share.Common} %* of the grade is everybody's, the rest comes from {Rows(share)}.",
            null,
            null,
            group.Of(Work.StudentId)!.Role is { Length: > 0 } role ? role : null
        );
    }

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostTickAsync(string? stage, string? point, bool on) =>
        Shared(gates.Tick(Work, stage ?? "", point ?? "", on), stage);

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostWaiveAsync(string? stage, string? because) =>
        Shared(gates.Waive(Work, stage ?? "", because ?? ""), stage);

    /// <summary>The instructor's word, or taken back.</summary>
    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostWordAsync(string? stage, bool given) =>
        Shared(gates.Word(Work, stage ?? "", given ? Me.Person.Name : null), stage);

    /// <summary>The measured report decides, so the student may ask for it as well.</summary>
    public Task<IActionResult> OnPostMeasureAsync(string? stage) => Shared(gates.Measure(Work, Course, stage ?? ""), stage);

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostFinishAsync(string? stage) => Shared(gates.Finish(Work, stage ?? ""), stage);

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostLevelAsync(string? row, int level, bool again) =>
        Shared(grades.Level(Work, row ?? "", level, again, Grader));

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostSecondAsync() => Shared(grades.AskSecond(Work, Grader));

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostAloneAsync() => Shared(grades.Alone(Work));

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostSettleAsync(Dictionary<string, int>? settled, string? because)
    {
        Because = because ?? "";
        return Shared(grades.Settle(Work, settled ?? [], because));
    }

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostRedoAsync() => Shared(grades.Redo(Work));

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostHandedInAsync(DateOnly? on) => Shared(grades.HandedIn(Work, Course, Day(on)));

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostExtendAsync(DateOnly? to, string? reason) => Done(grades.Extend([Work], Day(to), reason));

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostStandAsync(Standing standing, string? reason) => Done(grades.Stand(Work, standing, reason));

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostCommentAsync(string? comment)
    {
        Stood.Check(Request, ("the comment", Work.Comment));
        return Done(grades.Comment(Work, comment));
    }

    [For(CourseRole.Instructor)]
    public Task<IActionResult> OnPostReleaseAsync() => Done(grades.Release(Work, Course));

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostReopenAsync(string? reason)
    {
        await grades.Reopen(Work, Course, reason);
        return await Done(groups.Rejoin(Work));
    }

    private static LocalDate? Day(DateOnly? d) => d is { } day ? LocalDate.FromDateOnly(day) : null;

    /// <summary>What those who draw together share: whatever one of them has done or been given, all have.</summary>
    private async Task<IActionResult> Shared(Task act, string? stage = null)
    {
        await act;
        await groups.Follow(Work);
        return await Done(Task.CompletedTask, stage);
    }

    private async Task<IActionResult> Done(Task act, string? stage = null)
    {
        await act;
        return To($"projects/way/{Work.Id}{(stage is null ? "" : $"#st-{stage}")}");
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }
}
