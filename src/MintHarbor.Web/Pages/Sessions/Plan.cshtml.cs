using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;
using NodaTime;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>The composer: a request, three timetables laid one above the other, and the one that is taken or mixed.</summary>
[For(CourseRole.Instructor)]
public sealed class PlanModel(CourseScope scope, HarborContext db, PlanActions plans, ModelActions models, IClock clock)
    : CoursePage(scope),
        IShowsProblems
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
        public List<string?> Include { get; set; } = [];
        public string? LongPose { get; set; }
        public string? Part { get; set; }
        public string? Medium { get; set; }
        public bool Online { get; set; }

        /// <summary>Who sits, of the course's book.</summary>
        public List<int> Sits { get; set; } = [];

        /// <summary>Minutes after which the bell rings for a recess, and how long that is; nothing for none.</summary>
        public int? RecessAfter { get; set; }
        public int? Recess { get; set; }

        /// <summary>"last", or a template, to begin from; empty composes anew.</summary>
        public string? From { get; set; }
    }

    [BindProperty]
    public PlanForm Form { get; set; } = new();
    public IReadOnlyList<Cannot> Cannot { get; private set; } = [];
    public IReadOnlyList<Proposal> Proposals { get; private set; } = [];
    public PlanRequest? Asked { get; private set; }
    public IReadOnlyList<MeetingTemplate> Templates { get; private set; } = [];
    public IReadOnlyList<StudioPose> Poses { get; private set; } = [];
    public List<Note> Notes { get; } = [];
    private PlanActions.Learned learned = new(new(), [], null);

    public async Task OnGetAsync(string? from, string? include, string? part)
    {
        await Choices(from);
        var today = Words.Today(Course, clock.GetCurrentInstant());
        var date =
            last is { } l && l >= today ? l.PlusWeeks(1)
            : today.DayOfWeek == Course.Weekday ? today
            : today.Next(Course.Weekday);
        for (var n = 0; n < 52 && Course.DaysOff.Any(o => o.Covers(date)); n++)
            date = date.PlusWeeks(1);
        var rung = Ladder.Default.Get(Course.Rung);
        Form = new()
        {
            Date = date.ToDateOnly(),
            StartsAt = Course.StartsAt.ToTimeOnly(),
            Minutes = Course.Minutes,
            Approach = Course.Approach,
            Students = students,
            Draped = Course.Minors,
            From = from,
            Include = [include],
            Part = part,
            Medium = Course.Medium,
            Model =
                Course.Approach != Approach.LongFirst || rung.Live ? ModelKind.Person
                : rung.Model == "cast" ? ModelKind.Cast
                : ModelKind.StillLife,
        };
        await Lists();
        // Last week's timetable, or a template, is shown at once.
        if (!string.IsNullOrEmpty(from))
            Compose();
    }

    /// <summary>Those who may sit, and what goes on in the room just before and after.</summary>
    public IReadOnlyList<BookedModel> Book { get; private set; } = [];
    public IReadOnlyList<PlanActions.Neighbour> Beside { get; private set; } = [];

    private LocalDate? last;
    private int students;
    private bool chosen;

    /// <summary>What the course keeps to begin from, who may sit, and when it met last: one query, with the timetable of the template that is named.</summary>
    private async Task Choices(string? from)
    {
        var named = int.TryParse(from, System.Globalization.CultureInfo.InvariantCulture, out var id) ? id : 0;
        var (course, books) = (Course.Id, Scope.IsInstructor);
        var found = await db
            .Courses.AsNoTracking()
            .Where(c => c.Id == course)
            .Select(c => new
            {
                Last = c.Meetings.Max(m => (LocalDate?)m.Date),
                Students = c.Members.Count(m => m.Role == CourseRole.Student),
                Templates = db
                    .Templates.Where(t => t.CourseId == course)
                    .OrderBy(t => t.Name)
                    .Select(t => new
                    {
                        t.Id,
                        t.Name,
                        Request = t.Id == named ? t.Request : null,
                    })
                    .ToList(),
                Book = db.BookedModels.Where(m => books && m.CourseId == course && m.LeftAt == null).OrderBy(m => m.Name).ToList(),
            })
            .SingleAsync();
        (last, students, Book, chosen) = (found.Last, found.Students, found.Book, true);
        Templates =
        [
            .. found.Templates.Select(t => new MeetingTemplate
            {
                Id = t.Id,
                Name = t.Name,
                Request = t.Request!,
            }),
        ];
    }

    /// <summary>What there is to choose from, and what the course knows.</summary>
    private async Task Lists()
    {
        if (!chosen)
            await Choices(Form.From);
        learned = await plans.Know(Course, LocalDate.FromDateOnly(Form.Date));
        Poses = [.. PoseLibrary.Studio, .. learned.Known.OwnPoses];
        Beside = await plans.Neighbours(Course, LocalDate.FromDateOnly(Form.Date), LocalTime.FromTimeOnly(Form.StartsAt), Form.Minutes);
    }

    public string Heading =>
        Proposals.Count switch
        {
            0 => "Plan a meeting",
            1 => "A timetable for ",
            2 => "Two timetables for ",
            _ => "Three timetables for ",
        } + (Proposals.Count > 0 ? Words.Day(LocalDate.FromDateOnly(Form.Date)) : "");

    /// <summary>What the timetables were asked for; before that, whose meeting it will be.</summary>
    public string Under =>
        Proposals.Count > 0 && Asked is { Wish: var w }
            ? $"{w.Minutes} min, {Words.Of(w.Approach)}, {w.Purpose.ToString().ToLowerInvariant()}"
            : $"{Course.Name}, {Words.Of(Course.Approach)}";

    /// <summary>The limits of rest in one sentence.</summary>
    public static string Holds(TimingRules t) =>
        $"At most *{Say.Number(t.StretchMinutes)} min* on end, then a rest of {Say.Number(t.RestMinutes)}; *{Say.Number(t.HourPosedMinutes)}* in any hour; a break of {Say.Number(t.BreakMinMinutes)} to {Say.Number(t.BreakMaxMinutes)} in the middle of anything over {Say.Number(t.BreakOverMinutes)}.";

    private PlanRequest Wanted()
    {
        var begun = Form.From == "last" ? learned.Last : Templates.FirstOrDefault(t => $"{t.Id}" == Form.From)?.Request;
        var asked = new PlanWish
        {
            Minutes = Form.Minutes,
            Approach = Form.Approach,
            Purpose = Form.Purpose,
            Model = Form.Model,
        };
        var wish = begun?.Wish ?? asked;
        wish = wish with
        {
            Level = Form.Level,
            Students = Form.Students,
            // A cast or a still life wears nothing to be refused for.
            Draped = Form.Draped || !wish.HasLiveModel,
            Include = begun is null ? [.. Form.Include.Where(i => !string.IsNullOrEmpty(i)).Select(i => i!).Distinct()] : [],
            LongPose = begun is null && !string.IsNullOrEmpty(Form.LongPose) ? Form.LongPose : null,
            Part = string.IsNullOrEmpty(Form.Part) ? null : Form.Part,
            Medium = string.IsNullOrEmpty(Form.Medium) ? null : Form.Medium,
            Seed = Form.Date.DayNumber,
        };
        // The ladder of a course that works otherwise waits: one Long-first evening in it may have a model.
        var rung = Course.Approach == Approach.LongFirst && wish.Approach == Approach.LongFirst ? Course.Rung : null;
        var who = wish.HasLiveModel ? ModelOfDay.Together([.. Book.Where(b => Form.Sits.Contains(b.Id)).Select(b => b.OfDay)]) : null;
        var request = (begun ?? new(wish)) with { Wish = wish, Held = begun is null ? Bell() : begun.Held };
        return PlanActions.Shared(PlanActions.Informed(Course, learned, request.Knowing(k => k with { Rung = rung, Who = who })), Beside);
    }

    /// <summary>The recess of a double lesson, held where the bell rings.</summary>
    private IReadOnlyList<PlanItem> Bell()
    {
        if (Form.Recess is not { } recess || Form.RecessAfter is not { } after || recess == 0)
            return [];
        if (recess is < 5 or > 60)
            throw new InputException($"a recess of {recess} min", "Form.Recess", "5 to 60 minutes");
        if (after < 10 || after + recess > Form.Minutes - 10)
            throw new InputException(
                $"a recess after {after} min",
                "Form.RecessAfter",
                $"10 to {Math.Max(10, Form.Minutes - recess - 10)} minutes"
            );
        return [new(after, recess, ItemKind.Break)];
    }

    private void Compose()
    {
        Asked = Wanted();
        var result = Planner.Plan(Asked);
        (Proposals, Cannot) = (result.Proposals, result.Cannot);
        if (Asked.Missed is [var rule, ..])
            Notes.Add(
                new(
                    "near",
                    $"The class's sheets miss *{MintHarbor.Core.Measuring.Rules.Named([rule])}* most: poses that show it weigh more{(Proposals.Any(p => Planner.Mends(Asked, p)) ? ", and where it has room the evening turns to what mends it" : "")}.",
                    null,
                    "rules named by the critiques of the last five weeks, the commonest first"
                )
            );
        foreach (var n in Beside.Where(n => n.Model == Asked.Wish.Model))
            Notes.Add(
                new("holds", $"*{n.Course}* draws from the same {(n.Before ? "before: its set-up stands" : "after: it stays for them")}.")
            );
        if (Asked.Known.SetUpMinutes is { } s && s != 10 && !Beside.Any(n => n.Before && n.Model == Asked.Wish.Model))
            Notes.Add(
                new(
                    "holds",
                    $"Set-up *{Say.Number(s)} min*: what the last meetings took.",
                    null,
                    "median of the last five meetings, whole minutes"
                )
            );
        if (Asked.Known.ReviewMinutes is { } r && r != 15)
            Notes.Add(
                new(
                    "holds",
                    $"Review *{Say.Number(r)} min*: what the last meetings took.",
                    null,
                    "median of the last five meetings, whole minutes"
                )
            );
        var sitters = Proposals.Select(p => p.Sitter).OfType<string>().ToList();
        if (Asked.Known.History is [{ LongPose: { } pose }, ..] && sitters.Count > 0 && !sitters.Contains(pose))
            Notes.Add(new("holds", $"Last week's long pose was {PoseLibrary.Name(pose, Asked).ToLowerInvariant()}; another is chosen."));
        if (Proposals is [{ Pay: { } pay }, ..])
            Notes.Add(
                new(
                    "holds",
                    $"The model: *{Say.Fixed(pay.Amount, 2)} {pay.Currency}* for {Say.Minutes(pay.PaidMinutes)}.",
                    null,
                    pay.Because
                )
            );
    }

    public async Task<IActionResult> OnPostAsync()
    {
        plans.CheckDate(Course, LocalDate.FromDateOnly(Form.Date), LocalTime.FromTimeOnly(Form.StartsAt), Form.Minutes);
        await Lists();
        Compose();
        if (Proposals.Count == 0)
            Response.StatusCode = StatusCodes.Status400BadRequest;
        return Page();
    }

    /// <summary>Keeps one of the timetables, or the first part of one with the second of another.</summary>
    public async Task<IActionResult> OnPostTakeAsync(string? shape, bool mix, string? before, string? after)
    {
        await Lists();
        Asked = Wanted();
        var request =
            Asked.Laid.Count > 0 ? Asked
            : mix ? Planner.Mix(Asked, before ?? "", after ?? "")
            : Asked.Wishing(w => w with { Shape = shape });
        var (meeting, cannot) = await plans.Plan(
            Course,
            LocalDate.FromDateOnly(Form.Date),
            LocalTime.FromTimeOnly(Form.StartsAt),
            request,
            Form.Online
        );
        if (meeting is not null)
        {
            if (Scope.IsInstructor && meeting.Request.Wish.HasLiveModel && Form.Sits.Any(s => s > 0))
                await models.Sits(meeting, [.. Form.Sits.Where(s => s > 0).Distinct()]);
            return To($"sessions/{meeting.Id}");
        }
        Compose();
        Cannot = cannot;
        Response.StatusCode = StatusCodes.Status400BadRequest;
        return Page();
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Lists();
        return Page();
    }
}
