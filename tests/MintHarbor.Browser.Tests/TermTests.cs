using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store.Model;
using MintHarbor.Web.Tests;
using OpenQA.Selenium;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>The term by clicks: a calendar read, meetings by the weekly rule, two timetables mixed and kept as a template, a long pose with its
/// marks, the model's page, sheets at the wall.</summary>
public sealed class TermTests
{
    [Fact]
    public async Task A_term_is_planned_mixed_kept_and_handed_to_the_model()
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var b = new Browser("term", address);
        var files = Directory.CreateTempSubdirectory("harbor-term-").FullName;
        try
        {
            b.Go("/sign-in").Click("button", "Edda Quill");
            b.At("/courses/1/today");
            var first = DateTime.UtcNow.Date.AddDays(100);
            string Day(int n, string format = "yyyy-MM-dd") => first.AddDays(n).ToString(format, CultureInfo.InvariantCulture);
            var calendar = Path.Combine(files, "room.ics");
            await File.WriteAllTextAsync(
                calendar,
                $"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//y//EN\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART;VALUE=DATE:{Day(6, "yyyyMMdd")}\r\nDTEND;VALUE=DATE:{Day(9, "yyyyMMdd")}\r\nSUMMARY:Regatta\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"
            );
            b.Go("/courses/1/sessions");
            b.Click("summary", "Holidays and bookings");
            b.See("#calendar").SendKeys(calendar);
            b.Click("button", "Read it");
            b.Text("1 day or break off");
            b.Click("summary", "Meetings by a weekly rule");
            b.Set("#first", Day(0));
            b.Type("#count", "3");
            b.Click("button", "Plan them");
            b.Text("3 meetings planned; no meeting on");
            b.Text("Regatta");

            // Two timetables mixed, kept under a name, and begun from again.
            b.Go("/courses/1/sessions/plan");
            b.Set("#Form_Date", Day(40));
            b.Click("button", "Work it out");
            b.Text("Three timetables for");
            b.Choose("#before", "growing");
            b.Choose("#after", "lengthening");
            b.Click("button", "Mix the two");
            b.At(@"/sessions/\d+$");
            var mixed = b.Path;
            b.Click("summary", "Keep, move, share");
            b.Type("#name", "Step by step, then stay");
            b.Click("button", "Keep it");
            b.At(mixed);
            b.Go("/courses/1/sessions/plan");
            b.Set("#Form_Date", Day(47));
            new OpenQA.Selenium.Support.UI.SelectElement(b.See("#Form_From")).SelectByText("Step by step, then stay");
            b.Click("button", "Work it out");
            b.Text("As laid by hand");
            b.Click("button", "Take it");
            b.At(@"/sessions/\d+$");
            Assert.NotEqual(mixed, b.Path);

            // The model's page, opened by somebody who is nobody here.
            b.Click("summary", "Keep, move, share");
            b.Click("button", "a link for the model");
            b.Click("summary", "Keep, move, share");
            var link = b.Named("a.quiet", "the model's own page").GetAttribute("href")!;
            using (var model = new Browser("model", address, 390, 844))
            {
                model.Go(link);
                model.Text("Your own word on comfort always wins");
                model.Until(
                    () =>
                        model.Js<bool>(
                            "const i = document.querySelector('.model-poses img'); i.scrollIntoView(); return i.complete && i.naturalWidth > 0"
                        ),
                    "the first pose's picture"
                );
                model.NoErrors();
            }

            // A pose over several meetings.
            b.Go($"/courses/1/sessions/long?Hours=3&Pose=seated&From={Day(0)}");
            b.Text("posed in a meeting of 150");
            b.Click("button", "Put it into the meetings");
            b.Text("Seated on a stool, 3 h");
            var pose = await app.Read(db => db.LongPoses.AsNoTracking().Include(p => p.Meetings).OrderByDescending(p => p.Id).FirstAsync());
            Assert.Equal("seated", pose.PoseId);
            b.Type($"#marks{pose.Id}", "front legs of the stool, blue tape");
            b.Click($"form:has(#marks{pose.Id}) button", "Keep for the next meeting");
            b.At("/sessions/long");
            b.Go($"/courses/1/sessions/{pose.Meetings.OrderBy(m => m.Date).First().Id}");
            b.Text("front legs of the stool, blue tape");
            b.Go("/courses/1/sessions/lists");
            b.Text("newsprint", "#buy");

            // At the wall, for one without a phone.
            var tonight = await app.Read(db => db.Meetings.Where(m => m.CourseId == 1 && m.Number == 5).Select(m => m.Id).SingleAsync());
            var sheet = Path.Combine(files, "sheet.jpg");
            await File.WriteAllBytesAsync(sheet, BadFiles.Jpeg);
            b.Go($"/courses/1/sessions/{tonight}/wall");
            b.Choose("#student", $"{await app.Read(db => db.Users.Where(u => u.Name == "Maren Holt").Select(u => u.Id).SingleAsync())}");
            b.See("#photo").SendKeys(sheet);
            b.Click("button", "Take it and go on");
            b.Text("1 of 14 have a sheet");
            var taken = await app.Read(db => db.Sheets.Where(s => s.MeetingId == tonight).Select(s => new { s.Id, s.State }).SingleAsync());
            Assert.Equal(SheetState.Placing, taken.State);
            b.NoErrors();

            // Whose it is says the question at home.
            using var maren = new Browser("maren", address, 390, 844);
            maren.Go("/sign-in").Click("button", "Maren Holt");
            maren.At("/courses/1/today");
            maren.Go($"/courses/1/critique/{taken.Id}/bench");
            maren.Type("#question", "Does he sit on the block?");
            maren.Type("#review", "The tilt holds; the feet are guessed.");
            maren.Click("button", "Keep it");
            maren.Text("Does he sit on the block?", "h1");
            maren.NoErrors();
        }
        catch
        {
            b.Save("term");
            throw;
        }
        finally
        {
            Directory.Delete(files, recursive: true);
        }
    }

    [Fact]
    public async Task At_home_a_student_says_their_set_up_on_the_phone()
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        var meeting = await app.Read(async db =>
        {
            var m = await db.Meetings.SingleAsync(m => m.CourseId == 1 && m.Number == 6);
            m.Online = true;
            await db.SaveChangesAsync();
            return m.Id;
        });
        using var b = new Browser("home", address, 390, 844);
        try
        {
            b.Go("/sign-in").Click("button", "Maren Holt");
            b.At("/courses/1/today");
            b.Go($"/courses/1/sessions/{meeting}");
            b.Click("a.btn", "My set-up");
            b.Type("#subject", "a crab pot");
            b.Type("#light", "one lamp, left");
            b.Type("#looked", "5");
            b.Click("button", "Keep it");
            b.Text("3 of 5 said");
            Assert.Equal("a crab pot", b.See("#subject").GetAttribute("value"));
            b.NoErrors();
        }
        catch
        {
            b.Save("home");
            throw;
        }
    }
}
