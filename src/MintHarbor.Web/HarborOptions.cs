using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Diagnostics.HealthChecks;
using MintHarbor.Store;

namespace MintHarbor.Web;

/// <summary>Settings of the section Harbor.</summary>
public sealed class HarborOptions
{
    /// <summary>Load the invented studio into an empty database and offer its sign-ins.</summary>
    public bool Demo { get; set; }

    /// <summary>Port on loopback where figures for a monitor are shown (/metrics); none when not set.</summary>
    public int? MetricsPort { get; set; }

    /// <summary>Draw a figure and a head beside the start, before anybody asks; a small machine may rather wait until somebody does.</summary>
    public bool WarmUp { get; set; } = true;

    /// <summary>Addresses of proxies on other machines whose word on the visitor's scheme is taken; one on this machine always is.</summary>
    public List<string> Proxies { get; set; } = [];
}

/// <summary>Ready when the database answers.</summary>
public sealed class DatabaseCheck(HarborContext db) : IHealthCheck
{
    public async Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken ct = default) =>
        await db.Database.CanConnectAsync(ct) ? HealthCheckResult.Healthy() : HealthCheckResult.Unhealthy("the database does not answer");
}

/// <summary>The same headers on every answer: nothing runs or loads that did not come with the page.</summary>
public static class Headers
{
    public const string Policy =
        "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";

    public static Task Set(HttpContext context, RequestDelegate next)
    {
        var h = context.Response.Headers;
        h.ContentSecurityPolicy = Policy;
        h.XContentTypeOptions = "nosniff";
        // Own pages say where a form was sent from, so that signing in again brings somebody back to it; nobody else is told anything.
        h["Referrer-Policy"] = "same-origin";
        h["Permissions-Policy"] = "camera=(), microphone=(), geolocation=()";
        return next(context);
    }
}
