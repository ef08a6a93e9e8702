using Microsoft.AspNetCore.Mvc;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Projects;

/// <summary>A project from nothing, or from one that is on the list.</summary>
[For(CourseRole.Instructor)]
public sealed class NewPlanModel(CourseScope scope, ProjectPlanActions plans, ProjectActions actions) : PlanPage(scope, plans)
{
    public async Task<IActionResult> OnGetAsync(string? from)
    {
        Form = from is null ? PlanForm.New() : PlanForm.Of(await actions.Plan(Course, from));
        return Page();
    }
}
