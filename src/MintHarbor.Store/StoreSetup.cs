using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;

namespace MintHarbor.Store;

public static class StoreSetup
{
    /// <summary>The same few dozen statements are sent with every page: the server plans each once a connection.</summary>
    private const int Prepared = 100;

    public static IServiceCollection AddHarborStore(this IServiceCollection services, string connection) =>
        services.AddDbContextPool<HarborContext>(o => Configure(o, connection));

    public static DbContextOptionsBuilder Configure(DbContextOptionsBuilder o, string connection) =>
        o.UseNpgsql(
                new NpgsqlConnectionStringBuilder(connection) { MaxAutoPrepare = Prepared, AutoPrepareMinUsages = 2 }.ConnectionString,
                n => n.UseNodaTime()
            )
            .UseSnakeCaseNamingConvention();
}
