using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;
using MintHarbor.Core.Simulation;
using MintHarbor.Core.Technique;
using MintHarbor.Media;
using MintHarbor.Store.Model;
using MintHarbor.Web.Tests;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using UglyToad.PdfPig;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>Sheets without marks of a figure, from hand-in to critique: a gesture, patches, a still life, a set of five; what is marked on them by
/// hand and laid over them; what goes out on paper and as a file.</summary>
public sealed class AreasWalkTests
{
    private static readonly PaperSize Paper = PaperSize.Find("A3")!;

    private static async Task With(string name, Func<HarborApp, Browser, Browser, Task> walk)
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var student = new Browser(name + "-student", address);
        using var staff = new Browser(name, address);
        try
        {
            foreach (var (b, who) in new[] { (student, "Maren Holt"), (staff, "Edda Quill") })
            {
                b.Go("/sign-in").Click("button", who);
                b.At("/today");
            }
            await walk(app, student, staff);
            student.NoErrors();
            staff.NoErrors();
        }
        catch
        {
            student.Save(name + "-student");
            staff.Save(name);
            throw;
        }
    }

    private static TechniqueManner Hand(int style, long seed) =>
        TechniqueManner.Any(style, 0.7, new(seed)) with
        {
            Smudged = false,
            Mass = 0,
        };

    /// <summary>A gesture of short pieces, gone over again and again.</summary>
    private static byte[] Hairy(long seed) =>
        new SimulatedSheets()
            .Stroked(
                "male",
                "contrapposto",
                Drapery.For(false, false),
                new(12, 3.4, 1.3),
                Paper,
                320,
                Hand(0, 31) with
                {
                    Stroke = 8,
                    Restating = 1.7,
                    Drift = 0.8,
                    Spacing = 0,
                },
                seed
            )
            .Jpeg;

    /// <summary>As from a scanner: the picture is the sheet.</summary>
    private static byte[] Scanned(IReadOnlyList<RuledPatch> patches)
    {
        using var drawn = InkPress.Bitmap(PatchHand.Draw(Paper, patches, 304), 4);
        using var data = drawn.Encode(SkiaSharp.SKEncodedImageFormat.Jpeg, 92);
        return data.ToArray();
    }

    private static string[] Files(params byte[][] pictures) =>
        [
            .. pictures.Select(p =>
            {
                var file = Path.Combine(Path.GetTempPath(), $"{Guid.NewGuid():n}.jpg");
                File.WriteAllBytes(file, p);
                return file;
            }),
        ];

    private static void Send(Browser b, string[] files, string exercise, string pose, string question, bool whole = false)
    {
        try
        {
            b.Go("/courses/1/critique/submit");
            b.Type("#q", question);
            b.Type("#r", "It stands. It came quickly.");
            b.See("#photo").SendKeys(string.Join('\n', files));
            if (whole)
            {
                b.Click("input[value=whole]");
                b.Type("#ww", "297");
            }
            b.Choose("#e", exercise);
            b.Choose("#p", pose);
            b.Choose("#paper", "A3");
            b.Click(".acts.stick button");
            b.At(
                whole ? "/bench"
                : files.Length == 1 ? "/critique/\\d+/corners"
                : "/critique/set/"
            );
        }
        finally
        {
            foreach (var f in files)
                File.Delete(f);
        }
    }

    private static int HandIn(Browser b)
    {
        if (b.Path.Contains("corners", StringComparison.Ordinal))
            b.Click("button", "They are right");
        b.At("/bench");
        b.Until(() => b.Driver.FindElements(By.CssSelector("[data-reading]")).Count == 0, "the ink to be read");
        var id = int.Parse(b.Path.Split('/')[4], null);
        b.Click("button", "Hand it in");
        b.Text("It waits for your instructor");
        return id;
    }

    private static (int X, int Y) On(Browser b, double x, double y)
    {
        var r = b.Js<IReadOnlyCollection<object>>(
                "const s = document.querySelector('[data-look] svg'), r = s.getBoundingClientRect(); return [r.left, r.top, r.width / s.viewBox.baseVal.width]"
            )
            .Select(v => Convert.ToDouble(v, null))
            .ToList();
        return ((int)Math.Round(r[0] + (x * r[2])), (int)Math.Round(r[1] + (y * r[2])));
    }

    private static void Lasso(Browser b, IReadOnlyList<Vec2> outline)
    {
        b.Swapped(() =>
        {
            b.Js<object?>("document.querySelector('[data-look]').scrollIntoView()");
            var hand = new Actions(b.Driver);
            var at = outline.Select(p => On(b, p.X, p.Y)).ToList();
            hand.MoveToLocation(at[0].X, at[0].Y).ClickAndHold();
            foreach (var (x, y) in at.Skip(1))
                hand.MoveToLocation(x, y);
            hand.Release().Perform();
        });
    }

    private static void Edge(Browser b, Vec2 near, Vec2 far) =>
        b.Swapped(() =>
        {
            b.Js<object?>("document.querySelector('[data-look]').scrollIntoView()");
            foreach (var p in new[] { near, far })
            {
                var (x, y) = On(b, p.X, p.Y);
                new Actions(b.Driver).MoveToLocation(x, y).Click().Perform();
            }
        });

    private static void Kind(Browser b, string kind) =>
        b.Js<object?>("document.querySelector(`[name=kind][value=${arguments[0]}]`).click()", kind);

    [Fact]
    public Task A_gesture_without_a_mark_says_what_its_line_is() => With("gesture", async (app, student, staff) =>
        {
            Send(student, Files(Hairy(302)), "gesture", "contrapposto-R", "Does it run through?");
            var id = HandIn(student);
            staff.Go($"/courses/1/critique/{id}/bench");
            staff.Text("The outline is hairy");
            // Taken over, it comes with its fault's drill or exercise, and goes out.
            staff.Swapped(() => staff.Click("button[hx-vals*='L-hairy']", "take over"));
            staff.Text("One priority");
            staff.Click("button", "Release to Maren");
            staff.Until(
                () =>
                    app.Read(db => db.Sheets.Where(s => s.Id == id).Select(s => s.ReleasedAt != null).SingleAsync())
                        .GetAwaiter()
                        .GetResult(),
                "the release"
            );
            student.Go($"/courses/1/critique/{id}");
            student.Text("hairy");
            // On paper, and as a file that another reader of JSON understands.
            Assert.Equal("application/pdf 200", Fetched(student, $"/courses/1/critique/{id}/pdf"));
            using var pdf = PdfDocument.Open(Convert.FromBase64String(Body(student, $"/courses/1/critique/{id}/pdf?paper=letter")));
            Assert.Contains("hairy", string.Join(' ', pdf.GetPage(1).GetWords().Select(w => w.Text)));
            using var json = System.Text.Json.JsonDocument.Parse(
                Convert.FromBase64String(Body(student, $"/courses/1/critique/{id}/annotations"))
            );
            Assert.Contains("hairy", json.RootElement.GetRawText());
            Assert.Equal("http://www.w3.org/ns/anno.jsonld", json.RootElement.GetProperty("@context").GetString());
            Assert.NotNull((await app.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.Id == id))).ReleasedAt);
        });

    private static string Fetched(Browser b, string path) =>
        (string)
            b.Driver.ExecuteAsyncScript(
                "const done = arguments[1]; fetch(arguments[0]).then(r => done(r.headers.get('content-type') + ' ' + r.status));",
                path
            )!;

    private static string Body(Browser b, string path) =>
        (string)
            b.Driver.ExecuteAsyncScript(
                """
                const [path, done] = arguments;
                fetch(path).then(r => r.blob()).then(blob => {
                  const reader = new FileReader();
                  reader.onload = () => done(reader.result.split(",")[1]);
                  reader.readAsDataURL(blob);
                });
                """,
                path
            )!;

    [Fact]
    public Task Patches_are_asked_for_no_figure_and_drawn_round_they_say_what_comes_next() => With("patches", async (app, student, staff) =>
        {
            // The middle is hardly darker than the light: one value to the eye.
            var patches = PatchHand.Rows(
                (m, s) =>
                    (m, s) switch
                    {
                        (PatchMethod.Hatch, PatchStep.Light) => (3.6, 0.7, 0.5),
                        (PatchMethod.Hatch, PatchStep.Middle) => (3.2, 0.7, 0.5),
                        (PatchMethod.Hatch, PatchStep.Dark) => (1, 0.95, 0.75),
                        _ => (2, 0.6, 0.5),
                    }
            );
            Send(student, Files(Scanned(patches)), "value-patches", "thing", "Are the steps even?", whole: true);
            var id = HandIn(student);
            Assert.Empty((await app.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.Id == id))).Landmarks);
            staff.Go($"/courses/1/critique/{id}/look");
            foreach (var p in patches.Where(p => p.Method == PatchMethod.Hatch))
            {
                Kind(staff, "Patch");
                staff.Choose("#method", "Hatch");
                staff.Choose("#step", $"{p.Step}");
                Lasso(staff, p.Within);
            }
            staff.Text("hatch: light and middle are one value to the eye");
            staff.Text("Draw the middle at");
            var marks = (await app.Read(db => db.LookedSheets.AsNoTracking().SingleAsync(l => l.SheetId == id))).Marks;
            Assert.InRange(marks[0].Read!.Spacing!.Value, 3.6 * 0.9, 3.6 * 1.1);
            Assert.InRange(marks[1].Read!.Spacing!.Value, 3.2 * 0.9, 3.2 * 1.1);
            staff.Swapped(() => staff.Click("[aria-label='take away C']"));
            staff.Text("mark its dark too");
        });

    [Fact]
    public Task A_still_life_is_measured_under_the_hand_and_held_against_a_photograph() =>
        With("still-life-areas", async (app, student, staff) =>
        {
            var hatched = Hand(0, 33) with { Stroke = 60, Restating = 0.2, Spacing = 2.4, Direction = 60, Cover = 0.6, Crossed = false };
            var shot = SimulatedSheets.Stroked(ThingShelf.Find("kitchen")!, new(18, 1.2, 1.2), Paper, 240, hatched, 303);
            Send(student, Files(shot.Jpeg), "sitting", "thing", "Do they stand on one table?");
            var id = HandIn(student);
            // A photograph of it, lent by who drew.
            student.Click("a", "Lend a photograph of it");
            var lent = Files(BadFiles.Png(300, 200));
            student.See("#photo").SendKeys(lent[0]);
            student.Click("button", "Lend it");
            student.Text("It is with the sheet");
            File.Delete(lent[0]);
            staff.Go($"/courses/1/critique/{id}/bench");
            staff.Text("Hatched");
            staff.Click("a", "areas and edges");
            staff.See("[data-over] image");
            // Edges of a family that part as they go away.
            Kind(staff, "Parallel");
            Edge(staff, new(60, 300), new(100, 260));
            Edge(staff, new(160, 300), new(220, 260));
            staff.Text("A and B part as they go away: reversed");
            // By the keys alone: a box, moved and sized.
            Kind(staff, "Shape");
            staff.Swapped(() =>
            {
                staff.Js<object?>("document.querySelector('[data-look] svg').focus()");
                new Actions(staff.Driver)
                    .SendKeys(Keys.Enter)
                    .SendKeys(Keys.ArrowRight)
                    .KeyDown(Keys.Shift)
                    .SendKeys(Keys.ArrowDown)
                    .KeyUp(Keys.Shift)
                    .SendKeys(Keys.Enter)
                    .Perform();
            });
            staff.Text("C: 9.4 cm²");
            // What lies over it: moved by a drag, kept by its button; it blinks, and goes off.
            Kind(staff, "Move");
            var (x, y) = On(staff, 150, 200);
            new Actions(staff.Driver).MoveToLocation(x, y).ClickAndHold().MoveByOffset(30, 20).Release().Perform();
            staff.Swapped(() => staff.Click("button", "Lay it so"));
            var over = (await app.Read(db => db.LookedSheets.AsNoTracking().SingleAsync(l => l.SheetId == id))).Over!;
            Assert.True(over.X > (Paper.WidthMm / 2) + 5 && over.Y > (Paper.HeightMm / 2) + 3, $"{over}");
            staff.Click("[data-look-mode=blink]");
            staff.Until(() => staff.Js<bool>("return document.querySelector('[data-over]').classList.contains('blink')"), "blinking");
            staff.Click("[data-look-mode=off]");
            staff.Until(() => staff.Js<bool>("return document.querySelector('[data-over]').hasAttribute('hidden')"), "nothing over it");
        });

    [Fact]
    public Task A_set_of_five_says_what_recurs() => With("set-of-five", async (app, student, staff) =>
        {
            Send(student, Files([.. Enumerable.Range(0, 5).Select(n => Hairy(310 + n))]), "gesture", "contrapposto-R", "Which runs best?");
            student.Text("set of 5 sheets");
            var id = await app.Read(db => db.Sheets.Where(s => s.Student.Name == "Maren Holt" && s.SetId != null).MaxAsync(s => s.Id));
            Task<bool> Read() =>
                app.Read(db => db.Sheets.Where(s => s.SetId == db.Sheets.First(x => x.Id == id).SetId).AllAsync(s => s.FitSince == null));
            student.Until(() => Read().GetAwaiter().GetResult(), "all five to be read");
            student.Driver.Navigate().Refresh();
            student.Text("sheets: the outline is hairy");
        });
}
