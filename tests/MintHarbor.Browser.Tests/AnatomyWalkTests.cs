using MintHarbor.Store.Model;
using MintHarbor.Web.Tests;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>Anatomy as it is worked with: a check on the bench that becomes a remark its student reads on the phone, and the drills.</summary>
public sealed class AnatomyWalkTests
{
    private static Task As(string who, string address, Func<Browser, Task> walk, int width = 1280, int height = 800) =>
        Studio.As("anatomy", who, address, walk, width, height);

    private static void Drawn(Browser b, string css, int count) =>
        b.Until(
            () =>
                b.Js<bool>(
                    """
                    const i = [...document.querySelectorAll(arguments[0])];
                    return i.length === arguments[1] && i.every(x => x.complete && x.naturalWidth > 0)
                    """,
                    css,
                    count
                ),
            $"{count} drawings in {css}"
        );

    [Fact]
    public Task A_check_on_the_bench_becomes_a_remark_that_its_student_reads() =>
        Studio.Demo(
            async (app, address) =>
            {
                var id = await app.Read(db => Task.FromResult(db.Sheets.Single(s => s.Code == "4-G-4" && s.CourseId == 1).Id));
                await As("Edda Quill", address, b =>
                {
                    b.Go($"/courses/1/critique/{id}/bench");
                    b.Swapped(() => b.Click("button", "hold it against the studio figure"));
                    // By a tap on its pin the card opens beside the drawn place.
                    b.Keys("a");
                    b.Click("svg [data-pin^='deltoid-end'] .hit");
                    Drawn(b, ":popover-open img", 2);
                    b.Text("it runs on towards the elbow", ":popover-open");
                    var (card, pin) = (b.See(":popover-open").Location, b.See("svg [data-pin^='deltoid-end']").Location);
                    Assert.InRange(Math.Abs(card.X - pin.X), 0, 480);
                    b.Swapped(() => b.Click(":popover-open button", "it holds"));
                    b.See("svg .check-pin.is-holds[data-pin^='deltoid-end']");
                    // By keys alone: the pin, its card, the second answer.
                    b.Js<object>("document.querySelector(\"svg [data-pin^='neck-muscle']\").focus()");
                    b.Keys(Keys.Enter);
                    b.Text("it ends at the jaw", ":popover-open");
                    b.Swapped(() => b.Keys(Keys.Tab + Keys.Tab + Keys.Enter));
                    b.See("svg .check-pin.is-off[data-pin^='neck-muscle']");
                    b.Text("Neck muscle ends at the jaw", ".notes");
                    // Off it stays, until its remark is dropped.
                    b.Click("svg [data-pin^='neck-muscle'] .hit");
                    b.Text("Off: ", ":popover-open");
                    Assert.Empty(b.Driver.FindElements(By.CssSelector(":popover-open button")));
                    b.Keys(Keys.Escape);
                    b.Click(".margin button", "Release to Maren");
                    b.Until(() => !b.Path.Contains($"/critique/{id}/", StringComparison.Ordinal), "the critique to be released");
                    return Task.CompletedTask;
                });
                await As(
                    "Maren Holt",
                    address,
                    b =>
                    {
                        b.Go($"/courses/1/critique/{id}");
                        b.Js<object>("document.querySelector('.check-pair').scrollIntoView()");
                        Drawn(b, ".check-pair img", 2);
                        b.Text("from the pit of the neck to the knob behind the ear", ".check-pair");
                        Assert.False(b.Js<bool>("return document.documentElement.scrollWidth > innerWidth"), "wider than the phone");
                        Assert.Empty(b.Driver.FindElements(By.CssSelector("[data-pin]")));
                        return Task.CompletedTask;
                    },
                    390,
                    844
                );
            }
        );

    private static void Begin(Browser b, string kind)
    {
        b.Go("/courses/1/practice").Click($"form:has(input[value='{kind}']) button");
        b.At("/practice/drill/");
    }

    [Fact]
    public Task The_drills_go_by_keys_alone_and_under_a_finger() =>
        Studio.Demo(
            async (app, address) =>
            {
                await As("Bram Sedge", address, async b =>
                {
                    // Which is the mistake: answered by an arrow, the truth as the round has it.
                    Begin(b, "which-mistake");
                    Drawn(b, ".pair-plate img", 2);
                    DrillRound Round(string kind) =>
                        app.Read(db => Task.FromResult(db.DrillRounds.OrderByDescending(r => r.Id).First(r => r.Kind == kind))).Result;
                    var right = Round("which-mistake").State.Items[0].Truth.Value == 0 ? Keys.ArrowLeft : Keys.ArrowRight;
                    b.Keys(right);
                    b.Text("Found.", "[role=status]");
                    Drawn(b, ".pair-plate img", 2);
                    b.Keys(Keys.Enter);
                    b.Text("second of ten", ".drill-head");
                    // Name it: by its number, wrong on purpose.
                    Begin(b, "name-it");
                    var wrong = ((int)Round("name-it").State.Items[0].Truth.Value + 1) % 4;
                    b.Keys($"{wrong + 1}");
                    b.Text("Missed: it is the ", "[role=status]");
                    // Place it, by arrows and Enter.
                    Begin(b, "place-it");
                    b.Keys(string.Concat(Enumerable.Repeat(Keys.ArrowUp, 5)));
                    b.Until(() => b.See("[data-say]").Enabled, "a place");
                    b.Keys(Keys.Enter);
                    b.Text("on a figure as tall as life", "[role=status]");
                    await Task.CompletedTask;
                });
                await As(
                    "Maren Holt",
                    address,
                    b =>
                    {
                        Begin(b, "place-it");
                        var finger = new PointerInputDevice(PointerKind.Touch);
                        var tap = new ActionSequence(finger, 0);
                        tap.AddAction(finger.CreatePointerMove(b.See(".drill-picture"), 12, 30, TimeSpan.Zero));
                        tap.AddAction(finger.CreatePointerDown(MouseButton.Touch));
                        tap.AddAction(finger.CreatePointerUp(MouseButton.Touch));
                        b.Driver.PerformActions([tap]);
                        b.Click("[data-say]");
                        b.Text("on a figure as tall as life", "[role=status]");
                        Assert.False(b.Js<bool>("return document.documentElement.scrollWidth > innerWidth"), "wider than the phone");
                        return Task.CompletedTask;
                    },
                    390,
                    844
                );
            }
        );
}
