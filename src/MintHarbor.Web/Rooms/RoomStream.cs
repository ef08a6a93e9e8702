using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Sessions;
using MintHarbor.Store;
using NodaTime;

namespace MintHarbor.Web.Rooms;

/// <summary>The room display's stream: the clock's state now, again whenever somebody acts, and every 15 seconds as a sign of
/// life. The display counts between by itself.</summary>
public static class RoomStream
{
    private static readonly TimeSpan Beat = TimeSpan.FromSeconds(15);

    /// <summary>For whoever holds the link, as long as it holds.</summary>
    public static async Task<Results<ServerSentEventsResult<string>, NotFound>> Serve(
        string secret,
        HarborContext db,
        IClock clock,
        HttpContext http
    )
    {
        var meeting = await db.Meetings.AsNoTracking().Include(m => m.Course).SingleOrDefaultAsync(m => m.RoomSecret == secret);
        return meeting is null || meeting.RoomUntil(meeting.Course.Zone) < clock.GetCurrentInstant()
            ? TypedResults.NotFound()
            : Of(meeting.Id, secret, http);
    }

    /// <param name="secret">The link that must go on holding; null for one whose right to the meeting is known already.</param>
    public static ServerSentEventsResult<string> Of(int meetingId, string? secret, HttpContext http)
    {
        var services = http.RequestServices;
        http.Response.Headers.CacheControl = "no-store";
        return TypedResults.ServerSentEvents(
            Events(
                meetingId,
                secret,
                services.GetRequiredService<RoomFeed>(),
                services.GetRequiredService<IClock>(),
                services.GetRequiredService<IHostApplicationLifetime>().ApplicationStopping,
                http.RequestAborted
            )
        );
    }

    private static async IAsyncEnumerable<SseItem<string>> Events(
        int meetingId,
        string? secret,
        RoomFeed feed,
        IClock clock,
        CancellationToken stopping,
        [EnumeratorCancellation] CancellationToken gone
    )
    {
        using var either = CancellationTokenSource.CreateLinkedTokenSource(stopping, gone);
        var (changes, end) = feed.Listen(meetingId);
        using var ending = end;
        while (!either.IsCancellationRequested)
        {
            var seen = await feed.Snapshot(meetingId);
            if (seen is null || (secret is not null && (seen.Secret != secret || seen.Until < clock.GetCurrentInstant())))
                yield break;
            yield return new(
                JsonSerializer.Serialize(RoomState.Of(seen.Evening, seen.Clock, clock.GetCurrentInstant()), JsonSerializerOptions.Web)
            );
            try
            {
                using var beat = CancellationTokenSource.CreateLinkedTokenSource(either.Token);
                beat.CancelAfter(Beat);
                await changes.ReadAsync(beat.Token);
            }
            catch (OperationCanceledException) when (!either.IsCancellationRequested)
            {
                // Time for a sign of life.
            }
            catch (OperationCanceledException)
            {
                yield break;
            }
        }
    }
}

/// <param name="Before">Poses of the set that were held before it was broken into, and the seconds of its first pose that were.</param>
/// <param name="Names">Name of each pose of the line, "Seated on the drum"; one entry where it is no set.</param>
public sealed record RoomItem(
    string Name,
    string What,
    double Seconds,
    bool Rest,
    int Look,
    int Poses,
    double PoseSeconds,
    int Before,
    double PoseInto,
    IReadOnlyList<string> Names,
    IReadOnlyList<string> PoseIds,
    IReadOnlyList<double> Facings
)
{
    public static RoomItem Of(EveningLine line, double minutes)
    {
        var i = line.Item;
        return new(
            line.Name,
            line.OnWall,
            minutes * 60,
            line.IsRest,
            i.Catalogue?.Look ?? 0,
            i.Poses,
            i.PoseMinutes * 60,
            i.Before,
            i.Into * 60,
            [.. line.Poses.Select(p => p.Name)],
            i.PoseIds,
            i.Facings
        );
    }
}

/// <summary>What a display needs to count on its own: the timeline, where it stood at the server's instant, and whether it
/// runs. The server's instant is given so that a display with a wrong clock counts rightly.</summary>
public sealed record RoomState(
    bool Started,
    bool Running,
    bool Over,
    int Index,
    double Into,
    double Late,
    long ServerMillis,
    IReadOnlyList<RoomItem> Items
)
{
    public static RoomState Of(Evening evening, IReadOnlyList<ClockEvent> events, Instant now)
    {
        now = MeetingClock.Stamp(events, now);
        var r = MeetingClock.Read([.. evening.Lines.Select(l => l.Item)], events, now);
        return new(
            r.Started,
            r.Running,
            r.Over,
            r.Index,
            r.SecondsIntoItem,
            r.LateMinutes,
            now.ToUnixTimeMilliseconds(),
            [.. r.Timeline.Select(t => RoomItem.Of(evening.Line(t.Item), t.Minutes))]
        );
    }
}
