using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Microsoft.Net.Http.Headers;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Critique;

/// <summary>A sheet's pictures: the photograph made upright for the screen, the flat sheet, a small one. Kept by the browser,
/// asked for again by their hash.</summary>
public sealed class PictureModel(CourseScope scope, HarborContext db) : CoursePage(scope)
{
    public async Task<IActionResult> OnGetAsync(string n)
    {
        var sheet = Scope.Sheet!;
        var hash = n switch
        {
            "photo" => sheet.PhotoHash,
            "flat" or "small" => sheet.FlatHash,
            _ => null,
        };
        if (hash is null)
            return NotFound();
        Response.Headers.CacheControl = "private, no-cache";
        var tag = new EntityTagHeaderValue($"\"{hash}-{n}\"");
        if (Request.GetTypedHeaders().IfNoneMatch.Any(t => t.Compare(tag, false)))
            return StatusCode(StatusCodes.Status304NotModified);
        if (await Bytes(hash, n) is not { } picture)
            return NotFound();
        return new FileContentResult(picture.Bytes, picture.ContentType) { EntityTag = tag };
    }

    private async Task<Store.Model.Picture?> Bytes(string hash, string n)
    {
        if (n == "flat")
            return await db.Pictures.AsNoTracking().SingleOrDefaultAsync(p => p.Hash == hash);
        // Renditions are made once and kept beside the picture they come from.
        var key = $"{hash}-{n}";
        if (await db.Pictures.AsNoTracking().SingleOrDefaultAsync(p => p.Hash == key) is { } kept)
            return kept;
        if (await db.Pictures.AsNoTracking().SingleOrDefaultAsync(p => p.Hash == hash) is not { } original)
            return null;
        using var photo = Photo.Read(original.Bytes);
        using var small = photo.Shrunk(n == "small" ? 320 : 1600);
        var made = new Store.Model.Picture
        {
            Hash = key,
            ContentType = "image/webp",
            Width = small.Width,
            Height = small.Height,
            Bytes = small.Webp(78),
        };
        await db.Database.ExecuteSqlAsync(
            $"insert into pictures (hash, content_type, width, height, bytes) values ({made.Hash}, {made.ContentType}, {made.Width}, {made.Height}, {made.Bytes}) on conflict do nothing"
        );
        return made;
    }
}
