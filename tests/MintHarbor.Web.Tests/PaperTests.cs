using System.Net;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using UglyToad.PdfPig;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Drill sheets from the click that prints them to the answer that is looked at: printed, answered by a simulated pencil, photographed by the
/// sheet camera, handed in, read beside the pages.</summary>
public sealed partial class PaperTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Edda = "edda@saltmarsh.example",
        Maren = Doors.Victim,
        Bram = "bram.sedge@saltmarsh.example",
        Path = "/courses/1/practice/paper";

    private HarborApp App => fixture.App;
    private PrintFaces Faces => App.Services.GetRequiredService<IPaperPrints>().Faces;

    [GeneratedRegex("printed=(\\d+)")]
    private static partial Regex Printed();

    /// <summary>Gives a sheet; the batch's number.</summary>
    private static async Task<long> Give(HttpClient by, string drills, string paper = "a4", params int[] students)
    {
        var answer = await by.PostForm(
            Path + "/give",
            [
                .. drills.Split(' ').Select(d => ("Give.Drills", d)),
                .. students.Select(s => ("Give.Students", $"{s}")),
                ("Give.Paper", paper),
            ]
        );
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        return long.Parse(Printed().Match(answer.Headers.Location!.PathAndQuery()).Groups[1].Value, null);
    }

    private Task<int> Id(string mail) => App.Read(db => db.Users.Where(u => u.Email == mail).Select(u => u.Id).SingleAsync());

    private Task<PaperSheet> SheetOf(long batch, int student) =>
        App.Read(db => db.PaperSheets.AsNoTracking().SingleAsync(s => s.Batch == batch && s.StudentId == student));

    private byte[] Photographed(DrillSheet sheet, long seed, bool blank = false)
    {
        var drawn = PaperPencil.Answer(sheet, PencilManner.Tuning, seed, neat: true);
        return PaperCamera
            .Take(blank ? drawn with { Strokes = [] } : drawn, CameraManner.Tuning, Faces, seed, flat: true, width: 1500)
            .Jpeg;
    }

    /// <summary>Hands a photograph in and waits until it was read.</summary>
    private async Task<PaperPhoto> HandIn(HttpClient by, byte[] jpeg, string name, Guid? key = null)
    {
        var answer = await by.PostFile(Path + "/photo", "Form.Photo", jpeg, name, ("Form.Key", $"{key ?? Guid.NewGuid()}"));
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        for (var left = 600; left > 0; left--)
        {
            if (
                await App.Read(db =>
                    db.PaperPhotos.AsNoTracking().FirstOrDefaultAsync(p => p.Name == name && p.Outcome != PaperOutcome.Waiting)
                ) is
                { } read
            )
                return read;
            await Task.Delay(100);
        }
        throw new TimeoutException($"{name} was not read in a minute");
    }

    private static double Mm(double points) => points / 72 * 25.4;

    /// <summary>Read by another library (PdfPig 0.1.16): ISO 216 and Letter, marks and ruler where the reader looks for them, no name.</summary>
    [Theory]
    [InlineData("a4", 210, 297), InlineData("letter", 215.9, 279.4)]
    public async Task The_whole_class_is_printed_at_once_to_true_scale_and_without_a_name(string paper, double width, double height)
    {
        var edda = await App.As(Edda);
        var batch = await Give(edda, "slant half tone contour", paper);
        var names = await App.Read(db =>
            db.Memberships.Where(m => m.CourseId == 1 && m.Role == CourseRole.Student).Select(m => m.Person.Name).ToListAsync()
        );
        Assert.Contains($"all {names.Count}", await edda.Text($"{Path}?printed={batch}"));
        using var pdf = PdfDocument.Open(await (await edda.GetAsync($"{Path}/pdf?batch={batch}")).Content.ReadAsByteArrayAsync());
        Assert.Equal(names.Count, pdf.NumberOfPages);
        var numbers = new HashSet<string>();
        foreach (var page in pdf.GetPages())
        {
            Assert.Equal(width, Mm(page.Width), 0.05);
            Assert.Equal(height, Mm(page.Height), 0.05);
            var boxes = page
                .Paths.SelectMany(p => p)
                .Select(s => s.GetBoundingRectangle())
                .OfType<UglyToad.PdfPig.Core.PdfRectangle>()
                .ToList();
            (double X, double Y) on = ((width - 182) / 2, (height - 250) / 2);
            foreach (var (x, y) in new[] { (5.0, 5.0), (91, 5), (177, 5), (177, 101), (177, 245), (91, 245), (5, 245), (5, 101) })
                Assert.Contains(boxes, b =>
                    Math.Abs(Mm(b.Centroid.X) - (on.X + x)) < 0.01
                    && Math.Abs(Mm(page.Height - b.Centroid.Y) - (on.Y + y)) < 0.01
                    && Math.Abs(Mm(b.Width) - 3.2) < 0.02
                );
            Assert.Contains(boxes, b => b.Height < 0.5 && Math.Abs(Mm(b.Width) - 60) < 0.01);
            Assert.DoesNotContain(boxes, b => Mm(b.Left) < 10 || Mm(b.Right) > width - 10);
            var text = page.Text;
            Assert.DoesNotContain(names, n => text.Contains(n) || text.Contains(n.Split(' ')[0]));
            numbers.Add(Regex.Match(text, "Sheet (\\d{8,})").Groups[1].Value);
        }
        Assert.Equal(names.Count, numbers.Count);
        // The same drills for all, other items for each.
        var printed = await App.Read(db => db.PaperSheets.Where(s => s.Batch == batch).Select(s => s.Printed).ToListAsync());
        Assert.Equal(
            printed.Count,
            printed.Select(p => string.Join(" ", p.Items.OfType<Slant>().Select(s => s.Degrees))).Distinct().Count()
        );
        Assert.Single(printed.Select(p => string.Join(",", p.Items.Select(i => i.Asks).Order())).Distinct());
    }

    [Fact]
    public async Task A_students_photograph_finds_its_sheet_and_is_read_for_them_and_the_staff_alone()
    {
        var (edda, maren, bram) = (await App.As(Edda), await App.As(Maren), await App.As(Bram));
        var batch = await Give(edda, "slant half", "a4", await Id(Maren), await Id(Bram));
        var sheet = await SheetOf(batch, await Id(Maren));
        var key = Guid.NewGuid();
        var photo = await HandIn(maren, Photographed(sheet.Printed, 11), "maren-1.jpg", key);
        Assert.Equal((PaperOutcome.Read, sheet.Id), (photo.Outcome, photo.PaperSheetId));
        // Sent again, as after a line that broke off: once.
        await maren.PostFile(Path + "/photo", "Form.Photo", Photographed(sheet.Printed, 11), "maren-1.jpg", ("Form.Key", $"{key}"));
        Assert.Equal(1, await App.Read(db => db.PaperPhotos.CountAsync(p => p.UploadKey == key)));
        var page = await maren.Text($"{Path}/{sheet.Id}");
        Assert.Contains("What it shows", page);
        Assert.Matches("Halving: .*scatter", page);
        Assert.Equal("image/jpeg", (await maren.GetAsync($"{Path}/{sheet.Id}/picture")).Content.Headers.ContentType!.MediaType);
        Assert.Contains("Maren Holt", await edda.Text($"{Path}/{sheet.Id}"));
        Assert.Equal(HttpStatusCode.NotFound, (await bram.GetAsync($"{Path}/{sheet.Id}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await bram.GetAsync($"{Path}/{sheet.Id}/picture")).StatusCode);
        Assert.DoesNotContain($"{sheet.Number}", await bram.Text(Path));
        // What was read is what the pencil did; its items are other ones every time, so that the bound is twice the study's.
        var truth = PaperPencil.Answer(sheet.Printed, PencilManner.Tuning, 11, neat: true).Truth;
        var read = (await SheetOf(batch, await Id(Maren))).Reading!;
        foreach (var (r, t) in read.Items.Zip(truth).Where(x => x.First.Counts))
            Assert.All(r.Scores.Zip(t.Scores), s =>
                Assert.True(Math.Abs(s.First.Error - s.Second.Error) <= 2 * PaperTally.Limit(s.First.Measure))
            );
        Assert.True(read.Items.Count(i => i.Counts) > read.Items.Count / 2);
    }

    [Fact]
    public async Task A_sheet_given_with_a_time_is_due_and_done_when_it_is_read()
    {
        var (edda, maren) = (await App.As(Edda), await App.As(Maren));
        var me = await Id(Maren);
        Task<HttpResponseMessage> Due(string due) =>
            edda.PostForm(
                Path + "/give",
                ("Give.Drills", "slant"),
                ("Give.Drills", "half"),
                ("Give.Students", $"{me}"),
                ("Give.Paper", "a4"),
                ("Give.Due", due)
            );
        Assert.Equal(HttpStatusCode.BadRequest, (await Due("2020-01-01T10:00")).StatusCode);
        var answer = await Due(DateTime.UtcNow.AddDays(5).ToString("yyyy-MM-ddTHH:mm", null));
        var batch = long.Parse(Printed().Match(answer.Headers.Location!.PathAndQuery()).Groups[1].Value, null);
        Task<Assignment> Given() => App.Read(db => db.Assignments.AsNoTracking().SingleAsync(a => a.PaperBatch == batch));
        Assert.Null((await Given()).DoneAt);
        Assert.Contains("Drill sheet on paper, 15 minutes", WebUtility.HtmlDecode(await maren.GetStringAsync("/courses/1/today")));
        var led = await maren.GetAsync($"/courses/1/practice/exercise/{(await Given()).Id}");
        Assert.Equal(Path, led.Headers.Location!.PathAndQuery());
        var sheet = await SheetOf(batch, me);
        Assert.Equal(PaperOutcome.Read, (await HandIn(maren, Photographed(sheet.Printed, 71), "due.jpg")).Outcome);
        Assert.NotNull((await Given()).DoneAt);
        // What it says of her eye is kept as evidence, and goes with the reading.
        Task<int> Points() =>
            App.Read(db => db.MeasurePoints.CountAsync(p => p.From == Core.Practice.EvidenceOf.Paper && p.Of == sheet.Id));
        Assert.InRange(await Points(), 1, 2);
        await edda.PostForm($"{Path}/{sheet.Id}/unread");
        Assert.Equal(0, await Points());
    }

    /// <summary>Four sheets in one picture: at most one of them is read, and then as itself; or it is said that none is found.</summary>
    [Fact]
    public async Task Four_sheets_in_one_picture_are_never_mixed()
    {
        var maren = await App.As(Maren);
        var me = await Id(Maren);
        var sheets = new List<PaperSheet>();
        for (var n = 0; n < 4; n++)
            sheets.Add(await SheetOf(await Give(await App.As(Edda), "slant half", students: me), me));
        var shots = sheets.Select((s, n) => SkiaSharp.SKBitmap.Decode(Photographed(s.Printed, 90 + n))).ToList();
        var (w, h) = (shots.Max(b => b.Width), shots.Max(b => b.Height));
        using var all = new SkiaSharp.SKBitmap(2 * w, 2 * h);
        using (var canvas = new SkiaSharp.SKCanvas(all))
            foreach (var (b, n) in shots.Select((b, n) => (b, n)))
                canvas.DrawBitmap(b, n % 2 * w, n / 2 * h, SkiaSharp.SKSamplingOptions.Default);
        using var jpeg = all.Encode(SkiaSharp.SKEncodedImageFormat.Jpeg, 88);
        var photo = await HandIn(maren, jpeg.ToArray(), "four.jpg");
        var read = await App.Read(db =>
            db.PaperSheets.AsNoTracking().Where(s => sheets.Select(x => x.Id).Contains(s.Id) && s.Reading != null).ToListAsync()
        );
        Assert.InRange(read.Count, 0, 1);
        Assert.Equal(photo.Outcome == PaperOutcome.Read, read.Count == 1);
        foreach (var s in read)
            Assert.True(s.Scores.Count(x => Math.Abs(x.Error) > 12) <= 1, string.Join(", ", s.Scores));
    }

    [Fact]
    public async Task What_is_no_sheet_of_theirs_is_said_and_nothing_of_it_is_shown()
    {
        var (edda, maren, bram) = (await App.As(Edda), await App.As(Maren), await App.As(Bram));
        var batch = await Give(edda, "half", "a4", await Id(Bram));
        var sheet = await SheetOf(batch, await Id(Bram));
        async Task Said(HttpClient by, byte[] jpeg, string name, PaperOutcome outcome, string says)
        {
            var photo = await HandIn(by, jpeg, name);
            Assert.Equal(outcome, photo.Outcome);
            // The picture of what is refused is kept for nobody.
            Assert.Equal(outcome == PaperOutcome.Read, photo.Hash != "");
            Assert.Equal(outcome == PaperOutcome.Read, await App.Read(db => db.Pictures.AnyAsync(p => p.Hash == photo.Hash)));
            Assert.Contains(says, await by.Text(Path));
        }
        await Said(maren, Photographed(sheet.Printed, 1), "his.jpg", PaperOutcome.OtherStudent, "was given to somebody else");
        Assert.Null((await App.Read(db => db.PaperPhotos.SingleAsync(p => p.Name == "his.jpg"))).PaperSheetId);
        await Said(bram, Photographed(sheet.Printed, 1, blank: true), "blank.jpg", PaperOutcome.Unmarked, "nothing is drawn on it yet");
        await Said(
            maren,
            Photographed(TrialSheets.Of(new(7, false))!, 1),
            "trial.jpg",
            PaperOutcome.Unknown,
            "no sheet that was printed here"
        );
        await Said(edda, BadFiles.Jpeg, "plain.jpg", PaperOutcome.NotFound, "no drill sheet is found on it");
        await Said(bram, Photographed(sheet.Printed, 2), "good.jpg", PaperOutcome.Read, "read");
        await Said(bram, Photographed(sheet.Printed, 3), "copy.jpg", PaperOutcome.ReadBefore, "was read before");
        // A sheet of another course, handed in here by its instructor.
        var other = await App.Read(db =>
            db.Memberships.Where(m => m.CourseId == 2 && m.Role == CourseRole.Student).Select(m => m.PersonId).FirstAsync()
        );
        var answer = await edda.PostForm(
            "/courses/2/practice/paper/give",
            ("Give.Drills", "half"),
            ("Give.Students", $"{other}"),
            ("Give.Paper", "a4")
        );
        var theirs = await SheetOf(long.Parse(Printed().Match(answer.Headers.Location!.PathAndQuery()).Groups[1].Value, null), other);
        await Said(edda, Photographed(theirs.Printed, 4), "elsewhere.jpg", PaperOutcome.OtherCourse, "a sheet of another course");
    }

    [Fact]
    public async Task A_file_that_is_no_picture_is_refused_and_the_rest_goes_on()
    {
        var maren = await App.As(Maren);
        foreach (
            var (bytes, says) in new[] { ("no picture"u8.ToArray(), "not a picture"), (Array.Empty<byte>(), "no photograph was sent") }
        )
        {
            var answer = await maren.PostFile(Path + "/photo", "Form.Photo", bytes, "words.jpg");
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
            Assert.Contains(says, await answer.Content.ReadAsStringAsync(), StringComparison.OrdinalIgnoreCase);
        }
        Assert.False(await App.Read(db => db.PaperPhotos.AnyAsync(p => p.Name == "words.jpg")));
    }

    [Theory]
    [InlineData("", "a4", "0 drills on a sheet"), InlineData("sphere", "a4", "unknown drill"), InlineData("half", "a5", "paper")]
    [InlineData("contour negative tone strokes hatch", "a4", "4 such at most")]
    public async Task A_sheet_that_cant_be_made_is_refused_with_what_can(string drills, string paper, string says)
    {
        var edda = await App.As(Edda);
        var answer = await edda.PostForm(
            Path + "/give",
            [.. drills.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(d => ("Give.Drills", d)), ("Give.Paper", paper)]
        );
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        var page = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        Assert.Contains(says, page, StringComparison.OrdinalIgnoreCase);
        // What was chosen stays chosen.
        foreach (var d in drills.Split(' ', StringSplitOptions.RemoveEmptyEntries).Where(d => PaperDrills.Find(d) is not null))
            Assert.Matches($"value=\"{d}\"[^>]*checked", page);
    }

    [Fact]
    public async Task What_could_not_be_read_safely_waits_for_the_staff_and_their_word_counts()
    {
        var (edda, maren) = (await App.As(Edda), await App.As(Maren));
        var batch = await Give(edda, "half slant", "a4", await Id(Maren));
        var sheet = await SheetOf(batch, await Id(Maren));
        // A second tick on the first line: which is meant nobody can tell.
        var drawn = PaperPencil.Answer(sheet.Printed, PencilManner.Tuning, 21, neat: true);
        var at = Enumerable.Range(0, sheet.Printed.Items.Count).First(n => sheet.Printed.Items[n] is Parting);
        var line = ((Parting)sheet.Printed.Items[at]).Print().OfType<PrintPath>().First().Places;
        var place = line[0] + ((line[1] - line[0]) * 0.15);
        var twice = drawn with
        {
            Strokes =
            [
                .. drawn.Strokes,
                new([place - new Core.Geometry.Vec2(0, 3), place, place + new Core.Geometry.Vec2(0, 3)], 0.6, 0.6, 0.6),
            ],
        };
        await HandIn(maren, PaperCamera.Take(twice, CameraManner.Tuning, Faces, 21, flat: true, width: 1500).Jpeg, "twice.jpg");
        var read = await SheetOf(batch, await Id(Maren));
        Assert.Contains(ReadingFlag.TwoAnswers, read.Reading!.Items[at].Flags);
        Assert.Contains("your instructor looks at", await maren.Text($"{Path}/{sheet.Id}"));
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await maren.PostForm($"{Path}/{sheet.Id}/look", ("item", $"{at}"), ("counts", "false"))).StatusCode
        );
        // Nothing was read there that could count; it is left out, and the sheet waits no longer.
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await edda.PostForm($"{Path}/{sheet.Id}/look", ("item", $"{at}"), ("counts", "true"))).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await edda.PostForm($"{Path}/{sheet.Id}/look", ("item", $"{at}"), ("counts", "false"))).StatusCode
        );
        read = await SheetOf(batch, await Id(Maren));
        Assert.DoesNotContain(at, read.Asks);
        Assert.False(read.Counts(at));
        // One that was read safely asks for nobody's word.
        var safe = Enumerable.Range(0, read.Reading!.Items.Count).First(n => read.Reading.Items[n].Counts);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await edda.PostForm($"{Path}/{sheet.Id}/look", ("item", $"{safe}"), ("counts", "false"))).StatusCode
        );
        // Taken back, another photograph of the same sheet is read; what staff have looked at only they take back.
        Assert.Equal(HttpStatusCode.BadRequest, (await maren.PostForm($"{Path}/{sheet.Id}/unread")).StatusCode);
        Assert.Equal(HttpStatusCode.Redirect, (await edda.PostForm($"{Path}/{sheet.Id}/unread")).StatusCode);
        Assert.Contains("Not read yet", await maren.Text($"{Path}/{sheet.Id}"));
        Assert.Equal(PaperOutcome.Read, (await HandIn(maren, Photographed(sheet.Printed, 22), "again.jpg")).Outcome);
    }

    [Fact]
    public async Task What_is_printed_and_not_read_can_be_taken_back_by_staff()
    {
        var (edda, maren) = (await App.As(Edda), await App.As(Maren));
        var batch = await Give(edda, "carry");
        Assert.Equal(HttpStatusCode.Forbidden, (await maren.PostForm(Path + "/withdraw", ("batch", $"{batch}"))).StatusCode);
        Assert.Equal(HttpStatusCode.Redirect, (await edda.PostForm(Path + "/withdraw", ("batch", $"{batch}"))).StatusCode);
        Assert.False(await App.Read(db => db.PaperSheets.AnyAsync(s => s.Batch == batch)));
        Assert.Equal(HttpStatusCode.NotFound, (await edda.GetAsync($"{Path}/pdf?batch={batch}")).StatusCode);
        // A student prints for themselves alone, whoever they name.
        var own = await Give(maren, "carry", "a4", await Id(Bram));
        Assert.Equal(await Id(Maren), (await App.Read(db => db.PaperSheets.SingleAsync(s => s.Batch == own))).StudentId);
    }
}
