using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Tests;
using OpenQA.Selenium;
using UglyToad.PdfPig;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>An evening of each subject from nothing to its printed sheet; the models' book; a model's own page on a phone.</summary>
public sealed class SubjectWalkTests
{
    private static async Task With(string name, Func<HarborApp, Browser, Task> walk, int width = 1280, int height = 800)
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var b = new Browser(name, address, width, height);
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

    private static void SignIn(Browser b)
    {
        b.Go("/sign-in").Click("button", "Edda Quill");
        b.At("/courses/1/today");
    }

    /// <summary>Without blanks: where a line of the sheet ends is no matter.</summary>
    private static string Packed(string s) => string.Concat(s.Where(c => !char.IsWhiteSpace(c)));

    /// <summary>What the pinned-up sheet says, in the letters that a reader of PDF finds in it.</summary>
    private static string Sheet(Browser b)
    {
        var bytes = (string)
            b.Driver.ExecuteAsyncScript(
                "const done = arguments[1]; fetch(arguments[0]).then(r => r.blob()).then(f => { const reader = new FileReader(); reader.onload = () => done(reader.result.split(',')[1]); reader.readAsDataURL(f); })",
                b.Js<string>("return document.querySelector('[data-key=s]').getAttribute('href')")
            )!;
        using var pdf = PdfDocument.Open(Convert.FromBase64String(bytes));
        return Packed(string.Concat(pdf.GetPages().Select(p => p.Text)));
    }

    public static TheoryData<string, string, string, bool, string, string> Evenings =>
        new()
        {
            { "Person", "Gesture", "Alternating", false, "half ring", "house rules" },
            { "Two", "Proportion", "Alternating", false, "robes and water for both", "house rules" },
            { "Sitter", "Portrait", "LongFirst", false, "the sitter stands up", "half ring" },
            { "Cast", "Tone", "Alternating", false, "the cast upright at eye level", "robe" },
            { "StillLife", "Construction", "Alternating", false, "few things, overlapping", "half ring" },
            { "Mirror", "Portrait", "Alternating", true, "camera over the sheet", "half ring" },
            { "Hands", "Anatomy", "Alternating", false, "a low stool for the bare foot", "half ring" },
            { "Moving", "Gesture", "QuickFirst", false, "nobody's way is stood in", "lamp" },
            { "Outdoors", "Proportion", "Alternating", false, "the sun behind one shoulder", "lamp" },
            { "Museum", "Construction", "Alternating", false, "house rules first", "lamp" },
            { "Memory", "Proportion", "QuickFirst", false, "say it aloud", "half ring" },
        };

    [Theory]
    [MemberData(nameof(Evenings))]
    public Task An_evening_of_each_subject_from_nothing_to_its_printed_sheet(
        string model,
        string purpose,
        string approach,
        bool online,
        string says,
        string never
    ) => With($"subject-{model}", async (app, b) =>
        {
            SignIn(b);
            b.Go("/courses/1/sessions/plan");
            b.Choose("#Form_Model", model);
            b.Choose("#Form_Purpose", purpose);
            b.Choose("#Form_Approach", approach);
            if (online)
                b.Click("label.check", "Online");
            b.Click("button", "Work it out");
            b.Text("Three timetables for");
            b.Click(".proposal button", "Take it");
            b.At(@"/sessions/\d+$");
            var id = int.Parse(b.Path.Split('/')[^1], CultureInfo.InvariantCulture);
            var meeting = await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == id));
            Assert.Equal((Enum.Parse<ModelKind>(model), online), (meeting.Request.Wish.Model, meeting.Online));
            Assert.Contains("Purpose kept", b.See("aside.margin").Text);
            var sheet = Sheet(b);
            Assert.Contains(Packed(says), sheet, StringComparison.OrdinalIgnoreCase);
            Assert.DoesNotContain(Packed(never), sheet, StringComparison.OrdinalIgnoreCase);
            Assert.Contains(Packed(Subject.Of(meeting.Request.Wish.Model).Last), sheet);
            // Nobody is seated round a stand that isn't there.
            b.Go($"/courses/1/sessions/{id}/seat");
            Assert.Equal(meeting.IsSeated, b.Driver.FindElements(By.CssSelector("form[action$='/seat/class']")).Count > 0);
        });

    [Fact]
    public Task What_a_subject_can_not_serve_is_said_with_what_it_can() => With("subject-refused", (_, b) =>
        {
            b.Expected.Add("400");
            SignIn(b);
            b.Go("/courses/1/sessions/plan");
            b.Choose("#Form_Model", "Outdoors");
            b.Choose("#Form_Purpose", "Portrait");
            b.Click("button", "Work it out");
            b.Text("Nothing of portrait is to be had from outdoors. The nearest that holds is proportion.");
            return Task.CompletedTask;
        });

    [Fact]
    public Task Somebody_is_put_in_the_book_booked_and_planned_for() => With("models-book", async (app, b) =>
        {
            SignIn(b);
            b.Go("/courses/1/sessions").Click("a", "Models");
            b.At("/models$");
            b.Type("#name", "Lida Fenn");
            b.Click("button", "Put in the book");
            b.At(@"/models/\d+$");
            b.Click(".wish-choice:has(input[name='wish[kneeling]']) label", "rather not");
            b.Choose("#ease", "0.8");
            b.Type("#rate", "28");
            b.Click("button", "Keep it");
            b.Text("changed last by Edda Quill");
            Assert.True(b.Js<bool>("return document.querySelector(\"input[name='wish[kneeling]'][value=not]\").checked"));
            b.Go("/courses/1/models");
            var six = await app.Read(db => db.Meetings.Where(m => m.CourseId == 1 && m.Number == 6).Select(m => m.Id).SingleAsync());
            var lida = await app.Read(db => db.BookedModels.AsNoTracking().SingleAsync(m => m.Name == "Lida Fenn"));
            b.Choose($"#m{six} select", $"{lida.Id}");
            b.Click($"#m{six} button", "ask");
            b.Until(() => b.See($"#m{six}").Text.Contains("asked"), "asked");
            var meeting = await app.Read(db => db.Meetings.AsNoTracking().SingleAsync(m => m.Id == six));
            Assert.True(meeting.Plan.Rules.Single(r => r.Id == "rest-stretch").Value <= 20);
            Assert.Equal(28, lida.RatePerHour);
        });

    /// <summary>On a phone, without any account: the model answers, says what they hold, and nothing is wider than the screen.</summary>
    [Fact]
    public Task A_model_mends_their_own_page_on_a_phone() =>
        With(
            "model-phone",
            async (app, b) =>
            {
                var joss = await app.Read(db =>
                    db.BookedModels.AsNoTracking()
                        .Include(m => m.Bookings)
                            .ThenInclude(k => k.Meeting)
                        .SingleAsync(m => m.Name == "Joss Verrin")
                );
                var asked = joss.Bookings.First(k => k.Answer == BookingAnswer.Asked);
                b.Go($"/sits/{joss.Secret}");
                b.Text("Your page, Joss Verrin");
                Assert.True(b.Js<bool>("return document.documentElement.scrollWidth <= innerWidth"), "wider than the screen");
                b.Click($"#b{asked.MeetingId} button", "I come");
                b.Until(() => b.See($"#b{asked.MeetingId}").Text.Contains("You come."), "the answer");
                b.Click(".wish-choice:has(input[name='wish[twist]']) label", "rather not");
                b.Click("button", "Keep it");
                b.Until(
                    () => b.Js<bool>("return document.querySelector(\"input[name='wish[twist]'][value=not]\").checked"),
                    "the wish kept"
                );
                var now = await app.Read(db => db.BookedModels.AsNoTracking().Include(m => m.Bookings).SingleAsync(m => m.Id == joss.Id));
                Assert.Equal(("the model", BookingAnswer.Comes), (now.By, now.Bookings.Single(k => k.MeetingId == asked.MeetingId).Answer));
                Assert.Contains("twist", now.RatherNot);
                foreach (var student in new[] { "Maren", "Bram", "Odile" })
                    Assert.DoesNotContain(student, b.See("body").Text);
                Assert.Equal("", Accessible(b));
            },
            390,
            844
        );

    private static string Accessible(Browser b) => LookTests.Faults(b);
}
