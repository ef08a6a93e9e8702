using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Projects;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Drawing;
using MintHarbor.Web.Pages.Shared;
using NodaTime;

namespace MintHarbor.Web.Pages.Projects;

/// <summary>The class in one project: who stands where, who is late, who waits for whom, and the grade book; a student is led to their own
/// way.</summary>
public sealed class ProjectModel(
    CourseScope scope,
    HarborContext db,
    GradeActions grades,
    TakeBackActions back,
    LogActions log,
    IClock clock
) : CoursePage(scope), IShowsProblems
{
    public sealed record Row(ProjectWork Work, Way Way, Grade? Grade);

    public Project Project => Scope.Project!;
    public ProjectTemplate Plan => Project.Shape;
    public Core.Projects.Scale Scale => Core.Projects.Scale.Get(Project.GradedBy.Scale);
    public IReadOnlyList<Row> Rows { get; private set; } = [];
    public LocalDate Today { get; private set; }

    /// <summary>Levels from a file, as they were read; null before one was sent.</summary>
    public GradeSheet? Read { get; private set; }
    public string Csv { get; private set; } = "";

    public async Task<IActionResult> OnGetAsync()
    {
        if (Scope.IsStudent)
        {
            var own = await db
                .ProjectWorks.Where(w => w.ProjectId == Project.Id && w.StudentId == Me.PersonId)
                .Select(w => (int?)w.Id)
                .SingleOrDefaultAsync();
            return own is { } id ? To($"projects/way/{id}") : NotFound();
        }
        // Grades are the instructor's; an assistant critiques and doesn't grade.
        if (!Scope.IsInstructor)
            return StatusCode(StatusCodes.Status403Forbidden);
        await Load();
        return Page();
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnGetCsvAsync()
    {
        await Load();
        await log.Exported(Course, $"grade book of {Project.Name}");
        var csv = Roster.Csv([
            [
                "name",
                "mail",
                .. Plan.Rubric.Select(r => r.Name.ToLowerInvariant()),
                "stages done",
                "days late",
                "standing",
                "grade",
                Scale.Name,
            ],
            .. Rows.Select(Fields),
        ]);
        return File(Encoding.UTF8.GetBytes(csv), "text/csv; charset=utf-8", $"grades-{Project.Id}.csv");
    }

    private IEnumerable<string> Fields(Row r) =>
        [
            r.Work.Student.Name,
            r.Work.Student.Email ?? "",
            .. Plan.Rubric.Select(x => r.Work.Counted.TryGetValue(x.Id, out var l) ? l.ToString(CultureInfo.InvariantCulture) : ""),
            r.Work.StagesDone.Count.ToString(CultureInfo.InvariantCulture),
            r.Work.DaysLate(Course.TimeZone).ToString(CultureInfo.InvariantCulture),
            r.Work.Standing.ToString().ToLowerInvariant(),
            r.Grade?.Percent.ToString(CultureInfo.InvariantCulture) ?? "",
            r.Grade is { } g ? Scale.Of(g.Percent) : "",
        ];

    /// <summary>Levels from a CSV file: first a dry look, then taken.</summary>
    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostImportAsync(string? csv, IFormFile? file, bool take)
    {
        Csv = file is { Length: > 0 } ? await file.Text("a CSV file") : csv ?? "";
        await Load(tracked: take);
        Read = GradeSheet.Read(Csv, Plan.Rubric, Rows.Select(r => (r.Work.Student.Email ?? "").ToLowerInvariant()).ToHashSet());
        if (!take || !Read.CanTake)
            return Page();
        await grades.Take([.. Rows.Select(r => r.Work)], Read);
        return To($"projects/{Project.Id}");
    }

    /// <summary>Another end for the whole class.</summary>
    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostExtendAsync(DateOnly? to, string? reason)
    {
        await Load(tracked: true);
        await grades.Extend([.. Rows.Select(r => r.Work)], to is { } d ? LocalDate.FromDateOnly(d) : null, reason);
        return To($"projects/{Project.Id}");
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostRemoveAsync(string? said)
    {
        await back.Remove(Project, said);
        return To("projects");
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }

    private async Task Load(bool tracked = false)
    {
        Today = Words.Today(Course, clock.GetCurrentInstant());
        var works = db.ProjectWorks.Include(w => w.Student).Where(w => w.ProjectId == Project.Id).OrderBy(w => w.Student.Name);
        var all = await (tracked ? works : works.AsNoTracking()).ToListAsync();
        var sheets = await db
            .Sheets.AsNoTracking()
            .Where(s => s.CourseId == Course.Id && s.WorkId != null && s.State != SheetState.Kept)
            .Where(s => db.ProjectWorks.Any(w => w.Id == s.WorkId && w.ProjectId == Project.Id))
            .OrderBy(s => s.SubmittedAt)
            .Select(s => new { s.WorkId, Row = new WorkModel.SheetRow(s.Id, s.Code, s.StageId, s.State, s.StudentId, s.SubmittedAt) })
            .ToListAsync();
        foreach (var w in all)
            w.Project = Project;
        // A sheet of a group stands on the way of each of them.
        var of = sheets.SelectMany(s => Together(all, s.Row.Student).Select(w => (Work: (int?)w, s.Row))).ToLookup(s => s.Work, s => s.Row);
        Sheets = of;
        Rows = [.. all.Select(w => new Row(w, WorkModel.WayOf(w, of[w.Id], Today), w.Grade(Course.TimeZone)))];
    }

    private IEnumerable<int> Together(IReadOnlyList<ProjectWork> all, int student)
    {
        var group = Project.Groups.FirstOrDefault(g => g.Of(student) is not null);
        return all.Where(w => w.StudentId == student || group?.Of(w.StudentId) is not null).Select(w => w.Id);
    }

    public ILookup<int?, WorkModel.SheetRow> Sheets { get; private set; } = Array.Empty<WorkModel.SheetRow>().ToLookup(_ => (int?)null);

    /// <summary>How a stage stands for one student, as one mark: the bob where they are, nothing where the way is
    /// open and not yet gone, or nobody waits for it.</summary>
    public static HtmlString Mark(ProjectWork work, StageStand stand, bool here) =>
        stand switch
        {
            not StageStand.Done when work.Standing == Standing.Excused => HtmlString.Empty,
            StageStand.Done => Marks.Shape("holds"),
            StageStand.Open => here ? Marks.RowHere : HtmlString.Empty,
            _ => Marks.Shape("blocked"),
        };

    /// <summary>A level as the grade book shows it; of work handed in again both, where they differ; of two who grade none before they have
    /// settled it.</summary>
    public static string Level(ProjectWork w, string row) =>
        w.Graders is { IsSettled: false } ? "two"
        : !w.Counted.TryGetValue(row, out var first) ? "–"
        : w.Again.TryGetValue(row, out var again) && again != first ? $"{first}, again {again}"
        : $"{first}";

    /// <summary>Who is late, who waits for the instructor, who is behind: names in the margin, the longest late first.</summary>
    public IEnumerable<Note> Notes()
    {
        var late = Rows.Where(r => r.Way.Late > 0).OrderByDescending(r => r.Way.Late).ToList();
        if (late.Count > 0)
            yield return new("outside", $"*{late.Count}* over the end: {Names(late, r => $"{First(r)} {Say.Plural(r.Way.Late, "day")}")}.");
        var mine = Rows.Where(r => r.Way.For == WaitsFor.Instructor).ToList();
        if (mine.Count > 0)
            yield return new("near", $"*{mine.Count}* {(mine.Count == 1 ? "waits" : "wait")} for you: {Names(mine, First)}.");
        var behind = Rows.Where(r => r.Way is { Behind: > 0, Late: 0, For: WaitsFor.Student }).ToList();
        if (behind.Count > 0)
            yield return new(
                "near",
                $"*{behind.Count}* behind the dates: {Names(behind, r => $"{First(r)} {Say.Plural(r.Way.Behind, "day")}")}."
            );
        if (late.Count + mine.Count + behind.Count == 0 && Rows.Count > 0)
            yield return new("holds", "Nobody is late, and nobody waits for you.");
    }

    private static string First(Row r) => r.Work.Student.Name.Split(' ')[0];

    private static string Names(IReadOnlyList<Row> rows, Func<Row, string> of) =>
        rows.Count > 6 ? Say.List([.. rows.Take(5).Select(of), $"{rows.Count - 5} more"]) : Say.List([.. rows.Select(of)]);

    /// <summary>The sum of the dates, with its values.</summary>
    public Note Dates() =>
        new(
            "holds",
            $"*{Project.Stages.Sum(s => s.Minutes)} min* of drawing in {Say.Plural(Project.MeetingsUsed, "meeting")}{(Project.HomeMinutes > 0 ? $" and {Say.Number(Project.HomeMinutes / 60.0, 1)} h a week at home" : "")}, parted {string.Join(", ", Plan.Stages.Select(s => s.Share))} %.",
            null,
            string.Join("; ", Plan.Stages.Zip(Project.Stages).Select(x => $"{x.First.Name} {x.Second.Minutes} min"))
                + (
                    Project.LongPoseId is null
                        ? ". Set-up, rests, break, review and packing up are not counted."
                        : ". The dates are those of the pose that goes on over these meetings."
                )
        );
}
