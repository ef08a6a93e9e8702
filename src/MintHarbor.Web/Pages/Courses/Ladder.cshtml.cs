using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Courses;

/// <summary>The Long-first ladder of a course: where it stands, what its sheets say of the next rung, and every move with its
/// reason.</summary>
[For(CourseRole.Instructor, CourseRole.Assistant)]
public sealed class LadderModel(CourseScope scope, LadderActions ladder) : CoursePage(scope), IShowsProblems
{
    public RungReading Reading { get; private set; } = null!;
    public IReadOnlyList<RungMove> Moves { get; private set; } = [];
    public string Reason { get; private set; } = "";
    public string Chosen { get; private set; } = "";

    public Task OnGetAsync() => Load();

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostMoveAsync(string? rung, string? reason)
    {
        (Chosen, Reason) = (rung ?? "", reason ?? "");
        await ladder.Move(Course, Chosen, Reason, Me.Person.Name);
        return To("ladder");
    }

    private async Task Load()
    {
        Reading = await ladder.Read(Course);
        Moves = await ladder.History(Course);
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }

    public static string Sits(Rung r) =>
        r.Model switch
        {
            "still-life" => "still life",
            "cast" => "cast or still life",
            _ => "a person, or anything before",
        };
}
