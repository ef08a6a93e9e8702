using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Drawing;
using MintHarbor.Web.Figures;
using NodaTime;

namespace MintHarbor.Web.Pages.Practice;

/// <summary>The practice clock: a list of timed drawings, from the studio figure or a head, an object, a mirror, life or a photograph of one's own. It runs
/// in the browser, with the line down too, and is sent once.</summary>
public sealed class HomeModel(CourseScope scope, HarborContext db, SittingActions sittings, ThingActions things)
    : CoursePage(scope),
        IShowsProblems
{
    /// <param name="Picture">Null where the subject is in the room.</param>
    public sealed record Sitting(string Name, int Seconds, string? Picture, string Side);

    /// <param name="InOneGo">The next begins by itself: quarters of one page, or times too short to be parted.</param>
    public sealed record Preset(string Id, string Exercise, string List, SittingSubject Subject, bool InOneGo = false);

    /// <summary>The set in which heads sit.</summary>
    public const string HeadSet = "head";

    /// <summary>The set drawn from an arrangement of things.</summary>
    public const string StillLifeSet = "still-life";
    private const string WarmUp = "warm-up";
    private static readonly string[] Quarters = ["Continuous line", "The other hand", "Blind contour", "Basic forms"];

    public static readonly IReadOnlyList<Preset> Sets =
    [
        new("gesture", "gesture", "8 × 1", SittingSubject.Figure),
        new("gesture-2", "gesture", "6 × 2", SittingSubject.Figure),
        new("gesture-30", "gesture", "10 × 30 s", SittingSubject.Figure, InOneGo: true),
        new("study", "timed-study-set", "1, 5, 3", SittingSubject.Object),
        new("mass", "mass", "5 × 3", SittingSubject.Figure),
        new(StillLifeSet, "sitting", "20", SittingSubject.StillLife),
        new("core", "core-first", "2 × 10", SittingSubject.Figure),
        new("contour", "contour", "2 × 10", SittingSubject.Figure),
        new("sitting", "sitting", "20", SittingSubject.Figure),
        new(HeadSet, "head-construction", "2 × 15", SittingSubject.Head),
        new(WarmUp, "warm-up-sheet", "4 × 3", SittingSubject.Object, InOneGo: true),
    ];

    [FromQuery(Name = "set")]
    public string? Set { get; set; }

    /// <summary>A list of one's own, as typed.</summary>
    [FromQuery(Name = "list")]
    public string? List { get; set; }

    [FromQuery(Name = "exercise")]
    public string? ExerciseId { get; set; }

    [FromQuery(Name = "subject")]
    public SittingSubject? Subject { get; set; }

    [FromQuery(Name = "purpose")]
    public string? Purpose { get; set; }

    [FromQuery(Name = "level")]
    public string? Level { get; set; }

    [FromQuery(Name = "seed")]
    public long? Seed { get; set; }

    [FromQuery(Name = "assignment")]
    public int? AssignmentId { get; set; }

    /// <summary>Which arrangement is drawn; any where none is said.</summary>
    [FromQuery(Name = "things")]
    public string? Things { get; set; }

    public IReadOnlyList<Sitting> Sittings { get; private set; } = [];
    public Exercise? Exercise { get; private set; }
    public SittingSubject From { get; private set; }
    public bool InOneGo { get; private set; }

    /// <summary>What the last sitting of the same exercise taught: it is said before the first of this one.</summary>
    public string Carried { get; private set; } = "";

    /// <summary>The list that the form shows: the assignment's, or none.</summary>
    public string Proposed { get; private set; } = "";
    public string GivenAs { get; private set; } = "";
    public IReadOnlyList<string> Purposes =>
        [.. FigureCatalogue.Poses.SelectMany(p => p.Purposes).Distinct().Order(StringComparer.Ordinal)];

    public static string Said(SittingSubject s) =>
        s switch
        {
            SittingSubject.Figure => "the studio figure",
            SittingSubject.Head => "a head of the studio",
            SittingSubject.StillLife => "a still life of the studio",
            SittingSubject.Object => "an object before you",
            SittingSubject.Mirror => "yourself in a mirror",
            SittingSubject.Life => "somebody who sits for you",
            _ => "a photograph of your own: the second best",
        };

    /// <summary>What stands where a picture would.</summary>
    public static string Place(SittingSubject s) =>
        s switch
        {
            SittingSubject.Object => "The object: one light, at a comfortable height. Look long before the first mark.",
            SittingSubject.Mirror => "The mirror beside the board, the lamp to one side; the same eye open throughout.",
            SittingSubject.Life => "Your sitter: kindly, with a rest in time. Board upright beside them.",
            _ => "The photograph: flat already, and its lens has measured for you. Draw it as the second best.",
        };

    /// <summary>How high a picture of 480 pixels' breadth is.</summary>
    public static int Height(SittingSubject s) =>
        s switch
        {
            SittingSubject.Head => 600,
            SittingSubject.StillLife => 480,
            _ => 720,
        };

    public async Task<IActionResult> OnGetAsync()
    {
        var preset = Sets.FirstOrDefault(s => s.Id == Set);
        if (Set is { Length: > 0 } && preset is null)
            return NotFound();
        var given = await Given();
        if (AssignmentId is not null && given is null)
            return NotFound();
        var list = List is { Length: > 0 } ? List : preset?.List;
        ExerciseId = preset?.Exercise ?? (ExerciseId is { Length: > 0 } ? ExerciseId : given?.Exercise);
        Exercise = Course.Shelf.Exercise(ExerciseId);
        From = Subject ?? preset?.Subject ?? (Exercise?.Id == "head-construction" ? SittingSubject.Head : SittingSubject.Figure);
        if (given is not null && Exercise is { } e)
            (Proposed, GivenAs) = (Times(e, given.Minutes), $"{Words.Of(given, Course)}, {Core.Say.Minutes(given.Minutes)}");
        if (list is null)
        {
            if (Proposed == "")
                (Proposed, ExerciseId) = ("6 × 2", ExerciseId ?? "gesture");
            return Page();
        }
        var seconds = TimedList.Read(list);
        // What is run has a seed in its address, so that reloading goes on with the same poses.
        if (Seed is not { } seed)
            return Redirect($"/courses/{Course.Id}/practice/home{Request.QueryString.Add("seed", $"{Random.Shared.Next(1, 1_000_000)}")}");
        InOneGo = preset is { InOneGo: true } || seconds.All(s => s < 60);
        var random = new SeededRandom(seed);
        Sittings = From == SittingSubject.StillLife ? await StillLifes(random, seconds) : Sat(preset, seconds, random);
        Carried = await Last();
        return Page();
    }

    private Task<Assignment?> Given() =>
        AssignmentId is { } id
            ? db.Assignments.AsNoTracking().SingleOrDefaultAsync(a => a.Id == id && a.CourseId == Course.Id && a.StudentId == Me.PersonId)
            : Task.FromResult<Assignment?>(null);

    /// <summary>So many minutes in drawings as long as the exercise wants them.</summary>
    private static string Times(Exercise e, int minutes)
    {
        var most = Math.Min(e.MaxMinutes, minutes);
        var count = Math.Clamp((int)Math.Round(minutes / most), 1, SittingLog.MostDrawings);
        var each = Core.Say.Number((double)minutes / count, 1);
        return count == 1 ? each : $"{count} × {each}";
    }

    private async Task<string> Last()
    {
        var exercise = Exercise?.Id;
        var logs = await db
            .PracticeSittings.AsNoTracking()
            .Where(s => s.CourseId == Course.Id && s.StudentId == Me.PersonId)
            .OrderByDescending(s => s.EndedAt)
            .Take(8)
            .Select(s => s.Log)
            .ToListAsync();
        return logs.Where(l => l.Exercise == exercise).SelectMany(l => l.Taught).FirstOrDefault() ?? "";
    }

    private List<Sitting> Sat(Preset? preset, IReadOnlyList<int> seconds, SeededRandom random) =>
        From switch
        {
            SittingSubject.Figure => Figures(random, seconds),
            SittingSubject.Head => [.. Heads(random, seconds)],
            _ =>
            [
                .. seconds.Select(
                    (s, n) =>
                        new Sitting(preset?.Id == WarmUp && n < Quarters.Length ? Quarters[n] : $"Drawing {n + 1}", s, null, Said(From))
                ),
            ],
        };

    private List<Sitting> Figures(SeededRandom random, IReadOnlyList<int> seconds)
    {
        var fit = FigureCatalogue
            .Poses.Where(x =>
                (string.IsNullOrEmpty(Purpose) || x.Purposes.Contains(Purpose)) && (string.IsNullOrEmpty(Level) || x.Level == Level)
            )
            .ToList();
        // The figure doesn't tire, but what is drawn from it should be what a model could hold that long.
        var hold = Course.Shelf.Timing;
        var held = fit.Where(x => hold.Limit(Strains.Read(x.Strain)).LimitMinutes >= seconds.Max() / 60.0).ToList();
        if (held.Count > 0)
            fit = held;
        if (fit.Count == 0)
            fit = [.. FigureCatalogue.Poses];
        var left = new List<Pose>();
        var sat = new List<Sitting>();
        foreach (var time in seconds)
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
            sat.Add(new(pose.Name, time, address.For(Course.Id), SeatDial.Side(azimuth)));
        }
        return sat;
    }

    /// <summary>The arrangement that was asked for, as it was kept; else the course's own and the studio's in turn, each from another side.</summary>
    private async Task<List<Sitting>> StillLifes(SeededRandom random, IReadOnlyList<int> seconds)
    {
        var all = await things.All(Course.Id);
        var asked = all.Where(a => a.Key == Things).ToList();
        var left = new List<KeptArrangement>();
        var sat = new List<Sitting>();
        foreach (var time in seconds)
        {
            if (left.Count == 0)
                left = [.. asked.Count > 0 ? asked : all];
            var kept = left[random.Next(left.Count)];
            left.Remove(kept);
            var turned = asked.Count > 0 ? 0 : Math.Round(random.Between(-60, 60) / 5) * 5;
            var address = new ThingAddress
            {
                Things = kept.Arrangement.Write(),
                Kind = FigureViewKind.Tone,
                Seat = kept.Seat with { Azimuth = kept.Seat.Azimuth + turned },
                Lamp = kept.Lamp,
            };
            var name = kept.Arrangement.Name;
            sat.Add(new(char.ToUpperInvariant(name[0]) + name[1..], time, address.For(Course.Id), ThingPlan.Side(address.Seat.Azimuth)));
        }
        return sat;
    }

    /// <summary>Sitters turned as portraits are: three-quarter, either way, hardly tilted.</summary>
    private IEnumerable<Sitting> Heads(SeededRandom random, IReadOnlyList<int> seconds)
    {
        var left = HeadCatalogue.Sitters.Where(s => s.Id != "classical").ToList();
        foreach (var time in seconds)
        {
            if (left.Count == 0)
                left = HeadCatalogue.Sitters.Where(s => s.Id != "classical").ToList();
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
                char.ToUpperInvariant(sitter.Name[0]) + sitter.Name[1..],
                time,
                address.For(Course.Id),
                $"turned {Math.Abs(turn)}° to the {(turn > 0 ? "right" : "left")}"
            );
        }
    }

    /// <param name="at">When it ended, by the browser's clock, milliseconds since 1970.</param>
    [For(CourseRole.Student)]
    public async Task<IActionResult> OnPostSittingAsync(Guid key, string? log, int? assignment, int? author, long? at)
    {
        // A tablet that passed from hand to hand must not send one person's sitting under another's name.
        if (author is { } by && by != Me.PersonId)
            return new ConflictResult();
        var ended = at is > 0 and < 32_503_680_000_000 ? Instant.FromUnixTimeMilliseconds(at.Value) : (Instant?)null;
        await sittings.Take(Course, Me.PersonId, key, log, assignment, ended);
        return Request.Headers.ContainsKey("X-Queued") ? new OkResult() : To("practice");
    }

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        Sittings = [];
        return Task.FromResult<IActionResult>(Page());
    }
}
