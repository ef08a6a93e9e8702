using System.Diagnostics;
using Microsoft.AspNetCore.Routing;
using Prometheus;

namespace MintHarbor.Web;

/// <summary>What the server counts of itself.</summary>
public static class Watch
{
    public static readonly Counter Uploads = Metrics.CreateCounter("harbor_uploads_total", "Photographs taken in");
    public static readonly Counter Acts = Metrics.CreateCounter("harbor_clock_acts_total", "Acts on a room's clock");
    public static readonly Gauge Displays = Metrics.CreateGauge("harbor_displays", "Displays that listen");
}

/// <summary>One line a request: what kind of page, how it ended, how long it took. No address, no id, no name, nothing typed.</summary>
public sealed partial class RequestLog(RequestDelegate next, ILogger<RequestLog> log)
{
    public async Task Invoke(HttpContext http)
    {
        if (!log.IsEnabled(LogLevel.Information))
        {
            await next(http);
            return;
        }
        var from = Stopwatch.GetTimestamp();
        try
        {
            await next(http);
        }
        finally
        {
            // The pattern, not the path: a path names courses, people and links that are secret.
            var page = (http.GetEndpoint() as RouteEndpoint)?.RoutePattern.RawText ?? "none";
            Served(http.Request.Method, page, http.Response.StatusCode, Math.Round(Stopwatch.GetElapsedTime(from).TotalMilliseconds, 1));
        }
    }

    [LoggerMessage(Level = LogLevel.Information, Message = "{Method} {Page} {Status} {Milliseconds} ms")]
    private partial void Served(string method, string page, int status, double milliseconds);
}
