using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Landmarks;
using MintHarbor.Web.Access;
using MintHarbor.Web.Figures;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Shelf;

/// <summary>What stands beside a view of the head: how it divides from here, and by what this sitter departs from the canon.</summary>
public sealed record HeadReadout(FigureView View, IReadOnlyList<Note> Notes, IReadOnlyList<(string Pair, double Share)> Shares);

/// <summary>A sitter where none is at hand: turned, tilted, lit, built up.</summary>
public sealed class SitterModel(CourseScope scope, FigureViews views) : CoursePage(scope), IShowsProblems
{
    private static readonly (string Name, string Side, string Middle)[] Pairs =
    [
        ("eyes", "eye-outer", "nose-root"),
        ("wings of the nose", "wing", "nosetip"),
        ("mouth", "mouth-corner", "lip-slit"),
    ];
    private static readonly (string Id, string Name)[] Heights =
    [
        ("hairline", "hairline"),
        ("brow-mid.L", "brow"),
        ("nosebase", "nose base"),
        ("lip-slit", "mouth"),
    ];

    public HeadAddress Address { get; private set; } = new();
    public HeadReadout Readout { get; private set; } = null!;
    public SitterRow Sitter => HeadCatalogue.Sitters.First(s => s.Id == Address.Sitter);
    public string Path => $"/courses/{Course.Id}/shelf/sitter";

    public IActionResult OnGet()
    {
        Load(Request.Query);
        return Page();
    }

    public IActionResult OnGetReadout()
    {
        Load(Request.Query);
        return Partial("Shelf/_HeadReadout", Readout);
    }

    private void Load(IQueryCollection query)
    {
        Address = HeadAddress.Read(query) with { Width = 480, Height = 600, Preview = false };
        if (HeadCatalogue.Sitters.All(s => s.Id != Address.Sitter))
            throw new InputException(
                $"there is no sitter '{Address.Sitter}'",
                "sitter",
                string.Join(", ", HeadCatalogue.Sitters.Select(s => s.Id))
            );
        // Landmarks don't hang on the mesh: the quick one tells them.
        var head = views.Head(Address with { Preview = true });
        var view = StudioHead.View(head, Address.Pose, FigureViewKind.Mass);
        var notes = new List<Note>
        {
            new("near", "Second best: a sitter breathes, tires and looks back. Take a person, a mirror or a cast where you can."),
        };
        var turn = Address.Pose.Turn;
        List<(string, double)> shares = [];
        if (Math.Abs(turn) is > 2 and < 65)
        {
            var (far, near) = turn > 0 ? (".L", ".R") : (".R", ".L");
            double X(string id) => view.Landmarks[id].At.X;
            shares =
            [
                .. Pairs
                    .Select(p => (p.Name, (X(p.Middle) - X(p.Side + far)) / (X(p.Side + near) - X(p.Side + far))))
                    .Where(p => p.Item2 > 0),
            ];
            if (shares is [var eyes, ..])
                notes.Add(
                    new(
                        "holds",
                        $"Beyond the root of the nose lies *{Say.Number(100 * eyes.Item2)} %* of the eyes' breadth: a turn of {Say.Number(Math.Abs(turn))}°.",
                        null,
                        "far share of outer eye corners over the root of the nose: (1 − k·tan t)/2, exact in parallel view"
                    )
                );
        }
        var canon = views.Head(Address with { Preview = true, Sitter = "classical" });
        var departs = Heights
            .Select(h => (h.Name, Off: (head.Landmark(h.Id).Place.Y - canon.Landmark(h.Id).Place.Y) / HeadModel.PerHead))
            .Where(h => Math.Abs(h.Off) > 0.004)
            .ToList();
        foreach (var (name, off) in departs)
            notes.Add(
                new(
                    "holds",
                    $"{char.ToUpperInvariant(name[0])}{name[1..]} *{Say.Fixed(Math.Abs(off), 3)}* heads {(off > 0 ? "higher" : "lower")} than the canon's."
                )
            );
        var most = head
            .Landmarks.Select(l => (l.Id, Way: System.Numerics.Vector3.Distance(l.Place, canon.Landmark(l.Id).Place) / HeadModel.PerHead))
            .Where(l => l.Way > 0.008)
            .OrderByDescending(l => l.Way)
            .FirstOrDefault();
        if (most.Id is not null && departs.All(d => Heights.First(h => h.Name == d.Name).Id != most.Id))
            notes.Add(new("holds", $"Farthest from it: {LandmarkIds.Name(most.Id)}, by *{Say.Fixed(most.Way, 3)}* heads."));
        if (head.Sitter == "classical")
            notes.Add(new("holds", "The canon itself: measure a sitter against it, never copy it for one."));
        Readout = new(view, notes, shares);
    }

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        Load(new QueryCollection());
        return Task.FromResult<IActionResult>(Page());
    }
}
