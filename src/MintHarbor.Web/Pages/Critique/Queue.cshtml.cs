using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;
using NodaTime;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>The queue: what waits, oldest first, then what is done; a student sees their own.</summary>
public sealed class QueueModel(CourseScope scope, HarborContext db) : CoursePage(scope)
{
    public sealed record Item(
        int Id,
        string Student,
        string Code,
        SheetState State,
        Instant At,
        IReadOnlyList<(string Shape, string Fact)> Facts
    );

    public IReadOnlyList<Item> Sheets { get; private set; } = [];
    public IEnumerable<IGrouping<string, Item>> Groups =>
        Sheets.GroupBy(s =>
            s.State switch
            {
                SheetState.Placing => "Not handed in yet",
                SheetState.Waiting or SheetState.Drafted => "Waiting",
                SheetState.Example => "Examples",
                _ => "Released",
            }
        );

    /// <summary>All that wait, on whatever part of the list.</summary>
    public int WaitingCount { get; private set; }
    public int? FirstWaiting { get; private set; }
    public Paging Paging { get; private set; } = new(1, Size, 0, "sheets");
    public List<Note> Notes { get; } = [];

    private const int Size = 60;

    private IQueryable<Sheet> Mine =>
        db
            .Sheets.AsNoTracking()
            .Where(s => s.CourseId == Course.Id && (Scope.IsStudent ? s.StudentId == Me.PersonId : s.State != SheetState.Placing));

    /// <summary>What waits comes first, the oldest on top, however much is newer.</summary>
    private static IOrderedQueryable<Sheet> Sorted(IQueryable<Sheet> sheets) =>
        sheets
            .OrderBy(s =>
                s.State == SheetState.Placing ? 0
                : s.State == SheetState.Waiting || s.State == SheetState.Drafted ? 1
                : s.State == SheetState.Example ? 3
                : 2
            )
            .ThenBy(s => s.State == SheetState.Waiting || s.State == SheetState.Drafted ? (Instant?)s.SubmittedAt : null)
            .ThenByDescending(s => s.SubmittedAt)
            .ThenBy(s => s.Id);

    public async Task OnGetAsync(int? part)
    {
        var own = Scope.IsStudent;
        var states = await Mine.GroupBy(s => s.State).Select(g => new { g.Key, Count = g.Count() }).ToListAsync();
        WaitingCount = states.Where(s => s.Key is SheetState.Waiting or SheetState.Drafted).Sum(s => s.Count);
        Paging = Paging.Of(part, Size, states.Sum(s => s.Count), "sheets");
        // The part is found by narrow rows: sheets are wide, and a course has thousands.
        var shown = Sorted(Mine).Select(s => s.Id).Skip(Paging.Skip).Take(Size);
        var sheets = await Sorted(Mine.Where(s => shown.Contains(s.Id))).Include(s => s.Student).ToListAsync();
        Sheets = [.. sheets.Select(s => new Item(s.Id, s.Student.Name, s.Code, s.State, s.SubmittedAt, Facts(s, own)))];
        if (own)
            Notes.Add(new("holds", "A drawing that asks one question gets a better answer. At most three things to do come back."));
        else
            await Tell();
    }

    private async Task Tell()
    {
        var oldest = await Mine.Where(s => s.State == SheetState.Waiting || s.State == SheetState.Drafted)
            .OrderBy(s => s.SubmittedAt)
            .Select(s => new { s.Id, s.SubmittedAt })
            .FirstOrDefaultAsync();
        FirstWaiting = oldest?.Id;
        Notes.Add(
            new(
                WaitingCount > 0 ? "near" : "holds",
                oldest is null ? "None waits." : $"*{WaitingCount}* wait, the oldest since {Words.When(oldest.SubmittedAt, Course)}."
            )
        );
        var remarks = await Mine.Where(s => s.State != SheetState.Example)
            .OrderByDescending(s => s.SubmittedAt)
            .Take(LookedBack)
            .Select(s => s.Remarks)
            .ToListAsync();
        var named = remarks.Where(r => r.Count > 0).ToList();
        var most = named
            .SelectMany(r => r.Where(x => x.FaultId is not null).Select(x => x.FaultId!).Distinct())
            .GroupBy(f => f)
            .OrderByDescending(g => g.Count())
            .FirstOrDefault();
        if (most is not null && Course.Shelf.Fault(most.Key) is { } f)
            Notes.Add(
                new(
                    "near",
                    $"Most share: {f.Name.ToLowerInvariant()}, on *{most.Count()} of {named.Count}* critiqued sheets.",
                    null,
                    f.Principle
                )
            );
    }

    /// <summary>Sheets that are read together for what they share.</summary>
    private const int LookedBack = 120;

    private IReadOnlyList<(string, string)> Facts(Sheet s, bool own)
    {
        if (own && s.ReleasedAt is null)
            return [];
        return
        [
            .. s
                .Remarks.Where(r => !r.Holds)
                .Take(2)
                .Select(r => ("outside", Course.Shelf.Fault(r.FaultId)?.Name.ToLowerInvariant() ?? r.Where)),
        ];
    }
}
