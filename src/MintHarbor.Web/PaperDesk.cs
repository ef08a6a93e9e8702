using MintHarbor.Store.Actions;

namespace MintHarbor.Web;

/// <summary>Reads photographed drill sheets.</summary>
public sealed class PaperDesk(IServiceScopeFactory scopes, ILogger<PaperDesk> log) : WaitingDesk(scopes, log), IPaperQueue
{
    private static PaperActions Actions(IServiceProvider services) => services.GetRequiredService<PaperActions>();

    protected override Task<int?> Longest(IServiceProvider services, CancellationToken over) => Actions(services).Longest(over);

    protected override Task Do(IServiceProvider services, int id, CancellationToken over) => Actions(services).Read(id, over);

    protected override Task GiveUp(IServiceProvider services, int id, CancellationToken over) => Actions(services).GiveUp(id, over);
}
