using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Simulation;
using MintHarbor.Web.Tests;
using OpenQA.Selenium;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>Bad evenings in the real interface: several files of which one is none, a line that drops while somebody types, a
/// server that dies, two instructors on one sheet, a meeting that runs late, a full room.</summary>
public sealed class StormTests
{
    private static async Task With(Func<HarborApp, string, Task> walk)
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        await walk(app, address);
    }

    private static Browser In(string address, string who, int width = 1280, int height = 800)
    {
        var b = new Browser(who.Split(' ')[0].ToLowerInvariant(), address, width, height);
        b.Go("/sign-in").Click("button", who);
        b.At("/today");
        return b;
    }

    private static void Kept(Action walk, params Browser[] all)
    {
        try
        {
            walk();
            foreach (var b in all)
                b.NoErrors();
        }
        catch
        {
            foreach (var b in all)
                b.Save("storm");
            throw;
        }
    }

    [Fact]
    public Task A_set_goes_up_one_by_one_and_what_fails_is_named_alone() =>
        With(
            (app, address) =>
            {
                using var b = In(address, "Bram Sedge", 390, 844);
                var (first, _) = Studio.Photograph(new DrawingFaults(), 21);
                var (second, _) = Studio.Photograph(new DrawingFaults(HeadScale: 1.1), 22);
                var none = Path.Combine(Path.GetTempPath(), $"harbor-{Guid.NewGuid():N}.jpg");
                File.WriteAllText(none, "no picture");
                Kept(
                    () =>
                    {
                        b.Expected.Add("400");
                        b.Go("/courses/1/critique/submit");
                        b.Type("#q", "Which of these stands best?");
                        b.Type("#r", "The first is stiff.");
                        b.See("#photo").SendKeys(string.Join('\n', first, none, second));
                        b.Click("button", "Send all 3");
                        b.Text("not a picture that can be read", ".files");
                        b.Text("2 of 3 are there.", "[data-upload-says]");
                        Assert.Equal("Which of these stands best?", b.See("#q").GetAttribute("value"));
                        Assert.Equal(2, b.Driver.FindElements(By.CssSelector(".files .deep")).Count);
                        b.Click("[data-upload-says] a", "Go on without the rest");
                        b.At("/critique/set/");
                        Assert.Equal(2, b.Driver.FindElements(By.CssSelector(".set-sheet")).Count);
                        b.Click(".set-sheet a.btn", "Ask about it");
                        b.At("/(bench|corners)");
                    },
                    b
                );
                foreach (var f in new[] { first, second, none })
                    File.Delete(f);
                return Task.CompletedTask;
            }
        );

    [Fact]
    public Task A_digital_drawing_is_taken_whole_with_the_size_it_counts_as() =>
        With(
            async (app, address) =>
            {
                using var b = In(address, "Bram Sedge");
                var file = Path.Combine(Path.GetTempPath(), $"harbor-{Guid.NewGuid():N}.png");
                File.WriteAllBytes(file, BadFiles.Png(900, 1200));
                Kept(
                    () =>
                    {
                        b.Go("/courses/1/critique/submit");
                        b.Type("#q", "Is the page well filled?");
                        b.Type("#r", "It was drawn on a tablet.");
                        b.Click("input[value=whole]");
                        b.Type("#ww", "300");
                        b.See("#photo").SendKeys(file);
                        b.Click("button", "Send it");
                        b.At("/bench");
                        b.See("svg.over");
                    },
                    b
                );
                File.Delete(file);
                var sheet = await app.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.Question == "Is the page well filled?"));
                Assert.Equal((300, 400, true), ((int)sheet.PaperWidthMm, (int)sheet.PaperHeightMm, sheet.Whole));
            }
        );

    [Fact]
    public Task Span_against_span_is_played_by_keys() =>
        With(
            (app, address) =>
            {
                using var b = In(address, "Bram Sedge", 390, 844);
                Kept(
                    () =>
                    {
                        b.Go("/courses/1/practice");
                        b.Until(
                            () =>
                            {
                                b.Driver.FindElement(
                                        By.XPath(
                                            "//form[input[@name='kind' and @value='span']]//button | //form[input[@value='span-against-span']]//button"
                                        )
                                    )
                                    .Click();
                                return true;
                            },
                            "the second drill"
                        );
                        b.At("/practice/drill/");
                        b.See("[data-stick]");
                        for (var n = 0; n < 3; n++)
                        {
                            var before = b.See("[data-say]").Text;
                            b.See("[data-stick]").SendKeys(Keys.ArrowRight + Keys.ArrowRight + Keys.ArrowRight);
                            b.Until(() => b.See("[data-say]").Text != before, "the count said");
                            b.Click("[data-say]");
                            b.Text("it is", "[role=status]");
                            b.Click(".drill-acts a.btn");
                        }
                    },
                    b
                );
                return Task.CompletedTask;
            }
        );

    [Fact]
    public Task A_meeting_that_runs_late_is_planned_again_by_one_key() =>
        With(
            async (app, address) =>
            {
                // Begun 25 minutes late, in a zone where it is about noon, so that the evening ends on its day whatever the hour here.
                await app.Read(async db =>
                {
                    var m = await db.Meetings.Include(m => m.Course).SingleAsync(m => m.CourseId == 1 && m.Number == 6);
                    var now = NodaTime.SystemClock.Instance.GetCurrentInstant();
                    var east = 12 - now.InUtc().Hour;
                    m.Course.Zone = $"Etc/GMT{(east < 0 ? "+" : "-")}{Math.Abs(east)}";
                    var local = now.InZone(NodaTime.DateTimeZoneProviders.Tzdb[m.Course.Zone]).LocalDateTime.PlusMinutes(-25);
                    (m.Date, m.StartsAt) = (local.Date, new NodaTime.LocalTime(local.Hour, local.Minute));
                    await db.SaveChangesAsync();
                    return 0;
                });
                using var b = In(address, "Edda Quill", 820, 1180);
                Kept(
                    () =>
                    {
                        b.Go("/courses/1/sessions/6/run");
                        b.Swapped(() => b.Keys("s"));
                        b.See(".what-now");
                        var behind = b.See(".what-now h2").Text;
                        Assert.Contains("behind, the end stays at", behind);
                        Assert.NotEmpty(b.Driver.FindElements(By.CssSelector(".what-now .due")));
                        b.Swapped(() => b.Keys("1"));
                        b.Until(() => b.Driver.FindElements(By.CssSelector(".what-now")).Count == 0, "the way to go on taken");
                    },
                    b
                );
            }
        );

    [Fact]
    public Task A_heads_departure_is_marked_as_the_sitters_own() =>
        With(
            async (app, address) =>
            {
                var id = await app.Read(db =>
                    db.Sheets.Where(s => s.Student.Name == "Dara Quist" && s.Subject == "head").Select(s => s.Id).SingleAsync()
                );
                using var b = In(address, "Edda Quill");
                Kept(
                    () =>
                    {
                        b.Go($"/courses/1/critique/{id}/bench");
                        b.Text("Is that the sitter?", ".notes");
                        var before = b.Driver.FindElements(By.CssSelector(".notes [aria-label=outside]")).Count;
                        Assert.True(before > 0);
                        b.Swapped(() => b.Click(".notes button", "the sitter's own"));
                        Assert.Equal(before - 1, b.Driver.FindElements(By.CssSelector(".notes [aria-label=outside]")).Count);
                        b.Text("not the sitter's", ".notes");
                    },
                    b
                );
            }
        );

    /// <param name="name">The other's: two people of one name are two.</param>
    [Theory]
    [InlineData("Lorne Fisk"), InlineData("Edda Quill")]
    public Task Two_instructors_on_one_sheet_see_each_others_change_and_choose(string name) =>
        With(
            async (app, address) =>
            {
                var id = await app.Read(db =>
                    db.Sheets.Where(s => s.Student.Name == "Maren Holt" && s.CourseId == 1).Select(s => s.Id).FirstAsync()
                );
                await app.Read(db => db.Users.Where(p => p.Name == "Lorne Fisk").ExecuteUpdateAsync(u => u.SetProperty(p => p.Name, name)));
                using var edda = In(address, "Edda Quill");
                using var lorne = In(address, "Lorne");
                Kept(
                    () =>
                    {
                        edda.Expected.Add("409");
                        foreach (var b in new[] { edda, lorne })
                            b.Go($"/courses/1/critique/{id}/bench").See("svg.over");
                        lorne.Swapped(() => lorne.DragLandmark("elbow.L", 330, 230));
                        // The open bench asks by itself and says whose hand it was.
                        edda.Text("changed this sheet");
                        edda.Swapped(() => edda.DragLandmark("elbow.L", 340, 240));
                        edda.Text("meanwhile. Which is to stand?", ".clash");
                        edda.Text(name, ".clash");
                        edda.Swapped(() => edda.Click(".clash button", "Put yours"));
                        edda.Until(
                            () =>
                                Math.Abs(
                                    double.Parse(
                                        edda.Js<string>("return document.querySelector(\".landmark[data-id='elbow.L']\").dataset.at")
                                            .Split(' ')[0],
                                        System.Globalization.CultureInfo.InvariantCulture
                                    ) - 340
                                ) < 3,
                            "her own place"
                        );
                        Assert.Empty(edda.Driver.FindElements(By.CssSelector(".clash")));
                    },
                    edda,
                    lorne
                );
            }
        );

    [Fact]
    public Task A_line_that_drops_while_typing_loses_nothing_and_is_taken_up_again() =>
        With(
            async (app, address) =>
            {
                var id = await app.Read(db =>
                    db.Sheets.Where(s => s.Student.Name == "Maren Holt" && s.CourseId == 1).Select(s => s.Id).FirstAsync()
                );
                using var line = new Line(new Uri(address).Port);
                using var b = In(line.Address, "Edda Quill");
                Kept(
                    () =>
                    {
                        b.Expected.AddRange(["net::ERR", "Failed to load resource", "htmx:sendError", "htmx:afterRequest"]);
                        b.Go($"/courses/1/critique/{id}/bench");
                        b.Click(".priorities summary", "change");
                        line.Cut();
                        b.Type(".priorities textarea[name=what]", "He tips because the pit stands left of both feet.");
                        b.Click(".priorities button", "Keep");
                        b.Text("The line is down", "#line");
                        Assert.Equal(
                            "He tips because the pit stands left of both feet.",
                            b.See(".priorities textarea[name=what]").GetAttribute("value")
                        );
                        line.Mend();
                        b.Text("The line is back.", "#line");
                        b.Until(
                            () =>
                                app.Read(db => db.Sheets.AsNoTracking().SingleAsync(s => s.Id == id))
                                    .GetAwaiter()
                                    .GetResult()
                                    .Remarks.Any(r => r.What.StartsWith("He tips because", StringComparison.Ordinal)),
                            "the remark on the server"
                        );
                    },
                    b
                );
            }
        );

    [Fact]
    public async Task A_server_that_dies_comes_back_under_an_open_page()
    {
        var connection = await TestDatabase.Demo();
        var node = await Node.Start(connection);
        using var b = In(node.Address.ToString(), "Edda Quill");
        try
        {
            b.Expected.AddRange(["net::ERR", "Failed to load resource", "htmx:sendError", "htmx:afterRequest"]);
            b.Go("/courses/1/sessions/6/run");
            b.Swapped(() => b.Keys("s"));
            node.Kill();
            b.Keys("p");
            b.Text("The line is down", "#line");
            await node.DisposeAsync();
            node = await Node.Start(connection, node.Address.Port);
            b.Text("The line is back.", "#line");
            // What was pressed meanwhile went out, once.
            b.Named("button", "Go on");
            var clock = (await Load.Read(connection, db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == 6))).Clock;
            Assert.Equal([Core.Sessions.ClockAct.Start, Core.Sessions.ClockAct.Pause], clock.Select(e => e.Act));
            b.NoErrors();
        }
        catch
        {
            b.Save("storm");
            throw;
        }
        finally
        {
            await node.DisposeAsync();
        }
    }

    [Fact]
    public Task A_full_room_with_names_from_everywhere_fits_every_screen() =>
        With(
            async (app, address) =>
            {
                // Sixty students, some with names that are long or read from the right.
                await app.Read(async db =>
                {
                    for (var n = 0; n < 46; n++)
                    {
                        var name = (n % 4) switch
                        {
                            0 => $"مها الوادي {n}",
                            1 => $"Wilhelmine-Friederike von der Oberen Hafentreppe {n}",
                            2 => $"שירה גל {n}",
                            _ => $"Ana {n}",
                        };
                        db.Memberships.Add(
                            new()
                            {
                                CourseId = 1,
                                Role = Store.Model.CourseRole.Student,
                                Seat = 20 + n,
                                Person = new()
                                {
                                    Name = name,
                                    UserName = $"full{n}@example.org",
                                    Email = $"full{n}@example.org",
                                    NormalizedEmail = $"FULL{n}@EXAMPLE.ORG",
                                    NormalizedUserName = $"FULL{n}@EXAMPLE.ORG",
                                    SecurityStamp = $"{n}",
                                },
                            }
                        );
                    }
                    await db.SaveChangesAsync();
                    return 0;
                });
                using var b = In(address, "Edda Quill");
                Kept(
                    () =>
                    {
                        foreach (var (w, h) in new[] { (1280, 800), (820, 1180), (390, 844) })
                        {
                            b.Size(w, h);
                            foreach (var page in new[] { "today", "students", "practice", "projects/1", "critique", "sessions/6" })
                            {
                                b.Go($"/courses/1/{page}");
                                b.Until(() => b.Js<bool>("return document.readyState === 'complete'"), "the page");
                                Assert.True(
                                    b.Js<bool>("return document.documentElement.scrollWidth <= innerWidth"),
                                    $"{page} is wider than {w}"
                                );
                            }
                        }
                        b.Go("/courses/1/students");
                        Assert.True(b.Driver.FindElements(By.CssSelector("table.plain tbody tr")).Count >= 60);
                        // A name keeps its own direction, and the numbers beside it theirs.
                        Assert.Equal(
                            "rtl",
                            b.Js<string>(
                                "return getComputedStyle([...document.querySelectorAll('th bdi')].find(a => a.textContent.includes('مها'))).direction"
                            )
                        );
                    },
                    b
                );
            }
        );
}
