using System.Net;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store.Model;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>The studio figure through the server: who gets it and how it is dressed, kept by content, own poses, seats, references.</summary>
public sealed class FigurePageTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Instructor = "edda@saltmarsh.example",
        Student = "maren.holt@saltmarsh.example",
        Minor = "pim.daly@saltmarsh.example";

    private const string Small = "w=120&h=180&quick=1";

    private HarborApp App => fixture.App;

    [Fact]
    public async Task Only_members_of_a_course_see_its_figure()
    {
        Assert.Equal(HttpStatusCode.Redirect, (await App.Anonymous().GetAsync($"/courses/1/figure/stand?{Small}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await (await App.As(Minor)).GetAsync($"/courses/1/figure/stand?{Small}")).StatusCode);
        var seen = await (await App.As(Student)).GetAsync($"/courses/1/figure/stand?{Small}");
        Assert.Equal(HttpStatusCode.OK, seen.StatusCode);
        Assert.Equal("image/svg+xml", seen.Content.Headers.ContentType!.MediaType);
        Assert.StartsWith("<svg", await seen.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_course_of_minors_gets_the_garment_whatever_the_address_says()
    {
        var (minor, staff) = (await App.As(Minor), await App.As(Instructor));
        foreach (var client in new[] { minor, staff })
        {
            var asked = await client.GetStringAsync($"/courses/2/figure/stand?{Small}&kind=line&g=0");
            Assert.Equal(await client.GetStringAsync($"/courses/2/figure/stand?{Small}&kind=line&g=1"), asked);
            Assert.NotEqual(await staff.GetStringAsync($"/courses/1/figure/stand?{Small}&kind=line&g=0"), asked);
        }
        Assert.Contains("never seen without its garment", await minor.GetStringAsync("/courses/2/shelf/poses"));
        Assert.DoesNotContain("data-of-check", await staff.GetStringAsync("/courses/2/shelf/poses/stand"));
    }

    [Fact]
    public async Task A_view_is_kept_by_its_content()
    {
        var client = await App.As(Student);
        var path = $"/courses/1/figure/seated?{Small}&kind=mass&az=40";
        var first = await client.GetAsync(path);
        Assert.Contains("max-age", first.Headers.CacheControl!.ToString());
        Assert.True(first.Headers.CacheControl.Private);
        var again = new HttpRequestMessage(HttpMethod.Get, path);
        again.Headers.IfNoneMatch.Add(first.Headers.ETag!);
        Assert.Equal(HttpStatusCode.NotModified, (await client.SendAsync(again)).StatusCode);
        // What is asked for by another address may still be the same picture.
        Assert.Equal(first.Headers.ETag, (await client.GetAsync(path + "&e=1")).Headers.ETag);
        Assert.NotEqual(first.Headers.ETag, (await client.GetAsync(path.Replace("az=40", "az=45"))).Headers.ETag);
        Assert.Equal(
            "image/webp",
            (await client.GetAsync($"/courses/1/figure/seated?{Small}&kind=tone5")).Content.Headers.ContentType!.MediaType
        );
    }

    [Theory]
    [
        InlineData("az=north", "az"),
        InlineData("d=0.2", "seat.distance"),
        InlineData("eye=9", "seat.eyeHeight"),
        InlineData("kind=photo", "kind"),
        InlineData("kind=7", "kind"),
        InlineData("kind=tone4", "values"),
        InlineData("kind=muscles&g=1", "kind"),
        InlineData("kind=ecorche&g=1", "kind"),
        InlineData("kind=bones&part=wing", "part"),
        InlineData("body=nobody", "body"),
        InlineData("w=9", "width"),
        InlineData("h=99999", "width"),
        InlineData("w=1500&h=1500&kind=tone", "width"),
        InlineData("edit=thorax.twist:99", "edit"),
        InlineData("edit=x", "edit"),
        InlineData("la=NaN", "la")
    ]
    public async Task What_cannot_be_drawn_is_named(string query, string field)
    {
        var answer = await (await App.As(Student)).GetAsync($"/courses/1/figure/stand?{query}");
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        var text = await answer.Content.ReadAsStringAsync();
        Assert.Contains(field, text);
        Assert.Contains("Accepted", text);
    }

    [Fact]
    public async Task Under_the_skin_bones_are_drawn_for_everyone_and_muscles_where_nobody_is_a_minor()
    {
        var student = await App.As(Student);
        var minor = await App.As(Minor);
        Assert.Contains("data:image/webp", await student.GetStringAsync($"/courses/1/figure/stand?{Small}&kind=bones"));
        Assert.Contains("#8E3C26", await student.GetStringAsync($"/courses/1/figure/stand?{Small}&kind=muscles"));
        Assert.Equal(
            "image/webp",
            (await student.GetAsync($"/courses/1/figure/stand?{Small}&kind=ecorche")).Content.Headers.ContentType!.MediaType
        );
        Assert.Contains("#1E4F8F", await minor.GetStringAsync($"/courses/2/figure/stand?{Small}&kind=bones&g=0"));
        foreach (var kind in new[] { "muscles", "ecorche" })
        foreach (var what in new[] { "", "/names" })
            Assert.Equal(
                HttpStatusCode.BadRequest,
                (await minor.GetAsync($"/courses/2/figure/stand{what}?{Small}&kind={kind}&g=0")).StatusCode
            );
        // The page of a pose offers them no more than the picture gives them.
        var page = await minor.GetStringAsync("/courses/2/shelf/poses/stand?kind=muscles");
        Assert.DoesNotContain("data-kind=\"muscles\"", page);
        Assert.Contains("kind=bones", page);
    }

    [Fact]
    public async Task A_check_is_drawn_right_and_wrong_for_members_and_never_a_muscle_for_minors()
    {
        var client = await App.As(Student);
        async Task<string> Card(string query) => await client.GetStringAsync($"/courses/1/figure/stand/check/ankles?az=0&side=1{query}");
        var (right, wrong) = (await Card(""), await Card("&wrong=true"));
        Assert.Contains("<circle fill=\"#2A7F68\"", right);
        Assert.Contains("<path fill=\"#B0472F\"", wrong);
        Assert.Equal(HttpStatusCode.BadRequest, (await client.GetAsync("/courses/1/figure/stand/check/wing")).StatusCode);
        var minor = await App.As(Minor);
        Assert.Equal(HttpStatusCode.NotFound, (await minor.GetAsync("/courses/1/figure/stand/check/ankles")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await minor.GetAsync("/courses/2/figure/stand/check/ankles?g=0")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await minor.GetAsync("/courses/2/figure/stand/check/calf?g=0&az=180")).StatusCode);
        Assert.DoesNotContain("data-check-card=\"calf\"", await minor.GetStringAsync("/courses/2/shelf/poses/stand?az=180"));
    }

    [Fact]
    public async Task What_lies_where_is_named_in_plain_words_and_in_latin_for_members_only()
    {
        var path = "/courses/1/figure/stand/names?kind=bones&az=0";
        Assert.Equal(HttpStatusCode.NotFound, (await (await App.As(Minor)).GetAsync(path)).StatusCode);
        var client = await App.As(Student);
        var names = JsonDocument.Parse(await client.GetStringAsync(path)).RootElement;
        var parts = names.GetProperty("parts").EnumerateArray().ToList();
        JsonElement Part(string id) => parts.Single(p => p.GetProperty("id").GetString() == id);
        Assert.Equal("collarbone, left", Part("clavicle.L").GetProperty("name").GetString());
        Assert.Equal("clavicula", Part("clavicle.L").GetProperty("latin").GetString());
        // Seen from in front the figure's left is on the right of the picture, and the head above the foot.
        Assert.True(Part("clavicle.L").GetProperty("x").GetInt32() > Part("clavicle.R").GetProperty("x").GetInt32());
        Assert.True(Part("cranium").GetProperty("y").GetInt32() < Part("heelbone.L").GetProperty("y").GetInt32());
        var runs = names.GetProperty("runs").EnumerateArray().Select(r => r.GetInt32()).ToList();
        Assert.Equal(
            names.GetProperty("width").GetInt32() * names.GetProperty("height").GetInt32(),
            runs.Where((_, i) => i % 2 == 1).Sum()
        );
        Assert.Equal(HttpStatusCode.BadRequest, (await client.GetAsync("/courses/1/figure/stand/names?kind=line")).StatusCode);
    }

    [Theory]
    [
        InlineData("shelf/poses/stand?az=north"),
        InlineData("shelf/poses/stand/readout?edit=head.flex:400"),
        InlineData("sessions/5/seat?az=north"),
        InlineData("sessions/5/seat/readout?d=0"),
        InlineData("shelf/poses/stand?kind=photo")
    ]
    public async Task A_page_with_an_address_that_cannot_be_read_is_shown_with_the_reason(string page)
    {
        var answer = await (await App.As(Student)).GetAsync("/courses/1/" + page);
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        var text = await answer.Content.ReadAsStringAsync();
        Assert.Contains("Accepted", text);
        Assert.Contains("data-pose", text);
    }

    [Fact]
    public async Task A_pose_that_is_not_there_is_not_found()
    {
        var client = await App.As(Student);
        foreach (var id in new[] { "nopose", "own-99999", "own-x", "own-" })
        {
            Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync($"/courses/1/figure/{id}?{Small}")).StatusCode);
            Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync($"/courses/1/shelf/poses/{id}")).StatusCode);
        }
    }

    [Fact]
    public async Task A_changed_pose_is_kept_for_its_course_alone()
    {
        var staff = await App.As(Instructor);
        var tilted = await staff.PostForm(
            "/courses/1/shelf/poses/stand/tilt",
            ("tilt", "pelvis 6 down on the left"),
            ("state", "?body=male")
        );
        Assert.Equal(HttpStatusCode.Redirect, tilted.StatusCode);
        var to = tilted.Headers.Location!.OriginalString;
        Assert.Contains("edit=pelvis.side%3A6", to);
        var refused = await staff.PostForm("/courses/1/shelf/poses/stand/tilt", ("tilt", "make it sing"), ("state", "?body=male"));
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        Assert.Contains("make it sing", await refused.Content.ReadAsStringAsync());
        var kept = await staff.PostForm(
            "/courses/1/shelf/poses/stand/save",
            ("name", "Leaning into the wind"),
            ("state", "?edit=pelvis.side:6")
        );
        Assert.Equal(HttpStatusCode.Redirect, kept.StatusCode);
        var own = kept.Headers.Location!.OriginalString;
        Assert.Contains("Leaning into the wind", await staff.GetStringAsync(own));
        Assert.Contains("Leaning into the wind", await (await App.As(Student)).GetStringAsync("/courses/1/shelf/poses"));
        Assert.Equal(HttpStatusCode.NotFound, (await staff.GetAsync(own.Replace("/courses/1/", "/courses/3/"))).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await staff.GetAsync("/courses/3/figure/" + own.Split('/')[^1])).StatusCode);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await staff.PostForm(
                    "/courses/1/shelf/poses/stand/save",
                    ("name", "Leaning into the wind"),
                    ("state", "?edit=pelvis.side:6")
                )
            ).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await staff.PostForm("/courses/1/shelf/poses/stand/save", ("name", "Falls over"), ("state", "?edit=pelvis.side:90"))
            ).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await (await App.As(Student)).PostForm("/courses/1/shelf/poses/stand/save", ("name", "Mine"), ("state", ""))).StatusCode
        );
    }

    [Fact]
    public async Task A_student_sets_their_own_seat_and_nobody_elses()
    {
        var (student, staff) = (await App.As(Student), await App.As(Instructor));
        var (me, other) = await App.Read(async db =>
            (
                (await db.Users.SingleAsync(u => u.Email == Student)).Id,
                (await db.Users.SingleAsync(u => u.Email == "bram.sedge@saltmarsh.example")).Id
            )
        );
        await student.PostForm("/courses/1/sessions/5/seat/sit", ("person", $"{other}"), ("state", "?az=77&d=3&eye=1.2"));
        var seats = await App.Read(db => db.Seatings.Where(s => s.MeetingId == 5).ToListAsync());
        Assert.Equal([(me, 3.0)], seats.Where(s => s.Azimuth == 77).Select(s => (s.PersonId, s.Distance)));
        // A seat set by hand is no place of the plan any more.
        Assert.Null(seats.Single(s => s.PersonId == me).Spot);
        await staff.PostForm(
            "/courses/1/sessions/5/seat/sit",
            ("person", $"{other}"),
            ("azimuth", "-200"),
            ("distance", "3.2"),
            ("eye", "1.3")
        );
        Assert.Equal(160, (await App.Read(db => db.Seatings.SingleAsync(s => s.MeetingId == 5 && s.PersonId == other))).Azimuth, 6);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await staff.PostForm("/courses/1/sessions/5/seat/sit", ("person", $"{other}"), ("azimuth", "0"), ("distance", "90"))
            ).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await staff.PostForm("/courses/1/sessions/5/seat/sit", ("person", "99999"), ("azimuth", "0"))).StatusCode
        );
        Assert.Contains("profile", await student.GetStringAsync("/courses/1/sessions/5/seat"));
        Assert.DoesNotContain("Bram", await student.GetStringAsync("/courses/1/sessions/5/seat"));
    }

    [Fact]
    public async Task A_sheet_held_against_the_figure_is_judged_part_by_part()
    {
        var staff = await App.As(Instructor);
        var sheet = await App.Read(db =>
            db.Sheets.Where(s =>
                    s.Student.Email == Student
                    && s.Subject == "figure"
                    && s.ReleasedAt == null
                    && s.State != SheetState.Placing
                    && s.Landmarks != null
                )
                .OrderByDescending(s => s.Id)
                .FirstAsync()
        );
        var path = $"/courses/1/critique/{sheet.Id}/bench";
        Assert.DoesNotContain("reference-view", await staff.GetStringAsync(path));
        var held = await staff.PostForm(path + "/reference", ("pose", "contrapposto"), ("body", "male"), ("azimuth", "0"));
        Assert.Equal(HttpStatusCode.Redirect, held.StatusCode);
        var page = await staff.GetStringAsync(path);
        Assert.Contains("data-reference", page);
        Assert.Contains("ink=blue", page);
        Assert.Contains("reference view", page);
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm(path + "/reference", ("body", "nobody"))).StatusCode);
        await staff.PostForm(path + "/reference", ("off", "true"));
        Assert.Null((await App.Read(db => db.Sheets.SingleAsync(s => s.Id == sheet.Id))).Reference);
    }

    [Fact]
    public async Task What_the_bench_holds_a_sheet_against_its_student_reads_too()
    {
        var (released, owner, redo) = await App.Read(async db =>
        {
            var again = await db
                .Sheets.Include(s => s.RedoOf)
                    .ThenInclude(s => s!.Student)
                .Where(s => s.RedoOfId != null && s.Subject == "figure")
                .OrderBy(s => s.Id)
                .FirstAsync();
            var first = again.RedoOf!;
            first.Reference = new("contrapposto", "male", false, 0, 3.4, 1.25);
            await db.SaveChangesAsync();
            return (first.Id, first.Student.Email!, again.Id);
        });
        var student = await App.As(owner);
        var page = await student.GetStringAsync($"/courses/1/critique/{released}");
        Assert.Contains("reference view", page);
        var compared = await student.GetStringAsync($"/courses/1/critique/{redo}/compare");
        Assert.Contains("left forearm, length", compared);
        Assert.Contains("left forearm, direction", compared);
    }

    /// <summary>What an address says beside the view, and how it is written, makes no other picture: it would be drawn again for each.</summary>
    [Theory]
    [InlineData("az=25&junk=1"), InlineData("junk=2&az=25.0"), InlineData("az=25&quick=0"), InlineData("az=2.5e1&kind=line")]
    public void One_view_has_one_name_however_it_is_asked_for(string query) =>
        Assert.Equal(
            Figures.FigureAddress.Read("stand", Figures.FigureAddress.State("az=25")),
            Figures.FigureAddress.Read("stand", Figures.FigureAddress.State(query))
        );
}
