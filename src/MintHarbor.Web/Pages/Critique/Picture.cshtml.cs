using Microsoft.AspNetCore.Mvc;
using Microsoft.Net.Http.Headers;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>A sheet's pictures: the photograph made upright for the screen, the flat sheet, a small one, and what shows
/// how its ink was read. Kept by the browser, asked for again by their hash.</summary>
[Looks]
public sealed class PictureModel(CourseScope scope, PictureService pictures, LookActions looks) : CoursePage(scope)
{
    public async Task<IActionResult> OnGetAsync(string n)
    {
        var sheet = Scope.Sheet!;
        var hash = n switch
        {
            "photo" => sheet.PhotoHash,
            "flat" or PictureService.Small or PictureService.Lines or PictureService.Values => sheet.FlatHash,
            "over" => (await looks.Of(sheet.Id))?.PhotoHash,
            _ => null,
        };
        if (hash is null)
            return NotFound();
        Response.Headers.CacheControl = "private, no-cache";
        var tag = new EntityTagHeaderValue($"\"{hash}-{n}\"");
        if (Request.GetTypedHeaders().IfNoneMatch.Any(t => t.Compare(tag, false)))
            return StatusCode(StatusCodes.Status304NotModified);
        return
            await pictures.Shown(
                hash,
                n == "flat" ? null
                    : n == "over" ? PictureService.Screen
                    : n,
                HttpContext.RequestAborted,
                sheet.PaperWidthMm
            )
                is { } picture
            ? new FileContentResult(picture.Bytes, picture.ContentType) { EntityTag = tag }
            : NotFound();
    }
}
