using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Practice;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Practice;

/// <summary>One blind contour a day: the run of days counts, not the line. Students draw it here or say that it stands on paper; staff see who goes on.</summary>
public sealed class DailyModel(CourseScope scope, HarborContext db, SittingActions sittings, IClock clock)
    : CoursePage(scope),
        IShowsProblems
{
    /// <summary>Breadth and height of the field, units.</summary>
    public const int Breadth = 240,
        Height = 300;

    /// <summary>Days that the row goes back.</summary>
    public const int Back = 34;

    /// <summary>A day of the row: its line, or why there is none.</summary>
    /// <param name="Bridged">Missed, and the run goes on.</param>
    public sealed record Day(LocalDate On, DailyLine? Line, bool Bridged);

    /// <param name="Student">Whose it is; <paramref name="Name"/> as the class calls them.</param>
    public sealed record Run(int Student, string Name, DailyRun Of, IReadOnlyList<Day> Days);

    public IReadOnlyList<Run> Runs { get; private set; } = [];
    public DailyLine? Today { get; private set; }
    public LocalDate Date { get; private set; }

    /// <summary>A second line is to be laid over today's.</summary>
    [FromQuery(Name = "again")]
    public bool Again { get; set; }

    public Task OnGetAsync() => Load();

    private async Task Load()
    {
        Date = SittingActions.Today(Course, clock.GetCurrentInstant());
        var people = Scope.IsStudent ? [(Me.PersonId, Me.Person.Name)] : await db.StudentsOf(Course.Id);
        var who = people.Select(p => p.Item1).ToList();
        var days = await db
            .DailyLines.AsNoTracking()
            .Where(l => l.CourseId == Course.Id && who.Contains(l.StudentId))
            .Select(l => new { l.StudentId, l.Day })
            .ToListAsync();
        var since = Date.PlusDays(-Back);
        // Of the class only the days are read, of one's own the lines too.
        var lines = await db
            .DailyLines.AsNoTracking()
            .Where(l => l.CourseId == Course.Id && l.StudentId == Me.PersonId && l.Day > since)
            .ToDictionaryAsync(l => l.Day);
        Today = lines.GetValueOrDefault(Date);
        Runs =
        [
            .. people.Select(p =>
            {
                var own = days.Where(d => d.StudentId == p.Item1).Select(d => d.Day).ToHashSet();
                var run = DailyRun.Of(own, Date);
                return new Run(
                    p.Item1,
                    p.Item2,
                    run,
                    [
                        .. Enumerable
                            .Range(1, Back)
                            .Select(n => since.PlusDays(n))
                            .Select(d => new Day(
                                d,
                                own.Contains(d) ? lines.GetValueOrDefault(d) ?? new DailyLine { Day = d } : null,
                                run.Missed.Contains(d)
                            )),
                    ]
                );
            }),
        ];
    }

    /// <summary>A line as path data, coarse enough for a small sheet.</summary>
    public static string Small(string? trace, double tolerance = 1.2) =>
        trace is null
            ? ""
            : string.Concat(
                PenTrace
                    .Read(trace)
                    .Lines.Select(l => Thin.Path([.. l], tolerance))
                    .Select(l =>
                        string.Concat(
                            l.Select(
                                (p, i) =>
                                    string.Create(
                                        System.Globalization.CultureInfo.InvariantCulture,
                                        $"{(i == 0 ? 'M' : 'L')}{p.X:0.#} {p.Y:0.#}"
                                    )
                            )
                        )
                    )
            );

    /// <summary>"23 days, one of them missed".</summary>
    public static string Said(DailyRun run) =>
        !run.Open
            ? run.Last is null
                ? "no line yet"
                : $"the last on {Say.Date(run.Last.Value)}"
            : Say.Plural(run.Days, "day")
                + (
                    run.Missed.Count switch
                    {
                        0 => "",
                        1 => ", one missed between",
                        var n => $", {n} missed between, none beside another",
                    }
                );

    /// <summary>What a day of the row has, in two words.</summary>
    public static string Said(Day d) =>
        d.Line is { } line
            ? line.Trace is null
                ? "on paper"
                : "drawn"
            : d.Bridged
                ? "missed, the run goes on"
                : "none";

    [For(CourseRole.Student)]
    public async Task<IActionResult> OnPostLineAsync(string? trace, string? of)
    {
        if (string.IsNullOrEmpty(trace))
            throw new InputException("nothing is drawn", "trace", "a line in the field; a line on paper is said by its own button");
        await sittings.Line(Course, Me.PersonId, trace, of);
        return To("practice/daily");
    }

    [For(CourseRole.Student)]
    public async Task<IActionResult> OnPostOnPaperAsync(string? of)
    {
        await sittings.Line(Course, Me.PersonId, null, of);
        return To("practice/daily");
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        if (Runs.Count == 0)
            await Load();
        return Page();
    }
}
