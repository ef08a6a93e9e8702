using MintHarbor.Store.Actions;

namespace MintHarbor.Web;

/// <summary>Fits sheets one after the other beside the pages.</summary>
public sealed class FitDesk(IServiceScopeFactory scopes, ILogger<FitDesk> log) : WaitingDesk(scopes, log), IFitQueue
{
    private static FitActions Actions(IServiceProvider services) => services.GetRequiredService<FitActions>();

    protected override Task<int?> Longest(IServiceProvider services, CancellationToken over) => Actions(services).Longest(over);

    protected override Task Do(IServiceProvider services, int id, CancellationToken over) => Actions(services).FitWaiting(id, over);

    protected override Task GiveUp(IServiceProvider services, int id, CancellationToken over) => Actions(services).GiveUp(id, over);
}
