using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages;

/// <summary>A page of a course: what the address names has been loaded and allowed before it runs.</summary>
public abstract class CoursePage(CourseScope scope) : PageModel
{
    public CourseScope Scope { get; } = scope;
    public Course Course => Scope.Course;
    public Membership Me => Scope.Member;

    /// <summary>A fragment was asked for, to be put into the page that stands.</summary>
    public bool Fragment => Request.Headers.ContainsKey("HX-Request") && !Request.Headers.ContainsKey("HX-Boosted");

    /// <summary>One sentence about what went wrong, shown at the top of the sheet.</summary>
    public string? Problem { get; set; }

    protected IActionResult To(string path) => Redirect($"/courses/{Course.Id}/{path}");
}
