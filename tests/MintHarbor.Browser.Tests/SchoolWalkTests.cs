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
}
