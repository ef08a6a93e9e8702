using System.Net;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store.Model;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Areas, edges and what lies over a sheet: who may, what is said, what is refused.</summary>
public sealed class AreasAppTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Instructor = "edda@saltmarsh.example";

    private HarborApp App => fixture.App;

    private Task<Sheet> Of(string exercise) =>
        App.Read(db =>
            db.Sheets.AsNoTracking()
                .Include(s => s.Student)
                .OrderBy(s => s.Id)
                .FirstAsync(s => s.CourseId == 1 && s.Exercise == exercise && s.State == SheetState.Waiting)
        );

    private Task<LookedSheet?> Looked(int sheet) =>
        App.Read(db => db.LookedSheets.AsNoTracking().SingleOrDefaultAsync(l => l.SheetId == sheet));

    private static string Path(Sheet s) => $"/courses/1/critique/{s.Id}/look";

    private const string Square = "100,150;160,150;160,210;100,210";

    /// <summary>Patches laid by a hand whose spacings are known: the crossed row's middle lies near its light, the hatched row is even.</summary>
    [Fact]
    public async Task A_row_of_patches_says_what_it_is_and_only_staff_sees_it_before_the_critique_is_out()
    {
        var sheet = await Of("value-patches");
        var staff = await App.As(Instructor);
        var page = WebUtility.HtmlDecode(await staff.Text(Path(sheet)));
        Assert.Contains("hatch: three values in even steps", page);
        Assert.Matches(@"cross-hatch: (the middle lies nearer the light|light and middle are one value)", page);
        Assert.Contains("Draw the middle at", page);
        var marks = (await Looked(sheet.Id))!.Marks;
        Assert.Equal(12, marks.Count);
        // As ruled: 3.2, 1.5 and 0.85 mm; the closest is closer than what is told.
        var spaced = marks
            .Where(m => m.Method == Core.Technique.PatchMethod.Hatch && m.Read!.Spacing is not null)
            .ToDictionary(m => m.Step!.Value, m => m.Read!.Spacing!.Value);
        Assert.InRange(spaced[Core.Technique.PatchStep.Light], 3.2 * 0.9, 3.2 * 1.1);
        var student = await App.AsNamed(sheet.Student.Name);
        Assert.DoesNotContain("even steps", await student.Text(Path(sheet)));
        foreach (var handler in new[] { "mark", "remove", "lay" })
            Assert.Equal(
                HttpStatusCode.Forbidden,
                (await student.PostForm($"{Path(sheet)}/{handler}", ("kind", "Tone"), ("at", Square))).StatusCode
            );
        var other = await App.AsNamed((await Of("mass")).Student.Name);
        Assert.Equal(HttpStatusCode.NotFound, (await other.GetAsync(Path(sheet))).StatusCode);
    }

    [Fact]
    public async Task Marks_are_kept_in_their_letters_and_what_is_none_is_refused_with_what_is_accepted()
    {
        var sheet = (
            await App.Read(db =>
                db.Sheets.AsNoTracking()
                    .FirstAsync(s =>
                        s.CourseId == 1 && s.State == SheetState.Waiting && s.Exercise == "sitting" && s.Subject == Sheet.Thing
                    )
            )
        );
        var staff = await App.As(Instructor);
        Task<HttpResponseMessage> Mark(string kind, string at, params (string, string)[] more) =>
            staff.PostForm($"{Path(sheet)}/mark", [("kind", kind), ("at", at), .. more]);
        Assert.Equal(HttpStatusCode.Redirect, (await Mark("tone", Square)).StatusCode);
        Assert.Equal(HttpStatusCode.Redirect, (await Mark("Parallel", "40,300;80,250")).StatusCode);
        Assert.Equal(HttpStatusCode.Redirect, (await Mark("parallel", "140,300;100,250")).StatusCode);
        Assert.Equal(HttpStatusCode.Redirect, (await Mark("Shape", Square, ("reference", "true"))).StatusCode);
        var page = WebUtility.HtmlDecode(await staff.Text(Path(sheet)));
        Assert.Contains("B and C come together as they go away", page);
        Assert.Contains("D, as it is seen: 36 cm²", page);
        (string Kind, string At, string Accepted)[] bad =
        [
            ("tone", "1,1;2,2", "3 to 400 places"),
            ("tone", "1,1;2,1;2,2;1,2", "25 mm² or more"),
            ("edge", "10,10", "two clicks"),
            ("edge", "10,10;10.5,10", "4 mm apart"),
            ("tone", "1,1;9999,1;9999,99", "millimetres on the sheet"),
            ("tone", "a,b;c,d;e,f", "millimetres on the sheet"),
            ("smell", Square, "tone | patch"),
            ("patch", Square, "light, middle or dark"),
            ("ellipse", "1,1;2,2;3,3", "not in a line"),
        ];
        foreach (var (kind, at, accepted) in bad)
        {
            var answer = await Mark(kind, at);
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
            Assert.Contains(accepted, WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()));
        }
        Assert.Equal(["A", "B", "C", "D"], (await Looked(sheet.Id))!.Marks.Select(m => m.Name));
        for (var n = 0; n < 2; n++)
            await staff.PostForm($"{Path(sheet)}/remove", ("name", "B"));
        await Mark("edge", "10,10;60,10");
        // The letter that is free again.
        Assert.Equal(["A", "C", "D", "B"], (await Looked(sheet.Id))!.Marks.Select(m => m.Name));
        // Two at once: both stand.
        await Task.WhenAll(Mark("edge", "10,20;60,20"), Mark("edge", "10,30;60,30"));
        Assert.Equal(6, (await Looked(sheet.Id))!.Marks.Count);
    }

    [Fact]
    public async Task What_lies_over_a_sheet_is_moved_by_one_at_a_time_and_is_the_same_students()
    {
        var sheet = await App.Read(db =>
            db.Sheets.AsNoTracking()
                .Include(s => s.Student)
                .FirstAsync(s => s.CourseId == 1 && s.Student.Name == "Perrin Gale" && s.State == SheetState.Waiting)
        );
        var (own, foreign) = await App.Read(async db =>
            (
                await db
                    .Sheets.Where(s => s.StudentId == sheet.StudentId && s.CourseId == 1 && s.Id != sheet.Id)
                    .Select(s => s.Id)
                    .FirstAsync(),
                await db.Sheets.Where(s => s.StudentId != sheet.StudentId && s.CourseId == 1).Select(s => s.Id).FirstAsync()
            )
        );
        var staff = await App.As(Instructor);
        Task<HttpResponseMessage> Lay(string over, uint version, params (string, string)[] more) =>
            staff.PostForm($"{Path(sheet)}/lay", [("over", over), ("version", $"{version}"), .. more]);
        Assert.Equal(HttpStatusCode.Redirect, (await Lay($"sheet:{own}", 0)).StatusCode);
        var first = (await Looked(sheet.Id))!;
        Assert.Equal((OverKind.Sheet, own), (first.Over!.Kind, first.Over.SheetId));
        Assert.Contains($"critique/{own}/picture/flat", await staff.Text(Path(sheet)));
        Assert.Equal(HttpStatusCode.BadRequest, (await Lay($"sheet:{foreign}", first.Version)).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await Lay("Ladder", first.Version, ("width", "3"))).StatusCode);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await Lay("Ladder", first.Version, ("x", "100"), ("y", "200"), ("width", "90"), ("turn", "-4"))).StatusCode
        );
        Assert.Equal(HttpStatusCode.Conflict, (await Lay("Figure", first.Version)).StatusCode);
        Assert.Equal(new LaidOverSheet(OverKind.Ladder, 0, 100, 200, 90, -4), (await Looked(sheet.Id))!.Over);
        Assert.Equal(HttpStatusCode.Redirect, (await Lay("", (await Looked(sheet.Id))!.Version)).StatusCode);
        Assert.Null((await Looked(sheet.Id))!.Over);
    }

    [Fact]
    public async Task A_student_lends_a_photograph_of_what_was_drawn_and_it_goes_with_the_sheet()
    {
        var sheet = await Of("value-patches");
        var student = await App.AsNamed(sheet.Student.Name);
        var wrong = await student.PostFile($"{Path(sheet)}/photo", "photo", "no picture"u8.ToArray(), "a.jpg");
        Assert.Equal(HttpStatusCode.BadRequest, wrong.StatusCode);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await student.PostFile($"{Path(sheet)}/photo", "photo", BadFiles.Png(90, 60), "a.png")).StatusCode
        );
        var looked = (await Looked(sheet.Id))!;
        Assert.Equal((60 / 90.0, OverKind.Photo, 12), (looked.PhotoShape, looked.Over!.Kind, looked.Marks.Count));
        var picture = $"/courses/1/critique/{sheet.Id}/picture/over";
        Assert.Equal(HttpStatusCode.OK, (await student.GetAsync(picture)).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await (await App.As(Instructor)).GetAsync(picture)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await (await App.AsNamed("Perrin Gale")).GetAsync(picture)).StatusCode);
        // What staff has laid over it meanwhile stays.
        await (await App.As(Instructor)).PostForm(
            $"{Path(sheet)}/lay",
            ("over", "Ladder"),
            ("version", $"{(await Looked(sheet.Id))!.Version}")
        );
        // Another one takes its place; the first is kept no longer.
        await student.PostFile($"{Path(sheet)}/photo", "photo", BadFiles.Png(60, 90), "b.png");
        Assert.Equal(OverKind.Ladder, (await Looked(sheet.Id))!.Over!.Kind);
        var hash = looked.PhotoHash;
        Assert.False(await App.Read(db => db.Pictures.AnyAsync(p => p.Hash.StartsWith(hash!))));
        Assert.True(
            await App.Read(async db =>
                await db.Pictures.AnyAsync(p => p.Hash == db.LookedSheets.First(l => l.SheetId == sheet.Id).PhotoHash)
            )
        );
    }
}
