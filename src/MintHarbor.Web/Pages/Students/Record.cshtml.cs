using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Practice;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Students;

/// <summary>One student's record: drill curve, sheets, what they show.</summary>
public sealed class RecordModel(CourseScope scope, HarborContext db) : CoursePage(scope)
{
    public sealed record Piece(int Id, string Code, SheetState State);

    public IReadOnlyList<(string Date, double Bias, double Spread, double Difficulty)> Rounds { get; private set; } = [];
    public IReadOnlyList<Piece> Sheets { get; private set; } = [];
    public List<Note> Notes { get; } = [];

    public async Task OnGetAsync()
    {
        var who = Scope.Student!.PersonId;
        var rounds = await db.DrillRounds.AsNoTracking().Where(r => r.CourseId == Course.Id && r.StudentId == who && r.FinishedAt != null).OrderByDescending(r => r.FinishedAt).Take(30).ToListAsync();
        rounds.Reverse();
        Rounds = [.. rounds.Select(r => (Words.Local(r.FinishedAt!.Value, Course).ToString("d MMM", null), r.Bias ?? 0, r.Spread ?? 0, r.State.StartDifficulty))];
        Sheets = await db.Sheets.Where(s => s.CourseId == Course.Id && s.StudentId == who).OrderByDescending(s => s.SubmittedAt).Select(s => new Piece(s.Id, s.Code, s.State)).ToListAsync();
        if (rounds.Count > 0)
        {
            var last = rounds[^1];
            Notes.Add(new("holds", $"Last round: {last.Right} of {ClockHand.RoundLength} right at the end difficulty *{Say.Number(last.EndDifficulty ?? 0, 1)}*.", "curve", $"right within {Say.Number(ClockHand.Allowed(last.State.StartDifficulty), 1)}° at the round's start; the staircase goes one step easier after a miss and one harder after two right (Levitt 1971)"));
            if (Math.Abs(last.Bias ?? 0) > (last.Spread ?? 0) / 2 && Math.Abs(last.Bias ?? 0) > 3)
                Notes.Add(new("near", $"Leans *{Say.Number(Math.Abs(last.Bias!.Value), 1)}°* {(last.Bias > 0 ? "clockwise" : "anticlockwise")} on the whole: one habit, to be corrected once.", "curve"));
            if (rounds.Count > 2)
            {
                var first = rounds.Take(2).Average(r => r.Spread ?? 0);
                var now = rounds.TakeLast(2).Average(r => r.Spread ?? 0);
                Notes.Add(new(now < first ? "holds" : "near", $"Scatter {(now < first ? "fell" : "rose")} from {Say.Number(first, 1)}° to *{Say.Number(now, 1)}°*.", "curve"));
            }
        }
        var waiting = Sheets.Count(s => s.State is SheetState.Waiting or SheetState.Drafted);
        if (waiting > 0) Notes.Add(new("near", $"*{waiting}* of {Say.Plural(Sheets.Count, "sheet")} not yet answered."));
    }
}
