using Microsoft.EntityFrameworkCore;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>Who is signed in where. Ending a row ends that browser's sign-in whoever shows its cookie.</summary>
public sealed class SignInActions(HarborContext db, IClock clock)
{
    /// <summary>How long a sign-in lies idle before it ends: of one browser window, and of one that was asked to stay.</summary>
    public static readonly Duration IdleFor = Duration.FromHours(12),
        StaysFor = Duration.FromDays(30);

    /// <summary>How exactly it is kept when one was last used: a row is not written with every page.</summary>
    private static readonly Duration SeenEvery = Duration.FromMinutes(5);

    public async Task<Guid> Begin(int person, bool stays)
    {
        var now = clock.GetCurrentInstant();
        var row = new SignedIn
        {
            Id = Guid.NewGuid(),
            PersonId = person,
            At = now,
            SeenAt = now,
            Stays = stays,
        };
        db.SignedIns.Add(row);
        await db.SaveChangesAsync();
        // What opens nothing any more is of no use to anybody.
        await db.SignedIns.Where(s => s.PersonId == person && s.SeenAt < now - StaysFor).ExecuteDeleteAsync();
        await db.OnceKeys.Where(o => o.At < now - OnceKey.Lasts).ExecuteDeleteAsync();
        return row.Id;
    }

    /// <summary>Whether this sign-in still holds; it counts as used now.</summary>
    public async Task<bool> Holds(Guid id, int person)
    {
        var now = clock.GetCurrentInstant();
        if (await Open(person).SingleOrDefaultAsync(s => s.Id == id) is not { } row || now - row.SeenAt > Lasts(row))
            return false;
        if (now - row.SeenAt > SeenEvery)
            await db.SignedIns.Where(s => s.Id == id).ExecuteUpdateAsync(u => u.SetProperty(s => s.SeenAt, now));
        return true;
    }

    /// <summary>Where somebody is signed in, the newest first.</summary>
    public async Task<IReadOnlyList<SignedIn>> Of(int person)
    {
        var now = clock.GetCurrentInstant();
        return [.. (await Open(person).OrderByDescending(s => s.SeenAt).ToListAsync()).Where(s => now - s.SeenAt <= Lasts(s))];
    }

    public Task End(Guid id, int person) => End(db.SignedIns.Where(s => s.Id == id && s.PersonId == person));

    /// <summary>Ends every sign-in of somebody but one; all without one.</summary>
    public Task EndOthers(int person, Guid? but = null) => End(db.SignedIns.Where(s => s.PersonId == person && s.Id != but));

    private Task End(IQueryable<SignedIn> rows)
    {
        var now = clock.GetCurrentInstant();
        return rows.Where(s => s.EndedAt == null).ExecuteUpdateAsync(u => u.SetProperty(s => s.EndedAt, now));
    }

    private IQueryable<SignedIn> Open(int person) => db.SignedIns.AsNoTracking().Where(s => s.PersonId == person && s.EndedAt == null);

    private static Duration Lasts(SignedIn s) => s.Stays ? StaysFor : IdleFor;
}
