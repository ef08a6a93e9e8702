using Microsoft.AspNetCore.Mvc;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Practice;

/// <summary>An exercise as the student reads it at home.</summary>
public sealed class ExerciseModel(CourseScope scope, PracticeActions practice) : CoursePage(scope)
{
    /// <summary>A drill sheet on paper has a page of its own.</summary>
    public IActionResult OnGet() => Scope.Assignment!.PaperBatch is null ? Page() : To("practice/paper");

    [For(CourseRole.Student)]
    public async Task<IActionResult> OnPostDoneAsync()
    {
        await practice.MarkDone(Scope.Assignment!);
        return To("today");
    }
}
