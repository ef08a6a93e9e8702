using System.Globalization;
using System.Net;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;
using MintHarbor.Core.Shelves;
using MintHarbor.Store.Model;
using NodaTime;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>What a course makes its own of the studio's tables, from the shelf's pages to where it is read.</summary>
public sealed class OwnShelfTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Path = "/courses/1/shelf/own";

    private HarborApp App => fixture.App;

    private static LocalDate Today => SystemClock.Instance.GetCurrentInstant().InUtc().Date;

    private static string Plain(double v) => v.ToString(CultureInfo.InvariantCulture);

    private static (string, string)[] Fields(Exercise e, params (string Name, string Value)[] changed)
    {
        var fields = new List<(string Name, string Value)>
        {
            ("Form.Id", e.Id),
            ("Form.Name", e.Name),
            ("Form.Least", Plain(e.MinMinutes)),
            ("Form.Most", Plain(e.MaxMinutes)),
            ("Form.Look", Plain(e.Look)),
            ("Form.StartFrom", e.StartFrom),
            ("Form.Steps", string.Join("\r\n", e.Steps)),
            ("Form.Rule", e.Rule),
            ("Form.Inspected", string.Join('\n', e.Inspected)),
            ("Form.UsualFaults", string.Join('\n', e.UsualFaults)),
            ("Form.Wall", e.Wall),
            ("Form.Student", e.Student),
            ("Form.Paper", e.Paper),
            ("Form.AllowsPush", e.AllowsPush ? "true" : "false"),
        };
        fields.AddRange(e.Findings.Select(f => ("Form.Findings", f)));
        fields.AddRange(e.Kit.Select(k => ("Form.Kit", k)));
        return [.. fields.Where(f => changed.All(c => c.Name != f.Name)), .. changed];
    }

    private static (string, string)[] Timing(string because, params (string Id, double Minutes)[] numbers) =>
        [
            .. TimingNumbers.All.Select(t =>
                ($"Form[{t.Id}]", Plain(numbers.Any(n => n.Id == t.Id) ? numbers.First(n => n.Id == t.Id).Minutes : t.Studio))
            ),
            ("because", because),
        ];

    private static async Task Went(Task<HttpResponseMessage> post)
    {
        var answer = await post;
        Assert.True(answer.StatusCode == HttpStatusCode.Redirect, await answer.Content.ReadAsStringAsync());
    }

    private static async Task<string> Refused(Task<HttpResponseMessage> post, HttpStatusCode status = HttpStatusCode.BadRequest)
    {
        var answer = await post;
        Assert.Equal(status, answer.StatusCode);
        return WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
    }

    private Task<Course> Course() => App.Read(db => db.Courses.AsNoTracking().SingleAsync(c => c.Id == 1));

    [Fact]
    public async Task A_changed_exercise_is_said_on_walls_to_come_and_in_the_catalogue_and_one_saved_as_it_was_is_none()
    {
        var edda = await App.As(Doors.Instructor);
        var gesture = Exercises.Get("gesture");
        var coming = (
            await App.Read(db => db.Meetings.AsNoTracking().Where(m => m.CourseId == 1 && m.Acts.Count == 0).ToListAsync())
        ).First(m => m.Date > Today && m.Plan.Items.Any(i => i.Exercise == "gesture"));
        await Went(edda.PostForm(Path + "/exercise", Fields(gesture, ("Form.Wall", "from the hip & not the wrist"), ("Form.Most", "4"))));
        var kept = (await Course()).Shelf.GetExercise("gesture");
        Assert.Equal(("from the hip & not the wrist", 4, "the course's own"), (kept.Wall, kept.MaxMinutes, kept.Source));
        Assert.Equal(gesture.Steps, kept.Steps);
        Assert.Contains("from the hip &amp; not the wrist", await edda.Text(Path + "?part=exercises"));
        Assert.Contains("0.5–4 min", WebUtility.HtmlDecode(await (await App.As(Doors.Victim)).Text("/courses/1/practice")));
        var now = await App.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == coming.Id));
        var lines = now.Evening.Lines.Where(l => l.Item.Exercise == "gesture").ToList();
        Assert.NotEmpty(lines);
        Assert.All(lines, l => Assert.Contains("from the hip & not the wrist", l.OnWall));
        // Minutes stay as they were planned.
        Assert.Equal(coming.Plan.Items.Select(i => (i.At, i.Minutes)), now.Plan.Items.Select(i => (i.At, i.Minutes)));
        // One that has begun says what it said.
        var begun = await App.Read(db => db.Meetings.AsNoTracking().Where(m => m.CourseId == 1 && m.Acts.Count > 0).ToListAsync());
        Assert.All(begun.SelectMany(m => m.Plan.Items), i => Assert.Null(i.Own));
        await Went(edda.PostForm(Path + "/exercise", Fields(gesture)));
        Assert.DoesNotContain((await Course()).Shelf.Own.Exercises, e => e.Id == "gesture");
        var back = await App.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == coming.Id));
        Assert.All(back.Evening.Lines.Where(l => l.Item.Exercise == "gesture"), l => Assert.Contains(gesture.Wall, l.OnWall));
    }

    [Fact]
    public async Task An_exercise_of_the_courses_own_is_planned_given_and_handed_in_to()
    {
        var edda = await App.As(Doors.Instructor);
        await Went(
            edda.PostForm(
                Path + "/exercise",
                Fields(
                    Exercises.Get("contour"),
                    ("Form.Another", "true"),
                    ("Form.Name", "Slow edge"),
                    ("Form.Wall", "one edge, no haste"),
                    ("Form.Least", "10"),
                    ("Form.Most", "15")
                )
            )
        );
        Assert.Equal("Slow edge", (await Course()).Shelf.GetExercise("own-slow-edge").Name);
        foreach (var page in new[] { "practice", "sessions/plan", "practice/home" })
            Assert.True((await edda.GetAsync($"/courses/1/{page}")).IsSuccessStatusCode);
        Assert.Contains("Slow edge", await edda.Text("/courses/1/practice"));
        Assert.Contains("own-slow-edge", await (await App.As(Doors.Victim)).Text("/courses/1/critique/submit"));
        await Went(
            edda.PostForm(
                "/courses/1/practice/assign",
                ("Form.What", "own-slow-edge"),
                ("Form.Minutes", "12"),
                ("Form.Due", DateTime.UtcNow.AddDays(3).ToString("yyyy-MM-ddTHH:mm", CultureInfo.InvariantCulture))
            )
        );
        Assert.Contains("Slow edge", await (await App.As(Doors.Victim)).Text("/courses/1/today"));
        // Another course knows nothing of it.
        var other = await App.Read(db =>
            db.Courses.Where(c => c.Id != 1 && c.Members.Any(m => m.Person.Email == Doors.Instructor)).Select(c => c.Id).FirstAsync()
        );
        Assert.DoesNotContain("Slow edge", await edda.Text($"/courses/{other}/practice"));
        Assert.Contains(
            "unknown exercise",
            await Refused(
                edda.PostForm(
                    $"/courses/{other}/practice/assign",
                    ("Form.What", "own-slow-edge"),
                    ("Form.Minutes", "12"),
                    ("Form.Due", DateTime.UtcNow.AddDays(3).ToString("yyyy-MM-ddTHH:mm", CultureInfo.InvariantCulture))
                )
            ),
            StringComparison.OrdinalIgnoreCase
        );
        // Taken off the shelf, what was given still has a page.
        await Went(edda.PostForm(Path + "/exerciseback?part=exercises", ("exercise", "own-slow-edge")));
        var given = await App.Read(db => db.Assignments.Where(a => a.Exercise == "own-slow-edge").Select(a => a.Id).FirstAsync());
        Assert.True((await edda.GetAsync($"/courses/1/practice/exercise/{given}")).IsSuccessStatusCode);
    }

    [Fact]
    public async Task A_fault_of_the_courses_own_is_found_by_two_letters_and_said_in_its_words()
    {
        var edda = await App.As(Doors.Instructor);
        await Went(
            edda.PostForm(
                Path + "/fault",
                ("Form.Id", ""),
                ("Form.Name", "Zigzag hem"),
                ("Form.Family", "Edges"),
                ("Form.Where", "along the drapery"),
                ("Form.Sign", "the hem runs in one zigzag"),
                ("Form.Principle", "Cloth falls in three kinds of fold."),
                ("Form.Remedy", "Name each fold before you draw it."),
                ("Form.Drill", ""),
                ("Form.Exercise", "contour")
            )
        );
        var sheet = await App.Read(db =>
            db.Sheets.Where(s => s.CourseId == 1 && s.State == SheetState.Waiting).OrderBy(s => s.Id).Select(s => s.Id).FirstAsync()
        );
        var bench = $"/courses/1/critique/{sheet}/bench";
        Assert.Contains("Zigzag hem", await edda.Text(bench + "/faults?q=zi"));
        Assert.True(
            (await edda.PostForm(bench + "/fault", ("fault", "own-zigzag-hem"))).StatusCode is HttpStatusCode.Redirect or HttpStatusCode.OK
        );
        var remark = (await App.Read(db => db.Sheets.Where(s => s.Id == sheet).Select(s => s.Remarks).SingleAsync())).Single(r =>
            r.FaultId == "own-zigzag-hem"
        );
        Assert.Equal(("Cloth falls in three kinds of fold.", "Name each fold before you draw it."), (remark.Why, remark.Next));
        Assert.Contains(
            "what one sees",
            await Refused(edda.PostForm(Path + "/fault", ("Form.Name", "No sign"))),
            StringComparison.OrdinalIgnoreCase
        );
        await Refused(edda.PostForm(Path + "/fault", ("Form.Id", "nobody"), ("Form.Name", "x")));
    }

    [Fact]
    public async Task Rest_asks_more_of_a_model_only_with_the_word_that_says_why_and_evenings_are_held_to_it()
    {
        var edda = await App.As(Doors.Instructor);
        var refused = await Refused(edda.PostForm(Path + "/timing", Timing("", ("stretch", 30))));
        Assert.Contains("30 min asks more of a model than the studio's 25", refused);
        Assert.Contains("value=\"30\"", refused);
        Assert.Contains("45", await Refused(edda.PostForm(Path + "/timing", Timing("why", ("stretch", 300)))));
        await Refused(edda.PostForm(Path + "/timing", ("Form[stretch]", "soon")));
        await Went(edda.PostForm(Path + "/timing", Timing("", ("stretch", 15), ("standing", 10))));
        var shelf = (await Course()).Shelf;
        Assert.Equal((15, 10), (shelf.Timing.StretchMinutes, shelf.Timing.Limit(Core.Figure.Strain.Standing).LimitMinutes));
        Assert.Contains("At most <b>15 min</b> on end", await edda.Text("/courses/1/sessions/plan"));
        var plan = await edda.PostForm(
            "/courses/1/sessions/plan",
            ("Form.Date", DateTime.UtcNow.AddDays(200).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)),
            ("Form.StartsAt", "18:00"),
            ("Form.Minutes", "150"),
            ("Form.Purpose", "Proportion"),
            ("Form.Model", "Person"),
            ("Form.Draped", "true"),
            ("Form.Students", "8"),
            ("keep", "0")
        );
        var text = WebUtility.HtmlDecode(await plan.Content.ReadAsStringAsync());
        Assert.True(plan.StatusCode is HttpStatusCode.OK or HttpStatusCode.Redirect, text);
        var coming = await App.Read(db => db.Meetings.AsNoTracking().Where(m => m.CourseId == 1 && m.Acts.Count == 0).ToListAsync());
        Assert.All(coming, m => Assert.Equal(15, m.Request.Known.Timing!.StretchMinutes));
        // Back to the studio's tables is another version.
        await Went(edda.PostForm(Path + "/timing", Timing("")));
        Assert.Equal(25, (await Course()).Shelf.Timing.StretchMinutes);
    }

    [Fact]
    public async Task Two_who_change_the_shelf_at_once_are_told_of_one_another_and_nothing_typed_is_lost()
    {
        var edda = await App.As(Doors.Instructor);
        var page = await edda.Text(Path + "?part=kit");
        var stood = WebUtility.HtmlDecode(
            System.Text.RegularExpressions.Regex.Match(page, "name=\"stood\" value=\"([^\"]*)\"").Groups[1].Value
        );
        (string, string)[] Kit(string price) =>
            [
                .. Materials.List.Items.SelectMany(
                    (m, n) =>
                        new[]
                        {
                            ($"Form[{n}].Id", m.Id),
                            ($"Form[{n}].Buys", m.Buys),
                            ($"Form[{n}].Lasts", Plain(m.Lasts)),
                            ($"Form[{n}].Cost", n == 0 ? price : Plain(m.Cost)),
                        }
                ),
                ("stood", stood),
            ];
        await Went(edda.PostForm(Path + "/kit", Kit("0.12")));
        var clash = await Refused(edda.PostForm(Path + "/kit", Kit("0.19")), HttpStatusCode.Conflict);
        Assert.Contains("kit and prices, Edda Quill", clash);
        Assert.Contains("value=\"0.19\"", clash);
        Assert.Equal(0.12, (await Course()).Shelf.Materials.Find("newsprint")!.Cost);
        Assert.Contains("0.12", await edda.Text(Path + "?part=kit"));
        await Refused(edda.PostForm(Path + "/kit", [.. Kit("-3").SkipLast(1)]));
    }

    [Fact]
    public async Task Cautions_schools_and_drills_are_read_by_students_and_kept_by_version()
    {
        var edda = await App.As(Doors.Instructor);
        await Went(
            edda.PostForm(
                Path + "/cautions",
                ("Form[0].Id", ""),
                ("Form[0].When", "always"),
                ("Form[0].Says", "The stairs are wet when it rains.")
            )
        );
        await Went(edda.PostForm(Path + "/schools", ("Form[eraser]", "never"), ("Form[grip]", "each")));
        await Went(edda.PostForm(Path + "/drills", ("Form[0].Kind", "clock-hand"), ("Form[0].Easy", "9"), ("Form[0].Hard", "3")));
        var maren = await App.As(Doors.Victim);
        Assert.Contains("The stairs are wet", await maren.Text(Path + "?part=cautions"));
        Assert.Contains("The stairs are wet", await maren.Text("/courses/1/shelf"));
        Assert.Contains("No eraser", await maren.Text(Path + "?part=exercises"));
        await Went(maren.PostForm("/courses/1/practice/begin", ("kind", "clock-hand")));
        var round = await App.Read(db =>
            db.DrillRounds.AsNoTracking()
                .Where(r => r.CourseId == 1 && r.Student.Email == Doors.Victim)
                .OrderByDescending(r => r.Id)
                .FirstAsync()
        );
        if (round.State.Answers.Count == 0)
            Assert.Equal(new DrillLimit(9, 3), round.State.Limit);
        var versions = await App.Read(db =>
            db.ShelfVersions.AsNoTracking().Where(v => v.CourseId == 1).OrderBy(v => v.Number).ToListAsync()
        );
        Assert.Equal(Enumerable.Range(1, versions.Count), versions.Select(v => v.Number));
        var cautions = versions.First(v => v.What == "cautions");
        Assert.DoesNotContain("eraser", cautions.Shelf.Schools.Keys);
        await Went(edda.PostForm(Path + "/back?part=schools", ("version", $"{cautions.Number}")));
        Assert.Empty((await Course()).Shelf.HouseLines);
        await Refused(edda.PostForm(Path + "/back?part=schools", ("version", "99999")));
        Assert.Contains("shelf", await edda.Text("/courses/1/log"));
    }

    [Fact]
    public async Task It_goes_out_and_in_as_json_to_another_course_and_is_the_instructors_alone()
    {
        var edda = await App.As(Doors.Instructor);
        await Went(edda.PostForm(Path + "/exercise", Fields(Exercises.Get("mass"), ("Form.Wall", "as one dark shape, please"))));
        var json = await edda.Text(Path + "/json");
        Assert.Contains("as one dark shape, please", json);
        var other = await App.Read(db =>
            db.Courses.Where(c =>
                    c.Id != 1
                    && c.EndedAt == null
                    && c.Members.Any(m => m.Person.Email == Doors.Instructor && m.Role == CourseRole.Instructor)
                )
                .Select(c => c.Id)
                .FirstAsync()
        );
        var came = await edda.PostFile($"/courses/{other}/shelf/own/import", "file", Encoding.UTF8.GetBytes(json), "shelf.json");
        Assert.True(came.StatusCode == HttpStatusCode.Redirect, await came.Content.ReadAsStringAsync());
        Assert.Contains("as one dark shape, please", await edda.Text($"/courses/{other}/shelf/own"));
        await Went(edda.PostForm($"/courses/{other}/shelf/own/back", ("version", "0")));
        Assert.DoesNotContain("as one dark shape, please", await edda.Text($"/courses/{other}/shelf/own"));
        await Went(edda.PostForm($"/courses/{other}/shelf/own/take", ("from", "1")));
        Assert.Contains("as one dark shape, please", await edda.Text($"/courses/{other}/shelf/own"));
        await Refused(edda.PostForm($"/courses/{other}/shelf/own/take", ("from", "999")));
        await Refused(edda.PostFile(Path + "/import", "file", Encoding.UTF8.GetBytes("{\"naps\":true}"), "a.json"));
        await Refused(edda.PostFile(Path + "/import", "file", [0xff, 0xfe, 0, 1], "a.json"));
        var maren = await App.As(Doors.Victim);
        foreach (var part in new[] { "exercises", "faults", "drills", "timing", "kit", "cautions", "schools", "nothing" })
            Assert.DoesNotContain("<button class=\"btn\"", await maren.Text($"{Path}?part={part}&id=gesture"));
        Assert.Equal(HttpStatusCode.Forbidden, (await maren.GetAsync(Path + "/json")).StatusCode);
        foreach (var handler in new[] { "exercise", "fault", "drills", "timing", "kit", "cautions", "schools", "back", "import", "take" })
            Assert.Equal(HttpStatusCode.Forbidden, (await maren.PostForm($"{Path}/{handler}", ("x", "y"))).StatusCode);
    }
}
