using System.Net;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Rooms;
using MintHarbor.Store.Model;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>The room and the evening through the pages: seats, the class, the walk round, the wall, what breaks in.</summary>
public sealed class EveningPageTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Instructor = "edda@saltmarsh.example",
        Assistant = "lorne@saltmarsh.example";

    private HarborApp App => fixture.App;

    private Task<Meeting> Meeting(int number, int course = 1) =>
        App.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == course && m.Number == number));

    private Task<int> Id(string name) => App.Read(db => db.Users.Where(u => u.Name == name).Select(u => u.Id).SingleAsync());

    [Fact]
    public async Task A_class_is_seated_with_needs_kept_and_a_pin_stays()
    {
        var staff = await App.As(Instructor);
        var m = await Meeting(6);
        var path = $"/courses/1/sessions/{m.Id}/seat";
        await staff.PostForm($"{path}/class");
        var room = (await App.Read(db => db.Courses.AsNoTracking().SingleAsync(c => c.Id == 1))).Studio!;
        async Task<Dictionary<string, Seating>> Seats() =>
            await App.Read(db =>
                db.Seatings.AsNoTracking()
                    .Where(s => s.MeetingId == m.Id)
                    .Join(db.Users, s => s.PersonId, u => u.Id, (s, u) => new { s, u.Name })
                    .ToDictionaryAsync(x => x.Name, x => x.s)
            );
        var seats = await Seats();
        Assert.Equal(14, seats.Count);
        Assert.Equal(14, seats.Values.Select(s => s.Spot).Distinct().Count());
        Assert.Equal(SpotKind.Bench, room.Spots.Single(s => s.Id == seats["Odile Marsh"].Spot).Kind);
        var socket = room.Spots.Single(s => s.Id == seats["Hollis Brae"].Spot);
        Assert.Contains(room.Sockets, s => (s - socket.At).Length <= 2);
        var free = room.Spots.Select(s => s.Id).Except(seats.Values.Select(s => s.Spot!)).First();
        await staff.PostForm($"{path}/pin", ("person", $"{await Id("Maren Holt")}"), ("spot", free), ("pinned", "true"));
        await staff.PostForm($"{path}/class");
        Assert.Equal(free, (await Seats())["Maren Holt"].Spot);
        var page = await staff.Text(path);
        Assert.Contains("head ", page);
        Assert.Contains("left-handed", page);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm($"{path}/pin", ("person", $"{await Id("Maren Holt")}"), ("spot", "777"))).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm($"{path}/pin", ("person", $"{await Id("Pim Daly")}"), ("spot", "1"))).StatusCode
        );
    }

    [Fact]
    public async Task The_pose_is_turned_for_views_had_least_and_whoever_sits_sees_another_side()
    {
        var staff = await App.As(Instructor);
        var m = await Meeting(6);
        var path = $"/courses/1/sessions/{m.Id}/seat";
        async Task<Dictionary<int, Seating>> Seats() =>
            await App.Read(db => db.Seatings.AsNoTracking().Where(s => s.MeetingId == m.Id).ToDictionaryAsync(s => s.PersonId));
        await staff.PostForm($"{path}/class");
        var before = await Seats();
        // The demo's term has seen nobody's back.
        var offer = System.Text.RegularExpressions.Regex.Match(await staff.Text(path), "name=\"facing\" value=\"(-?[0-9.]+)\"");
        Assert.True(offer.Success);
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await (await App.As(Assistant)).PostForm($"{path}/turn", ("facing", offer.Groups[1].Value))).StatusCode
        );
        await staff.PostForm($"{path}/turn", ("facing", offer.Groups[1].Value));
        var facing = (await Meeting(6)).Plan.Facing;
        Assert.Equal(double.Parse(offer.Groups[1].Value, System.Globalization.CultureInfo.InvariantCulture), facing);
        Assert.Contains((await Seats()).Values, s => SeatPlanner.View(s.Azimuth) == "back");
        // Undone, the pose faces the front again, and every place sees what it saw then.
        var turned = await Seats();
        await staff.PostForm($"/courses/1/sessions/{m.Id}/undo");
        Assert.Equal(0, (await Meeting(6)).Plan.Facing);
        Assert.All(await Seats(), s => Assert.Equal(0, Math.IEEERemainder(s.Value.Azimuth - turned[s.Key].Azimuth - facing, 360), 6));
        Assert.Equal(
            before
                .Values.Select(s => (s.Spot, Math.Round(s.Azimuth, 6)))
                .Intersect((await Seats()).Values.Select(s => (s.Spot, Math.Round(s.Azimuth, 6))))
                .Count(),
            before.Values.Select(s => s.Spot).Intersect(turned.Values.Select(s => s.Spot)).Count()
        );
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm($"{path}/turn", ("facing", "999"))).StatusCode);
    }

    [Fact]
    public async Task A_pose_that_goes_on_is_drawn_from_where_it_was_drawn_before()
    {
        var staff = await App.As(Instructor);
        Meeting first = await Meeting(8),
            next = await Meeting(9);
        Assert.Equal(first.LongPoseId, next.LongPoseId);
        async Task<Dictionary<int, string?>> Spots(int meeting) =>
            await App.Read(db =>
                db.Seatings.AsNoTracking().Where(s => s.MeetingId == meeting).ToDictionaryAsync(s => s.PersonId, s => s.Spot)
            );
        await staff.PostForm($"/courses/1/sessions/{first.Id}/seat/class");
        await staff.PostForm($"/courses/1/sessions/{next.Id}/seat/class");
        var sat = await Spots(first.Id);
        Assert.Equal(14, sat.Count);
        Assert.Equal(sat.OrderBy(s => s.Key), (await Spots(next.Id)).OrderBy(s => s.Key));
        Assert.Contains($"The pose goes on: <b>{sat.Count}</b> keep the place", await staff.Text($"/courses/1/sessions/{next.Id}/seat"));
        // A place set by hand outweighs it, and whoever sat there makes room.
        var (mover, other) = (sat.Keys.First(), sat.Keys.Last());
        await staff.PostForm($"/courses/1/sessions/{next.Id}/seat/pin", ("person", $"{mover}"), ("spot", sat[other]!), ("pinned", "true"));
        await staff.PostForm($"/courses/1/sessions/{next.Id}/seat/class");
        var now = await Spots(next.Id);
        Assert.Equal(sat[other], now[mover]);
        Assert.Equal(12, now.Count(s => sat[s.Key] == s.Value));
    }

    [Fact]
    public async Task The_strip_of_a_meeting_that_runs_tells_the_hour_it_is()
    {
        var staff = await App.As(Instructor);
        var m = await Meeting(10);
        string First(string page) =>
            System.Text.RegularExpressions.Regex.Match(page, "class=\"strip-time\"[^>]*>(\\d\\d:\\d\\d)<").Groups[1].Value;
        Assert.Equal("19:00", First(await staff.Text($"/courses/1/sessions/{m.Id}/run")));
        // Begun weeks early, at whatever hour this is.
        var zone = NodaTime.DateTimeZoneProviders.Tzdb["Europe/Berlin"];
        string Hour() =>
            NodaTime
                .SystemClock.Instance.GetCurrentInstant()
                .InZone(zone)
                .TimeOfDay.ToString("HH:mm", System.Globalization.CultureInfo.InvariantCulture);
        var before = Hour();
        await staff.PostForm($"/courses/1/sessions/{m.Id}/run/act", ("act", "Start"), ("seen", "0"));
        var page = await staff.Text($"/courses/1/sessions/{m.Id}/run");
        var after = NodaTime
            .SystemClock.Instance.GetCurrentInstant()
            .Plus(NodaTime.Duration.FromSeconds(31))
            .InZone(zone)
            .TimeOfDay.ToString("HH:mm", System.Globalization.CultureInfo.InvariantCulture);
        Assert.Contains(First(page), new[] { before, after });
    }

    [Fact]
    public async Task A_room_is_measured_laid_out_and_refuses_more_than_it_holds()
    {
        var staff = await App.As(Instructor);
        (string, string)[] Room(string most, string depth = "6", string doors = "0 5") =>
            [
                ("Form.Width", "7"),
                ("Form.Depth", depth),
                ("Form.StandX", "3.5"),
                ("Form.StandY", "2"),
                ("Form.StandHeight", "0.4"),
                ("Form.Front", "0"),
                ("Form.Lamp", "2 0.8"),
                ("Form.Doors", doors),
                ("Form.Sockets", "7 3; 0 2"),
                ("Form.Most", most),
            ];
        Assert.Equal(HttpStatusCode.Redirect, (await staff.PostForm("/courses/3/sessions/room", Room("5"))).StatusCode);
        var kept = (await App.Read(db => db.Courses.AsNoTracking().SingleAsync(c => c.Id == 3))).Studio!;
        Assert.Equal((7.0, 2, 5), (kept.Width, kept.Sockets.Count, kept.Most));
        var refused = await staff.PostForm($"/courses/3/sessions/{(await Meeting(5, 3)).Id}/seat/class");
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        Assert.Contains("The nearest that holds is", await refused.Content.ReadAsStringAsync());
        var crowd = await (await staff.PostForm("/courses/3/sessions/room/lay", ("count", "40"))).Content.ReadAsStringAsync();
        Assert.Contains("40 places are not to be had", crowd);
        await staff.PostForm("/courses/3/sessions/room/lay", ("count", "4"));
        await staff.PostForm("/courses/3/sessions/room/place", ("spot", "2"), ("x", "1.25"), ("y", "4.5"), ("stands", "Bench"));
        var spot = (await App.Read(db => db.Courses.AsNoTracking().SingleAsync(c => c.Id == 3))).Studio!.Spots.Single(s => s.Id == "2");
        Assert.Equal((1.25, 4.5, SpotKind.Bench), (spot.At.X, spot.At.Y, spot.Kind));
        foreach (
            var (fields, says) in new[]
            {
                (Room("5", "0.5"), "3 to 60"),
                (Room("5", "6", "over there"), "metres"),
                (Room("5", "6", "0 99"), "door"),
            }
        )
        {
            var bad = await staff.PostForm("/courses/3/sessions/room", fields);
            Assert.Equal(HttpStatusCode.BadRequest, bad.StatusCode);
            Assert.Contains(says, await bad.Content.ReadAsStringAsync());
        }
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm("/courses/3/sessions/room/place", ("spot", "2"), ("x", "50"), ("y", "4"))).StatusCode
        );
    }

    [Fact]
    public async Task A_note_sent_twice_is_kept_once_to_its_minute_and_a_wrong_one_says_why()
    {
        var staff = await App.As(Assistant);
        var m = await Meeting(4);
        var bram = await Id("Bram Sedge");
        var (key, at) = (
            Guid.NewGuid().ToString(),
            (m.Starts("Europe/Berlin") + NodaTime.Duration.FromMinutes(33)).ToUnixTimeMilliseconds()
        );
        (string, string)[] note =
        [
            ("key", key),
            ("student", $"{bram}"),
            ("fault", "leaning"),
            ("place", "whole figure"),
            ("text", "plumb <it>"),
            ("at", $"{at}"),
            ("shared", "true"),
        ];
        var both = await Task.WhenAll(
            staff.PostFile($"/courses/1/sessions/{m.Id}/walk/keep", "photo", BadFiles.Jpeg, "sheet.jpg", note),
            staff.PostForm($"/courses/1/sessions/{m.Id}/walk/keep", note)
        );
        Assert.All(both, a => Assert.Equal(HttpStatusCode.Redirect, a.StatusCode));
        await staff.PostForm($"/courses/1/sessions/{m.Id}/walk/keep", note);
        var kept = await App.Read(db => db.RoomNotes.AsNoTracking().SingleAsync(n => n.Key == Guid.Parse(key)));
        Assert.Equal((33.0, bram, "leaning"), (kept.Minute, kept.StudentId, kept.FaultId));
        Assert.Contains("plumb &lt;it&gt;", await (await App.AsNamed("Bram Sedge")).Text($"/courses/1/students/{bram}"));
        foreach (
            var (fields, says) in new (string, string)[][]
            {
                [("fault", "no-such-fault")],
                [("student", $"{await Id("Pim Daly")}"), ("fault", "leaning")],
                [("text", new string('x', 300))],
                [],
            }.Zip(["unknown fault", "no student of the course", "up to 280", "says nothing"])
        )
        {
            var bad = await staff.PostForm($"/courses/1/sessions/{m.Id}/walk/keep", [.. fields, ("key", Guid.NewGuid().ToString())]);
            Assert.Equal(HttpStatusCode.BadRequest, bad.StatusCode);
            Assert.Contains(says, await bad.Content.ReadAsStringAsync(), StringComparison.OrdinalIgnoreCase);
        }
        var garbled = await staff.PostFile(
            $"/courses/1/sessions/{m.Id}/walk/keep",
            "photo",
            BadFiles.Noise(3000),
            "sheet.jpg",
            ("key", Guid.NewGuid().ToString())
        );
        Assert.Equal(HttpStatusCode.BadRequest, garbled.StatusCode);
    }

    [Fact]
    public async Task The_photograph_of_a_note_is_the_staffs_and_no_students()
    {
        var staff = await App.As(Assistant);
        var m = await Meeting(5);
        var key = Guid.NewGuid();
        await staff.PostFile(
            $"/courses/1/sessions/{m.Id}/walk/keep",
            "photo",
            BadFiles.Jpeg,
            "sheet.jpg",
            ("key", $"{key}"),
            ("student", $"{await Id("Maren Holt")}")
        );
        var id = await App.Read(db => db.RoomNotes.Where(n => n.Key == key).Select(n => n.Id).SingleAsync());
        var path = $"/courses/1/sessions/{m.Id}/walk/picture?n={id}";
        Assert.Equal("image/jpeg", (await staff.GetAsync(path)).Content.Headers.ContentType!.MediaType);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await staff.GetAsync($"/courses/1/sessions/{(await Meeting(6)).Id}/walk/picture?n={id}")).StatusCode
        );
        foreach (var other in new[] { "Bram Sedge", "Maren Holt" })
            Assert.Equal(HttpStatusCode.Forbidden, (await (await App.AsNamed(other)).GetAsync(path)).StatusCode);
    }

    [Fact]
    public async Task Who_is_here_and_what_the_eye_sees_stand_on_the_record()
    {
        var staff = await App.As(Assistant);
        var m = await Meeting(5);
        var dara = await Id("Dara Quist");
        await staff.PostForm($"/courses/1/sessions/{m.Id}/class/tick?on=true", ("person", $"{dara}"), ("tick", "arms-length"));
        var kept = await App.Read(db => db.Presences.AsNoTracking().SingleAsync(p => p.MeetingId == m.Id && p.PersonId == dara));
        Assert.True(kept.Present);
        // What is looked for follows the stages: by tool one measures first, by eye the tool lies aside.
        var page = WebUtility.HtmlDecode(await staff.Text($"/courses/1/sessions/{m.Id}/class"));
        var hers = page[page.IndexOf("Dara Quist", StringComparison.Ordinal)..];
        hers = hers[..hers.IndexOf("</li>", StringComparison.Ordinal)];
        Assert.Contains("by tool: everything", hers);
        Assert.Contains("measures before drawing", hers);
        Assert.DoesNotContain("leaves the tool aside", hers);
        await App.Read(async db =>
        {
            db.StageMoves.Add(
                new()
                {
                    CourseId = 1,
                    StudentId = dara,
                    Measure = "value",
                    To = Core.Practice.MeasuringStage.ByEye,
                    At = NodaTime.SystemClock.Instance.GetCurrentInstant(),
                }
            );
            return await db.SaveChangesAsync();
        });
        page = WebUtility.HtmlDecode(await staff.Text($"/courses/1/sessions/{m.Id}/class"));
        Assert.Contains("; by eye: value", page);
        Assert.Contains("leaves the tool aside", page);
        Assert.Contains("arm's length", WebUtility.HtmlDecode(await staff.Text($"/courses/1/students/{dara}")));
        await staff.PostForm($"/courses/1/sessions/{m.Id}/class/here", ("person", $"{dara}"), ("on", "false"));
        Assert.False(
            await App.Read(db => db.Presences.Where(p => p.MeetingId == m.Id && p.PersonId == dara).Select(p => p.Present).SingleAsync())
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await staff.PostForm($"/courses/1/sessions/{m.Id}/class/tick?on=true", ("person", $"{dara}"), ("tick", "levitates"))
            ).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm($"/courses/1/sessions/{m.Id}/class/here", ("person", "999999"), ("on", "true"))).StatusCode
        );
        // An evening that ran: planned beside taken.
        Assert.Contains("As planned, as it went", await staff.Text($"/courses/1/sessions/{(await Meeting(3)).Id}/class"));
    }

    [Fact]
    public async Task A_sheet_photographed_at_the_wall_is_its_students()
    {
        var staff = await App.As(Instructor);
        var m = await Meeting(5);
        var wick = await Id("Wick Thorne");
        var answer = await staff.PostFile(
            $"/courses/1/sessions/{m.Id}/wall/take",
            "photo",
            BadFiles.Jpeg,
            "w.jpg",
            ("student", $"{wick}"),
            ("key", Guid.NewGuid().ToString())
        );
        Assert.Contains($"{m.Number}-", await answer.Content.ReadAsStringAsync());
        var sheet = await App.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.MeetingId == m.Id && s.StudentId == wick));
        Assert.Equal(SheetState.Placing, sheet.State);
        var owner = await App.AsNamed("Wick Thorne");
        Assert.Contains(sheet.Code, await owner.Text("/courses/1/today"));
        // It waits for the question: nobody's is made up for them, and nothing typed is lost.
        var bench = $"/courses/1/critique/{sheet.Id}/bench";
        Task<Sheet> Now() => App.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.Id == sheet.Id));
        Assert.Contains("question is missing", await (await owner.PostForm($"{bench}/handin")).Content.ReadAsStringAsync());
        Assert.Equal(SheetState.Placing, (await Now()).State);
        var half = await owner.PostForm($"{bench}/ask", ("question", "Does the seat carry him?"), ("review", " "));
        Assert.Equal(HttpStatusCode.BadRequest, half.StatusCode);
        Assert.Contains("Does the seat carry him?</textarea>", await half.Content.ReadAsStringAsync());
        await owner.PostForm($"{bench}/ask", ("question", "Does the seat carry him?"), ("review", "The tilt holds; the feet are guessed."));
        Assert.Equal(
            ("Does the seat carry him?", "The tilt holds; the feet are guessed."),
            ((await Now()).Question, (await Now()).SelfReview)
        );
        Assert.Equal(HttpStatusCode.Forbidden, (await staff.PostForm($"{bench}/ask", ("question", "Mine"), ("review", "mine"))).StatusCode);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await (await App.AsNamed("Maren Holt")).PostForm($"{bench}/ask", ("question", "Mine"), ("review", "mine"))).StatusCode
        );
        await owner.PostForm($"{bench}/handin");
        Assert.Equal(SheetState.Waiting, (await Now()).State);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await owner.PostForm($"{bench}/ask", ("question", "Another?"), ("review", "mine"))).StatusCode
        );
        foreach (var (student, file) in new[] { ($"{await Id("Pim Daly")}", BadFiles.Jpeg), ($"{wick}", BadFiles.Noise(3000)) })
            Assert.Equal(
                HttpStatusCode.BadRequest,
                (await staff.PostFile($"/courses/1/sessions/{m.Id}/wall/take", "photo", file, "w.jpg", ("student", student))).StatusCode
            );
    }

    [Theory]
    [
        InlineData("Unwell", "pause"),
        InlineData("Unwell", "without"),
        InlineData("Fire", "pause"),
        InlineData("Lamp", "without"),
        InlineData("Lamp", "wall")
    ]
    public async Task Whatever_breaks_in_one_key_goes_on(string what, string offer)
    {
        await using var app = new HarborApp(await TestDatabase.Demo());
        var staff = await app.As(Instructor);
        var m = await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(x => x.CourseId == 1 && x.Number == 6));
        var path = $"/courses/1/sessions/{m.Id}/run";
        await staff.PostForm($"{path}/act", ("act", "Start"));
        await staff.PostForm($"{path}/act", ("act", "Next"));
        var page = await staff.Text($"{path}?what={what}");
        Assert.Contains("What now:", page);
        Assert.Contains("Take it", page);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await staff.PostForm($"{path}/replan", ("offer", offer), ("what", what), ("seen", "2"))).StatusCode
        );
        var after = await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(x => x.Id == m.Id));
        Assert.Equal(Core.Sessions.ClockAct.Replan, after.Clock[^1].Act);
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm($"{path}/replan", ("offer", "hope"), ("what", what))).StatusCode);
    }

    [Fact]
    public async Task A_caution_is_put_aside_for_the_evening_and_not_for_ever()
    {
        var staff = await App.As(Instructor);
        var (m, next) = (await Meeting(5), await Meeting(6));
        Assert.Contains("The lamp is hot", await staff.Text($"/courses/1/sessions/{m.Id}/run"));
        await staff.PostForm($"/courses/1/sessions/{m.Id}/run/aside", ("caution", "lamp"));
        Assert.DoesNotContain("The lamp is hot", await staff.Text($"/courses/1/sessions/{m.Id}/run"));
        Assert.Contains("The lamp is hot", await staff.Text($"/courses/1/sessions/{next.Id}/run"));
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm($"/courses/1/sessions/{m.Id}/run/aside", ("caution", "minors"))).StatusCode
        );
    }

    [Fact]
    public async Task A_student_at_home_says_their_set_up_and_nobody_is_seated_online()
    {
        var staff = await App.As(Instructor);
        var take = await staff.PostForm(
            "/courses/1/sessions/plan/take",
            ("Form.Date", DateTime.UtcNow.AddDays(250).ToString("yyyy-MM-dd")),
            ("Form.StartsAt", "19:00"),
            ("Form.Minutes", "90"),
            ("Form.Approach", "Alternating"),
            ("Form.Purpose", "Tone"),
            ("Form.Level", "Beginner"),
            ("Form.Students", "14"),
            ("Form.Model", "StillLife"),
            ("Form.Online", "true"),
            ("shape", "opener")
        );
        var path = take.Headers.Location!.OriginalString + "/seat";
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm($"{path}/class")).StatusCode);
        Assert.Contains("nobody is seated", await staff.Text(path));
        var student = await App.AsNamed("Maren Holt");
        await student.PostForm(
            $"{path}/home",
            ("subject", "a net float"),
            ("light", "window, left"),
            ("comfort", "kitchen table"),
            ("looked", "4"),
            ("leavesOut", "the wall")
        );
        var page = await student.Text(path);
        Assert.Contains("a net float", page);
        Assert.Contains("5 of 5 said", page);
        Assert.DoesNotContain("a net float", await (await App.AsNamed("Bram Sedge")).Text(path));
        Assert.Equal(HttpStatusCode.BadRequest, (await student.PostForm($"{path}/home", ("subject", new string('x', 200)))).StatusCode);
    }

    [Theory]
    [
        InlineData("sessions"),
        InlineData("sessions/plan"),
        InlineData("sessions/plan?from=last"),
        InlineData("sessions/room"),
        InlineData("sessions/long"),
        InlineData("sessions/lists"),
        InlineData("sessions/{m}/seat"),
        InlineData("sessions/{m}/class"),
        InlineData("sessions/{m}/walk"),
        InlineData("sessions/{m}/wall"),
        InlineData("sessions/{m}/run"),
        InlineData("sessions/{m}")
    ]
    public async Task A_page_takes_at_most_six_queries(string path)
    {
        var staff = await App.As(Instructor);
        var address = "/courses/1/" + path.Replace("{m}", $"{(await Meeting(6)).Id}");
        await staff.Text(address);
        App.Queries.Reset();
        Assert.Equal(HttpStatusCode.OK, (await staff.GetAsync(address)).StatusCode);
        Assert.InRange(App.Queries.Count, 1, 6);
    }
}
