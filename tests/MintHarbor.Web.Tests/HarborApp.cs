using System.Net;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.Extensions.Configuration;
using Microsoft.Extensions.DependencyInjection;
using MintHarbor.Store;
using MintHarbor.Store.Demo;
using MintHarbor.Web.Figures;
using NodaTime;

namespace MintHarbor.Web.Tests;

/// <summary>The whole application over a test database.</summary>
public class HarborApp : WebApplicationFactory<Program>
{
    private readonly bool demo;

    public string Connection { get; }

    public QueryCounter Queries { get; } = new();

    /// <summary>What one test has had drawn is drawn for all: a view is the same for every database, own poses are kept by their content.</summary>
    private static readonly FigureViews Views = new();

    private readonly IClock? clock;

    /// <param name="clock">What time it is to the application; its own where none is given.</param>
    public HarborApp(string connection, bool demo = true, bool kestrel = false, IClock? clock = null)
    {
        (Connection, this.demo, this.clock) = (connection, demo, clock);
        if (kestrel)
            UseKestrel(0);
    }

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        builder.UseSetting("ConnectionStrings:Harbor", Connection);
        builder.UseSetting("Harbor:Demo", demo ? "true" : "false");
        // A head is sculpted where a test asks for one, not beside each of some eighty starts.
        builder.UseSetting("Harbor:WarmUp", "false");
        builder.UseEnvironment("Production");
        builder.UseContentRoot(Path.Combine(Checkout.Root, "src/MintHarbor.Web"));
        builder.ConfigureServices(s =>
        {
            s.ConfigureDbContext<HarborContext>(o => o.AddInterceptors(Queries));
            s.AddSingleton(Views);
            s.AddHttpContextAccessor();
            if (clock is not null)
                s.AddSingleton(clock);
        });
    }

    public HttpClient Anonymous() =>
        CreateClient(
            new()
            {
                AllowAutoRedirect = false,
                HandleCookies = true,
                BaseAddress = ClientOptions.BaseAddress,
            }
        );

    /// <summary>A browser of the person with this mail, signed in by the demo's one click.</summary>
    public async Task<HttpClient> As(string mail)
    {
        var client = Anonymous();
        var answer = await client.PostForm("/sign-in?handler=Demo", ("as", mail));
        if (answer.StatusCode != HttpStatusCode.Redirect)
            answer = await client.PostForm("/sign-in", ("Mail", mail), ("Password", DemoStudio.Password));
        return answer.StatusCode == HttpStatusCode.Redirect
            ? client
            : throw new InvalidOperationException($"{mail} could not sign in: {answer.StatusCode}");
    }

    public Task<HttpClient> AsNamed(string name) => As(DemoStudio.Mail(name));

    public async Task<T> Read<T>(Func<HarborContext, Task<T>> query)
    {
        await using var scope = Services.CreateAsyncScope();
        return await query(scope.ServiceProvider.GetRequiredService<HarborContext>());
    }
}

/// <summary>A clock that stands until it is set.</summary>
public sealed class SetClock(Instant at) : IClock
{
    public Instant At { get; set; } = at;

    public Instant GetCurrentInstant() => At;
}

/// <summary>Counts the statements that go to the database.</summary>
public sealed class QueryCounter : DbCommandInterceptor
{
    private static readonly HttpContextAccessor Request = new();
    private int count;

    public int Count => count;

    public void Reset() => count = 0;

    /// <summary>A request's own: what works beside the pages asks whenever it likes.</summary>
    private void Add()
    {
        if (Request.HttpContext is not null)
            Interlocked.Increment(ref count);
    }

    public override ValueTask<InterceptionResult<System.Data.Common.DbDataReader>> ReaderExecutingAsync(
        System.Data.Common.DbCommand command,
        CommandEventData eventData,
        InterceptionResult<System.Data.Common.DbDataReader> result,
        CancellationToken ct = default
    )
    {
        Add();
        return base.ReaderExecutingAsync(command, eventData, result, ct);
    }

    public override ValueTask<InterceptionResult<object>> ScalarExecutingAsync(
        System.Data.Common.DbCommand command,
        CommandEventData eventData,
        InterceptionResult<object> result,
        CancellationToken ct = default
    )
    {
        Add();
        return base.ScalarExecutingAsync(command, eventData, result, ct);
    }
}

public static partial class Forms
{
    [GeneratedRegex("\"RequestVerificationToken\":\"([^\"]+)\"")]
    private static partial Regex Token();

    /// <summary>The next state that a room display's stream tells.</summary>
    public static async Task<JsonNode> NextState(this StreamReader stream, CancellationToken over = default)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(over);
        limit.CancelAfter(TimeSpan.FromMinutes(1));
        while (await stream.ReadLineAsync(limit.Token) is { } line)
            if (line.StartsWith("data:", StringComparison.Ordinal))
                return JsonNode.Parse(line[5..])!;
        throw new InvalidOperationException("the stream ended");
    }

    /// <summary>An address without its host, whether it came with one or not.</summary>
    public static string PathAndQuery(this Uri location) => location.IsAbsoluteUri ? location.PathAndQuery : location.OriginalString;

    public static async Task<string> Text(this HttpClient client, string path)
    {
        var answer = await client.GetAsync(path);
        return await answer.Content.ReadAsStringAsync();
    }

    /// <summary>Antiforgery token from a page that the client may see.</summary>
    public static async Task<string> TokenFor(this HttpClient client)
    {
        foreach (var page in new[] { "/courses", "/sign-in", "/welcome" })
        {
            var match = Token().Match(await client.Text(page));
            if (match.Success)
                return match.Groups[1].Value;
        }
        return "";
    }

    /// <summary>Posts a form as a page of the application would: with its token.</summary>
    public static async Task<HttpResponseMessage> PostForm(this HttpClient client, string path, params (string Name, string Value)[] fields)
    {
        var request = new HttpRequestMessage(HttpMethod.Post, path)
        {
            Content = new FormUrlEncodedContent(fields.Select(f => KeyValuePair.Create(f.Name, f.Value))),
        };
        request.Headers.Add("RequestVerificationToken", await client.TokenFor());
        return await client.SendAsync(request);
    }

    public static async Task<HttpResponseMessage> PostFile(
        this HttpClient client,
        string path,
        string field,
        byte[] file,
        string name,
        params (string Name, string Value)[] fields
    )
    {
        var content = new MultipartFormDataContent { { new ByteArrayContent(file), field, name } };
        foreach (var (n, v) in fields)
            content.Add(new StringContent(v), n);
        var request = new HttpRequestMessage(HttpMethod.Post, path) { Content = content };
        request.Headers.Add("RequestVerificationToken", await client.TokenFor());
        return await client.SendAsync(request);
    }
}

/// <summary>One application over one copy of the demo, for the tests of a class that only look or keep to their own rows.</summary>
public sealed class DemoFixture : Xunit.IAsyncLifetime
{
    public HarborApp App { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        App = new HarborApp(await TestDatabase.Demo());
        _ = App.Server;
    }

    public ValueTask DisposeAsync() => App is null ? ValueTask.CompletedTask : App.DisposeAsync();
}
