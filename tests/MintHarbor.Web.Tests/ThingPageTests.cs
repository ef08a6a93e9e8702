using System.Net;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Objects;
using MintHarbor.Core.Practice;
using MintHarbor.Store.Model;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Still lifes through the server: their pictures, setting them up, keeping them, drills made of them, and sheets held against them.</summary>
public sealed class ThingPageTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Instructor = "edda@saltmarsh.example",
        Assistant = "lorne@saltmarsh.example",
        Student = "maren.holt@saltmarsh.example",
        Minor = "pim.daly@saltmarsh.example";
    private const string Small = "a=table;cup,0,0,0&w=120&h=120&quick=1";

    private HarborApp App => fixture.App;

    [Fact]
    public async Task Only_members_see_a_courses_things_and_minors_see_all_of_them()
    {
        Assert.Equal(HttpStatusCode.Redirect, (await App.Anonymous().GetAsync($"/courses/1/things?{Small}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await (await App.As(Minor)).GetAsync($"/courses/1/things?{Small}")).StatusCode);
        var minor = await App.As(Minor);
        Assert.StartsWith("<svg", await minor.GetStringAsync($"/courses/2/things?{Small}"));
        var tone = await minor.GetAsync($"/courses/2/things?{Small}&kind=tone5");
        Assert.Equal("image/webp", tone.Content.Headers.ContentType!.MediaType);
        Assert.Contains("max-age", tone.Headers.CacheControl!.ToString());
        // While things are moved they stand in one another: that is drawn, and refused only where they come to rest.
        Assert.StartsWith("<svg", await minor.GetStringAsync($"/courses/2/things?{Small.Replace("cup,0,0,0", "cup,0,0,0;jug,0.01,0,0")}"));
        Assert.Contains("plaster block", await minor.GetStringAsync("/courses/2/shelf/things"));
    }

    [Theory]
    [
        InlineData("a=table;teapot,0,0,0", "no &#x27;teapot&#x27;|no 'teapot'"),
        InlineData("a=table;cup,4,0,0", "stands nowhere"),
        InlineData("a=cellar;cup,0,0,0", "table or floor"),
        InlineData("a=table;cup,0,0,0&eye=0.7", "sees no top"),
        InlineData("a=table;cup,0,0,0&d=0.2", "1 to 20 metres"),
        InlineData("a=table;cup,0,0,0&kind=construction", "no construction"),
        InlineData("a=table;cup,0,0,0&kind=photo", "kind"),
        InlineData("a=table;cup,0,0,0&w=9000", "width"),
        InlineData("a=table;cup,0,0,0&az=north", "az"),
        InlineData("", "table or floor")
    ]
    public async Task What_cannot_stand_or_be_seen_is_said(string wrong, string says)
    {
        var answer = await (await App.As(Student)).GetAsync($"/courses/1/things?{wrong}");
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        var text = await answer.Content.ReadAsStringAsync();
        Assert.True(says.Split('|').Any(text.Contains), text);
    }

    [Fact]
    public async Task A_still_life_is_read_off_as_a_pencil_would()
    {
        var client = await App.As(Student);
        var page = await client.GetStringAsync("/courses/1/shelf/things/kitchen");
        Assert.Contains("times as high as broad", page);
        Assert.Contains("Lightest flat face", page);
        // A student turns and lights it, and sets nothing up.
        Assert.DoesNotContain("data-add", page);
        Assert.DoesNotContain("Keep for the course", page);
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync("/courses/1/shelf/things/new")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync("/courses/1/shelf/things/own-999")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync("/courses/1/shelf/things/nothing")).StatusCode);
        var overlapping = await client.GetStringAsync("/courses/1/shelf/things/kitchen/readout?a=table;cup,0,0,0;jug,0.01,0,0;box,0.4,0,0");
        Assert.Contains("data-overlaps=\"0,1\"", overlapping);
        Assert.Contains("The cup and the jug stand in one another", overlapping);
        Assert.DoesNotContain("times as", overlapping);
    }

    [Fact]
    public async Task An_instructor_keeps_one_for_the_course_and_takes_it_away()
    {
        var staff = await App.As(Instructor);
        (string, string)[] Kept(string name, string things) => [("name", name), ("state", $"?a={things}&az=20&d=1.5&eye=1.3&la=-60&le=30")];
        var made = await staff.PostForm(
            "/courses/1/shelf/things/new/save",
            Kept("Three for Monday", "table;cup,0.1,0,30;box,-0.1,0,10;jug,-0.1,0,0")
        );
        Assert.Equal(HttpStatusCode.Redirect, made.StatusCode);
        var where = made.Headers.Location!.OriginalString;
        Assert.Contains("/shelf/things/own-", where);
        var seen = await (await App.As(Student)).GetStringAsync(where);
        Assert.Contains("Three for Monday", seen);
        Assert.Contains("data-az=\"20\"", seen);
        Assert.Contains("data-la=\"-60\"", seen);
        Assert.Contains("Three for Monday", await (await App.As(Student)).GetStringAsync("/courses/1/shelf/things"));
        // Another course has none of it, by its list or by its address.
        var elsewhere = await App.As(Minor);
        Assert.DoesNotContain("Three for Monday", await elsewhere.GetStringAsync("/courses/2/shelf/things"));
        Assert.Equal(HttpStatusCode.NotFound, (await elsewhere.GetAsync(where.Replace("/1/", "/2/"))).StatusCode);
        // The name is taken; nothing typed is lost.
        var twice = await staff.PostForm("/courses/1/shelf/things/new/save", Kept("Three for Monday", "floor;stool,0,0,0"));
        Assert.Equal(HttpStatusCode.BadRequest, twice.StatusCode);
        var again = await twice.Content.ReadAsStringAsync();
        Assert.Contains("has an arrangement called Three for Monday", again);
        Assert.Contains("floor;stool,0,0,0", again);
        // What stands in another isn't kept.
        var clash = await staff.PostForm("/courses/1/shelf/things/new/save", Kept("In one another", "table;cup,0,0,0;jug,0,0.01,0"));
        Assert.Equal(HttpStatusCode.BadRequest, clash.StatusCode);
        Assert.Contains("stand in one another", await clash.Content.ReadAsStringAsync());
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm("/courses/1/shelf/things/new/save", Kept("", "table;cup,0,0,0"))).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await (await App.As(Assistant)).PostForm("/courses/1/shelf/things/new/save", Kept("Lorne's", "table;cup,0,0,0"))).StatusCode
        );
        Assert.Equal(HttpStatusCode.Redirect, (await staff.PostForm(where + "/remove")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await staff.GetAsync(where)).StatusCode);
        // The studio's own are nobody's to take away.
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm("/courses/1/shelf/things/kitchen/remove")).StatusCode);
    }

    [Fact]
    public async Task Of_two_who_keep_one_name_at_once_one_is_told()
    {
        var (one, two) = (await App.As(Instructor), await App.As(Instructor));
        (string, string)[] form = [("name", "At once"), ("state", "?a=table;cup,0,0,0")];
        var both = await Task.WhenAll(
            one.PostForm("/courses/1/shelf/things/new/save", form),
            two.PostForm("/courses/1/shelf/things/new/save", form)
        );
        Assert.Equal([HttpStatusCode.Redirect, HttpStatusCode.BadRequest], both.Select(b => b.StatusCode).Order());
        Assert.Equal(1, await App.Read(db => db.CourseArrangements.CountAsync(a => a.Name == "At once")));
    }

    [Fact]
    public async Task A_round_of_values_is_asked_in_tone_and_its_result_is_in_words()
    {
        var client = await App.As("bram.sedge@saltmarsh.example");
        var begun = await client.PostForm("/courses/1/practice/begin", ("kind", "value-steps"));
        var path = begun.Headers.Location!.OriginalString;
        var page = await client.GetStringAsync(path);
        Assert.Contains("/courses/1/things?a=", page);
        Assert.Contains("From A to B", page);
        var id = int.Parse(path.Split('/')[^1], System.Globalization.CultureInfo.InvariantCulture);
        var item = await App.Read(async db => (await db.DrillRounds.SingleAsync(r => r.Id == id)).State.Replay().Next!);
        var answered = await client.PostForm(
            path + "/answer",
            ("number", "0"),
            (
                "value",
                (item.Truth.Value > 0 ? item.Truth.Value - 5 : item.Truth.Value + 5).ToString(
                    System.Globalization.CultureInfo.InvariantCulture
                )
            )
        );
        Assert.Contains(
            item.Truth.Value > 0 ? "values too dark" : "values too light",
            await client.GetStringAsync(answered.Headers.Location!.OriginalString)
        );
        var refused = await client.PostForm(path + "/answer", ("number", "1"), ("value", "44"));
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
    }

    [Fact]
    public async Task A_still_life_sits_for_timed_practice()
    {
        var client = await App.As(Student);
        var page = await client.GetStringAsync("/courses/1/practice/home?set=still-life&things=kitchen&seed=3");
        Assert.Contains("Jug on a box", page);
        Assert.Contains("/courses/1/things?a=table;box", System.Text.RegularExpressions.Regex.Unescape(WebUtility.HtmlDecode(page)));
    }

    private Task<Sheet> Released() =>
        App.Read(db => db.Sheets.Where(s => s.CourseId == 1 && s.ReleasedAt != null).OrderBy(s => s.Id).FirstAsync());

    [Fact]
    public async Task A_sheet_is_held_against_a_still_life_and_its_student_reads_it_after_release()
    {
        var sheet = await Released();
        var mail = await App.Read(db => db.Users.Where(u => u.Id == sheet.StudentId).Select(u => u.Email!).SingleAsync());
        var (staff, owner) = (await App.As(Instructor), await App.As(mail));
        var path = $"/courses/1/critique/{sheet.Id}/held";
        Assert.Contains("Nothing has been measured", await owner.GetStringAsync(path));
        const string view = "?a=table;bottle,0.1,0,0;cup,-0.1,0.05,0;bowl,0.05,0.2,0&kind=line&az=15&d=1.3&eye=1.2";
        var seen = StillLife.Truth(new(Arrangement.Read("table;bottle,0.1,0,0;cup,-0.1,0.05,0;bowl,0.05,0.2,0")), new(15, 1.3, 1.2)).Things;
        // As seen, but for the bottle, a fifth too short.
        string Box(SeenThing t, double high) =>
            string.Create(
                System.Globalization.CultureInfo.InvariantCulture,
                $"{20 + (0.4 * t.Round.Left):0.00},{20 + (0.4 * (t.Round.Foot - (high * t.Round.Height))):0.00},{20 + (0.4 * t.Round.Right):0.00},{20 + (0.4 * t.Round.Foot):0.00}"
            );
        var boxes = string.Join(';', seen.Select(t => Box(t, t.Name == "bottle" ? 0.8 : 1)));
        (string, string)[] form = [("of", view), ("name", "three things"), ("boxes", boxes), ("version", "0")];
        Assert.Equal(HttpStatusCode.Redirect, (await staff.PostForm(path + "/keep", form)).StatusCode);
        var told = await owner.GetStringAsync(path);
        Assert.Contains("20 % too short", told);
        Assert.Contains("The cup stands as it is seen", told);
        Assert.Contains("Beside the still life", await owner.GetStringAsync($"/courses/1/critique/{sheet.Id}"));
        // Somebody who looked before that was kept is told, and what they drew stays.
        var clash = await staff.PostForm(path + "/keep", form);
        Assert.Equal(HttpStatusCode.Conflict, clash.StatusCode);
        Assert.Contains("Edda Quill has held this sheet against three things", await clash.Content.ReadAsStringAsync());
        foreach (
            var (wrong, says) in new[]
            {
                ("1,2,3", "no box"),
                (boxes[..boxes.LastIndexOf(';')], "2 boxes"),
                ("a,b,c,d", "no place of the sheet"),
            }
        )
        {
            var refused = await staff.PostForm(path + "/keep", [.. form.Where(f => f.Item1 != "boxes"), ("boxes", wrong)]);
            Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
            Assert.Contains(says, await refused.Content.ReadAsStringAsync());
        }
    }

    [Fact]
    public async Task Before_release_a_student_sees_nothing_of_what_was_held()
    {
        var sheet = await App.Read(db =>
            db.Sheets.Include(s => s.Student)
                .Where(s => s.CourseId == 1 && s.State == SheetState.Waiting && s.ReleasedAt == null)
                .OrderBy(s => s.Id)
                .FirstAsync()
        );
        var path = $"/courses/1/critique/{sheet.Id}/held";
        var kept = await (await App.As(Instructor)).PostForm(
            path + "/keep",
            ("of", "?a=table;cup,0,0,0"),
            ("name", "a cup"),
            ("boxes", "10,10,60,90"),
            ("version", "0")
        );
        Assert.Equal(HttpStatusCode.Redirect, kept.StatusCode);
        var owner = await (await App.As(sheet.Student.Email!)).GetStringAsync(path);
        Assert.Contains("Nothing has been measured", owner);
        Assert.DoesNotContain("a cup", owner);
    }
}
