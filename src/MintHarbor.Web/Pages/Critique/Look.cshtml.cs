using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Technique;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>A sheet under the hand: staff lassoes areas, clicks edges, lays something over it and marks that too; its student lends a photograph of
/// what was drawn, and sees the rest once the critique is released.</summary>
public sealed class LookModel(CourseScope scope, LookActions looks, ReferenceViews references, SheetContexts contexts)
    : CoursePage(scope),
        IShowsProblems
{
    /// <summary>A drawing that could be laid over this one.</summary>
    public sealed record Other(int Id, string Code, double HighByWide);

    public Sheet Sheet => Scope.Sheet!;
    public bool Staff => !Scope.IsStudent;
    public IReadOnlyList<HandMark> Marks { get; private set; } = [];
    public IReadOnlyList<(HandMark? Mark, Note Note)> Notes { get; private set; } = [];
    public LaidOverSheet? Over { get; private set; }
    public bool HasPhoto => PhotoShape > 0;

    /// <summary>Height over width of the student's own photograph; 0 where there is none.</summary>
    public double PhotoShape { get; private set; }
    public uint Version { get; private set; }
    public IReadOnlyList<Other> Others { get; private set; } = [];

    /// <summary>Heads of the ladder: the pose card's, else the canon's.</summary>
    public double Heads { get; private set; } = 7.5;

    /// <summary>The figure's view; null where the sheet is held against none.</summary>
    public string? Figure { get; private set; }

    /// <summary>What the student may still lend: nothing is known of marks before the critique is out.</summary>
    public bool Lends => Scope.IsStudent && Sheet.ReleasedAt is null;

    public static readonly (MarkKind Kind, string Name, string How)[] Kinds =
    [
        (MarkKind.Tone, "tone", "draw round an area"),
        (MarkKind.Patch, "patch", "draw round a patch of the row"),
        (MarkKind.Edge, "edge", "click both ends"),
        (MarkKind.Parallel, "parallels", "the near end first; then the next edge that is parallel to it in the thing"),
        (MarkKind.Shape, "negative shape", "draw round the gap"),
        (MarkKind.Ellipse, "ellipse", "draw along its rim"),
    ];

    public Task OnGetAsync() => Load();

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostMarkAsync(string? kind, bool reference, string? at, string? method, string? step)
    {
        var asked = new MarkAsked(
            Named<MarkKind>(kind, "kind") ?? throw new InputException("nothing to mark", "kind", Accepted<MarkKind>()),
            reference,
            Places(at),
            Named<PatchMethod>(method, "method"),
            Named<PatchStep>(step, "step")
        );
        await looks.Add(Sheet, asked with { Method = Row(asked, asked.Method), Step = Row(asked, asked.Step) }, Me.Person.Name);
        return await Again();
    }

    private static T? Row<T>(MarkAsked asked, T? value)
        where T : struct => asked.Kind == MarkKind.Patch ? value : null;

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostRemoveAsync(string? name)
    {
        await looks.Remove(Sheet, name, Me.Person.Name);
        return await Again();
    }

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostLayAsync(string? over, double? x, double? y, double? width, double? turn, uint version)
    {
        var (kind, sheet) = over?.Split(':') is ["sheet", var id]
            ? (OverKind.Sheet, int.TryParse(id, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : 0)
            : (Named<OverKind>(over, "over"), 0);
        await looks.Lay(
            Sheet,
            kind is { } k ? new(k, sheet, x ?? Sheet.PaperWidthMm / 2, y ?? Sheet.PaperHeightMm / 2, width ?? First(k), turn ?? 0) : null,
            version,
            Me.Person.Name
        );
        return await Again();
    }

    /// <summary>How broad it lies at first: as the sheet where it is one, a ladder as high as most of it.</summary>
    private double First(OverKind kind) =>
        kind switch
        {
            OverKind.Sheet => Sheet.PaperWidthMm,
            OverKind.Ladder => Sheet.PaperHeightMm * 0.8 / LadderHigh,
            _ => Sheet.PaperWidthMm * 0.8,
        };

    /// <summary>A ladder's height over its width.</summary>
    private const double LadderHigh = 2.5;

    /// <summary>A photograph of what was drawn: its student's, or one that staff took.</summary>
    public async Task<IActionResult> OnPostPhotoAsync(IFormFile? photo)
    {
        if (Scope.IsStudent && Sheet.ReleasedAt is not null)
            throw new InputException("the critique is out", "photo", "a photograph before it is released");
        if (photo is not { Length: > 0 })
            throw new InputException("no file", "photo", MintHarbor.Media.Photo.Accepted);
        await looks.Photograph(Sheet, () => photo.Photograph("photo"), Me.Person.Name, instead: Staff);
        return To($"critique/{Sheet.Id}/look");
    }

    private async Task Load()
    {
        var row = await looks.Of(Sheet.Id);
        PhotoShape = row?.PhotoHash is null ? 0 : row.PhotoShape;
        if (Lends)
            return;
        (Over, Version) = (row?.Over, row?.Version ?? 0);
        Marks = row?.Of == Sheet.FlatHash ? row!.Marks : [];
        Notes = [.. LookWords.Of(Marks, Course.Inch)];
        Others = await looks
            .Others(Sheet)
            .Where(s => Staff || s.ReleasedAt != null)
            .OrderByDescending(s => s.SubmittedAt)
            .Take(12)
            .Select(s => new Other(s.Id, s.Code, s.PaperHeightMm / s.PaperWidthMm))
            .ToListAsync();
        Heads = (await contexts.Of(Sheet, Course)).Card?.Heads ?? Course.SchoolOf("figure").Heads;
        Figure = Sheet.Subject is "figure" && await references.Of(Sheet, Course) is { } laid ? laid.Address.For(Course.Id) : null;
    }

    /// <summary>What lies over the sheet, to be shown: its address, and how high it is for its width; no address for a ladder.</summary>
    public (string? Href, double HighByWide)? Laid(string path) =>
        Over switch
        {
            { Kind: OverKind.Ladder } => (null, LadderHigh),
            { Kind: OverKind.Photo } when HasPhoto => ($"{path}/picture/over", PhotoShape),
            { Kind: OverKind.Figure } when Figure is not null => (Figure, 1.5),
            { Kind: OverKind.Sheet, SheetId: var id } when Others.FirstOrDefault(o => o.Id == id) is { } other => (
                $"/courses/{Course.Id}/critique/{id}/picture/flat",
                other.HighByWide
            ),
            _ => null,
        };

    private static string Accepted<T>()
        where T : struct, Enum => string.Join(" | ", Enum.GetNames<T>().Select(n => n.ToLowerInvariant()));

    private static T? Named<T>(string? text, string field)
        where T : struct, Enum =>
        string.IsNullOrEmpty(text) ? null
        : Enum.GetNames<T>().Any(n => n.Equals(text, StringComparison.OrdinalIgnoreCase)) ? Enum.Parse<T>(text, true)
        : throw new InputException($"'{text}'", field, Accepted<T>());

    private static List<Vec2> Places(string? at)
    {
        double Number(string text) =>
            double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var v)
                ? v
                : throw new InputException($"'{text}' is no place", "at", "millimetres on the sheet");
        Vec2 Place(string text) =>
            text.Split(',') is [var x, var y]
                ? new(Number(x), Number(y))
                : throw new InputException($"'{text}' is no place", "at", "two numbers, millimetres on the sheet");
        return [.. (at ?? "").Split(';', StringSplitOptions.RemoveEmptyEntries).Take(LookActions.MostPlaces + 1).Select(Place)];
    }

    private async Task<IActionResult> Again()
    {
        if (!Fragment)
            return To($"critique/{Sheet.Id}/look");
        await Load();
        return Page();
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        await Load();
        return Page();
    }
}
