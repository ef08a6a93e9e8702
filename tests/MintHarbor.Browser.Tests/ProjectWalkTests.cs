using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Simulation;
using MintHarbor.Store.Model;
using MintHarbor.Web.Tests;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>A graded project as its people go through it: written, opened, handed in by stage, late, extended, done again, shown and opened
/// again.</summary>
public sealed class ProjectWalkTests
{
    [Fact]
    public async Task A_project_from_nothing_to_its_grade()
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        using var teacher = In(address, "Edda", 1280, 800);
        using var second = In(address, "Lorne", 820, 1180);
        using var student = In(address, "Maren", 390, 844);
        try
        {
            Write(teacher);
            Open(teacher);
            var way = HandIn(student);
            Gate(teacher, way);
            Grade(teacher, student, way);
            await app.Read(db =>
                db.Memberships.Where(m => m.CourseId == 1 && m.Person.Name == "Lorne Fisk")
                    .ExecuteUpdateAsync(u => u.SetProperty(m => m.Role, CourseRole.Instructor))
            );
            TwoGrade(teacher, second, "/courses/1/projects/way/" + await Bram(app));
            teacher.NoErrors();
            second.NoErrors();
            student.NoErrors();
        }
        catch
        {
            teacher.Save("project");
            second.Save("project");
            student.Save("project");
            throw;
        }
    }

    private static Browser In(string address, string who, int width, int height)
    {
        var b = new Browser(who, address, width, height);
        b.Go("/sign-in").Click("button", who);
        b.At("/today");
        return b;
    }

    private static void Write(Browser teacher)
    {
        teacher.Go("/courses/1/projects").Click("a.btn", "Write one from nothing");
        teacher.Type("#name", "Rope and net");
        teacher.Type("#n0", "Thumbnails");
        teacher.Type("#h0", "Four thumbnails.");
        teacher.Type("#n1", "Long drawing");
        teacher.Type("#g1", "one thumbnail chosen");
        // The sum of the shares follows what is typed.
        teacher.Type("#s1", "50");
        teacher.Text("90 % of 100");
        teacher.Swapped(() => teacher.Click("button", "One stage more"));
        Assert.Equal("10", teacher.See("#s2").GetAttribute("value"));
        teacher.Type("#n2", "Edges");
        teacher.Type("#rn0", "Texture");
        teacher.Click("aside button", "Keep it");
        teacher.Text("it holds together");
        Assert.Contains("Edges 10 %", teacher.See("svg.strip").GetAttribute("aria-label"));
    }

    private static void Open(Browser teacher)
    {
        teacher.Click("aside a.btn", "Open it");
        Assert.StartsWith("own-", teacher.See("#t").GetAttribute("value"));
        teacher.Click("aside summary", "late work");
        teacher.Type("#pd", "5");
        teacher.Type("#mo", "20");
        teacher.Swapped(() => teacher.Click("button", "Will it fit?"));
        teacher.Text("It fits");
        teacher.Click("button", "Open it");
        teacher.Text("Who stands where");
        teacher.Text("Next Maren hands in to Thumbnails: Four thumbnails.");
    }

    private static string HandIn(Browser student)
    {
        student.Go("/courses/1/projects").Click("h2 a", "Rope and net");
        student.At("/projects/way/\\d+");
        var way = student.Path;
        student.Text("Next you hand in to Thumbnails");
        student.Click("a", "Hand one in");
        Assert.EndsWith(":thumbnails", student.See("#st").GetAttribute("value"));
        var (file, _) = Studio.Photograph(new DrawingFaults(), 15);
        try
        {
            student.Type("#q", "Which of the four?");
            student.Type("#r", "The second has air.");
            student.See("#photo").SendKeys(file);
            student.Click("button", "Send it");
            student.At("/critique/\\d+/corners");
        }
        finally
        {
            File.Delete(file);
        }
        student.Go(way);
        student.See(".way-sheets img");
        return way;
    }

    private static void Gate(Browser teacher, string way)
    {
        teacher.Go(way);
        teacher.See(".way-sheets img");
        teacher.Swapped(() => teacher.Click("button", "Stage done"));
        teacher.Text("before the gate of Long drawing: one thumbnail chosen");
        teacher.Swapped(() => teacher.Click("button.gate-point", "one thumbnail chosen"));
        teacher.Swapped(() => teacher.Click("button", "Stage done"));
        teacher.Swapped(() => teacher.Click("button", "Stage done"));
        teacher.Text("is through all stages and waits for the grade", "aside");
    }

    private static Task<int> Bram(HarborApp app) =>
        app.Read(db =>
            db.ProjectWorks.Where(w => w.Project.Name == "Rope and net" && w.Student.Name == "Bram Sedge").Select(w => w.Id).SingleAsync()
        );

    /// <summary>Two grade another's work, unseen by each other, and settle it.</summary>
    private static void TwoGrade(Browser teacher, Browser second, string way)
    {
        teacher.Go(way).Swapped(() => teacher.Click("button", "have a second grade it, unseen"));
        teacher.Swapped(() => teacher.Click("form.levels button", "2"));
        second.Go(way).Text("You: 0 of 1 row. Edda Quill: 1.");
        Assert.Empty(second.Driver.FindElements(OpenQA.Selenium.By.CssSelector(".level-on")));
        second.Swapped(() => second.Click("form.levels button", "4"));
        second.Text("50 against 100 of 100, 50 apart; two levels or more in texture");
        second.Choose("select[aria-label^=Texture]", "3");
        second.Type("#settled-why", "sure, not yet free");
        second.Swapped(() => second.Click("button", "Settle it"));
        second.Text("= 75");
        teacher.Go(way).Text("Graded by Edda Quill and Lorne Fisk, and settled.");
        teacher.Go("/courses/1/projects/book").Swapped(() => teacher.Click("th button", "Bram Sedge"));
        teacher.Text("rounded", "aside");
    }

    private static void Grade(Browser teacher, Browser student, string way)
    {
        teacher.Swapped(() => teacher.Click("form.levels button", "3"));
        teacher.Text("100 · (20·3) ÷ (4 · 20) = 100 · 60 ÷ 80 = 75");
        teacher.Click("aside summary", "another end");
        teacher.Set("#to", "2030-01-31");
        teacher.Type("#ext-why", "the ferry did not run");
        teacher.Swapped(() => teacher.Click("button", "Extend"));
        teacher.Text("extended to Thursday 31 January");
        teacher.Swapped(() => teacher.Click("button", "grade it handed in again"));
        teacher.Text("Handed in again");
        teacher.Swapped(() =>
            teacher.Js<object>("[...document.querySelectorAll('form.levels')].at(-1).querySelector('button[value=\"4\"]').click()")
        );
        teacher.Text("the redo replaces it: 100");
        teacher.Click("aside summary", "comment");
        teacher.Type("#comment", "The net hangs now.");
        teacher.Swapped(() => teacher.Click("aside button", "Keep it"));
        student.Go(way);
        student.Text("Not given yet");
        student.Text("the ferry did not run");
        teacher.Swapped(() => teacher.Click("button", "Let Maren see it"));
        student.Go(way);
        student.Text("100 of 100");
        student.Text("The net hangs now.");
        teacher.Click("summary", "open it again");
        teacher.Type("#reopen-why", "the second page was not counted");
        teacher.Swapped(() => teacher.Click("button", "Open the grade"));
        student.Go(way);
        student.Text("Not given yet");
        teacher.Click("summary", "every change of it");
        teacher.Text("the second page was not counted");
        teacher.Text("redo's level of texture");
    }
}
