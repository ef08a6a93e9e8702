using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;

namespace MintHarbor.Browser.Tests;

/// <summary>The line between a display and the server, which a test can cut and mend: a plain TCP forwarder on loopback.</summary>
public sealed class Line : IDisposable
{
    private readonly TcpListener listener = new(IPAddress.Loopback, 0);
    private readonly ConcurrentDictionary<TcpClient, byte> open = new();
    private readonly int target;
    private volatile bool cut;

    public Line(int target)
    {
        this.target = target;
        listener.Start();
        _ = Accept();
    }

    public string Address => $"http://127.0.0.1:{((IPEndPoint)listener.LocalEndpoint).Port}";

    public void Cut()
    {
        cut = true;
        foreach (var c in open.Keys)
            c.Close();
    }

    public void Mend() => cut = false;

    private async Task Accept()
    {
        try
        {
            while (true)
                _ = Carry(await listener.AcceptTcpClientAsync());
        }
        catch (Exception e) when (e is SocketException or ObjectDisposedException)
        {
            // The test is over.
        }
    }

    private async Task Carry(TcpClient near)
    {
        open[near] = 0;
        using var far = new TcpClient();
        try
        {
            if (cut)
                return;
            await far.ConnectAsync(IPAddress.Loopback, target);
            open[far] = 0;
            await Task.WhenAny(near.GetStream().CopyToAsync(far.GetStream()), far.GetStream().CopyToAsync(near.GetStream()));
        }
        catch (Exception e) when (e is IOException or SocketException or ObjectDisposedException or InvalidOperationException)
        {
            // Cut, or closed by one end.
        }
        finally
        {
            open.TryRemove(near, out _);
            open.TryRemove(far, out _);
            near.Close();
        }
    }

    public void Dispose()
    {
        Cut();
        listener.Dispose();
    }
}
