using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Objects;
using MintHarbor.Core.Practice;
using MintHarbor.Web.Tests;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>Still lifes in a real browser: set up by hand and by keys, drawn in a drill with one thumb, held against a sheet.</summary>
public sealed class StillLifeWalkTests
{
    private static async Task With(string name, string who, Func<HarborApp, Browser, Task> walk, int width = 1280, int height = 900)
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var b = new Browser(name, address, width, height);
        try
        {
            b.Go("/sign-in").Click("button", who);
            b.At("/today");
            await walk(app, b);
            b.NoErrors();
        }
        catch
        {
            b.Save(name);
            throw;
        }
    }

    private static void Ready(Browser b) =>
        b.Until(
            () =>
                b.Js<bool>(
                    "const p = document.querySelector('[data-things]'); return p?.dataset.ready === 'yes' && p.querySelector('[data-view]').complete"
                ),
            "the still life"
        );

    private static void Stands(Browser b, string yes) =>
        b.Until(() => b.Js<string?>("return document.querySelector('[data-things]').dataset.stands ?? null") == yes, $"stands: {yes}");

    /// <summary>The things as the address says them.</summary>
    private static Arrangement Set(Browser b) =>
        Arrangement.Read(
            b.Js<string>("return new URLSearchParams(location.search).get('a') ?? document.querySelector('[data-things]').dataset.a")
        );

    [Fact]
    public Task Things_are_set_up_by_hand_and_kept_for_the_course() => With("things-set", "Edda Quill", async (app, b) =>
        {
            b.Go("/courses/1/shelf").Click("a", "still lifes");
            b.At("/shelf/things$");
            b.Click("a", "Set one up");
            Ready(b);
            foreach (var (thing, count) in new[] { ("cup", "2"), ("bottle", "3") })
            {
                b.Choose("[data-add]", thing);
                b.Until(() => b.Js<string?>("return document.querySelector('[data-things]').dataset.planned ?? null") == count, thing);
                Stands(b, "yes");
            }
            Assert.Equal(["block", "cup", "bottle"], Set(b).Places.Select(p => p.Thing));
            Assert.Empty(Set(b).Overlaps());
            // Dragged over the bottle: refused in words, and marked.
            var cup = b.See("[data-thing='1']");
            var bottle = b.See("[data-thing='2']");
            new Actions(b.Driver).DragAndDrop(cup, bottle).Perform();
            Stands(b, "no");
            Assert.Contains("stand in one another", b.See("[data-plan-says]").Text);
            Assert.InRange(b.Driver.FindElements(By.CssSelector(".plan-thing.in-the-way")).Count, 2, 3);
            // By keys, away from it again: five centimetres a step.
            b.Driver.ExecuteScript("document.querySelector('[data-thing=\"1\"]').focus()");
            var before = Set(b).Places[1];
            for (var n = 0; n < 4; n++)
                new Actions(b.Driver).KeyDown(Keys.Shift).SendKeys(Keys.ArrowDown).KeyUp(Keys.Shift).Perform();
            Stands(b, "yes");
            Assert.Equal(before.Z + 0.2, Set(b).Places[1].Z, 0.011);
            Assert.Equal(before.X, Set(b).Places[1].X, 0.011);
            b.Type("#name", "Block, cup, bottle");
            b.Click("button", "Keep for the course");
            b.At("/shelf/things/own-");
            var kept = await app.Read(db => db.CourseArrangements.SingleAsync(a => a.Name == "Block, cup, bottle"));
            Assert.Equal(3, Arrangement.Read(kept.Things).Checked().Places.Count);
            // Kept in the very moment in which a thing is put down, before any picture of it is there.
            b.Go("/courses/1/shelf/things").Click("a", "Set one up");
            Ready(b);
            b.Type("#name", "Block and cup");
            b.Driver.ExecuteScript(
                "const add = document.querySelector('[data-add]'); add.value = 'cup'; add.dispatchEvent(new Event('change', {bubbles: true})); [...document.querySelectorAll('button')].find(x => x.textContent === 'Keep for the course').click()"
            );
            b.At("/shelf/things/own-");
            var quick = await app.Read(db => db.CourseArrangements.SingleAsync(a => a.Name == "Block and cup"));
            Assert.Equal(["block", "cup"], Arrangement.Read(quick.Things).Places.Select(p => p.Thing));
        });

    /// <summary>A value drill with one thumb on a phone: the scale is tapped, said, and told.</summary>
    [Fact]
    public Task A_value_is_matched_on_a_phone() =>
        With(
            "value-match",
            "Bram Sedge",
            async (app, b) =>
            {
                b.Go("/courses/1/practice");
                b.Click("form:has(input[value='value-match']) button");
                b.At("/practice/drill/");
                var id = int.Parse(b.Path.Split('/')[5].Split('?')[0], System.Globalization.CultureInfo.InvariantCulture);
                for (var n = 0; n < 10; n++)
                {
                    b.Until(
                        () =>
                            b.Js<bool>(
                                "const i = document.querySelector('.drill-picture image'); return !!i && performance.getEntriesByName(new URL(i.href.baseVal, location).href).length > 0"
                            ),
                        "the picture in tone"
                    );
                    var item = await app.Read(async db =>
                        (await db.DrillRounds.AsNoTracking().SingleAsync(r => r.Id == id)).State.Replay().Next!
                    );
                    // The first is tapped two values off, the others where they are.
                    var value = n == 0 ? (item.Truth.Value > 5 ? item.Truth.Value - 3 : item.Truth.Value + 3) : item.Truth.Value;
                    var dial = b.See("[data-stick]");
                    var (left, unit, origin) = (Of(dial, "data-left"), Of(dial, "data-unit"), Of(dial, "data-origin"));
                    var x = (left + ((value - origin) * unit)) / 390;
                    var r = dial.Size;
                    new Actions(b.Driver).MoveToElement(dial, (int)Math.Round((x - 0.5) * r.Width), 0).Click().Perform();
                    b.Click("[data-say]");
                    b.At($"shown={n}");
                    if (n == 0)
                        Assert.Contains(item.Truth.Value > 5 ? "too light" : "too dark", b.See(".ask-drill").Text);
                    b.Click(".drill-acts a");
                }
                b.Text("9 of 10 right");
                Assert.True(b.Js<bool>("return document.documentElement.scrollWidth <= innerWidth"));
                // What was practised moves the measure's chart.
                await app.Read(async db =>
                {
                    var round = await db.DrillRounds.AsNoTracking().SingleAsync(q => q.Id == id);
                    Assert.Equal(9, round.Right);
                    Assert.NotNull(round.FinishedAt);
                    return 0;
                });
            },
            390,
            844
        );

    private static double Of(IWebElement e, string attribute) =>
        double.Parse(e.GetAttribute(attribute)!, System.Globalization.CultureInfo.InvariantCulture);

    [Fact]
    public Task A_sheet_is_held_against_a_still_life_box_by_box() => With("held", "Edda Quill", async (app, b) =>
        {
            var sheet = await app.Read(db =>
                db.Sheets.Where(s => s.CourseId == 1 && s.ReleasedAt != null).OrderBy(s => s.Id).Select(s => s.Id).FirstAsync()
            );
            b.Go($"/courses/1/critique/{sheet}/held");
            b.Choose("#of", "first");
            b.Click("button", "Take this view");
            b.At("of=first");
            b.Until(() => b.Js<bool>("return document.querySelector('[data-held]')?.dataset.ready === 'yes'"), "the sheet");
            Assert.False(b.See("[data-keep-boxes]").Enabled);
            var field = b.See(".held-sheet svg");
            foreach (var (dx, dy) in new[] { (-120, 0), (40, -40), (60, 60) })
                new Actions(b.Driver).MoveToElement(field, dx, dy).ClickAndHold().MoveByOffset(70, 110).Release().Perform();
            b.Until(() => b.See("[data-keep-boxes]").Enabled, "three boxes");
            // The last one a little further by keys.
            b.Click(".held-things li:last-child button");
            b.Keys(Keys.ArrowRight);
            b.Click("[data-keep-boxes]");
            b.Text("beside what the others say");
            var held = await app.Read(db => db.HeldSheets.SingleAsync(h => h.SheetId == sheet));
            Assert.Equal(3, held.Boxes.Count);
            Assert.Equal("plaster block, cup and bottle", held.Name);
            Assert.All(held.Boxes, box => Assert.True(box.Width > 4 && box.Height > 4));
        });
}
