using Microsoft.EntityFrameworkCore;
using MintHarbor.Store.Demo;
using MintHarbor.Web.Tests;
using OpenQA.Selenium;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>One device and several people: words stay with who typed them, through a line that drops and a sign-in that ends.</summary>
public sealed class SharedTests
{
    private static async Task With(string name, Func<HarborApp, Browser, Line, Task> walk)
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var line = new Line(new Uri(address).Port);
        using var b = new Browser(name, line.Address, 390, 844);
        try
        {
            await walk(app, b, line);
            b.NoErrors();
        }
        catch
        {
            b.Save("shared");
            throw;
        }
    }

    /// <summary>Somebody else takes the device and signs in, whoever was signed in before.</summary>
    private static void Takes(Browser b, string who)
    {
        b.Go("/sign-in").Click("button", who);
        b.At("/today");
    }

    private static int Kept(Browser b) =>
        Convert.ToInt32(b.Js<object>("return Object.keys(localStorage).filter(k => k.startsWith('keep:')).length"), null);

    [Fact]
    public Task Three_people_on_one_tablet_find_each_their_own_words() => With("tablet", async (app, b, line) =>
        {
            const string submit = "/courses/1/critique/submit";
            Takes(b, "Maren Holt");
            b.Go(submit).Type("#q", "Does the far shoulder sit too high?");
            Takes(b, "Bram Sedge");
            Assert.Equal("", b.Go(submit).See("#q").GetAttribute("value"));
            b.Type("#q", "Is the hip mine or the model's?");
            Takes(b, "Maren Holt");
            Assert.Equal("Does the far shoulder sit too high?", b.Go(submit).See("#q").GetAttribute("value"));

            // Signing out asks while words wait; then they are gone, and the others' are not.
            Click(b);
            var asked = b.Until(() => b.Driver.SwitchTo().Alert(), "the question");
            Assert.Contains("words that you typed and did not send", asked!.Text);
            asked.Dismiss();
            Assert.Equal("Does the far shoulder sit too high?", b.See("#q").GetAttribute("value"));
            Click(b);
            b.Until(() => b.Driver.SwitchTo().Alert(), "the question")!.Accept();
            b.At("/sign-in");
            Assert.Equal(1, Kept(b));
            Takes(b, "Maren Holt");
            Assert.Equal("", b.Go(submit).See("#q").GetAttribute("value"));
            Takes(b, "Bram Sedge");
            Assert.Equal("Is the hip mine or the model's?", b.Go(submit).See("#q").GetAttribute("value"));

            await NotesStayWithTheirAuthor(app, b, line);
        });

    private static void Click(Browser b) => b.Js<object>("document.querySelector('[data-sign-out] button:not([type])').click()");

    private static async Task NotesStayWithTheirAuthor(HarborApp app, Browser b, Line line)
    {
        var meeting = await app.Read(db => db.Meetings.Where(m => m.CourseId == 1 && m.Number == 5).Select(m => m.Id).SingleAsync());
        var walk = $"/courses/1/sessions/{meeting}/walk";
        void Keep(string who, string fault)
        {
            b.Click(".walk-names label", who);
            b.Click(".walk-faults label", fault);
            b.Click("button", "Keep it");
            b.Text("Kept: ", "[data-walk-said]");
        }
        Takes(b, DemoStudio.Instructor.Name);
        b.Go(walk).Text("all sent", "[data-walk-line]");
        b.Expected.AddRange(["ERR_", "Failed to load resource", "Failed to fetch"]);
        line.Cut();
        Keep("Casper Lowe", "Hairy line");
        b.Text("1 still to be sent", "[data-walk-line]");
        line.Mend();
        Takes(b, DemoStudio.Assistant.Name);
        b.Go(walk).Text("all sent", "[data-walk-line]");
        Assert.DoesNotContain("Casper", b.See("[data-walk-queue]").Text);
        Keep("Dara Quist", "Head large");
        b.Text("all sent", "[data-walk-line]");
        Takes(b, DemoStudio.Instructor.Name);
        b.Go(walk);
        b.Until(() => Notes(app, meeting).Count == 2, "both notes");
        Assert.Equal([("Dara Quist", DemoStudio.Assistant.Mail), ("Casper Lowe", DemoStudio.Instructor.Mail)], Notes(app, meeting));
    }

    private static List<(string, string)> Notes(HarborApp app, int meeting) =>
        app.Read(async db =>
                (
                    await (
                        from n in db.RoomNotes
                        where n.MeetingId == meeting
                        join p in db.Users on n.AuthorId equals p.Id
                        orderby n.Id
                        select new { n.Student!.Name, p.Email }
                    ).ToListAsync()
                ).ConvertAll(n => (n.Name, n.Email))
            )
            .GetAwaiter()
            .GetResult();

    [Fact]
    public Task An_answer_typed_before_the_sign_in_ended_is_there_after_signing_in_again() => With("expired", async (app, b, _) =>
        {
            Takes(b, "Bram Sedge");
            var sheet = await app.Read(db =>
                db.Sheets.Where(s => s.Student.Name == "Bram Sedge" && s.ReleasedAt != null && s.Answer == "")
                    .Select(s => s.Id)
                    .FirstAsync()
            );
            b.Go($"/courses/1/critique/{sheet}").Type("#answer", "The ribs lean, the hips don't: I see it now.");
            // Signed out from another device.
            using var elsewhere = new HttpClient(new SocketsHttpHandler()) { BaseAddress = new Uri(b.Base) };
            await elsewhere.PostForm("/sign-in?handler=Demo", ("as", "bram.sedge@saltmarsh.example"));
            await elsewhere.PostForm("/account/others");
            b.See("#answer").Submit();
            b.At("/sign-in");
            b.Click("button", "Bram Sedge");
            b.At($"/courses/1/critique/{sheet}$");
            Assert.Equal("The ribs lean, the hips don't: I see it now.", b.See("#answer").GetAttribute("value"));
            b.Driver.Navigate().Refresh();
            Assert.Equal("The ribs lean, the hips don't: I see it now.", b.See("#answer").GetAttribute("value"));
            b.See("#answer").Submit();
            b.Text("The ribs lean, the hips don't: I see it now.", "#sheet .said");
            b.Until(() => Kept(b) == 0, "the words to be forgotten");
            Assert.Equal("", b.See("#answer").GetAttribute("value"));
        });
}
