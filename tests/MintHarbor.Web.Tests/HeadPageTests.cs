using System.Net;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Simulation;
using MintHarbor.Store.Model;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Heads through the server, and example sheets that nobody drew.</summary>
public sealed class HeadPageTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Instructor = "edda@saltmarsh.example",
        Student = "maren.holt@saltmarsh.example",
        Minor = "pim.daly@saltmarsh.example";
    private const string Small = "w=120&h=150&quick=1";

    private HarborApp App => fixture.App;

    [Fact]
    public async Task Only_members_of_a_course_see_its_heads()
    {
        Assert.Equal(HttpStatusCode.Redirect, (await App.Anonymous().GetAsync($"/courses/1/head?{Small}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await (await App.As(Minor)).GetAsync($"/courses/1/head?{Small}")).StatusCode);
        var tone = await (await App.As(Student)).GetAsync($"/courses/1/head?{Small}&turn=20&kind=tone");
        Assert.Equal("image/webp", tone.Content.Headers.ContentType!.MediaType);
        var line = await (await App.As(Minor)).GetAsync($"/courses/2/head?{Small}&turn=20&kind=line");
        Assert.StartsWith("<svg", await line.Content.ReadAsStringAsync());
        Assert.Contains("max-age", line.Headers.CacheControl!.ToString());
    }

    [Theory]
    [
        InlineData("sitter=nobody", "long-nose"),
        InlineData("canon=golden", "beginner-head"),
        InlineData("turn=face", "turn"),
        InlineData("turn=200", "head.turn"),
        InlineData("tilt=60", "head.tilt"),
        InlineData("kind=mask", "kind"),
        InlineData("w=9000", "width")
    ]
    public async Task What_no_head_can_be_is_said(string wrong, string says)
    {
        var answer = await (await App.As(Student)).GetAsync($"/courses/1/head?{wrong}");
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains(says, await answer.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_sitter_is_told_apart_from_the_canon()
    {
        var client = await App.As(Student);
        var page = await client.GetStringAsync("/courses/1/shelf/sitter?sitter=long-nose&turn=35");
        Assert.Contains("Second best", page);
        Assert.Contains("heads lower than the canon", page);
        foreach (var s in HeadCatalogue.Sitters)
            Assert.Contains($"value=\"{s.Id}\"", page);
        // From the front nothing is far.
        Assert.Contains("Turn the head to see how it divides", await client.GetStringAsync("/courses/1/shelf/sitter?turn=0"));
        Assert.Contains("far share of", await client.GetStringAsync("/courses/1/shelf/sitter/readout?turn=30"));
        var wrong = await client.GetAsync("/courses/1/shelf/sitter?sitter=nobody");
        Assert.Equal(HttpStatusCode.BadRequest, wrong.StatusCode);
        Assert.Contains("here is no sitter", await wrong.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_head_sits_for_timed_practice()
    {
        var page = await (await App.As(Student)).GetStringAsync("/courses/1/practice/home?set=head&seed=5");
        Assert.Contains("/courses/1/head?sitter=", page);
        Assert.Contains("turned", page);
        Assert.Equal(
            page.Split("antiforgery")[0].Length,
            (await (await App.As(Student)).GetStringAsync("/courses/1/practice/home?set=head&seed=5")).Split("antiforgery")[0].Length
        );
    }

    private Task<int> Examples(int course) =>
        App.Read(db => db.Sheets.CountAsync(s => s.CourseId == course && s.State == SheetState.Example));

    [Fact]
    public async Task An_example_is_drawn_found_out_and_taken_away()
    {
        var staff = await App.As(Instructor);
        var before = await App.Read(db => db.Sheets.Where(s => s.CourseId == 1).MaxAsync(s => s.Id));
        var made = await staff.PostForm(
            "/courses/1/critique/example/make",
            ("Form.Subject", "figure"),
            ("Form.Pose", "contrapposto"),
            ("Form.Body", "female"),
            ("Form.Side", "0"),
            ("Form.Hand", "careful"),
            ("Form.Tool", "Pencil"),
            ("Form.Faults[head large]", "strong"),
            ("Form.Faults[whites left]", "plain")
        );
        Assert.Equal(HttpStatusCode.Redirect, made.StatusCode);
        var sheet = await App.Read(db =>
            db.Sheets.AsNoTracking().SingleAsync(s => s.CourseId == 1 && s.Id > before && s.State == SheetState.Example)
        );
        Assert.Contains("head large by 22 %", sheet.SelfReview);
        Assert.Contains("whites left by 56 %", sheet.SelfReview);
        Assert.InRange(sheet.Landmarks.Count, 14, 40);
        Assert.InRange(sheet.Confidence, 0.7, 1);
        // What was put in is what the measures find, held against the view it was drawn from.
        var bench = await staff.GetStringAsync($"/courses/1/critique/{sheet.Id}/bench");
        Assert.Contains("An example", bench);
        Assert.Matches("[Hh]ead [0-9]+ % (large|long)", bench);
        Assert.DoesNotContain("Release to", bench);
        // It waits in nobody's queue, and no student sees it.
        Assert.DoesNotContain(
            sheet.Id,
            await App.Read(db => db.Sheets.Where(s => s.State == SheetState.Waiting).Select(s => s.Id).ToListAsync())
        );
        Assert.Contains("drawn for teaching", await staff.GetStringAsync("/courses/1/critique"));
        var student = await App.As(Student);
        Assert.Equal(HttpStatusCode.NotFound, (await student.GetAsync($"/courses/1/critique/{sheet.Id}")).StatusCode);
        Assert.DoesNotContain("drawn for teaching", await student.GetStringAsync("/courses/1/critique"));
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm($"/courses/1/critique/{sheet.Id}/bench/release")).StatusCode);
        Assert.Equal(HttpStatusCode.Redirect, (await staff.PostForm($"/courses/1/critique/{sheet.Id}/bench/takeaway")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await staff.GetAsync($"/courses/1/critique/{sheet.Id}/bench")).StatusCode);
        var real = await App.Read(db =>
            db.Sheets.Where(s => s.CourseId == 1 && s.State == SheetState.Waiting).Select(s => s.Id).FirstAsync()
        );
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm($"/courses/1/critique/{real}/bench/takeaway")).StatusCode);
    }

    [Fact]
    public async Task A_head_too_is_drawn_as_an_example_and_minors_get_the_garment()
    {
        var staff = await App.As(Instructor);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await staff.PostForm(
                    "/courses/2/critique/example/make",
                    ("Form.Subject", "head"),
                    ("Form.Sitter", "wide-jaw"),
                    ("Form.Turn", "35"),
                    ("Form.Hand", "plain"),
                    ("Form.Tool", "Charcoal"),
                    ("Form.Faults[axis in the middle]", "strong")
                )
            ).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await staff.PostForm(
                    "/courses/2/critique/example/make",
                    ("Form.Subject", "figure"),
                    ("Form.Pose", "recline"),
                    ("Form.Body", "male"),
                    ("Form.Side", "-35"),
                    ("Form.Hand", "quick"),
                    ("Form.Tool", "Pen")
                )
            ).StatusCode
        );
        Assert.Equal(2, await Examples(2));
        var head = await App.Read(db =>
            db.Sheets.AsNoTracking().SingleAsync(s => s.CourseId == 2 && s.State == SheetState.Example && s.Subject == "head")
        );
        Assert.Equal("three-quarter", head.View);
        Assert.Contains("turn", await staff.GetStringAsync($"/courses/2/critique/{head.Id}/bench"));
    }

    [Theory]
    [
        InlineData("Form.Pose", "flying", "here is no pose"),
        InlineData("Form.Body", "giant", "giant"),
        InlineData("Form.Hand", "left", "o hand is called"),
        InlineData("Form.Faults[head large]", "huge", "no strength"),
        InlineData("Form.Side", "9999", "azimuth"),
        InlineData("Form.Subject", "horse", "can&#x27;t be drawn")
    ]
    public async Task What_can_not_be_drawn_is_said_and_what_was_chosen_stays(string field, string value, string says)
    {
        var fields = new Dictionary<string, string>
        {
            ["Form.Subject"] = "figure",
            ["Form.Pose"] = "seated",
            ["Form.Body"] = "male",
            ["Form.Side"] = "35",
            ["Form.Hand"] = "plain",
            ["Form.Tool"] = "Pen",
            ["Form.Faults[hand small]"] = "strong",
        };
        fields[field] = value;
        var before = await Examples(1);
        var answer = await (await App.As(Instructor)).PostForm(
            "/courses/1/critique/example/make",
            [.. fields.Select(f => (f.Key, f.Value))]
        );
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        var page = await answer.Content.ReadAsStringAsync();
        Assert.Contains(says, page);
        Assert.Equal(before, await Examples(1));
        if (field != "Form.Faults[hand small]")
            Assert.Matches("figure-hand-small.*?<option value=\"strong\" selected", page.Replace('\n', ' '));
    }

    /// <summary>Every fault that a page offers can be drawn.</summary>
    [Fact]
    public void Every_fault_on_the_page_is_one_that_can_be_drawn()
    {
        foreach (var subject in new[] { "figure", "head" })
            Assert.All(Pages.Critique.ExampleModel.FaultsOf(subject), f =>
                Assert.Contains(SimulatedStudent.All(subject == "head"), a => a.Name == f.Name && f.Least < f.Most)
            );
    }
}
