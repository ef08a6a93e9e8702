using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Geometry;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>The corners on the photograph: suggested, mended by hand, then the sheet is laid flat.</summary>
public sealed class CornersModel(CourseScope scope, HarborContext db, IntakeActions intake, TakeBackActions back)
    : CoursePage(scope),
        IShowsProblems
{
    public Sheet Sheet => Scope.Sheet!;
    public int Width { get; private set; }
    public int Height { get; private set; }

    public Task OnGetAsync() => Load();

    private async Task Load()
    {
        var size = await db.Pictures.Where(p => p.Hash == Sheet.PhotoHash).Select(p => new { p.Width, p.Height }).SingleAsync();
        (Width, Height) = (size.Width, size.Height);
    }

    /// <summary>Thrown away with its picture, by its code.</summary>
    [For(CourseRole.Student)]
    public async Task<IActionResult> OnPostThrowAsync(string? said)
    {
        await back.ThrowAway(Sheet, said);
        return To("critique");
    }

    /// <summary>The picture is the sheet after all.</summary>
    [WaitsItself]
    public async Task<IActionResult> OnPostWholeAsync(double? width)
    {
        Open();
        if (width is not { } w)
            throw new InputException("the drawing's width is missing", "width", Course.Inch ? "inches" : "mm");
        await intake.TakeWhole(Sheet, w * (Course.Inch ? 25.4 : 1));
        return To($"critique/{Sheet.Id}/bench");
    }

    private void Open()
    {
        if (Scope.IsStudent && Sheet.State != SheetState.Placing)
            throw new InputException("the sheet is handed in", "corners", "a sheet not yet handed in");
        if (Sheet.ReleasedAt is not null)
            throw new InputException("the critique is released; its sheet stays as it was judged", "corners", "a sheet not yet released");
    }

    [WaitsItself]
    public async Task<IActionResult> OnPostKeepAsync(string? corners)
    {
        Open();
        var n = (corners ?? "")
            .Split(',')
            .Select(s => double.TryParse(s, NumberStyles.Float, CultureInfo.InvariantCulture, out var v) ? v : double.NaN)
            .ToList();
        if (n.Count != 8 || n.Any(v => !double.IsFinite(v)))
            throw new InputException("four corners are wanted", "corners", "eight numbers: x and y of each corner in pixels");
        await intake.SetCorners(Sheet, [.. Enumerable.Range(0, 4).Select(i => new Vec2(n[2 * i], n[(2 * i) + 1]))]);
        return To(
            Sheet.SetId is { } set && Sheet.State == SheetState.Placing && Scope.IsStudent
                ? $"critique/set/{set}"
                : $"critique/{Sheet.Id}/bench"
        );
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }
}
