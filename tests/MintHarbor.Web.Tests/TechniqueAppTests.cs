using System.Net;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Critiques;
using MintHarbor.Store.Model;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>What the ink says in the application: who sees it, what is asked of a sheet without a figure, annotations out
/// and in, a class by its stamps.</summary>
public sealed class TechniqueAppTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Instructor = "edda@saltmarsh.example";

    private HarborApp App => fixture.App;

    private Task<List<Sheet>> Sheets(Func<IQueryable<Sheet>, IQueryable<Sheet>> of) =>
        App.Read(db => of(db.Sheets.AsNoTracking().Include(s => s.Student).Where(s => s.CourseId == 1)).OrderBy(s => s.Id).ToListAsync());

    private Task<Sheet> Again(int id) => App.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.Id == id));

    [Fact]
    public async Task Every_sheet_that_waits_has_been_read_and_shows_how()
    {
        var waiting = await Sheets(s => s.Where(x => x.State == SheetState.Waiting));
        Assert.True(waiting.Count > 3);
        Assert.All(waiting, s => Assert.NotNull(s.Technique));
        var staff = await App.As(Instructor);
        var owner = await App.AsNamed(waiting[0].Student.Name);
        var other = await App.AsNamed(waiting.First(s => s.StudentId != waiting[0].StudentId).Student.Name);
        foreach (var kind in new[] { "lines", "values" })
        {
            var path = $"/courses/1/critique/{waiting[0].Id}/picture/{kind}";
            Assert.Equal("image/png", (await staff.GetAsync(path)).Content.Headers.ContentType!.MediaType);
            Assert.Equal(HttpStatusCode.OK, (await owner.GetAsync(path)).StatusCode);
            Assert.Equal(HttpStatusCode.NotFound, (await other.GetAsync(path)).StatusCode);
        }
    }

    [Fact]
    public async Task Annotations_go_out_to_those_who_may_read_and_come_in_from_staff()
    {
        var staff = await App.As(Instructor);
        var released = (await Sheets(s => s.Where(x => x.ReleasedAt != null)))[0];
        var waiting = (await Sheets(s => s.Where(x => x.State == SheetState.Waiting)))[^1];
        var owner = await App.AsNamed(waiting.Student.Name);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync($"/courses/1/critique/{waiting.Id}/annotations")).StatusCode);
        var answer = await staff.GetAsync($"/courses/1/critique/{released.Id}/annotations");
        Assert.Equal("application/ld+json", answer.Content.Headers.ContentType!.MediaType);
        var file = await answer.Content.ReadAsByteArrayAsync();
        Assert.Equal(
            HttpStatusCode.OK,
            (await (await App.AsNamed(released.Student.Name)).GetAsync($"/courses/1/critique/{released.Id}/annotations")).StatusCode
        );
        var bench = $"/courses/1/critique/{waiting.Id}/bench/annotations";
        Assert.NotEqual(HttpStatusCode.Redirect, (await owner.PostFile(bench, "file", file, "a.json")).StatusCode);
        var before = (await Again(waiting.Id)).Remarks.Count;
        // Twice, as by a double press: what stands already stays once.
        for (var n = 0; n < 2; n++)
            Assert.Equal(HttpStatusCode.Redirect, (await staff.PostFile(bench, "file", file, "a.json")).StatusCode);
        var after = (await Again(waiting.Id)).Remarks;
        Assert.Equal(before + released.Remarks.Count, after.Count);
        Assert.All(released.Remarks, r => Assert.Contains(after, a => (a.What, a.Why, a.Next) == (r.What, r.Why, r.Next)));
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostFile(bench, "file", Encoding.UTF8.GetBytes("no annotations"), "a.json")).StatusCode
        );
        Assert.Equal(after.Count, (await Again(waiting.Id)).Remarks.Count);
    }

    [Fact]
    public async Task A_stamp_goes_on_all_that_are_picked_once_and_is_taken_back_whole()
    {
        var staff = await App.As(Instructor);
        var waiting = await Sheets(s => s.Where(x => x.State == SheetState.Waiting));
        var (one, two) = (waiting[0], waiting[1]);
        var code = FaultCodes.Of(Faults.All)["outline-only"];
        (string, string)[] stamp = [("sheet", $"{one.Id}"), ("code", code), ("picked", $"{two.Id} 999999 x")];
        for (var n = 0; n < 2; n++)
            Assert.Equal(HttpStatusCode.Redirect, (await staff.PostForm("/courses/1/critique/contact/stamp", stamp)).StatusCode);
        foreach (var id in new[] { one.Id, two.Id })
            Assert.Single((await Again(id)).Remarks, r => r.FaultId == "outline-only");
        async Task<string> Of(int id) => $"{id}:{(await Again(id)).Remarks.Single(r => r.FaultId == "outline-only").Id}";
        var stamped = $"{await Of(one.Id)} {await Of(two.Id)}";
        await staff.PostForm("/courses/1/critique/contact/undo", ("sheet", $"{one.Id}"), ("stamped", stamped));
        foreach (var id in new[] { one.Id, two.Id })
            Assert.DoesNotContain((await Again(id)).Remarks, r => r.FaultId == "outline-only");
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm("/courses/1/critique/contact/stamp", ("sheet", $"{one.Id}"), ("code", "0!"))).StatusCode
        );
        var student = await App.AsNamed(one.Student.Name);
        Assert.Equal(HttpStatusCode.Forbidden, (await student.GetAsync("/courses/1/critique/contact")).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await student.PostForm("/courses/1/critique/contact/stamp", stamp)).StatusCode);
    }
}
