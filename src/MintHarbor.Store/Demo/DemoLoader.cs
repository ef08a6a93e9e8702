using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Measuring;
using MintHarbor.Core.Sessions;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Fitting;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Demo;

/// <summary>Fills an empty database with the invented studio, through the same actions that people's clicks take; only the
/// clock is set back for what lies in the past. Dates are laid round the day of loading.</summary>
public sealed class DemoLoader(HarborContext db, UserManager<Person> people, IClock real, SheetFitter fitter, IPaperPrints prints)
{
    private static readonly DateTimeZone Zone = DateTimeZoneProviders.Tzdb["Europe/Berlin"];

    private readonly SimulatedSheets drawer = new();

    private FitActions Fits(IClock clock) => new(db, new(db), new(db, clock), fitter, clock, new NoFitQueue());

    private sealed class SetClock(Instant now) : IClock
    {
        public Instant Now { get; set; } = now;

        public Instant GetCurrentInstant() => Now;
    }

    public async Task LoadIfEmpty()
    {
        // Two nodes may start at once: one loads, the other waits and finds it done. The lock belongs to the connection,
        // which stays open meanwhile.
        await db.Database.OpenConnectionAsync();
        await db.Database.ExecuteSqlRawAsync("select pg_advisory_lock(412)");
        try
        {
            if (await db.Users.AnyAsync())
                return;
            // Whole or not at all: a start that is broken off begins again.
            await using var whole = await db.Database.BeginTransactionAsync();
            await Load();
            await whole.CommitAsync();
        }
        finally
        {
            await db.Database.ExecuteSqlRawAsync("select pg_advisory_unlock(412)");
            await db.Database.CloseConnectionAsync();
        }
    }

    private async Task Load()
    {
        var now = real.GetCurrentInstant();
        var clock = new SetClock(now);
        var today = now.InZone(Zone).Date;
        var instructor = await Account(DemoStudio.Instructor, teaches: true);
        var assistant = await Account(DemoStudio.Assistant, teaches: false);
        var evening = await Course(
            clock,
            instructor,
            new(
                "Evening figure",
                today.DayOfWeek,
                new(19, 0),
                150,
                DemoStudio.Room,
                Approach.QuickFirst,
                "18x24in",
                false,
                false,
                "academic",
                "classical-head",
                Zone.Id
            ),
            DemoStudio.Evening,
            today.PlusWeeks(-5)
        );
        db.Memberships.Add(
            new()
            {
                CourseId = evening.Id,
                PersonId = assistant.Id,
                Role = CourseRole.Assistant,
            }
        );
        await db.SaveChangesAsync();
        var young = await Course(
            clock,
            instructor,
            new(
                "Saturday group",
                today.PlusDays(3).DayOfWeek,
                new(10, 0),
                90,
                DemoStudio.Room,
                Approach.Alternating,
                "A3",
                false,
                true,
                "academic",
                "classical-head",
                Zone.Id
            ),
            DemoStudio.Young,
            today.PlusWeeks(-5)
        );

        var foundation = await Course(
            clock,
            instructor,
            new(
                "Foundation year",
                today.PlusDays(1).DayOfWeek,
                new(13, 30),
                180,
                DemoStudio.Room,
                Approach.LongFirst,
                "A2",
                false,
                false,
                "academic",
                "classical-head",
                Zone.Id
            ),
            DemoStudio.Foundation,
            today.PlusWeeks(-5)
        );
        await Ladder(clock, foundation, today);

        var evenings = await Meetings(
            clock,
            evening,
            today,
            [Purpose.Gesture, Purpose.Construction, Purpose.Anatomy, Purpose.Proportion, Purpose.Proportion, Purpose.Tone],
            ModelKind.Person
        );
        var mornings = await Meetings(
            clock,
            young,
            today.PlusDays(3).PlusWeeks(-1),
            [Purpose.Proportion, Purpose.Construction, Purpose.Proportion, Purpose.Proportion, Purpose.Construction, Purpose.Anatomy],
            ModelKind.Person
        );
        var afternoons = await Meetings(
            clock,
            foundation,
            today.PlusDays(1),
            [Purpose.Proportion, Purpose.Proportion, Purpose.Construction, Purpose.Proportion, Purpose.Proportion, Purpose.Proportion],
            ModelKind.Cast
        );
        await Cards(clock, evenings[2], instructor, "stand-male-0", null);
        await Cards(clock, evenings[3], instructor, "contrapposto-male-0", "R");
        db.ChangeTracker.Clear();
        var students = await db.Memberships.Include(m => m.Person).Where(m => m.Role == CourseRole.Student).ToListAsync();
        await Drills(clock, evening, students, now);
        await Readings(clock, evenings[3], students.Single(m => m.CourseId == evening.Id && m.Person.Name == "Maren Holt").Person, 1.8, 4);
        await Readings(clock, evenings[3], students.Single(m => m.CourseId == evening.Id && m.Person.Name == "Bram Sedge").Person, 6, 9);
        foreach (var s in DemoStudio.Sheets)
            await Sheet(
                clock,
                evening,
                evenings[s.Week - 1],
                students.Single(m => m.CourseId == evening.Id && m.Person.Name == s.Student),
                s,
                now
            );
        await Sheet(clock, young, mornings[3], students.First(m => m.CourseId == young.Id), DemoStudio.YoungSheet, now);
        IClock At(Instant then)
        {
            clock.Now = then;
            return clock;
        }
        var projects = new DemoProjects(db, instructor, At);
        var portrait = await projects.Portrait(evening, evenings[^1].Date);
        foreach (var (name, faults, question, review) in DemoStudio.Heads)
            await Head(
                clock,
                evening,
                students.Single(m => m.CourseId == evening.Id && m.Person.Name == name),
                faults,
                question,
                review,
                byHand: name == DemoStudio.ByHandHead,
                portrait,
                now
            );
        await Set(clock, evening, evenings[3], students.Single(m => m.CourseId == evening.Id && m.Person.Name == "Nell Orchard"), now);
        await Figures(clock, evening, instructor, evenings[3], students);
        var left = new DemoEvenings(db, instructor);
        await left.Overrun(evening, evenings, At, Zone);
        await left.Load(evening, evenings, At, Zone);
        await left.Term(evening, evenings[^1], At, now);
        await new DemoModels(db, instructor).Load(evening, young, At, now);
        await left.Running(foundation, afternoons[4], At, now, Zone);
        db.ChangeTracker.Clear();
        await Histories(clock, evening, evenings, students, DemoHistories.Evening, now);
        await Histories(clock, young, mornings, students, DemoHistories.Young, now);
        await Histories(clock, foundation, afternoons, students, DemoHistories.Foundation, now);
        db.ChangeTracker.Clear();
        await projects.Stand(portrait.Id, now);
        await projects.Own(evening, evenings[^2].Date.PlusDays(-3), now);
        await projects.LongPose(evening, now);
        await projects.Daily(young, mornings[^1].Date);
        db.ChangeTracker.Clear();
        await new DemoPaper(db, prints).Load(evening, students, At, now, DemoStudio.Instructor.Name);
        db.ChangeTracker.Clear();
        await new DemoPractice(db, At, now).Load(evening, students, Zone);
        await Series(clock, young, students.First(m => m.CourseId == young.Id), now);
        db.ChangeTracker.Clear();
        await new DemoTechnique(db, At, new(db), drawer, Fits).Load(evening, evenings[3], students, now);
    }

    /// <summary>Where those sat whose sheets are there, and a pose that the course has made its own.</summary>
    private async Task Figures(SetClock clock, Course course, Person instructor, Meeting meeting, List<Membership> students)
    {
        var actions = new PoseActions(db, clock);
        foreach (var (name, azimuth) in new[] { ("Maren Holt", 0.0), ("Bram Sedge", 9), ("Nell Orchard", -9), ("Odile Marsh", 36) })
            await actions.Sit(
                meeting.Id,
                students.Single(m => m.CourseId == course.Id && m.Person.Name == name).PersonId,
                new(azimuth, 3.4, 1.25)
            );
        var figure = new StudioFigure(0);
        var undraped = Drapery.For(course.Minors, course.Minors);
        var basis = figure.Model("male", FigureCatalogue.Pose("handonhip"), undraped, StudioFigure.Thumb);
        var pose = PoseEdit.Apply(basis, [("thorax.twist", -16), ("head.twist", 24), ("head.flex", -6)]);
        await actions.Save(
            course,
            pose,
            figure.Model("male", pose, undraped, StudioFigure.Thumb),
            "Watching the tide",
            "Hand on the hip",
            instructor.Name
        );
    }

    /// <summary>How the foundation year came to its rung: twice by the instructor's word, since neither rung is measured.</summary>
    private async Task Ladder(SetClock clock, Course course, LocalDate today)
    {
        foreach (
            var (weeks, rung, reason) in new[]
            {
                (4, "drapery", "Seven weeks of crab pots and rope coils; edges and darks hold."),
                (2, "muscle-figure", "Folds hang from their points in every sheet on the wall."),
            }
        )
        {
            clock.Now = today.PlusWeeks(-weeks).At(new(18, 0)).InZoneLeniently(Zone).ToInstant();
            await new LadderActions(db, new(db, new NoReferenceViews()), clock).Move(course, rung, reason, DemoStudio.Instructor.Name);
        }
    }

    private async Task<Person> Account((string Name, string Mail) who, bool teaches)
    {
        var p = new Person
        {
            Name = who.Name,
            UserName = who.Mail,
            Email = who.Mail,
            Teaches = teaches,
            EmailConfirmed = true,
        };
        var made = await people.CreateAsync(p, DemoStudio.Password);
        return made.Succeeded ? p : throw new InvalidOperationException(string.Join(" ", made.Errors.Select(e => e.Description)));
    }

    private async Task<Course> Course(
        SetClock clock,
        Person instructor,
        CourseDetails details,
        IReadOnlyList<string> names,
        LocalDate since
    )
    {
        clock.Now = since.At(new(18, 0)).InZoneLeniently(Zone).ToInstant();
        var actions = new CourseActions(db, people, new(db, clock), clock);
        var course = await actions.Open(instructor, details);
        var csv = Roster.Csv([
            ["name", "mail"],
            .. names.Select(n => new[] { n, DemoStudio.Mail(n) }),
        ]);
        foreach (var invitation in await actions.Invite(course, Roster.Read(csv, await actions.KnownMails(course.Id))))
            await actions.Join(invitation, DemoStudio.Password);
        return course;
    }

    private async Task<List<Meeting>> Meetings(SetClock clock, Course course, LocalDate tonight, Purpose[] purposes, ModelKind model)
    {
        var actions = new SessionActions(db, clock);
        var plans = new PlanActions(db, clock);
        var meetings = new List<Meeting>();
        for (var n = 0; n < purposes.Length; n++)
        {
            var date = tonight.PlusWeeks(n - 4);
            clock.Now = date.PlusDays(-3).At(new(20, 0)).InZoneLeniently(Zone).ToInstant();
            var students = await db.Memberships.CountAsync(m => m.CourseId == course.Id && m.Role == CourseRole.Student);
            var (meeting, cannot) = await plans.Plan(
                course,
                date,
                course.StartsAt,
                new(
                    new()
                    {
                        Minutes = course.Minutes,
                        Approach = course.Approach,
                        Purpose = purposes[n],
                        Level = course.Minors ? Level.Beginner : Level.Intermediate,
                        Students = students,
                        Model = model,
                        Draped = course.Minors || model == ModelKind.Cast,
                        LongPose =
                            model == ModelKind.Cast ? null
                            : n == 3 ? "contrapposto"
                            : n == 2 ? "stand"
                            : null,
                        Seed = 5 + n,
                    }
                )
                {
                    Known = new() { Rung = course.Approach == Approach.LongFirst ? course.Rung : null },
                }
            );
            if (meeting is null)
                throw new InvalidOperationException(cannot[0].Says);
            meetings.Add(meeting);
            if (date >= clock.Now.InZone(Zone).Date && n >= 4)
                continue;
            clock.Now = (date + course.StartsAt).InZoneLeniently(Zone).ToInstant();
            if (clock.Now + Duration.FromHours(6) < real.GetCurrentInstant())
                await actions.Act(meeting, ClockAct.Start);
        }
        return meetings;
    }

    /// <summary>The pose as a pencil reads it: the studio figure's own ratios, rounded as they are read.</summary>
    private async Task Cards(SetClock clock, Meeting meeting, Person reader, string viewId, string? leg)
    {
        var view = StudioViews.Get(viewId);
        var marks = new LandmarkSet(view.Landmarks.Keys.Select(k => KeyValuePair.Create(k, view.At(k)!.Value)));
        var m = new FigureMeasures(marks, leg);
        double Ratio(Measure measure) => Math.Round(measure.Value(marks), 2);
        double Hour(string part) =>
            Math.Round(ClockAngle.Hour(m.Direction(part).Value(marks)) is var h && (h < 0.2 || h > 11.9) ? 12 : h, 1);
        var card = new PoseCard
        {
            Heads = Ratio(m.Heads()),
            Shoulders = Ratio(m.Shoulders()),
            PitToPubic = Ratio(m.PitTo(Parts.PitToPubic)),
            PitToKneetop = Ratio(m.PitTo(Parts.PitToKneetop)),
            PitToSole = Ratio(m.PitTo(Parts.PitToSole)),
            DirectionsHours = new(Hour(Parts.Shoulders), Hour(Parts.Pelvis), Hour(Parts.Action)),
            Plumbs = [new("pit", "ankleout.R", Ratio(FigureMeasures.Plumb("pit", "ankleout.R")))],
        };
        clock.Now = (meeting.Date + meeting.StartsAt).InZoneLeniently(Zone).ToInstant() + Duration.FromMinutes(85);
        await new SessionActions(db, clock).SaveCard(meeting, meeting.Plan.CardPoses[0].Pose, reader, card);
    }

    private async Task Drills(SetClock clock, Course course, List<Membership> students, Instant now)
    {
        var practice = new PracticeActions(db, clock);
        var own = students.Where(s => s.CourseId == course.Id).ToList();
        for (var week = 4; week >= 0; week--)
        {
            clock.Now = now.InZone(Zone).Date.PlusDays(-(7 * week) - 6).At(new(19, 0)).InZoneLeniently(Zone).ToInstant();
            await practice.Assign(
                course,
                [.. own.Select(s => s.PersonId)],
                null,
                "clock-hand",
                2,
                clock.Now + Duration.FromDays(week == 0 ? 10 : 6),
                "before the next meeting"
            );
            for (var n = 0; n < own.Count; n++)
            {
                // The last two are away for weeks; most of this week's rounds are still to come.
                if (n >= own.Count - 2 || (week == 0 && n % 5 != 0))
                    continue;
                clock.Now = now - Duration.FromDays((7 * week) + 4) + Duration.FromMinutes(n * 11);
                var random = new SeededRandom((course.Id * 1000) + (n * 50) + week);
                // What is loaded already need not be compared again at every save.
                db.ChangeTracker.Clear();
                var round = await practice.Begin(course, own[n].PersonId, "clock-hand", null, random.Next(1_000_000));
                var (bias, scatter) = ((n % 3 - 1) * (2.0 + week), 4 + (n % 4) + (1.4 * week));
                while (round.State.Replay().Next is { } item)
                    await practice.Answer(
                        round,
                        round.State.Answers.Count,
                        ClockAngle.Fold(item.Truth.Value + bias + random.Normal(scatter))
                    );
            }
        }
    }

    private async Task Sheet(SetClock clock, Course course, Meeting meeting, Membership student, DemoStudio.DemoSheet d, Instant now)
    {
        var intake = new IntakeActions(db, new(db), clock);
        var sheets = new SheetActions(db, clock, Fits(clock), student.Person.Name);
        clock.Now =
            (meeting.Date + meeting.StartsAt).InZoneLeniently(Zone).ToInstant()
            + Duration.FromHours(3)
            + Duration.FromMinutes(student.Seat ?? 0);
        if (clock.Now > now)
            clock.Now = now - Duration.FromHours(5);
        var sheet = await HandIn(intake, sheets, course, meeting, student, d, d.Faults, null);
        if (d.Until == "waiting")
            return;
        clock.Now = clock.Now + Duration.FromDays(2) < now ? clock.Now + Duration.FromDays(2) : now - Duration.FromHours(1);
        foreach (var fault in d.Named)
            await sheets.AddFault(course, sheet, fault, Spot(sheet, fault));
        if (d.Until == "drafted")
            return;
        await sheets.Release(sheet, course, student.Person, new PracticeActions(db, clock));
        await Evidence(clock, course, sheet);
        if (d.Until == "released")
            return;
        clock.Now += Duration.FromHours(20);
        await sheets.Reply(sheet, d.Answer);
        if (d.Until != "redone")
            return;
        clock.Now += Duration.FromDays(1);
        await HandIn(intake, sheets, course, meeting, student, d, [new("head large", 0.02), new("shoulders level", 0.15)], sheet.Id);
    }

    /// <summary>The student's own readings of the pose: near the instructor's, each off by a little.</summary>
    private async Task Readings(SetClock clock, Meeting meeting, Person student, double percent, long seed)
    {
        var pose = meeting.Plan.CardPoses[0].Pose;
        var letter = pose.ToString();
        var card = await db.PoseReadings.Where(r => r.MeetingId == meeting.Id && r.Pose == letter).Select(r => r.Card).FirstAsync();
        var random = new SeededRandom(seed);
        double? Off(double? v) => v is { } x ? Math.Round(x * (1 + (random.Between(-percent, percent) / 100)), 2) : null;
        await new SessionActions(db, clock).SaveCard(
            meeting,
            pose,
            student,
            card with
            {
                Heads = Off(card.Heads),
                Shoulders = Off(card.Shoulders),
                PitToPubic = Off(card.PitToPubic),
                PitToKneetop = Off(card.PitToKneetop),
                PitToSole = Off(card.PitToSole),
                DirectionsHours = null,
                Plumbs = null,
            }
        );
    }

    private async Task<Sheet> HandIn(
        IntakeActions intake,
        SheetActions sheets,
        Course course,
        Meeting meeting,
        Membership student,
        DemoStudio.DemoSheet d,
        NamedFault[] faults,
        int? redoOf
    )
    {
        db.ChangeTracker.Clear();
        var seed = (student.PersonId * 31) + (redoOf ?? 0);
        // The course under 18 draws the clothed figure, as its model sits.
        var drawn = drawer.Figure(
            course.Minors ? "female" : "male",
            d.Pose == "standing" ? "stand" : d.Pose,
            Drapery.For(course.Minors, course.Minors),
            new(0, 4.4, 1.2),
            PaperSize.Find(course.Paper)!,
            d.Height,
            faults,
            new(),
            seed
        );
        var sheet = await intake.Submit(
            course,
            student,
            new(d.Question, d.Review, "sitting", d.Pose, d.Pose == "contrapposto" ? "R" : null, "front", course.Paper, meeting.Id, redoOf),
            () => Task.FromResult(drawn.Jpeg)
        );
        await intake.SetCorners(sheet, [.. sheet.Corners]);
        if (d.Until == "waiting" && d.Answers < DemoStudio.ByHand)
            await Answer(Fits(new SetClock(sheet.SubmittedAt)), sheets, course, sheet, drawn, d.Answers);
        else
        {
            await Lay(sheets, course, sheet, drawn, seed, LandmarkIds.BenchOrder);
            if (redoOf is not null || d.Until is "waiting" or "drafted")
                await Fits(new SetClock(sheet.SubmittedAt)).Technique(sheet, course);
        }
        await sheets.HandIn(sheet);
        return sheet;
    }

    /// <summary>Marks from the ink; the student places what is asked for, as often as they care to. Where the ink can't tell, they place nothing.</summary>
    private static async Task Answer(
        FitActions fits,
        SheetActions sheets,
        Course course,
        Sheet sheet,
        SimulatedSheets.Drawn drawn,
        int answers
    )
    {
        await fits.Fit(sheet, course);
        for (var n = 0; n < answers && SheetMarks.Wanted(sheet, []) is { } ask && drawn.Drawing.Landmarks.TryGetValue(ask, out var at); n++)
            await sheets.Place(sheet, course, ask, at);
    }

    /// <summary>Landmarks placed by hand, each off by as little as a careful hand is; nothing waits for the ink.</summary>
    private static async Task Lay(
        SheetActions sheets,
        Course course,
        Sheet sheet,
        SimulatedSheets.Drawn drawn,
        long seed,
        IEnumerable<string> ids
    )
    {
        var random = new SeededRandom(seed);
        var at = drawn.Drawing.Landmarks;
        var placed = ids.Where(at.ContainsKey).ToDictionary(id => id, id => at[id] + new Vec2(random.Normal(0.2), random.Normal(0.2)));
        await sheets.Place(sheet, course, placed);
        sheet.FitSince = null;
    }

    private async Task Held(SheetActions sheets, Course course, Sheet sheet, ReferenceChoice view)
    {
        await sheets.Hold(sheet, course, view);
        sheet.FitSince = null;
        await db.SaveChangesAsync();
    }

    /// <summary>Sheets of the weeks before, each through the same intake as any; drawn beside one another, as drawing takes the longest.</summary>
    private async Task Histories(
        SetClock clock,
        Course course,
        List<Meeting> meetings,
        List<Membership> students,
        IReadOnlyList<DemoHistories.Past> pasts,
        Instant now
    )
    {
        Seat Side(DemoHistories.Past p) => new(p.Azimuth, 3.4, 1.3);
        var drawing = pasts
            .Select(
                (p, n) =>
                    Task.Run(() =>
                        drawer.Figure(
                            p.Body,
                            p.Pose,
                            Drapery.For(course.Minors, course.Minors),
                            Side(p),
                            PaperSize.Find(course.Paper)!,
                            p.Height,
                            p.Faults,
                            new(p.Care, p.Tool),
                            (course.Id * 1000) + n,
                            n % 2 == 0 ? "R" : "L",
                            900,
                            p.Mistake is { } id ? BodyChecks.Find(id) : null
                        )
                    )
            )
            .ToList();
        foreach (var (p, n) in pasts.Select((p, n) => (p, n)))
        {
            db.ChangeTracker.Clear();
            var sheets = new SheetActions(db, clock, Fits(clock), DemoStudio.Instructor.Name);
            var meeting = meetings[p.Week - 1];
            var student = students.Single(m => m.CourseId == course.Id && m.Person.Name == p.Student);
            var drawn = await drawing[n];
            clock.Now =
                (meeting.Date + meeting.StartsAt).InZoneLeniently(Zone).ToInstant()
                + Duration.FromHours(4)
                + Duration.FromMinutes(student.Seat ?? 0);
            var pose = FigureCatalogue.Pose(p.Pose);
            var (word, view) = (PoseWords.Judged(pose), PoseWords.View(p.Azimuth));
            var sheet = await new IntakeActions(db, new(db), clock).Submit(
                course,
                student,
                new(p.Question, p.Review, "sitting", word, pose.Weight, view, course.Paper, meeting.Id, null),
                () => Task.FromResult(drawn.Jpeg)
            );
            await Lay(sheets, course, sheet, drawn, (course.Id * 1000) + n, drawn.Placeable(LandmarkIds.BenchOrder));
            await sheets.HandIn(sheet);
            if (Math.Abs(p.Azimuth) >= 12 || word == "other")
                await Held(sheets, course, sheet, new(p.Pose, p.Body, false, p.Azimuth, 3.4, 1.3));
            if (p.Until is "waiting" or "drafted")
                await Fits(clock).Technique(sheet, course);
            await db.SaveChangesAsync();
            if (p.Until == "waiting")
                continue;
            clock.Now += Duration.FromDays(2);
            foreach (var fault in p.Named)
                await sheets.AddFault(course, sheet, fault, Spot(sheet, fault));
            if (p.Mistake is { } mistake)
                await Mistaken(
                    sheets,
                    course,
                    sheet,
                    drawer.Model(p.Body, p.Pose, Drapery.For(course.Minors, course.Minors)),
                    Side(p),
                    mistake
                );
            if (p.Until == "drafted")
                continue;
            var practice = new PracticeActions(db, clock);
            await sheets.Release(sheet, course, student.Person, practice);
            await Evidence(clock, course, sheet);
            if (p.Until == "answered")
            {
                clock.Now += Duration.FromHours(20);
                await sheets.Reply(sheet, p.Answer);
            }
            // What last week's critique asks for is still to come; those who are away do nothing.
            if (p.Week < 4 && !DemoHistories.Away.Contains(p.Student))
                await Prescribed(clock, practice, course, sheet, n);
        }
    }

    /// <summary>The same pose seven times from the same seat, at home: the head shrinks to its size, the legs stay short.</summary>
    private async Task Series(SetClock clock, Course course, Membership student, Instant now)
    {
        const int attempts = 7;
        const double azimuth = 20;
        var paper = PaperSize.Find(course.Paper)!;
        var drawing = Enumerable
            .Range(0, attempts)
            .Select(n =>
                Task.Run(() =>
                    drawer.Figure(
                        "male",
                        "stand",
                        Drapery.For(course.Minors, course.Minors),
                        new(azimuth, 3.4, 1.3),
                        paper,
                        250 + (6 * n),
                        [new("head large", 0.22 - (0.035 * n)), new("legs short", 0.13)],
                        new(0.3, Tool.Pencil),
                        (course.Id * 5000) + n,
                        "R",
                        800
                    )
                )
            )
            .ToList();
        for (var n = 0; n < attempts; n++)
        {
            db.ChangeTracker.Clear();
            var drawn = await drawing[n];
            clock.Now = now - Duration.FromDays(4 * (attempts - n));
            var sheet = await new IntakeActions(db, new(db), clock).Submit(
                course,
                student,
                new(
                    n == 0 ? "The same figure again: does it get nearer?" : $"Attempt {n + 1}: is the head smaller?",
                    "I looked longer before the first mark.",
                    "same-again",
                    "standing",
                    null,
                    PoseWords.View(azimuth),
                    course.Paper,
                    null,
                    null
                ),
                () => Task.FromResult(drawn.Jpeg)
            );
            var sheets = new SheetActions(db, clock, Fits(clock), DemoStudio.Instructor.Name);
            await Lay(sheets, course, sheet, drawn, (course.Id * 5000) + n, drawn.Placeable(LandmarkIds.BenchOrder));
            await sheets.HandIn(sheet);
            await Held(sheets, course, sheet, new("stand", "male", false, azimuth, 3.4, 1.3));
            clock.Now += Duration.FromDays(1);
            await sheets.AddFault(course, sheet, "legs-short", Spot(sheet, "legs-short"));
            await sheets.Release(sheet, course, student.Person, new PracticeActions(db, clock));
            await Evidence(clock, course, sheet);
        }
    }

    /// <summary>What a released critique says of its student's measures.</summary>
    private async Task Evidence(IClock clock, Course course, Sheet sheet) =>
        await new StageActions(db, clock).Drawing(sheet, (await new SheetContexts(db, new NoReferenceViews()).Of(sheet, course)).Findings);

    /// <summary>The drills that a critique prescribed, done two days later, each with the lean and scatter of a hand that still learns.</summary>
    private async Task Prescribed(SetClock clock, PracticeActions practice, Course course, Sheet sheet, int seed)
    {
        clock.Now += Duration.FromDays(2);
        foreach (
            var given in await db
                .Assignments.Where(a =>
                    a.CourseId == course.Id
                    && a.StudentId == sheet.StudentId
                    && a.SheetId == sheet.Id
                    && a.Drill != null
                    && a.DoneAt == null
                )
                .ToListAsync()
        )
        {
            var random = new SeededRandom((course.Id * 7000) + seed);
            var round = await practice.Begin(course, sheet.StudentId, given.Drill!, given.Id, random.Next(1_000_000));
            var drill = Core.Practice.Drills.Get(round.Kind);
            while (round.State.Replay().Next is { } item)
            {
                if (drill is HandDrill byHand)
                {
                    var pen = new SimulatedPen(0.8, random.Next(1_000_000));
                    await practice.Draw(round, round.State.Answers.Count, pen.Draw(byHand, item).Write());
                    continue;
                }
                await practice.Answer(round, round.State.Answers.Count, DemoPractice.Said(drill, item, random, 1));
            }
        }
    }

    /// <summary>Where on the sheet a fault is pointed at.</summary>
    /// <summary>A check of anatomy is off, where it lies on the drawing.</summary>
    private static Task Mistaken(SheetActions sheets, Course course, Sheet sheet, FigureModel model, Seat seat, string id)
    {
        const int width = 480,
            height = 720;
        var seen = StudioFigure.View(model, seat, FigureViewKind.Mass, width, height).Landmarks;
        var marks = sheet.Landmarks.Where(l => seen.ContainsKey(l.Key)).Select(l => (seen[l.Key].At, l.Value)).ToList();
        var check = BodyChecks.In(model, seat, width, height).Single(c => c.Check.Id == id);
        Vec2? at = Similarity.Fit(marks) is { } laid ? DrawnPlace.Of(new(check.At.X, check.At.Y), laid, marks) : null;
        return sheets.AddCheck(course, sheet, new(check.Check, check.Side), at);
    }

    private static Vec2? Spot(Sheet sheet, string fault) =>
        SheetContext.Place(
            sheet,
            Rules.Find(Faults.Find(fault)?.Rule) == Rules.Heads
                ? Rules.Heads.Place
                : fault switch
                {
                    "leaning" or "legs-short" or "squeezed-end" or "feet-small" => Rules.Balance.Place,
                    "hands-small" or Faults.KnownLength => Rules.Hand.Place,
                    _ => Rules.Tilt.Place,
                }
        );

    /// <summary>A head constructed at home, its landmarks placed by the student.</summary>
    private async Task Head(
        SetClock clock,
        Course course,
        Membership student,
        NamedFault[] faults,
        string question,
        string review,
        bool byHand,
        Project portrait,
        Instant now
    )
    {
        db.ChangeTracker.Clear();
        clock.Now = now - Duration.FromHours(20 + (student.Seat ?? 0));
        var drawn = drawer.Head("classical", new(0), PaperSize.Find("A3")!, 285, faults, new(0.6, Tool.Pencil), student.PersonId);
        var sheet = await new IntakeActions(db, new(db), clock).Submit(
            course,
            student,
            new(question, review, "head-construction", "standing", null, "front", "A3", null, null, "head")
            {
                To = new(portrait.Works.Single(w => w.StudentId == student.PersonId).Id, "restate"),
            },
            () => Task.FromResult(drawn.Jpeg)
        );
        var sheets = new SheetActions(db, clock, Fits(clock), student.Person.Name);
        // One looks at every mark, the other at those that matter most.
        if (byHand)
        {
            await Lay(sheets, course, sheet, drawn, student.PersonId, LandmarkIds.HeadOrder);
            await Fits(clock).Technique(sheet, course);
        }
        else
            await Answer(Fits(clock), sheets, course, sheet, drawn, 2);
        await sheets.HandIn(sheet);
    }

    /// <summary>An evening's sheets in one upload: one is asked about, the rest stay beside it.</summary>
    private async Task Set(SetClock clock, Course course, Meeting meeting, Membership student, Instant now)
    {
        db.ChangeTracker.Clear();
        clock.Now = now - Duration.FromHours(9);
        var id = new Guid(0x5a17, 0x4a25, 0x48, 1, 2, 3, 4, 5, 6, 7, 8);
        Sheet? asked = null;
        foreach (var (height, n) in new[] { 260.0, 420, 500 }.Select((h, n) => (h, n)))
        {
            // The first page holds two small ones: which is meant nobody can tell for its student.
            var two =
                n > 0
                    ? null
                    : drawer.Two(
                        "male",
                        "contrapposto",
                        Drapery.For(course.Minors, course.Minors),
                        new(0, 4.4, 1.2),
                        PaperSize.Find(course.Paper)!,
                        height,
                        new(0.2),
                        77,
                        1000
                    );
            var drawn = drawer.Figure(
                "male",
                "contrapposto",
                Drapery.For(course.Minors, course.Minors),
                new(0, 4.4, 1.2),
                PaperSize.Find(course.Paper)!,
                height,
                [new("head large", 0.05), new("figure leaning", 2 + n)],
                new(0.2 + (0.2 * n)),
                77 + n,
                width: 1000
            );
            asked = await new IntakeActions(db, new(db), clock).Submit(
                course,
                student,
                new(
                    "Which of these stands best?",
                    "The first is small, the last leans.",
                    "gesture",
                    "contrapposto",
                    "R",
                    "front",
                    course.Paper,
                    meeting.Id,
                    null
                ),
                () => Task.FromResult(two ?? drawn.Jpeg),
                new(id, n + 1)
            );
        }
        foreach (var sheet in await db.Sheets.Where(s => s.SetId == id).OrderBy(s => s.SetAt).ToListAsync())
            await Fits(clock).Fit(sheet, course);
        await new SheetActions(db, clock, Fits(clock), student.Person.Name).HandIn(asked!);
    }
}
