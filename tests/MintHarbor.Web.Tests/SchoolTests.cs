using System.Net;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Canons;
using MintHarbor.Store.Model;
using NodaTime;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>A course's own canon: written, checked, used, and what was judged before it left alone.</summary>
public sealed class SchoolTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Path = "/courses/1/shelf/canon";

    private HarborApp App => fixture.App;

    /// <summary>The form as the page sends it, with some fields changed.</summary>
    private static (string, string)[] Head(string name, params (string Rule, double Value)[] changes)
    {
        var first = CanonTable.Get("classical-head");
        string Plain(double v) => v.ToString(System.Globalization.CultureInfo.InvariantCulture);
        var fields = new List<(string, string)> { ("Form.First", first.Id), ("Form.Name", name), ("Form.About", "as we draw here") };
        for (var n = 0; n < first.Rules.Count; n++)
        {
            var rule = first.Rules[n];
            fields.Add(($"Form.Rules[{n}].Id", rule.Id));
            fields.Add(($"Form.Rules[{n}].Judged", "true"));
            fields.Add(($"Form.Rules[{n}].Tolerance", Plain(rule.Tolerance)));
            if (rule.Parts is { } parts)
                fields.AddRange(parts.Select(p => ($"Form.Rules[{n}].Parts[{p.Key}]", Plain(p.Value))));
            else if (CanonRecipe.Builds.Contains(rule.Id))
                fields.Add(
                    (
                        $"Form.Rules[{n}].Expected",
                        Plain(changes.FirstOrDefault(c => c.Rule == rule.Id) is (not null, var v) ? v : rule.Expected)
                    )
                );
        }
        return [.. fields];
    }

    private static async Task<string> Refused(Task<HttpResponseMessage> post)
    {
        var answer = await post;
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        return WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
    }

    private static async Task Went(Task<HttpResponseMessage> post) => Assert.Equal(HttpStatusCode.Redirect, (await post).StatusCode);

    [Fact]
    public async Task A_head_is_judged_by_the_courses_own_canon_and_a_released_critique_keeps_what_it_had()
    {
        var edda = await App.As(Doors.Instructor);
        var id = await App.Read(db =>
            db.Sheets.Where(s => s.Student.Name == "Dara Quist" && s.Subject == "head").Select(s => s.Id).SingleAsync()
        );
        var bench = $"/courses/1/critique/{id}/bench";
        async Task<string> Bench() => WebUtility.HtmlDecode(await edda.Text(bench));
        Assert.Contains("Eye line high", await Bench());
        // Her eyes lie at 44.4 % of the head.
        await Went(edda.PostForm(Path + "/save", Head("Saltmarsh head", ("H-eye", 0.45))));
        Assert.DoesNotContain("Eye line high", await Bench());
        Assert.Contains("Saltmarsh head", await Bench());
        // Out to its student, and the course goes on by another.
        await App.Read(db =>
            db.Sheets.Where(s => s.Id == id)
                .ExecuteUpdateAsync(u =>
                    u.SetProperty(s => s.ReleasedAt, SystemClock.Instance.GetCurrentInstant())
                        .SetProperty(s => s.State, SheetState.Released)
                )
        );
        await Went(edda.PostForm(Path + "/use", ("canon", "beginner-head")));
        var after = await Bench();
        Assert.DoesNotContain("Eye line high", after);
        Assert.DoesNotContain("beginner", after);
        Assert.Contains("Saltmarsh head", after);
        Assert.Equal(
            "Saltmarsh head",
            (await App.Read(db => db.Sheets.Where(s => s.Id == id).Select(s => s.JudgedBy).SingleAsync()))!.Name
        );
        Assert.Equal("beginner-head", (await App.Read(db => db.Courses.SingleAsync(c => c.Id == 1))).SchoolOf("head").Id);
        // Another version moves it neither, and the settings' own choice doesn't.
        await Went(edda.PostForm(Path + "/save", Head("Saltmarsh head", ("H-eye", 0.55))));
        Assert.DoesNotContain("Eye line", (await Bench()).Split("measures inside")[0]);
        // Tests of this class come in any order, and each version has its number.
        var all = await App.Read(db => db.CourseCanons.AsNoTracking().Where(c => c.CourseId == 1).OrderBy(c => c.Number).ToListAsync());
        Assert.Equal(Enumerable.Range(1, all.Count), all.Select(v => v.Number));
        var versions = all.Where(v => v.Canon.Name == "Saltmarsh head").ToList();
        Assert.Equal([0.45, 0.55], versions.Select(v => v.Canon.Rule("H-eye")!.Expected));
        Assert.All(versions, v => Assert.Equal("Edda Quill", v.By));
        var shelf = WebUtility.HtmlDecode(await edda.Text($"/courses/1/shelf?canon={versions[1].Id}"));
        Assert.Contains($"Saltmarsh head, version {versions[1].Number}: heads are judged by it", shelf);
        Assert.Contains("own canon of heads", await edda.Text("/courses/1/log"));
        await Went(edda.PostForm(Path + "/use", ("canon", "classical-head")));
        Assert.Null(await App.Read(db => db.Courses.Where(c => c.Id == 1).Select(c => c.OwnHead).SingleAsync()));
    }

    [Fact]
    public async Task What_contradicts_itself_is_named_and_what_was_typed_stays()
    {
        var edda = await App.As(Doors.Instructor);
        var fields = Head("Long thirds", ("H-thirds", 0.4));
        var checkedOnly = await edda.PostForm(Path + "/check", fields);
        Assert.Contains("the rest makes it 0.2, it says 0.4", WebUtility.HtmlDecode(await checkedOnly.Content.ReadAsStringAsync()));
        var refused = await Refused(edda.PostForm(Path + "/save", fields));
        Assert.Contains("Thirds of the face, hairline to brow", refused);
        Assert.Contains("value=\"Long thirds\"", refused);
        Assert.Contains("value=\"0.4\"", refused);
        Assert.DoesNotContain(await App.Read(db => db.CourseCanons.AsNoTracking().ToListAsync()), c => c.Canon.Name == "Long thirds");
        Assert.Contains("0.1 to 0.95", await Refused(edda.PostForm(Path + "/save", Head("High", ("H-eye", 3)))));
        Assert.Contains("1 to 60 letters", await Refused(edda.PostForm(Path + "/save", Head(" "))));
        await Refused(edda.PostForm(Path + "/save", ("Form.First", "nobody's"), ("Form.Name", "x")));
        await Refused(edda.PostForm(Path + "/use", ("canon", "999999")));
        await Refused(edda.PostFile(Path + "/import", "file", Encoding.UTF8.GetBytes("{}"), "a.json"));
    }

    [Fact]
    public async Task It_goes_out_and_in_as_json_and_is_the_instructors_alone()
    {
        var edda = await App.As(Doors.Instructor);
        var json = await edda.Text(Path + "/json?from=beginner-head");
        var came = await edda.PostFile(
            Path + "/import",
            "file",
            Encoding.UTF8.GetBytes(json.Replace("beginner's head", "First heads")),
            "a.json"
        );
        Assert.Equal(HttpStatusCode.Redirect, came.StatusCode);
        var kept = await App.Read(db => db.CourseCanons.AsNoTracking().OrderByDescending(c => c.Id).FirstAsync());
        Assert.Equal(("First heads", "head"), (kept.Canon.Name, kept.Subject));
        Assert.Contains("First heads", await edda.Text($"{Path}?from={kept.Id}"));
        // A file is used when somebody says so.
        Assert.NotEqual("First heads", (await App.Read(db => db.Courses.SingleAsync(c => c.Id == 1))).SchoolOf("head").Name);
        // Another course's instructor doesn't find it.
        var other = await App.Read(db =>
            db.Courses.Where(c => c.Id != 1 && c.Members.Any(m => m.Person.Email == Doors.Instructor)).Select(c => c.Id).FirstAsync()
        );
        await Refused(edda.GetAsync($"/courses/{other}/shelf/canon?from={kept.Id}"));
        var maren = await App.As(Doors.Victim);
        Assert.Contains("First heads", await maren.Text($"/courses/1/shelf?canon={kept.Id}"));
        Assert.Equal(HttpStatusCode.Forbidden, (await maren.GetAsync(Path)).StatusCode);
        foreach (var handler in new[] { "save", "use", "check", "import" })
            Assert.Equal(HttpStatusCode.Forbidden, (await maren.PostForm($"{Path}/{handler}", ("canon", "heroic"))).StatusCode);
    }
}
