using System.Net;
using System.Net.Sockets;
using System.Security.Claims;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.RateLimiting;
using MintHarbor.Store.Model;

namespace MintHarbor.Web.Access;

/// <summary>How often somebody may be wrong: passwords by address and account together, so that nobody locks another's account from elsewhere,
/// and secret links by address. What is right costs nothing, so that a whole class behind one address signs in at once. Counted by each node.</summary>
public sealed class Throttle : IDisposable
{
    public const int WrongPasswords = 8,
        WrongFromOneAddress = 100,
        WrongLinks = 30;
    public static readonly TimeSpan Window = TimeSpan.FromMinutes(5);

    private readonly PartitionedRateLimiter<(string Address, string Account)> pairs = Limiter<(string, string)>(WrongPasswords);
    private readonly PartitionedRateLimiter<string> addresses = Limiter<string>(WrongFromOneAddress),
        links = Limiter<string>(WrongLinks);

    /// <summary>A display that goes on asking for a link that has ended is no guessing: of one address each wrong link counts once.</summary>
    private readonly PartitionedRateLimiter<(string Address, string Path)> once = Limiter<(string, string)>(1);

    private static PartitionedRateLimiter<T> Limiter<T>(int permits)
        where T : notnull =>
        PartitionedRateLimiter.Create<T, T>(key =>
            RateLimitPartition.GetFixedWindowLimiter(key, _ => new() { PermitLimit = permits, Window = Window })
        );

    /// <param name="person">Null for a mail that nobody has. A new password begins a new count.</param>
    public bool MayTry(HttpContext http, string mail, Person? person) =>
        Free(pairs, (Address(http), Account(mail, person))) && Free(addresses, Address(http));

    public void Wrong(HttpContext http, string mail, Person? person)
    {
        pairs.AttemptAcquire((Address(http), Account(mail, person))).Dispose();
        addresses.AttemptAcquire(Address(http)).Dispose();
    }

    /// <summary>Links whose secret is all that guards them: who tries out secrets is not answered for a while.</summary>
    public static async Task Links(HttpContext http, RequestDelegate next)
    {
        if (!Secret.Any(s => http.Request.Path.StartsWithSegments(s)))
        {
            await next(http);
            return;
        }
        var counted = http.RequestServices.GetRequiredService<Throttle>();
        var address = Address(http);
        if (!Free(counted.links, address))
        {
            http.Response.StatusCode = StatusCodes.Status429TooManyRequests;
            return;
        }
        await next(http);
        using var first =
            http.Response.StatusCode == StatusCodes.Status404NotFound
                ? counted.once.AttemptAcquire((address, http.Request.Path.Value ?? ""))
                : null;
        if (first is { IsAcquired: true })
            counted.links.AttemptAcquire(address).Dispose();
    }

    private static readonly PathString[] Secret = ["/room", "/model", "/sits", "/feed", "/join"];

    private static bool Free<T>(PartitionedRateLimiter<T> limiter, T key)
    {
        using var lease = limiter.AttemptAcquire(key, 0);
        return lease.IsAcquired;
    }

    private static string Account(string mail, Person? person) =>
        person is null ? mail.Trim().ToUpperInvariant() : $"{person.Id} {person.SecurityStamp}";

    /// <summary>Where a request comes from; of IPv6 the network, since one visitor has all of its addresses.</summary>
    public static string Address(HttpContext http)
    {
        var ip = http.Connection.RemoteIpAddress;
        if (ip is { IsIPv4MappedToIPv6: true })
            ip = ip.MapToIPv4();
        return ip is { AddressFamily: AddressFamily.InterNetworkV6 } v6
            ? new IPAddress([.. v6.GetAddressBytes()[..8], .. new byte[8]]).ToString()
            : $"{ip}";
    }

    public void Dispose()
    {
        pairs.Dispose();
        addresses.Dispose();
        links.Dispose();
        once.Dispose();
    }
}

/// <summary>What may be asked only so often, whether right or wrong.</summary>
public static class Limits
{
    public const string Mails = "mails",
        Uploads = "uploads",
        Figures = "figures";

    /// <summary>What a form with a photograph may hold: more than the photograph may, so that one too large is refused by its page, with the words
    /// that came with it, and not by the line.</summary>
    public const long LargestForm = 3 * MintHarbor.Media.Photo.MostBytes;

    public const int MailsAnHour = 10,
        UploadsAMinute = 60;

    public static void Set(RateLimiterOptions o)
    {
        o.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
        o.AddPolicy(Mails, http => OnPost(http, () => Window(Throttle.Address(http), MailsAnHour, TimeSpan.FromHours(1))));
        o.AddPolicy(Uploads, http => OnPost(http, () => Window(Person(http), UploadsAMinute, TimeSpan.FromMinutes(1))));
        // One view at a time is drawn for one person, so that nobody waits behind somebody else's forty.
        o.AddPolicy(Figures, http =>
            RateLimitPartition.GetConcurrencyLimiter(Person(http), _ =>
                new() { PermitLimit = Math.Max(1, Environment.ProcessorCount / 2), QueueLimit = 80 }
            )
        );
    }

    private static RateLimitPartition<string> OnPost(HttpContext http, Func<RateLimitPartition<string>> limited) =>
        HttpMethods.IsPost(http.Request.Method) ? limited() : RateLimitPartition.GetNoLimiter("");

    private static RateLimitPartition<string> Window(string key, int permits, TimeSpan window) =>
        RateLimitPartition.GetFixedWindowLimiter(key, _ => new() { PermitLimit = permits, Window = window });

    private static string Person(HttpContext http) => http.User.FindFirstValue(ClaimTypes.NameIdentifier) ?? Throttle.Address(http);
}
