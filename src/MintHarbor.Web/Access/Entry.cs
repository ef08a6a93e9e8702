using System.Globalization;
using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Caching.Memory;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;

namespace MintHarbor.Web.Access;

/// <summary>In and out. A cookie alone opens nothing: it names a sign-in that the server keeps and can end.</summary>
public sealed class Entry(SignInManager<Person> signIn, SignInActions signedIn, LogActions log, IMemoryCache cache)
{
    private const string Claim = "sign-in";

    /// <summary>For so long a sign-in that held is not asked of the database again; one that another node ended holds here no longer than that.</summary>
    public static readonly TimeSpan Remembered = TimeSpan.FromSeconds(5);

    /// <param name="stays">Outlasts the browser's window.</param>
    public async Task In(Person person, bool stays)
    {
        var id = await signedIn.Begin(person.Id, stays);
        await log.SignedIn(person);
        await signIn.SignInWithClaimsAsync(person, stays, [new(Claim, id.ToString("N", CultureInfo.InvariantCulture))]);
    }

    /// <summary>Ends this browser's sign-in, on the server too.</summary>
    public async Task Out(ClaimsPrincipal user)
    {
        if (Of(user) is var (id, person))
        {
            await signedIn.End(id, person);
            cache.Remove(Key(id));
        }
        await signIn.SignOutAsync();
    }

    /// <summary>Ends every other sign-in of a person: somebody who may have known the old password is out.</summary>
    public async Task OthersOut(Person person, ClaimsPrincipal? but = null)
    {
        var here = but is null ? null : Of(but)?.Id;
        foreach (var row in await signedIn.Of(person.Id))
            if (row.Id != here)
                cache.Remove(Key(row.Id));
        await signedIn.EndOthers(person.Id, here);
    }

    /// <summary>Writes this browser's cookie anew after a name or mail changed.</summary>
    public async Task Renew(Person person, ClaimsPrincipal user)
    {
        if (Of(user) is not var (id, _))
            return;
        var stays = (await signedIn.Of(person.Id)).Any(s => s.Id == id && s.Stays);
        await signIn.SignInWithClaimsAsync(person, stays, [new(Claim, id.ToString("N", CultureInfo.InvariantCulture))]);
    }

    /// <summary>This browser's sign-in and whose it is; null for nobody's.</summary>
    public static (Guid Id, int Person)? Of(ClaimsPrincipal user) =>
        Guid.TryParse(user.FindFirstValue(Claim), out var id)
        && int.TryParse(user.FindFirstValue(ClaimTypes.NameIdentifier), NumberStyles.None, CultureInfo.InvariantCulture, out var person)
            ? (id, person)
            : null;

    /// <summary>With every request that shows a cookie: does its sign-in still hold?</summary>
    public static async Task Check(CookieValidatePrincipalContext context)
    {
        var services = context.HttpContext.RequestServices;
        if (context.Principal is { } user && Of(user) is var (id, person))
        {
            var cache = services.GetRequiredService<IMemoryCache>();
            if (cache.TryGetValue(Key(id), out _))
                return;
            if (await services.GetRequiredService<SignInActions>().Holds(id, person))
            {
                cache.Set(Key(id), true, new MemoryCacheEntryOptions { Size = 1, AbsoluteExpirationRelativeToNow = Remembered });
                return;
            }
        }
        context.RejectPrincipal();
        await context.HttpContext.SignOutAsync(IdentityConstants.ApplicationScheme);
    }

    /// <summary>Asks somebody to sign in, and brings them back to a page: what was posted can't be opened by its address, the page it was
    /// posted from can. A fragment leaves its page whole; a script is told by the status alone.</summary>
    public static Task Ask(RedirectContext<CookieAuthenticationOptions> context)
    {
        var (request, response) = (context.Request, context.Response);
        var back = HttpMethods.IsGet(request.Method) && !request.Headers.ContainsKey("HX-Request") ? PathOf(request) : CameFrom(request);
        var to = $"{context.Options.LoginPath}{QueryString.Create(context.Options.ReturnUrlParameter, back)}";
        if (request.Headers.ContainsKey("X-Queued"))
            response.StatusCode = StatusCodes.Status401Unauthorized;
        else if (request.Headers.ContainsKey("HX-Request"))
        {
            response.StatusCode = StatusCodes.Status401Unauthorized;
            response.Headers["HX-Redirect"] = to;
        }
        else
            response.Redirect(to);
        return Task.CompletedTask;
    }

    private static string PathOf(HttpRequest request) => $"{request.PathBase}{request.Path}{request.QueryString}";

    /// <summary>The page that a form was sent from, as far as it is one of ours; where nothing says it, the page that the form's address
    /// belongs to.</summary>
    private static string CameFrom(HttpRequest request)
    {
        foreach (var header in new[] { "HX-Current-URL", "Referer" })
            if (Uri.TryCreate(request.Headers[header].ToString(), UriKind.Absolute, out var page) && page.Authority == request.Host.Value)
                return page.PathAndQuery;
        return PageOf(request);
    }

    /// <summary>The page that a form's address belongs to.</summary>
    public static string PageOf(HttpRequest request)
    {
        var path = $"{request.PathBase}{request.Path}";
        return request.RouteValues.TryGetValue("handler", out var handler) && handler is string name
            ? path[..path.LastIndexOf($"/{name}", StringComparison.OrdinalIgnoreCase)]
            : path;
    }

    private static (Type, Guid) Key(Guid id) => (typeof(Entry), id);
}
