using System.Data.Common;
using Microsoft.EntityFrameworkCore;

namespace MintHarbor.Web;

/// <summary>Does one thing after the other beside the pages, what waits longest first. What waits is in the database, so that a node that ends forgets
/// nothing.</summary>
public abstract partial class WaitingDesk(IServiceScopeFactory scopes, ILogger log) : BackgroundService
{
    /// <summary>How often it looks without being rung: the bell may be heard before what it tells of is committed, and another node may have
    /// taken something in and ended. The question is one look into an index that is nearly always empty.</summary>
    private static readonly TimeSpan Look = TimeSpan.FromSeconds(1);

    private readonly SemaphoreSlim bell = new(0, 1);

    /// <summary>What waits longest; null where nothing does.</summary>
    protected abstract Task<int?> Longest(IServiceProvider services, CancellationToken over);

    protected abstract Task Do(IServiceProvider services, int id, CancellationToken over);

    /// <summary>What can't be done must not keep the others waiting.</summary>
    protected abstract Task GiveUp(IServiceProvider services, int id, CancellationToken over);

    public override void Dispose()
    {
        bell.Dispose();
        base.Dispose();
        GC.SuppressFinalize(this);
    }

    public void Ring()
    {
        if (bell.CurrentCount == 0)
            try
            {
                bell.Release();
            }
            catch (SemaphoreFullException)
            {
                // Two rang at once: it is rung.
            }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await Task.Yield();
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                while (await Next(stoppingToken)) { }
                await bell.WaitAsync(Look, stoppingToken);
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception e)
            {
                // The database is away, or the like: it looks again.
                Failed(log, e);
                await Task.Delay(Look, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    private async Task<bool> Next(CancellationToken over)
    {
        int? id;
        await using (var scope = scopes.CreateAsyncScope())
        {
            id = await Longest(scope.ServiceProvider, over);
            if (id is null)
                return false;
            try
            {
                await Do(scope.ServiceProvider, id.Value, over);
                return true;
            }
            catch (Exception e) when (!Passes(e))
            {
                Failed(log, e);
            }
        }
        // What it left half done in its own context stays there.
        await using var other = scopes.CreateAsyncScope();
        await GiveUp(other.ServiceProvider, id.Value, over);
        return true;
    }

    /// <summary>The server goes down, the database is away, or somebody else was quicker: it is tried again.</summary>
    private static bool Passes(Exception e) =>
        e is OperationCanceledException or DbException or DbUpdateConcurrencyException || e.InnerException is DbException;

    [LoggerMessage(Level = LogLevel.Warning, Message = "Something that waited was not done")]
    private static partial void Failed(ILogger log, Exception e);
}
