using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using SkiaSharp;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>A sheet's way through the pages without a browser: what may be done when, and what is kept.</summary>
public sealed class BenchTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private HarborApp App => fixture.App;

    private static (byte[] Jpeg, SimulatedDrawing Drawing) Shot(long seed, string paper = "18x24in", double height = 480)
    {
        var drawing = SimulatedHand.Draw("stand-male-0", PaperSize.Find(paper)!, height, new(HeadScale: 1.12), 0.6, seed);
        return (SheetCamera.Take(drawing, 900, 1200, 0.5, seed).Jpeg, drawing);
    }

    private static (string, string)[] Said(string question, string paper = "18x24in", string? redo = null) =>
        [
            ("Form.Question", question),
            ("Form.SelfReview", "Holds: the arm. Change: the place."),
            ("Form.Exercise", "sitting"),
            ("Form.Pose", "standing"),
            ("Form.View", "front"),
            ("Form.Paper", paper),
            .. redo is null ? Array.Empty<(string, string)>() : [("Form.RedoOf", redo)],
        ];

    private async Task<(HttpClient Student, string Path, Sheet Sheet)> Sent(string who, long seed, string question)
    {
        var student = await App.AsNamed(who);
        var answer = await student.PostFile("/courses/1/critique/submit/send", "Form.Photo", Shot(seed).Jpeg, "a.jpg", Said(question));
        var path = answer.Headers.Location!.OriginalString.Replace("/corners", "");
        var id = int.Parse(path.Split('/')[^1], CultureInfo.InvariantCulture);
        return (student, path, await Load(id));
    }

    private Task<Sheet> Load(int id) => App.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.Id == id));

    private static Task<HttpResponseMessage> Place(HttpClient c, string path, string id, double x, double y) =>
        c.PostForm(
            path + "/bench/place",
            ("id", id),
            ("x", x.ToString(CultureInfo.InvariantCulture)),
            ("y", y.ToString(CultureInfo.InvariantCulture))
        );

    /// <summary>Marks come from the ink beside the pages: this waits until they are there.</summary>
    private async Task<Sheet> Fitted(int id)
    {
        // The fit gives way to everything else, and beside a whole suite it does so for long.
        var until = DateTime.UtcNow.AddMinutes(10);
        Sheet sheet;
        while ((sheet = await Load(id)).FitSince is not null)
        {
            Assert.True(DateTime.UtcNow < until, "the sheet was never fitted");
            await Task.Delay(50, TestContext.Current.CancellationToken);
        }
        return sheet;
    }

    [Fact]
    public async Task The_ink_brings_the_marks_and_every_step_can_be_taken_back()
    {
        var (student, path, sheet) = await Sent("Dara Quist", 31, "Does it stand?");
        Assert.Equal((457.2, 609.6), (Math.Round(sheet.PaperWidthMm, 6), Math.Round(sheet.PaperHeightMm, 6)));
        var told = await Fitted(sheet.Id);
        Assert.Equal(Core.Fitting.NoFit.None, told.Fit!.Why);
        Assert.True(told.Landmarks.Count > 15);
        Assert.Empty(told.ByStudent);
        var chin = told.Landmarks["chin"];
        await Place(student, path, "chin", chin.X, chin.Y + 4);
        var placed = await Load(sheet.Id);
        Assert.Equal(Math.Round(chin.Y + 4, 2), placed.Landmarks["chin"].Y);
        Assert.Equal("Dara Quist", placed.ByStudent["chin"].By);
        Assert.Equal(["chin"], placed.ByStudent.Keys);
        await student.PostForm(path + "/bench/undo");
        var back = await Fitted(sheet.Id);
        Assert.Empty(back.ByStudent);
        Assert.True((back.Landmarks["chin"] - chin).Length < 0.1);
        await Place(student, path, "crown", 228, 60);
        await student.PostForm(path + "/bench/remove", ("id", "crown"));
        Assert.Empty((await Fitted(sheet.Id)).ByStudent);
        Assert.Contains("crown", (await Load(sheet.Id)).Landmarks.Keys);
    }

    /// <summary>Staff's word counts, and the student's own stays as it was.</summary>
    [Fact]
    public async Task Students_and_instructors_marks_stay_apart()
    {
        var (student, path, sheet) = await Sent("Dara Quist", 34, "Whose is it?");
        await Fitted(sheet.Id);
        await Place(student, path, "chin", 230, 140);
        await student.PostForm(path + "/bench/handin");
        var staff = await App.As("edda@saltmarsh.example");
        await Place(staff, path, "chin", 231, 143);
        var both = await Load(sheet.Id);
        Assert.Equal((140, 143, 143), ((int)both.ByStudent["chin"].At.Y, (int)both.ByStaff["chin"].At.Y, (int)both.Landmarks["chin"].Y));
        Assert.Equal(("Dara Quist", "Edda Quill"), (both.ByStudent["chin"].By, both.ByStaff["chin"].By));
        await staff.PostForm(path + "/bench/remove", ("id", "chin"));
        var taken = await Load(sheet.Id);
        Assert.Equal(140, (int)taken.Landmarks["chin"].Y);
    }

    /// <summary>What nobody looked at is neither right nor wrong.</summary>
    [Fact]
    public async Task A_proposed_mark_that_may_lie_anywhere_is_not_looked_at_yet()
    {
        var (student, path, sheet) = await Sent("Dara Quist", 35, "What is sure?");
        var told = await Fitted(sheet.Id);
        var page = await student.Text(path + "/bench");
        Assert.DoesNotContain("All are placed", page);
        Assert.Contains("data-by=\"ink\"", page);
        var ask = System.Text.RegularExpressions.Regex.Match(page, "data-ask=\"([^\"]+)\"").Groups[1].Value;
        Assert.False(told.Fit!.Marks[ask].Sure);
        Assert.Contains("not looked at yet", page);
        var findings = await App.Read(async db =>
            await new SheetContexts(db, new NoReferenceViews()).Of(
                await db.Sheets.AsNoTracking().SingleAsync(s => s.Id == sheet.Id),
                await db.Courses.AsNoTracking().SingleAsync(c => c.Id == 1)
            )
        );
        var unsure = SheetMarks.NotLookedAt(told);
        Assert.NotEmpty(unsure);
        Assert.All(findings.Findings.Where(f => !f.Measure.OfAll && f.Measure.Needs.Any(unsure.Contains) && f.Missing.Count > 0), f =>
            Assert.False(f.Judgeable)
        );
    }

    [Fact]
    public async Task A_sheet_that_cant_be_fitted_says_so_and_is_placed_by_hand()
    {
        var student = await App.AsNamed("Dara Quist");
        var blank = SheetCamera.Take(new(PaperSize.Find("18x24in")!, [], new Dictionary<string, Core.Geometry.Vec2>()), 900, 1200, 0.4, 3);
        var answer = await student.PostFile(
            "/courses/1/critique/submit/send",
            "Form.Photo",
            blank.Jpeg,
            "a.jpg",
            Said("Is anything there?")
        );
        var path = answer.Headers.Location!.OriginalString.Replace("/corners", "");
        var sheet = await Fitted(int.Parse(path.Split('/')[^1], CultureInfo.InvariantCulture));
        Assert.Equal(Core.Fitting.NoFit.Blank, sheet.Fit!.Why);
        Assert.Empty(sheet.Landmarks);
        Assert.Contains("Nothing is drawn here", await student.Text(path + "/bench"));
        await Place(student, path, "crown", 228, 60);
        Assert.Equal(["crown"], (await Fitted(sheet.Id)).Landmarks.Keys);
    }

    /// <summary>Which of two drawings is meant nobody can tell, nor then in what pose it is; crown and sole of one tell it.</summary>
    [Fact]
    public async Task Of_two_drawings_on_one_sheet_no_pose_is_told_until_one_is_clicked()
    {
        var paper = PaperSize.Find("18x24in")!;
        var (drawer, drapery) = (new SimulatedSheets(), Core.Figure.Drapery.For(false, false));
        var two = drawer.Two("male", "contrapposto", drapery, new(0, 4.4, 1.2), paper, 260, new(0.2), 77, 1000);
        var one = drawer.Figure("male", "contrapposto", drapery, new(0, 4.4, 1.2), paper, 260, [], new(0.2), 77).Drawing.Landmarks;
        Core.Geometry.Vec2 Left(string id) => one[id] - new Core.Geometry.Vec2(paper.WidthMm / 4, 0);

        var student = await App.AsNamed("Dara Quist");
        var answer = await student.PostFile("/courses/1/critique/submit/send", "Form.Photo", two, "a.jpg", Said("Which one?"));
        Assert.True(answer.StatusCode == HttpStatusCode.Redirect, await answer.Content.ReadAsStringAsync());
        var path = answer.Headers.Location!.OriginalString.Replace("/corners", "");
        var sheet = await Fitted(int.Parse(path.Split('/')[^1], CultureInfo.InvariantCulture));
        Assert.Equal(Core.Fitting.NoFit.Several, sheet.Fit!.Why);
        var bench = await student.Text(path + "/bench");
        Assert.Contains("More than one drawing stands on this sheet", bench);
        Assert.DoesNotContain("told-pose", bench);

        await student.PostForm(path + "/bench/reference", ("pose", "contrapposto"), ("azimuth", "0"), ("mirrored", "false"));
        await Fitted(sheet.Id);
        foreach (var id in new[] { "crown", one["sole.L"].Y > one["sole.R"].Y ? "sole.L" : "sole.R" })
            await Place(student, path, id, Left(id).X, Left(id).Y);
        sheet = await Fitted(sheet.Id);
        Assert.Equal(Core.Fitting.NoFit.None, sheet.Fit!.Why);
        foreach (var id in new[] { "pit", "pubic", "kneetop.R", "acromion.L" })
            Assert.True((sheet.Landmarks[id] - Left(id)).Length < 20, $"{id} {sheet.Landmarks[id]} for {Left(id)}");
    }

    [Theory]
    [
        InlineData("crown", "-3", "10"),
        InlineData("crown", "500", "10"),
        InlineData("crown", "NaN", "10"),
        InlineData("crown", "x", "10"),
        InlineData("knob", "10", "10"),
        InlineData("", "10", "10")
    ]
    public async Task A_landmark_off_the_sheet_or_unknown_is_refused(string id, string x, string y)
    {
        var (student, path, sheet) = await Sent("Dara Quist", 32, "Where is it?");
        var answer = await student.PostForm(path + "/bench/place", ("id", id), ("x", x), ("y", y));
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("class=\"problem\"", await answer.Content.ReadAsStringAsync());
        Assert.Empty((await Load(sheet.Id)).ByStudent);
    }

    [Fact]
    public async Task Handed_in_it_is_out_of_the_students_hands()
    {
        var (student, path, sheet) = await Sent("Dara Quist", 33, "May I still move it?");
        await student.PostForm(path + "/bench/handin");
        Assert.Equal(SheetState.Waiting, (await Load(sheet.Id)).State);
        Assert.Equal(HttpStatusCode.BadRequest, (await Place(student, path, "crown", 228, 60)).StatusCode);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await student.PostForm(path + "/corners/keep", ("corners", "100,100,700,110,720,1000,90,1010"))).StatusCode
        );
        Assert.Equal(HttpStatusCode.BadRequest, (await student.PostForm(path + "/answer", ("answer", "too early"))).StatusCode);
        // The instructor still may.
        var staff = await App.As("edda@saltmarsh.example");
        Assert.Equal(HttpStatusCode.Redirect, (await Place(staff, path, "crown", 228, 60)).StatusCode);
    }

    [Fact]
    public async Task Corners_moved_by_hand_lay_the_sheet_flat_again_and_clear_what_stood_on_it()
    {
        var (student, path, sheet) = await Sent("Dara Quist", 34, "Is it flat?");
        await Place(student, path, "crown", 228, 60);
        var same = string.Join(
            ',',
            sheet.Corners.SelectMany(c => new[] { c.X, c.Y }).Select(v => v.ToString("0.###", CultureInfo.InvariantCulture))
        );
        await student.PostForm(path + "/corners/keep", ("corners", same));
        var kept = await Load(sheet.Id);
        Assert.Equal((sheet.FlatHash, 1), (kept.FlatHash, kept.ByStudent.Count));
        var moved = string.Join(
            ',',
            sheet.Corners.SelectMany(c => new[] { c.X + 9, c.Y - 7 }).Select(v => v.ToString("0.###", CultureInfo.InvariantCulture))
        );
        await student.PostForm(path + "/corners/keep", ("corners", moved));
        var again = await Load(sheet.Id);
        Assert.NotEqual(sheet.FlatHash, again.FlatHash);
        Assert.Empty(again.ByStudent);
    }

    [Theory]
    [InlineData(SKEncodedImageFormat.Png), InlineData(SKEncodedImageFormat.Webp), InlineData(SKEncodedImageFormat.Jpeg)]
    public async Task Every_accepted_format_is_taken_and_its_pictures_are_served_and_cached(SKEncodedImageFormat format)
    {
        using var photo = Photo.Read(Shot(35).Jpeg);
        var student = await App.AsNamed("Wick Thorne");
        var answer = await student.PostFile(
            "/courses/1/critique/submit/send",
            "Form.Photo",
            photo.Encode(format, 80),
            "sheet",
            Said($"Taken as {format}?")
        );
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        var path = answer.Headers.Location!.OriginalString.Replace("/corners", "");
        foreach (var kind in new[] { "flat", "small", "photo" })
        {
            var picture = await student.GetAsync($"{path}/picture/{kind}");
            Assert.StartsWith("image/", picture.Content.Headers.ContentType!.MediaType);
            Assert.Contains("private", picture.Headers.CacheControl!.ToString());
            var again = new HttpRequestMessage(HttpMethod.Get, $"{path}/picture/{kind}");
            again.Headers.IfNoneMatch.Add(picture.Headers.ETag!);
            Assert.Equal(HttpStatusCode.NotModified, (await student.SendAsync(again)).StatusCode);
        }
        Assert.Equal(HttpStatusCode.NotFound, (await student.GetAsync($"{path}/picture/other")).StatusCode);
    }

    [Fact]
    public async Task A_sheet_lying_on_its_side_is_measured_on_its_side()
    {
        var drawing = SimulatedHand.Draw("stand-male-0", PaperSize.Find("A3")!.Turned, 250, new(), 0.6, 36);
        var student = await App.AsNamed("Wick Thorne");
        var answer = await student.PostFile(
            "/courses/1/critique/submit/send",
            "Form.Photo",
            SheetCamera.Take(drawing, 1200, 900, 0.3, 36).Jpeg,
            "a.jpg",
            Said("Which way up?", "A3")
        );
        var id = int.Parse(answer.Headers.Location!.OriginalString.Split('/')[^2], CultureInfo.InvariantCulture);
        var sheet = await Load(id);
        Assert.Equal((420.0, 297.0), (sheet.PaperWidthMm, sheet.PaperHeightMm));
    }

    [Theory]
    [
        InlineData("Form.Question", ""),
        InlineData("Form.SelfReview", " "),
        InlineData("Form.Exercise", "juggling"),
        InlineData("Form.Pose", "flying"),
        InlineData("Form.View", "above"),
        InlineData("Form.Paper", "napkin"),
        InlineData("Form.MeetingId", "99999"),
        InlineData("Form.RedoOf", "1")
    ]
    public async Task What_is_said_with_a_drawing_is_looked_at(string field, string value)
    {
        var student = await App.AsNamed("Wick Thorne");
        var fields = Said("Is it looked at?").Where(f => f.Item1 != field).Append((field, value)).ToArray();
        var answer = await student.PostFile("/courses/1/critique/submit/send", "Form.Photo", Shot(37).Jpeg, "a.jpg", fields);
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("Accepted:", await answer.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_text_too_long_is_refused_and_kept_in_the_form()
    {
        var student = await App.AsNamed("Wick Thorne");
        var text = string.Concat(Enumerable.Repeat("long ", 90));
        var answer = await student.PostFile("/courses/1/critique/submit/send", "Form.Photo", Shot(38).Jpeg, "a.jpg", Said(text));
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains(text.Trim()[..200], await answer.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task Remarks_are_written_ranked_placed_and_dropped_within_their_limits()
    {
        var (student, path, sheet) = await Sent("Hollis Brae", 39, "What first?");
        await student.PostForm(path + "/bench/handin");
        var staff = await App.As("edda@saltmarsh.example");
        foreach (var fault in new[] { "flat-tone", "head-large", "hairy-line", "leaning" })
            await staff.PostForm(path + "/bench/fault", ("fault", fault));
        var remarks = (await Load(sheet.Id)).Remarks;
        Assert.Equal(SheetState.Drafted, (await Load(sheet.Id)).State);
        Assert.Equal(["hairy-line", "head-large", "flat-tone"], remarks.Where(r => r.Priority is not null).Select(r => r.FaultId));
        var fourth = remarks.Single(r => r.Priority is null).Id;
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm(path + "/bench/rank", ("remark", fourth), ("on", "true"))).StatusCode
        );
        var tone = remarks.Single(r => r.FaultId == "flat-tone").Id;
        await staff.PostForm(path + "/bench/rank", ("remark", tone), ("on", "false"));
        await staff.PostForm(path + "/bench/rank", ("remark", fourth), ("on", "true"));
        Assert.Equal(
            ["hairy-line", "leaning", "head-large"],
            (await Load(sheet.Id)).Remarks.Where(r => r.Priority is not null).Select(r => r.FaultId)
        );
        await staff.PostForm(path + "/bench/spot", ("remark", fourth), ("x", "9000"), ("y", "-4"));
        Assert.Equal(new(457.2, 0), (await Load(sheet.Id)).Remarks.Single(r => r.Id == fourth).Spot!.Value with { Y = 0 });
        await staff.PostForm(
            path + "/bench/change",
            ("remark", fourth),
            ("where", "feet"),
            ("what", "He tips."),
            ("why", ""),
            ("next", "")
        );
        Assert.Contains("without place or next step", await staff.Text(path + "/bench"));
        Assert.Equal(HttpStatusCode.BadRequest, (await staff.PostForm(path + "/bench/release")).StatusCode);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm(path + "/bench/change", ("remark", fourth), ("next", new string('x', 401)))).StatusCode
        );
        await staff.PostForm(path + "/bench/drop", ("remark", fourth));
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm(path + "/bench/change", ("remark", fourth), ("what", "gone"))).StatusCode
        );
        Assert.Equal(HttpStatusCode.Redirect, (await staff.PostForm(path + "/bench/release")).StatusCode);
        Assert.True(await App.Read(db => db.Outbox.AnyAsync(m => m.Link == path && m.To.StartsWith("hollis"))));
    }

    [Fact]
    public async Task A_check_of_anatomy_is_answered_once_and_its_drawings_go_to_the_student()
    {
        var (student, path, sheet) = await Sent("Hollis Brae", 52, "Are the ankles right?");
        await student.PostForm(path + "/bench/handin");
        var staff = await App.As("edda@saltmarsh.example");
        var drawn = Shot(52).Drawing.Landmarks;
        foreach (var id in new[] { "crown", "chin", "pit", "pubic", "kneetop.L", "kneetop.R", "sole.L", "sole.R" })
            await Place(staff, path, id, drawn[id].X, drawn[id].Y);
        await staff.PostForm(path + "/bench/reference", ("pose", "stand"), ("azimuth", "25"));
        var bench = await staff.Text(path + "/bench");
        var pins = Regex.Matches(bench, "data-pin=\"(ankles\\.[LR])\" tabindex");
        var key = Assert.Single(pins).Groups[1].Value;
        // A student's own bench has none of them, and answers nothing.
        Assert.Equal(HttpStatusCode.Forbidden, (await student.PostForm(path + "/bench/check", ("check", key), ("says", "off"))).StatusCode);
        await staff.PostForm(path + "/bench/check", ("check", key), ("says", "holds"));
        Assert.Equal(CheckAnswer.Holds, (await Load(sheet.Id)).Checked[key]);
        await staff.PostForm(path + "/bench/check", ("check", key), ("says", "open"));
        Assert.Empty((await Load(sheet.Id)).Checked);
        // Twice at once: one remark.
        await staff.PostForm(path + "/bench/check", ("check", key), ("says", "off"));
        await staff.PostForm(path + "/bench/check", ("check", key), ("says", "off"));
        var remark = Assert.Single((await Load(sheet.Id)).Remarks);
        Assert.Equal((key, "ankles-level"), (remark.Check, remark.FaultId));
        Assert.NotNull(remark.Spot);
        // It lies between the placed ankles and the floor, within the sheet.
        Assert.InRange(remark.Spot!.Value.Y, drawn["kneetop.L"].Y + 40, sheet.PaperHeightMm);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm(path + "/bench/check", ("check", key), ("says", "holds"))).StatusCode
        );
        foreach (
            var (check, says) in new[]
            {
                ("wing.L", "off"),
                ("", "holds"),
                (key, "perhaps"),
                (key, ""),
                ("calf.L", "off"),
                ("eye-line.L", "holds"),
            }
        )
            Assert.Equal(
                HttpStatusCode.BadRequest,
                (await staff.PostForm(path + "/bench/check", ("check", check), ("says", says))).StatusCode
            );
        Assert.DoesNotContain("check-pair", await student.Text(path));
        await staff.PostForm(path + "/bench/release");
        var read = await student.Text(path);
        var pictures = Regex
            .Matches(read, "src=\"(/courses/1/figure/stand/check/ankles[^\"]*)\"")
            .Select(m => WebUtility.HtmlDecode(m.Groups[1].Value))
            .ToList();
        Assert.Equal(2, pictures.Count);
        Assert.Contains(pictures, p => p.Contains("wrong=true", StringComparison.Ordinal));
        foreach (var p in pictures)
            Assert.StartsWith("<svg", await student.GetStringAsync(p), StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await staff.PostForm(path + "/bench/check", ("check", "calf.L"), ("says", "skip"))).StatusCode
        );
    }

    [Fact]
    public async Task A_head_has_checks_of_its_own_as_it_is_turned()
    {
        var staff = await App.As("edda@saltmarsh.example");
        var head = await App.Read(db => db.Sheets.FirstAsync(s => s.CourseId == 1 && s.Subject == "head" && s.State == SheetState.Waiting));
        var bench = await staff.Text($"/courses/1/critique/{head.Id}/bench");
        Assert.Contains("data-pin=\"jaw-planes.", bench, StringComparison.Ordinal);
        Assert.DoesNotContain("data-pin=\"calf.", bench, StringComparison.Ordinal);
        Assert.Contains("Not to be seen from here: ", bench, StringComparison.Ordinal);
        var client = await App.AsNamed("Hollis Brae");
        foreach (var wrong in new[] { "true", "false" })
            Assert.StartsWith(
                "<svg",
                await client.GetStringAsync($"/courses/1/head/check/jaw-planes?turn=10&side=1&wrong={wrong}"),
                StringComparison.Ordinal
            );
        Assert.Equal(HttpStatusCode.BadRequest, (await client.GetAsync("/courses/1/head/check/tail")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await client.GetAsync("/courses/1/head/check/jaw-planes?turn=700")).StatusCode);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await (await App.As("edda@saltmarsh.example")).GetAsync("/courses/99/head/check/jaw-planes")).StatusCode
        );
    }

    [Theory]
    [
        InlineData("he", "Head large"),
        InlineData("LEA", "Figure leans"),
        InlineData("zzz", "No fault of that name"),
        InlineData("<b>", "No fault of that name")
    ]
    public async Task Faults_are_found_while_typing(string letters, string found)
    {
        var staff = await App.As("lorne@saltmarsh.example");
        var sheet = await App.Read(db => db.Sheets.FirstAsync(s => s.CourseId == 1));
        Assert.Contains(found, await staff.Text($"/courses/1/critique/{sheet.Id}/bench/faults?q={Uri.EscapeDataString(letters)}"));
    }

    [Fact]
    public async Task Two_changes_from_one_state_clash_and_the_second_is_told()
    {
        await using var scope = App.Services.CreateAsyncScope();
        await using var other = App.Services.CreateAsyncScope();
        var (a, b) = (Db(scope), Db(other));
        var id = await a.Sheets.Where(s => s.CourseId == 1).Select(s => s.Id).FirstAsync();
        var (first, second) = (await a.Sheets.SingleAsync(s => s.Id == id), await b.Sheets.SingleAsync(s => s.Id == id));
        first.Answer = "first";
        await a.SaveChangesAsync();
        second.Answer = "second";
        await Assert.ThrowsAsync<DbUpdateConcurrencyException>(() => b.SaveChangesAsync());

        static Store.HarborContext Db(AsyncServiceScope s) =>
            (Store.HarborContext)s.ServiceProvider.GetService(typeof(Store.HarborContext))!;
    }

    [Fact]
    public async Task Only_ones_own_released_sheet_can_be_redone()
    {
        var student = await App.AsNamed("Bram Sedge");
        var own = await App.Read(db => db.Sheets.FirstAsync(s => s.Student.Name == "Bram Sedge" && s.ReleasedAt != null));
        var others = await App.Read(db => db.Sheets.FirstAsync(s => s.Student.Name == "Odile Marsh"));
        Assert.Contains(own.Question, await student.Text($"/courses/1/critique/submit?redo={own.Id}"));
        Assert.Equal(HttpStatusCode.NotFound, (await student.GetAsync($"/courses/1/critique/submit?redo={others.Id}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await student.GetAsync($"/courses/1/critique/{own.Id}/compare")).StatusCode);
    }
}
