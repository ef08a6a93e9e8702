using System.Net;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Media;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Strange files and forms: a clear answer that names what is wrong and what is accepted, never a 500, and a server
/// that goes on afterwards.</summary>
public sealed class BadInputTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const string Instructor = "edda@saltmarsh.example",
        Student = "bram.sedge@saltmarsh.example";

    private HarborApp App => fixture.App;

    private static readonly Dictionary<string, (Func<byte[]> File, string Name, string Says)> Refused = new()
    {
        ["a JPEG cut short"] = (() => BadFiles.Jpeg[..4000], "sheet.jpg", "breaks off before its end"),
        ["a JPEG cut in its header"] = (() => BadFiles.Jpeg[..90], "sheet.jpg", "not a picture that can be read"),
        ["30,000 × 30,000 in a PNG's header"] = (() => BadFiles.Png(30000, 30000, pixels: false), "big.png", "900 megapixels"),
        ["30,000 × 30,000 in a JPEG's header"] = (() => BadFiles.JpegClaiming(30000, 30000), "big.jpg", "900 megapixels"),
        ["a bomb: 16,000 × 16,000 zeros, packed small"] = (() => BadFiles.Png(16000, 16000), "bomb.png", "256 megapixels"),
        ["a PNG without pixels"] = (() => BadFiles.Png(600, 800, pixels: false), "none.png", "Accepted: JPEG, PNG or WebP"),
        ["a PNG of negative size"] = (() => BadFiles.Png(-5, 10, pixels: false), "neg.png", "not a picture that can be read"),
        ["an SVG with a script"] = (
            () => BadFiles.Text("<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>"),
            "drawing.svg",
            "not a picture that can be read"
        ),
        ["an SVG named as a photograph"] = (
            () => BadFiles.Text("<svg xmlns='http://www.w3.org/2000/svg' onload='alert(1)'/>"),
            "drawing.jpg",
            "not a picture that can be read"
        ),
        ["a web page named as a photograph"] = (
            () => BadFiles.Text("<html><script>alert(1)</script></html>"),
            "sheet.png",
            "not a picture that can be read"
        ),
        ["a PDF"] = (() => BadFiles.Text("%PDF-1.7\n1 0 obj<<>>endobj\ntrailer<<>>\n%%EOF"), "sheet.pdf", "not a picture that can be read"),
        ["a GIF"] = (BadFiles.Gif, "sheet.gif", "GIF picture"),
        ["a BMP"] = (BadFiles.Bmp, "sheet.bmp", "BMP picture"),
        ["a HEIC header"] = (
            () => [0, 0, 0, 24, .. "ftypheic"u8, 0, 0, 0, 0, .. "heicmif1"u8],
            "IMG_0001.heic",
            "not a picture that can be read"
        ),
        ["an archive with a photograph in it"] = (() => BadFiles.Zip(BadFiles.Jpeg), "sheet.jpg", "not a picture that can be read"),
        ["noise"] = (() => BadFiles.Noise(50_000), "sheet.webp", "not a picture that can be read"),
        ["nothing"] = (() => [], "sheet.jpg", "no photograph was sent"),
        ["a WebP cut short"] = (() => WebP()[..400], "sheet.webp", "Accepted: JPEG, PNG or WebP"),
    };

    private static readonly Dictionary<string, (Func<byte[]> File, string Name)> Taken = new()
    {
        ["a JPEG named as text"] = (() => BadFiles.Jpeg, "sheet.txt"),
        ["a name that climbs folders, with a face in it"] = (() => BadFiles.Jpeg, "../../etc/🙂 passwd.jpg"),
        ["a photograph with an archive behind it"] = (() => [.. BadFiles.Jpeg, .. BadFiles.Zip("x"u8.ToArray())], "sheet.jpg"),
        ["a photograph with a web page behind it"] = (() => [.. BadFiles.Jpeg, .. "<script>alert(1)</script>"u8], "sheet.html"),
        ["one pixel"] = (() => BadFiles.Png(1, 1), "dot.png"),
        ["a strip one pixel high"] = (() => BadFiles.Png(4000, 1), "strip.png"),
        ["black all over"] = (() => BadFiles.Png(700, 900), "black.png"),
        ["a garbled JPEG"] = (BadFiles.Garbled, "sheet.jpg"),
    };

    private static byte[] WebP()
    {
        using var photo = Photo.Read(BadFiles.Jpeg);
        return photo.Webp();
    }

    public static TheoryData<string> RefusedFiles => [.. Refused.Keys];
    public static TheoryData<string> TakenFiles => [.. Taken.Keys];

    private static (string, string)[] Said(string question) =>
        [
            ("Form.Question", question),
            ("Form.SelfReview", "Much holds."),
            ("Form.Exercise", "sitting"),
            ("Form.Pose", "standing"),
            ("Form.View", "front"),
            ("Form.Paper", "18x24in"),
        ];

    private async Task<string> StillThere(HttpClient client)
    {
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/courses/1/today")).StatusCode);
        return "";
    }

    [Theory, MemberData(nameof(RefusedFiles))]
    public async Task A_file_that_is_no_photograph_is_named(string what)
    {
        var (file, name, says) = Refused[what];
        var client = await App.As(Student);
        var before = await App.Read(db => db.Sheets.CountAsync());
        var answer = await client.PostFile("/courses/1/critique/submit/send", "Form.Photo", file(), name, Said($"Does {what} pass?"));
        var text = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains(says, text, StringComparison.OrdinalIgnoreCase);
        Assert.Contains(Photo.Accepted, text);
        Assert.Contains($"Does {what} pass?", text);
        Assert.Equal(before, await App.Read(db => db.Sheets.CountAsync()));
        await StillThere(client);
    }

    [Theory, MemberData(nameof(TakenFiles))]
    public async Task A_strange_picture_is_taken_or_refused_and_its_pages_open(string what)
    {
        var (file, name) = Taken[what];
        var client = await App.As(Student);
        var answer = await client.PostFile("/courses/1/critique/submit/send", "Form.Photo", file(), name, Said($"Is {what} a drawing?"));
        if (answer.StatusCode == HttpStatusCode.BadRequest)
        {
            Assert.Contains(Photo.Accepted, await answer.Content.ReadAsStringAsync());
            return;
        }
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        var corners = answer.Headers.Location!.OriginalString;
        var page = await client.GetAsync(corners);
        Assert.Equal(HttpStatusCode.OK, page.StatusCode);
        foreach (var n in new[] { "photo", "small", "flat" })
        {
            var picture = await client.GetAsync(corners.Replace("/corners", $"/picture/{n}"));
            Assert.Equal(HttpStatusCode.OK, picture.StatusCode);
            // Whatever hides behind the pixels: it goes out as a picture and as nothing else.
            Assert.StartsWith("image/", picture.Content.Headers.ContentType!.MediaType);
            Assert.Equal("nosniff", picture.Headers.GetValues("X-Content-Type-Options").Single());
            Assert.DoesNotContain("<script>", Encoding.Latin1.GetString(await picture.Content.ReadAsByteArrayAsync()));
        }
        Assert.NotEqual(
            HttpStatusCode.InternalServerError,
            (await client.PostForm(corners + "/keep", ("corners", "0,0,10,0,10,10,0,10"))).StatusCode
        );
        await StillThere(client);
    }

    [Fact]
    public async Task A_file_over_the_limit_is_refused_by_its_size()
    {
        var client = await App.As(Student);
        var answer = await client.PostFile(
            "/courses/1/critique/submit/send",
            "Form.Photo",
            new byte[Photo.MostBytes + 1000],
            "huge.jpg",
            Said("Too large?")
        );
        Assert.Contains(Photo.Accepted, await answer.Content.ReadAsStringAsync());
        Assert.Contains(answer.StatusCode, new[] { HttpStatusCode.BadRequest, HttpStatusCode.RequestEntityTooLarge });
        await StillThere(client);
    }

    public static TheoryData<string, string, string> Lists =>
        new()
        {
            { "no heading", "Ada Rill,ada@example.org", "a column name and a column mail" },
            { "no row", "name,mail\n", "No student under the heading line" },
            { "no mail", "name,mail\nAda Rill,\n", "no mail address" },
            { "no name", "name,mail\n,ada@example.org\n", "no name" },
            { "twice the same", "name,mail\nAda Rill,ada@example.org\nAda Rill,ADA@example.org\n", "the same mail as line 2" },
            { "300 letters", $"name,mail\n{new string('a', 300)},ada@example.org\n", "name of 300 letters; up to 120 are accepted" },
            { "not a mail", "name,mail\nAda Rill,ada at example\n", "is not a mail address" },
            { "a formula for a mail", "name,mail\nAda Rill,\"=HYPERLINK(\"\"http://x\"\")\"\n", "is not a mail address" },
            { "control characters", "name,mail\nAda\u0007Rill,ada@example.org\n", "control characters" },
            {
                "201 rows",
                "name,mail\n" + string.Concat(Enumerable.Range(0, 201).Select(i => $"N{i},n{i}@example.org\n")),
                "More than 200 rows"
            },
            { "an open quotation", "name,mail\n\"Ada Rill,ada@example.org\nBo,bo@example.org\n", "control characters" },
            { "already there", "name,mail\nMaren Holt,maren.holt@saltmarsh.example\n", "already in this course" },
        };

    [Theory, MemberData(nameof(Lists))]
    public async Task A_list_with_a_fault_is_answered_row_by_row_and_nothing_is_taken(string what, string csv, string says)
    {
        var client = await App.As(Instructor);
        var before = await App.Read(db => db.Invitations.CountAsync());
        var answer = await client.PostForm("/courses/1/students/import", ("csv", csv), ("take", "true"));
        var text = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        Assert.True(text.Contains(says, StringComparison.Ordinal), $"{what}: {answer.StatusCode}");
        Assert.Equal(before, await App.Read(db => db.Invitations.CountAsync()));
    }

    [Fact]
    public async Task A_list_from_an_older_spreadsheet_is_read_with_its_letters()
    {
        CodePagesEncodingProvider.Instance.GetEncoding(1252);
        var bytes = CodePagesEncodingProvider
            .Instance.GetEncoding(1252)!
            .GetBytes(
                "Mail;Name\r\nzoe@example.org;Zoë Šimek\r\n;;\r\n\r\n\"o@example.org\";\"Ö’Hare; the elder\"\r\nface@example.org;=SUM(A1)\r\n"
            );
        var client = await App.As(Instructor);
        var text = WebUtility.HtmlDecode(
            await (await client.PostFile("/courses/1/students/preview", "file", bytes, "list.csv")).Content.ReadAsStringAsync()
        );
        Assert.Contains("Zoë Šimek", text);
        Assert.Contains("Ö’Hare; the elder", text);
        Assert.Contains("Invite 3 students", text);
    }

    [Theory]
    [InlineData("UTF-16"), InlineData("a photograph"), InlineData("nothing"), InlineData("600 KB")]
    public async Task A_file_that_is_no_list_is_named(string what)
    {
        byte[] file = what switch
        {
            "UTF-16" => Encoding.Unicode.GetBytes("name,mail\nAda,ada@example.org\n"),
            "a photograph" => BadFiles.Jpeg,
            "nothing" => [],
            _ => new byte[600 * 1024],
        };
        var client = await App.As(Instructor);
        var answer = await client.PostFile("/courses/1/students/preview", "file", file, "list.csv");
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("Accepted: ", await answer.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task Names_with_faces_and_from_the_right_are_kept_and_quoted()
    {
        var client = await App.As(Instructor);
        var names = new[] { "Ida 🎨 Fenn", "مها الوادي", "שירה גל", "O'Neill <b>Bold</b>", "=cmd|' /C calc'!A0" };
        var csv = "name,mail\n" + string.Join('\n', names.Select((n, i) => $"\"{n.Replace("\"", "\"\"")}\",odd{i}@example.org"));
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await client.PostForm("/courses/2/students/import", ("csv", csv), ("take", "true"))).StatusCode
        );
        var page = await client.Text("/courses/2/students");
        Assert.DoesNotContain("<b>Bold</b>", page);
        foreach (var n in names)
            Assert.Contains(n, WebUtility.HtmlDecode(page));
    }

    public static TheoryData<string, string, string, string> Forms =>
        new()
        {
            { "/courses/1/sessions/plan", "Form.Minutes", "-30", " min" },
            { "/courses/1/sessions/plan", "Form.Minutes", "99999999999", "can't be read" },
            { "/courses/1/sessions/plan", "Form.StartsAt", "23:30", "after midnight" },
            { "/courses/1/sessions/plan", "Form.StartsAt", "25:00", "can't be read" },
            { "/courses/1/sessions/plan", "Form.Date", "2027-02-30", "can't be read" },
            { "/courses/1/sessions/plan", "Form.Date", "0001-01-01", "a date" },
            { "/courses/1/sessions/plan", "Form.Date", "9999-12-31", "a date" },
            { "/courses/1/sessions/plan", "Form.Students", "-1", "student" },
            { "/courses/1/sessions/plan", "Form.Include", "juggling", "juggling" },
            { "/courses/1/practice/assign", "Form.Minutes", "-5", "min" },
            { "/courses/1/practice/assign", "Form.Due", "9999-12-31T23:59", "due" },
            { "/courses/1/practice/assign", "Form.Due", "2001-01-01T10:00", "due" },
            { "/courses/1/practice/assign", "Form.What", "drill:unicycle", "unicycle" },
            { "/courses/1/practice/assign", "Form.Students", "999999", "course" },
            { "/courses/1/settings", "Form.Name", "", "name" },
            { "/courses/1/settings", "Form.Zone", "Mars/Olympus", "time zone" },
            { "/courses/1/settings", "Form.Paper", "0x0", "paper" },
            { "/courses/1/settings", "Form.Paper", "1e9x1e9", "paper" },
            { "/courses/1/projects/open", "Form.Ends", "0001-01-01", "end" },
            { "/courses/1/projects/open", "Form.Meetings", "-1", "meeting" },
        };

    [Theory, MemberData(nameof(Forms))]
    public async Task A_form_that_cant_be_is_answered_with_what_is_wrong(string path, string field, string value, string says)
    {
        var client = await App.As(Instructor);
        var fields = new Dictionary<string, string>
        {
            ["Form.Date"] = "2030-02-05",
            ["Form.StartsAt"] = "19:00",
            ["Form.Minutes"] = "120",
            ["Form.Approach"] = "QuickFirst",
            ["Form.Purpose"] = "Gesture",
            ["Form.Level"] = "Beginner",
            ["Form.Students"] = "8",
            ["Form.Model"] = "Person",
            ["Form.Name"] = "A name",
            ["Form.Weekday"] = "Tuesday",
            ["Form.Paper"] = "A2",
            ["Form.Canon"] = "academic",
            ["Form.HeadCanon"] = "classical-head",
            ["Form.Zone"] = "Europe/Berlin",
            ["Form.What"] = "gesture",
            ["Form.Due"] = DateTime.UtcNow.AddDays(5).ToString("yyyy-MM-ddTHH:mm", System.Globalization.CultureInfo.InvariantCulture),
            ["Form.Ends"] = "2030-02-05",
            ["Form.Template"] = "portrait-from-sitter",
            ["Form.Meetings"] = "3",
        };
        if (path.EndsWith("assign"))
            fields.Remove("Form.Students");
        if (path.EndsWith("assign"))
            fields["Form.Minutes"] = "5";
        fields[field] = value;
        var answer = await client.PostForm(path, [.. fields.Select(f => (f.Key, f.Value))]);
        var text = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        var problem = System
            .Text.RegularExpressions.Regex.Match(
                text,
                "class=\"problem\".*?</(p|div|ul|section)>",
                System.Text.RegularExpressions.RegexOptions.Singleline
            )
            .Value;
        Assert.True(problem.Contains(says, StringComparison.OrdinalIgnoreCase), problem);
    }

    [Fact]
    public async Task An_hour_that_the_clock_change_leaves_out_is_named()
    {
        var client = await App.As(Instructor);
        (string, string)[] form =
        [
            ("Form.Date", "2027-03-28"),
            ("Form.StartsAt", "02:30"),
            ("Form.Minutes", "60"),
            ("Form.Approach", "QuickFirst"),
            ("Form.Purpose", "Gesture"),
            ("Form.Level", "Beginner"),
            ("Form.Students", "8"),
            ("Form.Model", "Person"),
        ];
        var answer = await client.PostForm("/courses/1/sessions/plan", form);
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("clocks go forward", await answer.Content.ReadAsStringAsync());
    }

    [Theory]
    [InlineData("NaN", "10"), InlineData("1e308", "10"), InlineData("-50000", "10"), InlineData("Infinity", "1"), InlineData("ten", "1")]
    public async Task A_landmark_off_the_paper_is_refused(string x, string y)
    {
        var client = await App.As(Instructor);
        var sheet = await App.Read(db =>
            db.Sheets.Where(s => s.CourseId == 1 && s.State == Store.Model.SheetState.Drafted).Select(s => s.Id).FirstAsync()
        );
        var before = await client.Text($"/courses/1/critique/{sheet}/bench");
        var answer = await client.PostForm($"/courses/1/critique/{sheet}/bench/place", ("id", "crown"), ("x", x), ("y", y));
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("class=\"problem\"", await answer.Content.ReadAsStringAsync());
        Assert.Equal(before.Length, (await client.Text($"/courses/1/critique/{sheet}/bench")).Length);
    }

    [Theory]
    [
        InlineData("/courses/1/critique/submit/send", "Form.Question"),
        InlineData("/sign-in", "Mail"),
        InlineData("/forgot", "Mail"),
        InlineData("/courses/1/practice/assign", "Form.Note")
    ]
    public async Task A_null_character_does_no_harm(string path, string field)
    {
        var client = await App.As(path.Contains("assign") ? Instructor : Student);
        var answer = path.EndsWith("send")
            ? await client.PostFile(
                path,
                "Form.Photo",
                BadFiles.Jpeg,
                "s.jpg",
                [.. Said("plain").Where(f => f.Item1 != field), (field, "a\0b")]
            )
            : await client.PostForm(
                path,
                (field, "a\0b"),
                ("Password", "a\0b"),
                ("Form.What", "gesture"),
                ("Form.Minutes", "5"),
                ("Form.Due", "2030-01-01T10:00")
            );
        Assert.True((int)answer.StatusCode is >= 300 and < 500, $"{answer.StatusCode}");
    }

    [Fact]
    public async Task Deep_long_and_odd_addresses_are_answered()
    {
        var client = await App.As(Student);
        foreach (
            var path in new[]
            {
                "/courses/" + new string('9', 200) + "/today",
                "/courses/1/" + string.Join('/', Enumerable.Repeat("a", 300)),
                "/courses/1/critique/set/not-a-guid",
                "/room/%F0%9F%8E%A8",
                "/join/%2e%2e%2f",
                "/courses/1/practice/drill/1?shown=-7",
                "/courses/1/critique/submit?redo=zzz",
            }
        )
        {
            var status = (int)(await client.GetAsync(path)).StatusCode;
            Assert.True(status is 200 or 400 or 404 or 414, $"{path}: {status}");
        }
    }
}
