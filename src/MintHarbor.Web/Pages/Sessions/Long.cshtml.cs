using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>One pose over many meetings: how many it takes, which stage ends where, what is left over, and what if the model is away once.</summary>
[For(CourseRole.Instructor)]
public sealed class LongModel(CourseScope scope, HarborContext db, PlanActions plans, IClock clock) : CoursePage(scope), IShowsProblems
{
    public sealed record Going(LongPose Pose, LongPosePlan Plan, IReadOnlyList<(int Number, LocalDate Date, int Id)> Meetings);

    [BindProperty(SupportsGet = true)]
    public double Hours { get; set; } = 6;

    [BindProperty(SupportsGet = true)]
    public string? Pose { get; set; }

    [BindProperty(SupportsGet = true)]
    public DateOnly? From { get; set; }

    [BindProperty(SupportsGet = true)]
    public int? Away { get; set; }
    public LongPosePlan? Plan { get; private set; }
    public IReadOnlyList<(int Number, LocalDate Date)> Dates { get; private set; } = [];
    public IReadOnlyList<int> Places { get; private set; } = [];
    public IReadOnlyList<StudioPose> Poses { get; private set; } = [];
    public IReadOnlyList<Going> Running { get; private set; } = [];

    public Task OnGetAsync() => Load();

    private async Task Load()
    {
        var today = Words.Today(Course, clock.GetCurrentInstant());
        From ??= today.ToDateOnly();
        var from = LocalDate.FromDateOnly(From.Value);
        var meetings = await db
            .Meetings.AsNoTracking()
            .Where(m => m.CourseId == Course.Id && m.Date >= from)
            .OrderBy(m => m.Date)
            .Take(40)
            .Select(m => new
            {
                m.Number,
                m.Date,
                m.Minutes,
                m.LongPoseId,
                m.Request,
            })
            .ToListAsync();
        var free = meetings.Where(m => m.LongPoseId is null).ToList();
        var own = await db.CoursePoses.AsNoTracking().Where(p => p.CourseId == Course.Id).OrderBy(p => p.Name).Take(60).ToListAsync();
        Poses =
        [
            .. PoseLibrary
                .Studio.Concat(own.Select(o => StudioPose.Of(PoseActions.Read(o))))
                .Where(p => p.Strain <= TimingRules.HardestSitting)
                .OrderBy(p => p.Strain)
                .ThenBy(p => p.Name),
        ];
        Pose ??= "leanblock";
        var minutes = free.Count > 0 ? free[0].Minutes : Course.Minutes;
        Plan = LongPosePlan.Of(
            new(
                new() { Minutes = minutes, LongPose = PoseLibrary.Find(Pose) is { Strain: <= TimingRules.HardestSitting } p ? p.Id : null }
            ),
            Hours
        );
        Dates = [.. free.Select(m => (m.Number, m.Date))];
        Places = Plan.Places(Dates.Count, Away is { } a && a >= 0 ? new HashSet<int> { a } : new HashSet<int>());
        var going = await db
            .LongPoses.AsNoTracking()
            .Where(p => p.CourseId == Course.Id)
            .OrderByDescending(p => p.At)
            .Take(6)
            .Select(p => new
            {
                Pose = p,
                Meetings = p
                    .Meetings.OrderBy(m => m.Date)
                    .Select(m => new
                    {
                        m.Number,
                        m.Date,
                        m.Id,
                        m.Minutes,
                    })
                    .ToList(),
            })
            .ToListAsync();
        Running =
        [
            .. going.Select(g => new Going(
                g.Pose,
                g.Pose.Plan(g.Meetings.Count > 0 ? g.Meetings[0].Minutes : Course.Minutes),
                [.. g.Meetings.Select(m => (m.Number, m.Date, m.Id))]
            )),
        ];
    }

    public async Task<IActionResult> OnPostBeginAsync(string? pose, double hours, DateOnly from)
    {
        await plans.BeginLongPose(Course, pose ?? "", hours, LocalDate.FromDateOnly(from), Me.Person.Name);
        return To("sessions/long");
    }

    public async Task<IActionResult> OnPostMarksAsync(int id, string? marks, string? lamp, string? seats)
    {
        if (await db.LongPoses.AsNoTracking().SingleOrDefaultAsync(p => p.Id == id && p.CourseId == Course.Id) is { } now)
            Stood.Check(Request, Named(now));
        await plans.MarkLongPose(Course, id, marks, lamp, seats);
        return To("sessions/long");
    }

    /// <summary>What was marked, by the names that the page gives it.</summary>
    public static IEnumerable<(string Name, object? Value)> Named(LongPose p) =>
        [("floor marks", p.FloorMarks), ("lamp", p.Lamp), ("seats", p.Seats)];

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        if (!(Hours is >= LongPosePlan.LeastHours and <= LongPosePlan.MostHours))
            Hours = 6;
        await Load();
        return Page();
    }
}
