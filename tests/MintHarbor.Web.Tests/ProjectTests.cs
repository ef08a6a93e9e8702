using System.Net;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Projects;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using NodaTime;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Projects from their writing to the released grade.</summary>
public sealed partial class ProjectTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Edda = Doors.Instructor,
        Maren = Doors.Victim,
        Bram = Doors.Other;

    private HarborApp App => fixture.App;

    private static readonly (string, string)[] Rope =
    [
        ("Form.Name", "Rope and net"),
        ("Form.About", "Two textures in one light."),
        ("Form.Reference", "Object"),
        ("Form.Kit", "kneaded eraser"),
        ("Form.Stages[0].Name", "Thumbnails"),
        ("Form.Stages[0].Share", "30"),
        ("Form.Stages[0].HandIn", "Four thumbnails."),
        ("Form.Stages[0].Inspects", "margins\nfigure and ground"),
        ("Form.Stages[0].Exercises", "thumbnails"),
        ("Form.Stages[1].Name", "Long drawing"),
        ("Form.Stages[1].Share", "70"),
        ("Form.Stages[1].Gate", "one thumbnail chosen\r\n\r\n it says why "),
        ("Form.Stages[1].Word", "true"),
        ("Form.Stages[1].Mix", "All"),
        ("Form.Stages[1].HandIn", "The long drawing."),
        ("Form.Stages[1].By", "EyeThenTool"),
        ("Form.Rubric[0].Name", "Texture"),
        ("Form.Rubric[0].Weight", "60"),
        ("Form.Rubric[0].Levels[0]", "one grey"),
        ("Form.Rubric[0].Levels[1]", "hair everywhere"),
        ("Form.Rubric[0].Levels[2]", "one texture"),
        ("Form.Rubric[0].Levels[3]", "two textures"),
        ("Form.Rubric[0].Levels[4]", "two textures, one light"),
        ("Form.Rubric[1].Name", "Placement"),
        ("Form.Rubric[1].Weight", "40"),
        ("Form.Rubric[1].Levels[0]", "cut off"),
        ("Form.Rubric[1].Levels[1]", "small in a corner"),
        ("Form.Rubric[1].Levels[2]", "on the page"),
        ("Form.Rubric[1].Levels[3]", "margins chosen"),
        ("Form.Rubric[1].Levels[4]", "margins work"),
    ];

    private static (string, string)[] Named(string name, params (string Name, string Value)[] more) =>
        [.. Rope.Where(f => f.Item1 != "Form.Name" && more.All(m => m.Name != f.Item1)), ("Form.Name", name), .. more];

    private async Task<int> Write(string name)
    {
        var edda = await App.As(Edda);
        var kept = await edda.PostForm("/courses/1/projects/plan/save", Named(name));
        Assert.Equal(HttpStatusCode.Redirect, kept.StatusCode);
        return await App.Read(db => db.ProjectPlans.Where(p => p.Name == name).Select(p => p.Id).SingleAsync());
    }

    private async Task<int> Open(string name, string template, params (string, string)[] more)
    {
        var edda = await App.As(Edda);
        var end = await App.Read(db => db.Meetings.Where(m => m.CourseId == 1).MaxAsync(m => m.Date));
        var opened = await edda.PostForm(
            "/courses/1/projects/open",
            [("Form.Template", template), ("Form.Name", name), ("Form.Ends", $"{end:uuuu-MM-dd}"), ("Form.Meetings", "3"), .. more]
        );
        Assert.Equal(HttpStatusCode.Redirect, opened.StatusCode);
        return await App.Read(db => db.Projects.Where(p => p.Name == name).Select(p => p.Id).SingleAsync());
    }

    private Task<ProjectWork> Work(int project, string mail) =>
        App.Read(db =>
            db.ProjectWorks.AsNoTracking().Include(w => w.Project).SingleAsync(w => w.ProjectId == project && w.Student.Email == mail)
        );

    private async Task<string> Refused(Task<HttpResponseMessage> post)
    {
        var answer = await post;
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        return WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
    }

    private static async Task Went(Task<HttpResponseMessage> post) => Assert.Equal(HttpStatusCode.Redirect, (await post).StatusCode);

    [Fact]
    public async Task A_project_is_written_kept_changed_and_what_is_open_does_not_move()
    {
        var edda = await App.As(Edda);
        var id = await Write("Rope and net");
        var plan = (await App.Read(db => db.ProjectPlans.AsNoTracking().SingleAsync(p => p.Id == id))).Plan;
        Assert.Equal(["thumbnails", "long-drawing"], plan.Stages.Select(s => s.Id));
        Assert.Equal(["one thumbnail chosen", "it says why"], plan.Stages[1].Gate);
        Assert.Equal((true, GateMix.All, MeasuringBy.EyeThenTool), (plan.Stages[1].Word, plan.Stages[1].Mix, plan.Stages[1].By));
        Assert.Equal(["margins", "figure and ground"], plan.Stages[0].Inspects);
        Assert.Equal((60, "two textures, one light"), (plan.Rubric[0].Weight, plan.Rubric[0].Levels[4]));
        var project = await Open("Rope, opened", $"own-{id}");
        // The name of a stage changes, its id stays; the open project keeps what it was opened with.
        await Went(
            edda.PostForm(
                $"/courses/1/projects/plan/{id}/save",
                Named("Rope and net", ("Form.Stages[1].Name", "The long one"), ("Form.Stages[1].Id", "long-drawing"))
            )
        );
        plan = (await App.Read(db => db.ProjectPlans.AsNoTracking().SingleAsync(p => p.Id == id))).Plan;
        Assert.Equal(("long-drawing", "The long one"), (plan.Stages[1].Id, plan.Stages[1].Name));
        Assert.Contains("Long drawing", await edda.Text($"/courses/1/projects/{project}"));
        // Taken off the list, it goes on.
        await Went(edda.PostForm($"/courses/1/projects/plan/{id}/remove"));
        Assert.Equal(HttpStatusCode.OK, (await edda.GetAsync($"/courses/1/projects/{project}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await edda.GetAsync($"/courses/1/projects/plan/{id}")).StatusCode);
    }

    [Theory]
    [
        InlineData("Form.Stages[0].Share", "31", "101 %"),
        InlineData("Form.Stages[1].Name", "", "the name is missing"),
        InlineData("Form.Stages[0].Exercises", "juggling", "unknown 'juggling'"),
        InlineData("Form.Rubric[0].Levels[2]", "", "level 2 of Texture has no words"),
        InlineData("Form.Stages[0].Measured", "F-heads", "the project has no subject"),
        InlineData("Form.Stages[0].Share", "many", "can't be read")
    ]
    public async Task What_is_wrong_with_a_plan_is_said_and_nothing_typed_is_lost(string field, string value, string says)
    {
        var edda = await App.As(Edda);
        var text = await Refused(edda.PostForm("/courses/1/projects/plan/save", Named("Never kept", (field, value))));
        Assert.Contains(says, text, StringComparison.OrdinalIgnoreCase);
        Assert.Contains("Two textures in one light.", text);
        Assert.Contains("one thumbnail chosen", text);
        Assert.False(await App.Read(db => db.ProjectPlans.AnyAsync(p => p.Name == "Never kept")));
    }

    [Fact]
    public async Task Parts_come_and_go_without_being_kept()
    {
        var edda = await App.As(Edda);
        async Task<string> Shape(string what)
        {
            var answer = await edda.PostForm("/courses/1/projects/plan/shape", [.. Rope, ("do", what)]);
            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            return WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        }
        Assert.Contains("name=\"Form.Stages[2].Name\"", await Shape("stage"));
        var moved = await Shape("up-1");
        Assert.True(
            moved.IndexOf("value=\"Long drawing\"", StringComparison.Ordinal)
                < moved.IndexOf("value=\"Thumbnails\"", StringComparison.Ordinal)
        );
        Assert.DoesNotContain("value=\"Thumbnails\"", await Shape("drop-0"));
        Assert.DoesNotContain("value=\"Placement\"", await Shape("rowdrop-1"));
        Assert.Contains("name=\"Form.Rubric[2].Name\"", await Shape("row"));
        await Refused(edda.PostForm("/courses/1/projects/plan/shape", [.. Rope, ("do", "up-9")]));
        await Refused(edda.PostForm("/courses/1/projects/plan/shape", [.. Rope, ("do", "explode")]));
    }

    [Fact]
    public async Task A_plan_goes_out_as_json_comes_in_and_goes_to_another_course()
    {
        var edda = await App.As(Edda);
        var id = await Write("To be copied");
        var json = await edda.Text($"/courses/1/projects/json?from=own-{id}");
        Assert.Contains("named To be copied already", await Refused(Import(json)));
        await Went(Import(json.Replace("To be copied", "Come back")));
        Assert.Equal(
            TemplateCheck.Write(await Plan("To be copied") with { Name = "Come back" }),
            TemplateCheck.Write(await Plan("Come back"))
        );
        Assert.Contains("ine 1 can", await Refused(Import("{ no json")));
        Assert.Contains("o file was sent", await Refused(edda.PostForm("/courses/1/projects/import")));
        // The product's own goes out by the same form.
        Assert.Equal("portrait-from-sitter", TemplateCheck.Read(await edda.Text("/courses/1/projects/json?from=portrait-from-sitter")).Id);
        await Went(edda.PostForm($"/courses/1/projects/plan/{id}/copy", ("to", "2")));
        await Went(edda.PostForm($"/courses/1/projects/plan/{id}/copy", ("to", "2")));
        Assert.Equal(
            ["To be copied", "To be copied 2"],
            await App.Read(db => db.ProjectPlans.Where(p => p.CourseId == 2).OrderBy(p => p.Name).Select(p => p.Name).ToListAsync())
        );
        await Refused(edda.PostForm($"/courses/1/projects/plan/{id}/copy", ("to", "999")));

        Task<HttpResponseMessage> Import(string text) =>
            edda.PostFile("/courses/1/projects/import", "file", Encoding.UTF8.GetBytes(text), "rope.json");
        Task<ProjectTemplate> Plan(string name) =>
            App.Read(db => db.ProjectPlans.Where(p => p.CourseId == 1 && p.Name == name).Select(p => p.Plan).SingleAsync());
    }

    [Fact]
    public async Task Whether_it_fits_is_said_before_and_opening_names_the_nearest()
    {
        var edda = await App.As(Edda);
        var (first, last) = await App.Read(async db =>
            (
                await db.Meetings.Where(m => m.CourseId == 1).MinAsync(m => m.Date),
                await db.Meetings.Where(m => m.CourseId == 1).MaxAsync(m => m.Date)
            )
        );
        var id = await App.Read(async db =>
        {
            var p = new ProjectPlan
            {
                CourseId = 1,
                Name = "Much at the start",
                Plan = new(
                    "much",
                    "Much at the start",
                    "",
                    [new("a", "Block-in", 10, "", []) { LeastMinutes = 25 }, new("b", "Tone", 90, "", [])],
                    [new("r", "R", 1, ["a", "b", "c", "d", "e"])]
                ),
            };
            db.ProjectPlans.Add(p);
            await db.SaveChangesAsync();
            return p.Id;
        });
        (string, string)[] Form(LocalDate end, int meetings, string home = "0") =>
            [
                ("Form.Template", $"own-{id}"),
                ("Form.Name", "Does it fit"),
                ("Form.Ends", $"{end:uuuu-MM-dd}"),
                ("Form.Meetings", $"{meetings}"),
                ("Form.HomeHours", home),
            ];
        // A tenth of one evening is never 25 min.
        var no = WebUtility.HtmlDecode(await (await edda.PostForm("/courses/1/projects/fit", Form(last, 1))).Content.ReadAsStringAsync());
        Assert.Contains("Block-in lacks", no);
        Assert.Contains("Nearest: over", no);
        var refused = await Refused(edda.PostForm("/courses/1/projects/open", Form(last, 1)));
        Assert.Contains("Block-in lacks", refused);
        Assert.Contains("it fits", refused);
        var yes = await (await edda.PostForm("/courses/1/projects/fit", Form(last, 6))).Content.ReadAsStringAsync();
        Assert.Contains("It fits", yes);
        Assert.Contains("1860 minutes a week at home", await Refused(edda.PostForm("/courses/1/projects/open", Form(last, 2, "31"))));
        Assert.Contains("on or before the end", await Refused(edda.PostForm("/courses/1/projects/open", Form(first.PlusDays(-1), 2))));
        Assert.False(await App.Read(db => db.Projects.AnyAsync(p => p.Name == "Does it fit")));
    }

    private async Task<HttpResponseMessage> HandIn(string mail, string stage, int number)
    {
        var student = await App.As(mail);
        return await student.PostFile(
            "/courses/1/critique/submit/send",
            "Form.Photo",
            SheetCamera
                .Take(SimulatedHand.Draw("stand-male-0", PaperSize.Find("A3")!.Turned, 250, new(), 0.6, number), 750, 1000, 0.5, number)
                .Jpeg,
            "sheet.jpg",
            ("Form.Question", "Does it hold?"),
            ("Form.SelfReview", "Much holds."),
            ("Form.Exercise", "sitting"),
            ("Form.Pose", "other"),
            ("Form.View", "front"),
            ("Form.Paper", "A3"),
            ("Form.Kind", "photo"),
            ("Form.Stage", stage),
            ("Form.Key", $"{Guid.NewGuid()}")
        );
    }

    [Fact]
    public async Task A_sheet_belongs_to_a_stage_that_is_open_and_ones_own()
    {
        var project = await Open("Rope by stage", $"own-{await Write("Rope by stage")}");
        var (mine, other) = (await Work(project, Maren), await Work(project, Bram));
        Assert.Equal(HttpStatusCode.Redirect, (await HandIn(Maren, $"{mine.Id}:thumbnails", 1)).StatusCode);
        var sheet = await App.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.WorkId == mine.Id));
        Assert.Equal("thumbnails", sheet.StageId);
        Assert.Null((await Work(project, Maren)).HandedInAt);
        // The long drawing's gate is shut; another's way, another stage, another word are none.
        Assert.Contains("one thumbnail chosen", await Refused(HandIn(Maren, $"{mine.Id}:long-drawing", 2)));
        Assert.Contains("not yours", await Refused(HandIn(Maren, $"{other.Id}:thumbnails", 2)));
        Assert.Contains("nknown stage", await Refused(HandIn(Maren, $"{mine.Id}:finish", 2)));
        Assert.Contains("is no stage", await Refused(HandIn(Maren, "thumbnails", 2)));
        Assert.Equal(1, await App.Read(db => db.Sheets.CountAsync(s => s.WorkId == mine.Id)));
        var (edda, maren) = (await App.As(Edda), await App.As(Maren));
        var way = $"/courses/1/projects/way/{mine.Id}";
        // Both see it on the way; the class sees it in its cell.
        foreach (var client in new[] { edda, maren })
            Assert.Contains($"/courses/1/critique/{sheet.Id}", await client.Text(way));
        Assert.Contains($"/courses/1/critique/{sheet.Id}", await edda.Text($"/courses/1/projects/{project}"));
        // All of list and word are wanted here.
        foreach (var point in new[] { "one thumbnail chosen", "it says why" })
            await Went(edda.PostForm(way + "/tick", ("stage", "long-drawing"), ("point", point), ("on", "true")));
        await Went(edda.PostForm(way + "/finish", ("stage", "thumbnails")));
        Assert.Contains("the instructor's word", await Refused(edda.PostForm(way + "/finish", ("stage", "long-drawing"))));
        await Went(edda.PostForm(way + "/word", ("stage", "long-drawing"), ("given", "true")));
        Assert.Contains("the word of Edda", WebUtility.HtmlDecode(await maren.Text(way)));
        // The last stage's first sheet is the hand-in.
        Assert.Equal(HttpStatusCode.Redirect, (await HandIn(Maren, $"{mine.Id}:long-drawing", 3)).StatusCode);
        Assert.NotNull((await Work(project, Maren)).HandedInAt);
        // Thrown away again, nothing is handed in: nobody keeps a day by a sheet that is gone.
        var gone = await App.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.WorkId == mine.Id && s.StageId == "long-drawing"));
        await Went(maren.PostForm($"/courses/1/critique/{gone.Id}/corners/throw", ("said", gone.Code)));
        Assert.Null((await Work(project, Maren)).HandedInAt);
        await Went(edda.PostForm(way + "/finish", ("stage", "long-drawing")));
        // A student ticks nothing and gives no word.
        foreach (var handler in new[] { "tick", "word", "finish", "level", "extend", "stand", "comment", "handedin", "redo", "release" })
            Assert.Equal(HttpStatusCode.Forbidden, (await maren.PostForm($"{way}/{handler}", ("stage", "thumbnails"))).StatusCode);
    }

    [Fact]
    public async Task Measures_open_a_gate_by_the_projects_own_sheets_alone()
    {
        var edda = await App.As(Edda);
        var project = await Open("A second portrait", "portrait-from-sitter");
        var work = await App.Read(db =>
            db.ProjectWorks.Where(w => w.ProjectId == project && w.Student.Name == "Dara Quist").Select(w => w.Id).SingleAsync()
        );
        // She has a head in the other portrait: it opens nothing here.
        Assert.Contains(
            "o head has been handed in to Block-in, Checking and restating and Tone yet",
            await Refused(edda.PostForm($"/courses/1/projects/way/{work}/measure", ("stage", "tone")))
        );
    }

    [Fact]
    public async Task Late_extended_again_excused_incomplete_and_shown()
    {
        var project = await Open(
            "Rope, graded",
            $"own-{await Write("Rope, graded")}",
            ("Form.Grace", "1"),
            ("Form.PerDay", "4"),
            ("Form.Most", "10"),
            ("Form.Redo", "Averages"),
            ("Form.Scale", "letters")
        );
        // As if it had ended ten days ago.
        var today = SystemClock.Instance.GetCurrentInstant().InUtc().Date;
        await App.Read(db =>
            db.Projects.Where(p => p.Id == project).ExecuteUpdateAsync(u => u.SetProperty(p => p.Ends, today.PlusDays(-10)))
        );
        var (edda, maren, id) = (await App.As(Edda), await App.As(Maren), (await Work(project, Maren)).Id);
        var way = $"/courses/1/projects/way/{id}";
        async Task Levels(int texture, int placement, bool again = false)
        {
            foreach (var (row, level) in new[] { ("texture", texture), ("placement", placement) })
                await Went(edda.PostForm(way + "/level", ("row", row), ("level", $"{level}"), ("again", again ? "true" : "false")));
        }
        Assert.Contains("over the end", await edda.Text(way));
        Assert.Contains("10 days late", await edda.Text($"/courses/1/projects/{project}"));
        await Went(edda.PostForm(way + "/handedin", ("on", $"{today.PlusDays(-7):uuuu-MM-dd}")));
        await Refused(edda.PostForm(way + "/handedin", ("on", $"{today.PlusDays(9):uuuu-MM-dd}")));
        await Levels(3, 2);
        // 100·(60·3 + 40·2)/400 = 65; three days late, one free, four a day: 57.
        Assert.Contains("3 days late, 1 free, 4 a day, 10 at most: 65 − 8 = 57", WebUtility.HtmlDecode(await edda.Text(way)));
        // An end of her own two days later: one day late, which is free.
        Assert.Contains("without a reason", await Refused(edda.PostForm(way + "/extend", ("to", $"{today.PlusDays(-8):uuuu-MM-dd}"))));
        await Went(edda.PostForm(way + "/extend", ("to", $"{today.PlusDays(-8):uuuu-MM-dd}"), ("reason", "the ferry did not run")));
        Assert.Contains("rounded 65", await edda.Text(way));
        Assert.Contains("the ferry did not run", await maren.Text(way));
        Assert.Contains(
            "lies before the end",
            await Refused(edda.PostForm(way + "/extend", ("to", $"{today.PlusDays(-30):uuuu-MM-dd}"), ("reason", "so")))
        );
        // Handed in again: averaged, as the project says. (65 + 90) ÷ 2 = 77.5, half up.
        await Went(edda.PostForm(way + "/redo"));
        await Levels(4, 3, again: true);
        Assert.Contains("(65 + 90) ÷ 2 = 77.5", WebUtility.HtmlDecode(await edda.Text(way)));
        Assert.Contains("3, again 4", await edda.Text($"/courses/1/projects/{project}"));
        await Went(edda.PostForm(way + "/comment", ("comment", "The net hangs now.")));
        Assert.DoesNotContain("The net hangs now.", await maren.Text(way));
        await Went(edda.PostForm(way + "/stand", ("standing", "Incomplete"), ("reason", "the four thumbnails")));
        Assert.Contains("incomplete", await Refused(edda.PostForm(way + "/release")), StringComparison.OrdinalIgnoreCase);
        Assert.Contains("You still owe the four thumbnails", WebUtility.HtmlDecode(await maren.Text(way)));
        await Refused(edda.PostForm(way + "/stand", ("standing", "Excused")));
        await Went(edda.PostForm(way + "/stand", ("standing", "Graded")));
        await Went(edda.PostForm(way + "/release"));
        var shown = WebUtility.HtmlDecode(await maren.Text(way));
        Assert.Contains("<b>B</b>, 78 of 100", shown);
        Assert.Contains("The net hangs now.", shown);
        // Every change stands in its history, with who and why; the student reads grades, not the log.
        var history = WebUtility.HtmlDecode(await edda.Text(way));
        Assert.Contains("redo's level of texture", history);
        Assert.Contains("the ferry did not run", history);
        Assert.DoesNotContain("every change of it", shown);
        // Released, nothing of it moves.
        foreach (
            var (handler, fields) in new (string, (string, string)[])[]
            {
                ("extend", [("to", $"{today:uuuu-MM-dd}"), ("reason", "so")]),
                ("handedin", []),
                ("redo", []),
                ("comment", [("comment", "x")]),
                ("stand", [("standing", "Excused"), ("reason", "so")]),
                ("word", [("stage", "long-drawing"), ("given", "true")]),
            }
        )
            Assert.Contains("released", await Refused(edda.PostForm($"{way}/{handler}", fields)));
        // Excused: no number, and it can be shown.
        var bram = $"/courses/1/projects/way/{(await Work(project, Bram)).Id}";
        await Went(edda.PostForm(bram + "/stand", ("standing", "Excused"), ("reason", "a broken wrist")));
        await Went(edda.PostForm(bram + "/release"));
        Assert.Contains("a broken wrist", await (await App.As(Bram)).Text(bram));
        // His history is his own.
        var his = await edda.Text(bram);
        Assert.Contains("every change of it", his);
        Assert.DoesNotContain("the ferry did not run", his);
    }

    [Fact]
    public async Task A_whole_class_gets_another_end_but_those_who_have_their_grade()
    {
        var edda = await App.As(Edda);
        var project = await Open("Rope for all", $"own-{await Write("Rope for all")}");
        var maren = await Work(project, Maren);
        await App.Read(db =>
            db.ProjectWorks.Where(w => w.Id == maren.Id)
                .ExecuteUpdateAsync(u => u.SetProperty(w => w.ReleasedAt, SystemClock.Instance.GetCurrentInstant()))
        );
        var to = maren.Project.Ends.PlusDays(7);
        await Went(edda.PostForm($"/courses/1/projects/{project}/extend", ("to", $"{to:uuuu-MM-dd}"), ("reason", "the fair")));
        var works = await App.Read(db => db.ProjectWorks.AsNoTracking().Where(w => w.ProjectId == project).ToListAsync());
        Assert.All(works, w => Assert.Equal(w.Id == maren.Id ? null : to, w.ExtendedTo));
        Assert.Equal(works.Count - 1, works.Count(w => w.ExtendedBecause == "the fair"));
    }

    [Fact]
    public async Task Levels_come_in_by_csv_after_a_dry_look()
    {
        var edda = await App.As(Edda);
        var project = await Open("Rope by file", $"own-{await Write("Rope by file")}");
        var path = $"/courses/1/projects/{project}";
        Task<HttpResponseMessage> Send(string csv) => edda.PostFile(path + "/import", "file", Encoding.UTF8.GetBytes(csv), "levels.csv");
        var csv = $"mail,texture,placement\n{Maren},3,\n{Bram},4,2\n";
        var dry = WebUtility.HtmlDecode(await (await Send(csv)).Content.ReadAsStringAsync());
        Assert.Contains("<b>2</b> students, <b>3</b> levels", dry);
        Assert.Empty((await Work(project, Maren)).Levels);
        await Went(edda.PostForm(path + "/import", ("csv", csv), ("take", "true")));
        Assert.Equal(3, Assert.Single((await Work(project, Maren)).Levels).Value);
        Assert.Equal(2, (await Work(project, Bram)).Levels["placement"]);
        // What went out comes back as it is.
        var before = await edda.Text(path + "/csv");
        await Went(edda.PostForm(path + "/import", ("csv", before), ("take", "true")));
        Assert.Equal(before, await edda.Text(path + "/csv"));
        Assert.Contains("not text", await Refused(Send("mail,texture\n\0")));
        // One line that can't be taken: none is.
        var bad = $"mail,texture\n{Maren},1\n{Bram},7\n";
        Assert.Contains("'7' for texture; accepted: 0 to 4", WebUtility.HtmlDecode(await (await Send(bad)).Content.ReadAsStringAsync()));
        await edda.PostForm(path + "/import", ("csv", bad), ("take", "true"));
        Assert.Equal(3, (await Work(project, Maren)).Levels["texture"]);
        var maren = await App.As(Maren);
        Assert.Equal(HttpStatusCode.Forbidden, (await maren.PostForm(path + "/import", ("csv", csv))).StatusCode);
    }

    [Fact]
    public async Task A_project_keeps_to_the_dates_of_the_pose_that_it_follows_and_moves_with_it()
    {
        var edda = await App.As(Edda);
        var project = await App.Read(db => db.Projects.AsNoTracking().SingleAsync(p => p.LongPoseId != null));
        var meetings = await App.Read(db =>
            db.Meetings.AsNoTracking().Where(m => m.LongPoseId == project.LongPoseId).OrderBy(m => m.Date).ToListAsync()
        );
        Assert.Equal(meetings[0].Date, project.Stages[0].From);
        Assert.Equal(meetings[^1].Date, project.Stages[^1].Due);
        // The planner of the pose and the project say the same minutes.
        var pose = await App.Read(db => db.LongPoses.AsNoTracking().SingleAsync(p => p.Id == project.LongPoseId));
        var planned = pose.Plan(meetings[0].Minutes).Meetings.Take(meetings.Count).ToList();
        Assert.Equal(planned.Sum(m => m.Minutes), project.Stages.Sum(s => s.Minutes));
        // A stage that the pose's planner ends in a meeting is due in it, but for those that the last meeting has no time left for.
        foreach (var (m, n) in planned.Select((m, n) => (m, n)).SkipLast(1))
        foreach (var ends in m.Stages.Where(s => s.Ends))
            Assert.Equal(
                meetings[n].Date,
                project.Stages.Single(s => project.Shape.Stage(s.StageId).Name.Equals(ends.Name, StringComparison.OrdinalIgnoreCase)).Due
            );
        var last = meetings[^1];
        await Went(
            edda.PostForm(
                $"/courses/{last.CourseId}/sessions/{last.Id}/move",
                ("date", $"{last.Date.PlusDays(1):uuuu-MM-dd}"),
                ("startsAt", "19:00"),
                ("row", "0")
            )
        );
        var moved = await App.Read(db => db.Projects.AsNoTracking().SingleAsync(p => p.Id == project.Id));
        Assert.Equal(last.Date.PlusDays(1), moved.Stages[^1].Due);
        Assert.Equal(last.Date.PlusDays(1), moved.Ends);
    }

    [Fact]
    public async Task The_pages_ask_six_times_at_most()
    {
        var (edda, maren) = (await App.As(Edda), await App.As(Maren));
        var work = await App.Read(db => db.ProjectWorks.Where(w => w.Student.Email == Maren).Select(w => w.Id).FirstAsync());
        var plan = await Write("For its page");
        foreach (
            var (client, path) in new[]
            {
                (edda, "/courses/1/projects"),
                (edda, "/courses/1/projects/1"),
                (edda, $"/courses/1/projects/way/{work}"),
                (edda, "/courses/1/projects/plan"),
                (edda, $"/courses/1/projects/plan/{plan}"),
                (maren, "/courses/1/projects"),
                (maren, $"/courses/1/projects/way/{work}"),
            }
        )
        {
            await client.GetAsync(path);
            App.Queries.Reset();
            Assert.Equal(HttpStatusCode.OK, (await client.GetAsync(path)).StatusCode);
            Assert.True(App.Queries.Count <= 6, $"{path}: {App.Queries.Count}");
        }
    }
}
