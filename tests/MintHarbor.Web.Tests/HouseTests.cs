using System.Net;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Projects;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using NodaTime;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>What a first look at the running studio found wrong, each held right from here on.</summary>
public sealed class HouseTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Instructor = "edda@saltmarsh.example";

    private HarborApp App => fixture.App;

    private async Task<T> In<T>(Func<IServiceProvider, HarborContext, Task<T>> work)
    {
        await using var scope = App.Services.CreateAsyncScope();
        return await work(scope.ServiceProvider, scope.ServiceProvider.GetRequiredService<HarborContext>());
    }

    private Task<Membership> Member(HarborContext db, string name, int course = 1) =>
        db.Memberships.Include(m => m.Person).Include(m => m.Course).SingleAsync(m => m.CourseId == course && m.Person.Name == name);

    private static Submission Said(string exercise, int? meeting, int? redo = null, int? longPose = null) =>
        new("Is it right?", "The head holds.", exercise, "standing", null, "front", "18x24in", meeting, redo, LongPose: longPose);

    private Task<Sheet> HandIn(string who, Submission said) =>
        In(
            async (s, db) =>
            {
                var member = await Member(db, who);
                var intake = s.GetRequiredService<IntakeActions>();
                return await intake.Submit(
                    member.Course,
                    member,
                    said,
                    () => Task.FromResult(BadFiles.Png(120, 160)),
                    new(WholeWidthMm: 450)
                );
            }
        );

    private Task<Meeting> Meeting(int number, int course = 1) =>
        App.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.CourseId == course && m.Number == number));

    [Fact]
    public async Task A_sheets_code_names_the_item_it_is_from_and_a_redo_has_its_own_number()
    {
        var m = await Meeting(2);
        var gesture = m.Plan.Items.First(i => i.Exercise == "gesture").Pose;
        var sitting = m.Plan.CardPoses[0].Pose;
        Assert.NotEqual(gesture, sitting);
        var quick = await HandIn("Jun Averill", Said("gesture", m.Id));
        var slow = await HandIn("Jun Averill", Said("sitting", m.Id));
        Assert.Equal((gesture.ToString(), sitting.ToString()), (quick.PoseKey, slow.PoseKey));
        Assert.Matches($"^2-{gesture}\\d*-", quick.Code);
        Assert.Matches($"^2-{sitting}\\d*-", slow.Code);
        var redo = await HandIn("Jun Averill", Said("sitting", m.Id, redo: slow.Id));
        int Number(Sheet s) => int.TryParse(Regex.Match(s.Code, "-[A-Z]+(\\d*)-").Groups[1].Value, out var n) ? n : 1;
        Assert.Equal(Number(slow) + 1, Number(redo));
        Assert.Equal(slow.PoseKey, redo.PoseKey);
        // One drawn at home has no pose of a meeting, and the second its own number.
        var (home, again) = (await HandIn("Jun Averill", Said("sitting", null)), await HandIn("Jun Averill", Said("sitting", null)));
        Assert.Null(home.PoseKey);
        Assert.NotEqual(home.Code, again.Code);
        // What was taken away leaves its number to nobody who could be taken for the other.
        await In((s, db) => db.Sheets.Where(x => x.Id == home.Id).ExecuteDeleteAsync());
        Assert.NotEqual(again.Code, (await HandIn("Jun Averill", Said("sitting", null))).Code);
        // A row of patches is of no pose, though the meeting has a long one.
        var patches = await HandIn("Jun Averill", Said("value-patches", m.Id) with { Subject = Sheet.Thing });
        Assert.Null(patches.PoseKey);
        Assert.Matches(@"^2(-\d+)?-\d+$", patches.Code);
    }

    [Fact]
    public async Task Of_two_long_poses_each_sheet_is_judged_by_its_own_card()
    {
        var staff = await App.As(Instructor);
        var id = await In(
            async (s, db) =>
            {
                var course = await db.Courses.SingleAsync(c => c.Id == 1);
                var (meeting, _) = await s.GetRequiredService<PlanActions>()
                    .Plan(
                        course,
                        new(2027, 3, 2),
                        new(19, 0),
                        new(
                            new()
                            {
                                Minutes = 150,
                                Approach = Approach.LongFirst,
                                Students = 9,
                                Shape = "halves",
                                Seed = 7,
                            }
                        )
                    );
                return meeting!.Id;
            }
        );
        var poses = (await App.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == id))).Plan.CardPoses;
        Assert.Equal(2, poses.Count);
        var page = await staff.Text($"/courses/1/sessions/{id}/card");
        Assert.Contains($"?pose={poses[1].Pose}", page);
        foreach (var (pose, heads) in poses.Zip(["7.1", "6.2"]))
            await staff.PostForm($"/courses/1/sessions/{id}/card/save", ("pose", pose.Pose.ToString()), ("heads", heads));
        Assert.Contains("value=\"6.2\"", await staff.Text($"/courses/1/sessions/{id}/card?pose={poses[1].Pose}"));
        Assert.Contains("value=\"7.1\"", await staff.Text($"/courses/1/sessions/{id}/card"));
        var wrong = await staff.PostForm($"/courses/1/sessions/{id}/card/save", ("pose", "Q"), ("heads", "7"));
        Assert.Equal(HttpStatusCode.BadRequest, wrong.StatusCode);
        foreach (var (n, heads) in new[] { (1, 7.1), (2, 6.2) })
        {
            var sheet = await HandIn("Tove Arkle", Said("sitting", id, longPose: n));
            var context = await In((s, db) => s.GetRequiredService<SheetContexts>().Of(sheet, sheet.Course));
            Assert.Equal(heads, context.Card!.Heads);
        }
    }

    /// <summary>A figure of 7.5 heads with its head 8 % large: outside the canon, inside a card that reads it so.</summary>
    private static Dictionary<string, Vec2> LargeHeaded() =>
        new()
        {
            ["crown"] = new(200, 40),
            ["chin"] = new(200, 40 + (500 / 7.5 * 1.08)),
            ["sole.L"] = new(214, 540),
            ["sole.R"] = new(186, 540),
            ["pit"] = new(200, 130),
            ["pubic"] = new(200, 290),
            ["iliac.L"] = new(230, 246),
            ["iliac.R"] = new(170, 246),
            ["kneetop.L"] = new(230, 406),
            ["kneetop.R"] = new(170, 406),
            ["toe.L"] = new(230, 566),
            ["toe.R"] = new(170, 566),
        };

    [Fact]
    public async Task The_ladder_reads_the_marks_that_the_bench_reads()
    {
        async Task<int> Ready(Action<Sheet> change) =>
            await In(
                async (s, db) =>
                {
                    await using var undone = await db.Database.BeginTransactionAsync();
                    var member = await Member(db, "Maren Holt");
                    var course = member.Course;
                    course.Rung = "muscle-figure";
                    await db.Sheets.Where(x => x.CourseId == 1).ExecuteUpdateAsync(u => u.SetProperty(x => x.State, SheetState.Placing));
                    for (var n = 0; n < 3; n++)
                    {
                        var sheet = new Sheet
                        {
                            CourseId = 1,
                            StudentId = member.PersonId,
                            Code = $"x{n}",
                            State = SheetState.Released,
                            SubmittedAt = SystemClock.Instance.GetCurrentInstant() - Duration.FromDays(n + 1),
                            PaperWidthMm = 457,
                            PaperHeightMm = 609,
                            Landmarks = LargeHeaded(),
                            PhotoHash = await db.Pictures.Select(p => p.Hash).FirstAsync(),
                        };
                        change(sheet);
                        db.Sheets.Add(sheet);
                    }
                    await db.SaveChangesAsync();
                    return (await s.GetRequiredService<LadderActions>().Read(course)).Ready;
                }
            );
        Assert.Equal(0, await Ready(_ => { }));
        Assert.Equal(1, await Ready(s => s.Observed = [Core.Measuring.Rules.Heads.Id]));
    }

    [Fact]
    public async Task One_sheet_has_one_verdict_wherever_it_is_spoken_of()
    {
        // Only one place judges a stored sheet; the gate, the ladder, the bench and the comparison ask it. A canon judges what it builds itself.
        var judging = Directory
            .EnumerateFiles(Path.Combine(Checkout.Root, "src"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/") && Regex.IsMatch(File.ReadAllText(f), @"\bJudge\.(Of|Figure|Head)\("))
            .Select(Path.GetFileName)
            .Order();
        Assert.Equal(["HeadStudy.cs", "JudgeStudy.cs", "OwnCanon.cs", "SheetContexts.cs", "Verbs.cs"], judging);
        // The gate sees the card: a sheet whose card agrees with it is inside, whatever the canon says.
        await In(
            async (s, db) =>
            {
                var m = await db.Meetings.Include(x => x.Readings).FirstAsync(x => x.CourseId == 1 && x.Readings.Count > 0);
                var reading = m.Readings[0];
                reading.Card = new() { Heads = 7.5 / 1.08 };
                var sheet = new Sheet
                {
                    CourseId = 1,
                    MeetingId = m.Id,
                    PoseKey = reading.Pose,
                    Landmarks = LargeHeaded(),
                };
                await db.SaveChangesAsync();
                var course = await db.Courses.SingleAsync(c => c.Id == 1);
                var found = (await s.GetRequiredService<SheetContexts>().Of(sheet, course)).Findings;
                var stage = new StageTemplate("x", "x", 10, "", [], [Core.Measuring.Rules.Heads.Id]);
                Assert.True(GateReport.Read(stage, found).Open);
                sheet.PoseKey = null;
                Assert.False(GateReport.Read(stage, (await s.GetRequiredService<SheetContexts>().Of(sheet, course)).Findings).Open);
                return 0;
            }
        );
    }

    [Fact]
    public async Task Who_joins_after_a_project_was_opened_has_a_place_in_it()
    {
        var staff = await App.As(Instructor);
        await staff.PostForm(
            "/courses/1/projects/open",
            ("Form.Template", "portrait-from-sitter"),
            ("Form.Name", "Late portrait"),
            ("Form.Ends", DateTime.UtcNow.AddDays(60).ToString("yyyy-MM-dd", null)),
            ("Form.Meetings", "3")
        );
        var project = await App.Read(db => db.Projects.OrderByDescending(p => p.Id).Select(p => p.Id).FirstAsync());
        await App.Read(async db =>
        {
            db.Invitations.Add(
                new()
                {
                    CourseId = 1,
                    Name = "Late Comer",
                    Mail = "late.comer@saltmarsh.example",
                    Token = "late-comers-own-token-of-the-tests",
                    Expires = SystemClock.Instance.GetCurrentInstant() + Duration.FromDays(2),
                }
            );
            return await db.SaveChangesAsync();
        });
        var late = App.Anonymous();
        await late.PostForm("/join/late-comers-own-token-of-the-tests", ("Password", "harbour-demo"), ("Again", "harbour-demo"));
        var student = await App.As("late.comer@saltmarsh.example");
        var list = await student.Text("/courses/1/projects");
        Assert.Contains("Late portrait", list);
        foreach (Match link in Regex.Matches(list, "href=\"(/courses/1/projects/\\d+)\""))
            Assert.Equal(HttpStatusCode.Redirect, (await student.GetAsync(link.Groups[1].Value)).StatusCode);
        Assert.Contains("Late Comer", await staff.Text($"/courses/1/projects/{project}"));
    }

    [Fact]
    public async Task Only_what_is_due_for_all_stands_in_the_calendar()
    {
        var staff = await App.As(Instructor);
        await staff.PostForm("/courses/2/sessions/feed");
        var (secret, students) = await App.Read(async db =>
            (
                await db.Courses.Where(c => c.Id == 2).Select(c => c.FeedSecret).SingleAsync(),
                await db.Memberships.Where(m => m.CourseId == 2 && m.Role == CourseRole.Student).Select(m => m.PersonId).ToListAsync()
            )
        );
        await In(
            async (s, db) =>
            {
                var course = await db.Courses.SingleAsync(c => c.Id == 2);
                var practice = s.GetRequiredService<PracticeActions>();
                var due = SystemClock.Instance.GetCurrentInstant() + Duration.FromDays(9);
                await practice.Assign(course, students, "part-study", null, 20, due, "");
                await practice.Assign(course, [students[0]], "blind-contour", null, 20, due, "");
                return 0;
            }
        );
        var feed = await App.Anonymous().Text($"/feed/{secret}.ics");
        Assert.Contains("part study", feed);
        Assert.DoesNotContain("blind contour", feed);
    }

    [Fact]
    public async Task A_sheet_that_waits_stays_on_top_however_many_are_newer_and_every_one_can_be_reached()
    {
        var staff = await App.As(Instructor);
        var maren = await App.Read(db => db.Users.Where(u => u.Name == "Maren Holt").Select(u => u.Id).SingleAsync());
        var oldest = await App.Read(async db =>
        {
            var hash = await db.Pictures.Select(p => p.Hash).FirstAsync();
            var now = SystemClock.Instance.GetCurrentInstant();
            Sheet Of(string code, SheetState state, Duration ago) =>
                new()
                {
                    CourseId = 1,
                    StudentId = maren,
                    Code = code,
                    State = state,
                    SubmittedAt = now - ago,
                    PhotoHash = hash,
                    PaperWidthMm = 457,
                    PaperHeightMm = 609,
                };
            var waiting = Of("old-one", SheetState.Waiting, Duration.FromDays(300));
            db.Sheets.Add(waiting);
            for (var n = 0; n < 140; n++)
                db.Sheets.Add(Of($"new-{n}", SheetState.Released, Duration.FromHours(n + 1)));
            await db.SaveChangesAsync();
            return waiting.Id;
        });
        var first = await staff.Text("/courses/1/critique");
        Assert.Contains($"id=\"s{oldest}\"", first);
        Assert.Contains($"href=\"/courses/1/critique/{oldest}\">Critique the oldest", first);
        foreach (var who in new[] { staff, await App.AsNamed("Maren Holt") })
        {
            var seen = new HashSet<string>();
            var total = 0;
            for (var part = 1; part < 20; part++)
            {
                var page = await who.Text($"/courses/1/critique?part={part}");
                foreach (Match s in Regex.Matches(page, "id=\"(s\\d+)\""))
                    Assert.True(seen.Add(s.Groups[1].Value), $"{s.Value} twice");
                total = int.Parse(Regex.Match(page, "of (\\d+) sheets").Groups[1].Value, null);
                if (!page.Contains("those after"))
                    break;
            }
            Assert.Equal(total, seen.Count);
            Assert.True(total > 140);
        }
    }

    [Fact]
    public async Task Meetings_beyond_forty_can_be_reached()
    {
        var staff = await App.As(Instructor);
        await staff.PostForm(
            "/courses/3/sessions/term",
            ("first", DateTime.UtcNow.AddDays(200).ToString("yyyy-MM-dd", null)),
            ("count", "45"),
            ("every", "1"),
            ("purpose", "Gesture")
        );
        var all = await App.Read(db => db.Meetings.Where(m => m.CourseId == 3).Select(m => m.Id).ToListAsync());
        Assert.True(all.Count > 45);
        var pages = await staff.Text("/courses/3/sessions") + await staff.Text("/courses/3/sessions?part=2");
        Assert.All(all, id => Assert.Contains($"id=\"m{id}\"", pages));
        Assert.Contains($"of {all.Count} meetings", pages);
    }

    [Fact]
    public async Task A_meeting_of_another_course_does_not_exist_here()
    {
        var staff = await App.As(Instructor);
        var other = await Meeting(1, 2);
        foreach (var page in new[] { "", "/run", "/card", "/class", "/seat", "/sheet.pdf" })
            Assert.Equal(HttpStatusCode.NotFound, (await staff.GetAsync($"/courses/1/sessions/{other.Id}{page}")).StatusCode);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await staff.PostForm($"/courses/1/sessions/{other.Id}/run/act", ("act", "Start"))).StatusCode
        );
    }

    [Fact]
    public async Task Two_acts_at_one_moment_have_a_place_each_in_the_log()
    {
        var m = await Meeting(6);
        async Task<bool> Act(ClockAct act, int? seen) =>
            await In(
                async (s, db) =>
                {
                    var meeting = await db.Meetings.SingleAsync(x => x.Id == m.Id);
                    return await s.GetRequiredService<SessionActions>().Act(meeting, act, seen);
                }
            );
        Assert.True(await Act(ClockAct.Start, 0));
        // Both saw one act; one of them is taken, the other is told that the clock has moved on.
        var both = await Task.WhenAll(Act(ClockAct.Pause, 1), Act(ClockAct.Pause, 1));
        Assert.Single(both, taken => taken);
        // Of two that saw nothing in particular both are taken, one after the other.
        await Task.WhenAll(Act(ClockAct.AddMinute, null), Act(ClockAct.AddMinute, null));
        var log = await App.Read(db => db.ClockActs.Where(a => a.MeetingId == m.Id).OrderBy(a => a.Sequence).ToListAsync());
        Assert.Equal([1, 2, 3, 4], log.Select(a => a.Sequence));
        Assert.Equal(2, log.Count(a => a.Act == ClockAct.AddMinute));
        Assert.Equal(log.Select(a => a.At).Order(), log.Select(a => a.At));
    }

    [Fact]
    public async Task Two_starts_at_one_moment_take_a_port_each()
    {
        var homes = Enumerable.Range(0, 2).Select(n => Path.Combine("/var/tmp", $"harbor-ports-{Guid.NewGuid():N}")).ToList();
        try
        {
            var port = new Uri($"http://127.0.0.1:{Random.Shared.Next(20000, 30000)}").Port;
            var said = await Task.WhenAll(homes.Select(h => Task.Run(() => Checkout.Run("harbor", ["cluster-start", h, $"{port}"]))));
            Assert.All(said, s => Assert.Equal(0, s.Item1));
            Assert.Equal(2, said.Select(s => Regex.Match(s.Item2, "Port=(\\d+)").Groups[1].Value).Distinct().Count());
        }
        finally
        {
            foreach (var h in homes)
            {
                Checkout.Run("harbor", ["cluster-stop", h]);
                Directory.Delete(h, true);
            }
        }
    }

    /// <summary>The browser counts without the line as the server does: the same worked examples, told to it at an earlier act.</summary>
    [Fact]
    public async Task The_displays_own_counting_agrees_with_the_worked_examples()
    {
        var evening = new Evening(new(new() { Minutes = 60 }), Core.Tests.Sessions.ClockVector.Plan);
        var cases = Core
            .Tests.Sessions.ClockVector.All.Select(v =>
            {
                var heard = v.Log.Max(e => e.At);
                var state = Rooms.RoomState.Of(evening, v.Log, heard);
                return (Vector: v, Case: new { state, elapsed = (Core.Tests.Sessions.ClockVector.After(v.At) - heard).TotalSeconds });
            })
            .ToList();
        var input = System.Text.Json.JsonSerializer.Serialize(cases.Select(c => c.Case), System.Text.Json.JsonSerializerOptions.Web);
        var script =
            "require(process.argv[1]); const c = JSON.parse(require('fs').readFileSync(0)); console.log(JSON.stringify(c.map((x) => HarborCount.at(x.state, x.elapsed))))";
        using var node = System.Diagnostics.Process.Start(
            new System.Diagnostics.ProcessStartInfo(
                "node",
                ["-e", script, Path.Combine(Checkout.Root, "src/MintHarbor.Web/wwwroot/js/count.js")]
            )
            {
                RedirectStandardInput = true,
                RedirectStandardOutput = true,
            }
        )!;
        await node.StandardInput.WriteAsync(input);
        node.StandardInput.Close();
        var counted = System.Text.Json.Nodes.JsonNode.Parse(await node.StandardOutput.ReadToEndAsync())!.AsArray();
        foreach (var (c, at) in cases.Zip(counted))
        {
            Assert.Equal(
                (c.Vector.Says, c.Vector.Index, c.Vector.Pose),
                (c.Vector.Says, at!["index"]!.GetValue<int>(), at["pose"]!.GetValue<int>())
            );
            Assert.Equal(c.Vector.Left, at["left"]!.GetValue<double>(), 3);
        }
    }
}
