using Microsoft.AspNetCore.Mvc;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>The session sheet, one page to pin up.</summary>
public sealed class PaperModel(CourseScope scope, Papers.Papers papers) : CoursePage(scope)
{
    public IActionResult OnGet() => File(papers.Session(Course, Scope.Meeting!), "application/pdf");
}

/// <summary>The model's sheet, for whoever plans the evening.</summary>
[For(CourseRole.Instructor, CourseRole.Assistant)]
public sealed class ModelPaperModel(CourseScope scope, Papers.Papers papers) : CoursePage(scope)
{
    public IActionResult OnGet() => File(papers.Model(Course, Scope.Meeting!), "application/pdf");
}
