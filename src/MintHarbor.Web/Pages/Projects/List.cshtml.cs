using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Projects;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;
using NodaTime;

namespace MintHarbor.Web.Pages.Projects;

/// <summary>The course's projects; for its instructor also what may be opened, and whether it will fit.</summary>
public sealed class ListModel(CourseScope scope, HarborContext db, ProjectActions actions, ProjectPlanActions plans, IClock clock)
    : CoursePage(scope),
        IShowsProblems
{
    public sealed class ProjectForm
    {
        public string Template { get; set; } = "portrait-from-sitter";
        public string? Name { get; set; }
        public DateOnly Ends { get; set; }
        public int Meetings { get; set; } = 4;
        public double HomeHours { get; set; }
        public int Grace { get; set; }
        public int PerDay { get; set; }
        public int Most { get; set; }
        public RedoRule Redo { get; set; }
        public string Scale { get; set; } = "percent";

        public Opening Opening =>
            new(
                Template,
                Name,
                LocalDate.FromDateOnly(Ends),
                Meetings,
                double.IsFinite(HomeHours) ? (int)Math.Round(HomeHours * 60) : -1,
                new(new(Grace, PerDay, Most), Redo, Scale)
            );
    }

    [BindProperty]
    public ProjectForm Form { get; set; } = new();
    public IReadOnlyList<Project> Projects { get; private set; } = [];
    public IReadOnlyList<(string Id, ProjectTemplate Plan)> Shelf { get; private set; } = [];

    /// <summary>Whether what stands in the form fits; null until it is asked.</summary>
    public ProjectFit? Fit { get; private set; }

    public async Task OnGetAsync(string? from)
    {
        var last = await db.Meetings.Where(m => m.CourseId == Course.Id).MaxAsync(m => (LocalDate?)m.Date);
        Form.Ends = (last ?? Words.Today(Course, clock.GetCurrentInstant())).ToDateOnly();
        Form.Template = from ?? Form.Template;
        await Load();
    }

    private async Task Load()
    {
        // A student sees the projects that they take part in; what ended before they came is not theirs.
        Projects = await db
            .Projects.AsNoTracking()
            .Include(p => p.Works.Where(w => w.StudentId == Me.PersonId || !Scope.IsStudent))
            .Where(p => p.CourseId == Course.Id && (!Scope.IsStudent || p.Works.Any(w => w.StudentId == Me.PersonId)))
            .OrderByDescending(p => p.Ends)
            .ToListAsync();
        if (Scope.IsInstructor)
            Shelf = await actions.Shelf(Course);
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostOpenAsync() => To($"projects/{(await actions.Open(Course, Form.Opening)).Id}");

    /// <summary>Asked before it is opened; nothing is kept.</summary>
    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostFitAsync()
    {
        Fit = await actions.Fit(Course, Form.Opening);
        await Load();
        return Page();
    }

    /// <summary>A project as JSON, the product's or the course's own.</summary>
    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnGetJsonAsync(string? from)
    {
        var plan = await actions.Plan(Course, from ?? "");
        return File(
            System.Text.Encoding.UTF8.GetBytes(TemplateCheck.Write(plan)),
            "application/json; charset=utf-8",
            $"{plan.Id}.project.json"
        );
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostImportAsync(IFormFile? file)
    {
        var plan = TemplateCheck.Read(await file.Text("a project as this page writes it"));
        var kept = await plans.Keep(Course, null, plan, Me.Person.Name);
        return To($"projects/plan/{kept.Id}");
    }

    /// <summary>What the fit says, for the margin.</summary>
    public IEnumerable<Note> FitNotes =>
        Fit switch
        {
            null => [],
            { Fits: true } =>
            [
                new(
                    "holds",
                    $"It fits: *{Fit.Dates.Sum(d => d.Minutes)} min* of drawing, from {Words.ShortDay(Fit.Dates[0].From)} to {Words.ShortDay(Fit.Dates[^1].Due)}."
                ),
            ],
            _ => [new("blocked", $"It doesn't fit: {Fit.Says}."), new("near", $"Nearest: {ProjectActions.Nearest(Fit)}.")],
        };

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }
}
