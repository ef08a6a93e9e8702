using System.Globalization;
using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Technique;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using NodaTime;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>A class's sheets one after the other, by the keys alone: two letters name a fault, on this sheet or on all that are picked; the last
/// step is taken back; what is ready goes out. What stood in the student's last critique is beside it.</summary>
[For(CourseRole.Instructor, CourseRole.Assistant)]
public sealed class ContactModel(
    CourseScope scope,
    HarborContext db,
    SheetActions sheets,
    PracticeActions practice,
    StageActions stages,
    SheetContexts contexts
) : CoursePage(scope), IShowsProblems
{
    /// <summary>More than an evening's sheets are taken in turns.</summary>
    public const int Most = 60;

    /// <param name="Said">Remarks on it.</param>
    public sealed record Plate(int Id, string Student, string Code, int Said);

    public IReadOnlyList<Plate> Plates { get; private set; } = [];
    public Sheet? Now { get; private set; }
    public int At { get; private set; }
    public Sheet? Before { get; private set; }
    public IReadOnlyList<TechniqueFinding> Ink { get; private set; } = [];

    /// <summary>What the last press has put on sheets, "sheet:remark" each: what taking it back takes away.</summary>
    public string Stamped { get; private set; } = "";
    public IReadOnlyDictionary<string, string> Codes => field ??= FaultCodes.Of(Course.Shelf.Faults);

    /// <summary>Code, name and sign of every fault, for the page's own script.</summary>
    public string Library =>
        JsonSerializer.Serialize(
            Course.Shelf.Faults.Where(f => Codes.ContainsKey(f.Id)).Select(f => new[] { Codes[f.Id], f.Name, f.Sign })
        );

    private IQueryable<Sheet> Waiting =>
        db.Sheets.Where(s => s.CourseId == Course.Id && (s.State == SheetState.Waiting || s.State == SheetState.Drafted));

    public Task OnGetAsync(int? sheet) => Load(sheet);

    private async Task Load(int? sheet)
    {
        var rows = await Waiting
            .AsNoTracking()
            .OrderBy(s => s.SubmittedAt)
            .ThenBy(s => s.Id)
            .Take(Most)
            .Select(s => new
            {
                s.Id,
                s.Student.Name,
                s.Code,
                s.Remarks,
            })
            .ToListAsync();
        Plates = [.. rows.Select(r => new Plate(r.Id, r.Name, r.Code, r.Remarks.Count))];
        if (Plates.Count == 0)
            return;
        At = Math.Max(0, Plates.ToList().FindIndex(p => p.Id == sheet));
        var id = Plates[At].Id;
        Now = await db.Sheets.AsNoTracking().Include(s => s.Student).SingleAsync(s => s.Id == id);
        Ink = TechniqueState.Findings(Now, Course);
        Before = await db
            .Sheets.AsNoTracking()
            .Where(s => s.CourseId == Course.Id && s.StudentId == Now.StudentId && s.ReleasedAt != null)
            .OrderByDescending(s => s.ReleasedAt)
            .FirstOrDefaultAsync();
    }

    /// <summary>The sheet beside the current one, for the arrows; null at the end.</summary>
    public int? Beside(int by) => At + by >= 0 && At + by < Plates.Count ? Plates[At + by].Id : null;

    /// <summary>Names a fault on a sheet and on all that are picked; one that stands on a sheet already stays once.</summary>
    public async Task<IActionResult> OnPostStampAsync(int sheet, string? code, string? picked)
    {
        var fault = Course.Shelf.Faults.FirstOrDefault(f => Codes.GetValueOrDefault(f.Id) == code)
            ?? throw new InputException($"no fault has the letters '{code}'", "code", "two letters of the list");
        var ids = Numbers(picked).Append(sheet).ToHashSet();
        var stamped = new List<string>();
        foreach (var one in await Waiting.Where(s => ids.Contains(s.Id)).OrderBy(s => s.Id).ToListAsync())
        {
            if (one.Remarks.Any(r => r.FaultId == fault.Id))
                continue;
            var had = one.Remarks.Select(r => r.Id).ToHashSet();
            await sheets.AddFault(Course, one, fault.Id, SheetContext.Place(one, Rules.Find(fault.Rule)?.Place ?? []));
            stamped.Add($"{one.Id}:{one.Remarks.Single(r => !had.Contains(r.Id)).Id}");
        }
        return await Again(sheet, string.Join(' ', stamped));
    }

    /// <summary>Takes the last step back: only what it put there, and only where that still stands.</summary>
    public async Task<IActionResult> OnPostUndoAsync(int sheet, string? stamped)
    {
        var steps = (stamped ?? "")
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Select(s => s.Split(':'))
            .Where(s => s.Length == 2)
            .Select(s => (Sheet: Numbers(s[0]).FirstOrDefault(), Remark: s[1]))
            .ToLookup(s => s.Sheet, s => s.Remark);
        var ids = steps.Select(s => s.Key).ToList();
        foreach (var one in await Waiting.Where(s => ids.Contains(s.Id)).OrderBy(s => s.Id).ToListAsync())
        foreach (var remark in steps[one.Id])
            await sheets.DropRemark(one, remark);
        return await Again(sheet, "");
    }

    /// <summary>Gives the critique to its student and goes on to the next sheet.</summary>
    public async Task<IActionResult> OnPostReleaseAsync(int sheet)
    {
        await Load(sheet);
        var next = Beside(1) ?? Beside(-1);
        var one = await Waiting.Include(s => s.Student).SingleOrDefaultAsync(s => s.Id == sheet)
            ?? throw new InputException("that sheet doesn't wait any more", "sheet", "a sheet of this list");
        await sheets.Release(one, Course, one.Student, practice);
        await stages.Drawing(one, (await contexts.Of(one, Course)).Findings);
        return await Again(next, "");
    }

    private static IEnumerable<int> Numbers(string? text) =>
        (text ?? "")
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Take(Most)
            .Select(n => int.TryParse(n, NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? id : 0);

    private async Task<IActionResult> Again(int? sheet, string stamped)
    {
        if (!Fragment)
            return To($"critique/contact?sheet={sheet}");
        Stamped = stamped;
        await Load(sheet);
        return Page();
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load(int.TryParse(Request.Form["sheet"], CultureInfo.InvariantCulture, out var id) ? id : null);
        return Page();
    }
}
