using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Projects;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Projects;

/// <summary>Who draws a project together, and what of the grade is whose.</summary>
[For(CourseRole.Instructor)]
public sealed class GroupsModel(CourseScope scope, HarborContext db, GroupActions groups) : CoursePage(scope), IShowsProblems
{
    public sealed class MemberForm
    {
        public int Student { get; set; }
        public string? Role { get; set; }
        public List<string> Rows { get; set; } = [];
    }

    public Project Project => Scope.Project!;
    public IReadOnlyDictionary<int, string> Names { get; private set; } = new Dictionary<int, string>();

    /// <summary>Those who draw alone.</summary>
    public IEnumerable<KeyValuePair<int, string>> Alone =>
        Names.Where(n => Project.Groups.All(g => g.Of(n.Key) is null)).OrderBy(n => n.Value, StringComparer.Ordinal);

    public Task OnGetAsync() => Load();

    public async Task<IActionResult> OnPostMakeAsync(string? name, List<int>? students)
    {
        await groups.Make(Project, name, students ?? []);
        return To(Path);
    }

    public async Task<IActionResult> OnPostShareAsync(string? name, int common, [FromForm(Name = "Form")] List<MemberForm>? form)
    {
        Stood.Check(Request, Stands(Project.Groups.FirstOrDefault(g => g.Name == name)));
        await groups.Share(Project, name, common, [.. (form ?? []).Select(m => new GroupMember(m.Student, (m.Role ?? "").Trim(), m.Rows))]);
        return To(Path);
    }

    public async Task<IActionResult> OnPostPartAsync(string? name)
    {
        await groups.Part(Project, name);
        return To(Path);
    }

    private string Path => $"projects/{Project.Id}/groups";

    /// <summary>A group as it stands, to be told of what another changed.</summary>
    public static (string, object?) Stands(WorkGroup? g) =>
        (
            "the group",
            g is null ? "" : $"{g.Common} % in common; {string.Join("; ", g.Members.Select(m => $"{m.Role}: {string.Join(", ", m.Rows)}"))}"
        );

    private async Task Load() =>
        Names = await db
            .ProjectWorks.Where(w => w.ProjectId == Project.Id)
            .Select(w => new { w.StudentId, w.Student.Name })
            .ToDictionaryAsync(w => w.StudentId, w => w.Name);

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }
}
