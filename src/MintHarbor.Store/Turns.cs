using Microsoft.EntityFrameworkCore;

namespace MintHarbor.Store;

/// <summary>Writers of one thing come one after the other: who holds it, holds it to the end of the transaction.</summary>
public static class Turns
{
    public static Task Hold(HarborContext db, string thing) =>
        db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock(hashtextextended({thing}, 13))");
}
