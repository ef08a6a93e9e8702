using System.Collections.Concurrent;
using System.Globalization;
using System.Threading.Channels;
using MintHarbor.Store.Actions;
using Npgsql;

namespace MintHarbor.Web.Rooms;

/// <summary>Carries "this meeting's clock changed" from whichever node took the act to the displays of this one, by
/// PostgreSQL's LISTEN and NOTIFY. A lost connection is taken up again, and every display is told to look.</summary>
public sealed class RoomFeed(IConfiguration configuration, ILogger<RoomFeed> log) : BackgroundService
{
    private readonly ConcurrentDictionary<int, ConcurrentDictionary<Guid, Channel<bool>>> listeners = new();

    public (ChannelReader<bool> Changes, IDisposable End) Listen(int meetingId)
    {
        var id = Guid.NewGuid();
        // One pending signal is enough: a display that looks sees everything since.
        var channel = Channel.CreateBounded<bool>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropOldest });
        listeners.GetOrAdd(meetingId, _ => new()).TryAdd(id, channel);
        return (channel.Reader, new Ending(() =>
        {
            if (!listeners.TryGetValue(meetingId, out var group)) return;
            group.TryRemove(id, out _);
            if (group.IsEmpty) listeners.TryRemove(meetingId, out _);
        }));
    }

    protected override async Task ExecuteAsync(CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                await using var connection = new NpgsqlConnection(configuration.GetConnectionString("Harbor"));
                connection.Notification += (_, n) =>
                {
                    if (int.TryParse(n.Payload, CultureInfo.InvariantCulture, out var id)) Tell(id);
                };
                await connection.OpenAsync(stop);
                await using (var listen = new NpgsqlCommand($"listen {SessionActions.RoomChannel}", connection)) await listen.ExecuteNonQueryAsync(stop);
                foreach (var id in listeners.Keys) Tell(id);
                while (!stop.IsCancellationRequested) await connection.WaitAsync(stop);
            }
            catch (OperationCanceledException) when (stop.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (e is NpgsqlException or IOException or TimeoutException)
            {
                log.LogWarning("The room feed lost the database: {Message}. Trying again.", e.Message);
                try
                {
                    await Task.Delay(TimeSpan.FromSeconds(1), stop);
                }
                catch (OperationCanceledException)
                {
                    return;
                }
            }
        }
    }

    private void Tell(int meetingId)
    {
        if (!listeners.TryGetValue(meetingId, out var group)) return;
        foreach (var channel in group.Values) channel.Writer.TryWrite(true);
    }

    private sealed class Ending(Action end) : IDisposable
    {
        public void Dispose() => end();
    }
}
