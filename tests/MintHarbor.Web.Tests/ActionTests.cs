using System.Globalization;
using System.Net;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using NodaTime;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Giving, joining, drilling, grading: what is accepted and what is not, through the pages.</summary>
public sealed class ActionTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private HarborApp App => fixture.App;

    private static string InDays(int n) => DateTime.UtcNow.AddDays(n).ToString("yyyy-MM-ddTHH:mm", CultureInfo.InvariantCulture);

    [Theory]
    [
        InlineData("juggling", "10", 3, "unknown exercise"),
        InlineData("gesture", "0", 3, "0 minutes"),
        InlineData("gesture", "10", -3, "due time has passed"),
        InlineData("drill:other", "2", 3, "unknown drill")
    ]
    public async Task What_cant_be_given_is_said(string what, string minutes, int days, string says)
    {
        var staff = await App.As("edda@saltmarsh.example");
        var before = await App.Read(db => db.Assignments.CountAsync());
        var answer = await staff.PostForm(
            "/courses/1/practice/assign",
            ("Form.What", what),
            ("Form.Minutes", minutes),
            ("Form.Due", InDays(days))
        );
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains(says, await answer.Content.ReadAsStringAsync(), StringComparison.OrdinalIgnoreCase);
        Assert.Equal(before, await App.Read(db => db.Assignments.CountAsync()));
    }

    [Fact]
    public async Task Nothing_is_given_to_somebody_of_another_course()
    {
        var staff = await App.As("edda@saltmarsh.example");
        var pim = await App.Read(db => db.Users.Where(u => u.Name == "Pim Daly").Select(u => u.Id).SingleAsync());
        var answer = await staff.PostForm(
            "/courses/1/practice/assign",
            ("Form.What", "gesture"),
            ("Form.Minutes", "5"),
            ("Form.Due", InDays(3)),
            ("Form.Students", $"{pim}")
        );
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.False(await App.Read(db => db.Assignments.AnyAsync(a => a.StudentId == pim && a.Exercise == "gesture")));
    }

    [Fact]
    public async Task An_exercise_is_given_to_one_read_at_home_and_marked_done()
    {
        var staff = await App.As("edda@saltmarsh.example");
        var tove = await App.Read(db => db.Users.Where(u => u.Name == "Tove Arkle").Select(u => u.Id).SingleAsync());
        await staff.PostForm(
            "/courses/1/practice/assign",
            ("Form.What", "blind-contour"),
            ("Form.Minutes", "5"),
            ("Form.Due", InDays(3)),
            ("Form.Note", "your own <left> hand"),
            ("Form.Students", $"{tove}")
        );
        var given = await App.Read(db => db.Assignments.AsNoTracking().SingleAsync(a => a.Exercise == "blind-contour"));
        var student = await App.AsNamed("Tove Arkle");
        Assert.Contains("Blind contour, 5 minutes", await student.Text("/courses/1/today"));
        var page = await student.Text($"/courses/1/practice/exercise/{given.Id}");
        Assert.Contains("Do not look down", page);
        Assert.Contains("your own &lt;left&gt; hand", page);
        await student.PostForm($"/courses/1/practice/exercise/{given.Id}/done");
        Assert.NotNull((await App.Read(db => db.Assignments.AsNoTracking().SingleAsync(a => a.Id == given.Id))).DoneAt);
        Assert.DoesNotContain("Blind contour, 5 minutes", await student.Text("/courses/1/today"));
    }

    [Fact]
    public async Task A_finished_round_settles_the_assignment_it_was_begun_from()
    {
        var student = await App.AsNamed("Casper Lowe");
        var open = await App.Read(db =>
            db.Assignments.AsNoTracking()
                .Where(a => a.Student.Name == "Casper Lowe" && a.Drill != null && a.DoneAt == null)
                .OrderByDescending(a => a.Due)
                .FirstAsync()
        );
        var begun = await student.PostForm("/courses/1/practice/begin", ("assignmentId", $"{open.Id}"));
        var path = begun.Headers.Location!.OriginalString;
        for (var n = 0; n < 10; n++)
            Assert.Equal(
                HttpStatusCode.Redirect,
                (await student.PostForm(path + "/answer", ("number", $"{n}"), ("value", "90"))).StatusCode
            );
        Assert.Contains("of 10 right", await student.Text(path));
        Assert.NotNull((await App.Read(db => db.Assignments.AsNoTracking().SingleAsync(a => a.Id == open.Id))).DoneAt);
        // An eleventh answer changes nothing.
        await student.PostForm(path + "/answer", ("number", "10"), ("value", "5"));
        var id = int.Parse(path.Split('/')[^1], CultureInfo.InvariantCulture);
        Assert.Equal(10, (await App.Read(db => db.DrillRounds.AsNoTracking().SingleAsync(r => r.Id == id))).State.Answers.Count);
    }

    [Fact]
    public async Task An_invitation_runs_out_and_an_account_of_another_course_joins_with_its_own_password()
    {
        var staff = await App.As("edda@saltmarsh.example");
        await staff.PostForm(
            "/courses/2/students/import",
            ("csv", "name,mail\nWick Thorne,wick.thorne@saltmarsh.example\nLate Comer,late@example.org\n"),
            ("take", "true")
        );
        var links = await App.Read(db =>
            db.Invitations.Where(i => i.CourseId == 2 && i.JoinedAt == null).ToDictionaryAsync(i => i.Mail, i => "/join/" + i.Token)
        );
        await App.Read(async db =>
        {
            var late = await db.Invitations.SingleAsync(i => i.Mail == "late@example.org");
            late.Expires = SystemClock.Instance.GetCurrentInstant() - Duration.FromMinutes(1);
            return await db.SaveChangesAsync();
        });
        Assert.Equal(HttpStatusCode.NotFound, (await App.Anonymous().GetAsync(links["late@example.org"])).StatusCode);
        var wick = App.Anonymous();
        var wrong = await wick.PostForm(links["wick.thorne@saltmarsh.example"], ("Password", "not my password"));
        Assert.Contains("has an account already", await wrong.Content.ReadAsStringAsync());
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await wick.PostForm(links["wick.thorne@saltmarsh.example"], ("Password", Store.Demo.DemoStudio.Password))).StatusCode
        );
        var courses = await wick.Text("/courses");
        Assert.Contains("Evening figure", courses);
        Assert.Contains("Saturday group", courses);
    }

    [Fact]
    public async Task A_roster_in_Windows_1252_keeps_its_letters_and_a_picture_is_no_roster()
    {
        var staff = await App.As("edda@saltmarsh.example");
        var old = System.Text.Encoding.Latin1.GetBytes("name;mail\nBjörn Østergård;bjorn@example.org\n");
        Assert.Contains(
            "Bj&#xF6;rn &#xD8;sterg&#xE5;rd",
            await (await staff.PostFile("/courses/2/students/preview", "file", old, "list.csv")).Content.ReadAsStringAsync()
        );
        var picture = await staff.PostFile("/courses/2/students/preview", "file", [0x89, 0x50, 0, 0, 1, 2], "list.csv");
        Assert.Equal(HttpStatusCode.BadRequest, picture.StatusCode);
        Assert.Contains("not text", await picture.Content.ReadAsStringAsync());
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm("/courses/2/students/preview", ("csv", " "))).StatusCode);
    }

    [Theory]
    [
        InlineData("heads", "seven"),
        InlineData("heads", "70"),
        InlineData("hour-pelvis", "15"),
        InlineData("plumb-r", "NaN"),
        InlineData("pitToSole", "-3")
    ]
    public async Task A_reading_that_no_pencil_makes_is_refused_and_stays_typed(string field, string value)
    {
        var staff = await App.As("edda@saltmarsh.example");
        var answer = await staff.PostForm("/courses/1/sessions/3/card/save", (field, value), ("shoulders", "2.02"));
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        var page = await answer.Content.ReadAsStringAsync();
        Assert.Contains($"value=\"{value}\"", page);
        Assert.Contains("value=\"2.02\"", page);
    }

    [Fact]
    public async Task A_student_reads_the_pose_apart_from_the_instructors_card()
    {
        var student = await App.AsNamed("Jun Averill");
        Assert.DoesNotContain("value=\"7.28\"", await student.Text("/courses/1/sessions/4/card"));
        await student.PostForm("/courses/1/sessions/4/card/save", ("heads", "7,3"), ("hour-pelvis", "3.2"), ("plumb-r", "−0.1"));
        var page = await student.Text("/courses/1/sessions/4/card");
        Assert.Contains("value=\"7.3\"", page);
        Assert.Contains("value=\"-0.1\"", page);
        var staffCard = await App.Read(db =>
            db.PoseReadings.AsNoTracking().SingleAsync(r => r.MeetingId == 4 && r.Reader.Name == "Edda Quill")
        );
        Assert.NotEqual(7.3, staffCard.Card.Heads);
    }

    /// <summary>Directions and breadths turn with the seat, heights don't.</summary>
    [Fact]
    public async Task A_card_read_from_a_far_seat_serves_heights_only()
    {
        var staff = await App.As("edda@saltmarsh.example");
        var sheet = await App.Read(db =>
            db.Sheets.AsNoTracking()
                .Where(s => s.Meeting!.Readings.Any(r => r.Pose == s.PoseKey) && s.Subject != "head" && s.FlatHash != null)
                .OrderBy(s => s.Id)
                .FirstAsync()
        );
        var card = $"/courses/{sheet.CourseId}/sessions/{sheet.MeetingId}/card";
        var seat = await App.Read(async db =>
        {
            var x = await db.Seatings.SingleOrDefaultAsync(s => s.MeetingId == sheet.MeetingId && s.PersonId == sheet.StudentId);
            return x?.Azimuth;
        });
        if (seat is null)
            await App.Read(async db =>
            {
                await new PoseActions(db, SystemClock.Instance).Sit(sheet.MeetingId!.Value, sheet.StudentId, new(18));
                return 0;
            });
        async Task<ILookup<bool, string>> Judged(double away)
        {
            var from = ((seat ?? 18) + away).ToString(CultureInfo.InvariantCulture);
            await staff.PostForm(
                card + "/save",
                ("pose", sheet.PoseKey!),
                ("from", from),
                ("heads", "7.2"),
                ("shoulders", "2.02"),
                ("pitToPubic", "2.6"),
                ("hour-pelvis", "3.2"),
                ("plumb-r", "0.1")
            );
            Assert.Contains($"value=\"{Math.Round(Math.IEEERemainder((seat ?? 18) + away, 360))}\" selected", await staff.Text(card));
            var page = await staff.Text($"/courses/{sheet.CourseId}/critique/{sheet.Id}/bench");
            Assert.Equal(Math.Abs(away) > 20, page.Contains("from this seat: only its heights serve", StringComparison.Ordinal));
            var context = await App.Read(async db =>
                await new SheetContexts(db, new NoReferenceViews()).Of(
                    await db.Sheets.AsNoTracking().SingleAsync(s => s.Id == sheet.Id),
                    await db.Courses.AsNoTracking().SingleAsync(c => c.Id == sheet.CourseId)
                )
            );
            return context
                .Findings.Where(f => f.Standards.Any(s => s.Against == Core.Critiques.Against.PoseCard))
                .ToLookup(f => f.Measure.CardKey is "heads" or "pitToPubic", f => f.Key);
        }
        var (near, far) = (await Judged(-15), await Judged(40));
        Assert.NotEmpty(near[false]);
        Assert.Empty(far[false]);
        Assert.Equal(near[true], far[true]);
    }

    [Fact]
    public async Task Undo_brings_the_timetable_back_as_it_was()
    {
        var staff = await App.As("edda@saltmarsh.example");
        async Task<string> Plan() =>
            System.Text.Json.JsonSerializer.Serialize(
                (await App.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == 1 && m.Number == 6))).Plan.Items
            );
        var before = await Plan();
        var id = await App.Read(db => db.Meetings.Where(m => m.CourseId == 1 && m.Number == 6).Select(m => m.Id).SingleAsync());
        await staff.PostForm($"/courses/1/sessions/{id}/edit", ("row", "1"), ("kind", "Shorter"));
        Assert.NotEqual(before, await Plan());
        await staff.PostForm($"/courses/1/sessions/{id}/undo");
        Assert.Equal(before, await Plan());
        // A meeting that has begun is changed in the room, not here.
        var begun = await staff.PostForm("/courses/1/sessions/1/edit", ("row", "1"), ("kind", "Shorter"));
        Assert.Equal(HttpStatusCode.BadRequest, begun.StatusCode);
    }

    [Fact]
    public async Task A_project_without_meetings_before_its_end_is_refused()
    {
        var staff = await App.As("edda@saltmarsh.example");
        var answer = await staff.PostForm(
            "/courses/1/projects/open",
            ("Form.Template", "portrait-from-sitter"),
            ("Form.Name", "Too early"),
            ("Form.Ends", "2001-01-01"),
            ("Form.Meetings", "4")
        );
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("no meeting of the course", await answer.Content.ReadAsStringAsync(), StringComparison.OrdinalIgnoreCase);
        Assert.False(await App.Read(db => db.Projects.AnyAsync(p => p.Name == "Too early")));
    }

    [Fact]
    public async Task A_grade_is_the_students_to_see_only_after_release()
    {
        var staff = await App.As("edda@saltmarsh.example");
        var work = await App.Read(db =>
            db.ProjectWorks.AsNoTracking().SingleAsync(w => w.Student.Name == "Odile Marsh" && w.Project.Template == "portrait-from-sitter")
        );
        var path = $"/courses/1/projects/way/{work.Id}";
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm(path + "/release")).StatusCode);
        foreach (var row in Core.Projects.ProjectTemplate.Get("portrait-from-sitter").Rubric)
            await staff.PostForm(path + "/level", ("row", row.Id), ("level", "3"));
        var student = await App.AsNamed("Odile Marsh");
        Assert.DoesNotContain("of 100", await student.Text(path));
        await staff.PostForm(path + "/release");
        Assert.Contains("<b>75</b> of 100", await student.Text(path));
        var assistant = await App.As("lorne@saltmarsh.example");
        Assert.Equal(HttpStatusCode.Forbidden, (await assistant.GetAsync(path)).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await assistant.GetAsync("/courses/1/projects/1")).StatusCode);
    }

    [Fact]
    public async Task A_portraits_gate_is_opened_by_the_measures_of_a_head_once_the_sitters_own_are_marked()
    {
        var staff = await App.As("edda@saltmarsh.example");
        var (work, sheet) = await App.Read(async db =>
            (
                await db
                    .ProjectWorks.Where(w => w.Student.Name == "Dara Quist" && w.Project.Template == "portrait-from-sitter")
                    .Select(w => w.Id)
                    .SingleAsync(),
                await db.Sheets.Where(s => s.Student.Name == "Dara Quist" && s.Subject == "head").Select(s => s.Id).SingleAsync()
            )
        );
        var path = $"/courses/1/projects/way/{work}";
        var shut = await staff.PostForm(path + "/measure", ("stage", "tone"));
        Assert.Equal(HttpStatusCode.BadRequest, shut.StatusCode);
        Assert.Contains("does not open it", await shut.Content.ReadAsStringAsync());
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm(path + "/measure", ("stage", "block-in"))).StatusCode);
        foreach (
            System.Text.RegularExpressions.Match m in System.Text.RegularExpressions.Regex.Matches(
                WebUtility.HtmlDecode(await staff.Text($"/courses/1/critique/{sheet}/bench")),
                "\"key\":\"([^\"]+)\",\"on\":\"true\""
            )
        )
            await staff.PostForm($"/courses/1/critique/{sheet}/bench/observe", ("key", m.Groups[1].Value), ("on", "true"));
        Assert.Equal(HttpStatusCode.Redirect, (await staff.PostForm(path + "/measure", ("stage", "tone"))).StatusCode);
        Assert.Contains(
            "inside",
            (await App.Read(db => db.ProjectWorks.AsNoTracking().SingleAsync(w => w.Id == work))).Gates["tone"].MeasuredOn
        );
        // What the sitter looks like is for the instructor to say.
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (
                await (await App.AsNamed("Dara Quist")).PostForm(
                    $"/courses/1/critique/{sheet}/bench/observe",
                    ("key", "H-eye"),
                    ("on", "true")
                )
            ).StatusCode
        );
    }
}
