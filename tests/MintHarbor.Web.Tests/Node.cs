using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>Where the checkout stands.</summary>
public static class Checkout
{
    public static string Root { get; } = Find();

    private static string Find()
    {
        var dir = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(dir.FullName, "harbor")))
            dir = dir.Parent ?? throw new InvalidOperationException("not run from the checkout");
        return dir.FullName;
    }

    /// <summary>Runs ./harbor, or another program, to its end.</summary>
    public static (int Code, string Out, string Err) Run(
        string program,
        IEnumerable<string> args,
        params (string Name, string Value)[] environment
    )
    {
        var start = new ProcessStartInfo(program == "harbor" ? Path.Combine(Root, "harbor") : program)
        {
            RedirectStandardError = true,
            RedirectStandardOutput = true,
            WorkingDirectory = Root,
        };
        foreach (var a in args)
            start.ArgumentList.Add(a);
        foreach (var (name, value) in environment)
            start.Environment[name] = value;
        using var p = Process.Start(start)!;
        var err = p.StandardError.ReadToEndAsync();
        var said = p.StandardOutput.ReadToEnd();
        p.WaitForExit();
        return (p.ExitCode, said.Trim(), err.GetAwaiter().GetResult().Trim());
    }

    public static int FreePort()
    {
        using var any = new TcpListener(IPAddress.Loopback, 0);
        any.Start();
        return ((IPEndPoint)any.LocalEndpoint).Port;
    }
}

/// <summary>Tests with processes of their own run one after another: they load the machine by intention.</summary>
[CollectionDefinition(nameof(Nodes))]
public sealed class Nodes;

/// <summary>The application as a process of its own, as it runs in a studio: it can be killed.</summary>
public sealed class Node : IAsyncDisposable
{
    private readonly Process process;
    private readonly List<string> said = [];

    private Node(Process process, Uri address) => (this.process, Address) = (process, address);

    public Uri Address { get; }

    /// <summary>What it wrote so far.</summary>
    public IReadOnlyList<string> Said
    {
        get
        {
            lock (said)
                return [.. said];
        }
    }

    /// <summary>The most memory it ever held, MB.</summary>
    public double PeakMegabytes =>
        File.ReadLines($"/proc/{process.Id}/status")
            .Where(l => l.StartsWith("VmHWM", StringComparison.Ordinal))
            .Select(l => double.Parse(l.Split(':')[1].Replace("kB", ""), CultureInfo.InvariantCulture) / 1024)
            .Single();

    public bool Running => !process.HasExited;

    public static async Task<Node> Start(
        string connection,
        int? port = null,
        bool demo = true,
        params (string Name, string Value)[] settings
    )
    {
        var address = new Uri($"http://127.0.0.1:{port ?? Checkout.FreePort()}");
        var start = new ProcessStartInfo(Path.Combine(Checkout.Root, "src/MintHarbor.Web/bin/Release/net10.0/linux-x64/MintHarbor.Web"))
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        start.ArgumentList.Add("--contentRoot");
        start.ArgumentList.Add(Path.Combine(Checkout.Root, "src/MintHarbor.Web"));
        start.Environment["ConnectionStrings__Harbor"] = connection;
        start.Environment["Harbor__Demo"] = demo ? "true" : "false";
        start.Environment["Harbor__WarmUp"] = "false";
        start.Environment["ASPNETCORE_URLS"] = address.ToString();
        start.Environment["ASPNETCORE_ENVIRONMENT"] = "Production";
        foreach (var (name, value) in settings)
            start.Environment[name] = value;
        var node = new Node(Process.Start(start)!, address);
        void Keep(object? _, DataReceivedEventArgs e)
        {
            if (e.Data is null)
                return;
            lock (node.said)
                node.said.Add(e.Data);
        }
        node.process.OutputDataReceived += Keep;
        node.process.ErrorDataReceived += Keep;
        node.process.BeginOutputReadLine();
        node.process.BeginErrorReadLine();
        try
        {
            await node.Ready();
            return node;
        }
        catch
        {
            await node.DisposeAsync();
            throw;
        }
    }

    public async Task Ready()
    {
        using var client = new HttpClient { BaseAddress = Address, Timeout = TimeSpan.FromSeconds(5) };
        var end = DateTime.UtcNow.AddMinutes(5);
        while (DateTime.UtcNow < end)
        {
            if (!Running)
                throw new InvalidOperationException("the server ended: " + string.Join('\n', Said.TakeLast(12)));
            try
            {
                if ((await client.GetAsync("/health/ready")).IsSuccessStatusCode)
                    return;
            }
            catch (Exception e) when (e is HttpRequestException or TaskCanceledException)
            {
                // Not listening yet.
            }
            await Task.Delay(40);
        }
        throw new TimeoutException("the server did not become ready: " + string.Join('\n', Said.TakeLast(12)));
    }

    /// <summary>As a power cut would: no signal that could be handled.</summary>
    public void Kill()
    {
        process.Kill();
        process.WaitForExit();
    }

    public HttpClient Client() =>
        new(
            new SocketsHttpHandler
            {
                AllowAutoRedirect = false,
                UseCookies = true,
                CookieContainer = new(),
            }
        )
        {
            BaseAddress = Address,
            Timeout = TimeSpan.FromMinutes(5),
        };

    /// <summary>A browser of the person with this mail, signed in.</summary>
    public async Task<HttpClient> As(string mail)
    {
        var client = Client();
        var answer = await client.PostForm("/sign-in", ("Mail", mail), ("Password", Store.Demo.DemoStudio.Password));
        return answer.StatusCode == HttpStatusCode.Redirect
            ? client
            : throw new InvalidOperationException($"{mail} could not sign in: {answer.StatusCode}");
    }

    public ValueTask DisposeAsync()
    {
        if (Running)
            Kill();
        process.Dispose();
        return ValueTask.CompletedTask;
    }
}

/// <summary>A PostgreSQL server of a test's own, started as ./harbor starts it, that keeps its promises when it is killed.</summary>
public sealed class Cluster : IDisposable
{
    // A socket's path may not grow long, and the server's own user must be able to reach it.
    private readonly string home = $"/var/tmp/harbor-kill-{Guid.NewGuid().ToString("N")[..8]}";
    private readonly int port = Checkout.FreePort();

    public Cluster()
    {
        Start();
    }

    public string Server { get; private set; } = "";

    public string Connection(string database) =>
        new Npgsql.NpgsqlConnectionStringBuilder(Server)
        {
            Database = database,
            MaxPoolSize = 40,
            Timeout = 5,
            IncludeErrorDetail = true,
        }.ConnectionString;

    public void Start()
    {
        var (code, said, err) = Checkout.Run("harbor", ["cluster-start", home, $"{port}"]);
        Server = code == 0 ? said.Split('\n')[^1] : throw new InvalidOperationException(err + said);
    }

    /// <summary>Kills the server's first process; the others notice and go.</summary>
    public void Kill()
    {
        var pid = int.Parse(File.ReadLines(Path.Combine(home, "data/postmaster.pid")).First(), CultureInfo.InvariantCulture);
        Process[] all = [.. Children(pid)];
        using (var p = Process.GetProcessById(pid))
            p.Kill();
        SpinWait.SpinUntil(() => !Directory.Exists($"/proc/{pid}"), 5000);
        foreach (var child in all)
        {
            using (child)
            {
                try
                {
                    child.Kill();
                    child.WaitForExit(5000);
                }
                catch (InvalidOperationException)
                {
                    // Gone already.
                }
            }
        }
    }

    private static IEnumerable<Process> Children(int parent)
    {
        foreach (var p in Process.GetProcessesByName("postgres"))
        {
            string stat;
            try
            {
                stat = File.ReadAllText($"/proc/{p.Id}/stat");
            }
            catch (IOException)
            {
                continue;
            }
            if (stat[(stat.LastIndexOf(')') + 2)..].Split(' ')[1] == $"{parent}")
                yield return p;
        }
    }

    public void Dispose()
    {
        Checkout.Run("harbor", ["cluster-stop", home]);
        Directory.Delete(home, recursive: true);
    }
}
