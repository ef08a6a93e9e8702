using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>A sheet held against the still life it was drawn from: staff draw a box round each thing; its student sees the result once the critique is
/// released.</summary>
public sealed class HeldModel(CourseScope scope, ThingActions things, ThingViews views) : CoursePage(scope), IShowsProblems
{
    public Sheet Sheet => Scope.Sheet!;
    public IReadOnlyList<KeptArrangement> All { get; private set; } = [];

    /// <summary>The view that it is held against; null before one was chosen.</summary>
    public ThingAddress? Of { get; private set; }

    /// <summary>What staff is asked for before there is anything.</summary>
    public const string Draw = "Draw a box round each thing as it stands on the sheet; what it is beside the others is worked out here.";

    public double? Azimuth => Of is null ? null : Math.Round(Of.Seat.Azimuth);
    public string Key { get; private set; } = "";
    public string Name { get; private set; } = "";
    public uint Version { get; private set; }
    public IReadOnlyList<SeenThing> Seen { get; private set; } = [];
    public IReadOnlyList<HeldThing> Compared { get; private set; } = [];

    /// <summary>Boxes as the page sends them: left, top, right and foot of each in turn.</summary>
    public string Written { get; private set; } = "";
    public string State => Of is null ? "" : Of.For(0)[Of.For(0).IndexOf('?')..];

    public IReadOnlyList<Note> Notes =>
        [
            .. Compared.SelectMany(t =>
                t.Words() is [_, ..] words
                    ? words.Select(w => new Note("outside", $"The {t.Name}: *{w}*."))
                    : [new Note("holds", $"The {t.Name} stands as it is seen.")]
            ),
        ];

    /// <param name="of">Another arrangement than the sheet is held against, by its address; <paramref name="az"/> another side of it.</param>
    public Task OnGetAsync(string? of, double? az) => Load(of, az);

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostKeepAsync(string? of, string? name, string? boxes, uint version)
    {
        Of = ThingAddress.Read(FigureAddress.State(of ?? ""));
        Seen = views.Truth(Of).Things;
        var read = Read(boxes);
        HeldAgainst.Compare(Seen, read);
        await things.Hold(Sheet, State, name ?? "", read, version, Me.Person.Name);
        return To($"critique/{Sheet.Id}/held");
    }

    private async Task Load(string? of, double? az)
    {
        // Before the critique is released its student sees nothing of it, not even that there is something.
        var held = Scope.IsStudent && Sheet.ReleasedAt is null ? null : await things.Held(Sheet.Id);
        All = Scope.IsStudent ? [] : await things.All(Course.Id);
        Version = held?.Version ?? 0;
        if (held is not null)
            (Of, Name) = (ThingAddress.Read(FigureAddress.State(held.Of)), held.Name);
        var chosen = Scope.IsStudent || of is null ? null : All.FirstOrDefault(a => a.Key == of);
        if (chosen is not null)
            (Key, Of, Name, held) = (chosen.Key, Address(chosen, az), chosen.Arrangement.Name, null);
        if (Of is null)
            return;
        Seen = views.Truth(Of).Things;
        if (held is null)
            return;
        Compared = HeldAgainst.Compare(Seen, held.Boxes);
        Written = string.Join(';', held.Boxes.Select(Write));
    }

    private static ThingAddress Address(KeptArrangement a, double? azimuth) =>
        new()
        {
            Things = a.Arrangement.Write(),
            Seat = a.Seat with { Azimuth = azimuth is { } az && Math.Abs(az) <= 180 ? az : a.Seat.Azimuth },
            Lamp = a.Lamp,
        };

    private static string Write(Area b) =>
        string.Create(CultureInfo.InvariantCulture, $"{b.Left:0.##},{b.Top:0.##},{b.Right:0.##},{b.Foot:0.##}");

    /// <exception cref="InputException">What is no box of the sheet.</exception>
    private List<Area> Read(string? boxes)
    {
        double Number(string text, double most) =>
            double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var v) && v >= -1 && v <= most + 1
                ? v
                : throw new InputException($"'{text}' is no place of the sheet", "boxes", "millimetres on the sheet");
        Area Box(string text) =>
            text.Split(',') is [var l, var t, var r, var f]
                ? new(
                    Number(l, Sheet.PaperWidthMm),
                    Number(t, Sheet.PaperHeightMm),
                    Number(r, Sheet.PaperWidthMm),
                    Number(f, Sheet.PaperHeightMm)
                )
                : throw new InputException($"'{text}' is no box", "boxes", "left, top, right and foot");
        return [.. (boxes ?? "").Split(';', StringSplitOptions.RemoveEmptyEntries).Take(Arrangement.Most + 1).Select(Box)];
    }

    public async Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        var typed = Request.HasFormContentType ? Request.Form : null;
        var wanted = Of;
        await Load(null, null);
        if (typed is not null && wanted is not null)
        {
            (Of, Name, Written, Compared) = (wanted, typed["name"].ToString(), typed["boxes"].ToString(), []);
            Seen = views.Truth(wanted).Things;
        }
        return Page();
    }
}
