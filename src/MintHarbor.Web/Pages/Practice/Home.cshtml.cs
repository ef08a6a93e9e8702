using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;
using MintHarbor.Web.Access;
using MintHarbor.Web.Drawing;
using MintHarbor.Web.Figures;

namespace MintHarbor.Web.Pages.Practice;

/// <summary>Timed practice at home with the studio figure as model: a set of poses, each from a side of its own, as the seed has it.</summary>
public sealed class HomeModel(CourseScope scope) : CoursePage(scope)
{
    public sealed record Sitting(string Pose, string Name, double Minutes, string Picture, string Side);

    /// <summary>The set in which heads sit.</summary>
    public const string HeadSet = "head";

    /// <summary>Sets by their exercise: how many poses of how many minutes.</summary>
    public static readonly IReadOnlyList<(string Id, string Exercise, int Poses, double Minutes)> Sets =
    [
        ("gesture", "gesture", 8, 1),
        ("gesture-2", "gesture", 6, 2),
        ("mass", "mass", 5, 3),
        ("core", "core-first", 2, 10),
        ("contour", "contour", 2, 10),
        ("sitting", "sitting", 1, 20),
        ("head", "head-construction", 2, 15),
    ];

    [FromQuery(Name = "set")]
    public string? Set { get; set; }

    [FromQuery(Name = "purpose")]
    public string? Purpose { get; set; }

    [FromQuery(Name = "level")]
    public string? Level { get; set; }

    [FromQuery(Name = "seed")]
    public long? Seed { get; set; }

    public IReadOnlyList<Sitting> Sittings { get; private set; } = [];
    public Exercise? Exercise { get; private set; }
    public IReadOnlyList<string> Purposes =>
        [.. FigureCatalogue.Poses.SelectMany(p => p.Purposes).Distinct().Order(StringComparer.Ordinal)];

    public IActionResult OnGet()
    {
        if (Set is null)
            return Page();
        if (Sets.FirstOrDefault(s => s.Id == Set) is not { Id: not null } set)
            return NotFound();
        // A set has a seed in its address, so that reloading goes on with the same poses.
        if (Seed is not { } seed)
            return Redirect(
                $"/courses/{Course.Id}/practice/home?set={set.Id}{(Purpose is { Length: > 0 } p ? "&purpose=" + Uri.EscapeDataString(p) : "")}{(Level is { Length: > 0 } l ? "&level=" + Uri.EscapeDataString(l) : "")}&seed={Random.Shared.Next(1, 1_000_000)}"
            );
        Exercise = Course.Shelf.Exercise(set.Exercise);
        var random = new SeededRandom(seed);
        if (set.Id == HeadSet)
        {
            Sittings = [.. Heads(random, set.Poses, set.Minutes)];
            return Page();
        }
        var fit = FigureCatalogue
            .Poses.Where(x =>
                (string.IsNullOrEmpty(Purpose) || x.Purposes.Contains(Purpose)) && (string.IsNullOrEmpty(Level) || x.Level == Level)
            )
            .ToList();
        // The figure doesn't tire, but what is drawn from it should be what a model could hold that long.
        var hold = Course.Shelf.Timing;
        var held = fit.Where(x => hold.Limit(Strains.Read(x.Strain)).LimitMinutes >= set.Minutes).ToList();
        if (held.Count > 0)
            fit = held;
        if (fit.Count == 0)
            fit = [.. FigureCatalogue.Poses];
        var left = new List<Pose>();
        var sittings = new List<Sitting>();
        for (var n = 0; n < set.Poses; n++)
        {
            if (left.Count == 0)
                left = [.. fit];
            var pose = left[random.Next(left.Count)];
            left.Remove(pose);
            var azimuth = Math.Round(random.Between(-160, 160) / 5) * 5;
            var address = new FigureAddress
            {
                Pose = pose.Id,
                Body = FigureCatalogue.Bodies[random.Next(8)].Id,
                Seat = new(azimuth, 3.4, 1.3),
                Mirrored = random.Next(2) == 1,
                Kind = FigureViewKind.Tone,
                Lamp = new(azimuth + (random.Next(2) == 1 ? 58 : -58)),
                Garment = Course.Minors,
            };
            sittings.Add(new(pose.Id, pose.Name, set.Minutes, address.For(Course.Id), SeatDial.Side(azimuth)));
        }
        Sittings = sittings;
        return Page();
    }

    /// <summary>Sitters turned as portraits are: three-quarter, either way, hardly tilted.</summary>
    private IEnumerable<Sitting> Heads(SeededRandom random, int count, double minutes)
    {
        var left = HeadCatalogue.Sitters.Where(s => s.Id != "classical").ToList();
        for (var n = 0; n < count; n++)
        {
            var sitter = left[random.Next(left.Count)];
            left.Remove(sitter);
            var turn = Math.Round(random.Between(12, 42)) * (random.Next(2) == 1 ? 1 : -1);
            var address = new HeadAddress
            {
                Sitter = sitter.Id,
                Pose = new(turn, Math.Round(random.Between(-6, 9))),
                Lamp = new(random.Next(2) == 1 ? 42 : -42, 42),
            };
            yield return new(
                sitter.Id,
                char.ToUpperInvariant(sitter.Name[0]) + sitter.Name[1..],
                minutes,
                address.For(Course.Id),
                $"turned {Math.Abs(turn)}° to the {(turn > 0 ? "right" : "left")}"
            );
        }
    }

    public static string Say(double minutes) => Core.Say.Minutes(minutes);
}
