using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Sheets;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>The contact sheet of a set: every sheet of one upload, straightened on its own. The student asks about one of them;
/// the rest stay beside it.</summary>
public sealed class SetModel(CourseScope scope, IntakeActions intake, Together together) : CoursePage(scope), IShowsProblems
{
    public IReadOnlyList<Sheet> Sheets => Scope.Set;
    public Sheet First => Sheets[0];
    public bool Open => Scope.IsStudent && Sheets.All(s => s.State == SheetState.Placing);
    public Sheet? Asked => Sheets.FirstOrDefault(s => s.State is not (SheetState.Placing or SheetState.Kept));
    public List<Note> Notes { get; } = [];

    public Task OnGetAsync() => Tell();

    [For(CourseRole.Student)]
    public async Task<IActionResult> OnPostDropAsync(int sheetId)
    {
        await intake.Drop(
            Sheets.FirstOrDefault(s => s.Id == sheetId)
                ?? throw new InputException("that sheet is not in the set", "sheetId", "a sheet of the set")
        );
        return To(Sheets.Count > 1 ? $"critique/set/{First.SetId}" : "critique");
    }

    private async Task Tell()
    {
        Notes.AddRange(await together.Of(Course, Sheets));
        var unsure = Sheets.Where(s => s.State == SheetState.Placing && s.Confidence < SheetFinder.Sure).ToList();
        if (unsure.Count > 0)
            Notes.Add(
                new(
                    "near",
                    $"*{Say.Plural(unsure.Count, "sheet")}* with corners to look at: {Say.List([.. unsure.Select(s => s.SetAt.ToString(System.Globalization.CultureInfo.InvariantCulture))])}.",
                    $"s{unsure[0].Id}"
                )
            );
        else
            Notes.Add(new("holds", $"All *{Sheets.Count}* were found and laid flat."));
        if (Open)
            Notes.Add(new("holds", "Ask about one. Place its landmarks and hand it in; the rest go along beside it."));
        else if (Asked is { } a)
            Notes.Add(new("holds", $"Asked about: sheet *{a.SetAt}*.", $"s{a.Id}"));
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Tell();
        return Page();
    }
}
