using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Projects;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;
using NodaTime;

namespace MintHarbor.Web.Pages.Projects;

/// <summary>The grade book of a term: every project and the practice, what counts how much, and what would come of it if. A student reads
/// their own line of what has been shown to them.</summary>
[For(CourseRole.Instructor, CourseRole.Student)]
public sealed class BookModel(CourseScope scope, HarborContext db, GradeActions grades, LogActions log, IClock clock)
    : CoursePage(scope),
        IShowsProblems
{
    /// <summary>What is tried on the page, and kept when the instructor says so. What isn't sent stands as it is kept.</summary>
    public sealed class BookForm
    {
        public Dictionary<int, int> Weights { get; set; } = [];
        public int? Practice { get; set; }
        public int? Drop { get; set; }
        public string? Scale { get; set; }
        public bool? ByScore { get; set; }

        /// <summary>Whose line is opened.</summary>
        public int? Who { get; set; }

        /// <summary>Of whose projects without a grade it is supposed, what, and what they aim at.</summary>
        public int? Of { get; set; }
        public Dictionary<int, int?> Suppose { get; set; } = [];
        public int? Aim { get; set; }
    }

    /// <param name="Project">Null for the practice.</param>
    /// <param name="Why">Why there is no number; empty where there is one, or it is open.</param>
    public sealed record Cell(int? Project, TermPart Part, string Why)
    {
        public bool Counts => Why == "";
    }

    public sealed record Row(Person Student, IReadOnlyList<Cell> Cells)
    {
        public IReadOnlyList<TermPart> Parts => [.. Cells.Where(c => c.Counts).Select(c => c.Part)];
        public Grade? Term => TermGrade.Sum(Parts);
    }

    [BindProperty(SupportsGet = true)]
    public BookForm Form { get; set; } = new();
    public BookRules Rules { get; private set; } = BookRules.Plain;
    public IReadOnlyList<Project> Projects { get; private set; } = [];
    public IReadOnlyList<Row> Rows { get; private set; } = [];
    public Scale Scale => Scale.Get(Rules.Scale);

    /// <summary>Whose line is opened: a student's own always is.</summary>
    private int? Shown => Scope.IsStudent ? Me.PersonId : Form.Who;
    public Row? Opened => Rows.FirstOrDefault(r => r.Student.Id == Shown);

    /// <summary>What the rest must come to for the aim.</summary>
    public static Note NeededNote(Exact needed, int aim) =>
        needed > 100 ? new("blocked", $"*{aim}* is out of reach: the rest would have to be {needed} of 100.")
        : needed < 0 ? new("holds", $"*{aim}* is had already, whatever the rest comes to.")
        : new("near", $"For *{aim}* the rest must come to *{needed}* of 100, all alike.");

    /// <summary>How the term's number comes, and how the practice does.</summary>
    public Note Counts =>
        new(
            "holds",
            $"Term = Σ(counts · grade) ÷ Σ counts, exact, rounded once. Practice is the mean of the weeks' {(Rules.ByScore ? "rounds and drill sheets, each of 100" : "done ÷ given")}.",
            null,
            (
                Rules.ByScore
                    ? "100 within what is asked of a trained eye, 0 at five times that; a week with something due and nothing done is 0. "
                    : ""
            ) + "What is excused, or not given, counts neither way. Weeks in which nothing was due are no weeks."
        );

    /// <summary>What the page shows is not what is kept.</summary>
    public bool Tried { get; private set; }

    public async Task OnGetAsync()
    {
        Rules = Wanted();
        await Load();
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnGetCsvAsync()
    {
        Rules = Kept;
        await Load();
        await log.Exported(Course, "grade book of the term");
        var csv = Roster.Csv([
            ["name", "mail", .. Projects.Select(p => p.Name), "practice", "term", Scale.Name],
            .. Rows.Select(r =>
                (IEnumerable<string>)
                    [
                        r.Student.Name,
                        r.Student.Email ?? "",
                        .. r.Cells.Select(c => c.Counts ? c.Part.Value?.ToString() ?? "" : c.Why),
                        r.Term is { } t ? $"{t.Percent}" : "",
                        r.Term is { } g ? Scale.Of(g.Percent) : "",
                    ]
            ),
        ]);
        return File(Encoding.UTF8.GetBytes(csv), "text/csv; charset=utf-8", "grades-of-the-term.csv");
    }

    /// <summary>From now on it counts as it is tried here.</summary>
    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostKeepAsync()
    {
        await grades.Keep(Course, Wanted());
        return To("projects/book");
    }

    private BookRules Kept => Course.Book ?? BookRules.Plain;

    /// <summary>What is kept, with what was sent in its place.</summary>
    private BookRules Wanted()
    {
        var weights = Kept.Weights.Where(w => !Form.Weights.ContainsKey(w.Key)).Concat(Form.Weights).ToDictionary();
        var wanted = new BookRules(
            weights,
            Form.Practice ?? Kept.Practice,
            Form.Drop ?? Kept.Drop,
            Form.Scale ?? Kept.Scale,
            Form.ByScore ?? Kept.ByScore
        ).Checked();
        foreach (var value in Form.Suppose.Values.Append(Form.Aim))
            if (value is < 0 or > 100)
                throw new InputException($"{value} of 100", "suppose", "0 to 100");
        return wanted;
    }

    private async Task Load()
    {
        Projects = await db
            .Projects.AsNoTracking()
            .Include(p => p.Works.Where(w => w.StudentId == Me.PersonId || !Scope.IsStudent))
            .Where(p => p.CourseId == Course.Id && (!Scope.IsStudent || p.Works.Any(w => w.StudentId == Me.PersonId)))
            .OrderBy(p => p.Ends)
            .ThenBy(p => p.Id)
            .ToListAsync();
        var students = await db
            .Memberships.AsNoTracking()
            .Where(m => m.CourseId == Course.Id && m.Role == CourseRole.Student && (m.PersonId == Me.PersonId || !Scope.IsStudent))
            .OrderBy(m => m.Person.Name)
            .ThenBy(m => m.PersonId)
            .Select(m => m.Person)
            .ToListAsync();
        var practice = await Practice();
        var works = Projects
            .SelectMany(p => p.Works, (p, w) => (Project: p, Work: w))
            .ToDictionary(x => (x.Project.Id, x.Work.StudentId), x => x.Work);
        Tried = Rules.ToString() != Kept.ToString() || Rules.Weights.Any(w => Kept.WeightOf(w.Key) != w.Value);
        Rows =
        [
            .. students.Select(s => new Row(
                s,
                [.. Projects.Select(p => CellOf(p, works.GetValueOrDefault((p.Id, s.Id)), s.Id)), PracticeOf(practice[s.Id])]
            )),
        ];
    }

    /// <summary>What was given and is due by now, and where it counts what was measured, week by week, of whoever is read here.</summary>
    private async Task<ILookup<int, PracticeWeek>> Practice()
    {
        var now = clock.GetCurrentInstant();
        var due = await db
            .Assignments.AsNoTracking()
            .Where(a => a.CourseId == Course.Id && a.Due <= now && (a.StudentId == Me.PersonId || !Scope.IsStudent))
            .Select(a => new
            {
                a.StudentId,
                a.Due,
                Done = a.DoneAt != null,
            })
            .ToListAsync();
        var measured = Rules.ByScore
            ? await db
                .MeasurePoints.AsNoTracking()
                .Where(p => p.CourseId == Course.Id && p.From != EvidenceOf.Sheet && (p.StudentId == Me.PersonId || !Scope.IsStudent))
                .ToListAsync()
            : [];
        var scores = measured.ToLookup(p => (p.StudentId, MondayOf(p.At)), p => TermGrade.Score(p.Point.Off));
        var given = due.ToLookup(a => (a.StudentId, MondayOf(a.Due)));
        return given
            .Select(g => g.Key)
            .Union(scores.Select(g => g.Key))
            .ToLookup(k => k.StudentId, k => new PracticeWeek(given[k].Count(), given[k].Count(a => a.Done), [.. scores[k]]));

        LocalDate MondayOf(Instant at) => at.InZone(Course.TimeZone).Date.With(DateAdjusters.PreviousOrSame(IsoDayOfWeek.Monday));
    }

    private Cell CellOf(Project project, ProjectWork? work, int student)
    {
        var weight = Rules.WeightOf(project.Id);
        if (work is null)
            return new(project.Id, new(project.Name, weight, null), "not in it");
        if (work.Standing == Standing.Excused)
            return new(project.Id, new(project.Name, weight, null), "excused");
        work.Project = project;
        // A student reads what was shown to them.
        var value = Scope.IsStudent && work.ReleasedAt is null ? null : work.Grade(Course.TimeZone)?.Value;
        var supposed = value is null && student == Form.Of && student == Shown ? Form.Suppose.GetValueOrDefault(project.Id) : null;
        return new(project.Id, new(project.Name, weight, value ?? (supposed is { } s ? (Exact)s : null), supposed is not null), "");
    }

    private Cell PracticeOf(IEnumerable<PracticeWeek> weeks)
    {
        var value = Rules.ByScore ? TermGrade.Measured(weeks, Rules.Drop) : TermGrade.Practice(weeks, Rules.Drop);
        // Nothing was given: nothing is owed either.
        return new(
            null,
            new("Practice", Rules.Practice, value),
            value is not null ? ""
                : Rules.ByScore ? "none measured"
                : "none given"
        );
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        Rules = Kept;
        await Load();
        return Page();
    }
}
