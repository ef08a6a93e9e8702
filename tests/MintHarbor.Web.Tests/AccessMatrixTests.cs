using System.Net;
using System.Reflection;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Routing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using Xunit;
using static MintHarbor.Web.Tests.Doors;

namespace MintHarbor.Web.Tests;

/// <summary>Route × role × own or another's: the routes come from the running application, so that a new page is covered the
/// day it is added.</summary>
public sealed class AccessMatrixTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private HarborApp App => fixture.App;

    /// <summary>A person reads the names of rules; their ids stand at most beside the name at the head of a row.</summary>
    [Theory]
    [InlineData(Instructor), InlineData(Victim)]
    public async Task No_sentence_says_a_rule_by_its_id(string mail)
    {
        var ids = await VictimIds(App);
        var client = await App.As(mail);
        var read = 0;
        var pages = Doors.All(App).Select(d => d with { Handler = "" }).DistinctBy(d => d.Route);
        foreach (var d in pages.Where(d => d.Keys.All(k => k == "handler" || ids.ContainsKey(k))))
        {
            var answer = await client.GetAsync(Fill(d, ids));
            if (!answer.IsSuccessStatusCode || answer.Content.Headers.ContentType?.MediaType != "text/html")
                continue;
            read++;
            var page = new AngleSharp.Html.Parser.HtmlParser().ParseDocument(await answer.Content.ReadAsStringAsync());
            foreach (var aside in page.QuerySelectorAll("script, style, th"))
                aside.Remove();
            foreach (var rule in Core.Measuring.Rules.All)
                Assert.False(page.Body!.TextContent.Contains(rule.Id, StringComparison.Ordinal), $"{rule.Id} on {Fill(d, ids)}");
        }
        Assert.True(read > 15, $"only {read} pages were read");
    }

    private static Task<string> Fingerprint(HarborApp app) =>
        app.Read(async db =>
        {
            var all = new StringBuilder();
            await db.Database.OpenConnectionAsync();
            foreach (
                var table in new[]
                {
                    "sheets",
                    "drill_rounds",
                    "assignments",
                    "project_works",
                    "pose_readings",
                    "meetings",
                    "courses",
                    "memberships",
                    "invitations",
                    "projects",
                    "project_plans",
                    "rung_moves",
                    "outbox",
                    "pictures",
                    "booked_models",
                    "model_bookings",
                    "course_poses",
                    "course_arrangements",
                    "held_sheets",
                    "looked_sheets",
                    "seatings",
                    "long_poses",
                    "templates",
                    "presences",
                    "room_notes",
                }
            )
            {
                await using var command = db.Database.GetDbConnection().CreateCommand();
                command.CommandText = $"select md5(string_agg(t::text, '|' order by t::text)) from {table} t";
                all.Append(await command.ExecuteScalarAsync());
            }
            return Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(all.ToString())));
        });

    /// <summary>Somebody of this course, by its address, names what belongs to another: for them it isn't there.</summary>
    [Fact]
    public async Task A_member_of_a_course_reaches_nothing_of_another_through_it()
    {
        var ids = await VictimIds(App);
        var elsewhere = await App.Read(async db =>
        {
            var course = await db
                .Courses.Where(c => c.Id != 1 && c.Members.Any(m => m.Person.Email == Instructor))
                .Select(c => c.Id)
                .FirstAsync();
            return new Dictionary<string, string>(ids) { ["course"] = $"{course}" };
        });
        var staff = await App.As(Instructor);
        var before = await Fingerprint(App);
        var (tried, problems) = (0, new List<string>());
        foreach (var d in Doors.All(App).Where(d => d.Keys.Contains("course") && d.Keys.Intersect(Things).Any()))
        {
            var answer = await Knock(staff, d, Fill(d, elsewhere));
            tried++;
            if (answer.StatusCode is not (HttpStatusCode.NotFound or HttpStatusCode.Forbidden))
                problems.Add($"{d.Method} {Fill(d, elsewhere)}: {answer.StatusCode}");
        }
        Assert.True(problems.Count == 0, string.Join('\n', problems));
        Assert.True(tried > 40, $"{tried} doors");
        Assert.Equal(before, await Fingerprint(App));
    }

    private static readonly string[] Things =
    [
        "meeting",
        "sheet",
        "round",
        "assignment",
        "drillsheet",
        "project",
        "plan",
        "work",
        "student",
        "set",
        "sitter",
    ];

    [Fact]
    public async Task Nobody_reaches_anothers_work_by_any_route_or_handler()
    {
        var ids = await VictimIds(App);
        var doors = Doors.All(App).Where(d => d.Keys.Contains("course")).ToList();
        Assert.True(doors.Count > 50, $"only {doors.Count} doors found");
        Assert.Contains(doors, d => d.Route.Contains("picture"));
        var before = await Fingerprint(App);
        var (anonymous, other, stranger) = (App.Anonymous(), await App.As(Other), await App.As(Stranger));
        var problems = new List<string>();
        foreach (var d in doors)
        {
            var path = Fill(d, ids);
            var a = await Knock(anonymous, d, path);
            if (a.StatusCode != HttpStatusCode.Redirect || a.Headers.Location?.OriginalString.Contains("/sign-in") != true)
                problems.Add($"anonymous {d.Method} {path}: {a.StatusCode}");
            var s = await Knock(stranger, d, path);
            if (s.StatusCode is not HttpStatusCode.NotFound)
                problems.Add($"stranger {d.Method} {path}: {s.StatusCode}");
            // Unreadable fields must not open a door that readable ones don't.
            if (d.Method.Equals("POST", StringComparison.OrdinalIgnoreCase))
            {
                var u = await stranger.PostForm(
                    path,
                    ("x", "?"),
                    ("number", "?"),
                    ("level", "?"),
                    ("act", "?"),
                    ("kind", "?"),
                    ("on", "?"),
                    ("Form.Minutes", "?"),
                    ("Form.Ends", "?"),
                    ("assignmentId", "?")
                );
                if (u.StatusCode != HttpStatusCode.NotFound)
                    problems.Add($"stranger, unreadable, {path}: {u.StatusCode}");
            }
            if (!d.Personal)
                continue;
            var o = await Knock(other, d, path);
            if (o.StatusCode is not (HttpStatusCode.NotFound or HttpStatusCode.Forbidden))
                problems.Add($"another student {d.Method} {path}: {o.StatusCode}");
            if ((await o.Content.ReadAsStringAsync()).Contains("tipping over"))
                problems.Add($"another student reads the question at {path}");
        }
        Assert.True(problems.Count == 0, string.Join('\n', problems));
        Assert.Equal(before, await Fingerprint(App));
    }

    [Fact]
    public async Task A_student_is_refused_what_is_for_staff_and_an_assistant_what_is_the_instructors()
    {
        var ids = await VictimIds(App);
        var before = await Fingerprint(App);
        var (student, assistant) = (await App.As(Victim), await App.As("lorne@saltmarsh.example"));
        var refused = 0;
        foreach (var d in Doors.All(App).Where(d => d.Keys.Contains("course")))
        {
            var method = d
                .Page.GetMethods()
                .FirstOrDefault(m =>
                    m.Name.Equals($"On{d.Method}{d.Handler}Async", StringComparison.OrdinalIgnoreCase)
                    || m.Name.Equals($"On{d.Method}{d.Handler}", StringComparison.OrdinalIgnoreCase)
                );
            var rules = new[] { d.Page.GetCustomAttribute<ForAttribute>(), method?.GetCustomAttribute<ForAttribute>() };
            foreach (var (client, role) in new[] { (student, CourseRole.Student), (assistant, CourseRole.Assistant) })
            {
                if (rules.All(r => r is null || r.Roles.Contains(role)))
                    continue;
                var answer = await Knock(client, d, Fill(d, ids));
                // A round is the student's alone, so that for staff it isn't even there.
                Assert.True(
                    answer.StatusCode is HttpStatusCode.Forbidden or HttpStatusCode.NotFound,
                    $"{role} {d.Method} {Fill(d, ids)}: {answer.StatusCode}"
                );
                refused++;
            }
        }
        Assert.True(refused > 40, $"only {refused} refusals were tried");
        Assert.Equal(before, await Fingerprint(App));
    }

    [Fact]
    public async Task Its_owner_and_the_instructor_do_reach_it()
    {
        var ids = await VictimIds(App);
        var (owner, staff) = (await App.As(Victim), await App.As(Instructor));
        foreach (
            var d in Doors
                .All(App)
                .Where(d =>
                    d.Personal
                    && d.Method.Equals("GET", StringComparison.OrdinalIgnoreCase)
                    && d.Handler == ""
                    && !d.Route.Contains("compare")
                )
        )
        {
            var path = Fill(d, ids);
            var o = await owner.GetAsync(path);
            Assert.True(o.StatusCode is HttpStatusCode.OK or HttpStatusCode.Redirect, $"owner {path}: {o.StatusCode}");
            if (d.Keys.Contains("round"))
                continue;
            var s = await staff.GetAsync(path);
            Assert.True(s.StatusCode is HttpStatusCode.OK or HttpStatusCode.Redirect, $"instructor {path}: {s.StatusCode}");
        }
    }

    [Fact]
    public void Every_thing_an_address_can_name_has_its_rule() =>
        Assert.All(Doors.All(App).Where(d => d.Keys.Contains("course")).SelectMany(d => d.Keys), k => Assert.Contains(k, CourseGate.Known));

    [Fact]
    public async Task Outside_the_courses_only_what_is_meant_to_be_is_open()
    {
        var open = new HashSet<string>
        {
            "",
            "sign-in",
            "welcome",
            "join/{token}",
            "forgot",
            "reset",
            "problem",
            "room/{secret}",
            "model/{secret}",
            "sits/{secret}/{handler?}",
        };
        var anonymous = App.Anonymous();
        foreach (var d in Doors.All(App).Where(d => !d.Keys.Contains("course")))
        {
            var answer = await anonymous.GetAsync(
                "/" + d.Route.Replace("{token}", "x").Replace("{secret}", "x").Replace("/{handler?}", "")
            );
            var toSignIn = answer.Headers.Location?.OriginalString.Contains("/sign-in") == true;
            Assert.True(open.Contains(d.Route) || toSignIn, $"/{d.Route} answers {answer.StatusCode} without sign-in");
        }
    }

    [Fact]
    public async Task No_form_is_taken_without_its_token_by_any_handler()
    {
        var ids = await VictimIds(App);
        var before = await Fingerprint(App);
        var clients = new[] { await App.As(Instructor), await App.As(Victim) };
        var doors = Doors
            .All(App)
            .Where(d => d.Method.Equals("POST", StringComparison.OrdinalIgnoreCase) && d.Page != typeof(Pages.ProblemModel))
            .ToList();
        Assert.True(doors.Count > 40, $"only {doors.Count} forms found");
        var filled = ids.Concat([new("token", "x"), new("secret", "x")]).ToDictionary();
        foreach (var d in doors)
        {
            foreach (var client in clients)
            {
                var answer = await client.PostAsync(
                    Fill(d, filled),
                    new FormUrlEncodedContent([KeyValuePair.Create("act", "Next"), KeyValuePair.Create("fault", "head-large")])
                );
                // Refused for its token, or before it for what the person is: never taken.
                Assert.True(
                    answer.StatusCode is HttpStatusCode.BadRequest or HttpStatusCode.Forbidden or HttpStatusCode.NotFound,
                    $"{Fill(d, filled)}: {answer.StatusCode}"
                );
            }
        }
        Assert.Equal(before, await Fingerprint(App));
    }

    [Fact]
    public async Task No_page_shows_a_student_another_students_name_words_or_sheet()
    {
        var (ids, forbidden) = await App.Read(async db =>
        {
            var me = await db.Users.SingleAsync(u => u.Email == Other);
            const int course = 1;
            var others = await db
                .Memberships.Where(m => m.CourseId == course && m.Role == CourseRole.Student && m.PersonId != me.Id)
                .Select(m => new { m.Person.Name, m.Person.Email })
                .ToListAsync();
            var theirs = await db
                .Sheets.Where(s => s.CourseId == course && s.StudentId != me.Id)
                .Select(s => new
                {
                    s.Question,
                    s.SelfReview,
                    s.PhotoHash,
                    s.FlatHash,
                })
                .ToListAsync();
            var sheet = await db.Sheets.FirstAsync(s => s.StudentId == me.Id && s.CourseId == course);
            sheet.SetId ??= Guid.NewGuid();
            await db.SaveChangesAsync();
            var words = others
                .SelectMany(o => new[] { o.Name, o.Email! })
                .Concat(theirs.SelectMany(t => new[] { t.Question, t.SelfReview, t.PhotoHash, t.FlatHash ?? "" }))
                .Where(w => w.Length > 3)
                .Distinct()
                .ToList();
            var keys = new Dictionary<string, string>
            {
                ["course"] = $"{course}",
                ["sheet"] = $"{sheet.Id}",
                ["set"] = $"{sheet.SetId}",
                ["student"] = $"{me.Id}",
                ["n"] = "flat",
                ["pose"] = "contrapposto",
                ["things"] = "first",
                ["sitter"] = $"{await db.BookedModels.Where(m => m.CourseId == course).Select(m => m.Id).FirstOrDefaultAsync()}",
                ["round"] = $"{await db.DrillRounds.Where(r => r.StudentId == me.Id).Select(r => r.Id).FirstOrDefaultAsync()}",
                ["assignment"] = $"{await db.Assignments.Where(a => a.StudentId == me.Id).Select(a => a.Id).FirstOrDefaultAsync()}",
                ["drillsheet"] = $"{await db.PaperSheets.Where(s => s.StudentId == me.Id).Select(s => s.Id).FirstOrDefaultAsync()}",
                ["work"] = $"{await db.ProjectWorks.Where(w => w.StudentId == me.Id).Select(w => w.Id).FirstOrDefaultAsync()}",
                ["project"] = $"{await db.Projects.Where(p => p.CourseId == course).Select(p => p.Id).FirstAsync()}",
                ["plan"] = $"{await db.ProjectPlans.Where(p => p.CourseId == course).Select(p => p.Id).FirstOrDefaultAsync()}",
                ["meeting"] = $"{await db.Meetings.Where(m => m.CourseId == course && m.Number == 4).Select(m => m.Id).FirstAsync()}",
            };
            return (keys, words);
        });
        var client = await App.As(Other);
        var read = 0;
        foreach (
            var d in Doors
                .All(App)
                .Where(d =>
                    d.Method.Equals("GET", StringComparison.OrdinalIgnoreCase) && (!d.Route.Contains('{') && d.Route != "sign-in")
                    || d.Keys.Contains("course") && d.Handler != "Stream"
                )
        )
        {
            var answer = await client.GetAsync(Fill(d, ids));
            var text = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
            var leak = forbidden.Find(w => text.Contains(w, StringComparison.Ordinal));
            Assert.True(leak is null, $"{Fill(d, ids)} shows “{leak}”");
            if (answer.StatusCode == HttpStatusCode.OK)
                read++;
        }
        Assert.True(read > 12, $"only {read} pages could be read");
        Assert.True(forbidden.Count > 30, $"only {forbidden.Count} secrets to look for");
    }

    [Fact]
    public async Task A_student_reads_nothing_of_a_critique_before_its_release()
    {
        var ids = await VictimIds(App);
        var owner = await App.As(Victim);
        var read =
            await owner.Text($"/courses/{ids["course"]}/critique/{ids["sheet"]}")
            + await owner.Text($"/courses/{ids["course"]}/today")
            + await owner.Text($"/courses/{ids["course"]}/critique");
        Assert.DoesNotContain("Hang the plumb", read);
        Assert.DoesNotContain("figure leans", read);
        Assert.DoesNotContain("draft", read);
    }
}
