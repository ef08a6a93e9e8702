using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Projects;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Demo;

/// <summary>Projects in every state, through the actions that users take: one in the middle, one of the instructor's own that is graded, one
/// that keeps to a long pose to come, one that is drawn at home.</summary>
internal sealed class DemoProjects(HarborContext db, Person instructor, Func<Instant, IClock> at)
{
    /// <summary>Running: its heads are handed in to their stage afterwards.</summary>
    public Task<Project> Portrait(Course course, LocalDate ends) =>
        new ProjectActions(db).Open(
            course,
            new("portrait-from-sitter", null, ends, 4, 0, new(new(2, 5, 20), RedoRule.Replaces, "percent"))
        );

    /// <summary>Where everybody stands in it: a third begins, some ticked a few points, some are graded by half.</summary>
    public async Task Stand(int portrait, Instant now)
    {
        var works = await Works(portrait);
        var (gates, grades) = (new GateActions(db, new(db, new NoReferenceViews())), new GradeActions(db, at(now)));
        var tone = works[0].Project.Shape.Stage("tone");
        foreach (var (work, n) in works.Select((w, n) => (w, n)))
        {
            await gates.Finish(work, "block-in");
            if (n % 3 == 0)
                continue;
            foreach (var point in tone.Gate.Take(n % 5))
                await gates.Tick(work, "tone", point, true);
            if (n % 3 == 2)
                foreach (var (row, k) in work.Project.Shape.Rubric.Select((r, k) => (r, k)).Take(3))
                    await grades.Level(work, row.Id, 2 + ((n + k) % 3));
        }
    }

    /// <summary>The instructor's own, handed in on paper a week ago: in time, late, extended, excused, again; most grades are shown.</summary>
    public async Task Own(Course course, LocalDate ends, Instant now)
    {
        var plan = await new ProjectPlanActions(db, at(now)).Keep(course, null, Lantern, instructor.Name);
        var project = await new ProjectActions(db).Open(
            course,
            new($"{ProjectActions.Own}{plan.Id}", null, ends, 2, 60, new(new(1, 4, 16), RedoRule.Averages, "letters"))
        );
        var (gates, grades) = (new GateActions(db, new(db, new NoReferenceViews())), new GradeActions(db, at(now)));
        foreach (var (work, n) in (await Works(project.Id)).Select((w, n) => (w, n)))
        {
            if (n == 5)
            {
                await grades.Stand(work, Standing.Excused, "away with a broken wrist");
                await grades.Release(work, course);
                continue;
            }
            await gates.Finish(work, "page");
            await gates.Word(work, "light", instructor.Name);
            await gates.Finish(work, "light");
            if (n == 9)
            {
                await grades.Stand(work, Standing.Incomplete, "the page of six small ones");
                continue;
            }
            if (n == 3)
                await grades.Extend([work], ends.PlusDays(4), "the ferry did not run");
            await grades.HandedIn(
                work,
                course,
                LocalDate.Min(ends.PlusDays(n % 4 == 3 ? 4 : 0), at(now).GetCurrentInstant().InZone(course.TimeZone).Date)
            );
            foreach (var (row, k) in work.Project.Shape.Rubric.Select((r, k) => (r, k)))
                await grades.Level(work, row.Id, Math.Min(Grading.TopLevel, 1 + ((n + (2 * k)) % 4)));
            if (n == 2)
            {
                await grades.Redo(work);
                await grades.Level(work, "values", 4, again: true);
            }
            if (n % 2 == 0)
                await grades.Comment(
                    work,
                    "The lamp stands still in all six: that carries the long one. Next time fewer darks, and later."
                );
            if (n % 5 != 4)
                await grades.Release(work, course);
        }
    }

    /// <summary>To come: it keeps to the dates of the pose that the course has planned.</summary>
    public async Task LongPose(Course course, Instant now)
    {
        var last = await db.Meetings.Where(m => m.CourseId == course.Id && m.LongPoseId != null).MaxAsync(m => m.Date);
        await new ProjectActions(db).Open(course, new("long-figure-pose", "The leaning figure", last, 4));
    }

    /// <summary>Running at home: a line a day.</summary>
    public Task Daily(Course course, LocalDate ends) => new ProjectActions(db).Open(course, new("daily-line", null, ends, 4, 70));

    private Task<List<ProjectWork>> Works(int project) =>
        db
            .ProjectWorks.Include(w => w.Project)
            .Include(w => w.Student)
            .Where(w => w.ProjectId == project)
            .OrderBy(w => w.Student.Name)
            .ToListAsync();

    private static readonly ProjectTemplate Lantern = new(
        "lantern-from-six-sides",
        "A lantern from six sides",
        "One lamp, one lantern, six small drawings round it, then a long one from the side that says most.",
        [
            new("page", "Six small ones", 40, "Walk round it: six drawings of eight minutes, the lamp stays where it is.", [])
            {
                HandIn = "The page of six.",
                Inspects = ["ellipses that agree", "one light in all six"],
                LeastMinutes = 40,
                By = MeasuringBy.EyeThenTool,
                Exercises = ["basic-forms"],
            },
            new(
                "light",
                "The long one",
                60,
                "From the side that says most: three values, the darkest last.",
                ["the six lie beside it", "axis and ellipses stand before any tone"]
            )
            {
                Word = true,
                HandIn = "The long drawing.",
                Inspects = ["three values", "edges lost and found"],
                LeastMinutes = 50,
                By = MeasuringBy.Eye,
                Exercises = ["value-patches"],
            },
        ],
        [
            new("form", "Form", 40, ["flat", "axis alone", "ellipses begun", "ellipses agree with the axis", "turns from every side"]),
            new(
                "values",
                "Values",
                40,
                ["one grey", "two values", "three, but spread", "three, each in its place", "three, and the darkest last"]
            ),
            new(
                "walk",
                "The walk round",
                20,
                ["one side", "two sides", "four sides", "six, one light", "six, one light, one chosen and why"]
            ),
        ]
    )
    {
        Reference = ReferenceKind.Object,
        Medium = "charcoal",
        Kit = ["kneaded eraser"],
    };
}
