using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Rooms;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Drawing;
using MintHarbor.Web.Pages.Critique;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Students;

/// <summary>One student's record: drill curve, sheets, what they show.</summary>
public sealed class RecordModel(CourseScope scope, HarborContext db, RoomActions rooms, MemberActions members, Together together)
    : CoursePage(scope),
        IShowsProblems
{
    public sealed record Piece(int Id, string Code, SheetState State);

    public List<(Drill Drill, IReadOnlyList<Pictures.Round> Rounds)> Curves { get; } = [];
    public IReadOnlyList<Piece> Sheets { get; private set; } = [];
    public List<Note> Notes { get; } = [];
    public IReadOnlyList<RoomNote> Said { get; private set; } = [];

    /// <summary>Drawing hand and what their place must have.</summary>
    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostSeatAsync(Hand hand, List<string>? needs)
    {
        var member = await db.Memberships.SingleAsync(m => m.CourseId == Course.Id && m.PersonId == Scope.Student!.PersonId);
        await rooms.SetStudent(member, hand, needs ?? []);
        return To($"students/{Scope.Student!.PersonId}");
    }

    /// <summary>Under 18, or of age with a reason.</summary>
    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostAgeAsync(bool minor, string? reason)
    {
        await members.SetMinor(Course, Scope.Student!.Person, minor, reason);
        return To($"students/{Scope.Student!.PersonId}");
    }

    /// <summary>A guardian's consent that pictures leave the course, or its end.</summary>
    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostConsentAsync(DateOnly? on, string? use)
    {
        await members.Consent(Scope.Student!, on is { } d ? NodaTime.LocalDate.FromDateOnly(d) : null, use);
        return To($"students/{Scope.Student!.PersonId}");
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostRemoveAsync(string? reason)
    {
        await members.Remove(Course, Scope.Student!, reason);
        return To("students");
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await OnGetAsync();
        return Page();
    }

    /// <summary>What recurs on their sheets: asked for when the page stands, since every sheet is judged for it.</summary>
    public async Task<IActionResult> OnGetTogetherAsync()
    {
        var recurs = await together.OfTerm(Course, Scope.Student!.PersonId);
        if (Fragment)
            return Partial("_Notes", recurs);
        await OnGetAsync();
        (Recurs, ReadTogether) = (recurs, true);
        return Page();
    }

    public IReadOnlyList<Note> Recurs { get; private set; } = [];
    public bool ReadTogether { get; private set; }

    public async Task OnGetAsync()
    {
        var who = Scope.Student!.PersonId;
        var rounds = await db
            .DrillRounds.AsNoTracking()
            .Where(r => r.CourseId == Course.Id && r.StudentId == who && r.FinishedAt != null)
            .OrderByDescending(r => r.FinishedAt)
            .Take(60)
            .ToListAsync();
        rounds.Reverse();
        foreach (var drill in Drills.All)
        {
            var own = rounds.Where(r => r.Kind == drill.Kind).ToList();
            if (own.Count > 0)
                Curves.Add(
                    (
                        drill,
                        [
                            .. own.Select(r => new Pictures.Round(
                                Words.Local(r.FinishedAt!.Value, Course).ToString("d MMM", null),
                                r.Bias ?? 0,
                                r.Spread ?? 0,
                                drill.Allowed(r.State.StartDifficulty, r.State.Limit)
                            )),
                        ]
                    )
                );
            Read(drill, own);
        }
        Sheets = await db
            .Sheets.Where(s => s.CourseId == Course.Id && s.StudentId == who)
            .OrderByDescending(s => s.SubmittedAt)
            .Select(s => new Piece(s.Id, s.Code, s.State))
            .ToListAsync();
        Said = await db
            .RoomNotes.AsNoTracking()
            .Include(n => n.Meeting)
            .Where(n => n.StudentId == who && n.Meeting.CourseId == Course.Id && (n.Shared || !Scope.IsStudent))
            .OrderByDescending(n => n.At)
            .Take(20)
            .ToListAsync();
        var evenings = await db
            .Presences.AsNoTracking()
            .Where(p => p.PersonId == who && p.Meeting.CourseId == Course.Id)
            .Select(p => new
            {
                p.Present,
                p.Ticks,
                p.Meeting.Plan,
            })
            .ToListAsync();
        if (evenings.Count > 0)
            Notes.Add(
                new(
                    "holds",
                    $"Here at *{evenings.Count(e => e.Present)}* meetings, {Say.Number(evenings.Where(e => e.Present).Sum(e => e.Plan.Items.Where(i => i.Kind == Core.Sessions.ItemKind.Exercise).Sum(i => i.Minutes)) / 60, 1)} h at the easel."
                )
            );
        if (evenings.SelectMany(e => e.Ticks).GroupBy(t => t).OrderByDescending(g => g.Count()).Take(3).ToList() is { Count: > 0 } ticks)
            Notes.Add(
                new(
                    "holds",
                    $"Seen in the room: {Say.List([.. ticks.Select(t => $"{Core.Sessions.EyeTicks.Name(t.Key)} *{t.Count()}×*")])}."
                )
            );
        var waiting = Sheets.Count(s => s.State is SheetState.Waiting or SheetState.Drafted);
        if (waiting > 0)
            Notes.Add(new("near", $"*{waiting}* of {Say.Plural(Sheets.Count, "sheet")} not yet answered."));
    }

    private void Read(Drill drill, IReadOnlyList<DrillRound> rounds)
    {
        if (rounds.Count == 0)
            return;
        var place = $"curve-{drill.Kind}";
        var last = rounds[^1];
        Notes.Add(
            new(
                "holds",
                $"{drill.Name}: {last.Right} of {Drill.RoundLength} right in the last round, at the end difficulty *{Say.Number(last.EndDifficulty ?? 0, 1)}*.",
                place,
                $"right within {drill.SayWidth(drill.Allowed(last.State.StartDifficulty, last.State.Limit))} at the round's start; the staircase goes one step easier after a miss and one harder after two right (Levitt 1971)"
            )
        );
        if (Math.Abs(last.Bias ?? 0) > (last.Spread ?? 0) / 2 && Math.Abs(last.Bias ?? 0) > drill.Allowed(1, last.State.Limit))
            Notes.Add(new("near", $"Leans *{drill.SayError(last.Bias!.Value)}* on the whole: one habit, to be corrected once.", place));
        if (rounds.Count <= 2)
            return;
        var (first, now) = (rounds.Take(2).Average(r => r.Spread ?? 0), rounds.TakeLast(2).Average(r => r.Spread ?? 0));
        Notes.Add(
            new(
                now < first ? "holds" : "near",
                $"Scatter {(now < first ? "fell" : "rose")} from {drill.SayWidth(first)} to *{drill.SayWidth(now)}*.",
                place
            )
        );
    }
}
