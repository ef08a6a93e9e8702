using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Objects;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>An arrangement with where it is seen from: the studio's, or one that the course set up.</summary>
/// <param name="Key">Its address.</param>
public sealed record KeptArrangement(string Key, Arrangement Arrangement, Seat Seat, Lamp? Lamp)
{
    public bool Own => Key.StartsWith(ThingActions.OwnPrefix, StringComparison.Ordinal);
}

/// <summary>Arrangements of things: the studio's and the course's own.</summary>
public sealed class ThingActions(HarborContext db, IClock clock)
{
    public const string OwnPrefix = "own-";
    public const int MostOwn = 60;

    /// <summary>From where the studio's own are seen at first: sitting at a table, or from an easel.</summary>
    public static Seat Before(Arrangement a) => a.Ground == Ground.Table ? new(15, 1.3, 1.2) : new(-15, 3, 1.3);

    /// <summary>The course's own, then the studio's.</summary>
    public async Task<IReadOnlyList<KeptArrangement>> All(int course)
    {
        var own = await db
            .CourseArrangements.AsNoTracking()
            .Where(a => a.CourseId == course)
            .OrderBy(a => a.Name)
            .Take(MostOwn)
            .ToListAsync();
        return [.. own.Select(Read), .. ThingShelf.Arrangements.Select(Studio)];
    }

    /// <summary>One by its address; null for none of this course.</summary>
    public async Task<KeptArrangement?> Find(int course, string? key)
    {
        if (Number(key) is not { } id)
            return ThingShelf.Find(key) is { } shipped ? Studio(shipped) : null;
        return await db.CourseArrangements.AsNoTracking().SingleOrDefaultAsync(a => a.Id == id && a.CourseId == course) is { } own
            ? Read(own)
            : null;
    }

    private static int? Number(string? key) =>
        key?.StartsWith(OwnPrefix, StringComparison.Ordinal) == true
        && int.TryParse(key[OwnPrefix.Length..], NumberStyles.None, CultureInfo.InvariantCulture, out var n)
            ? n
            : null;

    private static KeptArrangement Studio(Arrangement a) => new(a.Id, a, Before(a), null);

    private static KeptArrangement Read(CourseArrangement a)
    {
        var key = $"{OwnPrefix}{a.Id}";
        return new(
            key,
            Arrangement.Read(a.Things) with
            {
                Id = key,
                Name = a.Name,
            },
            new(a.Azimuth, a.Distance, a.EyeHeight),
            a.LampAzimuth is { } lamp ? new(lamp, a.LampElevation) : null
        );
    }

    /// <summary>Keeps an arrangement for the course; of two at once with one name the second is told.</summary>
    /// <exception cref="InputException">No name, one in use, things that can't stand so, a seat that sees none of it, or too many of them.</exception>
    public async Task<string> Keep(Course course, Arrangement arrangement, Seat seat, Lamp? lamp, string name, string by)
    {
        name = Names.Checked(name, "Name", 60);
        arrangement.Checked();
        StillLife.Checked(arrangement, seat);
        if (await db.CourseArrangements.CountAsync(a => a.CourseId == course.Id) >= MostOwn)
            throw new InputException($"the course has {MostOwn} arrangements of its own", "Name", "take one away first");
        var own = new CourseArrangement
        {
            CourseId = course.Id,
            Name = name,
            Things = arrangement.Write(),
            Azimuth = Math.IEEERemainder(seat.Azimuth, 360),
            Distance = seat.Distance,
            EyeHeight = seat.EyeHeight,
            LampAzimuth = lamp?.Azimuth,
            LampElevation = lamp?.Elevation ?? 45,
            By = by,
            At = clock.GetCurrentInstant(),
        };
        db.CourseArrangements.Add(own);
        try
        {
            await db.SaveChangesAsync();
        }
        catch (DbUpdateException e) when (Doubled(e))
        {
            throw new InputException($"the course has an arrangement called {name}", "Name", "another name");
        }
        return $"{OwnPrefix}{own.Id}";
    }

    public Task<HeldSheet?> Held(int sheet) => db.HeldSheets.AsNoTracking().SingleOrDefaultAsync(h => h.SheetId == sheet);

    /// <summary>Keeps the boxes of a sheet and the view that they are held against.</summary>
    /// <param name="seen">The version that was looked at; 0 where there was none.</param>
    /// <exception cref="ClashException">Somebody else held it against something since.</exception>
    public async Task Hold(Sheet sheet, string of, string name, IReadOnlyList<Area> boxes, uint seen, string by)
    {
        var held = await db.HeldSheets.AsTracking().SingleOrDefaultAsync(h => h.SheetId == sheet.Id);
        if ((held?.Version ?? 0) != seen)
            throw new ClashException($"{held!.By} has held this sheet against {held.Name} in the meantime.");
        if (held is null)
            db.HeldSheets.Add(held = new() { SheetId = sheet.Id });
        (held.Of, held.Name, held.Boxes) = (of, name.Length > 80 ? name[..80] : name, [.. boxes]);
        (held.By, held.At) = (by, clock.GetCurrentInstant());
        try
        {
            await db.SaveChangesAsync();
        }
        catch (DbUpdateException e) when (e is DbUpdateConcurrencyException || Doubled(e))
        {
            throw new ClashException("Somebody else has held this sheet against a still life in the meantime.");
        }
    }

    private static bool Doubled(DbUpdateException e) =>
        e.InnerException is Npgsql.PostgresException { SqlState: Npgsql.PostgresErrorCodes.UniqueViolation };

    public async Task Remove(Course course, string? key)
    {
        if (Number(key) is not { } id)
            throw new InputException("no arrangement of the course", "things", "one of the course's own");
        await db.CourseArrangements.Where(a => a.Id == id && a.CourseId == course.Id).ExecuteDeleteAsync();
    }
}
