using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Objects;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Simulation;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Demo;

/// <summary>Practice of the demo between meetings: hands that drill, a line a day, timed drawings with what each taught.</summary>
internal sealed class DemoPractice(HarborContext db, Func<Instant, IClock> at, Instant now)
{
    /// <summary>Weeks back, and how good the eye is then: a beginner's is 1.</summary>
    private static readonly (int Days, double Eye)[] Term = [(30, 1.15), (24, 0.9), (17, 0.6), (9, 0.45), (3, 0.3)];
    private static readonly string[] Kinds = ["single-strokes", "halve-and-third", "contour-look", "five-marks"];

    public async Task Load(Course course, IReadOnlyList<Membership> students, DateTimeZone zone)
    {
        Membership Of(string name) => students.Single(s => s.CourseId == course.Id && s.Person.Name == name);
        var (maren, hollis, nell) = (Of("Maren Holt"), Of("Hollis Brae"), Of("Nell Orchard"));
        foreach (var (days, eye) in Term)
        foreach (var (who, good) in new[] { (maren, 1.0), (hollis, 1.3) })
        foreach (var (kind, n) in Kinds.Take(days > 10 ? 2 : 4).Select((k, n) => (k, n)))
            await Round(course, who, kind, eye * good, now - Duration.FromDays(days) + Duration.FromMinutes(7 * n));
        await Round(course, maren, "blind-free", 0.8, now - Duration.FromDays(2));
        foreach (var (days, eye) in Term)
            await ByEye(
                course,
                maren,
                days % 2 == 0 ? "convergence" : "value-steps",
                eye,
                now - Duration.FromDays(days) + Duration.FromHours(1)
            );
        await new ThingActions(db, at(now - Duration.FromDays(4))).Keep(
            course,
            new(
                "",
                "",
                Ground.Table,
                [new("drape", -0.12, -0.08, 12), new("vase", 0.34, -0.02, 0), new("cup", 0.28, 0.22, -50), new("bowl", -0.12, -0.08, 0)]
            ),
            new(-18, 1.4, 1.25),
            new(-70, 35),
            "Monday: bowl on the drape, vase and cup",
            DemoStudio.Instructor.Name
        );
        var today = now.InZone(zone).Date;
        // Twenty-three lines, one day missed between; today's is still to be drawn.
        await Lines(course, maren, [.. Enumerable.Range(1, 24).Where(d => d != 9).Select(d => today.PlusDays(-d))], zone);
        await Lines(course, hollis, [.. Enumerable.Range(0, 6).Select(d => today.PlusDays(-d))], zone);
        await Lines(course, nell, [.. Enumerable.Range(12, 5).Select(d => today.PlusDays(-d))], zone);
        await Sittings(course, maren);
        await new StageActions(db, at(now)).Eye(
            await db.Memberships.SingleAsync(m => m.CourseId == course.Id && m.PersonId == maren.PersonId),
            [true, true, false, true]
        );
        await new StageActions(db, at(now - Duration.FromDays(1))).Say(
            course,
            nell.PersonId,
            "value",
            MeasuringStage.ByEyeThenCheck,
            "Her tones hold without the strip since the lantern.",
            DemoStudio.Instructor.Name
        );
    }

    /// <summary>What an eye says of an item; a beginner's scatters once as widely as is usual.</summary>
    public static double Said(Drill drill, DrillItem item, SeededRandom random, double eye)
    {
        var truth = item.Truth.Value;
        if (drill.Unit == "deg")
            return ClockAngle.Fold(truth + random.Normal(6 * eye));
        var said = drill.Unit switch
        {
            "heads" => truth + random.Normal(0.15 * eye),
            "values" => truth + random.Normal(0.7 * eye),
            "ratio" => truth * Math.Exp(random.Normal(0.12 * eye)),
            _ => Math.Abs(random.Normal(0.4 * eye)),
        };
        return Math.Clamp(said, drill.Range.Least, drill.Range.Most);
    }

    /// <summary>A round answered by eye.</summary>
    private async Task ByEye(Course course, Membership who, string kind, double eye, Instant then)
    {
        db.ChangeTracker.Clear();
        var practice = new PracticeActions(db, at(then));
        var random = new SeededRandom((who.PersonId * 977) + (then.ToUnixTimeSeconds() / 3600 % 9973));
        var round = await practice.Begin(course, who.PersonId, kind, null, random.Next(1_000_000));
        var drill = Core.Practice.Drills.Get(kind);
        while (round.State.Replay().Next is { } item)
            await practice.Answer(round, round.State.Answers.Count, Said(drill, item, random, eye));
    }

    private async Task Round(Course course, Membership who, string kind, double eye, Instant then)
    {
        db.ChangeTracker.Clear();
        var practice = new PracticeActions(db, at(then));
        var seed = (who.PersonId * 131) + (then.ToUnixTimeSeconds() / 3600 % 9973);
        var round = await practice.Begin(course, who.PersonId, kind, null, seed);
        var drill = (HandDrill)Core.Practice.Drills.Get(kind);
        while (round.State.Replay().Next is { } item)
        {
            var pen = new SimulatedPen(eye, (seed * 17) + round.State.Answers.Count);
            await practice.Draw(round, round.State.Answers.Count, pen.Draw(drill, item).Write());
        }
    }

    private async Task Lines(Course course, Membership who, IReadOnlyList<LocalDate> days, DateTimeZone zone)
    {
        string[] things =
        [
            "somebody at the stop",
            "a neighbour, reading",
            "the baker",
            "myself in the mirror",
            "a man on the pier",
            "Jun, asleep",
        ];
        var drill = (HandDrill)Core.Practice.Drills.Get("blind-strict");
        foreach (var (day, n) in days.Order().Select((d, n) => (d, n)))
        {
            var then = (day + new LocalTime(7, 40)).InZoneLeniently(zone).ToInstant();
            var actions = new SittingActions(db, at(then));
            // Every fourth stands on paper.
            if (n % 4 == 3)
            {
                await actions.Line(course, who.PersonId, null, things[n % things.Length]);
                continue;
            }
            var item = drill.Items((who.PersonId * 61) + n, 0.4, 1, clothed: true)[0];
            await actions.Line(
                course,
                who.PersonId,
                Into(new SimulatedPen(1.1, (who.PersonId * 29) + n).Draw(drill, item)),
                things[n % things.Length]
            );
            if (n % 7 == 6)
                await actions.Line(course, who.PersonId, Into(new SimulatedPen(0.9, (who.PersonId * 31) + n).Draw(drill, item)), null);
        }
    }

    /// <summary>A line of the figure's field, made to fit the day's.</summary>
    private static string Into(PenTrace trace)
    {
        var box = Area.Round(trace.Lines.SelectMany(l => l));
        var k = Math.Min(200 / box.Width, 260 / box.Height);
        PenPlace Placed(PenPlace p) => p with { X = 120 + ((p.X - box.Middle.X) * k), Y = 150 + ((p.Y - box.Middle.Y) * k) };
        return (
            trace with
            {
                Strokes = [.. trace.Strokes.Select(s => (IReadOnlyList<PenPlace>)[.. s.Where((_, i) => i % 3 == 0).Select(Placed)])],
            }
        ).Write();
    }

    private async Task Sittings(Course course, Membership who)
    {
        (int Days, string Exercise, SittingSubject Subject, TimedDrawing[] Drawings)[] sat =
        [
            (
                11,
                "timed-study-set",
                SittingSubject.Object,
                [
                    new(60, 60, "fills the page, one line", "The handle leans more than I thought."),
                    new(300, 300, "half a page, the whole block-in", "Ellipse before the rim's edge."),
                    new(180, 180, "half a page, shape only", "Smaller was better."),
                ]
            ),
            (
                4,
                "gesture",
                SittingSubject.Figure,
                [
                    new(120, 120, "fills the page, one line and shape", "I drew arms before the pelvis had its tilt."),
                    new(120, 120, "the same", "Pelvis first: it stands now."),
                    new(120, 95, "the same", "From the shoulder, the long lines come in one go."),
                ]
            ),
        ];
        foreach (var (days, exercise, subject, drawings) in sat)
        {
            var then = now - Duration.FromDays(days);
            var log = JsonSerializer.Serialize(new SittingLog(exercise, subject, drawings), HarborContext.Json);
            var key = new Guid(course.Id, (short)days, 7, 1, 2, 3, 4, 5, 6, 7, 8);
            await new SittingActions(db, at(then)).Take(course, who.PersonId, key, log, null, then);
        }
    }
}
