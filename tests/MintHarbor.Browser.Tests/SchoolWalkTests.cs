using Microsoft.EntityFrameworkCore;
using MintHarbor.Store.Model;
using MintHarbor.Web.Tests;
using NodaTime;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>A course's own canon as its instructor writes it: what contradicts itself is said, a head is judged by it, a critique that is out
/// doesn't move.</summary>
public sealed class SchoolWalkTests
{
    [Fact]
    public async Task A_canon_is_edited_a_head_is_judged_by_it_and_an_old_critique_stays()
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        var id = await app.Read(db =>
            db.Sheets.Where(s => s.Student.Name == "Dara Quist" && s.Subject == "head").Select(s => s.Id).SingleAsync()
        );
        var bench = $"/courses/1/critique/{id}/bench";
        using var b = new Browser("school", address);
        try
        {
            b.Go("/sign-in").Click("button", "Edda Quill");
            b.At("/today");
            b.Go(bench).Text("Eye line high", ".notes");
            b.Go("/courses/1/shelf?canon=classical-head").Click("a.btn", "Make it your own");
            b.Type("#name", "Saltmarsh head");
            b.Type("[aria-label='Thirds of the face, value']", "0.4");
            b.Swapped(() => b.Click("button", "Does it hold together?"));
            b.Text("the rest makes it 0.2, it says 0.4", ".notes");
            b.Type("[aria-label='Thirds of the face, value']", "0.3333");
            b.Type("[aria-label='Eye line, value']", "0.45");
            b.Swapped(() => b.Click("button", "Does it hold together?"));
            b.Text("It holds together", ".notes");
            b.Click("button", "Keep and judge by it");
            b.Text("Saltmarsh head, version 1: heads are judged by it");
            b.Go(bench).Text("Saltmarsh head");
            Assert.DoesNotContain("Eye line high", b.See(".notes").Text);
            // Out to its student; then the course goes back to the table's own.
            await app.Read(db =>
                db.Sheets.Where(s => s.Id == id)
                    .ExecuteUpdateAsync(u =>
                        u.SetProperty(s => s.ReleasedAt, SystemClock.Instance.GetCurrentInstant())
                            .SetProperty(s => s.State, SheetState.Released)
                    )
            );
            b.Go("/courses/1/shelf?canon=classical-head");
            b.Swapped(() => b.Click("button", "Judge heads by it"));
            b.Text("heads are judged by it");
            b.Go(bench).Text("Saltmarsh head");
            Assert.DoesNotContain("Eye line high", b.See(".notes").Text);
            b.NoErrors();
        }
        catch
        {
            b.Save("school");
            throw;
        }
    }

    [Fact]
    public async Task A_shelf_is_made_ones_own_and_is_found_on_the_bench_held_to_by_the_planner_and_given_back()
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var b = new Browser("shelf", address);
        try
        {
            b.Go("/sign-in").Click("button", "Edda Quill");
            b.At("/today");
            b.Go("/courses/1/shelf").Click(".parts a", "exercises");
            b.Click("table a", "Gesture");
            // By the keyboard alone: the field, the words, the button.
            b.See("#wall").Clear();
            b.See("#wall").SendKeys("from the hip, all of it" + OpenQA.Selenium.Keys.Enter);
            b.Text("ours", "tr.on");
            b.Text("from the hip, all of it", "tr.on");
            // A fault of their own, found by two letters.
            b.Go("/courses/1/shelf/own?part=faults").Click("a.btn", "Another of our own");
            b.Type("#name", "Zigzag hem");
            b.Type("#where", "along the drapery");
            b.Type("#sign", "the hem runs in one zigzag");
            b.Type("#why", "Cloth falls in three kinds of fold.");
            b.Type("#next", "Name each fold first.");
            b.Click(".margin button", "Keep");
            b.Text("Zigzag hem", "tr.on");
            var sheet = await app.Read(db =>
                db.Sheets.Where(s => s.CourseId == 1 && s.State == SheetState.Waiting).OrderBy(s => s.Id).Select(s => s.Id).FirstAsync()
            );
            b.Go($"/courses/1/critique/{sheet}/bench").Type("#fault", "zi");
            // The list of what is typed in full: an earlier one would be taken from under the click.
            b.Click("#faults [data-of='zi'] button", "Zigzag hem");
            // The sign stood in the list before the click too: in the remark it is what counts.
            b.Text("Name each fold first.", ".priorities");
            Assert.Contains(
                "the hem runs in one zigzag",
                b.Js<string>("return document.querySelector(\".priorities textarea[name='what']\").value"),
                StringComparison.Ordinal
            );
            // What asks more of the model is refused without a word, and what was typed stays.
            b.Go("/courses/1/shelf/own?part=timing").Type("[aria-label='posed on end at most, minutes']", "20");
            b.Click("button", "Keep");
            b.Text("spares the model");
            b.Go("/courses/1/sessions/plan").Text("At most 20 min on end");
            b.Go("/courses/1/shelf/own?part=timing").Type("[aria-label='a rest that ends a strain, minutes']", "1");
            b.Click("button", "Keep");
            b.Text("asks more of a model than the studio's 2", "[role=alert]");
            Assert.Equal("1", b.See("[aria-label='a rest that ends a strain, minutes']").GetDomProperty("value"));
            b.Driver.Manage().Logs.GetLog("browser");
            // And back, by version.
            b.Go("/courses/1/shelf/own?part=exercises").Click("summary", "versions, files, other courses");
            b.Click("button", "back to the studio's tables");
            b.Text("as the studio has it");
            b.Text("trace it in the air");
        }
        catch
        {
            b.Save("shelf");
            throw;
        }
    }
}
