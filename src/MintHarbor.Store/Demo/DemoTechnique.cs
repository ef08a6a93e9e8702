using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Objects;
using MintHarbor.Core.Simulation;
using MintHarbor.Core.Technique;
using MintHarbor.Media;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Demo;

/// <summary>Sheets on which the hand itself is the question: a mass in charcoal that hides its lines, a hairy gesture, a hatched still life, and a row
/// of patches that somebody has drawn round.</summary>
internal sealed class DemoTechnique(
    HarborContext db,
    Func<Instant, IClock> at,
    PictureService pictures,
    SimulatedSheets drawer,
    Func<IClock, FitActions> fits
)
{
    private static readonly PaperSize Paper = PaperSize.Find("A3")!;

    public async Task Load(Course course, Meeting meeting, IReadOnlyList<Membership> students, Instant now)
    {
        Membership Of(string name) => students.Single(m => m.CourseId == course.Id && m.Person.Name == name);
        var undraped = Drapery.For(course.Minors, course.Minors);
        StudioCamera.Shot Figure(string pose, TechniqueManner manner, long seed) =>
            drawer.Stroked("male", pose, undraped, new(12, 3.4, 1.3), Paper, 320, manner, seed);
        var hairy = Hand(0, 31) with { Stroke = 8, Restating = 1.7, Drift = 0.8, Spacing = 0 };
        var hatched = Hand(0, 33) with { Stroke = 60, Restating = 0.2, Spacing = 2.4, Direction = 60, Cover = 0.6, RightHeavier = 0.45 };
        (string Who, string Exercise, string Pose, bool Seen, string Question, string Review, Func<StudioCamera.Shot> Drawn)[] sheets =
        [
            ("Wick Thorne", "mass", "contrapposto", true, "Is it one shape?", "I laid it with the side. The legs got thin.", () =>
                Figure("contrapposto", Hand(3, 30) with { Mass = 1, Pressure = 0.7, Cover = 0.85 }, 301)
            ),
            ("Tove Arkle", "gesture", "contrapposto", true, "Does the line run through?", "It was quick. I went over it often.", () =>
                Figure("contrapposto", hairy, 302)
            ),
            (
                "Hollis Brae",
                "sitting",
                Sheet.Thing,
                false,
                "Do the things stand on one table?",
                "The hatching follows the light. The bowl is wobbly.",
                () => SimulatedSheets.Stroked(ThingShelf.Find("kitchen")!, new(18, 1.2, 1.2), Paper, 240, hatched, 303)
            ),
            ("Greta Sands", "value-patches", Sheet.Thing, false, "Are the steps even?", "Cross-hatching is the hardest.", () =>
                SimulatedSheets.Patches(Paper, Patches, 304)
            ),
        ];
        foreach (var (s, n) in sheets.Select((s, n) => (s, n)))
        {
            db.ChangeTracker.Clear();
            var clock = at(now - Duration.FromHours(8 - n));
            var student = Of(s.Who);
            var intake = new IntakeActions(db, pictures, clock);
            var shot = s.Drawn();
            var thing = s.Pose == Sheet.Thing;
            var sheet = await intake.Submit(
                course,
                student,
                new(
                    s.Question,
                    s.Review,
                    s.Exercise,
                    thing ? "other" : s.Pose,
                    thing ? null : "R",
                    "front",
                    "A3",
                    s.Seen ? meeting.Id : null,
                    null
                )
                {
                    Subject = thing ? Sheet.Thing : "figure",
                },
                () => Task.FromResult(shot.Jpeg)
            );
            await intake.SetCorners(sheet, shot.Corners);
            await fits(clock).Fit(sheet, course);
            await new SheetActions(db, clock, fits(clock), s.Who).HandIn(sheet);
            if (s.Exercise == "value-patches")
                await Round(sheet, clock);
        }
    }

    private static TechniqueManner Hand(int style, long seed) => TechniqueManner.Any(style, 0.7, new(seed)) with { Smudged = false };

    /// <summary>Even but for the crossed row, whose middle lies near its light.</summary>
    private static IReadOnlyList<RuledPatch> Patches { get; } =
        PatchHand.Rows(
            (method, step) =>
                (method, step) switch
                {
                    (PatchMethod.Hatch, PatchStep.Light) => (3.2, 0.85, 0.5),
                    (PatchMethod.Hatch, PatchStep.Middle) => (1.5, 0.9, 0.6),
                    (PatchMethod.Hatch, PatchStep.Dark) => (0.85, 0.95, 0.75),
                    (PatchMethod.CrossHatch, PatchStep.Light) => (4, 0.7, 0.5),
                    (PatchMethod.CrossHatch, PatchStep.Middle) => (3.2, 0.75, 0.5),
                    (PatchMethod.CrossHatch, PatchStep.Dark) => (1.2, 0.95, 0.7),
                    (PatchMethod.Stipple, PatchStep.Light) => (2.4, 0.9, 0),
                    (PatchMethod.Stipple, PatchStep.Middle) => (1.35, 0.9, 0),
                    (PatchMethod.Stipple, PatchStep.Dark) => (0.95, 0.95, 0),
                    (_, PatchStep.Light) => (0, 0.15, 0),
                    (_, PatchStep.Middle) => (0, 0.4, 0),
                    _ => (0, 0.8, 0),
                }
        );

    /// <summary>What an instructor drew round on the row of patches.</summary>
    private async Task Round(Sheet sheet, IClock clock)
    {
        var looks = new LookActions(db, clock, pictures, new());
        foreach (var p in Patches)
            await looks.Add(sheet, new(MarkKind.Patch, false, p.Within, p.Method, p.Step), DemoStudio.Instructor.Name);
    }
}
