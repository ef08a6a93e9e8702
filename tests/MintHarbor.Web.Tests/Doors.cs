using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Routing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace MintHarbor.Web.Tests;

/// <summary>A page and one of its handlers, as the running application has them.</summary>
public sealed record Door(string Route, string Handler, string Method, Type Page, IReadOnlyList<string> Keys)
{
    public bool Personal => Keys.Intersect(["sheet", "set", "round", "assignment", "drillsheet", "work", "student"]).Any();
}

/// <summary>Every door of the application, and the people and things that the tests knock with.</summary>
public static class Doors
{
    public const string Victim = "maren.holt@saltmarsh.example",
        Other = "bram.sedge@saltmarsh.example",
        Stranger = "pim.daly@saltmarsh.example",
        Instructor = "edda@saltmarsh.example";

    /// <summary>Every page of the application with every handler it has.</summary>
    public static List<Door> All(HarborApp app)
    {
        var doors = new List<Door>();
        var actions = app
            .Services.GetRequiredService<Microsoft.AspNetCore.Mvc.Infrastructure.IActionDescriptorCollectionProvider>()
            .ActionDescriptors.Items;
        var loader = app.Services.GetRequiredService<Microsoft.AspNetCore.Mvc.RazorPages.Infrastructure.PageLoader>();
        foreach (var page in actions.OfType<PageActionDescriptor>())
        {
            var compiled = loader.LoadAsync(page, Microsoft.AspNetCore.Http.EndpointMetadataCollection.Empty).GetAwaiter().GetResult();
            var template = page.AttributeRouteInfo!.Template!;
            var keys = Microsoft.AspNetCore.Routing.Template.TemplateParser.Parse(template).Parameters.Select(p => p.Name!).ToList();
            foreach (var h in compiled.HandlerMethods)
                doors.Add(new(template, h.Name ?? "", h.HttpMethod, compiled.ModelTypeInfo!.AsType(), keys));
            if (compiled.HandlerMethods.Count == 0)
                doors.Add(new(template, "", "GET", compiled.ModelTypeInfo!.AsType(), keys));
        }
        return doors;
    }

    public static async Task<Dictionary<string, string>> VictimIds(HarborApp app) =>
        await app.Read(async db =>
        {
            var me = await db.Users.SingleAsync(u => u.Email == Victim);
            var course = await db.Memberships.Where(m => m.PersonId == me.Id).Select(m => m.CourseId).SingleAsync();
            var sheet = await db.Sheets.FirstAsync(s => s.StudentId == me.Id);
            // Her sheet counts as a set of one, so that the routes of sets have something to guard.
            sheet.SetId ??= Guid.NewGuid();
            await db.SaveChangesAsync();
            var round = await db.DrillRounds.FirstAsync(r => r.StudentId == me.Id);
            var assignment = await db.Assignments.FirstAsync(a => a.StudentId == me.Id);
            var work = await db.ProjectWorks.OrderBy(w => w.Id).FirstAsync(w => w.StudentId == me.Id);
            var plan = await db.ProjectPlans.FirstAsync(p => p.CourseId == course);
            var paper = await db.PaperSheets.FirstAsync(s => s.StudentId == me.Id && s.ReadAt != null);
            var meeting = await db.Meetings.FirstAsync(m => m.CourseId == course && m.Number == 4);
            return new Dictionary<string, string>
            {
                ["course"] = $"{course}",
                ["sheet"] = $"{sheet.Id}",
                ["round"] = $"{round.Id}",
                ["assignment"] = $"{assignment.Id}",
                ["work"] = $"{work.Id}",
                ["project"] = $"{work.ProjectId}",
                ["plan"] = $"{plan.Id}",
                ["drillsheet"] = $"{paper.Id}",
                ["meeting"] = $"{meeting.Id}",
                ["student"] = $"{me.Id}",
                ["set"] = $"{sheet.SetId}",
                ["n"] = "flat",
                ["pose"] = "contrapposto",
                ["things"] = "kitchen",
                ["sitter"] = $"{await db.BookedModels.Where(m => m.CourseId == course).Select(m => m.Id).FirstAsync()}",
            };
        });

    public static string Fill(Door d, IReadOnlyDictionary<string, string> ids)
    {
        var path = "/" + d.Route;
        foreach (var key in d.Keys.Where(k => k != "handler"))
            path = System.Text.RegularExpressions.Regex.Replace(path, $"\\{{{key}(:[^}}]*)?\\??\\}}", ids[key]);
        path = System.Text.RegularExpressions.Regex.Replace(
            path,
            "/?\\{handler\\?\\}",
            d.Handler == "" ? "" : "/" + d.Handler.ToLowerInvariant()
        );
        return d.Handler != "" && !d.Keys.Contains("handler") ? path + "?handler=" + d.Handler : path;
    }

    /// <summary>Something that each handler can read, so that it is reached.</summary>
    public static readonly IReadOnlyList<(string Name, string Value)> Said =
    [
        ("corners", "1,1,2,1,2,2,1,2"),
        ("id", "crown"),
        ("x", "9"),
        ("y", "9"),
        ("fault", "head-large"),
        ("answer", "mine"),
        ("number", "0"),
        ("value", "12"),
        ("heads", "9"),
        ("act", "Next"),
        ("stage", "tone"),
        ("because", "so"),
        ("row", "proportion"),
        ("level", "4"),
        ("rung", "gesture"),
        ("reason", "so"),
        ("width", "300"),
        ("offer", "room"),
        ("key", "H-eye"),
        ("on", "true"),
        ("kind", "clock-hand"),
        ("tilt", "pelvis 4 down on the left"),
        ("name", "a pose"),
        ("azimuth", "20"),
        ("tick", "overhand"),
        ("person", "3"),
        ("spot", "1"),
        ("count", "9"),
        ("hours", "3"),
        ("from", "2026-12-01"),
        ("caution", "lamp"),
        ("text", "a line"),
        ("hand", "Left"),
        ("shape", "opener"),
        ("minutes", "20"),
        ("subject", "a lantern"),
        ("state", "?a=table;cup,0,0,0"),
        ("of", "?a=table;cup,0,0,0"),
        ("boxes", "10,10,60,60"),
    ];

    public static Task<HttpResponseMessage> Knock(HttpClient client, Door d, string path, params (string Name, string Value)[] more) =>
        d.Method.Equals("GET", StringComparison.OrdinalIgnoreCase) ? client.GetAsync(path) : client.PostForm(path, [.. Said, .. more]);

    /// <summary>The fields of a course as its page sends them.</summary>
    public static (string Name, string Value)[] CourseForm(string name) =>
        [
            ("Form.Name", name),
            ("Form.Weekday", "Monday"),
            ("Form.StartsAt", "18:30"),
            ("Form.Minutes", "120"),
            ("Form.Approach", "Alternating"),
            ("Form.Paper", "A2"),
            ("Form.Canon", "academic"),
            ("Form.HeadCanon", "classical-head"),
            ("Form.Zone", "Europe/Berlin"),
        ];
}
