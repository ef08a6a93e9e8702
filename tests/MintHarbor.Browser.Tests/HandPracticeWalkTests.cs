using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Practice;
using MintHarbor.Web.Tests;
using OpenQA.Selenium;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>Practice by hand under a real finger and a real pen, as far as a browser's own input can stand in for them: drills, the clock with the line down,
/// the line of the day, stages moved by evidence.</summary>
public sealed class HandPracticeWalkTests
{
    private static async Task With(
        string name,
        string who,
        Func<HarborApp, Browser, Line, Task> walk,
        int width = 390,
        int height = 844,
        NodaTime.IClock? clock = null
    )
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true, clock);
        await using var closing = app;
        using var line = new Line(new Uri(address).Port);
        using var b = new Browser(name, line.Address, width, height);
        try
        {
            b.Go("/sign-in").Click("button", who);
            b.At("/today");
            await walk(app, b, line);
            b.NoErrors();
        }
        catch
        {
            b.Save(name);
            throw;
        }
    }

    private sealed record Box(double Left, double Top, double Width, double Height);

    private static Box Field(Browser b)
    {
        b.Until(() => b.Js<bool>("return document.querySelector('[data-hand]')?.dataset.ready === 'yes'"), "the field");
        var r = b.Js<System.Collections.ObjectModel.ReadOnlyCollection<object>>(
            "const f = document.querySelector('.hand-field'); f.scrollIntoView({block: 'nearest'}); const r = f.getBoundingClientRect(); return [r.left, r.top, r.width, r.height].map(String)"
        );
        double At(int n) => double.Parse((string)r[n], System.Globalization.CultureInfo.InvariantCulture);
        return new(At(0), At(1), At(2), At(3));
    }

    private static void Cdp(Browser b, string command, Dictionary<string, object?> with) => b.Driver.ExecuteCdpCommand(command, with);

    /// <summary>One stroke of a finger through places given as shares of the field.</summary>
    private static void Finger(Browser b, Box f, IReadOnlyList<(double X, double Y)> places)
    {
        void Touch(string type, params (double X, double Y)[] at) =>
            Cdp(
                b,
                "Input.dispatchTouchEvent",
                new()
                {
                    ["type"] = type,
                    ["touchPoints"] = at.Select(p => new Dictionary<string, object>
                        {
                            ["x"] = f.Left + (p.X * f.Width),
                            ["y"] = f.Top + (p.Y * f.Height),
                        })
                        .ToArray(),
                }
            );
        Touch("touchStart", places[0]);
        foreach (var p in places.Skip(1))
            Touch("touchMove", p);
        Touch("touchEnd");
    }

    /// <summary>One stroke of a pen, whose pressure and tilt the device tells.</summary>
    private static void Pen(Browser b, Box f, IReadOnlyList<(double X, double Y, double Force)> places)
    {
        void Event(string type, (double X, double Y, double Force) p) =>
            Cdp(
                b,
                "Input.dispatchMouseEvent",
                new()
                {
                    ["type"] = type,
                    ["x"] = f.Left + (p.X * f.Width),
                    ["y"] = f.Top + (p.Y * f.Height),
                    ["button"] = "left",
                    ["buttons"] = type == "mouseReleased" ? 0 : 1,
                    ["clickCount"] = 1,
                    ["pointerType"] = "pen",
                    ["force"] = p.Force,
                    ["tiltX"] = 30,
                    ["tiltY"] = 0,
                }
            );
        Event("mousePressed", places[0]);
        foreach (var p in places.Skip(1))
            Event("mouseMoved", p);
        Event("mouseReleased", places[^1]);
    }

    private static void Start(Browser b, string kind)
    {
        b.Go("/courses/1/practice");
        b.Click($"form:has(input[value='{kind}']) button");
        b.At("/practice/drill/");
    }

    private static IReadOnlyList<(double, double)> Round(int n) =>
        [
            .. Enumerable
                .Range(0, n + 1)
                .Select(i => Math.SinCos(2 * Math.PI * i / n))
                .Select(t => (0.5 + (0.3 * t.Sin), 0.5 - (0.4 * t.Cos))),
        ];

    private static async Task<PenTrace> Last(HarborApp app) =>
        PenTrace.Read(
            await app.Read(db =>
                db.DrawnAnswers.OrderByDescending(a => a.RoundId).ThenByDescending(a => a.Number).Select(a => a.Trace).FirstAsync()
            )
        );

    [Fact]
    public Task A_blind_contour_is_drawn_by_a_finger_and_shown_at_its_end() => With("blind-finger", "Bram Sedge", async (app, b, _) =>
        {
            Cdp(b, "Emulation.setTouchEmulationEnabled", new() { ["enabled"] = true });
            Start(b, "blind-free");
            var field = Field(b);
            Finger(b, field, Round(48));
            // What is drawn is hidden but for a glance, and the page has not moved under the finger.
            Assert.Equal("hidden", b.Js<string>("return document.querySelector('.hand-ink').getAttribute('visibility')"));
            Assert.Equal(field, Field(b));
            b.Driver.ExecuteScript("document.querySelector('[data-glance]').focus()");
            var glance = b.See("[data-glance]");
            new OpenQA.Selenium.Interactions.Actions(b.Driver).ClickAndHold(glance).Perform();
            Assert.Equal("visible", b.Js<string>("return document.querySelector('.hand-ink').getAttribute('visibility')"));
            new OpenQA.Selenium.Interactions.Actions(b.Driver).Release(glance).Perform();
            Assert.Equal("hidden", b.Js<string>("return document.querySelector('.hand-ink').getAttribute('visibility')"));
            // Reloading loses nothing.
            b.Driver.Navigate().Refresh();
            Field(b);
            b.Until(() => b.See("[data-say]").Enabled, "the drawing back");
            b.Click("[data-say]");
            b.At("shown=0");
            b.Text("Pace", ".notes");
            b.Text("Glances: 1.", ".notes");
            var trace = await Last(app);
            Assert.Equal((PenTool.Finger, 1, 1), (trace.Tool, trace.Strokes.Count, trace.Glances));
            Assert.True(trace.Strokes[0].Count > 20);
        });

    [Fact]
    public Task A_pens_pressure_and_tilt_are_read_and_a_fingers_absence_said() => With("pressure", "Bram Sedge", async (app, b, _) =>
        {
            b.Expected.Add("400 (Bad Request)");
            Cdp(b, "Emulation.setTouchEmulationEnabled", new() { ["enabled"] = true });
            Start(b, "pressure-stroke");
            Finger(b, Field(b), [.. Enumerable.Range(0, 40).Select(i => (0.06 + (0.88 * i / 39.0), 0.5))]);
            b.Click("[data-say]");
            b.Text("tells no pressure");
            // What was drawn stands there still; it is taken away and drawn with the pen.
            Field(b);
            b.Click("[data-undo]");
            Pen(b, Field(b), [.. Enumerable.Range(0, 60).Select(i => (0.06 + (0.88 * i / 59.0), 0.5, 0.1 + (0.8 * i / 59)))]);
            b.Click("[data-say]");
            b.At("shown=0");
            b.Text("Pen's tilt: 30°.", ".notes");
            var trace = await Last(app);
            Assert.Equal(PenTool.Pen, trace.Tool);
            Assert.True(trace.TellsPressure);
            Assert.Equal(0.9, trace.Strokes[0][^1].Pressure, 0.05);
        });

    [Fact]
    public Task A_drill_of_the_hand_is_answered_by_keys_alone() =>
        With(
            "hand-keys",
            "Bram Sedge",
            async (app, b, _) =>
            {
                Start(b, "halve-and-third");
                Field(b);
                // From the middle a tick of two places, straight down; wherever the line lies, something is read or said.
                b.Keys(" " + Keys.ArrowDown + Keys.ArrowDown + " ");
                b.Until(() => b.See("[data-say]").Enabled, "the tick");
                b.Keys("z");
                b.Until(() => !b.See("[data-say]").Enabled, "nothing drawn");
                b.Keys(" " + Keys.ArrowRight + " ");
                b.Keys(Keys.Enter);
                b.At("shown=0");
                b.See("[role=status]");
                b.Keys(Keys.Enter);
                b.Text("second of ten");
                Assert.Equal(PenTool.Keys, (await Last(app)).Tool);
            },
            1280,
            800
        );

    [Fact]
    public Task The_clock_runs_with_the_line_down_and_is_sent_once() => With("clock-line", "Bram Sedge", async (app, b, line) =>
        {
            b.Expected.AddRange(["net::ERR", "Failed to load resource"]);
            b.Go("/courses/1/practice/home?list=2+×+1&subject=Mirror&exercise=gesture&seed=5");
            b.Until(() => b.Js<bool>("return document.querySelector('[data-home]')?.dataset.ready === 'yes'"), "the clock");
            b.Type("[data-plan]", "fills the page");
            b.Click("[data-pause]");
            b.Text("Pause", "[data-pause]");
            line.Cut();
            b.Click("[data-next]");
            b.Text("2 of 2", "[data-where]");
            b.Type("[data-taught]", "The tilt first.");
            b.Click("[data-pause]");
            b.Text("The tilt first.", "[data-carried-line]");
            b.Click("[data-next]");
            b.Text("That was the set", "[data-name]");
            b.Type("[data-taught]", "Smaller, and slower.");
            b.Click("[data-pause]");
            b.Text("kept here; sent when the line is back", "[data-sent]");
            Assert.Empty(await app.Read(db => db.PracticeSittings.Where(s => s.Student.Name == "Bram Sedge").ToListAsync()));
            line.Mend();
            b.Text("on record", "[data-sent]");
            var kept = Assert.Single(
                await app.Read(db => db.PracticeSittings.AsNoTracking().Where(s => s.Student.Name == "Bram Sedge").ToListAsync())
            );
            Assert.Equal(["The tilt first.", "Smaller, and slower."], kept.Log.Drawings.Select(d => d.Taught));
            Assert.Equal(("fills the page", SittingSubject.Mirror), (kept.Log.Drawings[0].Plan, kept.Log.Subject));
            b.Go("/courses/1/practice");
            b.Text("last: Smaller, and slower.");
            Assert.Equal(1, await app.Read(db => db.PracticeSittings.CountAsync(s => s.Student.Name == "Bram Sedge")));
        });

    [Fact]
    public Task The_daily_line_is_drawn_blind_and_counts_its_day()
    {
        var clock = new SetClock(NodaTime.SystemClock.Instance.GetCurrentInstant());
        return With(
            "daily",
            "Maren Holt",
            async (app, b, _) =>
            {
                // The day after the last of the demo's, also where midnight passes between the two.
                var last = await app.Read(db => db.DailyLines.Where(l => l.Student.Name == "Maren Holt").MaxAsync(l => l.Day));
                clock.At = last.PlusDays(1).At(new(10, 0)).InUtc().ToInstant();
                Cdp(b, "Emulation.setTouchEmulationEnabled", new() { ["enabled"] = true });
                b.Go("/courses/1/practice");
                b.Text("23 days, one missed between");
                b.Click("a", "Draw it");
                b.Type("#of", "the kettle");
                Finger(b, Field(b), Round(30));
                b.Click("[data-say]");
                b.Text("24 days, one missed between");
                b.Text("the kettle");
                b.Click("a", "Once more, over it");
                b.At("again=true");
                Finger(b, Field(b), Round(22));
                b.Click("[data-say]");
                b.See(".hand-second");
                var today = await app.Read(db =>
                    db.DailyLines.AsNoTracking().Where(l => l.Student.Name == "Maren Holt").OrderByDescending(l => l.Day).FirstAsync()
                );
                Assert.True(today is { Trace: not null, Second: not null, Of: "the kettle" });
            },
            clock: clock
        );
    }

    /// <summary>The clocks go forward in the night to 28 March 2027, where the course is held: half past eleven in winter's time, half past one a day
    /// that has 23 hours, and half an hour into the day after, which by winter's time were the same day still.</summary>
    [Fact]
    public Task The_daily_line_goes_on_over_the_change_of_the_clocks()
    {
        var clock = new SetClock(NodaTime.Instant.FromUtc(2027, 3, 27, 22, 30));
        return With(
            "daily-clocks",
            "Maren Holt",
            async (app, b, _) =>
            {
                Assert.Equal("Europe/Berlin", await app.Read(db => db.Courses.Where(c => c.Id == 1).Select(c => c.Zone).SingleAsync()));
                Cdp(b, "Emulation.setTouchEmulationEnabled", new() { ["enabled"] = true });
                foreach (var (hours, says) in new[] { (0, "1 day"), (2, "2 days"), (24, "3 days") })
                {
                    clock.At = NodaTime.Instant.FromUtc(2027, 3, 27, 22, 30) + NodaTime.Duration.FromHours(hours);
                    // A sign-in that lay idle for half a day has ended: each time is one of its own.
                    b.Driver.Manage().Cookies.DeleteAllCookies();
                    b.Go("/sign-in").Click("button", "Maren Holt");
                    b.At("/today");
                    b.Go("/courses/1/practice/daily");
                    Finger(b, Field(b), Round(20));
                    b.Click("[data-say]");
                    b.Text(says, ".head");
                }
                var days = await app.Read(db =>
                    db.DailyLines.Where(l => l.Student.Name == "Maren Holt")
                        .OrderByDescending(l => l.Day)
                        .Select(l => l.Day)
                        .Take(3)
                        .ToListAsync()
                );
                Assert.Equal([new(2027, 3, 29), new(2027, 3, 28), new(2027, 3, 27)], days);
            },
            clock: clock
        );
    }

    [Fact]
    public Task A_prescribed_drill_shows_its_result_beside_the_remark_and_moves_a_stage() =>
        With(
            "prescribed",
            "Bram Sedge",
            async (app, b, _) =>
            {
                var (me, sheet, kind) = await app.Read(async db =>
                {
                    var s = await db.Sheets.AsNoTracking().Where(s => s.Student.Name == "Bram Sedge" && s.ReleasedAt != null).ToListAsync();
                    var own = s.First(x => x.Remarks.Any(r => r.Priority is not null && r.Drill is not null));
                    return (own.StudentId, own.Id, own.Remarks.First(r => r.Priority is not null && r.Drill is not null).Drill!);
                });
                b.Go($"/courses/1/critique/{sheet}").Click("button", "Drill it");
                b.At("/practice/drill/");
                for (var n = 0; n < Drills.Get(kind).Length; n++)
                {
                    b.Until(() => b.Driver.FindElements(By.CssSelector("[data-say]")).Count == 1, "the next item");
                    b.Click("[data-say]");
                    b.Click(".drill-acts a");
                }
                b.Go($"/courses/1/critique/{sheet}");
                b.Text("of 10 right", ".remarks, main");
                var points = await app.Read(db =>
                    db.MeasurePoints.AsNoTracking().Where(p => p.StudentId == me && p.From == EvidenceOf.Drill).ToListAsync()
                );
                Assert.NotEmpty(points);
                b.Go($"/courses/1/students/{me}/stages");
                b.See(".stage-chart .stage-drill");
            },
            1280,
            800
        );
}
