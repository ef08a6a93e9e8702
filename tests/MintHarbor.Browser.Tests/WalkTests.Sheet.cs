using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Simulation;
using OpenQA.Selenium;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>The part of the walk that goes with one sheet: hand in, critique, answer, redo.</summary>
public sealed partial class WalkTests
{
    /// <summary>Photographs, finds the corners, places the landmarks and hands in. Returns the sheet's address.</summary>
    private static string HandIn(Browser student, DrawingFaults faults, long seed)
    {
        var (file, drawing) = Studio.Photograph(faults, seed);
        try
        {
            if (!student.Path.Contains("/submit"))
                student.Go("/courses/1/today").Click("a", "Hand in a drawing");
            student.Type("#q", "Is the head too large?");
            student.Type("#r", "The legs hold.\nI would place him higher.");
            student.See("#photo").SendKeys(file);
            student.Click("button", "Send it");
            student.At("/critique/\\d+/corners");
        }
        finally
        {
            File.Delete(file);
        }
        var sheet = student.Path.Replace("/corners", "");
        student.Text("Certainty");
        Corners(student);
        student.Click("button", "They are right");
        student.At("/bench");
        Fitted(student);
        // The marks were read from the lines, then looked at: the chin by hand, since the head is what is asked about.
        string Chin() => student.See(".landmark[data-id=chin]").GetAttribute("transform")!;
        var proposed = Chin();
        foreach (
            var id in new[] { "crown", "sole.R", "sole.L", "chin", "pit", "pubic", "deltoid.R", "deltoid.L", "kneetop.R", "kneetop.L" }
        )
        {
            student.Swapped(() => student.DragLandmark(id, drawing.Landmarks[id].X, drawing.Landmarks[id].Y));
        }
        var dragged = Chin();
        Assert.NotEqual(proposed, dragged);
        // By keys: a millimetre down, and undone.
        student.Js<object>("document.querySelector('.landmark[data-id=chin]').focus()");
        student.Swapped(() => student.Keys(Keys.ArrowDown));
        Assert.NotEqual(dragged, Chin());
        student.Swapped(() => student.Click("[data-key=z]"));
        Assert.Equal(dragged, Chin());
        student.Click("button", "Hand it in");
        student.Text("It waits for your instructor");
        return sheet;
    }

    /// <summary>Waits until the ink is read and the marks stand.</summary>
    internal static void Fitted(Browser b)
    {
        // On a machine that does other things too the ink may take a while: first that it is read, then the marks.
        for (var patience = 0; patience < 3 && b.Driver.FindElements(By.CssSelector("[data-reading]")).Count > 0; patience++)
            try
            {
                b.Until(() => b.Driver.FindElements(By.CssSelector("[data-reading]")).Count == 0, "the ink to be read");
            }
            catch (TimeoutException) when (patience < 2) { }
        b.Until(() => b.Driver.FindElements(By.CssSelector(".landmark")).Count > 10, "the marks from the ink");
        // Never that all are placed, while nobody has placed one.
        Assert.DoesNotContain("All are placed", b.See("[data-placing]").Text);
    }

    private static void Corners(Browser student)
    {
        var first = student.See(".corner");
        student.Js<object>("arguments[0].scrollIntoView({block:'center'})", first);
        var before = student.See("input[name=corners], .corner").GetAttribute("cx");
        new OpenQA.Selenium.Interactions.Actions(student.Driver).ClickAndHold(first).MoveByOffset(12, 9).Perform();
        student.See(".loupe canvas");
        new OpenQA.Selenium.Interactions.Actions(student.Driver).Release().Perform();
        Assert.NotEqual(before, first.GetAttribute("cx"));
        // Moved aside and brought back by keys: shift for the larger step.
        new OpenQA.Selenium.Interactions.Actions(student.Driver).ClickAndHold(first).MoveByOffset(-12, -9).Release().Perform();
        first.SendKeys(Keys.ArrowRight);
        first.SendKeys(Keys.ArrowLeft);
    }

    private static void Critique(Browser teacher)
    {
        teacher.Go("/courses/1/today");
        teacher.Text("Is the head too large?");
        teacher.Go("/courses/1/critique").Click("a.queue-item", "Ida Stroud");
        teacher.At("/bench");
        Assert.Contains("I would place him higher.", teacher.See("#sheet").Text);
        teacher.Until(
            () =>
                teacher
                    .Driver.FindElements(By.CssSelector(".notes .note"))
                    .FirstOrDefault(n => n.Text.Contains("large for the height") && n.Text.Contains("pose card")),
            "the finding of the head"
        );
        foreach (var drawn in new[] { ".over-bracket", ".ladder-card", ".ladder-drawn" })
            teacher.Until(() => teacher.Driver.FindElements(By.CssSelector(drawn)).Count > 0, drawn);
        var note = teacher.Named(".notes .note", "large for the height");
        note.FindElement(By.CssSelector("summary")).Click();
        Assert.Contains("d = ", note.Text);
        Assert.Contains("Source: pose card", note.Text);
        note.FindElement(By.CssSelector("button")).Click();
        teacher.Named(".priorities li", "Mark off the heads before you draw the head");
        teacher.Named(".notes .note", "Priority 1");
        // A fault by three letters, without a landmark.
        teacher.Keys("r");
        teacher.See("#fault").SendKeys("hai");
        teacher.Click(".fault-list button", "Hairy line");
        teacher.Named(".priorities li", "Redraw the longest edge");
        // Line and hand come before proportion, whatever was said first.
        Assert.Contains("Redraw the longest edge", teacher.Driver.FindElements(By.CssSelector(".priorities li"))[0].Text);
        teacher.Keys("r");
        teacher.See("#fault").SendKeys("lea");
        teacher.Click(".fault-list button", "Figure leans");
        teacher.Named(".priorities li", "Hang the plumb first");
        // Own words without place or next step are flagged and block.
        teacher.Click("button", "own words");
        teacher.Text("no next step: say what to do");
        teacher.Text("without place or next step");
        Assert.Empty(teacher.Driver.FindElements(By.CssSelector("form[action$=release]")));
        teacher.Click(".remark button.chalk", "drop");
        teacher.Until(() => teacher.Driver.FindElements(By.CssSelector("form[action$=release]")).Count == 1, "the way to release");
        teacher.Click("button", "Release to Ida");
        teacher.Text("None waits.");
    }

    private static void Answer(Browser student, string sheet)
    {
        student.Go(sheet);
        student.Text("Mark off the heads before you draw the head");
        student.Text("Redraw the longest edge");
        student.See(".spot-number");
        student.Type("#answer", "I counted after drawing. Next time before.");
        student.Click("button", "Answer");
        student.Text("I counted after drawing. Next time before.", ".said");
        student.Click("button", "Drill it");
        student.At("/practice/drill/");
    }

    private static void Redo(Browser student, string sheet)
    {
        student.Go(sheet).Click("a.btn", "Hand in a redo");
        HandIn(student, new DrawingFaults(), 12);
        student.Click("a.btn", "Before and after");
        student.Text("What moved");
        var row = student.Named("table tbody tr", "heads in the height");
        Assert.Matches("(?<!not )moved$", row.Text.Trim());
        student.Until(
            () =>
                student.Js<bool>(
                    "return [...document.querySelectorAll('figure img')].length === 2 && [...document.querySelectorAll('figure img')].every(i => i.complete && i.naturalWidth > 100)"
                ),
            "both pictures"
        );
    }
}
