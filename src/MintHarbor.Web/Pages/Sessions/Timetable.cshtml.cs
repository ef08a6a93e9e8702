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

/// <summary>A meeting's timetable with its proof in the margin; a chosen line is changed there.</summary>
public sealed class TimetableModel(
    CourseScope scope,
    HarborContext db,
    PlanActions plans,
    TermActions term,
    EveningActions evenings,
    IClock clock
) : CoursePage(scope), IShowsProblems
{
    public Meeting Meeting => Scope.Meeting!;

    [BindProperty(SupportsGet = true)]
    public int? Row { get; set; }
    public IReadOnlyList<Cannot> Cannot { get; private set; } = [];
    public List<Note> Notes { get; } = [];

    /// <summary>The change that broke a rule and might be mended.</summary>
    public PlanEdit? Mendable { get; private set; }
    public List<(string Change, bool Holds, string Says)> Changes { get; } = [];
    public bool CanEdit => Scope.IsInstructor && !Meeting.Begun;
    public double? NowMinutes { get; private set; }
    public string? NowSays { get; private set; }
    public int? NowRow { get; private set; }

    public Task OnGetAsync() => Load();

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostEditAsync(
        EditKind kind,
        string? exercise,
        string? poseId,
        double? minutes,
        int? to,
        double? facing,
        bool mend
    )
    {
        var index = Row ?? -1;
        var at = index >= 0 && index < Meeting.Plan.Items.Count ? Meeting.Plan.Items[index] : null;
        // The form carries every field; each change reads its own.
        var edit = new PlanEdit(kind, index, exercise, poseId, kind == EditKind.Length ? minutes : null, to, facing);
        Cannot = await plans.Edit(Meeting, edit, mend);
        if (Cannot.Count > 0 && !mend)
            Mendable = edit;
        // The chosen line may have moved: find it again by what it is and about when.
        if (Cannot.Count == 0 && at is not null)
        {
            var items = Meeting.Plan.Items;
            Row = Enumerable
                .Range(0, items.Count)
                .Where(k => items[k].Kind == at.Kind)
                .DefaultIfEmpty(0)
                .MinBy(k => (items[k].Held ? 0 : 4) + Math.Abs(items[k].At - at.At));
        }
        return await Answer();
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostUndoAsync()
    {
        await plans.Undo(Meeting);
        return await Answer();
    }

    /// <summary>What a change would break, before it is let go: one line of text.</summary>
    [For(CourseRole.Instructor)]
    public IActionResult OnGetTry(EditKind kind, int index, double? minutes, int? to)
    {
        try
        {
            var laid = Planner.Lay(PlanEdits.Apply(Meeting.Request, Meeting.Plan.Items, new(kind, index, null, null, minutes, to)));
            var broken = laid.Rules.Where(r => !r.Holds).Select(r => r.Says).ToList();
            return Content(broken.Count == 0 ? "holds" : string.Join(" ", broken.Take(2)), "text/plain");
        }
        catch (InputException e)
        {
            return Content($"{char.ToUpperInvariant(e.Message[0])}{e.Message[1..]}.", "text/plain");
        }
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostTemplateAsync(string? name)
    {
        await plans.SaveTemplate(Course, Meeting, name, Me.Person.Name);
        return To($"sessions/{Meeting.Id}");
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostModelLinkAsync(bool renew)
    {
        await evenings.ModelLink(Meeting, renew);
        return To($"sessions/{Meeting.Id}");
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostMoveAsync(DateOnly date, TimeOnly startsAt, bool following)
    {
        await term.Move(Course, Meeting, LocalDate.FromDateOnly(date), LocalTime.FromTimeOnly(startsAt), following);
        return To($"sessions/{Meeting.Id}");
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostRemoveAsync()
    {
        await term.Remove(Meeting);
        return To("sessions");
    }

    private async Task<IActionResult> Answer()
    {
        if (!Fragment && Cannot.Count == 0)
            return To($"sessions/{Meeting.Id}" + (Row is { } r ? $"?row={r}" : ""));
        await Load();
        return Page();
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }

    private async Task Load()
    {
        if (Row is { } r && (r < 0 || r >= Meeting.Plan.Items.Count))
            Row = null;
        var items = Meeting.Plan.Items;
        if (Meeting.Begun)
        {
            var reading = Meeting.Reading(clock.GetCurrentInstant());
            if (reading is { Started: true, Over: false })
            {
                NowMinutes = reading.MinutesRun;
                NowSays =
                    $"{Words.Clock(Words.Local(clock.GetCurrentInstant(), Course).TimeOfDay)}  {Words.Left(reading.SecondsLeft)} min left";
                NowRow = items.ToList().FindIndex(i => i.Line == reading.Current!.Item.Line) is >= 0 and var row ? row : null;
            }
        }
        foreach (
            var f in Meeting.Plan.Rules.Where(f =>
                f.Id is "rest-stretch" or "purpose" or "changeover" || (f.Id == "rest-hour" && f.Value > 0) || !f.Holds
            )
        )
            Notes.Add(Of(f) with { For = f.Id == "rest-stretch" && Row is null ? "strip" : null });
        // Seated and lying are covered by the stretch; the harder strains are said where they are closest to their limit.
        foreach (
            var f in Meeting
                .Plan.Rules.Where(f => f.Id == "rest-strain" && f.Limit < Course.Shelf.Timing.StretchMinutes)
                .OrderByDescending(f => f.Value / f.Limit)
                .Take(1)
        )
            Notes.Add(Of(f));
        if (Row is null)
        {
            Notes.Add(Paper());
            foreach (var n in Meeting.Plan.Notes.Take(2))
                Notes.Add(
                    new(
                        n.Kind is "hard" or "again" ? "near" : "holds",
                        n.Says,
                        n.At is { } minute ? $"row{Meeting.Plan.Items.ToList().FindIndex(i => i.At <= minute && i.End > minute)}" : null
                    )
                );
            if (!Scope.IsStudent && Meeting.Plan.Pay is { } pay)
                Notes.Add(
                    new(
                        "holds",
                        $"The model: *{Say.Fixed(pay.Amount, 2)} {pay.Currency}*, {Say.Minutes(pay.PosedMinutes)} posed.",
                        null,
                        pay.Because
                    )
                );
            foreach (var f in Meeting.Plan.Rules.Where(f => f.Id is "break"))
                Notes.Add(Of(f));
            await AddCard();
            if (Meeting.LongPoseId is { } pose && await db.LongPoses.AsNoTracking().SingleOrDefaultAsync(p => p.Id == pose) is { } going)
                Notes.Add(
                    new(
                        "near",
                        $"The long pose goes on. {(going.FloorMarks == "" ? "No floor marks are kept yet." : $"Floor: {going.FloorMarks}.")}{(going.Lamp == "" ? "" : $" Lamp: {going.Lamp}.")}{(going.Seats == "" ? "" : $" Seats: {going.Seats}.")}",
                        null,
                        null,
                        null,
                        Scope.IsInstructor ? $"/courses/{Course.Id}/sessions/long" : null,
                        Scope.IsInstructor ? "the marks" : null
                    )
                );
            if (CanEdit)
                TryChanges();
        }
        var order = Notes
            .OrderBy(n => n.For is { } f && f.StartsWith("row", StringComparison.Ordinal) ? int.Parse(f[3..], null) : -1)
            .ToList();
        Notes.Clear();
        Notes.AddRange(order);
    }

    private Note Of(RuleFact f)
    {
        var row = f.From is { } from
            ? Enumerable
                .Range(0, Meeting.Plan.Items.Count)
                .FirstOrDefault(k => Meeting.Plan.Items[k].At <= from && Meeting.Plan.Items[k].End > from, -1)
            : -1;
        return new(
            !f.Holds ? "outside"
                : f.AtLimit || f.Yields ? "near"
                : "holds",
            Bold(f),
            row >= 0 ? $"row{row}" : null,
            f.Because
        );
    }

    private static string Bold(RuleFact f)
    {
        var v = Say.Number(f.Value, 1);
        var at = f.Says.IndexOf(v, StringComparison.Ordinal);
        return at < 0 ? f.Says : $"{f.Says[..at]}*{v}*{f.Says[(at + v.Length)..]}";
    }

    private Note Paper()
    {
        var paper = Meeting.Plan.Paper;
        var k = Meeting.Plan.Items.ToList().FindIndex(i => i.Sheets > 0);
        return new(
            "holds",
            $"*{Say.Plural(paper.Sum(p => p.SheetsPerStudent), "sheet")}* a student. For {Meeting.Request.Wish.Students} students {string.Join(" and ", paper.Select(p => $"{p.Sheets} {p.Kind}"))}. Bring {Say.List(Meeting.Plan.Kit)}.",
            k < 0 ? null : $"row{k}",
            "one sheet a pose; sets of six or more single minutes share halved sheets; the periods of one long pose share one: "
                + string.Join(" + ", Meeting.Plan.Items.Where(i => i.Sheets > 0).Select(i => i.Sheets))
        );
    }

    private async Task AddCard()
    {
        if (!Meeting.Request.Wish.HasLiveModel || Meeting.Plan.LongPose is not { } pose)
            return;
        var letter = Meeting.Plan.CardPoses[0].Pose.ToString();
        var card = await db
            .PoseReadings.AsNoTracking()
            .Where(r =>
                r.MeetingId == Meeting.Id
                && r.Pose == letter
                && db.Memberships.Any(m => m.CourseId == Course.Id && m.PersonId == r.ReaderId && m.Role != CourseRole.Student)
            )
            .OrderByDescending(r => r.ReadAt)
            .Select(r => r.Card)
            .FirstOrDefaultAsync();
        var row = $"row{Meeting.Plan.Items.ToList().FindIndex(i => i.Exercise == pose.Exercise && i.At == pose.At)}";
        var read = card?.RatiosRead ?? 0;
        if (read == 5)
            Notes.Add(new("holds", "Pose card: *all five* ratios read.", row));
        else
            Notes.Add(
                new(
                    "blocked",
                    $"Pose card: *{read} of 5* ratios read. Until all are, what is missing stays not judgeable.",
                    row,
                    null,
                    null,
                    Scope.IsStudent ? null : $"/courses/{Course.Id}/sessions/{Meeting.Id}/card",
                    Scope.IsStudent ? null
                        : read == 0 ? "read it"
                        : $"read {Say.Number(5 - read)} more"
                )
            );
    }

    /// <summary>A few changes tried out, with what each would break: nobody has to try them on the evening.</summary>
    private void TryChanges()
    {
        var items = Meeting.Plan.Items.ToList();
        var review = items.FirstOrDefault(i => i.Kind == ItemKind.Review);
        if (review is { Minutes: > 5 })
        {
            var late = Math.Min(10, review.Minutes - 5);
            Changes.Add(
                ($"Start {Say.Number(late)} min late", true, $"review {Say.Number(review.Minutes)} → {Say.Number(review.Minutes - late)}")
            );
        }
        if (!Meeting.Request.Wish.HasLiveModel)
            return;
        var longest = items.FindIndex(i => i.Exercise == "sitting");
        if (longest >= 0)
            Try(
                $"{items[longest].Name} of 30 min",
                [.. items.Select((i, k) => k == longest ? i with { Minutes = 30, PoseMinutes = 30 } : i)]
            );
        var rest = items.FindIndex(i => i.Kind == ItemKind.Rest);
        if (rest >= 0)
            Try($"No rest at {PoseStripTime(items[rest].At)}", [.. items.Where((_, k) => k != rest)]);

        void Try(string name, IReadOnlyList<PlanItem> changed)
        {
            var worst = RestRules
                .Prove(changed, Meeting.Request)
                .Where(f => !f.Holds && f.Id.StartsWith("rest", StringComparison.Ordinal))
                .MaxBy(f => f.Value - f.Limit);
            Changes.Add((name, worst is null, worst is null ? "holds" : Broken(worst)));
        }
    }

    private static string Broken(RuleFact worst)
    {
        var what = worst.Id switch
        {
            "rest-stretch" => "stretch",
            "rest-hour" => "hour",
            _ => "strain",
        };
        return $"{what} {Say.Number(worst.Value)} of {Say.Number(worst.Limit)}";
    }

    private string PoseStripTime(double at) => Drawing.PoseStrip.Time(Meeting.StartsAt, at);

    public string Nearest(Cannot c) =>
        c.Nearest.TryGetValue("minutes", out var m) && m is double minutes ? $"The nearest that holds is {Say.Minutes(minutes)}." : "";

    /// <summary>What is done: for a student the exercise's own words, with scope and size where they depend on the length.</summary>
    public string What(PlanItem i)
    {
        if (!Scope.IsStudent || i.Kind != ItemKind.Exercise)
            return Meeting.Evening.Line(i).OnPaper;
        var minutes = i.IsLong ? i.Minutes : i.PoseMinutes;
        return i.Catalogue!.Student + (Core.Sessions.Scope.Asked(i.Catalogue) ? " " + Core.Sessions.Scope.Of(minutes) : "");
    }

    /// <summary>How long a line takes; of a set its poses, and what is left beside them.</summary>
    public static string Takes(PlanItem i)
    {
        var over = i.Minutes - (i.Poses * i.PoseMinutes);
        return i.Poses <= 1 ? Say.Number(i.Minutes, 1)
            : over > 0.01 ? $"{i.Poses} × {Say.Number(i.PoseMinutes, 1)} + {Say.Number(over, 1)}"
            : $"{i.Poses} × {Say.Number(i.PoseMinutes, 1)}";
    }

    public string Paper(PlanItem i) =>
        i.Kind != ItemKind.Exercise ? ""
        : i.Sheets == 0 ? "the same sheet"
        : $"{i.Sheets} {Subject.Of(Meeting.Request.Wish.Model).Paper ?? i.Catalogue!.Paper}{(i.Catalogue!.Sheets == "twelve-a-sheet" ? $", {i.Poses} on it" : i.Sheets < i.Poses ? ", halved" : "")}";

    public string Count(int n) =>
        n switch
        {
            1 => "one",
            2 => "two",
            3 => "three",
            4 => "four",
            5 => "five",
            6 => "six",
            7 => "seven",
            8 => "eight",
            9 => "nine",
            _ => n.ToString(System.Globalization.CultureInfo.InvariantCulture),
        };
}
