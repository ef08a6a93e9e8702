using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Technique;
using MintHarbor.Media;
using MintHarbor.Store.Model;
using SkiaSharp;

namespace MintHarbor.Store;

/// <summary>The one place where pictures are decoded, kept, made smaller and taken away. Two at a time are open in a process, of them one
/// large: the rest wait on the line, their bytes not yet read. What is no picture (place, hour, camera) is taken off before one is kept.</summary>
public sealed class PictureService(HarborContext db)
{
    /// <summary>What a photograph is made into for the screen, beside the picture it comes from: hash, "-", and this.</summary>
    public const string Small = "small",
        Screen = "photo";

    /// <summary>How a flat sheet's ink was read: its lines, and its values.</summary>
    public const string Lines = "lines",
        Values = "values";

    private const int AtOnce = 2;

    /// <summary>Decoded, one of these takes about 100 MB; a larger one is open alone of its kind.</summary>
    private const long Large = 25_000_000;

    private static readonly SemaphoreSlim Open = new(AtOnce),
        Larger = new(1);

    /// <summary>A picture that is open: its pixels, and its file as it is kept. Whoever closes it lets the next one in.</summary>
    public sealed class Opened : IDisposable
    {
        private readonly bool large;

        internal Opened(byte[] file, bool large)
        {
            this.large = large;
            Photo = Photo.Read(file);
            // What can't be turned in its file is turned in its pixels.
            var whole = Photo.ExifTurn <= 1 || Photo.ContentType == "image/jpeg";
            var (bytes, type) = whole
                ? (Metadata.Clean(file, Photo.ContentType, Photo.ExifTurn), Photo.ContentType)
                : (Photo.Encode(SKEncodedImageFormat.Png, 100), "image/png");
            Kept = Of(bytes, type, Photo.Width, Photo.Height);
        }

        public Photo Photo { get; }

        /// <summary>The file without what is no picture.</summary>
        public Picture Kept { get; }

        public void Dispose()
        {
            Photo.Dispose();
            Leave(large);
        }
    }

    /// <summary>Opens a picture when it is its turn.</summary>
    /// <param name="file">Reads the bytes; called in turn, so that waiting ones take no memory.</param>
    /// <exception cref="Core.InputException">Not a picture of an accepted kind, damaged, or too large.</exception>
    public async Task<Opened> Take(Func<Task<byte[]>> file, CancellationToken over = default)
    {
        await Open.WaitAsync(over);
        var large = false;
        try
        {
            var bytes = await file();
            if (Photo.Peek(bytes).Pixels > Large)
            {
                await Larger.WaitAsync(over);
                large = true;
            }
            return new(bytes, large);
        }
        catch
        {
            Leave(large);
            throw;
        }
    }

    /// <summary>Opens a picture that is kept.</summary>
    public Task<Opened> Take(string hash, CancellationToken over = default) =>
        Take(async () => await db.Pictures.Where(p => p.Hash == hash).Select(p => p.Bytes).SingleAsync(over), over);

    private static void Leave(bool large)
    {
        if (large)
            Larger.Release();
        Open.Release();
    }

    /// <summary>What lies over a flat sheet to show how it was read.</summary>
    /// <param name="widthMm">Of the sheet.</param>
    private static Picture Read(string hash, string kind, Photo flat, double widthMm)
    {
        var grey = flat.Grey();
        var picture = TechniqueReader.Read(grey, widthMm / grey.Width);
        using var over =
            kind == Lines
                ? TechniqueOverlay.Lines(picture, widthMm, widthMm * grey.Height / grey.Width)
                : TechniqueOverlay.Values(picture, widthMm, widthMm * grey.Height / grey.Width);
        using var data = over.Encode(SKEncodedImageFormat.Png, 100);
        return new()
        {
            Hash = $"{hash}-{kind}",
            ContentType = "image/png",
            Width = over.Width,
            Height = over.Height,
            Bytes = data.ToArray(),
        };
    }

    /// <summary>A picture for the screen, as long as this on its longer side.</summary>
    public static Picture Made(string hash, string kind, Photo photo)
    {
        using var shrunk = photo.Shrunk(kind == Small ? 320 : 1600);
        // A large one is written as JPEG: ten times quicker, and somebody waits.
        var bytes = kind == Small ? shrunk.Webp(78) : shrunk.Encode(SKEncodedImageFormat.Jpeg, 84);
        return new()
        {
            Hash = $"{hash}-{kind}",
            ContentType = kind == Small ? "image/webp" : "image/jpeg",
            Width = shrunk.Width,
            Height = shrunk.Height,
            Bytes = bytes,
        };
    }

    public static Picture Of(byte[] bytes, string contentType, int width, int height) =>
        new()
        {
            Hash = Convert.ToHexStringLower(SHA256.HashData(bytes)),
            ContentType = contentType,
            Width = width,
            Height = height,
            Bytes = bytes,
        };

    /// <summary>Keeps pictures, in the transaction that is open. One that is kept already, or that somebody else is just keeping, is the same
    /// by its hash.</summary>
    public async Task Keep(IEnumerable<Picture> pictures)
    {
        // In the order of their hashes, so that two uploads of the same pictures can't wait for one another.
        foreach (var p in pictures.OrderBy(p => p.Hash, StringComparer.Ordinal))
        {
            await Hold(p.Hash);
            await db.Database.ExecuteSqlAsync(
                $"""
                insert into pictures (hash, content_type, width, height, bytes)
                values ({p.Hash}, {p.ContentType}, {p.Width}, {p.Height}, {p.Bytes}) on conflict do nothing
                """
            );
        }
    }

    /// <summary>A picture as it is shown; one from before they were made on arrival is made now, once.</summary>
    /// <param name="widthMm">Of the sheet, where what was read of it is asked for.</param>
    public async Task<Picture?> Shown(string hash, string? kind, CancellationToken over = default, double widthMm = 0)
    {
        var key = kind is null ? hash : $"{hash}-{kind}";
        if (await Find(key, over) is { } kept)
            return kept;
        if (kind is null || !await db.Pictures.AnyAsync(p => p.Hash == hash, over))
            return null;
        using var open = await Take(hash, over);
        // Whoever waited for a turn finds what the one before has made.
        if (await Find(key, over) is { } made)
            return made;
        var picture = kind is Lines or Values
            ? await Fitting.Nice.Work(() => Read(hash, kind, open.Photo, widthMm), over)
            : Made(hash, kind, open.Photo);
        await using var own = await db.Database.BeginTransactionAsync(over);
        await Keep([picture]);
        await own.CommitAsync(over);
        return picture;
    }

    private Task<Picture?> Find(string key, CancellationToken over) =>
        db.Pictures.AsNoTracking().SingleOrDefaultAsync(p => p.Hash == key, over);

    /// <summary>Takes pictures away that nothing refers to any more, with what was made of them; in the transaction that took the last
    /// reference away.</summary>
    public async Task Drop(params IEnumerable<string?> hashes)
    {
        foreach (var hash in hashes.OfType<string>().Distinct().Order(StringComparer.Ordinal))
        {
            await Hold(hash);
            var made = new[] { Small, Screen, Lines, Values }.Select(kind => $"{hash}-{kind}").Append(hash).ToArray();
            await db.Database.ExecuteSqlAsync(
                $"""
                delete from pictures where hash = any({made})
                    and not exists (select 1 from sheets where photo_hash = {hash} or flat_hash = {hash})
                    and not exists (select 1 from room_notes where picture_hash = {hash})
                    and not exists (select 1 from paper_sheets where photo_hash = {hash} or flat_hash = {hash})
                    and not exists (select 1 from paper_photos where hash = {hash})
                    and not exists (select 1 from looked_sheets where photo_hash = {hash})
                """
            );
        }
    }

    /// <summary>Nobody keeps a picture while somebody else takes it away.</summary>
    private Task Hold(string hash) =>
        db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock(hashtextextended({hash.Split('-')[0]}, 12))");
}
