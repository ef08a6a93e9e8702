using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace MintHarbor.Store;

public static class StoreSetup
{
    public static IServiceCollection AddHarborStore(this IServiceCollection services, string connection) =>
        services.AddDbContextPool<HarborContext>(o => Configure(o, connection));

    public static DbContextOptionsBuilder Configure(DbContextOptionsBuilder o, string connection) =>
        o.UseNpgsql(connection, n => n.UseNodaTime()).UseSnakeCaseNamingConvention();
}
