using Npgsql;

namespace MintHarbor.Web.Tests;

/// <summary>Databases for tests on the server that './harbor test' starts. The demo is loaded once, by whichever test process
/// comes first, and copied for everyone.</summary>
public static class TestDatabase
{
    private const string Template = "demo_template";

    private static string Server =>
        Environment.GetEnvironmentVariable("HARBOR_TEST_POSTGRES")
        ?? throw new InvalidOperationException(
            "HARBOR_TEST_POSTGRES is not set: run the tests by ./harbor test, which starts the database they need"
        );

    public static string Connection(string database) =>
        new NpgsqlConnectionStringBuilder(Server)
        {
            Database = database,
            IncludeErrorDetail = true,
            MaxPoolSize = 40,
            // A machine that does much else is slow, not wrong.
            CommandTimeout = 300,
        }.ConnectionString;

    /// <summary>The same database as an address, for ./harbor backup and restore.</summary>
    public static string Address(string connection)
    {
        var c = new NpgsqlConnectionStringBuilder(connection);
        return $"postgresql://{c.Username}:{Uri.EscapeDataString(c.Password!)}@{c.Host}:{c.Port}/{c.Database}";
    }

    /// <summary>A new empty database.</summary>
    public static async Task<string> Empty()
    {
        var name = "t_" + Guid.NewGuid().ToString("N");
        await using var server = await Open();
        await Run(server, $"create database {name}");
        return Connection(name);
    }

    /// <summary>A new database with the demo in it.</summary>
    public static async Task<string> Demo()
    {
        var name = "t_" + Guid.NewGuid().ToString("N");
        await using var server = await Open();
        await Run(server, "select pg_advisory_lock(77)");
        try
        {
            await using (
                var ask = new NpgsqlCommand("select count(*) from pg_database where datname = @n", server)
                {
                    Parameters = { new("n", Template) },
                }
            )
            {
                if ((long)(await ask.ExecuteScalarAsync())! == 0)
                {
                    await Run(server, "drop database if exists demo_loading with (force)");
                    await Run(server, "create database demo_loading");
                    await using (var app = new HarborApp(Connection("demo_loading"), demo: true))
                        _ = app.Server;
                    NpgsqlConnection.ClearAllPools();
                    await Run(server, "select pg_terminate_backend(pid, 10000) from pg_stat_activity where datname = 'demo_loading'");
                    await Run(server, $"alter database demo_loading rename to {Template}");
                }
            }
            await Run(server, $"create database {name} template {Template} strategy file_copy");
        }
        finally
        {
            await Run(server, "select pg_advisory_unlock(77)");
        }
        return Connection(name);
    }

    private static async Task<NpgsqlConnection> Open()
    {
        var c = new NpgsqlConnection(Server);
        await c.OpenAsync();
        return c;
    }

    private static async Task Run(NpgsqlConnection c, string sql)
    {
        await using var command = new NpgsqlCommand(sql, c) { CommandTimeout = 300 };
        await command.ExecuteNonQueryAsync();
    }
}
