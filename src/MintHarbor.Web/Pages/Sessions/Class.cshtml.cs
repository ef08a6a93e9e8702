using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;
using NodaTime;

namespace MintHarbor.Web.Pages.Sessions;

/// <summary>Who is here, what only the eye sees, what was said to the minute; and afterwards what the evening took.</summary>
[For(CourseRole.Instructor, CourseRole.Assistant)]
public sealed class ClassModel(CourseScope scope, HarborContext db, EveningActions evenings, StageActions stages, IClock clock)
    : CoursePage(scope),
        IShowsProblems
{
    /// <param name="Stands">Where each measure of theirs stands, by its id; by tool where it never moved.</param>
    public sealed record Row(int Id, string Name, int? Seat, Presence? Presence, IReadOnlyDictionary<string, MeasuringStage> Stands)
    {
        /// <summary>What is looked for in them, and what was ticked already.</summary>
        public IReadOnlyList<EyeTick> Asked =>
            [.. EyeTicks.For(Stands).Union(EyeTicks.All.Where(t => Presence?.Ticks.Contains(t.Id) == true))];

        /// <summary>As in "by tool: angle and ratio; by eye: value".</summary>
        public string Stages =>
            string.Join(
                "; ",
                Core.Practice.Stages.All.GroupBy(m => Stands.GetValueOrDefault(m.Id))
                    .OrderBy(g => g.Key)
                    .Select(g =>
                        $"{Core.Practice.Stages.Name(g.Key)}: {(g.Count() == Core.Practice.Stages.All.Count ? "everything" : Say.List([.. g.Select(m => m.Name)]))}"
                    )
            );
    }

    public Meeting Meeting => Scope.Meeting!;
    public IReadOnlyList<Row> Rows { get; private set; } = [];
    public IReadOnlyList<RoomNote> Kept { get; private set; } = [];
    public IReadOnlyList<Overrun> Took { get; private set; } = [];
    public List<Note> Notes { get; } = [];

    public Task OnGetAsync() => Load();

    public async Task<IActionResult> OnPostHereAsync(int person, bool on)
    {
        await evenings.Attend(Meeting, person, on);
        return await Answer();
    }

    public async Task<IActionResult> OnPostTickAsync(int person, string? tick, bool on)
    {
        await evenings.Tick(Meeting, person, tick ?? "", on);
        return await Answer();
    }

    public async Task<IActionResult> OnPostNoteAsync(string? text, Guid? key)
    {
        await evenings.Keep(
            Course,
            Meeting,
            Me.PersonId,
            new(key ?? Guid.NewGuid(), null, null, "", text ?? "", clock.GetCurrentInstant()),
            null
        );
        return await Answer();
    }

    public async Task<IActionResult> OnPostShareAsync(int note, bool on)
    {
        await evenings.Share(Meeting, note, on);
        return await Answer();
    }

    private async Task<IActionResult> Answer()
    {
        if (!Fragment)
            return To($"sessions/{Meeting.Id}/class");
        await Load();
        return Page();
    }

    private async Task Load()
    {
        var there = await db.Presences.AsNoTracking().Where(p => p.MeetingId == Meeting.Id).ToDictionaryAsync(p => p.PersonId);
        var students = await db
            .Memberships.AsNoTracking()
            .Where(m => m.CourseId == Course.Id && m.Role == CourseRole.Student)
            .OrderBy(m => m.Seat)
            .ThenBy(m => m.Person.Name)
            .Select(m => new
            {
                m.PersonId,
                m.Person.Name,
                m.Seat,
            })
            .ToListAsync();
        var stand = await stages.Stand(Course.Id);
        Rows =
        [
            .. students.Select(s => new Row(
                s.PersonId,
                s.Name,
                s.Seat,
                there.GetValueOrDefault(s.PersonId),
                stand.GetValueOrDefault(s.PersonId) ?? []
            )),
        ];
        Kept = await db
            .RoomNotes.AsNoTracking()
            .Include(n => n.Student)
            .Where(n => n.MeetingId == Meeting.Id)
            .OrderBy(n => n.Minute)
            .ThenBy(n => n.Id)
            .Take(200)
            .ToListAsync();
        Took = Overruns.Of(Meeting.Plan.Items, Meeting.Clock, clock.GetCurrentInstant()) ?? [];
        var here = Rows.Count(r => r.Presence is { Present: true });
        Notes.Add(
            new(
                here == 0 ? "unknown" : "holds",
                here == 0 ? "Nobody is marked yet: one tap on the name." : $"*{here} of {Rows.Count}* are here.",
                "class"
            )
        );
        if (
            Kept.Where(n => n.FaultId is not null).GroupBy(n => n.FaultId!).OrderByDescending(g => g.Count()).FirstOrDefault() is { } most
            && Course.Shelf.Fault(most.Key) is { } fault
        )
            Notes.Add(new("near", $"Said most tonight: {fault.Name.ToLowerInvariant()}, *{most.Count()}* times.", "said"));
        foreach (var o in Took.Where(o => o.Kind is ItemKind.SetUp or ItemKind.Review or ItemKind.PackUp && Math.Abs(o.Over) >= 1))
            Notes.Add(
                new(
                    o.Over > 0 ? "near" : "holds",
                    $"{Word(o.Kind)} took *{Say.Number(o.Actual, 1)} min* of {Say.Number(o.Planned, 1)} planned; the next plan allows for it when two meetings agree.",
                    "took",
                    "median of the last five meetings, whole minutes, 5 to 30"
                )
            );
    }

    public static string Word(ItemKind kind) =>
        kind switch
        {
            ItemKind.SetUp => "Set-up",
            ItemKind.Exercise => "Drawing",
            ItemKind.Rest => "Rests",
            ItemKind.Break => "Break",
            ItemKind.StandBack => "Standing back",
            ItemKind.Review => "Review",
            _ => "Packing up",
        };

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }
}
