using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Sessions;

[For(CourseRole.Instructor)]
public sealed class PlanModel(CourseScope scope, HarborContext db, SessionActions sessions, IClock clock) : CoursePage(scope), IShowsProblems
{
    public sealed class PlanForm
    {
        public DateOnly Date { get; set; }
        public TimeOnly StartsAt { get; set; }
        public int Minutes { get; set; }
        public Approach Approach { get; set; }
        public Purpose Purpose { get; set; } = Purpose.Proportion;
        public Level Level { get; set; } = Level.Intermediate;
        public int Students { get; set; }
        public ModelKind Model { get; set; }
        public bool Draped { get; set; }
        public string? Include { get; set; }
        public string? LongPose { get; set; }
    }

    [BindProperty] public PlanForm Form { get; set; } = new();
    public IReadOnlyList<Cannot> Cannot { get; private set; } = [];

    public async Task OnGetAsync()
    {
        var last = await db.Meetings.Where(m => m.CourseId == Course.Id).MaxAsync(m => (LocalDate?)m.Date);
        var today = Words.Today(Course, clock.GetCurrentInstant());
        var date = last is { } l && l >= today ? l.PlusWeeks(1) : today.DayOfWeek == Course.Weekday ? today : today.Next(Course.Weekday);
        var students = await db.Memberships.CountAsync(m => m.CourseId == Course.Id && m.Role == CourseRole.Student);
        Form = new() { Date = date.ToDateOnly(), StartsAt = Course.StartsAt.ToTimeOnly(), Minutes = Course.Minutes, Approach = Course.Approach, Model = Course.Approach == Approach.LongFirst && !Ladder.Default.Get(Course.Rung).Live ? Ladder.Default.Get(Course.Rung).Model == "cast" ? ModelKind.Cast : ModelKind.StillLife : ModelKind.Person, Students = students, Draped = Course.Minors };
    }

    public async Task<IActionResult> OnPostAsync()
    {
        var request = new PlanRequest
        {
            Minutes = Form.Minutes, Approach = Form.Approach, Purpose = Form.Purpose, Level = Form.Level, Students = Form.Students, Model = Form.Model,
            // A cast or a still life wears nothing to be refused for.
            Draped = Form.Draped || Form.Model is not (ModelKind.Person or ModelKind.Two), Minors = Course.Minors,
            Include = string.IsNullOrEmpty(Form.Include) ? [] : [Form.Include],
            LongPose = string.IsNullOrEmpty(Form.LongPose) ? null : Form.LongPose,
            Rung = Form.Approach == Approach.LongFirst ? Course.Rung : null,
            Seed = Form.Date.DayNumber,
        };
        var (meeting, cannot) = await sessions.Plan(Course, LocalDate.FromDateOnly(Form.Date), LocalTime.FromTimeOnly(Form.StartsAt), request);
        if (meeting is not null) return To($"sessions/{meeting.Id}");
        Cannot = cannot;
        Response.StatusCode = StatusCodes.Status400BadRequest;
        return Page();
    }

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        return Task.FromResult<IActionResult>(Page());
    }
}
