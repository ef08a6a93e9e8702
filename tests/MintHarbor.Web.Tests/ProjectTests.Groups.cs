using System.Net;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Store.Model;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>A project that several draw together.</summary>
public sealed partial class ProjectTests
{
    private async Task<(int Project, ProjectWork Maren, ProjectWork Bram)> Pair(string name)
    {
        var edda = await App.As(Edda);
        var project = await Open(name, $"own-{await Write(name)}");
        var (maren, bram) = (await Work(project, Maren), await Work(project, Bram));
        await Went(
            edda.PostForm(
                $"/courses/1/projects/{project}/groups/make",
                ("name", "North wall"),
                ("students", $"{maren.StudentId}"),
                ("students", $"{bram.StudentId}")
            )
        );
        return (project, maren, bram);
    }

    [Fact]
    public async Task What_one_of_a_group_hands_in_and_is_given_is_everybodys()
    {
        var (project, mine, his) = await Pair("Rope together");
        var edda = await App.As(Edda);
        var way = $"/courses/1/projects/way/{mine.Id}";
        Assert.Equal(HttpStatusCode.Redirect, (await HandIn(Maren, $"{mine.Id}:thumbnails", 4)).StatusCode);
        var sheet = await App.Read(db => db.Sheets.Where(s => s.WorkId == mine.Id).Select(s => s.Id).SingleAsync());
        // He sees the sheet on his way and its picture, and no more of it.
        var bram = await App.As(Bram);
        var text = await bram.Text($"/courses/1/projects/way/{his.Id}");
        Assert.Contains($"/critique/{sheet}/picture/small", text);
        Assert.DoesNotContain($"href=\"/courses/1/critique/{sheet}\"", text);
        Assert.Contains("Drawn together with Maren Holt, and graded alike", text);
        Assert.True((await bram.GetAsync($"/courses/1/critique/{sheet}/picture/photo")).IsSuccessStatusCode);
        foreach (var closed in new[] { "", "/corners", "/compare", "/bench" })
            Assert.False((await bram.GetAsync($"/courses/1/critique/{sheet}{closed}")).IsSuccessStatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await bram.PostForm($"/courses/1/critique/{sheet}/answer", ("answer", "mine"))).StatusCode);
        // Somebody who draws alone sees nothing of it.
        var dara = await App.As("dara.quist@saltmarsh.example");
        Assert.Equal(HttpStatusCode.NotFound, (await dara.GetAsync($"/courses/1/critique/{sheet}/picture/photo")).StatusCode);
        // Gates, stages, hand-in and levels are everybody's; the class shows the sheet in both lines.
        foreach (var point in new[] { "one thumbnail chosen", "it says why" })
            await Went(edda.PostForm(way + "/tick", ("stage", "long-drawing"), ("point", point), ("on", "true")));
        await Went(edda.PostForm(way + "/word", ("stage", "long-drawing"), ("given", "true")));
        await Went(edda.PostForm(way + "/finish", ("stage", "thumbnails")));
        Assert.Equal(["thumbnails"], (await Work(project, Bram)).StagesDone);
        Assert.Equal(HttpStatusCode.Redirect, (await HandIn(Bram, $"{his.Id}:long-drawing", 5)).StatusCode);
        Assert.NotNull((await Work(project, Maren)).HandedInAt);
        Assert.Equal((await Work(project, Bram)).HandedInAt, (await Work(project, Maren)).HandedInAt);
        Assert.Equal(2, Regex.Count(await edda.Text($"/courses/1/projects/{project}"), $"href=\"/courses/1/critique/{sheet}\""));
        await Went(edda.PostForm(way + "/level", ("row", "texture"), ("level", "4")));
        await Went(edda.PostForm($"/courses/1/projects/way/{his.Id}/level", ("row", "placement"), ("level", "1")));
        foreach (var who in new[] { Maren, Bram })
            Assert.Equal((4, 1), ((await Work(project, who)).Levels["texture"], (await Work(project, who)).Levels["placement"]));
    }

    [Fact]
    public async Task Roles_share_a_grade_by_the_rows_they_answer_for_and_each_is_told_their_own()
    {
        var (project, mine, his) = await Pair("Rope by role");
        var edda = await App.As(Edda);
        var groups = $"/courses/1/projects/{project}/groups";
        (string, string)[] Roles(string common, string row = "texture") =>
            [
                ("name", "North wall"),
                ("common", common),
                ("Form[0].Student", $"{mine.StudentId}"),
                ("Form[0].Role", "tone"),
                ("Form[0].Rows", row),
                ("Form[1].Student", $"{his.StudentId}"),
                ("Form[1].Role", "placing"),
                ("Form[1].Rows", "placement"),
            ];
        Assert.Contains("0 to 100 %", await Refused(edda.PostForm(groups + "/share", Roles("120"))));
        Assert.Contains("no row of the rubric", await Refused(edda.PostForm(groups + "/share", Roles("40", "hair"))));
        await Went(edda.PostForm(groups + "/share", Roles("40")));
        var way = $"/courses/1/projects/way/{mine.Id}";
        await Went(edda.PostForm(way + "/level", ("row", "texture"), ("level", "4")));
        await Went(edda.PostForm(way + "/level", ("row", "placement"), ("level", "1")));
        // Whole 100·(60·4 + 40·1)/400 = 70; hers 0.4·70 + 0.6·100 = 88, his 0.4·70 + 0.6·25 = 43.
        var book = await edda.Text($"/courses/1/projects/{project}");
        Assert.Contains("<td class=\"num r\">88</td>", book);
        Assert.Contains("<td class=\"num r\">43</td>", book);
        Assert.Contains("(40 · 70 + 60 · 100) ÷ 100 = 88", WebUtility.HtmlDecode(await edda.Text(way)));
        await Went(edda.PostForm($"/courses/1/projects/way/{his.Id}/release"));
        var bram = WebUtility.HtmlDecode(await (await App.As(Bram)).Text($"/courses/1/projects/way/{his.Id}"));
        Assert.Contains("43", bram);
        Assert.Contains("40 %</b> of the grade is everybody's, the rest comes from placement", bram);
        Assert.DoesNotContain("(40 · 70", WebUtility.HtmlDecode(await (await App.As(Maren)).Text(way)));
        // What one has been shown stays: neither shares nor the group change under it.
        Assert.Contains("released", await Refused(edda.PostForm(groups + "/share", Roles("90"))));
        Assert.Contains("released", await Refused(edda.PostForm(groups + "/part", ("name", "North wall"))));
        // Given a level after that, it stays hers alone.
        await Went(edda.PostForm(way + "/level", ("row", "placement"), ("level", "2")));
        Assert.Equal(1, (await Work(project, Bram)).Levels["placement"]);
        // Opened again, his takes what the group has by now, and gives it nothing back.
        await Went(edda.PostForm($"/courses/1/projects/way/{his.Id}/reopen", ("reason", "a row was read wrongly")));
        foreach (var who in new[] { Maren, Bram })
            Assert.Equal(2, (await Work(project, who)).Levels["placement"]);
        await Went(edda.PostForm($"/courses/1/projects/way/{his.Id}/comment", ("comment", "looked at again")));
        Assert.Equal("", (await Work(project, Maren)).Comment);
    }

    [Fact]
    public async Task A_group_is_whole_once_named_and_parts_again()
    {
        var (project, mine, his) = await Pair("Rope apart");
        var edda = await App.As(Edda);
        var groups = $"/courses/1/projects/{project}/groups";
        var third = await App.Read(db =>
            db.ProjectWorks.Where(w => w.ProjectId == project && w.StudentId != mine.StudentId && w.StudentId != his.StudentId)
                .OrderBy(w => w.Id)
                .Select(w => w.StudentId)
                .FirstAsync()
        );
        async Task<string> Make(string name, params int[] who) =>
            await Refused(edda.PostForm(groups + "/make", [("name", name), .. who.Select(w => ("students", $"{w}"))]));
        Assert.Contains("2 to 6", await Make("One", third));
        Assert.Contains("two groups", await Make("Again", mine.StudentId, third));
        Assert.Contains("North wall", await Make("North wall", third, third));
        Assert.Contains("students of the project", await Make("Strangers", third, 99999));
        Assert.Contains("1 to 40 letters", await Make(" ", third, 99999));
        await Refused(edda.PostForm(groups + "/share", ("name", "South wall"), ("common", "50")));
        Assert.Contains(
            "a file without their line",
            await Refused(edda.PostForm($"/courses/1/projects/{project}/import", ("csv", $"mail,texture\n{Maren},3\n"), ("take", "true")))
        );
        await Went(edda.PostForm(groups + "/part", ("name", "North wall")));
        await Went(edda.PostForm($"/courses/1/projects/way/{mine.Id}/level", ("row", "texture"), ("level", "2")));
        Assert.Empty((await Work(project, Bram)).Levels);
        foreach (var who in new[] { Maren, Bram })
            Assert.Equal(HttpStatusCode.Forbidden, (await (await App.As(who)).GetAsync(groups)).StatusCode);
    }
}
