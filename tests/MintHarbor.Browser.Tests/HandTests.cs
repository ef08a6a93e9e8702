using MintHarbor.Core.Simulation;
using MintHarbor.Web.Tests;
using OpenQA.Selenium;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>What the hand meets: keys alone, a wrong file, text typed and not sent, the dim studio, less motion.</summary>
public sealed class HandTests
{
    private static async Task With(string who, int width, int height, Action<Browser, HarborApp> walk)
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var b = new Browser("hand", address, width, height);
        try
        {
            b.Go("/sign-in").Click("button", who);
            b.At("/today");
            walk(b, app);
            b.NoErrors();
        }
        catch
        {
            b.Save("hand");
            throw;
        }
    }

    [Fact]
    public Task A_timetable_is_changed_with_keys_alone() => With("Edda Quill", 1280, 800, (b, app) =>
        {
            b.Go("/courses/1/sessions/6");
            string Line() => b.See("tr.now").Text;
            b.Swapped(() => b.Keys(Keys.ArrowDown));
            Assert.Contains("Set-up", Line());
            foreach (var expected in new[] { "Gesture", "Value patches", "Rest" })
            {
                b.Swapped(() => b.Keys(Keys.ArrowDown));
                Assert.Contains(expected, Line());
            }
            b.Swapped(() => b.Keys(Keys.ArrowUp));
            b.Swapped(() => b.Keys("h"));
            Assert.Contains("held", Line());
            b.Swapped(() => b.Keys("-"));
            Assert.Contains("held", Line());
            b.Swapped(() => b.Keys("z"));
            b.Swapped(() => b.Keys("z"));
            Assert.DoesNotContain("held", b.See("table.timetable").Text);
            Assert.Contains("150", b.See("tfoot").Text);
        });

    [Fact]
    public Task The_first_tab_leads_past_the_places_to_the_sheet() => With("Edda Quill", 1280, 800, (b, app) =>
        {
            b.Go("/courses/1/critique");
            b.Keys(Keys.Tab);
            Assert.Equal("To the sheet", b.Js<string>("return document.activeElement.textContent"));
            b.Keys(Keys.Enter);
            b.Until(() => b.Js<bool>("return location.hash === '#sheet'"), "the jump");
            b.Keys(Keys.Tab);
            b.Until(() => b.Js<bool>("return document.activeElement.classList.contains('queue-item')"), "the first drawing");
            Assert.NotEqual("none", b.Js<string>("return getComputedStyle(document.activeElement).outlineStyle"));
            b.Keys(Keys.Enter);
            b.At("/bench");
            b.Keys("?");
            b.See("dialog[open]");
            Assert.Contains("upside down", b.See("dialog").Text);
            b.Keys(Keys.Escape);
            b.Until(() => b.Driver.FindElements(By.CssSelector("dialog[open]")).Count == 0, "the list to close");
        });

    [Fact]
    public async Task A_critique_is_written_and_released_without_a_pointer()
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var b = new Browser("keys", address);
        try
        {
            // From one thing to the next by tab until the wanted one is reached, as a hand on the keys would.
            void To(string what, string css)
            {
                for (var n = 0; n < 120; n++)
                {
                    if (
                        b.Js<bool>(
                            "const e = document.activeElement; return e.matches(arguments[0]) && e.textContent.includes(arguments[1])",
                            css,
                            what
                        )
                    )
                        return;
                    b.Keys(Keys.Tab);
                }
                throw new TimeoutException($"no tab reaches {css} “{what}”");
            }
            b.Go("/sign-in");
            To("Edda Quill", "button");
            b.Keys(Keys.Enter);
            b.At("/today");
            To("Critique", "nav a");
            b.Keys(Keys.Enter);
            b.At("/critique$");
            To("Maren", "a.queue-item");
            b.Keys(Keys.Enter);
            b.At("/bench");
            b.See("svg.over");
            b.Keys("r");
            b.Until(() => b.Js<bool>("return document.activeElement.id === 'fault'"), "the field for a fault");
            b.Keys("hai");
            b.See(".fault-list button");
            To("Hairy line", ".fault-list button");
            b.Swapped(() => b.Keys(Keys.Enter));
            Assert.Contains(await app.Read(db => Task.FromResult(db.Sheets.First(s => s.Student.Name == "Maren Holt").Remarks)), r =>
                r.Next.Contains("longest edge")
            );
            To("Release to Maren", "button");
            b.Keys(Keys.Enter);
            b.Until(() => !b.Path.Contains($"/7/bench", StringComparison.Ordinal), "the next sheet");
            Assert.True(await app.Read(db => Task.FromResult(db.Sheets.First(s => s.Student.Name == "Maren Holt").ReleasedAt is not null)));
            b.NoErrors();
        }
        catch
        {
            b.Save("keys");
            throw;
        }
    }

    [Fact]
    public Task On_the_bench_keys_turn_mirror_and_hang_the_plumb() => With("Edda Quill", 1280, 800, (b, app) =>
        {
            var id = app.Read(db => Task.FromResult(db.Sheets.First(s => s.Student.Name == "Maren Holt").Id)).GetAwaiter().GetResult();
            b.Go($"/courses/1/critique/{id}/bench");
            b.See("svg.over");
            bool Has(string css) => b.Js<bool>("return document.querySelector('[data-board]').classList.contains(arguments[0])", css);
            foreach (var (key, css) in new[] { ("u", "turned"), ("m", "mirrored"), ("h", "no-ladder") })
            {
                b.Keys(key);
                b.Until(() => Has(css), css);
                b.Keys(key);
                b.Until(() => !Has(css), $"not {css}");
            }
            b.Keys("p");
            b.Until(() => !b.Js<bool>("return document.querySelector('.plumbline').hasAttribute('hidden')"), "the plumb line");
            // The next landmark takes the focus, so that arrows move it.
            b.Keys("n");
            b.Until(() => b.Js<bool>("return document.activeElement.classList.contains('landmark')"), "a landmark in the hand");
            var place = b.Js<string>("return document.activeElement.dataset.id");
            string At() =>
                b.Js<string>("return document.querySelector(`.landmark[data-id='${arguments[0]}']`).getAttribute('transform')", place);
            var before = At();
            b.Swapped(() => b.Keys(Keys.ArrowRight + Keys.ArrowRight));
            Assert.NotEqual(before, At());
            b.Text("saved", ".margin-head");
            b.Swapped(() => b.Keys("z"));
            Assert.Equal(before, At());
        });

    [Fact]
    public Task A_wrong_file_is_named_in_one_line_and_nothing_typed_is_lost() => With("Bram Sedge", 390, 844, (b, app) =>
        {
            b.Go("/courses/1/critique/submit");
            b.Type("#q", "Is this a drawing?");
            b.Type("#r", "It is a letter.\nI would send another.");
            // Left and come back to: the browser kept what was typed.
            b.Go("/courses/1/today").Go("/courses/1/critique/submit");
            b.Until(() => b.See("#q").GetAttribute("value") == "Is this a drawing?", "the question that was kept");
            Assert.StartsWith("It is a letter.", b.See("#r").GetAttribute("value"));
            var wrong = Path.Combine(Path.GetTempPath(), $"harbor-{Guid.NewGuid():N}.jpg");
            File.WriteAllText(wrong, "Dear all, this is no photograph.");
            var (right, _) = Studio.Photograph(new DrawingFaults(), 5);
            try
            {
                b.Expected.Add("400");
                b.See("#photo").SendKeys(wrong);
                b.Click("button", "Send it");
                b.Text("not a picture that can be read. Accepted: JPEG, PNG or WebP", ".files");
                Assert.Equal("Is this a drawing?", b.See("#q").GetAttribute("value"));
                // Another choice takes the place of the first.
                b.Js<object?>("arguments[0].value = ''", b.See("#photo"));
                b.See("#photo").SendKeys(right);
                b.Click("button", "Send it");
                b.At("/corners");
                b.Go("/courses/1/critique/submit");
                Assert.Equal("", b.See("#q").GetAttribute("value"));
            }
            finally
            {
                File.Delete(wrong);
                File.Delete(right);
            }
        });

    [Fact]
    public Task The_dim_studio_stays_dim_from_page_to_page_and_a_photographed_sheet_stays_light() =>
        With("Edda Quill", 1280, 800, (b, app) =>
        {
            string Ground() => b.Js<string>("return getComputedStyle(document.documentElement).backgroundColor");
            var light = Ground();
            b.Click("[data-theme-switch]");
            b.Until(() => Ground() != light, "the dim ground");
            var dim = Ground();
            b.Go("/courses/1/critique");
            Assert.Equal(dim, Ground());
            b.Click("a.queue-item");
            b.At("/bench");
            // Overlays on the sheet keep their light-theme ink.
            Assert.Equal(
                "rgb(34, 48, 46)",
                b.Js<string>("return getComputedStyle(document.querySelector('.landmark:not(.chosen) .cross')).stroke")
            );
            b.Click("[data-theme-switch]");
            b.Until(() => Ground() == light, "the light ground");
        });

    [Fact]
    public Task Leaders_join_notes_to_places_and_never_cross() => With("Edda Quill", 1280, 800, (b, app) =>
        {
            var id = app.Read(db => Task.FromResult(db.Sheets.First(s => s.Student.Name == "Maren Holt").Id)).GetAwaiter().GetResult();
            foreach (var page in new[] { "/courses/1/sessions/6", $"/courses/1/critique/{id}/bench", "/courses/1/today" })
            {
                b.Go(page);
                b.Until(() => b.Driver.FindElements(By.CssSelector("svg.leaders path")).Count > 0, "leaders");
                var crossings = b.Js<long>(
                    """
                    const lines = [...document.querySelectorAll('svg.leaders path:not(.halo)')].map(p => { const n = 60, l = p.getTotalLength(); return Array.from({length: n + 1}, (_, i) => p.getPointAtLength(l * i / n)); });
                    const cross = (a, b, c, d) => { const o = (p, q, r) => (q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x); return o(a, b, c) * o(a, b, d) < -1e-6 && o(c, d, a) * o(c, d, b) < -1e-6; };
                    let n = 0;
                    for (let i = 0; i < lines.length; i++) for (let j = i + 1; j < lines.length; j++) {
                      let hit = false;
                      for (let k = 1; k < lines[i].length && !hit; k++) for (let m = 1; m < lines[j].length && !hit; m++) hit = cross(lines[i][k - 1], lines[i][k], lines[j][m - 1], lines[j][m]);
                      if (hit) n++;
                    }
                    return n;
                    """
                );
                Assert.Equal(0, crossings);
                var overlaps = b.Js<long>(
                    "const r = [...document.querySelectorAll('.notes > .note')].map(n => n.getBoundingClientRect()).sort((a, b) => a.top - b.top); return r.filter((x, i) => i && r[i - 1].bottom > x.top + 0.5).length"
                );
                Assert.Equal(0, overlaps);
            }
        });

    [Fact]
    public Task With_less_motion_nothing_moves() => With("Edda Quill", 1280, 800, (b, app) =>
        {
            b.Driver.ExecuteCdpCommand(
                "Emulation.setEmulatedMedia",
                new Dictionary<string, object?>
                {
                    ["features"] = new[]
                    {
                        new Dictionary<string, object> { ["name"] = "prefers-reduced-motion", ["value"] = "reduce" },
                    },
                }
            );
            b.Go("/courses/1/sessions/6");
            Assert.Matches(
                "^0m?s$",
                b.Js<string>("return getComputedStyle(document.documentElement).getPropertyValue('--motion-turn').trim()")
            );
            Assert.Equal(0, b.Js<long>("return document.getAnimations().length"));
        });
}
