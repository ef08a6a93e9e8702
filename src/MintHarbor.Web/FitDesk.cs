using System.Data.Common;
using MintHarbor.Store.Actions;

namespace MintHarbor.Web;

/// <summary>Fits sheets one after the other beside the pages, the longest waiting first. What waits is in the database, so that a node that
/// ends forgets nothing.</summary>
public sealed partial class FitDesk(IServiceScopeFactory scopes, ILogger<FitDesk> log) : BackgroundService, IFitQueue
{
    /// <summary>How often it looks without being rung: the bell may be heard before what it tells of is committed, and another node may have
    /// taken a sheet in and ended. The question is one look into an index that is nearly always empty.</summary>
    private static readonly TimeSpan Look = TimeSpan.FromSeconds(1);

    private readonly SemaphoreSlim bell = new(0, 1);

    public override void Dispose()
    {
        bell.Dispose();
        base.Dispose();
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
        await using var scope = scopes.CreateAsyncScope();
        var actions = scope.ServiceProvider.GetRequiredService<FitActions>();
        if (await actions.Longest(over) is not { } id)
            return false;
        try
        {
            await actions.FitWaiting(id, over);
        }
        catch (Exception e) when (e is not OperationCanceledException && e is not DbException && e.InnerException is not DbException)
        {
            // A sheet that can't be read must not keep the others waiting.
            Failed(log, e);
            await actions.GiveUp(id, over);
        }
        return true;
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "A sheet was not fitted")]
    private static partial void Failed(ILogger log, Exception e);
}
