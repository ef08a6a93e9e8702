using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Projects;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Projects;

public sealed class ListModel(CourseScope scope, HarborContext db, ProjectActions actions, IClock clock) : CoursePage(scope), IShowsProblems
{
    public sealed class ProjectForm
    {
        public string Template { get; set; } = "portrait-from-sitter";
        public string? Name { get; set; }
        public DateOnly Ends { get; set; }
        public int Meetings { get; set; } = 4;
    }

    [BindProperty]
    public ProjectForm Form { get; set; } = new();
    public IReadOnlyList<Project> Projects { get; private set; } = [];

    public async Task OnGetAsync()
    {
        var last = await db.Meetings.Where(m => m.CourseId == Course.Id).MaxAsync(m => (LocalDate?)m.Date);
        Form.Ends = (last ?? Words.Today(Course, clock.GetCurrentInstant())).ToDateOnly();
        await Load();
    }

    private async Task Load() =>
        // A student sees the projects that they take part in; what ended before they came is not theirs.
        Projects = await db
            .Projects.AsNoTracking()
            .Where(p => p.CourseId == Course.Id && (!Scope.IsStudent || p.Works.Any(w => w.StudentId == Me.PersonId)))
            .OrderByDescending(p => p.Ends)
            .ToListAsync();

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostOpenAsync()
    {
        var project = await actions.Open(Course, Form.Template, Form.Name ?? "", LocalDate.FromDateOnly(Form.Ends), Form.Meetings);
        return To($"projects/{project.Id}");
    }

    public string StageName(Project p, string id) => ProjectTemplate.Get(p.Template).Stages.First(s => s.Id == id).Name.ToLowerInvariant();

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }
}
