using System.Collections.Concurrent;
using System.Globalization;
using System.Threading.Channels;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using MintHarbor.Store.Actions;
using NodaTime;
using Npgsql;

namespace MintHarbor.Web.Rooms;

/// <summary>What the displays of one meeting are told from.</summary>
/// <param name="Secret">The link that holds for the meeting.</param>
/// <param name="Until">When it ends.</param>
public sealed record RoomSnapshot(string Secret, Instant Until, Evening Evening, IReadOnlyList<ClockEvent> Clock);

/// <summary>Carries "this meeting's clock changed" from whichever node took the act to the displays of this one, by
/// PostgreSQL's LISTEN and NOTIFY. A lost connection is taken up again, and every display is told to look.</summary>
public sealed class RoomFeed(IConfiguration configuration, IServiceScopeFactory scopes, IClock clock, ILogger<RoomFeed> log)
    : BackgroundService
{
    /// <summary>A change is told; this only bounds how long a renewed link or a line that missed it could matter.</summary>
    private static readonly Duration Fresh = Duration.FromSeconds(10);

    private readonly ConcurrentDictionary<int, ConcurrentDictionary<Guid, Channel<bool>>> listeners = new();
    private readonly ConcurrentDictionary<int, (Instant At, Lazy<Task<RoomSnapshot?>> Read)> snapshots = new();

    /// <summary>While nobody tells this node of changes, nothing that was read is kept: an act taken as the line fell would
    /// stay unseen.</summary>
    private volatile bool told;

    /// <summary>The meeting's plan and clock as they stand, read once for all displays that ask; null when there is no such meeting.</summary>
    public async Task<RoomSnapshot?> Snapshot(int meetingId)
    {
        var now = clock.GetCurrentInstant();
        var kept = snapshots.AddOrUpdate(
            meetingId,
            _ => (now, new(() => Read(meetingId))),
            (_, old) => told && now - old.At < Fresh ? old : (now, new(() => Read(meetingId)))
        );
        try
        {
            return await kept.Read.Value;
        }
        catch
        {
            // The next one to ask tries again.
            snapshots.TryRemove(KeyValuePair.Create(meetingId, kept));
            throw;
        }
    }

    private async Task<RoomSnapshot?> Read(int meetingId)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<HarborContext>();
        var m = await db.Meetings.AsNoTracking().Include(m => m.Course).SingleOrDefaultAsync(m => m.Id == meetingId);
        return m is null ? null : new(m.RoomSecret, m.RoomUntil(m.Course.Zone), m.Evening, m.Clock);
    }

    public (ChannelReader<bool> Changes, IDisposable End) Listen(int meetingId)
    {
        var id = Guid.NewGuid();
        // One pending signal is enough: a display that looks sees everything since.
        var channel = Channel.CreateBounded<bool>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropOldest });
        listeners.GetOrAdd(meetingId, _ => new()).TryAdd(id, channel);
        Watch.Displays.Inc();
        return (
            channel.Reader,
            new Ending(() =>
            {
                Watch.Displays.Dec();
                if (!listeners.TryGetValue(meetingId, out var group))
                    return;
                group.TryRemove(id, out _);
                if (!group.IsEmpty)
                    return;
                listeners.TryRemove(meetingId, out _);
                snapshots.TryRemove(meetingId, out _);
            })
        );
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
                    if (int.TryParse(n.Payload, CultureInfo.InvariantCulture, out var id))
                        Tell(id);
                };
                await connection.OpenAsync(stop);
                await using (var listen = new NpgsqlCommand($"listen {SessionActions.RoomChannel}", connection))
                    await listen.ExecuteNonQueryAsync(stop);
                told = true;
                snapshots.Clear();
                foreach (var id in listeners.Keys)
                    Tell(id);
                while (!stop.IsCancellationRequested)
                    await connection.WaitAsync(stop);
            }
            catch (OperationCanceledException) when (stop.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (e is NpgsqlException or IOException or TimeoutException)
            {
                told = false;
                snapshots.Clear();
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
        snapshots.TryRemove(meetingId, out _);
        if (!listeners.TryGetValue(meetingId, out var group))
            return;
        foreach (var channel in group.Values)
            channel.Writer.TryWrite(true);
    }

    private sealed class Ending(Action end) : IDisposable
    {
        public void Dispose() => end();
    }
}
