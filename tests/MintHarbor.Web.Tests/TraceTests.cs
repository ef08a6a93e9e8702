using System.Net;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using Npgsql;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Every grade traced, children safe, and what was put in wrongly taken out again.</summary>
public sealed class TraceTests : IAsyncLifetime
{
    private const string Edda = Doors.Instructor,
        Bram = Doors.Other,
        Pim = Doors.Stranger;

    private HarborApp App { get; set; } = null!;

    public async ValueTask InitializeAsync()
    {
        App = new HarborApp(await TestDatabase.Demo());
        _ = App.Server;
    }

    public ValueTask DisposeAsync() => App.DisposeAsync();

    private Task<List<LogEntry>> Log(LogKind kind, int course = 1) =>
        App.Read(db => db.Log.AsNoTracking().Where(l => l.Kind == kind && l.CourseId == course).OrderBy(l => l.Id).ToListAsync());

    private static async Task<string> Refused(HttpResponseMessage answer)
    {
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        return WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
    }

    private static void Went(HttpResponseMessage answer) => Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);

    [Fact]
    public async Task A_released_grade_is_locked_until_it_is_opened_with_a_reason_that_the_student_reads()
    {
        var edda = await App.As(Edda);
        var work = await App.Read(db =>
            db.ProjectWorks.Include(w => w.Project).AsNoTracking().FirstAsync(w => w.Student.Email == Bram && w.ReleasedAt == null)
        );
        var path = $"/courses/{work.Project.CourseId}/projects/way/{work.Id}";
        foreach (var row in Core.Projects.ProjectTemplate.Get(work.Project.Template).Rubric)
            Went(await edda.PostForm($"{path}/level", ("row", row.Id), ("level", "2")));
        Went(await edda.PostForm($"{path}/level", ("row", "proportion"), ("level", "3")));
        Went(await edda.PostForm($"{path}/release"));
        Assert.Contains(
            "the grade is released",
            (await Refused(await edda.PostForm($"{path}/level", ("row", "proportion"), ("level", "4")))).ToLowerInvariant()
        );
        var stage = Core.Projects.ProjectTemplate.Get(work.Project.Template).Stages[0].Id;
        foreach (
            var (handler, more) in new (string, (string, string)[])[]
            {
                ("waive", [("stage", stage), ("because", "so")]),
                ("finish", [("stage", stage)]),
                ("tick", [("stage", stage), ("point", "x"), ("on", "true")]),
                ("measure", [("stage", stage)]),
            }
        )
            Assert.Contains("released", await Refused(await edda.PostForm($"{path}/{handler}", more)));
        await Refused(await edda.PostForm($"{path}/reopen", ("reason", " ")));
        Went(await edda.PostForm($"{path}/reopen", ("reason", "The second sheet was not counted")));
        Assert.Contains("Not given yet", await (await App.As(Bram)).Text(path));
        Assert.Contains(
            "The second sheet was not counted",
            await App.Read(db => db.Outbox.Where(m => m.To == Bram).OrderByDescending(m => m.Id).Select(m => m.Body).FirstAsync())
        );
        Went(await edda.PostForm($"{path}/level", ("row", "proportion"), ("level", "4")));
        var lines = await Log(LogKind.Grade, work.Project.CourseId);
        Assert.Contains(lines, l => (l.What, l.Was, l.Now, l.By) == ("level of proportion", "2", "3", "Edda Quill"));
        Assert.Contains(lines, l => (l.What, l.Was, l.Now) == ("level of proportion", "3", "4"));
        Assert.Contains(lines, l => l.What == "released");
        // A row is called as in the grade book, whatever its id.
        Assert.Contains(lines, l => l.What == "level of placement");
        Assert.Contains(lines, l => (l.What, l.Why) == ("reopened", "The second sheet was not counted"));
        Assert.All(lines, l => Assert.Contains("Bram Sedge", l.About));
        var page = await edda.Text($"/courses/{work.Project.CourseId}/log?kind=Grade");
        Assert.Contains("The second sheet was not counted", page);
        Assert.Contains("3 → 4", WebUtility.HtmlDecode(page));
        var csv = await edda.Text($"/courses/{work.Project.CourseId}/log/csv");
        Assert.Contains("level of proportion,3,4", csv.Replace("\"", ""));
        Assert.Contains(await Log(LogKind.Export, work.Project.CourseId), l => l.About == "the log");
        Assert.Equal(HttpStatusCode.Forbidden, (await (await App.As(Bram)).GetAsync($"/courses/{work.Project.CourseId}/log")).StatusCode);
    }

    [Fact]
    public async Task Nobody_changes_or_takes_away_a_line_of_the_log()
    {
        await (await App.As(Edda)).GetAsync("/courses");
        Assert.True(await App.Read(db => db.Log.AnyAsync(l => l.What == "signed in" && l.By == "Edda Quill")));
        foreach (var sql in new[] { "update log set by = 'nobody'", "delete from log", "truncate log" })
        {
            var e = await Assert.ThrowsAsync<PostgresException>(() => App.Read(db => db.Database.ExecuteSqlRawAsync(sql)));
            Assert.Contains("only added to", e.MessageText);
        }
    }

    [Fact]
    public async Task Sign_ins_and_failures_stand_in_the_log_of_those_whose_course_it_is()
    {
        var client = App.Anonymous();
        await client.PostForm("/sign-in", ("Mail", Bram), ("Password", "my secret words"));
        await client.PostForm("/sign-in", ("Mail", "my secret words"), ("Password", "nothing at all"));
        var page = await (await App.As(Edda)).Text("/courses/1/log?kind=Account");
        Assert.Contains("wrong password", page);
        Assert.Contains("Bram Sedge", page);
        // A password typed into the wrong field is not kept.
        Assert.False(await App.Read(db => db.Log.AnyAsync(l => l.About.Contains("secret") || l.What.Contains("secret"))));
    }

    [Fact]
    public async Task A_course_leaves_under_18_by_its_name_and_a_reason_and_not_while_a_child_is_in_it()
    {
        var edda = await App.As(Edda);
        var course = await App.Read(db =>
            db.Courses.AsNoTracking().Include(c => c.Members).ThenInclude(m => m.Person).SingleAsync(c => c.Minors)
        );
        var path = $"/courses/{course.Id}/settings";
        (string, string)[] form =
        [
            ("Form.Name", course.Name),
            ("Form.Weekday", $"{course.Weekday}"),
            ("Form.StartsAt", course.StartsAt.ToString("HH:mm", null)),
            ("Form.Minutes", $"{course.Minutes}"),
            ("Form.Approach", $"{course.Approach}"),
            ("Form.Paper", course.Paper),
            ("Form.Canon", course.Canon),
            ("Form.HeadCanon", course.HeadCanon),
            ("Form.Zone", course.Zone),
            ("Form.Room", course.Room),
        ];
        Task<HttpResponseMessage> Try(string name, string reason) => edda.PostForm(path, [.. form, ("name", name), ("reason", reason)]);
        var kept = await Refused(await Try(course.Name, "They grew up"));
        Assert.Contains(", Ines Cole and 5 more are under 18", kept);
        Assert.Matches("<details[^>]* open[^>]*><summary>taking it out", kept);
        foreach (var child in course.Members.Where(m => m.Person.Minor))
        {
            var page = $"/courses/{course.Id}/students/{child.PersonId}";
            Assert.Contains("needs a reason", await Refused(await edda.PostForm($"{page}/age", ("minor", "false"), ("reason", ""))));
            Went(await edda.PostForm($"{page}/age", ("minor", "false"), ("reason", "seen the passport")));
        }
        Assert.Contains("is not its name", await Refused(await Try("another", "They grew up")));
        Assert.Contains("reason is missing", await Refused(await Try(course.Name, "")));
        Went(await Try(course.Name, "They grew up"));
        Assert.False(await App.Read(db => db.Courses.Where(c => c.Id == course.Id).Select(c => c.Minors).SingleAsync()));
        var lines = await Log(LogKind.Child, course.Id);
        Assert.Contains(lines, l => (l.What, l.Was, l.Now, l.Why) == ("Minors", "True", "False", "They grew up"));
        Assert.Contains(lines, l => (l.What, l.Was, l.Now, l.Why) == ("under 18", "true", "false", "seen the passport"));
    }

    [Fact]
    public async Task A_child_in_it_makes_a_course_one_for_under_18_and_sees_dressed_figures_everywhere()
    {
        var edda = await App.As(Edda);
        var bram = await App.Read(db => db.Users.Where(p => p.Email == Bram).Select(p => p.Id).SingleAsync());
        Assert.False(await App.Read(db => db.Courses.Where(c => c.Id == 1).Select(c => c.Minors).SingleAsync()));
        Went(await edda.PostForm($"/courses/1/students/{bram}/age", ("minor", "true")));
        Assert.True(await App.Read(db => db.Courses.Where(c => c.Id == 1).Select(c => c.Minors).SingleAsync()));
        // By their own age as well, should a course say otherwise.
        await App.Read(db => db.Courses.Where(c => c.Id == 1).ExecuteUpdateAsync(u => u.SetProperty(c => c.Minors, false)));
        await using var scope = App.Services.CreateAsyncScope();
        var gate = scope.ServiceProvider.GetRequiredService<Access.FigureGate>();
        static System.Security.Claims.ClaimsPrincipal Of(int id) =>
            new(new System.Security.Claims.ClaimsIdentity([new(System.Security.Claims.ClaimTypes.NameIdentifier, $"{id}")], "test"));
        Assert.True((await gate.Dress(Of(bram), 1, false))!.Value.Clothed);
        var maren = await App.Read(db => db.Users.Where(p => p.Email == Doors.Victim).Select(p => p.Id).SingleAsync());
        Assert.False((await gate.Dress(Of(maren), 1, false))!.Value.Clothed);
    }

    [Fact]
    public async Task A_guardians_consent_has_a_day_and_a_use_and_a_look_at_a_childs_work_is_a_line()
    {
        var edda = await App.As(Edda);
        var (pim, course) = await App.Read(async db =>
        {
            var m = await db.Memberships.AsNoTracking().FirstAsync(m => m.Person.Email == Pim);
            return (m.PersonId, m.CourseId);
        });
        var path = $"/courses/{course}/students/{pim}";
        Assert.Contains("no picture of theirs leaves the course", await edda.Text(path));
        Assert.False(Store.Actions.MemberActions.MayLeave(await Member()));
        await Refused(await edda.PostForm($"{path}/consent", ("on", "2026-11-03"), ("use", "")));
        await Refused(await edda.PostForm($"{path}/consent", ("on", "2086-11-03"), ("use", "the summer show")));
        Went(await edda.PostForm($"{path}/consent", ("on", "2026-11-03"), ("use", "the summer show")));
        Assert.Contains("the summer show", await edda.Text(path));
        Assert.True(Store.Actions.MemberActions.MayLeave(await Member()));
        Went(await edda.PostForm($"{path}/consent"));
        Assert.False(Store.Actions.MemberActions.MayLeave(await Member()));
        Assert.Equal(2, (await Log(LogKind.Child, course)).Count(l => l.What == "guardian's consent"));

        var sheet = await App.Read(db => db.Sheets.Where(s => s.StudentId == pim).Select(s => (int?)s.Id).FirstOrDefaultAsync());
        Assert.NotNull(sheet);
        await edda.GetAsync($"/courses/{course}/critique/{sheet}");
        await edda.GetAsync($"/courses/{course}/critique/{sheet}/picture/small");
        var looks = await Log(LogKind.View, course);
        Assert.Equal(("Edda Quill", "looked at"), (looks.Single().By, looks.Single().What));
        await (await App.As(Pim)).GetAsync($"/courses/{course}/critique/{sheet}");
        Assert.Single(await Log(LogKind.View, course));

        Task<Membership> Member() =>
            App.Read(db =>
                db.Memberships.AsNoTracking().Include(m => m.Person).SingleAsync(m => m.PersonId == pim && m.CourseId == course)
            );
    }

    [Fact]
    public async Task A_student_is_taken_out_and_their_work_waits_for_them()
    {
        var edda = await App.As(Edda);
        var bram = await App.Read(db => db.Users.Where(p => p.Email == Bram).Select(p => p.Id).SingleAsync());
        var sheets = await App.Read(db => db.Sheets.CountAsync(s => s.StudentId == bram));
        var works = await App.Read(db => db.ProjectWorks.CountAsync(w => w.StudentId == bram));
        Assert.Contains("grades stay", await edda.Text($"/courses/1/students/{bram}"));
        Went(await edda.PostForm($"/courses/1/students/{bram}/remove", ("reason", "moved away")));
        Assert.Equal(HttpStatusCode.NotFound, (await (await App.As(Bram)).GetAsync("/courses/1/today")).StatusCode);
        Assert.Equal(sheets, await App.Read(db => db.Sheets.CountAsync(s => s.StudentId == bram)));
        foreach (var page in new[] { "students", "today", "critique", "sessions", "practice", "projects", "log" })
            Assert.Equal(HttpStatusCode.OK, (await edda.GetAsync($"/courses/1/{page}")).StatusCode);
        Assert.Contains(await Log(LogKind.Role), l => (l.About, l.What, l.Why) == ("Bram Sedge", "removed", "moved away"));
        Went(await edda.PostForm("/courses/1/students/import", ("csv", $"name,mail\nBram Sedge,{Bram}\n"), ("take", "true")));
        // Back again: the same account, a place of their own, and the grade book as it was.
        var link = await App.Read(db =>
            db.Outbox.Where(m => m.To == Bram && m.Link.StartsWith("/join/")).OrderByDescending(m => m.Id).Select(m => m.Link).FirstAsync()
        );
        Went(await App.Anonymous().PostForm(link, ("Password", Store.Demo.DemoStudio.Password)));
        Assert.Equal(HttpStatusCode.OK, (await (await App.As(Bram)).GetAsync("/courses/1/today")).StatusCode);
        var seats = await App.Read(db =>
            db.Memberships.Where(m => m.CourseId == 1 && m.Role == CourseRole.Student).Select(m => m.Seat).ToListAsync()
        );
        Assert.Equal(seats.Count, seats.Distinct().Count());
        Assert.Contains(await Log(LogKind.Role), l => (l.By, l.About, l.What) == ("Bram Sedge", "Bram Sedge", "joined"));
        Assert.Equal(works, await App.Read(db => db.ProjectWorks.CountAsync(w => w.StudentId == bram)));
    }

    [Fact]
    public async Task A_project_goes_by_its_name_and_stays_where_a_grade_is_released()
    {
        var edda = await App.As(Edda);
        Went(
            await edda.PostForm(
                "/courses/1/projects/open",
                ("Form.Template", "portrait-from-sitter"),
                ("Form.Name", "A doubled one"),
                ("Form.Ends", "2027-01-20"),
                ("Form.Meetings", "2")
            )
        );
        var project = await App.Read(db => db.Projects.Where(p => p.Name == "A doubled one").Select(p => p.Id).SingleAsync());
        var work = await App.Read(db => db.ProjectWorks.Where(w => w.ProjectId == project).Select(w => w.Id).FirstAsync());
        Went(await edda.PostForm($"/courses/1/projects/way/{work}/level", ("row", "proportion"), ("level", "3")));
        Assert.Contains("1 grade book row", await edda.Text($"/courses/1/projects/{project}"));
        Assert.Contains(
            "is not its name",
            await Refused(await edda.PostForm($"/courses/1/projects/{project}/remove", ("said", "another")))
        );
        Went(await edda.PostForm($"/courses/1/projects/{project}/remove", ("said", "a doubled one")));
        Assert.False(await App.Read(db => db.ProjectWorks.AnyAsync(w => w.ProjectId == project)));
        Assert.Contains(await Log(LogKind.Removal), l => l.About.Contains("A doubled one"));
        await App.Read(db =>
            db.ProjectWorks.Where(w => w.Project.CourseId == 1)
                .ExecuteUpdateAsync(u => u.SetProperty(w => w.ReleasedAt, NodaTime.Instant.FromUtc(2026, 11, 1, 0, 0)))
        );
        var released = await App.Read(db => db.Projects.Where(p => p.CourseId == 1).Select(p => new { p.Id, p.Name }).FirstAsync());
        Assert.Contains(
            "released",
            await Refused(await edda.PostForm($"/courses/1/projects/{released.Id}/remove", ("said", released.Name)))
        );
    }

    [Fact]
    public async Task What_was_given_is_taken_back_from_those_who_have_not_done_it()
    {
        var edda = await App.As(Edda);
        Went(
            await edda.PostForm(
                "/courses/1/practice/assign",
                ("Form.What", "drill:clock-hand"),
                ("Form.Minutes", "2"),
                ("Form.Due", "2027-03-01T19:00"),
                ("Form.Note", "given by mistake")
            )
        );
        var given = await App.Read(db => db.Assignments.Where(a => a.Note == "given by mistake").Select(a => a.Id).ToListAsync());
        await App.Read(db =>
            db.Assignments.Where(a => a.Id == given[0])
                .ExecuteUpdateAsync(u => u.SetProperty(a => a.DoneAt, NodaTime.Instant.FromUtc(2026, 11, 1, 0, 0)))
        );
        Went(await edda.PostForm("/courses/1/practice/withdraw", ("assignment", $"{given[1]}")));
        Assert.Equal(
            [given[0]],
            await App.Read(db => db.Assignments.Where(a => a.Note == "given by mistake").Select(a => a.Id).ToListAsync())
        );
        await Refused(await edda.PostForm("/courses/1/practice/withdraw", ("assignment", $"{given[0]}")));

        var bram = await App.As(Bram);
        Went(await bram.PostForm("/courses/1/practice/begin", ("kind", "plumb")));
        Assert.Contains("drop it", await bram.Text("/courses/1/practice"));
        Went(await bram.PostForm("/courses/1/practice/drop", ("kind", "plumb")));
        Assert.False(
            await App.Read(db => db.DrillRounds.AnyAsync(r => r.Student.Email == Bram && r.Kind == "plumb" && r.FinishedAt == null))
        );
    }

    [Fact]
    public async Task A_sheet_handed_in_by_mistake_is_the_students_again_and_goes_with_its_picture()
    {
        var bram = await App.As(Bram);
        var sheet = await App.Read(async db =>
        {
            var s = await db.Sheets.FirstAsync(s => s.Student.Email == Bram);
            (s.State, s.ReleasedAt, s.Question) = (SheetState.Waiting, null, "Is this the wrong sheet?");
            (s.Remarks, s.PhotoHash, s.FlatHash) = ([], "aa11", "bb22");
            db.Pictures.AddRange(
                new Picture
                {
                    Hash = "aa11",
                    ContentType = "image/png",
                    Width = 40,
                    Height = 60,
                    Bytes = [1],
                },
                new Picture
                {
                    Hash = "aa11-photo",
                    ContentType = "image/png",
                    Width = 40,
                    Height = 60,
                    Bytes = [1],
                },
                new Picture
                {
                    Hash = "bb22",
                    ContentType = "image/png",
                    Width = 40,
                    Height = 60,
                    Bytes = [1],
                }
            );
            await db.SaveChangesAsync();
            return s;
        });
        var path = $"/courses/1/critique/{sheet.Id}";
        Assert.Contains("take it back", await bram.Text(path));
        Assert.Contains("handed in", await Refused(await bram.PostForm($"{path}/corners/throw", ("said", sheet.Code))));
        Went(await bram.PostForm($"{path}/back"));
        Assert.DoesNotContain(sheet.Question, await (await App.As(Edda)).Text("/courses/1/critique"));
        Assert.Contains("is not its name", await Refused(await bram.PostForm($"{path}/corners/throw", ("said", "H-1"))));
        Went(await bram.PostForm($"{path}/corners/throw", ("said", sheet.Code)));
        Assert.Equal(HttpStatusCode.NotFound, (await bram.GetAsync(path)).StatusCode);
        Assert.Equal(0, await App.Read(db => db.Pictures.CountAsync(p => p.Hash.StartsWith("aa11") || p.Hash.StartsWith("bb22"))));
        Assert.Contains(await Log(LogKind.Removal), l => l.About.Contains(sheet.Code) && l.By == "Bram Sedge");
    }

    [Fact]
    public async Task A_course_that_has_ended_is_read_and_not_written_until_it_is_opened_again()
    {
        var (edda, bram) = (await App.As(Edda), await App.As(Bram));
        Went(await edda.PostForm("/courses/1/settings/end"));
        Assert.Contains("Ended", await edda.Text("/courses/1/settings"));
        var refused = await bram.PostForm("/courses/1/practice/begin", ("kind", "plumb"));
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);
        Assert.Contains("The course has ended", await refused.Content.ReadAsStringAsync());
        Assert.Equal(HttpStatusCode.OK, (await bram.GetAsync("/courses/1/today")).StatusCode);
        Assert.Contains("belong to it", await Refused(await edda.PostForm("/courses/1/settings/remove", ("said", "Evening figure"))));
        Went(await edda.PostForm("/courses/1/settings/open"));
        Went(await bram.PostForm("/courses/1/practice/begin", ("kind", "plumb")));
        Assert.Equal(HttpStatusCode.Forbidden, (await bram.PostForm("/courses/1/settings/end")).StatusCode);
    }

    [Fact]
    public async Task A_course_opened_by_mistake_is_taken_away_by_its_name()
    {
        var edda = await App.As(Edda);
        var opened = await edda.PostForm("/courses/new", Doors.CourseForm("By mistake"));
        var course = opened.Headers.Location!.OriginalString.Split('/')[2];
        var joined = Assert.Single(await Log(LogKind.Role, int.Parse(course, System.Globalization.CultureInfo.InvariantCulture)));
        Assert.Equal(("Edda Quill", "joined", "instructor"), (joined.About, joined.What, joined.Now));
        await Refused(await edda.PostForm($"/courses/{course}/settings/remove", ("said", "Something else")));
        Went(await edda.PostForm($"/courses/{course}/settings/remove", ("said", "By mistake")));
        Assert.Equal(HttpStatusCode.NotFound, (await edda.GetAsync($"/courses/{course}/today")).StatusCode);
    }

    /// <summary>What handing in changed of other sheets is changed back with it.</summary>
    [Fact]
    public async Task A_redo_taken_back_leaves_its_first_as_it_was_and_a_set_asks_again()
    {
        var bram = await App.As(Bram);
        var (redo, first, kept) = await App.Read(async db =>
        {
            var own = await db.Sheets.Where(s => s.Student.Email == Bram).OrderBy(s => s.Id).Take(3).ToListAsync();
            Assert.Equal(3, own.Count);
            var set = Guid.NewGuid();
            (own[0].State, own[0].ReleasedAt, own[0].AnsweredAt) = (SheetState.Redone, own[0].SubmittedAt, null);
            (own[1].State, own[1].ReleasedAt, own[1].Remarks, own[1].RedoOfId, own[1].SetId) = (
                SheetState.Waiting,
                null,
                [],
                own[0].Id,
                set
            );
            (own[2].State, own[2].ReleasedAt, own[2].Remarks, own[2].SetId) = (SheetState.Kept, null, [], set);
            await db.SaveChangesAsync();
            return (own[1].Id, own[0].Id, own[2].Id);
        });
        Went(await bram.PostForm($"/courses/1/critique/{redo}/back"));
        var now = await App.Read(db => db.Sheets.AsNoTracking().ToDictionaryAsync(s => s.Id, s => s.State));
        Assert.Equal((SheetState.Placing, SheetState.Released, SheetState.Placing), (now[redo], now[first], now[kept]));
    }

    /// <summary>Whoever is signed in as one and tries another's password is written down as well.</summary>
    [Fact]
    public async Task A_wrong_password_is_a_line_whoever_is_signed_in()
    {
        var bram = await App.As(Bram);
        await bram.PostForm("/sign-in", ("Mail", Edda), ("Password", "not hers at all"));
        Assert.True(await App.Read(db => db.Log.AnyAsync(l => l.What == "wrong password" && l.About == "Edda Quill")));
    }

    [Fact]
    public async Task Whatever_is_taken_away_is_a_line()
    {
        var (edda, bram) = (await App.As(Edda), await App.As(Bram));
        var meeting = await App.Read(db => db.Meetings.Where(m => m.CourseId == 1 && m.Number == 7).Select(m => m.Id).SingleAsync());
        Went(await edda.PostForm($"/courses/1/sessions/{meeting}/remove"));
        Went(
            await edda.PostForm("/courses/1/students/import", ("csv", "name,mail\nBy Mistake,by.mistake@example.org\n"), ("take", "true"))
        );
        var invitation = await App.Read(db =>
            db.Invitations.Where(i => i.Mail == "by.mistake@example.org").Select(i => i.Id).SingleAsync()
        );
        Went(await edda.PostForm("/courses/1/students/withdraw", ("invitation", $"{invitation}")));
        var (set, dropped) = await App.Read(async db =>
        {
            var own = await db.Sheets.Where(s => s.Student.Email == Bram).OrderBy(s => s.Id).Take(2).ToListAsync();
            foreach (var s in own)
                (s.State, s.ReleasedAt, s.SetId, s.Code) = (SheetState.Placing, null, own[0].UploadKey ?? Guid.Empty, $"H-{s.Id}");
            await db.SaveChangesAsync();
            return (own[0].SetId!.Value, own[0]);
        });
        Went(await bram.PostForm($"/courses/1/critique/set/{set}/drop", ("sheetId", $"{dropped.Id}")));
        var lines = await Log(LogKind.Removal);
        foreach (var about in new[] { "meeting 7", "By Mistake", dropped.Code })
            Assert.Contains(lines, l => l.About.Contains(about));
    }

    [Fact]
    public async Task Settings_of_a_course_that_has_ended_are_read_and_the_log_speaks_in_words()
    {
        var edda = await App.As(Edda);
        (string, string)[] form = [.. Doors.CourseForm("Evening figure"), ("Form.Inch", "true"), ("Form.Room", "The Far Loft")];
        Went(await edda.PostForm("/courses/1/settings", form));
        var page = WebUtility.HtmlDecode(await edda.Text("/courses/1/log?kind=Settings"));
        Assert.Contains("lengths in inch", page);
        Assert.Contains("no → yes", page);
        Assert.DoesNotContain("HeadCanon", page);
        Went(await edda.PostForm("/courses/1/settings/end"));
        Assert.Equal(HttpStatusCode.Conflict, (await edda.PostForm("/courses/1/settings", form)).StatusCode);
        Went(await edda.PostForm("/courses/1/settings/open"));
        Assert.Equal(["ended", "opened again"], (await Log(LogKind.Settings)).TakeLast(2).Select(l => l.What));
    }
}
