using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Projects;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>How a project is opened.</summary>
/// <param name="Template">A template's id, or "own-" and the number of a course's own.</param>
/// <param name="Name">Empty for the template's own.</param>
/// <param name="Meetings">How many of the last meetings before its end it takes.</param>
/// <param name="HomeMinutes">Minutes a week that are drawn at home.</param>
public sealed record Opening(string Template, string? Name, LocalDate Ends, int Meetings, int HomeMinutes = 0, GradeRules? Rules = null);

/// <summary>Opens graded projects and keeps their dates.</summary>
public sealed class ProjectActions(HarborContext db)
{
    public const string Own = "own-";

    /// <summary>What may be opened: the course's own first, then the product's.</summary>
    public async Task<IReadOnlyList<(string Id, ProjectTemplate Plan)>> Shelf(Course course) =>
        [
            .. (await db.ProjectPlans.AsNoTracking().Where(p => p.CourseId == course.Id).OrderBy(p => p.Name).ToListAsync()).Select(p =>
                ($"{Own}{p.Id}", p.Plan)
            ),
            .. ProjectTemplate.All.Select(t => (t.Id, t)),
        ];

    /// <exception cref="InputException">Neither the product's nor the course's own.</exception>
    public async Task<ProjectTemplate> Plan(Course course, string id) =>
        id.StartsWith(Own, StringComparison.Ordinal)
            ? int.TryParse(id[Own.Length..], out var own)
            && await db.ProjectPlans.AsNoTracking().SingleOrDefaultAsync(p => p.Id == own && p.CourseId == course.Id) is { } kept
                ? kept.Plan
                : throw new InputException("no such project of the course's own", "template", "one that is on the list")
            : ProjectTemplate.Get(id);

    /// <summary>Whether it will fit, and what would be the nearest that does.</summary>
    public async Task<ProjectFit> Fit(Course course, Opening o)
    {
        var t = await Plan(course, Checked(o).Template);
        if (await Tied(course, t, o.Ends) is { } pose)
            return new(StageDates.WorkBack(t.Stages, pose.Times), []);
        return ProjectFit.Of(t.Stages, await Drawn(course.Id), o.Ends, o.Meetings, o.HomeMinutes, course.DaysOff);
    }

    /// <summary>Opens a project, its dates worked back from the end over the course's meetings, with a place for every student. It keeps a
    /// copy of what it is opened from.</summary>
    /// <exception cref="InputException">Its stages don't get the time they need; what is accepted names the nearest that would.</exception>
    public async Task<Project> Open(Course course, Opening o)
    {
        var t = await Plan(course, Checked(o).Template);
        var name = Names.Checked(string.IsNullOrWhiteSpace(o.Name) ? t.Name : o.Name, "Name", 80);
        var pose = await Tied(course, t, o.Ends);
        var fit = await Fit(course, o);
        if (!fit.Fits)
            throw new InputException(fit.Says, fit.Dates.Count == 0 ? "end" : "Meetings", Nearest(fit));
        var students = await db
            .Memberships.Where(m => m.CourseId == course.Id && m.Role == CourseRole.Student)
            .Select(m => m.PersonId)
            .ToListAsync();
        var project = new Project
        {
            CourseId = course.Id,
            Template = o.Template,
            Plan = t,
            Name = name,
            Ends = pose?.Times[^1].Date ?? o.Ends,
            MeetingsUsed = pose?.Times.Count ?? fit.Taken,
            HomeMinutes = pose is null ? o.HomeMinutes : 0,
            LongPoseId = pose?.Id,
            Rules = o.Rules,
            Stages = [.. fit.Dates],
            Works = [.. students.Select(s => new ProjectWork { StudentId = s })],
        };
        db.Projects.Add(project);
        await db.SaveChangesAsync();
        return project;
    }

    /// <summary>The nearest that fits, in words.</summary>
    public static string Nearest(ProjectFit fit) =>
        fit is { Meetings: { } n, Ends: { } end }
            ? $"over {Say.Plural(n, "meeting")}, ending on {Say.Date(end)}, it fits"
            : "more meetings in the term, time at home, or shorter stages";

    private static Opening Checked(Opening o)
    {
        if (o.Meetings is < 1 or > StageDates.MostMeetings)
            throw new InputException($"{o.Meetings} meetings", "Meetings", $"1 to {StageDates.MostMeetings}");
        if (o.HomeMinutes is < 0 or > StageDates.MostHomeMinutes)
            throw new InputException(
                $"{Say.Number(o.HomeMinutes / 60.0, 1)} hours, {o.HomeMinutes} minutes a week at home",
                "HomeHours",
                $"0 to {StageDates.MostHomeMinutes / 60} hours"
            );
        if (o.Rules is { } rules)
        {
            rules.Late.Checked();
            Scale.Get(rules.Scale);
        }
        return o;
    }

    private async Task<List<(LocalDate Date, int NetMinutes)>> Drawn(int course)
    {
        var meetings = await db.Meetings.AsNoTracking().Where(m => m.CourseId == course).Select(m => new { m.Date, m.Plan }).ToListAsync();
        return [.. meetings.Select(m => (m.Date, Net(m.Plan)))];
    }

    private static int Net(Proposal plan) => (int)plan.Items.Where(i => i.Kind == ItemKind.Exercise).Sum(i => i.Minutes);

    /// <summary>The course's pose of several meetings that a template follows: the newest that ends on or before the project's end, with its
    /// meetings' shares as its own planner parts them, so that both say the same dates. Null where it follows none or none is planned.</summary>
    private async Task<(int Id, IReadOnlyList<DrawingTime> Times)?> Tied(Course course, ProjectTemplate t, LocalDate ends)
    {
        if (!t.FollowsLongPose)
            return null;
        var poses = await db
            .LongPoses.AsNoTracking()
            .Include(p => p.Meetings)
            .Where(p => p.CourseId == course.Id && p.Meetings.Any() && p.Meetings.Max(m => m.Date) <= ends)
            .OrderByDescending(p => p.Meetings.Max(m => m.Date))
            .Take(1)
            .ToListAsync();
        return poses is [var pose] ? (pose.Id, TimesOf(pose, pose.Meetings)) : null;
    }

    /// <summary>The meetings of a pose with its own minutes in each.</summary>
    private static IReadOnlyList<DrawingTime> TimesOf(LongPose pose, IEnumerable<Meeting> meetings)
    {
        var own = meetings.Where(m => m.LongPoseId == pose.Id).OrderBy(m => m.Date).ToList();
        return own.Count == 0
            ? []
            :
            [
                .. own.Zip(pose.Plan(own[0].Minutes).Meetings)
                    .Select(x => new DrawingTime(x.First.Date, (int)Math.Round(x.Second.Minutes))),
            ];
    }

    /// <summary>Works the dates of the projects that touch these days out anew: a meeting that moves takes with it what hangs on it, the end
    /// of the project as well where it was the last.</summary>
    /// <param name="days">From which day to which meetings move; they are not saved yet.</param>
    /// <param name="meetings">The course's meetings as they are to be.</param>
    /// <returns>How many projects moved.</returns>
    public static async Task<int> Follow(
        HarborContext db,
        Course course,
        IReadOnlyDictionary<LocalDate, LocalDate> days,
        IReadOnlyList<Meeting> meetings
    )
    {
        var moved = 0;
        var projects = await db.Projects.Where(p => p.CourseId == course.Id).ToListAsync();
        var poses = projects.Exists(p => p.LongPoseId is not null)
            ? await db.LongPoses.AsNoTracking().Where(p => p.CourseId == course.Id).ToListAsync()
            : [];
        foreach (var p in projects)
        {
            if (!p.Stages.Any(s => Moves(s.From) || Moves(s.Due)))
                continue;
            // Where no meeting is left before its end, the dates stay for the instructor to see.
            var last = p.Stages.Max(s => s.Due);
            if (days.TryGetValue(last, out var then) && (then > p.Ends || p.Ends == last))
                p.Ends = then;
            if (!meetings.Any(m => m.Date <= p.Ends && Net(m.Plan) > 0))
                continue;
            p.Stages = [.. StageDates.WorkBack(p.Shape.Stages, Times(p))];
            moved++;
        }
        return moved;

        bool Moves(LocalDate d) => days.TryGetValue(d, out var to) && to != d;

        IReadOnlyList<DrawingTime> Times(Project p) =>
            poses.Find(x => x.Id == p.LongPoseId) is { } pose && TimesOf(pose, meetings) is { Count: > 0 } own
                ? own
                : StageDates.Times([.. meetings.Select(m => (m.Date, Net(m.Plan)))], p.Ends, p.MeetingsUsed, p.HomeMinutes, course.DaysOff);
    }
}
