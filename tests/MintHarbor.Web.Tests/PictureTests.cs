using System.Net;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MintHarbor.Store;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Pictures from arrival to leaving: what is kept, what it is made into, and that it goes with what it belonged to.</summary>
public sealed class PictureTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Bram = "bram.sedge@saltmarsh.example",
        Secret = "48.2082 N 16.3738 E";

    private HarborApp App => fixture.App;

    /// <summary>A photograph with a place in it, each time another.</summary>
    private static byte[] Photograph(int n)
    {
        var said = Encoding.ASCII.GetBytes($"Exif\0\0{Secret} {n}");
        using var bitmap = SkiaSharp.SKBitmap.Decode(BadFiles.Jpeg);
        bitmap.SetPixel(n, n, SkiaSharp.SKColors.Red);
        using var data = bitmap.Encode(SkiaSharp.SKEncodedImageFormat.Jpeg, 90 - n);
        var plain = data.ToArray();
        return [.. plain[..2], 0xFF, 0xE1, 0, (byte)(said.Length + 2), .. said, .. plain[2..]];
    }

    private async Task<int> HandIn(HttpClient client, byte[] photo, string question, Guid set, int at)
    {
        var answer = await client.PostFile(
            "/courses/1/critique/submit/send",
            "Form.Photo",
            photo,
            "sheet.jpg",
            ("Form.Question", question),
            ("Form.SelfReview", "It stands."),
            ("Form.Exercise", "sitting"),
            ("Form.Pose", "standing"),
            ("Form.View", "front"),
            ("Form.Paper", "A2"),
            ("Form.Set", $"{set}"),
            ("Form.SetAt", $"{at}")
        );
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        return await App.Read(db => db.Sheets.Where(s => s.Question == question).Select(s => s.Id).SingleAsync());
    }

    private Task<List<string>> Kept(params string?[] hashes) =>
        App.Read(async db => (await db.Pictures.Select(p => p.Hash).ToListAsync()).FindAll(h => hashes.Contains(h.Split('-')[0])));

    [Fact]
    public async Task A_sheet_is_kept_without_its_place_and_ready_for_the_screen_and_goes_whole()
    {
        var client = await App.As(Bram);
        var file = Photograph(3);
        var set = Guid.NewGuid();
        var first = await HandIn(client, file, "Where was this taken?", set, 1);
        var second = await HandIn(client, file, "And the same again?", set, 2);
        var sheet = await App.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.Id == first));
        var original = await App.Read(db => db.Pictures.AsNoTracking().SingleAsync(p => p.Hash == sheet.PhotoHash));
        Assert.DoesNotContain(Secret, Encoding.Latin1.GetString(original.Bytes));
        // Made on arrival, before anybody has looked.
        Assert.Equal(
            new[] { sheet.PhotoHash, $"{sheet.PhotoHash}-photo", sheet.FlatHash, $"{sheet.FlatHash}-small" }.Order(),
            (await Kept(sheet.PhotoHash, sheet.FlatHash)).Order()
        );
        foreach (var n in new[] { "photo", "flat", "small" })
        {
            var shown = await client.GetAsync($"/courses/1/critique/{first}/picture/{n}");
            Assert.Equal(HttpStatusCode.OK, shown.StatusCode);
            Assert.DoesNotContain(Secret, Encoding.Latin1.GetString(await shown.Content.ReadAsByteArrayAsync()));
        }
        // What another sheet still shows stays; with the last one it goes.
        await Drop(client, set, first);
        Assert.Equal(4, (await Kept(sheet.PhotoHash, sheet.FlatHash)).Count);
        await Drop(client, set, second);
        Assert.Empty(await Kept(sheet.PhotoHash, sheet.FlatHash));
    }

    private static async Task Drop(HttpClient client, Guid set, int sheet) =>
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await client.PostForm($"/courses/1/critique/set/{set}/drop", ("sheetId", $"{sheet}"))).StatusCode
        );

    [Fact]
    public async Task A_note_of_the_walk_keeps_its_photograph_without_the_place_even_where_it_was_kept_before()
    {
        var staff = await App.As("edda@saltmarsh.example");
        var meeting = await App.Read(db => db.Meetings.Where(m => m.CourseId == 1 && m.Number == 4).Select(m => m.Id).SingleAsync());
        var file = Photograph(5);
        var said = new[] { Guid.NewGuid(), Guid.NewGuid() };
        foreach (var key in said)
            Assert.Equal(
                HttpStatusCode.Redirect,
                (await staff.PostFile($"/courses/1/sessions/{meeting}/walk/keep", "photo", file, "s.jpg", ("key", $"{key}"))).StatusCode
            );
        var notes = await App.Read(db => db.RoomNotes.AsNoTracking().Where(n => said.Contains(n.Key)).ToListAsync());
        Assert.Equal(2, notes.Count);
        var picture = await App.Read(db => db.Pictures.AsNoTracking().SingleAsync(p => p.Hash == notes[0].PictureHash));
        Assert.DoesNotContain(Secret, Encoding.Latin1.GetString(picture.Bytes));
        var shown = await staff.GetAsync($"/courses/1/sessions/{meeting}/walk/picture?n={notes[0].Id}");
        Assert.StartsWith("image/", shown.Content.Headers.ContentType!.MediaType);
    }

    [Fact]
    public async Task A_note_is_the_staffs_own_until_it_is_shared()
    {
        var (staff, student) = (await App.As("edda@saltmarsh.example"), await App.As(Bram));
        var (meeting, bram) = await App.Read(async db =>
            (
                await db.Meetings.Where(m => m.CourseId == 1 && m.Number == 4).Select(m => m.Id).SingleAsync(),
                await db.Users.Where(p => p.Email == Bram).Select(p => p.Id).SingleAsync()
            )
        );
        var at = $"/courses/1/sessions/{meeting}";
        var record = $"/courses/1/students/{bram}";
        foreach (var (text, shared) in new[] { ("Ask his mother about the hours", "false"), ("The ribs lean well today", "true") })
            await staff.PostForm($"{at}/walk/keep", ("student", $"{bram}"), ("text", text), ("shared", shared));
        Assert.DoesNotContain("his mother", await student.Text(record));
        Assert.Contains("ribs lean well", await student.Text(record));
        Assert.Contains("his mother", await staff.Text(record));
        var note = await App.Read(db => db.RoomNotes.Where(n => n.Text.Contains("ribs")).Select(n => n.Id).SingleAsync());
        Assert.Contains("they may read it", await staff.Text($"{at}/class"));
        await staff.PostForm($"{at}/class/share", ("note", $"{note}"), ("on", "false"));
        Assert.DoesNotContain("ribs lean well", await student.Text(record));
        Assert.Contains("the student only where", await staff.Text($"{at}/walk"));
    }

    /// <summary>A route that opened a picture by itself would pass the gate by. The command line opens files of whoever calls it, the study of drill sheets
    /// pictures that it has made itself.</summary>
    [Fact]
    public void Pictures_are_opened_in_one_place()
    {
        var outside = Directory
            .GetFiles(Path.Combine(Checkout.Root, "src"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains($"{Path.DirectorySeparatorChar}obj{Path.DirectorySeparatorChar}"))
            .Where(f =>
                File.ReadAllText(f) is var text
                && (text.Contains("Photo.Read(") || text.Contains("SKBitmap.Decode") || text.Contains("SKCodec"))
            )
            .Select(Path.GetFileName)
            .Order();
        Assert.Equal(["FitVerb.cs", "PaperStudy.cs", "PaperVerb.cs", "Photo.cs", "PictureService.cs", "Verbs.cs"], outside);
    }

    [Fact]
    public async Task Nobody_hands_in_more_in_a_day_than_anybody_draws()
    {
        var student = await App.As("maren.holt@saltmarsh.example");
        await using var scope = App.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<HarborContext>();
        var one = await db.Sheets.AsNoTracking().FirstAsync(s => s.Student.Email == "maren.holt@saltmarsh.example");
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into sheets select (jsonb_populate_record(s, jsonb_build_object('id', 900000 + g, 'submitted_at', now(), 'upload_key', null))).*
            from sheets s, generate_series(1, {Store.Actions.IntakeActions.MostADay}) g where s.id = {one.Id}
            """
        );
        var answer = await student.PostFile(
            "/courses/1/critique/submit/send",
            "Form.Photo",
            Photograph(7),
            "sheet.jpg",
            ("Form.Question", "One more?"),
            ("Form.SelfReview", "It stands."),
            ("Form.Exercise", "sitting"),
            ("Form.Pose", "standing"),
            ("Form.View", "front"),
            ("Form.Paper", "A2")
        );
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("within a day", await answer.Content.ReadAsStringAsync());
        await db.Database.ExecuteSqlAsync($"delete from sheets where id > 900000");
    }
}
