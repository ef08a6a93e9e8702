using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Technique;
using MintHarbor.Store.Model;
using MintHarbor.Web.Tests;
using OpenQA.Selenium;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>What the ink says, seen on the bench and taken over; a class's sheets by the keys alone.</summary>
public sealed class TechniqueWalkTests(ITestOutputHelper output)
{
    private static async Task With(string name, Func<HarborApp, Browser, Task> walk)
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var b = new Browser(name, address);
        try
        {
            await walk(app, b);
            b.NoErrors();
        }
        catch
        {
            b.Save(name);
            throw;
        }
    }

    private static void Wait(Browser b, Func<bool> until) => b.Until(until, "what was asked for");

    private static void SignIn(Browser b)
    {
        b.Go("/sign-in").Click("button", "Edda Quill");
        b.At("/courses/1/today");
    }

    private static Task<List<Sheet>> Waiting(HarborApp app) =>
        app.Read(db =>
            db.Sheets.AsNoTracking()
                .Where(s => s.CourseId == 1 && (s.State == SheetState.Waiting || s.State == SheetState.Drafted))
                .OrderBy(s => s.SubmittedAt)
                .ThenBy(s => s.Id)
                .ToListAsync()
        );

    [Fact]
    public Task What_the_ink_says_is_seen_on_the_sheet_and_taken_over() => With("technique-bench", async (app, b) =>
        {
            SignIn(b);
            var sheet = (await Waiting(app)).First(s => s.Technique is { Reading.Hatch.Spacing: > 1.8 } && s.Exercise == "sitting");
            b.Go($"/courses/1/critique/{sheet.Id}/bench");
            b.Text("Hatched");
            b.Text("of five values");
            bool Over(string kind) =>
                b.Js<bool>(
                    "const i = document.querySelector(`[data-read-over=${arguments[0]}] image`); return !!i && i.getBoundingClientRect().width > 300",
                    kind
                );
            b.See("[data-read=lines]").Click();
            Wait(b, () => Over("lines"));
            // The other way by its key; the first one goes.
            b.Keys("t");
            Wait(b, () => Over("values") && !Over("lines"));
            b.Keys("t");
            Wait(b, () => !Over("values"));
            foreach (var kind in new[] { "lines", "values" })
                Assert.Equal(
                    "image/png 200",
                    b.Driver.ExecuteAsyncScript(
                        "const done = arguments[1]; fetch(arguments[0]).then(r => done(r.headers.get('content-type') + ' ' + r.status));",
                        $"/courses/1/critique/{sheet.Id}/picture/{kind}"
                    )
                );
            var off = TechniqueFindings
                .Of(sheet.Technique!.Reading, Core.Practice.Exercises.Get(sheet.Exercise), sheet.Technique.Lamp, sheet.PaperHeightMm)
                .FirstOrDefault(f => f.Verdict == TechniqueVerdict.Off);
            if (off is null)
                return;
            b.See($"button[hx-vals*='{off.Rule.Id}']").Click();
            Wait(b, () =>
                b
                    .Driver.FindElements(By.CssSelector(".remark"))
                    .Any(r => r.Text.Contains("next", StringComparison.OrdinalIgnoreCase) || r.Text != "")
            );
            var after = await app.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.Id == sheet.Id));
            Assert.Contains(after.Remarks, r => r.Key == off.Rule.Id && r.What == off.Says);
        });

    /// <summary>Seconds of a key struck by somebody who doesn't type for a living, and of making up one's mind (Card, Moran and Newell 1983, from
    /// memory); seconds that a drawing is looked at before anything is said of it, our own.</summary>
    private const double Key = 0.28,
        Mind = 1.35,
        Look = 60;

    [Fact]
    public Task A_class_is_critiqued_by_the_keys_alone() => With("technique-contact", async (app, b) =>
        {
            SignIn(b);
            var all = await Waiting(app);
            Assert.InRange(all.Count, 5, ContactMost);
            b.Go("/courses/1/critique/contact");
            b.Text($"sheet 1 of {all.Count}");
            var codes = FaultCodes.Of(Faults.All);
            var (keys, minds) = (0, 0);
            void Press(string press, int decided = 0)
            {
                b.Keys(press);
                (keys, minds) = (keys + 1, minds + decided);
            }
            void Stamp(string fault)
            {
                foreach (var letter in codes[fault])
                    Press(letter.ToString());
                minds++;
            }
            Sheet Now(int id) => app.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.Id == id)).GetAwaiter().GetResult();
            void Has(int id, string fault, bool has) => Wait(b, () => Now(id).Remarks.Any(r => r.FaultId == fault) == has);
            void Shows(int id) => Wait(b, () => b.Js<string>("return document.querySelector('[data-contact]').dataset.sheet") == $"{id}");

            // One stamp on two sheets, and back again.
            Press(" ");
            b.Text("1 picked");
            Press(Keys.ArrowRight);
            Shows(all[1].Id);
            Stamp("hairy-line");
            Has(all[0].Id, "hairy-line", true);
            Has(all[1].Id, "hairy-line", true);
            Wait(b, () => b.Driver.FindElement(By.CssSelector(".contact-said")).Text.Contains("Hairy line"));
            Wait(b, () => b.Js<string>("return document.querySelector('[data-contact]').dataset.stamped") is { Length: > 4 });
            Press(Keys.Backspace);
            Has(all[0].Id, "hairy-line", false);
            Has(all[1].Id, "hairy-line", false);
            Press(Keys.ArrowLeft);
            Shows(all[0].Id);

            // Every sheet: one thing said with two letters, and out it goes to its student.
            foreach (var sheet in all)
            {
                Shows(sheet.Id);
                var fault = sheet.Id % 2 == 0 ? "stiff-action" : "even-pressure";
                Stamp(fault);
                Has(sheet.Id, fault, true);
                Wait(b, () => b.Driver.FindElement(By.CssSelector(".contact-said")).Text.Length > 10);
                Press(Keys.Enter, 1);
                Wait(b, () => Now(sheet.Id).ReleasedAt is not null);
            }
            b.Text("nothing waits");
            Assert.Empty(await Waiting(app));
            var each = ((keys * Key) + (minds * Mind)) / all.Count + Look;
            output.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{keys} keys for {all.Count} sheets; {each:0} s a sheet, fourteen in {each * 14 / 60:0.0} min"
                )
            );
            Assert.True(each <= 120, $"{each} s a sheet");
            Assert.True(each * 14 <= 25 * 60, $"{each * 14} s for fourteen");
        });

    private const int ContactMost = 60;

    [Fact]
    public Task Letters_that_name_nothing_say_so_and_lose_nothing() => With("technique-letters", async (app, b) =>
        {
            b.Expected.Add("400");
            SignIn(b);
            var first = (await Waiting(app))[0];
            b.Go("/courses/1/critique/contact");
            b.Keys("q");
            b.Keys("q");
            b.Text("fault has the letters 'qq'");
            Assert.Equal(first.Remarks.Count, (await Waiting(app))[0].Remarks.Count);
            // By mouse and without the keys: the same form.
            b.Type("#code", "hl");
            b.Click(".contact-code button", "Stamp");
            Wait(b, () => b.Driver.FindElement(By.CssSelector(".contact-said")).Text.Contains("Hairy line"));
        });
}
