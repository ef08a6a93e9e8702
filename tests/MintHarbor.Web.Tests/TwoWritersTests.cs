using System.Net;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Two people, one person on two devices, or one double click, at the same moment: on every action of the running application, and on
/// each that once went wrong.</summary>
public sealed class TwoWritersTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Edda = Doors.Instructor,
        Bram = Doors.Other,
        Maren = Doors.Victim;

    private HarborApp App => fixture.App;

    private static readonly string[] Tables =
    [
        "assignments",
        "course_poses",
        "courses",
        "drill_rounds",
        "invitations",
        "long_poses",
        "meetings",
        "memberships",
        "outbox",
        "pose_readings",
        "presences",
        "project_works",
        "projects",
        "project_plans",
        "room_notes",
        "rung_moves",
        "seatings",
        "sheets",
        "templates",
        "clock_acts",
    ];

    private static readonly (string Name, string Value)[] Course = Doors.CourseForm("Made at once");

    /// <summary>What an action wants beside or instead of what the doors are knocked at with.</summary>
    private static (string Name, string Value)[] Wants(Door d) =>
        (d.Route.Split('/')[^2] + "/" + d.Handler).ToLowerInvariant() switch
        {
            "practice/assign" => [("Form.What", "drill:clock-hand"), ("Form.Minutes", "2"), ("Form.Due", "2027-03-01T19:00")],
            "projects/open" =>
            [
                ("Form.Template", "portrait-from-sitter"),
                ("Form.Name", "Opened at once"),
                ("Form.Ends", "2027-01-20"),
                ("Form.Meetings", "2"),
            ],
            "class/note" or "walk/keep" => [("key", $"{Guid.NewGuid()}"), ("fault", "head-large"), ("student", "")],
            "sessions/term" => [("first", "2027-02-02"), ("count", "3"), ("every", "1"), ("purpose", "Proportion")],
            "{meeting:int}/move" => [("date", "2027-05-04"), ("startsAt", "19:00"), ("row", "0")],
            "{meeting:int}/template" => [("name", "Kept at once"), ("row", "0")],
            "{meeting:int}/modellink" or "{meeting:int}/undo" => [("row", "0")],
            "long/begin" => [("pose", "stand"), ("from", "2026-11-29")],
            "plan/take" => [.. Course, ("Form.Date", "2027-06-01"), ("Form.Model", "Person"), ("shape", ""), ("level", "Mixed")],
            "room/" =>
            [
                ("Form.Width", "14"),
                ("Form.Depth", "12"),
                ("Form.StandX", "4.5"),
                ("Form.StandY", "3.5"),
                ("Form.StandHeight", "0.4"),
                ("Form.Most", "16"),
            ],
            "students/import" => [("csv", "name,mail\nAt Once,at.once@example.org\n"), ("take", "true")],
            "bench/change" or "bench/rank" or "bench/spot" => [("remark", "r1"), ("where", "hip"), ("what", "so"), ("next", "so")],
            _ => d.Route is "courses/new" || d.Route.Contains("settings") ? Course : [],
        };

    private Task<Dictionary<string, long>> Rows() =>
        App.Read(async db =>
        {
            var counts = new Dictionary<string, long>();
            foreach (var t in Tables)
#pragma warning disable EF1002 // names of tables, written above
                counts[t] = await db.Database.SqlQueryRaw<long>($"select count(*) as \"Value\" from {t}").SingleAsync();
#pragma warning restore EF1002
            return counts;
        });

    /// <summary>The same form four times at once: whatever it does, it is done once and answered four times.</summary>
    [Theory]
    [InlineData(Edda, 40), InlineData(Maren, 8)]
    public async Task A_double_click_does_every_action_once(string mail, int least)
    {
        var ids = await Doors.VictimIds(App);
        // One that is still to come: what has begun is not planned any more.
        ids["meeting"] = $"{await Meeting(7)}";
        var client = await App.As(mail);
        var (reached, missed, problems) = (0, new List<string>(), new List<string>());
        foreach (
            var d in Doors
                .All(App)
                .Where(d =>
                    d.Method.Equals("POST", StringComparison.OrdinalIgnoreCase) && d.Route.StartsWith("courses/", StringComparison.Ordinal)
                )
                .Where(d => d.Keys.All(k => k == "handler" || ids.ContainsKey(k)) && d.Handler is not "Remove" and not "End")
        )
        {
            var path = Doors.Fill(d, ids);
            var before = await Rows();
            var one = await Knock();
            var after = await Rows();
            var four = await Knock4();
            var last = await Rows();
            async Task<HttpResponseMessage> Knock() => await client.PostForm(path, Fields());
            async Task<HttpResponseMessage[]> Knock4()
            {
                var same = Fields();
                return await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => client.PostForm(path, same)));
            }
            (string Name, string Value)[] Fields()
            {
                var wants = Wants(d);
                return [.. Doors.Said.Where(f => wants.All(w => w.Name != f.Name)), .. wants, ("once", $"{Guid.NewGuid()}")];
            }
            foreach (var a in four.Prepend(one))
                if ((int)a.StatusCode >= 500)
                    problems.Add($"{path}: {a.StatusCode}");
            if ((int)one.StatusCode < 400)
                reached++;
            else
                missed.Add($"{path} {(int)one.StatusCode}");
            foreach (var t in Tables)
                if (last[t] - after[t] > Math.Max(0, after[t] - before[t]))
                    problems.Add($"{path}: {t} grew by {after[t] - before[t]} for one and by {last[t] - after[t]} for four");
        }
        Assert.True(problems.Count == 0, string.Join('\n', problems));
        Assert.True(reached >= least, $"{reached} actions did something, refused were {string.Join(", ", missed)}");
    }

    private async Task<int> Meeting(int number) =>
        await App.Read(db => db.Meetings.Where(m => m.CourseId == 1 && m.Number == number).Select(m => m.Id).SingleAsync());

    private static async Task<HttpResponseMessage[]> AtOnce(params Func<Task<HttpResponseMessage>>[] acts)
    {
        var answers = await Task.WhenAll(acts.Select(a => Task.Run(a)));
        Assert.All(answers, a => Assert.True((int)a.StatusCode < 500, $"{a.RequestMessage!.RequestUri}: {a.StatusCode}"));
        return answers;
    }

    [Fact]
    public async Task Twenty_ticks_at_once_are_all_kept()
    {
        var (edda, lorne) = (await App.As(Edda), await App.As("lorne@saltmarsh.example"));
        var at = $"/courses/1/sessions/{await Meeting(6)}/class";
        var students = await App.Read(db =>
            db.Memberships.Where(m => m.CourseId == 1 && m.Role == CourseRole.Student).Select(m => m.PersonId).Take(2).ToListAsync()
        );
        var ticks = Core.Sessions.EyeTicks.All.Select(t => t.Id).Take(10).ToList();
        await AtOnce([
            .. students.SelectMany(s =>
                ticks.Select(t =>
                    (Func<Task<HttpResponseMessage>>)(
                        () => (t.Length % 2 == 0 ? edda : lorne).PostForm($"{at}/tick?on=true", ("person", $"{s}"), ("tick", t))
                    )
                )
            ),
        ]);
        var kept = await App.Read(db =>
            db.Presences.AsNoTracking().Where(p => students.Contains(p.PersonId) && p.Meeting.Number == 6).ToListAsync()
        );
        Assert.All(students, s => Assert.Equal(ticks.Order(), kept.Single(p => p.PersonId == s).Ticks.Order()));
    }

    [Fact]
    public async Task Five_people_are_not_put_on_one_place()
    {
        var edda = await App.As(Edda);
        var meeting = await Meeting(7);
        var people = await App.Read(db =>
            db.Memberships.Where(m => m.CourseId == 1 && m.Role == CourseRole.Student)
                .OrderBy(m => m.Seat)
                .Select(m => m.PersonId)
                .Take(5)
                .ToListAsync()
        );
        var spot = await App.Read(async db =>
            RoomActions.Of(await db.Courses.SingleAsync(c => c.Id == 1)).Spots is [var first, ..] ? first.Id : "1"
        );
        await AtOnce([
            .. people.Select(p =>
                (Func<Task<HttpResponseMessage>>)(
                    () => edda.PostForm($"/courses/1/sessions/{meeting}/seat/pin", ("person", $"{p}"), ("spot", spot), ("on", "true"))
                )
            ),
        ]);
        var seats = await App.Read(db => db.Seatings.AsNoTracking().Where(s => s.MeetingId == meeting && s.Spot != null).ToListAsync());
        Assert.NotEmpty(seats);
        Assert.Equal(seats.Count, seats.Select(s => s.Spot).Distinct().Count());
        // The database itself refuses it, whoever writes.
        await Assert.ThrowsAnyAsync<Exception>(() =>
            App.Read(async db =>
            {
                await db.Database.ExecuteSqlAsync(
                    $"""
                    insert into seatings (meeting_id, person_id, azimuth, distance, eye_height, pinned, spot)
                    select {meeting}, p.id, 0, 3, 1.2, false, {seats[0].Spot} from people p
                    where p.id not in (select person_id from seatings where meeting_id = {meeting}) limit 1
                    """
                );
                return 0;
            })
        );
    }

    [Fact]
    public async Task A_project_and_a_course_opened_by_a_double_click_are_one()
    {
        var edda = await App.As(Edda);
        (string, string)[] project =
        [
            ("Form.Template", "portrait-from-sitter"),
            ("Form.Name", "Opened twice"),
            ("Form.Ends", "2027-01-20"),
            ("Form.Meetings", "2"),
            ("once", $"{Guid.NewGuid()}"),
        ];
        var answers = await AtOnce([
            .. Enumerable.Repeat<Func<Task<HttpResponseMessage>>>(() => edda.PostForm("/courses/1/projects/open", project), 5),
        ]);
        Assert.Equal(1, await App.Read(db => db.Projects.CountAsync(p => p.Name == "Opened twice")));
        Assert.Single(answers.Select(a => a.Headers.Location!.OriginalString).Distinct());
        // Gone back to and written anew it is another one.
        project[1] = ("Form.Name", "Opened again");
        await edda.PostForm("/courses/1/projects/open", project);
        Assert.Equal(1, await App.Read(db => db.Projects.CountAsync(p => p.Name == "Opened again")));
        (string, string)[] course = [.. Doors.CourseForm("Once only"), ("once", $"{Guid.NewGuid()}")];
        await AtOnce([.. Enumerable.Repeat<Func<Task<HttpResponseMessage>>>(() => edda.PostForm("/courses/new", course), 4)]);
        Assert.Equal(1, await App.Read(db => db.Courses.CountAsync(c => c.Name == "Once only")));
    }

    [Fact]
    public async Task A_drill_begun_five_times_at_once_is_one_round()
    {
        var bram = await App.As(Bram);
        await AtOnce([
            .. Enumerable.Repeat<Func<Task<HttpResponseMessage>>>(
                () => bram.PostForm("/courses/1/practice/begin", ("kind", "span-against-span")),
                5
            ),
        ]);
        Assert.Equal(
            1,
            await App.Read(db =>
                db.DrillRounds.CountAsync(r => r.Student.Email == Bram && r.Kind == "span-against-span" && r.FinishedAt == null)
            )
        );
    }

    [Fact]
    public async Task A_template_of_one_name_kept_by_two_at_once_is_one()
    {
        var (edda, lorne) = (await App.As(Edda), await App.As("lorne@saltmarsh.example"));
        var (a, b) = (await Meeting(6), await Meeting(7));
        await AtOnce(
            () => edda.PostForm($"/courses/1/sessions/{a}/template", ("name", "Kept by two")),
            () => lorne.PostForm($"/courses/1/sessions/{b}/template", ("name", "Kept by two")),
            () => edda.PostForm($"/courses/1/sessions/{a}/template", ("name", "Kept by two")),
            () => lorne.PostForm($"/courses/1/sessions/{b}/template", ("name", "Kept by two"))
        );
        Assert.Equal(1, await App.Read(db => db.Templates.CountAsync(t => t.Name == "Kept by two")));
    }

    [Fact]
    public async Task A_roster_taken_twice_at_once_invites_everybody_once()
    {
        var (one, two) = (await App.As(Edda), await App.As(Edda));
        const string csv = "name,mail\nTwo Times,two.times@example.org\nThree Times,three.times@example.org\n";
        var answers = await AtOnce(
            () => one.PostForm("/courses/1/students/import", ("csv", csv), ("take", "true")),
            () => two.PostForm("/courses/1/students/import", ("csv", csv), ("take", "true"))
        );
        Assert.Equal(2, await App.Read(db => db.Invitations.CountAsync(i => i.Mail.EndsWith("times@example.org"))));
        Assert.Equal(2, await App.Read(db => db.Outbox.CountAsync(o => o.To.EndsWith("times@example.org"))));
        Assert.Contains(answers, a => a.StatusCode == HttpStatusCode.Redirect);
    }

    [Fact]
    public async Task An_answer_on_two_devices_is_not_written_over_unseen()
    {
        var (phone, desk) = (await App.As(Bram), await App.As(Bram));
        var sheet = await App.Read(db =>
            db.Sheets.Where(s => s.Student.Email == Bram && s.ReleasedAt != null && s.Answer == "").Select(s => s.Id).FirstAsync()
        );
        var path = $"/courses/1/critique/{sheet}";
        var stood = Stood(await phone.Text(path));
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await desk.PostForm($"{path}/answer", ("answer", "From the desk"), ("stood", stood))).StatusCode
        );
        var clash = await phone.PostForm($"{path}/answer", ("answer", "From the phone"), ("stood", stood));
        Assert.Equal(HttpStatusCode.Conflict, clash.StatusCode);
        var page = await clash.Content.ReadAsStringAsync();
        Assert.Contains("the answer is “From the desk” now", WebUtility.HtmlDecode(page));
        Assert.Contains(">From the phone</textarea>", page);
        // Seen, it goes over it.
        var again = await phone.PostForm($"{path}/answer", ("answer", "From the phone"), ("stood", Stood(page)));
        Assert.Equal(HttpStatusCode.Redirect, again.StatusCode);
    }

    private static string Stood(string page) =>
        new AngleSharp.Html.Parser.HtmlParser().ParseDocument(page).QuerySelector("input[name=stood]")!.GetAttribute("value")!;

    [Fact]
    public async Task Settings_that_somebody_else_changed_are_named_and_not_written_over()
    {
        var edda = await App.As(Edda);
        var page = await edda.Text("/courses/1/settings");
        var stood = Stood(page);
        var form = new AngleSharp.Html.Parser.HtmlParser()
            .ParseDocument(page)
            .QuerySelectorAll("form[action='/courses/1/settings'] [name^='Form.']")
            .Select(e =>
                (
                    e.GetAttribute("name")!,
                    e is AngleSharp.Html.Dom.IHtmlSelectElement s ? s.Value ?? "" : ((AngleSharp.Html.Dom.IHtmlInputElement)e).Value
                )
            )
            .Where(f => f.Item1 != "Form.Minors")
            .ToDictionary(f => f.Item1, f => f.Item2);
        (string, string)[] With(string name, string value) =>
            [.. form.Select(f => (f.Key, f.Key == name ? value : f.Value)), ("stood", stood)];
        Assert.Equal(HttpStatusCode.Redirect, (await edda.PostForm("/courses/1/settings", With("Form.Room", "The Far Loft"))).StatusCode);
        var clash = await edda.PostForm("/courses/1/settings", With("Form.Name", "Mine alone"));
        Assert.Equal(HttpStatusCode.Conflict, clash.StatusCode);
        var text = WebUtility.HtmlDecode(await clash.Content.ReadAsStringAsync());
        Assert.Contains("the room is “The Far Loft” now", text);
        Assert.Contains("value=\"Mine alone\"", text);
    }

    [Fact]
    public async Task A_remark_changed_on_another_device_clashes_whatever_the_name()
    {
        var (one, two) = (await App.As(Edda), await App.As(Edda));
        var sheet = await App.Read(db =>
            db.Sheets.Where(s => s.CourseId == 1 && s.State == SheetState.Waiting).Select(s => s.Id).FirstAsync()
        );
        var bench = $"/courses/1/critique/{sheet}/bench";
        await one.PostForm($"{bench}/own");
        var remark = await App.Read(async db => (await db.Sheets.AsNoTracking().SingleAsync(s => s.Id == sheet)).Remarks[^1]);
        (string, string)[] Says(string what) =>
            [("remark", remark.Id), ("seen", remark.Fingerprint), ("where", "hip"), ("what", what), ("next", "")];
        Assert.Equal(HttpStatusCode.Redirect, (await one.PostForm($"{bench}/change", Says("first"))).StatusCode);
        // The browser that wrote it may go on from what it saw; another one is told.
        Assert.Equal(HttpStatusCode.Redirect, (await one.PostForm($"{bench}/change", Says("first, better"))).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await two.PostForm($"{bench}/change", Says("second"))).StatusCode);
    }

    /// <summary>What nobody waits for is ended: a statement of a reader who has gone, whoever sent it; one that writes runs to its end.</summary>
    [Fact]
    public async Task A_statement_that_nobody_waits_for_is_ended()
    {
        await using var scope = App.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<Store.HarborContext>();
        using var gone = new CancellationTokenSource(TimeSpan.FromMilliseconds(300));
        Store.Visit.Now = new() { Gone = gone.Token };
        var watch = System.Diagnostics.Stopwatch.StartNew();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() =>
            db.Users.FromSql($"select * from people, lateral (select pg_sleep(120)) s").Select(p => p.Id).ToListAsync()
        );
        Assert.True(watch.Elapsed < TimeSpan.FromMinutes(1), $"{watch.Elapsed.TotalSeconds:0} s");
        Store.Visit.Now = null;
        Assert.True(await db.Users.AnyAsync());
    }

    [Fact]
    public async Task A_timetable_taken_by_three_at_once_is_one_meeting_and_the_others_are_told()
    {
        var (one, two) = (await App.As(Edda), await App.As("lorne@saltmarsh.example"));
        (string, string)[] form = [.. Course, ("Form.Date", "2027-07-06"), ("Form.Model", "Person"), ("shape", "")];
        var answers = await AtOnce(
            () => one.PostForm("/courses/1/sessions/plan/take", form),
            () => two.PostForm("/courses/1/sessions/plan/take", form),
            () => one.PostForm("/courses/1/sessions/plan/take", form)
        );
        Assert.Equal(1, await App.Read(db => db.Meetings.CountAsync(m => m.CourseId == 1 && m.Date == new NodaTime.LocalDate(2027, 7, 6))));
        Assert.Single(answers, a => a.StatusCode == HttpStatusCode.Redirect);
        Assert.Contains(
            "is at that hour already",
            await answers.First(a => a.StatusCode == HttpStatusCode.BadRequest).Content.ReadAsStringAsync()
        );
    }

    /// <summary>Whoever comes too late is told; nothing is written to what has gone, and nothing fails.</summary>
    [Fact]
    public async Task A_meeting_is_taken_out_while_others_write_to_it()
    {
        var (edda, lorne) = (await App.As(Edda), await App.As("lorne@saltmarsh.example"));
        (string, string)[] form = [.. Course, ("Form.Date", "2027-07-20"), ("Form.Model", "Person"), ("shape", "")];
        await edda.PostForm("/courses/1/sessions/plan/take", form);
        var meeting = await App.Read(db =>
            db.Meetings.Where(m => m.Date == new NodaTime.LocalDate(2027, 7, 20)).Select(m => m.Id).SingleAsync()
        );
        var student = await App.Read(db =>
            db.Memberships.Where(m => m.CourseId == 1 && m.Role == CourseRole.Student).Select(m => m.PersonId).FirstAsync()
        );
        var at = $"/courses/1/sessions/{meeting}";
        await AtOnce(
            () => lorne.PostForm($"{at}/class/here", ("person", $"{student}"), ("on", "true")),
            () => lorne.PostForm($"{at}/seat/pin", ("person", $"{student}"), ("spot", "1"), ("pinned", "true")),
            () => edda.PostForm($"{at}/remove"),
            () => lorne.PostForm($"{at}/walk/keep", ("student", $"{student}"), ("text", "The hip")),
            () => lorne.PostForm($"{at}/card/save", ("heads", "7.2")),
            () => lorne.PostForm($"{at}/template", ("name", "Too late"))
        );
        var left = await App.Read(db => db.Meetings.AnyAsync(m => m.Id == meeting));
        var notes = await App.Read(db => db.RoomNotes.CountAsync(n => n.MeetingId == meeting));
        // Either it went, with all that was written to it before, or a note was there first and keeps it.
        Assert.True(left == notes > 0, $"it {(left ? "stays" : "went")} with {notes} notes");
    }
}
