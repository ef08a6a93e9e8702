using System.Globalization;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using MintHarbor.Store.Model;
using MintHarbor.Web.Tests;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>From a photograph to a measured sheet: the marks come from the lines, a person looks at those that matter.</summary>
public sealed class FitTests
{
    private const string Person = "Ida Stroud";

    private static Task Walk(Action<HarborApp, string> walk) =>
        Studio.Demo(
            (app, address) =>
            {
                walk(app, address);
                return Task.CompletedTask;
            }
        );

    private static Browser In(string address, string who, int width = 1280, int height = 800)
    {
        var b = new Browser("fit", address, width, height);
        b.Go("/sign-in").Click("button", who);
        b.At("/today");
        return b;
    }

    private static void Saving(Browser b, Action act)
    {
        try
        {
            act();
            b.NoErrors();
        }
        catch
        {
            b.Save("fit");
            throw;
        }
    }

    /// <summary>Sends a drawing in and stands before its bench.</summary>
    private static string Send(Browser b, byte[] jpeg, string question)
    {
        var file = Path.Combine(Path.GetTempPath(), $"{Guid.NewGuid():n}.jpg");
        File.WriteAllBytes(file, jpeg);
        try
        {
            b.Go("/courses/1/critique/submit");
            b.Type("#q", question);
            b.Type("#r", "It stands. The head came first.");
            b.See("#photo").SendKeys(file);
            b.Click("button", "Send it");
            b.At("/critique/\\d+/corners");
        }
        finally
        {
            File.Delete(file);
        }
        b.Click("button", "They are right");
        b.At("/bench");
        return b.Path;
    }

    private static byte[] Figure(params NamedFault[] faults) =>
        new SimulatedSheets()
            .Figure(
                "male",
                "contrapposto",
                Core.Figure.Drapery.For(false, false),
                // From where poses are told from: a view of the seat itself.
                new(22.5, 3.2, 1.5),
                PaperSize.Find("18x24in")!,
                470,
                faults,
                new(0.7, Tool.Pencil),
                41
            )
            .Jpeg;

    private static string Asked(Browser b) => b.Js<string>("return document.querySelector('[data-board]').dataset.ask || ''");

    /// <summary>Two moves by the student, four by the instructor; every mark but one comes from the ink.</summary>
    [Theory]
    [InlineData("mouse"), InlineData("keys"), InlineData("touch")]
    public Task A_figure_is_measured_and_released_in_six_moves(string hand) =>
        Walk(
            (app, address) =>
            {
                using var student = In(address, "Maren Holt", hand == "touch" ? 390 : 1280, hand == "touch" ? 844 : 800);
                var bench = "";
                Saving(student, () =>
                {
                    bench = Send(student, Figure(new NamedFault("figure leaning", 6)), "Does he stand?");
                    WalkTests.Fitted(student);
                    var asked = Asked(student);
                    Assert.NotEqual("", asked);
                    student.Swapped(() => Confirm(student, hand));
                    Assert.Equal("student", student.See($".landmark[data-id=\"{asked}\"]").GetAttribute("data-by"));
                    Assert.NotEqual(asked, Asked(student));
                    student.Click("button", "Hand it in");
                    student.Text("It waits for your instructor");
                });
                using var staff = In(address, "Edda Quill");
                Saving(staff, () =>
                {
                    staff.Go(bench);
                    WalkTests.Fitted(staff);
                    staff.Keys("r");
                    staff.See("#fault").SendKeys("lea");
                    staff.Click(".fault-list button", "Figure leans");
                    staff.Named(".priorities li", "Hang the plumb first");
                    staff.Click("button", "Release to Maren");
                    staff.Until(() => staff.Path != bench, "the next sheet");
                });
                var id = int.Parse(bench.Split('/')[4], CultureInfo.InvariantCulture);
                var sheet = app.Read(db =>
                    Microsoft.EntityFrameworkCore.EntityFrameworkQueryableExtensions.SingleAsync(db.Sheets, s => s.Id == id)
                ).Result;
                Assert.NotNull(sheet.ReleasedAt);
                Assert.Single(sheet.ByStudent);
            }
        );

    private static void Confirm(Browser b, string hand)
    {
        if (hand == "keys")
        {
            b.Keys("c");
            return;
        }
        var right = b.Until(() => b.Driver.FindElements(By.CssSelector("[data-placing] [data-confirm]")).FirstOrDefault(), "it lies right");
        b.Js<object>("arguments[0].scrollIntoView({block:'center'})", right!);
        if (hand == "mouse")
        {
            right!.Click();
            return;
        }
        var finger = new PointerInputDevice(PointerKind.Touch, "finger");
        var touch = new ActionBuilder()
            .AddAction(finger.CreatePointerMove(right!, 0, 0, TimeSpan.Zero))
            .AddAction(finger.CreatePointerDown(MouseButton.Left))
            .AddAction(finger.CreatePointerUp(MouseButton.Left));
        b.Driver.PerformActions(touch.ToActionSequenceList());
    }

    /// <summary>The line that ends at a mark goes along under the finger, before anybody has judged anything.</summary>
    [Fact]
    public Task A_dragged_mark_takes_its_lines_along() =>
        Walk(
            (app, address) =>
            {
                using var b = In(address, "Edda Quill");
                Saving(b, () =>
                {
                    b.Go("/courses/1/critique").Click("a.queue-item", "Maren Holt");
                    b.At("/bench");
                    var edge = b.See("[data-ends]");
                    var end = edge.GetAttribute("data-ends")!.Split(' ')[0];
                    string Ends() =>
                        string.Join(
                            ",",
                            b.Js<System.Collections.ObjectModel.ReadOnlyCollection<object>>(
                                "const l = document.querySelector('[data-ends] line'); return ['x1','y1','x2','y2'].map(a => l.getAttribute(a))"
                            )
                        );
                    var before = Ends();
                    var mark = b.See($".landmark[data-id=\"{end}\"] .hit");
                    b.Js<object>("arguments[0].scrollIntoView({block:'center'})", mark);
                    new Actions(b.Driver).ClickAndHold(mark).MoveByOffset(15, 10).Perform();
                    b.Until(() => Ends() != before, "the line to go along");
                    new Actions(b.Driver).MoveByOffset(-15, -10).Release().Perform();
                });
            }
        );

    /// <summary>Three marks moved before the first is answered: none is dropped on the way.</summary>
    [Fact]
    public Task Marks_moved_faster_than_the_line_answers_all_stand() =>
        Walk(
            (app, address) =>
            {
                using var b = In(address, "Edda Quill");
                Saving(b, () =>
                {
                    b.Go("/courses/1/critique").Click("a.queue-item", "Maren Holt");
                    b.At("/bench");
                    b.See(".landmark[data-id=\"elbow.R\"]");
                    b.Slow(1200);
                    string[] moved = ["elbow.L", "wrist.L", "elbow.R"];
                    foreach (var id in moved)
                        b.NudgeLandmark(id, 14, 6);
                    b.Until(
                        () =>
                            moved.All(id =>
                                b.Driver.FindElements(By.CssSelector($".landmark[data-id=\"{id}\"][data-by=\"staff\"]")).Count == 1
                            ),
                        "all three placed"
                    );
                });
            }
        );

    [Fact]
    public Task A_pose_that_nobody_knows_is_told_from_the_ink() =>
        Walk(
            (app, address) =>
            {
                using var b = In(address, "Maren Holt");
                Saving(b, () =>
                {
                    var lunge = new SimulatedSheets().Figure(
                        "female",
                        "lunge",
                        Core.Figure.Drapery.For(false, false),
                        new(-70, 3.4, 1.3),
                        PaperSize.Find("18x24in")!,
                        380,
                        [],
                        new(0.7, Tool.Charcoal),
                        12
                    );
                    Send(b, lunge.Jpeg, "Which one is it?");
                    WalkTests.Fitted(b);
                    b.Text("told from the ink", ".told-pose");
                    b.Named(".told-pose", "Lunge");
                    b.Swapped(() => b.Click(".told-pose button", "hold it against that view"));
                    b.Text("Laid over by", ".reference-part");
                });
            }
        );

    [Fact]
    public Task A_sheet_that_cant_be_fitted_says_why_and_can_be_placed_by_hand() =>
        Walk(
            (app, address) =>
            {
                using var b = In(address, "Maren Holt");
                Saving(b, () =>
                {
                    var blank = SheetCamera.Take(new(PaperSize.Find("18x24in")!, [], new Dictionary<string, Vec2>()), 900, 1200, 0.4, 5);
                    Send(b, blank.Jpeg, "Is there anything?");
                    b.Text("Nothing is drawn here", "[data-unfitted]");
                    b.Named("[data-placing]", "crown");
                    b.Swapped(() => b.ClickSheet(200, 90));
                    b.See(".landmark[data-id=crown]");
                });
            }
        );

    [Fact]
    public Task A_head_is_read_like_a_figure() =>
        Walk(
            (app, address) =>
            {
                using var b = In(address, "Edda Quill");
                Saving(b, () =>
                {
                    var id = app.Read(db =>
                        Microsoft.EntityFrameworkCore.EntityFrameworkQueryableExtensions.FirstAsync(
                            System.Linq.Queryable.Where(db.Sheets, s => s.Subject == "head" && s.CourseId == 1 && s.Fit != null)
                        )
                    ).Result.Id;
                    b.Go($"/courses/1/critique/{id}/bench");
                    b.Until(() => b.Driver.FindElements(By.CssSelector(".landmark")).Count >= 20, "the head's marks");
                    Assert.NotEmpty(b.Driver.FindElements(By.CssSelector(".landmark.by-ink .reach")));
                });
            }
        );
}
