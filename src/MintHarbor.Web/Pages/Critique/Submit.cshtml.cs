using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Practice;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>A student hands in a photograph with a question and a self-review.</summary>
[For(CourseRole.Student), EnableRateLimiting(Limits.Uploads)]
[RequestSizeLimit(Limits.LargestForm), RequestFormLimits(MultipartBodyLengthLimit = Limits.LargestForm)]
public sealed class SubmitModel(CourseScope scope, HarborContext db, IntakeActions intake, IClock clock) : CoursePage(scope), IShowsProblems
{
    public sealed class SubmitForm
    {
        public string? Question { get; set; }
        public string? SelfReview { get; set; }
        public IFormFile? Photo { get; set; }
        public int? MeetingId { get; set; }
        public string Exercise { get; set; } = "sitting";

        /// <summary>Which long pose of the meeting, from 1; asked only where a meeting had more than one.</summary>
        public int? LongPose { get; set; }
        public string Pose { get; set; } = "standing";
        public string View { get; set; } = "front";
        public string Paper { get; set; } = "";
        public int? RedoOf { get; set; }

        /// <summary>The stage of a project that it belongs to, as <see cref="StageOf"/> writes it; empty for none.</summary>
        public string? Stage { get; set; }

        /// <summary>"photo": paper photographed; "whole": the picture is the drawing.</summary>
        public string Kind { get; set; } = "photo";
        public double? WholeWidth { get; set; }
        public Guid? Set { get; set; }
        public int SetAt { get; set; }
        public Guid? Key { get; set; }
    }

    public sealed record MeetingRow(int Id, int Number, LocalDate Date, int LongPoses);

    [BindProperty]
    public SubmitForm Form { get; set; } = new();
    public IReadOnlyList<MeetingRow> Meetings { get; private set; } = [];
    public Sheet? Before { get; private set; }

    /// <summary>Stages that are open to the student, with the name of their project.</summary>
    public IReadOnlyList<(StageOf Stage, string Says)> Stages { get; private set; } = [];

    /// <param name="memory">The redo is drawn without the subject.</param>
    public async Task<IActionResult> OnGetAsync(int? redo, string? stage, bool memory)
    {
        if (redo is not null && (Before = await Own(redo.Value)) is null)
            return NotFound();
        await Load();
        Form.Paper = Course.Paper;
        Form.MeetingId = Meetings.FirstOrDefault()?.Id;
        Form.Stage = stage;
        if (Before is { } b)
        {
            if (b is { WorkId: { } work, StageId: { } of })
                Form.Stage = $"{new StageOf(work, of)}";
            (Form.RedoOf, Form.Question, Form.Exercise, Form.View, Form.MeetingId) = (b.Id, b.Question, b.Exercise, b.View, b.MeetingId);
            if (memory && Course.Shelf.Exercise(Exercises.WithoutReference) is { } without)
                (Form.Exercise, Form.Question) = (without.Id, "From memory: what did I keep of it?");
            Form.Pose =
                b.Subject == Sheet.Thing ? Sheet.Thing
                : b.Subject == "head"
                    ? b.Pose == "other" ? "head-tilted"
                        : "head-level"
                : b.StandingLeg is { } leg ? $"{b.Pose}-{leg}"
                : b.Pose;
        }
        return Page();
    }

    private Task<Sheet?> Own(int id) =>
        db
            .Sheets.AsNoTracking()
            .SingleOrDefaultAsync(s => s.Id == id && s.CourseId == Course.Id && s.StudentId == Me.PersonId && s.ReleasedAt != null);

    private async Task Load()
    {
        var today = Words.Today(Course, clock.GetCurrentInstant());
        var meetings = await db
            .Meetings.Where(m => m.CourseId == Course.Id && m.Date <= today)
            .OrderByDescending(m => m.Date)
            .Take(12)
            .Select(m => new
            {
                m.Id,
                m.Number,
                m.Date,
                m.Plan,
            })
            .ToListAsync();
        Meetings = [.. meetings.Select(m => new MeetingRow(m.Id, m.Number, m.Date, m.Plan.CardPoses.Count))];
        var works = await db
            .ProjectWorks.AsNoTracking()
            .Include(w => w.Project)
            .Where(w => w.StudentId == Me.PersonId && w.Project.CourseId == Course.Id && w.ReleasedAt == null)
            .OrderBy(w => w.Project.Ends)
            .ToListAsync();
        Stages =
        [
            .. works.SelectMany(w =>
                w.Project.Shape.Stages.Where(s => w.Gate(s.Id).IsOpen(s))
                    .Select(s => (new StageOf(w.Id, s.Id), $"{w.Project.Name}: {s.Name}"))
            ),
        ];
    }

    [WaitsItself]
    public async Task<IActionResult> OnPostSendAsync()
    {
        await Load();
        var pose = (Form.Pose ?? "").Split('-');
        // A head is level or tilted; the rest of its pose does not matter to what is measured.
        var (head, thing) = (pose[0] == "head", pose[0] == Sheet.Thing);
        var said = new Submission(
            Form.Question ?? "",
            Form.SelfReview ?? "",
            Form.Exercise ?? "",
            head
                ? pose.Length > 1 && pose[1] == "tilted"
                    ? "other"
                    : "standing"
                : thing
                    ? "other"
                    : pose[0],
            !head && pose.Length > 1 ? pose[1] : null,
            Form.View ?? "",
            Form.Paper ?? "",
            Form.MeetingId,
            Form.RedoOf,
            head ? "head"
                : thing ? Sheet.Thing
                : "figure",
            Form.MeetingId is { } from && Meetings.Any(m => m.Id == from && m.LongPoses > 1) ? Form.LongPose : null,
            StageOf.Read(Form.Stage)
        );
        IntakeActions.Check(said, Course.Shelf);
        if (Form.Kind is not ("photo" or "whole"))
            throw new InputException($"unknown kind '{Form.Kind}'", "Form.Kind", "photo | whole");
        if (Form.Kind == "whole" && Form.WholeWidth is null)
            throw new InputException(
                "a drawing without a paper edge has no size",
                "Form.WholeWidth",
                Course.Inch ? "its width in inches" : "its width in mm"
            );
        if (Form.Photo is not { Length: > 0 } file)
            throw new InputException("no photograph was sent", "Form.Photo", Photo.Accepted);
        if (file.Length > Photo.MostBytes)
            throw new InputException($"the file has {Core.Say.Number(file.Length / 1048576.0, 1)} MB", "Form.Photo", Photo.Accepted);
        var sheet = await intake.Submit(
            Course,
            Me,
            said,
            () => Form.Photo!.Bytes(),
            new(Form.Set, Form.SetAt, Form.Key, Form.Kind == "whole" ? Form.WholeWidth * (Course.Inch ? 25.4 : 1) : null)
        );
        Watch.Uploads.Inc();
        var to =
            $"/courses/{Course.Id}/critique/"
            + (
                Form.Set is { } set ? $"set/{set}"
                : sheet.Whole ? $"{sheet.Id}/bench"
                : $"{sheet.Id}/corners"
            );
        if (!Fragment)
            return Redirect(to);
        Response.Headers["X-Go"] = to;
        return new OkResult();
    }

    public async Task<IActionResult> Show(string problem)
    {
        // The uploading script keeps the form as it stands and shows one line; without script the page comes back filled in.
        if (Fragment)
            return new ContentResult
            {
                StatusCode = StatusCodes.Status400BadRequest,
                Content = problem,
                ContentType = "text/plain; charset=utf-8",
            };
        Problem = problem + " Choose the photograph again; what you typed is kept.";
        await Load();
        return Page();
    }
}
