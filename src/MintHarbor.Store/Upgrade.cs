using Microsoft.EntityFrameworkCore;

namespace MintHarbor.Store;

/// <summary>Brings a database to this version: its schema by migrations, then what only the rules of the job can work out.</summary>
public static class Upgrade
{
    private const int AtATime = 200;

    public static async Task Run(HarborContext db)
    {
        await db.Database.MigrateAsync();
        await KeepItems(db);
    }

    /// <summary>Rounds from before items were kept get them now, made of the views that they were drawn from.</summary>
    private static async Task KeepItems(HarborContext db)
    {
        while (true)
        {
            var rounds = await db
                .DrillRounds.FromSql(
                    $"select *, xmin from drill_rounds where not (state ? 'items') or jsonb_array_length(state -> 'items') = 0 order by id limit {AtATime}"
                )
                .ToListAsync();
            if (rounds.Count == 0)
                return;
            foreach (var round in rounds)
                round.State = round.State.Kept(first: true);
            await db.SaveChangesAsync();
            db.ChangeTracker.Clear();
        }
    }
}
