using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>What students bring to each meeting, and what the studio buys between two dates, with its cost.</summary>
[For(CourseRole.Instructor, CourseRole.Assistant)]
public sealed class ListsModel(CourseScope scope, HarborContext db, IClock clock) : CoursePage(scope), IShowsProblems
{
    [BindProperty(SupportsGet = true)]
    public DateOnly? From { get; set; }

    [BindProperty(SupportsGet = true)]
    public DateOnly? Until { get; set; }
    public IReadOnlyList<(int Id, int Number, LocalDate Date, IReadOnlyList<string> Bring)> Meetings { get; private set; } = [];
    public IReadOnlyList<Purchase> Buy { get; private set; } = [];
    public double Pay { get; private set; }

    public async Task OnGetAsync(DateOnly? to)
    {
        var today = Words.Today(Course, clock.GetCurrentInstant());
        From ??= today.ToDateOnly();
        Until = to ?? today.PlusWeeks(5).ToDateOnly();
        var (from, until) = (LocalDate.FromDateOnly(From.Value), LocalDate.FromDateOnly(Until.Value));
        var meetings = await db
            .Meetings.AsNoTracking()
            .Where(m => m.CourseId == Course.Id && m.Date >= from && m.Date <= until)
            .OrderBy(m => m.Date)
            .Take(100)
            .Select(m => new
            {
                m.Id,
                m.Number,
                m.Date,
                m.Plan,
                m.Request,
            })
            .ToListAsync();
        Meetings = [.. meetings.Select(m => (m.Id, m.Number, m.Date, Materials.Bring(Course.Shelf.Materials, m.Plan)))];
        Buy = Materials.Buy(Course.Shelf.Materials, [.. meetings.Select(m => (m.Plan, m.Request.Wish.Students))]);
        Pay = meetings.Sum(m => m.Plan.Pay?.Amount ?? 0);
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        (From, Until) = (null, null);
        await OnGetAsync(null);
        return Page();
    }
}
