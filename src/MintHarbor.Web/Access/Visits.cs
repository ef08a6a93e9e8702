using System.Globalization;
using System.Security.Claims;
using Microsoft.AspNetCore.Mvc.RazorPages;
using MintHarbor.Store;

namespace MintHarbor.Web.Access;

/// <summary>Tells the store who is here, and when a reader has gone. Streams and pictures are left out: several share one reading.</summary>
public static class Visits
{
    public static async Task Begin(HttpContext http, RequestDelegate next)
    {
        if (http.GetEndpoint()?.Metadata.GetMetadata<PageActionDescriptor>() is not null)
            Visit.Now = new()
            {
                PersonId = int.TryParse(
                    http.User.FindFirstValue(ClaimTypes.NameIdentifier),
                    NumberStyles.None,
                    CultureInfo.InvariantCulture,
                    out var id
                )
                    ? id
                    : null,
                SignIn = Entry.Of(http.User)?.Id,
                Name = http.User.FindFirstValue("full-name") ?? "",
                Gone = HttpMethods.IsGet(http.Request.Method) ? http.RequestAborted : default,
            };
        await next(http);
    }
}
