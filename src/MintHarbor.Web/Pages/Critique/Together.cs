using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Technique;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>Several drawings of one student read together: what recurs is a habit, and often not what each of them shows first.</summary>
public sealed class Together(HarborContext db, SheetContexts contexts)
{
    /// <summary>Of a term the newest sheets: what was mended meanwhile is no habit any more.</summary>
    private const int Newest = 12;

    private const int MostNotes = 3;

    /// <summary>A term's newest sheets with marks on them; nothing where there are fewer than two.</summary>
    public async Task<IReadOnlyList<Note>> OfTerm(Course course, int student)
    {
        var sheets = await db
            .Sheets.AsNoTracking()
            .Where(s => s.CourseId == course.Id && s.StudentId == student && s.FlatHash != null && s.RedoOfId == null)
            .OrderByDescending(s => s.SubmittedAt)
            .Take(Newest)
            .ToListAsync();
        var read = sheets.Where(s => s.Landmarks.Count > 1).ToList();
        if (read.Count < 2)
            return [];
        var notes = await Of(course, read);
        return notes.Count > 0 ? notes : [new("holds", $"Nothing recurs on the newest *{read.Count}* sheets.")];
    }

    public async Task<IReadOnlyList<Note>> Of(Course course, IReadOnlyList<Sheet> sheets)
    {
        var findings = (await contexts.Of([.. sheets.Where(s => s.Landmarks.Count > 0)], course)).Select(c => c.Findings).ToList();
        return
        [
            .. Recurring.In(findings).Take(MostNotes).Select(r => new Note("near", r.Says)),
            .. TechniqueFindings
                .Recurring([.. sheets.Select(s => TechniqueState.Findings(s, course))])
                .Take(MostNotes)
                .Select(r => new Note(
                    "near",
                    $"On {r.Sheets} of {r.Of} sheets: {char.ToLowerInvariant(r.Example.Says[0])}{r.Example.Says[1..]}"
                )),
        ];
    }
}
