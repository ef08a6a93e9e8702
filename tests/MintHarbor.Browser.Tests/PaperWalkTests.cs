using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MintHarbor.Core.Simulation;
using MintHarbor.Media;
using MintHarbor.Store.Actions;
using MintHarbor.Web.Tests;
using Xunit;

namespace MintHarbor.Browser.Tests;

/// <summary>A drill sheet on its whole way: printed for the class by the instructor, answered by a simulated pencil, photographed by the sheet camera,
/// handed in by the student on a phone, read beside the page, looked at by both.</summary>
public sealed class PaperWalkTests
{
    [Fact]
    public async Task A_drill_sheet_is_printed_answered_photographed_handed_in_and_read()
    {
        var (app, address) = Studio.Open(await TestDatabase.Demo(), demo: true);
        await using var closing = app;
        var folder = Directory.CreateTempSubdirectory("drill-sheets");
        using var desk = new Browser("paper-desk", address);
        using var phone = new Browser("paper-phone", address, 390, 844);
        try
        {
            desk.Go("/sign-in").Click("button", "Edda Quill");
            desk.At("/today");
            desk.Go("/courses/1/practice").Click("a", "Drill sheets on paper");
            desk.At("/practice/paper");
            foreach (var drill in new[] { "slant", "half", "plumb", "envelope" })
                desk.Click($"input[value='{drill}']");
            desk.Click("button", "Make them");
            desk.Text("14 sheets: copy a slant, halve, plumb, envelope", ".made");
            var pdf = desk.See(".made a").GetAttribute("href")!;
            Assert.Equal(
                "application/pdf",
                desk.Js<string>(
                    "var r = new XMLHttpRequest(); r.open('GET', arguments[0], false); r.send(); return r.getResponseHeader('Content-Type')",
                    pdf
                )
            );

            var sheet = await app.Read(db =>
                db.PaperSheets.AsNoTracking().Where(s => s.Student.Name == "Maren Holt").OrderByDescending(s => s.GivenAt).FirstAsync()
            );
            var faces = app.Services.GetRequiredService<IPaperPrints>().Faces;
            var drawn = PaperPencil.Answer(sheet.Printed, PencilManner.Other, 3, neat: true);
            var photo = Path.Combine(folder.FullName, "from-my-phone.jpg");
            await File.WriteAllBytesAsync(photo, PaperCamera.Take(drawn, CameraManner.Other, faces, 3, flat: true, width: 1600).Jpeg);

            phone.Go("/sign-in").Click("button", "Maren Holt");
            phone.At("/today");
            phone.Go("/courses/1/practice/paper");
            phone.See("#photo").SendKeys(photo);
            phone.Click("button", "Send it");
            // It waits, is read beside the page, and the page hears of it by itself.
            phone.Text("from-my-phone.jpg", "#photos");
            phone.Until(() => phone.See("#photos").Text.Contains($"{sheet.Number} read", StringComparison.Ordinal), "the sheet to be read");
            phone.Click("#photos a", $"{sheet.Number}");
            phone.At($"/practice/paper/{sheet.Id}");
            phone.Until(
                () => phone.Js<bool>("return document.querySelectorAll('.paper-read .paper-seen').length > 8"),
                "what was read, drawn over the sheet"
            );
            phone.Text("scatter", ".notes");
            Assert.True(phone.Js<long>("return document.documentElement.scrollWidth - innerWidth") <= 0);

            desk.Go($"/courses/1/practice/paper/{sheet.Id}").Text("Maren Holt");
            desk.NoErrors();
            phone.NoErrors();
        }
        catch
        {
            desk.Save("paper-desk");
            phone.Save("paper-phone");
            throw;
        }
        finally
        {
            folder.Delete(true);
        }
    }
}
