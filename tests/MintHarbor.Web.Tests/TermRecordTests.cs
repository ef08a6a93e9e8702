using System.Net;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Critiques;
using MintHarbor.Store.Model;
using NodaTime;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>The record of a term: one student's, and the class's.</summary>
public sealed class TermRecordTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private HarborApp App => fixture.App;

    private static async Task<string> Read(HttpClient client, string path) => WebUtility.HtmlDecode(await client.Text(path));

    /// <summary>Sheets of a student, one a day from the day given, each with the faults that its critique names.</summary>
    private async Task<int> Term(string mail, int daysAgo, params string[][] faults) =>
        await App.Read(async db =>
        {
            var who = await db.Users.Where(u => u.Email == mail).Select(u => u.Id).SingleAsync();
            await db
                .Sheets.Where(s => s.StudentId == who && s.CourseId == 1)
                .ExecuteUpdateAsync(u => u.SetProperty(s => s.RedoOfId, (int?)null));
            await db.Sheets.Where(s => s.StudentId == who && s.CourseId == 1).ExecuteDeleteAsync();
            var now = SystemClock.Instance.GetCurrentInstant();
            for (var n = 0; n < faults.Length; n++)
                db.Sheets.Add(
                    new()
                    {
                        CourseId = 1,
                        StudentId = who,
                        Code = $"T-{n + 1}",
                        State = SheetState.Released,
                        SubmittedAt = now - Duration.FromDays(daysAgo - n),
                        ReleasedAt = now - Duration.FromDays(daysAgo - n) + Duration.FromHours(2),
                        AnsweredAt = n == 0 ? now : null,
                        Remarks = [.. faults[n].Select((f, k) => Remark.FromFault($"r{k}", Faults.Find(f)!, null))],
                    }
                );
            await db.SaveChangesAsync();
            return who;
        });

    [Fact]
    public async Task One_page_tells_what_recurs_and_whether_it_fell_and_what_was_answered()
    {
        var who = await Term(Doors.Victim, 30, ["hairy-line", "dark-start"], ["hairy-line"], ["dark-start"], ["dark-start"]);
        // A draft that nobody released: staff count it, its student doesn't know of it.
        await App.Read(async db =>
        {
            db.Sheets.Add(
                new()
                {
                    CourseId = 1,
                    StudentId = who,
                    Code = "T-5",
                    State = SheetState.Drafted,
                    SubmittedAt = SystemClock.Instance.GetCurrentInstant() - Duration.FromDays(2),
                    Remarks =
                    [
                        Remark.FromFault("r1", Faults.Find("all-curves")!, null),
                        Remark.FromFault("r2", Faults.Find("dark-start")!, null),
                    ],
                }
            );
            return await db.SaveChangesAsync();
        });
        var (edda, maren) = (await App.As(Doors.Instructor), await App.As(Doors.Victim));
        var theirs = await Read(maren, $"/courses/1/students/{who}");
        string Row(string page, string fault) =>
            page[page.IndexOf($"<th scope=\"row\">{fault}", StringComparison.Ordinal)..].Split("</tr>")[0];
        Assert.Contains("2 of 2", Row(theirs, "Hairy line"));
        Assert.Contains("0 of 2", Row(theirs, "Hairy line"));
        Assert.Contains("fell", Row(theirs, "Hairy line"));
        Assert.Contains("1 of 2</td><td class=\"num r\">2 of 2", Row(theirs, "Dark start"));
        Assert.Contains("rose", Row(theirs, "Dark start"));
        Assert.Contains("<b>1</b> of 4 critiques answered or drawn again", theirs);
        Assert.Contains("term-chart", theirs);
        Assert.Equal(5, theirs.Split("<rect class=\"term-fault\"").Length - 1);
        // What is no more than a draft is not told to them, by words or by number.
        var staff = await Read(edda, $"/courses/1/students/{who}");
        Assert.Contains("T-5: 2 faults named", staff);
        Assert.DoesNotContain("T-5: 2 faults named", theirs);
        Assert.Contains("T-5: nothing said yet", theirs);
        Assert.Contains("1 of 3</td><td class=\"num r\">2 of 2", Row(staff, "Dark start").Replace("2 of 3", "1 of 3"));
        // At home, and projects: beside the page, and with it where there is no script.
        var rest = await Read(maren, $"/courses/1/students/{who}/rest");
        Assert.Contains("At home, and projects", rest);
        Assert.Contains("/courses/1/projects/way/", rest);
        // Somebody else's record is not there for a student.
        var other = await App.Read(db => db.Users.Where(u => u.Email == Doors.Other).Select(u => u.Id).SingleAsync());
        foreach (var part in new[] { "", "/rest", "/together" })
            Assert.Equal(HttpStatusCode.NotFound, (await maren.GetAsync($"/courses/1/students/{other}{part}")).StatusCode);
    }

    [Fact]
    public async Task The_class_shows_what_most_share_what_was_planned_against_it_and_whether_it_helped()
    {
        // Hatching along the form is mended by value patches: given ten days ago.
        var flat = Faults.All.First(f => f.Exercise == "value-patches" && f.Rule is null);
        var who = await Term(Doors.Other, 20, [flat.Id], [flat.Id], [flat.Id], [flat.Id], [flat.Id, "hairy-line"]);
        await App.Read(async db =>
        {
            var now = SystemClock.Instance.GetCurrentInstant();
            // All others say nothing here: the class is his sheets.
            await db
                .Sheets.Where(s => s.CourseId == 1 && s.StudentId != who)
                .ExecuteUpdateAsync(u => u.SetProperty(s => s.Remarks, new List<Remark>()));
            db.Assignments.Add(
                new()
                {
                    CourseId = 1,
                    StudentId = who,
                    Exercise = "value-patches",
                    Minutes = 20,
                    GivenAt = now - Duration.FromDays(12),
                    Due = now + Duration.FromDays(1),
                }
            );
            for (var n = 0; n < 3; n++)
                db.Sheets.Add(
                    new()
                    {
                        CourseId = 1,
                        StudentId = who,
                        Code = $"U-{n}",
                        State = SheetState.Released,
                        SubmittedAt = now - Duration.FromDays(9 - n),
                        ReleasedAt = now - Duration.FromDays(1),
                        Remarks = [Remark.FromFault("r1", Faults.Find("hairy-line")!, null)],
                    }
                );
            return await db.SaveChangesAsync();
        });
        var edda = await App.As(Doors.Instructor);
        var page = await Read(edda, "/courses/1/students/term");
        var row = page[page.IndexOf($"<th scope=\"row\">{flat.Name}", StringComparison.Ordinal)..].Split("</tr>")[0];
        Assert.Contains("Value patches, since", row);
        Assert.Contains("5 of 5", row);
        Assert.Contains("0 of 3", row);
        Assert.Contains("fell", row);
        Assert.Contains($"Most share: {flat.Name.ToLowerInvariant()}", page);
        Assert.Contains("Bram Sedge", page);
        var maren = await App.As(Doors.Victim);
        Assert.Equal(HttpStatusCode.Forbidden, (await maren.GetAsync("/courses/1/students/term")).StatusCode);
        Assert.Contains("/students/term", await edda.Text("/courses/1/students"));
    }
}
