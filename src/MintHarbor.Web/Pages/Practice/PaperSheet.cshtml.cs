using Microsoft.AspNetCore.Mvc;
using Microsoft.Net.Http.Headers;
using MintHarbor.Core.DrillSheets;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;
using MintHarbor.Web.Pages.Shared;

namespace MintHarbor.Web.Pages.Practice;

/// <summary>A drill sheet as it was read: what was seen drawn over what is there, each answer with its error, what waits for a person's eye.</summary>
public sealed class PaperSheetModel(CourseScope scope, PaperActions paper, PictureService pictures) : CoursePage(scope), IShowsProblems
{
    public PaperSheet Sheet => Scope.DrillSheet!;
    public DrillSheetReading? Reading => Sheet.Reading;
    public IReadOnlyList<PaperSummary> Summaries { get; private set; } = [];

    public void OnGet() => Summaries = PaperSummary.Of(Sheet.Scores);

    /// <summary>The sheet laid flat.</summary>
    public async Task<IActionResult> OnGetPictureAsync()
    {
        if (Sheet.FlatHash is not { } hash)
            return NotFound();
        Response.Headers.CacheControl = "private, no-cache";
        var tag = new EntityTagHeaderValue($"\"{hash}\"");
        if (Request.GetTypedHeaders().IfNoneMatch.Any(t => t.Compare(tag, false)))
            return StatusCode(StatusCodes.Status304NotModified);
        return await pictures.Shown(hash, null, HttpContext.RequestAborted) is { } picture
            ? new FileContentResult(picture.Bytes, picture.ContentType) { EntityTag = tag }
            : NotFound();
    }

    [For(CourseRole.Instructor, CourseRole.Assistant)]
    public async Task<IActionResult> OnPostLookAsync(int item, bool counts)
    {
        await paper.Look(Sheet, item, counts);
        return To($"practice/paper/{Sheet.Id}");
    }

    public async Task<IActionResult> OnPostUnreadAsync()
    {
        await paper.Unread(Sheet, staff: !Scope.IsStudent);
        return To("practice/paper");
    }

    /// <summary>How an item stands, as the margin's shapes say it.</summary>
    public string Shape(int item)
    {
        var read = Reading!.Items[item];
        return read.State == AnswerState.Empty && !read.Asks ? "unknown"
            : read.Asks && !Sheet.Looked.ContainsKey(item) ? "near"
            : !Sheet.Counts(item) ? "unknown"
            : "holds";
    }

    /// <summary>What a measure shows, with what its number is.</summary>
    public static Note Of(PaperSummary m) =>
        new(m.Leans ? "near" : "holds", $"{char.ToUpperInvariant(m.Measure.Name[0])}{m.Measure.Name[1..]}: {m.Says}.", null, m.Because);

    /// <summary>Letters by which items are named, row by row.</summary>
    public static string Letter(int item) => $"{(char)('A' + item)}";

    public Task<IActionResult> Show(string problem)
    {
        Problem = problem;
        OnGet();
        return Task.FromResult<IActionResult>(Page());
    }
}
