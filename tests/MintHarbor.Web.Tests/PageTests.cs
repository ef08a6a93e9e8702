using System.Net;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using MintHarbor.Store.Model;
using Xunit;

namespace MintHarbor.Web.Tests;

public sealed class PageTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private HarborApp App => fixture.App;

    [Theory]
    [
        InlineData("edda@saltmarsh.example", "today"),
        InlineData("edda@saltmarsh.example", "sessions"),
        InlineData("edda@saltmarsh.example", "sessions/5"),
        InlineData("edda@saltmarsh.example", "sessions/5/run"),
        InlineData("edda@saltmarsh.example", "sessions/4/card"),
        InlineData("edda@saltmarsh.example", "practice"),
        InlineData("edda@saltmarsh.example", "projects"),
        InlineData("edda@saltmarsh.example", "projects/1"),
        InlineData("edda@saltmarsh.example", "projects/book"),
        InlineData("edda@saltmarsh.example", "critique"),
        InlineData("edda@saltmarsh.example", "critique/1/bench"),
        InlineData("edda@saltmarsh.example", "students"),
        InlineData("edda@saltmarsh.example", "students/5"),
        InlineData("edda@saltmarsh.example", "students/term"),
        InlineData("edda@saltmarsh.example", "shelf/own"),
        InlineData("edda@saltmarsh.example", "shelf/construction?of=figure"),
        InlineData("edda@saltmarsh.example", "projects/1/groups"),
        InlineData("edda@saltmarsh.example", "practice/daily"),
        InlineData("edda@saltmarsh.example", "students/6/stages"),
        InlineData("edda@saltmarsh.example", "students/6/series"),
        InlineData("edda@saltmarsh.example", "shelf/things"),
        InlineData("edda@saltmarsh.example", "shelf/things/first"),
        InlineData("edda@saltmarsh.example", "critique/1/held"),
        InlineData("edda@saltmarsh.example", "shelf")
    ]
    [
        InlineData("maren.holt@saltmarsh.example", "today"),
        InlineData("maren.holt@saltmarsh.example", "sessions/5"),
        InlineData("maren.holt@saltmarsh.example", "critique"),
        InlineData("bram.sedge@saltmarsh.example", "critique"),
        InlineData("maren.holt@saltmarsh.example", "critique/submit"),
        InlineData("maren.holt@saltmarsh.example", "practice"),
        InlineData("maren.holt@saltmarsh.example", "practice/daily"),
        InlineData("maren.holt@saltmarsh.example", "practice/home?set=still-life&seed=3"),
        InlineData("maren.holt@saltmarsh.example", "practice/home?set=gesture&seed=3"),
        InlineData("maren.holt@saltmarsh.example", "students/6/stages"),
        InlineData("maren.holt@saltmarsh.example", "students/6")
    ]
    public async Task A_page_is_rendered_in_at_most_six_queries(string who, string page)
    {
        var client = await App.As(who);
        await client.GetAsync($"/courses/1/{page}");
        App.Queries.Reset();
        var answer = await client.GetAsync($"/courses/1/{page}");
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.InRange(App.Queries.Count, 1, 6);
    }

    /// <summary>A thousand rounds, sixty sittings and three years of lines on record cost the practice page no query more.</summary>
    [Fact]
    public async Task A_long_record_asks_no_more_of_the_practice_page()
    {
        var client = await App.As("jun.averill@saltmarsh.example");
        async Task<int> Queries(string page)
        {
            await client.GetAsync(page);
            App.Queries.Reset();
            Assert.Equal(HttpStatusCode.OK, (await client.GetAsync(page)).StatusCode);
            return App.Queries.Count;
        }
        string[] pages = ["/courses/1/practice", "/courses/1/practice/daily"];
        var before = new List<int>();
        foreach (var page in pages)
            before.Add(await Queries(page));
        await App.Read(async db =>
        {
            var me = await db.Users.Where(u => u.Name == "Jun Averill").Select(u => u.Id).SingleAsync();
            await db.Database.ExecuteSqlAsync(
                $"""
                insert into drill_rounds (course_id, student_id, kind, state, started_at, finished_at, bias, spread, end_difficulty, "right")
                select course_id, {me}, kind, state, started_at - n * interval '1 hour', finished_at - n * interval '1 hour', bias, spread, end_difficulty, "right"
                from (select * from drill_rounds where finished_at is not null order by id limit 1) r, generate_series(1, 1000) n
                """
            );
            return await db.Database.ExecuteSqlAsync(
                $"""
                insert into daily_lines (course_id, student_id, day, of, at)
                select 1, {me}, current_date - n, 'keys', now() from generate_series(1, 1000) n on conflict do nothing
                """
            );
        });
        foreach (var (page, n) in pages.Select((p, n) => (p, n)))
            Assert.Equal(before[n], await Queries(page));
        Assert.All(before, n => Assert.InRange(n, 1, 6));
    }

    [Fact]
    public async Task Every_answer_carries_the_policy()
    {
        var answer = await App.Anonymous().GetAsync("/sign-in");
        var policy = answer.Headers.GetValues("Content-Security-Policy").Single();
        Assert.Contains("default-src 'none'", policy);
        Assert.DoesNotContain("unsafe", policy);
        Assert.Equal("nosniff", answer.Headers.GetValues("X-Content-Type-Options").Single());
    }

    [Theory]
    [
        InlineData("/courses/1/today/x"),
        InlineData("/courses/1/critique/1/bench/nosuch"),
        InlineData("/courses/1/sessions/5/run/nosuch"),
        InlineData("/courses/1/projects/nosuch"),
        InlineData("/join/abc?handler=x"),
        InlineData("/courses/999/today"),
        InlineData("/courses/1/critique/99999"),
        InlineData("/courses/1/critique/99999999999"),
        InlineData("/nosuch")
    ]
    public async Task What_does_not_exist_is_not_found_and_says_so(string path)
    {
        var answer = await (await App.As("edda@saltmarsh.example")).GetAsync(path);
        Assert.Equal(HttpStatusCode.NotFound, answer.StatusCode);
        Assert.Contains("Not here", await answer.Content.ReadAsStringAsync());
    }

    [Theory]
    [
        InlineData("/courses/new", "Form.Weekday", "Someday"),
        InlineData("/courses/1/settings", "Form.Minutes", "many"),
        InlineData("/courses/1/practice/assign", "Form.Due", "soon"),
        InlineData("/courses/1/projects/open", "Form.Ends", "2026-13-40"),
        InlineData("/courses/1/sessions/6/edit", "kind", "Explode"),
        InlineData("/courses/1/practice/assign", "Form.Minutes", "-4")
    ]
    public async Task What_cant_be_read_is_answered_on_its_page(string path, string field, string value)
    {
        var answer = await (await App.As("edda@saltmarsh.example")).PostForm(path, (field, value), ("row", "3"), ("Form.Name", "A name"));
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("class=\"problem\"", await answer.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_form_without_its_token_is_refused()
    {
        var client = await App.As("edda@saltmarsh.example");
        var answer = await client.PostAsync(
            "/courses/1/practice/assign",
            new FormUrlEncodedContent([KeyValuePair.Create("Form.What", "gesture")])
        );
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
    }

    [Fact]
    public async Task A_roster_with_a_bad_row_imports_nothing_and_a_right_one_invites_everybody()
    {
        var client = await App.As("edda@saltmarsh.example");
        var bad = await client.PostForm(
            "/courses/2/students/import",
            ("csv", "name,mail\nRuna Pike,runa@example.org\nNo Mail,\n"),
            ("take", "true")
        );
        var text = await bad.Content.ReadAsStringAsync();
        Assert.Contains("no mail address", text);
        Assert.Contains("nothing is taken until all are", text);
        Assert.Equal(0, await App.Read(db => db.Invitations.CountAsync(i => i.Mail == "runa@example.org")));
        var good = await client.PostForm(
            "/courses/2/students/import",
            ("csv", "name;mail\nRuna Pike;runa@example.org\nSol Ebb;sol@example.org\n"),
            ("take", "true")
        );
        Assert.Equal(HttpStatusCode.Redirect, good.StatusCode);
        var link = await App.Read(db => db.Outbox.Where(m => m.To == "runa@example.org").Select(m => m.Link).SingleAsync());
        var joiner = App.Anonymous();
        Assert.Contains("Runa Pike", await joiner.Text(link));
        Assert.Equal(HttpStatusCode.BadRequest, (await joiner.PostForm(link, ("Password", "short"))).StatusCode);
        Assert.Equal(HttpStatusCode.Redirect, (await joiner.PostForm(link, ("Password", "tide and rope"))).StatusCode);
        Assert.Contains("Bring", await joiner.Text("/courses/2/today"));
        Assert.Equal(HttpStatusCode.NotFound, (await App.Anonymous().GetAsync(link)).StatusCode);
    }

    [Fact]
    public async Task An_undraped_pose_under_18_is_refused_on_the_page()
    {
        var client = await App.As("edda@saltmarsh.example");
        var answer = await client.PostForm(
            "/courses/2/sessions/plan",
            ("Form.Date", "2030-01-05"),
            ("Form.StartsAt", "10:00"),
            ("Form.Minutes", "90"),
            ("Form.Approach", "Alternating"),
            ("Form.Purpose", "Proportion"),
            ("Form.Level", "Beginner"),
            ("Form.Students", "8"),
            ("Form.Model", "Person"),
            ("Form.Draped", "false")
        );
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("under 18", await answer.Content.ReadAsStringAsync());
        Assert.False(await App.Read(db => db.Meetings.AnyAsync(m => m.Date == new NodaTime.LocalDate(2030, 1, 5))));
    }

    [Theory]
    [
        InlineData("Form.Minutes", "-5"),
        InlineData("Form.Minutes", "five"),
        InlineData("Form.StartsAt", "23:30"),
        InlineData("Form.Date", "2030-02-31")
    ]
    public async Task A_meeting_that_cant_be_is_answered_with_a_reason(string field, string value)
    {
        var client = await App.As("edda@saltmarsh.example");
        var fields = new Dictionary<string, string>
        {
            ["Form.Date"] = "2030-02-05",
            ["Form.StartsAt"] = "19:00",
            ["Form.Minutes"] = "120",
            ["Form.Approach"] = "QuickFirst",
            ["Form.Purpose"] = "Gesture",
            ["Form.Level"] = "Beginner",
            ["Form.Students"] = "8",
            ["Form.Model"] = "Person",
        };
        fields[field] = value;
        var answer = await client.PostForm("/courses/1/sessions/plan", [.. fields.Select(f => (f.Key, f.Value))]);
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("class=\"problem\"", await answer.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task What_a_change_breaks_is_said_and_the_timetable_stays()
    {
        var client = await App.As("edda@saltmarsh.example");
        var meeting = await App.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 6));
        var sitting = meeting.Plan.Items.ToList().FindIndex(i => i.Exercise == "sitting");
        var answer = await client.PostForm(
            $"/courses/1/sessions/{meeting.Id}/edit",
            ("row", $"{sitting}"),
            ("kind", "Pose"),
            ("poseId", "crouch")
        );
        var text = await answer.Content.ReadAsStringAsync();
        Assert.Contains("be kept", text);
        Assert.Contains("Arm raised, twist or lunge", text);
        var after = await App.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == meeting.Id));
        Assert.Equal(meeting.Version, after.Version);
    }

    private static (string, string)[] Said(string question) =>
        [
            ("Form.Question", question),
            ("Form.SelfReview", "The arm holds. I would place it higher."),
            ("Form.Exercise", "sitting"),
            ("Form.Pose", "standing"),
            ("Form.View", "front"),
            ("Form.Paper", "18x24in"),
        ];

    private static byte[] Shot(long seed) =>
        SheetCamera.Take(SimulatedHand.Draw("stand-male-0", PaperSize.Find("18x24in")!, 480, new(), 0.6, seed), 750, 1000, 0.5, seed).Jpeg;

    [Theory]
    [InlineData("empty"), InlineData("text"), InlineData("cut"), InlineData("svg")]
    public async Task A_bad_file_is_named_and_what_was_typed_is_kept(string kind)
    {
        var client = await App.As("bram.sedge@saltmarsh.example");
        byte[] file = kind switch
        {
            "empty" => [],
            "text" => "hello"u8.ToArray(),
            "cut" => Shot(1)[..4000],
            _ => "<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>"u8.ToArray(),
        };
        var answer = await client.PostFile(
            "/courses/1/critique/submit/send",
            "Form.Photo",
            file,
            "sheet.jpg",
            Said($"Is it kept, {kind}?")
        );
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        var text = await answer.Content.ReadAsStringAsync();
        Assert.Contains($"Is it kept, {kind}?", text);
        Assert.Contains("JPEG, PNG or WebP", text);
        Assert.False(await App.Read(db => db.Sheets.AnyAsync(s => s.Question.Contains(kind) && s.Question.StartsWith("Is it kept"))));
    }

    [Fact]
    public async Task A_photograph_is_kept_as_it_came_and_twice_the_same_is_kept_once()
    {
        var client = await App.As("bram.sedge@saltmarsh.example");
        var file = Shot(2);
        foreach (var n in new[] { 1, 2 })
        {
            var answer = await client.PostFile(
                "/courses/1/critique/submit/send",
                "Form.Photo",
                file,
                "sheet.jpg",
                Said($"Once or twice, {n}?")
            );
            Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        }
        var hash = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(file));
        var kept = await App.Read(db => db.Pictures.AsNoTracking().SingleAsync(p => p.Hash == hash));
        Assert.Equal(file, kept.Bytes);
        Assert.Equal(2, await App.Read(db => db.Sheets.CountAsync(s => s.PhotoHash == hash)));
    }

    [Theory]
    [
        InlineData("1,1,2,2"),
        InlineData("a,b,c,d,e,f,g,h"),
        InlineData("0,0,100,0,0,100,100,100"),
        InlineData("NaN,0,100,0,100,100,0,100"),
        InlineData("0,0,1e9,0,1e9,1e9,0,1e9")
    ]
    public async Task Corners_that_make_no_sheet_are_refused(string corners)
    {
        var client = await App.AsNamed("Nell Orchard");
        var sent = await client.PostFile("/courses/1/critique/submit/send", "Form.Photo", Shot(3), "s.jpg", Said("Where are the corners?"));
        var answer = await client.PostForm(sent.Headers.Location!.OriginalString + "/keep", ("corners", corners));
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("Accepted:", await answer.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task The_grade_book_goes_out_as_csv()
    {
        var client = await App.As("edda@saltmarsh.example");
        var project = await App.Read(db => db.Projects.FirstAsync());
        var csv = await client.Text($"/courses/1/projects/{project.Id}/csv");
        var lines = csv.Split("\r\n", StringSplitOptions.RemoveEmptyEntries);
        Assert.StartsWith("name,mail,proportion", lines[0]);
        Assert.Equal(15, lines.Length);
    }

    [Fact]
    public async Task The_gate_keeps_a_stage_closed_until_it_is_waived_with_a_reason()
    {
        var client = await App.As("edda@saltmarsh.example");
        var work = await App.Read(db =>
            db.ProjectWorks.Where(w => w.Student.Name == "Nell Orchard" && w.Project.Template == "portrait-from-sitter").SingleAsync()
        );
        var path = $"/courses/1/projects/way/{work.Id}";
        await client.PostForm(path + "/finish", ("stage", "restate"));
        Assert.Equal(HttpStatusCode.BadRequest, (await client.PostForm(path + "/finish", ("stage", "tone"))).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await client.PostForm(path + "/waive", ("stage", "tone"), ("because", " "))).StatusCode);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await client.PostForm(path + "/waive", ("stage", "tone"), ("because", "the sitter leaves on Friday"))).StatusCode
        );
        Assert.Equal(HttpStatusCode.Redirect, (await client.PostForm(path + "/finish", ("stage", "tone"))).StatusCode);
        Assert.Contains("the sitter leaves on Friday", await client.Text(path));
        Assert.Equal(HttpStatusCode.BadRequest, (await client.PostForm(path + "/level", ("row", "proportion"), ("level", "7"))).StatusCode);
    }

    [Fact]
    public async Task A_resent_drill_answer_changes_nothing()
    {
        var client = await App.AsNamed("Nell Orchard");
        var begun = await client.PostForm("/courses/1/practice/begin", ("kind", "clock-hand"));
        var path = begun.Headers.Location!.OriginalString;
        await client.PostForm(path + "/answer", ("number", "0"), ("value", "30"));
        await client.PostForm(path + "/answer", ("number", "0"), ("value", "90"));
        var id = int.Parse(path.Split('/')[^1]);
        Assert.Equal([30.0], (await App.Read(db => db.DrillRounds.AsNoTracking().SingleAsync(r => r.Id == id))).State.Answers);
        Assert.Equal(path, (await client.PostForm("/courses/1/practice/begin", ("kind", "clock-hand"))).Headers.Location!.OriginalString);
        Assert.Equal(HttpStatusCode.BadRequest, (await client.PostForm(path + "/answer", ("number", "1"), ("value", "NaN"))).StatusCode);
    }

    [Fact]
    public async Task A_released_critique_stays_as_it_was_read_and_prescribes_its_drill()
    {
        var staff = await App.As("edda@saltmarsh.example");
        var sheet = await App.Read(db => db.Sheets.AsNoTracking().FirstAsync(s => s.Student.Name == "Perrin Gale"));
        var path = $"/courses/1/critique/{sheet.Id}/bench";
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm(path + "/release")).StatusCode);
        await staff.PostForm(path + "/fault", ("fault", "level-tilts"));
        Assert.Equal(HttpStatusCode.Redirect, (await staff.PostForm(path + "/release")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm(path + "/fault", ("fault", "leaning"))).StatusCode);
        Assert.True(await App.Read(db => db.Assignments.AnyAsync(a => a.SheetId == sheet.Id && a.Drill == "tilt")));
        var student = await App.AsNamed("Perrin Gale");
        Assert.Contains("Say both tilts", await student.Text($"/courses/1/critique/{sheet.Id}"));
    }
}
