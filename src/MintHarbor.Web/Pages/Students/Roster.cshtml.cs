using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Students;

/// <summary>The roster; a list is looked at before it is taken, and taken whole or not at all.</summary>
[For(CourseRole.Instructor, CourseRole.Assistant)]
public sealed class RosterModel(CourseScope scope, HarborContext db, CourseActions courses, IClock clock)
    : CoursePage(scope),
        IShowsProblems
{
    public sealed record Row(int Id, string Name, int? Seat, int Sheets, int Waiting, double? Bias, double? Spread);

    public IReadOnlyList<Row> Members { get; private set; } = [];
    public IReadOnlyList<Invitation> Open { get; private set; } = [];
    public Roster? Preview { get; private set; }
    public string Csv { get; private set; } = "";

    public Task OnGetAsync() => Load();

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostPreviewAsync(IFormFile? file, string? csv)
    {
        Csv = file is { Length: > 0 } ? await file.Text("a CSV file") : csv ?? "";
        if (Csv.Trim() == "")
            throw new InputException("no list was given", "file", "a CSV file, or the list typed in");
        Preview = Roster.Read(Csv, await courses.KnownMails(Course.Id));
        await Load();
        return Page();
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostImportAsync(string? csv, bool take)
    {
        Csv = csv ?? "";
        Preview = Roster.Read(Csv, await courses.KnownMails(Course.Id));
        if (take && Preview.CanImport)
        {
            await courses.Invite(Course, Preview);
            return To("students");
        }
        await Load();
        return Page();
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostWithdrawAsync(int invitation)
    {
        await courses.Withdraw(Course, invitation);
        return To("students");
    }

    private async Task Load()
    {
        Members = await db
            .Memberships.Where(m => m.CourseId == Course.Id && m.Role == CourseRole.Student)
            .OrderBy(m => m.Person.Name)
            .Select(m => new
            {
                m.PersonId,
                m.Person.Name,
                m.Seat,
                Sheets = db.Sheets.Count(s => s.CourseId == m.CourseId && s.StudentId == m.PersonId && s.State != SheetState.Placing),
                Waiting = db.Sheets.Count(s =>
                    s.CourseId == m.CourseId
                    && s.StudentId == m.PersonId
                    && (s.State == SheetState.Waiting || s.State == SheetState.Drafted)
                ),
                Last = db
                    .DrillRounds.Where(r => r.CourseId == m.CourseId && r.StudentId == m.PersonId && r.FinishedAt != null)
                    .OrderByDescending(r => r.FinishedAt)
                    .Select(r => new { r.Bias, r.Spread })
                    .FirstOrDefault(),
            })
            .Select(x => new Row(x.PersonId, x.Name, x.Seat, x.Sheets, x.Waiting, x.Last!.Bias, x.Last.Spread))
            .ToListAsync();
        Open = await db
            .Invitations.AsNoTracking()
            .Where(i => i.CourseId == Course.Id && i.JoinedAt == null && i.Expires > clock.GetCurrentInstant())
            .OrderBy(i => i.Name)
            .ToListAsync();
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }
}
