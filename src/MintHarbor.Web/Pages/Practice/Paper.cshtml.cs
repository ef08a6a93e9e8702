using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Practice;

/// <summary>Drill sheets on paper: printed for a class in a few clicks, photographed by whoever has them, found and read by their numbers.</summary>
[EnableRateLimiting(Limits.Uploads)]
[RequestFormLimits(MultipartBodyLengthLimit = Limits.LargestForm)]
[RequestSizeLimit(Limits.LargestForm)]
public sealed class PaperModel(CourseScope scope, HarborContext db, PaperActions paper, Papers.Papers papers, IClock clock)
    : CoursePage(scope),
        IShowsProblems
{
    public const int MostFiles = 40;

    public sealed class GiveForm
    {
        public List<string> Drills { get; set; } = [];
        public string? Paper { get; set; }
        public List<int> Students { get; set; } = [];

        /// <summary>Until when; null where there is no hurry.</summary>
        public DateTime? Due { get; set; }

        /// <summary>The drawing whose critique asks for it.</summary>
        public int? Sheet { get; set; }
    }

    public sealed class PhotoForm
    {
        public IFormFile? Photo { get; set; }
        public Guid? Key { get; set; }
    }

    /// <param name="Counted">Items that were read safely, or that a person said count.</param>
    /// <param name="Asks">Items that wait for a person.</param>
    public sealed record Row(
        int Id,
        string Number,
        string Who,
        string Drills,
        Instant Given,
        Instant? Read,
        int Counted,
        int Asks,
        int Items
    );

    public sealed record BatchRow(long Batch, Instant Given, string Drills, int Sheets, int Read);

    public sealed record PhotoRow(string Name, string Who, Instant At, PaperOutcome Outcome, int? Sheet, string? Number);

    public GiveForm Give { get; private set; } = new();

    /// <summary>What was just made, to be printed.</summary>
    [BindProperty(SupportsGet = true, Name = "printed")]
    public long? Printed { get; set; }

    public IReadOnlyList<(int Id, string Name)> Students { get; private set; } = [];
    public IReadOnlyList<Row> Sheets { get; private set; } = [];
    public IReadOnlyList<BatchRow> Batches { get; private set; } = [];
    public IReadOnlyList<PhotoRow> Photos { get; private set; } = [];
    public bool Waits => Photos.Any(p => p.Outcome == PaperOutcome.Waiting);

    /// <param name="drills">Chosen before, as a remark's link has them.</param>
    public Task OnGetAsync(string? drills, int? student, int? sheet)
    {
        Give = new()
        {
            Drills = [.. (drills ?? "").Split(',').Where(k => PaperDrills.Find(k) is not null)],
            Students = student is { } s ? [s] : [],
            Sheet = sheet,
        };
        return Load();
    }

    private IQueryable<PaperSheet> Own =>
        db.PaperSheets.AsNoTracking().Where(s => s.CourseId == Course.Id && (!Scope.IsStudent || s.StudentId == Me.PersonId));

    private async Task Load()
    {
        if (!Scope.IsStudent)
            Students = await db.StudentsOf(Course.Id);
        var sheets = await Own.Include(s => s.Student)
            .OrderByDescending(s => s.ReadAt ?? s.GivenAt)
            .ThenBy(s => s.Id)
            .Take(120)
            .ToListAsync();
        Sheets = [.. sheets.Select(RowOf)];
        Batches =
        [
            .. sheets
                .GroupBy(s => s.Batch)
                .OrderByDescending(g => g.Max(s => s.GivenAt))
                .Take(8)
                .Select(g => new BatchRow(
                    g.Key,
                    g.First().GivenAt,
                    PaperActions.Named(g.First().Drills),
                    g.Count(),
                    g.Count(s => s.ReadAt is not null)
                )),
        ];
        await LoadPhotos();
    }

    private async Task LoadPhotos()
    {
        var since = clock.GetCurrentInstant() - Duration.FromDays(7);
        var photos = await (
            from p in db.PaperPhotos.AsNoTracking()
            where p.CourseId == Course.Id && p.At > since && (!Scope.IsStudent || p.PersonId == Me.PersonId)
            join s in db.PaperSheets on p.PaperSheetId equals s.Id into found
            from s in found.DefaultIfEmpty()
            orderby p.At descending, p.Id descending
            select new
            {
                p.Name,
                Who = s == null ? null : s.Student.Name,
                p.At,
                p.Outcome,
                p.PaperSheetId,
                Number = s == null ? (long?)null : s.Number,
            }
        )
            .Take(60)
            .ToListAsync();
        Photos =
        [
            .. photos.Select(p => new PhotoRow(
                p.Name,
                p.Who ?? "",
                p.At,
                p.Outcome,
                p.PaperSheetId,
                p.Number is { } n ? new SheetCode(n, false).Digits : null
            )),
        ];
    }

    private static Row RowOf(PaperSheet s) =>
        new(
            s.Id,
            s.Printed.Code.Digits,
            s.Student.Name,
            PaperActions.Named(s.Drills),
            s.GivenAt,
            s.ReadAt,
            Enumerable.Range(0, s.Printed.Items.Count).Count(s.Counts),
            s.Asks.Count(),
            s.Printed.Items.Count
        );

    public async Task<IActionResult> OnPostGiveAsync([FromForm(Name = "Give")] GiveForm give)
    {
        Give = give;
        if (give.Paper is not ("a4" or "letter"))
            throw new InputException($"paper '{give.Paper}'", "Give.Paper", "a4 | letter");
        IReadOnlyCollection<int> students =
            Scope.IsStudent ? [Me.PersonId]
            : give.Students.Count > 0 ? give.Students
            : [.. (await db.StudentsOf(Course.Id)).Select(s => s.Id)];
        var batch = await paper.Give(
            Course,
            students,
            give.Drills,
            give.Paper == "letter",
            Me.Person.Name,
            Scope.IsStudent ? null : give.Sheet,
            Scope.IsStudent || give.Due is not { } due
                ? null
                : LocalDateTime.FromDateTime(due).InZoneLeniently(Words.Zone(Course)).ToInstant()
        );
        return To($"practice/paper?printed={batch}");
    }

    public async Task<IActionResult> OnGetPdfAsync(long batch)
    {
        var sheets = await Own.Where(s => s.Batch == batch && s.Reading == null)
            .OrderBy(s => s.Student.Name)
            .Select(s => s.Printed)
            .ToListAsync();
        return sheets.Count == 0
            ? NotFound()
            : File(
                papers.Drills(sheets, $"{Request.Scheme}://{Request.Host}/courses/{Course.Id}/practice/paper#photographs"),
                "application/pdf"
            );
    }

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostWithdrawAsync(long batch)
    {
        await paper.Withdraw(Course, batch);
        return To("practice/paper");
    }

    [WaitsItself]
    public async Task<IActionResult> OnPostPhotoAsync([FromForm(Name = "Form")] PhotoForm form)
    {
        if (form.Photo is not { Length: > 0 } file)
            throw new InputException("no photograph was sent", "Form.Photo", Photo.Accepted);
        if (file.Length > Photo.MostBytes)
            throw new InputException($"the file has {Say.Number(file.Length / 1048576.0, 1)} MB", "Form.Photo", Photo.Accepted);
        await paper.Take(Me, form.Key, Path.GetFileName(file.FileName), () => file.Bytes(), HttpContext.RequestAborted);
        Watch.Uploads.Inc();
        var to = $"/courses/{Course.Id}/practice/paper#photographs";
        if (!Fragment)
            return Redirect(to);
        Response.Headers["X-Go"] = to;
        return new OkResult();
    }

    /// <summary>What has become of the photographs, asked for while some wait.</summary>
    public async Task<IActionResult> OnGetPhotosAsync()
    {
        await LoadPhotos();
        return Partial("Practice/_PaperPhotos", this);
    }

    /// <summary>What became of a photograph, for whoever handed it in.</summary>
    public static (string Shape, string Says) Of(PaperOutcome outcome) =>
        outcome switch
        {
            PaperOutcome.Waiting => ("unknown", "is being read"),
            PaperOutcome.Read => ("holds", "read"),
            PaperOutcome.NotFound => (
                "outside",
                "no drill sheet is found on it: all eight rings in the picture, flat, in focus, from above"
            ),
            PaperOutcome.Unknown => ("outside", "its number belongs to no sheet that was printed here"),
            PaperOutcome.OtherCourse => ("outside", "a sheet of another course: hand it in there"),
            PaperOutcome.OtherStudent => ("outside", "that sheet was given to somebody else"),
            PaperOutcome.ReadBefore => ("near", "this sheet was read before; take that reading back to read another photograph of it"),
            PaperOutcome.Unmarked => ("near", "nothing is drawn on it yet"),
            PaperOutcome.NotFlat => (
                "outside",
                "the paper doesn't lie flat enough to be read: smooth it, and photograph paper, not a screen"
            ),
            _ => ("outside", "the file can't be read as a picture"),
        };

    public async Task<IActionResult> Show(string problem)
    {
        if (Fragment)
            return new ContentResult
            {
                StatusCode = StatusCodes.Status400BadRequest,
                Content = problem,
                ContentType = "text/plain; charset=utf-8",
            };
        Problem = problem;
        await Load();
        return Page();
    }
}
