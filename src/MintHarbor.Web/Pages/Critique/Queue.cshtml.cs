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
    public int WaitingCount => Sheets.Count(s => s.State is SheetState.Waiting or SheetState.Drafted);
    public int? FirstWaiting => Sheets.FirstOrDefault(s => s.State is SheetState.Waiting or SheetState.Drafted)?.Id;
    public List<Note> Notes { get; } = [];

    public async Task OnGetAsync()
    {
        var own = Scope.IsStudent;
        var sheets = await db
            .Sheets.AsNoTracking()
            .Include(s => s.Student)
            .Where(s => s.CourseId == Course.Id && (own ? s.StudentId == Me.PersonId : s.State != SheetState.Placing))
            .OrderByDescending(s => s.SubmittedAt)
            .Take(120)
            .ToListAsync();
        Sheets =
        [
            .. sheets
                .OrderBy(s =>
                    s.State is SheetState.Placing ? 0
                    : s.State is SheetState.Waiting or SheetState.Drafted ? 1
                    : s.State is SheetState.Example ? 3
                    : 2
                )
                .ThenBy(s =>
                    s.State is SheetState.Waiting or SheetState.Drafted ? s.SubmittedAt.ToUnixTimeTicks() : -s.SubmittedAt.ToUnixTimeTicks()
                )
                .Select(s => new Item(s.Id, s.Student.Name, s.Code, s.State, s.SubmittedAt, Facts(s, own))),
        ];
        if (own)
        {
            Notes.Add(new("holds", "A drawing that asks one question gets a better answer. At most three things to do come back."));
            return;
        }
        var oldest = Sheets.FirstOrDefault(s => s.State is SheetState.Waiting or SheetState.Drafted);
        Notes.Add(
            new(
                WaitingCount > 0 ? "near" : "holds",
                oldest is null ? "None waits." : $"*{WaitingCount}* wait, the oldest since {Words.When(oldest.At, Course)}."
            )
        );
        var named = sheets.Where(s => s.Remarks.Count > 0 && s.State != SheetState.Example).ToList();
        var most = named
            .SelectMany(s => s.Remarks.Where(r => r.FaultId is not null).Select(r => r.FaultId!).Distinct())
            .GroupBy(f => f)
            .OrderByDescending(g => g.Count())
            .FirstOrDefault();
        if (most is not null && Faults.Find(most.Key) is { } f)
            Notes.Add(
                new(
                    "near",
                    $"Most share: {f.Name.ToLowerInvariant()}, on *{most.Count()} of {named.Count}* critiqued sheets.",
                    null,
                    f.Principle
                )
            );
    }

    private static IReadOnlyList<(string, string)> Facts(Sheet s, bool own)
    {
        if (own && s.ReleasedAt is null)
            return [];
        return
        [
            .. s.Remarks.Where(r => !r.Holds).Take(2).Select(r => ("outside", Faults.Find(r.FaultId)?.Name.ToLowerInvariant() ?? r.Where)),
        ];
    }
}
