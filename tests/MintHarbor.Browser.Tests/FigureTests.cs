using Microsoft.EntityFrameworkCore;
using MintHarbor.Web.Tests;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>The studio figure under the hand: turned by pointer, touch and keys, lit, changed and kept; a seat, a reference laid over a
/// sheet, practice at home, the drills.</summary>
public sealed class FigureTests
{
    private static Task Walk(string who, Func<HarborApp, Browser, Task> walk, int width = 1280, int height = 800) =>
        Studio.Demo((app, address) => Studio.As("figure", who, address, b => walk(app, b), width, height));

    /// <summary>Waits until the full view and its numbers stand.</summary>
    private static double Rested(Browser b) =>
        b.Until(
            () => b.Js<string?>("return document.querySelector('[data-pose]').dataset.rested ?? null") is { Length: > 0 } at ? at : null,
            "the figure to come to rest"
        )
            is var at
        && at != "failed"
            ? double.Parse(at!, System.Globalization.CultureInfo.InvariantCulture)
            : throw new InvalidOperationException("the view did not come");

    private static void Ready(Browser b) =>
        b.Until(
            () =>
                b.Js<bool>(
                    "const p = document.querySelector('[data-pose]'); return !!p && p.dataset.ready === 'yes' && p.querySelector('[data-view]').complete"
                ),
            "the figure"
        );

    [Fact]
    public Task A_pose_is_found_turned_lit_and_looked_at() => Walk("Edda Quill", (app, b) =>
        {
            b.Go("/courses/1/shelf").Click("a", "poses");
            b.At("/shelf/poses$");
            b.Until(() => b.Driver.FindElements(By.CssSelector(".pose-wall li")).Count >= 24, "the wall");
            b.Click(".filters a", "lying");
            b.At("strain=lying");
            b.Until(() => b.Driver.FindElements(By.CssSelector(".pose-wall li")).Count is > 0 and < 8, "those that lie");
            b.Go("/courses/1/shelf/poses/seated");
            Ready(b);
            // By keys: five degrees each.
            b.Keys(Keys.ArrowRight + Keys.ArrowRight);
            Assert.Equal(35, Rested(b));
            Assert.Contains("az=35", b.Path);
            // By the pointer on the figure: half a degree a pixel, the near side follows the hand.
            var picture = b.See("[data-turn]");
            new Actions(b.Driver).MoveToElement(picture).ClickAndHold().MoveByOffset(-30, 0).MoveByOffset(-30, 0).Release().Perform();
            Assert.Equal(65, Rested(b), 3.0);
            // By the dial and by the slider.
            var dial = b.See("[data-seat-dial]");
            new Actions(b.Driver).MoveToElement(dial, -60, 0).Click().Perform();
            Assert.Equal(-90, Rested(b), 3.0);
            b.Js<object>(
                "const s = document.querySelector('[data-of=az]'); s.value = 120; s.dispatchEvent(new Event('input', {bubbles: true}))"
            );
            Assert.Equal(120, Rested(b));
            b.Text("from behind", "[data-side]");
            // Every kind of view by its key; landmarks on demand.
            foreach (var (key, kind) in new[] { ("2", "tone"), ("5", "tone5"), ("4", "mass"), ("6", "construction"), ("1", "line") })
            {
                b.Keys(key);
                Rested(b);
                Assert.Contains($"kind={kind}&", b.Js<string>("return document.querySelector('[data-view]').src"));
                // What the margin says stays apart, whatever is drawn beside it.
                Assert.Equal(0, NotesOverNotes(b));
            }
            Assert.False(b.See(".figure-over").FindElements(By.CssSelector(".figure-mark")).First().Displayed);
            b.Keys("l");
            b.Until(() => b.Driver.FindElement(By.CssSelector(".figure-mark")).Displayed, "the landmarks");
            Assert.NotEmpty(b.Driver.FindElements(By.CssSelector(".limbs tbody tr")));
            // The same after a reload.
            b.Go(b.Path);
            b.Text("from behind", "[data-side]");
            return Task.CompletedTask;
        });

    [Fact]
    public Task Bones_and_muscles_are_turned_laid_over_each_other_named_and_moved() => Walk("Bram Sedge", (app, b) =>
        {
            b.Go("/courses/1/shelf/poses/armraised");
            Ready(b);
            string Source(string view) => b.Js<string>($"return document.querySelector('[{view}]').src");
            void Named() =>
                b.Until(() => b.Js<string?>("return document.querySelector('[data-under-skin]').dataset.named") is not null, "names");
            b.Keys("7");
            Rested(b);
            Assert.Contains("kind=bones&", Source("data-view"));
            Named();
            // By keys: the next name, with its place shown.
            b.Keys("n");
            // From the top down: the raised hand comes first.
            b.Text("finger, end, left", "[data-name-out]");
            b.Text("phalanx distalis", "[data-name-out]");
            Assert.True(b.See(".under-dot").Displayed);
            // By the pointer: on the dot that the list puts there, the same name.
            b.Js<object>(
                "[...document.querySelectorAll('.under-names button')].find(b => b.textContent.startsWith('kneecap, left')).click()"
            );
            var dot = b.See(".under-dot").Location;
            var view = b.See("[data-view]");
            b.Js<object>("document.querySelector('[data-name-out]').value = ''");
            new Actions(b.Driver)
                .MoveToElement(
                    view,
                    dot.X + 7 - view.Location.X - (view.Size.Width / 2),
                    dot.Y + 7 - view.Location.Y - (view.Size.Height / 2)
                )
                .Perform();
            b.Text("patella", "[data-name-out]");
            // Turned by keys the names come anew.
            b.Keys(Keys.ArrowRight);
            Rested(b);
            Named();
            // A part alone, muscles laid over its bones by half.
            b.Js<object>(
                "const s = document.querySelector('#part'); s.value = 'shoulder.R'; s.dispatchEvent(new Event('change', {bubbles: true}))"
            );
            Rested(b);
            Assert.Contains("part=shoulder.R&", Source("data-view"));
            Assert.Empty(b.Driver.FindElements(By.CssSelector(".ladder-drawn")));
            b.Js<object>(
                "const s = document.querySelector('#over'); s.value = 'muscles'; s.dispatchEvent(new Event('change', {bubbles: true}))"
            );
            b.Until(
                () => b.Js<bool>("const i = document.querySelector('[data-over-view]'); return i.complete && i.naturalWidth > 0"),
                "what is laid over"
            );
            Assert.Contains("kind=muscles", Source("data-over-view"));
            Assert.Equal("0.5", b.See("[data-over-view]").GetCssValue("opacity"));
            // The arm by its slider: the same joint, the blade follows.
            b.Click(".under-move summary", "moves");
            b.Js<object>(
                """
                const s = document.querySelector('.under-move [data-handle="arm.R.abd"]');
                s.value = 20;
                s.dispatchEvent(new Event('input', {bubbles: true}))
                """
            );
            Rested(b);
            Assert.Contains("arm.R.abd", Uri.UnescapeDataString(Source("data-view")));
            // A check opens with its right and its wrong drawing in this view, and says what isn't seen from here.
            b.Click(".under-checks > summary", "check");
            b.Click(".check-card summary", "First ribs and collarbones");
            b.Until(
                () =>
                    b.Js<bool>(
                        """
                        const i = [...document.querySelectorAll('.check-card[open] img')];
                        return i.length === 2 && i.every(x => x.complete && x.naturalWidth > 0)
                        """
                    ),
                "both drawings"
            );
            b.Text("collarbones hang from the sides of the neck", ".check-card[open]");
            b.Text("Not to be seen from here", ".under-checks");
            // Under shirt and shorts bones stay, muscles go.
            b.Keys("8");
            Rested(b);
            b.See("[data-of-check=g]").Click();
            Rested(b);
            Assert.Contains("kind=bones&", Source("data-view"));
            Assert.False(b.Driver.FindElement(By.CssSelector("button[data-kind=muscles]")).Displayed);
            return Task.CompletedTask;
        });

    private static long NotesOverNotes(Browser b) =>
        b.Js<long>(
            "const r = [...document.querySelectorAll('.notes > .note')].map(n => n.getBoundingClientRect()).filter(r => r.height).sort((a, b) => a.top - b.top); return r.filter((x, i) => i && r[i - 1].bottom > x.top + 0.5).length"
        );

    [Fact]
    public Task A_pose_turns_under_a_finger() =>
        Walk(
            "Bram Sedge",
            (app, b) =>
            {
                b.Go("/courses/1/shelf/poses/contrapposto");
                Ready(b);
                b.Js<object>("document.querySelector('[data-turn]').scrollIntoView({block: 'center'})");
                var finger = new PointerInputDevice(PointerKind.Touch);
                var sequence = new ActionSequence(finger, 0);
                var picture = b.See("[data-turn]");
                sequence.AddAction(finger.CreatePointerMove(picture, 0, 0, TimeSpan.Zero));
                sequence.AddAction(finger.CreatePointerDown(MouseButton.Touch));
                for (var n = 1; n <= 5; n++)
                    sequence.AddAction(finger.CreatePointerMove(picture, n * 20, 0, TimeSpan.FromMilliseconds(40)));
                sequence.AddAction(finger.CreatePointerUp(MouseButton.Touch));
                b.Driver.PerformActions([sequence]);
                Assert.Equal(-25, Rested(b), 4.0);
                Assert.Empty(b.Driver.FindElements(By.CssSelector("[data-pose-edit]")));
                return Task.CompletedTask;
            },
            390,
            844
        );

    [Fact]
    public Task A_pose_is_changed_in_words_and_by_hand_and_kept() => Walk("Edda Quill", (app, b) =>
        {
            b.Go("/courses/1/shelf/poses/stand");
            Ready(b);
            b.Click(".pose-edit summary");
            b.Type("#tilt", "pelvis 7° down on the left");
            b.Click("button", "Tilt it");
            b.At("edit=pelvis.side");
            Ready(b);
            b.Js<object>(
                "const s = document.querySelector('[data-handle=\"thorax.twist\"]'); s.value = 20; s.dispatchEvent(new Event('input', {bubbles: true}))"
            );
            Rested(b);
            b.Text("It stands", "[data-readout=notes]");
            b.Type("#name", "Slack water");
            b.Click("button", "Keep for the course");
            b.At("/shelf/poses/own-");
            b.Text("Slack water", "h1");
            b.Go("/courses/1/shelf/poses");
            b.Text("Slack water", ".pose-wall");
            return Task.CompletedTask;
        });

    [Fact]
    public Task A_student_moves_their_seat_and_sits_there() => Walk("Maren Holt", async (app, b) =>
        {
            b.Go("/courses/1/sessions/5/seat");
            Ready(b);
            b.Keys(Keys.ArrowLeft + Keys.ArrowLeft + Keys.ArrowLeft);
            var at = Rested(b);
            b.Click("button", "I sit here");
            b.Until(() => b.Js<string>("return document.readyState") == "complete" && !b.Path.Contains('?'), "the seat kept");
            Assert.Equal(
                at,
                await app.Read(db =>
                    (
                        from s in db.Seatings
                        where s.MeetingId == 5
                        join u in db.Users on s.PersonId equals u.Id
                        where u.Name == "Maren Holt"
                        select s.Azimuth
                    ).SingleAsync()
                )
            );
            Assert.Equal($"{at:0}", b.See("[data-seat-dial]").GetAttribute("aria-valuenow"));
        });

    [Fact]
    public Task A_sheet_is_held_against_the_figure_on_the_bench() => Walk("Edda Quill", async (app, b) =>
        {
            var id = await app.Read(db =>
                db.Sheets.Where(s => s.Student.Name == "Maren Holt" && s.CourseId == 1 && s.ReleasedAt == null)
                    .OrderByDescending(s => s.Id)
                    .Select(s => s.Id)
                    .FirstAsync()
            );
            b.Go($"/courses/1/critique/{id}/bench");
            b.Swapped(() => b.Click("button", "hold it against the studio figure"));
            b.Text("Laid over by", ".reference-part");
            b.Click(".reference-choose summary");
            b.Js<object>("document.querySelector('#ref-az').value = 0");
            b.Swapped(() => b.Click("button", "Lay it over"));
            b.Text("from the front", ".reference-part");
            b.Until(
                () =>
                    b.Js<bool>(
                        "const g = document.querySelector('[data-reference]'); return !!g && !g.hasAttribute('hidden') && g.getAttribute('opacity') === '0.7'"
                    ),
                "the view laid over"
            );
            b.Keys("v");
            b.Until(() => b.Js<bool>("return document.querySelector('[data-reference]').classList.contains('blink')"), "blinking");
            b.Keys("v");
            b.Until(() => b.See("[data-beside]").Displayed, "beside it");
            b.Keys("v");
            b.Until(
                () =>
                    b.Js<bool>(
                        "return document.querySelector('[data-reference]').hasAttribute('hidden') && document.querySelector('[data-beside]').hasAttribute('hidden')"
                    ),
                "off"
            );
            b.Keys("v[[");
            b.Until(() => b.Js<string>("return document.querySelector('[data-reference]').getAttribute('opacity')") == "0.5", "weaker");
            b.Text("reference view", ".notes");
        });

    [Fact]
    public Task The_figure_sits_for_practice_at_home() =>
        Walk(
            "Bram Sedge",
            (app, b) =>
            {
                b.Go("/courses/1/practice/home");
                b.Click("button", "Begin");
                b.At("seed=");
                b.Until(() => b.Js<bool>("return document.querySelector('[data-home]')?.dataset.ready === 'yes'"), "the set");
                Assert.Equal("2", b.See("[data-left]").Text);
                var first = b.See("[data-picture]").GetAttribute("src");
                b.Keys(" ");
                b.Text("Pause", "[data-pause]");
                b.Keys(" ");
                b.Text("Go on", "[data-pause]");
                b.Keys(Keys.ArrowRight);
                b.Text("2 of 6", "[data-where]");
                Assert.NotEqual(first, b.See("[data-picture]").GetAttribute("src"));
                for (var n = 2; n <= 6; n++)
                    b.Click("[data-next]");
                b.Text("That was the set", "[data-name]");
                return Task.CompletedTask;
            },
            390,
            844
        );

    [Theory]
    [InlineData("head-count"), InlineData("tilt"), InlineData("plumb"), InlineData("foreshortened"), InlineData("far-share")]
    public Task A_drill_of_the_figure_is_answered_by_keys(string kind) =>
        Walk(
            "Bram Sedge",
            (app, b) =>
            {
                b.Go("/courses/1/practice");
                b.Click($"form:has(input[value='{kind}']) button");
                b.At("/practice/drill/");
                b.See(".drill-picture");
                for (var n = 0; n < 2; n++)
                {
                    var before = b.See("[data-say]").Text;
                    b.See("[role=slider]").SendKeys(Keys.ArrowLeft + Keys.ArrowLeft);
                    b.Until(() => b.See("[data-say]").Text != before, "the answer said");
                    b.Keys("z");
                    b.Click("[data-say]");
                    b.Text("it is", "[role=status]");
                    b.Keys(Keys.Enter);
                    b.See("[data-say]");
                }
                return Task.CompletedTask;
            },
            390,
            844
        );

    [Fact]
    public Task A_line_of_action_is_drawn_by_finger_or_set_by_keys() =>
        Walk(
            "Bram Sedge",
            (app, b) =>
            {
                b.Go("/courses/1/practice");
                b.Click("form:has(input[value='line-of-action']) button");
                b.At("/practice/drill/");
                var picture = b.See("[data-draw] .drill-picture");
                Assert.False(b.See("[data-say]").Enabled);
                var finger = new PointerInputDevice(PointerKind.Touch);
                var stroke = new ActionSequence(finger, 0);
                stroke.AddAction(finger.CreatePointerMove(picture, 0, -110, TimeSpan.Zero));
                stroke.AddAction(finger.CreatePointerDown(MouseButton.Touch));
                for (var n = 1; n <= 8; n++)
                    stroke.AddAction(finger.CreatePointerMove(picture, n % 3, -110 + (n * 27), TimeSpan.FromMilliseconds(20)));
                stroke.AddAction(finger.CreatePointerUp(MouseButton.Touch));
                b.Driver.PerformActions([stroke]);
                b.Until(() => b.See("[data-say]").Enabled, "the line drawn");
                b.Click("[data-say]");
                b.Text("heads", "[role=status]");
                b.Until(
                    () =>
                        b.Driver.FindElements(By.CssSelector(".drill-picture .drill-drawn")).Count == 1
                        && b.Driver.FindElements(By.CssSelector(".drill-picture path.drill-edge")).Count == 1,
                    "both lines"
                );
                b.Keys(Keys.Enter);
                b.See("[data-draw]");
                b.Keys(" " + Keys.ArrowDown + Keys.ArrowDown + Keys.ArrowDown + " " + Keys.ArrowDown + Keys.ArrowDown + " z");
                b.Until(() => b.Js<string>("return document.querySelector('[data-path]').value").Split(' ').Length == 2, "two places");
                b.Keys(Keys.Enter);
                b.Text("heads", "[role=status]");
                return Task.CompletedTask;
            },
            390,
            844
        );

    [Fact]
    public Task A_sitter_is_turned_tilted_and_built_up() => Walk("Maren Holt", (app, b) =>
        {
            b.Go("/courses/1/shelf/poses").Click("a", "A head");
            b.At("/shelf/sitter");
            Ready(b);
            // By keys across and up, each five degrees.
            b.Keys(Keys.ArrowRight + Keys.ArrowDown);
            Assert.Equal(30, Rested(b));
            Assert.Contains("tilt=5", b.Path);
            // By the pointer: the face follows the hand.
            new Actions(b.Driver)
                .MoveToElement(b.See("[data-turn].pose-picture"))
                .ClickAndHold()
                .MoveByOffset(-40, 0)
                .MoveByOffset(-40, 0)
                .Release()
                .Perform();
            Assert.Equal(-10, Rested(b), 3.0);
            b.Until(() => b.See(".pose-side table").Text.Contains("eyes"), "the shares");
            // Another sitter, another way of drawing.
            b.Set("#sitter", "long-nose");
            Rested(b);
            b.Text("than the canon", ".margin");
            b.Keys("6");
            Rested(b);
            Assert.Contains("kind=construction", b.Path);
            b.Keys("l");
            b.Until(() => b.See(".figure-marks").Displayed, "landmarks");
            return Task.CompletedTask;
        });

    [Fact]
    public Task A_head_turns_under_a_finger_and_sits_for_practice() =>
        Walk(
            "Bram Sedge",
            (app, b) =>
            {
                b.Go("/courses/1/shelf/sitter?turn=0&kind=line");
                Ready(b);
                b.Js<object>("document.querySelector('.head-picture').scrollIntoView({block: 'center'})");
                var finger = new PointerInputDevice(PointerKind.Touch);
                var stroke = new ActionSequence(finger, 0);
                stroke.AddAction(finger.CreatePointerMove(b.See(".head-picture"), 0, 0, TimeSpan.Zero));
                stroke.AddAction(finger.CreatePointerDown(MouseButton.Touch));
                for (var n = 1; n <= 4; n++)
                    stroke.AddAction(finger.CreatePointerMove(b.See(".head-picture"), n * 15, n * 5, TimeSpan.FromMilliseconds(30)));
                stroke.AddAction(finger.CreatePointerUp(MouseButton.Touch));
                b.Driver.PerformActions([stroke]);
                Assert.Equal(30, Rested(b), 4.0);
                b.Click("a", "Let a head sit, timed");
                b.Until(
                    () =>
                        b.Js<bool>(
                            "return document.querySelector('[data-home]')?.dataset.ready === 'yes' && document.querySelector('[data-picture]').complete"
                        ),
                    "the set"
                );
                Assert.Equal("15", b.See("[data-left]").Text);
                b.Text("1 of 2", "[data-where]");
                return Task.CompletedTask;
            },
            390,
            844
        );

    [Fact]
    public Task The_core_is_placed_in_three_strokes_or_by_keys() => Walk("Bram Sedge", (app, b) =>
        {
            b.Go("/courses/1/practice");
            b.Click("form:has(input[value='core-first']) button");
            b.At("/practice/drill/");
            var picture = b.See("[data-draw] .drill-picture");
            void Stroke(params (int X, int Y)[] through)
            {
                var at = new Actions(b.Driver).MoveToElement(picture, through[0].X, through[0].Y).ClickAndHold();
                for (var n = 1; n < through.Length; n++)
                    at.MoveByOffset(through[n].X - through[n - 1].X, through[n].Y - through[n - 1].Y);
                at.Release().Perform();
            }
            Stroke((-20, -90), (20, -90), (25, -50), (-25, -50), (-20, -90));
            b.Text("pelvis", "[data-say]");
            Stroke((-25, -40), (25, -40), (22, -15), (-22, -15), (-25, -40));
            b.Text("centre line", "[data-say]");
            Assert.False(b.See("[data-say]").Enabled);
            Stroke((0, -90), (0, -20));
            b.Click("[data-undo]");
            b.Text("centre line", "[data-say]");
            Stroke((0, -90), (0, -20));
            b.Click("[data-say]");
            b.Text("core", "[role=status]");
            b.Until(() => b.Driver.FindElements(By.CssSelector(".drill-drawn")).Count == 3, "what was drawn beside the truth");
            b.Keys(Keys.Enter);
            b.See("[data-draw]");
            foreach (var n in new[] { 0, 1, 2 })
                b.Keys(" " + Keys.ArrowRight + Keys.ArrowRight + " " + Keys.ArrowDown + Keys.ArrowDown + " " + (n < 2 ? "n" : ""));
            b.Until(() => b.Js<string>("return document.querySelector('[data-path]').value").Split(';').Length == 3, "three strokes");
            b.Keys(Keys.Enter);
            b.Text("core", "[role=status]");
            return Task.CompletedTask;
        });

    [Fact]
    public Task An_example_is_tried_without_a_photograph() => Walk("Edda Quill", (app, b) =>
        {
            b.Go("/courses/1/critique").Click("a", "An example sheet");
            b.At("/critique/example");
            b.Until(
                () => b.See("#pose").Displayed && !b.Driver.FindElement(By.CssSelector("#sitter")).Displayed,
                "the figure's own fields"
            );
            b.Click("input[value=head]");
            b.Until(() => b.See("#sitter").Displayed && !b.Driver.FindElement(By.CssSelector("#pose")).Displayed, "the head's");
            b.Click("input[value=figure]");
            b.Choose("#figure-legs-short", "strong");
            b.Click("button", "Draw it");
            b.At("/bench");
            b.Text("Put in", ".sheet");
            b.Text("An example", ".margin");
            b.Click("button", "Take the example away");
            b.At("/critique$");
            return Task.CompletedTask;
        });
}
