using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Web.Tests;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>An evening from nothing to afterwards, as its instructor does it: composed by keys alone, changed on the strip, seated, run, walked round.</summary>
public sealed class EveningTests
{
    private static async Task With(
        string name,
        Func<HarborApp, Browser, Task> walk,
        int width = 1280,
        int height = 800,
        bool overLine = false
    )
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var own = overLine ? new Line(new Uri(address).Port) : null;
        using var b = new Browser(name, own?.Address ?? address, width, height);
        try
        {
            b.Go("/sign-in").Click("button", "Edda Quill");
            b.At("/courses/1/today");
            Current = own;
            await walk(app, b);
            b.NoErrors();
        }
        catch
        {
            b.Save(name);
            throw;
        }
    }

    private static readonly AsyncLocal<Line?> Here = new();

    private static Line? Current
    {
        get => Here.Value;
        set => Here.Value = value;
    }

    [Fact]
    public Task A_tuesday_for_fourteen_by_keys_alone_to_its_printed_sheet() => With("keys", async (app, b) =>
        {
            // Every press is counted: from Sessions to the sheet.
            var presses = 0;
            void Press(string key)
            {
                presses++;
                b.Keys(key);
            }
            b.Go("/courses/1/sessions");
            b.See("[data-key=p]");
            Press("p");
            b.At("/sessions/plan");
            b.See("#Form_Approach").SendKeys("A");
            presses++;
            Assert.Equal("14", b.See("#Form_Students").GetAttribute("value"));
            b.Js<object>("document.activeElement.blur()");
            Press("w");
            b.Text("Three timetables for");
            Assert.Equal(3, b.Driver.FindElements(By.CssSelector(".proposal .at-desk svg")).Count);
            Press("1");
            b.At(@"/sessions/\d+$");
            var id = int.Parse(b.Path.Split('/')[^1], CultureInfo.InvariantCulture);
            Assert.True(presses <= 5, $"{presses} presses");
            Assert.Equal("opener", (await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == id))).Plan.Shape);
            var pdf = b.Js<string>("return document.querySelector('[data-key=s]').getAttribute('href')");
            var bytes = (long)
                b.Driver.ExecuteAsyncScript(
                    "const done = arguments[1]; fetch(arguments[0]).then(r => r.ok && r.headers.get('content-type') === 'application/pdf' ? r.arrayBuffer() : new ArrayBuffer(0)).then(a => done(a.byteLength))",
                    pdf
                )!;
            Assert.True(bytes > 10_000, $"the sheet has {bytes} bytes");

            // A line is chosen, parted, joined again, made longer and undone.
            var before = await Items(app, id);
            b.Swapped(() => b.Keys(Keys.ArrowDown));
            b.Swapped(() => b.Keys(Keys.ArrowDown));
            b.Swapped(() => b.Keys("p"));
            Assert.Equal(before.Count + 1, (await Items(app, id)).Count);
            b.Swapped(() => b.Keys("j"));
            Assert.Equal(before.Count, (await Items(app, id)).Count);
            b.Swapped(() => b.Keys("-"));
            Assert.NotEqual(before, await Items(app, id));
            b.Go($"/courses/1/sessions/{id}");
            for (var undo = 0; undo < 3; undo++)
                b.Swapped(() => b.Keys("z"));
            Assert.Equal(before, await Items(app, id));
        });

    private static Task<List<string>> Items(HarborApp app, int id) =>
        app.Read(async db =>
            (await db.Meetings.AsNoTracking().SingleAsync(m => m.Id == id))
                .Plan.Items.Select(i => $"{i.At} {i.Minutes} {i.Name} {i.Poses}")
                .ToList()
        );

    [Fact]
    public Task A_line_is_dragged_longer_and_what_breaks_is_said_before_it_is_let_go() => With("drag", async (app, b) =>
        {
            var meeting = await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 6));
            b.Go($"/courses/1/sessions/{meeting.Id}");
            var row = meeting.Plan.Items.ToList().FindIndex(i => i.Exercise == "sitting");
            var edge = b.See($"[data-edge='{row}']");
            var scale = b.Js<double>(
                "const s = document.querySelector('[data-strip] svg'); return Number(s.querySelector('[data-ghost]').dataset.scale) * s.getBoundingClientRect().width / s.viewBox.baseVal.width"
            );
            var hand = new Actions(b.Driver).MoveToElement(edge).ClickAndHold().MoveByOffset(8, 0).MoveByOffset((int)(scale * 15) - 8, 0);
            hand.Perform();
            b.Text("on end", "[data-strip-says]");
            b.Swapped(() => new Actions(b.Driver).Release().Perform());
            b.Text("That can't be kept");
            Assert.Equal(meeting.Version, (await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == meeting.Id))).Version);
            b.See("button[data-key=w]");
            // Shorter holds, and is kept at once.
            b.Go($"/courses/1/sessions/{meeting.Id}");
            new Actions(b.Driver)
                .MoveToElement(b.See($"[data-edge='{row}']"))
                .ClickAndHold()
                .MoveByOffset(-8, 0)
                .MoveByOffset(-(int)(scale * 5) + 8, 0)
                .Perform();
            b.Text("all rules hold", "[data-strip-says]");
            b.Swapped(() => new Actions(b.Driver).Release().Perform());
            var after = (await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == meeting.Id))).Plan.Items;
            Assert.Equal(meeting.Plan.Items[row].Minutes - 5, after[row].Minutes);
            Assert.Equal(150, after.Sum(i => i.Minutes));
        });

    [Fact]
    public Task The_room_is_laid_out_a_place_moved_by_keys_and_the_class_seated() => With("room", async (app, b) =>
        {
            b.Go("/courses/1/sessions/room");
            b.See("[data-room-plan]");
            async Task<Core.Rooms.Spot> Spot(string id) =>
                (await app.Read(db => db.Courses.AsNoTracking().SingleAsync(c => c.Id == 1))).Studio!.Spots.Single(s => s.Id == id);
            var was = await Spot("3");
            b.Js<object>("document.querySelector('[data-spot=\"3\"]').focus()");
            b.Swapped(() => b.Keys(Keys.ArrowLeft));
            b.Until(() => b.Js<string?>("return document.activeElement.dataset.spot") == "3", "the place to keep the focus");
            b.Swapped(() => b.Keys(Keys.ArrowUp));
            Assert.Equal((Math.Round(was.At.X - 0.1, 2), Math.Round(was.At.Y - 0.1, 2)), ((await Spot("3")).At.X, (await Spot("3")).At.Y));
            b.Until(() => b.Js<string?>("return document.activeElement.dataset.spot") == "3", "the place to keep the focus");
            b.Swapped(() => b.Keys(was.Kind == Core.Rooms.SpotKind.Bench ? "e" : "b"));
            Assert.NotEqual(was.Kind, (await Spot("3")).Kind);
            var place = b.See("[data-spot='5']");
            b.Swapped(() =>
                new Actions(b.Driver).MoveToElement(place).ClickAndHold().MoveByOffset(10, 6).MoveByOffset(12, 6).Release().Perform()
            );
            Assert.NotEqual(was.At, (await Spot("5")).At);
            var meeting = await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 6));
            b.Go($"/courses/1/sessions/{meeting.Id}/seat");
            b.Keys("c");
            b.Until(() => b.Driver.FindElements(By.CssSelector(".room-seat.taken")).Count == 14, "fourteen seated");
            Assert.Equal(14, await app.Read(db => db.Seatings.CountAsync(s => s.MeetingId == meeting.Id && s.Spot != null)));
        });

    [Fact]
    public Task A_place_is_kept_let_go_and_the_pose_turned_for_views_had_least() => With("places", async (app, b) =>
        {
            var meeting = await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 6));
            Task<Store.Model.Seating> Maren() =>
                app.Read(async db =>
                    await db
                        .Seatings.AsNoTracking()
                        .SingleAsync(s => s.MeetingId == meeting.Id && s.PersonId == db.Users.Single(u => u.Name == "Maren Holt").Id)
                );
            b.Go($"/courses/1/sessions/{meeting.Id}/seat");
            b.Click("button", "Seat the class");
            b.Until(() => b.Driver.FindElements(By.CssSelector(".room-seat.taken")).Count == 14, "fourteen seated");
            const string own = "li:has(bdi[data-person='Maren Holt'])";
            void Seat(bool keep)
            {
                var box = b.See($"{own} input[name=pinned]");
                if (box.Selected != keep)
                    box.Click();
                b.See($"{own} button").Click();
                b.Until(() => Maren().GetAwaiter().GetResult().Pinned == keep, keep ? "the place to be kept" : "the place to be let go");
                b.Go($"/courses/1/sessions/{meeting.Id}/seat");
            }
            Seat(keep: true);
            var place = (await Maren()).Spot;
            b.Click("button", "turn it and seat them");
            b.Text("from the back", ".margin");
            Assert.Equal((place, true), ((await Maren()).Spot, (await Maren()).Pinned));
            Assert.NotEqual(
                0,
                await app.Read(async db => (await db.Meetings.AsNoTracking().SingleAsync(m => m.Id == meeting.Id)).Plan.Facing)
            );
            Seat(keep: false);
            // The term's line counts what the class will see.
            b.Go("/courses/1/sessions");
            b.Text("back", $"#m{meeting.Id}");
        });

    [Fact]
    public Task Cautions_go_aside_for_the_evening_and_the_rest_of_the_term_moves_along() => With("moved", async (app, b) =>
        {
            var meetings = await app.Read(db =>
                db.Meetings.AsNoTracking().Where(m => m.CourseId == 1 && m.Number >= 6).OrderBy(m => m.Number).ToListAsync()
            );
            b.Go($"/courses/1/sessions/{meetings[0].Id}/run");
            var open = b.Driver.FindElements(By.CssSelector(".caution")).Count;
            Assert.InRange(open, 2, 9);
            b.Click(".caution button", "aside for tonight");
            b.Until(() => b.Driver.FindElements(By.CssSelector(".caution")).Count == open - 1, "one caution fewer");
            // Another evening has them all again.
            b.Go($"/courses/1/sessions/{meetings[1].Id}/run");
            b.Until(() => b.Driver.FindElements(By.CssSelector(".caution")).Count >= open - 1, "the cautions of the next evening");

            b.Go("/courses/1/sessions");
            b.Click("button", "a calendar feed");
            var feed = b.Named("a.quiet", "calendar feed").GetAttribute("href")!;
            string Feed() =>
                (string)
                    b.Driver.ExecuteAsyncScript(
                        "const done = arguments[1]; fetch(arguments[0], {cache: 'no-store'}).then(r => r.text()).then(done)",
                        feed
                    )!;
            string Stamp(NodaTime.LocalDate d) => d.ToString("yyyyMMdd", CultureInfo.InvariantCulture);
            Assert.Contains($"{Stamp(meetings[1].Date)}T190000", Feed());

            b.Go($"/courses/1/sessions/{meetings[1].Id}");
            b.Click("summary", "Keep, move, share");
            b.Set("#date", meetings[1].Date.PlusDays(1).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
            b.Click("label", "and those after it");
            b.Click("button", "Move it");
            b.Text(meetings[1].Date.PlusDays(1).ToString("dddd d MMMM", CultureInfo.InvariantCulture), "h1");
            var after = await app.Read(db =>
                db.Meetings.AsNoTracking()
                    .Where(m => m.CourseId == 1 && m.Number >= 6)
                    .OrderBy(m => m.Number)
                    .Select(m => m.Date)
                    .ToListAsync()
            );
            // The holiday's last day lies a day and two weeks on; nothing else is in the way.
            Assert.Equal(meetings[0].Date, after[0]);
            Assert.All(after.Skip(1).Zip(meetings.Skip(1)), p =>
                Assert.Equal(1, NodaTime.Period.Between(p.Second.Date, p.First, NodaTime.PeriodUnits.Days).Days % 7)
            );
            Assert.Equal(after.OrderBy(d => d), after);
            Assert.Contains($"{Stamp(after[1])}T190000", Feed());
            Assert.DoesNotContain($"{Stamp(meetings[1].Date)}T190000", Feed());

            b.Click("summary", "Keep, move, share");
            b.Click("summary", "Take it out of the term");
            b.Click("button", "Take out meeting 7");
            b.At("/courses/1/sessions");
            Assert.False(await app.Read(db => db.Meetings.AnyAsync(m => m.Id == meetings[1].Id)));
        });

    [Fact]
    public Task With_the_line_down_a_walk_is_kept_reopened_and_sent_once() =>
        With(
            "walk-round",
            async (app, b) =>
            {
                var line = Current!;
                var meeting = await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 5));
                b.Go($"/courses/1/sessions/{meeting.Id}/walk");
                b.Until(() => b.Js<bool>("return !!navigator.serviceWorker.controller"), "the worker to take the page");
                // Seen once more under the worker, so that it has everything.
                b.Go($"/courses/1/sessions/{meeting.Id}/walk");
                b.Text("all sent", "[data-walk-line]");
                b.Expected.AddRange(["ERR_", "Failed to load resource", "Failed to fetch"]);
                line.Cut();
                void Keep(string who, string fault)
                {
                    b.Click(".walk-names label", who);
                    b.Click(".walk-faults label", fault);
                    b.Click("button", "Keep it");
                    b.Text($"Kept: ", "[data-walk-said]");
                }
                Keep("Casper Lowe", "Hairy line");
                b.Text("1 still to be sent", "[data-walk-line]");
                Keep("Dara Quist", "Head large");
                b.Text("2 still to be sent", "[data-walk-line]");
                b.Driver.Navigate().Refresh();
                b.Text("2 still to be sent", "[data-walk-line]");
                Assert.False(await app.Read(db => db.RoomNotes.AnyAsync(n => n.MeetingId == meeting.Id)));
                line.Mend();
                b.Js<object>("window.dispatchEvent(new Event('online'))");
                b.Text("all sent", "[data-walk-line]");
                b.Js<object>("window.dispatchEvent(new Event('online'))");
                var kept = await app.Read(db =>
                    db.RoomNotes.AsNoTracking()
                        .Include(n => n.Student)
                        .Where(n => n.MeetingId == meeting.Id)
                        .OrderBy(n => n.Id)
                        .ToListAsync()
                );
                Assert.Equal(
                    [("Casper Lowe", "hairy-line"), ("Dara Quist", "head-large")],
                    kept.Select(n => (n.Student!.Name, n.FaultId!))
                );
                b.Go($"/courses/1/sessions/{meeting.Id}/class");
                b.Text("Hairy line");
            },
            390,
            844,
            overLine: true
        );

    [Fact]
    public Task Who_is_here_by_touch_and_what_now_by_one_key() => With("class", async (app, b) =>
        {
            // Next week's meeting, begun now: it ends its minutes from now, whatever the hour of the day.
            var meeting = await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 6));
            b.Go($"/courses/1/sessions/{meeting.Id}/class");
            Touch(b, b.Named(".here", "Maren Holt"));
            b.Until(() => b.Driver.FindElements(By.CssSelector(".here[aria-pressed=true]")).Count == 1, "Maren to be here");
            b.Type("#text", "Look at the standing hip first");
            b.Keys(Keys.Enter);
            b.Text("standing hip first", "table");
            b.Go($"/courses/1/sessions/{meeting.Id}/run");
            b.Swapped(() => b.Keys("s"));
            b.Swapped(() => b.Keys("n"));
            b.Keys("u");
            b.Text("the model is unwell");
            Assert.InRange(b.Driver.FindElements(By.CssSelector(".what-now .btn")).Count, 2, 3);
            b.Swapped(() => b.Keys("1"));
            b.Until(
                () =>
                    app.Read(db =>
                            db.ClockActs.Where(a => a.MeetingId == meeting.Id).OrderBy(a => a.Sequence).Select(a => a.Act).ToListAsync()
                        )
                        .GetAwaiter()
                        .GetResult()[^1] == Core.Sessions.ClockAct.Replan,
                "the way to be taken"
            );
            Assert.Contains(await app.Read(db => db.Presences.AsNoTracking().Where(p => p.MeetingId == meeting.Id).ToListAsync()), p =>
                p.Present
            );
        });

    [Fact]
    public Task Afterwards_what_took_longer_is_shown_what_the_eye_saw_is_ticked_and_last_weeks_evening_carried_over() =>
        With("afterwards", async (app, b) =>
        {
            var held = await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 4));
            b.Go($"/courses/1/sessions/{held.Id}/class");
            b.Text("As planned, as it went");
            b.Text("Set-up", "table");
            var student = await app.Read(db => db.Users.Where(u => u.Name == "Nell Orchard").Select(u => u.Id).SingleAsync());
            Task<bool> Ticked() =>
                app.Read(async db =>
                    (await db.Presences.AsNoTracking().SingleAsync(p => p.MeetingId == held.Id && p.PersonId == student)).Ticks.Contains(
                        "stands-back"
                    )
                );
            var before = await Ticked();
            var row = $"li:has(input[name=person][value='{student}'])";
            b.Click($"{row} summary");
            b.Swapped(() => b.See($"{row} button[value='stands-back']").Click());
            Assert.NotEqual(before, await Ticked());

            b.Go("/courses/1/sessions/plan");
            b.Choose("#Form_From", "last");
            b.Click("button", "Work it out");
            b.Text("As laid by hand");
            b.Click("button", "Take it");
            b.At(@"/sessions/\d+$");
            var id = int.Parse(b.Path.Split('/')[^1], CultureInfo.InvariantCulture);
            var last = await app.Read(db =>
                db.Meetings.AsNoTracking().Where(m => m.CourseId == 1 && m.Id != id).OrderByDescending(m => m.Date).FirstAsync()
            );
            var carried = await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == id));
            Assert.Equal(last.Plan.Items.Select(i => (i.At, i.Minutes, i.Name)), carried.Plan.Items.Select(i => (i.At, i.Minutes, i.Name)));
        });

    private static void Touch(Browser b, IWebElement at)
    {
        var r = b.Js<IReadOnlyCollection<object>>(
                "arguments[0].scrollIntoView({block:'center'}); const r = arguments[0].getBoundingClientRect(); return [r.left + r.width / 2, r.top + r.height / 2]",
                at
            )
            .Select(v => Convert.ToDouble(v, CultureInfo.InvariantCulture))
            .ToList();
        var point = new Dictionary<string, object> { ["x"] = r[0], ["y"] = r[1] };
        b.Driver.ExecuteCdpCommand(
            "Input.dispatchTouchEvent",
            new Dictionary<string, object?> { ["type"] = "touchStart", ["touchPoints"] = new[] { point } }
        );
        b.Driver.ExecuteCdpCommand(
            "Input.dispatchTouchEvent",
            new Dictionary<string, object?> { ["type"] = "touchEnd", ["touchPoints"] = Array.Empty<object>() }
        );
    }

    /// <summary>At 8 m from a screen of 32 inches (398 mm high) capitals are at least 6 % of its height; chime and warning go by keys.</summary>
    [Fact]
    public Task The_wall_is_read_from_eight_metres_and_rings_as_it_is_set() => With("wall", async (app, b) =>
        {
            var meeting = await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 5));
            b.Go($"/courses/1/sessions/{meeting.Id}/run");
            b.Swapped(() => b.Keys("s"));
            b.Go("/room/" + meeting.RoomSecret);
            b.Text("Set-up", "[data-name]");
            b.Until(() => b.Js<bool>("return document.fonts.status === 'loaded'"), "the faces");
            foreach (var what in new[] { "[data-name]", "[data-minutes]", "[data-next]" })
            {
                var share = b.Js<double>(
                    "const c = getComputedStyle(document.querySelector(arguments[0])); const x = document.createElement('canvas').getContext('2d'); x.font = `${c.fontWeight} ${c.fontSize} ${c.fontFamily}`; return 100 * x.measureText('H').actualBoundingBoxAscent / innerHeight",
                    what
                );
                Assert.True(share >= 6, $"capitals of {what} are {share:0.0} % of the screen");
            }
            // The longest that stands under the name is read whole.
            foreach (var (width, height) in new[] { (1280, 800), (820, 1180) })
            {
                b.Size(width, height);
                Assert.True(
                    b.Js<bool>(
                        """
                        const w = document.querySelector('[data-what]');
                        w.textContent = 'feet and seat are taped to the floor, turned 135° to its left';
                        return w.scrollWidth <= w.clientWidth + 1 && w.getBoundingClientRect().right <= innerWidth + 1
                        """
                    ),
                    $"the second line is cut at {width} × {height}"
                );
            }
            b.Size(1280, 800);
            b.Keys("c");
            b.Text("chime soft");
            Assert.Equal("1", b.Js<string>("return document.querySelector('[data-clock]').dataset.rang"));
            b.Keys("w");
            b.Text("warning at 1 min");
            b.Keys("d");
            Assert.Equal("light", b.Js<string>("return document.documentElement.dataset.theme"));
            // The next pose with its picture.
            b.Until(
                () =>
                    b.Js<bool>(
                        "const i = document.querySelector('[data-next-picture]'); return !i.hidden && i.complete && i.naturalWidth > 0"
                    ),
                "the next pose's picture"
            );
            // Its bones by a key, and away again.
            bool Bones() =>
                b.Js<bool>(
                    "const i = document.querySelector('[data-bones-picture]'); return !i.hidden && i.complete && i.naturalWidth > 0"
                );
            b.Keys("b");
            b.Until(Bones, "the bones");
            // They stay while the clock goes on.
            b.Js<object>("window.ticks = 0; document.addEventListener('harbor:clock', () => window.ticks++)");
            b.Until(() => b.Js<long>("return window.ticks") >= 3, "three ticks of the clock");
            Assert.True(Bones());
            Assert.Contains("bones=true", b.Js<string>("return document.querySelector('[data-bones-picture]').src"));
            b.Keys("b");
            b.Until(() => !Bones(), "no bones");
            b.Driver.Navigate().Refresh();
            b.Text("chime soft");
        });
}
