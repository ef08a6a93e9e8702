using System.Net;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Projects;
using MintHarbor.Store.Model;
using NodaTime;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>A work that two grade, and the grade book over a term.</summary>
public sealed class TermBookTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Edda = Doors.Instructor,
        Maren = Doors.Victim,
        Lorne = "lorne@saltmarsh.example",
        Book = "/courses/1/projects/book";

    private HarborApp App => fixture.App;

    private static async Task Went(Task<HttpResponseMessage> post) => Assert.Equal(HttpStatusCode.Redirect, (await post).StatusCode);

    private static async Task<string> Refused(Task<HttpResponseMessage> act)
    {
        var answer = await act;
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        return WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
    }

    private static async Task<string> Read(HttpClient c, string path) => WebUtility.HtmlDecode(await c.Text(path));

    /// <summary>Another instructor of the course, or none.</summary>
    private Task<int> Second(CourseRole role) =>
        App.Read(db =>
            db.Memberships.Where(m => m.CourseId == 1 && m.Person.Email == Lorne).ExecuteUpdateAsync(u => u.SetProperty(m => m.Role, role))
        );

    private Task<ProjectWork> Portrait(string mail) =>
        App.Read(db =>
            db.ProjectWorks.AsNoTracking()
                .Include(w => w.Project)
                .SingleAsync(w => w.Student.Email == mail && w.Project.CourseId == 1 && w.Project.Template == "portrait-from-sitter")
        );

    /// <summary>Nothing graded yet, and nothing in its way.</summary>
    private Task<int> Clear(int work) =>
        App.Read(db =>
            db.ProjectWorks.Where(w => w.Id == work)
                .ExecuteUpdateAsync(u =>
                    u.SetProperty(w => w.Levels, new Dictionary<string, int>())
                        .SetProperty(w => w.Again, new Dictionary<string, int>())
                        .SetProperty(w => w.Graders, (TwoGraders?)null)
                        .SetProperty(w => w.Standing, Standing.Graded)
                        .SetProperty(w => w.ReleasedAt, (Instant?)null)
                )
        );

    private static (string, string) Settled(string row, int level) => ($"settled[{row}]", $"{level}");

    [Fact]
    public async Task Two_grade_unseen_by_each_other_and_what_they_settle_counts()
    {
        var (edda, lorne, maren) = (await App.As(Edda), await App.As(Lorne), await App.As(Maren));
        var work = await Portrait(Maren);
        await Clear(work.Id);
        var (way, rows) = ($"/courses/1/projects/way/{work.Id}", work.Project.Shape.Rubric);
        Task Give(HttpClient by, string row, int level) => Went(by.PostForm(way + "/level", ("row", row), ("level", $"{level}")));
        // Tests of this class come in any order.
        await Second(CourseRole.Assistant);
        Assert.Contains("two instructors", await Refused(edda.PostForm(way + "/second")));
        await Second(CourseRole.Instructor);
        await Went(edda.PostForm(way + "/second"));
        // Pressed twice, or by the other: who asked stays the first.
        await Went(lorne.PostForm(way + "/second"));
        Assert.Contains("grade it alone", await Read(edda, way));
        // Others of this class have graded alone before, and stand in the log.
        async Task<int> Logged() => (await Read(lorne, "/courses/1/log")).Split($"level of {rows[0].Name.ToLowerInvariant()}").Length;
        var before = await Logged();
        foreach (var r in rows)
            await Give(edda, r.Id, 2);
        var unseen = await Read(lorne, way);
        Assert.DoesNotContain("level-on", unseen);
        Assert.Contains($"You: 0 of {rows.Count} rows. Edda Quill: {rows.Count}.", unseen);
        Assert.DoesNotContain($"level of {rows[0].Name.ToLowerInvariant()}", unseen);
        Assert.Contains(">two<", await lorne.Text($"/courses/1/projects/{work.ProjectId}"));
        var line = (await lorne.Text($"/courses/1/projects/{work.ProjectId}/csv")).Split("\r\n").Single(l => l.Contains(Maren));
        Assert.Contains($"{Maren}{new string(',', rows.Count + 1)}", line);
        Assert.Equal(before, await Logged());
        // The first row two levels higher, the rest alike.
        await Give(lorne, rows[0].Id, 4);
        Assert.Contains("Lorne Fisk: 1.", await Read(edda, way));
        Assert.DoesNotContain("settled-why", await Read(edda, way));
        Assert.Contains("begun to grade", await Refused(edda.PostForm(way + "/alone")));
        foreach (var r in rows.Skip(1))
            await Give(lorne, r.Id, 2);
        var both = await Read(edda, way);
        Assert.Contains($"two levels or more in {rows[0].Name.ToLowerInvariant()}", both);
        Assert.Contains("seen the other's", await Refused(edda.PostForm(way + "/level", ("row", rows[0].Id), ("level", "3"))));
        Assert.Contains("not settled", await Refused(edda.PostForm(way + "/release")));
        (string, string)[] agreed = [Settled(rows[0].Id, 3), .. rows.Skip(1).Select(r => Settled(r.Id, 2))];
        Assert.Contains("why it was settled so", await Refused(edda.PostForm(way + "/settle", agreed)));
        Assert.Contains(
            "2 to 4, between the two",
            await Refused(edda.PostForm(way + "/settle", [Settled(rows[0].Id, 1), .. agreed[1..], ("because", "so")]))
        );
        await Went(edda.PostForm(way + "/settle", [.. agreed, ("because", "sure, not yet free")]));
        // 100 · (w·3 + (W − w)·2) ÷ 4W, by hand: with all at 2 it is 50, and the first row's step adds 25 · w ÷ W.
        var expected = 50 + (25m * rows[0].Weight / rows.Sum(r => r.Weight));
        var after = await Read(edda, way);
        Assert.Contains($"rounded {Math.Round(expected, MidpointRounding.AwayFromZero)}", after);
        Assert.Contains($"settled level of {rows[0].Name.ToLowerInvariant()}", after);
        Assert.Contains("2 and 4", after);
        Assert.DoesNotContain("sure, not yet free", await Read(maren, way));
        await Went(edda.PostForm(way + "/release"));
        var shown = await Read(maren, way);
        Assert.Contains("Graded by Edda Quill and Lorne Fisk, and settled.", shown);
        Assert.Contains($"3: {rows[0].Levels[3]}", shown);
        Assert.DoesNotContain("settled-why", shown);
        Assert.DoesNotContain($"4: {rows[0].Levels[4]}", shown);
        Assert.Contains("released", await Refused(edda.PostForm(way + "/settle", agreed)));
        foreach (var handler in new[] { "second", "alone", "settle" })
            Assert.Equal(HttpStatusCode.Forbidden, (await maren.PostForm($"{way}/{handler}")).StatusCode);
    }

    [Fact]
    public async Task A_class_by_file_leaves_what_two_grade_and_alone_is_alone_again()
    {
        await Second(CourseRole.Instructor);
        var edda = await App.As(Edda);
        var work = await Portrait(Doors.Other);
        await Clear(work.Id);
        var way = $"/courses/1/projects/way/{work.Id}";
        await Went(edda.PostForm(way + "/second"));
        var row = work.Project.Shape.Rubric[0];
        var csv = $"mail,{row.Name}\n{Doors.Other},3\n";
        Assert.Contains(
            "graded by two",
            await Refused(edda.PostForm($"/courses/1/projects/{work.ProjectId}/import", ("csv", csv), ("take", "true")))
        );
        await Went(edda.PostForm(way + "/alone"));
        Assert.Null((await Portrait(Doors.Other)).Graders);
        await Went(edda.PostForm(way + "/level", ("row", row.Id), ("level", "3")));
        Assert.Equal(3, (await Portrait(Doors.Other)).Levels[row.Id]);
    }

    [Fact]
    public async Task The_term_counts_by_weights_and_what_is_tried_is_not_kept()
    {
        var edda = await App.As(Edda);
        var maren = await App.As(Maren);
        var id = await App.Read(db => db.Users.Where(u => u.Email == Maren).Select(u => u.Id).SingleAsync());
        var works = await App.Read(db =>
            db.ProjectWorks.AsNoTracking().Include(w => w.Project).Where(w => w.StudentId == id && w.Project.CourseId == 1).ToListAsync()
        );
        var (half, whole) = (works[0], works[1]);
        var now = SystemClock.Instance.GetCurrentInstant();
        await App.Read(async db =>
        {
            foreach (var w in await db.ProjectWorks.Include(w => w.Project).Where(w => w.StudentId == id).ToListAsync())
            {
                w.Again = [];
                (w.Graders, w.HandedInAt, w.ReleasedAt) = (null, null, null);
                w.Standing = w.Id == half.Id || w.Id == whole.Id ? Standing.Graded : Standing.Excused;
                w.Levels = w.Project.Shape.Rubric.ToDictionary(r => r.Id, _ => w.Id == half.Id ? 2 : 4);
                if (w.Id == whole.Id)
                    w.ReleasedAt = now;
            }
            await db.Assignments.Where(a => a.StudentId == id).ExecuteDeleteAsync();
            // Three weeks: both done, one of two, none of one; and one that isn't due yet.
            foreach (var (weeks, done) in new[] { (3, true), (3, true), (2, true), (2, false), (1, false), (-1, false) })
                db.Assignments.Add(
                    new()
                    {
                        CourseId = 1,
                        StudentId = id,
                        Exercise = "gesture",
                        Minutes = 20,
                        GivenAt = now - Duration.FromDays(30),
                        Due = now - Duration.FromDays(7 * weeks),
                        DoneAt = done ? now - Duration.FromDays(2) : null,
                    }
                );
            return await db.SaveChangesAsync();
        });
        var weights = $"Form.Weights[{half.ProjectId}]=3&Form.Weights[{whole.ProjectId}]=1&Form.Practice=2&Form.Drop=1";
        // Practice (100 + 50) ÷ 2 = 75 with the lowest week left out; (150 + 100 + 150) ÷ 6.
        var tried = await Read(edda, $"{Book}?{weights}&Form.Who={id}");
        Assert.Matches(@"\((3·50 \+ 1·100|1·100 \+ 3·50) \+ 2·75\) ÷ 6 = 66\.67", tried);
        Assert.Contains("rounded 67", tried);
        Assert.Contains("Tried, not kept", tried);
        Assert.Contains("excused", tried);
        Assert.Null(await App.Read(db => db.Courses.Where(c => c.Id == 1).Select(c => c.Book).SingleAsync()));
        await Went(
            edda.PostForm(
                Book + "/keep",
                ($"Form.Weights[{half.ProjectId}]", "3"),
                ($"Form.Weights[{whole.ProjectId}]", "1"),
                ("Form.Practice", "2"),
                ("Form.Drop", "1"),
                ("Form.Scale", "letters")
            )
        );
        Assert.DoesNotContain("Tried, not kept", await Read(edda, Book));
        // She reads what was shown to her, and what would come of the rest: (100 + 150) ÷ 3, and (80·6 − 250) ÷ 3.
        var hers = await Read(maren, Book);
        Assert.Contains("(1·100 + 2·75) ÷ 3 = 83.33", hers);
        Assert.Contains("For <b>80</b> the rest must come to <b>76.67</b>", hers);
        Assert.DoesNotContain("Bram Sedge", await Read(maren, $"{Book}?Form.Who=1"));
        Assert.DoesNotContain("3·50", hers);
        var supposed = await Read(maren, $"{Book}?Form.Of={id}&Form.Suppose[{half.ProjectId}]=20&Form.Aim=95");
        Assert.Matches(@"3·20.* ÷ 6 = 51\.67", supposed);
        Assert.Contains("if it comes so", supposed);
        Assert.Contains("is out of reach", await Read(maren, $"{Book}?Form.Aim=99"));
        // By what was measured, if the instructor says so: two rounds of the week before last, 75 and 25 of 100; the week with one thing due and
        // nothing done in it is 0. (50 + 0) ÷ 2.
        await App.Read(async db =>
        {
            await db.MeasurePoints.Where(p => p.StudentId == id).ExecuteDeleteAsync();
            foreach (var (n, off) in new[] { (1, 2.0), (2, 4.0) })
                db.MeasurePoints.Add(
                    new()
                    {
                        CourseId = 1,
                        StudentId = id,
                        Measure = "angle",
                        From = EvidenceOf.Drill,
                        Of = -n,
                        At = now - Duration.FromDays(14),
                        Lean = off,
                    }
                );
            return await db.SaveChangesAsync();
        });
        var measured = await Read(edda, $"{Book}?Form.ByScore=true&Form.Drop=0&Form.Who={id}");
        Assert.Contains("2·25", measured);
        Assert.Contains("Tried, not kept", measured);
        // What is supposed of one is not supposed of another.
        Assert.DoesNotContain(
            "if it comes so",
            await Read(edda, $"{Book}?Form.Who={id + 1}&Form.Of={id}&Form.Suppose[{half.ProjectId}]=20")
        );
        Assert.Matches(@"Maren Holt,[^\n]*,75,67,[A-F]", await edda.Text(Book + "/csv"));
        Assert.Contains("practice 2 by doing, 1 week left out", await Read(edda, "/courses/1/log"));
    }

    [Theory]
    [
        InlineData("Form.Practice=101", "0 to 100"),
        InlineData("Form.Drop=-1", "0 to 20"),
        InlineData("Form.Scale=stars", "letters"),
        InlineData("Form.Suppose[1]=101", "0 to 100"),
        InlineData("Form.Aim=-5", "0 to 100"),
        InlineData("Form.Weights[1]=1000", "0 to 100")
    ]
    public async Task A_term_of_impossible_numbers_is_refused_in_words(string query, string accepted)
    {
        var edda = await App.As(Edda);
        Assert.Contains(accepted, await Refused(edda.GetAsync($"{Book}?{query}")));
    }

    [Fact]
    public async Task The_book_is_the_instructors_and_an_empty_course_says_so()
    {
        var stranger = await App.As(Doors.Stranger);
        Assert.Equal(HttpStatusCode.NotFound, (await stranger.GetAsync(Book)).StatusCode);
        var maren = await App.As(Maren);
        Assert.Equal(HttpStatusCode.Forbidden, (await maren.GetAsync(Book + "/csv")).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await maren.PostForm(Book + "/keep")).StatusCode);
        var edda = await App.As(Edda);
        var empty = await edda.PostForm("/courses/new", Doors.CourseForm("Nothing yet"));
        Assert.Equal(HttpStatusCode.Redirect, empty.StatusCode);
        var course = empty.Headers.Location!.OriginalString.Split('/')[2];
        Assert.Contains("Nothing is graded here yet", await edda.Text($"/courses/{course}/projects/book"));
    }
}
