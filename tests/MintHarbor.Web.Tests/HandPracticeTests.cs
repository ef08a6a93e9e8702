using System.Net;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Hands;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Simulation;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using NodaTime;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Practice by hand through the running application: drills that are drawn, timed sittings, the line of every day, stages of measuring.</summary>
public sealed class HandPracticeTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Edda = "edda@saltmarsh.example",
        Maren = Doors.Victim,
        Bram = Doors.Other;

    private HarborApp App => fixture.App;

    private Task<int> Id(string mail) => App.Read(db => db.Users.Where(u => u.Email == mail).Select(u => u.Id).SingleAsync());

    /// <summary>A round of a drill begun by its page; its id.</summary>
    private static async Task<int> Begin(HttpClient by, string kind)
    {
        var answer = await by.PostForm("/courses/1/practice/begin", ("kind", kind));
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        return int.Parse(answer.Headers.Location!.ToString().Split('/')[^1], null);
    }

    private async Task<string> Drawn(int round, double eye, long seed)
    {
        var state = await App.Read(db => db.DrillRounds.AsNoTracking().SingleAsync(r => r.Id == round));
        var drill = (HandDrill)Drills.Get(state.Kind);
        return new SimulatedPen(eye, seed).Draw(drill, state.State.Replay().Next!).Write();
    }

    public static TheoryData<string> Kinds => [.. HandDrills.All.Select(d => d.Kind)];

    [Theory, MemberData(nameof(Kinds))]
    public async Task A_drill_of_the_hand_is_drawn_read_and_kept(string kind)
    {
        var bram = await App.As(Bram);
        var round = await Begin(bram, kind);
        var drill = Drills.Get(kind);
        var page = await bram.GetStringAsync($"/courses/1/practice/drill/{round}");
        Assert.Contains("data-hand=", page);
        Assert.DoesNotContain("style=", page);
        for (var n = 0; n < drill.Length; n++)
        {
            var answer = await bram.PostForm(
                $"/courses/1/practice/drill/{round}/answer",
                ("number", $"{n}"),
                ("value", "0"),
                ("trace", await Drawn(round, 0.5, n + 1))
            );
            Assert.Equal($"/courses/1/practice/drill/{round}?shown={n}", answer.Headers.Location!.ToString());
            var shown = await bram.GetStringAsync(answer.Headers.Location!.ToString());
            Assert.Contains("hand-drawn", shown);
        }
        var (state, kept) = await App.Read(async db =>
            (
                await db.DrillRounds.AsNoTracking().SingleAsync(r => r.Id == round),
                await db.DrawnAnswers.AsNoTracking().Where(a => a.RoundId == round).OrderBy(a => a.Number).ToListAsync()
            )
        );
        Assert.NotNull(state.FinishedAt);
        Assert.Equal(drill.Length, kept.Count);
        Assert.Equal(kept.Count(k => k.Reading.Holds), state.Right);
        Assert.Equal(kept.Select(k => k.Reading.Error), state.State.Answers);
        Assert.Contains("The round", await bram.GetStringAsync($"/courses/1/practice/drill/{round}"));
        // What was drawn is the student's own.
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await (await App.As(Maren)).GetAsync($"/courses/1/practice/drill/{round}?shown=0")).StatusCode
        );
        await (await App.As(Bram)).PostForm("/courses/1/practice/drop", ("kind", kind));
    }

    [Fact]
    public async Task What_is_no_drawing_is_said_so_and_changes_nothing()
    {
        var maren = await App.As(Maren);
        var round = await Begin(maren, "ellipse");
        foreach (
            var (trace, says) in new[]
            {
                ("", "nothing is drawn"),
                ("[[", "no drawing"),
                ("""{"tool":"pen","mm":0.3,"strokes":[]}""", "nothing is drawn"),
                ("""{"tool":"chisel","mm":0.3,"strokes":[[1,2,0,0,5,6,10,0]]}""", "chisel"),
                (
                    $$"""{"tool":"pen","mm":0.3,"strokes":[[{{string.Join(",", Enumerable.Repeat("1,2,3,0.5", 50_000))}}]]}""",
                    "50000 places"
                ),
            }
        )
        {
            var answer = await maren.PostForm(
                $"/courses/1/practice/drill/{round}/answer",
                ("number", "0"),
                ("value", "0"),
                ("trace", trace)
            );
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
            Assert.Contains(says, await answer.Content.ReadAsStringAsync(), StringComparison.OrdinalIgnoreCase);
        }
        // A stroke far outside the field is read as what it is: an ellipse that isn't there.
        var far = await maren.PostForm(
            $"/courses/1/practice/drill/{round}/answer",
            ("number", "0"),
            ("trace", """{"tool":"finger","mm":0.3,"strokes":[[9000,9000,0,0.5,9001,9002,20,0.5]]}""")
        );
        Assert.Equal(HttpStatusCode.Redirect, far.StatusCode);
        var pressure = await Begin(maren, "pressure-stroke");
        var flat = await maren.PostForm(
            $"/courses/1/practice/drill/{pressure}/answer",
            ("number", "0"),
            ("trace", """{"tool":"mouse","mm":0.3,"strokes":[[20,90,0,0.5,280,90,900,0.5]]}""")
        );
        Assert.Equal(HttpStatusCode.BadRequest, flat.StatusCode);
        Assert.Contains("tells no pressure", await flat.Content.ReadAsStringAsync());
        var kept = await App.Read(db => db.DrillRounds.AsNoTracking().SingleAsync(r => r.Id == round));
        Assert.Single(kept.State.Answers);
    }

    private static string Log(int drawings = 2, string taught = "smaller was better") =>
        JsonSerializer.Serialize(
            new SittingLog(
                "gesture",
                SittingSubject.Mirror,
                [.. Enumerable.Range(0, drawings).Select(_ => new TimedDrawing(60, 60, "large", taught))]
            ),
            HarborContext.Json
        );

    [Fact]
    public async Task A_sitting_sent_twice_is_one_and_does_what_was_given()
    {
        var (edda, bram) = (await App.As(Edda), await App.As(Bram));
        var me = await Id(Bram);
        await edda.PostForm(
            "/courses/1/practice/assign",
            ("Form.What", "gesture"),
            ("Form.Minutes", "12"),
            ("Form.Due", DateTime.UtcNow.AddDays(6).ToString("yyyy-MM-ddTHH:mm", null)),
            ("Form.Students", $"{me}")
        );
        var given = await App.Read(db => db.Assignments.Where(a => a.StudentId == me && a.Exercise == "gesture").MaxAsync(a => a.Id));
        var form = await bram.GetStringAsync($"/courses/1/practice/home?assignment={given}");
        Assert.Contains("Given: Gesture, 12 min", WebUtility.HtmlDecode(form));
        var key = Guid.NewGuid();
        (string, string)[] fields = [("key", $"{key}"), ("log", Log()), ("assignment", $"{given}"), ("author", $"{me}")];
        var sent = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => bram.PostForm("/courses/1/practice/home/sitting", fields)));
        Assert.All(sent, a => Assert.True((int)a.StatusCode < 400, $"{a.StatusCode}"));
        var kept = await App.Read(db => db.PracticeSittings.AsNoTracking().Where(s => s.StudentId == me).ToListAsync());
        Assert.Equal(2, Assert.Single(kept, s => s.Key == key).Log.Drawings.Count);
        Assert.NotNull(await App.Read(db => db.Assignments.Where(a => a.Id == given).Select(a => a.DoneAt).SingleAsync()));
        // The next time it is said again before the first drawing.
        Assert.Contains("smaller was better", await bram.GetStringAsync("/courses/1/practice/home?set=gesture&seed=3"));
        // Another person's sitting is not taken under this one's name, nor one for somebody else's assignment.
        Assert.Equal(
            HttpStatusCode.Conflict,
            (
                await bram.PostForm(
                    "/courses/1/practice/home/sitting",
                    ("key", $"{Guid.NewGuid()}"),
                    ("log", Log()),
                    ("author", $"{me + 1}")
                )
            ).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await (await App.As(Maren)).GetAsync($"/courses/1/practice/home?assignment={given}")).StatusCode
        );
    }

    [Theory]
    [InlineData("", "no sitting"), InlineData("{", "no sitting"), InlineData("null", "no sitting")]
    [InlineData("""{"exercise":null,"subject":"mirror","drawings":[]}""", "0 drawings")]
    [InlineData("""{"exercise":null,"subject":"mirror","drawings":[{"seconds":1,"drawn":1,"plan":"","taught":""}]}""", "1 s")]
    public async Task What_is_no_sitting_is_refused_by_name(string log, string says)
    {
        var answer = await (await App.As(Bram)).PostForm("/courses/1/practice/home/sitting", ("key", $"{Guid.NewGuid()}"), ("log", log));
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains(says, await answer.Content.ReadAsStringAsync(), StringComparison.OrdinalIgnoreCase);
    }

    [Theory]
    [
        InlineData("list=soon", 400),
        InlineData("list=6+×+2&subject=Mirror&seed=3", 200),
        InlineData("set=none", 404),
        InlineData("list=99+x+9", 400)
    ]
    [InlineData("set=warm-up&seed=3", 200), InlineData("list=10+×+30+s&seed=2", 200), InlineData("assignment=99999", 404)]
    public async Task The_clock_is_set_by_what_is_typed(string query, int status)
    {
        var answer = await (await App.As(Bram)).GetAsync("/courses/1/practice/home?" + query);
        Assert.Equal(status, (int)answer.StatusCode);
        var page = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        if (query.StartsWith("set=warm-up", StringComparison.Ordinal))
            Assert.Contains("The other hand", page);
        if (status == 400)
            Assert.Contains(query == "list=soon" ? "minutes" : "more than 60 drawings", page);
    }

    private const string Line = """{"tool":"finger","mm":0.3,"strokes":[[10,10,0,0.5,60,90,900,0.5,20,140,2100,0.5]]}""";

    [Fact]
    public async Task A_day_has_one_line_and_a_second_over_it()
    {
        var odile = await App.AsNamed("Odile Marsh");
        var me = await Id(DemoStudioMail("Odile Marsh"));
        Assert.Equal(HttpStatusCode.BadRequest, (await odile.PostForm("/courses/1/practice/daily/line", ("of", "a cup"))).StatusCode);
        Task<List<DailyLine>> Kept() => App.Read(db => db.DailyLines.AsNoTracking().Where(l => l.StudentId == me).ToListAsync());
        await odile.PostForm("/courses/1/practice/daily/onpaper", ("of", "a cup"));
        Assert.Null(Assert.Single(await Kept()).Trace);
        await Task.WhenAll(Enumerable.Range(0, 3).Select(_ => odile.PostForm("/courses/1/practice/daily/line", ("trace", Line))));
        var first = Assert.Single(await Kept());
        Assert.Equal(("a cup", null), (first.Of, first.Second));
        Assert.NotNull(first.Trace);
        await odile.PostForm("/courses/1/practice/daily/line", ("trace", Line.Replace("60,90", "70,95")), ("of", "the same cup"));
        var both = Assert.Single(await Kept());
        Assert.Equal((first.Trace, "the same cup"), (both.Trace, both.Of));
        Assert.NotNull(both.Second);
        var page = await odile.GetStringAsync("/courses/1/practice/daily");
        Assert.Contains("hand-second", page);
        Assert.Contains("1 day", page);
        // Staff see who goes on and no line.
        var class1 = await (await App.As(Edda)).GetStringAsync("/courses/1/practice/daily");
        Assert.Contains("Odile Marsh", class1);
        Assert.DoesNotContain("hand-drawn", class1);
        Assert.DoesNotContain("the same cup", class1);
    }

    private static string DemoStudioMail(string name) => Store.Demo.DemoStudio.Mail(name);

    /// <summary>Late in the evening by the server's clock it is the next day where the course is held, or still the one before.</summary>
    [Theory, InlineData("Europe/Berlin", 30), InlineData("America/Halifax", 29), InlineData("Pacific/Auckland", 30)]
    public async Task A_line_belongs_to_the_day_where_the_course_is_held(string zone, int day)
    {
        var clock = new SetClock(Instant.FromUtc(2026, 11, 30, 0, 30));
        var kept = await App.Read(async db =>
        {
            var course = await db.Courses.AsNoTracking().FirstAsync();
            course.Zone = zone;
            var student = await db
                .Memberships.Where(m => m.CourseId == course.Id && m.Role == CourseRole.Student)
                .Select(m => m.PersonId)
                .FirstAsync();
            await db.DailyLines.Where(l => l.StudentId == student).ExecuteDeleteAsync();
            return (await new SittingActions(db, clock).Line(course, student, Line, "keys")).Day;
        });
        Assert.Equal(new LocalDate(2026, 11, day), kept);
    }

    [Fact]
    public async Task Evidence_moves_a_stage_and_an_instructors_word_too()
    {
        var (edda, bram) = (await App.As(Edda), await App.As(Bram));
        var me = await Id(Bram);
        await App.Read(async db =>
        {
            await db.MeasurePoints.Where(p => p.StudentId == me && p.Measure == "halving").ExecuteDeleteAsync();
            return await db.StageMoves.Where(p => p.StudentId == me && p.Measure == "halving").ExecuteDeleteAsync();
        });
        for (var n = 0; n < Stages.Upwards; n++)
        {
            var round = await Begin(bram, "halve-and-third");
            for (var i = 0; i < Drill.RoundLength; i++)
                await bram.PostForm(
                    $"/courses/1/practice/drill/{round}/answer",
                    ("number", $"{i}"),
                    ("trace", await Drawn(round, 0.2, (50 * n) + i))
                );
        }
        var move = await App.Read(db => db.StageMoves.AsNoTracking().SingleAsync(m => m.StudentId == me && m.Measure == "halving"));
        Assert.Equal((MeasuringStage.ByTool, MeasuringStage.ByEyeThenCheck, 3), (move.From, move.To, move.Evidence!.Points.Count));
        var page = WebUtility.HtmlDecode(await bram.GetStringAsync($"/courses/1/students/{me}/stages"));
        Assert.Contains("all within 2.5× of what is asked", page);
        Assert.DoesNotContain("Move it to", page);

        var path = $"/courses/1/students/{me}/stages";
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await edda.PostForm(path + "/say", ("measure", "halving"), ("to", "ByEye"), ("word", " "))).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await edda.PostForm(path + "/say", ("measure", "halving"), ("to", "ByEyeThenCheck"), ("word", "stands there"))).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await edda.PostForm(path + "/say", ("measure", "weight"), ("to", "ByEye"), ("word", "x"))).StatusCode
        );
        await edda.PostForm(path + "/say", ("measure", "halving"), ("to", "ByEye"), ("word", "He halves the model in the air."));
        Assert.Contains("He halves the model in the air.", await bram.GetStringAsync(path));
        Assert.NotEqual(
            HttpStatusCode.Redirect,
            (await bram.PostForm(path + "/say", ("measure", "halving"), ("to", "ByTool"), ("word", "x"))).StatusCode
        );
        Assert.Equal(HttpStatusCode.NotFound, (await (await App.As(Maren)).GetAsync(path)).StatusCode);
    }

    [Fact]
    public async Task The_eye_one_aims_with_is_kept()
    {
        var bram = await App.As(Bram);
        var me = await Id(Bram);
        var path = $"/courses/1/students/{me}/stages";
        Assert.Equal(HttpStatusCode.BadRequest, (await bram.PostForm(path + "/eye", ("stays", "left"))).StatusCode);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await bram.PostForm(path + "/eye", [.. Enumerable.Repeat(("stays", "third"), 4)])).StatusCode
        );
        await bram.PostForm(path + "/eye", ("stays", "left"), ("stays", "right"), ("stays", "left"), ("stays", "left"));
        Assert.Equal(
            DominantEye.Left,
            await App.Read(db => db.Memberships.Where(m => m.CourseId == 1 && m.PersonId == me).Select(m => m.Eye).SingleAsync())
        );
        Assert.Contains("The left eye", await (await App.As(Edda)).GetStringAsync(path));
    }

    /// <summary>The demo's seven: the legs that were put in short on every one stay wrong, and the head that was put in ever less large comes closer.</summary>
    [Fact]
    public async Task A_series_says_what_moved_and_what_stays_wrong()
    {
        var pim = await App.Read(db => db.Users.Where(u => u.Name == "Pim Daly").Select(u => u.Id).SingleAsync());
        var course = await App.Read(db => db.Memberships.Where(m => m.PersonId == pim).Select(m => m.CourseId).SingleAsync());
        var page = WebUtility.HtmlDecode(await (await App.As(Edda)).GetStringAsync($"/courses/{course}/students/{pim}/series"));
        Assert.Contains("7 attempts", page);
        Assert.Contains("wrong in all", page);
        Assert.Contains("translate(", page);
        Assert.Contains("came closer from the first to the last", page);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await (await App.As(Edda)).GetAsync($"/courses/{course}/students/{pim}/series?of=999999")).StatusCode
        );
        var empty = await Id(DemoStudioMail("Rafe Tolley"));
        Assert.Contains("no subject was drawn twice yet", await (await App.As(Edda)).GetStringAsync($"/courses/1/students/{empty}/series"));
    }

    /// <summary>What a critique measures is a student's to read when it is released, not before; the staff read it all.</summary>
    [Fact]
    public async Task A_series_tells_a_student_nothing_of_what_is_not_released()
    {
        var me = await App.Read(db => db.Users.Where(u => u.Name == "Pim Daly").Select(u => u.Id).SingleAsync());
        var course = await App.Read(db => db.Memberships.Where(m => m.PersonId == me).Select(m => m.CourseId).SingleAsync());
        var path = $"/courses/{course}/students/{me}/series";
        var (pim, edda) = (await App.As(Doors.Stranger), await App.As(Edda));
        var ids = await App.Read(db =>
            db.Sheets.Where(s => s.StudentId == me && s.Exercise == "same-again")
                .OrderBy(s => s.SubmittedAt)
                .Select(s => s.Id)
                .ToListAsync()
        );
        Assert.Contains("wrong in all", await pim.GetStringAsync(path));
        var at = await App.Read(db => db.Sheets.Where(s => s.Id == ids[1]).Select(s => s.ReleasedAt).SingleAsync());
        Task<int> Release(Instant? when) =>
            App.Read(db =>
                db.Sheets.Where(s => ids.Skip(1).Contains(s.Id)).ExecuteUpdateAsync(u => u.SetProperty(s => s.ReleasedAt, when))
            );
        await Release(null);
        try
        {
            var own = await pim.GetStringAsync(path);
            Assert.Contains("7 attempts", own);
            Assert.DoesNotContain("wrong in all", own);
            Assert.Contains("No measure stands on two attempts", own);
            Assert.Contains("wrong in all", await edda.GetStringAsync(path));
        }
        finally
        {
            await Release(at);
        }
    }
}
