using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>The clock in the instructor's hand.</summary>
[For(CourseRole.Instructor, CourseRole.Assistant)]
public sealed class RunModel(CourseScope scope, SessionActions sessions, IClock clock) : CoursePage(scope), IShowsProblems
{
    public Meeting Meeting => Scope.Meeting!;
    public ClockReading Reading { get; private set; } = null!;

    /// <summary>The timeline as it now runs, for the strip.</summary>
    public IReadOnlyList<PlanItem> Timeline { get; private set; } = [];

    public void OnGet() => Read();

    public async Task<IActionResult> OnPostActAsync(ClockAct act)
    {
        await sessions.Act(Meeting, act);
        if (!Fragment) return To($"sessions/{Meeting.Id}/run");
        Read();
        return Page();
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostRenewAsync()
    {
        await sessions.RenewRoomLink(Meeting);
        return To($"sessions/{Meeting.Id}/run");
    }

    private void Read()
    {
        Reading = MeetingClock.Read(Meeting.Plan.Items, Meeting.Clock, clock.GetCurrentInstant());
        var items = new List<PlanItem>();
        double at = 0;
        foreach (var t in Reading.Timeline.Where(t => t.Minutes > 0.01))
        {
            items.Add(t.Item with { At = at, Minutes = t.Minutes });
            at += t.Minutes;
        }
        Timeline = items;
    }

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        Read();
        return Task.FromResult<IActionResult>(Page());
    }
}
