using System.Net;
using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Fitting;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Technique;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Drawing;
using MintHarbor.Web.Figures;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>What is sent again when one's own is to stand: the handler and its fields.</summary>
public sealed record Again(string Handler, IReadOnlyList<(string Name, string Value)> Fields);

/// <param name="By">Who changed it meanwhile.</param>
/// <param name="What">Of what.</param>
public sealed record Clash(string By, string What, string Theirs, string Mine, Again Again);

/// <summary>The bench: the sheet in true millimetres, its landmarks and what they say, and for staff the remarks. A student
/// places the landmarks of their own sheet here until it is handed in.</summary>
public sealed class BenchModel(
    CourseScope scope,
    HarborContext db,
    SheetActions sheets,
    PracticeActions practice,
    StageActions stages,
    SheetContexts contexts,
    ReferenceViews references,
    SheetChecks anatomy,
    ExampleActions examples
) : CoursePage(scope), IShowsProblems
{
    public Sheet Sheet => Scope.Sheet!;
    public bool Staff => !Scope.IsStudent;
    public bool Released => Sheet.ReleasedAt is not null;
    public bool Editable => Staff ? !Released : Sheet.State == SheetState.Placing;
    public LaidReference? Laid { get; private set; }

    /// <summary>The checks of anatomy on this drawing; none while it can't be laid over, and none for a student.</summary>
    public IReadOnlyList<SheetCheck> Checks { get; private set; } = [];
    public IReadOnlyList<SheetCheck> SeenChecks => [.. Checks.Where(c => c.Where == CheckPlace.Seen).OrderBy(c => c.At.Y)];

    public IReadOnlyList<CheckPin> Pins => [.. SeenChecks.Select(c => new CheckPin(c.Key, c.Check.Name, MarkOf(c), c.At))];

    /// <summary>The remark that says a check is off; null where none does.</summary>
    public Remark? OffBy(SheetCheck c) => Sheet.Remarks.FirstOrDefault(r => r.Check == c.Key);

    /// <summary>What the marks say of a check that is a measure too; null where it is none or they don't tell.</summary>
    public Finding? MeasuredOf(SheetCheck c)
    {
        var told = Findings.Where(f => f.Judgeable && f.Rule.Id == c.Check.Measure).ToList();
        return told.FirstOrDefault(f => f.Measure.Part?.Id.EndsWith(c.Key[^2..], StringComparison.Ordinal) == true)
            ?? told.FirstOrDefault(f => f.Measure.Part is null || !f.Measure.Part.Id.Contains('.', StringComparison.Ordinal));
    }

    /// <summary>What was said of a check: the product's mark of it.</summary>
    public CheckMark MarkOf(SheetCheck c) =>
        OffBy(c) is not null ? CheckMark.Off
        : !Sheet.Checked.TryGetValue(c.Key, out var says) ? CheckMark.Open
        : says == CheckAnswer.Holds ? CheckMark.Holds
        : CheckMark.Skipped;

    public SheetContext Judged { get; private set; } = null!;
    public IReadOnlyList<Finding> Findings => Judged.Findings;
    public IReadOnlyList<CardRow> Rows { get; private set; } = [];
    public List<(Note Note, string? Key)> Notes { get; } = [];
    public IReadOnlyList<Remark> Chosen => [.. Sheet.Remarks.Where(r => r.Priority is not null).OrderBy(r => r.Priority)];
    public IReadOnlyList<Remark> Beside => [.. Sheet.Remarks.Where(r => r.Priority is null)];
    public IReadOnlyList<string> Blocking => Priorities.Blocking(Sheet.Remarks);
    public List<(string Id, string Label, Vec2 At)> Spots { get; } = [];
    public (int At, int Of) Queue { get; private set; }

    /// <summary>Whether landmarks are asked for: of a thing, or in an exercise without a rule of the figure, there are none.</summary>
    public bool HasMarks => SheetMarks.AreAsked(Sheet, Course);

    /// <summary>What speaks where no pose card was read.</summary>
    public string JudgedBy =>
        !HasMarks
            ? "No landmarks are asked for here: the ink is read for line, tone and place."
            : $"{WithoutCard}; the canon judges where its rules apply: {Judged.School.Name}.";

    private string WithoutCard => Sheet.Subject == "head" ? "A head is held against its school" : "No pose card was read for this drawing";

    private IReadOnlyList<string> OrderAsked => HasMarks ? LandmarkIds.OrderOf(Sheet.Subject) : [];
    public string Order => string.Join(' ', OrderAsked);
    public string Names =>
        JsonSerializer.Serialize(OrderAsked.Concat(Sheet.Landmarks.Keys).Distinct().ToDictionary(i => i, LandmarkIds.Name));

    public static readonly IReadOnlyList<(string Key, string Does)> AllKeys =
    [
        ("n", "next landmark"),
        ("c", "the chosen landmark lies right"),
        ("← ↑ → ↓", "move the chosen landmark by a millimetre, with shift by a fifth"),
        ("delete", "take it away"),
        ("z", "undo the last placement"),
        ("p", "plumb line from the pit of the neck"),
        ("h", "head ladder"),
        ("u", "upside down"),
        ("m", "mirror"),
        ("v", "reference view: laid over, blinking, off"),
        ("[ ]", "its strength"),
        ("a", "checks of anatomy on the drawing"),
        ("l", "the lines as they were read"),
        ("t", "the values as they were read"),
        ("r", "name a fault"),
        ("esc", "leave placing"),
        ("?", "this list"),
    ];

    public IReadOnlyList<(string Key, string Does)> Keys => AllKeys;

    /// <summary>What the ink says of technique, by what the exercise is inspected for; none before it was read.</summary>
    public IReadOnlyList<TechniqueFinding> Technique => field ??= TechniqueState.Findings(Sheet, Course);

    public async Task<IActionResult> OnGetAsync()
    {
        if (!Staff && Sheet.State != SheetState.Placing)
            return To($"critique/{Sheet.Id}");
        await Load();
        return Page();
    }

    /// <summary>What a finding has become in the critique; null where it was not taken over.</summary>
    public string? PriorityOf(string key) =>
        Sheet.Remarks.FirstOrDefault(r => (r.Key ?? r.Rule) == key) is not { } r ? null
        : r.Priority is { } p ? $"Priority {p}"
        : "a remark";

    /// <summary>Somebody else's change that the page did not know of when it sent its own: both are shown, and one is chosen.</summary>
    public Clash? Clash { get; private set; }

    /// <param name="was">Where the page saw the landmark, "x y" in mm, or empty where it saw none; null asks nothing.</param>
    public Task<IActionResult> OnPostPlaceAsync(string? id, double x, double y, string? was) =>
        Landmark(
            id ?? "",
            was,
            $"{Say.Number(x, 1)}, {Say.Number(y, 1)} mm",
            new("place", [("id", id ?? ""), ("x", Plain(x)), ("y", Plain(y))]),
            () => sheets.Place(Sheet, Course, id ?? "", new Vec2(x, y), Staff)
        );

    public Task<IActionResult> OnPostRemoveAsync(string? id, string? was) =>
        Landmark(id ?? "", was, "taken away", new("remove", [("id", id ?? "")]), () => sheets.Remove(Sheet, Course, id ?? "", Staff));

    private Task<IActionResult> Landmark(string id, string? was, string mine, Again again, Func<Task> change)
    {
        // What the ink told moves as others are placed: only what somebody placed can clash.
        var now = SheetMarks.Placed(Sheet).TryGetValue(id, out var at) ? $"{Plain(at.X)} {Plain(at.Y)}" : "";
        if (was is null || was == now || Mine)
            return Edit(change);
        return Clashing(
            new(
                Sheet.SavedBy,
                LandmarkIds.Name(id),
                now == "" ? "taken away" : $"{Say.Number(at.X, 1)}, {Say.Number(at.Y, 1)} mm",
                mine,
                again
            )
        );
    }

    private static string Plain(double v) => v.ToString("0.##", System.Globalization.CultureInfo.InvariantCulture);

    private async Task<IActionResult> Clashing(Clash clash)
    {
        Clash = clash;
        Response.StatusCode = StatusCodes.Status409Conflict;
        await Load();
        return Page();
    }

    /// <summary>When somebody last changed it, as the page knows it; the ink's own work is nobody's change.</summary>
    public long Stamp => Sheet.SavedAt?.ToUnixTimeTicks() ?? 0;

    /// <summary>Asked while the ink is read: the bench anew when it is done.</summary>
    public async Task<IActionResult> OnGetFittedAsync()
    {
        if (Sheet.FitSince is not null)
            return new NoContentResult();
        await Load();
        return Page();
    }

    /// <summary>Marks that somebody placed.</summary>
    private int Placed => Sheet.ByStudent.Keys.Union(Sheet.ByStaff.Keys).Count();

    /// <summary>The mark that matters most; null when all are known well enough.</summary>
    private string? Wanted => SheetMarks.Wanted(Sheet, Findings);

    /// <summary>The mark to look at next; null when none matters, or enough was asked.</summary>
    public string? Ask => Sheet.FitSince is null && Placed < FitWords.MostAsked ? Wanted : null;

    /// <summary>How far the fit has got, in one sentence; empty where there is none.</summary>
    public string FitSays =>
        Sheet.FitSince is not null ? "Reading the ink …"
        : Sheet.Fit is not { } fit ? ""
        : FitWords.Says(fit.Why, Wanted, Ask is not null);

    /// <summary>Asked now and then by an open bench: whether somebody else has changed the sheet meanwhile.</summary>
    public IActionResult OnGetSince(long v)
    {
        if (v == Stamp || Mine)
            return new NoContentResult();
        var at = Sheet.SavedAt is { } saved ? $" at {Words.Clock(Words.Local(saved, Course).TimeOfDay)}" : "";
        var says = $"{Drawing.Marks.Shape("near")}{WebUtility.HtmlEncode(Sheet.SavedBy)} changed this sheet{at}.";
        return Content(
            $"<p class=\"note mb-2\" role=\"status\">{says} <a href=\"/courses/{Course.Id}/critique/{Sheet.Id}/bench\">Show it</a></p>",
            "text/html; charset=utf-8"
        );
    }

    /// <summary>Marks a departure from the canon as the sitter's own.</summary>
    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public Task<IActionResult> OnPostObserveAsync(string? key, bool on) => Edit(() => sheets.Observe(Sheet, key ?? "", on));

    /// <summary>Holds the sheet against a view of the studio figure: the meeting's pose from the student's seat, or what is asked for.</summary>
    public Task<IActionResult> OnPostReferenceAsync(
        string? pose,
        string? body,
        double? azimuth,
        double? distance,
        double? eye,
        bool mirrored,
        bool off
    ) =>
        Edit(async () =>
        {
            if (off)
            {
                await sheets.Hold(Sheet, Course, null);
                return;
            }
            var first = Sheet.Reference ?? await references.Default(Sheet);
            await sheets.Hold(
                Sheet,
                Course,
                first with
                {
                    Pose = pose ?? first.Pose,
                    Body = body ?? first.Body,
                    Azimuth = azimuth ?? first.Azimuth,
                    Distance = distance ?? first.Distance,
                    EyeHeight = eye ?? first.EyeHeight,
                    Mirrored = pose is null ? first.Mirrored : mirrored,
                }
            );
        });

    public Task<IActionResult> OnPostUndoAsync() => Edit(() => sheets.UndoLandmark(Sheet, Course, Staff));

    [For(CourseRole.Student)]
    public Task<IActionResult> OnPostAskAsync(string? question, string? review)
    {
        (Asked, Reviewed) = (question, review);
        return Edit(() => sheets.Ask(Sheet, question, review));
    }

    /// <summary>What was typed, kept when it can't be taken; else what the sheet says, and nothing where nobody has said it.</summary>
    public string? Asked
    {
        get => field ?? (Sheet.Question == IntakeActions.NotAsked ? "" : Sheet.Question);
        private set;
    }
    public string? Reviewed
    {
        get => field ?? (Sheet.SelfReview == IntakeActions.NotReviewed ? "" : Sheet.SelfReview);
        private set;
    }

    [For(CourseRole.Student)]
    public async Task<IActionResult> OnPostHandinAsync()
    {
        await sheets.HandIn(Sheet);
        return To($"critique/{Sheet.Id}");
    }

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public IActionResult OnGetFaults(string? q)
    {
        var path = $"/courses/{Course.Id}/critique/{Sheet.Id}/bench";
        var rows = Faults
            .Search(Course.Shelf.Faults, q ?? "")
            .Select(f =>
                $"<li><button type=\"button\" hx-post=\"{path}/fault\" hx-vals='{{\"fault\":\"{f.Id}\"}}' hx-target=\"#sheet\" hx-swap=\"outerHTML\">"
                + $"<b>{WebUtility.HtmlEncode(f.Name)}</b><span>{WebUtility.HtmlEncode(f.Sign)}</span></button></li>"
            );
        var list = string.Concat(rows);
        return Content(
            list == ""
                ? string.IsNullOrWhiteSpace(q)
                    ? ""
                    : "<p class=\"lead\">No fault of that name; use own words.</p>"
                : $"<ul class=\"fault-list\" data-of=\"{WebUtility.HtmlEncode(q)}\">{list}</ul>",
            "text/html; charset=utf-8"
        );
    }

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public Task<IActionResult> OnPostFaultAsync(string? fault) =>
        Edit(() =>
            sheets.AddFault(Course, Sheet, fault ?? "", SheetContext.Place(Sheet, Rules.Find(Course.Shelf.Fault(fault)?.Rule)?.Place ?? []))
        );

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public Task<IActionResult> OnPostFindingAsync(string? key) =>
        Edit(async () =>
        {
            await Judge();
            await sheets.AddFinding(
                Judged,
                Findings.FirstOrDefault(f => f.Key == key)
                    ?? throw new InputException("that finding is gone", "key", "a finding of this sheet")
            );
        });

    /// <summary>Says of a check of anatomy that it holds, is off (a remark) or is skipped; open, it is to be looked at again.</summary>
    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public Task<IActionResult> OnPostCheckAsync(string? check, string? says) =>
        Edit(async () =>
        {
            var on = CheckOn.Read(check);
            var seen = (await anatomy.Of(Sheet, Course)).Where(c => c.Where == CheckPlace.Seen).ToList();
            var place = seen.FirstOrDefault(c => c.Key == on.Key)
                ?? throw new InputException(
                    "that check is not to be seen on this sheet",
                    "check",
                    seen.Count == 0 ? "none, before the sheet is laid over" : string.Join(", ", seen.Select(c => c.Key))
                );
            await (
                says switch
                {
                    "off" => sheets.AddCheck(Course, Sheet, on, place.At),
                    "holds" => sheets.Check(Sheet, on, CheckAnswer.Holds),
                    "skip" => sheets.Check(Sheet, on, CheckAnswer.Skipped),
                    "open" => sheets.Check(Sheet, on, null),
                    _ => throw new InputException($"'{says}' is no answer to a check", "says", "holds, off, skip or open"),
                }
            );
        });

    /// <summary>Takes over what the ink says of technique.</summary>
    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public Task<IActionResult> OnPostTechniqueAsync(string? rule) =>
        Edit(() =>
            sheets.AddTechnique(
                Course,
                Sheet,
                Technique.FirstOrDefault(f => f.Rule.Id == rule)
                    ?? throw new InputException("the ink says nothing of that", "rule", "what stands in the margin")
            )
        );

    /// <summary>Takes in annotations that somebody made of the picture elsewhere, as remarks beside those that stand.</summary>
    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public Task<IActionResult> OnPostAnnotationsAsync(IFormFile? file) =>
        Edit(async () =>
            await sheets.TakeIn(
                Sheet,
                WebAnnotations.Read(await file.Text("Web Annotations in JSON-LD"), Sheet.PaperWidthMm, Sheet.PaperHeightMm, id =>
                    Course.Shelf.Fault(id)
                )
            )
        );

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public Task<IActionResult> OnPostOwnAsync() => Edit(() => sheets.AddOwn(Sheet));

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public Task<IActionResult> OnPostHoldsAsync() => Edit(() => sheets.AddHolds(Sheet));

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public Task<IActionResult> OnPostChangeAsync(string? remark, string? where, string? what, string? why, string? next, string? seen) =>
        Remarked(
            remark,
            seen,
            what ?? "",
            new(
                "change",
                [("remark", remark ?? ""), ("where", where ?? ""), ("what", what ?? ""), ("why", why ?? ""), ("next", next ?? "")]
            ),
            () =>
                sheets.ChangeRemark(Sheet, remark ?? "", r =>
                    r with
                    {
                        Where = (where ?? "").Trim(),
                        What = (what ?? "").Trim(),
                        Why = (why ?? "").Trim(),
                        Next = (next ?? "").Trim(),
                    }
                )
        );

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public Task<IActionResult> OnPostRankAsync(string? remark, bool on) =>
        Edit(() => sheets.ChangeRemark(Sheet, remark ?? "", r => r with { Priority = on ? 9 : null }));

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public Task<IActionResult> OnPostSpotAsync(string? remark, double x, double y) =>
        Edit(() =>
            sheets.ChangeRemark(Sheet, remark ?? "", r =>
                r with
                {
                    Spot = new(Math.Clamp(x, 0, Sheet.PaperWidthMm), Math.Clamp(y, 0, Sheet.PaperHeightMm)),
                }
            )
        );

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public Task<IActionResult> OnPostDropAsync(string? remark, string? seen) =>
        Remarked(remark, seen, "dropped", new("drop", [("remark", remark ?? "")]), () => sheets.DropRemark(Sheet, remark ?? ""));

    /// <summary>The last change came from this very browser.</summary>
    private bool Mine => Sheet.SavedIn is { } last && last == Entry.Of(User)?.Id;

    /// <param name="seen">Fingerprint of the remark that the page showed; null asks nothing.</param>
    private Task<IActionResult> Remarked(string? id, string? seen, string mine, Again again, Func<Task> change)
    {
        var now = Sheet.Remarks.FirstOrDefault(r => r.Id == id);
        if (seen is null || now is null || seen == now.Fingerprint || Mine)
            return Edit(change);
        return Clashing(
            new(
                Sheet.SavedBy,
                now.Where == "" ? "a remark" : $"the remark on {now.Where}",
                now.What == "" ? now.Next : now.What,
                mine,
                again
            )
        );
    }

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostReleaseAsync()
    {
        await sheets.Release(Sheet, Course, Sheet.Student, practice);
        await stages.Drawing(Sheet, (await contexts.Of(Sheet, Course)).Findings);
        var next = await db
            .Sheets.Where(s => s.CourseId == Course.Id && (s.State == SheetState.Waiting || s.State == SheetState.Drafted))
            .OrderBy(s => s.SubmittedAt)
            .Select(s => (int?)s.Id)
            .FirstOrDefaultAsync();
        return To(next is { } id ? $"critique/{id}/bench" : "critique");
    }

    /// <summary>An example has done its work.</summary>
    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostTakeAwayAsync()
    {
        await examples.Remove(Sheet);
        return To("critique");
    }

    private async Task<IActionResult> Edit(Func<Task> change)
    {
        if (!Editable)
            throw new InputException(Released ? "the critique is released" : "the sheet is handed in", "sheet", "a sheet still in work");
        await change();
        if (!Fragment)
            return To($"critique/{Sheet.Id}/bench");
        await Load();
        return Page();
    }

    private async Task Judge()
    {
        Judged = await contexts.Of(Sheet, Course);
        Laid = await references.Of(Sheet, Course);
        if (Judged.Problem is { } problem)
            Problem = problem;
    }

    private async Task Load()
    {
        await Judge();
        Rows = CardRows.Of(Judged);
        if (Staff)
        {
            // Of a released sheet those that something was said of.
            Checks = [.. anatomy.Of(Sheet, Course, Laid).Where(c => Editable || MarkOf(c) != CheckMark.Open)];
            var waiting = await db
                .Sheets.Where(s => s.CourseId == Course.Id && (s.State == SheetState.Waiting || s.State == SheetState.Drafted))
                .OrderBy(s => s.SubmittedAt)
                .Select(s => s.Id)
                .ToListAsync();
            Queue = (waiting.IndexOf(Sheet.Id) + 1, waiting.Contains(Sheet.Id) ? waiting.Count : 0);
        }
        Tell();
        foreach (var r in Sheet.Remarks.Where(r => r.Spot is not null))
            Spots.Add(($"spot-{r.Id}", r.Priority?.ToString(System.Globalization.CultureInfo.InvariantCulture) ?? "", r.Spot!.Value));
    }

    /// <summary>Notes in the margin: what is outside one by one, what follows, holds, is not sharp enough and can't be judged each in one.</summary>
    private void Tell()
    {
        Departures();
        Ink();
        var holds = Findings.Where(f => f.Verdict == Verdict.Inside && f.Explanation == Explanation.None).ToList();
        if (holds.Count > 0)
            Together(
                "holds",
                $"{Say.Plural(holds.Count, "measure")} inside: {Say.List([.. holds.Select(Short).Distinct().Take(5)])}.",
                holds
            );
        var seat = Findings.Where(f => f.Explanation == Explanation.SeenShort).ToList();
        if (seat.Count > 0)
            Notes.Add((new("holds", seat[0].Says, null, string.Join(" ", seat.Skip(1).Select(f => f.Says).Append(seat[0].Because))), null));
        var soft = Findings.Where(f => f.NotSharp && f.FollowsFrom is null).ToList();
        if (soft.Count > 0)
            Together(
                "unknown",
                $"{Say.Plural(soft.Count, "measure")} not sharp enough to judge. A larger drawing would tell, or marks placed under the loupe.",
                soft
            );
        foreach (var f in Findings.Where(f => f.Suspected && f.Verdict == Verdict.NotLookedAt).Take(2))
            Notes.Add((new("near", f.Says, null, f.Because), null));
        var unlooked = Findings.Where(f => f.Verdict == Verdict.NotLookedAt).ToList();
        if (unlooked.Count > 0)
            Together("unknown", $"{Say.Plural(unlooked.Count, "measure")} not looked at yet: their marks are only proposed.", unlooked);
        var not = Findings.Where(f => !f.Judgeable && !f.NotSharp && f.Verdict != Verdict.NotLookedAt).ToList();
        if (not.Count > 0)
            Together("unknown", $"{Say.Plural(not.Count, "measure")} not judgeable.", not);
        if (Priorities.TooEarly(Sheet.Remarks, Findings).Count > 0)
            Notes.Add((new("near", "Tone is spoken of while proportion is off. It can wait, unless you insist."), null));
    }

    /// <summary>What the ink says: what is off one by one, the rest each in a line of its own.</summary>
    private void Ink()
    {
        foreach (var f in Technique.OrderBy(f => f.Verdict == TechniqueVerdict.Off ? 0 : 1))
        {
            Notes.Add(
                (
                    new(Words.Shape(f.Verdict), f.Says, null, $"{f.Because}. {f.Rule.Source}."),
                    f.Verdict == TechniqueVerdict.Off ? f.Rule.Id : null
                )
            );
        }
    }

    private void Departures()
    {
        var n = 0;
        foreach (
            var f in Findings
                .Where(f => f.FollowsFrom is null && f.Verdict is Verdict.Outside or Verdict.Pushed)
                .OrderBy(f => f.IsOutside ? 0 : 1)
                .Take(5)
        )
        {
            string? id = null;
            if (Judged.Place(f) is { } at)
            {
                id = $"f{n++}";
                Spots.Add((id, "", at));
            }
            // What follows from it is said with it, and is no remark of its own.
            var symptoms = Findings.Where(s => s.FollowsFrom == f.Key).ToList();
            var more = symptoms.Count == 0 ? "" : $" {Say.Plural(symptoms.Count, "measure")} more follow from it.";
            Notes.Add(
                (
                    new(
                        f.IsOutside ? "outside" : "near",
                        f.Says + more,
                        id,
                        string.Join(" ", [f.Because, .. symptoms.Select(s => s.Says)])
                    ),
                    f.Key
                )
            );
        }
    }

    private static string Short(Finding f) => f.Rule.Short ?? f.Part ?? f.Rule.Name.ToLowerInvariant();

    /// <summary>One note for all, each of them in its why.</summary>
    private void Together(string shape, string says, IReadOnlyList<Finding> findings) =>
        Notes.Add((new(shape, says, null, string.Join(" ", findings.Select(f => f.Says))), null));

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        db.ChangeTracker.Clear();
        if (await db.Sheets.Include(s => s.Student).SingleOrDefaultAsync(s => s.Id == Sheet.Id) is { } fresh)
            Scope.Sheet = fresh;
        Notes.Clear();
        Spots.Clear();
        await Load();
        return Page();
    }
}
