using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core;
using MintHarbor.Core.Canons;
using MintHarbor.Core.Figure;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Shelf;

/// <summary>One pose: turned, lit, measured; the instructor changes it within the joints' limits and keeps it for the course.</summary>
public sealed class PoseModel(CourseScope scope, PoseActions poses, FigureGate gate, FigureViews views) : CoursePage(scope), IShowsProblems
{
    public Pose Pose { get; private set; } = null!;
    public FigureAddress Address { get; private set; } = new();
    public FigureReadout Readout { get; private set; } = null!;
    public IReadOnlyList<PoseHandle> Handles { get; private set; } = [];

    private static readonly (string Kind, string Word, string Key)[] AllKinds =
    [
        ("line", "line", "1"),
        ("tone", "tone", "2"),
        ("tone3", "3 values", "3"),
        ("tone5", "5 values", "5"),
        ("tone9", "9 values", "9"),
        ("mass", "mass", "4"),
        ("construction", "construction", "6"),
        ("bones", "bones", "7"),
        ("muscles", "muscles", "8"),
        ("ecorche", "muscles in tone", "0"),
    ];

    /// <summary>A kind that a figure in the garment isn't drawn in.</summary>
    public static bool Undraped(string kind) => Enum.TryParse<FigureViewKind>(kind, true, out var k) && StudioFigure.IsUndraped(k);

    /// <summary>Kinds of view that this course may see.</summary>
    public IEnumerable<(string Kind, string Word, string Key)> Kinds => AllKinds.Where(k => !Course.Minors || !Undraped(k.Kind));

    /// <summary>Those that are laid over another.</summary>
    public IEnumerable<(string Kind, string Word, string Key)> OverKinds =>
        Kinds.Where(k => k.Kind is "line" or "tone" or "bones" || Undraped(k.Kind));

    /// <summary>What moves most under the skin: the arms raised to the side, the palms turned.</summary>
    public IEnumerable<(PoseHandle Handle, string Word)> Movers =>
        from word in (IEnumerable<(string Key, string Word)>)
            [
                ("arm.L.abd", "left arm out"),
                ("arm.R.abd", "right arm out"),
                ("hand.L.pron", "left palm turned back"),
                ("hand.R.pron", "right palm turned back"),
            ]
        join handle in Handles on word.Key equals handle.Key
        select (handle, word.Word);

    public string Words { get; private set; } = "";
    public string Name { get; private set; } = "";
    public bool Own => Pose.Id.StartsWith(PoseActions.OwnPrefix, StringComparison.Ordinal);
    public string Path => $"/courses/{Course.Id}/shelf/poses/{Pose.Id}";

    private string Id => RouteData.Values["pose"]?.ToString() ?? "";

    public async Task<IActionResult> OnGetAsync() => await Load() ? Page() : NotFound();

    /// <summary>What stands beside the picture, for the angle it has come to rest at.</summary>
    public async Task<IActionResult> OnGetReadoutAsync() => await Load() ? Partial("Shelf/_PoseReadout", Readout) : NotFound();

    /// <summary>Tilts in words, turned into changes: the page comes again with them made.</summary>
    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostTiltAsync(string? tilt, string? state)
    {
        if (!await Load(state))
            return NotFound();
        Words = tilt ?? "";
        var changes = PoseEdit.FromWords(Words, Readout.Figure.Pose);
        var all = PoseEdit.Read(Address.Edit).Where(c => changes.All(x => x.Key != c.Key)).Concat(changes);
        var edit = string.Join(',', all.Select(c => FormattableString.Invariant($"{c.Key}:{c.Value:0.#}")));
        return Redirect($"{Path}{(Address with { Edit = edit }).For(0)[$"/courses/0/figure/{Pose.Id}".Length..]}");
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostSaveAsync(string? name, string? state)
    {
        if (!await Load(state))
            return NotFound();
        Name = name ?? "";
        var own = await poses.Save(Course, Readout.Figure.Pose, Readout.Figure, Name, Pose.Name, Me.Person.Name);
        return Redirect($"/courses/{Course.Id}/shelf/poses/{PoseActions.OwnPrefix}{own.Id}");
    }

    [For(CourseRole.Instructor)]
    public async Task<IActionResult> OnPostRemoveAsync()
    {
        await poses.Remove(Course, Id);
        return Redirect($"/courses/{Course.Id}/shelf/poses");
    }

    private async Task<bool> Load(string? state = null)
    {
        if (await poses.Find(Course.Id, Id) is not { } pose)
            return false;
        Pose = pose;
        var query = state is null ? Request.Query : FigureAddress.State(state);
        Address = FigureAddress.Read(Id, query) with
        {
            Width = 480,
            Height = 720,
            Preview = false,
            Garment = Course.Minors || query["g"] == "1",
        };
        if (Address.Garment && StudioFigure.IsUndraped(Address.Kind))
            Address = Address with { Kind = FigureViewKind.Bones };
        if (await gate.Dress(User, Course.Id, Address.Garment) is not { } drapery)
            return false;
        // Numbers need no fine skin: the quick model, at its own size.
        Readout = FigureReadout.Of(
            views.Model(Address, Pose, drapery, forDrawing: false),
            Pose,
            Address.Seat,
            Address.Edit.Length > 0,
            Course.SchoolOf("figure").Rule(MintHarbor.Core.Measuring.Rules.Heads.Id)?.Expected,
            Course.Shelf.Timing,
            Address.CloseUp
        );
        Handles = PoseEdit.Handles(Readout.Figure);
        return true;
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        var typed = Request.HasFormContentType ? Request.Form : null;
        (Words, Name) = (typed?["tilt"].ToString() ?? "", typed?["name"].ToString() ?? "");
        try
        {
            return await Load(typed?["state"].ToString()) ? Page() : NotFound();
        }
        catch (InputException)
        {
            // The address itself is what can't be read: the pose as it stands, then.
            return await Load("") ? Page() : NotFound();
        }
    }
}
