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

    private static readonly ReadsEnd Reads = new();
    private static readonly Traces Trace = new(NodaTime.SystemClock.Instance);

    /// <summary>Connections of one node: fewer than the hundred that PostgreSQL has unless it is told otherwise, so that who has to wait waits here
    /// instead of being turned away there. Two nodes over one server are told a number each.</summary>
    private const int Pool = 80;

    private static string Connection(string connection)
    {
        var said = new NpgsqlConnectionStringBuilder(connection) { MaxAutoPrepare = Prepared, AutoPrepareMinUsages = 2 };
        if (!said.ShouldSerialize("Maximum Pool Size"))
            said.MaxPoolSize = Pool;
        said.Timeout = Math.Max(said.Timeout, 30);
        return said.ConnectionString;
    }

    public static DbContextOptionsBuilder Configure(DbContextOptionsBuilder o, string connection) =>
        o.UseNpgsql(Connection(connection), n => n.UseNodaTime()).AddInterceptors(Reads, Trace).UseSnakeCaseNamingConvention();
}
