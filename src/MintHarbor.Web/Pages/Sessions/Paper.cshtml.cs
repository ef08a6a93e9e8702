using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core.Figure;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>The session sheet, one page to pin up.</summary>
public sealed class PaperModel(CourseScope scope, Papers.Papers papers) : CoursePage(scope)
{
    public IActionResult OnGet() => File(papers.Session(Course, Scope.Meeting!), "application/pdf");
}

/// <summary>The model's sheet, for whoever plans the evening.</summary>
[For(CourseRole.Instructor, CourseRole.Assistant)]
public sealed class ModelPaperModel(CourseScope scope, Papers.Papers papers, PoseActions poses, FigureViews views) : CoursePage(scope)
{
    public async Task<IActionResult> OnGetAsync()
    {
        var meeting = Scope.Meeting!;
        var silhouettes = new Dictionary<string, Silhouette>();
        foreach (var id in meeting.Plan.Items.SelectMany(i => i.PoseIds).Distinct())
        {
            // The studio's poses are drawn already; a course's own is drawn from its figure.
            if (Silhouettes.Find(id, Course.Minors || meeting.Request.Wish.IsClothed, false) is { } drawn)
                silhouettes[id] = drawn;
            else if (await poses.Find(Course.Id, id) is { } own)
                silhouettes[id] = views.Silhouette(own, Drapery.For(Course.Minors, meeting.Request.Wish.IsClothed));
        }
        return File(papers.Model(Course, meeting, silhouettes), "application/pdf");
    }
}
